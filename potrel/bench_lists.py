"""Measures reading lists of 10,000 lines in, beside the bare parse of the same file and the raw COPY of its rows."""

from __future__ import annotations

import csv
import io
import json
import random
import xml.etree.ElementTree as ET
from collections.abc import Callable
from decimal import Decimal

import psycopg

from potrel.bench_tools import DAY, ITEMS, call, say, sent, timed
from potrel.core.cost.costing import Costing
from potrel.core.kitchen.items import Item
from potrel.core.kitchen.kitchen import Kitchen
from potrel.core.kitchen.quantities import parse_pack
from potrel.core.kitchen.supply import Offer, Supplier
from potrel.core.rooms.review import ListChoices, Reviewer
from potrel.deliveries.understanding import Understood, understand
from potrel.formats.sheets import workbook
from potrel.formats.ubl_catalogue import write_catalogue

LINES = 10_000
_MORE = (4, 5, 6, 7, 8)

_SYLLABLES = ("ba", "cor", "den", "fi", "gra", "hol", "ka", "lim", "mor", "nu", "pel", "qui", "ra", "sto", "tam", "ve")


def list_rows(seed: int = 3) -> list[tuple[str, str, str, Decimal]]:
    """Code, text, pack and price of each line: a third are goods of the kitchen, the rest are what wholesalers sell besides,
    each under a name of its own (some 7,000, also once figures and packs are left out of them).
    """
    dice = random.Random(seed)
    beside = ("napkin", "towel", "soda", "juice", "sauce", "rice", "pasta", "glove", "foil", "syrup", "biscuit", "tea")
    rows = []
    for n in range(LINES):
        bought = n % 3 == 0
        made = "".join(_SYLLABLES[n // 16**place % 16] for place in range(4))
        name = f"ITEM {n % ITEMS}" if bought else f"{dice.choice(beside)} {dice.choice(beside)} {made}".upper()
        price = Decimal(dice.randint(500, 9000)) / 100
        rows.append((f"C{n}", f"{name} {dice.randint(1, 20)}KG CRT", "10 kg" if bought else "", price))
    return rows


def files(rows: list[tuple[str, str, str, Decimal]]) -> dict[str, tuple[bytes, Callable[[bytes], object]]]:
    """The rows as files of each kind, with the bare parse of that kind."""
    from python_calamine import CalamineWorkbook

    heads = ("Code", "Article", "Pack", "Price")
    text = io.StringIO()
    csv.writer(text).writerows([heads, *rows])
    goods = tuple(Item(code, name, "goods") for code, name, _, _ in rows)
    seller = Kitchen("potrel-kitchen", 1, "S", "EUR", suppliers=(Supplier("s", "S"),), items=goods)
    offers = [Offer(code, "s", parse_pack(pack or "1 kg"), price, DAY, code=code) for code, _, pack, price in rows]
    return {
        "CSV": (text.getvalue().encode(), lambda data: list(csv.reader(io.StringIO(data.decode())))),
        "XLSX": (
            workbook("List", heads, rows, widths={}, frozen_columns=0),
            lambda data: CalamineWorkbook.from_filelike(io.BytesIO(data)).get_sheet_by_index(0).to_python(),
        ),
        "UBL": (write_catalogue(seller, offers, DAY, sells=True), ET.fromstring),
    }


def bench_reading(kitchen: Kitchen) -> dict[str, bytes]:
    """Each kind of file: the bare parse, and the reading with matching and review; returns the files."""
    costing = Costing(kitchen, DAY)
    made = files(list_rows())
    for kind, (data, parse) in made.items():
        print(f"a list of {LINES} lines as {kind} ({len(data) / 1e6:.1f} MB)")
        bare = say("  the bare parse", timed(lambda parse=parse, data=data: parse(data), 5))  # type: ignore[misc]
        found: list[Understood] = []

        def read(data: bytes = data, found: list[Understood] = found) -> None:
            *_, last = understand(data, kitchen, ListChoices(supplier="s"))
            if isinstance(last, Understood):
                found.append(last)

        whole = timed(read, 5)
        say("  read and matched", whole, f"{sorted(whole)[2] / bare:.1f} times the bare parse")
        of, matches = found[-1].of, found[-1].matches
        say("  reviewed", timed(lambda of=of, matches=matches: Reviewer(costing.view, of, "s", DAY).review(matches, {}), 5))  # type: ignore[misc]
    return {kind: data for kind, (data, _) in made.items()}


def upload(url: str, data: bytes) -> int:
    """Read a file in over HTTP; returns the number of the list."""
    steps = sent(f"{url}/api/price-lists?name=bench", data, "application/octet-stream")
    return int(json.loads(steps.splitlines()[-1])["number"])


def put(url: str, number: int, said: dict[str, object]) -> None:
    """Say something of a list."""
    sent(f"{url}/api/price-lists/{number}", json.dumps(said).encode(), "application/json", "PUT")


def bench_import(url: str, database_url: str, lists: dict[str, bytes]) -> None:
    """Over HTTP: from the upload to the preview, and recording it, beside the raw COPY of the same rows.

    The first list of a server comes while it still makes its first board and the process that reads; those after it are of
    other rows, each read for the first time.
    """
    call(f"{url}/api/board")

    def to_preview(data: bytes) -> int:
        number = upload(url, data)
        call(f"{url}/api/price-lists/{number}")
        return number

    numbers: list[int] = []
    first = timed(lambda: numbers.append(to_preview(lists["CSV"])), 1)
    say(f"the first list, as CSV: from the upload to the preview of {LINES} lines", first)
    times: dict[str, list[float]] = {kind: [] for kind in lists}
    for seed in _MORE:
        for kind, (data, _) in files(list_rows(seed)).items():
            times[kind] += timed(lambda data=data: to_preview(data), 1)  # type: ignore[misc]
    for kind, each in times.items():
        say(f"{kind}: from the upload to the preview of {LINES} lines", each, f"(aim {'2 s' if kind == 'UBL' else '1.5 s'})")
    (number,) = numbers
    put(url, number, {"supplier": "s"})
    for state in ("likely", "suspicious"):
        while lines := json.loads(call(f"{url}/api/price-lists/{number}?show={state}"))["lines"]:
            right = [{"place": one["place"], "item": one["item"], "confirmed": state == "suspicious"} for one in lines]
            put(url, number, {"lines": right})
    review = json.loads(call(f"{url}/api/price-lists/{number}?limit=0"))
    count = review["writes"]
    raw = say(f"the raw COPY of {count} such rows", timed(lambda: raw_copy(database_url, count), 3))
    ask = {"seen": review["seen"]}
    recorded = timed(lambda: call(f"{url}/api/price-lists/{number}/record", ask), 1)
    say(f"{count} prices recorded, all or nothing", recorded, f"{recorded[0] / raw:.1f} times the raw COPY")
    say("the whole board after it", timed(lambda: call(f"{url}/api/board"), 1))


def raw_copy(database_url: str, count: int) -> None:
    """COPY as many offers into a table of the same shape, with nothing checked, and let it go again."""
    columns = "item, supplier, pack, price, valid_from, id, code, recorded_by"
    with psycopg.connect(database_url) as connection:
        connection.execute("CREATE TEMPORARY TABLE raw_offer AS SELECT * FROM offer WITH NO DATA")
        with connection.cursor() as cursor, cursor.copy(f"COPY raw_offer ({columns}) FROM STDIN".encode()) as copy:
            for n in range(count):
                copy.write_row((f"i{n % ITEMS}", "s", "10 kg", Decimal(n) / 100, DAY, f"x{n}", f"C{n}", "bench"))
        connection.rollback()
