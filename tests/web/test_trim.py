"""The Trim room as people use it: a test beside the scale, by key and by touch, left and gone on with; adopting; practice."""

from __future__ import annotations

import re
from contextlib import ExitStack

from playwright.sync_api import Page, expect

from potrel.devices.simulated_scale import SimulatedScale, simulated_scale
from potrel.store.kitchens import NEW_KITCHEN
from potrel.store.yields import sheets
from tests.web.browser import BrowserTest

LEEK = "/trim/yields/leek/preparation/sliced"


class BenchTest(BrowserTest):
    """A kitchen with a simulated scale on the bench."""

    bench: SimulatedScale

    def setUp(self) -> None:
        stack = ExitStack()
        self.addCleanup(stack.close)
        self.bench = stack.enter_context(simulated_scale())
        self.scale = self.bench.address
        super().setUp()

    def open_bench(self, page: Page, path: str) -> None:
        """Open a sheet; the scale is asked all the time, so the net is never idle there."""
        page.goto(f"{self.address}{path}")
        expect(page.get_by_test_id("scale-state")).not_to_have_text("lost")

    def shows(self, page: Page, grams: int) -> None:
        """Put so much on the pan, and wait until the screen shows it at rest."""
        self.bench.put(grams)
        near = "|".join(str(one) for one in range(grams - 4, grams + 5))
        expect(page.get_by_test_id("scale-weight")).to_have_text(re.compile(f"^({near}) g$"))

    def has_reached(self, field: str, text: str) -> None:
        """Wait until a sheet that is kept on the server has a text in a field."""
        for _ in range(800):
            with self.store.reading() as connection:
                if any(text in str(one.body.get(field)) for one in sheets(connection)):
                    return
            # Not a sleep: what the pages ask for goes on meanwhile.
            self.page.wait_for_timeout(50)
        self.fail(f"no sheet has {text} in {field}")

    def near(self, page: Page, label: str, grams: int) -> None:
        """A weight that was taken, to within what the scale drifts."""
        near = "|".join(str(one) for one in range(grams - 4, grams + 5))
        expect(page.get_by_label(f"Weight {label}", exact=True)).to_have_value(re.compile(f"^({near}) g$"))


