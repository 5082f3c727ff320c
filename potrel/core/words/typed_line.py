"""A line as a cook types it: "3 kg leeks ep sliced", "a bunch of parsley", "1 lb 4 oz butter, melted".

What it does not take for sure it asks: a wrong thing taken silently costs more than a question.
"""

from __future__ import annotations

import difflib
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import field
from functools import cache
from typing import Any, Literal

from potrel.core.buy.weights import is_ready_by
from potrel.core.errors import BadDocument, BadQuantity, Lack, PotrelError
from potrel.core.frozen import dataclass
from potrel.core.kitchen.integrity import known_units
from potrel.core.kitchen.items import Basis, Item, Preparation
from potrel.core.kitchen.lines import Line
from potrel.core.kitchen.naming import (
    Fit,
    Word,
    fit,
    known_words,
    line_words,
    mended,
    shares_a_word,
    stem,
    vocabulary,
    words_in,
)  # fmt: skip
from potrel.core.kitchen.quantities import Quantity, parse_quantity
from potrel.core.kitchen.recipes import Recipe
from potrel.core.numbers.units import canonical, is_known_count
from potrel.core.pot.day_view import DRAINED, DayView
from potrel.core.sentences import Sentence, say
from potrel.core.trim.shelf import known_of, shelf
from potrel.core.words.typed_amount import CANS, TypedAmount, read_amount

_LONGEST_NOTE = 200
_LONGEST_LINE = 500
_LONGEST_PHRASE = 80
_SAME_START = 2
# Cuts of a thing that is ready to be cut.
_SMALL = frozenset(map(stem, ("chopped", "diced", "sliced", "cubed", "minced", "cut", "chunks")))
# A cook says "salt to taste" of what the seasoning allowance stands for.
_TO_TASTE = frozenset({"taste", "serve"})


@dataclass(frozen=True, slots=True)
class Candidate:
    """What typed words may mean: an item or recipe of the kitchen, an ingredient of the shelf, a preparation of the item."""

    id: str
    name: str
    kind: Literal["item", "recipe", "shelf", "preparation"]


