"""What is kept of a pot for the garnish of its own portions: they bear what it cost, and nothing is paid twice or lost."""

from __future__ import annotations

import unittest
from dataclasses import replace
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from potrel.core.cost.costing import Costing
from potrel.core.errors import BadDocument, RecipeLoop
from potrel.core.kitchen.integrity import check_kitchen
from potrel.core.kitchen.items import ByproductMethod
from potrel.core.kitchen.kitchen import Kitchen
from potrel.core.rooms.allergens import allergen_matrix
from potrel.formats.kitchen_json import read_kitchen, write_kitchen
from tests.core.cost.test_costing import offer
from tests.kitchens import DAY, d, kitchen, sheet

BACON: dict[str, Any] = {"id": "bacon", "cooking": [{"method": "fry", "yield": "0.6", "rendered": "0.4"}]}
ITEMS = [BACON, {"id": "potato"}, {"id": "water", "density": "1"}, {"id": "rind"}]
PRICES = {"bacon": "10", "potato": "1", "water": "0", "rind": "2"}
KEPT = {"name": "crisp bits", "of": ["bacon"], "spent_factor": "0.6"}


def chowder(garnish: str = "30 g", kept: dict[str, Any] = KEPT, **more: Any) -> Kitchen:
    """A kilo of bacon at 10.00, fried: 600 g of bits are kept, 160 g of its fat stays. 5 kg of soup, 20 bowls."""
    bits = {"recipe": "pot", "byproduct": kept["name"], "quantity": garnish}
    made = {"stages": [
        {"id": "pan", "method": "fry", "lines": [{"id": "bacon", "item": "bacon", "quantity": "1 kg"}], "take_out": [kept]},
        {"id": "boil", "from": [{"stage": "pan"}], "lines": [
            {"item": "potato", "quantity": "2 kg"}, {"item": "water", "quantity": "2.84 l"}]},
    ], "servings": [{"id": "bowl", "name": "Bowl", "size": "250 g", "garnish": [bits]}]}  # fmt: skip
    return kitchen(ITEMS, [made], PRICES, **{"serving_loss": d(0), **more})


def close(one: object, other: object) -> bool:
    return abs(d(str(one)) - d(str(other))) < d("1e-20")


