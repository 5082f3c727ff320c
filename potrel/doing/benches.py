"""What is done with tests at the bench: kept half done, recorded, left out of the others."""

from __future__ import annotations

import json
from dataclasses import replace
from datetime import datetime
from typing import Any

from potrel.core.errors import BadDocument
from potrel.core.kitchen.bench_tests import BenchTest, weights
from potrel.core.sentences import say
from potrel.doing.items import known_item
from potrel.doing.kitchens import Kitchens
from potrel.store.errors import AlreadyThere, NotFound, StaleSheet
from potrel.store.yields import drop_sheet, insert_tests, is_recorded, keep_sheet, leave_out, load_tests, sheets

_LARGEST_SHEET = 100_000


def record_test(kitchens: Kitchens, test: BenchTest, by: str, *, accepted: bool) -> BenchTest:
    """Record a test and let its sheet go. The same test twice is recorded once: a lost answer may be asked for again.

    NotFound; BadDocument where it is of a day to come, or more is unaccounted for than was `accepted`; AlreadyThere where the
    sheet was recorded with other weights.
    """
    costing = kitchens.costing()
    view = costing.view
    known_item(costing, test.item)
    if test.supplier is not None and test.supplier not in view.suppliers:
        raise NotFound("supplier", test.supplier)
    if test.on > view.on:
        english = "{day} is yet to come: a test was weighed today or before"
        raise BadDocument("on", say("yet_to_come", english, day=test.on.isoformat()))
    if weights(test).asks_again and not accepted:
        english = "more is unaccounted for than drips or dries off: weigh again, or say that it is so"
        raise BadDocument("parts", say("unaccounted_for", english))
    test = replace(test, by=test.by or by)
    with kitchens.database.writing(by) as connection:
        known = next((one for one in load_tests(connection) if one.id == test.id), None)
        if known is not None and replace(known, left_out=None) != test:
            english = "this sheet was recorded already, with other weights: start a new one"
            raise AlreadyThere(say("recorded_otherwise", english))
        if known is None:
            insert_tests(connection, [replace(test, left_out=None)], by)
        drop_sheet(connection, test.id)
    return test


def let_stand(kitchens: Kitchens, test_id: str, left_out: str | None, by: str) -> None:
    """Leave a test out of the others for a reason, or count it again (None). NotFound."""
    with kitchens.database.writing(by) as connection:
        leave_out(connection, test_id, left_out, by)


def keep_half_done(
    kitchens: Kitchens, sheet_id: str, item: str, body: dict[str, Any], seen: datetime | None, by: str
) -> datetime:
    """Keep a sheet as it stands; when that was. StaleSheet where somebody went on with it since it was `seen`; NotFound,
    AlreadyThere.
    """
    known_item(kitchens.costing(), item)
    if len(json.dumps(body)) > _LARGEST_SHEET:
        english = "a sheet holds at most 100 kB: it has more parts or longer notes than any bench"
        raise BadDocument("body", say("sheet_too_large", english))
    with kitchens.database.writing(by) as connection:
        if is_recorded(connection, sheet_id):
            raise AlreadyThere(say("sheet_recorded", "this sheet was recorded already: start a new one"))
        there = next((one for one in sheets(connection) if one.id == sheet_id), None)
        if there is not None and there.changed_at != seen:
            raise StaleSheet(there.started_by)
        return keep_sheet(connection, sheet_id, item, body, by)


def drop_half_done(kitchens: Kitchens, sheet_id: str, by: str) -> None:
    """Let a sheet go that nobody wants."""
    with kitchens.database.writing(by) as connection:
        drop_sheet(connection, sheet_id)
