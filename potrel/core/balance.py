"""The mass balance of a recipe: what goes into each stage, what is lost or taken out there, and what goes on.

Masses are in grams. Mass in = mass out + what evaporated or shrank + what was taken out + residue, at every stage.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from decimal import Decimal

from potrel.core.arithmetic import Convert, Number, larger, same, smaller, surely
from potrel.core.byproducts import Credit, Trimmed, trimmed
from potrel.core.errors import Problem, Warning
from potrel.core.facts import Facts
from potrel.core.fields import ONE, ZERO, plain
from potrel.core.kitchen import Item, Line, Preparation, Recipe, Stage, TakeOut
from potrel.core.purchase import MissingWeight
from potrel.core.quantities import parse_quantity

TOP_UP = "top_up"


@dataclass(slots=True)
class LineMass:
    """A line with its masses [g]: AP to buy, EP prepared, `pot` after its cooking yield. `line` is None in a top-up.

    `cook_yield` is None where nothing is lost (or taken up) in cooking by the line itself. `carried` is the AP mass whose
    cost its by-products bear (below zero for a line that is itself a by-product), None where they bear none; `lack` says
    what is missing to know that.
    """

    stage: str
    id: str
    item: str | None
    recipe: str | None
    line: Line | None
    ap: Number
    ep: Number
    pot: Number
    cook_yield: Decimal | None = None
    credits: Sequence[Credit] = ()
    known: bool = True
    carried: Number | None = None
    byproduct: str | None = None
    lack: str | None = None


@dataclass(slots=True)
class TakenOut:
    """What leaves a stage: so much [g], worth so much per kilo to somebody else."""

    take_out: TakeOut
    mass: Number


@dataclass(slots=True)
class StageMass:
    """A stage with its masses [g]; `left_over` is the share of `mass_out` that no later stage takes."""

    stage: Stage
    mass_in: Number
    changed: Number
    taken_out: list[TakenOut]
    residue: Number
    mass_out: Number
    left_over: Decimal = ONE


@dataclass(slots=True)
class Balance:
    """The whole recipe. `mass` [g] is the batch yield in use: computed, or measured where the kitchen chose so."""

    recipe: Recipe
    lines: list[LineMass] = field(default_factory=list)
    stages: list[StageMass] = field(default_factory=list)
    computed_mass: Number = ZERO
    measured_mass: Number | None = None
    mass: Number = ZERO
    problems: list[Problem] = field(default_factory=list)
    warnings: list[Warning] = field(default_factory=list)

    @property
    def mass_known(self) -> bool:
        """Whether every mass is known; else the masses are lower bounds."""
        return not any(problem.affects_mass for problem in self.problems)


def balance_of(recipe: Recipe, facts: Facts, number: Convert = same) -> Balance:
    """The mass balance of a recipe. Missing facts become problems of the balance, never guesses.

    `number` converts each decimal of the kitchen into a number of the engine (see `arithmetic`).
    """
    return _Pot(recipe, facts, number).balance()


def line_mass(line: Line, line_id: str, stage: Stage | None, facts: Facts, number: Convert = same) -> LineMass | Problem:
    """A line's masses, or what is missing for them. `stage` is None for a line that is served beside the pot."""
    where = stage.id if stage else None
    if line.recipe is not None:
        return _recipe_line(line, line_id, where, facts, number)
    item = facts.items.get(line.item or "")
    if item is None:
        return Problem("unknown", f'"{line.item}" is no item: choose one', where, line_id, line.item, affects_mass=True)
    steps: list[Preparation] = []
    if line.preparation is not None:
        found = _steps(item, line.preparations, facts)
        if isinstance(found, str):
            return Problem("unknown", found, where, line_id, item.id, affects_mass=True)
        steps = found
        if line.byproduct is not None:
            return _byproduct_line(line, line_id, where, item, steps, facts, number)
    try:
        quantity = number(facts.grams(item, line.quantity))
    except MissingWeight as lack:
        return Problem("missing_weight", str(lack), where, line_id, item.id, lack.unit, affects_mass=True)
    ap = ep = quantity
    trim: Trimmed | None = None
    if steps:
        total_yield = number(ONE)
        for step in steps:
            total_yield = total_yield * number(step.yield_)
        if line.basis == "AP":
            ep = quantity * total_yield
        else:
            ap = quantity / total_yield
        trim = trimmed(ap, steps, facts.byproduct_method(item), number)
    cook = _cook_yield(line, item, stage, facts)
    pot = ep if cook is None else ep * number(cook)
    weighed = LineMass(where or "", line_id, item.id, None, line, ap, ep, pot, cook)
    if trim is not None:
        weighed.credits = trim.credits
        if trim.lack is not None or any(surely(off.share != 0) for off in trim.offs):
            weighed.carried, weighed.lack = ap * (number(ONE) - trim.share), trim.lack
    return weighed


