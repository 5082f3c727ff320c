"""The minutes that preparing a recipe's lines takes, by what the kitchen weighed: so many a kilo of what enters each."""

from __future__ import annotations

from collections.abc import Sequence

from potrel.core.kitchen.recipes import Recipe
from potrel.core.numbers.arithmetic import Number
from potrel.core.numbers.formula import formula
from potrel.core.pot.day_view import DayView
from potrel.core.pot.line_mass import LineMass
from potrel.core.sentences import Sentence


@formula("kilos that enter * minutes a kilo")
def minutes_of_step(kilos_that_enter: Number, minutes_a_kilo: Number) -> Number:
    """The labour [min] of one preparation."""
    return kilos_that_enter * minutes_a_kilo


def minutes_of_line(line: LineMass, view: DayView) -> Number:
    """The labour [min] of preparing a line, each step by the mass that enters it; what nobody timed counts nothing."""
    minutes, item = view.zero, view.items.get(line.item or "")
    if line.line is None or item is None or not line.known or line.byproduct is not None or not line.line.preparations:
        return minutes
    steps = view.steps(item, line.line.preparations)
    if isinstance(steps, Sentence):
        return minutes
    enters = line.ap / 1000
    for step in steps:
        if step.preparation.minutes_per_kg is not None:
            minutes = minutes + minutes_of_step(enters, view.number(step.preparation.minutes_per_kg))
        enters = enters * step.yield_
    return minutes


def prep_minutes(recipe: Recipe, lines: Sequence[LineMass], view: DayView) -> Number:
    """The labour [min] of preparing a stage's lines, where the recipe says that it counts."""
    minutes = view.zero
    for line in lines if recipe.prep_minutes else ():
        minutes = minutes + minutes_of_line(line, view)
    return minutes
