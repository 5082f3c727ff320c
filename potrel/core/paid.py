"""What was really paid for an item: its deliveries, less the credits for them."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from decimal import Decimal

from potrel.core.facts import Facts
from potrel.core.fields import ZERO, Computed
from potrel.core.kitchen import Item
from potrel.core.part import Part
from potrel.core.purchase import MissingWeight, pack_grams, standing
from potrel.core.supply import Credit

_THOUSAND = Decimal(1000)


@dataclass(frozen=True, slots=True)
class Paid(Part):
    """So many deliveries and credits of an item: kilos kept, money paid [net], and the mean price [money/kg].

    The mean is None where nothing was kept, or where a pack has no weight yet.
    """

    deliveries: int
    credits: int
    kg: Computed | None
    money: Computed
    per_kg: Computed | None


def paid_for(facts: Facts, item: Item) -> Paid | None:
    """What an item cost over all its deliveries; None where it has none.

    The mean is (money - credits) / (kilos - those that went back).
    """
    deliveries = [offer for offer in standing(facts.offers_of(item.id)) if offer.delivered is not None]
    credits_ = standing_credits(credit for credit in facts.kitchen.credits if credit.item == item.id)
    if not deliveries and not credits_:
        return None
    money = sum((one.price * (one.delivered or ZERO) for one in deliveries), ZERO)
    money -= sum((one.amount for one in credits_), ZERO)
    try:
        grams = sum((pack_grams(one.pack, item, facts.system) * (one.delivered or ZERO) for one in deliveries), ZERO)
        grams -= sum((pack_grams(one.pack, item, facts.system) * one.packs for one in credits_ if one.goods_back), ZERO)
    except MissingWeight:
        return Paid(len(deliveries), len(credits_), None, money, None)
    kg = grams / _THOUSAND
    return Paid(len(deliveries), len(credits_), kg, money, money / kg if kg > 0 else None)


def standing_credits(credits_: Iterable[Credit]) -> list[Credit]:
    """The credits that hold: those taken back left out, with what takes them back."""
    credits_ = list(credits_)
    gone = {credit.withdraws for credit in credits_ if credit.withdraws is not None}
    return [credit for credit in credits_ if credit.withdraws is None and credit.id not in gone]
