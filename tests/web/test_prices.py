"""The room Price in the browser: a round by keyboard, schools, channels, a price from next week, deals, papers, two hands."""

from __future__ import annotations

import re
from datetime import timedelta
from typing import ClassVar

from playwright.sync_api import Locator, expect

from potrel.core.kitchen.kitchen import Kitchen
from potrel.store.kitchens import NEW_KITCHEN
from tests.kitchens import DAY
from tests.web.browser import BrowserTest

_SHIN = "Beetroot & beef shin, Bowl, here"


class Round(BrowserTest):
    def row(self, label: str) -> Locator:
        return self.page.get_by_role("row").filter(has=self.page.get_by_role("link", name=label, exact=True))

    def test_by_keyboard_set_undone_and_told(self) -> None:
        page = self.page
        self.go("/price")
        house = page.get_by_test_id("house")
        expect(house).to_contain_text("at the sales of the last four weeks" if self.sales() else "on average")
        page.keyboard.press("ArrowDown")
        expect(page.get_by_role("link", name=_SHIN, exact=True)).to_be_focused()
        # Accept the first, skip the second, type the third: the working of a row is a key away.
        page.keyboard.press("a")
        expect(page.get_by_label(f"New price of {_SHIN}")).to_have_value("10.30")
        page.keyboard.press("s")
        page.get_by_label("New price of Courgette & dill, Bowl, here").fill("2.50")
        expect(self.row(_SHIN)).to_contain_text("30%")
        expect(house).to_contain_text(re.compile(r"share 2\d\.\d% → 2\d\.\d%"))
        page.get_by_label("why").fill("autumn round")
        # A reload loses nothing of it.
        page.reload()
        self.settle(page)
        expect(page.get_by_label(f"New price of {_SHIN}")).to_have_value("10.30")
        expect(page.get_by_label("why")).to_have_value("autumn round")
        page.keyboard.press("Alt+Enter")
        expect(page.get_by_role("status")).to_contain_text("2 prices set today")
        expect(page.get_by_role("link", name=_SHIN, exact=True)).to_have_count(0)
        page.get_by_role("button", name="Undo").click()
        expect(self.row(_SHIN)).to_contain_text("8.50")
        expect(page.get_by_label(f"New price of {_SHIN}")).to_have_value("10.30")
        page.get_by_role("button", name="Set 2 prices").click()
        expect(page.get_by_role("status")).to_contain_text("2 prices set today")
        page.get_by_role("link", name="History").click()
        expect(page.get_by_role("heading", level=1)).to_have_text("Prices as they were set")
        rounds = page.get_by_role("region")
        expect(rounds.first).to_contain_text("autumn round")
        expect(rounds.first).to_contain_text("8.50")
        expect(rounds.nth(1)).to_contain_text("taken back by the kitchen")
        rounds.first.get_by_role("button", name="Take back").click()
        expect(rounds.first).to_contain_text("taken back by the kitchen")
        self.assertEqual(self.axe(), [])

    def sales(self) -> bool:
        return False

    def test_what_was_sold_is_noted_and_counts(self) -> None:
        page = self.page
        self.go("/price")
        page.get_by_role("button", name="Note what was sold").click()
        field = page.get_by_label("Portions sold of Beetroot & beef shin, Bowl, here")
        field.fill("50")
        field.press("Enter")
        expect(page.get_by_test_id("house")).to_contain_text(re.compile(r"a week leaves 24\d\.\d\d"))
        field = page.get_by_label("Portions sold of Beetroot & beef shin, Cup, here")
        field.fill("many")
        field.press("Enter")
        expect(page.get_by_role("status")).to_contain_text("plain number")
        page.get_by_label(f"New price of {_SHIN}").fill("9.60")
        # 1.10 more is 1.00 net, 50 times.
        expect(page.get_by_test_id("house")).to_contain_text(re.compile(r"24\d\.\d\d → 29\d\.\d\d"))
        expect(page.get_by_test_id("house")).to_contain_text("of which nobody noted any")

    def test_from_a_day_that_is_past_nothing_is_set(self) -> None:
        page = self.page
        self.go("/price")
        page.get_by_label(f"New price of {_SHIN}").fill("9.60")
        page.get_by_label("they hold from").fill("1 Nov 2026")
        page.get_by_role("button", name="Set 1 price").click()
        expect(page.get_by_role("alert")).to_contain_text("Choose today or a later day")
        expect(page.get_by_label(f"New price of {_SHIN}")).to_have_value("9.60")
        page.get_by_label(f"New price of {_SHIN}").fill("a lot")
        expect(page.get_by_role("alert")).to_contain_text("plain number")

    def test_two_hands_at_once(self) -> None:
        other = self.new_page("/price/beetroot-shin/bowl", self.new_context())
        self.go("/price")
        self.page.get_by_label(f"New price of {_SHIN}").fill("9.60")
        other.get_by_label("A price to try").fill("9.90")
        other.get_by_role("button", name="Set 9.90").click()
        expect(other.get_by_role("status")).to_contain_text("Set: 9.90")
        self.page.get_by_role("button", name="Set 1 price").click()
        expect(self.page.get_by_role("alert")).to_contain_text("was changed by somebody else")
        expect(self.page.get_by_label(f"New price of {_SHIN}")).to_have_value("9.60")


