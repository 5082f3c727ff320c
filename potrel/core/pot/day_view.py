"""What a kitchen knows on a day, looked up by id, as numbers of the engine: weights, prices, yields."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from copy import copy
from dataclasses import replace
from datetime import date, timedelta
from decimal import Decimal

from potrel.core.buy.purchase import History, Price
from potrel.core.buy.weights import Weights
from potrel.core.kitchen.bones import is_bones
from potrel.core.kitchen.items import ByproductMethod, Cooking, Item, Preparation
from potrel.core.kitchen.kinds import ONE, ZERO
from potrel.core.kitchen.kitchen import Kitchen
from potrel.core.kitchen.methods import family_of
from potrel.core.kitchen.provenance import BOOK
from potrel.core.kitchen.recipes import Recipe
from potrel.core.kitchen.supply import Offer
from potrel.core.kitchen.vessels import Vessel
from potrel.core.numbers.arithmetic import Number
from potrel.core.pot.dry_matter import dry_share
from potrel.core.pot.evaporation import room_of
from potrel.core.pot.inputs import STATED, Inputs
from potrel.core.sentences import Sentence, say
from potrel.core.trim.byproducts import Step

DRAINED = "drained"


class DayView:
    """One kitchen as of one day. Nothing here is guessed: what is not known is None or a `Lack`.

    It never changes: another day, price, item or recipe makes another view, which shares what is the same.
    """

    def __init__(self, kitchen: Kitchen, on: date, inputs: Inputs = STATED) -> None:
        self.kitchen = kitchen
        self.on = on
        self.inputs = inputs
        self.number = inputs.number
        self.ask = inputs.ask
        self.zero, self.one = inputs.number(ZERO), inputs.number(ONE)
        self.settings = kitchen.settings
        self.room = room_of(kitchen.settings)
        self.system = kitchen.settings.measure_system
        self.weights = Weights(self.system)
        self.items = {item.id: item for item in kitchen.items}
        self.recipes = {recipe.id: recipe for recipe in kitchen.recipes}
        self.suppliers = {supplier.id: supplier for supplier in kitchen.suppliers}
        self.channels = {channel.id: channel for channel in kitchen.settings.channels}
        self.vessels = {vessel.id: vessel for vessel in kitchen.vessels}
        self._offers = _by_item(kitchen.offers)
        # What was looked up before. Each is filled one entry at a time, and none is walked through: threads may share them.
        self._histories: dict[str, History] = {}
        self._uses: dict[str, frozenset[str]] = {}
        self._containers: Mapping[str, Sequence[str]] | None = None
        self._steps: dict[tuple[str, str], Step | None] = {}
        self._cooking: dict[tuple[str, str], Cooking | None] = {}
        self._dry: dict[str, Decimal] = {}
        self._prices: dict[str, Number] | None = None
        self._old_prices: dict[str, Number] | None = None
        self._counted: Mapping[str, str] | None = None
        self._bony: frozenset[str] | None = None
        self._called: Mapping[str, Item] | None = None

    # -- other kitchens --------------------------------------------------------------------------------------------

    def with_offers(self, offers: Sequence[Offer]) -> DayView:
        """This view with more offers."""
        later = copy(self)
        later.kitchen = replace(self.kitchen, offers=(*self.kitchen.offers, *offers))
        touched = {offer.item for offer in offers}
        later._offers = {**self._offers, **{item: self.offers_of(item) for item in touched}}
        for offer in offers:
            later._offers[offer.item] = (*later._offers[offer.item], offer)
        later._forget_items(touched, offers_only=True)
        return later

    def with_items(self, items: Iterable[Item], gone: Iterable[str] = ()) -> DayView:
        """This view with items in the place of those with their ids, or added, and some taken away."""
        later = copy(self)
        changed = {item.id: item for item in items}
        later.items = {**self.items, **changed}
        touched = set(changed)
        for item in gone:
            later.items.pop(item, None)
            touched.add(item)
        later.kitchen = replace(self.kitchen, items=tuple(later.items.values()))
        later._forget_items(touched, offers_only=False)
        return later

    def with_recipes(self, recipes: Iterable[Recipe], gone: Iterable[str] = ()) -> DayView:
        """This view with recipes in the place of those with their ids, or added, and some taken away."""
        later = copy(self)
        changed = {recipe.id: recipe for recipe in recipes}
        later.recipes = {**self.recipes, **changed}
        left = set(gone)
        for recipe in left:
            later.recipes.pop(recipe, None)
        later.kitchen = replace(self.kitchen, recipes=tuple(later.recipes.values()))
        # What uses what stands, but for these; a new one may be what others name already, one that left no more.
        later._uses = self._uses.copy() if not left and changed.keys() <= self.recipes.keys() else {}
        for one in changed:
            later._uses.pop(one, None)
        later._containers = None
        return later

    def on_day(self, day: date) -> DayView:
        """This view as of another day."""
        later = copy(self)
        later.on = day
        # What follows from the offers in force; their histories are those of all days.
        later._steps, later._prices, later._old_prices = {}, None, None
        return later

    def with_inputs(self, inputs: Inputs) -> DayView:
        """This view with other numbers for some names: draws, or what somebody tries out."""
        later = copy(self)
        later.inputs, later.number, later.ask = inputs, inputs.number, inputs.ask
        later.zero, later.one = inputs.number(ZERO), inputs.number(ONE)
        later._steps, later._prices, later._old_prices = {}, None, None
        return later

    def with_kitchen(self, kitchen: Kitchen) -> DayView:
        """This view of a kitchen that differs in no item, offer, recipe or setting: only in names, tests and comparisons."""
        later = copy(self)
        later.kitchen = kitchen
        later.suppliers = {supplier.id: supplier for supplier in kitchen.suppliers}
        return later

    def with_settings(self, kitchen: Kitchen) -> DayView:
        """This view of a kitchen that differs only in how it is called and shown."""
        later = self.with_kitchen(kitchen)
        later.settings = kitchen.settings
        return later

    def with_vessels(self, vessels: Sequence[Vessel]) -> DayView:
        """This view with these vessels in the place of those that it has."""
        later = copy(self)
        later.kitchen = replace(self.kitchen, vessels=tuple(vessels))
        later.vessels = {vessel.id: vessel for vessel in vessels}
        return later

    def _forget_items(self, touched: set[str], *, offers_only: bool) -> None:
        self._histories = {item: known for item, known in self._histories.copy().items() if item not in touched}
        if self._prices is not None:
            untouched = {item: known for item, known in self._prices.items() if item not in touched}
            self._prices = {**untouched, **self._priced(touched & self.items.keys())}
        self._old_prices = self._counted = None
        self._bony = self._bony if offers_only else None
        # A drained weight follows from the offer in force.
        self._steps = {key: known for key, known in self._steps.copy().items() if key[0] not in touched}
        if not offers_only:
            self._called = None
            self.weights = self.weights.without(touched)
            self._cooking = {key: known for key, known in self._cooking.copy().items() if key[0] not in touched}
            self._dry = {item: known for item, known in self._dry.copy().items() if item not in touched}

    # -- names and contents ----------------------------------------------------------------------------------------

    def item_called(self, name: str) -> Item | None:
        """The item of a name, whatever its case; None where there is none such."""
        if self._called is None:
            self._called = {item.name.strip().casefold(): item for item in self.items.values()}
        return self._called.get(name.strip().casefold())

    def name_of(self, item_id: str | None, recipe_id: str | None = None) -> str:
        """The name of an item or recipe, or its id where there is none such."""
        named = self.items.get(item_id or "") or self.recipes.get(recipe_id or "")
        return named.name if named else item_id or recipe_id or ""

    def supplier_name(self, supplier_id: str) -> str:
        """The name of a supplier, or its id where there is none such."""
        supplier = self.suppliers.get(supplier_id)
        return supplier_id if supplier is None else supplier.name

    def uses(self, recipe_id: str) -> frozenset[str]:
        """The recipes that a recipe contains, as far as the kitchen has them."""
        used = self._uses.get(recipe_id)
        if used is None:
            recipe = self.recipes.get(recipe_id)
            used = frozenset() if recipe is None else recipe.uses() & self.recipes.keys()
            self._uses[recipe_id] = used
        return used

    def containers(self) -> Mapping[str, Sequence[str]]:
        """By recipe, those that contain it as a line of their own."""
        if self._containers is None:
            found: defaultdict[str, list[str]] = defaultdict(list)
            for recipe in self.recipes:
                for part in self.uses(recipe):
                    found[part].append(recipe)
            self._containers = dict(found)
        return self._containers

    # -- prices ----------------------------------------------------------------------------------------------------

    def offers_of(self, item_id: str) -> tuple[Offer, ...]:
        """All offers of an item, in the order in which they were recorded."""
        return self._offers.get(item_id, ())

    def history(self, item: Item) -> History:
        """All prices of an item."""
        known = self._histories.get(item.id)
        if known is None:
            known = self._histories[item.id] = History(item, self.offers_of(item.id), self.system)
        return known

    def price(self, item_id: str, on: date | None = None) -> Price | None:
        """The price of an item on a day (default: the day of this view), None where there is none yet."""
        item = self.items.get(item_id)
        return None if item is None else self.history(item).on(self.on if on is None else on)

    def stated_price(self, item_id: str, on: date | None = None) -> Decimal | None:
        """The AP price [money/g] on a day as the offers state it, or that of a piece where only that is known; else None."""
        price = self.price(item_id, on)
        return None if price is None else price.of_one

    def counted(self, item_id: str) -> str | None:
        """The unit of an item that is known by the piece only; None where it has a weight, or no price yet."""
        return self.counted_units().get(item_id)

    def counted_units(self) -> Mapping[str, str]:
        """By item that is known by the piece only: its unit."""
        if self._counted is None:
            units = ((item, self.history(self.items[item]).counted) for item in self._offers if item in self.items)
            self._counted = {item: unit for item, unit in units if unit is not None}
        return self._counted

    def bony(self) -> frozenset[str]:
        """The items that are bones, or of which a part is."""
        if self._bony is None:
            self._bony = frozenset(one.id for one in self.items.values() if one.bone_share is not None or is_bones(one))
        return self._bony

    def per_gram(self, item_id: str) -> Number | None:
        """The AP price [money/g] of an item today, None where it is not known."""
        return None if self.counted(item_id) is not None else self.prices().get(item_id)

    def per_piece(self, item_id: str) -> Number | None:
        """What one piece costs today [money] of an item that is known by the piece only, None where it is not known."""
        return None if self.counted(item_id) is None else self.prices().get(item_id)

    def per_kg(self, item_id: str) -> Number | None:
        """The AP price [money/kg] of an item today, None where it is not known."""
        per_gram = self.per_gram(item_id)
        return None if per_gram is None else per_gram * 1000

    def prices(self) -> Mapping[str, Number]:
        """The AP prices [money/g] today of all items that have one, and those of a piece where only that is known."""
        if self._prices is None:
            self._prices = self._priced(self.items)
        return self._prices

    def _priced(self, items: Iterable[str]) -> dict[str, Number]:
        stated = ((item, self.stated_price(item)) for item in items)
        return {item: self.ask("price", item, "", price) for item, price in stated if price is not None}

    def old_prices(self) -> Mapping[str, Number]:
        """Those of them that have grown old: they began more days ago than the settings call new."""
        if self._old_prices is None:
            oldest = self.on - timedelta(days=int(self.settings.old_price_days))
            began = ((item, self.price(item)) for item in self.prices())
            old = [item for item, price in began if price is not None and price.offer.on < oldest]
            self._old_prices = {item: self.prices()[item] for item in old}
        return self._old_prices

    # -- yields ----------------------------------------------------------------------------------------------------

    def preparation(self, item: Item, preparation_id: str) -> Preparation | None:
        """A preparation of an item; "drained" follows from the offer in force where the item does not name it."""
        step = self.step(item, preparation_id)
        return None if step is None else step.preparation

    def step(self, item: Item, preparation_id: str) -> Step | None:
        """The same with the numbers of the engine."""
        key = (item.id, preparation_id)
        if key not in self._steps:
            found = next((p for p in item.preparations if p.id == preparation_id), None)
            if found is None and preparation_id == DRAINED:
                found = self._drained(item)
            self._steps[key] = None if found is None else self._asked(item, found)
        return self._steps[key]

    def _asked(self, item: Item, found: Preparation) -> Step:
        shares = tuple(self.ask("byproduct", item.id, f"{found.id}/{part.name}", part.share) for part in found.byproducts)
        return Step(found, self.ask("yield", item.id, found.id, found.yield_), shares)

    def steps(self, item: Item, wanted: Sequence[str]) -> list[Step] | Sentence:
        """Preparations of an item in their order, or what is wrong with one of them."""
        found: list[Step] = []
        for preparation_id in wanted:
            step = self.step(item, preparation_id)
            if step is None:
                known = ", ".join(p.id for p in item.preparations) or "none yet"
                english = '{item} has no preparation "{preparation}" (it has: {known}): add it with its yield'
                return say("no_preparation", english, item=item.name, preparation=preparation_id, known=known)
            found.append(step)
        return found

    def drained_yield(self, item_id: str) -> Decimal | None:
        """What is left of an item when it is drained, by the offer in force; None where that does not say."""
        price = self.price(item_id)
        return None if price is None else price.drained_yield

    def _drained(self, item: Item) -> Preparation | None:
        price = self.price(item.id)
        if price is None or price.drained_yield is None:
            return None
        source = f"label: {price.offer.drained} drained of {price.offer.pack}"[:200]
        return Preparation(DRAINED, "drained", price.drained_yield, source=source, provenance=BOOK)

    def cooking(self, item: Item, method: str | None) -> Cooking | None:
        """The cooking yield of an item for a stage's method, where the item has one; else that of a method of its family."""
        if not item.cooking or method is None:
            return None
        key = (item.id, method)
        if key not in self._cooking:
            family = family_of(method)
            kin = [one for one in item.cooking if one.method == method]
            kin += [one for one in item.cooking if family and family_of(one.method) == family]
            self._cooking[key] = kin[0] if kin else None
        return self._cooking[key]

    def dry_share(self, item: Item) -> Decimal:
        """What of an item is no water [share]."""
        known = self._dry.get(item.id)
        if known is None:
            known = self._dry[item.id] = dry_share(item)
        return known

    # -- settings --------------------------------------------------------------------------------------------------

    def byproduct_method(self, item: Item) -> ByproductMethod:
        """How an item's trimmings share its cost: its own way, else the kitchen's."""
        return item.byproduct_method or self.settings.byproduct_method

    def allowance(self, recipe: Recipe) -> Number:
        """The seasoning allowance [share]: the recipe's own, else the kitchen's."""
        own = recipe.seasoning_allowance
        return self.ask("allowance", recipe.id, "", self.settings.seasoning_allowance if own is None else own)

    def setting(self, name: str, stated: Decimal | None) -> Number | None:
        """A number of the settings; None where the kitchen has none."""
        return None if stated is None else self.ask("setting", name, "", stated)


def _by_item(offers: Iterable[Offer]) -> dict[str, tuple[Offer, ...]]:
    found: defaultdict[str, list[Offer]] = defaultdict(list)
    for offer in offers:
        found[offer.item].append(offer)
    return {item: tuple(some) for item, some in found.items()}
