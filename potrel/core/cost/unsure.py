"""What a cost is not sure of: each price, yield, loss and splash that it rests on, with its spread and what that rests on."""

from __future__ import annotations

import statistics
from collections import defaultdict
from collections.abc import Iterable
from copy import copy
from dataclasses import field
from decimal import Decimal
from functools import cached_property
from typing import Any, NamedTuple

from potrel.core.buy.volatility import Volatility, is_certain, monthly_changes, spread_over, volatility_of
from potrel.core.cost.called import Called, called, line_of, stage_of
from potrel.core.cost.costing import Costing
from potrel.core.frozen import dataclass
from potrel.core.kitchen.bench_tests import BenchTest, those_that_count
from potrel.core.kitchen.items import Entry, Preparation
from potrel.core.kitchen.kinds import ONE, ZERO, plain
from potrel.core.numbers.arithmetic import Number, total
from potrel.core.numbers.rounding import typical
from potrel.core.numbers.spread import LogNormal, NextTest, Pert, Spread, draws, quantile, seed_of
from potrel.core.pot.day_view import DayView
from potrel.core.pot.evaporation import BANDS as STEAMS
from potrel.core.pot.inputs import Asked
from potrel.core.pot.rough import rough_of

# Where nobody gives a band: an estimate is as likely so much more or less; a loss too. Common practice, no source.
ESTIMATED, LOST = Decimal("0.15"), Decimal("0.25")
_A_QUARTER = "no spread is known, so a quarter of the loss either way"
# What is left of a thing of which nobody said what it loses: at least so much. Common practice, no source.
UNTOLD = Decimal("0.6")
_NO_LOSS = "no loss known: none to two fifths (common practice, no source)"
DRAWS = 10_000
_LOW, _HIGH = 0.1, 0.9
OF_ITEMS = ("price", "yield", "cooking")
# No yield is nothing, and what takes up water takes up no more than twenty times its weight.
_LEAST, _MOST = Decimal("0.0001"), Decimal(20)


@dataclass(frozen=True, slots=True)
class Unsure:
    """A number that a cost rests on and nobody knows exactly: what it is called, what it may be, what that rests on.

    `tested_by` is the item and preparation (or cooking method) whose test at the bench would tell it.
    """

    asked: Asked
    stated: Decimal
    called: Called
    spread: Spread
    rests_on: str
    tested_by: tuple[str, str] | None = None


# What something may be, and what that rests on; None where it is certain.
_May = tuple[Spread | None, str]


class Drawn(NamedTuple):
    """Draws of something unsure, its 10th and 90th percentile, and the sum of the squares by which draws differ from their
    mean.
    """

    values: Number
    low: float
    high: float
    squares: float


