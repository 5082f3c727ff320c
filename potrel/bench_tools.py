"""What the measurements share: a day, a size, a clock, a way to print, a call over HTTP."""

from __future__ import annotations

import json
import statistics
import tempfile
import threading
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import date
from pathlib import Path
from typing import Any

import httpx2

from potrel.core.kitchen.kitchen import Kitchen

DAY = date(2026, 11, 24)
ITEMS = 300


def timed(work: Callable[[], object], runs: int) -> list[float]:
    """The milliseconds of each run."""
    times = []
    for _ in range(runs):
        start = time.perf_counter()
        work()
        times.append((time.perf_counter() - start) * 1000)
    return times


def say(what: str, times: list[float], compared: str = "") -> float:
    """Print the median and the 95th percentile of some times [ms]."""
    middle = statistics.median(times)
    high = statistics.quantiles(times, n=20)[18] if len(times) > 2 else max(times)
    print(f"  {what:58} median {middle:8.2f} ms   p95 {high:8.2f} ms   {compared}", flush=True)
    return middle


def call(url: str, body: Any = None) -> bytes:
    """GET an address, or POST a body to it."""
    return sent(url, None if body is None else json.dumps(body).encode(), "application/json")


# One client for all: to make one takes longer than what is measured. Bytes come as they are, as a program asks for them.
_CLIENT = httpx2.Client(timeout=60, headers={"Accept-Encoding": "identity"})


def sent(url: str, data: bytes | None, kind: str, method: str | None = None) -> bytes:
    """Send bytes of a kind, by POST where no method is named; GET where there are none. Returns the answer."""
    verb = method or ("GET" if data is None else "POST")
    answer = _CLIENT.request(verb, url, content=data, headers={"Content-Type": kind})
    return answer.raise_for_status().content


Fill = Callable[[Any, Kitchen], None]


def filled(connection: Any, kitchen: Kitchen) -> None:
    """Put a kitchen into an empty database, as an import does."""
    from potrel.store.kitchens import insert_kitchen

    insert_kitchen(connection, kitchen, "bench")


@contextmanager
def kept(kitchen: Kitchen, fill: Fill = filled) -> Iterator[str]:
    """The address of a throw-away database that holds a kitchen."""
    from potrel.postgres import Cluster, quick_folder
    from potrel.store.database import migrate, opened

    with tempfile.TemporaryDirectory(dir=quick_folder()) as folder, Cluster(Path(folder), throw_away=True).running() as cluster:
        cluster.ensure_database("bench")
        url = cluster.url("bench")
        migrate(url)
        with opened(url, most=1) as store, store.writing("bench") as connection:
            fill(connection, kitchen)
        yield url


@contextmanager
def serving(url: str, *, ahead: bool = True) -> Iterator[str]:
    """The address of a server over a database."""
    import uvicorn

    from potrel.api.app import Serving, create_app

    server = uvicorn.Server(
        uvicorn.Config(create_app(Serving(url, today=lambda: DAY, ahead=ahead)), port=0, log_level="warning")
    )
    thread = threading.Thread(target=server.run, daemon=True)
    thread.start()
    while not server.started:
        time.sleep(0.02)
    yield f"http://127.0.0.1:{server.servers[0].sockets[0].getsockname()[1]}"
    server.should_exit = True
    thread.join(10)


@contextmanager
def served(kitchen: Kitchen) -> Iterator[tuple[str, str]]:
    """The address of a server over a throw-away database that holds the kitchen, and that of the database."""
    with kept(kitchen) as url, serving(url) as address:
        yield address, url
