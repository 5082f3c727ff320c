"""The one place where a figure is rounded: floors, ceilings, halves and price endings, decided on a value freed of dust.

A decimal of 28 digits that was divided and multiplied a few times is wrong in its last places: an exact 9.80 comes out as
9.800000000000000000000000004, and its ceiling would be one step too high. Freed of dust it is 9.80 again. What lies
further apart than dust is told apart: inputs have 12 places, so two different results that can be reached lie much
further apart than that.
"""

from __future__ import annotations

from collections.abc import Iterable
from decimal import ROUND_CEILING, ROUND_FLOOR, ROUND_HALF_EVEN, ROUND_HALF_UP, Context, Decimal
from fractions import Fraction
from functools import cache
from typing import Any, cast

from potrel.core.numbers.arithmetic import Number, surely

# The engine has 28 digits; what differs in the last eight of them is dust.
_DUSTLESS = Context(prec=20, rounding=ROUND_HALF_EVEN)
_DUST = Decimal("1e-20")
# A draw is a double of 15 to 16 digits.
_DUST_OF_DRAWS = 1e-11
_WIDE = Context(prec=60)


def dustless(value: Decimal) -> Decimal:
    """A value as it would be without the dust of divisions: 20 significant digits.

    >>> dustless(Decimal("9.800000000000000000000000004"))
    Decimal('9.8000000000000000000')
    """
    return _DUSTLESS.plus(value)


def floor(value: Number) -> Number:
    """The largest whole number that is not above a value; an exact 39 that came out as 38.999… is 39.

    >>> floor(Decimal("38.99999999999999999999999999")), floor(Decimal("38.999"))
    (Decimal('39'), Decimal('38'))
    """
    if isinstance(value, Decimal | int):
        return dustless(value).to_integral_value(ROUND_FLOOR)
    if isinstance(value, Fraction):
        return cast(Number, Fraction(value.__floor__()))
    return _whole_draws(value, "floor")


def ceiling(value: Number) -> Number:
    """The smallest whole number that is not below a value.

    >>> ceiling(Decimal("39.00000000000000000000000001")), ceiling(Decimal("39.001"))
    (Decimal('39'), Decimal('40'))
    """
    if isinstance(value, Decimal | int):
        return dustless(value).to_integral_value(ROUND_CEILING)
    if isinstance(value, Fraction):
        return cast(Number, Fraction(value.__ceil__()))
    return _whole_draws(value, "ceil")


def up_to_step(value: Number, step: Number) -> Number:
    """A value taken up to the next multiple of a step; one that is a multiple stays.

    >>> up_to_step(Decimal("2.1056"), Decimal("0.10")), up_to_step(Decimal("9.80000000000000000000000001"), Decimal("0.10"))
    (Decimal('2.20'), Decimal('9.80'))
    """
    return ceiling(value / step) * step


def up_to_cents(value: Number, cents: Iterable[Number]) -> Number:
    """A value taken up to the next one that ends in one of some parts of one; one that ends so stays.

    >>> up_to_cents(Decimal("2.91"), [Decimal("0.90"), Decimal("0.95")]), up_to_cents(Decimal("2.96"), [Decimal("0.90")])
    (Decimal('2.95'), Decimal('3.90'))
    """
    # Freed of dust before the subtraction: 0.90 and dust less 0.90 would be nothing but dust.
    clean = dustless(value) if isinstance(value, Decimal) else value
    ends = [ceiling(clean - cent) + cent for cent in cents]
    if isinstance(value, Decimal | Fraction | int):
        return min(ends)
    import numpy

    return cast(Number, numpy.minimum.reduce(cast(Any, ends)))


def half_up(value: Decimal, places: int) -> Decimal:
    """A value to so many places, halves away from zero: money as it is shown.

    >>> half_up(Decimal("2.105"), 2), half_up(Decimal("-2.105"), 2)
    (Decimal('2.11'), Decimal('-2.11'))
    """
    return _DUSTLESS.plus(value).quantize(_step(places), ROUND_HALF_UP, _WIDE)


def half_even(value: Decimal, places: int) -> Decimal:
    """A value to so many places, halves to the even neighbour: figures as they are written to the cost sheet.

    >>> half_even(Decimal("0.0000005"), 6), half_even(Decimal("0.0000015"), 6)
    (Decimal('0.000000'), Decimal('0.000002'))
    """
    return _DUSTLESS.plus(value).quantize(_step(places), ROUND_HALF_EVEN, _WIDE)


@cache
def _step(places: int) -> Decimal:
    return Decimal(1).scaleb(-places)


def exceeds(value: Number, limit: Number) -> bool:
    """Whether a value lies above a limit by more than dust, in every draw where there are many.

    >>> exceeds(Decimal("0.2800000000000000000000000001"), Decimal("0.28")), exceeds(Decimal("0.2801"), Decimal("0.28"))
    (False, True)
    """
    if isinstance(value, Decimal) and isinstance(limit, Decimal):
        return value > limit and value - limit > max(abs(value), abs(limit)) * _DUST
    return surely(value > limit)


def typical(value: Number) -> Decimal:
    """A number as it is told in words: of many draws the one in the middle.

    >>> typical(Decimal("1.5")), typical(Fraction(1, 4))
    (Decimal('1.5'), Decimal('0.25'))
    """
    if isinstance(value, Decimal):
        return value
    if isinstance(value, Fraction):
        return Decimal(value.numerator) / Decimal(value.denominator)
    import numpy

    return Decimal(repr(float(numpy.median(cast(Any, value)))))


def _whole_draws(values: Any, how: str) -> Number:
    import numpy

    nearest = numpy.rint(values)
    dusty = numpy.abs(values - nearest) <= _DUST_OF_DRAWS * numpy.maximum(1.0, numpy.abs(nearest))
    return cast(Number, numpy.where(dusty, nearest, getattr(numpy, how)(values)))
