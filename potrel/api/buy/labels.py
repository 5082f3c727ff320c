"""Routes of labels: that somebody read them, of the articles that are bought now."""

from __future__ import annotations

from fastapi import APIRouter
from starlette.responses import Response

from potrel.api.answers import reply
from potrel.api.dependencies import Actor, InKitchen
from potrel.api.problems import described
from potrel.core.rooms.labels import Label
from potrel.doing import items as doing
from potrel.doing.items import LabelsRead

router = APIRouter(prefix="/api", tags=["items"])


@router.post("/labels", response_model=list[Label], responses=described(400, 404, 422))
def read_labels(said: LabelsRead, kitchens: InKitchen, actor: Actor) -> Response:
    """Somebody read the labels of some items, all or none of them; what they name was noted before. Or takes that back."""
    return reply(list[Label], doing.read_labels(kitchens, said, actor))
