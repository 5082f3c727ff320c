"""Why a new price may be a slip: a point in the wrong place, a price per piece taken for that of a case, kilos for pounds."""

from __future__ import annotations

from decimal import Decimal

from potrel.core.purchase import Price, parse_pack
from potrel.core.units import GRAMS

# How far a price may move between two lists before somebody has to look. Common practice, no source.
_JUMP = Decimal(5)
_NEAR = Decimal("0.06")
_POUND_IN_KILO = 1000 / GRAMS["lb"]


def suspicions(before: Price | None, now: Price, delivered: Decimal | None = None) -> list[str]:
    """What is odd about a price beside the one it follows, each in words with what would mend it; empty where nothing is."""
    doubts: list[str] = []
    if now.offer.price == 0:
        doubts.append("its price is 0: is it a gift, or was the price left out?")
    if delivered is not None and delivered <= 0:
        doubts.append(f"{delivered} packs were delivered: is it a credit?")
    if before is None or before.per_gram is None or now.per_gram is None or before.per_gram == 0 or now.per_gram == 0:
        return doubts
    ratio = now.per_gram / before.per_gram
    counts = {parse_pack(before.offer.pack).count, parse_pack(now.offer.pack).count} - {Decimal(1)}
    for factor, words in (
        (Decimal(1000), "a thousand times the last one: grams for kilos?"),
        (Decimal(100), "a hundred times the last one: cents for whole money?"),
        (Decimal(10), "ten times the last one: is the decimal point in its place?"),
    ):
        if _near(ratio, factor):
            return [*doubts, f"it is {words}"]
        if _near(ratio, 1 / factor):
            return [*doubts, f"the last one is {words.replace('the last one', 'this one')}"]
    for count in sorted(counts):
        if count > 1 and (_near(ratio, count) or _near(ratio, 1 / count)):
            return [*doubts, f"it differs by the {count} in the pack: the price of one, or of the whole pack?"]
    if _near(ratio, _POUND_IN_KILO) or _near(ratio, 1 / _POUND_IN_KILO):
        return [*doubts, "it differs as a kilo does from a pound: is the unit right?"]
    if ratio >= _JUMP or ratio <= 1 / _JUMP:
        more, less = ("it", "the last one") if ratio > 1 else ("the last one", "this one")
        doubts.append(f"{more} is {max(ratio, 1 / ratio):.1f} times {less}")
    return doubts


def _near(ratio: Decimal, factor: Decimal) -> bool:
    return abs(ratio - factor) <= _NEAR * factor
