"""How far figures may be off, over HTTP: alike on every reload, moved by the data, told of drafts that are not saved."""

from __future__ import annotations

from decimal import Decimal
from typing import Any

from tests.api.test_api import ApiTest


class HowSure(ApiTest):
    def of(self, recipe: Any) -> Any:
        status, found = self.call("POST", "/api/uncertainty", {"recipe": recipe})
        self.assertEqual(status, 200, found)
        return found["servings"]

    def test_the_same_on_every_reload_until_the_data_change(self) -> None:
        saved = self.get("/api/recipes/leek-potato")
        first = self.of(saved["recipe"])
        self.assertEqual(first, self.of(saved["recipe"]))
        self.assertEqual([one["serving"] for one in first], [one["id"] for one in saved["recipe"]["servings"]])
        cost = Decimal(saved["sheet"]["servings"][0]["food_cost"])
        band = first[0]["food_cost"]
        self.assertTrue(Decimal(band["p10"]) < cost < Decimal(band["p90"]))
        # Another price: another version, other draws.
        offer = {"item": "leek", "supplier": "saltmarsh", "pack": "5 kg", "price": "9.60", "on": "2026-11-24"}
        status, _ = self.call("POST", "/api/offers", offer)
        self.assertEqual(status, 201)
        after = self.of(saved["recipe"])
        self.assertNotEqual(first, after)
        self.assertAlmostEqual(float(after[0]["food_cost"]["p90"]), float(band["p90"]), delta=0.005)

    def test_a_draft_is_told_of_without_being_saved(self) -> None:
        saved = self.get("/api/recipes/leek-potato")["recipe"]
        wide = {**saved, "servings": [{**saved["servings"][0], "size": "700 ml"}]}
        (one,) = self.of(wide)
        half = self.of(saved)[0]
        self.assertAlmostEqual(float(one["portions"]["p50"]) * 2, float(half["portions"]["p50"]), delta=0.05)
        self.assertEqual(self.get("/api/recipes/leek-potato")["recipe"], saved)

    def test_of_an_incomplete_draft_nothing(self) -> None:
        saved = self.get("/api/recipes/minestrone")["recipe"]
        self.assertEqual(self.of(saved), [])
        status, found = self.call("POST", "/api/uncertainty", {"recipe": {**saved, "density": "-1"}})
        self.assertEqual((status, found["where"]), (422, "recipe.density"))

    def test_the_board_by_screens(self) -> None:
        ask = {"recipes": ["leek-potato", "minestrone", "no-more-there", "mushroom"]}
        status, found = self.call("POST", "/api/board/uncertainty", ask)
        self.assertEqual(status, 200)
        self.assertEqual({one["recipe"] for one in found}, {"leek-potato", "mushroom"})
        row = self.row("leek-potato")
        (bowl,) = (one for one in found if (one["recipe"], one["serving"]) == ("leek-potato", "bowl"))
        self.assertTrue(Decimal(bowl["share"]["p10"]) < Decimal(row["food_cost_share"]) < Decimal(bowl["share"]["p90"]))
        self.assertTrue(0 < Decimal(bowl["over_target"]) < 1)
        status, found = self.call("POST", "/api/board/uncertainty", {"recipes": [f"pot-{n}" for n in range(61)]})
        self.assertEqual(status, 422)
        self.assertIn("60 at a time", found["detail"])
