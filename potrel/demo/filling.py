"""Puts the demo kitchen into an empty database, with lists of its suppliers that wait for somebody to look at them."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import date, timedelta
from decimal import Decimal

from potrel.core.kitchen.kitchen import Kitchen
from potrel.demo import SIMULATED, demo_kitchen, demo_lists
from potrel.doing.lists import move_catalogue
from potrel.doing.whole_kitchen import Beginning, begin
from potrel.store.database import Database
from potrel.store.price_rounds import Sold, monday

_BY = "the demo"


def fill_demo(database: Database, today: date) -> bool:
    """Fill an empty database; returns whether it was."""

    def made() -> Beginning:
        kitchen = demo_kitchen(today)
        return Beginning(kitchen, list(demo_lists(today)), list(_sold(kitchen, today)))

    return begin(database, made, _BY)


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


def move_supplier(database: Database, catalogue_url: str) -> None:
    """Say where the simulated supplier answers this time."""
    move_catalogue(database, SIMULATED, catalogue_url, _BY)
