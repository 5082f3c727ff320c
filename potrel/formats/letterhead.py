"""What stands above a table: whose it is, and from when its prices hold. Common practice, no source."""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence
from datetime import date
from typing import NamedTuple

from potrel.formats.amounts import Dates

_LONGEST = 80
_MOST = 40
_DAY = re.compile(r"(?<![0-9])(?:[0-9]{4}-[0-9]{1,2}-[0-9]{1,2}|[0-9]{1,2}[./-][0-9]{1,2}[./-][0-9]{2,4})(?![0-9])")
_FROM = re.compile(
    r"\b(?:valid|from|as of|effective|since|dated?|prices? of|week of|starting|gültig|ab|vom|stand|du|à partir|valables?|"
    r"desde|válido|vigente|dal|valido|vanaf|geldig|od|ważny|gäller|från)\b",
    re.IGNORECASE,
)
_UNTIL = re.compile(r"\b(?:until|to|thru|through|bis|au|hasta|al|tot|do|till|printed|page)\b|[–—]", re.IGNORECASE)
# What a letterhead says beside a name.
_OF_THE_LIST = re.compile(
    r"[0-9@]|\b(?:price|prices|list|order|guide|invoice|page|net|netto|excl|incl|vat|tax|valid|week|customer|account|tel|phone|fax|"
    r"preisliste|preise|kunde|tarif|liste|prix|tarifa|precios|prezzi|listino|prijslijst|cennik|prislista|www)\b",
    re.IGNORECASE,
)


class Letterhead(NamedTuple):
    """The names that may be the supplier's, the likeliest first, and the day from which the prices hold, where it says so."""

    names: tuple[str, ...]
    on: date | None


def read_letterhead(rows: Iterable[Sequence[str]]) -> Letterhead:
    """What the rows above the heads of a table say.

    >>> read_letterhead([["Estuary Foods", ""], ["Order guide, prices valid from 11/30/2026, net"]])
    Letterhead(names=('Estuary Foods',), on=datetime.date(2026, 11, 30))
    >>> read_letterhead([["Prices from 11/12/2026"]]).on
    """
    cells = [cell.strip() for row in rows for cell in row if cell.strip()][:_MOST]
    names = [one for one in cells if len(one) <= _LONGEST and not _OF_THE_LIST.search(one)]
    return Letterhead(tuple(dict.fromkeys(names)), next((day for one in cells if (day := _from(one)) is not None), None))


def _from(text: str) -> date | None:
    """The first day that a text names as the one from which something holds; None where it can be read in two ways."""
    told = _FROM.search(text)
    found = None if told is None else _DAY.search(text, told.end())
    if told is None or found is None or _UNTIL.search(text[told.end() : found.start()]):
        return None
    day = found[0]
    first, second, *_ = (int(part) for part in re.split(r"[./-]", day))
    # 11/12 is November to one reader and December to another; a point is only written behind days.
    if "." not in day and not re.match(r"[0-9]{4}", day) and max(first, second) <= 12 and first != second:
        return None
    return Dates([day]).read(day)
