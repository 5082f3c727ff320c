"""Routes of recipes from paper: what a pasted text comes to, and saving all that comes of it together."""

from __future__ import annotations

from dataclasses import dataclass

from fastapi import APIRouter
from starlette.responses import Response

from potrel.apart.workers import Job, shared
from potrel.api.answers import reply
from potrel.api.buy.lists import FILE, FileBody
from potrel.api.dependencies import Actor, InKitchen
from potrel.api.problems import described
from potrel.core.kitchen.recipes import Recipe
from potrel.core.sentences import say
from potrel.core.tell.cost_sheet import sheet_of
from potrel.core.tell.sheet_parts import CostSheet
from potrel.core.words.pasted import AskedGoods, AskedPortion, PastedLine
from potrel.doing import paper
from potrel.doing.paper import Paste, PasteSaved, understood_paste
from potrel.formats.recipe_page import BadRecipeFile, ForeignRecipe

router = APIRouter(prefix="/api", tags=["recipes"])
# A page of the largest size takes less than a second.
_PAGES = Job(
    "potrel.formats.recipe_page:read_page",
    BadRecipeFile,
    say("page_died", "the page could not be read: it is broken, or made to be. Copy the recipe's text, and paste that"),
    patience=15.0,
    most_memory=2**30,
)


@dataclass(frozen=True, slots=True)
class PasteReply:
    """The pot that comes of a text, its lines, what is asked of its goods, and what it costs so far."""

    recipe: Recipe
    lines: list[PastedLine]
    portion: AskedPortion | None
    goods: list[AskedGoods]
    open: int
    sheet: CostSheet


@dataclass(frozen=True, slots=True)
class ReadPage:
    """The recipes that a file or a saved page holds, each as a text that can be pasted, and what has no place in it."""

    recipes: list[ForeignRecipe]


@router.post("/recipe-page", response_model=ReadPage, responses=described(422), openapi_extra=FILE)
def read_page(data: FileBody) -> Response:
    """The recipes of a JSON-LD file or a saved web page, as texts; read in a process apart. Nothing is saved."""
    return reply(ReadPage, ReadPage(shared(_PAGES).one(data)))


@router.post("/pasted-recipe", response_model=PasteReply, responses=described(400, 422))
def read_paste(paste: Paste, kitchens: InKitchen) -> Response:
    """What a pasted text comes to, with the answers so far. Nothing is saved."""
    pasted, after = understood_paste(paste, kitchens.costing())
    found = PasteReply(
        pasted.recipe, pasted.lines, pasted.portion, pasted.goods, pasted.open, sheet_of(after, pasted.recipe.id)
    )
    return reply(PasteReply, found)


@router.post("/pasted-recipe/save", response_model=PasteSaved, status_code=201, responses=described(400, 409, 422))
def save_paste(paste: Paste, kitchens: InKitchen, actor: Actor) -> Response:
    """Save the pot and all that comes with it, or nothing: new items, weights, suppliers, prices."""
    return reply(PasteSaved, paper.save_paste(kitchens, paste, actor), 201)


@router.post("/bases/{base_id}", response_model=PasteSaved, status_code=201, responses=described(400, 409, 422))
def make_base(base_id: str, kitchens: InKitchen, actor: Actor) -> Response:
    """Make a stock, as it is usually made, a base of the kitchen, with all that it takes; its prices are asked in its pot."""
    return reply(PasteSaved, paper.make_base(kitchens, base_id, actor), 201)
