"""The workings of a test at the bench, of the yield in use, and of one that is estimated from tests and books."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from decimal import Decimal

from potrel.core.buy.purchase import drained_yield
from potrel.core.buy.weights import inner_grams
from potrel.core.cost.confidence import YieldSort
from potrel.core.cost.costing import Costing
from potrel.core.errors import Lack
from potrel.core.frozen import dataclass
from potrel.core.kitchen.bench_tests import (
    BenchTest,
    labour_of_a_kilo,
    minutes_per_kg,
    tested_yield,
    those_that_count,
    unaccounted_for,
)
from potrel.core.kitchen.items import Entry, Item
from potrel.core.kitchen.kinds import plain
from potrel.core.numbers.student import t95
from potrel.core.pot.day_view import DRAINED, DayView
from potrel.core.rooms.yield_book import Evidence, YieldKey, entry_name, evidence_of, tests_by_yield
from potrel.core.tell.figures import Figure, Input, Place, as_stated, reckoned
from potrel.core.tell.item_figures import price_input
from potrel.core.trim.butchers_test import butchered, cost_factor, usable_cost, usable_kilo, what_was_paid
from potrel.core.trim.own_tests import (
    LEAST_SPREAD,
    Blend,
    Book,
    Tested,
    blend_of,
    high_end,
    low_end,
    mean_of_tests,
    spread_of_a_book,
    spread_of_tests,
    weight_of_own_tests,
)

_BENCH = "weighed at the bench"
# Gives the yields that were in use before, the newest first, of an item's preparation or cooking method.
Earlier = Callable[[str, YieldSort, str], Sequence[Entry]]


def no_earlier(_item: str, _sort: YieldSort, _of: str) -> Sequence[Entry]:
    """No yield was in use before, as far as anybody knows."""
    return ()


def explain_yield(costing: Costing, figure: str, earlier: Earlier = no_earlier) -> Figure | None:
    """The working of `test/ID/NAME` or `yield/ITEM/SORT/OF/NAME`."""
    match figure.split("/"):
        case ["test", test_id, name]:
            test = next((one for one in costing.view.kitchen.tests if one.id == test_id), None)
            return None if test is None else explain_test(costing, test, name)
        case ["yield", item_id, "preparation" | "cooking" as word, *of, name] if of:
            item = costing.view.items.get(item_id)
            if item is None:
                return None
            sort: YieldSort = "cooking" if word == "cooking" else "preparation"
            key = (item_id, sort, "/".join(of))
            return _YieldFigures(costing, item, key, earlier(*key)).of(name)
    return None


# -- tests ---------------------------------------------------------------------------------------------------------


def explain_test(costing: Costing, test: BenchTest, name: str) -> Figure | None:
    """The working of one figure of a test, which need not be one of the kitchen's."""
    item = costing.view.items.get(test.item)
    made = _TEST_MAKERS.get(name)
    return None if item is None or made is None else made(_TestFigures(costing, test, item))


