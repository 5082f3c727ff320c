"""How recipes stood when prices were set: what a changed recipe did to the cost of a portion since then."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Callable, Collection, Mapping, Sequence
from dataclasses import field, replace
from datetime import date, datetime
from decimal import Decimal
from typing import NamedTuple

from potrel.core.frozen import dataclass
from potrel.core.kitchen.channels import SetPrice
from potrel.core.kitchen.kinds import ZERO
from potrel.core.kitchen.recipes import Recipe


class PriceSet(NamedTuple):
    """The moment at which a price of a serving was saved, with the price and its day as they were saved."""

    price: Decimal
    on: date
    moment: datetime


class Stood(NamedTuple):
    """From a moment on, a recipe stood as in one of its saves; `made_of` stands for all that its cost hangs on."""

    since: datetime
    revision: int
    made_of: str


class Version(NamedTuple):
    """A save of a recipe: the recipes it is made of, and itself, understood when that is first asked for.

    None where it cannot be understood any more.
    """

    uses: Collection[str]
    recipe: Callable[[], Recipe | None]


def _unknown() -> None:
    return None


NO_VERSION = Version((), _unknown)
SaveKey = tuple[str, int]


@dataclass(frozen=True, slots=True)
class Earlier:
    """By recipe and serving, when its price was set; by recipe, how it stood from when on, the last one as it stands now.

    `versions` are the saves that were read, by recipe and revision. A recipe of which nothing is told stands as it
    always stood.
    """

    prices: Mapping[tuple[str, str], PriceSet] = field(default_factory=dict)
    stands: Mapping[str, Sequence[Stood]] = field(default_factory=dict)
    versions: Mapping[SaveKey, Version] = field(default_factory=dict)

    def set_at(self, recipe_id: str, serving_id: str, price: SetPrice) -> datetime | None:
        """The moment at which the price of a serving was saved; None where that is not known, or it is another price now."""
        known = self.prices.get((recipe_id, serving_id))
        if known is None or (known.price, known.on) != price:
            return None
        return known.moment

    def save_at(self, recipe_id: str, moment: datetime) -> int | None:
        """The number of the save as which a recipe stood at a moment; None where its cost hung on the same things as now."""
        stands = self.stands.get(recipe_id)
        if not stands:
            return None
        place = bisect_right(stands, moment, key=_since)
        if place == 0:
            # It was not there yet.
            return None
        then = stands[place - 1]
        return None if then.made_of == stands[-1].made_of else then.revision

    def with_recipes(self, other: Earlier, recipes: Collection[str]) -> Earlier:
        """The same, with what another tells of some recipes in the place of what this one does."""
        changed = set(recipes)
        prices = {key: price for key, price in self.prices.items() if key[0] not in changed}
        stands = {recipe: stands for recipe, stands in self.stands.items() if recipe not in changed}
        return Earlier({**prices, **other.prices}, {**stands, **other.stands}, self.versions)

    def with_versions(self, versions: Mapping[SaveKey, Version]) -> Earlier:
        """The same, with some more saves that were read."""
        return replace(self, versions={**self.versions, **versions})


def _since(stood: Stood) -> datetime:
    return stood.since


def costs_alike(one: Recipe, other: Recipe) -> bool:
    """Whether two versions of a recipe differ in nothing that the food cost of a portion hangs on: names, notes, prices."""
    return one == other or _bare(one) == _bare(other)


def _bare(recipe: Recipe) -> Recipe:
    stages = tuple(replace(stage, name=None, note=None) for stage in recipe.stages)
    servings = tuple(
        replace(
            serving, name="", price=None, price_set_on=None, coming=None, channels=(), pricing=None, commission=ZERO, add_ons=()
        )
        for serving in recipe.servings
    )
    return replace(recipe, name="", note=None, variant_of=None, pricings=(), stages=stages, servings=servings)
