"""What a yield rests on: a value of its own, and a doubt in older words never makes a test of it."""

from __future__ import annotations

import json
import unittest
from datetime import date
from typing import Any

from potrel.core.cost.confidence import rests_on
from potrel.core.cost.costing import Costing
from potrel.core.errors import PotrelError
from potrel.core.kitchen.items import Item
from potrel.core.kitchen.provenance import Provenance, read_source
from potrel.core.rooms.yield_book import evidence_of
from potrel.core.rooms.yield_choices import adopted_item, choices_of
from potrel.formats.kitchen_json import part_from, part_to_json
from tests.kitchens import DAY, demo, item, kitchen

WORDS = {
    "USDA SR Legacy, refuse": "book",
    "Food Buying Guide; value from memory": "book",
    "label": "book",
    "own test, 3 tests, Nov 2026": "own_tests",
    "Own tests": "own_tests",
    "own test, 6 tests, Nov 2026, blended with USDA SR Legacy": "blend",
    "estimate": "estimate",
    "a guess": "estimate",
    "own tests still to be done": "estimate",
    "guess, own test pending": "estimate",
    "assumed as for leeks": "estimate",
    "the chef is not sure": "estimate",
    "0.8?": "estimate",
    None: "estimate",
}


class OlderWords(unittest.TestCase):
    def test_a_doubt_makes_an_estimate_never_a_test(self) -> None:
        for words, sort in WORDS.items():
            with self.subTest(words):
                self.assertEqual(read_source(words).sort, sort)

    def test_what_they_tell_of_tests_and_books(self) -> None:
        self.assertEqual(read_source("own test, 3 tests, Nov 2026"), Provenance("own_tests", 3))
        blend = read_source("own test, 6 tests, Nov 2026, blended with USDA SR Legacy")
        self.assertEqual((blend.tests, blend.book), (6, "USDA SR Legacy"))

    def test_every_source_of_the_demo_is_told_as_it_was(self) -> None:
        items = demo().items
        prepared = {rests_on(entry) for one in items for entry in one.preparations}
        self.assertEqual(
            prepared | {rests_on(entry) for one in items for entry in one.cooking}, {"book", "estimate", "own_tests"}
        )


class AValueOfItsOwn(unittest.TestCase):
    def entry(self, **more: Any) -> Item:
        return item({"id": "leek", "preparations": [{"id": "cut", "name": "cut", "yield": "0.5", **more}]})

    def test_it_goes_before_the_words(self) -> None:
        leek = self.entry(source="a guess", provenance={"sort": "own_tests", "tests": 4, "on": "2026-11-20"})
        found = leek.preparations[0].rests_on
        self.assertEqual((found.sort, found.tests, found.on), ("own_tests", 4, date(2026, 11, 20)))
        self.assertEqual(part_from(Item, json.loads(part_to_json(Item, leek))), leek)
        costing = Costing(kitchen([], [{"stages": [{"id": "s", "lines": [
            {"item": "leek", "quantity": "1 kg", "preparation": "cut"}]}]}]), DAY).with_items([leek])  # fmt: skip
        self.assertEqual(costing.of("pot").confidence.own_tests, 1)

    def test_what_contradicts_itself(self) -> None:
        for told in (
            {"sort": "book", "tests": 3},
            {"sort": "estimate", "on": "2026-11-20"},
            {"sort": "blend", "tests": 3},
            {"sort": "own_tests", "book": "USDA"},
            {"sort": "hearsay"},
        ):
            with self.subTest(told), self.assertRaises(PotrelError):
                self.entry(provenance=told)

    def test_what_is_adopted_from_tests_says_so_by_value(self) -> None:
        whole = demo()
        view = Costing(whole, DAY).view
        leek, tests = view.items["leek"], [one for one in whole.tests if one.item == "leek"]
        _, mean, blend = choices_of(evidence_of(view, leek, "preparation", "sliced", tests, []))
        for choice, sort in ((mean, "own_tests"), (blend, "blend")):
            (sliced,) = adopted_item(leek, "preparation", "sliced", choice).preparations
            assert sliced.provenance is not None
            self.assertEqual((sliced.provenance.sort, sliced.provenance.tests), (sort, 6))
            self.assertEqual(sliced.provenance.on, max(one.on for one in tests))
