"""Suppliers' lists as they were read, with what a person said of them and what became of them."""

from __future__ import annotations

import hashlib
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime
from typing import Any, Literal, LiteralString

from psycopg import sql
from psycopg.types.json import Jsonb

from potrel.core.buy.price_list import ListKind, PriceList
from potrel.core.rooms.review import ListChoices
from potrel.core.sentences import say
from potrel.formats.kitchen_json import part_from, part_to_plain
from potrel.store.database import Connection, select
from potrel.store.errors import NotFound, Refused

_COLUMNS = (
    "number, file_name, kind, document, supplier, choices, state, read_at, read_by, settled_at, settled_by, prices, digest,"
    " taken"
)


ListsShown = Literal["all", "open", "settled"]


@dataclass(frozen=True, slots=True)
class StoredList:
    """A list in the database. `prices` are so many prices or credits as it gave; `digest` stands for the bytes of its file.

    `taken` are the places of the lines that were recorded; None where none was, or nobody noted that yet.
    """

    number: int
    file_name: str
    kind: ListKind
    document: str | None
    supplier: str | None
    choices: ListChoices
    state: str
    read_at: datetime
    read_by: str
    settled_at: datetime | None
    settled_by: str | None
    prices: int
    digest: bytes
    taken: list[int] | None = None


def _stored(row: tuple[Any, ...]) -> StoredList:
    number, name, kind, document, supplier, choices, *rest = row
    return StoredList(number, name, kind, document, supplier, part_from(ListChoices, choices), *rest)


def find_same(connection: Connection, digest: bytes) -> int | None:
    """The number of the list that was read from the very same bytes before, None where there is none."""
    row = connection.execute("SELECT number FROM price_list WHERE digest = %s", [digest]).fetchone()
    return None if row is None else int(row[0])


def digest_of(content: bytes) -> bytes:
    """What stands for the bytes of a file: their SHA-256."""
    return hashlib.sha256(content).digest()


# The bytes of all lists that are kept. Some 5,000 lists of a usual size.
MOST_KEPT = 500 * 2**20


def kept_bytes(connection: Connection) -> int:
    """How many bytes the kept lists take."""
    row = connection.execute("SELECT coalesce(sum(octet_length(content)), 0) FROM price_list").fetchone()
    return 0 if row is None else int(row[0])


def insert_price_list(
    connection: Connection, file_name: str, content: bytes, of: PriceList, supplier: str | None, by: str
) -> int:
    """Keep a list that was read; returns its number. Refused where there is no room for it."""
    if kept_bytes(connection) + len(content) > MOST_KEPT:
        english = "the lists that are kept take {most} MB, which is all there is room for: drop some that were never recorded"
        raise Refused(say("no_room_for_lists", english, most=MOST_KEPT // 2**20))
    row = connection.execute(
        "INSERT INTO price_list (file_name, digest, content, kind, document, supplier, read_by)"
        " VALUES (%s, %s, %s, %s, %s, %s, %s) RETURNING number",
        [file_name, digest_of(content), content, of.kind, of.number, supplier, by],
    ).fetchone()
    if row is None:
        raise RuntimeError("a list was kept without a number coming of it")
    return int(row[0])


def price_lists(
    connection: Connection, *, show: ListsShown = "all", find: str = "", start: int = 0, limit: int = 100
) -> tuple[list[StoredList], int]:
    """A stretch of the lists, those still open before all others, then the newest first; and how many there are in all.

    They are found by words of their file, their document or their supplier.
    """
    words = [f"%{_literally(word)}%" for word in find.split()]
    wanted: LiteralString = (
        "FROM price_list AS list WHERE (%(show)s = 'all' OR (%(show)s = 'open') = (state = 'open'))"
        " AND concat_ws(' ', file_name, document, (SELECT name FROM supplier WHERE id = list.supplier), number)"
        " ILIKE ALL (%(words)s)"
    )
    told = {"show": show, "words": words, "start": start, "limit": limit}
    rows = connection.execute(
        select(_COLUMNS, wanted + " ORDER BY state <> 'open', number DESC OFFSET %(start)s LIMIT %(limit)s"), told
    )
    found = connection.execute(sql.SQL("SELECT count(*) ") + sql.SQL(wanted), told).fetchone()
    return [_stored(row) for row in rows], 0 if found is None else int(found[0])


def _literally(word: str) -> str:
    """A word of a search as LIKE takes it for itself."""
    return word.replace("\\", "\\\\").replace("%", "\\%").replace("_", "\\_")


def waiting(connection: Connection) -> int:
    """How many lists are still open."""
    row = connection.execute("SELECT count(*) FROM price_list WHERE state = 'open'").fetchone()
    return 0 if row is None else int(row[0])


def load_price_list(connection: Connection, number: int) -> StoredList:
    """A list; NotFound where there is none of this number."""
    row = connection.execute(select(_COLUMNS, "FROM price_list WHERE number = %s"), [number]).fetchone()
    if row is None:
        raise NotFound("list", str(number))
    return _stored(row)


def content_of(connection: Connection, number: int) -> bytes:
    """The bytes that a list was read from."""
    row = connection.execute("SELECT content FROM price_list WHERE number = %s", [number]).fetchone()
    if row is None:
        raise NotFound("list", str(number))
    return bytes(row[0])


def recorded_as(connection: Connection, kind: ListKind, document: str, supplier: str, but: int) -> int | None:
    """The number of another list that is recorded as the same document of the same supplier."""
    row = connection.execute(
        "SELECT number FROM price_list WHERE kind = %s AND document = %s AND supplier = %s AND number <> %s"
        " AND state = 'recorded' LIMIT 1",
        [kind, document, supplier, but],
    ).fetchone()
    return None if row is None else int(row[0])


def save_choices(connection: Connection, number: int, choices: ListChoices, kind: ListKind, supplier: str | None) -> None:
    """Keep what was said of a list."""
    plain = part_to_plain(ListChoices, choices, whole=False)
    connection.execute(
        "UPDATE price_list SET choices = %s, kind = %s, supplier = %s WHERE number = %s", [Jsonb(plain), kind, supplier, number]
    )


def settle(connection: Connection, number: int, state: str, by: str, prices: int, taken: Iterable[int] | None) -> None:
    """Say that a list was recorded, so many prices of so many lines, or undone."""
    places = None if taken is None else sorted(taken)
    connection.execute(
        "UPDATE price_list SET state = %s, settled_at = now(), settled_by = %s, prices = %s, taken = %s WHERE number = %s",
        [state, by, prices, places, number],
    )


def drop_price_list(connection: Connection, number: int) -> None:
    """Forget a list that was never recorded."""
    done = connection.execute("DELETE FROM price_list WHERE number = %s AND state = 'open'", [number])
    if done.rowcount == 0:
        english = "a list that was recorded stays, so that its prices tell where they are from: undo it instead"
        raise Refused(say("list_stays", english))
