"""The terms of a school of pricing as numbers of a working."""

from __future__ import annotations

from potrel.core.cost.pricing import TERMS
from potrel.core.kitchen.pricing import Pricing
from potrel.core.tell.figures import Input

_LABELS = {
    "share": "target share",
    "factor": "factor",
    "amount": "wanted contribution",
    "overhead_share": "overhead share",
    "profit_share": "profit share",
}
_UNITS = {"factor": "", "amount": "money"}


def terms_of_school(pricing: Pricing, source: str) -> dict[str, Input]:
    """The terms of a pricing, by the names under which its school's formula takes them."""
    return {
        TERMS[key]: Input(label, getattr(pricing, key), _UNITS.get(key, "share"), source)
        for key, label in _LABELS.items()
        if getattr(pricing, key) is not None
    }
