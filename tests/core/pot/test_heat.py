"""Steam, time and energy of a stage by its vessel, its lid and its flame; what they lack, and what a cook should look at."""

from __future__ import annotations

import unittest
from decimal import Decimal
from fractions import Fraction
from itertools import pairwise
from typing import Any

from potrel.core.cost.costing import Costing
from potrel.core.errors import BadDocument, OutOfRange
from potrel.core.kitchen.settings import LidFactors
from potrel.core.kitchen.vessels import Vessel
from potrel.core.pot.balance import balance_of
from potrel.core.pot.day_view import DayView
from potrel.core.pot.evaporation import IN_A_POT, Room, open_surface_rate, wall_loss
from potrel.core.pot.inputs import Inputs
from potrel.core.pot.water import heat_of_evaporation
from potrel.core.tell.explanations import explain
from potrel.core.tell.sheet_parts import CostSheet, SheetStage
from potrel.formats.kitchen_json import part_from
from tests.kitchens import DAY, d, kitchen, sheet

KETTLE = {"id": "kettle", "capacity": "60 l", "diameter_cm": "40", "power_kw": "12", "heat_source": "gas"}
PAN = {"id": "pan", "surface_m2": "0.25", "power_kw": "5", "heat_source": "induction", "count": "2"}
OVEN = {"id": "oven", "capacity": "5 kg", "count": "2", "power_kw": "10", "heat_source": "oven"}
WATER = {"id": "water", "kind": "water", "density": "1"}
ITEMS: list[dict[str, Any]] = [WATER, {"id": "bones", "kind": "bones"}, {"id": "onion", "kind": "allium", "cooking": [
    {"method": "sweat", "yield": "0.8"}, {"method": "brown", "yield": "0.6"}]}]  # fmt: skip
STEAM = {"rule": "evaporate", "by": "vessel"}


def pot(*stages: dict[str, Any], vessels: list[dict[str, Any]] | None = None, **settings: Any) -> CostSheet:
    made = [{"id": f"s{n}", **stage} for n, stage in enumerate(stages)]
    of = kitchen(
        ITEMS, [{"stages": made}], {"water": "0.004", "bones": "1", "onion": "1"}, vessels or [KETTLE, PAN, OVEN], **settings
    )
    return sheet(of)


def simmered(litres: str = "20 l", vessels: list[dict[str, Any]] | None = None, settings: dict[str, Any] | None = None,
             **stage: Any) -> SheetStage:  # fmt: skip
    whole = {"method": "simmer", "vessel": "kettle", "heat": "bare_simmer", "minutes": "60", "change": STEAM,
             "lines": [{"item": "water", "quantity": litres}], **stage}  # fmt: skip
    return pot(whole, vessels=vessels, **(settings or {})).stages[0]