def _byproduct_line(
    line: Line, line_id: str, where: str | None, item: Item, steps: list[Preparation], facts: Facts, number: Convert
) -> LineMass | Problem:
    """A line that is what falls off an item: nothing of it is bought, and it costs what it bears there."""
    name = line.byproduct or ""
    one = trimmed(number(ONE), steps, facts.byproduct_method(item), number)
    off = next((off for off in reversed(one.offs) if off.name == name), None)
    waste = next((credit for credit in one.credits if credit.name == name), None)
    if off is None and waste is None:
        known = ", ".join(part.name for step in steps for part in step.byproducts) or "nothing"
        message = f'no "{name}" falls off {item.name}, {steps[-1].name} (it gives: {known})'
        return Problem("unknown", message, where, line_id, item.id, affects_mass=True)
    quantity = parse_quantity(line.quantity)
    if quantity.kind != "mass":
        message = f'{name} of {item.name} is measured by weight, not in "{quantity.unit}"'
        return Problem("missing_weight", message, where, line_id, item.id, affects_mass=True)
    mass = number(quantity.grams())
    pot = mass if line.cook_yield is None else mass * number(line.cook_yield)
    found = LineMass(where or "", line_id, item.id, None, line, number(ZERO), mass, pot, line.cook_yield, byproduct=name)
    if waste is not None and waste.value_per_kg:
        # Worth its value by crediting, or its disposal saved: the other side of what is taken off where it falls off.
        found.credits = [Credit(name, -mass, waste.value_per_kg, waste.use)]
    elif off is not None and surely(off.share != 0):
        found.carried = -mass * off.share / off.mass
        found.credits = [credit.times(mass / off.mass) for credit in off.paid]
    if off is not None:
        found.lack = one.lack
    return found


def _recipe_line(line: Line, line_id: str, where: str | None, facts: Facts, number: Convert) -> LineMass | Problem:
    recipe = facts.recipes.get(line.recipe or "")
    if recipe is None:
        return Problem("unknown", f'"{line.recipe}" is no recipe: choose one', where, line_id, affects_mass=True)
    grams = facts.recipe_grams(recipe, line)
    if grams is None:
        message = f'{recipe.name} is measured by weight or volume, not in "{parse_quantity(line.quantity).unit}"'
        return Problem("missing_weight", message, where, line_id, affects_mass=True)
    if line.byproduct is not None and parse_quantity(line.quantity).kind != "mass":
        message = f"{line.byproduct} of {recipe.name} is measured by weight"
        return Problem("missing_weight", message, where, line_id, affects_mass=True)
    if line.byproduct is not None and not any(out.name == line.byproduct for out in recipe.take_outs()):
        known = ", ".join(out.name for out in recipe.take_outs()) or "nothing"
        message = f'no "{line.byproduct}" is taken out of {recipe.name} (it gives: {known})'
        return Problem("unknown", message, where, line_id, affects_mass=True)
    mass, cook = number(grams), line.cook_yield
    pot = mass if cook is None else mass * number(cook)
    ap = mass if line.byproduct is None else number(ZERO)
    return LineMass(where or "", line_id, None, recipe.id, line, ap, mass, pot, cook, byproduct=line.byproduct)


