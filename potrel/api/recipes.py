"""Routes of the Cook room: recipes, drafts costed as they are typed, workings, typed lines."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Depends, Query, Request
from starlette.responses import Response

from potrel.api.effects import compare
from potrel.api.kitchens import Kitchens
from potrel.api.problems import described
from potrel.api.replies import (
    AskLine,
    AskWorking,
    Draft,
    Named,
    NewRecipe,
    PreparationName,
    PreviewReply,
    RecipeReply,
    RecipeSummary,
    RevisionReply,
    Saved,
    SaveRecipe,
    reply,
)
from potrel.core.costing import Costing, YieldSort
from potrel.core.drift import Drift, PriceMoves, drift_of
from potrel.core.errors import BadDocument, UnknownFigure
from potrel.core.explain import explain
from potrel.core.kitchen import Recipe
from potrel.core.purchase import known_units
from potrel.core.sheet import sheet_of
from potrel.core.sureness import Sure
from potrel.core.typed_line import TypedLine, read_line
from potrel.core.working import Working
from potrel.core.working_usable import explain_usable
from potrel.core.working_yield import explain_yield
from potrel.core.yield_book import Entry
from potrel.formats.kitchen_json import check_recipe
from potrel.store.errors import NotFound
from potrel.store.recipes import insert_recipes, revision_of, revisions_of, save_recipe, take_off_recipe
from potrel.store.yields import adopted

router = APIRouter(prefix="/api", tags=["recipes"])


def kitchens_of(request: Request) -> Kitchens:
    """The kitchens of the running application."""
    found: Kitchens = request.app.state.kitchens
    return found


InKitchen = Annotated[Kitchens, Depends(kitchens_of)]


@router.get("/recipes", response_model=list[RecipeSummary], responses=described())
def recipes(kitchens: InKitchen) -> Response:
    """All recipes, for the list of the Cook room."""
    costing = kitchens.costing()
    used_by: dict[str, list[str]] = {}
    for recipe in costing.facts.kitchen.recipes:
        for part in recipe.uses():
            used_by.setdefault(part, []).append(recipe.name)
    rows = [_summary(costing, recipe, sorted(used_by.get(recipe.id, []))) for recipe in costing.facts.kitchen.recipes]
    return reply(list[RecipeSummary], sorted(rows, key=lambda row: row.name.casefold()))


def _summary(costing: Costing, recipe: Recipe, used_by: list[str]) -> RecipeSummary:
    per_gram = costing.cost_per_gram(recipe.id)
    per_l = None if per_gram is None else per_gram * 1000 * recipe.density * (1 + costing.allowance(recipe))
    volume = costing.balance(recipe.id).mass / recipe.density
    complete = not costing.problems(recipe.id)
    return RecipeSummary(recipe.id, recipe.name, len(recipe.servings), used_by, complete, per_l, volume)


@router.get("/names", response_model=list[Named], responses=described())
def names(kitchens: InKitchen) -> Response:
    """Every item and recipe by name, with the units and preparations known of it: what the picker offers."""
    kitchen = kitchens.costing().facts.kitchen
    rows = [
        Named(
            item.id,
            item.name,
            False,
            item.kind,
            list(item.measures),
            [PreparationName(p.id, p.name) for p in item.preparations],
        )
        for item in kitchen.items
    ]
    rows += [Named(recipe.id, recipe.name, True, "recipe", [], []) for recipe in kitchen.recipes]
    return reply(list[Named], rows)


@router.get("/recipes/{recipe_id}", response_model=RecipeReply, responses=described(404))
def recipe(recipe_id: str, kitchens: InKitchen) -> Response:
    """A recipe with its cost sheet of today."""
    with kitchens.database.reading() as connection:
        revision = revision_of(connection, recipe_id)
    costing = kitchens.costing()
    if recipe_id not in costing.facts.recipes:
        raise NotFound("recipe", recipe_id)
    used_by = sorted(r.name for r in costing.facts.kitchen.recipes if recipe_id in costing.facts.uses(r.id))
    found = costing.facts.recipes[recipe_id]
    sheet, sure = sheet_of(costing, recipe_id), Sure(costing).of(recipe_id)
    return reply(RecipeReply, RecipeReply(found, revision, sheet, sure, _drifts(costing, recipe_id), used_by))


def _drifts(costing: Costing, recipe_id: str) -> dict[str, Drift]:
    moves = PriceMoves(costing)
    found = {p.serving.id: drift_of(costing, recipe_id, p, moves) for p in costing.portions(recipe_id)}
    return {serving: drift for serving, drift in found.items() if drift is not None}


@router.post("/preview", response_model=PreviewReply, responses=described(400, 422))
def preview(draft: Draft, kitchens: InKitchen) -> Response:
    """The cost sheet of a draft, and what saving it would do to the recipes that use it."""
    saved = kitchens.costing()
    recipe_id = draft.recipe.id
    costing = saved.replacing(draft.recipe)
    users = saved.users_of(recipe_id)
    effects = compare(saved, costing, sorted(users)) if users and saved.facts.recipes.get(recipe_id) != draft.recipe else []
    sheet, sure = sheet_of(costing, recipe_id), Sure(costing).of(recipe_id)
    return reply(PreviewReply, PreviewReply(sheet, sure, _drifts(costing, recipe_id), effects))


@router.post("/working", response_model=Working, responses=described(400, 404, 422))
def working(ask: AskWorking, kitchens: InKitchen) -> Response:
    """How a figure came about."""
    costing = kitchens.costing()
    if ask.draft is not None:
        costing = costing.replacing(ask.draft)
    if ask.figure.startswith(("test/", "yield/", "usable/")):
        return reply(Working, _working_beside(kitchens, costing, ask.figure))
    recipe_id = ask.recipe or ""
    if recipe_id not in costing.facts.recipes and not ask.figure.startswith("item/"):
        raise NotFound("recipe", recipe_id)
    return reply(Working, explain(costing, recipe_id, ask.figure))


def _working_beside(kitchens: Kitchens, costing: Costing, figure: str) -> Working:
    """The working of a figure of no recipe: a test's, a yield's, or that of a form beside others."""

    def earlier(item_id: str, sort: YieldSort, of: str) -> list[Entry]:
        with kitchens.database.reading() as connection:
            return [one.entry for one in adopted(connection, item_id, sort, of)]

    found = explain_usable(costing, figure) or explain_yield(costing, figure, earlier)
    if found is None:
        raise UnknownFigure(figure)
    return found


@router.post("/typed-line", response_model=TypedLine, responses=described(400, 422))
def typed_line(ask: AskLine, kitchens: InKitchen) -> Response:
    """What a typed line means."""
    return reply(TypedLine, read_line(ask.text[:300], kitchens.costing().facts))


@router.post("/recipes", response_model=Saved, status_code=201, responses=described(400, 409, 422))
def add_recipe(new: NewRecipe, kitchens: InKitchen) -> Response:
    """Add a recipe."""
    _check(kitchens.costing(), new.recipe)
    with kitchens.database.writing() as connection:
        insert_recipes(connection, [new.recipe], new.by)
        revision = revision_of(connection, new.recipe.id)
    kitchens.saved(new.recipe)
    return reply(Saved, Saved(revision), 201)


@router.put("/recipes/{recipe_id}", response_model=Saved, responses=described(400, 404, 409, 422))
def put_recipe(recipe_id: str, save: SaveRecipe, kitchens: InKitchen) -> Response:
    """Save a recipe over the revision it started from; a stale one is refused with both versions."""
    if save.recipe.id != recipe_id:
        raise BadDocument("recipe.id", f'a recipe keeps its id: "{recipe_id}" cannot become "{save.recipe.id}"')
    _check(kitchens.costing(), save.recipe)
    with kitchens.database.writing() as connection:
        revision = save_recipe(connection, save.recipe, save.based_on, save.by)
    kitchens.saved(save.recipe)
    return reply(Saved, Saved(revision))


def _check(costing: Costing, draft: Recipe) -> None:
    facts = costing.facts
    recipes = {**facts.recipes, draft.id: draft}
    check_recipe(draft, facts.items, recipes, facts.kitchen, known_units(facts.kitchen.items))
    costing.replacing(draft)


@router.delete("/recipes/{recipe_id}", status_code=204, responses=described(404, 409))
def delete_recipe(
    recipe_id: str, kitchens: InKitchen, based_on: Annotated[int, Query(ge=1)], by: str = "the kitchen"
) -> Response:
    """Take a recipe off; its revisions stay, so that it can be added again as it was."""
    with kitchens.database.writing() as connection:
        take_off_recipe(connection, recipe_id, based_on, by[:200] or "the kitchen")
    return Response(status_code=204)


@router.get("/recipes/{recipe_id}/revisions", response_model=list[RevisionReply], responses=described(404))
def revisions(recipe_id: str, kitchens: InKitchen) -> Response:
    """All revisions of a recipe, the newest first."""
    with kitchens.database.reading() as connection:
        found = revisions_of(connection, recipe_id)
    if not found:
        raise NotFound("recipe", recipe_id)
    rows = [RevisionReply(r.revision, r.saved_at, r.saved_by, r.recipe) for r in found]
    return reply(list[RevisionReply], rows)
