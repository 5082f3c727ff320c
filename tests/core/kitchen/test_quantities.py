"""Units, quantities and packs."""

from __future__ import annotations

import unittest

from potrel.core.errors import BadQuantity, PotrelError
from potrel.core.kitchen.kinds import Measured
from potrel.core.kitchen.quantities import Quantity, parse_pack, parse_quantity, plain_number
from potrel.core.kitchen.settings import Settings
from potrel.core.numbers.units import canonical
from potrel.formats.kitchen_json import part_from
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
            ("3-4 sticks", "3.5", "stick"),
            ("3 – 4 sticks", "3.5", "stick"),
            ("1 to 2 kg", "1.5", "kg"),
            ("½ to 1 cup", "0.75", "cup"),
            ("1-1/2 lb", "1.5", "lb"),
            ("1,234.50 g", "1234.5", "g"),
            ("1.234,50 g", "1234.5", "g"),
            ("1,234,567 g", "1234567", "g"),
            ("1’200 g", "1200", "g"),
            ("0,750 kg", "0.75", "kg"),
            ("7.465 kg", "7.465", "kg"),
            # An ounce is a sixteenth of a pound, a quart a quarter of a gallon: NIST Handbook 44, appendix C.
            ("10 lb 8 oz", "168", "oz"),
            ("1 1/2 lb 4oz", "28", "oz"),
            ("2 kg 500 g", "2500", "g"),
            ("1 gallon 2 quarts", "6", "quart"),
        ):
            with self.subTest(text):
                self.assertEqual(parse_quantity(text), Quantity(d(amount), unit, text))

    def test_what_is_no_quantity(self) -> None:
        for text in (
            "kg",
            "",
            "3",
            "three kg",
            "-2 kg",
            "1/0 cup",
            "2 kg/3",
            "1e5 kg",
            "NaN kg",
            "٣ kg",
            "2 kg;drop",
            "4-3 kg",
            "5 kg 20",
            "8 oz 10 lb",
            "1 lb 20 oz",
            "1 lb 4 ml",
            # Of 16 in the US, of 20 in Britain.
            "1 pint 4 fl oz",
        ):
            with self.subTest(text), self.assertRaises(BadQuantity) as caught:
                parse_quantity(text)
            self.assertIn("4-3" if text == "4-3 kg" else "quantity" if text.strip() else "say how much", str(caught.exception))

    def test_a_comma_before_three_digits_is_asked_about(self) -> None:
        for text in ("1,200 g", "12,500 kg"):
            with self.subTest(text), self.assertRaises(BadQuantity) as caught:
                parse_quantity(text)
            self.assertIn(f"can be {text[:-2].strip().replace(',', '')}", str(caught.exception))
        # What stands so in a kitchen of before is written plainly.
        old = Quantity(d("1.2"), "kg", "1,200 kg")
        self.assertEqual(Measured("a quantity").write(old), "1.2 kg")

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
        for text in ("x 2 kg", "0 x 2 kg", "1.5 x 2 kg", "2 x", "0 kg", "six x 1 kg", "999999 x 1 kg", "1.4-1.6 kg"):
            with self.subTest(text), self.assertRaises(BadQuantity):
                parse_pack(text)


class TypedNumbers(unittest.TestCase):
    def test_as_people_type_them(self) -> None:
        for typed, plainly in (
            ("4,50", "4.50"), ("1,234.50", "1234.50"), ("1.234,50", "1234.50"), (" 650 ", "650"), ("€4.20", "4.20"),
            ("4.20", "4.20"), ("", ""), ("abc", "abc"), ("1 1/2", "1 1/2"), ("28%", "28%"), ("-2", "-2"),
        ):  # fmt: skip
            self.assertEqual(plain_number(typed), plainly)
        for typed, plainly in (("28%", "0.28"), ("28 %", "0.28"), ("88 percent", "0.88"), ("7,5 %", "0.075"), ("0.28", "0.28")):
            self.assertEqual(plain_number(typed, percent=True), plainly)
        with self.assertRaises(BadQuantity):
            plain_number("1,200")

    def test_a_document_takes_them(self) -> None:
        settings = part_from(Settings, {"target_food_cost": "28%", "tax_rate": "0,10", "labour_rate_per_hour": "1,234.50"})
        self.assertEqual((settings.target_food_cost, settings.tax_rate), (d("0.28"), d("0.10")))
        self.assertEqual(settings.labour_rate_per_hour, d("1234.50"))
        with self.assertRaises(PotrelError) as caught:
            part_from(Settings, {"labour_rate_per_hour": "1,200"})
        self.assertIn("can be 1200 or 1.200", str(caught.exception))
