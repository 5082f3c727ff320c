"""The Trim room over HTTP: the yield book, tests and sheets, adopting and going back, practice, the scale."""

from __future__ import annotations

import time
from decimal import Decimal
from typing import Any

from potrel.devices.simulated_scale import simulated_scale
from tests.api.test_api import ApiTest
from tests.kitchens import demo
from tests.servers import DatabaseTest, Served

LEEK = "/api/yields/leek/preparation/sliced"
TEST: dict[str, Any] = {
    "id": "new", "item": "leek", "kind": "trim", "of": "sliced", "on": "2026-11-24", "before": "4 kg", "after": "1.8 kg",
    "parts": [{"name": "leek tops", "mass": "1.65 kg", "value_per_kg": "0.30", "use": "vegetable stock"},
              {"name": "roots", "mass": "0.5 kg", "value_per_kg": "0"}],
    "minutes": "12", "supplier": "saltmarsh",
}  # fmt: skip


class Yields(ApiTest):
    def choice(self, of: str) -> Any:
        return next(one for one in self.get(LEEK)["choices"] if one["id"] == of)

    def adopt(self, **wanted: Any) -> tuple[int, Any]:
        return self.call("POST", f"{LEEK}/adopt", wanted)

    def test_the_book_names_what_each_yield_rests_on(self) -> None:
        book = self.get("/api/yields")
        rows = {(row["item"], row["of"]): row for row in book["rows"]}
        self.assertEqual((rows["leek", "sliced"]["tests"], rows["leek", "sliced"]["rests_on"]), (6, "book"))
        self.assertEqual((rows["mushroom", "sweat"]["sort"], rows["mushroom", "sweat"]["own_mean"]), ("cooking", "0.45"))
        self.assertGreaterEqual(len(book["shelf"]), 160)
        self.assertEqual(book["waiting"], [])
        self.assertTrue(all(row["tests"] == 0 for row in book["worth_testing"]))

    def test_adopting_shows_before_and_after_and_can_be_gone_back_from(self) -> None:
        mean = self.choice("mean")
        preview = self.call("POST", f"{LEEK}/preview", {"choice": "mean", "yield": mean["yield"]})[1]
        effects = {(one["recipe"], one["serving"]): one for one in preview["effects"]}
        before = self.row("leek-potato")
        self.assertEqual(effects["leek-potato", "bowl"]["was"], before["food_cost"])
        status, adopted = self.adopt(choice="mean", **{"yield": mean["yield"]})
        self.assertEqual(status, 200)
        after = self.row("leek-potato")
        self.assertEqual(effects["leek-potato", "bowl"]["now"], after["food_cost"])
        self.assertGreater(Decimal(after["food_cost"]), Decimal(before["food_cost"]))
        found = self.get(LEEK)
        self.assertEqual((found["row"]["rests_on"], found["row"]["yield"]), ("own_tests", mean["yield"]))
        self.assertEqual([one["by"] for one in found["history"]], ["the kitchen", "as it was"])
        # The book stands among the choices still, and the one before is one step away.
        self.assertEqual(found["choices"][0]["yield"], "0.44")
        self.assertEqual(self.adopt(back_to=adopted["was"], **{"yield": "0.44"})[0], 200)
        self.assertEqual(self.row("leek-potato")["food_cost"], before["food_cost"])
        self.assertEqual([one["yield"] for one in self.get(LEEK)["history"]], ["0.44", mean["yield"], "0.44"])

    def test_what_was_seen_is_what_is_adopted(self) -> None:
        mean = self.choice("mean")
        self.call("PUT", "/api/bench-tests/t-14/standing", {"left_out": "full of grit"})
        status, problem = self.adopt(choice="mean", **{"yield": mean["yield"]})
        self.assertEqual((status, problem["type"]), (409, "urn:potrel:problem:stale-yield"))
        self.assertEqual(self.get(LEEK)["row"]["yield"], "0.44")
        self.assertEqual(self.adopt(choice="guess", **{"yield": "0.5"})[0], 422)
        self.assertEqual(self.adopt(back_to=99, **{"yield": "0.5"})[0], 404)

    def test_a_test_left_out_tells_its_reason_and_counts_no_more(self) -> None:
        far_off = next(row for row in self.get(LEEK)["tests"] if row["outlier"])["test"]["id"]
        self.call("PUT", f"/api/bench-tests/{far_off}/standing", {"left_out": "full of grit"})
        found = self.get(LEEK)
        self.assertEqual((found["own"]["count"], found["own"]["left_out"], found["own"]["outliers"]), (5, 1, []))
        self.assertEqual(next(r for r in found["tests"] if r["test"]["id"] == far_off)["test"]["left_out"], "full of grit")
        self.call("PUT", f"/api/bench-tests/{far_off}/standing", {})
        self.assertEqual(self.get(LEEK)["own"]["count"], 6)
        self.assertEqual(self.call("PUT", "/api/bench-tests/none/standing", {})[0], 404)

    def test_what_is_not_there(self) -> None:
        for path in ("/api/yields/leek/preparation/none", "/api/yields/none/preparation/x", "/api/yields/leek/cooking/fry"):
            self.assertEqual(self.call("GET", path)[0], 404, path)
        self.assertEqual(self.call("GET", "/api/yields/leek/guess/x")[0], 422)

    def test_workings(self) -> None:
        for figure in ("yield/leek/preparation/sliced/blend", "test/t-1/yield", "test/t-1/unaccounted", "test/t-9/cost_factor"):
            status, working = self.call("POST", "/api/working", {"figure": figure})
            self.assertEqual(status, 200, working)
            self.assertTrue(working["inputs"])
        self.assertEqual(self.call("POST", "/api/working", {"figure": "test/t-1/x"})[0], 404)

    def test_leftovers(self) -> None:
        tops = next(one for one in self.get("/api/leftovers") if one["name"] == "leek tops")
        self.assertEqual((tops["per_kg"], [one["recipe"] for one in tops["used_in"]]), ("0.3", ["vegetable-stock"]))


