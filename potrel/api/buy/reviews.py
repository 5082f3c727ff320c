"""A list under review, as the screen shows it."""

from __future__ import annotations

from decimal import Decimal

from potrel.api.buy.list_replies import ListRow, ReviewReply
from potrel.core.buy.price_list import PriceList
from potrel.core.kitchen.kinds import ZERO, plain
from potrel.core.numbers.rounding import half_even
from potrel.core.rooms.review import WAITING
from potrel.doing.reviews import Reading, Reviews, listed
from potrel.store.price_lists import StoredList

_MOST_EFFECTS = 200
# Each line of an invoice may be rounded by half a cent.
_ROUNDED_BY = Decimal("0.005")


def row_of(stored: StoredList) -> ListRow:
    """A stored list without its bytes and choices."""
    return ListRow(
        stored.number, stored.file_name, stored.kind, stored.document, stored.supplier, stored.state, stored.read_at,
        stored.read_by, stored.settled_at, stored.settled_by, stored.prices,
    )  # fmt: skip


def review_reply(reviews: Reviews, reading: Reading, show: str, find: str, start: int, limit: int) -> ReviewReply:
    """The review as the screen shows it: a stretch of the lines that are to show, found by words."""
    words = find.casefold().split()
    lines = [
        line for line in reading.reviewed.lines
        if (show in ("all", line.state) or (show == "open" and line.state in WAITING))
        and all(word in f"{line.text} {line.name or ''} {line.code or ''}".casefold() for word in words)
    ]  # fmt: skip
    of, effects = reading.understood.of, reading.effects
    blocked = reviews.blocked(reading)
    return ReviewReply(
        row=row_of(reading.stored), seen=reading.seen, on=of.on, currency=of.currency,
        said_supplier=of.supplier or _named_above(reading),
        refers_to=of.refers_to, counts=reading.reviewed.counts, total=len(reading.reviewed.lines),
        writes=len(reading.reviewed.offers) + len(reading.reviewed.credits),
        blocked=None if blocked is None else blocked.english,
        notes=_notes(of), columns=of.columns, heads=list(of.heads), sample=[list(row) for row in of.sample],
        head_row=of.head_row, delimiter=of.delimiter, sheets=list(of.sheets),
        missing=list(of.missing), effects=effects[:_MOST_EFFECTS], effects_found=len(effects),
        lines=lines[start : start + limit], found=len(lines),
    )  # fmt: skip


def _named_above(reading: Reading) -> str | None:
    """Whom a letterhead names, who is not this kitchen itself."""
    ours = reading.before.view.kitchen.name.casefold()
    return next((name for name in reading.understood.of.letterhead if name.casefold() != ours), None)


def _notes(of: PriceList) -> list[str]:
    notes: list[str] = []
    if len(of.sheets) > 1 and "sheet" not in of.missing:
        others = [sheet for sheet in of.sheets if sheet not in of.sheets_read]
        besides = f"; not read: {listed(others)}" if others else ""
        notes.append(f"read from it: {listed(of.sheets_read)}{besides}")
    if of.reckoned:
        notes.append("formulas reckon its values: what is read here is what they came to when it was last saved")
    if of.total is not None:
        priced = [(line.price, line.quantity) for line in of.lines if line.price is not None and line.quantity is not None]
        lines = sum((price * quantity for price, quantity in priced), ZERO)
        if abs(lines - of.total) > _ROUNDED_BY * (len(of.lines) + 1):
            notes.append(f"its lines add up to {plain(half_even(lines, 2))}, but it says {plain(of.total)} itself")
    if of.kind == "credit_note" and of.refers_to:
        notes.append(f"it credits invoice {of.refers_to}")
    if of.kind == "credit_note":
        notes.append("a credit lowers what was paid; it makes no price")
    return notes
