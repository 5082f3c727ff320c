"""The edges: two hands at once, odd numbers, a refused row; whatever is accepted can be carried away and brought back."""

from __future__ import annotations

import json
import threading
import time
from dataclasses import replace
from decimal import Decimal
from typing import Any
from unittest.mock import patch

from hypothesis import given, settings
from hypothesis import strategies as st

from potrel.core.errors import PotrelError
from potrel.core.kitchen.lines import Line
from potrel.core.kitchen.quantities import parse_quantity
from potrel.core.kitchen.recipes import Recipe
from potrel.formats.kitchen_json import part_to_json, read_kitchen, write_kitchen
from potrel.store.errors import Refused
from potrel.store.kitchens import insert_kitchen, load_kitchen
from potrel.store.offers import insert_offers
from potrel.store.recipes import save_recipe
from tests.api.test_api import ApiTest
from tests.kitchens import DAY, demo, tiny


class TwoHands(ApiTest):
    def test_two_saves_at_once_make_no_loop(self) -> None:
        by_id = {one.id: one for one in demo().recipes}
        parsnip, mushroom = by_id["curried-parsnip"], by_id["mushroom"]
        answers: list[tuple[int, Any]] = []
        body = {"recipe": document(_with(mushroom, "curried-parsnip")), "based_on": 1}
        thread = threading.Thread(target=lambda: answers.append(self.call("PUT", "/api/recipes/mushroom", body)))
        self.get("/api/board")
        with self.store.writing("elsewhere") as connection:
            # The one save waits, having seen nothing of the other; then the other is there.
            thread.start()
            time.sleep(0.3)
            save_recipe(connection, _with(parsnip, "mushroom"), 1, "elsewhere")
        thread.join()
        ((status, problem),) = answers
        self.assertEqual(status, 422)
        self.assertEqual(problem["code"], "recipe_loop")
        self.assertIn("mushroom -> curried-parsnip -> mushroom", problem["detail"])
        for path in ("/api/board", "/api/recipes", "/api/items"):
            self.get(path)

    def test_an_item_is_not_saved_over_a_change_that_came_in_between(self) -> None:
        leek = self.get("/api/items/leek")["item"]
        others = {**leek, "name": "Leeks, blanched"}
        self.assertEqual(self.call("PUT", "/api/items/leek", {"item": others, "was": leek})[0], 200)
        status, problem = self.call("PUT", "/api/items/leek", {"item": {**leek, "name": "Leeks"}, "was": leek})
        self.assertEqual((status, problem["code"]), (409, "item_changed"))
        self.assertEqual(self.get("/api/items/leek")["item"]["name"], "Leeks, blanched")


def document(recipe: Recipe) -> Any:
    """A recipe as a piece of a document."""
    return json.loads(part_to_json(Recipe, recipe))


def _with(recipe: Recipe, part: str) -> Recipe:
    first, *others = recipe.stages
    more = replace(first, lines=(*first.lines, Line(parse_quantity("100 g"), recipe=part)))
    return replace(recipe, stages=(more, *others))


class Ids(ApiTest):
    def test_prices_can_be_recorded_after_a_refused_one_an_export_and_an_import(self) -> None:
        (first, *_) = demo().offers
        for _ in range(3):
            with self.assertRaises(Refused), self.store.writing("test") as connection:
                insert_offers(connection, [replace(first, item="ham")], "test")
        with self.store.reading() as connection:
            carried = write_kitchen(load_kitchen(connection))
        with self.store.writing("test") as connection:
            insert_kitchen(connection, read_kitchen(carried.encode()), "test", replace=True)
        offer = {"item": "leek", "supplier": "saltmarsh", "pack": "5 kg", "price": "19.20", "on": DAY.isoformat()}
        ids = [self.call("POST", "/api/offers", offer) for _ in range(3)]
        self.assertEqual([status for status, _ in ids], [201] * 3)
        self.assertEqual(len({one["id"] for _, one in ids}), 3)

    def test_an_import_moves_the_ids_on(self) -> None:
        far = [replace(one, id=f"o-{9000 + n}") for n, one in enumerate(demo().offers)]
        with self.store.writing("test") as connection:
            insert_kitchen(connection, replace(demo(), offers=tuple(far)), "test", replace=True)
        offer = {"item": "leek", "supplier": "saltmarsh", "pack": "5 kg", "price": "19.20", "on": DAY.isoformat()}
        status, recorded = self.call("POST", "/api/offers", offer)
        self.assertEqual(status, 201)
        self.assertNotIn(recorded["id"], {one.id for one in far})


