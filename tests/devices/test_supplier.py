"""The simulated supplier and the way to it: today's catalogue over HTTP, and every way in which that can fail."""

from __future__ import annotations

import socket
import threading
import unittest
from datetime import date, timedelta
from http.server import BaseHTTPRequestHandler, HTTPServer

from potrel.core.buy.pack_text import read_pack
from potrel.core.buy.price_list import PriceList
from potrel.core.kitchen.quantities import parse_pack
from potrel.devices.simulated_supplier import catalogue_on, simulated_supplier
from potrel.devices.supplier_service import NoAnswer, fetch_catalogue
from potrel.formats.upload import LARGEST_FILE, BadFile
from tests.formats.lists import read
from tests.kitchens import DAY


class Catalogues(unittest.TestCase):
    def of(self, day: date) -> PriceList:
        return read(catalogue_on(day))

    def test_a_day_has_one_catalogue(self) -> None:
        self.assertEqual(catalogue_on(DAY), catalogue_on(DAY))
        found = self.of(DAY)
        self.assertEqual((found.supplier, found.on, found.currency), ("Ropewalk Wholesale", DAY, "EUR"))
        self.assertTrue(all(line.item is None and line.supplier is None for line in found.lines), "ids mean nothing outside")

    def test_over_some_weeks_prices_drift_goods_run_out_and_packs_change(self) -> None:
        weeks = [self.of(DAY + timedelta(days=7 * week)) for week in range(12)]
        first = {line.code: line for line in weeks[0].lines}
        moved = {line.code for week in weeks for line in week.lines if line.price != first[line.code].price}
        packs = {line.code for week in weeks for line in week.lines if line.pack != first[line.code].pack}
        self.assertGreater(len(moved), 25)
        self.assertGreater(len(packs), 2)
        for line in (line for week in weeks for line in week.lines if line.code in packs):
            said = read_pack(line.text).pack
            self.assertEqual(
                parse_pack(said or ""), parse_pack(line.pack or ""), f"{line.text}: what the name says is what is sold"
            )
        self.assertTrue(any(line.none_today for week in weeks for line in week.lines))
        ratios = [line.price / (first[line.code].price or 1) for week in weeks for line in week.lines if line.price]
        self.assertLess(max(ratios), 3)


class Service(unittest.TestCase):
    def test_today_and_any_day(self) -> None:
        with simulated_supplier(today=lambda: DAY) as address:
            self.assertEqual(fetch_catalogue(address), catalogue_on(DAY))
            self.assertEqual(fetch_catalogue(f"{address}?on=2026-12-01"), catalogue_on(date(2026, 12, 1)))

    def refusal(self, address: str) -> str:
        with self.assertRaises(NoAnswer) as caught:
            fetch_catalogue(address, patience=0.4)
        return str(caught.exception)

    def test_wrong_addresses(self) -> None:
        with simulated_supplier(today=lambda: DAY) as address:
            self.assertIn("answers 404", self.refusal(address.replace("catalogue", "prices")))
            self.assertIn("answers 400", self.refusal(f"{address}?on=tomorrow"))
        self.assertIn("does not answer", self.refusal(address))
        self.assertIn("does not answer", self.refusal("file:///etc/hostname"))

    def test_a_service_that_never_answers(self) -> None:
        with socket.create_server(("127.0.0.1", 0)) as silent:
            self.assertIn("does not answer", self.refusal(f"http://127.0.0.1:{silent.getsockname()[1]}/"))

    def test_a_service_that_sends_on_and_on(self) -> None:
        class Endless(BaseHTTPRequestHandler):
            def do_GET(self) -> None:
                self.send_response(200)
                self.end_headers()
                for _ in range(LARGEST_FILE // (1 << 20) + 2):
                    self.wfile.write(b" " * (1 << 20))

            def log_message(self, format: str, *args: object) -> None:
                pass

        class Quiet(HTTPServer):
            def handle_error(self, request: object, client_address: object) -> None:
                """The client hangs up: that is what is tested."""

        with Quiet(("127.0.0.1", 0), Endless) as server:
            thread = threading.Thread(target=server.handle_request)
            thread.start()
            with self.assertRaises(BadFile):
                fetch_catalogue(f"http://127.0.0.1:{server.server_address[1]}/")
            thread.join(5)

    def test_a_redirect_to_a_file_is_not_followed(self) -> None:
        class Elsewhere(BaseHTTPRequestHandler):
            def do_GET(self) -> None:
                self.send_response(302)
                self.send_header("Location", "file:///etc/hostname")
                self.end_headers()

            def log_message(self, format: str, *args: object) -> None:
                pass

        with HTTPServer(("127.0.0.1", 0), Elsewhere) as server:
            thread = threading.Thread(target=server.handle_request)
            thread.start()
            self.assertIn("protocol", self.refusal(f"http://127.0.0.1:{server.server_address[1]}/"))
            thread.join(5)
