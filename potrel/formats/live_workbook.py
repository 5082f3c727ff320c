"""A workbook whose cells compute: the workings of a pot, or of the whole board, as formulas over purchases and yields.

Each figure is a row with its formula, and below it the numbers that go in: a fact is a cell to be changed, a figure leads to
its own row. What is set for the kitchen stands once, and so does each purchase and each yield.
"""

from __future__ import annotations

import io
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from decimal import Decimal
from typing import Any

import xlsxwriter

from potrel.core.cost.costing import Costing
from potrel.core.cost.selling import OWN
from potrel.core.errors import PotrelError
from potrel.core.kitchen.kinds import ONE
from potrel.core.numbers.formula import in_words
from potrel.core.sentences import say
from potrel.core.tell.explanations import explain
from potrel.core.tell.figures import SETTING, Figure, Input
from potrel.core.tell.selling_figures import IN_FORCE
from potrel.formats.cell_formulas import NoFormula, cell_formula

_Key = tuple[str, str]
BOARD, SETTINGS, PURCHASES, YIELDS, STAGES, BATCHES, SERVINGS, PRICES = (
    "Board", "Settings", "Purchases", "Yields", "Stages", "Batches", "Servings", "Prices",
)  # fmt: skip
_SHEETS = (BOARD, SETTINGS, PURCHASES, YIELDS, STAGES, BATCHES, SERVINGS, PRICES)
_HEADS = ("of", "what", "value", "unit", "how, or from where")
_WIDTHS = (26, 44, 14, 10, 70)
# By the begin of its path, the sheet on which a figure stands.
_PLACES = (("item/", PURCHASES), ("yield/", YIELDS), ("line/", STAGES), ("stage/", STAGES), ("batch/", BATCHES))
# What the board tells of each serving, and the figure of it in a channel.
_TOLD = (
    ("food cost", "food_cost"), ("price", f"{IN_FORCE}/price"), ("kept", f"{IN_FORCE}/kept"),
    ("food-cost share", f"{IN_FORCE}/food_cost_share"), ("contribution", f"{IN_FORCE}/contribution"),
    ("full cost", "full_cost"),
)  # fmt: skip
_SAME = Decimal("1e-12")
# A pot has some 300 formulas: more of them open in no spreadsheet at a pace that is of use.
MOST_POTS = 300


@dataclass
class _Book:
    """A workbook on its way: where each figure stands, and where each setting does."""

    costing: Costing
    figures: dict[_Key, Figure | None] = field(default_factory=dict)
    order: dict[str, list[_Key]] = field(default_factory=dict)
    rows: dict[_Key, int] = field(default_factory=dict)
    settings: dict[tuple[str, Decimal | None], tuple[int, Input]] = field(default_factory=dict)

    def walk(self, key: _Key) -> Figure | None:
        """A figure and all that it rests on, deepest first."""
        if key in self.figures:
            return self.figures[key]
        self.figures[key] = None
        try:
            found = explain(self.costing, *key)
        except PotrelError:
            return None
        for one in found.inputs:
            if one.figure is not None:
                self.walk(self.key_of(found, one))
            elif one.source == SETTING:
                self.settings.setdefault((one.name, one.value), (0, one))
        self.figures[key] = found
        self.order.setdefault(_sheet_of(key[1]), []).append(key)
        return found

    def key_of(self, of: Figure, one: Input) -> _Key:
        return ("" if (one.figure or "").startswith(("item/", "yield/")) else one.recipe or of.recipe, one.figure or "")


def _sheet_of(figure: str) -> str:
    for start, sheet in _PLACES:
        if figure.startswith(start):
            return sheet
    return PRICES if "/in/" in figure else SERVINGS


def pot_workbook(costing: Costing, recipe_id: str) -> bytes:
    """The workbook of one pot, with all that it is made of."""
    return _workbook(costing, [recipe_id])


def board_workbook(costing: Costing) -> bytes:
    """The workbook of all that is on sale; PotrelError where that is more than a workbook is of use for."""
    return _workbook(costing, pots_on_sale(costing))


