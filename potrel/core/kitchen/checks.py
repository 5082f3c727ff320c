"""Checks that several parts of the kitchen document share; each refuses with what would mend it."""

from __future__ import annotations

from collections.abc import Iterable
from decimal import Decimal

from potrel.core.errors import BadDocument, OutOfRange
from potrel.core.sentences import say


def check_band(what: str, value: Decimal, low: Decimal | None, high: Decimal | None) -> None:
    """OutOfRange unless low <= value <= high, where they are given."""
    if (low is not None and value < low) or (high is not None and value > high):
        raise OutOfRange(what, value, f"between its low ({low}) and its high ({high})")


def refuse_twice(what: str, ids: Iterable[str]) -> None:
    """BadDocument where an id stands twice."""
    seen: set[str] = set()
    for one in ids:
        if one in seen:
            english = 'two of the same {what} "{id}": give one of them another id'
            raise BadDocument("", say("twice", english, what=what, id=one))
        seen.add(one)


def refuse_unless_one(what: str, item: str | None, recipe: str | None) -> None:
    """BadDocument unless exactly one of item and recipe is given."""
    if (item is None) == (recipe is None):
        raise BadDocument("", say("item_or_recipe", '{what} names either an "item" or a "recipe"', what=what))
