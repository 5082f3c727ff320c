"""Servings that a change took past their target, until somebody has looked at them."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import datetime

from potrel.store.database import Connection


def mark_pushed(connection: Connection, servings: Iterable[tuple[str, str]], why: str) -> None:
    """Mark servings (recipe, serving); one that is marked already keeps its first reason."""
    for recipe, serving in servings:
        connection.execute(
            "INSERT INTO pushed_past (recipe, serving, why) VALUES (%s, %s, %s) ON CONFLICT DO NOTHING",
            [recipe, serving, why[:200]],
        )


def pushed(connection: Connection) -> list[tuple[str, str, str, datetime]]:
    """Each marked serving: recipe, serving, why, and since when."""
    rows = connection.execute("SELECT recipe, serving, why, at FROM pushed_past ORDER BY recipe, serving")
    return [(recipe, serving, why, at) for recipe, serving, why, at in rows]


def looked_at(connection: Connection, recipe: str) -> None:
    """Somebody has looked at a recipe: its servings are marked no longer."""
    connection.execute("DELETE FROM pushed_past WHERE recipe = %s", [recipe])
