"""What if: numbers moved on a pot, what that does to it and to others, where it breaks even, and what a variant keeps."""

from __future__ import annotations

import unittest
from dataclasses import replace
from decimal import Decimal
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from potrel.core.cost.break_even import break_even
from potrel.core.cost.costing import Costing
from potrel.core.errors import BadDocument
from potrel.core.kitchen.kitchen import Kitchen
from potrel.core.rooms.kept_moves import with_moves
from potrel.core.rooms.what_if import Movable, Move, ServingIf, Trial
from tests.examples import examples
from tests.kitchens import DAY, d, demo, kitchen


def trial(of: Kitchen, recipe: str) -> Trial:
    return Trial(Costing(of, DAY), recipe)


def bisected(cost_at: Any, wanted: float, low: float, high: float) -> float:
    """Where a cost is what is wanted, by halving in doubles: written anew, to check against."""
    rises = float(cost_at(d(repr(high)))) > float(cost_at(d(repr(low))))
    for _ in range(200):
        middle = (low + high) / 2
        if (float(cost_at(d(repr(middle)))) < wanted) == rises:
            low = middle
        else:
            high = middle
    return (low + high) / 2


class OnePot(unittest.TestCase):
    def setUp(self) -> None:
        self.trial = trial(demo(), "leek-potato")

    def by_name(self, name: str) -> Movable:
        return next(one for one in self.trial.movable if one.name == name)

    def move(self, name: str, value: str) -> Move:
        one = self.by_name(name)
        return Move(one.sort, one.of, d(value), one.part)

    def bowl(self, *moves: Move) -> ServingIf:
        return self.trial.what_if(moves).servings[0]

    def test_what_is_moved_costs_as_if_the_kitchen_said_so(self) -> None:
        leek = self.by_name("price of Leeks")
        self.assertEqual((leek.unit, leek.owner, leek.stated), ("money/kg", "kitchen", d("1.92")))
        found = self.bowl(self.move("price of Leeks", "3.84"))
        assert found.now.food_cost is not None and found.was.food_cost is not None
        # 2.5 kg EP at a yield of 0.44, in 31.87 portions, with the allowance of 2%.
        self.assertAlmostEqual(float(found.now.food_cost - found.was.food_cost), 1.92 * 2.5 / 0.44 / 31.87 * 1.02, 3)
        self.assertEqual(found.now.price, found.was.price)
        # A yield: as if the book had it.
        found = self.bowl(self.move("yield of Leeks, trimmed, sliced", "0.5"))
        items = tuple(
            replace(one, preparations=tuple(replace(p, yield_=d("0.5"), low=None, high=None) for p in one.preparations))
            if one.id == "leek" else one for one in demo().items
        )  # fmt: skip
        said = Costing(replace(demo(), items=items), DAY).of("leek-potato").portions[0].food_cost
        self.assertEqual(found.now.food_cost, said)

    def test_nothing_moved_is_as_it_is(self) -> None:
        found = self.trial.what_if([])
        self.assertEqual((found.reached, found.problems), ([], []))
        for one in found.servings:
            self.assertEqual(one.was, one.now)
        # What is moved to where it stands moves nothing.
        for moved in self.trial.movable:
            again = self.trial.what_if([Move(moved.sort, moved.of, moved.stated, moved.part)])
            self.assertEqual(again.reached, [], moved.name)
            for serving in again.servings:
                assert serving.now.food_cost is not None and serving.was.food_cost is not None
                self.assertAlmostEqual(serving.now.food_cost, serving.was.food_cost, 18, moved.name)

    def test_a_price_reaches_every_pot_that_bears_it(self) -> None:
        found = self.trial.what_if([self.move("price of Leeks", "2.50")])
        takers = {one for one in self.trial.costing.takers_of({"leek"}) if self.trial.costing.of(one).portions}
        self.assertEqual({one.recipe for one in found.reached}, takers - {"leek-potato"})
        for effect in found.reached:
            assert effect.now is not None and effect.was is not None
            self.assertGreater(effect.now, effect.was)

    def test_the_loss_of_a_stock_reaches_the_soups_on_it(self) -> None:
        steam = next(one for one in self.trial.movable if one.name == "what steams off: Simmer (White chicken stock)")
        found = self.trial.what_if([Move(steam.sort, steam.of, steam.stated * 2, steam.part)])
        self.assertIn("chicken-barley", {one.recipe for one in found.reached})
        bowl = found.servings[0]
        assert bowl.now.food_cost is not None and bowl.was.food_cost is not None
        self.assertGreater(bowl.now.food_cost, bowl.was.food_cost)

    def test_a_batch_of_another_size(self) -> None:
        found = self.bowl(self.move("the batch, so many times", "2"))
        assert found.now.portions is not None and found.was.portions is not None
        # Topped up to twice the mark: what steams off does not grow, and is made up for.
        self.assertAlmostEqual(found.now.portions, 2 * found.was.portions, 18)
        assert found.now.food_cost is not None and found.was.food_cost is not None
        self.assertAlmostEqual(float(found.now.food_cost), float(found.was.food_cost), delta=0.01)

    def test_twice_the_batch_steams_no_more_an_hour(self) -> None:
        # 10 kg that lose 1.2 kg in an hour give 8.8 kg, 22 bowls of 400 g; 20 kg give 18.8 kg, 47 bowls.
        stage = {"id": "s", "minutes": "60", "lines": [{"item": "leek", "quantity": "10 kg"}],
                 "change": {"rule": "evaporate", "kg_per_hour": "1.2"}}  # fmt: skip
        bowl = {"id": "b", "name": "Bowl", "size": "400 g"}
        of = kitchen([{"id": "leek"}], [{"stages": [stage], "servings": [bowl]}], {"leek": "2"})
        (found,) = trial(of, "pot").what_if([Move("batch", "pot", d(2))]).servings
        self.assertEqual((found.was.portions, found.now.portions), (22, 47))

    def test_a_portion_of_another_size(self) -> None:
        found = self.bowl(self.move("size of Bowl", str(round(self.by_name("size of Bowl").stated * 2, 12))))
        assert found.now.portions is not None and found.was.portions is not None
        self.assertAlmostEqual(found.now.portions * 2, found.was.portions, 18)

    def test_where_it_meets_its_target(self) -> None:
        for name, value in (
            ("price of Leeks", "2.5"), ("yield of Leeks, trimmed, sliced", "0.4"), ("size of Bowl", "400"),
            ("what steams off: Simmer", "2"), ("Leeks, how much", "3"),
        ):  # fmt: skip
            move = self.move(name, value)
            meets = self.bowl(move).meets_target_at
            one = self.by_name(name)
            with self.subTest(name):
                if meets is None:
                    # Nowhere between its ends: at both it is on one side of its target.
                    shares = [self.bowl(replace(move, value=end)).now for end in (one.low, one.high)]
                    costs = [then.food_cost for then in shares]
                    kept = self.trial.costing.of("leek-potato").portions[0].priced.kept
                    assert kept is not None and costs[0] is not None and costs[1] is not None
                    self.assertGreater((costs[0] - kept * d("0.3")) * (costs[1] - kept * d("0.3")), 0)
                    continue
                there = self.bowl(replace(move, value=meets)).now
                assert there.share is not None
                self.assertAlmostEqual(there.share, d("0.3"), 12)

    def test_what_cannot_be_moved_so(self) -> None:
        for move, words in (
            (Move("price", "saffron", d(1)), "rests on no price"),
            (self.move("yield of Leeks, trimmed, sliced", "1.2"), "can be tried from 0.01 to 1"),
            (self.move("size of Bowl", "1"), "can be tried from"),
            (self.move("the batch, so many times", "11"), "from 0.1 to 10"),
        ):
            with self.subTest(words), self.assertRaisesRegex(BadDocument, words):
                self.trial.what_if([move])

    def test_a_variant_keeps_what_is_the_pots_own(self) -> None:
        moves = [
            self.move("the batch, so many times", "2"), self.move("size of Bowl", "500"), self.move("price of Leeks", "3"),
            self.move("what steams off: Simmer", "1.5"),
        ]  # fmt: skip
        kept = with_moves(self.trial, moves)
        after = self.trial.costing.replacing(kept)
        own = [move for move in moves if move.sort != "price"]
        for one, portion in zip(self.trial.what_if(own).servings, after.of("leek-potato").portions, strict=True):
            assert one.now.food_cost is not None and portion.food_cost is not None
            self.assertAlmostEqual(one.now.food_cost, portion.food_cost, 6)
            self.assertAlmostEqual(one.now.portions or 0, portion.portions or 0, 4)
        self.assertEqual(
            kept.stages[0].lines[0].quantity.amount,
            2 * self.trial.costing.view.recipes["leek-potato"].stages[0].lines[0].quantity.amount,
        )
        self.assertEqual(kept.servings[0].size.unit, "ml")


