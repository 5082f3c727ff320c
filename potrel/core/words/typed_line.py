"""A line as a cook types it: "3 kg leeks ep sliced", "a bunch of parsley", "1 lb 4 oz butter, melted".

What it does not take for sure it asks: a wrong thing taken silently costs more than a question.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import field, replace
from functools import cache
from typing import Any

from potrel.core.buy.weights import is_ready_by
from potrel.core.errors import BadDocument, BadQuantity, Lack, PotrelError
from potrel.core.frozen import dataclass
from potrel.core.kitchen.integrity import known_units
from potrel.core.kitchen.items import Basis, Item, Preparation
from potrel.core.kitchen.kinds import Id, Name
from potrel.core.kitchen.lines import Line
from potrel.core.kitchen.naming import (
    Fit,
    Word,
    known_words,
    line_words,
    mended,
    split_words,
    stem,
    vocabulary,
    words_in,
)  # fmt: skip
from potrel.core.kitchen.quantities import Quantity, parse_quantity
from potrel.core.kitchen.recipes import Recipe
from potrel.core.numbers.units import canonical, is_known_count
from potrel.core.pot.day_view import DRAINED, DayView
from potrel.core.sentences import Sentence, say
from potrel.core.trim.shelf import shelf
from potrel.core.words.bases import made_here
from potrel.core.words.meant import (
    Candidate,
    best,
    can_be_left,
    candidate,
    either,
    fits,
    from_shelf,
    may_be_ours,
    may_mean,
    named,
    naming,
    near_on_shelf,
    shelf_preparations,
    stems_of,
    suggest,
)
from potrel.core.words.to_taste import is_as_needed, named_to_taste
from potrel.core.words.typed_amount import CANS, TypedAmount, read_amount

_LONGEST_NOTE = 200
_LONGEST_LINE = 500
# Cuts of a thing that is ready to be cut.
_SMALL = frozenset(map(stem, ("chopped", "diced", "sliced", "cubed", "minced", "cut", "chunks")))
_SALT = "salt"
# Of these a cook puts in as much as is needed, and it weighs next to nothing.
_SEASONINGS = frozenset({"spice", "herb"})


@dataclass(frozen=True, slots=True)
class TypedLine:
    """What a typed line was understood as. `line` is None where `problem` says what is wrong.

    `needs_weight` names the unit that the item has no weight for yet; `unknown` the words that name nothing known, `only` the
    one ingredient of the shelf that they can mean. `adds` is a preparation that the shelf knows and the item does not have yet:
    the line needs it. `amount` is how much was typed.
    What is put in to taste is no line: `by_target` is a salt, of which so much goes in as the kitchen wants in a finished soup,
    `covers` is what the seasoning allowance stands for.
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
    only: Id | None = None
    covers: tuple[Name, ...] = ()
    by_target: Id | None = None

    @property
    def is_to_taste(self) -> bool:
        """Whether it is no line of the pot, but what is put in to taste."""
        return self.line is None and bool(self.covers or self.by_target)


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
    meant: Item | Recipe | None = view.items.get(means or "") or view.recipes.get(made_by or "")
    seasonings = named_to_taste(typed)
    if seasonings is not None and not isinstance(meant, Recipe):
        found = _to_taste(text, seasonings, view, meant)
        if found is not None:
            return found
    amount = read_amount(typed, known_units(view.kitchen.items) | _shelf_units(), view.system)
    if amount.amount is not None and amount.amount <= 0:
        return _refused(text, say("amount_of_0", '"{text}": an amount is more than 0', text=typed))
    basis: Basis = "EP" if any(word.lower() == "ep" for word in amount.words) else "AP"
    words = known_words([word for word in amount.words if word.lower() not in ("ep", "ap", "of")])
    if amount.unit in CANS:
        words = (*words, Word(amount.unit or "", "canned"))
    if meant is not None:
        return _Reading(text, view, amount, basis).answered(words, meant)
    if all(word.stem == "canned" or is_known_count(canonical(word.typed)) for word in naming(words)):
        return _nothing_named(text, amount)
    return _Reading(text, view, amount, basis).named(words)


@cache
def _shelf_units() -> frozenset[str]:
    return frozenset(known_units(known.item for known in shelf()))


