"""The statistics of yields against SciPy: Student's t, the interval of a mean, and the blend by brute integration."""

from __future__ import annotations

import unittest
from decimal import Decimal

import numpy
from scipy import integrate, stats

from potrel.core.yields import Book, blended, own_tests, t95
from tests.core.test_yields import tests_of


class AgainstSciPy(unittest.TestCase):
    def test_students_t(self) -> None:
        # The table is printed to three places; between its rows the wider value counts.
        for df in (1, 2, 3, 4, 5, 6, 8, 10, 15, 20, 30, 60, 120):
            self.assertAlmostEqual(float(t95(df)), float(stats.t.ppf(0.975, df)), delta=0.0006, msg=str(df))
        for df in range(1, 300):
            exact = float(stats.t.ppf(0.975, df))
            self.assertTrue(exact - 0.0006 <= float(t95(df)) <= exact + 0.07, str(df))

    def test_the_interval_of_a_mean(self) -> None:
        for yields in (("0.44", "0.46"), ("0.44", "0.46", "0.41", "0.45"), tuple(f"0.{n}" for n in range(40, 52))):
            found = own_tests(tests_of(*yields), {})
            assert found is not None and found.low is not None and found.high is not None
            values = [float(one) for one in yields]
            low, high = stats.t.interval(0.95, len(values) - 1, numpy.mean(values), stats.sem(values))
            self.assertAlmostEqual(float(found.low), low, delta=0.0005)
            self.assertAlmostEqual(float(found.high), high, delta=0.0005)

    def test_the_blend_by_integrating_prior_times_likelihood(self) -> None:
        # No conjugate formula here: the posterior of the mean yield is integrated numerically.
        for book, yields in (
            (("0.41", "0.44", "0.47"), ("0.40", "0.38", "0.42")),
            (("0.70", "0.80", "0.90"), ("0.71", "0.69", "0.73", "0.70", "0.75", "0.72")),
            (("1.9", "2.0", "2.15"), ("2.06", "2.2")),
        ):
            low, likely, high = book
            own = own_tests(tests_of(*yields, kind="soak"), {})
            assert own is not None and own.spread is not None
            made = blended(Book(Decimal(low), Decimal(likely), Decimal(high), "a book"), own)
            prior = stats.norm(float(likely), (float(high) - float(low)) / (2 * 1.96))
            each = [float(one) for one in yields]
            spread = float(numpy.std(each, ddof=1))

            def density(mean: float, prior: object = prior, each: list[float] = each, spread: float = spread) -> float:
                likelihood = numpy.prod(stats.norm(mean, spread).pdf(each))
                return float(prior.pdf(mean) * likelihood)  # type: ignore[attr-defined]

            ends = (float(made.estimate) - 0.5, float(made.estimate) + 0.5)
            near = [float(made.estimate)]
            whole = integrate.quad(density, *ends, points=near, limit=400)[0]
            mean = integrate.quad(lambda m: m * density(m), *ends, points=near, limit=400)[0] / whole
            square = integrate.quad(lambda m: m * m * density(m), *ends, points=near, limit=400)[0] / whole
            variance = square - mean * mean
            self.assertAlmostEqual(float(made.estimate), mean, 6)
            self.assertAlmostEqual(float(made.high - made.low) / (2 * 1.96), variance**0.5, 6)
