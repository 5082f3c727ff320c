"""What is done with meal deals: all of them kept together."""

from __future__ import annotations

from collections.abc import Sequence

from potrel.core.cost.costing import Costing
from potrel.core.kitchen.checks import refuse_twice
from potrel.core.kitchen.deals import Deal
from potrel.core.kitchen.integrity import check_deal, known_units
from potrel.doing.kitchens import Kitchens
from potrel.store.errors import StaleDeals
from potrel.store.prices import load_deals, save_deals


def put_deals(kitchens: Kitchens, deals: Sequence[Deal], were: Sequence[Deal], by: str) -> None:
    """Make these all the deals there are. StaleDeals where somebody changed them since they `were` seen; BadDocument."""
    refuse_twice("deal", (deal.id for deal in deals))
    with kitchens.database.writing(by) as connection:
        if load_deals(connection) != tuple(were):
            raise StaleDeals
        costing = kitchens.seen_by(connection).costing
        for deal in deals:
            refuse_unfit(costing, deal)
        save_deals(connection, deals)


def refuse_unfit(costing: Costing, deal: Deal) -> None:
    """BadDocument where a deal names what the kitchen does not have."""
    view = costing.view
    check_deal(deal, view.items, view.recipes, known_units(view.kitchen.items), view.channels)
