"""Quantities as cooks write them: a number (whole, decimal, fraction or mixed) and a unit."""

from __future__ import annotations

import re
import unicodedata
from dataclasses import dataclass
from decimal import Decimal
from functools import lru_cache

from potrel.core.errors import BadQuantity
from potrel.core.units import GRAMS, MILLILITRES, Kind, MeasureSystem, canonical, kind_of

_VULGAR = {"½": "1/2", "¼": "1/4", "¾": "3/4", "⅓": "1/3", "⅔": "2/3", "⅛": "1/8", "⅜": "3/8", "⅝": "5/8", "⅞": "7/8"}
_NUMBER = re.compile(
    r"(?P<whole>[0-9]{1,9})\s+(?P<top>[0-9]{1,4})/(?P<bottom>[0-9]{1,4})(?![0-9])"
    r"|(?P<top2>[0-9]{1,4})/(?P<bottom2>[0-9]{1,4})(?![0-9])"
    r"|(?P<decimal>[0-9]{1,9}(?:[.,][0-9]{1,9})?|[.,][0-9]{1,9})(?![0-9.,/])"
)
_UNIT = re.compile(r"[^\W\d_][^\d_,;:/\\<>{}\[\]\"]{0,39}")


@dataclass(frozen=True, slots=True)
class Quantity:
    """An amount (exact, not negative) and a canonical unit."""

    amount: Decimal
    unit: str

    @property
    def kind(self) -> Kind:
        return kind_of(self.unit)

    def grams(self) -> Decimal:
        """The mass [g] of a quantity of mass."""
        return self.amount * GRAMS[self.unit]

    def millilitres(self, system: MeasureSystem) -> Decimal:
        """The volume [ml] of a quantity of volume."""
        return self.amount * MILLILITRES[system][self.unit]


def split_number(text: str) -> tuple[Decimal, str]:
    """The number that a text begins with, and the rest; BadQuantity where it begins with none.

    Thirds and their like are taken to 28 significant digits; every other fraction of a kitchen is exact.

    >>> split_number("1 1/2 lb leeks"), split_number("1½ cup"), split_number("0,75 l")
    ((Decimal('1.5'), 'lb leeks'), (Decimal('1.5'), 'cup'), (Decimal('0.75'), 'l'))
    """
    plain = "".join(f" {_VULGAR[c]} " if c in _VULGAR else c for c in unicodedata.normalize("NFC", text)).strip()
    match = _NUMBER.match(plain)
    if match is None:
        raise BadQuantity(text)
    part = match.groupdict()
    if part["decimal"] is not None:
        return Decimal(part["decimal"].replace(",", ".")), plain[match.end() :].strip()
    bottom = Decimal(part["bottom"] or part["bottom2"])
    if bottom == 0:
        raise BadQuantity(text, "a fraction cannot be over 0")
    top = Decimal(part["top"] or part["top2"])
    return Decimal(part["whole"] or 0) + top / bottom, plain[match.end() :].strip()


@lru_cache(maxsize=65536)
def parse_quantity(text: str) -> Quantity:
    """The quantity that a text spells: `2 kg`, `1 1/2 lb`, `1½ cup`, `0.75 l`, `3 bunch`.

    >>> parse_quantity("1 1/2 lb")
    Quantity(amount=Decimal('1.5'), unit='lb')
    """
    amount, unit = split_number(text)
    if not unit:
        raise BadQuantity(text, 'it has no unit: write "kg", "l", "each" or the like behind the number')
    if not _UNIT.fullmatch(unit):
        raise BadQuantity(text)
    return Quantity(amount, canonical(unit))
