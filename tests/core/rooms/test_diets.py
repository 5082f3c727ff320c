"""For whom a pot is: what nobody said is never a yes, and what decides is named."""

from __future__ import annotations

import unittest
from typing import Any

from potrel.core.cost.costing import Costing
from potrel.core.rooms.allergens import allergen_matrix
from potrel.core.rooms.diets import ORIGINS, diets, verdicts
from potrel.core.trim.shelf import shelf
from tests.kitchens import DAY, d, demo, kitchen


def answers(
    *origins: list[str], allowance: str = "0", covers: tuple[str, ...] = (), **more: Any
) -> dict[str, tuple[str, list[str]]]:
    items: list[dict[str, Any]] = [
        {"id": f"i{n}", "name": f"Thing {n}", "origin": origin, **more} for n, origin in enumerate(origins)
    ]
    items.append({"id": "water", "kind": "water"})
    lines = [{"item": one["id"], "quantity": "1 kg"} for one in items]
    pot = {"stages": [{"id": "s", "lines": lines}], "seasoning_allowance": allowance, "allowance_covers": list(covers)}
    costing = Costing(kitchen(items, [pot], {one["id"]: "1" for one in items}), DAY)
    return {one.diet: (one.answer, one.because) for one in verdicts(costing.of("pot"), costing.view)}


class Diets(unittest.TestCase):
    def test_a_plant_pot_is_for_all(self) -> None:
        self.assertEqual({answer for answer, _ in answers(["plant"], ["plant", "mineral"]).values()}, {"yes"})

    def test_what_decides_is_named(self) -> None:
        found = answers(["plant"], ["milk"], ["milk", "rennet"])
        self.assertEqual(found["vegan"], ("no", ["Thing 1", "Thing 2"]))
        self.assertEqual(found["vegetarian"], ("no", ["Thing 2"]))
        self.assertEqual(found["no-egg"][0], "yes")

    def test_nobody_said_is_never_a_yes(self) -> None:
        for origin in ([], ["unheard-of"]):
            found = answers(["plant"], origin)
            self.assertEqual({answer for answer, _ in found.values()}, {"not_known"})
            self.assertEqual(found["vegan"][1], ["Thing 1"])

    def test_meat_of_an_unnamed_beast_may_be_pork(self) -> None:
        found = answers(["meat"])
        self.assertEqual((found["vegan"][0], found["no-pork"][0], found["no-milk"][0]), ("no", "not_known", "yes"))
        self.assertEqual(answers(["gelatine"])["no-pork"][0], "not_known")
        self.assertEqual(answers(["poultry"])["no-pork"][0], "yes")

    def test_a_drink_with_strength_holds_alcohol_whatever_it_says(self) -> None:
        found = answers(["plant"], density="1", composition={"abv": "0.12"})
        self.assertEqual(found["no-alcohol"][0], "no")

    def test_an_allergen_on_the_label_says_what_it_comes_from(self) -> None:
        # A margarine that is said to be of plants, and whose label names milk: the label decides.
        found = answers(["plant"], allergens=["whey powder", "Crab"])
        self.assertEqual((found["vegan"], found["no-milk"][0]), (("no", ["Thing 0"]), "no"))
        self.assertEqual((found["no-fish"][0], found["no-egg"][0]), ("no", "yes"))
        # The rest of a thing of which nobody said more stays unknown.
        found = answers([], allergens=["milk"])
        self.assertEqual((found["vegan"][0], found["no-milk"][0], found["no-pork"][0]), ("no", "no", "not_known"))

    def test_a_label_that_nobody_read_and_often_hides_something_is_a_question(self) -> None:
        def of(check: dict[str, str] | None) -> dict[str, str]:
            item = {"id": "cube", "name": "Vegetable stock cube", "origin": ["plant", "mineral"], "allergen_check": check}
            pot = {"stages": [{"id": "s", "lines": [{"item": "cube", "quantity": "1 kg"}]}]}
            costing = Costing(kitchen([item], [pot], {"cube": "1"}), DAY)
            return {one.diet: one.answer for one in verdicts(costing.of("pot"), costing.view)}

        unread = of(None)
        self.assertEqual((unread["vegan"], unread["no-milk"], unread["vegetarian"]), ("not_known", "not_known", "yes"))
        read = of({"on": DAY.isoformat(), "by": "Wren", "supplier": "shop"})
        self.assertEqual((read["vegan"], read["no-milk"]), ("yes", "yes"))

    def test_a_seasoning_that_is_not_told_is_a_question(self) -> None:
        self.assertEqual(answers(["plant"], allowance="0.02")["vegan"][0], "not_known")
        self.assertEqual(answers(["plant"], allowance="0.02", covers=("salt",))["vegan"][0], "yes")
        # What a curry powder is made of, its label says.
        self.assertEqual(answers(["plant"], allowance="0.02", covers=("curry powder",))["vegan"][0], "not_known")

    def test_what_is_served_with_it_counts(self) -> None:
        items: list[dict[str, Any]] = [
            {"id": "leek", "origin": ["plant"]},
            {"id": "cheese", "origin": ["milk", "rennet"]},
            {"id": "cup", "kind": "packaging"},
        ]
        bowl = {"id": "b", "name": "B", "size": "100 g", "garnish": [{"item": "cheese", "quantity": "5 g"}],
                "packaging": [{"item": "cup", "quantity": "10 g"}]}  # fmt: skip
        pot = {"stages": [{"id": "s", "lines": [{"item": "leek", "quantity": "1 kg"}]}], "servings": [bowl]}
        costing = Costing(kitchen(items, [pot], {"leek": "1", "cheese": "9", "cup": "3"}), DAY)
        told = {one.diet: one.answer for one in verdicts(costing.of("pot"), costing.view)}
        self.assertEqual((told["vegetarian"], told["no-fish"]), ("no", "yes"))


class OnTheShelf(unittest.TestCase):
    def test_every_word_is_one_that_is_understood(self) -> None:
        for one in shelf():
            self.assertLessEqual(set(one.item.origin), set(ORIGINS), one.item.name)
        for diet in diets():
            self.assertLessEqual(diet.refuses | diet.in_doubt, set(ORIGINS), diet.id)

    def test_what_is_no_plant_is_never_said_to_be_one(self) -> None:
        animal = {"meat", "fish", "bones", "dairy"}
        plain = {one.item.id for one in shelf() if one.item.kind in animal and one.item.origin == ("plant",)}
        self.assertEqual(plain, {"oat-drink", "soy-drink"})


class OnOneSheet(unittest.TestCase):
    def test_beside_the_allergens(self) -> None:
        found = allergen_matrix(Costing(demo(), DAY))
        self.assertEqual([row.recipe for row in found.fed], [row.recipe for row in found.rows])
        fed = {row.recipe: row for row in found.fed}
        tomato = fed["tomato-bean"]
        self.assertGreater(tomato.values["energy_kcal"] or 0, 100)
        self.assertEqual({one.diet: one.answer for one in tomato.diets}["vegan"], "yes")
        ham = {one.diet: one for one in fed["ham-leek"].diets}
        self.assertEqual((ham["no-pork"].answer, ham["no-pork"].because), ("no", ["Smoked ham hocks"]))
        self.assertGreater(fed["beetroot-shin"].values["alcohol_g"] or 0, d("0.05"))
        self.assertIn("no clearance", found.diets_caution)
