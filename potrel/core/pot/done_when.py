"""How long things take to cook, as a range, and how a cook tells that they are done: no clock knows that."""

from __future__ import annotations

from decimal import Decimal
from functools import cache
from typing import NamedTuple

from potrel.core.frozen import dataclass
from potrel.core.kitchen.items import Item
from potrel.core.kitchen.kinds import Computed
from potrel.core.kitchen.methods import method_called
from potrel.core.kitchen.naming import words_in
from potrel.core.kitchen.recipes import Stage
from potrel.core.pot.day_view import DayView
from potrel.core.pot.food_code import filled
from potrel.core.tables import table


class _Row(NamedTuple):
    methods: frozenset[str]
    kinds: frozenset[str]
    words: tuple[tuple[str, ...], ...]
    lids: frozenset[str]
    heats: frozenset[str]
    low: Decimal
    high: Decimal
    done: str
    source: str


@dataclass(frozen=True, slots=True)
class Done:
    """How long something of a stage takes [min], from and to, and when it is done; where that is from."""

    item: str
    low: Computed
    high: Computed
    when: str
    source: str


def _listed(text: str) -> frozenset[str]:
    return frozenset(filter(None, text.split(";")))


@cache
def _rows() -> tuple[_Row, ...]:
    return tuple(
        _Row(
            _listed(row["methods"]), _listed(row["kinds"]),
            tuple(tuple(word.stem for word in words_in(one)) for one in row["words"].split(";") if one),
            _listed(row["lids"]), _listed(row["heats"]), Decimal(row["low"]), Decimal(row["high"]), row["done"], row["source"],
        )
        for row in table("done_when.csv")
    )  # fmt: skip


def done_when(stage: Stage, view: DayView) -> Done | None:
    """Of what goes into a stage, the thing that takes longest there; None where nothing is known of any."""
    found = [
        done for line in stage.lines if (item := view.items.get(line.item or "")) and (done := how_long(item, stage, view))
    ]
    return max(found, key=lambda one: (one.high, one.low), default=None)


def how_long(item: Item, stage: Stage, view: DayView) -> Done | None:
    """How long something takes in a stage, and when it is done there; None where nothing is known of that."""
    method = method_called(stage.method or "")
    if method is None:
        return None
    stems = {word.stem for word in words_in(item.name)}
    for row in _rows():
        named = not row.words or any(stems.issuperset(words) for words in row.words)
        kept_so = (not row.lids or stage.lid in row.lids) and (not row.heats or stage.heat in row.heats)
        if method.id in row.methods and item.kind in row.kinds and named and kept_so:
            return Done(item.name, row.low, row.high, filled(row.done, view.settings), row.source)
    return None
