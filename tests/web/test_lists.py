"""Deliveries and price lists as people use them: from the file to the board, by keyboard, and back."""

from __future__ import annotations

import re
import tempfile
from pathlib import Path

from playwright.sync_api import Page, Route, expect

from potrel.demo import demo_lists
from potrel.demo.filling import move_supplier
from potrel.devices.simulated_supplier import simulated_supplier
from potrel.store.kitchens import NEW_KITCHEN
from tests.formats.lists import made_workbook
from tests.kitchens import DAY
from tests.web.browser import BrowserTest, look_at_likely

FILES = dict(demo_lists(DAY))


class ListTest(BrowserTest):
    def setUp(self) -> None:
        super().setUp()
        # From the start, so that no chooser opens before the driver looks out for it.
        self.page.on("filechooser", lambda _: None)

    def choose_file(self, page: Page, name: str, data: bytes) -> None:
        """Press the key that opens the choice of files, and choose."""
        expect(page.get_by_role("button", name="Read a file in")).to_be_visible()
        with page.expect_file_chooser() as chooser:
            page.keyboard.press("o")
        chooser.value.set_files({"name": name, "mimeType": "application/octet-stream", "buffer": data})

    def say_what_it_is(self, place: int, words: str, name: str) -> None:
        """Match a line by keyboard with the item that some words find."""
        page = self.page
        page.locator(f'button[data-line="{place}"]').focus()
        page.keyboard.press("i")
        page.keyboard.type(words)
        expect(page.get_by_role("option", name=re.compile(name))).to_be_visible()
        page.keyboard.press("Enter")


GUIDE = b"""Estuary Foods;;;;;
Order guide, prices valid from 11/30/2026, net;;;;;
Item #;Pack;Size;Brand;Description;Price
100231;1;50 LB;Boatshed;Onion Yellow Jumbo;18.40
100241;6;#10;Harbor;Tomatoes Chopped Canned;31.20
100251;36;1 LB;Slip;Butter Unsalted Solid;118.00
100260;2;10-12 LB;Quay;Turkey Breast;92.40
100291;1;5 LB;Harbor;Salt Kosher Coarse;4.10
100293;1;18 OZ;Harbor;Pepper Black Ground;16.20
"""


