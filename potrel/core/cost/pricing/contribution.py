"""A price from cost plus a wanted contribution."""

from __future__ import annotations

from potrel.core.numbers.arithmetic import Number
from potrel.core.numbers.formula import formula


@formula("(food cost + wanted contribution) / (1 - commission)")
def by_contribution(food_cost: Number, wanted_contribution: Number, commission: Number) -> Number:
    """The net price [money] by cost plus a wanted contribution; all net of tax."""
    return (food_cost + wanted_contribution) / (1 - commission)
