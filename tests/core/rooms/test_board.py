"""The head of the board: what moved a portion up most."""

from __future__ import annotations

import unittest
from dataclasses import replace
from decimal import Decimal

from potrel.core.cost.costing import Costing
from potrel.core.kitchen.kitchen import Kitchen
from potrel.core.kitchen.quantities import parse_pack
from potrel.core.kitchen.supply import Offer
from potrel.core.rooms.board import board_of
from tests.kitchens import DAY, demo


def dearer(of: Kitchen, item: str, price: str) -> Kitchen:
    """The kitchen after a kilo of something cost so much at the supplier that it is bought from."""
    now = Costing(of, DAY).view.price(item)
    assert now is not None
    offer = Offer(item, now.offer.supplier, parse_pack("1 kg"), Decimal(price), DAY)
    return replace(of, offers=(*of.offers, offer))


class TheDearestMove(unittest.TestCase):
    def test_it_is_the_greatest_of_all_parts_of_all_pots(self) -> None:
        board = board_of(Costing(demo(), DAY))
        parts = [(part.change, part.name, row.name) for row in board.rows if row.drift for part in row.drift.moved]
        self.assertGreater(len(parts), 5)
        change, item, pot = sorted(parts)[-1]
        self.assertGreater(change, 0)
        self.assertEqual(board.dearest_move, f"{item} in {pot}")

    def test_another_price_makes_another_one_the_dearest(self) -> None:
        for item, name in (("parsnip", "Parsnips"), ("leek", "Leeks")):
            with self.subTest(item):
                found = board_of(Costing(dearer(demo(), item, "90.00"), DAY)).dearest_move or ""
                self.assertTrue(found.startswith(f"{name} in "), found)

    def test_where_nothing_rose_there_is_none(self) -> None:
        of = demo()
        first = {offer.item: offer for offer in reversed(of.offers)}
        cheap = [
            replace(offer, price=offer.price / 100, on=DAY, id=None, until=None, corrects=None) for offer in first.values()
        ]
        self.assertIsNone(board_of(Costing(replace(of, offers=(*of.offers, *cheap)), DAY)).dearest_move)


if __name__ == "__main__":
    unittest.main()
