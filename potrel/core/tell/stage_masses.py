"""Where the masses of a stage come from, and its steam and heat: what goes in, what changes, what comes out."""

from __future__ import annotations

from collections.abc import Callable
from functools import cached_property
from typing import Any

from potrel.core.cost.costed_recipe import CostedRecipe
from potrel.core.cost.costing import Costing
from potrel.core.cost.inside import share_by_mass
from potrel.core.frozen import dataclass
from potrel.core.kitchen.kinds import plain
from potrel.core.numbers.arithmetic import Number, total
from potrel.core.pot import changes
from potrel.core.pot.balance import StageMass, reach
from potrel.core.pot.day_view import DayView
from potrel.core.pot.heat import litres_of, minutes_to_reduce
from potrel.core.pot.line_mass import TOP_UP
from potrel.core.tell.figures import (
    TYPED,
    Figure,
    Input,
    Place,
    as_stated,
    in_grams,
    in_kilos,
    percent,
    reckoned,
)
from potrel.core.tell.heat_figures import HeatFigures, SteamFigures
from potrel.core.tell.line_figures import LineFigures, named
from potrel.core.tell.stage_formulas import (
    given_to_the_pot,
    share_an_hour,
)

HERE = "this stage"


@dataclass
class StageMasses:
    """The figures of the stages of one recipe that money has no part in: masses, steam and heat."""

    costing: Costing
    one: CostedRecipe

    @property
    def view(self) -> DayView:
        return self.costing.view

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

    def place(self, here: StageMass, name: str, words: str) -> Place:
        title = f"{here.stage.name or here.stage.id}: {words}"
        return Place(self.one.recipe.id, f"stage/{here.stage.id}/{name}", title)

    # -- masses ----------------------------------------------------------------------------------------------------

    def _own(self, here: StageMass, name: str, words: str, value: Number) -> Input:
        return Input(words, value, "g", HERE, f"stage/{here.stage.id}/{name}")

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
            Input(f"from {self._label(inflow.stage)}{of_it(inflow.share)}", mass, "g", "an earlier stage",
                  f"stage/{inflow.stage}/mass_out_g", share=part(inflow.share))
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
        litres = Input(
            "should come to (litres)", litres_of(here.by_rule, self.one.recipe.density), "", "what its rule makes of it"
        )
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
            Input(named(line, self.view) + of_it(shares[line.stage]), (line.ep if raw else line.own) * shares[line.stage], "g",
                  "in the pot (EP)" if raw else "when it is cooked",
                  f"line/{line.stage}/{line.id}/{'ep_g' if raw else 'own_g'}", share=part(shares[line.stage]))
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
        kilos = Input("goes up an hour", rate, "kg/h", HERE, f"stage/{here.stage.id}/evaporation_kg_per_hour")
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


def of_it(share: Number) -> str:
    """How much of a whole a share is, in words; nothing where it is all of it."""
    return "" if share == 1 else f" ({percent(share)} of it)"


def part(share: Number) -> Number | None:
    """A share that is not all of it; None where it is."""
    return None if share == 1 else share
