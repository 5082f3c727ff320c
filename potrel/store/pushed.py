"""Servings that a change took past their target, until somebody has looked at them."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import datetime

from potrel.store.database import Connection


def mark_pushed(connection: Connection, servings: Iterable[tuple[str, str]], why: str, causes: Iterable[str]) -> None:
    """Mark servings (recipe, serving) that `causes` pushed: ids of prices, "list 12", "item leek".

    One that is marked already came under its target meanwhile, or it would not have been pushed past it again.
    """
    given = list(causes)
    for recipe, serving in servings:
        connection.execute(
            "INSERT INTO pushed_past (recipe, serving, why, causes) VALUES (%s, %s, %s, %s) ON CONFLICT (recipe, serving)"
            " DO UPDATE SET why = excluded.why, causes = excluded.causes, at = now()",
            [recipe, serving, why[:200], given],
        )


def taken_back(connection: Connection, causes: Iterable[str]) -> None:
    """What pushed them is taken back, or said anew: nothing is marked by it any longer."""
    connection.execute("DELETE FROM pushed_past WHERE causes && %s::text[]", [list(causes)])


def pushed(connection: Connection) -> list[tuple[str, str, str, datetime]]:
    """Each marked serving: recipe, serving, why, and since when."""
    rows = connection.execute("SELECT recipe, serving, why, at FROM pushed_past ORDER BY recipe, serving")
    return [(recipe, serving, why, at) for recipe, serving, why, at in rows]


def looked_at(connection: Connection, recipe: str) -> None:
    """Somebody has looked at a recipe: its servings are marked no longer."""
    connection.execute("DELETE FROM pushed_past WHERE recipe = %s", [recipe])
