"""Comparisons that the kitchen keeps: by keyboard, over a reload, with a second person."""

from __future__ import annotations

from playwright.sync_api import Route, expect

from tests.web.browser import BrowserTest


class Kept(BrowserTest):
    def test_kept_changed_let_go_and_brought_back(self) -> None:
        page = self.page
        self.go("/buy/compare")
        row = page.get_by_role("row", name="Squash in cubes")
        expect(row).to_contain_text("1.49 Butternut squash, peeled, seeded, cubed")
        expect(row).to_contain_text("3.40 Squash cubes, ready cut")
        for typed in ("carrots", "parsnips"):
            page.keyboard.press("n")
            page.get_by_role("combobox", name="Another form").fill(typed)
            expect(page.get_by_role("listbox").get_by_role("option").first).to_contain_text(typed.capitalize())
            page.keyboard.press("Enter")
            expect(page.locator("tr[data-form]").filter(has_text=typed.capitalize())).to_be_visible()
        page.get_by_label("keep it as").fill("Roots for the hotpot")
        page.keyboard.press("Control+s")
        expect(page.get_by_role("status")).to_contain_text("Kept: Roots for the hotpot")
        page.reload()
        expect(page.get_by_label("kept as")).to_have_value("Roots for the hotpot")
        keep = page.get_by_role("button", name="Keep")
        expect(keep).to_be_disabled()
        page.get_by_role("button", name="Leave out Parsnips").press("Enter")
        expect(keep).to_be_enabled()
        page.keyboard.press("Control+s")
        expect(keep).to_be_disabled()
        page.get_by_role("link", name="All comparisons").press("Enter")
        mine = page.get_by_role("row", name="Roots for the hotpot")
        expect(mine).to_contain_text("Carrots")
        self.assertEqual(self.axe(), [])
        page.get_by_role("button", name="Let Roots for the hotpot go").press("Enter")
        expect(mine).to_have_count(0)
        page.get_by_role("button", name="Undo").press("Enter")
        expect(mine).to_be_visible()

    def test_who_has_left_is_not_called_back_when_it_is_kept(self) -> None:
        page = self.page
        held: list[Route] = []
        page.route(
            "**/api/comparisons", lambda route: held.append(route) if route.request.method == "PUT" else route.continue_()
        )
        self.go("/buy/compare?unit=kg&form=carrot:peeled")
        page.get_by_label("keep it as").fill("Carrots")
        page.keyboard.press("Enter")
        page.get_by_role("link", name="All comparisons").click()
        expect(page.get_by_role("row", name="Squash in cubes")).to_be_visible()
        held[0].continue_()
        expect(page.get_by_role("status")).to_contain_text("Kept: Carrots")
        expect(page.get_by_role("row", name="Carrots")).to_be_visible()
        self.assertTrue(page.url.endswith("/buy/compare"), page.url)

    def test_a_second_person_is_not_written_over(self) -> None:
        self.go("/buy/compare")
        theirs = self.new_page("/buy/compare")
        for page, name in ((self.page, "Squash"), (theirs, "Pumpkin")):
            page.get_by_role("link", name="Squash in cubes").click()
            page.get_by_label("kept as").fill(name)
        theirs.get_by_role("button", name="Keep").click()
        expect(theirs.get_by_role("status")).to_contain_text("Kept: Pumpkin")
        self.page.get_by_role("button", name="Keep").click()
        expect(self.page.get_by_role("alert")).to_contain_text("changed by somebody else in the meantime")
        expect(self.page.get_by_label("kept as")).to_have_value("Squash")
