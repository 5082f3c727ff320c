"""The rooms as people use them: a real server, PostgreSQL and browser."""

from __future__ import annotations

import re
from dataclasses import replace
from itertools import pairwise

from playwright.sync_api import expect

from potrel.bench import generated_kitchen
from potrel.store.recipes import load_recipes
from tests.web.browser import BrowserTest

_BENCH = generated_kitchen()
COMPARED = "/buy/compare?unit=l&form=stock-carton&form=stock-cube&form=recipe/white-stock"


class TheBoard(BrowserTest):
    def test_it_answers_the_first_question(self) -> None:
        self.go("/")
        page = self.page
        expect(page.get_by_text("4 pots need a new price")).to_be_visible()
        first = page.locator("tbody tr").first
        expect(first).to_contain_text("over target")
        haddock = page.locator('tr[data-row="haddock-chowder/bowl"]')
        expect(haddock).to_contain_text("Smoked haddock fillet")
        expect(haddock.get_by_role("img")).to_have_attribute("aria-label", re.compile("against a target of 30%"))
        expect(page.locator('tr[data-row="minestrone/bowl"]')).to_contain_text("incomplete")

    def test_sort_and_filter(self) -> None:
        self.go("/")
        page = self.page
        page.keyboard.press("f")
        page.keyboard.type("parsnip")
        expect(page.locator("tbody tr")).to_have_count(2)
        page.keyboard.press("Escape")
        page.get_by_role("button", name="Cost", exact=True).click()
        costs = [float(text) for text in page.locator("tbody tr td:nth-child(4)").all_inner_texts() if text != "—"]
        self.assertEqual(costs, sorted(costs, reverse=True))
        expect(page.locator("th[aria-sort=descending]")).to_have_text(re.compile("Cost"))
        page.get_by_label("only what needs a look").check()
        expect(page.locator('tr[data-row="lentil-squash/bowl"]')).to_have_count(0)
        page.get_by_label("Find").fill("no such soup")
        page.get_by_role("button", name="Show all").click()
        expect(page.locator('tr[data-row="lentil-squash/bowl"]')).to_be_visible()

    def test_allergens_are_a_sheet_with_its_caution(self) -> None:
        self.go("/")
        page = self.page
        page.get_by_role("link", name="Allergens").click()
        expect(page.get_by_text("An aid, not clearance")).to_be_visible()
        chowder = page.locator('tr[data-allergens="haddock-chowder"]')
        expect(chowder).to_contain_text("contains: Smoked haddock fillet, White fish frames")
        mushroom = page.locator('tr[data-allergens="mushroom"]')
        expect(mushroom).to_contain_text("in what is served or may be had with it: Sourdough loaf")
        # Nobody looked is a question, not a blank; what somebody reads is no question any more.
        leek = page.locator('tr[data-allergens="leek-potato"]')
        expect(leek.get_by_text("not checked").first).to_be_attached()
        to_read = page.get_by_label("Labels to read")
        expect(to_read).to_contain_text("Vegetable stock cubes")
        self.assertEqual(self.axe(), [])
        to_read.get_by_label("read by").fill("Ada")
        to_read.get_by_label("Label of Bread roll is read").check()
        to_read.get_by_role("button", name="These 1 are read").click()
        expect(leek.get_by_text("not checked")).to_have_count(0)
        expect(leek.get_by_text("none, by the labels that were read").first).to_be_attached()
        page.get_by_role("button", name="Undo").click()
        expect(leek.get_by_text("not checked").first).to_be_attached()
        self.go("/buy/roll")
        label = page.get_by_label("Label", exact=True)
        expect(label).to_contain_text("whether that is all, nobody has read")
        label.get_by_role("button", name="Label read: just these").click()
        expect(label).to_contain_text("by Ada")

    def test_the_working_of_a_cost_leads_to_the_delivery(self) -> None:
        self.go("/")
        page = self.page
        page.locator('tr[data-row="beetroot-shin/bowl"]').get_by_role("button", name=re.compile("^cost of")).click()
        dialog = page.get_by_role("dialog")
        expect(dialog).to_contain_text("food cost of the batch / portions + sum of served with it")
        dialog.get_by_role("button", name="food cost of the batch").click()
        dialog.get_by_role("button", name="food cost, before seasoning").click()
        dialog.get_by_role("button", name="Beef shin, boneless").click()
        dialog.get_by_role("button", name="AP price of Beef shin, boneless").click()
        expect(dialog).to_contain_text("price of the pack / kilos in the pack")
        expect(dialog).to_contain_text("offer of Quayside Meat & Fish, 5 kg")
        dialog.get_by_role("button", name="Back").click()
        expect(dialog).to_contain_text("kilos needed * AP price")
        page.keyboard.press("Escape")
        expect(dialog).to_have_count(0)


