"""The rooms by keyboard: from wherever one is to anything, what is open shut by Escape, and the focus never lost."""

from __future__ import annotations

import re

from playwright.sync_api import expect

from potrel.demo import demo_lists
from tests.kitchens import DAY
from tests.web.browser import BrowserTest

_FOCUS = "() => document.activeElement === document.body"


class Hands(BrowserTest):
    def keys(self, *keys: str) -> None:
        for key in keys:
            self.page.keyboard.press(key)

    def assert_held(self) -> None:
        """Somebody has the focus, and it is not the page."""
        self.page.wait_for_timeout(100)
        self.assertFalse(self.page.evaluate(_FOCUS))

    def read_list(self) -> None:
        invoice = dict(demo_lists(DAY))["quayside-invoice-2291.xml"]
        self.page.request.post(f"{self.address}/api/price-lists?name=quayside.xml", data=invoice)

    def test_anything_is_found_from_any_room(self) -> None:
        self.read_list()
        page = self.page
        self.go("/trim/practice")
        found = page.get_by_role("listbox", name="Search everything").get_by_role("option")
        for typed, first, address in (
            ("hot", "Lamb & root hotpot", "/cook/lamb-hotpot"), ("celeriac pe", "Celeriac, peeled, diced", "/trim/yields/"),
            ("smoked haddock fi", "Smoked haddock fillet", "/buy/smoked-haddock"),
            ("quayside.xml", "quayside.xml", "/buy/lists/1"), ("no such room", "", ""),
            ("bench", "Test at the bench", "/trim/bench"),
        ):  # fmt: skip
            self.keys("Alt+g")
            expect(page.get_by_label("Search everything").first).to_be_focused()
            page.keyboard.type(typed)
            if not first:
                expect(page.get_by_text("nothing here is called so")).to_be_visible()
                self.keys("Escape")
                expect(page.get_by_label("Search everything").first).to_have_value("")
                self.assert_held()
                continue
            expect(found.first).to_contain_text(first)
            self.assertEqual(self.axe("aria-required-children", "aria-valid-attr-value", "color-contrast"), [])
            self.keys("Enter")
            page.wait_for_url(f"**{address}**")
            self.assert_held()

    def test_from_a_row_to_its_pack_and_on_with_the_next(self) -> None:
        self.go("/buy")
        page = self.page
        self.keys("ArrowDown", "ArrowDown", "Enter")
        pack = page.get_by_label("Pack", exact=True)
        expect(pack).to_be_focused()
        self.keys("Tab")
        page.keyboard.type("3.40")
        expect(page.get_by_role("button", name="Record")).to_be_enabled()
        self.keys("Enter")
        expect(page.get_by_role("status")).to_contain_text("Recorded: Bay leaves")
        expect(page.get_by_role("link", name="Bay leaves")).to_be_focused()
        self.keys("ArrowDown", "Enter")
        expect(page.get_by_role("heading", name="Beef marrow bones")).to_be_visible()
        expect(pack).to_be_focused()
        # Escape shuts the item from within its fields too, and its row is in hand again.
        self.keys("Escape")
        page.wait_for_url("**/buy")
        expect(page.get_by_role("link", name="Beef marrow bones")).to_be_focused()

    def test_escape_leads_to_saving_what_would_be_gone(self) -> None:
        self.go("/buy/leek")
        page = self.page
        page.locator("summary", has_text="Weights and yields").click()
        page.get_by_label("yields", exact=True).first.fill("0.46")
        save = page.get_by_role("button", name="Save Leeks")
        expect(save).to_be_enabled()
        self.keys("Escape", "Escape")
        expect(save).to_be_focused()
        self.keys("Enter")
        expect(page.get_by_role("status")).to_contain_text("Leeks saved")
        self.keys("Escape")
        page.wait_for_url("**/buy")

    def test_a_list_row_and_what_comes_after_recording(self) -> None:
        self.read_list()
        self.go("/buy/lists/1")
        page = self.page
        self.keys("ArrowDown", "p")
        expect(page.get_by_label(re.compile("^Pack of")).first).to_be_focused()
        self.keys("Escape")
        expect(page.locator("button[data-line]").first).to_be_focused()
        self.keys("Control+Enter")
        expect(page.get_by_role("status")).to_contain_text("prices recorded")
        self.assert_held()

    def test_a_pot_to_its_set_price(self) -> None:
        self.go("/cook/leek-potato")
        page = self.page
        self.keys("Alt+p")
        expect(page.get_by_label("set price").first).to_be_focused()
        page.keyboard.type("4.10")
        self.keys("Alt+p")
        expect(page.get_by_label("set price").nth(1)).to_be_focused()
        expect(page.get_by_label("set price").first).to_have_value("4.10")
        # What was unfolded is folded up by Escape.
        fold = page.locator("summary", has_text="garnish, packaging").first
        fold.press("Enter")
        inside = page.get_by_label(re.compile("^Type a line for garnish of Bowl"))
        inside.focus()
        self.keys("Escape")
        expect(inside).to_be_hidden()
        expect(fold).to_be_focused()

    def lines(self, stage: str) -> list[str]:
        names = self.page.locator(f'section[data-stage="{stage}"] input[data-quantity]')
        return [str(one.get_attribute("aria-label")).removeprefix("Quantity of ") for one in names.all()]

    def stages(self) -> list[str]:
        return [str(one.get_attribute("data-stage")) for one in self.page.locator("section[data-stage]").all()]

    def test_lines_and_stages_are_moved_by_keys(self) -> None:
        self.go("/cook/leek-potato")
        page = self.page
        first, second, *_ = before = self.stages()
        upper, lower = self.lines(first), self.lines(second)
        page.get_by_label(f"Quantity of {upper[-1]}").focus()
        self.keys("Alt+ArrowDown")
        expect(page.locator(f'section[data-stage="{second}"] input[data-quantity]').first).to_be_focused()
        self.assertEqual((self.lines(first), self.lines(second)), (upper[:-1], [upper[-1], *lower]))
        self.keys("Alt+ArrowUp")
        self.assertEqual((self.lines(first), self.lines(second)), (upper, lower))
        self.keys("Alt+Shift+ArrowDown")
        self.assertEqual(self.stages(), [second, first, *before[2:]])
        expect(page.get_by_label(f"Quantity of {upper[-1]}")).to_be_focused()
        self.keys("Alt+Shift+ArrowUp")
        self.assertEqual(self.stages(), before)
        # Taken off, the line below comes into its place.
        page.get_by_label(f"Quantity of {upper[0]}").focus()
        self.keys("Alt+Delete")
        expect(page.get_by_label(f"Quantity of {upper[1]}")).to_be_focused()

    def test_lines_and_stages_are_dragged(self) -> None:
        self.go("/cook/leek-potato")
        page = self.page
        first, second, *rest = self.stages()
        upper, lower = self.lines(first), self.lines(second)
        row = page.locator(f'section[data-stage="{first}"] tr[data-line]').first
        row.hover()
        target = page.locator(f'section[data-stage="{second}"] tr[data-line]').last
        row.locator("[draggable]").drag_to(target, target_position={"x": 60, "y": 4})
        self.assertEqual((self.lines(first), self.lines(second)), (upper[1:], [*lower[:-1], upper[0], lower[-1]]))
        handle = page.locator(f'section[data-stage="{second}"] [draggable]').first
        handle.drag_to(page.locator(f'section[data-stage="{first}"] input').first)
        self.assertEqual(self.stages(), [second, first, *rest])
        self.keys("Control+z", "Control+z")
        self.assertEqual((self.lines(first), self.lines(second), self.stages()), (upper, lower, [first, second, *rest]))


