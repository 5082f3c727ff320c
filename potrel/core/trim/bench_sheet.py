"""A test sheet while it is filled in: read field by field, so that a half-filled one tells what it can."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from datetime import date
from decimal import Decimal, InvalidOperation
from typing import Protocol, TypeVar

from potrel.core.errors import BadDocument, BadQuantity, OutOfRange, PotrelError
from potrel.core.frozen import dataclass
from potrel.core.kitchen.bench_tests import BenchTest, TestKind, WeighedPart, unaccounted_for
from potrel.core.kitchen.kinds import ZERO, carried
from potrel.core.kitchen.quantities import Quantity, parse_quantity
from potrel.core.sentences import Sentence, say

T = TypeVar("T")


@dataclass(frozen=True, slots=True)
class ReadSheet:
    """What a sheet says so far: its test where it is whole, what is wrong by field, and what is not weighed yet [g]."""

    test: BenchTest | None
    problems: list[tuple[str, Sentence]]
    left: Decimal | None


def read_sheet(id_: str, kind: TestKind, item: str, fields: Mapping[str, str], parts: Sequence[Mapping[str, str]]) -> ReadSheet:
    """Read a sheet's texts: `before`, `after`, `of`, `on`, `minutes`, `supplier`, `by`, `note`, and those of each part."""
    problems: list[tuple[str, Sentence]] = []

    def read(field: str, text: str, how: Callable[[str], T], lack: Sentence | None = None) -> T | None:
        if not text.strip():
            if lack is not None:
                problems.append((field, lack))
            return None
        try:
            return how(text.strip())
        except PotrelError as error:
            problems.append((field, error.said))
            return None

    def text_of(name: str) -> str:
        return str(fields.get(name, ""))

    of = read("of", text_of("of"), str, say("of_what", "say which preparation or cooking method this tells"))
    before = read("before", text_of("before"), _mass, say("weigh_before", "weigh it before"))
    after = read("after", text_of("after"), _mass, say("weigh_usable", "weigh what is usable"))
    minutes = read("minutes", text_of("minutes"), _number)
    day = read("on", text_of("on"), _day, say("say_when", "say when"))
    weighed: list[WeighedPart] = []
    for place, part in enumerate(parts, 1):
        found = _part(part, place, read)
        if found is not None:
            weighed.append(found)
    left = None
    if before is not None:
        left = unaccounted_for(before.grams(), ZERO if after is None else after.grams(), [part.grams for part in weighed])
    test = None
    if not problems and of is not None and before is not None and after is not None and day is not None:
        try:
            test = BenchTest(
                id_, item, kind, of, day, before, after, tuple(weighed), minutes, text_of("supplier").strip() or None,
                text_of("by").strip() or None, text_of("note").strip() or None,
            )  # fmt: skip
        except PotrelError as error:
            problems.append(("parts" if weighed else "after", _of_the_parts(error)))
    return ReadSheet(test, problems, left)


def _of_the_parts(error: PotrelError) -> Sentence:
    return error.message if isinstance(error, BadDocument) else error.said


class _Read(Protocol):
    def __call__(self, field: str, text: str, how: Callable[[str], T], lack: Sentence | None = None) -> T | None: ...


def _part(part: Mapping[str, str], place: int, read: _Read) -> WeighedPart | None:
    texts = {name: str(part.get(name, "")).strip() for name in ("name", "mass", "value_per_kg", "use")}
    if not any(texts.values()):
        return None
    field = f"parts.{place}"
    name = read(f"{field}.name", texts["name"], str, say("name_it", "say what it is"))
    lack = say("weigh_part", "weigh {part}, or take it off the sheet", part=texts["name"] or "it")
    mass = read(f"{field}.mass", texts["mass"], _mass, lack)
    value = read(f"{field}.value_per_kg", texts["value_per_kg"], _value)
    if name is None or mass is None:
        return None
    return WeighedPart(name, mass, ZERO if value is None else value, texts["use"] or None)


def _mass(text: str) -> Quantity:
    quantity = parse_quantity(text)
    if quantity.kind != "mass":
        raise BadQuantity(text, say("write_a_weight", "write a weight, such as 1240 g or 1.24 kg"))
    if quantity.amount <= 0:
        raise OutOfRange("a weight", text, "more than 0")
    return quantity


def _number(text: str) -> Decimal:
    value = _value(text)
    if value < 0:
        raise OutOfRange("a time", text, "at least 0")
    return value


def _value(text: str) -> Decimal:
    try:
        value = Decimal(text.replace(",", "."))
    except InvalidOperation:
        value = Decimal("NaN")
    if not value.is_finite() or len(text) > 20:
        raise BadQuantity(text, say("write_a_number", "write a number, such as 0.30"))
    return carried(value)


def _day(text: str) -> date:
    try:
        return date.fromisoformat(text)
    except ValueError:
        raise BadQuantity(text, say("write_a_day", "write the day as 2026-11-24")) from None
