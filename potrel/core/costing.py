"""Money over the mass balance: what a recipe's lines, stages, batch and portions cost, on a day."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from collections.abc import Set as AbstractSet
from dataclasses import dataclass, field, replace
from datetime import date
from decimal import Decimal
from typing import Literal, NamedTuple, TypeVar

from potrel.core.arithmetic import Convert, Number, same
from potrel.core.balance import Balance, LineMass, balance_of, line_mass
from potrel.core.errors import Problem, Warning
from potrel.core.facts import Facts
from potrel.core.fields import ONE, ZERO, Computed
from potrel.core.graph import above, order_of
from potrel.core.kitchen import Kitchen, Pricing, Recipe, Serving
from potrel.core.needs import Needs, TakenNeeds, flow_of, needs_of, stage_shares
from potrel.core.part import Part
from potrel.core.pricing import food_cost_share, gross_price, kept_of, needs_labour, net_price
from potrel.core.quantities import parse_quantity
from potrel.core.supply import Offer

Rests = Literal["own_tests", "book", "estimate"]
YieldSort = Literal["preparation", "cooking"]
T = TypeVar("T")
# Common practice, no source: a starter is 120 to 240 ml, a main 250 to 450 ml.
_USUAL_ML = (Decimal(120), Decimal(450))


@dataclass(slots=True)
class Portion:
    """One portion of a serving: how many a batch gives, its needs and its cost [money]; None where not known."""

    serving: Serving
    size_g: Number
    by_volume: bool
    portions: Number | None
    extras: list[tuple[str, LineMass | Problem]]
    extra_needs: Needs
    # What one portion carries of a batch's needs: (1 + seasoning allowance) / portions.
    factor: Number | None
    food_cost: Number | None
    labour_cost: Number | None = None
    energy_cost: Number | None = None
    overhead_cost: Number | None = None
    # What `priced` found, kept as long as the cost is the same.
    priced: Priced | None = field(default=None, init=False)


@dataclass(frozen=True, slots=True)
class Sureness(Part):
    """The number of yields by what they rest on, and the share of the ingredients' cost bought at old prices."""

    own_tests: int
    book: int
    estimate: int
    old_price_share: Computed


class YieldUsed(NamedTuple):
    """A yield that a recipe rests on: of an item's preparation or cooking method, and what it rests on itself."""

    item: str
    sort: YieldSort
    of: str
    rests: Rests


@dataclass(slots=True)
class _Costed:
    """What has been computed so far, by recipe."""

    balances: dict[str, Balance] = field(default_factory=dict)
    needs: dict[str, Needs] = field(default_factory=dict)
    costs: dict[str, Number] = field(default_factory=dict)
    problems: dict[str, list[Problem]] = field(default_factory=dict)
    portions: dict[str, list[Portion]] = field(default_factory=dict)
    yields: dict[str, frozenset[YieldUsed]] = field(default_factory=dict)
    sureness: dict[str, Sureness] = field(default_factory=dict)
    taken: dict[str, dict[str, TakenNeeds]] = field(default_factory=dict)

    def without(self, recipes: AbstractSet[str]) -> _Costed:
        return _Costed(
            _kept(self.balances, recipes), _kept(self.needs, recipes), _kept(self.costs, recipes),
            _kept(self.problems, recipes), _kept(self.portions, recipes), _kept(self.yields, recipes),
            _kept(self.sureness, recipes), _kept(self.taken, recipes),
        )  # fmt: skip


def _kept(known: dict[str, T], touched: AbstractSet[str]) -> dict[str, T]:
    return {recipe: value for recipe, value in known.items() if recipe not in touched}


