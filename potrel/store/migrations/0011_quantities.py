"""Quantities as values: beside how each was typed, its amount and its unit."""

from __future__ import annotations

from typing import Any

from yoyo import step

from potrel.core.kitchen.quantities import parse_pack, parse_quantity

__depends__ = {"0010_losses_and_provenance"}

# Table, the column of the text, whether it may be empty, and whether rows are append-only.
_QUANTITIES = (
    ("vessel", "capacity", True, False),
    ("measure", "mass", False, False),
    ("offer", "drained", True, True),
    ("recipe", "measured_quantity", True, False),
    ("stage", "change_to", True, False),
    ("line", "quantity", False, False),
    ("take_out", "mass", True, False),
    ("serving", "size", False, False),
    ("serving_line", "quantity", False, False),
    ("bench_test", "before_mass", False, True),
    ("bench_test", "after_mass", False, True),
    ("bench_test_part", "mass", False, False),
)
_PACKS = ("offer", "credit")


def _apply(connection: Any) -> None:
    cursor = connection.cursor()
    cursor.execute("CREATE DOMAIN quantity_amount AS numeric CHECK (VALUE > 0 AND VALUE < 1000000000000)")
    cursor.execute("CREATE DOMAIN quantity_unit AS text CHECK (char_length(VALUE) BETWEEN 1 AND 60)")
    for table, column, optional, kept in _QUANTITIES:
        cursor.execute(
            f"ALTER TABLE {table} ADD COLUMN {column}_amount quantity_amount, ADD COLUMN {column}_unit quantity_unit"
        )
        _fill(cursor, table, column, kept, f"{column}_amount = %s, {column}_unit = %s", _quantity)
        same = f"({column} IS NULL) = ({column}_amount IS NULL) AND ({column} IS NULL) = ({column}_unit IS NULL)"
        cursor.execute(f"ALTER TABLE {table} ADD CHECK ({same})")
        if not optional:
            cursor.execute(f"ALTER TABLE {table} ALTER COLUMN {column}_amount SET NOT NULL")
    for table in _PACKS:
        cursor.execute(
            f"ALTER TABLE {table} ADD COLUMN pack_count quantity_amount, ADD COLUMN pack_amount quantity_amount,"
            " ADD COLUMN pack_unit quantity_unit"
        )
        _fill(cursor, table, "pack", True, "pack_count = %s, pack_amount = %s, pack_unit = %s", _pack)
        for column in ("pack_count", "pack_amount", "pack_unit"):
            cursor.execute(f"ALTER TABLE {table} ALTER COLUMN {column} SET NOT NULL")


def _fill(cursor: Any, table: str, column: str, kept: bool, values: str, read: Any) -> None:
    """Read every text that stands there once, whatever number of rows it stands in."""
    if kept:
        cursor.execute(f"ALTER TABLE {table} DISABLE TRIGGER USER")
    # Names of our own tables and columns, from the lists above.
    cursor.execute(f"SELECT DISTINCT {column} FROM {table} WHERE {column} IS NOT NULL")  # noqa: S608
    for (text,) in cursor.fetchall():
        cursor.execute(f"UPDATE {table} SET {values} WHERE {column} = %s", [*read(text), text])  # noqa: S608
    if kept:
        cursor.execute(f"ALTER TABLE {table} ENABLE TRIGGER USER")


def _quantity(text: str) -> tuple[Any, ...]:
    quantity = parse_quantity(text)
    return quantity.amount, quantity.unit


def _pack(text: str) -> tuple[Any, ...]:
    pack = parse_pack(text)
    return pack.count, pack.amount, pack.unit


steps = [step(_apply)]
