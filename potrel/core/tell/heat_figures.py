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
from potrel.core.pot.evaporation import BAND, UNDER_FAT, Steaming, open_surface_rate, wall_loss
from potrel.core.pot.heat import (
    StageHeat,
    capacity_l,
    celsius_of,
    energy_of,
    energy_of_oven,
    latent_heat,
    lid_factor,
    minutes_of_heat,
    rise_of,
)
from potrel.core.tell.figures import SETTING, TYPED, Figure, Input, Place, as_stated, reckoned, unknown

_PHYSICS = "physics (ASHRAE's open surface with Stefan's outflow)"
_VESSEL = "noted with the vessel"
_WATER = "water at that heat (IAPWS-IF97)"


@formula("surface * steam of a square metre * share that the lid lets go * share under fat")
def surface_rate(
    surface: Number, steam_of_a_square_metre: Number, share_that_the_lid_lets_go: Number, share_under_fat: Number = ONE
) -> Number:
    """What a surface lets go an hour [kg], below the boil."""
    return surface * steam_of_a_square_metre * share_that_the_lid_lets_go * share_under_fat


@formula("the larger of (0, power * share turned on * efficiency - loss through the wall) / heat of evaporation * 3600")
def heat_rate(
    power: Number, share_turned_on: Number, efficiency: Number, loss_through_the_wall: Number, heat_of_evaporation: Number
) -> Number:
    """What a flame drives up an hour [kg], once the walls have had theirs."""
    net = power * share_turned_on * efficiency - loss_through_the_wall
    return larger(net * 0, net) / heat_of_evaporation * 3600


def _efficiency(vessel: Vessel) -> Input:
    source = _VESSEL
    if vessel.efficiency is None and vessel.heat_source is not None:
        source = f"{vessel.heat_source}: {plain(EFFICIENCY[vessel.heat_source])} (common practice, no source)"
    return Input("efficiency", vessel.brought_in, "share", source)


def _power(vessel: Vessel) -> Input:
    return Input("power", vessel.power_kw, "kW", _VESSEL)


@dataclass(frozen=True, slots=True)
class SteamFigures:
    """How a stage's vessel steams."""

    stage: Stage
    steam: Steaming
    view: DayView

    def figure(self, place: Place) -> Figure:
        """What goes up an hour, by the surface or by the flame."""
        vessel = self.view.vessels[self.stage.vessel or ""]
        celsius = celsius_of(self.stage, self.view.room) or ZERO
        if self.stage.lid == "sealed":
            return reckoned(as_stated, place, "kg/h", what_is_stated=Input("sealed: no steam", ZERO, "kg/h", TYPED))
        if self.steam.limit == "heat":
            return self._by_heat(place, vessel, celsius)
        return self._by_surface(place, vessel, celsius)

    def _by_surface(self, place: Place, vessel: Vessel, celsius: Decimal) -> Figure:
        settings = self.view.settings
        surface, room = vessel.open_surface or ZERO, self.view.room
        low, high = (plain(half_even(self.steam.kg_per_hour * end, 1)) for end in BAND)
        lid = "no lid" if self.stage.lid is None else f"lid {self.stage.lid}".replace("_", " ")
        fat = None
        if self.stage.fat_layer:
            fat = Input("under a layer of fat", UNDER_FAT, "share", "common practice, no source")
        return reckoned(
            surface_rate, place, "kg/h", note=f"An estimate: {low} to {high} kg an hour. Weigh a pot before and after to know.",
            surface=Input("open surface", surface, "m2", _VESSEL),
            steam_of_a_square_metre=Input(
                f"at {plain(half_even(celsius, 1))} C in a room of {plain(settings.room_c)} C",
                open_surface_rate(ONE, celsius, room) if celsius > 0 else ZERO, "kg/h", _PHYSICS,
            ),
            share_that_the_lid_lets_go=Input(lid, lid_factor(self.stage.lid, settings), "share", SETTING),
            share_under_fat=fat,
        )  # fmt: skip

    def _by_heat(self, place: Place, vessel: Vessel, celsius: Decimal) -> Figure:
        held = capacity_l(vessel, self.view)
        loses = ZERO if held is None else wall(held, celsius, self.view)
        note = "At the boil the flame sets what goes up: no lid changes that."
        if self.steam.asked_kg_per_hour is not None:
            asked = plain(half_even(self.steam.asked_kg_per_hour, 1))
            note = f"The surface would let {asked} kg an hour go: this flame cannot hold it so hot."
        return reckoned(
            heat_rate, place, "kg/h", note=note, power=_power(vessel),
            share_turned_on=Input("turned on", self.stage.power_share, "share", TYPED), efficiency=_efficiency(vessel),
            loss_through_the_wall=Input("lost through the wall", loses, "kW", "10 W for each square metre and degree"),
            heat_of_evaporation=Input("heat of evaporation", latent_heat(celsius), "kJ/kg", _WATER),
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
                share_turned_on=Input("turned on", stage.power_share, "share", TYPED),
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
            "share_turned_on": Input("turned on", stage.power_share, "share", TYPED),
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
