"""The API over a real server and PostgreSQL: what the screens need, problem details, caches that follow the data."""

from __future__ import annotations

import json
from dataclasses import replace
from datetime import date
from typing import Any, ClassVar

import httpx2

from potrel.core.kitchen.kitchen import Kitchen
from potrel.store.offers import insert_offers
from tests.kitchens import DAY, demo
from tests.servers import DatabaseTest, Served

# Kept open: most of the time of a small request is that of its connection.
_CLIENT = httpx2.Client(timeout=60, transport=httpx2.HTTPTransport(retries=1))


class ApiTest(DatabaseTest):
    """A test with a server over a kitchen, the demo's where a test says nothing else."""

    kitchen: ClassVar[Kitchen | None] = demo()

    def setUp(self) -> None:
        super().setUp()
        self.server = Served(self.url)
        self.address = self.server.start()
        self.addCleanup(self.server.stop)

    def send(
        self,
        method: str,
        path: str,
        raw: bytes | None = None,
        kind: str = "application/json",
        headers: dict[str, str] | None = None,
    ) -> httpx2.Response:
        """An answer as it came."""
        headers = {"Content-Type": kind, **(headers or {})}
        return _CLIENT.request(method, f"{self.address}{path}", content=raw, headers=headers)

    def call(self, method: str, path: str, body: Any = None, raw: bytes | None = None) -> tuple[int, Any]:
        """The status and the JSON of an answer."""
        answer = self.send(method, path, raw if raw is not None else None if body is None else json.dumps(body).encode())
        found: Any = answer.json() if answer.content else None
        if answer.is_error:
            self.assertEqual(answer.headers["Content-Type"], "application/problem+json")
            self.assertEqual(found["status"], answer.status_code)
            self.assertEqual({"type", "title", "detail"} - found.keys(), set())
        return answer.status_code, found

    def get(self, path: str) -> Any:
        status, found = self.call("GET", path)
        self.assertEqual(status, 200, found)
        return found

    def row(self, recipe: str, serving: str = "bowl") -> Any:
        rows = self.get("/api/board")["rows"]
        return next(row for row in rows if row["recipe"] == recipe and row["serving"] == serving)


class TheBoard(ApiTest):
    def test_rows_and_headline(self) -> None:
        board = self.get("/api/board")
        self.assertEqual((board["kitchen"], board["currency"], board["target_share"]), ("Slipway Canteen", "EUR", "0.3"))
        self.assertEqual(board["need_a_price"], 4)
        haddock = self.row("haddock-chowder")
        self.assertEqual(haddock["drift"]["moved"][0]["item"], "smoked-haddock")
        self.assertIn("over_target", haddock["marks"])

    def test_it_follows_a_recorded_price(self) -> None:
        before = self.row("leek-potato"), self.row("tomato-bean")
        offer = {"item": "leek", "supplier": "saltmarsh", "pack": "5 kg", "price": "19.20", "on": DAY.isoformat()}
        self.assertEqual(self.call("POST", "/api/offers", offer)[0], 201)
        after = self.row("leek-potato"), self.row("tomato-bean")
        # 1.92 a kilo more: 2.5 kg EP at a yield of 0.44, in 31.87 portions, with the allowance of 2%.
        more = 1.92 * 2.5 / 0.44 / 31.87 * 1.02
        self.assertAlmostEqual(float(after[0]["food_cost"]) - float(before[0]["food_cost"]), more, 3)
        self.assertEqual(after[1], before[1])

    def test_it_follows_a_price_that_another_process_recorded(self) -> None:
        before = self.row("leek-potato")["food_cost"]
        leek = next(offer for offer in demo().offers if offer.item == "leek" and offer.on == date(2026, 11, 23))
        with self.store.writing("test") as connection:
            insert_offers(connection, [replace(leek, price=leek.price * 2, on=DAY)], "elsewhere")
        self.assertGreater(float(self.row("leek-potato")["food_cost"]), float(before))

    def test_it_follows_the_day(self) -> None:
        self.server.today = date(2026, 8, 1)
        self.assertEqual(self.get("/api/board")["on"], "2026-08-01")
        self.assertEqual(self.get("/api/kitchen")["today"], "2026-08-01")

    def test_an_empty_kitchen_has_an_empty_board(self) -> None:
        server = Served(self._empty())
        self.address = server.start()
        self.addCleanup(server.stop)
        self.assertEqual(self.get("/api/board")["rows"], [])
        self.assertEqual(self.get("/api/items"), [])
        status, _ = self.call("POST", "/api/items", {"item": {"id": "leek", "name": "Leek", "kind": "allium"}})
        self.assertEqual((status, [one["id"] for one in self.get("/api/items")]), (201, ["leek"]))

    def _empty(self) -> str:
        test = DatabaseTest()
        test.setUp()
        self.addCleanup(test.doCleanups)
        return test.url