@dataclass
class Doubts:
    """What may be otherwise in one kitchen on a day, and ten thousand draws of it, the same for the same `seed`."""

    costing: Costing
    seed: int
    count: int = DRAWS
    # What all pots share: prices and yields. What happens in one pot is drawn anew.
    _shared: dict[tuple[Asked, Spread], Drawn] = field(default_factory=dict)

    @property
    def view(self) -> DayView:
        return self.costing.view

    def within(self, costing: Costing) -> Doubts:
        """The same doubts in a kitchen that differs in some recipes alone: what all pots share is drawn once."""
        later = copy(self)
        later.costing = costing
        return later

    def seeded(self, seed: int) -> Doubts:
        """The same doubts with other draws."""
        later = copy(self)
        later.seed, later._shared = seed, {}
        return later

    def drawn(self, one: Unsure) -> Drawn:
        """The draws of something unsure."""
        known = self._shared.get((one.asked, one.spread))
        if known is None:
            known = _drawn(one.spread, self.count, seed_of(self.seed, *one.asked))
            if one.asked.sort in OF_ITEMS:
                self._shared[one.asked, one.spread] = known
        return known

    def of(self, asked: Asked, stated: Decimal) -> Unsure | None:
        """A number that the engine asked for, where it is unsure; None where it is certain."""
        may, rests_on = self._may(asked, stated)
        name = None if may is None else called(asked, self.view)
        if may is None or name is None:
            return None
        tested_by = (asked.of, asked.part) if asked.sort in ("yield", "cooking") else None
        return Unsure(asked, stated, name, may, rests_on, tested_by)

    def _may(self, asked: Asked, stated: Decimal) -> _May:
        match asked.sort:
            case "price":
                return self._price(asked, stated)
            case "yield" | "cooking":
                return self._yield(asked)
            case "change":
                return self._change(asked, stated)
            case "residue":
                return _either_way(stated, stated * LOST, ONE), _A_QUARTER
            case "cook_yield":
                line = line_of(asked, self.view)
                if line is None or line.cook_yield is None:
                    return _between(UNTOLD, ONE, ONE), _NO_LOSS
                words = "the line's own, without a band: 15% either way"
                return _either_way(stated, stated * ESTIMATED, ONE if stated <= 1 else _MOST), words
            case "quantity":
                return self._quantity(asked, stated)
            case "measured_yield":
                return self._measured(asked, stated)
            case "written_yield":
                return self._written(asked, stated)
        return None, ""

    # -- prices ----------------------------------------------------------------------------------------------------

    def volatility(self, item_id: str) -> Volatility:
        """How much the price of an item moves."""
        item = self.view.items[item_id]
        kin = [changes for one, changes in self._by_kind[item.kind].items() if one != item_id]
        return volatility_of(item, self._by_kind[item.kind].get(item_id, []), kin)

    @cached_property
    def _by_kind(self) -> dict[str, dict[str, list[Decimal]]]:
        """The monthly changes of the prices of all items, by their kind."""
        found: defaultdict[str, dict[str, list[Decimal]]] = defaultdict(dict)
        for item in self.view.items.values():
            if self.view.offers_of(item.id):
                found[item.kind][item.id] = monthly_changes(self.view.history(item), self.view.on)
        return found

    def _price(self, asked: Asked, stated: Decimal) -> _May:
        volatility, days = self.volatility(asked.of), self.view.settings.price_horizon_days
        certain = stated <= 0 or is_certain(volatility, days)
        spread = None if certain else LogNormal(stated, spread_over(volatility.monthly, days))
        return spread, f"{volatility.by}, over {plain(days)} days"

    # -- yields ----------------------------------------------------------------------------------------------------

    def _yield(self, asked: Asked) -> _May:
        item = self.view.items[asked.of]
        entries: Iterable[Entry] = item.cooking if asked.sort == "cooking" else item.preparations
        entry = next((one for one in entries if asked.part in (getattr(one, "id", None), getattr(one, "method", None))), None)
        # Else drained, by what the label of the can says.
        return (None, "") if entry is None else self._spread(asked, entry, _most(entry))

    def _spread(self, asked: Asked, entry: Entry, most: Decimal) -> _May:
        values = [test.yield_ for test in self._tests[asked.of, asked.part]]
        if entry.rests_on.sort == "own_tests" and len(values) > 1:
            spread = statistics.stdev(values)
            words = f"{len(values)} own tests: what the next one gives"
            mean = min(statistics.mean(values), most)
            return (NextTest(mean, spread, len(values), _LEAST, most) if spread > 0 else None), words
        if entry.low is not None or entry.high is not None:
            low = entry.yield_ if entry.low is None else entry.low
            high = entry.yield_ if entry.high is None else entry.high
            return _between(low, entry.yield_, min(high, most)), f"its band, {plain(low)} to {plain(high)}: {_source(entry)}"
        words = f"no band is known, so 15% either way: {_source(entry)}"
        return _either_way(entry.yield_, entry.yield_ * ESTIMATED, most), words

    @cached_property
    def _tests(self) -> defaultdict[tuple[str, str], list[BenchTest]]:
        found: defaultdict[tuple[str, str], list[BenchTest]] = defaultdict(list)
        for test in those_that_count(self.view.kitchen.tests):
            found[test.item, test.of].append(test)
        return found

    # -- what happens in a pot -------------------------------------------------------------------------------------

    def _change(self, asked: Asked, stated: Decimal) -> _May:
        change = stage_of(asked, self.view).change
        if change.rule == "keep":
            return _between(UNTOLD, ONE, ONE), _NO_LOSS
        if change.rule == "yield":
            return _either_way(stated, abs(1 - stated) * LOST, ONE if stated <= 1 else _MOST), _A_QUARTER
        if change.by == "vessel":
            return self._steam(asked, stated)
        if change.rule == "evaporate":
            return _either_way(stated, stated * LOST, ONE if change.per_hour is not None else None), _A_QUARTER
        # Reduced or topped up to a mark, which a cook sees.
        return None, ""

    def _steam(self, asked: Asked, stated: Decimal) -> _May:
        here = next(one for one in self.costing.of(asked.of).balance.stages if one.stage.id == asked.part)
        low, high = STEAMS["surface" if here.steam is None else here.steam.limit]
        words = f"physics: {plain((1 - low) * 100)}% less to {plain((high - 1) * 100)}% more (common practice, no source)"
        return _between(stated * low, stated, stated * high), words

    def _quantity(self, asked: Asked, stated: Decimal) -> _May:
        line = line_of(asked, self.view)
        if line is None:
            return None, ""
        rough = rough_of(line, self.view)
        return (None, "") if rough is None else (_between(stated * rough.low, stated, stated * rough.high), rough.words)

    def _measured(self, asked: Asked, stated: Decimal) -> _May:
        """A batch that was measured once may have lost a quarter more or less of what it lost."""
        put_in = total([line.ep for line in self.costing.of(asked.of).balance.lines])
        return _either_way(stated, abs(put_in - stated) * LOST, None), _A_QUARTER

    def _written(self, asked: Asked, stated: Decimal) -> _May:
        """What a recipe says it makes is an estimate, and may as well be what the pot reckons."""
        balance = self.costing.of(asked.of).balance
        reckoned = [typical(balance.computed_mass)] if balance.mass_known else []
        low, high = min(stated * (1 - ESTIMATED), *reckoned), max(stated * (1 + ESTIMATED), *reckoned)
        return _between(low, stated, high), "as written: 15% either way, and as far as the pot reckons otherwise"


def _drawn(spread: Spread, count: int, seed: int) -> Drawn:
    values: Any = draws(spread, count, seed)
    apart = values - values.mean()
    return Drawn(values, quantile(spread, _LOW), quantile(spread, _HIGH), float(apart @ apart))


def _most(entry: Entry) -> Decimal:
    """The most that a yield can be: all of it, but for what falls off and is used; more only of what takes up water."""
    if entry.yield_ > 1:
        return _MOST
    falls_off = sum((part.share for part in entry.byproducts), ZERO) if isinstance(entry, Preparation) else ZERO
    return max(entry.yield_, 1 - falls_off)


def _source(entry: Entry) -> str:
    return entry.source or "an estimate"


def _between(low: Decimal, likely: Decimal, high: Decimal) -> Spread | None:
    low, high = max(min(low, likely), _LEAST if likely > 0 else ZERO), max(high, likely)
    return Pert(low, likely, high) if low < high else None


def _either_way(stated: Decimal, by: Decimal, most: Decimal | None) -> Spread | None:
    return _between(stated - by, stated, stated + by if most is None else min(stated + by, most))
