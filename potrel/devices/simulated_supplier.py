"""A simulated supplier: publishes its catalogue of the day as UBL over HTTP, with prices that drift, gaps and new packs."""

from __future__ import annotations

import csv
import random
import threading
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import date, timedelta
from decimal import Decimal
from functools import partial
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path
from urllib.parse import parse_qs, urlsplit

from potrel.core.kitchen.items import Item
from potrel.core.kitchen.kitchen import Kitchen
from potrel.core.kitchen.quantities import parse_pack, parse_quantity
from potrel.core.kitchen.supply import Offer, Supplier
from potrel.core.numbers.rounding import half_up
from potrel.formats.ubl_catalogue import write_catalogue

_GOODS = Path(__file__).parent / "simulated_goods.csv"
_BEGAN = date(2026, 1, 1)
# How often, and how far: per good and week. Invented, so that a month shows every kind of change.
_MOVES, _FAR, _DRAWN_BACK = 0.35, 0.08, 0.9
_SHORT, _NEW_PACK = 0.05, 0.12


def catalogue_on(day: date) -> bytes:
    """The catalogue of a day. The same day gives the same catalogue, whoever asks and whenever."""
    goods: list[tuple[Item, Offer, bool]] = []
    with _GOODS.open(encoding="utf-8") as file:
        for row in csv.DictReader(file):
            goods.append(_good(row, day))
    items = tuple(item for item, _, _ in goods)
    supplier = Supplier("s", "Ropewalk Wholesale")
    seller = Kitchen("potrel-kitchen", 1, supplier.name, "EUR", suppliers=(supplier,), items=items)
    short = frozenset(item.id for item, _, short in goods if short)
    return write_catalogue(seller, [offer for _, offer, _ in goods], day, f"{day:%Y%m%d}", sells=True, none_today=short)


def _good(row: dict[str, str], day: date) -> tuple[Item, Offer, bool]:
    """A good with its price of the day, and whether there is none of it: a walk from week to week that is drawn back home."""
    dice = random.Random(row["code"])  # noqa: S311 - a walk that everybody can repeat, no secret
    away = 0.0
    short = new_pack = False
    for _ in range(max(0, (day - _BEGAN) // timedelta(days=7)) + 1):
        away = away * _DRAWN_BACK + (dice.uniform(-_FAR, _FAR) if dice.random() < _MOVES else 0.0)
        short, new_pack = dice.random() < _SHORT, dice.random() < _NEW_PACK and row["other_pack"] != ""
    price = Decimal(row["price"]) * (1 + Decimal(away).quantize(Decimal("0.001")))
    name, pack, drained = row["name"], row["pack"], row["drained"]
    if new_pack:
        price, pack, drained = price * Decimal(row["other_ratio"]), row["other_pack"], row["other_drained"]
        name = name.replace(_in_a_name(row["pack"]), _in_a_name(pack))
    offer = Offer(
        row["code"], "s", parse_pack(pack), half_up(price, 2), day, parse_quantity(drained) if drained else None,
        code=row["code"], gtin=row["gtin"] or None,
    )  # fmt: skip
    return Item(row["code"], name, "goods"), offer, short


def _in_a_name(pack: str) -> str:
    """A pack as the names of goods say it: "6 x 1 l" is 6X1L."""
    return pack.replace(" ", "").upper()


class _Answers(BaseHTTPRequestHandler):
    """GET /catalogue.xml, of today or of ?on=2026-11-24."""

    def __init__(self, today: Callable[[], date], *args: object) -> None:
        self._today = today
        super().__init__(*args)  # type: ignore[arg-type]

    def do_GET(self) -> None:
        asked = urlsplit(self.path)
        if asked.path != "/catalogue.xml":
            self.send_error(404, "there is only /catalogue.xml")
            return
        try:
            on = parse_qs(asked.query).get("on")
            day = date.fromisoformat(on[0]) if on else self._today()
        except ValueError:
            self.send_error(400, "write the day as 2026-11-24")
            return
        body = catalogue_on(day)
        self.send_response(200)
        self.send_header("Content-Type", "application/xml; charset=utf-8")
        self.send_header("Content-Length", str(len(body)))
        self.end_headers()
        self.wfile.write(body)

    def log_message(self, format: str, *args: object) -> None:
        """Say nothing: the demo's own messages are what people read."""


@contextmanager
def simulated_supplier(port: int = 0, today: Callable[[], date] = date.today) -> Iterator[str]:
    """The address of the catalogue, on loopback, while the block runs; `port` 0 takes any that is free."""
    server = ThreadingHTTPServer(("127.0.0.1", port), partial(_Answers, today))
    server.daemon_threads = True
    thread = threading.Thread(target=server.serve_forever, name="simulated supplier", daemon=True)
    thread.start()
    try:
        yield f"http://127.0.0.1:{server.server_address[1]}/catalogue.xml"
    finally:
        server.shutdown()
        server.server_close()
        thread.join()
