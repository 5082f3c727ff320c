"""Servings that a change took past their target food cost: marked until somebody has looked."""

from __future__ import annotations

from collections.abc import Iterable

from potrel.core.cost.effects import Effect
from potrel.core.numbers.rounding import exceeds


def pushed_past(effects: Iterable[Effect]) -> list[tuple[str, str]]:
    """The servings (recipe, serving) that a change took past their target food cost."""
    return [
        (one.recipe, one.serving)
        for one in effects
        if one.share_was is not None and one.share_now is not None and one.target is not None
        if not exceeds(one.share_was, one.target) and exceeds(one.share_now, one.target)
    ]
