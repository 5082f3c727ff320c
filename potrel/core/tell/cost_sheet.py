"""The cost sheet: the figures of one recipe as they are shown, printed and tested, each read off its working."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from decimal import Decimal
from typing import Any, Literal

from potrel.core.cost.costed_recipe import CostedRecipe
from potrel.core.cost.costing import Costing
from potrel.core.cost.portion import Portion, serving_warnings
from potrel.core.errors import Problem, Warning, warning
from potrel.core.frozen import dataclass
from potrel.core.kitchen.kinds import ZERO, Computed, Flag, On
from potrel.core.kitchen.pricing import PricingMethod
from potrel.core.kitchen.recipes import Recipe
from potrel.core.numbers.arithmetic import Number, total
from potrel.core.pot.balance import StageMass, reach
from potrel.core.pot.content import THICKENING, Content
from potrel.core.pot.day_view import DayView
from potrel.core.pot.done_when import Done, done_when
from potrel.core.pot.evaporation import BAND
from potrel.core.pot.holding import standing
from potrel.core.pot.line_mass import LineMass
from potrel.core.rooms.diets import Verdict, verdicts
from potrel.core.rooms.exchanges.exchange import Sort, sort_of
from potrel.core.rooms.leftovers import short_of
from potrel.core.rooms.salt import salt_notes
from potrel.core.sentences import Sentence, say
from potrel.core.tell.batch_figures import BatchFigures
from potrel.core.tell.content_figures import BATCH_CONTENT, SERVING_CONTENT, ContentFigures
from potrel.core.tell.figures import Figure
from potrel.core.tell.line_figures import LineFigures, named
from potrel.core.tell.selling_figures import IN_FORCE, SellingFigures
from potrel.core.tell.serving_figures import ServingFigures
from potrel.core.tell.stage_figures import HEAT_FIGURES, StageFigures

EvaporationBy = Literal["stated", "surface", "heat"]
Thickness = Literal["thin", "medium", "thick"]
# [g of flour in a litre] Textbooks of culinary schools, from memory: thin to 10 oz of roux in a US gallon, medium to 14.
_MEDIUM_FROM, _THICK_ABOVE = Decimal(40), Decimal(56)
# Of the energy of a batch: less than that may be as far off as it will.
_TELLING = Decimal("0.05")


@dataclass(frozen=True, slots=True)
class SheetLine:
    """A line: AP and EP masses [g] and cost [money]. A top-up has the id "top_up".

    `pot_g` is the thing itself after cooking; `up_g` what cooking it sends out of the pot, `stays_g` what it gives to the pot
    as juice, liquor or fat (below zero, what it drinks from it). It costs `at_least` so much where its own recipe lacks
    something. As an `exchange` it may be tried in other forms.
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
    exchange: Sort | None


@dataclass(frozen=True, slots=True)
class SheetTaken:
    """Something taken out of a stage: mass [g] and what it bears of the cost [money], negative where disposal is paid.

    Its value is not known where the value is missing by which the cost is shared.
    """

    name: str
    mass_g: Computed
    value: Computed | None


@dataclass(frozen=True, slots=True)
class SheetWay:
    """Where a part of what a stage hands on goes: a later stage, or nowhere (`stage` is None); its share, mass [g] and cost."""

    stage: str | None
    name: str
    share: Computed
    mass_g: Computed
    cost: Computed


@dataclass(frozen=True, slots=True)
class SheetStage:
    """A stage: masses [g] in, lost by its change (negative where water comes in), residue and out; cost passed on.

    `put_in_g` is what was put in, lines as prepared and inflows. Of that `cooked_g` went up as the lines cooked, which left
    `mass_in_g`; `stayed_g` is what the lines gave to the pot as juice, liquor and fat (negative where they drank from it).
    What goes up an hour [kg] is stated, or told by its vessel (then with its band); `minutes_needed` is how long a vessel
    takes to reduce it, `minutes_to_heat` to get it hot, `minutes_to_dry` to drive off what cooks out of the lines.
    `energy_lack` says what has to be said to know its energy [kWh].
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
    evaporation_kg_per_hour: Computed | None
    evaporation_by: EvaporationBy | None
    evaporation_low: Computed | None
    evaporation_high: Computed | None
    minutes_needed: Computed | None
    minutes_to_heat: Computed | None
    minutes_to_dry: Computed | None
    energy_kwh: Computed | None
    energy_lack: str | None
    salt_share: Computed | None
    done: Done | None
    goes_to: list[SheetWay]


@dataclass(frozen=True, slots=True)
class SheetLack:
    """What a sum cannot be told for: an item (or recipe), and which of its values are not known."""

    item: str
    name: str
    lacks: list[str]


@dataclass(frozen=True, slots=True)
class SheetBatch:
    """The batch: its mass [g], volume [ml], food cost [money] with the seasoning allowance, and attended minutes.

    `basis` says which batch yield is in use; `computed_g` and `measured_g` show both. Of salt, alcohol and nutrients [g, kcal]
    a sum that lacks an item's value is not known, and `lacks` names the items; one without a strength thickens nothing.
    `thickness_g_per_l` is told as grams of flour in a white roux. Of the items `in_doubt` the stated energy is more than a
    tenth off that by the factors of EU Regulation 1169/2011, Annex XIV.
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
    salt_g: Computed | None
    salt_share: Computed | None
    salt_to_add_g: Computed | None
    thickness_g_per_l: Computed | None
    thickness_class: Thickness | None
    alcohol_g: Computed | None
    alcohol_share: Computed | None
    energy_kcal: Computed | None
    fat_g: Computed | None
    saturates_g: Computed | None
    carbohydrate_g: Computed | None
    sugars_g: Computed | None
    protein_g: Computed | None
    fibre_g: Computed | None
    energy_kwh: Computed | None
    lacks: list[SheetLack]
    in_doubt: list[str]


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
class SheetHold:
    """What standing hot does to a batch: what it loses [g], with its band, and portions, salt and thickness at its end.

    To be as at the start it takes `lost_g` of water again. `too_many` tells that it takes more containers than there are.
    """

    kg_per_hour: Computed | None
    containers: Computed | None
    too_many: Flag
    lost_g: Computed | None
    lost_low_g: Computed | None
    lost_high_g: Computed | None
    portions_end: Computed | None
    salt_share_end: Computed | None
    thickness_end_g_per_l: Computed | None
    lack: str | None


