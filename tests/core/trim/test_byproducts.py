"""The four by-product methods on trims and take-outs, what is left over as a line, and its other side."""

from __future__ import annotations

import unittest
from dataclasses import replace
from decimal import Decimal
from typing import Any

from potrel.core.cost.costing import Costing
from potrel.core.cost.effects import reached_by
from potrel.core.errors import BadDocument
from potrel.core.kitchen.kitchen import Kitchen
from potrel.core.kitchen.lines import Line
from potrel.core.kitchen.quantities import parse_quantity
from potrel.core.rooms.form_comparison import compare_forms
from potrel.core.rooms.leftovers import leftovers
from potrel.core.tell.cost_sheet import sheet_of
from potrel.core.tell.explanations import explain, figures_of
from potrel.core.trim.byproducts import borne_shares
from tests.kitchens import DAY, d, demo, kitchen, sheet

LEEK: dict[str, Any] = {"id": "leek", "allergens": ["none known"], "preparations": [
    {"id": "cut", "name": "cut", "yield": "0.5", "value_per_kg": "6", "byproducts": [
        {"name": "tops", "share": "0.4", "value_per_kg": "1", "use": "stock"},
        {"name": "grit", "share": "0.1", "value_per_kg": "-0.2"}]}]}  # fmt: skip
POT: dict[str, Any] = {"id": "pot", "stages": [
    {"id": "s", "lines": [{"item": "leek", "quantity": "10 kg", "preparation": "cut"}]}]}  # fmt: skip
STOCK: dict[str, Any] = {"id": "stock", "stages": [
    {"id": "s", "value_per_kg": "1", "lines": [{"item": "bones", "quantity": "10 kg"}], "take_out": [
        {"name": "meat", "mass": "2 kg", "value_per_kg": "4", "use": "broth"},
        {"name": "bones", "mass": "4 kg", "value_per_kg": "-0.1", "use": "waste"}]}]}  # fmt: skip
BROTH: dict[str, Any] = {"id": "broth", "stages": [{"id": "s", "lines": [
    {"recipe": "stock", "byproduct": "meat", "quantity": "500 g"},
    {"item": "leek", "byproduct": "tops", "preparation": "cut", "quantity": "1 kg"}]}]}  # fmt: skip
PRICES = {"leek": "2", "bones": "0.9"}


def with_method(method: str, *recipes: dict[str, Any], **leek: Any) -> Kitchen:
    items = [{**LEEK, **leek}, {"id": "bones"}]
    return kitchen(items, list(recipes), PRICES, byproduct_method=method)


class Shares(unittest.TestCase):
    def test_each_method_by_hand(self) -> None:
        products = ((d("5"), d("6")), [(d("4"), d("1"))])
        self.assertEqual(borne_shares("credit", *products), [1, 0])
        self.assertEqual(borne_shares("main_bears_all", *products), [1, 0])
        self.assertEqual(borne_shares("market_value", *products), [d("30") / 34, d("4") / 34])
        self.assertEqual(borne_shares("mass", *products), [d("5") / 9, d("4") / 9])

    def test_without_by_products_the_main_product_bears_all(self) -> None:
        for method in ("market_value", "mass"):
            self.assertEqual(borne_shares(method, (d("5"), None), []), [1])

    def test_market_value_needs_the_value_of_the_main_product(self) -> None:
        self.assertIsNone(borne_shares("market_value", (d("5"), None), [(d("4"), d("1"))]))


class Trims(unittest.TestCase):
    """10 kg at 2.00: 5 kg cut, 4 kg of tops, 1 kg of grit whose disposal costs 0.20; worked by hand."""

    COSTS = (
        ("credit", 20 - 4 + Decimal("0.2")),
        ("main_bears_all", Decimal("20.2")),
        ("market_value", Decimal("20.2") * 30 / 34),
        ("mass", Decimal("20.2") * 5 / 9),
    )

    def test_what_the_cut_bears(self) -> None:
        for method, cost in self.COSTS:
            found = sheet(with_method(method, POT))
            self.assertAlmostEqual(found.batch.food_cost, cost, 12, method)
            self.assertTrue(found.complete)
            self.assertEqual(found.lines[0].ap_g, 10_000)

    def test_the_usable_kilo_is_the_same_in_buy(self) -> None:
        for method, cost in self.COSTS:
            costing = Costing(with_method(method, POT), DAY)
            (form,) = compare_forms(costing, ["leek:cut"], "kg").forms
            self.assertAlmostEqual(form.cost or 0, cost / 5, 12, method)
            self.assertAlmostEqual(explain(costing, "pot", "item/leek/cut").value or 0, cost / 5, 12, method)

    def test_what_falls_off_bears_the_rest(self) -> None:
        for method, cost in self.COSTS:
            made = with_method(method, POT, BROTH, {**STOCK})
            line = sheet(made, "broth").lines[1]
            self.assertAlmostEqual((line.cost or 0) * 4, Decimal("20.2") - cost, 12, method)
            self.assertEqual(line.ap_g, 0)

    def test_an_item_may_go_its_own_way(self) -> None:
        made = with_method("credit", POT, byproduct_method="mass")
        self.assertAlmostEqual(sheet(made).batch.food_cost, Decimal("20.2") * 5 / 9, 12)

    def test_without_its_value_the_cost_is_not_guessed(self) -> None:
        bare = {**LEEK["preparations"][0], "value_per_kg": None}
        found = sheet(with_method("market_value", POT, preparations=[bare]))
        self.assertFalse(found.complete)
        self.assertIsNone(found.lines[0].cost)
        self.assertEqual(found.batch.food_cost, 0)
        self.assertIn('what a kilo of "cut" is worth', found.problems[0].message)

    def test_a_price_reaches_only_what_bears_it(self) -> None:
        serving = [{"id": "b", "name": "B", "size": "100 g"}]
        for method, reached in (("credit", {"pot"}), ("mass", {"pot", "broth"})):
            costing = Costing(with_method(method, {**POT, "servings": serving}, {**BROTH, "servings": serving}, STOCK), DAY)
            self.assertEqual({recipe for recipe, _, _ in reached_by(costing, "leek")}, reached, method)


