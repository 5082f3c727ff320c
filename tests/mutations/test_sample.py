"""The tests are tried too: each slip of the sample, made in a copy of the core, fails them."""

from __future__ import annotations

import shutil
import subprocess
import sys
import tempfile
import unittest
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from tests.generated import ROOT
from tests.mutations.sample import SAMPLE

_AT_ONCE = 2


def tried(folder: Path, share: int) -> list[str]:
    """What went unnoticed of every so many slips of the sample, tried in a copy of the code."""
    for name in ("potrel", "tests"):
        shutil.copytree(ROOT / name, folder / name, ignore=shutil.ignore_patterns("__pycache__", "screenshots"))
    command = [sys.executable, "-m", "tests.mutations.trial", str(share), str(_AT_ONCE)]
    done = subprocess.run(command, cwd=folder, env={"PYTHONPATH": str(folder)}, capture_output=True, text=True, check=False)
    return done.stdout.splitlines() if done.returncode == 0 else [done.stderr[-2000:]]


class Sample(unittest.TestCase):
    def test_every_slip_is_noticed(self) -> None:
        self.assertGreaterEqual(len(SAMPLE), 30)
        with tempfile.TemporaryDirectory(prefix="potrel-slips-") as place, ThreadPoolExecutor(_AT_ONCE) as pool:
            found = pool.map(lambda share: tried(Path(place) / str(share), share), range(_AT_ONCE))
            self.assertEqual([line for lines in found for line in lines], [])