@dataclass(frozen=True, slots=True)
class TypedLine:
    """What a typed line was understood as. `line` is None where `problem` says what is wrong.

    `needs_weight` names the unit that the item has no weight for yet; `unknown` the words that name nothing known. `adds` is a
    preparation that the shelf knows and the item does not have yet: the line needs it. `amount` is how much was typed.
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
    adds: Preparation | None = None
    amount: str | None = None


def _refused(text: str, said: Sentence, name: str | None = None, **more: Any) -> TypedLine:
    return TypedLine(text, None, name, said.english, problem_code=said.code, params=said.params, **more)


def read_line(text: str, view: DayView, means: str | None = None, made_by: str | None = None) -> TypedLine:
    """Understand a typed line with the names, measures and preparations of a kitchen. Never raises: it says what it lacks.

    Where somebody has answered what the name means, `means` is the id of that item, or `made_by` that of that recipe.
    """
    try:
        return _read(text, view, means, made_by)
    except PotrelError as error:
        return _refused(text, error.said)


def _read(text: str, view: DayView, means: str | None, made_by: str | None) -> TypedLine:
    typed = text.strip()
    if len(typed) > _LONGEST_LINE:
        # No name is so long, and to look for one among so many words takes its time.
        english = "a line has at most {most} characters: shorten it, or write the rest as a sentence"
        return _refused(text, say("line_too_long", english, most=_LONGEST_LINE))
    amount = read_amount(typed, known_units(view.kitchen.items) | _shelf_units(), view.system)
    if amount.amount is not None and amount.amount <= 0:
        return _refused(text, say("amount_of_0", '"{text}": an amount is more than 0', text=typed))
    basis: Basis = "EP" if any(word.lower() == "ep" for word in amount.words) else "AP"
    words = known_words([word for word in amount.words if word.lower() not in ("ep", "ap", "of")])
    if amount.unit in CANS:
        words = (*words, Word(amount.unit or "", "canned"))
    meant: Item | Recipe | None = view.items.get(means or "") or view.recipes.get(made_by or "")
    if meant is not None:
        return _Reading(text, view, amount, basis).answered(words, meant)
    if all(word.stem == "canned" or is_known_count(canonical(word.typed)) for word in _naming(words)):
        return _nothing_named(text, amount)
    return _Reading(text, view, amount, basis).named(words)


@cache
def _shelf_units() -> frozenset[str]:
    return frozenset(known_units(known.item for known in shelf()))


def _naming(words: Iterable[Word]) -> list[Word]:
    """The words that may be a name: not a cut, nor what stands beside one."""
    beside = line_words("cut") | line_words("beside")
    return [word for word in words if word.stem not in beside]


def _nothing_named(text: str, amount: TypedAmount) -> TypedLine:
    if amount.amount is None and not amount.words:
        return _refused(text, BadQuantity(text).said)
    return _refused(text, say("no_ingredient", '"{text}" names no ingredient: write it behind the amount', text=text.strip()))


@dataclass(frozen=True, slots=True)
class _Reading:
    """The reading of one line, from its amount on."""

    text: str
    view: DayView
    amount: TypedAmount
    basis: Basis

    def refused(self, said: Sentence, name: str | None = None, **more: Any) -> TypedLine:
        written = self.amount.written and f"{self.amount.written} {self.amount.unit or 'each'}"
        return _refused(self.text, said, name, amount=written or None, **more)

    def answered(self, words: tuple[Word, ...], meant: Item | Recipe) -> TypedLine:
        """The line, where it is known what its name means: the words that are no cut of it are that name."""
        if isinstance(meant, Recipe):
            return self._recipe_line(meant, Fit((), 0))
        return self._item_line(meant, Fit(tuple(word for word in words if _can_be_left([word], meant)), 0))

    def named(self, words: tuple[Word, ...]) -> TypedLine:
        """The line, with the words that are no amount."""
        found = self._leftover(words)
        if found is not None:
            return found
        fits = _fits(words, self.view)
        if not fits:
            known = vocabulary([one.name for one in _named(self.view)] + [one.item.name for one in shelf()])
            better = mended(words, known)
            if better is not None:
                words, fits = better, _fits(better, self.view)
        best = _best(fits)
        if len(best) == 1:
            thing, how = best[0]
            if isinstance(thing, Recipe):
                return self._recipe_line(thing, how)
            return self._item_line(thing, how)
        phrase = " ".join(dict.fromkeys(word.typed for word in _naming(words) if word.typed not in ("canned", *CANS)))
        if best:
            english = '"{phrase}" can be {names}: which?'
            names = " or ".join(thing.name for thing, _ in best)
            return self.refused(
                say("which", english, phrase=phrase, names=names), unknown=phrase,
                candidates=tuple(_candidate(thing) for thing, _ in best),
            )  # fmt: skip
        said = say("called_nothing", 'nothing here is called "{phrase}"', phrase=phrase)
        return self.refused(said, unknown=phrase, candidates=(*suggest(phrase, self.view), *_on_shelf(words, self.view)))

    def _how_much(self, name: str, words: Iterable[Word]) -> TypedLine | None:
        """The question how much, where no amount was written."""
        if self.amount.amount is not None:
            return None
        if any(word.stem in _TO_TASTE for word in words):
            english = "{name} to taste: write how much goes in, or leave it to the seasoning allowance"
            return self.refused(say("to_taste", english, name=name), name)
        return self.refused(say("how_much", "how much {name}? Write the amount before it", name=name), name)

    def _recipe_line(self, recipe: Recipe, how: Fit) -> TypedLine:
        asked = self._how_much(recipe.name, how.left)
        if asked is not None:
            return asked
        line = Line(self._quantity(None, ()), recipe=recipe.id, note=self._note([]))
        return TypedLine(self.text, line, recipe.name)

    def _item_line(self, item: Item, how: Fit) -> TypedLine:
        asked = self._how_much(item.name, how.left)
        if asked is not None:
            return asked
        quantity = self._quantity(item, how.left)
        left = [
            word
            for word in how.left
            if word.stem != "canned" and canonical(word.typed) != quantity.unit and word.stem != stem(quantity.unit)
        ]
        drained = self.view.preparation(item, DRAINED)
        own = (*item.preparations, drained) if drained and drained not in item.preparations else item.preparations
        chosen, rest = _preparations(left, own)
        adds: Preparation | None = None
        if not chosen:
            # What the shelf knows of it is a preparation, too, once it is taken over.
            on_shelf, beyond = _preparations(rest, _shelf_preparations(item))
            if len(on_shelf) == 1:
                adds, chosen, rest = on_shelf[0], on_shelf, beyond
        unknown = [word for word in rest if word.stem not in line_words("cut") | line_words("beside")]
        if unknown:
            known = ", ".join(p.name for p in item.preparations) or "none yet"
            english = '{item} has no preparation "{preparation}" (it has: {known})'
            phrase = " ".join(word.typed for word in unknown)
            return self.refused(say("not_prepared_so", english, item=item.name, preparation=phrase, known=known), item.name)
        cuts = [word for word in rest if word.stem in line_words("cut")]
        is_ready = is_ready_by(item, quantity.unit)
        if (cuts or is_ready) and not chosen:
            known_here = [one for one in item.preparations if one.yield_ <= 1]
            possible = known_here or [one for one in _shelf_preparations(item) if one.yield_ <= 1]
            cut_so = [one for one in possible if _stems_of(one) & _SMALL]
            if len(cut_so) == 1 and any(word.stem in _SMALL for word in cuts):
                # Chopped or diced: what falls off is the same.
                possible = cut_so
            if len(possible) > 1:
                english = "{item}, prepared how: {choices}?"
                choices = " or ".join(one.name for one in possible)
                said = say("which_preparation", english, item=item.name, choices=choices)
                return self.refused(
                    said, item.name, candidates=tuple(Candidate(one.id, one.name, "preparation") for one in possible)
                )
            chosen = possible
            adds = possible[0] if possible and not known_here else None
        ids = tuple(one.id for one in chosen)
        line = Line(
            quantity, item=item.id, basis="EP" if is_ready else self.basis,
            preparation=None if not ids else ids[0] if len(ids) == 1 else ids, note=self._note(cuts),
        )  # fmt: skip
        grams = self.view.weights.of(item, line.quantity)
        if isinstance(grams, Lack):
            said = grams.said
            return TypedLine(
                self.text, line, item.name, said.english, grams.unit, problem_code=said.code, params=said.params, adds=adds
            )
        return TypedLine(self.text, line, item.name, adds=adds)

    def _quantity(self, item: Item | None, left: Sequence[Word]) -> Quantity:
        """How much, in the unit that was typed; else in a count word behind the name ("2 garlic cloves"), else pieces."""
        unit = self.amount.unit
        if unit is None and item is not None:
            own = {canonical(one) for one in item.measures}
            behind = [canonical(word.typed) for word in left]
            unit = next((one for one in behind if one in own or is_known_count(one)), None)
            if unit is None and "each" not in own:
                # "3 bay leaves" are three leaves.
                named = [word.stem for word in words_in(item.name)]
                unit = next((one for one in own if one in named), None)
        return parse_quantity(f"{self.amount.written} {unit or 'each'}")

    def _note(self, cuts: Sequence[Word]) -> str | None:
        parts = [" ".join(dict.fromkeys(word.typed for word in cuts)), self.amount.aside or ""]
        note = ", ".join(part for part in parts if part)
        if len(note) > _LONGEST_NOTE:
            english = "what stands beside an amount has at most {most} characters: shorten it"
            raise BadDocument("", say("note_too_long", english, most=_LONGEST_NOTE))
        return note or None

    def _leftover(self, words: Sequence[Word]) -> TypedLine | None:
        """What falls off an item or is taken out of a recipe, where all words of its name stand there; the longest name wins.

        On a tie the words that name where it comes from decide, such as "picked meat of white stock".
        """
        typed = {word.stem for word in words}
        best: tuple[tuple[int, int], dict[str, Any], str, str] | None = None
        for name, origin, keys in _all_leftovers(self.view):
            stems = [word.stem for word in words_in(name)]
            if not stems or not typed.issuperset(stems):
                continue
            score = (len(stems), sum(word.stem in typed for word in words_in(origin)))
            # A single word must not take a line away from an item that is called so.
            if (len(stems) > 1 or score[1] > 0) and (best is None or score > best[0]):
                best = (score, {**keys, "byproduct": name}, f"{origin}: {name}", origin)
        if best is None:
            return None
        score, keys, called, origin = best
        for one in _named(self.view):
            stems = [word.stem for word in words_in(one.name)]
            if len(stems) >= score[0] and typed.issuperset(stems) and one.name != origin:
                # Something bought or made that is called so in full is meant before what is left over.
                return None
        asked = self._how_much(called, words)
        if asked is not None:
            return asked
        quantity = self._quantity(None, ())
        if quantity.kind != "mass":
            english = "{what} is measured by weight: write its grams or kilos"
            return self.refused(say("leftover_by_weight", english, what=called), called)
        return TypedLine(self.text, Line(quantity, **keys), called)


def _named(view: DayView) -> Iterator[Item | Recipe]:
    yield from view.kitchen.items
    yield from view.kitchen.recipes


def _candidate(thing: Item | Recipe) -> Candidate:
    return Candidate(thing.id, thing.name, "recipe" if isinstance(thing, Recipe) else "item")


def _fits(words: Sequence[Word], view: DayView) -> list[tuple[Item | Recipe, Fit]]:
    """All that the words may name. A recipe on sale is never a guess: all of its name has to be typed."""
    found: list[tuple[Item | Recipe, Fit]] = []
    beside = line_words("beside")
    for item in view.kitchen.items:
        how = fit(words, item.name)
        if how is not None and _can_be_left(how.left, item):
            found.append((item, how))
    # What is put away is only meant where nothing else is.
    found = [one for one in found if isinstance(one[0], Item) and not one[0].archived] or found
    for recipe in view.kitchen.recipes:
        how = fit(words, recipe.name)
        if how is not None and all(word.stem in beside for word in how.left) and not (recipe.servings and how.untyped):
            found.append((recipe, how))
    return found


def _can_be_left(left: Iterable[Word], item: Item) -> bool:
    """Whether words beside an item's name may be how it is prepared, cut or counted."""
    prepared = {one for known in (*item.preparations, *_shelf_preparations(item)) for one in _stems_of(known)}
    own = {canonical(unit) for unit in item.measures}
    beside = line_words("cut") | line_words("beside") | prepared | {"drained", "canned"}
    return all(word.stem in beside or (unit := canonical(word.typed)) in own or is_known_count(unit) for word in left)


