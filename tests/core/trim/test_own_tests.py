"""Tests at the bench: weights that add up, the textbook's butcher's test, labour, and sheets that are half filled in."""

from __future__ import annotations

import unittest
from datetime import date
from decimal import Decimal
from typing import Any, ClassVar

from potrel.core.errors import PotrelError
from potrel.core.kitchen.bench_tests import BenchTest, TestKind, WeighedPart, minutes_per_kg, weights
from potrel.core.kitchen.quantities import parse_quantity
from potrel.core.trim.bench_money import outcomes
from potrel.core.trim.bench_sheet import read_sheet
from potrel.core.trim.butchers_test import butchered
from potrel.core.trim.byproducts import METHODS
from tests.kitchens import DAY, d


def bench(before: str, after: str, *parts: tuple[str, str, str], kind: TestKind = "trim", **more: Any) -> BenchTest:
    """A test; parts are name, mass and value per kilo."""
    weighed = tuple(WeighedPart(name, parse_quantity(mass), Decimal(value)) for name, mass, value in parts)
    return BenchTest(
        more.pop("id", "t"),
        "beef",
        kind,
        "trimmed",
        more.pop("on", DAY),
        parse_quantity(before),
        parse_quantity(after),
        weighed,
        **more,
    )


# A butcher's test of 10 kg of beef at 9.00: 6.5 kg usable, 1.5 kg of stew meat, 1.2 kg of bones, 0.7 kg of fat whose
# disposal is paid, 0.1 kg lost in cutting. Worked by hand: 90 - 7.50 - 1.44 + 0.07 = 81.13, so 12.481538 a kilo, 1.386838.
BEEF = bench("10 kg", "6.5 kg", ("stew meat", "1.5 kg", "5.00"), ("bones", "1.2 kg", "1.20"), ("fat", "0.7 kg", "-0.10"),
             kind="butcher")  # fmt: skip


class Weighing(unittest.TestCase):
    def test_what_is_unaccounted_for_is_what_is_missing(self) -> None:
        weighed = weights(BEEF)
        self.assertEqual((weighed.unaccounted, weighed.yield_, weighed.asks_again), (100, d("0.65"), False))
        self.assertEqual(weighed.before, weighed.after + weighed.parts + weighed.unaccounted)

    def test_more_missing_than_drips_off_asks_again(self) -> None:
        self.assertTrue(weights(bench("1 kg", "0.6 kg", ("peel", "0.3 kg", "0"))).asks_again)
        self.assertFalse(weights(bench("1 kg", "0.6 kg", ("peel", "0.38 kg", "0"))).asks_again)

    def test_steam_is_no_slip(self) -> None:
        weighed = weights(bench("2 kg", "0.9 kg", kind="cooking"))
        self.assertEqual((weighed.unaccounted, weighed.asks_again), (1100, False))

    def test_parts_that_weigh_more_than_there_was(self) -> None:
        with self.assertRaisesRegex(PotrelError, "weigh 100 g more than what there was before: weigh again"):
            bench("1 kg", "0.8 kg", ("peel", "300 g", "0"))

    def test_what_soaks_gains(self) -> None:
        self.assertEqual(bench("1 kg", "2.06 kg", kind="soak").yield_, d("2.06"))
        with self.assertRaisesRegex(PotrelError, "at most 20"):
            bench("1 g", "1 kg", kind="soak")

    def test_units_may_be_mixed(self) -> None:
        self.assertEqual(bench("1 lb", "226.796185 g").yield_, d("0.5"))

    def test_labour_is_of_a_purchased_kilo(self) -> None:
        self.assertEqual(minutes_per_kg(bench("4 kg", "2 kg", minutes=Decimal(12))), 3)
        self.assertIsNone(minutes_per_kg(BEEF))


