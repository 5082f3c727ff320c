"""Where a portion is sold: channels, tax and commission by hand, full cost, the schools, break-even, the ladder."""

from __future__ import annotations

import random
import unittest
from dataclasses import replace
from datetime import date, timedelta
from decimal import Decimal
from typing import Any, ClassVar

from hypothesis import given, settings
from hypothesis import strategies as st

from potrel.core.cost.costing import Costing
from potrel.core.cost.pricing.card import (
    asked_for_of_gross,
    asked_for_of_net,
    ended_by_a_step,
    ended_by_cents,
    kept_less_of_gross,
    kept_less_of_net,
)
from potrel.core.decide.selling import Selling, selling_of
from potrel.core.errors import PotrelError
from potrel.core.kitchen.channels import Channel, ComingPrice, PriceState
from potrel.core.kitchen.integrity import check_kitchen
from potrel.core.kitchen.kitchen import Kitchen
from potrel.core.kitchen.pricing import Overhead, Pricing
from potrel.core.kitchen.servings import Serving
from potrel.core.kitchen.settings import Settings
from potrel.core.tell.explanations import explain
from potrel.formats.kitchen_json import part_from
from tests.examples import examples
from tests.kitchens import DAY, d, demo, kitchen, sheet

_SERVING = {
    "id": "bowl", "name": "Bowl", "size": "500 g", "portioning_seconds": "30",
    "packaging": [{"item": "cup", "quantity": "1 g"}], "price": "4.40", "price_set_on": "2026-11-01",
}  # fmt: skip


def pot(serving: dict[str, Any] | None = None, recipe: dict[str, Any] | None = None, **terms: Any) -> Kitchen:
    """A pot of 10 kg at 1.00 a kilo, 20 bowls of 0.50 and a cup of 0.10; 60 minutes at 20.00 an hour, 2 kWh at 0.50."""
    stage = {"id": "pot", "attended_minutes": "60", "energy_kwh": "2", "lines": [{"item": "soup", "quantity": "10 kg"}]}
    made = {"stages": [stage], "servings": [{**_SERVING, **(serving or {})}], **(recipe or {})}
    rates = {
        "labour_rate_per_hour": d(20),
        "energy_price_per_kwh": d("0.5"),
        "tax_rate": d("0.10"),
        "target_food_cost": d("0.3"),
    }
    items: list[dict[str, Any]] = [{"id": "soup"}, {"id": "cup", "kind": "packaging"}, {"id": "cheese", "allergens": ["milk"]}]
    return kitchen(items, [made], {"soup": "1", "cup": "100", "cheese": "10"}, **{**rates, **terms})


def channel(**more: Any) -> Channel:
    made: Channel = part_from(Channel, {"id": "away", "name": "Away", **more})
    return made


def selling(of: Kitchen, where: str | None = None, typed: str | None = None, on: date = DAY) -> Selling:
    costing = Costing(of, on)
    return selling_of(costing, "pot", costing.of("pot").portions[0], where, None if typed is None else d(typed))


def row(found: Selling, name: str = "in_force") -> Any:
    return next(one for one in found.rows if one.row == name)


