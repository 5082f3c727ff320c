"""A throw-away PostgreSQL cluster for the tests, one database a test, and a real server over it."""

from __future__ import annotations

import atexit
import itertools
import tempfile
import threading
import time
import unittest
from contextlib import ExitStack
from datetime import date
from pathlib import Path

import uvicorn

from potrel.api.app import create_app
from potrel.core.kitchen.kitchen import Kitchen
from potrel.postgres import Cluster, quick_folder
from potrel.store.database import Database, migrate
from potrel.store.kitchens import insert_kitchen
from tests.kitchens import DAY

_TEMPLATE = "template_of_tests"
_numbers = itertools.count(1)
_running: list[Cluster] = []


def cluster() -> Cluster:
    """The one cluster of this run of tests, started when first asked for, gone when the run ends."""
    if not _running:
        stack = ExitStack()
        folder = Path(stack.enter_context(tempfile.TemporaryDirectory(prefix="potrel-tests-", dir=quick_folder())))
        made = stack.enter_context(Cluster(folder, throw_away=True).running())
        made.ensure_database(_TEMPLATE)
        migrate(made.url(_TEMPLATE))
        atexit.register(stack.close)
        _running.append(made)
    return _running[0]


class DatabaseTest(unittest.TestCase):
    """A test with an empty, migrated database of its own."""

    url: str
    store: Database

    def setUp(self) -> None:
        name = f"test_{next(_numbers)}"
        here = cluster()
        here.ensure_database(name, template=_TEMPLATE)
        self.url = here.url(name)
        self.store = Database(self.url, most=4)
        self.store.open()
        self.addCleanup(here.drop_database, name)
        self.addCleanup(self.store.close)

    def fill(self, kitchen: Kitchen) -> None:
        """Put a kitchen into the database."""
        with self.store.writing("test") as connection:
            insert_kitchen(connection, kitchen, "test")


class Served:
    """A real server over a database, in a thread; `today` is the day it believes in."""

    def __init__(self, url: str, today: date = DAY, scale: str | None = None) -> None:
        self.today = today
        app = create_app(url, today=lambda: self.today, scale=scale)
        self._server = uvicorn.Server(uvicorn.Config(app, port=0, log_level="error", timeout_graceful_shutdown=2))
        self._thread = threading.Thread(target=self._server.run, daemon=True)

    def start(self) -> str:
        """Start; returns the address."""
        self._thread.start()
        while not self._server.started:
            if not self._thread.is_alive():
                raise RuntimeError("the server did not start")
            time.sleep(0.01)
        port = self._server.servers[0].sockets[0].getsockname()[1]
        return f"http://127.0.0.1:{port}"

    def stop(self) -> None:
        """Stop, and wait until it has."""
        self._server.should_exit = True
        self._thread.join(10)
