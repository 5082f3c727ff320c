"""Every screen on a desk and on a tablet: nothing is cut off, nothing has to be moved sideways."""

from __future__ import annotations

from playwright.sync_api import expect

from tests.web.browser import BrowserTest

SCREENS = (
    "/", "/allergens", "/cook", "/cook/beetroot-shin", "/cook/minestrone", "/buy", "/buy/leek", "/buy/basil", "/buy/lists",
    "/buy/compare?unit=l&form=stock-carton&form=stock-cube&form=recipe/white-stock", "/trim",
    "/trim/yields/leek/preparation/sliced", "/trim/yields/beef-shin/preparation/trimmed", "/trim/leftovers",
    "/trim/practice", "/trim/bench?item=leek&of=sliced&kind=trim",
)  # fmt: skip


class Sizes(BrowserTest):
    def test_every_screen_fits(self) -> None:
        for width, height in ((1024, 768), (1280, 800)):
            self.page.set_viewport_size({"width": width, "height": height})
            for path in SCREENS:
                self.page.goto(f"{self.address}{path}")
                expect(self.page.get_by_role("heading", level=1)).to_be_attached()
                self.page.wait_for_timeout(300)
                self.assertEqual(self.spilled(), [], f"{path} at {width}")
