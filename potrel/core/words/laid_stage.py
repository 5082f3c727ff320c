"""A stage of a pot made of what a text says of it: its rule, its heat and its lid, and what comes out of it.

What the text leaves open is not made up: steam is physics' estimate and says so, what stays in a sieve is ticked and asked.
"""

from __future__ import annotations

from collections.abc import Sequence
from decimal import Decimal

from potrel.core.kitchen.kinds import ZERO
from potrel.core.kitchen.lines import Line
from potrel.core.kitchen.methods import family_of
from potrel.core.kitchen.naming import words_in
from potrel.core.kitchen.recipes import KEEP, Change, Inflow, Stage, TakeOut, TopUpWith
from potrel.core.kitchen.vessels import Heat
from potrel.core.numbers.rounding import half_even
from potrel.core.words.laying_out import Laid, Thing
from potrel.core.words.method_text import Step

# How hot a pot is kept that is cooked so, where nobody says. Common practice, no source.
_HEATS: dict[str, Heat] = {
    "simmer": "simmer", "boil": "boil", "poach": "hold", "braise": "simmer", "stew": "simmer", "slow": "hold", "reduce": "boil",
}  # fmt: skip
# What stays in a sieve whatever the soup: leaves, sprigs, whole spices.
_LEAVES = frozenset({"bay", "bouquet", "peppercorn", "sprig", "stalk", "stem", "star", "cinnamon", "allspice", "juniper"})
# What stays there too where bones do: the vegetables and herbs of a stock gave what they had.
_OF_A_STOCK = frozenset({"vegetable", "root", "allium", "herb"})
# What meat is picked off leaves half of itself behind: bones and skin. Common practice, no source.
_PICKED = Decimal("0.5")
_PLACES = 4


def stage_of(
    laid: Laid,
    id_: str,
    from_: Sequence[str],
    lines: Sequence[Line],
    taken: Sequence[TakeOut],
    topped: TopUpWith | None,
) -> Stage:
    """A stage as a text tells it. `topped` is what it is topped up with; without it, it is not topped up."""
    step = laid.step
    wet = family_of(step.method) == "wet"
    hot = step.in_oven or step.celsius is not None
    heat = step.heat or (_HEATS.get(step.method or "") if not hot and (wet or _boils_down(step)) else None)
    return Stage(
        id_, laid.name, _method(step), lid=step.lid, temperature_c=step.celsius, minutes=step.minutes,
        from_=tuple(Inflow(one) for one in from_), lines=tuple(lines), change=_change(step, topped), take_out=tuple(taken),
        note="\n".join(laid.notes) or None, heat=heat, in_oven=step.in_oven,
        open_minutes=step.last_minutes if step.lid == "covered_then_open" else None,
    )  # fmt: skip


def _method(step: Step) -> str | None:
    return {"skim": "skim", "fat": "skim", "drain": "strain", "sieve": "strain"}.get(step.does, step.method)


def _boils_down(step: Step) -> bool:
    return step.method == "reduce" and step.left is None and step.to is None


def _change(step: Step, topped: TopUpWith | None) -> Change:
    """The rule by which a stage changes, as far as the text tells."""
    if step.does == "top_up":
        return KEEP if step.to is None or topped is None else Change("top_up", to=step.to, with_=topped)
    if step.does != "cook":
        return KEEP
    if step.left is not None:
        return Change("yield", yield_=half_even(step.left, _PLACES))
    if step.to is not None:
        return Change("reduce", to=step.to)
    steams = (family_of(step.method) == "wet" and step.method != "pressure") or step.method == "reduce"
    return Change("evaporate", by="vessel") if steams and (step.minutes or ZERO) > 0 else KEEP


def ticked(laid: Laid, before: Sequence[int], things: Sequence[Thing], typed: Sequence[str], *, of_stock: bool) -> list[int]:
    """The lines that stay in a sieve most likely: bones, leaves, whole spices, and of a stock what gave it its taste.

    `before` are the places of the lines that are in the pot there; `typed` is how each was written. A stock is what bones were
    cooked in, there still or lifted out before, and nothing was blended.
    """
    if laid.step.does != "sieve":
        return []
    return [at for at in before if _stays(things[at], typed[at], of_stock=of_stock)]


def _stays(thing: Thing, typed: str, *, of_stock: bool) -> bool:
    stems = {word.stem for word in words_in(typed)} | thing.stems
    return thing.kind == "bones" or bool(stems & _LEAVES) or (of_stock and thing.kind in _OF_A_STOCK)


def take_outs(laid: Laid, of: Sequence[int], ids: Sequence[str], things: Sequence[Thing]) -> list[TakeOut]:
    """What comes out of a stage: of a sieve bones and the rest apart, as only bones carry no salt away."""
    if not of:
        return []
    if laid.step.does == "pick":
        return _picked(of, ids, things)
    found = []
    for is_bones in (True, False):
        mine = [at for at in of if (things[at].kind == "bones") == is_bones]
        if mine:
            name = "spent bones" if is_bones else "left in the sieve" if laid.step.does == "sieve" else "lifted out"
            found.append(TakeOut(name, of=tuple(ids[at] for at in mine), assumed=laid.step.does == "sieve"))
    return found


def _picked(of: Sequence[int], ids: Sequence[str], things: Sequence[Thing]) -> list[TakeOut]:
    """What is left of things whose meat is picked: bones whole, of the rest what is bone, or half where nobody knows."""
    bones = [at for at in of if things[at].kind == "bones"]
    shares: dict[Decimal, list[int]] = {}
    for at in of:
        if at not in bones:
            shares.setdefault(things[at].bones or _PICKED, []).append(at)
    found = [TakeOut("bones", of=tuple(ids[at] for at in bones), assumed=True)] if bones else []
    for number, (share, mine) in enumerate(shares.items(), 1):
        name = "bones and skin" if number == 1 else f"bones and skin, {number}"
        found.append(TakeOut(name, of=tuple(ids[at] for at in mine), spent_factor=share, assumed=True))
    return found
