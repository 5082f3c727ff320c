"""Tries slips of the sample in the copy of the code in which it runs, a process each; prints what goes unnoticed."""

from __future__ import annotations

import atexit
import compileall
import importlib
import io
import os
import sys
import unittest
from collections.abc import Iterator
from pathlib import Path

from hypothesis import Phase, settings

from tests.examples import drawn
from tests.mutations.sample import SAMPLE, Slip

# Loaded once, before any process is split off; nothing of the code under trial is.
_LIBRARIES = ("numpy", "pydantic", "scipy.special", "graphlib", "statistics")


_HERE = Path(__file__).parents[2]
# One slip of so many is tried by `./run test`, by what it is and by the code and the tests that it is about.
_AMONG = 6


def misplaced(slip: Slip) -> str | None:
    """What is wrong with a slip that cannot be made in the code as it is."""
    times = (_HERE / "potrel" / slip.file).read_text().count(slip.was)
    return None if times == 1 else f"{slip.name}: {slip.file} has it {times} times, not once: {slip.was}"


def is_tried(slip: Slip) -> bool:
    """Whether this run tries a slip."""
    parts = slip.noticed_by.split(".")
    files = (_HERE.joinpath(*parts[:end]).with_suffix(".py") for end in range(len(parts), 0, -1))
    tests = next((file.read_text() for file in files if file.exists()), "")
    return drawn(_AMONG, *slip, (_HERE / "potrel" / slip.file).read_text(), tests)


def noticed(slip: Slip) -> str | None:
    """None where the tests fail for a slip; else what is wrong with it."""
    file = Path("potrel") / slip.file
    code = file.read_text()
    file.write_text(code.replace(slip.was, slip.becomes))
    try:
        child = os.fork()
        if child == 0:
            found = _run(slip.noticed_by)
            # A server of its own ends with it.
            atexit._run_exitfuncs()
            os._exit(found)
        _, status = os.waitpid(child, 0)
    finally:
        file.write_text(code)
    return {0: f"{slip.name}: nobody noticed", 2: f"{slip.name}: {slip.noticed_by} cannot be loaded"}.get(
        os.waitstatus_to_exitcode(status)
    )


def _run(names: str) -> int:
    """Run tests until the first that fails; 0 where all pass, 1 where one fails, 2 where they cannot be loaded."""
    suite = unittest.TestLoader().loadTestsFromName(names)
    if "_FailedTest" in repr(suite):
        return 2
    # The first that fails is enough, and what is tried on one example is tried sooner than what is tried on many.
    tests = sorted(_each(suite), key=_is_on_many)
    return int(not unittest.TextTestRunner(io.StringIO(), failfast=True).run(unittest.TestSuite(tests)).wasSuccessful())


def _each(suite: unittest.TestSuite) -> Iterator[unittest.TestCase]:
    for one in suite:
        if isinstance(one, unittest.TestSuite):
            yield from _each(one)
        else:
            yield one


def _is_on_many(test: unittest.TestCase) -> bool:
    return hasattr(getattr(test, test.id().rpartition(".")[2]), "is_hypothesis_test")


def main(share: int, shares: int) -> None:
    """Try every so many of the slips that this run tries, beginning at one."""
    compileall.compile_dir(".", quiet=2)
    for name in _LIBRARIES:
        importlib.import_module(name)
    # That a slip is noticed is enough: no smaller example of it is looked for.
    settings.register_profile("trial", phases=(Phase.explicit, Phase.generate), derandomize=True, database=None)
    settings.load_profile("trial")
    # A file that was changed and changed back within a second must not leave what was compiled between behind.
    sys.dont_write_bytecode = True
    for slip in [slip for slip in SAMPLE if is_tried(slip)][share::shares]:
        missed = noticed(slip)
        if missed is not None:
            print(missed, flush=True)


if __name__ == "__main__":
    main(int(sys.argv[1]), int(sys.argv[2]))
