"""Routes of suppliers' lists: read in, reviewed, recorded all or nothing, undone as a whole; fetched from a service."""

from __future__ import annotations

from collections.abc import Generator, Iterator, Mapping
from dataclasses import replace
from datetime import date
from decimal import Decimal
from typing import Annotated, Any, Literal

import psycopg
from fastapi import APIRouter, Depends, Query, Request
from psycopg_pool import PoolTimeout
from starlette.responses import Response, StreamingResponse
from starlette.types import Receive, Scope, Send

from potrel.api.answers import reply
from potrel.api.buy.list_replies import (
    Fetching,
    ListRow,
    ListsReply,
    ReadStep,
    RecordList,
    ReviewReply,
    SaveChoices,
    SaveSupplier,
)
from potrel.api.buy.reviews import Reading, Reviews, in_words, merged, review_reply, row_of
from potrel.api.dependencies import Actor, InKitchen, InReviews
from potrel.api.guard.body import in_time
from potrel.api.kitchens import Kitchens
from potrel.api.problems import described, in_words_of
from potrel.core.buy.pack_text import understood_pack
from potrel.core.buy.paid import standing_credits
from potrel.core.buy.price_list import PriceList
from potrel.core.buy.purchase import standing
from potrel.core.cost.effects import with_prices
from potrel.core.errors import BadDocument, PotrelError
from potrel.core.kitchen.supply import ListForm, Supplier
from potrel.core.rooms.review import TAKEN, LineChoice, ListChoices, State
from potrel.core.rooms.target_alerts import pushed_past
from potrel.core.sentences import say
from potrel.deliveries.understanding import Understood
from potrel.formats.kitchen_json import part_to_json
from potrel.formats.tables import DELIMITERS, MOST_ROWS
from potrel.formats.upload import LARGEST_FILE, check_size
from potrel.store.changes import Version
from potrel.store.database import Connection
from potrel.store.errors import NotFound, Refused, StaleReview, StaleSupplier
from potrel.store.offers import insert_credits, insert_offers, of_price_list
from potrel.store.price_lists import (
    MOST_KEPT,
    ListsShown,
    StoredList,
    digest_of,
    drop_price_list,
    find_same,
    insert_price_list,
    kept_bytes,
    load_price_list,
    price_lists,
    save_choices,
    settle,
    waiting,
)
from potrel.store.pushed import mark_pushed, taken_back
from potrel.store.suppliers import fetchings, load_suppliers, update_supplier

router = APIRouter(prefix="/api", tags=["price lists"])
_MOST_FORMS = 20
_MOST_LINES = 200
_MOST_LISTS = 500
_NDJSON = "application/x-ndjson"
_STEPS: dict[str, Any] = {
    "description": "A line of JSON for each step", "content": {_NDJSON: {"schema": {"$ref": "#/components/schemas/ReadStep"}}},
}  # fmt: skip


@router.get("/price-lists", response_model=ListsReply, responses=described(422))
def lists(
    kitchens: InKitchen,
    show: ListsShown = "all",
    find: Annotated[str, Query(max_length=100)] = "",
    start: Annotated[int, Query(ge=0, le=10**6)] = 0,
    limit: Annotated[int, Query(ge=1, le=_MOST_LISTS)] = 100,
) -> Response:
    """A stretch of the lists that were read, those still open first, and the suppliers that can be asked for theirs."""
    with kitchens.database.reading() as connection:
        some, found = price_lists(connection, show=show, find=find, start=start, limit=limit)
        asked = [Fetching(*one) for one in fetchings(connection)]
        taken = Decimal(kept_bytes(connection)) / MOST_KEPT
        answer = ListsReply([row_of(one) for one in some], found, waiting(connection), asked, taken)
    return reply(ListsReply, answer)


async def file_of(request: Request) -> bytes:
    """The body of a request; BadFile where it is empty or too large."""
    data, size = bytearray(), 0
    async with in_time():
        async for chunk in request.stream():
            size += len(chunk)
            # Read on to the end, so that the answer is heard; but keep nothing of what is too much.
            if size <= LARGEST_FILE:
                data += chunk
            else:
                data.clear()
    check_size(size)
    return bytes(data)


FileBody = Annotated[bytes, Depends(file_of)]
_BYTES = {"schema": {"type": "string", "format": "binary"}}
FILE = {"requestBody": {"required": True, "content": {"application/octet-stream": _BYTES}}}


