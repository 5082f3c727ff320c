"""Recipes out and in: schema.org JSON-LD against the public vocabulary, text and Markdown, pages of others, broken files."""

from __future__ import annotations

import json
import random
import re
import unittest
from contextlib import suppress
from decimal import Decimal
from functools import cache
from pathlib import Path
from typing import Any

from potrel.core.cost.costing import Costing
from potrel.core.errors import PotrelError
from potrel.core.kitchen.recipes import Recipe
from potrel.core.words.paste import understand_paste
from potrel.formats.recipe_json_ld import not_held, recipe_to_json_ld, recipes_to_json_ld
from potrel.formats.recipe_page import BadRecipeFile, is_foreign, read_foreign
from potrel.formats.recipe_text import markdown, plain_text
from tests.kitchens import DAY, demo

# The vocabulary of schema.org as the package `schema-dts` 2.1.0 of npm carries it (made from schema.org's own definitions).
_VOCABULARY = Path(__file__).parents[2] / "web" / "node_modules" / "schema-dts" / "dist" / "schema.d.ts"
_INTERFACE = re.compile(r"^(?:export )?interface (\w+)Base extends ([\w, ]+) \{\n(.*?)^\}", re.MULTILINE | re.DOTALL)


@cache
def vocabulary() -> dict[str, tuple[list[str], dict[str, str]]]:
    """By type: what it extends, and its own properties with what they may be."""
    found: dict[str, tuple[list[str], dict[str, str]]] = {}
    text = _VOCABULARY.read_text()
    for name, bases, body in _INTERFACE.findall(text):
        properties = dict(re.findall(r'^    "(\w+)"\?: SchemaValue<(.+?)(?:, "\w+")?>;', body, re.MULTILINE))
        found[name] = [one.strip().removesuffix("Base") for one in bases.split(",")], properties
    for name, base in re.findall(r"^export interface (\w+)Leaf extends (\w+)Base \{", text, re.MULTILINE):
        # One that adds nothing of its own.
        found.setdefault(name, ([base], {}))
    # Those of everything stand in an interface of another shape.
    thing = re.search(r"interface ThingBase extends .*?\{\n(.*?)^\}", text, re.MULTILINE | re.DOTALL)
    assert thing is not None
    found["Thing"] = [], dict(re.findall(r'^    "(\w+)"\?: SchemaValue<(.+?)(?:, "\w+")?>;', thing[1], re.MULTILINE))
    return found


def may_have(kind: str) -> dict[str, str]:
    """All properties of a type, with those of what it extends."""
    bases, own = vocabulary().get(kind, ([], {}))
    properties: dict[str, str] = {}
    for base in bases:
        properties |= may_have(base)
    return properties | own


def bare(recipe: Recipe) -> list[tuple[Any, ...]]:
    """What the format can hold of a recipe's stages: what goes in, how much, how prepared; for how long."""
    return [
        (stage.minutes, [(line.quantity.text, line.item, line.recipe, line.preparations) for line in stage.lines])
        for stage in recipe.stages
    ]


