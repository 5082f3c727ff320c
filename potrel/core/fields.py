"""The kinds of number and text a kitchen document is made of, with the bounds that their meaning gives them.

The dataclasses of the core name these in their annotations. The marker on each annotation describes itself to
whoever reads or writes the document (see `potrel.formats.kitchen_json`); the core itself imports no such library.
"""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass
from datetime import date, datetime
from decimal import ROUND_HALF_EVEN, Decimal
from typing import Annotated, Any, ClassVar

from potrel.core.errors import BadQuantity, OutOfRange
from potrel.core.quantities import parse_quantity

_DECIMAL = r"^-?(0|[1-9][0-9]{0,11})(\.[0-9]{1,12})?$"
_BARE_ID = "[A-Za-z0-9][A-Za-z0-9_.-]{0,79}"
_ID = f"^{_BARE_ID}$"
_SIX_PLACES = Decimal("0.000001")


def plain(value: Decimal) -> str:
    """The shortest plain text of a decimal: no exponent, no trailing zeros, no negative zero.

    >>> plain(Decimal("4.944960")), plain(Decimal("2E+4")), plain(Decimal("-0.0"))
    ('4.94496', '20000', '0')
    """
    text = format(value, "f")
    if "." in text:
        text = text.rstrip("0").rstrip(".")
    return "0" if text in ("-0", "") else text


def as_written(value: Decimal) -> str:
    """A decimal with the places it was given: a price of 3.20 stays "3.20"."""
    return format(value, "f")


def rounded(value: Decimal) -> str:
    """A figure as it is written to the cost sheet: 6 places, half to even.

    >>> rounded(Decimal("0.5359712345"))
    '0.535971'
    """
    return plain(value.quantize(_SIX_PLACES, rounding=ROUND_HALF_EVEN))


def _text(pattern: str | None) -> dict[str, Any]:
    text: dict[str, Any] = {"type": "str", "strict": True, "max_length": 4000}
    return text if pattern is None else {**text, "pattern": pattern}


def _checked_text(pattern: str | None, check: Callable[[str], str]) -> dict[str, Any]:
    """How a text that is only checked is read; it is written as it is."""
    return {"type": "function-after", "schema": _text(pattern), "function": {"type": "no-info", "function": check}}


def _read_text(pattern: str | None, read: Callable[[str], Any], write: Callable[[Any], str]) -> dict[str, Any]:
    """How a value that stands as a text in the document is read and written."""
    step = {"type": "function-plain", "function": {"type": "no-info", "function": read}}
    return {
        "type": "chain",
        "steps": [_text(pattern), step],
        "serialization": {"type": "function-plain", "function": write, "return_schema": {"type": "str"}},
    }


@dataclass(frozen=True)
class Amount:
    """Marks an exact decimal, written as a string, within bounds.

    `low` and `high` are inclusive unless `above` says that the low end itself is excluded.
    """

    what: str
    low: Decimal | None = None
    high: Decimal | None = None
    above: bool = False

    def read(self, text: str) -> Decimal:
        """The decimal that `text` spells; OutOfRange where it breaks the bounds."""
        return self.check(Decimal(text))

    def check(self, value: Decimal) -> Decimal:
        """`value` itself; OutOfRange where it breaks the bounds."""
        low_broken = self.low is not None and (value <= self.low if self.above else value < self.low)
        if low_broken or (self.high is not None and value > self.high):
            raise OutOfRange(self.what, value, self.bounds)
        return value

    @property
    def bounds(self) -> str:
        low = None if self.low is None else f"{'more than' if self.above else 'at least'} {self.low}"
        high = None if self.high is None else f"at most {self.high}"
        return " and ".join(part for part in (low, high) if part) or "a number"

    def __get_pydantic_core_schema__(self, source: Any, handler: Any) -> dict[str, Any]:
        return _read_text(_DECIMAL, self.read, as_written)


@dataclass(frozen=True)
class Figure:
    """Marks a computed decimal, written with 6 places."""

    def __get_pydantic_core_schema__(self, source: Any, handler: Any) -> dict[str, Any]:
        return _read_text(None, Decimal, rounded)


@dataclass(frozen=True)
class Measured:
    """Marks a quantity with its unit, kept as it was typed; `kinds` are the kinds of unit it may have."""

    what: str
    kinds: tuple[str, ...] = ("mass", "volume", "count")

    def read(self, text: str) -> str:
        """`text` itself where it is such a quantity; else BadQuantity or OutOfRange."""
        quantity = parse_quantity(text)
        if quantity.kind not in self.kinds:
            raise BadQuantity(text, f"{self.what} needs a unit of {' or '.join(self.kinds)}")
        if quantity.amount <= 0:
            raise OutOfRange(self.what, text, "more than 0")
        return text

    def __get_pydantic_core_schema__(self, source: Any, handler: Any) -> dict[str, Any]:
        return _checked_text(None, self.read)


