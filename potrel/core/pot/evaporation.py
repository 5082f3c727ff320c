"""How much goes up in steam from a vessel: what its surface lets go, and what its flame can drive.

It belongs to the surface and to the flame, not to the batch: twice the batch in the same kettle loses the same kilos an hour.
An estimate, with a band for each of its ways. The kitchen's own weighings take its place.
"""

from __future__ import annotations

from decimal import Decimal
from functools import lru_cache
from typing import Literal

from potrel.core.frozen import dataclass
from potrel.core.kitchen.kinds import ONE, ZERO
from potrel.core.kitchen.settings import Settings
from potrel.core.pot.water import air_pressure, boiling_point, heat_of_evaporation, vapour_pressure

# What sets it: the surface below the boil, a rolling boil, the flame, the heat of an oven.
Limit = Literal["surface", "rolling", "heat", "oven", "learned"]

# The band of each, as shares of the rate. Common practice, no source.
BANDS: dict[Limit, tuple[Decimal, Decimal]] = {
    "surface": (Decimal("0.5"), Decimal(2)),
    "rolling": (Decimal("0.6"), Decimal("1.6")),
    "heat": (Decimal("0.6"), Decimal("1.6")),
    "oven": (Decimal("0.6"), Decimal("1.6")),
    # Weighed on other days: a quarter either way.
    "learned": (Decimal("0.75"), Decimal("1.25")),
}
# Wall, skin and its own steam keep the air off a pot: so much of what a free surface lets go. Fitted to textbook stock yields.
IN_A_POT = Decimal("0.4")
# [kg/h m2] Nobody keeps a full flame under a pot that boils already: a rolling boil. Common practice, no source.
ROLLING = Decimal(40)
# [kW/m2 K] What the air of an oven brings to surface and wall. Common practice, no source.
OVEN = Decimal("0.030")
# [K] Below the boiling point: water that barely moves.
BARELY = Decimal(10)
# How full a pot is that nobody named. Common practice, no source.
FILLED = Decimal("0.8")
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
class Shape:
    """What steams: its open surface [m2] and its wall [m2]. It is `assumed` where nobody said in which vessel."""

    surface_m2: Decimal
    wall_m2: Decimal = ZERO
    assumed: bool = False

    @property
    def across_cm(self) -> Decimal:
        """How wide a round one is [cm]."""
        return (self.surface_m2 * 4 / _PI).sqrt() * 100


def shape_filled(litres: Decimal) -> Shape:
    """A pot as high as wide, which so much fills to four fifths: the one that is assumed where none is named."""
    return Shape(_across(litres / FILLED) ** 2 * _PI / 4, wall_m2(litres / FILLED), assumed=True)


@dataclass(frozen=True, slots=True)
class Steaming:
    """How a vessel steams: so much [kg/h], and what sets that.

    Where the flame cannot hold the heat of the stage, `asked_kg_per_hour` is what its surface would let go. `of` is what it
    steams from.
    """

    kg_per_hour: Decimal
    limit: Limit
    of: Shape
    asked_kg_per_hour: Decimal | None = None

    @property
    def band(self) -> tuple[Decimal, Decimal]:
        """The least and the most that it may be [kg/h]."""
        low, high = BANDS[self.limit]
        return self.kg_per_hour * low, self.kg_per_hour * high

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


def _across(litres: Decimal) -> Decimal:
    """How wide a vessel is [m] that is as high as wide and holds so much."""
    return (4 * litres / 1000 / _PI) ** (ONE / 3)


@lru_cache(_KEPT)
def wall_m2(capacity_l: Decimal) -> Decimal:
    """Side and bottom [m2] of a vessel as high as it is wide that holds so much."""
    return _PI * _across(capacity_l) ** 2 * Decimal("1.25")


@lru_cache(_KEPT)
def wall_loss(capacity_l: Decimal, celsius: Decimal, room: Room) -> Decimal:
    """What a vessel as high as it is wide gives off through side and bottom [kW] where it holds so much."""
    return max(ZERO, _WALL * wall_m2(capacity_l) * (celsius - room.room_c) / 1000)


def driven_rate(flame: Flame, loses_kw: Decimal, celsius: Decimal) -> Decimal:
    """What a flame can drive up [kg/h] once the walls have had theirs; nothing where they take all of it."""
    net = flame.power_kw * flame.efficiency * flame.power_share - loses_kw
    return max(ZERO, net / heat_of_evaporation(celsius) * _SECONDS)


@lru_cache(_KEPT)
def steaming(
    of: Shape,
    celsius: Decimal,
    room: Room,
    *,
    lid_factor: Decimal = ONE,
    under_fat: bool = False,
    flame: Flame | None = None,
    capacity_l: Decimal | None = None,
    turned_up: bool = False,
) -> Steaming:
    """How a vessel on the hob steams at a temperature. Water is never hotter than it boils at here.

    `lid_factor` is the share of the steam that its lid lets go, at the boil too. Below the boil the surface sets it, as far as
    the flame can; at the boil a rolling boil, or the flame where that is less or was `turned_up` on purpose, as to reduce.
    """
    heat = min(celsius, room.boils_at)
    driven = None
    if flame is not None:
        loses = ZERO if capacity_l is None else wall_loss(capacity_l, heat, room)
        driven = driven_rate(flame, loses, heat)
    if boils(heat, room):
        rolls = ROLLING * of.surface_m2
        if driven is None or (driven > rolls and not turned_up):
            return Steaming(rolls * lid_factor, "rolling", of)
        return Steaming(driven * lid_factor, "heat", of)
    asked = open_surface_rate(of.surface_m2, heat, room) * IN_A_POT * lid_factor * (UNDER_FAT if under_fat else ONE)
    if driven is not None and driven < asked:
        return Steaming(driven, "heat", of, asked)
    return Steaming(asked, "surface", of)


def boils(celsius: Decimal, room: Room) -> bool:
    """Whether water that hot [C] boils here."""
    return celsius > room.boils_at - _AT_THE_BOIL


def oven_rate(of: Shape, oven_c: Decimal, room: Room, lid_factor: Decimal) -> Decimal:
    """What the air of an oven [C] drives up [kg/h] of what boils in it; nothing where it is no hotter than that."""
    over = max(ZERO, oven_c - room.boils_at)
    return OVEN * (of.surface_m2 + of.wall_m2) * over / heat_of_evaporation(room.boils_at) * _SECONDS * lid_factor


@lru_cache(_KEPT)
def oven_steaming(of: Shape, oven_c: Decimal, room: Room, oven_lid: Decimal, hob_lid: Decimal) -> Steaming:
    """How a vessel steams in an oven [C]: by its heat, and never less than it would barely moving on the hob.

    The lids let go other shares here (`oven_lid`) than there (`hob_lid`). The oven's power is never the pot's.
    """
    driven = oven_rate(of, oven_c, room, oven_lid)
    least = steaming(of, min(oven_c, room.boils_at - BARELY), room, lid_factor=hob_lid).kg_per_hour
    return Steaming(least, "surface", of) if least > driven else Steaming(driven, "oven", of)
