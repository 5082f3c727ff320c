"""One engine for a certain pot and for many uncertain ones: draws from purchase to price, and inputs given by name."""

from __future__ import annotations

import unittest
from collections.abc import Iterator
from dataclasses import replace
from decimal import Decimal
from typing import Any, cast

import numpy

from potrel.core.cost.costed_recipe import CostedRecipe
from potrel.core.cost.costing import Costing
from potrel.core.kitchen.items import ByproductMethod
from potrel.core.kitchen.kitchen import Kitchen
from potrel.core.kitchen.pricing import PriceEnding
from potrel.core.pot.inputs import Asked, Inputs
from potrel.core.trim.byproducts import METHODS
from tests.kitchens import DAY, d, demo, tiny


def constant(value: Decimal) -> Decimal:
    """Three draws that are all alike."""
    return cast(Decimal, numpy.full(3, float(value)))


def draws(*values: float) -> Decimal:
    return cast(Decimal, numpy.array(values))


def figures_of(one: CostedRecipe) -> Iterator[tuple[str, Any]]:
    """Every number that the costing knows of a recipe."""
    yield "cost", one.cost
    yield "mass", one.balance.mass
    yield "minutes", one.needs.minutes
    yield "energy", one.needs.energy
    for here in one.balance.stages:
        for name in ("mass_in", "changed", "residue", "mass_out"):
            yield f"{here.stage.id} {name}", getattr(here, name)
    for line in one.balance.lines:
        for name in ("ap", "ep", "own", "up", "put"):
            yield f"{line.id} {name}", getattr(line, name)
    for item, mass in one.needs.borne.items():
        yield f"need of {item}", mass
    for portion in one.portions:
        for name in ("portions", "factor", "food_cost", "labour_cost", "energy_cost", "overhead_cost"):
            yield f"{portion.serving.id} {name}", getattr(portion, name)
        for name in ("net", "suggested", "price", "kept", "share", "target", "contribution"):
            yield f"{portion.serving.id} {name}", getattr(portion.priced, name)


class Constant(unittest.TestCase):
    def assertAlike(self, whole: Kitchen) -> int:
        exact, drawn, seen = Costing(whole, DAY), Costing(whole, DAY, Inputs(constant)), 0
        for one in exact.all():
            many = drawn.of(one.recipe.id)
            self.assertEqual([p.message for p in many.problems], [p.message for p in one.problems])
            self.assertEqual(many.balance.warnings, one.balance.warnings)
            for (name, value), (_, array) in zip(figures_of(one), figures_of(many), strict=True):
                with self.subTest(recipe=one.recipe.id, figure=name):
                    self.assertEqual(value is None, array is None)
                    if value is not None:
                        numpy.testing.assert_allclose(array, [float(value)] * 3, rtol=1e-11, atol=1e-11)
                        seen += 1
        return seen

    def test_draws_that_are_all_alike_give_the_figures_of_decimals(self) -> None:
        self.assertGreater(self.assertAlike(demo()), 1200)
        self.assertGreater(self.assertAlike(tiny()), 60)

    def test_by_each_method_and_with_each_ending(self) -> None:
        endings = (None, PriceEnding(step=d("0.05")), PriceEnding(cents=(d("0.90"), d("0.95"))), PriceEnding(step=d("0.5")))
        for method, ending in zip(METHODS, endings, strict=True):
            self.assertAlike(with_settings(demo(), method, ending))


def with_settings(of: Kitchen, method: ByproductMethod, ending: PriceEnding | None) -> Kitchen:
    return replace(of, settings=replace(of.settings, byproduct_method=method, price_ending=ending))


class ByName(unittest.TestCase):
    """A draw of one input counts wherever it is used, as if the kitchen itself had said so."""

    def setUp(self) -> None:
        self.whole = demo()

    def assertAsIf(self, asked: Asked, values: list[str], said: list[Kitchen]) -> set[str]:
        """Given draws cost what kitchens cost that state each of them; returns the recipes they move."""
        given = Inputs(constant, {asked: draws(*(float(one) for one in values))})
        # Three draws: what is not given has three alike.
        drawn, stated, usual = Costing(self.whole, DAY, given), [Costing(one, DAY) for one in said], Costing(self.whole, DAY)
        moved = set()
        for one in drawn.all():
            costs = [float(other.of(one.recipe.id).cost) for other in stated]
            numpy.testing.assert_allclose(cast(Any, one.cost), costs, rtol=1e-11)
            if any(abs(cost - float(usual.of(one.recipe.id).cost)) > 1e-9 for cost in costs):
                moved.add(one.recipe.id)
        return moved

    def with_item(self, item_id: str, **changed: Any) -> Kitchen:
        items = tuple(replace(one, **changed) if one.id == item_id else one for one in self.whole.items)
        return replace(self.whole, items=items)

    def test_a_yield_of_a_preparation(self) -> None:
        values = ["0.40", "0.42", "0.46"]
        (leek,) = (one for one in self.whole.items if one.id == "leek")
        (sliced,) = leek.preparations
        said = [self.with_item("leek", preparations=(replace(sliced, yield_=d(one), low=None, high=None),)) for one in values]
        moved = self.assertAsIf(Asked("yield", "leek", "sliced"), values, said)
        self.assertIn("leek-potato", moved)

    def test_a_price(self) -> None:
        values = ["1.10", "1.20", "1.70"]
        said = []
        for one in values:
            kilo = next(offer for offer in self.whole.offers if offer.pack.text == "1 kg")
            dearer = replace(kilo, item="onion", supplier="saltmarsh", price=d(one), on=DAY, drained=None)
            said.append(replace(self.whole, offers=(*self.whole.offers, dearer)))
        drawn = [str(Decimal(one) / 1000) for one in values]
        moved = self.assertAsIf(Asked("price", "onion"), drawn, said)
        # Through stocks and into soups.
        self.assertGreater(len(moved), 6)

    def test_the_evaporation_of_a_stock_reaches_the_soups_that_it_goes_into(self) -> None:
        (stock,) = (one for one in self.whole.recipes if one.id == "white-stock")
        stage = next(one for one in stock.stages if one.change.kg_per_hour is not None)
        rate, values = stage.change.kg_per_hour, ["0.2", "0.3", "0.5"]
        assert rate is not None
        said = []
        for one in values:
            wetter = replace(stage, change=replace(stage.change, kg_per_hour=d(one)))
            stages = tuple(wetter if each is stage else each for each in stock.stages)
            recipes = tuple(replace(stock, stages=stages) if each is stock else each for each in self.whole.recipes)
            said.append(replace(self.whole, recipes=recipes))
        grams = [str(Decimal(one) * 1000) for one in values]
        self.assertIn("leek-potato", self.assertAsIf(Asked("change", "white-stock", stage.id), grams, said))

    def test_everything_that_a_kitchen_states_is_asked_for_by_name(self) -> None:
        asked: list[Asked] = []

        class Noting(Inputs):
            def ask(self, sort: Any, of: str, part: str, stated: Decimal) -> Decimal:
                asked.append(Asked(sort, of, part))
                return stated

        list(Costing(self.whole, DAY, Noting()).all())
        sorts = {one.sort for one in asked}
        self.assertLessEqual(
            {"price", "yield", "byproduct", "cooking", "rendered", "quantity", "change", "residue", "taken_out", "size",
             "spent_factor", "attended_minutes", "energy", "portioning", "allowance", "setting", "measured_yield"},
            sorts,
        )  # fmt: skip
