"""Fresh in the place of dried, jar of clove, ground of seed: as much as is as strong. Common practice, with wide bands."""

from __future__ import annotations

from collections.abc import Iterator
from decimal import Decimal
from functools import cache
from typing import NamedTuple

from potrel.core.kitchen.lines import Line
from potrel.core.numbers.arithmetic import Number
from potrel.core.rooms.exchanges.phrases import Phrases, called, phrases
from potrel.core.rooms.exchanges.ways import Spot, Way, as_strong, ready_to_use, told_mass
from potrel.core.tables import table


class Form(NamedTuple):
    """A form of something that gives taste: how strong a gram of it is beside the others of its group, with its band.

    What has to be soaked brings its filtered liquor: so many grams of water for each gram of it.
    """

    group: str
    words: Phrases
    but: Phrases
    strength: Decimal
    low: Decimal
    high: Decimal
    liquor: Decimal
    mind: str


@cache
def _forms() -> tuple[Form, ...]:
    return tuple(
        Form(row["group"], phrases(row["words"]), phrases(row["but"]), Decimal(row["strength"]), Decimal(row["low"]),
             Decimal(row["high"]), Decimal(row["liquor"] or 0), row["mind"])
        for row in table("strengths.csv")
    )  # fmt: skip


@cache
def form_of(name: str) -> Form | None:
    """The form of a thing by its name: the one of which most words stand in it; None where none is known."""
    found = [(called(name, form.words), form) for form in _forms() if not called(name, form.but)]
    words, best = max(found, key=lambda one: one[0], default=(0, None))
    return best if words else None


def strengths(spot: Spot) -> Iterator[Way]:
    """The line as it stands, and the other forms of the same thing that the kitchen has."""
    name = spot.view.items[spot.line.item or ""].name
    own = form_of(name)
    if own is None:
        return
    yield spot.way(name, [] if spot.line.line is None else [spot.line.line], spot.recipe, own.mind)
    for item in spot.view.items.values():
        form = form_of(item.name)
        if form is None or form.group != own.group or item.id == spot.line.item or item.archived:
            continue
        grams = as_strong(spot.line.ep, spot.view.number(own.strength), spot.view.number(form.strength))
        band = spot.line.ep * own.low / form.high, spot.line.ep * own.high / form.low
        lines = [ready_to_use(item, grams), *_liquor(spot, form, grams)]
        yield spot.way(item.name, lines, spot.with_lines(lines), form.mind, band=band)


def _liquor(spot: Spot, form: Form, grams: Number) -> Iterator[Line]:
    """The liquor of what is soaked, as the water that it was."""
    water = next((item for item in spot.view.items.values() if item.kind == "water" and not item.archived), None)
    if form.liquor and water is not None:
        yield Line(told_mass(grams * spot.view.number(form.liquor)), item=water.id, note="its soaking liquor, filtered")
