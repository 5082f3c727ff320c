"""The mass balance: lines, each rule of change, take-outs, residue, and what is reported instead of guessed."""

from __future__ import annotations

import unittest
from dataclasses import replace
from typing import Any

from potrel.core.kitchen.quantities import parse_quantity
from potrel.core.kitchen.vessels import Vessel
from potrel.core.tell.sheet_parts import CostSheet
from tests.kitchens import d, kitchen, recipe, sheet, with_recipe

ITEMS: list[dict[str, Any]] = [
    {"id": "leek", "preparations": [{"id": "sliced", "name": "sliced", "yield": "0.5", "byproducts": [
        {"name": "tops", "share": "0.4", "value_per_kg": "1"}]}, {"id": "washed", "name": "washed", "yield": "0.8",
        "byproducts": [{"name": "outer", "share": "0.1", "value_per_kg": "2"}]}],
     "cooking": [{"method": "sweat", "yield": "0.9"}]},
    {"id": "water", "density": "1"},
    {"id": "beans", "preparations": [{"id": "soaked", "name": "soaked", "yield": "2.2"}]},
]  # fmt: skip
PRICES = {"leek": "2", "water": "0", "beans": "3"}


def pot(*stages: dict[str, Any], **more: Any) -> CostSheet:
    return sheet(kitchen(ITEMS, [{"stages": list(stages), **more}], PRICES))


def stage(*lines: dict[str, Any], id: str = "s", **more: Any) -> dict[str, Any]:
    return {"id": id, "lines": list(lines), **more}


LEEK = {"item": "leek", "quantity": "1 kg"}
WATER = {"item": "water", "quantity": "10 l"}


class Lines(unittest.TestCase):
    def test_ap_basis(self) -> None:
        (line,) = pot(stage({**LEEK, "preparation": "sliced"})).lines
        self.assertEqual((line.ap_g, line.ep_g), (1000, 500))

    def test_ep_basis(self) -> None:
        (line,) = pot(stage({**LEEK, "preparation": "sliced", "basis": "EP"})).lines
        self.assertEqual((line.ap_g, line.ep_g), (2000, 1000))

    def test_a_measure_of_the_ready_thing_has_its_trim_taken_once(self) -> None:
        # A cup of chopped onion weighs 160 g (USDA SR Legacy), and 12% of what is bought falls off: 182 g to buy.
        onion = {"id": "onion", "measures": {"cup chopped": {"weighs": "160 g", "basis": "EP"}, "each": "150 g"},
                 "preparations": [{"id": "diced", "name": "diced", "yield": "0.88"}]}  # fmt: skip
        for basis in ("AP", "EP"):
            cup = {"item": "onion", "quantity": "1 cup chopped", "preparation": "diced", "basis": basis}
            (line,) = sheet(kitchen([onion], [{"stages": [stage(cup)]}], {"onion": "1"})).lines
            assert line.ap_g is not None
            self.assertEqual((line.ep_g, round(line.ap_g)), (160, 182))
        each = {"item": "onion", "quantity": "2 each", "preparation": "diced"}
        (line,) = sheet(kitchen([onion], [{"stages": [stage(each)]}], {"onion": "1"})).lines
        self.assertEqual((line.ap_g, line.ep_g), (300, 264))

    def test_credit_of_byproducts_is_a_share_of_what_entered(self) -> None:
        (line,) = pot(stage({**LEEK, "preparation": "sliced"})).lines
        self.assertEqual(line.cost, d("2") - d("0.4"))

    def test_preparations_in_a_row(self) -> None:
        (line,) = pot(stage({**LEEK, "preparation": ["washed", "sliced"]})).lines
        self.assertEqual(line.ep_g, 400)
        # 1000 g washed gives 100 g outer leaves; the 800 g left give 320 g tops.
        self.assertEqual(line.cost, d("2") - d("0.2") - d("0.32"))

    def test_soaking_yields_over_one(self) -> None:
        (line,) = pot(stage({"item": "beans", "quantity": "1 kg", "preparation": "soaked"})).lines
        self.assertEqual(line.ep_g, 2200)

    def test_cooking_yield_by_method_then_by_line(self) -> None:
        self.assertEqual(pot(stage(LEEK, method="sweat")).stages[0].mass_in_g, 900)
        self.assertEqual(pot(stage(LEEK, method="boil")).stages[0].mass_in_g, 1000)
        self.assertEqual(pot(stage({**LEEK, "cook_yield": "0.7"}, method="sweat")).stages[0].mass_in_g, 700)


