"""Measures a kitchen with a year behind it beside the same one when it was young, in the same run."""

from __future__ import annotations

import json
import statistics
from collections.abc import Callable, Iterator
from typing import Any

from potrel.bench_history import aged, write_aged
from potrel.bench_tools import DAY, ITEMS, call, filled, kept, say, sent, serving, timed
from potrel.core.kitchen.kitchen import Kitchen

_Figures = dict[str, list[float]]
# What an old kitchen may take in the place of what a young one takes.
_AIM = 1.2
_SAVED = ("r2-399", "r0-3")


def bench_past(kitchen: Kitchen) -> None:
    """Every figure of the young kitchen, and of the one with 30 saves a recipe, 250 rounds, 100,000 sales, 300 lists."""
    old = aged(kitchen, DAY)
    print(f"a kitchen with a year behind it: {sum(map(len, old.saves.values()))} saves, {old.size}")
    with kept(kitchen, filled) as url:
        young = _measured(url)
    with kept(old.kitchen, lambda connection, _: write_aged(connection, old, DAY)) as url:
        for what, times in _measured(url).items():
            before = statistics.median(young[what])
            ratio = statistics.median(times) / before
            aim = f", aim {_AIM}" if what in _AIMED else ", aim 300 ms" if what == _AFTER else ""
            say(what, times, f"({before:.0f} when it was young, {ratio:.2f} times{aim})")


_AFTER = "the board after a start, as it was kept"
_AIMED = {"the board again", "a recipe saved", "a recipe saved, to the whole board", "a price recorded, to the whole board"}


def _measured(url: str) -> _Figures:
    found: _Figures = {}
    with serving(url, ahead=False) as address:
        found["the first board, reckoned from nothing"] = timed(lambda: call(f"{address}/api/board"), 1)
        found["the board again"] = timed(lambda: call(f"{address}/api/board"), 20)
        found |= _saves(address)
        settings = _turning(address)
        found["settings saved, to the whole board"] = timed(settings, 3)
        found["all recipes, for the list of them"] = timed(lambda: call(f"{address}/api/recipes"), 3)
        found["the repricing round"] = timed(lambda: call(f"{address}/api/prices"), 3)
        found["the lists that were read"] = timed(lambda: call(f"{address}/api/price-lists"), 5)
        found["the first rounds of prices"] = timed(lambda: call(f"{address}/api/prices/rounds"), 3)
        found["the saves of a recipe"] = timed(lambda: call(f"{address}/api/recipes/{_SAVED[0]}/revisions"), 5)
    # One that starts ahead keeps its board; the next has it at once.
    with serving(url, ahead=True) as address:
        call(f"{address}/api/board")
        call(f"{address}/api/recipes/{_SAVED[0]}")
    with serving(url, ahead=False) as address:
        found[_AFTER] = timed(lambda: call(f"{address}/api/board"), 1)
    return found


def _saves(address: str) -> _Figures:
    turn = iter(range(10**6))

    def saver(recipe_id: str) -> Callable[[], None]:
        reply = json.loads(call(f"{address}/api/recipes/{recipe_id}"))
        recipe, revision = reply["recipe"], [reply["revision"]]

        def save() -> None:
            recipe["stages"][0]["lines"][5]["quantity"] = f"{next(turn) + 200} g"
            body = json.dumps({"recipe": recipe, "based_on": revision[0]}).encode()
            revision[0] = json.loads(sent(f"{address}/api/recipes/{recipe_id}", body, "application/json", "PUT"))["revision"]

        return save

    def record() -> None:
        n = next(turn)
        call(f"{address}/api/offers", {"item": f"i{n % ITEMS}", "supplier": "s", "pack": "10 kg", "price": f"{20 + n % 50}.10",
                                       "on": DAY.isoformat()})  # fmt: skip

    savers = [saver(one) for one in _SAVED]

    def shown(work: Callable[[], None]) -> Callable[[], None]:
        def both() -> None:
            work()
            call(f"{address}/api/board")

        return both

    return {
        "a recipe saved": [took for one in savers for took in timed(one, 10)],
        "a recipe saved, to the whole board": [took for one in savers for took in timed(shown(one), 10)],
        "a price recorded, to the whole board": timed(shown(record), 30),
    }


def _turning(address: str) -> Callable[[], None]:
    """Saves other settings each time: all is priced anew for them."""
    shares: Iterator[int] = iter(range(10**6))

    def save() -> None:
        head: dict[str, Any] = json.loads(call(f"{address}/api/kitchen"))
        settings = {**head["settings"], "serving_loss": f"0.0{next(shares) % 8 + 1}"}
        body = {"name": head["name"], "currency": head["currency"], "settings": settings, "was": head["settings"]}
        sent(f"{address}/api/kitchen", json.dumps(body).encode(), "application/json", "PUT")
        call(f"{address}/api/board")

    return save
