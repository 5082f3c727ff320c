"""Practice sheets: questions that can be made again, answers worked out apart, marking, and the workings shown."""

from __future__ import annotations

import re
import unittest
from collections.abc import Callable
from decimal import ROUND_CEILING
from fractions import Fraction

from potrel.core.cost.costing import Costing
from potrel.core.decide.practice import KINDS, Exercise, PracticeKind, exercise_of, mark, read_answer
from potrel.core.errors import BadQuantity, OutOfRange
from tests.kitchens import DAY, d, demo, kitchen

SEEDS = range(40)


def number(text: str) -> Fraction:
    """The number at the start of a text, in its plain unit: kilos, or a share of one."""
    found = re.match(r"-?[\d.]+", text)
    assert found is not None, text
    value = Fraction(found[0])
    return value / 1000 if text.endswith((" g", " ml")) else value / 100 if text.endswith(("%", "% an hour")) else value


def given_of(exercise: Exercise) -> dict[str, Fraction]:
    return {one.name.split(",")[0]: number(one.value) for one in exercise.given}


def _credits(given: dict[str, Fraction]) -> Fraction:
    worth = {name.removesuffix(" is worth"): value for name, value in given.items() if name.endswith(" is worth")}
    return sum((given[name] * value for name, value in worth.items()), Fraction(0))


def _usable(given: dict[str, Fraction]) -> Fraction:
    paid = given["as purchased (AP)"] * given["AP price"]
    return (paid - _credits(given)) / given["usable (EP)"]


def _batch(given: dict[str, Fraction]) -> Fraction:
    # Grams, grams an hour and minutes.
    steam = given["goes up in steam"] * given["simmers"] / 60
    return (given["in the pot"] - steam) * (1 - given["stays on the pot"])


