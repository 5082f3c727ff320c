"""A line of a recipe with its masses: to buy, prepared, after cooking; or what is missing to know them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from potrel.core.buy.weights import basis_of
from potrel.core.errors import Lack, Problem, problem
from potrel.core.frozen import dataclass
from potrel.core.kitchen.items import Item
from potrel.core.kitchen.kinds import ONE
from potrel.core.kitchen.lines import Line
from potrel.core.kitchen.naming import words_in
from potrel.core.kitchen.recipes import Recipe, Stage, TopUpWith
from potrel.core.numbers.arithmetic import Number, larger, product, smaller, surely
from potrel.core.numbers.formula import Many, formula
from potrel.core.numbers.units import of_count
from potrel.core.pot.day_view import DayView
from potrel.core.pot.losses import Cooked, cooked
from potrel.core.sentences import Sentence, say
from potrel.core.trim.byproducts import Credit, Step, Trimmed, credit, trimmed

TOP_UP = "top_up"


@formula("amount * weight of one * taken by")
def typed_mass(amount: Number, weight_of_one: Number, taken_by: Number = ONE) -> Number:
    """A quantity as a mass [g]; beside a portion, of what only a share of the guests takes, what one takes on the average."""
    return amount * weight_of_one * taken_by


@formula("AP * product of yields")
def usable_of(AP: Number, yields: Many) -> Number:
    """What is left [g] of a purchased mass after its preparations."""
    return product(yields, AP)


@formula("EP / product of yields")
def to_buy_for(EP: Number, yields: Many) -> Number:
    """What has to be bought [g] for so much that is ready."""
    return EP / product(yields[1:], yields[0])


@dataclass(frozen=True, slots=True)
class LineMass:
    """A line with its masses [g]: AP to buy, EP prepared. `line` is None in a top-up, `cooked` where nothing cooks it.

    `carried` is the AP mass whose cost its by-products bear (below zero for a line that is itself a by-product), None where
    they bear none; `lack` says what is missing to know that. Of what is known by the piece only `ap` and `ep` are so many
    pieces, and `counted` is their unit.
    """

    stage: str
    id: str
    item: str | None
    recipe: str | None
    line: Line | None
    ap: Number
    ep: Number
    cooked: Cooked | None = None
    credits: Sequence[Credit] = ()
    known: bool = True
    carried: Number | None = None
    byproduct: str | None = None
    lack: Lack | None = None
    counted: str | None = None

    def times(self, share: Number) -> LineMass:
        """So much of it beside the pot, where nothing cooks it."""
        carried = None if self.carried is None else self.carried * share
        return replace(
            self, ap=self.ap * share, ep=self.ep * share, credits=[one.times(share) for one in self.credits], carried=carried
        )

    @property
    def own(self) -> Number:
        """The mass [g] of the thing itself when it is cooked."""
        return self.ep if self.cooked is None else self.cooked.own

    @property
    def up(self) -> Number:
        """The mass [g] that cooking it sends out of the pot; below zero, what comes in."""
        return self.ep * 0 if self.cooked is None else self.cooked.up

    @property
    def put(self) -> Number:
        """The mass [g] that it adds to its stage."""
        return self.ep if self.cooked is None else self.ep - self.cooked.up


def line_mass(line: Line, line_id: str, recipe_id: str, stage: Stage | None, view: DayView) -> LineMass | Problem:
    """A line's masses, or what is missing for them. `stage` is None for a line that is served beside the pot."""
    where = None if stage is None else stage.id
    if line.recipe is not None:
        return _recipe_line(line, line_id, recipe_id, stage, view)
    item = view.items.get(line.item or "")
    if item is None:
        said = say("no_item", '"{item}" is no item: choose one', item=line.item)
        return problem("unknown", said, where, line_id, line.item, affects_mass=True)
    steps: Sequence[Step] = ()
    if line.preparation is not None:
        found = view.steps(item, line.preparations)
        if isinstance(found, Sentence):
            return problem("unknown", found, where, line_id, item.id, affects_mass=True)
        steps = found
        if line.byproduct is not None:
            return _byproduct_line(line, line_id, recipe_id, stage, item, steps, view)
    stated = view.weights.of(item, line.quantity)
    if isinstance(stated, Lack) and stage is None and not steps and _by_the_piece(line, item, view):
        pieces = view.ask("quantity", recipe_id, line_id, line.quantity.amount)
        return LineMass("", line_id, item.id, None, line, pieces, pieces, counted=of_count(line.quantity.unit))
    if isinstance(stated, Lack):
        return problem("missing_weight", stated.said, where, line_id, item.id, stated.unit, affects_mass=True)
    ap = ep = view.ask("quantity", recipe_id, line_id, stated)
    if not steps:
        cook = None
        if stage is not None:
            cook = cooked(line, line_id, recipe_id, item, stage, ep, view)
        return LineMass(where or "", line_id, item.id, None, line, ap, ep, cook)
    yields = [step.yield_ for step in steps]
    if basis_of(line, item) == "AP":
        ep = usable_of(ap, yields)
    else:
        ap = to_buy_for(ep, yields)
    cook = None if stage is None else cooked(line, line_id, recipe_id, item, stage, ep, view)
    trim = trimmed(ap, steps, view.byproduct_method(item), view.number)
    carried = ap * (1 - trim.share) if trim.shares_cost else None
    return LineMass(where or "", line_id, item.id, None, line, ap, ep, cook, trim.credits, True, carried, None, trim.lack)


