"""The short form of `./run torture`: each trial a few times over."""

from __future__ import annotations

import random
import tempfile
import unittest
from pathlib import Path

from potrel.postgres import quick_folder
from tests.torture.hands import merges, pages, papers, rounds
from tests.torture.server import Victim
from tests.torture.trials import Trial, files, filled, kills, origins, values

_SHORT: tuple[tuple[Trial, int], ...] = (
    (kills, 1), (files, 20), (pages, 10), (values, 30), (merges, 1), (rounds, 1), (papers, 1), (origins, 20),
)  # fmt: skip


class Torture(unittest.TestCase):
    def test_nothing_comes_of_it_that_should_not(self) -> None:
        with tempfile.TemporaryDirectory(prefix="potrel-torture-", dir=quick_folder()) as folder:
            Path(folder).chmod(0o755)
            victim = Victim(Path(folder) / "home")
            filled(victim)
            victim.start()
            try:
                for trial, times in _SHORT:
                    for one in trial(victim, times.__le__, random.Random(5)):
                        with self.subTest(one.what):
                            self.assertGreater(one.tried, 0)
                            self.assertEqual(one.wrong, 0, one.said)
            finally:
                victim.stop()
