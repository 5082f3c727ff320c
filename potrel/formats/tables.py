"""Tables out of CSV and XLSX files: rows of text cells, whatever the delimiter, the letters or the sheet."""

from __future__ import annotations

import csv
import io
import re
from datetime import date, datetime
from decimal import Decimal
from itertools import groupby

from potrel.core.kitchen.kinds import plain
from potrel.core.sentences import say
from potrel.formats.amounts import one_line
from potrel.formats.upload import BadFile, check_workbook

Rows = list[list[str]]
MOST_ROWS = 50_000
_MOST_COLUMNS = 120
_LONGEST_CELL = 2000
# A signed number, and a telephone number with its country: +49 (0)40 123.
_NUMBER = re.compile(r"[+-]?[0-9 .,']*[0-9][0-9.,' ]*%?|\+[0-9][0-9 ()/.-]{4,30}")
# How a cell begins that a spreadsheet would run; a signed number is none.
_FORMULA_STARTS = ("=", "+", "-", "@", "＝", "＋", "－", "＠")
_FORMULA = re.compile(r"[=＝]|[+\-@＋－＠]\s*[\w(]+[(|!]")
# In the middle of a cell: where another sign parts cells, it begins one.
_PARTED = re.compile(r"[;,\t|][\"'\s]*[=＝]")


DELIMITERS = (";", ",", "\t", "|")


def csv_rows(text: str, delimiter: str) -> Rows:
    """The rows of a CSV file; BadFile where it is none."""
    rows: Rows = []
    try:
        for cells in csv.reader(io.StringIO(text, newline=""), delimiter=delimiter, strict=True):
            rows.append([one_line(cell) for cell in cells])
            _check_size(rows[-1], len(rows))
            _refuse_formulas(rows[-1], len(rows))
    except csv.Error as error:
        english = "row {row} of the CSV is broken ({cause}): is the file whole?"
        raise BadFile(say("broken_row", english, row=len(rows) + 1, cause=error)) from None
    return rows


def delimiter_of(text: str) -> str:
    """The one of , ; tab and | that parts most lines on end into equally many cells: so a table does, and no letterhead."""
    lines = [line for line in text[:20_000].splitlines()[:30] if line.strip()]
    if not lines:
        raise BadFile(say("no_line", "the file holds no line: export it again"))

    def agreement(mark: str) -> tuple[int, bool, int]:
        marks = [len(cells) - 1 for cells in csv.reader(lines, delimiter=mark) if any(map(str.strip, cells))]
        on_end, count = max(((len(list(same)), count) for count, same in groupby(marks) if count), default=(0, 0))
        # A comma stands in texts and amounts as well, and may do so in every line.
        return on_end, mark != ",", count

    return max(";\t|,", key=agreement)


def xlsx_rows(data: bytes) -> Rows:
    """The rows of the sheet of a workbook that holds most; BadFile where it is damaged or holds more than values."""
    sheets, reckoned = xlsx_sheets(data)
    if reckoned:
        raise BadFile(say("formulas", "the workbook holds formulas: paste its values only, and save it again"))
    return max(sheets.values(), key=len)


def xlsx_sheets(data: bytes) -> tuple[dict[str, Rows], bool]:
    """The rows of the sheets of a workbook that hold any, by name, and whether formulas reckoned some of its values.

    BadFile where it is damaged, or holds what no list needs.
    """
    from python_calamine import CalamineError, CalamineWorkbook

    reckoned = check_workbook(data)
    try:
        book = CalamineWorkbook.from_filelike(io.BytesIO(data))
        sheets = {name: book.get_sheet_by_name(name).to_python() for name in book.sheet_names}
    except (CalamineError, OSError, ValueError) as error:
        english = "the workbook cannot be read ({cause}): save it again as XLSX"
        raise BadFile(say("workbook_unread", english, cause=str(error)[:80])) from None
    found: dict[str, Rows] = {}
    number = 0
    for name, table in sheets.items():
        rows: Rows = []
        for cells in table:
            number += 1
            rows.append([_as_text(cell) for cell in cells])
            _check_size(rows[-1], number)
        if any(map(any, rows)):
            found[name] = rows
    if not found:
        raise BadFile(say("empty_workbook", "the workbook has no row that holds anything"))
    return found, reckoned


def _as_text(cell: object) -> str:
    if isinstance(cell, bool):
        return str(cell)
    if isinstance(cell, float):
        # A workbook stores 11.52 as 11.520000000000001: it shows, and means, 15 digits.
        return plain(Decimal(f"{cell:.15g}"))
    if isinstance(cell, datetime):
        return cell.date().isoformat()
    if isinstance(cell, date):
        return cell.isoformat()
    return one_line(str(cell))


def _check_size(row: list[str], number: int) -> None:
    if number > MOST_ROWS:
        raise BadFile(say("too_many_rows", "the list has more than {most} rows: split it", most=MOST_ROWS))
    if len(row) > _MOST_COLUMNS:
        english = "row {row} has {columns} columns: is this a price list?"
        raise BadFile(say("too_many_columns", english, row=number, columns=len(row)))
    for cell in row:
        if len(cell) > _LONGEST_CELL:
            english = "row {row} has a cell of {length} characters: is the file whole?"
            raise BadFile(say("cell_too_long", english, row=number, length=len(cell)))


def _refuse_formulas(row: list[str], number: int) -> None:
    for cell in row:
        begins = cell.startswith(_FORMULA_STARTS) and len(cell) > 1 and not _NUMBER.fullmatch(cell) and _FORMULA.match(cell)
        if begins or (("=" in cell or "＝" in cell) and _PARTED.search(cell)):
            english = 'row {row} holds a formula ("{cell}"): paste its values only, and save it again'
            raise BadFile(say("formula_in_row", english, row=number, cell=cell[:30]))
