"""What is known of the weight of one, for somebody who is asked for it."""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import date
from decimal import Decimal

from potrel.core.kitchen.quantities import parse_pack
from potrel.core.kitchen.supply import Offer
from potrel.core.pot.day_view import DayView
from potrel.core.rooms.weights_known import weights_known
from tests.kitchens import DAY, kitchen


class WeightsKnown(unittest.TestCase):
    def known(self, name: str, packs: dict[str, str], unit: str = "each") -> list[tuple[str, str, str | None]]:
        """What is said of one, after deliveries of packs by their day."""
        found = kitchen([{"id": "hock", "name": name}], [])
        of, days = found.items[0], packs.items()
        offers = tuple(Offer("hock", "shop", parse_pack(pack), Decimal(9), date.fromisoformat(on)) for on, pack in days)
        view = DayView(replace(found, offers=offers), DAY)
        return [(one.measure.weighs.text, one.said_by, one.measure.source) for one in weights_known(of, unit, view)]

    def test_the_last_delivery_whose_pieces_were_weighed_then_the_shelf(self) -> None:
        packs = {"2026-10-05": "4 x 0.9 kg", "2026-11-02": "2 x 1.1 kg", "2026-11-09": "5 kg", "2027-03-01": "2 x 2 kg"}
        delivered, lent = self.known("Smoked ham hock", packs)
        self.assertEqual(delivered, ("1.1 kg", "2 x 1.1 kg from Shop", None))
        self.assertEqual(lent[0], "900 g")
        self.assertIn("from memory", lent[2] or "")

    def test_a_bag_of_many_is_no_piece(self) -> None:
        self.assertEqual(self.known("Hocks of our own", {"2026-11-02": "5 kg"}), [])
        self.assertEqual(self.known("Hocks of our own", {"2026-11-02": "3 x 1.2 kg"})[0][0], "1.2 kg")
        # Three times the shelf's hock or more is a box of them; a volume is no piece.
        self.assertEqual([text for text, _, _ in self.known("Smoked ham hock", {"2026-11-02": "2 x 5 kg"})], ["900 g"])
        self.assertEqual(self.known("Hocks of our own", {"2026-11-02": "3 x 1.2 kg"}, "pinch"), [])