# Numbers as hands, workbooks and programs write them: those that the document can carry, and those that it cannot.
_PLAIN = st.builds(lambda places, digits: str(Decimal(digits).scaleb(-places)), st.integers(0, 12), st.integers(1, 10**6))
_ODD = st.one_of(
    st.floats(0, 5000).map(repr),
    st.decimals(0, 5000).map(str),
    st.sampled_from(["11.520000000000001", "1e2", "0.0000000000001", "-0", "00.50", ".5", "7.", "NaN", "1,5", "1/3", "5.00"]),
)
NUMBERS = st.one_of(*[_PLAIN] * 6, _ODD)
SHARES = st.one_of(*[st.integers(1, 10**6).map(lambda n: str(Decimal(n).scaleb(-6)))] * 6, _ODD)
QUANTITIES = st.builds(
    lambda number, unit: f"{number} {unit}",
    st.one_of(*[_PLAIN] * 3, _ODD, st.sampled_from(["1 1/2", "1½", "⅓", "2/7", "0,75"])),
    st.sampled_from(["kg", "g", "l", "cup", "bunch", "lb"]),
)


class CarriedAway(ApiTest):
    """What the API accepts, an export and an import give back, byte for byte."""

    kitchen = tiny()

    def carried(self) -> bytes:
        with self.store.reading() as connection:
            return write_kitchen(load_kitchen(connection)).encode()

    def assertCarried(self) -> None:
        first = self.carried()
        with self.store.writing("test") as connection:
            insert_kitchen(connection, read_kitchen(first), "test", replace=True)
        self.assertEqual(self.carried(), first)

    def test_whatever_is_accepted(self) -> None:
        accepted = {"offers": 0, "items": 0, "recipes": 0, "settings": 0}
        numbers = iter(range(10_000))
        # One server and one database for all examples: each adds to what is there.
        self.assertCarried()

        @settings(max_examples=60)
        @given(NUMBERS, QUANTITIES, SHARES, QUANTITIES)
        def each(number: str, quantity: str, share: str, pack: str) -> None:
            at = next(numbers)
            item = {"id": f"new-{at}", "name": f"New {at}", "kind": "other", "density": share, "measures": {"bunch": pack},
                    "preparations": [{"id": "cut", "name": "cut", "yield": share, "minutes_per_kg": number}],
                    "cooking": [{"method": "fry", "yield": share, "rendered": share}]}  # fmt: skip
            offer = {"item": "celeriac", "supplier": "valley", "pack": pack, "price": number, "on": DAY.isoformat()}
            recipe = {"id": f"pot-{at}", "name": f"Pot {at}", "density": "1", "stages": [{
                "id": "s", "attended_minutes": number, "residue": share, "value_per_kg": number, "lines": [
                    {"item": "celeriac", "quantity": quantity, "cook_yield": share}]}], "servings": [
                {"id": "b", "name": "B", "size": quantity, "price": number, "commission": share}]}  # fmt: skip
            was = self.get("/api/kitchen")
            kitchen = {"name": "Slipway", "currency": "EUR", "was": was["settings"],
                       "settings": {**was["settings"], "tax_rate": share, "labour_rate_per_hour": number}}  # fmt: skip
            for what, sent in (
                ("offers", self.call("POST", "/api/offers", offer)),
                ("items", self.call("POST", "/api/items", {"item": item})),
                ("recipes", self.call("POST", "/api/recipes", {"recipe": recipe})),
                ("settings", self.call("PUT", "/api/kitchen", kitchen)),
            ):
                status, problem = sent
                self.assertIn(status, (200, 201, 422), problem)
                if status == 422:
                    self.assertTrue(problem["detail"] or problem["fields"], what)
                else:
                    accepted[what] += 1
            self.assertCarried()

        each()
        self.assertTrue(all(accepted.values()), accepted)

    def test_a_price_with_the_dust_of_a_workbook(self) -> None:
        offer = {"item": "celeriac", "supplier": "valley", "pack": "5 kg", "price": "11.520000000000001", "on": DAY.isoformat()}
        status, problem = self.call("POST", "/api/offers", offer)
        self.assertEqual((status, problem["where"]), (422, "price"))
        self.assertIn("at most 12 digits and 12 places", problem["detail"])
        self.assertCarried()

    def test_the_database_holds_nothing_that_the_document_cannot(self) -> None:
        for statement in (
            "UPDATE item SET density = 1.0000000000001",
            "UPDATE preparation SET yield = 0.00000000000001",
            "INSERT INTO offer (id, item, supplier, pack, pack_count, pack_amount, pack_unit, price, valid_from, recorded_by)"
            " VALUES ('o-x', 'celeriac', 'valley', '1 kg', 1, 1, 'kg', 11.5200000000000001, '2026-11-24', 'me')",
        ):
            with self.subTest(statement), self.assertRaises(PotrelError):
                with self.store.writing("test") as connection:
                    connection.execute(statement.encode())


