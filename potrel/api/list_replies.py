"""What the routes of suppliers' lists take and give."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from potrel.core.drift import Effect
from potrel.core.fields import Flag, Id, Name, On
from potrel.core.part import Part
from potrel.core.price_list import ListKind, Meaning
from potrel.core.review import LineChoice, ReviewLine, State
from potrel.core.supply import Supplier


@dataclass(frozen=True, slots=True)
class ListRow(Part):
    """A list among others: where it came from, whose it is, and what became of it."""

    number: int
    file_name: str
    kind: ListKind
    document: str | None
    supplier: str | None
    state: str
    read_at: datetime
    read_by: str
    settled_at: datetime | None
    settled_by: str | None
    prices: int


@dataclass(frozen=True, slots=True)
class Fetching(Part):
    """A supplier whose list can be fetched: when it was last by the clock, and what went wrong then."""

    supplier: Supplier
    fetched_on: On | None
    problem: str | None


@dataclass(frozen=True, slots=True)
class ListsReply(Part):
    """All lists, those still open first, and the suppliers that can be asked for theirs."""

    lists: list[ListRow]
    fetching: list[Fetching]


@dataclass(frozen=True, slots=True)
class ReadStep(Part):
    """A step of reading a file: the share that is done, then the number of the list, or what is wrong with the file.

    `known` tells that the very same file was read before.
    """

    done: float
    number: int | None = None
    known: Flag = False
    problem: str | None = None


@dataclass(frozen=True, slots=True)
class ReviewReply(Part):
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
    missing: list[Meaning]
    effects: list[Effect]
    effects_found: int
    lines: list[ReviewLine]
    found: int


@dataclass(frozen=True, slots=True)
class SaveChoices(Part):
    """What a person says of a list: each part that is given replaces what was said before, lines one by one.

    `confirm_all` says of every line in a state that it is right as it stands.
    """

    supplier: Id | None = None
    kind: ListKind | None = None
    columns: dict[Name, str] | None = None
    lines: list[LineChoice] | None = None
    confirm_all: State | None = None


@dataclass(frozen=True, slots=True)
class RecordList(Part):
    """To record a list as it was seen."""

    seen: str
    by: Name = "the kitchen"


@dataclass(frozen=True, slots=True)
class SaveSupplier(Part):
    """A changed supplier, with what it was when the change began."""

    supplier: Supplier
    was: Supplier


@dataclass(frozen=True, slots=True)
class Pushed(Part):
    """A serving that a change took past its target, and nobody has looked since."""

    recipe: Id
    serving: Id
    why: str
    at: datetime
