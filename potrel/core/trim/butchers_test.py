"""The butcher's test: what a purchase comes to a usable kilo, with the credits for what fell off and what disposal cost."""

from __future__ import annotations

from decimal import Decimal

from potrel.core.frozen import dataclass
from potrel.core.kitchen.bench_tests import BenchTest
from potrel.core.kitchen.kinds import ZERO, Computed
from potrel.core.numbers.arithmetic import Number, total
from potrel.core.numbers.formula import Many, formula


@dataclass(frozen=True, slots=True)
class Butchered:
    """What a butcher's test makes of a purchase [money]: credits, disposal, EP cost, and the factors for a new price.

    `cost_factor` = EP cost per kilo / AP price per kilo: times any AP price it gives the EP cost while values keep step.
    None of what costs nothing.
    """

    paid: Computed
    credits: Computed
    disposal: Computed
    usable_cost: Computed
    usable_per_kg: Computed
    cost_factor: Computed | None


@formula("kilos before * AP price")
def what_was_paid(kilos_before: Number, AP_price: Number) -> Number:
    """What was paid [money] at an AP price [money/kg]."""
    return kilos_before * AP_price


@formula("paid - sum of credits")
def usable_cost(paid: Number, credits: Many) -> Number:
    """What the usable part costs [money]: paid less the value of by-products; paid disposal is a credit below zero."""
    return paid - total(credits)


@formula("cost of the usable part / usable kilos")
def usable_kilo(cost_of_the_usable_part: Number, usable_kilos: Number) -> Number:
    """The EP cost [money/kg]."""
    return cost_of_the_usable_part / usable_kilos


@formula("EP cost / AP price")
def cost_factor(EP_cost: Number, AP_price: Number) -> Number:
    """How many times the AP price a usable kilo costs."""
    return EP_cost / AP_price


def butchered(test: BenchTest, per_kg: Decimal) -> Butchered:
    """A trim or butcher's test at an AP price [money/kg], by-products credited at their value: the textbook's test.

    Usable cost = paid - credits + disposal; with the credits it adds up to what was paid and what disposal cost.
    """
    values = [part.worth for part in test.parts]
    paid = what_was_paid(test.before.grams() / 1000, per_kg)
    usable = usable_cost(paid, values)
    each = usable_kilo(usable, test.after.grams() / 1000)
    return Butchered(
        paid=paid,
        credits=total(value for value in values if value > 0),
        disposal=-total(value for value in values if value < 0),
        usable_cost=usable,
        usable_per_kg=each,
        cost_factor=cost_factor(each, per_kg) if per_kg > ZERO else None,
    )
