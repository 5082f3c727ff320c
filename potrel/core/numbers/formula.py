"""Formulas: each is defined once, a function of its numbers beside the same in words.

The engine calls the function; a working shows the words and the numbers that go into them. That both say the same is
checked for every formula by reading the words and reckoning with them (`tests/core/numbers/test_formulas.py`).

The words are an expression: the names of the function's parameters (an underscore is a blank, two are a hyphen), numbers,
+ - * / and brackets, and the phrases `sum of NAME`, `mean of NAME`, `product of NAME`, `standard deviation of NAME` (of many),
`the smaller of (A, B)`, `the larger of (A, B)`, `root of (A)`, `whole part of A`, `A taken up to a multiple of B` and
`A taken up to the next of NAME`.
"""

from __future__ import annotations

import inspect
import re
from collections.abc import Callable, Sequence
from functools import cache
from typing import Any, TypeVar

from potrel.core.frozen import dataclass
from potrel.core.numbers.arithmetic import Number

F = TypeVar("F", bound=Callable[..., Any])
# The numbers of a group, in a formula: the lines of a stage, the tests of a yield.
Many = Sequence[Number]


@dataclass(frozen=True, slots=True)
class Formula:
    """A formula: its code, its words, the names of its single numbers and of its groups of many.

    `neutral` are those of its names that may be left out, for what changes nothing: a share of 1, a credit of 0.
    """

    code: str
    words: str
    singles: tuple[str, ...]
    groups: tuple[str, ...]
    neutral: tuple[str, ...]


_FORMULAS: dict[Callable[..., Any], Formula] = {}


def formula(words: str) -> Callable[[F], F]:
    """Say in words what a function reckons. Its parameters are single numbers, or groups of them (`Many`)."""

    def define(function: F) -> F:
        parameters = inspect.signature(function).parameters
        for name in parameters:
            if in_words(name) not in words:
                raise ValueError(f'{function.__name__}: "{in_words(name)}" does not stand in "{words}"')
        groups = tuple(name for name, one in parameters.items() if one.annotation in ("Many", Many))
        singles = tuple(name for name in parameters if name not in groups)
        neutral = tuple(name for name, one in parameters.items() if one.default is not one.empty)
        _FORMULAS[function] = Formula(function.__name__, words, singles, groups, neutral)
        return function

    return define


@cache
def told(words: str, without: tuple[str, ...]) -> str:
    """The words of a formula without some names that change nothing: sums of nothing, and what is left at its default.

    >>> told("kilos to buy * AP price - sum of credits", ("credits",)), told("sum of lines + sum of parts", ("lines",))
    ('kilos to buy * AP price', 'sum of parts')
    >>> told("(AP price * share - value of by-products) / yield", ("share", "value_of_by__products"))
    'AP price / yield'
    """
    for name in without:
        said = rf"(?:sum of )?{re.escape(in_words(name))}(?![\w-])"
        words = re.sub(rf" [+*-] {said}", "", words)
        words = re.sub(rf"(?<![-\w] ){said} \+ ", "", words)
    return re.sub(r"(?<!of )\((\w+(?:[ -]\w+)*)\)", r"\1", words) if without else words


def in_words(name: str) -> str:
    """A parameter as it stands in the words.

    >>> in_words("batch_yield"), in_words("yield_"), in_words("value_of_by__products")
    ('batch yield', 'yield', 'value of by-products')
    """
    return name.rstrip("_").replace("__", "-").replace("_", " ")


def formula_of(function: Callable[..., Any]) -> Formula:
    """The formula that a function is."""
    return _FORMULAS[function]


def all_formulas() -> Sequence[tuple[Callable[..., Any], Formula]]:
    """Every formula that is defined in the modules imported so far."""
    return tuple(_FORMULAS.items())
