"""The board: every serving on sale with its cost today, its price, its drift, and why it needs a look."""

from __future__ import annotations

from collections.abc import Mapping
from decimal import Decimal
from typing import Literal

from potrel.core.cost.confidence import Confidence
from potrel.core.cost.costed_recipe import CostedRecipe
from potrel.core.cost.costing import Costing
from potrel.core.cost.drift import Drift, drift_of
from potrel.core.cost.portion import Portion
from potrel.core.frozen import dataclass
from potrel.core.kitchen.channels import ComingPrice
from potrel.core.kitchen.kinds import ZERO, Computed, On
from potrel.core.kitchen.recipes import Recipe
from potrel.core.numbers.rounding import exceeds

Mark = Literal["incomplete", "over_target", "far_under_target", "cost_moved", "old_prices", "no_set_price"]

# Common practice, no source: a kitchen looks again when cost moved by a twentieth, or a price is far from its target.
_MOVED = Decimal("0.05")
_FAR_UNDER = Decimal("0.65")
_MANY_OLD = Decimal("0.25")


@dataclass(frozen=True, slots=True)
class BoardRow:
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
    sure: Confidence
    marks: list[Mark]
    coming: ComingPrice | None = None


@dataclass(frozen=True, slots=True)
class Board:
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
    """Makes boards; the rows of a recipe are kept as long as its costed recipe is the same."""

    def __init__(self) -> None:
        self._rows: dict[str, tuple[CostedRecipe, list[BoardRow]]] = {}
        self._named: tuple[Mapping[str, Recipe], list[Recipe]] = ({}, [])

    def rows(self, costing: Costing) -> list[tuple[CostedRecipe, list[BoardRow]]]:
        """The rows of every recipe on sale with the costed recipe that they are of, in the order of the names."""
        before, self._rows = self._rows, {}
        for recipe in self._by_name(costing.view.recipes):
            one, known = costing.of(recipe.id), before.get(recipe.id)
            self._rows[recipe.id] = known if known is not None and known[0] is one else (one, _rows(costing, one))
        return list(self._rows.values())

    def _by_name(self, recipes: Mapping[str, Recipe]) -> list[Recipe]:
        """Those on sale; sorted anew only where the recipes are others than those of the board before."""
        known, ordered = self._named
        if known is not recipes:
            on_sale = [recipe for recipe in recipes.values() if recipe.servings]
            ordered = sorted(on_sale, key=lambda recipe: recipe.name.casefold())
            self._named = (recipes, ordered)
        return ordered


def board_of(costing: Costing) -> Board:
    """The board of a kitchen on the day of its costing, in the order of the names."""
    return headed(costing, [row for _, rows in Boards().rows(costing) for row in rows])


def _rows(costing: Costing, one: CostedRecipe) -> list[BoardRow]:
    return [_row(costing, one, portion) for portion in one.portions]


def headed(costing: Costing, rows: list[BoardRow]) -> Board:
    """Rows with what is said above them."""
    shares = [row.food_cost_share for row in rows if row.food_cost_share is not None]
    kitchen = costing.view.kitchen
    return Board(
        kitchen=kitchen.name,
        currency=kitchen.currency,
        on=costing.on,
        target_share=kitchen.settings.target_food_cost,
        food_cost_share=sum(shares, ZERO) / len(shares) if shares else None,
        need_a_price=len({row.recipe for row in rows if "over_target" in row.marks or "far_under_target" in row.marks}),
        dearest_move=_dearest(rows),
        rows=rows,
    )


def _row(costing: Costing, one: CostedRecipe, portion: Portion) -> BoardRow:
    price, serving = portion.priced, portion.serving
    drift = drift_of(one, portion, costing, all_parts=False)
    return BoardRow(
        recipe=one.recipe.id,
        name=one.recipe.name,
        serving=serving.id,
        serving_name=serving.name,
        size=serving.size.text,
        complete=not one.problems,
        missing=[problem.message for problem in one.problems],
        food_cost=portion.food_cost,
        labour_cost=portion.labour_cost,
        price=price.price,
        net_kept=price.kept,
        price_is_set=price.set.price is not None,
        suggested_price=price.suggested,
        food_cost_share=price.share,
        target_share=price.target,
        contribution=price.contribution,
        drift=drift,
        sure=one.confidence,
        marks=marks_of(one, portion, drift),
        coming=serving.coming_price(costing.on),
    )


def marks_of_price(set_price: Decimal | None, share: Decimal | None, target: Decimal | None) -> list[Mark]:
    """What is to be said of a price by itself: none is set, or its food-cost share is far from the target."""
    if set_price is None:
        return ["no_set_price"]
    if share is None or target is None:
        return []
    if exceeds(share, target):
        return ["over_target"]
    return ["far_under_target"] if exceeds(target * _FAR_UNDER, share) else []


def marks_of(one: CostedRecipe, portion: Portion, drift: Drift | None) -> list[Mark]:
    """Why a serving needs a look, at its price in the kitchen's own channel."""
    price = portion.priced
    marks: list[Mark] = ["incomplete"] if one.problems else []
    marks += marks_of_price(price.set.price, price.share, price.target)
    if drift is not None and drift.change is not None and portion.food_cost is not None:
        # Of the cost as it was when the price was set.
        if exceeds(abs(drift.change), _MOVED * (portion.food_cost - drift.change)):
            marks.append("cost_moved")
    if exceeds(one.confidence.old_price_share, _MANY_OLD):
        marks.append("old_prices")
    return marks


def _dearest(rows: list[BoardRow]) -> str | None:
    """Which purchase moved a portion up most, in words without figures: "Beef shin in Beef & beetroot"."""
    ups = [(part.change, part.name, row.name) for row in rows if row.drift for part in row.drift.moved[:1]]
    if not ups or max(ups)[0] <= 0:
        return None
    _, item, recipe = max(ups)
    return f"{item} in {recipe}"
