"""Salt: whether a pot is saltier than the kitchen wants it, and who brought that. An aid: a cook tastes."""

from __future__ import annotations

from collections.abc import Sequence
from decimal import Decimal

from potrel.core.cost.costed_recipe import CostedRecipe
from potrel.core.errors import Caveat, caveat
from potrel.core.kitchen.kinds import plain
from potrel.core.numbers.arithmetic import Number, surely, total
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
    brought = _brought(content, view)
    others = [each for each in brought if not _is_salt(each[0], view)]
    all_salt = total([grams for _, _, grams in brought]) + view.zero
    added = all_salt - total([grams for _, _, grams in others])
    # Salt is spread evenly: of what is left the salt that was added is as large a part as of what went in.
    itself = salt * (added / all_salt) if surely(all_salt > 0) else view.zero
    names = ", ".join(_most_of(others, all_salt - added))
    if surely(itself > 0) and not exceeds((salt - itself) / mass, target):
        spare = plain(half_even(salt - target * mass, 0))
        english = "too salty, {share} where {target} is wanted: {grams} g of the salt that is added is too much"
        return [caveat(say("salt_added", english, grams=spare, share=_percent(salt / mass), target=_percent(target)))]
    shares = {"share": _percent(salt / mass), "target": _percent(target)}
    before = [content.stages[here.stage.id].salt / here.mass_in for here in one.balance.stages if here.mass_in > 0]
    lost = [here for here in one.balance.stages if here.stage.change.rule in ("evaporate", "reduce", "yield")]
    if lost and not any(exceeds(share, target) for share in before):
        english = "salty, {share} where {target} is wanted: it is the reduction that does it. The salt comes with {names}"
        return [caveat(say("salt_by_reduction", english, names=names, **shares))]
    english = "salty before any is added, {share} where {target} is wanted: it comes with {names}"
    before_it = {"share": _percent((salt - itself) / mass), "target": _percent(target)}
    return [caveat(say("salt_over", english, names=names, **before_it))]


# What brought salt: its item's id, its name, and how much [g].
_Brought = tuple[str | None, str, Number]


def _brought(content: Content, view: DayView) -> list[_Brought]:
    return [
        (source.line.item, view.name_of(source.line.item, source.line.recipe), amount)
        for source in content.sources
        if source.line is not None and (amount := source.held.amounts.get(SALT)) is not None and amount > 0
    ]


def _is_salt(item_id: str | None, view: DayView) -> bool:
    """Whether an item is salt, and nothing else to speak of."""
    item = view.items.get(item_id or "")
    return item is not None and item.is_salt


def _most_of(brought: Sequence[_Brought], whole: Number) -> list[str]:
    """The names of those that bring most of so much salt [g]."""
    by_name: dict[str, Number] = {}
    for _, name, amount in brought:
        by_name[name] = by_name[name] + amount if name in by_name else amount
    most = sorted(by_name.items(), key=lambda one: one[1], reverse=True)
    return [name for name, amount in most[:_NAMED] if amount >= whole * _MUCH]


def _percent(share: Number) -> str:
    return f"{plain(half_even(share * 100, 2))}%"
