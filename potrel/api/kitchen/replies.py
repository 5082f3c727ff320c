"""What the routes of the kitchen as a whole take and give."""

from __future__ import annotations

from dataclasses import dataclass, field

from potrel.core.cost.effects import Effect
from potrel.core.kitchen.kinds import At, Computed, Currency, Name, On
from potrel.core.kitchen.methods import Method
from potrel.core.kitchen.settings import Settings
from potrel.core.kitchen.supply import Supplier
from potrel.core.kitchen.vessels import Vessel
from potrel.store.changes import ChangeKind


@dataclass(frozen=True, slots=True)
class KitchenHead:
    """The kitchen without its items and recipes, and the day that counts as today."""

    name: Name
    currency: Currency
    settings: Settings
    today: On
    suppliers: list[Supplier]
    vessels: list[Vessel]
    items: int
    recipes: int
    methods: list[Method]


@dataclass(frozen=True, slots=True)
class Effects:
    """What a change would do to each serving it reaches, and the price per kilo [money/kg] before and after.

    `doubts` are why a new price may be a slip. Of an item that is known by the piece only, `counted` is its unit, and the
    prices are those of one [money].
    """

    per_kg_was: Computed | None
    per_kg_now: Computed | None
    effects: list[Effect]
    doubts: list[str] = field(default_factory=list)
    counted: str | None = None
    per_one_was: Computed | None = None
    per_one_now: Computed | None = None


@dataclass(frozen=True, slots=True)
class ChangeRow:
    """A change of the kitchen: what of, whose, by whom, when."""

    number: int
    kind: ChangeKind
    id: str
    by: str
    at: At
