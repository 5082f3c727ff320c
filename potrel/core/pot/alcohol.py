"""What is left of alcohol that was heated: by how long, and no more than of the liquid. Never called free of it."""

from __future__ import annotations

from decimal import Decimal
from itertools import pairwise

from potrel.core.frozen import dataclass
from potrel.core.kitchen.kinds import ONE, ZERO
from potrel.core.numbers.arithmetic import Number, smaller

# USDA Table of Nutrient Retention Factors, release 6 (2007), value from memory: [min] and the share that is kept, stirred in
# and simmered; at 0 min, added to boiling liquid off the heat.
RETAINED: tuple[tuple[Decimal, Decimal], ...] = tuple(
    (Decimal(minutes), Decimal(share))
    for minutes, share in (
        ("0", "0.85"), ("15", "0.40"), ("30", "0.35"), ("60", "0.25"), ("90", "0.20"), ("120", "0.10"), ("150", "0.05"),
    )
)  # fmt: skip
# The same table.
FLAMED = Decimal("0.75")


@dataclass(frozen=True, slots=True)
class Spirit:
    """Alcohol that went into a pot [g], and what happened to it since: how long it was heated [min], whether it was flamed.

    Where it was heated and nobody says for how long, `timed` is false. `liquid` is the share of the pot's liquid that is left
    since; `counted` the share whose energy is counted where it is told.
    """

    grams: Number
    minutes: Decimal = ZERO
    heated: bool = False
    flamed: bool = False
    timed: bool = True
    liquid: Number = ONE
    counted: Number = ONE

    @property
    def kept(self) -> Number:
        """The share that is left: it goes before the water does, so it never grows stronger by boiling."""
        share = retained(self.minutes) if self.heated else ONE
        return smaller(min(share, FLAMED) if self.flamed else share, self.liquid)

    @property
    def gone(self) -> Number:
        """What went [g] of that whose energy is counted."""
        return self.grams * (self.counted - self.kept)


def retained(minutes: Decimal) -> Decimal:
    """The share of alcohol that is kept when it was heated for so long [min], straight from row to row of the table.

    >>> retained(Decimal(15)), retained(Decimal("7.5")), retained(Decimal(400))
    (Decimal('0.40'), Decimal('0.625'), Decimal('0.05'))
    """
    for (before, more), (after, less) in pairwise(RETAINED):
        if minutes <= after:
            return more if minutes <= before else more + (less - more) * (minutes - before) / (after - before)
    return RETAINED[-1][1]
