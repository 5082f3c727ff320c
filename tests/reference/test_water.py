"""Water and its steam against the outside: CoolProp 8.0 (IAPWS-95), IAPWS's own tables, the standard atmosphere."""

from __future__ import annotations

import unittest
from decimal import Decimal

from CoolProp.CoolProp import PropsSI

from potrel.core.pot.evaporation import Room, open_surface_rate
from potrel.core.pot.water import air_pressure, boiling_point, heat_of_evaporation, vapour_pressure
from tests.kitchens import d

# From the cold tap to a pressure cooker.
_HEATS = (1, 5, 15, 25, 40, 60, 75, 80, 85, 90, 95, 99, 100, 110, 120, 150)


def _saturated(what: str, celsius: float, quality: int) -> float:
    return float(PropsSI(what, "T", celsius + 273.15, "Q", quality, "Water"))


class AgainstCoolProp(unittest.TestCase):
    def near(self, ours: Decimal, theirs: float, share: float) -> None:
        self.assertAlmostEqual(float(ours) / theirs, 1, delta=share, msg=f"{ours} beside {theirs}")

    def test_vapour_pressure(self) -> None:
        for celsius in _HEATS:
            with self.subTest(celsius):
                self.near(vapour_pressure(d(celsius)), _saturated("P", celsius, 0) / 1000, 0.001)

    def test_heat_of_evaporation(self) -> None:
        for celsius in _HEATS:
            theirs = _saturated("H", celsius, 1) - _saturated("H", celsius, 0)
            with self.subTest(celsius):
                self.near(heat_of_evaporation(d(celsius)), theirs / 1000, 0.001)

    def test_boiling_point_at_altitude(self) -> None:
        for altitude in (0, 500, 1000, 1600, 2500, 4000):
            pressure = air_pressure(d(altitude))
            theirs = float(PropsSI("T", "P", float(pressure) * 1000, "Q", 0, "Water")) - 273.15
            with self.subTest(altitude):
                self.assertAlmostEqual(float(boiling_point(pressure)), theirs, delta=0.03)


class AgainstTables(unittest.TestCase):
    def test_the_saturation_line_as_iapws_gives_it_to_check_programs(self) -> None:
        # IAPWS-IF97 (2012), tables 35 and 36.
        self.assertAlmostEqual(float(vapour_pressure(d("26.85"))), 3.53658941, places=7)
        self.assertAlmostEqual(float(boiling_point(d(100))) + 273.15, 372.755919, places=6)
        self.assertAlmostEqual(float(boiling_point(d(1000))) + 273.15, 453.035632, places=6)

    def test_the_standard_atmosphere(self) -> None:
        # ISO 2533:1975, pressure by geopotential altitude; values from memory.
        for altitude, pressure in ((0, 101.325), (1000, 89.8746), (2000, 79.4952), (3000, 70.1085), (5000, 54.0199)):
            self.assertAlmostEqual(float(air_pressure(d(altitude))), pressure, delta=0.002)

    def test_an_open_surface(self) -> None:
        # Carrier's form (ASHRAE Handbook, HVAC Applications; from memory) with Stefan's outflow, a kitchen of 25 C, half humid.
        for celsius, rate in ((85, "12.8"), (90, "18.0"), (95, "27.8")):
            self.assertAlmostEqual(open_surface_rate(d(1), d(celsius), Room()), d(rate), delta=d("0.05"))
        # Without the outflow it would be 8.6, 10.5 and 12.8.
        self.assertGreater(open_surface_rate(d(1), d(95), Room()), 2 * d("12.8"))

    def test_a_stockpot_at_a_bare_simmer(self) -> None:
        # 40 cm across: some 2.3 kg an hour (reckoned from the same handbook).
        self.assertAlmostEqual(open_surface_rate(d("0.126"), d(90), Room()), d("2.3"), delta=d("0.1"))
