"""Allergens followed from items through stocks and garnishes to the soups on sale. An aid, not clearance: the label decides."""

from __future__ import annotations

import re
from collections.abc import Iterable
from dataclasses import dataclass
from functools import cache

from potrel.core.cost.costed_recipe import CostedRecipe
from potrel.core.cost.costing import Costing
from potrel.core.kitchen.items import Item
from potrel.core.kitchen.settings import AllergenList
from potrel.core.pot.day_view import DayView
from potrel.core.tables import table

CAUTION = "An aid, not clearance: labels, trained people and your local food code decide. Nothing here speaks of traces."


@dataclass(frozen=True, slots=True)
class Allergen:
    """An allergen with the words by which kitchens note it, and its group in each list ("" where it has none)."""

    id: str
    words: frozenset[str]
    eu14: str
    us9: str

    def group(self, which: AllergenList) -> str:
        """The name of its group in a list."""
        return self.eu14 if which == "eu14" else self.us9


@dataclass(frozen=True, slots=True)
class Hidden:
    """Where allergens often hide: whole words of an item's name, and what such an item often holds."""

    words: re.Pattern[str]
    allergens: tuple[str, ...]
    where: str


@dataclass(frozen=True, slots=True)
class AllergenCell:
    """What brings one group of allergens into a soup. `beside` tells that it is only in what is served with it."""

    group: str
    items: list[str]
    beside: bool


@dataclass(frozen=True, slots=True)
class AllergenRow:
    """One soup. `others` are noted allergens that the list does not name; `ask` what the labels should be read for."""

    recipe: str
    name: str
    complete: bool
    cells: list[AllergenCell]
    others: list[str]
    ask: list[str]


@dataclass(frozen=True, slots=True)
class AllergenMatrix:
    """The soups on sale by the groups of one list."""

    which: AllergenList
    groups: list[str]
    rows: list[AllergenRow]
    caution: str


@cache
def known_allergens() -> tuple[Allergen, ...]:
    """The allergens of both lists: EU Regulation 1169/2011 Annex II (14 groups), US FALCPA and FASTER Act (9)."""
    return tuple(
        Allergen(row["id"], frozenset(row["words"].split(";")), row["eu"], row["us"]) for row in table("allergens.csv")
    )


@cache
def hidden_allergens() -> tuple[Hidden, ...]:
    """What is often hidden in what (common practice, no source)."""
    return tuple(
        Hidden(re.compile(rf"\b({row['words'].replace(';', '|')})(s|es)?\b"), tuple(row["allergens"].split(";")), row["where"])
        for row in table("hidden_allergens.csv")
    )


def allergen_of(noted: str) -> Allergen | None:
    """The allergen that a word on an item means; None where neither list knows it.

    >>> allergen_of("Soya").id, allergen_of("tree nuts").group("us9"), allergen_of("kiwi")
    ('soy', 'Tree nuts', None)
    """
    word = noted.strip().lower()
    return next((one for one in known_allergens() if word in one.words), None)


def groups_of(which: AllergenList) -> list[str]:
    """The groups of a list, in its order."""
    return list(dict.fromkeys(one.group(which) for one in known_allergens() if one.group(which)))


def may_hide(item: Item) -> tuple[Hidden, list[str]] | None:
    """Where an item is of a kind that often hides allergens: what kind, and those that are not noted on it."""
    name = " ".join(re.findall(r"\w+", item.name.lower()))
    noted = {found.id for word in item.allergens if (found := allergen_of(word)) is not None}
    for hidden in hidden_allergens():
        missing = [one for one in hidden.allergens if one not in noted]
        if missing and hidden.words.search(name):
            return hidden, missing
    return None


def allergen_matrix(costing: Costing) -> AllergenMatrix:
    """The matrix of the soups on sale, by the list that the kitchen follows, in the order of their names."""
    which = costing.view.settings.allergen_list
    on_sale = [one for one in costing.all() if one.recipe.servings]
    rows = [_row(costing.view, one, which) for one in sorted(on_sale, key=lambda one: one.recipe.name.casefold())]
    return AllergenMatrix(which, groups_of(which), rows, CAUTION)


def _row(view: DayView, one: CostedRecipe, which: AllergenList) -> AllergenRow:
    in_pot = _items(view, one.needs.named)
    beside = _items(view, one.named - one.needs.named)
    brings: dict[str, list[Item]] = {}
    others: set[str] = set()
    for item in [*in_pot, *beside]:
        for word in item.allergens:
            allergen = allergen_of(word)
            group = allergen.group(which) if allergen else ""
            if group:
                brings.setdefault(group, []).append(item)
            else:
                others.add(word)
    cells = [
        AllergenCell(group, sorted({item.name for item in brings[group]}), all(item in beside for item in brings[group]))
        for group in groups_of(which)
        if group in brings
    ]
    ask = [
        f"{item.name}: look for {', '.join(hidden[1])}, often in {hidden[0].where}"
        for item in [*in_pot, *beside]
        if (hidden := may_hide(item)) is not None
    ]
    return AllergenRow(one.recipe.id, one.recipe.name, not one.problems, cells, sorted(others), sorted(ask))


def _items(view: DayView, ids: Iterable[str]) -> list[Item]:
    return [view.items[one] for one in ids if one in view.items]
