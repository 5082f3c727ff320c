"""Allergens followed through stocks and garnishes, under both lists."""

from __future__ import annotations

import unittest
from dataclasses import replace
from typing import Any

from potrel.core.cost.costing import Costing
from potrel.core.kitchen.settings import AllergenList
from potrel.core.rooms.allergens import AllergenMatrix, allergen_matrix, allergens_of
from potrel.core.rooms.labels import allergen_of, groups_of, known_allergens, may_hide
from tests.kitchens import DAY, demo, item, kitchen

# EU Regulation 1169/2011 Annex II, value from memory.
_EU = {"Cereals containing gluten", "Crustaceans", "Eggs", "Fish", "Peanuts", "Soybeans", "Milk", "Nuts", "Celery", "Mustard",
       "Sesame", "Sulphites over 10 mg/kg", "Lupin", "Molluscs"}  # fmt: skip
# US FALCPA 2004 and FASTER Act 2021, value from memory.
_US = {"Milk", "Egg", "Fish", "Crustacean shellfish", "Tree nuts", "Wheat", "Peanuts", "Soy", "Sesame"}

_DOTS = (
    "prawns, shrimps, lobster, mussel, oyster, squid, scallops, pistachio, pecan, Brazil nut, macadamia, pine nuts, malt,"
    " semolina, oat, butter, cream, whey, casein, tahini, sulphite, SO2, groundnut, anchovies, lupins, tree nut, milk protein,"
    " barley malt extract, whole egg powder"
)

STOCK = {"id": "stock", "name": "Stock", "stages": [{"id": "s", "lines": [
    {"item": "cube", "quantity": "1 each"}, {"item": "water", "quantity": "9 l"}]}]}  # fmt: skip
SOUP = {"id": "soup", "name": "Soup", "stages": [{"id": "s", "lines": [{"recipe": "stock", "quantity": "5 l"}]}], "servings": [
    {"id": "b", "name": "Bowl", "size": "250 ml", "garnish": [{"item": "nut", "quantity": "5 g"}]}]}  # fmt: skip
ITEMS: list[dict[str, Any]] = [
    {"id": "cube", "name": "Vegetable stock cube", "allergens": ["celery", "kiwi"]},
    {"id": "nut", "allergens": ["hazelnuts", "milk"]},
    {"id": "water", "density": "1"},
]


# Name, what is noted, and what may hide in it.
_HIDDEN = [
    ("Leeks", ""), ("Curly kale", ""), ("Squash cubes, ready cut", ""), ("Champignons", ""), ("Butternut squash", ""),
    ("Butter beans", ""), ("Coconut cream", "sulphites"), ("Cornflour", ""), ("Rice flour", ""),
    ("Peanut butter", "peanuts", ""), ("Pale ale", "gluten-beside-wheat"), ("Beer", "barley", ""),
    ("Chicken stock, carton", "celery gluten soy milk"), ("Hams", "sulphites milk soy"),
    ("Bread with bacon", "sesame", "soya", "milk", "gluten sulphites"), ("Red wine", "sulphites", "milk eggs"),
    ("Red wine vinegar", "sulphites", ""), ("Soy sauce", "soy", "wheat", ""),
    ("Worcestershire sauce", "fish gluten-beside-wheat"), ("Plain flour", "gluten"), ("Soup pasta", "wheat", "eggs"),
    ("Prawns", "crustaceans sulphites"), ("Tahini", "sesame"), ("Mayonnaise", "eggs mustard"),
    ("Thai paste", "crustaceans fish mustard"), ("Kimchi", "fish crustaceans soy"),
    ("Malt vinegar", "sulphites gluten-beside-wheat"), ("Dried apricots", "sulphites"),
    ("Gravy granules", "celery gluten soy milk"), ("Demi-glace", "celery gluten soy milk"),
    ("Brined brisket", "mustard celery"), ("Surimi", "fish crustaceans eggs gluten"),
    ("Sourdough loaf", "gluten sesame soy milk"), ("Miso", "soy", "gluten gluten-beside-wheat"),
]  # fmt: skip


