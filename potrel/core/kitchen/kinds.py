"""The kinds of number and text a kitchen document is made of, with the bounds that their meaning gives them.

The dataclasses of the core name these in their annotations. A marker says how a value is read from its text and written
as one; `potrel.formats` reads and writes documents by it.
"""

from __future__ import annotations

import re
from collections.abc import Callable
from datetime import date, datetime
from decimal import Decimal
from typing import Annotated, Any, ClassVar
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from potrel.core.errors import BadQuantity, OutOfRange
from potrel.core.frozen import dataclass
from potrel.core.kitchen.quantities import Pack, Quantity, is_told_two_ways, parse_pack, parse_quantity, plain_number
from potrel.core.numbers.rounding import half_even
from potrel.core.sentences import say

# What the document carries: 12 digits before the point and 12 behind it. The database says the same (its domains).
PLACES, DIGITS = 12, 12
_DECIMAL = rf"^-?(0|[1-9][0-9]{{0,{DIGITS - 1}}})(\.[0-9]{{1,{PLACES}}})?$"
_BARE_ID = "[A-Za-z0-9][A-Za-z0-9_.-]{0,79}"
_ID = f"^{_BARE_ID}$"
_IN_ANOTHER_WAY = re.compile(r"[,%€£$'’ ]|per ?cent")
_SMALLEST = Decimal(1).scaleb(-PLACES)
_TOO_LARGE = Decimal(10) ** DIGITS


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
    # With six places behind it there always is a point, and no exponent: the quick way to the same as `plain`.
    text = str(half_even(value, 6)).rstrip("0").rstrip(".")
    return "0" if text in ("-0", "") else text


def carried(value: Decimal) -> Decimal:
    """A decimal as the document can carry it: places beyond the twelfth are rounded away; OutOfRange where it is too large.

    >>> carried(Decimal("11.520000000000001")), carried(Decimal("3.20"))
    (Decimal('11.520000000000'), Decimal('3.20'))
    """
    if not value.is_finite() or abs(value) >= _TOO_LARGE:
        raise OutOfRange("an amount", f"{value:.20}", f"less than {10**DIGITS}")
    exponent = value.as_tuple().exponent
    return half_even(value, PLACES) if isinstance(exponent, int) and exponent < -PLACES else value


@dataclass(frozen=True)
class Amount:
    """Marks an exact decimal, written as a string, within bounds.

    `low` and `high` are inclusive unless `above` says that the low end itself is excluded.
    """

    what: str
    low: Decimal | None = None
    high: Decimal | None = None
    above: bool = False
    percent: bool = False
    pattern: ClassVar[str | None] = _DECIMAL

    def tidied(self, text: str) -> str:
        """What people type, as the document writes it: "4,50" is 4.50, and of a share "28%" is 0.28."""
        # What is a plain number already, or none at all, is for the pattern to judge.
        return plain_number(text, percent=self.percent) if _IN_ANOTHER_WAY.search(text) else text

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

    def write(self, value: Decimal) -> str:
        """The decimal as it was given."""
        return as_written(value)


@dataclass(frozen=True)
class Shown:
    """Marks a computed figure, written with 6 places."""

    pattern: ClassVar[str | None] = None

    def read(self, text: str) -> Decimal:
        """The decimal that `text` spells."""
        return Decimal(text)

    def write(self, value: Decimal) -> str:
        """The figure as it stands on a cost sheet."""
        return rounded(value)


@dataclass(frozen=True)
class Measured:
    """Marks a quantity with its unit, written as it was typed; `kinds` are the kinds of unit it may have."""

    what: str
    kinds: tuple[str, ...] = ("mass", "volume", "count")
    pattern: ClassVar[str | None] = None

    def read(self, text: str) -> Quantity:
        """The quantity that `text` spells; BadQuantity or OutOfRange where it spells none of this kind."""
        quantity = parse_quantity(text)
        if quantity.kind not in self.kinds:
            kinds = " or ".join(self.kinds)
            raise BadQuantity(text, say("other_kind", "{what} needs a unit of {kinds}", what=self.what, kinds=kinds))
        if quantity.amount <= 0:
            raise OutOfRange(self.what, text, "more than 0")
        return quantity

    def write(self, value: Quantity) -> str:
        """The quantity as it was typed, but where that could be read in two ways."""
        return f"{plain(value.amount)} {value.unit}" if is_told_two_ways(value.text) else value.text


@dataclass(frozen=True)
class Shorthand:
    """Marks a part that is written as a text alone where that says all of it; else as the whole part."""

    read: Callable[[str], Any]
    write: Callable[[Any], str | None]


@dataclass(frozen=True)
class Packed:
    """Marks a pack, written as it was typed."""

    pattern: ClassVar[str | None] = r"^[^\x00-\x1f\x7f]{1,200}$"

    def read(self, text: str) -> Pack:
        """The pack that `text` spells; BadQuantity where it spells none."""
        return parse_pack(text)

    def write(self, value: Pack) -> str:
        """The pack as it was typed."""
        return value.text


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

    def write(self, value: str) -> str:
        """The text itself."""
        return value


