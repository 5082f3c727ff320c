"""The numbers that the engine works with, asked for by name.

Each is what the kitchen states, unless another is given by that name: a draw of an uncertain yield, a price that somebody
tries out, a rate learned from the logs. One that is given counts wherever it is used.
"""

from __future__ import annotations

from collections.abc import Mapping
from decimal import Decimal
from typing import Literal, NamedTuple

from potrel.core.numbers.arithmetic import Convert, Number, same

Sort = Literal[
    "price",  # of an item [money/g]
    "yield",  # of an item, by its preparation
    "byproduct",  # the share that falls off an item, by "preparation/name"
    "cooking",  # the cooking yield of an item, by its method
    "rendered",  # the share of an item's cooking loss that is fat, by its method
    "quantity",  # of a recipe's line [g], as typed (AP or EP), by its id; of one beside a portion, of "recipe/serving"
    "cook_yield",  # a line's own cooking yield
    "change",  # what happens to a stage: its yield, share per hour, or grams per hour
    "residue",  # the share left on a stage's vessel
    "came_out",  # what came out of a recipe's stage [g], as it was weighed or dipped
    "taken_out",  # the mass [g] of something taken out of a stage, by "stage/name"
    "spent_factor",  # of the same
    "measured_yield",  # of a recipe [g]
    "written_yield",  # of a recipe [g]
    "size",  # of a recipe's serving [g]
    "attended_minutes",  # of a recipe's stage
    "energy",  # of a recipe's stage [kWh]
    "portioning",  # of a recipe's serving [s]
    "allowance",  # the seasoning allowance of a recipe
    "setting",  # of the kitchen, by its key
]


class Asked(NamedTuple):
    """The name of a number: its sort, whose it is, and which of that one's."""

    sort: Sort
    of: str
    part: str = ""


class Inputs:
    """Gives the numbers asked for. `number` turns each decimal into a number of the engine (see `arithmetic`)."""

    __slots__ = ("given", "number")

    def __init__(self, number: Convert = same, given: Mapping[Asked, Number] | None = None) -> None:
        self.number = number
        self.given: Mapping[Asked, Number] = {} if given is None else given

    def ask(self, sort: Sort, of: str, part: str, stated: Decimal) -> Number:
        """The number of a name: the given one, else what is stated."""
        if self.given:
            found = self.given.get(Asked(sort, of, part))
            if found is not None:
                return found
        return self.number(stated)


STATED = Inputs()
