"""Liquid by eye, as cooks say it: what covers, what thins, and what the last splash does."""

from __future__ import annotations

import unittest
from dataclasses import replace
from typing import Any

from potrel.core.cost.costing import Costing
from potrel.core.kitchen.settings import Settings
from potrel.core.pot.by_eye import Cover, by_eye_of, cover_of
from potrel.core.rooms.splash import splashes_of
from potrel.core.words.typed_pour import read_into
from tests.kitchens import DAY, d, kitchen

POT = {"id": "pot", "capacity": "30 l", "surface_m2": "0.1"}
ITEMS: list[dict[str, Any]] = [
    {"id": "water", "name": "Water", "kind": "water", "density": "1"}, {"id": "hock", "kind": "meat"},
    {"id": "leek", "name": "Leek", "kind": "allium", "density": "0.5"}, {"id": "butter", "kind": "dairy"},
    {"id": "carcass", "kind": "bones"}, {"id": "bean", "kind": "pulse", "density": "0.8"},
]  # fmt: skip


def costing(*lines: dict[str, Any], vessel: str | None = "pot") -> Costing:
    stage = {"id": "s", "vessel": vessel, "lines": list(lines)}
    bowl = {"id": "bowl", "name": "Bowl", "size": "300 ml"}
    prices = {"water": "0.004", "hock": "1.2", "carcass": "1", "bean": "2", "leek": "2", "butter": "8"}
    return Costing(kitchen(ITEMS, [{"stages": [stage], "servings": [bowl]}], prices, [POT]), DAY)


def cover(*lines: dict[str, Any], vessel: str | None = "pot") -> Any:
    of = costing(*lines, vessel=vessel).view
    recipe = of.recipes["pot"]
    return cover_of(recipe, recipe.stages[0], of)


HOCKS = {"item": "hock", "quantity": "6 kg"}


class Covering(unittest.TestCase):
    def test_gaps_and_a_finger(self) -> None:
        # Common practice, no source: 0.4 of the heap (6 kg at 0.6 kg a litre), and 1.5 cm over 0.1 m2.
        found = cover(HOCKS)
        assert isinstance(found, Cover)
        self.assertEqual(found.litres, d("0.4") * 10 + d("1.5"))
        self.assertEqual(found.band, (d("0.7") * d("5.5"), d("1.4") * d("5.5")))

    def test_the_item_says_how_it_lies(self) -> None:
        found = cover({"item": "leek", "quantity": "2 kg"})
        self.assertEqual(found.litres, d("0.4") * 4 + d("1.5"))

    def test_bones_leave_more_gaps(self) -> None:
        # Common practice, no source: 0.55 of a heap of 0.45 kg a litre.
        self.assertEqual(cover({"item": "carcass", "quantity": "9 kg"}).litres, d("0.55") * 20 + d("1.5"))

    def test_what_dry_goods_drink_comes_on_top(self) -> None:
        # A kilo that weighs 2.2 kg when it is done drinks 1.2 l.
        found = cover({"item": "bean", "quantity": "1 kg", "cook_yield": "2.2"})
        self.assertEqual(found.litres, d("0.4") / d("0.8") + d("1.2") + d("1.5"))

    def test_liquid_that_is_there_counts_and_fat_does_not(self) -> None:
        there = {"item": "water", "quantity": "2 l"}
        self.assertEqual(cover(HOCKS, there).litres, d("3.5"))
        self.assertEqual(cover(HOCKS, {"item": "butter", "quantity": "1 kg"}).litres, d("5.5"))
        self.assertEqual(cover(HOCKS, {"item": "water", "quantity": "20 l"}).litres, 0)
        # What is poured by eye is what is asked about.
        self.assertEqual(cover(HOCKS, {**there, "by_eye": "cover"}).litres, d("5.5"))

    def test_what_it_cannot_know_it_asks(self) -> None:
        self.assertIn("how wide", cover(HOCKS, vessel=None).english)
        self.assertIn("nothing in this stage", cover({"item": "water", "quantity": "1 l"}).english)


class Typed(unittest.TestCase):
    def read(self, text: str, *lines: dict[str, Any], vessel: str | None = "pot") -> Any:
        of = costing(*lines, vessel=vessel)
        return read_into(text, of, None, None, of.view.recipes["pot"], "s")

    def test_as_cooks_say_it(self) -> None:
        for text in ("water to cover", "Water, to cover", "water, just to cover", "water enough to cover them"):
            line = self.read(text, HOCKS).line
            self.assertEqual((line.item, line.quantity.text, line.by_eye), ("water", "5.5 l", "cover"), text)

    def test_an_amount_that_was_typed_is_what_was_poured(self) -> None:
        line = self.read("7 l water to cover", HOCKS).line
        self.assertEqual((line.quantity.text, line.by_eye), ("7 l", "cover"))
        line = self.read("1 l water to thin", HOCKS).line
        self.assertEqual((line.quantity.text, line.by_eye), ("1 l", "thin"))

    def test_a_kitchen_that_is_shown_quarts_pours_quarts(self) -> None:
        of = Costing(replace(costing(HOCKS).view.kitchen, settings=Settings(shown_units="us")), DAY)
        line = read_into("water to cover", of, None, None, of.view.recipes["pot"], "s").line
        assert line is not None
        # Exact: a US quart is 0.946352946 l.
        self.assertEqual(line.quantity.text, "5.8 quart")

    def test_what_lacks_is_asked_and_nothing_is_guessed(self) -> None:
        self.assertIn("how wide", self.read("water to cover", HOCKS, vessel=None).problem)
        self.assertIn("how much", self.read("water to thin", HOCKS).problem)
        of = costing(HOCKS)
        self.assertIn("how much", read_into("water to cover", of, None, None, None, None).problem or "")
        # A name that nobody knows is still a question of its own.
        self.assertIsNone(self.read("moonshine to cover", HOCKS).line)

    def test_other_lines_are_read_as_ever(self) -> None:
        self.assertEqual(by_eye_of("cover the pot"), ("cover the pot", None))
        self.assertIsNone(self.read("3 kg leek", HOCKS).line.by_eye)


class TheLastSplash(unittest.TestCase):
    def test_litres_portions_and_cost(self) -> None:
        of = costing(HOCKS, {"item": "water", "quantity": "5 l", "by_eye": "cover"})
        (splash,) = splashes_of(of, "pot")
        self.assertEqual((splash.cover_ml, splash.low_ml, splash.high_ml), (5500, 3850, 7700))
        self.assertEqual([step.quantity for step in splash.steps], ["4 l", "4.5 l", "5 l", "5.5 l", "6 l"])
        now = of.of("pot").portions[0]
        self.assertEqual((splash.steps[2].portions, splash.steps[2].food_cost), (now.portions, now.food_cost))
        costs = [step.food_cost or 0 for step in splash.steps]
        self.assertEqual(costs, sorted(costs, reverse=True))

    def test_none_where_nothing_is_poured_by_eye(self) -> None:
        self.assertEqual(splashes_of(costing(HOCKS), "pot"), [])

    def test_thinning_covers_nothing(self) -> None:
        (splash,) = splashes_of(costing(HOCKS, {"item": "water", "quantity": "5 l", "by_eye": "thin"}), "pot")
        self.assertIsNone(splash.cover_ml)
        self.assertIsNone(splash.lack)
