"""The price of an item on a date."""

from __future__ import annotations

import unittest
from datetime import date
from decimal import Decimal
from typing import Any

from potrel.core.errors import OutOfRange
from potrel.core.purchase import History, price_of
from potrel.core.supply import Offer
from tests.kitchens import d, item


def offer(price: str, on: str, supplier: str = "a", pack: str = "1 kg", **more: Any) -> Offer:
    return Offer("leek", supplier, pack, Decimal(price), date.fromisoformat(on), **more)


class PriceOnADate(unittest.TestCase):
    def price(self, offers: list[Offer], on: str, **more: object) -> Decimal | None:
        found = History(item({"id": "leek", **more}), offers, "metric").on(date.fromisoformat(on))
        return None if found is None or found.per_gram is None else found.per_gram * 1000

    def test_none_before_the_first_offer(self) -> None:
        self.assertIsNone(self.price([offer("2", "2026-11-02")], "2026-11-01"))

    def test_newest_on_or_before(self) -> None:
        offers = [offer("3", "2026-11-10"), offer("2", "2026-11-02")]
        for on, price in (("2026-11-02", 2), ("2026-11-09", 2), ("2026-11-10", 3), ("2027-01-01", 3)):
            self.assertEqual(self.price(offers, on), price)

    def test_cheapest_of_the_day_on_a_tie(self) -> None:
        offers = [offer("3", "2026-11-02"), offer("2", "2026-11-02", "b"), offer("2.5", "2026-11-02", "c")]
        self.assertEqual(self.price(offers, "2026-11-02"), 2)

    def test_cheapest_is_by_the_gram_not_by_the_pack(self) -> None:
        offers = [offer("3", "2026-11-02", pack="500 g"), offer("4", "2026-11-02", "b")]
        self.assertEqual(self.price(offers, "2026-11-02"), 4)

    def test_preferred_supplier_wins_over_newer_and_cheaper(self) -> None:
        offers = [offer("3", "2026-11-02"), offer("2", "2026-11-20", "b")]
        self.assertEqual(self.price(offers, "2026-11-24", preferred_supplier="a"), 3)

    def test_anybody_where_the_preferred_supplier_has_no_offer_yet(self) -> None:
        self.assertEqual(self.price([offer("2", "2026-11-20", "b")], "2026-11-24", preferred_supplier="a"), 2)

    def test_a_correction_takes_the_place_of_what_it_names(self) -> None:
        offers = [offer("0.20", "2026-11-02", id="o-1"), offer("20", "2026-11-02", id="o-2", corrects="o-1")]
        self.assertEqual(self.price(offers, "2026-11-02"), 20)

    def test_an_offer_that_ends_gives_way_to_the_one_before_it(self) -> None:
        offers = [offer("3", "2026-11-02"), offer("2", "2026-11-10", until=date(2026, 11, 16))]
        for on, price in (("2026-11-09", 3), ("2026-11-10", 2), ("2026-11-16", 2), ("2026-11-17", 3)):
            self.assertEqual(self.price(offers, on), price)

    def test_none_where_all_have_ended(self) -> None:
        self.assertIsNone(self.price([offer("2", "2026-11-10", until=date(2026, 11, 16))], "2026-11-17"))

    def test_an_end_before_the_beginning(self) -> None:
        with self.assertRaises(OutOfRange):
            offer("2", "2026-11-10", until=date(2026, 11, 9))

    def test_when_another_price_may_have_come_into_force(self) -> None:
        offers = [offer("3", "2026-11-02"), offer("2", "2026-11-10", until=date(2026, 11, 16)), offer("4", "2026-12-01")]
        history = History(item({"id": "leek"}), offers, "metric")
        for day, changed in ((1, None), (5, 2), (12, 10), (16, 10), (17, 17), (30, 17)):
            self.assertEqual(history.changed_on(date(2026, 11, day)), changed and date(2026, 11, changed))

    def test_free_is_a_price(self) -> None:
        self.assertEqual(self.price([offer("0", "2026-11-02")], "2026-11-02"), 0)

    def test_a_pack_by_the_piece_takes_a_measure(self) -> None:
        self.assertEqual(self.price([offer("6", "2026-11-02", pack="12 each")], "2026-11-02", measures={"each": "500 g"}), 1)
        self.assertIsNone(self.price([offer("6", "2026-11-02", pack="12 each")], "2026-11-02"))

    def test_drained_yield_of_one_inner_container(self) -> None:
        price = price_of(offer("18", "2026-11-02", pack="6 x 2.5 kg", drained="1.5 kg"), item({"id": "leek"}), "metric")
        self.assertEqual(price.drained_yield, d("0.6"))
