"""What a thing holds: salt, nutrients, alcohol; and what of it nobody knows, as far as that matters."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import field, replace
from decimal import Decimal

from potrel.core.frozen import dataclass
from potrel.core.kitchen.composition import ALCOHOL_DENSITY, NUTRIENTS
from potrel.core.kitchen.items import Item
from potrel.core.kitchen.kinds import ZERO
from potrel.core.numbers.arithmetic import Number, surely, total
from potrel.core.pot.alcohol import Spirit
from potrel.core.pot.day_view import DayView
from potrel.core.pot.line_mass import LineMass, flesh_of

# Of less of the mass put in than this share it matters not what it holds.
TRACE = Decimal("0.01")
SALT, ALCOHOL, THICKENING = "salt_g", "alcohol_g", "thickening"
HELD = (SALT, *NUTRIENTS)
_DRINKS = frozenset({"wine", "spirit", "spirits", "beer"})


@dataclass(frozen=True, slots=True)
class Held:
    """What something holds: salt [g], nutrients [g, kcal], and its alcohol; `lacks` are the items whose value is not known."""

    amounts: Mapping[str, Number]
    lacks: Mapping[str, frozenset[str]] = field(default_factory=dict)
    spirits: tuple[Spirit, ...] = ()

    def of(self, name: str) -> Number | None:
        """So much of one thing; None where an item lacks it."""
        return None if self.lacks.get(name) else self.amounts.get(name, ZERO)

    def times(self, share: Number) -> Held:
        """So much of it."""
        amounts = {name: amount * share for name, amount in self.amounts.items()}
        return Held(amounts, self.lacks, tuple(replace(one, grams=one.grams * share) for one in self.spirits))


def together(parts: Iterable[Held]) -> Held:
    """All of some parts."""
    amounts: dict[str, Number] = {}
    lacks: dict[str, frozenset[str]] = {}
    spirits: list[Spirit] = []
    for part in parts:
        for name, amount in part.amounts.items():
            amounts[name] = amounts[name] + amount if name in amounts else amount
        for name, items in part.lacks.items():
            lacks[name] = lacks.get(name, frozenset()) | items
        spirits += part.spirits
    return Held(amounts, lacks, tuple(spirits))


def alcohol_of(spirits: Iterable[Spirit], zero: Number) -> Number:
    """What is left of some alcohol [g]."""
    return zero + total([one.grams * one.kept for one in spirits])


@dataclass(frozen=True, slots=True)
class Lacking:
    """Of each thing what share of the mass put in does not say how much it holds, and which items these are.

    Where that is less than a hundredth they count as holding none, and are `traces`.
    """

    shares: Mapping[str, Number]
    items: Mapping[str, frozenset[str]]

    @property
    def traces(self) -> dict[str, frozenset[str]]:
        """The items of which nobody knows how much they hold, and too little went in to matter."""
        return {name: items for name, items in self.items.items() if surely(self.shares[name] < TRACE)}


def unknown_of(of: str) -> Held:
    """Of something of which nothing is known."""
    return Held({}, {name: frozenset({of}) for name in (*HELD, ALCOHOL)})


def held_of(line: LineMass, item: Item, view: DayView) -> Held:
    """What a line of an item holds: its flesh, and of its salt what its preparations have not drawn out."""
    held, kept = held_by(item, flesh_of(line, view), view), view.one
    for name in () if line.line is None or line.byproduct is not None else line.line.preparations:
        preparation = view.preparation(item, name)
        if preparation is not None and preparation.salt_kept is not None:
            kept = kept * view.number(preparation.salt_kept)
    if SALT not in held.amounts or not surely(kept < 1):
        return held
    return replace(held, amounts={**held.amounts, SALT: held.amounts[SALT] * kept})


def lacking_of(line: LineMass, of_recipe: Callable[[str], Lacking], view: DayView) -> Mapping[str, Number]:
    """The share of a line that lacks a value, by its name: all of an item, of a recipe what lacks there."""
    if line.recipe is not None:
        return of_recipe(line.recipe).shares
    item = view.items.get(line.item or "")
    return dict.fromkeys((*HELD, ALCOHOL) if item is None else lacks_of(item), view.one)


def lacks_of(item: Item) -> frozenset[str]:
    """What of an item nobody knows: the names of what it may hold. Water holds nothing."""
    if item.kind == "water":
        return frozenset()
    unknown = {name for name, value in item.composition.values() if value is None}
    return frozenset(unknown | _no_strength_of_drink(item).keys())


def lacking_in(parts: Iterable[tuple[str, Number, Mapping[str, Number]]], whole: Number) -> Lacking:
    """Of things with their mass [g], and the share of each that lacks a value by its name, what lacks of a whole mass [g]."""
    masses: dict[str, Number] = {}
    items: dict[str, frozenset[str]] = {}
    for item, mass, lacks in parts:
        for name, share in lacks.items():
            masses[name] = masses[name] + mass * share if name in masses else mass * share
            items[name] = items.get(name, frozenset()) | {item}
    shares = {name: mass / whole if surely(whole > 0) else mass * 0 + 1 for name, mass in masses.items()}
    return Lacking(shares, items)


def without(held: Held, traces: Mapping[str, frozenset[str]]) -> Held:
    """What something holds, where it counts as holding none of what is but a trace."""
    if not traces or held.lacks.keys().isdisjoint(traces):
        return held
    return replace(held, lacks={name: items for name, items in held.lacks.items() if name not in traces})


def held_by(item: Item, grams: Number, view: DayView) -> Held:
    """What so much [g] of an item's edible portion holds. Water holds nothing."""
    if item.kind == "water":
        return Held(dict.fromkeys(HELD, view.zero))
    amounts: dict[str, Number] = {}
    lacks: dict[str, frozenset[str]] = {}
    for name, value in item.composition.values():
        if value is None:
            lacks[name] = frozenset({item.id})
        else:
            amounts[name] = grams * view.number(value) / 100
    return Held(amounts, lacks | _no_strength_of_drink(item), _spirit(item, grams, view))


def _no_strength_of_drink(item: Item) -> dict[str, frozenset[str]]:
    """Of a drink without its strength, or whose volume is not known, nobody knows the alcohol."""
    abv = item.composition.abv
    unknown = item.kind in _DRINKS if abv is None else abv > 0 and item.density is None
    return {ALCOHOL: frozenset({item.id})} if unknown else {}


def _spirit(item: Item, grams: Number, view: DayView) -> tuple[Spirit, ...]:
    abv = item.composition.abv
    if not abv or item.density is None:
        return ()
    return (Spirit(grams / view.number(item.density) * view.number(abv * ALCOHOL_DENSITY)),)
