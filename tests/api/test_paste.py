"""A recipe from paper over HTTP: read without a trace, saved with all that comes with it, or not at all."""

from __future__ import annotations

import json
import os
import time
from collections.abc import Iterator
from dataclasses import replace
from typing import Any
from unittest import mock

from potrel.api.cook import paste
from potrel.core.errors import BadDocument
from potrel.formats.kitchen_json import read_kitchen, write_kitchen
from tests.api.test_api import ApiTest
from tests.kitchens import demo


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

    def test_to_taste_by_eye_and_or_are_saved_as_they_were_answered(self) -> None:
        rows = ["Leek pot", "2 kg leeks, sliced", "200 g butter or olive oil", "water to cover", "Salt & pepper to taste",
                "1 kg moon beans", "Simmer 20 min."]  # fmt: skip
        found = self.call("POST", "/api/pasted-recipe", {"rows": rows})[1]
        self.assertEqual(found["open"], 3)
        answers = [{"line": "200 g butter or olive oil", "item": "olive-oil"}, {"line": "water to cover", "vessel": "stockpot"},
                   {"line": "1 kg moon beans", "new": "Moon beans", "kind": "pulse"}]  # fmt: skip
        status, saved = self.call("POST", "/api/pasted-recipe/save", {"rows": rows, "answers": answers})
        self.assertEqual(status, 201, saved)
        recipe = self.get(f"/api/recipes/{saved['recipe']}")["recipe"]
        stage = recipe["stages"][0]
        lines = {line["item"]: line for line in stage["lines"]}
        self.assertEqual(
            (stage["vessel"], lines["water"]["by_eye"], lines["olive-oil"]["note"]), ("stockpot", "cover", "or butter")
        )
        # Of the moon beans nobody knows how salty they are.
        self.assertEqual(recipe["allowance_covers"], ["Salt", "Pepper"])
        self.assertEqual(self.get("/api/items/moon-beans")["item"]["kind"], "pulse")
        rows.remove("1 kg moon beans")
        saved = self.call("POST", "/api/pasted-recipe/save", {"rows": rows, "answers": answers[:2]})[1]
        recipe = self.get(f"/api/recipes/{saved['recipe']}")["recipe"]
        (salt,) = [line for stage in recipe["stages"] for line in stage["lines"] if line["item"] == "salt"]
        self.assertEqual((salt["note"], salt["quantity"].endswith(" g")), ("to taste", True))
        self.assertEqual(recipe["allowance_covers"], ["Pepper"])

    def test_what_its_sentences_do_is_saved_and_what_they_leave_open_is_asked(self) -> None:
        rows = ["Leek broth", "4 kg leeks, sliced", "6 l water", "Makes 5 l", "16 portions of 250 ml",
                "Simmer 2 hours, lid ajar. Strain and reduce by half."]  # fmt: skip
        found = self.call("POST", "/api/pasted-recipe", {"rows": rows})[1]
        self.assertEqual((found["open"], found["portion"]["said"], found["portion"]["by"]), (1, "250 ml", None))
        status, problem = self.call("POST", "/api/pasted-recipe/save", {"rows": rows})
        self.assertEqual(status, 422)
        self.assertIn("say which holds", problem["detail"])
        said = {"portions": "16", "said": "250 ml", "by": "count"}
        # What was answered of other portions answers nothing here.
        for other in ({**said, "portions": "12"}, {**said, "said": "200 ml"}):
            self.assertEqual(self.call("POST", "/api/pasted-recipe/save", {"rows": rows, "portion": other})[0], 422)
        status, saved = self.call("POST", "/api/pasted-recipe/save", {"rows": rows, "portion": said})
        self.assertEqual(status, 201, saved)
        reply = self.get(f"/api/recipes/{saved['recipe']}")
        simmer, strain, reduce = reply["recipe"]["stages"]
        self.assertEqual((simmer["change"]["by"], simmer["lid"], simmer["heat"]), ("vessel", "ajar", "simmer"))
        # The leeks stay in: half of the liquid is less than half of all.
        self.assertEqual((strain["method"], reduce["change"]["rule"]), ("strain", "yield"))
        self.assertTrue(0.5 < float(reduce["change"]["yield"]) < 0.7, reduce["change"])
        sheet = reply["sheet"]
        self.assertEqual((sheet["batch"]["basis"], sheet["servings"][0]["whole_portions"]), ("written", 16))
        asked = [one["params"]["about"] for one in sheet["warnings"] if one["message_code"] == "asked"]
        self.assertEqual(asked, ["sieve"])

    def test_a_base_is_made_of_what_is_there_and_once(self) -> None:
        status, made = self.call("POST", "/api/bases/lamb-stock", None)
        self.assertEqual((status, made["recipe"]), (201, "lamb-stock"))
        recipe = self.call("GET", "/api/recipes/lamb-stock")[1]["recipe"]
        known = {one["id"]: one["name"] for one in self.call("GET", "/api/items")[1]}
        self.assertEqual(
            [(known[one["item"]], one["quantity"]) for one in recipe["stages"][0]["lines"]],
            [("Lamb bones", "4 kg"), ("Water, mains", "6 l"), ("Onions", "250 g"), ("Carrots", "125 g"), ("Celery", "125 g")],
        )
        self.assertEqual(recipe["servings"], [])
        # A second hand, or a key pressed twice, makes no second one of its name.
        status, found = self.call("POST", "/api/bases/lamb-stock", None)
        self.assertEqual((status, found["detail"]), (409, "Lamb stock is there already: look at it in Cook"))
        self.assertEqual(self.call("POST", "/api/bases/nothing", None)[0], 422)

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


