"""What the numbers that the engine asks for are called, and how they are told: a price a kilo, what a stage steams an hour."""

from __future__ import annotations

from collections.abc import Iterator
from decimal import Decimal
from typing import Literal, NamedTuple

from potrel.core.kitchen.kinds import ONE
from potrel.core.kitchen.lines import Line
from potrel.core.kitchen.recipes import Recipe, Stage
from potrel.core.pot.day_view import DayView
from potrel.core.pot.inputs import Asked

Unit = Literal["money/kg", "money/piece", "share", "share/h", "kg/h", "kg", "g", "ml", "each", "times"]
_A_THOUSANDTH, _THOUSAND = Decimal("0.001"), Decimal(1000)


class Called(NamedTuple):
    """What a number is called, and that it is told `times` as large in a `unit`."""

    name: str
    unit: Unit = "share"
    times: Decimal = ONE


def called(asked: Asked, view: DayView) -> Called | None:
    """What a number is called; None of one that is told nowhere by itself."""
    match asked.sort:
        case "price":
            return _price(asked, view)
        case "yield" | "cooking":
            return _yield(asked, view)
        case "change":
            return _change(asked, view)
        case "residue":
            stage = stage_of(asked, view)
            return Called(f"what sticks: {stage.name or stage.id}")
        case "cook_yield" | "quantity":
            return _of_line(asked, view)
        case "size":
            recipe = view.recipes[asked.of]
            serving = next(one for one in recipe.servings if one.id == asked.part)
            name = f"size of {serving.name}"
            return Called(name, "ml", 1 / recipe.density) if serving.size.kind == "volume" else Called(name, "g")
        case "measured_yield":
            return Called("the measured batch", "kg", _A_THOUSANDTH)
        case "written_yield":
            return Called("the batch as written", "kg", _A_THOUSANDTH)
        case "allowance":
            return Called("seasoning allowance")
        case "setting" if asked.of == "serving_loss":
            return Called("serving loss")
    return None


def stage_of(asked: Asked, view: DayView) -> Stage:
    """The stage of a recipe that a number belongs to."""
    return next(stage for stage in view.recipes[asked.of].stages if stage.id == asked.part)


def line_of(asked: Asked, view: DayView) -> Line | None:
    """The line of a pot, or of what is served beside it, that a number belongs to; None where there is none such."""
    recipe_id, _, serving_id = asked.of.partition("/")
    recipe = view.recipes.get(recipe_id)
    if recipe is None:
        return None
    lines = _beside(recipe, serving_id) if serving_id else zip(recipe.line_ids(), _in_pot(recipe), strict=True)
    return next((line for line_id, line in lines if line_id == asked.part), None)


def _in_pot(recipe: Recipe) -> Iterator[Line]:
    return (line for stage in recipe.stages for line in stage.lines)


def _beside(recipe: Recipe, serving_id: str) -> Iterator[tuple[str, Line]]:
    if serving_id == "batch":
        for place, line in enumerate(recipe.consumables, 1):
            yield line.id or f"consumable-{place}", line
    for serving in (one for one in recipe.servings if one.id == serving_id):
        for place, (role, line) in enumerate(serving.extras, 1):
            yield line.id or f"{role}-{place}", line


# -- each sort ---------------------------------------------------------------------------------------------------------


def _price(asked: Asked, view: DayView) -> Called:
    name = f"price of {view.name_of(asked.of)}"
    return Called(name, "money/piece") if view.counted(asked.of) is not None else Called(name, "money/kg", _THOUSAND)


def _yield(asked: Asked, view: DayView) -> Called:
    entry = view.preparation(view.items[asked.of], asked.part) if asked.sort == "yield" else None
    return Called(f"yield of {view.name_of(asked.of)}, {entry.name if entry else asked.part}")


def _change(asked: Asked, view: DayView) -> Called:
    stage = stage_of(asked, view)
    name, change = stage.name or stage.id, stage.change
    if change.rule in ("yield", "keep"):
        return Called(f"what is left: {name}")
    if change.per_hour is not None:
        return Called(f"what steams off: {name}", "share/h")
    if change.rule == "evaporate":
        return Called(f"{'steam of' if change.by else 'what steams off:'} {name}", "kg/h", _A_THOUSANDTH)
    return Called(f"what {name} is {'reduced' if change.rule == 'reduce' else 'topped up'} to", "kg", _A_THOUSANDTH)


def _of_line(asked: Asked, view: DayView) -> Called | None:
    line = line_of(asked, view)
    if line is None:
        return None
    name = view.name_of(line.item, line.recipe)
    if asked.sort == "cook_yield":
        return Called(f"yield of {name}, cooked")
    if line.item is not None and line.quantity.kind == "count" and view.counted(line.item) is not None:
        return Called(f"{name}, how many", "each")
    return Called(f"{name}, as much as covers it" if line.by_eye == "cover" else f"{name}, how much", "kg", _A_THOUSANDTH)
