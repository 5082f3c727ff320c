"""One recipe, costed: its mass balance, its needs, its portions, what it costs, what is missing, and how sure it is."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping
from collections.abc import Set as AbstractSet
from types import MappingProxyType
from typing import NamedTuple

from potrel.core.cost.confidence import NOTHING_KNOWN, Confidence, YieldUsed, confidence_of, yields_of
from potrel.core.cost.portion import Portion, costed, portion_of, seasoned
from potrel.core.cost.portioning import handed_out, kept_masses
from potrel.core.errors import Problem, problem
from potrel.core.frozen import dataclass
from potrel.core.kitchen.kinds import ZERO
from potrel.core.kitchen.recipes import Recipe
from potrel.core.numbers.arithmetic import Number, surely, total
from potrel.core.numbers.formula import Many, formula
from potrel.core.pot.balance import Balance, balance_of
from potrel.core.pot.day_view import DayView
from potrel.core.pot.line_mass import LineMass
from potrel.core.pot.needs import Flow, Needs, Taken, flow_of, needs_of, stage_shares
from potrel.core.sentences import say


@formula("kilos to buy * AP price - sum of credits")
def cost_of_line(kilos_to_buy: Number, AP_price: Number, credits: Many) -> Number:
    """What a line of something bought costs [money], the value of its by-products taken off."""
    return kilos_to_buy * AP_price - total(credits)


@formula("pieces * price of one")
def cost_of_pieces(pieces: Number, price_of_one: Number) -> Number:
    """What something costs [money] that goes with a portion by the piece."""
    return pieces * price_of_one


@formula("kilos * cost of the batch / kilos of the batch")
def cost_of_part(kilos: Number, cost_of_the_batch: Number, kilos_of_the_batch: Number) -> Number:
    """What a line that is a recipe costs [money]: its part of the batch, before the seasoning allowance."""
    return kilos * cost_of_the_batch / kilos_of_the_batch


@dataclass(frozen=True, slots=True)
class CostedRecipe:
    """All that is known of one recipe of a kitchen on a day. It never changes: what changes it makes another.

    `cost` is the food cost [money] of a batch before the seasoning allowance; without a price for all it is a lower bound.
    Of what is bought for it, `at_old_prices` is bought at prices that have grown old [money].
    `problems` is all that keeps it from being complete: its own and that of its parts, and missing prices.
    """

    recipe: Recipe
    balance: Balance
    needs: Needs
    taken: Mapping[str, Taken]
    yields: frozenset[YieldUsed]
    portions: tuple[Portion, ...]
    cost: Number = ZERO
    at_old_prices: Number = ZERO
    problems: tuple[Problem, ...] = ()
    confidence: Confidence = NOTHING_KNOWN

    @property
    def mass(self) -> Number:
        """The batch yield [g] in use; 0 where it is not known."""
        return self.balance.mass if self.balance.yield_known else self.balance.mass * 0

    @property
    def cost_per_gram(self) -> Number | None:
        """What one gram costs [money/g] as a line of another recipe; None where the batch yield is not known."""
        return self.cost / self.balance.mass if self.balance.yield_known else None

    @property
    def items(self) -> frozenset[str]:
        """The items whose price its batch or a portion of it bears."""
        found = frozenset(self.needs.borne)
        return found.union(*(portion.extra_needs.borne for portion in self.portions))

    def bears(self, items: AbstractSet[str]) -> bool:
        """Whether its batch or a portion of it bears the price of one of some items."""
        every = (self.needs, *(portion.extra_needs for portion in self.portions))
        return not all(needs.borne.keys().isdisjoint(items) for needs in every)

    def touches(self, items: AbstractSet[str]) -> bool:
        """Whether its batch or a portion of it has to do with one of some items in any way."""
        return self.needs.touch(items) or any(portion.extra_needs.touch(items) for portion in self.portions)

    @property
    def named(self) -> frozenset[str]:
        """The items of which anything is in its batch or beside a portion of it: their allergens matter."""
        return self.needs.named.union(*(portion.extra_needs.named for portion in self.portions))

    def portion(self, serving_id: str) -> Portion | None:
        """A portion by its serving; None where the recipe has none such."""
        return next((one for one in self.portions if one.serving.id == serving_id), None)


class PriceShift(NamedTuple):
    """By how much the prices per gram of some items differ between two views, and those of them that have grown old."""

    prices: Mapping[str, Number]
    old_prices: Mapping[str, Number]


def shift_of(items: Iterable[str], before: DayView, after: DayView) -> PriceShift:
    """What happened to the prices of some items between two views."""
    items = list(items)
    return PriceShift(
        _difference(items, before.prices(), after.prices()), _difference(items, before.old_prices(), after.old_prices())
    )


def _difference(items: Iterable[str], before: Mapping[str, Number], after: Mapping[str, Number]) -> dict[str, Number]:
    return {item: after.get(item, ZERO) - before.get(item, ZERO) for item in items}


# Gives the costed recipe of an id that the kitchen has.
Below = Callable[[str], CostedRecipe]


def cost_recipe(recipe: Recipe, below: Below, view: DayView) -> CostedRecipe:
    """Cost a recipe; `below` gives those that it uses."""
    balance = balance_of(recipe, view)
    taken: Mapping[str, Taken] = {}
    sub, kept = _sub(below), kept_masses(balance)
    given = handed_out(balance, kept, view)
    needs = needs_of(balance, sub, view, given)
    if any(here.taken_out for here in balance.stages):
        taken = flow_of(balance, sub, view, given).taken_by_name(balance, view)
        sub = _sub(below, recipe.id, taken)
    yields = yields_of(recipe, lambda part: below(part).yields, view)
    portions = tuple(portion_of(serving, balance, needs, kept, sub, view) for serving in recipe.servings)
    return priced(CostedRecipe(recipe, balance, needs, taken, yields, portions), below, view)


def priced(one: CostedRecipe, below: Below, view: DayView) -> CostedRecipe:
    """A costed recipe at the prices of a view."""
    return _costed(one, one.needs.cost(view.prices()), one.needs.bought(view.old_prices()), below, view)


def repriced(one: CostedRecipe, shift: PriceShift, below: Below, view: DayView) -> CostedRecipe:
    """A costed recipe in a view of other prices. Its masses and needs stay, so one product an item carries the change."""
    needs = one.needs
    return _costed(one, one.cost + needs.bought(shift.prices), one.at_old_prices + needs.bought(shift.old_prices), below, view)


def _costed(one: CostedRecipe, cost: Number, at_old_prices: Number, below: Below, view: DayView) -> CostedRecipe:
    problems = tuple(_problems(one, below, view))
    batch = seasoned(cost, view.allowance(one.recipe))
    parts = _with_itself(one, below)
    portions = tuple(
        costed(portion, batch, [_beside(extra, parts, view) for _, extra in portion.extras], not problems, view)
        for portion in one.portions
    )
    confidence = confidence_of(one.yields, cost + one.needs.credit_value, at_old_prices)
    return CostedRecipe(
        one.recipe, one.balance, one.needs, one.taken, one.yields, portions, cost, at_old_prices, problems, confidence
    )  # fmt: skip


def _with_itself(one: CostedRecipe, below: Below) -> Below:
    """Costed recipes of what is beside a portion: of the pot itself something may be kept for its garnish."""
    return lambda recipe_id: one if recipe_id == one.recipe.id else below(recipe_id)


def flow(one: CostedRecipe, below: Below, view: DayView) -> Flow:
    """The needs of a recipe stage by stage."""
    return flow_of(one.balance, _sub(below), view, handed_out(one.balance, kept_masses(one.balance), view))


def _sub(below: Below, own: str = "", kept: Mapping[str, Taken] = MappingProxyType({})) -> Callable[[str, str | None], Taken]:
    """What a recipe gives as a line; of the `own` one only what was `kept` of it."""

    def of(recipe_id: str, byproduct: str | None) -> Taken:
        if recipe_id == own:
            return kept[byproduct or ""]
        part = below(recipe_id)
        return Taken(part.needs, part.mass) if byproduct is None else part.taken[byproduct]

    return of


def _beside(extra: LineMass | Problem, below: Below, view: DayView) -> Number:
    cost = None if isinstance(extra, Problem) else line_cost(extra, below, view)
    return view.zero if cost is None else cost


def line_cost(line: LineMass, below: Below, view: DayView) -> Number | None:
    """What a line costs [money], its by-products credited; None where it is not known."""
    if not line.known or line.lack is not None:
        return None
    if line.recipe is not None:
        part = below(line.recipe)
        if line.byproduct is None:
            return cost_of_part(line.ap / 1000, part.cost, part.mass / 1000) if surely(part.mass > 0) else None
        needs, mass = part.taken[line.byproduct]
        return cost_of_part(line.ep / 1000, needs.cost(view.prices()), mass / 1000) if surely(mass > 0) else None
    if line.counted is not None:
        each = view.per_piece(line.item or "")
        return None if each is None else cost_of_pieces(line.ap, each)
    credits = [credit.worth for credit in line.credits]
    if not bears_price(line):
        return -total(credits)
    price = view.per_kg(line.item or "")
    return None if price is None else cost_of_line(priced_mass(line) / 1000, price, credits)


def bears_price(line: LineMass) -> bool:
    """Whether a line of an item bears a part of its price: a credited by-product has only its value."""
    return line.byproduct is None or line.carried is not None


def priced_mass(line: LineMass) -> Number:
    """The AP mass [g] whose price a line bears: all that is bought, but for what its by-products carry."""
    return line.ap if line.carried is None else line.ap - line.carried


def _problems(one: CostedRecipe, below: Below, view: DayView) -> Iterator[Problem]:
    yield from one.balance.problems
    prices, counted = view.prices(), view.counted_units()
    for line in one.balance.lines:
        if line.item not in prices or line.lack is not None or line.item in counted:
            yield from _line_problems(line, line.stage, below, view)
    for used_up in one.balance.beside:
        if isinstance(used_up, LineMass):
            yield from _line_problems(used_up, None, below, view)
        else:
            yield used_up
    for here in one.balance.stages:
        if here.taken_out and stage_shares(here, view.settings.byproduct_method, view) is None:
            english = 'stage "{stage}": say what a kilo of what goes on is worth, to share its cost by market value'
            said = say("value_of_what_goes_on", english, stage=here.stage.name or here.stage.id)
            yield problem("missing_fact", said, here.stage.id)
    for portion in one.portions:
        for _, extra in portion.extras:
            if isinstance(extra, Problem):
                yield extra
            elif extra.recipe != one.recipe.id:
                yield from _line_problems(extra, None, below, view)


def _line_problems(line: LineMass, stage: str | None, below: Below, view: DayView) -> Iterator[Problem]:
    if not line.known:
        return
    if line.lack is not None:
        said = say("say_what", "{item}: say {lack}", item=view.name_of(line.item), lack=line.lack.said)
        yield problem("missing_fact", said, stage, line.id, line.item)
    elif line.recipe is not None:
        inside = below(line.recipe).problems
        if inside:
            english = "{recipe} is incomplete: {problem}"
            said = say("incomplete_part", english, recipe=view.name_of(None, line.recipe), problem=inside[0].message)
            yield problem("incomplete_part", said, stage, line.id)
    elif bears_price(line) and (view.per_gram if line.counted is None else view.per_piece)(line.item or "") is None:
        yield _no_price(line, stage, view)


def _no_price(line: LineMass, stage: str | None, view: DayView) -> Problem:
    item = view.items[line.item or ""]
    price = view.price(item.id)
    if price is not None and price.lack is not None:
        english = "{item} has no price per kilo: its pack is {pack}, and {lack}"
        said = say("pack_without_weight", english, item=item.name, pack=price.offer.pack, lack=price.lack.said)
        return problem("missing_weight", said, stage, line.id, item.id, price.lack.unit)
    english = "{item} has no price on {day}: record what it costs"
    said = say("no_price", english, item=item.name, day=view.on.isoformat())
    return problem("missing_price", said, stage, line.id, item.id)
