"""What the routes take and give beyond the parts of the kitchen document."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from typing import Any, TypeVar

from starlette.responses import Response

from potrel.core.costing import Sureness
from potrel.core.drift import Drift, Effect
from potrel.core.fields import Computed, Currency, Flag, Id, Money, Name, On
from potrel.core.kitchen import Item, Recipe, Settings, Vessel
from potrel.core.paid import Paid
from potrel.core.part import Part
from potrel.core.season import Season
from potrel.core.sheet import CostSheet
from potrel.core.supply import Offer, Supplier
from potrel.formats.kitchen_json import part_to_json

T = TypeVar("T")


def reply(kind: type[T] | Any, value: T, status: int = 200) -> Response:
    """A JSON response of a dataclass of the core or of this module."""
    return Response(part_to_json(kind, value), status, media_type="application/json")


@dataclass(frozen=True, slots=True)
class KitchenHead(Part):
    """The kitchen without its items and recipes, and the day that counts as today."""

    name: Name
    currency: Currency
    settings: Settings
    today: On
    suppliers: list[Supplier]
    vessels: list[Vessel]
    items: int
    recipes: int


@dataclass(frozen=True, slots=True)
class SaveKitchen(Part):
    """New settings, with those that they replace."""

    name: Name
    currency: Currency
    settings: Settings
    was: Settings


@dataclass(frozen=True, slots=True)
class Named(Part):
    """An item or recipe as the picker and the pot sheet need it."""

    id: Id
    name: Name
    is_recipe: bool
    kind: Name
    units: list[str]
    preparations: list[PreparationName]


@dataclass(frozen=True, slots=True)
class PreparationName(Part):
    """A preparation as a choice."""

    id: Id
    name: Name


@dataclass(frozen=True, slots=True)
class RecipeSummary(Part):
    """A recipe in the list of the Cook room."""

    id: Id
    name: Name
    servings: int
    used_by: list[str]
    complete: bool
    cost_per_l: Computed | None
    batch_ml: Computed


@dataclass(frozen=True, slots=True)
class RecipeReply(Part):
    """A saved recipe, its revision, its cost sheet, and who uses it."""

    recipe: Recipe
    revision: int
    sheet: CostSheet
    sure: Sureness
    drifts: dict[str, Drift]
    used_by: list[str]


@dataclass(frozen=True, slots=True)
class Draft(Part):
    """A recipe that is not saved."""

    recipe: Recipe


@dataclass(frozen=True, slots=True)
class PreviewReply(Part):
    """The cost sheet of a draft; `above` is what saving it would do to the recipes that use it."""

    sheet: CostSheet
    sure: Sureness
    drifts: dict[str, Drift]
    above: list[Effect]


@dataclass(frozen=True, slots=True)
class SaveRecipe(Part):
    """A recipe to be saved over the revision it started from."""

    recipe: Recipe
    based_on: int
    by: Name = "the kitchen"


@dataclass(frozen=True, slots=True)
class NewRecipe(Part):
    """A recipe to be added."""

    recipe: Recipe
    by: Name = "the kitchen"


@dataclass(frozen=True, slots=True)
class RevisionReply(Part):
    """One save of a recipe; `recipe` is absent where it was taken off."""

    revision: int
    saved_at: datetime
    saved_by: str
    recipe: Recipe | None


@dataclass(frozen=True, slots=True)
class AskWorking(Part):
    """A figure by its path, of a saved recipe or of a draft; of none where it is an item's, a test's, a yield's or a form's."""

    figure: str
    recipe: Id | None = None
    draft: Recipe | None = None


@dataclass(frozen=True, slots=True)
class AskLine(Part):
    """A line as it was typed."""

    text: str


@dataclass(frozen=True, slots=True)
class UsableKilo(Part):
    """What a kilo of an item costs [money/kg] after a preparation."""

    preparation: Id
    name: Name
    yield_: Computed
    low: Computed | None
    high: Computed | None
    source: str
    rests_on: str
    per_kg: Computed | None


@dataclass(frozen=True, slots=True)
class ItemRow(Part):
    """An item in the list of the Buy room: its price [money/kg] today, where from, and how many recipes use it."""

    id: Id
    name: Name
    kind: Name
    per_kg: Computed | None
    per_kg_before: Computed | None
    lack: str | None
    offer: Offer | None
    supplier: str | None
    usable: list[UsableKilo]
    used_by: int


@dataclass(frozen=True, slots=True)
class PricePoint(Part):
    """One offer of an item with its price per kilo."""

    offer: Offer
    supplier: str
    per_kg: Computed | None


@dataclass(frozen=True, slots=True)
class ItemReply(Part):
    """An item with its history of prices (newest first), what was paid for it, and the portions it goes into."""

    item: Item
    row: ItemRow
    history: list[PricePoint]
    uses: list[ItemUse]
    paid: Paid | None
    season: Season | None


@dataclass(frozen=True, slots=True)
class ItemUse(Part):
    """A serving that an item reaches, the AP mass [g] of it in a portion, and what that costs."""

    recipe: Id
    name: Name
    serving: Id
    serving_name: Name
    grams: Computed
    cost: Computed | None


@dataclass(frozen=True, slots=True)
class SaveItem(Part):
    """A changed item, with what it was when the change began."""

    item: Item
    was: Item


@dataclass(frozen=True, slots=True)
class NewItem(Part):
    """An item to be added."""

    item: Item


@dataclass(frozen=True, slots=True)
class SaveOffer(Part):
    """An offer to be recorded."""

    item: Id
    supplier: Id
    pack: Name
    price: Money
    on: On
    drained: str | None = None
    corrects: Id | None = None
    until: On | None = None
    withdrawn: Flag = False
    by: Name = "the kitchen"

    def offer(self) -> Offer:
        """The offer as the core knows it."""
        return Offer(
            self.item, self.supplier, self.pack, self.price, self.on, self.drained, corrects=self.corrects,
            until=self.until, withdrawn=self.withdrawn,
        )  # fmt: skip


@dataclass(frozen=True, slots=True)
class Effects(Part):
    """What a change would do to each serving it reaches, and the price per kilo [money/kg] before and after."""

    per_kg_was: Computed | None
    per_kg_now: Computed | None
    effects: list[Effect]


@dataclass(frozen=True, slots=True)
class Saved(Part):
    """That something was saved: a recipe's new revision."""

    revision: int
