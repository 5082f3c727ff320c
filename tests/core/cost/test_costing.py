"""Recipes in recipes, drafts, price changes carried by needs, drift split by purchase, the board."""

from __future__ import annotations

import random
import unittest
from dataclasses import replace
from datetime import date, timedelta
from decimal import Decimal
from typing import Any

from potrel.core.cost.costing import Costing
from potrel.core.cost.drift import drift_of
from potrel.core.cost.effects import reached_by
from potrel.core.errors import RecipeLoop
from potrel.core.kitchen.kitchen import Kitchen
from potrel.core.kitchen.order import order_of
from potrel.core.kitchen.quantities import parse_pack, parse_quantity
from potrel.core.kitchen.supply import Offer
from potrel.core.rooms.board import board_of
from potrel.demo import demo_kitchen
from tests.kitchens import DAY, KILO, d, demo, kitchen, recipe, sheet, with_recipe

ITEMS: list[dict[str, Any]] = [{"id": "leek"}, {"id": "nut"}, {"id": "water", "density": "1"}]
PRICES = {"leek": "2", "water": "0", "nut": "10"}
STOCK = {"id": "stock", "name": "Stock", "stages": [{"id": "s", "attended_minutes": "60", "lines": [
    {"item": "leek", "quantity": "1 kg"}, {"item": "water", "quantity": "9 l"}]}]}  # fmt: skip
SOUP = {"id": "soup", "name": "Soup", "stages": [{"id": "s", "attended_minutes": "10", "lines": [
    {"recipe": "stock", "quantity": "5 l"}]}], "servings": [
    {"id": "b", "name": "Bowl", "size": "250 ml", "garnish": [{"item": "nut", "quantity": "5 g"}], "price": "1.50",
     "price_set_on": "2026-11-05"}]}  # fmt: skip


def offer(item: str, price: str, on: str, **more: Any) -> Offer:
    return Offer(item, "shop", KILO, Decimal(price), date.fromisoformat(on), **more)


class RecipesInRecipes(unittest.TestCase):
    def setUp(self) -> None:
        self.kitchen = kitchen(ITEMS, [SOUP, STOCK], PRICES, seasoning_allowance=d("0.10"))

    def test_a_part_carries_its_cost_before_the_allowance(self) -> None:
        found = sheet(self.kitchen, "soup")
        self.assertEqual(found.lines[0].cost, 1)
        self.assertEqual(found.batch.food_cost, d("1.10"))

    def test_attended_minutes_by_the_share_of_the_batch(self) -> None:
        self.assertEqual(sheet(self.kitchen, "soup").batch.attended_minutes, 40)
        self.assertEqual(Costing(self.kitchen, DAY).of("soup").needs.minutes, 40)

    def test_needs_go_through_to_what_is_bought(self) -> None:
        needs = Costing(self.kitchen, DAY).of("soup").needs
        self.assertEqual(needs.items, {"leek": 500, "water": 4500})

    def test_a_part_with_a_measured_yield_costs_by_that(self) -> None:
        measured = {"measured_yield": {"quantity": "8 l", "on": "2026-11-01"}, "use_measured_yield": True}
        found = sheet(with_recipe(self.kitchen, recipe({**STOCK, **measured})), "soup")
        self.assertEqual(found.lines[0].cost, d("1.25"))

    def test_a_loop_names_itself_in_full(self) -> None:
        looped = recipe({**STOCK, "stages": [{"id": "s", "lines": [{"recipe": "soup", "quantity": "1 l"}]}]})
        with self.assertRaises(RecipeLoop) as caught:
            Costing(self.kitchen, DAY).replacing(looped)
        self.assertEqual(caught.exception.path, ("stock", "soup", "stock"))
        self.assertIn("stock -> soup -> stock", str(caught.exception))

    def test_a_part_that_the_kitchen_lacks_is_said_and_nothing_else_falls(self) -> None:
        self.assertEqual(sheet(replace(self.kitchen, recipes=self.kitchen.recipes[1:]), "stock").batch.food_cost, d("2.20"))
        found = sheet(replace(self.kitchen, recipes=self.kitchen.recipes[:1]), "soup")
        self.assertEqual([str(one.message) for one in found.problems], ['"stock" is no recipe: choose one'])
        self.assertIsNone(found.batch.cost_per_kg)

    def test_a_long_chain_needs_no_recursion(self) -> None:
        chain = [
            {"id": f"r{n}", "name": f"R{n}", "stages": [{"id": "s", "lines": [
                {"recipe": f"r{n - 1}", "quantity": "1 kg"} if n else {"item": "leek", "quantity": "1 kg"}]}]}
            for n in range(3000)
        ]  # fmt: skip
        self.assertEqual(sheet(kitchen(ITEMS, chain, PRICES), "r2999").batch.food_cost, 2)

    def test_order_puts_parts_before_what_uses_them(self) -> None:
        uses = {"a": {"b", "c"}, "b": {"c"}, "c": set(), "d": {"a"}}
        order = order_of(["d"], lambda one: uses[one])
        self.assertEqual(order, ["c", "b", "a", "d"])


