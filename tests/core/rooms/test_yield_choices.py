"""What own tests say of a yield, the blend with a book, and what may be adopted."""

from __future__ import annotations

import statistics
import unittest
from collections.abc import Callable
from dataclasses import replace
from datetime import date
from decimal import Decimal
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from potrel.core.cost.costing import Costing
from potrel.core.errors import BadDocument
from potrel.core.kitchen.bench_tests import BenchTest
from potrel.core.kitchen.items import ByproductMethod, Item, Preparation
from potrel.core.kitchen.kitchen import Kitchen
from potrel.core.kitchen.provenance import Provenance
from potrel.core.numbers.student import t95
from potrel.core.pot.day_view import DayView
from potrel.core.rooms.yield_book import entry_of, evidence_of, worth_testing, yield_book
from potrel.core.rooms.yield_choices import adopted_item, choices_of
from potrel.core.tell.yield_figures import explain_yield
from potrel.core.trim.own_tests import Blend, Book, blended, outliers, own_tests
from tests.core.trim.test_own_tests import bench
from tests.examples import examples
from tests.kitchens import DAY, d, demo, kitchen

BOOK = Book(d("0.41"), d("0.44"), d("0.47"), "a book", Provenance("book"))


def tests_of(*yields: str, **more: Any) -> list[BenchTest]:
    """Tests of these yields, a kilo before each."""
    return [bench("1 kg", f"{1000 * Decimal(one)} g", id=f"t{at}", **more) for at, one in enumerate(yields)]


def blend(book: Book, *yields: str) -> Blend:
    own = own_tests(tests_of(*yields), {})
    assert own is not None
    return blended(book, own)


class Statistics(unittest.TestCase):
    @settings(max_examples=examples(100))
    @given(st.lists(st.integers(100, 990), min_size=2, max_size=12))
    def test_mean_and_spread_are_those_of_the_standard_library(self, thousandths: list[int]) -> None:
        found = own_tests(tests_of(*(str(Decimal(one) / 1000) for one in thousandths)), {})
        assert found is not None and found.spread is not None
        self.assertAlmostEqual(float(found.mean), statistics.mean(thousandths) / 1000, 12)
        self.assertAlmostEqual(float(found.spread), statistics.stdev(thousandths) / 1000, 12)

    def test_one_test_tells_no_spread(self) -> None:
        found = own_tests(tests_of("0.44"), {})
        self.assertEqual(found and (found.count, found.mean, found.spread, found.low), (1, d("0.44"), None, None))

    def test_none_that_counts_tells_nothing(self) -> None:
        self.assertIsNone(own_tests([replace(one, left_out="wet") for one in tests_of("0.44", "0.45")], {}))

    def test_an_outlier_is_named_and_still_counts(self) -> None:
        tests = tests_of("0.47", "0.45", "0.44", "0.43", "0.31", "0.465")
        found = own_tests(tests, {})
        assert found is not None
        self.assertEqual((found.outliers, found.count, found.left_out), (["t4"], 6, 0))
        self.assertAlmostEqual(found.mean, d("0.4275"), 12)
        without = own_tests([replace(one, left_out="grit") if one.id == "t4" else one for one in tests], {})
        assert without is not None
        self.assertEqual((without.outliers, without.count, without.left_out), ([], 5, 1))
        self.assertAlmostEqual(without.mean, d("0.451"), 12)

    def test_few_tests_name_no_outlier_and_equal_ones_neither(self) -> None:
        self.assertEqual(outliers(tests_of("0.44", "0.9", "0.45")), [])
        self.assertEqual(outliers(tests_of("0.44", "0.44", "0.44", "0.44", "0.45")), [])

    def test_groups_by_supplier_and_season(self) -> None:
        days = (date(2026, 1, 9), date(2026, 7, 9), date(2026, 12, 9))
        tests = [bench("1 kg", f"{m} g", id=f"g{m}", on=on, supplier=s)
                 for m, on, s in zip((400, 500, 440), days, ("a", "b", None), strict=True)]  # fmt: skip
        found = own_tests(tests, {"a": "Ames", "b": "Berg"})
        assert found is not None
        self.assertEqual([(g.name, g.count) for g in found.by_supplier], [("Ames", 1), ("Berg", 1), ("not noted", 1)])
        self.assertEqual(
            [(g.name, g.count, g.mean) for g in found.by_season], [("summer", 1, d("0.5")), ("winter", 2, d("0.42"))]
        )

    def test_t_narrows_with_the_tests(self) -> None:
        values = [t95(df) for df in range(1, 200)]
        self.assertEqual(values, sorted(values, reverse=True))
        self.assertGreater(values[-1], d("1.9599"))


