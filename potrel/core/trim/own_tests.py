"""What a kitchen's own tests say of a yield: mean, spread, outliers; and the blend of the book with few own tests."""

from __future__ import annotations

import statistics
from collections.abc import Iterable, Mapping, Sequence
from decimal import Decimal
from typing import Literal

from potrel.core.errors import BadDocument
from potrel.core.frozen import dataclass
from potrel.core.kitchen.bench_tests import BenchTest, minutes_per_kg, those_that_count
from potrel.core.kitchen.kinds import Computed
from potrel.core.kitchen.provenance import Provenance
from potrel.core.numbers.arithmetic import Number, larger
from potrel.core.numbers.formula import Many, formula
from potrel.core.numbers.rounding import exceeds
from potrel.core.numbers.student import t95
from potrel.core.sentences import say

Estimate = Literal["book", "mean", "blend"]

# A band of the book is taken for the middle 95% of a normal distribution, 1.96 standard deviations to either side.
_SIDES = Decimal("3.92")
# A scale and a knife are no better than this: tests that agree to the gram are still tests. Common practice, no source.
LEAST_SPREAD = Decimal("0.005")
# A modified z-score over 3.5 names an outlier: Iglewicz and Hoaglin, How to Detect and Handle Outliers (1993).
_OUTLYING, _MAD_TO_SPREAD = Decimal("3.5"), Decimal("0.6745")
_ENOUGH = 4


@formula("mean of tests")
def mean_of_tests(tests: Many) -> Number:
    """The mean yield of some tests."""
    return statistics.mean(tests)


@formula("standard deviation of tests")
def spread_of_tests(tests: Many) -> Number:
    """The standard deviation of a sample, n - 1 in its divisor; of two tests or more."""
    return statistics.stdev(tests)


@formula("mean - t * spread / root of (number of tests)")
def low_end(mean: Number, t: Number, spread: Number, number_of_tests: Number) -> Number:
    """The low end of the 95% interval of the mean."""
    return mean - t * spread / number_of_tests.sqrt()


@formula("mean + t * spread / root of (number of tests)")
def high_end(mean: Number, t: Number, spread: Number, number_of_tests: Number) -> Number:
    """The high end of the 95% interval of the mean."""
    return mean + t * spread / number_of_tests.sqrt()


@formula("the larger of ((high - low) / 3.92, least spread)")
def spread_of_a_book(high: Number, low: Number, least_spread: Number) -> Number:
    """The standard deviation that a book's band stands for: its band as the middle 95% of a normal distribution."""
    return larger((high - low) / _SIDES, least_spread)


@formula("number of tests / spread of the tests² / (1 / spread of the book² + number of tests / spread of the tests²)")
def weight_of_own_tests(number_of_tests: Number, spread_of_the_tests: Number, spread_of_the_book: Number) -> Number:
    """How much the own tests count beside the book, by how sure each is."""
    of_own = number_of_tests / spread_of_the_tests**2
    return of_own / (1 / spread_of_the_book**2 + of_own)


@formula("book + weight of the own tests * (mean - book)")
def blend_of(book: Number, weight_of_the_own_tests: Number, mean: Number) -> Number:
    """The blend of a book's yield with the mean of own tests: the posterior mean of the normal-normal conjugate pair."""
    return book + weight_of_the_own_tests * (mean - book)


@dataclass(frozen=True, slots=True)
class Group:
    """The mean yield of the tests of one supplier or one season, and how many there are."""

    name: str
    count: int
    mean: Computed


@dataclass(frozen=True, slots=True)
class Tested:
    """What the tests that count say of a yield.

    `spread` is the sample's standard deviation (None of one test), `low` to `high` the 95% interval of the mean by
    Student's t. `outliers` are the ids of tests far from the others; they count until a person leaves them out.
    """

    count: int
    left_out: int
    mean: Computed
    spread: Computed | None
    low: Computed | None
    high: Computed | None
    outliers: list[str]
    minutes_per_kg: Computed | None
    by_supplier: list[Group]
    by_season: list[Group]


