"""Recipes of others, read: schema.org JSON-LD from a file, or from the `application/ld+json` of a saved web page.

What comes of one is a text that can be pasted like one from paper; what the pot sheet has no place for is said.
"""

from __future__ import annotations

import json
import re
from collections.abc import Iterator, Mapping
from dataclasses import field
from decimal import Decimal
from html import unescape
from typing import Any

from potrel.core.errors import PotrelError
from potrel.core.frozen import dataclass
from potrel.core.kitchen.kinds import plain
from potrel.core.sentences import say
from potrel.formats.upload import text_of

_TAG = re.compile(r"<[^<>]{0,500}>")
_NO_TEXT = re.compile(r"[\x00-\x08\x0e-\x1f\x7f\ud800-\udfff\ufffe\uffff]")
# A sign by a number that no sign has, and that takes long to read.
_FAR_SIGN = re.compile(r"&#(?:[xX][0-9a-fA-F]{7,}|[0-9]{8,});?")
LARGEST_PAGE = 5 * 1024 * 1024
_MOST_RECIPES, _DEEPEST, _MOST_ROWS, _LONGEST = 200, 40, 400, 2000
_DURATION = re.compile(r"^P(?:(\d+)D)?(?:T(?:(\d+)H)?(?:(\d+(?:\.\d+)?)M)?(?:(\d+(?:\.\d+)?)S)?)?$", re.IGNORECASE)


class BadRecipeFile(PotrelError):
    """A file that holds no recipe that can be read; the message says why and what would mend it."""


@dataclass(frozen=True, slots=True)
class Section:
    """A part of the method: its head, the lines that go in there as far as that is told, and what is done."""

    name: str
    minutes: Decimal | None = None
    lines: list[str] = field(default_factory=list)
    steps: list[str] = field(default_factory=list)


@dataclass(frozen=True, slots=True)
class ForeignRecipe:
    """A recipe as a file tells it, and as it can be pasted: `text`. `aside` is what the pot sheet has no place for."""

    name: str
    text: str
    aside: list[str]


