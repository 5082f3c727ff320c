"""Takes a back-up each day by itself, while the server runs."""

from __future__ import annotations

import logging
from collections.abc import Callable
from contextlib import AbstractContextManager, nullcontext
from datetime import datetime

import psycopg
from psycopg_pool import PoolTimeout

from potrel.core.errors import PotrelError
from potrel.doing.now_and_then import now_and_then
from potrel.store.backup import Backups

_FIRST, _EVERY = 60.0, 1800.0


def daily(backups: Backups | None, clock: Callable[[], datetime]) -> AbstractContextManager[None]:
    """Look now and then whether the back-up of the day was taken, while the block runs."""
    if backups is None:
        return nullcontext()

    def take() -> None:
        try:
            backups.take_todays(clock().date())
        except (PotrelError, OSError, psycopg.Error, PoolTimeout) as error:
            # It is tried again; the page shows how old the newest one is.
            logging.getLogger("potrel").warning("no back-up was taken: %s", error)

    return now_and_then("daily back-up", take, _EVERY, _FIRST)
