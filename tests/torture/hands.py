"""Trials of many hands: hostile pages, a restore while others write, merges and rounds by two, papers all at once."""

from __future__ import annotations

import random
import subprocess
import sys
import tempfile
import threading
import time
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import httpx2

from tests.examples import MANY
from tests.generated import ROOT
from tests.kitchens import DAY
from tests.torture.server import Victim
from tests.torture.trials import Outcome, client, mutated

_PAGE = (
    b'<!doctype html><html><head><title>Soup</title><script type="application/ld+json">'
    b'{"@type": "Recipe", "name": "Leek soup", "recipeYield": "6 bowls", "recipeIngredient": ["1 kg leeks", "2 l water"],'
    b' "recipeInstructions": [{"@type": "HowToStep", "text": "Simmer 20 min"}]}</script></head><body><p>Soup</body></html>'
)
# What made readers of pages slow, or bring them down.
_ODD = (
    b"<!--",
    b"<a",
    b"</a",
    b"<a href='",
    b"&#x",
    b"&amp",
    b"<![CDATA[",
    b"<script",
    b"{",
    b"&#99999999999;",
    b"\\ud800",
    b"\xff",
)
_PAPERS = (
    "papers/list.pdf",
    "papers/card.html",
    "papers/allergens.pdf",
    "papers/costing/leek-potato.pdf",
    "workbook/leek-potato.xlsx",
)


