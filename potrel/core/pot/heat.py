"""How hot a stage is, what its vessel steams off an hour, how long it takes to heat, and what energy all that takes."""

from __future__ import annotations

from collections.abc import Mapping
from decimal import Decimal

from potrel.core.frozen import dataclass
from potrel.core.kitchen.kinds import ONE, ZERO
from potrel.core.kitchen.methods import method_called
from potrel.core.kitchen.recipes import Stage
from potrel.core.kitchen.settings import Settings
from potrel.core.kitchen.vessels import Heat, Lid, Vessel
from potrel.core.numbers.arithmetic import Number, larger, total
from potrel.core.numbers.formula import Many, formula
from potrel.core.numbers.rounding import half_even, typical
from potrel.core.pot.day_view import DayView
from potrel.core.pot.evaporation import (
    BARELY,
    Flame,
    Room,
    Shape,
    Steaming,
    oven_steaming,
    shape_filled,
    steaming,
    wall_loss,
    wall_m2,
)
from potrel.core.pot.water import heat_of_evaporation
from potrel.core.sentences import Sentence, say

# [K] How far below the boil each way keeps a pot: height never turns a simmer into a boil. Common practice, no source.
BELOW_THE_BOIL: dict[Heat, Decimal] = {"hold": Decimal(15), "bare_simmer": BARELY, "simmer": Decimal(5), "boil": ZERO}
# What a lid lets go in an oven, where its edge is dry. Common practice, no source.
OVEN_LIDS = {"off": ONE, "ajar": Decimal("0.6"), "on": Decimal("0.3"), "sealed": ZERO}
# There the temperature is that of the oven or the pan; the food itself leaves hot through, below the boil.
_DRY_HEAT = frozenset({"roast", "bake", "grill", "brown", "sear", "fry"})
_DRY_HEAT_LEAVES = Decimal(95)
# What is done there heats nothing by itself.
UNHEATED = frozenset({"blend", "strain", "soak", "cool", "finish"})
# [C] of what comes from a shelf or a store room.
PUT_IN_AT = Decimal(20)
# [kJ/kg K] of a pot: less than water's 4.2, for what is in it. Common practice, no source.
_HEAT_CAPACITY = 4
_FREEZES = ZERO


def is_dry_heat(stage: Stage) -> bool:
    """Whether a stage is roasted, fried or the like: heated without liquid around it."""
    return _method(stage) in _DRY_HEAT


def _method(stage: Stage) -> str | None:
    found = method_called(stage.method or "")
    return None if found is None else found.id


def is_heated(stage: Stage) -> bool:
    """Whether a stage is cooked: by its method, or since it is said how hot it is kept."""
    if stage.heat is not None:
        return True
    method = _method(stage)
    return method is not None and method not in UNHEATED


def celsius_of(stage: Stage, room: Room) -> Decimal | None:
    """How hot the food is at the end of a stage [C]; None where nobody says. Water is never hotter than it boils at here."""
    if is_dry_heat(stage):
        return min(_DRY_HEAT_LEAVES, room.boils_at)
    if stage.temperature_c is not None:
        return min(stage.temperature_c, room.boils_at)
    if stage.heat is None:
        return None
    return room.boils_at - BELOW_THE_BOIL[stage.heat]


def is_in_oven(stage: Stage, vessel: Vessel | None) -> bool:
    """Whether a stage is cooked in an oven: it says so, or its vessel stands in one."""
    return stage.in_oven or (vessel is not None and vessel.heat_source == "oven")


def lid_factor(lid: str | None, settings: Settings) -> Decimal:
    """The share of the steam that a lid lets go on the hob; without one, all of it."""
    return lids_on_the_hob(settings).get(lid or "off", settings.lid_factors.off)


def lids_on_the_hob(settings: Settings) -> Mapping[str, Decimal]:
    """What each lid lets go there [share], as the settings have it."""
    factors = settings.lid_factors
    return {"off": factors.off, "ajar": factors.ajar, "on": factors.on, "sealed": ZERO}


