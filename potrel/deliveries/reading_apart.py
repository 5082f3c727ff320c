"""Reads suppliers' files in a process of its own: a file that brings its reader down takes nothing else with it."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import fields, replace
from itertools import starmap
from operator import attrgetter
from typing import Any

from potrel.apart.workers import Job, Workers, shared
from potrel.core.buy.price_list import ListKind, ListLine, Part, PriceList
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
) -> Iterator[Part | PriceList]:
    """What `read_price_list` yields for a file. BadFile where it is refused, or brings its reader down."""
    told = [(form.heads, form.columns) for form in forms]
    lines: list[ListLine] = []
    for found, values in (workers or shared(READING)).work(data, told, kind):
        if isinstance(found, PriceList):
            yield replace(found, lines=tuple(lines)) if values else found
        else:
            some = tuple(starmap(ListLine, values))
            lines += some
            yield replace(found, lines=some)


def packed_list(data: bytes, forms: Sequence[tuple[Any, Any]], kind: ListKind | None) -> Iterator[Any]:
    """The same, as it is handed over: each part with its lines as plain tuples, which takes a third of the time of as many
    objects; then the list without its lines, and whether those of the parts count.
    """
    for step in read_price_list(data, [ListForm(heads, columns) for heads, columns in forms], kind):
        if isinstance(step, PriceList):
            yield replace(step, lines=()), bool(step.lines)
        else:
            yield replace(step, lines=()), [_values(line) for line in step.lines]


_values = attrgetter(*(field.name for field in fields(ListLine)))
