"""What a pot asks: a figure that hangs on what nobody said is told as such, and never taken silently."""

from __future__ import annotations

import unittest
from typing import Any

from potrel.core.cost.costing import Costing
from potrel.core.cost.unsure import Doubts
from potrel.core.kitchen.kitchen import Kitchen
from potrel.core.numbers.spread import Pert
from potrel.core.pot.inputs import Asked
from potrel.core.tell.cost_sheet import sheet_of
from potrel.core.tell.explanations import explain
from potrel.core.tell.sheet_parts import CostSheet
from tests.kitchens import DAY, d, kitchen, sheet

ITEMS: list[dict[str, Any]] = [
    {"id": "bones", "kind": "bones", "name": "Chicken bones", "cooking": [{"method": "roast", "yield": "0.8"}]},
    {"id": "water", "kind": "water", "density": "1"},
]
BONES, WATER = {"item": "bones", "quantity": "4 kg"}, {"item": "water", "quantity": "6 l"}
SIMMER = {"id": "simmer", "method": "simmer", "lines": [BONES, WATER]}


def of(*stages: dict[str, Any], **more: Any) -> Kitchen:
    return kitchen(ITEMS, [{"stages": list(stages), **more}], {"bones": "1", "water": "0"})


def pot(*stages: dict[str, Any], **more: Any) -> CostSheet:
    return sheet(of(*stages, **more))


def asked(found: CostSheet) -> list[str]:
    return [one.params["about"] for one in found.warnings if one.message_code == "asked"]


class AsItIsWritten(unittest.TestCase):
    def test_it_is_used_and_what_the_pot_reckons_stands_beside_it(self) -> None:
        found = pot(SIMMER, written_yield="8 l", servings=[{"id": "cup", "name": "Cup", "size": "400 ml"}])
        batch = found.batch
        self.assertEqual((batch.basis, batch.mass_g, batch.computed_g, batch.written_g), ("written", 8000, 10_000, 8000))
        self.assertIsNone(batch.measured_g)
        self.assertEqual(found.servings[0].portions, 20)
        (far,) = [one for one in found.warnings if one.message_code == "written_is_far"]
        self.assertEqual((far.params["percent"], far.params["than"], far.params["reckoned"]), ("20", "less", "10"))

    def test_near_enough_nothing_is_told_and_a_measured_batch_goes_before(self) -> None:
        near = pot(SIMMER, written_yield="9.5 kg")
        self.assertNotIn("written_is_far", [one.message_code for one in near.warnings])
        measured = {"measured_yield": {"quantity": "7 l", "on": "2026-11-01"}, "written_yield": "8 l"}
        self.assertEqual(pot(SIMMER, **measured, use_measured_yield=True).batch.mass_g, 7000)
        # Measured and not used: as it is written.
        self.assertEqual((pot(SIMMER, **measured).batch.basis, pot(SIMMER, **measured).batch.mass_g), ("written", 8000))

    def test_it_is_an_estimate_that_reaches_as_far_as_the_pot_reckons(self) -> None:
        costing = Costing(of(SIMMER, written_yield="8 l"), DAY)
        self.assertEqual(costing.of("pot").confidence.estimate, Costing(of(SIMMER), DAY).of("pot").confidence.estimate + 1)
        doubt = Doubts(costing, 1, count=200).of(Asked("written_yield", "pot"), d(8000))
        assert doubt is not None
        self.assertEqual(doubt.spread, Pert(d(6800), d(8000), d(10_000)))

    def test_its_working_leads_to_what_the_recipe_says(self) -> None:
        costing = Costing(of(SIMMER, written_yield="8 l"), DAY)
        whole = explain(costing, "pot", "batch/mass_g")
        self.assertEqual((whole.value, [one.figure for one in whole.inputs]), (8000, ["batch/written_g"]))
        self.assertIn("as the recipe is written", str(explain(costing, "pot", "batch/written_g").inputs[0].source))


class TakenOutAsItIs(unittest.TestCase):
    def test_without_a_factor_it_weighs_what_its_cooking_left(self) -> None:
        roast = {"id": "roast", "method": "roast", "lines": [BONES]}
        out = [{"name": "bones", "of": ["bones"]}]
        simmer = {"id": "simmer", "method": "simmer", "from": [{"stage": "roast"}], "lines": [WATER], "take_out": out}
        found = pot(roast, simmer)
        # 4 kg of bones are 3.2 kg when they come out of the oven: so much leaves, not what was raw.
        self.assertEqual((found.stages[1].taken_out[0].mass_g, found.batch.mass_g), (3200, 6000))
        figure = explain(Costing(of(roast, simmer), DAY), "pot", "stage/simmer/taken_1_mass_g")
        self.assertEqual((figure.value, figure.inputs[0].figure), (3200, "line/roast/bones/own_g"))


