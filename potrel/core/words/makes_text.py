"""What a written recipe says it makes and serves: "Makes 6 l", "Yield: 1 gal", "Serves 6", "20 portions of 250 ml".

Common practice of writing recipes, no source.
"""

from __future__ import annotations

import re
from collections.abc import Iterable
from decimal import Decimal

from potrel.core.errors import BadQuantity
from potrel.core.frozen import dataclass
from potrel.core.kitchen.kinds import ZERO
from potrel.core.kitchen.quantities import Quantity, parse_quantity, read_range
from potrel.core.words.method_text import BULK_UNIT, NUMBER

_RANGE = rf"(?:{NUMBER})(?:\s*(?:-|–|to|or)\s*(?:{NUMBER}))?"
_ABOUT = r"(?:about|approx(?:imately)?\.?|around|roughly|some|ca\.?|c\.)?\s*"
_SERVED = r"(?:portions?|servings?|serves|bowls?|people|persons?|guests|covers|starters?|mains?|cups of soup)"
# Behind the portions stands how large they are, or for what; "2 portions mashed potato" is a line.
_ENDS = r"(?=\s*(?:$|[,.;(]|(?:of|at|à|x|×)\s+(?:about )?[0-9]|as\b|for\b|each\b))"
_YIELDS = rf"(?:makes|yields?|gives|produces|batch(?: yield| size)?|quantity)\b[:\s]*{_ABOUT}"
_MUCH = re.compile(rf"^(?:{_YIELDS}|(?:about|approx(?:imately)?\.?|ca\.?)\s+)(?P<so>{_RANGE}\s*{BULK_UNIT})\b", re.IGNORECASE)
_MANY = re.compile(
    rf"^(?:(?:serves|feeds|for|portions?|servings?)\b[:\s]*(?:a |an )?{_ABOUT}(?P<n>{_RANGE})\b(?!\s*(?:min|h))"
    rf"|(?:{_YIELDS}|{_ABOUT})(?P<n2>{_RANGE})\s*(?:[a-z]+ )?{_SERVED}{_ENDS}"
    # "Makes 37 take-away cups of 300 ml", "Makes 12".
    rf"|{_YIELDS}(?P<n3>{_RANGE})(?=\s+[\w -]{{1,60}}\s(?:of|at)\s+{NUMBER}\s*{BULK_UNIT}\b|\s*$))",
    re.IGNORECASE,
)
# "Portions of 350 ml", "Serving size: 12 fl oz": how large each is, and not how many there are.
_SIZED = re.compile(
    rf"^(?:portions?|servings?)\b(?: size)?[:\s]*(?:of |at )?\s*{_ABOUT}(?P<size>(?:{NUMBER})\s*{BULK_UNIT})\b(?: each)?\W*$",
    re.IGNORECASE,
)
_LONGEST = 120
# What it makes, in whatever it is counted: "Makes 2 loaves" is no line of a pot.
_YIELD = re.compile(rf"^{_YIELDS}[0-9]", re.IGNORECASE)
_EACH = re.compile(
    rf"\b(?:of|at|à|a|x|×|each)\s+{_ABOUT}(?P<size>(?:{NUMBER})\s*{BULK_UNIT})\b|\((?P<size2>(?:{NUMBER})\s*{BULK_UNIT})",
    re.IGNORECASE,
)


@dataclass(frozen=True, slots=True)
class Makes:
    """What a text says a batch makes, how many portions that is, and how large each is; None where it does not say."""

    batch: Quantity | None = None
    portions: Decimal | None = None
    size: Quantity | None = None


def is_what_it_makes(row: str) -> bool:
    """Whether a row says what a recipe makes or serves.

    >>> [is_what_it_makes(row) for row in ("Serves 6", "about 6 l", "Yield: 4 gal", "6 l water", "For the roast:", "For 20")]
    [True, True, True, False, False, True]
    """
    return len(row) <= _LONGEST and any(one.match(row) for one in (_MUCH, _MANY, _YIELD, _SIZED))


def read_makes(rows: Iterable[str]) -> Makes:
    """What some rows say; the first of each that is said.

    >>> made = read_makes(["Makes about 6 l", "20 portions of 250 ml"])
    >>> str(made.batch), made.portions, str(made.size)
    ('6 l', Decimal('20'), '250 ml')
    >>> read_makes(["Makes 37 Take-away cup of 300 ml"]).portions
    Decimal('37')
    >>> made = read_makes(["Portions of 350 ml"])
    >>> made.portions, str(made.size)
    (None, '350 ml')
    >>> [str(read_makes([row]).size) for row in ("Serving size: 12 fl oz", "20 portions of 8 fl. oz", "Serves 6 at 12 oz")]
    ['12 fl oz', '8 fl. oz', '12 oz']
    """
    batch: Quantity | None = None
    portions: Decimal | None = None
    size: Quantity | None = None
    for row in rows:
        sized = _SIZED.match(row)
        if sized is not None:
            size = size or _quantity(sized["size"])
            continue
        much, many, each = _MUCH.match(row), _MANY.match(row), _EACH.search(row)
        if batch is None and much is not None:
            batch = _quantity(much["so"])
        if portions is None and many is not None:
            portions = _count(many["n"] or many["n2"] or many["n3"])
        if size is None and many is not None and each is not None:
            size = _quantity(each["size"] or each["size2"])
    return Makes(batch, portions, size)


def _quantity(text: str) -> Quantity | None:
    """A quantity; of a range its middle. None where it is none, or nothing."""
    try:
        found = parse_quantity(text)
    except BadQuantity:
        return None
    return found if found.amount > 0 else None


def _count(text: str) -> Decimal | None:
    try:
        count = read_range(text)[0]
    except BadQuantity:
        return None
    return count if count > ZERO else None
