"""Diets: for whom a pot is, by what its goods come from. What nobody said is never a yes. An aid, not clearance."""

from __future__ import annotations

from collections.abc import Iterable
from functools import cache
from typing import Literal, NamedTuple

from potrel.core.cost.costed_recipe import CostedRecipe
from potrel.core.frozen import dataclass
from potrel.core.kitchen.items import Item
from potrel.core.kitchen.kinds import Id, Name
from potrel.core.pot.day_view import DayView
from potrel.core.rooms.labels import allergen_of, allowance_item, is_unread, may_hide
from potrel.core.tables import table

Answer = Literal["yes", "no", "not_known"]
CAUTION = "Diets are an aid too, no clearance: labels and trained people decide. Nothing here tells of traces, halal, kosher."
# What something may come from, each word as an item says it.
ORIGINS = (
    "plant", "mineral", "milk", "egg", "honey", "fish", "shellfish", "meat", "pork", "beef", "poultry", "lamb", "game",
    "gelatine", "rennet", "insect", "alcohol",
)  # fmt: skip
_UNDERSTOOD = frozenset(ORIGINS)
# What an allergen on a label comes from, where a diet asks for it.
_COMES_FROM = {"milk": "milk", "eggs": "egg", "fish": "fish", "crustaceans": "shellfish", "molluscs": "shellfish"}
# Nothing of that is eaten.
_NOT_EATEN = frozenset({"packaging"})
_WATER = "water"


class Eaten(NamedTuple):
    """Something in a pot or beside it: what it is known to come from, whether that is all of it, and what a label that nobody
    read may add.
    """

    name: Name
    origin: frozenset[str]
    is_all: bool
    may_hold: frozenset[str] = frozenset()


class Diet(NamedTuple):
    """A diet: what it refuses, and what makes it doubtful since it may be that."""

    id: str
    called: str
    refuses: frozenset[str]
    in_doubt: frozenset[str]


@dataclass(frozen=True, slots=True)
class Verdict:
    """Whether a pot, with what goes with it, fits a diet.

    `because` names what decides: what is refused, else what nobody knows.
    """

    diet: Id
    called: Name
    answer: Answer
    because: list[str]


@cache
def diets() -> tuple[Diet, ...]:
    """The diets that are told."""
    return tuple(Diet(row["id"], row["called"], _set(row["refuses"]), _set(row["in_doubt"])) for row in table("diets.csv"))


def _set(text: str) -> frozenset[str]:
    return frozenset(filter(None, text.split(";")))


def _eaten(item: Item) -> Eaten:
    """An item by what it says in `origin`, and by what is noted of its label. A drink with alcohol holds that too."""
    said = frozenset(one.strip().lower() for one in item.origin)
    if item.kind == _WATER and not said:
        said = frozenset({"mineral"})
    noted = [found.id for word in item.allergens if (found := allergen_of(word)) is not None]
    alcohol = frozenset({"alcohol"} if item.composition.abv else ())
    return Eaten(item.name, said | _from_label(noted) | alcohol, bool(said) and said <= _UNDERSTOOD)


def _from_label(allergens: Iterable[str]) -> frozenset[str]:
    return frozenset(_COMES_FROM[one] for one in allergens if one in _COMES_FROM)


def verdicts(one: CostedRecipe, view: DayView, judged: dict[Id, Eaten] | None = None) -> list[Verdict]:
    """Every diet for one pot, with what is served with it. `judged` keeps what an item was found to be for the next pot."""
    judged = {} if judged is None else judged
    for item_id in one.named - judged.keys():
        if item_id in view.items:
            judged[item_id] = _with_label(view.items[item_id], view)
    items = [view.items[item] for item in one.named if item in view.items]
    eaten = [judged[item.id] for item in items if item.kind not in _NOT_EATEN] + _covered(one, view)
    complete = all(problem.code != "unknown" for problem in one.problems)
    return [_verdict(diet, eaten, complete=complete) for diet in diets()]


def _with_label(item: Item, view: DayView) -> Eaten:
    """An item, with what its label should be read for while nobody did."""
    eaten = _eaten(item)
    if not is_unread(item, view):
        return eaten
    hidden = [allergen.id for _, missing in may_hide(item) for allergen in missing]
    return eaten._replace(may_hold=_from_label(hidden))


def _covered(one: CostedRecipe, view: DayView) -> list[Eaten]:
    """What the seasoning allowance stands for: by the kitchen's own goods and the shelf, as far as they are called so."""
    if not view.allowance(one.recipe) > 0:
        return []
    if not one.recipe.allowance_covers:
        return [Eaten("the seasoning allowance (say what it covers)", frozenset(), is_all=False)]
    return [
        _with_label(allowance_item(word, view), view)._replace(name=f"{word} (allowance)")
        for word in one.recipe.allowance_covers
    ]


def _verdict(diet: Diet, eaten: Iterable[Eaten], *, complete: bool) -> Verdict:
    refused: list[str] = []
    open_: list[str] = []
    for name, origin, is_all, may_hold in eaten:
        if origin & diet.refuses:
            refused.append(name)
        elif not is_all or origin & diet.in_doubt or may_hold & diet.refuses:
            open_.append(name)
    if refused:
        return Verdict(diet.id, diet.called, "no", sorted(set(refused)))
    if open_ or not complete:
        return Verdict(diet.id, diet.called, "not_known", sorted(set(open_)) or ["an incomplete recipe"])
    return Verdict(diet.id, diet.called, "yes", [])
