"""Vessels: what holds a stage, how wide it is open, and what heats it."""

from __future__ import annotations

from decimal import Decimal
from typing import Annotated, Literal

from potrel.core.errors import BadDocument
from potrel.core.frozen import dataclass
from potrel.core.kitchen.keyed import Keyed
from potrel.core.kitchen.kinds import ONE, ZERO, Amount, Bulk, Id, Minutes, Name, On, PositiveShare, Rate
from potrel.core.sentences import say

Lid = Literal["on", "off", "ajar", "sealed", "covered_then_open"]
# How a pot is heated: kept hot, barely moving, simmering, boiling.
Heat = Literal["hold", "bare_simmer", "simmer", "boil"]
HeatSource = Literal["gas", "induction", "electric", "steam", "oven"]

Surface = Annotated[Decimal, Amount("a surface", low=ZERO, high=Decimal(20), above=True)]
Diameter = Annotated[Decimal, Amount("a diameter", low=ZERO, high=Decimal(500), above=True)]
Depth = Annotated[Decimal, Amount("a depth", low=ZERO, high=Decimal(500), above=True)]
Power = Annotated[Decimal, Amount("a power", low=ZERO, high=Decimal(500), above=True)]
HowMany = Annotated[Decimal, Amount("how many there are", low=ONE, high=Decimal(999))]

# What of its power a source brings into the pot. Common practice, no source.
EFFICIENCY: dict[HeatSource, Decimal] = {
    "gas": Decimal("0.35"), "induction": Decimal("0.85"), "electric": Decimal("0.75"), "steam": Decimal("0.80"),
    "oven": Decimal("0.5"),
}  # fmt: skip
_PI = Decimal("3.14159265358979323846")


@dataclass(frozen=True, slots=True)
class LearnedRate(Keyed):
    """What went up of a vessel [kg/h] under a lid at a heat, by what came out of it, and when."""

    heat: Heat
    kg_per_hour: Rate
    on: On
    lid: Lid = "off"


@dataclass(frozen=True, slots=True)
class Vessel(Keyed):
    """A pot, kettle, pan, tray or blender; `capacity` is what it holds, a volume or (for trays) a mass.

    Its open surface is `surface_m2` [m2], or that of a round one of `diameter_cm` [cm]. `power_kw` [kW] comes from a
    `heat_source`, of which the share `efficiency` reaches the food (where none is given, what is usual for the source).
    `count` is how many of them there are; cleaning one takes `cleanup_minutes` after each batch. The mean of its learned
    `rates` goes before what physics reckons of it.
    """

    id: Id
    name: Name
    capacity: Bulk | None = None
    surface_m2: Surface | None = None
    diameter_cm: Diameter | None = None
    power_kw: Power | None = None
    heat_source: HeatSource | None = None
    efficiency: PositiveShare | None = None
    count: HowMany = ONE
    cleanup_minutes: Minutes = ZERO
    rates: tuple[LearnedRate, ...] = ()

    def learned(self, lid: Lid, heat: Heat | None) -> list[LearnedRate]:
        """What was learned of it under a lid at a heat."""
        return [one for one in self.rates if one.lid == lid and one.heat == heat]

    def __post_init__(self) -> None:
        if self.surface_m2 is not None and self.diameter_cm is not None:
            english = 'the vessel "{name}" has either a "surface_m2" or a "diameter_cm"'
            raise BadDocument("", say("surface_or_diameter", english, name=self.name))
        if self.power_kw is not None and self.heat_source is None and self.efficiency is None:
            english = 'what heats the vessel "{name}"? Its power needs a "heat_source" (gas, induction, electric, steam, oven)'
            raise BadDocument("heat_source", say("power_without_source", english, name=self.name))
        if self.count % 1 != 0:
            english = 'the "count" of vessels is a whole number, not {count}'
            raise BadDocument("count", say("vessels_whole", english, count=self.count))

    @property
    def open_surface(self) -> Decimal | None:
        """Its open surface [m2]; None where nobody measured it."""
        if self.diameter_cm is not None:
            return _PI * self.diameter_cm * self.diameter_cm / 40_000
        return self.surface_m2

    @property
    def brought_in(self) -> Decimal | None:
        """The share of its power that reaches the food; None where nothing heats it."""
        if self.efficiency is not None:
            return self.efficiency
        return None if self.heat_source is None else EFFICIENCY[self.heat_source]
