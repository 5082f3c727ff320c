"""Drift: how far the cost of a portion has moved since its price was set, split by the purchase that moved it."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date
from decimal import Decimal

from potrel.core.costing import Costing, Portion
from potrel.core.fields import ONE, ZERO, Computed, On
from potrel.core.part import Part

_THOUSAND = Decimal(1000)


@dataclass(frozen=True, slots=True)
class Moved(Part):
    """What one item added to a portion's cost [money], because its AP price [money/kg] went from `was` to `now`."""

    item: str
    name: str
    change: Computed
    was_per_kg: Computed
    now_per_kg: Computed


@dataclass(frozen=True, slots=True)
class Drift(Part):
    """Today's cost of a portion less that at the prices of `since` [money].

    It is the sum of the parts that moved, the largest first, and of `others` that are not told apart.
    `change` is None where an item had no price then: `unpriced` names those.
    """

    since: On
    change: Computed | None
    moved: list[Moved]
    others: Computed
    unpriced: list[str]


@dataclass(slots=True)
class _Since:
    """What happened to prices since a day: by item its change [money/g], and the items that had no price then."""

    changes: dict[str, Decimal]
    unpriced: set[str]


class PriceMoves:
    """How far each item's price has moved since a day; computed once a day asked for."""

    def __init__(self, costing: Costing) -> None:
        self._costing = costing
        self._days: dict[date, _Since] = {}
        self._by_day: list[tuple[date, str]] | None = None

    def since(self, day: date) -> _Since:
        """What happened to prices since a day."""
        found = self._days.get(day)
        if found is None:
            found = self._days[day] = self._compute(day)
        return found

    def _compute(self, day: date) -> _Since:
        found = _Since({}, set())
        per_gram, then_per_gram = self._costing.per_gram, self._costing.facts.per_gram
        # Where no offer has begun or ended since that day, nothing has moved.
        for item_id in self._newer_than(day):
            now = per_gram(item_id)
            if now is None:
                continue
            then = then_per_gram(item_id, day)
            if then is None:
                found.unpriced.add(item_id)
            elif then != now:
                found.changes[item_id] = now - then
        return found

    def _newer_than(self, day: date) -> list[str]:
        if self._by_day is None:
            facts = self._costing.facts
            changed = ((facts.history(item).changed_on(facts.on), item.id) for item in facts.items.values())
            self._by_day = sorted((on, item) for on, item in changed if on is not None)
        place = bisect_right(self._by_day, day, key=_day_of)
        return [item for _, item in self._by_day[place:]]


def _day_of(entry: tuple[date, str]) -> date:
    return entry[0]


def drift_of(costing: Costing, recipe_id: str, portion: Portion, moves: PriceMoves, all_parts: bool = True) -> Drift | None:
    """The drift of a portion since its price was set; None where no date was noted or its cost is not known.

    Where not `all_parts`, only the largest is told apart.
    """
    since = portion.serving.price_set_on
    if since is None or portion.factor is None:
        return None
    happened, factor = moves.since(since), portion.factor
    changes, batch, beside = happened.changes, costing.needs(recipe_id).borne, portion.extra_needs.borne
    # Every portion of a kitchen comes through here for each board: a part is one product, and the factor comes last.
    parts = [(changes[item] * batch[item], item) for item in changes.keys() & batch.keys()]
    if not changes.keys().isdisjoint(beside):
        parts, factor = _with_beside(parts, factor, beside, changes), ONE
    total = sum([change for change, _ in parts], ZERO) * factor
    shown = sorted(parts, key=_size, reverse=True) if all_parts else _largest(parts)
    moved = [_moved(costing, item, change * factor, changes[item]) for change, item in shown]
    others = total - sum([part.change for part in moved], ZERO) if len(shown) < len(parts) else ZERO
    unpriced = happened.unpriced
    if unpriced and not (unpriced.isdisjoint(batch) and unpriced.isdisjoint(beside)):
        names = sorted(item for item in unpriced if item in batch or item in beside)
        return Drift(since, None, moved, others, names)
    return Drift(since, total, moved, others, [])


def _size(part: tuple[Decimal, str]) -> tuple[Decimal, str]:
    return abs(part[0]), part[1]


def _largest(parts: list[tuple[Decimal, str]]) -> list[tuple[Decimal, str]]:
    return [max(max(parts), min(parts), key=_size)] if parts else []


def _with_beside(
    parts: list[tuple[Decimal, str]], factor: Decimal, beside: Mapping[str, Decimal], changes: dict[str, Decimal]
) -> list[tuple[Decimal, str]]:
    """The parts times their factor, with those of what is served beside the pot."""
    by_item = {item: change * factor for change, item in parts}
    for item, mass in beside.items():
        if item in changes:
            by_item[item] = by_item.get(item, ZERO) + changes[item] * mass
    return [(change, item) for item, change in by_item.items()]


def _moved(costing: Costing, item: str, change: Decimal, per_gram: Decimal) -> Moved:
    now = costing.per_gram(item) or ZERO
    return Moved(item, costing.facts.name_of(item), change, (now - per_gram) * _THOUSAND, now * _THOUSAND)


@dataclass(frozen=True, slots=True)
class Effect(Part):
    """What a change does to one serving: cost of a portion [money] and food-cost share, before and after."""

    recipe: str
    name: str
    serving: str
    serving_name: str
    was: Computed | None
    now: Computed | None
    share_was: Computed | None
    share_now: Computed | None
    target: Computed | None


class Reach:
    """Which servings an item reaches, and how much of it a portion takes: a price change carried everywhere at once."""

    def __init__(self, costing: Costing) -> None:
        self._costing = costing
        self._by_item: dict[str, list[tuple[str, Portion, Decimal]]] = {}
        for recipe_id in costing.facts.recipes:
            for portion in costing.portions(recipe_id):
                if portion.factor is not None:
                    self._enter(recipe_id, portion, portion.factor)

    def _enter(self, recipe_id: str, portion: Portion, factor: Decimal) -> None:
        batch, beside = self._costing.needs(recipe_id).borne, portion.extra_needs.borne
        for item, mass in batch.items():
            need = mass * factor
            if item in beside:
                need += beside[item]
            self._by_item.setdefault(item, []).append((recipe_id, portion, need))
        for item, need in beside.items():
            if item not in batch:
                self._by_item.setdefault(item, []).append((recipe_id, portion, need))

    def servings(self, item_id: str) -> list[tuple[str, Portion, Decimal]]:
        """Each serving that takes an item: recipe, portion, and the AP mass [g] whose price a portion bears."""
        return self._by_item.get(item_id, [])

    def repriced(self, item_id: str, change: Decimal) -> list[tuple[str, Portion, Decimal]]:
        """Each such serving with its new cost [money], when the AP price [money/g] of an item changes by `change`."""
        return [
            (recipe_id, portion, (portion.food_cost or ZERO) + need * change)
            for recipe_id, portion, need in self._by_item.get(item_id, [])
        ]
