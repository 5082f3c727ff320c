"""One line in the place of another: the same thickness, the same strength, stock made or bought."""

from __future__ import annotations

import unittest
from decimal import Decimal
from typing import Any

from potrel.core.cost.costing import Costing
from potrel.core.errors import BadDocument
from potrel.core.rooms.exchanges import Exchange, exchange
from potrel.core.rooms.exchanges.ways import Way
from potrel.core.rooms.form_comparison import compare_forms
from potrel.core.rooms.make_or_buy import batch_that_flips, price_that_flips, rate_that_flips
from potrel.core.tell.cost_sheet import sheet_of
from potrel.core.tell.explanations import explain
from tests.kitchens import DAY, d, kitchen

NONE = {"salt_g": "0", "energy_kcal": "0", "fat_g": "0", "saturates_g": "0", "carbohydrate_g": "0", "sugars_g": "0",
        "protein_g": "0", "fibre_g": "0"}  # fmt: skip
ITEMS: list[dict[str, Any]] = [
    {"id": "water", "name": "Water", "kind": "water", "density": "1"},
    {"id": "flour", "name": "Plain flour", "kind": "dry goods", "thickening": "1", "composition": NONE, "allergens": ["wheat"]},
    {"id": "cornflour", "name": "Cornflour", "kind": "dry goods", "thickening": "2", "composition": NONE},
    {"id": "potato", "name": "Potatoes", "kind": "root", "thickening": "0.2", "composition": NONE,
     "preparations": [{"id": "peeled", "name": "peeled", "yield": "0.8"}]},
    {"id": "butter", "name": "Butter", "kind": "dairy", "thickening": "0", "composition": NONE},
    {"id": "bones", "name": "Chicken bones", "kind": "bones", "composition": NONE, "thickening": "0"},
    {"id": "carton", "name": "Stock, carton", "kind": "stock", "density": "1", "thickening": "0",
     "composition": {**NONE, "salt_g": "0.9"}},
    {"id": "plain", "name": "Stock, low salt, carton", "kind": "stock", "density": "1", "thickening": "0",
     "composition": {**NONE, "salt_g": "0.1"}},
    {"id": "cube", "name": "Stock cubes", "kind": "stock", "ready_litres_per_kg": "50", "thickening": "0",
     "composition": {**NONE, "salt_g": "50"}},
    {"id": "base", "name": "Stock base", "kind": "stock", "ready_litres_per_kg": "40", "thickening": "0",
     "composition": {**NONE, "salt_g": "40"}},
    {"id": "parsley", "name": "Parsley", "kind": "herb"}, {"id": "parsley-dried", "name": "Parsley, dried", "kind": "herb"},
    {"id": "old", "name": "Arrowroot", "kind": "dry goods", "thickening": "2", "archived": True},
]  # fmt: skip
PRICES = {"water": "0.004", "flour": "0.9", "cornflour": "2.6", "potato": "1.1", "butter": "9", "bones": "0.9", "carton": "2.4",
          "plain": "3.1", "cube": "13", "base": "14", "parsley": "20", "parsley-dried": "40", "old": "5"}  # fmt: skip
STOCK = {"id": "stock", "name": "Chicken stock", "stages": [
    {"id": "s", "attended_minutes": "30", "lines": [{"item": "bones", "quantity": "8 kg", "id": "bones"},
                                                    {"item": "water", "quantity": "12 l"}],
     "take_out": [{"name": "bones", "of": ["bones"], "spent_factor": "1"}]}]}  # fmt: skip


def costing(*stages: dict[str, Any]) -> Costing:
    soup = {"id": "pot", "name": "Soup", "stages": list(stages), "servings": [{"id": "bowl", "name": "Bowl", "size": "300 ml"}]}
    return Costing(kitchen(ITEMS, [STOCK, soup], PRICES, labour_rate_per_hour=d(18)), DAY)


def tried(line: str, *stages: dict[str, Any]) -> Exchange:
    return exchange(costing(*stages), "pot", stages[0]["id"], line)


THICK = {"id": "s", "lines": [{"item": "water", "quantity": "9.5 l"}, {"item": "flour", "quantity": "500 g"}]}


