"""Student's t, from SciPy: the one module that imports it, and only when an interval is asked for."""

from __future__ import annotations

from decimal import Decimal
from functools import cache


@cache
def t95(degrees: int) -> Decimal:
    """Student's t for a two-sided interval of 95% with so many degrees of freedom [1 and up], to six places.

    Source: `scipy.special.stdtrit`, the inverse of Student's distribution.

    >>> t95(4), t95(1000)
    (Decimal('2.776445'), Decimal('1.962339'))
    """
    # Half a second of import that nobody waits for who asks for no interval.
    from scipy.special import stdtrit

    return Decimal(f"{float(stdtrit(degrees, 0.975)):.6f}")
