"""Prices by hand: recorded, corrected, taken back; yields; items from the shelf; bad input explained."""

from __future__ import annotations

import re

from playwright.sync_api import Locator, Page, expect

from potrel.store.offers import load_offers
from tests.web.browser import BrowserTest


def cost_on_board(page: Page, row: str) -> float:
    """The cost of a portion, as the board shows it."""
    text = page.locator(f'tr[data-row="{row}"] td').nth(2).inner_text()
    return float(text.replace("at least", ""))


class Buying(BrowserTest):
    def opened(self, page: Page) -> Locator:
        """The weights and yields of the item on a page, which are folded at first."""
        form = page.get_by_label("Weights and yields")
        form.get_by_text("Weights and yields", exact=True).click()
        return form

    def test_a_recorded_price_moves_the_board(self) -> None:
        self.go("/")
        page = self.page
        before = cost_on_board(page, "leek-potato/bowl")
        page.get_by_role("link", name="Buy").click()
        page.get_by_role("link", name="Leeks", exact=True).click()
        price = page.get_by_label("New price").last
        price.fill("19.20")
        effects = page.get_by_test_id("effects")
        expect(effects).to_contain_text("Leek & potato")
        expect(effects).to_contain_text("▲")
        with self.store.reading() as connection:
            offers = len(load_offers(connection))
        page.get_by_role("button", name="Record").click()
        expect(page.get_by_role("status")).to_contain_text("Recorded: Leeks, 5 kg for 19.20")
        with self.store.reading() as connection:
            self.assertEqual(len(load_offers(connection)), offers + 1)
        page.get_by_role("link", name="Board").click()
        expect(page.locator('tr[data-row="leek-potato/bowl"]')).to_contain_text("over target")
        self.assertGreater(cost_on_board(page, "leek-potato/bowl"), before + 0.2)

    def test_a_recorded_price_is_undone(self) -> None:
        self.go("/buy/leek")
        page = self.page
        page.get_by_label("New price").last.fill("19.20")
        page.get_by_label("Until (may be open)").fill("2026-12-24")
        page.get_by_role("button", name="Record").click()
        history = page.get_by_label("Prices so far")
        expect(history).to_contain_text("5 kg for 19.20")
        expect(history).to_contain_text("to 24 Dec")
        page.get_by_role("button", name="Undo").click()
        expect(history).not_to_contain_text("19.20")
        # The end of the wrong price goes with it.
        expect(history).not_to_contain_text("to 24 Dec")

    def test_a_yield_shows_what_it_moves_before_it_is_saved(self) -> None:
        self.go("/buy/leek")
        page = self.page
        form = self.opened(page)
        form.get_by_label("yields").first.fill("0.46")
        expect(form.get_by_test_id("effects")).to_contain_text("Leek & potato")
        page.get_by_role("button", name="Save Leeks").click()
        expect(page.get_by_role("status")).to_contain_text("Leeks saved")
        page.get_by_role("button", name="Undo").click()
        expect(form.get_by_label("yields").first).to_have_value("0.44")

    def test_an_item_is_renamed_but_never_like_another(self) -> None:
        self.go("/buy/leek")
        page = self.page
        form = self.opened(page)
        form.get_by_label("called").fill("Carrots")
        # What it would do comes in above the button, and would push that from under the pointer.
        self.settle(page)
        page.get_by_role("button", name="Save Leeks").click()
        expect(form.get_by_role("alert")).to_contain_text('there is an item called "Carrots" already')
        form.get_by_label("called").fill("Leeks, washed")
        form.get_by_label("kind", exact=True).select_option("vegetable")
        page.get_by_role("button", name="Save Leeks").click()
        expect(page.get_by_role("heading", name="Leeks, washed")).to_be_visible()
        self.go("/cook/leek-potato")
        expect(page.locator('tr[data-line="leek"]')).to_contain_text("Leeks, washed")

    def test_a_price_ten_times_the_last_is_doubted_first(self) -> None:
        self.go("/buy/leek")
        page = self.page
        price = page.get_by_label("New price").last
        price.fill("96")
        price.press("Enter")
        expect(page.get_by_label("A new price").get_by_role("alert")).to_contain_text("ten times the last one")
        expect(page.get_by_role("status")).not_to_contain_text("Recorded")
        page.get_by_role("button", name="It is so: record").click()
        expect(page.get_by_role("status")).to_contain_text("Recorded: Leeks")

    def test_two_hands_on_one_item(self) -> None:
        self.go("/buy/leek")
        theirs = self.new_page("/buy/leek")
        mine = self.opened(self.page)
        mine.get_by_label("kg per litre").fill("0.5")
        form = self.opened(theirs)
        form.get_by_role("button", name="+ preparation").click()
        theirs.get_by_label("Preparation", exact=True).last.fill("tops only")
        theirs.get_by_role("button", name="Save Leeks").click()
        expect(theirs.get_by_role("status")).to_contain_text("Leeks saved")
        expect(theirs.get_by_role("button", name="Save Leeks")).to_have_count(0)
        self.page.get_by_role("button", name="Save Leeks").click()
        said = mine.get_by_role("alert")
        expect(said).to_contain_text("changed in the meantime: its preparations. You changed its density")
        expect(mine.get_by_label("kg per litre")).to_have_value("0.5")
        mine.get_by_role("button", name="Save mine beside theirs").click()
        expect(said).to_have_count(0)
        expect(mine.get_by_label("Preparation", exact=True).last).to_have_value("tops only")
        expect(mine.get_by_label("kg per litre")).to_have_value("0.5")
        # On the same field somebody has to choose.
        form.get_by_label("kg per litre").fill("0.6")
        theirs.get_by_role("button", name="Save Leeks").click()
        expect(form.get_by_role("button", name="Save mine over theirs (its density)")).to_be_visible()
        form.get_by_role("button", name="Take theirs").click()
        expect(form.get_by_label("kg per litre")).to_have_value("0.5")
        expect(form.get_by_role("alert")).to_have_count(0)

    def test_forms_are_compared_by_keyboard(self) -> None:
        self.go("/buy/compare")
        page = self.page
        for typed in ("butternut", "squash cubes"):
            expect(page.get_by_role("button", name="Another form")).to_be_visible()
            page.keyboard.press("n")
            page.keyboard.type(typed)
            expect(page.get_by_role("listbox").get_by_role("option").first).to_contain_text(typed, ignore_case=True)
            page.keyboard.press("Enter")
        verdict = page.get_by_test_id("verdict")
        expect(verdict).to_contain_text("Cheapest to buy: Butternut squash, peeled, seeded, cubed.")
        expect(verdict).to_contain_text("With the labour: Squash cubes, ready cut.")
        page.reload()
        expect(page.locator("tr[data-form]")).to_have_count(2)
        page.get_by_role("button", name="Leave out Squash cubes, ready cut").click()
        expect(page.locator("tr[data-form]")).to_have_count(1)

    def test_a_wrong_price_is_corrected_and_taken_back(self) -> None:
        self.go("/buy/leek")
        page = self.page
        history = page.get_by_label("Prices so far")
        before = history.inner_text()
        page.get_by_role("button", name="Correct the price of 23 Nov").click()
        page.get_by_label("New price").last.fill("9.90")
        page.get_by_role("button", name="Record", exact=True).click()
        expect(history.locator("tr").first).to_contain_text("5 kg for 9.90")
        expect(history).not_to_contain_text("5 kg for 9.60")
        page.get_by_role("button", name="Correct the price of 23 Nov").click()
        page.get_by_role("button", name="Take it back altogether").click()
        expect(page.get_by_role("status")).to_contain_text("Taken back: 5 kg for 9.90")
        # What it corrected holds again.
        expect(history.locator("tr").first).to_contain_text("5 kg for 9.60")
        self.assertEqual(history.inner_text(), before)

    def test_a_new_item_starts_from_the_shelf(self) -> None:
        self.go("/buy")
        page = self.page
        page.keyboard.press("n")
        page.keyboard.type("Pumpkin")
        shelf = page.get_by_role("group", name="Start from what is known")
        expect(shelf.get_by_role("radio").first).to_be_checked()
        expect(shelf).to_contain_text("peeled, seeded, cubed 70%")
        page.keyboard.press("Enter")
        panel = page.get_by_label("Pumpkin", exact=True)
        self.opened(page)
        expect(panel.get_by_label("Weight of 1 cup cubes")).to_have_value("116 g")
        expect(panel.get_by_label("from", exact=True).first).to_have_value(re.compile("USDA National Nutrient Database"))

    def test_bad_input_is_explained_and_kept(self) -> None:
        self.go("/buy/leek")
        page = self.page
        page.get_by_label("Pack", exact=True).fill("a lot")
        page.get_by_label("New price").last.fill("3")
        expect(page.get_by_role("alert")).to_contain_text('"a lot" is not a quantity')
        expect(page.get_by_label("Pack", exact=True)).to_have_value("a lot")


