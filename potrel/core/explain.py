"""Every figure of a cost sheet by its path, and the working that belongs to it."""

from __future__ import annotations

from collections.abc import Iterator
from decimal import Decimal

from potrel.core.costing import Costing
from potrel.core.errors import UnknownFigure
from potrel.core.sheet import CostSheet
from potrel.core.working import Working, explain_cooked, explain_item
from potrel.core.working_pot import explain_batch, explain_line, explain_stage
from potrel.core.working_serving import explain_serving


def figures_of(sheet: CostSheet) -> Iterator[tuple[str, Decimal | int | None]]:
    """Every figure of a cost sheet: the path by which its working is asked for, and its value."""
    for line in sheet.lines:
        for name in ("ap_g", "ep_g", "pot_g", "cost"):
            yield f"line/{line.stage}/{line.id}/{name}", getattr(line, name)
    for stage in sheet.stages:
        for name in ("put_in_g", "cooked_g", "mass_in_g", "changed_g", "residue_g", "mass_out_g", "cost"):
            yield f"stage/{stage.id}/{name}", getattr(stage, name)
        for place, taken in enumerate(stage.taken_out, 1):
            yield f"stage/{stage.id}/taken_{place}_mass_g", taken.mass_g
            yield f"stage/{stage.id}/taken_{place}_value", taken.value
    for name in ("mass_g", "volume_ml", "food_cost", "cost_per_kg", "cost_per_l", "attended_minutes",
                 "computed_g", "measured_g"):  # fmt: skip
        yield f"batch/{name}", getattr(sheet.batch, name)
    for serving in sheet.servings:
        for name in ("size_ml", "size_g", "portions", "whole_portions", "food_cost", "labour_cost", "energy_cost",
                     "overhead_cost", "net_price", "suggested_price", "price", "food_cost_share", "target_share",
                     "contribution"):  # fmt: skip
            yield f"serving/{serving.id}/{name}", getattr(serving, name)
        for extra in serving.extras:
            for name in ("ap_g", "ep_g", "cost"):
                yield f"serving/{serving.id}/{extra.id}/{name}", getattr(extra, name)


def explain(costing: Costing, recipe_id: str, figure: str) -> Working:
    """The working of one figure of a recipe's cost sheet, by its path (see `figures_of`); UnknownFigure for any other.

    Beside the sheet's figures: `item/ID/price_per_kg`, `item/ID/PREPARATION` and `item/ID/cooking/METHOD` (its
    usable kilo) and `serving/ID/drift`.
    """
    match figure.split("/"):
        case ["line", stage, line, name]:
            found = explain_line(costing, recipe_id, stage, line, name)
        case ["stage", stage, name]:
            found = explain_stage(costing, recipe_id, stage, name)
        case ["batch", name]:
            found = explain_batch(costing, recipe_id, name)
        case ["serving", serving, *names] if len(names) in (1, 2):
            found = explain_serving(costing, recipe_id, serving, names)
        case ["item", item, name]:
            found = explain_item(costing, recipe_id, item, name)
        case ["item", item, "cooking", *method] if method:
            found = explain_cooked(costing, recipe_id, item, "/".join(method))
        case _:
            found = None
    if found is None:
        raise UnknownFigure(figure)
    return found
