"""The amount of a line as cooks write it: before the name or behind it, in figures or words, with a range or a second unit."""

from __future__ import annotations

import re
from collections.abc import Collection, Sequence
from contextlib import suppress
from dataclasses import replace
from decimal import Decimal

from potrel.core.errors import BadQuantity, PotrelError
from potrel.core.frozen import dataclass
from potrel.core.kitchen.kinds import plain
from potrel.core.kitchen.naming import number_words, split_words
from potrel.core.kitchen.quantities import parse_quantity, read_range
from potrel.core.numbers.rounding import half_even
from potrel.core.numbers.units import GRAMS, MILLILITRES, MeasureSystem, canonical, is_known_count, kind_of
from potrel.core.sentences import say
from potrel.core.words.spoken import plainly

BULLET = re.compile(r"^(?:[-–—•*·▢□☐]|\[[ x]?\])\s*")
_IN_BRACKETS = re.compile(r"\(([^()]*)\)")
_BEHIND = re.compile(
    r"^(?P<name>.*?[^\W\d_])[\s,:;–—-]*(?:[x×]\s*)?(?P<amount>[0-9½¼¾⅓⅔⅛][0-9.,/\s½¼¾⅓⅔⅛–-]*)\s*(?P<unit>[^\W\d_]*)\.?$",
    re.UNICODE,
)
_TINS = re.compile(
    r"^(?:[x×*]\s*)?(?P<amount>[0-9]+(?:[.,][0-9]+)?)\s*-?\s*(?P<unit>kg|g|ml|cl|l|oz|lb)\b\s*-?\s*"
    r"(?P<box>tin|can|jar|carton|packet|pack|bag|bottle|tub)s?\b\s*(?:of\b)?",
    re.IGNORECASE,
)
_ONE_TIN = re.compile(
    r"^(?P<unit>kg|g|ml|cl|l|oz|lb)\b\s*-?\s*(?P<box>tin|can|jar|carton|packet|pack|bag|bottle|tub)s?\b\s*(?:of\b)?",
    re.IGNORECASE,
)
# A weight beside a count: "(5 lb)", "(about 3-1/4 lb each)", "(2 kg in all)".
_WEIGHS = re.compile(
    r"^(?:about|approx(?:imately)?\.?|roughly|ca\.?|circa|~|at)?\s*"
    r"(?P<weight>[0-9½¼¾⅓⅔⅛][0-9.,/ ½¼¾⅓⅔⅛-]*?(?:\s*(?:-|–|to)\s*[0-9.,/]+)?)[\s-]*"
    r"(?P<unit>kg|kilos?|g|grams?|lbs?|pounds?|oz|ounces?)\b\.?\s*"
    r"(?P<how>each|apiece|a piece|total|in all|in total|together)?$",
    re.IGNORECASE,
)
# What is counted in these is canned, whether its name says so or not.
CANS = frozenset({"tin", "can"})
_EACH = frozenset({"each", "apiece", "a piece"})
_BOXES = CANS | frozenset({"jar", "carton", "packet", "pack", "bag", "bottle", "tub"})
# "1 2-lb chicken". Without the hyphen it may be thousands: "2 500 g" is asked about.
_SO_HEAVY = re.compile(
    r"^(?P<n>[0-9]{1,3})\s+(?P<weight>[0-9]{1,4}(?:[.,][0-9]{1,3}|-[0-9]/[0-9])?)-(?P<unit>kg|g|lbs?|pounds?|oz|ounces?)\b\.?\s*"
    r"(?P<name>[^\W\d_].*)$",
    re.IGNORECASE,
)
_LONGEST_UNIT = 3


@dataclass(frozen=True, slots=True)
class TypedAmount:
    """An amount with the unit that goes with it, the words that are left, and what stood in brackets.

    `amount` is None where none was written, `unit` where no word says one.
    """

    amount: Decimal | None
    written: str
    unit: str | None
    words: tuple[str, ...]
    aside: str | None


