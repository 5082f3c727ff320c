"""Questions of practice about weights and yields: each is a small pot or test that is costed like any other."""

from __future__ import annotations

import random
from collections.abc import Iterator
from decimal import Decimal

from potrel.core.cost.costing import Costing
from potrel.core.errors import OutOfRange
from potrel.core.frozen import dataclass
from potrel.core.kitchen.bench_tests import BenchTest, WeighedPart
from potrel.core.kitchen.items import Item, Preparation, soaking_of
from potrel.core.kitchen.kinds import ZERO, plain
from potrel.core.kitchen.lines import Line
from potrel.core.kitchen.quantities import parse_quantity
from potrel.core.kitchen.recipes import Change, Recipe, Stage
from potrel.core.numbers.rounding import half_even
from potrel.core.tell.explanations import explain
from potrel.core.tell.figures import Figure
from potrel.core.tell.yield_figures import explain_test

_HUNDRED, _THOUSAND = Decimal(100), Decimal(1000)
_FINE = frozenset({"herb", "spice"})
_POT = "practice"
# Cooked from dry, a pulse gains more than this share of its weight; one that was soaked before, less.
_DRY_SWELLS = Decimal("1.6")


@dataclass(frozen=True, slots=True)
class Given:
    """A number to work with, as it is written on the sheet."""

    name: str
    value: str


# What is asked, the numbers to work with, the unit of the answer, the answer, and its workings.
Question = tuple[str, list[Given], str, Decimal, list[Figure]]


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


def is_fine(item: Item) -> bool:
    """Whether a kitchen has it by the handful or the jar: nobody has twelve kilos of garlic or dill on the board."""
    return item.kind in _FINE or "garlic" in item.name.lower()


def amount_of(item: Item, dice: random.Random, most: int = 12) -> Decimal:
    """A weight [kg] as a kitchen meets it of such a thing."""
    return Decimal(dice.randint(2, 10)) / 10 if is_fine(item) else kilos(dice, 1, most)


def kilos(dice: random.Random, low: int, high: int) -> Decimal:
    """A weight [kg] to the hundred grams."""
    return Decimal(dice.randint(low * 10, high * 10)) / 10


def percent_of(share: Decimal) -> str:
    """A share as it is written on the sheet."""
    return f"{plain(half_even(share * _HUNDRED, 2))}%"


def _line_workings(costing: Costing, line: Line, names: tuple[str, str]) -> list[Figure]:
    draft = costing.replacing(Recipe(_POT, "Practice", stages=(Stage("pot", lines=(line,)),)))
    return [explain(draft, _POT, f"line/pot/{draft.of(_POT).balance.lines[0].id}/{name}") for name in names]


def _value(working: Figure) -> Decimal:
    return working.value if working.value is not None else ZERO


def edible(costing: Costing, dice: random.Random) -> Question:
    """What goes into the pot of what came in."""
    item, preparation = _one(costing, dice)
    bought = amount_of(item, dice)
    line = Line(parse_quantity(f"{plain(bought)} kg"), item=item.id, preparation=preparation.id)
    workings = _line_workings(costing, line, ("ep_g", "ap_g"))
    question = f"{plain(bought)} kg of {item.name} came in. How much goes into the pot, {preparation.name}?"
    given = [
        Given("as purchased (AP)", f"{plain(bought)} kg"),
        Given(f"yield, {preparation.name}", percent_of(preparation.yield_)),
    ]
    return question, given, "kg", _value(workings[0]) / _THOUSAND, workings


def buy(costing: Costing, dice: random.Random) -> Question:
    """What is to buy for so many bowls."""
    item, preparation = _one(costing, dice)
    portions = dice.randrange(20, 130, 5)
    grams = dice.randrange(2, 7) if is_fine(item) else dice.randrange(40, 160, 5)
    line = Line(parse_quantity(f"{portions * grams} g"), item=item.id, basis="EP", preparation=preparation.id)
    workings = _line_workings(costing, line, ("ap_g", "ep_g"))
    question = (
        f"{portions} bowls take {grams} g of {item.name}, {preparation.name}, each. How many kilos of {item.name} are to buy?"
    )
    given = [Given("bowls", str(portions)), Given("a bowl takes (EP)", f"{grams} g"),
             Given(f"yield, {preparation.name}", percent_of(preparation.yield_))]  # fmt: skip
    return question, given, "kg", _value(workings[0]) / _THOUSAND, workings


