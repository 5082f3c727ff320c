"""A pot that states what was tried on it: kept as a variant. Prices and yields of goods are the kitchen's, and stay."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import replace
from decimal import Decimal

from potrel.core.frozen import dataclass
from potrel.core.kitchen.kinds import plain
from potrel.core.kitchen.quantities import Quantity, parse_quantity
from potrel.core.kitchen.recipes import CameOut, Change, Recipe, Stage, TakeOut
from potrel.core.numbers.arithmetic import Number
from potrel.core.numbers.rounding import half_even
from potrel.core.pot.inputs import Asked, Sort
from potrel.core.rooms.what_if import Move, Trial


def with_moves(trial: Trial, moves: Sequence[Move]) -> Recipe:
    """The recipe of a trial, with what was moved of it as its own."""
    recipe = trial.costing.view.recipes[trial.recipe_id]
    return _Moved(recipe, trial.stated, trial.given(moves)).recipe_then()


@dataclass
class _Moved:
    recipe: Recipe
    stated: Mapping[Asked, Decimal]
    given: Mapping[Asked, Number]

    def recipe_then(self) -> Recipe:
        ids = iter(self.recipe.line_ids())
        stages = tuple(self._stage(stage, ids) for stage in self.recipe.stages)
        servings = tuple(replace(one, size=self._scaled(one.size, "size", one.id)) for one in self.recipe.servings)
        measured, written = self.recipe.measured_yield, self.recipe.written_yield
        return replace(
            self.recipe, stages=stages, servings=servings,
            measured_yield=measured and replace(measured, quantity=self._scaled(measured.quantity, "measured_yield", "")),
            written_yield=written and self._scaled(written, "written_yield", ""),
        )  # fmt: skip

    def _stage(self, stage: Stage, ids: Iterator[str]) -> Stage:
        lines = []
        for line in stage.lines:
            line_id = next(ids)
            cook_yield = self._given("cook_yield", line_id, line.cook_yield)
            lines.append(replace(line, quantity=self._scaled(line.quantity, "quantity", line_id), cook_yield=cook_yield))
        taken = tuple(self._taken(one, stage) for one in stage.take_out)
        residue = self.given.get(Asked("residue", self.recipe.id, stage.id), stage.residue)
        return replace(
            stage, lines=tuple(lines), take_out=taken, residue=residue, change=self._change(stage),
            came_out=self._came_out(stage),
        )  # fmt: skip

    def _came_out(self, stage: Stage) -> CameOut | None:
        came = stage.came_out
        if came is None:
            return None
        if came.quantity is not None:
            return replace(came, quantity=self._scaled(came.quantity, "came_out", stage.id))
        asked = Asked("came_out", self.recipe.id, stage.id)
        value, before = self.given.get(asked), self.stated.get(asked)
        if value is None or before is None or before == 0 or came.depth_cm is None:
            return came
        # As deep as so much more stands in the same vessel.
        return replace(came, depth_cm=half_even(came.depth_cm * value / before, 6))

    def _taken(self, out: TakeOut, stage: Stage) -> TakeOut:
        return out if out.mass is None else replace(out, mass=self._scaled(out.mass, "taken_out", f"{stage.id}/{out.name}"))

    def _change(self, stage: Stage) -> Change:
        change, value = stage.change, self.given.get(Asked("change", self.recipe.id, stage.id))
        if value is None:
            return change
        if change.to is not None:
            return replace(change, to=self._scaled(change.to, "change", stage.id))
        if change.yield_ is not None:
            return replace(change, yield_=value)
        if change.per_hour is not None:
            return replace(change, per_hour=value)
        if change.rule == "keep":
            # Where nobody said what goes up, it is stated by whoever moved it.
            return Change("yield", yield_=value)
        # What a vessel steams is stated by whoever moved it.
        return replace(change, kg_per_hour=value / 1000, by=None)

    def _given(self, sort: Sort, part: str, otherwise: Decimal | None) -> Decimal | None:
        return self.given.get(Asked(sort, self.recipe.id, part), otherwise)

    def _scaled(self, quantity: Quantity, sort: Sort, part: str) -> Quantity:
        """A quantity in its own unit, so many times as large as the number that it stands for."""
        asked = Asked(sort, self.recipe.id, part)
        value, before = self.given.get(asked), self.stated.get(asked)
        if value is None or before is None or before in (0, value):
            return quantity
        return parse_quantity(f"{plain(half_even(quantity.amount * value / before, 6))} {quantity.unit}")
