"""What of an item is no water: by its composition, else as its kind is."""

from __future__ import annotations

from decimal import Decimal

from potrel.core.kitchen.items import Item
from potrel.core.kitchen.kinds import ONE, ZERO

# What is poured counts whole.
LIQUIDS = frozenset({"water", "stock", "wine"})
# The dry matter of a kind [share], where the composition of an item does not tell it. Common practice, no source.
_DRY = {
    kind: Decimal(share)
    for kind, share in {
        "vegetable": "0.1", "root": "0.15", "allium": "0.1", "fruit": "0.15", "herb": "0.15", "meat": "0.32", "bones": "0.6",
        "fish": "0.25", "dairy": "0.12", "pulse": "0.88", "can": "0.25", "dry goods": "0.88", "nut": "0.95", "spice": "0.9",
        "sauce": "0.3", "fat": "1", "bread": "0.6", "packaging": "1",
    }.items()
}  # fmt: skip
_OTHER = Decimal("0.1")
_PARTS = ("salt_g", "fat_g", "carbohydrate_g", "protein_g", "fibre_g")


def dry_share(item: Item) -> Decimal:
    """What of an item is no water [share]: by its composition where that is whole, else as its kind; of liquids nothing."""
    if item.kind in LIQUIDS:
        return ZERO
    parts = [getattr(item.composition, name) for name in _PARTS]
    if all(one is not None for one in parts):
        return min(sum(parts, ZERO) / 100, ONE)
    return _DRY.get(item.kind, _OTHER)