def _practice_test(costing: Costing, dice: random.Random, item: Item, preparation: Preparation) -> BenchTest:
    """Invented weights, near the kitchen's own yield, of something that was really never on the scale."""
    before = dice.randrange(400, 1200, 20) if is_fine(item) else dice.randrange(2000, 9000, 50)
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


def bench(costing: Costing, dice: random.Random) -> Question:
    """The yield of a test."""
    item, preparation = _one(costing, dice)
    test = _practice_test(costing, dice, item, preparation)
    workings = _of_test(costing, test, "yield", "unaccounted")
    question = f"{item.name} was on the scale before and after ({preparation.name}). What is the yield, in percent?"
    return question, _weighed(test), "%", _value(workings[0]) * _HUNDRED, workings


def cost_factor(costing: Costing, dice: random.Random) -> Question:
    """The cost factor of a test."""
    item, preparation = _one(costing, dice, priced=True)
    test = _practice_test(costing, dice, item, preparation)
    workings = _of_test(costing, test, "cost_factor", "usable_per_kg", "usable_cost", "paid")
    given = [*_weighed(test), *_values(test), _price(costing, item)]
    question = f"By this test of {item.name}, {preparation.name}: what is the cost factor, EP cost over AP price?"
    return question, given, "", _value(workings[0]), workings


def usable_kilo(costing: Costing, dice: random.Random) -> Question:
    """What a usable kilo costs by a test."""
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


def batch(costing: Costing, dice: random.Random) -> Question:
    """What a pot gives that simmers."""
    view = costing.view
    if not view.kitchen.items:
        raise OutOfRange("what there is to practise with", "nothing", "at least one item: add one first")
    item = view.items.get("water") or view.kitchen.items[0]
    held, minutes = kilos(dice, 6, 40), dice.randrange(30, 180, 15)
    per_hour, residue = Decimal(dice.randrange(5, 25)) / 10, Decimal(dice.choice([1, 2, 3])) / _HUNDRED
    stage = Stage("pot", minutes=Decimal(minutes), lines=(Line(parse_quantity(f"{plain(held)} kg"), item=item.id),),
                  change=Change("evaporate", kg_per_hour=per_hour), residue=residue)  # fmt: skip
    draft = costing.replacing(Recipe(_POT, "Practice", stages=(stage,)))
    workings = [explain(draft, _POT, f"stage/pot/{name}") for name in ("mass_out_g", "changed_g", "residue_g")]
    question = "A pot simmers with the lid off, and a little stays on the pot. How many kilos does it give?"
    given = [Given("in the pot", f"{plain(held)} kg"), Given("goes up in steam", f"{plain(per_hour)} kg an hour"),
             Given("simmers", f"{minutes} min"), Given("stays on the pot", percent_of(residue))]  # fmt: skip
    return question, given, "kg", _value(workings[0]) / _THOUSAND, workings


def cooked(costing: Costing, dice: random.Random) -> Question:
    """What something weighs when it is cooked."""
    known = [
        (item, way, soaked)
        for item in sorted(costing.view.kitchen.items, key=lambda one: one.id)
        for way in item.cooking
        # A pulse that takes up little is a soaked one; where nothing says so, the sum would be of a bean that is none.
        if (soaked := soaking_of(item)) is not None or item.kind != "pulse" or way.yield_ >= _DRY_SWELLS
    ]
    if not known:
        raise OutOfRange("what there is to practise with", "nothing", "an item with a cooking yield: add one first")
    item, way, soaked = dice.choice(known)
    goes_in = amount_of(item, dice, 9)
    of_soaked = soaked if way.yield_ < _DRY_SWELLS else None
    line = Line(
        parse_quantity(f"{plain(goes_in)} kg"),
        item=item.id,
        basis="EP",
        preparation=None if of_soaked is None else of_soaked.id,
    )
    state = "ready to use" if of_soaked is None else of_soaked.name
    draft = costing.replacing(Recipe(_POT, "Practice", stages=(Stage("pot", method=way.method, lines=(line,)),)))
    workings = [explain(draft, _POT, f"line/pot/{draft.of(_POT).balance.lines[0].id}/{name}") for name in ("pot_g", "ep_g")]
    question = f"{plain(goes_in)} kg of {item.name}, {state}, are cooked ({way.method}). What do they weigh then?"
    given = [Given(f"{state} (EP)", f"{plain(goes_in)} kg"), Given("cooking yield", percent_of(way.yield_))]
    return question, given, "kg", _value(workings[0]) / _THOUSAND, workings
