"""The saves of recipes, each kept whole: how a recipe stood when, and when its prices were set."""

from __future__ import annotations

import json
from collections.abc import Callable, Collection, Iterator
from contextlib import suppress
from dataclasses import dataclass
from datetime import datetime
from functools import cache

from psycopg.types.json import Jsonb

from potrel.core.cost.earlier import Earlier, PriceSet, SaveKey, Stood, Version
from potrel.core.errors import PotrelError
from potrel.core.kitchen.recipes import Recipe
from potrel.formats.kitchen_json import part_from, part_to_plain
from potrel.store.database import Connection


@dataclass(frozen=True, slots=True)
class Revision:
    """One save of a recipe; `recipe` is None where it was taken off."""

    revision: int
    saved_at: datetime
    saved_by: str
    recipe: Recipe | None


def revisions_of(connection: Connection, recipe_id: str) -> list[Revision]:
    """All revisions of a recipe, the newest first."""
    rows = connection.execute(
        "SELECT revision, saved_at, saved_by, body FROM recipe_revision WHERE recipe = %s ORDER BY revision DESC",
        [recipe_id],
    )
    return [Revision(number, at, by, None if body is None else part_from(Recipe, body)) for number, at, by, body in rows]


def load_earlier(connection: Connection, recipes: Collection[str] | None = None) -> Earlier:
    """When each price was set, and how the recipes stood from when on, of all recipes or of some.

    The saves themselves are not read: `load_versions` reads those that are asked for.
    """
    wanted = {"recipes": None if recipes is None else list(recipes)}
    prices = {
        (recipe, serving): PriceSet(price, on, moment)
        for recipe, serving, price, on, moment in connection.execute(
            "SELECT recipe, id, price, price_set_on, price_set_at FROM serving WHERE price_set_at IS NOT NULL"
            " AND (%(recipes)s::text[] IS NULL OR recipe = ANY (%(recipes)s))",
            wanted,
        )
    }
    stands: dict[str, list[Stood]] = {}
    # A save that is made of what the one before was made of tells nothing new.
    for recipe, *stood in connection.execute(
        "SELECT recipe, saved_at, revision, made_of FROM (SELECT recipe, saved_at, revision, made_of,"
        " lag(made_of) OVER of_recipe AS before FROM recipe_revision WHERE made_of IS NOT NULL"
        " AND (%(recipes)s::text[] IS NULL OR recipe = ANY (%(recipes)s))"
        " WINDOW of_recipe AS (PARTITION BY recipe ORDER BY revision)) AS save"
        " WHERE before IS DISTINCT FROM made_of ORDER BY recipe, revision",
        wanted,
    ):
        stands.setdefault(recipe, []).append(Stood(*stood))
    return Earlier(prices, {recipe: some for recipe, some in stands.items() if len(some) > 1})


def load_versions(connection: Connection, saves: Collection[SaveKey]) -> dict[SaveKey, Version]:
    """Some saves of recipes, each understood when it is first asked for."""
    rows = connection.execute(
        "SELECT v.recipe, v.revision, v.body FROM recipe_revision v JOIN unnest(%s::text[], %s::integer[])"
        " AS wanted (recipe, revision) ON v.recipe = wanted.recipe AND v.revision = wanted.revision",
        [[recipe for recipe, _ in saves], [revision for _, revision in saves]],
    )
    return {(recipe, revision): Version(frozenset(_used_by(body)), _read_late(body)) for recipe, revision, body in rows}


def _used_by(body: object) -> Iterator[str]:
    """The recipes that a recipe names, wherever it does."""
    if isinstance(body, dict):
        for key, part in body.items():
            if key == "recipe" and isinstance(part, str):
                yield part
            else:
                yield from _used_by(part)
    elif isinstance(body, list):
        for part in body:
            yield from _used_by(part)


def _read_late(body: object) -> Callable[[], Recipe | None]:
    @cache
    def read() -> Recipe | None:
        with suppress(PotrelError):
            made: Recipe = part_from(Recipe, body)
            return made
        return None

    return read


def last_saves(connection: Connection) -> dict[str, tuple[datetime, str]]:
    """When each recipe was last saved, and by whom."""
    rows = connection.execute(
        "SELECT r.id, v.saved_at, v.saved_by FROM recipe r"
        " JOIN recipe_revision v ON v.recipe = r.id AND v.revision = r.revision"
    )
    return {recipe: (at, by) for recipe, at, by in rows}


def taken_off(connection: Connection) -> list[Revision]:
    """The recipes that were taken off and are not on again, as they were last, the newest first; with who took them off."""
    rows = connection.execute(
        "SELECT gone.recipe, gone.revision, gone.saved_at, gone.saved_by, last.body FROM recipe_revision AS gone"
        " CROSS JOIN LATERAL (SELECT body FROM recipe_revision WHERE recipe = gone.recipe AND body IS NOT NULL"
        " ORDER BY revision DESC LIMIT 1) AS last"
        " WHERE gone.body IS NULL AND NOT EXISTS (SELECT FROM recipe WHERE id = gone.recipe)"
        " AND NOT EXISTS (SELECT FROM recipe_revision WHERE recipe = gone.recipe AND revision > gone.revision)"
        " ORDER BY gone.saved_at DESC"
    )
    found: list[Revision] = []
    for _, revision, at, by, body in rows:
        # One that cannot be understood any more is told by nobody; its revisions stay.
        with suppress(PotrelError):
            found.append(Revision(revision, at, by, part_from(Recipe, body)))
    return found


def remember(connection: Connection, recipe_id: str, revision: int, recipe: Recipe | None, by: str) -> None:
    """Keep a recipe as it was saved, or that it was taken off."""
    body = None if recipe is None else Jsonb(part_to_plain(Recipe, recipe, whole=False), dumps=json.dumps)
    connection.execute(
        "INSERT INTO recipe_revision (recipe, revision, body, saved_by) VALUES (%s, %s, %s, %s)",
        [recipe_id, revision, body, by],
    )


def note_when_set(connection: Connection, recipes: Collection[str]) -> None:
    """Keep beside each serving of some recipes when its price was saved first: what is known of the saves already stays.

    A price that comes back (a round that was taken back) was set when it was set first.
    """
    connection.execute(
        "UPDATE serving s SET price_set_at = (SELECT min(v.saved_at) FROM recipe_revision v"
        # What is no list or no number, whoever wrote it, keeps nothing from being read.
        " CROSS JOIN LATERAL jsonb_array_elements(CASE jsonb_typeof(v.body -> 'servings')"
        " WHEN 'array' THEN v.body -> 'servings' ELSE '[]' END) one"
        " WHERE v.recipe = s.recipe AND one ->> 'id' = s.id AND one ->> 'price_set_on' = s.price_set_on::text"
        " AND CASE WHEN one ->> 'price' ~ '^[0-9]{1,20}([.][0-9]{1,20})?$' THEN (one ->> 'price')::numeric = s.price END)"
        " WHERE s.recipe = ANY (%s) AND s.price_set_on IS NOT NULL AND s.price_set_at IS NULL",
        [list(recipes)],
    )
