"""Cautions come by themselves, at the stage where something can hurt. Common practice, or the source that its table names."""

from __future__ import annotations

import unittest
from typing import Any

from potrel.core.errors import BadDocument
from potrel.core.kitchen.methods import check_methods, method_called, methods
from potrel.core.pot.cautions import cautions
from potrel.core.pot.day_view import DayView
from potrel.core.tables import table
from tests.kitchens import DAY, kitchen, recipe

_KINDS = {"Chicken carcasses": "bones", "Beef shin": "meat"}
# Method, lid, what goes in, and the cautions that have to come (beside that of cooling, which always does).
_STAGES: list[tuple[str | None, str | None, tuple[str, ...], set[str]]] = [
    ("blend", None, (), {"stick"}),
    ("fry", None, ("Smoked bacon",), {"spitting"}),
    ("Frying", None, ("Smoked bacon",), {"spitting"}),
    ("simmer", "on", ("Carrots",), {"steam"}),
    ("roast", "covered_then_open", ("Carrots",), {"steam"}),
    ("steam", None, ("Carrots",), {"steamer"}),
    ("reduce", None, ("Red wine",), {"spirits"}),
    ("reduce", None, ("Red wine vinegar",), set()),
    ("soak", None, ("Red wine",), set()),
    ("simmer", None, ("Red kidney beans, dry",), {"beans"}),
    ("simmer", None, ("Kidney beans, canned",), {"cans"}),
    ("soak", None, ("Cannellini beans",), {"beans"}),
    ("simmer", None, ("Green beans",), set()),
    ("pressure", None, ("Carrots",), {"pressure"}),
    ("slow", None, ("Carrots",), {"slow"}),
    ("simmer", None, ("Whole milk",), {"dairy"}),
    ("simmer", None, ("Coconut milk",), set()),
    ("finish", None, ("Whole milk",), set()),
    ("simmer", None, ("Cream 35%",), set()),
    ("simmer", None, ("Bay leaves",), {"bay"}),
    ("simmer", None, ("Chicken carcasses",), {"bones", "poultry"}),
    ("simmer", None, ("Chicken stock",), set()),
    ("simmer", None, ("Leeks",), {"grit"}),
    ("simmer", None, ("Mussels, in the shell",), {"grit", "shellfish"}),
    ("simmer", None, ("Mackerel",), {"histamine"}),
    ("finish", None, ("Egg yolk",), {"yolk"}),
    ("simmer", None, ("Egg noodles",), set()),
    ("boil", None, ("Long-grain rice",), {"rice"}),
    ("simmer", None, ("Rice vinegar",), set()),
    ("simmer", None, ("Potatoes, floury",), {"potato"}),
    ("simmer", None, ("Sweet potatoes",), set()),
    ("soak", None, ("Lupin beans",), {"lupin"}),
    ("finish", None, ("Wild garlic leaves",), {"foraged"}),
    ("finish", None, ("Garlic", "Olive oil"), {"garlic-oil"}),
    ("fry", None, ("Garlic", "Olive oil"), {"spitting"}),
    ("strain", None, (), set()),
    (None, None, ("Carrots",), set()),
]


def _id(name: str) -> str:
    return "-".join("".join(c if c.isalnum() else " " for c in name).lower().split())


def _told(*stages: dict[str, Any], items: tuple[str, ...] = (), **more: Any) -> dict[str, set[str]]:
    """The cautions of a pot by stage."""
    goods = [{"id": _id(name), "name": name, "kind": _KINDS.get(name, "other")} for name in items]
    made = kitchen(goods, [{"stages": list(stages), **more}])
    found: dict[str, set[str]] = {}
    for one in cautions(made.recipes[0], DayView(made, DAY)):
        found.setdefault(one.stage, set()).add(one.id)
    return found


def _lines(*names: str) -> list[dict[str, str]]:
    return [{"item": _id(name), "quantity": "1 kg"} for name in names]


class Cautions(unittest.TestCase):
    def test_each_comes_where_it_is_due(self) -> None:
        for method, lid, names, wanted in _STAGES:
            with self.subTest(method=method, lid=lid, names=names):
                stage = {"id": "s", "method": method, "lid": lid, "lines": _lines(*names)}
                self.assertEqual(_told(stage, items=names)["s"] - {"cooling"}, wanted)

    def test_what_is_taken_out_is_not_asked_for(self) -> None:
        names = ("Bay leaves", "Chicken carcasses")
        simmer = {"id": "s", "method": "simmer", "lines": _lines(*names)}
        gone = [
            {"name": "spent bones", "of": ["chicken-carcasses"], "spent_factor": "1"},
            {"name": "bay leaves", "mass": "1 g"},
        ]
        self.assertEqual(_told({**simmer, "take_out": gone}, items=names)["s"] & {"bay", "bones"}, set())
        # Or all of it goes through a sieve later.
        strain = {"id": "t", "method": "strain", "from": [{"stage": "s"}]}
        self.assertEqual(_told(simmer, strain, items=names)["s"] & {"bay", "bones"}, set())

    def test_cooling_is_told_last_and_garnish_with_it(self) -> None:
        stages: list[dict[str, Any]] = [{"id": "a"}, {"id": "b", "method": "finish", "from": [{"stage": "a"}]}]
        servings = [{"id": "x", "name": "Bowl", "size": "250 ml", "garnish": _lines("Nuts")}]
        self.assertEqual(_told(*stages, items=("Nuts",), servings=servings), {"b": {"cooling", "garnish"}})

    def test_every_caution_has_its_source(self) -> None:
        for row in table("cautions.csv"):
            self.assertTrue(row["source"] and row["text"].endswith("."), row["id"])
            self.assertLess(len(row["text"]), 130, row["id"])


class Methods(unittest.TestCase):
    def test_words_of_kitchens(self) -> None:
        for text, wanted in (
            ("Roast", "roast"),
            ("roasting", "roast"),
            ("Sauté", "fry"),
            ("blanch", "boil"),
            ("braised", "braise"),
        ):
            found = method_called(text)
            self.assertEqual(found and found.id, wanted)
        words = [word for one in methods() for word in one.words]
        self.assertEqual(len(words), len(set(words)))

    def test_an_unknown_one_is_refused_with_the_list(self) -> None:
        check_methods(recipe({"stages": [{"id": "s", "method": "Roasted"}, {"id": "t"}]}))
        with self.assertRaises(BadDocument) as caught:
            check_methods(recipe({"stages": [{"id": "s"}, {"id": "t", "method": "wave at"}]}))
        self.assertEqual(caught.exception.where, "stages[1].method")
        self.assertIn("roast, bake, grill", str(caught.exception))
