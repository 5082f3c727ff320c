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
from potrel.core.cost.costing import Costing
from potrel.core.cost.effects import with_prices
from potrel.core.errors import BadDocument
from potrel.core.kitchen.integrity import check_measures, check_recipe, known_units
from potrel.core.kitchen.keyed import Keyed
from potrel.core.kitchen.kinds import Id, Name, Note
from potrel.core.kitchen.methods import check_methods
from potrel.core.kitchen.recipes import Recipe
from potrel.core.rooms.target_alerts import pushed_past
from potrel.core.sentences import say
from potrel.core.tell.cost_sheet import sheet_of
from potrel.core.tell.sheet_parts import CostSheet
from potrel.core.words.paste import AskedGoods, Goods, LineAnswer, Pasted, PastedLine, understand_paste
from potrel.formats.recipe_page import BadRecipeFile, ForeignRecipe
from potrel.store.changes import read_version
from potrel.store.items import insert_items, update_item
from potrel.store.offers import insert_offers
from potrel.store.pushed import mark_pushed
from potrel.store.recipes import insert_recipes, revision_of
from potrel.store.suppliers import insert_suppliers

router = APIRouter(prefix="/api", tags=["recipes"])
_MOST_ROWS = 400
# A page of the largest size takes less than a second.
_PAGES = Job(
    "potrel.formats.recipe_page:read_page",
    BadRecipeFile,
    say("page_died", "the page could not be read: it is broken, or made to be. Copy the recipe's text, and paste that"),
    patience=15.0,
    most_memory=2**30,
)


@dataclass(frozen=True, slots=True)
class Paste(Keyed):
    """The rows of a text, what the pot is called, and what was answered so far."""

    rows: list[Note]
    name: Name | None = None
    answers: tuple[LineAnswer, ...] = ()
    goods: tuple[Goods, ...] = ()


@dataclass(frozen=True, slots=True)
class PasteReply:
    """The pot that comes of a text, its lines, what is asked of its goods, and what it costs so far."""

    recipe: Recipe
    lines: list[PastedLine]
    goods: list[AskedGoods]
    open: int
    sheet: CostSheet


@dataclass(frozen=True, slots=True)
class PasteSaved:
    """The pot that was saved, and how many items and prices with it."""

    recipe: Id
    revision: int
    items: int
    prices: int


@dataclass(frozen=True, slots=True)
class ReadPage:
    """The recipes that a file or a saved page holds, each as a text that can be pasted, and what has no place in it."""

    recipes: list[ForeignRecipe]


def _understood(paste: Paste, costing: Costing) -> tuple[Pasted, Costing]:
    if len(paste.rows) > _MOST_ROWS:
        raise BadDocument("rows", say("paste_too_long", "a recipe has at most {most} rows: paste one recipe", most=_MOST_ROWS))
    return understand_paste("\n".join(paste.rows), paste.name, paste.answers, paste.goods, costing)


@router.post("/recipe-page", response_model=ReadPage, responses=described(422), openapi_extra=FILE)
def read_page(data: FileBody) -> Response:
    """The recipes of a JSON-LD file or a saved web page, as texts; read in a process apart. Nothing is saved."""
    return reply(ReadPage, ReadPage(shared(_PAGES).one(data)))


@router.post("/pasted-recipe", response_model=PasteReply, responses=described(400, 422))
def read_paste(paste: Paste, kitchens: InKitchen) -> Response:
    """What a pasted text comes to, with the answers so far. Nothing is saved."""
    pasted, after = _understood(paste, kitchens.costing())
    found = PasteReply(pasted.recipe, pasted.lines, pasted.goods, pasted.open, sheet_of(after, pasted.recipe.id))
    return reply(PasteReply, found)


@router.post("/pasted-recipe/save", response_model=PasteSaved, status_code=201, responses=described(400, 409, 422))
def save_paste(paste: Paste, kitchens: InKitchen, actor: Actor) -> Response:
    """Save the pot and all that comes with it, or nothing: new items, weights, suppliers, prices."""
    with kitchens.database.writing(actor) as connection:
        before = kitchens.seen_by(connection)
        pasted, _ = _understood(paste, before.costing)
        _refuse_open(pasted)
        for item in (*pasted.items, *pasted.changed):
            check_measures(item)
        insert_suppliers(connection, pasted.suppliers)
        insert_items(connection, pasted.items)
        for item in pasted.changed:
            update_item(connection, item)
        recorded = insert_offers(connection, pasted.offers, actor)
        after = before.costing.with_items([*pasted.items, *pasted.changed])
        after, effects = with_prices(after, recorded)
        check_methods(pasted.recipe)
        view = after.view
        check_recipe(pasted.recipe, view.items, {**view.recipes, pasted.recipe.id: pasted.recipe}, view.vessels,
                     known_units(view.items.values()), view.channels)  # fmt: skip
        after = after.replacing(pasted.recipe)
        insert_recipes(connection, [pasted.recipe], actor)
        causes = [one.id or "" for one in recorded]
        mark_pushed(connection, pushed_past(effects), f"prices with {pasted.recipe.name}", causes)
        revision, version = revision_of(connection, pasted.recipe.id), read_version(connection)
    # A new supplier is no part of what a costing can take over: the kitchen is read anew then.
    if not pasted.suppliers:
        kitchens.adopt(before, version, after)
    return reply(PasteSaved, PasteSaved(pasted.recipe.id, revision, len(pasted.items), len(recorded)), 201)


def _refuse_open(pasted: Pasted) -> None:
    """BadDocument where a line waits for an answer, or a price cannot be read: nothing is saved by halves."""
    for line in pasted.lines:
        if line.is_open:
            english = 'answer "{line}" first, or leave it out: {problem}'
            raise BadDocument("", say("line_open", english, line=line.text[:80], problem=line.typed.problem or ""))
    for goods in pasted.goods:
        if goods.problem is not None:
            raise BadDocument("", say("goods_wrong", "{item}: {problem}", item=goods.name, problem=goods.problem))
    if not any(stage.lines for stage in pasted.recipe.stages):
        raise BadDocument("rows", say("no_line_pasted", "no line of a recipe is in it yet"))
