"""What bones, meat and fish give to the liquor that they are boiled in, and leave there when they are taken out.

Of their protein a stock takes some as gelatine and juice, of their fat what melts and is not skimmed; the rest goes out with
them. Common practice, no source; it comes near what USDA SR Legacy has of home-made stocks, some 2 g of protein and up to
1.2 g of fat in 100 g (value from memory).
"""

from __future__ import annotations

from collections.abc import Mapping
from decimal import Decimal

from potrel.core.kitchen.composition import FACTORS
from potrel.core.numbers.arithmetic import smaller, total
from potrel.core.pot.day_view import DayView
from potrel.core.pot.held import Held

# Of these kinds a thing gives; vegetables leave with what their mass leaves.
GIVES = frozenset({"meat", "bones", "fish"})
# The share of each that stays in the liquor; it may be half of that, or twice as much.
GIVEN: Mapping[str, Decimal] = {
    "protein_g": Decimal("0.12"), "fat_g": Decimal("0.1"), "saturates_g": Decimal("0.1"),
}  # fmt: skip
HOW_MUCH = (
    f"{GIVEN['protein_g']:.0%} of their protein, {GIVEN['fat_g']:.0%} of their fat; half of that, or twice as much"
    " (common practice)"
)
_ENERGY = "energy_kcal"


def given_to_liquor(held: Held, view: DayView) -> Held:
    """What of so much stays in the liquor. What of it nobody knows, nobody knows of the liquor."""
    amounts = {name: held.amounts[name] * view.number(share) for name, share in GIVEN.items() if name in held.amounts}
    if not amounts and not held.lacks:
        return Held({})
    lacks = {name: items for name, items in held.lacks.items() if name in GIVEN}
    if lacks.keys() & FACTORS.keys():
        lacks[_ENERGY] = frozenset().union(*(lacks[name] for name in lacks.keys() & FACTORS.keys()))
    energy = view.zero + total([amounts[name] * factor for name, factor in FACTORS.items() if name in amounts])
    # No more than they have: a label may tell less than its parts come to.
    amounts[_ENERGY] = smaller(energy, held.amounts.get(_ENERGY, energy))
    return Held(amounts, lacks)
