"""One row of the database that cannot be understood: the kitchen opens without it, says which and why, and it can be mended."""

from __future__ import annotations

import json
from typing import Any

from potrel.store.kitchens import what_it_holds
from tests.api.test_api import ApiTest
from tests.kitchens import DAY
from tests.torture.trials import PAGES

_INTO = (
    "INSERT INTO line (recipe, stage, position, uses_recipe, quantity, quantity_amount, quantity_unit, basis, preparation)"
    " SELECT '{0}', id, 90, '{1}', '1 kg', 1, 'kg', 'AP', array[]::text[] FROM stage WHERE recipe = '{0}' AND position = 0;"
)
# What a hand in the database can write there in spite of its constraints.
BAD = {
    ("recipe", "leek-potato"): "UPDATE inflow SET share = 1 WHERE recipe = 'leek-potato';"
    " UPDATE recipe SET name = name WHERE id = 'leek-potato'",
    ("recipe", "white-stock"): _INTO.format("white-stock", "leek-potato")
    + _INTO.format("leek-potato", "white-stock")
    + "UPDATE recipe SET name = name WHERE id IN ('white-stock', 'leek-potato')",
    ("item", "leek"): "UPDATE preparation SET rests_on = 'book', rests_on_tests = 3, rests_on_day = NULL WHERE item = 'leek';"
    " UPDATE item SET name = name WHERE id = 'leek'",
}


class Faults(ApiTest):
    def spoil(self, command: str) -> bool:
        """Whether the database let a bad row in."""
        import psycopg

        try:
            with psycopg.connect(self.url) as connection:
                for one in command.split(";"):
                    connection.execute(one.encode())
        except psycopg.Error:
            return False
        return True

    def pages(self) -> dict[str, Any]:
        return {page: self.send("GET", f"/api/{page}").status_code for page in PAGES if "/" not in page}

    def test_the_kitchen_opens_without_it_says_so_and_mends_it(self) -> None:
        spoilt = 0
        for (sort, id_), command in BAD.items():
            with self.subTest(id_):
                self.get("/api/board")
                with self.store.reading() as connection:
                    told = what_it_holds(connection)
                if not self.spoil(command):
                    continue
                spoilt += 1
                # A document would lack something, so it says that; every other page is there.
                self.assertEqual({page: code for page, code in self.pages().items() if code != 200}, {"export": 422})
                self.assertIn("mend it first", self.call("GET", "/api/export")[1]["detail"])
                with self.store.reading() as connection:
                    self.assertEqual(what_it_holds(connection), told, "a back-up is told whole, whatever is in it")
                (fault,) = self.get("/api/faults")
                self.assertEqual((fault["sort"], fault["id"]), (sort, id_))
                self.assertGreater(len(fault["said"]), 10)
                offer = {"item": "carrot", "supplier": "saltmarsh", "pack": "10 kg", "price": "9.10", "on": DAY.isoformat()}
                self.assertEqual(self.call("POST", "/api/offers", offer)[0], 201)
                self.assertEqual(len(self.get("/api/faults")), 1)
                self.assertEqual(self.call("POST", f"/api/faults/{sort}/{id_}/mend")[0], 204)
                self.assertEqual(self.get("/api/faults"), [])
                self.assertEqual(self.get(f"/api/{sort}s/{id_}")[sort]["id"], id_)
                self.assertEqual(self.call("POST", f"/api/faults/{sort}/{id_}/mend")[0], 404)
        self.assertGreaterEqual(spoilt, 1, "none of them is possible any more: find another")

    def test_after_a_start_too(self) -> None:
        self.assertTrue(self.spoil(BAD["recipe", "leek-potato"]))
        board = json.loads(self.send("GET", "/api/board").text)
        self.assertNotIn("leek-potato", {row["recipe"] for row in board["rows"]})
        self.assertEqual(len(board["rows"]), 27 - 2)
