"""A kitchen costed on a day: one costed recipe each, made when it is first asked for and kept in one locked place."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Iterator, Mapping, Sequence
from collections.abc import Set as AbstractSet
from datetime import date, datetime
from threading import RLock
from typing import NamedTuple

from potrel.core.cost.costed_recipe import CostedRecipe, cost_recipe, flow, line_cost, repriced, shift_of
from potrel.core.cost.earlier import Earlier
from potrel.core.cost.price_moves import PriceMoves
from potrel.core.errors import RecipeLoop
from potrel.core.kitchen.items import Item
from potrel.core.kitchen.kitchen import Kitchen
from potrel.core.kitchen.order import above, order_of
from potrel.core.kitchen.recipes import Recipe
from potrel.core.kitchen.servings import Serving
from potrel.core.kitchen.supply import Offer
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
        self._then: dict[datetime, tuple[dict[str, Recipe | None], set[str]]] = {}
        self._costed_then: dict[tuple[datetime, date], Costing] = {}
        self._costed: dict[str, CostedRecipe] = {}
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
                self._costed[one] = cost_recipe(self.view.recipes[one], self._costed.__getitem__, self.view)

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
        if moment not in self._then:
            stood = {one: before for one, before in self.earlier.at(moment).items() if before != self.view.recipes.get(one)}
            self._then[moment] = stood, above(stood, self.view.containers())
        stood, touched = self._then[moment]
        if recipe_id not in touched:
            return None
        if any(before is None for before in stood.values()):
            return Then(moment, None)
        key = (moment, day)
        if key not in self._costed_then:
            view = self.view.on_day(day).with_recipes([before for before in stood.values() if before is not None])
            self._costed_then[key] = Costing.of_view(view)
        try:
            before = self._costed_then[key].of(recipe_id)
        except RecipeLoop:
            return Then(moment, None)
        portion = before.portion(serving.id)
        return Then(moment, None if portion is None or before.problems else portion.food_cost)

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
        """This costing, with what is known of how its recipes stood before."""
        later = self._later(self.view, set())
        later.moves, later.earlier = self.moves, earlier
        return later

    def with_kitchen(self, kitchen: Kitchen) -> Costing:
        """This costing of a kitchen that differs in no item, offer, recipe or setting."""
        later = self._later(self.view.with_kitchen(kitchen), set())
        later.moves = self.moves
        return later

    def _later(self, view: DayView, touched: AbstractSet[str]) -> Costing:
        later = Costing.of_view(view)
        later.earlier = self.earlier
        with self._lock:
            later._costed, later._contents = self._costed.copy(), self._contents.copy()
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


def _weighs_otherwise(item_id: str, before: DayView, after: DayView) -> bool:
    """Whether more offers change more than the price of an item: what is left of it drained, or whether pieces are enough."""
    if before.drained_yield(item_id) != after.drained_yield(item_id) or before.counted(item_id) != after.counted(item_id):
        return True
    item = after.items.get(item_id)
    return item is not None and not before.history(item).prices