class AtTheBench(BenchTest):
    def test_a_whole_test_by_keyboard_with_the_plug_pulled_in_the_middle(self) -> None:
        self.go("/")
        page = self.page
        page.get_by_role("link", name="Trim").press("Enter")
        expect(page.get_by_role("heading", name="Trim")).to_be_visible()
        page.keyboard.press("n")
        page.get_by_role("combobox", name="What is tested").fill("leek")
        expect(page.get_by_role("listbox").get_by_role("option").first).to_contain_text("Leek")
        page.keyboard.press("Enter")
        page.get_by_label("preparation").select_option("sliced")
        before = page.get_by_label("Weight as purchased (AP)")
        before.focus()
        self.shows(page, 4000)
        page.keyboard.press("Enter")
        self.near(page, "as purchased (AP)", 4000)
        # The next weight waits for the next thing: what lies there was taken already.
        expect(page.get_by_label("Weight usable (EP)")).to_be_focused()
        page.keyboard.press("Enter")
        expect(page.get_by_role("button", name="put the next one on")).to_be_visible()
        expect(page.get_by_label("Weight usable (EP)")).to_have_value("")
        self.bench.unplug(3600)
        expect(page.get_by_role("alert")).to_contain_text("The scale does not answer")
        self.near(page, "as purchased (AP)", 4000)
        expect(page.get_by_test_id("left")).to_contain_text("4.00 kg not weighed yet")
        # Typed meanwhile, and nothing is lost by closing the sheet either.
        page.get_by_label("Weight usable (EP)").fill("1820 g")
        page.keyboard.press("Enter")
        expect(page.get_by_label("Weight leek tops")).to_be_focused()
        expect(page.get_by_text("kept: leave it any time")).to_be_visible()
        self.bench.plug_in()
        # Left in the middle of a breath: what was typed last is there all the same.
        page.get_by_role("link", name="Trim").click()
        page.get_by_label("Half done").get_by_role("link", name="Leeks").press("Enter")
        expect(page.get_by_label("Weight usable (EP)")).to_have_value("1820 g")
        expect(page.get_by_test_id("scale-state")).to_contain_text("gross")
        page.get_by_label("Weight leek tops").focus()
        self.shows(page, 1600)
        page.keyboard.press("Enter")
        self.near(page, "leek tops", 1600)
        expect(page.get_by_test_id("bench-yield")).to_contain_text(re.compile(r"45\.\d%"))
        expect(page.get_by_test_id("unaccounted")).to_contain_text("5")
        page.keyboard.press("Alt+p")
        expect(page.get_by_label("Weight part 2")).to_be_focused()
        page.keyboard.type("560 g")
        page.get_by_label("What fell off").last.fill("roots and grit")
        page.get_by_label("by", exact=True).fill("Ada")
        page.get_by_label("minutes of work").fill("12")
        expect(page.get_by_role("button", name="Record the test")).to_be_enabled()
        page.keyboard.press("Control+Enter")
        page.wait_for_url(f"**{LEEK}")
        expect(page.get_by_role("heading", name="7 own tests")).to_be_visible()
        expect(page.get_by_label("Tests", exact=True)).to_contain_text("roots and grit 560 g")
        page.goto(f"{self.address}/trim")
        expect(page.get_by_label("Half done")).to_have_count(0)

    def test_by_touch_on_a_tablet_taring_between_the_trimmings(self) -> None:
        page = self.new_page(context=self.new_context(1024, 768, has_touch=True))
        self.open_bench(page, "/trim/bench?item=leek&of=sliced&kind=trim")
        page.get_by_label("tare after each weight taken").tap()
        page.get_by_label("Weight as purchased (AP)").tap()
        # A bowl first, then what goes into it, everything left where it is.
        self.shows(page, 380)
        page.get_by_role("button", name="Tare").tap()
        expect(page.get_by_test_id("scale-state")).to_contain_text("net")
        self.bench.put(380 + 1500)
        page.get_by_role("button", name="Take").tap()
        self.near(page, "as purchased (AP)", 1500)
        expect(page.get_by_test_id("scale-weight")).to_have_text(re.compile(r"^−?[0-4] g$"))
        self.bench.put(380 + 1500 + 700)
        page.get_by_role("button", name="Take").tap()
        self.near(page, "usable (EP)", 700)
        for button in ("Take", "Tare", "Record the test"):
            box = page.get_by_role("button", name=re.compile(button)).bounding_box()
            self.assertTrue(box is not None and box["height"] >= 44, button)

    def test_too_much_on_the_scale(self) -> None:
        self.open_bench(self.page, "/trim/bench?item=leek&of=sliced&kind=trim")
        self.bench.put(20_000)
        expect(self.page.get_by_role("alert")).to_contain_text("weigh in two goes")
        expect(self.page.get_by_role("button", name="Take")).to_be_disabled()

    def test_what_leaks_is_asked_again(self) -> None:
        page = self.page
        self.open_bench(page, "/trim/bench?item=leek&of=sliced&kind=trim")
        page.get_by_label("Weight as purchased (AP)").fill("4 kg")
        page.get_by_label("Weight usable (EP)").fill("1.8 kg")
        page.get_by_label("Weight leek tops").fill("1.6 kg")
        expect(page.get_by_test_id("unaccounted")).to_contain_text("600 g unaccounted for (15.0%)")
        # The key that stands on the button says what the button says.
        expect(page.get_by_role("button", name="It is so: record it")).to_be_enabled()
        page.keyboard.press("Control+Enter")
        expect(page.get_by_role("heading", name="7 own tests")).to_be_visible()

    def test_a_slip_is_told_at_its_field(self) -> None:
        page = self.page
        self.open_bench(page, "/trim/bench?item=leek&of=sliced&kind=trim")
        page.get_by_label("Weight as purchased (AP)").fill("4 pots")
        expect(page.get_by_label("Weights", exact=True).get_by_role("alert")).to_contain_text("pots")
        page.get_by_label("Weight as purchased (AP)").fill("1 kg")
        page.get_by_label("Weight usable (EP)").fill("2 kg")
        expect(page.get_by_label("So far")).to_contain_text("1.00 kg more than there was before")
        page.get_by_label("Weight leek tops").fill("100 g")
        expect(page.get_by_label("So far")).to_contain_text("more than what there was before: weigh again")
        expect(page.get_by_role("button", name="Record the test")).to_be_disabled()

    def test_the_watch_runs_on_while_the_sheet_is_closed(self) -> None:
        page = self.page
        self.open_bench(page, "/trim/bench?item=butternut&of=cubed&kind=trim")
        page.get_by_label("Weight as purchased (AP)").fill("5 kg")
        page.get_by_role("button", name="Start").click()
        expect(page.get_by_role("timer")).to_have_text(re.compile(r"0:(0[1-9]|[1-5]\d)"))
        page.goto(f"{self.address}/trim")
        page.get_by_label("Half done").get_by_role("link").click()
        expect(page.get_by_role("timer")).to_have_text(re.compile(r"0:(0[1-9]|[1-5]\d)"))
        page.get_by_role("button", name="Stop").click()
        expect(page.get_by_label("minutes of work")).not_to_have_value("")

    def test_a_second_screen_goes_on_with_the_sheet(self) -> None:
        page = self.page
        self.open_bench(page, "/trim/bench?item=leek&of=sliced&kind=trim")
        page.get_by_label("Weight as purchased (AP)").fill("4 kg")
        self.has_reached("before", "4 kg")
        second = self.new_page("/trim", self.new_context())
        second.get_by_label("Half done").get_by_role("link", name="Leeks").click()
        expect(second.get_by_label("Weight as purchased (AP)")).to_have_value("4 kg")
        second.get_by_label("Weight usable (EP)").fill("1.8 kg")
        self.has_reached("after", "1.8 kg")
        # The first goes on too: neither is lost, and a person says which it is to be.
        page.get_by_label("Weight usable (EP)").fill("1.9 kg")
        expect(page.get_by_role("alert")).to_contain_text("Another screen went on with this sheet")
        page.get_by_role("button", name="Take theirs").click()
        expect(page.get_by_label("Weight usable (EP)")).to_have_value("1.8 kg")
        page.get_by_label("Weight leek tops").fill("1.6 kg")
        self.has_reached("parts", "1.6 kg")
        second.get_by_label("Weight leek tops").fill("1.7 kg")
        second.get_by_role("button", name="Keep mine").click()
        self.has_reached("parts", "1.7 kg")
        expect(second.get_by_role("alert")).to_have_count(0)
        second.goto(f"{self.address}/trim")
        second.get_by_role("button", name="Drop the sheet of Leeks").click()
        expect(second.get_by_label("Half done")).to_have_count(0)
        second.get_by_role("button", name="Undo").click()
        expect(second.get_by_label("Half done")).to_contain_text("Leeks")


