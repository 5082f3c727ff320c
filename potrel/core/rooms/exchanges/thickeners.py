"""A thickener in the place of another, for the same thickness of the same batch."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace
from decimal import Decimal
from functools import cache

from potrel.core.kitchen.items import Item
from potrel.core.kitchen.kinds import ONE
from potrel.core.kitchen.lines import Line
from potrel.core.kitchen.methods import method_called
from potrel.core.kitchen.recipes import Recipe, with_lines
from potrel.core.numbers.arithmetic import Number
from potrel.core.pot.content import stays_whole, strength_of
from potrel.core.pot.day_view import DayView
from potrel.core.pot.line_mass import nutrient_mass
from potrel.core.rooms.exchanges.phrases import Phrases, called, phrases
from potrel.core.rooms.exchanges.ways import Spot, Way, as_strong, ready_to_use, told_litres, told_mass
from potrel.core.tables import table

# What thickens less than that is no thickener, but a vegetable in a soup.
_WEAKEST = Decimal("0.1")
# Flour to fat, and the fat for each gram of flour.
_ROUX = (("1:1", ONE), ("60:40", Decimal(40) / 60))
_FLOUR = (("flour",),)


@cache
def _minded() -> tuple[tuple[Phrases, str], ...]:
    return tuple((phrases(row["words"]), row["mind"]) for row in table("thickeners.csv"))


def what_to_mind(name: str) -> str:
    """What to mind of a thickener, by its name; nothing where nothing is known."""
    return next((mind for of, mind in _minded() if called(name, of)), "")


def is_blended(recipe: Recipe, at: int) -> bool:
    """Whether what goes in at the stage of a place is blended there or later."""
    flows = {recipe.stages[at].id}
    for stage in recipe.stages[at:]:
        if stage.id in flows or any(one.stage in flows for one in stage.from_):
            flows.add(stage.id)
            found = method_called(stage.method or "")
            if found is not None and found.id == "blend":
                return True
    return False


def thickens(item: Item, *, blended: bool) -> bool:
    """Whether a thing thickens what it goes into."""
    return item.thickening is not None and item.thickening >= _WEAKEST and (blended or not stays_whole(item))


def thickeners(spot: Spot) -> Iterator[Way]:
    """The line as it stands, and every other thickener that the kitchen has a price for."""
    own, blended = spot.view.items[spot.line.item or ""], is_blended(spot.recipe, spot.stage)
    yield spot.way(own.name, [] if spot.line.line is None else [spot.line.line], spot.recipe, what_to_mind(own.name))
    # As it thickens the pot: by what went in dry.
    dry, strength = nutrient_mass(spot.line, spot.view), spot.view.number(strength_of(own, spot.line.line, spot.here))
    for item in spot.view.items.values():
        if item.id == own.id or item.archived or not thickens(item, blended=blended) or not spot.view.offers_of(item.id):
            continue
        grams = as_strong(dry, strength, spot.view.number(strength_of(item, None, spot.here) or ONE))
        line = ready_to_use(item, grams)
        if not called(item.name, _FLOUR):
            yield _way(spot, item.name, [line], grams)
            continue
        yield _way(spot, f"{item.name}, dusted on or as a slurry", [line], grams)
        fat = _fat(spot.view)
        for words, share in _ROUX if fat is not None else ():
            with_fat = [line, Line(told_mass(grams * share), item=fat.id)] if fat is not None else [line]
            yield _way(spot, f"a roux of {item.name}, {words}", with_fat, grams * (1 + share))


def _fat(view: DayView) -> Item | None:
    """What a roux is made with here: butter, else another fat."""
    priced = [item for item in view.items.values() if view.offers_of(item.id) and not item.archived]
    butter = (item for item in priced if called(item.name, (("butter",),)) and item.kind == "dairy")
    return next(butter, next((item for item in priced if item.kind == "fat"), None))


def _way(spot: Spot, name: str, lines: Sequence[Line], grams: Number) -> Way:
    recipe = _kept_as_large(spot, spot.with_lines(lines), len(lines) - 1, grams - spot.line.ep)
    return spot.way(name, lines, recipe, what_to_mind(name))


def _kept_as_large(spot: Spot, recipe: Recipe, shift: int, more: Number) -> Recipe:
    """A recipe whose liquid makes up for what goes in more or less [g], so that the batch stays as large.

    Where it is topped up, it stays so by itself. Of several liquids it is the one of which there is most.
    """
    if any(stage.change.rule == "top_up" for stage in recipe.stages[spot.stage :]):
        return recipe
    found: list[tuple[Number, int, int, Number]] = []
    ids = iter(spot.recipe.line_ids())
    masses = {line.id: line for line in spot.costing.of(spot.recipe.id).balance.lines}
    for at, stage in enumerate(spot.recipe.stages):
        for place, line in enumerate(stage.lines):
            mass, density = masses[next(ids)], _density(line, spot.view)
            if density is not None and mass is not spot.line and mass.ep > more:
                found.append((mass.ep, at, place, spot.view.number(density)))
    if not found:
        return recipe
    grams, at, place, of = max(found, key=lambda one: one[0])
    here = place + (shift if at == spot.stage and place > spot.place else 0)
    lines = recipe.stages[at].lines
    poured = replace(lines[here], quantity=told_litres((grams - more) / 1000 / of))
    return with_lines(recipe, at, (*lines[:here], poured, *lines[here + 1 :]))


def _density(line: Line, view: DayView) -> Decimal | None:
    """The density of a line that is liquid of the pot; None of any other."""
    recipe, item = view.recipes.get(line.recipe or ""), view.items.get(line.item or "")
    if recipe is not None and line.byproduct is None:
        return recipe.density
    return item.density if item is not None and item.kind in ("water", "stock") else None
