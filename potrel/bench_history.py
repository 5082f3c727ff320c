"""A kitchen with a year behind it, for measurements and tests: saves, rounds of prices, sales, lists, offers."""

from __future__ import annotations

import hashlib
import json
import random
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from datetime import UTC, date, datetime, time, timedelta
from decimal import Decimal
from itertools import pairwise
from typing import Any, Literal, NamedTuple

from psycopg import sql

from potrel.core.kitchen.kitchen import Kitchen
from potrel.core.kitchen.quantities import parse_pack, parse_quantity
from potrel.core.kitchen.recipes import Recipe
from potrel.core.kitchen.supply import Offer
from potrel.formats.kitchen_json import part_to_plain
from potrel.store.database import Connection, identifiers
from potrel.store.kitchens import insert_kitchen
from potrel.store.revisions import note_when_set

BY = "bench"
_YEAR = 364


@dataclass(frozen=True, slots=True)
class Size:
    """How much happened: saves of each recipe, moments at which prices were set, sales, lists, offers."""

    saves: int = 30
    moments: int = 250
    sales: int = 100_000
    lists: int = 300
    offers: int = 5_000


class Save(NamedTuple):
    """One save of a recipe: when, and the recipe as it then stood."""

    at: datetime
    recipe: Recipe


What = Literal["price", "note", "quantity"]


def moments_of(count: int, today: date) -> list[datetime]:
    """So many moments within the year before a day, in order."""
    step = _YEAR / count
    return [
        datetime.combine(today - timedelta(days=1 + int(step * (count - 1 - n))), time(8 + n % 9, n % 60, n % 50), UTC)
        for n in range(count)
    ]


