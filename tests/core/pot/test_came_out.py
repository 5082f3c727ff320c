"""What came out of a stage: it counts, it conserves, and it gives back what its vessel steams."""

from __future__ import annotations

import unittest
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from potrel.core.cost.costing import Costing
from potrel.core.errors import BadDocument
from potrel.core.kitchen.kitchen import Kitchen
from potrel.core.tell.explanations import explain
from potrel.core.tell.sheet_parts import CostSheet
from tests.kitchens import DAY, d, kitchen, recipe, sheet

_KETTLE: dict[str, Any] = {"id": "kettle", "capacity": "40 l", "diameter_cm": "40"}
_STEAM = {"rule": "evaporate", "by": "vessel"}
_ON = "2026-11-20"


def of(vessel: dict[str, Any] | None = None, **stage: Any) -> Kitchen:
    whole = {"id": "s", "method": "simmer", "heat": "simmer", "vessel": "kettle", "minutes": "60", "change": _STEAM,
             "lines": [{"item": "water", "quantity": "20 l"}], **stage}  # fmt: skip
    items = [{"id": "water", "kind": "water", "density": "1"}]
    return kitchen(items, [{"stages": [whole]}], {"water": "0.1"}, [{**_KETTLE, **(vessel or {})}])


def pot(vessel: dict[str, Any] | None = None, **stage: Any) -> CostSheet:
    return sheet(of(vessel, **stage))


class CameOut(unittest.TestCase):
    def test_it_counts_in_the_place_of_the_rule_and_stands_beside_it(self) -> None:
        plain, weighed = pot(), pot(came_out={"quantity": "18.5 l", "on": _ON})
        stage = weighed.stages[0]
        self.assertEqual((stage.mass_out_g, stage.changed_g, weighed.batch.mass_g), (18500, 1500, 18500))
        self.assertEqual((stage.reckoned_g, stage.came_out_g), (plain.stages[0].mass_out_g, 18500))
        # 1.5 kg in an hour.
        self.assertEqual((stage.measured_kg_per_hour, plain.stages[0].measured_kg_per_hour), (d("1.5"), None))

    def test_a_dipstick_and_where_it_should_stand(self) -> None:
        # By hand: a cylinder of 40 cm, 14 cm deep, holds 0.2 * 0.2 * pi * 0.14 m3.
        stage = pot(came_out={"depth_cm": "14", "on": _ON}).stages[0]
        self.assertAlmostEqual(float(stage.mass_out_g), 3.14159265 * 0.04 * 0.14 * 1e6, delta=0.1)
        plain = pot().stages[0]
        self.assertAlmostEqual(float(plain.dipstick_cm or 0), float(plain.mass_out_g) / (3.14159265 * 0.04) / 1e4, places=2)
        dipped = {"id": "s", "lines": [{"item": "water", "quantity": "1 kg"}], "came_out": {"depth_cm": "14", "on": _ON}}
        nowhere = kitchen([{"id": "water", "kind": "water"}], [{"stages": [dipped]}])
        self.assertIn(
            "say in which vessel",
            sheet(nowhere).problems[0].message,
        )
        self.assertIsNone(pot({"diameter_cm": None}).stages[0].dipstick_cm)

    def test_it_says_more_than_a_rule_that_lacks_something(self) -> None:
        found = pot(minutes=None, came_out={"quantity": "18 kg", "on": _ON})
        self.assertEqual((found.complete, found.batch.mass_g, found.stages[0].measured_kg_per_hour), (True, 18000, None))
        more = pot(came_out={"quantity": "21 kg", "on": _ON})
        self.assertEqual([one.message_code for one in more.warnings], ["more_came_out"])

    def test_a_quantity_or_a_depth(self) -> None:
        for wrong in ({"on": _ON}, {"on": _ON, "quantity": "1 l", "depth_cm": "4"}):
            with self.assertRaises(BadDocument):
                recipe({"stages": [{"id": "s", "came_out": wrong}]})

    def test_its_working(self) -> None:
        costing = Costing(of(residue="0.02", came_out={"quantity": "18.5 l", "on": _ON}), DAY)
        for name in ("after_g", "changed_g", "residue_g", "mass_out_g", "measured_kg_per_hour", "dipstick_cm"):
            figure = explain(costing, "pot", f"stage/s/{name}")
            self.assertIsNotNone(figure.value, name)
        self.assertEqual(explain(costing, "pot", "stage/s/mass_out_g").value, costing.of("pot").balance.stages[0].mass_out)

    @given(st.decimals(1, 20, places=2), st.sampled_from(("0", "0.02", "0.3")), st.decimals(0, 5, places=2))
    def test_mass_is_conserved(self, litres: Any, residue: str, taken: Any) -> None:
        out = [{"name": "fat", "mass": f"{taken} kg"}] if taken > 0 else []
        stage = pot(came_out={"quantity": f"{litres} l", "on": _ON}, residue=residue, take_out=out).stages[0]
        self.assertAlmostEqual(float(stage.mass_out_g), float(litres) * 1000, places=6)
        whole = stage.mass_out_g + stage.residue_g + sum((one.mass_g for one in stage.taken_out), d(0)) + stage.changed_g
        self.assertAlmostEqual(float(whole), float(stage.mass_in_g), places=6)


class Learned(unittest.TestCase):
    RATES = (
        {"heat": "simmer", "kg_per_hour": "1.2", "on": _ON},
        {"heat": "simmer", "kg_per_hour": "1.6", "on": _ON},
        {"heat": "boil", "kg_per_hour": "9", "on": _ON},
        {"heat": "simmer", "lid": "on", "kg_per_hour": "0.2", "on": _ON},
    )

    def test_their_mean_goes_before_physics_for_that_lid_and_heat(self) -> None:
        vessel = {"rates": list(self.RATES)}
        for lid, heat, rate, way in (
            (None, "simmer", "1.4", "learned"), ("off", "simmer", "1.4", "learned"), ("on", "simmer", "0.2", "learned"),
            ("off", "boil", "9", "learned"), ("ajar", "simmer", None, "surface"), ("off", "bare_simmer", None, "surface"),
        ):  # fmt: skip
            stage = pot(vessel, lid=lid, heat=heat).stages[0]
            self.assertEqual(stage.evaporation_by, way)
            if rate is not None:
                self.assertEqual(stage.evaporation_kg_per_hour, d(rate))
                self.assertEqual((stage.evaporation_low, stage.evaporation_high), (d(rate) * d("0.75"), d(rate) * d("1.25")))

    def test_its_working_names_each_day(self) -> None:
        figure = explain(Costing(of({"rates": list(self.RATES)}), DAY), "pot", "stage/s/evaporation_kg_per_hour")
        self.assertEqual((figure.value, figure.inputs[0].name), (d("1.4"), f"on {_ON}"))
