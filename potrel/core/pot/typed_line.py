"""A line as a cook types it: "3 kg leeks ep sliced", "2 bunch celery", "1 lb 4 oz butter"."""

from __future__ import annotations

import difflib
import re
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass, field
from decimal import Decimal
from typing import Any, Literal

from potrel.core.errors import BadQuantity, Lack, PotrelError
from potrel.core.kitchen.items import Item
from potrel.core.kitchen.kinds import plain
from potrel.core.kitchen.lines import Basis, Line
from potrel.core.kitchen.quantities import Quantity, parse_quantity, read_number
from potrel.core.kitchen.recipes import Recipe
from potrel.core.numbers.rounding import half_even
from potrel.core.numbers.units import GRAMS, MILLILITRES, canonical, is_known_count, kind_of
from potrel.core.pot.day_view import DayView
from potrel.core.sentences import Sentence, say

_WORD = re.compile(r"[^\W_]+(?:['’-][^\W_]+)*", re.UNICODE)
_LONGEST_UNIT = 3


@dataclass(frozen=True, slots=True)
class Candidate:
    """An item or recipe that typed words may mean."""

    id: str
    name: str
    kind: Literal["item", "recipe"]


@dataclass(frozen=True, slots=True)
class TypedLine:
    """What a typed line was understood as. `line` is None where `problem` says what is wrong.

    `needs_weight` names the unit that the item has no weight for yet; `unknown` the words that name nothing known.
    """

    text: str
    line: Line | None
    name: str | None
    problem: str | None = None
    needs_weight: str | None = None
    unknown: str | None = None
    candidates: tuple[Candidate, ...] = ()
    problem_code: str | None = None
    params: Mapping[str, str] = field(default_factory=dict)


def _refused(text: str, said: Sentence, name: str | None = None, **more: Any) -> TypedLine:
    return TypedLine(text, None, name, said.english, problem_code=said.code, params=said.params, **more)


def read_line(text: str, view: DayView) -> TypedLine:
    """Understand a typed line with the names, measures and preparations of a kitchen. Never raises: it says what it lacks."""
    typed = text.strip()
    try:
        amount, written, rest = read_number(text)
    except BadQuantity as error:
        return _refused(text, error.said)
    if amount <= 0:
        return _refused(text, say("amount_of_0", '"{text}": an amount is more than 0', text=typed))
    unit, words = _take_unit(_WORD.findall(rest), view)
    second = _take_second(amount, unit, words, view)
    if second is not None:
        written, unit, words = second
    basis: Basis = "EP" if any(word.lower() == "ep" for word in words) else "AP"
    words = [word for word in words if word.lower() not in ("ep", "ap", "of")]
    if not words:
        return _refused(text, say("no_ingredient", '"{text}" names no ingredient: write it behind the amount', text=typed))
    try:
        quantity = parse_quantity(f"{written} {unit}")
    except BadQuantity as error:
        return _refused(text, error.said)
    leftover = _leftover(words, view, quantity)
    if leftover is not None:
        line, name, said = leftover
        return TypedLine(text, line, name) if said is None else _refused(text, said, name)
    found, left = _find(words, view)
    if found is None:
        phrase = " ".join(words)
        said = say("called_nothing", 'nothing here is called "{phrase}"', phrase=phrase)
        return _refused(text, said, unknown=phrase, candidates=suggest(phrase, view))
    if isinstance(found, Recipe):
        return TypedLine(text, Line(quantity, recipe=found.id), found.name)
    return _item_line(text, quantity, found, basis, left, view)


def _item_line(text: str, quantity: Quantity, item: Item, basis: Basis, left: list[str], view: DayView) -> TypedLine:
    chosen, unknown = _preparations(left, item)
    if unknown:
        known = ", ".join(p.name for p in item.preparations) or "none yet"
        english = '{item} has no preparation "{preparation}" (it has: {known})'
        return _refused(
            text, say("not_prepared_so", english, item=item.name, preparation=" ".join(unknown), known=known), item.name
        )
    preparation = None if not chosen else chosen[0] if len(chosen) == 1 else tuple(chosen)
    try:
        line = Line(quantity, item=item.id, basis=basis, preparation=preparation)
    except PotrelError as error:
        return _refused(text, error.said, item.name)
    grams = view.grams(item, line.quantity)
    if isinstance(grams, Lack):
        said = grams.said
        return TypedLine(text, line, item.name, said.english, grams.unit, problem_code=said.code, params=said.params)
    return TypedLine(text, line, item.name)


def _take_unit(words: list[str], view: DayView) -> tuple[str, list[str]]:
    """The longest run of words at the start that is a unit, and the rest; "each" where there is none."""
    own = {canonical(unit) for item in view.kitchen.items for unit in item.measures}
    for length in range(min(_LONGEST_UNIT, len(words)), 0, -1):
        unit = canonical(" ".join(words[:length]))
        # The last words left are the name, unless they can only be a unit: "2 cloves" are a spice, "3 kg" are nothing.
        counts = length < len(words) and (unit in own or (length == 1 and is_known_count(unit)))
        if kind_of(unit) != "count" or counts:
            return unit, words[length:]
    return "each", words


