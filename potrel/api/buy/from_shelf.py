"""Fill what items hold from the shelf: what the kitchen says itself stays."""

from __future__ import annotations

from dataclasses import dataclass

from fastapi import APIRouter
from starlette.responses import Response

from potrel.api.answers import reply
from potrel.api.dependencies import Actor, InKitchen
from potrel.api.problems import described
from potrel.core.kitchen.keyed import Keyed
from potrel.core.kitchen.kinds import Id
from potrel.doing.items import FilledItem, fill_from_shelf

router = APIRouter(prefix="/api", tags=["items"])


@dataclass(frozen=True, slots=True)
class AskFilled(Keyed):
    """Items that may be filled, by their ids."""

    items: tuple[Id, ...]


@router.post("/filled-from-shelf", response_model=list[FilledItem], responses=described(400, 422))
def fill_items(ask: AskFilled, kitchens: InKitchen, actor: Actor) -> Response:
    """Fill some items with what the shelf knows of what they hold and come from; those of which it knows nothing more stay."""
    return reply(list[FilledItem], fill_from_shelf(kitchens, ask.items, actor))
