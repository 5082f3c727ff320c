"""What a price does over the year: the mean of each calendar month beside the mean of all."""

from __future__ import annotations

from datetime import date, timedelta
from decimal import Decimal

from potrel.core.buy.purchase import History
from potrel.core.frozen import dataclass
from potrel.core.kitchen.kinds import Computed

_YEAR = timedelta(days=365)
_DAYS = (1, 11, 21)


@dataclass(frozen=True, slots=True)
class Season:
    """For each month from January the mean price as a share of the year's mean (1 is the mean), over so many years."""

    months: list[Computed]
    cheapest: int
    dearest: int
    years: Computed


def season_of(history: History, today: date) -> Season | None:
    """The seasons of an item's price in force on three days of each month; None before there is a year of prices."""
    known = [price.offer.on for price in history.prices if price.per_gram is not None]
    if not known or today - known[0] < _YEAR:
        return None
    by_month: list[list[Decimal]] = [[] for _ in range(12)]
    for year in range(known[0].year, today.year + 1):
        for month in range(1, 13):
            for day in (date(year, month, number) for number in _DAYS):
                price = history.on(day) if known[0] <= day <= today else None
                if price is not None and price.per_gram is not None:
                    by_month[month - 1].append(price.per_gram)
    if not all(by_month):
        return None
    means = [sum(prices, Decimal(0)) / len(prices) for prices in by_month]
    whole = sum(means, Decimal(0)) / 12
    if whole == 0:
        return None
    shares = [mean / whole for mean in means]
    years = Decimal((today - known[0]).days) / Decimal("365.25")
    return Season(shares, shares.index(min(shares)) + 1, shares.index(max(shares)) + 1, years)
