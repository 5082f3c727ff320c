"""Tells Python's collector of garbage that a kitchen is kept for long, so that it is not looked through again and again."""

from __future__ import annotations

import gc
from collections.abc import Iterator
from contextlib import contextmanager

# A costing of 2,000 recipes makes some 100,000 small objects, none of them in a circle. With the usual 700 the collector
# looks through all of them a hundred times on the way, which takes as long as the costing itself.
_YOUNG = 50_000


@contextmanager
def made_for_long() -> Iterator[None]:
    """Leave what the block makes out of all later collections, and collect less often from now on."""
    gc.set_threshold(_YOUNG, 20, 20)
    gc.disable()
    try:
        yield
    finally:
        gc.freeze()
        gc.enable()