class Out(unittest.TestCase):
    def setUp(self) -> None:
        self.costing = Costing(demo(), DAY)

    def assertInVocabulary(self, value: Any, where: str) -> None:
        if isinstance(value, list):
            for one in value:
                self.assertInVocabulary(one, where)
        elif isinstance(value, dict) and "@type" in value:
            kind = value["@type"]
            self.assertTrue(kind in vocabulary(), f"{where}: there is no {kind}")
            for key, inner in value.items():
                if not key.startswith("@"):
                    self.assertTrue(key in may_have(kind), f"{where}: {kind} has no {key}")
                    self.assertInVocabulary(inner, f"{where}.{key}")

    def test_every_word_is_in_the_vocabulary_of_schema_org(self) -> None:
        self.assertIn("recipeIngredient", may_have("Recipe"))
        self.assertIn("performTime", may_have("HowToDirection"))
        for recipe in self.costing.view.recipes:
            found = recipe_to_json_ld(self.costing, recipe)
            self.assertEqual((found["@context"], found["@type"]), ("https://schema.org", "Recipe"))
            self.assertInVocabulary(found, recipe)
            for url in found.get("suitableForDiet", []):
                self.assertTrue(f'"{url}"' in _VOCABULARY.read_text(), url)

    def test_what_it_says_of_a_pot(self) -> None:
        found = recipe_to_json_ld(self.costing, "leek-potato")
        self.assertEqual(found["recipeYield"], ["31 Bowl of 350 ml", "37 Take-away cup of 300 ml"])
        self.assertEqual(found["totalTime"], "PT52M")
        self.assertEqual(found["estimatedCost"], {"@type": "MonetaryAmount", "currency": "EUR", "value": "23.43"})
        self.assertIn("2.5 kg Leeks, trimmed, sliced EP", found["recipeIngredient"])
        self.assertEqual(found["nutrition"]["servingSize"], "350 ml")
        self.assertNotIn("suitableForDiet", found)
        self.assertIn("https://schema.org/VeganDiet", recipe_to_json_ld(self.costing, "tomato-bean")["suitableForDiet"])
        # Of an incomplete one no cost is told.
        self.assertNotIn("estimatedCost", recipe_to_json_ld(self.costing, "minestrone"))

    def test_what_it_cannot_hold_is_said(self) -> None:
        told = not_held(self.costing.view.recipes["ham-leek"])
        self.assertIn("what is taken out", told)
        self.assertIn("how the trays and pots flow together", told)
        self.assertEqual(not_held(Recipe("pot", "Pot")), [])

    def test_what_goes_out_comes_in_again(self) -> None:
        graph = json.dumps(recipes_to_json_ld(self.costing, self.costing.view.recipes))
        read = {one.name: one for one in read_foreign(graph)}
        self.assertEqual(len(read), len(self.costing.view.recipes))
        for recipe in self.costing.view.recipes.values():
            for text in (read[recipe.name].text, plain_text(self.costing.of(recipe.id), self.costing.view)):
                pasted, _ = understand_paste(text, None, (), (), self.costing)
                with self.subTest(recipe=recipe.name):
                    self.assertEqual([one.text for one in pasted.lines if one.is_open], [])
                    # A stage that nothing goes into is a note of the one before, or has no lines.
                    wanted = [one for one in bare(recipe) if one[1]]
                    self.assertEqual([one for one in bare(pasted.recipe) if one[1]], wanted)

    def test_markdown(self) -> None:
        rows = markdown(self.costing.of("leek-potato"), self.costing.view).splitlines()
        self.assertEqual(rows[0], "# Leek & potato")
        self.assertIn("## Sweat 12 min", rows)
        self.assertIn("- 150 g Butter, salted", rows)


STEPS = [{"@type": "HowToStep", "text": "Sweat the leeks."}, {"@type": "HowToStep", "text": "Add the stock &amp; simmer."}]
RECIPE = {
    "@context": "https://schema.org", "@type": "Recipe", "name": "Leek broth", "recipeYield": "8",
    "recipeIngredient": ["1 kg leeks", "2 l vegetable stock"], "recipeInstructions": STEPS, "totalTime": "PT1H5M",
    "author": {"@type": "Person", "name": "Somebody"},
}  # fmt: skip


_TOLD = ["1. Sweat the leeks.", "2. Add the stock & simmer."]


