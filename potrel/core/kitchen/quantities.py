"""Quantities as cooks write them: a number (whole, decimal, fraction or mixed) and a unit; and packs of such."""

from __future__ import annotations

import re
import unicodedata
from dataclasses import dataclass, field
from decimal import Decimal
from functools import lru_cache

from potrel.core.errors import BadQuantity
from potrel.core.numbers.units import GRAMS, MILLILITRES, Kind, MeasureSystem, canonical, kind_of
from potrel.core.sentences import say

_VULGAR = {"½": "1/2", "¼": "1/4", "¾": "3/4", "⅓": "1/3", "⅔": "2/3", "⅛": "1/8", "⅜": "3/8", "⅝": "5/8", "⅞": "7/8"}
_NUMBER = re.compile(
    r"(?P<whole>[0-9]{1,9})\s+(?P<top>[0-9]{1,4})/(?P<bottom>[0-9]{1,4})(?![0-9])"
    r"|(?P<top2>[0-9]{1,4})/(?P<bottom2>[0-9]{1,4})(?![0-9])"
    r"|(?P<decimal>[0-9]{1,9}(?:[.,][0-9]{1,9})?|[.,][0-9]{1,9})(?![0-9.,/])"
)
_UNIT = re.compile(r"[^\W\d_][^\d_,;:/\\<>{}\[\]\"]{0,39}")
_TIMES = re.compile(r"\s*[x×*]\s*", re.IGNORECASE)


@dataclass(frozen=True, slots=True)
class Quantity:
    """An amount (exact, not negative) and a canonical unit; `text` is how it was typed."""

    amount: Decimal
    unit: str
    text: str = field(repr=False)

    @property
    def kind(self) -> Kind:
        return kind_of(self.unit)

    def grams(self) -> Decimal:
        """The mass [g] of a quantity of mass."""
        return self.amount * GRAMS[self.unit]

    def millilitres(self, system: MeasureSystem) -> Decimal:
        """The volume [ml] of a quantity of volume."""
        return self.amount * MILLILITRES[system][self.unit]

    def __str__(self) -> str:
        return self.text


def read_number(text: str) -> tuple[Decimal, str, str]:
    """The number that a text begins with, how it is written there, and the rest; BadQuantity where it begins with none.

    Thirds and their like are taken to 28 significant digits; every other fraction of a kitchen is exact.

    >>> read_number("1 1/2 lb leeks"), read_number("1½ cup"), read_number("0,75 l")
    ((Decimal('1.5'), '1 1/2', 'lb leeks'), (Decimal('1.5'), '1 1/2', 'cup'), (Decimal('0.75'), '0,75', 'l'))
    """
    plain = "".join(f" {_VULGAR[c]} " if c in _VULGAR else c for c in unicodedata.normalize("NFC", text)).strip()
    match = _NUMBER.match(plain)
    if match is None:
        raise BadQuantity(text)
    written, rest, part = " ".join(match[0].split()), plain[match.end() :].strip(), match.groupdict()
    if part["decimal"] is not None:
        return Decimal(part["decimal"].replace(",", ".")), written, rest
    bottom = Decimal(part["bottom"] or part["bottom2"])
    if bottom == 0:
        raise BadQuantity(text, say("fraction_over_0", "a fraction cannot be over 0"))
    top = Decimal(part["top"] or part["top2"])
    whole = Decimal(0) if part["whole"] is None else Decimal(part["whole"])
    return whole + top / bottom, written, rest


@lru_cache(maxsize=65536)
def parse_quantity(text: str) -> Quantity:
    """The quantity that a text spells: `2 kg`, `1 1/2 lb`, `1½ cup`, `0.75 l`, `3 bunch`.

    >>> parse_quantity("1 1/2 lb")
    Quantity(amount=Decimal('1.5'), unit='lb')
    """
    amount, _, unit = read_number(text)
    if not unit:
        raise BadQuantity(text, say("no_unit", 'it has no unit: write "kg", "l", "each" or the like behind the number'))
    if not _UNIT.fullmatch(unit):
        raise BadQuantity(text)
    return Quantity(amount, canonical(unit), text)


@dataclass(frozen=True, slots=True)
class Pack:
    """`count` inner containers that hold `amount` of a unit each; `text` is how it was typed."""

    count: Decimal
    amount: Decimal
    unit: str
    text: str = field(repr=False)

    @property
    def inner(self) -> Quantity:
        """What one inner container holds."""
        return Quantity(self.amount, self.unit, f"{self.amount:f} {self.unit}")

    def same_as(self, other: Pack) -> bool:
        """Whether two packs hold the same, however they are typed."""
        return (self.count, self.amount, self.unit) == (other.count, other.amount, other.unit)

    def __str__(self) -> str:
        return self.text


@lru_cache(maxsize=16384)
def parse_pack(text: str) -> Pack:
    """The pack that a text spells: `N x M x Q U` or `Q U`.

    >>> parse_pack("6 x 2.5 kg")
    Pack(count=Decimal('6'), amount=Decimal('2.5'), unit='kg')
    """
    *outer, inner_text = _TIMES.split(text.strip())
    inner = parse_quantity(inner_text)
    count = Decimal(1)
    for part in outer:
        if not re.fullmatch(r"[0-9]{1,5}", part) or Decimal(part) == 0:
            raise BadQuantity(text, say("no_pack", 'write a pack as "10 kg", "6 x 2.5 kg" or "12 each"'))
        count *= Decimal(part)
    if inner.amount <= 0:
        raise BadQuantity(text, say("empty_pack", "a pack holds more than nothing"))
    return Pack(count, inner.amount, inner.unit, text)
