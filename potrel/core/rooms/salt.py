"""Salt: whether a pot is saltier than the kitchen wants it, and who brought that. An aid: a cook tastes."""

from __future__ import annotations

from decimal import Decimal

from potrel.core.cost.costed_recipe import CostedRecipe
from potrel.core.errors import Caveat, caveat
from potrel.core.kitchen.kinds import plain
from potrel.core.numbers.arithmetic import Number
from potrel.core.numbers.rounding import exceeds, half_even
from potrel.core.pot.content import Content
from potrel.core.pot.day_view import DayView
from potrel.core.pot.held import SALT
from potrel.core.sentences import say

# How many of those that brought the salt are named.
_NAMED = 3
# Less than that share of all the salt is not worth a word.
_MUCH = Decimal("0.1")


def salt_notes(one: CostedRecipe, content: Content, view: DayView) -> list[Caveat]:
    """A word where what is in the pot brings more salt than the kitchen's target: at once, or when it has steamed down."""
    salt, mass, target = content.batch.of(SALT), one.balance.mass, view.settings.salt_target
    if salt is None or not one.balance.yield_known or not one.recipe.servings or not exceeds(salt / mass, target):
        return []
    names = ", ".join(_brought_by(content, view))
    shares = {"share": _percent(salt / mass), "target": _percent(target)}
    before = [content.stages[here.stage.id].salt / here.mass_in for here in one.balance.stages if here.mass_in > 0]
    lost = [here for here in one.balance.stages if here.stage.change.rule in ("evaporate", "reduce", "yield")]
    if lost and not any(exceeds(share, target) for share in before):
        english = "salty, {share} where {target} is wanted: it is the reduction that does it. {names} bring the salt"
        return [caveat(say("salt_by_reduction", english, names=names, **shares))]
    english = "salty before any is added, {share} where {target} is wanted: {names} bring it"
    return [caveat(say("salt_over", english, names=names, **shares))]


def _brought_by(content: Content, view: DayView) -> list[str]:
    """The names of those that bring most of the salt."""
    brought: dict[str, Number] = {}
    for source in content.sources:
        if source.line is None:
            continue
        name = view.name_of(source.line.item, source.line.recipe)
        amount = source.held.amounts.get(SALT)
        if amount is not None and amount > 0:
            brought[name] = brought.get(name, view.zero) + amount
    most = sorted(brought.items(), key=lambda one: one[1], reverse=True)
    enough = sum(brought.values(), view.zero) * _MUCH
    return [name for name, amount in most[:_NAMED] if amount >= enough]


def _percent(share: Number) -> str:
    return f"{plain(half_even(share * 100, 2))}%"
