"""The pot in full, in the browser: steam by lid, salt that warns, a thickener exchanged, liquid by eye, who a soup is for."""

from __future__ import annotations

import re

from playwright.sync_api import Locator, expect

from tests.web.browser import BrowserTest

_NUMBER = re.compile(r"[0-9]+(?:\.[0-9]+)?")


def number(of: Locator) -> float:
    """The first number that stands in something; grams as kilos."""
    text = of.inner_text()
    found = _NUMBER.search(text)
    assert found is not None, text
    return float(found.group()) / (1000 if text[found.end() :].lstrip().startswith("g") else 1)


def told(of: Locator) -> float:
    """The number that a figure's button tells to those who do not see it: what is, beside which may stand what was."""
    label = of.get_by_role("button").first.get_attribute("aria-label") or ""
    found = _NUMBER.search(label.rsplit(": ", 1)[-1])
    assert found is not None, label
    return float(found.group())


class ThePotInFull(BrowserTest):
    def stage(self, name: str) -> Locator:
        return self.page.locator(f'section[data-stage="{name}"]')

    def open(self, recipe: str, *stages: str) -> None:
        self.go(f"/cook/{recipe}")
        for name in stages:
            self.stage(name).locator("details > summary").first.click()

    def costed(self) -> None:
        """Wait until the server has answered what was changed."""
        self.settle(self.page)

    def test_steam_changes_with_the_lid_and_tells_where_it_is_from(self) -> None:
        self.open("ham-leek", "hocks")
        facts, lid = self.stage("hocks").locator("[data-facts]"), self.stage("hocks").get_by_label("lid", exact=True)
        expect(facts).to_contain_text("physics, an estimate")
        rate, batch = facts.get_by_label("steam an hour"), self.page.get_by_test_id("batch-volume")
        ajar, litres = number(rate), told(batch)
        lid.select_option("off")
        self.costed()
        self.assertAlmostEqual(number(rate), 2 * ajar, delta=0.02)
        self.assertLess(told(batch), litres)
        lid.select_option("sealed")
        self.costed()
        self.assertEqual(number(rate), 0)
        # What nobody has said is told for what it is taken.
        lid.select_option("")
        expect(facts).to_contain_text("lid not said: as without one")
        # At the boil its flame sets what goes up.
        self.stage("hocks").get_by_label("heat", exact=True).select_option("boil")
        lid.select_option("ajar")
        self.costed()
        expect(facts).to_contain_text("by the power of its flame")
        # A stated rate is told as one.
        self.stage("hocks").get_by_label("counted as").select_option("kg_per_hour")
        self.stage("hocks").get_by_label("so much").fill("0.5")
        expect(facts).to_contain_text("(stated; its vessel, lid and heat would let")
        self.stage("hocks").get_by_label("counted as").select_option("vessel")
        self.stage("hocks").get_by_label("vessel", exact=True).select_option("sieve")
        expect(self.stage("hocks")).to_contain_text("say how wide the Fine sieve over a pot is")
        for _ in range(9):
            self.page.keyboard.press("Control+z")
        self.costed()
        self.assertAlmostEqual(number(rate), ajar, delta=0.01)

    def test_what_came_out_counts_and_teaches_the_vessel(self) -> None:
        self.open("white-stock", "simmer")
        stage = self.stage("simmer")
        stage.get_by_label("what happens").select_option("evaporate")
        stage.get_by_label("heat", exact=True).select_option("bare_simmer")
        facts = stage.locator("[data-facts]")
        expect(facts).to_contain_text("on the stick in the 60 l kettle")
        reckoned = told(self.page.get_by_test_id("batch-volume"))
        # A kettle of 50 cm: 6.4 cm are 12.57 l.
        stage.get_by_role("textbox", name="came out").fill("6,4 cm")
        expect(facts).to_contain_text("came out 12.57 kg; should come to")
        self.assertAlmostEqual(told(self.page.get_by_test_id("batch-volume")), 12.6, delta=0.01)
        self.assertNotAlmostEqual(reckoned, 12.6, delta=0.05)
        facts.get_by_role("button", name="Keep it for 60 l kettle, lid ajar, bare simmer").click()
        expect(facts).to_contain_text("(as it was weighed here:")
        expect(facts).to_contain_text("(kept for 60 l kettle, lid ajar, bare simmer)")
        # What nobody has said is not kept as said: neither a lid nor a heat is taken for them.
        lid = stage.get_by_label("lid", exact=True)
        lid.select_option("")
        expect(facts).to_contain_text("(say its lid to keep this for the 60 l kettle)")
        expect(facts.get_by_role("button", name="Keep it")).to_have_count(0)
        lid.select_option("ajar")
        # Let go, it goes on by what was learned.
        stage.get_by_role("textbox", name="came out").fill("")
        expect(facts).not_to_contain_text("came out")
        expect(self.page.get_by_test_id("batch-volume")).to_contain_text("12.6")
        self.page.keyboard.press("Control+s")
        expect(self.page.get_by_test_id("saved-state")).to_contain_text("revision 2")
        # What was learned stands with the vessel, and is let go there.
        self.page.get_by_role("button", name="Kitchen").click()
        learned = self.page.get_by_role("dialog").get_by_role("button", name="Let go what it steamed")
        learned.click()
        expect(learned).to_have_count(0)

    def test_the_working_of_steam_leads_to_its_numbers(self) -> None:
        self.open("ham-leek")
        self.stage("hocks").locator("[data-facts]").get_by_label("steam an hour").click()
        panel = self.page.get_by_role("dialog")
        expect(panel).to_contain_text("open surface")
        expect(panel).to_contain_text("physics (ASHRAE")
        self.page.keyboard.press("Escape")
        self.page.get_by_test_id("salt-share").get_by_role("button").click()
        expect(panel).to_contain_text("salt")

    def test_the_salt_warning_comes_and_goes(self) -> None:
        self.open("leek-potato")
        warning, share = self.page.get_by_test_id("salt-warning"), self.page.get_by_test_id("salt-share")
        expect(share).to_contain_text("0.11%")
        expect(self.page.get_by_test_id("salt-to-add")).to_contain_text("70 g")
        expect(warning).to_have_count(0)
        self.page.get_by_label("What could stand for White chicken stock").click()
        ways = self.page.get_by_role("dialog")
        expect(ways).to_contain_text("making it pays while Chicken carcasses cost less than 1.79 a kilo")
        self.assertEqual(self.axe(), [])
        ways.get_by_label("Take Vegetable stock cubes and water", exact=True).click()
        expect(self.page.get_by_role("status")).to_contain_text("stands for White chicken stock")
        self.costed()
        quantity = self.page.get_by_label("Quantity of Vegetable stock cubes")
        quantity.fill("400 g")
        self.costed()
        expect(warning).to_contain_text("it comes with Vegetable stock cubes")
        expect(self.page.get_by_test_id("salt-to-add")).to_have_count(0)
        quantity.fill("60 g")
        self.costed()
        expect(warning).to_have_count(0)
        # Nothing of it is saved, and Undo goes all the way back.
        for _ in range(3):
            self.page.keyboard.press("Control+z")
        expect(self.page.get_by_label("Quantity of White chicken stock").first).to_have_value("6 l")
        expect(share).to_contain_text("0.11%")

    def test_a_thickener_is_exchanged_for_another(self) -> None:
        self.open("haddock-chowder")
        thick, batch = self.page.get_by_test_id("thickness"), self.page.get_by_test_id("batch-volume")
        before, litres = told(thick), told(batch)
        # By keyboard: in its line, Alt+I.
        self.page.get_by_label("Quantity of Plain flour").focus()
        self.page.keyboard.press("Alt+i")
        ways = self.page.get_by_role("dialog")
        expect(ways.get_by_role("heading")).to_contain_text("Another way to the same thickness")
        expect(ways.get_by_role("row", name=re.compile("Cornflour"))).to_contain_text("75 g")
        expect(ways.get_by_role("row", name=re.compile("Cornflour"))).to_contain_text("thins when it is kept hot")
        ways.get_by_label("Take Cornflour", exact=True).click()
        self.costed()
        self.assertEqual((told(thick), told(batch)), (before, litres))
        expect(self.page.get_by_label("Quantity of Cornflour")).to_have_value("75 g")
        self.page.keyboard.press("Control+s")
        expect(self.page.get_by_role("status")).to_contain_text("Saved")

    def test_liquid_to_cover_is_reckoned_typed_and_corrected(self) -> None:
        self.open("ham-leek")
        line = self.page.get_by_label("Quantity of Water, mains").first
        expect(line).to_have_value("6.5 l")
        splash = self.page.locator('[data-splash="cover"]')
        expect(splash).to_contain_text("about 6.7 l (4.7 l to 9.4 l)")
        cost = self.page.get_by_test_id("cost-bowl")
        before = told(cost)
        splash.get_by_role("button", name="7.15 l").click()
        self.costed()
        expect(line).to_have_value("7.15 l")
        self.assertLess(told(cost), before)
        splash.get_by_role("button", name="6.7 l").click()
        expect(line).to_have_value("6.7 l")
        # Taken out and typed again, as a cook says it.
        line.focus()
        self.page.keyboard.press("Alt+Delete")
        typed = self.page.get_by_label("Type a line for Simmer the hocks")
        typed.fill("water to cover")
        typed.press("Enter")
        expect(self.page.get_by_label("Quantity of Water, mains").first).to_have_value("6.7 l")
        expect(self.stage("hocks")).to_contain_text("to cover, by eye")
        expect(self.stage("hocks").get_by_text("rough")).to_have_count(1)
        typed.fill("water to thin")
        typed.press("Enter")
        expect(self.stage("hocks").get_by_role("alert")).to_contain_text("say how much to begin with")
        self.assertEqual(self.axe(), [])

    def test_a_split_pot_says_where_it_goes_and_a_way_becomes_a_pot_of_its_own(self) -> None:
        self.open("ham-leek")
        goes = self.stage("pot").get_by_label("Where it goes")
        expect(goes).to_contain_text("50% to Purée half of it")
        expect(goes).to_contain_text("50% to Back together")
        expect(self.stage("hocks")).to_contain_text("hock bones, rind and fat for waste")
        self.page.get_by_label("What could stand for Potatoes, floury").click()
        ways = self.page.get_by_role("dialog")
        ways.get_by_label("A new pot with Cornflour", exact=True).click()
        self.page.wait_for_url("**/cook/smoked-ham-leek-with-cornflour")
        expect(self.page.get_by_label("Quantity of Cornflour")).to_have_value("175 g")
        expect(self.page.get_by_label("set price")).to_have_value("")
        self.go("/cook/ham-leek")
        expect(self.page.get_by_label("Quantity of Potatoes, floury")).to_have_value("3.5 kg")

    def test_standing_hot_and_what_only_some_take(self) -> None:
        self.open("ham-leek")
        hold = self.page.get_by_test_id("hold")
        expect(hold).to_contain_text("Top it up with hot water")
        lost = number(hold)
        card = self.page.locator('[data-serving="bowl"]')
        card.locator("summary").click()
        card.get_by_label("stands hot, hours").fill("6")
        self.costed()
        self.assertAlmostEqual(number(hold), 2 * lost, delta=0.03)
        expect(card).to_contain_text("if all take everything")
        card.get_by_label("Share of the guests that take Bread roll").fill("1")
        expect(card).not_to_contain_text("if all take everything")

    def test_what_holds_nothing_yet_is_filled_from_the_shelf(self) -> None:
        request = self.page.request
        body = {"item": {"id": "nutmeg", "name": "Nutmeg", "kind": "spice"}}
        self.assertEqual(request.post(f"{self.address}/api/items", data=body).status, 201)
        self.open("leek-potato")
        typed = self.page.get_by_label("Type a line for Sweat")
        typed.fill("5 g nutmeg")
        typed.press("Enter")
        lacks = self.page.get_by_test_id("lacks")
        expect(lacks).to_contain_text("Nutmeg")
        lacks.get_by_role("button", name="Fill from the shelf").click()
        expect(self.page.get_by_role("status")).to_contain_text("Filled: Nutmeg")
        expect(lacks).to_have_count(0)
        self.page.get_by_role("status").get_by_role("button", name="Undo").click()
        expect(lacks).to_contain_text("Nutmeg")
        # What the shelf does not know it does not offer to fill.
        body = {"item": {"id": "slipway-blend", "name": "Slipway blend", "kind": "spice"}}
        self.assertEqual(request.post(f"{self.address}/api/items", data=body).status, 201)
        self.open("tomato-bean")
        typed = self.page.get_by_label("Type a line for").first
        typed.fill("300 g slipway blend")
        typed.press("Enter")
        expect(lacks).to_contain_text("Slipway blend")
        expect(lacks.get_by_role("button", name="Fill from the shelf")).to_have_count(0)

    def test_who_a_soup_is_for_on_one_sheet_with_its_allergens(self) -> None:
        self.go("/allergens")
        row = self.page.locator('[data-fed="tomato-bean"]')
        expect(row).to_contain_text("vegan: fits")
        expect(self.page.locator('[data-fed="ham-leek"]')).to_contain_text("without pork: does not fit Smoked ham hocks")
        expect(self.page.locator('[data-fed="curried-parsnip"]')).to_contain_text("vegetarian: not known")
        expect(self.page.get_by_text("Diets are an aid too, no clearance")).to_be_visible()
        self.assertEqual(self.axe(), [])

    def test_a_vessel_is_measured_in_the_kitchen_and_steams_in_the_pot(self) -> None:
        self.go("/cook/ham-leek")
        page = self.page
        rate = self.stage("hocks").locator("[data-facts]").get_by_label("steam an hour")
        before = number(rate)
        page.get_by_role("link", name="Kitchen").or_(page.get_by_role("button", name="Kitchen")).first.click()
        dialog = page.get_by_role("dialog")
        dialog.get_by_label("cm across, 60 l kettle").fill("100")
        dialog.get_by_label("kW, 60 l kettle").fill("60")
        dialog.get_by_role("button", name="Save").click()
        expect(dialog).to_have_count(0)
        self.costed()
        self.assertAlmostEqual(number(rate), 4 * before, delta=0.05)
        page.get_by_role("link", name="Kitchen").or_(page.get_by_role("button", name="Kitchen")).first.click()
        dialog.get_by_label("heated by, 60 l kettle").select_option("")
        dialog.get_by_role("button", name="Save").click()
        expect(dialog.get_by_role("alert")).to_contain_text("what heats the vessel")
        # What was typed stands there still.
        expect(dialog.get_by_label("kW, 60 l kettle")).to_have_value("60")
