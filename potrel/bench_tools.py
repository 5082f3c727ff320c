"""What the measurements share: a day, a size, a clock, a way to print, a call over HTTP."""

from __future__ import annotations

import json
import statistics
import time
from collections.abc import Callable
from datetime import date
from typing import Any

import httpx2

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
