"""A way to meet what a line is for: the recipe as it would be, and what comes of it."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from potrel.core.cost.costing import Costing
from potrel.core.cost.inside import Inside
from potrel.core.frozen import dataclass
from potrel.core.kitchen.items import Item
from potrel.core.kitchen.kinds import Computed, Flag, Name, plain
from potrel.core.kitchen.lines import Line
from potrel.core.kitchen.quantities import Quantity, parse_quantity
from potrel.core.kitchen.recipes import Recipe, Stage, with_lines
from potrel.core.numbers.arithmetic import Number
from potrel.core.numbers.formula import formula
from potrel.core.numbers.rounding import half_even
from potrel.core.pot.day_view import DayView
from potrel.core.pot.line_mass import LineMass
from potrel.core.rooms.diets import Answer, Verdict, verdicts
from potrel.core.rooms.make_or_buy import LiquidCost

Band = tuple[Number, Number]


@formula("grams * strength of it / strength of the other")
def as_strong(grams: Number, strength_of_it: Number, strength_of_the_other: Number) -> Number:
    """How much of another thing [g] is as strong, or thickens as much."""
    return grams * strength_of_it / strength_of_the_other


@dataclass(frozen=True, slots=True)
class Way:
    """One way: the recipe as it would be, what goes in in words, and what comes of it.

    Food cost of a portion (else of a batch) [money], salt [share], thickness [g flour/l], energy [kcal] of a portion. A
    `liquid` is told by the litre. It `brings` allergens that the pot has not now, and `diets_lost` are those that it fits less
    well. `low_g` and `high_g` are the band of how much it takes; `mind` what to mind.
    """

    name: Name
    amount: str
    now: Flag
    recipe: Recipe
    complete: Flag
    food_cost: Computed | None
    salt_share: Computed | None
    thickness_g_per_l: Computed | None
    thickness_at_least: Flag
    energy_kcal: Computed | None
    batch_ml: Computed
    allergens: list[str]
    brings: list[str]
    diets_lost: list[str]
    low_g: Computed | None
    high_g: Computed | None
    mind: str
    liquid: LiquidCost | None


@dataclass(frozen=True, slots=True)
class Spot:
    """A line in its pot, by its stage's place and its own."""

    costing: Costing
    recipe: Recipe
    stage: int
    place: int
    line: LineMass
    # What the pot is now, of which each way tells what it changes.
    allergens: list[str]
    diets: list[Verdict]

    @property
    def view(self) -> DayView:
        return self.costing.view

    @property
    def here(self) -> Stage:
        return self.recipe.stages[self.stage]

    def with_lines(self, lines: Sequence[Line]) -> Recipe:
        """The recipe with other lines in the place of this one."""
        old = self.here.lines
        return with_lines(self.recipe, self.stage, (*old[: self.place], *lines, *old[self.place + 1 :]))

    def way(
        self, name: str, lines: Sequence[Line], recipe: Recipe, mind: str = "", *, band: Band | None = None,
        liquid: LiquidCost | None = None,
    ) -> Way:  # fmt: skip
        """A way with some lines in the place of this one, costed."""
        now = recipe is self.recipe
        costing = self.costing if now else self.costing.replacing(recipe)
        one = costing.of(recipe.id)
        inside = Inside(costing, one)
        portion = one.portions[0] if one.portions else None
        cost = portion.food_cost if portion is not None else one.cost
        energy = inside.in_portion(portion, "energy_kcal") if portion is not None else None
        low, high = band or (None, None)
        allergens = costing.allergens(recipe.id)
        return Way(
            name, " + ".join(f"{line.quantity} {self.view.name_of(line.item, line.recipe)}" for line in lines), now, recipe,
            not one.problems, None if one.problems else cost, inside.salt_share,
            inside.thickness, inside.thickness_at_least, energy,
            one.balance.mass / one.recipe.density, allergens,
            [each for each in allergens if each not in self.allergens],
            [] if now else list(_lost(self.diets, verdicts(one, costing.view))), low, high, mind, liquid,
        )  # fmt: skip


_BEST_FIRST: tuple[Answer, ...] = ("yes", "not_known", "no")


def _lost(before: Sequence[Verdict], after: Sequence[Verdict]) -> Iterator[str]:
    """The diets that a pot fits less well than before, in words."""
    for was, is_ in zip(before, after, strict=True):
        if _BEST_FIRST.index(is_.answer) > _BEST_FIRST.index(was.answer):
            said = "no" if is_.answer == "no" else "not known"
            yield f"{is_.called}: {said}, by {', '.join(one for one in is_.because if one not in was.because)}"


def told_mass(grams: Number) -> Quantity:
    """So much as a cook would write it.

    >>> from decimal import Decimal
    >>> str(told_mass(Decimal("4166.66"))), str(told_mass(Decimal("75")))
    ('4.167 kg', '75 g')
    """
    return parse_quantity(f"{plain(half_even(grams / 1000, 3))} kg" if grams >= 1000 else f"{plain(half_even(grams, 1))} g")


def told_litres(litres: Number) -> Quantity:
    """The same of a volume [l]."""
    return parse_quantity(f"{plain(half_even(litres, 3))} l")


def ready_to_use(item: Item, grams: Number) -> Line:
    """So much of an item as it goes in: of what is trimmed, by its first preparation."""
    trim = next((one.id for one in item.preparations if one.yield_ < 1), None)
    return Line(told_mass(grams), item=item.id, basis="EP", preparation=trim)
