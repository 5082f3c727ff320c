"""The workings of a test at the bench, and of a yield that is estimated from tests and books."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from decimal import Decimal

from potrel.core.costing import Costing, YieldSort
from potrel.core.fields import ONE, plain
from potrel.core.weighed import BenchTest, butchered, minutes_per_kg, weights
from potrel.core.working import Input, Working, price_input
from potrel.core.yield_book import Entry, YieldKey, evidence_of, tests_by_yield
from potrel.core.yields import Tested, t95, those_that_count

_BENCH = "weighed at the bench"
_USABLE_TITLES = {
    "paid": "what was paid",
    "usable_cost": "cost of the usable part",
    "usable_per_kg": "EP cost of a usable kilo",
    "cost_factor": "cost factor",
}


Earlier = Callable[[str, YieldSort, str], Sequence[Entry]]


def explain_yield(costing: Costing, figure: str, earlier: Earlier = lambda *_: ()) -> Working | None:
    """The working of `test/ID/NAME` or `yield/ITEM/SORT/OF/NAME`; `earlier` gives a yield's entries that were in use before."""
    match figure.split("/"):
        case ["test", test_id, name]:
            test = next((one for one in costing.facts.kitchen.tests if one.id == test_id), None)
            return None if test is None else explain_test(costing, test, name)
        case ["yield", item_id, "preparation" | "cooking" as word, *of, name] if of:
            sort: YieldSort = "cooking" if word == "cooking" else "preparation"
            key = (item_id, sort, "/".join(of))
            return _explain_estimate(costing, key, name, earlier(*key))
    return None


def explain_test(costing: Costing, test: BenchTest, name: str) -> Working | None:
    """The working of one figure of a test, which need not be one of the kitchen's."""
    item = costing.facts.items.get(test.item)
    if item is None:
        return None
    weighed = weights(test)
    before = Input("before" if test.kind == "cooking" else "as purchased (AP)", weighed.before, "g", f"{test.before}, {_BENCH}")
    after = Input("after" if test.kind == "cooking" else "usable (EP)", weighed.after, "g", f"{test.after}, {_BENCH}")
    parts = [Input(part.name, part.grams, "g", _use(part.use)) for part in test.parts]
    path, title = f"test/{test.id}", f"{item.name}, {test.of}"
    minutes = minutes_per_kg(test)
    match name:
        case "yield":
            return Working("", f"{path}/yield", f"{title}: yield", weighed.yield_, "share", "usable / before", [after, before])
        case "unaccounted":
            return Working("", f"{path}/unaccounted", f"{title}: unaccounted for", weighed.unaccounted, "g",
                           "before - usable - everything weighed beside it", [before, after, *parts])  # fmt: skip
        case "minutes_per_kg" if minutes is not None:
            taken = Input("time it took", test.minutes, "min", "taken at the bench")
            return Working("", f"{path}/minutes_per_kg", f"{title}: labour of a purchased kilo", minutes, "min",
                           "time / kilos before", [taken, before])  # fmt: skip
    return _explain_money(costing, test, name, title, [before, after])


def _use(use: str | None) -> str:
    return f"{_BENCH}, for {use}" if use else _BENCH


def _explain_money(costing: Costing, test: BenchTest, name: str, title: str, masses: list[Input]) -> Working | None:
    per_gram = costing.per_gram(test.item)
    if per_gram is None or name not in _USABLE_TITLES:
        return None
    found = butchered(test, per_gram * 1000)
    before, after = masses
    price = price_input(costing, test.item)
    path = f"test/{test.id}"
    paid = Input("what was paid", found.paid, "money", "AP * AP price", f"{path}/paid")
    usable = Input("cost of the usable part", found.usable_cost, "money", "this test", f"{path}/usable_cost")
    each = Input("EP cost of a usable kilo", found.usable_per_kg, "money/kg", "this test", f"{path}/usable_per_kg")
    less = [
        Input(f"less {part.name}", part.worth, "money",
              f"{part.mass} at {plain(part.value_per_kg)} per kg")
        for part in test.parts
    ]  # fmt: skip
    formulas: dict[str, tuple[Decimal | None, str, str, list[Input]]] = {
        "paid": (found.paid, "money", "AP * AP price", [before, price]),
        "usable_cost": (found.usable_cost, "money", "paid - value of by-products + disposal", [paid, *less]),
        "usable_per_kg": (found.usable_per_kg, "money/kg", "cost of the usable part / usable kilos", [usable, after]),
        "cost_factor": (found.cost_factor, "", "EP cost of a usable kilo / AP price", [each, price]),
    }
    value, unit, formula, inputs = formulas[name]
    return Working("", f"{path}/{name}", f"{title}: {_USABLE_TITLES[name]}", value, unit, formula, inputs)


def _explain_estimate(costing: Costing, key: YieldKey, name: str, earlier: Sequence[Entry]) -> Working | None:
    facts, (item_id, sort, of) = costing.facts, key
    item = facts.items.get(item_id)
    if item is None:
        return None
    known = evidence_of(facts, item, sort, of, tests_by_yield(facts).get(key, []), earlier)
    own = known.own
    if own is None:
        return None
    path, title = f"yield/{item_id}/{sort}/{of}", f"{item.name}, {of}"
    each = [
        Input(f"test of {test.on.isoformat()}", test.yield_, "share", test.by or "this kitchen", f"test/{test.id}/yield")
        for test in those_that_count(known.tests)
    ]
    mean = Input("mean of the own tests", own.mean, "share", f"{own.count} of them", f"{path}/mean")
    count = Input("number of tests", Decimal(own.count), "", "those that count")
    if name == "mean":
        left = f"{own.left_out} left out for a reason" if own.left_out else None
        return Working("", f"{path}/mean", f"{title}: mean", own.mean, "share", "sum of the yields / their number", each, left)
    if name == "blend":
        book, made = known.leaning_on, known.blend
        if book is None or made is None:
            return None
        return Working(
            "", f"{path}/blend", f"{title}: blend", made.estimate, "share",
            "(book / s0² + n * mean / s²) / (1 / s0² + n / s²)",
            [
                Input("book", book.likely, "share", book.source),
                Input("s0, spread of the book", made.book_spread, "share", "(high - low) / 3.92: its band as the middle 95%"),
                mean, count,
                Input("s, spread of the tests", made.own_spread, "share", _spread_source(own)),
                Input("weight of the own tests", made.own_weight, "share", "n / s² / (1 / s0² + n / s²)"),
            ],
            "few own tests lean on the book, many do not; s0 and s are at least half a percent",
        )  # fmt: skip
    if own.spread is None or own.low is None:
        return None
    spread = Input("spread of the tests", own.spread, "share", "standard deviation, n - 1", f"{path}/spread")
    if name == "spread":
        formula = "root of (sum of (yield - mean)² / (n - 1))"
        return Working("", f"{path}/spread", f"{title}: spread", own.spread, "share", formula, [*each, mean])
    if name in ("low", "high"):
        sign = "-" if name == "low" else "+"
        t = Input("t", t95(own.count - 1), "", "Student's t, two-sided 95%, n - 1 degrees of freedom")
        inputs = [mean, t, spread, count]
        value = own.low if name == "low" else own.high
        return Working("", f"{path}/{name}", f"{title}: {name} end of the 95% interval", value, "share",
                       f"mean {sign} t * spread / root of n", inputs)  # fmt: skip
    return None


def _spread_source(own: Tested) -> str:
    return "one test tells no spread: that of the book is taken" if own.count == ONE else "standard deviation, n - 1"
