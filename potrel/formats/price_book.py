"""The price book going out: every item with its price in force and its usable kilos, as CSV and as XLSX."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterator
from dataclasses import astuple, dataclass, fields
from datetime import date
from decimal import Decimal

from potrel.core.cost.costing import Costing
from potrel.core.cost.usable_kilo import usable_kilo
from potrel.core.kitchen.items import Item
from potrel.core.kitchen.kinds import rounded
from potrel.formats.sheets import as_cell, workbook

_WIDTHS = {"name": 28, "supplier": 22, "preparation": 24, "source": 30}


@dataclass(frozen=True, slots=True)
class PriceBookRow:
    """An item, or one preparation of it. Money per kilo, net of tax; empty where it is not known."""

    item: str
    name: str
    kind: str
    supplier: str
    pack: str
    price: Decimal | None
    currency: str
    since: date | None
    until: date | None
    price_per_kg: Decimal | None
    preparation: str
    yield_: Decimal | None
    source: str
    usable_per_kg: Decimal | None
    allergens: str


COLUMNS = tuple(field.name.rstrip("_") for field in fields(PriceBookRow))


def price_book(costing: Costing) -> Iterator[PriceBookRow]:
    """The rows of the price book on the day of a costing, by name: one for each item as bought, then its preparations."""
    for item in sorted(costing.view.kitchen.items, key=lambda one: one.name.casefold()):
        yield _row(costing, item, None)
        for preparation in item.preparations:
            yield _row(costing, item, preparation.id)


def _row(costing: Costing, item: Item, preparation_id: str | None) -> PriceBookRow:
    view = costing.view
    price, per_kg = view.price(item.id), view.per_kg(item.id)
    offer = None if price is None else price.offer
    step = None if preparation_id is None else view.preparation(item, preparation_id)
    return PriceBookRow(
        item=item.id,
        name=item.name,
        kind=item.kind,
        supplier="" if offer is None else view.supplier_name(offer.supplier),
        pack="" if offer is None else offer.pack.text,
        price=None if offer is None else offer.price,
        currency=view.kitchen.currency,
        since=None if offer is None else offer.on,
        until=None if offer is None else offer.until,
        price_per_kg=per_kg,
        preparation="" if step is None else step.name,
        yield_=None if step is None else step.yield_,
        source="" if step is None else step.source or "",
        usable_per_kg=None if step is None else usable_kilo(view, item, step),
        allergens=", ".join(item.allergens),
    )


def price_book_csv(costing: Costing) -> str:
    """The price book as CSV: a header, then a line a row; texts that a spreadsheet might run as formulas are quoted."""
    text = io.StringIO()
    writer = csv.writer(text)
    writer.writerow(COLUMNS)
    for row in price_book(costing):
        writer.writerow([as_cell(value, rounded) for value in astuple(row)])
    return text.getvalue()


def price_book_xlsx(costing: Costing) -> bytes:
    """The price book as an XLSX workbook: typed cells, a header that stays in sight, nothing that runs."""
    rows = (astuple(row) for row in price_book(costing))
    return workbook("Price book", COLUMNS, rows, widths=_WIDTHS, frozen_columns=2, plain_numbers=("yield",))
