"""Variants of a pot side by side: which lines differ, and what each costs, gives, takes and holds."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from decimal import Decimal
from typing import NamedTuple

from potrel.core.cost.costed_recipe import CostedRecipe
from potrel.core.cost.costing import Costing
from potrel.core.cost.inside import Inside
from potrel.core.cost.portion import Portion
from potrel.core.errors import BadDocument
from potrel.core.frozen import dataclass
from potrel.core.kitchen.kinds import ZERO, Computed, Flag, Id, Name
from potrel.core.kitchen.recipes import Recipe
from potrel.core.numbers.arithmetic import Number
from potrel.core.pot.line_mass import LineMass
from potrel.core.rooms.allergens import allergens_of
from potrel.core.rooms.diets import Verdict, verdicts
from potrel.core.sentences import say

FEWEST, MOST = 2, 4


class Chosen(NamedTuple):
    """One of those that are compared: the kitchen in which it is costed, its recipe, and its revision where that is an earlier
    one.
    """

    costing: Costing
    recipe_id: str
    revision: int | None = None


@dataclass(frozen=True, slots=True)
class Column:
    """One variant: its batch, and a portion of the size that all have, else of its first one. None where that is not known.

    Masses [g], money, minutes (attended; `elapsed` that of all stages one after the other), energy [kWh], shares. A figure of
    an incomplete one is at least so much.
    """

    recipe: Id
    revision: int | None
    name: Name
    variant_of: Id | None
    complete: Flag
    batch_g: Computed | None
    batch_cost: Computed
    serving: Id | None
    serving_name: str
    serving_size: str
    food_cost: Computed | None
    portions: Computed | None
    price: Computed | None
    share: Computed | None
    target: Computed | None
    contribution: Computed | None
    attended_minutes: Computed
    elapsed_minutes: Computed
    energy_kwh: Computed | None
    energy_kcal: Computed | None
    salt_share: Computed | None
    thickness_g_per_l: Computed | None
    thickness_at_least: Flag
    allergens: list[str]
    to_read: list[str]
    diets: list[Verdict]


@dataclass(frozen=True, slots=True)
class Cell:
    """What one variant takes of a thing: to buy [g], in the pot [g] and what that costs [money]."""

    ap_g: Computed
    ep_g: Computed
    cost: Computed | None


@dataclass(frozen=True, slots=True)
class LineRow:
    """One thing, as it is prepared, in each variant; None where it is not in it. Whether they `differ` in it, by mass."""

    name: str
    how: str
    cells: list[Cell | None]
    differ: Flag


@dataclass(frozen=True, slots=True)
class StageRow:
    """The stages of the variants place by place, in words; "" where one has none there."""

    cells: list[str]
    differ: Flag


@dataclass(frozen=True, slots=True)
class SideBySide:
    """Two to four variants."""

    columns: list[Column]
    lines: list[LineRow]
    stages: list[StageRow]


# What stands in one row: the item or recipe, what is left of it, and how it is prepared.
_What = tuple[str, str, str, tuple[str, ...]]


def side_by_side(chosen: Sequence[Chosen]) -> SideBySide:
    """Compare two to four recipes or revisions; BadDocument for fewer or more."""
    if not FEWEST <= len(chosen) <= MOST:
        raise BadDocument("of", say("two_to_four", "two to four pots stand side by side, not {count}", count=len(chosen)))
    every = [one.costing.of(one.recipe_id) for one in chosen]
    shared = set.intersection(*({portion.serving.id for portion in one.portions} for one in every))
    columns = [_column(of, one, shared) for of, one in zip(chosen, every, strict=True)]
    return SideBySide(columns, list(_lines(chosen, every)), list(_stages(every)))


def _column(of: Chosen, one: CostedRecipe, shared: set[str]) -> Column:
    view, recipe = of.costing.view, one.recipe
    inside, row = Inside(of.costing, one), allergens_of(view, one)
    portion = next((each for each in one.portions if each.serving.id in shared), one.portions[0] if one.portions else None)
    known = one.balance.yield_known
    energy = one.needs.energy if one.needs.energy_known and one.needs.energy > 0 else None
    return Column(
        recipe.id, of.revision, recipe.name, recipe.variant_of, not one.problems, one.balance.mass if known else None, one.cost,
        *_portion(portion),
        one.needs.minutes, sum((stage.minutes or ZERO for stage in recipe.stages), ZERO), energy,
        None if portion is None else inside.in_portion(portion, "energy_kcal"), inside.salt_share, inside.thickness,
        inside.thickness_at_least,
        [cell.group for cell in row.cells], row.asked, verdicts(one, view),
    )  # fmt: skip


_Figures = tuple[
    Id | None, str, str, Number | None, Number | None, Number | None, Number | None, Number | None, Number | None
]  # fmt: skip


def _portion(portion: Portion | None) -> _Figures:
    if portion is None:
        return None, "", "", None, None, None, None, None, None
    serving, priced = portion.serving, portion.priced
    return (
        serving.id, serving.name, serving.size.text, portion.food_cost, portion.portions, priced.price, priced.share,
        priced.target, priced.contribution,
    )  # fmt: skip


def _lines(chosen: Sequence[Chosen], every: Sequence[CostedRecipe]) -> Iterator[LineRow]:
    """What goes into each, all of a thing together wherever it goes in; in the order in which it is met."""
    each = [_together(of, one) for of, one in zip(chosen, every, strict=True)]
    for what in dict.fromkeys(what for found in each for what in found):
        cells = [found.get(what) for found in each]
        masses = {None if cell is None else cell.ep_g for cell in cells}
        item, recipe, byproduct, steps = what
        view = next(of.costing.view for of, cell in zip(chosen, cells, strict=True) if cell is not None)
        name = view.name_of(item or None, recipe or None)
        names = {one.id: one.name for one in view.items[item].preparations} if item in view.items else {}
        how = ", ".join(names.get(step, step) for step in steps)
        yield LineRow(f"{name}: {byproduct}" if byproduct else name, how, cells, len(masses) > 1)


def _together(of: Chosen, one: CostedRecipe) -> Mapping[_What, Cell]:
    found: dict[_What, Cell] = {}
    for line in one.balance.lines:
        cost = of.costing.line_cost(line)
        what, before = _what(line), found.get(_what(line))
        if before is None:
            found[what] = Cell(line.ap, line.ep, cost)
        else:
            costs = None if cost is None or before.cost is None else before.cost + cost
            found[what] = Cell(before.ap_g + line.ap, before.ep_g + line.ep, costs)
    return found


def _what(line: LineMass) -> _What:
    steps = () if line.line is None else line.line.preparations
    return line.item or "", line.recipe or "", line.byproduct or "", steps


def _stages(every: Sequence[CostedRecipe]) -> Iterator[StageRow]:
    for place in range(max(len(one.recipe.stages) for one in every)):
        cells = [_stage(one.recipe, place) for one in every]
        yield StageRow(cells, len(set(cells)) > 1)


def _stage(recipe: Recipe, place: int) -> str:
    if place >= len(recipe.stages):
        return ""
    stage = recipe.stages[place]
    time = "" if stage.minutes is None else f"{_plain(stage.minutes)} min"
    return ", ".join(filter(None, [stage.name or stage.id, stage.method if stage.method != stage.name else "", time]))


def _plain(value: Decimal) -> str:
    return f"{value.normalize():f}"
