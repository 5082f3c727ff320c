"""A line as a cook types it: "3 kg leeks ep sliced", "2 bunch celery", "1 lb 4 oz butter"."""

from __future__ import annotations

import difflib
import re
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from decimal import Decimal
from typing import Any, Literal

from potrel.core.errors import BadQuantity, PotrelError
from potrel.core.facts import Facts
from potrel.core.fields import plain
from potrel.core.kitchen import Item, Line, Recipe
from potrel.core.part import Part
from potrel.core.purchase import MissingWeight
from potrel.core.quantities import split_number
from potrel.core.units import GRAMS, MILLILITRES, canonical, is_known_count, kind_of

_WORD = re.compile(r"[^\W_]+(?:['’-][^\W_]+)*", re.UNICODE)
_LONGEST_UNIT = 3


@dataclass(frozen=True, slots=True)
class Candidate(Part):
    """An item or recipe that typed words may mean."""

    id: str
    name: str
    kind: Literal["item", "recipe"]


@dataclass(frozen=True, slots=True)
class TypedLine(Part):
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


def read_line(text: str, facts: Facts) -> TypedLine:
    """Understand a typed line with the names, measures and preparations of a kitchen. Never raises: it says what it lacks."""
    try:
        amount, rest = split_number(text)
    except BadQuantity as error:
        return TypedLine(text, None, None, str(error))
    if amount <= 0:
        return TypedLine(text, None, None, f'"{text.strip()}": an amount is more than 0')
    unit, words = _take_unit(_WORD.findall(rest), facts)
    amount, unit, words = _take_second(amount, unit, words, facts)
    basis: Literal["AP", "EP"] = "EP" if any(word.lower() == "ep" for word in words) else "AP"
    words = [word for word in words if word.lower() not in ("ep", "ap", "of")]
    if not words:
        return TypedLine(text, None, None, f'"{text.strip()}" names no ingredient: write it behind the amount')
    leftover = _leftover(words, facts, f"{plain(amount)} {unit}")
    if leftover is not None:
        return TypedLine(text, *leftover)
    found, left = _find(words, facts)
    if found is None:
        phrase = " ".join(words)
        return TypedLine(
            text, None, None, f'nothing here is called "{phrase}"', unknown=phrase, candidates=suggest(phrase, facts)
        )
    quantity = f"{plain(amount)} {unit}"
    if isinstance(found, Recipe):
        return TypedLine(text, Line(quantity=quantity, recipe=found.id), found.name)
    return _item_line(text, quantity, found, basis, left, facts)


def _item_line(text: str, quantity: str, item: Item, basis: Literal["AP", "EP"], left: list[str], facts: Facts) -> TypedLine:
    chosen, unknown = _preparations(left, item)
    if unknown:
        known = ", ".join(p.name for p in item.preparations) or "none yet"
        problem = f'{item.name} has no preparation "{" ".join(unknown)}" (it has: {known})'
        return TypedLine(text, None, item.name, problem)
    preparation = None if not chosen else chosen[0] if len(chosen) == 1 else tuple(chosen)
    try:
        line = Line(quantity=quantity, item=item.id, basis=basis, preparation=preparation)
        facts.grams(item, quantity)
    except MissingWeight as lack:
        return TypedLine(text, line, item.name, str(lack), needs_weight=lack.unit)
    except PotrelError as error:
        return TypedLine(text, None, item.name, str(error))
    return TypedLine(text, line, item.name)


def _take_unit(words: list[str], facts: Facts) -> tuple[str, list[str]]:
    """The longest run of words at the start that is a unit, and the rest; "each" where there is none."""
    own = {canonical(unit) for item in facts.kitchen.items for unit in item.measures}
    for length in range(min(_LONGEST_UNIT, len(words)), 0, -1):
        unit = canonical(" ".join(words[:length]))
        # The last words left are the name, unless they can only be a unit: "2 cloves" are a spice, "3 kg" are nothing.
        counts = length < len(words) and (unit in own or (length == 1 and is_known_count(unit)))
        if kind_of(unit) != "count" or counts:
            return unit, words[length:]
    return "each", words


