"""Prices beside published identities and examples: shares and factors, tax in a price, break-even, a bundle shared out."""

from __future__ import annotations

import math
import unittest
from decimal import ROUND_CEILING, ROUND_HALF_UP, Decimal
from fractions import Fraction

from potrel.core.cost.costing import Costing
from potrel.core.cost.pricing import net_price
from potrel.core.cost.pricing.card import (
    contribution,
    ended_by_a_step,
    food_cost_share,
    gross_profit,
    kept_less_of_gross,
    kept_less_of_net,
    with_tax,
)
from potrel.core.cost.selling import kept_to_break_even, portions_to_break_even
from potrel.core.decide.deals import deal_sold, share_of_deal
from potrel.core.kitchen.pricing import Pricing
from tests.core.cost.test_selling import pot, row, selling
from tests.core.decide.test_repricing import deal
from tests.kitchens import DAY, d

_CENT = Decimal("0.01")


def cents(value: Decimal) -> Decimal:
    return value.quantize(_CENT, ROUND_HALF_UP)


class MenuMathematics(unittest.TestCase):
    """Identities as in Dopson and Hayes, Food and Beverage Cost Control (7th ed.), from memory."""

    def test_pricing_factor_is_one_over_the_share(self) -> None:
        # 20% 5.00, 25% 4.00, 28% 3.571, 30% 3.333, 35% 2.857, 40% 2.50: the table of pricing factors.
        table = (
            ("0.20", "5.000"),
            ("0.25", "4.000"),
            ("0.28", "3.571"),
            ("0.30", "3.333"),
            ("0.35", "2.857"),
            ("0.40", "2.500"),
        )
        for share, factor in table:
            by_share = net_price(Pricing("food_cost_share", share=d(share)), d(1), None, d(0))
            self.assertAlmostEqual(by_share or d(0), d(factor), 3)

    def test_the_share_of_a_price_by_factor(self) -> None:
        for factor in (2, 3, 4, 5):
            price = net_price(Pricing("factor", factor=d(factor)), d("1.37"), None, d(0))
            self.assertAlmostEqual(food_cost_share(d("1.37"), price or d(1)), 1 / d(factor), 20)

    def test_cost_of_1_50_at_30_percent_is_sold_at_5(self) -> None:
        self.assertEqual(net_price(Pricing("food_cost_share", share=d("0.30")), d("1.50"), None, d(0)), 5)

    def test_contribution_is_price_less_food(self) -> None:
        self.assertEqual(contribution(d("13.50"), d("4.05")), d("9.45"))

    def test_share_and_gross_profit_make_one(self) -> None:
        # 4.05 of 13.50 is 30%: 70% gross profit.
        self.assertEqual(food_cost_share(d("4.05"), d("13.50")), d("0.3"))
        self.assertEqual(gross_profit(d("0.3")), d("0.7"))

    def test_prime_cost(self) -> None:
        # Food 3.00 and labour 2.40 at a prime cost of 60%: 9.00.
        self.assertEqual(net_price(Pricing("prime_cost_share", share=d("0.60")), d(3), d("2.40"), d(0)), 9)

    def test_full_cost_leaves_overhead_and_profit_of_the_price(self) -> None:
        price = net_price(Pricing("full_cost", overhead_share=d("0.25"), profit_share=d("0.10")), d(3), d("2.20"), d(0)) or d(1)
        self.assertEqual(price, 8)
        self.assertEqual(price - d("5.20"), price * d("0.35"))


