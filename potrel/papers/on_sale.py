"""What stands on a price list: soups with their servings and prices in a channel, marks of allergens, meal deals."""

from __future__ import annotations

from collections.abc import Iterator
from decimal import Decimal

from potrel.core.cost.costed_recipe import CostedRecipe
from potrel.core.cost.costing import Costing
from potrel.core.cost.portion import Portion
from potrel.core.frozen import dataclass
from potrel.core.kitchen.items import Item
from potrel.core.kitchen.kinds import ZERO
from potrel.core.kitchen.lines import Line
from potrel.core.pot.day_view import DayView
from potrel.core.rooms.allergens import CAUTION, allergens_of
from potrel.core.rooms.labels import allergen_of, groups_of, is_unread
from potrel.core.tell.selling_figures import IN_FORCE, SellingFigures


@dataclass(frozen=True, slots=True)
class ListedPrice:
    """A serving, an add-on or a deal with its price on the card [money]; of an add-on the marks of what it brings."""

    name: str
    size: str
    price: Decimal
    marks: tuple[int, ...] = ()
    unread: bool = False


@dataclass(frozen=True, slots=True)
class ListedSoup:
    """A soup with its servings. `marks` are the groups of allergens in it, by their place in the legend; where labels are still
    to be read, it is `unread`.
    """

    name: str
    prices: list[ListedPrice]
    add_ons: list[ListedPrice]
    marks: list[int]
    unread: bool


@dataclass(frozen=True, slots=True)
class OnSale:
    """All that is sold in a channel, in the order of the names."""

    channel: str
    soups: list[ListedSoup]
    deals: list[ListedPrice]
    deposit: Decimal | None
    legend: list[str]
    caution: str
    taxed: bool


def on_sale(costing: Costing, channel: str | None) -> OnSale:
    """What is sold in a channel (None: the kitchen's own) at the prices of the day."""
    view = costing.view
    groups = groups_of(view.settings.allergen_list)
    sold = sorted((one for one in costing.all() if one.portions), key=lambda one: one.recipe.name.casefold())
    soups = [soup for one in sold if (soup := _soup(costing, one, channel, groups)).prices]
    deals = [
        ListedPrice(deal.name, "", deal.price)
        for deal in view.kitchen.deals
        if deal.channel == channel and deal.price is not None
    ]
    here = None if channel is None else view.channels[channel]
    tax = view.settings.tax_rate if here is None or here.tax_rate is None else here.tax_rate
    used = {mark for soup in soups for mark in soup.marks}
    used |= {mark for soup in soups for one in soup.add_ons for mark in one.marks}
    legend = [group if place in used else "" for place, group in enumerate(groups)]
    name, deposit = ("", None) if here is None else (here.name, here.deposit)
    return OnSale(name, soups, deals, deposit, legend, CAUTION, tax > 0)


def without_price(costing: Costing, channel: str | None) -> list[str]:
    """What is sold in a channel but stands on no list, as it has no price there."""
    servings = [
        f"{one.recipe.name}, {portion.serving.name}"
        for one in costing.all() for portion in one.portions
        if _sold(portion, channel) and _price(costing, one, portion, channel) is None
    ]  # fmt: skip
    deals = costing.view.kitchen.deals
    return sorted(servings) + [deal.name for deal in deals if deal.channel == channel and deal.price is None]


def _sold(portion: Portion, channel: str | None) -> bool:
    return channel is None or any(own.channel == channel for own in portion.serving.channels)


def _soup(costing: Costing, one: CostedRecipe, channel: str | None, groups: list[str]) -> ListedSoup:
    prices = list(_prices(costing, one, channel))
    row = allergens_of(costing.view, one)
    marks = sorted({groups.index(cell.group) for cell in row.cells if cell.group in groups})
    sold = (line for portion in one.portions for line in portion.serving.add_ons if line.surcharge is not None)
    added = [_add_on(costing, line, groups) for line in sold]
    # The same with a bowl and with a cup stands there once.
    return ListedSoup(one.recipe.name, prices, list(dict.fromkeys(added)), marks, bool(row.ask or row.unchecked))


def _add_on(costing: Costing, line: Line, groups: list[str]) -> ListedPrice:
    """What may be had with a soup, with the allergens that it brings; of a part of a pot somebody has to be asked."""
    view = costing.view
    item = view.items.get(line.item or "")
    name = line.byproduct or view.name_of(line.item, line.recipe)
    found = () if item is None else tuple(sorted(groups.index(group) for group in _groups_of(item, view) if group in groups))
    return ListedPrice(name, line.quantity.text, line.surcharge or ZERO, found, item is None or is_unread(item, view))


def _groups_of(item: Item, view: DayView) -> set[str]:
    known = (allergen_of(word) for word in item.allergens)
    return {one.group(view.settings.allergen_list) for one in known if one is not None}


def _prices(costing: Costing, one: CostedRecipe, channel: str | None) -> Iterator[ListedPrice]:
    for portion in one.portions:
        price = _price(costing, one, portion, channel) if _sold(portion, channel) else None
        if price is not None:
            yield ListedPrice(portion.serving.name, portion.serving.size.text, price)


def _price(costing: Costing, one: CostedRecipe, portion: Portion, channel: str | None) -> Decimal | None:
    return SellingFigures.of_channel(costing, one, portion, channel).row(IN_FORCE).price.value
