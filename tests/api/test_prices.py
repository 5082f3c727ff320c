"""The room Price over HTTP: rounds that are set, taken back and told; schools, sales, deals; papers and workbooks."""

from __future__ import annotations

import io
from datetime import date, timedelta
from decimal import Decimal
from typing import Any
from unittest import mock

import pypdf

from potrel.core.errors import PotrelError
from potrel.papers import paper
from tests.api.test_api import ApiTest
from tests.kitchens import DAY

_TODAY, _NEXT = DAY.isoformat(), (DAY + timedelta(days=6)).isoformat()


class Prices(ApiTest):
    def price_of(self, recipe: str, serving: str = "bowl", channel: str | None = None) -> Any:
        rows = self.get("/api/prices")["rows"]
        return next(row for row in rows if (row["recipe"], row["serving"], row["channel"]) == (recipe, serving, channel))

    def set(self, *prices: tuple[str, str | None], on: str = _TODAY, **more: Any) -> tuple[int, Any]:
        asked = []
        for recipe, price in prices:
            row = self.price_of(recipe)
            asked.append({"recipe": recipe, "serving": "bowl", "price": price, "was": row["price"]})
        return self.call("POST", "/api/prices", {"prices": asked, "on": on, **more})

    def test_a_round_is_set_told_and_taken_back_at_once(self) -> None:
        before = {one: self.get(f"/api/recipes/{one}")["recipe"] for one in ("beetroot-shin", "courgette-dill")}
        status, found = self.set(("beetroot-shin", "10.30"), ("courgette-dill", "2.40"), reason="shin is dearer")
        self.assertEqual(status, 201, found)
        row = self.row("beetroot-shin")
        self.assertEqual((row["price"], "over_target" in row["marks"]), ("10.3", False))
        self.assertEqual(self.get("/api/recipes/beetroot-shin")["recipe"]["servings"][0]["price_set_on"], _TODAY)
        (told,) = self.get("/api/prices/rounds")
        self.assertEqual((told["by"], told["reason"], told["holds_from"]), ("the kitchen", "shin is dearer", _TODAY))
        first = told["changes"][0]
        self.assertEqual((first["was"], first["price"], first["method"]), ("8.50", "10.30", "food_cost_share"))
        self.assertAlmostEqual(Decimal(first["cost"]), Decimal(row["food_cost"]), 5)
        self.assertEqual(self.call("POST", f"/api/prices/rounds/{found['round']}/take-back")[0], 200)
        for one, recipe in before.items():
            self.assertEqual(self.get(f"/api/recipes/{one}")["recipe"], recipe)
        self.assertEqual(self.get("/api/prices/rounds")[0]["taken_back_by"], "the kitchen")
        status, problem = self.call("POST", f"/api/prices/rounds/{found['round']}/take-back")
        self.assertEqual((status, "already" in problem["detail"]), (422, True))

    def test_a_price_from_a_later_day(self) -> None:
        status, _ = self.set(("beetroot-shin", "10.30"), on=_NEXT)
        self.assertEqual(status, 201)
        row = self.row("beetroot-shin")
        self.assertEqual((row["price"], row["coming"]), ("8.5", {"price": "10.30", "on": _NEXT}))
        self.server.today = date.fromisoformat(_NEXT)
        row = self.row("beetroot-shin")
        self.assertEqual((row["price"], row["coming"], row["drift"]["since"]), ("10.3", None, _NEXT))
        # The pot's own sheet has it as the set one, and keeps it so when it is saved.
        reply = self.get("/api/recipes/beetroot-shin")
        serving = reply["recipe"]["servings"][0]
        self.assertEqual((serving["price"], serving["price_set_on"], serving["coming"]), ("10.30", _NEXT, None))
        status, _ = self.call("PUT", "/api/recipes/beetroot-shin", {"recipe": reply["recipe"], "based_on": reply["revision"]})
        self.assertEqual(status, 200)
        self.assertEqual(self.row("beetroot-shin")["price"], "10.3")
        # One that came by then can be taken back as well.
        (told,) = self.get("/api/prices/rounds")
        self.assertEqual(self.call("POST", f"/api/prices/rounds/{told['number']}/take-back")[0], 200)
        self.assertEqual(self.row("beetroot-shin")["price"], "8.5")

    def test_a_pot_that_was_open_over_night(self) -> None:
        self.set(("beetroot-shin", "10.30"), on=_NEXT)
        opened = self.get("/api/recipes/beetroot-shin")
        self.server.today = date.fromisoformat(_NEXT)
        # Saved with nothing of its price changed: no price was set by that.
        body = {"recipe": {**opened["recipe"], "note": "x"}, "based_on": opened["revision"]}
        status, saved = self.call("PUT", "/api/recipes/beetroot-shin", body)
        self.assertEqual((status, len(self.get("/api/prices/rounds"))), (200, 1))
        self.assertEqual(self.row("beetroot-shin")["price"], "10.3")
        # A price that is typed into it holds.
        servings = [{**one, "price": "9.70", "price_set_on": _NEXT} if one["id"] == "bowl" else one
                    for one in opened["recipe"]["servings"]]  # fmt: skip
        body = {"recipe": {**opened["recipe"], "servings": servings}, "based_on": saved["revision"]}
        self.assertEqual(self.call("PUT", "/api/recipes/beetroot-shin", body)[0], 200)
        self.assertEqual(self.row("beetroot-shin")["price"], "9.7")
        self.assertEqual(self.get("/api/prices/rounds")[0]["changes"][0]["price"], "9.70")

    def test_what_is_asked_instead_of_guessed(self) -> None:
        row = self.price_of("beetroot-shin")
        price = {"recipe": "beetroot-shin", "serving": "bowl", "price": "9", "was": row["price"]}
        yesterday, far = (DAY - timedelta(days=1)).isoformat(), (DAY + timedelta(days=400)).isoformat()
        for body, status, words in (
            ({"prices": [price], "on": yesterday}, 422, "is past"),
            ({"prices": [price], "on": far}, 422, "check the year"),
            ({"prices": [], "on": _TODAY}, 422, "at least one"),
            ({"prices": [price, price], "on": _TODAY}, 422, "two prices"),
            ({"prices": [{**price, "price": "-1"}], "on": _TODAY}, 422, "at least 0"),
            ({"prices": [{**price, "price": "a lot"}], "on": _TODAY}, 422, "plain number"),
            ({"prices": [{**price, "serving": "mug"}], "on": _TODAY}, 404, "serving"),
            ({"prices": [{**price, "channel": "moon"}], "on": _TODAY}, 404, "channel"),
            ({"prices": [{**price, "was": "1"}], "on": _TODAY}, 409, "Beetroot & beef shin, Bowl was changed"),
        ):
            with self.subTest(words):
                answer, problem = self.call("POST", "/api/prices", body)
                self.assertEqual(answer, status, problem)
                self.assertIn(words, problem["detail"])
        self.assertEqual((self.row("beetroot-shin")["price"], self.get("/api/prices/rounds")), ("8.5", []))

    def test_a_round_of_which_some_moved_on_is_taken_back_price_by_price(self) -> None:
        _, found = self.set(("beetroot-shin", "10.30"), ("courgette-dill", "2.40"), ("curried-parsnip", "4.20"))
        self.set(("courgette-dill", "2.60"))
        back = f"/api/prices/rounds/{found['round']}/take-back"
        reply = self.get("/api/recipes/curried-parsnip")
        bowl = reply["recipe"]["servings"][0]
        without = {**reply["recipe"], "servings": [{**bowl, "id": "mug", "name": "Mug"}, *reply["recipe"]["servings"][1:]]}
        self.assertEqual(
            self.call("PUT", "/api/recipes/curried-parsnip", {"recipe": without, "based_on": reply["revision"]})[0], 200
        )
        status, told = self.call("POST", back)
        self.assertEqual((status, told["prices"]), (200, 1), told)
        whys = {one["name"].split(",")[0]: one["why"] for one in told["left"]}
        self.assertEqual(
            whys, {"Courgette & dill": "another price was set since", "Curried parsnip": "this serving was removed"}
        )
        self.assertEqual((self.row("beetroot-shin")["price"], self.row("courgette-dill")["price"]), ("8.5", "2.6"))
        (first,) = (one for one in self.get("/api/prices/rounds") if one["number"] == found["round"])
        self.assertEqual(
            (first["taken_back_by"], [one["taken_back"] for one in first["changes"]]), (None, [True, False, False])
        )
        # What is left has moved on: nothing of it can be taken back now.
        status, problem = self.call("POST", back)
        self.assertEqual((status, "this serving was removed" in problem["detail"]), (409, True))
        self.assertEqual(self.call("POST", "/api/prices/rounds/99/take-back")[0], 404)

    def test_the_set_price_is_let_go(self) -> None:
        self.assertEqual(self.set(("beetroot-shin", None))[0], 201)
        row = self.row("beetroot-shin")
        self.assertEqual((row["price_is_set"], row["price"]), (False, row["suggested_price"]))

    def test_the_effect_of_a_round_at_the_sales_of_the_last_weeks(self) -> None:
        weeks = [{"recipe": "beetroot-shin", "serving": "bowl", "week": (DAY - timedelta(days=7 * n)).isoformat(),
                  "portions": portions} for n, portions in ((1, "40"), (2, "60"), (9, "500"))]  # fmt: skip
        self.assertEqual(self.call("PUT", "/api/sales", {"sold": weeks})[0], 204)
        row = self.price_of("beetroot-shin")
        self.assertEqual(row["sold"], "50")
        price = {"recipe": "beetroot-shin", "serving": "bowl", "price": "9.60"}
        status, found = self.call("POST", "/api/prices/effect", {"prices": [price]})
        self.assertEqual(status, 200)
        # 1.10 more on the card is 1.00 net, 50 times a week.
        self.assertAlmostEqual(Decimal(found["week_now"]) - Decimal(found["week_was"]), 50, 4)
        self.assertLess(Decimal(found["share_now"]), Decimal(found["share_was"]))
        # The same week again takes the place of what was noted.
        self.call("PUT", "/api/sales", {"sold": [{**weeks[0], "portions": "60"}]})
        self.assertEqual(self.price_of("beetroot-shin")["sold"], "60")
        status, problem = self.call("PUT", "/api/sales", {"sold": [{**weeks[0], "week": _NEXT}]})
        self.assertEqual((status, "not come yet" in problem["detail"]), (422, True))

    def test_a_price_set_in_the_pot_is_history_too(self) -> None:
        reply = self.get("/api/recipes/leek-potato")
        servings = [{**one, "price": "4.20", "price_set_on": _TODAY} if one["id"] == "bowl" else one
                    for one in reply["recipe"]["servings"]]  # fmt: skip
        recipe = {**reply["recipe"], "servings": servings}
        self.assertEqual(self.call("PUT", "/api/recipes/leek-potato", {"recipe": recipe, "based_on": 1})[0], 200)
        (told,) = self.get("/api/prices/rounds?recipe=leek-potato")
        (change,) = told["changes"]
        self.assertEqual((change["was"], change["price"], told["reason"]), ("3.80", "4.20", None))
        self.assertEqual(self.get("/api/prices/rounds?recipe=mushroom"), [])
        self.assertEqual(self.call("POST", f"/api/prices/rounds/{told['number']}/take-back")[0], 200)
        self.assertEqual(self.row("leek-potato")["price"], "3.8")