class Thickeners(unittest.TestCase):
    def test_every_way_has_the_same_thickness_and_batch(self) -> None:
        blend = {"id": "b", "method": "blend", "from": [{"stage": "s"}]}
        found = tried("flour", THICK, blend)
        self.assertEqual(found.sort, "thickener")
        now, *others = found.ways
        self.assertTrue(now.now)
        self.assertEqual(now.thickness_g_per_l, 50)
        self.assertEqual({way.name for way in others}, {"Cornflour", "Potatoes"})
        for way in others:
            self.assertAlmostEqual(way.thickness_g_per_l or 0, 50, places=6)
            self.assertAlmostEqual(way.batch_ml, now.batch_ml, places=6)
        self.assertEqual([way.amount for way in others], ["250 g Cornflour", "2.5 kg Potatoes"])
        # The liquid makes up for it, and what is peeled is bought with its peel.
        potato = next(way for way in others if way.name == "Potatoes")
        lines = potato.recipe.stages[0].lines
        self.assertEqual([line.quantity.text for line in lines], ["7.5 l", "2.5 kg"])
        self.assertEqual((lines[1].basis, lines[1].preparation), ("EP", "peeled"))

    def test_a_dark_roux_is_exchanged_by_the_half_that_it_thickens(self) -> None:
        water, flour = {"item": "water", "quantity": "9.5 l"}, {"item": "flour", "quantity": "500 g"}
        by_line: dict[str, Any] = {"id": "s", "lines": [water, {**flour, "roux": "dark"}]}
        by_stage: dict[str, Any] = {"id": "s", "roux": "dark", "lines": [water, flour]}
        for dark in (by_line, by_stage):
            found = tried("flour", dark)
            now = found.ways[0].thickness_g_per_l
            starch = next(way for way in found.ways if way.name == "Cornflour")
            assert now is not None and starch.thickness_g_per_l is not None
            self.assertAlmostEqual(float(starch.thickness_g_per_l), float(now), delta=0.02 * float(now))

    def test_soaked_beans_are_exchanged_by_what_they_were_dry_there_and_back(self) -> None:
        beans = {"id": "beans", "name": "White beans, dry", "kind": "pulse", "thickening": "0.45", "composition": NONE,
                 "preparations": [{"id": "soaked", "name": "soaked", "yield": "2"}]}  # fmt: skip
        soaked = {"item": "beans", "quantity": "2 kg", "preparation": "soaked", "basis": "EP"}
        flour = {"item": "flour", "quantity": "450 g"}
        blend = {"id": "b", "method": "blend", "from": [{"stage": "s"}]}

        def way(line: dict[str, str], to: str) -> Way:
            made = {
                "id": "pot",
                "name": "Soup",
                "stages": [{"id": "s", "lines": [{"item": "water", "quantity": "9 l"}, line]}, blend],
            }
            of = Costing(kitchen([*ITEMS, beans], [STOCK, made], {**PRICES, "beans": "3"}), DAY)
            now, *others = exchange(of, "pot", "s", line["item"]).ways
            found = next(one for one in others if one.name.startswith(to))
            self.assertAlmostEqual(found.thickness_g_per_l or 0, now.thickness_g_per_l or 1, places=6)
            return found

        # A kilo of dry beans does as much as 450 g of flour.
        self.assertEqual(way(soaked, "Plain flour").amount, "450 g Plain flour")
        self.assertEqual(way(flour, "White beans").amount, "1 kg White beans, dry")

    def test_of_a_pot_half_blended_twice_as_many_potatoes(self) -> None:
        half: dict[str, Any] = {"id": "b", "method": "blend", "from": [{"stage": "s", "share": "0.5"}]}
        back = {"id": "e", "method": "finish", "from": [{"stage": "b"}, {"stage": "s", "share": "0.5"}]}
        corn = {"id": "s", "lines": [{"item": "water", "quantity": "9.9 l"}, {"item": "cornflour", "quantity": "60 g"}]}
        found = tried("cornflour", corn, half, back)
        now, potato = found.ways[0], next(way for way in found.ways if way.name == "Potatoes")
        # 60 g of starch is 120 g of flour; potatoes have a fifth of that, and half of them is blended.
        self.assertEqual(potato.amount, "1.2 kg Potatoes")
        assert now.thickness_g_per_l is not None and potato.thickness_g_per_l is not None
        # The litres are those of the liquid, in which the half that stays whole is none.
        liquid = (now.batch_ml - 600) / now.batch_ml
        self.assertAlmostEqual(float(potato.thickness_g_per_l * liquid), float(now.thickness_g_per_l), delta=0.1)

    def test_only_what_fits_the_place(self) -> None:
        cream = {"id": "cheese", "name": "Cream cheese", "kind": "dairy", "thickening": "0.2", "composition": NONE}
        beans = {"id": "beans", "name": "White beans, dry", "kind": "pulse", "thickening": "0.45", "composition": NONE,
                 "preparations": [{"id": "soaked", "name": "soaked", "yield": "2"}]}  # fmt: skip

        def names(*stages: dict[str, Any], line: str = "flour") -> set[str]:
            made = {"id": "pot", "name": "Soup", "stages": list(stages)}
            prices = {**PRICES, "cheese": "7", "beans": "3"}
            of = Costing(kitchen([*ITEMS, cream, beans], [STOCK, made], prices), DAY)
            return {way.name for way in exchange(of, "pot", stages[0]["id"], line).ways[1:]}

        blend = {"id": "b", "method": "blend", "from": [{"stage": "s"}]}
        lines = [{"item": "water", "quantity": "9.8 l"}, {"item": "flour", "quantity": "200 g"}]
        # Off the heat no flour, starch, pulse or root is stirred in.
        self.assertEqual(names({"id": "s", "method": "finish", "lines": lines}, blend), {"Cream cheese"})
        simmer = {"id": "s", "method": "simmer", "minutes": "20", "lines": lines}
        self.assertEqual(names(simmer, blend), {"Cream cheese", "Cornflour", "Potatoes"})
        # Beans take longer than that, and are told with their soaking and time.
        self.assertIn("White beans, dry", names({**simmer, "minutes": "90"}, blend))
        # Half the pot would be potatoes.
        thick = [{"item": "water", "quantity": "9 l"}, {"item": "flour", "quantity": "1 kg"}]
        self.assertNotIn("Potatoes", names({**simmer, "lines": thick}, blend))

    def test_beans_come_with_their_soaking_and_time(self) -> None:
        beans = {"id": "beans", "name": "White beans, dry", "kind": "pulse", "thickening": "0.45", "composition": NONE,
                 "preparations": [{"id": "soaked", "name": "soaked", "yield": "2"}]}  # fmt: skip
        stage = {**THICK, "method": "simmer", "minutes": "100"}
        blend = {"id": "b", "method": "blend", "from": [{"stage": "s"}]}
        of = Costing(kitchen([*ITEMS, beans], [{"id": "pot", "name": "Soup", "stages": [stage, blend]}],
                             {**PRICES, "beans": "3"}), DAY)  # fmt: skip
        way = next(one for one in exchange(of, "pot", "s", "flour").ways if one.name.startswith("White beans"))
        self.assertIn("soaked overnight; 60 to 120 min", way.mind)
        self.assertAlmostEqual(way.batch_ml, 10_000, places=6)

    def test_allergens_and_diets_that_change_are_told(self) -> None:
        fish = {"id": "fish", "name": "Fish stock, carton", "kind": "stock", "density": "1", "origin": ["fish"],
                "allergens": ["fish"], "composition": NONE, "thickening": "0"}  # fmt: skip
        plain = {"id": "veg", "name": "Vegetable stock, carton", "kind": "stock", "density": "1", "origin": ["plant"],
                 "composition": NONE, "thickening": "0"}  # fmt: skip
        potato = {"id": "root", "name": "Carrots", "kind": "root", "origin": ["plant"], "composition": NONE, "thickening": "0"}
        stage = {"id": "s", "lines": [{"item": "veg", "quantity": "6 l"}, {"item": "root", "quantity": "1 kg"}]}
        of = Costing(kitchen([fish, plain, potato], [{"id": "pot", "name": "Soup", "stages": [stage]}],
                             {"fish": "3", "veg": "2", "root": "1"}), DAY)  # fmt: skip
        now, way = exchange(of, "pot", "s", "veg").ways
        self.assertEqual((now.brings, now.diets_lost), ([], []))
        self.assertEqual(way.brings, ["fish"])
        self.assertIn("vegetarian: no, by Fish stock, carton", way.diets_lost)

    def test_what_nothing_blends_thickens_nothing(self) -> None:
        self.assertEqual([way.name for way in tried("flour", THICK).ways[1:]], ["Cornflour"])
        whole = {"id": "s", "lines": [{"item": "potato", "quantity": "1 kg"}, {"item": "water", "quantity": "1 l"}]}
        with self.assertRaises(BadDocument):
            tried("potato", whole)

    def test_flour_comes_dusted_on_or_as_a_roux_with_its_fat(self) -> None:
        corn = {"id": "s", "lines": [{"item": "water", "quantity": "9.5 l"}, {"item": "cornflour", "quantity": "250 g"}]}
        found = tried("cornflour", corn)
        amounts = {way.name: way.amount for way in found.ways[1:]}
        self.assertEqual(amounts["Plain flour, dusted on or as a slurry"], "500 g Plain flour")
        self.assertEqual(amounts["a roux of Plain flour, 1:1"], "500 g Plain flour + 500 g Butter")
        self.assertEqual(amounts["a roux of Plain flour, 60:40"], "500 g Plain flour + 333.3 g Butter")
        for way in found.ways:
            self.assertAlmostEqual(way.batch_ml, d(9750), delta=1)
        self.assertIn("wheat", found.ways[1].allergens)

    def test_a_pot_that_is_topped_up_keeps_its_size_by_itself(self) -> None:
        up = {"id": "t", "from": [{"stage": "s"}], "change": {"rule": "top_up", "to": "12 l", "with": {"item": "water"}}}
        way = tried("flour", THICK, up).ways[1]
        self.assertEqual(way.recipe.stages[0].lines[0].quantity.text, "9.5 l")
        self.assertEqual(way.batch_ml, 12_000)

    def test_nothing_is_saved(self) -> None:
        of = costing(THICK)
        before = of.of("pot")
        exchange(of, "pot", "s", "flour")
        self.assertIs(of.of("pot"), before)