class APaperInvoice(BrowserTest):
    def test_it_is_typed_by_keyboard_and_recorded_together(self) -> None:
        page = self.page
        self.go("/buy")
        page.keyboard.press("i")
        expect(page.get_by_label("Supplier", exact=True)).to_be_focused()
        page.keyboard.type("Saltmarsh Produce")
        page.get_by_label("Item of row 1").focus()
        for cells in (("leeks", "5 kg", "9,90"), ("carrots", "10 kg", "92"), ("stock", "1 kg", "9")):
            for cell in cells:
                page.keyboard.type(cell)
                if cell == "92":
                    # Whether the answer is there or not: Tab leads to the next cell.
                    expect(page.get_by_role("alert").filter(has_text="ten times the last one")).to_be_visible()
                page.keyboard.press("Tab")
        rows = page.get_by_label("Rows")
        expect(rows.get_by_role("alert").filter(has_text="ten times the last one")).to_be_visible()
        expect(rows).to_contain_text("2 rows have to be looked at")
        self.assertEqual(self.axe(), [])
        record = page.get_by_role("button", name="Record")
        expect(record).to_be_disabled()
        # Answered by keys from within the row.
        page.get_by_label("Price of row 2").press("Alt+Enter")
        chicken = rows.get_by_role("button", name="Chicken stock, carton")
        number = chicken.locator("kbd").inner_text().removeprefix("Alt ")
        page.get_by_label("Item of row 3").press(f"Alt+{number}")
        expect(record).to_contain_text("Record 3 prices")
        expect(page.get_by_label("What it does")).to_contain_text("Leek & potato")
        # A reload loses no row.
        page.reload()
        expect(page.get_by_label("Price of row 2")).to_have_value("92")
        expect(record).to_be_enabled()
        page.keyboard.press("Control+s")
        expect(page.get_by_role("status")).to_contain_text("3 prices recorded")
        self.go("/buy/leek")
        expect(page.get_by_label("Prices so far")).to_contain_text("5 kg for 9.90")

    def test_what_it_names_and_nobody_has_becomes_items_together(self) -> None:
        page = self.page
        self.go("/buy/from/paper")
        page.get_by_label("Supplier", exact=True).fill("Saltmarsh Produce")
        for place, cells in enumerate(
            (("pine nuts", "1 kg", "24"), ("moon beans", "2 punnets", "9"), ("Leeks", "5 kg", "9,90")), 1
        ):
            for label, cell in zip(("Item", "Pack", "Price"), cells, strict=True):
                page.get_by_label(f"{label} of row {place}").fill(cell)
        table = page.get_by_label("What the kitchen does not have", exact=True)
        # What the words alone can mean is proposed, with what its label is to be read for; nothing else is.
        expect(table.get_by_label('What "Pine nuts" is')).to_have_value("shelf:pine-nuts")
        expect(table).to_contain_text("pine nuts")
        expect(table.get_by_label('What "Moon beans" is')).to_have_value("")
        table.get_by_label('What "Moon beans" is').select_option("new")
        table.get_by_label('Kind of the new item "Moon beans"').select_option("pulse")
        self.assertEqual(self.axe(), [])
        table.get_by_role("button", name="Take all 2").press("Enter")
        expect(table).to_have_count(0)
        # What a punnet weighs is asked in its row.
        rows = page.get_by_label("Rows")
        rows.get_by_label("Weight of 1 punnet").fill("250 g")
        rows.get_by_role("button", name="Keep it").click()
        expect(rows).to_contain_text("18.00")
        expect(page.get_by_role("button", name="Record")).to_contain_text("Record 3 prices")
        page.keyboard.press("Control+s")
        expect(page.get_by_role("status")).to_contain_text("3 prices recorded")
        made = page.request.get(f"{self.address}/api/items/moon-beans").json()["item"]
        self.assertEqual((made["kind"], made["allergens"]), ("pulse", []))

    def test_an_item_is_filled_from_the_shelf_and_that_is_undone(self) -> None:
        page = self.page
        things = [{"name": "Okra", "kind": "not known"}]
        made = page.request.post(f"{self.address}/api/items/together", data={"things": things})
        self.assertEqual(made.status, 201, made.text())
        (id_,) = made.json()
        self.go(f"/buy/{id_}")
        page.get_by_role("button", name="Fill it from the shelf").click()
        expect(page.get_by_role("status")).to_contain_text("yields")
        expect(page.get_by_role("button", name="Fill it from the shelf")).to_have_count(0)
        filled = page.request.get(f"{self.address}/api/items/{id_}").json()["item"]
        self.assertTrue(filled["preparations"])
        self.assertNotEqual(filled["kind"], "not known")
        page.get_by_role("status").get_by_role("button", name="Undo").click()
        expect(page.get_by_role("button", name="Fill it from the shelf")).to_be_visible()


