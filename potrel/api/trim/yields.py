"""Routes of the Trim room: the yield book, one yield in full, and adopting another."""

from __future__ import annotations

from functools import cache
from typing import Annotated

from fastapi import APIRouter, Depends
from starlette.responses import Response

from potrel.api.answers import reply
from potrel.api.dependencies import Actor, InKitchen
from potrel.api.kitchen.replies import Effects
from potrel.api.problems import described
from potrel.api.trim.replies import Adopt, AdoptedRow, AdoptReply, ShelfYield, TestRow, Waiting, YieldBookReply, YieldReply
from potrel.core.cost.confidence import YieldSort
from potrel.core.cost.costing import Costing
from potrel.core.cost.effects import with_item
from potrel.core.errors import BadDocument
from potrel.core.kitchen.bench_tests import BenchTest, minutes_per_kg, weights
from potrel.core.kitchen.items import Item, Preparation
from potrel.core.numbers.rounding import half_even
from potrel.core.rooms.bench import money_of
from potrel.core.rooms.leftovers import Leftover, leftovers
from potrel.core.rooms.target_alerts import pushed_past
from potrel.core.rooms.yield_book import (
    Evidence,
    book_of,
    entry_name,
    entry_of,
    evidence_of,
    recipes_by_yield,
    stated_entries,
    stated_entry,
    tests_by_yield,
    treatment_of,
    worth_testing,
    yield_book,
    yield_row,
)
from potrel.core.rooms.yield_choices import adopted_item, choices_of, with_entry
from potrel.core.sentences import say
from potrel.core.trim.shelf import shelf
from potrel.store.changes import read_version
from potrel.store.database import Connection
from potrel.store.errors import NotFound, StaleYield
from potrel.store.items import update_item
from potrel.store.pushed import mark_pushed, taken_back
from potrel.store.yields import Adopted, adopted, note_adopted

router = APIRouter(prefix="/api", tags=["yields"])


@router.get("/yields", response_model=YieldBookReply, responses=described())
def yields(kitchens: InKitchen) -> Response:
    """The yield book: every yield of the kitchen and of the shelf, with what each rests on."""
    costing = kitchens.costing()
    rows = yield_book(costing)
    known = {(row.item, row.sort, row.of) for row in rows}
    waiting = [
        Waiting(item, costing.view.name_of(item), sort, of, len(tests))
        for (item, sort, of), tests in tests_by_yield(costing.view).items()
        if (item, sort, of) not in known
    ]
    return reply(YieldBookReply, YieldBookReply(rows, worth_testing(rows), waiting, shelf_yields()))


@cache
def shelf_yields() -> list[ShelfYield]:
    """All yields of the shelf, in the order of its names."""
    return [
        ShelfYield(item.id, item.name, item.kind, sort, of, entry_name(entry), treatment_of(item, sort, of, entry),
                   book_of(entry))
        for item in (known.item for known in shelf())
        for sort, of, entry in stated_entries(item)
    ]  # fmt: skip


@router.get("/leftovers", response_model=list[Leftover], responses=described())
def what_is_left(kitchens: InKitchen) -> Response:
    """What falls off and is taken out with a use, what it is worth, and which recipes cook with it."""
    return reply(list[Leftover], leftovers(kitchens.costing()))


class _Key:
    """A yield by the path of its address."""

    def __init__(self, item_id: str, sort: YieldSort, of: str) -> None:
        self.item_id, self.sort, self.of = item_id, sort, of

    def item(self, costing: Costing) -> Item:
        found = costing.view.items.get(self.item_id)
        if found is None:
            raise NotFound("item", self.item_id)
        return found

    def tests(self, costing: Costing) -> list[BenchTest]:
        return tests_by_yield(costing.view).get((self.item_id, self.sort, self.of), [])

    def known(self, costing: Costing, history: list[Adopted]) -> Evidence:
        earlier = [one.entry for one in history]
        return evidence_of(costing.view, self.item(costing), self.sort, self.of, self.tests(costing), earlier)

    def earlier(self, connection: Connection) -> list[Adopted]:
        return adopted(connection, self.item_id, self.sort, self.of)


Key = Annotated[_Key, Depends(_Key)]