class Strengths(unittest.TestCase):
    def test_dried_for_fresh_with_its_band(self) -> None:
        stage = {"id": "s", "lines": [{"item": "water", "quantity": "1 l"}, {"item": "parsley", "quantity": "60 g"}]}
        found = tried("parsley", stage)
        self.assertEqual(found.sort, "strength")
        (way,) = found.ways[1:]
        # Common practice, no source: a gram of dried parsley for 6 g of fresh, from 4 to 8.
        self.assertEqual((way.amount, way.low_g, way.high_g), ("10 g Parsley, dried", d("7.5"), d(15)))

    def test_and_back(self) -> None:
        stage = {"id": "s", "lines": [{"item": "water", "quantity": "1 l"}, {"item": "parsley-dried", "quantity": "10 g"}]}
        (way,) = tried("parsley-dried", stage).ways[1:]
        self.assertEqual(way.amount, "60 g Parsley")


class SideBySide(unittest.TestCase):
    def test_forms_of_one_taste_are_compared_at_the_same_strength(self) -> None:
        of = costing(THICK)
        fresh, dried = compare_forms(of, ["parsley", "parsley-dried"], "kg").forms
        # 40 a kilo, six times as strong: 6.67 for what a kilo of fresh does.
        self.assertEqual((fresh.as_strong, fresh.strength), (20, 1))
        self.assertEqual((dried.as_strong, dried.strength, dried.strength_low, dried.strength_high), (d(40) / 6, 6, 4, 8))
        told = explain(of, "", "usable/kg/as_strong/parsley-dried,parsley")
        self.assertEqual(told.value, dried.as_strong)

    def test_of_others_nothing_is_told(self) -> None:
        for forms in (["parsley", "flour"], ["parsley-dried"]):
            for form in compare_forms(costing(THICK), forms, "kg").forms:
                self.assertIsNone(form.as_strong)

    def test_what_is_soaked_brings_its_liquor(self) -> None:
        items = [{"id": "water", "name": "Water", "kind": "water", "density": "1"},
                 {"id": "fresh", "name": "Mushrooms", "kind": "vegetable"},
                 {"id": "dried", "name": "Dried mushrooms", "kind": "dry goods"}]  # fmt: skip
        stage = {"id": "s", "lines": [{"item": "fresh", "quantity": "800 g"}, {"item": "water", "quantity": "1 l"}]}
        made = Costing(kitchen(items, [{"stages": [stage]}], {"water": "0.004", "fresh": "4", "dried": "48"}), DAY)
        (way,) = exchange(made, "pot", "s", "fresh").ways[1:]
        self.assertEqual(way.amount, "100 g Dried mushrooms + 600 g Water")
        self.assertIn("liquor", way.recipe.stages[0].lines[1].note or "")


