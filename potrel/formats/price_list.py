"""Price lists, invoices and credit notes in: from the bytes of a CSV, XLSX or UBL file to a list of the core."""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping, Sequence
from contextlib import suppress
from dataclasses import replace
from decimal import Decimal
from typing import get_args

from potrel.core.buy.pack_text import UNIT_OF, is_middle, plain_size, price_and_per, read_pack, times, understood_pack
from potrel.core.buy.price_list import Besides, ListKind, ListLine, Meaning, Part, PriceList
from potrel.core.kitchen.kinds import ZERO, carried, plain
from potrel.core.kitchen.supply import ListForm
from potrel.core.numbers.units import kind_of
from potrel.core.sentences import Sentence, say
from potrel.formats.amounts import Amounts, Dates, shared_out, within_reason
from potrel.formats.column_heads import currencies_in, find_heads, is_list_price, is_net_price, names_of
from potrel.formats.letterhead import read_letterhead
from potrel.formats.tables import DELIMITERS, Rows, csv_rows, delimiter_of, xlsx_sheets
from potrel.formats.ubl import read_ubl
from potrel.formats.upload import BadFile, kind_of_file, text_of

_STEP = 500
_PER_WHAT = re.compile(r"^\s*(?:/|per\b|pro\b|je\b|par\b|por\b|al?\b)\s*", re.IGNORECASE)
# The share of the work that is done when the cells of a table are parted.
_PARTED = 0.3
# So many rows are shown, that the heads can be pointed at.
_SAMPLE = 25
_BESIDES: tuple[Besides, ...] = get_args(Besides)
# A price and an amount may each be rounded by half a cent.
_ROUNDED_BY = Decimal("0.005")


def read_price_list(data: bytes, forms: Sequence[ListForm] = (), kind: ListKind | None = None) -> Iterator[Part | PriceList]:
    """Reads a file: yields parts of it as they are read, and last the list. BadFile where it is refused.

    `forms` are those that are known of this supplier's tables, or the one that a person said; `kind` what a person said
    a table is. A table whose heads do not tell the name and the price comes without lines, and says what is missing.
    """
    match kind_of_file(data):
        case "xml":
            yield from read_ubl(data)
            return
        case "xlsx":
            (sheets, reckoned), delimiter = xlsx_sheets(data), None
        case _:
            delimiter, rows = _parted(text_of(data), forms)
            sheets, reckoned = {"": rows}, False
    yield Part(_PARTED)
    for step in _sheets(sheets, forms, kind):
        yield replace(step, reckoned=reckoned, delimiter=delimiter) if isinstance(step, PriceList) else step


def _parted(text: str, forms: Sequence[ListForm]) -> tuple[str, Rows]:
    """The rows of a text, and what parts their cells: as a person said, or a form whose heads it then has, else as it looks."""
    looks = delimiter_of(text)
    for form in forms:
        said = form.columns.get("delimiter", "")
        if said in DELIMITERS and said != looks:
            with suppress(BadFile):
                rows = csv_rows(text, said)
                if not form.heads or find_heads(rows, [form])[2] == form:
                    return said, rows
    return looks, csv_rows(text, looks)


class _Cells(dict[str, str]):
    """The cells of a row by what their columns mean, "" where there is none: of a price what stands before "per kg", and the
    pack that this is as `per`.
    """

    def __init__(self, row: list[str], columns: Mapping[str, int]) -> None:
        super().__init__((meaning, row[at]) for meaning, at in columns.items() if at < len(row))
        price, self.per = price_and_per(self["price"])
        if self.per is not None:
            self["price"] = price

    def __missing__(self, meaning: str) -> str:
        return ""


