"""What each by-product method makes of one and the same test: the money of the usable part, and of what fell off."""

from __future__ import annotations

from decimal import Decimal

from potrel.core.frozen import dataclass
from potrel.core.kitchen.bench_tests import BenchTest
from potrel.core.kitchen.items import Byproduct, ByproductMethod, Preparation
from potrel.core.kitchen.kinds import Computed
from potrel.core.trim.butchers_test import what_was_paid
from potrel.core.trim.byproducts import METHODS, Step, stated, trimmed


@dataclass(frozen=True, slots=True)
class PartCost:
    """What one thing that fell off bears of the cost [money]; below zero where its disposal is paid."""

    name: str
    cost: Computed


@dataclass(frozen=True, slots=True)
class MethodOutcome:
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


def tested_step(test: BenchTest, value_per_kg: Decimal | None) -> Step:
    """The preparation that a single test tells: its yield, and its parts as shares of what there was before."""
    before = test.before.grams()
    parts = tuple(Byproduct(part.name, part.grams / before, part.value_per_kg, part.use) for part in test.parts)
    return stated(Preparation("test", test.of, test.yield_, byproducts=parts, value_per_kg=value_per_kg))


def _outcome(test: BenchTest, per_kg: Decimal, value_per_kg: Decimal | None, method: ByproductMethod) -> MethodOutcome:
    paid = what_was_paid(test.before.grams() / 1000, per_kg)
    trim = trimmed(test.before.grams(), [tested_step(test, value_per_kg)], method)
    if trim.lack is not None:
        return MethodOutcome(method, None, None, [], f"say {trim.lack.said}")
    parts: list[PartCost] = []
    # What fell off, in the order of the parts that are worth something.
    offs = iter(trim.offs)
    for part in test.parts:
        bears = part.worth
        if bears > 0 and method != "credit":
            off = next(offs)
            bears = paid * off.share - sum(one.worth for one in off.paid)
        parts.append(PartCost(part.name, bears))
    usable = trim.cost(paid)
    return MethodOutcome(method, usable, usable / test.after.grams() * 1000, parts, None)
