"""A recipe as it stands on paper, taken apart: its name, its stages with their lines, and the sentences of its method.

Each line of the text is a line of the recipe, the head of a stage, a sentence that belongs to the stage, or what it serves.
Common practice of writing recipes, no source.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import field, replace
from decimal import Decimal

from potrel.core.frozen import dataclass
from potrel.core.kitchen.methods import Method, method_called
from potrel.core.kitchen.quantities import read_range
from potrel.core.numbers.rounding import half_even
from potrel.core.words.typed_amount import BULLET

_LONGEST_HEAD = 60
_NUMBERED = re.compile(r"^(?:step\s*)?\d{1,2}\s*[.):]\s+(?=[^\W\d_])", re.IGNORECASE)
_AMOUNT_FIRST = re.compile(r"^(?:[0-9½¼¾⅓⅔⅛]|(?:an?|one|two|three|four|five|six|half|a few|some)\b)", re.IGNORECASE)
_AMOUNT_LAST = re.compile(r"[\s,:–-][0-9½¼¾⅓⅔⅛][0-9.,/]*\s*[^\W\d_]{0,12}\.?$")
_SERVES = re.compile(r"^(?:serves|makes|yields?|for|portions?)\b[:\s]*(?:about\s+)?[0-9]", re.IGNORECASE)
_TO_SKIP = re.compile(r"^(?:ingredients|what you need|shopping list)\s*:?$", re.IGNORECASE)
_TO_METHOD = re.compile(r"^(?:method|directions|instructions|preparation|how to|steps)\s*:?$", re.IGNORECASE)
_TIME = re.compile(
    r"(?P<n>[0-9]+(?:\s*(?:-|–|to)\s*[0-9]+)?)\s*(?P<unit>min(?:ute)?s?|h(?:ou)?rs?|h)\b(?:\s*(?P<more>[0-9]{1,2})\s*min)?",
    re.IGNORECASE,
)
_HEAT = re.compile(r"(?:\bat\b|\bto\b|@)?\s*(?P<n>[0-9]{2,3})\s*(?:°|º|degrees)?\s*(?P<unit>[CF])?\b", re.IGNORECASE)
_DANGLING = re.compile(r"[\s,;–-]*(?:(?:\b(?:for|at|to)|@)[\s,;–-]*)+$", re.IGNORECASE)
_FOR_THE = re.compile(r"^for\s+(?:the\s+)?", re.IGNORECASE)
_SENTENCE_WORDS, _LONG_SENTENCE = 5, 9


@dataclass(frozen=True, slots=True)
class StageText:
    """A stage of a text: its head, how and how long it cooks as far as the text says so, its lines, its sentences."""

    name: str
    method: str | None = None
    minutes: Decimal | None = None
    celsius: Decimal | None = None
    lines: list[str] = field(default_factory=list)
    notes: list[str] = field(default_factory=list)


@dataclass(frozen=True, slots=True)
class RecipeText:
    """A whole text taken apart. `aside` are words that belong to no stage, such as what it serves."""

    name: str | None
    stages: list[StageText]
    aside: list[str]


def read_recipe_text(text: str) -> RecipeText:
    """Take a recipe apart. Nothing of it is lost: what is neither head nor line is a note."""
    rows = [" ".join(row.split()) for row in text.splitlines()]
    name, rows = _name_of(rows)
    stages: list[StageText] = []
    aside: list[str] = []
    telling = False
    for place, row in enumerate(rows):
        bare = BULLET.sub("", row)
        if not bare or _TO_SKIP.match(bare):
            telling = telling and not bare
        elif _TO_METHOD.match(bare):
            telling = True
        elif _SERVES.match(bare):
            aside.append(bare)
        elif _is_sentence(bare, telling):
            _tell(stages, _NUMBERED.sub("", bare))
        elif (head := _head(bare)) is not None:
            telling = False
            follows = rows[place + 1] if place + 1 < len(rows) else ""
            if not _tells_how(stages, head, bare, follows):
                stages.append(head)
        else:
            _last(stages).lines.append(bare)
    return RecipeText(name, stages, aside)


def _name_of(rows: Sequence[str]) -> tuple[str | None, list[str]]:
    """The name, where the first row can be nothing else, and the rows that are left."""
    for place, row in enumerate(rows):
        if not row:
            continue
        bare = row.lstrip("# ").strip()
        is_head = bare.endswith(":") or _TO_SKIP.match(bare) or _TO_METHOD.match(bare) or _SERVES.match(bare)
        rest = [one for one in rows[place + 1 :] if one]
        if is_head or _has_amount(bare) or len(bare) > _LONGEST_HEAD or not rest:
            return None, list(rows)
        return bare, list(rows[place + 1 :])
    return None, []


def _has_amount(row: str) -> bool:
    return bool(_AMOUNT_FIRST.match(BULLET.sub("", row)) or _AMOUNT_LAST.search(row))


def _is_sentence(row: str, telling: bool) -> bool:
    """Whether a row tells what to do: it is numbered, or it is a sentence and no amount begins it."""
    if telling or _NUMBERED.match(row):
        return True
    words = row.split()
    # "A few sprigs of thyme." is a line yet; "A deep pot cools slowly: shallow trays or an ice bath." is none.
    enough = _SENTENCE_WORDS if not _AMOUNT_FIRST.match(row) else _LONG_SENTENCE if not row[0].isdigit() else len(words) + 1
    return len(words) >= enough and row.endswith((".", "!"))


def _head(row: str) -> StageText | None:
    """The stage that a row begins: "For the roast:", "Roast 45 min at 190", "Simmer"; None where it begins none."""
    if len(row) > _LONGEST_HEAD or _AMOUNT_FIRST.match(row):
        return None
    named = _FOR_THE.sub("", row.rstrip(": "))
    method = _method_in(named)
    if not row.endswith(":"):
        cooks = method is not None and method_called(named.split()[0].rstrip(",;")) is not None
        left = _HEAT.sub(" ", _TIME.sub(" ", named)).split()
        if not cooks or len(left) > _SENTENCE_WORDS or (_AMOUNT_LAST.search(row) and not _TIME.search(row)):
            return None
    minutes, celsius = _minutes_in(named), _celsius_in(named)
    name = _DANGLING.sub("", _HEAT.sub("", _TIME.sub("", named))).strip(" ,;–-") or named
    return StageText(name[:1].upper() + name[1:], None if method is None else method.id, minutes, celsius)


def _tells_how(stages: list[StageText], head: StageText, row: str, follows: str) -> bool:
    """Whether a row such as "Roast 45 min at 190" behind some lines says how those are cooked, and begins nothing new."""
    here = stages[-1] if stages else None
    if here is None or not here.lines or row.endswith(":") or (follows and _AMOUNT_FIRST.match(BULLET.sub("", follows))):
        return False
    if here.minutes is not None or here.method not in (None, head.method):
        return False
    stages[-1] = replace(here, method=head.method, minutes=head.minutes, celsius=head.celsius)
    return True


def _method_in(text: str) -> Method | None:
    return next((found for word in re.findall(r"[^\W\d_]+", text) if (found := method_called(word)) is not None), None)


def _minutes_in(text: str) -> Decimal | None:
    """The first time that a text names [min]; of a range its middle."""
    found = _TIME.search(text)
    if found is None:
        return None
    amount = read_range(found["n"])[0]
    if found["unit"].lower().startswith("h"):
        amount = amount * 60 + Decimal(found["more"] or 0)
    return amount


def _celsius_in(text: str) -> Decimal | None:
    """The heat that a text names behind its time [C]; Fahrenheit is converted, and so is what no Celsius oven reaches."""
    for found in _HEAT.finditer(_TIME.sub(" ", text)):
        degrees = Decimal(found["n"])
        unit = (found["unit"] or "").upper()
        if unit == "F" or (not unit and degrees >= 300):
            return half_even((degrees - 32) * 5 / 9, 0)
        if unit == "C" or degrees >= 50:
            return degrees
    return None


def _last(stages: list[StageText]) -> StageText:
    if not stages:
        stages.append(StageText("Pot"))
    return stages[-1]


def _tell(stages: list[StageText], sentence: str) -> None:
    """Keep a sentence with the stage it speaks of: the first that is cooked so, else the last."""
    method = _method_in(sentence)
    stage = next((one for one in stages if method is not None and one.method == method.id), None) or _last(stages)
    stage.notes.append(sentence)
