"""Two items that are one: what one of them takes over, and what changes where the other was named."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from typing import TypeVar

from potrel.core.buy.purchase import standing
from potrel.core.errors import BadDocument, PotrelError
from potrel.core.frozen import dataclass
from potrel.core.kitchen.items import Item, Measure, Preparation
from potrel.core.kitchen.lines import Line
from potrel.core.kitchen.naming import id_for
from potrel.core.kitchen.recipes import Recipe, TopUpWith
from potrel.core.kitchen.supply import Offer
from potrel.core.numbers.units import canonical
from potrel.core.pot.day_view import DayView
from potrel.core.sentences import say

Named = TypeVar("Named", Line, TopUpWith)


class PutAway(PotrelError):
    """An item to be merged that is put away: somebody may have merged it already."""

    def __init__(self, name: str) -> None:
        english = "{name} is put away, and may be merged with another already: look again, and bring it back first"
        super().__init__(say("merge_put_away", english, name=name))


@dataclass(frozen=True, slots=True)
class Merge:
    """What merging one item into another changes: the one that stays, the one that is put away, the recipes that named it, and
    its standing offers, which count for the one that stays as well.
    """

    item: Item
    gone: Item
    recipes: tuple[Recipe, ...]
    offers: tuple[Offer, ...]


def merge_items(view: DayView, gone_id: str, into_id: str) -> Merge:
    """Merge an item into another. What the one that stays says itself holds; what it lacks comes from the other.

    Allergens of both are kept: a label that was read is to be read again where the other names more, or nobody read that one.
    PutAway where one of them is no item in use (any more).
    """
    gone, into = view.items[gone_id], view.items[into_id]
    if gone_id == into_id:
        raise BadDocument("into", say("merge_with_itself", "an item cannot be merged into itself: choose another"))
    for one in (gone, into):
        if one.archived:
            raise PutAway(one.name)
    preparations, called = _preparations(gone, into)
    merged = replace(
        into,
        density=into.density if into.density is not None else gone.density,
        measures=_measures(gone, into),
        preparations=preparations,
        cooking=(*into.cooking, *(one for one in gone.cooking if one.method not in {own.method for own in into.cooking})),
        ready_litres_per_kg=into.ready_litres_per_kg or gone.ready_litres_per_kg,
        origin=into.origin or gone.origin,
        thickening=into.thickening if into.thickening is not None else gone.thickening,
        bone_share=into.bone_share if into.bone_share is not None else gone.bone_share,
        composition=into.composition.filled_from(gone.composition),
    )
    allergens = (*into.allergens, *(one for one in gone.allergens if one not in into.allergens))
    if allergens != into.allergens or gone.allergen_check is None:
        merged = replace(merged, allergens=allergens, allergen_check=None)
    recipes = (_renamed(one, gone_id, into_id, called) for one in view.recipes.values() if gone_id in one.uses_items())
    return Merge(merged, replace(gone, archived=True), tuple(recipes), _offers(view, gone_id, into_id))


def _preparations(gone: Item, into: Item) -> tuple[tuple[Preparation, ...], dict[str, str]]:
    """The preparations of both, and by its id what each of the one that goes is called there."""
    kept, called = list(into.preparations), dict[str, str]()
    for one in gone.preparations:
        alike = (own for own in into.preparations if own.id == one.id or own.name.casefold() == one.name.casefold())
        own = next(alike, None)
        if own is None:
            own = replace(one, id=id_for(one.id, [known.id for known in kept]))
            kept.append(own)
        called[one.id] = own.id
    return tuple(kept), called


def _measures(gone: Item, into: Item) -> dict[str, Measure]:
    known = {canonical(unit) for unit in into.measures}
    return {**into.measures, **{unit: one for unit, one in gone.measures.items() if canonical(unit) not in known}}


def _offers(view: DayView, gone_id: str, into_id: str) -> tuple[Offer, ...]:
    """The standing offers of the one that goes, as offers of the one that stays; what that has already is not told twice."""
    have = {(one.supplier, str(one.pack), one.price, one.on) for one in view.offers_of(into_id)}
    return tuple(
        replace(one, item=into_id, id=None, corrects=None)
        for one in standing(view.offers_of(gone_id))
        if (one.supplier, str(one.pack), one.price, one.on) not in have
    )


def _renamed(recipe: Recipe, gone_id: str, into_id: str, called: Mapping[str, str]) -> Recipe:
    def named(one: Named) -> Named:
        if one.item != gone_id:
            return one
        preparations = tuple(called.get(step, step) for step in one.preparations)
        return replace(one, item=into_id, preparation=preparations if len(preparations) > 1 else next(iter(preparations), None))

    stages = tuple(
        replace(
            stage,
            lines=tuple(named(line) for line in stage.lines),
            change=stage.change if stage.change.with_ is None else replace(stage.change, with_=named(stage.change.with_)),
        )
        for stage in recipe.stages
    )
    servings = tuple(
        replace(
            serving,
            garnish=tuple(named(line) for line in serving.garnish),
            accompaniments=tuple(named(line) for line in serving.accompaniments),
            packaging=tuple(named(line) for line in serving.packaging),
            add_ons=tuple(named(line) for line in serving.add_ons),
        )
        for serving in recipe.servings
    )
    consumables = tuple(named(line) for line in recipe.consumables)
    return _with_the_same_take_outs(recipe, replace(recipe, stages=stages, servings=servings, consumables=consumables))


def _with_the_same_take_outs(before: Recipe, after: Recipe) -> Recipe:
    """A take-out is made "of" lines by their ids; one without an id of its own is known by what it uses, which changed."""
    ids = dict(zip(before.line_ids(), after.line_ids(), strict=True))
    if all(one == other for one, other in ids.items()):
        return after
    stages = tuple(
        replace(stage, take_out=tuple(replace(out, of=tuple(ids.get(one, one) for one in out.of)) for out in stage.take_out))
        for stage in after.stages
    )
    return replace(after, stages=stages)