class Drafts(unittest.TestCase):
    def test_replacing_costs_the_draft_and_what_is_above_it(self) -> None:
        costing = Costing(kitchen(ITEMS, [SOUP, STOCK], PRICES), DAY)
        before = costing.of("soup").cost
        more = recipe({**STOCK, "stages": [{"id": "s", "lines": [
            {"item": "leek", "quantity": "2 kg"}, {"item": "water", "quantity": "8 l"}]}]})  # fmt: skip
        after = costing.replacing(more)
        self.assertEqual((before, after.of("soup").cost, costing.of("soup").cost), (1, 2, 1))


class PricesThatMove(unittest.TestCase):
    def setUp(self) -> None:
        self.costing = Costing(demo(), DAY)
        self.known = list(self.costing.all())

    def fresh(self, offers: list[Offer]) -> Costing:
        whole = self.costing.view.kitchen
        return Costing(replace(whole, offers=(*whole.offers, *offers)), DAY)

    def assertAlike(self, carried: Costing, fresh: Costing) -> None:
        for one in fresh.view.recipes:
            self.assertAlmostEqual(carried.of(one).cost, fresh.of(one).cost, 20)
            self.assertEqual(carried.of(one).problems, fresh.of(one).problems)
            self.assertAlmostEqual(carried.of(one).at_old_prices, fresh.of(one).at_old_prices, 20)
            sure, again = carried.of(one).confidence, fresh.of(one).confidence
            self.assertAlmostEqual(sure.old_price_share, again.old_price_share, 20)
            self.assertEqual(replace(sure, old_price_share=d(0)), replace(again, old_price_share=d(0)))
            for a, b in zip(carried.of(one).portions, fresh.of(one).portions, strict=True):
                self.assertEqual(a.food_cost is None, b.food_cost is None)
                if a.food_cost is not None and b.food_cost is not None:
                    self.assertAlmostEqual(a.food_cost, b.food_cost, 20)

    def test_a_new_price_is_carried_as_if_all_were_costed_anew(self) -> None:
        for item, price, pack in (("onion", "40", "20 kg"), ("beef-bones", "31", "10 kg"), ("water", "9", "1000 l"),
                                  ("cup-12oz", "80", "500 each"), ("bread", "31", "10 x 800 g")):  # fmt: skip
            with self.subTest(item):
                supplier = self.costing.view.items[item].preferred_supplier or "saltmarsh"
                new = Offer(item, supplier, parse_pack(pack), Decimal(price), DAY)
                self.assertAlike(self.costing.with_offers([new]), self.fresh([new]))

    def test_many_prices_one_after_the_other_leave_no_more_than_dust(self) -> None:
        dice, carried, offers = random.Random(8), self.costing, []
        items = [item.id for item in carried.view.kitchen.items if carried.view.price(item.id) is not None]
        for turn in range(300):
            before = carried.view.price(items[turn % len(items)])
            assert before is not None
            on = DAY - timedelta(days=dice.choice([0, 0, 200]))
            offers.append(replace(before.offer, id=None, corrects=None, price=Decimal(dice.randint(1, 99999)) / 700, on=on))
            carried = carried.with_offers(offers[-1:])
        self.assertAlike(carried, self.fresh(offers))

    def test_a_first_price_completes_a_recipe(self) -> None:
        made = kitchen(ITEMS, [SOUP, STOCK], {"leek": "2", "water": "0"})
        costing = Costing(made, DAY)
        self.assertEqual(costing.of("soup").problems[0].code, "missing_price")
        after = costing.with_offers([offer("nut", "10", "2026-11-20")])
        self.assertEqual(after.of("soup").problems, ())
        self.assertEqual(after.of("soup").portions[0].food_cost, d("0.10"))

    def test_a_new_drained_weight_is_not_missed(self) -> None:
        new = Offer(
            "chickpea-can", "ropewalk", parse_pack("6 x 2.5 kg"), Decimal("18.90"), DAY, drained=parse_quantity("1.2 kg")
        )
        self.assertAlike(self.costing.with_offers([new]), self.fresh([new]))
        self.assertEqual(self.costing.with_offers([new]).of("minestrone").balance.lines[5].ep, 720)

    def test_reach_carries_a_change_to_every_portion(self) -> None:
        new = Offer("onion", "saltmarsh", parse_pack("20 kg"), Decimal("40"), DAY)
        fresh = self.fresh([new])
        change = (fresh.view.per_gram("onion") or d(0)) - (self.costing.view.per_gram("onion") or d(0))
        reached = {(recipe, portion.serving.id): mass for recipe, portion, mass in reached_by(self.costing, "onion")}
        self.assertIn(("beetroot-shin", "bowl"), reached)
        for one in self.known:
            for was, now in zip(one.portions, fresh.of(one.recipe.id).portions, strict=True):
                if was.food_cost is not None and now.food_cost is not None:
                    need = reached.get((one.recipe.id, was.serving.id), d(0))
                    self.assertAlmostEqual(was.food_cost + need * change, now.food_cost, 20)


