"""What a change does to the portions it reaches: two costings of the kitchen, compared."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from collections.abc import Set as AbstractSet
from dataclasses import replace

from potrel.core.costing import Costing, Portion, priced
from potrel.core.drift import Effect
from potrel.core.kitchen import Item, Recipe
from potrel.core.supply import Offer


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


def takes(costing: Costing, recipe: Recipe) -> set[str]:
    """The items that reach a portion of a recipe, those included whose mass is not known; none for a base."""
    return set().union(*_needed(costing, recipe))


def users(costing: Costing, items: AbstractSet[str]) -> list[str]:
    """The recipes on sale that some item reaches."""
    recipes = costing.facts.kitchen.recipes
    return [one.id for one in recipes if not all(items.isdisjoint(needed) for needed in _needed(costing, one))]


def _needed(costing: Costing, recipe: Recipe) -> Iterator[Iterable[str]]:
    """The items of a batch, and those beside each portion; nothing for a base."""
    if recipe.servings:
        yield costing.needs(recipe.id).borne
        for portion in costing.portions(recipe.id):
            yield portion.extra_needs.borne


def with_prices(before: Costing, offers: Sequence[Offer]) -> tuple[Costing, list[Effect]]:
    """A costing with more prices, and what those do to every portion that they reach."""
    if not offers:
        return before, []
    # What is known of the recipes now is carried on, so it has to be known first.
    reached = users(before, {offer.item for offer in offers})
    after = before.with_offers(offers)
    return after, compare(before, after, reached)


def with_item(costing: Costing, changed: Item) -> Costing:
    """A costing with an item in the place of the one with its id."""
    kitchen = costing.facts.kitchen
    others = tuple(changed if one.id == changed.id else one for one in kitchen.items)
    return Costing(replace(kitchen, items=others), costing.on)


def pushed_past(effects: Iterable[Effect]) -> list[tuple[str, str]]:
    """The servings (recipe, serving) that a change took past their target food cost."""
    return [
        (one.recipe, one.serving)
        for one in effects
        if one.share_was is not None and one.share_now is not None and one.target is not None
        if one.share_was <= one.target < one.share_now
    ]


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
