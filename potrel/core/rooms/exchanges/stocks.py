"""Stock in the place of stock: own, carton, cube, base and water, each ready to use."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from potrel.core.kitchen.items import Item
from potrel.core.kitchen.kinds import ONE
from potrel.core.kitchen.lines import Line
from potrel.core.kitchen.recipes import Recipe
from potrel.core.numbers.arithmetic import Number
from potrel.core.pot.day_view import DayView
from potrel.core.rooms.exchanges.phrases import called
from potrel.core.rooms.exchanges.ways import Spot, Way, told_litres, told_mass
from potrel.core.rooms.make_or_buy import Flip, flip_of, liquid_cost

_STOCK = (("stock",), ("broth",), ("fond",), ("remouillage",), ("bouillon",))
_WATER = "no body and no taste of its own"


def is_stock(recipe: Recipe) -> bool:
    """Whether a recipe is a stock: no serving of it is sold, and it is called so."""
    return not recipe.servings and bool(called(recipe.name, _STOCK))


def stocks(spot: Spot) -> list[Way]:
    """The line as it stands, and all that could stand for it."""
    item = spot.view.items.get(spot.line.item or "")
    if item is not None and item.ready_litres_per_kg is not None:
        litres = spot.line.ep / 1000 * spot.view.number(item.ready_litres_per_kg)
        return [_now(spot, litres), *_concentrates(spot, item, litres)]
    litres = _litres(spot)
    return [_now(spot, litres), *_liquids(spot, litres)]


def _now(spot: Spot, litres: Number) -> Way:
    lines = [] if spot.line.line is None else [spot.line.line]
    name = spot.view.name_of(spot.line.item, spot.line.recipe)
    return spot.way(name, lines, spot.recipe, _mind(lines, spot.view), liquid=liquid_cost(spot.costing, lines, litres))


def _litres(spot: Spot) -> Number:
    recipe, item = spot.view.recipes.get(spot.line.recipe or ""), spot.view.items.get(spot.line.item or "")
    density = recipe.density if recipe is not None else (item.density if item is not None else None) or ONE
    return spot.line.ep / 1000 / spot.view.number(density)


def _concentrates(spot: Spot, own: Item, litres: Number) -> Iterator[Way]:
    """Of a base or a cube whose water stands elsewhere: the others, for as much of it."""
    for item in spot.view.items.values():
        if item.id != own.id and not item.archived and item.ready_litres_per_kg is not None:
            grams = litres * 1000 / spot.view.number(item.ready_litres_per_kg)
            yield _way(spot, item.name, [Line(told_mass(grams), item=item.id)], litres)


def _liquids(spot: Spot, litres: Number) -> Iterator[Way]:
    view, told = spot.view, told_litres(litres)
    water = next((item for item in view.items.values() if item.kind == "water" and not item.archived), None)
    for recipe in view.recipes.values():
        itself = recipe.id in (spot.line.recipe, spot.recipe.id)
        if is_stock(recipe) and not itself and not _uses(view, recipe.id, spot.recipe.id):
            yield _way(spot, recipe.name, [Line(told, recipe=recipe.id)], litres)
    for item in view.items.values():
        if item.kind != "stock" or item.id == spot.line.item or item.archived:
            continue
        if item.ready_litres_per_kg is None:
            quantity = told if item.density is not None else told_mass(litres * 1000)
            yield _way(spot, item.name, [Line(quantity, item=item.id)], litres)
        elif water is not None:
            grams = litres * 1000 / view.number(item.ready_litres_per_kg)
            lines = [Line(told_mass(grams), item=item.id), Line(told, item=water.id)]
            yield _way(spot, f"{item.name} and water", lines, litres)
    if water is not None and water.id != spot.line.item:
        yield _way(spot, water.name, [Line(told, item=water.id)], litres)


def _uses(view: DayView, recipe_id: str, wanted: str) -> bool:
    used = view.uses(recipe_id)
    return wanted in used or any(_uses(view, one, wanted) for one in used)


def _way(spot: Spot, name: str, lines: Sequence[Line], litres: Number) -> Way:
    liquid = liquid_cost(spot.costing, lines, litres)
    return spot.way(name, lines, spot.with_lines(lines), _mind(lines, spot.view), liquid=liquid)


def _mind(lines: Sequence[Line], view: DayView) -> str:
    item = view.items.get(lines[0].item or "") if lines else None
    return _WATER if item is not None and item.kind == "water" else ""


def flips(spot: Spot, ways: Sequence[Way]) -> Iterator[Flip]:
    """When making and buying change places: the own stock of the line with each bought one; or each own with what is bought."""
    own = [way for way in ways if way.liquid is not None and way.liquid.recipe is not None]
    bought = [way for way in ways if way.liquid is not None and way.liquid.bought]
    now = ways[0]
    pairs = [(now, one) for one in bought] if now in own else [(one, now) for one in own if now in bought]
    for made, other in pairs:
        if made.liquid is not None and other.liquid is not None:
            flip = flip_of(spot.costing, made.liquid, other.name, other.liquid)
            if flip is not None:
                yield flip
