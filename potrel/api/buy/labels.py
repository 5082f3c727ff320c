"""Routes of labels: that somebody read them, of the articles that are bought now."""

from __future__ import annotations

from fastapi import APIRouter
from starlette.responses import Response

from potrel.api.answers import reply
from potrel.api.buy.replies import LabelsRead
from potrel.api.dependencies import Actor, InKitchen
from potrel.api.problems import described
from potrel.core.rooms.labels import Label, checked_now, label_of, unread
from potrel.store.changes import read_version
from potrel.store.errors import NotFound
from potrel.store.items import load_items, update_item

router = APIRouter(prefix="/api", tags=["items"])


@router.post("/labels", response_model=list[Label], responses=described(400, 404, 422))
def read_labels(said: LabelsRead, kitchens: InKitchen, actor: Actor) -> Response:
    """Somebody read the labels of some items, all or none of them; what they name was noted before. Or takes that back."""
    wanted = list(dict.fromkeys(said.items))
    with kitchens.database.writing(actor) as connection:
        before = kitchens.seen_by(connection)
        found = load_items(connection, wanted)
        for missing in set(wanted) - {item.id for item in found}:
            raise NotFound("item", missing)
        view = before.costing.view
        changed = [checked_now(item, view, said.by) if said.read else unread(item) for item in found]
        for item in changed:
            update_item(connection, item)
        after, version = before.costing.with_items(changed), read_version(connection)
    kitchens.adopt(before, version, after)
    return reply(list[Label], [label_of(item, after.view) for item in changed])
