"""A thickener in the place of another, for the same thickness of the same batch."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace
from decimal import Decimal
from functools import cache

from potrel.core.kitchen.items import Item, soaking_of
from potrel.core.kitchen.kinds import ONE, ZERO, plain
from potrel.core.kitchen.lines import Line
from potrel.core.kitchen.methods import family_of, method_called
from potrel.core.kitchen.recipes import Recipe, Stage, with_lines
from potrel.core.numbers.arithmetic import Number, surely
from potrel.core.pot.content import stays_whole, strength_of
from potrel.core.pot.day_view import DayView
from potrel.core.pot.done_when import Done, how_long
from potrel.core.pot.line_mass import nutrient_mass
from potrel.core.rooms.exchanges.phrases import Phrases, called, phrases
from potrel.core.rooms.exchanges.ways import Spot, Way, as_strong, ready_to_use, told_litres, told_mass
from potrel.core.tables import table

# What thickens less than that is no thickener, but a vegetable in a soup.
_WEAKEST = Decimal("0.1")
# Flour to fat, and the fat for each gram of flour.
_ROUX = (("1:1", ONE), ("60:40", Decimal(40) / 60))
_FLOUR = (("flour",),)
# What of these kinds is bought raw is eaten cooked.
_RAW = frozenset({"dry goods", "pulse", "root", "vegetable"})


@cache
def _minded() -> tuple[tuple[Phrases, str], ...]:
    return tuple((phrases(row["words"]), row["mind"]) for row in table("thickeners.csv"))


def what_to_mind(name: str) -> str:
    """What to mind of a thickener, by its name; nothing where nothing is known."""
    return next((mind for of, mind in _minded() if called(name, of)), "")


def blended_share(recipe: Recipe, at: int) -> Decimal:
    """Of what goes in at the stage of a place and comes to the batch, the share that is blended there or later."""
    parts: dict[str, tuple[Decimal, Decimal]] = {}
    for stage in recipe.stages[at:]:
        whole, blended = (ONE, ZERO) if stage is recipe.stages[at] else (ZERO, ZERO)
        for inflow in stage.from_:
            some = parts.get(inflow.stage, (ZERO, ZERO))
            whole, blended = whole + inflow.share * some[0], blended + inflow.share * some[1]
        parts[stage.id] = (ZERO, whole + blended) if _method(stage) == "blend" else (whole, blended)
    whole, blended = parts[recipe.stages[-1].id]
    return blended / (whole + blended) if whole + blended > 0 else ZERO


def _method(stage: Stage) -> str | None:
    found = method_called(stage.method or "")
    return None if found is None else found.id


def thickens(item: Item, blended: Decimal) -> bool:
    """Whether a thing thickens what it goes into, where such a share of it is blended."""
    return item.thickening is not None and item.thickening >= _WEAKEST and (blended > 0 or not stays_whole(item))


def _spread(item: Item, blended: Decimal) -> Decimal:
    """The share of a thing that thickens: all of what spreads by itself."""
    return blended if stays_whole(item) else ONE


def thickeners(spot: Spot) -> Iterator[Way]:
    """The line as it stands, and every other thickener that the kitchen has a price for."""
    own, blended = spot.view.items[spot.line.item or ""], blended_share(spot.recipe, spot.stage)
    yield spot.way(own.name, [] if spot.line.line is None else [spot.line.line], spot.recipe, what_to_mind(own.name))
    # As it thickens the pot: by what went in dry.
    dry = nutrient_mass(spot.line, spot.view)
    strength = spot.view.number(strength_of(own, spot.line.line, spot.here) * _spread(own, blended))
    for item in spot.view.items.values():
        if item.id == own.id or item.archived or not thickens(item, blended) or not spot.view.offers_of(item.id):
            continue
        its = spot.view.number(strength_of(item, None, spot.here) * _spread(item, blended))
        grams = as_strong(dry, strength, its)
        line, goes_in = _as_it_goes_in(item, grams, spot.view)
        if not _fits(spot, item, goes_in):
            continue
        if not called(item.name, _FLOUR):
            yield _way(spot, item.name, [line], goes_in)
            continue
        yield _way(spot, f"{item.name}, dusted on or as a slurry", [line], grams)
        fat = _fat(spot.view)
        for words, share in _ROUX if fat is not None else ():
            with_fat = [line, Line(told_mass(grams * share), item=fat.id)] if fat is not None else [line]
            yield _way(spot, f"a roux of {item.name}, {words}", with_fat, grams * (1 + share))


def _as_it_goes_in(item: Item, grams: Number, view: DayView) -> tuple[Line, Number]:
    """So much of a thing as it is dry or raw, as a line, and what that weighs as it goes in [g]: pulses are soaked before."""
    soak = soaking_of(item)
    if soak is None:
        return ready_to_use(item, grams), grams
    return Line(told_mass(grams), item=item.id, basis="AP", preparation=soak.id), grams * view.number(soak.yield_)


def _fits(spot: Spot, item: Item, goes_in: Number) -> bool:
    """Whether so much [g] of a thing can go in where the line is: no more than a quarter of the pot, and nothing raw where it
    is not cooked after, as long as it takes.
    """
    if surely(goes_in * 4 > spot.costing.of(spot.recipe.id).balance.mass):
        return False
    if item.kind not in _RAW:
        return True
    cooked, takes = _cooked_after(spot), _takes(spot, item)
    minutes = [stage.minutes for stage in cooked]
    short = (
        bool(takes) and all(one is not None for one in minutes) and sum(filter(None, minutes)) < min(one.low for one in takes)
    )
    return bool(cooked) and not short


def _cooked_after(spot: Spot) -> list[Stage]:
    """The stages that cook in liquid what goes in where the line is; one without a method may do."""
    return [one for one in spot.recipe.onward(spot.stage) if one.method is None or family_of(one.method) == "wet"]


def _takes(spot: Spot, item: Item) -> list[Done]:
    """How long a thing takes in each of them, as far as that is known."""
    return [done for stage in _cooked_after(spot) if (done := how_long(item, stage, spot.view)) is not None]


def _mind(spot: Spot, name: str, lines: Sequence[Line]) -> str:
    """What to mind of a way; of a pulse also how long it takes here."""
    minded = what_to_mind(name)
    item = spot.view.items.get(lines[0].item or "") if lines else None
    if item is None or item.kind != "pulse":
        return minded
    takes = _takes(spot, item)
    soaked = "soaked overnight" if lines[0].preparation is not None else ""
    time = f"{plain(takes[0].low)} to {plain(takes[0].high)} min" if takes else ""
    return "; ".join(filter(None, (minded, soaked, time)))


def _fat(view: DayView) -> Item | None:
    """What a roux is made with here: butter, else another fat."""
    priced = [item for item in view.items.values() if view.offers_of(item.id) and not item.archived]
    butter = (item for item in priced if called(item.name, (("butter",),)) and item.kind == "dairy")
    return next(butter, next((item for item in priced if item.kind == "fat"), None))


def _way(spot: Spot, name: str, lines: Sequence[Line], grams: Number) -> Way:
    recipe = _kept_as_large(spot, spot.with_lines(lines), len(lines) - 1, grams - spot.line.ep)
    return spot.way(name, lines, recipe, _mind(spot, name, lines))


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
