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
    page.get_by_label("cost of a Bowl").click()
    page.get_by_test_id("working-value").wait_for()


def type_price(page: Page) -> None:
    page.get_by_label("New price").last.fill("12.50")
    page.get_by_test_id("effects").wait_for()


def nothing(page: Page) -> None:
    page.locator("main").wait_for()


PICTURES: dict[str, tuple[str, str, Callable[[Page], None]]] = {
    "board": ("/", "enamel", nothing),
    "pot": ("/cook/celeriac-apple", "enamel", change_quantity),
    "working": ("/cook/beetroot-shin", "enamel", open_working),
    "missing": ("/cook/minestrone", "enamel", nothing),
    "recipes": ("/cook", "enamel", nothing),
    "buy": ("/buy/leek", "enamel", type_price),
    "compare": (
        "/buy/compare?unit=l&form=stock-carton&form=stock-cube&form=beef-base&form=recipe/white-stock&form=recipe/vegetable-stock",
        "enamel",
        nothing,
    ),
    "allergens": ("/allergens", "enamel", nothing),
    "night": ("/", "night", nothing),
}


def main(address: str) -> None:
    """Take them all."""
    with sync_playwright() as driver:
        browser = driver.chromium.launch(executable_path=CHROMIUM, headless=True, args=ARGUMENTS)
        for name, (path, theme, act) in PICTURES.items():
            page = browser.new_page(viewport={"width": 1280, "height": 800})
            page.add_init_script(f"localStorage.setItem('potrel:theme', '{theme}')")
            page.goto(f"{address}{path}")
            page.wait_for_load_state("networkidle")
            act(page)
            page.wait_for_load_state("networkidle")
            page.wait_for_timeout(400)
            page.screenshot(path=ROOT / "docs" / "screenshots" / f"{name}.png", animations="disabled")
            page.close()
        browser.close()


if __name__ == "__main__":
    main(sys.argv[1] if len(sys.argv) > 1 else "http://127.0.0.1:8420")