class SteamByTheVessel(unittest.TestCase):
    def test_it_is_that_of_the_surface_whatever_the_batch(self) -> None:
        surface = Vessel("v", "V", diameter_cm=d(40)).open_surface or Decimal(0)
        self.assertAlmostEqual(surface, d("0.1256637"), places=6)
        rate = open_surface_rate(surface, Room().boils_at - 10, Room()) * IN_A_POT
        for litres in ("10 l", "20 l", "40 l"):
            stage = simmered(litres)
            self.assertAlmostEqual(stage.evaporation_kg_per_hour or 0, rate, places=12)
            self.assertAlmostEqual(stage.changed_g, rate * 1000, places=9)
            self.assertEqual(stage.evaporation_by, "surface")
            self.assertAlmostEqual(stage.evaporation_low or 0, rate / 2, places=9)
            self.assertAlmostEqual(stage.evaporation_high or 0, rate * 2, places=9)

    def test_lids(self) -> None:
        off = simmered().changed_g
        for lid, share in (("off", "1"), ("ajar", "0.5"), ("on", "0.1"), ("sealed", "0")):
            self.assertAlmostEqual(simmered(lid=lid).changed_g, off * d(share), places=9)
        half_open = simmered(lid="covered_then_open", open_minutes="15")
        # A quarter of the time open, three quarters as under a lid that is on.
        self.assertAlmostEqual(half_open.changed_g, off * (d("0.25") + d("0.075")), places=9)
        own = {"lid_factors": LidFactors(d(1), d("0.4"), d("0.2"))}
        self.assertAlmostEqual(simmered(lid="on", settings=own).changed_g, off * d("0.2"), places=9)

    def test_a_lid_that_comes_off_nobody_says_when_counts_as_off_and_is_told(self) -> None:
        found = pot({"method": "simmer", "vessel": "kettle", "heat": "simmer", "minutes": "60", "lid": "covered_then_open",
                     "change": STEAM, "lines": [{"item": "water", "quantity": "20 l"}]})  # fmt: skip
        self.assertTrue(found.complete)
        self.assertIn("count as open", found.warnings[0].message)

    def test_fat_halves_it(self) -> None:
        self.assertAlmostEqual(simmered(fat_layer=True).changed_g, simmered().changed_g / 2, places=9)

    def test_at_the_boil_it_rolls_and_no_more(self) -> None:
        surface = d("0.1256637061435917295")
        for lid, share in ((None, "1"), ("ajar", "0.5"), ("on", "0.1")):
            stage = simmered("20 l", heat="boil", lid=lid)
            self.assertAlmostEqual(stage.evaporation_kg_per_hour or 0, 40 * surface * d(share), places=9)
            self.assertEqual(stage.evaporation_by, "rolling")
        self.assertEqual(simmered(temperature_c="130").evaporation_kg_per_hour, simmered(heat="boil").evaporation_kg_per_hour)

    def test_a_flame_that_is_said_or_reduces_sets_it(self) -> None:
        room = Room()
        for said, share in (("1", "1"), ("0.9", "0.9")):
            net = d(12) * d("0.35") * d(share) - wall_loss(d(60), room.boils_at, room)
            stage = simmered("30 l", heat="boil", power_share=said)
            self.assertAlmostEqual(
                stage.evaporation_kg_per_hour or 0, net / heat_of_evaporation(room.boils_at) * 3600, places=9
            )
            self.assertEqual(stage.evaporation_by, "heat")
        reduced = pot({"method": "reduce", "vessel": "kettle", "heat": "boil", "change": {"rule": "reduce", "to": "10 l"},
                       "lines": [{"item": "water", "quantity": "15 l"}]}).stages[0]  # fmt: skip
        self.assertEqual(reduced.evaporation_by, "heat")

    def test_height_never_turns_a_simmer_into_a_boil(self) -> None:
        rates = []
        for altitude in range(0, 2501, 250):
            stage = simmered(heat="simmer", settings={"altitude_m": d(altitude)})
            self.assertEqual(stage.evaporation_by, "surface")
            rates.append(stage.evaporation_kg_per_hour or Decimal(0))
        # Nowhere a jump: each step is within a twentieth of the one before.
        self.assertTrue(all(abs(after / before - 1) < d("0.05") for before, after in pairwise(rates)), rates)

    def test_a_flame_too_small_is_told_and_sets_the_rate(self) -> None:
        weak = {**KETTLE, "power_kw": "3"}
        stages = {"method": "simmer", "vessel": "kettle", "heat": "simmer", "minutes": "60", "change": STEAM,
                  "lines": [{"item": "water", "quantity": "20 l"}]}  # fmt: skip
        found = pot(stages, vessels=[weak, PAN, OVEN])
        self.assertEqual(found.stages[0].evaporation_by, "heat")
        self.assertEqual([one.message_code for one in found.warnings], ["flame_too_small"])
        self.assertEqual(pot(stages).warnings, [])

    def test_what_boils_dry_is_a_problem_and_says_when(self) -> None:
        found = pot({"method": "simmer", "vessel": "kettle", "heat": "bare_simmer", "minutes": "600", "change": STEAM,
                     "lines": [{"item": "water", "quantity": "3 l"}]})  # fmt: skip
        self.assertFalse(found.complete)
        rate = found.stages[0].evaporation_kg_per_hour or Decimal(1)
        self.assertIn(f"boils dry after {int(3 / rate * 60)} minutes", found.problems[0].message)

    def test_bones_do_not_boil_away(self) -> None:
        # 4 kg of bones are 1.6 kg of water by common practice: all that can go up beside the litre poured on.
        found = pot({"method": "simmer", "vessel": "kettle", "heat": "bare_simmer", "minutes": "900", "change": STEAM,
                     "lines": [{"item": "water", "quantity": "1 l"}, {"item": "bones", "quantity": "4 kg"}]})  # fmt: skip
        self.assertAlmostEqual(found.stages[0].mass_out_g, d(2400), places=9)
        self.assertEqual([one.message_code for one in found.problems], ["boils_dry"])

    def test_much_steam_where_nothing_is_to_be_reduced_is_told(self) -> None:
        def codes(**stage: Any) -> list[str]:
            return [one.message_code for one in pot({
                "method": "simmer", "vessel": "kettle", "heat": "simmer", "minutes": "240", "change": STEAM,
                "lines": [{"item": "water", "quantity": "12 l"}], **stage}).warnings]  # fmt: skip

        self.assertEqual(codes(), ["much_goes_up"])
        self.assertEqual(codes(lid="on"), [])
        self.assertEqual(codes(method="reduce"), [])

    def test_without_a_vessel_one_is_assumed_and_told(self) -> None:
        found = pot({"method": "simmer", "heat": "bare_simmer", "minutes": "60", "change": STEAM,
                     "lines": [{"item": "water", "quantity": "16 l"}]})  # fmt: skip
        # 20 l as high as wide: 29.4 cm across, 0.0679 m2.
        wanted = open_surface_rate(d("0.0679"), Room().boils_at - 10, Room()) * IN_A_POT
        self.assertAlmostEqual(found.stages[0].evaporation_kg_per_hour or 0, wanted, delta=wanted / 500)
        self.assertEqual((found.complete, [one.message_code for one in found.warnings]), (True, ["vessel_assumed"]))
        self.assertIn("29 cm wide", found.warnings[0].message)

    def test_in_the_oven_its_heat_sets_it(self) -> None:
        stage = simmered(heat=None, in_oven=True, temperature_c="160", minutes="120", lid="on")
        self.assertEqual(stage.evaporation_by, "oven")
        self.assertEqual(simmered(vessels=[{**KETTLE, "heat_source": "oven"}], heat=None, temperature_c="160", minutes="120",
                                  lid="on").evaporation_kg_per_hour, stage.evaporation_kg_per_hour)  # fmt: skip
        self.assertEqual(simmered(heat=None, in_oven=True, temperature_c="160", lid="sealed").changed_g, 0)

    def test_under_pressure_nothing_goes_up_unless_it_is_said(self) -> None:
        self.assertEqual(simmered(method="pressure", heat="boil").changed_g, 0)
        self.assertGreater(simmered(method="pressure", heat="boil", lid="off").changed_g, 0)

    def test_what_is_poured_on_a_tray_goes_up_and_no_more(self) -> None:
        roast = {"method": "roast", "vessel": "oven", "temperature_c": "220", "minutes": "60", "change": STEAM,
                 "lines": [{"item": "bones", "quantity": "4 kg", "cook_yield": "0.8"},
                           {"item": "water", "quantity": "1 l"}]}  # fmt: skip
        tray = {**OVEN, "surface_m2": "0.3"}
        found = pot(roast, vessels=[KETTLE, PAN, tray])
        self.assertEqual((found.complete, found.stages[0].changed_g), (True, 1000))
        self.assertEqual([one.message_code for one in found.warnings], ["tray_dry"])
        foil = pot({**roast, "lid": "on", "minutes": "30"}, vessels=[KETTLE, PAN, tray])
        self.assertLess(foil.stages[0].changed_g, 1000)
        self.assertEqual(foil.warnings, [])

    def test_a_stated_rate_beside_what_physics_allows(self) -> None:
        within = simmered(change={"rule": "evaporate", "kg_per_hour": "1"})
        self.assertEqual((within.evaporation_by, within.evaporation_low, within.evaporation_high), ("stated", None, None))
        beyond, physics = simmered(change={"rule": "evaporate", "kg_per_hour": "9"}), simmered()
        self.assertEqual(beyond.evaporation_kg_per_hour, 9)
        self.assertEqual((beyond.evaporation_low, beyond.evaporation_high), (physics.evaporation_low, physics.evaporation_high))

    def test_it_weighs_out_in_a_pot_of_its_own_numbers(self) -> None:
        # In fractions as well: every number of the engine is asked for as one.
        of = kitchen(ITEMS, [{"stages": [{"id": "s", "method": "simmer", "vessel": "kettle", "heat": "simmer", "minutes": "30",
                     "change": STEAM, "lines": [{"item": "water", "quantity": "9 l"}]}]}], vessels=[KETTLE])  # fmt: skip
        view = DayView(of, DAY, Inputs(Fraction))  # type: ignore[arg-type]
        here = balance_of(view.recipes["pot"], view).stages[0]
        self.assertIsInstance(here.mass_out, Fraction)
        self.assertIsInstance(here.energy, Fraction)


