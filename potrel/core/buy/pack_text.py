"""What a supplier's line of text says of the pack: `LEEKS 5KG CRT` is leeks, 5 kg, in a crate."""

from __future__ import annotations

import re
from decimal import Decimal
from functools import lru_cache

from potrel.core.frozen import dataclass
from potrel.core.kitchen.kinds import plain
from potrel.core.kitchen.quantities import parse_pack
from potrel.core.numbers.units import canonical

# How suppliers write a unit, by the unit that a kitchen knows. Common practice, no source.
_UNITS = {
    "kg": ("kgs", "kg", "kilos", "kilo", "kilogrammes", "kilogramme", "kilograms", "kilogram"),
    "g": ("grams", "gram", "grms", "grm", "gms", "gm", "gr", "g"),
    "lb": ("lbs", "lb", "pounds", "pound"),
    "oz": ("oz", "ounces", "ounce"),
    "l": ("litres", "litre", "liters", "liter", "ltrs", "ltr", "lt", "l"),
    "ml": ("ml", "mls"),
    "cl": ("cl",),
    "gallon": ("gallons", "gallon", "gal"),
    "pint": ("pints", "pint", "pt"),
    "each": ("each", "ea", "pieces", "piece", "pcs", "pc", "ct", "count", "units", "unit", "st", "stk"),
    "bunch": ("bunches", "bunch", "bch", "bnch", "bn"),
    "head": ("heads", "head", "hd"),
}
UNIT_OF = {spelling: unit for unit, spellings in _UNITS.items() for spelling in spellings}
# What things come in says nothing of how much there is. Common practice, no source.
CONTAINERS = frozenset({
    "crt", "crts", "crate", "crates", "ctn", "carton", "cs", "case", "cse", "bx", "box", "boxes", "bag", "bags", "bg", "sack",
    "sacks", "sk", "net", "nets", "tray", "trays", "try", "tub", "tubs", "tin", "tins", "can", "cans", "pkt", "packet", "pk",
    "pack", "packs", "pun", "punnet", "punnets", "btl", "bottle", "bottles", "jar", "jars", "drum", "drm", "bkt", "bucket",
    "bib", "loose", "catering", "cater",
})  # fmt: skip

_NUMBER = r"[0-9]{1,5}(?:[.,][0-9]{1,3})?"
_SIZE = rf"(?P<size>{_NUMBER})\s*(?P<unit>{'|'.join(sorted(UNIT_OF, key=len, reverse=True))})\b\.?"
# Each with what a text has to hold for it to be worth a look: most lines of a long list hold little.
_PATTERNS = tuple(
    (re.compile(hint, re.IGNORECASE), re.compile(pattern, re.IGNORECASE))
    for hint, pattern in (
        # 6 x 2.5kg, 4X6x1L, 6/2.5KG
        (r"[0-9]\s*[x×*/]\s*[0-9]", rf"(?<![\w.,/])(?P<outer>(?:[0-9]{{1,4}}\s*[x×*/]\s*){{1,2}}){_SIZE}"),
        # 2.5kg x 6
        (r"[a-z]\s*[x×*]\s*[0-9]", rf"(?<![\w.,/]){_SIZE}\s*[x×*]\s*(?P<behind>[0-9]{{1,4}})(?![\w.,])"),
        # 5KG
        (r"[0-9]", rf"(?<![\w.,/]){_SIZE}"),
        # 2 dozen, 2 doz
        (r"[0-9]\s*d", r"(?<![\w.,/])(?P<dozens>[0-9]{1,3})\s*(?:dozen|doz|dz)\b\.?"),
        # per kg, /kg, a kilo: one of it
        (r"\bper\b|/|\ba\b", rf"(?:\bper\s+|/\s*|\ba\s+)(?P<per>{'|'.join(sorted(UNIT_OF, key=len, reverse=True))})\b\.?"),
        # CELERIAC EA, PARSLEY BCH: a unit of count at the end, without a number
        (r"[a-z]$", rf"\s(?P<per>{'|'.join((*_UNITS['each'][:7], *_UNITS['bunch'], *_UNITS['head']))})\.?$"),
    )
)
_WORD = re.compile(r"[^\W_]+(?:[.'’%-]+[^\W_]+)*%?")


