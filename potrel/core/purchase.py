"""Purchase: packs, the weight of a quantity of an item, and the price of an item on a date."""

from __future__ import annotations

import re
from bisect import bisect_right
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, timedelta
from decimal import Decimal
from functools import lru_cache

from potrel.core.errors import BadDocument, BadQuantity, PotrelError
from potrel.core.kitchen import Item
from potrel.core.quantities import Quantity, parse_quantity
from potrel.core.supply import Offer
from potrel.core.units import MeasureSystem, canonical, is_known_count

_TIMES = re.compile(r"\s*[x×*]\s*", re.IGNORECASE)


class MissingWeight(PotrelError):
    """A quantity that cannot become a mass because the item lacks a density or the weight of a unit."""

    def __init__(self, item: Item, unit: str, needs: str) -> None:
        self.item, self.unit = item.id, unit
        super().__init__(f"{item.name} {needs}")


@dataclass(frozen=True, slots=True)
class Pack:
    """`count` inner containers of `inner` each."""

    count: Decimal
    inner: Quantity


@lru_cache(maxsize=4096)
def parse_pack(text: str) -> Pack:
    """The pack that a text spells: `N x M x Q U` or `Q U`.

    >>> parse_pack("6 x 2.5 kg")
    Pack(count=Decimal('6'), inner=Quantity(amount=Decimal('2.5'), unit='kg'))
    """
    *outer, inner_text = _TIMES.split(text.strip())
    inner = parse_quantity(inner_text)
    count = Decimal(1)
    for part in outer:
        if not re.fullmatch(r"[0-9]{1,5}", part) or Decimal(part) == 0:
            raise BadQuantity(text, 'write a pack as "10 kg", "6 x 2.5 kg" or "12 each"')
        count *= Decimal(part)
    if inner.amount <= 0:
        raise BadQuantity(text, "a pack holds more than nothing")
    return Pack(count, inner)


def weigh(quantity: Quantity, item: Item, system: MeasureSystem) -> Decimal:
    """The mass [g] of a quantity of an item; MissingWeight where the item lacks the fact it takes.

    A measure of the item wins over its density where both fit.
    """
    measure = _measure(item, quantity.unit)
    if measure is not None:
        return quantity.amount * measure
    if quantity.kind == "mass":
        return quantity.grams()
    if quantity.kind == "volume":
        if item.density is None:
            needs = f"has no density, so 1 {quantity.unit} of it has no weight: weigh one and add it to its measures"
            raise MissingWeight(item, quantity.unit, needs)
        return quantity.millilitres(system) * item.density
    raise MissingWeight(
        item, quantity.unit, f"has no weight for 1 {quantity.unit}: weigh one and add it to {item.name}'s measures"
    )


def _measure(item: Item, unit: str) -> Decimal | None:
    """The weight [g] of one of a unit, as it is noted with the item; None where it is not."""
    noted = (mass for spelling, mass in item.measures.items() if canonical(spelling) == unit)
    return next((parse_quantity(mass).grams() for mass in noted), None)


@dataclass(frozen=True, slots=True)
class Price:
    """What one gram of an item costs on a date, and the offer that says so.

    `per_gram` is None where the pack of the offer has no weight yet; `lack` then says what is missing.
    """

    offer: Offer
    per_gram: Decimal | None
    drained_yield: Decimal | None = None
    lack: MissingWeight | None = None


def pack_grams(pack: str, item: Item, system: MeasureSystem) -> Decimal:
    """The mass [g] of a whole pack of an item; MissingWeight where the item lacks the fact it takes."""
    parsed = parse_pack(pack)
    return weigh(parsed.inner, item, system) * parsed.count


def price_of(offer: Offer, item: Item, system: MeasureSystem) -> Price:
    """The AP price per gram [money/g] = price / mass of the pack, and the yield of draining: drained / net."""
    pack = parse_pack(offer.pack)
    try:
        inner = weigh(pack.inner, item, system)
    except MissingWeight as lack:
        return Price(offer, None, None, lack)
    drained = None if offer.drained is None else parse_quantity(offer.drained).grams() / inner
    return Price(offer, offer.price / (inner * pack.count), drained)


def standing(offers: Iterable[Offer]) -> list[Offer]:
    """The offers that hold: those that another corrects left out, and those taken back with what takes them back.

    A correction that was taken back lets what it corrected hold again.
    """
    offers = list(offers)
    taken_back = {offer.corrects for offer in offers if offer.withdrawn}
    corrected = {offer.corrects for offer in offers if offer.corrects is not None and offer.id not in taken_back}
    gone = (corrected | taken_back) - {None}
    return [offer for offer in offers if not offer.withdrawn and offer.id not in gone]


class History:
    """The offers of one item in the order of their dates, those that a later one corrects or takes back left out."""

    def __init__(self, item: Item, offers: Iterable[Offer], system: MeasureSystem) -> None:
        self.prices = sorted((price_of(offer, item, system) for offer in standing(offers)), key=_by_day_then_dearest)
        preferred = item.preferred_supplier
        self._tiers = [self.prices]
        if preferred is not None:
            self._tiers.insert(0, [price for price in self.prices if price.offer.supplier == preferred])
        self._days = [[price.offer.on for price in tier] for tier in self._tiers]
        self._known: dict[date, Price | None] = {}

    def on(self, day: date) -> Price | None:
        """The newest price in force on a day: the preferred supplier's if that one has any, else anybody's.

        The cheapest of its day on a tie. None before the first offer, and where all have ended.
        """
        if day not in self._known:
            self._known[day] = self._find(day)
        return self._known[day]

    def _find(self, day: date) -> Price | None:
        for tier, days in zip(self._tiers, self._days, strict=True):
            for price in reversed(tier[: bisect_right(days, day)]):
                if price.offer.until is None or day <= price.offer.until:
                    return price
        return None

    def changed_on(self, day: date) -> date | None:
        """The last day up to `day` on which another price may have come into force: an offer began, or one had ended."""
        began = [price.offer.on for price in self.prices]
        ended = [price.offer.until + timedelta(days=1) for price in self.prices if price.offer.until is not None]
        return max((one for one in (*began, *ended) if one <= day), default=None)


def _by_day_then_dearest(price: Price) -> tuple[date, bool, Decimal]:
    # The last of a day wins: a price that is known over one that is not, and then the cheapest.
    known = price.per_gram is not None
    return (price.offer.on, known, -(price.per_gram or Decimal(0)))


def known_units(items: Iterable[Item]) -> set[str]:
    """The count units that some item of the kitchen gives a weight."""
    return {parse_quantity(f"1 {unit}").unit for item in items for unit in item.measures}


def refuse_unknown_unit(text: str, units: set[str]) -> None:
    """BadDocument where a quantity has a count unit that nobody would know."""
    quantity = parse_quantity(text)
    if quantity.kind == "count" and quantity.unit not in units and not is_known_count(quantity.unit):
        raise BadDocument(
            "", f'"{text}": unknown unit "{quantity.unit}"; use kg, l, each, bunch, … or weigh one and add it as a measure'
        )
