"""A kitchen costed on a day: one costed recipe each, made when it is first asked for and kept in one locked place."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Iterator, Mapping, Sequence
from collections.abc import Set as AbstractSet
from dataclasses import replace
from datetime import date, datetime
from functools import partial
from threading import RLock
from typing import NamedTuple

from potrel.core.cost.costed_recipe import CostedRecipe, cost_recipe, flow, line_cost, priced, repriced, shift_of
from potrel.core.cost.earlier import Earlier, SaveKey, Version, costs_alike
from potrel.core.cost.price_moves import PriceMoves
from potrel.core.errors import RecipeLoop
from potrel.core.kitchen.items import Item
from potrel.core.kitchen.kitchen import Kitchen
from potrel.core.kitchen.order import above, order_of
from potrel.core.kitchen.recipes import Recipe
from potrel.core.kitchen.servings import Serving
from potrel.core.kitchen.settings import Settings, only_shown_otherwise
from potrel.core.kitchen.supply import Offer
from potrel.core.kitchen.vessels import Vessel
from potrel.core.numbers.arithmetic import Number
from potrel.core.pot.content import Content, content_of
from potrel.core.pot.day_view import DayView
from potrel.core.pot.inputs import STATED, Asked, Inputs
from potrel.core.pot.line_mass import LineMass
from potrel.core.pot.needs import Flow


class Then(NamedTuple):
    """The food cost of a portion [money] by the recipe of an earlier moment; None where that cannot be told."""

    moment: datetime
    food_cost: Number | None


# A serving of a recipe, the moment at which its price was set, and the day of its prices.
_ThenKey = tuple[str, str, datetime, date]


class Costing:
    """A kitchen costed on a day. What it holds never changes once it is there, so any number of threads may ask.

    Another kitchen (a new price, a changed recipe or item) is another costing, which takes over what that does not reach.
    """

    def __init__(self, kitchen: Kitchen, on: date, inputs: Inputs = STATED) -> None:
        self._begin(DayView(kitchen, on, inputs))

    def _begin(self, view: DayView) -> None:
        self.view = view
        self.on = view.on
        self.moves = PriceMoves(view)
        self.earlier = Earlier()
        self._thens: dict[_ThenKey, Number | None] = {}
        self._days: dict[date, Costing] = {}
        # As they were saved: recipes of which a draft stands in the kitchen.
        self._as_saved: Mapping[str, Version] = {}
        self._otherwise: dict[str, bool] = {}
        self._costed: dict[str, CostedRecipe] = {}
        # Of another day: what is the same in the pots, but for its prices; all that is not `_other`.
        self._same: Mapping[str, CostedRecipe] = {}
        self._other: AbstractSet[str] = frozenset()
        self._contents: dict[str, Content] = {}
        self._lock = RLock()

    @classmethod
    def of_view(cls, view: DayView) -> Costing:
        """The costing of a kitchen as it is viewed on a day."""
        costing = cls.__new__(cls)
        costing._begin(view)
        return costing

    # -- what is known of a recipe ---------------------------------------------------------------------------------

    def of(self, recipe_id: str) -> CostedRecipe:
        """A recipe that the kitchen has, costed. RecipeLoop where it contains itself."""
        known = self._costed.get(recipe_id)
        if known is not None:
            return known
        self._cost([recipe_id])
        return self._costed[recipe_id]

    def content(self, recipe_id: str) -> Content:
        """What is in a recipe's batch: salt, nutrients, alcohol. RecipeLoop where it contains itself."""
        with self._lock:
            for one in order_of([recipe_id], self.view.uses, self._contents):
                self._contents[one] = content_of(self.of(one).balance, self._held_by, self.view)
            return self._contents[recipe_id]

    def _held_by(self, recipe_id: str) -> tuple[Content, Number]:
        return self._contents[recipe_id], self.of(recipe_id).mass

    def cost_all(self) -> None:
        """Cost all recipes that are not yet. RecipeLoop where one contains itself."""
        self._cost(self.view.recipes)

    def _cost(self, recipes: Iterable[str]) -> None:
        """Cost some recipes and all that they use, as far as they are not yet."""
        with self._lock:
            for one in order_of(recipes, self.view.uses, self._costed):
                below, same = self._costed.__getitem__, None if one in self._other else self._same.get(one)
                self._costed[one] = (
                    cost_recipe(self.view.recipes[one], below, self.view) if same is None else priced(same, below, self.view)
                )

    def all(self) -> Iterator[CostedRecipe]:
        """All recipes of the kitchen, costed, in their order."""
        self.cost_all()
        for recipe_id in self.view.recipes:
            yield self._costed[recipe_id]

    def then(self, recipe_id: str, serving: Serving) -> Then | None:
        """What a portion cost by the recipe, and all that it uses, as they stood when its price was set, at the prices of that
        day. None where they still stand so, or that is not known."""
        price = serving.set_price(self.on)
        moment, day = self.earlier.set_at(recipe_id, serving.id, price), price.on
        if moment is None or day is None:
            return None
        stood, unread = self._stood(recipe_id, moment)
        if unread:
            return Then(moment, None)
        if not stood:
            return None
        key = (recipe_id, serving.id, moment, day)
        if key not in self._thens:
            recipes = [recipe for one in stood if (recipe := one.recipe()) is not None]
            self._thens[key] = self._cost_then(key, recipes) if len(recipes) == len(stood) else None
        return Then(moment, self._thens[key])

    def _stood(self, recipe_id: str, moment: datetime) -> tuple[list[Version], list[SaveKey]]:
        """How a recipe and what it then used stood at a moment, where their cost hung on other things than now; and the saves
        of which that is not known, as they were not read yet."""
        stood: list[Version] = []
        unread: list[SaveKey] = []
        if not self.earlier.stands and not self._as_saved:
            return stood, unread
        seen, todo = {recipe_id}, [recipe_id]
        while todo:
            one = todo.pop()
            number = self.earlier.save_at(one, moment)
            if number is not None:
                version = self.earlier.versions.get((one, number))
                if version is None:
                    unread.append((one, number))
            else:
                version = self._as_saved.get(one) if self._drafted(one) else None
            if version is not None:
                stood.append(version)
            uses = self.view.uses(one) if version is None else version.uses
            todo += [part for part in uses if part not in seen]
            seen.update(uses)
        return stood, unread

    def _drafted(self, recipe_id: str) -> bool:
        """Whether a draft of a recipe stands in this kitchen that costs otherwise than the saved one."""
        saved = self._as_saved.get(recipe_id)
        if saved is None:
            return False
        if recipe_id not in self._otherwise:
            before, draft = saved.recipe(), self.view.recipes.get(recipe_id)
            self._otherwise[recipe_id] = before is None or draft is None or not costs_alike(before, draft)
        return self._otherwise[recipe_id]

    def unread_saves(self, recipes: Iterable[str] | None = None) -> set[SaveKey]:
        """The saves that somebody has to read before it can be told what the portions of some recipes (all) cost when their
        prices were set. What is found in these may ask for others."""
        found: set[SaveKey] = set()
        for recipe_id in self.view.recipes if recipes is None else recipes:
            for serving in self.view.recipes[recipe_id].servings:
                moment = self.earlier.set_at(recipe_id, serving.id, serving.set_price(self.on))
                if moment is not None:
                    found.update(self._stood(recipe_id, moment)[1])
        return found

    def _cost_then(self, key: _ThenKey, stood: Sequence[Recipe]) -> Number | None:
        recipe_id, serving_id, _, day = key
        if day not in self._days:
            self._days[day] = self.on_day(day)
            # Looked up once for all that is costed on that day.
            self._days[day].view.old_prices()
        try:
            before = self._days[day].with_recipes(stood).of(recipe_id)
        except RecipeLoop:
            return None
        portion = before.portion(serving_id)
        return None if portion is None or before.problems else portion.food_cost

    def line_cost(self, line: LineMass) -> Number | None:
        """What a line costs [money], its by-products credited; None where it is not known."""
        return line_cost(line, self.of, self.view)

    def flow(self, recipe_id: str) -> Flow:
        """The needs of a recipe stage by stage."""
        return flow(self.of(recipe_id), self.of, self.view)

    def allergens(self, recipe_id: str) -> list[str]:
        """The allergens of all items in a batch and on its servings, in order; an aid, not clearance."""
        items = self.view.items
        return sorted({word for one in self.of(recipe_id).named if one in items for word in items[one].allergens})

    def users_of(self, recipes: Collection[str]) -> set[str]:
        """The recipes that contain one of some recipes, at any depth."""
        return above(recipes, self.view.containers()) - set(recipes)

    def takers_of(self, items: AbstractSet[str]) -> list[str]:
        """The recipes whose batch or portion bears the price of one of some items, in their order."""
        return [one.recipe.id for one in self.all() if one.bears(items)]

    # -- other kitchens --------------------------------------------------------------------------------------------

    def replacing(self, recipe: Recipe) -> Costing:
        """This kitchen with a recipe added or replaced. RecipeLoop where it then contains itself."""
        return self.with_recipes([recipe])

    def with_recipes(self, recipes: Sequence[Recipe], gone: Collection[str] = ()) -> Costing:
        """This kitchen with recipes in the place of those with their ids, or added, and some taken away.

        RecipeLoop where one of them then contains itself.
        """
        changed, view = {recipe.id for recipe in recipes} | set(gone), self.view.with_recipes(recipes, gone)
        order_of([recipe.id for recipe in recipes], view.uses)
        touched = above(changed, self.view.containers())
        if not changed <= self.view.recipes.keys():
            # Some may name already what is added only now.
            touched |= above(changed, view.containers())
        later = self._later(view, touched)
        later.moves = self.moves
        later._as_saved = {**_versions(self.view.recipes, changed), **self._as_saved}
        if changed <= self.view.recipes.keys() and not gone:
            # What was then is not changed by a draft, nor by what is saved now: all drafts of a kitchen share what is known.
            later._thens, later._days = self._thens, self._days
        return later

    def with_items(self, items: Sequence[Item], gone: Collection[str] = ()) -> Costing:
        """This kitchen with items in the place of those with their ids, or added, and some taken away."""
        changed = {item.id for item in items} | set(gone)
        return self._later(self.view.with_items(items, gone), self._naming(changed))

    def with_offers(self, offers: Iterable[Offer]) -> Costing:
        """This kitchen with more offers. What they reach keeps its masses and needs, and is priced anew."""
        offers = tuple(offers)
        view, items = self.view.with_offers(offers), {offer.item for offer in offers}
        other = {item for item in items if _weighs_otherwise(item, self.view, view)}
        later = self._later(view, self._naming(other) if other else set())
        later.moves = self.moves.after(view, items)
        later._reprice(items, self.view)
        if not any(offer.corrects for offer in offers):
            first = min((offer.on for offer in offers), default=date.max)
            later._thens = {key: cost for key, cost in self._thens.copy().items() if key[-1] < first}
        return later

    def on_day(self, day: date) -> Costing:
        """This kitchen as of another day. What is in its pots keeps its masses and needs, and is priced when asked for."""
        # Which pots are in which is the same on any day: looked up once.
        self.view.containers()
        view = self.view.on_day(day)
        drained = {offer.item for offer in view.kitchen.offers if offer.drained is not None}
        otherwise = {item for item in drained if view.drained_yield(item) != self.view.drained_yield(item)}
        touched = self._naming(otherwise) if otherwise else set()
        later = Costing.of_view(view)
        later.earlier, later._as_saved, later._thens = self.earlier, self._as_saved, self._thens.copy()
        with self._lock:
            later._same, later._other = self._costed.copy(), touched
        return later

    def moved(self, given: Mapping[Asked, Number]) -> Costing:
        """This kitchen with other numbers for some names, as somebody tries them out (see `Inputs`)."""
        view = self.view.with_inputs(Inputs(self.view.number, {**self.view.inputs.given, **given}))
        later = self._later(view, self._asking(given))
        priced = {asked.of for asked in given if asked.sort == "price"}
        if priced:
            later._reprice(priced, self.view)
        return later

    def _reprice(self, items: AbstractSet[str], before: DayView) -> None:
        """Price anew what an earlier view had costed at other prices of some items."""
        shift = shift_of(items, before, self.view)
        # They stand in the order in which they were costed, each after its parts.
        for one, costed in list(self._costed.items()):
            if costed.touches(items):
                self._costed[one] = repriced(costed, shift, self._costed.__getitem__, self.view)

    def remembering(self, earlier: Earlier) -> Costing:
        """This costing of what is saved, with what is known of how its recipes stood before."""
        later = self._later(self.view, set())
        later.moves, later.earlier, later._thens, later._as_saved = self.moves, earlier, self._thens.copy(), {}
        return later

    def with_kitchen(self, kitchen: Kitchen) -> Costing:
        """This costing of a kitchen that differs in no item, offer, recipe or setting."""
        later = self._later(self.view.with_kitchen(kitchen), set())
        later.moves, later._thens = self.moves, self._thens.copy()
        return later

    def with_settings(self, name: str, currency: str, settings: Settings) -> Costing:
        """This kitchen with another name, currency or settings; costed anew only where these say more than how it is shown."""
        kitchen = replace(self.view.kitchen, name=name, currency=currency, settings=settings)
        later = Costing(kitchen, self.on, self.view.inputs)
        if only_shown_otherwise(self.view.settings, settings):
            later = self._later(self.view.with_settings(kitchen), set())
            later.moves, later._thens = self.moves, self._thens.copy()
        later.earlier = self.earlier
        return later

    def with_vessels(self, vessels: Sequence[Vessel]) -> Costing:
        """This kitchen with these vessels in the place of those that it has."""
        before, after = self.view.vessels, {vessel.id: vessel for vessel in vessels}
        changed = {one for one in before.keys() | after.keys() if before.get(one) != after.get(one)}
        naming = {recipe.id for recipe in self.view.recipes.values() if not changed.isdisjoint(recipe.uses_vessels())}
        later = self._later(self.view.with_vessels(vessels), above(naming, self.view.containers()))
        later.moves = self.moves
        return later

    def _later(self, view: DayView, touched: AbstractSet[str]) -> Costing:
        later = Costing.of_view(view)
        later.earlier, later._as_saved = self.earlier, self._as_saved
        with self._lock:
            later._costed, later._contents = self._costed.copy(), self._contents.copy()
        later._same, later._other = self._same, self._other | touched if self._same else self._other
        for one in touched:
            later._costed.pop(one, None)
            later._contents.pop(one, None)
        return later

    def _asking(self, given: Iterable[Asked]) -> set[str]:
        """The recipes whose masses, time or portions hang on one of some numbers, and all that contain one of those."""
        found: set[str] = set()
        items = {asked.of for asked in given if asked.sort in ("yield", "byproduct", "cooking", "rendered")}
        for asked in given:
            if asked.sort == "setting":
                return set(self.view.recipes)
            if asked.sort != "price" and asked.of not in items:
                found |= above({asked.of.partition("/")[0]}, self.view.containers())
        return found | (self._naming(items) if items else set())

    def _naming(self, items: AbstractSet[str]) -> set[str]:
        """The recipes that name one of some items, and all that contain one of those."""
        naming = {recipe.id for recipe in self.view.recipes.values() if not items.isdisjoint(recipe.uses_items())}
        return above(naming, self.view.containers())


def _versions(recipes: Mapping[str, Recipe], of: Iterable[str]) -> dict[str, Version]:
    there = {one: recipes[one] for one in of if one in recipes}
    return {one: Version(recipe.uses(), partial(_itself, recipe)) for one, recipe in there.items()}


def _itself(recipe: Recipe) -> Recipe | None:
    return recipe


def _weighs_otherwise(item_id: str, before: DayView, after: DayView) -> bool:
    """Whether more offers change more than the price of an item: what is left of it drained, or whether pieces are enough."""
    if before.drained_yield(item_id) != after.drained_yield(item_id) or before.counted(item_id) != after.counted(item_id):
        return True
    item = after.items.get(item_id)
    return item is not None and not before.history(item).prices