class Selling(ApiTest):
    address_of = "/api/prices/leek-potato/bowl"

    def test_the_schools_of_a_channel(self) -> None:
        found = self.get(f"{self.address_of}?channel=delivery&price=7.20")
        rows = {row["row"]: row for row in found["rows"]}
        self.assertEqual(list(rows)[-2:], ["in_force", "at-7.20"])
        # 28% of the gross price, and a tenth of tax in it.
        self.assertAlmostEqual(float(rows["at-7.20"]["kept"]), 7.2 / 1.1 - 7.2 * 0.28, 5)
        self.assertEqual((found["decides"], rows["food_cost_share"]["price"]), ("food_cost_share", "6.5"))
        self.assertEqual([one["kind"] for one in found["ladder"]], ["serving", "included", "add_on", "add_on"])
        for path, status in (("?channel=moon", 404), ("?price=ten", 422)):
            self.assertEqual(self.call("GET", self.address_of + path)[0], status)
        # As people type it.
        rows = self.get(f"{self.address_of}?price=7,20%20%E2%82%AC")["rows"]
        self.assertEqual((rows[-1]["row"], rows[-1]["price"]), ("at-7.20", "7.2"))
        _, problem = self.call("GET", f"{self.address_of}?price=a%20lot")
        self.assertIn("plain number", problem["detail"])
        self.assertEqual(self.call("GET", "/api/prices/leek-potato/mug")[0], 404)

    def test_which_school_decides_is_kept_with_the_serving(self) -> None:
        factor = {"method": "factor", "factor": "3.4"}
        terms = {"pricing": factor, "sold_in": ["staff"], "was_pricing": None, "was_sold_in": ["away", "delivery", "staff"]}
        self.assertEqual(self.call("PUT", self.address_of, terms)[0], 204)
        self.assertEqual(self.get(self.address_of)["decides"], "factor")
        self.assertFalse(self.get(f"{self.address_of}?channel=away")["sold"])
        # Where it is still sold, it keeps its price.
        self.assertEqual(self.get(f"{self.address_of}?channel=staff")["price_set_on"], "2026-10-05")
        status, problem = self.call("PUT", self.address_of, terms)
        self.assertEqual((status, problem["title"]), (409, "Not what was seen"))

    def test_a_channel_in_which_something_is_sold_stays(self) -> None:
        head = self.get("/api/kitchen")
        body = {"name": head["name"], "currency": head["currency"], "was": head["settings"],
                "settings": {**head["settings"], "channels": head["settings"]["channels"][1:]}}  # fmt: skip
        status, problem = self.call("PUT", "/api/kitchen", body)
        self.assertEqual((status, "still sold by Take away" in problem["detail"]), (422, True))
        eaten = [{**one, "commission": "0.95"} if one["id"] == "delivery" else one for one in head["settings"]["channels"]]
        status, problem = self.call("PUT", "/api/kitchen", {**body, "settings": {**head["settings"], "channels": eaten}})
        self.assertEqual((status, "leaves nothing" in problem["detail"]), (422, True))
        more = [*head["settings"]["channels"], {"id": "fair", "name": "Regatta"}]
        settings = {**head["settings"], "channels": more, "overhead": {"per_portion": "0.5"}}
        self.assertEqual(self.call("PUT", "/api/kitchen", {**body, "settings": settings})[0], 200)
        self.assertEqual(self.get("/api/kitchen")["settings"]["channels"][-1]["name"], "Regatta")
        self.assertEqual(self.get("/api/kitchen")["settings"]["overhead"]["per_portion"], "0.5")


