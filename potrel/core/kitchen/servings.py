"""Servings: the sizes in which a recipe is sold, what is added to each portion, and how it is priced."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace
from datetime import date
from decimal import Decimal
from typing import Annotated, Literal

from potrel.core.errors import OutOfRange
from potrel.core.frozen import dataclass
from potrel.core.kitchen.channels import NO_PRICE, ChannelPrice, ComingPrice, PriceState, SetPrice, refuse_date_alone
from potrel.core.kitchen.checks import refuse_twice
from potrel.core.kitchen.keyed import Keyed
from potrel.core.kitchen.kinds import ZERO, Amount, Bulk, Id, Minutes, Money, Name, On, Share
from potrel.core.kitchen.lines import Line
from potrel.core.kitchen.pricing import Pricing

HoldLid = Literal["off", "ajar", "on"]
HoldHours = Annotated[Decimal, Amount("hours of holding", low=ZERO, high=Decimal(24))]
HoldCelsius = Annotated[Decimal, Amount("a temperature of holding", low=Decimal(55), high=Decimal(98))]


@dataclass(frozen=True, slots=True)
class Serving(Keyed):
    """One size in which a recipe is sold, with what is added to each portion and how it is priced.

    It may stand hot for `hold_hours` in a `hold_vessel` under a `hold_lid`, at `hold_c` [C], while it is served. Its own price
    is that of the kitchen's own channel; in the other `channels` it may have others. `add_ons` are what a guest may have with
    it for a surcharge: no part of what the serving costs.
    """

    id: Id
    name: Name
    size: Bulk
    garnish: tuple[Line, ...] = ()
    accompaniments: tuple[Line, ...] = ()
    packaging: tuple[Line, ...] = ()
    portioning_seconds: Minutes = ZERO
    pricing: Pricing | None = None
    commission: Share = ZERO
    price: Money | None = None
    price_set_on: On | None = None
    hold_hours: HoldHours | None = None
    hold_vessel: Id | None = None
    hold_lid: HoldLid | None = None
    hold_c: HoldCelsius = Decimal(75)
    coming: ComingPrice | None = None
    channels: tuple[ChannelPrice, ...] = ()
    add_ons: tuple[Line, ...] = ()

    def __post_init__(self) -> None:
        if self.commission >= 1:
            raise OutOfRange("a commission", self.commission, "less than 1")
        refuse_date_alone(self.price, self.price_set_on)
        refuse_twice("channel", (one.channel for one in self.channels))

    def set_price(self, day: date, channel: str | None = None) -> SetPrice:
        """The price that is set in a channel (None: the kitchen's own) and in force on a day."""
        return self.state(channel).in_force(day)

    def coming_price(self, day: date, channel: str | None = None) -> ComingPrice | None:
        """The price that will hold in a channel after a day; None where none is set."""
        return self.state(channel).coming_after(day)

    def settled(self, day: date) -> Serving:
        """The same, with each price that came by a day as the one that is set."""
        made = self
        for channel in (None, *(one.channel for one in self.channels)):
            state = self.state(channel)
            if state.coming is not None and state.coming.on <= day:
                made = made.with_state(channel, state.settled(day))
        return made

    def state(self, channel: str | None = None) -> PriceState:
        """How its price in a channel stands."""
        own = self if channel is None else next((one for one in self.channels if one.channel == channel), None)
        return NO_PRICE if own is None else PriceState(own.price, own.price_set_on, own.coming)

    def with_state(self, channel: str | None, state: PriceState) -> Serving:
        """The same with another price in a channel; it is sold there from then on."""
        if channel is None:
            return replace(self, price=state.price, price_set_on=state.price_set_on, coming=state.coming)
        one = ChannelPrice(channel, state.price, state.price_set_on, state.coming)
        known = any(each.channel == channel for each in self.channels)
        others = tuple(one if each.channel == channel else each for each in self.channels)
        return replace(self, channels=others if known else (*self.channels, one))

    def sold_in(self, channels: Sequence[str]) -> Serving:
        """The same, sold in these channels beside the kitchen's own; those that it was sold in keep their prices."""
        known = {each.channel: each for each in self.channels}
        return replace(self, channels=tuple(known.get(channel, ChannelPrice(channel)) for channel in channels))

    @property
    def extras(self) -> Iterator[tuple[str, Line]]:
        """Each line that is costed per portion, with what it is there for."""
        for line in self.garnish:
            yield "garnish", line
        for line in self.accompaniments:
            yield "accompaniments", line
        for line in self.packaging:
            yield "packaging", line

    @property
    def lines(self) -> Iterator[Line]:
        """Every line that goes with a portion: what belongs to it, and what a guest may have with it."""
        for _, line in self.extras:
            yield line
        yield from self.add_ons
