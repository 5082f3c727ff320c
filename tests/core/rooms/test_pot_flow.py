"""The pot as a flow: what comes to a node leaves it, in mass and in money, exactly, over random pots and over the demo's."""

from __future__ import annotations

import unittest
from collections import defaultdict
from dataclasses import replace
from typing import Any

from hypothesis import assume, given, settings

from potrel.core.cost.costing import Costing
from potrel.core.errors import BadDocument
from potrel.core.kitchen.kitchen import Kitchen
from potrel.core.kitchen.servings import Serving
from potrel.core.rooms.pot_flow import PotFlow, pot_flow
from potrel.formats.kitchen_json import part_from
from tests.core.pot.test_conservation import EXACT, kitchens
from tests.examples import examples
from tests.kitchens import DAY, d, demo, kitchen

BOWL: Serving = part_from(
    Serving, {"id": "b", "name": "Bowl", "size": "300 g", "garnish": [{"item": "bones", "quantity": "3 g"}]}
)
# Where the flow begins and where it ends.
BEGINS, ENDS = {"bought", "gained"}, {"loss", "taken_out", "credit", "serving"}


def apart(found: PotFlow) -> dict[tuple[str, str], Any]:
    """By node that is passed, what comes to it less what leaves it, in mass and in money."""
    passed = {one.id for one in found.nodes if one.kind not in BEGINS | ENDS}
    if found.serving is None:
        passed -= {"batch"}
    sums: dict[tuple[str, str], Any] = defaultdict(int)
    for link in found.links:
        for measure, amount in (("mass", link.mass_g), ("money", link.cost)):
            assert amount is None or amount > 0, link
            for node, sign in ((link.target, 1), (link.source, -1)):
                if node in passed:
                    sums[node, measure] += sign * (amount or 0)
    return sums


def total(found: PotFlow, kinds: set[str], measure: str) -> Any:
    """What comes to nodes of some kinds, less what leaves them."""
    nodes = {one.id for one in found.nodes if one.kind in kinds}
    came = sum(getattr(link, measure) or 0 for link in found.links if link.target in nodes)
    return came - sum(getattr(link, measure) or 0 for link in found.links if link.source in nodes)


class Exact(unittest.TestCase):
    @settings(max_examples=examples(80), deadline=None)
    @given(kitchens())
    def test_random_pots(self, made: Kitchen) -> None:
        recipes = tuple(replace(one, servings=(BOWL,)) for one in made.recipes)
        costing = Costing(replace(made, recipes=recipes), DAY, EXACT)
        last = costing.of(recipes[-1].id)
        assume(not last.problems)
        found = pot_flow(costing, recipes[-1].id)
        for (node, measure), difference in apart(found).items():
            self.assertEqual(difference, 0, f"{measure} of {node}")
        # All that begins ends, and what ends at the portions is what they cost.
        for measure in ("mass_g", "cost"):
            self.assertEqual(-total(found, BEGINS, measure), total(found, ENDS, measure))
        (portion,) = last.portions
        assert portion.food_cost is not None and portion.portions is not None
        self.assertEqual(total(found, {"serving"}, "cost"), portion.food_cost * portion.portions)

    def test_every_pot_of_the_demo(self) -> None:
        costing = Costing(demo(), DAY)
        drawn = 0
        for one in costing.all():
            for portion in one.portions or (None,):
                found = pot_flow(costing, one.recipe.id, None if portion is None else portion.serving.id)
                if one.problems:
                    self.assertEqual((found.nodes, found.links), ([], []))
                    self.assertTrue(found.lack)
                    continue
                drawn += 1
                for (node, measure), difference in apart(found).items():
                    self.assertAlmostEqual(difference, 0, 15, f"{one.recipe.name}: {measure} of {node}")
                if portion is not None and portion.food_cost is not None and portion.portions is not None:
                    cost = total(found, {"serving"}, "cost")
                    self.assertAlmostEqual(cost, portion.food_cost * portion.portions, 15, one.recipe.name)
        self.assertGreater(drawn, 25)


class Told(unittest.TestCase):
    def of(self, recipe: str) -> PotFlow:
        return pot_flow(Costing(demo(), DAY), recipe)

    def test_losses_are_named_and_take_no_money(self) -> None:
        found = self.of("ham-leek")
        losses = {one.name for one in found.nodes if one.kind == "loss"}
        self.assertLessEqual({"trim", "up in steam", "left on the vessels"}, losses)
        for link in found.links:
            self.assertEqual(link.lost, link.target.startswith("loss/"), link)
            if link.lost:
                self.assertIsNone(link.cost)

    def test_what_is_split_comes_together_again(self) -> None:
        found = self.of("ham-leek")
        ways = {(link.source, link.target) for link in found.links if link.source == "stage/pot"}
        self.assertGreaterEqual(len({target for _, target in ways if target.startswith("stage/")}), 2)

    def test_what_goes_elsewhere_takes_its_worth(self) -> None:
        items = [{"id": "leek", "preparations": [{"id": "cut", "name": "cut", "yield": "0.6", "byproducts": [
            {"name": "greens", "share": "0.3", "value_per_kg": "0.5"}]}]}]  # fmt: skip
        line = {"item": "leek", "quantity": "6 kg", "preparation": "cut", "basis": "EP"}
        of = kitchen(items, [{"stages": [{"id": "s", "lines": [line]}]}], {"leek": "2"})
        found = pot_flow(Costing(of, DAY), "pot")
        told = {(link.source, link.target): (link.mass_g, link.cost) for link in found.links}
        # Worked by hand: 10 kg bought for 20.00; 3 kg of greens at 0.50 a kilo; 1 kg of trim; 6 kg for 18.50.
        self.assertEqual(told["bought/line/s/leek", "prepared/line/s/leek"], (10_000, 20))
        self.assertEqual(told["prepared/line/s/leek", "credit/line/s/leek/1"], (3000, d("1.5")))
        self.assertEqual(told["prepared/line/s/leek", "loss/trim"], (1000, None))
        self.assertEqual(told["prepared/line/s/leek", "stage/s"], (6000, d("18.5")))
        self.assertEqual(told["stage/s", "batch"], (6000, d("18.5")))
        self.assertIsNone(found.serving)

    def test_no_such_serving(self) -> None:
        with self.assertRaisesRegex(BadDocument, 'no serving "bucket"'):
            pot_flow(Costing(demo(), DAY), "leek-potato", "bucket")