class Questions(unittest.TestCase):
    def test_bones_that_nobody_takes_out(self) -> None:
        found = pot(SIMMER)
        self.assertEqual(asked(found), ["bones"])
        self.assertIn("when do the Chicken bones come out", found.warnings[-1].message)
        for stages in (
            ({**SIMMER, "take_out": [{"name": "spent", "of": ["bones"]}]},),
            ({**SIMMER, "take_out": [{"name": "the carcasses", "mass": "3 kg"}]},),
            # What is only roasted goes into another pot.
            ({"id": "roast", "method": "roast", "lines": [BONES]},),
        ):
            self.assertEqual(asked(pot(*stages)), [], stages)

    def test_a_sieve_of_which_nobody_said_what_stays_in_it(self) -> None:
        strain = {"id": "strain", "method": "strain", "from": [{"stage": "simmer"}]}
        self.assertEqual(asked(pot(SIMMER, strain)), ["sieve"])
        ticked = {**strain, "take_out": [{"name": "bones", "of": ["bones"], "assumed": True}]}
        found = pot(SIMMER, ticked)
        # What is ticked stays there, with the question, until somebody says so.
        self.assertEqual((asked(found), found.batch.mass_g), (["sieve"], 6000))
        self.assertEqual(asked(pot(SIMMER, {**strain, "take_out": [{"name": "bones", "of": ["bones"]}]})), [])
        self.assertEqual(asked(pot(SIMMER, {**strain, "method": "skim"})), ["skimmed", "bones"])

    def test_a_long_open_simmer_that_loses_nothing(self) -> None:
        water = {"id": "simmer", "method": "simmer", "lines": [WATER]}
        for more, wanted in (
            ({"minutes": "240"}, ["steam"]), ({"minutes": "60", "lid": "ajar"}, ["steam"]), ({"minutes": "59"}, []),
            ({"heat": "simmer"}, ["steam"]), ({"temperature_c": "85", "lid": "on"}, []),
            ({"minutes": "240", "lid": "on"}, []), ({"minutes": "240", "method": "pressure"}, []),
            ({"minutes": "240", "change": {"rule": "evaporate", "kg_per_hour": "0.5"}}, []), ({}, []),
            ({"minutes": "240", "came_out": {"quantity": "6 l", "on": "2026-11-01"}}, []),
            ({"method": "reduce"}, ["reduced"]), ({"method": "reduce", "change": {"rule": "yield", "yield": "0.5"}}, []),
        ):  # fmt: skip
            found = pot({**water, **more})
            self.assertEqual(asked(found), wanted, more)
            self.assertEqual(found.batch.mass_g, 3000 if "yield" in str(more) else 4000 if "0.5" in str(more) else 6000)

    def test_what_is_browned_on_in_a_stage_of_its_own(self) -> None:
        first = {"id": "simmer", "method": "sweat", "lid": "on", "lines": [WATER]}
        brown = {"id": "brown", "method": "brown", "minutes": "20", "from": [{"stage": "simmer"}]}
        for more, wanted in (
            ({}, ["browned"]), ({"method": "roast"}, ["browned"]), ({"minutes": "5"}, []), ({"minutes": None}, []),
            ({"change": {"rule": "yield", "yield": "0.7"}}, []), ({"lines": [WATER]}, []),
            ({"came_out": {"quantity": "4 kg", "on": "2026-11-01"}}, []),
        ):  # fmt: skip
            self.assertEqual(asked(pot(first, {**brown, **more})), wanted, more)
        costing = Costing(of(first, brown), DAY)
        doubt = Doubts(costing, 1, count=200).of(Asked("change", "pot", "brown"), d(1))
        assert doubt is not None
        self.assertEqual((costing.of("pot").confidence.estimate, doubt.spread), (1, Pert(d("0.6"), d(1), d(1))))

    def test_a_stage_that_is_called_topped_up_and_gets_nothing(self) -> None:
        first = {"id": "simmer", "method": "simmer", "lines": [WATER]}
        for name, wanted in (("Top up", ["topped"]), ("Fill it up again", ["topped"]), ("Stopped upstairs", [])):
            top = {"id": "top", "name": name, "from": [{"stage": "simmer"}]}
            self.assertEqual(asked(pot(first, top)), wanted, name)
            self.assertEqual(asked(pot(first, {**top, "lines": [WATER]})), [], name)
            told = {**top, "change": {"rule": "top_up", "to": "8 l", "with": {"item": "water"}}}
            self.assertEqual((asked(pot(first, told)), pot(first, told).batch.mass_g), ([], 8000))

    def test_what_nobody_said_makes_the_cost_unsure(self) -> None:
        costing = Costing(of({**SIMMER, "minutes": "240", "take_out": [{"name": "spent", "of": ["bones"]}]}), DAY)
        self.assertEqual(costing.of("pot").confidence.estimate, 1)
        doubt = Doubts(costing, 1, count=200).of(Asked("change", "pot", "simmer"), d(1))
        assert doubt is not None
        self.assertEqual(doubt.spread, Pert(d("0.6"), d(1), d(1)))
        self.assertTrue(sheet_of(costing, "pot").complete, "the cost is complete, and says what it leaves out")