def _phrase(words: Iterable[Word]) -> str:
    """The words that may be a name, as they were typed."""
    return " ".join(dict.fromkeys(word.typed for word in naming(words) if word.typed not in ("canned", *CANS)))


def _to_taste(text: str, seasonings: Sequence[str], view: DayView, meant: Item | None) -> TypedLine | None:
    """What is put in to taste: a salt of this kitchen by its target, all else by its name; a question where it has no salt.

    None where something that is no seasoning goes in as needed: that has a mass.
    """
    covers: list[str] = []
    salt: Item | None = None
    for phrase in seasonings:
        words = known_words(split_words(phrase))
        found = [thing for thing, _ in best(fits(words, view)) if isinstance(thing, Item)]
        item = found[0] if len(found) == 1 else None
        if any(word.stem == _SALT for word in words) and (item is None or not item.is_salt):
            item = meant if meant is not None and meant.is_salt else item
        if item is None and [word.stem for word in naming(words)] == [_SALT]:
            said = say("called_nothing", 'nothing here is called "{phrase}"', phrase=phrase)
            return _refused(
                text, said, unknown=phrase, candidates=(*suggest(phrase, view), *from_shelf(words, view)), only=_SALT
            )
        if item is not None and item.is_salt:
            salt = item
        elif is_as_needed(text) and salt is None and not _seasons(words, item, view):
            return None
        else:
            # Nobody has to have bought it for its name to be told.
            covers.append(phrase[:1].upper() + phrase[1:] if item is None else item.name)
    name = " and ".join([*([] if salt is None else [salt.name]), *covers])
    return TypedLine(text, None, name, covers=tuple(covers), by_target=None if salt is None else salt.id)


