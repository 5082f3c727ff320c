"""Phrases that stand in the name of a thing, word by word, whatever lies between them."""

from __future__ import annotations

from collections.abc import Sequence
from functools import cache

from potrel.core.kitchen.naming import words_in

Phrases = tuple[tuple[str, ...], ...]


def phrases(text: str) -> Phrases:
    """Phrases from a cell of a table, parted by semicolons, as the stems of their words."""
    return tuple(tuple(word.stem for word in words_in(one)) for one in text.split(";") if one)


@cache
def _stems(name: str) -> frozenset[str]:
    return frozenset(word.stem for word in words_in(name))


def called(name: str, of: Sequence[Sequence[str]]) -> int:
    """How many words of the longest of some phrases stand in a name; 0 where none of them does."""
    stems = _stems(name)
    return max((len(phrase) for phrase in of if stems.issuperset(phrase)), default=0)
