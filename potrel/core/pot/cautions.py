"""Cautions that come by themselves: what can hurt somebody in a stage, by its method, vessel, lid and ingredients.

Short, at the step. They are aids: the local food code and trained people decide.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from functools import cache

from potrel.core.frozen import dataclass
from potrel.core.kitchen.items import Item
from potrel.core.kitchen.kinds import Id
from potrel.core.kitchen.lines import Line
from potrel.core.kitchen.methods import method_called
from potrel.core.kitchen.naming import words_in
from potrel.core.kitchen.recipes import Recipe, Stage
from potrel.core.pot.day_view import DayView
from potrel.core.tables import table

_COLD = frozenset({"soak", "strain", "cool", "blend", "finish"})
_RAW = frozenset({"meat", "bones"})
# What holds more than that is deep.
_DEEP_ML = 10_000


@dataclass(frozen=True, slots=True)
class Caution:
    """What to mind at a stage, and where that is from."""

    stage: Id
    id: Id
    text: str
    source: str


@dataclass(frozen=True, slots=True)
class _Rule:
    """When a caution comes: each of these that is given has to hold."""

    id: str
    methods: frozenset[str]
    vessels: tuple[tuple[str, ...], ...]
    lids: frozenset[str]
    items: tuple[tuple[str, ...], ...]
    but: tuple[tuple[str, ...], ...]
    preparations: tuple[tuple[str, ...], ...]
    when: str
    text: str
    source: str


@dataclass(frozen=True, slots=True)
class _Step:
    """A stage within its pot, with the lines whose items a rule is about."""

    recipe: Recipe
    place: int
    view: DayView

    @property
    def stage(self) -> Stage:
        return self.recipe.stages[self.place]

    @property
    def method(self) -> str | None:
        found = method_called(self.stage.method or "")
        return None if found is None else found.id

    def item(self, line: Line) -> Item | None:
        return self.view.items.get(line.item or "")


def cautions(recipe: Recipe, view: DayView) -> list[Caution]:
    """What to mind in a pot, each thing once, at the first stage where it comes up."""
    found: dict[str, Caution] = {}
    for place, stage in enumerate(recipe.stages):
        step = _Step(recipe, place, view)
        for rule in _rules():
            if rule.text not in found and _holds(rule, step):
                found[rule.text] = Caution(stage.id, rule.id, rule.text, rule.source)
    return list(found.values())


@cache
def _rules() -> tuple[_Rule, ...]:
    return tuple(
        _Rule(
            row["id"], frozenset(filter(None, row["methods"].split(";"))), _phrases(row["vessels"]),
            frozenset(filter(None, row["lids"].split(";"))), _phrases(row["items"]), _phrases(row["but"]),
            _phrases(row["preparations"]), row["when"], row["text"], row["source"],
        )
        for row in table("cautions.csv")
    )  # fmt: skip


def _phrases(text: str) -> tuple[tuple[str, ...], ...]:
    return tuple(tuple(word.stem for word in words_in(one)) for one in text.split(";") if one)


def _holds(rule: _Rule, step: _Step) -> bool:
    stage = step.stage
    if rule.methods and step.method not in rule.methods:
        return False
    if rule.vessels and not _names(_vessel_name(step), rule.vessels):
        return False
    if rule.lids and stage.lid not in rule.lids:
        return False
    lines = list(_lines_of(rule, step))
    if (rule.items or rule.preparations) and not lines:
        return False
    return not rule.when or _WHEN[rule.when](step, lines)


def _vessel_name(step: _Step) -> str:
    vessel = next((one for one in step.view.kitchen.vessels if one.id == step.stage.vessel), None)
    return "" if vessel is None else vessel.name


def _lines_of(rule: _Rule, step: _Step) -> Iterator[Line]:
    """The lines that a rule is about."""
    for line in step.stage.lines:
        item = step.item(line)
        if item is None or line.byproduct is not None:
            continue
        if rule.items and (not _names(item.name, rule.items) or _names(item.name, rule.but)):
            continue
        if rule.preparations and not any(_names(name, rule.preparations) for name in _prepared(item, line)):
            continue
        yield line


def _prepared(item: Item, line: Line) -> list[str]:
    return [one.name for one in item.preparations if one.id in line.preparations] + ([line.note] if line.note else [])


def _names(text: str, phrases: Sequence[Sequence[str]]) -> bool:
    """Whether one of some phrases stands in a text, word by word."""
    stems = [word.stem for word in words_in(text)]
    return any(
        stems[start : start + len(phrase)] == list(phrase)
        for phrase in phrases
        for start in range(len(stems) - len(phrase) + 1)
    )


def _not_in_jug(step: _Step, _lines: Sequence[Line]) -> bool:
    return not _names(_vessel_name(step), (("jug",), ("blender",)))


def _heated(step: _Step, _lines: Sequence[Line]) -> bool:
    return step.method not in _COLD


def _stays_in(step: _Step, lines: Sequence[Line]) -> bool:
    """Whether nothing from here on takes the things of these lines out again."""
    ids = dict(zip(_places(step.recipe), step.recipe.line_ids(), strict=True))
    later = step.recipe.stages[step.place :]
    if any(method_called(stage.method or "") == method_called("strain") for stage in later):
        return False
    taken = {one for stage in later for out in stage.take_out for one in out.of}
    called = {word.stem for stage in later for out in stage.take_out for word in words_in(out.name)}
    for line in lines:
        item = step.item(line)
        mine = {word.stem for word in words_in(item.name)} if item is not None else set()
        if ids[id(line)] not in taken and not mine & called:
            return True
    return False


def _places(recipe: Recipe) -> list[int]:
    return [id(line) for stage in recipe.stages for line in stage.lines]


def _is_prepared(_step: _Step, lines: Sequence[Line]) -> bool:
    return any(line.preparation is not None for line in lines)


def _soaked(step: _Step, _lines: Sequence[Line]) -> bool:
    return step.method in ("soak", "blend")


def _raw(step: _Step, lines: Sequence[Line]) -> bool:
    return any(item is not None and item.kind in _RAW for item in map(step.item, lines))


def _in_oil(step: _Step, _lines: Sequence[Line]) -> bool:
    oily = any(item is not None and _names(item.name, (("oil",),)) for item in map(step.item, step.stage.lines))
    return oily and step.method in _COLD


def _last(step: _Step, _lines: Sequence[Line]) -> bool:
    return step.place == len(step.recipe.stages) - 1


def _garnish(step: _Step, lines: Sequence[Line]) -> bool:
    return _last(step, lines) and any(serving.garnish for serving in step.recipe.servings)


def _flamed(step: _Step, _lines: Sequence[Line]) -> bool:
    return step.stage.flamed


def _deep(step: _Step, _lines: Sequence[Line]) -> bool:
    vessel = step.view.vessels.get(step.stage.vessel or "")
    held = None if vessel is None else vessel.capacity
    return held is None or held.kind != "volume" or held.millilitres(step.view.system) >= _DEEP_ML


_WHEN: dict[str, Callable[[_Step, Sequence[Line]], bool]] = {
    "not_in_jug": _not_in_jug, "heated": _heated, "stays_in": _stays_in, "prepared": _is_prepared, "soaked": _soaked,
    "raw": _raw, "in_oil": _in_oil, "last": _last, "garnish": _garnish,
    "flamed": _flamed, "deep": _deep,
}  # fmt: skip