_PAGE = (
    '<!doctype html><html><head><style>a { b: "{{{{{{" }</style><script>if (a) {{ {{ }}</script>'
    '<script type="application/ld+json">{"@type": "Recipe", "name": "Leek soup &#99999999999999;", "recipeIngredient":'
    ' ["1 kg leeks \\ud800", "2 l water"], "recipeInstructions": "Simmer 20 min"}</script></head><body></body></html>'
)


class Pages(ApiTest):
    def read(self, page: bytes) -> tuple[int, Any]:
        answer = self.send("POST", "/api/recipe-page", page, "application/octet-stream")
        return answer.status_code, answer.json()

    def test_what_no_text_can_hold_is_left_out_and_braces_are_no_jsons(self) -> None:
        braces = "<p>" + "{[" * 5000
        status, found = self.read((_PAGE + braces).encode())
        self.assertEqual(status, 200, found)
        (recipe,) = found["recipes"]
        self.assertEqual(recipe["name"], "Leek soup")
        self.assertIn("1 kg leeks\n", recipe["text"])

    def test_pages_that_were_made_to_be_slow(self) -> None:
        for odd in ("<!--", "<a", "</a", "<a href='", "&amp", "&#x", "<![CDATA[", "<script", "<p " + "a='b' " * 30):
            many = odd * (4_900_000 // len(odd))
            for page, words in ((_PAGE + many, None), (many, "no recipe in it")):
                with self.subTest(odd[:12], words=words):
                    status, found = self.read(page.encode())
                    if words is None:
                        self.assertEqual((status, found["recipes"][0]["name"]), (200, "Leek soup"))
                    else:
                        self.assertEqual((status, words in found["detail"]), (422, True))

    def test_a_reader_that_is_brought_down_takes_nothing_with_it(self) -> None:
        with mock.patch.object(paste, "_PAGES", replace(paste._PAGES, does="tests.api.test_paste:falls_over", patience=1)):
            for page in (b"exit", b"sleep"):
                status, found = self.read(page)
                self.assertEqual((status, "copy the recipe's text" in found["detail"].lower()), (422, True))
        self.assertEqual(self.read(_PAGE.encode())[0], 200)
        self.assertEqual(self.call("GET", "/api/board")[0], 200)


def falls_over(data: bytes) -> Iterator[Any]:
    """A reader that ends, or never does."""
    if data == b"exit":
        os._exit(1)
    time.sleep(60)
    yield []


class Signs(ApiTest):
    def test_what_is_no_sign_is_refused_at_the_door(self) -> None:
        item = {"id": "odd", "name": "Leek\ufffe", "kind": "vegetable"}
        for name in ("Leek\ufffe", "Leek\uffff", "\ufffe"):
            status, found = self.call("POST", "/api/items", {"item": {**item, "name": name}})
            self.assertEqual((status, "a sign that is none" in found["detail"]), (400, True))
        raw = json.dumps({"item": item}, ensure_ascii=False).encode()
        self.assertEqual(self.send("POST", "/api/items", raw, "application/json").status_code, 400)
        with self.assertRaisesRegex(BadDocument, "no sign"):
            read_kitchen(write_kitchen(demo()).replace("Slipway", "Slip\uffffway"))