class WhatIsLacking(unittest.TestCase):
    def lack(self, **stage: Any) -> str:
        whole = {"method": "simmer", "vessel": "kettle", "heat": "simmer", "minutes": "60", "change": STEAM,
                 "lines": [{"item": "water", "quantity": "20 l"}], **stage}  # fmt: skip
        bare = {"id": "bare", "capacity": "20 l"}
        plain = {"id": "plain", "diameter_cm": "30"}
        found = pot({key: value for key, value in whole.items() if value is not None}, vessels=[KETTLE, bare, plain])
        self.assertFalse(found.complete)
        self.assertEqual(len(found.problems), 1)
        self.assertEqual(found.problems[0].stage, "s0")
        self.assertTrue(found.problems[0].affects_mass)
        return found.problems[0].message

    def test_each_is_asked_for(self) -> None:
        self.assertIn("how wide", self.lack(vessel="bare"))
        self.assertIn("how hot", self.lack(heat=None))
        self.assertIn("how long", self.lack(minutes=None))
        self.assertIn("says nothing of a pan", self.lack(method="fry", heat=None, temperature_c="200"))
        self.assertIn("how hot that is", self.lack(in_oven=True))

    def test_what_cannot_be_is_refused_in_the_document(self) -> None:
        for document, where in (
            ({"power_kw": "5"}, "what heats"),
            ({"surface_m2": "0"}, "more than 0"),
            ({"surface_m2": "0.1", "diameter_cm": "40"}, "either"),
            ({"count": "1.5"}, "whole"),
            ({"efficiency": "1.2"}, "at most 1"),
            ({"heat_source": "coal"}, ""),
        ):
            with self.subTest(document), self.assertRaises(BadDocument) as caught:
                part_from(Vessel, {"id": "v", "name": "V", **document})
            self.assertIn(where, str(caught.exception))
        with self.assertRaises(BadDocument):
            pot({"change": {"rule": "evaporate", "by": "vessel", "kg_per_hour": "1"}})
        with self.assertRaises((BadDocument, OutOfRange)):
            pot({"heat": "tepid"})


