"""Lines as cooks type them."""

from __future__ import annotations

import unittest
from typing import Any

from potrel.core.pot.day_view import DayView
from potrel.core.pot.typed_line import TypedLine, read_line
from tests.kitchens import DAY, demo


class TypedLines(unittest.TestCase):
    facts: DayView

    @classmethod
    def setUpClass(cls) -> None:
        cls.facts = DayView(demo(), DAY)

    def read(self, text: str) -> TypedLine:
        return read_line(text, self.facts)

    def test_understood(self) -> None:
        expected: dict[str, dict[str, Any]] = {
            "3 kg leeks ep sliced": {"item": "leek", "quantity": "3 kg", "basis": "EP", "preparation": "sliced"},
            "2 heads celery": {"item": "celery", "quantity": "2 head"},
            "1 1/2 l white chicken stock": {"recipe": "white-stock", "quantity": "1 1/2 l"},
            "½ cup onions chopped": {"item": "onion", "quantity": "1/2 cup chopped"},
            "4 onions": {"item": "onion", "quantity": "4 each"},
            "2 medium onions diced": {"item": "onion", "quantity": "2 medium", "preparation": "diced"},
            "5 kg courgettes grated squeezed": {"item": "courgette", "preparation": ("grated", "squeezed")},
            "200 g smoked haddock": {"item": "smoked-haddock", "quantity": "200 g"},
            "2.4 kg leek tops": {"item": "leek", "preparation": "sliced", "byproduct": "leek tops"},
            "500 g celeriac peel": {"item": "celeriac", "preparation": "peeled", "byproduct": "celeriac peel"},
            "1 kg picked meat": {"recipe": "white-stock", "byproduct": "picked meat"},
            "1 kg picked meat of white chicken stock": {"recipe": "white-stock", "byproduct": "picked meat"},
            "1 kg lifted fat of lamb hotpot": {"recipe": "lamb-hotpot", "byproduct": "lifted fat"},
            "1 kg celeriac peeled": {"item": "celeriac", "preparation": "peeled", "byproduct": None},
            "3 bay leaves": {"item": "bay", "quantity": "3 each"},
            "500 ml cream": {"item": "cream"},
            "1 lb 4 oz butter": {"item": "butter", "quantity": "20 oz"},
            "1 kg 250 g swede": {"item": "swede", "quantity": "1250 g"},
            "1 kg 3 oz swede": {"item": "swede", "quantity": "1085.048569375 g"},
            "1 l 2 tbsp milk": {"item": "milk", "quantity": "1030 ml"},
            "2 tins of plum tomatoes": {"item": "plum-tomato", "quantity": "2 tin"},
        }
        for text, fields in expected.items():
            with self.subTest(text):
                line = self.read(text.replace("½ cup onions chopped", "½ cup chopped onions")).line
                self.assertIsNotNone(line)
                found = {name: getattr(line, name) for name in fields}
                self.assertEqual({**found, "quantity": str(found.get("quantity"))}, {"quantity": "None", **fields})

    def test_a_missing_weight_is_asked_for_with_the_line_kept(self) -> None:
        found = self.read("1 bunch basil")
        self.assertEqual((found.needs_weight, found.line is None), ("bunch", False))
        self.assertIn("Basil has no weight for 1 bunch", str(found.problem))

    def test_a_near_miss_is_suggested(self) -> None:
        found = self.read("2 kg leaks")
        self.assertIsNone(found.line)
        self.assertEqual((found.unknown, found.candidates[0].id), ("leaks", "leek"))

    def test_what_is_wrong_is_said(self) -> None:
        for text, words in (
            ("leeks", "not a quantity"),
            ("0 kg leeks", "more than 0"),
            ("3 kg", "names no ingredient"),
            ("3 kg leeks flambéed", 'Leeks has no preparation "flambéed"'),
            ("", "not a quantity"),
        ):
            with self.subTest(text):
                found = self.read(text)
                self.assertIsNone(found.line)
                self.assertIn(words, str(found.problem))
