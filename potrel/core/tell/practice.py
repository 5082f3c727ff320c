"""Practice for cooks: questions made of the kitchen's own yields and prices with invented weights, marked and explained.

The workings are those of the screens: a question is a small pot or test that is costed like any other.
"""

from __future__ import annotations

import random
import re
from collections.abc import Callable, Iterator
from decimal import Decimal
from typing import Literal

from potrel.core.cost.costing import Costing
from potrel.core.errors import BadQuantity, OutOfRange
from potrel.core.frozen import dataclass
from potrel.core.kitchen.bench_tests import BenchTest, WeighedPart
from potrel.core.kitchen.items import Item, Preparation
from potrel.core.kitchen.kinds import ZERO, Computed, Flag, plain
from potrel.core.kitchen.lines import Line
from potrel.core.kitchen.quantities import parse_quantity, plain_number
from potrel.core.kitchen.recipes import Change, Recipe, Stage
from potrel.core.numbers.rounding import half_even
from potrel.core.sentences import say
from potrel.core.tell.explanations import explain
from potrel.core.tell.figures import Figure
from potrel.core.tell.yield_figures import explain_test

PracticeKind = Literal["edible", "buy", "bench", "cost_factor", "usable_kilo", "batch"]
KINDS: dict[PracticeKind, str] = {
    "edible": "From what is bought to what goes in the pot",
    "buy": "How much to buy",
    "bench": "The yield of a test at the bench",
    "usable_kilo": "What a usable kilo costs",
    "cost_factor": "The cost factor of a test",
    "batch": "What a pot gives",
}
_HUNDRED, _THOUSAND = Decimal(100), Decimal(1000)
# An answer worked with rounded steps is right; one that forgot the residue on the pot is not.
_TOLERANCE = Decimal("0.005")
_HALF_A_POINT = Decimal("0.5")
# Nobody has twelve kilos of garlic or herbs on the board.
_FINE = frozenset({"herb", "spice"})
_POT = "practice"


@dataclass(frozen=True, slots=True)
class Given:
    """A number to work with, as it is written on the sheet."""

    name: str
    value: str


@dataclass(frozen=True, slots=True)
class Exercise:
    """A question of a kind. The same seed makes the same question while the kitchen stands; `unit` is kg, %, money/kg or "".

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


# What is asked, the numbers to work with, the unit of the answer, the answer, and its workings.
Question = tuple[str, list[Given], str, Decimal, list[Figure]]


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
        "edible": _edible, "buy": _buy, "bench": _bench, "cost_factor": _cost_factor, "usable_kilo": _usable_kilo,
        "batch": _batch,
    }  # fmt: skip
    question, given, unit, answer, workings = makers[kind](costing, dice)
    return _Made(Exercise(kind, seed, KINDS[kind], question, given, unit), answer, workings)


def _trimmed_items(costing: Costing, priced: bool = False) -> Iterator[tuple[Item, Preparation]]:
    for item in sorted(costing.view.kitchen.items, key=lambda one: one.id):
        if priced and costing.view.per_gram(item.id) in (None, ZERO):
            # What costs nothing has no cost factor.
            continue
        for preparation in item.preparations:
            if preparation.yield_ < 1:
                yield item, preparation


def _one(costing: Costing, dice: random.Random, priced: bool = False) -> tuple[Item, Preparation]:
    found = list(_trimmed_items(costing, priced))
    if not found:
        wanted = "an item with a price and a preparation" if priced else "an item with a preparation"
        raise OutOfRange("what there is to practise with", "nothing", f"{wanted} that loses something: add one first")
    return dice.choice(found)


def _is_fine(item: Item) -> bool:
    return item.kind in _FINE or "garlic" in item.name.lower()


def _kilos(dice: random.Random, low: int, high: int) -> Decimal:
    """A weight [kg] to the hundred grams."""
    return Decimal(dice.randint(low * 10, high * 10)) / 10


def _percent(share: Decimal) -> str:
    return f"{plain(half_even(share * _HUNDRED, 2))}%"


def _line_workings(costing: Costing, line: Line, names: tuple[str, str]) -> list[Figure]:
    draft = costing.replacing(Recipe(_POT, "Practice", stages=(Stage("pot", lines=(line,)),)))
    return [explain(draft, _POT, f"line/pot/{draft.of(_POT).balance.lines[0].id}/{name}") for name in names]


def _value(working: Figure) -> Decimal:
    return working.value if working.value is not None else ZERO


def _edible(costing: Costing, dice: random.Random) -> Question:
    item, preparation = _one(costing, dice)
    bought = Decimal(dice.randint(2, 12)) / 10 if _is_fine(item) else _kilos(dice, 1, 12)
    line = Line(parse_quantity(f"{plain(bought)} kg"), item=item.id, preparation=preparation.id)
    workings = _line_workings(costing, line, ("ep_g", "ap_g"))
    question = f"{plain(bought)} kg of {item.name} came in. How much goes into the pot, {preparation.name}?"
    given = [
        Given("as purchased (AP)", f"{plain(bought)} kg"),
        Given(f"yield, {preparation.name}", _percent(preparation.yield_)),
    ]
    return question, given, "kg", _value(workings[0]) / _THOUSAND, workings


def _buy(costing: Costing, dice: random.Random) -> Question:
    item, preparation = _one(costing, dice)
    portions = dice.randrange(20, 130, 5)
    grams = dice.randrange(2, 7) if _is_fine(item) else dice.randrange(40, 160, 5)
    line = Line(parse_quantity(f"{portions * grams} g"), item=item.id, basis="EP", preparation=preparation.id)
    workings = _line_workings(costing, line, ("ap_g", "ep_g"))
    question = (
        f"{portions} bowls take {grams} g of {item.name}, {preparation.name}, each. How many kilos of {item.name} are to buy?"
    )
    given = [Given("bowls", str(portions)), Given("a bowl takes (EP)", f"{grams} g"),
             Given(f"yield, {preparation.name}", _percent(preparation.yield_))]  # fmt: skip
    return question, given, "kg", _value(workings[0]) / _THOUSAND, workings


def _practice_test(costing: Costing, dice: random.Random, item: Item, preparation: Preparation) -> BenchTest:
    """Invented weights, near the kitchen's own yield, of something that was really never on the scale."""
    before = dice.randrange(2000, 9000, 50)
    likely = float(preparation.yield_) * dice.uniform(0.95, 1.04)
    after = min(round(before * likely / 10) * 10, before - 40)
    left = before - after
    parts: list[WeighedPart] = []
    if preparation.byproducts:
        part = preparation.byproducts[0]
        mass = min(round(before * float(part.share) / 10) * 10, left - 20)
        if mass > 0:
            parts.append(WeighedPart(part.name, parse_quantity(f"{mass} g"), part.value_per_kg, part.use))
            left -= mass
    parts.append(WeighedPart("waste", parse_quantity(f"{max(left - dice.randrange(5, 20), 1)} g")))
    return BenchTest(
        _POT,
        item.id,
        "trim",
        preparation.id,
        costing.on,
        parse_quantity(f"{before} g"),
        parse_quantity(f"{after} g"),
        tuple(parts),
    )


