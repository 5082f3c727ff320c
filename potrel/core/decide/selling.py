"""The price of a serving, decided: its full cost, the schools side by side, its break-even, what a price does, its ladder."""

from __future__ import annotations

from collections.abc import Iterator
from decimal import Decimal
from typing import Literal

from potrel.core.cost.costed_recipe import CostedRecipe
from potrel.core.cost.costing import Costing
from potrel.core.cost.portion import Portion
from potrel.core.cost.selling import kept_to_break_even, portions_to_break_even
from potrel.core.errors import Problem
from potrel.core.frozen import dataclass
from potrel.core.kitchen.channels import ComingPrice
from potrel.core.kitchen.kinds import ONE, ZERO, Computed, Flag, Id, Money, Name, On, plain
from potrel.core.kitchen.lines import Line
from potrel.core.kitchen.pricing import PRICING_METHODS, Pricing, PricingMethod
from potrel.core.numbers.rounding import exceeds, floor, half_even
from potrel.core.pot.line_mass import LineMass, line_mass
from potrel.core.rooms.labels import is_unread
from potrel.core.tell.line_figures import named
from potrel.core.tell.selling_figures import AT, IN_FORCE, Row, SellingFigures

# So many points of a picture of prices; a half below and three quarters above those in question.
_POINTS = 41
_BELOW, _ABOVE = Decimal("0.6"), Decimal("1.5")


@dataclass(frozen=True, slots=True)
class CostPart:
    """A part of the full cost of a portion [money]: `kind` is what sort, `name` what it is, `figure` leads to its working."""

    kind: Literal["food", "packaging", "labour", "energy", "overhead"]
    name: str
    cost: Computed
    figure: str
    minutes: Computed | None = None
    kwh: Computed | None = None


@dataclass(frozen=True, slots=True)
class FullCost:
    """All that a portion costs [money]; `lacks` says what nobody told, and then `total` is no less than it."""

    parts: list[CostPart]
    total: Computed | None
    lacks: list[str]


@dataclass(frozen=True, slots=True)
class PriceRow:
    """A price and what follows from it [money, shares]: by a school, in force, or typed (`at-…`).

    `profit_at_most` tells that a cost is not in it which nobody told; `lack` says why there is no price.
    """

    row: str
    method: PricingMethod | None
    pricing: Pricing | None
    whose: str | None
    price: Computed | None
    kept: Computed | None
    food_cost_share: Computed | None
    gross_profit_share: Computed | None
    contribution: Computed | None
    per_minute: Computed | None
    profit: Computed | None
    profit_at_most: Flag
    lack: str | None


@dataclass(frozen=True, slots=True)
class CurvePoint:
    """What a price on the card [money] does: food-cost share and contribution [money]."""

    price: Computed
    food_cost_share: Computed | None
    contribution: Computed


@dataclass(frozen=True, slots=True)
class BreakEven:
    """Portions from which a price pays for what is spent anyhow: of a week, a day, a batch; None where that is not told.

    `batch_of` is how many portions a batch gives; `needed` the prices needed at some numbers of portions a day.
    """

    fixed_week: Computed | None
    fixed_batch: Computed | None
    week: int | None
    day: int | None
    batch: int | None
    batch_of: int | None
    needed: list[NeededPrice]
    lack: str | None


@dataclass(frozen=True, slots=True)
class NeededPrice:
    """The price on the card [money] at which so many portions a day pay for the day."""

    portions: int
    price: Computed


@dataclass(frozen=True, slots=True)
class Rung:
    """One step from a soup to a meal: what it adds in cost, what the guest pays for it, and what that leaves [money].

    `kind` is a serving, something that goes with it for nothing, or an add-on; `uptake` the share of the guests that take it.
    `brings` are the allergens that it brings in; where a label of it is `unread`, there may be others. Of what was kept of the
    pot, `short` says that it does not suffice for all.
    """

    kind: Literal["serving", "included", "add_on"]
    serving: Id
    name: str
    size: str | None
    cost: Computed | None
    price: Computed | None
    kept: Computed | None
    contribution: Computed | None
    uptake: Computed
    expected: Computed | None
    brings: list[str]
    unread: Flag
    short: str | None
    lack: str | None


