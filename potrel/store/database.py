"""The database: its migrations, its pool of connections, and the transaction that is the only way to write."""

from __future__ import annotations

from collections.abc import Iterator
from collections.abc import Set as AbstractSet
from contextlib import contextmanager
from pathlib import Path
from typing import Any, LiteralString

import psycopg
from psycopg import sql
from psycopg_pool import ConnectionPool, PoolTimeout

from potrel.core.errors import PotrelError
from potrel.core.sentences import say
from potrel.store.errors import refusals

Connection = psycopg.Connection[tuple[Any, ...]]
_MIGRATIONS = Path(__file__).parent / "migrations"


# Writers queue on this lock of the database, so that a check made at the start of a transaction still holds at its end.
_MOMENT = 1.0
WRITERS = 0x706F7472656C
# Moments are read, and told, by the kitchen's own clock.
_KITCHENS_CLOCK = b"SELECT set_config('TimeZone', coalesce((SELECT time_zone FROM kitchen), current_setting('TimeZone')), true)"


def migrate(url: str) -> None:
    """Bring the database to the newest schema; one process at a time. PotrelError where it is newer than this code."""
    from yoyo import get_backend, read_migrations

    _refuse_newer_data(url)
    stale = _lock_is_stale(url)
    backend = get_backend("postgresql+psycopg://" + url.split("://", 1)[1])
    try:
        if stale:
            backend.break_lock()
        with backend.lock():
            backend.apply_migrations(backend.to_apply(read_migrations(str(_MIGRATIONS))))
    finally:
        backend.connection.close()


def _refuse_newer_data(url: str) -> None:
    """What a newer Potrel wrote may mean what this one does not know: it is not opened, rather than half understood."""
    with psycopg.connect(url) as connection:
        there = connection.execute("SELECT to_regclass('_yoyo_migration') IS NOT NULL").fetchone()
        if there is None or not there[0]:
            return
        applied = {name for (name,) in connection.execute("SELECT migration_id FROM _yoyo_migration")}
    refuse_newer(applied)


def refuse_newer(applied: AbstractSet[str]) -> None:
    """PotrelError where some migrations are not known to this code."""
    if not applied <= {path.stem for path in _MIGRATIONS.iterdir() if path.suffix in (".sql", ".py")}:
        english = "the data was written by a newer Potrel: start that one, or restore a back-up of before"
        raise PotrelError(say("newer_data", english))


def _lock_is_stale(url: str) -> bool:
    """Whether the migration lock was left by a process that is gone: nobody else is connected."""
    with psycopg.connect(url) as connection:
        there = connection.execute("SELECT to_regclass('yoyo_lock') IS NOT NULL").fetchone()
        if there is None or not there[0]:
            return False
        others = connection.execute(
            "SELECT count(*) FROM pg_stat_activity WHERE datname = current_database() AND pid <> pg_backend_pid()"
        ).fetchone()
        locked = connection.execute("SELECT count(*) FROM yoyo_lock").fetchone()
        return others == (0,) and locked != (0,)


class Database:
    """A pool of connections to one kitchen's database."""

    def __init__(self, url: str, *, most: int = 8) -> None:
        self._url = url
        # One that died with the server is replaced before anybody gets it.
        self._pool: ConnectionPool[Connection] = ConnectionPool(
            url, min_size=1, max_size=most, open=False, name="potrel", check=ConnectionPool.check_connection
        )

    def open(self) -> None:
        """Connect; raises where the server does not answer within 10 s."""
        self._pool.open(wait=True, timeout=10)

    def close(self) -> None:
        """Let all connections go."""
        self._pool.close()

    @contextmanager
    def _connected(self) -> Iterator[Connection]:
        """A connection of the pool. Where that has none within a moment, one of its own: the pool seeks for a server that was
        gone less and less often, and one that is gone is to be told of at once.
        """
        try:
            pooled = self._pool.getconn(timeout=_MOMENT)
        except PoolTimeout:
            with psycopg.connect(self._url, connect_timeout=2) as own:
                yield own
            return
        try:
            yield pooled
        finally:
            self._pool.putconn(pooled)

    @contextmanager
    def reading(self) -> Iterator[Connection]:
        """A connection that sees one moment of the database."""
        with self._connected() as connection:
            with connection.transaction():
                connection.execute(b"SET TRANSACTION ISOLATION LEVEL REPEATABLE READ READ ONLY; " + _KITCHENS_CLOCK)
                yield connection

    @contextmanager
    def writing(self, by: str) -> Iterator[Connection]:
        """A transaction: all of the block or nothing. The change log says that it was done `by` somebody.

        Writers queue, so that a check made at the start still holds at the end.
        """
        with self._connected() as connection, refusals(), connection.transaction():
            connection.execute("SELECT pg_advisory_xact_lock(%s), set_config('potrel.actor', %s, true)", [WRITERS, by])
            connection.execute(_KITCHENS_CLOCK)
            yield connection

    @contextmanager
    def beside(self) -> Iterator[Connection]:
        """A transaction that writes what is no part of the kitchen: it waits for no writer, and none waits for it."""
        with self._connected() as connection, connection.transaction():
            yield connection


@contextmanager
def opened(url: str, *, most: int = 8) -> Iterator[Database]:
    """The database at an address, connected while the block runs."""
    store = Database(url, most=most)
    store.open()
    try:
        yield store
    finally:
        store.close()


def identifiers(columns: str) -> sql.Composed:
    """The named columns ("a, b, c") as identifiers."""
    return sql.SQL(", ").join(map(sql.Identifier, columns.split(", ")))


def select(columns: str, rest: LiteralString) -> sql.Composed:
    """A SELECT of the named columns ("a, b, c"), with the rest of the statement."""
    return sql.SQL("SELECT {} ").format(identifiers(columns)) + sql.SQL(rest)


def insert_into(table: str, columns: str) -> sql.Composed:
    """An INSERT of all the named columns ("a, b, c") of a table."""
    marks = sql.SQL(", ").join([sql.Placeholder()] * len(columns.split(", ")))
    return sql.SQL("INSERT INTO {} ({}) VALUES ({})").format(sql.Identifier(table), identifiers(columns), marks)
