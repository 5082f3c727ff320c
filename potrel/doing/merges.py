"""What is done to make one item of two, and to take that back."""

from __future__ import annotations

from dataclasses import dataclass, replace

from potrel.core.cost.costing import Costing
from potrel.core.cost.effects import Effect, compare
from potrel.core.errors import BadDocument
from potrel.core.kitchen.integrity import check_measures, check_recipe, known_units
from potrel.core.kitchen.items import Item
from potrel.core.kitchen.keyed import Keyed
from potrel.core.kitchen.kinds import Id
from potrel.core.kitchen.recipes import Recipe
from potrel.core.rooms.merging import Merge, merge_items
from potrel.core.rooms.target_alerts import pushed_past
from potrel.core.sentences import say
from potrel.doing.items import known_item
from potrel.doing.kitchens import Kitchens
from potrel.store.database import Connection
from potrel.store.errors import NotFound, StaleMerge
from potrel.store.items import load_items, update_item
from potrel.store.offers import insert_offers, load_offers
from potrel.store.pushed import mark_pushed, taken_back
from potrel.store.recipes import revision_of, save_recipe


@dataclass(frozen=True, slots=True)
class RecipeBefore(Keyed):
    """A recipe as it stood before a merge, and the revision that the merge saved."""

    recipe: Recipe
    revision: int


@dataclass(frozen=True, slots=True)
class Merged(Keyed):
    """What a merge did, which is all that it takes to take it back."""

    gone: Id
    into: Item
    now: Item
    recipes: list[RecipeBefore]
    offers: list[Id]


def merge(kitchens: Kitchens, item_id: str, into: str, by: str) -> Merged:
    """Merge an item into another, which takes its place in all recipes; the item is put away. NotFound, PutAway."""
    with kitchens.database.writing(by) as connection:
        before = kitchens.seen_by(connection).costing
        found = asked_merge(before, item_id, into)
        _, effects = after_merge(before, found)
        for one in (found.item, found.gone):
            update_item(connection, one)
        offers = insert_offers(connection, found.offers, by)
        saved = [
            RecipeBefore(before.view.recipes[one.id], save_recipe(connection, one, revision_of(connection, one.id), by))
            for one in found.recipes
        ]
        cause = f"merge {item_id}"
        why = f"{found.gone.name} merged into {found.item.name}"
        mark_pushed(connection, pushed_past(effects), why, [cause])
    return Merged(item_id, before.view.items[into], found.item, saved, [one.id or "" for one in offers])


def unmerge(kitchens: Kitchens, done: Merged, by: str) -> None:
    """Take a merge back. StaleMerge where somebody changed a recipe or the item that stayed since; NotFound, BadDocument."""
    with kitchens.database.writing(by) as connection:
        items = {one.id: one for one in load_items(connection, [done.gone, done.into.id])}
        for item_id in (done.gone, done.into.id):
            if item_id not in items:
                raise NotFound("item", item_id)
        before = kitchens.seen_by(connection).costing
        _refuse_overtaken(connection, done, items[done.into.id], before)
        if done.into.id != done.now.id or not items[done.gone].archived:
            raise BadDocument("gone", say("not_merged", "this item is not merged into another: there is nothing to take back"))
        check_measures(done.into)
        put_back = [done.into, replace(items[done.gone], archived=False)]
        # What comes back is checked like anything that is saved.
        view = before.with_items(put_back).with_recipes([one.recipe for one in done.recipes]).view
        for one in done.recipes:
            check_recipe(one.recipe, view.items, view.recipes, view.vessels, known_units(view.items.values()), view.channels)
        for item in put_back:
            update_item(connection, item)
        for one in done.recipes:
            save_recipe(connection, one.recipe, one.revision, by)
        copied = [one for one in load_offers(connection, done.offers) if one.item == done.into.id]
        insert_offers(connection, [replace(one, id=None, corrects=one.id, withdrawn=True) for one in copied], by)
        taken_back(connection, [f"merge {done.gone}"])


def asked_merge(costing: Costing, item_id: str, into: str) -> Merge:
    """The merge of an item into another. NotFound, PutAway, BadDocument."""
    for one in (item_id, into):
        known_item(costing, one)
    return merge_items(costing.view, item_id, into)


def after_merge(before: Costing, merge: Merge) -> tuple[Costing, list[Effect]]:
    """The kitchen after a merge, and what it does to every portion."""
    after = before.with_items([merge.item, merge.gone]).with_offers(merge.offers).with_recipes(merge.recipes)
    return after, compare(before, after, list(after.view.recipes))


def _refuse_overtaken(connection: Connection, done: Merged, now: Item, kitchen: Costing) -> None:
    """StaleMerge, which names all that was changed since, where a merge cannot be taken back."""
    recipes = kitchen.view.recipes
    changed = [now.name] if now != done.now else []
    for one in done.recipes:
        there = recipes.get(one.recipe.id)
        if there is None:
            changed.append(f"{one.recipe.name} (taken off)")
        elif revision_of(connection, one.recipe.id) != one.revision:
            changed.append(there.name)
    if changed:
        raise StaleMerge(changed)