def _weighed(test: BenchTest) -> list[Given]:
    parts = [Given(part.name, part.mass.text) for part in test.parts]
    return [Given("as purchased (AP)", test.before.text), Given("usable (EP)", test.after.text), *parts]


def _of_test(costing: Costing, test: BenchTest, *names: str) -> list[Figure]:
    return [working for name in names if (working := explain_test(costing, test, name)) is not None]


def _bench(costing: Costing, dice: random.Random) -> Question:
    item, preparation = _one(costing, dice)
    test = _practice_test(costing, dice, item, preparation)
    workings = _of_test(costing, test, "yield", "unaccounted")
    question = f"{item.name} was on the scale before and after ({preparation.name}). What is the yield, in percent?"
    return question, _weighed(test), "%", _value(workings[0]) * _HUNDRED, workings


def _cost_factor(costing: Costing, dice: random.Random) -> Question:
    item, preparation = _one(costing, dice, priced=True)
    test = _practice_test(costing, dice, item, preparation)
    workings = _of_test(costing, test, "cost_factor", "usable_per_kg", "usable_cost", "paid")
    given = [*_weighed(test), *_values(test), _price(costing, item)]
    question = f"By this test of {item.name}, {preparation.name}: what is the cost factor, EP cost over AP price?"
    return question, given, "", _value(workings[0]), workings


def _usable_kilo(costing: Costing, dice: random.Random) -> Question:
    item, preparation = _one(costing, dice, priced=True)
    test = _practice_test(costing, dice, item, preparation)
    workings = _of_test(costing, test, "usable_per_kg", "usable_cost", "paid")
    given = [*_weighed(test), *_values(test), _price(costing, item)]
    question = f"By this test of {item.name}: what does a usable kilo cost, {preparation.name}, what fell off credited?"
    return question, given, "money/kg", _value(workings[0]), workings


def _values(test: BenchTest) -> list[Given]:
    worth = [part for part in test.parts if part.value_per_kg != 0]
    return [Given(f"{part.name} is worth", f"{plain(part.value_per_kg)} a kilo") for part in worth]


def _price(costing: Costing, item: Item) -> Given:
    per_kg = costing.view.per_kg(item.id)
    return Given("AP price", "not known" if per_kg is None else f"{plain(half_even(per_kg, 4))} a kilo")


def _batch(costing: Costing, dice: random.Random) -> Question:
    view = costing.view
    if not view.kitchen.items:
        raise OutOfRange("what there is to practise with", "nothing", "at least one item: add one first")
    item = view.items.get("water") or view.kitchen.items[0]
    kilos, minutes = _kilos(dice, 6, 40), dice.randrange(30, 180, 15)
    per_hour, residue = Decimal(dice.randrange(5, 25)) / 10, Decimal(dice.choice([1, 2, 3])) / _HUNDRED
    stage = Stage("pot", minutes=Decimal(minutes), lines=(Line(parse_quantity(f"{plain(kilos)} kg"), item=item.id),),
                  change=Change("evaporate", kg_per_hour=per_hour), residue=residue)  # fmt: skip
    draft = costing.replacing(Recipe(_POT, "Practice", stages=(stage,)))
    workings = [explain(draft, _POT, f"stage/pot/{name}") for name in ("mass_out_g", "changed_g", "residue_g")]
    question = "A pot simmers with the lid off, and a little stays on the pot. How many kilos does it give?"
    given = [Given("in the pot", f"{plain(kilos)} kg"), Given("goes up in steam", f"{plain(per_hour)} kg an hour"),
             Given("simmers", f"{minutes} min"), Given("stays on the pot", _percent(residue))]  # fmt: skip
    return question, given, "kg", _value(workings[0]) / _THOUSAND, workings
