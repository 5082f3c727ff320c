"""Cells going out: typed ones in workbooks, texts that no spreadsheet runs in CSV; and such texts coming back."""

from __future__ import annotations

import io
import re
from collections.abc import Callable, Iterable, Mapping, Sequence
from datetime import date
from decimal import Decimal

from potrel.core.kitchen.kinds import as_written

# Full-width signs are taken for the narrow ones in some languages.
_FORMULA_STARTS = ("=", "+", "-", "@", "\t", "\r", "\n", "＝", "＋", "－", "＠")
# Where another sign parts the cells, a text may come apart, and its rest begin like a formula.
_PARTED = re.compile(r"""([;,|\t\r\n]["\s]*'*)(?=[=@＝＠]|[-+＋－][^;,|\t\r\n]*[(|!])""")
_PUT_TOGETHER = re.compile(r"""([;,|\t\r\n]["\s]*'*)'(?=[=@＝＠]|[-+＋－][^;,|\t\r\n]*[(|!])""")


def as_cell(value: object, number: Callable[[Decimal], str]) -> str:
    """A value as a cell of CSV; a text that a spreadsheet would take for a formula gets a quote in front."""
    if value is None:
        return ""
    if isinstance(value, Decimal):
        return number(value)
    text = _PARTED.sub(r"\1'", str(value))
    return f"'{text}" if _begins_odd(text) else text


def _begins_odd(text: str) -> bool:
    """Whether a cell that begins so is taken for a formula, some programs leaving out the blanks in front; or has a quote."""
    return text.startswith((*_FORMULA_STARTS, "'")) or text.lstrip().startswith(_FORMULA_STARTS)


def from_cell(cell: str) -> str:
    """The text that `as_cell` wrote."""
    text = cell[1:] if cell.startswith("'") and _begins_odd(cell[1:]) else cell
    return _PUT_TOGETHER.sub(r"\1", text)


def _fits(value: Decimal) -> bool:
    """Whether a workbook, whose numbers have 15 digits, carries a decimal without loss; else it stands there as a text."""
    return Decimal(f"{float(value):.15g}") == value


def workbook(
    name: str,
    heads: Sequence[str],
    rows: Iterable[Sequence[object]],
    *,
    widths: Mapping[str, int],
    frozen_columns: int,
    plain_numbers: Sequence[str] = (),
) -> bytes:
    """A workbook of one sheet: typed cells, a header that stays in sight, nothing that runs.

    Numbers show two places, but all they have in the columns of `plain_numbers`.
    """
    import xlsxwriter

    target = io.BytesIO()
    options = {"in_memory": True, "strings_to_formulas": False, "strings_to_urls": False, "strings_to_numbers": False}
    with xlsxwriter.Workbook(target, options) as book:
        sheet = book.add_worksheet(name)
        head = book.add_format({"bold": True, "bottom": 1})
        day, money = book.add_format({"num_format": "yyyy-mm-dd"}), book.add_format({"num_format": "0.00"})
        sheet.freeze_panes(1, frozen_columns)
        for place, text in enumerate(heads):
            sheet.write_string(0, place, text, head)
            sheet.set_column(place, place, widths.get(text, 13))
        last = 0
        for last, row in enumerate(rows, 1):
            for place, value in enumerate(row):
                if isinstance(value, Decimal) and _fits(value):
                    sheet.write_number(last, place, float(value), None if heads[place] in plain_numbers else money)
                elif isinstance(value, date):
                    sheet.write_datetime(last, place, value, day)
                elif value is not None and value != "":
                    sheet.write_string(last, place, as_written(value) if isinstance(value, Decimal) else str(value))
        sheet.autofilter(0, 0, last, len(heads) - 1)
    return target.getvalue()
