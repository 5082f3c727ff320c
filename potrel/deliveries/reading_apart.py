"""Reads suppliers' files in a process of its own: a file that brings its reader down takes nothing else with it."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import fields, replace
from operator import attrgetter
from typing import Any

from potrel.apart.workers import Job, Workers, shared
from potrel.core.buy.price_list import ListKind, ListLine, PriceList
from potrel.core.kitchen.supply import ListForm
from potrel.core.sentences import say
from potrel.formats.price_list import read_price_list
from potrel.formats.upload import BadFile

# A list of 50,000 lines takes some 8 s and 600 MB; what goes far beyond is none.
READING = Job(
    "potrel.deliveries.reading_apart:packed_list",
    BadFile,
    say("reader_died", "the file could not be read: it is broken, or far larger than it seems. Save its values anew"),
    patience=90.0,
    most_memory=2 * 2**30,
)


def read_apart(
    data: bytes, forms: Sequence[ListForm], kind: ListKind | None, workers: Workers | None = None
) -> Iterator[float | PriceList]:
    """What `read_price_list` yields for a file. BadFile where it is refused, or brings its reader down."""
    told = [(form.heads, form.columns) for form in forms]
    for found in (workers or shared(READING)).work(data, told, kind):
        yield _unpacked(found)


def packed_list(data: bytes, forms: Sequence[tuple[Any, Any]], kind: ListKind | None) -> Iterator[Any]:
    """The same, as it is handed over: a list with its lines as plain tuples, which takes a third of the time of as many
    objects.
    """
    for step in read_price_list(data, [ListForm(heads, columns) for heads, columns in forms], kind):
        yield step if isinstance(step, float) else (replace(step, lines=()), [_values(line) for line in step.lines])


_FIELDS = tuple(field.name for field in fields(ListLine))
_values = attrgetter(*_FIELDS)


def _unpacked(found: Any) -> float | PriceList:
    if isinstance(found, float):
        return found
    of: PriceList = found[0]
    return replace(of, lines=tuple(ListLine(*values) for values in found[1]))
