"""Kitchens for the tests: the worked example, and small ones made from parts."""

from __future__ import annotations

from dataclasses import replace
from datetime import date
from decimal import Decimal
from functools import cache
from pathlib import Path
from typing import Any

from potrel.core.cost.costing import Costing
from potrel.core.kitchen.items import Item
from potrel.core.kitchen.kitchen import Kitchen
from potrel.core.kitchen.quantities import parse_pack
from potrel.core.kitchen.recipes import Recipe
from potrel.core.kitchen.settings import Settings
from potrel.core.kitchen.supply import Offer, Supplier
from potrel.core.kitchen.vessels import Vessel
from potrel.core.tell.cost_sheet import sheet_of
from potrel.core.tell.sheet_parts import CostSheet
from potrel.demo import demo_kitchen
from potrel.formats.kitchen_json import part_from, read_kitchen

DAY = date(2026, 11, 24)
KILO = parse_pack("1 kg")
TINY = Path(__file__).parent / "data" / "tiny.json"


@cache
def demo() -> Kitchen:
    """The demo kitchen on the day of the tests."""
    return demo_kitchen(DAY)


@cache
def tiny() -> Kitchen:
    """The worked example of the calculation: a celeriac soup on a chicken stock."""
    return read_kitchen(TINY.read_bytes())


def d(text: str | int) -> Decimal:
    """A decimal, briefly."""
    return Decimal(text)


def recipe(document: dict[str, Any]) -> Recipe:
    """A recipe from a piece of a document; id and name may be left out."""
    made: Recipe = part_from(Recipe, {"id": "pot", "name": "Pot", **document})
    return made


def item(document: dict[str, Any]) -> Item:
    """An item from a piece of a document; name and kind may be left out."""
    made: Item = part_from(Item, {"name": document["id"].title(), "kind": "other", **document})
    return made


def kitchen(
    items: list[dict[str, Any]],
    recipes: list[dict[str, Any]],
    prices: dict[str, str] | None = None,
    vessels: list[dict[str, Any]] | None = None,
    **settings: Any,
) -> Kitchen:
    """A kitchen whose items cost so much a kilo, all bought from one supplier on the first of November."""
    made = [item(one) for one in items]
    offers = tuple(Offer(one, "shop", KILO, Decimal(price), date(2026, 11, 1)) for one, price in (prices or {}).items())
    return Kitchen(
        "potrel-kitchen", 1, "Test", "EUR", Settings(**settings), (Supplier("shop", "Shop"),),
        tuple(part_from(Vessel, {"name": one["id"].title(), **one}) for one in vessels or []), tuple(made), offers,
        tuple(recipe(one) for one in recipes),
    )  # fmt: skip


def sheet(of: Kitchen, recipe_id: str = "pot", on: date = DAY) -> CostSheet:
    """The cost sheet of a recipe of a kitchen."""
    return sheet_of(Costing(of, on), recipe_id)


def with_recipe(of: Kitchen, changed: Recipe) -> Kitchen:
    """A kitchen with one recipe in the place of that with its id."""
    return replace(of, recipes=tuple(changed if one.id == changed.id else one for one in of.recipes))
