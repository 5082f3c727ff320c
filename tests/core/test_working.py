"""Every figure of a cost sheet tells how it came about, and its inputs make up the figure."""

from __future__ import annotations

import unittest
from decimal import Decimal

from potrel.core.costing import Costing
from potrel.core.errors import UnknownFigure
from potrel.core.explain import explain, figures_of
from potrel.core.sheet import sheet_of
from potrel.core.working import Working
from potrel.core.yield_book import yield_book
from potrel.demo import demo_kitchen
from tests.kitchens import DAY, d, tiny


class Workings(unittest.TestCase):
    def setUp(self) -> None:
        self.tiny = Costing(tiny(), DAY)

    def explain(self, figure: str, recipe: str = "celeriac-soup") -> Working:
        return explain(self.tiny, recipe, figure)

    def values(self, figure: str, recipe: str = "celeriac-soup") -> dict[str, Decimal | None]:
        return {one.name: one.value for one in self.explain(figure, recipe).inputs}

    def test_every_figure_of_every_sheet_has_one(self) -> None:
        for costing in (self.tiny, Costing(demo_kitchen(DAY), DAY)):
            for recipe in costing.facts.recipes:
                for figure, value in figures_of(sheet_of(costing, recipe)):
                    working = explain(costing, recipe, figure)
                    self.assertEqual(working.value, value, f"{recipe} {figure}")
                    self.assertTrue(working.formula, figure)

    def test_every_figure_that_an_input_leads_to_has_one(self) -> None:
        costing = Costing(demo_kitchen(DAY), DAY)
        for recipe in costing.facts.recipes:
            for figure, _ in figures_of(sheet_of(costing, recipe)):
                for one in explain(costing, recipe, figure).inputs:
                    self.assertTrue(one.source, f"{recipe} {figure} {one.name}")
                    if one.figure is not None:
                        explain(costing, one.recipe or recipe, one.figure)

    def test_cost_of_a_line(self) -> None:
        found = self.values("line/roast/celeriac/cost")
        price, grams, peel = found["AP price of Celeriac"], found["to buy (AP)"], found["less peel"]
        assert price is not None and grams is not None and peel is not None
        self.assertEqual(grams * price / 1000 - peel, d("5.48"))

    def test_source_of_a_price_is_its_offer(self) -> None:
        (price,) = (one for one in self.explain("line/roast/celeriac/cost").inputs if one.unit == "money/kg")
        self.assertEqual(price.source, "offer of Valley Produce, 10 kg, of 2026-11-02")
        self.assertEqual(price.figure, "item/celeriac/price_per_kg")

    def test_portions_from_their_inputs(self) -> None:
        found = self.values("serving/bowl/portions")
        batch, loss, size = found["batch yield"], found["serving loss"], found["size"]
        assert batch is not None and loss is not None and size is not None
        self.assertEqual(batch * (1 - loss) / size, self.explain("serving/bowl/portions").value)

    def test_mass_out_from_its_inputs(self) -> None:
        mass_in, *losses = (one.value or d(0) for one in self.explain("stage/simmer/mass_out_g", "chicken-stock").inputs)
        self.assertEqual(mass_in - sum(losses), 8200)

    def test_food_cost_of_the_batch_from_its_needs(self) -> None:
        *parts, allowance = self.explain("batch/food_cost").inputs
        total = sum((-(p.value or d(0)) if p.name.startswith("less") else (p.value or d(0)) for p in parts), d(0))
        assert allowance.value is not None
        self.assertAlmostEqual(total * (1 + allowance.value), self.explain("batch/food_cost").value or d(0), 18)

    def test_usable_kilo_takes_off_the_value_of_trimmings(self) -> None:
        # 1.40 a kilo, of which 0.10 kg peel at 0.30, over a yield of 0.75.
        self.assertAlmostEqual(self.explain("item/celeriac/peeled").value or d(0), (d("1.40") - d("0.03")) / d("0.75"), 20)

    def test_usable_kilo_after_a_roast_is_the_price_over_the_yield(self) -> None:
        found = self.explain("item/celeriac/cooking/roast")
        self.assertEqual((found.value, found.formula), (d("1.40") / d("0.70"), "AP price / yield"))

    def test_every_usable_kilo_of_the_yield_book_has_one(self) -> None:
        costing = Costing(demo_kitchen(DAY), DAY)
        rows = yield_book(costing)
        self.assertGreater(len(rows), 40)
        for row in rows:
            figure = f"item/{row.item}/{'cooking/' if row.sort == 'cooking' else ''}{row.of}"
            self.assertEqual(explain(costing, "", figure).value, row.per_kg, figure)

    def test_a_quantity_says_how_it_was_weighed(self) -> None:
        (typed,) = self.explain("line/finish/cream/ap_g").inputs
        self.assertIn("Cream 35% weighs 0.99 kg per litre", typed.source)

    def test_unknown_figures(self) -> None:
        for figure in ("", "batch/colour", "line/roast/ham/cost", "line/roast/celeriac/colour", "serving/mug/price",
                       "stage/fry/cost", "stage/pot/taken_9_value", "item/ham/price_per_kg", "serving/bowl/garnish-9/cost",
                       "item/celeriac/fried", "item/celeriac/cooking/fry", "serving/bowl/colour", "a/b/c/d/e"):  # fmt: skip
            with self.subTest(figure), self.assertRaises(UnknownFigure):
                self.explain(figure)