def let_go(stage: Stage, factors: Mapping[str, Decimal]) -> Decimal:
    """The share of the steam that a stage's lid lets go, of those of each lid; covered, then open: by the minutes of each."""
    lid, minutes, is_open = lid_of(stage), stage.minutes, stage.open_minutes
    if lid != "covered_then_open":
        return factors[lid]
    if is_open is None or not minutes:
        return factors["off"]
    share = min(is_open / minutes, ONE)
    return factors["off"] * share + factors["on"] * (1 - share)


def lid_of(stage: Stage) -> Lid:
    """The lid of a stage: as it says, else none, but on what is cooked under pressure."""
    return stage.lid or ("sealed" if _method(stage) == "pressure" else "off")


def flame_of(vessel: Vessel, power_share: Decimal | None) -> Flame | None:
    """What heats a vessel; None where its power is not known."""
    if vessel.power_kw is None or vessel.brought_in is None:
        return None
    return Flame(vessel.power_kw, vessel.brought_in, turned_on(power_share))


def turned_on(power_share: Decimal | None) -> Decimal:
    """How far a flame is turned up: all of it where nobody says."""
    return ONE if power_share is None else power_share


def capacity_l(vessel: Vessel, view: DayView) -> Decimal | None:
    """How much a vessel holds [l]; None where that is a mass, or not known."""
    held = vessel.capacity
    return None if held is None or held.kind != "volume" else held.millilitres(view.system) / 1000


def steam_of(stage: Stage, litres: Decimal, view: DayView) -> Steaming | Sentence:
    """What goes up from a stage's vessel an hour, or what has to be said to know that.

    Without a vessel it is a pot as high as wide, which its `litres` fill to four fifths.
    """
    vessel = view.vessels.get(stage.vessel or "")
    where, in_oven = stage.name or stage.id, is_in_oven(stage, vessel)
    if is_dry_heat(stage) and not in_oven:
        english = 'stage "{stage}": what a pot steams says nothing of a pan: give what is lost there itself'
        return say("steam_of_dry_heat", english, stage=where)
    of = shape_filled(litres) if vessel is None else _shape(vessel, where, view)
    if isinstance(of, Sentence):
        return of
    if in_oven:
        return _steam_in_oven(stage, of, where, view)
    celsius = celsius_of(stage, view.room)
    if celsius is None:
        english = 'stage "{stage}" steams by its vessel: say how hot it is kept (hold, bare simmer, simmer, boil, or degrees)'
        return say("steam_how_hot", english, stage=where)
    learned = [] if vessel is None else vessel.learned(lid_of(stage), stage.heat)
    if learned:
        return Steaming(learned_rate([one.kg_per_hour for one in learned], Decimal(len(learned))), "learned", of)
    lid = let_go(stage, lids_on_the_hob(view.settings))
    if celsius <= _FREEZES or lid == 0:
        return Steaming(ZERO, "surface", of)
    turned_up = stage.power_share is not None or is_reduced(stage)
    flame, held = (None, None) if vessel is None else (flame_of(vessel, stage.power_share), capacity_l(vessel, view))
    return steaming(of, celsius, view.room, lid_factor=lid, under_fat=stage.fat_layer,
                    flame=flame, capacity_l=held, turned_up=turned_up)  # fmt: skip


def _shape(vessel: Vessel, where: str, view: DayView) -> Shape | Sentence:
    """What steams of a vessel as it is noted, or that nobody measured how wide it is."""
    if vessel.open_surface is None:
        english = 'stage "{stage}" steams by its vessel: say how wide the {vessel} is (its diameter or surface)'
        return say("steam_without_surface", english, stage=where, vessel=vessel.name)
    held = capacity_l(vessel, view)
    return Shape(vessel.open_surface, ZERO if held is None else wall_m2(held))