class ThePotSheet(BrowserTest):
    def test_follow_a_soup_change_a_quantity_see_the_cost_move(self) -> None:
        self.go("/")
        page = self.page
        page.get_by_role("link", name="Roast celeriac & apple, Bowl").click()
        cost = page.get_by_test_id("cost-bowl")
        expect(cost).to_have_text("0.79")
        roast = page.locator('section[data-stage="roast"]')
        expect(roast).to_contain_text("out 3.50 kg")
        expect(roast).to_contain_text("1.35 kg cooked off")
        page.get_by_label("Quantity of Celeriac").fill("7 kg")
        expect(cost).to_contain_text("was 0.79")
        expect(roast).to_contain_text("out 5.95 kg")
        expect(page.get_by_test_id("saved-state")).to_contain_text("changed, not saved")
        page.keyboard.press("Control+z")
        expect(cost).to_have_text("0.79")

    def test_a_refused_quantity_keeps_what_was_typed(self) -> None:
        self.go("/cook/celeriac-apple")
        page = self.page
        field = page.get_by_label("Quantity of Celeriac")
        field.fill("7 k/g")
        expect(page.get_by_role("alert")).to_contain_text("is not a quantity")
        expect(field).to_have_attribute("aria-invalid", "true")
        expect(page.get_by_test_id("cost-bowl")).to_contain_text("0.79")
        field.fill("7 kg")
        expect(page.get_by_role("alert")).to_have_count(0)

    def test_lines_are_added_moved_and_removed(self) -> None:
        self.go("/cook/celeriac-apple")
        page = self.page
        typed = page.get_by_label("Type a line for Pot")
        typed.fill("3 kg leeks ep sliced")
        typed.press("Enter")
        pot = page.locator('section[data-stage="pot"]')
        leek = pot.locator('tr[data-line="leek"]')
        expect(leek).to_contain_text("6.82 kg")
        expect(leek).to_contain_text("3.00 kg")
        expect(typed).to_have_value("")
        leek.get_by_role("textbox").press("Alt+ArrowUp")
        expect(pot.locator("tr[data-line]").first).to_have_attribute("data-line", "leek")
        expect(leek.get_by_role("textbox")).to_be_focused()
        leek.get_by_role("textbox").press("Alt+Delete")
        expect(leek).to_have_count(0)

    def test_an_item_is_picked_by_keyboard(self) -> None:
        self.go("/cook/celeriac-apple")
        page = self.page
        page.locator('tr[data-line="celeriac"]').get_by_role("button", name="Celeriac", exact=True).press("Enter")
        page.keyboard.type("parsn")
        page.keyboard.press("ArrowDown")
        page.keyboard.press("ArrowUp")
        page.keyboard.press("Enter")
        expect(page.locator('tr[data-line="parsnip"]')).to_be_visible()

    def test_the_one_missing_weight_is_asked_for_in_its_place(self) -> None:
        self.go("/cook/minestrone")
        page = self.page
        expect(page.get_by_test_id("batch-volume")).to_contain_text("at least")
        expect(page.get_by_label("Weight of 1 bunch")).to_be_visible()
        page.get_by_role("button", name="60 g USDA").click()
        expect(page.get_by_test_id("cost-bowl")).to_have_text(re.compile(r"^0\.\d\d$"))
        self.go("/")
        expect(page.locator('tr[data-row="minestrone/bowl"]')).not_to_contain_text("incomplete")

    def test_an_unknown_ingredient_is_suggested_or_added(self) -> None:
        self.go("/cook/celeriac-apple")
        page = self.page
        typed = page.get_by_label("Type a line for Pot")
        typed.fill("2 kg leaks")
        typed.press("Enter")
        expect(typed).to_have_value("2 kg leaks")
        page.get_by_role("button", name="Leeks", exact=True).click()
        expect(page.locator('tr[data-line="leek"]')).to_be_visible()
        typed.fill("1 kg samphire")
        typed.press("Enter")
        page.get_by_role("button", name='Add a new item "samphire"').click()
        line = page.locator('tr[data-line="samphire"]')
        expect(line).to_be_visible()
        # What lacks a price is priced where it is met.
        page.get_by_label("Pack of samphire").fill("1 kg")
        page.get_by_label("Price of samphire").fill("18,50")
        page.keyboard.press("Enter")
        expect(line).to_contain_text("18.50")

    def test_an_earlier_version_is_seen_and_brought_back(self) -> None:
        self.go("/cook/leek-potato")
        page = self.page
        page.get_by_label("Quantity of Leeks").fill("9 kg")
        page.keyboard.press("Control+s")
        expect(page.get_by_test_id("saved-state")).to_have_text("revision 2, saved")
        page.get_by_role("button", name="Earlier").click()
        earlier = page.get_by_label("Earlier versions", exact=True)
        earlier.get_by_role("button", name="revision 1,").click()
        expect(earlier).to_contain_text("≠ sweat: 2.5 kg EP leek")
        self.assertEqual(self.axe(), [])
        earlier.get_by_role("button", name="Bring revision 1 back").click()
        expect(page.get_by_label("Quantity of Leeks")).to_have_value("2.5 kg")
        expect(page.get_by_test_id("saved-state")).to_contain_text("changed, not saved")
        page.get_by_role("status").get_by_role("button", name="Undo").click()
        expect(page.get_by_label("Quantity of Leeks")).to_have_value("9 kg")

    def test_a_pot_is_duplicated_taken_off_and_put_on_again(self) -> None:
        self.go("/cook/lentil-squash")
        page = self.page
        page.get_by_role("button", name="Duplicate").click()
        expect(page.get_by_label("Name of the recipe")).to_have_value("Red lentil & squash, another")
        expect(page.get_by_label("set price").first).to_have_value("")
        page.get_by_role("button", name="Take off").click()
        page.wait_for_url("**/cook")
        page.get_by_text("Taken off (1)").click()
        page.get_by_role("button", name="Put Red lentil & squash, another on again").click()
        expect(page.get_by_label("Name of the recipe")).to_have_value("Red lentil & squash, another")

    def test_a_method_is_proposed_and_brings_its_cautions(self) -> None:
        self.go("/cook/leek-potato")
        page = self.page
        page.get_by_role("button", name="+ Another tray or pot").click()
        stage = page.locator("section[data-stage]").last
        stage.get_by_label("Name of stage 5").fill("Fry the bread")
        stage.get_by_role("button", name="Method fry, as its name says").click()
        expect(stage.get_by_label("Method of stage 5")).to_have_value("fry")
        expect(stage.get_by_label("Cautions")).to_contain_text("Hot fat spits")
        self.assertEqual(self.axe(), [])
        blend = page.locator('section[data-stage="blend"]')
        expect(blend.get_by_label("Cautions")).to_contain_text("at most half full")
        blend.get_by_label("Method of stage 3").select_option("")
        expect(blend.get_by_label("Cautions")).to_have_count(0)

    def test_stages_change_and_undo(self) -> None:
        self.go("/cook/celeriac-apple")
        page = self.page
        page.get_by_role("button", name="+ Another tray or pot").click()
        expect(page.locator("section[data-stage]")).to_have_count(4)
        stage = page.locator("section[data-stage]").last
        stage.locator("summary").first.click()
        stage.get_by_label("what happens").select_option("reduce")
        # What nobody has said is empty, and asked.
        to = stage.get_by_label("to", exact=True)
        expect(to).to_have_value("")
        expect(page.get_by_role("alert")).to_contain_text("the amount it comes to of stage 4: say how much")
        expect(to).to_have_attribute("aria-invalid", "true")
        to.fill("1 l")
        expect(page.get_by_test_id("batch-volume")).to_contain_text("1.0 l")
        page.get_by_role("button", name="Remove stage simmer").click()
        expect(page.locator("section[data-stage]")).to_have_count(3)
        page.keyboard.press("Control+z")
        expect(page.locator("section[data-stage]")).to_have_count(4)
        for _ in range(3):
            page.keyboard.press("Control+z")
        expect(page.get_by_test_id("saved-state")).to_contain_text("revision 1, saved")

    def test_what_is_kept_for_garnish_is_paid_by_the_portions_that_get_it(self) -> None:
        self.go("/cook/pea-bacon")
        page = self.page
        fry = page.get_by_role("region", name="Stage 1: Fry the bacon")
        fry.get_by_title("How it is done").click()
        expect(fry).to_contain_text("kept for garnish, at what it cost")
        bowl = page.get_by_label("Serving Bowl", exact=True)
        bowl.get_by_text("garnish, packaging").click()
        expect(bowl).to_contain_text("7.3 g kept for each")
        # More asked than there is: said, and not paid for.
        before = bowl.get_by_test_id("cost-bowl").inner_text()
        bowl.get_by_label("Quantity of Split pea & bacon: crisp bits").fill("12 g")
        expect(page.get_by_text("only 7.3 g are kept for each").first).to_be_visible()
        # What is not kept any more is no garnish any more, and can be kept again.
        fry.get_by_role("button", name="Leave crisp bits in").click()
        expect(bowl).not_to_contain_text("crisp bits")
        page.keyboard.press("Control+z")
        expect(bowl).to_contain_text("crisp bits")
        self.assertIn("0.8", before)

    def test_a_price_is_set_to_the_computed_one(self) -> None:
        self.go("/cook/courgette-dill")
        page = self.page
        bowl = page.locator('section[data-serving="bowl"]')
        expect(bowl.get_by_label("set price")).to_have_value("1.90")
        bowl.get_by_role("button", name="set it").click()
        expect(bowl.get_by_label("set price")).to_have_value("2.40")
        page.keyboard.press("Control+s")
        expect(page.get_by_test_id("saved-state")).to_contain_text("revision 2, saved")
        self.go("/")
        expect(page.locator('tr[data-row="courgette-dill/bowl"]')).not_to_contain_text("over target")

    def test_a_saved_base_shows_what_it_moves(self) -> None:
        self.go("/cook/white-stock")
        page = self.page
        page.get_by_label("Quantity of Chicken carcasses").fill("20 kg")
        moved = page.get_by_label("Other pots")
        expect(moved).to_contain_text("Leek & potato")

    def test_take_off_and_undo(self) -> None:
        self.go("/cook/celeriac-apple")
        page = self.page
        page.get_by_role("button", name="Take off").click()
        expect(page).to_have_url(re.compile("/cook$"))
        expect(page.get_by_role("link", name="Roast celeriac & apple")).to_have_count(0)
        page.get_by_role("button", name="Undo").click()
        expect(page.get_by_role("link", name="Roast celeriac & apple")).to_be_visible()
        self.go("/cook/white-stock")
        page.get_by_role("button", name="Take off").click()
        expect(page.get_by_role("status")).to_contain_text("still used")


