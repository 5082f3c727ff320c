"""The usable kilo and the ready litre: forms side by side, with labour and without, and the price at which it flips."""

from __future__ import annotations

import unittest
from dataclasses import replace
from decimal import Decimal
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from potrel.core.cost.costing import Costing
from potrel.core.cost.usable_kilo import usable_kilo
from potrel.core.errors import BadDocument
from potrel.core.kitchen.kitchen import Comparison, ReadyUnit
from potrel.core.rooms.form_comparison import UsableForm, compare_forms, kept_comparisons
from potrel.core.tell.explanations import explain
from potrel.core.tell.figures import Input
from potrel.core.tell.form_figures import explain_usable
from tests.examples import examples
from tests.kitchens import DAY, d, kitchen

ITEMS: list[dict[str, Any]] = [
    {"id": "squash", "preparations": [
        {"id": "cubed", "name": "cubed", "yield": "0.8", "minutes_per_kg": "6",
         "byproducts": [{"name": "peel", "share": "0.1", "value_per_kg": "0.50"}]},
        {"id": "washed", "name": "washed", "yield": "0.5", "minutes_per_kg": "2"}]},
    {"id": "cubes"},
    {"id": "carton", "density": "1", "salt_share": "0.008"},
    {"id": "cube", "measures": {"each": "10 g"}, "ready_litres_per_kg": "50", "salt_share": "0.55"},
    {"id": "water", "density": "1"},
    {"id": "free", "density": "1"},
]  # fmt: skip
STOCK = {"id": "stock", "name": "Stock", "density": "1.02", "stages": [{"id": "s", "attended_minutes": "30", "lines": [
    {"item": "squash", "quantity": "1 kg"}, {"item": "water", "quantity": "9 l"}]}]}  # fmt: skip
STRONG = {
    "id": "strong",
    "name": "Strong",
    "stages": [
        {
            "id": "s",
            "lines": [
                {"recipe": "stock", "quantity": "5 kg"},
                {"item": "cube", "quantity": "20 each"},
                {"item": "carton", "quantity": "800 ml"},
            ],
        }
    ],
}
PRICES = {"squash": "1.60", "cubes": "3.40", "carton": "2.40", "cube": "13", "water": "0"}


