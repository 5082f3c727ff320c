"""Recipes of others in and ours out, in the browser: a saved page, a file of many, a pasted source, three forms of file."""

from __future__ import annotations

import json
import re

from playwright.sync_api import expect

from tests.formats.test_recipe_json_ld import RECIPE
from tests.web.browser import BrowserTest

_BROTH = {**RECIPE, "recipeIngredient": ["2.5 kg leeks, trimmed, sliced", "6 l white chicken stock"]}
_PAGE = (
    f"<!doctype html><html><head><script type='application/ld+json'>{json.dumps(_BROTH)}</script></head><body></body></html>"
)


class GiveAndTake(BrowserTest):
    def put(self, name: str, text: str, coding: str = "utf-8") -> None:
        field = self.page.locator("input[type=file]")
        field.set_input_files({"name": name, "mimeType": "text/plain", "buffer": text.encode(coding)})

    def test_a_saved_page_is_put_down_as_a_text_and_cooked(self) -> None:
        self.go("/cook/from/paper")
        self.put("leek-broth.html", _PAGE)
        paper = self.page.get_by_label("The recipe, line by line")
        expect(paper).to_have_value(re.compile(r"^Leek broth\n\nMakes 8\n\n2\.5 kg leeks"))
        expect(self.page.get_by_text("there is no place for it: who wrote it, 65 min in all")).to_be_visible()
        expect(self.page.get_by_text("every line is understood")).to_be_visible()
        self.assertEqual(self.axe(), [])
        self.page.keyboard.press("Control+s")
        expect(self.page).to_have_url(re.compile("/cook/leek-broth"))
        expect(self.page.get_by_label("Quantity of Leeks")).to_have_value("2.5 kg")

    def test_of_many_one_is_chosen_and_what_is_broken_is_said(self) -> None:
        self.go("/cook/from/paper")
        self.put("many.jsonld", json.dumps([_BROTH, {**_BROTH, "name": "Second broth"}]))
        expect(self.page.get_by_text("2 recipes are in it. Which one?")).to_be_visible()
        self.page.get_by_role("button", name="Second broth").click()
        paper = self.page.get_by_label("The recipe, line by line")
        expect(paper).to_have_value(re.compile("^Second broth"))
        # What is on the paper stays while a file is refused.
        self.put("broken.json", '{"@type": "Recipe", "name": ')
        expect(self.page.get_by_role("alert")).to_contain_text("JSON is broken")
        expect(paper).to_have_value(re.compile("^Second broth"))
        # A pasted source is what it holds.
        paper.fill(json.dumps({**_BROTH, "name": "Third broth"}))
        expect(paper).to_have_value(re.compile("^Third broth"))
        # A page of before everything was UTF-8.
        old = _PAGE.replace("Leek broth", "Cr\u00e8me de poireaux")
        self.put("old.html", old.replace("\\u00e8", "\u00e8"), "cp1252")
        expect(paper).to_have_value(re.compile("^Cr\u00e8me de poireaux"))
        # A plain text goes straight onto the paper.
        self.put("fourth.txt", "Fourth broth\n\nSimmer 30 min:\n2 kg leeks\n")
        expect(paper).to_have_value(re.compile("^Fourth broth"))

    def test_a_pot_goes_out_in_three_forms(self) -> None:
        self.go("/cook/ham-leek")
        expect(self.page.get_by_text("JSON-LD has no place for what is taken out")).to_be_visible()
        for form, name, words in (
            ("JSON-LD", "ham-leek.jsonld", '"@type": "Recipe"'), ("text", "ham-leek.txt", "6 each Smoked ham hocks"),
            ("Markdown", "ham-leek.md", "## Simmer the hocks 150 min"),
        ):  # fmt: skip
            with self.page.expect_download() as told:
                self.page.get_by_role("link", name=form, exact=True).click()
            self.assertEqual(told.value.suggested_filename, name)
            self.assertIn(words, told.value.path().read_text())
        self.go("/cook")
        with self.page.expect_download() as told:
            self.page.get_by_role("link", name="All as a file").click()
        found = json.loads(told.value.path().read_text())
        self.assertEqual(len(found["@graph"]), 21)