class In(unittest.TestCase):
    def one(self, document: Any) -> tuple[str, list[str]]:
        (found,) = read_foreign(document if isinstance(document, str) else json.dumps(document))
        return found.text, found.aside

    def test_a_recipe_with_steps(self) -> None:
        text, aside = self.one(RECIPE)
        self.assertEqual(
            text.splitlines(),
            [
                "Leek broth",
                "",
                "Makes 8",
                "",
                "1 kg leeks",
                "2 l vegetable stock",
                "",
                *_TOLD,
            ],
        )
        self.assertEqual(aside, ["who wrote it", "65 min in all"])

    def test_as_others_write_them(self) -> None:
        for document in (
            [RECIPE],
            {"@context": "https://schema.org", "@graph": [{"@type": "WebPage"}, RECIPE]},
            {"@type": "WebPage", "mainEntity": RECIPE},
            {**RECIPE, "@type": ["Recipe", "NewsArticle"]},
            {**RECIPE, "@type": "http://schema.org/Recipe"},
            {**RECIPE, "recipeInstructions": "Sweat the leeks.\nAdd the stock &amp; simmer."},
            {**RECIPE, "recipeInstructions": "<p>Sweat the leeks.</p><p>Add the stock &amp; simmer.</p>"},
            {**RECIPE, "recipeInstructions": {"@type": "ItemList", "itemListElement": STEPS}},
            {**RECIPE, "recipeInstructions": ["Sweat the leeks.", "Add the stock &amp; simmer."], "recipeYield": ["8"]},
        ):
            with self.subTest(str(document)[:90]):
                self.assertEqual(self.one(document)[0], self.one(RECIPE)[0])

    def test_sections_and_their_own_lines(self) -> None:
        amount = {"@type": "QuantitativeValue", "value": 1, "unitText": "kg"}
        supply = {"@type": "HowToSupply", "name": "leeks", "requiredQuantity": amount}
        slowly = {"@type": "HowToDirection", "text": "Slowly, under a lid.", "supply": supply, "performTime": "PT12M"}
        step = {"@type": "HowToStep", "itemListElement": [slowly]}
        section = {"@type": "HowToSection", "name": "Sweat", "itemListElement": [step]}
        text, _ = self.one({**RECIPE, "recipeInstructions": [section, *STEPS[1:]]})
        rows = text.splitlines()
        # What the section names goes in there, the rest at the beginning.
        self.assertLess(rows.index("2 l vegetable stock"), rows.index("Sweat 12 min:"))
        self.assertEqual(rows[rows.index("Sweat 12 min:") + 1 :][:2], ["1 kg leeks", "1. Slowly, under a lid."])
        self.assertEqual(rows.count("1 kg leeks"), 1)

    def test_a_saved_page(self) -> None:
        page = f"""<!doctype html><html><head><script>var a = "{{";</script>
        <script type="application/ld+json">{{"@type": "WebSite", "name": "A site"}}</script>
        <script type='application/ld+json; charset=utf-8'>{json.dumps(RECIPE)}</script></head><body>…</body></html>"""
        self.assertEqual(self.one(page), self.one(RECIPE))
        self.assertTrue(is_foreign(page) and is_foreign(json.dumps(RECIPE)))
        self.assertFalse(is_foreign("Leek broth\n\n1 kg leeks\n2 l stock"))
        for text, words in (
            ("<html><body>1 kg leeks</body></html>", "no application/ld"),
            ('{"@type": "WebSite"}', "no Recipe of schema.org"),
            ('{"@type": "Recipe", "name": ', "JSON is broken"),
            ("[" * 100_000, "JSON is broken"),
            ("{" + " " * (6 * 1024 * 1024), "larger than 5 MB"),
        ):
            with self.subTest(words), self.assertRaisesRegex(BadRecipeFile, words):
                read_foreign(text)

    def test_two_hundred_broken_files(self) -> None:
        # Cut, doubled, with other values in their places: read whole, or refused with words; never half, never a crash.
        dice = random.Random(13)
        whole = json.dumps({"@context": "https://schema.org", "@graph": [RECIPE, {**RECIPE, "name": "Second"}]})
        junk: list[Any] = [
            None,
            True,
            -1,
            1e300,
            "",
            "\x00",
            [],
            {},
            [[[]]],
            {"@type": "Recipe"},
            "x" * 5000,
            "<b",
            "&#x110000;",
        ]
        read, refused, costing = 0, 0, Costing(demo(), DAY)
        for _ in range(200):
            if dice.random() < 0.5:
                at = dice.randrange(len(whole))
                text = (
                    whole[:at]
                    + dice.choice(["", "}", '"', "\\", "\x00", whole[at // 2 : at]])
                    + whole[at + dice.randrange(40) :]
                )
            else:
                document = json.loads(whole)
                for recipe in document["@graph"]:
                    recipe[dice.choice(list(recipe))] = dice.choice(junk)
                text = json.dumps(document)
            try:
                found = read_foreign(text)
            except PotrelError as error:
                refused += 1
                self.assertTrue(str(error))
            else:
                read += 1
                for one in found:
                    self.assertTrue(one.name and one.text.startswith(one.name[:20]))
                    # What it is too much for, is refused with words, too.
                    with suppress(PotrelError):
                        understand_paste(one.text, None, (), (), costing)
        self.assertGreater(min(read, refused), 30)

    def test_times(self) -> None:
        text, _ = self.one({**RECIPE, "recipeInstructions": [
            {"@type": "HowToSection", "name": "Simmer", "itemListElement": [
                {"@type": "HowToDirection", "text": "Gently.", "performTime": "PT1H30M"}]}]})  # fmt: skip
        self.assertIn("Simmer 90 min:", text)
        pasted, _ = understand_paste(text, None, (), (), Costing(demo(), DAY))
        self.assertEqual(pasted.recipe.stages[-1].minutes, Decimal(90))