class Reducing(unittest.TestCase):
    def test_it_tells_how_long_it_takes(self) -> None:
        stage = {"method": "reduce", "vessel": "kettle", "heat": "boil", "change": {"rule": "reduce", "to": "10 l"},
                 "lines": [{"item": "water", "quantity": "15 l"}]}  # fmt: skip
        found = pot(stage).stages[0]
        rate = found.evaporation_kg_per_hour or Decimal(1)
        self.assertAlmostEqual(found.minutes_needed or 0, 5 / rate * 60, places=9)

    def test_too_short_a_time_is_told(self) -> None:
        stage = {"method": "reduce", "vessel": "kettle", "heat": "boil", "minutes": "20",
                 "change": {"rule": "reduce", "to": "10 l"}, "lines": [{"item": "water", "quantity": "15 l"}]}  # fmt: skip
        self.assertEqual([one.message_code for one in pot(stage).warnings], ["too_short"])
        self.assertEqual(pot({**stage, "minutes": "90"}).warnings, [])

    def test_without_a_vessel_it_is_reduced_as_ever(self) -> None:
        found = pot({"change": {"rule": "reduce", "to": "10 l"}, "lines": [{"item": "water", "quantity": "15 l"}]})
        self.assertTrue(found.complete)
        self.assertIsNone(found.stages[0].minutes_needed)