class _Table:
    """The rows of a table, by what its columns mean, and the readers of amounts and dates of each column."""

    def __init__(self, rows: Rows, columns: Mapping[str, int], heads: list[str], price_per: str) -> None:
        self.rows = [_Cells(row, columns) for row in rows]
        price = heads[columns["price"]] if "price" in columns else ""
        self._said_per = price_per
        # What a price is of where nothing else is said: "Preis/kg"; and whether something is taken off it yet.
        self._head_says = price_and_per(price)[1]
        self._is_list = is_list_price(price)
        self._is_net = is_net_price(price) or (not self._is_list and any(is_list_price(head) for head in heads))
        money = ("price", "amount", "quantity", "size", "discount")
        self._amounts = {one: Amounts(row[one] for row in self.rows) for one in money if one in columns}
        # Whether days or months come first is told by all dates of a file together.
        of_all = Dates(row[one] for row in self.rows for one in ("on", "until") if one in columns)
        self._dates = {one: of_all for one in ("on", "until") if one in columns}

    def amount(self, row: _Cells, meaning: str) -> Decimal | None:
        reader = self._amounts.get(meaning)
        # What has more places than the kitchen document carries is rounded where it comes in.
        return None if reader is None else within_reason(reader.read(row[meaning]))

    def column(self, *meanings: str) -> set[str]:
        """What stands in the columns of some meanings."""
        return {row[meaning] for row in self.rows for meaning in meanings} - {""}

    def line(self, row: _Cells, place: int) -> ListLine:
        text = row["name"] or row["code"] or row["item"]
        said = read_pack(text)
        columns = self._pack(row)
        quantity = self.amount(row, "quantity")
        price, problem = self._price(row, quantity)
        pack = _agreed(columns, said.pack)
        per = self._per(row)
        if per is not None and price is not None:
            # What a kilo costs is what a pack of a kilo costs, whatever it is packed in.
            pack = per
        elif problem is None and price is not None and pack is not None and self._sold_otherwise(row, pack):
            english = "its price may be that of {pack}, or of 1 {unit}: write that as its pack"
            problem = say("price_of_which", english, pack=pack, unit=row["unit"][:20])
        on, until = (self._dates[one].read(row[one]) if one in self._dates else None for one in ("on", "until"))
        written = row["on"]
        if problem is None and written and on is None:
            problem = say("date_unread", 'its date "{date}" cannot be read: write it as 2026-11-24', date=written[:20])
        return ListLine(
            place, text[:400], said.name or text[:400], row["code"][:200] or None, gtin_in(row["gtin"]),
            pack, price, quantity, on, until, understood_pack(row["drained"]),
            row["item"] or None, row["supplier"] or None, problem,
            doubt=self._contradiction(row, price, quantity),
            note=None if per is not None else _middle(pack, (row["pack"], row["size"], text)),
        )  # fmt: skip

    def _pack(self, row: _Cells) -> str | None:
        """The pack that the columns of a row tell."""
        pack, unit, written = row["pack"], row["unit"], plain_size(row["size"])
        if written.lower() in UNIT_OF and pack and not unit:
            # 30 | LB: so many of a unit.
            return understood_pack(pack, written)
        # "1 GAL" is no amount of money, whatever it looks like.
        size = None if any(map(str.isalpha, row["size"])) else self.amount(row, "size")
        inner = understood_pack(written) if size is None and written else None
        if inner is not None and pack.isascii() and pack.isdigit():
            # 6 | 2.5 LB
            return inner if int(pack) == 1 else times(pack, inner)
        return understood_pack(pack, unit, "" if size is None else plain(size)) or inner

    def _per(self, row: _Cells) -> str | None:
        """What a price is of, where the cell, a person or the head says it: 9.95 €/kg, Preis/kg, price per 100 g."""
        if row.per is not None or not self._said_per:
            return row.per or _by_measure(row["per"]) or self._head_says
        if self._said_per == "pack":
            return None
        return understood_pack("", row["unit"]) if self._said_per == "unit" else understood_pack(self._said_per)

    def _sold_otherwise(self, row: _Cells, pack: str) -> bool:
        """Whether the unit beside a pack is one of mass or volume that the pack is more of: the price may be of either."""
        one = understood_pack("", row["unit"])
        return (
            not self._said_per
            and bool(row["pack"])
            and one is not None
            and one != pack
            and kind_of(one.split(" ")[-1]) != "count"
        )

    def _price(self, row: _Cells, quantity: Decimal | None) -> tuple[Decimal | None, Sentence | None]:
        """The price of a pack: as it stands there, else the amount of the line over its packs."""
        written = row["price"]
        price = self.amount(row, "price")
        if price is not None:
            return self._taken_off(row, price, quantity)
        if written:
            english = 'its price "{price}" can be read in two ways or in none: write it as 1234.50'
            return None, say("price_in_two_ways", english, price=written[:20])
        return self._paid(row, quantity), None

    def _taken_off(self, row: _Cells, price: Decimal, quantity: Decimal | None) -> tuple[Decimal, Sentence | None]:
        """A price less its discount, where that is not off it yet: as the amount of the line tells, or its head."""
        off = self._discount(row)
        if off == 0 or self._is_net:
            return price, None
        if off >= 1:
            percent = plain(off * 100)
            return price, say("discount_of_all", "its discount is {percent}%: what is paid for it?", percent=percent)
        less = carried(price * (1 - off))
        paid = self._paid(row, quantity)
        if paid is not None and abs(paid - less) <= _ROUNDED_BY:
            return less, None
        if paid is not None and abs(paid - price) <= _ROUNDED_BY:
            return price, None
        if self._is_list:
            return less, None
        english = "is its price before or after the discount of {percent}%? write what is paid"
        return price, say("before_or_after", english, percent=plain(off * 100))

    def _discount(self, row: _Cells) -> Decimal:
        """What is taken off, as a share: "10%", "10" and "0.1" are a tenth."""
        said = self.amount(row, "discount")
        if said is None and "%" in row["discount"]:
            said = Amounts([]).read(row["discount"].replace("%", ""))
        if said is None:
            return ZERO
        return abs(said) / 100 if abs(said) >= 1 or "%" in row["discount"] else abs(said)

    def _paid(self, row: _Cells, quantity: Decimal | None) -> Decimal | None:
        """What a pack comes to by the amount of its line; None where the line tells no such thing."""
        return shared_out(self.amount(row, "amount"), quantity)

    def _contradiction(self, row: _Cells, price: Decimal | None, quantity: Decimal | None) -> Sentence | None:
        """What the amount of a line says against its price, where it does."""
        paid = self._paid(row, quantity)
        if price is None or paid is None or quantity is None:
            return None
        packs, amount = abs(quantity), row["amount"][:20]
        if abs(paid - price) * packs <= _ROUNDED_BY * (1 + packs):
            return None
        english = "{quantity} times {price} is not the {amount} that the line comes to: which is right?"
        return say("amount_contradicts", english, quantity=plain(quantity), price=plain(price), amount=amount)


