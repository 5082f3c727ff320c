"""How rough the amount of a line is: told by eye, as a range, or in what nobody weighs exactly."""

from __future__ import annotations

from decimal import Decimal

from potrel.core.buy.weights import measured_by
from potrel.core.frozen import dataclass
from potrel.core.kitchen.kinds import ONE
from potrel.core.kitchen.lines import Line
from potrel.core.kitchen.quantities import range_of
from potrel.core.pot.by_eye import BAND as COVERS
from potrel.core.pot.day_view import DayView


@dataclass(frozen=True, slots=True)
class Rough:
    """The ends of an amount as factors of what is taken, and where they come from, in words."""

    low: Decimal
    high: Decimal
    words: str


def rough_of(line: Line, view: DayView) -> Rough | None:
    """How rough a line is; None where its amount says exactly what it is."""
    if line.by_eye == "cover":
        return Rough(*COVERS, "poured by eye: 30% less to 40% more (common practice, no source)")
    low, high, words = ONE, ONE, []
    quantity, ends = line.quantity, range_of(line.quantity.text)
    if ends is not None:
        low, high = ends[0] / quantity.amount, ends[1] / quantity.amount
        words.append(f"written as {quantity.text}")
    item = view.items.get(line.item or "")
    measured = None if item is None else measured_by(item, quantity.unit)
    # A pinch, a splash, a medium carrot: nobody knows exactly what one weighs.
    one = None if measured is None else measured[1]
    if one is not None and one.low is not None and one.high is not None:
        low, high = low * one.low.grams() / one.grams(), high * one.high.grams() / one.grams()
        words.append(f"1 {quantity.unit} weighs {one.low} to {one.high}, {one.source}")
    return Rough(low, high, "; ".join(words)) if words else None
