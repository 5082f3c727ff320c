"""The workings of a stage: what goes in, what is lost, taken out and left behind there, what goes on and what that costs."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from decimal import Decimal
from functools import cached_property
from typing import Any

from potrel.core.cost.costed_recipe import CostedRecipe
from potrel.core.cost.costing import Costing
from potrel.core.cost.inside import share_by_mass
from potrel.core.cost.portioning import handed_out, kept_masses
from potrel.core.errors import Problem
from potrel.core.frozen import dataclass
from potrel.core.kitchen.kinds import ONE, plain
from potrel.core.numbers.arithmetic import Number, total
from potrel.core.pot import changes
from potrel.core.pot.balance import StageMass, reach
from potrel.core.pot.day_view import DayView
from potrel.core.pot.heat import litres_of, minutes_to_reduce
from potrel.core.pot.line_mass import TOP_UP
from potrel.core.pot.needs import Flow, kept_weights, valued
from potrel.core.tell.figures import (
    TYPED,
    Figure,
    Input,
    Place,
    as_stated,
    in_grams,
    in_kilos,
    nothing,
    percent,
    reckoned,
    unknown,
)
from potrel.core.tell.heat_figures import HeatFigures, SteamFigures
from potrel.core.tell.line_figures import LineFigures, named
from potrel.core.tell.stage_formulas import (
    borne_by_portions,
    cost_of_kept,
    given_to_the_pot,
    part_of_the_joint_cost,
    passed_on,
    share_an_hour,
)
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
_HERE = "this stage"
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
class StageFigures:
    """The figures of the stages of one recipe."""

    costing: Costing
    one: CostedRecipe

    @property
    def view(self) -> DayView:
        return self.costing.view

    @cached_property
    def flow(self) -> Flow:
        """The money on its way through the stages."""
        return self.costing.flow(self.one.recipe.id)

    @cached_property
    def handed_out(self) -> Mapping[str, Number]:
        """The share of what is kept for garnish that goes onto portions, by its name."""
        return handed_out(self.one.balance, kept_masses(self.one.balance), self.view)

    @cached_property
    def by_id(self) -> dict[str, StageMass]:
        return {here.stage.id: here for here in self.one.balance.stages}

    @cached_property
    def _lines(self) -> dict[str, list[LineFigures]]:
        found: dict[str, list[LineFigures]] = {stage_id: [] for stage_id in self.by_id}
        for line in self.one.balance.lines:
            here = self.by_id[line.stage]
            path = f"line/{line.stage}/{line.id}"
            found[line.stage].append(LineFigures(self.costing, self.one, line, path, here.stage, here.mass_in))
        return found

    def lines(self, stage_id: str) -> list[LineFigures]:
        """The figures of the lines of a stage."""
        return self._lines[stage_id]

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

    def place(self, here: StageMass, name: str, words: str) -> Place:
        title = f"{here.stage.name or here.stage.id}: {words}"
        return Place(self.one.recipe.id, f"stage/{here.stage.id}/{name}", title)

    # -- masses ----------------------------------------------------------------------------------------------------

    def _own(self, here: StageMass, name: str, words: str, value: Number) -> Input:
        return Input(words, value, "g", _HERE, f"stage/{here.stage.id}/{name}")

    def _line_masses(self, here: StageMass, name: str, value: Callable[[LineFigures], Number]) -> list[Input]:
        """The lines put in by hand, each with one of its masses; what is topped up comes with the change."""
        return [
            Input(named(line.line, self.view), value(line) if line.line.known else None, "g",
                  "a line of this stage" if line.line.known else "weight not known", f"{line.path}/{name}")
            for line in self.lines(here.stage.id) if line.line.id != TOP_UP
        ]  # fmt: skip

    def _handed_on(self, here: StageMass) -> list[Input]:
        masses = ((inflow, self.by_id[inflow.stage].mass_out * inflow.share) for inflow in here.stage.from_)
        return [
            Input(f"from {self._label(inflow.stage)}{_of_it(inflow.share)}", mass, "g", "an earlier stage",
                  f"stage/{inflow.stage}/mass_out_g", share=_part(inflow.share))
            for inflow, mass in masses
        ]  # fmt: skip

    def _label(self, stage_id: str) -> str:
        return self.by_id[stage_id].stage.name or stage_id

    def put_in(self, here: StageMass) -> Figure:
        lines = self._line_masses(here, "ep_g", lambda line: line.line.ep)
        return reckoned(
            changes.put_in, self.place(here, "put_in_g", "everything put in"), "g", lines=lines, handed_on=self._handed_on(here)
        )

    def cooked(self, here: StageMass) -> Figure:
        lines = self._line_masses(here, "up_g", lambda line: line.line.up)
        return reckoned(changes.lost_by_lines, self.place(here, "cooked_g", "goes up as the lines cook"), "g", lines=lines)

    def stayed(self, here: StageMass) -> Figure:
        lines = self._line_masses(here, "stays_g", lambda line: line.line.put - line.line.own)
        words = "given to the pot as juice, liquor and fat (or, below zero, drunk from it)"
        return reckoned(given_to_the_pot, self.place(here, "stayed_g", words), "g", lines=lines)

    def mass_in(self, here: StageMass) -> Figure:
        up = total(line.line.up for line in self.lines(here.stage.id))
        return reckoned(
            changes.mass_in, self.place(here, "mass_in_g", "mass in"), "g",
            put_in=self._own(here, "put_in_g", "everything put in", here.mass_in + up),
            cooked_away=self._own(here, "cooked_g", "goes up as the lines cook", up),
        )  # fmt: skip

    def _mass_in(self, here: StageMass) -> Input:
        return self._own(here, "mass_in_g", "mass in", here.mass_in)

    def after(self, here: StageMass) -> Figure:
        place, mass, change = self.place(here, "after_g", "mass after the change"), self._mass_in(here), here.stage.change
        density = self.one.recipe.density
        if here.came_out is not None:
            return self._by_what_came_out(here, place)
        if change.rule == "yield":
            left = Input("yield of the stage", change.yield_, "share", TYPED)
            return reckoned(changes.yielded, place, "g", mass_in=mass, yield_of_the_stage=left)
        if change.rule == "evaporate" and here.stage.minutes is not None:
            return self._evaporated(here, place, mass)
        if change.to is not None:
            to = Input(f"{change.to}", self.view.weights.of_bulk(change.to, density), "g", TYPED)
            if change.rule == "reduce":
                return reckoned(changes.reduced, place, "g", mass_in=mass, reduced_to=to)
            if any(line.line.id == TOP_UP for line in self.lines(here.stage.id)):
                return reckoned(changes.topped, place, "g", mass_in=mass, topped_up_to=to)
        return reckoned(changes.kept, place, "g", mass_in=mass)

    def _by_what_came_out(self, here: StageMass, place: Place) -> Figure:
        came = here.stage.came_out
        deep = "" if came is None or came.depth_cm is None else f"{plain(came.depth_cm)} cm deep"
        words = "" if came is None else f"{came.quantity or deep}, on {came.on.isoformat()}"
        return reckoned(
            changes.after_by_what_came_out, place, "g", came_out=Input("came out", here.came_out, "g", words),
            residue_share=Input("residue", here.stage.residue, "share", TYPED), taken_out=self._taken_inputs(here),
        )  # fmt: skip

    def measured_rate(self, here: StageMass) -> Figure | None:
        """What went up an hour by what came out, where a stage steams."""
        minutes = here.stage.minutes
        if here.came_out is None or here.stage.change.rule != "evaporate" or minutes is None or minutes == 0:
            return None
        place = self.place(here, "measured_kg_per_hour", "went up an hour, by what came out")
        return reckoned(
            changes.rate_by_what_came_out, place, "kg/h", mass_in=self._mass_in(here), mass_after_the_change=self._after(here),
            time=Input("time", minutes, "min", TYPED),
        )  # fmt: skip

    def dipstick(self, here: StageMass) -> Figure | None:
        """How deep what a stage should come to stands in its vessel, where that is a pot as wide as somebody said."""
        vessel = self.view.vessels.get(here.stage.vessel or "")
        if vessel is None or vessel.open_surface is None or vessel.capacity is None or vessel.capacity.kind == "mass":
            return None
        place = self.place(here, "dipstick_cm", "depth in its vessel")
        grams = here.mass_out if here.reckoned is None else here.reckoned
        litres = Input("should come to (litres)", litres_of(grams, self.one.recipe.density), "", "what its rule makes of it")
        return reckoned(
            changes.depth_of, place, "cm", litres=litres,
            surface=Input("open surface", vessel.open_surface, "m2", "noted with the vessel"),
            how_many=Input("how many of them", vessel.count, "", "noted with the vessel"),
        )  # fmt: skip

    def _evaporated(self, here: StageMass, place: Place, mass: Input) -> Figure:
        time, change = Input("time", here.stage.minutes, "min", TYPED), here.stage.change
        water = Input("water in it", here.water, "g", "what was put in, less its dry matter")
        given: dict[str, Any] = {"mass_in": mass, "water_in_it": water, "time": time}
        if change.by == "vessel":
            grams_an_hour = None if here.steam is None else here.steam.kg_per_hour * 1000
            rate = Input("goes up an hour", grams_an_hour, "g", "by its vessel, lid and heat",
                         f"stage/{here.stage.id}/evaporation_g_per_hour")  # fmt: skip
            return reckoned(changes.evaporated_by_rate, place, "g", grams_an_hour=rate, **given)
        if change.per_hour is not None:
            rate = Input("goes up an hour", change.per_hour, "share", TYPED)
            return reckoned(changes.evaporated_by_share, place, "g", share_an_hour=rate, **given)
        grams = None if change.kg_per_hour is None else change.kg_per_hour * 1000
        rate = Input("goes up an hour", grams, "g", TYPED)
        return reckoned(changes.evaporated_by_rate, place, "g", grams_an_hour=rate, **given)

    def _after(self, here: StageMass) -> Input:
        return self._own(here, "after_g", "mass after the change", here.changed)

    def changed(self, here: StageMass) -> Figure:
        place = self.place(here, "changed_g", "lost (or, below zero, added) by the change")
        return reckoned(changes.changed_by, place, "g", mass_in=self._mass_in(here), mass_after_the_change=self._after(here))

    def _taken_inputs(self, here: StageMass) -> list[Input]:
        return [
            self._own(here, f"taken_{number}_mass_g", f"taken out: {taken.take_out.name}", taken.mass)
            for number, taken in enumerate(here.taken_out, 1)
        ]

    def residue(self, here: StageMass) -> Figure:
        return reckoned(
            changes.residue, self.place(here, "residue_g", "left on the vessel"), "g",
            mass_after_the_change=self._after(here), taken_out=self._taken_inputs(here),
            residue_share=Input("residue", here.stage.residue, "share", TYPED),
        )  # fmt: skip

    def mass_out(self, here: StageMass) -> Figure:
        return reckoned(
            changes.mass_out, self.place(here, "mass_out_g", "mass out"), "g",
            mass_after_the_change=self._after(here), taken_out=self._taken_inputs(here),
            residue=self._own(here, "residue_g", "residue", here.residue),
        )  # fmt: skip

    def _taken_mass(self, here: StageMass, number: int) -> Figure:
        taken = here.taken_out[number - 1]
        out = taken.take_out
        place = self.place(here, f"taken_{number}_mass_g", f"{out.name}, taken out")
        if out.mass is not None:
            return reckoned(as_stated, place, "g", what_is_stated=Input(f"{out.mass}", out.mass.grams(), "g", TYPED))
        shares = reach(self.one.recipe.stages, here.stage, self.view)
        lines = {line.id: line for line in self.one.balance.lines}
        raw = out.spent_factor is not None
        masses = [
            Input(named(line, self.view) + _of_it(shares[line.stage]), (line.ep if raw else line.own) * shares[line.stage], "g",
                  "in the pot (EP)" if raw else "when it is cooked",
                  f"line/{line.stage}/{line.id}/{'ep_g' if raw else 'own_g'}", share=_part(shares[line.stage]))
            for one in out.of if (line := lines.get(one)) is not None and line.stage in shares
        ]  # fmt: skip
        if out.spent_factor is None:
            return reckoned(changes.come_out, place, "g", cooked=masses)
        return reckoned(
            changes.spent, place, "g", EP=masses, spent_factor=Input("spent factor", out.spent_factor, "share", TYPED)
        )

    # -- steam and heat --------------------------------------------------------------------------------------------

    def evaporation(self, here: StageMass) -> Figure | None:
        """What goes up an hour, where the stage says so, or its vessel tells."""
        change, place = here.stage.change, self.place(here, "evaporation_kg_per_hour", "goes up as steam, an hour")
        if change.kg_per_hour is not None:
            return reckoned(as_stated, place, "kg/h", what_is_stated=Input("stated", change.kg_per_hour, "kg/h", TYPED))
        if change.per_hour is not None:
            share = Input("share an hour", change.per_hour, "share", TYPED)
            return reckoned(share_an_hour, place, "kg/h", kilos=in_kilos(self._mass_in(here)), share_an_hour=share)
        if here.steam is None:
            return None
        made = SteamFigures(here.stage, here.steam, self.view)
        return made.figure(place)

    def evaporation_in_grams(self, here: StageMass) -> Figure | None:
        """The same in grams, as it is taken off the mass."""
        rate = None if here.steam is None else here.steam.kg_per_hour
        kilos = Input("goes up an hour", rate, "kg/h", _HERE, f"stage/{here.stage.id}/evaporation_kg_per_hour")
        return reckoned(in_grams, self.place(here, "evaporation_g_per_hour", "goes up as steam, an hour"), "g", kilos=kilos)

    def minutes_needed(self, here: StageMass) -> Figure | None:
        """How long its vessel takes to reduce it so far; None where nothing is reduced by a vessel."""
        if here.minutes_needed is None or here.stage.change.to is None or here.steam is None:
            return None
        to = self.view.weights.of_bulk(here.stage.change.to, self.one.recipe.density)
        return reckoned(
            minutes_to_reduce, self.place(here, "minutes_needed", "time to reduce it"), "min", mass_in=self._mass_in(here),
            reduced_to=Input(f"{here.stage.change.to}", to, "g", TYPED),
            kilos_an_hour=Input("goes up an hour", here.steam.kg_per_hour, "kg/h", "by its vessel, lid and heat",
                                f"stage/{here.stage.id}/evaporation_kg_per_hour"),
        )  # fmt: skip

    def energy(self, here: StageMass) -> Figure | None:
        """What a stage takes of energy; None where nothing heats it, as far as the kitchen says."""
        place = self.place(here, "energy_kwh", "energy of the stage")
        if here.stage.energy_kwh is not None:
            return reckoned(as_stated, place, "kWh", what_is_stated=Input("stated", here.energy, "kWh", TYPED))
        return None if here.heat is None else HeatFigures(here.stage, here.heat, self.view).energy(place)

    def minutes_to_heat(self, here: StageMass) -> Figure | None:
        """How long it takes to get hot; None where that is not known."""
        place = self.place(here, "minutes_to_heat", "time to get hot")
        return None if here.heat is None else HeatFigures(here.stage, here.heat, self.view).minutes_to_heat(place)

    def minutes_to_dry(self, here: StageMass) -> Figure | None:
        """How long it takes to drive off what cooks out of the lines; None where that is not known."""
        place = self.place(here, "minutes_to_dry", "time to drive the water off")
        return None if here.heat is None else HeatFigures(here.stage, here.heat, self.view).minutes_to_dry(place)

    def salt_share(self, here: StageMass) -> Figure:
        """The share of salt after a stage."""
        inside = self.costing.content(self.one.recipe.id).stages[here.stage.id]
        names = ", ".join(sorted(self.view.name_of(one, one) for one in inside.salt_lacks))
        note = f"salt in 100 g is not known of: {names}" if names else None
        return reckoned(
            share_by_mass, self.place(here, "salt_share", "salt after it, by mass"), "share",
            known=not names and self.one.balance.mass_known, note=note,
            grams=Input("salt", inside.salt, "g", "what the lines bring, less what left with take-outs and residue"),
            mass=self._own(here, "mass_out_g", "mass out", here.mass_out),
        )  # fmt: skip

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
            Input(f"from {self._label(inflow.stage)}{_of_it(inflow.share)}", self._passed(inflow.stage) * inflow.share, "money",
                  "an earlier stage", f"stage/{inflow.stage}/cost", share=_part(inflow.share))
            for inflow in here.stage.from_
        ]  # fmt: skip

    def _left_costs(self, here: StageMass) -> list[Input]:
        stages = self.one.balance.stages
        if here is not stages[-1]:
            return []
        why = "no later stage takes it; its cost stays with the batch"
        return [
            Input(f"left over of {self._label(one.stage.id)}{_of_it(one.left_over)}",
                  self._passed(one.stage.id) * one.left_over, "money", why, f"stage/{one.stage.id}/cost",
                  share=_part(one.left_over))
            for one in stages[:-1] if one.left_over != 0
        ]  # fmt: skip

    def cost(self, here: StageMass) -> Figure:
        taken = [
            Input(f"taken out: {one.take_out.name}", self._taken_cost(here, number), "money", _HERE,
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
            there = [Input("what was there", here.changed, "g", _HERE, f"stage/{here.stage.id}/after_g")]
            return reckoned(
                cost_of_kept, place, "money", lines=self._line_costs(here), handed_on=self._handed_costs(here), kept=kept,
                weights=there,
            )  # fmt: skip
        parts = kept_weights(out, here, self.one.balance, self.view)
        lines, weights = list[Input](), list[Input]()
        for line, share, weight in parts:
            if line is None:
                continue
            name, cost = named(line, self.view) + _of_it(share), self.costing.line_cost(line)
            told = None if cost is None else cost * share
            lines.append(Input(name, told, "money", "a line", f"line/{line.stage}/{line.id}/cost", share=_part(share)))
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


def _of_it(share: Number) -> str:
    return "" if share == 1 else f" ({percent(share)} of it)"


def _part(share: Number) -> Number | None:
    return None if share == 1 else share


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
