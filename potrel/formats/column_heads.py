"""Which column of a supplier's table means what: told by its head, or as it was said before."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Iterable, Mapping, Sequence
from functools import cache
from typing import get_args

from potrel.core.buy.pack_text import price_and_per
from potrel.core.buy.price_list import Meaning
from potrel.core.kitchen.supply import ListForm
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
_SIGNS = {"€": "EUR", "£": "GBP", "$": "$", "zł": "PLN", "¥": "JPY", "Kč": "CZK"}
# Signs that are words, and so may be part of one.
_WORDS = {"kr": "kr", "ft": "HUF", "lei": "RON"}
_MONEY_HEAD = re.compile(r"^\s*(case|unit|each|pack|carton|ctn|net)?\s*[$€£]\s*$", re.IGNORECASE)
MEANINGS: tuple[Meaning, ...] = get_args(Meaning)
_ANY = ListForm()


@cache
def _known_heads() -> dict[str, Meaning]:
    meanings: dict[str, Meaning] = {meaning: meaning for meaning in MEANINGS}
    # The first meaning that claims a word keeps it.
    return {word: meanings[row["meaning"]] for row in reversed(table("column_heads.csv")) for word in row["words"].split(";")}


def plain_head(head: str) -> str:
    """A head without case, marks, accents and currency: "Net-Price (EUR)" is "net price"."""
    # "Item #" is a number, "Case $" a price.
    told = _MONEY_HEAD.sub(r"\1 price", head.replace("#", " no "))
    bare = unicodedata.normalize("NFKD", told).encode("ascii", "ignore").decode().lower()
    bare = re.sub(r"\([^)]*\)|\b(?:eur|usd|gbp|chf)\b|'s\b", " ", bare)
    return " ".join(re.findall(r"[a-z0-9]+", bare))


def find_heads(rows: Rows, forms: Sequence[ListForm]) -> tuple[int, dict[str, int], ListForm]:
    """The place of the row of heads, the column of each meaning, and the form by which it is read.

    The row that a form says by its number is it, or one whose heads a form knows, else the one with most known heads. What a
    form says of a head wins over what that is commonly called.
    """
    said = next((int(row) for form in forms if (row := form.columns.get("head_row", "")).isdecimal()), 0)
    best: tuple[int, dict[str, int], ListForm] = (0, {}, _ANY)
    places = [said - 1] if 0 < said <= len(rows) else range(min(len(rows), _LOOKED_AT))
    for place in places:
        form = fitting(forms, names_of(rows[place]))
        columns = _columns(rows[place], form.columns)
        if len(places) == 1 or (bool(form.heads), len(columns)) > (bool(best[2].heads), len(best[1])):
            best = (place, columns, form)
    return best


def fitting(forms: Iterable[ListForm], heads: Iterable[str]) -> ListForm:
    """The form by which a table of these heads is read: one of just these, else one of its own where no head of a known
    meaning has come to them, else one for any table.
    """
    there = _plain_heads(heads)
    within = [form for form in forms if form.heads and _plain_heads(form.heads) <= there]
    of_these = [form for form in within if _plain_heads(form.heads) == there]
    known = _known_heads()
    near = [form for form in within if not known.keys() & (there - _plain_heads(form.heads))]
    return next((one for some in (of_these, near) for one in some), next((form for form in forms if not form.heads), _ANY))


def _plain_heads(heads: Iterable[str]) -> frozenset[str]:
    return frozenset(map(plain_head, heads)) - {""}


def _columns(row: list[str], remembered: Mapping[str, str]) -> dict[str, int]:
    columns: dict[str, int] = {}
    taken: set[int] = set()
    plain = [plain_head(cell) for cell in row]
    # What is remembered of a head that this table does not have says nothing of it.
    there = {*plain, ""}
    remembered = {one: head for one, head in remembered.items() if one in MEANINGS and plain_head(head) in there}
    for meaning, head in remembered.items():
        # An empty head says that no column means this.
        at = next((at for at, one in enumerate(plain) if one and one == plain_head(head)), None)
        if at is not None:
            columns[meaning] = at
            taken.add(at)
    known = _known_heads()
    prices = {at: _rank_of_price(head) for at, head in enumerate(plain) if known.get(head) == "price" and at not in taken}
    # What is paid goes before what is asked: a net price before a list price. Of two alike nobody knows which one counts.
    best = [at for at, rank in prices.items() if rank == min(prices.values())]
    for at, head in enumerate(plain):
        told = known.get(head)
        if told == "pack" and "pack" in columns and "size" not in columns | remembered:
            # Case Pack, Case Size: so many, and how large each is.
            told = "size"
        if told is None or at in taken or told in columns or told in remembered or (told == "price" and best != [at]):
            continue
        columns[told] = at
        taken.add(at)
    # "Preis/kg" is a price too, where no other column is.
    for at, head in enumerate(row):
        told_of = columns.keys() | remembered.keys()
        if at not in taken and not prices and not {"price", "amount"} & told_of and _is_price_per(head):
            columns["price"] = at
            taken.add(at)
    return columns


def _rank_of_price(head: str) -> int:
    return 0 if is_net_price(head) else 2 if is_list_price(head) else 1


def is_list_price(head: str) -> bool:
    """Whether a head names a price from which something is taken off yet."""
    return plain_head(head) in _LIST_PRICES


def is_net_price(head: str) -> bool:
    """Whether a head names the price after discounts. "Netto" may be one, or only one without tax."""
    return "net" in plain_head(head).split()


_BARE = re.compile(r"[0-9., ]*")


def currencies_in(text: str) -> set[str]:
    """The currencies that a text names, by their codes; "$" for a dollar, "kr" for a crown of whatever country."""
    if _BARE.fullmatch(text):
        return set()
    words = set(re.findall(r"(?<![A-Za-z])[A-Z]{3}(?![A-Za-z])", text)) & _CODES
    signs = {code for sign, code in _SIGNS.items() if sign in text}
    return words | signs | {_WORDS[word] for word in re.findall(r"[a-z]+", text.lower()) if word in _WORDS}


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
