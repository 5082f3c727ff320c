"""What is bought by the piece and weighed by nobody: enough beside the pot, not in it."""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import date
from decimal import Decimal
from typing import Any

from potrel.core.buy.price_doubts import price_doubts
from potrel.core.buy.purchase import price_of
from potrel.core.cost.costing import Costing
from potrel.core.cost.drift import drift_of
from potrel.core.kitchen.kitchen import Kitchen
from potrel.core.kitchen.lines import Line
from potrel.core.kitchen.quantities import parse_pack, parse_quantity
from potrel.core.kitchen.supply import Offer
from potrel.core.rooms.board import board_of
from potrel.core.tell.cost_sheet import sheet_of
from tests.kitchens import DAY, d, kitchen


def offer(pack: str, price: str, on: str = "2026-11-02") -> Offer:
    return Offer("roll", "shop", parse_pack(pack), Decimal(price), date.fromisoformat(on))


def canteen(*offers: Offer, pot: tuple[str, ...] = (), beside: str = "1 each", **roll: Any) -> Kitchen:
    """A litre of soup of a kilo of leeks at 2.00 gives four bowls, each with a roll."""
    lines = [{"item": "leek", "quantity": "1 kg"}, *({"item": "roll", "quantity": one} for one in pot)]
    made = {"stages": [{"id": "s", "lines": lines}], "servings": [
        {"id": "bowl", "name": "Bowl", "size": "250 g", "accompaniments": [{"item": "roll", "quantity": beside}],
         "price": "3.00", "price_set_on": "2026-11-05"}]}  # fmt: skip
    of = kitchen([{"id": "leek"}, {"id": "roll", **roll}], [made], {"leek": "2"}, serving_loss=d(0))
    return replace(of, offers=(*of.offers, *offers))


class ByThePiece(unittest.TestCase):
    def test_sixty_rolls_need_no_weight_beside_the_pot(self) -> None:
        # 60 rolls for 15.00, one with each portion: 0.25 beside 0.50 of soup.
        found = sheet_of(Costing(canteen(offer("60 each", "15")), DAY), "pot")
        self.assertTrue(found.complete, found.problems)
        (extra,) = found.servings[0].extras
        self.assertEqual((extra.cost, extra.pieces, extra.ap_g, extra.ep_g), (d("0.25"), 1, None, None))
        self.assertEqual(found.servings[0].food_cost, d("0.75"))

    def test_two_of_a_pack_of_packs(self) -> None:
        found = sheet_of(Costing(canteen(offer("5 x 12 each", "15"), beside="2 each"), DAY), "pot")
        self.assertEqual(found.servings[0].food_cost, d("1.00"))

    def test_needs_carry_the_unit(self) -> None:
        costing = Costing(canteen(offer("60 each", "15")), DAY)
        needs = costing.of("pot").portions[0].extra_needs
        self.assertEqual((dict(needs.items), costing.view.counted("roll")), ({"roll": 1}, "each"))

    def test_a_piece_goes_by_any_of_its_words(self) -> None:
        for bought, used in (("60 piece", "1 each"), ("60 pcs", "1 pc"), ("60 each", "1 stk"), ("60 Stück", "1 ea")):
            found = sheet_of(Costing(canteen(offer(bought, "15"), beside=used), DAY), "pot")
            self.assertEqual(found.servings[0].food_cost, d("0.75"), (bought, used, found.problems))
        weighed = canteen(offer("60 pcs", "15"), measures={"each": "50 g"})
        self.assertEqual(sheet_of(Costing(weighed, DAY), "pot").servings[0].extras[0].ap_g, 50)

    def test_beside_the_whole_batch_too(self) -> None:
        of = canteen(offer("60 pcs", "15"))
        one = replace(of.recipes[0], consumables=(Line(parse_quantity("2 each"), item="roll"),))
        found = sheet_of(Costing(replace(of, recipes=(one,)), DAY), "pot")
        self.assertTrue(found.complete, found.problems)
        # Two of 0.25 for four bowls, each with one of its own beside 0.50 of soup.
        self.assertEqual(found.servings[0].food_cost, d("0.875"))

    def test_in_the_pot_it_has_to_be_weighed(self) -> None:
        for typed in ("2 each", "100 g"):
            found = sheet_of(Costing(canteen(offer("60 each", "15"), pot=(typed,)), DAY), "pot")
            self.assertFalse(found.complete, typed)
            self.assertEqual(found.problems[0].code, "missing_weight", typed)
            # Grams are never taken times the price of a roll.
            self.assertEqual(found.batch.food_cost, 2, typed)

    def test_beside_the_pot_by_weight_it_has_to_be_weighed(self) -> None:
        found = sheet_of(Costing(canteen(offer("60 each", "15"), beside="60 g"), DAY), "pot")
        self.assertEqual([one.code for one in found.problems], ["missing_weight"])

    def test_with_no_price_it_is_the_price_that_is_asked_for(self) -> None:
        found = sheet_of(Costing(canteen(), DAY), "pot")
        self.assertEqual([one.code for one in found.problems], ["missing_price"])

    def test_bought_by_the_kilo_a_piece_has_to_be_weighed(self) -> None:
        found = sheet_of(Costing(canteen(offer("3 kg", "15")), DAY), "pot")
        self.assertEqual([one.code for one in found.problems], ["missing_weight"])
        both = sheet_of(Costing(canteen(offer("3 kg", "15"), offer("60 each", "15", "2026-11-10")), DAY), "pot")
        self.assertEqual([one.code for one in both.problems], ["missing_weight"])

    def test_once_weighed_all_is_by_weight_and_costs_the_same(self) -> None:
        weighed = canteen(offer("60 each", "15"), measures={"each": "50 g"})
        found = sheet_of(Costing(weighed, DAY), "pot")
        self.assertEqual((found.servings[0].food_cost, found.servings[0].extras[0].ap_g), (d("0.75"), 50))

    def test_new_offers_reach_it_as_if_all_were_costed_anew(self) -> None:
        steps = [(), (offer("60 each", "15"),), (offer("60 each", "18", "2026-11-10"),), (offer("3 kg", "9", "2026-11-12"),)]
        costing, known = Costing(canteen(), DAY), list[Offer]()
        for more in steps:
            costing = costing.with_offers(more)
            known += more
            anew = Costing(canteen(*known), DAY)
            self.assertEqual(costing.of("pot").portions, anew.of("pot").portions, known)
            self.assertEqual(board_of(costing).rows, board_of(anew).rows, known)

    def test_drift_is_told_by_the_piece(self) -> None:
        costing = Costing(canteen(offer("60 each", "15"), offer("60 each", "18", "2026-11-10")), DAY)
        one = costing.of("pot")
        drift = drift_of(one, one.portions[0], costing)
        assert drift is not None
        (moved,) = drift.moved
        self.assertEqual(
            (drift.change, moved.was_per_kg, moved.now_per_kg, moved.unit), (d("0.05"), d("0.25"), d("0.3"), "each")
        )

    def test_a_price_ten_times_the_last_is_doubted(self) -> None:
        view = Costing(canteen(offer("60 each", "15")), DAY).view
        now = price_of(offer("60 each", "150"), view.items["roll"], view.system)
        self.assertEqual([one.code for one in price_doubts(view.price("roll"), now)], ["dearer_by_10"])
        apart = price_of(offer("3 kg", "150"), view.items["roll"], view.system)
        self.assertEqual(price_doubts(view.price("roll"), apart), [])


if __name__ == "__main__":
    unittest.main()
