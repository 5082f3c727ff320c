"""What can go wrong in the core, each as a class that carries the offending values and says what would mend it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal


class PotrelError(ValueError):
    """Anything Potrel refuses; the message is meant for the person at the screen."""


class BadQuantity(PotrelError):
    """A text that is no quantity, such as "three-ish kg"."""

    def __init__(self, text: str, hint: str = 'write a number and a unit, such as "2 kg" or "1 1/2 cup"') -> None:
        self.text = text
        super().__init__(f'"{_clip(text)}" is not a quantity: {hint}')


class OutOfRange(PotrelError):
    """A number outside the bounds that its meaning allows."""

    def __init__(self, what: str, value: object, bounds: str) -> None:
        self.what, self.value, self.bounds = what, value, bounds
        super().__init__(f"{what} is {_clip(str(value))}, but must be {bounds}")


class BadDocument(PotrelError):
    """A kitchen document that contradicts itself or the format; `where` is the path to the offending value."""

    def __init__(self, where: str, message: str) -> None:
        self.where, self.message = where, message
        super().__init__(f"{where}: {message}" if where else message)


class RecipeLoop(PotrelError):
    """Recipes that contain themselves; `path` names the whole loop, first and last alike."""

    def __init__(self, path: tuple[str, ...]) -> None:
        self.path = path
        super().__init__(f"recipes contain themselves: {' -> '.join(path)}; take one of these lines out to break the loop")


class UnknownFigure(PotrelError):
    """A figure asked for by a path that the cost sheet does not have."""

    def __init__(self, figure: str) -> None:
        self.figure = figure
        super().__init__(f'the cost sheet has no figure "{_clip(figure)}"')


ProblemCode = Literal["missing_weight", "missing_price", "missing_fact", "unknown", "impossible", "incomplete_part"]


@dataclass(frozen=True, slots=True)
class Problem:
    """A missing or contradictory fact that makes a recipe incomplete, named so that it can be mended in place.

    `affects_mass` tells that masses (and so portions) are not known, not only money.
    """

    code: ProblemCode
    message: str
    stage: str | None = None
    line: str | None = None
    item: str | None = None
    unit: str | None = None
    affects_mass: bool = False


@dataclass(frozen=True, slots=True)
class Warning:
    """Something that is computed all right but that a cook should look at."""

    message: str
    stage: str | None = None
    serving: str | None = None


def _clip(text: str) -> str:
    return text if len(text) <= 60 else text[:57] + "..."