# Worked from the numbers printed on the sheet alone, with fractions.
ANSWERS: dict[PracticeKind, Callable[[dict[str, Fraction]], Fraction]] = {
    "edible": lambda g: g["as purchased (AP)"] * g["yield"],
    "buy": lambda g: g["bowls"] * g["a bowl takes (EP)"] / g["yield"],
    "bench": lambda g: 100 * g["usable (EP)"] / g["as purchased (AP)"],
    "usable_kilo": _usable,
    "cost_factor": lambda g: _usable(g) / g["AP price"],
    "batch": _batch,
    "cooked": lambda g: next(iter(g.values())) * g["cooking yield"],
    "scale": lambda g: g["in the recipe"] * g["portions wanted"] / g["portions of the recipe"],
    "portions": lambda g: Fraction(g["in the pot"] * 1000 * (1 - g["lost in serving"]) // (1000 * g["a bowl"])),
    "price": lambda g: g["food cost of a portion"] / g["food-cost share"] * (1 + g["tax"]),
    "gross_profit": lambda g: g["food cost of a portion"] / (1 - g["gross profit"]) * (1 + g["tax"]),
}


class Practice(unittest.TestCase):
    costing: Costing

    @classmethod
    def setUpClass(cls) -> None:
        cls.costing = Costing(demo(), DAY)

    def test_every_answer_follows_from_what_the_sheet_gives(self) -> None:
        for kind, work in ANSWERS.items():
            for seed in SEEDS:
                exercise = exercise_of(self.costing, kind, seed)
                answer = work(given_of(exercise))
                marked = mark(self.costing, kind, seed, f"{float(answer):.6f}")
                with self.subTest(exercise.question):
                    self.assertTrue(marked.right)
                    # A price is printed to four places.
                    self.assertAlmostEqual(float(marked.expected), float(answer), 3)
        self.assertEqual(set(ANSWERS), set(KINDS))

    def test_the_usual_slips_are_wrong(self) -> None:
        for seed in SEEDS:
            given = given_of(exercise_of(self.costing, "buy", seed))
            need = given["bowls"] * given["a bowl takes (EP)"]
            if given["yield"] < Fraction(97, 100):
                self.assertFalse(mark(self.costing, "buy", seed, f"{float(need * given['yield']):.6f}").right)
                self.assertFalse(mark(self.costing, "buy", seed, f"{float(need):.6f}").right)
            pot = given_of(exercise_of(self.costing, "batch", seed))
            forgotten = _batch(pot) / (1 - pot["stays on the pot"])
            self.assertFalse(mark(self.costing, "batch", seed, f"{float(forgotten):.6f}").right)

    def test_an_order_is_rounded_up_as_people_order(self) -> None:
        for seed in SEEDS:
            need = mark(self.costing, "buy", seed, "0").expected
            up = (need * 10).to_integral_value(ROUND_CEILING) / 10
            self.assertTrue(mark(self.costing, "buy", seed, f"{up} kg").right)
            self.assertTrue(mark(self.costing, "buy", seed, f"{need * d('1.049'):.6f}").right)
            self.assertFalse(mark(self.costing, "buy", seed, f"{max(need * d('1.06'), need + d('0.11')):.6f}").right)
            self.assertFalse(mark(self.costing, "buy", seed, f"{need * d('0.98'):.6f}").right)

    def test_half_a_point_of_a_percent_is_no_slip(self) -> None:
        for seed in SEEDS:
            expected = mark(self.costing, "bench", seed, "0").expected
            self.assertTrue(mark(self.costing, "bench", seed, f"{expected + d('0.49'):.3f} percent").right)
            self.assertFalse(mark(self.costing, "bench", seed, f"{expected + d('0.51'):.3f}%").right)

    def test_amounts_fit_the_kind(self) -> None:
        fine = re.compile("garlic|parsley|dill|thyme|basil", re.IGNORECASE)
        for kind in ("edible", "bench", "cost_factor", "usable_kilo", "cooked", "scale"):
            for seed in range(120):
                asked = exercise_of(self.costing, kind, seed)
                if fine.search(asked.question):
                    self.assertNotEqual(kind, "scale", asked.question)
                    self.assertLessEqual(number(asked.given[0].value), Fraction(12, 10), asked.question)

    def test_a_bean_that_gains_a_fifth_is_a_soaked_one(self) -> None:
        asked = [exercise_of(self.costing, "cooked", seed) for seed in range(120)]
        beans = [one for one in asked if "Haricot" in one.question]
        self.assertTrue(beans)
        for one in beans:
            self.assertIn("soaked", one.question)
        item = {"id": "bean", "kind": "pulse", "cooking": [{"method": "simmer", "yield": "1.2"}]}
        with self.assertRaisesRegex(OutOfRange, "add one first"):
            exercise_of(Costing(kitchen([item], []), DAY), "cooked", 1)

    def test_rounding_on_the_way_is_no_slip(self) -> None:
        for seed in SEEDS:
            expected = mark(self.costing, "usable_kilo", seed, "0").expected
            self.assertTrue(mark(self.costing, "usable_kilo", seed, f"{float(expected):.2f}").right)

    def test_the_same_seed_asks_the_same_and_another_asks_another(self) -> None:
        for kind in KINDS:
            asked = [exercise_of(self.costing, kind, seed) for seed in SEEDS]
            self.assertEqual(asked[3], exercise_of(self.costing, kind, 3))
            self.assertGreater(len({one.question + str(one.given) for one in asked}), 20)

    def test_the_working_ends_in_the_answer(self) -> None:
        for kind in KINDS:
            marked = mark(self.costing, kind, 7, "1")
            first = marked.workings[0]
            scale = d("1000") if marked.unit == "kg" else d("0.01") if marked.unit == "%" else d("1")
            self.assertAlmostEqual(first.value or 0, marked.expected * scale, 6, kind)
            self.assertTrue(first.formula and first.inputs)

    def test_an_empty_kitchen_says_what_to_add(self) -> None:
        for kind in KINDS:
            if kind in ("scale", "portions", "price", "gross_profit"):
                self.assertTrue(exercise_of(Costing(kitchen([], []), DAY), kind, 1).question)
                continue
            with self.assertRaisesRegex(OutOfRange, "add one first"):
                exercise_of(Costing(kitchen([], []), DAY), kind, 1)

    def test_answers_as_they_are_typed(self) -> None:
        for text, unit, value in (
            ("4,2", "kg", "4.2"), ("4.2 kg", "kg", "4.2"), ("1 lb", "kg", "0.45359237"), ("48 %", "%", "48"),
            ("0.48", "%", "48"), ("48", "%", "48"), ("-1", "", "-1"), (".5", "", "0.5"),
        ):  # fmt: skip
            self.assertEqual(read_answer(text, unit), d(value), text)
        for text, unit in (("", "kg"), ("much", ""), ("4 l", "kg"), ("1e5", ""), ("NaN", ""), ("1.2.3", ""), ("٣", "")):
            with self.assertRaises(BadQuantity, msg=text):
                read_answer(text, unit)