@dataclass(frozen=True, slots=True)
class Selling:
    """A serving in a channel, with all that its price is decided by."""

    recipe: Id
    name: Name
    serving: Id
    serving_name: Name
    size: str
    channel: Id | None
    sold: Flag
    complete: Flag
    lacking: str | None
    tax: Computed
    commission: Computed
    commission_of: str
    subsidy: Computed
    deposit: Money | None
    target: Computed | None
    decides: PricingMethod | None
    price_set_on: On | None
    is_set: Flag
    coming: ComingPrice | None
    full: FullCost
    minutes: Computed | None
    rows: list[PriceRow]
    curve: list[CurvePoint]
    break_even: BreakEven
    ladder: list[Rung]


def selling_of(
    costing: Costing,
    recipe_id: str,
    portion: Portion,
    channel: str | None,
    typed: Decimal | None = None,
    a_day: int | None = None,
) -> Selling:
    """All of a serving in a channel; a `typed` price is told beside the others, and the price needed at so many `a_day`."""
    one, view = costing.of(recipe_id), costing.view
    figures = SellingFigures.of_channel(costing, one, portion, channel)
    names = [*PRICING_METHODS, IN_FORCE, *(() if typed is None else (f"{AT}{typed:f}",))]
    rows = [price_row(figures.row(name)) for name in names]
    serving, in_force = portion.serving, portion.serving.set_price(view.on, channel)
    decides = portion.priced.pricing
    return Selling(
        recipe_id, one.recipe.name, serving.id, serving.name, serving.size.text, channel,
        channel is None or any(own.channel == channel for own in serving.channels),
        not one.problems, figures.lacking, figures.terms.tax, figures.terms.commission, figures.terms.commission_of,
        figures.terms.subsidy, figures.terms.deposit, portion.priced.target, None if decides is None else decides.method,
        in_force.on, in_force.price is not None, serving.coming_price(view.on, channel), full_cost_of(figures),
        figures.minutes.value, rows, list(_curve(figures, rows)), _break_even(figures, a_day),
        [rung for each in _sold_so(one, portion, channel) for rung in ladder(costing, one, each, channel)],
    )  # fmt: skip


def price_row(row: Row) -> PriceRow:
    """A price and what follows from it, read off its workings."""
    pricing, price, profit = row.pricing, row.price, row.profit
    lack = price.note if price.value is None else None
    if price.value is None and lack is None:
        lack = row.to_keep.note or "the kitchen has no labour rate: set one"
    method = None if pricing is None else pricing[0].method
    return PriceRow(
        row.id, method, None if pricing is None else pricing[0], None if pricing is None else pricing[1],
        price.value, row.kept.value, row.food_cost_share.value, row.gross_profit_share.value, row.contribution.value,
        row.per_minute.value, profit.value, profit.value is not None and profit.note is not None, lack,
    )  # fmt: skip


def full_cost_of(figures: SellingFigures) -> FullCost:
    """The full cost of a portion, part by part, at the price in force."""
    one, portion = figures.one, figures.portion
    base = f"serving/{portion.serving.id}"
    parts: list[CostPart] = []
    lacks: list[str] = []
    food, packaging = figures.food_alone.value, figures.packaging.value
    if food is None:
        lacks.append("food")
    else:
        parts.append(CostPart("food", "food", food, figures.path("food")))
    if packaging is not None and packaging != 0:
        parts.append(CostPart("packaging", "packaging", packaging, figures.path("packaging")))
    for name, words in _LABOUR.items():
        figure = getattr(figures, name)
        if figure.value is not None and figure.value != 0:
            parts.append(CostPart("labour", words, figure.value, figures.path(name)))
    if portion.labour_cost is None:
        lacks.append("labour: the kitchen has no labour rate")
    if portion.energy_cost is None:
        lacks.append("energy: not every stage tells what it takes, or the kitchen has no price of energy")
    else:
        parts += _energy_parts(figures, portion.energy_cost, f"{base}/energy_cost")
    overhead = figures.row(IN_FORCE).overhead.value
    if overhead is None:
        lacks.append("overhead: the kitchen does not say how it is laid on portions")
    elif overhead != 0:
        parts.append(CostPart("overhead", "overhead", overhead, figures.path(f"{IN_FORCE}/overhead")))
    if one.problems:
        lacks.insert(0, "the recipe is incomplete: food is no less than this")
    return FullCost(parts, figures.full_cost.value, lacks)


_LABOUR = {"labour_fixed": "stages", "labour_per_kilo": "preparing, by the kilo", "labour_portioning": "portioning"}