class PuttingAway(BrowserTest):
    def merging_swede_into_parsnips(self) -> Page:
        """The page where a merge is chosen and not done yet."""
        self.go("/buy/swede")
        page = self.page
        page.get_by_role("button", name="Merge into another item").click()
        page.keyboard.type("parsnip")
        expect(page.get_by_role("option", name="Parsnips")).to_be_visible()
        page.keyboard.press("Enter")
        return page

    def test_an_item_is_archived_and_comes_back(self) -> None:
        self.go("/buy/swede")
        page = self.page
        page.get_by_role("button", name="Archive", exact=True).click()
        expect(page.get_by_role("status")).to_contain_text("Swede is archived")
        self.go("/buy")
        expect(page.get_by_role("link", name="Swede", exact=True)).to_have_count(0)
        page.get_by_role("button", name="1 archived").click()
        page.get_by_role("link", name="Swede", exact=True).click()
        page.get_by_role("button", name="Bring back").click()
        expect(page.get_by_role("status")).to_contain_text("Swede is back")
        self.go("/buy")
        expect(page.get_by_role("link", name="Swede", exact=True)).to_be_visible()

    def test_two_that_are_one_are_merged_and_that_is_taken_back(self) -> None:
        page = self.merging_swede_into_parsnips()
        expect(page.get_by_label("Put away")).to_contain_text("Lamb & root hotpot")
        page.get_by_role("button", name="Merge into Parsnips").click()
        expect(page.get_by_role("heading", name="Parsnips")).to_be_visible()
        self.go("/cook/lamb-hotpot")
        expect(page.get_by_label("Quantity of Parsnips")).to_be_visible()
        # Long after, each pot can still be brought back by itself.
        page.get_by_role("button", name="Earlier").click()
        expect(page.get_by_text("revision 1").first).to_be_visible()

    def test_the_word_of_a_merge_takes_it_back(self) -> None:
        page = self.merging_swede_into_parsnips()
        page.get_by_role("button", name="Merge into Parsnips").click()
        page.get_by_role("button", name="Undo").click()
        expect(page.get_by_role("status")).to_contain_text("Swede stands by itself again")
        self.go("/cook/lamb-hotpot")
        expect(page.get_by_label("Quantity of Swede")).to_be_visible()


