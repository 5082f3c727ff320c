"""From cost to price: methods, commission, tax, endings; and the textbook identities of menu mathematics."""

from __future__ import annotations

import unittest
from decimal import Decimal
from typing import Any

from potrel.core.cost.pricing import net_price
from potrel.core.cost.pricing.card import gross_price, kept_of, share_of
from potrel.core.errors import PotrelError
from potrel.core.kitchen.pricing import PriceEnding, Pricing
from potrel.formats.kitchen_json import part_from
from tests.kitchens import d, kitchen, sheet


def pricing(**terms: str) -> Pricing:
    made: Pricing = part_from(Pricing, terms)
    return made


class Methods(unittest.TestCase):
    def test_each(self) -> None:
        food, labour = d("1.20"), d("0.80")
        for terms, price in (
            ({"method": "food_cost_share", "share": "0.30"}, "4"),
            ({"method": "factor", "factor": "3.5"}, "4.2"),
            ({"method": "contribution", "amount": "2.50"}, "3.7"),
            ({"method": "prime_cost_share", "share": "0.50"}, "4"),
            ({"method": "full_cost", "overhead_share": "0.30", "profit_share": "0.20"}, "4"),
        ):
            with self.subTest(terms["method"]):
                self.assertEqual(net_price(pricing(**terms), food, labour, d(0)), d(price))

    def test_commission_is_taken_off_what_is_paid(self) -> None:
        share = pricing(method="food_cost_share", share="0.30")
        net = net_price(share, d("1.20"), None, d("0.20"))
        self.assertEqual(net, 5)
        self.assertEqual(kept_of(d(5), d(0), d("0.20")), 4)

    def test_labour_is_not_guessed(self) -> None:
        for terms in ({"method": "prime_cost_share", "share": "0.5"},
                      {"method": "full_cost", "overhead_share": "0.3", "profit_share": "0.2"}):  # fmt: skip
            self.assertIsNone(net_price(pricing(**terms), d(1), None, d(0)))

    def test_terms_that_do_not_fit_the_method(self) -> None:
        for terms in (
            {"method": "factor", "share": "0.3"},
            {"method": "food_cost_share"},
            {"method": "full_cost", "overhead_share": "0.6", "profit_share": "0.5"},
            {"method": "food_cost_share", "share": "0"},
        ):
            with self.subTest(terms), self.assertRaises(PotrelError):
                pricing(**terms)

    def test_share_of_nothing(self) -> None:
        self.assertIsNone(share_of(d(1), d(0)))


class Endings(unittest.TestCase):
    def test_step(self) -> None:
        ending = PriceEnding(step=d("0.05"))
        for price, ended in (("2.01", "2.05"), ("2.05", "2.05"), ("2.0500001", "2.10"), ("0", "0")):
            self.assertEqual(gross_price(d(price), d(0), ending), d(ended))

    def test_half_steps(self) -> None:
        self.assertEqual(gross_price(d("4.01"), d(0), PriceEnding(step=d("0.50"))), d("4.50"))

    def test_cents(self) -> None:
        ending = PriceEnding(cents=(d("0.90"), d("0.95")))
        for price, ended in (("2.10", "2.90"), ("2.90", "2.90"), ("2.91", "2.95"), ("2.96", "3.90"), ("0.01", "0.90")):
            self.assertEqual(gross_price(d(price), d(0), ending), d(ended))

    def test_none_leaves_the_price(self) -> None:
        self.assertEqual(gross_price(d("1.914"), d("0.10"), None), d("2.1054"))

    def test_both_or_neither_is_refused(self) -> None:
        cases: list[dict[str, Any]] = [{}, {"step": d(1), "cents": (d("0.9"),)}, {"cents": ()}, {"cents": (d(1),)}]
        for terms in cases:
            with self.subTest(terms), self.assertRaises(PotrelError):
                PriceEnding(**terms)


SOUP: dict[str, Any] = {
    "stages": [{"id": "s", "attended_minutes": "30", "energy_kwh": "2", "lines": [
        {"item": "leek", "quantity": "1 kg"}, {"item": "water", "quantity": "3 l"}]}],
}  # fmt: skip
ITEMS: list[dict[str, Any]] = [{"id": "leek"}, {"id": "water", "density": "1"}]


def serving(settings: dict[str, Any] | None = None, **more: Any) -> Any:
    soup = {**SOUP, "servings": [{"id": "b", "name": "Bowl", "size": "400 ml", **more}]}
    made = kitchen(ITEMS, [soup], {"leek": "4", "water": "0"}, **(settings or {}))
    return sheet(made).servings[0]


