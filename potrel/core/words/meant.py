"""What typed words may mean in a kitchen: its items and recipes, what the shelf knows, and what is called alike."""

from __future__ import annotations

import difflib
from collections.abc import Iterable, Iterator, Sequence
from typing import Literal

from potrel.core.frozen import dataclass
from potrel.core.kitchen.items import Item, Preparation
from potrel.core.kitchen.kinds import Name
from potrel.core.kitchen.naming import Fit, Word, fit, line_words, shares_a_word, words_in
from potrel.core.kitchen.recipes import Recipe
from potrel.core.numbers.units import canonical, is_known_count, kind_of
from potrel.core.pot.day_view import DayView
from potrel.core.trim.shelf import known_of, shelf

_LONGEST_PHRASE = 80
_SAME_START = 2


@dataclass(frozen=True, slots=True)
class Candidate:
    """What typed words may mean: an item or recipe of the kitchen, an ingredient of the shelf, a preparation of the item, the
    vessel that it lies in, a base that it may make. `allergens` are those that a label, of something of the shelf, is to be
    read for.
    """

    id: str
    name: str
    kind: Literal["item", "recipe", "shelf", "preparation", "vessel", "base"]
    allergens: tuple[Name, ...] = ()


def naming(words: Iterable[Word]) -> list[Word]:
    """The words that may be a name: not a cut, nor what stands beside one."""
    beside = line_words("cut") | line_words("beside")
    return [word for word in words if word.stem not in beside]


def may_mean(words: Sequence[Word], view: DayView) -> tuple[Candidate, ...]:
    """All that some words may name: in the kitchen, else on the shelf."""
    found = tuple(candidate(thing) for thing, _ in best(fits(words, view)))
    return found or from_shelf(words, view)


def either(words: Sequence[Word], view: DayView) -> tuple[Sequence[Word], Sequence[Word]] | None:
    """The two things of a line that names one or the other: "butter or olive oil", "vegetable or chicken stock".

    None where it names but one: "chopped or sliced onions", "peas, fresh or frozen".
    """
    place = next((place for place, word in enumerate(words) if word.stem == "or"), None)
    if place is None:
        return None
    left, right = words[:place], list(words[place + 1 :])
    while right and (right[0].typed.isdigit() or kind_of(canonical(right[0].typed)) != "count"):
        # How much of the other would be taken is no name.
        right = right[1:]
    if not naming(left) or not naming(right):
        return None
    if any(how.untyped == 0 and not how.left for _, how in fits(words, view)):
        # "Sweet or hot paprika" may be what a thing is called.
        return None
    if may_mean(left, view):
        return left, right
    # What both are may stand behind the second alone.
    both = (*left, right[-1])
    names = [*(one.name for one in named(view)), *(known.item.name for known in shelf())]
    if len(right) > 1 and any(shares_a_word(both, name) > 1 for name in names):
        return both, right
    return (left, right) if may_mean(right, view) else None


def named(view: DayView) -> Iterator[Item | Recipe]:
    yield from view.kitchen.items
    yield from view.kitchen.recipes


def candidate(thing: Item | Recipe) -> Candidate:
    return Candidate(thing.id, thing.name, "recipe" if isinstance(thing, Recipe) else "item")


def fits(words: Sequence[Word], view: DayView) -> list[tuple[Item | Recipe, Fit]]:
    """All that the words may name. A recipe on sale is never a guess: all of its name has to be typed."""
    found: list[tuple[Item | Recipe, Fit]] = []
    beside = line_words("beside")
    for item in view.kitchen.items:
        how = fit(words, item.name)
        if how is not None and can_be_left(how.left, item):
            found.append((item, how))
    # What is put away is only meant where nothing else is.
    found = [one for one in found if isinstance(one[0], Item) and not one[0].archived] or found
    for recipe in view.kitchen.recipes:
        how = fit(words, recipe.name)
        if how is not None and all(word.stem in beside for word in how.left) and not (recipe.servings and how.untyped):
            found.append((recipe, how))
    return found


def can_be_left(left: Iterable[Word], item: Item) -> bool:
    """Whether words beside an item's name may be how it is prepared, cut or counted."""
    prepared = {one for known in (*item.preparations, *shelf_preparations(item)) for one in stems_of(known)}
    own = {canonical(unit) for unit in item.measures}
    beside = line_words("cut") | line_words("beside") | prepared | {"drained", "canned"}
    parts = line_words("part")
    return all(
        word.stem in beside or (unit := canonical(word.typed)) in own
        # Turkey is counted by the piece, and its breast is another thing.
        or (is_known_count(unit) and word.stem not in parts)
        for word in left
    )  # fmt: skip