def _seasons(words: Sequence[Word], item: Item | None, view: DayView) -> bool:
    """Whether what some words name is a spice or a herb: an item of the kitchen, else all that the shelf has of that name."""
    if item is not None:
        return item.kind in _SEASONINGS
    offered = {one.id for one in from_shelf(words, view)}
    return bool(offered) and all(known.item.kind in _SEASONINGS for known in shelf() if known.item.id in offered)


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
        reading, sides = self, either(words, self.view)
        if sides is not None:
            # The one that was not taken may do as well: a note keeps it.
            mine = next((side for side in sides if meant.id in (one.id for one in may_mean(side, self.view))), sides[0])
            other = sides[1] if mine is sides[0] else sides[0]
            # How they are cut stands behind both.
            mine = (*mine, *(word for word in other if word not in naming(other)))
            aside = ", ".join(filter(None, [self.amount.aside, f"or {_phrase(other)}"]))
            reading, words = replace(self, amount=replace(self.amount, aside=aside)), mine
        if isinstance(meant, Recipe):
            return reading._recipe_line(meant)
        return reading._item_line(meant, Fit(tuple(word for word in words if can_be_left([word], meant)), 0))

    def named(self, words: tuple[Word, ...]) -> TypedLine:
        """The line, with the words that are no amount."""
        found = self._leftover(words)
        if found is not None:
            return found
        sides = either(words, self.view)
        if sides is not None:
            phrase = " or ".join(_phrase(side) for side in sides)
            said = say("either", "{phrase}: which? The other is kept as a note", phrase=phrase)
            said = say("either", "{phrase}: which? The other is kept as a note", phrase=phrase)
            meant_by = (may_mean(side, self.view) or self._likely(side)[:3] for side in sides)
            return self.refused(said, candidates=tuple(dict.fromkeys(one for some in meant_by for one in some)))
        some = fits(words, self.view)
        if not some:
            known = vocabulary([one.name for one in named(self.view)] + [one.item.name for one in shelf()])
            better = mended(words, known)
            if better is not None:
                words, some = better, fits(better, self.view)
        meant = best(some)
        if len(meant) == 1:
            thing, how = meant[0]
            if isinstance(thing, Recipe):
                return self._recipe_line(thing)
            return self._item_line(thing, how)
        phrase = _phrase(words)
        if meant:
            english = '"{phrase}" can be {names}: which?'
            names = " or ".join(thing.name for thing, _ in meant)
            return self.refused(
                say("which", english, phrase=phrase, names=names), unknown=phrase,
                candidates=tuple(candidate(thing) for thing, _ in meant),
            )  # fmt: skip
        said = say("called_nothing", 'nothing here is called "{phrase}"', phrase=phrase)
        exact = from_shelf(words, self.view)
        only = exact[0].id if len(exact) == 1 and not may_be_ours(words, exact[0], self.view) else None
        near = exact or near_on_shelf(words, self.view)
        likely = (*suggest(phrase, self.view), *made_here(words, self.view), *near)
        return self.refused(said, unknown=phrase, candidates=likely, only=only)

    def _likely(self, words: Sequence[Word]) -> tuple[Candidate, ...]:
        """What words that name nothing here and nothing of the shelf are like: in the kitchen, then on the shelf."""
        return (*suggest(_phrase(words), self.view), *near_on_shelf(words, self.view))

    def _how_much(self, name: str) -> TypedLine | None:
        """The question how much, where no amount was written."""
        if self.amount.amount is not None:
            return None
        return self.refused(say("how_much", "how much {name}? Write the amount before it", name=name), name)

    def _recipe_line(self, recipe: Recipe) -> TypedLine:
        asked = self._how_much(recipe.name)
        if asked is not None:
            return asked
        line = Line(self._quantity(None, ()), recipe=recipe.id, note=self._note([]))
        return TypedLine(self.text, line, recipe.name)

    def _item_line(self, item: Item, how: Fit) -> TypedLine:
        asked = self._how_much(item.name)
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
            on_shelf, beyond = _preparations(rest, shelf_preparations(item))
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
            possible = known_here or [one for one in shelf_preparations(item) if one.yield_ <= 1]
            cut_so = [one for one in possible if stems_of(one) & _SMALL]
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
                name = [word.stem for word in words_in(item.name)]
                unit = next((one for one in own if one in name), None)
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
        found: tuple[tuple[int, int], dict[str, Any], str, str] | None = None
        for name, origin, keys in _all_leftovers(self.view):
            stems = [word.stem for word in words_in(name)]
            if not stems or not typed.issuperset(stems):
                continue
            score = (len(stems), sum(word.stem in typed for word in words_in(origin)))
            # A single word must not take a line away from an item that is called so.
            if (len(stems) > 1 or score[1] > 0) and (found is None or score > found[0]):
                found = (score, {**keys, "byproduct": name}, f"{origin}: {name}", origin)
        if found is None:
            return None
        score, keys, called, origin = found
        for one in named(self.view):
            stems = [word.stem for word in words_in(one.name)]
            if len(stems) >= score[0] and typed.issuperset(stems) and one.name != origin:
                # Something bought or made that is called so in full is meant before what is left over.
                return None
        asked = self._how_much(called)
        if asked is not None:
            return asked
        quantity = self._quantity(None, ())
        if quantity.kind != "mass":
            english = "{what} is measured by weight: write its grams or kilos"
            return self.refused(say("leftover_by_weight", english, what=called), called)
        return TypedLine(self.text, Line(quantity, **keys), called)


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
        likest = [one for *score, one in scored if tuple(score) == top]
        if len({_hit(one, left) for one in likest}) < len(likest):
            break
        stems = stems_of(likest[0])
        chosen.append(likest[0])
        left = [word for word in left if word.stem not in stems]
    order = {one.id: _first_place(one, words) for one in chosen}
    return sorted(chosen, key=lambda one: order[one.id]), left


def _hit(one: Preparation, words: Sequence[Word]) -> frozenset[str]:
    """The words that name a preparation."""
    return stems_of(one).intersection(word.stem for word in words)


def _first_place(one: Preparation, words: Sequence[Word]) -> int:
    stems = stems_of(one)
    return next((place for place, word in enumerate(words) if word.stem in stems), len(words))


def _all_leftovers(view: DayView) -> Iterator[tuple[str, str, dict[str, Any]]]:
    """Each by-product by its name, where it comes from, and the keys of a line that names that."""
    for item in view.kitchen.items:
        for step in item.preparations:
            for part in step.byproducts:
                yield part.name, item.name, {"item": item.id, "preparation": step.id}
    for recipe in view.kitchen.recipes:
        for out in recipe.take_outs():
            yield out.name, recipe.name, {"recipe": recipe.id}
