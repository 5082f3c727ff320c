"""What suppliers write of packs and prices, in their languages: read right, or asked about; never silently wrong."""

from __future__ import annotations

import csv
import unittest
from decimal import Decimal

from potrel.core.buy.pack_text import price_and_per, read_pack, understood_pack
from tests.formats.lists import DATA, read

# Price cells: what is written, the price in it, the pack that it is of.
PRICES = (
    ("9,95 €/kg", "9.95", "1 kg"), ("1,15 €/St", "1.15", "1 each"), ("1,15 €/Stk.", "1.15", "1 each"),
    ("£2.50 per kg", "2.50", "1 kg"), ("$3.20/lb", "3.20", "1 lb"), ("12,40 EUR / 10 kg", "12.40", "10 kg"),
    ("2.40 per 100 g", "2.40", "100 g"), ("1,99 / 100g", "1.99", "100 g"), ("4,80 €/l", "4.80", "1 l"),
    ("4,80 € par litre", "4.80", "1 l"), ("6,20 le kg", "6.20", "1 kg"), ("3,10 al kg", "3.10", "1 kg"),
    ("2,75 por kilo", "2.75", "1 kg"), ("0,90 za szt", "0.90", "1 each"), ("1,20 je Bund", "1.20", "1 bunch"),
    ("0,85/botte", "0.85", "1 bunch"), ("7.00 pro kg", "7.00", "1 kg"), ("1.234,50 €/kg", "1234.50", "1 kg"),
)  # fmt: skip


class PackTexts(unittest.TestCase):
    def rows(self) -> list[dict[str, str]]:
        with (DATA / "pack_texts.csv").open(encoding="utf-8") as file:
            return list(csv.DictReader(file))

    def test_every_text_is_read_right_or_asked_about(self) -> None:
        rows = self.rows()
        self.assertGreaterEqual(len(rows), 150)
        self.assertGreaterEqual(len({row["language"] for row in rows} - {"us"}), 8)
        for row in rows:
            with self.subTest(row["text"]):
                self.assertEqual(read_pack(row["text"]).pack, row["pack"] or None)

    def test_what_is_left_is_the_name(self) -> None:
        for text, name in (
            ("Mehl 25-kg-Sack", "Mehl"), ("ONIONS YELLOW 50#", "ONIONS YELLOW"), ("Potato russet 70ct 50lb", "Potato russet"),
            ("Œufs x30", "Œufs"), ("Potatoes 60-80 g 5 kg", "Potatoes"), ("Bak choi 5 kg", "Bak choi"),
        ):  # fmt: skip
            self.assertEqual(read_pack(text).name, name)

    def test_letters_that_are_two_when_they_are_small(self) -> None:
        found = read_pack("İNCİR KURU 5KG CRT")
        self.assertEqual((found.name, found.pack), ("İNCİR KURU", "5 kg"))

    def test_two_columns(self) -> None:
        for pack, size, wanted in (("6", "2.5 LB", "6 x 2.5 lb"), ("1", "10 kg", "10 kg"), ("12", "75 cl", "12 x 75 cl")):
            (line,) = read(f"Article;Pack;Size;Price\nthing;{pack};{size};12.00\n").lines
            self.assertEqual(line.pack, wanted)

    def test_grams_with_three_digits_behind_the_mark_are_thousands(self) -> None:
        self.assertEqual((understood_pack("1.000 G"), understood_pack("1,500 ml")), ("1000 g", "1500 ml"))
        self.assertEqual((understood_pack("7.465 kg"), understood_pack("0.250 kg")), ("7.465 kg", "0.25 kg"))


class PricesOfWhat(unittest.TestCase):
    def test_a_price_says_what_it_is_of(self) -> None:
        for text, price, pack in PRICES:
            with self.subTest(text):
                self.assertEqual(price_and_per(text)[1], pack)
                (line,) = read(f"Article;Pack;Price\nthing;5 kg;{text}\n").lines
                self.assertEqual((line.price, line.pack), (Decimal(price), pack))

    def test_a_head_says_it_for_all_lines(self) -> None:
        for head in ("Preis/kg", "Price per kg", "Prix au kg", "€/kg", "Precio por kilo", "Prezzo al kg", "Price / kg"):
            with self.subTest(head):
                (line,) = read(f"Article;Pack;{head}\nBeef shin;5 kg;12.90\n").lines
                self.assertEqual((line.price, line.pack), (Decimal("12.90"), "1 kg"))

    def test_the_price_of_the_pack_goes_before_that_of_a_kilo(self) -> None:
        (line,) = read("Article;Pack;Price/kg;Price\nBeef shin;5 kg;12.90;64.50\n").lines
        self.assertEqual((line.price, line.pack), (Decimal("64.50"), "5 kg"))

    def test_a_unit_beside_a_pack_is_asked_about(self) -> None:
        (line,) = read("Article;Pack;Unit;Price\nBeef shin;5 kg;kg;12.90\n").lines
        self.assertIn("may be that of 5 kg, or of 1 kg", str(line.problem))
        for unit, pack in (("case", "6 x 2.5 kg"), ("kg", "1 kg"), ("each", "6 x 2.5 kg")):
            (line,) = read(f"Article;Pack;Unit;Price\nTomatoes;{pack};{unit};12.90\n").lines
            self.assertEqual((line.problem, line.pack), (None, pack), unit)


if __name__ == "__main__":
    unittest.main()
