"""Floors, ceilings, halves and price endings, decided as exact fractions decide them."""

from __future__ import annotations

import random
import unittest
from decimal import Decimal
from fractions import Fraction
from itertools import islice
from math import ceil, floor
from typing import Any, NamedTuple

import numpy

from potrel.core.cost.costing import Costing
from potrel.core.kitchen.pricing import PriceEnding
from potrel.core.numbers import rounding
from tests.kitchens import DAY, d, kitchen

CASES = 20_000


def chain(drawn: random.Random) -> tuple[Decimal, Fraction]:
    """A result of some multiplications and divisions, with the dust of 28 digits and without."""
    dusty, exact = Decimal(drawn.randint(1, 99_999)) / 100, Fraction(0)
    exact = Fraction(dusty)
    for _ in range(drawn.randint(1, 5)):
        factor = Decimal(drawn.randint(1, 999)) / drawn.choice((1, 10, 100, 1000))
        if drawn.random() < 0.5:
            dusty, exact = dusty * factor, exact * Fraction(factor)
        else:
            dusty, exact = dusty / factor, exact / Fraction(factor)
    # Half of them land on a cent, by another way round, so that only dust can lie between.
    if drawn.random() < 0.5:
        wanted = Fraction(drawn.randint(1, 2000), 100)
        ratio = wanted / exact
        dusty, exact = dusty * ratio.numerator / ratio.denominator, wanted
    return dusty, exact


class AgainstFractions(unittest.TestCase):
    drawn: random.Random
    cases: list[tuple[Decimal, Fraction]]

    @classmethod
    def setUpClass(cls) -> None:
        cls.drawn = random.Random(11)
        made = (chain(cls.drawn) for _ in range(4 * CASES))
        # Money and portions of a kitchen: from a tenth of a cent to a million.
        cls.cases = list(islice((one for one in made if Fraction(1, 1000) < one[1] < 10**6), CASES))

    def test_whole_ones(self) -> None:
        for dusty, exact in self.cases:
            self.assertEqual(rounding.floor(dusty), floor(exact), (dusty, exact))
            self.assertEqual(rounding.ceiling(dusty), ceil(exact), (dusty, exact))

    def test_endings(self) -> None:
        cents = [d("0.90"), d("0.95"), d("0.50")]
        for dusty, exact in self.cases:
            step = self.drawn.choice((d("0.05"), d("0.10"), d("0.25"), d(1)))
            self.assertEqual(Fraction(rounding.up_to_step(dusty, step)), ceil(exact / Fraction(step)) * Fraction(step))
            ends = [ceil(exact - Fraction(cent)) + Fraction(cent) for cent in cents]
            self.assertEqual(Fraction(rounding.up_to_cents(dusty, cents)), min(ends), (dusty, exact))

    def test_halves(self) -> None:
        for dusty, exact in self.cases:
            in_cents = exact * 100
            away = floor(in_cents + Fraction(1, 2))
            self.assertEqual(rounding.half_up(dusty, 2) * 100, away, (dusty, exact))
            self.assertEqual(rounding.half_even(dusty, 2) * 100, round(in_cents), (dusty, exact))

    def test_more_is_told_from_dust(self) -> None:
        for dusty, exact in self.cases:
            limit = exact * self.drawn.choice((1, 1 + Fraction(1, 10**12), 1 - Fraction(1, 10**12)))
            nearby = Decimal(limit.numerator) / Decimal(limit.denominator)
            self.assertEqual(rounding.exceeds(dusty, nearby), exact > limit, (dusty, exact, limit))

    def test_a_price_of_nothing_but_an_ending(self) -> None:
        self.assertEqual(rounding.up_to_cents(d("0.9000000000000000000000000001"), [d("0.90")]), d("0.90"))
        self.assertEqual(rounding.up_to_cents(d(0), [d("0.90")]), d("0.90"))
        self.assertEqual(rounding.up_to_step(d(0), d("0.10")), 0)

    def test_draws_and_fractions_are_decided_alike(self) -> None:
        values = [one for one, _ in self.cases[:2000]]
        exact = [one for _, one in self.cases[:2000]]
        for function in (rounding.floor, rounding.ceiling):
            drawn = function(numpy.array([float(one) for one in values]))  # type: ignore[arg-type]
            self.assertEqual([int(one) for one in drawn], [int(function(one)) for one in exact])  # type: ignore[attr-defined, arg-type]


