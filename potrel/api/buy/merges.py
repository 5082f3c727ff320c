"""Routes that put away an item, or merge two that are one; each can be taken back."""

from __future__ import annotations

from dataclasses import dataclass

from fastapi import APIRouter
from starlette.responses import Response

from potrel.api.answers import reply
from potrel.api.dependencies import Actor, InKitchen
from potrel.api.kitchen.replies import Effects
from potrel.api.problems import described
from potrel.core.kitchen.keyed import Keyed
from potrel.core.kitchen.kinds import Id
from potrel.doing import merges as doing
from potrel.doing.merges import Merged, after_merge, asked_merge

router = APIRouter(prefix="/api", tags=["items"])


@dataclass(frozen=True, slots=True)
class MergeInto(Keyed):
    """The item that another is merged into."""

    into: Id


@router.post("/items/{item_id}/merge/preview", response_model=Effects, responses=described(400, 404, 409, 422))
def preview_merge(item_id: str, ask: MergeInto, kitchens: InKitchen) -> Response:
    """What it would do to every portion to merge an item into another."""
    before = kitchens.costing()
    _, effects = after_merge(before, asked_merge(before, item_id, ask.into))
    return reply(Effects, Effects(None, None, effects))


@router.post("/items/{item_id}/merge", response_model=Merged, responses=described(400, 404, 409, 422))
def merge(item_id: str, ask: MergeInto, kitchens: InKitchen, actor: Actor) -> Response:
    """Merge an item into another, which takes its place in all recipes; the item is put away."""
    return reply(Merged, doing.merge(kitchens, item_id, ask.into, actor))


@router.post("/items/unmerge", status_code=204, responses=described(400, 404, 409, 422))
def unmerge(done: Merged, kitchens: InKitchen, actor: Actor) -> Response:
    """Take a merge back; refused where somebody changed a recipe or the item that stayed since."""
    doing.unmerge(kitchens, done, actor)
    return Response(status_code=204)