class ByKeyboard(BrowserTest):
    def test_from_the_board_to_a_saved_soup_of_three_lines(self) -> None:
        self.go("/")
        page = self.page
        page.keyboard.press("n")
        page.keyboard.type("Slipway broth")
        page.keyboard.press("Enter")
        expect(page.get_by_label("Type a line for simmer")).to_be_focused()
        for line in ("2 kg leeks ep sliced", "3 l white chicken stock", "½ cup cream"):
            page.keyboard.type(line)
            page.keyboard.press("Enter")
            expect(page.get_by_label("Type a line for simmer")).to_have_value("")
        expect(page.locator("tr[data-line]")).to_have_count(3)
        page.keyboard.press("Control+s")
        expect(page.get_by_test_id("saved-state")).to_contain_text("revision 2, saved")
        with self.store.reading() as connection:
            soup = next(one for one in load_recipes(connection) if one.id == "slipway-broth")
        self.assertEqual([line.uses for line in soup.stages[0].lines], ["leek", "white-stock", "cream"])
        page.keyboard.press("Alt+b")
        expect(page.locator('tr[data-row="slipway-broth/bowl"]')).to_contain_text("no set price")

    def test_the_board_is_walked_with_arrows(self) -> None:
        self.go("/")
        page = self.page
        page.keyboard.press("ArrowDown")
        page.keyboard.press("ArrowDown")
        page.keyboard.press("w")
        expect(page.get_by_role("dialog")).to_contain_text("food cost of a portion")
        page.keyboard.press("Escape")
        focused = page.evaluate("document.activeElement.textContent")
        page.keyboard.press("Enter")
        expect(page.get_by_label("Name of the recipe")).to_have_value(focused.removeprefix("· "))

    def test_the_working_of_a_line(self) -> None:
        self.go("/cook/celeriac-apple")
        self.page.get_by_label("Quantity of Celeriac").press("Alt+w")
        expect(self.page.get_by_role("dialog")).to_contain_text("kilos to buy * AP price - sum of credits")


