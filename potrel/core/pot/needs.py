"""Needs: a recipe exploded into the AP mass of every purchased item and the mass of every credited by-product.

For given recipes and yields cost is linear in the prices: cost = sum(need * price) - sum(credit mass * value). So a
change of price reaches every recipe by one multiplication, and a drift splits into the purchases that caused it.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from collections.abc import Set as AbstractSet
from dataclasses import field
from decimal import Decimal
from types import MappingProxyType
from typing import NamedTuple, TypeVar

from potrel.core.frozen import dataclass
from potrel.core.kitchen.items import ByproductMethod
from potrel.core.numbers.arithmetic import Number, larger, smaller, surely, total
from potrel.core.numbers.formula import Many, formula
from potrel.core.pot.balance import Balance, StageMass, TakenOut, reach
from potrel.core.pot.day_view import DayView
from potrel.core.pot.line_mass import LineMass
from potrel.core.trim.byproducts import SHARING, borne_shares

K = TypeVar("K")


class CreditKey(NamedTuple):
    """A credited by-product: the item or recipe it falls off, its name, and its value [money/kg]."""

    of: str
    name: str
    value_per_kg: Decimal


@dataclass(frozen=True, slots=True)
class Needs:
    """What one batch takes: AP masses [g] by item, credited masses [g], attended minutes and energy [kWh].

    Of an item that is known by the piece only, and used beside the pot, it is so many pieces (`DayView.counted`).
    `borne` are the AP masses whose price it bears: all that is bought, but for what by-products carry. `left_of` are the
    items of which only what is left over elsewhere goes in, and what has no price in the unit in which it goes in.
    `credit_value` is what all credits are worth [money]. Where a stage is heated and nobody can tell how much that takes, the
    energy is not known: it is no less than what is told.
    """

    items: Mapping[str, Number]
    borne: Mapping[str, Number]
    left_of: frozenset[str]
    credits: Mapping[CreditKey, Number]
    credit_value: Number
    minutes: Number
    energy: Number
    energy_known: bool = True

    def touch(self, items: AbstractSet[str]) -> bool:
        """Whether anything of some items goes in, or what is left over of them, or their price is borne."""
        if not self.items.keys().isdisjoint(items) or not self.left_of.isdisjoint(items):
            return True
        return self.borne is not self.items and not self.borne.keys().isdisjoint(items)

    @property
    def named(self) -> frozenset[str]:
        """The items of which anything goes in, bought for it or left over elsewhere: their allergens matter."""
        return self.left_of | self.items.keys()

    def cost(self, prices: Mapping[str, Number]) -> Number:
        """What the needs cost [money] at prices per gram, credits taken off. An item without a price counts nothing."""
        return self.bought(prices) - self.credit_value

    def bought(self, prices: Mapping[str, Number]) -> Number:
        """The same without the credits; or what changes of prices do to it."""
        fewer, more = (prices, self.borne) if len(prices) < len(self.borne) else (self.borne, prices)
        return total([fewer[item] * more[item] for item in fewer if item in more])


class Taken(NamedTuple):
    """What a recipe's batch, or what is taken out of it, bears, and its mass [g]."""

    needs: Needs
    mass: Number


# Of what is kept for the garnish of its own portions, by its name: the share that they get. They bear what that cost.
HandedOut = Mapping[str, Number]
NOTHING: HandedOut = MappingProxyType({})

# Gives a recipe's needs and batch mass, or those of what is taken out of it by a name; a mass of 0 where it is not known.
Sub = Callable[[str, str | None], Taken]