class MakeOrBuy(unittest.TestCase):
    def setUp(self) -> None:
        self.stage = {"id": "s", "lines": [{"recipe": "stock", "quantity": "6 l"}, {"item": "potato", "quantity": "1 kg"}]}
        self.found = tried("stock", self.stage)

    def test_each_ready_to_use(self) -> None:
        liquids = {way.name: way.liquid for way in self.found.ways}
        self.assertEqual(set(liquids), {"Chicken stock", "Stock, carton", "Stock, low salt, carton", "Stock cubes and water",
                                        "Stock base and water", "Water"})  # fmt: skip
        own, cube = liquids["Chicken stock"], liquids["Stock cubes and water"]
        assert own is not None and cube is not None
        self.assertEqual(own.food, (8 * d("0.9") + 12 * d("0.004")) / 12)
        self.assertEqual(own.labour, d("0.5") * 18 / 12)
        self.assertEqual(cube.total, d(13) / 50 + d("0.004"))
        self.assertFalse(cube.recipe or not cube.bought)

    def test_the_pot_is_tasted_with_each(self) -> None:
        salt = {way.name: way.salt_share for way in self.found.ways}
        self.assertEqual(salt["Stock, carton"], d("0.009") * 6 / 7)
        self.assertLess(salt["Stock, low salt, carton"] or 0, salt["Stock, carton"] or 0)

    def test_when_it_flips(self) -> None:
        flip = next(one for one in self.found.flips if one.other == "Stock, carton")
        own = (8 * d("0.9") + 12 * d("0.004")) / 12
        self.assertEqual(flip.item, "bones")
        # At that price of bones a litre of own stock, labour included, costs as much as the carton.
        self.assertAlmostEqual((8 * (flip.flip_price or 0) + 12 * d("0.004")) / 12 + d("0.75"), d("2.4"), places=12)
        self.assertAlmostEqual(own + 9 / (flip.flip_batch_l or Decimal(1)), d("2.4"), places=12)
        self.assertAlmostEqual(own + d("0.5") * (flip.flip_rate or 0) / 12, d("2.4"), places=12)
        cheap = next(one for one in self.found.flips if one.other == "Stock cubes and water")
        self.assertEqual((cheap.flip_price, cheap.flip_batch_l, cheap.flip_rate), (None, None, None))

    def test_the_formulas_are_each_others_inverse(self) -> None:
        price = price_that_flips(d(1), d(3), d(2), d(10), d(5))
        self.assertEqual(price, 3)
        self.assertEqual(batch_that_flips(d(60), d(20), d(3), d(1), d(0)), 10)
        self.assertEqual(rate_that_flips(d(10), d(3), d(1), d(0), d(60)), 20)

    def test_a_base_whose_water_stands_elsewhere(self) -> None:
        stage = {"id": "s", "lines": [{"item": "base", "quantity": "100 g"}, {"item": "water", "quantity": "4 l"}]}
        self.assertEqual([way.amount for way in tried("base", stage).ways], ["100 g Stock base", "80 g Stock cubes"])

    def test_a_stock_is_never_made_of_itself(self) -> None:
        of = costing(self.stage)
        names = {way.name for way in exchange(of, "stock", "s", "water").ways}
        self.assertNotIn("Chicken stock", names)

    def test_what_can_be_exchanged_is_told_on_the_sheet(self) -> None:
        told = {line.id: line.exchange for line in sheet_of(costing(self.stage), "pot").lines}
        self.assertEqual(told, {"stock": "stock", "potato": None})

    def test_a_line_that_is_not_there(self) -> None:
        with self.assertRaises(BadDocument):
            tried("nothing", self.stage)
