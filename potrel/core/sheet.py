"""The cost sheet: the figures of one recipe as they are shown, printed and tested."""

from __future__ import annotations

from dataclasses import dataclass, replace
from decimal import Decimal
from typing import Literal

from potrel.core.arithmetic import Number
from potrel.core.balance import Balance, LineMass, StageMass
from potrel.core.costing import Costing, Portion, priced, serving_warnings
from potrel.core.errors import Problem, Warning
from potrel.core.facts import Facts
from potrel.core.fields import ONE, ZERO, Computed, On
from potrel.core.kitchen import ByproductMethod, Recipe
from potrel.core.needs import stage_shares, valued
from potrel.core.part import Part

_THOUSAND = Decimal(1000)


@dataclass(frozen=True, slots=True)
class SheetLine(Part):
    """A line: AP and EP masses [g] and cost [money]. A top-up has the id "top_up"."""

    stage: str
    id: str
    item: str | None
    recipe: str | None
    name: str
    ap_g: Computed | None
    ep_g: Computed | None
    pot_g: Computed | None
    cost: Computed | None


@dataclass(frozen=True, slots=True)
class SheetTaken(Part):
    """Something taken out of a stage: mass [g] and what it bears of the cost [money], negative where disposal is paid."""

    name: str
    mass_g: Computed
    value: Computed


@dataclass(frozen=True, slots=True)
class SheetStage(Part):
    """A stage: masses [g] in, lost by its change (negative where water comes in), residue and out; cost passed on.

    `put_in_g` is what was put in, lines as prepared and inflows; `mass_in_g` is the same
    after the lines' cooking yields, which took `cooked_g`.
    """

    id: str
    put_in_g: Computed
    cooked_g: Computed
    mass_in_g: Computed
    changed_g: Computed
    residue_g: Computed
    mass_out_g: Computed
    taken_out: list[SheetTaken]
    cost: Computed


@dataclass(frozen=True, slots=True)
class SheetBatch(Part):
    """The batch: its mass [g], volume [ml], food cost [money] with the seasoning allowance, and attended minutes.

    `basis` says which batch yield is in use; `computed_g` and `measured_g` show both.
    """

    mass_g: Computed
    volume_ml: Computed
    food_cost: Computed
    cost_per_kg: Computed | None
    cost_per_l: Computed | None
    attended_minutes: Computed
    basis: Literal["computed", "measured"]
    computed_g: Computed
    measured_g: Computed | None


@dataclass(frozen=True, slots=True)
class SheetExtra(Part):
    """A line costed per portion: garnish, accompaniment or packaging."""

    role: str
    id: str
    item: str | None
    recipe: str | None
    name: str
    ap_g: Computed | None
    ep_g: Computed | None
    cost: Computed | None


@dataclass(frozen=True, slots=True)
class SheetServing(Part):
    """A serving: portions, costs per portion, and price.

    `price` is the set price where there is one, else the computed one; `suggested_price` is always the computed one.
    Share and contribution follow from `price`.
    """

    id: str
    name: str
    size_ml: Computed | None
    size_g: Computed | None
    portions: Computed | None
    whole_portions: int | None
    food_cost: Computed | None
    labour_cost: Computed | None
    energy_cost: Computed | None
    overhead_cost: Computed | None
    net_price: Computed | None
    suggested_price: Computed | None
    price: Computed | None
    price_is_set: bool
    food_cost_share: Computed | None
    target_share: Computed | None
    contribution: Computed | None
    extras: list[SheetExtra]


@dataclass(frozen=True, slots=True)
class CostSheet(Part):
    """Everything the core knows about one recipe on a day. Where `complete` is false, its totals are lower bounds."""

    recipe: str
    name: str
    currency: str
    on: On
    complete: bool
    problems: list[Problem]
    lines: list[SheetLine]
    stages: list[SheetStage]
    batch: SheetBatch
    servings: list[SheetServing]
    allergens: list[str]
    warnings: list[Warning]


def sheet_of(costing: Costing, recipe_id: str) -> CostSheet:
    """The cost sheet of a recipe."""
    facts, balance = costing.facts, costing.balance(recipe_id)
    recipe = balance.recipe
    costs = {id(line): costing.line_cost(line) for line in balance.lines}
    money = stage_money(costing, recipe_id)
    warnings = list(balance.warnings)
    portions = costing.portions(recipe_id)
    for portion in portions:
        warnings += serving_warnings(portion, recipe.density)
    problems = costing.problems(recipe_id)
    return CostSheet(
        recipe=recipe.id,
        name=recipe.name,
        currency=facts.kitchen.currency,
        on=costing.on,
        complete=not problems,
        problems=problems,
        lines=[_line(line, costs[id(line)], facts) for line in balance.lines],
        stages=[_stage(stage, balance, one) for stage, one in zip(balance.stages, money, strict=True)],
        batch=_batch(costing, recipe, balance),
        servings=[_serving(costing, recipe, portion) for portion in portions],
        allergens=costing.allergens(recipe_id),
        warnings=warnings,
    )


def named(line: LineMass, facts: Facts) -> str:
    """What a line is called: the item or recipe, or what is left of it elsewhere."""
    name = facts.name_of(line.item, line.recipe)
    return name if line.byproduct is None else f"{name}: {line.byproduct}"


