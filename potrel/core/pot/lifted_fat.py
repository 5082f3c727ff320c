"""Fat that is lifted off a pot: never more than what went in holds."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from potrel.core.kitchen.naming import words_in
from potrel.core.kitchen.recipes import TakeOut
from potrel.core.numbers.arithmetic import Number, total
from potrel.core.pot.day_view import DayView
from potrel.core.pot.line_mass import LineMass, flesh_of

_FAT = frozenset({"fat", "dripping", "schmaltz", "tallow", "lard"})


def is_fat(out: TakeOut) -> bool:
    """Whether what is taken out is nothing but fat: "lifted fat", and not "rind and fat"."""
    words = [word.stem for word in words_in(out.name)]
    return bool(words) and words[-1] in _FAT and not {"and", "with"} & set(out.name.lower().split()) and "," not in out.name


def fat_in(lines: Sequence[LineMass], reached: Mapping[str, Number], view: DayView) -> tuple[Number, bool]:
    """The fat [g] of what reached a stage, and whether all of it is known; a recipe that went in is not looked into."""
    there = [line for line in lines if line.stage in reached and line.known]
    known, parts = True, [view.zero]
    for line in there:
        item = view.items.get(line.item or "")
        if item is not None and item.kind == "water":
            continue
        fat = None if item is None else item.composition.fat_g
        if fat is None:
            known = False
            continue
        parts.append(flesh_of(line, view) * view.number(fat) / 100 * reached[line.stage])
    return total(parts), known