class YieldBook(BrowserTest):
    def test_found_by_kind_and_by_what_it_rests_on(self) -> None:
        page = self.page
        self.go("/trim")
        rows = page.locator("tbody tr")
        page.get_by_label("show", exact=True).select_option("soak")
        expect(rows).to_have_count(5)
        page.get_by_label("show", exact=True).select_option("")
        page.get_by_label("resting on").select_option("own_tests")
        expect(rows).to_have_count(7)
        expect(rows.filter(has_text="Celeriac")).to_contain_text("4 tests")
        # By pot: those with most estimates first, own tests with their number and age.
        page.get_by_label("of", exact=True).select_option("pots")
        expect(rows.filter(has_text="Beetroot & beef shin")).to_contain_text("trimmed, cubed (3 tests, 30 Oct)")
        self.assertEqual(self.axe(), [])
        page.get_by_label("of", exact=True).select_option("shelf")
        page.get_by_label("Find").fill("cauliflower")
        expect(rows.first).to_contain_text("USDA")
        page.keyboard.press("Escape")

    def test_adopting_by_keyboard_undone_and_gone_back_to(self) -> None:
        page = self.page
        self.go("/trim")
        page.keyboard.press("f")
        page.keyboard.type("leeks trimmed")
        page.keyboard.press("ArrowDown")
        page.keyboard.press("Enter")
        expect(page.get_by_role("heading", name="Leeks, trimmed, sliced")).to_be_visible()
        mean = page.get_by_label("Choices").get_by_role("listitem").filter(has_text="The kitchen's mean")
        mean.get_by_role("button", name="Adopt …").press("Enter")
        expect(mean.get_by_test_id("effects")).to_contain_text("Leek & potato")
        mean.get_by_role("button", name="Adopt 42.7%").press("Enter")
        expect(page.get_by_role("status")).to_contain_text("Leeks yields 42.7% from now on")
        expect(mean).to_contain_text("in use")
        expect(page.get_by_label("In use before").get_by_role("listitem")).to_have_count(2)
        page.get_by_role("button", name="Undo").press("Enter")
        expect(page.get_by_text("yields 44.0%").first).to_be_visible()
        expect(page.get_by_label("In use before").get_by_role("listitem")).to_have_count(3)
        page.get_by_role("button", name="Go back to it").first.press("Enter")
        expect(mean).to_contain_text("in use")

    def test_a_test_is_left_out_only_for_a_reason(self) -> None:
        page = self.page
        self.go(LEEK)
        row = page.locator("tr").filter(has_text="far off")
        row.get_by_role("button", name="Leave out").click()
        leave = page.get_by_role("button", name="Leave out").nth(2)
        expect(leave).to_be_disabled()
        page.get_by_label("Why does it not count?").fill("full of grit")
        page.keyboard.press("Enter")
        expect(page.get_by_role("heading", name="5 own tests")).to_be_visible()
        expect(page.get_by_text("left out: full of grit", exact=True)).to_be_visible()
        page.get_by_role("button", name="Count it").click()
        expect(page.get_by_role("heading", name="6 own tests")).to_be_visible()

    def test_figures_open_their_workings(self) -> None:
        page = self.page
        self.go(LEEK)
        for label, words in (
            (re.compile("^mean of the own tests"), "mean of tests"),
            (re.compile("^Blend of book and own tests"), "book + weight of the own tests * (mean - book)"),
            (re.compile("^cost factor"), "EP cost / AP price"),
            (re.compile("^unaccounted for"), "before - usable - sum of weighed beside"),
        ):
            page.get_by_role("button", name=label).first.click()
            expect(page.get_by_role("dialog")).to_contain_text(words)
            page.keyboard.press("Escape")
        self.go("/buy")
        page.get_by_role("button", name=re.compile("^price of a kilo of Leeks")).click()
        expect(page.get_by_role("dialog")).to_contain_text("price of the pack / kilos in the pack")

    def test_methods_side_by_side(self) -> None:
        self.go(LEEK)
        table = self.page.get_by_test_id("methods")
        expect(table.get_by_role("row", name="a usable kilo")).to_contain_text("3.87")
        expect(table.get_by_role("row", name="together, what was paid")).to_contain_text("7.68")
        expect(table.get_by_role("columnheader", name="credited")).to_contain_text("in use")

    def test_another_method_shows_what_it_does_before_it_is_saved(self) -> None:
        self.go("/")
        page = self.page
        page.get_by_role("button", name="Kitchen").click()
        page.get_by_label("What is left over with a value").select_option("mass")
        expect(page.get_by_label("What that does")).to_contain_text("Leek & potato")
        self.assertEqual(self.axe(), [])
        page.get_by_role("button", name="Save").press("Enter")
        expect(page.get_by_role("dialog")).to_have_count(0)
        self.go(LEEK)
        expect(page.get_by_test_id("methods").get_by_role("columnheader", name="by mass")).to_contain_text("in use")

    def test_what_is_left_over_is_cooked_with(self) -> None:
        page = self.page
        self.go("/trim/leftovers")
        expect(page.get_by_role("row", name="leek tops")).to_contain_text("Vegetable stock from trimmings")
        self.go("/cook/fish-stock")
        page.get_by_label("Type a line for").first.fill("500 g fennel tops")
        page.keyboard.press("Enter")
        line = page.locator("tr[data-line]").filter(has_text="Fennel: fennel tops")
        expect(line).to_contain_text("left over elsewhere")
        expect(line).to_contain_text("0.15")