@router.post("/price-lists", responses={**described(422), 200: _STEPS}, response_class=StreamingResponse, openapi_extra=FILE)
def read_list(
    data: FileBody,
    kitchens: InKitchen,
    reviews: InReviews,
    actor: Actor,
    name: Annotated[str, Query(min_length=1, max_length=200)] = "a file",
    _by: Annotated[str, Query(alias="by", min_length=1, max_length=200)] = "the kitchen",
) -> StreamingResponse:
    """Read a file in. The answer is a line of JSON (ReadStep) for each step; the last has the number of the list.

    Who hangs up before that leaves nothing behind.
    """
    name = " ".join(name.split()) or "a file"
    return _Steps(_lines(_read(data, kitchens, reviews, name, actor)))


class _Steps(StreamingResponse):
    """A line of JSON for each step. Who hangs up in the middle ends the reading at once, so that the next file can be read."""

    def __init__(self, lines: Generator[str]) -> None:
        # Not packed: each step is to arrive when it is done.
        super().__init__(lines, media_type=_NDJSON, headers={"Content-Encoding": "identity"})
        self._lines = lines

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        try:
            await super().__call__(scope, receive, send)
        finally:
            self._lines.close()


def _lines(steps: Iterator[ReadStep]) -> Generator[str]:
    try:
        for step in steps:
            yield part_to_json(ReadStep, step) + "\n"
    except (PotrelError, psycopg.Error, PoolTimeout) as error:
        # The answer has begun already: what the table of problems would say of it stands in its last line.
        yield part_to_json(ReadStep, ReadStep(1.0, problem=in_words_of(error))) + "\n"


def _read(data: bytes, kitchens: Kitchens, reviews: Reviews, name: str, by: str) -> Iterator[ReadStep]:
    """Reads a file step by step; it is kept only when all of it was understood."""
    digest = digest_of(data)
    with kitchens.database.reading() as connection:
        same = find_same(connection, digest)
    if same is not None:
        yield ReadStep(1.0, same, known=True)
        return
    yield ReadStep(0.05)
    for step in reviews.steps(digest, lambda: data, ListChoices(), kitchens.costing().view.kitchen):
        if isinstance(step, Understood):
            with kitchens.database.writing(by) as connection:
                number = insert_price_list(connection, name[:200], data, step.of, step.supplier, by)
            yield ReadStep(1.0, number)
        else:
            yield ReadStep(round(0.05 + 0.9 * step, 3))


@router.get("/price-lists/{number}", response_model=ReviewReply, responses=described(404, 422))
def review(
    number: int,
    reviews: InReviews,
    show: State | Literal["all", "open"] = "all",
    find: Annotated[str, Query(max_length=100)] = "",
    start: Annotated[int, Query(ge=0, le=10**6)] = 0,
    limit: Annotated[int, Query(ge=0, le=_MOST_LINES)] = _MOST_LINES,
) -> Response:
    """What a list would do, with a stretch of its lines: of one state, of all, or those that wait for a person ("open")."""
    return reply(ReviewReply, review_reply(reviews, reviews.reading(number), show, find, start, limit))


@router.put("/price-lists/{number}", response_model=ListRow, responses=described(400, 404, 409, 422))
def choose(number: int, said: SaveChoices, kitchens: InKitchen, reviews: InReviews, actor: Actor) -> Response:
    """Say something of a list: whose it is, what its columns mean, which item a line is."""
    known = kitchens.costing().view
    _check_besides(said.columns or {})
    if said.supplier is not None and said.supplier not in known.suppliers:
        raise NotFound("supplier", said.supplier)
    for line in said.lines or ():
        if line.item is not None and line.item not in known.items:
            raise NotFound("item", line.item)
    if said.confirm_all is not None:
        said = replace(said, lines=[*(said.lines or ()), *_confirmed(reviews.reading(number), said.confirm_all)])
    with kitchens.database.writing(actor) as connection:
        stored = load_price_list(connection, number)
        _check_open(stored, said, reviews)
        _check_lines(stored.choices, said)
        stored = replace(stored, kind=said.kind or stored.kind, supplier=said.supplier or stored.supplier)
        save_choices(connection, number, merged(stored.choices, said), stored.kind, stored.supplier)
    return reply(ListRow, row_of(stored))