def _steps(item: Item, wanted: tuple[str, ...], facts: Facts) -> list[Preparation] | str:
    steps: list[Preparation] = []
    for preparation_id in wanted:
        found = facts.preparation(item, preparation_id)
        if found is None:
            known = ", ".join(p.id for p in item.preparations) or "none yet"
            return f'{item.name} has no preparation "{preparation_id}" (it has: {known}): add it with its yield'
        steps.append(found)
    return steps


def _cook_yield(line: Line, item: Item, stage: Stage | None, facts: Facts) -> Decimal | None:
    """The line's own cooking yield, else the item's for the stage's method; None where nothing is lost by itself."""
    if line.cook_yield is not None or stage is None or not item.cooking:
        return line.cook_yield
    cooking = facts.cooking(item, stage.method)
    return None if cooking is None else cooking.yield_


class _Pot:
    """One recipe on the stove: the state while its stages are worked through in order."""

    def __init__(self, recipe: Recipe, facts: Facts, number: Convert) -> None:
        self.recipe, self.facts, self.number = recipe, facts, number
        self.result = Balance(recipe)
        self.stages: dict[str, StageMass] = {}
        self.zero = number(ZERO)
        self.density = number(recipe.density)

    def balance(self) -> Balance:
        result, ids = self.result, iter(self.recipe.line_ids())
        for stage in self.recipe.stages:
            mass_in = self.zero
            for line in stage.lines:
                line_id = next(ids)
                found = line_mass(line, line_id, stage, self.facts, self.number)
                if isinstance(found, Problem):
                    result.problems.append(found)
                    found = self._unknown(line, line_id, stage)
                result.lines.append(found)
                mass_in = mass_in + found.pot
            self._work(stage, mass_in)
        self._measure()
        return result

    def _unknown(self, line: Line, line_id: str, stage: Stage) -> LineMass:
        zero = self.zero
        return LineMass(stage.id, line_id, line.item, line.recipe, line, zero, zero, zero, known=False)

    def _work(self, stage: Stage, mass_in: Number) -> None:
        for inflow in stage.from_:
            source = self.stages[inflow.stage]
            source.left_over -= inflow.share
            whole = inflow.share == 1
            mass_in = mass_in + (source.mass_out if whole else source.mass_out * self.number(inflow.share))
        changed = self._change(stage, mass_in)
        taken: list[TakenOut] = []
        # The stage is entered before its take-outs are weighed: they may be of its own lines.
        here = self.stages[stage.id] = StageMass(stage, mass_in, changed, taken, self.zero, self.zero)
        self.result.stages.append(here)
        rest = changed
        for take_out in stage.take_out:
            mass = self._taken_mass(stage, take_out)
            taken.append(TakenOut(take_out, mass))
            rest = rest - mass
        if surely(rest < 0):
            if self.result.mass_known:
                self._impossible(stage, "more is taken out than there is: check the take-outs and what went in")
            rest = self.zero
        if stage.residue:
            here.residue = rest * self.number(stage.residue)
            rest = rest - here.residue
        here.mass_out = rest
        if stage.vessel is not None:
            self._warn_of_vessel(stage, larger(mass_in, changed))

    def _change(self, stage: Stage, mass: Number) -> Number:
        change, number = stage.change, self.number
        if change.rule == "keep":
            return mass
        if change.yield_ is not None:
            return mass * number(change.yield_)
        if change.to is not None:
            wanted = number(self.facts.bulk_grams(change.to, self.recipe.density))
            return self._reduce(stage, mass, wanted) if change.with_ is None else self._top_up(stage, mass, wanted)
        return self._evaporate(stage, mass)

    def _evaporate(self, stage: Stage, mass: Number) -> Number:
        if stage.minutes is None:
            message = f'stage "{stage.name or stage.id}" evaporates, but has no minutes: say how long it takes'
            self.result.problems.append(Problem("missing_fact", message, stage.id, affects_mass=True))
            return mass
        hours = self.number(stage.minutes) / 60
        if stage.change.per_hour is not None:
            return mass - smaller(mass, mass * self.number(stage.change.per_hour) * hours)
        per_hour = self.number(stage.change.kg_per_hour or ZERO) * 1000
        return mass - smaller(mass, per_hour * hours)

    def _reduce(self, stage: Stage, mass: Number, wanted: Number) -> Number:
        if surely(mass < wanted):
            if self.result.mass_known:
                self._impossible(stage, f"there is less than {stage.change.to} already: reduce to less, or put more in before")
            return mass
        return smaller(mass, wanted)

    def _top_up(self, stage: Stage, mass: Number, wanted: Number) -> Number:
        with_ = stage.change.with_
        if with_ is None:
            return mass
        missing = larger(self.zero, wanted - mass)
        if surely(mass >= wanted):
            message = f"nothing is topped up: there is {stage.change.to} or more already"
            self.result.warnings.append(Warning(message, stage.id))
        line = Line(quantity="1 g", item=with_.item, recipe=with_.recipe, basis="EP", preparation=with_.preparation)
        one_gram = line_mass(line, TOP_UP, stage, self.facts, self.number)
        if isinstance(one_gram, Problem):
            self.result.problems.append(one_gram)
            return mass
        credits = [credit.times(missing) for credit in one_gram.credits]
        carried = None if one_gram.carried is None else one_gram.carried * missing
        self.result.lines.append(
            LineMass(
                stage.id, TOP_UP, with_.item, with_.recipe, None,
                one_gram.ap * missing, missing, missing, None, credits, True, carried, None, one_gram.lack,
            )
        )  # fmt: skip
        return mass + missing

    def _taken_mass(self, stage: Stage, take_out: TakeOut) -> Number:
        if take_out.mass is not None:
            return self.number(parse_quantity(take_out.mass).grams())
        mass = self.zero
        factor = self.number(take_out.spent_factor or ZERO)
        reach = self._reach(stage)
        lines = {line.id: line for line in self.result.lines}
        for line_id in take_out.of:
            line = lines.get(line_id)
            if line is None or line.stage not in reach:
                message = f'"{take_out.name}" is made of "{line_id}", which is no line of this or an earlier stage'
                self.result.problems.append(Problem("unknown", message, stage.id, affects_mass=True))
                continue
            mass = mass + line.ep * reach[line.stage] * factor
        return mass

    def _reach(self, stage: Stage) -> dict[str, Number]:
        """The share of each earlier stage's content that is in this one: products along the ways, added up."""
        reach: dict[str, Number] = {stage.id: self.number(ONE)}
        for here in reversed(self.recipe.stages[: self.recipe.stages.index(stage) + 1]):
            if here.id in reach:
                for inflow in here.from_:
                    through = reach[here.id] * self.number(inflow.share)
                    reach[inflow.stage] = reach.get(inflow.stage, self.zero) + through
        return reach

    def _impossible(self, stage: Stage, message: str) -> None:
        message = f'stage "{stage.name or stage.id}": {message}'
        self.result.problems.append(Problem("impossible", message, stage.id, affects_mass=True))

    def _warn_of_vessel(self, stage: Stage, fullest: Number) -> None:
        vessel = self.facts.vessels.get(stage.vessel or "")
        if vessel is None or vessel.capacity is None:
            return
        if surely(fullest > self.number(self.facts.bulk_grams(vessel.capacity, self.recipe.density))):
            message = f"more than the {vessel.name} holds ({vessel.capacity}): use a larger one, or cook in two"
            self.result.warnings.append(Warning(message, stage.id))

    def _measure(self) -> None:
        result, recipe = self.result, self.recipe
        if result.stages:
            result.computed_mass = result.stages[-1].mass_out
            for stage in result.stages[:-1]:
                if stage.left_over:
                    share = f"{plain(100 * stage.left_over)}%"
                    message = f"{share} of this stage goes nowhere; its cost stays with the batch"
                    result.warnings.append(Warning(message, stage.stage.id))
        result.mass = result.computed_mass
        if recipe.measured_yield is not None:
            result.measured_mass = self.number(self.facts.bulk_grams(recipe.measured_yield.quantity, recipe.density))
            if recipe.use_measured_yield:
                result.mass = result.measured_mass
        if surely(result.mass <= 0) and result.mass_known:
            result.problems.append(Problem("missing_fact", "the pot is empty: add a line", affects_mass=True))