@dataclass(frozen=True, slots=True)
class PackText:
    """What a line says: the name of the thing, its pack as a kitchen writes it (None where it tells none)."""

    name: str
    pack: str | None


def read_pack(text: str) -> PackText:
    """The name and the pack in a supplier's text. Containers and unit spellings are those of the trade.

    >>> read_pack("LEEKS 5KG CRT")
    PackText(name='LEEKS', pack='5 kg')
    >>> read_pack("Cream 35% UHT 6x1ltr ctn"), read_pack("Garlic peeled 12/454 g")
    (PackText(name='Cream 35% UHT', pack='6 x 1 l'), PackText(name='Garlic peeled', pack='12 x 454 g'))
    """
    for hint, pattern in _PATTERNS:
        if hint.search(text) is None:
            continue
        found = pattern.search(text)
        pack = None if found is None else _pack(found.groupdict())
        if found is not None and pack is not None:
            return PackText(_name(text[: found.start()] + " " + text[found.end() :]), pack)
    return PackText(_name(text), None)


def _pack(part: dict[str, str | None]) -> str | None:
    if part.get("dozens"):
        return f"{12 * int(part['dozens'] or 0)} each" if int(part["dozens"] or 0) else None
    if part.get("per"):
        return f"1 {UNIT_OF[(part['per'] or '').lower()]}"
    amount = Decimal((part["size"] or "0").replace(",", "."))
    counts = [int(count) for count in re.findall(r"[0-9]+", part.get("outer") or part.get("behind") or "")]
    if amount == 0 or 0 in counts:
        return None
    return " x ".join([*map(str, counts), f"{plain(amount)} {UNIT_OF[(part['unit'] or '').lower()]}"])


def _name(text: str) -> str:
    words = [word for word in _WORD.findall(text) if word.lower() not in CONTAINERS]
    return " ".join(words)


@lru_cache(maxsize=4096)
def understood_pack(pack: str, unit: str = "", size: str = "") -> str | None:
    """The pack that the columns of a list tell: a pack as text, or a count with the size and unit of one; None where unclear.

    >>> understood_pack("6x2.5KG"), understood_pack("10", "KG"), understood_pack("6", "l", "1"), understood_pack("crate")
    ('6 x 2.5 kg', '10 kg', '6 x 1 l', None)
    """
    pack, unit, size = pack.strip(), unit.strip(), size.strip()
    if not (pack or unit):
        return None
    known = UNIT_OF.get(unit.lower(), "" if unit.lower() in CONTAINERS else canonical(unit) if unit else "")
    if pack and re.fullmatch(_NUMBER, pack) and known:
        inner = f"{size} {known}" if size else f"{pack} {known}"
        return _plain_pack(f"{pack} x {inner}" if size else inner)
    if not pack and known:
        return _plain_pack(f"{size or 1} {known}")
    if pack and size and known and re.fullmatch(_NUMBER, size):
        return _plain_pack(f"{size} {known}")
    return read_pack(pack).pack or _own_words(pack)


def _own_words(pack: str) -> str | None:
    """A pack that is written as a kitchen writes it, in units of its own: "10 punnet"."""
    found = re.fullmatch(rf"((?:[0-9]{{1,4}}\s*[x×*]\s*)*)({_NUMBER})\s+([a-zA-Z][a-zA-Z ]{{1,30}})", pack)
    return None if found is None else _plain_pack(pack)


def _plain_pack(text: str) -> str | None:
    try:
        pack = parse_pack(text.replace(",", "."))
    except ValueError:
        return None
    inner = f"{plain(pack.amount)} {pack.unit}"
    return inner if pack.count == 1 else f"{plain(pack.count)} x {inner}"
