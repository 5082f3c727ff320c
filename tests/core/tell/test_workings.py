"""Every figure tells how it came about: its words and its inputs come to it, and every input that has a working of its own
comes to that."""

from __future__ import annotations

import unittest
from collections.abc import Iterable, Iterator
from dataclasses import replace
from decimal import Decimal

from hypothesis import given, settings

from potrel.core.cost.costing import Costing
from potrel.core.errors import UnknownFigure
from potrel.core.kitchen.supply import Supplier
from potrel.core.numbers.formula import all_formulas, in_words
from potrel.core.rooms.board import board_of
from potrel.core.rooms.yield_book import yield_book
from potrel.core.tell.cost_sheet import sheet_of
from potrel.core.tell.explanations import explain, figures_of
from potrel.core.tell.figures import Figure, Input
from tests.core.cost.test_by_the_piece import canteen, offer
from tests.core.cost.test_kept_for_garnish import KEPT, chowder
from tests.core.pot.test_conservation import kitchens
from tests.examples import examples
from tests.kitchens import DAY, d, demo, kitchen, tiny
from tests.words import Value, reckon


def close(one: Decimal, other: Decimal) -> bool:
    """Whether two figures differ by no more than the dust of 28 digits."""
    return abs(one - other) <= Decimal("1e-18") * max(abs(one), abs(other), Decimal(1))


def first_figures(costing: Costing) -> Iterator[tuple[str, str]]:
    """The figures that a kitchen shows: those of its cost sheets, its yields, its tests and its usable kilos."""
    for recipe in costing.view.recipes:
        for figure, _ in figures_of(sheet_of(costing, recipe)):
            yield recipe, figure
        for portion in costing.of(recipe).portions:
            yield recipe, f"serving/{portion.serving.id}/kept"
            if portion.serving.price_set_on is not None:
                yield recipe, f"serving/{portion.serving.id}/drift"
    for row in yield_book(costing):
        yield "", f"item/{row.item}/{'cooking/' if row.sort == 'cooking' else ''}{row.of}"
        yield "", f"yield/{row.item}/{row.sort}/{row.of}/in_use"
    for test in costing.view.kitchen.tests:
        for name in ("yield", "unaccounted", "usable_cost", "cost_factor", "minutes_per_kg"):
            yield "", f"test/{test.id}/{name}"
    for kept in costing.view.kitchen.comparisons:
        for name in ("cost", "labour", "total", "wins_at", "salt_g"):
            yield "", f"usable/{kept.unit}/{name}/{','.join(kept.forms)}"


def workings(costing: Costing, first: Iterable[tuple[str, str]]) -> dict[tuple[str, str], Figure]:
    """The workings of some figures, and of all that their inputs lead to, down to the ground."""
    found: dict[tuple[str, str], Figure] = {}
    to_come = list(first)
    while to_come:
        recipe, figure = to_come.pop()
        if (recipe, figure) in found:
            continue
        try:
            working = explain(costing, recipe, figure)
        except UnknownFigure:
            # A test without a time, a form whose salt is not noted.
            continue
        found[recipe, figure] = working
        to_come += [(one.recipe or recipe, one.figure) for one in working.inputs if one.figure is not None]
    return found


class EveryWorking(unittest.TestCase):
    def check(self, costing: Costing) -> dict[tuple[str, str], Figure]:
        found = workings(costing, first_figures(costing))
        for (recipe, _), working in found.items():
            self.assertAddsUp(working)
            for one in working.inputs:
                self.assertTrue(one.source, f"{working.figure}: {one.name}")
                if one.figure is not None:
                    self.assertLeadsTo(one, explain(costing, one.recipe or recipe, one.figure), working)
        return found

    def assertAddsUp(self, working: Figure) -> None:
        """The words of a working and its inputs come to its value."""
        if working.value is None:
            return
        given: dict[str, Value] = {in_words(name): [] for name in groups_in(working)}
        for one in working.inputs:
            name = in_words(one.stands_for)
            if isinstance(group := given.get(name), list):
                group += [] if one.value is None else [Decimal(one.value)]
            else:
                assert one.value is not None, f"{working.figure}: {one.name}"
                given[name] = Decimal(one.value)
        come_to = reckon(working.formula, given)
        self.assertTrue(close(come_to, working.value), f"{working.figure}: {come_to} by its words, {working.value} shown")

    def assertLeadsTo(self, one: Input, working: Figure, of: Figure) -> None:
        """An input is what the working is of that it leads to."""
        if one.value is None:
            # Not known: its working says why, and may show a lower bound.
            return
        assert working.value is not None, f"{of.figure}: {one.name} is {one.value}, its working has no value"
        there = working.value if one.share is None else working.value * one.share
        if (one.unit, working.unit) == ("kg", "g"):
            there /= 1000
        else:
            self.assertEqual(one.unit, working.unit, f"{of.figure}: {one.name}")
        self.assertTrue(close(one.value, there), f"{of.figure}: {one.name} is {one.value}, its working {there}")

    def test_of_the_worked_example(self) -> None:
        self.assertGreater(len(self.check(Costing(tiny(), DAY))), 100)

    def test_of_the_demo(self) -> None:
        costing = Costing(demo(), DAY)
        found = self.check(costing)
        self.assertGreater(len(found), 2000)
        # Down to the ground: from the price on the board to a delivery, a weighed test and a page of a book.
        grounds = [one for working in found.values() for one in working.inputs if one.figure is None]
        for words in ("offer of Saltmarsh", "weighed at the bench", "USDA", "kitchen setting", "typed in the recipe"):
            self.assertTrue(any(words in one.source for one in grounds), words)

    @settings(max_examples=examples(15))
    @given(kitchens())
    def test_of_random_kitchens(self, made: object) -> None:
        self.check(Costing(made, DAY))  # type: ignore[arg-type]

    def test_of_what_is_kept_for_garnish(self) -> None:
        for grams, kept in (("30 g", KEPT), ("40 g", KEPT), ("15 g", KEPT), ("7 g", {"name": "some", "mass": "152 g"})):
            for method in ("credit", "market_value"):
                costing = Costing(chowder(grams, kept, byproduct_method=method), DAY)
                self.assertIn(("pot", "stage/pan/taken_1_whole"), self.check(costing))
                self.assertIn("kept", explain(costing, "pot", "serving/bowl/garnish-1/ep_g").formula)

    def test_of_what_goes_by_the_piece(self) -> None:
        costing = Costing(canteen(offer("60 each", "15"), offer("5 x 12 each", "18", "2026-11-10")), DAY)
        found = self.check(costing)
        self.assertEqual(found["pot", "serving/bowl/drift/roll"].value, d("0.05"))
        self.assertEqual(found["pot", "item/roll/price_of_one"].value, d("0.3"))

    def test_the_board_shows_what_the_sheets_say(self) -> None:
        costing = Costing(demo(), DAY)
        for row in board_of(costing).rows:
            (serving,) = (one for one in sheet_of(costing, row.recipe).servings if one.id == row.serving)
            for shown, said in ((row.food_cost, serving.food_cost), (row.food_cost_share, serving.food_cost_share),
                                (row.price, serving.price), (row.contribution, serving.contribution)):  # fmt: skip
                self.assertEqual(shown is None, said is None)
                if shown is not None and said is not None:
                    self.assertTrue(close(shown, said), f"{row.recipe}: {shown}, {said}")


