"""How much goes up in steam from a vessel: what its surface lets go, and what its flame can drive.

It belongs to the surface and to the flame, not to the batch: twice the batch in the same kettle loses the same kilos an hour.
An estimate: free-convection formulas give from 40% less to 60% more below the boil. The kitchen's own logs take its place.
"""

from __future__ import annotations

from decimal import Decimal
from functools import lru_cache
from typing import Literal

from potrel.core.frozen import dataclass
from potrel.core.kitchen.kinds import ONE, ZERO
from potrel.core.kitchen.settings import Settings
from potrel.core.pot.water import air_pressure, boiling_point, heat_of_evaporation, vapour_pressure

Limit = Literal["surface", "heat"]

# The band of the rate below the boil, as shares of it: where free-convection estimates lie.
BAND = (Decimal("0.6"), Decimal("1.6"))
# [K] So near to the boiling point it boils.
_AT_THE_BOIL = ONE
# [W/m2 K] from a wall to the kitchen around it. Common practice, no source.
_WALL = Decimal(10)
# What a layer of fat or a thick surface lets through. Common practice, no source.
UNDER_FAT = Decimal("0.5")
_PI = Decimal("3.14159265358979323846")
_SECONDS = 3600
_KEPT = 1024


@dataclass(frozen=True, slots=True)
class Room:
    """The kitchen around a pot: its height above the sea [m], warmth [C], relative humidity [0 to 1] and draught [m/s]."""

    altitude_m: Decimal = ZERO
    room_c: Decimal = Decimal(25)
    relative_humidity: Decimal = Decimal("0.5")
    air_speed: Decimal = Decimal("0.1")

    @property
    def pressure(self) -> Decimal:
        """Of its air [kPa]."""
        return air_pressure(self.altitude_m)

    @property
    def boils_at(self) -> Decimal:
        """The boiling point of water here [C]."""
        return boiling_point(self.pressure)


def room_of(settings: Settings) -> Room:
    """The kitchen around its pots, as its settings have it."""
    return Room(settings.altitude_m, settings.room_c, settings.relative_humidity, settings.air_speed)


@dataclass(frozen=True, slots=True)
class Flame:
    """What heats a vessel: its power [kW], the share of it that is turned on, and the share that comes into the pot."""

    power_kw: Decimal
    efficiency: Decimal
    power_share: Decimal = ONE


@dataclass(frozen=True, slots=True)
class Steaming:
    """How a vessel steams: so much [kg/h], and what sets that.

    Where the flame cannot hold the heat of the stage, `asked_kg_per_hour` is what its surface would let go.
    """

    kg_per_hour: Decimal
    limit: Limit
    asked_kg_per_hour: Decimal | None = None

    @property
    def cannot_hold(self) -> bool:
        """Whether the flame is too small for the heat that the stage is said to have."""
        return self.asked_kg_per_hour is not None and self.asked_kg_per_hour > self.kg_per_hour


def open_surface_rate(surface_m2: Decimal, celsius: Decimal, room: Room) -> Decimal:
    """What goes up from an open surface [m2] of water below the boil [kg/h]; at the boiling point there is no such rate.

    The form of Carrier (ASHRAE Handbook, HVAC Applications), with Stefan's outflow, by which vapour carries itself away: near
    the boil the plain form is too low by half.
    """
    return surface_m2 * _of_a_square_metre(celsius, room)


@lru_cache(_KEPT)
def _of_a_square_metre(celsius: Decimal, room: Room) -> Decimal:
    """The same of one square metre [kg/h]: a kitchen has few rooms and few heats, so it is reckoned once and kept."""
    pressure, at_water = room.pressure, vapour_pressure(celsius)
    in_air = room.relative_humidity * vapour_pressure(room.room_c)
    drive = pressure * ((pressure - in_air) / (pressure - at_water)).ln()
    through = Decimal("0.089") + Decimal("0.0782") * room.air_speed
    return drive * through / heat_of_evaporation(celsius) * _SECONDS


@lru_cache(_KEPT)
def wall_loss(capacity_l: Decimal, celsius: Decimal, room: Room) -> Decimal:
    """What a vessel as high as it is wide gives off through side and bottom [kW] where it holds so much."""
    diameter = (4 * capacity_l / 1000 / _PI) ** (Decimal(1) / 3)
    wall = _PI * diameter * diameter * Decimal("1.25")
    return max(ZERO, _WALL * wall * (celsius - room.room_c) / 1000)


def driven_rate(flame: Flame, loses_kw: Decimal, celsius: Decimal) -> Decimal:
    """What a flame can drive up [kg/h] once the walls have had theirs; nothing where they take all of it."""
    net = flame.power_kw * flame.efficiency * flame.power_share - loses_kw
    return max(ZERO, net / heat_of_evaporation(celsius) * _SECONDS)


@lru_cache(_KEPT)
def steaming(
    surface_m2: Decimal,
    celsius: Decimal,
    room: Room,
    *,
    lid_factor: Decimal = ONE,
    under_fat: bool = False,
    flame: Flame | None = None,
    capacity_l: Decimal | None = None,
) -> Steaming | None:
    """How a vessel steams at a temperature; None at the boil where nobody knows the power, which sets it there.

    `lid_factor` is the share of the steam that its lid lets go. Water is never hotter than it boils at here.
    """
    heat = min(celsius, room.boils_at)
    driven = None
    if flame is not None:
        loses = ZERO if capacity_l is None else wall_loss(capacity_l, heat, room)
        driven = driven_rate(flame, loses, heat)
    if heat > room.boils_at - _AT_THE_BOIL:
        return None if driven is None else Steaming(driven, "heat")
    asked = open_surface_rate(surface_m2, heat, room) * lid_factor * (UNDER_FAT if under_fat else ONE)
    if driven is not None and driven < asked:
        return Steaming(driven, "heat", asked)
    return Steaming(asked, "surface")
