"""The price book as CSV and XLSX, read back by other libraries than the ones that wrote it."""

from __future__ import annotations

import csv
import io
import unittest
from datetime import date
from typing import Any

import openpyxl
from hypothesis import given
from hypothesis import strategies as st

from potrel.core.cost.costing import Costing
from potrel.formats.price_book import COLUMNS, price_book, price_book_csv, price_book_xlsx
from potrel.formats.sheets import as_cell, from_cell
from tests.kitchens import DAY, demo, kitchen


def evil() -> Costing:
    """A kitchen whose texts would run as formulas if a spreadsheet took them so."""
    items = [{"id": "leek", "name": '=HYPERLINK("http://x","leek")', "kind": "+1"}, {"id": "nut", "name": "@SUM(A1)"}]
    return Costing(kitchen(items, [], {"leek": "2.5"}), DAY)


class PriceBook(unittest.TestCase):
    def setUp(self) -> None:
        self.costing = Costing(demo(), DAY)

    def test_every_item_and_preparation(self) -> None:
        rows = list(price_book(self.costing))
        items = self.costing.view.kitchen.items
        self.assertEqual(len(rows), len(items) + sum(len(item.preparations) for item in items))
        leek = next(row for row in rows if row.item == "leek" and row.preparation)
        self.assertEqual(
            (leek.supplier, leek.pack, str(leek.price), leek.since), ("Saltmarsh Produce", "5 kg", "9.60", date(2026, 11, 23))
        )
        # 1.92 a kilo less 0.40 kg tops at 0.30, over a yield of 0.44.
        self.assertAlmostEqual(float(leek.usable_per_kg or 0), (1.92 - 0.12) / 0.44, 6)

    def test_csv(self) -> None:
        rows = list(csv.DictReader(io.StringIO(price_book_csv(self.costing))))
        self.assertEqual(tuple(rows[0]), COLUMNS)
        basil = next(row for row in rows if row["item"] == "basil")
        self.assertEqual((basil["price"], basil["price_per_kg"], basil["since"]), ("11", "", "2026-07-27"))

    def test_xlsx_is_typed_and_its_header_stays(self) -> None:
        sheet = openpyxl.load_workbook(io.BytesIO(price_book_xlsx(self.costing)))["Price book"]
        self.assertEqual(sheet.freeze_panes, "C2")
        head, *rows = sheet.iter_rows(values_only=True)
        self.assertEqual(head, COLUMNS)
        self.assertEqual(len(rows), len(list(price_book(self.costing))))
        leek: dict[str, Any] = next(row for one in rows if (row := dict(zip(COLUMNS, one, strict=True)))["item"] == "leek")
        self.assertEqual((leek["price"], leek["since"].date(), leek["until"]), (9.6, date(2026, 11, 23), None))

    def test_no_text_runs_as_a_formula(self) -> None:
        for row in csv.reader(io.StringIO(price_book_csv(evil()))):
            for cell in row:
                self.assertFalse(cell.startswith(("=", "+", "-", "@")), cell)
        sheet = openpyxl.load_workbook(io.BytesIO(price_book_xlsx(evil())))["Price book"]
        for cells in sheet.iter_rows():
            for cell in cells:
                self.assertNotEqual(cell.data_type, "f")
        self.assertEqual(sheet["B2"].value, '=HYPERLINK("http://x","leek")')

    def test_every_way_in_which_a_spreadsheet_would_read_a_cell(self) -> None:
        texts = ("=1", "＝1", "＠SUM(A1)", "－2+3", "a;=cmd", 'a;"=cmd', "a\t=1", "a,@x", "b|-1+cmd|' /C calc'!A0", "\n=1",
                 "  =1", " ＠SUM(A1)", "\u00a0=cmd")  # fmt: skip
        for text in texts:
            cell = as_cell(text, str)
            for mark in ";,\t|":
                for part in cell.split(mark):
                    begin = part.lstrip(' "\u00a0')
                    self.assertNotIn(begin[:1], tuple("=@＝＠\t\n"), cell)
            self.assertEqual(from_cell(cell), text)

    @given(st.text(alphabet="a;,|'\"=+-@＝1(! \t", max_size=12))
    def test_what_is_written_comes_back(self, text: str) -> None:
        self.assertEqual(from_cell(as_cell(text, str)), text)

    def test_what_cooks_write_is_left_alone(self) -> None:
        for text in ("leeks, -10% this week", "5 kg; +2 free", "a/b = c", "1,5 kg"):
            self.assertEqual(as_cell(text, str), text)

    def test_an_empty_kitchen(self) -> None:
        costing = Costing(kitchen([], []), DAY)
        self.assertEqual(price_book_csv(costing).strip(), ",".join(COLUMNS))
        self.assertTrue(price_book_xlsx(costing).startswith(b"PK"))