def _middle(pack: str | None, cells: Sequence[str]) -> Sentence | None:
    """A word where a pack is the middle of what its pieces weigh."""
    if pack is None or not any(is_middle(one) for one in cells):
        return None
    return say("pack_middle", "it is weighed at the till: {pack} is the middle of what the list says", pack=pack)


def _by_measure(written: str) -> str | None:
    """What a column says that a price is of: a pound, 100 g. A case or a piece is the pack that stands beside it."""
    written = _PER_WHAT.sub("", written)
    one = understood_pack("", written) if written and not written[0].isdigit() else understood_pack(written)
    return one if one is not None and kind_of(one.split(" ", 1)[-1]) != "count" else None


def _agreed(columns: str | None, said: str | None) -> str | None:
    """The pack that the columns tell, unless they tell only a unit of sale and the text says how much that is."""
    if columns is None:
        return said
    counted = re.fullmatch(r"1 (each|piece|case|box|pack)", columns)
    return said if counted and said is not None else columns


def _sheets(sheets: Mapping[str, Rows], forms: Sequence[ListForm], kind: ListKind | None) -> Iterator[Part | PriceList]:
    """The list of all sheets whose heads tell the name and the price, or of the one that was chosen.

    Where two of them name the same thing (the prices of before beside those of now) nobody knows which one counts: it is asked.
    """
    chosen = next((form.columns["sheet"] for form in forms if form.columns.get("sheet")), "")
    told = [name for name, rows in sheets.items() if not _missing(find_heads(rows, forms)[1])]
    longest = sorted(sheets, key=lambda name: -len(sheets[name]))
    read = [chosen] if chosen in sheets else told or longest[:1]
    # A line keeps its place, whichever sheets are read: the rows of the longest come first.
    before = {name: sum(len(sheets[one]) for one in longest[:at]) for at, name in enumerate(longest)}
    lists: list[PriceList] = []
    for name in read:
        for step in _table(sheets[name], forms, kind, before[name]):
            if isinstance(step, PriceList):
                lists.append(step)
            else:
                yield replace(step, done=_PARTED + (1 - _PARTED) * (len(lists) + step.done) / len(read))
    first, lines = lists[0], tuple(line for one in lists for line in one.lines)
    if len(sheets) > 1:
        named = {**first.columns, "sheet": chosen} if chosen in sheets else first.columns
        first = replace(first, columns=named, sheets=tuple(sheets), sheets_read=tuple(read))
    things = [thing for one in lists for thing in {line.called.casefold() for line in one.lines}]
    if len({one.kind for one in lists}) > 1 or len(set(things)) < len(things):
        yield replace(first, lines=(), currency=None, missing=("sheet",))
        return
    currencies = sorted({currency for one in lists if one.currency for currency in one.currency.split(" and ")})
    yield replace(first, lines=lines, currency=" and ".join(currencies) or None)


