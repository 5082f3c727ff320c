"""Measures how sure figures are: draws of a large pot beside a plain Python loop, and the demo's board with bands."""

from __future__ import annotations

import random
from dataclasses import replace
from decimal import Decimal

from potrel.bench_tools import DAY, say, timed
from potrel.core.cost.costing import Costing
from potrel.core.cost.uncertainty import uncertainty_of, unsure_of
from potrel.core.cost.unsure import DRAWS, Doubts
from potrel.core.kitchen.items import Preparation
from potrel.core.kitchen.kitchen import Kitchen
from potrel.core.kitchen.lines import Line
from potrel.core.kitchen.quantities import parse_quantity
from potrel.core.kitchen.recipes import Change, Inflow, Recipe, Stage
from potrel.core.kitchen.servings import Serving
from potrel.core.rooms.board import board_of
from potrel.demo import demo_kitchen

_CUT = Preparation("cut", "cut", Decimal("0.8"), Decimal("0.72"), Decimal("0.86"), "a book")
POT, _STOCK, _LINES = "large-pot", "large-pot-stock", 32


def large_pot(kitchen: Kitchen) -> Kitchen:
    """A kitchen with a pot of 32 lines, the last of them a stock; all that is bought is trimmed by a band."""
    items = tuple(replace(item, preparations=(_CUT,)) for item in kitchen.items)
    lines = [Line(parse_quantity("1 kg"), item=item.id, basis="EP", preparation="cut") for item in items[: _LINES - 1]]
    steam = Change("evaporate", kg_per_hour=Decimal("0.6"))
    bones = tuple(Line(parse_quantity("4 kg"), item=item.id) for item in items[_LINES : _LINES + 6])
    stock = Recipe(
        _STOCK, "Stock", Decimal(1), (Stage("s", "Simmer", "simmer", minutes=Decimal(120), lines=bones, change=steam),), ()
    )
    lines.append(Line(parse_quantity("6 l"), recipe=_STOCK))
    stage = Stage("s", "Pot", "simmer", minutes=Decimal(40), lines=tuple(lines), change=steam)
    bowl = Serving("bowl", "Bowl", parse_quantity("350 ml"), price=Decimal("4.50"))
    pot = Recipe(POT, "Large pot", Decimal(1), (stage,), (bowl,))
    return replace(kitchen, items=items, recipes=(*kitchen.recipes, stock, pot))


def flowing(kitchen: Kitchen) -> Kitchen:
    """The same pot in six stages, each after the other."""
    whole = large_pot(kitchen)
    pot = whole.recipes[-1]
    lines = pot.stages[0].lines
    sixth = -(-len(lines) // 6)
    stages = tuple(
        replace(pot.stages[0], id=f"s{at}", name=f"Stage {at + 1}", lines=lines[at * sixth : (at + 1) * sixth],
                from_=(Inflow(f"s{at - 1}"),) if at else (), residue=Decimal("0.01"))
        for at in range(6)
    )  # fmt: skip
    return replace(whole, recipes=(*whole.recipes[:-1], replace(pot, stages=stages)))


def plain_loop(costing: Costing, doubts: Doubts) -> list[float]:
    """What a portion costs in each draw, line by line, without units, rules or credits: what a script would make of it."""
    drawn = {one.asked: list(map(float, doubts.drawn(one).values)) for one in unsure_of(costing, POT, doubts)}  # type: ignore[call-overload]
    prices = {name.of: values for name, values in drawn.items() if name.sort == "price"}
    yields = {name.of: values for name, values in drawn.items() if name.sort == "yield"}
    steams = {name.of: values for name, values in drawn.items() if name.sort == "change"}
    pot, stock, settings = costing.view.recipes[POT], costing.view.recipes[_STOCK], costing.view.settings
    more, served = 1 + float(settings.seasoning_allowance), 1 - float(settings.serving_loss)
    costs = []
    for at in range(doubts.count):
        made = 24_000 - 2 * steams[_STOCK][at]
        stock_cost = sum(4000 * prices[line.item or ""][at] for line in stock.stages[0].lines)
        cost, mass = 6000 / made * stock_cost, 6000.0
        for line in pot.stages[0].lines[:-1]:
            cost += 1000 / yields[line.item or ""][at] * prices[line.item or ""][at]
            mass += 1000
        costs.append(cost * more / ((mass - steams[POT][at] * 40 / 60) * served / 350))
    return costs


def bench_sure(kitchen: Kitchen) -> None:
    """The draws of one pot; then a board with its bands, and a what-if."""
    costing = Costing(large_pot(kitchen), DAY)
    costing.of(POT)
    print(f"how sure: {DRAWS} draws of a pot of {_LINES} lines with a stock in it")
    seeds = iter(random.Random(1).sample(range(10**6), 40))
    first = Doubts(costing, 0)
    uncertainty_of(costing, POT, first)

    def cold() -> object:
        return uncertainty_of(costing, POT, first.seeded(next(seeds)))

    say("drawn, costed, ranked", timed(cold, 15), "(aim 60 ms)")
    say("the same draws in a plain Python loop: costs alone", timed(lambda: plain_loop(costing, first), 3))
    import numpy

    told = uncertainty_of(costing, POT, first)[0].food_cost
    apart = 0.0 if told is None else abs(float(told.p90) / float(numpy.quantile(plain_loop(costing, first), 0.9)) - 1)
    print(f"  the two differ at the 90th percentile by {apart:.1e}")
    demo = demo_kitchen(DAY)

    def board() -> None:
        whole = Costing(demo, DAY)
        board_of(whole)
        doubts = Doubts(whole, next(seeds))
        for one in whole.all():
            uncertainty_of(whole, one.recipe.id, doubts)

    say("the whole demo board with bands, cold", timed(board, 9), "(aim 400 ms)")
