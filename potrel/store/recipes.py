"""Recipes as relations, and their revisions: a save names the revision that it started from."""

from __future__ import annotations

import json
from collections import defaultdict
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from psycopg.types.json import Jsonb

from potrel.core.kitchen import (
    Change,
    Inflow,
    Line,
    MeasuredYield,
    Pricing,
    Recipe,
    Serving,
    Stage,
    TakeOut,
    TopUpWith,
)
from potrel.formats.kitchen_json import part_from, part_to_plain
from potrel.store.database import Connection, insert_into
from potrel.store.errors import AlreadyThere, NotFound, StaleRecipe

_Key = tuple[str, str]


@dataclass(frozen=True, slots=True)
class Revision:
    """One save of a recipe; `recipe` is None where it was taken off."""

    revision: int
    saved_at: datetime
    saved_by: str
    recipe: Recipe | None


def load_recipes(connection: Connection) -> tuple[Recipe, ...]:
    """All recipes, in their order."""
    stages, servings = _load_stages(connection), _load_servings(connection)
    rows = connection.execute(
        "SELECT id, name, density, seasoning_allowance, measured_quantity, measured_on, use_measured_yield, note"
        " FROM recipe ORDER BY position, id"
    )
    return tuple(
        Recipe(
            id_, name, density, tuple(stages[id_]), tuple(servings[id_]), allowance,
            None if quantity is None else MeasuredYield(quantity, on), use, note,
        )
        for id_, name, density, allowance, quantity, on, use, note in rows
    )  # fmt: skip


def _preparation(ids: list[str]) -> str | tuple[str, ...] | None:
    return tuple(ids) if len(ids) > 1 else ids[0] if ids else None


def _load_stages(connection: Connection) -> defaultdict[str, list[Stage]]:
    inflows: defaultdict[_Key, list[Inflow]] = defaultdict(list)
    for recipe, stage, source, share in connection.execute(
        "SELECT recipe, stage, from_stage, share FROM inflow ORDER BY recipe, stage, position"
    ):
        inflows[recipe, stage].append(Inflow(source, share))
    lines: defaultdict[_Key, list[Line]] = defaultdict(list)
    for recipe, stage, quantity, item, uses, id_, basis, preparation, *rest in connection.execute(
        "SELECT recipe, stage, quantity, item, uses_recipe, id, basis, preparation, cook_yield, byproduct"
        " FROM line ORDER BY recipe, stage, position"
    ):
        lines[recipe, stage].append(Line(quantity, item, uses, id_, basis, _preparation(preparation), *rest))
    taken: defaultdict[_Key, list[TakeOut]] = defaultdict(list)
    for recipe, stage, name, mass, of, factor, value, use in connection.execute(
        "SELECT recipe, stage, name, mass, of_lines, spent_factor, value_per_kg, used_for"
        " FROM take_out ORDER BY recipe, stage, position"
    ):
        taken[recipe, stage].append(TakeOut(name, mass, tuple(of), factor, value, use))
    stages: defaultdict[str, list[Stage]] = defaultdict(list)
    for (
        recipe, id_, name, method, vessel, lid, temperature, minutes, attended, energy, rule, change_yield, per_hour,
        kg_per_hour, to, with_item, with_recipe, with_preparation, *rest,
    ) in connection.execute(
        "SELECT recipe, id, name, method, vessel, lid, temperature_c, minutes, attended_minutes, energy_kwh, rule,"
        " change_yield, per_hour, kg_per_hour, change_to, top_up_item, top_up_recipe, top_up_preparation, residue, note,"
        " value_per_kg FROM stage ORDER BY recipe, position"
    ):  # fmt: skip
        with_ = TopUpWith(with_item, with_recipe, _preparation(with_preparation)) if rule == "top_up" else None
        change = Change(rule, change_yield, per_hour, kg_per_hour, to, with_)
        key = (recipe, id_)
        stages[recipe].append(
            Stage(id_, name, method, vessel, lid, temperature, minutes, attended, energy, tuple(inflows[key]),
                  tuple(lines[key]), change, tuple(taken[key]), *rest)
        )  # fmt: skip
    return stages


