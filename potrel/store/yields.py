"""Tests at the bench: append-only; sheets left half done; and the yields that were adopted, each one kept."""

from __future__ import annotations

import json
from collections import defaultdict
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from psycopg.types.json import Jsonb

from potrel.core.cost.confidence import YieldSort
from potrel.core.kitchen.bench_tests import BenchTest, WeighedPart
from potrel.core.kitchen.items import Cooking, Preparation
from potrel.formats.kitchen_json import part_from, part_to_plain
from potrel.store.database import Connection, insert_into, select
from potrel.store.errors import NotFound
from potrel.store.quantities import columns, quantity, values

_TEST = (
    f"id, item, kind, yield_of, tested_on, {columns('before_mass')}, {columns('after_mass')},"
    " minutes, supplier, tested_by, note"
)


def load_tests(connection: Connection) -> tuple[BenchTest, ...]:
    """All tests, in the order in which they were recorded."""
    parts: defaultdict[str, list[WeighedPart]] = defaultdict(list)
    for test, name, mass, amount, unit, *rest in connection.execute(
        "SELECT test, name, mass, mass_amount, mass_unit, value_per_kg, used_for FROM bench_test_part ORDER BY test, position"
    ):
        parts[test].append(WeighedPart(name, quantity(mass, amount, unit), *rest))
    rows = connection.execute(
        select(_TEST, ", (SELECT left_out FROM bench_test_standing AS s WHERE s.test = t.id ORDER BY s.number DESC LIMIT 1)"
                      " FROM bench_test AS t ORDER BY number")
    )  # fmt: skip
    return tuple(
        BenchTest(id_, item, kind, of, on, quantity(*masses[:3]), quantity(*masses[3:6]), tuple(parts[id_]), *masses[6:])
        for id_, item, kind, of, on, *masses in rows
    )


def is_recorded(connection: Connection, test: str) -> bool:
    """Whether there is a test of this id."""
    return connection.execute("SELECT 1 FROM bench_test WHERE id = %s", [test]).fetchone() is not None


def insert_tests(connection: Connection, tests: Iterable[BenchTest], by: str) -> None:
    """Record tests."""
    for one in tests:
        connection.execute(
            insert_into("bench_test", _TEST),
            [one.id, one.item, one.kind, one.of, one.on, *values(one.before), *values(one.after), one.minutes, one.supplier,
             one.by, one.note],
        )  # fmt: skip
        for place, part in enumerate(one.parts):
            connection.execute(
                insert_into("bench_test_part", f"test, position, name, {columns('mass')}, value_per_kg, used_for"),
                [one.id, place, part.name, *values(part.mass), part.value_per_kg, part.use],
            )
        if one.left_out is not None:
            leave_out(connection, one.id, one.left_out, by)


def leave_out(connection: Connection, test: str, reason: str | None, by: str) -> None:
    """Leave a test out of the others for a reason, or count it again where there is none."""
    if not is_recorded(connection, test):
        raise NotFound("test", test)
    connection.execute("INSERT INTO bench_test_standing (test, left_out, said_by) VALUES (%s, %s, %s)", [test, reason, by])


@dataclass(frozen=True, slots=True)
class Adopted:
    """A yield that was adopted, by whom and when; `number` names it."""

    number: int
    entry: Preparation | Cooking
    by: str
    at: datetime


def adopted(connection: Connection, item: str, sort: YieldSort, of: str) -> list[Adopted]:
    """The yields that were in use for an item's preparation or cooking method, the newest first."""
    rows = connection.execute(
        "SELECT number, entry, adopted_by, adopted_at FROM adopted_yield"
        " WHERE item = %s AND sort = %s AND yield_of = %s ORDER BY number DESC",
        [item, sort, of],
    )
    kind: type[Preparation] | type[Cooking] = Cooking if sort == "cooking" else Preparation
    return [Adopted(number, part_from(kind, entry), by, at) for number, entry, by, at in rows]


def note_adopted(connection: Connection, item: str, of: str, entry: Preparation | Cooking, by: str) -> int:
    """Keep a yield as one that is in use from now on, and return its number."""
    sort = "cooking" if isinstance(entry, Cooking) else "preparation"
    row = connection.execute(
        "INSERT INTO adopted_yield (item, sort, yield_of, entry, adopted_by) VALUES (%s, %s, %s, %s, %s) RETURNING number",
        [item, sort, of, Jsonb(part_to_plain(type(entry), entry)), by],
    ).fetchone()
    if row is None:
        raise RuntimeError("a yield was noted without a number coming of it")
    return int(row[0])


@dataclass(frozen=True, slots=True)
class Sheet:
    """A test sheet left half done."""

    id: str
    item: str
    body: dict[str, Any]
    started_by: str
    changed_at: datetime


def sheets(connection: Connection) -> list[Sheet]:
    """All sheets that wait to be finished, the newest first."""
    rows = connection.execute("SELECT id, item, body, started_by, changed_at FROM test_sheet ORDER BY changed_at DESC")
    return [Sheet(*row) for row in rows]


def keep_sheet(connection: Connection, id_: str, item: str, body: dict[str, Any], by: str) -> datetime:
    """Keep a sheet as it stands, and return when that was; the newest state of it counts."""
    row = connection.execute(
        "INSERT INTO test_sheet (id, item, body, started_by) VALUES (%s, %s, %s, %s)"
        " ON CONFLICT (id) DO UPDATE SET item = excluded.item, body = excluded.body, changed_at = clock_timestamp()"
        " RETURNING changed_at",
        [id_, item, Jsonb(body, dumps=json.dumps), by],
    ).fetchone()
    if row is None:
        raise NotFound("sheet", id_)
    changed_at: datetime = row[0]
    return changed_at


def drop_sheet(connection: Connection, id_: str) -> None:
    """Let a sheet go: it is finished, or nobody wants it."""
    connection.execute("DELETE FROM test_sheet WHERE id = %s", [id_])


def note_answer(connection: Connection, cook: str, kind: str, right: bool) -> None:
    """Keep how a cook did at one question."""
    connection.execute("INSERT INTO practice_answer (cook, kind, is_right) VALUES (%s, %s, %s)", [cook, kind, right])


def answers(connection: Connection) -> list[tuple[str, str, int, int]]:
    """By cook and kind of question: how many answers were right, of how many."""
    return connection.execute(
        "SELECT cook, kind, count(*) FILTER (WHERE is_right), count(*) FROM practice_answer"
        " GROUP BY cook, kind ORDER BY cook, kind"
    ).fetchall()
