"""Suppliers' lists over HTTP: from the file to the board and back, with everything that may come in between."""

from __future__ import annotations

import http.client
import json
import time
from datetime import datetime
from typing import Any
from urllib.parse import quote, urlsplit

from potrel.core.buy.price_list import PriceList
from potrel.demo import demo_lists
from potrel.demo.filling import move_supplier
from potrel.devices.simulated_supplier import simulated_supplier
from potrel.devices.supplier_service import SupplierService
from potrel.doing.fetches import fetch_what_is_due
from potrel.doing.kitchens import Kitchens
from potrel.doing.reviews import Reviews
from potrel.formats.upload import LARGEST_FILE
from potrel.store.offers import load_credits, load_offers
from potrel.store.price_lists import insert_price_list
from tests.api.test_api import ApiTest
from tests.formats.lists import made_workbook
from tests.kitchens import DAY

FILES = dict(demo_lists(DAY))
INVOICE, CREDIT = FILES["quayside-invoice-2291.xml"], FILES["quayside-credit-note-118.xml"]
SALTMARSH = FILES["saltmarsh-week-48.csv"]

# The simulated supplier is inside the house.
INSIDE = SupplierService(["127.0.0.1"])


class ListTest(ApiTest):
    def read(self, data: bytes, name: str = "list") -> list[dict[str, Any]]:
        """The steps of reading a file in."""
        answer = self.send("POST", f"/api/price-lists?name={quote(name)}", data, "application/octet-stream")
        self.assertEqual(answer.headers["Content-Type"], "application/x-ndjson")
        return [json.loads(line) for line in answer.content.splitlines()]

    def number(self, data: bytes) -> int:
        last = self.read(data)[-1]
        self.assertIsNone(last["problem"])
        return int(last["number"])

    def review(self, number: int, query: str = "") -> Any:
        return self.get(f"/api/price-lists/{number}{query}")

    def say(self, number: int, **said: Any) -> None:
        status, reply = self.call("PUT", f"/api/price-lists/{number}", said)
        self.assertEqual(status, 200, reply)

    def look_at(self, number: int, state: str = "likely") -> None:
        """Every line of a state was looked at, and is right."""
        while lines := self.review(number, f"?show={state}")["lines"]:
            right = [{"place": one["place"], "item": one["item"], "confirmed": state == "suspicious"} for one in lines]
            self.say(number, lines=right)

    def record(self, number: int) -> tuple[int, Any]:
        return self.call("POST", f"/api/price-lists/{number}/record", {"seen": self.review(number)["seen"]})

    def price(self, item: str) -> str:
        found: str = self.get(f"/api/items/{item}")["row"]["per_kg"]
        return found


