"""What the engine asks for to cost one recipe: every number by its name, as the kitchen states it."""

from __future__ import annotations

from decimal import Decimal

from potrel.core.cost.costing import Costing
from potrel.core.numbers.arithmetic import Number
from potrel.core.pot.inputs import Asked, Inputs, Sort


class _Noting(Inputs):
    """Inputs that note what was asked for."""

    __slots__ = ("asked",)

    def __init__(self, stated: Inputs) -> None:
        super().__init__(stated.number, stated.given)
        self.asked: dict[Asked, Decimal] = {}

    def ask(self, sort: Sort, of: str, part: str, stated: Decimal) -> Number:
        self.asked[Asked(sort, of, part)] = stated
        return super().ask(sort, of, part, stated)


def asked_of(costing: Costing, recipe_id: str) -> dict[Asked, Decimal]:
    """What a recipe, all that it uses and what is served with it rest on, by name, with what is stated."""
    noting = _Noting(costing.view.inputs)
    borne = Costing.of_view(costing.view.with_inputs(noting)).of(recipe_id).items
    # The prices of the whole kitchen are asked for at once; these are borne.
    return {name: stated for name, stated in noting.asked.items() if name.sort != "price" or name.of in borne}
