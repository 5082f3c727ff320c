"""Fetches suppliers' lists by the clock: what is due is read in and waits for a person; nothing is recorded unseen."""

from __future__ import annotations

from collections.abc import Callable
from contextlib import AbstractContextManager, suppress
from datetime import datetime

import psycopg
from psycopg_pool import PoolTimeout

from potrel.core.errors import PotrelError
from potrel.doing.kitchens import Kitchens
from potrel.doing.lists import fetch_list
from potrel.doing.now_and_then import now_and_then
from potrel.doing.reviews import Reviews
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


def by_the_clock(kitchens: Kitchens, reviews: Reviews, clock: Callable[[], datetime]) -> AbstractContextManager[None]:
    """Look every half minute what is due, while the block runs."""

    def fetch() -> None:
        # Where the database is away for now, what is due stays due.
        with suppress(psycopg.OperationalError, PoolTimeout):
            fetch_what_is_due(kitchens, reviews, clock())

    return now_and_then("fetches by the clock", fetch, _EVERY)
