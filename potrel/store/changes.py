"""The change log: what changed, whose it was, when. It tells what to read anew, and its newest number is the data's version."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import Literal, NamedTuple
from uuid import UUID

from potrel.store.database import Connection

ChangeKind = Literal["all", "settings", "supplier", "vessel", "item", "offer", "credit", "recipe", "test", "comparison", "deal"]


@dataclass(frozen=True, slots=True)
class Change:
    """One change; `id` is whose it was, empty for the settings and for all."""

    number: int
    kind: ChangeKind
    id: str
    by: str
    at: datetime


class Version(NamedTuple):
    """A version of the data: the newest change, by its number and its mark.

    After a restore the numbers begin again where the backup ends; the mark tells two changes of one number apart.
    """

    number: int
    mark: UUID


def read_version(connection: Connection) -> Version:
    """The version of the data, as a connection sees it."""
    row = connection.execute("SELECT number, mark FROM change ORDER BY number DESC LIMIT 1").fetchone()
    if row is None:
        raise RuntimeError("the database has no change log: was it migrated?")
    return Version(*row)


def changed_since(connection: Connection, version: Version) -> Mapping[ChangeKind, set[str]]:
    """What changed after a version, each kind with the ids of what it was; all, where this data never had that version."""
    found: defaultdict[ChangeKind, set[str]] = defaultdict(set)
    rows = connection.execute("SELECT DISTINCT kind, id FROM change WHERE number > %s", [version.number])
    for kind, id_ in rows:
        found[kind].add(id_)
    if connection.execute("SELECT 1 FROM change WHERE number = %s AND mark = %s", version).fetchone() is None:
        found["all"].add("")
    return found


def changes(connection: Connection, before: int | None = None, most: int = 100) -> list[Change]:
    """The newest changes, or those before a number, the newest first."""
    rows = connection.execute(
        "SELECT number, kind, id, changed_by, changed_at FROM change WHERE %(before)s::bigint IS NULL OR number < %(before)s"
        " ORDER BY number DESC LIMIT %(most)s",
        {"before": before, "most": most},
    )
    return [Change(*row) for row in rows]
