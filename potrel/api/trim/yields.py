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
from potrel.api.trim.replies import AdoptedRow, AdoptReply, ShelfYield, TestRow, Waiting, YieldBookReply, YieldReply
from potrel.core.cost.costing import Costing
from potrel.core.cost.effects import with_item
from potrel.core.kitchen.bench_tests import BenchTest, minutes_per_kg, weights
from potrel.core.kitchen.items import Preparation
from potrel.core.rooms.bench import money_of
from potrel.core.rooms.leftovers import Leftover, leftovers
from potrel.core.rooms.yield_book import (
    book_of,
    entry_name,
    recipes_by_yield,
    stated_entries,
    tests_by_yield,
    treatment_of,
    worth_testing,
    yield_book,
    yield_row,
)
from potrel.core.rooms.yield_choices import choices_of
from potrel.core.trim.shelf import shelf
from potrel.doing import yields as doing
from potrel.doing.yields import Adopt, YieldKey, adopting
from potrel.store.errors import NotFound
from potrel.store.yields import Adopted

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


Key = Annotated[YieldKey, Depends(YieldKey)]


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
        changed = adopting(before, key, adopt, key.earlier(connection))
    per_kg = before.view.per_kg(item.id)
    return reply(Effects, Effects(per_kg, per_kg, with_item(before, changed)[1]))


@router.post("/yields/{item_id}/{sort}/{of:path}/adopt", response_model=AdoptReply, responses=described(400, 404, 409, 422))
def adopt_yield(key: Key, adopt: Adopt, kitchens: InKitchen, actor: Actor) -> Response:
    """Adopt a yield, or go back to one that was in use before. Each one stays on record."""
    return reply(AdoptReply, AdoptReply(doing.adopt_yield(kitchens, key, adopt, actor)))