class KeptForGarnish(unittest.TestCase):
    def test_pot_and_portions_share_what_was_bought(self) -> None:
        # By hand: 600 of the 760 g that the bacon weighs in the pan with its fat; 10.00 * 600 / 760 goes with the bits.
        found = sheet(chowder())
        self.assertTrue(found.complete, found.problems)
        (bowl,) = found.servings
        self.assertEqual(bowl.portions, 20)
        self.assertTrue(close(found.batch.food_cost, 12 - d(10) * 600 / 760))
        self.assertTrue(close(found.stages[0].taken_out[0].value, d(10) * 600 / 760))
        assert bowl.extras[0].cost is not None
        self.assertTrue(close(bowl.extras[0].cost, d(10) * 600 / 760 / 20))
        self.assertEqual((bowl.extras[0].ap_g, bowl.extras[0].ep_g, bowl.extras[0].kept_g), (0, 30, 30))
        self.assertTrue(close(bowl.food_cost, "0.6"))
        self.assertEqual(found.warnings, [])

    def test_what_is_short_is_said_and_nobody_pays_for_more_than_there_is(self) -> None:
        found = sheet(chowder("40 g"))
        self.assertEqual(len(found.warnings), 1)
        self.assertIn("only 30.0 g are kept for each", found.warnings[0].message)
        self.assertEqual(found.servings[0].extras[0].ep_g, 30)
        self.assertTrue(close(found.servings[0].food_cost, "0.6"))

    def test_what_nobody_gets_stays_with_the_batch(self) -> None:
        found = sheet(chowder("15 g"))
        self.assertTrue(close(found.batch.food_cost, 12 - d(10) * 600 / 760 / 2))
        self.assertTrue(close(found.servings[0].food_cost, "0.6"))
        self.assertEqual(found.servings[0].extras[0].kept_g, 30)

    def test_part_of_a_stage_kept_whole(self) -> None:
        # A fifth of the pan by its mass, with the bacon's cost and no other.
        found = sheet(chowder("7.6 g", {"name": "some of the pan", "mass": "152 g"}))
        self.assertTrue(close(found.stages[0].taken_out[0].value, "2"))
        self.assertTrue(close(found.stages[0].cost, "8"))

    def test_lines_beside_it_keep_their_cost(self) -> None:
        of = chowder()
        (pot,) = of.recipes
        pan = pot.stages[0]
        rind = replace(pan.lines[0], item="rind", id="rind")
        of = replace(of, recipes=(replace(pot, stages=(replace(pan, lines=(*pan.lines, rind)), *pot.stages[1:])),))
        self.assertTrue(close(sheet(of).stages[0].taken_out[0].value, d(10) * 600 / 760))

    def test_a_price_moves_pot_and_garnish(self) -> None:
        costing = Costing(chowder(), DAY).with_offers([offer("bacon", "20", "2026-11-20")])
        portion = costing.of("pot").portion("bowl")
        assert portion is not None and portion.food_cost is not None
        self.assertTrue(close(portion.food_cost, "1.1"))
        self.assertEqual(costing.of("pot").portions, Costing(costing.view.kitchen, DAY).of("pot").portions)

    def test_it_is_bought_once(self) -> None:
        one = Costing(chowder(), DAY).of("pot")
        self.assertEqual(one.needs.items["bacon"], 1000)
        self.assertEqual(dict(one.portions[0].extra_needs.items), {})

    @given(st.integers(1, 60), st.integers(1, 12), st.sampled_from(["credit", "main_bears_all", "market_value", "mass"]))
    def test_the_sum_is_what_was_bought(self, grams: int, tenths: int, method: ByproductMethod) -> None:
        kept = {**KEPT, "spent_factor": str(d(tenths) / 10)}
        if tenths > 7:
            kept = {"name": "some of the pan", "mass": f"{tenths * 60} g"}
        found = sheet(chowder(f"{grams} g", kept, byproduct_method=method))
        (bowl,) = found.servings
        assert bowl.food_cost is not None and bowl.portions is not None
        self.assertTrue(close(bowl.food_cost * bowl.portions, 12), bowl)

    def test_another_pot_may_not_be_in_itself(self) -> None:
        of = chowder()
        (pot,) = of.recipes
        serving = pot.servings[0]
        whole = replace(serving, garnish=(replace(serving.garnish[0], byproduct=None),))
        with self.assertRaises(RecipeLoop):
            check_kitchen(replace(of, recipes=(replace(pot, servings=(whole,)),)))
        inside = replace(pot.stages[1], lines=(*pot.stages[1].lines, serving.garnish[0]))
        with self.assertRaises(RecipeLoop):
            check_kitchen(replace(of, recipes=(replace(pot, stages=(pot.stages[0], inside)),)))

    def test_it_carries_its_cost_and_no_value_beside(self) -> None:
        with self.assertRaisesRegex(BadDocument, "leave what a kilo is worth at 0"):
            chowder(kept={**KEPT, "value_per_kg": "4"})

    def test_what_is_not_taken_out_is_asked_for(self) -> None:
        of = chowder()
        (pot,) = of.recipes
        left_in = replace(pot, stages=(replace(pot.stages[0], take_out=()), *pot.stages[1:]))
        found = sheet(replace(of, recipes=(left_in,)))
        self.assertFalse(found.complete)
        self.assertIn('no "crisp bits" is taken out of Pot', found.problems[0].message)

    def test_round_trip_and_allergens(self) -> None:
        of = chowder()
        check_kitchen(of)
        self.assertEqual(read_kitchen(write_kitchen(of)).recipes, of.recipes)
        self.assertEqual(len(allergen_matrix(Costing(of, DAY)).rows), 1)


if __name__ == "__main__":
    unittest.main()