def _steam_in_oven(stage: Stage, of: Shape, where: str, view: DayView) -> Steaming | Sentence:
    if stage.temperature_c is None:
        return say("steam_how_hot_the_oven", 'stage "{stage}" is in the oven: say how hot that is (degrees)', stage=where)
    oven_lid, hob_lid = let_go(stage, OVEN_LIDS), let_go(stage, lids_on_the_hob(view.settings))
    if stage.temperature_c <= _FREEZES or oven_lid == 0:
        return Steaming(ZERO, "surface", of)
    return oven_steaming(of, stage.temperature_c, view.room, oven_lid, hob_lid)


def physics_beside(stage: Stage, litres: Decimal, view: DayView) -> Steaming | None:
    """What its vessel, lid and heat would let go, where a stated rate lies outside of that band; else None."""
    stated = stage.change.kg_per_hour
    if stated is None or stage.vessel is None:
        return None
    found = steam_of(stage, litres, view)
    if isinstance(found, Sentence) or found.band[0] <= stated <= found.band[1]:
        return None
    return found


def litres_of(mass: Number, density: Decimal) -> Decimal:
    """A mass [g] of a density [kg/l] as litres, in words' precision: of many draws the one in the middle."""
    return half_even(typical(mass) / 1000 / density, 3)


def is_reduced(stage: Stage) -> bool:
    """Whether a stage reduces: by its change, or its method."""
    return stage.change.rule == "reduce" or _method(stage) == "reduce"


@formula("sum of rates / how many")
def learned_rate(rates: Many, how_many: Number) -> Number:
    """The mean of what went up of a vessel on other days [kg/h]."""
    return total(rates) / how_many


@formula("(mass in - reduced to) / 1000 / kilos an hour * 60")
def minutes_to_reduce(mass_in: Number, reduced_to: Number, kilos_an_hour: Number) -> Number:
    """How long a vessel takes [min] to steam down to so much."""
    return (mass_in - reduced_to) / 1000 / kilos_an_hour * 60


@formula("sum of kilos times degrees / sum of kilos")
def mixed(kilos_times_degrees: Many, kilos: Many) -> Number:
    """The temperature [C] of what comes together."""
    return total(kilos_times_degrees) / total(kilos)


@formula("the larger of (0, heated to - starts at)")
def rise_of(heated_to: Number, starts_at: Number) -> Number:
    """How far something is warmed [K]: never below nothing."""
    rise = heated_to - starts_at
    return larger(rise * 0, rise)


@formula("kilos * 4 * rise")
def heat_to_warm(kilos: Number, rise: Number) -> Number:
    """The heat [kJ] that warms something: 4 kJ for each kilo and degree, a little less than water takes."""
    return kilos * _HEAT_CAPACITY * rise


@formula("(heat to warm + kilos of steam * heat of evaporation + loss through the wall * time * 60) / efficiency / 3600")
def energy_of(
    heat_to_warm: Number,
    kilos_of_steam: Number,
    heat_of_evaporation: Number,
    loss_through_the_wall: Number,
    time: Number,
    efficiency: Number,
) -> Number:
    """The energy of a stage [kWh]: to warm it, to make its steam, and what its walls give off [kW] the while [min]."""
    warm = heat_to_warm + kilos_of_steam * heat_of_evaporation + loss_through_the_wall * time * 60
    return warm / efficiency / 3600


@formula("power * share turned on * efficiency * time / 60")
def energy_of_oven(power: Number, share_turned_on: Number, efficiency: Number, time: Number) -> Number:
    """The energy of an oven [kWh]: what it draws of its power [kW] while it holds its heat [min]."""
    return power * share_turned_on * efficiency * time / 60


@formula("heat / (power * share turned on * efficiency - loss through the wall) / 60")
def minutes_of_heat(
    heat: Number, power: Number, share_turned_on: Number, efficiency: Number, loss_through_the_wall: Number
) -> Number:
    """How long a flame takes [min] to bring a heat [kJ] in; the walls lose as they do when it is hot, so it is rather less."""
    return heat / (power * share_turned_on * efficiency - loss_through_the_wall) / 60


