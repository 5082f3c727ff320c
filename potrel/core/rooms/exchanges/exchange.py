"""What a line of a pot can be exchanged for, and as what."""

from __future__ import annotations

from typing import Literal

from potrel.core.cost.costing import Costing
from potrel.core.errors import BadDocument
from potrel.core.frozen import dataclass
from potrel.core.kitchen.items import Item
from potrel.core.kitchen.kinds import Name
from potrel.core.kitchen.recipes import Recipe
from potrel.core.pot.day_view import DayView
from potrel.core.pot.line_mass import LineMass
from potrel.core.rooms.diets import verdicts
from potrel.core.rooms.exchanges.stocks import flips, is_stock, stocks
from potrel.core.rooms.exchanges.strengths import Form, form_of, strengths
from potrel.core.rooms.exchanges.thickeners import blended_share, thickeners, thickens
from potrel.core.rooms.exchanges.ways import Spot, Way
from potrel.core.rooms.make_or_buy import Flip
from potrel.core.sentences import say

Sort = Literal["stock", "thickener", "strength"]


@dataclass(frozen=True, slots=True)
class Exchange:
    """All ways to meet what one line is for; the first is the line as it stands. `flips` say when own stock stops to pay."""

    sort: Sort
    name: Name
    ways: list[Way]
    flips: list[Flip]


def sort_of(line: LineMass, recipe: Recipe, view: DayView) -> Sort | None:
    """What a line of a pot can be exchanged as; None where nothing is known of that."""
    if not line.known or line.line is None or line.byproduct is not None:
        return None
    if line.recipe is not None:
        used = view.recipes.get(line.recipe)
        return "stock" if used is not None and is_stock(used) else None
    item = view.items.get(line.item or "")
    if item is None:
        return None
    if item.kind in ("stock", "water"):
        return "stock"
    form = form_of(item.name)
    if form is not None and _in_other_forms(item, form, view):
        return "strength"
    at = next(at for at, stage in enumerate(recipe.stages) if stage.id == line.stage)
    return "thickener" if thickens(item, blended_share(recipe, at)) else None


def _in_other_forms(item: Item, form: Form, view: DayView) -> bool:
    others = (form_of(one.name) for one in view.items.values() if one.id != item.id and not one.archived)
    return any(other is not None and other.group == form.group for other in others)


def exchange(costing: Costing, recipe_id: str, stage_id: str, line_id: str) -> Exchange:
    """Every way to meet what a line is for. BadDocument where there is no such line, or it can be exchanged for nothing."""
    recipe = costing.view.recipes[recipe_id]
    ids = iter(recipe.line_ids())
    for at, stage in enumerate(recipe.stages):
        for place, _ in enumerate(stage.lines):
            if next(ids) == line_id and stage.id == stage_id:
                line = next(one for one in costing.of(recipe_id).balance.lines if (one.stage, one.id) == (stage_id, line_id))
                now = verdicts(costing.of(recipe_id), costing.view)
                return _exchange(Spot(costing, recipe, at, place, line, costing.allergens(recipe_id), now))
    raise BadDocument("line", say("no_such_line", 'the pot has no line "{line}" in "{stage}"', line=line_id, stage=stage_id))


def _exchange(spot: Spot) -> Exchange:
    name, sort = spot.view.name_of(spot.line.item, spot.line.recipe), sort_of(spot.line, spot.recipe, spot.view)
    if sort is None:
        raise BadDocument("line", say("nothing_instead", "nothing is known that could stand for {name}", name=name))
    if sort == "stock":
        ways = stocks(spot)
        return Exchange(sort, name, ways, list(flips(spot, ways)))
    return Exchange(sort, name, list(thickeners(spot) if sort == "thickener" else strengths(spot)), [])