class ADelivery(ListTest):
    def test_from_the_file_to_the_board_by_keyboard(self) -> None:
        self.go("/")
        page = self.page
        page.get_by_role("link", name="Buy").press("Enter")
        page.wait_for_url("**/buy")
        expect(page.get_by_role("heading", name="Buy")).to_be_visible()
        page.keyboard.press("l")
        expect(page.get_by_text("No list was read in yet")).to_be_visible()
        self.choose_file(page, "quayside.xml", FILES["quayside-invoice-2291.xml"])
        expect(page.get_by_role("heading", name="Invoice QM-2291 of Quayside Meat & Fish")).to_be_visible()
        expect(page.locator('tr[data-place="2"]')).to_contain_text("16.60 → 17.20")
        expect(page.get_by_label("What it does")).to_contain_text("Smoked haddock chowder")
        # The ice is nothing for a pot: down to it, and pass over.
        for _ in range(5):
            page.keyboard.press("ArrowDown")
        expect(page.locator('button[data-line="5"]')).to_be_focused()
        page.keyboard.press("x")
        expect(page.locator('tr[data-place="5"]')).to_contain_text("not bought")
        page.keyboard.press("Control+Enter")
        expect(page.get_by_role("status")).to_contain_text("4 prices recorded")
        page.get_by_role("link", name="To the board").press("Enter")
        haddock = page.locator('tr[data-row="haddock-chowder/bowl"]')
        expect(haddock).to_contain_text("1.99")

    def test_a_list_that_needs_a_person(self) -> None:
        self.go("/buy/lists")
        page = self.page
        self.choose_file(page, "saltmarsh.csv", FILES["saltmarsh-week-48.csv"])
        # Its letterhead says whose it is.
        expect(page.get_by_role("heading", name="Price list of Saltmarsh Produce")).to_be_visible()
        onions = page.locator("tr[data-place]").filter(has_text="ONIONS BROWN")
        expect(onions).to_contain_text("only the list says brown")
        onions.locator("button[data-line]").focus()
        page.keyboard.press("c")
        expect(onions).to_contain_text("as you said")
        look_at_likely(page)
        expect(page.locator('tr[data-place="9"]')).to_contain_text("is the decimal point in its place?")
        expect(page.locator('tr[data-place="9"]')).to_have_attribute("data-state", "suspicious")
        # Chervil root is no item yet: it becomes one, with the weight that its pack needs.
        page.locator('tr[data-place="20"]').get_by_role("button", name="New item").click()
        expect(page.get_by_label("What is it called?")).to_have_value("Chervil root")
        page.get_by_role("button", name=re.compile("Add it")).click()
        # The shelf does not know it: nothing is guessed of it.
        expect(page.get_by_role("dialog").get_by_role("alert")).to_contain_text("Which of these is it")
        page.get_by_label("none of these").check()
        page.get_by_role("button", name=re.compile("Add it")).click()
        expect(page.get_by_role("dialog").get_by_role("alert")).to_contain_text("say what kind it is")
        page.get_by_label("What kind is it").select_option("root")
        page.get_by_role("button", name=re.compile("Add it")).click()
        expect(page.locator('tr[data-place="20"]')).to_contain_text("first price")
        # One pot of basil has no weight: asked for here, once.
        basil = page.locator('tr[data-place="18"]')
        basil.get_by_label("Weight of 1 each").fill("30 g")
        basil.get_by_role("button", name="Keep it").click()
        expect(basil).to_contain_text("40.00")
        page.get_by_role("button", name=re.compile("Record 18 prices")).click()
        expect(page.get_by_role("status")).to_contain_text("18 prices recorded")
        page.get_by_role("link", name="To the board").click()
        expect(page.get_by_text("1 pushed past its target, not looked at yet")).to_be_visible()
        leek = page.locator('tr[data-row="leek-potato/bowl"]')
        expect(leek).to_contain_text("price list of Saltmarsh")
        leek.get_by_role("link").click()
        expect(page.get_by_text("Pushed past its target: Bowl by price list of Saltmarsh Produce")).to_be_visible()
        # That it was looked at is on its way to the server.
        self.settle(page)
        self.go("/")
        expect(page.locator('tr[data-row="leek-potato/bowl"]')).to_contain_text("over target")
        expect(page.get_by_text("not looked at yet")).to_have_count(0)

    def test_a_mistyped_price_is_corrected_and_what_was_left_out_is_recorded_later(self) -> None:
        self.go("/buy/lists")
        page = self.page
        self.choose_file(page, "quayside.xml", FILES["quayside-invoice-2291.xml"])
        price = page.locator('tr[data-place="2"]').get_by_role("textbox", name=re.compile("^Price of"))
        was = price.input_value()
        price.fill("49,80")
        price.press("Enter")
        expect(page.locator('tr[data-place="2"]')).to_contain_text(f"the list says {was}")
        page.keyboard.press("Control+Enter")
        expect(page.get_by_role("status")).to_contain_text("4 prices recorded")
        aside = page.get_by_label("What it does")
        expect(aside).to_contain_text("1 line was left out and can be recorded later")
        ice = page.locator('tr[data-place="5"]')
        ice.get_by_role("button", name="choose an item").click()
        page.keyboard.type("water")
        page.keyboard.press("Enter")
        expect(ice).to_contain_text("as you said")
        pack = ice.get_by_role("textbox", name=re.compile("^Pack of"))
        pack.fill("10 kg")
        pack.press("Enter")
        expect(ice).to_contain_text("odd price")
        ice.get_by_role("button", name="It is right").click()
        aside.get_by_role("button", name=re.compile("Record 1 price more")).click()
        expect(page.get_by_role("status")).to_contain_text("5 prices recorded")
        expect(ice.get_by_role("textbox")).to_have_count(0)

    def test_an_item_is_matched_by_hand_and_back(self) -> None:
        self.go("/buy/lists")
        page = self.page
        self.choose_file(page, "quayside.xml", FILES["quayside-invoice-2291.xml"])
        ice = page.locator('tr[data-place="5"]')
        self.say_what_it_is(5, "water", "Water, mains")
        expect(ice).to_contain_text("Water, mains")
        page.get_by_role("button", name="Undo").click()
        expect(ice).to_contain_text("choose an item")
        page.get_by_label("Find").fill("fillet haddock")
        expect(page.locator("tr[data-place]")).to_have_count(1)
        page.keyboard.press("ArrowDown")
        expect(page.locator('button[data-line="2"]')).to_be_focused()
        pack = page.get_by_label("Pack of Smoked haddock fillet 3KG box")
        pack.fill("6 kg")
        pack.press("Enter")
        expect(page.locator('tr[data-place="2"]')).to_contain_text("8.60")

    def test_to_say_what_it_is_says_nothing_of_what_its_price_is_of(self) -> None:
        self.go("/buy/lists")
        page = self.page
        rows = "Item #,Description,Pack,Size,Unit $,U/M\n1001,CHUCK ROLL,4,20 LB AVG,6.49,LB\n"
        self.choose_file(page, "guide.csv", rows.encode())
        page.get_by_label("list of").select_option("Saltmarsh Produce")
        line = page.locator('tr[data-place="2"]')
        self.say_what_it_is(2, "beef shin", "Beef shin")
        expect(line).to_contain_text("Beef shin")
        expect(line).to_contain_text("its price may be that of 4 x 20 lb, or of 1 LB")
        page.get_by_label("Pack of CHUCK ROLL").fill("1 lb")
        page.keyboard.press("Enter")
        expect(line).not_to_contain_text("its price may be")
        # 6.49 over 0.45359237 kg.
        expect(line).to_contain_text("14.31")

    def test_recorded_and_taken_back(self) -> None:
        self.go("/")
        page = self.page
        haddock = page.locator('tr[data-row="haddock-chowder/bowl"]')
        before = haddock.inner_text()
        self.go("/buy/lists")
        self.choose_file(page, "quayside.xml", FILES["quayside-invoice-2291.xml"])
        page.get_by_role("button", name=re.compile("Record 4 prices")).click()
        page.get_by_role("button", name="Take all of it back").click()
        expect(page.get_by_role("status")).to_contain_text("All of this list is taken back")
        self.go("/")
        self.assertEqual(page.locator('tr[data-row="haddock-chowder/bowl"]').inner_text(), before)
        self.go("/buy/lists")
        expect(page.locator("tr[data-list-number]")).to_contain_text("undone")