@dataclass(frozen=True)
class Zone(Matching):
    """Marks the name of a time zone."""

    def read(self, text: str) -> str:
        """`text` itself where there is a zone of that name; else OutOfRange."""
        try:
            ZoneInfo(super().read(text))
        except (ZoneInfoNotFoundError, ValueError, OSError):
            raise OutOfRange("a time zone", repr(text), "a name such as Europe/Lisbon or America/New_York") from None
        return text


@dataclass(frozen=True)
class Day:
    """Marks a calendar date, written year-month-day."""

    pattern: ClassVar[str | None] = r"^[0-9]{4}-[0-9]{2}-[0-9]{2}$"

    def read(self, text: str) -> date:
        """The day that `text` spells."""
        return date.fromisoformat(text)

    def write(self, value: date) -> str:
        """The day as year-month-day."""
        return value.isoformat()


@dataclass(frozen=True)
class Moment:
    """Marks a moment, written as in ISO 8601 with its offset from UTC."""

    pattern: ClassVar[str | None] = (
        r"^[0-9]{4}-[0-9]{2}-[0-9]{2}T[0-9]{2}:[0-9]{2}:[0-9]{2}(\.[0-9]{1,6})?(Z|[+-][0-9]{2}:[0-9]{2})$"
    )

    def read(self, text: str) -> datetime:
        """The moment that `text` spells."""
        return datetime.fromisoformat(text)

    def write(self, value: datetime) -> str:
        """The moment in ISO 8601."""
        return value.isoformat()


@dataclass(frozen=True)
class YesOrNo:
    """Marks true or false; a number is neither."""


@dataclass(frozen=True)
class Whole:
    """Marks a whole number that is not negative."""


@dataclass(frozen=True)
class Version:
    """Marks the number of the document's version; true, which equals 1 in Python, is none."""

    def check(self, value: Any) -> Any:
        """`value` itself; OutOfRange where it is true or false."""
        if isinstance(value, bool):
            raise OutOfRange("the version", value, "1")
        return value


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
Cell = Annotated[str, Matching("a cell: at most 200 characters on one line", r"^[^\x00-\x1f\x7f]{0,200}$")]
Note = Annotated[str, Matching("a note: at most 2,000 characters", r"^[^\x00]{0,2000}$")]
Currency = Annotated[str, Matching("a currency: three capital letters, such as EUR", r"^[A-Z]{3}$")]
On = Annotated[date, Day()]
At = Annotated[datetime, Moment()]
Flag = Annotated[bool, YesOrNo()]
Count = Annotated[int, Whole()]
Gtin = Annotated[str, Matching("a GTIN: 8, 12, 13 or 14 digits", r"^([0-9]{8}|[0-9]{12,14})$")]
Address = Annotated[str, Matching("an address: http:// or https:// and no space", r"^https?://[^\s\x00-\x1f]{1,400}$")]
TimeOfDay = Annotated[str, Matching("a time of day: such as 06:30", r"^([01][0-9]|2[0-3]):[0-5][0-9]$")]
TimeZone = Annotated[
    str, Zone("a time zone: a name such as Europe/Lisbon", r"^[A-Za-z0-9_+-]{1,40}(/[A-Za-z0-9_+-]{1,40}){0,2}$")
]

A_PRICE = Amount("a price", low=ZERO)
Money = Annotated[Decimal, A_PRICE]
Value = Annotated[Decimal, Amount("a value per kilo")]
Share = Annotated[Decimal, Amount("a share", low=ZERO, high=ONE, percent=True)]
PositiveShare = Annotated[Decimal, Amount("a share", low=ZERO, high=ONE, above=True, percent=True)]
Rate = Annotated[Decimal, Amount("a rate", low=ZERO)]
Minutes = Annotated[Decimal, Amount("a time", low=ZERO, high=Decimal(20160))]
Celsius = Annotated[Decimal, Amount("a temperature", low=Decimal(-40), high=Decimal(400))]
Yield = Annotated[Decimal, Amount("a yield", low=ZERO, high=Decimal(20), above=True, percent=True)]
Density = Annotated[Decimal, Amount("a density", low=Decimal("0.01"), high=Decimal(5))]
Positive = Annotated[Decimal, Amount("an amount", low=ZERO, above=True)]
Computed = Annotated[Decimal, Shown()]

AnyQuantity = Annotated[Quantity, Measured("a quantity")]
A_MASS = Measured("a weight", ("mass",))
Mass = Annotated[Quantity, A_MASS]
Bulk = Annotated[Quantity, Measured("a size", ("mass", "volume"))]
PackOf = Annotated[Pack, Packed()]
