"""What a version reckons otherwise than the one before it, in words that a cook understands.

Whoever changes a rule so that a pot may cost otherwise adds a line here. It is told beside the pots whose cost it moved.
"""

from __future__ import annotations

from typing import NamedTuple


class Change(NamedTuple):
    """A change of the rules: its number, counted up, and what is reckoned otherwise since: "steam follows the lid"."""

    number: int
    words: str


CHANGES: tuple[Change, ...] = (
    Change(1, "a pot steams less than an open tray, a lid holds back at the boil too, and no more goes up than there is water"),
    Change(2, "a cooking yield of the same family stands in where a method has none"),
    Change(3, "no more fat can be lifted off a pot than went into it"),
    Change(4, "a pot cannot be reduced to less than what is in it weighs without its water"),
    Change(5, "a volume of an item follows its nearest weighed volume: a quart of it is so many of its cups"),
    Change(6, "so many that fill a case of the trade weigh what the case does, where no one of them was weighed"),
)


def newest(changes: tuple[Change, ...] = CHANGES) -> int:
    """The number of the newest change; 0 where there is none yet."""
    return max((one.number for one in changes), default=0)


def reasons(since: int, changes: tuple[Change, ...] = CHANGES) -> list[str]:
    """What is reckoned otherwise since a change, in order.

    >>> reasons(1, (Change(1, "steam follows the lid"), Change(2, "bones keep no fat")))
    ['bones keep no fat']
    """
    return [one.words for one in sorted(changes) if one.number > since]
