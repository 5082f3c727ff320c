"""Lines as cooks type them."""

from __future__ import annotations

import unittest
from dataclasses import replace
from decimal import Decimal
from pathlib import Path
from typing import Any

from potrel.core.kitchen.kinds import plain
from potrel.core.pot.day_view import DayView
from potrel.core.trim.shelf import shelf
from potrel.core.words.typed_line import TypedLine, read_line
from tests.kitchens import DAY, demo, kitchen


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
            "3 bay leaves": {"item": "bay", "quantity": "3 leaf"},
            "500 ml cream": {"item": "cream"},
            "1 lb 4 oz butter": {"item": "butter", "quantity": "1 lb 4 oz"},
            "1 kg 250 g swede": {"item": "swede", "quantity": "1 kg 250 g"},
            "1 kg 3 oz swede": {"item": "swede", "quantity": "1085.048569375 g"},
            "1 l 2 tbsp milk": {"item": "milk", "quantity": "1030 ml"},
            "2 tins of plum tomatoes": {"item": "plum-tomato", "quantity": "2 tin"},
        }
        for text, fields in expected.items():
            with self.subTest(text):
                line = self.read(text).line
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
            ("leeks", "how much Leeks?"),
            ("0 kg leeks", "more than 0"),
            ("3 kg", "names no ingredient"),
            ("3 kg leeks flambéed", 'nothing here is called "leeks flambéed"'),
            ("", "say how much"),
        ):
            with self.subTest(text):
                found = self.read(text)
                self.assertIsNone(found.line)
                self.assertIn(words, str(found.problem))


_TABLE = Path(__file__).parent / "typed_lines.txt"


class TheTable(unittest.TestCase):
    """Hundreds of lines of every kind of writing: each is taken for what it means, or asked about; never something else."""

    def test_every_line(self) -> None:
        bare = replace(demo(), items=(), recipes=(), offers=(), tests=(), credits=(), comparisons=())
        views = {
            "[demo]": DayView(demo(), DAY),
            "[empty]": DayView(bare, DAY),
            "[shelf]": DayView(replace(bare, items=tuple(known.item for known in shelf())), DAY),
        }
        checked, view = 0, views["[demo]"]
        for row in _TABLE.read_text(encoding="utf-8").splitlines():
            if row in views:
                view = views[row]
            elif row and not row.startswith("#"):
                (sign,) = [one for one in (" => ", " ? ", " ! ", " ~ ") if one in row]
                typed, wanted = row.split(sign)
                with self.subTest(typed):
                    self.assertEqual(_told(read_line(typed, view), sign, wanted), sign + wanted)
                checked += 1
        self.assertGreaterEqual(checked, 400)


def _told(found: TypedLine, sign: str, wanted: str) -> str:
    """What a line was taken for, in the words of the table."""
    line = found.line
    if found.is_to_taste:
        return " ~ " + "; ".join([*filter(None, [found.by_target]), *(f'"{one}"' for one in found.covers)])
    if line is None:
        offered = {f"{one.kind}:{one.id}" for one in found.candidates}
        asked = "".join(f" {one}" for one in wanted.split()[1:] if one in offered)
        return f" ? {found.problem_code}{asked}"
    if found.needs_weight is not None:
        return f" ! {found.needs_weight}"
    beside = line.byproduct or line.note
    parts = [
        plain(line.quantity.amount),
        line.quantity.unit,
        line.item or line.recipe or "",
        "EP" if line.basis == "EP" else "",
    ]
    parts += ["/" + ",".join(line.preparations) if line.preparations else "", f'"{beside}"' if beside else ""]
    return " => " + " ".join(part for part in parts if part)


class Answers(unittest.TestCase):
    def test_to_choose_an_item_never_changes_amount_or_unit(self) -> None:
        view = DayView(demo(), DAY)
        written = ("2 qts", "3 c.", "2 T", "5#", "1 1/2 lb", "2 EL", "4 sprigs", "3 dl", "2 heaped tsp", "a third of a cup of")
        units = ("quart", "cup", "tbsp", "lb", "lb", "tbsp", "sprig", "dl", "tsp", "cup")
        for one in view.kitchen.items:
            for amount, unit in zip(written, units, strict=True):
                line = read_line(f"{amount} something of ours", view, one.id).line
                with self.subTest(item=one.id, amount=amount):
                    assert line is not None
                    self.assertEqual((line.item, line.quantity.unit), (one.id, unit))

    def test_what_is_meant_is_taken_with_the_cut_and_the_amount(self) -> None:
        view = DayView(demo(), DAY)
        line = read_line("2 kg of those white roots, peeled", view, "parsnip").line
        assert line is not None
        self.assertEqual((line.item, line.quantity.text, line.preparation), ("parsnip", "2 kg", "peeled"))
        line = read_line("2 l stock", view, made_by="white-stock").line
        assert line is not None
        self.assertEqual((line.recipe, line.quantity.text), ("white-stock", "2 l"))

    def test_what_may_be_a_thing_of_ours_is_asked_before_the_shelf(self) -> None:
        ours = DayView(kitchen([{"id": "peas", "name": "Split peas green"}, {"id": "seed", "name": "Celery seed"}], []), DAY)
        found = read_line("1 kg split peas", ours)
        self.assertIsNone(found.only)
        self.assertEqual([one.name for one in found.candidates][:2], ["Split peas green", "Split peas"])
        # The seed is another thing.
        self.assertEqual(read_line("1 kg celery", ours).only, "celery")

    def test_a_stock_that_nobody_has_may_be_made_or_bought(self) -> None:
        empty = DayView(kitchen([], []), DAY)
        found = read_line("2 l chicken stock", empty)
        self.assertEqual((found.candidates[0].kind, found.candidates[0].id), ("base", "chicken-stock"))
        self.assertIn("Chicken stock, carton", [one.name for one in found.candidates])
        self.assertEqual((found.amount, found.line), ("2 l", None))
        # No carton or cube is made here, and no stock that the kitchen makes already.
        self.assertNotIn("base", [one.kind for one in read_line("2 chicken stock cubes", empty).candidates])
        made = DayView(kitchen([], [{"id": "chicken-stock", "name": "Chicken stock", "stages": []}]), DAY)
        self.assertEqual(getattr(read_line("2 l chicken stock", made).line, "recipe", None), "chicken-stock")

    def test_a_preparation_of_the_shelf_is_one(self) -> None:
        view = DayView(kitchen([{"id": "l", "name": "Leeks"}], []), DAY)
        asked = read_line("2 kg leeks, trimmed and sliced", view)
        self.assertEqual((asked.problem_code, asked.candidates[0].name), ("which_preparation", "green tops off, sliced"))
        found = read_line("2 kg leeks, trimmed and sliced, green tops off, sliced", view)
        assert found.line is not None and found.adds is not None
        self.assertEqual((found.line.preparation, found.adds.id, found.adds.yield_), ("sliced", "sliced", Decimal("0.44")))
