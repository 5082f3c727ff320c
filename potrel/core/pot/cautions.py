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
from potrel.core.kitchen.methods import family_of, method_called
from potrel.core.kitchen.naming import words_in
from potrel.core.kitchen.recipes import Recipe, Stage
from potrel.core.pot.day_view import DayView
from potrel.core.pot.food_code import filled
from potrel.core.pot.heat import UNHEATED
from potrel.core.tables import table

# What is toasted or roasted for a soup may go into a cold one.
_BESIDE = frozenset({"oven", "dry"})
_BOILED = frozenset({"boil", "pressure"})
_LOW_HEATS = frozenset({"hold", "bare_simmer"})
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
        return _method(self.stage)

    def item(self, line: Line) -> Item | None:
        return self.view.items.get(line.item or "")


def cautions(recipe: Recipe, view: DayView) -> list[Caution]:
    """What to mind in a pot, each thing once, at the first stage where it comes up."""
    found: dict[str, Caution] = {}
    for place, stage in enumerate(recipe.stages):
        step = _Step(recipe, place, view)
        for rule in _rules():
            if rule.text not in found and _holds(rule, step):
                found[rule.text] = Caution(stage.id, rule.id, filled(rule.text, view.settings), rule.source)
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
    """What a stage stands in is called; where no vessel is said, what its note tells of it."""
    vessel = step.view.vessels.get(step.stage.vessel or "")
    return step.stage.note or "" if vessel is None else vessel.name


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


# -- how warm it is ----------------------------------------------------------------------------------------------------


def _method(stage: Stage) -> str | None:
    found = method_called(stage.method or "")
    return None if found is None else found.id


def _heats(stage: Stage) -> bool:
    """Whether a stage heats what is in it: by its method, or since it says how hot; one without a method may do."""
    return stage.heat is not None or _method(stage) not in UNHEATED


def _before(step: _Step) -> list[Stage]:
    """The stages whose contents come to a stage, itself the last."""
    wanted, found = {step.stage.id}, []
    for stage in reversed(step.recipe.stages[: step.place + 1]):
        if stage.id in wanted:
            found.append(stage)
            wanted |= {one.stage for one in stage.from_}
    return found[::-1]


def _warm(stages: Sequence[Stage]) -> list[Stage]:
    """Those of a row of stages that heat what is in them, since it was cooled last."""
    cooled = [place for place, stage in enumerate(stages) if _method(stage) == "cool"]
    return [stage for stage in stages[cooled[-1] if cooled else 0 :] if _heats(stage)]


def _only_beside(stages: Sequence[Stage]) -> bool:
    return all(family_of(one.method) in _BESIDE for one in stages)


def _hot(step: _Step, _lines: Sequence[Line]) -> bool:
    """Whether what is in the stage may be hot."""
    return bool(_warm(_before(step)))


def _cold(step: _Step, lines: Sequence[Line]) -> bool:
    return not _hot(step, lines)


def _stands_hot(step: _Step) -> bool:
    return any(serving.hold_hours for serving in step.recipe.servings)


def _how_kept(step: _Step) -> str | None:
    """By its last stage, how a pot is kept until it is served: hot, cold, chilled after cooking, or one or the other."""
    if step.place != len(step.recipe.stages) - 1:
        return None
    stages = _before(step)
    ever = [stage for stage in stages if _heats(stage)]
    if _stands_hot(step):
        return "hot"
    if not ever:
        return "cold"
    if not _warm(stages):
        return "chilled"
    return "either" if _only_beside(ever) else "hot"


def _kept_hot(step: _Step, _lines: Sequence[Line]) -> bool:
    return _how_kept(step) == "hot"


def _kept_cold(step: _Step, _lines: Sequence[Line]) -> bool:
    return _how_kept(step) == "cold"


def _chilled(step: _Step, _lines: Sequence[Line]) -> bool:
    return _how_kept(step) == "chilled"


def _either(step: _Step, _lines: Sequence[Line]) -> bool:
    return _how_kept(step) == "either"


def _below_boil(step: _Step, _lines: Sequence[Line]) -> bool:
    """Whether what goes in here is cooked at a low heat, and nowhere boiled hard."""
    stages = [stage for stage in step.recipe.onward(step.place) if _heats(stage)]
    if any(_method(stage) in _BOILED or stage.heat == "boil" for stage in stages):
        return False
    return any(_method(stage) == "slow" or stage.heat in _LOW_HEATS for stage in stages)


# -- what goes in ------------------------------------------------------------------------------------------------------


def _not_in_jug(step: _Step, _lines: Sequence[Line]) -> bool:
    return not _names(_vessel_name(step), (("jug",), ("blender",)))


def _heated(step: _Step, _lines: Sequence[Line]) -> bool:
    return _heats(step.stage)


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
    return oily and not _heats(step.stage)


def _last(step: _Step, _lines: Sequence[Line]) -> bool:
    return step.place == len(step.recipe.stages) - 1


def _garnish(step: _Step, lines: Sequence[Line]) -> bool:
    return _last(step, lines) and any(serving.garnish for serving in step.recipe.servings)


def _flamed(step: _Step, _lines: Sequence[Line]) -> bool:
    return step.stage.flamed


def _deep(step: _Step, _lines: Sequence[Line]) -> bool:
    if not any(map(_heats, _before(step))):
        # What was never warm has nothing to cool from.
        return False
    vessel = step.view.vessels.get(step.stage.vessel or "")
    held = None if vessel is None else vessel.capacity
    return held is None or held.kind != "volume" or held.millilitres(step.view.system) >= _DEEP_ML


_WHEN: dict[str, Callable[[_Step, Sequence[Line]], bool]] = {
    "not_in_jug": _not_in_jug, "heated": _heated, "stays_in": _stays_in, "prepared": _is_prepared, "soaked": _soaked,
    "raw": _raw, "in_oil": _in_oil, "garnish": _garnish, "flamed": _flamed, "deep": _deep, "hot": _hot, "cold": _cold,
    "kept_hot": _kept_hot, "kept_cold": _kept_cold, "chilled": _chilled, "either": _either, "below_boil": _below_boil,
}  # fmt: skip
