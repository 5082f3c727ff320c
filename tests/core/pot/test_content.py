"""Salt, nutrients, alcohol and thickness on their way through a pot: what leaves with what, what stays, what is not known."""

from __future__ import annotations

import unittest
from dataclasses import replace
from decimal import Decimal
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from potrel.core.cost.costing import Costing
from potrel.core.kitchen.composition import NUTRIENTS
from potrel.core.pot.held import HELD
from potrel.core.tell.cost_sheet import sheet_of
from potrel.core.tell.explanations import explain, figures_of
from potrel.core.tell.sheet_parts import CostSheet
from tests.examples import examples
from tests.kitchens import DAY, d, item, kitchen, sheet

FULL = {"salt_g": "1", "energy_kcal": "100", "fat_g": "5", "saturates_g": "2", "carbohydrate_g": "10", "sugars_g": "3",
        "protein_g": "3", "fibre_g": "1"}  # fmt: skip
NONE = dict.fromkeys(FULL, "0")
WATER = {"id": "water", "kind": "water", "density": "1"}
ITEMS: list[dict[str, Any]] = [
    WATER,
    {"id": "salt", "kind": "spice", "composition": {**NONE, "salt_g": "100"}},
    {"id": "bones", "kind": "bones", "composition": FULL},
    {"id": "meat", "kind": "meat", "composition": FULL, "cooking": [{"method": "fry", "yield": "0.5", "rendered": "0.4"}]},
    {"id": "root", "kind": "root", "composition": FULL, "thickening": "0.12",
     "preparations": [{"id": "peeled", "name": "peeled", "yield": "0.8"}]},
    {"id": "beans", "kind": "pulse", "composition": FULL, "thickening": "0.2",
     "preparations": [{"id": "soaked", "name": "soaked", "yield": "2"}]},
    {"id": "lentil", "kind": "pulse", "composition": FULL, "thickening": "0.5"},
    {"id": "flour", "kind": "dry goods", "composition": FULL, "thickening": "1"},
    {"id": "wine", "kind": "wine", "density": "1", "composition": {**NONE, "abv": "0.12"}},
    {"id": "herb", "kind": "herb"},
]  # fmt: skip
PRICES = {one["id"]: "1" for one in ITEMS}


def pot(*stages: dict[str, Any], servings: list[dict[str, Any]] | None = None, **more: Any) -> CostSheet:
    made = [{"id": f"s{n}", **stage} for n, stage in enumerate(stages)]
    return sheet(kitchen(ITEMS, [{"stages": made, "servings": servings or [], **more}], PRICES))


def lines(**quantities: str) -> list[dict[str, Any]]:
    return [{"item": item, "id": item, "quantity": quantity} for item, quantity in quantities.items()]