class Benches(ApiTest):
    def record(self, accepted: bool = False, **patch: Any) -> tuple[int, Any]:
        return self.call("POST", "/api/bench-tests", {"test": {**TEST, **patch}, "accepted": accepted})

    def test_a_half_filled_sheet_tells_what_it_can(self) -> None:
        draft = {"kind": "trim", "item": "leek", "of": "sliced", "before": "4 kg", "on": "2026-11-24"}
        status, found = self.call("POST", "/api/bench-tests/preview", draft)
        self.assertEqual((status, found["ready"], found["left"]), (200, False, "4000"))
        self.assertEqual([one["field"] for one in found["problems"]], ["after"])
        whole = {
            **draft,
            "after": "1.8 kg",
            "minutes": "12",
            "parts": [{"name": "tops", "mass": "1.6 kg", "value_per_kg": "0.3"}],
        }
        found = self.call("POST", "/api/bench-tests/preview", whole)[1]
        self.assertEqual((found["ready"], found["weights"]["yield"], found["in_use"]), (True, "0.45", "0.44"))
        self.assertEqual((found["weights"]["asks_again"], found["minutes_per_kg"]), (True, "3"))
        self.assertEqual([one["method"] for one in found["methods"]], ["credit", "main_bears_all", "market_value", "mass"])
        self.assertEqual(self.call("POST", "/api/bench-tests/preview", {**draft, "item": "none"})[0], 404)

    def test_a_test_is_recorded_once_however_often_it_is_sent(self) -> None:
        for _ in range(2):
            self.assertEqual(self.record()[0], 201)
        found = self.get(LEEK)
        self.assertEqual((found["own"]["count"], found["tests"][0]["test"]["by"]), (7, "the kitchen"))
        status, problem = self.record(after="1.7 kg", parts=[])
        self.assertEqual((status, problem["type"]), (422, "urn:potrel:problem:bad-document"))
        self.assertEqual(self.record(after="1.81 kg")[0], 409)

    def test_what_leaks_asks_again(self) -> None:
        status, problem = self.record(after="1.5 kg")
        self.assertEqual(status, 422)
        self.assertIn("weigh again, or say that it is so", problem["detail"])
        self.assertEqual(self.record(True, after="1.5 kg")[0], 201)

    def test_what_cannot_be(self) -> None:
        self.assertEqual(self.record(item="none")[0], 404)
        self.assertEqual(self.record(supplier="none")[0], 404)
        self.assertEqual(self.record(on="2026-11-25")[0], 422)
        self.assertIn("weigh again", self.record(after="3 kg")[1]["detail"])

    def test_tests_of_a_new_preparation_wait_to_be_adopted(self) -> None:
        self.record(of="whole-greens", parts=[], after="3.9 kg")
        self.assertEqual([one["of"] for one in self.get("/api/yields")["waiting"]], ["whole-greens"])
        found = self.get("/api/yields/leek/preparation/whole-greens")
        self.assertIsNone(found["row"])
        mean = next(one for one in found["choices"] if one["id"] == "mean")
        body = {"choice": "mean", "yield": mean["yield"]}
        self.assertEqual(self.call("POST", "/api/yields/leek/preparation/whole-greens/adopt", body), (200, {"was": 0}))
        names = {one["id"]: one["name"] for one in self.get("/api/items/leek")["item"]["preparations"]}
        self.assertEqual(names["whole-greens"], "whole greens")

    def test_a_sheet_is_left_half_done_and_finished_later(self) -> None:
        body = {"before": "4 kg", "parts": [{"name": "tops", "mass": ""}]}
        status, kept = self.call("PUT", "/api/test-sheets/new", {"item": "leek", "body": body})
        self.assertEqual(status, 200)
        (sheet,) = self.get("/api/test-sheets")
        self.assertEqual((sheet["body"], sheet["item_name"], sheet["started_by"]), (body, "Leeks", "the kitchen"))
        self.assertEqual(sheet["changed_at"], kept["changed_at"])
        status, problem = self.call("PUT", "/api/test-sheets/new", {"item": "leek", "body": {}})
        self.assertEqual((status, problem["type"]), (409, "urn:potrel:problem:stale-sheet"))
        later = {"item": "leek", "body": {**body, "after": "2 kg"}, "seen": kept["changed_at"]}
        self.assertEqual(self.call("PUT", "/api/test-sheets/new", later)[0], 200)
        self.assertEqual(self.call("PUT", "/api/test-sheets/new", later)[0], 409)
        self.record()
        self.assertEqual(self.get("/api/test-sheets"), [])
        status, problem = self.call("PUT", "/api/test-sheets/new", {"item": "leek", "body": body})
        self.assertEqual((status, problem["type"]), (409, "urn:potrel:problem:already-there"))
        self.assertEqual(self.call("PUT", "/api/test-sheets/x", {"item": "none", "body": {}})[0], 404)
        large = {"note": "x" * 100_001}
        self.assertEqual(self.call("PUT", "/api/test-sheets/x", {"item": "leek", "body": large})[0], 422)
        self.call("PUT", "/api/test-sheets/other", {"item": "leek", "body": {}})
        self.assertEqual(self.call("DELETE", "/api/test-sheets/other")[0], 204)
        self.assertEqual(self.get("/api/test-sheets"), [])

    def test_labour_of_the_tests_reaches_the_comparison_of_forms(self) -> None:
        def labour() -> Decimal:
            return Decimal(self.get("/api/usable?form=leek:sliced")["forms"][0]["labour"])

        before = labour()
        for place in range(4):
            self.record(id=f"slow-{place}", minutes="60")
        mean = next(one for one in self.get(LEEK)["choices"] if one["id"] == "mean")
        self.call("POST", f"{LEEK}/adopt", {"choice": "mean", "yield": mean["yield"]})
        self.assertGreater(labour(), 2 * before)


