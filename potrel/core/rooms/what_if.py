"""What if: a price, yield, portion, quantity, batch or loss moved without saving, and what that does to all pots it reaches."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace
from decimal import Decimal
from functools import cached_property
from typing import Literal, cast

from potrel.core.cost.asked import asked_of
from potrel.core.cost.break_even import break_even
from potrel.core.cost.called import Called, Unit, called
from potrel.core.cost.costed_recipe import CostedRecipe
from potrel.core.cost.costing import Costing
from potrel.core.cost.effects import Effect, compare, need_of
from potrel.core.cost.portion import Portion
from potrel.core.errors import BadDocument
from potrel.core.frozen import dataclass
from potrel.core.kitchen.keyed import Keyed
from potrel.core.kitchen.kinds import ONE, ZERO, Computed, Id, Name, Note, Rate, plain
from potrel.core.numbers.arithmetic import Number
from potrel.core.numbers.rounding import half_even
from potrel.core.pot.inputs import Asked
from potrel.core.sentences import say

MovedSort = Literal[
    "price", "yield", "cooking", "cook_yield", "change", "residue", "quantity", "size", "measured_yield",
    "written_yield", "allowance", "setting", "batch",
]  # fmt: skip
Owner = Literal["pot", "kitchen"]
# Of a batch of another size these grow with it; what steams off an hour, and attended minutes, do not.
_GROW = ("quantity", "taken_out", "came_out", "measured_yield", "written_yield")
_MOST_YIELD = Decimal(20)
_FAR = 10


@dataclass(frozen=True, slots=True)
class Move(Keyed):
    """One number moved: its name (see `Asked`), and what it is tried at, in the unit that it is told in."""

    sort: MovedSort
    of: Name
    value: Rate
    part: Note = ""


@dataclass(frozen=True, slots=True)
class Movable:
    """A number that can be moved: what it is called, as it is stated, and between what it can be tried.

    It is the pot's own, or the whole kitchen's: that is what a variant can keep, and what it can not.
    """

    sort: MovedSort
    of: Name
    part: Note
    name: str
    unit: Unit
    stated: Computed
    low: Computed
    high: Computed
    owner: Owner


@dataclass(frozen=True, slots=True)
class PortionThen:
    """A portion as it is saved, or as it would be; None where that is not known."""

    food_cost: Computed | None
    portions: Computed | None
    price: Computed | None
    share: Computed | None
    contribution: Computed | None


@dataclass(frozen=True, slots=True)
class ServingIf:
    """A serving as it is and as it would be.

    `meets_target_at` is the value of the last thing moved at which its food-cost share is just its target, at the price that
    it has; None where there is none.
    """

    serving: Id
    name: Name
    was: PortionThen
    now: PortionThen
    target: Computed | None
    meets_target_at: Computed | None


@dataclass(frozen=True, slots=True)
class WhatIf:
    """What some moves do to a pot, and to others; `problems` say what keeps it from being costed then."""

    movable: list[Movable]
    servings: list[ServingIf]
    reached: list[Effect]
    problems: list[str]


@dataclass
class Trial:
    """A pot on which things are tried. Nothing is saved by it."""

    costing: Costing
    recipe_id: str

    @cached_property
    def stated(self) -> dict[Asked, Decimal]:
        """Every number that the pot rests on, as it is stated."""
        return asked_of(self.costing, self.recipe_id)

    @cached_property
    def movable(self) -> list[Movable]:
        """What can be moved: the batch, what is the pot's own, and what it takes from the kitchen."""
        return list(self._movable())

    def what_if(self, moves: Sequence[Move]) -> WhatIf:
        """What some moves do; BadDocument for one that the pot does not rest on, or that is tried at what it cannot be."""
        given = self.given(moves)
        after, was = self.costing.moved(given), self.costing.of(self.recipe_id)
        now = after.of(self.recipe_id)
        servings = [_serving(portion, now, self._meets_target_at(moves, portion, after)) for portion in was.portions]
        others = compare(self.costing, after, [one for one in self.costing.view.recipes if one != self.recipe_id])
        return WhatIf(self.movable, servings, others, [one.message for one in now.problems])

    def given(self, moves: Sequence[Move]) -> dict[Asked, Number]:
        """The numbers that some moves give the engine. A moved batch comes first: what is moved beside it stands as it is."""
        given: dict[Asked, Number] = {}
        for move in sorted(moves, key=lambda one: one.sort != "batch"):
            one = self._of(move)
            if not one.low <= move.value <= one.high:
                english = "{name} can be tried from {low} to {high}"
                ends = {"low": plain(half_even(one.low, 4)), "high": plain(half_even(one.high, 4))}
                raise BadDocument("moves", say("moved_too_far", english, name=one.name, **ends))
            if move.sort == "batch":
                given |= self._of_batch(move.value)
                continue
            asked = Asked(move.sort, move.of, move.part)
            name = called(asked, self.costing.view)
            given[asked] = self.costing.view.number(move.value / (ONE if name is None else name.times))
        return given

    def _of(self, move: Move) -> Movable:
        name = move.sort, move.of, move.part
        found = next((one for one in self.movable if (one.sort, one.of, one.part) == name), None)
        if found is None:
            english = 'this pot rests on no {sort} of "{of}" that could be moved'
            raise BadDocument("moves", say("no_such_move", english, sort=move.sort, of=move.of))
        return found

    def _movable(self) -> Iterator[Movable]:
        view = self.costing.view
        if any(asked.sort == "quantity" and asked.of == self.recipe_id for asked in self.stated):
            yield Movable(
                "batch", self.recipe_id, "", "the batch, so many times", "times", ONE, ONE / _FAR, Decimal(_FAR), "pot"
            )
        for asked, value in self.stated.items():
            name = called(asked, view)
            if name is None:
                continue
            recipe = asked.of.partition("/")[0]
            elsewhere = None if recipe == self.recipe_id else view.recipes.get(recipe)
            words = name.name if elsewhere is None else f"{name.name} ({elsewhere.name})"
            low, high = _limits(asked, value, name)
            yield Movable(
                cast(MovedSort, asked.sort), asked.of, asked.part, words, name.unit,
                value * name.times, low * name.times, high * name.times, "pot" if recipe == self.recipe_id else "kitchen",
            )  # fmt: skip

    def _of_batch(self, times: Decimal) -> dict[Asked, Number]:
        marks = {stage.id for stage in self.costing.view.recipes[self.recipe_id].stages if stage.change.to is not None}
        return {
            asked: self.costing.view.number(value * times) for asked, value in self.stated.items()
            if asked.of == self.recipe_id and (asked.sort in _GROW or (asked.sort == "change" and asked.part in marks))
        }  # fmt: skip

    def _meets_target_at(self, moves: Sequence[Move], portion: Portion, after: Costing) -> Decimal | None:
        kept, target = portion.priced.kept, portion.priced.target
        if not moves or kept is None or target is None or after.of(self.recipe_id).problems:
            return None
        *others, last = moves
        found, wanted = self._of(last), target * kept
        if last.sort == "price":
            return _price_for(wanted, last, found, after.of(self.recipe_id), portion.serving.id)

        def cost_at(value: Decimal) -> Number | None:
            given = self.given([*others, replace(last, value=value)])
            one = after.moved({asked: number for asked, number in given.items() if asked.sort != "price"}).of(self.recipe_id)
            moved = one.portion(portion.serving.id)
            return None if moved is None or one.problems else moved.food_cost

        return break_even(cost_at, found.stated, wanted, found.low, found.high)


