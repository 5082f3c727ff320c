"""What main product and by-products bear of a cost: the four methods, alike for trims, take-outs and tests.

| method | what a by-product bears | what the main product bears |
|---|---|---|
| credit | its value | the rest |
| main_bears_all | nothing | all |
| market_value | the joint cost by mass * value | the same |
| mass | the joint cost by mass | the same |

A by-product is what has a value above zero; the rest is waste, and takes no part. Where its disposal is paid (a value
below zero), that is a cost by every method, and part of the joint cost where one is shared.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from decimal import Decimal

from potrel.core.arithmetic import Convert, Number, same, surely
from potrel.core.fields import ONE, ZERO
from potrel.core.kitchen import ByproductMethod, Preparation

METHODS: tuple[ByproductMethod, ...] = ("credit", "main_bears_all", "market_value", "mass")
# Those by which a joint cost is shared with the by-products.
SHARING: tuple[ByproductMethod, ...] = ("market_value", "mass")


@dataclass(slots=True)
class Credit:
    """A by-product taken off a cost: so much [g] at a value [money/kg], below zero where disposal is paid."""

    name: str
    mass: Number
    value_per_kg: Decimal
    use: str | None

    @property
    def worth(self) -> Decimal:
        """What it takes off [money]; below zero where disposal is paid."""
        return self.mass * self.value_per_kg / 1000

    def times(self, factor: Number) -> Credit:
        """So much of it."""
        return Credit(self.name, self.mass * factor, self.value_per_kg, self.use)


def borne_shares(
    method: ByproductMethod,
    main: tuple[Number, Decimal | None],
    others: Sequence[tuple[Number, Decimal]],
    number: Convert = same,
) -> list[Number] | None:
    """The share of the joint cost that the main product bears, and that of each by-product; they add up to 1.

    Each product is its mass [g] and value [money/kg]. Where nothing is shared the main product bears all of it.
    None where sharing by market value needs the main product's value, and there is none.
    """
    if not others or method not in SHARING:
        return [number(ONE), *(number(ZERO) for _ in others)]
    mass, value = main
    if method == "market_value":
        if value is None:
            return None
        weights = [mass * number(value), *(mass * number(worth) for mass, worth in others)]
    else:
        weights = [mass, *(mass for mass, _ in others)]
    total = sum(weights[1:], weights[0])
    if surely(total == 0):
        # Nothing is known to weigh anything yet: nothing is shared.
        return [number(ONE), *(number(ZERO) for _ in others)]
    return [weight / total for weight in weights]


@dataclass(slots=True)
class Off:
    """What falls off at a preparation: its mass [g], and the share of the purchase's cost and the disposal it carries."""

    step: Preparation
    name: str
    value_per_kg: Decimal
    mass: Number
    share: Number
    paid: list[Credit] = field(default_factory=list)


@dataclass(slots=True)
class Trimmed:
    """A purchase after its preparations: the share of its cost that the usable part bears, what is credited, what fell off.

    `lack` says which value is missing to share the cost; `share` is 0 then.
    """

    share: Number
    credits: list[Credit]
    offs: list[Off]
    lack: str | None = None

    @property
    def credit(self) -> Decimal:
        """What is credited in all [money], paid disposal taken off."""
        return sum((one.worth for one in self.credits), ZERO)

    def cost(self, paid: Decimal) -> Decimal:
        """What the usable part bears [money] of what was paid for the whole."""
        return paid * self.share - self.credit


def trimmed(ap: Number, steps: Sequence[Preparation], method: ByproductMethod, number: Convert = same) -> Trimmed:
    """Carry the cost of a purchased mass [g] through its preparations, each one's by-products shares of what the last left."""
    done = Trimmed(number(ONE), [], [])
    mass = ap
    for step in steps:
        left = mass * number(step.yield_)
        for part in step.byproducts:
            counted = part.value_per_kg if method == "credit" or part.value_per_kg < 0 else ZERO
            done.credits.append(Credit(part.name, mass * number(part.share), counted, part.use))
        worth = [part for part in step.byproducts if part.value_per_kg > 0]
        others = [(mass * number(part.share), part.value_per_kg) for part in worth]
        shares = borne_shares(method, (left, step.value_per_kg), others, number)
        if shares is None:
            done.lack = f'what a kilo of "{step.name}" is worth, to share the cost by market value'
            shares = [number(ZERO)] * (len(others) + 1)
        paid = [credit for credit in done.credits if credit.value_per_kg < 0]
        shared = bool(others) and method in SHARING
        for part, (off, _), share in zip(worth, others, shares[1:], strict=True):
            carried = [credit.times(share) for credit in paid] if shared else []
            done.offs.append(Off(step, part.name, part.value_per_kg, off, done.share * share, carried))
        if shared:
            done.share = done.share * shares[0]
            done.credits = [credit.times(shares[0]) if credit.value_per_kg < 0 else credit for credit in done.credits]
        mass = left
    return done
