"""Lists for the tests: read whole, and made in every shape."""

from __future__ import annotations

import io
import zipfile
from collections.abc import Mapping, Sequence
from pathlib import Path

import xlsxwriter

from potrel.core.buy.price_list import ListKind, PriceList
from potrel.core.kitchen.supply import ListForm
from potrel.formats.price_list import read_price_list

DATA = Path(__file__).parents[1] / "data"
HEAD = "Code;Article;Pack;Price\n"


def read(
    data: bytes | str,
    columns: Mapping[str, str] | None = None,
    kind: ListKind | None = None,
    forms: Sequence[ListForm] = (),
) -> PriceList:
    """The list in a file."""
    raw = data.encode() if isinstance(data, str) else data
    *_, last = read_price_list(raw, [ListForm(columns=dict(columns))] if columns else forms, kind)
    assert isinstance(last, PriceList)
    return last


def made_workbook(rows: Sequence[Sequence[object]], **more: Sequence[Sequence[object]]) -> bytes:
    """A workbook, made by a library: of one sheet, or of more by their names."""
    target = io.BytesIO()
    with xlsxwriter.Workbook(target, {"in_memory": True}) as book:
        for name, cells in {"Sheet1": rows, **more}.items():
            sheet = book.add_worksheet(name)
            for place, row in enumerate(cells):
                for at, cell in enumerate(row):
                    # A formula is written with what it came to: ("=B2*2", 23.60).
                    if isinstance(cell, tuple):
                        sheet.write_formula(place, at, cell[0], None, cell[1])
                    else:
                        sheet.write(place, at, cell)
    return target.getvalue()


def changed_member(workbook: bytes, name: str, content: bytes) -> bytes:
    """A workbook with one member replaced or added."""
    target = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(workbook)) as old, zipfile.ZipFile(target, "w", zipfile.ZIP_DEFLATED) as new:
        for member in old.namelist():
            if member != name:
                new.writestr(member, old.read(member))
        new.writestr(name, content)
    return target.getvalue()
