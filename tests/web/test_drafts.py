"""Nothing that is typed in a pot is lost: by a reload, a closed tab, another's save, another tab or a lost connection."""

from __future__ import annotations

from playwright.sync_api import Page, expect

from potrel.store.recipes import load_recipes
from potrel.store.revisions import revisions_of
from tests.web.browser import BrowserTest


class NothingTypedIsLost(BrowserTest):
    def edit(self, page: Page, quantity: str) -> None:
        page.get_by_label("Quantity of Celeriac").fill(quantity)
        expect(page.get_by_test_id("saved-state")).to_contain_text("not saved")

    def test_by_a_reload(self) -> None:
        self.go("/cook/celeriac-apple")
        self.edit(self.page, "4 kg")
        self.page.reload()
        expect(self.page.get_by_label("Quantity of Celeriac")).to_have_value("4 kg")
        expect(self.page.get_by_test_id("saved-state")).to_contain_text("changed, not saved")
        self.page.get_by_role("button", name="Drop what was kept").click()
        expect(self.page.get_by_label("Quantity of Celeriac")).to_have_value("3.5 kg")

    def test_by_a_reload_in_the_middle_of_a_line_or_a_price(self) -> None:
        self.go("/cook/celeriac-apple")
        self.page.get_by_label("Type a line for Pot").fill("2 kg lee")
        self.page.reload()
        expect(self.page.get_by_label("Type a line for Pot")).to_have_value("2 kg lee")
        self.go("/buy/leek")
        self.page.get_by_label("New price").last.fill("12.3")
        self.page.reload()
        expect(self.page.get_by_label("New price").last).to_have_value("12.3")

    def test_by_a_pot_that_is_taken_off_meanwhile(self) -> None:
        self.go("/cook/celeriac-apple")
        self.page.get_by_label("Quantity of Celeriac").fill("7 kg")
        expect(self.page.get_by_text("1 pot not saved")).to_be_visible()
        theirs = self.new_page("/cook/celeriac-apple", self.new_context())
        theirs.get_by_role("button", name="Take off").click()
        expect(theirs.get_by_role("heading", name="Recipes")).to_be_visible()
        self.go("/cook")
        self.page.get_by_role("link", name="1 pot not saved").click()
        self.page.get_by_role("button", name="Put it on again with my changes").click()
        expect(self.page.get_by_label("Quantity of Celeriac")).to_have_value("7 kg")
        expect(self.page.get_by_text("not saved")).to_have_count(0)

    def test_by_closing_and_coming_back(self) -> None:
        self.go("/cook/celeriac-apple")
        self.edit(self.page, "4 kg")
        self.page.keyboard.press("Control+s")
        expect(self.page.get_by_test_id("saved-state")).to_contain_text("revision 2, saved")
        self.page.close()
        self.page = self.new_page("/cook/celeriac-apple")
        expect(self.page.get_by_label("Quantity of Celeriac")).to_have_value("4 kg")

    def test_by_another_persons_save(self) -> None:
        self.go("/cook/celeriac-apple")
        theirs = self.new_page("/cook/celeriac-apple", self.new_context())
        self.edit(theirs, "5 kg")
        self.edit(self.page, "4 kg")
        theirs.keyboard.press("Control+s")
        expect(theirs.get_by_test_id("saved-state")).to_contain_text("revision 2, saved")
        self.page.keyboard.press("Control+s")
        conflict = self.page.get_by_test_id("conflict")
        expect(conflict).to_contain_text("has been saved by the kitchen in the meantime (revision 2)")
        expect(conflict).to_contain_text("≠ roast: 4 kg EP celeriac peeled")
        expect(conflict).to_contain_text("≠ roast: 5 kg EP celeriac peeled")
        expect(self.page.get_by_label("Quantity of Celeriac")).to_have_value("4 kg")
        with self.store.reading() as connection:
            soup = next(one for one in load_recipes(connection) if one.id == "celeriac-apple")
        self.assertEqual(soup.stages[0].lines[0].quantity.text, "5 kg")
        conflict.get_by_role("button", name="Take theirs").click()
        expect(self.page.get_by_label("Quantity of Celeriac")).to_have_value("5 kg")
        self.page.keyboard.press("Control+z")
        expect(self.page.get_by_label("Quantity of Celeriac")).to_have_value("4 kg")
        self.page.keyboard.press("Control+s")
        expect(self.page.get_by_test_id("saved-state")).to_contain_text("revision 3, saved")
        with self.store.reading() as connection:
            history = revisions_of(connection, "celeriac-apple")
        quantities = [one.recipe.stages[0].lines[0].quantity for one in history if one.recipe]
        self.assertEqual([one.text for one in quantities], ["4 kg", "5 kg", "3.5 kg"])
        theirs.context.close()

    def test_two_hands_on_different_lines_keep_both(self) -> None:
        self.go("/cook/celeriac-apple")
        theirs = self.new_page("/cook/celeriac-apple", self.new_context())
        self.edit(self.page, "4 kg")
        theirs.get_by_label("Quantity of Cooking apples").fill("2 kg")
        theirs.keyboard.press("Control+s")
        expect(theirs.get_by_test_id("saved-state")).to_contain_text("revision 2, saved")
        self.page.keyboard.press("Control+s")
        conflict = self.page.get_by_test_id("conflict")
        expect(conflict).to_contain_text("theirs comes in: Roast: 2 kg apple")
        conflict.get_by_role("button", name="Keep mine with theirs, as revision 3").click()
        expect(self.page.get_by_test_id("saved-state")).to_contain_text("revision 3, saved")
        expect(self.page.get_by_label("Quantity of Celeriac")).to_have_value("4 kg")
        expect(self.page.get_by_label("Quantity of Cooking apples")).to_have_value("2 kg")

    def test_each_tab_keeps_its_own_draft(self) -> None:
        self.go("/cook/celeriac-apple")
        other = self.new_page("/cook/celeriac-apple")
        self.edit(self.page, "4 kg")
        self.edit(other, "5 kg")
        for page, quantity in ((self.page, "4 kg"), (other, "5 kg")):
            page.reload()
            expect(page.get_by_label("Quantity of Celeriac")).to_have_value(quantity)
        expect(other.get_by_role("link", name="1 pot not saved")).to_be_visible()
        other.close()
        # What a tab that is gone has left is offered, and mixed into nothing.
        self.page.reload()
        expect(self.page.get_by_label("Quantity of Celeriac")).to_have_value("4 kg")
        self.page.get_by_role("button", name="Take it over").click()
        expect(self.page.get_by_label("Quantity of Celeriac")).to_have_value("5 kg")
        self.go("/cook")
        expect(self.page.get_by_role("row", name="Roast celeriac & apple").first).to_contain_text("not saved")
        self.page.get_by_role("link", name="1 pot not saved").click()
        expect(self.page.get_by_label("Quantity of Celeriac")).to_have_value("5 kg")

    def test_by_a_lost_connection(self) -> None:
        self.go("/cook/celeriac-apple")
        self.edit(self.page, "4 kg")
        self.context.set_offline(True)
        self.page.keyboard.press("Control+s")
        expect(self.page.get_by_role("alert").first).to_contain_text("What you typed is kept here")
        self.context.set_offline(False)
        self.page.get_by_role("button", name="Try again").click()
        expect(self.page.get_by_test_id("saved-state")).to_contain_text("revision 2, saved")
