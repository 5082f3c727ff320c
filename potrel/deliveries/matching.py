"""Which item a supplier's line is: by what it was called before, by its GTIN, else by the likeness of the name."""

from __future__ import annotations

import re
from collections.abc import Collection, Sequence
from dataclasses import replace
from functools import lru_cache

from rapidfuzz import fuzz

from potrel.core.buy.pack_text import CONTAINERS, UNIT_OF
from potrel.core.buy.price_list import ListLine, Match
from potrel.core.kitchen.items import Item
from potrel.core.kitchen.kitchen import Kitchen
from potrel.core.kitchen.naming import known_words, line_words

# Below this a name is not even proposed; from here on a person is asked to confirm it. Found by trial on made-up lists.
_LIKELY = 78
_PROPOSED = 3
_START = 3
_WORD = re.compile(r"[^\W\d_]{2,}")
# What a line says of quality, state and sale, and not of what it is. Common practice, no source.
_BESIDE = frozenset({
    "cl", "class", "fresh", "washed", "prepped", "grade", "large", "small", "medium", "new", "premium", "chilled", "organic",
    "per", "and", "of", "the", "in", "with", "for",
})  # fmt: skip
_DROPPED = _BESIDE | CONTAINERS | UNIT_OF.keys()
# What every line says beside what the thing is. A number is part of that where it is a share or stands alone: Cream 35%,
# Flour 405.
_LISTED = frozenset({"cl", "class", "grade", "per", "and", "of", "the", "in", "with", "for"}) | CONTAINERS | UNIT_OF.keys()
_EXACT = re.compile(r"[^\W\d_]{2,}|[0-9]+(?:[.,][0-9]+)?(?=\s?%)|(?<![\w.,/-])[0-9]{2,4}(?![\w.,/-])")
# Another state, another part, another work done: one such word more or less, and it is another thing. Common practice, no
# source.
_ANOTHER = (
    line_words("part")
    | (line_words("cut") - {"trimmed", "washed", "rinsed", "topped", "tailed", "piece", "split"})
    | {"dry", "unsalted", "salted", "unsmoked", "prepared", "raw", "sweetened", "unsweetened", "skimmed", "boneless", "free"}
)
# What says the same in fewer letters. Common practice, no source.
_SAME = {
    "tin": "canned", "tinned": "canned", "can": "canned", "frz": "frozen", "iqf": "frozen", "sltd": "salted",
    "bnls": "boneless", "tom": "tomato", "pot": "potato", "veg": "vegetable", "chix": "chicken",
}  # fmt: skip


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


@lru_cache(maxsize=16_384)
def _exact(text: str) -> frozenset[str]:
    """All that a name says, whatever the order: those of one thing are alike, and no word more."""
    words = [word for word in _EXACT.findall(text.lower()) if word not in _LISTED or word in _SAME]
    return frozenset(word.stem for word in known_words([_SAME.get(word, word) for word in words]))


def another_thing(text: str, name: str) -> bool:
    """Whether a word that only one of two names says makes it another thing: another state, part, work, or share.

    >>> another_thing("LEEKS WASHED", "Leeks"), another_thing("CARROTS DICED", "Carrots")
    (False, True)
    >>> another_thing("CREAM 18%", "Cream 35%")
    True
    """
    said, other = _exact(text), _exact(name)
    more, less = said - other, other - said
    other_share = any(map(str.isdigit, more)) and any(map(str.isdigit, less))
    return other_share or bool(_ANOTHER & (more | less))


class Matching:
    """Which item each line of a list is, by what a kitchen knows: its items, and the codes and GTINs of its offers so far."""

    def __init__(self, kitchen: Kitchen) -> None:
        # The newest offer wins.
        self._codes = {(offer.supplier, offer.code): offer.item for offer in kitchen.offers if offer.code is not None}
        self._gtins = {offer.gtin: offer.item for offer in kitchen.offers if offer.gtin is not None}
        self._items = frozenset(item.id for item in kitchen.items)
        self._names = _Names([item for item in kitchen.items if not item.archived])
        self._sold_as = {code for _, code in self._codes}
        self._by_name: dict[str, Match] = {}
        self._by_text: dict[str, Match] = {}

    def compare(self, lines: Sequence[ListLine]) -> None:
        """Compare the names of some lines, before it is known whose list it is. What has a code that anybody sells by is left
        for then: it is likely to be known by that.
        """
        for line in lines:
            if line.item not in self._items and line.gtin not in self._gtins and line.called not in self._sold_as:
                self._by_likeness(line)

    def of(self, lines: Sequence[ListLine], supplier: str | None) -> tuple[Match, ...]:
        """The match of each line of a list of a supplier, whose id is None where that is not known."""
        return tuple(self._known(line, supplier) or self._by_likeness(line) for line in lines)

    def _known(self, line: ListLine, supplier: str | None) -> Match | None:
        """What the offers so far tell: the item by this supplier's code for it, else by its GTIN."""
        if line.item in self._items:
            return Match(line.item, "item")
        item = self._codes.get((line.supplier or supplier or "", line.called))
        if item is not None:
            return Match(item, "code")
        item = self._gtins.get(line.gtin or "")
        return None if item is None else Match(item, "gtin")

    def _by_likeness(self, line: ListLine) -> Match:
        text = line.text
        found = self._by_text.get(text)
        if found is None:
            name = bare_name(text)
            found = self._by_name.get(name)
            if found is None:
                found = self._by_name[name] = self._names.match(name)
            # The figures of its pack are no part of its name.
            found = self._by_text[text] = self._names.read(line.name, found)
        return found


class _Names:
    """The names of a kitchen's items. Only those that share the beginning of a word with a line are compared to it."""

    def __init__(self, items: Collection[Item]) -> None:
        self._items = [(item.id, bare_name(item.name)) for item in items]
        self._exact: dict[frozenset[str], list[str]] = {}
        self._called = {item.id: item.name for item in items}
        self._said = {item.id: _exact(item.name) for item in items}
        for id_, words in self._said.items():
            self._exact.setdefault(words, []).append(id_)
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

    def read(self, text: str, likely: Match) -> Match:
        """What a text is beside the item that its bare name is likest to: by its exact name, or alike but for some words.

        Where one of those is of another state, part or work, it is another thing, and no more than a proposal.
        """
        said = _exact(text)
        known = self._exact.get(said, [])
        if len(known) == 1 and said:
            return Match(known[0], "name")
        if likely.item is None:
            return likely
        item = self._said[likely.item]
        if not said or another_thing(text, self._called[likely.item]):
            return Match(None, "none", None, likely.others)
        return replace(likely, more=tuple(sorted(said - item)), less=tuple(sorted(item - said)))


def likest(text: str, items: Collection[Item], most: int) -> list[str]:
    """The ids of the items whose names are most like a text, the likest first."""
    return [item for score, item in _Names(items).likest(bare_name(text))[:most] if score >= _LIKELY - 35]


def _likeness(name: str, item: str) -> int:
    """How like two names are [0 to 100]: words in any order; one that holds all words of the other is like it, but less."""
    return round((fuzz.token_sort_ratio(name, item) + 2 * fuzz.token_set_ratio(name, item)) / 3)