class Serving(BrowserTest):
    def school(self, name: str) -> Locator:
        return self.page.locator(f'tr[data-school="{name}"]')

    def test_schools_and_channels(self) -> None:
        page = self.page
        self.go("/cook/leek-potato")
        page.get_by_role("link", name="schools, channels, break-even").first.click()
        expect(page.get_by_role("heading", level=1)).to_contain_text("Leek & potato, Bowl")
        expect(self.school("in_force")).to_contain_text("3.80")
        expect(page.get_by_role("main")).to_contain_text("From 1 Dec it costs 4.00")
        page.get_by_role("button", name="Delivery").click()
        expect(page.get_by_role("main")).to_contain_text("commission 28.0% of the gross price")
        expect(self.school("food_cost_share")).to_contain_text("6.50")
        # A price is tried beside the others, as people type it, and its working opened.
        page.get_by_label("A price to try").fill("a lot")
        expect(page.get_by_role("alert")).to_contain_text("plain number")
        expect(page.get_by_role("button", name="Set …")).to_be_disabled()
        page.get_by_label("A price to try").fill("7,20")
        tried = self.school("at-7.20")
        expect(tried).to_contain_text("26.2%")
        tried.get_by_role("button", name=re.compile("price on the card|contribution, typed")).last.click()
        expect(page.get_by_test_id("working-value")).to_be_visible()
        page.keyboard.press("Escape")
        # Sold no longer so, and so again.
        page.get_by_role("button", name="Sell it so no longer").click()
        expect(page.get_by_role("main")).to_contain_text("It is not sold so yet")
        page.get_by_role("button", name="Sell it so", exact=True).click()
        expect(page.get_by_role("button", name="Sell it so no longer")).to_be_visible()

    def test_a_school_is_chosen_and_its_price_set_from_next_week(self) -> None:
        page = self.page
        self.go("/price/mushroom/bowl")
        page.get_by_role("radio", name="factor decides").click()
        expect(page.get_by_role("radio", name="factor decides")).to_be_checked()
        expect(page.get_by_role("region", name="Schools side by side")).to_contain_text("what it forgets is the same")
        later = DAY + timedelta(days=6)
        page.get_by_label("from", exact=True).fill(later.isoformat())
        page.get_by_label("why").fill("winter card")
        page.get_by_label("A price to try").fill("5.60")
        page.get_by_role("button", name="Set 5.60").click()
        expect(page.get_by_role("status")).to_contain_text("Set: 5.60 from 30 Nov")
        expect(page.get_by_role("main")).to_contain_text("From 30 Nov it costs 5.60")
        expect(page.get_by_role("region", name="Earlier prices")).to_contain_text("winter card")
        self.go("/")
        expect(page.locator('tr[data-row="mushroom/bowl"]')).to_contain_text("5.60 from 30 Nov")
        self.server.today = later
        self.go("/")
        row = page.locator('tr[data-row="mushroom/bowl"]')
        expect(row).to_contain_text("5.60")
        expect(row).not_to_contain_text("from 30 Nov")

    def test_from_soup_to_meal(self) -> None:
        page = self.page
        self.go("/cook/leek-potato")
        page.get_by_text("garnish, packaging").first.click()
        add = page.get_by_label("add-on of Bowl")
        add.fill("25 g smoked streaky bacon")
        add.press("Enter")
        page.get_by_label("Surcharge for Smoked streaky bacon").fill("1.20")
        page.get_by_label("Share of the guests that take Smoked streaky bacon for a surcharge").fill("0.2")
        page.keyboard.press("Control+s")
        expect(page.get_by_test_id("saved-state")).to_contain_text("revision 2, saved")
        self.go("/price/leek-potato/bowl")
        ladder = page.get_by_role("region", name="From soup to meal")
        row = ladder.get_by_role("row").filter(has_text="Smoked streaky bacon")
        expect(row).to_contain_text("1.20")
        expect(row).to_contain_text("20%")
        expect(ladder).to_contain_text("pays best")
        expect(ladder.get_by_role("row").filter(has_text="costs more than it brings")).to_have_count(1)
        even = page.get_by_role("region", name="When it pays")
        expect(even).to_contain_text("a week that costs 1450.00")
        even.get_by_label("Portions a day").fill("100")
        expect(even).to_contain_text("100: 4.40")
        curve = page.get_by_role("slider", name=re.compile("Values of: From"))
        curve.focus()
        page.keyboard.press("ArrowRight")
        expect(page.get_by_test_id("chart-value")).to_contain_text("leaves")

    def test_of_an_incomplete_pot_no_price_is_told(self) -> None:
        self.go("/price/minestrone/bowl")
        expect(self.page.get_by_role("note")).to_contain_text("No price can be told")
        self.page.get_by_role("link", name="Mend it in the pot").click()
        expect(self.page).to_have_url(re.compile("/cook/minestrone"))


