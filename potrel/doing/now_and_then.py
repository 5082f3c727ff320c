"""Does something now and then by itself, while the server runs."""

from __future__ import annotations

import threading
from collections.abc import Callable, Iterator
from contextlib import contextmanager


@contextmanager
def now_and_then(name: str, work: Callable[[], object], every: float, first: float | None = None) -> Iterator[None]:
    """Do some work every so many seconds (the `first` time after so many) while the block runs. It raises nothing."""
    over = threading.Event()

    def watch() -> None:
        wait = every if first is None else first
        while not over.wait(wait):
            wait = every
            work()

    thread = threading.Thread(target=watch, name=name, daemon=True)
    thread.start()
    try:
        yield
    finally:
        over.set()
        thread.join(2)
