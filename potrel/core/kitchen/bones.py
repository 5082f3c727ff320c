"""What of a kitchen's items is bone, shell or carcass, or holds some: it is no part of what is eaten."""

from __future__ import annotations

from functools import lru_cache

from potrel.core.kitchen.items import Item
from potrel.core.kitchen.naming import words_in

BONES = frozenset({"bone", "carcass", "carcase", "frame"})


def is_bones(item: Item) -> bool:
    """Whether an item is bones, a carcass or shells: by its kind, or by what it is called."""
    return item.kind == "bones" or (item.kind == "other" and _called_bones(item.name))


@lru_cache(4096)
def _called_bones(name: str) -> bool:
    words = words_in(name.partition(",")[0])
    return bool(words) and words[-1].stem in BONES
