"""The repricing round and meal deals: why a price needs a look, what new ones do to the house, what each part gets."""

from __future__ import annotations

import unittest
from dataclasses import replace

from potrel.core.cost.costing import Costing
from potrel.core.decide.deals import deal_sold
from potrel.core.decide.repricing import effect_of, repricing
from potrel.core.errors import PotrelError
from potrel.core.kitchen.deals import Deal, refuse_deals_of
from potrel.core.kitchen.integrity import check_kitchen
from potrel.core.tell.explanations import explain
from potrel.formats.kitchen_json import part_from
from tests.core.cost.test_selling import channel, pot
from tests.kitchens import DAY, d, demo

_KEY = ("pot", "bowl", "")


class Round(unittest.TestCase):
    def test_those_that_need_a_look_stand_first(self) -> None:
        rows = repricing(Costing(demo(), DAY), {})
        marked = [bool(row.reasons) for row in rows]
        self.assertEqual(marked, sorted(marked, reverse=True))
        haddock = next(row for row in rows if (row.recipe, row.channel) == ("haddock-chowder", "delivery"))
        self.assertEqual((haddock.reasons, haddock.is_set), (["no_set_price"], False))
        self.assertEqual(haddock.price, haddock.proposed)

    def test_a_channel_has_reasons_of_its_own(self) -> None:
        away = channel(commission="0.5", commission_of="net", price_ending=None)
        for price, reasons in (("2.00", ["over_target"]), ("9.00", ["far_under_target"]), ("4.60", [])):
            of = pot({"channels": [{"channel": "away", "price": price}]}, channels=(away,))
            row = next(row for row in repricing(Costing(of, DAY), {}) if row.channel == "away")
            self.assertEqual(row.reasons, reasons, price)

    def test_the_effect_by_hand(self) -> None:
        costing = Costing(pot(), DAY)
        found = effect_of(costing, {_KEY: d("5.50")}, {_KEY: d(50)})
        # 0.60 of 4.00 and of 5.00 net; 50 bowls a week leave 3.40 and 4.40 each.
        self.assertEqual((found.share_was, found.share_now), (d("0.15"), d("0.12")))
        self.assertEqual((found.week_was, found.week_now, found.unsold), (d(170), d(220), 0))
        self.assertEqual((found.share_by_sales_was, found.share_by_sales_now), (d("0.15"), d("0.12")))
        self.assertEqual([(one.price, one.contribution) for one in found.rows], [(d("5.50"), d("4.4"))])
        found = effect_of(costing, {}, {})
        self.assertEqual((found.week_now, found.unsold, found.unknown, found.rows), (None, 1, 0, []))
        # What is sold, but costs nobody knows what, is told and counts nothing.
        found = effect_of(Costing(replace(pot(), offers=()), DAY), {}, {_KEY: d(50)})
        self.assertEqual((found.week_now, found.unsold, found.unknown), (None, 0, 1))

    def test_what_is_costed_already_is_what_the_working_says(self) -> None:
        costing = Costing(demo(), DAY)
        for row in repricing(costing, {}):
            if row.channel is None:
                base = f"serving/{row.serving}/in/-"
                for name, told in (
                    ("in_force/price", row.price), ("in_force/food_cost_share", row.share),
                    ("in_force/contribution", row.contribution), (f"{row.method}/price", row.proposed),
                    (f"{row.method}/food_cost_share", row.proposed_share),
                    (f"{row.method}/contribution", row.proposed_contribution),
                ):  # fmt: skip
                    found = explain(costing, row.recipe, f"{base}/{name}").value
                    if told is None or found is None:
                        self.assertIs(told, found)
                    else:
                        self.assertAlmostEqual(told, found, 20)

    def test_an_empty_kitchen_has_no_round(self) -> None:
        costing = Costing(replace(pot(), recipes=()), DAY)
        self.assertEqual(repricing(costing, {}), [])
        self.assertIsNone(effect_of(costing, {}, {}).share_now)


def deal(**more: object) -> Deal:
    parts = [{"recipe": "pot", "serving": "bowl"}, {"line": {"item": "cheese", "quantity": "50 g"}, "price": "1.10"}]
    made: Deal = part_from(Deal, {"id": "lunch", "name": "Lunch", "parts": parts, "price": "4.95", **more})
    return made


class Deals(unittest.TestCase):
    def test_the_price_is_shared_out_by_the_prices_alone(self) -> None:
        found = deal_sold(Costing(pot(), DAY), deal())
        # 4.40 and 1.10 alone; of 4.95, nine tenths of each.
        self.assertEqual([one.gets for one in found.parts], [d("3.96"), d("0.99")])
        self.assertEqual((found.alone, found.saved, found.cost, found.kept), (d("5.50"), d("0.55"), d("1.1"), d("4.5")))
        self.assertEqual((found.contribution, found.contribution_alone), (d("3.4"), d("3.9")))
        self.assertEqual(sum(one.contribution or 0 for one in found.parts), found.contribution)
        self.assertEqual(found.notes, [])

    def test_what_the_house_adds_is_added_once(self) -> None:
        staff = channel(subsidy="1", price_ending=None)
        of = pot({"channels": [{"channel": "away", "price": "4.40"}]}, channels=(staff,))
        found = deal_sold(Costing(of, DAY), deal(channel="away"))
        self.assertEqual(found.kept, d("5.5"))
        self.assertEqual(sum(one.kept or 0 for one in found.parts), found.kept)

    def test_what_is_odd_is_said(self) -> None:
        costing = Costing(pot(), DAY)
        self.assertIn("nobody saves", deal_sold(costing, deal(price="5.50")).notes[0])
        self.assertIn("leaves nothing", deal_sold(costing, deal(price="1.00")).notes[0])
        self.assertIn("no price yet", deal_sold(costing, deal(price=None)).notes[0])
        free = [{"recipe": "pot", "serving": "bowl"}, {"line": {"item": "cheese", "quantity": "50 g"}, "price": "0"}]
        self.assertIn("say what it is sold at alone", " ".join(deal_sold(costing, deal(parts=free)).notes))
        bare = Costing(replace(pot(), offers=()), DAY)
        self.assertIsNone(deal_sold(bare, deal()).contribution)
        self.assertEqual(len(deal_sold(bare, deal()).notes), 2)

    def test_what_cannot_be(self) -> None:
        for parts, words in (
            ([{"recipe": "pot", "serving": "bowl"}], "2 to 12 parts"),
            ([{"recipe": "pot"}] * 2, 'a "serving" of a "recipe"'),
            ([{"line": {"item": "cheese", "quantity": "1 g"}}] * 2, "cost alone"),
            ([{"recipe": "pot", "serving": "bowl", "price": "1"}] * 2, "own price"),
        ):
            with self.subTest(words), self.assertRaisesRegex(PotrelError, words):
                deal(parts=parts)
        with self.assertRaisesRegex(PotrelError, 'no serving has the id "mug"'):
            gone = [{"recipe": "pot", "serving": "mug"}, {"recipe": "pot", "serving": "bowl"}]
            check_kitchen(replace(pot(), deals=(deal(parts=gone),)))
        check_kitchen(replace(pot(), deals=(deal(),)))

    def test_a_serving_of_a_deal_stays(self) -> None:
        with self.assertRaisesRegex(PotrelError, "Lunch"):
            refuse_deals_of([deal()], "pot", ["cup"])
        refuse_deals_of([deal()], "pot", ["bowl"])
