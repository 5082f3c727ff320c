"""How rough the amount of a line is."""

from __future__ import annotations

import unittest

from tests.kitchens import kitchen, sheet

BAND = {"weighs": "60 g", "low": "40 g", "high": "90 g", "source": "common practice"}


class Rough(unittest.TestCase):
    def words(self, quantity: str, **line: object) -> str | None:
        of = kitchen(
            [{"id": "carrot", "measures": {"medium": BAND, "each": "70 g"}, "density": "1"}],
            [{"id": "soup", "stages": [{"id": "pot", "lines": [{"item": "carrot", "quantity": quantity, **line}]}]}],
            {"carrot": "2"},
        )
        return sheet(of, "soup").lines[0].rough

    def test_what_is_weighed_is_not_rough(self) -> None:
        for exact in ("2 kg", "3 each", "1 1/2 kg", "2 l"):
            self.assertIsNone(self.words(exact), exact)

    def test_a_range_and_what_nobody_weighs_say_why(self) -> None:
        self.assertEqual(self.words("3-4 each"), "written as 3-4 each")
        self.assertEqual(self.words("2 medium"), "1 medium weighs 40 g to 90 g, common practice")
        self.assertEqual(self.words("2-3 medium"), "written as 2-3 medium; 1 medium weighs 40 g to 90 g, common practice")
        self.assertIn("by eye", self.words("2 l", by_eye="cover") or "")