class Costing:
    """A kitchen costed on a day. Everything is computed when first asked for, and kept."""

    def __init__(self, kitchen: Kitchen, on: date, number: Convert = same) -> None:
        self._begin(Facts(kitchen, on), number)

    def _begin(self, facts: Facts, number: Convert) -> None:
        self.facts = facts
        self.on = facts.on
        self.number = number
        target = facts.settings.target_food_cost
        self.usual_pricing = None if target is None else Pricing("food_cost_share", share=target)
        # The recipes whose cost is another than in the costing that this one was made from; None where all may be.
        self.moved: frozenset[str] | None = None
        self._known = _Costed()
        self._per_gram: dict[str, Decimal | None] = {}

    def _over(self, facts: Facts) -> Costing:
        later = Costing.__new__(Costing)
        later._begin(facts, self.number)
        return later

    # -- what is known of a recipe -------------------------------------------------------------------------------

    def balance(self, recipe_id: str) -> Balance:
        """The mass balance of a recipe."""
        known = self._known.balances.get(recipe_id)
        if known is None:
            recipe = self.facts.recipes[recipe_id]
            known = self._known.balances[recipe_id] = balance_of(recipe, self.facts, self.number)
        return known

    def needs(self, recipe_id: str) -> Needs:
        """The needs of one batch of a recipe."""
        self._below(recipe_id, self._known.needs, self._explode)
        return self._known.needs[recipe_id]

    def cost(self, recipe_id: str) -> Number:
        """The food cost [money] of one batch, before the seasoning allowance, from its needs."""
        known = self._known.costs.get(recipe_id)
        if known is None:
            known = self._known.costs[recipe_id] = self.needs(recipe_id).cost(self.per_gram)
        return known

    def cost_per_gram(self, recipe_id: str) -> Number | None:
        """What one gram of a recipe costs [money/g] as a line of another: before the seasoning allowance.

        None where its batch yield is not known.
        """
        return self.cost(recipe_id) / self.balance(recipe_id).mass if self.mass_known(recipe_id) else None

    def problems(self, recipe_id: str) -> list[Problem]:
        """All that keeps a recipe from being complete: its own and that of its parts, and missing prices."""
        self._below(recipe_id, self._known.problems, self._find_problems)
        return self._known.problems[recipe_id]

    def per_gram(self, item_id: str) -> Decimal | None:
        """The AP price [money/g] of an item today."""
        if item_id not in self._per_gram:
            price = self.facts.per_gram(item_id)
            self._per_gram[item_id] = None if price is None else self.number(price)
        return self._per_gram[item_id]

    def per_kg(self, item_id: str) -> Decimal | None:
        """The AP price [money/kg] of an item today."""
        per_gram = self.per_gram(item_id)
        return None if per_gram is None else per_gram * 1000

    def allowance(self, recipe: Recipe) -> Decimal:
        """The seasoning allowance [share]: the recipe's own, else the kitchen's."""
        own = recipe.seasoning_allowance
        return self.facts.settings.seasoning_allowance if own is None else own

    def portions(self, recipe_id: str) -> list[Portion]:
        """Each serving of a recipe, portioned and costed."""
        known = self._known.portions.get(recipe_id)
        if known is None:
            recipe = self.facts.recipes[recipe_id]
            known = self._known.portions[recipe_id] = [self._portion(recipe, s) for s in recipe.servings]
        return known

    def allergens(self, recipe_id: str) -> list[str]:
        """The allergens of all items in a batch and on its servings, in order; an aid, not clearance."""
        items = set(self.needs(recipe_id).named)
        for portion in self.portions(recipe_id):
            items |= portion.extra_needs.named
        return sorted({a for i in items if i in self.facts.items for a in self.facts.items[i].allergens})

    @property
    def yields(self) -> dict[str, frozenset[YieldUsed]]:
        """The yields that each recipe rests on, as far as they were collected (see `sureness`)."""
        return self._known.yields

    @property
    def sureness(self) -> dict[str, Sureness]:
        """How sure each recipe's cost is, as far as that was asked for."""
        return self._known.sureness

    def line_cost(self, line: LineMass) -> Number | None:
        """What a line costs [money], its by-products credited; None where it is not known."""
        if not line.known:
            return None
        if line.recipe is not None and line.byproduct is not None:
            needs, mass = self.taken(line.recipe, line.byproduct)
            return needs.cost(self.per_gram) * line.ep / mass if mass > 0 else None
        if line.recipe is not None:
            per_gram = self.cost_per_gram(line.recipe)
            return None if per_gram is None else line.ap * per_gram
        if line.lack is not None:
            return None
        cost = self.number(ZERO)
        if self.bears_price(line):
            price = self.per_gram(line.item or "")
            if price is None:
                return None
            cost = (line.ap if line.carried is None else line.ap - line.carried) * price
        for credit in line.credits:
            cost = cost - credit.mass * self.number(credit.value_per_kg) / 1000
        return cost

    @staticmethod
    def bears_price(line: LineMass) -> bool:
        """Whether a line of an item bears a part of its price: a credited by-product has only its value."""
        return line.byproduct is None or line.carried is not None

    def taken(self, recipe_id: str, name: str) -> TakenNeeds:
        """What is taken out of a recipe by a name: what it bears, and its mass [g]."""
        known = self._known.taken.get(recipe_id)
        if known is None:
            self.needs(recipe_id)
            method = self.facts.settings.byproduct_method
            known = flow_of(self.balance(recipe_id), self._sub, method, self.number)[1]
            self._known.taken[recipe_id] = known
        return known[name]

    # -- other kitchens ------------------------------------------------------------------------------------------

    def replacing(self, recipe: Recipe) -> Costing:
        """This kitchen with a recipe added or replaced, keeping what that does not touch. RecipeLoop on a loop."""
        draft = self._over(self.facts.with_recipe(recipe))
        order_of([recipe.id], draft.facts.uses)
        draft.moved = frozenset({recipe.id} | self.users_of(recipe.id))
        draft._known = self._known.without(draft.moved)
        draft._per_gram = self._per_gram
        return draft

    def users_of(self, recipe_id: str) -> set[str]:
        """The recipes that contain a recipe, at any depth."""
        return above([recipe_id], ((one, self.facts.uses(one)) for one in self.facts.recipes)) - {recipe_id}

    def with_offers(self, offers: Iterable[Offer]) -> Costing:
        """This kitchen with more offers recorded. What moved is carried to every recipe by its needs, nothing costed anew."""
        offers = tuple(offers)
        later = self._over(self.facts.with_offers(offers))
        touched = {offer.item for offer in offers}
        if any(later.facts.drained_yield(item) != self.facts.drained_yield(item) for item in touched):
            return later
        later._per_gram = {item: price for item, price in self._per_gram.items() if item not in touched}
        moves = {item: (self.per_gram(item), later.per_gram(item)) for item in sorted(touched)}
        unpriced = {item for item, (was, now) in moves.items() if was is None or now is None}
        changes = {i: now - was for i, (was, now) in moves.items() if was is not None and now is not None and was != now}
        # A price that stands still is newer all the same, which tells how sure a cost is.
        later.moved = frozenset(self._reached(touched))
        later._known = self._known.without(self._reached(unpriced) if unpriced else frozenset())
        for recipe in later.moved:
            later._known.sureness.pop(recipe, None)
        later._carry(changes)
        return later

    def _reached(self, items: set[str]) -> set[str]:
        """The recipes of which something is known that rests on one of the items."""
        known = self._known
        found = {one for one in known.needs.keys() | known.problems.keys() if not items.isdisjoint(self.needs(one).borne)}
        for recipe, portions in known.portions.items():
            if any(not items.isdisjoint(portion.extra_needs.borne) for portion in portions):
                found.add(recipe)
        return found

    def _carry(self, changes: dict[str, Decimal]) -> None:
        """Move the known costs by need * change of price."""
        known = self._known
        for item, change in changes.items():
            for recipe, cost in known.costs.items():
                mass = known.needs[recipe].borne.get(item)
                if mass is not None:
                    known.costs[recipe] = cost + mass * change
            for recipe, portions in known.portions.items():
                needs = known.needs.get(recipe)
                mass = None if needs is None else needs.borne.get(item)
                if mass is not None or any(item in portion.extra_needs.borne for portion in portions):
                    known.portions[recipe] = [_repriced(p, item, mass or ZERO, change) for p in portions]

    # -- how it is computed --------------------------------------------------------------------------------------

    def _below(self, recipe_id: str, known: dict[str, T], compute: Callable[[str], T]) -> None:
        """Compute something of a recipe, and before it of all that it contains, unless it is known."""
        if recipe_id in known:
            return
        if all(part in known for part in self.facts.uses(recipe_id)):
            known[recipe_id] = compute(recipe_id)
            return
        for part in order_of([recipe_id], self.facts.uses, known):
            known[part] = compute(part)

    def _sub(self, recipe_id: str, byproduct: str | None = None) -> TakenNeeds:
        if byproduct is not None:
            return self.taken(recipe_id, byproduct)
        mass = self.balance(recipe_id).mass if self.mass_known(recipe_id) else self.number(ZERO)
        return TakenNeeds(self.needs(recipe_id), mass)

    def _explode(self, recipe_id: str) -> Needs:
        return needs_of(self.balance(recipe_id), self._sub, self.facts.settings.byproduct_method, self.number)

    def _find_problems(self, recipe_id: str) -> list[Problem]:
        balance = self.balance(recipe_id)
        found = list(balance.problems)
        for line in balance.lines:
            found += self._line_problems(line, line.stage)
        for here in balance.stages:
            if stage_shares(here, self.facts.settings.byproduct_method, self.number) is None:
                label = here.stage.name or here.stage.id
                message = f'stage "{label}": say what a kilo of what goes on is worth, to share its cost by market value'
                found.append(Problem("missing_fact", message, here.stage.id))
        for portion in self.portions(recipe_id):
            for _, extra in portion.extras:
                found += [extra] if isinstance(extra, Problem) else self._line_problems(extra, None)
        return found

    def _line_problems(self, line: LineMass, stage: str | None) -> list[Problem]:
        if not line.known:
            return []
        if line.lack is not None:
            message = f"{self.facts.name_of(line.item)}: say {line.lack}"
            return [Problem("missing_fact", message, stage, line.id, line.item)]
        if line.recipe is None:
            if not self.bears_price(line) or self.per_gram(line.item or "") is not None:
                return []
            return [self._no_price(line, stage)]
        inside = self.problems(line.recipe)
        if not inside:
            return []
        message = f"{self.facts.name_of(None, line.recipe)} is incomplete: {inside[0].message}"
        return [Problem("incomplete_part", message, stage, line.id)]

    def _no_price(self, line: LineMass, stage: str | None) -> Problem:
        item = self.facts.items[line.item or ""]
        price = self.facts.price(item.id)
        if price is not None and price.lack is not None:
            message = f"{item.name} has no price per kilo: its pack is {price.offer.pack}, and {price.lack}"
            return Problem("missing_weight", message, stage, line.id, item.id, price.lack.unit)
        message = f"{item.name} has no price on {self.on.isoformat()}: record what it costs"
        return Problem("missing_price", message, stage, line.id, item.id)

    def mass_known(self, recipe_id: str) -> bool:
        """Whether the batch yield of a recipe is known: all its masses are, or it was measured and that is used."""
        balance = self.balance(recipe_id)
        return balance.mass > 0 and (balance.recipe.use_measured_yield or balance.mass_known)

    def _portion(self, recipe: Recipe, serving: Serving) -> Portion:
        number, facts = self.number, self.facts
        balance = self.balance(recipe.id)
        size = number(facts.bulk_grams(serving.size, recipe.density))
        portions = balance.mass * number(ONE - facts.settings.serving_loss) / size
        known = self.mass_known(recipe.id) and portions > 0
        extras = [
            (role, line_mass(line, line.id or f"{role}-{place}", None, facts, number))
            for place, (role, line) in enumerate(serving.extras, 1)
        ]
        extra_needs = Needs(number)
        for _, extra in extras:
            if isinstance(extra, LineMass):
                extra_needs.add_line(extra, self._sub)
            elif extra.item is not None:
                extra_needs.items.setdefault(extra.item, ZERO)
        factor = (number(ONE) + number(self.allowance(recipe))) / portions if known else None
        portion = Portion(
            serving, size, parse_quantity(serving.size).kind == "volume", portions if known else None,
            extras, extra_needs, factor, None,
        )  # fmt: skip
        if factor is not None:
            portion.food_cost = self.cost(recipe.id) * factor + extra_needs.cost(self.per_gram)
            self._add_time(portion, self.needs(recipe.id), portions)
        return portion

    def _add_time(self, portion: Portion, needs: Needs, portions: Number) -> None:
        settings, number = self.facts.settings, self.number
        hours = needs.minutes / 60 / portions + number(portion.serving.portioning_seconds) / 3600
        if settings.labour_rate_per_hour is not None:
            portion.labour_cost = hours * number(settings.labour_rate_per_hour)
        if settings.overhead_rate_per_hour is not None:
            portion.overhead_cost = hours * number(settings.overhead_rate_per_hour)
        if settings.energy_price_per_kwh is not None:
            portion.energy_cost = needs.energy / portions * number(settings.energy_price_per_kwh)


