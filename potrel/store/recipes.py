"""Recipes as relations, and their revisions: a save names the revision that it started from."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Collection, Iterable
from datetime import date
from decimal import Decimal
from typing import Any, LiteralString

from psycopg import sql

from potrel.core.errors import PotrelError
from potrel.core.kitchen.channels import ChannelPrice, ComingPrice
from potrel.core.kitchen.lines import Line
from potrel.core.kitchen.pricing import Pricing
from potrel.core.kitchen.quantities import Quantity
from potrel.core.kitchen.recipes import KEEP, CameOut, Change, Inflow, MeasuredYield, Recipe, Stage, TakeOut, TopUpWith
from potrel.core.kitchen.servings import Serving
from potrel.core.sentences import say
from potrel.formats.kitchen_json import part_from
from potrel.store.database import Connection, identifiers, insert_into
from potrel.store.errors import AlreadyThere, NotFound, StaleRecipe, still_used
from potrel.store.lines import LINE_COLUMNS, line_of, line_row, preparation_of, select_lines
from potrel.store.prices import load_pricings, save_pricings
from potrel.store.quantities import columns, maybe, values
from potrel.store.revisions import note_when_set, remember, revisions_of

_Key = tuple[str, str]
_Wanted = dict[str, list[str] | None]


def load_recipes(connection: Connection, ids: Collection[str] | None = None) -> tuple[Recipe, ...]:
    """All recipes, in their order, or those of some ids."""
    wanted = {"ids": None if ids is None else list(ids)}
    # The order of the places alone is that of the parts within each recipe, and the quickest to sort by.
    stages, servings = _load_stages(connection, wanted), _load_servings(connection, wanted)
    consumables, pricings = _load_consumables(connection, wanted), load_pricings(connection)
    rows = connection.execute(
        "SELECT id, name, density, seasoning_allowance, measured_quantity, measured_quantity_amount, measured_quantity_unit,"
        " measured_on, use_measured_yield, note, allowance_covers, variant_of, prep_minutes,"
        " written_quantity, written_quantity_amount, written_quantity_unit FROM recipe"
        " WHERE %(ids)s::text[] IS NULL OR id = ANY (%(ids)s) ORDER BY position, id", wanted,
    )  # fmt: skip
    return tuple(
        Recipe(
            id_, name, density, tuple(stages[id_]), tuple(servings[id_]), allowance, _measured(maybe(m1, m2, m3), on), use,
            note, tuple(covers), tuple(consumables[id_]), variant_of, prep, pricings.get(id_, ()), maybe(*written),
        )
        for id_, name, density, allowance, m1, m2, m3, on, use, note, covers, variant_of, prep, *written in rows
    )  # fmt: skip


def _load_consumables(connection: Connection, wanted: _Wanted) -> defaultdict[str, list[Line]]:
    found: defaultdict[str, list[Line]] = defaultdict(list)
    for recipe, *row in connection.execute(select_lines("recipe", "consumable"), wanted).fetchall():
        found[recipe].append(line_of(*row))
    return found


def _measured(quantity: Quantity | None, on: date | None) -> MeasuredYield | None:
    return None if quantity is None or on is None else MeasuredYield(quantity, on)


def _load_stages(connection: Connection, wanted: _Wanted) -> defaultdict[str, list[Stage]]:
    inflows: defaultdict[_Key, list[Inflow]] = defaultdict(list)
    for recipe, stage, source, share in connection.execute(
        "SELECT recipe, stage, from_stage, share FROM inflow"
        " WHERE %(ids)s::text[] IS NULL OR recipe = ANY (%(ids)s) ORDER BY position", wanted,
    ).fetchall():  # fmt: skip
        inflows[recipe, stage].append(Inflow(source, share))
    lines: defaultdict[_Key, list[Line]] = defaultdict(list)
    for recipe, stage, *row in connection.execute(select_lines("recipe, stage", "line"), wanted).fetchall():
        lines[recipe, stage].append(line_of(*row))
    taken: defaultdict[_Key, list[TakeOut]] = defaultdict(list)
    for recipe, stage, name, mass, amount, unit, of, factor, value, use, dry, assumed in connection.execute(
        "SELECT recipe, stage, name, mass, mass_amount, mass_unit, of_lines, spent_factor, value_per_kg, used_for, dry,"
        " assumed FROM take_out"
        " WHERE %(ids)s::text[] IS NULL OR recipe = ANY (%(ids)s) ORDER BY position", wanted,
    ).fetchall():  # fmt: skip
        taken[recipe, stage].append(TakeOut(name, maybe(mass, amount, unit), tuple(of), factor, value, use, dry, assumed))
    stages: defaultdict[str, list[Stage]] = defaultdict(list)
    for (
        recipe, id_, name, method, vessel, lid, temperature, minutes, attended, energy, rule, change_yield, per_hour,
        kg_per_hour, to, to_amount, to_unit, with_item, with_recipe, with_preparation, by, *rest, came, came_amount, came_unit,
        came_cm, came_on, roux,
    ) in connection.execute(
        "SELECT recipe, id, name, method, vessel, lid, temperature_c, minutes, attended_minutes, energy_kwh, rule,"
        " change_yield, per_hour, kg_per_hour, change_to, change_to_amount, change_to_unit, top_up_item, top_up_recipe,"
        " top_up_preparation, change_by, residue, note, value_per_kg, heat, power_share, fat_layer, start_c, open_minutes,"
        " flamed, in_oven, came_out, came_out_amount, came_out_unit, came_out_cm, came_out_on, roux FROM stage"
        " WHERE %(ids)s::text[] IS NULL OR recipe = ANY (%(ids)s) ORDER BY position", wanted,
    ).fetchall():  # fmt: skip
        change = KEEP
        if rule != "keep":
            with_ = TopUpWith(with_item, with_recipe, preparation_of(with_preparation)) if rule == "top_up" else None
            change = Change(rule, change_yield, per_hour, kg_per_hour, maybe(to, to_amount, to_unit), with_, by)
        key = (recipe, id_)
        came_out = None if came_on is None else CameOut(came_on, maybe(came, came_amount, came_unit), came_cm)
        stages[recipe].append(
            Stage(id_, name, method, vessel, lid, temperature, minutes, attended, energy, tuple(inflows[key]),
                  tuple(lines[key]), change, tuple(taken[key]), *(*rest, came_out, roux))
        )  # fmt: skip
    return stages


def _load_servings(connection: Connection, wanted: _Wanted) -> defaultdict[str, list[Serving]]:
    beside: defaultdict[tuple[str, str, str], list[Line]] = defaultdict(list)
    for recipe, serving, role, *row in connection.execute(
        select_lines("recipe, serving, role", "serving_line"), wanted
    ).fetchall():
        beside[recipe, serving, role].append(line_of(*row))
    channels: defaultdict[_Key, list[ChannelPrice]] = defaultdict(list)
    for recipe, serving, channel, price, on, coming, coming_on in connection.execute(
        "SELECT recipe, serving, channel, price, price_set_on, coming_price, coming_on FROM serving_channel"
        " WHERE %(ids)s::text[] IS NULL OR recipe = ANY (%(ids)s) ORDER BY position", wanted,
    ).fetchall():  # fmt: skip
        channels[recipe, serving].append(ChannelPrice(channel, price, on, _coming(coming, coming_on)))
    servings: defaultdict[str, list[Serving]] = defaultdict(list)
    for (
        recipe, id_, name, size, amount, unit, seconds, method, share, factor, wish, overhead, profit, commission,
        price, set_on, hours, vessel, lid, celsius, coming, coming_on,
    ) in connection.execute(
        "SELECT recipe, id, name, size, size_amount, size_unit, portioning_seconds, pricing_method, pricing_share,"
        " pricing_factor, pricing_amount, pricing_overhead_share, pricing_profit_share, commission, price, price_set_on,"
        " hold_hours, hold_vessel, hold_lid, hold_c, coming_price, coming_on FROM serving"
        " WHERE %(ids)s::text[] IS NULL OR recipe = ANY (%(ids)s) ORDER BY position", wanted,
    ).fetchall():  # fmt: skip
        pricing = None if method is None else Pricing(method, share, factor, wish, overhead, profit)
        garnish, with_it, packs, more = (tuple(beside[recipe, id_, role]) for role in _ROLES)
        servings[recipe].append(
            Serving(
                id_, name, Quantity(amount, unit, size), garnish, with_it, packs, seconds, pricing, commission, price, set_on,
                hours, vessel, lid, celsius, _coming(coming, coming_on), tuple(channels[recipe, id_]), more,
            )
        )  # fmt: skip
    return servings


def _coming(price: Decimal | None, on: date | None) -> ComingPrice | None:
    return None if price is None or on is None else ComingPrice(price, on)


def revision_of(connection: Connection, recipe_id: str) -> int:
    """The number of the newest revision of a recipe; NotFound where there is no such recipe now."""
    row = connection.execute("SELECT revision FROM recipe WHERE id = %s", [recipe_id]).fetchone()
    if row is None:
        raise NotFound("recipe", recipe_id)
    return int(row[0])


def insert_recipes(connection: Connection, recipes: Iterable[Recipe], by: str) -> None:
    """Add recipes behind those that are there, which may use each other in any order; AlreadyThere for a known id.

    A recipe that was once taken off goes on counting its revisions.
    """
    recipes = list(recipes)
    ids = [recipe.id for recipe in recipes]
    there = connection.execute("SELECT id FROM recipe WHERE id = ANY (%s) LIMIT 1", [ids]).fetchone()
    if there is not None:
        english = 'there is a recipe "{recipe}" already: give this one another name'
        raise AlreadyThere(say("recipe_there", english, recipe=there[0]))
    newest: dict[str, int] = dict(
        connection.execute("SELECT recipe, max(revision) FROM recipe_revision WHERE recipe = ANY (%s) GROUP BY recipe", [ids])
    )
    last = connection.execute("SELECT coalesce(max(position), 0) FROM recipe").fetchone()
    first = 1 + (0 if last is None else last[0])
    heads = [(recipe.id, first + place, newest.get(recipe.id, 0) + 1, *_head(recipe)) for place, recipe in enumerate(recipes)]
    _many(connection, "recipe", f"id, position, revision, {_HEAD}", heads)
    for recipe in recipes:
        remember(connection, recipe.id, newest.get(recipe.id, 0) + 1, recipe, by)
    _write_parts(connection, recipes)
    note_when_set(connection, ids)


def put_back_recipe(connection: Connection, recipe_id: str, by: str) -> None:
    """Put a recipe that cannot be understood back to its newest revision that can. PotrelError where there is none."""
    rows = connection.execute(
        "SELECT revision, body FROM recipe_revision WHERE recipe = %s AND body IS NOT NULL ORDER BY revision DESC", [recipe_id]
    ).fetchall()
    for _, body in rows:
        try:
            recipe = part_from(Recipe, body)
        except PotrelError:
            continue
        _replace(connection, recipe, rows[0][0], by)
        load_recipes(connection, [recipe_id])
        return
    english = "no revision of this recipe can be understood: restore a back-up of before (./run restore)"
    raise PotrelError(say("no_good_revision", english))


def save_recipe(connection: Connection, recipe: Recipe, based_on: int, by: str) -> int:
    """Replace a recipe that was read at revision `based_on`, and return the new revision.

    StaleRecipe, with both versions, where somebody saved or took it off since.
    """
    row = connection.execute("SELECT revision FROM recipe WHERE id = %s FOR UPDATE", [recipe.id]).fetchone()
    if row is None or row[0] != based_on:
        _refuse_stale(connection, recipe)
    return _replace(connection, recipe, based_on, by)


def _replace(connection: Connection, recipe: Recipe, based_on: int, by: str) -> int:
    revision = based_on + 1
    connection.execute(
        sql.SQL("UPDATE recipe SET (revision, {}) = ({}) WHERE id = %s").format(
            identifiers(_HEAD), sql.SQL(", ").join([sql.Placeholder()] * (1 + len(_head(recipe))))
        ),
        [revision, *_head(recipe), recipe.id],
    )
    _write_parts(connection, [recipe])
    remember(connection, recipe.id, revision, recipe, by)
    note_when_set(connection, [recipe.id])
    return revision


def take_off_recipe(connection: Connection, recipe_id: str, based_on: int, by: str) -> None:
    """Take a recipe off; its revisions stay. StillUsed or StaleRecipe where that cannot be."""
    current = revision_of(connection, recipe_id)
    if current != based_on:
        _refuse_stale(connection, revisions_of(connection, recipe_id)[0].recipe or Recipe(recipe_id, recipe_id))
    with still_used(f'the recipe "{recipe_id}"'):
        connection.execute("DELETE FROM recipe WHERE id = %s", [recipe_id])
    remember(connection, recipe_id, current + 1, None, by)


def _refuse_stale(connection: Connection, yours: Recipe) -> None:
    history = revisions_of(connection, yours.id)
    if not history:
        raise NotFound("recipe", yours.id)
    newest = history[0]
    raise StaleRecipe(newest.recipe, newest.revision, newest.saved_by, yours)


_HEAD = (
    f"name, density, seasoning_allowance, {columns('measured_quantity')}, measured_on, use_measured_yield, note,"
    f" allowance_covers, variant_of, prep_minutes, {columns('written_quantity')}"
)


def _head(recipe: Recipe) -> tuple[Any, ...]:
    measured = recipe.measured_yield
    quantity, on = (None, None) if measured is None else (measured.quantity, measured.on)
    return (
        recipe.name, recipe.density, recipe.seasoning_allowance, *values(quantity), on, recipe.use_measured_yield, recipe.note,
        list(recipe.allowance_covers), recipe.variant_of, recipe.prep_minutes, *values(recipe.written_yield),
    )  # fmt: skip


def _write_parts(connection: Connection, recipes: Iterable[Recipe]) -> None:
    """Make what recipes have all that there is of them. Stages, servings and lines that have an id stay the rows they were, so
    that others may refer to them; what has none is written anew.
    """
    ids = [recipe.id for recipe in recipes]
    for table in ("inflow", "take_out", "serving_line", "serving_channel", "consumable", "pricing"):
        connection.execute(sql.SQL("DELETE FROM {} WHERE recipe = ANY (%s)").format(sql.Identifier(table)), [ids])
    connection.execute("DELETE FROM line WHERE recipe = ANY (%s) AND id IS NULL", [ids])
    stages = [_stage_row(r.id, place, stage) for r in recipes for place, stage in enumerate(r.stages)]
    inflows = [
        (r.id, stage.id, place, inflow.stage, inflow.share)
        for r in recipes for stage in r.stages for place, inflow in enumerate(stage.from_)
    ]  # fmt: skip
    lines = [
        (r.id, stage.id, place, *line_row(line))
        for r in recipes for stage in r.stages for place, line in enumerate(stage.lines)
    ]  # fmt: skip
    taken = [
        (r.id, stage.id, place, t.name, *values(t.mass), list(t.of), t.spent_factor, t.value_per_kg, t.use, t.dry, t.assumed)
        for r in recipes for stage in r.stages for place, t in enumerate(stage.take_out)
    ]  # fmt: skip
    servings = [_serving_row(r.id, place, serving) for r in recipes for place, serving in enumerate(r.servings)]
    beside = [
        (r.id, serving.id, role, place, *line_row(line))
        for r in recipes for serving in r.servings
        for place, (role, line) in enumerate([*serving.extras, *(("add_ons", line) for line in serving.add_ons)])
    ]  # fmt: skip
    sold = [
        (r.id, serving.id, place, one.channel, one.price, one.price_set_on, *_coming_row(one.coming))
        for r in recipes for serving in r.servings for place, one in enumerate(serving.channels)
    ]  # fmt: skip
    consumed = [(r.id, place, *line_row(line)) for r in recipes for place, line in enumerate(r.consumables)]
    take_out = f"recipe, stage, position, name, {columns('mass')}, of_lines, spent_factor, value_per_kg, used_for, dry, assumed"
    _many(connection, "stage", _STAGE_COLUMNS, stages, kept_by="recipe, id")
    # A line may have gone over to another stage; only then can those go that are no more.
    _many(connection, "line", f"recipe, stage, position, {LINE_COLUMNS}", lines, kept_by="recipe, id")
    there = [(r, stage) for r in recipes for stage in r.stages]
    _let_go(connection, "line", ids, {(r.id, line.id) for r, stage in there for line in stage.lines if line.id})
    _let_go(connection, "stage", ids, {(r.id, stage.id) for r, stage in there})
    _let_go(connection, "serving", ids, {(r.id, serving.id) for r in recipes for serving in r.servings})
    _many(connection, "inflow", "recipe, stage, position, from_stage, share", inflows)
    _many(connection, "take_out", take_out, taken)
    _many(connection, "serving", _SERVING_COLUMNS, servings, kept_by="recipe, id", also=_SET_AGAIN)
    _many(connection, "serving_line", f"recipe, serving, role, position, {LINE_COLUMNS}", beside)
    _many(connection, "serving_channel", _SOLD_COLUMNS, sold)
    for recipe in recipes:
        if recipe.pricings:
            save_pricings(connection, recipe.id, recipe.pricings)
    _many(connection, "consumable", f"recipe, position, {LINE_COLUMNS}", consumed)


def _many(
    connection: Connection, table: str, columns: str, rows: list[tuple[Any, ...]], kept_by: str | None = None,
    also: LiteralString = "",
) -> None:  # fmt: skip
    """Insert rows; where they are kept by some columns, one that is there already is brought up to date."""
    if rows:
        statement = insert_into(table, columns)
        if kept_by is not None:
            names = columns.split(", ")
            new = sql.SQL(", ").join(sql.SQL("excluded.{}").format(sql.Identifier(name)) for name in names)
            rule = sql.SQL(" ON CONFLICT ({}) DO UPDATE SET ({}) = ({})" + also)
            statement += rule.format(identifiers(kept_by), identifiers(columns), new)
        with connection.cursor() as cursor:
            cursor.executemany(statement, rows)


def _let_go(connection: Connection, table: str, recipes: list[str], kept: Collection[_Key]) -> None:
    """Delete what has an id and is no part of some recipes any more."""
    statement = sql.SQL(
        "DELETE FROM {} AS one WHERE recipe = ANY (%s) AND id IS NOT NULL AND NOT EXISTS"
        " (SELECT FROM unnest(%s::text[], %s::text[]) AS kept (recipe, id) WHERE kept.recipe = one.recipe AND kept.id = one.id)"
    )
    connection.execute(
        statement.format(sql.Identifier(table)), [recipes, [recipe for recipe, _ in kept], [id_ for _, id_ in kept]]
    )


# Another price, or the same on another day, was set at another moment; which one is told once the save is noted.
_SET_AGAIN: LiteralString = (
    ", price_set_at = CASE WHEN (serving.price, serving.price_set_on) = (excluded.price, excluded.price_set_on)"
    " THEN serving.price_set_at END"
)
_STAGE_COLUMNS = (
    "recipe, id, position, name, method, vessel, lid, temperature_c, minutes, attended_minutes, energy_kwh, rule,"
    f" change_yield, per_hour, kg_per_hour, {columns('change_to')}, top_up_item, top_up_recipe, top_up_preparation, residue,"
    " note, value_per_kg, heat, power_share, fat_layer, start_c, open_minutes, flamed, in_oven, change_by,"
    f" {columns('came_out')}, came_out_cm, came_out_on, roux"
)
_SERVING_COLUMNS = (
    f"recipe, id, position, name, {columns('size')}, portioning_seconds, pricing_method, pricing_share, pricing_factor,"
    " pricing_amount, pricing_overhead_share, pricing_profit_share, commission, price, price_set_on, hold_hours, hold_vessel,"
    " hold_lid, hold_c, coming_price, coming_on"
)
_SOLD_COLUMNS = "recipe, serving, position, channel, price, price_set_on, coming_price, coming_on"
_ROLES = ("garnish", "accompaniments", "packaging", "add_ons")


def _stage_row(recipe_id: str, place: int, stage: Stage) -> tuple[Any, ...]:
    change, with_ = stage.change, stage.change.with_
    item, recipe, preparations = (None, None, ()) if with_ is None else (with_.item, with_.recipe, with_.preparations)
    return (
        recipe_id, stage.id, place, stage.name, stage.method, stage.vessel, stage.lid, stage.temperature_c,
        stage.minutes, stage.attended_minutes, stage.energy_kwh, change.rule, change.yield_, change.per_hour,
        change.kg_per_hour, *values(change.to), item, recipe, list(preparations), stage.residue, stage.note, stage.value_per_kg,
        stage.heat, stage.power_share, stage.fat_layer, stage.start_c, stage.open_minutes, stage.flamed, stage.in_oven,
        change.by, *_came_row(stage.came_out), stage.roux,
    )  # fmt: skip


def _came_row(came: CameOut | None) -> tuple[Any, ...]:
    return (*values(None), None, None) if came is None else (*values(came.quantity), came.depth_cm, came.on)


def _serving_row(recipe_id: str, place: int, serving: Serving) -> tuple[Any, ...]:
    pricing = serving.pricing
    terms = (None,) * 6 if pricing is None else (
        pricing.method, pricing.share, pricing.factor, pricing.amount, pricing.overhead_share, pricing.profit_share,
    )  # fmt: skip
    return (
        recipe_id, serving.id, place, serving.name, *values(serving.size), serving.portioning_seconds, *terms,
        serving.commission, serving.price, serving.price_set_on, serving.hold_hours, serving.hold_vessel, serving.hold_lid,
        serving.hold_c, *_coming_row(serving.coming),
    )  # fmt: skip


def _coming_row(coming: ComingPrice | None) -> tuple[Any, Any]:
    return (None, None) if coming is None else (coming.price, coming.on)
