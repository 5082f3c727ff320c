"""What was really paid for an item: its deliveries, less the credits for them."""

from __future__ import annotations

from collections.abc import Iterable
from decimal import Decimal

from potrel.core.buy.purchase import standing
from potrel.core.buy.weights import pack_grams
from potrel.core.errors import Lack
from potrel.core.frozen import dataclass
from potrel.core.kitchen.items import Item
from potrel.core.kitchen.kinds import ZERO, Computed
from potrel.core.kitchen.quantities import Pack
from potrel.core.kitchen.supply import Credit, Offer
from potrel.core.numbers.units import MeasureSystem

_THOUSAND = Decimal(1000)


@dataclass(frozen=True, slots=True)
class Paid:
    """So many deliveries and credits of an item: kilos kept, money paid [net], and the mean price [money/kg].

    The mean is None where nothing was kept, or where a pack has no weight yet.
    """

    deliveries: int
    credits: int
    kg: Computed | None
    money: Computed
    per_kg: Computed | None


def paid_for(item: Item, offers: Iterable[Offer], credits_: Iterable[Credit], system: MeasureSystem) -> Paid | None:
    """What an item cost over all its deliveries, by its offers and credits; None where it has no delivery.

    The mean is (money - credits) / (kilos - those that went back).
    """
    kept = [(one, one.delivered) for one in standing(offers) if one.delivered is not None]
    back = standing_credits(credits_)
    if not kept and not back:
        return None
    money = sum((one.price * packs for one, packs in kept), ZERO) - sum((one.amount for one in back), ZERO)
    packs = [(one.pack, packs) for one, packs in kept] + [(one.pack, -one.packs) for one in back if one.goods_back]
    kg = _kilos(item, packs, system)
    return Paid(len(kept), len(back), kg, money, money / kg if kg is not None and kg > 0 else None)


def _kilos(item: Item, packs: Iterable[tuple[Pack, Decimal]], system: MeasureSystem) -> Decimal | None:
    """The weight [kg] of so many packs; None where one of them has no weight yet."""
    grams = ZERO
    for pack, count in packs:
        each = pack_grams(pack, item, system)
        if isinstance(each, Lack):
            return None
        grams += each * count
    return grams / _THOUSAND


def standing_credits(credits_: Iterable[Credit]) -> list[Credit]:
    """The credits that hold: those taken back left out, with what takes them back."""
    credits_ = list(credits_)
    gone = {credit.withdraws for credit in credits_ if credit.withdraws is not None}
    return [credit for credit in credits_ if credit.withdraws is None and credit.id not in gone]