def _take_second(amount: Decimal, unit: str, words: list[str], view: DayView) -> tuple[str, str, list[str]] | None:
    """The amount with a second one added, as in "1 lb 4 oz", where the words go on with a number and a unit of that kind.

    It is told in the second unit where that is exact, else in grams or millilitres, to a millionth.
    """
    if len(words) < 3 or kind_of(unit) == "count" or not words[0].isdecimal():
        return None
    second, left = _take_unit(words[1:], view)
    if kind_of(second) != kind_of(unit):
        return None
    sizes, base = (GRAMS, "g") if kind_of(unit) == "mass" else (MILLILITRES[view.system], "ml")
    total = amount * sizes[unit] + Decimal(words[0]) * sizes[second]
    in_second = total / sizes[second]
    if in_second == half_even(in_second, 6):
        return plain(in_second), second, left
    return plain(half_even(total, 9)), base, left


def _stem(word: str) -> str:
    word = word.lower()
    for ending, base in (("ies", "y"), ("oes", "o"), ("ves", "f"), ("ches", "ch"), ("shes", "sh"), ("s", "")):
        if word.endswith(ending) and len(word) > len(ending) + 2 and not word.endswith("ss"):
            return word[: -len(ending)] + base
    return word


def _stems(text: str) -> list[str]:
    return [_stem(word) for word in _WORD.findall(text)]


def _find(words: list[str], view: DayView) -> tuple[Item | Recipe | None, list[str]]:
    """What the words name, and the words left over: the name most of whose words stand there, the shortest on a tie."""
    typed = [_stem(word) for word in words]
    best: tuple[tuple[int, int, int], Item | Recipe, set[str]] | None = None
    named: Iterable[Item | Recipe] = (*view.kitchen.items, *view.kitchen.recipes)
    for one in named:
        stems = _stems(one.name)
        both = [stem for stem in stems if stem in typed]
        if not both or (stems[0] not in both and len(both) * 2 < len(stems)):
            continue
        score = (len(both), -len(stems), 1 if isinstance(one, Item) else 0)
        if best is None or score > best[0]:
            best = (score, one, set(both))
    if best is None:
        return None, words
    used = best[2]
    return best[1], [word for word, stem in zip(words, typed, strict=True) if stem not in used]


def _leftover(words: list[str], view: DayView, quantity: Quantity) -> tuple[Line | None, str, Sentence | None] | None:
    """What falls off an item or is taken out of a recipe, where all words of its name stand there; the longest name wins.

    On a tie the words that name where it comes from decide, such as "picked meat of white stock".
    """
    typed = {_stem(word) for word in words}
    best: tuple[tuple[int, int], dict[str, Any], str] | None = None
    for name, origin, keys in _all_leftovers(view):
        stems = _stems(name)
        if not stems or not typed.issuperset(stems):
            continue
        score = (len(stems), sum(stem in typed for stem in _stems(origin)))
        # A single word must not take a line away from an item that is called so.
        if (len(stems) > 1 or score[1] > 0) and (best is None or score > best[0]):
            best = (score, {**keys, "byproduct": name}, f"{origin}: {name}")
    if best is None:
        return None
    named: Iterable[Item | Recipe] = (*view.kitchen.items, *view.kitchen.recipes)
    for one in named:
        stems = _stems(one.name)
        if len(stems) >= best[0][0] and typed.issuperset(stems) and not best[2].startswith(f"{one.name}: "):
            # Something bought or made that is called so in full is meant before what is left over.
            return None
    if quantity.kind != "mass":
        return None, best[2], say("leftover_by_weight", "{what} is measured by weight: write its grams or kilos", what=best[2])
    return Line(quantity, **best[1]), best[2], None


def _all_leftovers(view: DayView) -> Iterator[tuple[str, str, dict[str, Any]]]:
    """Each by-product by its name, where it comes from, and the keys of a line that names that."""
    for item in view.kitchen.items:
        for step in item.preparations:
            for part in step.byproducts:
                yield part.name, item.name, {"item": item.id, "preparation": step.id}
    for recipe in view.kitchen.recipes:
        for out in recipe.take_outs():
            yield out.name, recipe.name, {"recipe": recipe.id}


def _preparations(words: list[str], item: Item) -> tuple[list[str], list[str]]:
    """The preparations that the words name, in the order typed, and the words that name none."""
    chosen: list[str] = []
    unknown: list[str] = []
    for word in words:
        stem = _stem(word)
        fits = [p.id for p in item.preparations if stem in _stems(p.name) or stem in _stems(p.id.replace("-", " "))]
        if not fits:
            unknown.append(word)
        elif not any(fit in chosen for fit in fits):
            chosen.append(fits[0])
    return chosen, unknown


def suggest(phrase: str, view: DayView, most: int = 6) -> tuple[Candidate, ...]:
    """The items and recipes whose names are most like a phrase, the likest first."""
    wanted = phrase.casefold()
    named: list[tuple[float, Candidate]] = []
    for item in view.kitchen.items:
        named.append((_likeness(wanted, item.name), Candidate(item.id, item.name, "item")))
    for recipe in view.kitchen.recipes:
        named.append((_likeness(wanted, recipe.name), Candidate(recipe.id, recipe.name, "recipe")))
    likely = sorted((pair for pair in named if pair[0] > 0.45), key=lambda pair: (-pair[0], pair[1].name))
    return tuple(candidate for _, candidate in likely[:most])


def _likeness(wanted: str, name: str) -> float:
    name = name.casefold()
    if wanted in name:
        return 1.0
    parts = [name, *name.split()]
    return max(difflib.SequenceMatcher(None, wanted, part).ratio() for part in parts)