def _load_servings(connection: Connection) -> defaultdict[str, list[Serving]]:
    beside: defaultdict[tuple[str, str, str], list[Line]] = defaultdict(list)
    for recipe, serving, role, quantity, item, uses, id_, basis, preparation, *rest in connection.execute(
        "SELECT recipe, serving, role, quantity, item, uses_recipe, id, basis, preparation, cook_yield, byproduct"
        " FROM serving_line ORDER BY recipe, serving, role, position"
    ):
        line = Line(quantity, item, uses, id_, basis, _preparation(preparation), *rest)
        beside[recipe, serving, role].append(line)
    servings: defaultdict[str, list[Serving]] = defaultdict(list)
    for (
        recipe,
        id_,
        name,
        size,
        seconds,
        method,
        share,
        factor,
        amount,
        overhead,
        profit,
        commission,
        price,
        on,
    ) in connection.execute(
        "SELECT recipe, id, name, size, portioning_seconds, pricing_method, pricing_share, pricing_factor,"
        " pricing_amount, pricing_overhead_share, pricing_profit_share, commission, price, price_set_on"
        " FROM serving ORDER BY recipe, position"
    ):
        pricing = None if method is None else Pricing(method, share, factor, amount, overhead, profit)
        garnish, with_it, packs = (tuple(beside[recipe, id_, role]) for role in ("garnish", "accompaniments", "packaging"))
        servings[recipe].append(Serving(id_, name, size, garnish, with_it, packs, seconds, pricing, commission, price, on))
    return servings


def revision_of(connection: Connection, recipe_id: str) -> int:
    """The number of the newest revision of a recipe; NotFound where there is no such recipe now."""
    row = connection.execute("SELECT revision FROM recipe WHERE id = %s", [recipe_id]).fetchone()
    if row is None:
        raise NotFound("recipe", recipe_id)
    return int(row[0])


def revisions_of(connection: Connection, recipe_id: str) -> list[Revision]:
    """All revisions of a recipe, the newest first."""
    rows = connection.execute(
        "SELECT revision, saved_at, saved_by, body FROM recipe_revision WHERE recipe = %s ORDER BY revision DESC",
        [recipe_id],
    )
    return [Revision(number, at, by, None if body is None else part_from(Recipe, body)) for number, at, by, body in rows]


def insert_recipes(connection: Connection, recipes: Iterable[Recipe], by: str) -> None:
    """Add recipes behind those that are there, which may use each other in any order; AlreadyThere for a known id.

    A recipe that was once taken off goes on counting its revisions.
    """
    recipes = list(recipes)
    for recipe in recipes:
        newest = connection.execute(
            "SELECT coalesce(max(revision), 0) + 1 FROM recipe_revision WHERE recipe = %s", [recipe.id]
        ).fetchone()
        revision = newest[0] if newest else 1
        there = connection.execute("SELECT 1 FROM recipe WHERE id = %s", [recipe.id]).fetchone()
        if there is not None:
            raise AlreadyThere(f'there is a recipe "{recipe.id}" already: give this one another name')
        connection.execute(
            "INSERT INTO recipe (id, position, revision, name, density, use_measured_yield)"
            " VALUES (%s, (SELECT coalesce(max(position), 0) + 1 FROM recipe), %s, %s, 1, false)",
            [recipe.id, revision, recipe.name],
        )
        _remember(connection, recipe.id, revision, recipe, by)
    for recipe in recipes:
        _write_head(connection, recipe)
        _insert_parts(connection, recipe)


def save_recipe(connection: Connection, recipe: Recipe, based_on: int, by: str) -> int:
    """Replace a recipe that was read at revision `based_on`, and return the new revision.

    StaleRecipe, with both versions, where somebody saved or took it off since.
    """
    row = connection.execute("SELECT revision FROM recipe WHERE id = %s FOR UPDATE", [recipe.id]).fetchone()
    if row is None or row[0] != based_on:
        _refuse_stale(connection, recipe)
    revision = based_on + 1
    _write_head(connection, recipe)
    connection.execute("UPDATE recipe SET revision = %s WHERE id = %s", [revision, recipe.id])
    connection.execute("DELETE FROM stage WHERE recipe = %s", [recipe.id])
    connection.execute("DELETE FROM serving WHERE recipe = %s", [recipe.id])
    _insert_parts(connection, recipe)
    _remember(connection, recipe.id, revision, recipe, by)
    return revision


def take_off_recipe(connection: Connection, recipe_id: str, based_on: int, by: str) -> None:
    """Take a recipe off; its revisions stay. StillUsed or StaleRecipe where that cannot be."""
    current = revision_of(connection, recipe_id)
    if current != based_on:
        _refuse_stale(connection, revisions_of(connection, recipe_id)[0].recipe or Recipe(recipe_id, recipe_id))
    connection.execute("DELETE FROM recipe WHERE id = %s", [recipe_id])
    _remember(connection, recipe_id, current + 1, None, by)


def _refuse_stale(connection: Connection, yours: Recipe) -> None:
    history = revisions_of(connection, yours.id)
    if not history:
        raise NotFound("recipe", yours.id)
    newest = history[0]
    raise StaleRecipe(newest.recipe, newest.revision, newest.saved_by, yours)


