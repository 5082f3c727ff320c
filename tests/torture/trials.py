"""The trials: each does a number of hard things to a running kitchen, and counts what should not have come of it."""

from __future__ import annotations

import json
import random
import threading
import time
from collections.abc import Callable, Iterator
from copy import deepcopy
from dataclasses import dataclass
from typing import Any

import httpx2

from potrel.demo import demo_lists
from potrel.devices.simulated_supplier import catalogue_on
from potrel.formats.kitchen_json import read_kitchen, write_kitchen
from tests.kitchens import DAY, demo
from tests.torture.server import Victim

PAGES = (
    "board", "kitchen", "names", "recipes", "items", "items/leek", "allergens", "yields", "leftovers", "comparisons",
    "practice", "price-lists", "test-sheets", "pushed-past", "changes", "export", "price-book.csv", "price-book.xlsx",
    "offers.csv", "offers.xlsx", "offers.xml", "recipes/leek-potato", "backups",
)  # fmt: skip


@dataclass
class Outcome:
    """What a trial tried, how often, and how often something came of it that should not."""

    what: str
    tried: int
    wrong: int
    said: str = ""


# Does something to a server until it has done so often enough, and says what came of it.
Trial = Callable[[Victim, Callable[[int], bool], random.Random], Iterator[Outcome]]


def client(victim: Victim) -> httpx2.Client:
    """A script that asks the server."""
    return httpx2.Client(base_url=f"{victim.address}/api/", timeout=60)


def price(dice: random.Random, item: str = "leek") -> dict[str, Any]:
    """A price to record."""
    return {
        "item": item,
        "supplier": "saltmarsh",
        "pack": "5 kg",
        "price": f"{dice.randint(1, 99999) / 100:.2f}",
        "on": str(DAY),
    }


def kills(victim: Victim, enough: Callable[[int], bool], dice: random.Random, writers: int = 4) -> Iterator[Outcome]:
    """Kill the server or its database under load; what was acknowledged has to be there afterwards."""
    written: dict[str, str] = {}
    lock, over = threading.Lock(), threading.Event()

    def write(seed: int) -> None:
        own = random.Random(seed)
        with client(victim) as ask:
            while not over.is_set():
                try:
                    answer = ask.post("offers", json=price(own, own.choice(["leek", "carrot", "onion"])))
                    if answer.status_code == 201:
                        found = answer.json()
                        with lock:
                            written[found["id"]] = found["price"]
                except httpx2.HTTPError:
                    time.sleep(0.05)

    threads = [threading.Thread(target=write, args=(seed,)) for seed in range(writers)]
    for one in threads:
        one.start()
    done = 0
    try:
        while not enough(done):
            time.sleep(dice.uniform(0.3, 1.5))
            if dice.random() < 0.3:
                victim.kill_database()
                time.sleep(dice.uniform(0, 0.3))
            victim.kill()
            victim.start()
            done += 1
    finally:
        over.set()
        for one in threads:
            one.join()
    with client(victim) as ask:
        kept = {one["id"]: one["price"] for one in ask.get("export").json()["offers"]}
    lost = sum(1 for number, amount in written.items() if kept.get(number) != amount)
    yield Outcome("kills under load survived", done, 0)
    yield Outcome("acknowledged writes lost in them", len(written), lost)


def mutated(data: bytes, dice: random.Random) -> bytes:
    """A file with something done to it: bytes changed, cut, doubled, or strange ones put in."""
    out = bytearray(data)
    for _ in range(dice.choice([1, 1, 2, 5, 40])):
        at = dice.randrange(len(out) + 1)
        match dice.randrange(6):
            case 0:
                out[at : at + 1] = bytes([dice.randrange(256)])
            case 1:
                del out[at : at + dice.randrange(1, 2000)]
            case 2:
                out[at:at] = out[at : at + dice.randrange(1, 500)] * dice.randrange(1, 4)
            case 3:
                out[at:at] = dice.choice([b"\0", b"\xff\xfe", b'"', b"<", b"&a;", b"=1+1", b"\r", b";;;;;", "＝".encode()])
            case 4:
                out[at : at + 8] = str(10 ** dice.randrange(30)).encode()
            case _:
                out = out[: max(1, at)]
    return bytes(out)


