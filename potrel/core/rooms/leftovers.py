"""What is left over with a use: what falls off items and is taken out of recipes, what it is worth, and who cooks with it."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from decimal import Decimal
from typing import NamedTuple

from potrel.core.cost.costing import Costing
from potrel.core.errors import Caveat, caveat
from potrel.core.frozen import dataclass
from potrel.core.kitchen.items import ByproductMethod
from potrel.core.kitchen.kinds import ZERO, Computed, Id, Name, Value, plain
from potrel.core.kitchen.lines import Line
from potrel.core.kitchen.quantities import parse_quantity
from potrel.core.numbers.rounding import exceeds, half_even
from potrel.core.pot.line_mass import LineMass, line_mass
from potrel.core.sentences import say

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
    `given` is what one batch of each pot gives of it in all [g], and `short` whether those that cook with it take more.
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
    given: Computed
    short: bool


class Source(NamedTuple):
    """What is left over: of an item or of a recipe, by its name."""

    item: str | None
    recipe: str | None
    name: str


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
                source = Source(item.id, None, part.name)
                used, given = users.get(source, []), given_of(costing, source)
                yield Leftover(
                    item.id, step.id, None, f"{item.name}, {step.name}"[:200], part.name, part.use, part.value_per_kg,
                    view.byproduct_method(item), part.share, None, _cost(costing, line), used, given, _is_short(used, given),
                )  # fmt: skip


def _out_of_recipes(costing: Costing) -> Iterator[Leftover]:
    view, users = costing.view, _users(costing)
    for recipe in view.kitchen.recipes:
        kept = recipe.kept_for_garnish
        for out in recipe.take_outs():
            if out.name in kept or (out.value_per_kg == 0 and out.use in (None, "waste")):
                continue
            line = Line(_A_KILO, recipe=recipe.id, byproduct=out.name)
            stages = costing.of(recipe.id).balance.stages
            masses = [one.mass for here in stages for one in here.taken_out if one.take_out is out]
            source = Source(None, recipe.id, out.name)
            used, given = users.get(source, []), given_of(costing, source)
            yield Leftover(
                None, None, recipe.id, recipe.name, out.name, out.use, out.value_per_kg, view.settings.byproduct_method,
                None, sum(masses, ZERO), _cost(costing, line), used, given, _is_short(used, given),
            )  # fmt: skip


def given_of(costing: Costing, source: Source) -> Decimal:
    """How much [g] of something left over one batch of each pot gives in all."""
    if source.recipe is not None:
        stages = costing.of(source.recipe).balance.stages if source.recipe in costing.view.recipes else ()
        return sum((one.mass for here in stages for one in here.taken_out if one.take_out.name == source.name), ZERO)
    naming = (recipe.id for recipe in costing.view.recipes.values() if source.item in recipe.uses_items())
    lines = (line for recipe in naming for line in costing.of(recipe).balance.lines)
    fallen = (line.credits for line in lines if line.item == source.item and line.byproduct is None)
    return sum((one.mass for credits in fallen for one in credits if one.name == source.name), ZERO)


def short_of(costing: Costing, recipe_id: str) -> list[Caveat]:
    """A word for each thing left over elsewhere of which a pot takes more than one batch of each pot gives."""
    taken: dict[tuple[str, Source], Decimal] = {}
    for line in costing.of(recipe_id).balance.lines:
        if line.byproduct is not None and line.known:
            key = (line.stage, Source(line.item, line.recipe, line.byproduct))
            taken[key] = taken.get(key, ZERO) + line.ep
    found: list[Caveat] = []
    for (stage, source), grams in taken.items():
        given = given_of(costing, source)
        if exceeds(grams, given):
            english = "{name} of {of}: {grams} kg go in here, but one batch of each pot that gives it comes to {given} kg"
            of = costing.view.name_of(source.item, source.recipe)
            weights = {"grams": plain(half_even(grams / 1000, 2)), "given": plain(half_even(given / 1000, 2))}
            found.append(caveat(say("more_than_given", english, name=source.name, of=of, **weights), stage))
    return found


def _is_short(used: list[LeftoverUse], given: Decimal) -> bool:
    return exceeds(sum((one.grams for one in used), ZERO), given)


def _cost(costing: Costing, line: Line) -> Decimal | None:
    weighed = line_mass(line, "leftover", "", None, costing.view)
    return costing.line_cost(weighed) if isinstance(weighed, LineMass) else None


def _users(costing: Costing) -> dict[Source, list[LeftoverUse]]:
    """By what is left over (of an item or a recipe, by its name): the recipes that cook with it."""
    grams: defaultdict[Source, dict[str, Decimal]] = defaultdict(dict)
    for one in costing.all():
        for line in one.balance.lines:
            if line.byproduct is not None:
                of = grams[Source(line.item, line.recipe, line.byproduct)]
                of[one.recipe.id] = of.get(one.recipe.id, ZERO) + line.ep
    recipes = costing.view.recipes
    return {
        key: [LeftoverUse(recipe, recipes[recipe].name, mass) for recipe, mass in sorted(of.items())]
        for key, of in grams.items()
    }
