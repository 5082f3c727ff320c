"""What is left over with a use: what falls off items and is taken out of recipes, what it is worth, and who cooks with it."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from decimal import Decimal

from potrel.core.cost.costing import Costing
from potrel.core.frozen import dataclass
from potrel.core.kitchen.kinds import ZERO, Computed, Id, Name, Value
from potrel.core.kitchen.lines import Line
from potrel.core.kitchen.quantities import parse_quantity
from potrel.core.kitchen.settings import ByproductMethod
from potrel.core.pot.line_mass import LineMass, line_mass

_A_KILO = parse_quantity("1 kg")


@dataclass(frozen=True, slots=True)
class LeftoverUse:
    """A recipe that cooks with it, and how much a batch takes [g]."""

    recipe: Id
    name: Name
    grams: Computed


@dataclass(frozen=True, slots=True)
class Leftover:
    """Something left over. It falls off an item at a preparation (`share` of what enters it), or is taken out of a recipe
    (`grams` of a batch). `per_kg` is what a kilo of it costs [money] whoever cooks with it: what it is credited with there.
    """

    item: Id | None
    preparation: Id | None
    recipe: Id | None
    of: Name
    name: Name
    use: Name | None
    value_per_kg: Value
    method: ByproductMethod
    share: Computed | None
    grams: Computed | None
    per_kg: Computed | None
    used_in: list[LeftoverUse]


def leftovers(costing: Costing) -> list[Leftover]:
    """All that is left over, waste with neither use nor value left out, in the order of the names."""
    found = [*_off_items(costing), *_out_of_recipes(costing)]
    return sorted(found, key=lambda one: (one.name.casefold(), one.of.casefold()))


def _off_items(costing: Costing) -> Iterator[Leftover]:
    view, users = costing.view, _users(costing)
    for item in view.kitchen.items:
        for step in item.preparations:
            for part in step.byproducts:
                if part.use is None and part.value_per_kg == 0:
                    continue
                line = Line(_A_KILO, item=item.id, preparation=step.id, byproduct=part.name)
                yield Leftover(
                    item.id, step.id, None, f"{item.name}, {step.name}"[:200], part.name, part.use, part.value_per_kg,
                    view.byproduct_method(item), part.share, None, _cost(costing, line),
                    users.get((item.id, None, part.name), []),
                )  # fmt: skip


def _out_of_recipes(costing: Costing) -> Iterator[Leftover]:
    view, users = costing.view, _users(costing)
    for recipe in view.kitchen.recipes:
        for out in recipe.take_outs():
            if out.value_per_kg == 0 and out.use in (None, "waste"):
                continue
            line = Line(_A_KILO, recipe=recipe.id, byproduct=out.name)
            stages = costing.of(recipe.id).balance.stages
            masses = [one.mass for here in stages for one in here.taken_out if one.take_out is out]
            yield Leftover(
                None, None, recipe.id, recipe.name, out.name, out.use, out.value_per_kg, view.settings.byproduct_method,
                None, sum(masses, ZERO), _cost(costing, line), users.get((None, recipe.id, out.name), []),
            )  # fmt: skip


def _cost(costing: Costing, line: Line) -> Decimal | None:
    weighed = line_mass(line, "leftover", "", None, costing.view)
    return costing.line_cost(weighed) if isinstance(weighed, LineMass) else None


def _users(costing: Costing) -> dict[tuple[str | None, str | None, str], list[LeftoverUse]]:
    """By what is left over (of an item or a recipe, by its name): the recipes that cook with it."""
    grams: defaultdict[tuple[str | None, str | None, str], dict[str, Decimal]] = defaultdict(dict)
    for one in costing.all():
        for line in one.balance.lines:
            if line.byproduct is not None:
                of = grams[line.item, line.recipe, line.byproduct]
                of[one.recipe.id] = of.get(one.recipe.id, ZERO) + line.ep
    recipes = costing.view.recipes
    return {
        key: [LeftoverUse(recipe, recipes[recipe].name, mass) for recipe, mass in sorted(of.items())]
        for key, of in grams.items()
    }