class FullCost(unittest.TestCase):
    def test_each_part_with_its_working(self) -> None:
        found = selling(pot(overhead=Overhead(per_attended_hour=d(6))))
        parts = {(one.kind, one.name): one.cost for one in found.full.parts}
        self.assertEqual(parts[("food", "food")], d("0.5"))
        self.assertEqual(parts[("packaging", "packaging")], d("0.1"))
        self.assertEqual(parts[("labour", "stages")], 1)
        # 30 seconds at 20 an hour.
        self.assertAlmostEqual(parts[("labour", "portioning")], d(20) / 120)
        self.assertEqual(parts[("energy", "pot")], d("0.05"))
        # 3.5 minutes at 6 an hour.
        self.assertAlmostEqual(parts[("overhead", "overhead")], d("0.35"))
        self.assertAlmostEqual(found.full.total or 0, sum(parts.values()))
        self.assertEqual(found.full.lacks, [])
        costing = Costing(pot(overhead=Overhead(per_attended_hour=d(6))), DAY)
        for part in found.full.parts:
            with self.subTest(part.figure):
                worked = explain(costing, "pot", part.figure)
                self.assertIsNotNone(worked.value)

    def test_overhead_in_three_ways(self) -> None:
        for overhead, wanted in (
            (Overhead(per_attended_hour=d(6)), d("0.35")),
            (Overhead(per_portion=d("0.4")), d("0.4")),
            # Of 4.40 with a tax of 10%, a quarter.
            (Overhead(share_of_sales=d("0.25")), d(1)),
        ):
            with self.subTest(overhead):
                of = pot(overhead=overhead)
                self.assertAlmostEqual(sheet(of).servings[0].overhead_cost or 0, wanted)
                (part,) = [one for one in selling(of).full.parts if one.kind == "overhead"]
                self.assertAlmostEqual(part.cost, wanted)
        # By sales it follows the price: at 5.50 it is 1.25.
        of = pot(overhead=Overhead(share_of_sales=d("0.25")))
        self.assertAlmostEqual(
            row(selling(of, typed="5.50"), "at-5.50").profit, d(5) - d("0.6") - d("1.25") - d(20) / 120 - d("1.05")
        )

    def test_overhead_is_told_once(self) -> None:
        with self.assertRaisesRegex(PotrelError, "one way"):
            Overhead(per_portion=d(1), share_of_sales=d("0.1"))
        with self.assertRaisesRegex(PotrelError, "one way"):
            Settings(overhead=Overhead(per_portion=d(1)), overhead_rate_per_hour=d(5))

    def test_what_nobody_told_is_no_zero(self) -> None:
        found = selling(pot(labour_rate_per_hour=None, energy_price_per_kwh=None))
        self.assertEqual(len(found.full.lacks), 3)
        self.assertIsNone(row(found).profit)
        found = selling(pot(energy_price_per_kwh=None))
        self.assertTrue(row(found).profit_at_most)

    def test_minutes_by_the_kilo_count_where_the_recipe_says_so(self) -> None:
        stage = {"id": "pot", "attended_minutes": "10",
                 "lines": [{"item": "leek", "quantity": "4 kg", "preparation": ["washed", "sliced"]}]}  # fmt: skip
        steps = (("washed", "0.5", "2"), ("sliced", "0.9", "3"))
        named = [{"id": one, "name": one, "yield": left, "minutes_per_kg": minutes} for one, left, minutes in steps]
        leek = {"id": "leek", "preparations": named}
        document = {"stages": [stage], "servings": [{"id": "bowl", "name": "Bowl", "size": "300 g"}]}
        minutes = []
        for prep in (False, True):
            of = kitchen([leek], [{**document, "prep_minutes": prep}], {"leek": "1"}, labour_rate_per_hour=d(60))
            minutes.append(sheet(of).batch.attended_minutes)
            parts = {one.name: one.cost for one in selling(of).full.parts if one.kind == "labour"}
            if prep:
                # 4 kg washed at 2, 2 kg sliced at 3 minutes a kilo: 14 minutes in 6 portions of 300 g.
                self.assertAlmostEqual(parts["preparing, by the kilo"], d(14) / 6)
            self.assertAlmostEqual(parts["stages"], d(10) / 6)
        self.assertEqual(minutes, [10, 24])


