"""A supplier's list as it was read from a file: a price list, an invoice of a delivery, or a credit note."""

from __future__ import annotations

from dataclasses import field
from datetime import date
from decimal import Decimal
from typing import Literal

from potrel.core.frozen import dataclass
from potrel.core.sentences import Sentence

ListKind = Literal["price_list", "delivery", "credit_note"]
Meaning = Literal[
    "name", "code", "gtin", "pack", "size", "unit", "price", "amount", "quantity", "on", "until", "drained", "currency", "item",
    "supplier", "discount", "per",
]  # fmt: skip
# What a person says of a table beside its columns: the sheet that counts, what parts its cells, the number of the row of
# heads, what its prices are of: "pack", the "unit" in its column, or a pack as text ("1 kg"), and whether ounces of what is
# sold by volume are those of "weight" or "fluid" ones.
Besides = Literal["sheet", "delimiter", "head_row", "price_per", "ounces"]
How = Literal["chosen", "item", "code", "gtin", "name", "likely", "none"]


@dataclass(frozen=True, slots=True)
class ListLine:
    """One line: `text` as the supplier wrote it, `name` without the pack in it, `price` [money, net] of one pack.

    `quantity` is so many packs. `item` and `supplier` are ids of the kitchen's own, where the list says them.
    `problem` says what of the line could not be understood, `doubt` what it says against itself; `none_today` that the supplier
    has run out of it; `note` what was made of it that a person may want to know.
    """

    place: int
    text: str
    name: str
    code: str | None = None
    gtin: str | None = None
    pack: str | None = None
    price: Decimal | None = None
    quantity: Decimal | None = None
    on: date | None = None
    until: date | None = None
    drained: str | None = None
    item: str | None = None
    supplier: str | None = None
    problem: Sentence | None = None
    none_today: bool = False
    doubt: Sentence | None = None
    note: Sentence | None = None

    @property
    def called(self) -> str:
        """What the supplier calls it: its code, or where there is none its text."""
        return self.code or self.text[:200]


@dataclass(frozen=True, slots=True)
class PriceList:
    """A whole list. `columns` are the heads that were taken, by what they mean; `heads` all there are of a table, in its row
    `head_row` counted from 1, `delimiter` what parts its cells, and `sample` its first rows. `missing` are the meanings
    without which no line can be read. Of a workbook of several sheets `sheets` are those that hold anything, and
    `sheets_read` those whose lines these are; `columns` names the sheet under "sheet" where a person chose one, and so all
    else that was said of it (`Besides`). `reckoned` says that formulas reckoned values of it, which it keeps as they last
    were.

    `total` [money, net] is what the document itself says its lines add up to. `letterhead` are the names above a table that
    may be whose it is, the likeliest first.
    """

    kind: ListKind
    lines: tuple[ListLine, ...]
    supplier: str | None = None
    number: str | None = None
    on: date | None = None
    currency: str | None = None
    refers_to: str | None = None
    total: Decimal | None = None
    columns: dict[str, str] = field(default_factory=dict)
    heads: tuple[str, ...] = ()
    sample: tuple[tuple[str, ...], ...] = ()
    head_row: int = 1
    delimiter: str | None = None
    missing: tuple[Meaning | Besides, ...] = ()
    sheets: tuple[str, ...] = ()
    sheets_read: tuple[str, ...] = ()
    reckoned: bool = False
    letterhead: tuple[str, ...] = ()

    @property
    def source(self) -> str:
        """How the list is called where a price rests on it: "invoice 2041"."""
        return source_of(self.kind, self.number)


@dataclass(frozen=True, slots=True)
class Part:
    """What was read of a list since the part before: the share of its file that is `done`, and lines of it. They are handed on
    while the rest is read; which lines count is told by the list, at the end.
    """

    done: float
    lines: tuple[ListLine, ...] = ()


def source_of(kind: ListKind, number: str | None) -> str:
    """How a list of a number is called where a price rests on it."""
    words = kind_in_words(kind)
    return f"{words} {number}"[:200] if number else words


def kind_in_words(kind: ListKind) -> str:
    """A kind of list, as people call it."""
    return {"price_list": "price list", "delivery": "invoice", "credit_note": "credit note"}[kind]


@dataclass(frozen=True, slots=True)
class Match:
    """The item that a line may be, how that is known, and the likeness [0 to 100] of a name that is only like it.

    Of such a one `more` are the words that only the line says, `less` those that only the item does.
    """

    item: str | None
    how: How
    likeness: int | None = None
    others: tuple[str, ...] = ()
    more: tuple[str, ...] = ()
    less: tuple[str, ...] = ()
