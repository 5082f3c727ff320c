"""What a supplier's line of text says of the pack: `LEEKS 5KG CRT` is leeks, 5 kg, in a crate."""

from __future__ import annotations

import re
from collections.abc import Iterable
from dataclasses import field
from decimal import Decimal
from functools import lru_cache

from potrel.core.frozen import dataclass
from potrel.core.kitchen.kinds import plain
from potrel.core.kitchen.quantities import parse_pack
from potrel.core.numbers.rounding import half_even
from potrel.core.numbers.units import GRAMS, canonical, kind_of
from potrel.core.tables import table


def _words(means: str) -> tuple[str, ...]:
    return tuple(word for row in table("pack_words.csv") if row["means"] == means for word in row["words"].split(";"))


# How suppliers write a unit, by the unit that a kitchen knows, in their languages. Common practice, no source.
UNIT_OF = {
    word: row["means"] for row in table("pack_words.csv") if row["means"] != "container" for word in row["words"].split(";")
}
# What things come in says nothing of how much there is. Left out is what is food as well in some language: filet, pak choi,
# latte.
CONTAINERS = frozenset(_words("container"))
# What stands between a container and how many are in it: a case of 12, caisse de 12, Kiste à 12.
_OF = "of|de|d|da|di|à|a|mit|zu|je|van|po|com|con|per"


def _any_of(words: Iterable[str]) -> str:
    """A pattern of any of some words, the longest first; by their first letter, since most words begin with another."""
    by_letter: dict[str, list[str]] = {}
    for word in sorted(words, key=len, reverse=True):
        by_letter.setdefault(word[0], []).append(re.escape(word[1:]))
    return "|".join(f"{letter}(?:{'|'.join(rest)})" for letter, rest in by_letter.items())


