"""Every formula: its words say what its function reckons."""

from __future__ import annotations

import importlib
import pkgutil
import random
import unittest
from decimal import Decimal

import potrel.core
from potrel.core.numbers.formula import Many, all_formulas, formula, in_words
from tests.words import Value, reckon


def _every_formula() -> None:
    for module in pkgutil.walk_packages(potrel.core.__path__, "potrel.core."):
        importlib.import_module(module.name)


class Formulas(unittest.TestCase):
    def test_the_words_of_every_formula_come_to_what_it_reckons(self) -> None:
        _every_formula()
        drawn = random.Random(7)

        def number() -> Decimal:
            return Decimal(drawn.randint(1, 999_999)) / Decimal(10 ** drawn.randint(2, 6))

        formulas = all_formulas()
        self.assertGreater(len(formulas), 60)
        for function, defined in formulas:
            for _ in range(40):
                given: dict[str, Value] = {name: number() for name in defined.singles}
                given |= {name: [number() for _ in range(drawn.randint(2, 4))] for name in defined.groups}
                with self.subTest(defined.code, given=given):
                    in_their_words = reckon(defined.words, {in_words(name): value for name, value in given.items()})
                    found = Decimal(0) + function(**given)
                    self.assertAlmostEqual(found / (in_their_words or 1), in_their_words / (in_their_words or 1), 18)

    def test_codes_are_told_apart(self) -> None:
        _every_formula()
        codes = [defined.code for _, defined in all_formulas()]
        self.assertEqual(len(codes), len(set(codes)))

    def test_a_parameter_that_does_not_stand_in_the_words_is_refused(self) -> None:
        with self.assertRaisesRegex(ValueError, 'residue_share.* does not stand in|"residue share" does not stand in'):

            @formula("mass - sum of parts")
            def wrong(mass: Decimal, residue_share: Decimal, parts: Many) -> Decimal:
                return mass * residue_share - sum(parts)