def _best(fits: list[tuple[Item | Recipe, Fit]]) -> list[tuple[Item | Recipe, Fit]]:
    """What is meant, or all that may be: a full name before a part of one, an item before a recipe."""
    for exact in (True, False):
        for kind in (Item, Recipe):
            some = [one for one in fits if (one[1].untyped == 0) == exact and isinstance(one[0], kind)]
            if not some:
                continue
            fewest = min(len(how.left) for _, how in some)
            return [one for one in some if len(one[1].left) == fewest]
    return []


def _preparations(words: Sequence[Word], known: Sequence[Preparation]) -> tuple[list[Preparation], list[Word]]:
    """The preparations that the words name, in the order typed, and the words that name none.

    Each time the one that most of the words name is taken; where two are named equally, neither is.
    """
    chosen: list[Preparation] = []
    left = list(words)
    while left:
        scored: list[tuple[int, int, Preparation]] = []
        for one in known:
            hits = len(_hit(one, left))
            if hits and one not in chosen:
                scored.append((hits, -len(words_in(one.name)), one))
        if not scored:
            break
        top = max(score[:2] for score in scored)
        best = [one for *score, one in scored if tuple(score) == top]
        if len({_hit(one, left) for one in best}) < len(best):
            break
        stems = _stems_of(best[0])
        chosen.append(best[0])
        left = [word for word in left if word.stem not in stems]
    order = {one.id: _first_place(one, words) for one in chosen}
    return sorted(chosen, key=lambda one: order[one.id]), left