def pages(victim: Victim, enough: Callable[[int], bool], dice: random.Random) -> Iterator[Outcome]:
    """Read saved pages that are broken, or made to be slow; each is read, or refused in words."""
    tried = wrong = 0
    said = ""
    with client(victim) as ask:
        while not enough(tried):
            page = mutated(_PAGE, dice)
            if dice.random() < 0.3:
                odd = dice.choice(_ODD)
                page = dice.choice([odd * (dice.randrange(1, 400_000) // len(odd)) + page, page + odd * 50_000])
            answer = ask.post("recipe-page", content=page, headers={"Content-Type": "application/octet-stream"})
            tried += 1
            if not (answer.status_code == 200 or (answer.status_code == 422 and answer.json()["detail"])):
                wrong, said = wrong + 1, f"{answer.status_code} {answer.text[:200]}"
    yield Outcome("saved pages, answers not in words", tried, wrong, said)


def restores(victim: Victim, enough: Callable[[int], bool], dice: random.Random, writers: int = 3) -> Iterator[Outcome]:
    """Put back-ups in the place of a kitchen that is written to; what was acknowledged is in one of the two."""
    tried = lost = acknowledged = odd = 0
    said = ""
    with tempfile.TemporaryDirectory() as folder:
        while not enough(tried):
            then = Path(folder) / f"then-{tried}.backup"
            _command(victim, "backup", str(then))
            written: set[str] = set()
            statuses: set[int] = set()
            over = threading.Event()
            threads = [
                threading.Thread(target=_write, args=(victim, over, written, statuses, dice.randrange(10**6)))
                for _ in range(writers)
            ]
            for one in threads:
                one.start()
            time.sleep(dice.uniform(0.3, 1))
            _command(victim, "restore", str(then))
            time.sleep(dice.uniform(0.2, 0.6))
            over.set()
            for one in threads:
                one.join()
            before = max((victim.home / "backups" / "potrel_kitchen").glob("*.backup"), key=lambda file: file.stat().st_mtime)
            there = _prices(victim)
            now = Path(folder) / f"now-{tried}.backup"
            _command(victim, "backup", str(now))
            _command(victim, "restore", str(before))
            missing = written - there - _prices(victim)
            _command(victim, "restore", str(now))
            tried, acknowledged, lost = tried + 1, acknowledged + len(written), lost + len(missing)
            if not statuses <= {201, 409, 503}:
                odd, said = odd + 1, f"answers while it was restored: {sorted(statuses)}"
    yield Outcome("restores while others write, odd answers", tried, odd, said)
    yield Outcome("acknowledged writes that are in neither kitchen", acknowledged, lost)


def _command(victim: Victim, *arguments: str) -> None:
    import os

    environ = {**os.environ, "POTREL_HOME": str(victim.home), "PYTHONPATH": str(ROOT)}
    subprocess.run([sys.executable, "-m", "potrel.cli", *arguments], env=environ, cwd=ROOT, check=True, capture_output=True)


def _write(victim: Victim, over: threading.Event, written: set[str], statuses: set[int], seed: int) -> None:
    own, number = random.Random(seed), 0
    with client(victim) as ask:
        while not over.is_set():
            number += 1
            price = f"{seed}.{number:04}"
            body = {"item": "leek", "supplier": "saltmarsh", "pack": "5 kg", "price": price, "on": str(DAY)}
            try:
                answer = ask.post("offers", json=body)
            except httpx2.HTTPError:
                continue
            statuses.add(answer.status_code)
            if answer.status_code == 201:
                written.add(_plain(price))
            time.sleep(own.uniform(0, 0.02))


def _plain(price: str) -> str:
    return f"{float(price):.4f}"


def _prices(victim: Victim) -> set[str]:
    for _ in range(100):
        with client(victim) as ask:
            answer = ask.get("export")
        if answer.status_code == 200:
            return {_plain(one["price"]) for one in answer.json()["offers"]}
        time.sleep(0.1)
    raise RuntimeError(f"the export does not come back after a restore: {answer.text[:200]}")


def merges(victim: Victim, enough: Callable[[int], bool], dice: random.Random) -> Iterator[Outcome]:
    """Merge one item into two others by two hands at once, and take it back: one of them does it, the other is told."""
    tried = wrong = 0
    said = ""
    while not enough(tried):
        with client(victim) as ask:
            board = ask.get("board").json()["rows"]
        answers = _at_once(
            victim, [("items/swede/merge", {"into": into}) for into in dice.sample(["parsnip", "carrot", "potato"], 2)]
        )
        done = [answer for answer in answers if answer.status_code == 200]
        with client(victim) as ask:
            back = [ask.post("items/unmerge", json=answer.json()).status_code for answer in done]
            same = ask.get("board").json()["rows"] == board
        tried += 1
        if sorted(answer.status_code for answer in answers) != [200, 409] or back != [204] or not same:
            wrong, said = wrong + 1, f"{[answer.text[:150] for answer in answers]} {back} {same}"
    yield Outcome("merges by two hands at once, not one of them", tried, wrong, said)


def rounds(victim: Victim, enough: Callable[[int], bool], dice: random.Random) -> Iterator[Outcome]:
    """Set the same prices by two hands at once, and take rounds back: one sets them, one takes them back."""
    tried = wrong = 0
    said = ""
    while not enough(tried):
        with client(victim) as ask:
            rows = [row for row in ask.get("prices").json()["rows"] if row["channel"] is None]
            today = ask.get("kitchen").json()["today"]
        some = dice.sample(rows, 3)
        asked = []
        for _ in range(2):
            new = [{**{key: row[key] for key in ("recipe", "serving", "channel")}, "was": row["price"],
                    "price": f"{dice.randint(300, 900) / 100:.2f}"} for row in some]  # fmt: skip
            asked.append(("prices", {"prices": new, "on": today}))
        answers = _at_once(victim, asked)
        done = [answer.json()["round"] for answer in answers if answer.status_code == 201]
        back = sorted(
            answer.status_code
            for number in done
            for answer in _at_once(victim, [(f"prices/rounds/{number}/take-back", None)] * 2)
        )
        with client(victim) as ask:
            now = {
                (row["recipe"], row["serving"]): row["price"]
                for row in ask.get("prices").json()["rows"]
                if row["channel"] is None
            }
        same = all(now[row["recipe"], row["serving"]] == row["price"] for row in some)
        tried += 1
        if sorted(answer.status_code for answer in answers) != [201, 409] or back != [200, 422] or not same:
            wrong, said = wrong + 1, f"{[answer.text[:150] for answer in answers]} {back} {same}"
    yield Outcome("rounds by two hands at once, not one of them", tried, wrong, said)


def papers(victim: Victim, enough: Callable[[int], bool], dice: random.Random) -> Iterator[Outcome]:
    """Ask for papers and workbooks all at once; each comes, or is refused in words, and the web process keeps its memory."""
    tried = wrong = 0
    said = ""
    with client(victim) as ask:
        ask.get("papers/list.html")
    before = victim.memory()
    while not enough(tried):
        answers = _at_once(victim, [(dice.choice(_PAPERS), None) for _ in range(6)], "GET")
        tried += len(answers)
        for answer in answers:
            if answer.status_code not in (200, 422):
                wrong, said = wrong + 1, f"{answer.status_code} {answer.text[:200]}"
    grown = victim.memory() - before
    yield Outcome("papers at once, answers of 5xx", tried, wrong, said)
    yield Outcome("the web process grown by them by more than 60 MB", tried, int(grown > 60), f"{grown:.0f} MB")


# What is tried on random recipes, kitchens and files.
_PROPERTIES = (
    "core.pot.test_conservation", "core.pot.test_content", "core.pot.test_losses", "core.cost.test_selling",
    "core.cost.test_usable_kilo", "core.rooms.test_what_if", "core.rooms.test_pot_flow", "core.rooms.test_yield_choices",
    "api.test_document", "formats.test_hostile_files", "formats.test_kitchen_json", "formats.test_offers_out",
    "mutations.test_sample", "web.test_screens", "web.test_paper_and_phone", "web.test_away",
)  # fmt: skip


def properties(_victim: Victim, enough: Callable[[int], bool], dice: random.Random) -> Iterator[Outcome]:
    """Try what holds of all recipes on many more examples than `./run test` does."""
    import os

    environ, tried, wrong, said = {**os.environ, MANY: "yes", "PYTHONPATH": str(ROOT)}, 0, 0, ""
    while not enough(tried):
        name = dice.choice(_PROPERTIES)
        command = [sys.executable, "-m", "unittest", f"tests.{name}"]
        done = subprocess.run(command, env=environ, cwd=ROOT, capture_output=True, text=True, check=False)
        tried += 1
        if done.returncode != 0:
            wrong, said = wrong + 1, f"{name}: {done.stderr[-1500:]}"
    yield Outcome("files of properties on many examples, failing", tried, wrong, said)


def _at_once(victim: Victim, asked: list[tuple[str, Any]], method: str = "POST") -> list[httpx2.Response]:
    found: list[httpx2.Response] = []

    def ask(path: str, body: Any) -> None:
        with client(victim) as one:
            found.append(one.request(method, path, json=body) if body is not None else one.request(method, path))

    threads = [threading.Thread(target=ask, args=one) for one in asked]
    for one in threads:
        one.start()
    for one in threads:
        one.join()
    return found
