"""Every figure of a cost sheet by its path, and the working that belongs to it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from decimal import Decimal

from potrel.core.cost.costing import Costing
from potrel.core.cost.selling import OWN
from potrel.core.errors import UnknownFigure
from potrel.core.kitchen.order import order_of
from potrel.core.tell.batch_figures import BATCH_FIGURES, BatchFigures
from potrel.core.tell.cost_sheet import stages_that_lack
from potrel.core.tell.figures import Figure
from potrel.core.tell.form_figures import explain_usable
from potrel.core.tell.item_figures import explain_item
from potrel.core.tell.line_figures import LINE_FIGURES
from potrel.core.tell.selling_figures import SellingFigures
from potrel.core.tell.serving_figures import SERVING_FIGURES, ServingFigures
from potrel.core.tell.sheet_parts import CostSheet
from potrel.core.tell.stage_figures import HEAT_FIGURES, STAGE_FIGURES, StageFigures
from potrel.core.tell.yield_figures import Earlier, explain_yield, no_earlier

# What takes no heat of its own.
_COLD = frozenset({None, "blend", "strain", "soak", "cool", "finish"})


def figures_of(sheet: CostSheet) -> Iterator[tuple[str, Decimal | int | None]]:
    """Every figure of a cost sheet: the path by which its working is asked for, and its value."""
    for line in sheet.lines:
        for name in LINE_FIGURES:
            yield f"line/{line.stage}/{line.id}/{name}", getattr(line, name)
    for stage in sheet.stages:
        for name in (*STAGE_FIGURES, *HEAT_FIGURES):
            if name != "after_g":
                yield f"stage/{stage.id}/{name}", getattr(stage, name)
        for place, taken in enumerate(stage.taken_out, 1):
            yield f"stage/{stage.id}/taken_{place}_mass_g", taken.mass_g
            yield f"stage/{stage.id}/taken_{place}_value", taken.value
    for name in BATCH_FIGURES:
        yield f"batch/{name}", getattr(sheet.batch, name)
    for serving in sheet.servings:
        for name in SERVING_FIGURES:
            yield f"serving/{serving.id}/{name}", getattr(serving, name)
        for extra in serving.extras:
            for name in ("ap_g", "ep_g", "cost"):
                yield f"serving/{serving.id}/{extra.id}/{name}", getattr(extra, name)


def explain(costing: Costing, recipe_id: str, figure: str, earlier: Earlier = no_earlier) -> Figure:
    """A figure with its working, by its path (see `figures_of`); UnknownFigure for any other.

    Beside a recipe's figures those of no recipe: of an item (`item/ID/price_per_kg`), a test (`test/…`), a yield (`yield/…`,
    where `earlier` tells what was in use before), a form beside others (`usable/…`); and whatever an input leads to.
    """
    found = explain_usable(costing, figure) or explain_yield(costing, figure, earlier)
    if found is None and (recipe_id in costing.view.recipes or figure.startswith("item/")):
        found = _found(costing, recipe_id, figure)
    if found is None:
        raise UnknownFigure(figure)
    return replace(found, at_least=True) if _is_lower_bound(costing, recipe_id, figure) else found


def _is_lower_bound(costing: Costing, recipe_id: str, figure: str) -> bool:
    """Whether a cost rests on what is not known yet: of an incomplete recipe all but what single lines and stages cost, and of
    those what rests on a lack of their own."""
    if recipe_id not in costing.view.recipes:
        return False
    problems = costing.of(recipe_id).problems
    match figure.split("/"):
        case ["batch", "cost" | "food_cost" | "cost_per_kg" | "cost_per_l"] | ["serving", _, "food_cost"]:
            return bool(problems)
        case ["stage", stage, "cost"]:
            return stage in stages_that_lack(costing.of(recipe_id), costing.view)
        case ["batch", "energy_kwh"] | ["serving", _, "energy_cost"]:
            return lacks_energy(costing, recipe_id)
        case ["line", _, line, "cost"] | ["serving", _, line, "cost"]:
            return any(one.line == line for one in problems)
    return False


def lacks_energy(costing: Costing, recipe_id: str) -> bool:
    """Whether a stage of a recipe, or of one that it uses, does not say what energy it takes."""
    recipes = [costing.of(one) for one in order_of([recipe_id], costing.view.uses)]
    stages = (here for one in recipes for here in one.balance.stages)
    return any(here.energy is None and here.stage.method not in _COLD for here in stages)


def _found(costing: Costing, recipe_id: str, figure: str) -> Figure | None:
    match figure.split("/"):
        case ["item", item, *names] if names:
            return explain_item(costing, recipe_id, item, names)
        case ["line", stage, line_id, name]:
            stages = StageFigures(costing, costing.of(recipe_id))
            lines = stages.lines(stage) if stage in stages.by_id else ()
            line = next((one for one in lines if one.line.id == line_id), None)
            return None if line is None else line.of(name)
        case ["stage", stage, name]:
            return StageFigures(costing, costing.of(recipe_id)).of(stage, name)
        case ["batch", *names]:
            return BatchFigures(costing, costing.of(recipe_id)).of(names)
        case ["serving", serving, "in", channel, *names]:
            one = costing.of(recipe_id)
            portion = one.portion(serving)
            if portion is None or (channel != OWN and channel not in costing.view.channels):
                return None
            return SellingFigures.of_channel(costing, one, portion, None if channel == OWN else channel).of(names)
        case ["serving", serving, *names]:
            one = costing.of(recipe_id)
            portion = one.portion(serving)
            return None if portion is None else ServingFigures(costing, one, portion).of(names)
    return None
