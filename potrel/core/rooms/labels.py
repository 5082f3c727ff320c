"""What labels say of allergens: the words that kitchens use for them, what often hides where, and whose label was read."""

from __future__ import annotations

import re
from dataclasses import replace
from functools import cache, lru_cache
from typing import Literal

from potrel.core.frozen import dataclass
from potrel.core.kitchen.items import AllergenCheck, Item
from potrel.core.kitchen.kinds import Id, Name
from potrel.core.kitchen.settings import AllergenList
from potrel.core.pot.day_view import DayView
from potrel.core.tables import table
from potrel.core.trim.shelf import known_of


@dataclass(frozen=True, slots=True)
class Allergen:
    """An allergen with the words by which kitchens note it, and its group in each list ("" where it has none)."""

    id: str
    called: str
    words: frozenset[str]
    eu14: str
    us9: str

    def group(self, which: AllergenList) -> str:
        """The name of its group in a list."""
        return self.eu14 if which == "eu14" else self.us9


@dataclass(frozen=True, slots=True)
class Hidden:
    """Where allergens often hide: whole words of an item's name (without some others), and what such an item often holds."""

    words: re.Pattern[str] | None
    without: re.Pattern[str] | None
    allergens: tuple[str, ...]
    where: str


LabelState = Literal["contains", "none", "unchecked", "changed"]


@dataclass(frozen=True, slots=True)
class Label:
    """What is known of an item's label: somebody read it and it names some allergens or none, nobody did, or it is another
    article now. `article` is what is bought; `look_for` what such an item often hides.
    """

    item: Id
    name: Name
    state: LabelState
    noted: list[str]
    look_for: list[str]
    article: str
    check: AllergenCheck | None


@cache
def known_allergens() -> tuple[Allergen, ...]:
    """The allergens of both lists: EU Regulation 1169/2011 Annex II (14 groups), US FALCPA and FASTER Act (9)."""
    return tuple(
        Allergen(row["id"], row["called"], frozenset(row["words"].split(";")), row["eu"], row["us"])
        for row in table("allergens.csv")
    )


@cache
def hidden_allergens() -> tuple[Hidden, ...]:
    """What is often hidden in what (common practice, no source)."""
    return tuple(
        Hidden(_any_of(row["words"]), _any_of(row["not"]), tuple(row["allergens"].split(";")), row["where"])
        for row in table("hidden_allergens.csv")
    )


def allowance_item(word: str, view: DayView) -> Item:
    """What a seasoning allowance stands for by a word: the kitchen's own thing that is called so, else what the shelf knows,
    else something of which nothing is known but the word.
    """
    covered = Item("covered", word, "spice", allergens=(word,))
    known = known_of(covered)
    return view.item_called(word) or (known.item if known else covered)


def _any_of(words: str) -> re.Pattern[str] | None:
    """One of some words, as a whole word or its plural; None where there is none."""
    return None if not words else re.compile(rf"\b({words.replace(';', '|')})(s|es)?\b")


def allergen_of(noted: str) -> Allergen | None:
    """The allergen that the words on an item mean; None where neither list knows any of them.

    >>> allergen_of("Soya").id, allergen_of("tree nuts").group("us9"), allergen_of("kiwi")
    ('soy', 'Tree nuts', None)
    >>> allergen_of("whey powder").id, allergen_of("gluten-free")
    ('milk', None)
    """
    word = " ".join(noted.lower().split())
    if word in _by_word():
        return _by_word()[word]
    if "free" in re.findall(r"\w+", word):
        return None
    # A word too many may bring a dot too many, never one too few.
    known = sorted((one for one in _by_word() if re.search(rf"\b{re.escape(one)}\b", word)), key=len)
    return _by_word()[known[-1]] if known else None


@cache
def _by_word() -> dict[str, Allergen]:
    return {word: one for one in known_allergens() for word in one.words}


def groups_of(which: AllergenList) -> list[str]:
    """The groups of a list, in its order."""
    return list(dict.fromkeys(one.group(which) for one in known_allergens() if one.group(which)))


def may_hide(item: Item) -> list[tuple[Hidden, list[Allergen]]]:
    """Where an item is of kinds that often hide allergens: each kind, and those that are not noted on the item."""
    return _hides(item.name, item.allergens)


@lru_cache(maxsize=4096)
def _hides(name: str, allergens: tuple[str, ...]) -> list[tuple[Hidden, list[Allergen]]]:
    name = " ".join(re.findall(r"\w+", name.lower()))
    noted = {found.id for word in allergens if (found := allergen_of(word)) is not None}
    known = {one.id: one for one in known_allergens()}
    found_in = []
    for hidden in hidden_allergens():
        missing = [known[one] for one in hidden.allergens if one not in noted]
        if missing and _stands(hidden.words, name) and not _stands(hidden.without, name):
            found_in.append((hidden, missing))
            noted.update(one.id for one in missing)
    return found_in


def _stands(words: re.Pattern[str] | None, name: str) -> bool:
    return words is not None and words.search(name) is not None


def label_of(item: Item, view: DayView) -> Label:
    """What is known of an item's label, and the article whose label it is."""
    state, price = _state_of(item, view), view.price(item.id)
    article = "nothing is bought yet"
    if price is not None:
        of = price.offer
        numbers = [part for part in (of.code, of.gtin and f"GTIN {of.gtin}") if part]
        article = ", ".join([view.supplier_name(of.supplier), *numbers])
    hides = [
        f"{', '.join(one.called for one in missing)}, often in {hidden.where}"
        for hidden, missing in (may_hide(item) if state in _UNREAD else [])
    ]
    return Label(item.id, item.name, state, list(item.allergens), hides, article, item.allergen_check)


def _state_of(item: Item, view: DayView) -> LabelState:
    """A check holds for its article: another supplier, code or GTIN has another label."""
    check = item.allergen_check
    if check is None:
        return "unchecked"
    price = view.price(item.id)
    bought = None if price is None else (price.offer.supplier, price.offer.code, price.offer.gtin)
    if bought is not None and bought != (check.supplier, check.code, check.gtin):
        return "changed"
    return "contains" if item.allergens else "none"


_UNREAD: frozenset[LabelState] = frozenset({"unchecked", "changed"})
# What is never eaten, or comes out of the tap, has no label to read.
_WITHOUT_LABEL = frozenset({"packaging", "water"})


def is_unread(item: Item, view: DayView) -> bool:
    """Whether an item has a label that nobody has read, or that is another one now."""
    return item.kind not in _WITHOUT_LABEL and _state_of(item, view) in _UNREAD


def checked_now(item: Item, view: DayView, by: str) -> Item:
    """An item whose label somebody has just read: that of the article that is bought now."""
    price = view.price(item.id)
    article = (None, None, None) if price is None else (price.offer.supplier, price.offer.code, price.offer.gtin)
    return replace(item, allergen_check=AllergenCheck(view.on, by, *article))


def unread(item: Item) -> Item:
    """An item whose label nobody has read after all."""
    return replace(item, allergen_check=None)
