"""What a usable kilo or a ready litre costs in each form it can be bought or made in, with and without the labour."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal

from potrel.core.byproducts import trimmed
from potrel.core.costing import Costing
from potrel.core.errors import BadDocument
from potrel.core.facts import Facts
from potrel.core.fields import ONE, ZERO, Computed, plain
from potrel.core.kitchen import ByproductMethod, Comparison, Item, Preparation, ReadyUnit
from potrel.core.part import Part

_SIXTY = Decimal(60)
_THOUSAND = Decimal(1000)


@dataclass(frozen=True, slots=True)
class UsableForm(Part):
    """One form: its cost, trim or cooking labour and their total [money per kilo or litre]; None where not known.

    `labour` is None where the kitchen has no rate. `wins_at` is the AP price [money/kg] at which the form would cost
    as much as the cheapest other, labour included: below it this form wins. `salt_g` is the salt that it brings [g];
    of a recipe, the salt that goes in with what has its salt noted.
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


@dataclass(frozen=True, slots=True)
class UsableComparison(Part):
    """Forms side by side, with the cheapest of them by cost alone and with labour."""

    unit: ReadyUnit
    forms: list[UsableForm]
    cheapest: str | None
    cheapest_with_labour: str | None


@dataclass(frozen=True, slots=True)
class KeptComparison(Part):
    """A comparison that the kitchen keeps, as it stands today; `lack` says why it cannot be made any more."""

    comparison: Comparison
    found: UsableComparison | None
    lack: str | None


@dataclass(slots=True)
class FormParts:
    """A form as a line over its AP price p [money/g]: cost = p * grams * share - credit; and its labour.

    `grams` is what has to be bought for one kilo or litre, `whence` how that came about; `fixed` is the cost of what is
    made here, `recipe` by which recipe.
    """

    name: str
    recipe: str | None = None
    grams: Decimal | None = None
    whence: str = "a kilo as bought"
    share: Decimal = ONE
    credit: Decimal = ZERO
    minutes: Decimal = ZERO
    salt: Decimal | None = None
    price: Decimal | None = None
    fixed: Decimal | None = None
    lack: str | None = None

    def cost(self) -> Decimal | None:
        """What a kilo or litre costs [money], without the labour."""
        if self.fixed is not None:
            return self.fixed
        if self.grams is None or self.price is None:
            return None
        return self.grams * self.share * self.price - self.credit

    def labour(self, rate: Decimal | None) -> Decimal | None:
        """The labour in it [money] at a rate an hour; None where the kitchen has none."""
        return None if rate is None else self.minutes / _SIXTY * rate

    def total(self, rate: Decimal | None) -> Decimal | None:
        """Both together; without the labour where the kitchen has no rate."""
        cost, labour = self.cost(), self.labour(rate)
        return None if cost is None else cost + (labour or ZERO)

    def wins_at(self, rate: Decimal | None, cheapest_other: Decimal | None) -> Decimal | None:
        """The AP price [money/kg] at which it costs as much as the cheapest other; None where no price would do that."""
        if cheapest_other is None or self.grams is None or self.share <= 0:
            return None
        # p * grams * share - credit + labour = the cheapest other, solved for p.
        price = (cheapest_other + self.credit - (self.labour(rate) or ZERO)) / (self.grams * self.share) * _THOUSAND
        return price if price > 0 else None


def compare_forms(costing: Costing, forms: Sequence[str], unit: ReadyUnit) -> UsableComparison:
    """Compare forms, written as "ITEM", "ITEM:PREPARATION+PREPARATION" or "recipe/RECIPE".

    cost = (AP price - credits) / yield, plus trim labour at the kitchen's rate; for a litre by density, or by the litres
    that a kilo of a base or cube makes. BadDocument for a form of something that the kitchen does not have.
    """
    parts = {form: form_parts(costing, form, unit) for form in forms}
    rate = costing.facts.settings.labour_rate_per_hour
    totals = {form: total for form, part in parts.items() if (total := part.total(rate)) is not None}
    costs = {form: cost for form, part in parts.items() if (cost := part.cost()) is not None}
    return UsableComparison(
        unit=unit,
        forms=[_form(form, part, rate, totals) for form, part in parts.items()],
        cheapest=min(costs, key=lambda form: costs[form], default=None),
        cheapest_with_labour=min(totals, key=lambda form: totals[form], default=None),
    )


def kept_comparisons(costing: Costing) -> list[KeptComparison]:
    """The comparisons that the kitchen keeps, made anew."""
    kept = []
    for one in costing.facts.kitchen.comparisons:
        try:
            kept.append(KeptComparison(one, compare_forms(costing, one.forms, one.unit), None))
        except BadDocument as gone:
            kept.append(KeptComparison(one, None, gone.message))
    return kept


