"""Needs: a recipe exploded into the AP mass of every purchased item and the mass of every credited by-product.

For given recipes and yields cost is linear in the prices: cost = sum(need * price) - sum(credit mass * value). So a
change of price reaches every recipe by one multiplication, and a drift splits into the purchases that caused it.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from decimal import Decimal
from typing import NamedTuple, TypeVar

from potrel.core.arithmetic import Convert, Number, same, surely
from potrel.core.balance import Balance, LineMass, StageMass, TakenOut
from potrel.core.byproducts import SHARING, borne_shares
from potrel.core.fields import ONE, ZERO
from potrel.core.kitchen import ByproductMethod

K = TypeVar("K")


def _add(to: dict[K, Number], key: K, mass: Number) -> None:
    have = to.get(key)
    to[key] = mass if have is None else have + mass


@dataclass(frozen=True, slots=True)
class CreditKey:
    """A credited by-product: the item or recipe it falls off, its name, and its value [money/kg]."""

    of: str
    name: str
    value_per_kg: Decimal


@dataclass(slots=True)
class Needs:
    """What one batch takes: AP masses [g] by item, credited masses [g], attended minutes and energy [kWh].

    `carried` are the AP masses whose cost by-products bear, where one is shared with them; `left_of` are the items of which
    only what is left over elsewhere goes in.
    """

    number: Convert = same
    items: dict[str, Number] = field(default_factory=dict)
    carried: dict[str, Number] = field(default_factory=dict)
    left_of: set[str] = field(default_factory=set)
    credits: dict[CreditKey, Number] = field(default_factory=dict)
    minutes: Number = field(init=False)
    energy: Number = field(init=False)

    def __post_init__(self) -> None:
        self.minutes = self.energy = self.number(ZERO)

    def add(self, part: Needs, factor: Number) -> None:
        """Take in `factor` times another's needs."""
        items = self.items
        for item, mass in part.items.items():
            have = items.get(item)
            items[item] = mass * factor if have is None else have + mass * factor
        for item, mass in part.carried.items():
            _add(self.carried, item, mass * factor)
        for key, mass in part.credits.items():
            _add(self.credits, key, mass * factor)
        self.left_of |= part.left_of
        self.minutes += part.minutes * factor
        self.energy += part.energy * factor

    def add_line(self, line: LineMass, sub: Callable[[str, str | None], TakenNeeds]) -> None:
        """Take in a line; `sub` gives the needs and mass [g] of a recipe, or of what is taken out of it."""
        if line.recipe is not None:
            needs, mass = sub(line.recipe, line.byproduct)
            # Of a batch of unknown mass nothing is counted, but what is in it stays named: its allergens matter.
            self.add(needs, line.ep / mass if mass > 0 else self.number(ZERO))
            return
        item = line.item or ""
        if line.byproduct is None:
            _add(self.items, item, line.ap)
        else:
            self.left_of.add(item)
        if line.carried is not None:
            _add(self.carried, item, line.carried)
        for credit in line.credits:
            if credit.value_per_kg:
                _add(self.credits, CreditKey(item, credit.name, credit.value_per_kg), credit.mass)

    def add_time(self, here: StageMass) -> None:
        """Take in a stage's own time and energy."""
        self.minutes += self.number(here.stage.attended_minutes)
        if here.stage.energy_kwh is not None:
            self.energy += self.number(here.stage.energy_kwh)

    def keep(self, share: Number) -> None:
        """Bear only a share of the cost: the rest is carried by what was taken out. What is to buy stays."""
        for item, mass in self.borne.items():
            _add(self.carried, item, mass * (self.number(ONE) - share))
        self.credits = {key: mass * share for key, mass in self.credits.items()}

    def part(self, share: Number) -> Needs:
        """A by-product that bears a share of this cost: nothing of it is bought, but what it comes from stays named."""
        part = Needs(self.number)
        part.left_of = self.named
        if surely(share != 0):
            part.carried = {item: -mass * share for item, mass in self.borne.items()}
            part.credits = {key: mass * share for key, mass in self.credits.items()}
        return part

    @property
    def borne(self) -> Mapping[str, Number]:
        """The AP masses [g] whose price this bears: all that is bought, but for what by-products carry."""
        if not self.carried:
            return self.items
        zero = self.number(ZERO)
        every = dict.fromkeys([*self.items, *self.carried])
        return {item: self.items.get(item, zero) - self.carried.get(item, zero) for item in every}

    @property
    def named(self) -> set[str]:
        """The items of which anything goes in, bought for it or left over elsewhere: their allergens matter."""
        return self.left_of | self.items.keys()

    def credit_value(self) -> Number:
        """The value [money] of all credited masses; paid disposal counts against it."""
        total = self.number(ZERO)
        for key, mass in self.credits.items():
            total += mass * self.number(key.value_per_kg) / 1000
        return total

    def cost(self, per_gram: Callable[[str], Decimal | None]) -> Number:
        """What the needs cost [money] at prices per gram, credits taken off. An item without a price counts nothing."""
        total = -self.credit_value()
        for item, mass in self.borne.items():
            price = per_gram(item)
            if price is not None:
                total += mass * price
        return total


