"""What is odd about a price beside the one before: at which bounds, and where nothing is said."""

from __future__ import annotations

import unittest
from decimal import Decimal

from potrel.core.buy.price_doubts import price_doubts
from potrel.core.buy.purchase import Price, price_of
from potrel.core.kitchen.quantities import parse_pack
from potrel.core.kitchen.supply import Offer
from tests.kitchens import DAY, item

LEEK = item({"id": "leek"})


def of(price: str, pack: str = "1 kg") -> Price:
    return price_of(Offer("leek", "shop", parse_pack(pack), Decimal(price), DAY), LEEK, "metric")


def codes(before: str, now: str) -> list[str]:
    return [one.code for one in price_doubts(of(before), of(now))]


class Bounds(unittest.TestCase):
    """Five times and more is asked about, and a fifth and less. Common practice, no source."""

    def test_from_five_times_on_it_is_far_dearer(self) -> None:
        self.assertEqual(codes("2.00", "10.00"), ["much_dearer"])
        self.assertEqual(codes("2.00", "9.98"), [])
        self.assertEqual(codes("2.00", "14.00"), ["much_dearer"])

    def test_down_to_a_fifth_it_is_far_cheaper(self) -> None:
        self.assertEqual(codes("10.00", "2.00"), ["much_cheaper"])
        self.assertEqual(codes("10.00", "2.02"), [])

    def test_what_looks_like_a_slip_is_told_as_that(self) -> None:
        self.assertEqual(codes("2.00", "20.00"), ["dearer_by_10"])
        self.assertEqual(codes("2.00", "0.02"), ["cheaper_by_100"])
        self.assertEqual(codes("2.00", "0.00"), ["price_of_0"])

    def test_the_first_price_is_no_doubt(self) -> None:
        self.assertEqual(price_doubts(None, of("90")), [])


if __name__ == "__main__":
    unittest.main()
