"""Offers and credits: append-only. A wrong one is corrected, or taken back, by a new one that names it."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import replace
from typing import Any

from psycopg import sql

from potrel.core.supply import Credit, Offer
from potrel.store.database import Connection, identifiers, select

_OFFER = "item, supplier, pack, price, valid_from, drained, id, corrects, valid_until, code, gtin, source, delivered, withdrawn"
_CREDIT = "item, supplier, pack, packs, amount, credited_on, goods_back, source, id, withdraws"


def load_offers(connection: Connection, after: int = 0) -> tuple[Offer, ...]:
    """All offers whose number is over `after`, in the order in which they were recorded."""
    rows = connection.execute(select(_OFFER, "FROM offer WHERE number > %s ORDER BY number"), [after])
    return tuple(Offer(*row) for row in rows)


def load_credits(connection: Connection) -> tuple[Credit, ...]:
    """All credits, in the order in which they were recorded."""
    return tuple(Credit(*row) for row in connection.execute(select(_CREDIT, "FROM credit ORDER BY number")))


def insert_offers(connection: Connection, offers: Iterable[Offer], by: str, price_list: int | None = None) -> list[Offer]:
    """Record offers; each without an id is given the next free one. Returns them as recorded."""
    numbered = [replace(offer, id=id_) for offer, id_ in _with_ids(connection, "offer", "o", list(offers))]
    rows = [
        (o.item, o.supplier, o.pack, o.price, o.on, o.drained, o.id, o.corrects, o.until, o.code, o.gtin, o.source,
         o.delivered, o.withdrawn, price_list, by)
        for o in numbered
    ]  # fmt: skip
    _copy(connection, "offer", f"{_OFFER}, price_list, recorded_by", rows)
    return numbered


def insert_credits(connection: Connection, credits_: Iterable[Credit], by: str, price_list: int | None = None) -> list[Credit]:
    """Record credits; each without an id is given the next free one. Returns them as recorded."""
    numbered = [replace(credit, id=id_) for credit, id_ in _with_ids(connection, "credit", "c", list(credits_))]
    rows = [
        (c.item, c.supplier, c.pack, c.packs, c.amount, c.on, c.goods_back, c.source, c.id, c.withdraws, price_list, by)
        for c in numbered
    ]
    _copy(connection, "credit", f"{_CREDIT}, price_list, recorded_by", rows)
    return numbered


def of_price_list(connection: Connection, number: int) -> tuple[list[Offer], list[Credit]]:
    """What was recorded from a list, what was taken back of it included."""
    offers = connection.execute(select(_OFFER, "FROM offer WHERE price_list = %s ORDER BY number"), [number])
    credits_ = connection.execute(select(_CREDIT, "FROM credit WHERE price_list = %s ORDER BY number"), [number])
    return [Offer(*row) for row in offers], [Credit(*row) for row in credits_]


def _with_ids(connection: Connection, table: str, letter: str, parts: Sequence[Any]) -> list[tuple[Any, str]]:
    """Parts with their own id, or with one made of the next number. Writers queue, so nobody else takes it meanwhile."""
    query = sql.SQL("SELECT coalesce(max(number), 0) FROM {}").format(sql.Identifier(table))
    row = connection.execute(query).fetchone()
    first = 1 + (row[0] if row else 0)
    return [(part, part.id or f"{letter}-{first + place}") for place, part in enumerate(parts)]


def _copy(connection: Connection, table: str, columns: str, rows: list[tuple[Any, ...]]) -> None:
    statement = sql.SQL("COPY {} ({}) FROM STDIN").format(sql.Identifier(table), identifiers(columns))
    with connection.cursor() as cursor, cursor.copy(statement) as copy:
        for row in rows:
            copy.write_row(row)
