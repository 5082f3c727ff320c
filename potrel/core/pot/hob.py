"""The heat of one pot while its stages are worked through: what each starts from, how hot it hands on, what that takes."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import field

from potrel.core.frozen import dataclass
from potrel.core.kitchen.methods import method_called
from potrel.core.kitchen.recipes import Recipe, Stage
from potrel.core.numbers.arithmetic import Number, larger, surely, total
from potrel.core.pot.day_view import DayView
from potrel.core.pot.heat import PUT_IN_AT, StageHeat, celsius_of, is_heated, mixed, stage_heat
from potrel.core.pot.line_mass import LineMass

# A stage with its lines, and the masses [g] handed on to it.
_Worked = tuple[Stage, Sequence[LineMass], Sequence[Number]]


@dataclass(slots=True)
class Hob:
    """Where one recipe is cooked. Where nothing that it is cooked in says what heats it, nothing is reckoned."""

    recipe: Recipe
    view: DayView
    told: bool = False
    # How hot [C] what each stage hands on is, as far as that was asked for; and the stages, for which it may be.
    hot: dict[str, Number | None] = field(default_factory=dict)
    worked: dict[str, _Worked] = field(default_factory=dict)

    def __post_init__(self) -> None:
        for stage in self.recipe.stages:
            vessel = self.view.vessels.get(stage.vessel or "")
            if vessel is not None and vessel.heat_source is not None:
                self.told = True

    def heat_of(
        self, stage: Stage, lines: Sequence[LineMass], handed_on: Sequence[Number], mass_in: Number, changed: Number, *,
        known: bool,
    ) -> StageHeat | None:  # fmt: skip
        """A stage's heat, with the masses [g] handed on to it; None where nothing heats it, or masses are not known."""
        if not self.told:
            return None
        self.worked[stage.id] = stage, lines, handed_on
        vessel = self.view.vessels.get(stage.vessel or "")
        if not known or vessel is None or vessel.heat_source is None or not is_heated(stage):
            return None
        steam = steam_of_change(stage, mass_in, changed) + total([line.up for line in lines])
        start = self._starts_at(stage, lines, handed_on)
        return stage_heat(stage, vessel, mass_in / 1000, start, larger(steam, steam * 0) / 1000, self.view)

    def _hands_on(self, stage_id: str) -> Number | None:
        """How hot [C] what a stage hands on is; None where nobody says."""
        if stage_id not in self.hot:
            stage, lines, handed_on = self.worked[stage_id]
            here = celsius_of(stage, self.view.room)
            if here is not None:
                self.hot[stage_id] = self.view.number(here)
            else:
                # What is not heated hands on what came together there; of what cools, nobody knows how far.
                untold = is_heated(stage) or _cools(stage)
                self.hot[stage_id] = None if untold else self._starts_at(stage, lines, handed_on)
        return self.hot[stage_id]

    def _starts_at(self, stage: Stage, lines: Sequence[LineMass], handed_on: Sequence[Number]) -> Number | None:
        """What a stage starts from [C]: what was put in and what flows in, together."""
        if stage.start_c is not None:
            return self.view.number(stage.start_c)
        shelf = self.view.number(PUT_IN_AT)
        if not stage.from_:
            return shelf
        masses, degrees = [line.put for line in lines], [shelf] * len(lines)
        for inflow, mass in zip(stage.from_, handed_on, strict=True):
            hot = self._hands_on(inflow.stage)
            if hot is None:
                return None
            masses.append(mass)
            degrees.append(hot)
        if not surely(total(masses) > 0):
            return shelf
        return mixed([mass * hot for mass, hot in zip(masses, degrees, strict=True)], masses)


def _cools(stage: Stage) -> bool:
    found = method_called(stage.method or "")
    return found is not None and found.id == "cool"


def steam_of_change(stage: Stage, mass_in: Number, changed: Number) -> Number:
    """What of a stage's change goes up as steam [g]: what is steamed off or cooked away, not what is lost in a sieve."""
    if stage.change.rule in ("evaporate", "reduce") or (stage.change.rule == "yield" and is_heated(stage)):
        lost = mass_in - changed
        return larger(lost, lost * 0)
    return mass_in * 0
