"""Quantities that can be read in two ways: "1,200 kg" was taken for 1.2 kg once, and is asked about now.

What stands in the kitchen is written as it was taken, so that it can be read, saved and brought back.
"""

from __future__ import annotations

import re
from typing import Any

from psycopg.types.json import Jsonb
from yoyo import step

__depends__ = {"0017_archived_items"}

# Table, the column of the text, and whether rows are append-only.
_TEXTS = (
    ("vessel", "capacity", False), ("measure", "mass", False), ("measure", "low", False), ("measure", "high", False),
    ("offer", "drained", True), ("offer", "pack", True), ("credit", "pack", True), ("recipe", "measured_quantity", False),
    ("stage", "change_to", False), ("line", "quantity", False), ("take_out", "mass", False), ("serving", "size", False),
    ("serving_line", "quantity", False), ("bench_test", "before_mass", True), ("bench_test", "after_mass", True),
    ("bench_test_part", "mass", True),
)  # fmt: skip
# A number of one to three digits, a comma, three digits, and a word: what can be read in two ways.
_TWO_WAYS = re.compile(r"(?<![0-9.,])([1-9][0-9]{0,2}),([0-9]{3})(?![0-9.,])(?=\s*[^\W\d_])")


def _plainly(text: str) -> str:
    return _TWO_WAYS.sub(r"\1.\2", text)


def _apply(connection: Any) -> None:
    cursor = connection.cursor()
    for table, column, kept in _TEXTS:
        # Names of our own tables and columns, from the list above.
        cursor.execute(f"SELECT DISTINCT {column} FROM {table} WHERE {column} LIKE '%%,%%'")  # noqa: S608
        changed = [(_plainly(text), text) for (text,) in cursor.fetchall() if _plainly(text) != text]
        if not changed:
            continue
        if kept:
            cursor.execute(f"ALTER TABLE {table} DISABLE TRIGGER USER")
        for plainly, text in changed:
            cursor.execute(f"UPDATE {table} SET {column} = %s WHERE {column} = %s", [plainly, text])  # noqa: S608
        if kept:
            cursor.execute(f"ALTER TABLE {table} ENABLE TRIGGER USER")
    _revisions(cursor)


def _revisions(cursor: Any) -> None:
    """The same in the bodies of saved recipes, where quantities stand in lines, servings, take-outs and changes."""
    cursor.execute("SELECT recipe, revision, body FROM recipe_revision WHERE body::text ~ '[1-9][0-9]{0,2},[0-9]{3}'")
    changed = [(_walked(body), recipe, number) for recipe, number, body in cursor.fetchall() if _walked(body) != body]
    if not changed:
        return
    cursor.execute("ALTER TABLE recipe_revision DISABLE TRIGGER USER")
    for body, recipe, number in changed:
        cursor.execute(
            "UPDATE recipe_revision SET body = %s WHERE recipe = %s AND revision = %s", [Jsonb(body), recipe, number]
        )
    cursor.execute("ALTER TABLE recipe_revision ENABLE TRIGGER USER")


def _walked(part: Any, key: str = "") -> Any:
    if isinstance(part, dict):
        return {name: _walked(one, name) for name, one in part.items()}
    if isinstance(part, list):
        return [_walked(one, key) for one in part]
    return _plainly(part) if isinstance(part, str) and key in ("quantity", "size", "mass", "to") else part


steps = [step(_apply)]
