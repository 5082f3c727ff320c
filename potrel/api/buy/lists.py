"""Routes of suppliers' lists: read in, reviewed, recorded all or nothing, undone as a whole; fetched from a service."""

from __future__ import annotations

from collections.abc import Generator, Iterator
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
    RecordList,
    ReviewReply,
    SaveSupplier,
)
from potrel.api.buy.reviews import review_reply, row_of
from potrel.api.dependencies import Actor, InKitchen, InReviews
from potrel.api.guard.body import in_time
from potrel.api.problems import described, in_words_of
from potrel.core.errors import BadDocument, PotrelError
from potrel.core.kitchen.supply import Supplier
from potrel.core.rooms.review import State
from potrel.core.sentences import say
from potrel.doing.lists import (
    ReadStep,
    SaveChoices,
    drop_list,
    fetch_list,
    read_file,
    record_list,
    save_supplier,
    say_of_list,
    undo_list,
)
from potrel.formats.kitchen_json import part_to_json
from potrel.formats.upload import LARGEST_FILE, check_size
from potrel.store.price_lists import (
    MOST_KEPT,
    ListsShown,
    kept_bytes,
    price_lists,
    waiting,
)
from potrel.store.suppliers import fetchings

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
) -> StreamingResponse:
    """Read a file in. The answer is a line of JSON (ReadStep) for each step; the last has the number of the list.

    Who hangs up before that leaves nothing behind.
    """
    name = " ".join(name.split()) or "a file"
    return _Steps(_lines(read_file(data, kitchens, reviews, name, actor)))


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
    return reply(ListRow, row_of(say_of_list(kitchens, reviews, number, said, actor)))


@router.post("/price-lists/{number}/record", response_model=ListRow, responses=described(400, 404, 409, 422))
def record(number: int, ask: RecordList, kitchens: InKitchen, reviews: InReviews, actor: Actor) -> Response:
    """Record all of a list that is ready, or nothing; refused where it is not what was seen any more.

    Of a list that is recorded already, what was left out then and is ready by now is recorded too.
    """
    return reply(ListRow, row_of(record_list(kitchens, reviews, number, ask.seen, actor)))


@router.post("/price-lists/{number}/undo", response_model=ListRow, responses=described(400, 404, 422))
def undo(
    number: int,
    kitchens: InKitchen,
    actor: Actor,
) -> Response:
    """Take back all that was recorded of a list; it is open to be recorded again."""
    return reply(ListRow, row_of(undo_list(kitchens, number, actor)))


@router.delete("/price-lists/{number}", status_code=204, responses=described(404, 422))
def drop(number: int, kitchens: InKitchen, actor: Actor) -> Response:
    """Forget a list that was never recorded."""
    drop_list(kitchens, number, actor)
    return Response(status_code=204)


@router.put("/suppliers/{supplier_id}", response_model=Supplier, responses=described(400, 404, 409, 422))
def put_supplier(supplier_id: str, save: SaveSupplier, kitchens: InKitchen, actor: Actor) -> Response:
    """Save a supplier; refused where somebody changed it since."""
    if save.supplier.id != supplier_id:
        english = 'a supplier keeps its id: "{id}" cannot become "{other}"'
        raise BadDocument("supplier.id", say("supplier_keeps_id", english, id=supplier_id, other=save.supplier.id))
    save_supplier(kitchens, save.supplier, save.was, actor)
    return reply(Supplier, save.supplier)


@router.post("/suppliers/{supplier_id}/fetch", response_model=ReadStep, responses=described(404, 422, 502))
def fetch(supplier_id: str, kitchens: InKitchen, reviews: InReviews, actor: Actor) -> Response:
    """Fetch a supplier's list of today from its service, and read it in as a file is."""
    return reply(ReadStep, fetch_list(kitchens, reviews, supplier_id, kitchens.costing().on, actor))
