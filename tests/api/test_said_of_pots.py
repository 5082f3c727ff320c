"""What is said of a pot comes back as it was said, and is reckoned with: through HTTP to the database and back."""

from __future__ import annotations

from typing import Any

from tests.api.test_api import ApiTest


class SaidOfPots(ApiTest):
    def recipe(self, name: str = "leek-potato") -> Any:
        return self.get(f"/api/recipes/{name}")

    def test_what_is_in_the_oven_comes_back_so_and_is_reckoned_so(self) -> None:
        recipe = self.recipe("ham-leek")["recipe"]
        self.assertIsNone(recipe["stages"][0]["power_share"], "nobody said how far the flame is turned up")
        recipe["stages"][0] |= {"in_oven": True, "temperature_c": "160", "power_share": "0.5"}
        self.assertEqual(self.call("PUT", "/api/recipes/ham-leek", {"recipe": recipe, "based_on": 1})[0], 200)
        found = self.recipe("ham-leek")
        stage = found["recipe"]["stages"][0]
        self.assertEqual((stage["in_oven"], stage["temperature_c"], stage["power_share"]), (True, "160", "0.5"))
        self.assertEqual(found["sheet"]["stages"][0]["evaporation_by"], "oven")
        self.assertIn("in an oven", found["sheet"]["stages"][0]["energy_lack"])

    def test_what_came_out_is_saved_and_what_its_vessel_steamed_is_kept(self) -> None:
        recipe = self.recipe("ham-leek")["recipe"]
        stage = next(one for one in recipe["stages"] if one["vessel"] and one["heat"])
        stage["came_out"] = {"quantity": None, "depth_cm": "7.5", "on": "2026-11-24"}
        self.assertEqual(self.call("PUT", "/api/recipes/ham-leek", {"recipe": recipe, "based_on": 1})[0], 200)
        found = self.recipe("ham-leek")
        told = next(one for one in found["sheet"]["stages"] if one["id"] == stage["id"])
        self.assertEqual(
            next(one for one in found["recipe"]["stages"] if one["id"] == stage["id"])["came_out"], stage["came_out"]
        )
        self.assertIsNotNone(told["came_out_g"])
        rate = {"heat": stage["heat"], "lid": stage["lid"] or "off", "on": "2026-11-24", "kg_per_hour": "1.25"}
        address = f"/api/vessels/{stage['vessel']}/rates"
        self.assertEqual(self.call("POST", address, rate)[0], 200)
        # Of one day the last that is said counts, and every pot that cooks so is reckoned anew.
        status, vessel = self.call("POST", address, {**rate, "kg_per_hour": "1.5"})
        self.assertEqual((status, [one["kg_per_hour"] for one in vessel["rates"]]), (200, ["1.5"]))
        again = next(one for one in self.recipe("ham-leek")["sheet"]["stages"] if one["id"] == stage["id"])
        self.assertEqual((again["evaporation_by"], again["evaporation_kg_per_hour"]), ("learned", "1.5"))
        self.assertEqual(self.call("POST", "/api/vessels/nothing/rates", rate)[0], 404)
        self.assertEqual(self.call("POST", address, {**rate, "heat": "hot"})[0], 422)
        document = self.get("/api/export")
        self.assertEqual(next(one for one in document["vessels"] if one["id"] == stage["vessel"])["rates"], vessel["rates"])

    def test_what_a_recipe_says_it_makes_and_what_is_only_ticked_come_back_so(self) -> None:
        recipe = self.recipe("white-stock")["recipe"]
        stage = next(one for one in recipe["stages"] if one["take_out"])
        stage["take_out"][0] |= {"assumed": True, "spent_factor": None}
        recipe["written_yield"] = "9 l"
        self.assertEqual(self.call("PUT", "/api/recipes/white-stock", {"recipe": recipe, "based_on": 1})[0], 200)
        found = self.recipe("white-stock")
        again = next(one for one in found["recipe"]["stages"] if one["take_out"])["take_out"][0]
        self.assertEqual((again["assumed"], again["spent_factor"], found["recipe"]["written_yield"]), (True, None, "9 l"))
        self.assertEqual((found["sheet"]["batch"]["basis"], found["sheet"]["batch"]["written_g"]), ("written", "9000"))
        self.assertIn("asked", {one["message_code"] for one in found["sheet"]["warnings"]})