class Salt(unittest.TestCase):
    def test_a_brine_takes_its_share_along(self) -> None:
        # 10 kg with 100 g of salt: a tenth of the mass drained takes a tenth of the salt.
        found = pot({"lines": lines(water="9.9 kg", salt="100 g"), "take_out": [{"name": "brine", "mass": "1 kg"}]})
        self.assertEqual(found.batch.salt_g, 90)
        self.assertEqual(found.batch.salt_share, d("0.01"))
        self.assertEqual(found.stages[0].salt_share, d("0.01"))

    def test_bones_and_lifted_fat_take_none_unless_that_is_said(self) -> None:
        salted = {"lines": lines(water="8.9 kg", salt="100 g", bones="1 kg")}
        # The bones bring 10 g of their own, which the pot has by now.
        for out, salt in (
            ({"name": "bones", "of": ["bones"], "spent_factor": "1"}, "110"),
            ({"name": "lifted fat", "mass": "40 g"}, "110"),
            ({"name": "bones", "of": ["bones"], "spent_factor": "1", "dry": False}, "99"),
            ({"name": "picked meat", "mass": "1 kg", "dry": True}, "110"),
            ({"name": "skin and fat", "mass": "1 kg"}, "99"),
        ):
            with self.subTest(out):
                self.assertAlmostEqual(pot({**salted, "take_out": [out]}).batch.salt_g or 0, d(salt), places=9)

    def test_what_is_dry_is_no_part_of_what_it_is_spread_over(self) -> None:
        outs = [{"name": "meat", "mass": "0.9 kg"}, {"name": "bones", "of": ["bones"], "spent_factor": "1"}]
        found = pot({"lines": lines(water="8.9 kg", salt="90 g", bones="1 kg"), "take_out": outs})
        # 100 g over the 8.99 kg that are not bones.
        self.assertAlmostEqual(found.batch.salt_g or 0, 100 - 100 * d("0.9") / d("8.99"), places=9)

    def test_steam_leaves_it_and_what_sticks_takes_it(self) -> None:
        salted = lines(water="9.9 kg", salt="100 g")
        reduced = pot({"method": "reduce", "lines": salted, "change": {"rule": "reduce", "to": "5 kg"}})
        self.assertEqual((reduced.batch.salt_g, reduced.batch.salt_share), (100, d("0.02")))
        sieved = pot({"method": "strain", "lines": salted, "change": {"rule": "yield", "yield": "0.8"}})
        self.assertEqual((sieved.batch.salt_g, sieved.batch.salt_share), (80, d("0.01")))
        cooked = pot({"method": "simmer", "lines": salted, "change": {"rule": "yield", "yield": "0.8"}})
        self.assertEqual(cooked.batch.salt_g, 100)
        self.assertEqual(pot({"lines": salted, "residue": "0.05"}).batch.salt_g, 95)

    def test_what_goes_nowhere_takes_it_along(self) -> None:
        found = pot({"lines": lines(water="9.9 kg", salt="100 g")}, {"from": [{"stage": "s0", "share": "0.6"}]})
        self.assertEqual(found.batch.salt_g, 60)

    def test_what_to_add(self) -> None:
        found = pot({"lines": lines(water="9.95 kg", salt="50 g")})
        # (0.007 * 10 000 - 50) / 0.993: then it is 0.7% of what it is then.
        to_add = found.batch.salt_to_add_g or Decimal(0)
        self.assertAlmostEqual(to_add, d(20) / d("0.993"), places=9)
        self.assertAlmostEqual((50 + to_add) / (10_000 + to_add), d("0.007"), places=12)
        self.assertEqual(pot({"lines": lines(water="9 kg", salt="200 g")}).batch.salt_to_add_g, 0)

    def test_salt_that_is_added_is_not_what_was_there_before(self) -> None:
        bowl = [{"id": "bowl", "name": "Bowl", "size": "300 g"}]
        added = pot({"lines": lines(water="9.9 kg", salt="100 g")}, servings=bowl)
        (told,) = [one for one in added.warnings if one.message_code.startswith("salt")]
        # 1% where 0.7% is wanted: 30 g of the 100 g too much.
        self.assertEqual(told.message_code, "salt_added")
        self.assertIn("30 g", told.message)
        salty = {"id": "bacon", "kind": "meat", "composition": {**NONE, "salt_g": "4"}}
        both = {"stages": [{"id": "s", "lines": lines(water="7.45 kg", bacon="2.5 kg", salt="50 g")}], "servings": bowl}
        (told,) = [
            one
            for one in sheet(kitchen([*ITEMS, salty], [both], {**PRICES, "bacon": "8"})).warnings
            if "salt" in one.message_code
        ]
        # What the bacon brings is 1% of the pot, without what was added.
        self.assertEqual(told.message_code, "salt_over")
        self.assertIn("1%", told.message)
        self.assertIn("it comes with Bacon", told.message)
        self.assertNotIn("Salt", told.message)

    def test_who_makes_it_too_salty_is_named(self) -> None:
        bowl = [{"id": "bowl", "name": "Bowl", "size": "300 g"}]
        salted = {"lines": lines(water="9 kg", bones="10 kg", salt="20 g")}
        found = pot({"lines": lines(water="1 kg", bones="10 kg")}, servings=bowl)
        self.assertEqual([one.message_code for one in found.warnings], ["salt_over"])
        self.assertIn("Bones", found.warnings[0].message)
        self.assertEqual(pot(salted, servings=bowl).warnings, [])
        down = {"method": "reduce", "from": [{"stage": "s0"}], "change": {"rule": "reduce", "to": "9 kg"}}
        self.assertEqual([one.message_code for one in pot(salted, down, servings=bowl).warnings], ["salt_by_reduction"])


