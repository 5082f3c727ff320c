"""What a change does to the portions it reaches: two costings of the kitchen, compared."""

from __future__ import annotations

from collections.abc import Iterable

from potrel.core.costing import Costing, Portion, priced
from potrel.core.drift import Effect


def compare(before: Costing, after: Costing, recipes: Iterable[str]) -> list[Effect]:
    """Each serving of some recipes whose cost or share differs, the largest change first."""
    effects: list[Effect] = []
    for recipe_id in recipes:
        then = (
            {portion.serving.id: portion for portion in before.portions(recipe_id)} if recipe_id in before.facts.recipes else {}
        )
        for portion in after.portions(recipe_id):
            effect = _effect(before, after, recipe_id, then.get(portion.serving.id), portion)
            if effect.was != effect.now or effect.share_was != effect.share_now:
                effects.append(effect)
    effects.sort(key=lambda e: (-abs(e.now - e.was) if e.now is not None and e.was is not None else 0, e.name))
    return effects


def _effect(before: Costing, after: Costing, recipe_id: str, was: Portion | None, now: Portion) -> Effect:
    price_now = priced(after, recipe_id, now)
    price_was = None if was is None else priced(before, recipe_id, was)
    return Effect(
        recipe=recipe_id,
        name=after.facts.recipes[recipe_id].name,
        serving=now.serving.id,
        serving_name=now.serving.name,
        was=None if was is None else was.food_cost,
        now=now.food_cost,
        share_was=None if price_was is None else price_was.share,
        share_now=price_now.share,
        target=price_now.target,
    )
