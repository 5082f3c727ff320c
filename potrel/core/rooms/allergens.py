"""Allergens followed from items through stocks and garnishes to the soups on sale. An aid, not clearance: the label decides."""

from __future__ import annotations

from collections.abc import Iterable

from potrel.core.cost.costed_recipe import CostedRecipe
from potrel.core.cost.costing import Costing
from potrel.core.cost.inside import Inside
from potrel.core.frozen import dataclass
from potrel.core.kitchen.items import Item
from potrel.core.kitchen.kinds import Computed, Id
from potrel.core.kitchen.settings import AllergenList
from potrel.core.pot.day_view import DayView
from potrel.core.pot.held import ALCOHOL, HELD
from potrel.core.rooms.diets import CAUTION as DIETS_CAUTION
from potrel.core.rooms.diets import Eaten, Verdict, verdicts
from potrel.core.rooms.labels import Label, allergen_of, allowance_item, groups_of, is_unread, label_of, may_hide

CAUTION = "An aid, not clearance: labels, trained people and your local food code decide. Nothing here speaks of traces."


@dataclass(frozen=True, slots=True)
class AllergenCell:
    """What brings one group of allergens into a soup. `beside` tells that it is only in what is served with it or may be had
    with it; `words` are how it is noted, such as the cereal or the nut.
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


@dataclass(frozen=True, slots=True)
class FedRow:
    """What one portion of a soup holds, with what is eaten with it [kcal, g]; None where a value is missing. `lacking` are the
    items that lack one. And for whom the soup is.
    """

    recipe: str
    name: str
    serving: str
    size: str
    values: dict[str, Computed | None]
    lacking: list[str]
    diets: list[Verdict]


@dataclass(frozen=True, slots=True)
class AllergenMatrix:
    """The soups on sale by the groups of one list. `to_read` are the labels of their items that nobody read yet."""

    which: AllergenList
    groups: list[str]
    rows: list[AllergenRow]
    caution: str
    to_read: list[Label]
    fed: list[FedRow]
    diets_caution: str


def allergen_matrix(costing: Costing) -> AllergenMatrix:
    """The matrix of the soups on sale, by the list that the kitchen follows, in the order of their names."""
    which = costing.view.settings.allergen_list
    on_sale = [one for one in costing.all() if one.recipe.servings]
    on_sale.sort(key=lambda one: one.recipe.name.casefold())
    rows = [allergens_of(costing.view, one) for one in on_sale]
    used = _items(costing.view, set().union(*(one.named | _may_be_had(costing.view, one) for one in on_sale)))
    to_read = [label_of(item, costing.view) for item in used if is_unread(item, costing.view)]
    to_read.sort(key=lambda one: one.name.casefold())
    judged: dict[Id, Eaten] = {}
    fed = [_fed(costing, one, judged) for one in on_sale]
    return AllergenMatrix(which, groups_of(which), rows, CAUTION, to_read, fed, DIETS_CAUTION)


def _fed(costing: Costing, one: CostedRecipe, judged: dict[Id, Eaten]) -> FedRow:
    inside, portion = Inside(costing, one), one.portions[0]
    values = {name: inside.in_portion(portion, name) for name in (*HELD, ALCOHOL)}
    lacking = {item for items in inside.portion(portion).lacks.values() for item in items}
    names = sorted(costing.view.name_of(item, item) for item in lacking)
    serving, fits = portion.serving, verdicts(one, costing.view, judged)
    return FedRow(one.recipe.id, one.recipe.name, serving.name, serving.size.text, values, names, fits)


def allergens_of(view: DayView, one: CostedRecipe) -> AllergenRow:
    """The allergens of one pot, by the list that the kitchen follows."""
    which = view.settings.allergen_list
    in_pot = _items(view, one.needs.named)
    beside = _items(view, (one.named | _may_be_had(view, one)) - one.needs.named)
    covered = [
        # What the shelf says of it is a label to read; the kitchen's own thing is known.
        Item("allowance", f"{word} (allowance)", "spice", allergens=(word, *(own.allergens if own.id in view.items else ())))
        for word in one.recipe.allowance_covers
        for own in [allowance_item(word, view)]
    ]
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


def _may_be_had(view: DayView, one: CostedRecipe) -> set[str]:
    """The items of what a guest may have with it for a surcharge, through the recipes that it is made of."""
    found: set[str] = set()
    seen: set[str] = set()
    todo: list[str] = []
    for line in (line for serving in one.recipe.servings for line in serving.add_ons if not one.recipe.keeps(line)):
        found |= {line.item} if line.item is not None else set()
        todo += [line.recipe] if line.recipe is not None else []
    while todo:
        recipe = view.recipes.get(todo.pop())
        if recipe is not None and recipe.id not in seen:
            seen.add(recipe.id)
            found |= recipe.uses_items()
            todo += recipe.uses()
    return found


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
