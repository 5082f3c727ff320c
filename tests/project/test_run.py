"""`./run demo` as a newcomer gives it: a folder of its own, a second start, a signal that stops all it started."""

from __future__ import annotations

import contextlib
import json
import os
import signal
import socket
import subprocess
import sys
import tempfile
import threading
import time
import unittest
from contextlib import suppress
from pathlib import Path
from typing import Any

import httpx2

from potrel.postgres import quick_folder
from tests.generated import ROOT
from tests.servers import DatabaseTest


def free_port() -> int:
    """A port that nobody listens on."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


class RunTest(unittest.TestCase):
    def setUp(self) -> None:
        super().setUp()
        folder = tempfile.TemporaryDirectory(prefix="potrel-run-", dir=quick_folder())
        self.addCleanup(folder.cleanup)
        self.home = Path(folder.name) / "home"
        Path(folder.name).chmod(0o755)
        self.environ = {**os.environ, "POTREL_HOME": str(self.home)}
        self.port = free_port()

    def start(self, *arguments: str) -> subprocess.Popen[str]:
        """Start the demo, and wait for the address it prints last."""
        command = [str(ROOT / "run"), *arguments, "--port", str(self.port)]
        server = subprocess.Popen(command, env=self.environ, stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True)
        self.addCleanup(self.end, server)
        assert server.stdout is not None
        self.assertEqual(server.stdout.readline().strip(), f"Potrel is at http://127.0.0.1:{self.port}")
        return server

    def end(self, server: subprocess.Popen[str], number: int = signal.SIGTERM) -> None:
        """Stop it by a signal, and wait until it is gone."""
        if server.poll() is None:
            server.send_signal(number)
            server.wait(60)
        for stream in (server.stdout, server.stderr):
            if stream is not None:
                stream.close()

    def run_once(self, *arguments: str) -> subprocess.CompletedProcess[str]:
        return subprocess.run([str(ROOT / "run"), *arguments], env=self.environ, capture_output=True, text=True, check=False)

    def get(self, path: str) -> Any:
        return httpx2.get(f"http://127.0.0.1:{self.port}{path}", timeout=60).raise_for_status().json()

    def post(self, path: str, body: Any) -> None:
        httpx2.post(f"http://127.0.0.1:{self.port}{path}", json=body, timeout=60).raise_for_status()

    def cluster_is_up(self) -> bool:
        return (self.home / "data" / "postmaster.pid").exists()


class Demo(RunTest):
    def test_from_the_first_start_to_the_last(self) -> None:
        """A start takes seconds: what has to be seen of each is seen of the same one."""
        server = self.start("demo")
        self.assertEqual(self.get("/api/kitchen")["name"], "Slipway Canteen")
        self.post("/api/suppliers", {"id": "quay", "name": "Quay Stall"})
        with self.subTest("a second start says where the first one is, and does nothing"):
            self.refuses_a_second_start()
        with self.subTest("a back-up is taken meanwhile, and what was done since is undone by it"):
            self.goes_back_to_a_backup()
        with self.subTest("a stop finishes or refuses what is in flight"):
            self.stops_in_the_middle(server)
        with self.subTest("what was saved is there after a second start, and a crash leaves nothing that blocks the next"):
            server = self.start("demo")
            self.assertTrue(self.knows("quay"))
            server.kill()
            server.wait(60)
            self.assertTrue(self.cluster_is_up())
            server = self.start("demo")
            self.assertTrue(self.knows("quay"))
            self.end(server, signal.SIGINT)
            self.assertFalse(self.cluster_is_up())
        with self.subTest("fresh puts the demo back"):
            server = self.start("demo", "--fresh")
            self.assertFalse(self.knows("quay"))
            self.end(server)
        with self.subTest("a real kitchen is another database, empty at first"):
            server = self.start("start")
            self.assertEqual(self.get("/api/kitchen")["recipes"], 0)
            self.end(server)

    def knows(self, supplier: str) -> bool:
        """Whether a supplier is there."""
        return supplier in {one["id"] for one in self.get("/api/kitchen")["suppliers"]}

    def refuses_a_second_start(self) -> None:
        for more in ((), ("--fresh",)):
            done = self.run_once("demo", "--port", str(free_port()), *more)
            self.assertEqual((done.returncode, done.stdout), (2, ""))
            self.assertIn(f"served already, at http://127.0.0.1:{self.port}", done.stderr)
        self.assertTrue(self.knows("quay"))

    def goes_back_to_a_backup(self) -> None:
        backup = self.home / "mine.backup"
        self.assertEqual(self.run_once("backup", str(backup), "--demo").returncode, 0)
        self.post("/api/suppliers", {"id": "later", "name": "Later"})
        done = self.run_once("restore", str(backup), "--demo")
        self.assertEqual(done.returncode, 0, done.stderr)
        self.assertIn("took a back-up of what was there", done.stderr)
        self.assertTrue(self.knows("quay") and not self.knows("later"))

    def stops_in_the_middle(self, server: subprocess.Popen[str]) -> None:
        data = b"Goods;Pack;Price\n" + b"".join(b"Leeks %d;5 kg;9.90\n" % place for place in range(8000))
        said: list[str] = []

        def upload() -> None:
            try:
                answer = httpx2.post(f"http://127.0.0.1:{self.port}/api/price-lists?name=x", content=data, timeout=60)
                said.append(answer.text.splitlines()[-1])
            except httpx2.HTTPError as error:
                said.append(type(error).__name__)

        def ask() -> None:
            with suppress(httpx2.HTTPError):
                for _ in range(500):
                    self.get("/api/items")

        threads = [threading.Thread(target=work) for work in (upload, ask, ask, ask)]
        for one in threads:
            one.start()
        time.sleep(0.5)
        server.send_signal(signal.SIGTERM)
        server.wait(60)
        for one in threads:
            one.join()
        self.assertEqual(len(said), 1)
        assert server.stderr is not None
        self.assertNotIn("Traceback", server.stderr.read())
        self.assertFalse(self.cluster_is_up())

    def test_a_taken_port_is_said(self) -> None:
        with socket.socket() as other:
            other.bind(("127.0.0.1", self.port))
            other.listen()
            done = self.run_once("demo", "--port", str(self.port))
        self.assertEqual(done.returncode, 2)
        self.assertIn(f"something listens on port {self.port} already", done.stderr)
        self.assertFalse(self.cluster_is_up())

    def test_stopped_while_it_starts(self) -> None:
        command = [str(ROOT / "run"), "demo", "--port", str(self.port)]
        server = subprocess.Popen(command, env=self.environ, stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True)
        self.addCleanup(self.end, server)
        deadline = time.monotonic() + 60
        while not self.home.exists() and time.monotonic() < deadline:
            time.sleep(0.02)
        time.sleep(0.5)
        self.end(server)
        self.assertFalse(self.cluster_is_up())


class AnotherServer(RunTest, DatabaseTest):
    def test_the_demo_on_a_server_of_ones_own(self) -> None:
        self.environ["POTREL_DATABASE_URL"] = self.url
        server = self.start("demo")
        self.assertEqual(self.get("/api/kitchen")["recipes"], 21)
        self.end(server)
        self.assertFalse(self.home.exists())
        done = self.run_once("demo", "--fresh", "--port", str(self.port))
        self.assertEqual(done.returncode, 2)
        self.assertIn("POTREL_DATABASE_URL", done.stderr)
        self.assertNotIn(self.url, done.stderr)


# A server of which one answer never ends by itself.
_BUSY = """
import sys, time
from fastapi.routing import APIRoute
from potrel import cli
from potrel.api import app

