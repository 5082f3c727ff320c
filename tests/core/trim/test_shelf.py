"""The shelf of known ingredients: whole, sourced, and a start for items."""

from __future__ import annotations

import unittest
from dataclasses import replace
from decimal import Decimal

from potrel.core.buy.weights import weigh
from potrel.core.cost.costing import Costing
from potrel.core.errors import Lack
from potrel.core.kitchen.integrity import known_units, refuse_unknown_unit
from potrel.core.kitchen.quantities import parse_pack, parse_quantity
from potrel.core.rooms.labels import allergen_of
from potrel.core.trim.shelf import on_shelf, shelf
from tests.kitchens import DAY, kitchen


class Shelf(unittest.TestCase):
    def test_there_is_enough_on_it(self) -> None:
        self.assertGreaterEqual(len(shelf()), 160)
        self.assertGreaterEqual(sum(bool(one.item.preparations or one.item.cooking) for one in shelf()), 140)
        self.assertEqual(len({one.item.id for one in shelf()}), len(shelf()))
        self.assertEqual(len({one.item.name.casefold() for one in shelf()}), len(shelf()))

    def test_every_yield_has_its_source_and_band(self) -> None:
        for known in shelf():
            yields = [(one.source, one.low, one.high) for one in known.item.preparations]
            for source, low, high in (*yields, *((one.source, one.low, one.high) for one in known.item.cooking)):
                self.assertTrue(source, known.item.name)
                self.assertTrue(low is not None and high is not None and low < high, known.item.name)

    def test_every_weight_has_its_source_and_can_be_used(self) -> None:
        items = [known.item for known in shelf()]
        units = known_units(items)
        for known in shelf():
            for unit, measure in known.item.measures.items():
                self.assertTrue(measure.source, known.item.name)
                refuse_unknown_unit(parse_quantity(f"1 {unit}"), units)
                weight = weigh(parse_quantity(f"1 {unit}"), known.item, "metric")
                assert not isinstance(weight, Lack), unit
                self.assertGreater(weight, 0)
                self.assertEqual(parse_pack(f"10 {unit}").count, 1)

    def test_every_allergen_is_one_that_a_list_knows(self) -> None:
        for known in shelf():
            for word in known.item.allergens:
                self.assertIsNotNone(allergen_of(word), f"{known.item.name}: {word}")

    def test_both_lists_are_told_apart(self) -> None:
        by_id = {known.item.id: known.item for known in shelf()}
        for item, eu, us in (("barley", "Cereals containing gluten", ""), ("flour", "Cereals containing gluten", "Wheat"),
                             ("celeriac", "Celery", ""), ("mussels", "Molluscs", "")):  # fmt: skip
            found = allergen_of(by_id[item].allergens[0])
            self.assertEqual(found and (found.eu14, found.us9), (eu, us), item)

    def test_salt_follows_from_sodium_where_it_was_put_in(self) -> None:
        by_id = {known.item.id: known.item for known in shelf()}
        # SR Legacy gives celery 80 mg of sodium in 100 g; what salt is itself is no estimate.
        self.assertEqual(by_id["celery"].composition.salt_g, Decimal("0.2"))
        self.assertEqual(by_id["salt"].salt, 1)

    def test_an_item_may_start_from_each(self) -> None:
        items = tuple(known.item for known in shelf())
        costing = Costing(replace(kitchen([], []), items=items), DAY)
        self.assertEqual(len(costing.view.items), len(items))


class LookedFor(unittest.TestCase):
    def test_a_part_of_a_name_is_never_taken_for_it(self) -> None:
        for words, first, sure in (
            ("Leeks", "leek", True), ("carrot", "carrot", True), ("Zucchini", "courgette", True), ("shrimp", "prawns", False),
            ("eggplant", "aubergine", True), ("scallions", "spring-onion", True), ("cilantro", "coriander", True),
            ("rutabaga", "swede", True), ("flour", "flour", False), ("kale", "kale", True),
        ):  # fmt: skip
            found = on_shelf(words)
            self.assertEqual((found[0].item.id, found[0].called_so), (first, sure), words)
        for words in ("Nuts", "Roll up", "white fish", "xyz"):
            self.assertEqual([one.item.id for one in on_shelf(words)], [], words)