class Energy(unittest.TestCase):
    def test_heat_steam_and_walls_by_hand(self) -> None:
        stage = simmered(change={"rule": "evaporate", "kg_per_hour": "2"}, heat="simmer")
        room = Room()
        hot = room.boils_at - 5
        kilojoules = 20 * 4 * (hot - 20) + 2 * heat_of_evaporation(hot) + wall_loss(d(60), hot, room) * 3600
        self.assertAlmostEqual(stage.energy_kwh or 0, kilojoules / d("0.35") / 3600, places=9)

    def test_in_an_oven_the_flame_of_its_pot_heats_nothing(self) -> None:
        found = simmered(heat=None, in_oven=True, temperature_c="160", method="braise")
        self.assertEqual((found.energy_kwh, found.minutes_to_heat), (None, None))
        self.assertIn("is in an oven, not on the flame of the", found.energy_lack or "")
        self.assertEqual(simmered(heat=None, in_oven=True, temperature_c="160", energy_kwh="3").energy_kwh, 3)

    def test_what_flows_in_hot_is_not_warmed_again(self) -> None:
        first = {"method": "simmer", "vessel": "kettle", "heat": "simmer", "minutes": "30",
                 "lines": [{"item": "water", "quantity": "10 l"}]}  # fmt: skip
        still = {"method": "simmer", "vessel": "kettle", "heat": "simmer", "minutes": "30", "from": [{"stage": "s0"}]}
        cold = {**still, "lines": [{"item": "water", "quantity": "10 l"}]}
        hot = Room().boils_at - 5
        walls = wall_loss(d(60), hot, Room()) * 1800 / d("0.35") / 3600
        self.assertAlmostEqual(pot(first, still).stages[1].energy_kwh or 0, walls, places=9)
        added = pot(first, cold).stages[1]
        self.assertAlmostEqual((added.energy_kwh or 0) - walls, d(10) * 4 * (hot - 20) / d("0.35") / 3600, places=9)
        # A cold addition stops it: so many minutes until it simmers again.
        self.assertGreater(added.minutes_to_heat or 0, 10)
        self.assertEqual(pot(first, {**still, "start_c": "100"}).stages[1].minutes_to_heat, 0)

    def test_an_oven_takes_half_its_power(self) -> None:
        found = pot({"method": "roast", "vessel": "oven", "temperature_c": "220", "minutes": "45",
                     "lines": [{"item": "bones", "quantity": "4 kg"}]}).stages[0]  # fmt: skip
        self.assertEqual(found.energy_kwh, d("10") * d("0.5") * 45 / 60)

    def test_a_stated_figure_goes_before(self) -> None:
        self.assertEqual(simmered(energy_kwh="3.5").energy_kwh, d("3.5"))

    def test_what_it_lacks_is_told_and_nothing_concluded(self) -> None:
        of = {"method": "simmer", "vessel": "kettle", "minutes": "30", "lines": [{"item": "water", "quantity": "10 l"}]}
        stage = pot(of).stages[0]
        self.assertIsNone(stage.energy_kwh)
        self.assertIn("how hot", stage.energy_lack or "")
        self.assertIn("how many minutes", pot({**of, "heat": "simmer", "minutes": None}).stages[0].energy_lack or "")
        cooled = {"method": "cool", "from": [{"stage": "s0"}]}
        again = {"method": "simmer", "vessel": "kettle", "heat": "simmer", "minutes": "5", "from": [{"stage": "s1"}]}
        self.assertIn("starts from", pot({**of, "heat": "simmer"}, cooled, again).stages[2].energy_lack or "")

    def test_it_reaches_the_portion_only_when_all_of_it_is_known(self) -> None:
        served = [{"id": "bowl", "name": "Bowl", "size": "300 ml"}]
        stage = {"id": "s", "method": "simmer", "vessel": "kettle", "minutes": "60", "heat": "simmer",
                 "lines": [{"item": "water", "quantity": "30 l"}]}  # fmt: skip

        def portion(**more: Any) -> Decimal | None:
            of = kitchen(ITEMS, [{"stages": [{**stage, **more}], "servings": served}], {"water": "0.004"}, [KETTLE],
                         energy_price_per_kwh=d("0.30"))  # fmt: skip
            made = Costing(of, DAY).of("pot").portions[0]
            return made.energy_cost

        self.assertGreater(portion() or 0, 0)
        self.assertIsNone(portion(heat=None))

    def test_every_figure_of_it_has_a_working_that_ends_in_it(self) -> None:
        stages = [
            {"id": "a", "method": "simmer", "vessel": "kettle", "heat": "simmer", "minutes": "30", "change": STEAM,
             "fat_layer": True, "lines": [{"item": "water", "quantity": "10 l"}]},
            {"id": "b", "method": "reduce", "vessel": "kettle", "heat": "boil", "from": [{"stage": "a"}], "minutes": "400",
             "change": {"rule": "reduce", "to": "5 l"}},
            {"id": "c", "method": "sweat", "vessel": "pan", "heat": "simmer", "minutes": "10",
             "lines": [{"item": "onion", "quantity": "1 kg"}]},
        ]  # fmt: skip
        of = kitchen(ITEMS, [{"stages": stages}], {"water": "0.004", "onion": "1"}, [KETTLE, PAN])
        costing, told = Costing(of, DAY), sheet(of)
        for stage in told.stages:
            for name in ("evaporation_kg_per_hour", "minutes_needed", "minutes_to_heat", "minutes_to_dry", "energy_kwh"):
                figure = explain(costing, "pot", f"stage/{stage.id}/{name}")
                self.assertEqual(figure.value, getattr(stage, name), f"{stage.id} {name}")
                self.assertTrue(figure.value is not None or figure.note, f"{stage.id} {name}")
        self.assertGreater(told.stages[2].minutes_to_dry or 0, 0)