def _missing(columns: Mapping[str, int]) -> list[Meaning | Besides]:
    """The meanings without which no line can be read."""
    missing: list[Meaning | Besides] = []
    if not columns.keys() & {"name", "item"}:
        missing.append("name")
    if "price" not in columns and not {"amount", "quantity"} <= columns.keys():
        missing.append("price")
    return missing


def _table(rows: Rows, forms: Sequence[ListForm], kind: ListKind | None, before: int) -> Iterator[Part | PriceList]:
    """The list of one table, of which so many rows stand `before` in its file; first its parts as they are read."""
    head, columns, form = find_heads(rows, forms)
    heads = names_of(rows[head])
    missing = _missing(columns)
    body = rows[head + 1 :]
    sample = tuple(tuple(row) for row in rows[: max(_SAMPLE, head + 5)])
    said = {besides: form.columns[besides] for besides in _BESIDES if besides != "sheet" and form.columns.get(besides)}
    named = dict[str, str]({meaning: heads[at] for meaning, at in columns.items()}) | said
    told: ListKind = kind or ("delivery" if {"quantity", "amount"} <= columns.keys() else "price_list")
    empty = PriceList(told, (), columns=named, heads=heads, sample=sample, head_row=head + 1, missing=tuple(missing))
    if missing:
        yield empty
        return
    of = _Table(body, columns, rows[head], form.columns.get("price_per", ""))
    lines: list[ListLine] = []
    told_of = 0
    for place, (row, cells) in enumerate(zip(body, of.rows, strict=True), before + head + 2):
        if any(row):
            line = of.line(cells, place)
            # A heading inside the list, or a line of totals, names no price and no code.
            if line.text and not (line.price is None and line.problem is None and line.code is None and line.pack is None):
                lines.append(line)
        if place % _STEP == 0:
            yield Part((place - before - head) / len(body), tuple(lines[told_of:]))
            told_of = len(lines)
    yield Part(1.0, tuple(lines[told_of:]))
    currencies = {cell.upper() for cell in of.column("currency")}.union(*map(currencies_in, of.column("price", "amount")))
    currencies |= currencies_in(rows[head][columns["price"]]) if "price" in columns else set()
    above = read_letterhead(rows[:head])
    currency = " and ".join(sorted(currencies)) or None
    yield replace(empty, lines=tuple(lines), currency=currency, letterhead=above.names, on=above.on)


def gtin_in(text: str) -> str | None:
    """The digits of a GTIN in a cell; noughts that a spreadsheet took from its front are put back."""
    digits = re.sub(r"[\s.-]", "", text) if text else ""
    if not digits.isascii() or not digits.isdigit() or len(digits) > 14:
        return None
    return digits.zfill(next(size for size in (8, 12, 13, 14) if size >= len(digits)))
