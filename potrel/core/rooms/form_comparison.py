"""What a usable kilo or a ready litre costs in each form it can be bought or made in, with and without the labour."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import replace
from decimal import Decimal

from potrel.core.cost.costing import Costing
from potrel.core.errors import BadDocument
from potrel.core.frozen import dataclass
from potrel.core.kitchen.items import ByproductMethod, Item
from potrel.core.kitchen.kinds import ONE, ZERO, Computed, plain
from potrel.core.kitchen.kitchen import Comparison, ReadyUnit
from potrel.core.numbers.arithmetic import Number, total
from potrel.core.numbers.formula import Many, formula
from potrel.core.pot.line_mass import to_buy_for
from potrel.core.rooms.exchanges.strengths import Form, form_of
from potrel.core.sentences import Sentence, say
from potrel.core.trim.byproducts import Step, Trimmed, trimmed

_THOUSAND = Decimal(1000)
_WHOLE = Trimmed(ONE)


@formula("kilos to buy * AP price * share that it bears - value of by-products")
def cost_of_form(
    kilos_to_buy: Number, AP_price: Number, share_that_it_bears: Number = ONE, value_of_by__products: Number = ZERO
) -> Number:
    """What a kilo or litre of something bought costs [money]."""
    return kilos_to_buy * AP_price * share_that_it_bears - value_of_by__products


@formula("cost of the batch / kilos of the batch * kilos in one")
def cost_of_made(cost_of_the_batch: Number, kilos_of_the_batch: Number, kilos_in_one: Number) -> Number:
    """What a kilo or litre of something made here costs [money], before its seasoning."""
    return cost_of_the_batch / kilos_of_the_batch * kilos_in_one


@formula("minutes / 60 * labour rate")
def labour_of_form(minutes: Number, labour_rate: Number) -> Number:
    """The labour of a kilo or litre [money]."""
    return minutes / 60 * labour_rate


@formula("cost + labour")
def with_labour(cost: Number, labour: Number = ZERO) -> Number:
    """Both together [money]."""
    return cost + labour


@formula("cost / strength")
def cost_as_strong(cost: Number, strength: Number) -> Number:
    """What as much of a form costs [money] as is as strong as a kilo of the usual one."""
    return cost / strength


@formula("grams to buy * salt in it")
def salt_of_form(grams_to_buy: Number, salt_in_it: Number) -> Number:
    """The salt that a kilo or litre brings [g]."""
    return grams_to_buy * salt_in_it


@formula("sum of salts / kilos of the batch * kilos in one")
def salt_of_made(salts: Many, kilos_of_the_batch: Number, kilos_in_one: Number) -> Number:
    """The salt that goes into a kilo or litre of something made here [g], as far as it is noted."""
    return total(salts) / kilos_of_the_batch * kilos_in_one


@formula("(cheapest other + value of by-products - labour) / (kilos to buy * share that it bears)")
def flips_at(
    cheapest_other: Number,
    kilos_to_buy: Number,
    value_of_by__products: Number = ZERO,
    labour: Number = ZERO,
    share_that_it_bears: Number = ONE,
) -> Number:
    """The AP price [money/kg] at which a form costs as much as the cheapest other, labour included."""
    return (cheapest_other + value_of_by__products - labour) / (kilos_to_buy * share_that_it_bears)


@dataclass(frozen=True, slots=True)
class UsableForm:
    """One form: its cost, trim or cooking labour and their total [money per kilo or litre]; None where not known.

    `labour` is None where the kitchen has no rate. `wins_at` is the AP price [money/kg] at which the form would cost
    as much as the cheapest other, labour included: below it this form wins. `salt_g` is the salt that it brings [g];
    of a recipe, the salt that goes in with what has its salt noted. Of forms that give the same taste, a kilo of one is as
    strong as `strength` kilos of the usual one, from `strength_low` to `strength_high`; `as_strong` is what it costs for that.
    """

    form: str
    name: str
    cost: Computed | None
    labour: Computed | None
    total: Computed | None
    salt_g: Computed | None
    per_kg: Computed | None
    wins_at: Computed | None
    lack: str | None
    as_strong: Computed | None
    strength: Computed | None
    strength_low: Computed | None
    strength_high: Computed | None


@dataclass(frozen=True, slots=True)
class UsableComparison:
    """Forms side by side, with the cheapest of them by cost alone and with labour."""

    unit: ReadyUnit
    forms: list[UsableForm]
    cheapest: str | None
    cheapest_with_labour: str | None


@dataclass(frozen=True, slots=True)
class KeptComparison:
    """A comparison that the kitchen keeps, as it stands today; `lack` says why it cannot be made any more."""

    comparison: Comparison
    found: UsableComparison | None
    lack: str | None


@dataclass(frozen=True, slots=True)
class FormParts:
    """What a kilo or litre of a form is made of.

    Of something bought: what has to be bought for it [kg], at what price [money/kg], through which steps, with the share of
    the cost it bears and the value of what falls off. Of something made here: the batch's cost [money] and mass [kg].
    `kilos_in_one` is what has to be ready for a kilo or litre [kg], `whence` how that came about; `minutes` is its labour.
    """

    name: str
    recipe: str | None = None
    item: Item | None = None
    steps: tuple[Step, ...] = ()
    kilos: Decimal | None = None
    trim: Trimmed = _WHOLE
    whence: str = "a kilo as bought"
    minutes: Decimal = ZERO
    salts: tuple[tuple[Item, Decimal, Decimal], ...] = ()
    salt_share: Decimal | None = None
    price: Decimal | None = None
    batch_cost: Decimal | None = None
    batch_kilos: Decimal | None = None
    kilos_in_one: Decimal = ONE
    lack: Sentence | None = None

    def cost(self) -> Decimal | None:
        """What a kilo or litre costs [money], without the labour."""
        if self.batch_cost is not None and self.batch_kilos is not None:
            return cost_of_made(self.batch_cost, self.batch_kilos, self.kilos_in_one)
        if self.kilos is None or self.price is None:
            return None
        return cost_of_form(self.kilos, self.price, self.trim.share, self.trim.credit)

    def labour(self, rate: Decimal | None) -> Decimal | None:
        """The labour in it [money] at a rate an hour; None where the kitchen has none."""
        return None if rate is None else labour_of_form(self.minutes, rate)

    def total(self, rate: Decimal | None) -> Decimal | None:
        """Both together; without the labour where the kitchen has no rate."""
        cost, labour = self.cost(), self.labour(rate)
        return cost if cost is None or labour is None else with_labour(cost, labour)

    def salt(self) -> Decimal | None:
        """The salt that it brings [g]; None where nothing is noted of it."""
        if self.batch_kilos is not None:
            return salt_of_made([mass * share for _, mass, share in self.salts], self.batch_kilos, self.kilos_in_one)
        if self.kilos is None or self.salt_share is None:
            return None
        return salt_of_form(self.kilos * _THOUSAND, self.salt_share)

    def wins_at(self, rate: Decimal | None, cheapest_other: Decimal | None) -> Decimal | None:
        """The AP price [money/kg] at which it costs as much as the cheapest other; None where no price would do that."""
        if cheapest_other is None or self.kilos is None or self.trim.share <= 0:
            return None
        labour = self.labour(rate)
        price = flips_at(cheapest_other, self.kilos, self.trim.credit, ZERO if labour is None else labour, self.trim.share)
        return price if price > 0 else None


def compare_forms(costing: Costing, forms: Sequence[str], unit: ReadyUnit) -> UsableComparison:
    """Compare forms, written as "ITEM", "ITEM:PREPARATION+PREPARATION" or "recipe/RECIPE".

    cost = (AP price - credits) / yield, plus trim labour at the kitchen's rate; for a litre by density, or by the litres
    that a kilo of a base or cube makes. BadDocument for a form of something that the kitchen does not have.
    """
    parts = {form: form_parts(costing, form, unit) for form in forms}
    rate = costing.view.settings.labour_rate_per_hour
    totals = {form: total for form, part in parts.items() if (total := part.total(rate)) is not None}
    costs = {form: cost for form, part in parts.items() if (cost := part.cost()) is not None}
    return UsableComparison(
        unit=unit,
        forms=[_form(form, part, rate, totals, strength_beside(part, parts.values(), unit)) for form, part in parts.items()],
        cheapest=min(costs, key=lambda form: costs[form], default=None),
        cheapest_with_labour=min(totals, key=lambda form: totals[form], default=None),
    )


def kept_comparisons(costing: Costing) -> list[KeptComparison]:
    """The comparisons that the kitchen keeps, made anew."""
    kept = []
    for one in costing.view.kitchen.comparisons:
        try:
            kept.append(KeptComparison(one, compare_forms(costing, one.forms, one.unit), None))
        except BadDocument as gone:
            kept.append(KeptComparison(one, None, gone.message.english))
    return kept


def strength_beside(part: FormParts, others: Iterable[FormParts], unit: ReadyUnit) -> Form | None:
    """How strong a form is, where it is compared by the kilo to another that gives the same taste; else None."""
    own = None if part.item is None or unit != "kg" else form_of(part.item.name)
    groups = [found.group for one in others if one.item is not None and (found := form_of(one.item.name)) is not None]
    return own if own is not None and groups.count(own.group) > 1 else None


def _form(form: str, part: FormParts, rate: Decimal | None, totals: dict[str, Decimal], strength: Form | None) -> UsableForm:
    others, total_ = [total for other, total in totals.items() if other != form], part.total(rate)
    return UsableForm(
        form=form,
        name=part.name,
        cost=part.cost(),
        labour=part.labour(rate),
        total=part.total(rate),
        salt_g=part.salt(),
        per_kg=part.price,
        wins_at=part.wins_at(rate, min(others, default=None)),
        lack=None if part.lack is None else part.lack.english,
        as_strong=None if strength is None or total_ is None else cost_as_strong(total_, strength.strength),
        strength=None if strength is None else strength.strength,
        strength_low=None if strength is None else strength.low,
        strength_high=None if strength is None else strength.high,
    )


def form_parts(costing: Costing, form: str, unit: ReadyUnit) -> FormParts:
    """What one kilo or litre of a form is made of; BadDocument for a form of something that the kitchen does not have."""
    view = costing.view
    if form.startswith("recipe/"):
        return _of_recipe(costing, form.removeprefix("recipe/"), unit)
    item_id, _, prepared = form.partition(":")
    item = view.items.get(item_id)
    if item is None:
        raise BadDocument("form", say("form_of_no_item", 'no item has the id "{item}"', item=item_id))
    steps = tuple(_step(costing, item, one) for one in prepared.split("+") if one)
    names = ", ".join(step.preparation.name for step in steps)
    name, per_kg = f"{item.name}, {names}" if names else item.name, view.per_kg(item.id)
    whence = "a usable kilo" if steps else "a kilo as bought"
    part = FormParts(name, item=item, steps=steps, price=per_kg, salt_share=item.salt, whence=whence)
    part = _in_one(part, unit)
    if part.lack is None and part.price is None:
        english = "{item} has no price on {day}: record what it costs"
        return replace(part, lack=say("no_price", english, item=item.name, day=costing.on.isoformat()))
    return part if part.lack is not None else _bought(part, view.byproduct_method(item))


def _step(costing: Costing, item: Item, preparation_id: str) -> Step:
    found = costing.view.step(item, preparation_id)
    if found is None:
        english = '{item} has no preparation "{preparation}"'
        raise BadDocument("form", say("form_not_prepared_so", english, item=item.name, preparation=preparation_id))
    return found


def _in_one(part: FormParts, unit: ReadyUnit) -> FormParts:
    """What has to be ready for a kilo or a litre."""
    item = part.item
    if unit == "kg" or item is None:
        return part
    if item.ready_litres_per_kg is not None:
        whence = f"{part.whence} / {plain(item.ready_litres_per_kg)} litres that a kilo makes"
        return replace(part, kilos_in_one=ONE / item.ready_litres_per_kg, whence=whence)
    if item.density is not None:
        return replace(part, kilos_in_one=item.density, whence=f"a litre of {plain(item.density)} kg")
    english = "{item} has no density, nor the litres that a kilo of it makes: add one of them"
    return replace(part, lack=say("no_litre", english, item=item.name))


def _bought(part: FormParts, method: ByproductMethod) -> FormParts:
    """What has to be bought for it, what becomes of that at its preparations, and the minutes that they take."""
    kilos = to_buy_for(part.kilos_in_one, [step.yield_ for step in part.steps]) if part.steps else part.kilos_in_one
    left, minutes = kilos, ZERO
    for step in part.steps:
        per_kilo = step.preparation.minutes_per_kg
        minutes += ZERO if per_kilo is None else left * per_kilo
        left *= step.yield_
    trim = trimmed(kilos * _THOUSAND, part.steps, method)
    if trim.lack is None:
        return replace(part, kilos=kilos, trim=trim, minutes=minutes)
    return replace(part, price=None, lack=say("say_lack", "say {lack}", lack=trim.lack.said))


def _of_recipe(costing: Costing, recipe_id: str, unit: ReadyUnit) -> FormParts:
    recipe = costing.view.recipes.get(recipe_id)
    if recipe is None:
        raise BadDocument("form", say("form_of_no_recipe", 'no recipe has the id "{recipe}"', recipe=recipe_id))
    one = costing.of(recipe_id)
    if one.problems:
        problem = one.problems[0]
        return FormParts(recipe.name, recipe_id, lack=Sentence(problem.message_code, problem.message, problem.params))
    kilos_in_one, batch = recipe.density if unit == "l" else ONE, one.mass / _THOUSAND
    items = ((costing.view.items[item], mass) for item, mass in one.needs.items.items())
    # All that salt goes in. Some of it leaves again with what is strained off: how much, nobody can tell.
    salts = tuple((item, mass, item.salt) for item, mass in items if item.salt is not None)
    minutes = one.needs.minutes / batch * kilos_in_one
    return FormParts(
        recipe.name, recipe_id, minutes=minutes, salts=salts, batch_cost=one.cost, batch_kilos=batch, kilos_in_one=kilos_in_one
    )
