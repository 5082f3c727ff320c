"""Rounds of prices: who set which, from when, at what cost and why; and what was sold, week by week."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from decimal import Decimal

from psycopg.types.json import Jsonb

from potrel.core.kitchen.channels import PriceState
from potrel.core.kitchen.kinds import Computed, Id, Money, On
from potrel.core.kitchen.pricing import PricingMethod
from potrel.formats.kitchen_json import part_from, part_to_plain
from potrel.store.database import Connection, insert_into

# The weeks whose sales count: those that lie back no further.
SALES_WEEKS = 4


@dataclass(frozen=True, slots=True)
class PriceChange:
    """One price of a round: of a serving in a channel (empty for the kitchen's own), as it stood before and stands after.

    `was` and `price` are those on the card [money], `cost` the food cost of a portion at the time, `method` the school that
    decided.
    """

    recipe: Id
    recipe_name: str
    serving: Id
    serving_name: str
    channel: str
    channel_name: str
    before: PriceState
    after: PriceState
    was: Money | None
    price: Money | None
    cost: Computed | None
    method: PricingMethod | None
    taken_back: bool = False


@dataclass(frozen=True, slots=True)
class PriceRound:
    """Prices that were set at once, and can be taken back at once."""

    number: int
    at: datetime
    by: str
    holds_from: On
    reason: str | None
    taken_back_by: str | None
    changes: list[PriceChange]


def note_round(connection: Connection, changes: Sequence[PriceChange], holds_from: date, reason: str | None, by: str) -> int:
    """Note prices that are being set; returns the number of their round."""
    row = connection.execute(
        "INSERT INTO price_round (set_by, holds_from, reason) VALUES (%s, %s, %s) RETURNING number", [by, holds_from, reason]
    ).fetchone()
    number = 0 if row is None else int(row[0])
    for place, one in enumerate(changes):
        connection.execute(
            insert_into(
                "price_change",
                "round, position, recipe, recipe_name, serving, serving_name, channel, channel_name, before, after, was, price,"
                " cost, method",
            ),
            [number, place, one.recipe, one.recipe_name, one.serving, one.serving_name, one.channel, one.channel_name,
             _plain(one.before), _plain(one.after), one.was, one.price, one.cost, one.method],
        )  # fmt: skip
    return number


def _plain(price: PriceState) -> Jsonb:
    return Jsonb(part_to_plain(PriceState, price, whole=False))


def rounds(
    connection: Connection, *, number: int | None = None, recipe: str | None = None, before: int | None = None, most: int = 50
) -> list[PriceRound]:
    """Rounds of prices, the newest first: one of them, or those that touched a recipe, or those before a number."""
    heads = connection.execute(
        "SELECT number, at, set_by, holds_from, reason, taken_back_by FROM price_round"
        " WHERE (%(number)s::bigint IS NULL OR number = %(number)s) AND (%(before)s::bigint IS NULL OR number < %(before)s)"
        " AND (%(recipe)s::text IS NULL OR number IN (SELECT round FROM price_change WHERE recipe = %(recipe)s))"
        " ORDER BY number DESC LIMIT %(most)s",
        {"number": number, "recipe": recipe, "before": before, "most": most},
    ).fetchall()
    found: dict[int, list[PriceChange]] = {head[0]: [] for head in heads}
    for round_, *row in connection.execute(
        "SELECT round, recipe, recipe_name, serving, serving_name, channel, channel_name, before, after, was, price, cost,"
        " method, taken_back_at IS NOT NULL FROM price_change WHERE round = ANY (%s) ORDER BY round, position", [list(found)],
    ).fetchall():  # fmt: skip
        row[6:8] = [part_from(PriceState, one) for one in row[6:8]]
        found[round_].append(PriceChange(*row))
    return [
        PriceRound(number_, at, by, holds_from, reason, gone, found[number_])
        for number_, at, by, holds_from, reason, gone in heads
    ]


def mark_taken_back(connection: Connection, number: int, changes: Iterable[PriceChange], by: str) -> None:
    """Note that prices of a round were taken back; with the last of them the round is."""
    for one in changes:
        connection.execute(
            "UPDATE price_change SET taken_back_at = now() WHERE round = %s AND recipe = %s AND serving = %s AND channel = %s",
            [number, one.recipe, one.serving, one.channel],
        )
    connection.execute(
        "UPDATE price_round SET taken_back_at = now(), taken_back_by = %s WHERE number = %s AND taken_back_at IS NULL"
        " AND NOT EXISTS (SELECT FROM price_change WHERE round = %s AND taken_back_at IS NULL)",
        [by, number, number],
    )


# -- sales -------------------------------------------------------------------------------------------------------------


@dataclass(frozen=True, slots=True)
class Sold:
    """Portions of a serving sold by a channel (empty for the kitchen's own) in the week that begins on a Monday."""

    recipe: Id
    serving: Id
    channel: str
    week: On
    portions: Decimal


def note_sold(connection: Connection, sold: Iterable[Sold], by: str) -> None:
    """Note what was sold in some weeks, in the place of what was noted of them."""
    for one in sold:
        connection.execute(
            "INSERT INTO sale (recipe, serving, channel, week, portions, noted_by) VALUES (%s, %s, %s, %s, %s, %s)"
            " ON CONFLICT (recipe, serving, channel, week) DO UPDATE SET portions = excluded.portions, noted_by ="
            " excluded.noted_by",
            [one.recipe, one.serving, one.channel, one.week, one.portions, by],
        )


def sold_a_week(connection: Connection, today: date) -> dict[tuple[str, str, str], Decimal]:
    """Portions sold a week, by recipe, serving and channel: the mean of the weeks noted among the last ones."""
    since = monday(today) - timedelta(weeks=SALES_WEEKS)
    rows = connection.execute(
        "SELECT recipe, serving, channel, avg(portions) FROM sale WHERE week >= %s AND week <= %s"
        " GROUP BY recipe, serving, channel", [since, today],
    )  # fmt: skip
    return {(recipe, serving, channel): Decimal(mean) for recipe, serving, channel, mean in rows}


def monday(day: date) -> date:
    """The day on which its week begins."""
    return day - timedelta(days=day.weekday())