class Lists(unittest.TestCase):
    def test_both_are_whole(self) -> None:
        self.assertEqual((set(groups_of("eu14")), len(groups_of("eu14"))), (_EU, 14))
        self.assertEqual((set(groups_of("us9")), len(groups_of("us9"))), (_US, 9))

    def test_words_are_told_apart(self) -> None:
        words = [word for one in known_allergens() for word in one.words]
        self.assertEqual(len(words), len(set(words)))
        for noted, found in (("Soya", "soy"), (" Tree nuts ", "nuts"), ("sulfites", "sulphites"), ("wheat", "gluten")):
            allergen = allergen_of(noted)
            self.assertEqual(allergen and allergen.id, found)
        # Bars of words of which each has to leave a dot in both lists, or in the one that names it.
        for noted in _DOTS.split(", "):
            allergen = allergen_of(noted)
            assert allergen is not None, noted
            self.assertTrue(allergen.eu14 or noted == "pine nuts", noted)
        pine = allergen_of("Pine nuts")
        assert pine is not None
        self.assertEqual((pine.eu14, pine.us9), ("", "Tree nuts"))
        for noted in ("gluten-free", "milk free", "kiwi"):
            self.assertIsNone(allergen_of(noted), noted)

    def test_the_demo_notes_only_what_the_lists_know(self) -> None:
        for one in demo().items:
            for word in one.allergens:
                self.assertIsNotNone(allergen_of(word), f"{one.name}: {word}")