def _repriced(portion: Portion, item: str, in_batch: Number, change: Number) -> Portion:
    if portion.factor is None or portion.food_cost is None:
        return portion
    need = in_batch * portion.factor + portion.extra_needs.borne.get(item, ZERO)
    return replace(portion, food_cost=portion.food_cost + need * change)


def serving_warnings(portion: Portion, density: Decimal) -> list[Warning]:
    """Warnings where a portion is smaller or larger than kitchens serve, or lacks a rate that its price rests on."""
    serving, (low, high) = portion.serving, _USUAL_ML
    found: list[str] = []
    if not low <= portion.size_g / density <= high:
        found.append(f"{serving.name} of {serving.size} is outside the usual {low} to {high} ml of a portion")
    if serving.pricing is not None and needs_labour(serving.pricing) and portion.labour_cost is None:
        found.append(f"{serving.name} is priced by its labour too, but the kitchen has no labour rate: set one")
    return [Warning(message, serving=serving.id) for message in found]


@dataclass(frozen=True, slots=True)
class Priced:
    """The price of a portion and what follows from it [money and shares]; None where it is not known."""

    pricing: Pricing | None
    net: Decimal | None
    suggested: Decimal | None
    price: Decimal | None
    kept: Decimal | None
    share: Decimal | None
    target: Decimal | None
    contribution: Decimal | None


def priced(costing: Costing, recipe_id: str, portion: Portion) -> Priced:
    """The computed and the set price of a portion. From the cost of an incomplete recipe nothing is concluded."""
    if portion.priced is None:
        portion.priced = _priced(costing, portion, not costing.problems(recipe_id))
    return portion.priced


def _priced(costing: Costing, portion: Portion, complete: bool) -> Priced:
    settings, serving, food = costing.facts.settings, portion.serving, portion.food_cost
    pricing = serving.pricing or costing.usual_pricing
    by_share = pricing is not None and pricing.method == "food_cost_share"
    target = pricing.share if pricing is not None and by_share else settings.target_food_cost
    net = suggested = kept = share = contribution = None
    if pricing is not None and food is not None and complete:
        net = net_price(pricing, food, portion.labour_cost, serving.commission)
    if net is not None:
        suggested = gross_price(net, settings.tax_rate, settings.price_ending)
    price = suggested if serving.price is None else serving.price
    if price is not None:
        kept = kept_of(price, settings.tax_rate, serving.commission)
    if kept is not None and food is not None and complete:
        share, contribution = food_cost_share(food, kept), kept - food
    return Priced(pricing, net, suggested, price, kept, share, target, contribution)