class Refusals(ApiTest):
    def test_what_the_server_says_is_not_passed_on(self) -> None:
        # Whatever language the server speaks: the sentence is ours, the table and the rule are names.
        (first, *_) = demo().offers
        cases = (
            (
                replace(first, item="ham"),
                "offer names something that is not there, or no longer: look again, then name another",
            ),
            (replace(first, price=Decimal(-1)), "the database refused it: the kitchen breaks its rule amount_check"),
        )
        for offer, words in cases:
            with self.subTest(words), self.assertRaises(Refused) as caught, self.store.writing("test") as connection:
                insert_offers(connection, [offer], "test")
            self.assertEqual(str(caught.exception), words)


class Measures(ApiTest):
    GOOD = ("2-inch piece", "no. 2", "Bunch, large".replace(",", ""), "3-finger pinch", "Büschel", "pot of 12", "1-kilo bag")
    BAD = ("1 bunch", "=cmd", "2", "½ bunch", "-", "a/b", "12 cm", " ", "<b>", "bunch; large")

    def put(self, measures: dict[str, str]) -> tuple[int, Any]:
        leek = self.get("/api/items/leek")["item"]
        return self.call("PUT", "/api/items/leek", {"item": {**leek, "measures": measures}, "was": leek})

    def test_what_cooks_write_is_taken_and_can_be_written_in_a_line(self) -> None:
        status, problem = self.put(dict.fromkeys(self.GOOD, "60 g"))
        self.assertEqual(status, 200, problem)
        for name in self.GOOD:
            found = self.call("POST", "/api/typed-line", {"text": f"3 {name} leeks"})[1]
            self.assertEqual(found["line"]["item"], "leek", (name, found))
            recipe = self.get("/api/recipes/leek-potato")["recipe"]
            line = {
                **recipe["stages"][0]["lines"][0],
                "quantity": f"3 {name}",
                "item": "leek",
                "recipe": None,
                "preparation": None,
            }
            recipe["stages"][0]["lines"] = [{**line, "basis": "AP", "id": None}]
            sheet = self.call("POST", "/api/preview", {"recipe": recipe})[1]["sheet"]
            self.assertEqual(sheet["lines"][0]["ap_g"], "180", name)

    def test_what_is_no_measure_is_refused_where_it_is_typed(self) -> None:
        for name in self.BAD:
            status, problem = self.put({name: "60 g"})
            self.assertEqual(status, 422, name)
            self.assertIn("measures", problem["where"])
        for pair in ({"bunch": "60 g", "Bunches": "70 g"}, {"kg": "1 kg"}):
            self.assertEqual(self.put(pair)[0], 422)

    def test_one_that_is_there_all_the_same_blocks_nothing(self) -> None:
        for name in self.BAD:
            with self.store.writing("elsewhere") as connection:
                connection.execute("DELETE FROM measure WHERE item = 'leek'")
                connection.execute("UPDATE item SET name = name WHERE id = 'leek'")
                connection.execute(
                    "INSERT INTO measure (item, unit, mass, mass_amount, mass_unit, position)"
                    " VALUES ('leek', %s, '60 g', 60, 'g', 1)",
                    [name],
                )
            offer = {"item": "carrot", "supplier": "saltmarsh", "pack": "10 kg", "price": "9.10", "on": DAY.isoformat()}
            self.assertEqual(self.call("POST", "/api/offers", offer)[0], 201, name)
            saved = self.get("/api/recipes/leek-potato")
            body = {"recipe": saved["recipe"], "based_on": saved["revision"]}
            self.assertEqual(self.call("PUT", "/api/recipes/leek-potato", body)[0], 200, name)
            read = self.send("POST", "/api/price-lists?name=x", b"Goods;Pack;Price\nLeeks;5 kg;9\n")
            number = json.loads(read.text.splitlines()[-1])["number"]
            self.get(f"/api/price-lists/{number}")
            # And it can be mended where it stands.
            self.assertEqual(self.put({"bunch": "60 g"})[0], 200, name)


