"""A test at the bench: what something weighed before and after a treatment, and what became of the rest."""

from __future__ import annotations

from collections.abc import Iterable
from decimal import Decimal
from typing import Literal

from potrel.core.errors import BadDocument, OutOfRange
from potrel.core.frozen import dataclass
from potrel.core.kitchen.keyed import Keyed
from potrel.core.kitchen.kinds import ZERO, Computed, Flag, Id, Mass, Minutes, Name, Note, On, Value, plain
from potrel.core.numbers.arithmetic import Number, total
from potrel.core.numbers.formula import Many, formula
from potrel.core.numbers.rounding import exceeds
from potrel.core.sentences import say

TestKind = Literal["trim", "butcher", "cooking", "soak", "press", "can"]

# What may be unaccounted for before somebody is asked again, as a share of what there was before. Common practice, no
# source: trimmings dry and drip a little; what is cooked or pressed loses what nobody weighs, so there it is no slip.
_LIMITS: dict[str, Decimal] = {"trim": Decimal("0.03"), "butcher": Decimal("0.03"), "can": Decimal("0.03")}
_GAINS = ("soak", "cooking")


@dataclass(frozen=True, slots=True)
class WeighedPart(Keyed):
    """Something that was weighed beside the usable part: a trimming with its use and value per kilo, waste, drained liquid."""

    name: Name
    mass: Mass
    value_per_kg: Value = ZERO
    use: Name | None = None

    @property
    def grams(self) -> Decimal:
        """What it weighed [g]."""
        return self.mass.grams()

    @property
    def worth(self) -> Decimal:
        """What it is worth [money]; below zero where its disposal is paid."""
        return self.grams / 1000 * self.value_per_kg


@dataclass(frozen=True, slots=True)
class BenchTest(Keyed):
    """One test of one item. `of` is the id of the preparation, or the cooking method, whose yield it tells.

    `before` is what went in: as purchased for a trim or butcher's test, the net mass of a can; `after` what is usable.
    `minutes` is the labour it took. `left_out` says why it does not count among the others, where it does not.
    """

    id: Id
    item: Id
    kind: TestKind
    of: Name
    on: On
    before: Mass
    after: Mass
    parts: tuple[WeighedPart, ...] = ()
    minutes: Minutes | None = None
    supplier: Id | None = None
    by: Name | None = None
    note: Note | None = None
    left_out: Name | None = None

    def __post_init__(self) -> None:
        weighed = weights(self)
        if weighed.unaccounted < 0 and self.kind not in _GAINS:
            english = "the parts weigh {more} g more than what there was before: weigh again"
            raise BadDocument("parts", say("parts_weigh_more", english, more=plain(-weighed.unaccounted)))
        if weighed.yield_ > 20:
            raise OutOfRange("the yield of this test", plain(weighed.yield_), "at most 20")

    @property
    def yield_(self) -> Decimal:
        """Usable over before."""
        return tested_yield(self.after.grams(), self.before.grams())


@formula("usable / before")
def tested_yield(usable: Number, before: Number) -> Number:
    """The yield that a test tells."""
    return usable / before


@formula("before - usable - sum of weighed beside")
def unaccounted_for(before: Number, usable: Number, weighed_beside: Many) -> Number:
    """What became of the rest [g], nobody knows."""
    return before - usable - total(weighed_beside)


@formula("time / kilos before")
def labour_of_a_kilo(time: Number, kilos_before: Number) -> Number:
    """The labour [min/kg] of a kilo of what went in."""
    return time / kilos_before


@dataclass(frozen=True, slots=True)
class Weights(Keyed):
    """The weights of a test [g], its yield, the part unaccounted for (as a share too), and whether that is more than usual.

    In a soak or cooking test the unaccounted part is what evaporated, dripped off or (negative) was taken up.
    """

    before: Computed
    after: Computed
    parts: Computed
    unaccounted: Computed
    unaccounted_share: Computed
    yield_: Computed
    asks_again: Flag


def weights(test: BenchTest) -> Weights:
    """The weights of a test. They add up: before = after + parts + unaccounted."""
    before, after = test.before.grams(), test.after.grams()
    beside = [part.grams for part in test.parts]
    unaccounted = unaccounted_for(before, after, beside)
    limit = _LIMITS.get(test.kind)
    share = unaccounted / before
    asks_again = limit is not None and exceeds(share, limit)
    return Weights(before, after, total(beside), unaccounted, share, tested_yield(after, before), asks_again)


def minutes_per_kg(test: BenchTest) -> Decimal | None:
    """The labour [min/kg] of a kilo of what went in; None where nobody took the time."""
    return None if test.minutes is None else labour_of_a_kilo(test.minutes, test.before.grams() / 1000)


def those_that_count(tests: Iterable[BenchTest]) -> list[BenchTest]:
    """The tests that nobody left out."""
    return [test for test in tests if test.left_out is None]