def files(victim: Victim, enough: Callable[[int], bool], dice: random.Random) -> Iterator[Outcome]:
    """Upload broken files; each is read, or refused in words."""
    good = [data for _, data in demo_lists(DAY)] + [catalogue_on(DAY)]
    tried = wrong = 0
    said = ""
    with client(victim) as ask:
        while not enough(tried):
            data = mutated(dice.choice(good), dice)
            answer = ask.post("price-lists?name=torture", content=data, headers={"Content-Type": "application/octet-stream"})
            tried += 1
            last: dict[str, Any] = {}
            if answer.status_code == 200:
                last = json.loads(answer.text.splitlines()[-1])
            words = last.get("problem") or last.get("number") or (answer.is_client_error and answer.json()["detail"])
            if not words:
                wrong, said = wrong + 1, f"{answer.status_code} {answer.text[:200]}"
            elif last.get("number"):
                shown = ask.get(f"price-lists/{last['number']}")
                if shown.status_code != 200:
                    wrong, said = wrong + 1, f"a list that was read cannot be shown: {shown.text[:200]}"
                ask.delete(f"price-lists/{last['number']}")
    yield Outcome("mutated files, answers not in words", tried, wrong, said)


STRANGE: tuple[Any, ...] = (
    None, "", " ", "0", "-1", "1e9", "NaN", "999999999999", "999999999999.999999999999", "0.000000000001", "9" * 2000, "\u202e",
    "=cmd", "<b>", "é" * 200, "a" * 10_000, "1 bunch", "2-inch piece", "½ cup", "0 g", "0.000000001 g", "1/3 kg", "1 x 1 x 1 g",
    "2026-02-30", "9999-12-31", "0001-01-01", True, 7, 1.5, [], {}, [[]], {"a": {}}, "\U0001f955", "credit", "air", "AP",
)  # fmt: skip


def scrambled(value: Any, dice: random.Random) -> Any:
    """A body with one to three of its values put in the place of others."""
    copy = json.loads(json.dumps(value))
    for _ in range(dice.choice([1, 1, 2, 3])):
        here = copy
        while isinstance(here, dict | list) and here:
            key = dice.choice(list(here) if isinstance(here, dict) else range(len(here)))
            if not isinstance(here[key], dict | list) or not here[key] or dice.random() < 0.15:
                here[key] = deepcopy(dice.choice(STRANGE))
                break
            here = here[key]
    return copy


