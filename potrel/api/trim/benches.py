"""Routes of the bench: tests recorded, left out or counted, and sheets that are filled in."""

from __future__ import annotations

from dataclasses import asdict

from fastapi import APIRouter
from starlette.responses import Response

from potrel.api.answers import reply
from potrel.api.dependencies import Actor, InKitchen
from potrel.api.problems import described
from potrel.api.trim.replies import DraftReply, DraftTest, FieldProblem, KeepSheet, RecordTest, SheetKept, SheetRow, Standing
from potrel.core.kitchen.bench_tests import BenchTest, minutes_per_kg, weights
from potrel.core.rooms.bench import money_of
from potrel.core.rooms.yield_book import entry_of, sort_of
from potrel.core.trim.bench_sheet import read_sheet
from potrel.doing import benches as doing
from potrel.store.errors import NotFound
from potrel.store.yields import sheets

router = APIRouter(prefix="/api", tags=["bench"])


@router.post("/bench-tests/preview", response_model=DraftReply, responses=described(400, 404, 422))
def preview_test(draft: DraftTest, kitchens: InKitchen) -> Response:
    """What a sheet tells so far, however unfinished: its weights, what is unaccounted for, and the money."""
    costing = kitchens.costing()
    item = costing.view.items.get(draft.item)
    if item is None:
        raise NotFound("item", draft.item)
    fields = {name: str(value) for name, value in asdict(draft).items() if name not in ("parts", "kind", "item")}
    read = read_sheet("draft", draft.kind, draft.item, fields, [asdict(part) for part in draft.parts])
    problems = [FieldProblem(field, said.english, said.code, dict(said.params)) for field, said in read.problems]
    entry = entry_of(costing.view, item, sort_of(draft.kind), draft.of.strip())
    in_use = None if entry is None else entry.yield_
    test = read.test
    if test is None:
        per_kg = costing.view.per_kg(item.id)
        return reply(DraftReply, DraftReply(False, problems, read.left, None, None, per_kg, None, [], in_use, None))
    return reply(
        DraftReply,
        DraftReply(True, problems, read.left, weights(test), minutes_per_kg(test), *money_of(costing, test), in_use, test),
    )


@router.post("/bench-tests", status_code=201, response_model=BenchTest, responses=described(400, 404, 409, 422))
def record_test(record: RecordTest, kitchens: InKitchen, actor: Actor) -> Response:
    """Record a test and let its sheet go. The same test twice is recorded once: a lost answer may be asked for again."""
    return reply(BenchTest, doing.record_test(kitchens, record.test, actor, accepted=record.accepted), 201)


@router.put("/bench-tests/{test_id}/standing", status_code=204, responses=described(400, 404, 422))
def put_standing(test_id: str, standing: Standing, kitchens: InKitchen, actor: Actor) -> Response:
    """Leave a test out of the others for a reason, or count it again."""
    doing.let_stand(kitchens, test_id, standing.left_out, actor)
    return Response(status_code=204)


@router.get("/test-sheets", response_model=list[SheetRow], responses=described())
def test_sheets(kitchens: InKitchen) -> Response:
    """The sheets that wait to be finished."""
    view = kitchens.costing().view
    with kitchens.database.reading() as connection:
        rows = [
            SheetRow(one.id, one.item, view.name_of(one.item), one.body, one.started_by, one.changed_at)
            for one in sheets(connection)
        ]
    return reply(list[SheetRow], rows)


@router.put("/test-sheets/{sheet_id}", response_model=SheetKept, responses=described(400, 404, 409, 422))
def put_sheet(sheet_id: str, keep: KeepSheet, kitchens: InKitchen, actor: Actor) -> Response:
    """Keep a sheet as it stands; refused where somebody went on with it on another screen since."""
    return reply(SheetKept, SheetKept(doing.keep_half_done(kitchens, sheet_id, keep.item, keep.body, keep.seen, actor)))


@router.delete("/test-sheets/{sheet_id}", status_code=204, responses=described())
def delete_sheet(sheet_id: str, kitchens: InKitchen, actor: Actor) -> Response:
    """Let a sheet go that nobody wants."""
    doing.drop_half_done(kitchens, sheet_id, actor)
    return Response(status_code=204)