class Deals(ApiTest):
    def test_kept_changed_and_refused(self) -> None:
        found = self.get("/api/deals")
        (lunch,) = found["sold"]
        self.assertEqual((lunch["alone"], lunch["saved"]), ("7.6", "0.8"))
        dearer = [{**found["deals"][0], "price": "7.20"}]
        self.assertEqual(self.call("PUT", "/api/deals", {"deals": dearer, "were": found["deals"]})[0], 204)
        self.assertEqual(self.get("/api/deals")["sold"][0]["price"], "7.20")
        status, _ = self.call("PUT", "/api/deals", {"deals": [], "were": found["deals"]})
        self.assertEqual(status, 409)
        status, tried = self.call("POST", "/api/deals/preview", {**dearer[0], "price": "9"})
        self.assertEqual((status, len(tried["notes"])), (200, 1))
        status, _ = self.call("POST", "/api/deals/preview", {**dearer[0], "channel": "moon"})
        self.assertEqual(status, 422)

    def test_what_a_deal_is_made_of_stays(self) -> None:
        reply = self.get("/api/recipes/leek-potato")
        recipe = {**reply["recipe"], "servings": reply["recipe"]["servings"][1:]}
        status, problem = self.call("PUT", "/api/recipes/leek-potato", {"recipe": recipe, "based_on": 1})
        self.assertEqual((status, "Boatyard lunch" in problem["detail"]), (422, True))
        self.assertEqual(self.call("DELETE", "/api/recipes/leek-potato?based_on=1")[0], 409)


