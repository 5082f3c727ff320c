"""A throw-away PostgreSQL cluster for the tests, one database a test, and real servers over them that are kept warm."""

from __future__ import annotations

import asyncio
import atexit
import itertools
import tempfile
import threading
import time
import unittest
from collections.abc import Coroutine
from contextlib import AsyncExitStack, ExitStack
from datetime import date
from pathlib import Path
from typing import Any, ClassVar

import uvicorn
from fastapi import FastAPI
from starlette.responses import Response
from starlette.types import Receive, Scope, Send

from potrel.api.app import Serving, create_app
from potrel.api.guard.line import TimedLine
from potrel.core.kitchen.kitchen import Kitchen
from potrel.doing.kitchens import Kept, Kitchens
from potrel.postgres import Cluster, quick_folder
from potrel.store.changes import Version, read_version
from potrel.store.database import Database, migrate
from potrel.store.kitchens import insert_kitchen
from tests.kitchens import DAY

_EMPTY = "template_of_tests"
_numbers = itertools.count(1)
_running: list[Cluster] = []
# The templates that hold a kitchen, by the kitchen itself: it is kept, so that its id stays its own.
_filled: dict[int, tuple[str, Kitchen]] = {}


def cluster() -> Cluster:
    """The one cluster of this process of tests, started when first asked for, gone when the process ends."""
    if not _running:
        stack = ExitStack()
        folder = Path(stack.enter_context(tempfile.TemporaryDirectory(prefix="potrel-tests-", dir=quick_folder())))
        made = stack.enter_context(Cluster(folder, throw_away=True).running())
        made.ensure_database(_EMPTY)
        migrate(made.url(_EMPTY))
        atexit.register(stack.close)
        _running.append(made)
    return _running[0]


def _template(kitchen: Kitchen | None) -> str:
    """The name of a database that holds a kitchen and nothing else; it is filled once, and copied for each test."""
    if kitchen is None:
        return _EMPTY
    if id(kitchen) not in _filled:
        name = f"template_{len(_filled)}"
        cluster().ensure_database(name, template=_EMPTY)
        store = Database(cluster().url(name), most=1)
        store.open()
        with store.writing("test") as connection:
            insert_kitchen(connection, kitchen, "test")
        store.close()
        _filled[id(kitchen)] = name, kitchen
    return _filled[id(kitchen)][0]


class DatabaseTest(unittest.TestCase):
    """A test with a migrated database of its own: empty, or holding a kitchen."""

    kitchen: ClassVar[Kitchen | None] = None
    url: str
    store: Database

    def setUp(self) -> None:
        name = f"test_{next(_numbers)}"
        here = cluster()
        here.ensure_database(name, template=_template(self.kitchen))
        self.url = here.url(name)
        self.store = Database(self.url, most=4)
        self.store.open()
        self.addCleanup(here.drop_database, name)
        self.addCleanup(self.store.close)

    def fill(self, kitchen: Kitchen) -> None:
        """Put a kitchen into the database."""
        with self.store.writing("test") as connection:
            insert_kitchen(connection, kitchen, "test")


class _Server:
    """A real server in a thread, which serves one application after the other at one address."""

    def __init__(self) -> None:
        # Made once: to make one takes a second, most of it for what its routes read and answer.
        self.app = create_app(Serving(""))
        self._app: FastAPI | None = None
        self._open: AsyncExitStack | None = None
        self._under_way = 0
        # A line that is idle between two tests must not be cut in the moment in which it is used again.
        config = uvicorn.Config(
            self._serve, port=0, interface="asgi3", http=TimedLine, lifespan="off", log_level="error", timeout_keep_alive=600
        )  # fmt: skip
        self._server = uvicorn.Server(config)
        self._thread = threading.Thread(target=self._run, daemon=True)
        self._thread.start()
        while not self._server.started:
            if not self._thread.is_alive():
                raise RuntimeError("the server did not start")
            time.sleep(0.01)
        port = self._server.servers[0].sockets[0].getsockname()[1]
        self.address = f"http://127.0.0.1:{port}"

    def _run(self) -> None:
        self._loop = asyncio.new_event_loop()
        self._loop.run_until_complete(self._server.serve())

    async def _serve(self, scope: Scope, receive: Receive, send: Send) -> None:
        app = self._app
        if app is None:
            # A page that was closed in the middle of something; its test is over.
            return await Response(status_code=503)(scope, receive, send)
        self._under_way += 1
        try:
            await app(scope, receive, send)
        finally:
            self._under_way -= 1

    def _wait_for(self, work: Coroutine[Any, Any, None]) -> None:
        asyncio.run_coroutine_threadsafe(work, self._loop).result(30)

    def take(self, of: Serving) -> None:
        """Serve something from now on."""
        app = self.app
        app.state.serving = of

        async def enter() -> None:
            self._open = AsyncExitStack()
            await self._open.enter_async_context(app.router.lifespan_context(app))
            self._app = app

        self._wait_for(enter())

    def leave(self) -> None:
        """Serve it no longer; what is under way is waited for."""

        async def leave() -> None:
            self._app = None
            for _ in range(200):
                if self._under_way == 0:
                    break
                await asyncio.sleep(0.01)
            if self._open is not None:
                await self._open.aclose()

        self._wait_for(leave())


_idle: list[_Server] = []
# Kitchens that were read and costed before, by the version of their data: copies of one template are of one version, and what
# is kept of one is as right for the next. It never changes once it is there.
_costed: dict[tuple[Version, date], Kept] = {}


class Served:
    """A database served; `today` is the day that the server believes in."""

    def __init__(self, url: str, today: date = DAY, scale: str | None = None) -> None:
        self.today = today
        self._of = Serving(url, today=lambda: self.today, scale=scale, supplier_hosts=["127.0.0.1"])
        self._server: _Server | None = None

    def start(self) -> str:
        """Start; returns the address."""
        self._server = _idle.pop() if _idle else _Server()
        self._server.take(self._of)
        kitchens: Kitchens = self._server.app.state.kitchens
        with kitchens.database.reading() as connection:
            key = read_version(connection), self.today
        if key not in _costed:
            _costed[key] = kitchens.current()
        kitchens.begin_with(_costed[key])
        return self._server.address

    def stop(self) -> None:
        """Stop, and wait until it has."""
        server, self._server = self._server, None
        if server is not None:
            server.leave()
            _idle.append(server)