@dataclass(frozen=True, slots=True)
class SheetMethod:
    """A school of pricing: its price net of tax before the ending, the one on the card [money], and what follows from that."""

    method: PricingMethod
    net_price: Computed | None
    price: Computed | None
    food_cost_share: Computed | None
    gross_profit_share: Computed | None
    contribution: Computed | None


@dataclass(frozen=True, slots=True)
class SheetChannel:
    """A serving in a channel: the price there on the card, and what is kept of it, `net_price` [money]; what follows."""

    channel: str
    price: Computed | None
    net_price: Computed | None
    food_cost_share: Computed | None
    gross_profit_share: Computed | None
    contribution: Computed | None


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
    salt_g: Computed | None
    salt_share: Computed | None
    alcohol_g: Computed | None
    energy_kcal: Computed | None
    fat_g: Computed | None
    saturates_g: Computed | None
    carbohydrate_g: Computed | None
    sugars_g: Computed | None
    protein_g: Computed | None
    fibre_g: Computed | None
    energy_by_factors_kcal: Computed | None
    food_cost_if_all_take_it: Computed | None
    lacks: list[SheetLack]
    hold: SheetHold | None
    methods: list[SheetMethod]
    channels: list[SheetChannel]


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
    diets: list[Verdict]


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


def _line(figures: LineFigures, recipe: Recipe, view: DayView, lacks: bool) -> SheetLine:
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
        exchange=sort_of(line, recipe, view),
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
        **_band(here),
        energy_lack=None if here.energy is not None or here.heat is None or here.heat.lack is None else here.heat.lack.english,
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


def _band(here: StageMass) -> dict[str, Any]:
    """Below the boil a rate by physics is an estimate."""
    low, high = None, None
    if here.steam is not None and here.steam.limit == "surface" and here.steam.kg_per_hour > 0:
        low, high = (here.steam.kg_per_hour * end for end in BAND)
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
        basis="measured" if one.recipe.use_measured_yield else "computed",
        computed_g=_known(figures.of(["computed_g"])),
        measured_g=_value(figures.of(["measured_g"])),
        energy_kwh=None if not one.needs.energy_known or one.needs.energy == 0 else one.needs.energy,
        thickness_class=None if thick is None else thickness_class(thick),
        lacks=_lacks(lacking, figures.view),
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


def thickness_class(grams_per_litre: Number) -> Thickness:
    """How thick a soup is: by the roux that textbooks give a gallon of it, half of which is flour (from memory)."""
    if grams_per_litre <= _MEDIUM_FROM:
        return "thin"
    return "medium" if grams_per_litre <= _THICK_ABOVE else "thick"


def _lacks(lacking: Mapping[str, frozenset[str]], view: DayView) -> list[SheetLack]:
    found: dict[str, list[str]] = {}
    for name, items in lacking.items():
        for item in items:
            found.setdefault(item, []).append(name)
    rows = [SheetLack(item, view.name_of(item, item), lacks) for item, lacks in found.items()]
    return sorted(rows, key=lambda row: row.name.casefold())


def _serving(figures: ServingFigures, of_batch: ContentFigures) -> SheetServing:
    portion = figures.portion

    def value(name: str) -> Number | None:
        return _value(figures.of([name]))

    inside: dict[str, Any] = {name: _value(of_batch.portion(portion, name)) for name in SERVING_CONTENT}
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
        lacks=_lacks(of_batch.inside.portion(portion).lacks, figures.view),
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
        return SheetHold(None, None, False, None, None, None, None, None, None, found.english)
    left = (mass - found.lost) / mass
    vessel = of_batch.view.vessels[serving.hold_vessel or ""]
    salt, thick = (_value(of_batch.of(name)) for name in ("salt_share", "thickness_g_per_l"))
    gone = left <= 0
    return SheetHold(
        found.kg_per_hour, found.containers, found.containers > vessel.count, found.lost, *found.band,
        None if portion.portions is None else portion.portions * left,
        None if salt is None or gone else salt / left,
        None if thick is None or gone else thick / left, None,
    )  # fmt: skip


def _extra(figures: ServingFigures, role: str, line: LineMass | Problem) -> SheetExtra:
    line_id = (line.line or "") if isinstance(line, Problem) else line.id
    name = figures.view.name_of(line.item) if isinstance(line, Problem) else named(line, figures.view)
    recipe = None if isinstance(line, Problem) else line.recipe
    ap, ep, cost = (_value(figures.of([line_id, which])) for which in ("ap_g", "ep_g", "cost"))
    kept = None if isinstance(line, Problem) else figures.kept_for_each(line)
    pieces = None if isinstance(line, Problem) else _value(figures.of([line_id, "pieces"]))
    return SheetExtra(role, line_id, line.item, recipe, name, ap, ep, cost, kept, pieces)
