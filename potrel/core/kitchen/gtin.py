"""The Global Trade Item Number (GTIN) on packs, in its lengths of 8, 12, 13 and 14 digits."""

from __future__ import annotations

import re


def check_digit_fits(gtin: str) -> bool:
    """Whether the last digit follows from the others: weights 3 and 1 in turn from the right, modulo 10.

    Source: GS1 General Specifications, section on check digit calculations; value from memory.

    >>> check_digit_fits("4006381333931"), check_digit_fits("4006381333930")
    (True, False)
    """
    if not re.fullmatch(r"[0-9]{8}|[0-9]{12,14}", gtin):
        return False
    *body, last = map(int, gtin)
    total = sum(digit * (3 if place % 2 == 0 else 1) for place, digit in enumerate(reversed(body)))
    return (total + last) % 10 == 0
