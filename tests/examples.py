"""How much is tried at random: little in `./run test`, which all wait for; much in `./run torture`."""

from __future__ import annotations

import hashlib
import os

from hypothesis import settings

# Told by `./run torture`, to itself and to what it starts.
MANY = "POTREL_MANY_EXAMPLES"
_FEW = 4
settings.register_profile("few", max_examples=25, deadline=None)
settings.register_profile("many", max_examples=400, deadline=None)


def is_many() -> bool:
    """Whether this run has the time for many examples."""
    return bool(os.environ.get(MANY))


def load() -> None:
    """Take the examples of this run as the usual ones."""
    settings.load_profile("many" if is_many() else "few")


def examples(count: int) -> int:
    """How many examples are tried of so many: a quarter of them, or, by `./run torture`, four times as many."""
    return count * 4 if is_many() else max(10, count // _FEW)


def drawn(among: int, *texts: str) -> bool:
    """Whether something is among the part that this run tries, one in so many; by `./run torture` all of it is.

    Drawn by some texts, such as the code that is tried: one state is tried alike each time, and what changed is drawn anew.
    """
    digest = hashlib.sha256("\0".join(texts).encode()).digest()
    return is_many() or int.from_bytes(digest[:8]) % among == 0
