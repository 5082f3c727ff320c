"""How much water is in what goes into a pot: nothing else can leave it as steam."""

from __future__ import annotations

from potrel.core.numbers.arithmetic import Number, larger
from potrel.core.pot.day_view import DayView
from potrel.core.pot.dry_matter import LIQUIDS
from potrel.core.pot.line_mass import LineMass, nutrient_mass


def is_poured(line: LineMass, view: DayView) -> bool:
    """Whether a line is a liquid that is poured: water, stock, wine, a recipe."""
    item = view.items.get(line.item or "")
    return line.recipe is not None if item is None else item.kind in LIQUIDS


def water_in(line: LineMass, view: DayView) -> Number:
    """The water [g] that a line brings to its stage; a recipe that goes in is a liquid, and counts whole."""
    item = view.items.get(line.item or "")
    if item is None:
        return line.put
    water = line.put - nutrient_mass(line, view) * view.number(view.dry_share(item))
    return larger(water, water * 0)