@dataclass(frozen=True, slots=True)
class _TestFigures:
    costing: Costing
    test: BenchTest
    item: Item

    def place(self, name: str, words: str) -> Place:
        return Place("", f"test/{self.test.id}/{name}", f"{self.item.name}, {self.test.of}: {words}")

    def before(self, unit: str = "g") -> Input:
        name = "before" if self.test.kind == "cooking" else "as purchased (AP)"
        return _weighed(name, self.test.before.grams(), unit, f"{self.test.before}, {_BENCH}")

    def after(self, unit: str = "g") -> Input:
        name = "after" if self.test.kind == "cooking" else "usable (EP)"
        return _weighed(name, self.test.after.grams(), unit, f"{self.test.after}, {_BENCH}")

    def yield_(self) -> Figure:
        return reckoned(tested_yield, self.place("yield", "yield"), "share", usable=self.after(), before=self.before())

    def unaccounted(self) -> Figure:
        parts = [
            Input(part.name, part.grams, "g", f"{_BENCH}, for {part.use}" if part.use else _BENCH) for part in self.test.parts
        ]
        place = self.place("unaccounted", "unaccounted for")
        return reckoned(unaccounted_for, place, "g", before=self.before(), usable=self.after(), weighed_beside=parts)

    def minutes(self) -> Figure | None:
        if minutes_per_kg(self.test) is None:
            return None
        taken = Input("time it took", self.test.minutes, "min", "taken at the bench")
        place = self.place("minutes_per_kg", "labour of a purchased kilo")
        return reckoned(labour_of_a_kilo, place, "min", time=taken, kilos_before=self.before("kg"))

    # -- its money: the butcher's test --------------------------------------------------------------------------------

    def per_kg(self) -> Decimal | None:
        return self.costing.view.per_kg(self.test.item)

    def paid(self) -> Figure | None:
        if self.per_kg() is None:
            return None
        price = price_input(self.costing, self.test.item)
        return reckoned(
            what_was_paid, self.place("paid", "what was paid"), "money", kilos_before=self.before("kg"), AP_price=price
        )

    def usable_cost(self) -> Figure | None:
        per_kg = self.per_kg()
        if per_kg is None:
            return None
        paid = Input("what was paid", butchered(self.test, per_kg).paid, "money", "this test", f"test/{self.test.id}/paid")
        credits = [
            Input(part.name, part.worth, "money", f"{part.mass} at {plain(part.value_per_kg)} per kg")
            for part in self.test.parts
        ]
        return reckoned(usable_cost, self.place("usable_cost", "cost of the usable part"), "money", paid=paid, credits=credits)

    def usable_per_kg(self) -> Figure | None:
        per_kg = self.per_kg()
        if per_kg is None:
            return None
        cost = Input("cost of the usable part", butchered(self.test, per_kg).usable_cost, "money", "this test",
                     f"test/{self.test.id}/usable_cost")  # fmt: skip
        place = self.place("usable_per_kg", "EP cost of a usable kilo")
        return reckoned(usable_kilo, place, "money/kg", cost_of_the_usable_part=cost, usable_kilos=self.after("kg"))

    def cost_factor(self) -> Figure | None:
        per_kg = self.per_kg()
        if per_kg is None:
            return None
        each = Input("EP cost of a usable kilo", butchered(self.test, per_kg).usable_per_kg, "money/kg", "this test",
                     f"test/{self.test.id}/usable_per_kg")  # fmt: skip
        price = price_input(self.costing, self.test.item)
        return reckoned(cost_factor, self.place("cost_factor", "cost factor"), "", EP_cost=each, AP_price=price)


def _weighed(name: str, grams: Decimal, unit: str, source: str) -> Input:
    return Input(name, grams if unit == "g" else grams / 1000, unit, source)


_TEST_MAKERS: dict[str, Callable[[_TestFigures], Figure | None]] = {
    "yield": _TestFigures.yield_,
    "unaccounted": _TestFigures.unaccounted,
    "minutes_per_kg": _TestFigures.minutes,
    "paid": _TestFigures.paid,
    "usable_cost": _TestFigures.usable_cost,
    "usable_per_kg": _TestFigures.usable_per_kg,
    "cost_factor": _TestFigures.cost_factor,
}


# -- yields --------------------------------------------------------------------------------------------------------


