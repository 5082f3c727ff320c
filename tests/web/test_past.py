"""A kitchen with a past, in the browser: many lists, a new version, a full store, a round that is on its way, quick hands."""

from __future__ import annotations

import gzip
import json
import re
import threading

from playwright.sync_api import Route, expect

from potrel.core.buy.price_list import PriceList
from potrel.doing.kitchens import Kitchens
from potrel.store.changes import read_version
from potrel.store.kept_board import keep_board
from potrel.store.price_lists import insert_price_list
from tests.kitchens import DAY
from tests.web.browser import BrowserTest


class Lists(BrowserTest):
    def test_a_recorded_list_is_found_among_many_and_taken_back(self) -> None:
        with self.store.writing("test") as connection:
            old = insert_price_list(connection, "week-07.csv", b"old", PriceList("price_list", ()), "saltmarsh", "test")
            connection.execute(
                "UPDATE price_list SET state = 'recorded', settled_at = now(), settled_by = 'test' WHERE number = %s", [old]
            )
            for n in range(120):
                insert_price_list(connection, f"open-{n}.csv", f"{n}".encode(), PriceList("price_list", ()), None, "test")
        page = self.page
        self.go("/buy/lists")
        rows = page.locator("tr[data-list-number]")
        expect(page.get_by_role("main")).to_contain_text("120 wait to be looked at")
        expect(rows).to_have_count(100)
        expect(page.get_by_role("link", name="week-07.csv")).to_have_count(0)
        page.get_by_role("button", name=re.compile("Show 21 more")).click()
        expect(rows).to_have_count(121)
        page.get_by_label("Find a list by its file, number or supplier").fill("week-07 saltmarsh")
        expect(rows).to_have_count(1)
        page.get_by_label("Which lists").select_option("open")
        expect(page.get_by_role("main")).to_contain_text("No list is found so")
        page.get_by_role("button", name="Show all lists").click()
        page.get_by_label("Which lists").select_option("settled")
        expect(rows).to_have_count(1)
        expect(rows).to_contain_text("recorded on")
        self.assertEqual(self.axe(), [])


class ANewVersion(BrowserTest):
    def test_what_it_reckons_otherwise_is_told_until_somebody_has_seen_it(self) -> None:
        board = json.loads(Kitchens(self.store, lambda: DAY).board())
        for row in board["rows"]:
            if row["recipe"] == "leek-potato":
                row["food_cost"] = "0.900000"
        with self.store.beside() as connection:
            packed = gzip.compress(json.dumps(board).encode())
            keep_board(connection, read_version(connection), DAY, "another build", packed)
        page = self.page
        self.go("/")
        notice = page.get_by_role("region", name="Costs that a new version reckons otherwise")
        expect(notice).to_contain_text("1 pot costs otherwise now")
        expect(notice.get_by_role("row", name=re.compile("Leek & potato, Bowl"))).to_contain_text("0.90")
        self.assertEqual(self.axe(), [])
        notice.get_by_role("button", name="I have seen it").click()
        expect(notice).to_have_count(0)
        self.go("/otherwise")
        expect(page.get_by_role("main")).to_contain_text("seen by the kitchen")
        expect(page.get_by_role("heading", level=2)).to_contain_text(re.compile(r"^[0-9]{1,2} [A-Z][a-z]{2}.*: rules of"))
        self.go("/")
        expect(notice).to_have_count(0)


class AFullStore(BrowserTest):
    def test_the_pot_stays_on_the_screen_and_it_is_said(self) -> None:
        page = self.page
        full = "Storage.prototype.setItem = () => { throw new DOMException('full', 'QuotaExceededError'); };"
        page.add_init_script(full)
        self.go("/cook/leek-potato")
        amount = page.get_by_label("Quantity of Leeks")
        amount.fill("9 kg")
        amount.blur()
        expect(page.get_by_role("alert").filter(has_text="store of this browser is full")).to_be_visible()
        expect(amount).to_have_value("9 kg")
        page.get_by_role("button", name=re.compile("^Save")).first.click()
        expect(page.get_by_test_id("saved-state")).to_contain_text("revision 2, saved")
        with self.store.reading() as connection:
            (row,) = connection.execute("SELECT count(*) FROM recipe_revision WHERE recipe = 'leek-potato'").fetchall()
        self.assertEqual(row[0], 2)


class QuickHands(BrowserTest):
    """Answers that are slow to come, and keys that are pressed meanwhile."""

    def slow(self, path: str, let_go: threading.Event | None = None) -> list[str]:
        """Answer a path slowly; returns what was sent to it, by and by."""
        sent: list[str] = []

        def later(route: Route) -> None:
            sent.append(route.request.post_data or "")
            self.page.wait_for_timeout(700)
            route.continue_()

        self.page.route(re.compile(path), later)
        return sent

    def test_a_round_that_is_on_its_way_is_sent_once_and_takes_nothing_that_is_typed(self) -> None:
        page = self.page
        self.go("/price")
        shin = page.get_by_label(re.compile("^New price of Beetroot & beef shin, Bowl.*here")).first
        shin.fill("10.30")
        sent = self.slow("/api/prices$")
        page.keyboard.press("Alt+Enter")
        page.keyboard.press("Alt+Enter")
        other = page.get_by_label(re.compile("^New price of Haddock|^New price of Smoked haddock")).first
        other.fill("9.10")
        page.keyboard.press("Alt+Enter")
        expect(page.get_by_text("1 price set today")).to_be_visible()
        expect(other).to_have_value("9.10")
        self.assertEqual(len([one for one in sent if one]), 1, sent)
        with self.store.reading() as connection:
            self.assertEqual(connection.execute("SELECT count(*) FROM price_round").fetchone(), (1,))

    def test_ones_own_save_is_never_somebody_elses(self) -> None:
        page = self.page
        self.go("/price/leek-potato/bowl?channel=delivery")
        sent = self.slow("/api/prices/leek-potato/bowl$")
        for _ in range(3):
            page.get_by_role("button", name="Sell it so no longer").click()
            # The key right after it, and the one that follows as soon as there is one.
            page.keyboard.press("Enter")
            page.get_by_role("button", name="Sell it so", exact=True).click()
        expect(page.get_by_role("button", name="Sell it so no longer")).to_be_enabled()
        self.assertEqual(page.get_by_role("alert").count(), 0)
        self.assertGreaterEqual(len([one for one in sent if "sold_in" in one]), 6)
