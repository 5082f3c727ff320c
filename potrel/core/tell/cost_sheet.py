"""The cost sheet: the figures of one recipe as they are shown, printed and tested, each read off its working."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import replace
from decimal import Decimal
from typing import Any

from potrel.core.cost.costed_recipe import CostedRecipe
from potrel.core.cost.costing import Costing
from potrel.core.cost.portion import Portion, serving_warnings
from potrel.core.errors import Caveat, Problem, caveat
from potrel.core.kitchen.items import Item
from potrel.core.kitchen.kinds import ZERO
from potrel.core.kitchen.recipes import Recipe
from potrel.core.numbers.arithmetic import Number, total
from potrel.core.pot.balance import StageMass, reach
from potrel.core.pot.content import Content
from potrel.core.pot.day_view import DayView
from potrel.core.pot.done_when import done_when
from potrel.core.pot.heat import litres_of, physics_beside
from potrel.core.pot.held import ALCOHOL, HELD, THICKENING, Held, alcohol_of
from potrel.core.pot.holding import standing
from potrel.core.pot.line_mass import LineMass
from potrel.core.pot.rough import rough_of
from potrel.core.rooms.diets import verdicts
from potrel.core.rooms.exchanges.exchange import sort_of
from potrel.core.rooms.leftovers import short_of
from potrel.core.rooms.salt import salt_notes
from potrel.core.sentences import Sentence, say
from potrel.core.tell.batch_figures import BatchFigures
from potrel.core.tell.content_figures import BATCH_CONTENT, SERVING_CONTENT, ContentFigures
from potrel.core.tell.figures import Figure
from potrel.core.tell.line_figures import LineFigures, named
from potrel.core.tell.selling_figures import IN_FORCE, SellingFigures
from potrel.core.tell.serving_figures import ServingFigures
from potrel.core.tell.sheet_parts import (
    CostSheet,
    EvaporationBy,
    SheetBatch,
    SheetChannel,
    SheetExtra,
    SheetHold,
    SheetLack,
    SheetLine,
    SheetMethod,
    SheetServing,
    SheetStage,
    SheetTaken,
    SheetWay,
    Thickness,
)
from potrel.core.tell.stage_figures import HEAT_FIGURES, StageFigures
from potrel.core.trim.shelf import filled

# [g of flour in a litre] Textbooks of culinary schools, from memory: thin to 10 oz of roux in a US gallon, medium to 14.
_MEDIUM_FROM, _THICK_ABOVE = Decimal(40), Decimal(56)
# Of the energy of a batch: less than that may be as far off as it will.
_TELLING = Decimal("0.05")


def sheet_of(costing: Costing, recipe_id: str) -> CostSheet:
    """The cost sheet of a recipe."""
    view, one = costing.view, costing.of(recipe_id)
    stages, inside = StageFigures(costing, one), ContentFigures(costing, one)
    warnings = [*one.balance.warnings, *short_of(costing, recipe_id), *_instead(one, view)]
    warnings += salt_notes(one, costing.content(recipe_id), view)
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
        lines=[
            _line(line, one.recipe, view, line.line.id in lines)
            for here in one.balance.stages
            for line in stages.lines(here.stage.id)
        ],
        stages=[_stage(stages, here, here.stage.id in lacking) for here in one.balance.stages],
        batch=_batch(BatchFigures(costing, one), one, inside),
        servings=[_serving(ServingFigures(costing, one, portion), inside) for portion in one.portions],
        allergens=costing.allergens(recipe_id),
        warnings=warnings,
        diets=verdicts(one, view),
    )


def stages_that_lack(one: CostedRecipe, view: DayView) -> set[str]:
    """The stages to which something comes whose cost is not known yet: their own lines, or those of earlier stages."""
    lacking = {problem.stage for problem in one.problems if problem.stage is not None}
    stages = one.recipe.stages
    found = {stage.id for stage in stages if not lacking.isdisjoint(reach(stages, stage, view))}
    # What no stage takes of an earlier one stays with the last.
    return found | {stages[-1].id} if found else found


def _instead(one: CostedRecipe, view: DayView) -> list[Caveat]:
    """A word for each item that is not bought where the kitchen prefers to."""
    found: list[Caveat] = []
    for item in sorted(one.items):
        price = view.price(item)
        if price is not None and price.instead_of is not None:
            english = "{item}: {preferred} is preferred, but has no price in force; that of {supplier} counts"
            names = {"preferred": view.supplier_name(price.instead_of), "supplier": view.supplier_name(price.offer.supplier)}
            found.append(caveat(say("not_preferred", english, item=view.name_of(item), **names)))
    return found


def _value(figure: Figure | None) -> Number | None:
    return None if figure is None else figure.value


def _known(figure: Figure | None) -> Number:
    value = _value(figure)
    return ZERO if value is None else value


def _line(figures: LineFigures, recipe: Recipe, view: DayView, lacks: bool) -> SheetLine:
    line, rough = figures.line, None if figures.line.line is None else rough_of(figures.line.line, view)
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
        exchange=sort_of(line, recipe, view),
        rough=None if rough is None else rough.words,
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
        evaporation_by=_evaporation_by(here),
        **_band(here, stages),
        energy_lack=None if here.energy is not None or here.heat is None or here.heat.lack is None else here.heat.lack.english,
        reckoned_g=here.by_rule,
        reckoned_ml=here.by_rule / stages.one.recipe.density,
        came_out_g=here.came_out,
        done=done_when(here.stage, stages.view),
        goes_to=_ways(here, stages),
        **{name: _value(stages.of(stage, name)) for name in HEAT_FIGURES},
    )


def _ways(here: StageMass, stages: StageFigures) -> list[SheetWay]:
    """The ways of what a stage hands on; of the last there is none: it is the batch."""
    every, cost = stages.one.balance.stages, _known(stages.of(here.stage.id, "cost"))
    takers = [(later.stage, inflow.share) for later in every for inflow in later.stage.from_ if inflow.stage == here.stage.id]
    found = [SheetWay(stage.id, stage.name or stage.id, share, here.mass_out * share, cost * share) for stage, share in takers]
    if here is not every[-1] and here.left_over != 0:
        found.append(SheetWay(None, "nowhere", here.left_over, here.mass_out * here.left_over, cost * here.left_over))
    return found


def _evaporation_by(here: StageMass) -> EvaporationBy | None:
    change = here.stage.change
    if change.kg_per_hour is not None or change.per_hour is not None:
        return "stated"
    return None if here.steam is None else here.steam.limit


def _band(here: StageMass, stages: StageFigures) -> dict[str, Any]:
    """A rate by physics is an estimate; where a stated one lies outside of it, both are told."""
    low, high = None, None
    physics = here.steam or physics_beside(here.stage, litres_of(here.mass_in, stages.one.recipe.density), stages.view)
    if physics is not None and physics.kg_per_hour > 0:
        low, high = physics.band
    return {"evaporation_low": low, "evaporation_high": high}


def _batch(figures: BatchFigures, one: CostedRecipe, inside: ContentFigures) -> SheetBatch:
    content = inside.content
    values: dict[str, Any] = {name: _value(inside.of(name)) for name in BATCH_CONTENT}
    thick = values["thickness_g_per_l"]
    lacking = dict(content.batch.lacks) | ({THICKENING: content.no_strength} if content.no_strength else {})
    return SheetBatch(
        mass_g=_known(figures.of(["mass_g"])),
        volume_ml=_known(figures.of(["volume_ml"])),
        food_cost=_known(figures.of(["food_cost"])),
        cost_per_kg=_value(figures.of(["cost_per_kg"])),
        cost_per_l=_value(figures.of(["cost_per_l"])),
        attended_minutes=_known(figures.of(["attended_minutes"])),
        basis=one.balance.basis,
        computed_g=_known(figures.of(["computed_g"])),
        measured_g=_value(figures.of(["measured_g"])),
        written_g=_value(figures.of(["written_g"])),
        energy_kwh=None if not one.needs.energy_known or one.needs.energy == 0 else one.needs.energy,
        thickness_class=None if thick is None else _class_of(thick, at_least=inside.inside.thickness_at_least),
        thickness_at_least=inside.inside.thickness_at_least,
        **_at_least(content.batch, values, figures.view) if one.balance.yield_known else _NONE_AT_LEAST,
        lacks=_lacks(lacking, content.lacking.traces, figures.view),
        in_doubt=_in_doubt(content, figures.view),
        **values,
    )


def _in_doubt(content: Content, view: DayView) -> list[str]:
    """The items whose stated energy does not fit their nutrients, where they bring so much of it that it matters."""
    brought: dict[str, Number] = {}
    for place, source in enumerate(content.sources):
        item = None if source.line is None else source.line.item
        if item is not None:
            energy = source.held.amounts.get("energy_kcal", view.zero) * content.share(place)
            brought[item] = brought.get(item, view.zero) + energy
    enough = total(brought.values()) * _TELLING
    return sorted(view.items[item].name for item, energy in brought.items()
                  if item in view.items and view.items[item].composition.in_doubt and energy > enough)  # fmt: skip


def _class_of(grams_per_litre: Number, *, at_least: bool) -> Thickness | None:
    """The class of a sum; one that something is missing from is never said to be thin."""
    found = thickness_class(grams_per_litre)
    return None if at_least and found == "thin" else found


def thickness_class(grams_per_litre: Number) -> Thickness:
    """How thick a soup is: by the roux that textbooks give a gallon of it, half of which is flour (from memory)."""
    if grams_per_litre <= _MEDIUM_FROM:
        return "thin"
    return "medium" if grams_per_litre <= _THICK_ABOVE else "thick"


_SUMS = (*HELD, ALCOHOL)
_NONE_AT_LEAST: dict[str, Any] = dict.fromkeys(f"{name}_at_least" for name in _SUMS)


def _at_least(held: Held, told: Mapping[str, Number | None], view: DayView) -> dict[str, Any]:
    """The sum of what is known, of each thing of which all of it is not."""
    known = {**{name: held.amounts.get(name, view.zero) for name in HELD}, ALCOHOL: alcohol_of(held.spirits, view.zero)}
    return {f"{name}_at_least": known[name] if told[name] is None and held.lacks.get(name) else None for name in _SUMS}


def _on_shelf(item: Item | None, lacking: Iterable[str]) -> bool:
    """Whether the shelf knows one of the values that an item lacks, and would fill it in."""
    if item is None:
        return False
    lent = filled(item)
    known = {THICKENING: lent.thickening, ALCOHOL: lent.composition.abv, **dict(lent.composition.values())}
    return any(known.get(name) is not None for name in lacking)


def _lacks(lacking: Mapping[str, frozenset[str]], traces: Mapping[str, frozenset[str]], view: DayView) -> list[SheetLack]:
    found: dict[str, tuple[list[str], list[str]]] = {}
    for place, every in enumerate((lacking, traces)):
        for name, items in every.items():
            for item in items:
                found.setdefault(item, ([], []))[place].append(name)
    rows = [
        SheetLack(item, view.name_of(item, item), *names, on_shelf=_on_shelf(view.items.get(item), [*names[0], *names[1]]))
        for item, names in found.items()
    ]
    return sorted(rows, key=lambda row: row.name.casefold())


def _serving(figures: ServingFigures, of_batch: ContentFigures) -> SheetServing:
    portion = figures.portion

    def value(name: str) -> Number | None:
        return _value(figures.of([name]))

    inside: dict[str, Any] = {name: _value(of_batch.portion(portion, name)) for name in SERVING_CONTENT}
    held = of_batch.inside.portion(portion)
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
        price_is_set=portion.priced.set.price is not None,
        food_cost_share=value("food_cost_share"),
        gross_profit_share=value("gross_profit_share"),
        target_share=value("target_share"),
        contribution=value("contribution"),
        extras=[_extra(figures, role, line) for role, line in portion.extras],
        food_cost_if_all_take_it=value("food_cost_if_all_take_it"),
        **_at_least(held, inside, figures.view) if of_batch.inside.known else _NONE_AT_LEAST,
        lacks=_lacks(held.lacks, of_batch.inside.traces(portion), figures.view),
        hold=_hold(of_batch, portion),
        methods=_methods(figures),
        channels=_channels(figures),
        **inside,
    )


def _methods(figures: ServingFigures) -> list[SheetMethod]:
    """Every school that the kitchen has terms for, and the serving's own."""
    portion, view = figures.portion, figures.view
    own = portion.serving.pricing
    found = []
    for pricing in (*view.settings.pricings, *(() if own is None else (own,))):
        one = replace(portion, serving=replace(portion.serving, pricing=pricing))
        row = SellingFigures.of_channel(figures.costing, figures.one, one, None).row(pricing.method)
        before, tax = row.before_ending.value, view.settings.tax_rate
        found.append(
            SheetMethod(
                pricing.method, None if before is None else before / (1 + tax), row.price.value, row.food_cost_share.value,
                row.gross_profit_share.value, row.contribution.value,
            )
        )  # fmt: skip
    return found