@dataclass(slots=True)
class Gathered:
    """Needs while they are added up.

    `carried` are the AP masses whose cost by-products bear, where one is shared with them; `left_of` are the items of which
    only what is left over elsewhere goes in.
    """

    view: DayView
    items: dict[str, Number] = field(default_factory=dict)
    carried: dict[str, Number] = field(default_factory=dict)
    left_of: set[str] = field(default_factory=set)
    credits: dict[CreditKey, Number] = field(default_factory=dict)
    minutes: Number = field(init=False)
    energy: Number = field(init=False)
    energy_known: bool = True

    def __post_init__(self) -> None:
        self.minutes = self.view.zero
        self.energy = self.view.zero

    def needs(self) -> Needs:
        """What was gathered."""
        value = self.view.zero
        for key, mass in self.credits.items():
            value = value + mass * self.view.number(key.value_per_kg) / 1000
        borne = self.items if not self.carried else self._borne()
        return Needs(
            self.items, borne, frozenset(self.left_of), self.credits, value, self.minutes, self.energy, self.energy_known
        )

    def _borne(self) -> dict[str, Number]:
        every = dict.fromkeys([*self.items, *self.carried])
        zero = self.view.zero
        return {item: self.items.get(item, zero) - self.carried.get(item, zero) for item in every}

    def add(self, part: Needs, factor: Number) -> None:
        """Take in `factor` times another's needs."""
        items = self.items
        for item, mass in part.items.items():
            have = items.get(item)
            items[item] = mass * factor if have is None else have + mass * factor
        if part.borne is not part.items:
            for item, mass in part.borne.items():
                _add(self.carried, item, (part.items.get(item, self.view.zero) - mass) * factor)
        for key, mass in part.credits.items():
            _add(self.credits, key, mass * factor)
        self.left_of |= part.left_of
        self.minutes = self.minutes + part.minutes * factor
        self.energy = self.energy + part.energy * factor
        self.energy_known = self.energy_known and part.energy_known

    def add_line(self, line: LineMass, sub: Sub) -> None:
        """Take in a line."""
        if line.recipe is not None:
            needs, mass = sub(line.recipe, line.byproduct)
            # Of a batch of unknown mass nothing is counted, but what is in it stays named: its allergens matter.
            self.add(needs, line.ep / mass if surely(mass > 0) else self.view.zero)
            return
        item = line.item
        if item is None:
            # It names a recipe that the kitchen does not have.
            return
        if line.byproduct is None and line.counted == self.view.counted_units().get(item):
            have = self.items.get(item)
            self.items[item] = line.ap if have is None else have + line.ap
        else:
            self.left_of.add(item)
        if line.carried is not None:
            _add(self.carried, item, line.carried)
        for credit in line.credits:
            if credit.value_per_kg != 0:
                _add(self.credits, CreditKey(item, credit.name, credit.value_per_kg), credit.mass)

    def add_time(self, here: StageMass, recipe_id: str) -> None:
        """Take in a stage's own time and energy."""
        stage, ask = here.stage, self.view.ask
        self.minutes = self.minutes + ask("attended_minutes", recipe_id, stage.id, stage.attended_minutes)
        if here.cleanup != 0:
            self.minutes = self.minutes + self.view.number(here.cleanup)
        if self.view.recipes[recipe_id].prep_minutes:
            self.minutes = self.minutes + here.prep
        if here.energy is not None:
            self.energy = self.energy + here.energy
        elif here.heat is not None and here.heat.lack is not None:
            self.energy_known = False

    def keep(self, share: Number) -> None:
        """Bear only a share of the cost: the rest is carried by what was taken out. What is to buy stays."""
        for item, mass in self._borne().items():
            _add(self.carried, item, mass * (1 - share))
        self.credits = {key: mass * share for key, mass in self.credits.items()}

    def hand_out(self, part: Needs, share: Number) -> None:
        """Bear a share of another's cost no more: portions that are garnished with it do."""
        for item, mass in part.borne.items():
            _add(self.carried, item, mass * share)
        for key, mass in part.credits.items():
            _add(self.credits, key, -mass * share)

    def part(self, share: Number) -> Gathered:
        """A by-product that bears a share of this cost: nothing of it is bought, but what it comes from stays named."""
        part = Gathered(self.view)
        part.left_of = self.left_of | self.items.keys()
        if surely(share != 0):
            part.carried = {item: -mass * share for item, mass in self._borne().items()}
            part.credits = {key: mass * share for key, mass in self.credits.items()}
        return part


def _add(to: dict[K, Number], key: K, mass: Number) -> None:
    have = to.get(key)
    to[key] = mass if have is None else have + mass


def valued(here: StageMass) -> list[TakenOut]:
    """What is taken out of a stage that is worth something."""
    return [taken for taken in here.taken_out if taken.take_out.value_per_kg > 0]


def stage_shares(here: StageMass, method: ByproductMethod, view: DayView) -> list[Number] | None:
    """The share of a stage's cost that goes on, and that of each of its by-products (`valued`); None where not known."""
    others = [(taken.mass, taken.take_out.value_per_kg) for taken in valued(here)]
    return borne_shares(method, (here.mass_out, here.stage.value_per_kg), others, view.number)


def needs_of(balance: Balance, sub: Sub, view: DayView, handed_out: HandedOut = NOTHING) -> Needs:
    """The needs of one batch, given its mass balance, and the needs and masses [g] of the recipes it uses."""
    method = view.settings.byproduct_method
    if handed_out or (method in SHARING and any(valued(here) for here in balance.stages)):
        return flow_of(balance, sub, view, handed_out).batch
    # Where no cost is shared, it does not matter by which way it reaches the batch.
    needs = Gathered(view)
    for line in balance.lines:
        needs.add_line(line, sub)
    _add_beside(needs, balance, sub)
    for here in balance.stages:
        needs.add_time(here, balance.recipe.id)
        if here.taken_out:
            _credit(needs, here, method, balance.recipe.id)
    return needs.needs()


def _add_beside(needs: Gathered, balance: Balance, sub: Sub) -> None:
    """Take in what is used up by a batch beside the pot."""
    for line in balance.beside:
        if isinstance(line, LineMass):
            needs.add_line(line, sub)
        elif line.item is not None:
            needs.items.setdefault(line.item, needs.view.zero)


def _credit(needs: Gathered, here: StageMass, method: ByproductMethod, recipe_id: str) -> None:
    for taken in here.taken_out:
        value = taken.take_out.value_per_kg
        if value < 0 or (value > 0 and method == "credit"):
            _add(needs.credits, CreditKey(recipe_id, taken.take_out.name, value), taken.mass)


