"""All offers of a kitchen as a table, CSV or XLSX, and back: a round trip loses nothing."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable
from datetime import date
from decimal import Decimal

from potrel.core.errors import BadDocument
from potrel.core.kitchen.kinds import as_written
from potrel.core.kitchen.supply import Offer
from potrel.core.sentences import say
from potrel.formats.kitchen_json import part_from
from potrel.formats.sheets import as_cell, from_cell, workbook
from potrel.formats.tables import Rows, csv_rows, delimiter_of, xlsx_rows
from potrel.formats.upload import kind_of_file, text_of

COLUMNS = (
    "id", "item", "supplier", "pack", "price", "on", "until", "drained", "code", "gtin", "source", "delivered", "corrects",
    "withdrawn",
)  # fmt: skip
_WIDTHS = {"item": 18, "supplier": 16, "pack": 14, "source": 22}


def _cells(offer: Offer) -> list[str | Decimal | date | None]:
    return [
        offer.id, offer.item, offer.supplier, offer.pack.text, offer.price, offer.on, offer.until,
        None if offer.drained is None else offer.drained.text, offer.code,
        offer.gtin, offer.source, offer.delivered, offer.corrects, "yes" if offer.withdrawn else None,
    ]  # fmt: skip


def offers_csv(offers: Iterable[Offer]) -> str:
    """Offers as CSV: a header, then a line an offer, amounts with all their digits."""
    text = io.StringIO()
    writer = csv.writer(text)
    writer.writerow(COLUMNS)
    for offer in offers:
        writer.writerow([as_cell(value, as_written) for value in _cells(offer)])
    return text.getvalue()


def offers_xlsx(offers: Iterable[Offer]) -> bytes:
    """Offers as a workbook. A price stands there as a number; its exact digits stand beside it, as text."""
    rows = [[*_cells(offer), as_written(offer.price)] for offer in offers]
    return workbook("Offers", (*COLUMNS, "price as written"), rows, widths=_WIDTHS, frozen_columns=2)


def read_offers(data: bytes) -> tuple[Offer, ...]:
    """The offers in such a table; BadDocument says in which row and column something is wrong."""
    rows = xlsx_rows(data) if kind_of_file(data) == "xlsx" else [[*map(from_cell, row)] for row in _csv_rows(text_of(data))]
    heads = rows[0]
    missing = [name for name in ("item", "supplier", "pack", "price", "on") if name not in heads]
    if missing:
        english = "the heads {missing} are missing: is this a table of offers?"
        raise BadDocument("row 1", say("heads_missing", english, missing=", ".join(missing)))
    return tuple(_offer(heads, rows, place) for place in range(1, len(rows)) if any(rows[place]))


def _csv_rows(text: str) -> Rows:
    return csv_rows(text, delimiter_of(text))


def _offer(heads: list[str], rows: Rows, place: int) -> Offer:
    row = {head: cell for head, cell in zip(heads, rows[place], strict=False) if cell}
    row["price"] = row.pop("price as written", row.get("price", ""))
    plain: dict[str, object] = {name: row[name] for name in COLUMNS if row.get(name)}
    return offer_from(plain, f"row {place + 1}")


def offer_from(plain: dict[str, object], where: str) -> Offer:
    """An offer from its texts, as both kinds of file tell them; BadDocument with the place where they do not make one."""
    if "withdrawn" in plain:
        plain["withdrawn"] = plain["withdrawn"] == "yes"
    try:
        offer: Offer = part_from(Offer, plain)
    except BadDocument as error:
        raise BadDocument(where, error.said) from None
    return offer
