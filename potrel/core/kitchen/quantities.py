"""Quantities as cooks write them: a number (whole, decimal, fraction or mixed) and a unit; and packs of such."""

from __future__ import annotations

import re
import unicodedata
from dataclasses import field
from decimal import Decimal
from functools import lru_cache

from potrel.core.errors import BadQuantity
from potrel.core.frozen import dataclass
from potrel.core.numbers.units import GRAMS, MILLILITRES, Kind, MeasureSystem, canonical, kind_of
from potrel.core.sentences import say

_VULGAR = {"½": "1/2", "¼": "1/4", "¾": "3/4", "⅓": "1/3", "⅔": "2/3", "⅛": "1/8", "⅜": "3/8", "⅝": "5/8", "⅞": "7/8"}
_NUMBER = re.compile(
    r"(?P<whole>[0-9]{1,9})(?:\s+|-)(?P<top>[0-9]{1,4})/(?P<bottom>[0-9]{1,4})(?![0-9])"
    r"|(?P<top2>[0-9]{1,4})/(?P<bottom2>[0-9]{1,4})(?![0-9])"
    r"|(?P<grouped>[0-9]{1,3}(?:,[0-9]{3})+\.[0-9]{1,9}|[0-9]{1,3}(?:\.[0-9]{3})+,[0-9]{1,9}|[0-9]{1,3}(?:,[0-9]{3}){2,}"
    r"|[0-9]{1,3}(?:[\u00a0\u202f'’][0-9]{3})+)(?![0-9.,/])"
    r"|(?P<decimal>[0-9]{1,9}(?:[.,][0-9]{1,9})?|[.,][0-9]{1,9})(?![0-9.,/])"
)
# "1,200" is 1200 in one country and 1.2 in the next.
_TWO_WAYS = re.compile(r"[1-9][0-9]{0,2},[0-9]{3}(?![0-9])")
_PERCENT = re.compile(r"\s*(?:%|per ?cent)$", re.IGNORECASE)
_TO = re.compile(r"\s*(?:[-–—]|\bto\b|\bor\b)\s*(?=[0-9])", re.IGNORECASE)
# A word, with numbers where cooks put them: "bunch", "no. 2", "2-inch piece".
_UNIT = re.compile(r"(?:[0-9]{1,3}-)?[^\W\d_](?:[^\d_,;:/\\<>{}\[\]\"]|(?<=[\s.0-9-])[0-9]){0,39}")
# Behind the first number of "1 lb 4 oz".
_WORDS = r"[^\W\d_]+(?: [^\W\d_]+)?"
_SECOND = re.compile(rf"(?P<first>{_WORDS})\.? (?P<more>[0-9]{{1,6}}(?:[.,][0-9]{{1,2}})?) ?(?P<second>{_WORDS})\.?")
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
    return _value(match, text), " ".join(match[0].split()), plain[match.end() :].strip()


def read_range(text: str) -> tuple[Decimal, str, str]:
    """The same of a text that may begin with a range, which counts with its middle.

    >>> read_range("3-4 sticks"), read_range("20 to 30 min"), read_range("1-1/2 lb")
    ((Decimal('3.5'), '3-4', 'sticks'), (Decimal('25'), '20 to 30', 'min'), (Decimal('1.5'), '1-1/2', 'lb'))
    """
    low, written, rest = read_number(text)
    to = _TO.match(rest)
    if to is None:
        return low, written, rest
    high, other, rest = read_number(rest[to.end() :])
    if high <= low:
        raise BadQuantity(text, say("range_backwards", "a range goes from the smaller to the larger number"))
    word = to[0].strip()
    return (low + high) / 2, f"{written} {word} {other}" if word.isalpha() else f"{written}{word}{other}", rest


def range_of(text: str) -> tuple[Decimal, Decimal] | None:
    """The two ends of the range that a text begins with; None where it begins with one number.

    >>> range_of("3-4 sticks"), range_of("3 sticks")
    ((Decimal('3'), Decimal('4')), None)
    """
    low, _, rest = read_number(text)
    to = _TO.match(rest)
    return None if to is None else (low, read_number(rest[to.end() :])[0])


def plain_number(text: str, *, percent: bool = False) -> str:
    """A number as people type it, written plainly: "4,50", "1,234.50", "€ 4.20"; where it may be a share, "28%" too.

    What is no number comes back as it is. BadQuantity where it can be read in two ways.

    >>> plain_number("4,50"), plain_number("1.234,50"), plain_number("€ 4.20"), plain_number("28 %", percent=True)
    ('4.50', '1234.50', '4.20', '0.28')
    """
    bare = text.strip().strip("€£$ \u00a0\u202f")
    share = _PERCENT.search(bare) if percent else None
    if share is not None:
        bare = bare[: share.start()].strip()
    match = _NUMBER.fullmatch(bare)
    if match is None or (match["decimal"] is None and match["grouped"] is None):
        return text
    if match["grouped"] is None and share is None:
        _value(match, text)
        return bare.replace(",", ".")
    value = _value(match, text) / (100 if share is not None else 1)
    return format(value, "f")


