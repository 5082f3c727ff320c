"""What is kept in memory under the version of the data: it is never older than the data, whatever overtakes what."""

from __future__ import annotations

import json
from dataclasses import replace
from decimal import Decimal
from typing import Any

from potrel.api.board_text import BoardText
from potrel.api.kitchens import Kitchens
from potrel.core.costing import Costing
from potrel.core.supply import Offer
from potrel.demo import demo_kitchen
from potrel.store.kitchens import load_kitchen
from potrel.store.offers import insert_offers
from potrel.store.recipes import save_recipe
from tests.kitchens import DAY
from tests.servers import DatabaseTest


class Kept(DatabaseTest):
    def setUp(self) -> None:
        super().setUp()
        self.fill(demo_kitchen(DAY))
        self.kitchens = Kitchens(self.store, lambda: DAY)

    def record(self, item: str, price: str, pack: str, supplier: str = "saltmarsh") -> None:
        with self.store.writing(counts=False) as connection:
            insert_offers(connection, [Offer(item, supplier, pack, Decimal(price), DAY)], "test")

    def assertFresh(self) -> None:
        """The board that is kept is the one that is made from nothing."""
        with self.store.reading() as connection:
            fresh = BoardText().of(Costing(load_kitchen(connection), DAY), None)
        kept, anew = json.loads(self.kitchens.board()), json.loads(fresh)
        self.assertEqual(self.rows(kept), self.rows(anew))
        self.assertEqual(kept["need_a_price"], anew["need_a_price"])

    def rows(self, board: Any) -> Any:
        return {(row["recipe"], row["serving"]): row for row in board["rows"]}

    def test_prices_one_after_the_other(self) -> None:
        self.assertFresh()
        for item, price, pack in (("leek", "19.20", "5 kg"), ("onion", "40", "20 kg"), ("leek", "9.00", "5 kg")):
            self.record(item, price, pack)
            self.assertFresh()

    def test_prices_between_boards(self) -> None:
        self.assertFresh()
        self.record("leek", "19.20", "5 kg")
        self.kitchens.costing()
        self.record("parsnip", "19.20", "5 kg")
        self.kitchens.costing()
        self.assertFresh()

    def test_a_board_that_was_overtaken_spoils_nothing(self) -> None:
        self.kitchens.board()
        self.record("leek", "19.20", "5 kg")
        overtaken = self.kitchens._current()
        self.record("parsnip", "19.20", "5 kg")
        self.assertFresh()
        # The one that waited gets the board of its own moment, and the next is right all the same.
        late = self.rows(json.loads(self.kitchens._board_of(overtaken)))
        self.assertNotEqual(late, self.rows(json.loads(self.kitchens.board())))
        self.record("onion", "40", "20 kg")
        self.assertFresh()

    def test_a_saved_recipe_and_then_a_price(self) -> None:
        self.kitchens.board()
        stock = next(one for one in demo_kitchen(DAY).recipes if one.id == "white-stock")
        changed = replace(stock, density=Decimal("1.05"))
        with self.store.writing() as connection:
            save_recipe(connection, changed, 1, "test")
        self.kitchens.saved(changed)
        self.record("chicken-bones", "31", "10 kg", "quayside")
        self.assertFresh()

    def test_a_change_of_another_process(self) -> None:
        self.kitchens.board()
        soup = next(one for one in demo_kitchen(DAY).recipes if one.id == "leek-potato")
        with self.store.writing() as connection:
            save_recipe(connection, replace(soup, name="Leek soup", stages=soup.stages[:2]), 1, "elsewhere")
        self.assertFresh()
