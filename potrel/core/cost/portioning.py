"""Portioning: how many portions a batch gives, and how much each gets of what was kept of the pot for garnish."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import replace

from potrel.core.errors import Problem
from potrel.core.kitchen.recipes import Recipe
from potrel.core.kitchen.servings import Serving
from potrel.core.numbers.arithmetic import Number, larger, smaller, surely
from potrel.core.numbers.formula import formula
from potrel.core.pot.balance import Balance
from potrel.core.pot.day_view import DayView
from potrel.core.pot.line_mass import LineMass, line_mass


@formula("batch yield * (1 - serving loss) / size")
def portions_of(batch_yield: Number, serving_loss: Number, size: Number) -> Number:
    """How many portions a batch gives, exactly."""
    return batch_yield * (1 - serving_loss) / size


@formula("the smaller of (asked for, kept / portions)")
def given_of(asked_for: Number, kept: Number, portions: Number) -> Number:
    """What a portion gets [g] of what is kept for garnish: no more than there is."""
    return smaller(asked_for, kept / portions)


@formula("given to a portion * portions / kept")
def share_handed_out(given_to_a_portion: Number, portions: Number, kept: Number) -> Number:
    """What share of what is kept the portions of a serving get."""
    return given_to_a_portion * portions / kept


def size_of(serving: Serving, recipe: Recipe, view: DayView) -> Number:
    """The mass [g] of a portion."""
    return view.ask("size", recipe.id, serving.id, view.weights.of_bulk(serving.size, recipe.density))


def how_many(serving: Serving, balance: Balance, view: DayView) -> Number | None:
    """How many portions a batch gives; None where that is not known, or it gives none."""
    if not balance.yield_known:
        return None
    loss = view.ask("setting", "serving_loss", "", view.settings.serving_loss)
    portions = portions_of(balance.mass, loss, size_of(serving, balance.recipe, view))
    return portions if surely(portions > 0) else None


def beside(serving: Serving, recipe: Recipe, view: DayView) -> Iterator[tuple[str, LineMass | Problem]]:
    """What goes with each portion, with what it is there for: of what not every guest takes, what one takes on the average."""
    for place, (role, line) in enumerate(serving.extras, 1):
        whole = line_mass(line, line.id or f"{role}-{place}", f"{recipe.id}/{serving.id}", None, view)
        yield role, whole if line.taken_by == 1 or isinstance(whole, Problem) else whole.times(view.number(line.taken_by))


def kept_masses(balance: Balance) -> dict[str, Number]:
    """How much [g] is kept for the garnish of the recipe's own portions, by its name."""
    found: dict[str, Number] = {}
    taken = [out for here in balance.stages for out in here.taken_out]
    kept = balance.recipe.kept_for_garnish if taken else frozenset()
    for out in (out for out in taken if out.take_out.name in kept):
        found[out.take_out.name] = found.get(out.take_out.name, out.mass * 0) + out.mass
    return found


def given(line: LineMass | Problem, kept: Mapping[str, Number], portions: Number | None, recipe: Recipe) -> LineMass | Problem:
    """What a portion gets of a line beside the pot: of what is kept of this pot no more than there is."""
    if isinstance(line, Problem) or portions is None or line.recipe != recipe.id or line.byproduct is None:
        return line
    return replace(line, ep=given_of(line.ep, kept[line.byproduct], portions))


def handed_out(balance: Balance, kept: Mapping[str, Number], view: DayView) -> dict[str, Number]:
    """The share of what is `kept` for garnish, by its name, that goes onto portions.

    Every serving is told as if all of the batch were sold in it, so the one counts that gives the largest share. The rest is
    left over, and its cost stays with the batch.
    """
    recipe = balance.recipe
    found = dict.fromkeys(kept, view.zero)
    for serving in recipe.servings if kept else ():
        portions = how_many(serving, balance, view)
        for _, line in beside(serving, recipe, view):
            gets = given(line, kept, portions, recipe)
            if gets is not line and portions is not None and isinstance(gets, LineMass) and gets.byproduct is not None:
                whole = kept[gets.byproduct]
                if surely(whole > 0):
                    found[gets.byproduct] = larger(found[gets.byproduct], share_handed_out(gets.ep, portions, whole))
    return found