class Blending(unittest.TestCase):
    def test_few_tests_lean_on_the_book_and_many_do_not(self) -> None:
        few = blend(BOOK, "0.35", "0.36")
        many = blend(BOOK, *(["0.35", "0.36", "0.34", "0.355"] * 8))
        self.assertLess(abs(many.estimate - d("0.351")), d("0.004"))
        self.assertLess(few.own_weight, many.own_weight)
        self.assertLess(many.estimate, few.estimate)

    def test_it_lies_between_the_two_and_is_surer_than_each(self) -> None:
        made = blend(BOOK, "0.40", "0.38", "0.42")
        self.assertTrue(d("0.40") < made.estimate < d("0.44"))
        self.assertLess(made.high - made.low, d("0.06"))

    def test_tests_that_agree_to_the_gram_do_not_silence_the_book(self) -> None:
        made = blend(BOOK, "0.40", "0.40")
        self.assertLess(made.own_weight, 1)
        self.assertEqual(made.own_spread, d("0.005"))

    def test_a_book_without_a_band_cannot_be_leant_on(self) -> None:
        with self.assertRaises(BadDocument):
            blend(Book(None, d("0.44"), None, "a book", Provenance("book")), "0.4")


class Choosing(unittest.TestCase):
    """The leeks of the demo: six tests, one far off, and a book."""

    def setUp(self) -> None:
        self.kitchen: Kitchen = demo()
        self.view = DayView(self.kitchen, DAY)
        self.leek = self.view.items["leek"]
        self.tests = [one for one in self.kitchen.tests if one.item == "leek"]

    def test_book_mean_and_blend(self) -> None:
        book, mean, mixed = choices_of(evidence_of(self.view, self.leek, "preparation", "sliced", self.tests, []))
        self.assertEqual((book.yield_, book.in_use, mean.yield_, mean.in_use), (d("0.44"), True, d("0.426500"), False))
        assert mixed.yield_ is not None and mean.yield_ is not None
        self.assertTrue(mean.yield_ < mixed.yield_ < d("0.44"))
        self.assertTrue(mixed.source.startswith("own test, 6 tests, Nov 2026, blended with USDA"))

    def test_what_is_adopted_fits_into_the_item_and_knows_its_labour(self) -> None:
        for choice in choices_of(evidence_of(self.view, self.leek, "preparation", "sliced", self.tests, [])):
            changed = adopted_item(self.leek, "preparation", "sliced", choice)
            (sliced,) = changed.preparations
            self.assertEqual((sliced.yield_, sliced.name, sliced.value_per_kg), (choice.yield_, "trimmed, sliced", d("4.20")))
            self.assertLessEqual(sliced.yield_ + sum(part.share for part in sliced.byproducts), 1)
            if choice.estimate != "book":
                self.assertEqual({part.name for part in sliced.byproducts}, {"leek tops", "roots and grit"})
                self.assertAlmostEqual(sliced.minutes_per_kg or 0, d("3.191667"), 6)

    def test_a_book_of_before_can_be_gone_back_to(self) -> None:
        mean = choices_of(evidence_of(self.view, self.leek, "preparation", "sliced", self.tests, []))[1]
        adopted = adopted_item(self.leek, "preparation", "sliced", mean)
        facts = DayView(replace(self.kitchen, items=tuple(adopted if i.id == "leek" else i for i in self.kitchen.items)), DAY)
        again = choices_of(evidence_of(facts, adopted, "preparation", "sliced", self.tests, [self.leek.preparations[0]]))
        self.assertEqual([(one.estimate, one.in_use) for one in again], [("book", False), ("mean", True), ("blend", False)])
        self.assertEqual(again[0].yield_, d("0.44"))

    def test_what_falls_off_is_split_as_it_was_weighed(self) -> None:
        found = choices_of(evidence_of(self.view, self.leek, "preparation", "sliced", self.tests, []))
        mean, mixed = found[1], found[2]
        assert mean.yield_ is not None and mixed.yield_ is not None
        # What is lost is less by the blend than by the mean, and each thing's part of it stays what it was.
        for by_mean, by_blend in zip(mean.byproducts, mixed.byproducts, strict=True):
            self.assertAlmostEqual(by_mean.share / (1 - mean.yield_), by_blend.share / (1 - mixed.yield_), 5)

    def test_a_new_preparation_is_named_and_added(self) -> None:
        tests = tests_of("0.6", "0.62")
        (mean, mixed) = choices_of(evidence_of(self.view, self.leek, "preparation", "whole-greens", tests, []))
        self.assertIn("no book gives a band", mixed.lack or "")
        changed = adopted_item(self.leek, "preparation", "whole-greens", mean)
        self.assertEqual([one.name for one in changed.preparations], ["trimmed, sliced", "whole greens"])

    def test_a_cooking_yield_is_adopted_alike(self) -> None:
        mushroom = self.view.items["mushroom"]
        tests = [one for one in self.kitchen.tests if one.item == "mushroom"]
        mean = next(
            one for one in choices_of(evidence_of(self.view, mushroom, "cooking", "sweat", tests, [])) if one.estimate == "mean"
        )
        self.assertEqual((mean.yield_, mean.in_use), (d("0.45"), True))
        entry = entry_of(DayView(self.kitchen, DAY), adopted_item(mushroom, "cooking", "sweat", mean), "cooking", "sweat")
        self.assertTrue(entry is not None and entry.source == "own test, 4 tests, Sep 2026")

    @settings(max_examples=examples(80))
    @given(st.lists(st.tuples(st.integers(100, 980), st.integers(0, 400)), min_size=1, max_size=6))
    def test_whatever_was_weighed_every_choice_can_be_adopted(self, weighed: list[tuple[int, int]]) -> None:
        item = Item(
            "root", "Root", "vegetable", preparations=(Preparation("cut", "cut", d("0.8"), d("0.7"), d("0.9"), "a book"),)
        )
        tests = [
            bench("1000 g", f"{after} g", *([("peel", f"{min(peel, 1000 - after)} g", "0.2")] if peel else []), id=f"t{at}")
            for at, (after, peel) in enumerate(weighed)
        ]
        facts = DayView(kitchen([], []), DAY)
        for choice in choices_of(evidence_of(facts, item, "preparation", "cut", tests, [])):
            changed = adopted_item(item, "preparation", "cut", choice)
            self.assertEqual(changed.preparations[0].yield_, choice.yield_)


