"""What a kitchen knows on a day, looked up by id: items, recipes, weights, prices and yields."""

from __future__ import annotations

from collections import defaultdict
from copy import copy
from dataclasses import replace
from datetime import date
from decimal import Decimal

from potrel.core.fields import ONE
from potrel.core.kitchen import ByproductMethod, Cooking, Item, Kitchen, Line, Preparation, Recipe
from potrel.core.purchase import History, MissingWeight, Price, weigh
from potrel.core.quantities import Quantity, parse_quantity
from potrel.core.supply import Offer

DRAINED = "drained"


class Facts:
    """The facts of one kitchen as of one day. Nothing here is guessed: what is not known is None or an error."""

    def __init__(self, kitchen: Kitchen, on: date) -> None:
        self.kitchen = kitchen
        self.on = on
        self.settings = kitchen.settings
        self.system = kitchen.settings.measure_system
        self.items = {item.id: item for item in kitchen.items}
        self.recipes = {recipe.id: recipe for recipe in kitchen.recipes}
        self.suppliers = {supplier.id: supplier for supplier in kitchen.suppliers}
        self.vessels = {vessel.id: vessel for vessel in kitchen.vessels}
        self._offers: defaultdict[str, list[Offer]] = defaultdict(list)
        for offer in kitchen.offers:
            self._offers[offer.item].append(offer)
        self._histories: dict[str, History] = {}
        self._weights: dict[tuple[str, str], Decimal | MissingWeight] = {}
        self._uses: dict[str, frozenset[str]] = {}
        self._preparations: dict[tuple[str, str], Preparation | None] = {}
        self._cooking: dict[tuple[str, str | None], Cooking | None] = {}

    def with_offers(self, offers: tuple[Offer, ...]) -> Facts:
        """These facts with more offers, keeping all that they do not touch."""
        later = Facts(replace(self.kitchen, offers=(*self.kitchen.offers, *offers)), self.on)
        touched = {offer.item for offer in offers}
        later._histories = {item: history for item, history in self._histories.items() if item not in touched}
        later._preparations = {key: found for key, found in self._preparations.items() if key[0] not in touched}
        later._weights, later._cooking, later._uses = self._weights, self._cooking, self._uses
        return later

    def with_recipe(self, recipe: Recipe) -> Facts:
        """These facts with a recipe added or replaced, keeping all that is known of items."""
        later = copy(self)
        later.recipes = {**self.recipes, recipe.id: recipe}
        later.kitchen = replace(self.kitchen, recipes=tuple(later.recipes.values()))
        # What uses what stands, but for this recipe; a new one may be what others name already.
        known = self._uses if recipe.id in self.recipes else {}
        later._uses = {one: used for one, used in known.items() if one != recipe.id}
        return later

    def drained_yield(self, item_id: str) -> Decimal | None:
        """What is left of an item when it is drained, by the offer in force; None where that does not say."""
        price = self.price(item_id)
        return None if price is None else price.drained_yield

    def name_of(self, item_id: str | None, recipe_id: str | None = None) -> str:
        """The name of an item or recipe, or its id where there is none such."""
        named = self.items.get(item_id or "") or self.recipes.get(recipe_id or "")
        return named.name if named else item_id or recipe_id or ""

    def offers_of(self, item_id: str) -> tuple[Offer, ...]:
        """All offers of an item, in the order in which they were recorded."""
        return tuple(self._offers.get(item_id, ()))

    def history(self, item: Item) -> History:
        """All prices of an item."""
        known = self._histories.get(item.id)
        if known is None:
            known = self._histories[item.id] = History(item, self._offers.get(item.id, ()), self.system)
        return known

    def price(self, item_id: str, on: date | None = None) -> Price | None:
        """The price of an item on a day (default: the day of these facts), None where there is none yet."""
        item = self.items.get(item_id)
        return None if item is None else self.history(item).on(on or self.on)

    def per_gram(self, item_id: str, on: date | None = None) -> Decimal | None:
        """The AP price [money/g] on a day, None where it is not known."""
        price = self.price(item_id, on)
        return None if price is None else price.per_gram

    def grams(self, item: Item, text: str) -> Decimal:
        """The mass [g] of a quantity of an item; MissingWeight where it cannot be known."""
        quantity = parse_quantity(text)
        key = (item.id, quantity.unit)
        weight = self._weights.get(key)
        if weight is None:
            weight = self._weights[key] = self._weigh_one(item, quantity.unit)
        if isinstance(weight, MissingWeight):
            raise weight
        return quantity.amount * weight

    def _weigh_one(self, item: Item, unit: str) -> Decimal | MissingWeight:
        try:
            return weigh(Quantity(ONE, unit), item, self.system)
        except MissingWeight as lack:
            return lack

    def uses(self, recipe_id: str) -> frozenset[str]:
        """The recipes that a recipe contains, as far as the kitchen has them."""
        used = self._uses.get(recipe_id)
        if used is None:
            recipe = self.recipes.get(recipe_id)
            used = frozenset() if recipe is None else recipe.uses() & self.recipes.keys()
            self._uses[recipe_id] = used
        return used

    def bulk_grams(self, text: str, density: Decimal) -> Decimal:
        """The mass [g] of a mass or volume of something of a density [kg/l]."""
        quantity = parse_quantity(text)
        return quantity.grams() if quantity.kind == "mass" else quantity.millilitres(self.system) * density

    def recipe_grams(self, recipe: Recipe, line: Line) -> Decimal | None:
        """The mass [g] of a line that is a recipe; None where its unit is neither of mass nor of volume."""
        if parse_quantity(line.quantity).kind == "count":
            return None
        return self.bulk_grams(line.quantity, recipe.density)

    def preparation(self, item: Item, preparation_id: str) -> Preparation | None:
        """A preparation of an item; "drained" follows from the offer in force where the item does not name it."""
        key = (item.id, preparation_id)
        if key not in self._preparations:
            found = next((p for p in item.preparations if p.id == preparation_id), None)
            if found is None and preparation_id == DRAINED:
                found = self._drained(item)
            self._preparations[key] = found
        return self._preparations[key]

    def byproduct_method(self, item: Item) -> ByproductMethod:
        """How an item's trimmings share its cost: its own way, else the kitchen's."""
        return item.byproduct_method or self.settings.byproduct_method

    def _drained(self, item: Item) -> Preparation | None:
        price = self.price(item.id)
        if price is None or price.drained_yield is None:
            return None
        source = f"label: {price.offer.drained} drained of {price.offer.pack}"
        return Preparation(DRAINED, "drained", price.drained_yield, source=source)

    def cooking(self, item: Item, method: str | None) -> Cooking | None:
        """The cooking yield of an item for a stage's method, where the item has one."""
        if not item.cooking or method is None:
            return None
        key = (item.id, method)
        if key not in self._cooking:
            self._cooking[key] = next((c for c in item.cooking if c.method == method), None)
        return self._cooking[key]
