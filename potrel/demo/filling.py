"""Puts the demo kitchen into an empty database, with lists of its suppliers that wait for somebody to look at them."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from datetime import date, timedelta
from decimal import Decimal

from potrel.core.kitchen.kitchen import Kitchen
from potrel.core.rooms.review import ListChoices
from potrel.deliveries.understanding import Understood, understand
from potrel.demo import SIMULATED, demo_kitchen, demo_lists
from potrel.store.database import Database
from potrel.store.kitchens import insert_kitchen, is_empty, load_zone
from potrel.store.price_lists import insert_price_list
from potrel.store.price_rounds import Sold, monday, note_sold
from potrel.store.suppliers import load_suppliers, update_supplier


def fill_demo(store: Database, today: date) -> bool:
    """Fill an empty database; returns whether it was."""
    with store.reading() as connection:
        if not is_empty(connection):
            return False
        zone = load_zone(connection).key
    kitchen = demo_kitchen(today)
    kitchen = replace(kitchen, settings=replace(kitchen.settings, time_zone=zone))
    with store.writing("the demo") as connection:
        insert_kitchen(connection, kitchen, "the demo")
        for name, data in demo_lists(today):
            *_, last = understand(data, kitchen, ListChoices())
            if isinstance(last, Understood):
                insert_price_list(connection, name, data, last.of, last.supplier, "the demo")
        note_sold(connection, _sold(kitchen, today), "the demo")
    return True


def _sold(kitchen: Kitchen, today: date) -> Iterator[Sold]:
    """Portions sold in the last four weeks, by a rule: some soups sell well, and each week is a little other."""
    for place, recipe in enumerate(kitchen.recipes):
        for size, serving in enumerate(recipe.servings):
            channels = [one.channel for one in serving.channels]
            for number, channel in enumerate(["", *channels]):
                usual = (38 + place * 29 % 57) // (1 + size) // (1 + 2 * number)
                for week in range(1, 5):
                    on = monday(today) - timedelta(weeks=week)
                    yield Sold(recipe.id, serving.id, channel, on, Decimal(usual + (place + 3 * week) % 5))


def move_supplier(store: Database, catalogue_url: str) -> None:
    """Say where the simulated supplier answers this time."""
    with store.writing("the demo") as connection:
        for supplier in load_suppliers(connection):
            if supplier.id == SIMULATED and supplier.catalogue_url != catalogue_url:
                update_supplier(connection, replace(supplier, catalogue_url=catalogue_url))
