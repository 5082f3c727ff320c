"""How sure a cost is: what its yields rest on, and how old the prices are that it is made of."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from decimal import Decimal
from typing import Literal, NamedTuple

from potrel.core.frozen import dataclass
from potrel.core.kitchen.items import Entry
from potrel.core.kitchen.kinds import ONE, ZERO, Computed
from potrel.core.kitchen.lines import Line
from potrel.core.kitchen.recipes import Recipe, Stage
from potrel.core.numbers.arithmetic import Number
from potrel.core.pot.day_view import DayView
from potrel.core.pot.losses import loses
from potrel.core.pot.questions import loss_untold

Rests = Literal["own_tests", "book", "estimate"]
YieldSort = Literal["preparation", "cooking"]


@dataclass(frozen=True, slots=True)
class Confidence:
    """The number of yields by what they rest on, and the share of the ingredients' cost bought at old prices."""

    own_tests: int
    book: int
    estimate: int
    old_price_share: Computed


NOTHING_KNOWN = Confidence(0, 0, 0, ZERO)


class YieldUsed(NamedTuple):
    """A yield that a recipe rests on: of an item's preparation or cooking method, and what it rests on itself.

    Of a recipe's own "batch" it is what is written, or what nobody said of a stage.
    """

    item: str
    sort: YieldSort | Literal["batch"]
    of: str
    rests: Rests


def rests_on(entry: Entry) -> Rests:
    """What a yield rests on, in three sorts: what was weighed here (blended with a book or not), a book, an estimate."""
    provenance = entry.rests_on
    if provenance.is_own:
        return "own_tests"
    return "estimate" if provenance.sort == "estimate" else "book"


def yields_of(recipe: Recipe, below: Callable[[str], frozenset[YieldUsed]], view: DayView) -> frozenset[YieldUsed]:
    """The yields that a recipe rests on, all its parts counted; `below` gives those of a recipe that it uses."""
    found: set[YieldUsed] = set()
    items = view.items
    if recipe.yield_basis == "written":
        found.add(YieldUsed(recipe.id, "batch", "written", "estimate"))
    for stage in recipe.stages:
        if loss_untold(stage):
            found.add(YieldUsed(recipe.id, "batch", stage.id, "estimate"))
        for line in stage.lines:
            item = items.get(line.item or "")
            if line.preparation is None and item is not None and not item.cooking and not loses(stage, item):
                continue  # No yield counts, as of most lines of a large kitchen.
            _collect(line, stage, found, below, view)
    for serving in recipe.servings:
        for _, line in serving.extras:
            if recipe.keeps(line):
                continue  # It rests on what the pot rests on.
            _collect(line, None, found, below, view)
    return frozenset(found)


def _collect(
    line: Line, stage: Stage | None, found: set[YieldUsed], below: Callable[[str], frozenset[YieldUsed]], view: DayView
) -> None:
    item = view.items.get(line.item or "")
    if item is None:
        if line.recipe in view.recipes:
            found |= below(line.recipe or "")
        return
    cooking = None
    if stage is not None and line.cook_yield is None:
        cooking = view.cooking(item, stage.method)
        if cooking is None and loses(stage, item):
            # What nobody said is no more than an estimate.
            found.add(YieldUsed(item.id, "cooking", stage.method or "", "estimate"))
    if line.byproduct is not None:
        return
    for preparation_id in line.preparations:
        preparation = view.preparation(item, preparation_id)
        if preparation is not None:
            found.add(YieldUsed(item.id, "preparation", preparation_id, rests_on(preparation)))
    if cooking is not None:
        found.add(YieldUsed(item.id, "cooking", cooking.method, rests_on(cooking)))


def confidence_of(yields: Iterable[YieldUsed], bought: Number, at_old_prices: Number) -> Confidence:
    """How sure a cost is of which so much [money] is bought, and so much of that at old prices."""
    kinds = [used.rests for used in yields]
    share = ZERO
    if isinstance(bought, Decimal) and bought > 0:
        share = min(at_old_prices / bought, ONE)
    return Confidence(kinds.count("own_tests"), kinds.count("book"), kinds.count("estimate"), share)