class Changes(unittest.TestCase):
    def out(self, change: dict[str, Any], **more: Any) -> tuple[Any, Any]:
        (only,) = pot(stage(WATER, change=change, **more)).stages
        return only.mass_out_g, only.changed_g

    def test_yield(self) -> None:
        self.assertEqual(self.out({"rule": "yield", "yield": "0.97"}), (9700, 300))

    def test_evaporate_a_share_an_hour_is_linear(self) -> None:
        self.assertEqual(self.out({"rule": "evaporate", "per_hour": "0.08"}, minutes="90"), (8800, 1200))

    def test_evaporate_kilos_an_hour(self) -> None:
        self.assertEqual(self.out({"rule": "evaporate", "kg_per_hour": "0.9"}, minutes="240"), (6400, 3600))

    def test_evaporate_at_most_all_its_water(self) -> None:
        # Of a thing of no kind a tenth is dry: common practice, no source.
        for change, after in (({"per_hour": "0.5"}, 108), ({"kg_per_hour": "9"}, 60)):
            found = pot(stage(WATER, change={"rule": "evaporate", **change}, minutes="180"))
            self.assertEqual(found.stages[0].changed_g, 9000)
            self.assertIn(f"boils dry after {after} minutes", found.problems[0].message)

    def test_reduce_to_a_volume_takes_the_density(self) -> None:
        found = pot(stage(WATER, change={"rule": "reduce", "to": "6 l"}), density="1.1")
        self.assertEqual((found.batch.mass_g, found.batch.volume_ml), (6600, 6000))

    def test_reduce_to_more_than_there_is(self) -> None:
        found = pot(stage(WATER, change={"rule": "reduce", "to": "12 kg"}))
        self.assertEqual([p.code for p in found.problems], ["impossible"])
        self.assertIn("less than 12 kg already", found.problems[0].message)
        self.assertIsNone(found.batch.cost_per_kg)

    def test_reduced_to_just_what_there_is(self) -> None:
        found = pot(stage(WATER, change={"rule": "reduce", "to": "10 kg"}))
        self.assertEqual((found.problems, found.batch.mass_g), ([], 10_000))

    def test_no_more_goes_up_than_there_is_water(self) -> None:
        # 2 kg of meat are 32% dry (common practice, no source): with 1 kg of water 0.64 kg are left when all of it is gone.
        for to, wanted in (("0.63 kg", ["impossible"]), ("0.65 kg", [])):
            found = sheet(kitchen(
                [{"id": "shin", "kind": "meat", "name": "Shin"}, {"id": "water", "kind": "water", "density": "1"}],
                [{"stages": [stage({"item": "shin", "quantity": "2 kg"}, {"item": "water", "quantity": "1 kg"},
                                   change={"rule": "reduce", "to": to})]}],
                {"shin": "10", "water": "0"},
            ))  # fmt: skip
            self.assertEqual([one.code for one in found.problems], wanted, to)
            if wanted:
                self.assertIn("weighs 0.64 kg without any water", found.problems[0].message)

    def test_residue_is_a_share_of_what_is_left_after_the_take_outs(self) -> None:
        found = pot(stage(WATER, take_out=[{"name": "ladled off", "mass": "4 kg"}], residue="0.1"))
        (only,) = found.stages
        self.assertEqual((only.residue_g, only.mass_out_g), (600, 5400))

    def test_top_up_finds_quantity_and_cost(self) -> None:
        change = {"rule": "top_up", "to": "11 kg", "with": {"item": "leek", "preparation": "sliced"}}
        line = pot(stage(WATER, change=change)).lines[-1]
        self.assertEqual((line.id, line.ep_g, line.ap_g), ("top_up", 1000, 2000))
        self.assertEqual(line.cost, d("4") - d("0.8"))

    def test_top_up_of_a_full_pot_warns(self) -> None:
        found = pot(stage(WATER, change={"rule": "top_up", "to": "5 l", "with": {"item": "water"}}))
        self.assertEqual(found.batch.mass_g, 10000)
        self.assertIn("nothing is topped up", found.warnings[0].message)

    def test_top_up_to_just_what_there_is(self) -> None:
        found = pot(stage(WATER, change={"rule": "top_up", "to": "10 l", "with": {"item": "water"}}))
        self.assertEqual(len(found.warnings), 1)

    def test_top_up_with_a_recipe(self) -> None:
        base = {"id": "base", "name": "Base", "stages": [stage({"item": "leek", "quantity": "2 kg"})]}
        change = {"rule": "top_up", "to": "11 kg", "with": {"recipe": "base"}}
        found = sheet(kitchen(ITEMS, [{"stages": [stage(WATER, change=change)]}, base], PRICES))
        self.assertEqual((found.lines[-1].recipe, found.lines[-1].cost), ("base", 2))

    def test_evaporation_without_minutes_is_reported(self) -> None:
        found = pot(stage(WATER, change={"rule": "evaporate", "per_hour": "0.1"}))
        self.assertEqual([p.code for p in found.problems], ["missing_fact"])


