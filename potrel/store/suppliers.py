"""Suppliers, with what is remembered of their lists."""

from __future__ import annotations

import json
from collections.abc import Iterable
from datetime import date, datetime
from typing import Any

from psycopg.types.json import Jsonb

from potrel.core.kitchen.supply import ListForm, Supplier
from potrel.store.database import Connection
from potrel.store.errors import NotFound


def load_suppliers(connection: Connection) -> tuple[Supplier, ...]:
    """All suppliers, in their order."""
    rows = connection.execute(
        "SELECT id, name, columns, passed_over, catalogue_url, fetch_at, forms FROM supplier ORDER BY position, id"
    )
    return tuple(
        Supplier(id_, name, columns, tuple(passed_over), url, at, tuple(map(_form, forms)))
        for id_, name, columns, passed_over, url, at, forms in rows
    )


def _form(kept: dict[str, Any]) -> ListForm:
    return ListForm(tuple(kept["heads"]), kept["columns"])


def insert_suppliers(connection: Connection, suppliers: Iterable[Supplier]) -> None:
    """Add suppliers behind those that are there."""
    for one in suppliers:
        connection.execute(
            "INSERT INTO supplier (id, position, name, columns, passed_over, catalogue_url, fetch_at, forms)"
            " VALUES (%s, (SELECT coalesce(max(position), 0) + 1 FROM supplier), %s, %s, %s, %s, %s, %s)",
            [one.id, one.name, *_remembered(one)],
        )


def update_supplier(connection: Connection, supplier: Supplier) -> None:
    """Replace a supplier; NotFound where there is none with its id."""
    done = connection.execute(
        "UPDATE supplier SET name = %s, columns = %s, passed_over = %s, catalogue_url = %s, fetch_at = %s,"
        " forms = %s WHERE id = %s",
        [supplier.name, *_remembered(supplier), supplier.id],
    )
    if done.rowcount == 0:
        raise NotFound("supplier", supplier.id)


def fetchings(connection: Connection) -> list[tuple[Supplier, date | None, str | None]]:
    """Suppliers whose list can be fetched, when the clock last fetched it, and what went wrong then."""
    told = {
        id_: (on, problem)
        for id_, on, problem in connection.execute(
            "SELECT id, fetched_on, fetch_problem FROM supplier WHERE catalogue_url IS NOT NULL"
        )
    }
    return [(one, *told[one.id]) for one in load_suppliers(connection) if one.id in told]


def claim_fetch(connection: Connection, now: datetime) -> list[str]:
    """The suppliers whose list is due; of any number of processes, each day only one is told of each."""
    rows = connection.execute(
        "UPDATE supplier SET fetched_on = %(day)s, fetch_problem = NULL WHERE fetch_at <= %(time)s"
        " AND fetched_on IS DISTINCT FROM %(day)s RETURNING id",
        {"day": now.date(), "time": f"{now:%H:%M}"},
    )
    return [row[0] for row in rows]


def note_fetch_problem(connection: Connection, supplier: str, problem: str) -> None:
    """Remember what went wrong when the clock fetched a list."""
    connection.execute("UPDATE supplier SET fetch_problem = %s WHERE id = %s", [problem[:400], supplier])


def _remembered(one: Supplier) -> list[object]:
    forms = [{"heads": form.heads, "columns": form.columns} for form in one.forms]
    return [
        Jsonb(one.columns, dumps=json.dumps), list(one.passed_over), one.catalogue_url, one.fetch_at,
        Jsonb(forms, dumps=json.dumps),
    ]  # fmt: skip
