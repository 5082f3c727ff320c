"""What a yield rests on: a book or label, own tests, a blend of both, the logs of the kitchen, or an estimate."""

from __future__ import annotations

import re
from functools import lru_cache
from typing import Literal

from potrel.core.errors import BadDocument
from potrel.core.frozen import dataclass
from potrel.core.kitchen.keyed import Keyed
from potrel.core.kitchen.kinds import Count, Name, On
from potrel.core.sentences import say

ProvenanceSort = Literal["book", "own_tests", "blend", "logs", "estimate"]

# How a yield's source was written before it was a value of its own. What is still to be done, or guessed, is an estimate.
_UNSURE = re.compile(
    r"\b(estimate\w*|guess\w*|assum\w+|unsure|unknown|not sure|to be|still to|to do|todo|pending|planned|no tests?)\b|\?",
    re.IGNORECASE,
)
_OWN = re.compile(r"^own tests?\b(?:, (?P<tests>[0-9]{1,5}) tests?\b)?", re.IGNORECASE)
_BLENDED = "blended with "


@dataclass(frozen=True, slots=True)
class Provenance(Keyed):
    """What a yield rests on. `tests` and `on` are the number of own tests (or logs) and the day of the newest; `book` is what
    a blend leans on.
    """

    sort: ProvenanceSort
    tests: Count | None = None
    on: On | None = None
    book: Name | None = None

    def __post_init__(self) -> None:
        if self.sort in ("book", "estimate") and (self.tests is not None or self.on is not None):
            message = say(
                "tests_of_a_book", "a book or an estimate rests on no tests of this kitchen: leave out their number and day"
            )
            raise BadDocument("", message)
        if (self.sort == "blend") != (self.book is not None):
            raise BadDocument(
                "book", say("blend_without_book", 'a blend names the "book" that it leans on, and nothing else does')
            )

    @property
    def is_own(self) -> bool:
        """Whether it was weighed in this kitchen, if only in part."""
        return self.sort in ("own_tests", "blend", "logs")


ESTIMATE, BOOK = Provenance("estimate"), Provenance("book")


@lru_cache(maxsize=4096)
def read_source(source: str | None) -> Provenance:
    """What the words of an older document say of a yield; a doubt makes an estimate of it, never a test.

    >>> read_source("USDA SR Legacy").sort, read_source(None).sort, read_source("a guess").sort
    ('book', 'estimate', 'estimate')
    >>> read_source("own test, 3 tests, Nov 2026").tests, read_source("own tests still to be done").sort
    (3, 'estimate')
    """
    if source is None or _UNSURE.search(source):
        return ESTIMATE
    own = _OWN.match(source)
    if own is None:
        return BOOK
    tests = None if own["tests"] is None else int(own["tests"])
    _, blended, book = source.partition(_BLENDED)
    if blended and book:
        return Provenance("blend", tests, book=book)
    return Provenance("own_tests", tests)