class FlowOfStages(unittest.TestCase):
    def test_shares_split_and_meet_again(self) -> None:
        found = pot(
            stage(WATER, id="a"),
            stage(id="b", **{"from": [{"stage": "a", "share": "0.4"}]}, residue="0.1"),
            stage(LEEK, id="c", **{"from": [{"stage": "a", "share": "0.6"}, {"stage": "b"}]}),
        )
        self.assertEqual([s.mass_out_g for s in found.stages], [10000, 3600, 10600])

    def test_left_over_is_reported_and_its_cost_stays(self) -> None:
        found = pot(stage(LEEK, id="a"), stage(WATER, id="b", **{"from": [{"stage": "a", "share": "0.25"}]}))
        self.assertEqual(found.batch.mass_g, 10250)
        self.assertEqual(found.stages[-1].cost, 2)
        self.assertEqual(found.batch.food_cost, 2)
        self.assertIn("75% of this stage goes nowhere", found.warnings[0].message)

    def test_take_out_of_an_earlier_line_by_the_product_of_shares(self) -> None:
        spent = [{"name": "spent", "of": ["leek"], "spent_factor": "0.5", "value_per_kg": "1"}]
        found = pot(
            stage(LEEK, id="a"),
            stage(WATER, id="b", **{"from": [{"stage": "a", "share": "0.5"}]}),
            stage(id="c", **{"from": [{"stage": "b", "share": "0.8"}]}, take_out=spent),
        )
        (taken,) = found.stages[-1].taken_out
        self.assertEqual((taken.mass_g, taken.value), (200, d("0.2")))

    def test_a_line_through_two_ways_adds_up(self) -> None:
        spent = [{"name": "spent", "of": ["leek"], "spent_factor": "1"}]
        found = pot(
            stage(LEEK, id="a"),
            stage(id="b", **{"from": [{"stage": "a", "share": "0.5"}]}),
            stage(id="c", **{"from": [{"stage": "a", "share": "0.5"}, {"stage": "b"}]}, take_out=spent),
        )
        self.assertEqual(found.stages[-1].taken_out[0].mass_g, 1000)

    def test_taking_out_more_than_there_is(self) -> None:
        found = pot(stage(LEEK, take_out=[{"name": "all", "mass": "2 kg"}]))
        self.assertEqual(found.problems[0].code, "impossible")

    def test_taking_out_all_there_is_leaves_an_empty_pot_and_no_more(self) -> None:
        found = pot(stage(LEEK, take_out=[{"name": "all", "mass": "1 kg"}]))
        self.assertEqual([one.message_code for one in found.problems], ["empty_pot"])

    def test_taking_out_a_line_that_is_not_there(self) -> None:
        found = pot(stage(LEEK, take_out=[{"name": "spent", "of": ["ham"], "spent_factor": "1"}]))
        self.assertIn('"ham", which is no line of this or an earlier stage', found.problems[0].message)

    def test_paid_disposal_costs(self) -> None:
        found = pot(stage(LEEK, take_out=[{"name": "waste", "mass": "100 g", "value_per_kg": "-0.5"}]))
        self.assertEqual(found.stages[0].cost, d("2.05"))

    def test_lines_of_the_same_item_get_ids_of_their_own(self) -> None:
        found = pot(stage(LEEK, {**LEEK, "id": "leek-2"}, LEEK))
        self.assertEqual([line.id for line in found.lines], ["leek", "leek-2", "leek-3"])


