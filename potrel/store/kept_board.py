"""The board as it was last written, packed, kept in the database: what a start answers with before the kitchen is costed, and
what a new version of Potrel is held against."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from uuid import UUID

from potrel.core.reckoning import newest
from potrel.store.changes import Version
from potrel.store.database import Connection


@dataclass(frozen=True, slots=True)
class KeptBoard:
    """A board as it was kept: by which build, of which day, by which newest change of the rules, packed by gzip."""

    mark: UUID
    day: date
    build: str
    reckoning: int
    packed: bytes


def keep_board(connection: Connection, version: Version, day: date, build: str, packed: bytes) -> None:
    """Keep the board of a version of the data, of a day, as a build of Potrel writes it, in the place of the one before."""
    connection.execute(
        "INSERT INTO kept_board (mark, day, build, reckoning, packed) VALUES (%s, %s, %s, %s, %s) ON CONFLICT (only_one)"
        " DO UPDATE SET (mark, day, build, reckoning, packed) = (excluded.mark, excluded.day, excluded.build,"
        " excluded.reckoning, excluded.packed)",
        [version.mark, day, build, newest(), packed],
    )


def kept_board(connection: Connection, version: Version, day: date, build: str) -> bytes | None:
    """The board of just this version, day and build; None where another one was kept, or none."""
    row = connection.execute(
        "SELECT packed FROM kept_board WHERE mark = %s AND day = %s AND build = %s", [version.mark, day, build]
    ).fetchone()
    return None if row is None else bytes(row[0])


def board_of_another_build(connection: Connection, build: str) -> KeptBoard | None:
    """The board that another build kept of the kitchen as it still stands; None where there is none.

    What a migration changed on the way to this build was done by nobody: it is part of what the build does.
    """
    row = connection.execute(
        "SELECT mark, day, build, reckoning, packed FROM kept_board kept WHERE build <> %s"
        " AND NOT EXISTS (SELECT FROM change WHERE changed_by <> session_user"
        " AND number > (SELECT number FROM change WHERE mark = kept.mark))"
        " AND EXISTS (SELECT FROM change WHERE mark = kept.mark)",
        [build],
    ).fetchone()
    return None if row is None else KeptBoard(*row)
