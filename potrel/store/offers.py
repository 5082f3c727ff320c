"""Offers and credits: append-only. A wrong one is corrected, or taken back, by a new one that names it."""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence
from dataclasses import replace
from typing import Any, TypeVar

from psycopg import sql

from potrel.core.kitchen.supply import Credit, Offer
from potrel.store.database import Connection, identifiers, select
from potrel.store.quantities import PACK, columns, maybe, pack, pack_values, values

_OFFER = (
    f"item, supplier, {PACK}, price, valid_from, {columns('drained')}, id, corrects, valid_until, code, gtin, source,"
    " delivered, withdrawn"
)
_CREDIT = f"item, supplier, {PACK}, packs, amount, credited_on, goods_back, source, id, withdraws"
P = TypeVar("P", Offer, Credit)


def load_offers(connection: Connection, ids: Iterable[str] | None = None) -> tuple[Offer, ...]:
    """All offers, in the order in which they were recorded, or those of some ids."""
    wanted = None if ids is None else list(ids)
    rows = connection.execute(
        select(_OFFER, "FROM offer WHERE %(ids)s::text[] IS NULL OR id = ANY (%(ids)s) ORDER BY number"), {"ids": wanted}
    )
    return tuple(_offer(row) for row in rows)


def _offer(row: tuple[Any, ...]) -> Offer:
    item, supplier, text, count, amount, unit, price, on, *rest = row
    return Offer(item, supplier, pack(text, count, amount, unit), price, on, maybe(*rest[:3]), *rest[3:])


def load_credits(connection: Connection) -> tuple[Credit, ...]:
    """All credits, in the order in which they were recorded."""
    return tuple(_credit(row) for row in connection.execute(select(_CREDIT, "FROM credit ORDER BY number")))


def _credit(row: tuple[Any, ...]) -> Credit:
    item, supplier, text, count, amount, unit, *rest = row
    return Credit(item, supplier, pack(text, count, amount, unit), *rest)


def insert_offers(connection: Connection, offers: Iterable[Offer], by: str, price_list: int | None = None) -> list[Offer]:
    """Record offers; each without an id is given one. Returns them as recorded."""
    numbered = _with_ids(connection, "o", list(offers))
    rows = [
        (o.item, o.supplier, *pack_values(o.pack), o.price, o.on, *values(o.drained), o.id, o.corrects, o.until, o.code, o.gtin,
         o.source, o.delivered, o.withdrawn, price_list, by)
        for o in numbered
    ]  # fmt: skip
    _copy(connection, "offer", f"{_OFFER}, price_list, recorded_by", rows)
    return numbered


def insert_credits(connection: Connection, credits_: Iterable[Credit], by: str, price_list: int | None = None) -> list[Credit]:
    """Record credits; each without an id is given one. Returns them as recorded."""
    numbered = _with_ids(connection, "c", list(credits_))
    rows = [
        (c.item, c.supplier, *pack_values(c.pack), c.packs, c.amount, c.on, c.goods_back, c.source, c.id, c.withdraws,
         price_list, by)
        for c in numbered
    ]  # fmt: skip
    _copy(connection, "credit", f"{_CREDIT}, price_list, recorded_by", rows)
    return numbered


def of_price_list(connection: Connection, number: int) -> tuple[list[Offer], list[Credit]]:
    """What was recorded from a list, what was taken back of it included."""
    offers = connection.execute(select(_OFFER, "FROM offer WHERE price_list = %s ORDER BY number"), [number])
    credits_ = connection.execute(select(_CREDIT, "FROM credit WHERE price_list = %s ORDER BY number"), [number])
    return [_offer(row) for row in offers], [_credit(row) for row in credits_]


def lists_of_offers(connection: Connection, offers: Iterable[str]) -> dict[str, int]:
    """The number of the supplier's list that each of some offers was read from, where it was."""
    rows = connection.execute("SELECT id, price_list FROM offer WHERE id = ANY (%s) AND price_list IS NOT NULL", [list(offers)])
    return dict(rows.fetchall())


def _with_ids(connection: Connection, letter: str, parts: Sequence[P]) -> list[P]:
    """Parts with their own id, or with one of the sequence that every given id comes from.

    Ids that come with the parts (an import brings them) move the sequence on, so that none is ever given again.
    """
    own = [int(found[1]) for part in parts if part.id and (found := re.fullmatch(r"[oc]-([0-9]{1,18})", part.id))]
    if own:
        connection.execute("SELECT setval('given_id', greatest(%s, (SELECT last_value FROM given_id)))", [max(own)])
    bare = sum(part.id is None for part in parts)
    given = connection.execute("SELECT nextval('given_id') FROM generate_series(1, %s)", [bare]).fetchall()
    numbers = iter(row[0] for row in given)
    return [part if part.id else replace(part, id=f"{letter}-{next(numbers)}") for part in parts]


def _copy(connection: Connection, table: str, names: str, rows: list[tuple[Any, ...]]) -> None:
    if not rows:
        return
    statement = sql.SQL("COPY {} ({}) FROM STDIN").format(sql.Identifier(table), identifiers(names))
    with connection.cursor() as cursor, cursor.copy(statement) as copy:
        for row in rows:
            copy.write_row(row)
