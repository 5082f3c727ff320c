"""What a thing loses in cooking, and where that goes: up in the air, or into the pot as juice, liquor and rendered fat.

Only what goes up, sticks or is taken out is gone. Meat that braises gives its juice to the liquor, a covered sweat keeps
its moisture; pulses and barley drink from the pot. Which methods do what is common practice, no source.
"""

from __future__ import annotations

from potrel.core.frozen import dataclass
from potrel.core.kitchen.bones import is_bones
from potrel.core.kitchen.items import Item, LossTo
from potrel.core.kitchen.kinds import ONE
from potrel.core.kitchen.lines import Line
from potrel.core.kitchen.methods import family_of, method_called
from potrel.core.kitchen.recipes import Stage
from potrel.core.numbers.arithmetic import Number, larger
from potrel.core.numbers.formula import formula
from potrel.core.pot.day_view import DayView

_COVERED = frozenset({"on", "sealed"})
_LOSING = frozenset({"dry", "oven", "sweat", "steam"})
# What shrinks there; spices, fat and what is poured do not.
_SHRINKS = frozenset({"vegetable", "root", "allium", "fruit", "meat", "fish", "bones"})


def loss_to(stage: Stage, said: LossTo | None) -> LossTo:
    """Where what is lost in a stage goes: where somebody said so, else as its method does (a sweat, by its lid)."""
    if said is not None:
        return said
    method = method_called(stage.method or "")
    if method is None:
        return "air"
    return "pot" if method.loss == "pot" or (method.loss == "lid" and stage.lid in _COVERED) else "air"


def loses(stage: Stage, item: Item) -> bool:
    """Whether a thing must lose something in a stage: it is roasted, browned, sweated or steamed, and what it loses goes up."""
    family = family_of(stage.method)
    return family in _LOSING and (item.kind in _SHRINKS or is_bones(item)) and loss_to(stage, None) == "air"


@formula("EP * cooking yield")
def after_cooking(EP: Number, cooking_yield: Number) -> Number:
    """What the thing itself weighs [g] when it is cooked."""
    return EP * cooking_yield


@formula("EP - after cooking - rendered * the larger of (EP - after cooking, 0)")
def goes_up(EP: Number, after_cooking: Number, rendered: Number) -> Number:
    """What leaves the pot [g], where the loss goes up: all of it but the fat that renders; below zero, what comes in."""
    lost = EP - after_cooking
    return lost - rendered * larger(lost, lost * 0)


@formula("EP - after cooking - gone up")
def stays(EP: Number, after_cooking: Number, gone_up: Number) -> Number:
    """What the thing gives to the pot [g] as juice, liquor or fat; below zero, what it drinks from it."""
    return EP - after_cooking - gone_up


@dataclass(frozen=True, slots=True)
class Cooked:
    """A line's cooking: its yield, where the loss goes and what of it renders; the thing's own mass [g], and what went up.

    Where nobody said what is lost, it is not `known`: nothing is taken off, and that is told.
    """

    yield_: Number
    to: LossTo
    rendered: Number
    own: Number
    up: Number
    known: bool = True


def cooked(
    line: Line, line_id: str, recipe_id: str, item: Item | None, stage: Stage, ep: Number, view: DayView
) -> Cooked | None:
    """What cooking does to a line of an EP mass [g]; None where nothing is said of that.

    The line's own cooking yield goes before the item's for the stage's method.
    """
    if line.cook_yield is not None:
        yield_, said, rendered = view.ask("cook_yield", recipe_id, line_id, line.cook_yield), line.loss_to, view.zero
    else:
        found = None if item is None else view.cooking(item, stage.method)
        if item is not None and found is None and loses(stage, item):
            untold = view.ask("cook_yield", recipe_id, line_id, ONE)
            own = after_cooking(ep, untold)
            return Cooked(untold, "air", view.zero, own, goes_up(ep, own, view.zero), known=False)
        if found is None or item is None:
            return None
        yield_ = view.ask("cooking", item.id, found.method, found.yield_)
        said = line.loss_to or found.loss_to
        rendered = view.ask("rendered", item.id, found.method, found.rendered)
    own, to = after_cooking(ep, yield_), loss_to(stage, said)
    return Cooked(yield_, to, rendered, own, goes_up(ep, own, rendered) if to == "air" else view.zero)
