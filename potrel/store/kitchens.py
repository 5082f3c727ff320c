"""The whole kitchen in and out, in a handful of set queries."""

from __future__ import annotations

from dataclasses import replace
from itertools import groupby
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from psycopg import sql

from potrel.core.kitchen.kitchen import Kitchen
from potrel.core.kitchen.pricing import Overhead, PriceEnding
from potrel.core.kitchen.settings import LidFactors, Settings
from potrel.core.kitchen.supply import Credit, Offer
from potrel.core.sentences import say
from potrel.store.comparisons import insert_comparisons, load_comparisons
from potrel.store.database import Connection, insert_into
from potrel.store.errors import NotEmpty
from potrel.store.items import (
    insert_items,
    insert_vessels,
    load_items,
    load_vessels,
)
from potrel.store.offers import insert_credits, insert_offers, load_credits, load_offers, of_price_list
from potrel.store.prices import load_channels, load_deals, load_pricings, save_channels, save_deals, save_pricings
from potrel.store.recipes import insert_recipes, load_recipes
from potrel.store.suppliers import insert_suppliers, load_suppliers
from potrel.store.yields import insert_tests, load_tests

_SETTINGS = (
    "name", "currency", "price_ending_step", "price_ending_cents", "seasoning_allowance", "serving_loss",
    "labour_rate_per_hour", "overhead_rate_per_hour", "energy_price_per_kwh", "tax_rate", "target_food_cost",
    "byproduct_method", "measure_system", "old_price_days", "allergen_list", "food_code",
    "date_style", "decimal_sign", "shown_units",
    "fixed_cost_per_week", "open_days_per_week", "time_zone",
    "altitude_m", "room_c", "relative_humidity", "air_speed", "salt_target", "price_horizon_days",
    "lid_off", "lid_ajar", "lid_on", "overhead_per_attended_hour", "overhead_per_portion", "overhead_share_of_sales",
)  # fmt: skip
# The change log is not emptied: it tells whoever holds the kitchen in memory that all of it is another.
_EMPTY = (
    "TRUNCATE kitchen, supplier, vessel, vessel_rate, item, measure, preparation, preparation_byproduct, cooking, offer,"
    " recipe, stage, inflow, line, take_out, serving, serving_line, consumable, recipe_revision, channel, channel_line,"
    " pricing, serving_channel, deal, deal_part, sale, price_round, price_change, price_list, credit, pushed_past,"
    " bench_test, bench_test_part, bench_test_standing, test_sheet, adopted_yield, comparison, kept_board, cost_otherwise"
)
NEW_KITCHEN = Kitchen("potrel-kitchen", 1, "New kitchen", "EUR", Settings(measure_system="metric"))


def load_kitchen(connection: Connection) -> Kitchen:
    """The whole kitchen, with the settings of a new one where none were saved yet."""
    name, currency, settings = load_settings(connection)
    return Kitchen(
        "potrel-kitchen", 1, name, currency, settings, load_suppliers(connection), load_vessels(connection),
        load_items(connection), load_offers(connection), load_recipes(connection), load_credits(connection),
        load_tests(connection), load_comparisons(connection), load_deals(connection),
    )  # fmt: skip


def load_settings(connection: Connection) -> tuple[str, str, Settings]:
    """The kitchen's name, currency and settings, those of a new one where none were saved yet."""
    columns = sql.SQL(", ").join(map(sql.Identifier, _SETTINGS))
    row = connection.execute(sql.SQL("SELECT {} FROM kitchen").format(columns)).fetchone()
    name, currency = NEW_KITCHEN.name, NEW_KITCHEN.currency
    settings = replace(NEW_KITCHEN.settings, time_zone=load_zone(connection).key)
    if row is not None:
        name, currency, step, cents, *values, off, ajar, on, hour, portion, sales = row
        ending = None if step is None and not cents else PriceEnding(step, tuple(cents) if cents else None)
        lids = LidFactors(off, ajar, on)
        told = (hour, portion, sales) != (None, None, None)
        settings = Settings(
            price_ending=ending, lid_factors=lids, overhead=Overhead(hour, portion, sales) if told else None,
            pricings=load_pricings(connection).get(None, ()), channels=load_channels(connection),
            **dict(zip(_SETTINGS[4:-6], values, strict=True)),
        )  # fmt: skip
    return name, currency, settings


def load_zone(connection: Connection) -> ZoneInfo:
    """The time zone of the kitchen; that of the machine on which its database was made where it has no settings yet."""
    row = connection.execute(
        "SELECT coalesce((SELECT time_zone FROM kitchen), (SELECT reset_val FROM pg_settings WHERE name = 'TimeZone'))"
    ).fetchone()
    try:
        return ZoneInfo("UTC" if row is None else row[0])
    except (ZoneInfoNotFoundError, ValueError, OSError):
        return ZoneInfo("UTC")


def is_empty(connection: Connection) -> bool:
    """Whether the database holds no kitchen yet."""
    row = connection.execute(
        "SELECT EXISTS (SELECT FROM kitchen) OR EXISTS (SELECT FROM item) OR EXISTS (SELECT FROM recipe)"
    ).fetchone()
    return row is None or not row[0]


# What the document does not hold, and what it is called where it is let go.
_BESIDE = (
    ("recipe_revision", "revisions of recipes"), ("test_sheet", "half-done test sheets"),
    ("pushed_past", "marks of pots past their target"), ("sale", "weeks of portions sold"), ("price_round", "rounds of prices"),
    ("adopted_yield", "yields that were in use before"), ("cost_otherwise", "records of what a new version reckoned otherwise"),
)  # fmt: skip


