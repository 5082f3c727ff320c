"""What not every guest takes, and what a batch uses up beside the pot: foil, filters, cloths."""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import date
from decimal import Decimal
from typing import Any

from potrel.core.cost.costing import Costing
from potrel.core.kitchen.kitchen import Kitchen
from potrel.core.kitchen.quantities import parse_pack
from potrel.core.kitchen.supply import Offer
from potrel.core.tell.cost_sheet import sheet_of
from potrel.core.tell.explanations import explain
from tests.kitchens import DAY, d, kitchen, sheet

ITEMS: list[dict[str, Any]] = [{"id": "water", "kind": "water", "density": "1"}, {"id": "roll", "measures": {"each": "60 g"}},
                               {"id": "foil"}, {"id": "cloth", "kind": "packaging"}]  # fmt: skip
STAGE = {"id": "s", "lines": [{"item": "water", "quantity": "10 kg"}]}


def of(*recipes: dict[str, Any], **settings: Any) -> Kitchen:
    made = kitchen(ITEMS, list(recipes), {"water": "0.1", "roll": "5", "foil": "8"}, **settings)
    cloths = Offer("cloth", "shop", parse_pack("50 each"), Decimal(20), date(2026, 11, 1))
    return replace(made, offers=(*made.offers, cloths))


def bowl(**more: Any) -> dict[str, Any]:
    return {"id": "bowl", "name": "Bowl", "size": "250 g", **more}


class TakenBySome(unittest.TestCase):
    def test_the_expected_cost_and_that_if_all_take_it(self) -> None:
        roll = {"item": "roll", "quantity": "1 each", "taken_by": "0.7"}
        found = sheet(of({"stages": [STAGE], "servings": [bowl(accompaniments=[roll])]})).servings[0]
        self.assertEqual(found.food_cost, d(1) / 40 + d("0.3") * d("0.7"))
        self.assertEqual(found.food_cost_if_all_take_it, d(1) / 40 + d("0.3"))
        self.assertEqual(found.extras[0].ap_g, 42)

    def test_without_it_nothing_is_told_of_it(self) -> None:
        roll = {"item": "roll", "quantity": "1 each"}
        self.assertIsNone(
            sheet(of({"stages": [STAGE], "servings": [bowl(garnish=[roll])]})).servings[0].food_cost_if_all_take_it
        )

    def test_by_the_piece(self) -> None:
        cloth = {"item": "cloth", "quantity": "1 each", "taken_by": "0.5"}
        found = sheet(of({"stages": [STAGE], "servings": [bowl(packaging=[cloth])]})).servings[0]
        self.assertEqual(found.food_cost, d(1) / 40 + d("0.2"))
        self.assertEqual(found.extras[0].pieces, d("0.5"))

    def test_what_is_kept_for_it_is_handed_out_to_those_who_take_it(self) -> None:
        kept = {**STAGE, "take_out": [{"name": "bits", "mass": "1 kg"}]}
        some = {"recipe": "pot", "byproduct": "bits", "quantity": "20 g", "taken_by": "0.5"}
        found = sheet(of({"stages": [kept], "servings": [bowl(garnish=[some])]})).servings[0]
        self.assertEqual(found.extras[0].ep_g, 10)
        self.assertEqual(
            [one.message_code for one in sheet(of({"stages": [kept], "servings": [bowl(garnish=[some])]})).warnings], []
        )


class UsedUpByABatch(unittest.TestCase):
    def test_it_costs_the_batch_by_weight_and_by_the_piece(self) -> None:
        found = sheet(of({"stages": [STAGE], "consumables": [
            {"item": "foil", "quantity": "100 g"}, {"item": "cloth", "quantity": "2 each"}]}))  # fmt: skip
        self.assertTrue(found.complete)
        self.assertEqual(found.batch.food_cost, d(1) + d("0.8") + d("0.8"))
        # The last stage bears it, so that the stages add up to the batch; the pot weighs no more for it.
        self.assertEqual(found.stages[-1].cost, d("2.6"))
        self.assertEqual(found.batch.mass_g, 10_000)

    def test_it_goes_with_the_share_of_a_batch_that_another_takes(self) -> None:
        base = {"id": "base", "name": "Base", "stages": [STAGE], "consumables": [{"item": "cloth", "quantity": "1 each"}]}
        soup = {"stages": [{"id": "s", "lines": [{"recipe": "base", "quantity": "5 kg"}]}]}
        self.assertEqual(sheet(of(base, soup)).batch.food_cost, (d(1) + d("0.4")) / 2)

    def test_a_price_that_moves_moves_it(self) -> None:
        costing = Costing(of({"stages": [STAGE], "consumables": [{"item": "cloth", "quantity": "1 each"}]}), DAY)
        dearer = costing.with_offers([Offer("cloth", "shop", parse_pack("50 each"), Decimal(40), DAY)])
        self.assertEqual(dearer.of("pot").cost - costing.of("pot").cost, d("0.4"))

    def test_what_it_lacks_is_asked_for(self) -> None:
        found = sheet(of({"stages": [STAGE], "consumables": [{"item": "foil", "quantity": "1 roll"}]}))
        self.assertFalse(found.complete)
        self.assertEqual((found.problems[0].code, found.problems[0].item), ("missing_weight", "foil"))

    def test_its_workings(self) -> None:
        costing = Costing(of({"stages": [STAGE], "consumables": [
            {"item": "foil", "quantity": "100 g"}, {"item": "cloth", "quantity": "2 each"}]}), DAY)  # fmt: skip
        told = sheet_of(costing, "pot")
        self.assertEqual(explain(costing, "pot", "batch/food_cost").value, told.batch.food_cost)
        self.assertEqual(explain(costing, "pot", "batch/need/cloth/cost").value, d("0.8"))
        self.assertEqual(explain(costing, "pot", "batch/need/foil/cost").value, d("0.8"))
        self.assertEqual(explain(costing, "pot", "stage/s/cost").value, d("2.6"))
