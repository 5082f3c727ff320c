"""What is done with pots: added, saved with all that follows, taken off."""

from __future__ import annotations

from collections.abc import Callable

from potrel.core.cost.costing import Costing
from potrel.core.kitchen.deals import refuse_deals_of
from potrel.core.kitchen.integrity import check_recipe, known_units
from potrel.core.kitchen.methods import check_methods
from potrel.core.kitchen.recipes import Recipe
from potrel.doing.kitchens import Kitchens, remembering
from potrel.doing.prices import note_pot_prices
from potrel.store.changes import read_version
from potrel.store.database import Connection
from potrel.store.pushed import looked_at
from potrel.store.recipes import insert_recipes, revision_of, save_recipe, take_off_recipe


def add_pot(kitchens: Kitchens, recipe: Recipe, by: str) -> int:
    """Add a recipe; its revision. AlreadyThere where its id is taken, BadDocument where it does not fit the kitchen."""

    def insert(connection: Connection) -> int:
        insert_recipes(connection, [recipe], by)
        return revision_of(connection, recipe.id)

    return _written(kitchens, recipe, by, insert)


def save_pot(kitchens: Kitchens, recipe: Recipe, based_on: int, by: str) -> int:
    """Save a recipe over the revision that it started from; its new revision. StaleRecipe, with both versions, where somebody
    saved it since; BadDocument where it does not fit the kitchen.
    """
    return _written(kitchens, recipe, by, lambda connection: save_recipe(connection, recipe, based_on, by))


def _written(kitchens: Kitchens, recipe: Recipe, by: str, write: Callable[[Connection], int]) -> int:
    """Write a recipe, note the prices that it sets, and go on with the kitchen as it then is."""
    with kitchens.database.writing(by) as connection:
        before = kitchens.seen_by(connection)
        after = checked(before.costing, recipe)
        revision = write(connection)
        note_pot_prices(connection, before.costing, after, recipe, by)
        version = read_version(connection)
        after = remembering(connection, after, [recipe.id])
    kitchens.adopt(before, version, after)
    return revision


def checked(costing: Costing, draft: Recipe) -> Costing:
    """The kitchen with a recipe that is to be saved, under the writers' lock: what it names is there, and it closes no loop."""
    view = costing.view
    check_methods(draft)
    refuse_deals_of(view.kitchen.deals, draft.id, {serving.id for serving in draft.servings})
    check_recipe(
        draft, view.items, {**view.recipes, draft.id: draft}, view.vessels, known_units(view.kitchen.items), view.channels
    )
    return costing.replacing(draft)


def take_off(kitchens: Kitchens, recipe_id: str, based_on: int, by: str) -> None:
    """Take a recipe off; its revisions stay, so that it can be added again as it was. NotFound, StaleRecipe, StillUsed."""
    with kitchens.database.writing(by) as connection:
        take_off_recipe(connection, recipe_id, based_on, by)


def look_at(kitchens: Kitchens, recipe_id: str, by: str) -> None:
    """Somebody has looked at a recipe that a change took past its target: its mark goes."""
    with kitchens.database.writing(by) as connection:
        looked_at(connection, recipe_id)
