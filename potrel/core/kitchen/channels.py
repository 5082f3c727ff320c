"""Channels: the ways in which portions are sold (here, taken away, delivered, to staff), with their tax and commission."""

from __future__ import annotations

from datetime import date
from decimal import Decimal
from typing import Literal, NamedTuple

from potrel.core.errors import BadDocument, OutOfRange
from potrel.core.frozen import dataclass
from potrel.core.kitchen.keyed import Keyed
from potrel.core.kitchen.kinds import ZERO, Id, Money, Name, On, Rate, Share
from potrel.core.kitchen.lines import Line
from potrel.core.kitchen.pricing import PriceEnding
from potrel.core.sentences import say

CommissionOf = Literal["net", "gross"]


@dataclass(frozen=True, slots=True)
class Channel(Keyed):
    """A way of selling. Without a tax rate or a price ending of its own it has the kitchen's; an ending of None leaves prices.

    The `commission` is a share of the price net of tax, or of the gross price on the card; `packaging` comes to that of the
    serving. Of a staff meal, or one that somebody stands in for, the house adds the `subsidy` [money, net] to what the guest
    pays. The `deposit` [money] for a cup is asked beside the price and given back: it is no part of any figure.
    """

    id: Id
    name: Name
    tax_rate: Share | None = None
    commission: Share = ZERO
    commission_of: CommissionOf | None = None
    packaging: tuple[Line, ...] = ()
    price_ending: PriceEnding | Literal["kitchen"] | None = "kitchen"
    subsidy: Rate = ZERO
    deposit: Money | None = None

    def __post_init__(self) -> None:
        if self.commission >= 1:
            raise OutOfRange("a commission", self.commission, "less than 1")
        if self.commission > 0 and self.commission_of is None:
            english = 'what is the commission of "{name}" taken of? Say "net" or "gross" (most take it of the gross price)'
            raise BadDocument("commission_of", say("commission_of_what", english, name=self.name))
        for line in self.packaging:
            if line.recipe is not None:
                english = 'the packaging of "{name}" is something bought, not a recipe'
                raise BadDocument("packaging", say("packaging_is_bought", english, name=self.name))

    def refuse_eaten(self, kitchens_rate: Decimal) -> None:
        """BadDocument where a commission of the gross price leaves nothing of any price."""
        tax = kitchens_rate if self.tax_rate is None else self.tax_rate
        if self.commission_of == "gross" and self.commission * (1 + tax) >= 1:
            english = (
                'a commission of {commission} of the gross price leaves nothing of what is sold by "{name}": with a tax of'
                " {tax} it has to be less than {most}"
            )
            most = f"{1 / (1 + tax):.4f}"
            said = say("commission_eats_it", english, commission=self.commission, name=self.name, tax=tax, most=most)
            raise BadDocument("commission", said)


@dataclass(frozen=True, slots=True)
class ComingPrice(Keyed):
    """A price on the card [money] that holds from a day."""

    price: Money
    on: On


class SetPrice(NamedTuple):
    """A price that somebody set [money], and the day from which it holds; None where that was not noted, or none is set."""

    price: Decimal | None
    on: date | None


UNSET = SetPrice(None, None)


@dataclass(frozen=True, slots=True)
class PriceState(Keyed):
    """How the price of a serving in a channel stands: the set one with its day, and one that is coming."""

    price: Money | None = None
    price_set_on: On | None = None
    coming: ComingPrice | None = None

    def coming_after(self, day: date) -> ComingPrice | None:
        """The price that will hold after a day; None where none is set."""
        return None if self.coming is None or self.coming.on <= day else self.coming

    def in_force(self, day: date) -> SetPrice:
        """The price that is set and in force on a day: one that came by then, where none was set since."""
        came = self.coming
        if came is None or came.on > day or (self.price_set_on is not None and self.price_set_on >= came.on):
            return SetPrice(self.price, self.price_set_on)
        return SetPrice(came.price, came.on)

    def settled(self, day: date) -> PriceState:
        """The same, with a price that came by a day as the one that is set."""
        return PriceState(*self.in_force(day), self.coming_after(day))


NO_PRICE = PriceState()


@dataclass(frozen=True, slots=True)
class ChannelPrice(Keyed):
    """The price of a serving in a channel: the set one with its day, and one that is coming; without either, the computed."""

    channel: Id
    price: Money | None = None
    price_set_on: On | None = None
    coming: ComingPrice | None = None

    def __post_init__(self) -> None:
        refuse_date_alone(self.price, self.price_set_on)


def refuse_date_alone(price: Decimal | None, price_set_on: object) -> None:
    """BadDocument where a day is given for a price that is none."""
    if price_set_on is not None and price is None:
        message = say("date_without_price", 'a date without a price: give the "price" that was set that day')
        raise BadDocument("price_set_on", message)
