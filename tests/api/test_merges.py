"""Items put away and merged, over HTTP; vessels, suppliers and endings of a kitchen changed in one save."""

from __future__ import annotations

from typing import Any

from tests.api.test_api import ApiTest


class Merging(ApiTest):
    def item(self, name: str) -> Any:
        return self.get(f"/api/items/{name}")["item"]

    def test_a_merge_does_what_its_preview_promised_and_is_taken_back(self) -> None:
        board = self.get("/api/board")
        promised = self.call("POST", "/api/items/swede/merge/preview", {"into": "parsnip"})[1]["effects"]
        self.assertGreater(len(promised), 0)
        status, done = self.call("POST", "/api/items/swede/merge", {"into": "parsnip"})
        self.assertEqual(status, 200, done)
        for one in promised:
            self.assertEqual(self.row(one["recipe"], one["serving"])["food_cost"], one["now"])
        self.assertTrue(self.item("swede")["archived"])
        named = {one["id"]: one["archived"] for one in self.get("/api/names")}
        self.assertEqual((named["swede"], named["parsnip"]), (True, False))
        self.assertEqual(self.call("POST", "/api/items/unmerge", done)[0], 204)
        rows = {(one["recipe"], one["serving"]): one["food_cost"] for one in self.get("/api/board")["rows"]}
        self.assertEqual(rows, {(one["recipe"], one["serving"]): one["food_cost"] for one in board["rows"]})
        self.assertFalse(self.item("swede")["archived"])
        # It was taken back: there is nothing to take back any more.
        self.assertIn(self.call("POST", "/api/items/unmerge", done)[0], (409, 422))

    def test_what_changed_since_is_not_written_over(self) -> None:
        done = self.call("POST", "/api/items/swede/merge", {"into": "parsnip"})[1]
        parsnip = self.item("parsnip")
        self.call("PUT", "/api/items/parsnip", {"item": {**parsnip, "density": "0.7"}, "was": parsnip})
        self.assertEqual(self.call("POST", "/api/items/unmerge", done)[0], 409)
        self.assertEqual(self.item("parsnip")["density"], "0.7")

    def test_what_stands_in_the_way_of_taking_it_back_is_named(self) -> None:
        done = self.call("POST", "/api/items/swede/merge", {"into": "parsnip"})[1]
        of = done["recipes"][0]["recipe"]["id"]
        reply = self.get(f"/api/recipes/{of}")
        self.call("PUT", f"/api/recipes/{of}", {"recipe": {**reply["recipe"], "note": "x"}, "based_on": reply["revision"]})
        parsnip = self.item("parsnip")
        self.call("PUT", "/api/items/parsnip", {"item": {**parsnip, "density": "0.7"}, "was": parsnip})
        status, refused = self.call("POST", "/api/items/unmerge", done)
        self.assertEqual((status, refused["type"]), (409, "urn:potrel:problem:stale-merge"))
        self.assertIn(f"Parsnips, {reply['recipe']['name']} changed since", refused["detail"])

    def test_a_second_hand_does_not_merge_what_is_merged(self) -> None:
        self.assertEqual(self.call("POST", "/api/items/swede/merge", {"into": "parsnip"})[0], 200)
        for path, body in (
            ("swede/merge", "parsnip"),
            ("swede/merge", "carrot"),
            ("carrot/merge", "swede"),
            ("swede/merge/preview", "carrot"),
        ):
            status, refused = self.call("POST", f"/api/items/{path}", {"into": body})
            self.assertEqual((status, "Swede is put away" in refused["detail"]), (409, True))

    def test_allergens_consumables_and_add_ons_follow(self) -> None:
        """Two breads that are one: what one's label says counts wherever the other was named, and is read again."""
        check = {"on": "2026-11-20", "by": "Ada", "supplier": None, "code": None, "gtin": None}
        bread = {"kind": "bread", "measures": {"each": "60 g"}}
        read = {**bread, "id": "roll-a", "name": "Roll A", "allergens": ["gluten"], "allergen_check": check}
        milky = {**bread, "id": "roll-b", "name": "Roll B", "allergens": ["gluten", "milk"], "allergen_check": check}
        unread = {**bread, "id": "roll-c", "name": "Roll C", "allergens": ["gluten"]}
        for item in (read, milky, unread):
            self.assertEqual(self.call("POST", "/api/items", {"item": item})[0], 201)
        reply = self.get("/api/recipes/leek-potato")
        recipe, line = reply["recipe"], {"item": "roll-b", "quantity": "1 each"}
        recipe["consumables"] = [line]
        recipe["servings"][0]["add_ons"] = [{**line, "surcharge": "0.50"}]
        answer = self.call("PUT", "/api/recipes/leek-potato", {"recipe": recipe, "based_on": reply["revision"]})
        self.assertEqual(answer[0], 200, answer[1])
        status, done = self.call("POST", "/api/items/roll-b/merge", {"into": "roll-a"})
        self.assertEqual(status, 200, done)
        after = self.get("/api/recipes/leek-potato")["recipe"]
        self.assertEqual(after["consumables"][0]["item"], "roll-a")
        self.assertEqual(after["servings"][0]["add_ons"][0]["item"], "roll-a")
        merged = self.item("roll-a")
        self.assertEqual((merged["allergens"], merged["allergen_check"]), (["gluten", "milk"], None))
        self.assertEqual(self.call("POST", "/api/items/unmerge", done)[0], 204)
        self.assertEqual(self.item("roll-a")["allergen_check"], check)
        # Of the same allergens, but of one label nobody knows: it is to be read.
        self.assertEqual(self.call("POST", "/api/items/roll-c/merge", {"into": "roll-a"})[0], 200)
        self.assertEqual((self.item("roll-a")["allergens"], self.item("roll-a")["allergen_check"]), (["gluten"], None))

    def test_wrong_merges(self) -> None:
        self.assertEqual(self.call("POST", "/api/items/swede/merge", {"into": "swede"})[0], 422)
        self.assertEqual(self.call("POST", "/api/items/swede/merge", {"into": "nothing"})[0], 404)
        self.assertEqual(self.call("POST", "/api/items/nothing/merge/preview", {"into": "swede"})[0], 404)

    def test_an_archived_item_stays_in_its_pots_and_comes_back(self) -> None:
        before, swede = self.row("lamb-hotpot")["food_cost"], self.item("swede")
        self.call("PUT", "/api/items/swede", {"item": {**swede, "archived": True}, "was": swede})
        self.assertEqual(self.row("lamb-hotpot")["food_cost"], before)
        again = {**swede, "id": "swede-2", "archived": False}
        status, refused = self.call("POST", "/api/items", {"item": again})
        self.assertEqual((status, "bring that one back" in refused["detail"]), (409, True))
        # Nothing else is called so: it is still what is meant.
        line = self.call("POST", "/api/typed-line", {"text": "2 kg swede", "item": None, "recipe": None})[1]["line"]
        self.assertEqual(line["item"], "swede")