class Accessible(BrowserTest):
    def test_no_violations_with_things_open(self) -> None:
        page = self.page
        self.go("/cook/brown-stock")
        for summary in page.locator("summary").all():
            summary.click()
        page.get_by_label("Type a line for Roast bones").fill("2 kg ham hock")
        page.keyboard.press("Enter")
        page.get_by_text("nothing here is called").wait_for()
        self.assertEqual(self.axe(), [])
        page.get_by_role("button", name=re.compile("^food cost: ")).click()
        page.get_by_test_id("working-value").wait_for()
        self.assertEqual(self.axe(), [])
        page.keyboard.press("Escape")
        page.get_by_role("button", name="Kitchen").click()
        self.assertEqual(self.axe(), [])


class AnEmptyKitchen(BrowserTest):
    kitchen = None

    def test_one_choice_sets_money_measures_and_allergens(self) -> None:
        self.go("/")
        page = self.page
        page.get_by_label("US", exact=False).check()
        expect(page.get_by_text("prices of Nov 24, USD")).to_be_visible()
        settings = page.request.get(f"{self.address}/api/kitchen").json()["settings"]
        self.assertEqual([settings[key] for key in ("measure_system", "allergen_list", "food_code")], ["us", "us9", "fda"])
        # A pot is typed in pounds and quarts, stays as it was typed, and is told in them.
        for path, body in (
            ("items", {"item": {"id": "leek", "name": "Leeks", "kind": "vegetable"}}),
            ("suppliers", {"id": "shop", "name": "Shop"}),
            ("offers", {"item": "leek", "supplier": "shop", "pack": "50 lb", "price": "40", "on": "2026-11-20"}),
        ):  # fmt: skip
            page.request.post(f"{self.address}/api/{path}", data=body)
        self.go("/")
        page.get_by_role("button", name="New soup").click()
        page.keyboard.type("Leek broth")
        page.keyboard.press("Enter")
        page.get_by_label(re.compile("^Type a line for")).first.fill("10 lb 8 oz leeks")
        page.keyboard.press("Enter")
        expect(page.get_by_label("Quantity of Leeks")).to_have_value("10 lb 8 oz")
        expect(page.get_by_role("button", name=re.compile("^Leeks to buy: 10.50 lb"))).to_be_visible()
        expect(page.get_by_role("button", name=re.compile("^cost of Leeks: 8.40"))).to_be_visible()
        expect(page.get_by_text("a quart costs")).to_be_visible()
        # Where something is written down already, its prices are in some money: it is asked no more.
        self.go("/")
        expect(page.get_by_text("1 pot not saved")).to_be_visible()
        expect(page.get_by_text("Where do you cook?")).to_have_count(0)

    def test_it_says_what_to_do_first(self) -> None:
        self.go("/")
        page = self.page
        expect(page.get_by_text("No soup is on sale yet")).to_be_visible()
        self.assertEqual(self.axe(), [])
        page.get_by_role("link", name="Buy").click()
        expect(page.get_by_text("Nothing is bought yet")).to_be_visible()

    def test_from_nothing_to_the_first_costed_soup(self) -> None:
        self.go("/")
        page = self.page
        page.get_by_role("button", name="Kitchen").click()
        page.get_by_label("Target food-cost share").fill("0.25")
        page.get_by_label("Name", exact=True).fill("Pontoon Kitchen")
        page.get_by_role("button", name="Save").click()
        expect(page.get_by_role("banner")).to_contain_text("Pontoon Kitchen")
        page.get_by_role("link", name="Buy").click()
        page.get_by_role("button", name="New item").click()
        page.get_by_label("What is it called?").fill("Leeks")
        page.get_by_role("button", name="Add it").click()
        page.get_by_label("Pack", exact=True).fill("5 kg")
        page.get_by_label("New price").last.fill("10.00")
        page.get_by_label("Name of the supplier").fill("Quay stall")
        page.get_by_role("button", name="Record").click()
        expect(page.get_by_label("Prices so far")).to_contain_text("Quay stall")
        page.get_by_role("link", name="Board").click()
        page.get_by_role("button", name="Put the first pot on").click()
        page.get_by_label("What is it called?").fill("Leek soup")
        page.keyboard.press("Enter")
        typed = page.get_by_label("Type a line for simmer")
        typed.fill("3 kg leeks")
        typed.press("Enter")
        expect(page.get_by_test_id("cost-bowl")).to_have_text("0.60")
        page.keyboard.press("Control+s")
        expect(page.get_by_test_id("saved-state")).to_contain_text("revision 2, saved")
        self.go("/")
        expect(page.locator('tr[data-row="leek-soup/bowl"]')).to_contain_text("2.40")


