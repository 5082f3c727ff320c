"""Packs out of suppliers' texts. The ways of writing are common practice, no source."""

from __future__ import annotations

import unittest
from dataclasses import replace

from hypothesis import given
from hypothesis import strategies as st

from potrel.core.buy.pack_text import read_pack, understood_pack
from potrel.core.kitchen.gtin import check_digit_fits
from potrel.core.kitchen.quantities import parse_pack

_TEXTS = {
    "LEEKS 5KG CRT": ("LEEKS", "5 kg"),
    "ONIONS BROWN CL1 20 KG NET": ("ONIONS BROWN CL1", "20 kg"),
    "Plum tomatoes peeled tins 6/2.5kg": ("Plum tomatoes peeled", "6 x 2.5 kg"),
    "Butter salted 20X250G": ("Butter salted", "20 x 250 g"),
    "Oil, rapeseed 10LTR BIB": ("Oil rapeseed", "10 l"),
    "Cream 2,5 l x 4": ("Cream", "4 x 2.5 l"),
    "Celery 12ct": ("Celery", "12 each"),
    "Eggs 15 doz": ("Eggs", "180 each"),
    "Parsley flat 10 bch": ("Parsley flat", "10 bunch"),
    "CELERIAC EA": ("CELERIAC", "1 each"),
    "Beef shin per kg": ("Beef shin", "1 kg"),
    "Stock 4 x 6 x 1 l": ("Stock", "4 x 6 x 1 l"),
    "Bacon 2.27kg": ("Bacon", "2.27 kg"),
    "Cream 35%": ("Cream 35%", None),
    "Peppers red": ("Peppers red", None),
    "Vitamin B12 drops": ("Vitamin B12 drops", None),
    "Sauce 0 kg": ("Sauce 0 kg", None),
}
_COLUMNS = {
    ("10 kg", "", ""): "10 kg",
    ("10", "kg", ""): "10 kg",
    ("6", "l", "1"): "6 x 1 l",
    ("", "KG", ""): "1 kg",
    ("", "g", "500"): "500 g",
    ("crate", "", ""): None,
    ("crate 5kg", "", ""): "5 kg",
    ("12 punnet", "", ""): "12 punnet",
    ("", "", ""): None,
    ("", "case", ""): None,
}


class Packs(unittest.TestCase):
    def test_names_and_packs_in_texts(self) -> None:
        for text, wanted in _TEXTS.items():
            with self.subTest(text):
                found = read_pack(text)
                self.assertEqual((found.name, found.pack), wanted)

    def test_packs_in_columns(self) -> None:
        for columns, wanted in _COLUMNS.items():
            with self.subTest(columns):
                self.assertEqual(understood_pack(*columns), wanted)

    @given(st.text(max_size=40))
    def test_whatever_is_understood_is_a_pack(self, text: str) -> None:
        for pack in (read_pack(text).pack, understood_pack(text)):
            if pack is not None:
                self.assertGreater(parse_pack(pack).inner.amount, 0)

    @given(st.integers(1, 24), st.decimals("0.05", "25", places=2), st.sampled_from(["kg", "g", "l", "ml", "lb"]))
    def test_a_pack_written_behind_a_name_comes_back(self, count: int, size: object, unit: str) -> None:
        found = read_pack(f"LEEKS {count}X{size}{unit.upper()} CRT").pack
        self.assertIsNotNone(found)
        self.assertEqual(replace(parse_pack(found or ""), text=""), replace(parse_pack(f"{count} x {size} {unit}"), text=""))


class Gtins(unittest.TestCase):
    def test_published_examples(self) -> None:
        # GS1 General Specifications, examples of the check digit calculation; values from memory.
        for good in ("6291041500213", "96385074", "00012345600012"):
            with self.subTest(good):
                self.assertTrue(check_digit_fits(good))

    def test_every_slip_of_one_digit_is_seen(self) -> None:
        good = "6291041500213"
        for place, digit in enumerate(good):
            for other in set("0123456789") - {digit}:
                self.assertFalse(check_digit_fits(good[:place] + other + good[place + 1 :]))

    def test_what_is_none(self) -> None:
        for text in ("", "123", "12345678901", "629104150021x", "٦٢٩١٠٤١٥٠٠٢١٣"):
            self.assertFalse(check_digit_fits(text))
