"""Routes of prices: the schools side by side, rounds of new prices, what was sold."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import replace
from datetime import date, timedelta
from decimal import Decimal
from typing import Annotated

from fastapi import APIRouter, Query
from starlette.responses import Response

from potrel.api.answers import reply
from potrel.api.dependencies import Actor, InKitchen
from potrel.api.price.replies import (
    ChangedPrice,
    Left,
    NewPrice,
    PastRound,
    Prices,
    RoundSet,
    SellingTerms,
    SetPrices,
    SoldWeeks,
    TakenBack,
    TryPrices,
)
from potrel.api.problems import described
from potrel.core.cost.costing import Costing
from potrel.core.decide.repricing import RoundEffect, effect_of, repricing
from potrel.core.decide.selling import Selling, selling_of
from potrel.core.errors import BadDocument
from potrel.core.kitchen.channels import NO_PRICE, ComingPrice, PriceState
from potrel.core.kitchen.kinds import Money
from potrel.core.kitchen.recipes import Recipe
from potrel.core.kitchen.servings import Serving
from potrel.core.numbers.rounding import half_even
from potrel.core.sentences import Sentence, say
from potrel.core.tell.selling_figures import IN_FORCE, SellingFigures
from potrel.formats.kitchen_json import part_from
from potrel.store.database import Connection
from potrel.store.errors import NotFound, NothingToTakeBack, StalePrices
from potrel.store.price_rounds import (
    PriceChange,
    PriceRound,
    Sold,
    mark_taken_back,
    monday,
    note_round,
    note_sold,
    rounds,
    sold_a_week,
)
from potrel.store.recipes import revision_of, save_recipe

router = APIRouter(prefix="/api", tags=["prices"])
# A price that holds from later than this is a slip of the year.
_FURTHEST = timedelta(days=366)


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
        _serving(costing, one)
    with kitchens.database.reading() as connection:
        sales = sold_a_week(connection, costing.on)
    wanted = {(one.recipe, one.serving, one.channel or ""): one.price for one in ask.prices if one.price is not None}
    return reply(RoundEffect, effect_of(costing, wanted, sales))


@router.post("/prices", response_model=RoundSet, status_code=201, responses=described(400, 404, 409, 422))
def set_prices(ask: SetPrices, kitchens: InKitchen, actor: Actor) -> Response:
    """Set prices at once, from today or a later day; refused where one is not what was seen."""
    if not ask.prices:
        raise BadDocument("prices", say("no_prices", "choose at least one price to set"))
    with kitchens.database.writing(actor) as connection:
        costing = kitchens.seen_by(connection).costing
        _refuse_day(ask.on, costing.on)
        changes = _changes(costing, ask)
        _write(connection, costing, changes, actor, back=False)
        number = note_round(connection, changes, ask.on, ask.reason, actor)
    return reply(RoundSet, RoundSet(number), 201)


def _refuse_day(on: date, today: date) -> None:
    if on < today:
        english = "{day} is past: what was sold since was sold at the old price. Choose today or a later day"
        raise BadDocument("on", say("price_from_the_past", english, day=on.isoformat()))
    if on - today > _FURTHEST:
        english = "{day} is more than a year ahead: check the year"
        raise BadDocument("on", say("price_far_ahead", english, day=on.isoformat()))


def _serving(costing: Costing, one: NewPrice) -> Serving:
    recipe = costing.view.recipes.get(one.recipe)
    if recipe is None:
        raise NotFound("recipe", one.recipe)
    if one.channel is not None and one.channel not in costing.view.channels:
        raise NotFound("channel", one.channel)
    serving = next((each for each in recipe.servings if each.id == one.serving), None)
    if serving is None:
        raise NotFound("serving", one.serving)
    return serving


def _changes(costing: Costing, ask: SetPrices) -> list[PriceChange]:
    found: list[PriceChange] = []
    stale: list[str] = []
    seen: set[tuple[str, str, str | None]] = set()
    for one in ask.prices:
        serving = _serving(costing, one)
        if (one.recipe, one.serving, one.channel) in seen:
            raise BadDocument("prices", say("price_twice", "{name} has two prices: keep one", name=serving.name))
        seen.add((one.recipe, one.serving, one.channel))
        change = _change(costing, one, serving, ask.on)
        if not _same(change.was, one.was):
            stale.append(f"{change.recipe_name}, {change.serving_name}")
        found.append(change)
    if stale:
        raise StalePrices("; ".join(stale[:5]))
    return found


def _same(now: Decimal | None, seen: Decimal | None) -> bool:
    # What was seen has six places.
    return now is seen or (now is not None and seen is not None and abs(now - seen) < Decimal("0.000002"))


def _change(costing: Costing, one: NewPrice, serving: Serving, on: date) -> PriceChange:
    costed = costing.of(one.recipe)
    portion = costed.portion(serving.id)
    figures = None if portion is None else SellingFigures.of_channel(costing, costed, portion, one.channel)
    was = None if figures is None else figures.row(IN_FORCE).price.value
    before = serving.state(one.channel).settled(costing.on)
    if on > costing.on and one.price is not None:
        after = replace(before, coming=ComingPrice(one.price, on))
    elif one.price is None:
        after = NO_PRICE
    else:
        after = PriceState(one.price, on, before.coming)
    decides = None if portion is None else portion.priced.pricing
    seen = before.price if before.price is not None or was is None else half_even(was, 6)
    return PriceChange(
        one.recipe, costed.recipe.name, serving.id, serving.name, one.channel or "",
        "here" if figures is None else figures.terms.name, before, after, seen, one.price,
        None if figures is None else figures.food_cost.value, None if decides is None else decides.method,
    )  # fmt: skip


def _write(connection: Connection, costing: Costing, changes: Sequence[PriceChange], actor: str, *, back: bool) -> None:
    """Save what some changes say of the prices of recipes; or the other way round."""
    by_recipe: defaultdict[str, list[PriceChange]] = defaultdict(list)
    for one in changes:
        by_recipe[one.recipe].append(one)
    for recipe_id, some in by_recipe.items():
        recipe = costing.view.recipes[recipe_id]
        for one in some:
            state = one.before if back else one.after
            servings = tuple(
                each.settled(costing.on).with_state(one.channel or None, state) if each.id == one.serving else each
                for each in recipe.servings
            )
            recipe = replace(recipe, servings=servings)
        save_recipe(connection, recipe, revision_of(connection, recipe_id), actor)


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
    with kitchens.database.writing(actor) as connection:
        found = rounds(connection, number=number) if 0 < number < 2**62 else []
        if not found:
            raise NotFound("round of prices", str(number))
        if found[0].taken_back_by is not None:
            english = "these prices were taken back already, by {by}"
            raise BadDocument("", say("round_taken_back", english, by=found[0].taken_back_by))
        costing = kitchens.seen_by(connection).costing
        open_ = [one for one in found[0].changes if not one.taken_back]
        whys = [(one, _why_not(costing, one)) for one in open_]
        back = [one for one, why in whys if why is None]
        left = [Left(f"{one.recipe_name}, {one.serving_name}", why.english) for one, why in whys if why is not None]
        if not back:
            raise NothingToTakeBack("; ".join(f"{one.name}: {one.why}" for one in left[:5]))
        _write(connection, costing, back, actor, back=True)
        mark_taken_back(connection, number, back, actor)
    return reply(TakenBack, TakenBack(len(back), left))


def _why_not(costing: Costing, one: PriceChange) -> Sentence | None:
    """What keeps a price of a round from being taken back; None where it stands as the round left it."""
    recipe = costing.view.recipes.get(one.recipe)
    if recipe is None:
        return say("pot_taken_off", "the pot was taken off")
    serving = next((each for each in recipe.servings if each.id == one.serving), None)
    if serving is None:
        return say("serving_removed", "this serving was removed")
    if one.channel and one.channel not in costing.view.channels:
        return say("channel_removed", "nothing is sold in this way any more")
    if serving.state(one.channel or None).settled(costing.on) != one.after.settled(costing.on):
        return say("priced_since", "another price was set since")
    return None


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
    with kitchens.database.writing(actor) as connection:
        costing = kitchens.seen_by(connection).costing
        serving = _serving(costing, NewPrice(recipe_id, serving_id))
        was = [one.channel for one in serving.channels]
        if serving.pricing != terms.was_pricing or was != terms.was_sold_in:
            raise StalePrices(serving.name)
        for channel in terms.sold_in:
            if channel not in costing.view.channels:
                raise NotFound("channel", channel)
        changed = replace(serving.settled(costing.on), pricing=terms.pricing).sold_in(terms.sold_in)
        recipe = costing.view.recipes[recipe_id]
        servings = tuple(changed if each.id == serving_id else each for each in recipe.servings)
        save_recipe(connection, replace(recipe, servings=servings), revision_of(connection, recipe_id), actor)
    return Response(status_code=204)


@router.put("/sales", status_code=204, responses=described(400, 404, 422))
def put_sales(weeks: SoldWeeks, kitchens: InKitchen, actor: Actor) -> Response:
    """Note how many portions were sold in some weeks, in the place of what was noted of them."""
    with kitchens.database.writing(actor) as connection:
        costing = kitchens.seen_by(connection).costing
        for one in weeks.sold:
            _serving(costing, NewPrice(one.recipe, one.serving, one.channel))
            if one.week > costing.on:
                english = "the week of {day} has not come yet: nothing was sold in it"
                raise BadDocument("sold.week", say("week_to_come", english, day=one.week.isoformat()))
        sold = [Sold(one.recipe, one.serving, one.channel or "", monday(one.week), one.portions) for one in weeks.sold]
        note_sold(connection, sold, actor)
    return Response(status_code=204)


def note_pot_prices(connection: Connection, before: Costing, after: Costing, recipe: Recipe, actor: str) -> None:
    """Note the prices that a save of a pot sets, so that the history of prices tells them too."""
    old = before.view.recipes.get(recipe.id)
    were = {} if old is None else {serving.id: serving for serving in old.servings}
    changes = []
    for serving in recipe.servings:
        was = were.get(serving.id)
        for channel in (None, *(one.channel for one in serving.channels)):
            state = serving.state(channel).settled(before.on)
            known = NO_PRICE if was is None else was.state(channel).settled(before.on)
            if (state.price, state.price_set_on) != (known.price, known.price_set_on):
                asked = NewPrice(recipe.id, serving.id, channel, state.price)
                change = _change(after, asked, serving, before.on)
                changes.append(replace(change, before=known, after=state, was=known.price))
    if changes:
        note_round(connection, changes, before.on, None, actor)
