"""A recipe from paper over HTTP: read without a trace, saved with all that comes with it, or not at all."""

from __future__ import annotations

from typing import Any

from tests.api.test_api import ApiTest


class Paste(ApiTest):
    ROWS = ("Kelp & leek soup", "", "Simmer 20 min:", "1 kg leeks, sliced", "500 g kelp", "2 l vegetable stock")

    def body(self, **more: Any) -> dict[str, Any]:
        return {"rows": list(self.ROWS), **more}

    def test_reading_writes_nothing(self) -> None:
        before = self.get("/api/export")
        status, found = self.call("POST", "/api/pasted-recipe", self.body())
        self.assertEqual((status, found["open"], found["recipe"]["name"]), (200, 1, "Kelp & leek soup"))
        self.assertIn("vegetable stock", found["lines"][2]["typed"]["problem"])
        self.assertEqual(self.get("/api/export"), before)

    def test_it_is_saved_together_or_not_at_all(self) -> None:
        before = self.get("/api/export")
        status, problem = self.call("POST", "/api/pasted-recipe/save", self.body())
        self.assertEqual(status, 422)
        self.assertIn("vegetable stock", problem["detail"])
        kelp = {"item": "seaweed-kelp", "pack": "2 kg", "price": "18,40", "supplier": "The shore", "weights": {}}
        answers = [{"line": "2 l vegetable stock", "recipe": "vegetable-stock"}]
        wrong = self.body(answers=answers, goods=[{**kelp, "price": "dear"}])
        self.assertEqual(self.call("POST", "/api/pasted-recipe/save", wrong)[0], 422)
        self.assertEqual(self.get("/api/export"), before)
        status, saved = self.call("POST", "/api/pasted-recipe/save", self.body(answers=answers, goods=[kelp]))
        self.assertEqual((status, saved["items"], saved["prices"]), (201, 1, 1), saved)
        after = self.get("/api/export")
        self.assertEqual([one["name"] for one in after["suppliers"]][-1], "The shore")
        self.assertEqual(after["offers"][-1]["price"], "18.40")
        sheet = self.get(f"/api/recipes/{saved['recipe']}")["sheet"]
        self.assertTrue(sheet["complete"], sheet["problems"])
        kelp_line = next(line for line in sheet["lines"] if line["item"] == "seaweed-kelp")
        self.assertEqual(float(kelp_line["cost"]), 4.6)
        # Once more, and it is another pot.
        again = self.call("POST", "/api/pasted-recipe/save", self.body(answers=answers))[1]
        self.assertNotEqual(again["recipe"], saved["recipe"])

    def test_what_is_hostile_is_refused_in_words(self) -> None:
        hostile: list[dict[str, Any]] = [
            self.body(rows=["x"] * 401), self.body(rows=["\x00"]),
            self.body(answers=[{"line": "1 kg leeks, sliced", "shelf": "nothing"}]),
            self.body(goods=[{"item": "leek", "weights": {"1 bunch": "2 kg"}}]), {"rows": []}, self.body(rows=["("] * 300),
            self.body(answers=[{"line": "2 l vegetable stock", "new": "x\x00"}]), self.body(rows=["2 kg " + "onion " * 333]),
            self.body(rows=["1 kg leeks"], goods=[{"item": "leek", "pack": "1 kg", "price": "2", "supplier": "\x00"}]),
            self.body(rows=["1 kg leeks"], goods=[{"item": "leek", "pack": "1 kg", "price": "2", "supplier": "x" * 201}]),
            self.body(rows=["1 kg leeks"], goods=[{"item": "leek", "pack": "1 keg", "price": "2", "supplier": "x"}]),
            self.body(rows=["1 kg leeks"], goods=[{"item": "leek", "pack": "1 kg", "price": "1e40", "supplier": "x"}]),
            self.body(rows=["1 kg leeks"], goods=[{"item": "leek", "pack": "1 g", "price": "999999999", "supplier": "x"}]),
        ]  # fmt: skip
        for body in hostile:
            status, found = self.call("POST", "/api/pasted-recipe", body)
            self.assertIn(status, (200, 400, 422), found)
            status, found = self.call("POST", "/api/pasted-recipe/save", body)
            self.assertIn(status, (400, 422), found)
            self.assertTrue(found["detail"])