class TakeOuts(unittest.TestCase):
    """10 kg of bones at 0.90: 4 kg of stock, 2 kg of meat, 4 kg of bones whose disposal costs 0.40; worked by hand."""

    COSTS = (
        ("credit", 9 - 8 + Decimal("0.4")),
        ("main_bears_all", Decimal("9.4")),
        ("market_value", Decimal("9.4") * 4 / 12),
        ("mass", Decimal("9.4") * 4 / 6),
    )

    def test_what_the_stock_bears(self) -> None:
        for method, cost in self.COSTS:
            made = with_method(method, STOCK)
            found = sheet(made, "stock")
            self.assertAlmostEqual(found.batch.food_cost, cost, 12, method)
            self.assertAlmostEqual(found.stages[0].cost, cost, 12, method)
            meat, bones = found.stages[0].taken_out
            self.assertAlmostEqual(bones.value or 0, Decimal("-0.4"), 12)
            # Main product, meat and disposal: together they are what the bones cost.
            self.assertAlmostEqual(cost + (meat.value or 0) + (bones.value or 0), Decimal(9), 12, method)

    def test_the_meat_costs_the_broth_what_it_spares_the_stock(self) -> None:
        for method, cost in self.COSTS:
            made = with_method(method, STOCK, BROTH, POT)
            meat = sheet(made, "broth").lines[0]
            self.assertAlmostEqual((meat.cost or 0) * 4, Decimal("9.4") - cost, 12, method)

    def test_without_its_value_the_stage_asks(self) -> None:
        bare = {**STOCK, "stages": [{**STOCK["stages"][0], "value_per_kg": None}]}
        found = sheet(with_method("market_value", bare), "stock")
        self.assertIn("say what a kilo of what goes on is worth", found.problems[0].message)

    def test_where_nothing_is_known_to_weigh_anything_nothing_is_shared(self) -> None:
        lost = {"id": "pot", "stages": [{"id": "s", "value_per_kg": "1", "lines": [
            {"id": "x", "item": "bones", "quantity": "3 bunch"}], "take_out": [
            {"name": "meat", "of": ["x"], "spent_factor": "0.5", "value_per_kg": "4"}]}]}  # fmt: skip
        for method in ("credit", "main_bears_all", "market_value", "mass"):
            found = sheet(with_method(method, lost))
            self.assertEqual([one.code for one in found.problems], ["missing_weight"], method)

    def test_cost_shared_upstream_goes_on_shared(self) -> None:
        later = {"id": "pot", "stages": [*STOCK["stages"], {"id": "t", "from": [{"stage": "s", "share": "0.5"}], "lines": [
            {"item": "bones", "quantity": "1 kg"}]}]}  # fmt: skip
        # Half goes nowhere; its cost stays with the batch.
        found = sheet(with_method("mass", later))
        self.assertAlmostEqual(found.batch.food_cost, Decimal("9.4") * 4 / 6 + Decimal("0.9"), 12)