class Books(unittest.TestCase):
    def setUp(self) -> None:
        self.costing = Costing(demo(), DAY)
        self.rows = {(row.item, row.of): row for row in yield_book(self.costing)}

    def test_what_each_rests_on_and_how_old_its_tests_are(self) -> None:
        leek, carrot, chickpea = (
            self.rows[key] for key in (("leek", "sliced"), ("carrot", "scrubbed"), ("chickpea-can", "drained"))
        )
        self.assertEqual((leek.rests_on, leek.tests, leek.outliers, leek.newest), ("book", 6, 1, date(2026, 11, 10)))
        self.assertEqual((carrot.rests_on, carrot.tests, carrot.treatment), ("own_tests", 3, "trim"))
        self.assertEqual((chickpea.treatment, chickpea.yield_), ("can", d("0.6")))

    def test_every_kind_of_treatment_is_told_apart(self) -> None:
        for key, treatment in ((("haricot", "soaked"), "soak"), (("courgette", "squeezed"), "press"),
                               (("beef-shin", "trimmed"), "butcher"), (("bacon", "fry"), "cooking")):  # fmt: skip
            self.assertEqual(self.rows[key].treatment, treatment, key)

    def test_the_band_in_money(self) -> None:
        # 1.40 a kilo, 0.30 for the tenth that is peel: (1.40 - 0.03) / yield, at 0.747, 0.75 and 0.753.
        row = self.rows["celeriac", "peeled"]
        for found, yield_ in ((row.per_kg_low, "0.747"), (row.per_kg, "0.75"), (row.per_kg_high, "0.753")):
            self.assertAlmostEqual(found or 0, d("1.37") / d(yield_), 12)

    def test_the_band_in_money_where_the_cost_is_shared(self) -> None:
        # By mass a kilo of either costs the same: 1.40 over all that is not waste. By market value, at 2.00 for the
        # peeled kilo: 1.40 * 2.00 / (2.00 * yield + 0.30 * 0.1).
        peeled = next(one for one in demo().items if one.id == "celeriac")
        valued = tuple(replace(one, value_per_kg=d("2")) if one.id == "peeled" else one for one in peeled.preparations)
        shared: dict[ByproductMethod, Callable[[Decimal], Decimal]] = {
            "mass": lambda yield_: d("1.40") / (yield_ + d("0.1")),
            "market_value": lambda yield_: d("2.80") / (2 * yield_ + d("0.03")),
        }
        for method, by_hand in shared.items():
            one = replace(peeled, preparations=valued, byproduct_method=method)
            costing = Costing(replace(demo(), items=tuple(one if it.id == "celeriac" else it for it in demo().items)), DAY)
            row = next(row for row in yield_book(costing) if (row.item, row.of) == ("celeriac", "peeled"))
            for found, yield_ in ((row.per_kg_low, "0.747"), (row.per_kg, "0.75"), (row.per_kg_high, "0.753")):
                self.assertAlmostEqual(found or 0, by_hand(d(yield_)), 12, (method, yield_))

    def test_where_the_shelf_says_otherwise_both_stand(self) -> None:
        self.assertEqual([str(book.likely) for book in self.rows["celeriac", "roast"].shelf], ["0.72"])

    def test_the_recipes_that_rest_on_it(self) -> None:
        self.assertEqual([one.id for one in self.rows["leek", "sliced"].recipes], ["chicken-barley", "leek-potato", "ham-leek"])

    def test_what_a_test_would_do_most_for(self) -> None:
        first = worth_testing(list(self.rows.values()), 100)
        gains = [((row.per_kg_low or 0) - (row.per_kg_high or 0)) * len(row.recipes) for row in first]
        self.assertEqual(gains, sorted(gains, reverse=True))
        self.assertTrue(all(row.tests == 0 and row.recipes for row in first))

    def test_the_workings_of_a_yield(self) -> None:
        for name in ("mean", "spread", "low", "high", "blend"):
            found = explain_yield(self.costing, f"yield/leek/preparation/sliced/{name}")
            assert found is not None and found.inputs
            self.assertEqual(found.unit, "share")
        mean = explain_yield(self.costing, "yield/leek/preparation/sliced/mean")
        assert mean is not None
        values = [one.value for one in mean.inputs if one.value is not None]
        self.assertAlmostEqual(float(mean.value or 0), float(sum(values)) / len(values), 12)

    def test_the_working_of_a_blend_is_its_formula(self) -> None:
        found = explain_yield(self.costing, "yield/leek/preparation/sliced/blend")
        assert found is not None
        weight = explain_yield(self.costing, "yield/leek/preparation/sliced/own_weight")
        assert weight is not None
        given_ = {one.name: float(one.value or 0) for one in (*found.inputs, *weight.inputs)}
        # The textbook's form of the posterior mean, which is not the one that the working takes.
        s0, s, n = given_["spread of the book"] ** -2, given_["spread of the tests"] ** -2, given_["number of tests"]
        by_hand = (given_["book"] * s0 + n * given_["mean of the own tests"] * s) / (s0 + n * s)
        self.assertAlmostEqual(float(found.value or 0), by_hand, 9)

    def test_a_figure_that_is_none(self) -> None:
        for figure in (
            "test/t-1/colour",
            "test/none/yield",
            "yield/leek/preparation/none/mean",
            "yield/leek/x/y/mean",
            "yield",
        ):
            self.assertIsNone(explain_yield(self.costing, figure), figure)