class Usable(unittest.TestCase):
    def compare(self, *forms: str, unit: ReadyUnit = "kg", rate: str | None = "18", **more: Any) -> dict[str, UsableForm]:
        labour = None if rate is None else d(rate)
        made = kitchen(ITEMS, [STOCK, STRONG], {**PRICES, **more}, labour_rate_per_hour=labour)
        self.costing = Costing(made, DAY)
        self.found = compare_forms(self.costing, forms, unit)
        return {row.form: row for row in self.found.forms}

    def test_cost_is_price_less_credit_over_yield_and_labour_of_what_is_trimmed(self) -> None:
        row = self.compare("squash:cubed")["squash:cubed"]
        # (1.60 - 0.10 * 0.50) / 0.8; 6 minutes for each of 1.25 kg at 18 an hour.
        self.assertEqual((row.cost, row.labour, row.total), (d("1.9375"), d("2.25"), d("4.1875")))

    def test_preparations_in_a_row(self) -> None:
        row = self.compare("squash:cubed+washed")["squash:cubed+washed"]
        # 2.5 kg are bought for a kilo; 6 minutes for each of them, and 2 for each of the 2 kg that are washed.
        self.assertEqual(row.cost, (d("1.60") - d("0.05")) / d("0.4"))
        self.assertEqual(row.labour, (d("2.5") * 6 + 2 * 2) / 60 * 18)

    def test_cheapest_with_and_without_labour(self) -> None:
        self.compare("squash:cubed", "cubes")
        self.assertEqual((self.found.cheapest, self.found.cheapest_with_labour), ("squash:cubed", "cubes"))
        self.compare("squash:cubed", "cubes", rate=None)
        self.assertEqual(self.found.cheapest_with_labour, "squash:cubed")

    @settings(max_examples=examples(60))
    @given(st.integers(50, 900), st.integers(0, 40))
    def test_at_the_price_where_it_flips_both_cost_the_same(self, cents: int, rate: int) -> None:
        price = str(Decimal(cents) / 100)
        wins_at = self.compare("squash:cubed", "cubes", rate=str(rate), cubes=price)["squash:cubed"].wins_at
        if wins_at is not None:
            rows = self.compare("squash:cubed", "cubes", rate=str(rate), cubes=price, squash=str(round(wins_at, 12)))
            total, other = rows["squash:cubed"].total, rows["cubes"].total
            assert total is not None and other is not None
            self.assertAlmostEqual(total, other, 9)

    def test_a_ready_litre_of_carton_cube_and_own(self) -> None:
        rows = self.compare("carton", "cube", "recipe/stock", unit="l")
        self.assertEqual((rows["carton"].cost, rows["carton"].salt_g), (d("2.40"), 8))
        # A kilo makes 50 l: 20 g a litre.
        self.assertEqual((rows["cube"].cost, rows["cube"].salt_g), (d("0.26"), 11))
        # 1.60 and 30 minutes for 10 kg; a litre weighs 1.02 kg.
        self.assertEqual((rows["recipe/stock"].cost, rows["recipe/stock"].labour), (d("0.1632"), d("0.918")))
        self.assertIsNone(rows["recipe/stock"].wins_at)

    def test_salt_of_ones_own_is_what_goes_in_with_what_has_it_noted(self) -> None:
        rows = self.compare("recipe/stock", "recipe/strong", unit="kg")
        self.assertEqual(rows["recipe/stock"].salt_g, 0)
        # 200 g of cubes hold 110 g, the carton 6.4 g; six kilos are made.
        self.assertAlmostEqual(rows["recipe/strong"].salt_g or d(0), d("116.4") / 6)
        cube, carton, others, batch, in_one = self.inputs("usable/kg/salt_g/recipe/strong")
        self.assertEqual((cube.value, carton.value, batch.value, in_one.value), (110, d("6.4"), 6, 1))
        self.assertEqual((others.name, others.value), ("salt of 2 others", None))

    def test_every_figure_tells_how_it_came_about(self) -> None:
        for unit, forms in (("kg", "squash:cubed,cubes,squash:cubed+washed"), ("l", "carton,cube,recipe/strong")):
            rows = self.compare(*forms.split(","), unit="kg" if unit == "kg" else "l")
            for form, row in rows.items():
                beside = ",".join([form, *(other for other in rows if other != form)])
                for name in ("cost", "labour", "total", "salt_g", "wins_at"):
                    found = explain_usable(self.costing, f"usable/{unit}/{name}/{beside}")
                    self.assertEqual(None if found is None else found.value, getattr(row, name), f"{form} {name}")

    def test_inputs_make_up_the_figure(self) -> None:
        self.compare("squash:cubed", "cubes")
        given = {one.name: one.value or d(0) for one in self.inputs("usable/kg/cost/squash:cubed,cubes")}
        self.assertEqual(given["to buy (AP)"], d("1.25"))
        self.assertEqual(given["to buy (AP)"] * given["AP price of Squash"] - given["value of by-products"], d("1.9375"))
        given = {one.name: one.value or d(0) for one in self.inputs("usable/kg/wins_at/squash:cubed,cubes")}
        self.assertEqual(given["the cheapest other, with labour"], d("3.40"))
        (grams, *_) = self.inputs("usable/l/cost/cube")
        self.assertEqual((grams.value, grams.source), (d("0.02"), "a kilo as bought / 50 litres that a kilo makes"))
        own = self.inputs("usable/l/cost/recipe/stock")
        self.assertEqual([(one.figure, one.recipe) for one in own[:2]], [("batch/cost", "stock"), ("batch/mass_g", "stock")])

    def inputs(self, figure: str) -> list[Input]:
        found = explain_usable(self.costing, figure)
        assert found is not None
        return list(found.inputs)

    def test_figures_that_there_are_not(self) -> None:
        self.compare("squash:cubed", "recipe/stock", rate=None)
        for figure in ("usable/kg/colour/squash", "usable/pint/cost/squash", "usable/kg/labour/squash",
                       "usable/kg/salt_g/squash", "usable/kg/wins_at/squash",
                       "usable/kg/wins_at/recipe/stock,squash", "yield/squash"):  # fmt: skip
            self.assertIsNone(explain_usable(self.costing, figure), figure)
        for figure in ("usable/kg/cost/ham", "usable/kg/wins_at/squash,ham"):
            with self.subTest(figure), self.assertRaises(BadDocument):
                explain_usable(self.costing, figure)

    def test_what_is_not_known_is_said_and_not_compared(self) -> None:
        rows = self.compare("free", "carton", "squash", unit="l")
        self.assertIn("has no price", rows["free"].lack or "")
        self.assertIn("has no density", rows["squash"].lack or "")
        self.assertEqual((rows["free"].total, rows["squash"].total, self.found.cheapest), (None, None, "carton"))

    def test_free_is_the_cheapest(self) -> None:
        self.compare("free", "water", unit="l", free="0", water="1")
        self.assertEqual(self.found.cheapest, "free")

    def test_kept_ones_are_made_anew_and_say_what_is_gone(self) -> None:
        kept = (Comparison("a", "Squash", ("squash:cubed", "cubes")), Comparison("b", "Fried", ("squash:fried", "cubes")))
        made = replace(kitchen(ITEMS, [STOCK], PRICES, labour_rate_per_hour=d("18")), comparisons=kept)
        first, gone = kept_comparisons(Costing(made, DAY))
        assert first.found is not None
        self.assertEqual((first.found.cheapest, first.found.cheapest_with_labour), ("squash:cubed", "cubes"))
        self.assertEqual((gone.found, gone.lack), (None, 'Squash has no preparation "fried"'))

    def test_unknown_forms(self) -> None:
        for form in ("ham", "squash:fried", "recipe/ham"):
            with self.subTest(form), self.assertRaises(BadDocument):
                self.compare(form)


class Cooked(unittest.TestCase):
    def test_what_is_cooked_was_trimmed_before(self) -> None:
        # Celeriac at 1.40 a kilo, three quarters of it usable, of that 70% left after roasting.
        roast = {"method": "roast", "yield": "0.70"}
        peeled = {"id": "peeled", "name": "peeled", "yield": "0.75"}
        for preparations, wanted in (([peeled], 1.40 / 0.75 / 0.70), ([], 1.40 / 0.70)):
            made = kitchen([{"id": "celeriac", "preparations": preparations, "cooking": [roast]}], [], {"celeriac": "1.40"})
            costing = Costing(made, DAY)
            (item,) = made.items
            found = usable_kilo(costing.view, item, item.cooking[0])
            assert found is not None
            self.assertAlmostEqual(float(found), wanted, 9)
            working = explain(costing, "", "item/celeriac/cooking/roast")
            self.assertEqual(working.value, found)
