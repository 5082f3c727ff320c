"""Where a cost comes to what is wanted, as one number moves: solved exactly, since a cost is a ratio of what grows evenly."""

from __future__ import annotations

from collections.abc import Callable
from decimal import Decimal
from fractions import Fraction

from potrel.core.numbers.arithmetic import Number

# Gives the cost at a value; None where it is not known.
CostAt = Callable[[Decimal], Number | None]

# What a cost of 28 digits may differ by, and still be the same.
_SAME = Decimal("1e-12")
_HALVINGS = 60


def break_even(
    cost_at: Callable[[Decimal], Number | None], now: Decimal, wanted: Decimal, low: Decimal, high: Decimal
) -> Decimal | None:
    """The value between `low` and `high` at which a cost is `wanted`; None where there is none.

    A cost of a portion is (a + b x) / (1 + d x) in each price, yield, quantity or loss x: three values give a, b and d, and
    these the answer. Where that does not hold (a limit is reached on the way), halving finds it.
    """
    solved = _solved(cost_at, now, wanted, low, high)
    if solved is not None and low <= solved <= high and _is(cost_at(solved), wanted):
        return solved
    return _halved(cost_at, wanted, low, high)


def _is(cost: Number | None, wanted: Decimal) -> bool:
    return cost is not None and abs(cost - wanted) <= abs(wanted) * _SAME


def _solved(
    cost_at: Callable[[Decimal], Number | None], now: Decimal, wanted: Decimal, low: Decimal, high: Decimal
) -> Decimal | None:
    middle = now if low < now < high else (low + high) / 2
    points: list[tuple[Fraction, Fraction]] = []
    for x in ((low + middle) / 2, middle, (middle + high) / 2):
        cost = cost_at(x)
        if cost is None:
            return None
        points.append((Fraction(x), Fraction(cost)))
    # cost * (1 + d x) = a + b x: the differences of two of them leave b and d.
    (x0, c0), (x1, c1), (x2, c2) = points
    rows = [(x1 - x0, c0 * x0 - c1 * x1, c1 - c0), (x2 - x0, c0 * x0 - c2 * x2, c2 - c0)]
    (b0, d0, r0), (b1, d1, r1) = rows
    by = b0 * d1 - b1 * d0
    if by == 0:
        return None
    b, d = (r0 * d1 - r1 * d0) / by, (b0 * r1 - b1 * r0) / by
    a = c0 * (1 + d * x0) - b * x0
    slope = b - Fraction(wanted) * d
    if slope == 0:
        return None
    found = (Fraction(wanted) - a) / slope
    return Decimal(found.numerator) / Decimal(found.denominator)


def _halved(cost_at: CostAt, wanted: Decimal, low: Decimal, high: Decimal) -> Decimal | None:
    at_low, at_high = cost_at(low), cost_at(high)
    if at_low is None or at_high is None or (at_low - wanted) * (at_high - wanted) > 0:
        return None
    rises = at_high > at_low
    for _ in range(_HALVINGS):
        middle = (low + high) / 2
        cost = cost_at(middle)
        if cost is None:
            return None
        low, high = (middle, high) if (cost < wanted) == rises else (low, middle)
    return (low + high) / 2
