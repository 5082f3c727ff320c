"""Whether this version of Potrel reckons pots otherwise than the one before: held against the board that that one kept."""

from __future__ import annotations

import gzip
import json
from decimal import Decimal

from potrel.core.cost.costing import Costing
from potrel.core.numbers.rounding import half_even
from potrel.core.reckoning import reasons
from potrel.doing.build import build
from potrel.doing.kitchens import Kitchens
from potrel.store.kept_board import KeptBoard, board_of_another_build, keep_board
from potrel.store.otherwise import MovedCost, note_otherwise, saw_otherwise

# Who notes it is nobody of the kitchen.
_BY = "a new version"
_UNSAID = "rules of the reckoning were mended"
# The board tells six places.
_PLACES = 6


def note_what_costs_otherwise(kitchens: Kitchens) -> None:
    """Note, once for each new version, the servings whose food cost it reckons otherwise than the one before did."""
    with kitchens.database.reading() as connection:
        if board_of_another_build(connection, build()) is None:
            return
    kept = kitchens.current()
    with kitchens.database.writing(_BY) as connection:
        # Another process may have been first, or somebody saved something meanwhile.
        before = board_of_another_build(connection, build())
        if before is None or kitchens.seen_by(connection).version != kept.version:
            return
        moved = _moved(before, kept.costing)
        if moved:
            note_otherwise(connection, moved, before.day, reasons(before.reckoning) or [_UNSAID])
        keep_board(connection, kept.version, kept.costing.on, build(), kitchens.packed(kept))


def saw_what_costs_otherwise(kitchens: Kitchens, number: int, by: str) -> None:
    """Somebody has seen what a new version reckons otherwise, up to a number. The record stays."""
    with kitchens.database.writing(by) as connection:
        saw_otherwise(connection, number, by)


def _moved(before: KeptBoard, costing: Costing) -> list[MovedCost]:
    then = costing if costing.on == before.day else costing.on_day(before.day)
    told = {(row["recipe"], row["serving"]): row for row in json.loads(gzip.decompress(before.packed))["rows"]}
    found: list[MovedCost] = []
    for one in then.all():
        for portion in one.portions:
            row = told.get((one.recipe.id, portion.serving.id))
            if row is None:
                continue
            was = None if row.get("food_cost") is None else Decimal(row["food_cost"])
            # Of a pot that is not complete the board tells no cost that somebody could have gone by.
            was = was if row.get("complete", True) else None
            now = None if portion.food_cost is None or one.problems else half_even(portion.food_cost, _PLACES)
            if was != now:
                found.append(MovedCost(one.recipe.id, one.recipe.name, portion.serving.id, portion.serving.name, was, now))
    return found