class TheKitchensWay(BrowserTest):
    def test_a_kept_comparison_costs_what_it_does_when_it_is_opened(self) -> None:
        api, page = self.page.request, self.page
        head = api.get(f"{self.address}/api/kitchen").json()
        was = {"was": head["settings"], "was_name": head["name"], "was_currency": head["currency"]}
        body = {"name": head["name"], "currency": "EUR", "settings": {**head["settings"], "shown_units": "us"}, **was}
        api.put(f"{self.address}/api/kitchen", data=body)
        leeks = {"id": "leeks", "name": "Leeks", "forms": ["leek:sliced"], "unit": "kg"}
        api.put(f"{self.address}/api/comparisons", data={"comparison": leeks})
        self.go("/buy/compare?unit=kg&form=leek:sliced")
        cost = page.get_by_role("button", name=re.compile("^cost of Leeks")).inner_text()
        # 9.60 for 5 kg, 44% of it usable, the tops worth 0.30 a kilo: 4.09 a usable kilo, of 2.2046 pounds.
        self.assertEqual(cost, "1.86")
        self.go("/buy/compare")
        kept = page.locator("tr", has=page.get_by_role("link", name="Leeks", exact=True))
        expect(kept).to_contain_text("a usable pound")
        expect(kept).to_contain_text(f"{cost} Leeks")

    def test_a_comma_before_decimals_in_figures_and_in_fields(self) -> None:
        api, page = self.page.request, self.page
        head = api.get(f"{self.address}/api/kitchen").json()
        was = {"was": head["settings"], "was_name": head["name"], "was_currency": head["currency"]}
        way = {"decimal_sign": "comma", "date_style": "year_first"}
        body = {"name": head["name"], "currency": "EUR", "settings": {**head["settings"], **way}, **was}
        self.assertEqual(api.put(f"{self.address}/api/kitchen", data=body).status, 200)
        self.go("/cook/leek-potato")
        expect(page.get_by_text("prices of 11-24, EUR")).to_be_visible()
        price = page.get_by_label("set price").first
        expect(price).to_have_value("3,80")
        price.fill("4,10")
        self.page.keyboard.press("Control+s")
        expect(page.get_by_test_id("saved-state")).to_contain_text("revision 2, saved")
        saved = api.get(f"{self.address}/api/recipes/leek-potato").json()["recipe"]
        self.assertEqual(saved["servings"][0]["price"], "4.10")
        page.reload()
        expect(page.get_by_label("set price").first).to_have_value("4,10")
        # Settings that are only looked at stay what they are.
        page.get_by_role("button", name="Kitchen").click()
        dialog = page.get_by_role("dialog")
        expect(dialog.get_by_label("Target food-cost share")).to_have_value("0,30")
        dialog.get_by_label("Tax rate on sales").fill("0,20")
        dialog.get_by_role("button", name="Save").click()
        expect(dialog).to_be_hidden()
        settings = api.get(f"{self.address}/api/kitchen").json()["settings"]
        self.assertEqual(settings, {**head["settings"], **way, "tax_rate": "0.20"})
        # Days are typed the kitchen's way, or any other that can only mean one.
        self.go("/buy/leek")
        until = page.get_by_label("Until (may be open)")
        for typed, shown in (("12-24", "2026-12-24"), ("24 Dec", "2026-12-24"), ("31 Feb", "31 Feb")):
            until.fill(typed)
            until.press("Tab")
            expect(until).to_have_value(shown)
        expect(until).to_have_attribute("aria-invalid", "true")
