"""The worked example: every figure of it was computed with exact fractions by a calculator that shares no code with this."""

from __future__ import annotations

import unittest
from decimal import Decimal

from potrel.core.cost.costing import Costing
from potrel.core.kitchen.kinds import rounded
from potrel.core.tell.cost_sheet import sheet_of
from tests.kitchens import DAY, d, tiny


class WorkedExample(unittest.TestCase):
    def setUp(self) -> None:
        self.costing = Costing(tiny(), DAY)
        self.stock = sheet_of(self.costing, "chicken-stock")
        self.soup = sheet_of(self.costing, "celeriac-soup")

    def assertRounds(self, value: Decimal | None, printed: str) -> None:
        assert value is not None
        self.assertEqual(Decimal(rounded(value)), Decimal(printed))

    def test_stock_masses(self) -> None:
        (simmer,) = self.stock.stages
        self.assertEqual((simmer.mass_in_g, simmer.changed_g), (20000, 3600))
        bones, meat = simmer.taken_out
        self.assertEqual((bones.mass_g, bones.value), (7600, 0))
        self.assertEqual((meat.mass_g, meat.value), (600, d("2.40")))
        self.assertEqual(self.stock.batch.mass_g, 8200)

    def test_stock_cost(self) -> None:
        self.assertEqual(self.stock.stages[0].cost, d("4.848"))
        self.assertRounds(self.stock.batch.food_cost, "4.944960")

    def test_celeriac_line(self) -> None:
        line = self.soup.lines[0]
        self.assertEqual((line.ep_g, line.ap_g, line.cost), (3000, 4000, d("5.48")))

    def test_stages_of_the_soup(self) -> None:
        roast, pot, finish = self.soup.stages
        self.assertEqual((roast.put_in_g, roast.cooked_g), (3150, 900))
        self.assertEqual((roast.mass_out_g, roast.cost), (2250, d("6.755")))
        self.assertEqual((pot.mass_in_g, pot.changed_g, pot.mass_out_g), (7250, 290, 6960))
        self.assertRounds(pot.cost, "9.711098")
        self.assertEqual((finish.mass_in_g, finish.changed_g, finish.residue_g), (7356, -884, d("123.6")))

    def test_stock_and_top_up_lines(self) -> None:
        by_id = {line.id: line for line in self.soup.lines}
        self.assertRounds(by_id["chicken-stock"].cost, "2.956098")
        self.assertEqual(by_id["cream"].ep_g, 396)
        self.assertEqual(by_id["top_up"].ap_g, 884)

    def test_batch(self) -> None:
        batch = self.soup.batch
        self.assertEqual((batch.mass_g, batch.volume_ml), (d("8116.4"), 7880))
        self.assertRounds(self.soup.stages[-1].cost, "11.514634")
        self.assertRounds(batch.food_cost, "11.744926")
        self.assertRounds(batch.attended_minutes, "60.243902")

    def test_portion(self) -> None:
        (bowl,) = self.soup.servings
        self.assertRounds(bowl.portions, "25.478667")
        self.assertEqual(bowl.whole_portions, 25)
        self.assertEqual(bowl.extras[0].cost, d("0.075"))
        self.assertRounds(bowl.food_cost, "0.535971")
        self.assertRounds(bowl.labour_cost, "0.709345")

    def test_price(self) -> None:
        (bowl,) = self.soup.servings
        self.assertRounds(bowl.net_price, "1.914182")
        assert bowl.net_price is not None
        self.assertRounds(bowl.net_price * d("1.10"), "2.105600")
        self.assertEqual(bowl.price, d("2.20"))
        self.assertRounds(bowl.food_cost_share, "0.267985")
        self.assertRounds(bowl.contribution, "1.464029")

    def test_complete_with_allergens(self) -> None:
        self.assertTrue(self.soup.complete)
        self.assertEqual(self.soup.problems, [])
        self.assertEqual(self.soup.allergens, ["celery", "milk", "nuts"])
        self.assertEqual(self.stock.allergens, [])
