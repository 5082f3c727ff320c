"""What a usable kilo of something costs: as bought, trimmed or cooked."""

from __future__ import annotations

from decimal import Decimal

from potrel.core.kitchen.items import Cooking, Entry, Item, Preparation
from potrel.core.kitchen.kinds import ONE, ZERO
from potrel.core.numbers.arithmetic import Number
from potrel.core.numbers.formula import formula
from potrel.core.pot.day_view import DayView
from potrel.core.trim.byproducts import Trimmed, stated, trimmed

_A_KILO = Decimal(1000)


@formula("(AP price * share that it bears - value of by-products) / yield")
def usable_kilo_of(
    AP_price: Number, yield_: Number, share_that_it_bears: Number = ONE, value_of_by__products: Number = ZERO
) -> Number:
    """The EP cost [money/kg], by the AP price and the value of what falls off a purchased kilo [both money/kg]."""
    return (AP_price * share_that_it_bears - value_of_by__products) / yield_


def kilo_trimmed(view: DayView, item: Item, entry: Entry, yield_: Decimal | None = None) -> Trimmed:
    """A purchased kilo after a treatment: what the usable part bears of its cost, and what falls off.

    At another yield where one is given: by a method that shares the cost, more that is usable bears more of it.
    """
    if isinstance(entry, Cooking):
        return Trimmed(ONE)
    return trimmed(_A_KILO, [stated(entry, yield_)], view.byproduct_method(item))


@formula("usable kilo / cooking yield")
def cooked_kilo_of(usable_kilo: Number, cooking_yield: Number) -> Number:
    """What a kilo costs [money/kg] that was trimmed first and is cooked: what lies on the tray is trimmed already."""
    return usable_kilo / cooking_yield


def trim_before(item: Item, entry: Entry) -> Preparation | None:
    """How an item is trimmed before it is cooked; None for a preparation, and where it has none or several."""
    possible = [one for one in item.preparations if one.yield_ <= 1] if isinstance(entry, Cooking) else []
    return possible[0] if len(possible) == 1 else None


def usable_kilo(view: DayView, item: Item, entry: Entry, yield_: Decimal | None = None) -> Decimal | None:
    """What a usable kilo costs [money/kg] after a treatment, at another yield where one is given; None where not known."""
    yield_ = entry.yield_ if yield_ is None else yield_
    before = trim_before(item, entry)
    if before is not None:
        trimmed_kilo = usable_kilo(view, item, before)
        return None if trimmed_kilo is None else cooked_kilo_of(trimmed_kilo, yield_)
    per_kg, trim = view.per_kg(item.id), kilo_trimmed(view, item, entry, yield_)
    if per_kg is None or trim.lack is not None:
        return None
    return usable_kilo_of(per_kg, yield_, trim.share, trim.credit)
