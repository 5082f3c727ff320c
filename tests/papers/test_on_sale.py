"""What stands on the papers of what is sold: of an add-on whose label nobody has read, somebody has to be asked."""

from __future__ import annotations

import unittest
from dataclasses import replace

from potrel.core.cost.costing import Costing
from potrel.core.kitchen.kitchen import Kitchen
from potrel.core.rooms.labels import checked_now
from potrel.papers.on_sale import on_sale
from tests.kitchens import DAY, demo


def unread(of: Kitchen) -> dict[str, bool]:
    """Whether each add-on of a kitchen stands there as unread."""
    return {one.name: one.unread for soup in on_sale(Costing(of, DAY), None).soups for one in soup.add_ons}


class AddOns(unittest.TestCase):
    def test_a_label_that_nobody_read_is_marked_until_somebody_has(self) -> None:
        of = demo()
        self.assertEqual(unread(of), {"Cheddar, mature": False, "Bread roll": True})
        view = Costing(of, DAY).view
        read = tuple(checked_now(one, view, "Ada") if one.id == "roll" else one for one in of.items)
        self.assertEqual(unread(replace(of, items=read)), {"Cheddar, mature": False, "Bread roll": False})
        nobody = tuple(replace(one, allergen_check=None) for one in of.items)
        self.assertEqual(unread(replace(of, items=nobody)), {"Cheddar, mature": True, "Bread roll": True})


if __name__ == "__main__":
    unittest.main()
