"""Routes of the board: the servings on sale, their allergens, and those that a change took past their target."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from fastapi import APIRouter, Path, Request
from starlette.responses import Response

from potrel.api.answers import reply
from potrel.api.dependencies import Actor, InKitchen
from potrel.api.problems import described
from potrel.core.errors import BadDocument
from potrel.core.kitchen.keyed import Keyed
from potrel.core.kitchen.kinds import At, Id
from potrel.core.rooms.allergens import AllergenMatrix, allergen_matrix
from potrel.core.rooms.board import Board
from potrel.core.sentences import say
from potrel.doing.kitchens import SureServing
from potrel.doing.otherwise import note_what_costs_otherwise, saw_what_costs_otherwise
from potrel.doing.pots import look_at
from potrel.store.otherwise import CostOtherwise, otherwise
from potrel.store.pushed import pushed

router = APIRouter(prefix="/api", tags=["board"])
_A_SCREEN = 60


@dataclass(frozen=True, slots=True)
class Pushed:
    """A serving that a change took past its target, and nobody has looked since."""

    recipe: Id
    serving: Id
    why: str
    at: At


@dataclass(frozen=True, slots=True)
class AskSure(Keyed):
    """Some recipes of the board, a screen of them at most."""

    recipes: tuple[Id, ...]

    def __post_init__(self) -> None:
        if len(self.recipes) > _A_SCREEN:
            english = "how sure pots are is told of {most} at a time, not of {asked}"
            raise BadDocument("recipes", say("too_many_at_once", english, most=_A_SCREEN, asked=len(self.recipes)))


@router.get("/board", response_model=Board, responses=described())
def board(kitchens: InKitchen, request: Request) -> Response:
    """Every serving on sale, with its cost today."""
    if "gzip" not in request.headers.get("Accept-Encoding", ""):
        return Response(kitchens.board(), media_type="application/json")
    headers = {"Content-Encoding": "gzip", "Vary": "Accept-Encoding"}
    return Response(kitchens.packed_board(), media_type="application/json", headers=headers)


@router.post("/board/uncertainty", response_model=list[SureServing], responses=described(400, 422))
def board_uncertainty(ask: AskSure, kitchens: InKitchen) -> Response:
    """How far some pots of the board may be off. One that is on no board any more is left out, as one that is incomplete."""
    kept = kitchens.current()
    there = [one for one in ask.recipes if one in kept.costing.view.recipes]
    rows = [row for recipe in there for row in kept.bands(recipe)]
    return reply(list[SureServing], rows)


@router.get("/allergens", response_model=AllergenMatrix, responses=described())
def allergens(kitchens: InKitchen) -> Response:
    """The soups on sale by allergen. An aid, not clearance."""
    return reply(AllergenMatrix, allergen_matrix(kitchens.costing()))


@router.get("/pushed-past", response_model=list[Pushed], responses=described())
def pushed_past(kitchens: InKitchen) -> Response:
    """The servings that are marked, and what took them past their target."""
    with kitchens.database.reading() as connection:
        return reply(list[Pushed], [Pushed(*row) for row in pushed(connection)])


@router.delete("/pushed-past/{recipe_id}", status_code=204, responses=described())
def looked(recipe_id: str, kitchens: InKitchen, actor: Actor) -> Response:
    """Somebody has looked at a recipe."""
    look_at(kitchens, recipe_id, actor)
    return Response(status_code=204)


@router.get("/cost-otherwise", response_model=list[CostOtherwise], responses=described(422))
def cost_otherwise(kitchens: InKitchen, seen: bool = False) -> Response:
    """The servings that a new version of Potrel reckons otherwise, and why: what nobody has seen yet, or (`seen`) all of it."""
    note_what_costs_otherwise(kitchens)
    with kitchens.database.reading() as connection:
        return reply(list[CostOtherwise], otherwise(connection, unseen=not seen))


@router.delete("/cost-otherwise/{number}", status_code=204, responses=described(422))
def cost_otherwise_seen(number: Annotated[int, Path(ge=1, le=2**62)], kitchens: InKitchen, actor: Actor) -> Response:
    """Somebody has seen what a new version reckons otherwise, up to a number. The record stays."""
    saw_what_costs_otherwise(kitchens, number, actor)
    return Response(status_code=204)