class TakenNeeds(NamedTuple):
    """What a recipe's batch, or what is taken out of it, bears, and its mass [g]."""

    needs: Needs
    mass: Number


# Gives a recipe's needs and batch mass, or those of what is taken out of it by a name.
Sub = Callable[[str, str | None], TakenNeeds]


def stage_shares(here: StageMass, method: ByproductMethod, number: Convert = same) -> list[Number] | None:
    """The share of a stage's cost that goes on, and that of each of its by-products (`valued`); None where not known."""
    others = [(taken.mass, taken.take_out.value_per_kg) for taken in valued(here)]
    return borne_shares(method, (here.mass_out, here.stage.value_per_kg), others, number)


def valued(here: StageMass) -> list[TakenOut]:
    """What is taken out of a stage that is worth something."""
    return [taken for taken in here.taken_out if taken.take_out.value_per_kg > 0]


def needs_of(balance: Balance, sub: Sub, method: ByproductMethod, number: Convert = same) -> Needs:
    """The needs of one batch, given its mass balance, and the needs and masses [g] of the recipes it uses.

    `sub` gives a mass of 0 for a recipe whose batch yield is not known.
    """
    if method in SHARING and any(valued(here) for here in balance.stages):
        return flow_of(balance, sub, method, number)[0]
    # Where no cost is shared, it does not matter by which way it reaches the batch.
    needs = Needs(number)
    for line in balance.lines:
        needs.add_line(line, sub)
    for here in balance.stages:
        needs.add_time(here)
        _credit(needs, here, method, balance.recipe.id)
    return needs


def _credit(needs: Needs, here: StageMass, method: ByproductMethod, recipe_id: str) -> None:
    for taken in here.taken_out:
        value = taken.take_out.value_per_kg
        if value < 0 or (value > 0 and method == "credit"):
            _add(needs.credits, CreditKey(recipe_id, taken.take_out.name, value), taken.mass)


def flow_of(balance: Balance, sub: Sub, method: ByproductMethod, number: Convert = same) -> tuple[Needs, dict[str, TakenNeeds]]:
    """The needs of one batch, stage by stage, and by name those of what is taken out of it, with its mass [g].

    The cost of a share that no stage takes stays with the batch.
    """
    passed: dict[str, Needs] = {}
    out: dict[str, TakenNeeds] = {}
    for here in balance.stages:
        needs = passed[here.stage.id] = Needs(number)
        for line in balance.lines:
            if line.stage == here.stage.id:
                needs.add_line(line, sub)
        for inflow in here.stage.from_:
            needs.add(passed[inflow.stage], number(inflow.share))
        needs.add_time(here)
        _take_out(needs, here, method, balance.recipe.id, out)
    whole = Needs(number)
    for here in balance.stages:
        if here is balance.stages[-1]:
            whole.add(passed[here.stage.id], number(ONE))
        elif here.left_over:
            whole.add(passed[here.stage.id], number(here.left_over))
    return whole, out


def _take_out(needs: Needs, here: StageMass, method: ByproductMethod, recipe_id: str, out: dict[str, TakenNeeds]) -> None:
    """Take a stage's by-products off its needs, and note in `out` what each bears."""
    number = needs.number
    # What disposal costs comes first: it is part of a joint cost.
    _credit(needs, here, method, recipe_id)
    shares = stage_shares(here, method, number) or [number(ZERO)] * (1 + len(valued(here)))
    share_of = {id(taken): share for taken, share in zip(valued(here), shares[1:], strict=True)}
    for taken in here.taken_out:
        name, value = taken.take_out.name, taken.take_out.value_per_kg
        part = needs.part(share_of.get(id(taken), number(ZERO)))
        if value < 0 or method == "credit":
            part.credits = {CreditKey(recipe_id, name, value): -taken.mass} if value else {}
        if name in out:
            part.add(out[name].needs, number(ONE))
            out[name] = TakenNeeds(part, out[name].mass + taken.mass)
        else:
            out[name] = TakenNeeds(part, taken.mass)
    if surely(shares[0] != 1):
        needs.keep(shares[0])
