"""A repricing round: every serving in every channel with what its price should be, and what new prices do to the house."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from decimal import Decimal
from typing import NamedTuple

from potrel.core.cost.costing import Costing
from potrel.core.cost.drift import drift_of
from potrel.core.cost.pricing.card import contribution, share_of
from potrel.core.frozen import dataclass
from potrel.core.kitchen.channels import ComingPrice
from potrel.core.kitchen.kinds import ZERO, Computed, Flag, Id, On
from potrel.core.kitchen.pricing import PricingMethod
from potrel.core.rooms.board import Mark, marks_of, marks_of_price
from potrel.core.tell.selling_figures import AT, IN_FORCE, Row, SellingFigures

# What makes a price worth a look; what is unsure of its cost is no reason by itself.
_REASONS: frozenset[Mark] = frozenset({"over_target", "far_under_target", "cost_moved", "no_set_price"})


# Portions a week, by recipe, serving and channel (empty for the kitchen's own).
Sales = Mapping[tuple[str, str, str], Decimal]


@dataclass(frozen=True, slots=True)
class RepricingRow:
    """A serving in a channel: its price now and the proposed one [money], what each leaves, and why to look.

    `sold` are portions a week at the sales of the last weeks; None where nobody noted them.
    """

    recipe: Id
    name: str
    serving: Id
    serving_name: str
    size: str
    channel: Id | None
    channel_name: str
    reasons: list[Mark]
    lack: str | None
    food_cost: Computed | None
    method: PricingMethod | None
    target: Computed | None
    price: Computed | None
    is_set: Flag
    price_set_on: On | None
    coming: ComingPrice | None
    share: Computed | None
    contribution: Computed | None
    proposed: Computed | None
    proposed_share: Computed | None
    proposed_contribution: Computed | None
    sold: Computed | None


@dataclass(frozen=True, slots=True)
class Repriced:
    """What a price would do to a serving in a channel."""

    recipe: Id
    serving: Id
    channel: Id | None
    price: Computed | None
    share: Computed | None
    contribution: Computed | None


@dataclass(frozen=True, slots=True)
class RoundEffect:
    """What a round of prices does: the average food-cost share, each serving counted once, and the contribution of a week.

    The week is at the sales of the last weeks. It says nothing of the `unsold` servings, whose sales nobody noted, nor of those
    whose cost or price is `unknown`.
    `share_by_sales` is the share of all that is sold, not of each serving once.
    """

    share_was: Computed | None
    share_now: Computed | None
    share_by_sales_was: Computed | None
    share_by_sales_now: Computed | None
    week_was: Computed | None
    week_now: Computed | None
    unsold: int
    unknown: int
    rows: list[Repriced]


def repricing(costing: Costing, sales: Sales) -> list[RepricingRow]:
    """All servings in all channels that they are sold in, those that need a look first."""
    found = [_row(figures, sales) for figures in _sold_everywhere(costing)]
    return sorted(found, key=lambda row: (not row.reasons, row.name.casefold(), row.recipe))


def _sold_everywhere(costing: Costing) -> Iterator[SellingFigures]:
    for one in costing.all():
        for portion in one.portions:
            channels = [own.channel for own in portion.serving.channels if own.channel in costing.view.channels]
            for channel in (None, *channels):
                yield SellingFigures.of_channel(costing, one, portion, channel)


def _row(figures: SellingFigures, sales: Sales) -> RepricingRow:
    one, portion, channel = figures.one, figures.portion, figures.terms.id
    serving, view = portion.serving, figures.view
    in_force, decides = serving.set_price(view.on, channel), portion.priced.pricing
    now, proposed = _in_force(figures), None if decides is None else _proposed(figures, decides.method)
    target = portion.priced.target
    if channel is None:
        drift = drift_of(one, portion, figures.costing, all_parts=False)
        reasons = [mark for mark in marks_of(one, portion, drift) if mark in _REASONS]
    else:
        reasons = marks_of_price(in_force.price, now.share, target)
    return RepricingRow(
        one.recipe.id, one.recipe.name, serving.id, serving.name, serving.size.text, channel, figures.terms.name, reasons,
        figures.lacking, figures.food_cost.value, None if decides is None else decides.method, target, now.price,
        in_force.price is not None, in_force.on, serving.coming_price(view.on, channel), now.share, now.contribution,
        None if proposed is None else proposed.price, None if proposed is None else proposed.share,
        None if proposed is None else proposed.contribution, sales.get((one.recipe.id, serving.id, channel or "")),
    )  # fmt: skip


class _Told(NamedTuple):
    """A price and what follows from it, each figure reckoned once."""

    price: Decimal | None
    kept: Decimal | None
    share: Decimal | None
    contribution: Decimal | None


def _told(row: Row) -> _Told:
    return _Told(row.price.value, row.kept.value, row.food_cost_share.value, row.contribution.value)


def _in_force(figures: SellingFigures) -> _Told:
    """The price in force. That of the kitchen's own channel is costed already, and costs nothing more."""
    if figures.terms.id is not None:
        return _told(figures.row(IN_FORCE))
    priced = figures.portion.priced
    return _Told(priced.price, priced.kept, priced.share, priced.contribution)


def effect_of(costing: Costing, prices: Mapping[tuple[str, str, str], Decimal], sales: Sales) -> RoundEffect:
    """What it does to the house to sell some servings at other prices on the card."""
    was, now, rows = _House(), _House(), list[Repriced]()
    unsold = unknown = 0
    for figures in _sold_everywhere(costing):
        key = (figures.one.recipe.id, figures.portion.serving.id, figures.terms.id or "")
        before = _in_force(figures)
        after = before
        if key in prices:
            after = _told(figures.row(f"{AT}{prices[key]:f}"))
            rows.append(Repriced(key[0], key[1], figures.terms.id, after.price, after.share, after.contribution))
        sold = sales.get(key)
        unsold += sold is None
        unknown += sold is not None and before.contribution is None
        was.add(before, sold)
        now.add(after, sold)
    return RoundEffect(
        was.share(), now.share(), was.share_by_sales(), now.share_by_sales(), was.week(), now.week(), unsold, unknown, rows
    )  # fmt: skip


def _proposed(figures: SellingFigures, method: PricingMethod) -> _Told:
    """The price that its school would make; in the kitchen's own channel that one is costed already too."""
    priced, terms = figures.portion.priced, figures.terms
    if terms.id is not None or priced.suggested is None or figures.portion.food_cost is None:
        return _told(figures.row(method))
    kept, food = terms.kept(priced.suggested), figures.portion.food_cost
    return _Told(priced.suggested, kept, share_of(food, kept), contribution(kept, food))


class _House:
    """All servings together, at some prices."""

    def __init__(self) -> None:
        self.shares: list[Decimal] = []
        self.kept = self.left = ZERO
        self.sold = False

    def add(self, told: _Told, sold: Decimal | None) -> None:
        if told.share is not None:
            self.shares.append(told.share)
        if sold is not None and told.kept is not None and told.contribution is not None:
            self.sold = True
            self.kept += told.kept * sold
            self.left += told.contribution * sold

    def share(self) -> Decimal | None:
        return sum(self.shares, ZERO) / len(self.shares) if self.shares else None

    def share_by_sales(self) -> Decimal | None:
        return 1 - self.left / self.kept if self.sold and self.kept > 0 else None

    def week(self) -> Decimal | None:
        return self.left if self.sold else None
