"""How recipes stood when prices were set: what a changed recipe did to the cost of a portion since then."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Callable, Mapping, Sequence
from dataclasses import field
from datetime import date, datetime
from decimal import Decimal
from typing import NamedTuple

from potrel.core.frozen import dataclass
from potrel.core.kitchen.channels import SetPrice
from potrel.core.kitchen.recipes import Recipe


class PriceSet(NamedTuple):
    """The moment at which a price of a serving was saved, with the price and its day as they were saved."""

    price: Decimal
    on: date
    moment: datetime


# A version of a recipe, read when it is first asked for; None where it cannot be understood any more.
Version = Callable[[], Recipe | None]


@dataclass(frozen=True, slots=True)
class Earlier:
    """By recipe and serving, when its price was set; by recipe, its versions with the moment from which each held, in order.

    A recipe of which nothing is told stands as it always stood.
    """

    prices: Mapping[tuple[str, str], PriceSet] = field(default_factory=dict)
    versions: Mapping[str, Sequence[tuple[datetime, Version]]] = field(default_factory=dict)

    def set_at(self, recipe_id: str, serving_id: str, price: SetPrice) -> datetime | None:
        """The moment at which the price of a serving was saved; None where that is not known, or it is another price now."""
        known = self.prices.get((recipe_id, serving_id))
        if known is None or (known.price, known.on) != price:
            return None
        return known.moment

    def at(self, moment: datetime) -> dict[str, Recipe | None]:
        """Of all recipes of which something is told, how they stood at a moment; None for one that nobody understands."""
        found: dict[str, Recipe | None] = {}
        for recipe_id, versions in self.versions.items():
            place = bisect_right(versions, moment, key=_moment)
            if place > 0:
                found[recipe_id] = versions[place - 1][1]()
        return found


def _moment(version: tuple[datetime, Version]) -> datetime:
    return version[0]
