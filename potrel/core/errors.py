"""What can go wrong in the core, each as a class that carries the offending values and says what would mend it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import field
from typing import Literal

from potrel.core.frozen import dataclass
from potrel.core.sentences import Sentence, say


class PotrelError(ValueError):
    """Anything Potrel refuses; `said` is meant for the person at the screen."""

    def __init__(self, said: Sentence) -> None:
        self.said = said
        super().__init__(said.english)


_QUANTITY = say("no_quantity", 'write a number and a unit, such as "2 kg" or "1 1/2 cup"')


class BadQuantity(PotrelError):
    """A text that is no quantity, such as "three-ish kg"; the hint says what would mend it."""

    def __init__(self, text: str, hint: Sentence = _QUANTITY) -> None:
        self.text = text
        english = f'"{_clip(text)}" is not a quantity: {hint.english}' if text.strip() else f"say how much: {hint.english}"
        super().__init__(Sentence(hint.code, english, {**hint.params, "text": _clip(text)}))


class OutOfRange(PotrelError):
    """A number outside the bounds that its meaning allows."""

    def __init__(self, what: str, value: object, bounds: str) -> None:
        self.what, self.value, self.bounds = what, value, bounds
        shown = _clip(str(value))
        super().__init__(say("out_of_range", "{what} is {value}, but must be {bounds}", what=what, value=shown, bounds=bounds))


class BadDocument(PotrelError):
    """A kitchen document that contradicts itself or the format; `where` is the path to the offending value."""

    def __init__(self, where: str, message: Sentence) -> None:
        self.where, self.message = where, message
        english = f"{where}: {message.english}" if where else message.english
        super().__init__(Sentence(message.code, english, message.params))


class RecipeLoop(PotrelError):
    """Recipes that contain themselves; `path` names the whole loop, first and last alike."""

    def __init__(self, path: tuple[str, ...]) -> None:
        self.path = path
        english = "recipes contain themselves: {loop}; take one of these lines out to break the loop"
        super().__init__(say("recipe_loop", english, loop=" -> ".join(path)))


class UnknownFigure(PotrelError):
    """A figure asked for by a path that the cost sheet does not have."""

    def __init__(self, figure: str) -> None:
        self.figure = figure
        super().__init__(say("no_figure", 'the cost sheet has no figure "{figure}"', figure=_clip(figure)))


ProblemCode = Literal["missing_weight", "missing_price", "missing_fact", "unknown", "impossible", "incomplete_part"]


@dataclass(frozen=True, slots=True)
class Lack:
    """A fact that is missing, and that keeps a figure from being known: what it is, and what would mend it.

    `item` and `unit` tell whose weight of which unit is asked for, where it is that.
    """

    said: Sentence
    item: str | None = None
    unit: str | None = None


@dataclass(frozen=True, slots=True)
class Problem:
    """A missing or contradictory fact that makes a recipe incomplete, named so that it can be mended in place.

    `affects_mass` tells that masses (and so portions) are not known, not only money. `message_code` and `params` are the
    message's in any language.
    """

    code: ProblemCode
    message: str
    stage: str | None = None
    line: str | None = None
    item: str | None = None
    unit: str | None = None
    affects_mass: bool = False
    message_code: str = ""
    params: Mapping[str, str] = field(default_factory=dict)


def problem(
    code: ProblemCode,
    said: Sentence,
    stage: str | None = None,
    line: str | None = None,
    item: str | None = None,
    unit: str | None = None,
    *,
    affects_mass: bool = False,
) -> Problem:
    """A problem that says a sentence."""
    return Problem(code, said.english, stage, line, item, unit, affects_mass, said.code, said.params)


@dataclass(frozen=True, slots=True)
class Caveat:
    """Something that is computed all right but that a cook should look at."""

    message: str
    stage: str | None = None
    serving: str | None = None
    message_code: str = ""
    params: Mapping[str, str] = field(default_factory=dict)


def caveat(said: Sentence, stage: str | None = None, serving: str | None = None) -> Caveat:
    """A caveat that says a sentence."""
    return Caveat(said.english, stage, serving, said.code, said.params)


def _clip(text: str) -> str:
    return text if len(text) <= 60 else text[:57] + "..."
