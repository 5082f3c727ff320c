"""A test at the bench: what something weighed before and after a treatment, and what became of the rest."""

from __future__ import annotations

from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from potrel.core.errors import BadDocument, OutOfRange
from potrel.core.fields import ZERO, Computed, Flag, Id, MassText, Minutes, Name, Note, On, Value, plain
from potrel.core.part import Part
from potrel.core.quantities import parse_quantity

TestKind = Literal["trim", "butcher", "cooking", "soak", "press", "can"]

# What may be unaccounted for before somebody is asked again, as a share of what there was before. Common practice, no
# source: trimmings dry and drip a little; what is cooked or pressed loses what nobody weighs, so there it is no slip.
_LIMITS: dict[str, Decimal] = {"trim": Decimal("0.03"), "butcher": Decimal("0.03"), "can": Decimal("0.03")}
_GAINS = ("soak", "cooking")


@dataclass(frozen=True, slots=True)
class WeighedPart(Part):
    """Something that was weighed beside the usable part: a trimming with its use and value per kilo, waste, drained liquid."""

    name: Name
    mass: MassText
    value_per_kg: Value = ZERO
    use: Name | None = None

    @property
    def grams(self) -> Decimal:
        """What it weighed [g]."""
        return parse_quantity(self.mass).grams()

    @property
    def worth(self) -> Decimal:
        """What it is worth [money]; below zero where its disposal is paid."""
        return self.grams / 1000 * self.value_per_kg


@dataclass(frozen=True, slots=True)
class BenchTest(Part):
    """One test of one item. `of` is the id of the preparation, or the cooking method, whose yield it tells.

    `before` is what went in: as purchased for a trim or butcher's test, the net mass of a can; `after` what is usable.
    `minutes` is the labour it took. `left_out` says why it does not count among the others, where it does not.
    """

    id: Id
    item: Id
    kind: TestKind
    of: Name
    on: On
    before: MassText
    after: MassText
    parts: tuple[WeighedPart, ...] = ()
    minutes: Minutes | None = None
    supplier: Id | None = None
    by: Name | None = None
    note: Note | None = None
    left_out: Name | None = None

    def __post_init__(self) -> None:
        weighed = weights(self)
        if weighed.before > 0 and weighed.unaccounted < 0 and self.kind not in _GAINS:
            more = plain(-weighed.unaccounted)
            raise BadDocument("parts", f"the parts weigh {more} g more than what there was before: weigh again")
        if weighed.yield_ > 20:
            raise OutOfRange("the yield of this test", plain(weighed.yield_), "at most 20")

    @property
    def yield_(self) -> Decimal:
        """Usable over before."""
        return weights(self).yield_


@dataclass(frozen=True, slots=True)
class Weights(Part):
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
    before, after = parse_quantity(test.before).grams(), parse_quantity(test.after).grams()
    parts = sum((part.grams for part in test.parts), ZERO)
    unaccounted = before - after - parts
    limit = _LIMITS.get(test.kind)
    share = unaccounted / before
    return Weights(before, after, parts, unaccounted, share, after / before, limit is not None and share > limit)


def minutes_per_kg(test: BenchTest) -> Decimal | None:
    """The labour [min/kg] of a kilo of what went in; None where nobody took the time."""
    return None if test.minutes is None else test.minutes / (weights(test).before / 1000)


@dataclass(frozen=True, slots=True)
class Butchered(Part):
    """What a butcher's test makes of a purchase [money]: credits, disposal, EP cost, and the factors for a new price.

    `cost_factor` = EP cost per kilo / AP price per kilo: times any AP price it gives the EP cost while values keep step.
    None of what costs nothing.
    """

    paid: Computed
    credits: Computed
    disposal: Computed
    usable_cost: Computed
    usable_per_kg: Computed
    cost_factor: Computed | None


def butchered(test: BenchTest, per_kg: Decimal) -> Butchered:
    """A trim or butcher's test at an AP price [money/kg], by-products credited at their value: the textbook's test.

    Usable cost = paid - credits + disposal; with the credits it adds up to what was paid and what disposal cost.
    """
    weighed = weights(test)
    values = [part.worth for part in test.parts]
    credits_ = sum((value for value in values if value > 0), ZERO)
    disposal = -sum((value for value in values if value < 0), ZERO)
    paid = weighed.before / 1000 * per_kg
    usable = paid - credits_ + disposal
    each = usable / (weighed.after / 1000)
    return Butchered(paid, credits_, disposal, usable, each, each / per_kg if per_kg > 0 else None)
