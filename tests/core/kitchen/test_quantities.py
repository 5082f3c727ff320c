"""Units, quantities and packs."""

from __future__ import annotations

import unittest

from potrel.core.errors import BadQuantity
from potrel.core.kitchen.quantities import Quantity, parse_pack, parse_quantity
from potrel.core.numbers.units import canonical
from tests.kitchens import d


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
                self.assertEqual(parse_quantity(text), Quantity(d(amount), unit, text))

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
