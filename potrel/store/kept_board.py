"""The board as it was last written, packed, kept in the database: what a start answers with before the kitchen is costed."""

from __future__ import annotations

from datetime import date

from potrel.store.changes import Version
from potrel.store.database import Connection


def keep_board(connection: Connection, version: Version, day: date, build: str, packed: bytes) -> None:
    """Keep the board of a version of the data, of a day, as a build of Potrel writes it, in the place of the one before."""
    connection.execute(
        "INSERT INTO kept_board (mark, day, build, packed) VALUES (%s, %s, %s, %s) ON CONFLICT (only_one) DO UPDATE"
        " SET (mark, day, build, packed) = (excluded.mark, excluded.day, excluded.build, excluded.packed)",
        [version.mark, day, build, packed],
    )


def kept_board(connection: Connection, version: Version, day: date, build: str) -> bytes | None:
    """The board of just this version, day and build; None where another one was kept, or none."""
    row = connection.execute(
        "SELECT packed FROM kept_board WHERE mark = %s AND day = %s AND build = %s", [version.mark, day, build]
    ).fetchone()
    return None if row is None else bytes(row[0])
