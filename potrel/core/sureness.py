"""How sure a cost is: what its yields rest on, and how old the prices are that it is made of."""

from __future__ import annotations

from datetime import timedelta
from decimal import Decimal

from potrel.core.costing import Costing, Rests, Sureness, YieldUsed
from potrel.core.fields import ONE, ZERO
from potrel.core.graph import order_of


def rests_on(source: str | None) -> Rests:
    """What a yield rests on, read off its source: a test of this kitchen, a book or label, or an estimate.

    >>> rests_on("own test, 12 March"), rests_on("USDA SR Legacy"), rests_on("estimate"), rests_on(None)
    ('own_tests', 'book', 'estimate', 'estimate')
    """
    words = (source or "estimate").lower()
    if words.startswith("own test"):
        return "own_tests"
    return "estimate" if words.startswith("estimate") else "book"


class Sure:
    """The sureness of every recipe of a kitchen."""

    def __init__(self, costing: Costing) -> None:
        self._costing = costing
        self._yields, self._known = costing.yields, costing.sureness
        facts = costing.facts
        oldest = costing.on - timedelta(days=int(facts.settings.old_price_days))
        self._old = {item for item in facts.items if (price := facts.price(item)) is not None and price.offer.on < oldest}

    def of(self, recipe_id: str) -> Sureness:
        """The sureness of one recipe, all its parts counted."""
        known = self._known.get(recipe_id)
        if known is None:
            known = self._known[recipe_id] = self._compute(recipe_id)
        return known

    def _compute(self, recipe_id: str) -> Sureness:
        kinds = [used.rests for used in self.yields(recipe_id)]
        share = self._old_share(recipe_id)
        return Sureness(kinds.count("own_tests"), kinds.count("book"), kinds.count("estimate"), share)

    def yields(self, recipe_id: str) -> frozenset[YieldUsed]:
        """The yields that a recipe rests on, all its parts counted."""
        for part in order_of([recipe_id], self._costing.facts.uses, self._yields):
            self._yields[part] = self._collect(part)
        return self._yields[recipe_id]

    def _collect(self, recipe_id: str) -> frozenset[YieldUsed]:
        facts = self._costing.facts
        recipe = facts.recipes[recipe_id]
        found: set[YieldUsed] = set()
        lines = [(line, stage.method) for stage in recipe.stages for line in stage.lines]
        lines += [(line, None) for serving in recipe.servings for _, line in serving.extras]
        for line, method in lines:
            item = facts.items.get(line.item or "")
            if item is None:
                found |= self._yields.get(line.recipe or "", frozenset())
                continue
            for preparation_id in line.preparations if line.byproduct is None else ():
                preparation = facts.preparation(item, preparation_id)
                if preparation is not None:
                    found.add(YieldUsed(item.id, "preparation", preparation_id, rests_on(preparation.source)))
            cooking = facts.cooking(item, method)
            if cooking is not None and line.cook_yield is None and line.byproduct is None:
                found.add(YieldUsed(item.id, "cooking", cooking.method, rests_on(cooking.source)))
        return frozenset(found)

    def _old_share(self, recipe_id: str) -> Decimal:
        costing, needs = self._costing, self._costing.needs(recipe_id)
        bought = costing.cost(recipe_id) + needs.credit_value()
        if bought <= 0:
            return ZERO
        masses = needs.borne
        old = sum([masses[item] * (costing.per_gram(item) or ZERO) for item in self._old & masses.keys()], ZERO)
        return min(old / bought, ONE)
