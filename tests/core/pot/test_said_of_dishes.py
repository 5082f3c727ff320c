"""Dishes as cooks put them on, and for each exactly which cautions come, what they say, and when a thing is done there.

Common practice, or the source that the tables name beside each row.
"""

from __future__ import annotations

import unittest
from dataclasses import dataclass
from decimal import Decimal
from typing import Any

from potrel.core.kitchen.kitchen import Kitchen
from potrel.core.pot.cautions import Caution, cautions
from potrel.core.pot.day_view import DayView
from potrel.core.pot.done_when import Done, done_when
from potrel.core.tables import table
from tests.kitchens import DAY, kitchen

_HOT, _COLD, _CHILLED = "Keep hot", "Keep cold at 5 C", "Cool fast, in shallow trays or ice; keep at 5 C"


@dataclass(frozen=True)
class Dish:
    """A pot: its stages (method, what goes in, more of the stage), each fed by the one before; and what must be said of it."""

    name: str
    stages: tuple[tuple[str, tuple[str, ...], dict[str, Any]], ...]
    said: frozenset[str]
    words: tuple[str, ...] = ()
    vessel: str = "stock-pot"


_KINDS = {
    "Red kidney beans, dry": "pulse", "Black beans, dry": "pulse", "Minced beef": "meat", "Prawns, shell on": "fish",
    "Octopus": "fish", "Mussels": "fish", "Chicken breast": "meat", "Duck legs": "meat", "Asparagus": "vegetable",
    "Potatoes, waxy": "root", "Onions": "allium", "Carrots": "root", "Leeks": "allium", "Potatoes, floury": "root",
}  # fmt: skip
_JUG = "jug-blender"
DISHES = (
    Dish("gazpacho", (("blend", ("Tomatoes", "Cucumber"), {"vessel": _JUG}), ("cool", (), {})),
         frozenset({"jug-cold", "cooling"}), (_COLD,)),
    Dish("vichyssoise", (("sweat", ("Leeks",), {}), ("simmer", ("Potatoes, floury",), {}), ("cool", (), {"vessel": "dish"}),
                         ("blend", ("Cream 35%",), {"vessel": _JUG})),
         frozenset({"grit", "potato", "jug-cold", "cooling"}), (_CHILLED,)),
    Dish("a soup cooled, and heated again to finish it",
         (("simmer", ("Carrots",), {}), ("cool", (), {"vessel": "dish"}), ("finish", ("Cream 35%",), {"heat": "simmer"})),
         frozenset({"cooling"}), (_HOT,)),
    Dish("leek and potato soup",
         (("sweat", ("Leeks",), {}), ("simmer", ("Potatoes, floury",), {}), ("blend", (), {"vessel": _JUG})),
         frozenset({"grit", "potato", "jug", "cooling"}), (_HOT, "63 C (US 57 C)", "70 C for 2 minutes (US 74 C)")),
    Dish("a soup whose recipe says in what it is blended",
         (("simmer", ("Carrots",), {}), ("blend", (), {"note": "Blend in the jug, in batches."})),
         frozenset({"jug", "cooling"}), (_HOT,)),
    Dish("roasted peppers, cold or hot", (("roast", ("Red peppers",), {}), ("blend", ("Tomatoes",), {"vessel": _JUG})),
         frozenset({"jug", "cooling"}), ("Served cold", "Served hot")),
    Dish("kidney beans at a slow heat", (("soak", ("Red kidney beans, dry",), {}), ("slow", ("Onions",), {})),
         frozenset({"beans", "beans-below", "slow", "cooling"}), ("throw that water away", "never boiled hard", _HOT)),
    Dish("kidney beans just under the boil", (("simmer", ("Red kidney beans, dry",), {"heat": "bare_simmer"}),),
         frozenset({"beans", "beans-below", "cooling"}), ("never boiled hard",)),
    Dish("kidney beans boiled hard, then slow",
         (("soak", ("Red kidney beans, dry",), {}), ("boil", (), {}), ("slow", ("Onions",), {})),
         frozenset({"beans", "slow", "cooling"})),
    Dish("black bean soup in its soaking water", (("soak", ("Black beans, dry",), {}), ("boil", (), {})),
         frozenset({"black-beans", "cooling"}), ("hold a toxin",)),
    Dish("prawn soup", (("simmer", ("Prawns, shell on",), {}),), frozenset({"cooling"})),
    Dish("mussel soup", (("simmer", ("Mussels",), {}),), frozenset({"grit", "shellfish", "cooling"}), ("stays open before",)),
    Dish("octopus stew", (("simmer", ("Octopus",), {}),), frozenset({"cooling"})),
    Dish("mince and barley", (("brown", ("Minced beef",), {}), ("simmer", (), {})),
         frozenset({"spitting", "mince", "cooling"}), ("70 C for 2 minutes (US 68 C)",)),
    Dish("cassava soup", (("simmer", ("Cassava", "Taro"), {}),), frozenset({"cassava", "taro", "cooling"}), ("cyanide",)),
    Dish("broth of kelp", (("simmer", ("Kelp",), {}), ("simmer", ("Bean sprouts",), {})),
         frozenset({"kelp", "sprouts", "cooling"}), ("iodine",)),
    Dish("soup of home-canned beans", (("simmer", ("Green beans, home canned",), {}),),
         frozenset({"home-canned", "cans", "cooling"}), ("Boil it 10 minutes",)),
    Dish("Brussels sprouts", (("simmer", ("Brussels sprouts",), {}),), frozenset({"cooling"})),
)  # fmt: skip