def values(victim: Victim, enough: Callable[[int], bool], dice: random.Random, every: int = 25) -> Iterator[Outcome]:
    """Send odd values to every route that writes; none ends in an error of the server, and none that is taken breaks a page."""
    cases = broken = opened = errors = 0
    said = ""
    with client(victim) as ask:
        item, recipe = ask.get("items/leek").json()["item"], ask.get("recipes/leek-potato").json()
        head = ask.get("kitchen").json()
        settings = {"name": head["name"], "currency": head["currency"], "settings": head["settings"], "was": head["settings"]}
        test = {"test": {"id": "t", "item": "leek", "of": "sliced", "kind": "trim", "before": "2 kg", "after": "1 kg",
                         "on": str(DAY), "by": "Ada", "parts": []}}  # fmt: skip
        bodies: list[tuple[str, str, Any]] = [
            ("POST", "items", {"item": {**item, "id": "odd"}}),
            ("PUT", "items/leek", {"item": item, "was": item}),
            ("POST", "recipes", {"recipe": {**recipe["recipe"], "id": "odd-soup"}}),
            ("PUT", "recipes/leek-potato", {"recipe": recipe["recipe"], "based_on": 1}),
            ("POST", "preview", {"recipe": recipe["recipe"]}),
            ("POST", "offers", price(dice)),
            ("POST", "suppliers", {"id": "odd", "name": "Odd", "catalogue_url": "http://127.0.0.1:1/"}),
            ("PUT", "kitchen", settings),
            ("PUT", "comparisons", {"comparison": {"id": "odd", "name": "Odd", "unit": "kg", "forms": ["leek"]}, "seen": None}),
            ("PUT", "test-sheets/odd", {"item": "leek", "body": {"before": "1 kg"}, "seen": None}),
            ("POST", "bench-tests", test),
            ("POST", "typed-line", {"text": "3 kg leeks ep sliced"}),
            ("POST", "working", {"figure": "serving/bowl/food_cost", "recipe": "leek-potato", "draft": None}),
        ]
        while not enough(cases):
            method, path, body = dice.choice(bodies)
            sent = scrambled(body, dice)
            if isinstance(sent, dict) and path in ("items", "recipes", "suppliers") and dice.random() < 0.5:
                inner = sent.get("item") or sent.get("recipe") or sent
                if isinstance(inner, dict):
                    inner["id"] = f"odd-{cases}"
            answer = ask.request(method, path, json=sent)
            cases += 1
            if answer.status_code >= 500:
                errors, said = errors + 1, f"{method} {path} {json.dumps(sent)[:300]}: {answer.text[:200]}"
            if cases % every == 0:
                for page in PAGES:
                    opened += 1
                    shown = ask.get(page)
                    if shown.status_code != 200:
                        broken, said = broken + 1, f"{page}: {shown.text[:300]}"
                    elif page == "export":
                        # What was taken can be taken out, and read back.
                        read_kitchen(shown.content)
    yield Outcome("API cases with odd values, answers of 5xx", cases, errors, said)
    yield Outcome("pages opened in between, broken by an accepted value", opened, broken, said)


def origins(victim: Victim, enough: Callable[[int], bool], dice: random.Random) -> Iterator[Outcome]:
    """Requests as a page of another origin has them sent; none of them writes."""
    hostile = [
        {"Origin": "https://elsewhere.example"}, {"Origin": "null"}, {"Sec-Fetch-Site": "cross-site"},
        {"Host": "elsewhere.example"}, {"Sec-Fetch-Site": "same-site"},
        {"Origin": victim.address, "Sec-Fetch-Site": "cross-site"},
    ]  # fmt: skip
    tried = 0
    with client(victim) as ask:
        before = ask.get("changes").json()[:1]
        while not enough(tried):
            kind = dice.choice(["text/plain", "application/x-www-form-urlencoded", "application/json"])
            ask.post("offers", content=json.dumps(price(dice)), headers={**dice.choice(hostile), "Content-Type": kind})
            tried += 1
        wrote = int(ask.get("changes").json()[:1] != before)
    yield Outcome("requests of other origins that wrote", tried, wrote)


def memory(victim: Victim, enough: Callable[[int], bool], dice: random.Random) -> Iterator[Outcome]:
    """The memory of the web process, after many requests."""
    first, tried = 0.0, 0
    with client(victim) as ask:
        while not enough(tried):
            ask.get(dice.choice(PAGES[:-1]))
            tried += 1
            if tried == 200:
                first = victim.memory()
    last = victim.memory()
    yield Outcome("requests, the web process grown by more than a half", tried, int(last > 1.5 * first > 0), f"{last:.0f} MB")


def filled(victim: Victim) -> None:
    """Put the demo's kitchen into an empty home."""
    import os
    import subprocess
    import sys
    import tempfile

    from tests.generated import ROOT

    with tempfile.NamedTemporaryFile("w", suffix=".json") as file:
        file.write(write_kitchen(demo()))
        file.flush()
        environ = {**os.environ, "POTREL_HOME": str(victim.home), "PYTHONPATH": str(ROOT)}
        command = [sys.executable, "-m", "potrel.cli", "import", file.name, "--replace"]
        subprocess.run(command, env=environ, check=True, capture_output=True, cwd=ROOT)
