"""How prices are made: the schools by which they follow from cost, how they end, and what overhead is reckoned on."""

from __future__ import annotations

from typing import ClassVar, Literal

from potrel.core.errors import BadDocument, OutOfRange
from potrel.core.frozen import dataclass
from potrel.core.kitchen.keyed import Keyed
from potrel.core.kitchen.kinds import Positive, PositiveShare, Rate, Share
from potrel.core.sentences import say

PricingMethod = Literal["food_cost_share", "factor", "contribution", "prime_cost_share", "full_cost"]
PRICING_METHODS: tuple[PricingMethod, ...] = ("food_cost_share", "factor", "contribution", "prime_cost_share", "full_cost")


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
class PriceEnding(Keyed):
    """How a price is rounded up: to the next multiple of `step`, or to the next price ending in one of `cents`."""

    step: Positive | None = None
    cents: tuple[Share, ...] | None = None

    def __post_init__(self) -> None:
        if (self.step is None) == (not self.cents):
            raise BadDocument("", say("step_or_cents", 'a price ending takes either "step" or "cents"'))
        if any(cent >= 1 for cent in self.cents or ()):
            english = 'the "cents" of a price ending are parts of one, such as "0.90"'
            raise BadDocument("", say("cents_of_one", english))


@dataclass(frozen=True, slots=True)
class Overhead(Keyed):
    """What else the house costs, laid on a portion in one of three ways: by its attended time [money/h], the same for each
    [money], or as a share of what is taken for it, net of tax.
    """

    per_attended_hour: Rate | None = None
    per_portion: Rate | None = None
    share_of_sales: Share | None = None

    def __post_init__(self) -> None:
        given = [one for one in (self.per_attended_hour, self.per_portion, self.share_of_sales) if one is not None]
        if len(given) != 1:
            english = 'overhead is told in one way: "per_attended_hour", "per_portion" or "share_of_sales"'
            raise BadDocument("", say("overhead_one_way", english))
        if self.share_of_sales is not None and self.share_of_sales >= 1:
            raise OutOfRange("overhead as a share of sales", self.share_of_sales, "less than 1")


def refuse_methods_twice(pricings: tuple[Pricing, ...]) -> None:
    """BadDocument where one method is given two sets of terms."""
    methods = [pricing.method for pricing in pricings]
    for method in methods:
        if methods.count(method) > 1:
            english = 'the method "{method}" is there twice: keep one of its terms'
            raise BadDocument("pricings", say("pricing_twice", english, method=method))