def read_amount(text: str, own_units: Collection[str], system: MeasureSystem) -> TypedAmount:
    """The amount of a typed line; BadQuantity where it can be read in two ways. `own_units` are what the kitchen counts by."""
    bare, said = plainly(BULLET.sub("", text.strip()))
    brackets = [part.strip() for part in _IN_BRACKETS.findall(bare) if part.strip()]
    at_once = re.match(r"^[0-9½¼¾⅓⅔⅛ /]+\(", bare) is not None
    aside = ", ".join(filter(None, (said, *brackets))) or None
    bare = " ".join(_IN_BRACKETS.sub(" ", bare).split()) if aside and not _TINS.match(_after_number(bare)) else bare
    found = _before(bare) or _behind(bare, own_units)
    if found is None:
        return TypedAmount(None, "", None, tuple(split_words(bare)), aside)
    amount, written, rest = found
    boxed = _boxed(amount, written, rest) or _so_heavy(bare)
    if boxed is not None:
        return boxed
    unit, words = _own_unit(rest, own_units) or _take_unit(tuple(split_words(rest)), own_units)
    second = None if unit is None else _take_second(amount, written, unit, words, own_units, system)
    if second is not None:
        amount, written, unit, words = second
    weighed = _weighed(text, TypedAmount(amount, written, unit, words, aside), brackets, at_once=at_once)
    return weighed or TypedAmount(amount, written, unit, words, aside)


def _so_heavy(text: str) -> TypedAmount | None:
    """So many of so much each, one number behind the other: "1 2-lb chicken"."""
    found = _SO_HEAVY.match(text)
    if found is None:
        return None
    count, unit = Decimal(found["n"]), canonical(found["unit"])
    total = _times(found["weight"], count)
    aside = f"{found['n']} of {found['weight']} {unit}"
    return TypedAmount(read_range(total)[0], total, unit, tuple(split_words(found["name"])), aside)


def _weighed(text: str, typed: TypedAmount, brackets: Sequence[str], *, at_once: bool) -> TypedAmount | None:
    """A count whose weight stands in brackets, of each or of all; PotrelError where nothing says which."""
    if typed.amount is None or (typed.unit is not None and kind_of(typed.unit) != "count"):
        return None
    found = next((match for one in brackets if (match := _WEIGHS.match(one)) is not None), None)
    if found is None:
        return None
    how, unit = (found["how"] or "").lower(), canonical(found["unit"])
    is_each = how in _EACH or (not how and (at_once or typed.unit in _BOXES))
    if not how and not is_each and typed.amount != 1:
        told = f"{found['weight']} {unit}"
        english = '"{text}": {weight} each, or all together? Write "{weight} each" or "{weight} in all" in the brackets'
        raise PotrelError(say("each_or_in_all", english, text=text.strip(), weight=told))
    total = _times(found["weight"], typed.amount) if is_each else _times(found["weight"], Decimal(1))
    words = (*typed.words, "canned") if typed.unit in CANS else typed.words
    aside = f"{typed.written} {typed.unit or 'each'} ({', '.join(brackets)})"
    return replace(typed, amount=read_range(total)[0], written=total, unit=unit, words=words, aside=aside)


def _times(weight: str, count: Decimal) -> str:
    """So many times a weight as it is written, a range of it too."""
    ends = re.split(r"\s*(?:–|\bto\b)\s*|(?<=[0-9])\s+-\s+(?=[0-9])|(?<=[0-9])-(?=[0-9]+(?![0-9/]))", weight.strip())
    return " to ".join(plain(read_range(end)[0] * count) for end in ends)


def _boxed(amount: Decimal, written: str, rest: str) -> TypedAmount | None:
    """So many tins (or other boxes) of so much each: "2 x 400 g tins", "2 (14 oz) cans", "400 g tin"."""
    plainly = rest.replace("(", "").replace(")", "")
    match = _TINS.match(plainly)
    one = None if match is not None else _ONE_TIN.match(plainly)
    found = match or one
    if found is None:
        return None
    each = written if match is None else match["amount"]
    total = amount if match is None else amount * Decimal(each.replace(",", "."))
    count = "1" if match is None else written
    box, unit = found["box"].lower(), found["unit"].lower()
    words = tuple(split_words(plainly[found.end() :]))
    # What comes in a tin is canned, whether the line says so or not.
    if box in CANS:
        words = (*words, "canned")
    return TypedAmount(total, plain(total), unit, words, f"{count} {box} of {each} {unit}")


