"""Routes of the Cook room: recipes, drafts costed as they are typed, typed lines."""

from __future__ import annotations

import json
from collections.abc import Iterator
from dataclasses import replace
from datetime import date, datetime
from typing import Annotated, Literal

from fastapi import APIRouter, Query
from starlette.responses import Response

from potrel.api.answers import download, reply
from potrel.api.cook.replies import (
    AskExchange,
    AskFlow,
    AskLine,
    AskSideBySide,
    AskWhatIf,
    ChosenPot,
    Draft,
    HowSure,
    Kin,
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
from potrel.core.cost.uncertainty import uncertainty_of
from potrel.core.errors import BadDocument
from potrel.core.kitchen.recipes import Recipe
from potrel.core.pot.cautions import cautions
from potrel.core.pot.day_view import DayView
from potrel.core.rooms.allergens import allergens_of
from potrel.core.rooms.exchanges import Exchange, exchange
from potrel.core.rooms.kept_moves import with_moves
from potrel.core.rooms.pot_flow import PotFlow, pot_flow
from potrel.core.rooms.side_by_side import Chosen, SideBySide, side_by_side
from potrel.core.rooms.splash import splashes_of
from potrel.core.rooms.what_if import WhatIf
from potrel.core.sentences import say
from potrel.core.tell.cost_sheet import sheet_of
from potrel.core.words.typed_line import TypedLine
from potrel.core.words.typed_pour import read_into
from potrel.doing import pots as doing
from potrel.formats.recipe_json_ld import not_held, recipe_to_json_ld, recipes_to_json_ld
from potrel.formats.recipe_text import markdown, plain_text
from potrel.store.errors import NotFound
from potrel.store.recipes import revision_of
from potrel.store.revisions import last_saves, revisions_of, taken_off

router = APIRouter(prefix="/api", tags=["recipes"])
Form = Literal["json-ld", "text", "markdown"]


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
        _settled(one.recipe, costing.on), revision, sheet_of(costing, recipe_id), one.confidence, drifts, used_by,
        allergens_of(view, one),
        cautions(one.recipe, view), splashes_of(costing, recipe_id), list(_kin(one.recipe, view)),
        not_held(one.recipe),
    )  # fmt: skip
    return reply(RecipeReply, found)


def _settled(recipe: Recipe, today: date) -> Recipe:
    """A recipe with the prices that came by today as those that are set."""
    if all(serving == serving.settled(today) for serving in recipe.servings):
        return recipe
    return replace(recipe, servings=tuple(serving.settled(today) for serving in recipe.servings))


def _kin(of: Recipe, view: DayView) -> Iterator[Kin]:
    base = of.variant_of or of.id
    for one in sorted(view.recipes.values(), key=lambda one: (one.id != base, one.name.casefold())):
        if one.id != of.id and base in (one.id, one.variant_of):
            yield Kin(one.id, one.name)


@router.post("/preview", response_model=PreviewReply, responses=described(400, 422))
def preview(draft: Draft, kitchens: InKitchen) -> Response:
    """The cost sheet of a draft, and what saving it would do to the recipes that use it."""
    saved, recipe_id = kitchens.costing(), draft.recipe.id
    for part in draft.recipe.uses() & saved.view.recipes.keys():
        # What is in its parts is reckoned once, not with every key that is pressed.
        saved.content(part)
    costing = saved.replacing(draft.recipe)
    effects = []
    if saved.view.recipes.get(recipe_id) != draft.recipe:
        effects = compare(saved, costing, sorted(saved.users_of([recipe_id])))
    one = costing.of(recipe_id)
    drifts = drifts_of(one, costing)
    found = PreviewReply(
        sheet_of(costing, recipe_id), one.confidence, drifts, effects, allergens_of(costing.view, one),
        cautions(one.recipe, costing.view), splashes_of(costing, recipe_id),
    )  # fmt: skip
    return reply(PreviewReply, found)


@router.post("/uncertainty", response_model=HowSure, responses=described(400, 422))
def uncertainty(draft: Draft, kitchens: InKitchen) -> Response:
    """How far the figures of a draft may be off, and what matters most: the same until the data change."""
    kept, recipe_id = kitchens.current(), draft.recipe.id
    if kept.costing.view.recipes.get(recipe_id) == draft.recipe:
        return reply(HowSure, HowSure(kept.uncertainty(recipe_id)))
    costing = kept.costing.replacing(draft.recipe)
    return reply(HowSure, HowSure(uncertainty_of(costing, recipe_id, kept.doubts.within(costing))))


@router.post("/what-if", response_model=WhatIf, responses=described(400, 422))
def tried(ask: AskWhatIf, kitchens: InKitchen) -> Response:
    """What some moved numbers do to a draft, and to every pot that they reach; nothing is saved."""
    return reply(WhatIf, kitchens.current().trial(ask.recipe).what_if(ask.moves))


@router.post("/what-if/recipe", response_model=Recipe, responses=described(400, 422))
def tried_recipe(ask: AskWhatIf, kitchens: InKitchen) -> Response:
    """The draft with what was moved of it as its own; nothing is saved."""
    return reply(Recipe, with_moves(kitchens.current().trial(ask.recipe), ask.moves))


