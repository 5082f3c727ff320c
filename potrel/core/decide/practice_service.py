"""Questions of practice about service: more or fewer portions, bowls of a pot, the price on the card."""

from __future__ import annotations

import random
from decimal import Decimal

from potrel.core.cost.costing import Costing
from potrel.core.cost.portioning import portions_of
from potrel.core.cost.pricing.card import with_tax
from potrel.core.cost.pricing.food_cost_share import by_food_cost_share
from potrel.core.decide.practice_questions import Given, Question, is_fine, kilos, percent_of
from potrel.core.kitchen.kinds import ZERO, plain
from potrel.core.numbers.arithmetic import Number
from potrel.core.numbers.formula import formula
from potrel.core.tell.figures import Figure, Input, Place, reckoned, whole_ones

_HUNDRED, _THOUSAND = Decimal(100), Decimal(1000)
_SHEET = "on the sheet"


@formula("so much * wanted / portions of the recipe")
def scaled(so_much: Number, wanted: Number, portions_of_the_recipe: Number) -> Number:
    """What a recipe takes for another number of portions."""
    return so_much * wanted / portions_of_the_recipe


@formula("food cost / (1 - gross profit)")
def by_gross_profit(food_cost: Number, gross_profit: Number) -> Number:
    """The price before tax [money] that leaves a share of it as gross profit."""
    return food_cost / (1 - gross_profit)


def _place(title: str) -> Place:
    return Place("", "practice", title)


def _value(working: Figure) -> Decimal:
    return ZERO if working.value is None else working.value


def scale(costing: Costing, dice: random.Random) -> Question:
    """What a recipe takes for more or fewer portions."""
    plenty = ("vegetable", "root", "meat", "fish")
    names = [one.name for one in costing.view.kitchen.items if one.kind in plenty and not is_fine(one)] or ["potatoes"]
    name, amount = dice.choice(sorted(names)), kilos(dice, 1, 8)
    has, wanted = dice.randrange(10, 60, 5), dice.randrange(15, 200, 5)
    wanted += 5 * (wanted == has)
    working = reckoned(
        scaled, _place(f"{name} for {wanted}"), "g",
        so_much=Input(f"{name} in the recipe", amount * _THOUSAND, "g", _SHEET),
        wanted=Input("portions wanted", Decimal(wanted), "", _SHEET),
        portions_of_the_recipe=Input("portions of the recipe", Decimal(has), "", _SHEET),
    )  # fmt: skip
    question = f"A recipe for {has} portions takes {plain(amount)} kg of {name}. How many kilos for {wanted}?"
    given = [Given("in the recipe", f"{plain(amount)} kg"), Given("portions of the recipe", str(has)),
             Given("portions wanted", str(wanted))]  # fmt: skip
    return question, given, "kg", _value(working) / _THOUSAND, [working]


def portions(costing: Costing, dice: random.Random) -> Question:
    """How many whole bowls a pot fills."""
    litres, size = kilos(dice, 8, 60), dice.randrange(180, 420, 20)
    loss = costing.view.settings.serving_loss or Decimal(dice.choice([2, 3, 4, 5])) / _HUNDRED
    every = reckoned(
        portions_of, _place("portions, exactly"), "",
        batch_yield=Input("in the pot", litres * _THOUSAND, "ml", _SHEET),
        serving_loss=Input("lost in serving", loss, "share", _SHEET), size=Input("a bowl", Decimal(size), "ml", _SHEET),
    )  # fmt: skip
    whole = reckoned(whole_ones, _place("whole portions"), "", portions=Input("portions", every.value, "", "as above"))
    question = f"A pot holds {plain(litres)} litres. How many whole bowls of {size} ml does it fill?"
    given = [Given("in the pot", f"{plain(litres)} l"), Given("a bowl", f"{size} ml"),
             Given("lost in serving", percent_of(loss))]  # fmt: skip
    return question, given, "", _value(whole), [whole, every]


def price(costing: Costing, dice: random.Random) -> Question:
    """The price on the card from a food-cost share."""
    share = Decimal(dice.randrange(24, 36)) / _HUNDRED
    food, tax, given = _portion(costing, dice)
    net = reckoned(
        by_food_cost_share, _place("price before tax"), "money", food_cost=food,
        target_share=Input("food-cost share", share, "share", _SHEET), commission=Input("commission", ZERO, "share", "none"),
    )  # fmt: skip
    question = f"What is the price on the card, tax included, if food is to cost {percent_of(share)} of the price before tax?"
    return question, [*given, Given("food-cost share", percent_of(share))], "money", *_on_the_card(net, tax)


def gross_profit(costing: Costing, dice: random.Random) -> Question:
    """The price on the card from a gross profit."""
    profit = Decimal(dice.randrange(64, 78)) / _HUNDRED
    food, tax, given = _portion(costing, dice)
    net = reckoned(
        by_gross_profit, _place("price before tax"), "money", food_cost=food,
        gross_profit=Input("gross profit", profit, "share", _SHEET),
    )  # fmt: skip
    question = f"What is the price on the card, tax included, if {percent_of(profit)} of the price before tax is to be left?"
    return question, [*given, Given("gross profit", percent_of(profit))], "money", *_on_the_card(net, tax)


def _portion(costing: Costing, dice: random.Random) -> tuple[Input, Input, list[Given]]:
    """What a portion costs, the kitchen's tax, and both as they are written on the sheet."""
    cost, rate = Decimal(dice.randrange(45, 320)) / _HUNDRED, costing.view.settings.tax_rate
    given = [Given("food cost of a portion", plain(cost)), Given("tax", percent_of(rate))]
    return Input("food cost of a portion", cost, "money", _SHEET), Input("tax rate", rate, "share", _SHEET), given


def _on_the_card(net: Figure, tax: Input) -> tuple[Decimal, list[Figure]]:
    card = reckoned(
        with_tax, _place("price on the card"), "money",
        net_price=Input("price before tax", net.value, "money", "as above"), tax_rate=tax,
    )  # fmt: skip
    return _value(card), [card, net]