def is_told_two_ways(text: str) -> bool:
    """Whether a number like "1,200" stands in a text, which is 1200 to some and 1.2 to others."""
    return _TWO_WAYS.search(text) is not None


def _value(match: re.Match[str], text: str) -> Decimal:
    part = match.groupdict()
    if part["grouped"] is not None:
        return _ungrouped(part["grouped"])
    if part["decimal"] is not None:
        if _TWO_WAYS.fullmatch(part["decimal"]):
            whole, _, rest = part["decimal"].partition(",")
            english = '"{number}" can be {whole}{rest} or {whole}.{rest}: write it so'
            raise BadQuantity(text, say("told_two_ways", english, number=part["decimal"], whole=whole, rest=rest))
        return Decimal(part["decimal"].replace(",", "."))
    bottom = Decimal(part["bottom"] or part["bottom2"])
    if bottom == 0:
        raise BadQuantity(text, say("fraction_over_0", "a fraction cannot be over 0"))
    top = Decimal(part["top"] or part["top2"])
    whole = Decimal(0) if part["whole"] is None else Decimal(part["whole"])
    return whole + top / bottom


def _ungrouped(text: str) -> Decimal:
    """A number whose thousands are set apart: of two signs the last is the decimal one."""
    signs = [sign for sign in text if sign in ".,"]
    decimal = signs[-1] if signs and signs.count(signs[-1]) == 1 and not (len(set(signs)) == 1 and len(signs) > 1) else ""
    kept = "".join(sign for sign in text if sign.isdecimal() or sign == decimal)
    return Decimal(kept.replace(decimal, ".") if decimal else kept)


def unit_called(name: str) -> str:
    """The canonical unit that a measure gives a weight, by its name; BadQuantity where no quantity could be written in it.

    >>> unit_called("2-inch piece"), unit_called("Bunches"), unit_called("no. 2")
    ('2-inch piece', 'bunch', 'no 2')
    """
    try:
        quantity = parse_quantity(f"1 {name}")
    except BadQuantity:
        quantity = None
    if quantity is None or quantity.amount != 1 or quantity.unit != canonical(name):
        english = 'write what one is, without a number before it: "bunch", "2-inch piece", "no. 2"'
        raise BadQuantity(name, say("no_measure", english))
    return quantity.unit


@lru_cache(maxsize=65536)
def parse_quantity(text: str) -> Quantity:
    """The quantity that a text spells: `2 kg`, `1 1/2 lb`, `1½ cup`, `0.75 l`, `3 bunch`, `1 lb 4 oz`.

    >>> parse_quantity("1 1/2 lb"), parse_quantity("1 lb 4 oz")
    (Quantity(amount=Decimal('1.5'), unit='lb'), Quantity(amount=Decimal('20'), unit='oz'))
    """
    return _quantity(text, *read_range(text))


def _quantity(text: str, amount: Decimal, _written: str, unit: str) -> Quantity:
    if not unit:
        raise BadQuantity(text, say("no_unit", 'it has no unit: write "kg", "l", "each" or the like behind the number'))
    name = canonical(unit)
    # "5 kg 20" says two things, and so does "5 lb 4 oz", which are one.
    if not _UNIT.fullmatch(unit) or _two_numbers(name):
        both = _of_two_units(amount, unit)
        if both is None:
            raise BadQuantity(text)
        return Quantity(*both, text)
    return Quantity(amount, name, text)


def _of_two_units(amount: Decimal, rest: str) -> tuple[Decimal, str] | None:
    """What is told in two units of one kind, the larger first, in the second: 1 lb 4 oz are 20 oz.

    None where it is none, or where how many of one are in the other is not the same wherever a kitchen lies.
    """
    found = _SECOND.fullmatch(rest)
    if found is None:
        return None
    first, second, more = canonical(found["first"]), canonical(found["second"]), Decimal(found["more"].replace(",", "."))
    if kind_of(first) == "count" or kind_of(first) != kind_of(second):
        return None
    tables = [GRAMS] if kind_of(first) == "mass" else list(MILLILITRES.values())
    ratios = {table[first] / table[second] for table in tables if first in table and second in table}
    if len(ratios) != 1 or min(ratios) <= 1 or more >= max(ratios) or max(ratios) != max(ratios).to_integral_value():
        return None
    return amount * ratios.pop() + more, second


def _two_numbers(unit: str) -> bool:
    first, _, rest = unit.partition(" ")
    return kind_of(canonical(first)) != "count" and any(sign.isdecimal() for sign in rest)


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
    inner = _quantity(inner_text, *read_number(inner_text))
    count = Decimal(1)
    for part in outer:
        if not re.fullmatch(r"[0-9]{1,5}", part) or Decimal(part) == 0:
            raise BadQuantity(text, say("no_pack", 'write a pack as "10 kg", "6 x 2.5 kg" or "12 each"'))
        count *= Decimal(part)
    if inner.amount <= 0:
        raise BadQuantity(text, say("empty_pack", "a pack holds more than nothing"))
    return Pack(count, inner.amount, inner.unit, text)