class Schools(unittest.TestCase):
    def test_each_uses_just_what_it_should(self) -> None:
        terms = (
            Pricing("factor", factor=d(4)), Pricing("contribution", amount=d(2)), Pricing("prime_cost_share", share=d("0.5")),
            Pricing("full_cost", overhead_share=d("0.2"), profit_share=d("0.1")),
        )  # fmt: skip
        found = selling(pot(pricings=terms))
        # Food and packaging 0.60, labour 1 + 1/6; all of it with a tax of 10%.
        food, labour = d("0.6"), 1 + d(1) / 6
        for name, keeps in (
            ("food_cost_share", food / d("0.3")),
            ("factor", food * 4),
            ("contribution", food + 2),
            ("prime_cost_share", (food + labour) / d("0.5")),
            ("full_cost", (food + labour) / d("0.7")),
        ):
            with self.subTest(name):
                one = row(found, name)
                self.assertAlmostEqual(one.price, keeps * d("1.1"))
                self.assertAlmostEqual(one.kept, keeps)
                self.assertAlmostEqual(one.food_cost_share + one.gross_profit_share, 1)
                self.assertAlmostEqual(one.contribution, keeps - food)
                # 3 minutes of the hour and half a minute of portioning.
                self.assertAlmostEqual(one.per_minute, (keeps - food) / d("3.5"))
        self.assertEqual(found.decides, "food_cost_share")

    def test_whose_terms_count(self) -> None:
        kitchens = (Pricing("factor", factor=d(3)),)
        own, of_recipe = {"method": "factor", "factor": "5"}, [{"method": "factor", "factor": "4"}]
        for serving, recipe, whose, factor in (
            ({}, {}, "kitchen", 3), ({}, {"pricings": of_recipe}, "recipe", 4),
            ({"pricing": own}, {"pricings": of_recipe}, "serving", 5),
        ):  # fmt: skip
            with self.subTest(whose):
                one = row(selling(pot(serving, recipe, pricings=kitchens)), "factor")
                self.assertEqual((one.whose, one.pricing.factor), (whose, factor))
        self.assertEqual(selling(pot({"pricing": own}, pricings=kitchens)).decides, "factor")

    def test_a_school_without_terms_or_labour_says_so(self) -> None:
        found = selling(pot(labour_rate_per_hour=None, pricings=(Pricing("prime_cost_share", share=d("0.6")),)))
        self.assertIn("no terms", row(found, "contribution").lack or "")
        self.assertIn("labour rate", row(found, "prime_cost_share").lack or "")

    def test_a_method_has_one_set_of_terms(self) -> None:
        with self.assertRaisesRegex(PotrelError, "twice"):
            Settings(pricings=(Pricing("factor", factor=d(3)), Pricing("factor", factor=d(4))))

    def test_the_cost_sheet_tells_them(self) -> None:
        of = pot({"pricing": {"method": "contribution", "amount": "2"}}, pricings=(Pricing("factor", factor=d(4)),))
        methods = sheet(of).servings[0].methods
        self.assertEqual([one.method for one in methods], ["factor", "contribution"])
        self.assertEqual((methods[0].net_price, methods[1].net_price), (d("2.4"), d("2.6")))
        self.assertEqual(methods[0].price, d("2.64"))

    def test_of_an_incomplete_pot_nothing_is_concluded(self) -> None:
        of = replace(pot(), offers=())
        found = selling(of)
        self.assertIsNotNone(found.lacking)
        self.assertEqual([one.contribution for one in found.rows if one.row != "in_force"], [None] * 5)
        self.assertEqual((found.curve, found.break_even.week), ([], None))


