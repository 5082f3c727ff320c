"""The yield book: every yield of the kitchen beside what the shelf says, what own tests say, and what may be adopted."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date
from decimal import Decimal
from functools import cache

from potrel.core.byproducts import trimmed
from potrel.core.costing import Costing, Rests, YieldSort
from potrel.core.facts import DRAINED, Facts
from potrel.core.fields import ONE, ZERO, Computed, Flag, Id, Name, On
from potrel.core.kitchen import Byproduct, Cooking, Item, Preparation
from potrel.core.part import Part
from potrel.core.shelf import Known, shelf
from potrel.core.sureness import Sure, rests_on
from potrel.core.weighed import BenchTest, TestKind, weights
from potrel.core.yields import Blend, Book, Estimate, Tested, blended, own_tests, those_that_count

Entry = Preparation | Cooking
# The item, the sort, and the preparation or cooking method.
YieldKey = tuple[str, YieldSort, str]
_THOUSAND = Decimal(1000)
# Places of an adopted yield: far finer than any scale, and short enough to read.
_PLACES = Decimal("0.000001")
_BLENDED = "blended with"
_BUTCHERED = frozenset({"meat", "poultry", "fish", "bones", "seafood", "game"})


@dataclass(frozen=True, slots=True)
class RecipeName(Part):
    """A recipe as a place to go to."""

    id: Id
    name: Name


@dataclass(frozen=True, slots=True)
class YieldRow(Part):
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


@dataclass(frozen=True, slots=True)
class Choice(Part):
    """A yield that may be adopted: by a book, the mean of the own tests, or a blend. `lack` says why it may not.

    `byproducts` and `minutes_per_kg` come along where the tests measured them.
    """

    id: str
    estimate: Estimate
    yield_: Computed | None
    low: Computed | None
    high: Computed | None
    source: str
    byproducts: tuple[Byproduct, ...]
    minutes_per_kg: Computed | None
    in_use: Flag
    lack: str | None = None


def entries_of(facts: Facts, item: Item) -> list[tuple[YieldSort, str, Entry]]:
    """An item's yields: its preparations, drained weight by the offer in force included, and its cooking methods."""
    found = stated_entries(item)
    drained = facts.preparation(item, DRAINED)
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


def entry_of(facts: Facts, item: Item, sort: YieldSort, of: str) -> Entry | None:
    """The preparation or cooking yield of an item; None where there is none such (yet)."""
    return facts.preparation(item, of) if sort == "preparation" else facts.cooking(item, of)


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
    sure = Sure(costing)
    found: defaultdict[YieldKey, list[RecipeName]] = defaultdict(list)
    for recipe in sorted(costing.facts.kitchen.recipes, key=lambda one: one.name.casefold()):
        for used in sure.yields(recipe.id):
            found[used.item, used.sort, used.of].append(RecipeName(recipe.id, recipe.name))
    return found


def yield_book(costing: Costing) -> list[YieldRow]:
    """Every yield of the kitchen, in the order of the items' names."""
    facts, recipes = costing.facts, recipes_by_yield(costing)
    tests = tests_by_yield(facts)
    rows: list[YieldRow] = []
    for item in sorted(facts.kitchen.items, key=lambda one: one.name.casefold()):
        for sort, of, entry in entries_of(facts, item):
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


def tests_by_yield(facts: Facts) -> Mapping[YieldKey, list[BenchTest]]:
    """The kitchen's tests by the yield that they tell."""
    found: defaultdict[YieldKey, list[BenchTest]] = defaultdict(list)
    for test in facts.kitchen.tests:
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
        rests_on=rests_on(entry.source),
        per_kg=_usable(costing, item, entry, entry.yield_),
        per_kg_low=None if entry.low is None else _usable(costing, item, entry, entry.low),
        per_kg_high=None if entry.high is None else _usable(costing, item, entry, entry.high),
        tests=len(counted), left_out=len(tests) - len(counted), newest=max(counted, default=None),
        outliers=0 if own is None else len(own.outliers), own_mean=None if own is None else own.mean,
        shelf=shelf_says, recipes=recipes,
    )  # fmt: skip