class Practising(BrowserTest):
    def test_by_keyboard_wrong_then_right(self) -> None:
        page = self.page
        self.go("/trim/practice")
        page.get_by_label("cook").fill("Ada")
        page.get_by_role("button", name="How much to buy").press("Enter")
        expect(page.get_by_label("Answer")).to_be_focused()
        page.keyboard.type("0")
        page.keyboard.press("Enter")
        expect(page.get_by_test_id("marked")).to_contain_text("Not yet: it is")
        expect(page.get_by_label("How much to buy")).to_contain_text("EP / product of yields")
        expect(page.get_by_role("button", name="How much to buy")).to_contain_text("0 of 1")
        expect(page.get_by_role("button", name="Another")).to_be_focused()
        page.keyboard.press("n")
        expect(page.get_by_label("Answer")).to_have_value("")
        given = dict(row.split("\t") for row in page.get_by_role("table").inner_text().strip().splitlines()[-3:])
        bowls, grams, share = (float(re.sub(r"[^\d.]", "", text)) for text in given.values())
        page.get_by_label("Answer").fill(f"{bowls * grams / 1000 / (share / 100):.3f}")
        page.keyboard.press("Enter")
        expect(page.get_by_test_id("marked")).to_contain_text("Right")
        expect(page.get_by_role("button", name="How much to buy")).to_contain_text("1 of 2")

    def test_every_kind_of_question_is_marked_and_scored(self) -> None:
        page = self.page
        self.go("/trim/practice")
        kinds = page.get_by_role("navigation", name="Kinds of question").get_by_role("button")
        for place in range(kinds.count()):
            kinds.nth(place).click()
            page.get_by_label("Answer").fill("-5")
            page.keyboard.press("Enter")
            expect(page.get_by_test_id("marked")).to_contain_text("Not yet: it is")
            expect(kinds.nth(place)).to_contain_text("0 of 1")


class NewKitchens(BrowserTest):
    kitchen = NEW_KITCHEN

    def test_an_empty_book_says_what_to_do_first(self) -> None:
        self.go("/trim")
        expect(self.page.get_by_text("No yield is known yet")).to_be_visible()
        self.go("/trim/leftovers")
        expect(self.page.get_by_text("Nothing that falls off has a use or a value yet")).to_be_visible()
        self.go("/trim/practice")
        expect(self.page.get_by_role("alert")).to_contain_text("add one first")
        self.page.goto(f"{self.address}/trim/bench")
        expect(self.page.get_by_text("Choose what lies on the bench")).to_be_visible()
