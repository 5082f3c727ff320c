"""The workings of steam and heat: what a vessel lets go an hour, how long it takes to get hot, what energy that is."""

from __future__ import annotations

from decimal import Decimal

from potrel.core.frozen import dataclass
from potrel.core.kitchen.kinds import ONE, ZERO, plain
from potrel.core.kitchen.recipes import Stage
from potrel.core.kitchen.vessels import EFFICIENCY, Vessel
from potrel.core.numbers.arithmetic import Number, larger
from potrel.core.numbers.formula import formula
from potrel.core.numbers.rounding import half_even
from potrel.core.pot.day_view import DayView
from potrel.core.pot.evaporation import (
    BARELY,
    IN_A_POT,
    OVEN,
    ROLLING,
    UNDER_FAT,
    Steaming,
    open_surface_rate,
    wall_loss,
)
from potrel.core.pot.heat import (
    OVEN_LIDS,
    StageHeat,
    capacity_l,
    celsius_of,
    energy_of,
    energy_of_oven,
    is_in_oven,
    latent_heat,
    learned_rate,
    let_go,
    lid_of,
    lids_on_the_hob,
    minutes_of_heat,
    rise_of,
    turned_on,
)
from potrel.core.tell.figures import SETTING, TYPED, Figure, Input, Place, as_stated, reckoned, unknown

_PHYSICS = "physics (ASHRAE's open surface with Stefan's outflow)"
_VESSEL = "noted with the vessel"
_WATER = "water at that heat (IAPWS-IF97)"


@formula("surface * steam of a square metre * share in a pot * share that the lid lets go * share under fat")
def surface_rate(
    surface: Number,
    steam_of_a_square_metre: Number,
    share_in_a_pot: Number,
    share_that_the_lid_lets_go: Number,
    share_under_fat: Number = ONE,
) -> Number:
    """What the surface of a pot lets go an hour [kg], below the boil."""
    return surface * steam_of_a_square_metre * share_in_a_pot * share_that_the_lid_lets_go * share_under_fat


@formula("surface * a rolling boil * share that the lid lets go")
def rolling_rate(surface: Number, a_rolling_boil: Number, share_that_the_lid_lets_go: Number) -> Number:
    """What goes up an hour [kg] at a boil that somebody minds."""
    return surface * a_rolling_boil * share_that_the_lid_lets_go


@formula(
    "the larger of (0, power * share turned on * efficiency - loss through the wall) / heat of evaporation * 3600"
    " * share that the lid lets go"
)
def heat_rate(
    power: Number,
    share_turned_on: Number,
    efficiency: Number,
    loss_through_the_wall: Number,
    heat_of_evaporation: Number,
    share_that_the_lid_lets_go: Number = ONE,
) -> Number:
    """What a flame drives up an hour [kg], once the walls have had theirs."""
    net = power * share_turned_on * efficiency - loss_through_the_wall
    return larger(net * 0, net) / heat_of_evaporation * 3600 * share_that_the_lid_lets_go


@formula(
    "heat of a square metre * (surface + wall) * (oven - boils at) / heat of evaporation * 3600 * share that the lid lets go"
)
def rate_in_an_oven(
    heat_of_a_square_metre: Number,
    surface: Number,
    wall: Number,
    oven: Number,
    boils_at: Number,
    heat_of_evaporation: Number,
    share_that_the_lid_lets_go: Number,
) -> Number:
    """What the air of an oven drives up an hour [kg]."""
    over = oven - boils_at
    return heat_of_a_square_metre * (surface + wall) * over / heat_of_evaporation * 3600 * share_that_the_lid_lets_go


def _efficiency(vessel: Vessel) -> Input:
    source = _VESSEL
    if vessel.efficiency is None and vessel.heat_source is not None:
        source = f"{vessel.heat_source}: {plain(EFFICIENCY[vessel.heat_source])} (common practice, no source)"
    return Input("efficiency", vessel.brought_in, "share", source)


def _turned_on(stage: Stage) -> Input:
    return Input("turned on", turned_on(stage.power_share), "share", TYPED)


def _power(vessel: Vessel) -> Input:
    return Input("power", vessel.power_kw, "kW", _VESSEL)