def _check_besides(columns: Mapping[str, str]) -> None:
    """BadDocument where what is said of a table beside its columns is none of what can be said."""
    row, delimiter, per = (columns.get(one, "") for one in ("head_row", "delimiter", "price_per"))
    if row and not (row.isdecimal() and 0 < int(row) <= MOST_ROWS):
        english = "the row of heads is said by its number, from 1 to {most}"
        raise BadDocument("columns.head_row", say("head_row_number", english, most=MOST_ROWS))
    if delimiter and delimiter not in DELIMITERS:
        english = "cells are parted by one of ; , | or a tab"
        raise BadDocument("columns.delimiter", say("delimiter_sign", english))
    if per and per not in ("pack", "unit") and understood_pack(per) is None:
        english = 'a price is of a "pack", of the "unit" in its column, or of a pack such as "1 kg"'
        raise BadDocument("columns.price_per", say("price_per_what", english))


def _check_open(stored: StoredList, said: SaveChoices, reviews: Reviews) -> None:
    """Refused where something is said of what is recorded: of a recorded list, only lines that were left out are open."""
    if stored.state != "recorded":
        return
    taken = {line.place for line in reviews.reading(stored.number).reviewed.lines if line.recorded}
    whole = said.supplier is not None or said.kind is not None or said.columns is not None
    if whole or any(line.place in taken for line in said.lines or ()):
        raise Refused(say("list_recorded", "this is recorded: undo the list first, then change what it says"))


def _check_lines(now: ListChoices, said: SaveChoices) -> None:
    """StaleReview where something else is said of a line by now than was seen."""
    there = {line.place: line for line in now.lines}
    for seen in said.lines_were or ():
        if there.get(seen.place, LineChoice(seen.place)) != seen:
            raise StaleReview


def _confirmed(reading: Reading, state: State) -> list[LineChoice]:
    return [
        # Which item it is, and whether an odd price is right, are two questions.
        replace(line.chosen or LineChoice(line.place), item=line.item, confirmed=state == "suspicious", pack=line.pack)
        for line in reading.reviewed.lines
        if line.state == state and line.item is not None and not line.recorded
    ]


@router.post("/price-lists/{number}/record", response_model=ListRow, responses=described(400, 404, 409, 422))
def record(number: int, ask: RecordList, kitchens: InKitchen, reviews: InReviews, actor: Actor) -> Response:
    """Record all of a list that is ready, or nothing; refused where it is not what was seen any more.

    Of a list that is recorded already, what was left out then and is ready by now is recorded too.
    """
    reading = reviews.reading(number)
    again = reading.stored.state == "recorded"
    if again and not (reading.reviewed.offers or reading.reviewed.credits):
        raise BadDocument("", say("recorded_already", "list {list} is recorded already", list=number))
    blocked = reviews.blocked(reading)
    if blocked is not None:
        english = "list {list} cannot be recorded yet: {blocked}"
        raise BadDocument("", say("list_blocked", english, list=number, blocked=blocked))
    later = _remembered(reading)
    with kitchens.database.writing(actor) as connection:
        before = kitchens.seen_by(connection)
        _check_unchanged(connection, reading, ask.seen, before.version)
        offers = insert_offers(connection, reading.reviewed.offers, actor, number)
        credits_ = insert_credits(connection, reading.reviewed.credits, actor, number)
        if later is not None:
            update_supplier(connection, later)
        save_choices(connection, number, reading.stored.choices, reading.stored.kind, reading.stored.supplier)
        taken = [line.place for line in reading.reviewed.lines if line.recorded or line.state in TAKEN]
        prices = len(offers) + len(credits_) + (reading.stored.prices if again else 0)
        settle(connection, number, "recorded", actor, prices, taken)
        mark_pushed(connection, pushed_past(reading.effects), in_words(reading), [f"list {number}"])
        stored = load_price_list(connection, number)
    return reply(ListRow, row_of(stored))


def _check_unchanged(connection: Connection, reading: Reading, seen: str, version: Version) -> None:
    """StaleReview where the data or the choices are not those that were seen. Writers queue, so nothing changes after this."""
    stored = load_price_list(connection, reading.stored.number)
    if seen != reading.seen or version != reading.version or stored.choices != reading.stored.choices:
        raise StaleReview


def _remembered(reading: Reading) -> Supplier | None:
    """The supplier with what a person said of its columns, and of lines that are not bought; None where that is known."""
    supplier = reading.before.view.suppliers.get(reading.stored.supplier or "")
    if supplier is None:
        return None
    choices, of = reading.stored.choices, reading.understood.of
    called = {line.place: line.called for line in of.lines}
    passed = {called[line.place] for line in choices.lines if line.pass_over and line.place in called}
    bought = {called[line.place] for line in choices.lines if line.item is not None and line.place in called}
    later = replace(
        supplier, forms=_forms(supplier, of), passed_over=tuple(sorted((set(supplier.passed_over) | passed) - bought))
    )
    return None if later == supplier else later