class Matrix(unittest.TestCase):
    def matrix(self, which: AllergenList) -> AllergenMatrix:
        made = kitchen(ITEMS, [SOUP, STOCK], {"cube": "1", "nut": "1", "water": "0"}, allergen_list=which)
        return allergen_matrix(Costing(made, DAY))

    def test_through_the_stock_and_the_garnish(self) -> None:
        (row,) = self.matrix("eu14").rows
        cells = {cell.group: (cell.items, cell.beside) for cell in row.cells}
        # The weight of a cube is not known: it counts all the same.
        self.assertFalse(row.complete)
        self.assertEqual(cells, {"Celery": (["Vegetable stock cube"], False), "Milk": (["Nut"], True), "Nuts": (["Nut"], True)})
        self.assertEqual(row.others, ["kiwi"])

    def test_what_may_be_had_with_it_is_beside_it(self) -> None:
        fish = {"id": "fish", "name": "Smoked fish", "allergens": ["fish"]}
        toast = {"id": "toast", "name": "Fish toast", "stages": [{"id": "s", "lines": [{"item": "fish", "quantity": "1 kg"}]}]}
        more = [{"recipe": "toast", "quantity": "50 g", "surcharge": "2"}]
        bowl: dict[str, Any] = {**dict[str, Any](SOUP)["servings"][0], "add_ons": more}
        costing = Costing(kitchen([*ITEMS, fish], [STOCK, toast, {**SOUP, "servings": [bowl]}]), DAY)
        row = allergens_of(costing.view, costing.of("soup"))
        (cell,) = [cell for cell in row.cells if cell.group == "Fish"]
        self.assertEqual((cell.items, cell.beside), (["Smoked fish"], True))
        self.assertIn("Smoked fish", [label.name for label in allergen_matrix(costing).to_read])

    def test_what_the_other_list_does_not_name_is_still_told(self) -> None:
        (row,) = self.matrix("us9").rows
        self.assertEqual([cell.group for cell in row.cells], ["Milk", "Tree nuts"])
        self.assertEqual(row.others, ["celery", "kiwi"])

    def test_labels_to_read(self) -> None:
        (row,) = self.matrix("eu14").rows
        asked = "Vegetable stock cube: look for wheat or other gluten, soy, milk, often in stock cubes, bases and gravies"
        self.assertEqual(row.ask, [asked])
        self.assertEqual(row.asked, ["Cereals containing gluten", "Soybeans", "Milk"])
        # Common practice, no source: what the label of such a thing is read for.
        for name, *noted, wanted in _HIDDEN:
            found = may_hide(item({"id": "x", "name": name, "allergens": noted}))
            missing = {one.id for _, allergens in found for one in allergens}
            self.assertEqual(missing, set(wanted.split()), name)

    def test_nobody_looked_is_not_none(self) -> None:
        (row,) = self.matrix("eu14").rows
        self.assertEqual(row.unchecked, ["Nut", "Vegetable stock cube", "Water"])
        # What comes out of the tap has no label.
        made = kitchen([{**one, "kind": "water"} if one["id"] == "water" else one for one in ITEMS], [SOUP, STOCK])
        (row,) = allergen_matrix(Costing(made, DAY)).rows
        self.assertEqual(row.unchecked, ["Nut", "Vegetable stock cube"])
        self.assertEqual([one.name for one in allergen_matrix(Costing(made, DAY)).to_read], row.unchecked)

    def test_a_check_holds_for_the_article_that_was_checked(self) -> None:
        offer: dict[str, Any] = {"supplier": "shop", "code": "A1", "gtin": None}
        for article, holds in ((offer, True), ({**offer, "code": "A2"}, False), ({**offer, "supplier": "other"}, False)):
            checked = [{**one, "allergen_check": {"on": "2026-11-01", "by": "Ada", **article}} for one in ITEMS]
            made = kitchen(checked, [SOUP, STOCK], {"cube": "1", "nut": "1", "water": "0"})
            made = replace(made, offers=tuple(replace(one, code="A1") for one in made.offers))
            (row,) = allergen_matrix(Costing(made, DAY)).rows
            self.assertEqual(row.unchecked == [], holds, article)
            # A label that was read is asked about no more.
            self.assertEqual(row.ask == [], holds)

    def test_the_cereal_and_the_nut_are_named(self) -> None:
        (row,) = self.matrix("eu14").rows
        self.assertEqual({cell.group: cell.words for cell in row.cells}["Nuts"], ["hazelnuts"])

    def test_what_a_seasoning_allowance_covers(self) -> None:
        for covers, groups, asks in ([], [], True), (["celery salt"], ["Celery"], False), (["curry powder"], [], True):
            made = kitchen([{"id": "water", "density": "1"}], [{"stages": [{"id": "s", "lines": [
                {"item": "water", "quantity": "1 l"}]}], "seasoning_allowance": "0.02", "allowance_covers": covers,
                "servings": [{"id": "b", "name": "Bowl", "size": "250 ml"}]}], {"water": "0"})  # fmt: skip
            (row,) = allergen_matrix(Costing(made, DAY)).rows
            self.assertEqual(([cell.group for cell in row.cells], bool(row.ask)), (groups, asks))

    def test_an_allowance_of_the_kitchens_own_thing_brings_its_allergens(self) -> None:
        items: list[dict[str, Any]] = [
            {"id": "water", "density": "1"},
            {"id": "sauce", "name": "Brown sauce", "allergens": ["fish"]},
        ]
        of = kitchen(items, [
            {"stages": [{"id": "s", "lines": [{"item": "water", "quantity": "1 l"}]}], "allowance_covers": ["brown sauce"],
             "servings": [{"id": "b", "name": "Bowl", "size": "250 ml"}]}], {"water": "0"})  # fmt: skip
        (row,) = allergen_matrix(Costing(of, DAY)).rows
        self.assertEqual({cell.group: cell.items for cell in row.cells}["Fish"], ["brown sauce (allowance)"])

    def test_every_matrix_carries_the_caution(self) -> None:
        self.assertIn("not clearance", self.matrix("us9").caution)
