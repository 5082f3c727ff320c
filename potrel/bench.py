"""Measures speed and size, each figure beside what it is compared to in the same run: `./run bench`."""

from __future__ import annotations

import gc
import gzip
import os
import random
import re
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable, Sequence
from datetime import timedelta
from decimal import Decimal
from pathlib import Path

import psycopg

from potrel.bench_lists import bench_import, bench_reading
from potrel.bench_past import bench_past
from potrel.bench_pot import bench_pot
from potrel.bench_prices import bench_prices
from potrel.bench_sure import POT, bench_sure, flowing
from potrel.bench_tools import DAY, ITEMS, call, say, served, timed
from potrel.core.cost.costing import Costing
from potrel.core.cost.drift import drift_of
from potrel.core.cost.effects import reached_by
from potrel.core.cost.price_moves import PriceMoves
from potrel.core.kitchen.items import Item
from potrel.core.kitchen.kitchen import Kitchen
from potrel.core.kitchen.lines import Line
from potrel.core.kitchen.quantities import parse_pack, parse_quantity
from potrel.core.kitchen.recipes import Inflow, Recipe, Stage
from potrel.core.kitchen.servings import Serving
from potrel.core.kitchen.settings import Settings
from potrel.core.kitchen.supply import Offer, Supplier
from potrel.core.pot.needs import Needs
from potrel.core.rooms.board import board_of
from potrel.doing.keeping import made_for_long
from potrel.formats.kitchen_json import part_to_plain

ROOT = Path(__file__).parents[1]
LAYERS = (1000, 600, 400)
LINES = 15


def generated_kitchen(seed: int = 1, layers: Sequence[int] = LAYERS) -> Kitchen:
    """2,000 recipes in three layers with 15 lines each, 300 items with a price history of four months."""
    dice = random.Random(seed)
    items = tuple(Item(f"i{n}", f"Item {n}", "other", Decimal(1)) for n in range(ITEMS))
    offers = tuple(
        Offer(f"i{n}", "s", parse_pack("10 kg"), Decimal(dice.randint(500, 9000)) / 100, DAY - timedelta(days=120 - 30 * month))
        for n in range(ITEMS)
        for month in range(5)
        if month == 0 or dice.random() < 0.2
    )
    recipes: list[Recipe] = []
    below: list[str] = []
    for layer, count in enumerate(layers):
        made = [_recipe(f"r{layer}-{n}", below, dice) for n in range(count)]
        recipes += made
        below = [recipe.id for recipe in made]
    settings = Settings(Decimal("0.02"), Decimal("0.03"), Decimal(18), target_food_cost=Decimal("0.30"))
    return Kitchen("potrel-kitchen", 1, "Bench", "EUR", settings, (Supplier("s", "S"),), (), items, offers, tuple(recipes))


def _recipe(name: str, below: list[str], dice: random.Random) -> Recipe:
    lines = []
    for place in range(LINES):
        grams = parse_quantity(f"{dice.randint(50, 3000)} g")
        if below and place < 3:
            lines.append(Line(grams, recipe=dice.choice(below)))
        else:
            lines.append(Line(grams, item=f"i{dice.randrange(ITEMS)}"))
    first = Stage("a", lines=tuple(lines[:8]), residue=Decimal("0.01"))
    second = Stage("b", from_=(Inflow("a"),), lines=tuple(lines[8:]))
    serving = Serving(
        "bowl",
        "Bowl",
        parse_quantity("350 ml"),
        price=Decimal("4.50"),
        price_set_on=DAY - timedelta(days=7 * dice.randint(1, 16)),
    )
    return Recipe(name, name, Decimal(1), (first, second), (serving,))


# -- the core ------------------------------------------------------------------------------------------------------


