"""A price from a target food-cost share."""

from __future__ import annotations

from potrel.core.numbers.arithmetic import Number
from potrel.core.numbers.formula import formula


@formula("food cost / target share / (1 - commission)")
def by_food_cost_share(food_cost: Number, target_share: Number, commission: Number) -> Number:
    """The net price [money] by a target food-cost share; all net of tax."""
    return food_cost / target_share / (1 - commission)
