"""Items with their measures, preparations and cooking yields; vessels."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Collection, Iterable, Sequence
from datetime import date
from typing import Any

from psycopg import sql

from potrel.core.kitchen.composition import Composition
from potrel.core.kitchen.items import AllergenCheck, Byproduct, Cooking, Entry, Item, Measure, Preparation
from potrel.core.kitchen.provenance import Provenance, ProvenanceSort
from potrel.core.kitchen.vessels import LearnedRate, Vessel
from potrel.store.database import Connection, identifiers, insert_into
from potrel.store.errors import NotFound, still_used
from potrel.store.quantities import columns, maybe, quantity, values


def load_vessels(connection: Connection) -> tuple[Vessel, ...]:
    """All vessels, in their order."""
    rates: defaultdict[str, list[LearnedRate]] = defaultdict(list)
    for vessel, lid, heat, kilos, on in connection.execute(
        "SELECT vessel, lid, heat, kg_per_hour, measured_on FROM vessel_rate ORDER BY position"
    ):
        rates[vessel].append(LearnedRate(heat, kilos, on, lid))
    rows = connection.execute(
        "SELECT id, name, capacity, capacity_amount, capacity_unit, surface_m2, diameter_cm, power_kw, heat_source, efficiency,"
        " count, cleanup_minutes FROM vessel ORDER BY position, id"
    )
    return tuple(
        Vessel(id_, name, maybe(text, amount, unit), *(*rest, tuple(rates[id_])))
        for id_, name, text, amount, unit, *rest in rows
    )


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
        "SELECT id, name, kind, density, preferred_supplier, allergens, ready_litres_per_kg, byproduct_method, archived,"
        " origin, thickening, checked_on, checked_by, checked_supplier, checked_code, checked_gtin, salt_g, energy_kcal, fat_g,"
        " saturates_g, carbohydrate_g, sugars_g, protein_g, fibre_g, abv, composition_source, bone_share FROM item"
        " WHERE %(ids)s::text[] IS NULL OR id = ANY (%(ids)s) ORDER BY position, id", wanted,
    )  # fmt: skip
    return tuple(
        Item(id_, name, kind, density, supplier, measures[id_], tuple(preparations[id_]), tuple(cooking[id_]), tuple(allergens),
             ready, None, method, None if rest[0] is None else AllergenCheck(*rest[:5]), archived, tuple(origin), thickening,
             Composition(*rest[5:]), bone)
        for id_, name, kind, density, supplier, allergens, ready, method, archived, origin, thickening, *rest, bone in rows
    )  # fmt: skip


def _load_preparations(connection: Connection, wanted: dict[str, Any]) -> defaultdict[str, list[Preparation]]:
    byproducts: defaultdict[tuple[str, str], list[Byproduct]] = defaultdict(list)
    for item, preparation, *rest in connection.execute(
        "SELECT item, preparation, name, share, value_per_kg, used_for FROM preparation_byproduct"
        " WHERE %(ids)s::text[] IS NULL OR item = ANY (%(ids)s) ORDER BY item, preparation, position", wanted,
    ):  # fmt: skip
        byproducts[item, preparation].append(Byproduct(*rest))
    found: defaultdict[str, list[Preparation]] = defaultdict(list)
    for item, preparation, name, yield_, low, high, source, minutes, value, kept, *rests_on in connection.execute(
        "SELECT item, id, name, yield, low, high, source, minutes_per_kg, value_per_kg, salt_kept, rests_on, rests_on_tests,"
        " rests_on_day,"
        " leans_on FROM preparation WHERE %(ids)s::text[] IS NULL OR item = ANY (%(ids)s) ORDER BY item, position", wanted,
    ):  # fmt: skip
        parts = tuple(byproducts[item, preparation])
        found[item].append(
            Preparation(preparation, name, yield_, low, high, source, parts, minutes, value, _provenance(*rests_on), kept)
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
    last = connection.execute("SELECT coalesce(max(position), 0) FROM vessel").fetchone()
    first = 1 + (0 if last is None else last[0])
    vessels = list(vessels)
    _many(connection, "vessel", _VESSEL, [_vessel_row(vessel, first + place) for place, vessel in enumerate(vessels)])
    _write_rates(connection, vessels)


def save_rates(connection: Connection, vessel: Vessel) -> None:
    """Make what was learned of a vessel all that is; the vessel counts as changed with it."""
    _write_rates(connection, [vessel])
    connection.execute("UPDATE vessel SET position = position WHERE id = %s", [vessel.id])


def _write_rates(connection: Connection, vessels: Iterable[Vessel]) -> None:
    """Make these all that was learned of some vessels."""
    vessels = list(vessels)
    connection.execute("DELETE FROM vessel_rate WHERE vessel = ANY (%s)", [[vessel.id for vessel in vessels]])
    rates = [
        (vessel.id, place, one.lid, one.heat, one.kg_per_hour, one.on)
        for vessel in vessels for place, one in enumerate(vessel.rates)
    ]  # fmt: skip
    _many(connection, "vessel_rate", "vessel, position, lid, heat, kg_per_hour, measured_on", rates)


_VESSEL = (
    f"id, position, name, {columns('capacity')}, surface_m2, diameter_cm, power_kw, heat_source, efficiency, count,"
    " cleanup_minutes"
)


def _vessel_row(of: Vessel, place: int) -> tuple[Any, ...]:
    return (
        of.id, place, of.name, *values(of.capacity), of.surface_m2, of.diameter_cm, of.power_kw, of.heat_source, of.efficiency,
        of.count, of.cleanup_minutes,
    )  # fmt: skip


def save_vessels(connection: Connection, vessels: Sequence[Vessel]) -> None:
    """Make these all the vessels there are, in their order. StillUsed where one that goes is named by a recipe."""
    kept = [vessel.id for vessel in vessels]
    with still_used("a vessel"):
        connection.execute("DELETE FROM vessel WHERE id <> ALL (%s)", [kept])
    for place, vessel in enumerate(vessels):
        connection.execute(_PUT_VESSEL, _vessel_row(vessel, place))
    _write_rates(connection, vessels)


_PUT_VESSEL = insert_into("vessel", _VESSEL) + sql.SQL(" ON CONFLICT (id) DO UPDATE SET {}").format(
    sql.SQL(", ").join(
        sql.SQL("{0} = excluded.{0}").format(sql.Identifier(name)) for name in _VESSEL.split(", ") if name != "id"
    )
)


def insert_items(connection: Connection, items: Iterable[Item]) -> None:
    """Add items behind those that are there."""
    items = list(items)
    last = connection.execute("SELECT coalesce(max(position), 0) FROM item").fetchone()
    first = 1 + (0 if last is None else last[0])
    rows = [(i.id, first + place, *_item_row(i)) for place, i in enumerate(items)]
    _many(connection, "item", f"id, position, {_ITEM}", rows)
    _insert_parts(connection, items)


def update_item(connection: Connection, item: Item) -> None:
    """Replace an item; NotFound where there is none with its id."""
    row = _item_row(item)
    done = connection.execute(
        sql.SQL("UPDATE item SET ({}) = ({}) WHERE id = %s").format(
            identifiers(_ITEM), sql.SQL(", ").join([sql.Placeholder()] * len(row))
        ),
        [*row, item.id],
    )
    if done.rowcount == 0:
        raise NotFound("item", item.id)
    connection.execute("DELETE FROM measure WHERE item = %s", [item.id])
    connection.execute("DELETE FROM preparation WHERE item = %s", [item.id])
    connection.execute("DELETE FROM cooking WHERE item = %s", [item.id])
    _insert_parts(connection, [item])


_ITEM = (
    "name, kind, density, preferred_supplier, allergens, ready_litres_per_kg, byproduct_method, archived, origin, thickening,"
    " checked_on, checked_by, checked_supplier, checked_code, checked_gtin, salt_g, energy_kcal, fat_g, saturates_g,"
    " carbohydrate_g, sugars_g, protein_g, fibre_g, abv, composition_source, bone_share"
)


def _item_row(item: Item) -> tuple[Any, ...]:
    check = item.allergen_check
    checked = (None,) * 5 if check is None else (check.on, check.by, check.supplier, check.code, check.gtin)
    holds = item.composition
    return (
        item.name, item.kind, item.density, item.preferred_supplier, list(item.allergens), item.ready_litres_per_kg,
        item.byproduct_method, item.archived, list(item.origin), item.thickening, *checked, holds.salt_g, holds.energy_kcal,
        holds.fat_g, holds.saturates_g, holds.carbohydrate_g, holds.sugars_g, holds.protein_g, holds.fibre_g, holds.abv,
        holds.source, item.bone_share,
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
    preparation = "item, position, id, name, yield, low, high, source, minutes_per_kg, value_per_kg, salt_kept"
    _many(
        connection, "preparation", f"{preparation}, {rests_on}",
        [
            (i.id, place, p.id, p.name, p.yield_, p.low, p.high, p.source, p.minutes_per_kg, p.value_per_kg,
             p.salt_kept, *_rests_on(p))
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
