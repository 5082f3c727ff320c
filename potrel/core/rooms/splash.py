"""What the last splash does: a line that is poured by eye, a little less and a little more of it, and what comes of that."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from decimal import Decimal

from potrel.core.cost.costing import Costing
from potrel.core.frozen import dataclass
from potrel.core.kitchen.kinds import Computed, Id, plain
from potrel.core.kitchen.lines import ByEye
from potrel.core.kitchen.quantities import parse_quantity
from potrel.core.kitchen.recipes import Recipe, with_lines
from potrel.core.numbers.rounding import half_even
from potrel.core.pot.by_eye import Cover, cover_of, poured

_STEPS = tuple(map(Decimal, ("0.8", "0.9", "1", "1.1", "1.2")))


@dataclass(frozen=True, slots=True)
class Step:
    """So much poured, and what that gives: the batch [ml], the portions of its first serving, what one costs [money]."""

    quantity: str
    batch_ml: Computed
    portions: Computed | None
    food_cost: Computed | None


@dataclass(frozen=True, slots=True)
class Splash:
    """A line that is poured by eye, in steps. What covers the solids [ml] is told with its band, and as it would be typed
    (`pour`), where that is known; else `lack` says what would tell it.
    """

    stage: Id
    line: Id
    by_eye: ByEye
    cover_ml: Computed | None
    low_ml: Computed | None
    high_ml: Computed | None
    pour: str | None
    lack: str | None
    steps: list[Step]


def splashes_of(costing: Costing, recipe_id: str) -> list[Splash]:
    """Every line of a recipe that is poured by eye."""
    recipe = costing.view.recipes[recipe_id]
    ids = iter(recipe.line_ids())
    found = []
    for stage in recipe.stages:
        for place, line in enumerate(stage.lines):
            line_id = next(ids)
            if line.by_eye is None:
                continue
            cover = cover_of(recipe, stage, costing.view) if line.by_eye == "cover" else None
            litres, low, high = (cover.litres, *cover.band) if isinstance(cover, Cover) else (None, None, None)
            found.append(
                Splash(
                    stage.id, line_id, line.by_eye, _ml(litres), _ml(low), _ml(high),
                    None if litres is None else poured(litres, costing.view),
                    None if cover is None or isinstance(cover, Cover) else cover.english,
                    list(_steps(costing, recipe, stage.id, place)),
                )
            )  # fmt: skip
    return found


def _ml(litres: Decimal | None) -> Decimal | None:
    return None if litres is None else litres * 1000


def _steps(costing: Costing, recipe: Recipe, stage_id: str, place: int) -> Iterator[Step]:
    for factor in _STEPS:
        poured = recipe if factor == 1 else _with(recipe, stage_id, place, factor)
        one = (costing if factor == 1 else costing.replacing(poured)).of(recipe.id)
        line = next(stage for stage in poured.stages if stage.id == stage_id).lines[place]
        portion = one.portions[0] if one.portions else None
        yield Step(
            line.quantity.text, one.balance.mass / recipe.density,
            None if portion is None else portion.portions,
            None if portion is None or one.problems else portion.food_cost,
        )  # fmt: skip


def _with(recipe: Recipe, stage_id: str, place: int, factor: Decimal) -> Recipe:
    """A recipe with more or less in one of its lines."""
    at = next(at for at, stage in enumerate(recipe.stages) if stage.id == stage_id)
    line = recipe.stages[at].lines[place]
    amount = half_even(line.quantity.amount * factor, 3)
    poured = replace(line, quantity=parse_quantity(f"{plain(amount)} {line.quantity.unit}"))
    return with_lines(recipe, at, (*recipe.stages[at].lines[:place], poured, *recipe.stages[at].lines[place + 1 :]))
