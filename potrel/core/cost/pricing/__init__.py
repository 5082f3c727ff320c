"""From cost to selling price: five schools, a file each; then commission, tax and the price ending.

Formulas are the textbook identities of menu mathematics; F is food cost, L direct labour, all net of tax.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from potrel.core.cost.pricing import contribution, factor, food_cost_share, full_cost, prime_cost_share
from potrel.core.kitchen.pricing import Pricing, PricingMethod
from potrel.core.numbers.arithmetic import Convert, Number, same

_SCHOOLS: dict[PricingMethod, Callable[..., Number]] = {
    "food_cost_share": food_cost_share.by_food_cost_share,
    "factor": factor.by_factor,
    "contribution": contribution.by_contribution,
    "prime_cost_share": prime_cost_share.by_prime_cost_share,
    "full_cost": full_cost.by_full_cost,
}
# The terms of a pricing by the names under which its school's formula takes them.
TERMS: dict[str, str] = {
    "share": "target_share",
    "factor": "factor",
    "amount": "wanted_contribution",
    "overhead_share": "overhead_share",
    "profit_share": "profit_share",
}


def school(pricing: Pricing) -> Callable[..., Number]:
    """The formula of a pricing: what has to be kept of a portion [money]."""
    return _SCHOOLS[pricing.method]


def terms_of(pricing: Pricing, number: Convert = same) -> dict[str, Number]:
    """The terms of a pricing, by the names under which its formula takes them."""
    return {name: number(term) for key, name in TERMS.items() if (term := getattr(pricing, key)) is not None}


def needs_labour(pricing: Pricing) -> bool:
    """Whether a method reckons with direct labour."""
    return pricing.method in ("prime_cost_share", "full_cost")


def net_price(
    pricing: Pricing, food: Number, labour: Number | None, commission: Number, number: Convert = same
) -> Number | None:
    """The price [money] before tax and ending; None where the method needs labour and its rate is not known.

    `commission` [share] is what a sales channel keeps of it.

    >>> from decimal import Decimal
    >>> net_price(Pricing("food_cost_share", share=Decimal("0.25")), Decimal(1), None, Decimal(0))
    Decimal('4')
    """
    costs: dict[str, Any] = {"food_cost": food}
    if needs_labour(pricing):
        if labour is None:
            return None
        costs["direct_labour"] = labour
    return school(pricing)(**costs, **terms_of(pricing, number), commission=commission)
