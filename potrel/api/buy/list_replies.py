"""What the routes of suppliers' lists take and give."""

from __future__ import annotations

from dataclasses import dataclass

from potrel.core.buy.price_list import Besides, ListKind, Meaning
from potrel.core.cost.effects import Effect
from potrel.core.kitchen.keyed import Keyed
from potrel.core.kitchen.kinds import At, Computed, On
from potrel.core.kitchen.supply import Supplier
from potrel.core.rooms.review import ReviewLine, State


@dataclass(frozen=True, slots=True)
class ListRow:
    """A list among others: where it came from, whose it is, and what became of it."""

    number: int
    file_name: str
    kind: ListKind
    document: str | None
    supplier: str | None
    state: str
    read_at: At
    read_by: str
    settled_at: At | None
    settled_by: str | None
    prices: int


@dataclass(frozen=True, slots=True)
class Fetching:
    """A supplier whose list can be fetched: when it was last by the clock, and what went wrong then."""

    supplier: Supplier
    fetched_on: On | None
    problem: str | None


@dataclass(frozen=True, slots=True)
class ListsReply:
    """A stretch of the lists, those still open first, of so many that were found; how many wait in all; the suppliers that can
    be asked for theirs; the share of the room that is taken.
    """

    lists: list[ListRow]
    found: int
    waiting: int
    fetching: list[Fetching]
    room_taken: Computed


@dataclass(frozen=True, slots=True)
class ReviewReply:
    """A list, reviewed: what it would do to prices and portions. `lines` are those asked for, `found` how many there are.

    `seen` stands for what the review rests on: recording is refused where that has changed since.
    `blocked` says what keeps the whole list from being recorded.
    """

    row: ListRow
    seen: str
    on: On | None
    currency: str | None
    said_supplier: str | None
    refers_to: str | None
    counts: dict[State, int]
    total: int
    writes: int
    blocked: str | None
    notes: list[str]
    columns: dict[str, str]
    heads: list[str]
    sample: list[list[str]]
    head_row: int
    delimiter: str | None
    sheets: list[str]
    missing: list[Meaning | Besides]
    effects: list[Effect]
    effects_found: int
    lines: list[ReviewLine]
    found: int


@dataclass(frozen=True, slots=True)
class RecordList(Keyed):
    """To record a list as it was seen."""

    seen: str


@dataclass(frozen=True, slots=True)
class SaveSupplier(Keyed):
    """A changed supplier, with what it was when the change began."""

    supplier: Supplier
    was: Supplier
