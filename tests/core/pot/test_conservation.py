"""Conservation of mass and of money over random recipes, with exact fractions through the same engine."""

from __future__ import annotations

import unittest
from dataclasses import replace
from decimal import Decimal
from fractions import Fraction
from typing import Any

from hypothesis import assume, given, settings
from hypothesis import strategies as st

from potrel.core.cost.costing import Costing
from potrel.core.kitchen.items import ByproductMethod
from potrel.core.kitchen.kitchen import Kitchen
from potrel.core.pot.balance import balance_of
from potrel.core.pot.day_view import DayView
from potrel.core.pot.inputs import Inputs
from potrel.core.tell.cost_sheet import sheet_of
from potrel.core.trim.byproducts import METHODS
from tests.examples import examples
from tests.kitchens import DAY, kitchen

ITEMS: list[dict[str, Any]] = [
    {"id": "root", "cooking": [{"method": "roast", "yield": "0.7", "rendered": "0.25"}], "preparations": [
        {"id": "peeled", "name": "peeled", "yield": "0.7", "value_per_kg": "2.30", "byproducts": [
            {"name": "peel", "share": "0.2", "value_per_kg": "0.35"}]},
        {"id": "cored", "name": "cored", "yield": "0.8", "value_per_kg": "3.10", "byproducts": [
            {"name": "core", "share": "0.1", "value_per_kg": "0.9"},
            {"name": "pith", "share": "0.1", "value_per_kg": "-0.2"}]}]},
    {"id": "beans", "cooking": [{"method": "simmer", "yield": "1.4"}], "preparations": [
        {"id": "soaked", "name": "soaked", "yield": "2.3"}]},
    {"id": "water", "density": "1"},
    {"id": "bones", "cooking": [{"method": "roast", "yield": "0.83"}]},
]  # fmt: skip
PRICES = {"root": "1.37", "beans": "2.93", "water": "0.004", "bones": "0.89"}
PREPARATIONS: dict[str, list[str | list[str] | None]] = {
    "root": [None, "peeled", ["peeled", "cored"]],
    "beans": [None, "soaked"],
    "water": [None],
    "bones": [None],
}


def thousandths(low: int, high: int) -> st.SearchStrategy[str]:
    return st.integers(low, high).map(lambda n: str(Decimal(n) / 1000))


@st.composite
def lines(draw: Any, recipes: list[str]) -> dict[str, Any]:
    if recipes and draw(st.booleans()):
        return {"recipe": draw(st.sampled_from(recipes)), "quantity": f"{draw(thousandths(1, 3000))} kg"}
    if draw(st.integers(0, 5)) == 0:
        name = draw(st.sampled_from(["peel", "core", "pith"]))
        quantity = f"{draw(thousandths(1, 900))} kg"
        return {"item": "root", "byproduct": name, "preparation": ["peeled", "cored"], "quantity": quantity}
    item = draw(st.sampled_from(sorted(PRICES)))
    line = {"item": item, "quantity": f"{draw(thousandths(1, 9000))} kg", "basis": draw(st.sampled_from(["AP", "EP"]))}
    loss_to = draw(st.sampled_from([None, "air", "pot"]))
    if loss_to is not None:
        line["loss_to"] = loss_to
    preparation = draw(st.sampled_from(PREPARATIONS[item]))
    return line if preparation is None else {**line, "preparation": preparation}


CHANGES = st.one_of(
    st.just({"rule": "keep"}),
    thousandths(500, 1500).map(lambda y: {"rule": "yield", "yield": y}),
    thousandths(0, 400).map(lambda share: {"rule": "evaporate", "per_hour": share}),
    thousandths(0, 2000).map(lambda kilos: {"rule": "evaporate", "kg_per_hour": kilos}),
    thousandths(1000, 20000).map(lambda kilos: {"rule": "top_up", "to": f"{kilos} kg", "with": {"item": "water"}}),
)


@st.composite
def recipes(draw: st.DrawFn, id: str, known: list[str]) -> dict[str, Any]:
    stages: list[dict[str, Any]] = []
    left: dict[str, Decimal] = {}
    for number in range(draw(st.integers(1, 4))):
        inflows = []
        for earlier, share in left.items():
            if share > 0 and draw(st.booleans()):
                taken = min(share, Decimal(draw(thousandths(1, 1000))))
                left[earlier] -= taken
                inflows.append({"stage": earlier, "share": str(taken)})
        stage: dict[str, Any] = {
            "id": f"s{number}", "method": draw(st.sampled_from(["roast", "simmer"])), "minutes": "45",
            "attended_minutes": str(draw(st.integers(0, 60))), "from": inflows,
            "lines": draw(st.lists(lines(known), min_size=1, max_size=4)), "change": draw(CHANGES),
            "residue": draw(thousandths(0, 200)), "value_per_kg": draw(thousandths(100, 9000)),
        }  # fmt: skip
        if draw(st.booleans()):
            value = draw(st.integers(-200, 400).map(lambda n: str(Decimal(n) / 100)))
            stage["take_out"] = [
                {"name": "skimmed", "mass": "1 mg", "value_per_kg": value},
                {"name": "picked", "mass": "0.4 g", "value_per_kg": draw(thousandths(1, 9000))},
            ]
        stages.append(stage)
        left[f"s{number}"] = Decimal(1)
    return {"id": id, "name": id, "stages": stages}


