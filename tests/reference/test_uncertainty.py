"""Spreads and draws beside SciPy 1.17 (PERT, Student, lognormal, ranks) and beside closed forms of sums and products."""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import date
from decimal import Decimal
from itertools import pairwise
from typing import Any, NamedTuple, cast

import numpy
from scipy import stats

from potrel.core.cost.costing import Costing
from potrel.core.cost.uncertainty import Uncertainty, uncertainty_of, unsure_of
from potrel.core.cost.unsure import Doubts
from potrel.core.kitchen.quantities import parse_pack
from potrel.core.kitchen.supply import Offer
from potrel.core.numbers.spread import LogNormal, NextTest, Pert, draws, quantile, seed_of
from potrel.core.pot.inputs import Inputs
from tests.kitchens import DAY, d, demo, kitchen

_CHANCES = (0.001, 0.01, 0.1, 0.25, 0.5, 0.75, 0.9, 0.99, 0.999)
_DRAWS = 10_000


class Uniform(NamedTuple):
    """Alike from 0 to 1: no spread of the kitchen's, but one whose sums and products are known."""

    def on_grid(self) -> tuple[Any, Any]:
        values = numpy.linspace(0, 1, 2049)
        return values, numpy.ones(2049)


def drawn(spread: Any, seed: int) -> Any:
    return cast(Any, draws(spread, _DRAWS, seed))


class Quantiles(unittest.TestCase):
    def assertQuantiles(self, spread: Any, wanted: Any, scale: float) -> None:
        for chance in _CHANCES:
            with self.subTest(spread=spread, chance=chance):
                self.assertAlmostEqual(quantile(spread, chance) / scale, float(wanted(chance)) / scale, delta=2e-4)

    def test_pert_is_a_beta(self) -> None:
        # scipy.stats.beta with alpha and beta of the PERT.
        for low, likely, high in (("0.4", "0.55", "0.6"), ("0.4", "0.4", "0.9"), ("0", "1", "1"), ("700", "1000", "1400")):
            width = float(d(high) - d(low))
            at = float(d(likely) - d(low)) / width
            beta = stats.beta(1 + 4 * at, 1 + 4 * (1 - at), loc=float(d(low)), scale=width)
            self.assertQuantiles(Pert(d(low), d(likely), d(high)), beta.ppf, width)

    def test_the_next_test_is_a_t_that_is_cut(self) -> None:
        # scipy.stats.t, its middle part alone.
        for mean, spread, count, most in (
            ("0.8", "0.02", 2, "1"),
            ("0.55", "0.03", 5, "1"),
            ("0.97", "0.04", 3, "1"),
            ("2.1", "0.1", 8, "20"),
        ):
            scale = float(d(spread)) * (1 + 1 / count) ** 0.5
            t = stats.t(count - 1, loc=float(d(mean)), scale=scale)
            below, above = t.cdf(0.0001), t.cdf(float(d(most)))
            of = NextTest(d(mean), d(spread), count, d("0.0001"), d(most))
            self.assertQuantiles(of, lambda chance, t=t, a=below, b=above: t.ppf(a + chance * (b - a)), max(scale, 0.05))

    def test_a_price_is_lognormal(self) -> None:
        for median, spread in (("0.004", "0.08"), ("0.02", "0.3"), ("7", "0.01")):
            lognormal = stats.lognorm(float(d(spread)), scale=float(d(median)))
            self.assertQuantiles(LogNormal(d(median), d(spread)), lognormal.ppf, float(d(median)))

    def test_draws_are_spread_as_their_spread(self) -> None:
        # Kolmogorov and Smirnov: evenly spaced chances miss the curve by half a step at most.
        for spread, wanted in (
            (Pert(d("0.4"), d("0.55"), d("0.6")), stats.beta(4, 2, loc=0.4, scale=0.2)),
            (LogNormal(d(1), d("0.1")), stats.lognorm(0.1)),
        ):
            self.assertLess(stats.kstest(drawn(spread, 5), wanted.cdf).statistic, 1.1 / _DRAWS)


class ClosedForms(unittest.TestCase):
    def test_of_one_two_and_the_product_of_two(self) -> None:
        one, other = drawn(Uniform(), seed_of("one")), drawn(Uniform(), seed_of("other"))
        numpy.testing.assert_allclose(numpy.quantile(one, (0.1, 0.5, 0.9)), (0.1, 0.5, 0.9), atol=2e-4)
        # The sum of two is triangular: below 1 its chance is x² / 2. Of the product it is x - x ln x.
        for x in (0.2, 0.5, 0.9):
            self.assertAlmostEqual(float((one + other < x).mean()), x * x / 2, delta=0.01)
            self.assertAlmostEqual(float((one * other < x).mean()), x - x * numpy.log(x), delta=0.01)

    def test_what_is_drawn_for_two_things_has_nothing_to_do_with_each_other(self) -> None:
        # scipy.stats.spearmanr of ten thousand pairs: within three standard errors of 0.
        for name in ("leek", "onion", "stock"):
            found = stats.spearmanr(drawn(Uniform(), seed_of(1, name)), drawn(Uniform(), seed_of(1, f"{name}s")))
            self.assertLess(abs(found.statistic), 3 / _DRAWS**0.5)


def uncertainty(of: Any, seed: int = 1) -> Uncertainty:
    costing = Costing(of, DAY)
    (found,) = uncertainty_of(costing, "pot", Doubts(costing, seed))
    return found


