"""Routes of servings that a change took past their target: marked on the board until somebody has looked."""

from __future__ import annotations

from fastapi import APIRouter
from starlette.responses import Response

from potrel.api.list_replies import Pushed
from potrel.api.problems import described
from potrel.api.recipes import InKitchen
from potrel.api.replies import reply
from potrel.store.pushed import looked_at, pushed

router = APIRouter(prefix="/api", tags=["board"])


@router.get("/pushed-past", response_model=list[Pushed], responses=described())
def pushed_past(kitchens: InKitchen) -> Response:
    """The servings that are marked, and what took them past their target."""
    with kitchens.database.reading() as connection:
        return reply(list[Pushed], [Pushed(*row) for row in pushed(connection)])


@router.delete("/pushed-past/{recipe_id}", status_code=204, responses=described())
def looked(recipe_id: str, kitchens: InKitchen) -> Response:
    """Somebody has looked at a recipe."""
    with kitchens.database.writing(counts=False) as connection:
        looked_at(connection, recipe_id)
    return Response(status_code=204)
