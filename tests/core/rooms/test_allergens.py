"""Allergens followed through stocks and garnishes, under both lists."""

from __future__ import annotations

import unittest
from typing import Any

from potrel.core.cost.costing import Costing
from potrel.core.kitchen.settings import AllergenList
from potrel.core.rooms.allergens import AllergenMatrix, allergen_matrix, allergen_of, groups_of, known_allergens, may_hide
from tests.kitchens import DAY, demo, item, kitchen

# EU Regulation 1169/2011 Annex II, value from memory.
_EU = {"Cereals containing gluten", "Crustaceans", "Eggs", "Fish", "Peanuts", "Soybeans", "Milk", "Nuts", "Celery", "Mustard",
       "Sesame", "Sulphites over 10 mg/kg", "Lupin", "Molluscs"}  # fmt: skip
# US FALCPA 2004 and FASTER Act 2021, value from memory.
_US = {"Milk", "Egg", "Fish", "Crustacean shellfish", "Tree nuts", "Wheat", "Peanuts", "Soy", "Sesame"}

STOCK = {"id": "stock", "name": "Stock", "stages": [{"id": "s", "lines": [
    {"item": "cube", "quantity": "1 each"}, {"item": "water", "quantity": "9 l"}]}]}  # fmt: skip
SOUP = {"id": "soup", "name": "Soup", "stages": [{"id": "s", "lines": [{"recipe": "stock", "quantity": "5 l"}]}], "servings": [
    {"id": "b", "name": "Bowl", "size": "250 ml", "garnish": [{"item": "nut", "quantity": "5 g"}]}]}  # fmt: skip
ITEMS: list[dict[str, Any]] = [
    {"id": "cube", "name": "Vegetable stock cube", "allergens": ["celery", "kiwi"]},
    {"id": "nut", "allergens": ["hazelnuts", "milk"]},
    {"id": "water", "density": "1"},
]


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

    def test_what_the_other_list_does_not_name_is_still_told(self) -> None:
        (row,) = self.matrix("us9").rows
        self.assertEqual([cell.group for cell in row.cells], ["Milk", "Tree nuts"])
        self.assertEqual(row.others, ["celery", "kiwi"])

    def test_labels_to_read(self) -> None:
        (row,) = self.matrix("eu14").rows
        self.assertEqual(row.ask, ["Vegetable stock cube: look for gluten, soy, milk, often in stock cubes and bases"])
        self.assertIsNone(may_hide(item({"id": "leek"})))
        for name in ("Curly kale", "Squash cubes, ready cut", "Champignons"):
            self.assertIsNone(may_hide(item({"id": "x", "name": name})), name)
        for name, where in (("Pale ale", "beer"), ("Chicken stock, carton", "stock cubes and bases"), ("Hams", "cured meat")):
            found = may_hide(item({"id": "x", "name": name}))
            assert found is not None
            self.assertEqual(found[0].where, where)
        # What is noted of one kind does not hide what another kind may hold.
        found = may_hide(item({"id": "x", "name": "Bread with bacon", "allergens": ["sesame", "soya", "milk"]}))
        assert found is not None
        self.assertEqual((found[0].where, found[1]), ("cured meat", ["sulphites"]))
        self.assertIsNone(may_hide(item({"id": "wine", "name": "Red wine", "allergens": ["sulphites"]})))

    def test_every_matrix_carries_the_caution(self) -> None:
        self.assertIn("not clearance", self.matrix("us9").caution)
