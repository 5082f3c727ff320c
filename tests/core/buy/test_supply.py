"""Offers that hold, credits, what was paid, and what a price does over the year."""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import date, timedelta
from decimal import Decimal

from hypothesis import given
from hypothesis import strategies as st

from potrel.core.buy.paid import paid_for
from potrel.core.buy.purchase import History, standing
from potrel.core.buy.season import season_of
from potrel.core.errors import BadDocument
from potrel.core.kitchen.quantities import parse_pack
from potrel.core.kitchen.supply import Credit, Offer, Supplier
from tests.kitchens import DAY, KILO, d, item, kitchen

CRATE = parse_pack("5 kg")


def offer(number: int, price: str = "2.00", **more: object) -> Offer:
    made = Offer("leek", "shop", KILO, d(price), date(2026, 11, number), id=f"o-{number}")
    return replace(made, **more)  # type: ignore[arg-type]


class Standing(unittest.TestCase):
    def ids(self, *offers: Offer) -> list[str | None]:
        return [one.id for one in standing(offers)]

    def test_a_correction_takes_the_place_of_what_it_corrects(self) -> None:
        self.assertEqual(self.ids(offer(1), offer(2, corrects="o-1")), ["o-2"])
        self.assertEqual(self.ids(offer(1), offer(2, corrects="o-1"), offer(3, corrects="o-2")), ["o-3"])

    def test_what_is_taken_back_is_gone(self) -> None:
        self.assertEqual(self.ids(offer(1), offer(2, corrects="o-1", withdrawn=True)), [])

    def test_a_correction_taken_back_lets_the_first_hold_again(self) -> None:
        self.assertEqual(self.ids(offer(1), offer(2, corrects="o-1"), offer(3, corrects="o-2", withdrawn=True)), ["o-1"])

    def test_offers_without_an_id_hold(self) -> None:
        self.assertEqual(len(standing([offer(1, id=None), offer(2, id=None)])), 2)

    def test_what_contradicts_itself(self) -> None:
        for make in (
            lambda: offer(1, withdrawn=True),
            lambda: offer(1, gtin="6291041500214"),
            lambda: Supplier("s", "S", fetch_at="06:00"),
        ):
            with self.assertRaises(BadDocument):
                make()


class Paid(unittest.TestCase):
    def setUp(self) -> None:
        of = kitchen([{"id": "leek"}, {"id": "basil"}], [])
        bought = (
            offer(1, "11.00", pack=CRATE, delivered=d(2)), offer(2, "12.00", pack=CRATE, delivered=d(1)),
            offer(3, "9.00", pack=CRATE),
        )  # fmt: skip
        self.of = replace(of, offers=bought)

    def paid(self, *credits_: Credit, of: str = "leek") -> tuple[object, ...] | None:
        bought = [one for one in self.of.offers if one.item == of]
        found = paid_for(item({"id": of}), bought, credits_ if of == "leek" else (), "metric")
        return None if found is None else (found.deliveries, found.credits, found.kg, found.money, found.per_kg)

    def test_deliveries_and_not_list_prices(self) -> None:
        self.assertEqual(self.paid(), (2, 0, d(15), d("34.00"), d("34.00") / 15))

    def test_goods_that_went_back_take_their_weight_along(self) -> None:
        back = Credit("leek", "shop", CRATE, d(1), d("11.00"), DAY, id="c-1")
        self.assertEqual(self.paid(back), (2, 1, d(10), d("23.00"), d("2.3")))

    def test_a_price_that_was_lowered_leaves_the_weight(self) -> None:
        lowered = Credit("leek", "shop", CRATE, d(1), d("4.00"), DAY, goods_back=False, id="c-1")
        self.assertEqual(self.paid(lowered), (2, 1, d(15), d("30.00"), d(2)))

    def test_a_credit_taken_back_counts_nothing(self) -> None:
        back = Credit("leek", "shop", CRATE, d(1), d("11.00"), DAY, id="c-1")
        self.assertEqual(self.paid(back, replace(back, id="c-2", withdraws="c-1")), self.paid())

    def test_without_a_delivery_nothing_is_said(self) -> None:
        self.assertIsNone(self.paid(of="basil"))

    @given(st.lists(st.tuples(st.integers(1, 9), st.integers(1, 900)), min_size=1, max_size=6))
    def test_all_sent_back_at_its_price_is_nothing_paid(self, bought: list[tuple[int, int]]) -> None:
        offers = [offer(n + 1, f"{cents / 100:.2f}", delivered=d(packs)) for n, (packs, cents) in enumerate(bought)]
        credits_ = tuple(
            Credit("leek", "shop", KILO, o.delivered or d(0), o.price * (o.delivered or 0), DAY, id=f"c-{n}")
            for n, o in enumerate(offers)
        )
        found = paid_for(item({"id": "leek"}), offers, credits_, "metric")
        self.assertIsNotNone(found)
        if found is not None:
            self.assertEqual((found.kg, found.money, found.per_kg), (0, 0, None))


class Seasons(unittest.TestCase):
    def history(self, prices: dict[date, str]) -> History:
        offers = [Offer("leek", "shop", KILO, Decimal(price), on) for on, price in prices.items()]
        return History(item({"id": "leek"}), offers, "metric")

    def test_not_before_there_is_a_year(self) -> None:
        start = DAY - timedelta(days=300)
        self.assertIsNone(season_of(self.history({start: "2.00", DAY: "3.00"}), DAY))
        self.assertIsNone(season_of(self.history({}), DAY))

    def test_dear_months_and_cheap_ones(self) -> None:
        # 1.00 all year but for 3.00 in May: the mean of twelve months is 14/12.
        prices = {date(2025, 1, 1): "1.00", date(2025, 5, 1): "3.00", date(2025, 6, 1): "1.00"}
        found = season_of(self.history(prices), date(2025, 12, 31) + timedelta(days=1))
        self.assertIsNotNone(found)
        if found is not None:
            self.assertEqual((found.dearest, found.months[4]), (5, Decimal(3) / (Decimal(14) / 12)))
            self.assertEqual(found.months[0], Decimal(1) / (Decimal(14) / 12))
            self.assertAlmostEqual(float(sum(found.months)), 12)

    def test_a_free_item_has_no_season(self) -> None:
        self.assertIsNone(season_of(self.history({date(2025, 1, 1): "0"}), DAY))
