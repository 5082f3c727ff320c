"""Meal deals: what the parts cost together, and what each gets of the one price, by what they are sold at alone."""

from __future__ import annotations

from decimal import Decimal

from potrel.core.cost.costing import Costing
from potrel.core.cost.pricing.card import contribution, food_cost_share, kept_less_of_gross, kept_less_of_net
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
    recipe: Id | None
    serving: Id | None
    cost: Computed | None
    alone: Computed | None
    gets: Computed | None
    kept: Computed | None
    food_cost_share: Computed | None
    contribution: Computed | None
    contribution_alone: Computed | None
    lack: str | None


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
    parts = [_shared(one, deal.price, whole, terms) for one in read]
    kept = None if deal.price is None else _kept(deal.price, terms)
    left = None if kept is None or cost is None else contribution(kept, cost)
    singly = _all([one.contribution_alone for one in parts])
    share = food_cost_share(cost, kept) if kept is not None and kept > 0 and cost is not None else None
    saved = None if whole is None or deal.price is None else whole - deal.price
    return DealSold(
        deal.id, deal.name, deal.channel, terms.name, deal.price, deal.price_set_on, parts, cost, whole, saved, kept, share,
        left, singly, _notes(deal, whole, left, parts),
    )  # fmt: skip


def _all(values: list[Decimal | None]) -> Decimal | None:
    known = [value for value in values if value is not None]
    return sum(known, ZERO) if len(known) == len(values) else None


def _kept(price: Decimal, terms: ChannelTerms) -> Decimal:
    kept_of = kept_less_of_gross if terms.commission_of == "gross" else kept_less_of_net
    return kept_of(price, terms.tax, terms.commission, terms.subsidy)


def _part(costing: Costing, part: DealPart, channel: str | None, terms: ChannelTerms) -> PartSold:
    if part.line is not None:
        return _line_part(costing, part.line, part.price, terms)
    one = costing.of(part.recipe or "")
    portion = one.portion(part.serving or "")
    if portion is None:
        return PartSold(one.recipe.name, part.recipe, part.serving, None, None, None, None, None, None, None,
                        "this serving is gone: choose another")  # fmt: skip
    figures = SellingFigures.of_channel(costing, one, portion, channel)
    row = figures.row(IN_FORCE)
    name = f"{one.recipe.name}, {portion.serving.name}"
    lack = figures.lacking
    return PartSold(
        name, part.recipe, part.serving, None if lack else figures.food_cost().value, row.price().value, None, None, None, None,
        row.contribution().value, lack,
    )  # fmt: skip


def _line_part(costing: Costing, typed: Line, alone: Decimal | None, terms: ChannelTerms) -> PartSold:
    line = line_mass(typed, "deal", "deal", None, costing.view)
    if isinstance(line, Problem):
        name = costing.view.name_of(typed.item, typed.recipe)
        return PartSold(name, None, None, None, alone, None, None, None, None, None, line.message)
    cost, name = costing.line_cost(line), f"{named(line, costing.view)}, {typed.quantity}"
    left = None if cost is None or alone is None else contribution(_kept(alone, terms), cost)
    lack = None if cost is not None else f"{named(line, costing.view)} has no price: record what it costs"
    return PartSold(name, None, None, cost, alone, None, None, None, None, left, lack)


def _shared(one: PartSold, price: Decimal | None, whole: Decimal | None, terms: ChannelTerms) -> PartSold:
    if price is None or one.alone is None or whole is None or whole <= 0:
        return one
    gets = share_of_deal(price, one.alone, whole)
    kept = _kept(gets, terms)
    share = food_cost_share(one.cost, kept) if one.cost is not None and kept > 0 else None
    left = None if one.cost is None else contribution(kept, one.cost)
    return PartSold(
        one.name, one.recipe, one.serving, one.cost, one.alone, gets, kept, share, left, one.contribution_alone, one.lack
    )  # fmt: skip


def _notes(deal: Deal, whole: Decimal | None, left: Decimal | None, parts: list[PartSold]) -> list[str]:
    notes: list[str] = []
    if deal.price is None:
        notes.append("it has no price yet")
    elif whole is not None and deal.price >= whole:
        notes.append("its parts cost the guest no more one by one: nobody saves anything by it")
    if left is not None and left <= 0:
        notes.append("at this price it leaves nothing: food and packaging cost as much as is kept of it")
    notes += [f"{one.name}: {one.lack}" for one in parts if one.lack]
    return notes