class Practising(ApiTest):
    def test_a_question_is_marked_and_scored(self) -> None:
        asked = self.get("/api/practice/edible/7")
        self.assertEqual(self.get("/api/practice/edible/7"), asked)
        body = {"question": asked["question"], "by": "Ada"}
        wrong = self.call("POST", "/api/practice/edible/7", {**body, "answer": "0"})[1]
        self.assertFalse(wrong["marked"]["right"])
        self.assertTrue(wrong["marked"]["workings"][0]["inputs"])
        right = self.call("POST", "/api/practice/edible/7", {**body, "answer": f"{wrong['marked']['expected']} kg"})[1]
        self.assertTrue(right["marked"]["right"])
        scores = self.get("/api/practice")["scores"]
        self.assertEqual(scores, [{"cook": "Ada", "kind": "edible", "right": 1, "asked": 2}])

    def test_a_right_and_a_wrong_answer_to_every_kind_of_question(self) -> None:
        kinds = [topic["kind"] for topic in self.get("/api/practice")["topics"]]
        self.assertEqual(len(kinds), 11)
        for kind in kinds:
            path = f"/api/practice/{kind}/3"
            body = {"question": self.get(path)["question"], "by": "Ada"}
            wrong = self.call("POST", path, {**body, "answer": "-5"})[1]["marked"]
            self.assertFalse(wrong["right"], kind)
            right = self.call("POST", path, {**body, "answer": wrong["expected"]})[1]["marked"]
            self.assertTrue(right["right"], kind)
        scores = self.get("/api/practice")["scores"]
        self.assertEqual({one["kind"]: (one["right"], one["asked"]) for one in scores}, dict.fromkeys(kinds, (1, 2)))

    def test_an_answer_to_another_question(self) -> None:
        status, problem = self.call("POST", "/api/practice/edible/7", {"question": "?", "answer": "1"})
        self.assertEqual((status, problem["type"]), (409, "urn:potrel:problem:stale-question"))
        asked = self.get("/api/practice/buy/1")
        self.assertEqual(self.call("POST", "/api/practice/buy/1", {"question": asked["question"], "answer": "much"})[0], 422)
        self.assertEqual(self.call("GET", "/api/practice/guess/1")[0], 422)