def _id(name: str) -> str:
    return "-".join("".join(c if c.isalnum() else " " for c in name).lower().split())


def _pot(dish: Dish, **settings: Any) -> tuple[Kitchen, DayView]:
    names = {name: None for _, lines, _ in dish.stages for name in lines}
    goods = [{"id": _id(name), "name": name, "kind": _KINDS.get(name, "other")} for name in names]
    stages = [
        {"id": f"s{place}", "method": method, "lines": [{"item": _id(name), "quantity": "1 kg"} for name in lines], **more,
         **({"from": [{"stage": f"s{place - 1}"}]} if place else {})}
        for place, (method, lines, more) in enumerate(dish.stages)
    ]  # fmt: skip
    vessels = [{"id": _JUG, "name": "Jug blender"}, {"id": "dish", "name": "Flat dish", "capacity": "4 l"}]
    made = kitchen(goods, [{"stages": stages}], vessels=vessels, **settings)
    return made, DayView(made, DAY)


def said(dish: Dish, **settings: Any) -> list[Caution]:
    """What is said of a dish in a kitchen of some settings."""
    made, view = _pot(dish, **settings)
    return cautions(made.recipes[0], view)


def dish(name: str) -> Dish:
    """A dish by its name."""
    return next(one for one in DISHES if one.name == name)


class EveryPair(unittest.TestCase):
    def test_of_each_dish_and_each_caution_what_is_said_and_what_not(self) -> None:
        known = {row["id"] for row in table("cautions.csv")}
        for one in DISHES:
            found = said(one)
            for caution in known | one.said:
                with self.subTest(dish=one.name, caution=caution):
                    self.assertEqual(caution in {two.id for two in found}, caution in one.said)
            text = " ".join(two.text for two in found)
            for words in one.words:
                self.assertIn(words, text, one.name)

    def test_a_soup_is_kept_hot_or_cold_and_never_both(self) -> None:
        for one in DISHES:
            kept = [two.text for two in said(one) if two.id == "cooling"]
            self.assertEqual(len(kept), 1, one.name)
            if "cold" in kept[0].lower():
                self.assertNotIn("Keep hot", kept[0])


class Codes(unittest.TestCase):
    """FDA Food Code 2022 (3-401.11, 3-403.11, 3-501.16), UK FSA guidance for caterers: values from memory."""

    def text(self, name: str, **settings: Any) -> str:
        return " ".join(one.text for one in said(dish(name), **settings))

    def test_a_us_kitchen_reads_its_own_code_in_its_own_degrees(self) -> None:
        us = {"food_code": "fda", "shown_units": "us"}
        hot = self.text("leek and potato soup", **us)
        self.assertIn("Keep hot at 135 F", hot)
        self.assertIn("165 F", hot)
        self.assertNotIn(" C", hot)
        self.assertIn("41 F", self.text("gazpacho", **us))
        self.assertIn("155 F", self.text("mince and barley", **us))

    def test_a_british_one_reads_only_the_british(self) -> None:
        hot = self.text("leek and potato soup", food_code="fsa")
        self.assertIn("63 C or more", hot)
        self.assertIn("70 C for 2 minutes or more", hot)
        self.assertNotIn("57", hot)


_TIMES: list[tuple[str, str, dict[str, Any], str, str, str]] = [
    ("sweat", "Onions", {}, "3", "15", "golden"),
    ("simmer", "Asparagus", {}, "5", "8", "colour"),
    ("pressure", "Red kidney beans, dry", {}, "10", "45", "soaked"),
    ("slow", "Red kidney beans, dry", {}, "240", "480", "boiled hard before"),
    ("roast", "Carrots", {"lid": "covered_then_open"}, "30", "60", "foil"),
    ("roast", "Carrots", {}, "30", "50", "brown"),
    ("simmer", "Potatoes, waxy", {"heat": "bare_simmer"}, "25", "40", "knife"),
    ("simmer", "Potatoes, waxy", {}, "15", "35", "knife"),
    ("simmer", "Prawns, shell on", {}, "2", "5", "opaque and curled"),
    ("simmer", "Octopus", {}, "45", "90", "skewer"),
    ("simmer", "Mussels", {}, "3", "6", "open"),
    ("poach", "Chicken breast", {}, "12", "20", "inside"),
    ("braise", "Duck legs", {}, "90", "150", "bone"),
]


class Times(unittest.TestCase):
    """Common practice, no source, but where the table names one."""

    def found(self, method: str, name: str, **more: Any) -> Done | None:
        made, view = _pot(Dish("", ((method, (name,), more),), frozenset()))
        return done_when(made.recipes[0].stages[0], view)

    def test_how_long_and_how_a_cook_tells(self) -> None:
        for method, name, more, low, high, words in _TIMES:
            with self.subTest(method=method, name=name, **more):
                found = self.found(method, name, **more)
                assert found is not None
                self.assertEqual((found.low, found.high), (Decimal(low), Decimal(high)))
                self.assertIn(words, found.when)

    def test_only_what_has_two_shells_opens(self) -> None:
        for row in table("done_when.csv"):
            if row["done"].startswith("open"):
                self.assertEqual(set(row["words"].split(";")), {"mussel", "clam", "oyster"})
