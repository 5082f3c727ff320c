"""Measures the room Price: a round over a whole kitchen, the schools of a serving, papers and the workbook that computes."""

from __future__ import annotations

from decimal import Decimal

from potrel.bench_tools import say, timed
from potrel.core.cost.costing import Costing
from potrel.core.decide.repricing import effect_of, repricing
from potrel.core.decide.selling import selling_of
from potrel.core.kitchen.kitchen import Kitchen
from potrel.demo import demo_kitchen
from potrel.formats.live_workbook import board_workbook, pot_workbook
from potrel.papers.paper import costing_page, lack_of_pdf, page, pdf_of

_SOUP = "leek-potato"


def bench_prices(kitchen: Kitchen) -> None:
    """A round and its effect on the generated kitchen; schools, papers and workbooks of the demo."""
    costing = Costing(kitchen, kitchen.offers[-1].on)
    costing.cost_all()
    print(f"prices: a round over {len(kitchen.recipes)} servings")
    rows = repricing(costing, {})
    say("every price with the one proposed", timed(lambda: repricing(costing, {}), 5))
    one = rows[0]
    tried = {(one.recipe, one.serving, ""): Decimal("9.90")}
    say("what one new price does to the house", timed(lambda: effect_of(costing, tried, {}), 20))
    all_of_them = {(row.recipe, row.serving, ""): row.proposed for row in rows if row.proposed is not None}
    say("what all of them do", timed(lambda: effect_of(costing, all_of_them, {}), 5))
    demo = demo_kitchen(kitchen.offers[-1].on)
    whole = Costing(demo, kitchen.offers[-1].on)
    portion = whole.of(_SOUP).portions[0]
    print("of the demo")
    say("the schools of a serving in a channel", timed(lambda: selling_of(whole, _SOUP, portion, "delivery"), 50))
    say("the workbook of a pot", timed(lambda: pot_workbook(whole, _SOUP), 10))
    say("the workbook of the whole board", timed(lambda: board_workbook(whole), 5))
    say("the price list as a page", timed(lambda: page(whole, "list", None, "a4", marks=True), 20))
    if lack_of_pdf() is None:
        listed = page(whole, "list", None, "a4", marks=True)
        say("the same as PDF", timed(lambda: pdf_of(listed), 5))
        sheet = costing_page(whole, _SOUP, "a4")
        say("the costing sheet of a pot as PDF", timed(lambda: pdf_of(sheet), 5))
