"""How far figures may be off: what counts as unsure, by how much, and what is said of it."""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import date
from decimal import Decimal
from typing import Any

from potrel.core.buy.volatility import USUAL
from potrel.core.cost.costing import Costing
from potrel.core.cost.uncertainty import Swing, Uncertainty, uncertainty_of, unsure_of
from potrel.core.cost.unsure import Doubts, Unsure
from potrel.core.kitchen.bench_tests import BenchTest
from potrel.core.kitchen.kitchen import Kitchen
from potrel.core.kitchen.quantities import parse_pack
from potrel.core.kitchen.supply import Offer
from potrel.core.numbers.spread import LogNormal, NextTest, Pert
from potrel.formats.kitchen_json import part_from
from tests.kitchens import DAY, d, demo, kitchen

BOWL = {"id": "b", "name": "Bowl", "size": "500 g"}


def pot(*lines: dict[str, Any], serving: dict[str, Any] | None = None, **stage: Any) -> dict[str, Any]:
    return {"stages": [{"id": "s", "lines": list(lines), **stage}], "servings": [{**BOWL, **(serving or {})}]}


def found(of: Kitchen, recipe: str = "pot", seed: int = 1) -> list[Uncertainty]:
    costing = Costing(of, DAY)
    return uncertainty_of(costing, recipe, Doubts(costing, seed))


def doubts(of: Kitchen, recipe: str = "pot") -> dict[str, Unsure]:
    costing = Costing(of, DAY)
    return {one.called.name: one for one in unsure_of(costing, recipe, Doubts(costing, 1))}


def test(number: int, after: str, **more: Any) -> BenchTest:
    weighed = {"kind": "trim", "of": "cut", "on": "2026-11-02", "before": "1 kg", "after": after}
    made: BenchTest = part_from(BenchTest, {"id": f"t{number}", "item": "leek", **weighed, **more})
    return made


def leeks(yield_: dict[str, Any], tests: tuple[BenchTest, ...] = (), **settings: Any) -> Kitchen:
    items = [{"id": "leek", "preparations": [{"id": "cut", "name": "cut", **yield_}]}]
    line = {"item": "leek", "quantity": "4 kg", "preparation": "cut", "basis": "EP"}
    return replace(kitchen(items, [pot(line)], {"leek": "2"}, **settings), tests=tests)


class Yields(unittest.TestCase):
    def spread(self, yield_: dict[str, Any], tests: tuple[BenchTest, ...] = ()) -> Any:
        one = doubts(leeks(yield_, tests)).get("yield of Leek, cut")
        return None if one is None else one.spread

    def test_the_band_of_a_book_else_15_percent_either_way(self) -> None:
        banded = {"yield": "0.8", "low": "0.7", "high": "0.84", "source": "USDA"}
        self.assertEqual(self.spread(banded), Pert(d("0.7"), d("0.8"), d("0.84")))
        self.assertEqual(self.spread({"yield": "0.6"}), Pert(d("0.51"), d("0.6"), d("0.69")))
        # No more than all of it, nor what falls off and is used elsewhere.
        self.assertEqual(self.spread({"yield": "0.95"}), Pert(d("0.8075"), d("0.95"), d(1)))
        used = {"yield": "0.8", "byproducts": [{"name": "greens", "share": "0.15"}]}
        self.assertEqual(self.spread(used), Pert(d("0.68"), d("0.8"), d("0.85")))
        # What takes up water is not held to all of it.
        self.assertEqual(self.spread({"yield": "2"}), Pert(d("1.7"), d(2), d("2.3")))

    def test_own_tests_are_what_the_next_one_gives(self) -> None:
        own = {"yield": "0.8", "low": "0.7", "high": "0.9", "source": "own tests"}
        three = (test(1, "780 g"), test(2, "800 g"), test(3, "820 g"))
        self.assertEqual(self.spread(own, three), NextTest(d("0.8"), d("0.02"), 3, d("0.0001"), d(1)))
        # One left out does not count; of one test no spread is known, and its band counts.
        left_out = (*three, test(4, "300 g", left_out="frozen leeks"))
        self.assertEqual(self.spread(own, left_out), self.spread(own, three))
        self.assertEqual(self.spread(own, three[:1]), Pert(d("0.7"), d("0.8"), d("0.9")))
        # Tests that agree to the gram leave no doubt; of a book, own tests say nothing until they are adopted.
        self.assertIsNone(self.spread(own, (test(1, "800 g"), test(2, "800 g"))))
        self.assertIsInstance(self.spread({"yield": "0.8", "source": "USDA"}, three), Pert)

    def test_the_test_that_would_narrow_it_most_leads_to_the_bench(self) -> None:
        unsure, sure = leeks({"yield": "0.5"}), leeks({"yield": "0.5", "low": "0.495", "high": "0.505"})
        (wide,), (narrow,) = found(unsure), found(sure)
        assert wide.test is not None and narrow.test is not None and wide.food_cost is not None and narrow.food_cost is not None
        self.assertEqual((wide.test.item, wide.test.of, wide.test.what), ("leek", "cut", "yield of Leek, cut"))
        self.assertGreater(wide.test.narrower, narrow.test.narrower * 10)
        # That is what it says: without the doubt of the yield, the band is so much narrower.
        certain = (narrow.food_cost.p90 - narrow.food_cost.p10) / (wide.food_cost.p90 - wide.food_cost.p10)
        self.assertAlmostEqual(float(certain), float(1 - wide.test.narrower), delta=0.04)