def plain_loop(kitchen: Kitchen, prices: dict[str, Decimal]) -> dict[str, Decimal]:
    """The same batch costs by a plain Decimal loop over the lines: the least that any engine has to do."""
    costs: dict[str, tuple[Decimal, Decimal]] = {}
    for recipe in kitchen.recipes:
        total, carried = Decimal(0), Decimal(0)
        for stage in recipe.stages:
            put_in = carried
            for line in stage.lines:
                grams = Decimal(line.quantity.text.split()[0])
                put_in += grams
                if line.recipe is None:
                    total += grams * prices[line.item or ""]
                else:
                    cost, mass = costs[line.recipe]
                    total += grams * cost / mass
            carried = put_in * (1 - stage.residue)
        costs[recipe.id] = (total, carried)
    return {recipe: cost for recipe, (cost, _) in costs.items()}


def plain_needs(kitchen: Kitchen) -> dict[str, dict[str, Decimal]]:
    """The same needs by a plain Decimal loop: no units, yields, losses by rule, credits or missing facts."""
    needs: dict[str, tuple[dict[str, Decimal], Decimal]] = {}
    for recipe in kitchen.recipes:
        items: dict[str, Decimal] = {}
        carried = Decimal(0)
        for stage in recipe.stages:
            put_in = carried
            for line in stage.lines:
                grams = Decimal(line.quantity.text.split()[0])
                put_in += grams
                if line.recipe is None:
                    items[line.item or ""] = items.get(line.item or "", Decimal(0)) + grams
                else:
                    sub, mass = needs[line.recipe]
                    factor = grams / mass
                    for item, need in sub.items():
                        items[item] = items.get(item, Decimal(0)) + need * factor
            carried = put_in * (1 - stage.residue)
        needs[recipe.id] = (items, carried)
    return {recipe: items for recipe, (items, _) in needs.items()}


def bench_core(kitchen: Kitchen) -> None:
    print(f"core: {len(kitchen.recipes)} recipes in {len(LAYERS)} layers, {LINES} lines each, {ITEMS} items")
    costing = Costing(kitchen, DAY)
    prices = {item.id: costing.view.per_gram(item.id) or Decimal(0) for item in kitchen.items}

    def all_needs() -> dict[str, Needs]:
        fresh = Costing(kitchen, DAY)
        return {recipe.id: fresh.of(recipe.id).needs for recipe in kitchen.recipes}

    loops, sums, needs = [], [], []
    for _ in range(9):
        loops += timed(lambda: plain_loop(kitchen, prices), 1)
        sums += timed(lambda: plain_needs(kitchen), 1)
        needs += timed(all_needs, 1)
    costs = say("plain Decimal loop: one cost a recipe", loops)
    plain = say("plain Decimal loop: the same needs", sums)
    middle = statistics.median(needs)
    ratio = f"{middle / plain:.1f} times the plain needs, {middle / costs:.1f} the plain costs"
    full = say("all costed: balance, needs, portions, prices, sureness", needs, ratio)
    whole = plain_loop(kitchen, prices)
    worst = max(abs(costing.of(recipe).cost - cost) for recipe, cost in whole.items())
    print(f"  largest difference between the two: {worst:.1E}, full {full / len(whole) * 1000:.0f} us a recipe")
    _bench_prices(kitchen, costing)


def _bench_prices(kitchen: Kitchen, costing: Costing) -> None:
    item = max(kitchen.items, key=lambda one: len(reached_by(costing, one.id))).id
    change, reached = Decimal("0.0001"), reached_by(costing, item)

    def carried() -> list[Decimal]:
        return [(portion.food_cost or Decimal(0)) + need * change for _, portion, need in reached]

    say(f"a price change carried exactly to {len(reached)} recipes", timed(carried, 50), "(aim 5 ms)")
    turn = iter(range(10**6))

    def recorded() -> Costing:
        price = Decimal(2000 + next(turn)) / 100
        return costing.with_offers([Offer(item, "s", parse_pack("10 kg"), price, DAY)])

    say(f"the whole kitchen with a new price, {len(reached)} recipes priced anew", timed(recorded, 20))
    _bench_matrix(kitchen, costing)

    def board() -> int:
        parts, again = 0, costing.with_kitchen(kitchen)
        again.moves = PriceMoves(again.view)
        for one in again.all():
            for portion in one.portions:
                drift = drift_of(one, portion, again)
                parts += len(drift.moved) if drift else 0
        return parts

    drifts = timed(board, 9)
    say(f"the drift of {len(kitchen.recipes)} portions, split in {board()} parts", drifts)
    say("the whole board, drift split by purchase", timed(lambda: board_of(costing), 9), "(aim 60 ms)")


