"""Who may ask and how much may be sent: other hosts, pages of elsewhere, floods, drips and broken JSON."""

from __future__ import annotations

import json
import socket
import threading
import time
import unittest
from typing import Any
from unittest.mock import patch

import httpx2

from potrel.api.guard import body, line
from potrel.api.guard.body import TooMuch, check_json
from tests.api.test_api import ApiTest


class Origins(ApiTest):
    def ask(self, method: str, path: str, headers: dict[str, str], raw: bytes | None = None) -> httpx2.Response:
        return self.send(method, path, raw, headers.get("Content-Type", "text/plain"), headers)

    def test_only_its_own_names_are_answered(self) -> None:
        port = self.address.rsplit(":", 1)[1]
        for host in ("evil.example", f"evil.example:{port}", "127.0.0.1.evil.example", "127.0.0.2", "", "[", "localhost.evil"):
            with self.subTest(host):
                answer = self.ask("GET", "/api/board", {"Host": host})
                self.assertEqual(answer.status_code, 421 if host else 400 if answer.status_code == 400 else 421)
        for host in ("localhost", f"LOCALHOST:{port}", f"127.0.0.1:{port}", f"[::1]:{port}"):
            self.assertEqual(self.ask("GET", "/api/board", {"Host": host}).status_code, 200, host)

    def test_no_answer_of_the_api_may_be_kept_on_the_way(self) -> None:
        for method, path in (("GET", "/api/items"), ("GET", "/api/board"), ("GET", "/api/nowhere"), ("PUT", "/api/kitchen")):
            self.assertEqual(self.ask(method, path, {}).headers["Cache-Control"], "no-store", path)
        self.assertEqual(self.ask("GET", "/", {}).headers["Cache-Control"], "no-cache")

    def test_pages_of_elsewhere_write_nothing(self) -> None:
        port = self.address.rsplit(":", 1)[1]
        own = {"Origin": self.address, "Sec-Fetch-Site": "same-origin"}
        foreign: list[dict[str, str]] = [
            {"Origin": "https://evil.example", "Sec-Fetch-Site": "cross-site"},
            {"Origin": "https://evil.example"},
            {"Sec-Fetch-Site": "cross-site"},
            {"Sec-Fetch-Site": "same-site", "Origin": f"http://127.0.0.1:{int(port) + 1}"},
            {"Origin": f"http://127.0.0.1:{int(port) + 1}"},
            {"Origin": f"http://localhost:{port}"},
            {"Origin": "null"},
            {"Origin": "null", "Sec-Fetch-Site": "none"},
            {**own, "Sec-Fetch-Site": "cross-site"},
            {**own, "Origin": "https://evil.example"},
        ]
        supplier = json.dumps({"id": "new", "name": "New"}).encode()
        writes = [
            ("POST", "/api/suppliers", supplier),
            ("POST", "/api/price-lists?name=x", b"Goods;Price\nLeeks 5 kg;9\n"),
            ("DELETE", "/api/pushed-past/leek-potato", None),
            ("DELETE", "/api/recipes/leek-potato?based_on=1", None),
            ("PUT", "/api/kitchen", b"{}"),
        ]
        before = self.get("/api/changes")
        for headers in foreign:
            for method, path, raw in writes:
                # As a form of another page sends it, without asking first.
                for kind in ("text/plain", "application/x-www-form-urlencoded", "application/json"):
                    answer = self.ask(method, path, {**headers, "Content-Type": kind}, raw)
                    self.assertEqual(answer.status_code, 403, (headers, method, path))
                    self.assertIn("another site", answer.json()["detail"])
        self.assertEqual(self.get("/api/changes"), before, "nothing was written")
        self.assertEqual(self.get("/api/price-lists")["lists"], [])

    def test_its_own_page_and_a_script_write(self) -> None:
        for at, headers in enumerate(
            ({}, {"Origin": self.address}, {"Sec-Fetch-Site": "same-origin"}, {"Sec-Fetch-Site": "none"})
        ):
            raw = json.dumps({"id": f"new-{at}", "name": "New"}).encode()
            kind = {"Content-Type": "application/json"}
            self.assertEqual(self.ask("POST", "/api/suppliers", {**headers, **kind}, raw).status_code, 201, headers)

    def test_every_answer_says_what_a_browser_may_do_with_it(self) -> None:
        for path in ("/", "/api/board", "/api/no-such", "/assets/no-such.js", "/cook/leek-potato"):
            headers = self.ask("GET", path, {}).headers
            self.assertIn("frame-ancestors 'none'", headers["Content-Security-Policy"])
            self.assertNotIn("unsafe", headers["Content-Security-Policy"])
            self.assertEqual(headers["X-Content-Type-Options"], "nosniff")
            for name in ("Referrer-Policy", "Permissions-Policy", "Cross-Origin-Opener-Policy"):
                self.assertIn(name, headers)
        refused = self.ask("GET", "/", {"Host": "evil.example"})
        self.assertIn("Content-Security-Policy", refused.headers)


