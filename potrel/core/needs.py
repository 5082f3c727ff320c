"""Needs: a recipe exploded into the AP mass of every purchased item and the mass of every credited by-product.

For given recipes and yields cost is linear in the prices: cost = sum(need * price) - sum(credit mass * value). So a
change of price reaches every recipe by one multiplication, and a drift splits into the purchases that caused it.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from decimal import Decimal

from potrel.core.arithmetic import Convert, Number, same
from potrel.core.balance import Balance, LineMass, StageMass
from potrel.core.fields import ZERO


@dataclass(frozen=True, slots=True)
class CreditKey:
    """A credited by-product: the item or recipe it falls off, its name, and its value [money/kg]."""

    of: str
    name: str
    value_per_kg: Decimal


@dataclass(slots=True)
class Needs:
    """What one batch takes: AP masses [g] by item, credited masses [g], attended minutes and energy [kWh]."""

    number: Convert = same
    items: dict[str, Number] = field(default_factory=dict)
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
        for key, mass in part.credits.items():
            self._credit(key, mass * factor)
        self.minutes += part.minutes * factor
        self.energy += part.energy * factor

    def add_line(self, line: LineMass, sub: Callable[[str], tuple[Needs, Number]]) -> None:
        """Take in a line; `sub` gives a recipe's needs and batch mass [g]."""
        if line.recipe is not None:
            needs, mass = sub(line.recipe)
            # Of a batch of unknown mass nothing is counted, but what is in it stays named: its allergens matter.
            self.add(needs, line.ap / mass if mass > 0 else self.number(ZERO))
            return
        item = line.item or ""
        have = self.items.get(item)
        self.items[item] = line.ap if have is None else have + line.ap
        for credit in line.credits:
            if credit.value_per_kg:
                self._credit(CreditKey(item, credit.name, credit.value_per_kg), credit.mass)

    def add_stage(self, here: StageMass, recipe_id: str, credits_count: bool) -> None:
        """Take in a stage's own time and energy, and its credited take-outs."""
        self.minutes += self.number(here.stage.attended_minutes)
        if here.stage.energy_kwh is not None:
            self.energy += self.number(here.stage.energy_kwh)
        for taken in here.taken_out:
            value = taken.take_out.value_per_kg
            if credits_count and value:
                self._credit(CreditKey(recipe_id, taken.take_out.name, value), taken.mass)

    def _credit(self, key: CreditKey, mass: Number) -> None:
        have = self.credits.get(key)
        self.credits[key] = mass if have is None else have + mass

    def credit_value(self) -> Number:
        """The value [money] of all credited masses; paid disposal counts against it."""
        total = self.number(ZERO)
        for key, mass in self.credits.items():
            total += mass * self.number(key.value_per_kg) / 1000
        return total

    def cost(self, per_gram: Callable[[str], Decimal | None]) -> Number:
        """What the needs cost [money] at prices per gram, credits taken off. An item without a price counts nothing."""
        total = -self.credit_value()
        for item, mass in self.items.items():
            price = per_gram(item)
            if price is not None:
                total += mass * price
        return total


def needs_of(
    balance: Balance, sub: Callable[[str], tuple[Needs, Number]], credits_count: bool, number: Convert = same
) -> Needs:
    """The needs of one batch, given its mass balance, and the needs and batch masses of the recipes it uses.

    `sub` gives a mass of 0 for a recipe whose batch yield is not known.
    """
    needs = Needs(number)
    for line in balance.lines:
        needs.add_line(line, sub)
    for stage in balance.stages:
        needs.add_stage(stage, balance.recipe.id, credits_count)
    return needs