class Prices(unittest.TestCase):
    def of(self, prices: list[tuple[str, date]], others: int = 0) -> Any:
        items = [{"id": f"i{n}", "kind": "root"} for n in range(others + 1)]
        made = kitchen(items, [pot({"item": "i0", "quantity": "2 kg"})])
        moving = [("1.0", 3), ("1.1", 4), ("1.0", 5), ("1.1", 6), ("1.0", 7), ("1.1", 8)]
        offers = [Offer("i0", "shop", parse_pack("1 kg"), d(price), on) for price, on in prices]
        offers += [
            Offer(f"i{n}", "shop", parse_pack("1 kg"), d(price), date(2026, month, 20))
            for n in range(1, others + 1)
            for price, month in moving
        ]
        return doubts(replace(made, offers=tuple(offers))).get("price of I0")

    def test_its_own_changes_else_those_of_its_kind_else_what_is_usual(self) -> None:
        one = self.of([("2", date(2026, 10, 1))])
        self.assertEqual(one.spread, LogNormal(d("0.002"), USUAL))
        kind = self.of([("2", date(2026, 10, 1))], others=2)
        self.assertIn("2 other of its kind (root)", kind.rests_on)
        self.assertNotEqual(kind.spread, one.spread)
        own = self.of(
            [(price, date(2026, month, 20)) for price, month in (("2", 6), ("2.2", 7), ("2", 8), ("2.4", 9), ("2", 10))], 2
        )
        self.assertIn("4 monthly changes of its own", own.rests_on)

    def test_a_price_that_nobody_recorded_anew_does_not_stand_still(self) -> None:
        # Recorded a year ago, and never since: that says nothing of how it moves.
        self.assertEqual(self.of([("2", date(2025, 10, 1))]).spread.spread, USUAL)
        # Recorded every month, and the same: that does.
        self.assertIsNone(self.of([("2", date(2026, month, 20)) for month in range(4, 11)]))

    def test_over_no_days_prices_are_certain(self) -> None:
        (one,) = found(leeks({"yield": "0.5", "low": "0.5", "high": "0.5"}, price_horizon_days=d(0)))
        assert one.food_cost is not None and one.portions is not None
        self.assertEqual(one.food_cost.p10, one.food_cost.p90)
        self.assertEqual((one.inputs, one.test), ([], None))
        self.assertEqual(one.portions.p50, 8)

    def test_what_goes_by_the_piece(self) -> None:
        of = pot({"item": "leek", "quantity": "1 kg"}, serving={"accompaniments": [{"item": "roll", "quantity": "1 each"}]})
        made = kitchen([{"id": "leek"}, {"id": "roll"}], [of], {"leek": "2"})
        made = replace(made, offers=(*made.offers, Offer("roll", "shop", parse_pack("10 each"), d(4), date(2026, 11, 1))))
        one = doubts(made)["price of Roll"]
        self.assertEqual((one.called.unit, one.stated, one.called.times), ("money/piece", d("0.4"), 1))


