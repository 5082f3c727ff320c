"""Kitchen documents: round trips, the schema, and bad ones, each with one clear line."""

from __future__ import annotations

import copy
import json
import unittest
from pathlib import Path
from typing import Any

import jsonschema
from hypothesis import given, settings
from hypothesis import strategies as st

from potrel.core.errors import BadDocument, PotrelError
from potrel.demo import DOCUMENT
from potrel.formats.kitchen_json import kitchen_schema, read_kitchen, write_kitchen
from tests.examples import examples
from tests.kitchens import TINY

Change = tuple[str, Any]


def changed(*changes: Change) -> str:
    """The worked example with values replaced: ("recipes.1.stages.0.lines.0.quantity", "3 furlongs")."""
    document = json.loads(TINY.read_text())
    for path, value in changes:
        *way, last = [int(step) if step.isdigit() else step for step in path.split(".")]
        target: Any = document
        for step in way:
            target = target[step]
        if value is None:
            del target[last]
        else:
            target[last] = value
    return json.dumps(document)


LINE = "recipes.1.stages.0.lines.0"
BAD: dict[str, tuple[str | bytes, str]] = {
    "unknown key": (changed(("recipes.1.stages.0.minuts", "3")), 'unknown key "minuts": did you mean "minutes"?'),
    "unknown key at the top": (changed(("colour", "3")), 'unknown key "colour"'),
    "wrong unit": (changed((f"{LINE}.quantity", "3 furlongs")), 'unknown unit "furlongs"'),
    "wrong unit of a size": (changed(("recipes.1.servings.0.size", "3 bunch")), "a size needs a unit of mass or volume"),
    "wrong unit of a pack": (changed(("offers.0.pack", "10 parsec")), 'unknown unit "parsec"'),
    "no unit": (changed((f"{LINE}.quantity", "3")), "has no unit"),
    "negative quantity": (changed((f"{LINE}.quantity", "-3 kg")), "is not a quantity"),
    "quantity of nothing": (changed((f"{LINE}.quantity", "0 kg")), "more than 0"),
    "negative price": (changed(("offers.0.price", "-14.00")), "a price is -14.00, but must be at least 0"),
    "a number that is no text": (changed(("offers.0.price", 14)), "must be a text in quotes, not 14"),
    "not a number": (changed(("offers.0.price", "NaN")), "a plain number"),
    "an exponent": (changed(("offers.0.price", "1e3")), "a plain number"),
    "underscored digits": (changed(("offers.0.price", "1_000")), "a plain number"),
    "digits of another script": (changed(("offers.0.price", "١٤")), "a plain number"),
    "endless digits": (changed(("offers.0.price", "9" * 40)), "a plain number"),
    "yield over its bounds": (changed(("items.0.preparations.0.yield", "21")), "a yield is 21, but must be more than 0"),
    "yield over its high": (changed(("items.0.preparations.0.yield", "0.9")), "between its low (0.68) and its high (0.82)"),
    "yield and shares over 1": (
        changed(("items.0.preparations.0.byproducts.0.share", "0.5")),
        "plus the shares of its by-products",
    ),
    "share over 1": (changed(("settings.serving_loss", "1.2")), "a share is 1.2"),
    "no such method": (changed(("settings.byproduct_method", "guess")), "byproduct_method"),
    "missing item": (changed((f"{LINE}.item", "ham")), 'no item has the id "ham"'),
    "missing item of an offer": (changed(("offers.0.item", "ham")), 'offers[0]: no item has the id "ham"'),
    "missing supplier": (changed(("offers.0.supplier", "nobody")), 'no supplier has the id "nobody"'),
    "missing recipe": (changed(("recipes.1.stages.1.lines.0.recipe", "ham-stock")), 'no recipe has the id "ham-stock"'),
    "missing vessel": (changed(("recipes.1.stages.0.vessel", "tub")), 'no vessel has the id "tub"'),
    "missing key": (changed(("offers.0.pack", None)), 'offers[0].pack: the key "pack" is missing'),
    "two of an id": (changed(("items.1.id", "celeriac")), 'two of the same item "celeriac"'),
    "comparison of nothing": (
        changed(("comparisons", [{"id": "c", "name": "C", "forms": []}])),
        "a comparison holds 1 to 12 forms, each once",
    ),
    "form that is none": (
        changed(("comparisons", [{"id": "c", "name": "C", "forms": ["celeriac, peeled"]}])),
        'comparisons[0].forms[0]: "celeriac, peeled" is not a form: an item, an item:preparation+preparation',
    ),
    "two comparisons of an id": (
        changed(("comparisons", [{"id": "c", "name": "C", "forms": ["celeriac"]}] * 2)),
        'two of the same comparison "c"',
    ),
    "loop of recipes": (
        changed(("recipes.0.stages.0.lines.1", {"recipe": "celeriac-soup", "quantity": "1 l"})),
        "celeriac-soup -> chicken-stock -> celeriac-soup",
    ),
    "item and recipe": (changed((f"{LINE}.recipe", "chicken-stock")), 'a line names either an "item" or a "recipe"'),
    "stage from a later one": (
        changed(("recipes.1.stages.0.from", [{"stage": "pot"}])),
        'stage "roast" takes from "pot", which is no earlier stage',
    ),
    "more than all of a stage": (
        changed(("recipes.1.stages.2.from", [{"stage": "pot"}, {"stage": "roast", "share": "0.1"}])),
        '1.1 of stage "roast" is taken',
    ),
    "a rule with the wrong terms": (
        changed(("recipes.1.stages.1.change", {"rule": "reduce", "per_hour": "0.1"})),
        'the rule "reduce" takes to, not per_hour',
    ),
    "an unknown rule": (changed(("recipes.1.stages.1.change", {"rule": "boil"})), "input should be"),
    "a take-out of both": (changed(("recipes.0.stages.0.take_out.1.of", ["bones"])), 'either a "mass" or the lines'),
    "a bad date": (changed(("offers.0.on", "2026-13-45")), "month must be in 1..12"),
    "a correction of nothing": (changed(("offers.0.corrects", "o-9")), "is no offer before it"),
    "an id with spaces": (
        changed(("items.0.id", "big celeriac")),
        '"big celeriac" is not an id: letters, digits, - _ and .',
    ),
    "a measure without a weight": (
        changed(("items.0.measures", {"each": {"basis": "EP"}})),
        'measures.each.weighs: the key "weighs"',
    ),
    "a measure of no weight": (changed(("items.0.measures", {"each": "big"})), "items[0].measures.each: "),
    "a measure outside its band": (
        changed(("items.0.measures", {"each": {"weighs": "7 g", "low": "8 g"}})),
        "the weight of one is 7, but must be between",
    ),
    "another format": (changed(("format", "other")), "format: input should be 'potrel-kitchen'"),
    "another version": (changed(("version", 2)), "version: input should be 1"),
    "a list": ("[]", "should be"),
    "nothing": ("", "not JSON"),
    "half a document": (TINY.read_text()[:900], "not JSON"),
    "no text": (b"\xff\xfe\x00\x01", "not JSON"),
    "50 MB of nesting": (b'{"items":' + b"[" * (50 * 1024 * 1024), "not JSON"),
    "more than fits": (b" " * (64 * 1024 * 1024 + 1), "larger than 64 MB"),
}