@router.get("/yields/{item_id}/{sort}/{of:path}", response_model=YieldReply, responses=described(404, 422))
def one_yield(key: Key, kitchens: InKitchen) -> Response:
    """A yield with its tests, what books say of it, what may be adopted, and what was in use before."""
    costing = kitchens.costing()
    item, view = key.item(costing), costing.view
    with kitchens.database.reading() as connection:
        history = key.earlier(connection)
    known = key.known(costing, history)
    entry, tests, own = known.now, known.tests, known.own
    if entry is None and not tests:
        raise NotFound("yield", f"{item.name}, {key.of}")
    suppliers = {supplier.id: supplier.name for supplier in view.kitchen.suppliers}
    outlying = frozenset(own.outliers) if own is not None else frozenset()
    recipes = recipes_by_yield(costing).get((item.id, key.sort, key.of), [])
    value = entry.value_per_kg if isinstance(entry, Preparation) else None
    return reply(
        YieldReply,
        YieldReply(
            item.id, item.name, key.sort, key.of,
            None if entry is None else yield_row(costing, item, key.sort, key.of, entry, tests, recipes),
            view.per_kg(item.id), view.byproduct_method(item), value,
            [_test_row(costing, test, outlying, suppliers) for test in sorted(tests, key=lambda one: one.on, reverse=True)],
            own, known.blend, known.books, choices_of(known),
            [_adopted_row(one) for one in history], recipes,
        ),
    )  # fmt: skip


def _test_row(costing: Costing, test: BenchTest, outlying: frozenset[str], suppliers: dict[str, str]) -> TestRow:
    money = money_of(costing, test)
    return TestRow(
        test, suppliers.get(test.supplier or ""), weights(test), minutes_per_kg(test), test.id in outlying,
        money.textbook, money.methods,
    )  # fmt: skip


def _adopted_row(one: Adopted) -> AdoptedRow:
    entry = one.entry
    return AdoptedRow(one.number, entry.yield_, entry.low, entry.high, entry.source or "estimate", one.by, one.at)


@router.post("/yields/{item_id}/{sort}/{of:path}/preview", response_model=Effects, responses=described(400, 404, 409, 422))
def preview_adopting(key: Key, adopt: Adopt, kitchens: InKitchen) -> Response:
    """What adopting a yield would do to every portion that rests on it."""
    before = kitchens.costing()
    item = key.item(before)
    with kitchens.database.reading() as connection:
        changed = _adopting(before, key, adopt, key.earlier(connection))
    per_kg = before.view.per_kg(item.id)
    return reply(Effects, Effects(per_kg, per_kg, with_item(before, changed)[1]))


@router.post("/yields/{item_id}/{sort}/{of:path}/adopt", response_model=AdoptReply, responses=described(400, 404, 409, 422))
def adopt_yield(key: Key, adopt: Adopt, kitchens: InKitchen, actor: Actor) -> Response:
    """Adopt a yield, or go back to one that was in use before. Each one stays on record."""
    with kitchens.database.writing(actor) as connection:
        # As it is now; that it is what was seen, the yield says that came with the request.
        before = kitchens.seen_by(connection)
        costing, item = before.costing, key.item(before.costing)
        history = key.earlier(connection)
        changed = _adopting(costing, key, adopt, history)
        was = history[0].number if history else 0
        entry = entry_of(costing.view, item, key.sort, key.of)
        if entry is not None and (not history or history[0].entry != entry):
            # What stands now came by another way: it is kept too, so that one can go back to it.
            was = note_adopted(connection, item.id, key.of, entry, "as it was")
        update_item(connection, changed)
        wanted = stated_entry(changed, key.sort, key.of)
        if wanted is not None:
            note_adopted(connection, item.id, key.of, wanted, actor)
        after, effects = with_item(costing, changed)
        taken_back(connection, [f"item {item.id}"])
        mark_pushed(connection, pushed_past(effects), f"yield of {item.name}", [f"item {item.id}"])
        version = read_version(connection)
    kitchens.adopt(before, version, after)
    return reply(AdoptReply, AdoptReply(was))


def _adopting(costing: Costing, key: _Key, adopt: Adopt, history: list[Adopted]) -> Item:
    """The item with the yield that is wanted; StaleYield where that is not what was seen."""
    item = key.item(costing)
    if adopt.back_to is not None:
        back = next((one for one in history if one.number == adopt.back_to), None)
        if back is None:
            raise NotFound("yield in use before", str(adopt.back_to))
        return with_entry(item, back.entry)
    choice = next((one for one in choices_of(key.known(costing, history)) if one.id == adopt.choice), None)
    if choice is None:
        english = 'there is no "{choice}" to adopt: choose a book, the mean or the blend'
        raise BadDocument("choice", say("no_choice", english, choice=adopt.choice))
    if choice.yield_ is None:
        raise BadDocument("choice", say("not_to_adopt", "{lack}", lack=choice.lack or "this cannot be adopted"))
    if half_even(choice.yield_, 6) != half_even(adopt.yield_, 6):
        raise StaleYield(item.name)
    return adopted_item(item, key.sort, key.of, choice)