class InThePot(unittest.TestCase):
    def of(self, recipe: dict[str, Any], *items: dict[str, Any], **more: Any) -> dict[str, Unsure]:
        every = [{"id": "leek", "kind": "vegetable"}, {"id": "water", "kind": "water"}, *items]
        vessels = [{"id": "pan", "capacity": "30 l", "diameter_cm": "30"}]
        return doubts(kitchen(every, [recipe], {"leek": "2", "water": "0"}, vessels, **more))

    def test_losses_are_a_quarter_more_or_less(self) -> None:
        line = {"item": "leek", "quantity": "10 kg"}
        steamed = self.of(pot(line, minutes="60", change={"rule": "evaporate", "kg_per_hour": "1.2"}, residue="0.02"))
        self.assertEqual(steamed["what steams off: s"].spread, Pert(d(900), d(1200), d(1500)))
        self.assertEqual(steamed["what steams off: s"].called[1:], ("kg/h", d("0.001")))
        self.assertEqual(steamed["what sticks: s"].spread, Pert(d("0.015"), d("0.02"), d("0.025")))
        sieved = self.of(pot(line, change={"rule": "yield", "yield": "0.9"}))
        self.assertEqual(sieved["what is left: s"].spread, Pert(d("0.875"), d("0.9"), d("0.925")))
        # A mark on the pot is one that a cook sees.
        self.assertEqual(self.of(pot(line, change={"rule": "reduce", "to": "8 kg"})).keys(), {"price of Leek"})

    def test_steam_by_the_vessel_has_the_band_of_its_physics(self) -> None:
        of = pot(
            {"item": "leek", "quantity": "10 kg"}, method="simmer", heat="simmer", vessel="pan", minutes="60",
            change={"rule": "evaporate", "by": "vessel"},
        )  # fmt: skip
        one = self.of(of)["steam of s"]
        assert isinstance(one.spread, Pert)
        self.assertEqual((one.spread.low, one.spread.high), (one.stated / 2, one.stated * 2))

    def test_what_is_poured_by_eye(self) -> None:
        of = self.of(pot({"item": "leek", "quantity": "10 kg"}, {"item": "water", "quantity": "5 kg", "by_eye": "cover"}))
        self.assertEqual(of["Water, as much as covers it"].spread, Pert(d(3500), d(5000), d(7000)))

    def test_what_is_taken_by_hand_or_written_as_a_range(self) -> None:
        pinch = {"weighs": "1 g", "low": "0.5 g", "high": "2 g", "source": "common practice, no source"}
        items = [{"id": "leek", "measures": {"pinch": pinch}}]
        for quantity, low, likely, high in (("2 pinch", 1, 2, 4), ("3-5 kg", 3000, 4000, 5000), ("1 to 3 pinch", "0.5", 2, 6)):
            of = kitchen(items, [pot({"item": "leek", "quantity": quantity})], {"leek": "2"})
            one = doubts(of)["Leek, how much"]
            self.assertEqual(one.spread, Pert(d(low), d(likely), d(high)), quantity)
        self.assertIn("1 pinch weighs 0.5 g to 2 g, common practice", one.rests_on)

    def test_a_cooking_yield_of_the_line_and_a_measured_batch(self) -> None:
        # Of what nobody said anything, nothing is taken off, and the band says how much may be.
        of = self.of(pot({"item": "leek", "quantity": "10 kg"}, method="roast"))
        self.assertEqual(of["yield of Leek, cooked"].spread, Pert(d("0.6"), d(1), d(1)))
        self.assertIn("no loss known", of["yield of Leek, cooked"].rests_on)
        of = self.of(pot({"item": "leek", "quantity": "10 kg", "cook_yield": "0.8"}, method="roast"))
        self.assertEqual(of["yield of Leek, cooked"].spread, Pert(d("0.68"), d("0.8"), d("0.92")))
        measured = {**pot({"item": "leek", "quantity": "10 kg"}), "measured_yield": {"quantity": "8 kg", "on": "2026-11-01"}}
        of = self.of({**measured, "use_measured_yield": True})
        self.assertEqual(of["the measured batch"].spread, Pert(d(7500), d(8000), d(8500)))