def _line(line: LineMass, cost: Number | None, facts: Facts) -> SheetLine:
    name = named(line, facts)
    ap, ep, pot = (line.ap, line.ep, line.pot) if line.known else (None, None, None)
    return SheetLine(line.stage, line.id, line.item, line.recipe, name, ap, ep, pot, cost)


@dataclass(frozen=True, slots=True)
class StageMoney:
    """The money of a stage: what came in, what each thing taken out bears (below zero: its paid disposal), what goes on."""

    joint: Number
    taken: list[Number]
    cost: Number


def stage_money(costing: Costing, recipe_id: str) -> list[StageMoney]:
    """The money of each stage of a recipe. The cost of a share that no stage takes stays with the batch."""
    balance, method = costing.balance(recipe_id), costing.facts.settings.byproduct_method
    costs = {id(line): costing.line_cost(line) for line in balance.lines}
    passed: dict[str, StageMoney] = {}
    for here in balance.stages:
        joint = ZERO
        for line in balance.lines:
            if line.stage == here.stage.id:
                joint += costs[id(line)] or ZERO
        for inflow in here.stage.from_:
            joint += passed[inflow.stage].cost * inflow.share
        passed[here.stage.id] = _money(here, joint, method)
    if balance.stages:
        last = balance.stages[-1].stage.id
        for here in balance.stages[:-1]:
            left = passed[here.stage.id].cost * here.left_over
            passed[last] = replace(passed[last], cost=passed[last].cost + left)
    return list(passed.values())


def _money(here: StageMass, joint: Number, method: ByproductMethod) -> StageMoney:
    values = [taken.mass * taken.take_out.value_per_kg / _THOUSAND for taken in here.taken_out]
    if method == "credit":
        return StageMoney(joint, values, joint - sum(values, ZERO))
    paid = [min(value, ZERO) for value in values]
    shares = stage_shares(here, method) or [ZERO] * (1 + len(valued(here)))
    to_share, others = joint - sum(paid, ZERO), iter(shares[1:])
    taken = [to_share * next(others) if value > 0 else value for value in values]
    return StageMoney(joint, taken, to_share * shares[0])


def _stage(stage: StageMass, balance: Balance, money: StageMoney) -> SheetStage:
    names = [taken.take_out.name for taken in stage.taken_out]
    masses = [taken.mass for taken in stage.taken_out]
    taken = [SheetTaken(*one) for one in zip(names, masses, money.taken, strict=True)]
    changed = stage.mass_in - stage.changed
    cooked = _cooked(stage, balance)
    return SheetStage(
        stage.stage.id, stage.mass_in + cooked, cooked, stage.mass_in, changed, stage.residue, stage.mass_out, taken,
        money.cost,
    )  # fmt: skip


def _cooked(stage: StageMass, balance: Balance) -> Number:
    """The mass [g] that a stage's lines lose (below zero, take up) by their cooking yields."""
    cooked = ZERO
    for line in balance.lines:
        if line.stage == stage.stage.id:
            cooked += line.ep - line.pot
    return cooked


def _batch(costing: Costing, recipe: Recipe, balance: Balance) -> SheetBatch:
    food_cost = costing.cost(recipe.id) * (ONE + costing.allowance(recipe))
    known = costing.mass_known(recipe.id)
    per_kg = food_cost / balance.mass * _THOUSAND if known else None
    return SheetBatch(
        mass_g=balance.mass,
        volume_ml=balance.mass / recipe.density,
        food_cost=food_cost,
        cost_per_kg=per_kg,
        cost_per_l=None if per_kg is None else per_kg * recipe.density,
        attended_minutes=costing.needs(recipe.id).minutes,
        basis="measured" if recipe.use_measured_yield else "computed",
        computed_g=balance.computed_mass,
        measured_g=balance.measured_mass,
    )


def _serving(costing: Costing, recipe: Recipe, portion: Portion) -> SheetServing:
    price = priced(costing, recipe.id, portion)
    size = portion.size_g / recipe.density if portion.by_volume else portion.size_g
    return SheetServing(
        id=portion.serving.id,
        name=portion.serving.name,
        size_ml=size if portion.by_volume else None,
        size_g=None if portion.by_volume else size,
        portions=portion.portions,
        whole_portions=None if portion.portions is None else int(portion.portions),
        food_cost=portion.food_cost,
        labour_cost=portion.labour_cost,
        energy_cost=portion.energy_cost,
        overhead_cost=portion.overhead_cost,
        net_price=price.net,
        suggested_price=price.suggested,
        price=price.price,
        price_is_set=portion.serving.price is not None,
        food_cost_share=price.share,
        target_share=price.target,
        contribution=price.contribution,
        extras=[_extra(costing, role, line) for role, line in portion.extras],
    )


def _extra(costing: Costing, role: str, line: LineMass | Problem) -> SheetExtra:
    if isinstance(line, Problem):
        name = costing.facts.name_of(line.item)
        return SheetExtra(role, line.line or "", line.item, None, name, None, None, None)
    name = named(line, costing.facts)
    return SheetExtra(role, line.id, line.item, line.recipe, name, line.ap, line.ep, costing.line_cost(line))
