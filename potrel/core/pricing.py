"""From cost to selling price: five methods, channel commission, tax and the price ending.

Formulas are the textbook identities of menu mathematics; F is food cost, L direct labour, all net of tax.
"""

from __future__ import annotations

from decimal import ROUND_CEILING, ROUND_FLOOR, Decimal

from potrel.core.fields import ONE, ZERO
from potrel.core.kitchen import PriceEnding, Pricing

_WORDS = {
    "food_cost_share": "food cost / target food-cost share",
    "factor": "food cost * factor",
    "contribution": "food cost + wanted contribution",
    "prime_cost_share": "(food cost + direct labour) / target prime-cost share",
    "full_cost": "(food cost + direct labour) / (1 - overhead share - profit share)",
}


def in_words(pricing: Pricing) -> str:
    """The formula of a pricing method in words."""
    return _WORDS[pricing.method]


def needs_labour(pricing: Pricing) -> bool:
    """Whether a method reckons with direct labour."""
    return pricing.method in ("prime_cost_share", "full_cost")


def net_price(pricing: Pricing, food: Decimal, labour: Decimal | None, commission: Decimal = ZERO) -> Decimal | None:
    """The price [money] before tax and ending; None where the method needs labour and its rate is not known.

    `commission` [share] is what a sales channel keeps of it.

    >>> net_price(Pricing("food_cost_share", share=Decimal("0.25")), Decimal(1), None)
    Decimal('4')
    """
    if needs_labour(pricing) and labour is None:
        return None
    cost = food + (labour or ZERO)
    match pricing.method:
        case "food_cost_share":
            price = food / (pricing.share or ONE)
        case "factor":
            price = food * (pricing.factor or ONE)
        case "contribution":
            price = food + (pricing.amount or ZERO)
        case "prime_cost_share":
            price = cost / (pricing.share or ONE)
        case "full_cost":
            price = cost / (ONE - (pricing.overhead_share or ZERO) - (pricing.profit_share or ZERO))
    return price / (ONE - commission)


def gross_price(net: Decimal, tax_rate: Decimal, ending: PriceEnding | None) -> Decimal:
    """The price on the card [money]: with tax, then up to the price ending."""
    return with_ending(net * (ONE + tax_rate), ending)


def with_ending(price: Decimal, ending: PriceEnding | None) -> Decimal:
    """A price [money] taken up to its ending; one that has the ending already stays.

    >>> with_ending(Decimal("2.1056"), PriceEnding(step=Decimal("0.10")))
    Decimal('2.20')
    >>> with_ending(Decimal("2.91"), PriceEnding(cents=(Decimal("0.90"), Decimal("0.95"))))
    Decimal('2.95')
    """
    if ending is None:
        return price
    if ending.step is not None:
        return (price / ending.step).to_integral_value(ROUND_CEILING) * ending.step
    whole = price.to_integral_value(ROUND_FLOOR)
    return min(w + cent for w in (whole, whole + 1) for cent in ending.cents or () if w + cent >= price)


def kept_of(price: Decimal, tax_rate: Decimal, commission: Decimal) -> Decimal:
    """What the kitchen keeps [money] of a price on the card: without tax and commission."""
    return price / (ONE + tax_rate) * (ONE - commission)


def food_cost_share(food: Decimal, kept: Decimal) -> Decimal | None:
    """Food cost as a share of what is kept; None where nothing is."""
    return food / kept if kept > 0 else None
