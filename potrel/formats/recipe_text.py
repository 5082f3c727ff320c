"""A recipe as plain text or Markdown: as a cook writes it down, and as it can be pasted in again."""

from __future__ import annotations

from collections.abc import Iterator

from potrel.core.cost.costed_recipe import CostedRecipe
from potrel.core.kitchen.kinds import plain
from potrel.core.kitchen.lines import Line
from potrel.core.kitchen.recipes import Recipe, Stage
from potrel.core.pot.day_view import DayView


def line_text(line: Line, view: DayView) -> str:
    """A line as a cook writes it: "2.5 kg leeks, trimmed, sliced"."""
    return f"{line.quantity.text} {what_text(line, view)}"


def what_text(line: Line, view: DayView) -> str:
    """What a line is of, without how much."""
    name = view.name_of(line.item, line.recipe)
    item = view.items.get(line.item or "")
    preparations = {one.id: one.name for one in item.preparations} if item is not None else {}
    parts = [f"{line.byproduct} of {name}" if line.byproduct else name]
    parts += [preparations.get(step, step) for step in line.preparations]
    if line.note:
        parts.append(line.note)
    words = ", ".join(parts)
    eye = f" to {line.by_eye}" if line.by_eye else ""
    basis = " EP" if line.basis == "EP" and line.preparations else ""
    return f"{words}{basis}{eye}"


def stage_head(stage: Stage) -> str:
    """A stage's head as it is read again: "Sweat 12 min", with its method where that is not its name."""
    name = stage.name or stage.id
    parts = [name]
    if stage.method and stage.method.casefold() not in name.casefold():
        parts[0] = f"{name}, {stage.method}"
    if stage.temperature_c is not None:
        parts.append(f"{plain(stage.temperature_c)} C")
    if stage.minutes is not None:
        parts.append(f"{plain(stage.minutes)} min")
    return " ".join(parts)


def makes(one: CostedRecipe) -> list[str]:
    """What a batch gives, as each of its servings: "31 Bowl of 350 ml"."""
    told = [(portion.whole_portions, portion.serving) for portion in one.portions]
    return [f"{count} {serving.name} of {serving.size.text}" for count, serving in told if count is not None]


def plain_text(one: CostedRecipe, view: DayView) -> str:
    """A recipe as plain text: its name, what it makes, each stage with its lines, notes."""
    return "\n".join([one.recipe.name, "", *_makes(one), *_rows(one.recipe, view, "", ":")]).rstrip() + "\n"


def markdown(one: CostedRecipe, view: DayView) -> str:
    """The same as Markdown: headings and lists."""
    return "\n".join([f"# {one.recipe.name}", "", *_makes(one), *_rows(one.recipe, view, "- ", "", "## ")]).rstrip() + "\n"


def _makes(one: CostedRecipe) -> list[str]:
    told = makes(one)
    return [f"Makes {' or '.join(told)}", ""] if told else []


def _rows(recipe: Recipe, view: DayView, bullet: str, after: str, before: str = "") -> Iterator[str]:
    for stage in recipe.stages:
        yield f"{before}{stage_head(stage)}{after}"
        if before:
            yield ""
        for line in stage.lines:
            yield f"{bullet}{line_text(line, view)}"
        if stage.note:
            yield from ["", *stage.note.splitlines()] if before else stage.note.splitlines()
        yield ""
    if recipe.note:
        yield from recipe.note.splitlines()
