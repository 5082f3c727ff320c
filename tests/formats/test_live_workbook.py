"""The workbook that computes, recalculated by the package `formulas`, an engine of its own: the same figures to the cent."""

from __future__ import annotations

import importlib
import io
import os
import pkgutil
import tempfile
import unittest
import warnings
from dataclasses import replace
from decimal import Decimal
from pathlib import Path
from typing import Any
from unittest import mock

import openpyxl

import potrel.core
from potrel.core.cost.costing import Costing
from potrel.core.decide.repricing import repricing
from potrel.core.errors import PotrelError
from potrel.core.kitchen.kitchen import Kitchen
from potrel.core.numbers.formula import all_formulas, in_words
from potrel.formats.cell_formulas import NoFormula, cell_formula
from potrel.formats.live_workbook import BOARD, PURCHASES, SETTINGS, board_workbook, pot_workbook
from tests.kitchens import DAY, d, demo

_SOUP = "leek-potato"
_NAME = "pot.xlsx"


def recalculated(book: Any) -> dict[str, Any]:
    """Every cell of a workbook, reckoned anew by another engine."""
    quiet = mock.patch.dict(os.environ, {"TQDM_DISABLE": "1"})
    with warnings.catch_warnings(), quiet, tempfile.TemporaryDirectory() as folder:
        warnings.simplefilter("ignore")
        import formulas

        path = Path(folder) / _NAME
        book.save(path)
        found = formulas.ExcelModel().loads(str(path)).finish().calculate()
        return {key: one.value[0, 0] for key, one in found.items() if hasattr(one, "value") and one.value.shape == (1, 1)}


def at(cells: dict[str, Any], sheet: str, cell: str) -> Any:
    return cells[f"'[{_NAME}]{sheet.upper()}'!{cell}"]


def opened(data: bytes, *, cached: bool = False) -> Any:
    return openpyxl.load_workbook(io.BytesIO(data), data_only=cached)


def told(of: Kitchen) -> list[list[Decimal | None]]:
    """Cost, price, share and contribution of the soup's servings, as the engine tells them."""
    rows = [row for row in repricing(Costing(of, DAY), {}) if row.recipe == _SOUP]
    found = {(row.serving, row.channel): [row.food_cost, row.price, row.share, row.contribution] for row in rows}
    order = [("bowl", None), ("bowl", "away"), ("bowl", "delivery"), ("bowl", "staff"), ("takeaway", None)]
    return [found[key] for key in order]


class Recalculated(unittest.TestCase):
    def assertBoard(self, cells: dict[str, Any], of: Kitchen) -> None:
        for row, wanted in enumerate(told(of), 2):
            for column, value in zip("DEGH", wanted, strict=True):
                assert value is not None
                self.assertAlmostEqual(float(at(cells, BOARD, f"{column}{row}")), float(value), delta=0.000001)

    def test_as_it_came_and_after_changes(self) -> None:
        book = opened(pot_workbook(Costing(demo(), DAY), _SOUP))
        kept = opened(pot_workbook(Costing(demo(), DAY), _SOUP), cached=True)
        cells = recalculated(book)
        self.assertBoard(cells, demo())
        # Every formula comes to what is shown before anything is reckoned anew.
        count = 0
        for sheet in book:
            for row in sheet.iter_rows():
                for cell in row:
                    if cell.data_type == "f":
                        count += 1
                        shown = kept[sheet.title][cell.coordinate].value
                        self.assertAlmostEqual(at(cells, sheet.title, cell.coordinate), shown, delta=1e-6 * max(1, abs(shown)))
        self.assertGreater(count, 300)
        # Leeks twice as dear: one cell of the purchases.
        leek = max((offer for offer in demo().offers if offer.item == "leek"), key=lambda offer: offer.on)
        cell = next(row[2] for row in book[PURCHASES].iter_rows(min_row=2) if row[2].value == float(leek.price))
        cell.value = float(leek.price * 2)
        dear = replace(demo(), offers=tuple(replace(one, price=one.price * 2) if one is leek else one for one in demo().offers))
        self.assertNotEqual(told(dear), told(demo()))
        # And another tax: one cell of the settings.
        for row in book[SETTINGS].iter_rows(min_row=2):
            if row[1].value == "tax rate":
                row[2].value = 0.07
        taxed = replace(dear, settings=replace(dear.settings, tax_rate=d("0.07")))
        self.assertBoard(recalculated(book), taxed)

    def test_a_yield_changes_what_rests_on_it(self) -> None:
        book = opened(pot_workbook(Costing(demo(), DAY), _SOUP))
        before = opened(pot_workbook(Costing(demo(), DAY), _SOUP), cached=True)[BOARD]["D2"].value
        cell = next(row[2] for row in book["Yields"].iter_rows(min_row=2) if row[2].data_type == "n" and row[2].value)
        cell.value = cell.value / 2
        after = recalculated(book)
        self.assertGreater(at(after, BOARD, "D2"), before)


