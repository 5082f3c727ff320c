"""Suppliers, what they offer at what price, and the credits they give."""

from __future__ import annotations

from dataclasses import field
from typing import Literal

from potrel.core.errors import BadDocument, OutOfRange
from potrel.core.frozen import dataclass
from potrel.core.kitchen.gtin import check_digit_fits
from potrel.core.kitchen.keyed import Keyed
from potrel.core.kitchen.kinds import Address, Flag, Gtin, Id, Mass, Money, Name, On, PackOf, Positive, TimeOfDay
from potrel.core.sentences import say


@dataclass(frozen=True, slots=True)
class ListForm(Keyed):
    """How one kind of table of a supplier is read: its `heads`, and which of them means what.

    `columns` also holds what was said of the table beside its columns: what its prices are of, what parts its cells. A form
    without heads is for any table.
    """

    heads: tuple[Name, ...] = ()
    columns: dict[Name, Name | Literal[""]] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class Supplier(Keyed):
    """Somebody the kitchen buys from.

    `forms` are those of this supplier's lists that were recorded, the last one first; `columns` the heads of its tables by
    what they mean, where no form fits. `passed_over` are codes (or
    names, where there are none) of lines that the kitchen does not buy. `catalogue_url` is where its catalogue of
    today is fetched, each day at `fetch_at`.
    """

    id: Id
    name: Name
    columns: dict[Name, Name] = field(default_factory=dict)
    passed_over: tuple[Name, ...] = ()
    catalogue_url: Address | None = None
    fetch_at: TimeOfDay | None = None
    forms: tuple[ListForm, ...] = ()

    def __post_init__(self) -> None:
        if self.fetch_at is not None and self.catalogue_url is None:
            message = say("fetch_from_where", 'to fetch each day, a supplier needs the "catalogue_url" of its list')
            raise BadDocument("fetch_at", message)


@dataclass(frozen=True, slots=True)
class Offer(Keyed):
    """A pack at a price (net of tax) from a date on, and up to `until` where it ends. A price of 0 is free: a gift, the garden.

    `drained` is what one inner container holds without its liquid. `corrects` names the id of an earlier offer that
    this one replaces, because it was recorded wrongly; where `withdrawn`, the earlier one is only taken back.
    `code` is what the supplier calls it; `source` the list or invoice it was read from; `delivered` so many packs.
    """

    item: Id
    supplier: Id
    pack: PackOf
    price: Money
    on: On
    drained: Mass | None = None
    id: Id | None = None
    corrects: Id | None = None
    until: On | None = None
    code: Name | None = None
    gtin: Gtin | None = None
    source: Name | None = None
    delivered: Positive | None = None
    withdrawn: Flag = False

    def __post_init__(self) -> None:
        if self.until is not None and self.until < self.on:
            raise OutOfRange("the last day of an offer", self.until, f"on or after its first ({self.on})")
        if self.withdrawn and self.corrects is None:
            english = 'what is taken back has to be named: give the id of that offer as "corrects"'
            raise BadDocument("withdrawn", say("withdrawn_what", english))
        if self.gtin is not None and not check_digit_fits(self.gtin):
            english = "{gtin} is no GTIN: its last digit does not fit the others"
            raise BadDocument("gtin", say("no_gtin", english, gtin=self.gtin))


@dataclass(frozen=True, slots=True)
class Credit(Keyed):
    """Money that a supplier gave back [net] for so many packs of an item.

    Where the goods went back (or never came), weight and money both leave what was bought; else only the money does.
    `withdraws` names the id of an earlier credit that was recorded wrongly; both then count nothing.
    """

    item: Id
    supplier: Id
    pack: PackOf
    packs: Positive
    amount: Money
    on: On
    goods_back: Flag = True
    source: Name | None = None
    id: Id | None = None
    withdraws: Id | None = None