class Figures(unittest.TestCase):
    def test_what_happens_in_another_pot_is_called_by_it(self) -> None:
        self.assertIn("what steams off: Simmer (White chicken stock)", doubts(demo(), "leek-potato"))
        self.assertIn("what steams off: Simmer", doubts(demo(), "white-stock"))

    def test_the_same_until_the_data_change(self) -> None:
        first, again, other = found(demo(), "leek-potato"), found(demo(), "leek-potato"), found(demo(), "leek-potato", seed=2)
        self.assertEqual(first, again)
        self.assertNotEqual(first, other)
        for one, two in zip(first, other, strict=True):
            assert one.food_cost is not None and two.food_cost is not None
            self.assertAlmostEqual(float(one.food_cost.p90), float(two.food_cost.p90), delta=0.005)

    def test_one_draw_counts_wherever_it_is_used(self) -> None:
        # A stock in two pots, its price alone unsure: draw for draw their costs are the same but for the size.
        costing = Costing(demo(), DAY)
        of = Doubts(costing, 1)
        one, two = (
            {each.asked: of.drawn(each) for each in unsure_of(costing, name, of)} for name in ("leek-potato", "chicken-barley")
        )
        shared = one.keys() & two.keys()
        self.assertGreater(len(shared), 8)
        self.assertTrue(all((one[name].values == two[name].values).all() for name in shared))  # type: ignore[attr-defined]

    def test_the_chance_to_pass_the_target(self) -> None:
        def over(**serving: Any) -> Decimal | None:
            of = pot({"item": "leek", "quantity": "1 kg"}, serving=serving)
            made = kitchen([{"id": "leek"}], [of], {"leek": "2"}, target_food_cost=d("0.25"))
            return found(made)[0].over_target

        # A bowl costs 1.00: at 4.00 it is as likely over as under, at 2.00 surely, at 9.00 surely not.
        self.assertAlmostEqual(float(over(price="4.00") or 0), 0.5, delta=0.001)
        self.assertEqual((over(price="2.00"), over(price="9.00")), (1, 0))
        # Without a set price the computed one is held.
        self.assertAlmostEqual(float(over() or 0), 0.5, delta=0.001)

    def test_of_an_incomplete_pot_nothing_is_concluded(self) -> None:
        self.assertEqual(found(kitchen([{"id": "leek"}], [pot({"item": "leek", "quantity": "1 kg"})])), [])

    def test_swings_are_what_the_engine_says_at_each_end(self) -> None:
        (one,) = found(leeks({"yield": "0.5"}))
        by_name: dict[str, Swing] = {swing.what: swing for swing in one.inputs}
        cut = by_name["yield of Leek, cut"]
        # 4 kg EP at so much a yield, 2.00 a kilo, 8 bowls.
        self.assertAlmostEqual(float(cut.at_low), 1 / float(cut.low), delta=1e-6)
        self.assertAlmostEqual(float(cut.swing), 1 / float(cut.low) - 1 / float(cut.high), delta=1e-6)
        price = by_name["price of Leek"]
        self.assertEqual((price.unit, price.stated), ("money/kg", 2))
        self.assertAlmostEqual(float(price.at_high), float(price.high), delta=1e-6)

    def test_every_pot_of_the_demo_tells_it(self) -> None:
        costing = Costing(demo(), DAY)
        of = Doubts(costing, 1, count=500)
        for one in costing.all():
            for each in uncertainty_of(costing, one.recipe.id, of):
                portion = one.portion(each.serving)
                assert each.food_cost is not None and portion is not None and portion.food_cost is not None
                self.assertLess(each.food_cost.p10, portion.food_cost, one.recipe.name)
                self.assertGreater(each.food_cost.p90, portion.food_cost, one.recipe.name)
                self.assertAlmostEqual(float(sum(swing.share_of_variance for swing in each.inputs)), 1, delta=0.15)
