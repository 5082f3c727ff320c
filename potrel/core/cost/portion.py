"""A portion of a serving: how many a batch gives, what goes with each, what it costs, and what it sells for."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from decimal import Decimal
from functools import cache

from potrel.core.cost.portioning import beside, given, how_many, size_of
from potrel.core.cost.pricing import needs_labour, net_price
from potrel.core.cost.pricing.card import contribution, gross_price, kept_of, share_of
from potrel.core.errors import Caveat, Problem, caveat
from potrel.core.frozen import dataclass
from potrel.core.kitchen.channels import UNSET, SetPrice
from potrel.core.kitchen.kinds import ZERO
from potrel.core.kitchen.pricing import Pricing
from potrel.core.kitchen.recipes import Recipe
from potrel.core.kitchen.servings import Serving
from potrel.core.numbers.arithmetic import Number, surely, total
from potrel.core.numbers.formula import Many, formula
from potrel.core.numbers.rounding import exceeds, floor, half_even
from potrel.core.pot.balance import Balance
from potrel.core.pot.day_view import DayView
from potrel.core.pot.line_mass import LineMass
from potrel.core.pot.needs import Gathered, Needs, Sub
from potrel.core.sentences import say

# Common practice, no source: less than a taster, or more than a large bowl of stew, is odd.
_USUAL_ML = (Decimal(100), Decimal(600))


@formula("food cost of the batch / portions + sum of served with it")
def food_cost_of(food_cost_of_the_batch: Number, portions: Number, served_with_it: Many) -> Number:
    """The food cost of a portion [money]."""
    return food_cost_of_the_batch / portions + total(served_with_it)


@formula("(attended time / portions + portioning seconds / 60) / 60 * rate an hour")
def cost_of_time(attended_time: Number, portions: Number, portioning_seconds: Number, rate_an_hour: Number) -> Number:
    """What the attended time [min] of a batch comes to a portion [money], with the portioning of each."""
    return (attended_time / portions + portioning_seconds / 60) / 60 * rate_an_hour


@formula("energy of the batch / portions * price a kWh")
def cost_of_energy(energy_of_the_batch: Number, portions: Number, price_a_kWh: Number) -> Number:
    """What the energy of a batch comes to a portion [money]."""
    return energy_of_the_batch / portions * price_a_kWh


@formula("price / (1 + tax rate) * share of sales")
def overhead_of_sales(price: Number, tax_rate: Number, share_of_sales: Number) -> Number:
    """What of a price on the card goes to overhead [money], where that is a share of what is taken net of tax."""
    return price / (1 + tax_rate) * share_of_sales


@formula("food cost * (1 + seasoning allowance)")
def seasoned(food_cost: Number, seasoning_allowance: Number) -> Number:
    """The food cost of a batch [money] with its seasoning."""
    return food_cost * (1 + seasoning_allowance)


@dataclass(frozen=True, slots=True)
class Priced:
    """The price of a portion and what follows from it [money and shares]; None where it is not known.

    `suggested` is the computed price on the card, `price` the one in force: the `set` one where there is one.
    """

    pricing: Pricing | None = None
    net: Number | None = None
    suggested: Number | None = None
    price: Number | None = None
    kept: Number | None = None
    share: Number | None = None
    target: Number | None = None
    contribution: Number | None = None
    set: SetPrice = UNSET


@dataclass(frozen=True, slots=True)
class Portion:
    """One portion of a serving: how many a batch gives, its needs and its cost [money]; None where not known.

    `factor` is what one portion carries of a batch's needs: (1 + seasoning allowance) / portions.
    """

    serving: Serving
    size_g: Number
    by_volume: bool
    portions: Number | None
    extras: Sequence[tuple[str, LineMass | Problem]]
    extra_needs: Needs
    factor: Number | None
    labour_cost: Number | None = None
    energy_cost: Number | None = None
    overhead_cost: Number | None = None
    food_cost: Number | None = None
    priced: Priced = Priced()

    @property
    def whole_portions(self) -> int | None:
        """The whole ones."""
        return None if self.portions is None else int(floor(self.portions))


def portion_of(
    serving: Serving, balance: Balance, needs: Needs, kept: Mapping[str, Number], sub: Sub, view: DayView
) -> Portion:
    """A serving of a recipe, portioned: all of it that does not hang on prices. `kept` is what the pot keeps for garnish."""
    recipe = balance.recipe
    size, portions = size_of(serving, recipe, view), how_many(serving, balance, view)
    extras = tuple((role, given(line, kept, portions, recipe)) for role, line in beside(serving, recipe, view))
    gathered = Gathered(view)
    for _, extra in extras:
        if isinstance(extra, LineMass):
            gathered.add_line(extra, sub)
        elif extra.item is not None:
            gathered.items.setdefault(extra.item, view.zero)
    factor = None if portions is None else (1 + view.allowance(recipe)) / portions
    by_volume = serving.size.kind == "volume"
    times = (None, None, None) if portions is None else _times(serving, recipe.id, needs, portions, view)
    return Portion(serving, size, by_volume, portions, extras, gathered.needs(), factor, *times)


def _times(
    serving: Serving, recipe_id: str, needs: Needs, portions: Number, view: DayView
) -> tuple[Number | None, Number | None, Number | None]:
    """What labour, energy and overhead come to a portion [money]; None where the kitchen has no rate, or no stage says what
    energy it takes.
    """
    settings = view.settings
    seconds = view.ask("portioning", recipe_id, serving.id, serving.portioning_seconds)
    labour = view.setting("labour_rate_per_hour", settings.labour_rate_per_hour)
    told = settings.overhead_told
    overhead = None if told is None else view.setting("overhead_rate_per_hour", told.per_attended_hour)
    each = None if told is None or told.per_portion is None else view.number(told.per_portion)
    energy = view.setting("energy_price_per_kwh", settings.energy_price_per_kwh)
    return (
        None if labour is None else cost_of_time(needs.minutes, portions, seconds, labour),
        None
        if energy is None or not needs.energy_known or surely(needs.energy == 0)
        else cost_of_energy(needs.energy, portions, energy),
        each if overhead is None else cost_of_time(needs.minutes, portions, seconds, overhead),
    )


def costed(portion: Portion, batch: Number, beside: Sequence[Number], complete: bool, view: DayView) -> Portion:
    """A portion with its cost and price: `batch` is the seasoned cost of a batch, `beside` those of the extras [money].

    From the cost of an incomplete recipe nothing is concluded.
    """
    food = None if portion.portions is None else food_cost_of(batch, portion.portions, beside)
    priced, overhead, told = _priced(portion, food, complete, view), portion.overhead_cost, view.settings.overhead_told
    if told is not None and told.share_of_sales is not None:
        tax, share = view.ask("setting", "tax_rate", "", view.settings.tax_rate), view.number(told.share_of_sales)
        overhead = None if priced.price is None else overhead_of_sales(priced.price, tax, share)
    return Portion(
        portion.serving, portion.size_g, portion.by_volume, portion.portions, portion.extras, portion.extra_needs,
        portion.factor, portion.labour_cost, portion.energy_cost, overhead, food, priced,
    )  # fmt: skip


def _priced(portion: Portion, food: Number | None, complete: bool, view: DayView) -> Priced:
    serving, settings, number = portion.serving, view.settings, view.number
    pricing = serving.pricing or usual_pricing(view)
    by_share = pricing is not None and pricing.method == "food_cost_share"
    target = pricing.share if pricing is not None and by_share else settings.target_food_cost
    tax = view.ask("setting", "tax_rate", "", settings.tax_rate)
    commission, known = number(serving.commission), food if complete else None
    net = suggested = kept = share = left = None
    if pricing is not None and known is not None:
        net = net_price(pricing, known, portion.labour_cost, commission, number)
    if net is not None:
        suggested = gross_price(net, tax, settings.price_ending, number)
    in_force = serving.set_price(view.on)
    price = suggested if in_force.price is None else number(in_force.price)
    if price is not None:
        kept = kept_of(price, tax, commission)
    if kept is not None and known is not None:
        share, left = share_of(known, kept), contribution(kept, known)
    return Priced(pricing, net, suggested, price, kept, share, None if target is None else number(target), left, in_force)


def usual_pricing(view: DayView) -> Pricing | None:
    """How a serving is priced that says nothing of it: by the kitchen's target; None where it has none."""
    target = view.settings.target_food_cost
    return None if target is None else _by_target(target)