class WhatIsStatedOfABatch(unittest.TestCase):
    """What is written, measured or weighed of a batch is of that batch: of two of them it is twice as much."""

    def of(self, stage: dict[str, Any], **more: Any) -> Trial:
        lines = [{"item": "leek", "quantity": "10 kg"}]
        pot = {"stages": [{"id": "s", "method": "simmer", "vessel": "kettle", "lines": lines, **stage}],
               "servings": [{"id": "bowl", "name": "Bowl", "size": "300 ml"}], **more}  # fmt: skip
        kettle = [{"id": "kettle", "capacity": "40 l", "diameter_cm": "40"}]
        return trial(kitchen([{"id": "leek", "kind": "vegetable"}], [pot], {"leek": "2"}, kettle), "pot")

    def test_twice_the_batch_is_twice_the_portions_tried_and_kept(self) -> None:
        measured = {"measured_yield": {"quantity": "8 l", "on": "2026-11-01"}, "use_measured_yield": True}
        twice = [Move("batch", "pot", d(2))]
        for stage, more in (
            ({}, {"written_yield": "9 l"}), ({}, measured), ({"came_out": {"quantity": "9.4 l", "on": "2026-11-01"}}, {}),
            ({"came_out": {"depth_cm": "7", "on": "2026-11-01"}}, {}), ({"minutes": "240"}, {}),
        ):  # fmt: skip
            with self.subTest(stage=stage, more=more):
                pot = self.of(stage, **more)
                before = pot.costing.of("pot").portions[0]
                (tried,) = pot.what_if(twice).servings
                kept = pot.costing.replacing(with_moves(pot, twice)).of("pot").portions[0]
                assert before.portions is not None and tried.now.portions is not None and kept.portions is not None
                self.assertAlmostEqual(float(tried.now.portions), 2 * float(before.portions), places=4)
                self.assertAlmostEqual(float(kept.portions), 2 * float(before.portions), places=4)
                assert before.food_cost is not None and kept.food_cost is not None
                self.assertAlmostEqual(float(kept.food_cost), float(before.food_cost), places=6)

    def test_what_nobody_said_is_stated_by_whoever_moves_it(self) -> None:
        pot = self.of({"minutes": "240"})
        move = Move("change", "pot", d("0.8"), "s")
        kept = with_moves(pot, [move])
        self.assertEqual((kept.stages[0].change.rule, kept.stages[0].change.yield_), ("yield", d("0.8")))
        (tried,) = pot.what_if([move]).servings
        after = pot.costing.replacing(kept).of("pot")
        self.assertEqual((tried.now.portions, after.balance.warnings), (after.portions[0].portions, ()))


