"""What of a pot from paper hangs on all that is in it: liquid that covers, a reduction of its liquid, and salt to taste."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from decimal import Decimal

from potrel.core.cost.costing import Costing
from potrel.core.kitchen.kinds import ONE, plain
from potrel.core.kitchen.lines import Line
from potrel.core.kitchen.quantities import parse_quantity
from potrel.core.kitchen.recipes import KEEP, Change, Recipe
from potrel.core.numbers.arithmetic import total
from potrel.core.numbers.rounding import half_even, typical
from potrel.core.numbers.units import GRAMS
from potrel.core.pot.balance import reach
from potrel.core.pot.by_eye import cover_of, poured
from potrel.core.pot.content import stays_whole
from potrel.core.pot.day_view import DayView
from potrel.core.pot.line_mass import LineMass
from potrel.core.sentences import Sentence, say
from potrel.core.words.pasted import Pasted, PastedLine
from potrel.core.words.to_taste import covering, salted, with_line

_PLACES = 4


def covered(
    recipe: Recipe, lines: Sequence[PastedLine], vessels: Mapping[str, str], view: DayView
) -> tuple[Recipe, list[PastedLine]]:
    """The pot with so much in place of each line of liquid "to cover" as covers what lies in its vessel; `vessels` are by the
    keys of those lines. What cannot be reckoned is a question again, and is not in the pot.
    """
    found: list[PastedLine] = []
    for one in lines:
        vessel, line = vessels.get(one.key), one.typed.line
        if vessel is None or line is None:
            found.append(one)
            continue
        stages = list(recipe.stages)
        stages[one.stage] = replace(stages[one.stage], vessel=vessel)
        recipe = replace(recipe, stages=tuple(stages))
        here = recipe.stages[one.stage]
        place = next(place for place, other in enumerate(here.lines) if replace(other, id=line.id) == line)
        cover = cover_of(recipe, here, view)
        if isinstance(cover, Sentence):
            now: tuple[Line, ...] = ()
            typed = replace(one.typed, line=None, problem=cover.english, problem_code=cover.code, params=cover.params)
            found.append(replace(one, typed=typed, is_open=True))
        else:
            line = replace(line, quantity=parse_quantity(poured(cover.litres, view)))
            now = (line,)
            found.append(replace(one, typed=replace(one.typed, line=line)))
        stages[one.stage] = replace(here, lines=(*here.lines[:place], *now, *here.lines[place + 1 :]))
        recipe = replace(recipe, stages=tuple(stages))
    return recipe, found


def seasoned(pasted: Pasted, costing: Costing) -> tuple[Pasted, Costing]:
    """A pot with what is put in to taste: salt by the kitchen's target, all else by its name in the seasoning allowance.

    While a line waits nobody knows how much there is to salt.
    """
    recipe, lines = pasted.recipe, list(pasted.lines)
    for place, one in enumerate(lines):
        if not one.typed.is_to_taste:
            continue
        covers, salt = one.typed.covers, one.typed.by_target
        if salt is not None and pasted.open == 0:
            stage = recipe.stages[one.stage].id
            line = salted(recipe, stage, salt, costing)
            if line is None:
                covers = (costing.view.name_of(salt, None), *covers)
            else:
                recipe = with_line(recipe, stage, line)
            lines[place] = replace(one, typed=replace(one.typed, line=line, covers=covers, by_target=None))
        recipe = covering(recipe, covers)
    if recipe != pasted.recipe:
        costing = costing.replacing(recipe)
    return replace(pasted, recipe=recipe, lines=lines), costing


def reduced(pasted: Pasted, costing: Costing) -> tuple[Pasted, Costing]:
    """A pot reduced by a share, or to so much, loses that of its liquid: what is solid in it stays as it is."""
    recipe = pasted.recipe
    said = {place: one.change for place, one in enumerate(recipe.stages) if one.change.rule in ("yield", "reduce")}
    if not said:
        return pasted, costing
    for place in said:
        recipe = _with_change(recipe, place, KEEP)
    costing = costing.replacing(recipe)
    # While nobody knows how much there is, and how much of it is liquid, how far it is reduced stays a question.
    if costing.of(recipe.id).balance.mass_known:
        for place, change in said.items():
            there, solid = _there(place, costing, recipe.id)
            lies = min(solid, there)
            whole, told = _with_solids(change, there, lies, costing.view, recipe) if lies > 0 else (change, None)
            recipe = _with_change(recipe, place, whole, told)
            costing = costing.replacing(recipe)
    return replace(pasted, recipe=recipe), costing


def _with_solids(change: Change, there: Decimal, solid: Decimal, view: DayView, recipe: Recipe) -> tuple[Change, Sentence]:
    """A reduction of what is liquid as one of all that is there, so much of it solid [g]; and how that is told."""
    if change.to is None:
        left = ONE if change.yield_ is None else change.yield_
        of_all = half_even(1 - (1 - left) * (there - solid) / there, _PLACES)
        english = "{share}% of the liquid goes up here; with what is solid, {left}% of all is left"
        share, all_left = (plain(half_even(100 * one, 0)) for one in (1 - left, of_all))
        return replace(change, yield_=of_all), say("liquid_reduced", english, share=share, left=all_left)
    unit = "lb" if view.system == "us" else "kg"
    whole = half_even((solid + view.weights.of_bulk(change.to, recipe.density)) / GRAMS[unit], 2)
    to = parse_quantity(f"{plain(whole)} {unit}")
    english = "the liquid is reduced to {to} here; with what is solid, {whole} are left"
    return replace(change, to=to), say("liquid_reduced_to", english, to=str(change.to), whole=str(to))


def _with_change(recipe: Recipe, place: int, change: Change, told: Sentence | None = None) -> Recipe:
    """A recipe of which a stage changes otherwise, with what is told of that behind its note."""
    stage = recipe.stages[place]
    note = stage.note if told is None else "\n".join([*filter(None, [stage.note]), told.english])
    return replace(
        recipe, stages=(*recipe.stages[:place], replace(stage, change=change, note=note), *recipe.stages[place + 1 :])
    )


def _there(place: int, costing: Costing, recipe_id: str) -> tuple[Decimal, Decimal]:
    """What is in a stage before it changes [g], and what of it lies whole in the liquid: meat and roots, not cream or flour."""
    balance, view = costing.of(recipe_id).balance, costing.view
    stage = balance.recipe.stages[place]
    in_it = reach(balance.recipe.stages, stage, view)
    before = [one for one in balance.recipe.stages if one.id in in_it and one.id != stage.id]
    out = {line for one in before for taken in one.take_out for line in taken.of}
    solid = total(
        line.own * in_it[line.stage]
        for line in balance.lines if line.stage in in_it and line.id not in out and _is_whole(line, view)
    )  # fmt: skip
    return typical(balance.stages[place].mass_in), typical(solid)


def _is_whole(line: LineMass, view: DayView) -> bool:
    item = view.items.get(line.item or "")
    return item is not None and stays_whole(item)
