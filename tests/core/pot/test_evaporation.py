"""What goes up in steam: the surface below the boil, the flame at it, lids, fat, altitude, and what cannot be."""

from __future__ import annotations

import unittest
from decimal import Decimal
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from potrel.core.errors import OutOfRange
from potrel.core.kitchen.vessels import EFFICIENCY
from potrel.core.pot.evaporation import (
    IN_A_POT,
    ROLLING,
    Flame,
    Room,
    Shape,
    Steaming,
    driven_rate,
    open_surface_rate,
    oven_steaming,
    shape_filled,
    steaming,
    wall_loss,
    wall_m2,
)
from potrel.core.pot.water import air_pressure, boiling_point, heat_of_evaporation, vapour_pressure
from tests.kitchens import d

_SEA = Room()
_POT = d("0.126")
_GAS = Flame(d(9), EFFICIENCY["gas"])


def found(celsius: str, room: Room = _SEA, **more: Any) -> Steaming:
    return steaming(Shape(_POT), d(celsius), room, **more)


def rate(celsius: str, room: Room = _SEA, **more: Any) -> Decimal:
    return found(celsius, room, **more).kg_per_hour


class Below(unittest.TestCase):
    def test_it_goes_with_the_surface_and_not_with_the_batch(self) -> None:
        one, two = (open_surface_rate(d(surface), d(90), _SEA) for surface in ("0.1", "0.2"))
        self.assertAlmostEqual(two, 2 * one, places=20)

    def test_a_lid_and_a_layer_of_fat_hold_it_back(self) -> None:
        whole = rate("90")
        self.assertEqual(rate("90", lid_factor=d("0.1")), whole / 10)
        self.assertEqual(rate("90", under_fat=True), whole / 2)

    def test_damp_air_takes_less_and_a_draught_more(self) -> None:
        still = rate("85")
        self.assertLess(rate("85", Room(relative_humidity=d("0.9"))), still)
        self.assertGreater(rate("85", Room(air_speed=d("0.5"))), still)

    def test_a_flame_that_is_too_small_cannot_hold_the_heat(self) -> None:
        small = found("95", flame=Flame(d(2), EFFICIENCY["gas"], power_share=d("0.5")), capacity_l=d(40))
        self.assertTrue(small.cannot_hold)
        asked = open_surface_rate(_POT, d(95), _SEA) * IN_A_POT
        self.assertEqual((small.limit, small.asked_kg_per_hour), ("heat", asked))
        enough = found("95", flame=_GAS, capacity_l=d(40))
        self.assertEqual((enough.limit, enough.cannot_hold), ("surface", False))

    @given(st.decimals("60", "97", places=1), st.decimals("0.1", "1.5", places=1))
    def test_hotter_water_never_steams_less(self, celsius: Decimal, more: Decimal) -> None:
        low, high = (open_surface_rate(_POT, one, _SEA) for one in (celsius, celsius + more))
        self.assertLess(low, high)