class Nutrients(unittest.TestCase):
    def test_they_leave_with_what_they_came_with(self) -> None:
        whole = {"lines": lines(water="9 kg", bones="1 kg")}
        self.assertEqual(pot(whole).batch.energy_kcal, 1000)
        out = {"name": "bones", "of": ["bones"], "spent_factor": "1"}
        self.assertEqual(pot({**whole, "take_out": [out]}).batch.energy_kcal, 0)
        # As far as they leave: a bone gives a twentieth of its weight to the pot.
        spent = pot({**whole, "take_out": [{**out, "spent_factor": "0.95"}]}).batch.energy_kcal
        self.assertEqual(spent, 50)

    def test_fat_that_rendered_stays_when_the_bits_are_taken(self) -> None:
        fried = {"method": "fry", "lines": lines(meat="1 kg")}
        # 500 g of bits and 200 g of fat: half of the bits out are 250 of 700.
        out = {"name": "bits", "of": ["meat"], "spent_factor": "0.25"}
        found = pot({**fried, "take_out": [out]}).batch
        self.assertAlmostEqual(found.fat_g or 0, 50 * (1 - d(250) / 700), places=9)

    def test_lifted_fat_is_fat(self) -> None:
        whole = {"lines": lines(water="9 kg", bones="10 kg")}
        found = pot({**whole, "take_out": [{"name": "lifted fat", "mass": "300 g"}]}).batch
        self.assertEqual((found.fat_g, found.saturates_g, found.energy_kcal), (200, 80, 10_000 - 300 * 9))
        self.assertEqual(found.protein_g, 300)
        # No more than there is.
        # More than there is cannot be lifted: the pot is not costed as if it could.
        much = pot({**whole, "take_out": [{"name": "lifted fat", "mass": "2 kg"}]})
        self.assertEqual((much.batch.fat_g, much.complete), (None, False))
        self.assertEqual([one.message_code for one in much.problems], ["more_fat_than_there_is"])
        unknown = pot({"lines": lines(herb="5 kg", meat="5 kg"), "take_out": [{"name": "lifted fat", "mass": "100 g"}]})
        self.assertIn("fat_not_known", [one.message_code for one in unknown.warnings])
        self.assertTrue(unknown.complete)

    def test_water_that_something_drinks_brings_none_and_peel_takes_its_own(self) -> None:
        of = {"id": "x", "item": "beans", "quantity": "1 kg", "preparation": "soaked"}
        self.assertEqual(pot({"lines": [of]}).batch.energy_kcal, 1000)
        peeled = {"id": "x", "item": "root", "quantity": "1 kg", "preparation": "peeled"}
        self.assertEqual(pot({"lines": [peeled]}).batch.energy_kcal, 800)

    def test_a_portion_has_what_lies_beside_it(self) -> None:
        garnish, packaging = {"item": "flour", "quantity": "10 g", "taken_by": "0.5"}, {"item": "herb", "quantity": "5 g"}
        bowl = [{"id": "bowl", "name": "Bowl", "size": "100 g", "garnish": [garnish], "packaging": [packaging]}]
        found = pot({"lines": lines(root="1 kg")}, servings=bowl).servings[0]
        # Who takes the garnish takes all of it; the packaging is not eaten.
        self.assertEqual(found.energy_kcal, 110)
        self.assertEqual(found.salt_g, d("1.1"))
        self.assertEqual(found.salt_share, d("0.01"))

    def test_energy_by_the_factors(self) -> None:
        bowl = [{"id": "bowl", "name": "Bowl", "size": "100 g"}]
        found = pot({"lines": lines(root="1 kg")}, servings=bowl).servings[0]
        # EU Regulation 1169/2011, Annex XIV: 9, 4, 4 and 2 kcal.
        self.assertEqual(found.energy_by_factors_kcal, 5 * 9 + 10 * 4 + 3 * 4 + 1 * 2)

    def test_through_another_recipe(self) -> None:
        stock = {"id": "stock", "name": "Stock", "stages": [{"id": "s", "lines": lines(water="9 kg", root="1 kg")}]}
        soup = {"id": "pot", "name": "Pot", "stages": [{"id": "s", "lines": [{"recipe": "stock", "quantity": "5 kg"}]}]}
        self.assertEqual(sheet(kitchen(ITEMS, [stock, soup], PRICES)).batch.energy_kcal, 500)