class Portions(unittest.TestCase):
    def test_batch_without_serving_loss_over_size(self) -> None:
        found = serving({"serving_loss": d("0.05")})
        self.assertEqual((found.portions, found.whole_portions, found.food_cost), (d("9.5"), 9, d(4) / d("9.5")))

    def test_size_by_mass(self) -> None:
        found = serving(size="500 g")
        self.assertEqual((found.size_g, found.size_ml, found.portions), (500, None, 8))

    def test_extras_are_per_portion(self) -> None:
        extra: Any = [{"item": "leek", "quantity": "10 g"}]
        for role in ("garnish", "accompaniments", "packaging"):
            with self.subTest(role):
                self.assertEqual(serving(**{role: extra}).food_cost, d("0.4") + d("0.04"))

    def test_labour_energy_overhead(self) -> None:
        rates = {"labour_rate_per_hour": d(20), "overhead_rate_per_hour": d(8), "energy_price_per_kwh": d("0.5")}
        found = serving(rates, portioning_seconds="18")
        # 30 minutes over 10 portions, and 18 seconds each.
        self.assertEqual(found.labour_cost, d("1.0") + d("0.1"))
        self.assertEqual(found.overhead_cost, d("0.4") + d("0.04"))
        self.assertEqual(found.energy_cost, d("0.1"))

    def test_rates_that_are_not_given_give_no_figure(self) -> None:
        found = serving()
        self.assertEqual((found.labour_cost, found.overhead_cost, found.energy_cost, found.price), (None, None, None, None))

    def test_a_set_price_decides_the_share(self) -> None:
        found = serving({"tax_rate": d("0.25"), "target_food_cost": d("0.20")}, price="2.00")
        self.assertEqual((found.net_price, found.suggested_price, found.price), (2, d("2.5"), 2))
        self.assertEqual((found.food_cost_share, found.contribution), (d("0.25"), d("1.2")))

    def test_a_price_of_nothing_is_a_price(self) -> None:
        found = serving({"target_food_cost": d("0.20")}, price="0")
        self.assertEqual((found.price, found.food_cost_share, found.contribution), (0, None, d("-0.4")))

    def test_own_seasoning_allowance_wins_even_where_it_is_none(self) -> None:
        soup = {**SOUP, "seasoning_allowance": "0"}
        made = kitchen(ITEMS, [soup, {**SOUP, "id": "other"}], {"leek": "4", "water": "0"}, seasoning_allowance=d("0.5"))
        self.assertEqual(sheet(made).batch.food_cost, 4)
        self.assertEqual(sheet(made, "other").batch.food_cost, 6)

    def test_unusual_sizes_warn(self) -> None:
        for size, warned in (("99 ml", True), ("100 ml", False), ("600 ml", False), ("601 ml", True)):
            soup = {**SOUP, "servings": [{"id": "b", "name": "Bowl", "size": size}]}
            found = sheet(kitchen(ITEMS, [soup], {"leek": "4", "water": "0"}))
            self.assertEqual(bool(found.warnings), warned, size)

    def test_a_price_by_labour_without_a_rate_warns(self) -> None:
        by_labour = {"method": "prime_cost_share", "share": "0.5"}
        soup = {**SOUP, "servings": [{"id": "b", "name": "Bowl", "size": "400 ml", "pricing": by_labour}]}
        found = sheet(kitchen(ITEMS, [soup], {"leek": "4", "water": "0"}))
        self.assertIn("the kitchen has no labour rate", found.warnings[0].message)
        self.assertIsNone(found.servings[0].suggested_price)

    def test_measured_yield_is_used_only_where_chosen(self) -> None:
        measured = {"measured_yield": {"quantity": "3.6 l", "on": "2026-11-01"}}
        servings = {"servings": [{"id": "b", "name": "B", "size": "400 ml"}]}
        recipes = [{**SOUP, **servings, **measured, "use_measured_yield": used, "id": f"pot{used}"} for used in (True, False)]
        made = kitchen(ITEMS, recipes, {"leek": "4", "water": "0"})
        used, not_used = sheet(made, "potTrue"), sheet(made, "potFalse")
        self.assertEqual((used.batch.mass_g, used.batch.computed_g, used.batch.measured_g), (3600, 4000, 3600))
        self.assertEqual((used.servings[0].portions, not_used.servings[0].portions), (9, 10))
        self.assertEqual((used.batch.basis, not_used.batch.basis), ("measured", "computed"))

    def test_a_measured_yield_counts_even_while_a_weight_is_missing(self) -> None:
        lines = [{"item": "leek", "quantity": "1 kg"}, {"item": "water", "quantity": "1 bunch"}]
        soup = {"stages": [{"id": "s", "lines": lines}], "servings": [{"id": "b", "name": "B", "size": "400 ml", "price": "3"}],
                "measured_yield": {"quantity": "3.6 l", "on": "2026-11-01"}, "use_measured_yield": True}  # fmt: skip
        found = sheet(kitchen(ITEMS, [soup], {"leek": "4", "water": "0"}))
        self.assertEqual((found.complete, found.batch.mass_g, found.servings[0].portions), (False, 3600, 9))
        # What is known of its cost is a lower bound, from which nothing is concluded.
        self.assertEqual((found.servings[0].food_cost, found.servings[0].contribution), (d(4) / 9, None))

    def test_energy_of_a_part_by_the_share_of_its_batch(self) -> None:
        stock = {**SOUP, "id": "stock"}
        soup = {"stages": [{"id": "s", "energy_kwh": "1", "lines": [{"recipe": "stock", "quantity": "1 kg"}]}],
                "servings": [{"id": "b", "name": "B", "size": "250 g"}]}  # fmt: skip
        made = kitchen(ITEMS, [soup, stock], {"leek": "4", "water": "0"}, energy_price_per_kwh=d("0.5"))
        # 1 kWh of its own and a quarter of 2, over four portions.
        self.assertEqual(sheet(made).servings[0].energy_cost, d("1.5") * d("0.5") / 4)

    def test_byproducts_count_nothing_where_the_main_product_bears_all(self) -> None:
        taken = [{"name": "fat", "mass": "100 g", "value_per_kg": "10"}]
        soup = {"stages": [{"id": "s", "lines": SOUP["stages"][0]["lines"], "take_out": taken}]}
        costs = [
            sheet(kitchen(ITEMS, [soup], {"leek": "4", "water": "0"}, byproduct_method=method)).batch.food_cost
            for method in ("credit", "main_bears_all")
        ]
        self.assertEqual(costs, [Decimal(3), Decimal(4)])
