"""Routes of prices: the schools side by side, rounds of new prices, what was sold."""

from __future__ import annotations

from datetime import timedelta
from decimal import Decimal
from typing import Annotated

from fastapi import APIRouter, Query
from starlette.responses import Response

from potrel.api.answers import reply
from potrel.api.dependencies import Actor, InKitchen
from potrel.api.price.replies import ChangedPrice, PastRound, Prices, RoundSet, TryPrices
from potrel.api.problems import described
from potrel.core.decide.repricing import RoundEffect, effect_of, repricing
from potrel.core.decide.selling import Selling, selling_of
from potrel.core.errors import BadDocument
from potrel.core.kitchen.kinds import Money
from potrel.doing import prices as doing
from potrel.doing.prices import SellingTerms, SetPrices, SoldWeeks, TakenBack, serving_of
from potrel.formats.kitchen_json import part_from
from potrel.store.errors import NotFound
from potrel.store.price_rounds import (
    PriceRound,
    monday,
    rounds,
    sold_a_week,
)

router = APIRouter(prefix="/api", tags=["prices"])


@router.get("/prices", response_model=Prices, responses=described())
def prices(kitchens: InKitchen) -> Response:
    """Every serving in every channel: its price, the one that its school would make, and why to look at it."""
    costing = kitchens.costing()
    with kitchens.database.reading() as connection:
        sales = sold_a_week(connection, costing.on)
    week = monday(costing.on) - timedelta(weeks=1)
    return reply(Prices, Prices(repricing(costing, sales), list(costing.view.settings.channels), week))


@router.post("/prices/effect", response_model=RoundEffect, responses=described(400, 404, 422))
def effect(ask: TryPrices, kitchens: InKitchen) -> Response:
    """What some prices would do to the house; nothing is set."""
    costing = kitchens.costing()
    for one in ask.prices:
        serving_of(costing, one)
    with kitchens.database.reading() as connection:
        sales = sold_a_week(connection, costing.on)
    wanted = {(one.recipe, one.serving, one.channel or ""): one.price for one in ask.prices if one.price is not None}
    return reply(RoundEffect, effect_of(costing, wanted, sales))


@router.post("/prices", response_model=RoundSet, status_code=201, responses=described(400, 404, 409, 422))
def set_prices(ask: SetPrices, kitchens: InKitchen, actor: Actor) -> Response:
    """Set prices at once, from today or a later day; refused where one is not what was seen."""
    return reply(RoundSet, RoundSet(doing.set_prices(kitchens, ask, actor)), 201)


@router.get("/prices/rounds", response_model=list[PastRound], responses=described(422))
def past_rounds(
    kitchens: InKitchen, recipe: str | None = None, before: Annotated[int | None, Query(ge=1, le=2**62)] = None
) -> Response:
    """The rounds of prices, the newest first: who set which, when, at what cost, by which school and why."""
    with kitchens.database.reading() as connection:
        found = rounds(connection, recipe=recipe, before=before)
    return reply(list[PastRound], [_past(one) for one in found])


def _past(one: PriceRound) -> PastRound:
    changes = [
        ChangedPrice(
            each.recipe,
            each.recipe_name,
            each.serving_name,
            each.channel_name,
            each.was,
            each.price,
            each.cost,
            each.method,
            each.taken_back,
        )
        for each in one.changes
    ]
    return PastRound(one.number, one.at, one.by, one.holds_from, one.reason, one.taken_back_by, changes)


@router.post("/prices/rounds/{number}/take-back", response_model=TakenBack, responses=described(404, 409, 422))
def take_back(number: int, kitchens: InKitchen, actor: Actor) -> Response:
    """Take a round of prices back, price by price: of those that have moved on since, it is said why not."""
    return reply(TakenBack, doing.take_back(kitchens, number, actor))


@router.get("/prices/{recipe_id}/{serving_id}", response_model=Selling, responses=described(404, 422))
def selling(
    recipe_id: str, serving_id: str, kitchens: InKitchen, channel: str | None = None,
    price: Annotated[str | None, Query(max_length=40)] = None,
    a_day: Annotated[int | None, Query(ge=1, le=100_000)] = None,
) -> Response:  # fmt: skip
    """A serving in a channel: its full cost, the schools side by side, its break-even, what a price does, its ladder."""
    costing = kitchens.costing()
    if recipe_id not in costing.view.recipes:
        raise NotFound("recipe", recipe_id)
    if channel is not None and channel not in costing.view.channels:
        raise NotFound("channel", channel)
    portion = costing.of(recipe_id).portion(serving_id)
    if portion is None:
        raise NotFound("serving", serving_id)
    return reply(Selling, selling_of(costing, recipe_id, portion, channel, _typed(price), a_day))


def _typed(price: str | None) -> Decimal | None:
    """A price that is tried, as people type it; BadDocument, at its field, for what is none."""
    if price is None:
        return None
    try:
        made: Decimal = part_from(Money, price)
    except BadDocument as error:
        raise BadDocument("price", error.message) from None
    return made


@router.put("/prices/{recipe_id}/{serving_id}", status_code=204, responses=described(400, 404, 409, 422))
def put_terms(recipe_id: str, serving_id: str, terms: SellingTerms, kitchens: InKitchen, actor: Actor) -> Response:
    """Keep with a serving which school decides its price, and where it is sold; refused where somebody changed that since."""
    doing.put_terms(kitchens, recipe_id, serving_id, terms, actor)
    return Response(status_code=204)


@router.put("/sales", status_code=204, responses=described(400, 404, 422))
def put_sales(weeks: SoldWeeks, kitchens: InKitchen, actor: Actor) -> Response:
    """Note how many portions were sold in some weeks, in the place of what was noted of them."""
    doing.note_sales(kitchens, weeks, actor)
    return Response(status_code=204)
