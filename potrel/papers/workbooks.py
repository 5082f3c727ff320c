"""Makes workbooks that compute, in a process apart: a large one takes a lot of room for a moment."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from datetime import date

from potrel.apart.workers import Job, shared
from potrel.core.cost.costing import Costing
from potrel.core.kitchen.kitchen import Kitchen
from potrel.core.kitchen.order import order_of
from potrel.core.sentences import say
from potrel.formats.live_workbook import board_workbook, pot_workbook, pots_on_sale
from potrel.papers.paper import NoPaper

MAKING = Job(
    "potrel.papers.workbooks:made",
    NoPaper,
    say("workbook_died", "the workbook could not be made: it takes far too long or too much room. Make that of one pot"),
    patience=120.0,
    most_memory=3 * 2**30,
)


def workbook_of(costing: Costing, recipe_id: str | None = None) -> bytes:
    """The workbook of a pot, or of all that is on sale. NoPaper where it cannot be made."""
    kitchen, view = costing.view.kitchen, costing.view
    if recipe_id is None:
        pots_on_sale(costing)
    else:
        kitchen = replace(kitchen, recipes=tuple(view.recipes[one] for one in order_of([recipe_id], view.uses)))
    found: bytes = shared(MAKING).one(kitchen, costing.on, recipe_id)
    return found


def made(kitchen: Kitchen, on: date, recipe_id: str | None) -> Iterator[bytes]:
    """The same, made here; the one answer is the workbook."""
    costing = Costing(kitchen, on)
    yield board_workbook(costing) if recipe_id is None else pot_workbook(costing, recipe_id)
