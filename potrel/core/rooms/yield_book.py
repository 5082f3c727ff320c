"""The yield book: every yield of the kitchen beside what the shelf says, what own tests say, and what may be adopted."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping, Sequence
from datetime import date

from potrel.core.cost.confidence import Rests, YieldSort, rests_on
from potrel.core.cost.costing import Costing
from potrel.core.cost.usable_kilo import usable_kilo
from potrel.core.frozen import dataclass
from potrel.core.kitchen.bench_tests import BenchTest, TestKind, those_that_count
from potrel.core.kitchen.items import Cooking, Entry, Item
from potrel.core.kitchen.keyed import Keyed
from potrel.core.kitchen.kinds import Computed, Id, Name, On
from potrel.core.pot.day_view import DRAINED, DayView
from potrel.core.trim.own_tests import Blend, Book, Tested, blended, own_tests
from potrel.core.trim.shelf import known_of

# The item, the sort, and the preparation or cooking method.
YieldKey = tuple[str, YieldSort, str]
_BUTCHERED = frozenset({"meat", "poultry", "fish", "bones", "seafood", "game"})


@dataclass(frozen=True, slots=True)
class RecipeName:
    """A recipe as a place to go to."""

    id: Id
    name: Name


@dataclass(frozen=True, slots=True)
class YieldRow(Keyed):
    """One yield of the kitchen: its band and source, the own tests behind it, and what it does to money.

    `per_kg` is the cost of a usable kilo [money/kg] today, `per_kg_low` at the low yield (so the dearest) and
    `per_kg_high` at the high one. `shelf` is what the shelf says of the same thing where that is not the same.
    """

    item: Id
    item_name: Name
    kind: Name
    sort: YieldSort
    of: Name
    name: Name
    treatment: TestKind
    yield_: Computed
    low: Computed | None
    high: Computed | None
    source: str
    rests_on: Rests
    per_kg: Computed | None
    per_kg_low: Computed | None
    per_kg_high: Computed | None
    tests: int
    left_out: int
    newest: On | None
    outliers: int
    own_mean: Computed | None
    shelf: list[Book]
    recipes: list[RecipeName]


def entries_of(view: DayView, item: Item) -> list[tuple[YieldSort, str, Entry]]:
    """An item's yields: its preparations, drained weight by the offer in force included, and its cooking methods."""
    found = stated_entries(item)
    drained = view.preparation(item, DRAINED)
    if drained is not None and drained not in item.preparations:
        found.insert(len(item.preparations), ("preparation", DRAINED, drained))
    return found


def stated_entries(item: Item) -> list[tuple[YieldSort, str, Entry]]:
    """The yields that an item itself states: its preparations, then its cooking methods."""
    found: list[tuple[YieldSort, str, Entry]] = [("preparation", one.id, one) for one in item.preparations]
    return found + [("cooking", one.method, one) for one in item.cooking]


def stated_entry(item: Item, sort: YieldSort, of: str) -> Entry | None:
    """One of these; None where the item states none such."""
    return next((entry for a_sort, an_of, entry in stated_entries(item) if (a_sort, an_of) == (sort, of)), None)


def entry_name(entry: Entry) -> str:
    """What a yield is called: its preparation's name, or its cooking method."""
    return entry.method if isinstance(entry, Cooking) else entry.name


def entry_of(view: DayView, item: Item, sort: YieldSort, of: str) -> Entry | None:
    """The preparation or cooking yield of an item; None where there is none such (yet)."""
    if sort == "preparation":
        return view.preparation(item, of)
    return next((one for one in item.cooking if one.method == of), None)


def sort_of(kind: TestKind) -> YieldSort:
    """Whether a kind of test tells a preparation's or a cooking yield."""
    return "cooking" if kind == "cooking" else "preparation"


def treatment_of(item: Item, sort: YieldSort, of: str, entry: Entry | None) -> TestKind:
    """The kind of test that tells a yield: what is pressed, drained or soaked is known by its name or its gain."""
    if sort == "cooking":
        return "cooking"
    words = f"{of} {'' if entry is None or isinstance(entry, Cooking) else entry.name}".lower()
    if entry is not None and entry.yield_ > 1:
        return "soak"
    if "press" in words or "squeez" in words:
        return "press"
    if "soak" in words:
        return "soak"
    if "drain" in words:
        return "can"
    return "butcher" if item.kind in _BUTCHERED else "trim"


def recipes_by_yield(costing: Costing) -> Mapping[YieldKey, list[RecipeName]]:
    """The recipes that rest on each yield, in the order of their names."""
    found: defaultdict[YieldKey, list[RecipeName]] = defaultdict(list)
    for one in sorted(costing.all(), key=lambda one: one.recipe.name.casefold()):
        for used in one.yields:
            if used.sort == "batch":
                continue
            found[used.item, used.sort, used.of].append(RecipeName(one.recipe.id, one.recipe.name))
    return found


def yield_book(costing: Costing) -> list[YieldRow]:
    """Every yield of the kitchen, in the order of the items' names."""
    view, recipes = costing.view, recipes_by_yield(costing)
    tests = tests_by_yield(view)
    rows: list[YieldRow] = []
    for item in sorted(view.kitchen.items, key=lambda one: one.name.casefold()):
        for sort, of, entry in entries_of(view, item):
            key = (item.id, sort, of)
            rows.append(yield_row(costing, item, sort, of, entry, tests.get(key, []), recipes.get(key, [])))
    return rows