class DriftOfAPortion(unittest.TestCase):
    def drift(self, *offers: Offer) -> Any:
        made = kitchen(ITEMS, [SOUP, STOCK], PRICES, seasoning_allowance=d("0.10"))
        costing = Costing(replace(made, offers=(*made.offers, *offers)), DAY)
        return self.of(costing)

    def of(self, costing: Costing) -> Any:
        soup = costing.of("soup")
        return drift_of(soup, soup.portions[0], costing)

    def test_none_where_nothing_moved(self) -> None:
        found = self.drift()
        self.assertEqual((found.change, found.moved), (0, []))

    def test_split_by_the_purchase_that_caused_it(self) -> None:
        found = self.drift(offer("leek", "4", "2026-11-10"), offer("nut", "8", "2026-11-11"))
        # 500 g leek in 20 portions with the allowance: 27.5 g at 2 more a kilo; 5 g nuts at 2 less.
        self.assertEqual([(m.item, m.change) for m in found.moved], [("leek", d("0.055")), ("nut", d("-0.01"))])
        self.assertEqual(found.change, d("0.045"))
        self.assertEqual((found.moved[0].was_per_kg, found.moved[0].now_per_kg), (2, 4))

    def test_of_something_both_in_the_pot_and_beside_it(self) -> None:
        soup = {**SOUP, "servings": [{**SOUP["servings"][0], "garnish": [{"item": "leek", "quantity": "10 g"}]}]}  # type: ignore[dict-item]
        made = kitchen(ITEMS, [soup, STOCK], PRICES)
        costing = Costing(replace(made, offers=(*made.offers, offer("leek", "4", "2026-11-10"))), DAY)
        found = self.of(costing)
        # 25 g in the pot and 10 g beside it, at 2 a kilo more.
        self.assertEqual([(m.item, m.change) for m in found.moved], [("leek", d("0.07"))])
        ((_, _, need),) = [one for one in reached_by(costing, "leek") if one[0] == "soup"]
        self.assertEqual(need, 35)

    def test_an_offer_that_ended_since_is_not_missed(self) -> None:
        # A cheap week before and after the price was set on the 5th: today the old price counts again.
        found = self.drift(offer("leek", "1", "2026-11-03", until=date(2026, 11, 12)))
        self.assertEqual([(m.item, m.change) for m in found.moved], [("leek", d("0.0275"))])

    def test_a_move_before_the_price_was_set_does_not_count(self) -> None:
        self.assertEqual(self.drift(offer("leek", "4", "2026-11-03")).change, 0)

    def test_no_figure_where_something_had_no_price_then(self) -> None:
        soup = {**SOUP, "servings": [{**SOUP["servings"][0], "price_set_on": "2026-10-01"}]}  # type: ignore[dict-item]
        made = kitchen(ITEMS, [soup, STOCK], PRICES)
        found = self.of(Costing(made, DAY))
        assert found is not None
        self.assertEqual((found.change, found.unpriced), (None, ["leek", "nut", "water"]))

    def test_parts_of_the_demo_add_up_to_cost_now_less_cost_then(self) -> None:
        whole = demo()
        now = Costing(whole, DAY)
        seen = 0
        for one in whole.recipes:
            for portion in now.of(one.id).portions:
                drift = drift_of(now.of(one.id), portion, now)
                if drift is None or drift.change is None:
                    continue
                then = Costing(whole, drift.since)
                was = then.of(one.id).portion(portion.serving.id)
                assert portion.food_cost is not None and was is not None and was.food_cost is not None
                self.assertAlmostEqual(drift.change, portion.food_cost - was.food_cost, 18)
                self.assertAlmostEqual(sum((part.change for part in drift.moved), d(0)), drift.change, 24)
                seen += 1
        self.assertGreater(seen, 15)