class Recipes(ApiTest):
    def recipe(self, name: str = "leek-potato") -> Any:
        return self.get(f"/api/recipes/{name}")

    def test_reply(self) -> None:
        found = self.recipe("white-stock")
        self.assertEqual((found["revision"], found["recipe"]["name"]), (1, "White chicken stock"))
        self.assertIn("Leek & potato", found["used_by"])
        self.assertEqual(found["sheet"]["batch"]["mass_g"], "11253.55")

    def test_no_request_says_who_acts(self) -> None:
        status, problem = self.call(
            "PUT", "/api/recipes/leek-potato", {"recipe": self.recipe()["recipe"], "based_on": 1, "by": "me"}
        )
        self.assertEqual((status, self.recipe()["revision"]), (422, 1))
        self.assertIn("by", str(problem))

    def test_save_and_stale_save(self) -> None:
        mine, theirs = self.recipe()["recipe"], self.recipe()["recipe"]
        theirs["name"] = "Leek soup"
        status, saved = self.call("PUT", "/api/recipes/leek-potato", {"recipe": theirs, "based_on": 1})
        self.assertEqual((status, saved), (200, {"revision": 2}))
        mine["name"] = "Potato soup"
        status, problem = self.call("PUT", "/api/recipes/leek-potato", {"recipe": mine, "based_on": 1})
        self.assertEqual((status, problem["type"]), (409, "urn:potrel:problem:stale-recipe"))
        self.assertEqual(
            (problem["theirs"]["name"], problem["their_revision"], problem["saved_by"]), ("Leek soup", 2, "the kitchen")
        )
        self.assertEqual(self.recipe()["recipe"]["name"], "Leek soup")
        self.assertEqual(self.row("leek-potato")["name"], "Leek soup")
        history = self.get("/api/recipes/leek-potato/revisions")
        self.assertEqual([one["recipe"]["name"] for one in history], ["Leek soup", "Leek & potato"])

    def test_what_a_recipe_changed_since_its_price_was_set_is_told_as_a_purchase_is(self) -> None:
        soup = self.recipe()["recipe"]
        soup["servings"][0] |= {"price": "4.90", "price_set_on": DAY.isoformat()}
        self.call("PUT", "/api/recipes/leek-potato", {"recipe": soup, "based_on": 1})
        self.assertEqual(self.row("leek-potato")["drift"]["recipe"], None)
        before = self.row("leek-potato")["food_cost"]
        # On the same day, and after its price.
        soup["stages"][0]["lines"][0]["quantity"] = "9 kg"
        promised = self.call("POST", "/api/preview", {"recipe": soup})[1]["drifts"]["bowl"]
        self.call("PUT", "/api/recipes/leek-potato", {"recipe": soup, "based_on": 2})
        row = self.row("leek-potato")
        self.assertAlmostEqual(float(row["drift"]["recipe"]), float(row["food_cost"]) - float(before), 5)
        self.assertEqual(promised["recipe"], row["drift"]["recipe"])
        # And of a base, by all that stand on it.
        stock = self.recipe("white-stock")["recipe"]
        stock["stages"][0]["lines"][0]["quantity"] = "20 kg"
        self.call("PUT", "/api/recipes/white-stock", {"recipe": stock, "based_on": 1})
        self.assertGreater(float(self.row("leek-potato")["drift"]["recipe"]), float(row["drift"]["recipe"]))
        # Where the price is set anew, it begins anew.
        soup["servings"][0] |= {"price": "5.20"}
        self.call("PUT", "/api/recipes/leek-potato", {"recipe": soup, "based_on": 3})
        self.assertEqual(self.row("leek-potato")["drift"]["recipe"], None)

    def test_a_saved_base_moves_the_soups_above_it(self) -> None:
        before = self.row("leek-potato")["food_cost"]
        stock = self.recipe("white-stock")["recipe"]
        stock["stages"][0]["lines"][0]["quantity"] = "20 kg"
        preview = self.call("POST", "/api/preview", {"recipe": stock})[1]
        promised = {(one["recipe"], one["serving"]): one for one in preview["above"]}
        self.call("PUT", "/api/recipes/white-stock", {"recipe": stock, "based_on": 1})
        after = self.row("leek-potato")["food_cost"]
        self.assertNotEqual(after, before)
        self.assertEqual(promised["leek-potato", "bowl"]["now"], after)

    def test_preview_costs_a_draft_and_saves_nothing(self) -> None:
        draft = self.recipe()["recipe"]
        draft["stages"][0]["lines"][1]["quantity"] = "5 kg"
        status, found = self.call("POST", "/api/preview", {"recipe": draft})
        self.assertEqual(status, 200)
        line = next(one for one in found["sheet"]["lines"] if one["id"] == "leek")
        self.assertEqual(line["ep_g"], "5000")
        self.assertEqual(self.recipe()["recipe"]["stages"][0]["lines"][1]["quantity"], "2.5 kg")

    def test_a_draft_with_a_missing_fact_is_a_sheet_not_an_error(self) -> None:
        draft = self.recipe()["recipe"]
        draft["stages"][0]["lines"].append({"item": "leek", "quantity": "2 bunch"})
        status, found = self.call("POST", "/api/preview", {"recipe": draft})
        self.assertEqual((status, found["sheet"]["complete"]), (200, False))
        self.assertEqual(found["sheet"]["problems"][0]["unit"], "bunch")

    def test_bad_drafts_say_where_and_what(self) -> None:
        for path, value, where, words in (
            (("stages", 0, "lines", 1, "quantity"), "3 k/g", "recipe.stages[0].lines[1].quantity", "not a quantity"),
            (("stages", 0, "residue"), "2", "recipe.stages[0].residue", "a share is 2"),
            (("servings", 0, "size"), "3 bunch", "recipe.servings[0].size", "mass or volume"),
            (("density",), "1_0", "recipe.density", "a plain number"),
            (("colour",), "red", "recipe.colour", "unknown key"),
        ):
            draft = self.recipe()["recipe"]
            target: Any = draft
            for step in path[:-1]:
                target = target[step]
            target[path[-1]] = value
            with self.subTest(where):
                status, problem = self.call("POST", "/api/preview", {"recipe": draft})
                self.assertEqual((status, problem["where"]), (422, where))
                self.assertIn(words, problem["detail"])

    def test_a_loop_is_named(self) -> None:
        stock = self.recipe("white-stock")["recipe"]
        stock["stages"][0]["lines"].append({"recipe": "leek-potato", "quantity": "1 l"})
        for method, path, body in (
            ("POST", "/api/preview", {"recipe": stock}),
            ("PUT", "/api/recipes/white-stock", {"recipe": stock, "based_on": 1}),
        ):
            status, problem = self.call(method, path, body)
            self.assertEqual((status, problem["type"]), (422, "urn:potrel:problem:recipe-loop"))
            self.assertIn("white-stock -> leek-potato -> white-stock", problem["detail"])

    def test_what_cannot_be_saved(self) -> None:
        for line, words in (
            ({"item": "ham", "quantity": "1 kg"}, 'no item has the id "ham"'),
            ({"recipe": "ham", "quantity": "1 kg"}, 'no recipe has the id "ham"'),
            ({"item": "leek", "quantity": "1 parsec"}, 'unknown unit "parsec"'),
        ):
            draft = self.recipe()["recipe"]
            draft["stages"][0]["lines"].append(line)
            status, problem = self.call("PUT", "/api/recipes/leek-potato", {"recipe": draft, "based_on": 1})
            self.assertEqual(status, 422)
            self.assertIn(words, problem["detail"])

    def test_add_and_take_off(self) -> None:
        recipe = {"id": "broth", "name": "Broth", "stages": [{"id": "s", "lines": [{"item": "leek", "quantity": "1 kg"}]}]}
        self.assertEqual(self.call("POST", "/api/recipes", {"recipe": recipe}), (201, {"revision": 1}))
        self.assertEqual(self.call("POST", "/api/recipes", {"recipe": recipe})[0], 409)
        self.assertEqual(self.call("DELETE", "/api/recipes/broth?based_on=7")[0], 409)
        self.assertEqual(self.call("DELETE", "/api/recipes/broth?based_on=1")[0], 204)
        self.assertEqual(self.call("GET", "/api/recipes/broth")[0], 404)
        status, problem = self.call("DELETE", "/api/recipes/white-stock?based_on=1")
        self.assertEqual((status, problem["type"]), (409, "urn:potrel:problem:still-used"))

    def test_working_of_a_draft(self) -> None:
        draft = self.recipe()["recipe"]
        draft["stages"][0]["lines"][1]["quantity"] = "5 kg"
        ask = {"figure": "line/sweat/leek/cost", "recipe": "leek-potato"}
        saved, drafted = (self.call("POST", "/api/working", {**ask, "draft": one})[1] for one in (None, draft))
        self.assertAlmostEqual(float(drafted["value"]), 2 * float(saved["value"]), 5)
        self.assertIn("offer of Saltmarsh Produce", json.dumps(drafted["inputs"]))
        self.assertEqual(self.call("POST", "/api/working", {**ask, "figure": "line/sweat/ham/cost"})[0], 404)
        self.assertEqual(self.call("POST", "/api/working", {**ask, "recipe": "ham"})[0], 404)

    def test_typed_line(self) -> None:
        found = self.call("POST", "/api/typed-line", {"text": "3 kg leeks ep sliced"})[1]
        self.assertEqual(
            (found["line"]["item"], found["line"]["basis"], found["line"]["preparation"]), ("leek", "EP", "sliced")
        )