class ARoomThatCannotBeLoaded(BrowserTest):
    def test_it_says_so_and_the_other_rooms_go_on(self) -> None:
        page = self.page
        page.route("**/assets/PotRoom-*.js", lambda route: route.abort())
        self.go("/")
        page.get_by_role("link", name="Leek & potato, Bowl").click()
        expect(page.get_by_role("alert")).to_contain_text("This page could not be shown")
        page.get_by_role("link", name="Buy").click()
        expect(page.get_by_role("heading", name="Buy")).to_be_visible()
        page.unroute("**/assets/PotRoom-*.js")
        page.go_back()
        # It comes by itself, for those who do not load it again.
        expect(page.get_by_label("Name of the recipe")).to_have_value("Leek & potato")


class ALongBoard(BrowserTest):
    kitchen = replace(_BENCH, recipes=tuple(one for one in _BENCH.recipes if one.id.startswith("r0-"))[:300])

    def test_rows_of_different_heights_scroll_without_a_jump(self) -> None:
        recipes = self.page.request.get(f"{self.address}/api/recipes").json()
        for one in recipes[:60:10]:
            address = f"{self.address}/api/recipes/{one['id']}"
            recipe = self.page.request.get(address).json()["recipe"]
            body = {"recipe": {**recipe, "name": f"{one['name']} " + "with all that the quay has to give " * 4}, "based_on": 1}
            self.assertEqual(self.page.request.put(address, data=body).status, 200)
        page = self.page
        for width in (1280, 390):
            page.set_viewport_size({"width": width, "height": 844})
            self.go("/cook" if width == 1280 else "/")
            tops: list[float] = []
            for _ in range(12):
                page.mouse.wheel(0, 150)
                page.wait_for_timeout(60)
                # Where the first row in sight lies, were the page not scrolled: it only ever goes down, by what was scrolled.
                tops.append(page.evaluate("() => window.scrollY"))
            steps = [round(later - before) for before, later in pairwise(tops)]
            # A frame may be late, and the next one then takes both of its steps.
            self.assertTrue(all(0 <= step <= 400 for step in steps), (width, steps))
            # Rows are measured as they come into sight, so the end may move away once or twice.
            page.wait_for_function(
                """() => {
                    window.scrollTo(0, document.body.scrollHeight);
                    const rows = [...document.querySelectorAll("tr:not(.gap) a[data-row-link]")];
                    const last = rows.at(-1)?.getBoundingClientRect();
                    return last && last.top >= 0 && last.bottom <= innerHeight;
                }"""
            )

    def test_three_hundred_recipes_are_walked_sorted_and_found(self) -> None:
        self.go("/")
        page = self.page
        rows = page.locator("tr[data-row]")
        expect(rows.first).to_be_visible()
        # Only what is near the window is on the page; the table says how many there are.
        self.assertLess(rows.count(), 120)
        expect(page.locator("table")).to_have_attribute("aria-rowcount", "301")
        page.get_by_role("button", name="Soup or stew", exact=False).first.click()
        first = rows.first.get_attribute("data-row")
        page.evaluate("window.scrollTo(0, document.body.scrollHeight)")
        expect(page.locator('tr[data-row="r0-99/bowl"]')).to_be_visible()
        self.assertLess(rows.count(), 120)
        expect(page.locator("thead th").first).to_be_in_viewport()
        page.evaluate("window.scrollTo(0, 0)")
        expect(page.locator(f'tr[data-row="{first}"]')).to_be_visible()
        # By keyboard, one row after the other, beyond what was on the page at first.
        for _ in range(80):
            page.keyboard.press("ArrowDown")
        names = sorted(f"r0-{n}" for n in range(300))
        expect(page.locator(f'tr[data-row="{names[79]}/bowl"] a[data-row-link]')).to_be_focused()
        page.get_by_role("button", name="Cost", exact=True).click()
        page.get_by_label("Find").fill("r0-299")
        expect(rows).to_have_count(1)
        page.keyboard.press("ArrowDown")
        page.keyboard.press("Enter")
        expect(page.get_by_label("Name of the recipe")).to_have_value("r0-299")