class NotKnown(unittest.TestCase):
    def test_it_is_named_and_the_cost_stays_complete(self) -> None:
        found = pot({"lines": lines(water="1 kg", herb="30 g", root="1 kg")})
        self.assertTrue(found.complete)
        self.assertIsNone(found.batch.energy_kcal)
        self.assertIsNone(found.batch.salt_share)
        self.assertIsNone(found.batch.salt_to_add_g)
        (lack,) = found.batch.lacks
        self.assertEqual((lack.item, lack.name), ("herb", "Herb"))
        # A herb would not thicken it anyway.
        self.assertEqual((set(lack.lacks), lack.traces), (set(HELD), []))
        # What is known is told as the least there is: 100 kcal in 100 g, and 1 g of salt.
        self.assertEqual((found.batch.energy_kcal_at_least, found.batch.salt_g_at_least), (1000, 10))
        self.assertIsNone(found.batch.alcohol_g_at_least)

    def test_too_little_to_matter_is_named_and_counts_as_none(self) -> None:
        """A hundredth of the mass put in, all that lacks a value together."""
        for herb, root, known in (("20 g", "1 kg", True), ("20.4 g", "1 kg", False)):
            found = pot({"lines": lines(water="1 kg", herb=herb, root=root)}).batch
            self.assertEqual(found.energy_kcal is not None, known, herb)
            (lack,) = found.lacks
            self.assertEqual((lack.name, set(lack.lacks if not known else lack.traces)), ("Herb", set(HELD)))
        # Two of them together are more than that.
        second = {"id": "spice", "kind": "spice"}
        stage = {"id": "s", "lines": lines(water="1 kg", herb="9 g", spice="9 g")}
        costing = Costing(kitchen([*ITEMS, second], [{"stages": [stage]}], {**PRICES, "spice": "1"}), DAY)
        self.assertEqual(len(sheet_of(costing, "pot").batch.lacks), 2)
        self.assertIsNone(sheet_of(costing, "pot").batch.salt_g)
        # In a recipe that goes in it weighs as much as goes in of it.
        stock = {"id": "stock", "name": "Stock", "stages": [{"id": "s", "lines": lines(water="1 kg", herb="100 g")}]}
        for quantity, told in (("2 kg", None), ("200 g", 90)):
            whole = {"stages": [{"id": "s", "lines": [{"recipe": "stock", "quantity": quantity}, *lines(root="9 kg")]}]}
            found = sheet(kitchen(ITEMS, [stock, whole], PRICES)).batch
            self.assertEqual(found.salt_g, told, quantity)
            self.assertEqual([lack.name for lack in found.lacks], ["Stock"] if told else ["Herb"])

    def test_a_sprig_on_a_portion_is_none_to_speak_of(self) -> None:
        for sprig, known in (("2 g", True), ("4 g", False)):
            bowl = {"id": "bowl", "name": "Bowl", "size": "300 g", "garnish": [{"item": "herb", "quantity": sprig}]}
            (portion,) = pot({"lines": lines(water="1 kg", root="1 kg")}, servings=[bowl]).servings
            self.assertEqual((portion.salt_g, portion.salt_g_at_least), (d("1.5"), None) if known else (None, d("1.5")))
            self.assertEqual([lack.name for lack in portion.lacks], ["Herb"])

    def test_what_is_taken_out_again_lacks_only_its_salt(self) -> None:
        out = {"name": "stalks", "of": ["herb"], "spent_factor": "1"}
        found = pot({"lines": lines(water="1 kg", herb="30 g"), "take_out": [out]})
        self.assertEqual(found.batch.energy_kcal, 0)
        self.assertIsNone(found.batch.salt_g)

    def test_a_drink_of_unknown_strength(self) -> None:
        of = kitchen([{"id": "wine", "kind": "wine", "density": "1", "composition": NONE}],
                     [{"stages": [{"id": "s", "lines": lines(wine="1 l")}]}], {"wine": "4"})  # fmt: skip
        self.assertIsNone(sheet(of).batch.alcohol_g)
        self.assertIn("alcohol_g", sheet(of).batch.lacks[0].lacks)