class OnPaper(ApiTest):
    def test_every_paper_as_a_page_and_as_accessible_pdf(self) -> None:
        for path, words in (
            ("list", "Leek & potato"), ("card", "Boatyard lunch"), ("tent", "Mushroom"), ("allergens", "An aid, not clearance"),
            ("costing/leek-potato", "by full cost"),
        ):  # fmt: skip
            with self.subTest(path):
                page = self.send("GET", f"/api/papers/{path}.html?allergens=true")
                self.assertEqual(page.status_code, 200)
                self.assertIn("default-src 'none'", page.headers["Content-Security-Policy"])
                self.assertIn(words, page.text.replace("&amp;", "&"))
                answer = self.send("GET", f"/api/papers/{path}.pdf?size=letter&allergens=true")
                self.assertEqual(answer.headers["Content-Type"], "application/pdf")
                pdf = pypdf.PdfReader(io.BytesIO(answer.content))
                self.assertEqual({round(float(side)) for side in pdf.pages[0].mediabox[2:]}, {612, 792})
                self.assertIn(words, " ".join(" ".join(each.extract_text() for each in pdf.pages).split()))
                root: Any = pdf.trailer["/Root"]
                self.assertTrue(root["/MarkInfo"]["/Marked"])
                self.assertEqual(root["/Lang"], "en")
                fonts: Any = pdf.pages[0]["/Resources"]
                self.assertTrue(any("House" in str(one.get_object()["/BaseFont"]) for one in fonts["/Font"].values()))

    def test_what_stands_on_no_list_is_told(self) -> None:
        self.assertEqual(self.get("/api/papers")["without_price"], ["Minestrone with basil, Bowl"])
        self.assertEqual(self.get("/api/papers?channel=away")["without_price"], [])
        self.assertEqual(self.call("GET", "/api/papers?channel=moon")[0], 404)

    def test_a_list_of_a_channel(self) -> None:
        page = self.send("GET", "/api/papers/list.html?channel=away").text
        self.assertIn("3.90", page)
        self.assertIn("A deposit of 2.00", page)
        self.assertNotIn("Courgette", page)
        self.assertEqual(self.call("GET", "/api/papers/list.html?channel=moon")[0], 404)
        self.assertEqual(self.call("GET", "/api/papers/poster.html")[0], 422)

    def test_an_add_on_has_marks_of_its_own(self) -> None:
        page = self.send("GET", "/api/papers/list.html?allergens=true").text
        line = next(one for one in page.splitlines() if "with Cheddar" in one)
        # Milk is the seventh of the European list.
        self.assertIn("<sup> 7</sup>", line)
        self.assertEqual(page.count("with Cheddar"), 1)

    def test_what_is_typed_is_no_page_of_its_own(self) -> None:
        reply = self.get("/api/recipes/leek-potato")
        recipe = {**reply["recipe"], "name": '<script src="x"></script> & "soup"'}
        self.assertEqual(self.call("PUT", "/api/recipes/leek-potato", {"recipe": recipe, "based_on": 1})[0], 200)
        for path in ("list", "card", "tent", "allergens", "costing/leek-potato"):
            page = self.send("GET", f"/api/papers/{path}.html").text
            self.assertNotIn("<script", page)
            self.assertIn("&lt;script", page)

    def test_without_pango_all_else_works_and_the_command_is_named(self) -> None:
        self.assertIsNone(self.get("/api/papers")["lack"])
        # What the loader says of a library of Debian's that is not there.
        with mock.patch.object(paper, "CDLL", side_effect=OSError("cannot load library 'libpango-1.0-0'")):
            lack = paper.lack_of_pdf()
            self.assertIn("apt-get install -y --no-install-recommends libpango-1.0-0", lack or "")
            with self.assertRaisesRegex(PotrelError, "libpango"):
                paper.pdf_of("<p>x")

    def test_workbooks(self) -> None:
        for path in ("/api/workbook.xlsx", "/api/workbook/leek-potato.xlsx"):
            answer = self.send("GET", path)
            self.assertEqual((answer.status_code, answer.content[:2]), (200, b"PK"))
        self.assertEqual(self.call("GET", "/api/workbook/nothing.xlsx")[0], 404)
