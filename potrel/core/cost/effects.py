"""What a change does to the portions it reaches: two costings of the kitchen, compared."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from potrel.core.cost.costed_recipe import CostedRecipe
from potrel.core.cost.costing import Costing
from potrel.core.cost.portion import Portion
from potrel.core.frozen import dataclass
from potrel.core.kitchen.items import Item
from potrel.core.kitchen.kinds import Computed, Flag
from potrel.core.kitchen.supply import Offer
from potrel.core.numbers.arithmetic import Number


@dataclass(frozen=True, slots=True)
class Effect:
    """What a change does to one serving: cost of a portion [money] and food-cost share, before and after.

    It costs `at_least` so much now where something of it is not known yet.
    """

    recipe: str
    name: str
    serving: str
    serving_name: str
    was: Computed | None
    now: Computed | None
    share_was: Computed | None
    share_now: Computed | None
    target: Computed | None
    at_least: Flag = False


def compare(before: Costing, after: Costing, recipes: Iterable[str]) -> list[Effect]:
    """Each serving of some recipes whose cost or share differs, the largest change first."""
    effects: list[Effect] = []
    for recipe_id in recipes:
        now = after.of(recipe_id)
        was = before.of(recipe_id) if recipe_id in before.view.recipes else None
        if was is now:
            continue
        for portion in now.portions:
            before_it = None if was is None else was.portion(portion.serving.id)
            effect = _effect(now.recipe.name, recipe_id, before_it, portion, bool(now.problems))
            if effect.was != effect.now or effect.share_was != effect.share_now:
                effects.append(effect)
    effects.sort(key=lambda e: (-abs(e.now - e.was) if e.now is not None and e.was is not None else 0, e.name))
    return effects


def _effect(name: str, recipe_id: str, was: Portion | None, now: Portion, lacks: bool) -> Effect:
    return Effect(
        recipe=recipe_id,
        name=name,
        serving=now.serving.id,
        serving_name=now.serving.name,
        was=None if was is None else was.food_cost,
        now=now.food_cost,
        share_was=None if was is None else was.priced.share,
        share_now=now.priced.share,
        target=now.priced.target,
        at_least=lacks,
    )


def with_prices(before: Costing, offers: Sequence[Offer]) -> tuple[Costing, list[Effect]]:
    """A costing with more prices, and what those do to every portion that they reach."""
    if not offers:
        return before, []
    reached = before.takers_of({offer.item for offer in offers})
    after = before.with_offers(offers)
    return after, compare(before, after, reached)


def with_item(before: Costing, changed: Item) -> tuple[Costing, list[Effect]]:
    """A costing with an item in the place of the one with its id, and what that does to every portion that it reaches."""
    after = before.with_items([changed])
    return after, compare(before, after, after.view.recipes)


def reached_by(costing: Costing, item_id: str) -> list[tuple[str, Portion, Number]]:
    """Each serving that takes an item: recipe, portion, and the AP mass [g] whose price a portion bears."""
    found: list[tuple[str, Portion, Number]] = []
    for one in costing.all():
        for portion in one.portions:
            need = need_of(one, portion, item_id)
            if need is not None:
                found.append((one.recipe.id, portion, need))
    return found


def need_of(one: CostedRecipe, portion: Portion, item_id: str) -> Number | None:
    """The AP mass [g] of an item whose price a portion bears; None where it bears none, or that is not known."""
    batch, beside = one.needs.borne.get(item_id), portion.extra_needs.borne.get(item_id)
    if portion.factor is None or (batch is None and beside is None):
        return None
    need = portion.factor * 0 if batch is None else batch * portion.factor
    return need if beside is None else need + beside
