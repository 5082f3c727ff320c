"""Items with their measures, preparations and cooking yields; vessels."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Collection, Iterable, Sequence
from datetime import date
from typing import Any

from potrel.core.kitchen.items import AllergenCheck, Byproduct, Cooking, Entry, Item, Measure, Preparation, Vessel
from potrel.core.kitchen.provenance import Provenance, ProvenanceSort
from potrel.store.database import Connection, insert_into
from potrel.store.errors import NotFound, still_used
from potrel.store.quantities import columns, maybe, quantity, values


def load_vessels(connection: Connection) -> tuple[Vessel, ...]:
    """All vessels, in their order."""
    rows = connection.execute("SELECT id, name, capacity, capacity_amount, capacity_unit FROM vessel ORDER BY position, id")
    return tuple(Vessel(id_, name, maybe(*capacity)) for id_, name, *capacity in rows)


def load_items(connection: Connection, ids: Collection[str] | None = None) -> tuple[Item, ...]:
    """All items, in their order, or those of some ids."""
    wanted = {"ids": None if ids is None else list(ids)}
    measures: defaultdict[str, dict[str, Measure]] = defaultdict(dict)
    for item, unit, basis, source, text, amount, of, *band in connection.execute(
        "SELECT item, unit, basis, source, mass, mass_amount, mass_unit, low, low_amount, low_unit, high, high_amount,"
        " high_unit FROM measure WHERE %(ids)s::text[] IS NULL OR item = ANY (%(ids)s) ORDER BY item, position", wanted,
    ):  # fmt: skip
        measures[item][unit] = Measure(quantity(text, amount, of), basis, maybe(*band[:3]), maybe(*band[3:]), source)
    preparations, cooking = _load_preparations(connection, wanted), _load_cooking(connection, wanted)
    rows = connection.execute(
        "SELECT id, name, kind, density, preferred_supplier, allergens, ready_litres_per_kg, salt_share, byproduct_method,"
        " archived, checked_on, checked_by, checked_supplier, checked_code, checked_gtin FROM item"
        " WHERE %(ids)s::text[] IS NULL OR id = ANY (%(ids)s) ORDER BY position, id", wanted,
    )  # fmt: skip
    return tuple(
        Item(id_, name, kind, density, supplier, measures[id_], tuple(preparations[id_]), tuple(cooking[id_]), tuple(allergens),
             ready, salt, method, None if check[0] is None else AllergenCheck(*check), archived)
        for id_, name, kind, density, supplier, allergens, ready, salt, method, archived, *check in rows
    )  # fmt: skip


def _load_preparations(connection: Connection, wanted: dict[str, Any]) -> defaultdict[str, list[Preparation]]:
    byproducts: defaultdict[tuple[str, str], list[Byproduct]] = defaultdict(list)
    for item, preparation, *rest in connection.execute(
        "SELECT item, preparation, name, share, value_per_kg, used_for FROM preparation_byproduct"
        " WHERE %(ids)s::text[] IS NULL OR item = ANY (%(ids)s) ORDER BY item, preparation, position", wanted,
    ):  # fmt: skip
        byproducts[item, preparation].append(Byproduct(*rest))
    found: defaultdict[str, list[Preparation]] = defaultdict(list)
    for item, preparation, name, yield_, low, high, source, minutes, value, *rests_on in connection.execute(
        "SELECT item, id, name, yield, low, high, source, minutes_per_kg, value_per_kg, rests_on, rests_on_tests, rests_on_day,"
        " leans_on FROM preparation WHERE %(ids)s::text[] IS NULL OR item = ANY (%(ids)s) ORDER BY item, position", wanted,
    ):  # fmt: skip
        parts = tuple(byproducts[item, preparation])
        found[item].append(
            Preparation(preparation, name, yield_, low, high, source, parts, minutes, value, _provenance(*rests_on))
        )
    return found


def _load_cooking(connection: Connection, wanted: dict[str, Any]) -> defaultdict[str, list[Cooking]]:
    found: defaultdict[str, list[Cooking]] = defaultdict(list)
    for item, method, yield_, low, high, source, loss_to, rendered, *rests_on in connection.execute(
        "SELECT item, method, yield, low, high, source, loss_to, rendered, rests_on, rests_on_tests, rests_on_day, leans_on"
        " FROM cooking WHERE %(ids)s::text[] IS NULL OR item = ANY (%(ids)s) ORDER BY item, position", wanted,
    ):  # fmt: skip
        found[item].append(Cooking(method, yield_, low, high, source, loss_to, rendered, _provenance(*rests_on)))
    return found


def _provenance(sort: ProvenanceSort | None, tests: int | None, on: date | None, book: str | None) -> Provenance | None:
    return None if sort is None else Provenance(sort, tests, on, book)


def insert_vessels(connection: Connection, vessels: Iterable[Vessel]) -> None:
    """Add vessels behind those that are there."""
    _insert(
        connection,
        "INSERT INTO vessel (id, position, name, capacity, capacity_amount, capacity_unit)"
        " VALUES (%s, (SELECT coalesce(max(position), 0) + 1 FROM vessel), %s, %s, %s, %s)",
        [(vessel.id, vessel.name, *values(vessel.capacity)) for vessel in vessels],
    )


def save_vessels(connection: Connection, vessels: Sequence[Vessel]) -> None:
    """Make these all the vessels there are, in their order. StillUsed where one that goes is named by a recipe."""
    kept = [vessel.id for vessel in vessels]
    with still_used("a vessel"):
        connection.execute("DELETE FROM vessel WHERE id <> ALL (%s)", [kept])
    for place, vessel in enumerate(vessels):
        connection.execute(
            "INSERT INTO vessel (id, position, name, capacity, capacity_amount, capacity_unit) VALUES (%s, %s, %s, %s, %s, %s)"
            " ON CONFLICT (id) DO UPDATE SET position = excluded.position, name = excluded.name,"
            " capacity = excluded.capacity, capacity_amount = excluded.capacity_amount, capacity_unit = excluded.capacity_unit",
            [vessel.id, place, vessel.name, *values(vessel.capacity)],
        )


def insert_items(connection: Connection, items: Iterable[Item]) -> None:
    """Add items behind those that are there."""
    items = list(items)
    _insert(
        connection,
        "INSERT INTO item (id, position, name, kind, density, preferred_supplier, allergens, ready_litres_per_kg,"
        " salt_share, byproduct_method, archived, checked_on, checked_by, checked_supplier, checked_code, checked_gtin)"
        " VALUES (%s, (SELECT coalesce(max(position), 0) + 1 FROM item)" + ", %s" * 14 + ")",
        [(i.id, *_item_row(i)) for i in items],
    )
    _insert_parts(connection, items)


def update_item(connection: Connection, item: Item) -> None:
    """Replace an item; NotFound where there is none with its id."""
    done = connection.execute(
        "UPDATE item SET name = %s, kind = %s, density = %s, preferred_supplier = %s, allergens = %s,"
        " ready_litres_per_kg = %s, salt_share = %s, byproduct_method = %s, archived = %s, checked_on = %s, checked_by = %s,"
        " checked_supplier = %s, checked_code = %s, checked_gtin = %s WHERE id = %s",
        [*_item_row(item), item.id],
    )
    if done.rowcount == 0:
        raise NotFound("item", item.id)
    connection.execute("DELETE FROM measure WHERE item = %s", [item.id])
    connection.execute("DELETE FROM preparation WHERE item = %s", [item.id])
    connection.execute("DELETE FROM cooking WHERE item = %s", [item.id])
    _insert_parts(connection, [item])


def _item_row(item: Item) -> tuple[Any, ...]:
    check = item.allergen_check
    checked = (None,) * 5 if check is None else (check.on, check.by, check.supplier, check.code, check.gtin)
    return (
        item.name, item.kind, item.density, item.preferred_supplier, list(item.allergens), item.ready_litres_per_kg,
        item.salt_share, item.byproduct_method, item.archived, *checked,
    )  # fmt: skip


def _insert_parts(connection: Connection, items: list[Item]) -> None:
    _many(
        connection, "measure",
        f"item, position, unit, basis, source, {columns('mass')}, {columns('low')}, {columns('high')}",
        [
            (i.id, place, unit, one.basis, one.source, *values(one.weighs), *values(one.low), *values(one.high))
            for i in items for place, (unit, one) in enumerate(i.measures.items())
        ],
    )  # fmt: skip
    rests_on = "rests_on, rests_on_tests, rests_on_day, leans_on"
    preparation = "item, position, id, name, yield, low, high, source, minutes_per_kg, value_per_kg"
    _many(
        connection, "preparation", f"{preparation}, {rests_on}",
        [
            (i.id, place, p.id, p.name, p.yield_, p.low, p.high, p.source, p.minutes_per_kg, p.value_per_kg, *_rests_on(p))
            for i in items for place, p in enumerate(i.preparations)
        ],
    )  # fmt: skip
    _many(
        connection, "preparation_byproduct", "item, preparation, position, name, share, value_per_kg, used_for",
        [
            (i.id, p.id, place, b.name, b.share, b.value_per_kg, b.use)
            for i in items for p in i.preparations for place, b in enumerate(p.byproducts)
        ],
    )  # fmt: skip
    _many(
        connection, "cooking", f"item, position, method, yield, low, high, source, loss_to, rendered, {rests_on}",
        [
            (i.id, place, c.method, c.yield_, c.low, c.high, c.source, c.loss_to, c.rendered, *_rests_on(c))
            for i in items for place, c in enumerate(i.cooking)
        ],
    )  # fmt: skip


def _rests_on(entry: Entry) -> tuple[Any, ...]:
    of = entry.provenance
    return (None,) * 4 if of is None else (of.sort, of.tests, of.on, of.book)


def _many(connection: Connection, table: str, names: str, rows: list[tuple[Any, ...]]) -> None:
    _insert(connection, insert_into(table, names), rows)


def _insert(connection: Connection, statement: Any, rows: list[tuple[Any, ...]]) -> None:
    if rows:
        with connection.cursor() as cursor:
            cursor.executemany(statement, rows)
