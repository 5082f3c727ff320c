"""An invoice of paper, row by row: what each row is, what is odd about its price, and what all of them do together."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from datetime import date
from decimal import Decimal

from potrel.core.buy.price_doubts import price_doubts
from potrel.core.buy.purchase import price_of
from potrel.core.buy.typed_price import check_offer, pack_typed, price_typed, supplier_called
from potrel.core.cost.costing import Costing
from potrel.core.cost.effects import Effect, with_prices
from potrel.core.errors import PotrelError
from potrel.core.frozen import dataclass
from potrel.core.kitchen.integrity import known_units
from potrel.core.kitchen.items import Item
from potrel.core.kitchen.keyed import Keyed
from potrel.core.kitchen.kinds import Cell, Computed, Flag, Id, Name
from potrel.core.kitchen.naming import fit, words_in
from potrel.core.kitchen.supply import Offer, Supplier
from potrel.core.sentences import say
from potrel.core.words.meant import Candidate, suggest

_PER_KILO = Decimal(1000)


@dataclass(frozen=True, slots=True)
class InvoiceRow(Keyed):
    """A row as it was typed. `item` says what the name means, where that was asked; `sure` that an odd price is right."""

    name: Cell = ""
    pack: Cell = ""
    price: Cell = ""
    item: Id | None = None
    sure: Flag = False


@dataclass(frozen=True, slots=True)
class UnderstoodRow:
    """A row as it was understood: its item, what a kilo cost before and costs now, and what has to be looked at first.

    `last_pack` is the pack in which it was bought before; `is_unknown` tells that its name names nothing here,
    `needs_weight` of which unit the item has no weight yet. A row without a word or a number is empty, and no matter.
    """

    item: Id | None
    called: Name | None
    is_unknown: bool
    is_empty: bool
    problem: str | None
    candidates: tuple[Candidate, ...]
    doubts: list[str]
    last_pack: str
    per_kg_was: Computed | None
    per_kg_now: Computed | None
    needs_weight: str | None = None


@dataclass(frozen=True, slots=True)
class Invoice:
    """All rows, what they do together, what they add up to, and what would be recorded."""

    rows: list[UnderstoodRow]
    supplier: Supplier | None
    is_new_supplier: bool
    offers: list[Offer]
    effects: list[Effect]
    total: Decimal

    @property
    def open(self) -> int:
        """How many rows have to be looked at before anything is recorded."""
        return sum(row.problem is not None or bool(row.doubts) for row in self.rows)


def understand_invoice(costing: Costing, supplier: str, on: date, rows: Sequence[InvoiceRow]) -> Invoice:
    """What the rows of an invoice of a supplier (by its id or its name) are."""
    known = supplier_called(supplier, costing.view.kitchen.suppliers)
    units = known_units(costing.view.kitchen.items)
    understood: list[UnderstoodRow] = []
    offers: list[Offer] = []
    for row in rows:
        found, offer = _row(costing, row, "" if known is None else known.id, on, units)
        understood.append(found)
        if offer is not None:
            offers.append(offer)
    effects = with_prices(costing, offers)[1] if offers else []
    total = sum((offer.price for offer in offers), Decimal(0))
    is_new = known is not None and known.id not in costing.view.suppliers
    return Invoice(understood, known, is_new, offers, effects, total)


def _row(
    costing: Costing, row: InvoiceRow, supplier: str, on: date, units: Collection[str]
) -> tuple[UnderstoodRow, Offer | None]:
    if not (row.name.strip() or row.pack.strip() or row.price.strip()):
        return UnderstoodRow(None, None, False, True, None, (), [], "", None, None), None
    view = costing.view
    item, fits = _item(costing, row)
    if item is None:
        candidates = tuple(Candidate(one.id, one.name, "item") for one in fits) or tuple(
            one for one in suggest(row.name, view) if one.kind == "item"
        )
        english = '"{name}" can be several things: which?' if fits else 'nothing here is called "{name}"'
        said = say("row_is_which" if fits else "row_is_nothing", english, name=row.name.strip()[:80])
        return UnderstoodRow(None, None, not fits, False, said.english, candidates, [], "", None, None), None
    price = view.price(item.id)
    last = "" if price is None else price.offer.pack.text
    was = None if price is None or price.per_gram is None else price.per_gram * _PER_KILO
    try:
        offer = Offer(item.id, supplier, pack_typed(row.pack.strip() or last or "1 kg", units), price_typed(row.price), on)
        check_offer(offer, item, view.system, units)
    except PotrelError as error:
        wrong = error.said.english if row.price.strip() else "its price is not written yet"
        return UnderstoodRow(item.id, item.name, False, False, wrong, (), [], last, was, None), None
    now = price_of(offer, item, view.system)
    lacks = [] if now.lack is None else [now.lack.said]
    doubts = [] if row.sure else [one.english for one in (*lacks, *price_doubts(price, now))]
    per_kg = None if now.per_gram is None else now.per_gram * _PER_KILO
    unit = None if now.lack is None else now.lack.unit
    return UnderstoodRow(item.id, item.name, False, False, None, (), doubts, last, was, per_kg, unit), offer


def _item(costing: Costing, row: InvoiceRow) -> tuple[Item | None, list[Item]]:
    """The item of a row, or all that it may be."""
    if row.item is not None:
        return costing.view.items.get(row.item), []
    words = words_in(row.name)
    found = [(how.untyped, item) for item in costing.view.items.values() if (how := fit(words, item.name)) and not how.left]
    found = [one for one in found if not one[1].archived] or found
    exact = [item for untyped, item in found if untyped == 0]
    best = exact or [item for _, item in found]
    return (best[0], []) if len(best) == 1 else (None, best)