@cache
def _by_target(target: Decimal) -> Pricing:
    return Pricing("food_cost_share", share=target)


def serving_warnings(portion: Portion, recipe: Recipe) -> list[Caveat]:
    """Warnings where a portion is smaller or larger than kitchens serve, or lacks a rate that its price rests on."""
    serving, (low, high) = portion.serving, _USUAL_ML
    found: list[Caveat] = []
    if not low <= portion.size_g / recipe.density <= high:
        english = "{serving} of {size} is outside the usual {low} to {high} ml of a portion"
        said = say("unusual_size", english, serving=serving.name, size=serving.size, low=low, high=high)
        found.append(caveat(said, serving=serving.id))
    for line in (extra for _, extra in portion.extras if isinstance(extra, LineMass) and extra.line is not None):
        asked = line.line.quantity if line.line is not None and line.recipe == recipe.id else None
        taken_by = ZERO if line.line is None else line.line.taken_by
        if asked is not None and exceeds(asked.grams() * taken_by, line.ep):
            english = "{name}: {asked} are asked for a portion, but only {grams} g are kept for each: keep more of it back"
            said = say("garnish_short", english, name=line.byproduct, asked=asked, grams=half_even(line.ep, 1))
            found.append(caveat(said, serving=serving.id))
    if serving.pricing is not None and needs_labour(serving.pricing) and portion.labour_cost is None:
        english = "{serving} is priced by its labour too, but the kitchen has no labour rate: set one"
        found.append(caveat(say("no_labour_rate", english, serving=serving.name), serving=serving.id))
    return found