@router.post("/flow", response_model=PotFlow, responses=described(400, 422))
def flow(ask: AskFlow, kitchens: InKitchen) -> Response:
    """A draft as a flow from what is bought to the portions, in mass and in money."""
    costing = kitchens.costing()
    if costing.view.recipes.get(ask.recipe.id) != ask.recipe:
        costing = costing.replacing(ask.recipe)
    return reply(PotFlow, pot_flow(costing, ask.recipe.id, ask.serving))


@router.post("/side-by-side", response_model=SideBySide, responses=described(400, 404, 422))
def beside(ask: AskSideBySide, kitchens: InKitchen) -> Response:
    """Two to four recipes or revisions, side by side, at the prices of today."""
    costing = kitchens.costing()
    return reply(SideBySide, side_by_side([_chosen(one, costing, kitchens) for one in ask.of]))


def _chosen(one: ChosenPot, costing: Costing, kitchens: InKitchen) -> Chosen:
    if one.revision is not None:
        with kitchens.database.reading() as connection:
            found = next((each for each in revisions_of(connection, one.recipe) if each.revision == one.revision), None)
        if found is None or found.recipe is None:
            raise NotFound("recipe", f"{one.recipe}, revision {one.revision}")
        return Chosen(costing.replacing(found.recipe), one.recipe, one.revision)
    if one.recipe not in costing.view.recipes:
        raise NotFound("recipe", one.recipe)
    return Chosen(costing, one.recipe)


@router.post("/exchange", response_model=Exchange, responses=described(400, 422))
def exchanges(ask: AskExchange, kitchens: InKitchen) -> Response:
    """Every way to meet what a line of a draft is for, each tried in it; nothing is saved."""
    costing = kitchens.costing().replacing(ask.recipe)
    return reply(Exchange, exchange(costing, ask.recipe.id, ask.stage, ask.line))


@router.post("/typed-line", response_model=TypedLine, responses=described(400, 422))
def typed_line(ask: AskLine, kitchens: InKitchen) -> Response:
    """What a typed line means."""
    return reply(TypedLine, read_into(ask.text, kitchens.costing(), ask.item, ask.recipe, ask.draft, ask.stage))


@router.post("/recipes", response_model=Saved, status_code=201, responses=described(400, 409, 422))
def add_recipe(new: NewRecipe, kitchens: InKitchen, actor: Actor) -> Response:
    """Add a recipe."""
    return reply(Saved, Saved(doing.add_pot(kitchens, new.recipe, actor)), 201)


@router.put("/recipes/{recipe_id}", response_model=Saved, responses=described(400, 404, 409, 422))
def put_recipe(recipe_id: str, save: SaveRecipe, kitchens: InKitchen, actor: Actor) -> Response:
    """Save a recipe over the revision it started from; a stale one is refused with both versions."""
    if save.recipe.id != recipe_id:
        english = 'a recipe keeps its id: "{id}" cannot become "{other}"'
        raise BadDocument("recipe.id", say("recipe_keeps_id", english, id=recipe_id, other=save.recipe.id))
    return reply(Saved, Saved(doing.save_pot(kitchens, save.recipe, save.based_on, actor)))


@router.delete("/recipes/{recipe_id}", status_code=204, responses=described(404, 409))
def delete_recipe(
    recipe_id: str,
    kitchens: InKitchen,
    actor: Actor,
    based_on: Annotated[int, Query(ge=1)],
) -> Response:
    """Take a recipe off; its revisions stay, so that it can be added again as it was."""
    doing.take_off(kitchens, recipe_id, based_on, actor)
    return Response(status_code=204)


@router.get("/recipes/{recipe_id}/as/{form}", responses=described(404, 422), response_class=Response)
def given_out(recipe_id: str, form: Form, kitchens: InKitchen) -> Response:
    """A recipe as a file: schema.org JSON-LD, plain text or Markdown."""
    costing = kitchens.costing()
    if recipe_id not in costing.view.recipes:
        raise NotFound("recipe", recipe_id)
    one = costing.of(recipe_id)
    if form == "json-ld":
        text = json.dumps(recipe_to_json_ld(costing, recipe_id), indent=1, ensure_ascii=False)
        return download(text, "application/ld+json", f"{recipe_id}.jsonld")
    if form == "markdown":
        return download(markdown(one, costing.view), "text/markdown; charset=utf-8", f"{recipe_id}.md")
    return download(plain_text(one, costing.view), "text/plain; charset=utf-8", f"{recipe_id}.txt")


@router.get("/recipes.jsonld", responses=described(), response_class=Response)
def all_given_out(kitchens: InKitchen) -> Response:
    """All recipes as one JSON-LD document."""
    costing = kitchens.costing()
    found = recipes_to_json_ld(costing, costing.view.recipes)
    return download(json.dumps(found, indent=1, ensure_ascii=False), "application/ld+json", "recipes.jsonld")


@router.get("/recipes/{recipe_id}/revisions", response_model=list[RevisionReply], responses=described(404))
def revisions(recipe_id: str, kitchens: InKitchen) -> Response:
    """All revisions of a recipe, the newest first."""
    with kitchens.database.reading() as connection:
        found = revisions_of(connection, recipe_id)
    if not found:
        raise NotFound("recipe", recipe_id)
    rows = [RevisionReply(r.revision, r.saved_at, r.saved_by, r.recipe) for r in found]
    return reply(list[RevisionReply], rows)
