"""Puts the demo kitchen into an empty database, with lists of its suppliers that wait for somebody to look at them."""

from __future__ import annotations

from dataclasses import replace
from datetime import date

from potrel.core.rooms.review import ListChoices
from potrel.deliveries.understanding import Understood, understand
from potrel.demo import SIMULATED, demo_kitchen, demo_lists
from potrel.store.database import Database
from potrel.store.kitchens import insert_kitchen, is_empty
from potrel.store.price_lists import insert_price_list
from potrel.store.suppliers import load_suppliers, update_supplier


def fill_demo(store: Database, today: date) -> bool:
    """Fill an empty database; returns whether it was."""
    with store.reading() as connection:
        if not is_empty(connection):
            return False
    kitchen = demo_kitchen(today)
    with store.writing("the demo") as connection:
        insert_kitchen(connection, kitchen, "the demo")
        for name, data in demo_lists(today):
            *_, last = understand(data, kitchen, ListChoices())
            if isinstance(last, Understood):
                insert_price_list(connection, name, data, last.of, last.supplier, "the demo")
    return True


def move_supplier(store: Database, catalogue_url: str) -> None:
    """Say where the simulated supplier answers this time."""
    with store.writing("the demo") as connection:
        for supplier in load_suppliers(connection):
            if supplier.id == SIMULATED and supplier.catalogue_url != catalogue_url:
                update_supplier(connection, replace(supplier, catalogue_url=catalogue_url))
