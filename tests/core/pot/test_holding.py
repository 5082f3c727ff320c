"""A soup that stands hot in the bain-marie, and how long things cook."""

from __future__ import annotations

import unittest
from typing import Any

from potrel.core.pot.day_view import DayView
from potrel.core.pot.done_when import done_when
from potrel.core.pot.evaporation import IN_A_POT, Room, open_surface_rate
from potrel.core.tables import table
from potrel.core.tell.sheet_parts import SheetHold
from tests.kitchens import DAY, d, demo, kitchen, recipe, sheet

NONE = {"salt_g": "0", "energy_kcal": "0", "fat_g": "0", "saturates_g": "0", "carbohydrate_g": "0", "sugars_g": "0",
        "protein_g": "0", "fibre_g": "0"}  # fmt: skip
ITEMS: list[dict[str, Any]] = [{"id": "water", "kind": "water", "density": "1"},
                               {"id": "salt", "kind": "spice", "composition": {**NONE, "salt_g": "100"}},
                               {"id": "flour", "kind": "dry goods", "thickening": "1", "composition": NONE}]  # fmt: skip


def held(items: list[dict[str, Any]] = ITEMS, **serving: Any) -> SheetHold | None:
    bain = {"id": "bain", "capacity": "5 l", "surface_m2": "0.1", "count": "2"}
    quantities = {"water": "9.5 kg", "salt": "70 g", "flour": "430 g"}
    lines = [{"item": one, "quantity": quantity} for one, quantity in quantities.items()]
    pot = {"stages": [{"id": "s", "lines": lines}], "servings": [{"id": "bowl", "name": "Bowl", "size": "250 g", **serving}]}
    return sheet(kitchen(items, [pot], {"water": "0.004", "salt": "0.4", "flour": "1"}, [bain])).servings[0].hold


class Standing(unittest.TestCase):
    def test_what_steams_off_and_what_that_does(self) -> None:
        found = held(hold_hours="2", hold_vessel="bain", hold_c="70")
        assert found is not None and found.lost_g is not None
        rate = open_surface_rate(d("0.1"), d(70), Room()) * IN_A_POT
        # 10 kg in containers of 5 l: two of them, for two hours.
        self.assertEqual(found.containers, 2)
        self.assertAlmostEqual(found.lost_g, rate * 2 * 2 * 1000, places=9)
        left = 1 - found.lost_g / 10_000
        self.assertAlmostEqual(found.portions_end or 0, 40 * left, places=9)
        self.assertAlmostEqual(found.salt_share_end or 0, d("0.007") / left, places=9)
        self.assertAlmostEqual(found.thickness_end_g_per_l or 0, 43 / left, places=9)
        self.assertFalse(found.too_many)

    def test_no_more_is_lost_than_there_is(self) -> None:
        long = held(hold_hours="24", hold_vessel="bain", hold_c="90")
        assert long is not None and long.lost_g is not None and long.lost_high_g is not None
        self.assertLessEqual(long.lost_g, 10_000)
        self.assertLessEqual(long.lost_high_g, 10_000)

    def test_nothing_grows_heavier_by_being_chilled(self) -> None:
        def told(method: str, share: str) -> list[str]:
            lines = [{"item": "water", "quantity": "9.5 kg"}]
            stage = {"id": "s", "method": method, "lines": lines, "change": {"rule": "yield", "yield": share}}
            return [one.message_code for one in sheet(kitchen(ITEMS, [{"stages": [stage]}], {"water": "0.004"})).warnings]

        self.assertIn("gains_by_cold", told("cool", "1.05"))
        self.assertNotIn("gains_by_cold", told("cool", "0.98"))
        self.assertNotIn("gains_by_cold", told("soak", "1.05"))

    def test_how_thick_it_is_in_the_end_is_at_least_where_a_strength_is_missing(self) -> None:
        unknown = [*ITEMS[:2], {"id": "flour", "kind": "dry goods", "composition": NONE}]
        hold: dict[str, Any] = {"hold_hours": "2", "hold_vessel": "bain", "hold_c": "70"}
        known, untold = held(**hold), held(unknown, **hold)
        assert known is not None and untold is not None
        self.assertEqual((known.thickness_at_least, untold.thickness_at_least), (False, True))

    def test_a_lid_keeps_it(self) -> None:
        open_, shut = (held(hold_hours="2", hold_vessel="bain", hold_lid=lid) for lid in ("off", "on"))
        assert open_ is not None and shut is not None
        self.assertAlmostEqual((shut.lost_g or d(0)) / (open_.lost_g or d(1)), d("0.1"), places=12)

    def test_more_containers_than_there_are(self) -> None:
        bain = {"id": "bain", "capacity": "2 l", "surface_m2": "0.05"}
        bowl = {"id": "bowl", "name": "Bowl", "size": "250 g", "hold_hours": "1", "hold_vessel": "bain"}
        stage = {"id": "s", "lines": [{"item": "water", "quantity": "9 kg"}]}
        found = sheet(kitchen(ITEMS, [{"stages": [stage], "servings": [bowl]}], {"water": "0.004"}, [bain])).servings[0].hold
        assert found is not None
        self.assertEqual((found.containers, found.too_many), (5, True))

    def test_what_is_not_said_is_asked_and_what_does_not_stand_is_not_told(self) -> None:
        asked = held(hold_hours="2")
        assert asked is not None
        self.assertIn("in which vessel", asked.lack or "")
        self.assertIsNone(asked.lost_g)
        self.assertIsNone(held())


class DoneWhen(unittest.TestCase):
    def told(self, method: str, name: str, kind: str) -> tuple[int, int] | None:
        of = kitchen([{"id": "x", "name": name, "kind": kind}], [])
        stage = recipe({"stages": [{"id": "s", "method": method, "lines": [{"item": "x", "quantity": "1 kg"}]}]}).stages[0]
        found = done_when(stage, DayView(of, DAY))
        return None if found is None else (int(found.low), int(found.high))

    def test_stocks_as_culinary_schools_have_them(self) -> None:
        # Textbooks of culinary schools, from memory: chicken 3 to 4 h, beef or veal 6 to 8, fish 30 to 45 min.
        self.assertEqual(self.told("simmer", "Chicken carcasses", "bones"), (180, 240))
        self.assertEqual(self.told("simmer", "Beef marrow bones", "bones"), (360, 480))
        self.assertEqual(self.told("simmer", "White fish frames", "bones"), (30, 45))

    def test_of_what_is_not_known_nothing_is_told(self) -> None:
        self.assertIsNone(self.told("simmer", "Sea foam", "other"))
        self.assertIsNone(self.told("blend", "Chicken carcasses", "bones"))

    def test_of_several_it_is_the_longest(self) -> None:
        view = DayView(demo(), DAY)
        broth = view.recipes["chicken-barley"].stages[1]
        self.assertEqual(getattr(done_when(broth, view), "item", None), "Pearl barley")

    def test_the_table_is_sound(self) -> None:
        for row in table("done_when.csv"):
            self.assertLess(int(row["low"]), int(row["high"]) + 1, row)
            self.assertTrue(row["source"] and row["done"], row)
