"""What 100 g hold: what cannot be is refused with what would mend it, and what lacks is filled without a word lost."""

from __future__ import annotations

import unittest
from typing import Any

from potrel.core.errors import BadDocument
from potrel.core.kitchen.composition import Composition
from potrel.core.kitchen.items import Item
from potrel.core.trim.shelf import filled, parts_filled, shelf
from potrel.formats.kitchen_json import part_from, part_to_plain
from tests.kitchens import d, item


def refused(document: dict[str, Any]) -> str:
    with unittest.TestCase().assertRaises(BadDocument) as caught:
        part_from(Composition, document)
    return str(caught.exception)


class WhatCannotBe(unittest.TestCase):
    def test_each_is_refused_with_its_bounds(self) -> None:
        for document, words in (
            ({"abv": "1.2"}, "at most 1"),
            ({"fat_g": "101"}, "at most 100"),
            ({"salt_g": "-1"}, "at least 0"),
            ({"energy_kcal": "2000"}, "at most 910"),
            ({"fat_g": "60", "carbohydrate_g": "60"}, "at most 100 g"),
            ({"fat_g": "5", "saturates_g": "9"}, "at most its fat_g"),
            ({"carbohydrate_g": "5", "sugars_g": "9"}, "at most its carbohydrate_g"),
            ({"sodium_mg": "100"}, "unknown key"),
            ({"fat_g": "lots"}, "plain number"),
        ):
            with self.subTest(document):
                self.assertIn(words, refused(document))

    def test_what_tables_round_is_no_fault(self) -> None:
        part_from(Composition, {"fat_g": "99.9", "protein_g": "0.6", "carbohydrate_g": "0.4"})


class OneWayToSayIt(unittest.TestCase):
    def test_an_old_share_of_salt_is_read_and_written_as_grams(self) -> None:
        old = item({"id": "cube", "salt_share": "0.55"})
        self.assertEqual(old, item({"id": "cube", "composition": {"salt_g": "55.00"}}))
        self.assertEqual(old.salt, d("0.55"))
        written = part_to_plain(Item, old, whole=False)
        self.assertNotIn("salt_share", written)
        self.assertEqual(written["composition"], {"salt_g": "55.00"})

    def test_both_said_have_to_agree(self) -> None:
        item({"id": "cube", "salt_share": "0.55", "composition": {"salt_g": "55"}})
        with self.assertRaises(BadDocument):
            item({"id": "cube", "salt_share": "0.55", "composition": {"salt_g": "35"}})


class InDoubt(unittest.TestCase):
    def test_energy_that_does_not_fit_its_parts_is_marked(self) -> None:
        good = Composition(energy_kcal=d(100), fat_g=d(5), carbohydrate_g=d(10), protein_g=d(3), fibre_g=d("1.5"))
        self.assertEqual(good.by_factors, 100)
        self.assertFalse(good.in_doubt)
        kilojoules = Composition(energy_kcal=d(420), fat_g=d(5), carbohydrate_g=d(10), protein_g=d(3), fibre_g=d("1.5"))
        self.assertTrue(kilojoules.in_doubt)
        self.assertFalse(Composition(energy_kcal=d(420)).in_doubt)

    def test_alcohol_counts(self) -> None:
        # 100 g of it hold 12 ml of alcohol: 9.5 g at 7 kcal.
        wine = Composition(energy_kcal=d(75), fat_g=d(0), carbohydrate_g=d("2.6"), protein_g=d(0), fibre_g=d(0), abv=d("0.12"))
        self.assertAlmostEqual(wine.by_factors or 0, d("2.6") * 4 + 12 * d("0.789") * 7)
        self.assertFalse(wine.in_doubt)


class FromTheShelf(unittest.TestCase):
    def test_there_is_enough_in_full(self) -> None:
        full = [one for one in shelf() if all(value is not None for _, value in one.item.composition.values())]
        self.assertGreaterEqual(len(full), 250)
        self.assertTrue(all(one.item.composition.source for one in full))

    def test_a_label_of_the_kitchen_goes_before(self) -> None:
        own = item({"id": "butter", "name": "Butter", "kind": "dairy", "composition": {"fat_g": "82", "source": "label"}})
        found = filled(own)
        self.assertEqual(found.composition.fat_g, 82)
        self.assertGreater(found.composition.energy_kcal or 0, 700)
        self.assertIn("label; the rest: USDA", found.composition.source or "")
        self.assertEqual(found.origin, ("milk",))
        self.assertEqual(filled(found), found)

    def test_weights_yields_kind_and_allergens_too_but_nothing_that_somebody_said(self) -> None:
        bare = item({"id": "celery", "name": "Celery", "kind": "not known"})
        found = filled(bare)
        self.assertEqual((found.kind, found.allergens), ("vegetable", ("celery",)))
        self.assertIn("sliced", {one.id for one in found.preparations})
        self.assertEqual(
            parts_filled(bare, found),
            ["kind", "weights", "yields", "allergens to read for", "what it comes from", "what it holds", "how it thickens"],
        )
        own = item({
            "id": "celery", "name": "Celery", "kind": "root", "measures": {"head": "1 kg"},
            "preparations": [{"id": "sliced", "name": "sliced", "yield": "0.5"}],
            "allergen_check": {"on": "2026-11-01", "by": "Ada"},
        })  # fmt: skip
        found = filled(own)
        self.assertEqual((found.kind, found.allergens, found.measures["head"].grams()), ("root", (), 1000))
        self.assertEqual(found.preparations[0].yield_, own.preparations[0].yield_)
        self.assertEqual([one.id for one in found.preparations].count("sliced"), 1)

    def test_of_what_it_does_not_know_nothing_is_said(self) -> None:
        own = item({"id": "sea-foam", "kind": "vegetable"})
        self.assertEqual(filled(own), own)

    def test_what_does_not_fit_together_is_left_alone(self) -> None:
        own = item({"id": "butter", "composition": {"protein_g": "90"}})
        self.assertEqual(filled(own).composition, own.composition)