def nutrient_mass(line: LineMass, view: DayView) -> Number:
    """The mass [g] of a line for which its composition counts: what is left of what was bought, without water it took up."""
    mass, item = line.ap, view.items.get(line.item or "")
    if item is None or line.byproduct is not None:
        return line.ep
    if line.line is not None and line.line.preparation is None:
        return mass
    steps = view.steps(item, () if line.line is None else line.line.preparations)
    for step in steps if isinstance(steps, list) else ():
        mass = mass * smaller(step.yield_, view.one)
    return mass if isinstance(steps, list) and line.line is not None else line.ep


# A preparation that is called so takes the bones off, or the shells.
_TAKEN_OFF = frozenset({"boned", "boneless", "bone", "picked", "filleted", "shelled", "peeled", "meat"})


def bones_in(line: LineMass, view: DayView) -> Number:
    """What of a line is bone, shell or carcass [g], that no preparation has taken off."""
    item = view.items.get(line.item or "")
    if item is None or item.bone_share is None or line.byproduct is not None or line.line is None:
        return line.ap * 0
    done = [view.preparation(item, one) for one in line.line.preparations]
    named = {word.typed.lower() for one in done if one is not None for word in words_in(one.name)}
    return line.ap * 0 if named & _TAKEN_OFF else line.ap * view.number(item.bone_share)


def flesh_of(line: LineMass, view: DayView) -> Number:
    """The mass [g] of a line that feeds: that for which its composition counts, without bones that are still in it."""
    flesh = nutrient_mass(line, view) - bones_in(line, view)
    return larger(flesh, flesh * 0)


def _by_the_piece(line: Line, item: Item, view: DayView) -> bool:
    """Whether a line beside the pot needs no weight: it is told in the pieces that the item is bought in, or no price is known
    that would ask for one."""
    if line.quantity.kind != "count":
        return False
    return view.counted(item.id) == of_count(line.quantity.unit) or not view.history(item).prices


def topped_up(with_: TopUpWith, mass: Number, stage: Stage, view: DayView) -> LineMass | Problem:
    """What a stage is topped up with, so much [g] of it ready to go in; or what is missing for that."""
    if with_.recipe is not None:
        if with_.recipe not in view.recipes:
            said = say("no_recipe", '"{recipe}" is no recipe: choose one', recipe=with_.recipe)
            return problem("unknown", said, stage.id, TOP_UP, affects_mass=True)
        return LineMass(stage.id, TOP_UP, None, with_.recipe, None, mass, mass)
    item = view.items.get(with_.item or "")
    if item is None:
        said = say("no_item", '"{item}" is no item: choose one', item=with_.item)
        return problem("unknown", said, stage.id, TOP_UP, with_.item, affects_mass=True)
    steps = view.steps(item, with_.preparations)
    if isinstance(steps, Sentence):
        return problem("unknown", steps, stage.id, TOP_UP, item.id, affects_mass=True)
    if not steps:
        return LineMass(stage.id, TOP_UP, item.id, None, None, mass, mass)
    ap = to_buy_for(mass, [step.yield_ for step in steps])
    trim = trimmed(ap, steps, view.byproduct_method(item), view.number)
    carried = ap * (1 - trim.share) if trim.shares_cost else None
    return LineMass(stage.id, TOP_UP, item.id, None, None, ap, mass, None, trim.credits, True, carried, None, trim.lack)