@dataclass(frozen=True, slots=True)
class Flow:
    """A cost on its way through the stages: what each passes on, what each take-out bears (in their order), and the batch."""

    passed: Mapping[str, Needs]
    taken: Mapping[str, tuple[Needs, ...]]
    batch: Needs

    def taken_by_name(self, balance: Balance, view: DayView) -> Mapping[str, Taken]:
        """What is taken out of the recipe, by its name."""
        found: dict[str, Taken] = {}
        for here in balance.stages:
            for out, needs in zip(here.taken_out, self.taken[here.stage.id], strict=True):
                name, before = out.take_out.name, found.get(out.take_out.name)
                if before is None:
                    found[name] = Taken(needs, out.mass)
                    continue
                both = Gathered(view)
                both.add(before.needs, view.one)
                both.add(needs, view.one)
                found[name] = Taken(both.needs(), before.mass + out.mass)
        return found


def flow_of(balance: Balance, sub: Sub, view: DayView, handed_out: HandedOut = NOTHING) -> Flow:
    """The needs of one batch, stage by stage, with those of what is taken out of it.

    The cost of a share that no stage takes stays with the batch, so the last stage passes it on.
    """
    passed: dict[str, Needs] = {}
    taken: dict[str, tuple[Needs, ...]] = {}
    whole = Gathered(view).needs()
    for here in balance.stages:
        needs = Gathered(view)
        for line in balance.lines_of(here.stage):
            needs.add_line(line, sub)
        for inflow in here.stage.from_:
            needs.add(passed[inflow.stage], view.number(inflow.share))
        needs.add_time(here, balance.recipe.id)
        kept = {
            place: _kept(needs, out, here, balance, sub, view)
            for place, out in enumerate(here.taken_out) if out.take_out.name in handed_out
        }  # fmt: skip
        for place, part in kept.items():
            needs.hand_out(part, handed_out[here.taken_out[place].take_out.name])
        taken[here.stage.id] = _take_out(needs, here, kept, view, balance.recipe.id)
        if here is balance.stages[-1]:
            _add_beside(needs, balance, sub)
            for earlier in balance.stages[:-1]:
                if earlier.left_over != 0:
                    needs.add(passed[earlier.stage.id], view.number(earlier.left_over))
        whole = passed[here.stage.id] = needs.needs()
    return Flow(passed, taken, whole)


@formula("the smaller of (1, kept / sum of weights)")
def share_kept(kept: Number, weights: Many) -> Number:
    """What share of the cost of some lines, or of a stage, goes with what is kept of it: cost follows the mass."""
    return smaller(kept * 0 + 1, kept / total(weights))


# A line (None: the stage as a whole), the share of it that came to a stage, and its mass [g] there with the juice and the fat
# that it gave to the pot.
Weight = tuple[LineMass | None, Number, Number]


def kept_weights(out: TakenOut, here: StageMass, balance: Balance, view: DayView) -> list[Weight]:
    """What something kept is a part of: the lines it is made of, else the stage as a whole."""
    if out.take_out.mass is not None:
        return [(None, view.one, here.changed)]
    shares = reach(balance.recipe.stages, here.stage, view)
    lines = [line for line in balance.lines if line.id in out.take_out.of and line.stage in shares]
    return [(line, shares[line.stage], larger(line.own, line.put) * shares[line.stage]) for line in lines]


def _kept(needs: Gathered, out: TakenOut, here: StageMass, balance: Balance, sub: Sub, view: DayView) -> Needs:
    """The needs whose cost goes with what is kept for garnish: its part of those of its lines, else of the stage."""
    weights = kept_weights(out, here, balance, view)
    if not surely(total(weight for _, _, weight in weights) > 0):
        return Gathered(view).needs()
    source = Gathered(view)
    for line, share, _ in weights:
        if line is None:
            source = needs
        else:
            one = Gathered(view)
            one.add_line(line, sub)
            source.add(one.needs(), share)
    return source.part(share_kept(out.mass, [weight for _, _, weight in weights])).needs()


def _take_out(needs: Gathered, here: StageMass, kept: Mapping[int, Needs], view: DayView, recipe_id: str) -> tuple[Needs, ...]:
    """Take a stage's by-products off its needs; what each of them bears. What is `kept` bears what it is made of."""
    method = view.settings.byproduct_method
    # What disposal costs comes first: it is part of a joint cost.
    _credit(needs, here, method, recipe_id)
    worth_something = valued(here)
    shares = stage_shares(here, method, view) or [view.zero] * (1 + len(worth_something))
    of_each = iter(shares[1:])
    parts: list[Needs] = []
    for place, out in enumerate(here.taken_out):
        value = out.take_out.value_per_kg
        if place in kept:
            parts.append(kept[place])
            continue
        part = needs.part(next(of_each) if value > 0 else view.zero)
        if value < 0 or method == "credit":
            part.credits = {CreditKey(recipe_id, out.take_out.name, value): -out.mass} if value != 0 else {}
        parts.append(part.needs())
    if surely(shares[0] != 1):
        needs.keep(shares[0])
    return tuple(parts)
