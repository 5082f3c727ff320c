"""Amounts, dates and texts as suppliers write them, told column by column: is it 1,234.50 or 1.234,50?"""

from __future__ import annotations

import re
from collections.abc import Iterable
from datetime import date
from decimal import Decimal

from potrel.core.kitchen.kinds import carried

_CURRENCY = r"(?:[A-Z]{3}|[€$£¥]|[Kk]r\.?|zł\.?|Kč|Ft|lei|:-)?"
_MONEY = re.compile(rf"^{_CURRENCY}\s*(-?)\s*{_CURRENCY}\s*([0-9][0-9.,'\u2019 \u00a0\u202f]*)\s*{_CURRENCY}(-?)$")
_BETWEEN_THOUSANDS = dict.fromkeys(map(ord, "'\u2019 \u00a0\u202f"))
_DATE = re.compile(r"^([0-9]{1,4})[-/.]([0-9]{1,2})[-/.]([0-9]{1,4})(?:[T ].*)?$")


_UNSEEN = re.compile(r"[\x00-\x1f\x7f\ufeff\ufffe\uffff]")
# A price that is computed from an amount has so many places.
_MILLIONTH = Decimal("0.000001")
# No list names an amount like this; a file that does is damaged, or means harm.
_BEYOND_REASON = Decimal(10**12)


def one_line(text: str) -> str:
    """A text without line ends and other marks that nobody sees."""
    if text.isprintable() and "  " not in text:
        return text.strip()
    return " ".join(_UNSEEN.sub(" ", text).split())


def within_reason(value: Decimal | None) -> Decimal | None:
    """A value with as many places as the kitchen document carries; None where it is none, or far beyond any list."""
    return carried(value) if value is not None and value.is_finite() and abs(value) < _BEYOND_REASON else None


def shared_out(amount: Decimal | None, among: Decimal | None) -> Decimal | None:
    """An amount over a quantity, to a millionth; None where one of them is not known, or the share is far beyond any list."""
    share = within_reason(amount / among) if amount is not None and among else None
    return None if share is None else share.quantize(_MILLIONTH)


class Amounts:
    """Reads the amounts of one column, by what all of it tells of its decimal mark."""

    def __init__(self, column: Iterable[str]) -> None:
        found = (_MONEY.match(text.strip()) for text in column)
        marks = {mark for one in found if one is not None and (mark := _sure_mark(one[2])) is not None}
        self._mark = marks.pop() if len(marks) == 1 else None

    def read(self, text: str) -> Decimal | None:
        """The amount that a text spells; None where it spells none, or could be read in two ways."""
        found = _MONEY.match(text.strip())
        if found is None:
            return None
        digits: str = found[2]
        if not digits.isascii() or "'" in digits or " " in digits:
            digits = digits.translate(_BETWEEN_THOUSANDS)
        mark = _sure_mark(found[2]) or self._mark
        if mark is None and ("." in digits or "," in digits):
            # One mark and three digits behind it: thousands to one reader, thousandths to another. A 0 in front decides.
            if not digits.startswith(("0.", "0,")):
                return None
            mark = digits[1]
        if mark is not None:
            digits = digits.replace("," if mark == "." else ".", "").replace(",", ".")
        if digits.count(".") > 1:
            return None
        value = Decimal(digits.rstrip("."))
        return -value if found[1] or found[3] else value


def _sure_mark(digits: str) -> str | None:
    """The decimal mark of an amount where only one reading makes sense."""
    digits = digits.rstrip()
    commas, points = digits.count(","), digits.count(".")
    if commas and points:
        return digits[max(digits.rfind(","), digits.rfind("."))]
    if commas + points > 1:
        # 1.234.567: a mark that comes twice is none of decimals.
        return "." if commas else ","
    mark = "," if commas else "."
    behind = len(digits) - 1 - digits.rfind(mark)
    return None if commas + points == 0 or behind == 3 else mark


class Dates:
    """Reads the dates of one column: a day over 12 tells whether days or months come first; days do where nothing tells."""

    def __init__(self, column: Iterable[str]) -> None:
        parts = [found for text in column if (found := _DATE.match(text.strip())) is not None and len(found[1]) < 4]
        self._months_first = any(int(found[2]) > 12 for found in parts) and not any(int(found[1]) > 12 for found in parts)

    def read(self, text: str) -> date | None:
        """The date that a text spells, None where it spells none."""
        found = _DATE.match(text.strip())
        if found is None:
            return None
        first, second, third = int(found[1]), int(found[2]), int(found[3])
        year, month, day = (first, second, third) if len(found[1]) == 4 else (third, second, first)
        if len(found[1]) < 4 and self._months_first:
            month, day = day, month
        try:
            return date(year + 2000 if year < 100 else year, month, day)
        except ValueError:
            return None
