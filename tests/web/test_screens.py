"""Every screen on a desk and on a tablet, by day and by night: nothing is cut off, and everybody can use it.

`./run test` looks at some of them, drawn anew with each front end that is built; `./run torture` at all.
"""

from __future__ import annotations

from playwright.sync_api import expect

from tests.web.browser import BrowserTest, some

SCREENS = (
    "/", "/allergens", "/cook", "/cook/beetroot-shin", "/cook/minestrone", "/buy", "/buy/leek", "/buy/basil",
    "/buy/lists", "/buy/compare?unit=l&form=stock-carton&form=stock-cube&form=recipe/white-stock", "/trim",
    "/trim/yields/leek/preparation/sliced", "/trim/yields/beef-shin/preparation/trimmed", "/trim/leftovers",
    "/trim/practice", "/trim/bench?item=leek&of=sliced&kind=trim", "/price", "/price/leek-potato/bowl?channel=delivery",
    "/price/history", "/price/deals", "/price/ways", "/nowhere",
)  # fmt: skip


class Screens(BrowserTest):
    def test_every_screen_fits_and_can_be_used_by_everybody(self) -> None:
        page = self.page
        for path in some(SCREENS):
            page.set_viewport_size({"width": 1280, "height": 800})
            page.goto(f"{self.address}{path}")
            expect(page.get_by_role("heading", level=1)).to_be_attached()
            page.wait_for_timeout(400)
            with self.subTest(path):
                self.assertEqual(self.spilled(), [], "at 1280")
                self.assertEqual(self.axe(), [])
                # At night only the colours are others.
                page.evaluate("document.documentElement.dataset.theme = 'night'")
                self.assertEqual(self.axe("color-contrast"), [], "at night")
                page.set_viewport_size({"width": 1024, "height": 768})
                self.assertEqual(self.spilled(), [], "at 1024")