_NUMBER = r"[0-9]{1,5}(?:[.,][0-9]{1,3})?"
_UNIT = _any_of(UNIT_OF)
_HOLDS = _any_of(CONTAINERS)
_DOZEN = "dozen|doz|dz|dutzend|dtz|douzaines?|docenas?|dozzin[ae]|tuzin[ay]?|dúzias?|dussin"
# "5 kg", "5KG", and "5-kg-Beutel".
_SIZE = rf"(?P<size>{_NUMBER}|[.,][0-9]{{1,3}})(?:\s*|-)(?P<unit>{_UNIT})\b\.?"
# 1/2, 1-1/9, 1 1/2
_PART = r"(?:[0-9]{1,3}[ -])?[1-9]/(?:[2-9]|1[0-6])"
# The middle of what is packed by the piece and weighed at the till: 10-12 lb.
_FROM_TO = rf"(?P<low>{_NUMBER})\s*[-–]\s*(?P<size>{_NUMBER})\s*(?P<unit>{_UNIT})\b\.?"
# In small letters, each with what a text has to hold for it to be worth a look: most lines of a long list hold little.
_HINTED = (
    # 6/#10, 6-#10, 6 x no. 10: cans of that size; but spaghetti has a no. 10 too, so that alone says nothing
    (r"[x×*/-]\s*(?:#|no\.?)\s?10\b", r"(?<![\w.,/])(?P<cans>[0-9]{1,3})\s*[x×*/-]\s*(?:#|no\.?)\s?10\b(?:\s*cans?\b)?"),
    # 6 #10 cans, #10 can
    (r"(?:#|no\.?)\s?10\s*can", r"(?<![\w.,/])(?:(?P<cans>[0-9]{1,3})\s*)?(?:#|\bno\.?)\s?10\s*cans?\b"),
    # 1-1/9 BU, 1/2 bushel, 1 BU
    (r"[0-9]\s*bu", rf"(?<![\w.,/])(?P<bushels>{_PART}|{_NUMBER})\s*(?:bu|bushels?)\b\.?"),
    # 6/1/2 GAL: six of a half
    (r"[0-9]/[1-9]/[0-9]", rf"(?<![\w.,/])(?P<outer>[0-9]{{1,4}}\s*/\s*)(?P<part>[1-9]/[248])\s*(?P<unit>{_UNIT})\b\.?"),
    # 2/10-12 LB: two that weigh so much
    (r"[x×*/]\s*[0-9.,]+\s*[-–]\s*[0-9]", rf"(?<![\w.,/])(?P<outer>[0-9]{{1,4}}\s*[x×*/]\s*){_FROM_TO}"),
    # 4-1 GAL: four of one; but 1-2 gal is from one to two
    (r"[0-9]-1\s*[^\W\d]", rf"(?<![\w.,/])(?P<outer>(?:[2-9]|[1-9][0-9])-)(?P<size>1)\s*(?P<unit>{_UNIT})\b\.?"),
    # 6/5#: pounds each
    (r"[x×*/]\s*[0-9.,]+\s?#", rf"(?<![\w.,/])(?P<outer>[0-9]{{1,4}}\s*[x×*/]\s*)(?P<pounds>{_NUMBER})\s?#(?!\w)"),
    # 1.4-1.6kg: what is weighed at the till; nobody knows before.
    (r"[0-9]\s*[-–]\s*[0-9]", rf"(?<![\w.,/])(?P<catch>{_NUMBER}\s*[-–]\s*{_SIZE})"),
    # 6 x 2.5kg, 4X6x1L, 6/2.5KG, 6er-Pack 1,5 l
    (r"[0-9]\s*[x×*/]\s*[0-9.,]", rf"(?<![\w.,/])(?P<outer>(?:[0-9]{{1,4}}\s*[x×*/]\s*){{1,2}}){_SIZE}"),
    (r"[0-9]er", rf"(?<![\w.,/])(?P<outer>[0-9]{{1,3}})er(?:[- ]?(?:{_HOLDS}))?\s+(?:à\s+)?{_SIZE}"),
    # 70 CT 50 LB: so many in a box that weighs so much
    (
        r"[0-9]\s*(?:ct|count)",
        rf"(?<![\w.,/])(?P<among>[0-9]{{1,4}})\s*(?:ct|count)\s*[,/-]?\s*(?P<weight>{_NUMBER})\s*(?P<of>lbs?|kgs?|oz|g)\b",
    ),
    # 50#: pounds; but #10 is the size of a can
    (r"[0-9]\s?#", rf"(?<![\w.,/#])(?P<pounds>{_NUMBER})\s?#(?!\w)"),
    # 2.5kg x 6
    (r"[a-z]\s*[x×*]\s*[0-9]", rf"(?<![\w.,/]){_SIZE}\s*[x×*]\s*(?P<behind>[0-9]{{1,4}})(?![\w.,])"),
    # 5KG
    (r"[0-9][\s-]*[^\W\d]", rf"(?<![\w.,/]){_SIZE}"),
    # 2 dozen, 2 doz, 2 docenas, 2,5 Dutzend, 1/2 dz
    (
        r"[0-9½]\s*[dt]",
        rf"(?<![\w.,/])(?P<outer>(?!1/2\b)[0-9]{{1,4}}\s*[x×*/]\s*)?(?P<dozens>1/2|½|[0-9]{{1,3}}(?:[.,]5)?)\s*(?:{_DOZEN})\b\.?",
    ),
    # DZ: one of it
    (r"\bdo?z", r"(?:^|(?<![0-9])\s)(?P<dozens>)(?:dozen|doz|dz)\.?$"),
    # case of 12, caisse de 12; 8er; x30 at the end
    (rf"\b(?:{_OF})\s*[0-9]", rf"\b(?:{_HOLDS})\s+(?:{_OF})\s*(?P<pieces>[0-9]{{1,4}})(?![\w.,/]|\s*[x×*])"),
    (r"[0-9]er", r"(?<![\w.,/])(?P<pieces>[0-9]{1,3})er\b"),
    (r"x\s?[0-9]", r"(?<!\w)x\s?(?P<pieces>[0-9]{1,4})$"),
    # per kg, /kg, a kilo: one of it
    (r"\bper\b|/|\ba\b", rf"(?:\bper\s+|/\s*|\ba\s+)(?P<per>{_UNIT})\b\.?"),
    # CELERIAC EA, PARSLEY BCH: a unit of count at the end, without a number
    (r"[a-z]$", rf"(?:^|\s)(?P<per>{'|'.join((*_words('each')[:7], *_words('bunch'), *_words('head')))})\.?$"),
)
_WEIGHS = re.compile(_FROM_TO)
_ALONE_10 = re.compile(r"#\s?10")
_PATTERNS = tuple((re.compile(hint), re.compile(pattern)) for hint, pattern in _HINTED)
# What only few lines hold stands before the bare size that most do: where one look finds none of this, none of it is there.
_FEW = 13
_ANY_OF_FEW = re.compile(
    r"[0-9]\s*(?:[-–x×*/]\s*[0-9.,]|er|ct|co|bu|[x×*/-]?\s*#|[x×*/-]?\s*no)|[x×*]\s*[0-9]|(?:#|no\.?)\s?10\b"
)
# What is parted finer than that is no part of one: 1/50 lb is one of fifty pounds.
_SMALLEST_PART = 16
# The large can of catering: its size, and a unit of its own.
CAN_10 = "no 10 can"
# A box of produce of 5 kg and more, of pieces of 60 g to 2 kg. Common practice, no source.
_LIGHTEST_BOX, _PIECE = Decimal(5000), (Decimal(60), Decimal(2000))
_WORD = re.compile(r"[^\W_]+(?:[.'’%-]+[^\W_]+)*%?")


