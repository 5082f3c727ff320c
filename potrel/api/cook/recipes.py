"""Routes of the Cook room: recipes, drafts costed as they are typed, typed lines."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from fastapi import APIRouter, Query
from starlette.responses import Response

from potrel.api.answers import reply
from potrel.api.cook.replies import (
    AskLine,
    Draft,
    Named,
    NewRecipe,
    PortionSummary,
    PreparationName,
    PreviewReply,
    RecipeReply,
    RecipeSummary,
    RevisionReply,
    Saved,
    SaveRecipe,
    TakenOff,
)
from potrel.api.dependencies import Actor, InKitchen
from potrel.api.problems import described
from potrel.core.cost.costed_recipe import CostedRecipe
from potrel.core.cost.costing import Costing
from potrel.core.cost.drift import drifts_of
from potrel.core.cost.effects import compare
from potrel.core.cost.portion import Portion, seasoned
from potrel.core.errors import BadDocument
from potrel.core.kitchen.integrity import check_recipe, known_units
from potrel.core.kitchen.methods import check_methods
from potrel.core.kitchen.recipes import Recipe
from potrel.core.pot.cautions import cautions
from potrel.core.pot.day_view import DayView
from potrel.core.pot.typed_line import TypedLine, read_line
from potrel.core.rooms.allergens import allergens_of
from potrel.core.sentences import say
from potrel.core.tell.cost_sheet import sheet_of
from potrel.store.changes import read_version
from potrel.store.errors import NotFound
from potrel.store.recipes import (
    insert_recipes,
    last_saves,
    load_earlier,
    revision_of,
    revisions_of,
    save_recipe,
    take_off_recipe,
    taken_off,
)

router = APIRouter(prefix="/api", tags=["recipes"])


@router.get("/recipes", response_model=list[RecipeSummary], responses=described())
def recipes(kitchens: InKitchen) -> Response:
    """All recipes, for the list of the Cook room."""
    costing = kitchens.costing()
    used_by: dict[str, list[str]] = {}
    for recipe in costing.view.kitchen.recipes:
        for part in recipe.uses():
            used_by.setdefault(part, []).append(recipe.name)
    with kitchens.database.reading() as connection:
        saved = last_saves(connection)
    rows = [
        _summary(costing.view, one, sorted(used_by.get(one.recipe.id, [])), saved.get(one.recipe.id)) for one in costing.all()
    ]
    return reply(list[RecipeSummary], sorted(rows, key=lambda row: row.name.casefold()))


def _summary(view: DayView, one: CostedRecipe, used_by: list[str], saved: tuple[datetime, str] | None) -> RecipeSummary:
    recipe, per_gram = one.recipe, one.cost_per_gram
    per_l = None if per_gram is None else seasoned(per_gram, view.allowance(recipe)) * 1000 * recipe.density
    volume = one.balance.mass / recipe.density
    at, by = saved or (None, None)
    return RecipeSummary(
        recipe.id, recipe.name, len(recipe.servings), used_by, not one.problems, per_l, volume,
        _portion(one.portions[0]) if one.portions else None, one.confidence, at, by,
    )  # fmt: skip


def _portion(portion: Portion) -> PortionSummary:
    serving, priced = portion.serving, portion.priced
    return PortionSummary(
        serving.id, serving.name, serving.size.text, portion.food_cost, priced.price, priced.share, priced.target
    )


@router.get("/names", response_model=list[Named], responses=described())
def names(kitchens: InKitchen) -> Response:
    """Every item and recipe by name, with the units and preparations known of it: what the picker offers."""
    kitchen = kitchens.costing().view.kitchen
    rows = [
        Named(item.id, item.name, False, item.kind, list(item.measures),
              [PreparationName(p.id, p.name) for p in item.preparations],
              [unit for unit, measure in item.measures.items() if measure.basis == "EP"], item.archived)
        for item in kitchen.items
    ]  # fmt: skip
    rows += [Named(recipe.id, recipe.name, True, "recipe", [], [], [], False) for recipe in kitchen.recipes]
    return reply(list[Named], rows)


@router.get("/taken-off", response_model=list[TakenOff], responses=described())
def taken_off_recipes(kitchens: InKitchen) -> Response:
    """The recipes that were taken off and are not on again, the newest first."""
    with kitchens.database.reading() as connection:
        rows = [TakenOff(one.recipe, one.saved_at, one.saved_by) for one in taken_off(connection) if one.recipe is not None]
    return reply(list[TakenOff], rows)


@router.get("/recipes/{recipe_id}", response_model=RecipeReply, responses=described(404))
def recipe(recipe_id: str, kitchens: InKitchen) -> Response:
    """A recipe with its cost sheet of today."""
    with kitchens.database.reading() as connection:
        revision = revision_of(connection, recipe_id)
    costing = kitchens.costing()
    view = costing.view
    if recipe_id not in view.recipes:
        raise NotFound("recipe", recipe_id)
    used_by = sorted(r.name for r in view.kitchen.recipes if recipe_id in view.uses(r.id))
    one = costing.of(recipe_id)
    drifts = drifts_of(one, costing)
    found = RecipeReply(
        one.recipe, revision, sheet_of(costing, recipe_id), one.confidence, drifts, used_by, allergens_of(view, one),
        cautions(one.recipe, view),
    )  # fmt: skip
    return reply(RecipeReply, found)


@router.post("/preview", response_model=PreviewReply, responses=described(400, 422))
def preview(draft: Draft, kitchens: InKitchen) -> Response:
    """The cost sheet of a draft, and what saving it would do to the recipes that use it."""
    saved, recipe_id = kitchens.costing(), draft.recipe.id
    costing = saved.replacing(draft.recipe)
    effects = []
    if saved.view.recipes.get(recipe_id) != draft.recipe:
        effects = compare(saved, costing, sorted(saved.users_of([recipe_id])))
    one = costing.of(recipe_id)
    drifts = drifts_of(one, costing)
    found = PreviewReply(
        sheet_of(costing, recipe_id), one.confidence, drifts, effects, allergens_of(costing.view, one),
        cautions(one.recipe, costing.view),
    )  # fmt: skip
    return reply(PreviewReply, found)


@router.post("/typed-line", response_model=TypedLine, responses=described(400, 422))
def typed_line(ask: AskLine, kitchens: InKitchen) -> Response:
    """What a typed line means."""
    return reply(TypedLine, read_line(ask.text, kitchens.costing().view, ask.item, ask.recipe))


@router.post("/recipes", response_model=Saved, status_code=201, responses=described(400, 409, 422))
def add_recipe(new: NewRecipe, kitchens: InKitchen, actor: Actor) -> Response:
    """Add a recipe."""
    with kitchens.database.writing(actor) as connection:
        before = kitchens.seen_by(connection)
        after = _checked(before.costing, new.recipe)
        insert_recipes(connection, [new.recipe], actor)
        revision, version = revision_of(connection, new.recipe.id), read_version(connection)
        after = after.remembering(load_earlier(connection))
    kitchens.adopt(before, version, after)
    return reply(Saved, Saved(revision), 201)


@router.put("/recipes/{recipe_id}", response_model=Saved, responses=described(400, 404, 409, 422))
def put_recipe(recipe_id: str, save: SaveRecipe, kitchens: InKitchen, actor: Actor) -> Response:
    """Save a recipe over the revision it started from; a stale one is refused with both versions."""
    if save.recipe.id != recipe_id:
        english = 'a recipe keeps its id: "{id}" cannot become "{other}"'
        raise BadDocument("recipe.id", say("recipe_keeps_id", english, id=recipe_id, other=save.recipe.id))
    with kitchens.database.writing(actor) as connection:
        before = kitchens.seen_by(connection)
        after = _checked(before.costing, save.recipe)
        revision = save_recipe(connection, save.recipe, save.based_on, actor)
        version = read_version(connection)
        after = after.remembering(load_earlier(connection))
    kitchens.adopt(before, version, after)
    return reply(Saved, Saved(revision))


def _checked(costing: Costing, draft: Recipe) -> Costing:
    """The kitchen with a recipe that is to be saved, under the writers' lock: what it names is there, and it closes no loop."""
    view = costing.view
    check_methods(draft)
    check_recipe(draft, view.items, {**view.recipes, draft.id: draft}, view.vessels, known_units(view.kitchen.items))
    return costing.replacing(draft)


@router.delete("/recipes/{recipe_id}", status_code=204, responses=described(404, 409))
def delete_recipe(
    recipe_id: str,
    kitchens: InKitchen,
    actor: Actor,
    based_on: Annotated[int, Query(ge=1)],
    _by: Annotated[str, Query(alias="by")] = "the kitchen",
) -> Response:
    """Take a recipe off; its revisions stay, so that it can be added again as it was."""
    with kitchens.database.writing(actor) as connection:
        take_off_recipe(connection, recipe_id, based_on, actor)
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
