"""A price from prime cost: food and direct labour over their target share."""

from __future__ import annotations

from potrel.core.numbers.arithmetic import Number
from potrel.core.numbers.formula import formula


@formula("(food cost + direct labour) / target share / (1 - commission)")
def by_prime_cost_share(food_cost: Number, direct_labour: Number, target_share: Number, commission: Number) -> Number:
    """The net price [money] by prime cost: food and direct labour over their target share; all net of tax."""
    return (food_cost + direct_labour) / target_share / (1 - commission)
