"""The rooms as printed pages, on a phone, and at 150%: nothing is cut, ink is kept, a thumb finds what it presses.

`./run test` looks at some of them, drawn anew with each front end that is built; `./run torture` at all.
"""

from __future__ import annotations

import io
from typing import Any

from playwright.sync_api import Page, expect
from pypdf import PdfReader

from potrel.demo import demo_lists
from tests.kitchens import DAY
from tests.web.browser import BrowserTest, some

ROOMS = (
    "/", "/cook", "/cook/leek-potato", "/cook/from/paper", "/buy", "/buy/leek", "/buy/lists", "/buy/from/paper",
    "/buy/compare?unit=l&form=stock-carton&form=recipe/white-stock", "/trim", "/trim/bench?item=leek&of=sliced&kind=trim",
    "/trim/yields/leek/preparation/sliced", "/trim/leftovers", "/trim/practice", "/allergens",
)  # fmt: skip
# What is wider than the page, and is not moved sideways in a place of its own.
_TOO_WIDE = """() => [...document.querySelectorAll('#room *')].filter((one) => {
  const box = one.getBoundingClientRect();
  return box.width && box.right > document.documentElement.clientWidth + 1 && !one.closest('.wide, .overflow-x-auto');
}).map((one) => one.outerHTML.slice(0, 120))"""
# What is pressed, and smaller than a thumb (WCAG 2.5.5: 44 px); links within a sentence are not.
_TOO_SMALL = """() => [...document.querySelectorAll('button, select, input, summary, nav a, a.btn, [data-row-link]')]
  .filter((one) => !one.closest('[aria-hidden]') && one.checkVisibility({opacityProperty: true}) && one.tabIndex >= -1)
  .map((one) => [one.matches('[type=checkbox], [type=radio]') ? one.closest('label') ?? one : one, one])
  .filter(([box]) => { const {width, height} = box.getBoundingClientRect(); return width && height < 43.5; })
  .map(([, one]) => one.outerHTML.slice(0, 120))"""


class OnPaper(BrowserTest):
    def pages(self, path: str, paper: str) -> list[str]:
        """The text of each page."""
        self.go(path)
        self.page.locator("#room h1").first.wait_for(state="attached")
        self.page.locator("#room table, #room section").first.wait_for()
        return [one.extract_text() for one in PdfReader(io.BytesIO(self.page.pdf(format=paper))).pages]

    def test_each_page_has_the_kitchen_the_day_and_its_number(self) -> None:
        for path, paper, words in (
            ("/", "A4", "Split pea & bacon"), ("/", "Letter", "over target"), ("/cook/leek-potato", "A4", "Take-away cup"),
            ("/cook/leek-potato", "Letter", "in pot (EP)"), ("/buy", "A4", "Yellow split peas"),
            ("/allergens", "Letter", "Molluscs"),
        ):  # fmt: skip
            with self.subTest(path=path, paper=paper):
                pages = self.pages(path, paper)
                for number, page in enumerate(pages, 1):
                    for one in ("Slipway Canteen", "24 Nov 2026, EUR", f"page {number} of {len(pages)}"):
                        self.assertIn(one, page)
                self.assertIn(words, "".join(pages))
                # Heads of a table stand on each page of it.
                if path == "/buy":
                    self.assertGreater(len(pages), 1)
                    self.assertEqual([page for page in pages if "as bought" not in page], [])

    def test_a_kitchen_called_by_signs_is_no_trouble(self) -> None:
        name = 'Slip"way\\ } Canteen'
        head = self.page.request.get(f"{self.address}/api/kitchen").json()
        body = {
            "name": name,
            "currency": "EUR",
            "settings": head["settings"],
            "was": head["settings"],
            "was_name": head["name"],
        }
        self.page.request.put(f"{self.address}/api/kitchen", data={**body, "was_currency": "EUR"})
        self.assertIn(name, self.pages("/", "A4")[0])

    def test_nothing_is_cut_and_ink_is_kept(self) -> None:
        page = self.page
        page.emulate_media(media="print")
        # The print area of A4 and of Letter between their margins, at 96 dots an inch.
        for width in (703, 725):
            page.set_viewport_size({"width": width, "height": 900})
            for path in some(("/", "/cook/leek-potato", "/buy", "/allergens"), 2):
                self.go(path)
                page.locator("#room table, #room section").first.wait_for()
                self.assertEqual(page.evaluate(_TOO_WIDE), [], path)
        self.go("/cook/leek-potato")
        kept = page.evaluate(
            "() => ['.bar > div', '.lost', '.ink > span', '.spent'].map((one) =>"
            " getComputedStyle(document.querySelector(one)).printColorAdjust)"
        )
        self.assertEqual(kept, ["exact"] * 4)
        expect(page.get_by_text("beside it: 1 each Bread roll")).to_be_visible()
        expect(page.get_by_text("packaging: 1 each Paper soup cup")).to_be_visible()
        self.assertEqual(page.evaluate("() => getComputedStyle(document.querySelector('.figure')).borderBottomWidth"), "0px")
        expect(page.get_by_role("button", name="Save")).to_be_hidden()
        self.go("/")
        expect(page.get_by_role("heading", name="Board")).to_be_visible()
        expect(page.get_by_role("columnheader", name="Look at it")).not_to_contain_text("↓", use_inner_text=True)

    def test_the_night_is_no_ink_on_white(self) -> None:
        self.go("/")
        page = self.page
        page.get_by_role("button", name="Night").click()
        theme = "() => document.documentElement.dataset.theme"
        seen: Any = page.evaluate(
            f"() => {{ window.dispatchEvent(new Event('beforeprint')); const on = ({theme})();"
            f" window.dispatchEvent(new Event('afterprint')); return [on, ({theme})()]; }}"
        )
        self.assertEqual(seen, ["enamel", "night"])


