"""Quantities and packs in columns: beside how each was typed, its amount and its unit."""

from __future__ import annotations

from decimal import Decimal

from potrel.core.kitchen.quantities import Pack, Quantity


def columns(name: str) -> str:
    """The names of the columns of a quantity."""
    return f"{name}, {name}_amount, {name}_unit"


def values(quantity: Quantity | None) -> tuple[str | None, Decimal | None, str | None]:
    """What stands in those columns."""
    return (None, None, None) if quantity is None else (quantity.text, quantity.amount, quantity.unit)


def quantity(text: str, amount: Decimal, unit: str) -> Quantity:
    """The quantity that stands in those columns."""
    return Quantity(amount, unit, text)


def maybe(text: str | None, amount: Decimal | None, unit: str | None) -> Quantity | None:
    """The same, where there may be none."""
    return None if text is None or amount is None or unit is None else Quantity(amount, unit, text)


PACK = "pack, pack_count, pack_amount, pack_unit"


def pack_values(of: Pack) -> tuple[str, Decimal, Decimal, str]:
    """What stands in the columns of a pack."""
    return of.text, of.count, of.amount, of.unit


def pack(text: str, count: Decimal, amount: Decimal, unit: str) -> Pack:
    """The pack that stands in those columns."""
    return Pack(count, amount, unit, text)