def groups_in(working: Figure) -> list[str]:
    """The names of the groups of many in the words of a working."""
    (defined,) = (one for _, one in all_formulas() if one.code == working.code)
    return list(defined.groups)


class Workings(unittest.TestCase):
    def setUp(self) -> None:
        self.tiny = Costing(tiny(), DAY)

    def explain(self, figure: str, recipe: str = "celeriac-soup") -> Figure:
        return explain(self.tiny, recipe, figure)

    def values(self, figure: str, recipe: str = "celeriac-soup") -> dict[str, Decimal | None]:
        return {one.name: one.value for one in self.explain(figure, recipe).inputs}

    def test_cost_of_a_line(self) -> None:
        found = self.values("line/roast/celeriac/cost")
        price, kilos, peel = found["AP price of Celeriac"], found["to buy (AP)"], found["peel"]
        assert price is not None and kilos is not None and peel is not None
        self.assertEqual(kilos * price - peel, d("5.48"))

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

    def test_usable_kilo_after_a_roast_is_trimmed_before(self) -> None:
        found = self.explain("item/celeriac/cooking/roast")
        # A kilo at 1.40, a tenth of it peel at 0.30 taken off; 75% of it left as peeled, and of that 70% as roasted.
        assert found.value is not None
        self.assertAlmostEqual(float(found.value), (1.40 - 0.10 * 0.30) / 0.75 / 0.70, 9)
        self.assertEqual(found.formula, "usable kilo / cooking yield")

    def test_every_usable_kilo_of_the_yield_book_has_one(self) -> None:
        costing = Costing(demo(), DAY)
        rows = yield_book(costing)
        self.assertGreater(len(rows), 40)
        for row in rows:
            figure = f"item/{row.item}/{'cooking/' if row.sort == 'cooking' else ''}{row.of}"
            self.assertEqual(explain(costing, "", figure).value, row.per_kg, figure)

    def test_a_quantity_says_how_it_was_weighed(self) -> None:
        typed, weighs = self.explain("line/finish/cream/ap_g").inputs
        self.assertEqual((typed.name, typed.source), ('"400 ml"', "typed in the recipe"))
        self.assertIn("Cream 35% weighs 0.99 kg per litre", weighs.source)

    def test_unknown_figures(self) -> None:
        for figure in ("", "batch/colour", "line/roast/ham/cost", "line/roast/celeriac/colour", "serving/mug/price",
                       "stage/fry/cost", "stage/pot/taken_9_value", "item/ham/price_per_kg", "serving/bowl/garnish-9/cost",
                       "item/celeriac/fried", "item/celeriac/cooking/fry", "serving/bowl/colour", "a/b/c/d/e"):  # fmt: skip
            with self.subTest(figure), self.assertRaises(UnknownFigure):
                self.explain(figure)

    def test_another_supplier_than_the_preferred_one_is_said(self) -> None:
        leek = {"id": "leek", "preferred_supplier": "boat"}
        made = kitchen([leek], [{"stages": [{"id": "s", "lines": [{"item": "leek", "quantity": "1 kg"}]}]}], {"leek": "2"})
        made = replace(made, suppliers=(*made.suppliers, Supplier("boat", "Produce boat")))
        (warning,) = sheet_of(Costing(made, DAY), "pot").warnings
        self.assertEqual(warning.message_code, "not_preferred")
        self.assertEqual(warning.message, "Leek: Produce boat is preferred, but has no price in force; that of Shop counts")
        (price,) = (one for one in explain(Costing(made, DAY), "pot", "line/s/leek/cost").inputs if one.item == "leek")
        self.assertIn("Produce boat, who is preferred, has none in force", price.source)