def _energy_parts(figures: SellingFigures, cost: Decimal, path: str) -> Iterator[CostPart]:
    """The energy of each stage, and of the recipes that go in, as they share the cost."""
    whole = figures.one.needs.energy
    own = ZERO
    for here in figures.one.balance.stages:
        if here.energy is not None and here.energy != 0:
            own += here.energy
            name, figure = here.stage.name or here.stage.id, f"stage/{here.stage.id}/energy_kwh"
            yield CostPart("energy", name, cost * here.energy / whole, figure, kwh=here.energy)
    if exceeds(whole, own):
        yield CostPart("energy", "recipes that go in", cost * (whole - own) / whole, path, kwh=whole - own)


def _curve(figures: SellingFigures, rows: list[PriceRow]) -> Iterator[CurvePoint]:
    """Prices from below the lowest in question to above the highest, with what each does."""
    known = [row.price for row in rows if row.price is not None and row.price > 0]
    food = figures.food_cost.value
    if not known or food is None or figures.lacking is not None:
        return
    low, high = min(known) * _BELOW, max(known) * _ABOVE
    for place in range(_POINTS):
        price = low + (high - low) * place / (_POINTS - 1)
        kept = figures.terms.kept(price)
        yield CurvePoint(price, food / kept if kept > 0 else None, kept - food)


def _break_even(figures: SellingFigures, a_day: int | None) -> BreakEven:
    """When the price in force pays for a week, a day, a batch."""
    settings, portion, row = figures.view.settings, figures.portion, figures.row(IN_FORCE)
    left, kept, food = row.contribution.value, row.kept.value, figures.food_cost.value
    nothing = BreakEven(settings.fixed_cost_per_week, None, None, None, None, portion.whole_portions, [], None)
    if left is None or kept is None or food is None or portion.portions is None:
        return nothing
    fixed = settings.fixed_cost_per_week
    batch = _cost_of_batch(figures)
    # What goes with each portion is spent only where one is sold; the pot is made anyhow.
    with_each = food - batch_food(figures) / portion.portions
    for_batch = kept - with_each
    lack = None
    if left <= 0:
        lack = "at this price a portion leaves nothing: no number of portions pays for anything"
    elif fixed is None:
        lack = "say what a week costs before anything is sold, to know how many portions pay for it"
    day = None if fixed is None else fixed / settings.open_days_per_week
    return BreakEven(
        fixed, batch,
        None if fixed is None or left <= 0 else int(portions_to_break_even(fixed, left)),
        None if day is None or left <= 0 else int(portions_to_break_even(day, left)),
        None if batch is None or for_batch <= 0 else int(portions_to_break_even(batch, for_batch)),
        portion.whole_portions, [] if day is None else list(_needed(figures, day, food, a_day)), lack,
    )  # fmt: skip


def batch_food(figures: SellingFigures) -> Decimal:
    """What of the food cost of all portions is in the pot [money], with its seasoning."""
    beside = sum(
        (cost for _, line in figures.portion.extras if isinstance(line, LineMass)
         if (cost := figures.costing.line_cost(line)) is not None), ZERO,
    )  # fmt: skip
    portion = figures.portion
    return ZERO if portion.food_cost is None or portion.portions is None else (portion.food_cost - beside) * portion.portions


def _cost_of_batch(figures: SellingFigures) -> Decimal | None:
    """What a batch costs whether it is sold or not: its food, its attended time, its energy; as far as they are told."""
    settings, needs = figures.view.settings, figures.one.needs
    if figures.lacking is not None:
        return None
    cost = batch_food(figures)
    if settings.labour_rate_per_hour is not None:
        cost += needs.minutes / 60 * settings.labour_rate_per_hour
    if settings.energy_price_per_kwh is not None and needs.energy_known:
        cost += needs.energy * settings.energy_price_per_kwh
    return cost


def _needed(figures: SellingFigures, fixed: Decimal, food: Decimal, a_day: int | None) -> Iterator[NeededPrice]:
    for portions in sorted({10, 20, 40, 80, 160, *(() if a_day is None else (a_day,))}):
        price = figures.terms.price_to_keep(kept_to_break_even(fixed, Decimal(portions), food))
        yield NeededPrice(portions, price)


# -- from soup to meal -------------------------------------------------------------------------------------------------


def _sold_so(one: CostedRecipe, asked: Portion, channel: str | None) -> list[Portion]:
    """The servings of a pot that are sold in a channel, and the one that is asked about, the smallest first."""
    sold = [
        each
        for each in one.portions
        if each is asked or channel is None or any(own.channel == channel for own in each.serving.channels)
    ]
    return sorted(sold, key=lambda each: each.size_g)


