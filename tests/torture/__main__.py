"""`./run torture --minutes N`: every trial for its share of the time; one table at the end."""

from __future__ import annotations

import argparse
import random
import sys
import tempfile
import time
from pathlib import Path

from tests.torture.hands import merges, pages, papers, properties, restores, rounds
from tests.torture.server import Victim
from tests.torture.trials import Outcome, Trial, files, filled, kills, memory, origins, values

# Each with its share of the time.
_TRIALS: tuple[tuple[Trial, float], ...] = (
    (kills, 0.20), (files, 0.10), (pages, 0.10), (values, 0.20), (restores, 0.10), (merges, 0.03), (rounds, 0.04),
    (papers, 0.03), (origins, 0.03), (memory, 0.07), (properties, 0.10),
)  # fmt: skip


def torture(minutes: float, seed: int) -> list[Outcome]:
    """Run every trial for its share of some minutes; prints what came of each."""
    found: list[Outcome] = []
    with tempfile.TemporaryDirectory(prefix="potrel-torture-") as folder:
        Path(folder).chmod(0o755)
        victim = Victim(Path(folder) / "home")
        filled(victim)
        victim.start()
        try:
            for trial, share in _TRIALS:
                until = time.monotonic() + minutes * 60 * share
                for one in trial(victim, lambda done, until=until: done > 0 and time.monotonic() > until, random.Random(seed)):  # type: ignore[misc]
                    found.append(one)
                    print(f"  {one.what:56} {one.wrong:6} of {one.tried:6}   {one.said}", flush=True)
        finally:
            victim.stop()
    return found


def main() -> int:
    """Read the arguments, and torture."""
    parser = argparse.ArgumentParser(prog="./run torture", description="Hard use on purpose, and what came of it.")
    parser.add_argument("--minutes", type=float, default=10)
    parser.add_argument("--seed", type=int, default=1)
    args = parser.parse_args()
    print(f"hard use for {args.minutes:g} minutes; on the left, what should not have happened")
    found = torture(args.minutes, args.seed)
    wrong = sum(one.wrong for one in found)
    print("nothing that should not have happened" if wrong == 0 else f"{wrong} times something that should not have happened")
    return int(wrong > 0)


if __name__ == "__main__":
    sys.exit(main())