class Buying(ApiTest):
    def test_items_with_their_usable_kilo(self) -> None:
        leek = next(row for row in self.get("/api/items") if row["id"] == "leek")
        self.assertEqual((leek["per_kg"], leek["supplier"], leek["used_by"]), ("1.92", "Saltmarsh Produce", 3))
        # 1.92 a kilo less 0.40 kg tops at 0.30, over a yield of 0.44.
        self.assertAlmostEqual(float(leek["usable"][0]["per_kg"]), (1.92 - 0.12) / 0.44, 5)

    def test_history_and_uses(self) -> None:
        found = self.get("/api/items/leek")
        days = [point["offer"]["on"] for point in found["history"]]
        self.assertEqual(days, sorted(days, reverse=True))
        self.assertIn("leek-potato", {use["recipe"] for use in found["uses"]})

    def test_a_price_previewed_then_recorded_does_what_was_promised(self) -> None:
        offer = {"item": "onion", "supplier": "saltmarsh", "pack": "20 kg", "price": "40.00", "on": DAY.isoformat()}
        promised = self.call("POST", "/api/offers/preview", offer)[1]
        self.assertEqual((promised["per_kg_was"], promised["per_kg_now"]), ("0.86", "2"))
        self.call("POST", "/api/offers", offer)
        self.assertGreater(len(promised["effects"]), 15)
        for effect in promised["effects"]:
            self.assertEqual(self.row(effect["recipe"], effect["serving"])["food_cost"], effect["now"])

    def test_a_price_is_undone_by_a_correction(self) -> None:
        before = self.row("leek-potato")
        offer = {"item": "leek", "supplier": "saltmarsh", "pack": "5 kg", "price": "96.00", "on": DAY.isoformat()}
        wrong = self.call("POST", "/api/offers", offer)[1]
        self.assertNotEqual(self.row("leek-potato"), before)
        self.call("POST", "/api/offers", {**offer, "price": "9.60", "corrects": wrong["id"]})
        self.assertEqual(self.row("leek-potato")["food_cost"], before["food_cost"])
        self.assertEqual(len(self.get("/api/items/leek")["history"]), 15)

    def test_items_are_made_together_or_not_at_all(self) -> None:
        before = self.get("/api/export")["items"]
        okra, moon = {"name": "x", "shelf": "okra"}, {"name": "Moon beans", "kind": "pulse"}
        for wrong in ({"name": "y", "shelf": "no-such"}, {"name": "", "kind": "pulse"}):
            self.assertIn(self.call("POST", "/api/items/together", {"things": [okra, wrong]})[0], (400, 422), wrong)
        self.assertEqual(self.get("/api/export")["items"], before)
        # Two lines of a list may be one thing; and what is there already is that.
        things = [okra, moon, {"name": "MOON BEANS"}, {"name": "leeks"}]
        status, ids = self.call("POST", "/api/items/together", {"things": things})
        self.assertEqual((status, ids), (201, ["okra", "moon-beans", "moon-beans", "leek"]))
        made = self.get("/api/items/okra")["item"]
        self.assertTrue(made["preparations"])
        self.assertEqual(self.get("/api/items/moon-beans")["item"]["kind"], "pulse")
        self.call("PUT", "/api/items/okra", {"item": {**made, "archived": True}, "was": made})
        status, said = self.call("POST", "/api/items/together", {"things": [{"name": "Sea foam"}, okra]})
        self.assertEqual(status, 409, said)
        self.assertIn("archived", said["detail"])
        self.assertNotIn("sea-foam", [one["id"] for one in self.get("/api/export")["items"]])

    def test_a_pack_is_typed_as_suppliers_write_it(self) -> None:
        offer = {"item": "leek", "supplier": "saltmarsh", "price": "9,60", "on": DAY.isoformat()}
        for typed, pack in (("5-kg-Beutel", "5 kg"), ("50#", "50 lb"), ("24 stuks", "24 each"), ("6 x 2.5 kg", "6 x 2.5 kg")):
            status, recorded = self.call("POST", "/api/offers", {**offer, "pack": typed})
            self.assertEqual((status, recorded["pack"]), (201, pack), typed)
        for typed in ("1,200 kg", "a crate", "1.4-1.6 kg"):
            status, refused = self.call("POST", "/api/offers", {**offer, "pack": typed})
            self.assertEqual(status, 422, typed)
            self.assertTrue(refused["detail"], typed)

    def test_bad_offers(self) -> None:
        good = {"item": "leek", "supplier": "saltmarsh", "pack": "5 kg", "price": "9.00", "on": DAY.isoformat()}
        for change, status, words in (
            ({"price": "-1"}, 422, "at least 0"),
            ({"price": "nine"}, 422, "a plain number"),
            ({"pack": "5 parsec"}, 422, "unknown unit"),
            ({"pack": "a lot"}, 422, "not a quantity"),
            ({"on": "tomorrow"}, 422, "a date such as"),
            ({"until": "2026-11-01"}, 422, "on or after its first"),
            ({"item": "ham"}, 404, 'no item "ham"'),
            ({"supplier": "nobody"}, 404, 'no supplier "nobody"'),
            ({"corrects": "o-999"}, 422, 'no offer has the id "o-999"'),
        ):
            with self.subTest(change):
                for path in ("/api/offers", "/api/offers/preview"):
                    found, problem = self.call("POST", path, {**good, **change})
                    self.assertEqual(found, status)
                    self.assertIn(words, problem["detail"])

    def test_a_weight_completes_a_recipe(self) -> None:
        self.assertIn("incomplete", self.row("minestrone")["marks"])
        was = self.get("/api/items/basil")["item"]
        item = {**was, "measures": {"bunch": "40 g"}}
        effects = self.call("POST", "/api/items/basil/preview", {"item": item})[1]["effects"]
        self.assertEqual((effects[0]["recipe"], effects[0]["was"]), ("minestrone", None))
        self.assertEqual(self.call("PUT", "/api/items/basil", {"item": item, "was": was})[0], 200)
        self.assertTrue(self.row("minestrone")["complete"])
        self.assertEqual(self.row("minestrone")["food_cost"], effects[0]["now"])

    def test_a_stale_item_is_refused(self) -> None:
        was = self.get("/api/items/basil")["item"]
        theirs, mine = {**was, "measures": {"bunch": "40 g"}}, {**was, "measures": {"bunch": "50 g"}}
        self.call("PUT", "/api/items/basil", {"item": theirs, "was": was})
        status, problem = self.call("PUT", "/api/items/basil", {"item": mine, "was": was})
        self.assertEqual((status, problem["their_item"]["measures"]), (409, {"bunch": "40 g"}))

    def test_bad_items(self) -> None:
        leek = self.get("/api/items/leek")["item"]
        for change, words in (
            ({"measures": {"bunch": "4 bunch"}}, "a weight needs a unit of mass"),
            ({"density": "0"}, "a density is 0"),
            ({"preparations": [{"id": "p", "name": "p", "yield": "30"}]}, "a yield is 30"),
        ):
            status, problem = self.call("PUT", "/api/items/leek", {"item": {**leek, **change}, "was": leek})
            self.assertEqual(status, 422)
            self.assertIn(words, problem["detail"])

    def test_forms_side_by_side(self) -> None:
        found = self.get("/api/usable?unit=kg&form=butternut:cubed&form=squash-cubes")
        self.assertEqual((found["cheapest"], found["cheapest_with_labour"]), ("butternut:cubed", "squash-cubes"))
        self.assertEqual(self.call("GET", "/api/usable?form=ham")[0], 422)
        self.assertEqual(self.call("GET", "/api/usable?form=leek&unit=parsec")[0], 422)

    def test_comparisons_are_kept_changed_and_let_go(self) -> None:
        path, leeks = "/api/comparisons", {"id": "leeks", "name": "Leeks", "forms": ["leek:sliced"], "unit": "kg"}
        before = self.get(path)
        self.assertEqual(self.call("PUT", path, {"comparison": leeks})[0], 204)
        *others, kept = self.get(path)
        self.assertEqual((others, kept["comparison"]), (before, leeks))
        self.assertEqual(kept["found"]["cheapest"], "leek:sliced")
        # A lost answer may be asked for again; somebody else's change is not written over.
        self.assertEqual(self.call("PUT", path, {"comparison": leeks})[0], 204)
        both = {**leeks, "forms": ["leek:sliced", "onion"]}
        self.assertEqual(self.call("PUT", path, {"comparison": both, "seen": leeks})[0], 204)
        status, problem = self.call("PUT", path, {"comparison": {**leeks, "name": "Mine"}, "seen": leeks})
        self.assertEqual((status, problem["type"]), (409, "urn:potrel:problem:stale-comparison"))
        self.assertEqual(self.get(path)[-1]["comparison"], both)
        self.assertEqual(self.get("/api/export")["comparisons"][-1]["forms"], both["forms"])
        self.assertEqual(self.call("PUT", path, {"comparison": {**leeks, "id": "x", "forms": ["ham"]}})[0], 422)
        self.assertEqual(self.call("DELETE", f"{path}/leeks")[0], 204)
        self.assertEqual(self.get(path), before)
        self.assertEqual(self.call("DELETE", f"{path}/leeks")[0], 404)

    def test_the_price_book_goes_out(self) -> None:
        for name, start in (("csv", b"item,name,kind"), ("xlsx", b"PK")):
            answer = self.send("GET", f"/api/price-book.{name}")
            self.assertIn(f"potrel-price-book.{name}", answer.headers["Content-Disposition"])
            self.assertTrue(answer.content.startswith(start))

    def test_a_new_supplier(self) -> None:
        self.assertEqual(self.call("POST", "/api/suppliers", {"id": "quay", "name": "Quay Stall"})[0], 201)
        self.assertEqual(self.call("POST", "/api/suppliers", {"id": "quay", "name": "Quay Stall"})[0], 409)
        self.assertIn("quay", {one["id"] for one in self.get("/api/kitchen")["suppliers"]})