def read_foreign(text: str) -> list[ForeignRecipe]:
    """The recipes of a JSON-LD file or of a saved web page. BadRecipeFile where there is none, or none that can be read."""
    if len(text) > LARGEST_PAGE:
        raise BadRecipeFile(
            say("page_too_large", "the file is larger than {most} MB: is it one recipe?", most=LARGEST_PAGE // 1024**2)
        )
    blocks = [text] if _is_json(text) else _scripts(text)
    if not blocks:
        english = "there is no recipe in it that says itself to be one (no application/ld+json): copy its text, and paste that"
        raise BadRecipeFile(say("no_ld_json", english))
    found: list[ForeignRecipe] = []
    for block in blocks:
        found += [_foreign(one) for one in _recipes(_parsed(block), 0)]
    if not found:
        english = "it is JSON, but no Recipe of schema.org is in it: paste the recipe's text instead"
        raise BadRecipeFile(say("no_recipe_in_json", english))
    return found[:_MOST_RECIPES]


def read_page(data: bytes) -> Iterator[list[ForeignRecipe]]:
    """The recipes of the bytes of a file or page; the one answer. BadRecipeFile or BadFile where there is none."""
    yield read_foreign(text_of(data))


def is_foreign(text: str) -> bool:
    """Whether a pasted text is a file or a page rather than a recipe as it stands on paper."""
    return _is_json(text) or bool(re.search(r"<(?:!doctype html|html|script|body)\b", text[:5000], re.IGNORECASE))


def _is_json(text: str) -> bool:
    return text.lstrip("\ufeff \t\r\n")[:1] in ("{", "[")


def _parsed(block: str) -> Any:
    try:
        return json.loads(block.strip("\ufeff \t\r\n"), strict=False)
    except (ValueError, RecursionError):
        english = "the recipe's JSON is broken: save the page again, or copy the recipe's text and paste that"
        raise BadRecipeFile(say("broken_json", english)) from None


def _scripts(text: str) -> list[str]:
    """The scripts of type application/ld+json of a page."""
    from lxml.etree import HTMLParser, LxmlError
    from lxml.html import document_fromstring

    # Declared in a page or not: what is handed over is UTF-8.
    reader = HTMLParser(encoding="utf-8", remove_comments=True, remove_pis=True, no_network=True)
    try:
        page = document_fromstring(text.encode("utf-8", "replace"), parser=reader)
    except (LxmlError, ValueError):
        return []
    scripts = [one for one in page.iter("script") if _is_ld_json(one.get("type") or "")]
    return [one.text for one in scripts if one.text and one.text.strip()]


def _is_ld_json(kind: str) -> bool:
    return kind.split(";", maxsplit=1)[0].strip().lower() == "application/ld+json"


def _recipes(value: Any, depth: int) -> Iterator[Mapping[str, Any]]:
    """Every Recipe in a value, however deep it lies (a graph, a list, the main entity of a page)."""
    if depth > _DEEPEST:
        return
    if isinstance(value, list):
        for one in value:
            yield from _recipes(one, depth + 1)
    elif isinstance(value, dict):
        kinds = value.get("@type")
        if any(str(one).rsplit("/", 1)[-1] == "Recipe" for one in (kinds if isinstance(kinds, list) else [kinds])):
            yield value
            return
        for one in value.values():
            yield from _recipes(one, depth + 1)


def _foreign(found: Mapping[str, Any]) -> ForeignRecipe:
    name = _text(found.get("name"))[:200] or "A recipe without a name"
    ingredients = _texts(found.get("recipeIngredient", found.get("ingredients")))
    sections = _sections(found.get("recipeInstructions"))
    aside: list[str] = []
    # Lines that the steps name themselves go where these are; the others go to the beginning.
    placed = {line for section in sections for line in section.lines}
    loose = [one for one in ingredients if one not in placed]
    rows = [name, ""]
    makes = _texts(found.get("recipeYield"))
    if makes:
        rows += [one if re.match(r"(?i)(makes|serves)\b", one) else f"Makes {one}" for one in makes[:3]] + [""]
    if loose or not placed:
        rows += [*loose, ""]
    for section in sections:
        rows += _rows_of(section)
    about = _text(found.get("description"))
    if about:
        rows += [about]
    for key, words in (("author", "who wrote it"), ("image", "pictures"), ("nutrition", "nutrition as it was told"),
                       ("aggregateRating", "ratings"), ("video", "a video")):  # fmt: skip
        if found.get(key):
            aside.append(words)
    for key, words in (("totalTime", "in all"), ("prepTime", "to prepare"), ("cookTime", "to cook")):
        minutes = minutes_of(found.get(key))
        if minutes is not None and not any(section.minutes for section in sections):
            aside.append(f"{plain(minutes)} min {words}")
    if len(rows) > _MOST_ROWS:
        aside.append(f"what stands after row {_MOST_ROWS}")
    return ForeignRecipe(name, "\n".join(row[:_LONGEST] for row in rows[:_MOST_ROWS]).strip() + "\n", aside)


def _rows_of(section: Section) -> list[str]:
    head = section.name
    if head and section.minutes is not None and not re.search(r"\d\s*(?:min|h)", head):
        head = f"{head} {plain(section.minutes)} min"
    rows = [f"{head}:"] if head else []
    # Numbered, so that "2 minutes more" is what is done, and nothing that goes in.
    steps = [step for step in section.steps if step != section.name]
    return [*rows, *section.lines, *(f"{number}. {step}" for number, step in enumerate(steps, 1)), ""]


def _sections(value: Any) -> list[Section]:
    """The method in parts; steps that stand in no section are one without a head."""
    sections: list[Section] = []
    for one in value if isinstance(value, list) else [value]:
        kind = str(one.get("@type", "")).rsplit("/", 1)[-1] if isinstance(one, dict) else ""
        if kind == "HowToSection" and isinstance(one, dict):
            section = Section(_text(one.get("name"))[:100])
            sections.append(_filled(section, one.get("itemListElement", one.get("steps")), 0))
        else:
            if not sections or sections[-1].name:
                sections.append(Section(""))
            sections[-1] = _filled(sections[-1], one, 0)
    return [one for one in sections if one.lines or one.steps or one.name]


def _filled(section: Section, value: Any, depth: int) -> Section:
    """A section with the directions that are in a value: texts, steps, or steps of steps."""
    if depth > _DEEPEST:
        return section
    if isinstance(value, list):
        for one in value:
            section = _filled(section, one, depth + 1)
        return section
    if isinstance(value, str):
        section.steps.extend(row for part in re.split(r"</p>|<br\s*/?>|\n", value) if (row := _text(part)))
        return section
    if not isinstance(value, dict):
        return section
    inner = value.get("itemListElement", value.get("steps"))
    minutes = minutes_of(value.get("performTime", value.get("totalTime")))
    supply = value.get("supply")
    lines = [line for one in (supply if isinstance(supply, list) else [supply]) if (line := _supply(one))]
    text = _text(value.get("text")) or ("" if inner else _text(value.get("name")))
    made = Section(section.name, section.minutes if minutes is None else minutes, [*section.lines, *lines], section.steps)
    if text:
        made.steps.append(text)
    return _filled(made, inner, depth + 1) if inner is not None else made


def _supply(value: Any) -> str:
    if isinstance(value, dict):
        needed = value.get("requiredQuantity")
        amount = f"{_text(needed.get('value'))} {_text(needed.get('unitText'))}" if isinstance(needed, dict) else _text(needed)
        return " ".join(f"{amount} {_text(value.get('name'))}".split())
    return _text(value)


def _texts(value: Any) -> list[str]:
    return [text for one in (value if isinstance(value, list) else [value]) if (text := _text(one))]


def _text(value: Any) -> str:
    """A value as one line of words: tags and entities taken off, what is no text left out."""
    if isinstance(value, bool) or value is None:
        return ""
    if isinstance(value, int | float):
        return str(value)
    if isinstance(value, dict):
        return _text(value.get("@value", value.get("name")))
    if isinstance(value, list):
        return _text(value[0]) if value else ""
    # What no text can hold (controls, halves of characters, signs that are none) says nothing.
    plainly = unescape(_FAR_SIGN.sub(" ", _TAG.sub(" ", str(value))))
    return " ".join(_NO_TEXT.sub(" ", plainly).split())


def minutes_of(value: Any) -> Decimal | None:
    """A time of ISO 8601 in minutes; None where it is none.

    >>> minutes_of("PT1H30M"), minutes_of("P1DT0M"), minutes_of("soon")
    (Decimal('90'), Decimal('1440'), None)
    """
    found = _DURATION.match(value.strip()) if isinstance(value, str) and len(value) < 40 else None
    if found is None or not any(found.groups()):
        return None
    days, hours, minutes, seconds = (Decimal(part or 0) for part in found.groups())
    return days * 1440 + hours * 60 + minutes + seconds / 60
