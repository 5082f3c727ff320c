"""The workings of a stage: what goes in, what is lost, taken out and left behind there, what goes on and what that costs."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from decimal import Decimal
from functools import cached_property

from potrel.core.cost.portioning import handed_out, kept_masses
from potrel.core.errors import Problem
from potrel.core.frozen import dataclass
from potrel.core.kitchen.kinds import ONE
from potrel.core.numbers.arithmetic import Number
from potrel.core.pot.balance import StageMass
from potrel.core.pot.needs import Flow, kept_weights, valued
from potrel.core.tell.figures import (
    TYPED,
    Figure,
    Input,
    Place,
    in_kilos,
    nothing,
    reckoned,
    unknown,
)
from potrel.core.tell.line_figures import named
from potrel.core.tell.stage_formulas import (
    borne_by_portions,
    cost_of_kept,
    part_of_the_joint_cost,
    passed_on,
)
from potrel.core.tell.stage_masses import HERE, StageMasses, of_it, part
from potrel.core.trim.byproducts import worth

STAGE_FIGURES = (
    "put_in_g", "cooked_g", "stayed_g", "mass_in_g", "after_g", "changed_g", "residue_g", "mass_out_g", "cost",
)  # fmt: skip
HEAT_FIGURES = (
    "evaporation_kg_per_hour",
    "minutes_needed",
    "minutes_to_heat",
    "minutes_to_dry",
    "energy_kwh",
    "salt_share",
    "measured_kg_per_hour",
    "dipstick_cm",
)
_NO_FLAME = "the stage names no vessel with a power, or what its flame brings in is lost through the wall"
# Their units, and why they may not be told.
_UNTOLD = {
    "evaporation_g_per_hour": ("g", "nothing is steamed off here by a vessel"),
    "evaporation_kg_per_hour": ("kg/h", "nothing is steamed off here, or its vessel, lid and heat do not tell how much"),
    "minutes_needed": ("min", "nothing is reduced here, or its vessel, lid and heat do not tell how fast"),
    "minutes_to_heat": ("min", _NO_FLAME),
    "minutes_to_dry": ("min", "nothing cooks out of the lines here, or its flame does not tell how fast"),
    "measured_kg_per_hour": ("kg/h", "nobody weighed what came out of it, or it does not steam"),
    "dipstick_cm": ("cm", "its vessel is not named, or nobody said how wide it is"),
    "energy_kwh": ("kWh", "nothing is heated here, or its vessel does not say by what"),
}


@dataclass
class StageFigures(StageMasses):
    """The figures of the stages of one recipe."""

    @cached_property
    def flow(self) -> Flow:
        """The money on its way through the stages."""
        return self.costing.flow(self.one.recipe.id)

    @cached_property
    def handed_out(self) -> Mapping[str, Number]:
        """The share of what is kept for garnish that goes onto portions, by its name."""
        return handed_out(self.one.balance, kept_masses(self.one.balance), self.view)

    def of(self, stage_id: str, name: str) -> Figure | None:
        """A figure by its stage and name; None for one that there is not."""
        here = self.by_id.get(stage_id)
        if here is None:
            return None
        made = _MAKERS.get(name)
        if made is not None:
            return made(self, here) or unknown(self.place(here, name, "not told"), _UNTOLD[name][0], _UNTOLD[name][1])
        if name.startswith("taken_"):
            number, _, kind = name.removeprefix("taken_").partition("_")
            told = _TAKEN.get(kind)
            if told is not None and number.isdecimal() and 1 <= int(number) <= len(here.taken_out):
                return told(self, here, int(number))
        return None

    # -- money -----------------------------------------------------------------------------------------------------

    def _line_costs(self, here: StageMass) -> list[Input]:
        return [
            Input(
                named(line.line, self.view),
                self.costing.line_cost(line.line),
                "money",
                "a line of this stage",
                f"{line.path}/cost",
            )
            for line in self.lines(here.stage.id)
        ]

    def _consumed(self, here: StageMass) -> list[Input]:
        """What a batch uses up beside the pot: the last stage bears it."""
        if here is not self.one.balance.stages[-1]:
            return []
        return [
            Input(self.view.name_of(line.item), None, "money", line.message) if isinstance(line, Problem)
            else Input(named(line, self.view), self.costing.line_cost(line), "money", "used up by a batch")
            for line in self.one.balance.beside
        ]  # fmt: skip

    @cached_property
    def _passed_costs(self) -> dict[str, Number]:
        return {stage: needs.cost(self.view.prices()) for stage, needs in self.flow.passed.items()}

    def _passed(self, stage_id: str) -> Number:
        return self._passed_costs[stage_id]

    def _handed_costs(self, here: StageMass) -> list[Input]:
        return [
            Input(f"from {self._label(inflow.stage)}{of_it(inflow.share)}", self._passed(inflow.stage) * inflow.share, "money",
                  "an earlier stage", f"stage/{inflow.stage}/cost", share=part(inflow.share))
            for inflow in here.stage.from_
        ]  # fmt: skip

    def _left_costs(self, here: StageMass) -> list[Input]:
        stages = self.one.balance.stages
        if here is not stages[-1]:
            return []
        why = "no later stage takes it; its cost stays with the batch"
        return [
            Input(f"left over of {self._label(one.stage.id)}{of_it(one.left_over)}",
                  self._passed(one.stage.id) * one.left_over, "money", why, f"stage/{one.stage.id}/cost",
                  share=part(one.left_over))
            for one in stages[:-1] if one.left_over != 0
        ]  # fmt: skip

    def cost(self, here: StageMass) -> Figure:
        taken = [
            Input(f"taken out: {one.take_out.name}", self._taken_cost(here, number), "money", HERE,
                  f"stage/{here.stage.id}/taken_{number}_value")
            for number, one in enumerate(here.taken_out, 1)
        ]  # fmt: skip
        return reckoned(
            passed_on, self.place(here, "cost", "cost passed on"), "money",
            lines=self._line_costs(here), consumables=self._consumed(here), handed_on=self._handed_costs(here),
            left_over=self._left_costs(here), taken_out=taken,
        )  # fmt: skip

    def _taken_whole(self, here: StageMass, number: int) -> Number:
        return self.flow.taken[here.stage.id][number - 1].cost(self.view.prices())

    def _taken_cost(self, here: StageMass, number: int) -> Number:
        share = self.handed_out.get(here.taken_out[number - 1].take_out.name)
        whole = self._taken_whole(here, number)
        return whole if share is None else whole * share

    def _handed_out(self, here: StageMass, number: int) -> Figure | None:
        """What the portions bear that get what was kept for garnish."""
        name = here.taken_out[number - 1].take_out.name
        if name not in self.handed_out:
            return None
        whole = Input("what all of it costs", self._taken_whole(here, number), "money", "what it is made of",
                      f"stage/{here.stage.id}/taken_{number}_whole")  # fmt: skip
        share = Input("share that portions get", self.handed_out[name], "share", "by the serving that takes most of it")
        place = self.place(here, f"taken_{number}_value", f"{name}, what the portions bear that get it")
        return reckoned(borne_by_portions, place, "money", what_all_of_it_costs=whole, share_that_portions_get=share)

    def _kept_cost(self, here: StageMass, number: int) -> Figure | None:
        """What something kept for garnish costs: its part of its lines, or of the stage."""
        out = here.taken_out[number - 1]
        if out.take_out.name not in self.handed_out:
            return None
        place = self.place(here, f"taken_{number}_whole", f"{out.take_out.name}, what all of it costs")
        kept = self._own(here, f"taken_{number}_mass_g", "kept", out.mass)
        if out.take_out.mass is not None:
            there = [Input("what was there", here.changed, "g", HERE, f"stage/{here.stage.id}/after_g")]
            return reckoned(
                cost_of_kept, place, "money", lines=self._line_costs(here), handed_on=self._handed_costs(here), kept=kept,
                weights=there,
            )  # fmt: skip
        parts = kept_weights(out, here, self.one.balance, self.view)
        lines, weights = list[Input](), list[Input]()
        for line, share, weight in parts:
            if line is None:
                continue
            name, cost = named(line, self.view) + of_it(share), self.costing.line_cost(line)
            told = None if cost is None else cost * share
            lines.append(Input(name, told, "money", "a line", f"line/{line.stage}/{line.id}/cost", share=part(share)))
            weights.append(Input(name, weight, "g", "as it is cooked, with the juice and the fat that it gave to the pot"))
        return reckoned(cost_of_kept, place, "money", lines=lines, handed_on=[], kept=kept, weights=weights)

    def _taken_value(self, here: StageMass, number: int) -> Figure:
        """What something taken out bears of a stage's cost, by the kitchen's method."""
        handed_out = self._handed_out(here, number)
        if handed_out is not None:
            return handed_out
        out, mass = here.taken_out[number - 1].take_out, here.taken_out[number - 1].mass
        place = self.place(here, f"taken_{number}_value", f"{out.name}, what it bears")
        method = self.view.settings.byproduct_method
        if method == "credit" or out.value_per_kg < 0:
            kilos = in_kilos(self._own(here, f"taken_{number}_mass_g", "taken out", mass))
            value = Input("a kilo is worth", out.value_per_kg, "money/kg", TYPED)
            return reckoned(worth, place, "money", kilos=kilos, value_of_a_kilo=value)
        if method == "main_bears_all" or out.value_per_kg == 0:
            return reckoned(nothing, place, "money", note="the main product bears all the cost")
        return self._shared_value(here, number, place)

    def _shared_value(self, here: StageMass, number: int, place: Place) -> Figure:
        by_value = self.view.settings.byproduct_method == "market_value"
        out, unit = here.taken_out[number - 1], "g * money/kg" if by_value else "g"

        def weight(mass: Number, value: Decimal | None) -> Number | None:
            return None if by_value and value is None else mass * (value if by_value and value is not None else ONE)

        disposal = [
            Input(f"{'disposal of' if one.take_out.value_per_kg < 0 else 'not in it:'} {one.take_out.name}",
                  -self._taken_cost(here, place_), "money",
                  "paid for it" if one.take_out.value_per_kg < 0 else "borne by the portions that get it")
            for place_, one in enumerate(here.taken_out, 1)
            if one.take_out.value_per_kg < 0 or one.take_out.name in self.handed_out
        ]  # fmt: skip
        main = Input("what goes on", weight(here.mass_out, here.stage.value_per_kg), unit, "the main product")
        others = [
            Input(one.take_out.name, weight(one.mass, one.take_out.value_per_kg), unit, "taken out") for one in valued(here)
        ]
        own = Input(out.take_out.name, weight(out.mass, out.take_out.value_per_kg), unit, "taken out")
        return reckoned(
            part_of_the_joint_cost, place, "money", known=main.value is not None,
            lines=self._line_costs(here), handed_on=self._handed_costs(here), disposal=disposal,
            weight=own, weights=[main, *others],
        )  # fmt: skip


_TAKEN: dict[str, Callable[[StageFigures, StageMass, int], Figure | None]] = {
    "mass_g": StageFigures._taken_mass,
    "value": StageFigures._taken_value,
    "whole": StageFigures._kept_cost,
}
_MAKERS: dict[str, Callable[[StageFigures, StageMass], Figure | None]] = {
    "put_in_g": StageFigures.put_in,
    "cooked_g": StageFigures.cooked,
    "stayed_g": StageFigures.stayed,
    "mass_in_g": StageFigures.mass_in,
    "after_g": StageFigures.after,
    "changed_g": StageFigures.changed,
    "residue_g": StageFigures.residue,
    "mass_out_g": StageFigures.mass_out,
    "cost": StageFigures.cost,
    "evaporation_kg_per_hour": StageFigures.evaporation,
    "evaporation_g_per_hour": StageFigures.evaporation_in_grams,
    "minutes_needed": StageFigures.minutes_needed,
    "minutes_to_heat": StageFigures.minutes_to_heat,
    "minutes_to_dry": StageFigures.minutes_to_dry,
    "energy_kwh": StageFigures.energy,
    "salt_share": StageFigures.salt_share,
    "measured_kg_per_hour": StageFigures.measured_rate,
    "dipstick_cm": StageFigures.dipstick,
}