def _bench_matrix(kitchen: Kitchen, costing: Costing) -> None:
    import numpy

    place = {item.id: at for at, item in enumerate(kitchen.items)}
    matrix = numpy.zeros((len(kitchen.recipes), len(place)))
    for row, recipe in enumerate(kitchen.recipes):
        for item, mass in costing.of(recipe.id).needs.items.items():
            matrix[row, place[item]] = float(mass)
    prices = numpy.array([float(costing.view.per_gram(item.id) or 0) for item in kitchen.items])
    say("all costs from the needs matrix in NumPy, not exact", timed(lambda: matrix @ prices, 50))

    def exact() -> None:
        for recipe in kitchen.recipes:
            costing.of(recipe.id).needs.cost(costing.view.prices())

    say("all costs from the needs, exact", timed(exact, 9))


# -- over HTTP -----------------------------------------------------------------------------------------------------


def bench_http(kitchen: Kitchen, lists: dict[str, bytes]) -> None:
    print("over HTTP, with PostgreSQL, the same kitchen")
    with served(kitchen) as (url, database_url):
        say("the first board after a start", timed(lambda: call(f"{url}/api/board"), 1))
        size = len(call(f"{url}/api/board"))
        say(f"the board again ({size / 1e6:.1f} MB of JSON)", timed(lambda: call(f"{url}/api/board"), 20))
        recipe = part_to_plain(Recipe, kitchen.recipes[-1])
        turn = iter(range(10**6))

        def preview() -> None:
            recipe["stages"][0]["lines"][5]["quantity"] = f"{next(turn) + 100} g"
            call(f"{url}/api/preview", {"recipe": recipe})

        preview()
        say("preview of a changed recipe", timed(preview, 200), "(aim p95 20 ms)")

        saved = part_to_plain(Recipe, kitchen.recipes[-1])
        item = next(line["item"] for line in saved["stages"][0]["lines"] if line.get("item"))
        stated = next(offer.price for offer in reversed(kitchen.offers) if offer.item == item) / 10

        def what_if() -> None:
            move = {"sort": "price", "of": item, "value": f"{float(stated) * (1 + next(turn) % 900 / 1000):.4f}"}
            call(f"{url}/api/what-if", {"recipe": saved, "moves": [move]})

        what_if()
        say("what if a price were another, for all pots it reaches", timed(what_if, 100), "(aim p95 50 ms)")

        def price_to_board() -> None:
            n = next(turn)
            offer = {"item": f"i{n % ITEMS}", "supplier": "s", "pack": "10 kg", "price": f"{20 + n % 50}.10",
                     "on": DAY.isoformat()}  # fmt: skip
            call(f"{url}/api/offers", offer)
            call(f"{url}/api/board")

        price_to_board()
        say("a price recorded, to the whole board", timed(price_to_board, 40), "(aim p95 120 ms)")
        bench_import(url, database_url, lists)


def bench_flow(kitchen: Kitchen) -> None:
    """How long a browser takes to lay out and draw the flow of a large pot, from the key to the next picture."""
    from playwright.sync_api import sync_playwright

    print("the flow of a pot of 32 lines, in a browser")
    with served(flowing(kitchen)) as (url, _), sync_playwright() as driver:
        browser = driver.chromium.launch(executable_path="/usr/bin/chromium-headless-shell", args=["--no-sandbox"])
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.goto(f"{url}/cook/{POT}/flow")
        page.get_by_role("img", name="as a flow").wait_for()
        drawn = """() => new Promise((done) => {
            const start = performance.now();
            const other = [...document.querySelectorAll("input[name=measure]")].find((one) => !one.checked);
            other.click();
            requestAnimationFrame(() => setTimeout(() => done(performance.now() - start)));
        })"""
        times = [page.evaluate(drawn) for _ in range(21)]
        say("drawn anew, in money or in mass", times[1:], "(aim 200 ms)")
        count = page.evaluate("document.querySelectorAll('svg rect').length")
        print(f"  {count} nodes")
        browser.close()