class Leftovers(unittest.TestCase):
    def test_allergens_follow_what_is_left_over(self) -> None:
        made = with_method("credit", POT, BROTH, STOCK)
        self.assertEqual(sheet(made, "broth").allergens, ["none known"])
        self.assertEqual(Costing(made, DAY).of("broth").needs.items, {})

    def test_one_that_is_not_there_is_asked_for(self) -> None:
        for line, words in (
            ({"item": "leek", "byproduct": "roots", "preparation": "cut", "quantity": "1 kg"}, 'no "roots" falls off Leek'),
            ({"recipe": "stock", "byproduct": "skin", "quantity": "1 kg"}, 'no "skin" is taken out of'),
            ({"recipe": "stock", "byproduct": "meat", "quantity": "1 l"}, "measured by weight"),
            ({"item": "leek", "byproduct": "tops", "preparation": "cut", "quantity": "2 bunch"}, "measured by weight"),
        ):
            pot = {"id": "pot", "stages": [{"id": "s", "lines": [line]}]}
            found = sheet(with_method("credit", pot, STOCK))
            self.assertIn(words, found.problems[0].message)

    def test_more_than_there_is_of_it_is_a_warning(self) -> None:
        tops = {"item": "leek", "byproduct": "tops", "preparation": "cut", "quantity": "5 kg"}
        meat = {"recipe": "stock", "byproduct": "meat", "quantity": "2.5 kg"}
        pot = {"id": "greedy", "stages": [{"id": "s", "lines": [tops, meat]}]}
        made = with_method("credit", POT, STOCK, pot)
        found = sheet(made, "greedy")
        self.assertEqual([one.message for one in found.warnings], [
            "tops of Leek: 5 kg go in here, but one batch of each pot that gives it comes to 4 kg",
            "meat of Pot: 2.5 kg go in here, but one batch of each pot that gives it comes to 2 kg",
        ])  # fmt: skip
        self.assertTrue(found.complete)
        self.assertEqual(sheet(with_method("credit", POT, STOCK, BROTH), "broth").warnings, [])
        rows = {one.name: one for one in leftovers(Costing(made, DAY))}
        self.assertTrue(rows["tops"].short and rows["meat"].short)

    def test_it_names_where_it_falls_off(self) -> None:
        with self.assertRaisesRegex(BadDocument, "falls off at a preparation"):
            Line(parse_quantity("1 kg"), item="leek", byproduct="tops")

    def test_the_demo_cooks_with_them(self) -> None:
        costing = Costing(demo(), DAY)
        found = {(one.name, one.item or one.recipe): one for one in leftovers(costing)}
        tops, meat = found["leek tops", "leek"], found["picked meat", "white-stock"]
        self.assertEqual(
            ([use.recipe for use in tops.used_in], tops.per_kg, tops.share), (["vegetable-stock"], d("0.3"), d("0.4"))
        )
        self.assertEqual((meat.per_kg, meat.grams, meat.used_in[0].grams), (4, 800, 700))
        self.assertFalse(any(one.short for one in found.values()))
        # What a pot keeps for its own garnish is spoken for.
        self.assertNotIn(("crisp bits", "pea-bacon"), found)
        # Waste without use or value is none.
        self.assertNotIn(("fish skin", "smoked-haddock"), found)

    def test_every_figure_of_every_method_has_a_working_that_ends_in_it(self) -> None:
        for method in ("market_value", "mass", "main_bears_all"):
            costing = Costing(with_method(method, POT, STOCK, BROTH), DAY)
            for recipe in ("pot", "stock", "broth"):
                for figure, value in figures_of(sheet_of(costing, recipe)):
                    with self.subTest(method=method, figure=figure):
                        self.assertEqual(explain(costing, recipe, figure).value, value)

    def test_the_working_of_a_shared_line_multiplies_out(self) -> None:
        costing = Costing(with_method("mass", POT), DAY)
        found = explain(costing, "pot", "line/s/leek/cost")
        self.assertEqual(found.formula, "kilos to buy * AP price - sum of credits")
        kilos, price, *credits_ = (one.value or Decimal(0) for one in found.inputs)
        # 10 kg bought; the cut bears 5 of the 9 kg that are worth something, and of the disposal too.
        self.assertAlmostEqual(kilos, 10 * d(5) / 9, 20)
        self.assertEqual([one.name for one in found.inputs[2:]], ["tops", "grit"])
        self.assertAlmostEqual(kilos * price - sum(credits_), found.value or 0, 20)
        borne = explain(costing, "pot", found.inputs[0].figure or "")
        self.assertEqual(borne.formula, "to buy * share that it bears")

    def test_a_new_price_is_carried_by_what_bears_it(self) -> None:
        for method in ("credit", "mass", "market_value", "main_bears_all"):
            made = with_method(method, POT, STOCK, BROTH)
            costing = Costing(made, DAY)
            for recipe in ("pot", "broth", "stock"):
                costing.of(recipe)
            offer = replace(made.offers[0], price=d("3"), on=DAY)
            later = costing.with_offers([offer])
            fresh = Costing(replace(made, offers=(*made.offers, offer)), DAY)
            for recipe in ("pot", "broth", "stock"):
                self.assertAlmostEqual(later.of(recipe).cost, fresh.of(recipe).cost, 15, f"{method}, {recipe}")
