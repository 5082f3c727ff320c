"""What a portion costs in full where it is sold, and what is left of a price there: formulas and the terms of a channel."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from decimal import Decimal

from potrel.core.cost.portion import usual_pricing
from potrel.core.cost.pricing.card import (
    asked_for_of_gross,
    asked_for_of_net,
    ended,
    kept_less_of_gross,
    kept_less_of_net,
)
from potrel.core.errors import Problem
from potrel.core.frozen import dataclass
from potrel.core.kitchen.channels import Channel, CommissionOf
from potrel.core.kitchen.kinds import ZERO
from potrel.core.kitchen.lines import Line
from potrel.core.kitchen.pricing import PriceEnding, Pricing, PricingMethod
from potrel.core.kitchen.recipes import Recipe
from potrel.core.kitchen.servings import Serving
from potrel.core.numbers.arithmetic import Number, total
from potrel.core.numbers.formula import Many, formula
from potrel.core.numbers.rounding import ceiling
from potrel.core.pot.day_view import DayView
from potrel.core.pot.line_mass import LineMass, line_mass

# The kitchen's own channel, where a path names one: no id begins so.
OWN = "-"


@formula("food cost - sum of packaging")
def food_alone(food_cost: Number, packaging: Many) -> Number:
    """The food of a portion [money] without what it is packed in."""
    return food_cost - total(packaging)


@formula("food cost + sum of packaging")
def food_in_channel(food_cost: Number, packaging: Many) -> Number:
    """The food cost of a portion [money] with what a channel packs it in."""
    return food_cost + total(packaging)


@formula("sum of packaging")
def all_packaging(packaging: Many) -> Number:
    """What a portion is packed in [money]."""
    return total(packaging)


@formula("sum of costs")
def full_cost(costs: Many) -> Number:
    """All that a portion costs [money]: food, packaging, labour, energy, overhead."""
    return total(costs)


@formula("attended time / portions + portioning seconds / 60")
def minutes_of_portion(attended_time: Number, portions: Number, portioning_seconds: Number) -> Number:
    """The attended minutes of a portion."""
    return attended_time / portions + portioning_seconds / 60


@formula("contribution / minutes")
def per_minute(contribution: Number, minutes: Number) -> Number:
    """What a minute of somebody's work brings in [money]."""
    return contribution / minutes


@formula("contribution - sum of costs")
def profit(contribution: Number, costs: Many) -> Number:
    """What is left of a portion [money] after labour, energy and overhead."""
    return contribution - total(costs)


@formula("fixed cost / contribution taken up to a multiple of 1")
def portions_to_break_even(fixed_cost: Number, contribution: Number) -> Number:
    """How many portions have to be sold until what they leave pays for what is spent anyhow."""
    return ceiling(fixed_cost / contribution)


@formula("fixed cost / portions + food cost")
def kept_to_break_even(fixed_cost: Number, portions: Number, food_cost: Number) -> Number:
    """What has to be kept of a portion [money] to break even at so many of them."""
    return fixed_cost / portions + food_cost


@dataclass(frozen=True, slots=True)
class ChannelTerms:
    """What a channel takes and adds: its own terms, else the kitchen's. Shares, and `subsidy` in money.

    `own_tax` and `own_ending` tell which of both are its own.
    """

    id: str | None
    name: str
    tax: Decimal
    commission: Decimal
    commission_of: CommissionOf
    subsidy: Decimal
    deposit: Decimal | None
    ending: PriceEnding | None
    packaging: tuple[Line, ...]
    own_tax: bool = False
    own_ending: bool = False

    @property
    def kept_by(self) -> Callable[..., Number]:
        """The formula of what is kept of a price here."""
        return kept_less_of_gross if self.commission_of == "gross" else kept_less_of_net

    @property
    def asked_by(self) -> Callable[..., Number]:
        """The formula of the price, before its ending, of which so much is kept here."""
        return asked_for_of_gross if self.commission_of == "gross" else asked_for_of_net

    def kept(self, price: Decimal, *, subsidised: bool = True) -> Decimal:
        """What is kept of a price on the card [money]; what is sold beside a portion is not `subsidised`."""
        return self.kept_by(price, self.tax, self.commission, self.subsidy if subsidised else ZERO)

    def price_to_keep(self, keep: Decimal) -> Decimal:
        """The price on the card [money] of which so much is kept, with its ending."""
        return ended(self.asked_by(keep, self.tax, self.commission, self.subsidy), self.ending)


def terms_in(channel: Channel | None, serving: Serving, view: DayView) -> ChannelTerms:
    """The terms on which a serving is sold in a channel; None is the kitchen's own, where the serving's commission holds."""
    return terms_of_channel(channel, serving.commission, view)


def terms_of_channel(channel: Channel | None, commission: Decimal, view: DayView) -> ChannelTerms:
    """The terms of a channel; `commission` is that of the kitchen's own."""
    settings = view.settings
    if channel is None:
        return ChannelTerms(None, "here", settings.tax_rate, commission, "net", ZERO, None, settings.price_ending, ())
    tax = settings.tax_rate if channel.tax_rate is None else channel.tax_rate
    ending = settings.price_ending if channel.price_ending == "kitchen" else channel.price_ending
    return ChannelTerms(
        channel.id, channel.name, tax, channel.commission, channel.commission_of or "net", channel.subsidy, channel.deposit,
        ending, channel.packaging, channel.tax_rate is not None, channel.price_ending != "kitchen",
    )  # fmt: skip


def packed_in(terms: ChannelTerms, view: DayView) -> Iterator[LineMass | Problem]:
    """What a channel packs each portion in."""
    for place, line in enumerate(terms.packaging, 1):
        found = line_mass(line, line.id or f"packaging-{place}", f"channel/{terms.id}", None, view)
        yield found if isinstance(found, Problem) or line.taken_by == 1 else found.times(view.number(line.taken_by))


def pricing_of(method: PricingMethod, serving: Serving, recipe: Recipe, view: DayView) -> tuple[Pricing, str] | None:
    """The terms of a school for a serving, and whose they are: the serving's, the recipe's, or the kitchen's."""
    if serving.pricing is not None and serving.pricing.method == method:
        return serving.pricing, "serving"
    usual = usual_pricing(view)
    if serving.pricing is None and usual is not None and usual.method == method:
        # What decides, where nobody chose: the kitchen's target.
        return usual, "kitchen"
    for whose, pricings in (("recipe", recipe.pricings), ("kitchen", view.settings.pricings)):
        for pricing in pricings:
            if pricing.method == method:
                return pricing, whose
    return (usual, "kitchen") if usual is not None and usual.method == method else None