def _forms(supplier: Supplier, of: PriceList) -> tuple[ListForm, ...]:
    """The forms of a supplier with that by which a list was read, which takes the place of the one of the same heads."""
    if not of.heads:
        return supplier.forms
    # Which sheet counts, and where its heads stand, is asked of each file: last month's sheet stands beside this month's.
    form = ListForm(of.heads, {what: head for what, head in of.columns.items() if what not in ("sheet", "head_row")})
    others = [one for one in supplier.forms if set(one.heads) != set(form.heads)]
    return (form, *others)[:_MOST_FORMS]


@router.post("/price-lists/{number}/undo", response_model=ListRow, responses=described(400, 404, 422))
def undo(
    number: int,
    kitchens: InKitchen,
    actor: Actor,
    _by: Annotated[str, Query(alias="by", min_length=1, max_length=200)] = "the kitchen",
) -> Response:
    """Take back all that was recorded of a list; it is open to be recorded again."""
    with kitchens.database.writing(actor) as connection:
        before = kitchens.seen_by(connection).costing
        stored = load_price_list(connection, number)
        if stored.state != "recorded":
            english = "list {list} is not recorded: there is nothing to undo"
            raise BadDocument("", say("nothing_to_undo", english, list=number))
        offers, credits_ = of_price_list(connection, number)
        gone = {offer.corrects for offer in before.view.kitchen.offers if offer.corrects is not None}
        back = [replace(one, id=None, corrects=one.id, withdrawn=True) for one in standing(offers) if one.id not in gone]
        insert_offers(connection, back, actor, number)
        withdrawn = [replace(one, id=None, withdraws=one.id) for one in standing_credits(credits_)]
        insert_credits(connection, withdrawn, actor, number)
        settle(connection, number, "undone", actor, 0, None)
        _, effects = with_prices(before, back)
        taken_back(connection, [f"list {number}"])
        mark_pushed(connection, pushed_past(effects), f"list {number} was undone", [f"list {number} undone"])
        stored = load_price_list(connection, number)
    return reply(ListRow, row_of(stored))


@router.delete("/price-lists/{number}", status_code=204, responses=described(404, 422))
def drop(number: int, kitchens: InKitchen, actor: Actor) -> Response:
    """Forget a list that was never recorded."""
    with kitchens.database.writing(actor) as connection:
        load_price_list(connection, number)
        drop_price_list(connection, number)
    return Response(status_code=204)


@router.put("/suppliers/{supplier_id}", response_model=Supplier, responses=described(400, 404, 409, 422))
def put_supplier(supplier_id: str, save: SaveSupplier, kitchens: InKitchen, actor: Actor) -> Response:
    """Save a supplier; refused where somebody changed it since."""
    if save.supplier.id != supplier_id:
        english = 'a supplier keeps its id: "{id}" cannot become "{other}"'
        raise BadDocument("supplier.id", say("supplier_keeps_id", english, id=supplier_id, other=save.supplier.id))
    with kitchens.database.writing(actor) as connection:
        now = next((one for one in load_suppliers(connection) if one.id == supplier_id), None)
        if now is not None and now != save.was:
            raise StaleSupplier(now.name)
        update_supplier(connection, save.supplier)
    return reply(Supplier, save.supplier)


@router.post("/suppliers/{supplier_id}/fetch", response_model=ReadStep, responses=described(404, 422, 502))
def fetch(supplier_id: str, kitchens: InKitchen, reviews: InReviews, actor: Actor) -> Response:
    """Fetch a supplier's list of today from its service, and read it in as a file is."""
    return reply(ReadStep, fetch_list(kitchens, reviews, supplier_id, kitchens.costing().on, actor))


def fetch_list(kitchens: Kitchens, reviews: Reviews, supplier_id: str, today: date, by: str) -> ReadStep:
    """Fetch and read a supplier's list; the last step of that."""
    supplier = kitchens.costing().view.suppliers.get(supplier_id)
    if supplier is None:
        raise NotFound("supplier", supplier_id)
    if supplier.catalogue_url is None:
        english = "of {supplier} no address of a list is known: write it down first"
        raise BadDocument("catalogue_url", say("no_address", english, supplier=supplier.name))
    data = reviews.service.fetch(supplier.catalogue_url)
    *_, last = _read(data, kitchens, reviews, f"fetched from {supplier.name}, {today}", by)
    return last
