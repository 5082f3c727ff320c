"""The board: every serving on sale with its cost today, its price, its drift, and why it needs a look."""

from __future__ import annotations

from collections.abc import Container
from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from potrel.core.costing import Costing, Portion, Priced, Sureness, priced
from potrel.core.drift import Drift, PriceMoves, drift_of
from potrel.core.fields import ZERO, Computed, On
from potrel.core.kitchen import Recipe
from potrel.core.part import Part
from potrel.core.sureness import Sure

Mark = Literal["incomplete", "over_target", "far_under_target", "cost_moved", "old_prices", "no_set_price"]

# Common practice, no source: a kitchen looks again when cost moved by a twentieth, or a price is far from its target.
_MOVED = Decimal("0.05")
_FAR_UNDER = Decimal("0.65")
_MANY_OLD = Decimal("0.25")


@dataclass(frozen=True, slots=True)
class BoardRow(Part):
    """One serving of one recipe. Money per portion, net of tax but for `price`, which is the one on the card."""

    recipe: str
    name: str
    serving: str
    serving_name: str
    size: str
    complete: bool
    missing: list[str]
    food_cost: Computed | None
    labour_cost: Computed | None
    price: Computed | None
    net_kept: Computed | None
    price_is_set: bool
    suggested_price: Computed | None
    food_cost_share: Computed | None
    target_share: Computed | None
    contribution: Computed | None
    drift: Drift | None
    sure: Sureness
    marks: list[Mark]


@dataclass(frozen=True, slots=True)
class Board(Part):
    """All servings on sale. `food_cost_share` is the mean over the priced ones, each counted once."""

    kitchen: str
    currency: str
    on: On
    target_share: Computed | None
    food_cost_share: Computed | None
    need_a_price: int
    dearest_move: str | None
    rows: list[BoardRow]


class Boards:
    """Makes boards; the rows of recipes whose costs did not move since the last one are kept."""

    def __init__(self) -> None:
        self._rows: dict[str, list[BoardRow]] = {}

    def of(self, costing: Costing, moved: Container[str] | None = None) -> Board:
        """The board of a kitchen on the day of its costing, in the order of the names.

        `moved` are the recipes whose rows may have changed since the board before; None where all may have.
        """
        moves, sure = PriceMoves(costing), Sure(costing)
        known = {} if moved is None else {one: row for one, row in self._rows.items() if one not in moved}
        self._rows = {}
        for recipe in sorted(costing.facts.recipes.values(), key=_by_name):
            if recipe.servings:
                self._rows[recipe.id] = known.get(recipe.id) or _rows(costing, recipe, moves, sure)
        return _headed(costing, [row for rows in self._rows.values() for row in rows])


def board_of(costing: Costing) -> Board:
    """The board of a kitchen on the day of its costing, in the order of the names."""
    return Boards().of(costing)


def _by_name(recipe: Recipe) -> str:
    return recipe.name.casefold()


def _rows(costing: Costing, recipe: Recipe, moves: PriceMoves, sure: Sure) -> list[BoardRow]:
    sureness = sure.of(recipe.id)
    return [_row(costing, recipe.id, portion, moves, sureness) for portion in costing.portions(recipe.id)]


def _headed(costing: Costing, rows: list[BoardRow]) -> Board:
    shares = [row.food_cost_share for row in rows if row.food_cost_share is not None]
    return Board(
        kitchen=costing.facts.kitchen.name,
        currency=costing.facts.kitchen.currency,
        on=costing.on,
        target_share=costing.facts.settings.target_food_cost,
        food_cost_share=sum(shares, ZERO) / len(shares) if shares else None,
        need_a_price=len({row.recipe for row in rows if "over_target" in row.marks or "far_under_target" in row.marks}),
        dearest_move=_dearest(rows),
        rows=rows,
    )


def _row(costing: Costing, recipe_id: str, portion: Portion, moves: PriceMoves, sureness: Sureness) -> BoardRow:
    recipe = costing.facts.recipes[recipe_id]
    problems = costing.problems(recipe_id)
    price = priced(costing, recipe_id, portion)
    drift = drift_of(costing, recipe_id, portion, moves, all_parts=False)
    return BoardRow(
        recipe=recipe_id,
        name=recipe.name,
        serving=portion.serving.id,
        serving_name=portion.serving.name,
        size=portion.serving.size,
        complete=not problems,
        missing=[problem.message for problem in problems],
        food_cost=portion.food_cost,
        labour_cost=portion.labour_cost,
        price=price.price,
        net_kept=price.kept,
        price_is_set=portion.serving.price is not None,
        suggested_price=price.suggested,
        food_cost_share=price.share,
        target_share=price.target,
        contribution=price.contribution,
        drift=drift,
        sure=sureness,
        marks=_marks(portion, price, drift, sureness, bool(problems)),
    )


def _marks(portion: Portion, price: Priced, drift: Drift | None, sureness: Sureness, incomplete: bool) -> list[Mark]:
    marks: list[Mark] = []
    if incomplete:
        marks.append("incomplete")
    if portion.serving.price is None:
        marks.append("no_set_price")
    elif price.share is not None and price.target is not None:
        if price.share > price.target:
            marks.append("over_target")
        elif price.share < price.target * _FAR_UNDER:
            marks.append("far_under_target")
    if drift is not None and drift.change is not None and portion.food_cost is not None:
        if abs(drift.change) > _MOVED * (portion.food_cost - drift.change):
            marks.append("cost_moved")
    if sureness.old_price_share > _MANY_OLD:
        marks.append("old_prices")
    return marks


def _dearest(rows: list[BoardRow]) -> str | None:
    """Which purchase moved a portion up most, in words without figures: "Beef shin in Beef & beetroot"."""
    ups = [(part.change, part.name, row.name) for row in rows if row.drift for part in row.drift.moved[:1]]
    if not ups or max(ups)[0] <= 0:
        return None
    _, item, recipe = max(ups)
    return f"{item} in {recipe}"
