"""What is done with practice: an answer marked, and its score kept."""

from __future__ import annotations

from potrel.core.decide.practice import Marked, PracticeKind, exercise_of, mark
from potrel.doing.kitchens import Kitchens
from potrel.store.errors import StaleQuestion
from potrel.store.yields import note_answer


def mark_answer(kitchens: Kitchens, kind: PracticeKind, seed: int, question: str, said: str, cook: str, by: str) -> Marked:
    """Mark a cook's answer, and keep the score. StaleQuestion where the kitchen would ask otherwise by now."""
    costing = kitchens.costing()
    if exercise_of(costing, kind, seed).question != question:
        raise StaleQuestion
    marked = mark(costing, kind, seed, said)
    with kitchens.database.writing(by) as connection:
        note_answer(connection, cook, kind, marked.right)
    return marked
