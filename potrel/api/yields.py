"""Routes of the Trim room: the yield book, one yield in full, and adopting another."""

from __future__ import annotations

from functools import cache
from typing import Annotated

from fastapi import APIRouter, Depends
from starlette.responses import Response

from potrel.api.effects import compare, pushed_past, users, with_item
from potrel.api.problems import described
from potrel.api.recipes import InKitchen
from potrel.api.replies import Effects, reply
from potrel.api.yield_replies import Adopt, AdoptedRow, AdoptReply, ShelfYield, TestRow, Waiting, YieldBookReply, YieldReply
from potrel.core.bench_money import money_of
from potrel.core.costing import Costing, YieldSort
from potrel.core.errors import BadDocument
from potrel.core.kitchen import Item, Preparation
from potrel.core.leftovers import Leftover, leftovers
from potrel.core.shelf import shelf
from potrel.core.weighed import BenchTest, minutes_per_kg, weights
from potrel.core.yield_book import (
    Evidence,
    adopted_item,
    book_of,
    choices_of,
    entry_name,
    entry_of,
    evidence_of,
    recipes_by_yield,
    stated_entries,
    stated_entry,
    tests_by_yield,
    treatment_of,
    with_entry,
    worth_testing,
    yield_book,
    yield_row,
)
from potrel.store.database import Connection
from potrel.store.errors import NotFound, StaleItem, StaleYield
from potrel.store.items import load_items, update_item
from potrel.store.pushed import mark_pushed
from potrel.store.yields import Adopted, adopted, load_tests, note_adopted

router = APIRouter(prefix="/api", tags=["yields"])


@router.get("/yields", response_model=YieldBookReply, responses=described())
def yields(kitchens: InKitchen) -> Response:
    """The yield book: every yield of the kitchen and of the shelf, with what each rests on."""
    costing = kitchens.costing()
    rows = yield_book(costing)
    known = {(row.item, row.sort, row.of) for row in rows}
    waiting = [
        Waiting(item, costing.facts.name_of(item), sort, of, len(tests))
        for (item, sort, of), tests in tests_by_yield(costing.facts).items()
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
        found = costing.facts.items.get(self.item_id)
        if found is None:
            raise NotFound("item", self.item_id)
        return found

    def tests(self, costing: Costing) -> list[BenchTest]:
        return tests_by_yield(costing.facts).get((self.item_id, self.sort, self.of), [])

    def known(self, costing: Costing, history: list[Adopted]) -> Evidence:
        earlier = [one.entry for one in history]
        return evidence_of(costing.facts, self.item(costing), self.sort, self.of, self.tests(costing), earlier)

    def earlier(self, connection: Connection) -> list[Adopted]:
        return adopted(connection, self.item_id, self.sort, self.of)


Key = Annotated[_Key, Depends(_Key)]


@router.get("/yields/{item_id}/{sort}/{of:path}", response_model=YieldReply, responses=described(404, 422))
def one_yield(key: Key, kitchens: InKitchen) -> Response:
    """A yield with its tests, what books say of it, what may be adopted, and what was in use before."""
    costing = kitchens.costing()
    item, facts = key.item(costing), costing.facts
    with kitchens.database.reading() as connection:
        history = key.earlier(connection)
    known = key.known(costing, history)
    entry, tests, own = known.now, known.tests, known.own
    if entry is None and not tests:
        raise NotFound("yield", f"{item.name}, {key.of}")
    suppliers = {supplier.id: supplier.name for supplier in facts.kitchen.suppliers}
    outlying = frozenset(own.outliers) if own is not None else frozenset()
    recipes = recipes_by_yield(costing).get((item.id, key.sort, key.of), [])
    value = entry.value_per_kg if isinstance(entry, Preparation) else None
    return reply(
        YieldReply,
        YieldReply(
            item.id, item.name, key.sort, key.of,
            None if entry is None else yield_row(costing, item, key.sort, key.of, entry, tests, recipes),
            costing.per_kg(item.id), facts.byproduct_method(item), value,
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
    per_kg = before.per_kg(item.id)
    return reply(Effects, Effects(per_kg, per_kg, compare(before, with_item(before, changed), users(before, {item.id}))))


@router.post("/yields/{item_id}/{sort}/{of:path}/adopt", response_model=AdoptReply, responses=described(400, 404, 409, 422))
def adopt_yield(key: Key, adopt: Adopt, kitchens: InKitchen) -> Response:
    """Adopt a yield, or go back to one that was in use before. Each one stays on record."""
    before = kitchens.costing()
    item = key.item(before)
    with kitchens.database.writing() as connection:
        now = next((one for one in load_items(connection) if one.id == item.id), None)
        if now != item:
            raise NotFound("item", item.id) if now is None else StaleItem(now)
        if load_tests(connection) != before.facts.kitchen.tests:
            raise StaleYield(item.name)
        history = key.earlier(connection)
        changed = _adopting(before, key, adopt, history)
        was = history[0].number if history else 0
        entry = entry_of(before.facts, item, key.sort, key.of)
        if entry is not None and (not history or history[0].entry != entry):
            # What stands now came by another way: it is kept too, so that one can go back to it.
            was = note_adopted(connection, item.id, key.of, entry, "as it was")
        update_item(connection, changed)
        wanted = stated_entry(changed, key.sort, key.of)
        if wanted is not None:
            note_adopted(connection, item.id, key.of, wanted, adopt.by)
        effects = compare(before, with_item(before, changed), users(before, {item.id}))
        mark_pushed(connection, pushed_past(effects), f"yield of {item.name}")
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
        raise BadDocument("choice", f'there is no "{adopt.choice}" to adopt: choose a book, the mean or the blend')
    if choice.yield_ is None:
        raise BadDocument("choice", choice.lack or "this cannot be adopted")
    if round(choice.yield_, 6) != round(adopt.yield_, 6):
        raise StaleYield(item.name)
    return adopted_item(item, key.sort, key.of, choice)
