"""The kitchen's own clock: which day it is, and at what hour things were done, wherever the server and the browser are."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import Any
from zoneinfo import ZoneInfo

from potrel.core.kitchen.settings import Settings
from potrel.doing.kitchens import Kitchens
from potrel.formats.kitchen_json import part_from
from tests.api.test_api import ApiTest

# A day and two hours lie between them: it is never the same day in both.
_EAST, _WEST = "Pacific/Kiritimati", "Pacific/Pago_Pago"


class TheKitchensClock(ApiTest):
    def move_to(self, zone: str) -> tuple[int, Any]:
        head = self.get("/api/kitchen")
        body = {"name": head["name"], "currency": head["currency"], "was": head["settings"]}
        return self.call("PUT", "/api/kitchen", {**body, "settings": {**head["settings"], "time_zone": zone}})

    def test_a_day_is_the_kitchens(self) -> None:
        kitchens = Kitchens(self.store)
        for zone in (_EAST, _WEST, "UTC"):
            self.assertEqual(self.move_to(zone)[0], 200)
            before = datetime.now(ZoneInfo(zone)).date()
            found = kitchens.costing().on
            self.assertIn(found, (before, before + timedelta(days=1)))
            self.assertEqual(kitchens.now().utcoffset(), datetime.now(ZoneInfo(zone)).utcoffset())
            # One that was never asked before says the same.
            self.assertEqual(Kitchens(self.store).costing().on, kitchens.costing().on)

    def test_another_clock_costs_nothing_anew(self) -> None:
        kitchens = Kitchens(self.store, lambda: self.server.today)
        before = kitchens.costing().of("leek-potato")
        self.move_to(_EAST)
        self.assertIs(kitchens.costing().of("leek-potato"), before)
        self.assertEqual(kitchens.costing().view.settings.time_zone, _EAST)

    def test_moments_are_told_by_it(self) -> None:
        self.move_to(_EAST)
        reply = self.get("/api/recipes/leek-potato")
        self.call(
            "PUT", "/api/recipes/leek-potato", {"recipe": {**reply["recipe"], "note": "x"}, "based_on": reply["revision"]}
        )
        newest = self.get("/api/recipes/leek-potato/revisions")[0]["saved_at"]
        self.assertEqual(newest[-6:], "+14:00")
        self.assertLess(abs(datetime.now(ZoneInfo("UTC")) - datetime.fromisoformat(newest)), timedelta(minutes=2))
        self.assertEqual(self.get("/api/changes")[0]["at"][-6:], "+14:00")

    def test_what_is_no_zone_is_refused_in_words(self) -> None:
        for zone in ("Mars/Olympus", "../etc/passwd", "", "Europe"):
            status, problem = self.move_to(zone)
            self.assertEqual(status, 422, zone)
            self.assertIn("Europe/Lisbon", problem["detail"])

    def test_a_document_without_one_is_in_utc(self) -> None:
        read: Settings = part_from(Settings, {})
        self.assertEqual(read.time_zone, "UTC")
