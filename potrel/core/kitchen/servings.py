"""Servings: the sizes in which a recipe is sold, what is added to each portion, and how it is priced."""

from __future__ import annotations

from collections.abc import Iterator
from decimal import Decimal
from typing import Annotated, ClassVar, Literal

from potrel.core.errors import BadDocument, OutOfRange
from potrel.core.frozen import dataclass
from potrel.core.kitchen.keyed import Keyed
from potrel.core.kitchen.kinds import (
    ZERO,
    Amount,
    Bulk,
    Id,
    Minutes,
    Money,
    Name,
    On,
    Positive,
    PositiveShare,
    Rate,
    Share,
)
from potrel.core.kitchen.lines import Line
from potrel.core.sentences import say

PricingMethod = Literal["food_cost_share", "factor", "contribution", "prime_cost_share", "full_cost"]
HoldLid = Literal["off", "ajar", "on"]
HoldHours = Annotated[Decimal, Amount("hours of holding", low=ZERO, high=Decimal(24))]
HoldCelsius = Annotated[Decimal, Amount("a temperature of holding", low=Decimal(55), high=Decimal(98))]


@dataclass(frozen=True, slots=True)
class Pricing(Keyed):
    """How a selling price follows from cost."""

    method: PricingMethod
    share: PositiveShare | None = None
    factor: Positive | None = None
    amount: Rate | None = None
    overhead_share: Share | None = None
    profit_share: Share | None = None

    _takes: ClassVar[dict[str, frozenset[str]]] = {
        "food_cost_share": frozenset({"share"}),
        "prime_cost_share": frozenset({"share"}),
        "factor": frozenset({"factor"}),
        "contribution": frozenset({"amount"}),
        "full_cost": frozenset({"overhead_share", "profit_share"}),
    }

    def __post_init__(self) -> None:
        names = ("share", "factor", "amount", "overhead_share", "profit_share")
        given = {name for name in names if getattr(self, name) is not None}
        wanted = self._takes[self.method]
        if given != wanted:
            english = 'pricing by "{method}" takes {wanted}'
            raise BadDocument("", say("pricing_takes", english, method=self.method, wanted=" and ".join(sorted(wanted))))
        if self.overhead_share is not None and self.profit_share is not None:
            together = self.overhead_share + self.profit_share
            if together >= 1:
                raise OutOfRange("overhead and profit share together", together, "less than 1")


@dataclass(frozen=True, slots=True)
class Serving(Keyed):
    """One size in which a recipe is sold, with what is added to each portion and how it is priced.

    It may stand hot for `hold_hours` in a `hold_vessel` under a `hold_lid`, at `hold_c` [C], while it is served.
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

    def __post_init__(self) -> None:
        if self.commission >= 1:
            raise OutOfRange("a commission", self.commission, "less than 1")
        if self.price_set_on is not None and self.price is None:
            message = say("date_without_price", 'a date without a price: give the "price" that was set that day')
            raise BadDocument("price_set_on", message)

    @property
    def extras(self) -> Iterator[tuple[str, Line]]:
        """Each line that is costed per portion, with what it is there for."""
        for line in self.garnish:
            yield "garnish", line
        for line in self.accompaniments:
            yield "accompaniments", line
        for line in self.packaging:
            yield "packaging", line