class Money(unittest.TestCase):
    def test_the_butchers_test_worked_by_hand(self) -> None:
        found = butchered(BEEF, d("9.00"))
        self.assertEqual((found.paid, found.credits, found.disposal), (d("90"), d("8.94"), d("0.07")))
        self.assertEqual(found.usable_cost, d("81.13"))
        self.assertAlmostEqual(found.usable_per_kg, d("12.481538"), 6)
        self.assertAlmostEqual(found.cost_factor or 0, d("1.386838"), 6)

    def test_credits_and_residual_add_to_the_purchase(self) -> None:
        # Textbook identity: what the usable part bears and what the by-products are credited with is what was paid.
        found = butchered(BEEF, d("9.00"))
        self.assertEqual(found.usable_cost + found.credits - found.disposal, found.paid)

    def test_ep_cost_is_ap_cost_over_yield(self) -> None:
        # Textbook identity, nothing credited: EP cost = AP cost / yield, and the cost factor is 1 / yield.
        found = butchered(bench("5 kg", "4 kg"), d("2.00"))
        self.assertEqual((found.usable_per_kg, found.cost_factor), (d("2.00") / d("0.8"), 1 / d("0.8")))

    def test_what_costs_nothing_has_no_cost_factor(self) -> None:
        found = butchered(bench("5 kg", "4 kg", ("peel", "0.5 kg", "-0.20")), d("0"))
        self.assertEqual((found.usable_cost, found.cost_factor), (d("0.1"), None))

    def test_the_four_methods_side_by_side(self) -> None:
        by_method = {one.method: one for one in outcomes(BEEF, d("9.00"), d("14.00"))}
        self.assertEqual(tuple(by_method), METHODS)
        self.assertEqual(by_method["credit"].usable_cost, d("81.13"))
        self.assertEqual(by_method["main_bears_all"].usable_cost, d("90.07"))
        # By hand: 90.07 shared by 6.5 * 14 = 91, 1.5 * 5 = 7.5 and 1.2 * 1.2 = 1.44 of 99.94.
        self.assertAlmostEqual(by_method["market_value"].usable_cost or 0, d("90.07") * 91 / d("99.94"), 12)
        # And by mass 6.5, 1.5, 1.2 of 9.2: the fat is waste, and waste has no share.
        self.assertAlmostEqual(by_method["mass"].usable_cost or 0, d("90.07") * d("6.5") / d("9.2"), 12)

    def test_every_method_adds_up_to_what_was_paid(self) -> None:
        for one in outcomes(BEEF, d("9.00"), d("14.00")):
            total = (one.usable_cost or 0) + sum(part.cost for part in one.parts)
            self.assertAlmostEqual(total, d("90"), 12, one.method)

    def test_two_parts_of_one_name_each_bear_their_own(self) -> None:
        test = bench("10 kg", "5 kg", ("bones", "3 kg", "1"), ("bones", "1 kg", "1"))
        for one in outcomes(test, d("2"), d("4")):
            first, second = (part.cost for part in one.parts)
            self.assertAlmostEqual(first, 3 * second, 12, one.method)

    def test_market_value_asks_for_the_value_of_the_main_product(self) -> None:
        lacks = {one.method: one.lack for one in outcomes(BEEF, d("9.00"), None)}
        self.assertIn("worth, to share the cost by market value", lacks["market_value"] or "")
        self.assertEqual([lacks[one] for one in ("credit", "main_bears_all", "mass")], [None] * 3)


class Sheets(unittest.TestCase):
    FIELDS: ClassVar = {"of": "sliced", "before": "4 kg", "after": "1860 g", "on": "2026-11-24", "minutes": "12,5", "by": "Ada"}

    def test_a_whole_sheet_is_a_test(self) -> None:
        parts = [{"name": "tops", "mass": "1590 g", "value_per_kg": "0.30", "use": "stock"}, {"name": "", "mass": ""}]
        read = read_sheet("t", "trim", "leek", self.FIELDS, parts)
        self.assertEqual((read.problems, read.left), ([], 550))
        self.assertEqual(read.test and (read.test.minutes, read.test.by, read.test.supplier), (d("12.5"), "Ada", None))
        self.assertEqual(read.test and read.test.parts, (WeighedPart("tops", parse_quantity("1590 g"), d("0.30"), "stock"),))

    def test_a_half_filled_one_tells_what_it_can(self) -> None:
        read = read_sheet("t", "trim", "leek", {**self.FIELDS, "after": ""}, [{"name": "tops", "mass": "1.5 kg"}])
        self.assertIsNone(read.test)
        said = [(where, str(message)) for where, message in read.problems]
        self.assertEqual((said, read.left), ([("after", "weigh what is usable")], 2500))

    def test_each_slip_is_named_at_its_field(self) -> None:
        for patch, part, field, words in (
            ({"before": "4 pots"}, {}, "before", 'unknown unit "pots"|is not a quantity'),
            ({"before": "4 l"}, {}, "before", "write a weight"),
            ({"before": "0 g"}, {}, "before", "more than 0|is not a quantity"),
            ({"minutes": "soon"}, {}, "minutes", "write a number"),
            ({"minutes": "-2"}, {}, "minutes", "at least 0"),
            ({"minutes": "NaN"}, {}, "minutes", "write a number"),
            ({"on": "yesterday"}, {}, "on", "write the day as"),
            ({"of": " "}, {}, "of", "which preparation"),
            ({}, {"mass": "10 g"}, "parts.1.name", "say what it is"),
            ({}, {"name": "tops"}, "parts.1.mass", "weigh tops, or take it off"),
            ({}, {"name": "tops", "mass": "1 g", "value_per_kg": "much"}, "parts.1.value_per_kg", "write a number"),
            ({}, {"name": "tops", "mass": "9 kg"}, "parts", "more than what there was before"),
        ):
            read = read_sheet("t", "trim", "leek", {**self.FIELDS, **patch}, [part])
            with self.subTest(field=field, words=words):
                self.assertIsNone(read.test)
                (found,) = [message for where, message in read.problems if where == field]
                self.assertRegex(str(found), words)

    def test_a_day_is_read(self) -> None:
        read = read_sheet("t", "trim", "leek", self.FIELDS, [])
        self.assertEqual(read.test and read.test.on, date(2026, 11, 24))
