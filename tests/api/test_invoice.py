"""An invoice of paper over HTTP: every row understood or asked about, all recorded together or none."""

from __future__ import annotations

from typing import Any

from tests.api.test_api import ApiTest
from tests.kitchens import DAY


def row(name: str, pack: str, price: str, **more: Any) -> dict[str, Any]:
    return {"name": name, "pack": pack, "price": price, "item": None, "sure": False, **more}


class Invoices(ApiTest):
    def body(self, *rows: dict[str, Any], supplier: str = "Saltmarsh Produce") -> dict[str, Any]:
        return {"supplier": supplier, "on": DAY.isoformat(), "rows": list(rows)}

    def read(self, *rows: dict[str, Any], **more: Any) -> Any:
        status, found = self.call("POST", "/api/typed-invoice", self.body(*rows, **more))
        self.assertEqual(status, 200, found)
        return found

    def test_rows_are_understood_or_asked_about(self) -> None:
        found = self.read(
            row("leeks", "", "9,90"), row("potatoes", "25 kg", "18"), row("stock", "1 kg", "9"), row("carrots", "10 kg", "92"),
            row("onions", "a sack", "8"), row("swede", "10 kg", ""), row("", "", ""),
        )  # fmt: skip
        rows = found["rows"]
        self.assertEqual((rows[0]["item"], rows[0]["last_pack"], rows[0]["problem"]), ("leek", "5 kg", None))
        self.assertEqual(float(rows[0]["per_kg_now"]), 1.98)
        self.assertEqual(rows[1]["item"], "potato")
        self.assertIn("nothing here is called", rows[2]["problem"])
        self.assertTrue(rows[2]["candidates"])
        self.assertIn("ten times the last one", rows[3]["doubts"][0])
        self.assertIn("a sack", rows[4]["problem"])
        self.assertIn("not written yet", rows[5]["problem"])
        self.assertTrue(rows[6]["is_empty"])
        self.assertEqual((found["open"], found["ready"]), (4, 3))
        self.assertIn("Leek & potato", {one["name"] for one in found["effects"]})

    def test_all_or_none(self) -> None:
        before = len(self.get("/api/export")["offers"])
        wrong = self.body(row("leeks", "5 kg", "9.90"), row("carrots", "10 kg", "92"))
        status, problem = self.call("POST", "/api/typed-invoice/record", wrong)
        self.assertEqual(status, 422)
        self.assertIn("row 2", problem["detail"])
        self.assertEqual(len(self.get("/api/export")["offers"]), before)
        right = self.body(row("leeks", "5 kg", "9.90"), row("carrots", "10 kg", "92", sure=True), supplier="The new farm")
        status, done = self.call("POST", "/api/typed-invoice/record", right)
        self.assertEqual((status, done["prices"]), (201, 2), done)
        after = self.get("/api/export")
        self.assertEqual((len(after["offers"]), after["suppliers"][-1]["name"]), (before + 2, "The new farm"))
        self.assertEqual(self.get("/api/items/leek")["row"]["supplier"], "The new farm")

    def test_what_lacks_is_said(self) -> None:
        for body, words in (
            (self.body(row("leeks", "5 kg", "9"), supplier=" "), "whose invoice"),
            (self.body(row("", "", "")), "no row of it"),
            (self.body(*[row("", "", "")] * 201), "at most 200 rows"),
            (self.body(row("leeks", "1 keg", "9")), "keg"),
            (self.body(row("leeks", "1 g", "999999999")), "a kilo"),
            (self.body(row("leeks", "1 kg", "1e40")), "less than"),
        ):
            status, problem = self.call("POST", "/api/typed-invoice/record", body)
            self.assertEqual(status, 422)
            self.assertIn(words, problem["detail"])
        for body in (
            self.body(row("leeks", "1 kg", "9"), supplier="x" * 201),
            self.body(row("leeks", "1 kg\x1b", "9")),
        ):
            for route in ("/api/typed-invoice", "/api/typed-invoice/record"):
                status, problem = self.call("POST", route, body)
                self.assertEqual(status, 422)
                self.assertIn("at most 200 characters on one line", problem["detail"])

    def test_a_pack_without_a_weight_is_recorded_where_somebody_says_it_is_so(self) -> None:
        (found,) = self.read(row("swede", "3 bunch", "9"))["rows"]
        self.assertEqual((found["problem"], found["per_kg_now"]), (None, None))
        self.assertIn("no weight for 1 bunch", found["doubts"][0])
        sure = self.body(row("swede", "3 bunch", "9", sure=True))
        self.assertEqual(self.call("POST", "/api/typed-invoice/record", sure), (201, {"prices": 1}))