class FilesThatAreWrong(ListTest):
    def test_a_refused_file_says_why(self) -> None:
        self.go("/buy/lists")
        page = self.page
        self.choose_file(page, "bomb.xml", b'<!DOCTYPE x [<!ENTITY a "b">]><x>&a;</x>')
        expect(page.get_by_role("alert")).to_contain_text("bomb.xml: the XML holds a document type or entities")
        self.choose_file(page, "scan.pdf", b"%PDF-1.7 ...")
        expect(page.get_by_role("alert")).to_contain_text("ask the supplier for CSV, XLSX or UBL")
        with tempfile.TemporaryDirectory() as folder:
            # Half a gigabyte, without taking its room on the disk.
            large = Path(folder) / "large.csv"
            with large.open("wb") as file:
                file.truncate(500 * 1024 * 1024)
            with page.expect_file_chooser() as chooser:
                page.keyboard.press("o")
            chooser.value.set_files(large)
            expect(page.get_by_role("alert")).to_contain_text("larger than 20 MB")
        expect(page.get_by_text("No list was read in yet")).to_be_visible()

    def test_reading_is_cancelled(self) -> None:
        self.go("/buy/lists")
        page = self.page
        rows = "".join(f"A{n};thing {n};5 kg;3,20\n" for n in range(45_000))
        self.choose_file(page, "long.csv", f"Code;Article;Pack;Price\n{rows}".encode())
        expect(page.get_by_role("progressbar")).to_be_visible()
        page.get_by_role("button", name=re.compile("Cancel")).click()
        expect(page.get_by_role("alert")).to_contain_text("long.csv was not read in")
        page.wait_for_timeout(2500)
        self.go("/buy/lists")
        expect(page.get_by_text("No list was read in yet")).to_be_visible()

    def test_one_of_several_sheets_is_chosen(self) -> None:
        heads: list[object] = ["Article", "Pack", "Price"]
        old, new = [heads, ["Leeks", "5 kg", 11.4]], [heads, ["Leeks", "5 kg", 12.4]]
        self.go("/buy/lists")
        page = self.page
        self.choose_file(page, "prices.xlsx", made_workbook(old, December=new))
        expect(page.get_by_text("Choose the sheet that counts")).to_be_visible()
        page.get_by_label("Sheet", exact=True).select_option("December")
        page.get_by_label("list of").select_option("Saltmarsh Produce")
        expect(page.get_by_label("Price of Leeks")).to_have_value("12.40")
        expect(page.get_by_text('read from it: "December"; not read: "Sheet1"')).to_be_visible()

    def test_columns_are_mapped_once(self) -> None:
        self.go("/buy/lists")
        page = self.page
        self.choose_file(page, "a.csv", b"A;B;C\nLEEKS;5 kg;11,40\nONIONS;20 kg;17,20\n")
        expect(page.get_by_text("Tell which column is the name and the price")).to_be_visible()
        with page.expect_response(lambda answer: answer.request.method == "PUT"):
            page.get_by_label("list of").select_option("Saltmarsh Produce")
        # What was said first is slow on its way: it must not arrive last, and undo what was said since.
        slow: list[Route] = []

        def hold_the_first(route: Route) -> None:
            if route.request.method == "PUT" and not slow:
                slow.append(route)
            else:
                route.continue_()

        page.route("**/api/price-lists/*", hold_the_first)
        for words, head in (("what it is", "A"), ("pack", "B"), ("price, net", "C")):
            page.get_by_label(f"Column of {words}", exact=True).select_option(head)
        page.wait_for_timeout(500)
        slow[0].continue_()
        expect(page.locator('tr[data-place="2"]')).to_contain_text("Leeks")
        page.get_by_role("button", name=re.compile("Record 2 prices")).click()
        expect(page.get_by_role("status")).to_contain_text("2 prices recorded")
        self.go("/buy/lists")
        self.choose_file(page, "b.csv", b"A;B;C\nLEEKS;5 kg;12,40\nONIONS;20 kg;17,20\n")
        expect(page.get_by_role("heading", name="Price list of Saltmarsh Produce")).to_be_visible()
        expect(page.get_by_role("button", name=re.compile("Record 2 prices"))).to_be_enabled()

    def test_what_a_file_does_not_tell_of_itself_is_said(self) -> None:
        self.go("/buy/lists")
        page = self.page
        # A note of three columns in front, heads that nobody knows, bars between cells, and prices of a kilo beside packs.
        rows = "Name;Price;Of\n" + "left;over;here\n" * 4 + "A|B|C\nLEEKS|5 kg|2,28\nONIONS|20 kg|0,86\n"
        self.choose_file(page, "a.csv", rows.encode())
        page.locator("summary", has_text="Columns").click()
        page.get_by_label("Cells are parted by").select_option("upright bars")
        page.get_by_label("Row 6 holds the heads").check()
        for words, head in (("what it is", "A"), ("pack", "B"), ("price, net", "C")):
            page.get_by_label(f"Column of {words}", exact=True).select_option(head)
        page.get_by_label("list of").select_option("Saltmarsh Produce")
        expect(page.get_by_label("Pack of LEEKS")).to_have_value("5 kg")
        page.get_by_label("Its prices are of").select_option("1 kg")
        expect(page.get_by_label("Pack of LEEKS")).to_have_value("1 kg")
        expect(page.locator('tr[data-place="7"]')).to_contain_text("2.28")