class TheKitchen(ApiTest):
    def test_settings_move_the_board(self) -> None:
        head = self.get("/api/kitchen")
        settings = {**head["settings"], "target_food_cost": "0.20"}
        body = {"name": "Estuary", "currency": "GBP", "settings": settings, "was": head["settings"]}
        self.assertEqual(self.call("PUT", "/api/kitchen", body)[0], 200)
        status, problem = self.call("PUT", "/api/kitchen", body)
        self.assertEqual((status, problem["type"]), (409, "urn:potrel:problem:stale-settings"))
        board = self.get("/api/board")
        self.assertEqual((board["kitchen"], board["currency"], board["target_share"]), ("Estuary", "GBP", "0.2"))

    def test_other_settings_show_what_they_do_before_they_are_saved(self) -> None:
        head = self.get("/api/kitchen")
        settings = {**head["settings"], "byproduct_method": "main_bears_all"}
        body = {"name": "E", "currency": "EUR", "settings": settings, "was": head["settings"]}
        effects = self.call("POST", "/api/kitchen/preview", body)[1]["effects"]
        broth = next(one for one in effects if (one["recipe"], one["serving"]) == ("chicken-barley", "bowl"))
        self.assertEqual(broth["was"], self.row("chicken-barley")["food_cost"])
        self.call("PUT", "/api/kitchen", body)
        self.assertEqual(broth["now"], self.row("chicken-barley")["food_cost"])
        same = {**body, "was": settings}
        self.assertEqual(self.call("POST", "/api/kitchen/preview", same)[1]["effects"], [])

    def test_a_method_that_lacks_a_value_says_which(self) -> None:
        head = self.get("/api/kitchen")
        settings = {**head["settings"], "byproduct_method": "market_value"}
        body = {"name": "E", "currency": "EUR", "settings": settings, "was": head["settings"]}
        self.assertEqual(self.call("PUT", "/api/kitchen", body)[0], 200)
        self.assertIn("worth, to share", str(self.get("/api/recipes/leek-potato")["sheet"]["problems"]))

    def test_a_price_that_may_be_a_slip_is_doubted(self) -> None:
        offer = {"item": "leek", "supplier": "saltmarsh", "pack": "5 kg", "on": DAY.isoformat()}
        for price, words in (
            ("96", "ten times the last one"),
            ("0.96", "ten times this one"),
            ("0", "is it a gift"),
            ("9.90", ""),
        ):
            doubts = self.call("POST", "/api/offers/preview", {**offer, "price": price})[1]["doubts"]
            self.assertIn(words, "; ".join(doubts))
            self.assertEqual(bool(doubts), bool(words))

    def test_a_label_that_was_read_counts_for_its_article(self) -> None:
        def state(item: str) -> str:
            return str(self.get(f"/api/items/{item}")["label"]["state"])

        self.assertEqual((state("roll"), state("leek"), state("celeriac")), ("unchecked", "none", "contains"))
        self.assertIn("Bread roll", self.get("/api/recipes/leek-potato")["allergens"]["unchecked"])
        status, labels = self.call("POST", "/api/labels", {"items": ["roll", "bacon"], "by": "Ada"})
        self.assertEqual((status, {one["check"]["by"] for one in labels}), (200, {"Ada"}))
        self.assertEqual(state("roll"), "contains")
        self.assertNotIn("Bread roll", self.get("/api/recipes/leek-potato")["allergens"]["unchecked"])
        # One of a name that nobody knows, and nothing is written.
        self.assertEqual(self.call("POST", "/api/labels", {"items": ["beef-base", "nothing"], "by": "Ada"})[0], 404)
        self.assertEqual(state("beef-base"), "unchecked")
        # Another supplier's has another label.
        offer = {"item": "leek", "supplier": "quayside", "pack": "5 kg", "price": "9", "on": DAY.isoformat()}
        self.assertEqual(self.call("POST", "/api/offers", offer)[0], 201)
        self.assertEqual(state("leek"), "changed")
        self.assertEqual(self.call("POST", "/api/labels", {"items": ["roll"], "by": "Ada", "read": False})[0], 200)
        self.assertEqual(state("roll"), "unchecked")

    def test_allergens_follow_the_list_of_the_kitchen(self) -> None:
        matrix = self.get("/api/allergens")
        chowder = next(row for row in matrix["rows"] if row["recipe"] == "haddock-chowder")
        # Celery is in the base, fish in the stock and the pot, gluten in the flour, milk in the cream.
        self.assertLessEqual({"Celery", "Fish", "Milk", "Cereals containing gluten"}, {c["group"] for c in chowder["cells"]})
        head = self.get("/api/kitchen")
        settings = {**head["settings"], "allergen_list": "us9"}
        self.call("PUT", "/api/kitchen", {"name": "E", "currency": "EUR", "settings": settings, "was": head["settings"]})
        self.assertEqual(len(self.get("/api/allergens")["groups"]), 9)

    def test_export(self) -> None:
        document = self.get("/api/export")
        self.assertEqual((document["format"], len(document["recipes"])), ("potrel-kitchen", 21))


class Errors(ApiTest):
    def test_unknown_addresses(self) -> None:
        self.assertEqual(self.call("GET", "/api/nothing")[0], 404)
        self.assertEqual(self.call("POST", "/api/board", {})[0], 405)

    def test_what_is_no_json(self) -> None:
        for raw in (b"{", b"\xff\xfe", b"[" * 100000):
            status, problem = self.call("POST", "/api/preview", raw=raw)
            self.assertIn(status, (400, 422))
            self.assertNotIn("Traceback", problem["detail"])

    def test_pages_and_their_caching(self) -> None:
        for path in ("/", "/cook/leek-potato", "/nowhere"):
            answer = self.send("GET", path)
            self.assertIn("no-cache", answer.headers["Cache-Control"])
            page = answer.text
        script = page.split('src="')[1].split('"')[0]
        self.assertIn("immutable", self.send("GET", script).headers["Cache-Control"])
        self.assertNotIn("http://", page.replace("http://www.w3.org", ""))
