"""Order guides and price lists in the manner of the trade, all made up: each line is taken for what it says, or asked about."""

from __future__ import annotations

import csv
import unittest
from decimal import Decimal

from hypothesis import given
from hypothesis import strategies as st

from potrel.core.buy.purchase import price_of
from potrel.core.buy.weights import pack_grams
from potrel.core.errors import Lack
from potrel.core.kitchen.quantities import parse_pack
from potrel.core.kitchen.supply import Offer
from potrel.formats.letterhead import read_letterhead
from tests.formats.lists import DATA, read
from tests.kitchens import DAY, d, item

_HEADS = "Item #;Pack;Size;Description;Price;Per\n"


class Guides(unittest.TestCase):
    def test_every_line_of_five_guides(self) -> None:
        with (DATA / "order_guides.csv").open(encoding="utf-8") as file:
            wanted = list(csv.DictReader(file))
        guides = sorted((DATA / "guides").glob("*.csv"))
        self.assertEqual((len(guides), len(wanted)), (5, 62))
        for guide in guides:
            found = read(guide.read_bytes())
            mine = [row for row in wanted if row["guide"] == guide.stem]
            self.assertEqual([line.text for line in found.lines], [row["text"] for row in mine], guide.stem)
            for line, row in zip(found.lines, mine, strict=True):
                with self.subTest(guide=guide.stem, line=line.text):
                    said = line.problem or line.note
                    asked = said.code if said is not None else "pack" if line.pack is None else ""
                    self.assertEqual((line.pack or "", str(line.price), asked), (row["pack"], row["price"], row["asked"]))

    def test_whose_they_are_and_from_when(self) -> None:
        found = {guide.stem: read(guide.read_bytes()) for guide in (DATA / "guides").glob("*.csv")}
        names = {name: next(iter(one.letterhead), None) for name, one in found.items()}
        self.assertEqual(names, {
            "us-broadline": "Estuary Foods", "us-produce": "Tideline Produce Co", "us-split": "Slip & Quay Provision",
            "de-grosshandel": "Fördehafen Frischdienst", "uk-wholesale": None,
        })  # fmt: skip
        days = {name: one.on and one.on.isoformat() for name, one in found.items() if one.on}
        self.assertEqual(days, {"us-broadline": "2026-11-30", "de-grosshandel": "2026-11-30"})

    def test_a_day_that_can_be_read_in_two_ways_is_not_taken(self) -> None:
        for text, day in (
            ("Prices from 11/12/2026", None), ("valid from 13/12/2026", "2026-12-13"), ("as of 12/13/2026", "2026-12-13"),
            ("gültig ab 5.12.2026", "2026-12-05"), ("valid until 2026-12-31", None), ("2026-12-31", None),
            ("valid from 2026-12-01 to 2026-12-31", "2026-12-01"), ("Prices from 12/12/2026", "2026-12-12"),
        ):  # fmt: skip
            on = read_letterhead([[text]]).on
            self.assertEqual(on and on.isoformat(), day, text)

    def test_a_price_of_a_pound_is_never_that_of_a_case(self) -> None:
        for row in ("9;4;20 LB AVG;BEEF CHUCK;6.49;LB", "9;2;10-12 LB;TURKEY;4.35;per LB", "9;1;15 LBA;HAM;3.10;lb"):
            (line,) = read(_HEADS + row + "\n").lines
            self.assertEqual(line.pack, "1 lb", row)

    def test_a_size_that_is_no_unit_is_no_pack(self) -> None:
        for row, pack in (
            ("9;30;LB;CELERY;24;CS", "30 lb"),
            ("9;24;CT;CELERY;24;CS", "24 each"),
            ("9;12;LARGE;EGGS;4;CS", None),
        ):
            (line,) = read(_HEADS + row + "\n").lines
            self.assertEqual(line.pack, pack, row)

    @given(
        count=st.integers(1, 48), size=st.integers(1, 60), unit=st.sampled_from(["LB", "OZ", "KG", "#", "GAL", "QT"]),
        cents=st.integers(1, 50_000),
    )  # fmt: skip
    def test_a_price_a_kilo_times_its_mass_is_the_price_paid(self, count: int, size: int, unit: str, cents: int) -> None:
        paid = Decimal(cents) / 100
        of = item({"id": "thing", "density": "1.03"})
        for row in (f"9;{count};{size} {unit};THING;{paid};CS", f"9;{count}/{size} {unit};;THING;{paid};CS"):
            (line,) = read(_HEADS + row + "\n").lines
            if line.pack is None:
                # "1/4 LB" alone is a quarter of a pound, or one of four: asked.
                self.assertTrue(count == 1 and size <= 16, row)
                continue
            pack = parse_pack(line.pack)
            grams = pack_grams(pack, of, "us")
            per_gram = price_of(Offer("thing", "shop", pack, paid, DAY), of, "us").per_gram
            assert not isinstance(grams, Lack) and per_gram is not None
            self.assertEqual((per_gram * grams).quantize(d("1e-18")), paid)


if __name__ == "__main__":
    unittest.main()
