"""The cost sheet: the figures of one recipe as they are shown, printed and tested, each read off its working."""

from __future__ import annotations

from typing import Literal

from potrel.core.cost.costed_recipe import CostedRecipe
from potrel.core.cost.costing import Costing
from potrel.core.cost.portion import serving_warnings
from potrel.core.errors import Problem, Warning, warning
from potrel.core.frozen import dataclass
from potrel.core.kitchen.kinds import ZERO, Computed, Flag, On
from potrel.core.numbers.arithmetic import Number
from potrel.core.pot.balance import StageMass, reach
from potrel.core.pot.day_view import DayView
from potrel.core.pot.line_mass import LineMass
from potrel.core.rooms.leftovers import short_of
from potrel.core.sentences import say
from potrel.core.tell.batch_figures import BatchFigures
from potrel.core.tell.figures import Figure
from potrel.core.tell.line_figures import LineFigures, named
from potrel.core.tell.serving_figures import ServingFigures
from potrel.core.tell.stage_figures import StageFigures


@dataclass(frozen=True, slots=True)
class SheetLine:
    """A line: AP and EP masses [g] and cost [money]. A top-up has the id "top_up".

    `pot_g` is the thing itself after cooking; `up_g` what cooking it sends out of the pot, `stays_g` what it gives to the pot
    as juice, liquor or fat (below zero, what it drinks from it). It costs `at_least` so much where its own recipe lacks
    something.
    """

    stage: str
    id: str
    item: str | None
    recipe: str | None
    name: str
    ap_g: Computed | None
    ep_g: Computed | None
    pot_g: Computed | None
    cost: Computed | None
    up_g: Computed | None
    stays_g: Computed | None
    at_least: Flag


@dataclass(frozen=True, slots=True)
class SheetTaken:
    """Something taken out of a stage: mass [g] and what it bears of the cost [money], negative where disposal is paid.

    Its value is not known where the value is missing by which the cost is shared.
    """

    name: str
    mass_g: Computed
    value: Computed | None