def _byproduct_line(
    line: Line, line_id: str, recipe_id: str, stage: Stage | None, item: Item, steps: Sequence[Step], view: DayView
) -> LineMass | Problem:
    """A line that is what falls off an item: nothing of it is bought, and it costs what it bears there."""
    name, where = line.byproduct or "", None if stage is None else stage.id
    one = trimmed(view.one, steps, view.byproduct_method(item), view.number)
    off = next((off for off in reversed(one.offs) if off.name == name), None)
    waste = next((credit for credit in one.credits if credit.name == name), None)
    if off is None and waste is None:
        known = ", ".join(part.name for step in steps for part in step.preparation.byproducts) or "nothing"
        english = 'no "{byproduct}" falls off {item}, {preparation} (it gives: {known})'
        said = say("no_byproduct", english, byproduct=name, item=item.name, preparation=steps[-1].preparation.name, known=known)
        return problem("unknown", said, where, line_id, item.id, affects_mass=True)
    if line.quantity.kind != "mass":
        english = '{byproduct} of {item} is measured by weight, not in "{unit}"'
        said = say("byproduct_by_weight", english, byproduct=name, item=item.name, unit=line.quantity.unit)
        return problem("missing_weight", said, where, line_id, item.id, affects_mass=True)
    mass = view.ask("quantity", recipe_id, line_id, line.quantity.grams())
    credits, carried = _of_byproduct(one, name, mass, view)
    # Only its own cooking yield counts: what the item loses says nothing of its peel.
    cook = None if stage is None else cooked(line, line_id, recipe_id, None, stage, mass, view)
    lack = one.lack if off is not None else None
    return LineMass(where or "", line_id, item.id, None, line, view.zero, mass, cook, credits, True, carried, name, lack)


def _of_byproduct(one: Trimmed, name: str, mass: Number, view: DayView) -> tuple[Sequence[Credit], Number | None]:
    """What so much [g] of a by-product is credited with and carries, beside what one gram of its item is trimmed to."""
    waste = next((credit for credit in one.credits if credit.name == name), None)
    if waste is not None and waste.value_per_kg != 0:
        # Worth its value by crediting, or its disposal saved: the other side of what is taken off where it falls off.
        return (credit(name, -mass, waste.value_per_kg, waste.use, view.number),), None
    off = next((off for off in reversed(one.offs) if off.name == name), None)
    if off is None or surely(off.share == 0):
        return (), None
    return [paid.times(mass / off.mass) for paid in off.paid], -mass * off.share / off.mass


def _recipe_line(line: Line, line_id: str, recipe_id: str, stage: Stage | None, view: DayView) -> LineMass | Problem:
    where = None if stage is None else stage.id
    recipe = view.recipes.get(line.recipe or "")
    if recipe is None:
        said = say("no_recipe", '"{recipe}" is no recipe: choose one', recipe=line.recipe)
        return problem("unknown", said, where, line_id, affects_mass=True)
    lack = _unmeasured(line, recipe)
    if lack is not None:
        return problem("missing_weight", lack, where, line_id, affects_mass=True)
    if line.byproduct is not None and not any(out.name == line.byproduct for out in recipe.take_outs()):
        known = ", ".join(out.name for out in recipe.take_outs()) or "nothing"
        english = 'no "{byproduct}" is taken out of {recipe} (it gives: {known})'
        said = say("no_take_out", english, byproduct=line.byproduct, recipe=recipe.name, known=known)
        return problem("unknown", said, where, line_id, affects_mass=True)
    mass = view.ask("quantity", recipe_id, line_id, view.weights.of_bulk(line.quantity, recipe.density))
    ap = mass if line.byproduct is None else view.zero
    cook = None if stage is None else cooked(line, line_id, recipe_id, None, stage, mass, view)
    return LineMass(where or "", line_id, None, recipe.id, line, ap, mass, cook, byproduct=line.byproduct)


def _unmeasured(line: Line, recipe: Recipe) -> Sentence | None:
    """Why a line that is a recipe has no weight; None where it has."""
    if line.quantity.kind == "count":
        english = '{recipe} is measured by weight or volume, not in "{unit}"'
        return say("recipe_by_bulk", english, recipe=recipe.name, unit=line.quantity.unit)
    if line.byproduct is not None and line.quantity.kind != "mass":
        english = "{byproduct} of {recipe} is measured by weight"
        return say("take_out_by_weight", english, byproduct=line.byproduct, recipe=recipe.name)
    return None
