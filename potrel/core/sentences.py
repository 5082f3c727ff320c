"""What is said to a person: a code and its parameters beside the English sentence, so that another language can be added."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import field

from potrel.core.frozen import dataclass


@dataclass(frozen=True, slots=True)
class Sentence:
    """A sentence in English, with the code that stands for it in any language and what it speaks of."""

    code: str
    english: str
    params: Mapping[str, str] = field(default_factory=dict)

    def __str__(self) -> str:
        return self.english


def say(code: str, english: str, /, **params: object) -> Sentence:
    """A sentence, its parameters put in their places.

    >>> said = say("no_recipe", 'no recipe has the id "{recipe}"', recipe="leek")
    >>> said.code, str(said), said.params
    ('no_recipe', 'no recipe has the id "leek"', {'recipe': 'leek'})
    """
    words = {name: str(value) for name, value in params.items()}
    return Sentence(code, english.format_map(words), words)