def _remember(connection: Connection, recipe_id: str, revision: int, recipe: Recipe | None, by: str) -> None:
    body = None if recipe is None else Jsonb(part_to_plain(Recipe, recipe, whole=False), dumps=json.dumps)
    connection.execute(
        "INSERT INTO recipe_revision (recipe, revision, body, saved_by) VALUES (%s, %s, %s, %s)",
        [recipe_id, revision, body, by],
    )


def _write_head(connection: Connection, recipe: Recipe) -> None:
    measured = recipe.measured_yield
    connection.execute(
        "UPDATE recipe SET name = %s, density = %s, seasoning_allowance = %s, measured_quantity = %s, measured_on = %s,"
        " use_measured_yield = %s, note = %s WHERE id = %s",
        [recipe.name, recipe.density, recipe.seasoning_allowance, measured and measured.quantity,
         measured and measured.on, recipe.use_measured_yield, recipe.note, recipe.id],
    )  # fmt: skip


def _insert_parts(connection: Connection, recipe: Recipe) -> None:
    stages = [_stage_row(recipe.id, place, stage) for place, stage in enumerate(recipe.stages)]
    inflows = [
        (recipe.id, stage.id, place, inflow.stage, inflow.share)
        for stage in recipe.stages for place, inflow in enumerate(stage.from_)
    ]  # fmt: skip
    lines = [
        (recipe.id, stage.id, place, *_line_row(line)) for stage in recipe.stages for place, line in enumerate(stage.lines)
    ]
    taken = [
        (recipe.id, stage.id, place, t.name, t.mass, list(t.of), t.spent_factor, t.value_per_kg, t.use)
        for stage in recipe.stages for place, t in enumerate(stage.take_out)
    ]  # fmt: skip
    servings = [_serving_row(recipe.id, place, serving) for place, serving in enumerate(recipe.servings)]
    beside = [
        (recipe.id, serving.id, role, place, *_line_row(line))
        for serving in recipe.servings for place, (role, line) in enumerate(serving.extras)
    ]  # fmt: skip
    line_columns = "id, item, uses_recipe, quantity, basis, preparation, cook_yield, byproduct"
    _many(connection, "stage", _STAGE_COLUMNS, stages)
    _many(connection, "inflow", "recipe, stage, position, from_stage, share", inflows)
    _many(connection, "line", f"recipe, stage, position, {line_columns}", lines)
    _many(connection, "take_out", "recipe, stage, position, name, mass, of_lines, spent_factor, value_per_kg, used_for", taken)
    _many(connection, "serving", _SERVING_COLUMNS, servings)
    _many(connection, "serving_line", f"recipe, serving, role, position, {line_columns}", beside)


def _many(connection: Connection, table: str, columns: str, rows: list[tuple[Any, ...]]) -> None:
    if rows:
        with connection.cursor() as cursor:
            cursor.executemany(insert_into(table, columns), rows)


_STAGE_COLUMNS = (
    "recipe, id, position, name, method, vessel, lid, temperature_c, minutes, attended_minutes, energy_kwh, rule,"
    " change_yield, per_hour, kg_per_hour, change_to, top_up_item, top_up_recipe, top_up_preparation, residue, note,"
    " value_per_kg"
)
_SERVING_COLUMNS = (
    "recipe, id, position, name, size, portioning_seconds, pricing_method, pricing_share, pricing_factor,"
    " pricing_amount, pricing_overhead_share, pricing_profit_share, commission, price, price_set_on"
)


def _stage_row(recipe_id: str, place: int, stage: Stage) -> tuple[Any, ...]:
    change, with_ = stage.change, stage.change.with_
    return (
        recipe_id, stage.id, place, stage.name, stage.method, stage.vessel, stage.lid, stage.temperature_c,
        stage.minutes, stage.attended_minutes, stage.energy_kwh, change.rule, change.yield_, change.per_hour,
        change.kg_per_hour, change.to, with_ and with_.item, with_ and with_.recipe,
        list(with_.preparations if with_ else ()), stage.residue, stage.note, stage.value_per_kg,
    )  # fmt: skip


def _line_row(line: Line) -> tuple[Any, ...]:
    return line.id, line.item, line.recipe, line.quantity, line.basis, list(line.preparations), line.cook_yield, line.byproduct


def _serving_row(recipe_id: str, place: int, serving: Serving) -> tuple[Any, ...]:
    pricing = serving.pricing
    terms = (None,) * 6 if pricing is None else (
        pricing.method, pricing.share, pricing.factor, pricing.amount, pricing.overhead_share, pricing.profit_share,
    )  # fmt: skip
    return (
        recipe_id, serving.id, place, serving.name, serving.size, serving.portioning_seconds, *terms,
        serving.commission, serving.price, serving.price_set_on,
    )  # fmt: skip
