"""Stock, made or bought: what a litre costs ready to use, with its labour and energy, and when the two change places."""

from __future__ import annotations

from collections.abc import Sequence

from potrel.core.cost.costing import Costing
from potrel.core.frozen import dataclass
from potrel.core.kitchen.kinds import Computed, Flag, Id, Name
from potrel.core.kitchen.lines import Line
from potrel.core.numbers.arithmetic import Number
from potrel.core.numbers.formula import formula
from potrel.core.pot.line_mass import LineMass, line_mass


@formula("attended time / 60 * rate an hour / litres")
def labour_of_a_litre(attended_time: Number, rate_an_hour: Number, litres: Number) -> Number:
    """What the attended time [min] of a batch comes to a litre [money]."""
    return attended_time / 60 * rate_an_hour / litres


@formula("price now + (cost of the other - cost of a litre) * litres / kilos of it")
def price_that_flips(
    price_now: Number, cost_of_the_other: Number, cost_of_a_litre: Number, litres: Number, kilos_of_it: Number
) -> Number:
    """The price of a kilo of what a stock is made of [money/kg] at which making costs as much as buying."""
    return price_now + (cost_of_the_other - cost_of_a_litre) * litres / kilos_of_it


@formula("attended time / 60 * rate an hour / (cost of the other - food of a litre - energy of a litre)")
def batch_that_flips(
    attended_time: Number, rate_an_hour: Number, cost_of_the_other: Number, food_of_a_litre: Number, energy_of_a_litre: Number
) -> Number:
    """The batch [l] from which making costs less than buying: its attended time does not grow with it."""
    return attended_time / 60 * rate_an_hour / (cost_of_the_other - food_of_a_litre - energy_of_a_litre)


@formula("litres * (cost of the other - food of a litre - energy of a litre) * 60 / attended time")
def rate_that_flips(
    litres: Number, cost_of_the_other: Number, food_of_a_litre: Number, energy_of_a_litre: Number, attended_time: Number
) -> Number:
    """What an hour may cost [money] for making to cost as much as buying."""
    return litres * (cost_of_the_other - food_of_a_litre - energy_of_a_litre) * 60 / attended_time


@dataclass(frozen=True, slots=True)
class LiquidCost:
    """A litre ready to use [money]: food, labour, energy and all of it; None where that is not known.

    Labour counts nothing of what is bought, or where the kitchen has no rate; energy nothing where no stage tells it.
    """

    recipe: Id | None
    bought: Flag
    food: Computed | None
    labour: Computed | None
    energy: Computed | None
    total: Computed | None


@dataclass(frozen=True, slots=True)
class Flip:
    """When own stock and the cheapest bought one change places.

    Making pays while a kilo of `item` costs less than `flip_price`, from a batch of `flip_batch_l` on, and while an hour costs
    less than `flip_rate` [money]; None where it never changes.
    """

    recipe: Id
    name: Name
    other: Name
    item: Id | None
    item_name: str
    flip_price: Computed | None
    flip_batch_l: Computed | None
    flip_rate: Computed | None


def liquid_cost(costing: Costing, lines: Sequence[Line], litres: Number) -> LiquidCost | None:
    """What a litre of some lines costs that together give so many litres; None where that is none."""
    if not litres > 0:
        return None
    view, recipe = costing.view, lines[0].recipe if len(lines) == 1 else None
    if recipe is not None:
        one = costing.of(recipe)
        if one.problems or not one.mass > 0:
            return LiquidCost(recipe, False, None, None, None, None)
        made = one.mass / 1000 / view.number(one.recipe.density)
        rate = view.setting("labour_rate_per_hour", view.settings.labour_rate_per_hour)
        price = view.setting("energy_price_per_kwh", view.settings.energy_price_per_kwh)
        food = one.cost / made
        labour = None if rate is None else labour_of_a_litre(one.needs.minutes, rate, made)
        energy = None if price is None or not one.needs.energy_known else one.needs.energy * price / made
        return LiquidCost(recipe, False, food, labour, energy, food + (labour or 0) + (energy or 0))
    costs = [_line_cost(costing, line) for line in lines]
    known = [cost for cost in costs if cost is not None]
    total = sum(known, view.zero) / litres if len(known) == len(costs) else None
    bought = any(item is not None and item.kind == "stock" for item in (view.items.get(line.item or "") for line in lines))
    return LiquidCost(None, bought, total, None, None, total)


def _line_cost(costing: Costing, line: Line) -> Number | None:
    found = line_mass(line, "tried", "", None, costing.view)
    return costing.line_cost(found) if isinstance(found, LineMass) else None


def flip_of(costing: Costing, own: LiquidCost, other_name: str, other: LiquidCost) -> Flip | None:
    """When an own stock and a bought one change places; None where nothing can be told."""
    if own.recipe is None or own.total is None or other.total is None or own.food is None:
        return None
    view, one = costing.view, costing.of(own.recipe)
    litres = one.mass / 1000 / view.number(one.recipe.density)
    rate = view.setting("labour_rate_per_hour", view.settings.labour_rate_per_hour)
    saved = other.total - own.food - (own.energy or view.zero)
    batch = dearest = None
    if rate is not None and saved > 0:
        batch = batch_that_flips(one.needs.minutes, rate, other.total, own.food, own.energy or view.zero)
    # Of all that is bought for it, what costs most: the bones, as a rule.
    worth = [(mass * (view.per_gram(item) or view.zero), item, mass) for item, mass in one.needs.borne.items()]
    if worth:
        _, item, mass = max(worth)
        per_kg = view.per_kg(item)
        if per_kg is not None and mass > 0:
            price = price_that_flips(per_kg, other.total, own.total, litres, mass / 1000)
            dearest = (item, price if price > 0 else None)
    worked = None
    if saved > 0 and one.needs.minutes > 0:
        worked = rate_that_flips(litres, other.total, own.food, own.energy or view.zero, one.needs.minutes)
    item_id, flip_price = dearest or (None, None)
    return Flip(own.recipe, one.recipe.name, other_name, item_id, view.name_of(item_id), flip_price, batch, worked)
