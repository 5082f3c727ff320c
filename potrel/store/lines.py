"""A line as columns: of a stage, a serving, a batch's consumables, a channel's packaging."""

from __future__ import annotations

from decimal import Decimal
from typing import Any

from psycopg import sql

from potrel.core.kitchen.items import Basis, LossTo
from potrel.core.kitchen.lines import ByEye, Line, Roux
from potrel.core.kitchen.quantities import Quantity
from potrel.store.database import identifiers
from potrel.store.quantities import columns, values

# As they are read, and as they are written.
LINE_FIELDS = (
    "quantity, quantity_amount, quantity_unit, item, uses_recipe, id, basis, nullif(preparation, '{}'), cook_yield, byproduct,"
    " loss_to, note, taken_by, by_eye, surcharge, roux"
)
LINE_COLUMNS = (
    f"id, item, uses_recipe, {columns('quantity')}, basis, preparation, cook_yield, byproduct, loss_to, note, taken_by, by_eye,"
    " surcharge, roux"
)


def select_lines(head: str, table: str) -> sql.Composed:
    """The query of some leading columns and the lines of a table, all of them or those of the recipes `ids`, in order."""
    every = "SELECT {}, {} FROM {} WHERE %(ids)s::text[] IS NULL OR recipe = ANY (%(ids)s) ORDER BY position"
    return sql.SQL(every).format(identifiers(head), sql.SQL(LINE_FIELDS), sql.Identifier(table))


def preparation_of(ids: list[str] | None) -> str | tuple[str, ...] | None:
    """Preparations as a line has them: none, one, or some."""
    return None if not ids else tuple(ids) if len(ids) > 1 else ids[0]


def line_of(
    text: str, amount: Decimal, unit: str, item: str | None, recipe: str | None, id_: str | None, basis: Basis,
    preparation: list[str] | None, cook_yield: Decimal | None, byproduct: str | None, loss_to: LossTo | None,
    note: str | None, taken_by: Decimal, by_eye: ByEye | None, surcharge: Decimal | None, roux: Roux | None,
) -> Line:  # fmt: skip
    """The line of a row with `LINE_FIELDS`."""
    return Line(
        Quantity(amount, unit, text), item, recipe, id_, basis, preparation_of(preparation), cook_yield, byproduct, loss_to,
        note, taken_by, by_eye, surcharge, roux,
    )  # fmt: skip


def line_row(line: Line) -> tuple[Any, ...]:
    """The row of a line, with `LINE_COLUMNS`."""
    return (
        line.id, line.item, line.recipe, *values(line.quantity), line.basis, list(line.preparations), line.cook_yield,
        line.byproduct, line.loss_to, line.note, line.taken_by, line.by_eye, line.surcharge, line.roux,
    )  # fmt: skip