class _YieldFigures:
    """The figures of one yield of an item: the one in use, and what tests and books make of it."""

    def __init__(self, costing: Costing, item: Item, key: YieldKey, earlier: Sequence[Entry]) -> None:
        self.view: DayView = costing.view
        self.item, self.key = item, key
        tests = tests_by_yield(self.view).get(key, [])
        self.known: Evidence = evidence_of(self.view, item, key[1], key[2], tests, earlier)

    def path(self, name: str) -> str:
        return f"yield/{'/'.join(self.key)}/{name}"

    def place(self, name: str, words: str) -> Place:
        entry = self.known.now
        of = self.key[2] if entry is None else entry_name(entry)
        return Place("", self.path(name), f"{self.item.name}, {of}: {words}")

    def of(self, name: str) -> Figure | None:
        """A figure by its name; None for one that there is not."""
        if name == "in_use":
            return None if self.known.now is None else self.in_use(self.known.now)
        own = self.known.own
        if own is None:
            return None
        if name == "mean":
            return self.mean(own)
        if name in ("blend", "own_weight", "book_spread"):
            book, made = self.known.leaning_on, self.known.blend
            return None if book is None or made is None else self._blended(name, own, book, made)
        if own.spread is None:
            return None
        if name == "spread":
            return reckoned(spread_of_tests, self.place("spread", "spread of the tests"), "share", tests=self._tests())
        if name in ("low", "high"):
            return self._end(name, own)
        return None

    def in_use(self, now: Entry) -> Figure:
        """The yield in use, down to the ground: the tests, the book, or the label of the can."""
        place, provenance = self.place("in_use", "yield in use"), now.rests_on
        price = self.view.price(self.item.id)
        if self.key[1:] == ("preparation", DRAINED) and now not in self.item.preparations and price is not None:
            net = inner_grams(price.offer.pack, self.item, self.view.system)
            drained = None if price.offer.drained is None else price.offer.drained.grams()
            source = f"label of {price.offer.pack}"
            return reckoned(
                drained_yield, place, "share",
                drained_weight=Input("drained weight", drained, "g", source, item=self.item.id, offer=price.offer.id),
                net_weight=Input("net weight", None if isinstance(net, Lack) else net, "g", source),
            )  # fmt: skip
        figure = None
        if provenance.is_own and self.known.own is not None:
            figure = self.path("blend" if provenance.sort == "blend" and self.known.blend is not None else "mean")
        words = now.source or "no source given: an estimate"
        stated = Input("yield", now.yield_, "share", words, figure)
        note = None
        if now.low is not None and now.high is not None:
            note = f"between {plain(now.low)} and {plain(now.high)}"
        return reckoned(as_stated, place, "share", note=note, what_is_stated=stated)

    def _tests(self) -> list[Input]:
        return [
            Input(f"test of {test.on.isoformat()}", test.yield_, "share", test.by or "this kitchen", f"test/{test.id}/yield")
            for test in those_that_count(self.known.tests)
        ]

    def mean(self, own: Tested) -> Figure:
        """The mean of the own tests."""
        left = f"{own.left_out} left out for a reason" if own.left_out else None
        return reckoned(mean_of_tests, self.place("mean", "mean"), "share", note=left, tests=self._tests())

    def _mean(self, own: Tested) -> Input:
        return Input("mean of the own tests", own.mean, "share", f"{own.count} of them", self.path("mean"))

    def _count(self, own: Tested) -> Input:
        return Input("number of tests", Decimal(own.count), "", "those that count")

    def _end(self, name: str, own: Tested) -> Figure:
        t = Input("t", t95(own.count - 1), "", "Student's t, two-sided 95%, n - 1 degrees of freedom")
        spread = Input("spread of the tests", own.spread, "share", "standard deviation, n - 1", self.path("spread"))
        place = self.place(name, f"{name} end of the mean's 95% interval")
        end = low_end if name == "low" else high_end
        return reckoned(end, place, "share", mean=self._mean(own), t=t, spread=spread, number_of_tests=self._count(own))

    def _blended(self, name: str, own: Tested, book: Book, made: Blend) -> Figure:
        least = Input("least spread", LEAST_SPREAD, "share", "a scale and a knife are no better; common practice, no source")
        if name == "book_spread":
            return reckoned(
                spread_of_a_book, self.place(name, "spread of the book"), "share",
                high=Input("high end of its band", book.high, "share", book.source),
                low=Input("low end of its band", book.low, "share", book.source), least_spread=least,
            )  # fmt: skip
        if name == "own_weight":
            words = "as wide as the book's: one test tells no spread" if own.spread is None else "standard deviation, n - 1"
            return reckoned(
                weight_of_own_tests, self.place(name, "weight of the own tests"), "share", number_of_tests=self._count(own),
                spread_of_the_tests=Input("spread of the tests", made.own_spread, "share", f"{words}; at least half a percent"),
                spread_of_the_book=Input("spread of the book", made.book_spread, "share", "its band as the middle 95%",
                                         self.path("book_spread")),
            )  # fmt: skip
        weight = Input("weight of the own tests", made.own_weight, "share", "by how sure each is", self.path("own_weight"))
        return reckoned(
            blend_of, self.place("blend", "blend"), "share", note="few own tests lean on the book, many do not",
            book=Input("book", book.likely, "share", book.source), weight_of_the_own_tests=weight, mean=self._mean(own),
        )  # fmt: skip