@dataclass(frozen=True, slots=True)
class PackText:
    """What a line says: the name of the thing, its pack as a kitchen writes it (None where it tells none).

    `is_middle` tells that it is of pieces which weigh from so much to so much: the pack is the middle of that.
    """

    name: str
    pack: str | None
    is_middle: bool = field(default=False, repr=False)


def read_pack(text: str) -> PackText:
    """The name and the pack in a supplier's text. Containers and unit spellings are those of the trade.

    >>> read_pack("LEEKS 5KG CRT")
    PackText(name='LEEKS', pack='5 kg')
    >>> read_pack("Cream 35% UHT 6x1ltr ctn"), read_pack("Garlic peeled 12/454 g")
    (PackText(name='Cream 35% UHT', pack='6 x 1 l'), PackText(name='Garlic peeled', pack='12 x 454 g'))
    """
    small = text.lower()
    if len(small) != len(text):
        # A letter that is two when it is small stays: what is found in the one text lies at the same places in the other.
        small = "".join(one.lower() if len(one.lower()) == 1 else one for one in text)
    for hint, pattern in _PATTERNS if _ANY_OF_FEW.search(small) else _PATTERNS[_FEW:]:
        if hint.search(small) is None:
            continue
        found = pattern.search(small)
        if found is None:
            continue
        rest = text[: found.start()] + " " + text[found.end() :]
        if "catch" in pattern.groupindex:
            # A grade (60-80 g) beside a pack, or the pack itself, of which nobody knows the weight before.
            return read_pack(rest)
        pack = _pack(found.groupdict())
        if pack is not None or "among" in pattern.groupindex:
            return PackText(_name(rest), pack, "low" in pattern.groupindex)
        if _is_a_part(found.groupdict()):
            return PackText(_name(rest), None)
    return PackText(_name(text), None)


def _pack(part: dict[str, str | None]) -> str | None:
    if part.get("among"):
        return _box(int(part["among"] or 0), Decimal((part["weight"] or "0").replace(",", ".")), part["of"] or "")
    if "cans" in part:
        cans = int(part["cans"] or 1)
        return f"{cans} {CAN_10}" if cans else None
    if part.get("bushels"):
        return f"{plain(_fraction(part['bushels'] or ''))} bushel"
    if part.get("part"):
        return _sized(plain(_fraction(part["part"] or "")), UNIT_OF[part["unit"] or ""], part["outer"] or "")
    if part.get("low"):
        low, high = (Decimal((part[end] or "").replace(",", ".")) for end in ("low", "size"))
        return _sized(plain((low + high) / 2), UNIT_OF[part["unit"] or ""], part.get("outer") or "") if low < high else None
    if part.get("pounds"):
        return _sized(part["pounds"] or "", "lb", part.get("outer") or "")
    if part.get("pieces"):
        return f"{int(part['pieces'] or 0)} each" if int(part["pieces"] or 0) else None
    if part.get("dozens") is not None:
        pieces = 12 * _fraction((part["dozens"] or "1").replace(",", ".").replace("½", "1/2"))
        return _sized(plain(pieces), "each", part.get("outer") or "") if pieces else None
    if part.get("per"):
        return f"1 {UNIT_OF[part['per'] or '']}"
    if _is_a_part(part):
        return None
    return _sized(part["size"] or "0", UNIT_OF[part["unit"] or ""], part.get("outer") or part.get("behind") or "")


def _is_a_part(part: dict[str, str | None]) -> bool:
    """Whether "1/4 lb" stands there alone: one of four pounds, or a quarter of a pound."""
    outer, size = part.get("outer") or "", part.get("size") or ""
    return "low" not in part and outer.replace(" ", "") == "1/" and size.isdigit() and 1 < int(size) <= _SMALLEST_PART


def _fraction(text: str) -> Decimal:
    """A number that may be a part of one, to a ten-thousandth: 1-1/9, 1/2, 2.5."""
    whole, _, rest = text.replace("-", " ").rpartition(" ")
    top, _, bottom = rest.partition("/")
    value = Decimal(top.replace(",", ".")) / Decimal(bottom or 1) + Decimal(whole.strip() or 0)
    return half_even(value, 4)


@lru_cache(maxsize=4096)
def _sized(size: str, unit: str, times: str) -> str | None:
    """So many times a size of a unit; None where it is nothing."""
    amount = _amount(size, unit)
    counts = [int(count) for count in re.findall(r"[0-9]+", times)]
    if amount == 0 or 0 in counts:
        return None
    return " x ".join([*map(str, counts), f"{plain(amount)} {unit}"])


def _amount(text: str, unit: str) -> Decimal:
    """The amount of a size. Of grams and millilitres three digits behind a mark are thousands: nobody packs 1.000 of a gram."""
    if unit in ("g", "ml") and re.fullmatch(r"[0-9]{1,3}[.,][0-9]{3}", text):
        return Decimal(re.sub(r"[.,]", "", text))
    return Decimal(f"0{text}".replace(",", "."))


