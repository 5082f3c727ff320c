"""What of a supplier's text, or of an invoice of paper, may become an item: its name, and what the shelf has for it."""

from __future__ import annotations

from dataclasses import dataclass

from potrel.core.buy.pack_text import CAN_10, read_pack
from potrel.core.kitchen.kinds import Id, Name
from potrel.core.kitchen.naming import known_words, shares_a_word
from potrel.core.pot.day_view import DayView
from potrel.core.words.meant import Candidate, from_shelf, near_on_shelf, suggest
from potrel.deliveries.matching import another_thing, bare_name

_LONGEST_NAME, _MOST = 200, 6
# How large and how good it is, which is the same thing. Common practice, no source.
_GRADES = frozenset({
    "jumbo", "colossal", "extra", "fancy", "choice", "prime", "select", "solid", "whole", "bulk", "us", "premium", "natural",
    "pure", "style", "loose", "cello", "coarse", "fine", "dry", "granulated", "regular", "grade",
})  # fmt: skip


@dataclass(frozen=True, slots=True)
class Missing:
    """A text that names nothing of the kitchen: how an item of it would be called, the one ingredient of the shelf that it can
    only mean, where there is one, and all that it may mean.
    """

    name: Name
    only: Id | None
    candidates: tuple[Candidate, ...]


def missing(text: str, view: DayView) -> Missing:
    """What a text may become. What it says beside the name (washed, brown) decides nothing; another state is another thing."""
    read = read_pack(text)
    bare = [word for word in bare_name(read.name).split() if word not in _GRADES] or bare_name(read.name).split()
    canned = ["canned"] if CAN_10 in (read.pack or "") else []
    # A list may name the thing before its kind: flour all purpose, pepper green bell.
    words, turned = known_words([*bare, *canned]), known_words([*bare[1:], *bare[:1], *canned])
    exact = from_shelf(words, view) or from_shelf(turned, view)
    same = [one for one in exact if not another_thing(read.name, one.name)]
    only = same[0].id if len(same) == 1 else None
    # What it is stands first in a list, and last in speech; what shares more words with it is likelier than either.
    near = [*near_on_shelf(turned, view), *near_on_shelf(words, view), *near_on_shelf(words, view, by_any=True)]
    near.sort(key=lambda one: -shares_a_word(words, one.name))
    likely = tuple(dict.fromkeys((*exact, *near)))[:_MOST]
    name = " ".join(read.name.split())[:_LONGEST_NAME].lower() or text.strip()[:_LONGEST_NAME]
    kitchens_own = tuple(one for one in suggest(name, view, 3) if one.kind == "item")
    return Missing(name[:1].upper() + name[1:], only, (*kitchens_own, *likely))
