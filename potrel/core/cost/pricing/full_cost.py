"""A price from full cost: food and labour, with overhead and profit as shares of the price."""

from __future__ import annotations

from potrel.core.numbers.arithmetic import Number
from potrel.core.numbers.formula import formula


@formula("(food cost + direct labour) / (1 - overhead share - profit share) / (1 - commission)")
def by_full_cost(
    food_cost: Number,
    direct_labour: Number,
    overhead_share: Number,
    profit_share: Number,
    commission: Number,
) -> Number:
    """The net price [money] by full cost: food and labour, with overhead and profit as shares of the price; all net of tax."""
    return (food_cost + direct_labour) / (1 - overhead_share - profit_share) / (1 - commission)