def dropped_by_import(connection: Connection, kitchen: Kitchen) -> str:
    """What the import of a kitchen in the place of this one lets go that no document holds, in words; empty where nothing."""
    tables = [(_count(connection, "price_list") - len(_Recorded(connection, kitchen).kept), "lists that were read in")]
    tables += [(_count(connection, table), words) for table, words in _BESIDE]
    return ", ".join(f"{count} {words}" for count, words in tables if count)


def what_it_holds(connection: Connection) -> str:
    """The kitchen's name and how much is in it, in words; also where something of it cannot be understood."""
    row = connection.execute("SELECT name FROM kitchen").fetchone()
    name = NEW_KITCHEN.name if row is None else row[0]
    items, recipes, prices = (_count(connection, table) for table in ("item", "recipe", "offer"))
    return f"{name}: {items} items, {recipes} recipes, {prices} prices"


def _count(connection: Connection, table: str) -> int:
    row = connection.execute(sql.SQL("SELECT count(*) FROM {}").format(sql.Identifier(table))).fetchone()
    return 0 if row is None else int(row[0])


def save_settings(connection: Connection, name: str, currency: str, settings: Settings) -> None:
    """Write a kitchen's name, currency and settings."""
    ending = settings.price_ending
    step, cents = (None, None) if ending is None else (ending.step, ending.cents)
    values = [name, currency, step, None if cents is None else list(cents)]
    lids = settings.lid_factors
    values += [*(getattr(settings, name) for name in _SETTINGS[4:-6]), lids.off, lids.ajar, lids.on]
    overhead = settings.overhead
    values += [None] * 3 if overhead is None else [overhead.per_attended_hour, overhead.per_portion, overhead.share_of_sales]
    connection.execute("DELETE FROM kitchen")
    connection.execute(insert_into("kitchen", ", ".join(_SETTINGS)), values)
    save_pricings(connection, None, settings.pricings)
    save_channels(connection, settings.channels)


class _Recorded:
    """The recorded lists of the kitchen that is there whose every price and credit the new one holds too.

    They stay, so that the same invoice is still known as recorded; all other lists go.
    """

    def __init__(self, connection: Connection, kitchen: Kitchen) -> None:
        self.of: dict[tuple[str, str | None], int] = {}
        self.kept: list[int] = []
        new = {*map(_same_offer, kitchen.offers), *map(_same_credit, kitchen.credits)}
        recorded = "SELECT number FROM price_list WHERE state = 'recorded' ORDER BY number"
        for (number,) in connection.execute(recorded).fetchall():
            offers, credits_ = of_price_list(connection, number)
            # Of one that wrote nothing, nothing tells that the new kitchen knows it, nor its supplier.
            if (offers or credits_) and {*map(_same_offer, offers), *map(_same_credit, credits_)} <= new:
                self.kept.append(number)
                self.of |= {("offer", one.id): number for one in offers}
                self.of |= {("credit", one.id): number for one in credits_}

    def put_aside(self, connection: Connection) -> None:
        """Put the lists that stay aside, until the end of the transaction."""
        connection.execute("DROP TABLE IF EXISTS kept_list")
        connection.execute("CREATE TEMPORARY TABLE kept_list ON COMMIT DROP AS SELECT * FROM price_list WHERE false")
        connection.execute("INSERT INTO kept_list SELECT * FROM price_list WHERE number = ANY (%s)", [self.kept])

    def put_back(self, connection: Connection) -> None:
        """Put them into their place again."""
        connection.execute("INSERT INTO price_list OVERRIDING SYSTEM VALUE SELECT * FROM kept_list ORDER BY number")


def _same_offer(one: Offer) -> tuple[object, ...]:
    return "offer", one.id, one.item, one.supplier, one.pack, one.price, one.on


def _same_credit(one: Credit) -> tuple[object, ...]:
    return "credit", one.id, one.item, one.supplier, one.pack, one.amount, one.on


def insert_kitchen(connection: Connection, kitchen: Kitchen, by: str, *, replace: bool = False) -> None:
    """Write a whole kitchen into an empty database; NotEmpty where there is one, unless it is to be replaced."""
    there = not is_empty(connection)
    if there and not replace:
        english = "this database holds a kitchen already: export it first, then import with --replace to put this in its place"
        raise NotEmpty(say("kitchen_there", english))
    lists = _Recorded(connection, kitchen)
    lists.put_aside(connection)
    if there:
        connection.execute(_EMPTY)
    insert_suppliers(connection, kitchen.suppliers)
    lists.put_back(connection)
    insert_vessels(connection, kitchen.vessels)
    insert_items(connection, kitchen.items)
    save_settings(connection, kitchen.name, kitchen.currency, kitchen.settings)
    for number, offers in groupby(kitchen.offers, lambda offer: lists.of.get(("offer", offer.id))):
        insert_offers(connection, offers, by, number)
    for number, credits_ in groupby(kitchen.credits, lambda credit: lists.of.get(("credit", credit.id))):
        insert_credits(connection, credits_, by, number)
    insert_tests(connection, kitchen.tests, by)
    insert_recipes(connection, kitchen.recipes, by)
    insert_comparisons(connection, kitchen.comparisons)
    save_deals(connection, kitchen.deals)