def pots_on_sale(costing: Costing) -> list[str]:
    """The pots of that workbook by their names; PotrelError where they are too many."""
    on_sale = [recipe.id for recipe in costing.view.recipes.values() if recipe.servings]
    if len(on_sale) > MOST_POTS:
        english = "{count} pots are too many for one workbook, which holds {most}: take that of a pot, on the page of its price"
        raise PotrelError(say("too_many_pots", english, count=len(on_sale), most=MOST_POTS))
    return sorted(on_sale, key=lambda one: costing.view.recipes[one].name.casefold())


@dataclass(frozen=True, slots=True)
class _Sold:
    """A serving in a channel, as the board tells it."""

    recipe: str
    name: str
    serving: str
    channel: str
    keys: Sequence[_Key]


def _sold(costing: Costing, recipes: Sequence[str]) -> Iterator[_Sold]:
    for recipe_id in recipes:
        recipe = costing.view.recipes[recipe_id]
        for serving in recipe.servings:
            channels = [one.channel for one in serving.channels if one.channel in costing.view.channels]
            for channel in (None, *channels):
                base = f"serving/{serving.id}/in/{channel or OWN}"
                name = "here" if channel is None else costing.view.channels[channel].name
                keys = [(recipe_id, f"{base}/{figure}") for _, figure in _TOLD]
                yield _Sold(recipe_id, recipe.name, f"{serving.name} {serving.size.text}", name, keys)


def _workbook(costing: Costing, recipes: Sequence[str]) -> bytes:
    book = _Book(costing)
    sold = list(_sold(costing, recipes))
    for one in sold:
        for key in one.keys:
            book.walk(key)
    for keys in book.order.values():
        row = 1
        for key in keys:
            book.rows[key] = row
            figure = book.figures[key]
            row += 1 + (len(figure.inputs) if figure is not None else 0)
    book.settings = {name: (place, stated) for place, (name, (_, stated)) in enumerate(book.settings.items(), 1)}
    out = io.BytesIO()
    made = xlsxwriter.Workbook(out, {"in_memory": True, "strings_to_formulas": False, "strings_to_urls": False,
                                     "default_format_properties": {"font_name": "Calibri", "font_size": 11}})  # fmt: skip
    looks = _looks(made)
    for name in _SHEETS:
        if name == BOARD:
            _write_board(made.add_worksheet(name), book, sold, looks)
        elif name == SETTINGS:
            _write_settings(made.add_worksheet(name), book, looks)
        elif name in book.order:
            _write_figures(made.add_worksheet(name), book, book.order[name], looks)
    made.close()
    return out.getvalue()


def _looks(made: Any) -> dict[str, Any]:
    number = "0.00####"
    return {
        "head": made.add_format({"bold": True, "bottom": 1}),
        "figure": made.add_format({"bold": True, "num_format": number, "top": 4}),
        "text": made.add_format({"bold": True, "top": 4}),
        "way": made.add_format({"top": 4, "font_color": "#4C5462", "italic": True}),
        "input": made.add_format({"num_format": number}),
        "fact": made.add_format({"num_format": number, "bg_color": "#FBF3DC"}),
        "name": made.add_format({"indent": 1}),
        "quiet": made.add_format({"font_color": "#4C5462"}),
        "money": made.add_format({"num_format": "0.00"}),
        "share": made.add_format({"num_format": "0.0%"}),
    }


def _begin(sheet: Any, heads: Sequence[str], widths: Sequence[int], looks: dict[str, Any]) -> None:
    for column, (head, width) in enumerate(zip(heads, widths, strict=True)):
        sheet.set_column(column, column, width)
        sheet.write_string(0, column, head, looks["head"])
    sheet.freeze_panes(1, 0)


def _write_settings(sheet: Any, book: _Book, looks: dict[str, Any]) -> None:
    _begin(sheet, _HEADS, _WIDTHS, looks)
    for (name, _), (row, one) in book.settings.items():
        sheet.write_string(row, 0, book.costing.view.kitchen.name)
        sheet.write_string(row, 1, name)
        _write_number(sheet, row, one.value, looks["fact"])
        sheet.write_string(row, 3, one.unit)
        sheet.write_string(row, 4, "a cell in this colour may be changed: all that rests on it follows", looks["quiet"])


