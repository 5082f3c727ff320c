"""How a stage is cooked: the methods that kitchens know, the words for each, and where each sends what is lost."""

from __future__ import annotations

from functools import cache, lru_cache

from potrel.core.errors import BadDocument
from potrel.core.frozen import dataclass
from potrel.core.kitchen.kinds import Id, Name
from potrel.core.kitchen.recipes import Recipe
from potrel.core.kitchen.vessels import Lid
from potrel.core.sentences import say
from potrel.core.tables import table

# The lids, as they are told: "covered_then_open" is a foil that comes off towards the end.
LIDS: tuple[Lid, ...] = ("off", "ajar", "on", "sealed", "covered_then_open")


@dataclass(frozen=True, slots=True)
class Method:
    """A way of cooking, the words by which it is called, and where its losses go (common practice, no source).

    "air", "pot", or by the "lid": under one they stay in the pot. In one `family` a yield of one method stands in for
    another's: dry (pan and grill), oven, wet, sweat, steam; "" is none.
    """

    id: Id
    words: list[Name]
    loss: str
    family: str


@cache
def methods() -> tuple[Method, ...]:
    """All methods, as they come in a day's work."""
    return tuple(Method(row["id"], row["words"].split(";"), row["loss"], row["family"]) for row in table("methods.csv"))


@cache
def _by_word() -> dict[str, Method]:
    return {word: one for one in methods() for word in (one.id, *one.words)}


@lru_cache(1024)
def method_called(text: str) -> Method | None:
    """The method that a word means; None where none does.

    >>> method_called("Roasting").id, method_called("sauté").id, method_called("wave at")
    ('roast', 'fry', None)
    """
    return _by_word().get(" ".join(text.lower().split()))


def family_of(text: str | None) -> str:
    """The family of a method; "" where it has none, or is none."""
    found = method_called(text or "")
    return "" if found is None else found.family


def check_methods(recipe: Recipe) -> None:
    """BadDocument where a stage has a method that no kitchen knows: it would lose nothing, and say nothing of it."""
    for place, stage in enumerate(recipe.stages):
        if stage.method is not None and method_called(stage.method) is None:
            known = ", ".join(one.id for one in methods())
            english = '"{method}" is no method: choose one of {known}, or none'
            raise BadDocument(f"stages[{place}].method", say("no_method", english, method=stage.method, known=known))