class WhatIsMissing(unittest.TestCase):
    def test_a_weight(self) -> None:
        found = pot(
            stage(WATER, {"item": "leek", "quantity": "2 bunch"}), servings=[{"id": "b", "name": "B", "size": "300 ml"}]
        )
        (problem,) = found.problems
        self.assertEqual((problem.code, problem.item, problem.unit, problem.line), ("missing_weight", "leek", "bunch", "leek"))
        self.assertFalse(found.complete)
        self.assertEqual(found.batch.mass_g, 10000)
        self.assertIsNone(found.servings[0].food_cost)
        self.assertIsNone(found.lines[1].cost)

    def test_a_price_leaves_a_lower_bound(self) -> None:
        changed = kitchen(ITEMS, [{"stages": [stage(LEEK, WATER)], "servings": [
            {"id": "b", "name": "B", "size": "500 ml", "price": "3"}]}], {"leek": "2"})  # fmt: skip
        found = sheet(changed)
        self.assertEqual([(p.code, p.item) for p in found.problems], [("missing_price", "water")])
        self.assertEqual(found.batch.food_cost, 2)
        self.assertIsNotNone(found.servings[0].food_cost)
        # From a lower bound no share, no contribution and no price are concluded.
        serving = found.servings[0]
        self.assertEqual((serving.food_cost_share, serving.contribution, serving.suggested_price), (None, None, None))

    def test_a_preparation(self) -> None:
        found = pot(stage({**LEEK, "preparation": "diced"}))
        self.assertIn('Leek has no preparation "diced" (it has: sliced, washed)', found.problems[0].message)

    def test_an_empty_pot(self) -> None:
        self.assertIn("the pot is empty", pot(stage()).problems[0].message)
        self.assertIn("the pot is empty", pot().problems[0].message)

    def test_a_part_that_is_incomplete(self) -> None:
        base = {"id": "base", "name": "Base", "stages": [stage({"item": "leek", "quantity": "2 bunch"})]}
        found = sheet(kitchen(ITEMS, [{"stages": [stage({"recipe": "base", "quantity": "1 l"}, WATER)]}, base], PRICES))
        (problem,) = found.problems
        self.assertEqual(problem.code, "incomplete_part")
        self.assertIn("Leek has no weight for 1 bunch", problem.message)
        self.assertIsNone(found.lines[0].cost)
        self.assertEqual(found.batch.mass_g, 11000)

    def test_an_allergen_counts_even_where_the_weight_is_missing(self) -> None:
        items = [{"id": "celery", "allergens": ["celery"]}]
        found = sheet(kitchen(items, [{"stages": [stage({"item": "celery", "quantity": "1 bunch"})]}]))
        self.assertEqual(found.allergens, ["celery"])

    def test_a_count_of_a_recipe(self) -> None:
        base = {"id": "base", "name": "Base", "stages": [stage(WATER)]}
        found = sheet(kitchen(ITEMS, [{"stages": [stage({"recipe": "base", "quantity": "2 each"})]}, base], PRICES))
        self.assertIn("measured by weight or volume", found.problems[0].message)


class Vessels(unittest.TestCase):
    def test_a_pot_that_runs_over(self) -> None:
        made = kitchen(ITEMS, [{"stages": [stage(WATER, vessel="pan")]}], PRICES)
        made = replace(made, vessels=(Vessel("pan", "Pan", parse_quantity("8 l")),))
        self.assertIn("more than the Pan holds (8 l)", sheet(made).warnings[0].message)
        full = recipe({"density": "1.25", "stages": [stage(WATER, vessel="pan")]})
        self.assertEqual(sheet(with_recipe(made, full)).warnings, [])
        topped = recipe({"stages": [stage({"item": "water", "quantity": "5 l"}, vessel="pan", change={
            "rule": "top_up", "to": "9 l", "with": {"item": "water"}})]})  # fmt: skip
        self.assertEqual(len(sheet(with_recipe(made, topped)).warnings), 1)
        boiled_down = recipe({"stages": [stage(WATER, vessel="pan", change={"rule": "reduce", "to": "5 l"})]})
        self.assertEqual(len(sheet(with_recipe(made, boiled_down)).warnings), 1)
        less = recipe({"stages": [stage({"item": "water", "quantity": "8 l"}, vessel="pan")]})
        self.assertEqual(sheet(with_recipe(made, less)).warnings, [])
