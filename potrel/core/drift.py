"""Drift: how far the cost of a portion has moved since its price was set, split by the purchase that moved it."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from decimal import Decimal

from potrel.core.costing import Costing, Portion
from potrel.core.fields import ZERO, Computed, On
from potrel.core.kitchen import Part

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
    """Today's cost of a portion less that at the prices of `since` [money]; the parts add up to it.

    `change` is None where an item had no price then: `unpriced` names those.
    """

    since: On
    change: Computed | None
    moved: list[Moved]
    unpriced: list[str]


class PriceMoves:
    """How far each item's price has moved since a day; computed once a day asked for."""

    def __init__(self, costing: Costing) -> None:
        self._costing = costing
        self._moves: dict[date, dict[str, tuple[Decimal, Decimal]]] = {}
        self._unpriced: dict[date, set[str]] = {}

    def since(self, day: date) -> dict[str, tuple[Decimal, Decimal]]:
        """By item whose price moved: the price [money/g] then and now."""
        if day not in self._moves:
            self._compute(day)
        return self._moves[day]

    def unpriced(self, day: date) -> set[str]:
        """The items that have a price now but had none on that day."""
        if day not in self._unpriced:
            self._compute(day)
        return self._unpriced[day]

    def _compute(self, day: date) -> None:
        moves: dict[str, tuple[Decimal, Decimal]] = {}
        unpriced: set[str] = set()
        for item_id in self._costing.facts.items:
            now = self._costing.per_gram(item_id)
            then = self._costing.facts.per_gram(item_id, day)
            if now is not None and then is None:
                unpriced.add(item_id)
            elif now is not None and then is not None and now != then:
                moves[item_id] = (then, now)
        self._moves[day], self._unpriced[day] = moves, unpriced


def drift_of(costing: Costing, recipe_id: str, portion: Portion, moves: PriceMoves) -> Drift | None:
    """The drift of a portion since its price was set; None where no date was noted or its cost is not known."""
    since = portion.serving.price_set_on
    if since is None or portion.factor is None:
        return None
    batch, beside = costing.needs(recipe_id).items, portion.extra_needs.items
    changed, unpriced = moves.since(since), moves.unpriced(since)
    moved: list[Moved] = []
    total = ZERO
    # Of the two sets, walk the smaller: most prices stand still in most weeks.
    few, many = (changed, batch) if len(changed) < len(batch) else (batch, changed)
    touched = [item for item in few if item in many]
    touched += [item for item in beside if item in changed and item not in batch]
    for item in touched:
        was, now = changed[item]
        change = (batch.get(item, ZERO) * portion.factor + beside.get(item, ZERO)) * (now - was)
        total += change
        moved.append(Moved(item, costing.facts.name_of(item), change, was * _THOUSAND, now * _THOUSAND))
    moved.sort(key=lambda part: (-abs(part.change), part.item))
    if unpriced:
        names = sorted(item for item in unpriced if item in batch or item in beside)
        if names:
            return Drift(since, None, moved, names)
    return Drift(since, total, moved, [])


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
        batch, beside = self._costing.needs(recipe_id).items, portion.extra_needs.items
        for item, mass in batch.items():
            need = mass * factor
            if item in beside:
                need += beside[item]
            self._by_item.setdefault(item, []).append((recipe_id, portion, need))
        for item, need in beside.items():
            if item not in batch:
                self._by_item.setdefault(item, []).append((recipe_id, portion, need))

    def servings(self, item_id: str) -> list[tuple[str, Portion, Decimal]]:
        """Each serving that takes an item: recipe, portion, and the AP mass [g] of the item in one portion."""
        return self._by_item.get(item_id, [])

    def repriced(self, item_id: str, change: Decimal) -> list[tuple[str, Portion, Decimal]]:
        """Each such serving with its new cost [money], when the AP price [money/g] of an item changes by `change`."""
        return [
            (recipe_id, portion, (portion.food_cost or ZERO) + need * change)
            for recipe_id, portion, need in self._by_item.get(item_id, [])
        ]