class EveryPot(unittest.TestCase):
    def test_every_number_of_every_pot_can_be_moved(self) -> None:
        costing = Costing(demo(), DAY)
        seen: set[str] = set()
        for one in costing.all():
            if one.problems or not one.portions:
                continue
            pot = Trial(costing, one.recipe.id)
            for movable in pot.movable:
                if movable.sort in seen:
                    continue
                seen.add(movable.sort)
                value = min(movable.stated * d("1.05"), movable.high)
                found = pot.what_if([Move(movable.sort, movable.of, value, movable.part)])
                self.assertEqual(len(found.servings), len(one.portions), movable.name)
        self.assertGreaterEqual(
            seen, {"price", "yield", "cooking", "change", "residue", "quantity", "size", "batch", "measured_yield"}
        )


class BreakEven(unittest.TestCase):
    @given(
        a=st.decimals(0, 5, places=3), b=st.decimals("0.1", 5, places=3), c=st.decimals(0, 3, places=3),
        wanted=st.decimals("0.5", 4, places=3),
    )  # fmt: skip
    @settings(max_examples=examples(150), deadline=None)
    def test_beside_halving(self, a: Decimal, b: Decimal, c: Decimal, wanted: Decimal) -> None:
        # A price over a yield, beside other things: halving, written anew here.
        def cost_at(x: Decimal) -> Decimal:
            return c + (a + b) / x

        found = break_even(cost_at, d("0.5"), wanted, d("0.01"), d(1))
        at_ends = (cost_at(d("0.01")) - wanted) * (cost_at(d(1)) - wanted)
        if at_ends > 0:
            self.assertIsNone(found)
        else:
            assert found is not None
            self.assertAlmostEqual(float(found), bisected(cost_at, float(wanted), 0.01, 1), 9)

    def test_where_a_limit_is_on_the_way(self) -> None:
        # No ratio of what grows evenly: nothing is cheaper than 2.
        found = break_even(lambda x: max(d(2), x * x), d(1), d(4), d(0), d(5))
        assert found is not None
        self.assertAlmostEqual(found, d(2), 15)
        self.assertIsNone(break_even(lambda x: max(d(2), x), d(1), d(1), d(0), d(5)))
        self.assertIsNone(break_even(lambda x: None, d(1), d(1), d(0), d(5)))
        self.assertIsNone(break_even(lambda x: d(3), d(1), d(1), d(0), d(5)))

    def test_a_cheaper_kilo_ready_cut(self) -> None:
        # Worked by hand: 2 kg EP of squash at 1.80 a kilo and a yield of 0.6 cost 6.00; with 1 kg of onions at 1.00, 7.00 for
        # 10 bowls. At 0.50 a bowl the squash may cost (5 - 1) / 2 * 0.6 = 1.20 a kilo.
        items: list[dict[str, Any]] = [
            {"id": "squash", "preparations": [{"id": "cut", "name": "cut", "yield": "0.6"}]}, {"id": "onion"},
        ]  # fmt: skip
        lines = [
            {"item": "squash", "quantity": "2 kg", "preparation": "cut", "basis": "EP"}, {"item": "onion", "quantity": "1 kg"},
        ]  # fmt: skip
        bowl = {"id": "b", "name": "Bowl", "size": "300 g", "price": "2.00"}
        of = kitchen(
            items, [{"stages": [{"id": "s", "lines": lines}], "servings": [bowl]}], {"squash": "1.80", "onion": "1.00"},
            target_food_cost=d("0.25"),
        )  # fmt: skip
        (found,) = trial(of, "pot").what_if([Move("price", "squash", d("1.80"))]).servings
        assert found.was.food_cost is not None and found.meets_target_at is not None
        self.assertAlmostEqual(found.was.food_cost, d("0.7"), 20)
        self.assertAlmostEqual(found.meets_target_at, d("1.2"), 20)
