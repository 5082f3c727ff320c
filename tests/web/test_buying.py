"""Prices by hand: recorded, corrected, taken back; yields; items from the shelf; bad input explained."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from potrel.store.offers import load_offers
from tests.web.browser import BrowserTest


def cost_on_board(page: Page, row: str) -> float:
    """The cost of a portion, as the board shows it."""
    text = page.locator(f'tr[data-row="{row}"] td').nth(2).inner_text()
    return float(text.replace("at least", ""))


class Buying(BrowserTest):
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
        form = page.get_by_label("Weights and yields")
        form.get_by_label("yields").fill("0.46")
        expect(form.get_by_test_id("effects")).to_contain_text("Leek & potato")
        page.get_by_role("button", name="Save Leeks").click()
        expect(page.get_by_role("status")).to_contain_text("Leeks saved")
        page.get_by_role("button", name="Undo").click()
        expect(form.get_by_label("yields")).to_have_value("0.44")

    def test_forms_are_compared_by_keyboard(self) -> None:
        self.go("/buy/compare")
        page = self.page
        for typed in ("butternut", "squash cubes"):
            page.keyboard.press("n")
            page.keyboard.type(typed)
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
        expect(panel.get_by_label("Weight of 1 cup cubes")).to_have_value("116 g")
        expect(panel.get_by_label("from", exact=True).first).to_have_value(re.compile("USDA National Nutrient Database"))

    def test_bad_input_is_explained_and_kept(self) -> None:
        self.go("/buy/leek")
        page = self.page
        page.get_by_label("Pack", exact=True).fill("a lot")
        page.get_by_label("New price").last.fill("3")
        expect(page.get_by_role("alert")).to_contain_text('"a lot" is not a quantity')
        expect(page.get_by_label("Pack", exact=True)).to_have_value("a lot")