def _usable(costing: Costing, item: Item, entry: Entry, yield_: Decimal) -> Decimal | None:
    """What a usable kilo [money/kg] costs at another yield, the shares of what falls off unchanged."""
    per_kg = costing.per_kg(item.id)
    if per_kg is None:
        return None
    if isinstance(entry, Cooking):
        return per_kg / yield_
    trim = trimmed(_THOUSAND, [entry], costing.facts.byproduct_method(item))
    if trim.lack is not None:
        return None
    return trim.cost(per_kg) / yield_


def _differs(book: Book, entry: Entry) -> bool:
    return (book.likely, book.low, book.high) != (entry.yield_, entry.low, entry.high)


@cache
def _shelf_by_name() -> dict[str, Known]:
    return {name: known for known in shelf() for name in (known.item.id, known.item.name.casefold())}


def shelf_books(item: Item, sort: YieldSort, of: str, entry: Entry | None) -> list[Book]:
    """What the shelf says of an item's yield: of the same preparation or method, by its id or its name."""
    known = _shelf_by_name().get(item.id) or _shelf_by_name().get(item.name.casefold())
    if known is None:
        return []
    if sort == "cooking":
        return [book_of(one) for one in known.item.cooking if one.method == of]
    name = "" if entry is None or isinstance(entry, Cooking) else entry.name.casefold()
    return [book_of(one) for one in known.item.preparations if one.id == of or one.name.casefold() == name]


def book_of(entry: Entry) -> Book:
    """What a stated yield says, as a book."""
    return Book(entry.low, entry.yield_, entry.high, entry.source or "estimate")


def books_of(item: Item, sort: YieldSort, of: str, entries: Sequence[Entry]) -> list[Book]:
    """What books and estimates say of a yield: those in use now or before (`entries`, the newest first), and the shelf."""
    stated = [book_of(one) for one in entries if rests_on(one.source) != "own_tests"]
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
    facts: Facts, item: Item, sort: YieldSort, of: str, tests: Sequence[BenchTest], earlier: Sequence[Entry]
) -> Evidence:
    """What there is to a yield; `earlier` were in use before, the newest first."""
    now = entry_of(facts, item, sort, of)
    suppliers = {supplier.id: supplier.name for supplier in facts.kitchen.suppliers}
    books = books_of(item, sort, of, [*([] if now is None else [now]), *earlier])
    return Evidence(sort, now, tests, own_tests(tests, suppliers), books)


def choices_of(known: Evidence) -> list[Choice]:
    """What may be adopted as a yield: each book, the mean of the own tests, and their blend."""
    now, own, tests = known.now, known.own, known.tests
    kept = now.byproducts if isinstance(now, Preparation) else ()
    found = [
        Choice(f"book-{place}", "book", book.likely, book.low, book.high, book.source,
               _fitting(kept, book.likely), None, _in_use(now, book.likely, book.source))
        for place, book in enumerate(known.books, 1)
    ]  # fmt: skip
    if own is None:
        return found
    measured = _measured(tests, kept)
    newest = max(test.on for test in those_that_count(tests))
    count = f"{own.count} test{'s' if own.count != 1 else ''}, {newest:%b %Y}"
    limit = None if known.sort == "cooking" or own.mean > 1 else ONE

    def choice(estimate: Estimate, yield_: Decimal, band: tuple[Decimal | None, Decimal | None], source: str) -> Choice:
        yield_ = yield_.quantize(_PLACES)
        low, high = (None if end is None else end.quantize(_PLACES) for end in band)
        if high is not None and limit is not None:
            high = max(yield_, min(high, limit))
        low = None if low is None else min(yield_, max(low, _PLACES))
        parts = _rescaled(measured, own.mean, yield_)
        minutes = None if own.minutes_per_kg is None else own.minutes_per_kg.quantize(_PLACES)
        in_use = _in_use(now, yield_, source)
        return Choice(estimate, estimate, yield_, low, high, source, parts, minutes, in_use)

    found.append(choice("mean", own.mean, (own.low, own.high), f"own test, {count}"))
    book, made = known.leaning_on, known.blend
    if book is None or made is None:
        lack = "no book gives a band to lean on: only the own tests can be used"
        found.append(Choice("blend", "blend", None, None, None, "", (), None, False, lack))
    else:
        source = f"own test, {count}, {_BLENDED} {book.source}"[:200]
        found.append(choice("blend", made.estimate, (made.low, made.high), source))
    return found


