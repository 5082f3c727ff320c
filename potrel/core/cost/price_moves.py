"""How far prices have moved since a day: what a drift is made of."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Collection, Iterable
from datetime import date
from decimal import Decimal

from potrel.core.frozen import dataclass
from potrel.core.pot.day_view import DayView


@dataclass(frozen=True, slots=True)
class Since:
    """What happened to prices since a day: by item its change [money/g, or a piece], and the items that had no price then."""

    changes: dict[str, Decimal]
    unpriced: frozenset[str]


class PriceMoves:
    """How far each item's price has moved since a day; computed once a day asked for."""

    def __init__(self, view: DayView) -> None:
        self._view = view
        self._days: dict[date, Since] = {}
        self._by_day: list[tuple[date, str]] | None = None

    def since(self, day: date) -> Since:
        """What happened to prices since a day."""
        found = self._days.get(day)
        if found is None:
            found = self._days[day] = self._compute(day, self._newer_than(day))
        return found

    def after(self, view: DayView, items: Collection[str]) -> PriceMoves:
        """The moves in a view that differs in the offers of some items; what others did is taken over."""
        later = PriceMoves(view)
        for day, before in self._days.copy().items():
            again = later._compute(day, items)
            changes = {item: change for item, change in before.changes.items() if item not in items}
            later._days[day] = Since({**changes, **again.changes}, before.unpriced.difference(items) | again.unpriced)
        return later

    def _compute(self, day: date, items: Iterable[str]) -> Since:
        changes: dict[str, Decimal] = {}
        unpriced: set[str] = set()
        for item_id in items:
            now = self._view.prices().get(item_id)
            if now is None:
                continue
            then = self._view.stated_price(item_id, day)
            if then is None:
                unpriced.add(item_id)
            elif then != now:
                changes[item_id] = now - then
        return Since(changes, frozenset(unpriced))

    def _newer_than(self, day: date) -> list[str]:
        """The items of which an offer has begun or ended since a day: nothing else has moved."""
        if self._by_day is None:
            view = self._view
            changed = ((view.history(item).changed_on(view.on), item.id) for item in view.items.values())
            self._by_day = sorted((on, item) for on, item in changed if on is not None)
        place = bisect_right(self._by_day, day, key=_day_of)
        return [item for _, item in self._by_day[place:]]


def _day_of(entry: tuple[date, str]) -> date:
    return entry[0]
