"""A figure with its working: its formula in words, the numbers in it, and where each came from.

A figure's value is reckoned by its formula from its inputs; so what the cost sheet shows and what its working says cannot
differ. Each input is a figure with a working of its own, or a fact with its source.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from decimal import Decimal
from typing import Any

from potrel.core.frozen import dataclass
from potrel.core.kitchen.kinds import ZERO, Computed, plain
from potrel.core.numbers.arithmetic import Number
from potrel.core.numbers.formula import formula, formula_of, told
from potrel.core.numbers.rounding import floor

TYPED = "typed in the recipe"
SETTING = "kitchen setting"
IN_SERVING = "set in the serving"


@dataclass(frozen=True, slots=True)
class Input:
    """One number of a formula. `figure` leads to its own working, `recipe` says of which recipe where it is another; where only
    a part of that figure counts, `share` says how much.

    `stands_for` is its name in the formula. Where it rests on a price, `item` and `offer` say on which, and `list` is the
    number of the supplier's list that it was read from. `unit` is as in a figure.
    """

    name: str
    value: Computed | None
    unit: str
    source: str
    figure: str | None = None
    recipe: str | None = None
    stands_for: str = ""
    item: str | None = None
    offer: str | None = None
    list: int | None = None
    share: Computed | None = None

    def standing_for(self, name: str) -> Input:
        """The same, which has just been made, under its name in the formula that it was made for."""
        object.__setattr__(self, "stands_for", name)
        return self


@dataclass(frozen=True, slots=True)
class Figure:
    """A figure and its working. `unit` is g, kg, ml, min, s, kWh, share, money, money/kg, money/l, money/h, money/kWh or
    empty for a plain number; `code` stands for its formula in any language. Where it is `at_least` so much, something that
    belongs to it is not known yet.
    """

    recipe: str
    figure: str
    title: str
    value: Computed | None
    unit: str
    formula: str
    inputs: Sequence[Input] = ()
    note: str | None = None
    code: str = ""
    at_least: bool = False


@dataclass(frozen=True, slots=True)
class Place:
    """Where a figure stands: whose it is, its path, its title."""

    recipe: str
    figure: str
    title: str


def reckoned(
    function: Callable[..., Number],
    place: Place,
    unit: str,
    *,
    note: str | None = None,
    known: bool = True,
    **inputs: Input | Sequence[Input] | None,
) -> Figure:
    """The figure that a formula makes of its inputs, which are given by the names of the formula's parameters.

    It has no value where a single input has none, where it is not `known`, or where it would divide by nothing. Of a group
    those without a value count nothing: what is made of them is a lower bound, and its recipe says that it is incomplete.
    """
    defined = formula_of(function)
    listed: list[Input] = []
    values: dict[str, Any] = {}
    said = {name: given for name, given in inputs.items() if given is not None}
    for name, given in said.items():
        if isinstance(given, Input):
            listed.append(given.standing_for(name))
            values[name] = given.value
            known = known and given.value is not None
        else:
            listed += [one.standing_for(name) for one in given]
            values[name] = [one.value for one in given if one.value is not None]
    value = _reckon(function, values) if known else None
    unsaid = tuple(name for name, given in said.items() if not isinstance(given, Input) and not given)
    unsaid += tuple(name for name in defined.neutral if name not in said)
    words = told(defined.words, unsaid) if unsaid else defined.words
    return Figure(place.recipe, place.figure, place.title, value, unit, words, listed, note, defined.code)


def _reckon(function: Callable[..., Number], values: dict[str, Any]) -> Number | None:
    try:
        return ZERO + function(**values)
    except ArithmeticError:
        # A share of nothing, a kilo of an empty pot.
        return None


@formula("what is stated")
def as_stated(what_is_stated: Number) -> Number:
    """A figure that is a fact."""
    return what_is_stated


@formula("0")
def nothing() -> Number:
    """A figure that is nothing, whatever else there is."""
    return ZERO


@formula("whole part of portions")
def whole_ones(portions: Number) -> Number:
    """The whole ones of some portions."""
    return floor(portions)


@formula("kilos * 1000")
def in_grams(kilos: Number) -> Number:
    """A mass [g] by its kilos."""
    return kilos * 1000


def unknown(place: Place, unit: str, message: str) -> Figure:
    """A figure that is not known, and why."""
    return Figure(place.recipe, place.figure, place.title, None, unit, "not known yet", (), message)


def in_kilos(grams: Input) -> Input:
    """A mass in grams as a number of kilos."""
    return replace(grams, value=None if grams.value is None else grams.value / 1000, unit="kg")


def percent(share: Decimal) -> str:
    """A share in words, such as 28.5%."""
    return f"{plain(share * 100)}%"