class Scales(DatabaseTest):
    kitchen = demo()

    def test_a_kitchen_without_one(self) -> None:
        server = Served(self.url)
        address = server.start()
        self.addCleanup(server.stop)
        caller = ApiTest()
        caller.address = address
        self.assertEqual(caller.get("/api/scale")["state"], "none")
        self.assertEqual(caller.call("POST", "/api/scale/tare")[0], 409)
        self.assertEqual(caller.call("POST", "/api/scale/put", {"grams": "5"})[0], 409)

    def test_weight_tare_and_a_pulled_plug(self) -> None:
        with simulated_scale() as bench:
            server = Served(self.url, scale=bench.address)
            address = server.start()
            self.addCleanup(server.stop)
            caller = ApiTest()
            caller.address = address

            def wait(**wanted: Any) -> dict[str, Any]:
                for _ in range(1200):
                    found: dict[str, Any] = caller.get("/api/scale")
                    if all(found[key] == value for key, value in wanted.items()):
                        return found
                    time.sleep(0.05)
                raise AssertionError(f"never {wanted}: {found}")

            wait(state="live")
            caller.call("POST", "/api/scale/put", {"grams": "1240"})
            time.sleep(0.3)
            self.assertAlmostEqual(float(wait(steady=True)["grams"]), 1240, delta=4)
            self.assertEqual(caller.call("POST", "/api/scale/tare")[0], 204)
            self.assertAlmostEqual(float(wait(net=True, steady=True)["grams"]), 0, delta=4)
            caller.call("POST", "/api/scale/put", {"grams": "20000"})
            self.assertIsNone(wait(state="over")["grams"])
            caller.call("POST", "/api/scale/put", {"unplug_seconds": "3600"})
            wait(state="lost")
            self.assertEqual(caller.call("POST", "/api/scale/tare")[0], 409)
            bench.plug_in()
            wait(state="over")
