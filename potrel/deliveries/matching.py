"""Which item a supplier's line is: by what it was called before, by its GTIN, else by the likeness of the name."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from functools import lru_cache

from rapidfuzz import fuzz

from potrel.core.buy.pack_text import CONTAINERS, UNIT_OF
from potrel.core.buy.price_list import ListLine, Match, PriceList
from potrel.core.kitchen.items import Item
from potrel.core.kitchen.kitchen import Kitchen

# Below this a name is not even proposed; from here on a person is asked to confirm it. Found by trial on made-up lists.
_LIKELY = 78
_PROPOSED = 3
_START = 3
_STEP = 1000
_WORD = re.compile(r"[^\W\d_]{2,}")
# What a line says of quality, state and sale, and not of what it is. Common practice, no source.
_BESIDE = frozenset({
    "cl", "class", "fresh", "washed", "prepped", "grade", "large", "small", "medium", "new", "premium", "chilled", "organic",
    "per", "and", "of", "the", "in", "with", "for",
})  # fmt: skip
_DROPPED = _BESIDE | CONTAINERS | UNIT_OF.keys()
# What says the same in fewer letters. Common practice, no source.
_SAME = {
    "tin": "canned", "tinned": "canned", "can": "canned", "frz": "frozen", "iqf": "frozen", "sltd": "salted",
    "bnls": "boneless", "tom": "tomato", "pot": "potato", "veg": "vegetable", "chix": "chicken",
}  # fmt: skip
NONE = Match(None, "none")


def bare_name(text: str) -> str:
    """A name as it is compared: lower case, singular, without the words that every list is full of.

    >>> bare_name("LEEKS WASHED CL1"), bare_name("Onions, brown")
    ('leek', 'onion brown')
    """
    words = [(word, _singular(word)) for word in _WORD.findall(text.lower())]
    said = [_SAME.get(one, one) for word, one in words if one in _SAME or (word not in _DROPPED and one not in _DROPPED)]
    return " ".join(said or [one for _, one in words])


@lru_cache(maxsize=32_768)
def _singular(word: str) -> str:
    for ending, base in (("ies", "y"), ("oes", "o"), ("ves", "f"), ("ss", "ss"), ("s", "")):
        if word.endswith(ending) and len(word) > len(ending) + 2:
            return word[: -len(ending)] + base
    return word


@dataclass(frozen=True, slots=True)
class _Known:
    """What offers so far tell: items by the supplier's code for them, and by their GTIN; the newest offer wins."""

    codes: dict[tuple[str, str], str]
    gtins: dict[str, str]
    items: frozenset[str]

    def match(self, line: ListLine, supplier: str | None) -> Match | None:
        if line.item in self.items:
            return Match(line.item, "item")
        seller = line.supplier or supplier or ""
        item = self.codes.get((seller, line.called))
        if item is not None:
            return Match(item, "code")
        item = self.gtins.get(line.gtin or "")
        return None if item is None else Match(item, "gtin")


def _known(kitchen: Kitchen) -> _Known:
    codes = {(offer.supplier, offer.code): offer.item for offer in kitchen.offers if offer.code is not None}
    gtins = {offer.gtin: offer.item for offer in kitchen.offers if offer.gtin is not None}
    return _Known(codes, gtins, frozenset(item.id for item in kitchen.items))


def match_lines(kitchen: Kitchen, of: PriceList, supplier: str | None) -> Iterator[float | list[Match]]:
    """Matches the lines of a list: yields the share that is done, now and then, and last the match of each line."""
    known = _known(kitchen)
    found = [known.match(line, supplier) for line in of.lines]
    names = _Names([item for item in kitchen.items if not item.archived])
    by_name: dict[str, Match] = {}
    for place, line in enumerate(of.lines):
        if found[place] is None:
            name = bare_name(line.text)
            if name not in by_name:
                by_name[name] = names.match(name)
            found[place] = by_name[name]
        if place % _STEP == 0:
            yield place / len(of.lines)
    yield [match or NONE for match in found]


class _Names:
    """The names of a kitchen's items. Only those that share the beginning of a word with a line are compared to it."""

    def __init__(self, items: Iterable[Item]) -> None:
        self._items = [(item.id, bare_name(item.name)) for item in items]
        self._by_start: dict[str, set[int]] = {}
        for place, (_, name) in enumerate(self._items):
            for word in name.split():
                self._by_start.setdefault(word[:_START], set()).add(place)

    def likest(self, name: str) -> list[tuple[int, str]]:
        """The likeness [0 to 100] and the id of each item that shares the beginning of a word, the likest first."""
        near = {place for word in name.split() for place in self._by_start.get(word[:_START], ())}
        scored = sorted(((_likeness(name, self._items[place][1]), place) for place in near), key=lambda one: (-one[0], one[1]))
        return [(score, self._items[place][0]) for score, place in scored]

    def match(self, name: str) -> Match:
        """The items that are called most like a bare name: the likest proposed, where it is like enough."""
        scored = self.likest(name)
        others = tuple(item for score, item in scored[:_PROPOSED] if score >= _LIKELY - 25)
        if scored and scored[0][0] >= _LIKELY:
            return Match(others[0], "likely", scored[0][0], others)
        return Match(None, "none", None, others)


def likest(text: str, items: Iterable[Item], most: int) -> list[str]:
    """The ids of the items whose names are most like a text, the likest first."""
    return [item for score, item in _Names(items).likest(bare_name(text))[:most] if score >= _LIKELY - 35]


def _likeness(name: str, item: str) -> int:
    """How like two names are [0 to 100]: words in any order; one that holds all words of the other is like it, but less."""
    return round((fuzz.token_sort_ratio(name, item) + 2 * fuzz.token_set_ratio(name, item)) / 3)
