"""Items with their measures, preparations and cooking yields; vessels."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable
from typing import Any

from potrel.core.kitchen import Byproduct, Cooking, Item, Preparation, Vessel
from potrel.store.database import Connection
from potrel.store.errors import NotFound


def load_vessels(connection: Connection) -> tuple[Vessel, ...]:
    """All vessels, in their order."""
    rows = connection.execute("SELECT id, name, capacity FROM vessel ORDER BY position, id")
    return tuple(Vessel(*row) for row in rows)


def load_items(connection: Connection) -> tuple[Item, ...]:
    """All items, in their order."""
    measures = _grouped(connection.execute("SELECT item, unit, mass FROM measure ORDER BY item, position"))
    byproducts: defaultdict[tuple[str, str], list[Byproduct]] = defaultdict(list)
    for item, preparation, *rest in connection.execute(
        "SELECT item, preparation, name, share, value_per_kg, used_for FROM preparation_byproduct"
        " ORDER BY item, preparation, position"
    ):
        byproducts[item, preparation].append(Byproduct(*rest))
    preparations: defaultdict[str, list[Preparation]] = defaultdict(list)
    for item, preparation, name, yield_, low, high, source, *rest in connection.execute(
        "SELECT item, id, name, yield, low, high, source, minutes_per_kg, value_per_kg FROM preparation ORDER BY item, position"
    ):
        preparations[item].append(
            Preparation(preparation, name, yield_, low, high, source, tuple(byproducts[item, preparation]), *rest)
        )
    cooking = _grouped(connection.execute("SELECT item, method, yield, low, high, source FROM cooking ORDER BY item, position"))
    rows = connection.execute(
        "SELECT id, name, kind, density, preferred_supplier, allergens, ready_litres_per_kg, salt_share,"
        " byproduct_method FROM item ORDER BY position, id"
    )
    return tuple(
        Item(
            id_, name, kind, density, supplier, dict(measures[id_]), tuple(preparations[id_]),
            tuple(Cooking(*row) for row in cooking[id_]), tuple(allergens), *rest,
        )
        for id_, name, kind, density, supplier, allergens, *rest in rows
    )  # fmt: skip


def insert_vessels(connection: Connection, vessels: Iterable[Vessel]) -> None:
    """Add vessels behind those that are there."""
    _insert(
        connection,
        "INSERT INTO vessel (id, position, name, capacity)"
        " VALUES (%s, (SELECT coalesce(max(position), 0) + 1 FROM vessel), %s, %s)",
        [(vessel.id, vessel.name, vessel.capacity) for vessel in vessels],
    )


def insert_items(connection: Connection, items: Iterable[Item]) -> None:
    """Add items behind those that are there."""
    items = list(items)
    _insert(
        connection,
        "INSERT INTO item (id, position, name, kind, density, preferred_supplier, allergens, ready_litres_per_kg,"
        " salt_share, byproduct_method)"
        " VALUES (%s, (SELECT coalesce(max(position), 0) + 1 FROM item), %s, %s, %s, %s, %s, %s, %s, %s)",
        [(i.id, *_item_row(i)) for i in items],
    )
    _insert_parts(connection, items)


def update_item(connection: Connection, item: Item) -> None:
    """Replace an item; NotFound where there is none with its id."""
    done = connection.execute(
        "UPDATE item SET name = %s, kind = %s, density = %s, preferred_supplier = %s, allergens = %s,"
        " ready_litres_per_kg = %s, salt_share = %s, byproduct_method = %s WHERE id = %s",
        [*_item_row(item), item.id],
    )
    if done.rowcount == 0:
        raise NotFound("item", item.id)
    connection.execute("DELETE FROM measure WHERE item = %s", [item.id])
    connection.execute("DELETE FROM preparation WHERE item = %s", [item.id])
    connection.execute("DELETE FROM cooking WHERE item = %s", [item.id])
    _insert_parts(connection, [item])


def _item_row(item: Item) -> tuple[Any, ...]:
    return (
        item.name, item.kind, item.density, item.preferred_supplier, list(item.allergens), item.ready_litres_per_kg,
        item.salt_share, item.byproduct_method,
    )  # fmt: skip


def _insert_parts(connection: Connection, items: list[Item]) -> None:
    _insert(
        connection,
        "INSERT INTO measure (item, position, unit, mass) VALUES (%s, %s, %s, %s)",
        [(i.id, place, unit, mass) for i in items for place, (unit, mass) in enumerate(i.measures.items())],
    )
    _insert(
        connection,
        "INSERT INTO preparation (item, position, id, name, yield, low, high, source, minutes_per_kg,"
        " value_per_kg) VALUES (%s, %s, %s, %s, %s, %s, %s, %s, %s, %s)",
        [
            (i.id, place, p.id, p.name, p.yield_, p.low, p.high, p.source, p.minutes_per_kg, p.value_per_kg)
            for i in items for place, p in enumerate(i.preparations)
        ],
    )  # fmt: skip
    _insert(
        connection,
        "INSERT INTO preparation_byproduct (item, preparation, position, name, share, value_per_kg, used_for)"
        " VALUES (%s, %s, %s, %s, %s, %s, %s)",
        [
            (i.id, p.id, place, b.name, b.share, b.value_per_kg, b.use)
            for i in items for p in i.preparations for place, b in enumerate(p.byproducts)
        ],
    )  # fmt: skip
    _insert(
        connection,
        "INSERT INTO cooking (item, position, method, yield, low, high, source) VALUES (%s, %s, %s, %s, %s, %s, %s)",
        [(i.id, place, c.method, c.yield_, c.low, c.high, c.source) for i in items for place, c in enumerate(i.cooking)],
    )


def _insert(connection: Connection, statement: Any, rows: list[tuple[Any, ...]]) -> None:
    if rows:
        with connection.cursor() as cursor:
            cursor.executemany(statement, rows)


def _grouped(rows: Iterable[tuple[Any, ...]]) -> defaultdict[str, list[Any]]:
    """Rows by their first column, the rest of each as a tuple."""
    groups: defaultdict[str, list[Any]] = defaultdict(list)
    for first, *rest in rows:
        groups[first].append(tuple(rest))
    return groups