@dataclass(frozen=True)
class Matching:
    """Marks a text of a given pattern; `what` says in words what is wanted."""

    what: str
    pattern: str
    # Every pattern in use, in words: a person is never told the pattern itself.
    in_words: ClassVar[dict[str, str]] = {}

    def __post_init__(self) -> None:
        self.in_words[self.pattern] = self.what

    def read(self, text: str) -> str:
        """`text` itself where it matches; else OutOfRange."""
        if not re.fullmatch(self.pattern, text):
            raise OutOfRange(self.what.split(":")[0], repr(text), self.what)
        return text

    def __get_pydantic_core_schema__(self, source: Any, handler: Any) -> dict[str, Any]:
        return _checked_text(self.pattern, self.read)


@dataclass(frozen=True)
class Day:
    """Marks a calendar date, written year-month-day."""

    def __get_pydantic_core_schema__(self, source: Any, handler: Any) -> dict[str, Any]:
        return _read_text(r"^[0-9]{4}-[0-9]{2}-[0-9]{2}$", date.fromisoformat, date.isoformat)


@dataclass(frozen=True)
class Moment:
    """Marks a moment, written as in ISO 8601 with its offset from UTC."""

    def __get_pydantic_core_schema__(self, source: Any, handler: Any) -> dict[str, Any]:
        pattern = r"^[0-9]{4}-[0-9]{2}-[0-9]{2}T[0-9]{2}:[0-9]{2}:[0-9]{2}(\.[0-9]{1,6})?(Z|[+-][0-9]{2}:[0-9]{2})$"
        return _read_text(pattern, datetime.fromisoformat, datetime.isoformat)


@dataclass(frozen=True)
class YesOrNo:
    """Marks true or false; a number is neither."""

    def __get_pydantic_core_schema__(self, source: Any, handler: Any) -> dict[str, Any]:
        return {"type": "bool", "strict": True}


@dataclass(frozen=True)
class Version:
    """Marks the number of the document's version; true, which equals 1 in Python, is none."""

    def check(self, value: Any) -> Any:
        """`value` itself; OutOfRange where it is true or false."""
        if isinstance(value, bool):
            raise OutOfRange("the version", value, "1")
        return value

    def __get_pydantic_core_schema__(self, source: Any, handler: Any) -> dict[str, Any]:
        function = {"type": "no-info", "function": self.check}
        return {"type": "function-before", "schema": handler(source), "function": function}


ZERO, ONE = Decimal(0), Decimal(1)
Id = Annotated[str, Matching("an id: letters, digits, - _ and . only, at most 80, no space", _ID)]
Form = Annotated[
    str,
    Matching(
        "a form: an item, an item:preparation+preparation, or recipe/ and a recipe",
        rf"^(recipe/{_BARE_ID}|{_BARE_ID}(:{_BARE_ID}(\+{_BARE_ID}){{0,9}})?)$",
    ),
]
Name = Annotated[str, Matching("a name: 1 to 200 characters on one line", r"^[^\x00-\x1f\x7f]{1,200}$")]
Note = Annotated[str, Matching("a note: at most 2,000 characters", r"^[^\x00]{0,2000}$")]
Currency = Annotated[str, Matching("a currency: three capital letters, such as EUR", r"^[A-Z]{3}$")]
On = Annotated[date, Day()]
At = Annotated[datetime, Moment()]
Flag = Annotated[bool, YesOrNo()]
Gtin = Annotated[str, Matching("a GTIN: 8, 12, 13 or 14 digits", r"^([0-9]{8}|[0-9]{12,14})$")]
Address = Annotated[str, Matching("an address: http:// or https:// and no space", r"^https?://[^\s\x00-\x1f]{1,400}$")]
TimeOfDay = Annotated[str, Matching("a time of day: such as 06:30", r"^([01][0-9]|2[0-3]):[0-5][0-9]$")]

Money = Annotated[Decimal, Amount("a price", low=ZERO)]
Value = Annotated[Decimal, Amount("a value per kilo")]
Share = Annotated[Decimal, Amount("a share", low=ZERO, high=ONE)]
PositiveShare = Annotated[Decimal, Amount("a share", low=ZERO, high=ONE, above=True)]
Rate = Annotated[Decimal, Amount("a rate", low=ZERO)]
Minutes = Annotated[Decimal, Amount("a time", low=ZERO, high=Decimal(20160))]
Celsius = Annotated[Decimal, Amount("a temperature", low=Decimal(-40), high=Decimal(400))]
Yield = Annotated[Decimal, Amount("a yield", low=ZERO, high=Decimal(20), above=True)]
Density = Annotated[Decimal, Amount("a density", low=Decimal("0.01"), high=Decimal(5))]
Positive = Annotated[Decimal, Amount("an amount", low=ZERO, above=True)]
Computed = Annotated[Decimal, Figure()]

QuantityText = Annotated[str, Measured("a quantity")]
MassText = Annotated[str, Measured("a weight", ("mass",))]
BulkText = Annotated[str, Measured("a size", ("mass", "volume"))]
