"""Lines "to taste": of salt as much as the kitchen wants in a finished soup, of all else nothing but a name.

What is not weighed costs what the seasoning allowance sets aside for it, and that names it: who eats has to know.
"""

from __future__ import annotations

import re
from collections.abc import Iterable
from dataclasses import replace
from decimal import Decimal

from potrel.core.cost.costing import Costing
from potrel.core.kitchen.kinds import plain
from potrel.core.kitchen.lines import Line
from potrel.core.kitchen.naming import number_words
from potrel.core.kitchen.quantities import Quantity, parse_quantity
from potrel.core.kitchen.recipes import Recipe
from potrel.core.numbers.arithmetic import Number, surely
from potrel.core.numbers.rounding import half_even, typical
from potrel.core.numbers.units import GRAMS, canonical, is_known_count
from potrel.core.pot.held import SALT

_SAID = re.compile(
    r"[\s,;(–-]*\b(?:or )?(?:to (?:your )?taste|(?:as|if|when) (?:needed|required|wanted)|according to taste)\b[\s).]*$",
    re.IGNORECASE,
)
_AND = re.compile(r"\s*(?:,|&|\+|\band\b)\s*(?:and\s+)?", re.IGNORECASE)
# "Salt and pepper" is always to taste.
_SALT_AND_PEPPER = re.compile(
    r"^(?:[^\W\d_]+ )?salt\s*(?:,|&|and)\s*(?:(?:freshly|ground|milled|cracked|black|white) )*pepper$", re.I
)
_SOME = re.compile(r"^a little\b", re.IGNORECASE)
_LOOSE = frozenset({"few", "several", "drop", "drops"})
_HOW_GROUND = re.compile(r"\b(?:a little|some|freshly|ground|milled|cracked|grated|more|extra|plus)\b\s*", re.IGNORECASE)


def _is_amount(text: str) -> bool:
    """Whether a text begins with an amount in words: "two teaspoons salt", "pinch of salt", "few drops of oil"."""
    first, _, _ = text.lower().partition(" ")
    is_much = _SOME.match(text) is None and first in number_words()
    return is_much or first in _LOOSE or is_known_count(canonical(first))


def is_as_needed(text: str) -> bool:
    """Whether a line says "as needed", and not "to taste": of water or flour that is an amount which nobody wrote.

    >>> is_as_needed("flour, as needed"), is_as_needed("salt to taste")
    (True, False)
    """
    said = _SAID.search(text.strip())
    return said is not None and "taste" not in said[0].lower()


def named_to_taste(text: str) -> list[str] | None:
    """The things that a line puts in to taste, each by its words; None where it is no such line.

    >>> named_to_taste("Salt and freshly ground black pepper, to taste"), named_to_taste("salt & pepper")
    (['Salt', 'black pepper'], ['salt', 'pepper'])
    >>> named_to_taste("1 tsp salt, or to taste"), named_to_taste("salt")
    (None, None)
    >>> named_to_taste("a pinch of salt, or to taste"), named_to_taste("a little salt, to taste")
    (None, ['salt'])
    """
    bare = text.strip()
    said = _SAID.search(bare)
    rest = bare if said is None else bare[: said.start()].strip()
    if (said is None and not _SALT_AND_PEPPER.match(rest)) or any(sign.isnumeric() for sign in rest) or _is_amount(rest):
        # What somebody stated stays as stated: "a pinch of salt, or to taste".
        return None
    found = [" ".join(_HOW_GROUND.sub("", part).split()) for part in _AND.split(rest)]
    return [one for one in found if one] or None


def salted(recipe: Recipe, stage_id: str, salt: str, costing: Costing) -> Line | None:
    """So much of a salt put into a stage that the finished batch has the kitchen's target of it; None where nobody can tell.

    That is where something in the pot has no known salt, or the batch no known mass. Nothing is added to what is salty enough.
    """
    before = _state(costing.replacing(recipe), recipe.id)
    if before is None:
        return None
    (salt_before, mass_before), target = before, costing.view.settings.salt_target
    trial = half_even(max(target * typical(mass_before), Decimal(1)), 1)
    after = _state(costing.replacing(with_line(recipe, stage_id, _line(f"{plain(trial)} g", salt))), recipe.id)
    if after is None:
        return None
    # What of a gram stays in the batch, and what it weighs there: a sieve and a spoon carry salt away.
    kept, heavier = (after[0] - salt_before) / trial, (after[1] - mass_before) / trial
    gained = kept - target * heavier
    missing = target * mass_before - salt_before
    if not surely(gained > 0) or not surely(missing > 0):
        return None
    weighed = _as_weighed(typical(missing / gained), costing)
    return _line(str(weighed), salt) if weighed.amount > 0 else None


def _state(costing: Costing, recipe_id: str) -> tuple[Number, Number] | None:
    """The salt and the mass of a finished batch [g]; None where either is not known."""
    one = costing.of(recipe_id)
    salt = costing.content(recipe_id).batch.of(SALT)
    return None if salt is None or not one.balance.mass_known or not one.balance.yield_known else (salt, one.balance.mass)


def _as_weighed(grams: Decimal, costing: Costing) -> Quantity:
    """So much as it is weighed in this kitchen: whole grams, or hundredths of an ounce."""
    if costing.view.settings.shown_units == "us":
        return parse_quantity(f"{plain(half_even(grams / GRAMS['oz'], 2))} oz")
    return parse_quantity(f"{plain(half_even(grams, 0))} g")


def _line(quantity: str, salt: str) -> Line:
    return Line(parse_quantity(quantity), item=salt, note="to taste")


def with_line(recipe: Recipe, stage_id: str, line: Line) -> Recipe:
    """A recipe with one more line in a stage."""
    stages = (replace(one, lines=(*one.lines, line)) if one.id == stage_id else one for one in recipe.stages)
    return replace(recipe, stages=tuple(stages))


def covering(recipe: Recipe, names: Iterable[str]) -> Recipe:
    """A recipe whose seasoning allowance stands for some more things."""
    known = {one.casefold() for one in recipe.allowance_covers}
    more = [one for one in dict.fromkeys(names) if one.casefold() not in known]
    return replace(recipe, allowance_covers=(*recipe.allowance_covers, *more)) if more else recipe
