"""Practice for cooks: questions made of the kitchen's own yields and prices with invented weights, marked and explained.

The workings are those of the screens: a question is a small pot or test that is costed like any other.
"""

from __future__ import annotations

import random
import re
from collections.abc import Callable
from decimal import Decimal
from typing import Literal

from potrel.core.cost.costing import Costing
from potrel.core.decide import practice_questions as questions
from potrel.core.decide import practice_service as service
from potrel.core.decide.practice_questions import Given, Question
from potrel.core.errors import BadQuantity
from potrel.core.frozen import dataclass
from potrel.core.kitchen.kinds import Computed, Flag
from potrel.core.kitchen.quantities import parse_quantity, plain_number
from potrel.core.numbers.rounding import half_even
from potrel.core.sentences import say
from potrel.core.tell.figures import Figure

PracticeKind = Literal[
    "edible", "buy", "bench", "cost_factor", "usable_kilo", "batch", "cooked", "scale", "portions", "price", "gross_profit"
]  # fmt: skip
KINDS: dict[PracticeKind, str] = {
    "edible": "From what is bought to what goes in the pot",
    "buy": "How much to buy",
    "cooked": "What it weighs when it is cooked",
    "bench": "The yield of a test at the bench",
    "usable_kilo": "What a usable kilo costs",
    "cost_factor": "The cost factor of a test",
    "batch": "What a pot gives",
    "portions": "How many bowls a pot fills",
    "scale": "A recipe for more or fewer",
    "price": "The price from a food-cost share",
    "gross_profit": "The price from a gross profit",
}
_HUNDRED, _THOUSAND = Decimal(100), Decimal(1000)
# An answer worked with rounded steps is right; one that forgot the residue on the pot is not.
_TOLERANCE = Decimal("0.005")
_HALF_A_POINT = Decimal("0.5")


@dataclass(frozen=True, slots=True)
class Exercise:
    """A question of a kind. The same seed makes the same question while the kitchen stands; `unit` is kg, %, money, money/kg
    or "".

    `given` are the numbers to work with, each with its name.
    """

    kind: PracticeKind
    seed: int
    title: str
    question: str
    given: list[Given]
    unit: str


@dataclass(frozen=True, slots=True)
class Marked:
    """An answer that was marked: what was understood, what was expected, and how that comes about."""

    right: Flag
    understood: Computed
    expected: Computed
    tolerance: Computed
    unit: str
    workings: list[Figure]


@dataclass(frozen=True, slots=True)
class _Made:
    exercise: Exercise
    answer: Decimal
    workings: list[Figure]


def exercise_of(costing: Costing, kind: PracticeKind, seed: int) -> Exercise:
    """A question; OutOfRange where the kitchen has nothing yet that it could be made of."""
    return _made(costing, kind, seed).exercise


def mark(costing: Costing, kind: PracticeKind, seed: int, answer: str) -> Marked:
    """Mark an answer as it was typed. BadQuantity where it is no number."""
    made = _made(costing, kind, seed)
    understood = read_answer(answer, made.exercise.unit)
    tolerance = _HALF_A_POINT if made.exercise.unit == "%" else max(abs(made.answer) * _TOLERANCE, Decimal("0.005"))
    right = abs(understood - made.answer) <= tolerance or (kind == "buy" and _is_a_sound_order(understood, made.answer))
    return Marked(right, understood, made.answer, tolerance, made.exercise.unit, made.workings)


def _is_a_sound_order(kilos: Decimal, needed: Decimal) -> bool:
    """Whether an order is what is needed, rounded up as people order: to the next 100 g, or by no more than a twentieth."""
    return needed <= kilos <= max(half_even(needed + Decimal("0.05"), 1), needed * Decimal("1.05"))


def read_answer(text: str, unit: str) -> Decimal:
    """The number of an answer in the unit asked for: "4,2", "4.2 kg", "4200 g", "48%" and "0.48" of a yield.

    >>> read_answer("4200 g", "kg"), read_answer("0.48", "%"), read_answer("1,25", "")
    (Decimal('4.2'), Decimal('48.00'), Decimal('1.25'))
    >>> read_answer("€4.20", ""), read_answer("88 percent", "%"), read_answer("1.200,50", "")
    (Decimal('4.20'), Decimal('88'), Decimal('1200.50'))
    """
    words = text.strip()
    if unit == "kg" and words and words[-1].isalpha():
        quantity = parse_quantity(words)
        if quantity.kind == "mass":
            return quantity.grams() / _THOUSAND
        raise BadQuantity(text, say("answer_a_weight", "write a weight, such as 4.2 kg"))
    told = re.search(r"(?:%|per ?cent)$", words, re.IGNORECASE)
    plain = plain_number(words[: told.start()] if told is not None else words).strip()
    digits = plain.replace(".", "", 1).removeprefix("-")
    if not digits.isascii() or not digits.isdecimal() or len(digits) > 18:
        raise BadQuantity(text, say("answer_a_number", "write a number, such as 4.2"))
    value = Decimal(plain)
    # A yield is told in percent or as a share; none is below one percent.
    return value * _HUNDRED if unit == "%" and told is None and abs(value) <= 1 else value


def _made(costing: Costing, kind: PracticeKind, seed: int) -> _Made:
    dice = random.Random(f"{kind}/{seed}")  # noqa: S311 - questions that can be made again, no secret
    makers: dict[PracticeKind, Callable[[Costing, random.Random], Question]] = {
        "edible": questions.edible, "buy": questions.buy, "bench": questions.bench, "cost_factor": questions.cost_factor,
        "usable_kilo": questions.usable_kilo, "batch": questions.batch, "cooked": questions.cooked,
        "scale": service.scale, "portions": service.portions, "price": service.price, "gross_profit": service.gross_profit,
    }  # fmt: skip
    question, given, unit, answer, workings = makers[kind](costing, dice)
    return _Made(Exercise(kind, seed, KINDS[kind], question, given, unit), answer, workings)
