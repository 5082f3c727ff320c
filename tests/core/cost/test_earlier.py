"""What changes of a recipe did to a portion since its price was set, beside what its purchases did."""

from __future__ import annotations

import unittest
from collections.abc import Sequence
from dataclasses import replace
from datetime import UTC, date, datetime
from typing import Any

from potrel.core.cost.costing import Costing
from potrel.core.cost.drift import drift_of
from potrel.core.cost.earlier import Earlier, PriceSet, Stood, Version
from potrel.core.kitchen.recipes import Recipe
from potrel.core.rooms.board import board_of
from tests.core.cost.test_costing import ITEMS, PRICES, SOUP, STOCK, offer
from tests.core.tell import test_workings
from tests.kitchens import DAY, d, kitchen, recipe

SET, SAVED = datetime(2026, 11, 5, 9, tzinfo=UTC), datetime(2026, 11, 20, 9, tzinfo=UTC)
PRICED = {("soup", "b"): PriceSet(d("1.50"), date(2026, 11, 5), SET)}


def with_leek(quantity: str) -> dict[str, Any]:
    soup: dict[str, Any] = SOUP
    stage = soup["stages"][0]
    return {**soup, "stages": [{**stage, "lines": [*stage["lines"], {"item": "leek", "quantity": quantity}]}]}


def version(of: dict[str, Any] | None) -> Version:
    made: Recipe | None = None if of is None else recipe(of)
    return Version(() if made is None else made.uses(), lambda: made)


def costing(*versions: tuple[str, dict[str, Any] | None], soup: dict[str, Any] = SOUP, offers: Sequence[Any] = ()) -> Costing:
    """The kitchen of today, where recipes stood otherwise when the price of the soup was set on the fifth."""
    of = kitchen(ITEMS, [soup, STOCK], PRICES, serving_loss=d(0))
    now = {"soup": soup, "stock": STOCK}
    stands = {one: [Stood(SET, 1, repr(before)), Stood(SAVED, 2, repr(now[one]))] for one, before in versions}
    read = {(one, 1): version(before) for one, before in versions}
    return Costing(replace(of, offers=(*of.offers, *offers)), DAY).remembering(Earlier(PRICED, stands, read))


def drift(of: Costing) -> Any:
    soup = of.of("soup")
    return drift_of(soup, soup.portions[0], of)


class ARecipeThatChanged(unittest.TestCase):
    def test_its_own_change_counts_like_a_purchase(self) -> None:
        # By hand: 5 l in 20 bowls; a kilo of leeks more at 2.00 makes 6 kg, 24 bowls: (1 + 2) / 24 - 1 / 20 = 0.075.
        found = drift(costing(("soup", SOUP), soup=with_leek("1 kg")))
        self.assertEqual((found.change, found.recipe, found.moved), (d("0.075"), d("0.075"), []))

    def test_beside_purchases_at_the_prices_of_then(self) -> None:
        # Leeks at 4.00 since: 1.5 kg in 24 bowls cost 0.125 more; what the recipe did is told at 2.00.
        found = drift(costing(("soup", SOUP), soup=with_leek("1 kg"), offers=[offer("leek", "4", "2026-11-10")]))
        self.assertEqual((found.moved[0].change, found.recipe, found.change), (d("0.125"), d("0.075"), d("0.2")))

    def test_so_does_a_change_of_what_it_uses(self) -> None:
        thin = {**STOCK, "stages": [{"id": "s", "lines": [{"item": "leek", "quantity": "500 g"},
                                                          {"item": "water", "quantity": "9.5 l"}]}]}  # fmt: skip
        self.assertEqual(drift(costing(("stock", thin))).recipe, d("0.025"))

    def test_one_that_stands_as_it_stood_has_none(self) -> None:
        for versions in ((), (("soup", SOUP),), (("soup", SOUP), ("stock", STOCK))):
            self.assertEqual((drift(costing(*versions)).recipe, drift(costing(*versions)).change), (None, 0))

    def test_another_price_begins_anew(self) -> None:
        soup = with_leek("1 kg")
        (serving,) = soup["servings"]
        for priced in ({"price": "1.60"}, {"price_set_on": "2026-11-21"}):
            found = drift(costing(("soup", SOUP), soup={**soup, "servings": [{**serving, **priced}]}))
            self.assertEqual((found.recipe, found.change), (None, 0))

    def test_what_nobody_understands_any_more_is_not_known(self) -> None:
        gone = {**SOUP, "stages": [{"id": "s", "lines": [{"item": "samphire", "quantity": "1 kg"}]}]}
        for before in (None, gone, {**SOUP, "servings": []}):
            found = drift(costing(("soup", before), soup=with_leek("1 kg")))
            self.assertEqual((found.change, found.recipe, found.unpriced), (None, None, []))

    def test_a_new_price_keeps_what_is_remembered(self) -> None:
        later = costing(("soup", SOUP), soup=with_leek("1 kg")).with_offers([offer("leek", "4", "2026-11-10")])
        self.assertEqual(drift(later).change, d("0.2"))
        draft = later.replacing(recipe(with_leek("2 kg")))
        self.assertNotEqual(drift(draft).recipe, drift(later).recipe)

    def test_a_draft_is_told_beside_what_was_saved(self) -> None:
        # The same 0.075 as above, before anybody saves it; the saved one stands as it stood.
        saved = costing()
        self.assertIsNone(drift(saved).recipe)
        self.assertEqual(drift(saved.replacing(recipe(with_leek("1 kg")))).recipe, d("0.075"))
        # Of a part that is being changed too: half a kilo of leeks fewer in 5 l of 10 l of stock were 0.025 a bowl.
        thin = {**STOCK, "stages": [{"id": "s", "lines": [{"item": "leek", "quantity": "500 g"},
                                                          {"item": "water", "quantity": "9.5 l"}]}]}  # fmt: skip
        self.assertEqual(drift(saved.replacing(recipe(thin))).recipe, d("-0.025"))

    def test_a_draft_of_another_name_or_note_stands_as_it_stood(self) -> None:
        saved = costing()
        soup: dict[str, Any] = SOUP
        named = {**soup["stages"][0], "name": "Pot", "note": "z"}
        for draft in ({**soup, "note": "x"}, {**soup, "name": "Y"}, {**soup, "stages": [named]}):
            self.assertIsNone(drift(saved.replacing(recipe(draft))).recipe)

    def test_a_save_that_nobody_read_is_not_known(self) -> None:
        of = costing(("soup", SOUP), soup=with_leek("1 kg"))
        unread = of.remembering(replace(of.earlier, versions={}))
        self.assertEqual(unread.unread_saves(), {("soup", 1)})
        self.assertEqual((drift(unread).change, drift(unread).recipe), (None, None))
        read = unread.remembering(unread.earlier.with_versions(of.earlier.versions))
        self.assertEqual((read.unread_saves(), drift(read).recipe), (set(), d("0.075")))

    def test_the_board_marks_it(self) -> None:
        (row,) = board_of(costing(("soup", SOUP), soup=with_leek("1 kg"))).rows
        self.assertIn("cost_moved", row.marks)


class ItsWorking(unittest.TestCase):
    def test_it_adds_up(self) -> None:
        of = costing(("soup", SOUP), soup=with_leek("1 kg"), offers=[offer("leek", "4", "2026-11-10")])
        found = test_workings.EveryWorking().check(of)
        self.assertEqual(found["soup", "serving/b/drift"].value, d("0.2"))
        self.assertEqual(found["soup", "serving/b/recipe_drift"].value, d("0.075"))


if __name__ == "__main__":
    unittest.main()