class Whole(unittest.TestCase):
    def test_the_board_of_all_that_is_on_sale(self) -> None:
        book = opened(board_workbook(Costing(demo(), DAY)), cached=True)
        rows = [[cell.value for cell in row] for row in book[BOARD].iter_rows(min_row=2)]
        every = sum(1 + len(serving.channels) for recipe in demo().recipes for serving in recipe.servings)
        self.assertEqual(len(rows), every)
        self.assertIn("not known", next(row for row in rows if row[0] == "Minestrone with basil"))

    def test_more_pots_than_a_workbook_is_of_use_for(self) -> None:
        soup = next(one for one in demo().recipes if one.id == _SOUP)
        many = tuple(replace(soup, id=f"soup-{place}") for place in range(301))
        with self.assertRaisesRegex(PotrelError, "300: take that of a pot"):
            board_workbook(Costing(replace(demo(), recipes=(*demo().recipes, *many)), DAY))

    def test_an_empty_kitchen_and_names_that_look_like_formulas(self) -> None:
        empty = replace(demo(), recipes=(), deals=())
        self.assertEqual(opened(board_workbook(Costing(empty, DAY)))[BOARD].max_row, 1)
        named = replace(
            demo(), recipes=tuple(replace(one, name='=1+1+"x"') if one.id == _SOUP else one for one in demo().recipes)
        )
        cell = opened(pot_workbook(Costing(named, DAY), _SOUP), cached=True)[BOARD]["A2"]
        self.assertEqual(cell.value, '=1+1+"x"')


class Words(unittest.TestCase):
    def test_every_formula_can_be_written_into_a_cell(self) -> None:
        for module in pkgutil.walk_packages(potrel.core.__path__, "potrel.core."):
            importlib.import_module(module.name)
        for _, defined in all_formulas():
            cells = {in_words(name): [f"B{place}"] for place, name in enumerate(defined.singles, 2)}
            cells |= {in_words(name): [f"C{place}", f"C{place + 1}"] for place, name in enumerate(defined.groups, 2)}
            with self.subTest(defined.words):
                self.assertTrue(cell_formula(defined.words, cells))

    def test_brackets_stay_where_they_change_something(self) -> None:
        cells = {name: [name.upper()] for name in "abc"}
        for words, written in (
            ("a - (b - c)", "A-(B-C)"), ("a / (b * c)", "A/(B*C)"), ("(a + b) * c", "(A+B)*C"), ("a * (b - c)", "A*(B-C)"),
            ("a - b - c", "A-B-C"), ("a / b / c", "A/B/C"), ("-(a + b)", "-(A+B)"),
            ("the larger of (0, a - b) / c", "MAX(0,A-B)/C"),
        ):  # fmt: skip
            self.assertEqual(cell_formula(words, cells), written)

    def test_what_is_no_formula_is_said(self) -> None:
        for words in ("not known yet", "a ? b", "d + 1"):
            with self.assertRaises(NoFormula):
                cell_formula(words, {"a": ["A1"]})
