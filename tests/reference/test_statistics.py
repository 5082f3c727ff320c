"""The statistics of yields against SciPy: Student's t, the interval of a mean, and the blend by brute integration."""

from __future__ import annotations

import unittest
from decimal import Decimal

import numpy
from scipy import integrate, stats

from potrel.core.numbers.student import t95
from potrel.core.trim.own_tests import Book, blended, own_tests
from tests.core.rooms.test_yield_choices import BOOK, tests_of


class AgainstSciPy(unittest.TestCase):
    def test_students_t(self) -> None:
        # NIST/SEMATECH e-Handbook of Statistical Methods, 1.3.6.7.2, critical values of Student's t, 0.975; to three places.
        table = {1: "12.706", 2: "4.303", 3: "3.182", 4: "2.776", 5: "2.571", 6: "2.447", 8: "2.306", 10: "2.228", 15: "2.131",
                 20: "2.086", 30: "2.042", 60: "2.000", 100: "1.984"}  # fmt: skip
        for df, printed in table.items():
            self.assertEqual(f"{t95(df):.3f}", printed, str(df))

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
            made = blended(Book(Decimal(low), Decimal(likely), Decimal(high), "a book", BOOK.provenance), own)
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