class TooMuch(unittest.TestCase):
    def codes(self, **stage: Any) -> list[str]:
        return [one.message_code for one in pot(stage).warnings]

    def test_trays_lie_side_by_side(self) -> None:
        roast = {"method": "roast", "vessel": "oven", "minutes": "40"}
        bones = {"item": "bones", "cook_yield": "1"}
        self.assertEqual(self.codes(**roast, lines=[{**bones, "quantity": "9 kg"}]), [])
        self.assertEqual(self.codes(**roast, lines=[{**bones, "quantity": "11 kg"}]), ["trays_too_heavy"])

    def test_a_pot_is_filled_one_at_a_time(self) -> None:
        self.assertEqual(self.codes(vessel="kettle", lines=[{"item": "water", "quantity": "61 l"}]), ["vessel_too_small"])

    def test_what_lies_too_deep_steams(self) -> None:
        # 12 kg a square metre of pan (common practice, no source), over both of them.
        brown = {"method": "brown", "vessel": "pan", "minutes": "15"}
        self.assertEqual(self.codes(**brown, lines=[{"item": "onion", "quantity": "5.9 kg"}]), [])
        self.assertEqual(self.codes(**brown, lines=[{"item": "onion", "quantity": "6.2 kg"}]), ["crowded"])
        self.assertEqual(self.codes(method="sweat", vessel="pan", lines=[{"item": "onion", "quantity": "9 kg"}]), [])


class Cleaning(unittest.TestCase):
    def test_a_vessel_is_cleaned_once_a_batch(self) -> None:
        vessel = {**KETTLE, "cleanup_minutes": "7"}
        stage = {"method": "simmer", "vessel": "kettle", "heat": "simmer", "minutes": "30", "attended_minutes": "10",
                 "lines": [{"item": "water", "quantity": "10 l"}]}  # fmt: skip
        again = {"method": "finish", "vessel": "kettle", "from": [{"stage": "s0"}]}
        self.assertEqual(pot(stage, again, vessels=[vessel]).batch.attended_minutes, 17)


if __name__ == "__main__":
    unittest.main()
