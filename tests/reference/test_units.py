"""Units against an independent library: `pint`, whose definitions follow NIST Handbook 44 and SP 811."""

from __future__ import annotations

import unittest
from decimal import Decimal
from typing import Any

import pint

from potrel.core.numbers.units import GRAMS, MILLILITRES
from potrel.formats.ubl import unit_codes

# What pint calls our units. Imperial measures: UK Units of Measurement Regulations 1995.
_MASS = {"mg": "milligram", "g": "gram", "kg": "kilogram", "lb": "pound", "oz": "ounce"}
_METRIC = {"ml": "milliliter", "cl": "centiliter", "dl": "deciliter", "l": "liter"}
_US = {"gallon": "US_liquid_gallon", "quart": "US_liquid_quart", "pint": "US_pint", "cup": "US_liquid_cup",
       "fl oz": "US_fluid_ounce", "tbsp": "tablespoon", "tsp": "teaspoon"}  # fmt: skip
_IMPERIAL = {"gallon": "imperial_gallon", "quart": "imperial_quart", "pint": "imperial_pint", "fl oz": "imperial_fluid_ounce"}


class Units(unittest.TestCase):
    def setUp(self) -> None:
        self.registry: Any = pint.UnitRegistry(non_int_type=Decimal)

    def test_mass(self) -> None:
        self.assertEqual(set(_MASS), set(GRAMS))
        for unit, name in _MASS.items():
            self.assertEqual(GRAMS[unit], self.registry.Quantity(Decimal(1), name).to("gram").magnitude, unit)

    def test_volume(self) -> None:
        for system, names in (("us", {**_METRIC, **_US}), ("imperial", {**_METRIC, **_IMPERIAL})):
            for unit, name in names.items():
                ours = MILLILITRES["us" if system == "us" else "imperial"][unit]
                theirs = self.registry.Quantity(Decimal(1), name).to("milliliter").magnitude
                self.assertLess(abs(ours - theirs), Decimal("1e-20"), f"{system} {unit}")

    def test_metric_spoons_and_cup(self) -> None:
        # Common practice, no source: 250, 15 and 5 ml; the FDA label cup (21 CFR 101.9) is 240 ml and is not a unit here.
        for unit, millilitres in (("cup", 250), ("tbsp", 15), ("tsp", 5)):
            self.assertEqual(MILLILITRES["metric"][unit], millilitres)
            self.assertEqual(MILLILITRES["imperial"][unit], millilitres)

    def test_the_codes_of_trade(self) -> None:
        """What one of a code of UN/ECE Recommendation 20 holds (what a code means is from memory)."""
        for code, name in (
            ("HGM", "hectogram"), ("TNE", "metric_ton"), ("STI", "stone"), ("CWA", "US_hundredweight"), ("STN", "short_ton"),
            ("CWI", "UK_hundredweight"), ("LTN", "long_ton"), ("LBR", "pound"), ("ONZ", "ounce"), ("HLT", "hectoliter"),
            ("MTQ", "meter ** 3"), ("CMQ", "centimeter ** 3"), ("GLI", "imperial_gallon"), ("QTI", "imperial_quart"),
            ("PTI", "imperial_pint"), ("OZI", "imperial_fluid_ounce"), ("GLL", "US_liquid_gallon"), ("QTL", "US_liquid_quart"),
            ("PTL", "US_pint"), ("OZA", "US_fluid_ounce"),
        ):  # fmt: skip
            amount, unit = unit_codes()[code]
            sizes, base = (GRAMS, "gram") if unit in GRAMS else (MILLILITRES["metric"], "milliliter")
            theirs = self.registry.Quantity(Decimal(1), name).to(base).magnitude
            self.assertLess(abs(amount * sizes[unit] / theirs - 1), Decimal("1e-15"), code)
