"""Amounts as cooks say and write them, put into the words of a quantity: "2 T.", "5#", "a third of a cup", "a few".

What is only about so much stays told: a range where the word is a loose number, a note where it is about the measure.
"""

from __future__ import annotations

import re
from typing import NamedTuple

_NUMBER = r"(?:[0-9]+(?:[.,][0-9]+)?(?:[ -][0-9]+/[0-9]+|/[0-9]+)?\s*[½¼¾⅓⅔⅛⅜⅝⅞]?|[½¼¾⅓⅔⅛⅜⅝⅞])"
# What stands before an amount and makes it loose.
_ABOUT = re.compile(
    r"^(?:about|roughly|around|approx(?:imately)?\.?|ca\.?|circa|some|nearly|almost)\s+(?=[0-9½¼¾⅓⅔⅛⅜⅝⅞]|an?\b|half\b)", re.I
)
# What stands between an amount and its measure.
_HOW_FULL = re.compile(
    rf"^(?P<n>{_NUMBER}|an?)\s+(?P<how>heap(?:ed|ing)|scant|generous|level|rounded|good|big|packed)\s+(?!pinch)(?=[^\W\d_])",
    re.IGNORECASE,
)
# Short for a unit; which case the letter has tells a tablespoon from a teaspoon. A T-bone is neither.
_SHORT: tuple[tuple[re.Pattern[str], str], ...] = (
    (re.compile(r"^(?:T|Tb|Tbl|TBL|Tbs|tbl|tbls|tblsp)\b(?!-)\.?\s*"), "tbsp "),
    (re.compile(r"^t\b(?!-)\.?\s*(?!of\b)"), "tsp "),
    (re.compile(r"^c\.? ?[àa]\.? ?s(?:oupe)?\b(?!-)\.?\s*", re.I), "tbsp "),
    (re.compile(r"^c\.? ?[àa]\.? ?c(?:afé)?\b(?!-)\.?\s*", re.I), "tsp "),
    (re.compile(r"^(?:cdas?|EL|Essl[öo]ffel)\b(?!-)\.?\s*", re.I), "tbsp "),
    (re.compile(r"^(?:cdtas?|cditas?|TL|Teel[öo]ffel)\b(?!-)\.?\s*", re.I), "tsp "),
    (re.compile(r"^[cC]\b(?!-)\.?\s*"), "cup "),
    (re.compile(r"^#(?!\s*[0-9])\s*"), "lb "),
    (re.compile(r"^(?:lg|lrg|lge)\b(?!-)\.?\s*", re.I), "large "),
    (re.compile(r"^(?:med|md)\b(?!-)\.?\s*", re.I), "medium "),
    (re.compile(r"^sm\b(?!-)\.?\s*", re.I), "small "),
)
_FRACTIONS = {"half": "2", "third": "3", "quarter": "4", "fourth": "4", "eighth": "8"}
_TOPS = {"a": "1", "an": "1", "one": "1", "two": "2", "three": "3", "half": "1"}
# "A third of a cup of cream", "three quarters of a litre", "half a cup".
_PART = re.compile(
    r"^(?:(?P<top>an?|one|two|three)\s+)?(?P<bottom>half|thirds?|quarters?|fourths?|eighths?)\s+(?:of\s+)?an?\s+(?=[^\W\d_])",
    re.I,
)
_AND_A_HALF = re.compile(r"^(?P<n>an?|one|[0-9]{1,3})\s+(?P<unit>[^\W\d_]+)\s+and\s+a\s+half\b", re.I)
_PLUS = re.compile(rf"^(?P<first>{_NUMBER}\s*[^\W\d_]+)\s+(?:plus|and)\s+(?=[0-9]+\s*[^\W\d_]+\s)", re.I)
# Loose numbers, as a range that they stand for. Common practice, no source.
_LOOSE = (
    (re.compile(r"^(?:a\s+few|few)\s+(?:of\s+)?", re.I), "2 to 4", "a few"),
    (re.compile(r"^several\s+(?:of\s+)?", re.I), "3 to 6", "several"),
)
_JUICE_OF = re.compile(r"^(?:the\s+)?(?P<part>juice|zest)\s+of\s+(?P<rest>.+)$", re.I)
_PREPARED = {"juice": "juiced", "zest": "zested"}


class Spoken(NamedTuple):
    """A text in the words of a quantity, and what was said of how loose its amount is; "" where nothing was."""

    text: str
    aside: str


def plainly(text: str) -> Spoken:
    """A typed line with its amount put plainly.

    >>> plainly("2 T butter").text, plainly("1 t. salt").text, plainly("5# onions").text
    ('2 tbsp butter', '1 tsp salt', '5 lb onions')
    >>> plainly("a third of a cup of cream").text, plainly("a quart and a half of water").text
    ('1/3 cup of cream', '1 1/2 quart of water')
    >>> plainly("about 2 kg leeks"), plainly("several leeks").text
    (Spoken(text='2 kg leeks', aside='about'), '3 to 6 leeks')
    """
    asides: list[str] = []
    about = _ABOUT.match(text)
    if about is not None:
        asides.append(about[0].strip().lower())
        text = text[about.end() :]
    for loose, figures, told in _LOOSE:
        found = loose.match(text)
        if found is not None:
            text, asides = f"{figures} {text[found.end() :]}", [*asides, told]
    of = _JUICE_OF.match(text)
    if of is not None:
        text = f"{of['rest']}, {_PREPARED[of['part'].lower()]}"
    text = _parts(text)
    full = _HOW_FULL.match(text)
    if full is not None:
        asides.append(full["how"].lower())
        text = f"{full['n']} {text[full.end() :]}"
    return Spoken(_units(text), ", ".join(asides))


def _parts(text: str) -> str:
    part = _PART.match(text)
    if part is not None:
        top, bottom = _TOPS[(part["top"] or "a").lower()], _FRACTIONS[part["bottom"].lower().removesuffix("s")]
        return f"{top}/{bottom} {text[part.end() :]}"
    more = _AND_A_HALF.match(text)
    if more is not None:
        return f"{_TOPS.get(more['n'].lower(), more['n'])} 1/2 {more['unit']}{text[more.end() :]}"
    both = _PLUS.match(text)
    return text if both is None else f"{both['first']} {text[both.end() :]}"


def _units(text: str) -> str:
    number = re.match(rf"{_NUMBER}(?:\s*(?:-|–|to|or)\s*{_NUMBER})?\s*", text)
    if number is None:
        return text
    rest = text[number.end() :]
    for short, unit in _SHORT:
        found = short.match(rest)
        # A letter that is all there is names something itself.
        if found is not None and rest[found.end() :].strip():
            return f"{number[0].rstrip()} {unit}{rest[found.end() :]}"
    return text
