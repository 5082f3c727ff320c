"""Units, quantities, packs, and the weight of a quantity of an item."""

from __future__ import annotations

import unittest

from potrel.core.errors import BadQuantity
from potrel.core.purchase import MissingWeight, parse_pack, weigh
from potrel.core.quantities import Quantity, parse_quantity
from potrel.core.units import MeasureSystem, canonical
from tests.kitchens import d, item


class Quantities(unittest.TestCase):
    def test_numbers_as_cooks_write_them(self) -> None:
        for text, amount, unit in (
            ("2 kg", "2", "kg"),
            ("1 1/2 lb", "1.5", "lb"),
            ("1½ cup", "1.5", "cup"),
            ("½ cup", "0.5", "cup"),
            ("0.75 l", "0.75", "l"),
            ("0,75 l", "0.75", "l"),
            ("3 bunches", "3", "bunch"),
            ("2 Kilos", "2", "kg"),
            ("250g", "250", "g"),
            ("2 cups diced", "2", "cup diced"),
            (".5 kg", "0.5", "kg"),
        ):
            with self.subTest(text):
                self.assertEqual(parse_quantity(text), Quantity(d(amount), unit))

    def test_what_is_no_quantity(self) -> None:
        for text in ("kg", "", "3", "three kg", "-2 kg", "1/0 cup", "2 kg/3", "1e5 kg", "NaN kg", "٣ kg", "2 kg;drop"):
            with self.subTest(text), self.assertRaises(BadQuantity) as caught:
                parse_quantity(text)
            self.assertIn("quantity", str(caught.exception))

    def test_long_text_is_clipped_in_the_error(self) -> None:
        with self.assertRaises(BadQuantity) as caught:
            parse_quantity("x" * 10000)
        self.assertLess(len(str(caught.exception)), 200)

    def test_spellings(self) -> None:
        for typed, unit in (("Litres", "l"), ("tablespoons", "tbsp"), ("LBS", "lb"), ("cloves", "clove"), ("leaves", "leaf")):
            self.assertEqual(canonical(typed), unit)


class Packs(unittest.TestCase):
    def test_nested_packs(self) -> None:
        for text, amount, unit in (
            ("10 kg", "10", "kg"),
            ("6 x 2.5 kg", "15", "kg"),
            ("4 x 6 x 400 ml", "9600", "ml"),
            ("12 each", "12", "each"),
            ("6 × 1 l", "6", "l"),
        ):
            with self.subTest(text):
                pack = parse_pack(text)
                self.assertEqual((pack.count * pack.inner.amount, pack.inner.unit), (d(amount), unit))

    def test_bad_packs(self) -> None:
        for text in ("x 2 kg", "0 x 2 kg", "1.5 x 2 kg", "2 x", "0 kg", "six x 1 kg", "999999 x 1 kg"):
            with self.subTest(text), self.assertRaises(BadQuantity):
                parse_pack(text)


class Weights(unittest.TestCase):
    def grams(self, text: str, system: MeasureSystem = "metric", **more: object) -> object:
        return weigh(parse_quantity(text), item({"id": "leek", **more}), system)

    def test_mass_needs_nothing(self) -> None:
        self.assertEqual(self.grams("2 kg"), 2000)
        self.assertEqual(self.grams("1 lb"), d("453.59237"))

    def test_volume_takes_the_density(self) -> None:
        self.assertEqual(self.grams("2 l", density="1.03"), 2060)

    def test_which_cup(self) -> None:
        cups: dict[MeasureSystem, str] = {"us": "236.5882365", "metric": "250", "imperial": "250"}
        for system, millilitres in cups.items():
            self.assertEqual(self.grams("1 cup", system, density="1"), d(millilitres))
        self.assertEqual(self.grams("1 pint", "imperial", density="1"), d("568.26125"))

    def test_a_measure_wins_over_density(self) -> None:
        self.assertEqual(self.grams("2 cup", density="1", measures={"cup": "140 g"}), 280)

    def test_count_takes_a_measure(self) -> None:
        self.assertEqual(self.grams("3 bunches", measures={"bunch": "0.25 kg"}), 750)

    def test_missing_measure_names_item_unit_and_mend(self) -> None:
        with self.assertRaises(MissingWeight) as caught:
            self.grams("1 bunch")
        self.assertEqual(str(caught.exception), "Leek has no weight for 1 bunch: weigh one and add it to Leek's measures")
        self.assertEqual(caught.exception.unit, "bunch")

    def test_missing_density(self) -> None:
        with self.assertRaises(MissingWeight) as caught:
            self.grams("1 l")
        self.assertIn("density", str(caught.exception))