class BadDocuments(unittest.TestCase):
    def test_each_gives_one_clear_line(self) -> None:
        for name, (text, words) in BAD.items():
            with self.subTest(name), self.assertRaises(PotrelError) as caught:
                read_kitchen(text)
            message = str(caught.exception)
            self.assertIn(words, message)
            self.assertNotIn("\n", message)
            self.assertLess(len(message), 300)


class NoSigns(unittest.TestCase):
    def test_what_is_escaped_is_a_sign_only_behind_backslashes_that_stand_for_themselves(self) -> None:
        for name in (r"\ufffe", r"\uFFFF", r"\\\ufffe", "\ufffe"):
            with self.subTest(name), self.assertRaisesRegex(BadDocument, "no sign"):
                read_kitchen(f'{{"name": "{name}"}}')
        for name in (r"\\ufffe", r"\ufffd", "\\" * 1_000_000):
            with self.subTest(name[:9]), self.assertRaisesRegex(BadDocument, "missing"):
                read_kitchen(f'{{"name": "{name}"}}')


class RoundTrips(unittest.TestCase):
    def test_nothing_is_lost(self) -> None:
        for file in (TINY, DOCUMENT):
            kitchen = read_kitchen(file.read_bytes())
            self.assertEqual(read_kitchen(write_kitchen(kitchen)), kitchen)

    def test_what_was_written_is_what_is_written_again(self) -> None:
        text = write_kitchen(read_kitchen(DOCUMENT.read_bytes()))
        self.assertEqual(text, DOCUMENT.read_text())

    def test_keywords_lose_their_underscore(self) -> None:
        text = write_kitchen(read_kitchen(TINY.read_bytes()))
        for key in ('"yield"', '"from"', '"with"'):
            self.assertIn(key, text)
        self.assertNotIn("yield_", text)


class TheSchema(unittest.TestCase):
    validator: Any

    @classmethod
    def setUpClass(cls) -> None:
        cls.validator = jsonschema.Draft202012Validator(kitchen_schema())

    def test_it_is_a_schema(self) -> None:
        jsonschema.Draft202012Validator.check_schema(kitchen_schema())

    def test_it_takes_the_examples(self) -> None:
        for file in (TINY, DOCUMENT):
            self.assertEqual(list(self.validator.iter_errors(json.loads(Path(file).read_text()))), [])

    @settings(max_examples=examples(250))
    @given(st.data())
    def test_the_code_refuses_what_the_schema_refuses(self, data: st.DataObject) -> None:
        document = json.loads(TINY.read_text())
        _spoil(document, data)
        if not self.validator.is_valid(document):
            with self.assertRaises(PotrelError):
                read_kitchen(json.dumps(document))


def _spoil(document: Any, data: st.DataObject) -> None:
    """Change one value somewhere in a document, drop one, or add one."""
    here = document
    while True:
        keys = sorted(here) if isinstance(here, dict) else list(range(len(here)))
        if not keys:
            return
        key = data.draw(st.sampled_from(keys))
        value = here[key]
        if isinstance(value, dict | list) and value and data.draw(st.integers(0, 4)):
            here = value
            continue
        match data.draw(st.sampled_from(["replace", "drop", "add"])):
            case "replace":
                junk = st.one_of(st.none(), st.booleans(), st.integers(), st.text(max_size=5), st.just([]), st.just({}))
                here[key] = data.draw(junk)
            case "drop":
                del here[key]
            case _ if isinstance(here, dict):
                here["extra"] = copy.deepcopy(value)
            case _:
                here.append(copy.deepcopy(value))
        return