class Bodies(ApiTest):
    def post(self, raw: bytes) -> tuple[int, Any]:
        return self.call("POST", "/api/preview", raw=raw)

    def test_size_depth_and_odd_signs(self) -> None:
        recipe = self.get("/api/recipes/leek-potato")["recipe"]
        status, problem = self.post(b'{"recipe": "' + b"x" * (17 * 2**20) + b'"}')
        self.assertEqual((status, problem["type"]), (413, "urn:potrel:problem:too-large"))
        for deep in (b"[" * 970 + b"]" * 970, b'{"recipe":' * 970 + b"1" + b"}" * 970):
            status, problem = self.post(deep)
            self.assertEqual((status, "nested" in problem["detail"]), (400, True))
        for sign in ("\\u0000", "\\ud83d", "\\udc00x"):
            raw = json.dumps({"recipe": {**recipe, "note": "HERE"}}).replace("HERE", f"a {sign} b").encode()
            status, problem = self.post(raw)
            self.assertEqual((status, "sign that is none" in problem["detail"]), (400, True), sign)
        for number in ("NaN", "Infinity", "-Infinity"):
            raw = json.dumps({"id": "one", "body": {"before": "HERE"}}).replace('"HERE"', number).encode()
            self.assertEqual(self.call("PUT", "/api/test-sheets/one", raw=raw)[0], 400, number)
        # What only looks like it is taken as it is.
        good = json.dumps({"recipe": {**recipe, "note": "NaN of a \\u0000, \U0001f955, Infinity [[[" + "{" * 80}}).encode()
        self.assertEqual(self.post(good)[0], 200)

    def test_a_body_that_does_not_arrive_is_not_waited_for(self) -> None:
        host, port = self.address.removeprefix("http://").split(":")
        for path in ("/api/preview", "/api/price-lists?name=x"):
            head = f"POST {path} HTTP/1.1\r\nHost: {host}:{port}\r\nContent-Length: 100\r\n\r\n".encode()
            with patch.object(body, "SLOWEST_BODY", 0.3), socket.create_connection((host, int(port)), 10) as open_line:
                open_line.sendall(head + b'{"recipe"')
                self.assertIn(b" 408 ", open_line.recv(4096), path)

    def test_a_head_that_does_not_arrive_or_never_ends_is_refused(self) -> None:
        host, port = self.address.removeprefix("http://").split(":")
        with patch.object(line, "SLOWEST_HEAD", 0.3):
            lines = [socket.create_connection((host, int(port)), 10) for _ in range(30)]
            for one in lines[:15]:
                one.sendall(b"GET /api/board HTTP/1.1\r\nHost: 127")
            for one in lines:
                self.assertIn(b" 408 ", one.recv(4096))
                one.close()
        with socket.create_connection((host, int(port)), 10) as endless:
            endless.sendall(b"GET / HTTP/1.1\r\n")
            said = b""
            for _ in range(200):
                try:
                    endless.sendall(b"X-More: " + b"x" * 1000 + b"\r\n")
                    time.sleep(0.002)
                except OSError:
                    break
            endless.settimeout(5)
            try:
                said = endless.recv(4096)
            except OSError:
                # It hung up before this end had done with sending: refused all the same.
                said = b" 431 "
            self.assertIn(b" 431 ", said)
        self.assertEqual(self.call("GET", "/api/board")[0], 200)

    def test_too_many_at_once_are_told_to_wait(self) -> None:
        with patch.object(body, "MOST_AT_ONCE", 3):
            codes: list[int] = []

            def ask() -> None:
                codes.append(httpx2.get(f"{self.address}/api/board", timeout=60).status_code)

            threads = [threading.Thread(target=ask) for _ in range(24)]
            for one in threads:
                one.start()
            for one in threads:
                one.join()
        self.assertEqual(set(codes) - {200, 503}, set())
        self.assertIn(200, codes)
        self.assertEqual(self.call("GET", "/api/board")[0], 200)


class Json(unittest.TestCase):
    def test_what_is_no_json_is_left_to_the_route(self) -> None:
        for raw in (b"", b"{", b'"\\u0000', b"\0", b"[" * 60):
            check_json(raw)

    def test_a_bracket_in_a_text_is_no_depth(self) -> None:
        check_json(json.dumps({"a": "[" * 500 + '"' + "{" * 500}).encode())
        with self.assertRaises(TooMuch):
            check_json(b"[" * 65 + b"]" * 65)