class TheBoard(unittest.TestCase):
    def board(self, price: str | None, target: str = "0.30", **more: Any) -> Any:
        serving = {**SOUP["servings"][0], "price": price, **more}  # type: ignore[dict-item]
        if price is None:
            del serving["price_set_on"]
        soup = {**SOUP, "servings": [serving]}
        return board_of(Costing(kitchen(ITEMS, [soup, STOCK], PRICES, target_food_cost=d(target)), DAY))

    def test_a_base_is_not_on_sale(self) -> None:
        self.assertEqual([row.recipe for row in self.board("1.50").rows], ["soup"])

    def test_marks(self) -> None:
        # A portion costs 0.10.
        for price, marks in (("0.30", ["over_target"]), ("0.40", []), ("3.00", ["far_under_target"]), (None, ["no_set_price"])):
            with self.subTest(price):
                board = self.board(price)
                self.assertEqual(board.rows[0].marks, marks)
                self.assertEqual(board.need_a_price, int("target" in " ".join(marks)))

    def test_cost_moved_is_told_of_the_cost_when_the_price_was_set(self) -> None:
        # 25 g of leek at 2.00 were 0.05 and the nuts 0.05; at 2.20 they are 0.055: a twentieth of 0.10, and no more.
        for now, marked in (("2.20", False), ("2.21", True), ("1.80", False), ("1.79", True)):
            made = kitchen(ITEMS, [SOUP, STOCK], PRICES)
            board = board_of(Costing(replace(made, offers=(*made.offers, offer("leek", now, "2026-11-20"))), DAY))
            self.assertEqual("cost_moved" in board.rows[0].marks, marked, now)

    def test_the_demo_shows_what_a_cook_would_meet(self) -> None:
        board = board_of(Costing(demo(), DAY))
        marked = {mark: {row.recipe for row in board.rows if mark in row.marks} for row in board.rows for mark in row.marks}
        self.assertIn("courgette-dill", marked["over_target"])
        self.assertEqual(marked["far_under_target"], {"curried-parsnip"})
        self.assertEqual(marked["incomplete"], {"minestrone"})
        self.assertIn("beetroot-shin", marked["cost_moved"])

    def test_old_prices(self) -> None:
        found = Costing(kitchen(ITEMS, [SOUP, STOCK], PRICES, old_price_days=d(10)), DAY).of("soup").confidence
        self.assertEqual(found.old_price_share, 1)
        # The price of the first of November is 23 days old on the 24th: still new where 23 days are.
        found = Costing(kitchen(ITEMS, [SOUP, STOCK], PRICES, old_price_days=d(23)), DAY).of("soup").confidence
        self.assertEqual(found.old_price_share, 0)
        found = Costing(kitchen(ITEMS, [SOUP, STOCK], PRICES, old_price_days=d(22)), DAY).of("soup").confidence
        self.assertEqual(found.old_price_share, 1)
        found = Costing(kitchen(ITEMS, [SOUP, STOCK], PRICES), DAY).of("soup").confidence
        self.assertEqual(found.old_price_share, 0)


class TheDemo(unittest.TestCase):
    """What the demo kitchen promises to show."""

    def setUp(self) -> None:
        self.kitchen: Kitchen = demo()
        self.costing = Costing(self.kitchen, DAY)

    def test_size(self) -> None:
        self.assertGreaterEqual(len(self.kitchen.items), 45)
        self.assertEqual(len(self.kitchen.vessels), 8)
        self.assertGreaterEqual(len(self.kitchen.recipes), 14)
        used = {part for one in self.kitchen.recipes for part in one.uses()}
        self.assertLessEqual({"brown-stock", "white-stock", "fish-stock", "vegetable-stock"}, used)

    def test_every_rule_is_shown(self) -> None:
        stages = [stage for one in self.kitchen.recipes for stage in one.stages]
        self.assertEqual({stage.change.rule for stage in stages}, {"keep", "yield", "evaporate", "reduce", "top_up"})
        lines = [line for one in self.kitchen.recipes for line in one.all_lines()]
        self.assertEqual({line.basis for line in lines}, {"AP", "EP"})
        self.assertTrue(any(len(line.preparations) > 1 for line in lines))
        self.assertTrue(any(stage.residue for stage in stages))
        self.assertTrue(any(inflow.share < 1 for stage in stages for inflow in stage.from_))
        self.assertTrue(any(out.of for stage in stages for out in stage.take_out))
        self.assertTrue(any(out.mass for stage in stages for out in stage.take_out))
        self.assertTrue(any(one.use_measured_yield for one in self.kitchen.recipes))

    def test_shares_are_those_of_a_canteen(self) -> None:
        shares = [row.food_cost_share for row in board_of(self.costing).rows if row.food_cost_share is not None]
        usual = [share for share in shares if d("0.18") <= share <= d("0.40")]
        self.assertGreaterEqual(len(usual), len(shares) - 2)

    def test_dates_follow_the_day_it_is_loaded(self) -> None:
        later = demo_kitchen(date(2027, 3, 1))
        self.assertEqual(max(one.on for one in later.offers), date(2027, 3, 1))
        moved = Costing(later, date(2027, 3, 1))
        self.assertEqual(moved.of("leek-potato").cost, self.costing.of("leek-potato").cost)