def _stems_of(one: Preparation) -> frozenset[str]:
    return frozenset(word.stem for word in (*words_in(one.name), *words_in(one.id.replace("-", " "))))


def _hit(one: Preparation, words: Sequence[Word]) -> frozenset[str]:
    """The words that name a preparation."""
    return _stems_of(one).intersection(word.stem for word in words)


def _first_place(one: Preparation, words: Sequence[Word]) -> int:
    stems = _stems_of(one)
    return next((place for place, word in enumerate(words) if word.stem in stems), len(words))


def _shelf_preparations(item: Item) -> tuple[Preparation, ...]:
    known = known_of(item)
    if known is None:
        return ()
    have = {one.id for one in item.preparations}
    return tuple(one for one in known.item.preparations if one.id not in have)


def _on_shelf(words: Sequence[Word], view: DayView) -> tuple[Candidate, ...]:
    """What of the shelf the words name, that the kitchen does not have yet."""
    have = {item.name.casefold() for item in view.kitchen.items}
    found = [
        (how.untyped, known.item)
        for known in shelf()
        if (how := fit(words, known.item.name)) is not None
        and _can_be_left(how.left, known.item)
        and known.item.name.casefold() not in have
    ]
    found.sort(key=lambda one: (one[0], one[1].name))
    return tuple(Candidate(item.id, item.name, "shelf") for _, item in found[:4])


