"""Stocks that a kitchen can make itself: how they are usually made, to start from. Common practice, no source."""

from __future__ import annotations

from collections.abc import Sequence
from functools import cache

from potrel.core.frozen import dataclass
from potrel.core.kitchen.kinds import Id, Name
from potrel.core.kitchen.naming import Word, fit, line_words
from potrel.core.pot.day_view import DayView
from potrel.core.tables import table
from potrel.core.words.meant import Candidate


@dataclass(frozen=True, slots=True)
class Base:
    """A stock as a recipe's text, row by row, and what each of its lines is on the shelf: the line, and an id."""

    id: Id
    name: Name
    rows: tuple[str, ...]
    things: tuple[tuple[str, Id], ...]


@cache
def bases() -> tuple[Base, ...]:
    """All that are known."""
    return tuple(
        Base(
            row["id"], row["name"], tuple(row["text"].split("|")),
            tuple((line, thing) for line, _, thing in (one.partition("=") for one in row["things"].split(";"))),
        )
        for row in table("bases.csv")
    )  # fmt: skip


def made_here(words: Sequence[Word], view: DayView) -> tuple[Candidate, ...]:
    """The stock that some words name, to be made by the kitchen, where it makes none that is called so."""
    beside = line_words("descriptive")
    found = [
        base
        for base in bases()
        if (how := fit(words, base.name)) is not None
        and not how.untyped
        # A cube of it is bought.
        and all(word.stem in beside for word in how.left)
    ]
    there = {one.name.casefold() for one in view.kitchen.recipes} if found else ()
    return tuple(Candidate(base.id, base.name, "base") for base in found if base.name.casefold() not in there)
