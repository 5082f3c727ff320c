"""Liquid by eye: how much covers what lies in a pot. A cook pours and corrects it: an estimate, with a wide band."""

from __future__ import annotations

import re
from collections.abc import Iterator
from decimal import Decimal

from potrel.core.frozen import dataclass
from potrel.core.kitchen.kinds import plain
from potrel.core.kitchen.lines import ByEye, Line
from potrel.core.kitchen.recipes import Recipe, Stage
from potrel.core.numbers.arithmetic import Number, larger, surely, total
from potrel.core.numbers.formula import Many, formula
from potrel.core.numbers.rounding import half_even, typical
from potrel.core.numbers.units import MILLILITRES
from potrel.core.pot.balance import balance_of, reach
from potrel.core.pot.day_view import DayView
from potrel.core.pot.line_mass import LineMass
from potrel.core.sentences import Sentence, say

# Common practice, no source: the share of a heap that is gaps, how heavy a litre of it is [kg], a finger over it [m].
GAPS = Decimal("0.4")
BULK_DENSITY = Decimal("0.6")
A_FINGER = Decimal("0.015")
# The band of what covers, as shares of it.
BAND = (Decimal("0.7"), Decimal("1.4"))
_THOUSAND = Decimal(1000)
_SOLID = frozenset({"vegetable", "root", "allium", "fruit", "meat", "fish", "bones", "pulse", "nut", "bread", "herb"})
_LIQUID = frozenset({"water", "stock", "wine"})
_SAID = re.compile(r"[,;]?\s*\b(?:just |enough )?to (cover|thin)(?: (?:it|them))?\s*$", re.IGNORECASE)


@formula("the larger of (0, sum of heaps * share of gaps + finger * surface * 1000 - sum of liquid)")
def covering(heaps: Many, share_of_gaps: Number, finger: Number, surface: Number, liquid: Many) -> Number:
    """What covers some heaps [l]: the gaps in them and a finger [m] over the surface [m2], less what liquid is there."""
    litres = total(heaps) * share_of_gaps + finger * surface * 1000 - total(liquid)
    return larger(litres * 0, litres)


@dataclass(frozen=True, slots=True)
class Cover:
    """What covers the solids of a stage [l], and what it was reckoned from: heaps [l], the surface [m2], liquid there [l]."""

    litres: Number
    heaps: tuple[tuple[LineMass, Number], ...]
    surface: Decimal
    liquid: tuple[tuple[LineMass, Number], ...]

    @property
    def band(self) -> tuple[Number, Number]:
        """The least and the most that may cover it [l]."""
        return self.litres * BAND[0], self.litres * BAND[1]


def by_eye_of(text: str) -> tuple[str, ByEye | None]:
    """A typed line without "to cover" or "to thin" at its end, and which of the two that was.

    >>> by_eye_of("water to cover"), by_eye_of("1 l stock, to thin"), by_eye_of("3 kg leeks")
    (('water', 'cover'), ('1 l stock', 'thin'), ('3 kg leeks', None))
    """
    said = _SAID.search(text.strip())
    if said is None:
        return text, None
    return text.strip()[: said.start()], "cover" if said.group(1).lower() == "cover" else "thin"


def cover_of(recipe: Recipe, stage: Stage, view: DayView) -> Cover | Sentence:
    """What covers the solids of a stage, or what has to be said to know that."""
    vessel = view.vessels.get(stage.vessel or "")
    surface = None if vessel is None else vessel.open_surface
    if surface is None:
        english = "to reckon what covers it, say in which vessel it lies and how wide that is; or type the litres"
        return say("cover_how_wide", english)
    balance = balance_of(recipe, view)
    here, finger = reach(recipe.stages, stage, view), view.number(A_FINGER)
    lines = [line for line in balance.lines if line.stage in here and line.known and not _is_by_eye(line)]
    heaps = tuple((line, heap) for line in lines for heap in _heap(line, here[line.stage], view))
    if not heaps:
        return say("cover_what", "there is nothing in this stage yet that liquid could cover: put that in first")
    liquid = tuple((line, litres) for line in lines for litres in _liquid(line, here[line.stage], view))
    litres = covering([one for _, one in heaps], view.number(GAPS), finger, view.number(surface), [one for _, one in liquid])
    return Cover(litres, heaps, surface, liquid)


def _is_by_eye(line: LineMass) -> bool:
    return line.line is not None and line.line.by_eye is not None


def _heap(line: LineMass, share: Number, view: DayView) -> Iterator[Number]:
    """The volume [l] of a line as it lies; nothing where it is no solid."""
    item = view.items.get(line.item or "")
    if item is not None and item.kind in _SOLID and surely(line.ep > 0):
        yield line.ep * share / 1000 / view.number(item.density or BULK_DENSITY)


def _liquid(line: LineMass, share: Number, view: DayView) -> Iterator[Number]:
    """The volume [l] of a line that is liquid; nothing of one that is not."""
    item, recipe = view.items.get(line.item or ""), view.recipes.get(line.recipe or "")
    if recipe is not None and line.byproduct is None:
        yield line.ep * share / 1000 / view.number(recipe.density)
    elif item is not None and item.kind in _LIQUID:
        yield line.ep * share / 1000 / view.number(item.density or Decimal(1))


def poured(litres: Number, view: DayView) -> str:
    """So much as a cook of this kitchen would say it: to a tenth of a litre, or of a quart."""
    unit, size = ("qt", MILLILITRES[view.system]["quart"]) if view.settings.shown_units == "us" else ("l", _THOUSAND)
    return f"{plain(half_even(typical(larger(litres, litres * 0)) * 1000 / size, 1))} {unit}"


def stated_litres(line: Line, view: DayView) -> Decimal | None:
    """How much a line by eye says that it is [l]; None where it is said by weight or count."""
    quantity = line.quantity
    return quantity.millilitres(view.system) / 1000 if quantity.kind == "volume" else None
