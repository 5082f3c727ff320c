"""A price from a multiplying factor."""

from __future__ import annotations

from potrel.core.numbers.arithmetic import Number
from potrel.core.numbers.formula import formula


@formula("food cost * factor / (1 - commission)")
def by_factor(food_cost: Number, factor: Number, commission: Number) -> Number:
    """The net price [money] by a multiplying factor; all net of tax."""
    return food_cost * factor / (1 - commission)