class Ways(BrowserTest):
    def test_channels_and_terms(self) -> None:
        page = self.page
        self.go("/price/ways")
        page.get_by_role("button", name="Another channel").click()
        fair = page.get_by_role("group", name="Channel New channel")
        fair.get_by_label("Name of the channel").fill("Regatta")
        fair = page.get_by_role("group", name="Channel Regatta")
        fair.get_by_label("commission", exact=True).fill("0.15")
        page.keyboard.press("Control+s")
        expect(page.get_by_role("alert")).to_contain_text('Say "net" or "gross"')
        fair.get_by_label("of the", exact=True).select_option("gross")
        packs = fair.get_by_label("packaging of Regatta")
        packs.fill("1 wooden spoon")
        packs.press("Enter")
        expect(fair.get_by_label("Quantity of Wooden spoon")).to_be_visible()
        page.get_by_label("factor: times").fill("3.6")
        page.get_by_label("overhead", exact=True).select_option("per_portion")
        page.get_by_label("How much overhead").fill("0.40")
        page.get_by_role("button", name="Save").click()
        expect(page.get_by_role("status")).to_contain_text("Saved")
        self.go("/price/leek-potato/bowl?channel=channel")
        expect(page.get_by_role("main")).to_contain_text("commission 15.0% of the gross price")
        expect(page.locator('tr[data-school="factor"]')).to_contain_text("3.6")
        # One that something is sold by stays.
        self.go("/price/ways")
        page.get_by_role("button", name="Remove channel Staff").click()
        page.get_by_role("button", name="Save").click()
        expect(page.get_by_role("alert")).to_contain_text("is still sold by Staff")

    def test_two_hands_at_the_terms(self) -> None:
        other = self.new_page("/price/ways", self.new_context())
        self.go("/price/ways")
        self.page.get_by_label("factor: times").fill("3.9")
        other.get_by_label("open days a week").fill("6")
        other.get_by_role("button", name="Save").click()
        expect(other.get_by_role("status")).to_contain_text("Saved")
        # Neither somebody else's save nor a reload takes what was typed here.
        self.page.reload()
        self.settle(self.page)
        expect(self.page.get_by_label("factor: times")).to_have_value("3.9")
        expect(self.page.get_by_role("alert")).to_contain_text("What you typed is kept here")
        self.page.get_by_role("button", name="Save").click()
        expect(self.page.get_by_role("alert").filter(has_text="in the meantime")).to_have_count(2)
        self.page.get_by_role("button", name="Take theirs instead").click()
        expect(self.page.get_by_label("open days a week")).to_have_value("6")
        expect(self.page.get_by_label("factor: times")).to_have_value("3.4")

    def test_a_deal_is_made_shared_out_and_undone(self) -> None:
        page = self.page
        self.go("/price/deals")
        lunch = page.get_by_role("region", name="Deal Boatyard lunch")
        expect(lunch).to_contain_text("The guest saves 0.80")
        page.get_by_label("Price of Boatyard lunch").fill("7.60")
        expect(lunch).to_contain_text("nobody saves anything by it")
        page.get_by_role("button", name="Another deal").click()
        fresh = page.get_by_role("region", name="Deal New deal")
        expect(page.get_by_role("button", name="Save")).to_be_disabled()
        fresh.get_by_label("add a serving").select_option("mushroom/bowl")
        fresh.get_by_label("add a serving").select_option("lentil-squash/cup")
        expect(fresh).to_contain_text("it has no price yet")
        page.get_by_label("Price of New deal").fill("5.90")
        expect(fresh).to_contain_text("together")
        page.get_by_role("button", name="Save").click()
        expect(page.get_by_role("status")).to_contain_text("Deals saved")
        page.get_by_role("button", name="Undo").click()
        expect(page.get_by_role("region", name="Deal New deal")).to_have_count(0)
        expect(page.get_by_label("Price of Boatyard lunch")).to_have_value("6.80")

    def test_papers(self) -> None:
        page = self.page
        self.go("/price/papers")
        page.get_by_label("prices", exact=True).select_option("away")
        page.get_by_label("with marks of allergens").check()
        link = page.get_by_role("region", name="price list").get_by_role("link", name="Open to print")
        with page.expect_popup() as opened:
            link.click()
        expect(opened.value.locator("body")).to_contain_text("A deposit of 2.00")
        expect(opened.value.locator("body")).to_contain_text("An aid, not clearance")
        pdf = page.get_by_role("region", name="card", exact=True).get_by_role("link", name="PDF")
        self.assertIn("/api/papers/card.pdf?size=a4&channel=away&allergens=true", pdf.get_attribute("href") or "")


class Empty(BrowserTest):
    kitchen: ClassVar[Kitchen | None] = NEW_KITCHEN

    def test_every_page_says_what_comes_first(self) -> None:
        for path, words in (
            ("/price", "Nothing is sold yet"), ("/price/history", "Nobody has set a price"), ("/price/deals", "one price"),
            ("/price/ways", "Taken away, delivered"), ("/price/papers", "Price list"),
        ):  # fmt: skip
            self.go(path)
            expect(self.page.get_by_role("main")).to_contain_text(words)
        self.page.goto(f"{self.address}/price/no/such")
        expect(self.page.get_by_role("main")).to_contain_text("this kitchen has no recipe")


class OnAPhone(BrowserTest):
    def test_a_round_on_a_phone(self) -> None:
        self.page.set_viewport_size({"width": 390, "height": 844})
        self.go("/price")
        self.assertEqual(self.spilled(), [])
        self.page.get_by_label(f"New price of {_SHIN}").fill("9.60")
        expect(self.page.get_by_role("button", name="Set 1 price")).to_be_enabled()
        for path in ("/price/leek-potato/bowl", "/price/deals", "/price/ways"):
            self.go(path)
            self.assertEqual(self.spilled(), [], path)