class AService(ListTest):
    def test_todays_list_is_fetched(self) -> None:
        move_supplier(self.store, self.enterContext(simulated_supplier(today=lambda: DAY)))
        self.go("/buy/lists")
        page = self.page
        page.get_by_role("button", name="Fetch today's list").click()
        expect(page.get_by_role("heading", name=re.compile("Price list 20261124 of Ropewalk"))).to_be_visible()
        expect(page.get_by_role("button", name=re.compile(r"Record 3\d prices"))).to_be_enabled()
        page.keyboard.press("Escape")
        page.get_by_label("each day at").fill("05:15")
        page.get_by_role("button", name="Keep it").click()
        expect(page.get_by_role("button", name="Keep it")).to_have_count(0)
        page.get_by_role("button", name="Drop fetched from Ropewalk Wholesale, 2026-11-24").click()
        expect(page.get_by_text("No list was read in yet")).to_be_visible()

    def test_one_that_does_not_answer(self) -> None:
        move_supplier(self.store, "http://127.0.0.1:9/catalogue.xml")
        self.go("/buy/lists")
        self.page.get_by_role("button", name="Fetch today's list").click()
        expect(self.page.get_by_role("alert")).to_contain_text("does not answer")


class Everybody(ListTest):
    def test_no_violations(self) -> None:
        self.go("/buy/lists")
        self.assertEqual(self.axe(), [])
        for name, data in FILES.items():
            self.choose_file(self.page, name, data)
            expect(self.page.get_by_role("heading", level=1)).not_to_contain_text("Deliveries")
            self.settle(self.page)
            self.assertEqual(self.axe(), [], name)
            self.page.set_viewport_size({"width": 1024, "height": 768})
            self.assertEqual(self.spilled(), [], f"{name} on a tablet")
            self.page.set_viewport_size({"width": 1280, "height": 800})
            self.assertEqual(self.spilled(), [], name)
            self.page.keyboard.press("Escape")
            expect(self.page.get_by_role("heading", name="Deliveries and price lists")).to_be_visible()