class AtTheBoil(unittest.TestCase):
    def test_a_rolling_boil_is_all_that_anybody_keeps(self) -> None:
        strong = Flame(d(30), EFFICIENCY["gas"])
        for flame in (None, strong):
            self.assertEqual(rate("100", flame=flame, capacity_l=d(40)), ROLLING * _POT)
            self.assertEqual(rate("130", flame=flame, capacity_l=d(40), lid_factor=d("0.1")), ROLLING * _POT / 10)
        self.assertEqual(found("100", flame=strong).limit, "rolling")

    def test_a_flame_that_is_less_or_turned_up_on_purpose_sets_it(self) -> None:
        wall = wall_loss(d(40), boiling_point(_SEA.pressure), _SEA)
        # (9 kW * 0.35 - what the walls lose) over the heat of evaporation: 3600 s of it.
        wanted = (d("3.15") - wall) / heat_of_evaporation(_SEA.boils_at) * 3600
        self.assertEqual(rate("100", flame=_GAS, capacity_l=d(40)), wanted)
        self.assertEqual(rate("100", flame=_GAS, capacity_l=d(40), lid_factor=d("0.1")), wanted / 10)
        strong = Flame(d(30), EFFICIENCY["gas"])
        self.assertEqual(rate("100", flame=strong, turned_up=True), driven_rate(strong, d(0), _SEA.boils_at))

    def test_on_a_mountain_it_boils_before(self) -> None:
        # At 2,000 m water boils at 93.3 C.
        up = Room(altitude_m=d(2000))
        self.assertAlmostEqual(up.boils_at, d("93.3"), delta=d("0.1"))
        self.assertEqual((found("95", up).limit, found("90", up).limit), ("rolling", "surface"))

    def test_walls_that_take_all_leave_none(self) -> None:
        self.assertEqual(driven_rate(Flame(d("0.5"), EFFICIENCY["gas"]), d("0.2"), d(100)), 0)

    def test_a_wall_by_hand(self) -> None:
        # A cylinder of 100 l as high as wide: 0.503 m across, 0.994 m2 of side and bottom, 75 K over the room, 10 W/m2 K.
        self.assertAlmostEqual(wall_loss(d(100), d(100), _SEA), d("0.745"), places=3)
        self.assertEqual(wall_loss(d(100), d(20), _SEA), 0)


class InAnOven(unittest.TestCase):
    def test_its_air_drives_it_by_surface_and_wall(self) -> None:
        of = Shape(d("0.07"), d("0.3"))
        boils_at = _SEA.boils_at
        wanted = d("0.03") * d("0.37") * (160 - boils_at) / heat_of_evaporation(boils_at) * 3600
        open_ = oven_steaming(of, d(160), _SEA, d(1), d(1))
        self.assertAlmostEqual(open_.kg_per_hour, wanted, places=20)
        self.assertEqual(open_.limit, "oven")
        self.assertAlmostEqual(oven_steaming(of, d(160), _SEA, d("0.3"), d("0.1")).kg_per_hour, wanted * d("0.3"), places=20)

    def test_it_is_never_less_than_barely_moving_on_the_hob(self) -> None:
        of = Shape(d("0.07"), d("0.3"))
        for oven_c, celsius in (("100", _SEA.boils_at - 10), ("80", d(80))):
            cool = oven_steaming(of, d(oven_c), _SEA, d(1), d(1))
            self.assertEqual((cool.kg_per_hour, cool.limit), (steaming(of, celsius, _SEA).kg_per_hour, "surface"))


class WithoutAVessel(unittest.TestCase):
    def test_it_is_as_high_as_wide_and_filled_to_four_fifths(self) -> None:
        of = shape_filled(d("80"))
        # 100 l as high as wide are 50.3 cm across.
        self.assertAlmostEqual(of.across_cm, d("50.3"), delta=d("0.05"))
        self.assertEqual((of.wall_m2, of.assumed), (wall_m2(d(100)), True))
        # Eight times as much is twice as wide: four times the surface.
        self.assertAlmostEqual(shape_filled(d(640)).surface_m2, 4 * of.surface_m2, places=20)


class WhatCannotBe(unittest.TestCase):
    def test_out_of_range(self) -> None:
        for call, value in (
            (vapour_pressure, "-1"), (vapour_pressure, "201"), (heat_of_evaporation, "300"), (boiling_point, "0.5"),
            (boiling_point, "2000"), (air_pressure, "-501"), (air_pressure, "12000"),
        ):  # fmt: skip
            with self.subTest(f"{call.__name__} {value}"), self.assertRaises(OutOfRange):
                call(d(value))

    def test_the_two_ways_of_the_saturation_line_agree(self) -> None:
        for celsius in ("1", "25", "95", "100", "150"):
            self.assertAlmostEqual(boiling_point(vapour_pressure(d(celsius))), d(celsius), places=6)