def saves_of(recipe: Recipe, moments: Sequence[datetime], saves: int, dice: random.Random) -> list[Save]:
    """How a recipe came to be what it is: mostly new prices, at some of the moments; a note or an amount now and then.

    The last save is the recipe as it stands, which has the price that was set last.
    """
    # A year of a pot: some three of its saves change what is in it, as many its notes; the rest are prices.
    amounts, notes = min(3, saves // 8), min(4, saves // 7)
    how_many: dict[What, int] = {"quantity": amounts, "note": notes, "price": saves - 1 - amounts - notes}
    kinds = [kind for kind, count in how_many.items() for _ in range(count)]
    dice.shuffle(kinds)
    priced = iter(sorted(dice.sample(range(len(moments)), kinds.count("price"))))
    at = moments[0] - timedelta(days=1, seconds=dice.randint(0, 40_000))
    made = [Save(at, recipe)]
    for kind in kinds:
        at, now = at + timedelta(seconds=1 + dice.randint(0, 50_000)), made[-1].recipe
        if kind == "price":
            at = max(at, moments[next(priced)])
            serving = replace(now.servings[0], price=Decimal(dice.randint(380, 560)) / 100, price_set_on=at.date())
            now = replace(now, servings=(serving, *now.servings[1:]))
        elif kind == "note":
            now = replace(now, note=f"told on {at:%d %B}: stir")
        else:
            now = _stirred(now, dice)
        made.append(Save(at, now))
    return made


def _stirred(recipe: Recipe, dice: random.Random) -> Recipe:
    """The recipe with another amount of one of its lines."""
    first, *rest = recipe.stages
    place = dice.randrange(len(first.lines))
    line = replace(first.lines[place], quantity=parse_quantity(f"{dice.randint(50, 3000)} g"))
    return replace(recipe, stages=(replace(first, lines=(*first.lines[:place], line, *first.lines[place + 1 :])), *rest))


@dataclass(frozen=True, slots=True)
class Aged:
    """A kitchen as it stands after its year, with the saves of each recipe."""

    kitchen: Kitchen
    saves: dict[str, list[Save]]
    moments: list[datetime]
    size: Size


def aged(kitchen: Kitchen, today: date, size: Size | None = None, seed: int = 5) -> Aged:
    """A kitchen with a year of saves and offers behind it."""
    size, dice = size or Size(), random.Random(seed)
    moments = moments_of(size.moments, today)
    saves = {recipe.id: saves_of(recipe, moments, size.saves, dice) for recipe in kitchen.recipes}
    recipes = tuple(saves[recipe.id][-1].recipe for recipe in kitchen.recipes)
    older = [
        Offer(
            dice.choice(kitchen.items).id, kitchen.suppliers[0].id, parse_pack("10 kg"), Decimal(dice.randint(500, 9000)) / 100,
            today - timedelta(days=121 + n % 244), id=f"old-{n}",
        )
        for n in range(size.offers - len(kitchen.offers))
    ]  # fmt: skip
    return Aged(replace(kitchen, recipes=recipes, offers=(*older, *kitchen.offers)), saves, moments, size)


def write_aged(connection: Connection, of: Aged, today: date) -> None:
    """Write an aged kitchen, with all that happened in it, into an empty database."""
    insert_kitchen(connection, of.kitchen, BY)
    # What was written just now as if it were the first save; the year of it comes in its place.
    connection.execute("ALTER TABLE recipe_revision DISABLE TRIGGER USER")
    connection.execute("DELETE FROM recipe_revision")
    _copy(connection, "recipe_revision", "recipe, revision, body, saved_at, saved_by", _revisions(of))
    connection.execute("ALTER TABLE recipe_revision ENABLE TRIGGER USER")
    connection.execute("UPDATE recipe SET revision = %s", [of.size.saves])
    connection.execute("UPDATE serving SET price_set_at = NULL")
    note_when_set(connection, list(of.saves))
    _copy(connection, "change", "kind, id, changed_by, changed_at", _changes(of))
    _copy(connection, "price_round", "at, set_by, holds_from", ((at, BY, at.date()) for at in of.moments))
    first = connection.execute("SELECT min(number) FROM price_round").fetchone()
    _copy(
        connection, "price_change",
        "round, position, recipe, recipe_name, serving, serving_name, channel, channel_name, before, after, was, price, cost,"
        " method",
        _price_changes(of, 1 if first is None else first[0]),
    )  # fmt: skip
    _copy(connection, "sale", "recipe, serving, channel, week, portions, noted_by", _sales(of, today))
    _copy(
        connection, "price_list", "file_name, digest, content, kind, supplier, state, read_at, read_by, settled_at, settled_by,"
        " prices", _lists(of),
    )  # fmt: skip
    connection.execute("ANALYZE")


def _copy(connection: Connection, table: str, columns: str, rows: Iterator[tuple[Any, ...]]) -> None:
    statement = sql.SQL("COPY {} ({}) FROM STDIN").format(sql.Identifier(table), identifiers(columns))
    with connection.cursor() as cursor, cursor.copy(statement) as copy:
        for row in rows:
            copy.write_row(row)


def _revisions(of: Aged) -> Iterator[tuple[Any, ...]]:
    for recipe, saves in of.saves.items():
        stages: dict[int, Any] = {}
        for number, save in enumerate(saves, 1):
            key = id(save.recipe.stages)
            if key not in stages:
                stages[key] = part_to_plain(Recipe, save.recipe, whole=False)["stages"]
            # Most saves change a price: what is in the pot is written once.
            plain = part_to_plain(Recipe, replace(save.recipe, stages=()), whole=False)
            yield recipe, number, json.dumps({**plain, "stages": stages[key]}), save.at, BY


def _changes(of: Aged) -> Iterator[tuple[Any, ...]]:
    for at, recipe in sorted((save.at, recipe) for recipe, saves in of.saves.items() for save in saves):
        yield "recipe", recipe, BY, at


def _price_changes(of: Aged, first: int) -> Iterator[tuple[Any, ...]]:
    places = {at: place for place, at in enumerate(of.moments)}
    counts = [0] * len(of.moments)
    for recipe, saves in of.saves.items():
        for before, after in pairwise(saves):
            was, now = before.recipe.servings[0], after.recipe.servings[0]
            place = places.get(after.at)
            if place is None or was.price == now.price:
                continue
            counts[place] += 1
            yield (
                first + place, counts[place], recipe, after.recipe.name, now.id, now.name, "", "here",
                json.dumps({"price": str(was.price)}), json.dumps({"price": str(now.price)}), was.price, now.price, None, None,
            )  # fmt: skip


def _sales(of: Aged, today: date) -> Iterator[tuple[Any, ...]]:
    monday = today - timedelta(days=today.weekday())
    recipes = of.kitchen.recipes
    for n in range(of.size.sales):
        recipe = recipes[n % len(recipes)]
        yield recipe.id, recipe.servings[0].id, "", monday - timedelta(weeks=1 + n // len(recipes)), 20 + n % 150, BY


def _lists(of: Aged) -> Iterator[tuple[Any, ...]]:
    """One in fifteen is still open."""
    for n in range(of.size.lists):
        text = "Code,Article,Pack,Price\n" + "".join(f"C{n}-{row},Item {row},10 kg,{20 + n % 50}.10\n" for row in range(200))
        content, at = text.encode(), of.moments[n * len(of.moments) // of.size.lists]
        state, settled = ("open", None) if n % 15 == 0 else ("recorded", at)
        yield (
            f"list-{n}.csv", hashlib.sha256(content).digest(), content, "price_list", of.kitchen.suppliers[0].id, state, at, BY,
            settled, None if settled is None else BY, 0,
        )  # fmt: skip
