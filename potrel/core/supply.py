"""Suppliers, what they offer at what price, and the credits they give."""

from __future__ import annotations

from dataclasses import dataclass, field

from potrel.core.errors import BadDocument, OutOfRange
from potrel.core.fields import Address, Flag, Gtin, Id, MassText, Money, Name, On, Positive, TimeOfDay
from potrel.core.gtin import check_digit_fits
from potrel.core.part import Part


@dataclass(frozen=True, slots=True)
class Supplier(Part):
    """Somebody the kitchen buys from.

    `columns` are the heads of the columns of this supplier's lists, by what they mean; `passed_over` are codes (or
    names, where there are none) of lines that the kitchen does not buy. `catalogue_url` is where its catalogue of
    today is fetched, each day at `fetch_at`.
    """

    id: Id
    name: Name
    columns: dict[Name, Name] = field(default_factory=dict)
    passed_over: tuple[Name, ...] = ()
    catalogue_url: Address | None = None
    fetch_at: TimeOfDay | None = None

    def __post_init__(self) -> None:
        if self.fetch_at is not None and self.catalogue_url is None:
            raise BadDocument("fetch_at", 'to fetch each day, a supplier needs the "catalogue_url" of its list')


@dataclass(frozen=True, slots=True)
class Offer(Part):
    """A pack at a price (net of tax) from a date on, and up to `until` where it ends. A price of 0 is free: a gift, the garden.

    `drained` is what one inner container holds without its liquid. `corrects` names the id of an earlier offer that
    this one replaces, because it was recorded wrongly; where `withdrawn`, the earlier one is only taken back.
    `code` is what the supplier calls it; `source` the list or invoice it was read from; `delivered` so many packs.
    """

    item: Id
    supplier: Id
    pack: Name
    price: Money
    on: On
    drained: MassText | None = None
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
            raise BadDocument("withdrawn", 'what is taken back has to be named: give the id of that offer as "corrects"')
        if self.gtin is not None and not check_digit_fits(self.gtin):
            raise BadDocument("gtin", f"{self.gtin} is no GTIN: its last digit does not fit the others")


@dataclass(frozen=True, slots=True)
class Credit(Part):
    """Money that a supplier gave back [net] for so many packs of an item.

    Where the goods went back (or never came), weight and money both leave what was bought; else only the money does.
    `withdraws` names the id of an earlier credit that was recorded wrongly; both then count nothing.
    """

    item: Id
    supplier: Id
    pack: Name
    packs: Positive
    amount: Money
    on: On
    goods_back: Flag = True
    source: Name | None = None
    id: Id | None = None
    withdraws: Id | None = None
