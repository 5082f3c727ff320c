"""A typed line that hangs on the pot it goes into: liquid by eye ("water to cover", "1 l stock to thin") and salt to taste."""

from __future__ import annotations

from dataclasses import replace

from potrel.core.cost.costing import Costing
from potrel.core.kitchen.recipes import Recipe, Stage
from potrel.core.pot.by_eye import by_eye_of, cover_of, poured
from potrel.core.pot.day_view import DayView
from potrel.core.sentences import Sentence, say
from potrel.core.words.to_taste import salted
from potrel.core.words.typed_line import TypedLine, read_line


def read_into(
    text: str, costing: Costing, means: str | None, made_by: str | None, draft: Recipe | None, stage_id: str | None
) -> TypedLine:
    """Understand a line typed into a stage of a draft, with what hangs on what is in it.

    Where it is poured by eye and no amount is typed, what covers the solids of its stage is taken; salt to taste is so much as
    brings the batch to the kitchen's target, and where nobody can tell that, the seasoning allowance stands for it. Never
    raises: it says what it lacks.
    """
    view = costing.view if draft is None else costing.view.with_recipes([draft])
    found = _read_poured(text, view, means, made_by, draft, stage_id)
    if found.by_target is None:
        return found
    line = None if draft is None or stage_id is None else salted(draft, stage_id, found.by_target, costing)
    if line is not None:
        return replace(found, line=line, by_target=None)
    return replace(found, covers=(view.name_of(found.by_target, None), *found.covers), by_target=None)


def _read_poured(
    text: str, view: DayView, means: str | None, made_by: str | None, draft: Recipe | None, stage_id: str | None
) -> TypedLine:
    rest, by_eye = by_eye_of(text)
    if by_eye is None:
        return read_line(text, view, means, made_by)
    # An amount that was typed is what was poured.
    found = read_line(rest, view, means, made_by)
    if found.line is None and found.amount is None and not found.candidates:
        amount = _amount(by_eye, view, draft, stage_id)
        if isinstance(amount, Sentence):
            return TypedLine(text, None, found.name, amount.english, problem_code=amount.code, params=amount.params)
        found = read_line(f"{amount} {rest}", view, means, made_by)
    line = None if found.line is None else replace(found.line, by_eye=by_eye)
    return replace(found, text=text, line=line)


def _amount(by_eye: str, view: DayView, draft: Recipe | None, stage_id: str | None) -> str | Sentence:
    if by_eye == "thin":
        return say("thin_how_much", 'say how much to begin with, and correct it when it is poured: "1 l water to thin"')
    stage: Stage | None = None
    if draft is not None:
        stage = next((one for one in draft.stages if one.id == stage_id), None)
    if draft is None or stage is None:
        return say("cover_how_much", 'say how much: "6 l water to cover"')
    cover = cover_of(draft, stage, view)
    return cover if isinstance(cover, Sentence) else poured(cover.litres, view)
