"""What a usable kilo or a ready litre costs in each form it can be bought or made in, with and without the labour."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from potrel.core.costing import Costing
from potrel.core.errors import BadDocument
from potrel.core.facts import Facts
from potrel.core.fields import ONE, ZERO, Computed
from potrel.core.kitchen import Item, Part, Preparation

Unit = Literal["kg", "l"]
_SIXTY = Decimal(60)
_THOUSAND = Decimal(1000)


@dataclass(frozen=True, slots=True)
class UsableForm(Part):
    """One form: its cost, trim or cooking labour and their total [money per kilo or litre]; None where not known.

    `labour` is None where the kitchen has no rate. `wins_at` is the AP price [money/kg] at which the form would cost
    as much as the cheapest other, labour included: below it this form wins. `salt_g` is what it brings [g].
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

    unit: Unit
    forms: list[UsableForm]
    cheapest: str | None
    cheapest_with_labour: str | None


@dataclass(slots=True)
class _Parts:
    """A form as a line over its AP price p [money/g]: cost = p * grams - credit; and its labour."""

    name: str
    grams: Decimal | None = None
    credit: Decimal = ZERO
    minutes: Decimal = ZERO
    salt: Decimal | None = None
    price: Decimal | None = None
    fixed: Decimal | None = None
    lack: str | None = None


def compare_forms(costing: Costing, forms: Sequence[str], unit: Unit) -> UsableComparison:
    """Compare forms, written as "ITEM", "ITEM:PREPARATION+PREPARATION" or "recipe/RECIPE".

    cost = (AP price - credits) / yield, plus trim labour at the kitchen's rate; for a litre by density, or by the litres
    that a kilo of a base or cube makes. BadDocument for a form of something that the kitchen does not have.
    """
    parts = {form: _parts(costing, form, unit) for form in forms}
    rate = costing.facts.settings.labour_rate_per_hour
    totals = {form: total for form, part in parts.items() if (total := _total(part, rate)) is not None}
    costs = {form: cost for form, part in parts.items() if (cost := _cost(part)) is not None}
    return UsableComparison(
        unit=unit,
        forms=[_form(form, part, rate, totals) for form, part in parts.items()],
        cheapest=min(costs, key=lambda form: costs[form], default=None),
        cheapest_with_labour=min(totals, key=lambda form: totals[form], default=None),
    )


def _cost(part: _Parts) -> Decimal | None:
    if part.fixed is not None:
        return part.fixed
    if part.grams is None or part.price is None:
        return None
    return part.grams * part.price - part.credit


def _labour(part: _Parts, rate: Decimal | None) -> Decimal | None:
    return None if rate is None else part.minutes / _SIXTY * rate


def _total(part: _Parts, rate: Decimal | None) -> Decimal | None:
    cost, labour = _cost(part), _labour(part, rate)
    return None if cost is None else cost + (labour or ZERO)


def _form(form: str, part: _Parts, rate: Decimal | None, totals: dict[str, Decimal]) -> UsableForm:
    others = [total for other, total in totals.items() if other != form]
    wins_at = None
    if others and part.grams is not None:
        # p * grams - credit + labour = the cheapest other, solved for p.
        wins_at = (min(others) + part.credit - (_labour(part, rate) or ZERO)) / part.grams * _THOUSAND
    return UsableForm(
        form=form,
        name=part.name,
        cost=_cost(part),
        labour=_labour(part, rate),
        total=_total(part, rate),
        salt_g=part.salt,
        per_kg=None if part.price is None else part.price * _THOUSAND,
        wins_at=wins_at if wins_at is None or wins_at > 0 else None,
        lack=part.lack,
    )


def _parts(costing: Costing, form: str, unit: Unit) -> _Parts:
    facts = costing.facts
    if form.startswith("recipe/"):
        return _of_recipe(costing, form.removeprefix("recipe/"), unit)
    item_id, _, prepared = form.partition(":")
    item = facts.items.get(item_id)
    if item is None:
        raise BadDocument("form", f'no item has the id "{item_id}"')
    steps = [_step(facts, item, one) for one in prepared.split("+") if one]
    names = ", ".join(step.name for step in steps)
    part = _Parts(f"{item.name}, {names}" if names else item.name, price=costing.per_gram(item.id))
    _trim(part, steps, facts)
    if part.price is None:
        part.lack = f"{item.name} has no price on {costing.on.isoformat()}: record what it costs"
    _per_unit(part, item, unit)
    return part


def _step(facts: Facts, item: Item, preparation_id: str) -> Preparation:
    found = facts.preparation(item, preparation_id)
    if found is None:
        raise BadDocument("form", f'{item.name} has no preparation "{preparation_id}"')
    return found


def _trim(part: _Parts, steps: list[Preparation], facts: Facts) -> None:
    """The AP mass, credits and minutes of a kilo that is left after some preparations."""
    left, credit, minutes = ONE, ZERO, ZERO
    for step in steps:
        credit += left * facts.credit_per_kg(step)
        minutes += left * (step.minutes_per_kg or ZERO)
        left *= step.yield_
    part.grams, part.credit, part.minutes = _THOUSAND / left, credit / left, minutes / left


def _per_unit(part: _Parts, item: Item, unit: Unit) -> None:
    """From a kilo to the unit, and the salt that comes with it."""
    per_kilo = ONE
    if unit == "l":
        if item.ready_litres_per_kg is not None:
            per_kilo = ONE / item.ready_litres_per_kg
        elif item.density is not None:
            per_kilo = item.density
        else:
            part.lack = f"{item.name} has no density, nor the litres that a kilo of it makes: add one of them"
            part.grams = None
            return
    part.grams = (part.grams or ZERO) * per_kilo
    part.credit, part.minutes = part.credit * per_kilo, part.minutes * per_kilo
    if item.salt_share is not None:
        part.salt = part.grams * item.salt_share


def _of_recipe(costing: Costing, recipe_id: str, unit: Unit) -> _Parts:
    recipe = costing.facts.recipes.get(recipe_id)
    if recipe is None:
        raise BadDocument("form", f'no recipe has the id "{recipe_id}"')
    per_gram = costing.cost_per_gram(recipe_id)
    if per_gram is None or costing.problems(recipe_id):
        return _Parts(recipe.name, lack=costing.problems(recipe_id)[0].message)
    grams = _THOUSAND * (recipe.density if unit == "l" else ONE)
    minutes = costing.needs(recipe_id).minutes / costing.balance(recipe_id).mass * grams
    return _Parts(recipe.name, minutes=minutes, fixed=per_gram * grams)