class InTheHand(BrowserTest):
    def room(self, page: Page, path: str) -> None:
        page.goto(f"{self.address}{path}")
        page.locator("#room h1, #room h2").first.wait_for(state="attached")
        page.locator("#room :is(table, section, .sheet):visible").first.wait_for()

    def test_a_phone(self) -> None:
        page = self.new_page(context=self.new_context(390, 844, has_touch=True))
        invoice = dict(demo_lists(DAY))["quayside-invoice-2291.xml"]
        self.store_list(invoice)
        for path in some((*ROOMS, "/buy/lists/1", "/trim/bench", "/nowhere")):
            with self.subTest(path):
                self.room(page, path)
                self.assertEqual(page.evaluate(_TOO_WIDE), [])
                self.assertEqual(page.evaluate(_TOO_SMALL), [])
        self.room(page, "/")
        row = page.locator('tr[data-row="beetroot-beef-shin/bowl"], tr[data-row]').first
        for cell in ("cost", "price", "share"):
            expect(row.locator(f'[data-label="{cell}"]')).to_be_in_viewport()
        expect(page.locator("kbd").first).to_be_hidden()

    def store_list(self, data: bytes) -> None:
        """A list that was read in."""
        self.page.request.post(f"{self.address}/api/price-lists?name=invoice.xml", data=data)

    def test_at_150_percent_on_a_small_screen(self) -> None:
        page = self.new_page(context=self.new_context(854, 534))
        self.store_list(dict(demo_lists(DAY))["quayside-invoice-2291.xml"])
        for path in some((*ROOMS, "/buy/lists/1")):
            with self.subTest(path):
                self.room(page, path)
                self.assertEqual(page.evaluate(_TOO_WIDE), [])

    def test_a_long_name_is_broken_and_the_head_of_the_board_stays(self) -> None:
        recipe = self.page.request.get(f"{self.address}/api/recipes/leek-potato").json()["recipe"]
        name = "Grandmother's slow-cooked Sunday leek, potato and smoked-haddock chowder " + "saffron" * 12
        self.page.request.post(f"{self.address}/api/recipes", data={"recipe": {**recipe, "id": "long", "name": name}})
        self.go("/")
        page = self.page
        expect(page.get_by_role("link", name=f"{name}, Bowl")).to_be_visible()
        self.assertEqual(page.evaluate(_TOO_WIDE), [])
        item = self.page.request.get(f"{self.address}/api/items/leek").json()["item"]
        leeks = {**item, "name": "Leeks, the long white winter kind from the sandy fields behind the sea wall, unwashed"}
        self.page.request.put(f"{self.address}/api/items/leek", data={"item": leeks, "was": item})
        for path in some(("/cook", "/cook/long", "/allergens", "/buy/leek", "/trim", "/trim/leftovers"), 2):
            self.go(path)
            self.assertEqual(page.evaluate(_TOO_WIDE), [], path)
        self.go("/")
        page.mouse.wheel(0, 600)
        expect(page.get_by_role("columnheader", name="Serving")).to_be_in_viewport()
        # Signs have words.
        expect(page.locator("tr[data-row]", has_text="over target").first).to_contain_text("cost moved", use_inner_text=True)
