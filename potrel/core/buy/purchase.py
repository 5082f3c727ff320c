"""Purchase: the price of an item on a date."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Iterable
from dataclasses import replace
from datetime import date, timedelta
from decimal import Decimal

from potrel.core.buy.weights import inner_grams, measure_of
from potrel.core.errors import Lack
from potrel.core.frozen import dataclass
from potrel.core.kitchen.items import Item
from potrel.core.kitchen.kinds import ONE
from potrel.core.kitchen.supply import Offer
from potrel.core.numbers.arithmetic import Number
from potrel.core.numbers.formula import formula
from potrel.core.numbers.units import MeasureSystem, kind_of, of_count


@dataclass(frozen=True, slots=True)
class Price:
    """What one gram of an item costs on a date, and the offer that says so.

    `per_gram` is None where the pack of the offer has no weight yet; `lack` then says what is missing. `per_piece` is what one
    piece costs [money] of an item that is known by the piece only. `instead_of` is the preferred supplier, where that one has
    no offer in force and this is another's.
    """

    offer: Offer
    per_gram: Decimal | None
    drained_yield: Decimal | None = None
    lack: Lack | None = None
    instead_of: str | None = None
    per_piece: Decimal | None = None

    @property
    def of_one(self) -> Decimal | None:
        """What one gram costs, or one piece where only that is known [money]; None where neither is."""
        return self.per_piece if self.per_gram is None else self.per_gram


@formula("price of the pack / kilos in the pack")
def ap_price(price_of_the_pack: Number, kilos_in_the_pack: Number) -> Number:
    """The AP price [money/kg]; with grams for kilos, that of a gram."""
    return price_of_the_pack / kilos_in_the_pack


@formula("price of the pack / pieces in the pack")
def price_of_one(price_of_the_pack: Number, pieces_in_the_pack: Number) -> Number:
    """What one piece costs [money]."""
    return price_of_the_pack / pieces_in_the_pack


@formula("drained weight / net weight")
def drained_yield(drained_weight: Number, net_weight: Number) -> Number:
    """What is left of a can without its liquid."""
    return drained_weight / net_weight


def price_of(offer: Offer, item: Item, system: MeasureSystem) -> Price:
    """The AP price per gram [money/g] = price / mass of the pack, and the yield of draining: drained / net."""
    inner = inner_grams(offer.pack, item, system)
    if isinstance(inner, Lack):
        return Price(offer, None, None, inner)
    drained = None if offer.drained is None else drained_yield(offer.drained.grams(), inner)
    return Price(offer, ap_price(offer.price, inner * offer.pack.count), drained)


def standing(offers: Iterable[Offer]) -> list[Offer]:
    """The offers that hold: those that another corrects left out, and those taken back with what takes them back.

    A correction that was taken back lets what it corrected hold again.
    """
    offers = list(offers)
    taken_back = {offer.corrects for offer in offers if offer.withdrawn}
    corrected = {offer.corrects for offer in offers if offer.corrects is not None and offer.id not in taken_back}
    gone = (corrected | taken_back) - {None}
    if not gone:
        return offers
    return [offer for offer in offers if not offer.withdrawn and offer.id not in gone]


class History:
    """The offers of one item in the order of their dates, those that a later one corrects or takes back left out.

    `counted` is the unit of an item that is known by the piece only: each of its packs is so many, and one has no weight. It
    can be used beside the pot then (a roll with each portion), and in the pot as soon as one is weighed.
    """

    def __init__(self, item: Item, offers: Iterable[Offer], system: MeasureSystem) -> None:
        prices = [price_of(offer, item, system) for offer in standing(offers)]
        self.counted = _counted(item, prices)
        if self.counted is not None:
            prices = [replace(price, per_piece=of_one(price.offer)) for price in prices]
        self.prices = _in_order(prices)
        self._preferred = item.preferred_supplier
        self._tiers = [self.prices]
        if self._preferred is not None:
            self._tiers.insert(0, [price for price in self.prices if price.offer.supplier == self._preferred])
        self._days = [[price.offer.on for price in tier] for tier in self._tiers]
        self._known: dict[date, Price | None] = {}

    def on(self, day: date) -> Price | None:
        """The newest price in force on a day: the preferred supplier's if that one has any, else anybody's (and says so).

        On one day the last that a supplier recorded, and of several suppliers the cheapest. None before the first offer, and
        where all have ended.
        """
        if day not in self._known:
            self._known[day] = self._find(day)
        return self._known[day]

    def _find(self, day: date) -> Price | None:
        for tier, days in zip(self._tiers, self._days, strict=True):
            for price in reversed(tier[: bisect_right(days, day)]):
                if price.offer.until is None or day <= price.offer.until:
                    others = self._preferred is not None and price.offer.supplier != self._preferred
                    return replace(price, instead_of=self._preferred) if others else price
        return None

    def changed_on(self, day: date) -> date | None:
        """The last day up to `day` on which another price may have come into force: an offer began, or one had ended."""
        began = [price.offer.on for price in self.prices]
        ended = [price.offer.until + timedelta(days=1) for price in self.prices if price.offer.until is not None]
        return max((one for one in (*began, *ended) if one <= day), default=None)


def _counted(item: Item, prices: Iterable[Price]) -> str | None:
    units = {of_count(price.offer.pack.inner.unit) if price.lack is not None else None for price in prices}
    unit = units.pop() if len(units) == 1 else None
    return unit if unit is not None and kind_of(unit) == "count" and measure_of(item, unit) is None else None


def of_one(offer: Offer) -> Decimal:
    """What one piece of an offer costs [money], of a pack that is so many."""
    return price_of_one(offer.price, offer.pack.inner.amount * offer.pack.count)


def _in_order(recorded: list[Price]) -> list[Price]:
    """Prices by their day, and on one day so that the last one holds.

    Of one supplier that is the last recorded; between suppliers the cheapest, and one that is known over one that is not.
    """
    last = {(price.offer.on, price.offer.supplier): price for price in recorded}

    def place(price: Price) -> tuple[date, bool, Decimal, str]:
        of = last[price.offer.on, price.offer.supplier]
        return (price.offer.on, of.of_one is not None, -(ONE if of.of_one is None else of.of_one), of.offer.supplier)

    return sorted(recorded, key=place)