def _take_second(amount: Decimal, unit: str, words: list[str], facts: Facts) -> tuple[Decimal, str, list[str]]:
    """The amount with a second one added, as in "1 lb 4 oz", where the words go on with a number and a unit of that kind.

    It is told in the second unit where that is exact, else in grams or millilitres.
    """
    if len(words) < 3 or kind_of(unit) == "count" or not words[0].isdecimal():
        return amount, unit, words
    second, left = _take_unit(words[1:], facts)
    if kind_of(second) != kind_of(unit):
        return amount, unit, words
    sizes, base = (GRAMS, "g") if kind_of(unit) == "mass" else (MILLILITRES[facts.system], "ml")
    total = amount * sizes[unit] + Decimal(words[0]) * sizes[second]
    in_second = total / sizes[second]
    if in_second == round(in_second, 6):
        return in_second, second, left
    return total, base, left


def _stem(word: str) -> str:
    word = word.lower()
    for ending, base in (("ies", "y"), ("oes", "o"), ("ves", "f"), ("ches", "ch"), ("shes", "sh"), ("s", "")):
        if word.endswith(ending) and len(word) > len(ending) + 2 and not word.endswith("ss"):
            return word[: -len(ending)] + base
    return word


def _stems(text: str) -> list[str]:
    return [_stem(word) for word in _WORD.findall(text)]


def _find(words: list[str], facts: Facts) -> tuple[Item | Recipe | None, list[str]]:
    """What the words name, and the words left over: the name most of whose words stand there, the shortest on a tie."""
    typed = [_stem(word) for word in words]
    best: tuple[tuple[int, int, int], Item | Recipe, set[str]] | None = None
    named: Iterable[Item | Recipe] = (*facts.kitchen.items, *facts.kitchen.recipes)
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


def _leftover(words: list[str], facts: Facts, quantity: str) -> tuple[Line | None, str, str | None] | None:
    """What falls off an item or is taken out of a recipe, where all words of its name stand there; the longest name wins.

    On a tie the words that name where it comes from decide, such as "picked meat of white stock".
    """
    typed = {_stem(word) for word in words}
    best: tuple[tuple[int, int], dict[str, Any], str] | None = None
    for name, origin, keys in _all_leftovers(facts):
        stems = _stems(name)
        if not stems or not typed.issuperset(stems):
            continue
        score = (len(stems), sum(stem in typed for stem in _stems(origin)))
        # A single word must not take a line away from an item that is called so.
        if (len(stems) > 1 or score[1] > 0) and (best is None or score > best[0]):
            best = (score, {**keys, "byproduct": name}, f"{origin}: {name}")
    if best is None:
        return None
    named: Iterable[Item | Recipe] = (*facts.kitchen.items, *facts.kitchen.recipes)
    for one in named:
        stems = _stems(one.name)
        if len(stems) >= best[0][0] and typed.issuperset(stems) and not best[2].startswith(f"{one.name}: "):
            # Something bought or made that is called so in full is meant before what is left over.
            return None
    if kind_of(quantity.partition(" ")[2]) != "mass":
        return None, best[2], f"{best[2]} is measured by weight: write its grams or kilos"
    return Line(quantity=quantity, **best[1]), best[2], None


def _all_leftovers(facts: Facts) -> Iterator[tuple[str, str, dict[str, Any]]]:
    """Each by-product by its name, where it comes from, and the keys of a line that names that."""
    for item in facts.kitchen.items:
        for step in item.preparations:
            for part in step.byproducts:
                yield part.name, item.name, {"item": item.id, "preparation": step.id}
    for recipe in facts.kitchen.recipes:
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


def suggest(phrase: str, facts: Facts, most: int = 6) -> tuple[Candidate, ...]:
    """The items and recipes whose names are most like a phrase, the likest first."""
    wanted = phrase.casefold()
    named: list[tuple[float, Candidate]] = []
    for item in facts.kitchen.items:
        named.append((_likeness(wanted, item.name), Candidate(item.id, item.name, "item")))
    for recipe in facts.kitchen.recipes:
        named.append((_likeness(wanted, recipe.name), Candidate(recipe.id, recipe.name, "recipe")))
    likely = sorted((pair for pair in named if pair[0] > 0.45), key=lambda pair: (-pair[0], pair[1].name))
    return tuple(candidate for _, candidate in likely[:most])


def _likeness(wanted: str, name: str) -> float:
    name = name.casefold()
    if wanted in name:
        return 1.0
    parts = [name, *name.split()]
    return max(difflib.SequenceMatcher(None, wanted, part).ratio() for part in parts)
