"""A pot as a flow, in the browser: in mass and in money, by keyboard, as a table, on one page of paper."""

from __future__ import annotations

import io
import re

import pypdf
from playwright.sync_api import expect

from tests.web.browser import BrowserTest


class Flow(BrowserTest):
    def test_it_is_drawn_read_by_keys_and_told_as_a_table(self) -> None:
        self.go("/cook/ham-leek")
        self.page.get_by_role("link", name="Flow").click()
        picture = self.page.get_by_role("img", name="Smoked ham & leek as a flow, in mass")
        expect(picture).to_contain_text("Smoked ham hocks 5.70 kg")
        expect(picture).to_contain_text("up in steam 1.86 kg")
        # Nothing is cut off at the edges.
        inside = picture.evaluate(
            """(svg) => { const all = svg.getBoundingClientRect();
                return [...svg.querySelectorAll("text")].filter((one) => {
                    const box = one.getBoundingClientRect();
                    return box.left < all.left - 1 || box.right > all.right + 1; }).map((one) => one.textContent) }"""
        )
        self.assertEqual(inside, [])
        self.assertEqual(self.axe(), [])
        keys = self.page.get_by_label("Values of: Smoked ham & leek as a flow, in mass")
        keys.focus()
        value = self.page.get_by_test_id("chart-value")
        expect(value).to_contain_text("Simmer the hocks: 12.20 kg")
        keys.press("ArrowRight")
        expect(value).to_contain_text("Smoked ham hocks: 5.70 kg")
        keys.press("Enter")
        panel = self.page.get_by_role("dialog")
        expect(panel).to_contain_text("to buy")
        self.page.keyboard.press("Escape")
        self.page.keyboard.press("Alt+m")
        money = self.page.get_by_role("img", name="Smoked ham & leek as a flow, in money")
        expect(money).to_contain_text(re.compile(r"Bowl 50\.\d\d"))
        expect(money).not_to_contain_text("up in steam")
        self.page.get_by_text("As a table").click()
        rows = self.page.get_by_role("table", name="Smoked ham & leek as a flow, in money").get_by_role("row")
        self.assertGreater(rows.count(), 12)
        expect(rows.filter(has_text="seasoning allowance")).to_have_count(1)

    def test_what_is_in_hand_flows_and_what_is_incomplete_says_why(self) -> None:
        self.go("/cook/leek-potato")
        leeks = self.page.get_by_label("Quantity of Leeks")
        leeks.fill("5 kg")
        leeks.press("Enter")
        self.page.get_by_role("link", name="Flow").click()
        expect(self.page.get_by_text("As it is in your hands, not saved yet.")).to_be_visible()
        expect(self.page.get_by_role("img", name=re.compile("as a flow"))).to_contain_text("trimmed, sliced 11.36 kg")
        self.page.get_by_label("sold as").select_option(label="Take-away cup")
        expect(self.page.get_by_role("img", name=re.compile("as a flow"))).to_contain_text("Take-away cup")
        self.go("/cook/minestrone/flow")
        expect(self.page.get_by_role("main")).to_contain_text("It cannot be drawn yet: ")

    def test_it_prints_on_one_page(self) -> None:
        self.go("/cook/ham-leek/flow")
        expect(self.page.get_by_role("img", name=re.compile("as a flow"))).to_be_visible()
        for form in ("A4", "Letter"):
            paper = pypdf.PdfReader(io.BytesIO(self.page.pdf(format=form, prefer_css_page_size=False, print_background=True)))
            self.assertEqual(len(paper.pages), 1, form)
            self.assertIn("Smoked ham hocks", paper.pages[0].extract_text())
