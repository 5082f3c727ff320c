"""A soup that stands hot while it is served: what steams off it, and what that does to portions, salt and thickness.

A forecast of taste and quantity, no clearance: how hot food has to be held, and how long it may be, the local food code says.
"""

from __future__ import annotations

from decimal import Decimal

from potrel.core.frozen import dataclass
from potrel.core.kitchen.kinds import ONE
from potrel.core.kitchen.servings import Serving
from potrel.core.numbers.arithmetic import Number, smaller
from potrel.core.numbers.formula import formula
from potrel.core.numbers.rounding import ceiling
from potrel.core.pot.day_view import DayView
from potrel.core.pot.evaporation import BANDS, Shape, steaming
from potrel.core.pot.heat import capacity_l, flame_of, lid_factor
from potrel.core.sentences import Sentence, say


@formula("the smaller of (batch, kilos an hour * containers * hours * 1000)")
def lost_by_holding(batch: Number, kilos_an_hour: Number, containers: Number, hours: Number) -> Number:
    """What steams off a batch [g] while it stands hot: at most all of it."""
    return smaller(batch, kilos_an_hour * containers * hours * 1000)


@dataclass(frozen=True, slots=True)
class Standing:
    """How a batch [g] stands hot: what one container steams [kg/h], how many it takes, how long [h], what is lost [g]."""

    kg_per_hour: Decimal
    containers: Decimal
    hours: Decimal
    lost: Number
    batch: Number

    @property
    def band(self) -> tuple[Number, Number]:
        """The least and the most that may be lost [g]: never more than there is."""
        low, high = BANDS["surface"]
        return self.lost * low, smaller(self.lost * high, self.batch)


def standing(serving: Serving, batch: Number, density: Decimal, view: DayView) -> Standing | Sentence | None:
    """How a batch [g] of a serving stands hot, or what has to be said to know that; None where it does not stand."""
    if not serving.hold_hours:
        return None
    vessel = view.vessels.get(serving.hold_vessel or "")
    surface = None if vessel is None else vessel.open_surface
    if vessel is None or surface is None:
        return say("hold_in_what", "say in which vessel it stands hot, and how wide that is")
    rate = steaming(
        Shape(surface), serving.hold_c, view.room, lid_factor=lid_factor(serving.hold_lid, view.settings),
        flame=flame_of(vessel, None), capacity_l=capacity_l(vessel, view),
    )  # fmt: skip
    per_hour = rate.kg_per_hour
    held = capacity_l(vessel, view)
    containers = ONE if held is None else max(ONE, ceiling(batch / 1000 / view.number(density) / held))
    lost = lost_by_holding(batch, view.number(per_hour), containers, view.number(serving.hold_hours))
    return Standing(per_hour, containers, serving.hold_hours, lost, batch)