@dataclass(frozen=True, slots=True)
class SteamFigures:
    """How a stage's vessel steams."""

    stage: Stage
    steam: Steaming
    view: DayView

    def figure(self, place: Place) -> Figure:
        """What goes up an hour, by what sets it."""
        if self.steam.kg_per_hour == 0:
            words = "sealed: no steam" if lid_of(self.stage) == "sealed" else "no steam"
            return reckoned(as_stated, place, "kg/h", what_is_stated=Input(words, ZERO, "kg/h", TYPED))
        ways = {
            "surface": self._by_surface, "rolling": self._rolling, "heat": self._by_heat, "oven": self._in_an_oven,
            "learned": self._learned,
        }  # fmt: skip
        return ways[self.steam.limit](place)

    @property
    def _in_oven(self) -> bool:
        return is_in_oven(self.stage, self.view.vessels.get(self.stage.vessel or ""))

    @property
    def _celsius(self) -> Decimal:
        """How hot the water is that steams [C]."""
        room, oven_c = self.view.room, self.stage.temperature_c
        if self._in_oven and self.steam.limit == "surface" and oven_c is not None:
            return min(oven_c, room.boils_at - BARELY)
        return celsius_of(self.stage, room) or ZERO

    def _surface(self) -> Input:
        of = self.steam.of
        source = "as high as wide, filled to four fifths: assumed" if of.assumed else _VESSEL
        return Input("open surface", of.surface_m2, "m2", source)

    def _lid(self) -> Input:
        stage, lid = self.stage, lid_of(self.stage)
        words = "no lid" if lid == "off" else f"lid {lid}".replace("_", " ")
        if lid == "covered_then_open" and stage.open_minutes is not None:
            words = f"covered, then open for {plain(stage.open_minutes)} of {plain(stage.minutes or ZERO)} minutes"
        if self.steam.limit == "oven":
            return Input(words, let_go(stage, OVEN_LIDS), "share", "in an oven (common practice, no source)")
        return Input(words, let_go(stage, lids_on_the_hob(self.view.settings)), "share", SETTING)

    def _estimate(self) -> str:
        low, high = (plain(half_even(end, 1)) for end in self.steam.band)
        return f"An estimate: {low} to {high} kg an hour. Weigh a pot before and after to know."

    def _by_surface(self, place: Place) -> Figure:
        room, celsius = self.view.room, self._celsius
        fat = None
        if self.stage.fat_layer and not self._in_oven:
            fat = Input("under a layer of fat", UNDER_FAT, "share", "common practice, no source")
        return reckoned(
            surface_rate, place, "kg/h", note=self._estimate(), surface=self._surface(),
            steam_of_a_square_metre=Input(
                f"at {plain(half_even(celsius, 1))} C in a room of {plain(room.room_c)} C",
                open_surface_rate(ONE, celsius, room) if celsius > 0 else ZERO, "kg/h", _PHYSICS,
            ),
            share_in_a_pot=Input("walls and its own steam keep the air off", IN_A_POT, "share", "common practice, no source"),
            share_that_the_lid_lets_go=self._lid(), share_under_fat=fat,
        )  # fmt: skip

    def _learned(self, place: Place) -> Figure:
        vessel = self.view.vessels[self.stage.vessel or ""]
        rates = [
            Input(f"on {one.on.isoformat()}", one.kg_per_hour, "kg/h", "by what came out of it")
            for one in vessel.learned(lid_of(self.stage), self.stage.heat)
        ]
        how_many = Input("how many", Decimal(len(rates)), "", "times that it was weighed")
        return reckoned(
            learned_rate, place, "kg/h", note="Learned from what came out of this vessel.", rates=rates, how_many=how_many
        )

    def _rolling(self, place: Place) -> Figure:
        return reckoned(
            rolling_rate, place, "kg/h", note=self._estimate(), surface=self._surface(),
            a_rolling_boil=Input("a rolling boil, of a square metre", ROLLING, "kg/h", "common practice, no source"),
            share_that_the_lid_lets_go=self._lid(),
        )  # fmt: skip

    def _by_heat(self, place: Place) -> Figure:
        vessel, celsius = self.view.vessels[self.stage.vessel or ""], self._celsius
        held = capacity_l(vessel, self.view)
        loses = ZERO if held is None else wall(held, celsius, self.view)
        note, lid = self._estimate(), self._lid() if self.steam.asked_kg_per_hour is None else None
        if self.steam.asked_kg_per_hour is not None:
            asked = plain(half_even(self.steam.asked_kg_per_hour, 1))
            note = f"The surface would let {asked} kg an hour go: this flame cannot hold it so hot."
        return reckoned(
            heat_rate, place, "kg/h", note=note, power=_power(vessel), share_turned_on=_turned_on(self.stage),
            efficiency=_efficiency(vessel), share_that_the_lid_lets_go=lid,
            loss_through_the_wall=Input("lost through the wall", loses, "kW", "10 W for each square metre and degree"),
            heat_of_evaporation=Input("heat of evaporation", latent_heat(celsius), "kJ/kg", _WATER),
        )  # fmt: skip

    def _in_an_oven(self, place: Place) -> Figure:
        room, of = self.view.room, self.steam.of
        return reckoned(
            rate_in_an_oven, place, "kg/h", note=self._estimate(), surface=self._surface(),
            heat_of_a_square_metre=Input("heat that the air brings", OVEN, "kW", "common practice, no source"),
            wall=Input("its wall", of.wall_m2, "m2", "as high as wide; none of a tray"),
            oven=Input("the oven", self.stage.temperature_c, "C", TYPED),
            boils_at=Input("water boils at", room.boils_at, "C", _WATER),
            heat_of_evaporation=Input("heat of evaporation", latent_heat(room.boils_at), "kJ/kg", _WATER),
            share_that_the_lid_lets_go=self._lid(),
        )  # fmt: skip


