"""What is done with prices: rounds set and taken back, the terms of a serving, what was sold."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from decimal import Decimal

from potrel.core.cost.costing import Costing
from potrel.core.errors import BadDocument
from potrel.core.kitchen.channels import NO_PRICE, ComingPrice, PriceState
from potrel.core.kitchen.keyed import Keyed
from potrel.core.kitchen.kinds import Count, Id, Money, Name, On, Rate
from potrel.core.kitchen.pricing import Pricing
from potrel.core.kitchen.recipes import Recipe
from potrel.core.kitchen.servings import Serving
from potrel.core.numbers.rounding import half_even
from potrel.core.sentences import Sentence, say
from potrel.core.tell.selling_figures import IN_FORCE, SellingFigures
from potrel.doing.kitchens import Kitchens
from potrel.store.database import Connection
from potrel.store.errors import NotFound, NothingToTakeBack, StalePrices
from potrel.store.price_rounds import PriceChange, Sold, mark_taken_back, monday, note_round, note_sold, rounds
from potrel.store.recipes import revision_of, save_recipe

# A price that holds from later than this is a slip of the year.
_FURTHEST = timedelta(days=366)


@dataclass(frozen=True, slots=True)
class NewPrice(Keyed):
    """A price on the card [money] for a serving in a channel (none: the kitchen's own); none lets the set one go.

    `was` is the price in force when it was looked at.
    """

    recipe: Id
    serving: Id
    channel: Id | None = None
    price: Money | None = None
    was: Money | None = None


@dataclass(frozen=True, slots=True)
class SetPrices(Keyed):
    """Prices to be set at once, to hold from a day, with why."""

    prices: list[NewPrice]
    on: On
    reason: Name | None = None


@dataclass(frozen=True, slots=True)
class SellingTerms(Keyed):
    """How a serving is priced, and in which channels it is sold beside the kitchen's own; with what was seen of both."""

    pricing: Pricing | None
    sold_in: list[Id]
    was_pricing: Pricing | None
    was_sold_in: list[Id]


@dataclass(frozen=True, slots=True)
class WeekSold(Keyed):
    """Portions of a serving sold by a channel in a week, which is told by any of its days."""

    recipe: Id
    serving: Id
    week: On
    portions: Rate
    channel: Id | None = None


@dataclass(frozen=True, slots=True)
class SoldWeeks(Keyed):
    """What was sold in some weeks."""

    sold: list[WeekSold]


@dataclass(frozen=True, slots=True)
class Left:
    """A price of a round that was not taken back, and why not."""

    name: str
    why: str


@dataclass(frozen=True, slots=True)
class TakenBack:
    """How many prices of a round were taken back, and those that were not."""

    prices: Count
    left: list[Left]


def set_prices(kitchens: Kitchens, ask: SetPrices, by: str) -> int:
    """Set prices at once, from today or a later day; the number of the round. StalePrices where one is not what was seen."""
    if not ask.prices:
        raise BadDocument("prices", say("no_prices", "choose at least one price to set"))
    with kitchens.database.writing(by) as connection:
        costing = kitchens.seen_by(connection).costing
        _refuse_day(ask.on, costing.on)
        changes = _changes(costing, ask)
        _write(connection, costing, changes, by, back=False)
        return note_round(connection, changes, ask.on, ask.reason, by)


def take_back(kitchens: Kitchens, number: int, by: str) -> TakenBack:
    """Take a round of prices back, price by price: of those that have moved on since, it is said why not. NotFound where there
    is no such round, NothingToTakeBack where none of its prices stands as it left it.
    """
    with kitchens.database.writing(by) as connection:
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
        _write(connection, costing, back, by, back=True)
        mark_taken_back(connection, number, back, by)
    return TakenBack(len(back), left)


def put_terms(kitchens: Kitchens, recipe_id: str, serving_id: str, terms: SellingTerms, by: str) -> None:
    """Keep with a serving which school decides its price, and where it is sold. StalePrices where that was changed since."""
    with kitchens.database.writing(by) as connection:
        costing = kitchens.seen_by(connection).costing
        serving = serving_of(costing, NewPrice(recipe_id, serving_id))
        was = [one.channel for one in serving.channels]
        if serving.pricing != terms.was_pricing or was != terms.was_sold_in:
            raise StalePrices(serving.name)
        for channel in terms.sold_in:
            if channel not in costing.view.channels:
                raise NotFound("channel", channel)
        changed = replace(serving.settled(costing.on), pricing=terms.pricing).sold_in(terms.sold_in)
        recipe = costing.view.recipes[recipe_id]
        servings = tuple(changed if each.id == serving_id else each for each in recipe.servings)
        save_recipe(connection, replace(recipe, servings=servings), revision_of(connection, recipe_id), by)


def note_sales(kitchens: Kitchens, weeks: SoldWeeks, by: str) -> None:
    """Note how many portions were sold in some weeks, in the place of what was noted of them. NotFound, BadDocument."""
    with kitchens.database.writing(by) as connection:
        costing = kitchens.seen_by(connection).costing
        for one in weeks.sold:
            serving_of(costing, NewPrice(one.recipe, one.serving, one.channel))
            if one.week > costing.on:
                english = "the week of {day} has not come yet: nothing was sold in it"
                raise BadDocument("sold.week", say("week_to_come", english, day=one.week.isoformat()))
        sold = [Sold(one.recipe, one.serving, one.channel or "", monday(one.week), one.portions) for one in weeks.sold]
        note_sold(connection, sold, by)


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


def serving_of(costing: Costing, one: NewPrice) -> Serving:
    """The serving that a price is for. NotFound where it, its recipe or its channel is not here."""
    recipe = costing.view.recipes.get(one.recipe)
    if recipe is None:
        raise NotFound("recipe", one.recipe)
    if one.channel is not None and one.channel not in costing.view.channels:
        raise NotFound("channel", one.channel)
    serving = next((each for each in recipe.servings if each.id == one.serving), None)
    if serving is None:
        raise NotFound("serving", one.serving)
    return serving


def _refuse_day(on: date, today: date) -> None:
    if on < today:
        english = "{day} is past: what was sold since was sold at the old price. Choose today or a later day"
        raise BadDocument("on", say("price_from_the_past", english, day=on.isoformat()))
    if on - today > _FURTHEST:
        english = "{day} is more than a year ahead: check the year"
        raise BadDocument("on", say("price_far_ahead", english, day=on.isoformat()))


def _changes(costing: Costing, ask: SetPrices) -> list[PriceChange]:
    found: list[PriceChange] = []
    stale: list[str] = []
    seen: set[tuple[str, str, str | None]] = set()
    for one in ask.prices:
        serving = serving_of(costing, one)
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
