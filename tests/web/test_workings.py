"""Any figure opens into its working, by a key or a tap, and its numbers lead on to their own."""

from __future__ import annotations

import re

from playwright.sync_api import expect

from tests.web.browser import BrowserTest

STOCKS = "/buy/compare?unit=l&form=stock-carton&form=stock-cube&form=recipe/white-stock"


class Workings(BrowserTest):
    def test_a_key_opens_the_working_of_the_chosen_row(self) -> None:
        page = self.page
        for path, name, words in (
            ("/trim", "Celeriac roast", "usable kilo / cooking yield"),
            ("/trim", "Celeriac peeled, diced", "(AP price - value of by-products) / yield"),
            ("/buy", "Butter, salted", "price of the pack / kilos in the pack"),
            ("/buy", "Celeriac", "value of by-products of a kilo"),
            ("/cook", "Fish stock", "food cost / kilos * density"),
        ):
            self.go(path)
            page.get_by_role("rowheader", name=name, exact=True).get_by_role("link").focus()
            page.keyboard.press("w")
            expect(page.get_by_role("dialog")).to_contain_text(words)

    def test_of_forms_side_by_side(self) -> None:
        page = self.page
        self.go(STOCKS)
        panel = page.get_by_role("dialog")
        for label, words in (
            ("cost of Chicken stock, carton", "kilos to buy * AP price"),
            ("labour of White chicken stock", "minutes / 60 * labour rate"),
            ("price at which it wins of Chicken stock, carton", "Vegetable stock cubes"),
            ("salt in Vegetable stock cubes", "grams to buy * salt in it"),
            ("salt in White chicken stock", "not noted with them"),
        ):
            page.get_by_role("button", name=re.compile(f"^{label}")).press("Enter")
            expect(panel).to_contain_text(words)
            page.keyboard.press("Escape")
        page.get_by_role("button", name=re.compile("^cost and labour of White chicken stock")).press("Enter")
        panel.get_by_role("button", name="cost").first.press("Enter")
        panel.get_by_role("button", name="batch cost, before seasoning").press("Enter")
        expect(panel).to_contain_text("White chicken stock: food cost of the batch, before its seasoning")