def _form(form: str, part: FormParts, rate: Decimal | None, totals: dict[str, Decimal]) -> UsableForm:
    others = [total for other, total in totals.items() if other != form]
    return UsableForm(
        form=form,
        name=part.name,
        cost=part.cost(),
        labour=part.labour(rate),
        total=part.total(rate),
        salt_g=part.salt,
        per_kg=None if part.price is None else part.price * _THOUSAND,
        wins_at=part.wins_at(rate, min(others, default=None)),
        lack=part.lack,
    )


def form_parts(costing: Costing, form: str, unit: ReadyUnit) -> FormParts:
    """What one kilo or litre of a form is made of; BadDocument for a form of something that the kitchen does not have."""
    facts = costing.facts
    if form.startswith("recipe/"):
        return _of_recipe(costing, form.removeprefix("recipe/"), unit)
    item_id, _, prepared = form.partition(":")
    item = facts.items.get(item_id)
    if item is None:
        raise BadDocument("form", f'no item has the id "{item_id}"')
    steps = [_step(facts, item, one) for one in prepared.split("+") if one]
    names = ", ".join(step.name for step in steps)
    part = FormParts(f"{item.name}, {names}" if names else item.name, price=costing.per_gram(item.id))
    _trim(part, steps, facts.byproduct_method(item))
    if part.lack is None and part.price is None:
        part.lack = f"{item.name} has no price on {costing.on.isoformat()}: record what it costs"
    _per_unit(part, item, unit)
    return part


def _step(facts: Facts, item: Item, preparation_id: str) -> Preparation:
    found = facts.preparation(item, preparation_id)
    if found is None:
        raise BadDocument("form", f'{item.name} has no preparation "{preparation_id}"')
    return found


def _trim(part: FormParts, steps: list[Preparation], method: ByproductMethod) -> None:
    """The AP mass, credits and minutes of a kilo that is left after some preparations."""
    left, minutes = ONE, ZERO
    for step in steps:
        minutes += left * (step.minutes_per_kg or ZERO)
        left *= step.yield_
    if steps:
        part.whence = "a kilo / yield, " + ", then ".join(f"{step.name} {plain(step.yield_)}" for step in steps)
    trim = trimmed(_THOUSAND, steps, method)
    part.grams, part.share, part.credit, part.minutes = _THOUSAND / left, trim.share, trim.credit / left, minutes / left
    if trim.lack is not None:
        part.lack, part.price = f"say {trim.lack}", None


def _per_unit(part: FormParts, item: Item, unit: ReadyUnit) -> None:
    """From a kilo to the unit, and the salt that comes with it."""
    per_kilo = ONE
    if unit == "l":
        if item.ready_litres_per_kg is not None:
            per_kilo = ONE / item.ready_litres_per_kg
            part.whence += f" / {plain(item.ready_litres_per_kg)} litres that a kilo makes"
        elif item.density is not None:
            per_kilo = item.density
            part.whence += f" * {plain(item.density)} kg per litre"
        else:
            part.lack = f"{item.name} has no density, nor the litres that a kilo of it makes: add one of them"
            part.grams = None
            return
    part.grams = (part.grams or ZERO) * per_kilo
    part.credit, part.minutes = part.credit * per_kilo, part.minutes * per_kilo
    if item.salt_share is not None:
        part.salt = part.grams * item.salt_share


def _of_recipe(costing: Costing, recipe_id: str, unit: ReadyUnit) -> FormParts:
    recipe = costing.facts.recipes.get(recipe_id)
    if recipe is None:
        raise BadDocument("form", f'no recipe has the id "{recipe_id}"')
    per_gram = costing.cost_per_gram(recipe_id)
    if per_gram is None or costing.problems(recipe_id):
        return FormParts(recipe.name, recipe_id, lack=costing.problems(recipe_id)[0].message)
    grams = _THOUSAND * (recipe.density if unit == "l" else ONE)
    of_batch = grams / costing.balance(recipe_id).mass
    minutes = costing.needs(recipe_id).minutes * of_batch
    salt = sum((mass * share for _, mass, share in salted(costing, recipe_id)), ZERO) * of_batch
    return FormParts(recipe.name, recipe_id, minutes=minutes, fixed=per_gram * grams, salt=salt)


def salted(costing: Costing, recipe_id: str) -> list[tuple[Item, Decimal, Decimal]]:
    """What is bought for one batch and has its salt noted: the item, its mass [g] and the salt in it by mass.

    All of that goes in. Some of it leaves again with what is strained off: how much, nobody can tell.
    """
    items = ((costing.facts.items[one], mass) for one, mass in costing.needs(recipe_id).items.items())
    return [(item, mass, item.salt_share) for item, mass in items if item.salt_share is not None]
