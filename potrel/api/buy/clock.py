"""Fetches suppliers' lists by the clock: what is due is read in and waits for a person; nothing is recorded unseen."""

from __future__ import annotations

import threading
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import datetime

import psycopg
from psycopg_pool import PoolTimeout

from potrel.api.buy.lists import fetch_list
from potrel.api.buy.reviews import Reviews
from potrel.api.kitchens import Kitchens
from potrel.core.errors import PotrelError
from potrel.store.suppliers import claim_fetch, note_fetch_problem

_EVERY = 30.0


def fetch_what_is_due(kitchens: Kitchens, reviews: Reviews, now: datetime) -> list[str]:
    """Fetch the lists of all suppliers whose hour has come and that were not fetched today; returns their ids."""
    with kitchens.database.writing("the clock") as connection:
        due = claim_fetch(connection, now)
    for supplier in due:
        try:
            fetch_list(kitchens, reviews, supplier, now.date(), "the clock")
        except PotrelError as error:
            with kitchens.database.writing("the clock") as connection:
                note_fetch_problem(connection, supplier, str(error))
    return due


@contextmanager
def by_the_clock(kitchens: Kitchens, reviews: Reviews, clock: Callable[[], datetime]) -> Iterator[None]:
    """Look every half minute what is due, while the block runs."""
    over = threading.Event()

    def watch() -> None:
        while not over.wait(_EVERY):
            try:
                fetch_what_is_due(kitchens, reviews, clock())
            except (psycopg.OperationalError, PoolTimeout):
                # The database is away for now; what is due stays due.
                continue

    thread = threading.Thread(target=watch, name="fetches by the clock", daemon=True)
    thread.start()
    try:
        yield
    finally:
        over.set()
        thread.join(2)
