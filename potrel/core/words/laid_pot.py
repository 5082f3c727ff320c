"""The stages of a pot from paper, with the lines as they were understood: each where the text puts it, and what comes out."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import replace

from potrel.core.errors import BadDocument
from potrel.core.kitchen.bones import is_bones
from potrel.core.kitchen.lines import Line
from potrel.core.kitchen.naming import id_for
from potrel.core.kitchen.quantities import parse_quantity
from potrel.core.kitchen.recipes import Recipe, Stage, TopUpWith
from potrel.core.pot.day_view import DayView
from potrel.core.sentences import say
from potrel.core.words.laid_stage import stage_of, take_outs, ticked
from potrel.core.words.laying_out import Laid, Thing, lay_out, names, thing_of
from potrel.core.words.pasted import PastedLine
from potrel.core.words.recipe_text import RecipeText

_LONGEST_NOTE = 2000
_POURED = ("water", "stock", "wine")


def lay_pot(text: RecipeText, lines: Sequence[PastedLine], view: DayView) -> tuple[list[PastedLine], tuple[Stage, ...]]:
    """The lines with the stage that each came into, and the stages. BadDocument where a note is too long."""
    things = [_thing(one, view) for one in lines]
    laid = lay_out(text, things)
    ids = _ids(lines)
    stages: list[Stage] = []
    out: set[int] = set()
    for place, one in enumerate(laid):
        before = [at for other in laid[: place + 1] for at in other.lines if at not in out]
        blended = any(other.step.method == "blend" for other in laid[:place])
        of_bones = any(things[at].kind == "bones" for other in laid[: place + 1] for at in other.lines)
        of = one.of or tuple(ticked(one, before, things, [line.text for line in lines], of_stock=of_bones and not blended))
        of = tuple(at for at in of if at in before and lines[at].typed.line is not None)
        out.update(of)
        mine = [lines[at] for at in one.lines]
        notes = [*one.notes, *(f"Left out: {line.text}" for line in mine if line.left_out), *(text.aside if place == 0 else [])]
        made = stage_of(
            one, id_for(one.name, {other.id for other in stages}), [stages[-1].id] if stages else [],
            [line.typed.line for line in mine if line.typed.line is not None], take_outs(one, of, ids, things),
            _top_up(one, lines, things, view),
        )  # fmt: skip
        stages.append(replace(made, note=_note(notes, one.name)))
    named = {line_id for stage in stages for taken in stage.take_out for line_id in taken.of}
    where = {at: place for place, one in enumerate(laid) for at in one.lines}
    made_of = tuple(_with_ids(stage, laid[place], lines, things, ids, named) for place, stage in enumerate(stages))
    return [replace(one, stage=where[at]) for at, one in enumerate(lines)], made_of


def _note(notes: Sequence[str], name: str) -> str | None:
    note = "\n".join(notes)
    if len(note) > _LONGEST_NOTE:
        english = "what stands beside {stage} has at most {most} characters: shorten it, or begin another stage"
        raise BadDocument("rows", say("stage_note_too_long", english, stage=name, most=_LONGEST_NOTE))
    return note or None


def _thing(one: PastedLine, view: DayView) -> Thing:
    line = one.typed.line
    if line is None:
        return thing_of(one.stage, one.text, "")
    if line.recipe is not None:
        return thing_of(one.stage, view.name_of(None, line.recipe), "stock")
    item = view.items[line.item or ""]
    return thing_of(one.stage, item.name, "bones" if is_bones(item) else item.kind, item.bone_share)


def _ids(lines: Sequence[PastedLine]) -> list[str]:
    """An id for each line, as the pot would give it."""
    put = [
        Line(parse_quantity("0 g"), item="open") if one.typed.line is None else replace(one.typed.line, id=None)
        for one in lines
    ]
    return Recipe("pot", "Pot", stages=(Stage("all", lines=tuple(put)),)).line_ids()


def _with_ids(
    stage: Stage, laid: Laid, lines: Sequence[PastedLine], things: Sequence[Thing], ids: Sequence[str], named: Collection[str]
) -> Stage:
    """A stage with its lines; those that are taken out again have an id by which they are named."""
    mine = [(ids[at], line) for at in laid.lines if (line := lines[at].typed.line) is not None]
    if laid.step.method == "soak" and not any(things[at].kind in _POURED for at in laid.lines):
        # What soaks by itself drinks of the tap, and that is poured off again: no recipe writes it down.
        mine = [(id_, replace(line, loss_to="air")) for id_, line in mine]
    return replace(stage, lines=tuple(replace(line, id=id_ if id_ in named else None) for id_, line in mine))


def _top_up(laid: Laid, lines: Sequence[PastedLine], things: Sequence[Thing], view: DayView) -> TopUpWith | None:
    """What a pot is topped up with: a liquid that the text names, else water; None where it names another that is not there."""
    if laid.step.does != "top_up":
        return None
    for at, thing in enumerate(things):
        line = lines[at].typed.line
        if line is not None and thing.kind in (*_POURED, "dairy") and names(laid.step.text, thing):
            return TopUpWith(line.item, line.recipe)
    water = next((one.id for one in view.items.values() if one.kind == "water" and not one.archived), None)
    _, with_, what = laid.step.text.partition(" with ")
    return None if water is None or (with_ and "water" not in what) else TopUpWith(water)
