"""Rows that cannot be understood: the kitchen opens without them, says which and why, and offers to mend them.

The database's constraints and the checks of every write keep them out; a hand in the database, or an older Potrel, may not.
"""

from __future__ import annotations

from collections.abc import Callable, Collection, Sequence
from contextlib import suppress
from dataclasses import dataclass, replace
from itertools import combinations
from typing import Literal, TypeVar

from psycopg import sql

from potrel.core.errors import PotrelError, RecipeLoop
from potrel.core.kitchen.items import Item
from potrel.core.kitchen.kinds import Name
from potrel.core.kitchen.kitchen import Kitchen
from potrel.core.kitchen.recipes import Recipe
from potrel.core.kitchen.supply import Offer
from potrel.core.sentences import say
from potrel.store.comparisons import load_comparisons
from potrel.store.database import Connection
from potrel.store.items import load_items, load_vessels
from potrel.store.kitchens import load_settings
from potrel.store.offers import load_credits, load_offers
from potrel.store.prices import load_deals
from potrel.store.recipes import load_recipes, put_back_recipe
from potrel.store.suppliers import load_suppliers
from potrel.store.yields import load_tests

FaultSort = Literal["item", "recipe", "offer"]
T = TypeVar("T", Item, Recipe, Offer)


@dataclass(frozen=True, slots=True)
class Fault:
    """An item, a recipe or an offer that is left out, because what the database says of it cannot be understood."""

    sort: FaultSort
    id: str
    name: Name
    said: str


def load_what_can_be(connection: Connection) -> tuple[Kitchen, Sequence[Fault]]:
    """The whole kitchen, but for what cannot be understood; and what that is."""
    name, currency, settings = load_settings(connection)
    faults: list[Fault] = []
    items = _load(connection, "item", "name", load_items, faults)
    offers = _load(connection, "offer", "item", load_offers, faults)
    recipes = _load(connection, "recipe", "name", load_recipes, faults)
    credits_, tests = load_credits(connection), load_tests(connection)
    if faults:
        # What is said of an item that is left out is left out with it; recipes say that they lack it.
        known = {item.id for item in items}
        offers = tuple(one for one in offers if one.item in known)
        credits_ = tuple(one for one in credits_ if one.item in known)
        tests = tuple(one for one in tests if one.item in known)
    kitchen = Kitchen(
        "potrel-kitchen", 1, name, currency, settings, load_suppliers(connection), load_vessels(connection), items, offers,
        recipes, credits_, tests, load_comparisons(connection), load_deals(connection),
    )  # fmt: skip
    return kitchen, faults


def _load(
    connection: Connection,
    sort: FaultSort,
    name: str,
    load: Callable[[Connection, Collection[str] | None], tuple[T, ...]],
    faults: list[Fault],
) -> tuple[T, ...]:
    """All of a sort; one by one only where something of them cannot be understood."""
    try:
        return load(connection, None)
    except PotrelError:
        found: list[T] = []
        order = "number" if sort == "offer" else "position, id"
        query = sql.SQL("SELECT id, {} FROM {} ORDER BY {}").format(
            sql.Identifier(name), sql.Identifier(sort), sql.SQL(order)
        )  # fmt: skip
        for id_, called in connection.execute(query).fetchall():
            try:
                found += load(connection, [id_])
            except PotrelError as error:
                faults.append(Fault(sort, id_, called, str(error)))
        return tuple(found)


def without_loop(kitchen: Kitchen, loop: RecipeLoop) -> tuple[Kitchen, Fault]:
    """A kitchen without one of the recipes that contain themselves, and what is said of that one."""
    (gone,) = (one for one in kitchen.recipes if one.id == loop.path[0])
    rest = tuple(one for one in kitchen.recipes if one is not gone)
    return replace(kitchen, recipes=rest), Fault("recipe", gone.id, gone.name, str(loop))


def mend(connection: Connection, fault: Fault, by: str) -> None:
    """Mend what cannot be understood: a recipe by its newest revision that can, an item by letting go of what is wrong with it.

    PotrelError where it cannot be mended so.
    """
    match fault.sort:
        case "item":
            _mend_item(connection, fault.id)
        case "recipe":
            put_back_recipe(connection, fault.id, by)
        case "offer":
            raise PotrelError(say("restore_backup", "a price cannot be mended: restore a back-up of before (./run restore)"))


def _mend_item(connection: Connection, item_id: str) -> None:
    """Let go of an item's cooking yields, measures or preparations, of no more of them than has to be."""
    tables = ("cooking", "measure", "preparation")
    for size in range(1, len(tables) + 1):
        for some in combinations(tables, size):
            with suppress(PotrelError), connection.transaction():
                for table in some:
                    connection.execute(sql.SQL("DELETE FROM {} WHERE item = %s").format(sql.Identifier(table)), [item_id])
                load_items(connection, [item_id])
                # Told to the change log, which hears of an item and not of its parts.
                connection.execute("UPDATE item SET name = name WHERE id = %s", [item_id])
                return
    english = "the item itself cannot be understood: restore a back-up of before (./run restore)"
    raise PotrelError(say("item_not_mended", english))
