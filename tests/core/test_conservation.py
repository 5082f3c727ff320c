"""Conservation of mass and of money over random recipes, with exact fractions through the same engine."""

from __future__ import annotations

import unittest
from decimal import Decimal
from fractions import Fraction
from typing import Any

from hypothesis import assume, given, settings
from hypothesis import strategies as st

from potrel.core.balance import balance_of
from potrel.core.costing import Costing
from potrel.core.facts import Facts
from potrel.core.kitchen import Kitchen
from potrel.core.sheet import sheet_of
from tests.kitchens import DAY, kitchen

ITEMS: list[dict[str, Any]] = [
    {"id": "root", "cooking": [{"method": "roast", "yield": "0.7"}], "preparations": [
        {"id": "peeled", "name": "peeled", "yield": "0.7", "byproducts": [
            {"name": "peel", "share": "0.2", "value_per_kg": "0.35"}]}]},
    {"id": "beans", "preparations": [{"id": "soaked", "name": "soaked", "yield": "2.3"}]},
    {"id": "water", "density": "1"},
    {"id": "bones", "cooking": [{"method": "roast", "yield": "0.83"}]},
]  # fmt: skip
PRICES = {"root": "1.37", "beans": "2.93", "water": "0.004", "bones": "0.89"}
PREPARATIONS: dict[str, list[str | None]] = {
    "root": [None, "peeled"],
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
    item = draw(st.sampled_from(sorted(PRICES)))
    line = {"item": item, "quantity": f"{draw(thousandths(1, 9000))} kg", "basis": draw(st.sampled_from(["AP", "EP"]))}
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
            "residue": draw(thousandths(0, 200)),
        }  # fmt: skip
        if draw(st.booleans()):
            value = draw(st.integers(-200, 400).map(lambda n: str(Decimal(n) / 100)))
            stage["take_out"] = [{"name": "skimmed", "mass": "1 mg", "value_per_kg": value}]
        stages.append(stage)
        left[f"s{number}"] = Decimal(1)
    return {"id": id, "name": id, "stages": stages}


@st.composite
def kitchens(draw: st.DrawFn) -> Kitchen:
    made: list[dict[str, Any]] = []
    for number in range(draw(st.integers(1, 3))):
        made.append(draw(recipes(f"r{number}", [one["id"] for one in made])))
    method = draw(st.sampled_from(["credit", "main_bears_all"]))
    return kitchen(ITEMS, made, PRICES, byproduct_method=method, seasoning_allowance=Decimal("0.02"))


def fraction(value: Decimal | str) -> Any:
    """An exact fraction, for the engine and for the sums beside it."""
    return Fraction(value)


NOTHING = fraction("0")


class Conservation(unittest.TestCase):
    @settings(max_examples=120, deadline=None, derandomize=True, database=None)
    @given(kitchens())
    def test_mass_in_is_mass_out_and_losses(self, made: Kitchen) -> None:
        facts = Facts(made, DAY)
        for recipe in made.recipes:
            balance = balance_of(recipe, facts, fraction)
            # A pot that boiled dry, or of which more is taken out than there is, is reported and not balanced.
            assume(not balance.problems)
            out = {one.stage.id: one.mass_out for one in balance.stages}
            taken_from: dict[str, Any] = {}
            for here in balance.stages:
                stage = here.stage
                put_in = sum((line.pot for line in balance.lines if line.stage == stage.id and line.id != "top_up"), NOTHING)
                for inflow in stage.from_:
                    part = out[inflow.stage] * fraction(inflow.share)
                    taken_from[inflow.stage] = taken_from.get(inflow.stage, NOTHING) + part
                    put_in += part
                self.assertEqual(here.mass_in, put_in)
                topped = sum((line.pot for line in balance.lines if line.stage == stage.id and line.id == "top_up"), NOTHING)
                gone = here.mass_in + topped - here.changed
                taken = sum((one.mass for one in here.taken_out), NOTHING)
                self.assertEqual(here.mass_in + topped, here.mass_out + gone + taken + here.residue)
                self.assertGreaterEqual(here.mass_out, 0)
                if stage.change.rule in ("keep", "evaporate", "top_up"):
                    self.assertGreaterEqual(gone, 0)
            for here in balance.stages[:-1]:
                left = here.mass_out * fraction(here.left_over)
                self.assertEqual(taken_from.get(here.stage.id, NOTHING) + left, here.mass_out)

    @settings(max_examples=120, deadline=None, derandomize=True, database=None)
    @given(kitchens())
    def test_needs_at_their_prices_are_the_sum_over_the_stages(self, made: Kitchen) -> None:
        costing = Costing(made, DAY, fraction)
        assume(not any(costing.balance(recipe.id).problems for recipe in made.recipes))
        for recipe in made.recipes:
            lines = {id(line): costing.line_cost(line) for line in costing.balance(recipe.id).lines}
            values = sum(
                (
                    taken.mass * fraction(taken.take_out.value_per_kg) / 1000
                    for stage in costing.balance(recipe.id).stages
                    for taken in stage.taken_out
                ),
                NOTHING,
            )
            if not costing.facts.credits_count:
                values = NOTHING
            self.assertNotIn(None, lines.values())
            over_stages = sum((cost for cost in lines.values() if cost is not None), NOTHING) - values
            # Exactly, not nearly: both are fractions.
            self.assertEqual(costing.cost(recipe.id), over_stages)

    @settings(max_examples=60, deadline=None, derandomize=True, database=None)
    @given(kitchens())
    def test_the_last_stage_passes_on_the_cost_of_the_batch(self, made: Kitchen) -> None:
        costing = Costing(made, DAY)
        for recipe in made.recipes:
            sheet = sheet_of(costing, recipe.id)
            self.assertAlmostEqual(sheet.stages[-1].cost * Decimal("1.02"), sheet.batch.food_cost, 18)

    @settings(max_examples=60, deadline=None, derandomize=True, database=None)
    @given(kitchens(), st.sampled_from(sorted(PRICES)), st.integers(1, 500))
    def test_a_cent_more_costs_its_need(self, made: Kitchen, item: str, cents: int) -> None:
        costing = Costing(made, DAY, fraction)
        dearer = {**PRICES, item: str(Decimal(PRICES[item]) + Decimal(cents) / 100)}
        offers = kitchen(ITEMS, [], dearer).offers
        after = Costing(Kitchen(**{**{f: getattr(made, f) for f in made.__slots__}, "offers": offers}), DAY, fraction)
        for recipe in made.recipes:
            need = costing.needs(recipe.id).items.get(item, NOTHING)
            change = after.cost(recipe.id) - costing.cost(recipe.id)
            self.assertEqual(change, need * fraction(f"{cents}/100") / 1000)
