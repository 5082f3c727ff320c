"""Another kitchen put in the place of one that is being written to: what was acknowledged is in one of the two."""

from __future__ import annotations

import itertools
import tempfile
import threading
import time
from pathlib import Path

import httpx2

from potrel.postgres import binaries
from potrel.store.backup import Tools
from potrel.store.database import migrate, opened
from potrel.store.kitchens import load_kitchen
from tests.api.test_api import ApiTest
from tests.kitchens import DAY
from tests.servers import cluster

_WRITERS = 3


class RestoreUnderWrites(ApiTest):
    def setUp(self) -> None:
        super().setUp()
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.tools = Tools(binaries(), self.url)
        self.acknowledged: set[str] = set()
        self.statuses: set[int] = set()
        self.prices = itertools.count(5_000_000)
        self.over = threading.Event()

    def keep_writing(self) -> None:
        body = {"item": "leek", "supplier": "saltmarsh", "pack": "5 kg", "on": str(DAY)}
        with httpx2.Client(base_url=self.address, timeout=60) as ask:
            while not self.over.is_set():
                # Known again by its price: ids are given anew where a back-up ends.
                price = f"{next(self.prices) / 100:.2f}"
                answer = ask.post("/api/offers", json={**body, "price": price})
                self.statuses |= {answer.status_code, ask.get("/api/board").status_code}
                if answer.status_code == 201:
                    self.acknowledged.add(price)

    def prices_at(self, url: str) -> set[str]:
        with opened(url, most=1) as store, store.reading() as connection:
            return {f"{one.price:.2f}" for one in load_kitchen(connection).offers}

    def test_nothing_that_was_acknowledged_is_in_neither(self) -> None:
        then, before = self.folder / "then.backup", self.folder / "before.backup"
        self.tools.write(then)
        threads = [threading.Thread(target=self.keep_writing) for _ in range(_WRITERS)]
        for one in threads:
            one.start()
        while len(self.acknowledged) < 5:
            time.sleep(0.05)
        self.tools.restore(then, lambda: self.tools.write(before))
        time.sleep(1)
        self.over.set()
        for one in threads:
            one.join()
        cluster().ensure_database("restored_before")
        self.addCleanup(cluster().drop_database, "restored_before")
        other = cluster().url("restored_before")
        migrate(other)
        Tools(binaries(), other).restore(before)
        there = self.prices_at(self.url) | self.prices_at(other)
        self.assertEqual(self.acknowledged - there, set())
        self.assertLessEqual(self.statuses, {200, 201, 409, 503})
        self.assertEqual(httpx2.get(f"{self.address}/api/board").status_code, 200)
