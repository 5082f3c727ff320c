"""What may be adopted as a yield: a book, the mean of the own tests, or a blend of both; and an item that has adopted one."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from decimal import Decimal

from potrel.core.cost.confidence import YieldSort
from potrel.core.frozen import dataclass
from potrel.core.kitchen.bench_tests import BenchTest, those_that_count
from potrel.core.kitchen.items import Byproduct, Cooking, Entry, Item, Preparation
from potrel.core.kitchen.keyed import Keyed
from potrel.core.kitchen.kinds import ONE, ZERO, Computed, Flag
from potrel.core.kitchen.provenance import Provenance
from potrel.core.numbers.rounding import exceeds, half_even
from potrel.core.rooms.yield_book import Evidence
from potrel.core.sentences import say
from potrel.core.trim.own_tests import Estimate, Tested

# Of an adopted yield: far finer than any scale, and short enough to read.
_PLACES, _FINEST = 6, Decimal("0.000001")


@dataclass(frozen=True, slots=True)
class Choice(Keyed):
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
    provenance: Provenance | None = None


def choices_of(known: Evidence) -> list[Choice]:
    """What may be adopted as a yield: each book, the mean of the own tests, and their blend."""
    kept = known.now.byproducts if isinstance(known.now, Preparation) else ()
    found = [
        Choice(f"book-{place}", "book", book.likely, book.low, book.high, book.source, _fitting(kept, book.likely), None,
               _in_use(known.now, book.likely, book.provenance), provenance=book.provenance)
        for place, book in enumerate(known.books, 1)
    ]  # fmt: skip
    return found if known.own is None else [*found, *_by_tests(known, known.own, kept)]


def _by_tests(known: Evidence, own: Tested, kept: tuple[Byproduct, ...]) -> list[Choice]:
    measured = _measured(known.tests, kept)
    newest = max(test.on for test in those_that_count(known.tests))
    words = f"own test, {own.count} test{'s' if own.count != 1 else ''}, {newest:%b %Y}"
    limit = None if known.sort == "cooking" or own.mean > 1 else ONE

    def choice(yield_: Decimal, low: Decimal | None, high: Decimal | None, source: str, provenance: Provenance) -> Choice:
        estimate: Estimate = "blend" if provenance.sort == "blend" else "mean"
        yield_ = half_even(yield_, _PLACES)
        if high is not None:
            high = half_even(high, _PLACES)
            high = high if limit is None else max(yield_, min(high, limit))
        if low is not None:
            low = min(yield_, max(half_even(low, _PLACES), _FINEST))
        minutes = None if own.minutes_per_kg is None else half_even(own.minutes_per_kg, _PLACES)
        return Choice(
            estimate, estimate, yield_, low, high, source, _rescaled(measured, own.mean, yield_), minutes,
            _in_use(known.now, yield_, provenance), provenance=provenance,
        )  # fmt: skip

    mean = choice(own.mean, own.low, own.high, words, Provenance("own_tests", own.count, newest))
    book, made = known.leaning_on, known.blend
    if book is None or made is None:
        lack = say("no_band_to_lean_on", "no book gives a band to lean on: only the own tests can be used")
        return [mean, Choice("blend", "blend", None, None, None, "", (), None, False, lack.english)]
    source = f"{words}, blended with {book.source}"[:200]
    provenance = Provenance("blend", own.count, newest, book.source[:200])
    return [mean, choice(made.estimate, made.low, made.high, source, provenance)]


def _in_use(now: Entry | None, yield_: Decimal, provenance: Provenance) -> bool:
    return now is not None and now.yield_ == yield_ and now.rests_on.sort == provenance.sort


def _measured(tests: Sequence[BenchTest], kept: tuple[Byproduct, ...]) -> tuple[Byproduct, ...]:
    """What fell off in the tests, each thing's share the mean of all of them; what is known already where none was weighed."""
    counted = those_that_count(tests)
    shares: dict[str, Decimal] = {}
    newest: dict[str, Byproduct] = {}
    for test in counted:
        for part in test.parts:
            share = part.grams / test.before.grams()
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
    scaled = tuple(replace(part, share=half_even(min(ONE, part.share * factor), _PLACES)) for part in parts)
    return _fitting(scaled, yield_)


def _fitting(parts: tuple[Byproduct, ...], yield_: Decimal) -> tuple[Byproduct, ...]:
    """Shares that leave room for a yield: scaled down where together they would be more than all."""
    whole = sum((part.share for part in parts), ZERO)
    if yield_ > 1 or whole == 0 or not exceeds(yield_ + whole, ONE):
        return parts
    factor = max(ZERO, 1 - yield_) / whole
    # Rounded down, so that the sum cannot creep over the whole.
    return tuple(replace(part, share=max(ZERO, half_even(part.share * factor, _PLACES) - _FINEST)) for part in parts)


def adopted_item(item: Item, sort: YieldSort, of: str, choice: Choice) -> Item:
    """An item that has adopted a yield; a preparation or method that it does not have yet is added by its id."""
    if choice.yield_ is None:
        return item
    if sort == "cooking":
        before = next((one for one in item.cooking if one.method == of), None) or Cooking(of, ONE)
        cooked = replace(
            before, yield_=choice.yield_, low=choice.low, high=choice.high, source=choice.source, provenance=choice.provenance
        )
        return with_entry(item, cooked)
    now = next((one for one in item.preparations if one.id == of), None)
    minutes = choice.minutes_per_kg
    if minutes is None and now is not None:
        minutes = now.minutes_per_kg
    made = Preparation(
        of, of.replace("-", " ") if now is None else now.name, choice.yield_, choice.low, choice.high, choice.source,
        choice.byproducts, minutes, None if now is None else now.value_per_kg, choice.provenance,
    )  # fmt: skip
    return with_entry(item, made)


def with_entry(item: Item, entry: Entry) -> Item:
    """An item with a preparation or cooking yield in the place of the one it had, or added."""
    if isinstance(entry, Cooking):
        cooking = tuple(entry if one.method == entry.method else one for one in item.cooking)
        return replace(item, cooking=cooking if entry in cooking else (*cooking, entry))
    preparations = tuple(entry if one.id == entry.id else one for one in item.preparations)
    return replace(item, preparations=preparations if entry in preparations else (*preparations, entry))
