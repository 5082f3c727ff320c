"""What is left over with a use: what falls off items and is taken out of recipes, what it is worth, and who cooks with it."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from dataclasses import dataclass
from decimal import Decimal

from potrel.core.balance import LineMass, line_mass
from potrel.core.costing import Costing
from potrel.core.fields import ZERO, Computed, Id, Name, Value
from potrel.core.kitchen import ByproductMethod, Line
from potrel.core.part import Part


@dataclass(frozen=True, slots=True)
class LeftoverUse(Part):
    """A recipe that cooks with it, and how much a batch takes [g]."""

    recipe: Id
    name: Name
    grams: Computed


@dataclass(frozen=True, slots=True)
class Leftover(Part):
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
    facts, users = costing.facts, _users(costing)
    found: list[Leftover] = []
    for item in facts.kitchen.items:
        for step in item.preparations:
            for part in step.byproducts:
                if part.use is not None or part.value_per_kg:
                    line = Line("1 kg", item=item.id, preparation=step.id, byproduct=part.name)
                    found.append(
                        Leftover(item.id, step.id, None, f"{item.name}, {step.name}"[:200], part.name, part.use,
                                 part.value_per_kg, facts.byproduct_method(item), part.share, None, _cost(costing, line),
                                 users.get((item.id, None, part.name), []))
                    )  # fmt: skip
    for recipe in facts.kitchen.recipes:
        for out in recipe.take_outs():
            if out.value_per_kg or out.use not in (None, "waste"):
                line = Line("1 kg", recipe=recipe.id, byproduct=out.name)
                taken = [one for here in costing.balance(recipe.id).stages for one in here.taken_out if one.take_out is out]
                found.append(
                    Leftover(None, None, recipe.id, recipe.name, out.name, out.use, out.value_per_kg,
                             facts.settings.byproduct_method, None, sum((one.mass for one in taken), ZERO),
                             _cost(costing, line), users.get((None, recipe.id, out.name), []))
                )  # fmt: skip
    return sorted(found, key=lambda one: (one.name.casefold(), one.of.casefold()))


def _cost(costing: Costing, line: Line) -> Decimal | None:
    weighed = line_mass(line, "leftover", None, costing.facts)
    return costing.line_cost(weighed) if isinstance(weighed, LineMass) else None


def _users(costing: Costing) -> dict[tuple[str | None, str | None, str], list[LeftoverUse]]:
    grams: defaultdict[tuple[str | None, str | None, str], dict[str, Decimal]] = defaultdict(dict)
    for recipe, line in _lines(costing):
        if line.byproduct is not None:
            of = grams[line.item, line.recipe, line.byproduct]
            of[recipe] = of.get(recipe, ZERO) + line.ep
    recipes = costing.facts.recipes
    return {
        key: [LeftoverUse(recipe, recipes[recipe].name, mass) for recipe, mass in sorted(of.items())]
        for key, of in grams.items()
    }


def _lines(costing: Costing) -> Iterator[tuple[str, LineMass]]:
    for recipe in costing.facts.kitchen.recipes:
        for line in costing.balance(recipe.id).lines:
            yield recipe.id, line
