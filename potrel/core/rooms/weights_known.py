"""What is known already of the weight of one, for somebody who is asked for it: nothing here answers for them."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import date
from decimal import Decimal

from potrel.core.buy.weights import COUNTED, measure_of
from potrel.core.frozen import dataclass
from potrel.core.kitchen.items import AnyMeasure, Item, Measure
from potrel.core.kitchen.kinds import Name, plain
from potrel.core.kitchen.quantities import parse_quantity
from potrel.core.kitchen.supply import Offer
from potrel.core.numbers.units import of_count
from potrel.core.pot.day_view import DayView
from potrel.core.trim.shelf import known_of

# A piece of a delivery that is so many times heavier or lighter than those of the shelf is a bag of many. Common practice.
_TOO_FAR = Decimal(3)


@dataclass(frozen=True, slots=True)
class KnownWeight:
    """What one may weigh, and who says so; of a delivery with its day, and then the measure has no source: it was weighed."""

    measure: AnyMeasure
    said_by: Name
    on: date | None = None


def weights_known(item: Item, unit: str, view: DayView) -> tuple[KnownWeight, ...]:
    """What one of a canonical unit may weigh: by the last delivery whose pieces were counted and weighed, then by the shelf."""
    on_shelf = known_of(item)
    lent = None if on_shelf is None else measure_of(on_shelf.item, unit)
    found = [] if of_count(unit) not in COUNTED else list(_delivered(item, lent, view))[:1]
    if lent is not None and lent.source is not None:
        found.append(KnownWeight(lent, lent.source))
    return tuple(found)


def _delivered(item: Item, lent: Measure | None, view: DayView) -> Iterator[KnownWeight]:
    """The pieces of deliveries, the last one first: each container of a pack is one, where it may be by its weight."""
    for price in reversed(view.history(item).prices):
        offer = price.offer
        if offer.on <= view.on and offer.pack.inner.kind == "mass" and _may_be_a_piece(offer, lent):
            inner = offer.pack.inner
            one = Measure(parse_quantity(f"{plain(inner.amount)} {inner.unit}"))
            yield KnownWeight(one, f"{offer.pack} from {view.supplier_name(offer.supplier)}"[:200], offer.on)


def _may_be_a_piece(offer: Offer, lent: Measure | None) -> bool:
    if lent is None:
        return offer.pack.count > 1
    times = offer.pack.inner.grams() / lent.grams()
    return 1 / _TOO_FAR <= times <= _TOO_FAR