def worth_testing(rows: Sequence[YieldRow], most: int = 3) -> list[YieldRow]:
    """The yields that a test would do most for: not tested yet, in pots, and far apart in money between low and high.

    Ranked by the cost of a usable kilo at the low yield less that at the high one, times the recipes that rest on it.
    """
    found = [
        ((row.per_kg_low - row.per_kg_high) * len(row.recipes), row)
        for row in rows
        if row.tests == 0 and row.recipes and row.per_kg_low is not None and row.per_kg_high is not None
    ]
    found.sort(key=lambda pair: (-pair[0], pair[1].item_name.casefold()))
    return [row for gain, row in found[:most] if gain > 0]


def tests_by_yield(view: DayView) -> Mapping[YieldKey, list[BenchTest]]:
    """The kitchen's tests by the yield that they tell."""
    found: defaultdict[YieldKey, list[BenchTest]] = defaultdict(list)
    for test in view.kitchen.tests:
        found[test.item, sort_of(test.kind), test.of].append(test)
    return found


def yield_row(
    costing: Costing, item: Item, sort: YieldSort, of: str, entry: Entry, tests: Sequence[BenchTest],
    recipes: list[RecipeName],
) -> YieldRow:  # fmt: skip
    """One row of the yield book."""
    own = own_tests(tests, {})
    counted: list[date] = [test.on for test in those_that_count(tests)]
    shelf_says = [book for book in shelf_books(item, sort, of, entry) if _differs(book, entry)]
    return YieldRow(
        item=item.id, item_name=item.name, kind=item.kind, sort=sort, of=of,
        name=entry_name(entry),
        treatment=treatment_of(item, sort, of, entry),
        yield_=entry.yield_, low=entry.low, high=entry.high, source=entry.source or "estimate",
        rests_on=rests_on(entry),
        per_kg=usable_kilo(costing.view, item, entry),
        per_kg_low=None if entry.low is None else usable_kilo(costing.view, item, entry, entry.low),
        per_kg_high=None if entry.high is None else usable_kilo(costing.view, item, entry, entry.high),
        tests=len(counted), left_out=len(tests) - len(counted), newest=max(counted, default=None),
        outliers=0 if own is None else len(own.outliers), own_mean=None if own is None else own.mean,
        shelf=shelf_says, recipes=recipes,
    )  # fmt: skip


def _differs(book: Book, entry: Entry) -> bool:
    return (book.likely, book.low, book.high) != (entry.yield_, entry.low, entry.high)


def shelf_books(item: Item, sort: YieldSort, of: str, entry: Entry | None) -> list[Book]:
    """What the shelf says of an item's yield: of the same preparation or method, by its id or its name."""
    known = known_of(item)
    if known is None:
        return []
    if sort == "cooking":
        return [book_of(one) for one in known.item.cooking if one.method == of]
    name = "" if entry is None or isinstance(entry, Cooking) else entry.name.casefold()
    return [book_of(one) for one in known.item.preparations if one.id == of or one.name.casefold() == name]


def book_of(entry: Entry) -> Book:
    """What a stated yield says, as a book."""
    return Book(entry.low, entry.yield_, entry.high, entry.source or "estimate", entry.rests_on)


def books_of(item: Item, sort: YieldSort, of: str, entries: Sequence[Entry]) -> list[Book]:
    """What books and estimates say of a yield: those in use now or before (`entries`, the newest first), and the shelf."""
    stated = [book_of(one) for one in entries if not one.rests_on.is_own]
    entry = entries[0] if entries else None
    books: list[Book] = []
    for book in [*stated, *shelf_books(item, sort, of, entry)]:
        if not any((one.likely, one.low, one.high) == (book.likely, book.low, book.high) for one in books):
            books.append(book)
    return books


@dataclass(frozen=True, slots=True)
class Evidence:
    """What there is to a yield: the one in use (None where there is none yet), the tests, what they say, and the books."""

    sort: YieldSort
    now: Entry | None
    tests: Sequence[BenchTest]
    own: Tested | None
    books: list[Book]

    @property
    def leaning_on(self) -> Book | None:
        """The book that a blend leans on: the first with a band."""
        return next((book for book in self.books if book.low is not None and book.high is not None), None)

    @property
    def blend(self) -> Blend | None:
        """The blend of the own tests with that book; None where one of the two is missing."""
        book = self.leaning_on
        return None if book is None or self.own is None else blended(book, self.own)


def evidence_of(
    view: DayView, item: Item, sort: YieldSort, of: str, tests: Sequence[BenchTest], earlier: Sequence[Entry]
) -> Evidence:
    """What there is to a yield; `earlier` were in use before, the newest first."""
    now = entry_of(view, item, sort, of)
    suppliers = {supplier.id: supplier.name for supplier in view.kitchen.suppliers}
    books = books_of(item, sort, of, [*([] if now is None else [now]), *earlier])
    return Evidence(sort, now, tests, own_tests(tests, suppliers), books)