@dataclass(frozen=True, slots=True)
class SheetStage:
    """A stage: masses [g] in, lost by its change (negative where water comes in), residue and out; cost passed on.

    `put_in_g` is what was put in, lines as prepared and inflows. Of that `cooked_g` went up as the lines cooked, which left
    `mass_in_g`; `stayed_g` is what the lines gave to the pot as juice, liquor and fat (negative where they drank from it).
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
    stayed_g: Computed
    at_least: Flag


@dataclass(frozen=True, slots=True)
class SheetBatch:
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
class SheetExtra:
    """A line costed per portion: garnish, accompaniment or packaging.

    `kept_g` is how much of it was kept of this very pot for each portion [g]; None for what was not. What is known by the
    piece only has `pieces` and no weight.
    """

    role: str
    id: str
    item: str | None
    recipe: str | None
    name: str
    ap_g: Computed | None
    ep_g: Computed | None
    cost: Computed | None
    kept_g: Computed | None
    pieces: Computed | None


@dataclass(frozen=True, slots=True)
class SheetServing:
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
    gross_profit_share: Computed | None
    target_share: Computed | None
    contribution: Computed | None
    extras: list[SheetExtra]


@dataclass(frozen=True, slots=True)
class CostSheet:
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
    view, one = costing.view, costing.of(recipe_id)
    stages = StageFigures(costing, one)
    warnings = [*one.balance.warnings, *short_of(costing, recipe_id), *_instead(one, view)]
    for portion in one.portions:
        warnings += serving_warnings(portion, one.recipe)
    lacking, lines = stages_that_lack(one, view), {problem.line for problem in one.problems}
    return CostSheet(
        recipe=recipe_id,
        name=one.recipe.name,
        currency=view.kitchen.currency,
        on=costing.on,
        complete=not one.problems,
        problems=list(one.problems),
        lines=[_line(line, view, line.line.id in lines) for here in one.balance.stages for line in stages.lines(here.stage.id)],
        stages=[_stage(stages, here, here.stage.id in lacking) for here in one.balance.stages],
        batch=_batch(BatchFigures(costing, one), one),
        servings=[_serving(ServingFigures(costing, one, portion)) for portion in one.portions],
        allergens=costing.allergens(recipe_id),
        warnings=warnings,
    )


def stages_that_lack(one: CostedRecipe, view: DayView) -> set[str]:
    """The stages to which something comes whose cost is not known yet: their own lines, or those of earlier stages."""
    lacking = {problem.stage for problem in one.problems if problem.stage is not None}
    stages = one.recipe.stages
    found = {stage.id for stage in stages if not lacking.isdisjoint(reach(stages, stage, view))}
    # What no stage takes of an earlier one stays with the last.
    return found | {stages[-1].id} if found else found


def _instead(one: CostedRecipe, view: DayView) -> list[Warning]:
    """A word for each item that is not bought where the kitchen prefers to."""
    found: list[Warning] = []
    for item in sorted(one.items):
        price = view.price(item)
        if price is not None and price.instead_of is not None:
            english = "{item}: {preferred} is preferred, but has no price in force; that of {supplier} counts"
            names = {"preferred": view.supplier_name(price.instead_of), "supplier": view.supplier_name(price.offer.supplier)}
            found.append(warning(say("not_preferred", english, item=view.name_of(item), **names)))
    return found


def _value(figure: Figure | None) -> Number | None:
    return None if figure is None else figure.value


def _known(figure: Figure | None) -> Number:
    value = _value(figure)
    return ZERO if value is None else value


def _line(figures: LineFigures, view: DayView, lacks: bool) -> SheetLine:
    line = figures.line
    return SheetLine(
        stage=line.stage,
        id=line.id,
        item=line.item,
        recipe=line.recipe,
        name=named(line, view),
        ap_g=_value(figures.of("ap_g")),
        ep_g=_value(figures.of("ep_g")),
        pot_g=_value(figures.of("pot_g")),
        cost=_value(figures.of("cost")),
        up_g=_value(figures.of("up_g")),
        stays_g=_value(figures.of("stays_g")),
        at_least=lacks,
    )


def _stage(stages: StageFigures, here: StageMass, lacks: bool) -> SheetStage:
    stage = here.stage.id
    taken = [
        SheetTaken(
            one.take_out.name, _known(stages.of(stage, f"taken_{n}_mass_g")), _value(stages.of(stage, f"taken_{n}_value"))
        )
        for n, one in enumerate(here.taken_out, 1)
    ]
    return SheetStage(
        id=stage,
        put_in_g=_known(stages.of(stage, "put_in_g")),
        cooked_g=_known(stages.of(stage, "cooked_g")),
        mass_in_g=_known(stages.of(stage, "mass_in_g")),
        changed_g=_known(stages.of(stage, "changed_g")),
        residue_g=_known(stages.of(stage, "residue_g")),
        mass_out_g=_known(stages.of(stage, "mass_out_g")),
        taken_out=taken,
        cost=_known(stages.of(stage, "cost")),
        stayed_g=_known(stages.of(stage, "stayed_g")),
        at_least=lacks,
    )


def _batch(figures: BatchFigures, one: CostedRecipe) -> SheetBatch:
    return SheetBatch(
        mass_g=_known(figures.of(["mass_g"])),
        volume_ml=_known(figures.of(["volume_ml"])),
        food_cost=_known(figures.of(["food_cost"])),
        cost_per_kg=_value(figures.of(["cost_per_kg"])),
        cost_per_l=_value(figures.of(["cost_per_l"])),
        attended_minutes=_known(figures.of(["attended_minutes"])),
        basis="measured" if one.recipe.use_measured_yield else "computed",
        computed_g=_known(figures.of(["computed_g"])),
        measured_g=_value(figures.of(["measured_g"])),
    )


def _serving(figures: ServingFigures) -> SheetServing:
    portion = figures.portion

    def value(name: str) -> Number | None:
        return _value(figures.of([name]))

    return SheetServing(
        id=portion.serving.id,
        name=portion.serving.name,
        size_ml=value("size_ml"),
        size_g=value("size_g"),
        portions=value("portions"),
        whole_portions=None if (whole := value("whole_portions")) is None else int(whole),
        food_cost=value("food_cost"),
        labour_cost=value("labour_cost"),
        energy_cost=value("energy_cost"),
        overhead_cost=value("overhead_cost"),
        net_price=value("net_price"),
        suggested_price=value("suggested_price"),
        price=value("price"),
        price_is_set=portion.serving.price is not None,
        food_cost_share=value("food_cost_share"),
        gross_profit_share=value("gross_profit_share"),
        target_share=value("target_share"),
        contribution=value("contribution"),
        extras=[_extra(figures, role, line) for role, line in portion.extras],
    )


def _extra(figures: ServingFigures, role: str, line: LineMass | Problem) -> SheetExtra:
    line_id = (line.line or "") if isinstance(line, Problem) else line.id
    name = figures.view.name_of(line.item) if isinstance(line, Problem) else named(line, figures.view)
    recipe = None if isinstance(line, Problem) else line.recipe
    ap, ep, cost = (_value(figures.of([line_id, which])) for which in ("ap_g", "ep_g", "cost"))
    kept = None if isinstance(line, Problem) else figures.kept_for_each(line)
    pieces = None if isinstance(line, Problem) else _value(figures.of([line_id, "pieces"]))
    return SheetExtra(role, line_id, line.item, recipe, name, ap, ep, cost, kept, pieces)
