"""Routes of invoices of paper: what the rows are, and recording all of them together."""

from __future__ import annotations

from dataclasses import dataclass

from fastapi import APIRouter
from starlette.responses import Response

from potrel.api.answers import reply
from potrel.api.dependencies import Actor, InKitchen
from potrel.api.problems import described
from potrel.core.cost.effects import Effect
from potrel.core.kitchen.kinds import Computed
from potrel.core.rooms.invoice import UnderstoodRow
from potrel.doing import paper
from potrel.doing.paper import TypedInvoice, understood_invoice

router = APIRouter(prefix="/api", tags=["items"])


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


@router.post("/typed-invoice", response_model=InvoiceReply, responses=described(400, 422))
def read_invoice(typed: TypedInvoice, kitchens: InKitchen) -> Response:
    """What the rows of an invoice are, and what they do. Nothing is recorded."""
    found = understood_invoice(typed, kitchens.costing())
    called = None if found.supplier is None else found.supplier.name
    answer = InvoiceReply(
        found.rows, called, found.is_new_supplier, found.effects, found.total, found.open, len(found.offers)
    )  # fmt: skip
    return reply(InvoiceReply, answer)


@router.post("/typed-invoice/record", response_model=InvoiceRecorded, status_code=201, responses=described(400, 409, 422))
def record_invoice(typed: TypedInvoice, kitchens: InKitchen, actor: Actor) -> Response:
    """Record all prices of an invoice, or none."""
    return reply(InvoiceRecorded, InvoiceRecorded(paper.record_invoice(kitchens, typed, actor)), 201)
