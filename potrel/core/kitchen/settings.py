"""What holds for the whole kitchen: rates, targets, how prices end, how by-products bear costs."""

from __future__ import annotations

from dataclasses import fields
from decimal import Decimal
from typing import Annotated, Literal

from potrel.core.errors import BadDocument, OutOfRange
from potrel.core.frozen import dataclass
from potrel.core.kitchen.channels import Channel
from potrel.core.kitchen.checks import refuse_twice
from potrel.core.kitchen.items import ByproductMethod
from potrel.core.kitchen.keyed import Keyed
from potrel.core.kitchen.kinds import ONE, ZERO, Amount, Minutes, PositiveShare, Rate, Share, TimeZone
from potrel.core.kitchen.pricing import Overhead, PriceEnding, Pricing, refuse_methods_twice
from potrel.core.numbers.units import MeasureSystem
from potrel.core.sentences import say

AllergenList = Literal["eu14", "us9"]
# Whose limits of temperature stand in the cautions: of the UK's Food Standards Agency, or of the US FDA Food Code.
FoodCode = Literal["fsa", "fda"]
# How figures are shown: how a day is written, what stands before the decimals, and whether mass and volume are in kilos and
# litres or in pounds, ounces and quarts. What was typed is shown as it was typed, whatever these say.
DateStyle = Literal["day_first", "month_first", "year_first"]
DecimalSign = Literal["point", "comma"]
ShownUnits = Literal["metric", "us"]
# What a kitchen on earth has around its pots.
Altitude = Annotated[Decimal, Amount("an altitude", low=Decimal(-500), high=Decimal(6000))]
RoomCelsius = Annotated[Decimal, Amount("a room temperature", low=ZERO, high=Decimal(60))]
OpenDays = Annotated[Decimal, Amount("the days that it is open in a week", low=ZERO, high=Decimal(7), above=True)]
AirSpeed = Annotated[Decimal, Amount("a speed of air", low=ZERO, high=Decimal(5))]


@dataclass(frozen=True, slots=True)
class LidFactors(Keyed):
    """The share of the steam that each lid lets go. Common practice, no source: a kitchen may have weighed its own."""

    off: Share = ONE
    ajar: Share = Decimal("0.5")
    on: Share = Decimal("0.1")


LIDS_AS_USUAL = LidFactors()


@dataclass(frozen=True, slots=True)
class Settings(Keyed):
    """What holds for the whole kitchen. Shares are fractions; rates are money per hour or per kWh, net of tax.

    `altitude_m` [m above the sea], `room_c` [C], `relative_humidity` and `air_speed` [m/s] are what pots steam into;
    `salt_target` is the share of salt that a finished soup should have. Prices may move for `price_horizon_days` [days] before
    somebody looks at them again. `pricings` are the kitchen's terms for each school of pricing, `channels` the ways in which it
    sells; `fixed_cost_per_week` [money] is what a week costs before anything is sold, in so many `open_days_per_week`. A day
    begins and ends, and every moment is told, by the clock of the `time_zone`. The `food_code` is whose limits of temperature
    stand in the cautions; where none is said, both do.
    """

    seasoning_allowance: Share = ZERO
    serving_loss: Share = ZERO
    labour_rate_per_hour: Rate | None = None
    overhead_rate_per_hour: Rate | None = None
    energy_price_per_kwh: Rate | None = None
    tax_rate: Share = ZERO
    target_food_cost: PositiveShare | None = None
    price_ending: PriceEnding | None = None
    byproduct_method: ByproductMethod = "credit"
    measure_system: MeasureSystem = "us"
    old_price_days: Minutes = Decimal(60)
    allergen_list: AllergenList = "eu14"
    food_code: FoodCode | None = None
    date_style: DateStyle = "day_first"
    decimal_sign: DecimalSign = "point"
    shown_units: ShownUnits = "metric"
    altitude_m: Altitude = ZERO
    room_c: RoomCelsius = Decimal(25)
    relative_humidity: Share = Decimal("0.5")
    air_speed: AirSpeed = Decimal("0.1")
    salt_target: PositiveShare = Decimal("0.007")
    lid_factors: LidFactors = LIDS_AS_USUAL
    price_horizon_days: Minutes = Decimal(30)
    overhead: Overhead | None = None
    pricings: tuple[Pricing, ...] = ()
    channels: tuple[Channel, ...] = ()
    fixed_cost_per_week: Rate | None = None
    open_days_per_week: OpenDays = Decimal(5)
    time_zone: TimeZone = "UTC"

    def __post_init__(self) -> None:
        if self.serving_loss >= 1:
            raise OutOfRange("a serving loss", self.serving_loss, "less than 1")
        if self.salt_target >= 1:
            raise OutOfRange("a target for salt", self.salt_target, "less than 1")
        if self.overhead is not None and self.overhead_rate_per_hour is not None:
            english = 'overhead is told in one way: leave "overhead_rate_per_hour" out beside "overhead"'
            raise BadDocument("overhead", say("overhead_twice", english))
        refuse_methods_twice(self.pricings)
        refuse_twice("channel", (channel.id for channel in self.channels))
        for channel in self.channels:
            channel.refuse_eaten(self.tax_rate)

    @property
    def overhead_told(self) -> Overhead | None:
        """How overhead is laid on portions; None where the kitchen does not say."""
        rate = self.overhead_rate_per_hour
        return self.overhead if rate is None else Overhead(per_attended_hour=rate)

    def channel(self, channel_id: str | None) -> Channel | None:
        """A channel by its id; None for the kitchen's own, and for one there is not."""
        return next((channel for channel in self.channels if channel.id == channel_id), None)


DEFAULTS = Settings()

# What is said of a kitchen without a cost, price or portion of it being another.
_SHOWN = frozenset({"allergen_list", "food_code", "date_style", "decimal_sign", "shown_units", "fixed_cost_per_week",
                    "open_days_per_week", "price_horizon_days", "time_zone"})  # fmt: skip


def only_shown_otherwise(before: Settings, after: Settings) -> bool:
    """Whether two settings differ in nothing that a pot's cost, portions or prices hang on."""
    return all(getattr(before, one.name) == getattr(after, one.name) for one in fields(Settings) if one.name not in _SHOWN)
