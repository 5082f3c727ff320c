"""Comparisons of forms that the kitchen keeps."""

from __future__ import annotations

from collections.abc import Iterable

from potrel.core.kitchen.kitchen import Comparison
from potrel.store.database import Connection


def load_comparisons(connection: Connection) -> tuple[Comparison, ...]:
    """All comparisons, in their order."""
    rows = connection.execute("SELECT id, name, forms, unit FROM comparison ORDER BY position, id")
    return tuple(Comparison(id_, name, tuple(forms), unit) for id_, name, forms, unit in rows)


def insert_comparisons(connection: Connection, comparisons: Iterable[Comparison]) -> None:
    """Keep comparisons behind those that are there; one that is there already is replaced in its place."""
    for one in comparisons:
        connection.execute(
            "INSERT INTO comparison (id, position, name, unit, forms)"
            " VALUES (%s, (SELECT coalesce(max(position), 0) + 1 FROM comparison), %s, %s, %s)"
            " ON CONFLICT (id) DO UPDATE SET name = excluded.name, unit = excluded.unit, forms = excluded.forms",
            [one.id, one.name, one.unit, list(one.forms)],
        )


def drop_comparison(connection: Connection, id_: str) -> bool:
    """Let a comparison go; whether there was one."""
    return connection.execute("DELETE FROM comparison WHERE id = %s", [id_]).rowcount == 1
