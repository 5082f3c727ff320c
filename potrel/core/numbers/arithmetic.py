"""The few operations that plain arithmetic does not spell alike for a decimal, a fraction and an array of draws.

The engine is written in + - * / and these, so one code costs a certain pot (Decimal), checks itself exactly
(Fraction) and costs ten thousand uncertain pots at once (NumPy arrays, one element a draw).
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from decimal import Decimal
from fractions import Fraction
from typing import Any, cast

# A number of the engine. Typed as Decimal, which is what all callers but tests and simulations use.
Number = Decimal
Convert = Callable[[Decimal], Number]
_EXACT = Decimal | Fraction | int


def same(value: Decimal) -> Decimal:
    """The conversion of an engine that runs on plain decimals: none."""
    return value


def total(values: Iterable[Number]) -> Number:
    """The sum of some numbers; of none it is 0."""
    return cast(Number, sum(values))


def product(values: Iterable[Number], of: Number) -> Number:
    """A number times all of some others."""
    for one in values:
        of = of * one
    return of


def smaller(a: Number, b: Number) -> Number:
    """The smaller of two numbers, draw by draw."""
    if isinstance(a, _EXACT) and isinstance(b, _EXACT):
        return min(a, b)
    import numpy

    return cast(Number, numpy.minimum(a, b))


def larger(a: Number, b: Number) -> Number:
    """The larger of two numbers, draw by draw."""
    if isinstance(a, _EXACT) and isinstance(b, _EXACT):
        return max(a, b)
    import numpy

    return cast(Number, numpy.maximum(a, b))


def surely(condition: Any) -> bool:
    """Whether a comparison holds, in every draw where there are many."""
    if isinstance(condition, bool):
        return condition
    return bool(condition.all())
