"""What a new version reckons otherwise: told once, with before and after and why, and kept as a record."""

from __future__ import annotations

import gzip
import json
import unittest
from collections.abc import Callable
from datetime import date, timedelta
from decimal import Decimal
from typing import Any
from unittest.mock import patch

from potrel.core import reckoning
from potrel.core.reckoning import Change
from potrel.doing import otherwise as noting
from potrel.doing.kitchens import Kitchens
from potrel.postgres import binaries
from potrel.store.backup import Tools
from potrel.store.changes import read_version
from potrel.store.database import Database, opened
from potrel.store.kept_board import keep_board
from potrel.store.otherwise import MovedCost, note_otherwise
from tests.api.test_api import ApiTest
from tests.kitchens import DAY
from tests.servers import cluster
from tests.store.test_backup import UPGRADES

Changing = Callable[[dict[str, Any]], object]


def kept_by_another(store: Database, on: date, change: Changing = lambda _: None) -> None:
    """Keep the board of a day as another build would have written it."""
    board = json.loads(Kitchens(store, lambda: on).board())
    for row in board["rows"]:
        change(row)
    with store.beside() as connection:
        keep_board(connection, read_version(connection), on, "another build", gzip.compress(json.dumps(board).encode()))


class Otherwise(ApiTest):
    def told(self, query: str = "") -> Any:
        return self.get(f"/api/cost-otherwise{query}")

    def test_a_kitchen_of_which_nothing_is_known_says_nothing(self) -> None:
        self.assertEqual((self.told(), self.told("?seen=true")), ([], []))

    def test_the_same_costs_are_no_news_on_whatever_day_they_were_told(self) -> None:
        for on in (DAY, DAY - timedelta(days=12), DAY - timedelta(days=60)):
            kept_by_another(self.store, on)
            self.assertEqual(self.told(), [])

    def test_other_costs_are_told_once_and_stay_a_record(self) -> None:
        def moved(row: dict[str, Any]) -> None:
            if row["recipe"] == "leek-potato" and row["serving"] == "bowl":
                row["food_cost"] = "0.500000"

        now = self.row("leek-potato", "bowl")["food_cost"]
        with patch.object(reckoning, "CHANGES", (Change(reckoning.newest() + 1, "steam follows the lid"),)):
            changes = reckoning.CHANGES
            with patch.object(noting, "reasons", lambda since: reckoning.reasons(since, changes)):
                kept_by_another(self.store, DAY, moved)
                (one,) = self.told()
        told = [one[key] for key in ("recipe", "serving", "was", "now", "reasons", "on")]
        self.assertEqual(told, ["leek-potato", "bowl", "0.5", now, ["steam follows the lid"], str(DAY)])
        self.assertEqual(len(self.told()), 1, "it is noted once")
        self.assertEqual(self.call("DELETE", f"/api/cost-otherwise/{one['number']}")[0], 204)
        self.assertEqual(self.told(), [])
        (kept,) = self.told("?seen=true")
        self.assertEqual((kept["seen_by"], kept["was"]), ("the kitchen", "0.5"))

    def test_all_of_them_are_told_however_many_a_version_moved(self) -> None:
        moved = [MovedCost(f"r{n}", f"Soup {n}", "bowl", "Bowl", Decimal(1), Decimal(2)) for n in range(1200)]
        with self.store.beside() as connection:
            note_otherwise(connection, moved, DAY, ["steam follows the lid"])
        told = self.told()
        self.assertEqual(len({one["recipe"] for one in told}), 1200)
        self.call("DELETE", f"/api/cost-otherwise/{max(one['number'] for one in told)}")
        self.assertEqual((self.told(), len(self.told("?seen=true"))), ([], 1200))

    def test_a_cost_that_is_known_only_now_or_no_more_is_told_as_that(self) -> None:
        def unknown(row: dict[str, Any]) -> None:
            if row["recipe"] == "leek-potato":
                row["complete"] = False

        kept_by_another(self.store, DAY, unknown)
        self.assertEqual({(one["recipe"], one["was"]) for one in self.told()}, {("leek-potato", None)})

    def test_what_a_migration_changed_on_the_way_is_part_of_the_version(self) -> None:
        kept_by_another(self.store, DAY, lambda row: row.update(food_cost="9.000000"))
        with self.store.beside() as connection:
            connection.execute("UPDATE item SET name = name")
        self.assertEqual({one["was"] for one in self.told()}, {"9"})

    def test_what_somebody_changed_since_is_nothing_of_the_version(self) -> None:
        kept_by_another(self.store, DAY, lambda row: row.update(food_cost="9.000000"))
        offer = {"item": "leek", "supplier": "saltmarsh", "pack": "5 kg", "price": "11.41", "on": str(DAY)}
        self.assertEqual(self.call("POST", "/api/offers", offer)[0], 201)
        self.assertEqual(self.told(), [])


class OfEarlierVersions(unittest.TestCase):
    """Kitchens that earlier versions wrote, and what those versions told their portions to cost."""

    def test_they_are_held_against_what_they_told(self) -> None:
        figures = json.loads((UPGRADES / "figures.json").read_text())
        ((cost, _),) = figures["celeriac-soup"]["servings"].values()
        for file in sorted(UPGRADES.glob("*.backup")):
            for was, expected in ((cost, []), ("0.600000", [("celeriac-soup", "0.600000", cost)])):
                with self.subTest(file.stem, was=was):
                    cluster().ensure_database("held_against", fresh=True)
                    url = cluster().url("held_against")
                    Tools(binaries(), url).restore(file)
                    with opened(url, most=2) as store:
                        kept_by_another(store, DAY, lambda row, was=was: row.update(food_cost=was))  # type: ignore[misc]
                        noting.note_what_costs_otherwise(Kitchens(store, lambda: DAY))
                        with store.reading() as connection:
                            rows = connection.execute("SELECT recipe, was::text, now::text FROM cost_otherwise").fetchall()
                    self.assertEqual([(recipe, before, str(float(now))) for recipe, before, now in rows],
                                     [(recipe, before, str(float(now))) for recipe, before, now in expected])  # fmt: skip
        cluster().drop_database("held_against")
