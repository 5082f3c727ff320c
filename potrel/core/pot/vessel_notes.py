"""What a cook should look at before the vessel goes onto the fire: too full, too crowded, too weak, too short."""

from __future__ import annotations

from collections.abc import Sequence
from decimal import Decimal

from potrel.core.errors import Caveat, caveat
from potrel.core.kitchen.kinds import ZERO, plain
from potrel.core.kitchen.methods import method_called
from potrel.core.kitchen.recipes import Recipe, Stage
from potrel.core.kitchen.vessels import Vessel
from potrel.core.numbers.arithmetic import Number, total
from potrel.core.numbers.rounding import ceiling, exceeds, half_even, typical
from potrel.core.pot.day_view import DayView
from potrel.core.pot.evaporation import Steaming
from potrel.core.pot.heat import is_dry_heat, is_in_oven
from potrel.core.pot.line_mass import LineMass
from potrel.core.sentences import say

# [kg/m2] More than a layer of pieces side by side, in a pan and on a tray. Common practice, no source.
CROWDED, CROWDED_ON_A_TRAY = Decimal(12), Decimal(22)


def vessel_notes(stage: Stage, lines: Sequence[LineMass], fullest: Number, recipe: Recipe, view: DayView) -> list[Caveat]:
    """What is too much for a stage's vessel: `fullest` [g] is the most that is in it."""
    vessel, found = view.vessels.get(stage.vessel or ""), _gains_by_cold(stage)
    if vessel is None:
        return found
    return [*found, *_too_full(stage, vessel, fullest, recipe, view), *_crowded(stage, vessel, lines, view)]


def _gains_by_cold(stage: Stage) -> list[Caveat]:
    """Nothing grows heavier while it is chilled: a yield above 1 there is another stage's, or a slip."""
    gains, method = stage.change.yield_, method_called(stage.method or "")
    if gains is None or gains <= 1 or method is None or method.id != "cool":
        return []
    english = "nothing grows heavier by being chilled, and here it does, by {share}%: say what went in, or weigh it"
    return [caveat(say("gains_by_cold", english, share=plain(half_even((gains - 1) * 100, 1))), stage.id)]


def _too_full(stage: Stage, vessel: Vessel, fullest: Number, recipe: Recipe, view: DayView) -> list[Caveat]:
    if vessel.capacity is None:
        return []
    holds = view.number(view.weights.of_bulk(vessel.capacity, recipe.density))
    if vessel.capacity.kind == "mass" and vessel.count > 1:
        # Trays lie side by side, pots are filled one after the other.
        if not exceeds(fullest, holds * view.number(vessel.count)):
            return []
        english = "too heavy for {count} of {vessel} at {capacity} each: it takes {needed}"
        of = {"count": plain(vessel.count), "needed": str(ceiling(typical(fullest / holds)))}
        said = say("trays_too_heavy", english, vessel=vessel.name, capacity=str(vessel.capacity), **of)
        return [caveat(said, stage.id)]
    if not exceeds(fullest, holds):
        return []
    english = "more than the {vessel} holds ({capacity}): use a larger one, or cook in two"
    return [caveat(say("vessel_too_small", english, vessel=vessel.name, capacity=str(vessel.capacity)), stage.id)]


def _crowded(stage: Stage, vessel: Vessel, lines: Sequence[LineMass], view: DayView) -> list[Caveat]:
    """What lies too deep steams in its own juice instead of browning."""
    surface = vessel.open_surface
    if surface is None or not lines or not is_dry_heat(stage):
        return []
    most = CROWDED_ON_A_TRAY if is_in_oven(stage, vessel) else CROWDED
    lies = total([line.ep for line in lines]) / 1000 / view.number(surface * vessel.count)
    if not exceeds(lies, view.number(most)):
        return []
    english = "{kilos} kg a square metre lie too deep to brown: it steams. Do it in {times} goes, or spread it wider"
    there = typical(lies)
    return [caveat(say("crowded", english, kilos=_tenth(there), times=str(ceiling(there / most))), stage.id)]


def steam_notes(stage: Stage, steam: Steaming) -> list[Caveat]:
    """A flame that cannot hold the heat that is said, and a lid of which nobody said when it comes off."""
    found: list[Caveat] = []
    if steam.cannot_hold:
        english = "this flame cannot hold it so hot: it drives {driven} kg an hour up, the surface would let {asked} go"
        rates = {"driven": _tenth(steam.kg_per_hour), "asked": _tenth(steam.asked_kg_per_hour or ZERO)}
        found.append(caveat(say("flame_too_small", english, **rates), stage.id))
    if stage.lid == "covered_then_open" and stage.open_minutes is None:
        english = "covered, then open: all of its {minutes} minutes count as open; say how many are"
        found.append(caveat(say("open_how_long", english, minutes=plain(stage.minutes or ZERO)), stage.id))
    if steam.of.assumed:
        english = "steams as from a pot {across} cm wide, which it would fill to four fifths: a guess until a vessel is said"
        across = plain(half_even(steam.of.across_cm, 0))
        found.append(caveat(say("vessel_assumed", english, across=across), stage.id))
    return found


def time_notes(stage: Stage, needed: Number, view: DayView) -> list[Caveat]:
    """A reduction [min] for which there is not the time."""
    if stage.minutes is None or not exceeds(needed, view.number(stage.minutes)):
        return []
    english = "{minutes} minutes are too short: this vessel takes about {needed} to reduce it so far"
    return [caveat(say("too_short", english, minutes=plain(stage.minutes), needed=str(ceiling(typical(needed)))), stage.id)]


def kilos(grams: Number) -> str:
    """A mass [g] as it is told in words [kg]."""
    return plain(half_even(typical(grams) / 1000, 2))


def _tenth(value: Decimal) -> str:
    return plain(half_even(value, 1))