def own_tests(tests: Sequence[BenchTest], suppliers: Mapping[str, str]) -> Tested | None:
    """What some tests of one yield say together; None where none counts. `suppliers` gives their names by id."""
    counted = those_that_count(tests)
    if not counted:
        return None
    values = [test.yield_ for test in counted]
    count, mean = len(values), mean_of_tests(values)
    spread = low = high = None
    if count > 1:
        spread, t = spread_of_tests(values), t95(count - 1)
        low, high = low_end(mean, t, spread, Decimal(count)), high_end(mean, t, spread, Decimal(count))
    labour = [minutes for test in counted if (minutes := minutes_per_kg(test)) is not None]
    return Tested(
        count=count,
        left_out=len(tests) - count,
        mean=mean,
        spread=spread,
        low=low,
        high=high,
        outliers=outliers(counted),
        minutes_per_kg=statistics.mean(labour) if labour else None,
        by_supplier=_groups((suppliers.get(test.supplier or "", "not noted") for test in counted), values),
        by_season=_groups((_season(test.on.month) for test in counted), values),
    )


def outliers(tests: Sequence[BenchTest]) -> list[str]:
    """The ids of tests whose yield is far from the median of all: a modified z-score over 3.5. None of fewer than four."""
    if len(tests) < _ENOUGH:
        return []
    values = [test.yield_ for test in tests]
    middle = statistics.median(values)
    typical = max(statistics.median(abs(value - middle) for value in values), LEAST_SPREAD * _MAD_TO_SPREAD)
    return [test.id for test in tests if exceeds(_MAD_TO_SPREAD * abs(test.yield_ - middle) / typical, _OUTLYING)]


def _season(month: int) -> str:
    return ("winter", "spring", "summer", "autumn")[month % 12 // 3]


def _groups(names: Iterable[str], values: Sequence[Decimal]) -> list[Group]:
    """The mean of the values of each name, in the order of the names."""
    by_name: dict[str, list[Decimal]] = {}
    for name, value in zip(names, values, strict=True):
        by_name.setdefault(name, []).append(value)
    return [Group(name, len(some), statistics.mean(some)) for name, some in sorted(by_name.items())]


@dataclass(frozen=True, slots=True)
class Book:
    """What a book says of a yield: low, likely, high; no band where it gives none."""

    low: Computed | None
    likely: Computed
    high: Computed | None
    source: str
    provenance: Provenance


@dataclass(frozen=True, slots=True)
class Blend:
    """The book and the own tests, weighed by how sure each is: the estimate, its band, and the weight of the own tests."""

    estimate: Computed
    low: Computed
    high: Computed
    own_weight: Computed
    book_spread: Computed
    own_spread: Computed


def blended(book: Book, own: Tested) -> Blend:
    """The blend of a book's yield with own tests: few of them lean on the book, many do not.

    A normal prior of mean `likely` and standard deviation s0 = (high - low) / 3.92, and n tests of mean x and standard
    deviation s give: estimate = (likely / s0² + n x / s²) / (1 / s0² + n / s²), with the variance 1 / (1 / s0² + n / s²).
    Of one test s is taken as s0. BadDocument for a book without a band. Source: the normal-normal conjugate pair, in any
    textbook of Bayesian statistics.
    """
    if book.low is None or book.high is None:
        raise BadDocument("book", say("no_band", "a blend leans on a book's band: this one gives none"))
    before = spread_of_a_book(book.high, book.low, LEAST_SPREAD)
    spread = larger(before if own.spread is None else own.spread, LEAST_SPREAD)
    count = Decimal(own.count)
    weight = weight_of_own_tests(count, spread, before)
    estimate = blend_of(book.likely, weight, own.mean)
    half = (1 / (1 / before**2 + count / spread**2)).sqrt() * _SIDES / 2
    return Blend(estimate, max(estimate - half, Decimal("0.0001")), estimate + half, weight, before, spread)
