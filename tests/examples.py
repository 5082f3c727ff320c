"""How many random examples a property is tried on: few in `./run test`, which all wait for; many in `./run torture`."""

from __future__ import annotations

import os

from hypothesis import settings

# Told by `./run torture`, to itself and to what it starts.
MANY = "POTREL_MANY_EXAMPLES"
_FEW = 3
settings.register_profile("few", max_examples=35, deadline=None)
settings.register_profile("many", max_examples=400, deadline=None)


def is_many() -> bool:
    """Whether this run has the time for many examples."""
    return bool(os.environ.get(MANY))


def load() -> None:
    """Take the examples of this run as the usual ones."""
    settings.load_profile("many" if is_many() else "few")


def examples(count: int) -> int:
    """How many examples are tried of so many: a third of them, or, by `./run torture`, four times as many."""
    return count * 4 if is_many() else max(12, count // _FEW)