class ThroughTheEngine(unittest.TestCase):
    def pot(self, *lines: dict[str, str], items: list[dict[str, Any]], prices: dict[str, str], **settings: Any) -> Any:
        bowl = {"id": "b", "name": "Bowl", "size": "1 kg"}
        return kitchen(items, [{"stages": [{"id": "s", "lines": list(lines)}], "servings": [bowl]}], prices, **settings)

    def test_one_price(self) -> None:
        # 8% a month, over the 30 days: the cost of a portion is as lognormal as the price.
        of = self.pot({"item": "leek", "quantity": "2 kg"}, items=[{"id": "leek"}], prices={"leek": "3"})
        found = uncertainty(of)
        wanted = stats.lognorm(0.08, scale=3)
        assert found.food_cost is not None
        for figure, chance in ((found.food_cost.p10, 0.1), (found.food_cost.p50, 0.5), (found.food_cost.p90, 0.9)):
            self.assertAlmostEqual(float(figure), wanted.ppf(chance), delta=2e-4)
        (swing,) = found.inputs
        self.assertAlmostEqual(float(swing.swing), wanted.ppf(0.9) - wanted.ppf(0.1), delta=1e-4)
        self.assertAlmostEqual(float(swing.share_of_variance), 1, delta=1e-9)
        # Over 120 days it is twice as wide.
        wide = uncertainty(replace(of, settings=replace(of.settings, price_horizon_days=d(120)))).food_cost
        assert wide is not None
        self.assertAlmostEqual(float(wide.p90), stats.lognorm(0.16, scale=3).ppf(0.9), delta=5e-4)

    def test_the_product_of_two_lognormals_is_one(self) -> None:
        # Two goods of one price each: their shares of the variance are those of their variances.
        items = [{"id": "leek"}, {"id": "onion"}]
        lines = ({"item": "leek", "quantity": "3 kg"}, {"item": "onion", "quantity": "1 kg"})
        found = uncertainty(self.pot(*lines, items=items, prices={"leek": "2", "onion": "2"}))
        assert found.food_cost is not None
        variance = [(float(share) * 2) ** 2 * (numpy.exp(0.08**2) - 1) * numpy.exp(0.08**2) for share in ("0.75", "0.25")]
        shares = [float(one.share_of_variance) for one in found.inputs]
        for ours, theirs in zip(shares, variance, strict=True):
            self.assertAlmostEqual(ours, theirs / sum(variance), delta=0.01)
        self.assertAlmostEqual(sum(shares), 1, delta=0.02)

    def test_a_price_over_a_yield(self) -> None:
        # The chance that price / yield stays below x, by the integral of one over the other (scipy.stats, numpy).
        items = [{"id": "leek", "preparations": [{"id": "cut", "name": "cut", "yield": "0.5", "low": "0.4", "high": "0.55"}]}]
        line = {"item": "leek", "quantity": "1 kg", "preparation": "cut", "basis": "EP"}
        found = uncertainty(self.pot(line, items=items, prices={"leek": "2"})).food_cost
        assert found is not None
        beta = stats.beta(1 + 4 * (0.1 / 0.15), 1 + 4 * (0.05 / 0.15), loc=0.4, scale=0.15)
        yields = beta.ppf((numpy.arange(4000) + 0.5) / 4000)
        for figure, chance in ((found.p10, 0.1), (found.p50, 0.5), (found.p90, 0.9)):
            below = stats.lognorm(0.08, scale=2).cdf(float(figure) * yields).mean()
            self.assertAlmostEqual(float(below), chance, delta=0.01)

    def test_what_matters_is_ranked_as_by_spearman(self) -> None:
        # scipy.stats.spearmanr of each input's draws with the cost; the demo's squash, stock and leeks.
        costing = Costing(demo(), DAY)
        doubts = Doubts(costing, 3)
        for recipe in ("leek-potato", "ham-leek", "celeriac-apple"):
            unsure = unsure_of(costing, recipe, doubts)
            found = uncertainty_of(costing, recipe, doubts)[0]
            given = {one.asked: doubts.drawn(one).values for one in unsure}
            view = costing.view.with_inputs(Inputs(cast(Any, numpy.float64), given))
            costs = cast(Any, Costing.of_view(view).of(recipe).portions[0].food_cost)
            by_rank = {one.called.name: stats.spearmanr(doubts.drawn(one).values, costs).statistic ** 2 for one in unsure}
            ours = [by_rank[one.what] for one in found.inputs[:3]]
            # Two that matter the same may change places.
            self.assertEqual({one.what for one in found.inputs[:3]}, set(sorted(by_rank, key=by_rank.__getitem__)[-3:]), recipe)
            self.assertTrue(all(first > then - 0.03 for first, then in pairwise(ours)), (recipe, ours))


class Prices(unittest.TestCase):
    def test_how_a_price_moves_is_the_spread_of_its_logarithms(self) -> None:
        # numpy.std with one degree less, of the logarithms of twelve months.
        prices = ["2.00", "2.10", "1.90", "2.40", "2.20", "2.30", "2.00", "1.80", "2.10", "2.60", "2.50", "2.45"]
        months = [date(2026, month, 10) for month in range(1, 12)]
        months.insert(0, date(2025, 12, 10))
        offers = tuple(
            Offer("leek", "shop", parse_pack("1 kg"), Decimal(price), on) for price, on in zip(prices, months, strict=True)
        )
        of = replace(kitchen([{"id": "leek"}], [], {}), offers=offers)
        found = Doubts(Costing(of, date(2026, 11, 24)), 1).volatility("leek")
        logs = numpy.diff(numpy.log([float(price) for price in prices]))
        self.assertAlmostEqual(float(found.monthly), float(numpy.std(logs, ddof=1)), delta=1e-9)
