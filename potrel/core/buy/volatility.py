"""How much a price moves from month to month: by its own last year, else that of its kind, else what is usual."""

from __future__ import annotations

import statistics
from collections.abc import Iterable
from datetime import date
from decimal import Decimal
from itertools import pairwise

from potrel.core.buy.purchase import History
from potrel.core.frozen import dataclass
from potrel.core.kitchen.items import Item
from potrel.core.kitchen.kinds import ZERO

# The spread of the monthly change of a price of which nothing is known. Common practice, no source.
USUAL = Decimal("0.08")
_ENOUGH = 4
_MONTHS = 12


def spread_over(monthly_spread: Decimal, days: Decimal) -> Decimal:
    """By how much a price may have moved after some days [standard deviation of its logarithm]; at 0 days it is certain."""
    return monthly_spread * (days / 30).sqrt()


@dataclass(frozen=True, slots=True)
class Volatility:
    """The spread of the monthly changes of a price [standard deviation of their logarithms], and what it is known by."""

    monthly: Decimal
    by: str


def monthly_changes(history: History, today: date) -> list[Decimal]:
    """The logarithms of the changes of a price from month to month over the last year, in months that recorded one.

    A price that nobody recorded anew says nothing of how it moves: its month is left out.
    """
    days = [_months_before(today, back) for back in range(_MONTHS, -1, -1)]
    found: list[Decimal] = []
    for before, after in pairwise(days):
        old, new = history.on(before), history.on(after)
        if old is None or new is None or not _recorded(history, before, after):
            continue
        was, is_ = old.of_one, new.of_one
        if was is not None and is_ is not None and was > 0 and is_ > 0:
            found.append((is_ / was).ln())
    return found


def _recorded(history: History, before: date, after: date) -> bool:
    return any(before < price.offer.on <= after for price in history.prices)


def _months_before(today: date, months: int) -> date:
    """The same day of an earlier month, or the last one that it has."""
    month = today.month - 1 - months
    year, month = today.year + month // 12, month % 12 + 1
    for day in range(today.day, 27, -1):
        try:
            return date(year, month, day)
        except ValueError:
            continue
    return date(year, month, min(today.day, 28))


def volatility_of(item: Item, own: list[Decimal], of_kind: Iterable[list[Decimal]]) -> Volatility:
    """How much an item's price moves, by its own monthly changes, and those of each item of its kind."""
    if len(own) >= _ENOUGH:
        return Volatility(statistics.stdev(own), f"{len(own)} monthly changes of its own")
    known = [statistics.variance(changes) for changes in of_kind if len(changes) >= _ENOUGH]
    if known:
        spread = statistics.mean(known).sqrt()
        return Volatility(spread, f"the changes of {len(known)} other of its kind ({item.kind})")
    return Volatility(USUAL, "8% a month: what is usual where nobody knows (common practice, no source)")


def is_certain(volatility: Volatility, days: Decimal) -> bool:
    """Whether a price is taken as certain: over no days, or where it never moved."""
    return ZERO in (days, volatility.monthly)