def _in_use(now: Entry | None, yield_: Decimal, source: str) -> bool:
    if now is None or now.yield_ != yield_ or rests_on(now.source) != rests_on(source):
        return False
    return (_BLENDED in (now.source or "")) == (_BLENDED in source)


def _measured(tests: Sequence[BenchTest], kept: tuple[Byproduct, ...]) -> tuple[Byproduct, ...]:
    """What fell off in the tests, each thing's share the mean of all of them; what is known already where none was weighed."""
    counted = those_that_count(tests)
    shares: dict[str, Decimal] = {}
    newest: dict[str, Byproduct] = {}
    for test in counted:
        before = weights(test).before
        for part in test.parts:
            share = part.grams / before
            shares[part.name] = shares.get(part.name, ZERO) + share
            newest[part.name] = Byproduct(part.name, share, part.value_per_kg, part.use)
    if not shares:
        return kept
    return tuple(replace(part, share=shares[name] / len(counted)) for name, part in newest.items())


def _rescaled(parts: tuple[Byproduct, ...], mean: Decimal, yield_: Decimal) -> tuple[Byproduct, ...]:
    """The shares of what falls off, where the yield is another than the mean that they were weighed with.

    What is lost is split as it was weighed; so yield and shares never add up to more than all.
    """
    factor = (1 - yield_) / (1 - mean) if mean < 1 and yield_ < 1 else ONE
    scaled = tuple(replace(part, share=min(ONE, part.share * factor)) for part in parts)
    return _fitting(tuple(replace(part, share=part.share.quantize(_PLACES)) for part in scaled), yield_)


def _fitting(parts: tuple[Byproduct, ...], yield_: Decimal) -> tuple[Byproduct, ...]:
    """Shares that leave room for a yield: scaled down where together they would be more than all."""
    total = sum((part.share for part in parts), ZERO)
    if yield_ > 1 or total == 0 or yield_ + total <= 1:
        return parts
    factor = max(ZERO, 1 - yield_) / total
    # Rounded down, so that the sum cannot creep over the whole.
    return tuple(replace(part, share=max(ZERO, (part.share * factor).quantize(_PLACES) - _PLACES)) for part in parts)


def adopted_item(item: Item, sort: YieldSort, of: str, choice: Choice) -> Item:
    """An item that has adopted a yield; a preparation or method that it does not have yet is added by its id."""
    if choice.yield_ is None:
        return item
    if sort == "cooking":
        cooked = Cooking(of, choice.yield_, choice.low, choice.high, choice.source)
        return with_entry(item, cooked)
    now = next((one for one in item.preparations if one.id == of), None)
    minutes = choice.minutes_per_kg if choice.minutes_per_kg is not None else (now.minutes_per_kg if now else None)
    value = now.value_per_kg if now else None
    label = now.name if now else of.replace("-", " ")
    made = Preparation(of, label, choice.yield_, choice.low, choice.high, choice.source, choice.byproducts, minutes, value)
    return with_entry(item, made)


def with_entry(item: Item, entry: Entry) -> Item:
    """An item with a preparation or cooking yield in the place of the one it had, or added."""
    if isinstance(entry, Cooking):
        cooking = tuple(entry if one.method == entry.method else one for one in item.cooking)
        return replace(item, cooking=cooking if entry in cooking else (*cooking, entry))
    preparations = tuple(entry if one.id == entry.id else one for one in item.preparations)
    return replace(item, preparations=preparations if entry in preparations else (*preparations, entry))