# -- memory --------------------------------------------------------------------------------------------------------


def bench_memory(kitchen: Kitchen, previews: int = 10_000, reloads: int = 100) -> None:
    """Whether the web process grows: previews of ever new drafts, half of them with a weight missing, and whole reloads."""
    print("memory of the process that serves (and of this measurement in it)")
    with served(kitchen) as (url, database_url):
        recipe = part_to_plain(Recipe, kitchen.recipes[-1])
        line = recipe["stages"][0]["lines"][5]

        def preview(turn: int) -> None:
            line["quantity"] = f"{turn + 100} {'g' if turn % 2 else 'bunch'}"
            call(f"{url}/api/preview", {"recipe": recipe})

        def reload(turn: int) -> None:
            with psycopg.connect(database_url) as connection:
                connection.execute("UPDATE kitchen SET old_price_days = %s", [40 + turn % 20])
            call(f"{url}/api/board")

        _grows("previews", preview, previews)
        _grows("reloads of the whole kitchen", reload, reloads)


def _grows(what: str, work: Callable[[int], None], times: int) -> None:
    for turn in range(times // 10):
        work(turn)
    first = _resident()
    for turn in range(times // 10, times):
        work(turn)
    print(f"  {what:58} {first:8.1f} MB after {times // 10}, {_resident():.1f} MB after {times}", flush=True)


def _resident() -> float:
    """The memory [MB] of this process that is in use."""
    gc.collect()
    pages = int(Path("/proc/self/statm").read_text().split()[1])
    return pages * os.sysconf("SC_PAGE_SIZE") / 1e6


# -- start and first page --------------------------------------------------------------------------------------------


def bench_start() -> None:
    print("start of the demo, with a folder of its own")
    with tempfile.TemporaryDirectory() as folder:
        Path(folder).chmod(0o755)
        environ = {**os.environ, "POTREL_HOME": str(Path(folder) / "home")}
        say("first start, programs installed", [_start_and_stop(environ)])
        say("second start", [_start_and_stop(environ) for _ in range(3)], "(aim 4 s)")


def _start_and_stop(environ: dict[str, str]) -> float:
    start = time.perf_counter()
    demo = subprocess.Popen(
        [str(ROOT / "run"), "demo", "--port", "8429"], env=environ, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, text=True
    )
    if demo.stdout is None or "http://" not in demo.stdout.readline():
        raise RuntimeError("the demo did not start")
    call("http://127.0.0.1:8429/api/board")
    took = (time.perf_counter() - start) * 1000
    demo.terminate()
    demo.wait(30)
    return took


def bench_page() -> None:
    print("first page")
    built = ROOT / "web" / "dist"
    # What the first page names itself; the other rooms come when they are gone to.
    named = re.findall(r'"/(assets/[^"]+)"', (built / "index.html").read_text())
    for kind, name in ((".js", "script"), (".css", "style")):
        size = sum(len(gzip.compress((built / file).read_bytes())) for file in named if file.endswith(kind))
        print(f"  {name:58} {size / 1000:8.1f} kB gzipped   {'(aim 130 kB)' if name == 'script' else ''}")


def main() -> int:
    """Run every measurement, or those that are named."""
    with made_for_long():
        kitchen = generated_kitchen()
    measures: dict[str, Callable[[], None]] = {
        "core": lambda: bench_core(kitchen),
        "pot": lambda: bench_pot(kitchen),
        "sure": lambda: bench_sure(kitchen),
        "flow": lambda: bench_flow(kitchen),
        "prices": lambda: bench_prices(kitchen),
        "past": lambda: bench_past(kitchen),
        "http": lambda: bench_http(kitchen, bench_reading(kitchen)),
        "start": bench_start,
        "page": bench_page,
        "memory": lambda: bench_memory(kitchen),
    }
    unknown = [name for name in sys.argv[1:] if name not in measures]
    if unknown:
        print(f"there is no measurement {', '.join(unknown)}; there are: {', '.join(measures)}")
        return 2
    for name in sys.argv[1:] or measures:
        measures[name]()
    return 0


if __name__ == "__main__":
    sys.exit(main())
