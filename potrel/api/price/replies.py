"""What the routes of the room Price take and give."""

from __future__ import annotations

from dataclasses import dataclass

from potrel.core.decide.deals import DealSold
from potrel.core.decide.repricing import RepricingRow
from potrel.core.kitchen.channels import Channel
from potrel.core.kitchen.deals import Deal
from potrel.core.kitchen.keyed import Keyed
from potrel.core.kitchen.kinds import At, Computed, Count, Id, Money, On
from potrel.core.kitchen.pricing import PricingMethod
from potrel.doing.prices import NewPrice


@dataclass(frozen=True, slots=True)
class Prices:
    """Every serving in every channel that it is sold in, with the channels there are; `week` is the last whole one."""

    rows: list[RepricingRow]
    channels: list[Channel]
    week: On


@dataclass(frozen=True, slots=True)
class TryPrices(Keyed):
    """Prices to be tried out."""

    prices: list[NewPrice]


@dataclass(frozen=True, slots=True)
class RoundSet:
    """The number of a round of prices, under which it can be taken back."""

    round: Count


@dataclass(frozen=True, slots=True)
class ChangedPrice:
    """One price of a round, as the history tells it; `cost` is the food cost of a portion at the time [money]."""

    recipe: Id
    recipe_name: str
    serving_name: str
    channel_name: str
    was: Money | None
    price: Money | None
    cost: Computed | None
    method: PricingMethod | None
    taken_back: bool


@dataclass(frozen=True, slots=True)
class PastRound:
    """Prices that somebody set at once. `taken_back_by` says who took them back."""

    number: Count
    at: At
    by: str
    holds_from: On
    reason: str | None
    taken_back_by: str | None
    changes: list[ChangedPrice]


@dataclass(frozen=True, slots=True)
class Deals:
    """All meal deals as they are kept, and as they are sold today."""

    deals: list[Deal]
    sold: list[DealSold]


@dataclass(frozen=True, slots=True)
class SaveDeals(Keyed):
    """All deals there are to be, with what was seen of them."""

    deals: list[Deal]
    were: list[Deal]
