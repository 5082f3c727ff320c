"""What the routes of items and their offers take and give."""

from __future__ import annotations

from dataclasses import dataclass

from potrel.core.buy.paid import Paid
from potrel.core.buy.season import Season
from potrel.core.cost.confidence import Rests
from potrel.core.kitchen.items import Item
from potrel.core.kitchen.keyed import Keyed
from potrel.core.kitchen.kinds import Computed, Flag, Id, Name, Note
from potrel.core.kitchen.supply import Offer
from potrel.core.rooms.labels import Label
from potrel.doing.items import NewThing


@dataclass(frozen=True, slots=True)
class AskMissing(Keyed):
    """Texts that name nothing of the kitchen."""

    texts: list[Note]


@dataclass(frozen=True, slots=True)
class MakeTogether(Keyed):
    """Things that become items together."""

    things: list[NewThing]


@dataclass(frozen=True, slots=True)
class UsableKilo(Keyed):
    """What a kilo of an item costs [money/kg] after a preparation."""

    preparation: Id
    name: Name
    yield_: Computed
    low: Computed | None
    high: Computed | None
    source: str
    rests_on: Rests
    per_kg: Computed | None


@dataclass(frozen=True, slots=True)
class ItemRow:
    """An item in the list of the Buy room: its price [money/kg] today, where from, and how many recipes use it.

    `instead_of` names the preferred supplier, where that one has no price in force and another's counts. Of what is known by
    the piece only, `counted` is its unit and `per_one` what one costs [money].
    """

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
    instead_of: str | None
    counted: str | None
    per_one: Computed | None
    archived: Flag


@dataclass(frozen=True, slots=True)
class PricePoint:
    """One offer of an item with its price per kilo, or of one piece where only that is known."""

    offer: Offer
    supplier: str
    per_kg: Computed | None
    per_one: Computed | None


@dataclass(frozen=True, slots=True)
class ItemUse:
    """A serving that an item reaches, the AP mass [g] of it in a portion (or how many pieces), and what that costs."""

    recipe: Id
    name: Name
    serving: Id
    serving_name: Name
    grams: Computed
    cost: Computed | None


@dataclass(frozen=True, slots=True)
class ItemReply:
    """An item with its history of prices (newest first), what was paid for it, and the portions it goes into.

    `fillable` is what the shelf knows and it does not say, in words.
    """

    item: Item
    row: ItemRow
    history: list[PricePoint]
    uses: list[ItemUse]
    paid: Paid | None
    season: Season | None
    label: Label
    fillable: list[str]


@dataclass(frozen=True, slots=True)
class SaveItem(Keyed):
    """A changed item, with what it was when the change began."""

    item: Item
    was: Item


@dataclass(frozen=True, slots=True)
class NewItem(Keyed):
    """An item to be added."""

    item: Item
