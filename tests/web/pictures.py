"""Takes the pictures of docs/screenshots/ from a demo that runs: `python -m tests.web.pictures [ADDRESS]`."""

from __future__ import annotations

import sys
from collections.abc import Callable

from playwright.sync_api import Page, sync_playwright

from tests.generated import ROOT
from tests.web.browser import ARGUMENTS, CHROMIUM


def change_quantity(page: Page) -> None:
    page.get_by_label("Quantity of Celeriac").fill("4 kg")


def open_working(page: Page) -> None:
    page.get_by_role("button", name="cost of a Bowl").first.click()
    page.get_by_test_id("working-value").wait_for()


def try_stocks(page: Page) -> None:
    page.get_by_label("What could stand for White chicken stock").click()
    page.get_by_label("When making stops to pay").wait_for()


def what_if(page: Page) -> None:
    page.keyboard.press("Alt+q")
    page.get_by_label("move", exact=True).select_option(label="price of Leeks")
    page.get_by_label("price of Leeks", exact=True).fill("2.88")
    page.get_by_test_id("effects").wait_for()


def type_price(page: Page) -> None:
    page.get_by_label("New price").last.fill("12.50")
    page.get_by_test_id("effects").wait_for()


def likenesses(page: Page) -> None:
    page.get_by_role("heading", name="Price list of Saltmarsh Produce").wait_for()
    page.get_by_test_id("effects").wait_for()


def weigh(page: Page) -> None:
    for label, grams in (("as purchased (AP)", 4000), ("usable (EP)", 1830), ("leek tops", 1610)):
        page.get_by_label("Grams on the simulated scale").fill(str(grams))
        page.get_by_role("button", name="Put on").click()
        page.wait_for_timeout(1500)
        field = page.get_by_label(f"Weight {label}")
        field.focus()
        if field.input_value() == "":
            page.keyboard.press("Enter")
            page.wait_for_timeout(800)
    page.get_by_label("by", exact=True).fill("Ada")
    page.keyboard.press("Alt+p")
    page.wait_for_timeout(200)
    page.keyboard.type("540 g")
    page.get_by_label("What fell off").last.fill("roots and grit")
    page.get_by_test_id("methods").wait_for()


def answer(page: Page) -> None:
    page.get_by_label("cook").fill("Ada")
    page.get_by_role("button", name="What a usable kilo costs").click()
    page.get_by_label("Answer").fill("1.90")
    page.keyboard.press("Enter")
    page.get_by_test_id("marked").wait_for()


def nothing(page: Page) -> None:
    page.locator("main").wait_for()


def from_paper(page: Page) -> None:
    page.get_by_label("The recipe, line by line").fill(
        "Regatta fish soup\nMakes 6 l\n20 portions of 250 ml\n\n5 kg fish bones\n8 l water\n200 g butter\n1 kg onions, diced\n"
        "2 kg potatoes, peeled\n3 bay leaves\na pinch of saffron\n2 kg white fish\n\n"
        "1. Sweat the onions in the butter for 12 minutes.\n"
        "2. Add bones, water and bay leaves, simmer 30 minutes, lid off. Strain.\n"
        "3. Add potatoes and saffron and simmer 20 minutes, lid on.\n4. Stir in the white fish."
    )
    page.get_by_label("What is asked").wait_for()


def invoice(page: Page) -> None:
    page.get_by_label("Supplier", exact=True).fill("Saltmarsh Produce")
    page.get_by_label("Item of row 1").focus()
    for cell in ("leeks", "5 kg", "9,90", "carrots", "10 kg", "92", "stock", "1 kg", "9"):
        page.keyboard.type(cell)
        page.keyboard.press("Tab")
    page.get_by_label("What it does").wait_for()


def reprice(page: Page) -> None:
    page.get_by_label("New price of Beetroot & beef shin, Bowl, here").fill("9.90")
    page.get_by_label("New price of Courgette & dill, Bowl, here").fill("2.40")
    page.get_by_label("why").fill("shin and courgettes are dearer")


def try_price(page: Page) -> None:
    page.get_by_label("A price to try").fill("7.20")


PICTURES: dict[str, tuple[str, Callable[[Page], None]]] = {
    "board": ("/", nothing),
    "pot": ("/cook/celeriac-apple", change_quantity),
    "working": ("/cook/beetroot-shin", open_working),
    "in-full": ("/cook/ham-leek", nothing),
    "exchange": ("/cook/leek-potato", try_stocks),
    "what-if": ("/cook/leek-potato", what_if),
    "side-by-side": ("/cook/side/by-side?of=celeriac-apple&of=celeriac-apple-boiled", nothing),
    "flow": ("/cook/ham-leek/flow", nothing),
    "paper": ("/cook/from/paper", from_paper),
    "buy": ("/buy/leek", type_price),
    "invoice": ("/buy/from/paper", invoice),
    "review": ("/buy/lists/3", likenesses),
    "compare": (
        "/buy/compare?unit=l&form=stock-carton&form=stock-cube&form=beef-base&form=recipe/white-stock&form=recipe/vegetable-stock"
        "&kept=stock",
        nothing,
    ),
    "prices": ("/price", reprice),
    "schools": ("/price/leek-potato/bowl?channel=delivery", try_price),
    "trim": ("/trim", nothing),
    "bench": ("/trim/bench?item=leek&of=sliced&kind=trim", weigh),
    "practice": ("/trim/practice", answer),
    "allergens": ("/allergens", nothing),
}


def settle(page: Page) -> None:
    """Wait until everything is there; beside the scale the net is never idle."""
    if "/bench" not in page.url:
        page.wait_for_load_state("networkidle")
    page.wait_for_timeout(600)


def main(address: str) -> None:
    """Take them all."""
    with sync_playwright() as driver:
        browser = driver.chromium.launch(executable_path=CHROMIUM, headless=True, args=ARGUMENTS)
        for name, (path, act) in PICTURES.items():
            page = browser.new_page(viewport={"width": 1280, "height": 800})
            page.goto(f"{address}{path}")
            settle(page)
            act(page)
            settle(page)
            page.screenshot(path=ROOT / "docs" / "screenshots" / f"{name}.png", animations="disabled")
            page.close()
        browser.close()


if __name__ == "__main__":
    main(sys.argv[1] if len(sys.argv) > 1 else "http://127.0.0.1:8420")
