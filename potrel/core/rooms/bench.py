"""The money of a test at the bench, as it stands beside the scale."""

from __future__ import annotations

from decimal import Decimal
from typing import NamedTuple

from potrel.core.cost.costing import Costing
from potrel.core.kitchen.bench_tests import BenchTest
from potrel.core.kitchen.items import Preparation
from potrel.core.rooms.yield_book import entry_of, sort_of
from potrel.core.trim.bench_money import MethodOutcome, outcomes
from potrel.core.trim.butchers_test import Butchered, butchered


class TestMoney(NamedTuple):
    """The AP price [money/kg] of what was tested, the textbook's test, and the four methods; empty without a price."""

    per_kg: Decimal | None
    textbook: Butchered | None
    methods: list[MethodOutcome]


def money_of(costing: Costing, test: BenchTest) -> TestMoney:
    """The money of a test at today's price, the usable part worth what the kitchen says of its preparation."""
    view = costing.view
    per_kg = view.per_kg(test.item)
    if per_kg is None:
        return TestMoney(None, None, [])
    entry = entry_of(view, view.items[test.item], sort_of(test.kind), test.of)
    value = entry.value_per_kg if isinstance(entry, Preparation) else None
    return TestMoney(per_kg, butchered(test, per_kg), outcomes(test, per_kg, value) if test.parts else [])
