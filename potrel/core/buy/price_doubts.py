"""Why a new price may be a slip: a point in the wrong place, a price per piece taken for that of a case, kilos for pounds."""

from __future__ import annotations

from decimal import Decimal

from potrel.core.buy.purchase import Price, of_one
from potrel.core.numbers.units import GRAMS
from potrel.core.sentences import Sentence, say

# How far a price may move between two lists before somebody has to look. Common practice, no source.
_JUMP = Decimal(5)
_NEAR = Decimal("0.06")
_POUND_IN_KILO = 1000 / GRAMS["lb"]


def price_doubts(before: Price | None, now: Price, delivered: Decimal | None = None) -> list[Sentence]:
    """What is odd about a price beside the one it follows, each with what would mend it; empty where nothing is."""
    doubts: list[Sentence] = []
    if now.offer.price == 0:
        doubts.append(say("price_of_0", "its price is 0: is it a gift, or was the price left out?"))
    if delivered is not None and delivered <= 0:
        doubts.append(say("none_delivered", "{packs} packs were delivered: is it a credit?", packs=delivered))
    was, is_now = _alike(before, now)
    if not was or not is_now:
        return doubts
    ratio = is_now / was
    jump = _slip(ratio, _counts(before, now)) or _jump(ratio)
    return doubts if jump is None else [*doubts, jump]


def _alike(before: Price | None, now: Price) -> tuple[Decimal | None, Decimal | None]:
    """Two prices per gram; else per piece, where both packs are so many of the same."""
    if before is None or before.per_gram is not None or now.per_gram is not None:
        return None if before is None else before.per_gram, now.per_gram
    if before.per_piece is None or before.offer.pack.inner.unit != now.offer.pack.inner.unit:
        return None, None
    return before.per_piece, of_one(now.offer)


def _counts(before: Price | None, now: Price) -> list[Decimal]:
    """How many are in a pack, where it is more than one: a price may be that of one of them."""
    return sorted({price.offer.pack.count for price in (before, now) if price is not None and price.offer.pack.count > 1})


def _slip(ratio: Decimal, counts: list[Decimal]) -> Sentence | None:
    """A slip that explains how far a price has moved; None where none does."""
    for factor, words in (
        (Decimal(1000), "a thousand times {other}: grams for kilos?"),
        (Decimal(100), "a hundred times {other}: cents for whole money?"),
        (Decimal(10), "ten times {other}: is the decimal point in its place?"),
    ):
        if _near(ratio, factor):
            return say(f"dearer_by_{factor}", f"it is {words}", other="the last one")
        if _near(ratio, 1 / factor):
            return say(f"cheaper_by_{factor}", f"the last one is {words}", other="this one")
    for count in counts:
        if _near(ratio, count) or _near(ratio, 1 / count):
            return say(
                "by_the_count", "it differs by the {count} in the pack: the price of one, or of the whole pack?", count=count
            )
    if _near(ratio, _POUND_IN_KILO) or _near(ratio, 1 / _POUND_IN_KILO):
        return say("pound_or_kilo", "it differs as a kilo does from a pound: is the unit right?")
    return None


def _jump(ratio: Decimal) -> Sentence | None:
    if ratio >= _JUMP:
        return say("much_dearer", "it is {times} times the last one", times=f"{ratio:.1f}")
    if ratio <= 1 / _JUMP:
        return say("much_cheaper", "the last one is {times} times this one", times=f"{1 / ratio:.1f}")
    return None


def _near(ratio: Decimal, factor: Decimal) -> bool:
    return abs(ratio - factor) <= _NEAR * factor
