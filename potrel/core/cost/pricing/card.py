"""From a net price to the one on the card and back: tax, commission, the price ending, and what is kept."""

from __future__ import annotations

from potrel.core.kitchen.kinds import ZERO
from potrel.core.kitchen.pricing import PriceEnding
from potrel.core.numbers.arithmetic import Convert, Number, larger, same, surely
from potrel.core.numbers.formula import Many, formula
from potrel.core.numbers.rounding import up_to_cents, up_to_step


@formula("net price * (1 + tax rate)")
def with_tax(net_price: Number, tax_rate: Number) -> Number:
    """The price on the card [money], where prices end as they come."""
    return net_price * (1 + tax_rate)


@formula("net price * (1 + tax rate) taken up to a multiple of step")
def to_a_step(net_price: Number, tax_rate: Number, step: Number) -> Number:
    """The price on the card [money], a multiple of a step."""
    return up_to_step(with_tax(net_price, tax_rate), step)


@formula("net price * (1 + tax rate) taken up to the next of endings")
def to_an_ending(net_price: Number, tax_rate: Number, endings: Many) -> Number:
    """The price on the card [money], ending in given cents."""
    return up_to_cents(with_tax(net_price, tax_rate), endings)


def gross_price(net: Number, tax_rate: Number, ending: PriceEnding | None, number: Convert = same) -> Number:
    """The price on the card [money]: with tax, then up to the price ending.

    >>> from decimal import Decimal
    >>> gross_price(Decimal("2.1056"), Decimal(0), PriceEnding(step=Decimal("0.10")))
    Decimal('2.20')
    """
    return ended(with_tax(net, tax_rate), ending, number)


@formula("price / (1 + tax rate) * (1 - commission)")
def kept_of(price: Number, tax_rate: Number, commission: Number) -> Number:
    """What the kitchen keeps [money] of a price on the card: without tax and commission."""
    return price / (1 + tax_rate) * (1 - commission)


@formula("price / (1 + tax rate) * (1 - commission) + subsidy")
def kept_less_of_net(price: Number, tax_rate: Number, commission: Number, subsidy: Number = ZERO) -> Number:
    """What a channel leaves [money] of a price on the card where its commission is of the price net of tax."""
    return price / (1 + tax_rate) * (1 - commission) + subsidy


@formula("price / (1 + tax rate) - price * commission + subsidy")
def kept_less_of_gross(price: Number, tax_rate: Number, commission: Number, subsidy: Number = ZERO) -> Number:
    """What a channel leaves [money] of a price on the card where its commission is of that price itself."""
    return price / (1 + tax_rate) - price * commission + subsidy


@formula("the larger of (0, to be kept - subsidy) / (1 - commission) * (1 + tax rate)")
def asked_for_of_net(to_be_kept: Number, tax_rate: Number, commission: Number, subsidy: Number = ZERO) -> Number:
    """The price on the card [money] of which so much is kept, before its ending; commission of the price net of tax."""
    return larger(ZERO, to_be_kept - subsidy) / (1 - commission) * (1 + tax_rate)


@formula("the larger of (0, to be kept - subsidy) / (1 / (1 + tax rate) - commission)")
def asked_for_of_gross(to_be_kept: Number, tax_rate: Number, commission: Number, subsidy: Number = ZERO) -> Number:
    """The same where the commission is of the price on the card itself."""
    return larger(ZERO, to_be_kept - subsidy) / (1 / (1 + tax_rate) - commission)


@formula("price taken up to a multiple of step")
def ended_by_a_step(price: Number, step: Number) -> Number:
    """A price [money] as it stands on the card, a multiple of a step."""
    return up_to_step(price, step)


@formula("price taken up to the next of endings")
def ended_by_cents(price: Number, endings: Many) -> Number:
    """A price [money] as it stands on the card, ending in given cents."""
    return up_to_cents(price, endings)


def ended(price: Number, ending: PriceEnding | None, number: Convert = same) -> Number:
    """A price [money] up to its ending; without one it is left."""
    if ending is None:
        return price
    if ending.step is not None:
        return ended_by_a_step(price, number(ending.step))
    return ended_by_cents(price, [number(cent) for cent in ending.cents or ()])


@formula("food cost / kept")
def food_cost_share(food_cost: Number, kept: Number) -> Number:
    """Food cost as a share of what is kept."""
    return food_cost / kept


@formula("1 - food-cost share")
def gross_profit(food__cost_share: Number) -> Number:
    """What is left of the price after food, as a share of what is kept: many kitchens price by it."""
    return 1 - food__cost_share


@formula("kept - food cost")
def contribution(kept: Number, food_cost: Number) -> Number:
    """What is left [money] for all else, after food and packaging."""
    return kept - food_cost


def share_of(food: Number, kept: Number) -> Number | None:
    """Food cost as a share of what is kept; None where nothing is."""
    return food_cost_share(food, kept) if surely(kept > 0) else None