def _all_leftovers(view: DayView) -> Iterator[tuple[str, str, dict[str, Any]]]:
    """Each by-product by its name, where it comes from, and the keys of a line that names that."""
    for item in view.kitchen.items:
        for step in item.preparations:
            for part in step.byproducts:
                yield part.name, item.name, {"item": item.id, "preparation": step.id}
    for recipe in view.kitchen.recipes:
        for out in recipe.take_outs():
            yield out.name, recipe.name, {"recipe": recipe.id}


def suggest(phrase: str, view: DayView, most: int = 8) -> tuple[Candidate, ...]:
    """The items and recipes whose names are most like a phrase, the likest first."""
    # No name is like a whole page; to compare one with every name would take long.
    phrase = phrase[:_LONGEST_PHRASE]
    wanted, words = phrase.casefold(), words_in(phrase)
    starts = tuple({word.stem[:_SAME_START] for word in words})
    # Only what shares a word or the start of one is compared letter by letter: that takes its time.
    near = [one for one in _named(view) if any(part.startswith(starts) for part in one.name.casefold().split())]
    named = [(shares_a_word(words, one.name) + _likeness(wanted, one.name), _candidate(one)) for one in near]
    likely = sorted((pair for pair in named if pair[0] > 0.6), key=lambda pair: (-pair[0], pair[1].name))
    return tuple(candidate for _, candidate in likely[:most])


def _likeness(wanted: str, name: str) -> float:
    name = name.casefold()
    if wanted in name:
        return 1.0
    parts = [name, *name.split()]
    return max(difflib.SequenceMatcher(None, wanted, part).ratio() for part in parts)