@st.composite
def kitchens(draw: st.DrawFn) -> Kitchen:
    made: list[dict[str, Any]] = []
    for number in range(draw(st.integers(1, 3))):
        made.append(draw(recipes(f"r{number}", [one["id"] for one in made])))
    method = draw(st.sampled_from(METHODS))
    return kitchen(ITEMS, made, PRICES, byproduct_method=method, seasoning_allowance=Decimal("0.02"))


def fraction(value: Decimal | str) -> Any:
    """An exact fraction, for the engine and for the sums beside it."""
    return Fraction(value)


NOTHING, EXACT = fraction("0"), Inputs(fraction)


class Conservation(unittest.TestCase):
    @settings(max_examples=examples(120))
    @given(kitchens())
    def test_mass_in_is_mass_out_and_losses(self, made: Kitchen) -> None:
        view = DayView(made, DAY, EXACT)
        for recipe in made.recipes:
            balance = balance_of(recipe, view)
            # A pot that boiled dry, or of which more is taken out than there is, is reported and not balanced.
            assume(not balance.problems)
            out = {one.stage.id: one.mass_out for one in balance.stages}
            taken_from: dict[str, Any] = {}
            for here in balance.stages:
                stage = here.stage
                put_in = sum((line.put for line in balance.lines if line.stage == stage.id and line.id != "top_up"), NOTHING)
                for inflow in stage.from_:
                    part = out[inflow.stage] * fraction(inflow.share)
                    taken_from[inflow.stage] = taken_from.get(inflow.stage, NOTHING) + part
                    put_in += part
                self.assertEqual(here.mass_in, put_in)
                for line in balance.lines_of(stage):
                    self.assertEqual(line.put + line.up, line.ep)
                topped = sum((line.put for line in balance.lines if line.stage == stage.id and line.id == "top_up"), NOTHING)
                gone = here.mass_in + topped - here.changed
                taken = sum((one.mass for one in here.taken_out), NOTHING)
                self.assertEqual(here.mass_in + topped, here.mass_out + gone + taken + here.residue)
                self.assertGreaterEqual(here.mass_out, 0)
                if stage.change.rule in ("keep", "evaporate", "top_up"):
                    self.assertGreaterEqual(gone, 0)
            for here in balance.stages[:-1]:
                left = here.mass_out * fraction(here.left_over)
                self.assertEqual(taken_from.get(here.stage.id, NOTHING) + left, here.mass_out)

    @settings(max_examples=examples(120))
    @given(kitchens())
    def test_needs_at_their_prices_are_the_sum_over_the_stages(self, made: Kitchen) -> None:
        made = replace(made, settings=replace(made.settings, byproduct_method="credit"))
        costing = Costing(made, DAY, EXACT)
        assume(not any(costing.of(recipe.id).balance.problems for recipe in made.recipes))
        for recipe in made.recipes:
            lines = {id(line): costing.line_cost(line) for line in costing.of(recipe.id).balance.lines}
            values = sum(
                (
                    taken.mass * fraction(taken.take_out.value_per_kg) / 1000
                    for stage in costing.of(recipe.id).balance.stages
                    for taken in stage.taken_out
                ),
                NOTHING,
            )
            self.assertNotIn(None, lines.values())
            over_stages = sum((cost for cost in lines.values() if cost is not None), NOTHING) - values
            # Exactly, not nearly: both are fractions.
            self.assertEqual(costing.of(recipe.id).cost, over_stages)

    @settings(max_examples=examples(60))
    @given(kitchens())
    def test_the_last_stage_passes_on_the_cost_of_the_batch(self, made: Kitchen) -> None:
        costing = Costing(made, DAY)
        for recipe in made.recipes:
            sheet = sheet_of(costing, recipe.id)
            self.assertAlmostEqual(sheet.stages[-1].cost * Decimal("1.02"), sheet.batch.food_cost, 18)

    @settings(max_examples=examples(80))
    @given(kitchens())
    def test_every_method_conserves_the_money_of_each_stage(self, made: Kitchen) -> None:
        for method in METHODS:
            costing = Costing(replace(made, settings=replace(made.settings, byproduct_method=method)), DAY)
            for recipe in made.recipes:
                sheet, kept = sheet_of(costing, recipe.id), NOTHING
                passed = {stage.id: fraction(stage.cost) for stage in sheet.stages}
                for here, stage in zip(costing.of(recipe.id).balance.stages, sheet.stages, strict=True):
                    came_in = sum((fraction(line.cost or "0") for line in sheet.lines if line.stage == stage.id), NOTHING)
                    came_in += sum((passed[one.stage] * fraction(one.share) for one in here.stage.from_), NOTHING)
                    if here is costing.of(recipe.id).balance.stages[-1]:
                        came_in += kept
                    kept += passed[stage.id] * fraction(here.left_over)
                    # What came in went on, or is carried by what was taken out; disposal below zero is paid on top.
                    gone = sum((fraction(taken.value or "0") for taken in stage.taken_out), NOTHING)
                    self.assertAlmostEqual(float(came_in), float(passed[stage.id] + gone), 12, f"{method}, {stage.id}")

    @settings(max_examples=examples(80))
    @given(thousandths(100, 900), st.lists(st.tuples(thousandths(0, 50), thousandths(-500, 9000)), max_size=3),
           thousandths(1, 9000), st.sampled_from(METHODS))  # fmt: skip
    def test_what_falls_off_costs_its_user_what_it_spares_the_main_product(
        self, yield_: str, parts: list[tuple[str, str]], value: str, method: ByproductMethod
    ) -> None:
        byproducts = [{"name": f"part {place}", "share": part[0], "value_per_kg": part[1]} for place, part in enumerate(parts)]
        if Decimal(yield_) > Decimal("0.8"):
            yield_ = "0.8"
        root = {"id": "root", "preparations": [
            {"id": "cut", "name": "cut", "yield": yield_, "value_per_kg": value, "byproducts": byproducts}]}  # fmt: skip
        main = {"id": "main", "stages": [
            {"id": "s", "lines": [{"item": "root", "quantity": "7 kg", "preparation": "cut"}]}]}  # fmt: skip
        leftovers = [
            {"item": "root", "preparation": "cut", "byproduct": one["name"], "quantity": f"{7 * Decimal(one['share'])} kg"}
            for one in byproducts if Decimal(one["share"]) > 0
        ]  # fmt: skip
        other = {"id": "other", "stages": [{"id": "s", "lines": leftovers}]}
        costing = Costing(kitchen([root], [main, other], {"root": "1.37"}, byproduct_method=method), DAY, EXACT)
        # Whatever the method: with everything used, disposal is neither paid nor is a cent lost or counted twice.
        self.assertEqual(costing.of("main").cost + costing.of("other").cost, 7 * fraction("1.37"))

    @settings(max_examples=examples(60))
    @given(st.lists(st.tuples(thousandths(1, 900), thousandths(-500, 9000)), min_size=1, max_size=3),
           thousandths(1, 9000), st.sampled_from(METHODS))  # fmt: skip
    def test_what_is_taken_out_costs_its_user_what_it_spares_the_batch(
        self, parts: list[tuple[str, str]], value: str, method: ByproductMethod
    ) -> None:
        outs = [{"name": f"out {n}", "mass": f"{mass} kg", "value_per_kg": worth} for n, (mass, worth) in enumerate(parts)]
        stock = {"id": "stock", "stages": [
            {"id": "a", "lines": [{"item": "bones", "quantity": "5 kg"}], "take_out": outs, "value_per_kg": value},
            {"id": "b", "from": [{"stage": "a", "share": "0.75"}],
             "lines": [{"item": "water", "quantity": "1 kg"}]}]}  # fmt: skip
        lines_ = [{"recipe": "stock", "byproduct": out["name"], "quantity": out["mass"]} for out in outs]
        other = {"id": "other", "stages": [{"id": "s", "lines": lines_}]}
        made = kitchen(ITEMS, [stock, other], PRICES, byproduct_method=method)
        costing = Costing(made, DAY, EXACT)
        self.assertEqual(costing.of("other").problems, ())
        self.assertEqual(costing.of("stock").cost + costing.of("other").cost, 5 * fraction("0.89") + fraction("0.004"))

    @settings(max_examples=examples(60))
    @given(kitchens(), st.sampled_from(sorted(PRICES)), st.integers(1, 500))
    def test_a_cent_more_costs_its_need(self, made: Kitchen, item: str, cents: int) -> None:
        costing = Costing(made, DAY, EXACT)
        dearer = {**PRICES, item: str(Decimal(PRICES[item]) + Decimal(cents) / 100)}
        offers = kitchen(ITEMS, [], dearer).offers
        after = Costing(Kitchen(**{**{f: getattr(made, f) for f in made.__slots__}, "offers": offers}), DAY, EXACT)
        for recipe in made.recipes:
            need = costing.of(recipe.id).needs.borne.get(item, NOTHING)
            change = after.of(recipe.id).cost - costing.of(recipe.id).cost
            self.assertEqual(change, need * fraction(f"{cents}/100") / 1000)