class OneAtATime(ApiTest):
    def test_a_price_is_corrected_once(self) -> None:
        offer = {"item": "leek", "supplier": "saltmarsh", "pack": "5 kg", "price": "31.00", "on": DAY.isoformat()}
        wrong = self.call("POST", "/api/offers", offer)[1]["id"]
        found: list[int] = []

        def correct(turn: int) -> None:
            found.append(self.call("POST", "/api/offers", {**offer, "price": f"9.{turn}0", "corrects": wrong})[0])

        threads = [threading.Thread(target=correct, args=(turn,)) for turn in range(4)]
        for one in threads:
            one.start()
        for one in threads:
            one.join()
        self.assertEqual(sorted(found), [201, 409, 409, 409])

    def test_a_line_of_a_list_is_chosen_by_one_at_a_time(self) -> None:
        data = b"Goods;Pack;Price\nLeeks;5 kg;9.90\nOnions;20 kg;17.30\n"
        number = json.loads(self.send("POST", "/api/price-lists?name=a", data).text.splitlines()[-1])["number"]
        path = f"/api/price-lists/{number}"
        seen = {line["place"]: line["chosen"] for line in self.get(path)["lines"]}
        leek = {"lines": [{"place": 2, "item": "leek"}], "lines_were": [seen[2]]}
        onion = {"lines": [{"place": 3, "item": "onion"}], "lines_were": [seen[3]]}
        self.assertEqual(self.call("PUT", path, leek)[0], 200)
        self.assertEqual(self.call("PUT", path, onion)[0], 200, "another line is another matter")
        other = {"lines": [{"place": 2, "item": "carrot"}], "lines_were": [seen[2]]}
        self.assertEqual(self.call("PUT", path, other)[0], 409)
        items = {line["place"]: line["item"] for line in self.get(path)["lines"]}
        self.assertEqual(items, {2: "leek", 3: "onion"})
        now = next(line["chosen"] for line in self.get(path)["lines"] if line["place"] == 2)
        self.assertEqual(self.call("PUT", path, {**other, "lines_were": [now]})[0], 200)

    def test_a_comparison_that_was_changed_is_not_let_go_unseen(self) -> None:
        one = {"id": "mine", "name": "Mine", "unit": "kg", "forms": ["leek"]}
        self.assertEqual(self.call("PUT", "/api/comparisons", {"comparison": one})[0], 204)
        later = {**one, "forms": ["leek", "onion"]}
        self.assertEqual(self.call("PUT", "/api/comparisons", {"comparison": later, "seen": one})[0], 204)
        self.assertEqual(self.call("DELETE", "/api/comparisons/mine", one)[0], 409)
        self.assertEqual(self.call("DELETE", "/api/comparisons/mine", later)[0], 204)
        self.assertEqual(self.call("DELETE", "/api/comparisons/mine")[0], 404)

    def test_a_name_and_a_currency_are_saved_by_one_at_a_time(self) -> None:
        head = self.get("/api/kitchen")
        body = {"name": "Quay", "currency": "EUR", "settings": head["settings"], "was": head["settings"],
                "was_name": head["name"], "was_currency": head["currency"]}  # fmt: skip
        self.assertEqual(self.call("PUT", "/api/kitchen", body)[0], 200)
        self.assertEqual(self.call("PUT", "/api/kitchen", {**body, "name": "Pier"})[0], 409)
        self.assertEqual(self.call("PUT", "/api/kitchen", {**body, "was_name": "Quay", "was_currency": "USD"})[0], 409)
        self.assertEqual(self.get("/api/kitchen")["name"], "Quay")
        # Who says nothing of them, as before, is taken at their word.
        self.assertEqual(self.call("PUT", "/api/kitchen", {k: v for k, v in body.items() if not k.startswith("was_")})[0], 200)

    def test_the_room_for_lists_has_an_end_and_says_so(self) -> None:
        self.assertEqual(self.get("/api/price-lists")["room_taken"], "0")
        read = self.send("POST", "/api/price-lists?name=a", b"Goods;Pack;Price\nLeeks;5 kg;9\n")
        self.assertEqual(read.status_code, 200)
        with patch("potrel.store.price_lists.MOST_KEPT", 30):
            last = self.send("POST", "/api/price-lists?name=b", b"Goods;Pack;Price\nOnions;5 kg;9\n").text.splitlines()[-1]
        self.assertIn("all there is room for", json.loads(last)["problem"])
        self.assertEqual(len(self.get("/api/price-lists")["lists"]), 1)


