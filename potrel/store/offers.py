"""Offers: append-only. A wrong one is corrected by a new one that names it."""

from __future__ import annotations

from collections.abc import Iterable

from potrel.core.kitchen import Offer
from potrel.store.database import Connection


def load_offers(connection: Connection, after: int = 0) -> tuple[Offer, ...]:
    """All offers whose number is over `after`, in the order in which they were recorded."""
    rows = connection.execute(
        "SELECT item, supplier, pack, price, valid_from, drained, id, corrects, valid_until FROM offer"
        " WHERE number > %s ORDER BY number",
        [after],
    )
    return tuple(Offer(*row) for row in rows)


def insert_offers(connection: Connection, offers: Iterable[Offer], by: str) -> list[Offer]:
    """Record offers; each without an id is given the next free one. Returns them as recorded."""
    recorded: list[Offer] = []
    with connection.cursor() as cursor:
        for offer in offers:
            cursor.execute(
                "INSERT INTO offer (id, item, supplier, pack, price, valid_from, drained, corrects, valid_until, recorded_by)"
                " VALUES (coalesce(%s, 'o-' || (SELECT coalesce(max(number), 0) + 1 FROM offer)),"
                " %s, %s, %s, %s, %s, %s, %s, %s, %s)"
                " RETURNING item, supplier, pack, price, valid_from, drained, id, corrects, valid_until",
                [offer.id, offer.item, offer.supplier, offer.pack, offer.price, offer.on, offer.drained, offer.corrects,
                 offer.until, by],
            )  # fmt: skip
            row = cursor.fetchone()
            if row is not None:
                recorded.append(Offer(*row))
    return recorded