class AnEmptyKitchen(ListTest):
    kitchen = NEW_KITCHEN

    def test_an_order_guide_becomes_items_in_one_table(self) -> None:
        self.go("/buy/lists")
        page = self.page
        self.choose_file(page, "guide.csv", GUIDE)
        # The letterhead says whose it is and from when its prices hold: both are proposed.
        expect(page.get_by_label("new supplier")).to_have_value("Estuary Foods")
        expect(page.get_by_text("of 30 Nov")).to_be_visible()
        page.get_by_role("button", name="Add", exact=True).click()
        expect(page.get_by_role("heading", name="Price list of Estuary Foods")).to_be_visible()
        # From a line: where the focus is in a choice, a letter is part of that.
        page.locator("button[data-line]").first.focus()
        page.keyboard.press("m")
        table = page.get_by_label("What the kitchen does not have", exact=True)
        expect(table.get_by_label('What "Onion yellow jumbo" is')).to_have_value("shelf:onion")
        # The breast of a turkey is no whole one, and ground pepper is asked: neither is proposed.
        for name in ("Turkey breast", "Pepper black ground"):
            expect(table.get_by_label(f'What "{name}" is')).to_have_value("")
        expect(table.get_by_label('What "Onion yellow jumbo" is')).to_be_focused()
        table.get_by_role("button", name="Take these 4").press("Enter")
        expect(page.get_by_role("status")).to_contain_text("4 lines have their items")
        table.get_by_label('What "Turkey breast" is').select_option("new")
        table.get_by_label('Kind of the new item "Turkey breast"').select_option("meat")
        table.get_by_label('What "Pepper black ground" is').select_option("shelf:pepper-black")
        table.get_by_role("button", name="Take all 2").press("Enter")
        expect(table).to_have_count(0)
        self.assertEqual(self.axe(), [])
        # A case of six no. 10 cans weighs what the shelf knows; a range of weights takes its middle, and says so.
        expect(page.locator("tr[data-place]").filter(has_text="Turkey Breast")).to_contain_text("11 lb is the middle")
        page.keyboard.press("Control+Enter")
        expect(page.get_by_role("status")).to_contain_text("6 prices recorded")
        offers = page.request.get(f"{self.address}/api/export").json()["offers"]
        self.assertEqual(
            {one["item"]: (one["pack"], one["price"]) for one in offers},
            {
                "onion": ("50 lb", "18.40"), "butter-unsalted": ("36 x 1 lb", "118.00"), "salt": ("5 lb", "4.10"),
                "chopped-tomato": ("6 no 10 can", "31.20"), "turkey-breast": ("2 x 11 lb", "92.40"),
                "pepper-black": ("18 oz", "16.20"),
            },
        )  # fmt: skip

    def test_the_first_list_brings_supplier_and_items(self) -> None:
        self.go("/buy/lists")
        page = self.page
        self.choose_file(page, "quayside.xml", FILES["quayside-invoice-2291.xml"])
        # Whom it names is proposed, as nobody here knows them.
        expect(page.get_by_label("new supplier")).to_have_value("Quayside Meat & Fish")
        page.get_by_role("button", name="Add", exact=True).click()
        expect(page.get_by_role("heading", name="Invoice QM-2291 of Quayside Meat & Fish")).to_be_visible()
        page.locator('tr[data-place="2"]').get_by_role("button", name="New item").click()
        page.get_by_role("dialog").get_by_label("Smoked haddock fillet").check()
        page.get_by_role("button", name=re.compile("Add it")).click()
        expect(page.locator('tr[data-place="2"]')).to_contain_text("as you said")
        expect(page.get_by_role("button", name=re.compile("Record 1 price"))).to_be_enabled()
        page.keyboard.press("Control+Enter")
        expect(page.get_by_role("status")).to_contain_text("1 price recorded")
