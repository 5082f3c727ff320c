"""How far the figures of a portion may be off: the one engine, on ten thousand draws of all that is unsure.

One draw of a thing counts wherever it is used: a stock in three soups moves all three alike.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import replace
from decimal import Decimal
from typing import TYPE_CHECKING, Any, cast

from potrel.core.cost.asked import asked_of
from potrel.core.cost.called import Unit
from potrel.core.cost.costing import Costing
from potrel.core.cost.portion import Portion
from potrel.core.cost.unsure import OF_ITEMS, Doubts, Drawn, Unsure
from potrel.core.frozen import dataclass
from potrel.core.kitchen.bench_tests import TestKind
from potrel.core.kitchen.kinds import Computed, Id
from potrel.core.numbers.arithmetic import Number
from potrel.core.pot.inputs import Asked, Inputs, Sort

if TYPE_CHECKING:
    import numpy
    from numpy.typing import NDArray

    Floats = NDArray[numpy.float64]

_PERCENTILES = (0.1, 0.5, 0.9)


@dataclass(frozen=True, slots=True)
class Band:
    """The middle 80% of a figure: a tenth of all draws lies below `p10`, half below `p50`, a tenth above `p90`."""

    p10: Computed
    p50: Computed
    p90: Computed


@dataclass(frozen=True, slots=True)
class Swing:
    """One thing that is unsure, and what it does to the cost of a portion, the rest as it is stated.

    `low` and `high` are its own 10th and 90th percentile, in what `unit` says; `at_low` and `at_high` the cost at these
    [money], `swing` what lies between. `share_of_variance` is how much of the spread of the cost it brings, by itself.
    `item` and `of` lead to its test at the bench, where one would tell it.
    """

    sort: Sort
    what: str
    rests_on: str
    stated: Computed
    low: Computed
    high: Computed
    unit: Unit
    at_low: Computed
    at_high: Computed
    swing: Computed
    share_of_variance: Computed
    item: Id | None
    of: str | None


@dataclass(frozen=True, slots=True)
class Narrowing:
    """The test at the bench that would narrow a cost most, and at most by how much: the share of the band that goes."""

    item: Id
    of: str
    kind: TestKind
    what: str
    narrower: Computed


@dataclass(frozen=True, slots=True)
class Uncertainty:
    """How far the figures of one portion may be off. Cost [money], portions of a batch, food-cost share of what is kept.

    `over_target` is the chance that the share passes its target, at the set price, else at the computed one held fixed. What
    is not known is None. `inputs` begin with what matters most.
    """

    serving: Id
    food_cost: Band | None
    portions: Band | None
    share: Band | None
    over_target: Computed | None
    inputs: list[Swing]
    test: Narrowing | None


def unsure_of(costing: Costing, recipe_id: str, doubts: Doubts) -> list[Unsure]:
    """All that is unsure of a recipe, its parts and what is served with it, each once."""
    found = (doubts.of(name, stated) for name, stated in asked_of(costing, recipe_id).items())
    return [_placed(one, recipe_id, costing) for one in found if one is not None]


def _placed(one: Unsure, recipe_id: str, costing: Costing) -> Unsure:
    """Something unsure, with the name of the pot that it happens in, where that is another."""
    elsewhere = costing.view.recipes.get(one.asked.of) if one.asked.sort not in OF_ITEMS else None
    if elsewhere is None or elsewhere.id == recipe_id:
        return one
    return replace(one, called=one.called._replace(name=f"{one.called.name} ({elsewhere.name})"))


def uncertainty_of(costing: Costing, recipe_id: str, doubts: Doubts) -> list[Uncertainty]:
    """How far each serving of a recipe may be off; none of an incomplete one, of which nothing is concluded."""
    one = costing.of(recipe_id)
    if one.problems or not one.portions:
        return []
    unsure = unsure_of(costing, recipe_id, doubts)
    drawn = [(each, doubts.drawn(each)) for each in unsure]
    many = _costed(costing, recipe_id, {each.asked: of.values for each, of in drawn})
    ends = _costed(costing, recipe_id, dict(_one_by_one(drawn)))
    return [
        _uncertainty(portion, many[portion.serving.id], ends[portion.serving.id], drawn, doubts.count)
        for portion in one.portions
    ]


def _costed(costing: Costing, recipe_id: str, given: Mapping[Asked, Number]) -> dict[str, Portion]:
    import numpy

    inputs = Inputs(cast(Any, numpy.float64), given)
    portions = Costing.of_view(costing.view.with_inputs(inputs)).of(recipe_id).portions
    return {one.serving.id: one for one in portions}


def _one_by_one(drawn: Sequence[tuple[Unsure, Drawn]]) -> Iterator[tuple[Asked, Number]]:
    """Each at its own low end, then at its high end, while all others are as stated: two columns for each."""
    import numpy

    for place, (one, of) in enumerate(drawn):
        column = numpy.full(2 * len(drawn), float(one.stated))
        column[2 * place : 2 * place + 2] = of.low, of.high
        yield one.asked, cast(Number, column)


def _uncertainty(
    stated: Portion, many: Portion, ends: Portion, drawn: Sequence[tuple[Unsure, Drawn]], count: int
) -> Uncertainty:
    costs, portions = _draws(many.food_cost, count), _draws(many.portions, count)
    at_ends = _draws(ends.food_cost, 2 * len(drawn))
    if costs is None or portions is None or at_ends is None:
        # In some draws nothing is left in the pot: it hangs on what nobody knows well enough.
        return Uncertainty(stated.serving.id, None, None, None, None, [], None)
    kept, target = stated.priced.kept, stated.priced.target
    share = over = None
    if kept is not None and kept > 0:
        shares = costs / float(kept)
        share = _band(shares)
        if target is not None:
            over = _told(float((shares > float(target)).mean()))
    inputs = sorted(_swings(costs, at_ends, drawn), key=_matters, reverse=True)
    return Uncertainty(stated.serving.id, _band(costs), _band(portions), share, over, inputs, _narrowing(inputs))


def _draws(value: Number | None, count: int) -> Floats | None:
    """Some draws of a figure; one that nothing unsure moves is alike in all."""
    import numpy

    return None if value is None else numpy.broadcast_to(numpy.asarray(value, dtype=float), (count,))


def _band(values: Floats) -> Band:
    import numpy

    return Band(*(_told(float(end)) for end in numpy.quantile(values, _PERCENTILES)))


def _swings(costs: Floats, at_ends: Floats, drawn: Sequence[tuple[Unsure, Drawn]]) -> Iterator[Swing]:
    spread = costs - costs.mean()
    variance = float(spread @ spread)
    for place, (one, of) in enumerate(drawn):
        # What differs from its mean sums up to nothing, so the mean of the draws need not be taken off.
        along = float(cast(Any, of.values) @ spread)
        at_low, at_high = float(at_ends[2 * place]), float(at_ends[2 * place + 1])
        share = along * along / (of.squares * variance) if variance > 0 and of.squares > 0 else 0.0
        name, unit, times = one.called
        yield Swing(
            one.asked.sort, name, one.rests_on, one.stated * times, _told(of.low) * times, _told(of.high) * times, unit,
            _told(at_low), _told(at_high), _told(abs(at_high - at_low)), _told(share),
            *(one.tested_by or (None, None)),
        )  # fmt: skip


def _matters(one: Swing) -> tuple[Decimal, Decimal, str]:
    return one.share_of_variance, one.swing, one.what


def _narrowing(inputs: Sequence[Swing]) -> Narrowing | None:
    """The yield that brings most of the spread and that a test would tell: without it, the spread is the root of the rest."""
    best = next((one for one in inputs if one.item is not None and one.of is not None), None)
    if best is None or best.item is None or best.of is None or best.share_of_variance <= 0:
        return None
    left = max(0.0, 1 - float(best.share_of_variance)) ** 0.5
    kind: TestKind = "cooking" if best.sort == "cooking" else "soak" if best.stated > 1 else "trim"
    return Narrowing(best.item, best.of, kind, best.what, _told(1 - left))


def _told(value: float) -> Decimal:
    """A double as a decimal; draws are no truer than twelve digits."""
    return Decimal(f"{value:.12g}")