class FromFileToBoard(ListTest):
    def test_an_invoice_does_what_its_review_promised(self) -> None:
        before = self.row("haddock-chowder")["food_cost"]
        number = self.number(INVOICE)
        review = self.review(number)
        self.assertEqual((review["row"]["supplier"], review["writes"], review["blocked"]), ("quayside", 4, None))
        self.assertEqual(review["counts"], {"changed": 4, "unmatched": 1})
        promised = next(one for one in review["effects"] if (one["recipe"], one["serving"]) == ("haddock-chowder", "bowl"))
        self.assertEqual(promised["was"], before)
        self.assertEqual(self.row("haddock-chowder")["food_cost"], before, "nothing is written before it is recorded")
        status, row = self.record(number)
        self.assertEqual((status, row["state"], row["prices"]), (200, "recorded", 4))
        self.assertEqual(self.row("haddock-chowder")["food_cost"], promised["now"])
        paid = self.get("/api/items/smoked-haddock")["paid"]
        self.assertEqual((paid["deliveries"], paid["kg"]), (4, "21"))
        done = self.review(number)
        self.assertEqual(next(one for one in done["effects"] if one["recipe"] == "haddock-chowder")["was"], before)

    def test_lines_are_found_by_words_whatever_is_shown(self) -> None:
        number = self.number(INVOICE)
        for query, places in (
            ("show=all&find=haddock+q-311", [2]),
            ("show=changed&find=BACON", [4]),
            ("show=open&find=ice", [5]),
            ("show=all&find=ham", []),
            ("show=open&find=bacon", []),
            ("show=all", [1, 2, 3, 4, 5]),
        ):
            found = self.review(number, f"?{query}")
            self.assertEqual([line["place"] for line in found["lines"]], places, query)
            self.assertEqual(found["found"], len(places), query)

    def test_it_is_undone_as_a_whole_and_can_be_recorded_again(self) -> None:
        board, number = self.get("/api/board"), self.number(INVOICE)
        self.record(number)
        self.assertNotEqual(self.get("/api/board")["rows"], board["rows"])
        self.assertEqual(self.call("POST", f"/api/price-lists/{number}/undo")[1]["state"], "undone")
        self.assertEqual(self.get("/api/board"), board)
        self.assertEqual(self.call("POST", f"/api/price-lists/{number}/undo")[0], 422)
        self.assertEqual(self.record(number)[0], 200)
        self.call("POST", f"/api/price-lists/{number}/undo")
        self.assertEqual(self.get("/api/board"), board)

    def test_what_was_left_out_is_recorded_later(self) -> None:
        board, number = self.get("/api/board"), self.number(INVOICE)
        self.record(number)
        left = self.review(number, "?show=open")
        self.assertEqual((left["writes"], [line["place"] for line in left["lines"]]), (0, [5]))
        self.assertEqual(self.record(number)[0], 422)
        # What is recorded is closed, what was left out is open.
        for said in ({"kind": "price_list"}, {"lines": [{"place": 1, "pass_over": True}]}):
            status, refused = self.call("PUT", f"/api/price-lists/{number}", said)
            self.assertEqual((status, "undo the list first" in refused["detail"]), (422, True), said)
        self.say(number, lines=[{"place": 5, "item": "onion", "pack": "1 kg", "price": "1,10", "confirmed": True}])
        ready = self.review(number)
        self.assertEqual((ready["writes"], ready["lines"][0]["recorded"]), (1, True))
        self.assertEqual(float(ready["lines"][4]["price"]), 1.1)
        status, row = self.record(number)
        self.assertEqual((status, row["state"], row["prices"]), (200, "recorded", 5))
        self.assertEqual(float(self.get("/api/items/onion")["history"][0]["offer"]["price"]), 1.1)
        self.assertEqual(self.review(number)["writes"], 0)
        # And all of it is taken back as a whole.
        self.call("POST", f"/api/price-lists/{number}/undo")
        self.assertEqual(self.get("/api/board"), board)
        self.assertEqual(self.review(number)["writes"], 5)

    def test_a_price_list_with_a_person_in_between(self) -> None:
        number = self.number(SALTMARSH)
        # Its letterhead says whose it is.
        review = self.review(number)
        self.assertEqual((review["blocked"], review["row"]["supplier"]), (None, "saltmarsh"))
        by_name = {"changed": 11, "same": 2, "suspicious": 1}
        self.assertEqual(self.review(number)["counts"], {**by_name, "likely": 4, "unmatched": 2})
        like = self.review(number, "?show=likely")["lines"]
        self.assertEqual([(one["item"], one["more"], one["less"]) for one in like], [
            ("onion", ["brown"], []), ("carrot", ["washed"], []), ("parsley", ["flat"], []), ("basil", ["pot"], []),
        ])  # fmt: skip
        self.look_at(number)
        review = self.review(number)
        self.assertEqual((review["counts"]["suspicious"], review["writes"]), (1, 17))
        (odd,) = self.review(number, "?show=suspicious")["lines"]
        self.assertEqual((odd["item"], odd["change"]), ("swede", "9.512821"))
        self.assertIn("decimal point", odd["doubts"][0])
        ice = self.review(number, "?show=open&find=flowers")["lines"][0]
        self.say(number, lines=[{"place": ice["place"], "pass_over": True, "confirmed": False}])
        self.assertEqual(self.record(number)[1]["prices"], 17)
        self.assertEqual(self.price("leek"), "2.28")
        self.assertEqual(self.price("swede"), "0.78")

    def test_what_a_person_said_is_remembered(self) -> None:
        number = self.number(SALTMARSH)
        self.say(number, supplier="saltmarsh")
        self.look_at(number)
        self.say(number, lines=[{"place": 24, "pass_over": True, "confirmed": False}])
        self.record(number)
        later = self.number(SALTMARSH.replace(b"11,40", b"12,40").replace(b"week 48", b"week 49"))
        review = self.review(later)
        self.assertEqual((review["row"]["supplier"], review["blocked"]), ("saltmarsh", None))
        self.assertEqual(review["counts"], {"changed": 1, "same": 16, "suspicious": 1, "unmatched": 1, "passed_over": 1})
        self.assertEqual({line["how"] for line in review["lines"] if line["item"]}, {"code", "name"})

    def test_a_credit_counts_as_a_credit(self) -> None:
        before = self.get("/api/items/smoked-haddock")
        number = self.number(CREDIT)
        self.assertTrue(self.review(number)["lines"][0]["goods_back"])
        self.assertEqual(self.record(number)[0], 200)
        after = self.get("/api/items/smoked-haddock")
        self.assertEqual(after["row"]["per_kg"], before["row"]["per_kg"], "a credit makes no price")
        self.assertEqual((after["paid"]["credits"], after["paid"]["kg"]), (1, "12"))
        self.assertAlmostEqual(float(before["paid"]["money"]) - float(after["paid"]["money"]), 46.50)
        self.call("POST", f"/api/price-lists/{number}/undo")
        self.assertEqual(self.get("/api/items/smoked-haddock")["paid"]["money"], before["paid"]["money"])