class AfterAnImport(ApiTest):
    def test_the_same_invoice_is_still_known_where_the_document_holds_its_prices(self) -> None:
        before = self.send("GET", "/api/export").content
        data = b"Goods;Pack;Price\nLeeks;5 kg;9.90\nOnions;20 kg;17.30\n"
        number = json.loads(self.send("POST", "/api/price-lists?name=a", data).text.splitlines()[-1])["number"]
        lines = [{"place": place, "item": item} for place, item in ((2, "leek"), (3, "onion"))]
        path = f"/api/price-lists/{number}"
        self.assertEqual(self.call("PUT", path, {"supplier": "saltmarsh", "lines": lines})[0], 200)
        review = self.get(path)
        self.assertEqual(self.call("POST", f"{path}/record", {"seen": review["seen"]})[0], 200, review["blocked"])
        after = self.send("GET", "/api/export").content
        board = self.get("/api/board")
        for document, known in ((after, True), (before, False)):
            with self.store.writing("import") as connection:
                insert_kitchen(connection, read_kitchen(document), "import", replace=True)
            again = json.loads(self.send("POST", "/api/price-lists?name=b", data).text.splitlines()[-1])
            self.assertEqual(again["known"], known)
            if known:
                self.assertEqual((again["number"], self.get(path)["row"]["state"]), (number, "recorded"))
                self.assertEqual(self.get("/api/board"), board)
                self.assertEqual(self.call("POST", f"{path}/undo")[0], 200)
                self.assertNotEqual(self.get("/api/board"), board)