def _write_number(sheet: Any, row: int, value: Decimal | None, look: Any, column: int = 2) -> None:
    if value is None:
        sheet.write_blank(row, column, None, look)
    else:
        sheet.write_number(row, column, float(value), look)


def _write_figures(sheet: Any, book: _Book, keys: Sequence[_Key], looks: dict[str, Any]) -> None:
    _begin(sheet, _HEADS, _WIDTHS, looks)
    for key in keys:
        figure, row = book.figures[key], book.rows[key]
        if figure is None:
            continue
        cells: dict[str, list[str]] = {}
        for place, one in enumerate(figure.inputs, 1):
            cells.setdefault(in_words(one.stands_for), []).append(f"C{row + place + 1}")
            _write_input(sheet, row + place, book, figure, one, looks)
        recipe = book.costing.view.recipes.get(figure.recipe)
        sheet.write_string(row, 0, "" if recipe is None else recipe.name, looks["text"])
        sheet.write_string(row, 1, figure.title, looks["text"])
        _write_value(sheet, row, figure, cells, looks)
        sheet.write_string(row, 3, figure.unit, looks["text"])
        note = "" if figure.note is None else f" ({figure.note})"
        sheet.write_string(row, 4, f"{figure.formula}{note}", looks["way"])


def _write_value(sheet: Any, row: int, figure: Figure, cells: dict[str, list[str]], looks: dict[str, Any]) -> None:
    if figure.value is None:
        sheet.write_string(row, 2, "not known", looks["text"])
        return
    try:
        formula = cell_formula(figure.formula, cells) if figure.inputs else ""
    except NoFormula:
        formula = ""
    if formula:
        sheet.write_formula(row, 2, f"={formula}", looks["figure"], float(figure.value))
    else:
        sheet.write_number(row, 2, float(figure.value), looks["figure"])


def _write_input(sheet: Any, row: int, book: _Book, of: Figure, one: Input, looks: dict[str, Any]) -> None:
    sheet.write_string(row, 1, one.name, looks["name"])
    sheet.write_string(row, 3, one.unit)
    sheet.write_string(row, 4, one.source, looks["quiet"])
    formula = _reference(book, of, one)
    if formula is None or one.value is None:
        _write_number(sheet, row, one.value, looks["fact" if one.figure is None else "input"])
    else:
        sheet.write_formula(row, 2, f"={formula}", looks["input"], float(one.value))


def _reference(book: _Book, of: Figure, one: Input) -> str | None:
    """The cell that a number comes from, times what of it counts; None for a fact of its own."""
    if one.figure is None:
        return f"{SETTINGS}!C{book.settings[one.name, one.value][0] + 1}" if one.source == SETTING else None
    key = book.key_of(of, one)
    figure = book.figures.get(key)
    if figure is None or figure.value is None or one.value is None or key not in book.rows:
        return None
    cell = f"{_sheet_of(key[1])}!C{book.rows[key] + 1}"
    if abs(figure.value - one.value) <= _SAME * max(abs(one.value), ONE):
        return cell
    if figure.value == 0:
        return None
    ratio = one.value / figure.value
    return f"{cell}*{float(ratio)!r}"


def _write_board(sheet: Any, book: _Book, sold: Sequence[_Sold], looks: dict[str, Any]) -> None:
    heads = ["soup or stew", "serving", "sold", *(name for name, _ in _TOLD)]
    _begin(sheet, heads, [30, 22, 14, *([14] * len(_TOLD))], looks)
    for row, one in enumerate(sold, 1):
        for column, text in enumerate((one.name, one.serving, one.channel)):
            sheet.write_string(row, column, text)
        for column, (key, (name, _)) in enumerate(zip(one.keys, _TOLD, strict=True), 3):
            figure = book.figures.get(key)
            if figure is None or figure.value is None:
                sheet.write_string(row, column, "not known")
                continue
            look = looks["share" if "share" in name else "money"]
            sheet.write_formula(
                row, column, f"={_sheet_of(key[1])}!C{book.rows[key] + 1}", look, float(figure.value)
            )  # fmt: skip