real = app.create_app

def made(*given, **more):
    def busy():
        until = time.monotonic() + 60
        while time.monotonic() < until:
            sum(range(1000))
    one = real(*given, **more)
    one.router.routes.insert(0, APIRoute("/api/busy", busy))
    return one

app.create_app = made
sys.exit(cli.main(["start", "--port", sys.argv[1]]))
"""


class Stopping(RunTest):
    def test_it_ends_within_five_seconds_whatever_runs(self) -> None:
        server = subprocess.Popen(
            [sys.executable, "-c", _BUSY, str(self.port)], env={**self.environ, "PYTHONPATH": str(ROOT)}, cwd=ROOT,
            stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True,
        )  # fmt: skip
        self.addCleanup(self.end, server)
        assert server.stdout is not None
        server.stdout.readline()
        asked = threading.Thread(target=self.ask_in_vain, daemon=True)
        asked.start()
        time.sleep(1)
        begun = time.monotonic()
        server.send_signal(signal.SIGTERM)
        self.assertEqual(server.wait(30), 128 + signal.SIGTERM)
        # Five, and what a machine that is kept busy besides may add.
        self.assertLess(time.monotonic() - begun, 10)
        self.assertFalse(self.cluster_is_up())
        asked.join(5)

    def ask_in_vain(self) -> None:
        with contextlib.suppress(httpx2.HTTPError):
            httpx2.get(f"http://127.0.0.1:{self.port}/api/busy", timeout=60)


class OddPlaces(RunTest):
    def refused(self, *arguments: str) -> str:
        done = self.run_once(*arguments)
        self.assertEqual(done.returncode, 2, done.stderr)
        self.assertNotIn("Traceback", done.stderr)
        return done.stderr

    def test_a_home_that_is_none(self) -> None:
        self.home.write_text("a file")
        for command in (("start", "--port", str(self.port)), ("export", "x.json")):
            self.assertIn("set POTREL_HOME to a folder that can be written to", self.refused(*command))

    def test_a_backup_takes_no_odd_place_and_tells_what_it_holds(self) -> None:
        self.assertIn("is no regular file", self.refused("backup", "/dev/null"))
        self.assertIn("is no regular file", self.refused("backup", "/tmp"))
        self.assertIn("there is no folder", self.refused("backup", str(self.home / "no" / "x.backup")))
        self.assertFalse(self.home.exists(), "nothing was started for it")
        done = self.run_once("backup", str(self.home.parent / "x.backup"))
        self.assertIn("it holds New kitchen: 0 items, 0 recipes, 0 prices", done.stderr)


class InAndOut(RunTest):
    def test_export_and_import(self) -> None:
        document = ROOT / "potrel" / "demo" / "slipway-canteen.json"
        with tempfile.TemporaryDirectory() as folder:
            out = Path(folder) / "kitchen.json"
            self.assertEqual(self.run_once("import", str(document)).returncode, 0)
            self.assertEqual(self.run_once("export", str(out)).returncode, 0)
            written, original = json.loads(out.read_text()), json.loads(document.read_text())
            for offer in written["offers"]:
                del offer["id"]
            self.assertEqual(written, original)
            again = self.run_once("import", str(out))
            self.assertEqual(again.returncode, 2)
            self.assertIn("--replace", again.stderr)
            self.assertEqual(self.run_once("import", str(out), "--replace").returncode, 0)
            out.write_text("{}")
            bad = self.run_once("import", str(out), "--replace")
            self.assertEqual((bad.returncode, len(bad.stderr.strip().splitlines())), (2, 1))
        self.assertFalse(self.cluster_is_up())

    def test_help_and_unknown_commands(self) -> None:
        done = self.run_once("help")
        self.assertEqual(done.returncode, 0)
        for command in ("demo", "start", "cost", "export", "import", "backup", "restore", "test", "bench", "torture", "help"):
            self.assertIn(f"./run {command}", done.stdout)
        done = self.run_once("boil")
        self.assertEqual(done.returncode, 2)
        self.assertIn('there is no command "boil"', done.stderr)
