"""Drift: how far the cost of a portion has moved since its price was set, split by the purchase that moved it."""

from __future__ import annotations

from collections.abc import Mapping
from decimal import Decimal

from potrel.core.cost.costed_recipe import CostedRecipe
from potrel.core.cost.costing import Costing
from potrel.core.cost.portion import Portion
from potrel.core.frozen import dataclass
from potrel.core.kitchen.kinds import ONE, ZERO, Computed, On
from potrel.core.numbers.arithmetic import Number, total
from potrel.core.numbers.formula import Many, formula
from potrel.core.pot.day_view import DayView

_THOUSAND = Decimal(1000)


@formula("kilos in a portion * (price now - price then)")
def moved_by(kilos_in_a_portion: Number, price_now: Number, price_then: Number) -> Number:
    """What one purchase added to the cost of a portion [money], by its AP prices [money/kg]."""
    return kilos_in_a_portion * (price_now - price_then)


@formula("cost now - sum of purchases - cost then")
def moved_by_recipe(cost_now: Number, purchases: Many, cost_then: Number) -> Number:
    """What changes of the recipe itself added to the cost of a portion [money], at the prices of then."""
    return cost_now - total(purchases) - cost_then


@formula("sum of purchases + the recipe itself")
def drifted_by(purchases: Many, the_recipe_itself: Number = ZERO) -> Number:
    """How far the cost of a portion has moved [money]: what each purchase added, and what changes of the recipe did."""
    return total(purchases) + the_recipe_itself


@dataclass(frozen=True, slots=True)
class Moved:
    """What one item added to a portion's cost [money], because its AP price [money/kg] went from `was` to `now`.

    Of an item that is known by the piece only, `unit` is that, and the prices are those of one.
    """

    item: str
    name: str
    change: Computed
    was_per_kg: Computed
    now_per_kg: Computed
    unit: str = "kg"


@dataclass(frozen=True, slots=True)
class Drift:
    """Today's cost of a portion less that of `since` [money].

    It is the sum of the parts that moved, the largest first, of `others` that are not told apart, and of what changes of the
    `recipe` itself (or of one that it uses) did, None where it stands as it stood. `change` is None where an item had no price
    then, which `unpriced` names, or where the recipe of then cannot be costed any more.
    """

    since: On
    change: Computed | None
    moved: list[Moved]
    others: Computed
    unpriced: list[str]
    recipe: Computed | None = None


def drift_of(one: CostedRecipe, portion: Portion, costing: Costing, *, all_parts: bool = True) -> Drift | None:
    """The drift of a portion since its price was set; None where no date was noted or its cost is not known.

    Where not `all_parts`, only the largest is told apart.
    """
    since, view = portion.priced.set.on, costing.view
    if since is None or portion.factor is None:
        return None
    happened, factor = costing.moves.since(since), portion.factor
    changes, batch, beside = happened.changes, one.needs.borne, portion.extra_needs.borne
    # Every portion of a kitchen comes through here for each board: a part is one product, and the factor comes last.
    items = [item for item in batch if item in changes]
    parts = [changes[item] * batch[item] for item in items]
    if not changes.keys().isdisjoint(beside):
        items, parts, factor = *_with_beside(items, parts, factor, beside, changes), ONE
    whole = sum(parts, ZERO) * factor
    shown = sorted(zip(parts, items, strict=True), key=_size, reverse=True) if all_parts else _largest(parts, items)
    moved = [_moved(item, change * factor, changes[item], view) for change, item in shown]
    others = whole - sum([part.change for part in moved], ZERO) if len(shown) < len(parts) else ZERO
    unpriced = happened.unpriced
    if unpriced and not (unpriced.isdisjoint(batch) and unpriced.isdisjoint(beside)):
        names = sorted(item for item in unpriced if item in batch or item in beside)
        return Drift(since, None, moved, others, names)
    then = costing.then(one.recipe.id, portion.serving)
    if then is None:
        return Drift(since, whole, moved, others, [])
    if then.food_cost is None or portion.food_cost is None or one.problems:
        return Drift(since, None, moved, others, [])
    recipe = moved_by_recipe(portion.food_cost, [whole], then.food_cost)
    return Drift(since, whole + recipe, moved, others, [], recipe)


def drifts_of(one: CostedRecipe, costing: Costing) -> dict[str, Drift]:
    """The drift of each serving of a recipe that has one."""
    found = {portion.serving.id: drift_of(one, portion, costing) for portion in one.portions}
    return {serving: drift for serving, drift in found.items() if drift is not None}


def _size(part: tuple[Decimal, str]) -> tuple[Decimal, str]:
    return abs(part[0]), part[1]


def _largest(parts: list[Decimal], items: list[str]) -> list[tuple[Decimal, str]]:
    if not parts:
        return []
    most, least = max(parts), min(parts)
    size = max(abs(most), abs(least))
    low = -size
    # Of parts of one size the last by its name, as they would be sorted.
    return [max(((part, items[at]) for at, part in enumerate(parts) if part in (size, low)), key=_size)]


def _with_beside(
    items: list[str], parts: list[Decimal], factor: Decimal, beside: Mapping[str, Decimal], changes: Mapping[str, Decimal]
) -> tuple[list[str], list[Decimal]]:
    """The items and their parts times their factor, with those of what is served beside the pot."""
    by_item = {item: change * factor for item, change in zip(items, parts, strict=True)}
    for item, mass in beside.items():
        if item in changes:
            by_item[item] = by_item.get(item, ZERO) + changes[item] * mass
    return list(by_item), list(by_item.values())


def _moved(item: str, change: Decimal, per_gram: Decimal, view: DayView) -> Moved:
    # Only what has a price today has moved.
    unit = view.counted(item)
    scale, now = _THOUSAND if unit is None else ONE, view.prices().get(item, ZERO)
    return Moved(item, view.name_of(item), change, (now - per_gram) * scale, now * scale, unit or "kg")
