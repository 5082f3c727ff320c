"""Measures the pot in full: vessels, heat and composition, beside the same kitchen without them, in one run."""

from __future__ import annotations

import statistics
from dataclasses import replace
from decimal import Decimal

from potrel.bench_tools import DAY, say, timed
from potrel.core.cost.costing import Costing
from potrel.core.kitchen.composition import Composition
from potrel.core.kitchen.kitchen import Kitchen
from potrel.core.kitchen.quantities import parse_quantity
from potrel.core.kitchen.recipes import Change
from potrel.core.kitchen.vessels import Vessel
from potrel.core.rooms.board import board_of
from potrel.core.rooms.exchanges import exchange
from potrel.core.rooms.splash import splashes_of
from potrel.core.tell.cost_sheet import sheet_of
from potrel.demo import demo_kitchen

_KETTLE = Vessel(
    "kettle",
    "Kettle",
    parse_quantity("60 l"),
    diameter_cm=Decimal(40),
    power_kw=Decimal(12),
    heat_source="gas",
    count=Decimal(2),
)
_HELD = Composition(
    salt_g=Decimal("0.4"), energy_kcal=Decimal(60), fat_g=Decimal("2.5"), saturates_g=Decimal("0.8"), carbohydrate_g=Decimal(7),
    sugars_g=Decimal(3), protein_g=Decimal(2), fibre_g=Decimal(1),
)  # fmt: skip


def in_full(kitchen: Kitchen) -> Kitchen:
    """A kitchen whose pots steam by their vessels and are heated, and whose items say what they hold."""
    items = tuple(replace(item, composition=_HELD, origin=("plant",), thickening=Decimal("0.04")) for item in kitchen.items)
    recipes = []
    for recipe in kitchen.recipes:
        first, *others = recipe.stages
        pot = replace(
            first, method="simmer", vessel="kettle", heat="simmer", lid="ajar", minutes=Decimal(30),
            change=Change("evaporate", by="vessel"),
        )  # fmt: skip
        recipes.append(replace(recipe, stages=(pot, *others)))
    return replace(kitchen, vessels=(_KETTLE,), items=items, recipes=tuple(recipes))


def bench_pot(kitchen: Kitchen) -> None:
    """The costing of a kitchen with and without; then what a pot is asked."""
    print(f"the pot in full: {len(kitchen.recipes)} recipes with vessels, heat and composition")
    full = in_full(kitchen)
    plain_times, full_times = [], []
    for _ in range(9):
        plain_times += timed(lambda: Costing(kitchen, DAY).cost_all(), 1)
        full_times += timed(lambda: Costing(full, DAY).cost_all(), 1)
    plain = say("all costed, without", plain_times)
    ratio = statistics.median(full_times) / plain
    say("all costed, with", full_times, f"{ratio:.2f} times (aim 1.25)")
    costing = Costing(full, DAY)
    costing.cost_all()
    board = statistics.median(timed(lambda: board_of(Costing.of_view(costing.view)), 3))
    print(f"  the board of it, all costed anew: {board:.0f} ms")

    def contents() -> None:
        fresh = Costing(full, DAY)
        fresh._costed = costing._costed
        for one in full.recipes:
            fresh.content(one.id)

    say("what is in all of them: salt, nutrients, alcohol", timed(contents, 3))
    last = full.recipes[-1].id
    say("the cost sheet of one, with all of that", timed(lambda: sheet_of(costing, last), 50))
    demo = Costing(demo_kitchen(DAY), DAY)
    say("the whole demo board, cold", timed(lambda: board_of(Costing(demo.view.kitchen, DAY)), 20))
    say("what could stand for a stock, each tried", timed(lambda: exchange(demo, "leek-potato", "simmer", "white-stock"), 20))
    say("what the last splash does", timed(lambda: splashes_of(demo, "ham-leek"), 20))
