"""Liquid by eye: how much covers what lies in a pot. A cook pours and corrects it: an estimate, with a wide band."""

from __future__ import annotations

import re
from collections.abc import Iterator
from decimal import Decimal

from potrel.core.frozen import dataclass
from potrel.core.kitchen.bones import is_bones
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

# Common practice, no source: the share of a heap that is gaps and how heavy a litre of it is [kg], of vegetables and meat and
# of bones, carcasses and shells; a finger over it [m].
GAPS, GAPS_OF_BONES = Decimal("0.4"), Decimal("0.55")
BULK_DENSITY, BULK_DENSITY_OF_BONES = Decimal("0.6"), Decimal("0.45")
A_FINGER = Decimal("0.015")
# The band of what covers, as shares of it.
BAND = (Decimal("0.7"), Decimal("1.4"))
_THOUSAND = Decimal(1000)
_SOLID = frozenset({"vegetable", "root", "allium", "fruit", "meat", "fish", "bones", "pulse", "nut", "bread", "herb"})
_LIQUID = frozenset({"water", "stock", "wine"})
# "Water to cover", "enough stock to barely cover them by an inch", "cover with water", "thin with a little milk".
_BEHIND = re.compile(
    r"[,;]?\s*\b(?:just |enough )?to (?:just |barely |generously |well )?(?P<by_eye>cover|thin)(?: (?:it|them|all|everything))?"
    r"(?:,? (?:by|with) (?:an?|[0-9]+) (?:inch(?:es)?|cm|fingers?))?\s*\.?$",
    re.IGNORECASE,
)
_BEFORE = re.compile(
    r"^(?:just |barely )?(?P<by_eye>cover|thin)(?:ed)?(?: (?:it|them|all|everything))? with (?:a little |some )?"
    r"(?P<what>[^.]+)\.?$",
    re.IGNORECASE,
)
_ENOUGH = re.compile(r"^enough\s+", re.IGNORECASE)


@formula("the larger of (0, sum of gaps + sum of drunk + finger * surface * 1000 - sum of liquid)")
def covering(gaps: Many, drunk: Many, finger: Number, surface: Number, liquid: Many) -> Number:
    """What covers some heaps [l]: the gaps in them, what dry goods drink, a finger [m] over the surface [m2], less the liquid
    that is there.
    """
    litres = total(gaps) + total(drunk) + finger * surface * 1000 - total(liquid)
    return larger(litres * 0, litres)


@dataclass(frozen=True, slots=True)
class Cover:
    """What covers the solids of a stage [l], and what it was reckoned from: the gaps in what lies there [l], what dry goods
    drink [l], the surface [m2], liquid there [l].
    """

    litres: Number
    gaps: tuple[tuple[LineMass, Number], ...]
    drunk: tuple[tuple[LineMass, Number], ...]
    surface: Decimal
    liquid: tuple[tuple[LineMass, Number], ...]

    @property
    def band(self) -> tuple[Number, Number]:
        """The least and the most that may cover it [l]."""
        return self.litres * BAND[0], self.litres * BAND[1]


def by_eye_of(text: str) -> tuple[str, ByEye | None]:
    """A typed line without the words that it is poured "to cover" or "to thin", and which of the two that was.

    >>> by_eye_of("water to cover"), by_eye_of("1 l stock, to thin"), by_eye_of("3 kg leeks")
    (('water', 'cover'), ('1 l stock', 'thin'), ('3 kg leeks', None))
    >>> by_eye_of("cover with cold water"), by_eye_of("enough stock to barely cover"), by_eye_of("thin with a little milk")
    (('cold water', 'cover'), ('stock', 'cover'), ('milk', 'thin'))
    """
    bare = text.strip()
    before = _BEFORE.match(bare)
    said = before or _BEHIND.search(bare)
    if said is None:
        return text, None
    rest = _ENOUGH.sub("", bare[: said.start()]) if before is None else before["what"]
    return rest, "cover" if said["by_eye"].lower() == "cover" else "thin"


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
    gaps = tuple((line, gap) for line in lines for gap in _gaps(line, here[line.stage], view))
    if not gaps:
        return say("cover_what", "there is nothing in this stage yet that liquid could cover: put that in first")
    liquid = tuple((line, litres) for line in lines for litres in _liquid(line, here[line.stage], view))
    drunk = tuple((line, (line.own - line.ep) * here[line.stage] / 1000) for line in lines if surely(line.own > line.ep))
    in_gaps, drinks, is_there = ([litres for _, litres in some] for some in (gaps, drunk, liquid))
    litres = covering(in_gaps, drinks, finger, view.number(surface), is_there)
    return Cover(litres, gaps, drunk, surface, liquid)


def _is_by_eye(line: LineMass) -> bool:
    return line.line is not None and line.line.by_eye is not None


def _gaps(line: LineMass, share: Number, view: DayView) -> Iterator[Number]:
    """The gaps [l] in a line as it lies; nothing where it is no solid."""
    item = view.items.get(line.item or "")
    if item is not None and item.kind in _SOLID and surely(line.ep > 0):
        density, gaps = (BULK_DENSITY_OF_BONES, GAPS_OF_BONES) if is_bones(item) else (BULK_DENSITY, GAPS)
        yield line.ep * share / 1000 / view.number(item.density or density) * view.number(gaps)


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
