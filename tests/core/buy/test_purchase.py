"""The weight of a quantity of an item, and its price on a date."""

from __future__ import annotations

import unittest
from datetime import date
from decimal import Decimal
from typing import Any

from potrel.core.buy.purchase import History, price_of
from potrel.core.buy.weights import pack_grams, weigh
from potrel.core.errors import Lack, OutOfRange
from potrel.core.kitchen.quantities import parse_pack, parse_quantity
from potrel.core.kitchen.supply import Offer
from potrel.core.numbers.units import MeasureSystem
from tests.kitchens import d, item


def offer(price: str, on: str, supplier: str = "a", pack: str = "1 kg", **more: Any) -> Offer:
    return Offer("leek", supplier, parse_pack(pack), Decimal(price), date.fromisoformat(on), **more)


class Weights(unittest.TestCase):
    def grams(self, text: str, system: MeasureSystem = "metric", **more: object) -> object:
        return weigh(parse_quantity(text), item({"id": "leek", **more}), system)

    def test_mass_needs_nothing(self) -> None:
        self.assertEqual(self.grams("2 kg"), 2000)
        self.assertEqual(self.grams("1 lb"), d("453.59237"))

    def test_volume_takes_the_density(self) -> None:
        self.assertEqual(self.grams("2 l", density="1.03"), 2060)

    def test_which_cup(self) -> None:
        cups: dict[MeasureSystem, str] = {"us": "236.5882365", "metric": "250", "imperial": "250"}
        for system, millilitres in cups.items():
            self.assertEqual(self.grams("1 cup", system, density="1"), d(millilitres))
        # A pint is the imperial one wherever the kitchen is not American (Units of Measurement Regulations 1995).
        for system in ("imperial", "metric"):
            self.assertEqual(self.grams("1 pint", system, density="1"), d("568.26125"))

    def test_a_measure_wins_over_density(self) -> None:
        self.assertEqual(self.grams("2 cup", density="1", measures={"cup": "140 g"}), 280)

    def test_one_weighed_volume_tells_every_other(self) -> None:
        # NIST Handbook 44, Appendix C: a gallon is 4 quarts, 16 cups, 256 tablespoons, 768 teaspoons.
        for unit, cups in {"1 gallon": 16, "1 quart": 4, "2 tbsp": "0.125", "1 cup": 1}.items():
            self.assertEqual(self.grams(unit, "us", measures={"cup": "128 g"}), 128 * d(str(cups)), unit)
        # The nearest of two; and what was weighed as bought, rather than ready to use.
        self.assertEqual(self.grams("1 tsp", "us", measures={"cup": "128 g", "tbsp": "9 g"}), 3)
        # Data weigh American cups (236.588 ml); a density is nearer than they are, a weighing of this kitchen nearer yet.
        data = {"weighs": "118.294118 g", "source": "USDA National Nutrient Database"}
        found = self.grams("1 l", measures={"cup": data})
        assert isinstance(found, Decimal)
        self.assertAlmostEqual(found, d("500"), 5)
        self.assertEqual(self.grams("1 l", density="0.6", measures={"cup": data}), 600)
        self.assertEqual(self.grams("1 l", density="0.6", measures={"cup": "128 g"}), 512)
        ready = {"weighs": "200 g", "basis": "EP"}
        self.assertEqual(self.grams("1 l", density="0.5", measures={"cup": ready}), 500)
        self.assertEqual(self.grams("1 l", measures={"cup": ready}), 800)

    def test_what_is_bought_and_used_by_volume_cancels_exactly(self) -> None:
        for more in ({"density": "0.937"}, {"measures": {"cup": "241.7 g"}}):
            of = item({"id": "leek", **more})
            price = price_of(offer("19.20", "2026-11-01", pack="2 x 1 gallon"), of, "us").per_gram
            used = weigh(parse_quantity("4 cup"), of, "us")
            assert price is not None and isinstance(used, Decimal)
            self.assertEqual((used * price).quantize(d("1e-20")), d("2.4"))

    def test_so_many_that_fill_a_case_of_the_trade_weigh_what_it_does(self) -> None:
        data = {"source": "USDA Agricultural Handbook 697"}
        cases = {"each": {"weighs": "450 g", **data}, "case of 24-36": {"weighs": "60 lb", **data}}
        pounds = d("453.59237")

        def weighs(pack: str, system: MeasureSystem = "us", **measures: object) -> object:
            return pack_grams(parse_pack(pack), item({"id": "celery", "measures": {**cases, **measures}}), system)

        for pack, grams in {
            "24 each": 60 * pounds,
            "30 each": 60 * pounds,
            "2 x 24 each": 120 * pounds,
            "6 each": 2700,
        }.items():
            self.assertEqual(weighs(pack), grams, pack)
        # What was weighed here goes before, and American cases are no one else's.
        self.assertEqual(weighs("24 each", each="1 kg"), 24_000)
        self.assertEqual(weighs("24 each", "metric"), 24 * 450)
        self.assertEqual(weighs("24 each", "metric", **{"Case of 24-36": "18 kg"}), 18_000)
        self.assertEqual(weighs("24 bunch", "us"), 60 * pounds)

    def test_a_pack_is_told_as_purchased(self) -> None:
        of = item({"id": "leek", "measures": {"cup sliced": {"weighs": "89 g", "basis": "EP"}}})
        price = price_of(offer("2", "2026-11-01", pack="10 cup sliced"), of, "metric")
        assert price.lack is not None
        self.assertIn("known only as it is ready to use", price.lack.said.english)

    def test_count_takes_a_measure(self) -> None:
        self.assertEqual(self.grams("3 bunches", measures={"bunch": "0.25 kg"}), 750)

    def test_missing_measure_names_item_unit_and_mend(self) -> None:
        found = self.grams("1 bunch")
        assert isinstance(found, Lack)
        self.assertEqual(str(found.said), "Leek has no weight for 1 bunch: weigh one and add it to Leek's measures")
        self.assertEqual((found.item, found.unit), ("leek", "bunch"))

    def test_missing_density(self) -> None:
        found = self.grams("1 l")
        assert isinstance(found, Lack)
        self.assertIn("density", str(found.said))


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

    def test_the_last_that_a_supplier_recorded_on_a_day_holds(self) -> None:
        twice = [offer("2", "2026-11-02"), offer("3", "2026-11-02")]
        self.assertEqual(self.price(twice, "2026-11-02"), 3)
        # Another supplier's is compared with that one, not with what it replaced.
        self.assertEqual(self.price([*twice, offer("2.5", "2026-11-02", "b")], "2026-11-02"), d("2.5"))
        # A gift is a price, and the cheapest.
        self.assertEqual(self.price([*twice, offer("0", "2026-11-02", "b")], "2026-11-02"), 0)
        # What ends gives way to what it stood before.
        ends = [offer("3", "2026-11-02"), offer("2", "2026-11-02", until=date(2026, 11, 5))]
        self.assertEqual([self.price(ends, f"2026-11-0{day}") for day in (4, 6)], [2, 3])

    def test_cheapest_is_by_the_gram_not_by_the_pack(self) -> None:
        offers = [offer("3", "2026-11-02", pack="500 g"), offer("4", "2026-11-02", "b")]
        self.assertEqual(self.price(offers, "2026-11-02"), 4)

    def test_preferred_supplier_wins_over_newer_and_cheaper(self) -> None:
        offers = [offer("3", "2026-11-02"), offer("2", "2026-11-20", "b")]
        self.assertEqual(self.price(offers, "2026-11-24", preferred_supplier="a"), 3)

    def test_anybody_where_the_preferred_supplier_has_no_offer_yet(self) -> None:
        # ... and it says so: the price is another's than the one asked for.
        leek = item({"id": "leek", "preferred_supplier": "a"})
        found = History(leek, [offer("2", "2026-11-20", "b")], "metric").on(date(2026, 11, 24))
        assert found is not None
        self.assertEqual((found.per_gram, found.instead_of), (d("0.002"), "a"))
        found = History(leek, [offer("2", "2026-11-20")], "metric").on(date(2026, 11, 24))
        assert found is not None
        self.assertIsNone(found.instead_of)

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
        price = price_of(
            offer("18", "2026-11-02", pack="6 x 2.5 kg", drained=parse_quantity("1.5 kg")), item({"id": "leek"}), "metric"
        )
        self.assertEqual(price.drained_yield, d("0.6"))