class Refusals(ListTest):
    def test_the_same_file_is_recognised(self) -> None:
        number = self.number(INVOICE)
        last = self.read(INVOICE, "another name")[-1]
        self.assertEqual((last["number"], last["known"]), (number, True))
        self.assertEqual(len(self.get("/api/price-lists")["lists"]), 1)

    def test_the_same_invoice_in_another_file(self) -> None:
        self.record(self.number(INVOICE))
        again = self.number(INVOICE.replace(b"<cbc:UBLVersionID>", b"<!-- sent again --><cbc:UBLVersionID>"))
        self.assertIn("recorded already, as list 1", self.review(again)["blocked"])
        status, problem = self.record(again)
        self.assertEqual(status, 422)
        self.assertIn("undo that one first", problem["detail"])

    def test_a_hostile_file_leaves_nothing(self) -> None:
        for data in (b"%PDF-1.7", b'<!DOCTYPE x [<!ENTITY a "b">]><x>&a;</x>', b"PK\x03\x04 no zip", b"a,b\n\x81"):
            steps = self.read(data)
            self.assertIsNotNone(steps[-1]["problem"])
            self.assertIsNone(steps[-1]["number"])
        self.assertEqual(self.get("/api/price-lists")["lists"], [])

    def test_too_large_a_file_is_refused_in_words(self) -> None:
        status, problem = self.call("POST", "/api/price-lists", raw=b"x" * (LARGEST_FILE + 1))
        self.assertEqual((status, "larger than 20 MB" in problem["detail"]), (422, True))
        self.assertEqual(self.call("POST", "/api/price-lists", raw=b"")[0], 422)

    def test_what_changed_since_it_was_seen_is_not_recorded(self) -> None:
        number = self.number(INVOICE)
        seen = self.review(number)["seen"]
        offer = {"item": "beef-shin", "supplier": "quayside", "pack": "5 kg", "price": "70.00", "on": DAY.isoformat(),
                 "withdrawn": False}  # fmt: skip
        self.assertEqual(self.call("POST", "/api/offers", offer)[0], 201)
        self.assertEqual(self.call("POST", f"/api/price-lists/{number}/record", {"seen": seen})[0], 409)
        seen = self.review(number)["seen"]
        self.say(number, lines=[{"place": 2, "pass_over": True, "confirmed": False}])
        status, problem = self.call("POST", f"/api/price-lists/{number}/record", {"seen": seen})
        self.assertEqual((status, problem["type"]), (409, "urn:potrel:problem:stale-review"))
        self.assertEqual(self.record(number)[1]["prices"], 3)

    def test_another_currency(self) -> None:
        number = self.number(INVOICE.replace(b"EUR", b"USD"))
        self.assertIn("prices are in USD, but this kitchen counts in EUR", self.review(number)["blocked"])

    def test_an_invoice_that_does_not_add_up_says_so(self) -> None:
        number = self.number(INVOICE.replace(b'EUR">284.75</cbc:LineExt', b'EUR">294.75</cbc:LineExt'))
        self.assertIn("its lines add up to 284.75, but it says 294.75 itself", self.review(number)["notes"])

    def test_heads_are_mapped_once(self) -> None:
        number = self.number(b"A;B;C\nleeks;5 kg;11,40\n")
        review = self.review(number)
        self.assertEqual((review["missing"], review["heads"]), (["name", "price"], ["A", "B", "C"]))
        self.assertEqual(review["blocked"], "tell which column is the name and the price")
        self.say(number, supplier="saltmarsh", columns={"name": "A", "pack": "B", "price": "C"})
        self.say(number, lines=[{"place": 2, "item": "leek", "pass_over": False, "confirmed": False}])
        self.assertEqual(self.record(number)[1]["prices"], 1)
        (line,) = self.review(self.number(b"A;B;C\nleeks;5 kg;12,40\n"))["lines"]
        self.assertEqual((line["item"], line["how"], line["state"]), ("leek", "code", "changed"))

    def test_what_was_said_of_each_kind_of_table_is_remembered(self) -> None:
        first = self.number(b"A;B\nleeks;2,28\n")
        self.say(first, supplier="saltmarsh", columns={"name": "A", "price": "B", "price_per": "1 kg"})
        self.say(first, lines=[{"place": 2, "item": "leek", "pass_over": False, "confirmed": True}])
        self.assertEqual(self.record(first)[1]["prices"], 1)
        other = self.number(b"X;B;C\nleeks;1;11,40\n")
        self.say(other, supplier="saltmarsh", columns={"name": "X", "price": "C", "pack": ""})
        self.say(other, lines=[{"place": 2, "item": "leek", "pack": "5 kg", "pass_over": False, "confirmed": True}])
        self.assertEqual(self.record(other)[1]["prices"], 1)
        for text, price, pack in ((b"A;B\nleeks;2,31\n", "2.31", "1 kg"), (b"X;B;C\nleeks;1;11,61\n", "11.61", None)):
            review = self.review(self.number(text))
            (line,) = review["lines"]
            self.assertEqual((review["row"]["supplier"], line["price"], line["pack"]), ("saltmarsh", price, pack))

    def test_what_is_said_of_a_table_is_checked(self) -> None:
        number = self.number(b"A;B;C\nleeks;5 kg;11,40\n")
        for said, words in (
            ({"head_row": "0"}, "from 1 to 50000"), ({"delimiter": "x"}, "parted by one of"),
            ({"price_per": "crate"}, 'the "unit"'),
        ):  # fmt: skip
            status, answer = self.call("PUT", f"/api/price-lists/{number}", {"columns": said})
            self.assertEqual(status, 422)
            self.assertIn(words, str(answer))

    def test_crowns_are_the_kitchens_where_it_counts_in_crowns(self) -> None:
        number = self.number(b"Article;Pack;Price\nleeks;5 kg;114 kr\n")
        self.assertIn("prices are in kr, but this kitchen counts in EUR", self.review(number)["blocked"])

    def test_formulas_come_with_a_word(self) -> None:
        number = self.number(made_workbook([["Article", "Pack", "Price"], ["leeks", "5 kg", ("=2*5.70", 11.4)]]))
        review = self.review(number)
        self.assertEqual([line["price"] for line in review["lines"]], ["11.4"])
        self.assertIn("formulas reckon its values: what is read here is what they came to", review["notes"][0])

    def test_the_sheet_that_counts_is_chosen_and_not_remembered(self) -> None:
        heads = ["Article", "Pack", "Price"]
        number = self.number(made_workbook([heads, ["leeks", "5 kg", 11.4]], December=[heads, ["leeks", "5 kg", 12.4]]))
        review = self.review(number)
        self.assertEqual((review["missing"], review["sheets"], review["lines"]), (["sheet"], ["Sheet1", "December"], []))
        self.assertIn('choose the sheet that counts: "Sheet1", "December" name the same', review["blocked"])
        self.say(number, supplier="saltmarsh", columns=review["columns"] | {"sheet": "December"})
        review = self.review(number)
        self.assertIn('read from it: "December"; not read: "Sheet1"', review["notes"])
        (line,) = review["lines"]
        self.say(number, lines=[{"place": line["place"], "item": "leek", "pass_over": False, "confirmed": False}])
        self.assertEqual(self.record(number)[1]["prices"], 1)
        again = self.review(self.number(made_workbook([heads, ["leeks", "5 kg", 12]], December=[heads, ["leeks", "5 kg", 13]])))
        self.assertEqual(again["missing"], ["sheet"])

    def test_unknown_things(self) -> None:
        self.assertEqual(self.call("GET", "/api/price-lists/99")[0], 404)
        number = self.number(INVOICE)
        for said in ({"supplier": "nobody"}, {"lines": [{"place": 1, "item": "ham", "confirmed": False, "pass_over": False}]}):
            self.assertEqual(self.call("PUT", f"/api/price-lists/{number}", said)[0], 404)
        self.record(number)
        self.assertEqual(self.call("DELETE", f"/api/price-lists/{number}")[0], 422)
        self.assertEqual(self.record(number)[0], 422)
        self.assertEqual(self.call("PUT", f"/api/price-lists/{number}", {"kind": "delivery"})[0], 422)

    def test_dropped_before_it_was_recorded(self) -> None:
        number = self.number(INVOICE)
        self.assertEqual(self.call("DELETE", f"/api/price-lists/{number}")[0], 204)
        self.assertEqual(self.get("/api/price-lists")["lists"], [])

    def test_a_reader_that_hangs_up_leaves_nothing(self) -> None:
        """Ten thousand lines take a while to read: the connection is gone after the first step."""
        data = b"Code;Article;Pack;Price\n" + b"".join(b"A%d;thing %d;5 kg;3,20\n" % (n, n) for n in range(20_000))
        there = urlsplit(self.address)
        # More often than files are read side by side: none may hold its place.
        for _ in range(4):
            connection = http.client.HTTPConnection(there.hostname or "", there.port, timeout=30)
            connection.request("POST", "/api/price-lists?name=long", data, {"Content-Type": "application/octet-stream"})
            answer = connection.getresponse()
            self.assertLess(json.loads(answer.readline())["done"], 0.5)
            answer.close()
            connection.close()
        time.sleep(3)
        self.assertEqual(self.get("/api/price-lists")["lists"], [])
        began = time.monotonic()
        self.assertIsNotNone(self.read(b"Goods;Pack;Price\nLeeks;5 kg;9.90\n")[-1]["number"])
        self.assertLess(time.monotonic() - began, 30)


