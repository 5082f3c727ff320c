"""What is inside a pot, as numbers: salt, thickness, nutrients and alcohol of a batch and of a portion."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cached_property

from potrel.core.cost.costed_recipe import CostedRecipe
from potrel.core.cost.costing import Costing
from potrel.core.cost.portion import Portion
from potrel.core.errors import Problem
from potrel.core.frozen import dataclass
from potrel.core.numbers.arithmetic import Number, larger, surely, total
from potrel.core.numbers.formula import Many, formula
from potrel.core.pot.content import Content
from potrel.core.pot.day_view import DayView
from potrel.core.pot.held import (
    ALCOHOL,
    SALT,
    Held,
    Lacking,
    alcohol_of,
    held_of,
    lacking_in,
    lacking_of,
    together,
    unknown_of,
    without,
)
from potrel.core.pot.line_mass import LineMass


@formula("grams / mass")
def share_by_mass(grams: Number, mass: Number) -> Number:
    """A share by mass."""
    return grams / mass


@formula("the larger of (0, (target * mass - salt) / (1 - target))")
def salt_to_add(target: Number, mass: Number, salt: Number) -> Number:
    """The salt [g] that is still to be added, so that the share of it is as the kitchen wants it; the batch grows by it."""
    missing = (target * mass - salt) / (1 - target)
    return larger(missing * 0, missing)


@formula("sum of lines / ((mass - stays whole) / density / 1000)")
def thickness(lines: Many, mass: Number, stays_whole: Number, density: Number) -> Number:
    """How thick a soup is [g of flour in a white roux for each litre of what is liquid in it]."""
    return total(lines) / ((mass - stays_whole) / density / 1000)


@formula("in the batch * mass of a portion / mass of the batch + sum of beside")
def in_a_portion(in_the_batch: Number, mass_of_a_portion: Number, mass_of_the_batch: Number, beside: Many) -> Number:
    """What is in a portion, with what is served with it."""
    return in_the_batch * mass_of_a_portion / mass_of_the_batch + total(beside)


@dataclass(frozen=True, slots=True)
class Eaten:
    """What is eaten with a portion, what of it lacks a value, and what the whole portion holds."""

    beside: list[tuple[LineMass | Problem, Held]]
    lacking: Lacking
    held: Held


@dataclass
class Inside:
    """What is inside the batch of one recipe, and inside its portions. Nothing is told of a batch whose yield is not known.

    What is eaten with a portion is reckoned once for each serving, as every row of a sheet asks for it.
    """

    costing: Costing
    one: CostedRecipe

    @property
    def view(self) -> DayView:
        return self.costing.view

    @cached_property
    def content(self) -> Content:
        return self.costing.content(self.one.recipe.id)

    @property
    def known(self) -> bool:
        """Whether the batch yield is known."""
        return self.one.balance.yield_known

    @property
    def salt_share(self) -> Number | None:
        """The salt of the batch by mass; None where it is not known."""
        salt = self.content.batch.of(SALT)
        return share_by_mass(salt, self.one.balance.mass) if salt is not None and self.known else None

    @property
    def thickness(self) -> Number | None:
        """How thick the batch is [g/l]; None where its yield is not known, or nothing in it is liquid."""
        mass, whole = self.one.balance.mass, self.content.whole
        if not self.known or not surely(mass > whole):
            return None
        return thickness([self.content.thickens], mass, whole, self.view.number(self.one.recipe.density))

    @property
    def thickness_at_least(self) -> bool:
        """Whether something in it thickens and nobody said how much: the sum is less than what it is."""
        return bool(self.content.no_strength)

    def beside(self, portion: Portion) -> list[tuple[LineMass | Problem, Held]]:
        """What each thing holds that is eaten with a portion, in full: who takes it takes all of it."""
        return self._eaten_with(portion).beside

    def portion(self, portion: Portion) -> Held:
        """All that is in a portion and in what is served with it, as far as it is known."""
        return self._eaten_with(portion).held

    def _eaten_with(self, portion: Portion) -> Eaten:
        found = self._eaten.get(portion.serving.id)
        if found is None:
            found = self._eaten[portion.serving.id] = self._reckoned(portion)
        return found

    @cached_property
    def _eaten(self) -> dict[str, Eaten]:
        return {}

    def _reckoned(self, portion: Portion) -> Eaten:
        lacking = self._lacking_beside(portion)

        def held(line: LineMass | Problem) -> Held:
            if isinstance(line, Problem):
                return unknown_of(line.item or line.line or "")
            return without(self._beside(line), lacking.traces)

        beside = [(line, held(line)) for role, line in portion.extras if role != "packaging"]
        batch = self.content.batch
        if self.known and surely(self.one.balance.mass > 0):
            batch = batch.times(portion.size_g / self.one.balance.mass)
        return Eaten(beside, lacking, together([batch, *(one for _, one in beside)]))

    def _lacking_beside(self, portion: Portion) -> Lacking:
        """What of a portion with all that is eaten with it lacks a value beside the pot."""
        eaten = [
            line for role, line in portion.extras
            if role != "packaging" and isinstance(line, LineMass) and line.counted is None
        ]  # fmt: skip

        def of_recipe(recipe_id: str) -> Lacking:
            return self.costing.content(recipe_id).lacking

        masses = [in_full(line, self.view) for line in eaten]
        parts = (
            (line.item or line.recipe or line.id, mass, lacking_of(line, of_recipe, self.view))
            for line, mass in zip(eaten, masses, strict=True)
        )
        return lacking_in(parts, portion.size_g + total(masses))

    def traces(self, portion: Portion) -> Mapping[str, frozenset[str]]:
        """The items that count as holding none of something, as there is too little of them to matter."""
        beside = self._eaten_with(portion).lacking.traces
        pot = self.content.lacking.traces
        return {name: pot.get(name, frozenset()) | beside.get(name, frozenset()) for name in {*pot, *beside}}

    def _beside(self, line: LineMass) -> Held:
        mass = in_full(line, self.view)
        if line.counted is not None:
            return unknown_of(line.item or line.id)
        if line.recipe is None:
            item = self.view.items.get(line.item or "")
            if item is None:
                return unknown_of(line.item or "")
            return held_of(line, item, self.view).times(mass / line.ep) if surely(line.ep > 0) else Held({})
        content, batch = self.costing.content(line.recipe), self.costing.of(line.recipe).mass
        held = content.batch
        if line.byproduct is not None:
            held, batch = content.taken.get(line.byproduct, (Held({}), self.view.zero))
        return held.times(mass / batch) if surely(batch > 0) else unknown_of(line.recipe)

    def in_portion(self, portion: Portion, name: str) -> Number | None:
        """So much of one thing in a portion; None where it is not known."""
        held = self.portion(portion)
        if not self.known or held.lacks.get(name):
            return None
        if name == ALCOHOL:
            return alcohol_of(held.spirits, self.view.zero) if all(one.timed for one in held.spirits) else None
        return held.amounts.get(name, self.view.zero)


def in_full(line: LineMass, view: DayView) -> Number:
    """The mass [g] of what is beside a portion for one who takes it."""
    return line.ep / (view.one if line.line is None else view.number(line.line.taken_by))
