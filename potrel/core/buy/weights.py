"""Weights: what a quantity, a piece, a pack of an item weighs; the one place where what was typed becomes grams."""

from __future__ import annotations

import re
from collections.abc import Collection
from decimal import Decimal

from potrel.core.errors import Lack
from potrel.core.kitchen.items import Basis, Item, Measure
from potrel.core.kitchen.kinds import ONE
from potrel.core.kitchen.lines import Line
from potrel.core.kitchen.quantities import Pack, Quantity
from potrel.core.numbers.units import GRAMS, MILLILITRES, MeasureSystem, canonical, kind_of, of_count
from potrel.core.sentences import say

# Which of two volumes is nearer to a third is the same everywhere.
_SIZES = MILLILITRES["us"]
# A box of the trade, by how many of a size fill it: "case of 24", "case of 80-125".
_CASE = re.compile(r"case of (?P<least>[0-9]{1,4})(?:-(?P<most>[0-9]{1,4}))?")
# What a box of produce is counted in; a bunch is one of it.
COUNTED = frozenset({"each", "head", "bunch", "bulb", "ear"})


def weigh(quantity: Quantity, item: Item, system: MeasureSystem) -> Decimal | Lack:
    """The mass [g] of a quantity of an item, or what the item lacks for it.

    A measure of the item wins over its density where both fit, another volume that was weighed in this kitchen too.
    """
    one = weight_of_one(quantity.unit, item, system)
    return one if isinstance(one, Lack) else quantity.amount * one


def weight_of_one(unit: str, item: Item, system: MeasureSystem) -> Decimal | Lack:
    """The mass [g] of one of a canonical unit of an item, or what the item lacks for it."""
    measured = measured_by(item, unit)
    if measured is not None:
        known, measure = measured
        # A cup of it is so many of its teaspoons; those of American data are American ones.
        of = MILLILITRES["us" if measure.is_of_us_data else system]
        return measure.grams() if known == unit else measure.grams() * MILLILITRES[system][unit] / of[known]
    match kind_of(unit):
        case "mass":
            return GRAMS[unit]
        case "volume" if item.density is not None:
            return MILLILITRES[system][unit] * item.density
        case "volume":
            english = "{item} has no density, so 1 {unit} of it has no weight: weigh one and add it to its measures"
            return Lack(say("no_density", english, item=item.name, unit=unit), item.id, unit)
    english = "{item} has no weight for 1 {unit}: weigh one and add it to {item}'s measures"
    return Lack(say("no_weight", english, item=item.name, unit=unit), item.id, unit)


def measure_of(item: Item, unit: str) -> Measure | None:
    """What is noted with an item of one of a canonical unit; None where nothing is."""
    known = {canonical(spelling): one for spelling, one in item.measures.items()}
    if unit in known or of_count(unit) != "each":
        return known.get(unit)
    return next((one for spelling, one in known.items() if of_count(spelling) == "each"), None)


def measured_by(item: Item, unit: str) -> tuple[str, Measure] | None:
    """The measure by which one of a canonical unit of an item is weighed, and its own unit; None where none serves.

    That is the unit's own, else for a volume the nearest one that was weighed in this kitchen; where the item has no density
    either, the nearest of any source, one that was weighed ready to use last.
    """
    own = measure_of(item, unit)
    if own is not None or kind_of(unit) != "volume":
        return None if own is None else (unit, own)
    known = [(canonical(spelling), one) for spelling, one in item.measures.items()]
    volumes = [one for one in known if kind_of(one[0]) == "volume"]
    bought = [one for one in volumes if one[1].basis == "AP"]
    weighed_here = [one for one in bought if one[1].source is None]
    serve = weighed_here or ([] if item.density is not None else bought or volumes)
    return min(serve, key=lambda one: _apart(one[0], unit), default=None)


def _apart(one: str, other: str) -> Decimal:
    """How many times the smaller of two volumes goes into the larger."""
    return max(_SIZES[one], _SIZES[other]) / min(_SIZES[one], _SIZES[other])


def pack_grams(pack: Pack, item: Item, system: MeasureSystem) -> Decimal | Lack:
    """The mass [g] of a whole pack of an item, or what the item lacks for it."""
    inner = inner_grams(pack, item, system)
    return inner if isinstance(inner, Lack) else inner * pack.count


def inner_grams(pack: Pack, item: Item, system: MeasureSystem) -> Decimal | Lack:
    """The mass [g] of one container of a pack as purchased, or what the item lacks for it."""
    counted = as_weighed(pack.inner, item, system)
    if is_ready_by(item, counted.unit):
        english = "1 {unit} of {item} is known only as it is ready to use: weigh one as it is bought, for the pack"
        return Lack(say("only_ready", english, unit=pack.unit, item=item.name), item.id, pack.unit)
    return weigh(counted, item, system)


def as_weighed(inner: Quantity, item: Item, system: MeasureSystem) -> Quantity:
    """What a container of a pack is weighed as: itself, or a case of the trade where it is so many that fill one.

    The smaller they are, the more fill it, so a book's weight of one gives way to the case's; one that was weighed here never.
    The cases of American data are those of American suppliers.
    """
    if of_count(inner.unit) not in COUNTED:
        return inner
    own = measure_of(item, inner.unit)
    if own is not None and own.source is None:
        return inner
    for spelling, measure in item.measures.items():
        case = _CASE.fullmatch(canonical(spelling))
        if case is None or (measure.is_of_us_data and system != "us"):
            continue
        if int(case["least"]) <= inner.amount <= int(case["most"] or case["least"]):
            return Quantity(ONE, canonical(spelling), inner.text)
    return inner


def basis_of(line: Line, item: Item) -> Basis:
    """Whether a line is told as purchased or ready to use: a measure of the ready thing is EP, whatever the line says."""
    return "EP" if is_ready_by(item, line.quantity.unit) else line.basis


def is_ready_by(item: Item, unit: str) -> bool:
    """Whether what is told by a canonical unit of an item is ready to use, as what that measure weighs is."""
    measured = measured_by(item, unit)
    return measured is not None and measured[1].basis == "EP"


class Weights:
    """What things of a kitchen weigh by the measures of a system; each is looked up once, and threads may share it."""

    def __init__(self, system: MeasureSystem) -> None:
        self._system = system
        self._of_one: dict[tuple[str, str], Decimal | Lack] = {}

    def of_one(self, item: Item, unit: str) -> Decimal | Lack:
        """The mass [g] of one of a canonical unit of an item, or what it lacks."""
        key = (item.id, unit)
        weight = self._of_one.get(key)
        if weight is None:
            weight = self._of_one[key] = weight_of_one(unit, item, self._system)
        return weight

    def of(self, item: Item, quantity: Quantity) -> Decimal | Lack:
        """The mass [g] of a quantity of an item, or what the item lacks for it."""
        weight = self.of_one(item, quantity.unit)
        return weight if isinstance(weight, Lack) else quantity.amount * weight

    def of_bulk(self, quantity: Quantity, density: Decimal) -> Decimal:
        """The mass [g] of a mass or volume of something of a density [kg/l]."""
        return quantity.grams() if quantity.kind == "mass" else quantity.millilitres(self._system) * density

    def without(self, items: Collection[str]) -> Weights:
        """These, of which some items are looked up anew."""
        later = Weights(self._system)
        later._of_one = {key: known for key, known in self._of_one.copy().items() if key[0] not in items}
        return later
