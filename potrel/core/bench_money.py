"""What each by-product method makes of one and the same test: the money of the usable part, and of what fell off."""

from __future__ import annotations

from dataclasses import dataclass
from decimal import Decimal
from typing import NamedTuple

from potrel.core.byproducts import METHODS, trimmed
from potrel.core.costing import Costing
from potrel.core.fields import ZERO, Computed
from potrel.core.kitchen import Byproduct, ByproductMethod, Preparation
from potrel.core.part import Part
from potrel.core.weighed import BenchTest, Butchered, butchered, weights
from potrel.core.yield_book import entry_of, sort_of


@dataclass(frozen=True, slots=True)
class PartCost(Part):
    """What one thing that fell off bears of the cost [money]; below zero where its disposal is paid."""

    name: str
    cost: Computed


@dataclass(frozen=True, slots=True)
class MethodOutcome(Part):
    """One method: what the usable part costs [money and money/kg] and what each part bears; `lack` says what is missing.

    By every method the usable part and all parts add up to what was paid.
    """

    method: ByproductMethod
    usable_cost: Computed | None
    usable_per_kg: Computed | None
    parts: list[PartCost]
    lack: str | None


def outcomes(test: BenchTest, per_kg: Decimal, value_per_kg: Decimal | None) -> list[MethodOutcome]:
    """The four methods side by side, at an AP price and a value of the usable part [both money/kg]."""
    return [_outcome(test, per_kg, value_per_kg, method) for method in METHODS]


class TestMoney(NamedTuple):
    """The AP price [money/kg] of what was tested, the textbook's test, and the four methods; empty without a price."""

    per_kg: Decimal | None
    textbook: Butchered | None
    methods: list[MethodOutcome]


def money_of(costing: Costing, test: BenchTest) -> TestMoney:
    """The money of a test at today's price, the usable part worth what the kitchen says of its preparation."""
    per_kg = costing.per_kg(test.item)
    if per_kg is None:
        return TestMoney(None, None, [])
    entry = entry_of(costing.facts, costing.facts.items[test.item], sort_of(test.kind), test.of)
    value = entry.value_per_kg if isinstance(entry, Preparation) else None
    return TestMoney(per_kg, butchered(test, per_kg), outcomes(test, per_kg, value) if test.parts else [])


def preparation_of(test: BenchTest, value_per_kg: Decimal | None) -> Preparation:
    """The preparation that a single test tells: its yield, and its parts as shares of what there was before."""
    weighed = weights(test)
    parts = tuple(Byproduct(part.name, part.grams / weighed.before, part.value_per_kg, part.use) for part in test.parts)
    return Preparation("test", test.of, weighed.yield_, byproducts=parts, value_per_kg=value_per_kg)


def _outcome(test: BenchTest, per_kg: Decimal, value_per_kg: Decimal | None, method: ByproductMethod) -> MethodOutcome:
    weighed = weights(test)
    paid = weighed.before / 1000 * per_kg
    trim = trimmed(weighed.before, [preparation_of(test, value_per_kg)], method)
    if trim.lack is not None:
        return MethodOutcome(method, None, None, [], f"say {trim.lack}")
    parts: list[PartCost] = []
    # What fell off, in the order of the parts that are worth something.
    offs = iter(trim.offs)
    for part in test.parts:
        bears = part.worth
        if bears > 0 and method != "credit":
            off = next(offs)
            bears = paid * off.share - sum((credit.worth for credit in off.paid), ZERO)
        parts.append(PartCost(part.name, bears))
    usable = trim.cost(paid)
    return MethodOutcome(method, usable, usable / weighed.after * 1000, parts, None)
