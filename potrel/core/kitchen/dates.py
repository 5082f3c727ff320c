"""Moving a kitchen through time: the demo's dates are relative to the day it is loaded."""

from __future__ import annotations

from dataclasses import replace
from datetime import date, timedelta

from potrel.core.kitchen.channels import PriceState
from potrel.core.kitchen.items import Item
from potrel.core.kitchen.kitchen import Kitchen
from potrel.core.kitchen.recipes import Recipe, Stage
from potrel.core.kitchen.servings import Serving
from potrel.core.kitchen.supply import Offer
from potrel.core.kitchen.vessels import Vessel


def shifted(kitchen: Kitchen, by: timedelta) -> Kitchen:
    """The kitchen with every date (of offers, labels, credits, tests, prices, measured yields) moved by so much."""
    return replace(
        kitchen,
        items=tuple(_shifted_item(item, by) for item in kitchen.items),
        offers=tuple(_shifted_offer(offer, by) for offer in kitchen.offers),
        vessels=tuple(_shifted_vessel(vessel, by) for vessel in kitchen.vessels),
        recipes=tuple(_shifted_recipe(recipe, by) for recipe in kitchen.recipes),
        credits=tuple(replace(credit, on=credit.on + by) for credit in kitchen.credits),
        tests=tuple(replace(test, on=test.on + by) for test in kitchen.tests),
        deals=tuple(
            deal if deal.price_set_on is None else replace(deal, price_set_on=deal.price_set_on + by) for deal in kitchen.deals
        ),
    )


def _shifted_item(item: Item, by: timedelta) -> Item:
    check = item.allergen_check
    return item if check is None else replace(item, allergen_check=replace(check, on=check.on + by))


def _shifted_offer(offer: Offer, by: timedelta) -> Offer:
    return replace(offer, on=offer.on + by, until=None if offer.until is None else offer.until + by)


def _shifted_recipe(recipe: Recipe, by: timedelta) -> Recipe:
    measured = recipe.measured_yield
    return replace(
        recipe,
        measured_yield=None if measured is None else replace(measured, on=measured.on + by),
        stages=tuple(_shifted_stage(stage, by) for stage in recipe.stages),
        servings=tuple(_shifted_serving(serving, by) for serving in recipe.servings),
    )


def _shifted_stage(stage: Stage, by: timedelta) -> Stage:
    came = stage.came_out
    return stage if came is None else replace(stage, came_out=replace(came, on=came.on + by))


def _shifted_vessel(vessel: Vessel, by: timedelta) -> Vessel:
    return replace(vessel, rates=tuple(replace(one, on=one.on + by) for one in vessel.rates))


def _shifted_serving(serving: Serving, by: timedelta) -> Serving:
    for channel in (None, *(one.channel for one in serving.channels)):
        state = serving.state(channel)
        coming = None if state.coming is None else replace(state.coming, on=state.coming.on + by)
        on = None if state.price_set_on is None else state.price_set_on + by
        serving = serving.with_state(channel, PriceState(state.price, on, coming))
    return serving


def newest_day(kitchen: Kitchen) -> date | None:
    """The day of the newest offer."""
    return max((offer.on for offer in kitchen.offers), default=None)
