"""Two items that are one: what the one that stays takes over, and what the pots cost then."""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import date
from typing import Any

from potrel.core.cost.costing import Costing
from potrel.core.errors import BadDocument
from potrel.core.kitchen.integrity import check_kitchen
from potrel.core.kitchen.kitchen import Kitchen
from potrel.core.kitchen.quantities import parse_pack
from potrel.core.kitchen.supply import Offer
from potrel.core.rooms.merging import Merge, merge_items
from potrel.core.tell.cost_sheet import sheet_of
from potrel.core.words.typed_line import read_line
from tests.kitchens import DAY, d, kitchen

PEELED = {"id": "peeled", "name": "peeled", "yield": "0.8"}
CARROTS: dict[str, Any] = {"id": "carrots", "name": "Carrots", "preparations": [PEELED], "measures": {"each": "100 g"}}
CARROT: dict[str, Any] = {
    "id": "carrot", "name": "Carrot, loose", "density": "0.6", "measures": {"each": "90 g", "bunch": "450 g"},
    "preparations": [{"id": "pared", "name": "Peeled", "yield": "0.75"}, {"id": "diced", "name": "diced", "yield": "0.7"}],
    "cooking": [{"method": "roast", "yield": "0.7"}], "allergens": ["celery"],
}  # fmt: skip
POT: dict[str, Any] = {"stages": [{"id": "s", "lines": [
    {"item": "carrot", "quantity": "1 kg", "preparation": "pared"},
    {"item": "carrot", "quantity": "1 bunch", "preparation": ["pared", "diced"]},
    {"item": "carrots", "quantity": "2 each"},
    {"item": "water", "quantity": "5 l"}],
    "change": {"rule": "top_up", "to": "8 l", "with": {"item": "carrot"}},
    "take_out": [{"name": "some", "of": ["carrot"], "spent_factor": "0.5"}]}],
    "servings": [{"id": "b", "name": "Bowl", "size": "300 ml",
                  "garnish": [{"item": "carrot", "quantity": "5 g"}]}]}  # fmt: skip


def two() -> Kitchen:
    made = kitchen([CARROTS, CARROT, {"id": "water", "density": "1"}], [POT], {"carrots": "1.20", "water": "0"})
    mine = Offer("carrot", "shop", parse_pack("10 kg"), d("9"), date(2026, 11, 10), id="o-1")
    return replace(made, offers=(*made.offers, mine))


def merged() -> tuple[Kitchen, Merge]:
    """The kitchen after its merge, and what that changed."""
    of = two()
    merge = merge_items(Costing(of, DAY).view, "carrot", "carrots")
    items = tuple({merge.item.id: merge.item, merge.gone.id: merge.gone}.get(one.id, one) for one in of.items)
    return replace(of, items=items, recipes=merge.recipes, offers=(*of.offers, *merge.offers)), merge


class TwoThatAreOne(unittest.TestCase):
    def test_the_one_that_stays_holds_and_takes_what_it_lacks(self) -> None:
        _, merge = merged()
        item = merge.item
        self.assertEqual([(one.id, one.yield_) for one in item.preparations], [("peeled", d("0.8")), ("diced", d("0.7"))])
        self.assertEqual({unit: one.grams() for unit, one in item.measures.items()}, {"each": 100, "bunch": 450})
        self.assertEqual((item.density, [one.method for one in item.cooking]), (d("0.6"), ["roast"]))
        self.assertTrue(merge.gone.archived)

    def test_allergens_of_both_stay_and_a_label_is_read_again(self) -> None:
        _, merge = merged()
        self.assertEqual((merge.item.allergens, merge.item.allergen_check), (("celery",), None))

    def test_add_ons_and_consumables_take_it_too(self) -> None:
        of = two()
        line = of.recipes[0].stages[0].lines[0]
        (pot,) = of.recipes
        bowl = replace(pot.servings[0], add_ons=(replace(line, surcharge=d("0.50")),))
        of = replace(of, recipes=(replace(pot, servings=(bowl,), consumables=(line,)),))
        (after,) = merge_items(Costing(of, DAY).view, "carrot", "carrots").recipes
        self.assertEqual([one.item for one in (*after.servings[0].add_ons, *after.consumables)], ["carrots", "carrots"])

    def test_pots_take_it_and_are_whole(self) -> None:
        of, merge = merged()
        check_kitchen(of)
        (pot,) = merge.recipes
        self.assertEqual({one.item for one in pot.named()}, {"carrots", "water"})
        self.assertEqual([line.preparation for line in pot.stages[0].lines], ["peeled", ("peeled", "diced"), None, None])
        found = sheet_of(Costing(of, DAY), "pot")
        self.assertTrue(found.complete, found.problems)
        # The take-out is still of the first line, though lines are known by what they use.
        self.assertEqual(found.stages[0].taken_out[0].mass_g, 400)

    def test_prices_of_both_count(self) -> None:
        of, _ = merged()
        self.assertEqual(Costing(of, DAY).view.per_kg("carrots"), d("0.9"))

    def test_what_is_archived_is_meant_no_more_where_something_else_is(self) -> None:
        of, _ = merged()
        view = Costing(of, DAY).view
        for typed in ("2 kg carrots", "2 kg carrot"):
            found = read_line(typed, view).line
            assert found is not None
            self.assertEqual(found.item, "carrots", typed)

    def test_one_into_itself(self) -> None:
        with self.assertRaisesRegex(BadDocument, "choose another"):
            merge_items(Costing(two(), DAY).view, "carrot", "carrot")


if __name__ == "__main__":
    unittest.main()