class Alcohol(unittest.TestCase):
    def left(self, *stages: dict[str, Any]) -> Decimal:
        return (pot(*stages).batch.alcohol_g or Decimal(0)) / (1000 * d("0.12") * d("0.789"))

    def test_for_the_whole_time_since_it_went_in(self) -> None:
        # USDA Table of Nutrient Retention Factors, release 6, value from memory.
        wine = lines(wine="1 l", water="9 l")
        for minutes, share in (("0", "0.85"), ("15", "0.40"), ("30", "0.35"), ("60", "0.25"), ("90", "0.20"), ("120", "0.10"),
                               ("150", "0.05"), ("400", "0.05"), ("45", "0.30"), ("7.5", "0.625")):  # fmt: skip
            self.assertEqual(self.left({"method": "simmer", "minutes": minutes, "lines": wine}), d(share), minutes)

    def test_over_all_stages_and_never_stage_by_stage(self) -> None:
        first = {"method": "simmer", "minutes": "30", "lines": lines(wine="1 l", water="9 l")}
        then = {"method": "simmer", "minutes": "30", "from": [{"stage": "s0"}]}
        self.assertEqual(self.left(first, then), d("0.25"))
        late = {"method": "simmer", "minutes": "15", "from": [{"stage": "s0"}], "lines": lines(wine="1 l")}
        self.assertEqual(self.left({"method": "simmer", "minutes": "60", "lines": lines(water="9 l")}, late), d("0.40"))

    def test_unheated_flamed_and_drained(self) -> None:
        wine = lines(wine="1 l", water="9 l")
        self.assertEqual(self.left({"method": "finish", "lines": wine}), 1)
        self.assertEqual(self.left({"method": "finish", "flamed": True, "lines": wine}), d("0.75"))
        self.assertEqual(self.left({"method": "fry", "minutes": "0", "flamed": True, "lines": wine}), d("0.75"))
        self.assertEqual(self.left({"method": "simmer", "minutes": "60", "flamed": True, "lines": wine}), d("0.25"))
        self.assertEqual(self.left({"lines": wine, "take_out": [{"name": "half", "mass": "5 kg"}]}), d("0.5"))

    def test_between_what_distils_and_the_liquid_that_is_left(self) -> None:
        # Rayleigh's distillation with a ratio of 9 (vapour over a weak liquid is some nine times as strong; value from memory)
        # takes the most that can go, and of the liquid that is left no more is alcohol than before.
        wine = lines(wine="1 l", water="9 l")
        for left in ("0.7", "0.5", "0.3"):
            for minutes in ("15", "60", "150"):
                down = {"method": "reduce", "minutes": minutes, "change": {"rule": "reduce", "to": f"{10 * d(left)} kg"}}
                kept = self.left({**down, "lines": wine})
                self.assertLessEqual(kept, d(left))
                self.assertGreaterEqual(kept, d(left) ** 9)

    def test_it_never_grows_stronger_by_boiling(self) -> None:
        # Wine and as much water, reduced to a quarter in ten minutes: by the clock 55% were left, of the liquid a quarter.
        reduced = {"method": "reduce", "minutes": "10", "change": {"rule": "reduce", "to": "0.5 kg"},
                   "lines": lines(wine="1 l", water="1 l")}  # fmt: skip
        self.assertEqual(self.left(reduced), d("0.25"))
        # Over two stages the shares of the liquid multiply; what is poured in between changes nothing of that.
        more = {"method": "reduce", "minutes": "5", "from": [{"stage": "s0"}],
                "lines": [{"item": "water", "quantity": "0.5 l", "id": "more"}],
                "change": {"rule": "reduce", "to": "0.5 kg"}}  # fmt: skip
        self.assertEqual(self.left(reduced, more), d("0.125"))

    def test_sealed_in_none_goes(self) -> None:
        wine = lines(wine="1 l", water="9 l")
        self.assertEqual(self.left({"method": "braise", "lid": "sealed", "minutes": "120", "lines": wine}), 1)
        self.assertEqual(self.left({"method": "pressure", "minutes": "40", "lines": wine}), 1)
        opened = {"method": "simmer", "minutes": "15", "from": [{"stage": "s0"}]}
        self.assertEqual(self.left({"method": "pressure", "minutes": "40", "lines": wine}, opened), d("0.40"))

    def test_its_energy_goes_with_it_once(self) -> None:
        # EU Regulation 1169/2011, Annex XIV: 7 kcal of a gram. 1 l of wine has 94.7 g.
        def energy(*recipes: dict[str, Any]) -> Decimal:
            item = {"id": "wine", "kind": "wine", "density": "1", "composition": {**NONE, "abv": "0.12", "energy_kcal": "80"}}
            water = {"id": "water", "kind": "water", "density": "1"}
            return sheet(kitchen([item, water], list(recipes), {"wine": "4", "water": "0"})).batch.energy_kcal or Decimal(0)

        wine = lines(wine="1 l", water="9 l")
        grams = 1000 * d("0.12") * d("0.789")
        simmered = {"id": "s", "method": "simmer", "minutes": "30", "lines": wine}
        self.assertAlmostEqual(energy({"stages": [simmered]}), 800 - grams * d("0.65") * 7, places=9)
        # Through another recipe what went there is not taken off again.
        base = {"id": "base", "name": "Base", "stages": [simmered]}
        soup = {"id": "pot", "stages": [{"id": "s", "method": "simmer", "minutes": "30",
                                         "lines": [{"recipe": "base", "quantity": "10 kg"}]}]}  # fmt: skip
        self.assertAlmostEqual(energy(base, soup), 800 - grams * d("0.75") * 7, places=9)

    def test_heated_nobody_says_how_long(self) -> None:
        self.assertIsNone(pot({"method": "simmer", "lines": lines(wine="1 l")}).batch.alcohol_g)

    def test_through_another_recipe_the_clock_goes_on(self) -> None:
        base = {"id": "base", "name": "Base", "stages": [
            {"id": "s", "method": "simmer", "minutes": "30", "lines": lines(wine="1 l", water="9 l")}]}  # fmt: skip
        soup = {"id": "pot", "name": "Pot", "stages": [
            {"id": "s", "method": "simmer", "minutes": "30", "lines": [{"recipe": "base", "quantity": "10 kg"}]}]}  # fmt: skip
        found = sheet(kitchen(ITEMS, [base, soup], PRICES)).batch.alcohol_g or Decimal(0)
        self.assertAlmostEqual(found, 1000 * d("0.12") * d("0.789") * d("0.25"), places=9)


