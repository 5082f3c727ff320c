"""Fill what items hold from the shelf: what the kitchen says itself stays."""

from __future__ import annotations

from dataclasses import dataclass

from fastapi import APIRouter
from starlette.responses import Response

from potrel.api.answers import reply
from potrel.api.dependencies import Actor, InKitchen
from potrel.api.problems import described
from potrel.core.kitchen.items import Item
from potrel.core.kitchen.keyed import Keyed
from potrel.core.kitchen.kinds import Id
from potrel.core.trim.shelf import filled
from potrel.store.changes import read_version
from potrel.store.items import load_items, update_item

router = APIRouter(prefix="/api", tags=["items"])


@dataclass(frozen=True, slots=True)
class AskFilled(Keyed):
    """Items that may be filled, by their ids."""

    items: tuple[Id, ...]


@dataclass(frozen=True, slots=True)
class FilledItem:
    """An item as it was, and as it is now."""

    was: Item
    item: Item


@router.post("/filled-from-shelf", response_model=list[FilledItem], responses=described(400, 422))
def fill_items(ask: AskFilled, kitchens: InKitchen, actor: Actor) -> Response:
    """Fill some items with what the shelf knows of what they hold and come from; those of which it knows nothing more stay."""
    with kitchens.database.writing(actor) as connection:
        before = kitchens.seen_by(connection)
        changed = [FilledItem(one, filled(one)) for one in load_items(connection, ask.items)]
        changed = [one for one in changed if one.item != one.was]
        for one in changed:
            update_item(connection, one.item)
        after, version = before.costing.with_items([one.item for one in changed]), read_version(connection)
    kitchens.adopt(before, version, after)
    return reply(list[FilledItem], changed)
