"""The whole kitchen: one document, one dataclass."""

from __future__ import annotations

from typing import Annotated, Literal

from potrel.core.errors import BadDocument
from potrel.core.frozen import dataclass
from potrel.core.kitchen.bench_tests import BenchTest
from potrel.core.kitchen.deals import Deal
from potrel.core.kitchen.items import Item
from potrel.core.kitchen.keyed import Keyed
from potrel.core.kitchen.kinds import Currency, Form, Id, Name, Version
from potrel.core.kitchen.recipes import Recipe
from potrel.core.kitchen.settings import DEFAULTS, Settings
from potrel.core.kitchen.supply import Credit, Offer, Supplier
from potrel.core.kitchen.vessels import Vessel
from potrel.core.sentences import say

ReadyUnit = Literal["kg", "l"]
_MOST_FORMS = 12


@dataclass(frozen=True, slots=True)
class Comparison(Keyed):
    """Forms in which one need can be met, kept to be compared again, by the usable kilo or the ready litre.

    A form may name what the kitchen no longer has: the comparison then says so.
    """

    id: Id
    name: Name
    forms: tuple[Form, ...]
    unit: ReadyUnit = "kg"

    def __post_init__(self) -> None:
        if not 1 <= len(self.forms) <= _MOST_FORMS or len(set(self.forms)) < len(self.forms):
            english = "a comparison holds 1 to {most} forms, each once"
            raise BadDocument("forms", say("forms_each_once", english, most=_MOST_FORMS))


@dataclass(frozen=True, slots=True)
class Kitchen(Keyed):
    """A whole kitchen. Histories that grow (logs, sales, changes) are no part of it: they are read by span."""

    format: Literal["potrel-kitchen"]
    version: Annotated[Literal[1], Version()]
    name: Name
    currency: Currency
    settings: Settings = DEFAULTS
    suppliers: tuple[Supplier, ...] = ()
    vessels: tuple[Vessel, ...] = ()
    items: tuple[Item, ...] = ()
    offers: tuple[Offer, ...] = ()
    recipes: tuple[Recipe, ...] = ()
    credits: tuple[Credit, ...] = ()
    tests: tuple[BenchTest, ...] = ()
    comparisons: tuple[Comparison, ...] = ()
    deals: tuple[Deal, ...] = ()