def _channels(figures: ServingFigures) -> list[SheetChannel]:
    """Every channel that the serving is sold in beside the kitchen's own."""
    found = []
    for own in figures.portion.serving.channels:
        if own.channel in figures.view.channels:
            selling = SellingFigures.of_channel(figures.costing, figures.one, figures.portion, own.channel)
            row = selling.row(IN_FORCE)
            found.append(
                SheetChannel(
                    own.channel, row.price.value, row.kept.value, row.food_cost_share.value,
                    row.gross_profit_share.value, row.contribution.value,
                )
            )  # fmt: skip
    return found


def _hold(of_batch: ContentFigures, portion: Portion) -> SheetHold | None:
    one, serving = of_batch.one, portion.serving
    if not one.balance.yield_known:
        return None
    mass = one.balance.mass
    found = standing(serving, mass, one.recipe.density, of_batch.view)
    if found is None:
        return None
    if isinstance(found, Sentence):
        return SheetHold(None, None, False, None, None, None, None, None, None, False, found.english)
    left = (mass - found.lost) / mass
    vessel = of_batch.view.vessels[serving.hold_vessel or ""]
    salt, thick = (_value(of_batch.of(name)) for name in ("salt_share", "thickness_g_per_l"))
    gone = left <= 0
    return SheetHold(
        found.kg_per_hour, found.containers, found.containers > vessel.count, found.lost, *found.band,
        None if portion.portions is None else portion.portions * left,
        None if salt is None or gone else salt / left,
        None if thick is None or gone else thick / left, of_batch.inside.thickness_at_least, None,
    )  # fmt: skip


def _extra(figures: ServingFigures, role: str, line: LineMass | Problem) -> SheetExtra:
    line_id = (line.line or "") if isinstance(line, Problem) else line.id
    name = figures.view.name_of(line.item) if isinstance(line, Problem) else named(line, figures.view)
    recipe = None if isinstance(line, Problem) else line.recipe
    ap, ep, cost = (_value(figures.of([line_id, which])) for which in ("ap_g", "ep_g", "cost"))
    kept = None if isinstance(line, Problem) else figures.kept_for_each(line)
    pieces = None if isinstance(line, Problem) else _value(figures.of([line_id, "pieces"]))
    return SheetExtra(role, line_id, line.item, recipe, name, ap, ep, cost, kept, pieces)
