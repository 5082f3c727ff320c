"""What must hold of a whole kitchen: ids lead somewhere, units are known, no recipe contains itself."""

from __future__ import annotations

from collections.abc import Callable, Collection, Iterable, Mapping
from typing import Any, TypeVar

from potrel.core.errors import BadDocument, PotrelError
from potrel.core.kitchen.checks import refuse_twice
from potrel.core.kitchen.deals import Deal
from potrel.core.kitchen.items import Item
from potrel.core.kitchen.kitchen import Kitchen
from potrel.core.kitchen.order import order_of
from potrel.core.kitchen.quantities import Quantity, unit_called
from potrel.core.kitchen.recipes import Recipe
from potrel.core.kitchen.settings import Settings
from potrel.core.numbers.units import canonical, is_known_count, kind_of
from potrel.core.sentences import Sentence, say

T = TypeVar("T")


def check_kitchen(kitchen: Kitchen) -> None:
    """BadDocument or RecipeLoop where the parts of a kitchen do not fit together."""
    kinds: tuple[tuple[str, str, Iterable[Any]], ...] = (
        ("suppliers", "supplier", kitchen.suppliers),
        ("vessels", "vessel", kitchen.vessels),
        ("items", "item", kitchen.items),
        ("recipes", "recipe", kitchen.recipes),
        ("tests", "test", kitchen.tests),
        ("comparisons", "comparison", kitchen.comparisons),
        ("deals", "deal", kitchen.deals),
    )
    for where, what, parts in kinds:
        _at(where, refuse_twice, what, (part.id for part in parts))
    _at("offers", refuse_twice, "offer", (offer.id for offer in kitchen.offers if offer.id))
    _at("credits", refuse_twice, "credit", (credit.id for credit in kitchen.credits if credit.id))
    items = {item.id: item for item in kitchen.items}
    suppliers = {supplier.id for supplier in kitchen.suppliers}
    units = known_units(kitchen.items)
    for place, item in enumerate(kitchen.items):
        _known(f"items[{place}]", "supplier", item.preferred_supplier, suppliers)
        _at(f"items[{place}] ({item.id})", check_measure_names, item)
    _check_offers(kitchen, items, suppliers, units)
    _check_credits(kitchen, items, suppliers)
    for place, test in enumerate(kitchen.tests):
        _known(f"tests[{place}]", "item", test.item, items)
        _known(f"tests[{place}]", "supplier", test.supplier, suppliers)
    recipes = {recipe.id: recipe for recipe in kitchen.recipes}
    vessels = {vessel.id for vessel in kitchen.vessels}
    channels = {channel.id for channel in kitchen.settings.channels}
    _at("settings", check_settings, kitchen.settings, items, units)
    for place, recipe in enumerate(kitchen.recipes):
        _at(f"recipes[{place}] ({recipe.id})", check_recipe, recipe, items, recipes, vessels, units, channels)
    for place, deal in enumerate(kitchen.deals):
        _at(f"deals[{place}] ({deal.id})", check_deal, deal, items, recipes, units, channels)
    order_of(recipes, lambda recipe_id: recipes[recipe_id].uses())


def check_recipe(
    recipe: Recipe,
    items: Mapping[str, Item],
    recipes: Mapping[str, Recipe],
    vessels: Collection[str],
    units: Collection[str],
    channels: Collection[str],
) -> None:
    """BadDocument where a recipe names an item, recipe, vessel, channel or unit that the kitchen does not have."""
    for stage in recipe.stages:
        _known(f'stage "{stage.id}"', "vessel", stage.vessel, vessels)
    for serving in recipe.servings:
        _known(f'serving "{serving.id}"', "vessel", serving.hold_vessel, vessels)
        for own in serving.channels:
            _known(f'serving "{serving.id}"', "channel", own.channel, channels)
    for one in recipe.named():
        _known("", "item", one.item, items)
        _known("", "recipe", one.recipe, recipes)
    for line in recipe.all_lines():
        refuse_unknown_unit(line.quantity, units)


def check_settings(settings: Settings, items: Mapping[str, Item], units: Collection[str]) -> None:
    """BadDocument where the packaging of a channel names an item or unit that the kitchen does not have."""
    for channel in settings.channels:
        for line in channel.packaging:
            _known(f'channel "{channel.id}"', "item", line.item, items)
            refuse_unknown_unit(line.quantity, units)