def ladder(costing: Costing, one: CostedRecipe, portion: Portion, channel: str | None) -> Iterator[Rung]:
    """The steps of one serving: itself bare, what goes with it, and what may be had for a surcharge."""
    figures = SellingFigures.of_channel(costing, one, portion, channel)
    row, serving, view = figures.row(IN_FORCE), portion.serving, costing.view
    lack = figures.lacking
    price, kept, left = row.price.value, row.kept.value, row.contribution.value
    yield Rung(
        "serving", serving.id, serving.name, serving.size.text, figures.food_cost.value, price, kept, left, ONE, left, [],
        False, None, lack,
    )  # fmt: skip
    for role, line in portion.extras:
        if role == "packaging":
            continue
        if isinstance(line, Problem):
            yield _unknown("included", serving.id, view.name_of(line.item), line.message)
            continue
        typed = line.line
        share = ONE if typed is None else typed.taken_by
        cost = costing.line_cost(line)
        each = None if cost is None else cost / share
        loss = None if cost is None else -cost
        yield Rung(
            "included", serving.id, named(line, view), None, each, ZERO, ZERO, None if each is None else -each, share, loss,
            _brings(costing, line), _unread(costing, line), _short_given(line, typed),
            None if cost is not None else "its price is not known",
        )  # fmt: skip
    for place, add_on in enumerate(serving.add_ons, 1):
        yield _add_on(figures, add_on, place)


def _short_given(line: LineMass, typed: Line | None) -> str | None:
    """Whether less was kept of this pot for each than what is asked for."""
    if typed is None or line.byproduct is None or line.recipe is None or typed.quantity.kind != "mass":
        return None
    asked = typed.quantity.grams() * typed.taken_by
    return f"only {half_even(line.ep, 1)} g are kept for each, of {plain(asked)} asked for" if exceeds(asked, line.ep) else None


def _unknown(kind: Literal["included", "add_on"], serving: str, name: str, lack: str) -> Rung:
    return Rung(kind, serving, name, None, None, None, None, None, ONE, None, [], True, None, lack)


def _add_on(figures: SellingFigures, typed: Line, place: int) -> Rung:
    costing, one, serving, terms = figures.costing, figures.one, figures.portion.serving, figures.terms
    line = line_mass(typed, typed.id or f"add-on-{place}", f"{one.recipe.id}/{serving.id}", None, costing.view)
    if isinstance(line, Problem):
        return _unknown("add_on", serving.id, costing.view.name_of(typed.item, typed.recipe), line.message)
    name, cost, pays = named(line, costing.view), costing.line_cost(line), typed.surcharge
    kept = None if pays is None else terms.kept(pays, subsidised=False)
    left = None if cost is None or kept is None else kept - cost
    lack = None if cost is not None else f"{name} has no price: record what it costs"
    if pays is None:
        lack = "say in the pot what a guest pays for it"
    return Rung(
        "add_on", serving.id, name, typed.quantity.text, cost, pays, kept, left, typed.taken_by,
        None if left is None else left * typed.taken_by, _brings(costing, line), _unread(costing, line),
        _short(figures, line, typed), lack,
    )  # fmt: skip


def _short(figures: SellingFigures, line: LineMass, typed: Line) -> str | None:
    """Whether what was kept of this pot does not suffice for those who take it."""
    one, portions = figures.one, figures.portion.portions
    if portions is None or not one.recipe.keeps(typed):
        return None
    kept = sum((out.mass for here in one.balance.stages for out in here.taken_out if out.take_out.name == line.byproduct), ZERO)
    # What the garnish of this serving takes of it comes first.
    given = sum(
        (extra.ep for _, extra in figures.portion.extras
         if isinstance(extra, LineMass) and extra.recipe == one.recipe.id and extra.byproduct == line.byproduct), ZERO,
    )  # fmt: skip
    left, wanted = kept - given * portions, line.ep * typed.taken_by * portions
    if not exceeds(wanted, left):
        return None
    there = int(floor(max(left, ZERO) / line.ep))
    return f"only {there} of {int(floor(portions * typed.taken_by))} that are asked for can be served of what was kept"


def _brings(costing: Costing, line: LineMass) -> list[str]:
    """The allergens that a line brings; an aid, not clearance."""
    if line.recipe is not None:
        return costing.allergens(line.recipe)
    item = costing.view.items.get(line.item or "")
    return [] if item is None else sorted(item.allergens)


def _unread(costing: Costing, line: LineMass) -> bool:
    """Whether nobody read a label of what a line is made of: no allergens named are then none that are known of."""
    view = costing.view
    ids = {line.item} if line.recipe is None else costing.of(line.recipe).named
    return any(is_unread(view.items[one], view) for one in ids if one in view.items)
