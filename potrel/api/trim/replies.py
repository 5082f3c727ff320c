"""What the routes of the Trim room take and give."""

from __future__ import annotations

import dataclasses
from dataclasses import dataclass
from typing import Any

from potrel.core.cost.confidence import YieldSort
from potrel.core.decide.practice import Marked, PracticeKind
from potrel.core.kitchen.bench_tests import BenchTest, TestKind, Weights
from potrel.core.kitchen.items import ByproductMethod
from potrel.core.kitchen.keyed import Keyed
from potrel.core.kitchen.kinds import At, Computed, Flag, Id, Name, Value
from potrel.core.rooms.yield_book import RecipeName, YieldRow
from potrel.core.rooms.yield_choices import Choice
from potrel.core.trim.bench_money import MethodOutcome
from potrel.core.trim.butchers_test import Butchered
from potrel.core.trim.own_tests import Blend, Book, Tested


@dataclass(frozen=True, slots=True)
class Waiting:
    """Tests of a yield that the kitchen has not adopted yet."""

    item: Id
    item_name: Name
    sort: YieldSort
    of: Name
    tests: int


@dataclass(frozen=True, slots=True)
class ShelfYield:
    """A yield of the shelf, whether the kitchen buys the thing or not."""

    item: Id
    item_name: Name
    kind: Name
    sort: YieldSort
    of: Name
    name: Name
    treatment: TestKind
    book: Book


@dataclass(frozen=True, slots=True)
class YieldBookReply:
    """The kitchen's yields, those worth a test first, tests that wait to be adopted, and the yields of the whole shelf."""

    rows: list[YieldRow]
    worth_testing: list[YieldRow]
    waiting: list[Waiting]
    shelf: list[ShelfYield]


@dataclass(frozen=True, slots=True)
class TestRow:
    """A test with what follows from it. `outlier` tells that its yield is far from the others."""

    test: BenchTest
    supplier: str | None
    weights: Weights
    minutes_per_kg: Computed | None
    outlier: Flag
    money: Butchered | None
    methods: list[MethodOutcome]


@dataclass(frozen=True, slots=True)
class AdoptedRow(Keyed):
    """A yield that was in use, from when on and by whom; `number` leads back to it."""

    number: int
    yield_: Computed
    low: Computed | None
    high: Computed | None
    source: str
    by: str
    at: At


@dataclass(frozen=True, slots=True)
class YieldReply:
    """A yield in full. `row` is absent where the kitchen has tests of it, but has not adopted it yet."""

    item: Id
    item_name: Name
    sort: YieldSort
    of: Name
    row: YieldRow | None
    per_kg: Computed | None
    method: ByproductMethod
    value_per_kg: Value | None
    tests: list[TestRow]
    own: Tested | None
    blend: Blend | None
    books: list[Book]
    choices: list[Choice]
    history: list[AdoptedRow]
    recipes: list[RecipeName]


@dataclass(frozen=True, slots=True)
class AdoptReply:
    """That a yield was adopted; `was` is the number of the one before, to go back to."""

    was: int


@dataclass(frozen=True, slots=True)
class DraftPart(Keyed):
    """Something that fell off, as far as the sheet says."""

    name: str = ""
    mass: str = ""
    value_per_kg: str = ""
    use: str = ""


@dataclass(frozen=True, slots=True)
class DraftTest(Keyed):
    """A test sheet as far as it is filled in; texts as they were typed, empty where nothing was."""

    kind: TestKind
    item: Id
    of: str = ""
    before: str = ""
    after: str = ""
    parts: tuple[DraftPart, ...] = ()
    minutes: str = ""
    supplier: str = ""
    note: str = ""
    on: str = ""
    by: str = ""


@dataclass(frozen=True, slots=True)
class FieldProblem:
    """What is wrong with one field of a sheet: `field` is its name, with the number of the part where it is of one."""

    field: str
    message: str
    code: str = ""
    params: dict[str, str] = dataclasses.field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class DraftReply:
    """What a half-filled sheet tells so far. `ready` says that it can be recorded."""

    ready: Flag
    problems: list[FieldProblem]
    left: Computed | None
    weights: Weights | None
    minutes_per_kg: Computed | None
    per_kg: Computed | None
    money: Butchered | None
    methods: list[MethodOutcome]
    in_use: Computed | None
    test: BenchTest | None


@dataclass(frozen=True, slots=True)
class RecordTest(Keyed):
    """A test to be recorded; what is unaccounted for beyond the limit is `accepted` by a person."""

    test: BenchTest
    accepted: Flag = False


@dataclass(frozen=True, slots=True)
class Standing(Keyed):
    """Why a test is left out of the others; nothing to count it again."""

    left_out: Name | None = None


@dataclass(frozen=True, slots=True)
class KeepSheet(Keyed):
    """A sheet to be kept, half done; `seen` is when what it stands on was kept, absent for a new one."""

    item: Id
    body: dict[str, Any]
    seen: At | None = None


@dataclass(frozen=True, slots=True)
class SheetKept:
    """That a sheet was kept, and when."""

    changed_at: At


@dataclass(frozen=True, slots=True)
class SheetRow:
    """A sheet that waits to be finished."""

    id: Id
    item: Id
    item_name: Name
    body: dict[str, Any]
    started_by: str
    changed_at: At


@dataclass(frozen=True, slots=True)
class Answer(Keyed):
    """An answer as it was typed, to the `question` that was seen, by the cook who practises."""

    answer: str
    question: str
    by: Name = "the kitchen"


@dataclass(frozen=True, slots=True)
class PracticeScore:
    """How a cook did at one kind of question."""

    cook: str
    kind: PracticeKind
    right: int
    asked: int


@dataclass(frozen=True, slots=True)
class PracticeTopic:
    """A kind of question, and its title."""

    kind: PracticeKind
    title: str


@dataclass(frozen=True, slots=True)
class PracticeReply:
    """The kinds of question, and how every cook did."""

    topics: list[PracticeTopic]
    scores: list[PracticeScore]


@dataclass(frozen=True, slots=True)
class MarkedReply:
    """An answer that was marked, and how the cook did so far."""

    marked: Marked
    scores: list[PracticeScore]