def _price_for(wanted: Decimal, move: Move, found: Movable, now: CostedRecipe, serving: str) -> Decimal | None:
    """The price at which a portion costs what is wanted, by what it needs of the thing: its cost grows evenly with that."""
    portion = now.portion(serving)
    need = None if portion is None else need_of(now, portion, move.of)
    if portion is None or portion.food_cost is None or need is None or need == 0:
        return None
    each = need / 1000 if found.unit == "money/kg" else need
    price = move.value + (wanted - portion.food_cost) / each
    return price if found.low <= price <= found.high else None


def _limits(asked: Asked, stated: Decimal, name: Called) -> tuple[Decimal, Decimal]:
    """Between what a number can be tried, as the engine takes it."""
    if asked.sort in ("yield", "cooking", "cook_yield") or (asked.sort == "change" and name.unit == "share"):
        return Decimal("0.01"), _MOST_YIELD if stated > 1 else ONE
    if name.unit in ("share", "share/h"):
        return ZERO, Decimal("0.99")
    return (
        stated / _FAR if asked.sort in ("size", "measured_yield", "written_yield") else ZERO
    ), stated * _FAR if stated > 0 else 1 / name.times


def _serving(was: Portion, now: CostedRecipe, meets: Decimal | None) -> ServingIf:
    portion = now.portion(was.serving.id)
    then = PortionThen(None, None, None, None, None) if portion is None else _then(portion)
    return ServingIf(was.serving.id, was.serving.name, _then(was), then, was.priced.target, meets)


def _then(portion: Portion) -> PortionThen:
    priced = portion.priced
    return PortionThen(portion.food_cost, portion.portions, priced.price, priced.share, priced.contribution)
