"""Pots that a new version reckons otherwise: a record of it, told until somebody has seen it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime

from potrel.core.kitchen.kinds import At, Computed, Id, Name, On
from potrel.store.database import Connection, insert_into


@dataclass(frozen=True, slots=True)
class CostOtherwise:
    """The food cost of a portion [money] as the version before told it of a day, and as this one does; None for not known."""

    number: int
    at: At
    on: On
    reasons: list[str]
    recipe: Id
    recipe_name: Name
    serving: Id
    serving_name: Name
    was: Computed | None
    now: Computed | None
    seen_at: datetime | None
    seen_by: str | None


@dataclass(frozen=True, slots=True)
class MovedCost:
    """A serving whose food cost [money] a new version reckons otherwise."""

    recipe: str
    recipe_name: str
    serving: str
    serving_name: str
    was: Computed | None
    now: Computed | None


def note_otherwise(connection: Connection, moved: Sequence[MovedCost], on: date, reasons: Sequence[str]) -> None:
    """Note what a new version reckons otherwise on a day, and why."""
    with connection.cursor() as cursor:
        cursor.executemany(
            insert_into("cost_otherwise", "on_day, reasons, recipe, recipe_name, serving, serving_name, was, now"),
            [(on, list(reasons), m.recipe, m.recipe_name, m.serving, m.serving_name, m.was, m.now) for m in moved],
        )


def otherwise(connection: Connection, *, unseen: bool) -> list[CostOtherwise]:
    """What new versions reckoned otherwise, the newest first: all of it, or what nobody has seen yet."""
    rows = connection.execute(
        "SELECT number, at, on_day, reasons, recipe, recipe_name, serving, serving_name, was, now, seen_at, seen_by"
        " FROM cost_otherwise WHERE NOT %s OR seen_at IS NULL ORDER BY at DESC, number",
        [unseen],
    )
    return [CostOtherwise(*row) for row in rows]


def saw_otherwise(connection: Connection, up_to: int, by: str) -> None:
    """Somebody has seen what was noted up to a number."""
    connection.execute(
        "UPDATE cost_otherwise SET seen_at = now(), seen_by = %s WHERE number <= %s AND seen_at IS NULL", [by, up_to]
    )
