"""Which column of a supplier's table means what: told by its head, or as it was mapped before."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Mapping
from functools import cache
from typing import get_args

from potrel.core.buy.pack_text import price_and_per
from potrel.core.buy.price_list import Meaning
from potrel.core.tables import table
from potrel.formats.tables import Rows

_LOOKED_AT = 25
_LIST_PRICES = frozenset({
    "list price", "listenpreis", "bruttopreis", "gross price", "prix catalogue", "prix brut", "prix tarif", "rrp",
    "katalogpreis", "tarifa", "precio tarifa", "prezzo di listino", "listino", "catalogusprijs", "bruto prijs",
    "cena katalogowa",
})  # fmt: skip
# ISO 4217, those that suppliers of kitchens use.
_CODES = frozenset({
    "EUR", "GBP", "USD", "CHF", "SEK", "NOK", "DKK", "PLN", "CZK", "HUF", "RON", "ISK", "CAD", "AUD", "NZD", "JPY", "TRY",
})  # fmt: skip
_SIGNS = {"€": "EUR", "£": "GBP", "$": "$", "zł": "PLN", "¥": "JPY"}
MEANINGS: tuple[Meaning, ...] = get_args(Meaning)


@cache
def _known_heads() -> dict[str, Meaning]:
    meanings: dict[str, Meaning] = {meaning: meaning for meaning in MEANINGS}
    # The first meaning that claims a word keeps it.
    return {word: meanings[row["meaning"]] for row in reversed(table("column_heads.csv")) for word in row["words"].split(";")}


def plain_head(head: str) -> str:
    """A head without case, marks, accents and currency: "Net-Price (EUR)" is "net price"."""
    bare = unicodedata.normalize("NFKD", head).encode("ascii", "ignore").decode().lower()
    bare = re.sub(r"\([^)]*\)|\b(?:eur|usd|gbp|chf)\b|'s\b", " ", bare)
    return " ".join(re.findall(r"[a-z0-9]+", bare))


def find_heads(rows: Rows, remembered: Mapping[str, str]) -> tuple[int, dict[str, int]]:
    """The place of the row of heads, and the column of each meaning; the row with most known heads is it.

    `remembered` are the heads of this supplier by meaning; they win over what a head is commonly called.
    """
    best: tuple[int, dict[str, int]] = (0, {})
    for place, row in enumerate(rows[:_LOOKED_AT]):
        columns = _columns(row, remembered)
        if len(columns) > len(best[1]):
            best = (place, columns)
    return best


def _columns(row: list[str], remembered: Mapping[str, str]) -> dict[str, int]:
    columns: dict[str, int] = {}
    taken: set[int] = set()
    plain = [plain_head(cell) for cell in row]
    # What is remembered of a head that this table does not have says nothing of it.
    remembered = {meaning: head for meaning, head in remembered.items() if not head or plain_head(head) in plain}
    for meaning, head in remembered.items():
        # An empty head says that no column means this.
        at = next((at for at, one in enumerate(plain) if one and one == plain_head(head)), None)
        if at is not None:
            columns[meaning] = at
            taken.add(at)
    known = _known_heads()
    # What is paid goes before what is asked: a net price before a list price, wherever it stands.
    for at, head in sorted(enumerate(plain), key=lambda one: is_list_price(one[1])):
        told = known.get(head)
        if told is not None and at not in taken and told not in columns and told not in remembered:
            columns[told] = at
            taken.add(at)
    # "Preis/kg" is a price too, where no other column is.
    for at, head in enumerate(row):
        if at not in taken and not {"price", "amount"} & (columns.keys() | remembered.keys()) and _is_price_per(head):
            columns["price"] = at
            taken.add(at)
    return columns


def is_list_price(head: str) -> bool:
    """Whether a head names a price from which something is taken off yet."""
    return plain_head(head) in _LIST_PRICES


def is_net_price(head: str) -> bool:
    """Whether a head names the price after discounts. "Netto" may be one, or only one without tax."""
    return "net" in plain_head(head).split()


def currencies_in(text: str) -> set[str]:
    """The currencies that a text names, by their codes; "$" for a dollar of whatever country."""
    if text.replace(".", "").replace(",", "").isdigit():
        return set()
    words = set(re.findall(r"(?<![A-Za-z])[A-Z]{3}(?![A-Za-z])", text)) & _CODES
    return words | {code for sign, code in _SIGNS.items() if sign in text}


def _is_price_per(head: str) -> bool:
    before, per = price_and_per(head)
    bare = plain_head(before)
    return per is not None and (bare == "" or _known_heads().get(bare) == "price")


def names_of(row: list[str]) -> tuple[str, ...]:
    """The heads of a row, each once; a column without one is called by its number."""
    names: list[str] = []
    for at, cell in enumerate(row):
        name = cell[:200] or f"column {at + 1}"
        names.append(name if name not in names else f"{name[:180]} ({at + 1})")
    return tuple(names)