class Channels(unittest.TestCase):
    def test_commission_of_net_and_of_gross_by_hand(self) -> None:
        # 5.00 on the card with 10% of tax: 4.5454… net. A fifth of that is 0.9090…, a fifth of the gross price is 1.00.
        for of, kept in (("net", d(5) / d("1.1") * d("0.8")), ("gross", d(5) / d("1.1") - 1)):
            with self.subTest(of):
                here = channel(commission="0.2", commission_of=of, price_ending=None)
                found = selling(pot(channels=(here,)), "away", "5.00")
                self.assertAlmostEqual(row(found, "at-5.00").kept, kept)
                # What its school asks for leaves just what has to be kept: 0.60 over 30%.
                self.assertAlmostEqual(row(found, "food_cost_share").kept, 2)
                self.assertAlmostEqual(row(found, "food_cost_share").food_cost_share, d("0.3"))

    def test_own_tax_ending_packaging_subsidy_and_deposit(self) -> None:
        cups = [{"item": "cup", "quantity": "2 g"}]
        here = channel(tax_rate="0.07", packaging=cups, price_ending={"cents": ["0.90"]}, subsidy="0.50", deposit="1.00")
        found = selling(pot(channels=(here,)), "away")
        one = row(found, "food_cost_share")
        # 0.50 of food and 0.30 of cups over 30%, less the half that the house adds, with 7%: 2.318…, up to 2.90.
        self.assertEqual(one.price, d("2.90"))
        self.assertAlmostEqual(one.kept, d("2.90") / d("1.07") + d("0.5"))
        self.assertAlmostEqual(one.contribution, one.kept - d("0.8"))
        self.assertEqual(found.deposit, 1)

    def test_a_subsidy_that_pays_for_all_makes_it_free(self) -> None:
        found = selling(pot(channels=(channel(subsidy="9"),)), "away")
        self.assertEqual(row(found, "food_cost_share").price, 0)

    def test_what_cannot_be(self) -> None:
        with self.assertRaisesRegex(PotrelError, "taken of"):
            channel(commission="0.2")
        # With 10% of tax, 0.91 of the gross price is more than all of the net one.
        with self.assertRaisesRegex(PotrelError, "leaves nothing.*less than 0.9091"):
            Settings(tax_rate=d("0.1"), channels=(channel(commission="0.91", commission_of="gross"),))
        Settings(tax_rate=d("0.1"), channels=(channel(commission="0.9", commission_of="gross"),))
        with self.assertRaisesRegex(PotrelError, "two of the same channel"):
            Settings(channels=(channel(), channel()))
        with self.assertRaisesRegex(PotrelError, 'no channel has the id "away"'):
            check_kitchen(pot({"channels": [{"channel": "away"}]}))
        with self.assertRaisesRegex(PotrelError, 'no item has the id "box"'):
            check_kitchen(pot(channels=(channel(packaging=[{"item": "box", "quantity": "1 each"}]),)))

    def test_the_cost_sheet_tells_the_channels_of_a_serving(self) -> None:
        here = channel(commission="0.25", commission_of="net", price_ending=None)
        (one,) = sheet(pot({"channels": [{"channel": "away", "price": "5.50"}]}, channels=(here,))).servings[0].channels
        self.assertEqual((one.channel, one.price, one.net_price), ("away", d("5.50"), d("3.75")))
        self.assertEqual((one.food_cost_share, one.contribution), (d("0.16"), d("3.15")))

    @settings(max_examples=examples(300), deadline=None)
    @given(
        keep=st.decimals("0.01", "500", places=4), tax=st.decimals("0", "0.3", places=3), cut=st.decimals("0", "0.7", places=3),
        subsidy=st.decimals("0", "5", places=2),
    )  # fmt: skip
    def test_what_is_asked_for_leaves_what_is_to_be_kept(
        self, keep: Decimal, tax: Decimal, cut: Decimal, subsidy: Decimal
    ) -> None:
        for asked, kept in ((asked_for_of_net, kept_less_of_net), (asked_for_of_gross, kept_less_of_gross)):
            price = asked(keep, tax, cut, subsidy)
            self.assertGreaterEqual(price, 0)
            self.assertAlmostEqual(kept(price, tax, cut, subsidy), max(keep, subsidy), 15)

    def test_endings_over_random_prices_are_exact(self) -> None:
        drawn = random.Random(11)
        steps = [d("0.05"), d("0.10"), d("0.25"), d("0.50"), d(1)]
        for _ in range(100_000):
            price = Decimal(drawn.randint(1, 10**7)) / 10**4
            step = drawn.choice(steps)
            ended = ended_by_a_step(price, step)
            # In whole ten-thousandths, where nothing is rounded.
            whole, of = int(price * 10**4), int(step * 10**4)
            self.assertEqual(int(ended * 10**4), -(-whole // of) * of)
        for _ in range(20_000):
            price = Decimal(drawn.randint(1, 10**7)) / 10**4
            ended = ended_by_cents(price, [d("0.50"), d("0.90")])
            wanted = min(euro * 100 + cents for euro in (int(price), int(price) + 1) for cents in (50, 90)
                         if (euro * 100 + cents) * 100 >= price * 10**4)  # fmt: skip
            self.assertEqual(ended, Decimal(wanted) / 100)


class BreakEven(unittest.TestCase):
    def test_portions_of_a_week_a_day_and_a_batch(self) -> None:
        # 4.40 leaves 4.00 net, 3.40 after food and cup.
        found = selling(pot(fixed_cost_per_week=d(1000), open_days_per_week=d(5))).break_even
        self.assertEqual((found.week, found.day), (295, 59))
        self.assertTrue(295 * d("3.4") >= 1000 > 294 * d("3.4"))
        # A batch costs 10 of soup, 20 of labour, 1 of energy; each bowl brings 4.00 less its cup.
        self.assertEqual((found.fixed_batch, found.batch, found.batch_of), (d(31), 8, 20))
        # 200 a day over 10 and over 40 bowls, and 0.60 of food, with the tax.
        needed = {one.portions: one.price for one in found.needed}
        self.assertAlmostEqual(needed[10], (20 + d("0.6")) * d("1.1"))
        self.assertAlmostEqual(needed[40], (5 + d("0.6")) * d("1.1"))

    def test_the_price_needed_at_a_number_of_ones_own(self) -> None:
        costing = Costing(pot(fixed_cost_per_week=d(1000)), DAY)
        found = selling_of(costing, "pot", costing.of("pot").portions[0], None, a_day=25).break_even
        needed = {one.portions: one.price for one in found.needed}
        self.assertEqual(needed[25], (8 + d("0.6")) * d("1.1"))

    def test_exactly_enough_is_enough(self) -> None:
        self.assertEqual(selling(pot(fixed_cost_per_week=d(340))).break_even.week, 100)

    def test_what_leaves_nothing_never_pays(self) -> None:
        found = selling(pot({"price": "0.66"}, fixed_cost_per_week=d(100))).break_even
        self.assertEqual((found.week, found.day), (None, None))
        self.assertIn("leaves nothing", found.lack or "")
        self.assertIn("say what a week costs", selling(pot()).break_even.lack or "")


class Curve(unittest.TestCase):
    def test_it_holds_all_prices_and_its_points_are_right(self) -> None:
        found = selling(pot())
        prices = [one.price for one in found.curve]
        self.assertTrue(prices[0] < d("2.2") and prices[-1] > d("4.4"))
        for one in found.curve:
            self.assertAlmostEqual(one.contribution, one.price / d("1.1") - d("0.6"))
            self.assertAlmostEqual(one.food_cost_share or 0, d("0.6") / (one.price / d("1.1")))


class Coming(unittest.TestCase):
    serving: ClassVar[dict[str, Any]] = {"coming": {"price": "5.50", "on": "2026-12-01"}}

    def test_it_holds_from_its_day(self) -> None:
        for on, price, set_on in (
            (date(2026, 11, 30), "4.40", date(2026, 11, 1)),
            (date(2026, 12, 1), "5.50", date(2026, 12, 1)),
        ):
            found = selling(pot(self.serving), on=on)
            self.assertEqual((row(found).price, found.price_set_on), (d(price), set_on))
            self.assertEqual(sheet(pot(self.serving), on=on).servings[0].price, d(price))
        self.assertIsNotNone(selling(pot(self.serving)).coming)
        self.assertIsNone(selling(pot(self.serving), on=date(2026, 12, 1)).coming)

    def test_settled_it_is_the_set_one(self) -> None:
        serving = pot(self.serving).recipes[0].servings[0]
        self.assertEqual(serving.settled(date(2026, 11, 30)), serving)
        self.assertEqual(serving.settled(date(2027, 1, 5)).state(), PriceState(d("5.50"), date(2026, 12, 1)))
        away = serving.with_state("away", PriceState(d(6), None, ComingPrice(d(7), DAY)))
        self.assertEqual(away.settled(DAY).state("away"), PriceState(d(7), DAY))
        self.assertEqual(away.set_price(DAY - timedelta(days=1), "away").price, 6)
        self.assertEqual([one.channel for one in away.sold_in(["staff", "away"]).channels], ["staff", "away"])

    def test_what_was_set_since_holds_over_what_came(self) -> None:
        # As on a page that was open over night: the set one is changed, and the one that came is still told beside it.
        came = ComingPrice(d("5.50"), date(2026, 12, 1))
        for set_on, price in ((date(2026, 11, 30), "5.50"), (date(2026, 12, 1), "4.80"), (date(2026, 12, 3), "4.80")):
            state = PriceState(d("4.80"), set_on, came)
            self.assertEqual(state.in_force(date(2026, 12, 5)).price, d(price))
            self.assertEqual(state.settled(date(2026, 12, 5)).price, d(price))
            self.assertIsNone(state.settled(date(2026, 12, 5)).coming)
            self.assertEqual(state.in_force(date(2026, 11, 30)).price, d("4.80"))

    def test_a_date_needs_a_price(self) -> None:
        with self.assertRaisesRegex(PotrelError, "a date without a price"):
            channels = [{"channel": "x", "price_set_on": "2026-11-01"}]
            part_from(Serving, {"id": "b", "name": "B", "size": "1 l", "channels": channels})


class Ladder(unittest.TestCase):
    def test_what_pays_and_what_is_given(self) -> None:
        add_ons = [{"item": "cheese", "quantity": "20 g", "surcharge": "1.10", "taken_by": "0.25"},
                   {"item": "cheese", "quantity": "50 g", "surcharge": "0.33"}]  # fmt: skip
        serving = {"accompaniments": [{"item": "cheese", "quantity": "10 g", "taken_by": "0.5"}], "add_ons": add_ons}
        bowl, given, pays, loses = selling(pot(serving)).ladder
        self.assertEqual((bowl.kind, bowl.cost), ("serving", d("0.65")))
        self.assertEqual((given.kind, given.cost, given.expected), ("included", d("0.1"), d("-0.05")))
        # 1.10 with its tax leaves 1.00 less 0.20; a quarter of the guests take it.
        self.assertEqual((pays.contribution, pays.expected, pays.brings), (d("0.8"), d("0.2"), ["milk"]))
        self.assertAlmostEqual(loses.contribution or 0, d("0.3") - d("0.5"))
        # No part of what the bowl costs, but no stranger to the pot either.
        self.assertIn("cheese", pot(serving).recipes[0].uses_items())

    def test_what_nobody_said_of_an_add_on_is_asked(self) -> None:
        add_on = {"item": "cheese", "quantity": "20 g"}
        rung = selling(pot({"add_ons": [add_on]})).ladder[-1]
        self.assertEqual((rung.price, rung.contribution, rung.cost), (None, None, d("0.2")))
        self.assertIn("what a guest pays", rung.lack or "")
        # Nobody read its label: what it is known to bring may not be all.
        self.assertTrue(rung.unread)

    def test_what_was_kept_may_not_suffice(self) -> None:
        stage = {"id": "pot", "lines": [{"item": "soup", "quantity": "10 kg"}],
                 "take_out": [{"name": "meat", "mass": "500 g"}]}  # fmt: skip
        add_on = {"recipe": "pot", "byproduct": "meat", "quantity": "100 g", "surcharge": "1", "taken_by": "0.5"}
        found = selling(pot({"add_ons": [add_on]}, {"stages": [stage]})).ladder[-1]
        # 19 bowls; half of the guests want 100 g of 500.
        self.assertIn("only 5 of 9", found.short or "")
        garnish = {"recipe": "pot", "byproduct": "meat", "quantity": "40 g"}
        given = selling(pot({"garnish": [garnish]}, {"stages": [stage]})).ladder[1]
        # 500 g over 19 bowls.
        self.assertIn("only 26.3 g are kept for each, of 40", given.short or "")
        add_on["taken_by"] = "0.2"
        self.assertIsNone(selling(pot({"add_ons": [add_on]}, {"stages": [stage]})).ladder[-1].short)


class Demo(unittest.TestCase):
    def test_every_row_of_every_serving_has_a_working_that_comes_to_it(self) -> None:
        costing = Costing(demo(), DAY)
        told = 0
        for one in costing.all():
            for portion in one.portions:
                for where in (None, "delivery"):
                    found = selling_of(costing, one.recipe.id, portion, where, None)
                    for each in found.rows:
                        path = f"serving/{portion.serving.id}/in/{where or '-'}/{each.row}"
                        for name in ("price", "kept", "food_cost_share", "contribution", "per_minute", "profit"):
                            self.assertEqual(explain(costing, one.recipe.id, f"{path}/{name}").value, getattr(each, name))
                            told += 1
        self.assertGreater(told, 1500)
