"""What a kitchen's own tests say of a yield: mean, spread, outliers; and the blend of the book with few own tests."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from decimal import Decimal
from functools import cache
from typing import Literal

from potrel.core.errors import BadDocument
from potrel.core.fields import Computed
from potrel.core.part import Part
from potrel.core.table import table
from potrel.core.weighed import BenchTest, minutes_per_kg

Estimate = Literal["book", "mean", "blend"]

# A band of the book is taken for the middle 95% of a normal distribution, 1.96 standard deviations to either side.
_SIDES = Decimal("3.92")
# A scale and a knife are no better than this: tests that agree to the gram are still tests. Common practice, no source.
_LEAST_SPREAD = Decimal("0.005")
# A modified z-score over 3.5 names an outlier: Iglewicz and Hoaglin, How to Detect and Handle Outliers (1993).
_OUTLYING, _MAD_TO_SPREAD = Decimal("3.5"), Decimal("0.6745")
_ENOUGH = 4


@dataclass(frozen=True, slots=True)
class Group(Part):
    """The mean yield of the tests of one supplier or one season, and how many there are."""

    name: str
    count: int
    mean: Computed


@dataclass(frozen=True, slots=True)
class Tested(Part):
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
    mean = _mean(values)
    spread = _spread(values)
    half = None if spread is None else t95(len(values) - 1) * spread / Decimal(len(values)).sqrt()
    labour = [minutes for test in counted if (minutes := minutes_per_kg(test)) is not None]
    return Tested(
        count=len(counted),
        left_out=len(tests) - len(counted),
        mean=mean,
        spread=spread,
        low=None if half is None else mean - half,
        high=None if half is None else mean + half,
        outliers=outliers(counted),
        minutes_per_kg=_mean(labour) if labour else None,
        by_supplier=_groups((suppliers.get(test.supplier or "", "not noted") for test in counted), values),
        by_season=_groups((_season(test.on.month) for test in counted), values),
    )


def those_that_count(tests: Iterable[BenchTest]) -> list[BenchTest]:
    """The tests that nobody left out."""
    return [test for test in tests if test.left_out is None]


def _mean(values: Sequence[Decimal]) -> Decimal:
    return sum(values, Decimal(0)) / len(values)


def _spread(values: Sequence[Decimal]) -> Decimal | None:
    """The standard deviation of a sample, n - 1 in its divisor; None of one value."""
    if len(values) < 2:
        return None
    mean = _mean(values)
    return (sum(((value - mean) ** 2 for value in values), Decimal(0)) / (len(values) - 1)).sqrt()


@cache
def _t_table() -> tuple[tuple[int, Decimal], ...]:
    return tuple((int(row["df"]), Decimal(row["t"])) for row in table("student_t.csv"))


def t95(degrees: int) -> Decimal:
    """Student's t for a two-sided interval of 95%; between two rows of the table the wider one counts.

    >>> t95(4), t95(11), t95(1000)
    (Decimal('2.776'), Decimal('2.228'), Decimal('1.980'))
    """
    return next(t for df, t in reversed(_t_table()) if df <= degrees)


def outliers(tests: Sequence[BenchTest]) -> list[str]:
    """The ids of tests whose yield is far from the median of all: a modified z-score over 3.5. None of fewer than four."""
    if len(tests) < _ENOUGH:
        return []
    values = sorted(test.yield_ for test in tests)
    middle = _median(values)
    typical = max(_median(sorted(abs(value - middle) for value in values)), _LEAST_SPREAD * _MAD_TO_SPREAD)
    return [test.id for test in tests if _MAD_TO_SPREAD * abs(test.yield_ - middle) / typical > _OUTLYING]


def _median(values: Sequence[Decimal]) -> Decimal:
    half = len(values) // 2
    return values[half] if len(values) % 2 else (values[half - 1] + values[half]) / 2


def _season(month: int) -> str:
    return ("winter", "spring", "summer", "autumn")[month % 12 // 3]


def _groups(names: Iterable[str], values: Sequence[Decimal]) -> list[Group]:
    """The mean of the values of each name, in the order of the names."""
    by_name: dict[str, list[Decimal]] = {}
    for name, value in zip(names, values, strict=True):
        by_name.setdefault(name, []).append(value)
    return [Group(name, len(some), _mean(some)) for name, some in sorted(by_name.items())]


@dataclass(frozen=True, slots=True)
class Book(Part):
    """What a book says of a yield: low, likely, high; no band where it gives none."""

    low: Computed | None
    likely: Computed
    high: Computed | None
    source: str


@dataclass(frozen=True, slots=True)
class Blend(Part):
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
        raise BadDocument("book", "a blend leans on a book's band: this one gives none")
    before = max((book.high - book.low) / _SIDES, _LEAST_SPREAD)
    spread = max(before if own.spread is None else own.spread, _LEAST_SPREAD)
    of_book, of_own = 1 / before**2, own.count / spread**2
    estimate = (book.likely * of_book + own.mean * of_own) / (of_book + of_own)
    half = (1 / (of_book + of_own)).sqrt() * _SIDES / 2
    return Blend(
        estimate, max(estimate - half, Decimal("0.0001")), estimate + half, of_own / (of_book + of_own), before, spread
    )