class Soup(NamedTuple):
    """A soup of one line, 39 portions of it: grams in a portion, yield and target in percent, price in cents a kilo."""

    grams: int
    yield_: int
    share: int
    cents: int

    def cost(self) -> Fraction:
        """What a portion costs, exactly."""
        return Fraction(self.grams, 1000) / Fraction(self.yield_, 100) * Fraction(self.cents, 100)

    def document(self, recipe: str, item: str) -> dict[str, Any]:
        """The soup as a recipe."""
        line = {"item": item, "quantity": f"{39 * self.grams} g", "basis": "EP", "preparation": "cut"}
        pricing = {"method": "food_cost_share", "share": f"0.{self.share}"}
        serving = {"id": "b", "name": "B", "size": f"{self.grams} g", "pricing": pricing}
        return {"id": recipe, "stages": [{"id": "s", "lines": [line]}], "servings": [serving]}


class Soups(unittest.TestCase):
    """One-line soups from the price of a kilo to the price on the card and the whole portions, beside exact fractions."""

    def test_no_price_is_a_step_too_high_and_no_portion_is_lost(self) -> None:
        drawn = random.Random(3)
        soups = [
            Soup(drawn.choice((200, 250, 300, 320, 400)), drawn.choice((50, 64, 75, 80, 90, 96)),
                 drawn.choice((20, 25, 28, 30, 32, 35)), drawn.randint(50, 2500))
            for _ in range(1500)
        ]  # fmt: skip
        prices = {f"i{n}": str(Decimal(soup.cents) / 100) for n, soup in enumerate(soups)}
        items = [{"id": f"i{n}", "preparations": [{"id": "cut", "name": "cut", "yield": f"0.{soup.yield_}"}]}
                 for n, soup in enumerate(soups)]  # fmt: skip
        recipes = [soup.document(f"s{n}", f"i{n}") for n, soup in enumerate(soups)]
        made = kitchen(items, recipes, prices, tax_rate=d("0.05"), price_ending=PriceEnding(step=d("0.10")))
        costing, on_the_step = Costing(made, DAY), 0
        for number, soup in enumerate(soups):
            (portion,) = costing.of(f"s{number}").portions
            in_steps = soup.cost() / Fraction(soup.share, 100) * Fraction(105, 100) * 10
            # Where it comes out at a whole number of steps, only dust decides.
            on_the_step += in_steps.denominator == 1
            assert portion.priced.suggested is not None
            self.assertEqual(Fraction(portion.priced.suggested), Fraction(ceil(in_steps), 10), soup)
            self.assertEqual(portion.whole_portions, 39, soup)
        self.assertGreater(on_the_step, 20)

    def test_the_soup_that_came_out_at_9_90(self) -> None:
        leek = {"id": "leek", "preparations": [{"id": "cut", "name": "cut", "yield": "0.9"}]}
        soup = {"stages": [{"id": "s", "lines": [
            {"item": "leek", "quantity": "300 g", "basis": "EP", "preparation": "cut"}]}], "servings": [
            {"id": "b", "name": "B", "size": "300 g"}]}  # fmt: skip
        made = kitchen([leek], [soup], {"leek": "7.00"}, tax_rate=d("0.05"), target_food_cost=d("0.25"),
                       price_ending=PriceEnding(step=d("0.10")))  # fmt: skip
        (portion,) = Costing(made, DAY).of("pot").portions
        self.assertEqual((portion.priced.suggested, portion.whole_portions), (d("9.80"), 1))