class LongLists(ListTest):
    def test_ten_thousand_lines_are_read_reviewed_and_recorded(self) -> None:
        lines = "".join(
            f"S{n};{'LEEKS' if n % 2 else 'NAPKINS'} L{n};{1 + n % 9} kg;{(1 + n % 9) * (2.1 + n % 7 / 100):.2f}\n"
            for n in range(10_000)
        )
        steps = self.read(f"Code;Article;Pack;Price\n{lines}".encode())
        done = [step["done"] for step in steps]
        self.assertEqual(done, sorted(done, key=float))
        self.assertGreater(len(steps), 10)
        number = steps[-1]["number"]
        self.say(number, supplier="saltmarsh")
        review = self.review(number, "?show=unmatched&start=4900&limit=200")
        self.assertEqual((review["total"], review["found"], len(review["lines"])), (10_000, 5_000, 100))
        self.assertEqual(self.record(number)[1]["prices"], 5_000)
        with self.store.reading() as connection:
            self.assertEqual(sum(offer.code is not None and offer.code[0] == "S" for offer in load_offers(connection)), 5_000)


class Fetched(ListTest):
    def setUp(self) -> None:
        super().setUp()
        self.catalogue = self.enterContext(simulated_supplier(today=lambda: DAY))
        move_supplier(self.store, self.catalogue)

    def test_todays_list_goes_the_way_of_a_file(self) -> None:
        status, step = self.call("POST", "/api/suppliers/ropewalk/fetch")
        self.assertEqual((status, step["known"]), (200, False))
        review = self.review(step["number"])
        self.assertEqual((review["row"]["supplier"], review["blocked"]), ("ropewalk", None))
        self.assertGreater(review["counts"]["changed"], 20)
        self.assertEqual(review["counts"]["unmatched"], 7)
        self.assertTrue(self.call("POST", "/api/suppliers/ropewalk/fetch")[1]["known"])

    def test_by_the_clock_it_waits_for_a_person(self) -> None:
        kitchens = Kitchens(self.store, lambda: DAY)
        morning = datetime.fromisoformat(f"{DAY}T06:00")
        before = len(load_offers_of(self))
        self.assertEqual(fetch_what_is_due(kitchens, Reviews(kitchens, INSIDE), morning), ["ropewalk"])
        self.assertEqual(fetch_what_is_due(kitchens, Reviews(kitchens, INSIDE), morning), [])
        (row,) = self.get("/api/price-lists")["lists"]
        self.assertEqual((row["state"], row["read_by"]), ("open", "the clock"))
        self.assertEqual(len(load_offers_of(self)), before)

    def test_a_service_that_is_down_is_told_of(self) -> None:
        move_supplier(self.store, "http://127.0.0.1:9/catalogue.xml")
        status, problem = self.call("POST", "/api/suppliers/ropewalk/fetch")
        self.assertEqual((status, problem["type"]), (502, "urn:potrel:problem:no-answer"))
        kitchens = Kitchens(self.store, lambda: DAY)
        fetch_what_is_due(kitchens, Reviews(kitchens, INSIDE), datetime.fromisoformat(f"{DAY}T07:00"))
        (one,) = self.get("/api/price-lists")["fetching"]
        self.assertIn("does not answer", one["problem"])
        self.assertEqual(self.call("POST", "/api/suppliers/saltmarsh/fetch")[0], 422)
        self.assertEqual(self.call("POST", "/api/suppliers/nobody/fetch")[0], 404)

    def test_a_supplier_is_changed_by_one_at_a_time(self) -> None:
        was = next(one for one in self.get("/api/kitchen")["suppliers"] if one["id"] == "ropewalk")
        later = {**was, "fetch_at": "05:30"}
        self.assertEqual(self.call("PUT", "/api/suppliers/ropewalk", {"supplier": later, "was": was})[0], 200)
        self.assertEqual(self.call("PUT", "/api/suppliers/ropewalk", {"supplier": later, "was": was})[0], 409)
        bad = {**later, "catalogue_url": None}
        self.assertEqual(self.call("PUT", "/api/suppliers/ropewalk", {"supplier": bad, "was": later})[0], 422)


