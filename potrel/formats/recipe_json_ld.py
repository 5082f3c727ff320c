"""Recipes as schema.org JSON-LD: `Recipe` with its ingredients, its sections and steps, times and nutrition.

What the format cannot hold is said. Source of the terms: schema.org, `Recipe`, `HowToSection`, `HowToDirection`,
`HowToSupply`, `NutritionInformation`.
"""

from __future__ import annotations

from collections.abc import Iterable
from decimal import Decimal
from typing import Any

from potrel.core.cost.costing import Costing
from potrel.core.cost.inside import Inside
from potrel.core.kitchen.kinds import plain
from potrel.core.kitchen.recipes import Recipe, Stage
from potrel.core.numbers.rounding import half_even
from potrel.core.pot.day_view import DayView
from potrel.core.rooms.diets import verdicts
from potrel.formats.recipe_text import line_text, makes, stage_head, what_text

_CONTEXT = "https://schema.org"
# How schema.org calls the diets that are told.
_DIETS = {"vegan": "VeganDiet", "vegetarian": "VegetarianDiet"}
_NUTRITION = (
    ("energy_kcal", "calories", "calories"), ("fat_g", "fatContent", "g"), ("saturates_g", "saturatedFatContent", "g"),
    ("carbohydrate_g", "carbohydrateContent", "g"), ("sugars_g", "sugarContent", "g"), ("fibre_g", "fiberContent", "g"),
    ("protein_g", "proteinContent", "g"),
)  # fmt: skip


def recipe_to_json_ld(costing: Costing, recipe_id: str) -> dict[str, Any]:
    """A recipe as a `Recipe` of schema.org. What of it the format cannot hold, `not_held` names."""
    view, one = costing.view, costing.of(recipe_id)
    recipe = one.recipe
    minutes = sum((stage.minutes or Decimal(0) for stage in recipe.stages), Decimal(0))
    portions = makes(one)
    found: dict[str, Any] = {
        "@context": _CONTEXT,
        "@type": "Recipe",
        "name": recipe.name,
        "identifier": recipe.id,
        "recipeIngredient": [line_text(line, view) for stage in recipe.stages for line in stage.lines],
        "recipeInstructions": [_section(stage, view) for stage in recipe.stages],
    }
    if portions:
        found["recipeYield"] = portions
    if minutes > 0:
        found["totalTime"] = duration(minutes)
    if recipe.note:
        found["description"] = recipe.note
    if recipe.variant_of in view.recipes:
        found["isBasedOn"] = {"@type": "Recipe", "name": view.recipes[recipe.variant_of or ""].name}
    diets = [f"{_CONTEXT}/{_DIETS[each.diet]}" for each in verdicts(one, view) if each.answer == "yes" and each.diet in _DIETS]
    if diets:
        found["suitableForDiet"] = diets
    nutrition = _nutrition(costing, recipe_id)
    if nutrition:
        found["nutrition"] = nutrition
    if not one.problems:
        cost = plain(half_even(one.cost, 2))
        found["estimatedCost"] = {"@type": "MonetaryAmount", "currency": view.kitchen.currency, "value": cost}
    return found


def recipes_to_json_ld(costing: Costing, recipes: Iterable[str]) -> dict[str, Any]:
    """Many recipes as a graph of one document."""
    graph = [recipe_to_json_ld(costing, one) for one in recipes]
    return {"@context": _CONTEXT, "@graph": [{key: value for key, value in one.items() if key != "@context"} for one in graph]}


def not_held(recipe: Recipe) -> list[str]:
    """What of a recipe the format has no place for."""
    found = []
    if any(stage.take_out for stage in recipe.stages):
        found.append("what is taken out")
    if any(stage.change.rule != "keep" or stage.residue != 0 for stage in recipe.stages):
        found.append("what steams off, is topped up, or sticks")
    if any(one.share != 1 for stage in recipe.stages for one in stage.from_) or any(
        [one.stage for one in stage.from_] != [recipe.stages[place - 1].id]
        for place, stage in enumerate(recipe.stages)
        if place
    ):
        found.append("how the trays and pots flow together")
    if any(stage.vessel or stage.lid or stage.heat or stage.attended_minutes for stage in recipe.stages):
        found.append("vessels, lids, heat, attended minutes")
    if any(line.cook_yield is not None or line.loss_to for stage in recipe.stages for line in stage.lines):
        found.append("cooking yields of lines")
    if any(True for serving in recipe.servings for _ in serving.extras) or any(
        one.price is not None for one in recipe.servings
    ):
        found.append("prices, garnish and packaging of its servings")
    return found


def _section(stage: Stage, view: DayView) -> dict[str, Any]:
    direction: dict[str, Any] = {"@type": "HowToDirection", "text": stage_head(stage)}
    if stage.minutes is not None:
        direction["performTime"] = duration(stage.minutes)
    if stage.lines:
        direction["supply"] = [
            {"@type": "HowToSupply", "requiredQuantity": line.quantity.text, "name": what_text(line, view)}
            for line in stage.lines
        ]
    if stage.vessel in view.vessels:
        direction["tool"] = {"@type": "HowToTool", "name": view.vessels[stage.vessel or ""].name}
    steps = [direction, *({"@type": "HowToDirection", "text": row} for row in (stage.note or "").splitlines() if row.strip())]
    return {
        "@type": "HowToSection",
        "name": stage_head(stage),
        "itemListElement": [{"@type": "HowToStep", "itemListElement": steps}],
    }


def _nutrition(costing: Costing, recipe_id: str) -> dict[str, Any]:
    one = costing.of(recipe_id)
    if not one.portions:
        return {}
    inside, portion = Inside(costing, one), one.portions[0]
    values = {name: inside.in_portion(portion, key) for key, name, _ in _NUTRITION}
    told = {name: f"{plain(half_even(value, 1))} {unit}" for _, name, unit in _NUTRITION if (value := values[name]) is not None}
    salt = inside.in_portion(portion, "salt_g")
    if salt is not None:
        # Schema.org tells sodium: salt / 2.5 (EU Regulation 1169/2011, Annex I).
        told["sodiumContent"] = f"{plain(half_even(salt / Decimal('2.5') * 1000, 0))} mg"
    return {"@type": "NutritionInformation", "servingSize": portion.serving.size.text, **told} if told else {}


def duration(minutes: Decimal) -> str:
    """A time as ISO 8601 has it.

    >>> duration(Decimal(90)), duration(Decimal("12.5"))
    ('PT1H30M', 'PT12M30S')
    """
    seconds = int(half_even(minutes * 60, 0))
    hours, rest = divmod(seconds, 3600)
    parts = [(hours, "H"), (rest // 60, "M"), (rest % 60, "S")]
    return "PT" + ("".join(f"{count}{unit}" for count, unit in parts if count) or "0M")