def wall(held: Decimal, celsius: Decimal, view: DayView) -> Decimal:
    """What the wall of a vessel gives off [kW] that holds so much [l]."""
    return wall_loss(held, celsius, view.room)


@dataclass(frozen=True, slots=True)
class HeatFigures:
    """The heat of one stage, which something heats."""

    stage: Stage
    heat: StageHeat
    view: DayView

    def _warm(self) -> Input:
        heat = self.heat
        value = heat.to_warm
        words = "how hot it is kept, or what it starts from, is not said"
        if heat.start is not None and heat.hot is not None and heat.celsius is not None:
            rise = rise_of(heat.hot, heat.start)
            kilos, degrees = plain(half_even(heat.kilos, 2)), plain(half_even(rise, 1))
            words = f"{kilos} kg by {degrees} K to {plain(half_even(heat.celsius, 1))} C, 4 kJ for each"
        return Input("heat to warm it", value, "kJ", words)

    def _latent(self) -> Input:
        heat = self.heat
        latent = None if heat.celsius is None else latent_heat(heat.celsius)
        return Input("heat of evaporation", latent, "kJ/kg", _WATER)

    def _wall(self) -> Input:
        heat = self.heat
        return Input("lost through the wall", heat.wall_kw, "kW", "10 W for each square metre and degree")

    def energy(self, place: Place) -> Figure:
        """What it takes."""
        heat, stage = self.heat, self.stage
        if heat.lack is not None:
            return unknown(place, "kWh", heat.lack.english)
        time = Input("time", stage.minutes, "min", TYPED)
        if heat.is_oven:
            return reckoned(
                energy_of_oven, place, "kWh", power=_power(heat.vessel), efficiency=_efficiency(heat.vessel), time=time,
                share_turned_on=_turned_on(stage),
            )  # fmt: skip
        return reckoned(
            energy_of, place, "kWh", heat_to_warm=self._warm(), efficiency=_efficiency(heat.vessel), time=time,
            kilos_of_steam=Input("goes up as steam", heat.steam, "kg", "the lines' cooking and the change"),
            heat_of_evaporation=self._latent(), loss_through_the_wall=self._wall(),
        )  # fmt: skip

    def _flame(self) -> dict[str, Input]:
        heat, stage = self.heat, self.stage
        return {
            "power": _power(heat.vessel),
            "share_turned_on": _turned_on(stage),
            "efficiency": _efficiency(heat.vessel),
            "loss_through_the_wall": self._wall(),
        }

    def _told(self) -> bool:
        """Whether the flame has any heat left for the food."""
        return self.heat.net_kw(self.stage) is not None

    def minutes_to_heat(self, place: Place) -> Figure | None:
        """How long the flame takes to get it hot."""
        return self._minutes(place, self._warm()) if self._told() else None

    def minutes_to_dry(self, place: Place) -> Figure | None:
        """How long the flame takes to drive off what cooks out of the lines."""
        heat = self.heat
        if not self._told() or heat.celsius is None or self.stage.change.rule != "keep" or heat.steam == 0:
            return None
        kilos = plain(half_even(heat.steam, 2))
        value = heat.steam * latent_heat(heat.celsius)
        return self._minutes(place, Input("heat of the steam", value, "kJ", f"{kilos} kg that cook out of the lines"))

    def _minutes(self, place: Place, heat: Input) -> Figure:
        flame = self._flame()
        return reckoned(
            minutes_of_heat, place, "min", heat=heat, power=flame["power"], share_turned_on=flame["share_turned_on"],
            efficiency=flame["efficiency"], loss_through_the_wall=flame["loss_through_the_wall"],
        )  # fmt: skip