@dataclass(frozen=True, slots=True)
class StageHeat:
    """A stage's heat: how hot it ends [C] (`hot` as a number of the engine), what it starts from, its steam [kg], what its
    walls lose [kW].

    `lack` says what has to be said to know its energy; then `energy` is None.
    """

    vessel: Vessel
    celsius: Decimal | None
    start: Number | None
    kilos: Number
    steam: Number
    wall_kw: Decimal
    hot: Number | None
    energy: Number | None = None
    lack: Sentence | None = None

    @property
    def is_oven(self) -> bool:
        return self.vessel.heat_source == "oven"

    @property
    def to_warm(self) -> Number | None:
        """The heat [kJ] that warms what is in it; None where its temperatures are not known."""
        if self.hot is None or self.start is None:
            return None
        return heat_to_warm(self.kilos, rise_of(self.hot, self.start))

    def net_kw(self, stage: Stage) -> Decimal | None:
        """The heat [kW] that is left for the food; None where that is not known, or nothing is left."""
        flame = None if is_in_oven(stage, self.vessel) else flame_of(self.vessel, stage.power_share)
        net = None if flame is None else flame.power_kw * flame.efficiency * flame.power_share - self.wall_kw
        return net if net is not None and net > 0 else None


def stage_heat(stage: Stage, vessel: Vessel, kilos: Number, start: Number | None, steam: Number, view: DayView) -> StageHeat:
    """The heat of a stage in a vessel that something heats: `kilos` of it start at `start` [C] and give so much steam [kg]."""
    room = view.room
    celsius, held = celsius_of(stage, room), capacity_l(vessel, view)
    wall = ZERO if held is None or celsius is None else wall_loss(held, celsius, room)
    made = StageHeat(vessel, celsius, start, kilos, steam, wall, None if celsius is None else view.number(celsius))
    # It has just been made, and nobody has it yet: to make another takes longer than all that is reckoned here.
    energy, lack = _energy(made, stage, view)
    object.__setattr__(made, "energy", energy)
    object.__setattr__(made, "lack", lack)
    return made


def _energy(here: StageHeat, stage: Stage, view: DayView) -> tuple[Number | None, Sentence | None]:
    vessel, number, where = here.vessel, view.number, stage.name or stage.id
    efficiency = vessel.brought_in
    if efficiency is None or efficiency == 0:
        return None, None
    if stage.in_oven and not here.is_oven:
        english = 'stage "{stage}" is in an oven, not on the flame of the {vessel}: give the kWh that it took'
        return None, say("energy_of_which_oven", english, stage=where, vessel=vessel.name)
    if stage.minutes is None:
        return None, say("energy_how_long", 'stage "{stage}" is heated: say for how many minutes', stage=where)
    time = number(stage.minutes)
    if here.is_oven:
        if vessel.power_kw is None:
            return None, say("oven_what_power", "say how many kW the {vessel} has", vessel=vessel.name)
        return energy_of_oven(number(vessel.power_kw), number(turned_on(stage.power_share)), number(efficiency), time), None
    if here.celsius is None:
        return None, say("energy_how_hot", 'stage "{stage}" is heated: say how hot it is kept', stage=where)
    to_warm = here.to_warm
    if to_warm is None:
        english = 'stage "{stage}" takes in what an earlier one heated: say how hot that is kept, or what this one starts from'
        return None, say("energy_from_where", english, stage=where)
    latent = number(latent_heat(here.celsius))
    return energy_of(to_warm, here.steam, latent, number(here.wall_kw), time, number(efficiency)), None


def latent_heat(celsius: Decimal) -> Decimal:
    """The heat of evaporation [kJ/kg] at a temperature; of ice, that at its melting."""
    return heat_of_evaporation(max(_FREEZES, celsius))
