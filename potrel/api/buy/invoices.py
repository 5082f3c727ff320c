"""Routes of invoices of paper: what the rows are, and recording all of them together."""

from __future__ import annotations

from dataclasses import dataclass

from fastapi import APIRouter
from starlette.responses import Response

from potrel.api.answers import reply
from potrel.api.dependencies import Actor, InKitchen
from potrel.api.problems import described
from potrel.core.cost.costing import Costing
from potrel.core.cost.effects import Effect, with_prices
from potrel.core.errors import BadDocument
from potrel.core.kitchen.keyed import Keyed
from potrel.core.kitchen.kinds import Cell, Computed, On
from potrel.core.rooms.invoice import Invoice, InvoiceRow, UnderstoodRow, understand_invoice
from potrel.core.rooms.target_alerts import pushed_past
from potrel.core.sentences import say
from potrel.store.changes import read_version
from potrel.store.offers import insert_offers
from potrel.store.pushed import mark_pushed
from potrel.store.suppliers import insert_suppliers

router = APIRouter(prefix="/api", tags=["items"])
_MOST_ROWS = 200


@dataclass(frozen=True, slots=True)
class TypedInvoice(Keyed):
    """An invoice as it is typed off paper: whose (a supplier's id or name), of what day, and its rows."""

    supplier: Cell
    on: On
    rows: tuple[InvoiceRow, ...]


@dataclass(frozen=True, slots=True)
class InvoiceReply:
    """An invoice as it was understood; `open` rows have to be looked at before it can be recorded."""

    rows: list[UnderstoodRow]
    supplier: str | None
    is_new_supplier: bool
    effects: list[Effect]
    total: Computed
    open: int
    ready: int


@dataclass(frozen=True, slots=True)
class InvoiceRecorded:
    """How many prices were recorded."""

    prices: int


def _understood(typed: TypedInvoice, costing: Costing) -> Invoice:
    if len(typed.rows) > _MOST_ROWS:
        english = "an invoice has at most {most} rows: record it in two parts"
        raise BadDocument("rows", say("invoice_too_long", english, most=_MOST_ROWS))
    return understand_invoice(costing, typed.supplier, typed.on, typed.rows)


@router.post("/typed-invoice", response_model=InvoiceReply, responses=described(400, 422))
def read_invoice(typed: TypedInvoice, kitchens: InKitchen) -> Response:
    """What the rows of an invoice are, and what they do. Nothing is recorded."""
    found = _understood(typed, kitchens.costing())
    called = None if found.supplier is None else found.supplier.name
    answer = InvoiceReply(
        found.rows, called, found.is_new_supplier, found.effects, found.total, found.open, len(found.offers)
    )  # fmt: skip
    return reply(InvoiceReply, answer)


@router.post("/typed-invoice/record", response_model=InvoiceRecorded, status_code=201, responses=described(400, 409, 422))
def record_invoice(typed: TypedInvoice, kitchens: InKitchen, actor: Actor) -> Response:
    """Record all prices of an invoice, or none."""
    with kitchens.database.writing(actor) as connection:
        before = kitchens.seen_by(connection)
        found = _understood(typed, before.costing)
        if found.supplier is None:
            raise BadDocument("supplier", say("invoice_of_whom", "say whose invoice it is"))
        for place, row in enumerate(found.rows):
            wrong = row.problem or next(iter(row.doubts), None)
            if wrong is not None:
                raise BadDocument(f"rows[{place}]", say("row_open", "{problem}", problem=wrong))
        if not found.offers:
            raise BadDocument("rows", say("invoice_empty", "no row of it has an item and a price yet"))
        if found.is_new_supplier:
            insert_suppliers(connection, [found.supplier])
        recorded = insert_offers(connection, found.offers, actor)
        after, effects = with_prices(before.costing, recorded)
        mark_pushed(connection, pushed_past(effects), f"invoice of {found.supplier.name}", [one.id or "" for one in recorded])
        version = read_version(connection)
    # A new supplier is no part of what a costing can take over: the kitchen is read anew then.
    if not found.is_new_supplier:
        kitchens.adopt(before, version, after)
    return reply(InvoiceRecorded, InvoiceRecorded(len(recorded)), 201)
