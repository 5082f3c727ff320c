"""Meal deals: what the parts cost together, and what each gets of the one price, by what they are sold at alone."""

from __future__ import annotations

from dataclasses import replace
from decimal import Decimal

from potrel.core.cost.costing import Costing
from potrel.core.cost.pricing.card import contribution, share_of
from potrel.core.cost.selling import ChannelTerms, terms_of_channel
from potrel.core.errors import Problem
from potrel.core.frozen import dataclass
from potrel.core.kitchen.deals import Deal, DealPart
from potrel.core.kitchen.kinds import ZERO, Computed, Id, Money, Name, On
from potrel.core.kitchen.lines import Line
from potrel.core.numbers.arithmetic import Number
from potrel.core.numbers.formula import formula
from potrel.core.pot.line_mass import line_mass
from potrel.core.tell.line_figures import named
from potrel.core.tell.selling_figures import IN_FORCE, SellingFigures


@formula("price of the deal * price alone / price of all alone")
def share_of_deal(price_of_the_deal: Number, price_alone: Number, price_of_all_alone: Number) -> Number:
    """What a part gets [money] of the price of a deal: as much of it as of all prices alone (relative stand-alone prices)."""
    return price_of_the_deal * price_alone / price_of_all_alone


@dataclass(frozen=True, slots=True)
class PartSold:
    """One part of a deal [money]: what it costs, what it is sold at alone, what it gets of the deal's price and what that
    leaves. Where it is a serving, `recipe` and `serving` say which."""

    name: str
    recipe: Id | None = None
    serving: Id | None = None
    cost: Computed | None = None
    alone: Computed | None = None
    gets: Computed | None = None
    kept: Computed | None = None
    food_cost_share: Computed | None = None
    contribution: Computed | None = None
    contribution_alone: Computed | None = None
    lack: str | None = None


@dataclass(frozen=True, slots=True)
class DealSold:
    """A deal [money]: its price, what its parts are sold at alone, and what both leave. `notes` say what is odd about it."""

    id: Id
    name: Name
    channel: Id | None
    channel_name: str
    price: Money | None
    price_set_on: On | None
    parts: list[PartSold]
    cost: Computed | None
    alone: Computed | None
    saved: Computed | None
    kept: Computed | None
    food_cost_share: Computed | None
    contribution: Computed | None
    contribution_alone: Computed | None
    notes: list[str]


def deal_sold(costing: Costing, deal: Deal) -> DealSold:
    """What a deal costs and leaves, part by part."""
    channel = costing.view.channels.get(deal.channel or "")
    terms = terms_of_channel(channel, ZERO, costing.view)
    read = [_part(costing, part, deal.channel, terms) for part in deal.parts]
    costs, alone = [one.cost for one in read], [one.alone for one in read]
    cost = _all(costs)
    whole = _all(alone)
    kept = None if deal.price is None else terms.kept(deal.price)
    parts = [_shared(one, deal.price, kept, whole) for one in read]
    left = None if kept is None or cost is None else contribution(kept, cost)
    singly = _all([one.contribution_alone for one in parts])
    share = None if kept is None or cost is None else share_of(cost, kept)
    saved = None if whole is None or deal.price is None else whole - deal.price
    return DealSold(
        deal.id, deal.name, deal.channel, terms.name, deal.price, deal.price_set_on, parts, cost, whole, saved, kept, share,
        left, singly, _notes(deal, whole, left, parts),
    )  # fmt: skip


def _all(values: list[Decimal | None]) -> Decimal | None:
    known = [value for value in values if value is not None]
    return sum(known, ZERO) if len(known) == len(values) else None


def _part(costing: Costing, part: DealPart, channel: str | None, terms: ChannelTerms) -> PartSold:
    if part.line is not None:
        return _line_part(costing, part.line, part.price, terms)
    one = costing.of(part.recipe or "")
    portion = one.portion(part.serving or "")
    if portion is None:
        return PartSold(one.recipe.name, part.recipe, part.serving, lack="this serving is gone: choose another")
    figures = SellingFigures.of_channel(costing, one, portion, channel)
    row, lack = figures.row(IN_FORCE), figures.lacking
    return PartSold(
        f"{one.recipe.name}, {portion.serving.name}", part.recipe, part.serving,
        cost=None if lack else figures.food_cost.value, alone=row.price.value,
        contribution_alone=row.contribution.value, lack=lack,
    )  # fmt: skip


def _line_part(costing: Costing, typed: Line, alone: Decimal | None, terms: ChannelTerms) -> PartSold:
    line = line_mass(typed, "deal", "deal", None, costing.view)
    if isinstance(line, Problem):
        return PartSold(costing.view.name_of(typed.item, typed.recipe), alone=alone, lack=line.message)
    cost, name = costing.line_cost(line), named(line, costing.view)
    left = None if cost is None or alone is None else contribution(terms.kept(alone, subsidised=False), cost)
    lack = None if cost is not None else f"{name} has no price: record what it costs"
    return PartSold(f"{name}, {typed.quantity}", cost=cost, alone=alone, contribution_alone=left, lack=lack)


def _shared(one: PartSold, price: Decimal | None, kept: Decimal | None, whole: Decimal | None) -> PartSold:
    """A part with what it gets of the price, and of what is kept of that."""
    if price is None or kept is None or one.alone is None or whole is None or whole <= 0:
        return one
    gets, keeps = share_of_deal(price, one.alone, whole), share_of_deal(kept, one.alone, whole)
    left = None if one.cost is None else contribution(keeps, one.cost)
    share = None if one.cost is None else share_of(one.cost, keeps)
    return replace(one, gets=gets, kept=keeps, food_cost_share=share, contribution=left)


def _notes(deal: Deal, whole: Decimal | None, left: Decimal | None, parts: list[PartSold]) -> list[str]:
    notes: list[str] = []
    if deal.price is None:
        notes.append("it has no price yet")
    elif whole is not None and deal.price >= whole:
        notes.append("its parts cost the guest no more one by one: nobody saves anything by it")
    if left is not None and left <= 0:
        notes.append("at this price it leaves nothing: food and packaging cost as much as is kept of it")
    notes += [f"{one.name}: {one.lack}" for one in parts if one.lack]
    notes += [f"{one.name}: say what it is sold at alone" for one in parts if one.alone == 0]
    return notes
