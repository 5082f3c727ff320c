"""What goes up in steam: the surface below the boil, the flame at it, lids, fat, altitude, and what cannot be."""

from __future__ import annotations

import unittest
from decimal import Decimal

from hypothesis import given
from hypothesis import strategies as st

from potrel.core.errors import OutOfRange
from potrel.core.kitchen.vessels import EFFICIENCY
from potrel.core.pot.evaporation import Flame, Room, driven_rate, open_surface_rate, steaming, wall_loss
from potrel.core.pot.water import air_pressure, boiling_point, heat_of_evaporation, vapour_pressure
from tests.kitchens import d

_SEA = Room()
_POT = d("0.126")
_GAS = Flame(d(9), EFFICIENCY["gas"])


def rate(celsius: str, room: Room = _SEA, **more: Decimal | Flame | bool | None) -> Decimal | None:
    found = steaming(_POT, d(celsius), room, **more)
    return None if found is None else found.kg_per_hour


class Below(unittest.TestCase):
    def test_it_goes_with_the_surface_and_not_with_the_batch(self) -> None:
        one, two = (open_surface_rate(d(surface), d(90), _SEA) for surface in ("0.1", "0.2"))
        self.assertAlmostEqual(two, 2 * one, places=20)

    def test_a_lid_and_a_layer_of_fat_hold_it_back(self) -> None:
        whole = rate("90")
        assert whole is not None
        self.assertEqual(rate("90", lid_factor=d("0.1")), whole / 10)
        self.assertEqual(rate("90", under_fat=True), whole / 2)

    def test_damp_air_takes_less_and_a_draught_more(self) -> None:
        still = rate("85")
        assert still is not None
        self.assertLess(rate("85", Room(relative_humidity=d("0.9"))) or 0, still)
        self.assertGreater(rate("85", Room(air_speed=d("0.5"))) or 0, still)

    def test_a_flame_that_is_too_small_cannot_hold_the_heat(self) -> None:
        small = Flame(d(2), EFFICIENCY["gas"], power_share=d("0.5"))
        found = steaming(_POT, d(95), _SEA, flame=small, capacity_l=d(40))
        assert found is not None
        self.assertTrue(found.cannot_hold)
        self.assertEqual((found.limit, found.asked_kg_per_hour), ("heat", open_surface_rate(_POT, d(95), _SEA)))
        enough = steaming(_POT, d(95), _SEA, flame=_GAS, capacity_l=d(40))
        assert enough is not None
        self.assertEqual((enough.limit, enough.cannot_hold), ("surface", False))

    @given(st.decimals("60", "97", places=1), st.decimals("0.1", "1.5", places=1))
    def test_hotter_water_never_steams_less(self, celsius: Decimal, more: Decimal) -> None:
        low, high = (open_surface_rate(_POT, one, _SEA) for one in (celsius, celsius + more))
        self.assertLess(low, high)


class AtTheBoil(unittest.TestCase):
    def test_the_flame_sets_it_whatever_the_lid(self) -> None:
        wall = wall_loss(d(40), boiling_point(_SEA.pressure), _SEA)
        # (9 kW * 0.35 - what the walls lose) over the heat of evaporation: 3600 s of it.
        wanted = (d("3.15") - wall) / heat_of_evaporation(_SEA.boils_at) * 3600
        self.assertEqual(rate("100", flame=_GAS, capacity_l=d(40), lid_factor=d("0.1")), wanted)
        self.assertEqual(rate("130", flame=_GAS, capacity_l=d(40)), wanted)

    def test_without_a_power_nobody_knows(self) -> None:
        self.assertIsNone(rate("100"))
        self.assertIsNone(rate("99"))
        self.assertIsNotNone(rate("98.9"))

    def test_on_a_mountain_it_boils_before(self) -> None:
        # At 2,000 m water boils at 93.3 C: a "simmer" of 95 C is a boil there.
        up = Room(altitude_m=d(2000))
        self.assertAlmostEqual(up.boils_at, d("93.3"), delta=d("0.1"))
        self.assertIsNone(rate("95", up))
        self.assertEqual(rate("95", up, flame=_GAS), driven_rate(_GAS, d(0), up.boils_at))

    def test_walls_that_take_all_leave_none(self) -> None:
        self.assertEqual(driven_rate(Flame(d("0.5"), EFFICIENCY["gas"]), d("0.2"), d(100)), 0)

    def test_a_wall_by_hand(self) -> None:
        # A cylinder of 100 l as high as wide: 0.503 m across, 0.994 m2 of side and bottom, 75 K over the room, 10 W/m2 K.
        self.assertAlmostEqual(wall_loss(d(100), d(100), _SEA), d("0.745"), places=3)
        self.assertEqual(wall_loss(d(100), d(20), _SEA), 0)


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
