"""Channels, the kitchen's terms for the schools of pricing, and meal deals."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Collection, Iterable
from typing import Any

from psycopg import sql
from psycopg.types.json import Jsonb

from potrel.core.kitchen.channels import Channel
from potrel.core.kitchen.deals import Deal, DealPart
from potrel.core.kitchen.lines import Line
from potrel.core.kitchen.pricing import PriceEnding, Pricing
from potrel.formats.kitchen_json import part_from, part_to_plain
from potrel.store.database import Connection, insert_into
from potrel.store.errors import still_used
from potrel.store.lines import LINE_COLUMNS, LINE_FIELDS, line_of, line_row

_PRICING = "method, share, factor, amount, overhead_share, profit_share"


def load_channels(connection: Connection) -> tuple[Channel, ...]:
    """All channels, in their order."""
    lines: defaultdict[str, list[Line]] = defaultdict(list)
    for channel, *row in connection.execute(
        sql.SQL("SELECT channel, {} FROM channel_line ORDER BY channel, position").format(sql.SQL(LINE_FIELDS))
    ).fetchall():
        lines[channel].append(line_of(*row))
    rows = connection.execute(
        "SELECT id, name, tax_rate, commission, commission_of, ending, price_ending_step, price_ending_cents, subsidy, deposit"
        " FROM channel ORDER BY position, id"
    )
    return tuple(
        Channel(id_, name, tax, commission, of, tuple(lines[id_]), _ending(ending, step, cents), subsidy, deposit)
        for id_, name, tax, commission, of, ending, step, cents, subsidy, deposit in rows
    )


def _ending(kind: str, step: Any, cents: Any) -> Any:
    if kind == "own":
        return PriceEnding(step, tuple(cents) if cents else None)
    return "kitchen" if kind == "kitchen" else None


def save_channels(connection: Connection, channels: Collection[Channel]) -> None:
    """Make these all the channels there are. StillUsed where a serving or a deal is sold by one that goes."""
    kept = [channel.id for channel in channels]
    with still_used("a channel"):
        connection.execute("DELETE FROM channel WHERE id <> ALL (%s)", [kept])
    connection.execute("DELETE FROM channel_line")
    for place, channel in enumerate(channels):
        ending = channel.price_ending
        kind = "kitchen" if ending == "kitchen" else "none" if ending is None else "own"
        step, cents = (ending.step, ending.cents) if isinstance(ending, PriceEnding) else (None, None)
        connection.execute(
            "INSERT INTO channel (id, position, name, tax_rate, commission, commission_of, ending, price_ending_step,"
            " price_ending_cents, subsidy, deposit) VALUES (%s, %s, %s, %s, %s, %s, %s, %s, %s, %s, %s)"
            " ON CONFLICT (id) DO UPDATE SET (position, name, tax_rate, commission, commission_of, ending, price_ending_step,"
            " price_ending_cents, subsidy, deposit) = (excluded.position, excluded.name, excluded.tax_rate,"
            " excluded.commission, excluded.commission_of, excluded.ending, excluded.price_ending_step,"
            " excluded.price_ending_cents, excluded.subsidy, excluded.deposit)",
            [channel.id, place, channel.name, channel.tax_rate, channel.commission, channel.commission_of, kind, step,
             None if cents is None else list(cents), channel.subsidy, channel.deposit],
        )  # fmt: skip
        for number, line in enumerate(channel.packaging):
            connection.execute(
                insert_into("channel_line", f"channel, position, {LINE_COLUMNS}"), [channel.id, number, *line_row(line)]
            )


def load_pricings(connection: Connection) -> dict[str | None, tuple[Pricing, ...]]:
    """The terms for the schools of pricing: of each recipe that has some, and under None the kitchen's."""
    found: defaultdict[str | None, list[Pricing]] = defaultdict(list)
    rows = connection.execute(
        "SELECT recipe, method, share, factor, amount, overhead_share, profit_share FROM pricing ORDER BY recipe, position"
    )
    for recipe, *terms in rows:
        found[recipe].append(Pricing(*terms))
    return {recipe: tuple(pricings) for recipe, pricings in found.items()}


def save_pricings(connection: Connection, recipe: str | None, pricings: Iterable[Pricing]) -> None:
    """Make these all the terms of a recipe, or of the kitchen (None)."""
    connection.execute("DELETE FROM pricing WHERE recipe IS NOT DISTINCT FROM %s", [recipe])
    for place, one in enumerate(pricings):
        connection.execute(
            insert_into("pricing", f"recipe, position, {_PRICING}"),
            [recipe, place, one.method, one.share, one.factor, one.amount, one.overhead_share, one.profit_share],
        )


# -- deals -------------------------------------------------------------------------------------------------------------


def load_deals(connection: Connection) -> tuple[Deal, ...]:
    """All meal deals, in their order."""
    parts: defaultdict[str, list[DealPart]] = defaultdict(list)
    for deal, recipe, serving, line, price in connection.execute(
        "SELECT deal, recipe, serving, line, price FROM deal_part ORDER BY deal, position"
    ).fetchall():
        parts[deal].append(DealPart(recipe, serving, None if line is None else part_from(Line, line), price))
    rows = connection.execute("SELECT id, name, price, price_set_on, channel FROM deal ORDER BY position, id")
    return tuple(Deal(id_, name, tuple(parts[id_]), price, on, channel) for id_, name, price, on, channel in rows)


def save_deals(connection: Connection, deals: Collection[Deal]) -> None:
    """Make these all the deals there are, in their order."""
    connection.execute("DELETE FROM deal")
    for place, deal in enumerate(deals):
        connection.execute(
            insert_into("deal", "id, position, name, price, price_set_on, channel"),
            [deal.id, place, deal.name, deal.price, deal.price_set_on, deal.channel],
        )
        for number, part in enumerate(deal.parts):
            line = None if part.line is None else Jsonb(part_to_plain(Line, part.line, whole=False))
            item = None if part.line is None else part.line.item
            connection.execute(
                insert_into("deal_part", "deal, position, recipe, serving, item, line, price"),
                [deal.id, number, part.recipe, part.serving, item, line, part.price],
            )
