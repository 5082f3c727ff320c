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
from dataclasses import replace
from decimal import Decimal

from potrel.core.errors import Lack
from potrel.core.frozen import dataclass
from potrel.core.kitchen.items import Byproduct, ByproductMethod, Preparation
from potrel.core.kitchen.kinds import ONE, ZERO
from potrel.core.numbers.arithmetic import Convert, Number, product, same, surely, total
from potrel.core.numbers.formula import Many, formula
from potrel.core.sentences import say

METHODS: tuple[ByproductMethod, ...] = ("credit", "main_bears_all", "market_value", "mass")
# Those by which a joint cost is shared with the by-products.
SHARING: tuple[ByproductMethod, ...] = ("market_value", "mass")


@formula("kilos * value of a kilo")
def worth(kilos: Number, value_of_a_kilo: Number) -> Number:
    """What something left over is worth [money]; below zero where its disposal is paid."""
    return kilos * value_of_a_kilo


@formula("AP * product of yields before * share that falls off * product of shares borne")
def falls_off(AP: Number, yields_before: Many, share_that_falls_off: Number, shares_borne: Many) -> Number:
    """The mass of what falls off at one preparation; of paid disposal, the part that the main product bears."""
    return product(yields_before, product(shares_borne, AP)) * share_that_falls_off


@formula("weight of the main product / (weight of the main product + sum of weights of by-products)")
def share_borne(weight_of_the_main_product: Number, weights_of_by__products: Many) -> Number:
    """The share of a joint cost that the main product bears; a weight is its mass, or mass * value."""
    return weight_of_the_main_product / (weight_of_the_main_product + total(weights_of_by__products))


@dataclass(frozen=True, slots=True)
class Step:
    """A preparation with the numbers of the engine: its yield, and the shares of what falls off at it, in their order."""

    preparation: Preparation
    yield_: Number
    shares: tuple[Number, ...]

    def parts(self) -> zip[tuple[Byproduct, Number]]:
        """What falls off, each with its share."""
        return zip(self.preparation.byproducts, self.shares, strict=True)


def stated(preparation: Preparation, yield_: Decimal | None = None) -> Step:
    """A preparation as it is stated, for plain decimals; at another yield where one is given."""
    shares = tuple(part.share for part in preparation.byproducts)
    return Step(preparation, preparation.yield_ if yield_ is None else yield_, shares)


@dataclass(frozen=True, slots=True)
class Credit:
    """A by-product taken off a cost: its mass [g], value [money/kg] and worth [money]; below zero where disposal is paid."""

    name: str
    mass: Number
    value_per_kg: Decimal
    worth: Number
    use: str | None

    def times(self, factor: Number) -> Credit:
        """So much of it."""
        return replace(self, mass=self.mass * factor, worth=self.worth * factor)


def credit(name: str, mass: Number, value_per_kg: Decimal, use: str | None, number: Convert = same) -> Credit:
    """A credit for a mass [g] at a value [money/kg]."""
    return Credit(name, mass, value_per_kg, worth(mass / 1000, number(value_per_kg)), use)


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
    whole = total(weights)
    if surely(whole == 0):
        # Nothing is known to weigh anything yet: nothing is shared.
        return [number(ONE), *(number(ZERO) for _ in others)]
    return [weight / whole for weight in weights]


@dataclass(frozen=True, slots=True)
class Off:
    """What falls off at a preparation: its mass [g], and the share of the purchase's cost and the disposal it carries."""

    step: Preparation
    name: str
    value_per_kg: Decimal
    mass: Number
    share: Number
    paid: tuple[Credit, ...] = ()


@dataclass(frozen=True, slots=True)
class Trimmed:
    """A purchase after its preparations: the share of its cost that the usable part bears, what is credited, what fell off.

    `lack` says which value is missing to share the cost; `share` is 0 then.
    """

    share: Number
    credits: tuple[Credit, ...] = ()
    offs: tuple[Off, ...] = ()
    lack: Lack | None = None

    @property
    def shares_cost(self) -> bool:
        """Whether what fell off bears a part of the cost (or would, were all values known)."""
        return self.lack is not None or any(surely(off.share != 0) for off in self.offs)

    @property
    def credit(self) -> Number:
        """What is credited in all [money], paid disposal taken off."""
        return total(one.worth for one in self.credits)

    def cost(self, paid: Number) -> Number:
        """What the usable part bears [money] of what was paid for the whole."""
        return paid * self.share - self.credit


def trimmed(ap: Number, steps: Sequence[Step], method: ByproductMethod, number: Convert = same) -> Trimmed:
    """Carry the cost of a purchased mass [g] through its preparations, each one's by-products shares of what the last left."""
    done, mass = Trimmed(number(ONE)), ap
    for step in steps:
        left = mass * step.yield_
        if step.shares:
            done = _cut(done, mass, left, step, method, number)
        mass = left
    return done


def _cut(done: Trimmed, mass: Number, left: Number, step: Step, method: ByproductMethod, number: Convert) -> Trimmed:
    """Take off what falls off at one preparation, of a mass [g] of which so much [g] is left."""
    made = list(done.credits)
    worth_something: list[tuple[Byproduct, Number]] = []
    for part, share in step.parts():
        off = mass * share
        counted = part.value_per_kg if method == "credit" or part.value_per_kg < 0 else ZERO
        made.append(credit(part.name, off, counted, part.use, number))
        if part.value_per_kg > 0:
            worth_something.append((part, off))
    others = [(off, part.value_per_kg) for part, off in worth_something]
    shares, lack = borne_shares(method, (left, step.preparation.value_per_kg), others, number), done.lack
    if shares is None:
        english = 'what a kilo of "{preparation}" is worth, to share the cost by market value'
        lack = Lack(say("value_of_a_kilo", english, preparation=step.preparation.name))
        shares = [number(ZERO)] * (len(others) + 1)
    shared = bool(others) and method in SHARING
    paid = [one for one in made if one.value_per_kg < 0] if shared else []
    offs = tuple(
        Off(step.preparation, part.name, part.value_per_kg, off, done.share * share, tuple(one.times(share) for one in paid))
        for (part, off), share in zip(worth_something, shares[1:], strict=True)
    )
    if not shared:
        return Trimmed(done.share, tuple(made), done.offs + offs, lack)
    kept = tuple(one.times(shares[0]) if one.value_per_kg < 0 else one for one in made)
    return Trimmed(done.share * shares[0], kept, done.offs + offs, lack)