def load_offers_of(test: ApiTest) -> tuple[object, ...]:
    """All offers in the database of a test."""
    with test.store.reading() as connection:
        return load_offers(connection)


class PushedPast(ListTest):
    def marked(self) -> set[tuple[str, str]]:
        return {(one["recipe"], one["why"]) for one in self.get("/api/pushed-past")}

    def test_a_price_that_pushes_a_soup_past_its_target_is_marked_until_it_is_looked_at(self) -> None:
        leek = {
            "item": "leek",
            "supplier": "saltmarsh",
            "pack": "5 kg",
            "price": "11.90",
            "on": DAY.isoformat(),
            "withdrawn": False,
        }
        self.call("POST", "/api/offers", leek)
        self.assertEqual(self.marked(), {("leek-potato", "price of Leeks")})
        self.assertIn("over_target", self.row("leek-potato")["marks"])
        self.call("POST", "/api/offers", {**leek, "price": "12.90"})
        self.assertEqual(self.marked(), {("leek-potato", "price of Leeks")})
        self.assertEqual(self.call("DELETE", "/api/pushed-past/leek-potato")[0], 204)
        self.call("POST", "/api/offers", {**leek, "price": "13.90"})
        self.assertEqual(self.marked(), set(), "it was past its target already when somebody looked")

    def test_a_mark_goes_with_what_caused_it(self) -> None:
        price = {"item": "parsnip", "supplier": "saltmarsh", "pack": "1 kg", "price": "40", "on": DAY.isoformat()}
        first = self.call("POST", "/api/offers", price)[1]
        self.assertIn(("curried-parsnip", "price of Parsnips"), self.marked())
        # Dearer for another reason too: the mark goes with its own cause, and what stays past its target is no news.
        cream = {**price, "item": "onion", "price": "90"}
        self.call("POST", "/api/offers", cream)
        self.call("POST", "/api/offers", {**price, "corrects": first["id"], "withdrawn": True})
        self.assertNotIn("curried-parsnip", [recipe for recipe, _ in self.marked()])

    def test_a_new_cause_takes_the_place_of_an_old_one(self) -> None:
        price = {"item": "parsnip", "supplier": "saltmarsh", "pack": "1 kg", "price": "40", "on": DAY.isoformat()}
        first = self.call("POST", "/api/offers", price)[1]
        self.call("POST", "/api/offers", {**price, "corrects": first["id"], "price": "1"})
        self.call("POST", "/api/offers", {**price, "item": "onion", "price": "90"})
        self.assertIn(("curried-parsnip", "price of Onions"), self.marked())

    def test_a_list_does_the_same(self) -> None:
        number = self.number(SALTMARSH)
        self.say(number, supplier="saltmarsh")
        self.look_at(number)
        self.record(number)
        self.assertEqual(self.marked(), {("leek-potato", "price list of Saltmarsh Produce")})

    def test_a_yield_does_the_same(self) -> None:
        item = self.get("/api/items/leek")["item"]
        worse = {**item, "preparations": [{**item["preparations"][0], "yield": "0.34", "low": None}]}
        self.assertEqual(self.call("PUT", "/api/items/leek", {"item": worse, "was": item})[0], 200)
        self.assertIn(("leek-potato", "weights and yields of Leeks"), self.marked())


class Concurrent(ListTest):
    def test_two_people_at_one_list_lose_nothing(self) -> None:
        number = self.number(SALTMARSH)
        blank = {"confirmed": False, "pass_over": False}
        self.say(number, supplier="saltmarsh", lines=[{"place": 5, "item": "leek", **blank}])
        self.say(number, lines=[{"place": 6, "item": "onion", **blank}])
        states = {line["place"]: line["how"] for line in self.review(number)["lines"][:3]}
        self.assertEqual(states, {5: "chosen", 6: "chosen", 7: "likely"})

    def test_a_list_read_by_another_process_is_seen(self) -> None:
        with self.store.writing("test") as connection:
            number = insert_price_list(connection, "x", INVOICE, PriceList("delivery", ()), None, "another")
        self.assertEqual(self.review(number)["row"]["supplier"], "quayside")
        self.assertEqual(self.record(number)[0], 200)
        with self.store.reading() as connection:
            self.assertEqual(load_credits(connection), ())
