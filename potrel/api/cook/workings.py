"""The route of workings: how any figure came about, down to the delivery, the test or the book."""

from __future__ import annotations

from dataclasses import replace

from fastapi import APIRouter
from starlette.responses import Response

from potrel.api.answers import reply
from potrel.api.cook.replies import AskWorking
from potrel.api.dependencies import InKitchen
from potrel.api.problems import described
from potrel.core.cost.confidence import YieldSort
from potrel.core.kitchen.items import Entry
from potrel.core.tell.explanations import explain
from potrel.core.tell.figures import Figure
from potrel.store.database import Database
from potrel.store.errors import NotFound
from potrel.store.offers import lists_of_offers
from potrel.store.yields import adopted

router = APIRouter(prefix="/api", tags=["workings"])
# Figures of no recipe.
_BESIDE = ("item/", "test/", "yield/", "usable/")


@router.post("/working", response_model=Figure, responses=described(400, 404, 422))
def working(ask: AskWorking, kitchens: InKitchen) -> Response:
    """How a figure came about."""
    costing = kitchens.costing()
    if ask.draft is not None:
        costing = costing.replacing(ask.draft)
    recipe_id = ask.recipe or ""
    if recipe_id not in costing.view.recipes and not ask.figure.startswith(_BESIDE):
        raise NotFound("recipe", recipe_id)

    def earlier(item_id: str, sort: YieldSort, of: str) -> list[Entry]:
        with kitchens.database.reading() as connection:
            return [one.entry for one in adopted(connection, item_id, sort, of)]

    return reply(Figure, _with_lists(explain(costing, recipe_id, ask.figure, earlier), kitchens.database))


def _with_lists(figure: Figure, database: Database) -> Figure:
    """A figure whose prices lead to the supplier's list that they were read from."""
    offers = {one.offer for one in figure.inputs if one.offer is not None}
    if not offers:
        return figure
    with database.reading() as connection:
        lists = lists_of_offers(connection, offers)
    return replace(figure, inputs=[replace(one, list=lists.get(one.offer or "")) for one in figure.inputs])