class TheKitchenItself(BrowserTest):
    def test_vessels_suppliers_and_endings_are_edited_in_one_place(self) -> None:
        self.go("/")
        page = self.page
        page.get_by_role("button", name="Kitchen").click()
        page.get_by_label("Prices go").select_option("cents")
        page.get_by_label("Ending in").fill("0.50 0.95")
        page.get_by_label("Name of vessel 1").fill("Big kettle")
        page.get_by_role("button", name="+ vessel").click()
        page.get_by_label("Name of vessel 9").fill("Wok")
        page.get_by_label("holds, Wok").fill("5 l")
        page.get_by_label("Name of Quayside Meat & Fish").fill("Quayside")
        page.get_by_role("button", name="Save", exact=True).click()
        expect(page.get_by_role("dialog")).to_have_count(0)
        head = page.request.get(f"{self.address}/api/kitchen").json()
        self.assertEqual(head["settings"]["price_ending"], {"step": None, "cents": ["0.50", "0.95"]})
        wok = head["vessels"][-1]
        self.assertEqual((head["vessels"][0]["name"], wok["id"], wok["capacity"]), ("Big kettle", "wok", "5 l"))
        # What was not said of it is not made up.
        self.assertEqual((wok["diameter_cm"], wok["power_kw"], wok["heat_source"], wok["count"]), (None, None, None, "1"))
        self.assertIn("Quayside", [one["name"] for one in head["suppliers"]])
        # A vessel that a pot cooks in stays, and says why.
        page.get_by_role("button", name="Kitchen").click()
        page.get_by_role("button", name="Remove Big kettle").click()
        page.get_by_role("button", name="Save", exact=True).click()
        expect(page.get_by_role("alert")).to_contain_text("cooks in Big kettle: choose another vessel there first")