def best(fits: list[tuple[Item | Recipe, Fit]]) -> list[tuple[Item | Recipe, Fit]]:
    """What is meant, or all that may be: a full name before a part of one, an item before a recipe."""
    for exact in (True, False):
        for kind in (Item, Recipe):
            some = [one for one in fits if (one[1].untyped == 0) == exact and isinstance(one[0], kind)]
            if not some:
                continue
            fewest = min(len(how.left) for _, how in some)
            return [one for one in some if len(one[1].left) == fewest]
    return []


def shelf_preparations(item: Item) -> tuple[Preparation, ...]:
    known = known_of(item)
    if known is None:
        return ()
    have = {one.id for one in item.preparations}
    return tuple(one for one in known.item.preparations if one.id not in have)


def stems_of(one: Preparation) -> frozenset[str]:
    return frozenset(word.stem for word in (*words_in(one.name), *words_in(one.id.replace("-", " "))))


def from_shelf(words: Sequence[Word], view: DayView) -> tuple[Candidate, ...]:
    """What of the shelf the words name, that the kitchen does not have yet."""
    found = [
        (how.untyped, known.item)
        for known in shelf()
        if (how := fit(words, known.item.name)) is not None
        and can_be_left(how.left, known.item)
        and view.item_called(known.item.name) is None
    ]
    found.sort(key=lambda one: (one[0], one[1].name))
    return tuple(_of_shelf(item) for _, item in found[:4])


def _of_shelf(item: Item) -> Candidate:
    return Candidate(item.id, item.name, "shelf", item.allergens)


def near_on_shelf(words: Sequence[Word], view: DayView, *, by_any: bool = False) -> tuple[Candidate, ...]:
    """What of the shelf is called like the words, and is not in the kitchen: of "russet potatoes" the potatoes.

    What the last of the words names is what it is, or `by_any` what any of them does, as in a list that turns names about;
    the more of the others a name shares, the likelier.
    """
    typed = [word for word in naming(words) if word.stem not in line_words("descriptive")]
    if not typed:
        return ()
    heads = typed if by_any else typed[-1:]
    found = [
        # A cut may be part of a name: split peas.
        (-shares_a_word(words, known.item.name), *_beyond(words, known.item.name), known.item)
        for known in shelf()
        if shares_a_word(heads, known.item.name) and view.item_called(known.item.name) is None
    ]
    found.sort(key=lambda one: (*one[:3], one[3].name))
    return tuple(_of_shelf(one[3]) for one in found[:4])


def may_be_ours(words: Sequence[Word], of_shelf: Candidate, view: DayView) -> bool:
    """Whether the kitchen has an item of a longer name that may be what was typed, as it may be one of the shelf: of "split
    peas" its green split peas, and not its black-eyed ones.
    """
    called, parts = {word.stem for word in words_in(of_shelf.name)}, line_words("part")
    # A cut may be part of a name.
    typed = {word.stem for word in naming(words)} | ({word.stem for word in words} & called)
    ours = ({word.stem for word in words_in(item.name)} for item in view.kitchen.items if not item.archived)
    return any(typed <= stems and stems.isdisjoint(parts - typed) for stems in ours)


def _beyond(words: Sequence[Word], name: str) -> tuple[int, int]:
    """How many words of a name that were not typed make it something else, and how many of them another thing altogether."""
    typed, parts = {word.stem for word in words}, line_words("part")
    left = [word.stem for word in words_in(name) if word.stem not in typed and word.stem not in line_words("descriptive")]
    return len(left), sum(one not in parts for one in left)


def suggest(phrase: str, view: DayView, most: int = 8) -> tuple[Candidate, ...]:
    """The items and recipes whose names are most like a phrase, the likest first."""
    # No name is like a whole page; to compare one with every name would take long.
    phrase = phrase[:_LONGEST_PHRASE]
    wanted, words = phrase.casefold(), words_in(phrase)
    starts = tuple({word.stem[:_SAME_START] for word in words})
    # Only what shares a word or the start of one is compared letter by letter: that takes its time.
    near = [one for one in named(view) if any(part.startswith(starts) for part in one.name.casefold().split())]
    scored = [(shares_a_word(words, one.name) + _likeness(wanted, one.name), candidate(one)) for one in near]
    likely = sorted((pair for pair in scored if pair[0] > 0.6), key=lambda pair: (-pair[0], pair[1].name))
    return tuple(candidate for _, candidate in likely[:most])


def _likeness(wanted: str, name: str) -> float:
    name = name.casefold()
    if wanted in name:
        return 1.0
    parts = [name, *name.split()]
    return max(difflib.SequenceMatcher(None, wanted, part).ratio() for part in parts)
