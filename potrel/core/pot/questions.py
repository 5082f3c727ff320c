"""What a pot asks of a cook: what nobody has said yet, and what its figures hang on.

Nothing is taken silently: a question stands until it is answered, and says what is taken meanwhile.
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from decimal import Decimal

from potrel.core.errors import Caveat, caveat
from potrel.core.kitchen.bones import BONES, is_bones
from potrel.core.kitchen.methods import family_of, method_called
from potrel.core.kitchen.naming import words_in
from potrel.core.kitchen.recipes import Recipe, Stage
from potrel.core.numbers.arithmetic import surely
from potrel.core.pot.day_view import DayView
from potrel.core.pot.line_mass import LineMass, bones_in
from potrel.core.sentences import say

# [min] So long a simmer without a lid loses more than anybody would leave out. Common practice, no source.
LONG = Decimal(60)
# [min] So long nothing is in a hot pan or oven without losing water. Common practice, no source.
_A_WHILE = Decimal(10)
_TOPPED_UP = re.compile(r"\b(?:top(?:ped)?|fill(?:ed)?)(?: it)? up\b", re.IGNORECASE)
_SIEVED = frozenset({"strain", "strained", "straining", "sieve", "sieved", "pass", "passed"})


def steam_untold(stage: Stage) -> bool:
    """Whether a stage steams long in the open, and nobody said what goes up."""
    # In the order in which most stages are told to be none, as every pot of a large kitchen is asked.
    if stage.change.rule != "keep" or stage.came_out is not None:
        return False
    if stage.minutes is None:
        # How hot, and not how long: it is cooked, and nobody knows what that takes.
        if stage.heat is None and stage.temperature_c is None:
            return False
    elif stage.minutes < LONG:
        return False
    return stage.lid not in ("on", "sealed") and family_of(stage.method) == "wet" and _called(stage) != "pressure"


def reduced_untold(stage: Stage) -> bool:
    """Whether a stage is reduced, and nobody said how far."""
    return stage.change.rule == "keep" and stage.came_out is None and _called(stage) == "reduce"


def _called(stage: Stage) -> str:
    found = None if stage.method is None else method_called(stage.method)
    return "" if found is None else found.id


def browned_untold(stage: Stage) -> bool:
    """Whether what comes from an earlier stage is browned or roasted on, and nobody said what goes up of it.

    What a line loses is told by its own cooking, in the stage into which it goes.
    """
    if stage.change.rule != "keep" or stage.came_out is not None or stage.lines or not stage.from_:
        return False
    return stage.minutes is not None and stage.minutes >= _A_WHILE and family_of(stage.method) in ("dry", "oven")


def topped_untold(stage: Stage) -> bool:
    """Whether a stage is topped up, as it is called, and nobody said to what, nor put anything in."""
    if stage.change.rule != "keep" or stage.came_out is not None or stage.lines:
        return False
    return _TOPPED_UP.search(stage.name or "") is not None


def loss_untold(stage: Stage) -> bool:
    """Whether something must go up in a stage of which nobody said how much."""
    return steam_untold(stage) or reduced_untold(stage) or browned_untold(stage)


def questions(recipe: Recipe, lines: Sequence[LineMass], view: DayView) -> Iterator[Caveat]:
    """What a pot asks, stage by stage. The same for a kitchen of decimals and for draws."""
    for stage in recipe.stages:
        ticked = [out.name for out in stage.take_out if out.assumed] if stage.take_out else None
        if ticked:
            yield _asked("sieve", f"what stays in the sieve? Taken so far: {', '.join(ticked)}", stage)
        if not stage.take_out and (stage.method or "").lower() == "skim":
            yield _asked("skimmed", "how much is skimmed or poured off? Nothing is taken off: say what it weighs", stage)
        if steam_untold(stage):
            words = "how long is it cooked" if stage.minutes is None else "how does it steam"
            yield _asked("steam", f"{words}? Nothing is taken off: say it, or what is left", stage)
        if browned_untold(stage):
            yield _asked("browned", "what is left of it? Nothing is taken off: say the share, or weigh it", stage)
        if topped_untold(stage):
            yield _asked("topped", "to what is it topped up? Nothing is added: say so, or let it go", stage)
        if reduced_untold(stage):
            yield _asked("reduced", "how far is it reduced? Nothing is taken off: say to what, or by how much", stage)
        if not stage.take_out and is_strained(stage) and stage.residue == 0:
            yield _asked("sieve", "what stays in the sieve? Nothing is taken off: say it", stage)
    bony = view.bony()
    in_pot = [line for line in lines if line.item in bony and _has_bones(line, view)]
    # What is roasted for another pot is no soup yet.
    if not in_pot or not any(family_of(stage.method) == "wet" for stage in recipe.stages):
        return
    taken = {one for out in recipe.take_outs() for one in out.of}
    named = any(word.stem in BONES for out in recipe.take_outs() for word in words_in(out.name))
    still = [line for line in in_pot if line.id not in taken]
    if not still or named:
        return
    if not any(is_strained(stage) for stage in recipe.stages):
        names = " and ".join(dict.fromkeys(view.name_of(line.item) for line in still))
        yield _asked("bones", f"when do the {names} come out? They count in the pot: portions are at most what is told", None)


def _has_bones(line: LineMass, view: DayView) -> bool:
    """Whether a line of something with bones still has them: no preparation took them off."""
    item = view.items[line.item or ""]
    return is_bones(item) or surely(bones_in(line, view) > 0)


def is_strained(stage: Stage) -> bool:
    """Whether a stage is poured through a sieve; to skim is another thing."""
    return stage.method is not None and stage.method.lower() in _SIEVED


def _asked(about: str, question: str, stage: Stage | None) -> Caveat:
    """A question; `about` tells screens what it is about."""
    return caveat(say("asked", "to answer: {question}", question=question, about=about), None if stage is None else stage.id)