def _box(count: int, weight: Decimal, unit: str) -> str | None:
    """A box of so many that weighs so much: of produce all together; where it may be each of them, nobody knows."""
    unit = UNIT_OF[unit]
    grams = weight * GRAMS[unit]
    if count == 0 or grams < _LIGHTEST_BOX or not _PIECE[0] <= grams / count <= _PIECE[1]:
        return None
    return f"{plain(weight)} {unit}"


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
    if _ALONE_10.fullmatch(pack):
        # In a column of packs it is nothing else.
        return f"1 {CAN_10}"
    weighs = _WEIGHS.fullmatch(pack.lower())
    return read_pack(pack).pack or (_own_words(pack) if weighs is None else _pack(weighs.groupdict()))


def is_middle(pack: str) -> bool:
    """Whether a pack as text tells from where to where it weighs, so that its middle is what is taken.

    >>> is_middle("2/10-12 LB"), is_middle("10-12 LB"), is_middle("6/5 LB")
    (True, True, False)
    """
    # Most cells have no such sign: they are not looked through.
    return ("-" in pack or "–" in pack) and (_WEIGHS.fullmatch(pack.strip().lower()) is not None or read_pack(pack).is_middle)


_AVERAGE = re.compile(r"\s*\b(?:avg|average|approx|ca)\b\.?(?:\s*(?:wt|weight)\b\.?)?\s*$", re.IGNORECASE)
_PART_OF_ONE = re.compile(r"(?:[0-9]{1,3}[ -])?[1-7]/[248](?=\s*[a-z])", re.IGNORECASE)


def plain_size(size: str) -> str:
    """The size of one as figures: what is sold by its weight has an average, and half a gallon is no two.

    >>> plain_size("20 LB AVG"), plain_size("1/2 GAL"), plain_size("1-1/4 LB"), plain_size(".5 GAL")
    ('20 LB', '0.5 GAL', '1.25 LB', '0.5 GAL')
    """
    text = _AVERAGE.sub("", size.strip())
    part = _PART_OF_ONE.match(text)
    if part is not None:
        text = plain(_fraction(part[0])) + text[part.end() :]
    return f"0{text}" if re.match(r"[.,][0-9]", text) else text


def _own_words(pack: str) -> str | None:
    """A pack that is written as a kitchen writes it, in units of its own: "10 punnet"."""
    found = re.fullmatch(rf"((?:[0-9]{{1,4}}\s*[x×*]\s*)*)({_NUMBER})\s+([a-zA-Z][a-zA-Z ]{{1,30}})", pack)
    if found is None or (found[3].lower() in CONTAINERS and Decimal(found[2].replace(",", ".")) == 1 and not found[1]):
        # "1 CS": a case of nobody knows how many.
        return None
    return _plain_pack(pack)


def _plain_pack(text: str) -> str | None:
    try:
        pack = parse_pack(text.replace(",", "."))
    except ValueError:
        return None
    inner = f"{plain(pack.amount)} {pack.unit}"
    return inner if pack.count == 1 else f"{plain(pack.count)} x {inner}"


def times(count: str, inner: str) -> str | None:
    """So many of a pack that is understood.

    >>> times("6", "1 no 10 can"), times("2", "11 lb"), times("4", "6 x 1 l")
    ('6 no 10 can', '2 x 11 lb', '24 x 1 l')
    """
    one = re.fullmatch(r"1 (?P<unit>[^0-9].*)", inner)
    if one is not None and kind_of(one["unit"]) == "count":
        return _plain_pack(f"{count} {one['unit']}")
    return _plain_pack(f"{count} x {inner}")


_PER = re.compile(
    rf"^(?P<price>.*?)\s*(?:/|\b(?:per|pro|je|par|le|au|al|por|za|à)\b)\s*(?P<pack>(?:{_NUMBER}\s*)?(?:{_UNIT}))\.?\s*$",
    re.IGNORECASE,
)


def price_and_per(text: str) -> tuple[str, str | None]:
    """What is written before "per kg", and the pack that this is; None where a text says no such thing.

    >>> price_and_per("9,95 €/kg"), price_and_per("1,15 €/St"), price_and_per("2.40 per 100 g"), price_and_per("3.20")
    (('9,95 €', '1 kg'), ('1,15 €', '1 each'), ('2.40', '100 g'), ('3.20', None))
    """
    # What ends in a figure is a price alone, as most cells of a list are.
    found = None if text[-1:].isdigit() else _PER.match(text.strip())
    if found is None:
        return text, None
    said = found["pack"]
    pack = understood_pack(said) if said[0].isdigit() else understood_pack("", said)
    return (text, None) if pack is None else (found["price"].strip(), pack)