class TheWholeKitchen(ApiTest):
    def save(self, **changed: Any) -> tuple[int, Any]:
        head = self.get("/api/kitchen")
        body = {"name": head["name"], "currency": head["currency"], "settings": head["settings"], "was": head["settings"]}
        return self.call("PUT", "/api/kitchen", {**body, **changed})

    def test_vessels_are_added_renamed_and_taken_out(self) -> None:
        was = self.get("/api/kitchen")["vessels"]
        kettle = next(one for one in was if one["id"] == "kettle")
        wanted = [{**one, "name": "Big kettle", "capacity": "80 l"} if one == kettle else one for one in was]
        wanted.append({"id": "wok", "name": "Wok", "capacity": None})
        self.assertEqual(self.save(vessels=wanted, was_vessels=was)[0], 200)
        now = self.get("/api/kitchen")["vessels"]
        self.assertEqual([{key: one[key] for key in ("id", "name", "capacity")} for one in now],
                         [{key: one[key] for key in ("id", "name", "capacity")} for one in wanted])  # fmt: skip
        self.assertEqual(self.save(vessels=was, was_vessels=was)[0], 409, "somebody changed them since")
        self.assertEqual(self.save(vessels=wanted[:-1], was_vessels=wanted)[0], 200)
        status, refused = self.save(vessels=[one for one in wanted if one["id"] != "kettle"])
        self.assertEqual((status, "cooks in Big kettle: choose another" in refused["detail"]), (422, True))
        self.assertEqual(self.save(vessels=[{"id": "a", "name": "A", "capacity": "much"}])[0], 422)

    def test_a_supplier_is_called_otherwise(self) -> None:
        was = next(one for one in self.get("/api/kitchen")["suppliers"] if one["id"] == "quayside")
        now = {**was, "name": "Quayside Meat"}
        self.assertEqual(self.save(suppliers=[now], were_suppliers=[was])[0], 200)
        self.assertEqual(self.get("/api/items/bacon")["row"]["supplier"], "Quayside Meat")
        self.assertEqual(self.save(suppliers=[was], were_suppliers=[was])[0], 409)
        self.assertEqual(self.save(suppliers=[now], were_suppliers=[])[0], 422)