def _after_number(text: str) -> str:
    try:
        return read_range(text)[2].replace("(", "").replace(")", "")
    except BadQuantity:
        return ""


def _before(text: str) -> tuple[Decimal, str, str] | None:
    """An amount at the start, in figures or in words: "2 dozen rolls", "half a large onion", "a bunch of parsley"."""
    try:
        amount, written, rest = read_range(text)
    except BadQuantity:
        if re.match(r"\s*[0-9½¼¾⅓⅔⅛.,-]", text):
            raise
        amount, written, rest = Decimal(1), "", text
    words = rest.split()
    taken = 0
    for word in words:
        number = number_words().get(word.lower())
        # Behind a number only "dozen" is one more: "2 half onions" is not one onion.
        if number is None or (written and not taken and word.lower() != "dozen"):
            break
        amount, taken = amount * Decimal(number), taken + 1
    if taken:
        return amount, plain(amount), " ".join(words[taken:])
    return (amount, written, rest) if written else None


def _behind(text: str, own_units: Collection[str]) -> tuple[Decimal, str, str] | None:
    """An amount behind the name: "Carrots 2 kg", "Onions: 3"."""
    match = _BEHIND.match(text)
    if match is None:
        return None
    unit = canonical(match["unit"])
    if unit and kind_of(unit) == "count" and unit not in own_units and not is_known_count(unit):
        return None
    amount, written, rest = read_range(match["amount"].strip())
    return None if rest else (amount, written, f"{match['unit']} {match['name']}")


def _own_unit(rest: str, own_units: Collection[str]) -> tuple[str, tuple[str, ...]] | None:
    """A unit that only this kitchen has, with signs or numbers in it: "2-inch piece", "no. 2"."""
    words = rest.split()
    for length in range(min(_LONGEST_UNIT, len(words) - 1), 0, -1):
        unit = canonical(" ".join(words[:length]))
        if unit in own_units and not unit.replace(" ", "").isalpha():
            return unit, tuple(split_words(" ".join(words[length:])))
    return None


def _take_unit(words: tuple[str, ...], own_units: Collection[str]) -> tuple[str | None, tuple[str, ...]]:
    """The longest run of words at the start that is a unit, and the rest; None where there is none."""
    for length in range(min(_LONGEST_UNIT, len(words)), 0, -1):
        unit = canonical(" ".join(words[:length]))
        # The last words left are the name, unless they can only be a unit: "2 cloves" are a spice, "3 kg" are nothing.
        counts = length < len(words) and (unit in own_units or (length == 1 and is_known_count(unit)))
        if kind_of(unit) != "count" or counts:
            return unit, words[length:]
    return None, words


def _take_second(
    amount: Decimal, written: str, unit: str, words: tuple[str, ...], own_units: Collection[str], system: MeasureSystem
) -> tuple[Decimal, str, str, tuple[str, ...]] | None:
    """The amount with a second one added, as in "1 lb 4 oz", where the words go on with a number and a unit of that kind.

    It stays as it was typed where a quantity can say both. Else it is told in the second unit where that is exact, or in
    grams or millilitres, to a billionth.
    """
    if len(words) < 2 or kind_of(unit) == "count":
        return None
    number = re.fullmatch(r"([0-9]{1,6})([^\W\d_]*)", words[0])
    if number is None:
        return None
    second, left = _take_unit((number[2], *words[1:]) if number[2] else words[1:], own_units)
    if second is None or kind_of(second) != kind_of(unit):
        return None
    both = f"{written} {unit} {number[1]}"
    with suppress(BadQuantity):
        return parse_quantity(f"{both} {second}").amount, both, second, left
    sizes, base = (GRAMS, "g") if kind_of(unit) == "mass" else (MILLILITRES[system], "ml")
    total = amount * sizes[unit] + Decimal(number[1]) * sizes[second]
    in_second = total / sizes[second]
    if in_second == half_even(in_second, 6):
        return in_second, plain(in_second), second, left
    in_base = half_even(total, 9)
    return in_base, plain(in_base), base, left