def check_deal(
    deal: Deal,
    items: Mapping[str, Item],
    recipes: Mapping[str, Recipe],
    units: Collection[str],
    channels: Collection[str],
) -> None:
    """BadDocument where a deal names what the kitchen does not have."""
    _known("", "channel", deal.channel, channels)
    for part in deal.parts:
        _known("", "recipe", part.recipe, recipes)
        if part.recipe is not None:
            _known(part.recipe, "serving", part.serving, {serving.id for serving in recipes[part.recipe].servings})
        if part.line is not None:
            _known("", "item", part.line.item, items)
            _known("", "recipe", part.line.recipe, recipes)
            refuse_unknown_unit(part.line.quantity, units)


def _known(where: str, what: str, wanted: str | None, there: Collection[str]) -> None:
    if wanted is not None and wanted not in there:
        raise BadDocument(where, say("no_such", 'no {what} has the id "{id}"', what=what, id=wanted))


def _check_offers(kitchen: Kitchen, items: Collection[str], suppliers: Collection[str], units: Collection[str]) -> None:
    ids: set[str] = set()
    for place, offer in enumerate(kitchen.offers):
        where = f"offers[{place}]"
        _known(where, "item", offer.item, items)
        _known(where, "supplier", offer.supplier, suppliers)
        if offer.corrects is not None and offer.corrects not in ids:
            english = 'it corrects "{offer}", which is no offer before it'
            raise BadDocument(where, say("corrects_what", english, offer=offer.corrects))
        if offer.id is not None:
            ids.add(offer.id)
        _at(where, refuse_unknown_unit, offer.pack.inner, units)


def _check_credits(kitchen: Kitchen, items: Collection[str], suppliers: Collection[str]) -> None:
    ids: set[str | None] = {None}
    for place, credit in enumerate(kitchen.credits):
        where = f"credits[{place}]"
        _known(where, "item", credit.item, items)
        _known(where, "supplier", credit.supplier, suppliers)
        if credit.withdraws not in ids:
            english = 'it takes back "{credit}", which is no credit before it'
            raise BadDocument(where, say("withdraws_what", english, credit=credit.withdraws))
        ids.add(credit.id)


def known_units(items: Iterable[Item]) -> set[str]:
    """The count units that some item of the kitchen gives a weight."""
    # One that no quantity can be written in does no harm: it is known to nobody.
    return {canonical(unit) for item in items for unit in item.measures}


def check_measure_names(item: Item) -> None:
    """BadDocument where a measure of an item has a name in which no quantity could be written."""
    for name in item.measures:
        _at(f"measures.{name}", unit_called, name)


def check_measures(item: Item) -> None:
    """The same of an item that is typed now; and BadDocument where two measures mean the same unit, or one is a mass."""
    check_measure_names(item)
    seen: dict[str, str] = {}
    for name in item.measures:
        where, unit = f"measures.{name}", canonical(name)
        if kind_of(unit) == "mass":
            raise BadDocument(where, say("measure_of_mass", '"{name}" is a mass already: it needs no weight', name=name))
        if unit in seen:
            english = '"{name}" and "{other}" mean the same unit: keep one of them'
            raise BadDocument(where, say("same_measure", english, name=name, other=seen[unit]))
        seen[unit] = name


def refuse_unknown_unit(quantity: Quantity, units: Collection[str]) -> None:
    """BadDocument where a quantity has a count unit that nobody would know."""
    message = unknown_unit(quantity, units)
    if message is not None:
        raise BadDocument("", message)


def unknown_unit(quantity: Quantity, units: Collection[str]) -> Sentence | None:
    """What is wrong with a count unit that nobody would know; None where somebody does."""
    if quantity.kind != "count" or quantity.unit in units or is_known_count(quantity.unit):
        return None
    english = '"{text}": unknown unit "{unit}"; use kg, l, each, bunch, … or weigh one and add it as a measure'
    return say("unknown_unit", english, text=quantity.text, unit=quantity.unit)


def _at(where: str, check: Callable[..., T], *args: Any) -> T:
    """Run a check, and say where in the document its error lies."""
    try:
        return check(*args)
    except PotrelError as error:
        raise BadDocument(where, error.said) from None