class TaxInPrices(unittest.TestCase):
    def test_the_vat_fraction_of_the_united_kingdom(self) -> None:
        # HMRC, VAT Notice 700, section 30: at 20% the VAT in a price is 1/6 of it, at 5% 1/21.
        for rate, fraction in (("0.20", Fraction(1, 6)), ("0.05", Fraction(1, 21))):
            price = d(42)
            tax = price - kept_less_of_net(price, d(rate), d(0))
            self.assertAlmostEqual(tax, price * fraction.numerator / fraction.denominator, 20)

    def test_tax_of_7_and_19_percent_in_a_price(self) -> None:
        # The usual divisors of German practice: 6.54% and 15.97% of the gross price (value from memory).
        for rate, part in (("0.07", "0.0654"), ("0.19", "0.1597")):
            self.assertAlmostEqual(1 - kept_less_of_net(d(1), d(rate), d(0)), d(part), 4)

    def test_tax_on_top_and_out_again(self) -> None:
        for rate in ("0", "0.07", "0.1", "0.2", "0.25"):
            self.assertAlmostEqual(kept_less_of_net(with_tax(d("3.456"), d(rate)), d(rate), d(0)), d("3.456"), 24)

    def test_a_platform_that_takes_30_percent_of_the_gross_price(self) -> None:
        # 11.90 with 19% is 10.00 net; 30% of 11.90 is 3.57: 6.43 is kept, and not 7.00.
        self.assertEqual(kept_less_of_gross(d("11.90"), d("0.19"), d("0.30")), d("6.43"))
        self.assertEqual(kept_less_of_net(d("11.90"), d("0.19"), d("0.30")), 7)

    def test_endings_as_the_decimal_module_rounds_up(self) -> None:
        # Python's decimal, quantize with ROUND_CEILING: another way to whole steps.
        for price in ("2.01", "2.1056", "9.80", "0.0001", "13.37"):
            for step in ("0.10", "0.05", "1"):
                tens = (d(price) / d(step)).quantize(d(1), ROUND_CEILING) * d(step)
                self.assertEqual(ended_by_a_step(d(price), d(step)), tens)


class BreakEven(unittest.TestCase):
    """Fixed cost over contribution, rounded up: reference values, and Horngren, Cost Accounting, chapter 3, from memory."""

    def test_units(self) -> None:
        # Fixed 2,000, price 200, variable cost 120: 25 units.
        self.assertEqual(portions_to_break_even(d(2000), contribution(d(200), d(120))), 25)

    def test_beside_floor_division(self) -> None:
        for fixed in range(1, 2000, 37):
            for left in ("0.7", "1.1", "2.43", "3"):
                wanted = math.ceil(Fraction(fixed) / Fraction(left))
                self.assertEqual(portions_to_break_even(d(fixed), d(left)), wanted)

    def test_the_price_at_a_number_pays_at_that_number(self) -> None:
        for number in (1, 7, 25, 300):
            kept = kept_to_break_even(d(500), d(number), d("1.20"))
            self.assertEqual(portions_to_break_even(d(500), contribution(kept, d("1.20"))), number)


class Bundles(unittest.TestCase):
    """IFRS 15, paragraphs 76 to 80: a discount is shared by relative stand-alone selling prices."""

    def test_example_33(self) -> None:
        # Illustrative example 33 (value from memory): 50, 25 and 75 alone, sold together at 100: 33, 17 and 50.
        shares = [share_of_deal(d(100), d(alone), d(150)) for alone in (50, 25, 75)]
        self.assertEqual([one.quantize(d(1), ROUND_HALF_UP) for one in shares], [33, 17, 50])
        self.assertAlmostEqual(sum(shares), d(100), 20)

    def test_nothing_of_a_deal_is_lost(self) -> None:
        for price in ("3.99", "4.95", "5.49"):
            found = deal_sold(Costing(pot(), DAY), deal(price=price))
            self.assertAlmostEqual(sum(one.gets or 0 for one in found.parts), d(price), 20)
            self.assertAlmostEqual(sum(one.kept or 0 for one in found.parts), found.kept or 0, 20)


class Portions(unittest.TestCase):
    """A whole serving worked through with cents on paper (common practice, no source)."""

    def test_a_bowl_by_hand(self) -> None:
        # 0.60 of food at 30% is 2.00 net, 2.20 with a tax of 10%; set at 4.40 it keeps 4.00, leaves 3.40: 15% and 85%.
        found = selling(pot())
        self.assertEqual(cents(row(found, "food_cost_share").price), d("2.20"))
        one = row(found)
        self.assertEqual((cents(one.kept), cents(one.contribution)), (d("4.00"), d("3.40")))
        self.assertEqual((one.food_cost_share, one.gross_profit_share), (d("0.15"), d("0.85")))

    def test_a_minute_of_work(self) -> None:
        # An hour for 20 bowls and half a minute each: 3.5 minutes; 3.40 over 3.5 is 0.97.
        found = selling(pot())
        self.assertEqual(found.minutes, d("3.5"))
        self.assertEqual(cents(row(found).per_minute), d("0.97"))

    def test_what_is_left_of_it_all(self) -> None:
        # 3.40 less 1.17 of labour and 0.05 of energy: 2.18, at most, as no overhead is told.
        one = row(selling(pot()))
        self.assertEqual(cents(one.profit), d("2.18"))
        self.assertTrue(one.profit_at_most)