class Thickness(unittest.TestCase):
    def thick(self, *stages: dict[str, Any]) -> Decimal:
        return (pot(*stages).batch.thickness_g_per_l or Decimal(0)).quantize(d("0.001"))

    def test_flour_in_a_litre(self) -> None:
        self.assertEqual(self.thick({"lines": lines(water="9.5 kg", flour="500 g")}), 50)

    def test_what_stays_whole_neither_thickens_nor_is_liquid(self) -> None:
        whole = {"method": "simmer", "lines": lines(water="9.5 kg", flour="500 g", root="5 kg")}
        self.assertEqual(self.thick(whole), 50)
        blended = {"method": "blend", "from": [{"stage": "s0"}]}
        self.assertEqual(self.thick(whole, blended), (d(500) + 600) / 15 * 1 // d("0.001") * d("0.001") + d("0.000"))

    def test_half_of_it_blended(self) -> None:
        whole = {"lines": lines(water="10 kg", root="2 kg")}
        half = {"method": "blend", "from": [{"stage": "s0", "share": "0.5"}]}
        together = {"from": [{"stage": "s0", "share": "0.5"}, {"stage": "s1"}]}
        # 1 kg blended thickens like 120 g of flour, 1 kg stays whole: 120 g in 11 l.
        self.assertEqual(self.thick(whole, half, together), d("10.909"))

    def test_lentils_fall_apart_by_themselves(self) -> None:
        self.assertEqual(self.thick({"lines": lines(water="9 kg", lentil="1 kg")}), 50)
        self.assertEqual(self.thick({"lines": lines(water="9 kg", beans="1 kg")}), 0)

    def test_the_same_peas_count_the_same_soaked_dry_or_boiled(self) -> None:
        # 1 kg of dry beans, strength 0.2 here, in 9 kg of water; blended in the end.
        blended = {"method": "blend", "from": [{"stage": "s0"}]}
        dry = self.thick({"method": "finish", "lines": lines(water="9 kg", beans="1 kg")}, blended)
        soaked = {"item": "beans", "quantity": "2 kg", "preparation": "soaked", "basis": "EP"}
        wet = self.thick({"method": "simmer", "lines": [*lines(water="8 kg"), soaked]}, blended)
        self.assertEqual((dry, wet), (20, 20))

    def test_okra_and_flour_spread_and_grains_do_not(self) -> None:
        def of(name: str, kind: str, *, blend: bool = False) -> Decimal:
            thing = {"id": "thing", "name": name, "kind": kind, "thickening": "0.8"}
            stages = [{"id": "s0", "lines": lines(water="9 kg", thing="1 kg")}]
            if blend:
                stages.append({"id": "s1", "method": "blend", "from": [{"stage": "s0"}]})
            made = kitchen([WATER, thing], [{"stages": stages}], {"water": "0", "thing": "1"})
            return (sheet(made).batch.thickness_g_per_l or Decimal(0)).quantize(d("0.001"))

        self.assertEqual((of("Okra", "vegetable"), of("Rice flour", "dry goods")), (80, 80))
        for grain in ("Rice, round", "Pearl barley", "Egg noodles"):
            self.assertEqual((of(grain, "dry goods"), of(grain, "dry goods", blend=True)), (0, 80), grain)

    def test_what_would_count_and_has_no_strength_makes_it_at_least(self) -> None:
        def of(kind: str, water: str = "10 kg") -> tuple[bool, str | None]:
            thing = {"id": "thing", "kind": kind}
            flour = {"id": "flour", "kind": "dry goods", "thickening": "1"}
            stages = [{"id": "s0", "lines": lines(water=water, thing="100 g", flour="100 g")}]
            batch = sheet(kitchen([WATER, thing, flour], [{"stages": stages}], {"thing": "1", "flour": "1"})).batch
            lacks = [one.item for one in batch.lacks if "thickening" in one.lacks]
            self.assertEqual(lacks, ["thing"] if batch.thickness_at_least else [])
            return batch.thickness_at_least, batch.thickness_class

        for kind in ("vegetable", "pulse", "dry goods", "dairy", "bread", "can"):
            self.assertEqual(of(kind), (True, None), kind)
            self.assertEqual(of(kind, water="1 kg"), (True, "thick"), kind)
        for kind in ("meat", "bones", "herb", "spice", "wine", "fat"):
            self.assertEqual(of(kind), (False, "thin"), kind)

    def test_classes(self) -> None:
        # By the roux of a gallon in textbooks of culinary schools, from memory: thin to 10 oz, medium 12 to 14, thick from 16.
        for flour, said in (("100 g", "thin"), ("390 g", "thin"), ("450 g", "medium"), ("620 g", "thick")):
            self.assertEqual(pot({"lines": lines(water="10 kg", flour=flour)}).batch.thickness_class, said, flour)


SHARES = st.integers(1, 999).map(lambda n: str(Decimal(n) / 1000))
GRAMS = st.integers(1, 5000).map(lambda n: f"{n} g")


@st.composite
def pots(draw: Any) -> list[dict[str, Any]]:
    """Pots of one to four stages, with take-outs, residue, splits and all that may happen to a mass."""
    stages: list[dict[str, Any]] = []
    left: list[Decimal] = []
    for n in range(draw(st.integers(1, 4))):
        names = draw(st.lists(st.sampled_from(["water", "salt", "bones", "root", "meat"]), min_size=1, max_size=4, unique=True))
        stage: dict[str, Any] = {
            "id": f"s{n}", "method": draw(st.sampled_from(["simmer", "strain", "blend", "fry", "finish"])),
            "lines": [{"item": one, "id": f"{one}{n}", "quantity": draw(GRAMS)} for one in names],
        }  # fmt: skip
        if n and draw(st.booleans()):
            share = Decimal(draw(SHARES)) * left[n - 1]
            left[n - 1] -= share
            stage["from"] = [{"stage": f"s{n - 1}", "share": str(share)}]
        rule = draw(st.sampled_from(["keep", "yield", "evaporate"]))
        if rule == "yield":
            stage["change"] = {"rule": "yield", "yield": draw(SHARES)}
        if rule == "evaporate":
            stage |= {"change": {"rule": "evaporate", "per_hour": draw(SHARES)}, "minutes": "30"}
        if draw(st.booleans()):
            stage["take_out"] = [{"name": "out", "of": [f"{names[0]}{n}"], "spent_factor": draw(SHARES)}]
        if draw(st.booleans()):
            stage["residue"] = str(Decimal(draw(SHARES)) / 10)
        left.append(Decimal(1))
        stages.append(stage)
    return stages


class Conserved(unittest.TestCase):
    @settings(max_examples=examples(120), deadline=None)
    @given(pots())
    def test_what_went_in_is_in_the_batch_or_left_it(self, stages: list[dict[str, Any]]) -> None:
        of = kitchen(ITEMS, [{"stages": stages}], PRICES)
        costing = Costing(of, DAY)
        content, balance = costing.content("pot"), costing.of("pot").balance
        if not balance.mass_known:
            return
        for name in HELD:
            put_in = sum((source.held.amounts[name] for source in content.sources if source.line is not None), Decimal(0))
            batch = content.batch.of(name)
            taken = sum((held.amounts.get(name, Decimal(0)) for held, _ in content.taken.values()), Decimal(0))
            assert batch is not None
            # The rest stuck, was lost in a sieve, or went nowhere: never less than nothing.
            rest = put_in - batch - taken
            self.assertGreaterEqual(batch, -d("1e-9"), name)
            self.assertGreaterEqual(rest, -d("1e-9"), name)
            lossless = all(
                here.residue == 0 and here.left_over in (0, 1) and here.stage.change.rule != "yield" for here in balance.stages
            )
            if lossless and all(here.left_over == 0 for here in balance.stages[:-1]):
                self.assertAlmostEqual(rest, Decimal(0), places=9, msg=name)

    @settings(max_examples=examples(40), deadline=None)
    @given(pots())
    def test_every_figure_of_it_has_a_working_that_ends_in_it(self, stages: list[dict[str, Any]]) -> None:
        bowl = {"id": "bowl", "name": "Bowl", "size": "100 g", "garnish": [{"item": "root", "quantity": "5 g"}]}
        costing = Costing(kitchen(ITEMS, [{"stages": stages, "servings": [bowl]}], PRICES), DAY)
        told = dict(figures_of(sheet_of(costing, "pot")))
        wanted = (*NUTRIENTS, "salt_g", "salt_share", "alcohol_g", "thickness_g_per_l")
        names = [path for path in told if path.rsplit("/", 1)[-1] in wanted]
        self.assertGreater(len(names), 15)
        for path in names:
            self.assertEqual(explain(costing, "pot", path).value, told[path], path)


class Together(unittest.TestCase):
    def test_an_item_that_changes_is_tasted_anew_and_others_are_not(self) -> None:
        costing = Costing(kitchen(ITEMS, [{"stages": [{"id": "s", "lines": lines(root="1 kg")}]}], PRICES), DAY)
        before = costing.content("pot")
        self.assertIs(costing.content("pot"), before)
        root = costing.view.items["root"]
        saltier = replace(root, composition=replace(root.composition, salt_g=d(2)))
        self.assertEqual(costing.with_items([saltier]).content("pot").batch.of("salt_g"), 20)
        self.assertIs(costing.with_items([item({"id": "other"})]).content("pot"), before)
