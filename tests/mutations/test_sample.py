"""The tests are tried too: each slip of the samples, made in a copy of the code, fails them.

`./run test` tries a part of the slips in Python, drawn anew with whatever changes, `./run torture` all of them.
"""

from __future__ import annotations

import os
import shutil
import subprocess
import sys
import tempfile
import unittest
from collections import Counter
from collections.abc import Sequence
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from tests.examples import MANY
from tests.generated import ROOT
from tests.mutations.sample import SAMPLE, Slip
from tests.mutations.trial import is_tried, misplaced
from tests.mutations.web_sample import WEB_SAMPLE
from tests.mutations.web_trial import unnoticed

_AT_ONCE = 2


def tried(folder: Path, share: int) -> list[str]:
    """What went unnoticed of every so many slips of the sample, tried in a copy of the code."""
    for name in ("potrel", "tests"):
        shutil.copytree(ROOT / name, folder / name, ignore=shutil.ignore_patterns("__pycache__", "screenshots"))
    command = [sys.executable, "-m", "tests.mutations.trial", str(share), str(_AT_ONCE)]
    env = {name: value for name in ("PATH", MANY) if (value := os.environ.get(name)) is not None}
    done = subprocess.run(
        command, cwd=folder, env={**env, "PYTHONPATH": str(folder)}, capture_output=True, text=True, check=False
    )
    return done.stdout.splitlines() if done.returncode == 0 else [done.stderr[-2000:]]


def tell(kind: str, slips: Sequence[Slip], missed: Sequence[str]) -> None:
    """Say what share of the slips was seen, by the part of the house in which they were made."""
    seen = [slip for slip in slips if not any(line.startswith(f"{slip.name}:") for line in missed)]
    made, noticed = (Counter(slip.file.split("/")[0] for slip in some) for some in (slips, seen))
    parts = ", ".join(f"{part} {noticed[part]} of {number}" for part, number in made.items())
    print(f"slips seen {kind}: {len(seen)} of {len(slips)} tried ({parts})", flush=True)


class Sample(unittest.TestCase):
    def test_every_slip_can_be_made(self) -> None:
        self.assertEqual([wrong for slip in SAMPLE if (wrong := misplaced(slip)) is not None], [])

    def test_every_slip_is_noticed(self) -> None:
        with tempfile.TemporaryDirectory(prefix="potrel-slips-") as place, ThreadPoolExecutor(_AT_ONCE) as pool:
            found = pool.map(lambda share: tried(Path(place) / str(share), share), range(_AT_ONCE))
            missed = [line for lines in found for line in lines]
        tell("by the tests in Python", tuple(filter(is_tried, SAMPLE)), missed)
        self.assertEqual(missed, [])

    def test_every_slip_of_the_front_end_is_noticed(self) -> None:
        with tempfile.TemporaryDirectory(prefix="potrel-slips-") as place:
            missed = unnoticed(WEB_SAMPLE, Path(place))
        tell("by the front end's own", WEB_SAMPLE, missed)
        self.assertEqual(missed, [])
