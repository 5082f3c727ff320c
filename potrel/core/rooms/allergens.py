"""Allergens followed from items through stocks and garnishes to the soups on sale. An aid, not clearance: the label decides."""

from __future__ import annotations

import re
from collections.abc import Iterable
from dataclasses import replace
from functools import cache, lru_cache
from typing import Literal

from potrel.core.cost.costed_recipe import CostedRecipe
from potrel.core.cost.costing import Costing
from potrel.core.frozen import dataclass
from potrel.core.kitchen.items import AllergenCheck, Item
from potrel.core.kitchen.kinds import Id, Name
from potrel.core.kitchen.settings import AllergenList
from potrel.core.pot.day_view import DayView
from potrel.core.tables import table

CAUTION = "An aid, not clearance: labels, trained people and your local food code decide. Nothing here speaks of traces."


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


@dataclass(frozen=True, slots=True)
class AllergenCell:
    """What brings one group of allergens into a soup. `beside` tells that it is only in what is served with it; `words` are
    how it is noted, such as the cereal or the nut.
    """

    group: str
    items: list[str]
    beside: bool
    words: list[str]


@dataclass(frozen=True, slots=True)
class AllergenRow:
    """One soup. `others` are noted allergens that the list does not name; `ask` what the labels should be read for, and
    `asked` the groups of that. `unchecked` are the items whose label nobody read: no group without a cell is known to be free
    while there are any.
    """

    recipe: str
    name: str
    complete: bool
    cells: list[AllergenCell]
    others: list[str]
    ask: list[str]
    asked: list[str]
    unchecked: list[str]


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


@dataclass(frozen=True, slots=True)
class AllergenMatrix:
    """The soups on sale by the groups of one list. `to_read` are the labels of their items that nobody read yet."""

    which: AllergenList
    groups: list[str]
    rows: list[AllergenRow]
    caution: str
    to_read: list[Label]


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
    """What is known of an item's label. A check holds for its article: another supplier, code or GTIN has another label."""
    check, price = item.allergen_check, view.price(item.id)
    state: LabelState = "contains" if item.allergens else "none"
    article = "nothing is bought yet"
    if price is not None:
        of = price.offer
        numbers = [part for part in (of.code, of.gtin and f"GTIN {of.gtin}") if part]
        article = ", ".join([view.supplier_name(of.supplier), *numbers])
        if check is not None and (check.supplier, check.code, check.gtin) != (of.supplier, of.code, of.gtin):
            state = "changed"
    if check is None:
        state = "unchecked"
    hides = [
        f"{', '.join(one.called for one in missing)}, often in {hidden.where}"
        for hidden, missing in (may_hide(item) if state in ("unchecked", "changed") else [])
    ]
    return Label(item.id, item.name, state, list(item.allergens), hides, article, check)


# What is never eaten, or comes out of the tap, has no label to read.
_WITHOUT_LABEL = frozenset({"packaging", "water"})


def is_unread(item: Item, view: DayView) -> bool:
    """Whether an item has a label that nobody has read, or that is another one now."""
    return item.kind not in _WITHOUT_LABEL and label_of(item, view).state in ("unchecked", "changed")


def checked_now(item: Item, view: DayView, by: str) -> Item:
    """An item whose label somebody has just read: that of the article that is bought now."""
    price = view.price(item.id)
    article = (None, None, None) if price is None else (price.offer.supplier, price.offer.code, price.offer.gtin)
    return replace(item, allergen_check=AllergenCheck(view.on, by, *article))


def unread(item: Item) -> Item:
    """An item whose label nobody has read after all."""
    return replace(item, allergen_check=None)


def allergen_matrix(costing: Costing) -> AllergenMatrix:
    """The matrix of the soups on sale, by the list that the kitchen follows, in the order of their names."""
    which = costing.view.settings.allergen_list
    on_sale = [one for one in costing.all() if one.recipe.servings]
    rows = [allergens_of(costing.view, one) for one in sorted(on_sale, key=lambda one: one.recipe.name.casefold())]
    used = _items(costing.view, set().union(*(one.named for one in on_sale)))
    to_read = [label_of(item, costing.view) for item in used if is_unread(item, costing.view)]
    return AllergenMatrix(which, groups_of(which), rows, CAUTION, sorted(to_read, key=lambda one: one.name.casefold()))


def allergens_of(view: DayView, one: CostedRecipe) -> AllergenRow:
    """The allergens of one pot, by the list that the kitchen follows."""
    which = view.settings.allergen_list
    in_pot = _items(view, one.needs.named)
    beside = _items(view, one.named - one.needs.named)
    covered = [Item("allowance", f"{word} (allowance)", "spice", allergens=(word,)) for word in one.recipe.allowance_covers]
    brings: dict[str, dict[str, list[str]]] = {}
    others: set[str] = set()
    for item in [*in_pot, *beside, *covered]:
        for word in item.allergens:
            allergen = allergen_of(word)
            group = allergen.group(which) if allergen else ""
            if group:
                brings.setdefault(group, {}).setdefault(item.name, []).append(word.lower())
            elif item not in covered:
                others.add(word)
    aside = {item.name for item in beside}
    cells = [
        AllergenCell(
            group, sorted(brings[group]), aside.issuperset(brings[group]),
            sorted({word for words in brings[group].values() for word in words}),
        )
        for group in groups_of(which)
        if group in brings
    ]  # fmt: skip
    unchecked = [item for item in [*in_pot, *beside] if is_unread(item, view)]
    sure = {cell.group for cell in cells if not cell.beside}
    ask, asked = _to_ask([*unchecked, *covered], which)
    if view.allowance(one.recipe) > 0 and not covered:
        ask.append("Seasoning allowance: say what it covers, and read those labels")
    return AllergenRow(
        one.recipe.id, one.recipe.name, not one.problems, cells, sorted(others), sorted(ask),
        [group for group in groups_of(which) if group in asked - sure], sorted(item.name for item in unchecked),
    )  # fmt: skip


def _to_ask(items: Iterable[Item], which: AllergenList) -> tuple[list[str], set[str]]:
    """What the labels of some items should be read for, in words and as the groups of a list."""
    words: list[str] = []
    groups: set[str] = set()
    for item in items:
        for hidden, missing in may_hide(item):
            words.append(f"{item.name}: look for {', '.join(one.called for one in missing)}, often in {hidden.where}")
            groups.update(one.group(which) for one in missing)
    return words, groups


def _items(view: DayView, ids: Iterable[str]) -> list[Item]:
    return [view.items[one] for one in ids if one in view.items]
