"""What is done with suppliers' lists: read in, spoken of, recorded all or nothing, undone as a whole, fetched."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from datetime import date

from potrel.core.buy.pack_text import understood_pack
from potrel.core.buy.paid import standing_credits
from potrel.core.buy.price_list import ListKind, PriceList
from potrel.core.buy.purchase import standing
from potrel.core.cost.effects import with_prices
from potrel.core.errors import BadDocument
from potrel.core.kitchen.keyed import Keyed
from potrel.core.kitchen.kinds import Flag, Id, Name
from potrel.core.kitchen.supply import ListForm, Supplier
from potrel.core.rooms.review import OUNCES, TAKEN, LineChoice, ListChoices
from potrel.core.rooms.target_alerts import pushed_past
from potrel.core.sentences import say
from potrel.deliveries.understanding import Understood
from potrel.doing.kitchens import Kitchens
from potrel.doing.reviews import Reading, Reviews, in_words
from potrel.formats.tables import DELIMITERS, MOST_ROWS
from potrel.store.changes import Version
from potrel.store.database import Connection, Database
from potrel.store.errors import NotFound, Refused, StaleReview, StaleSupplier
from potrel.store.offers import insert_credits, insert_offers, of_price_list
from potrel.store.price_lists import (
    StoredList,
    digest_of,
    drop_price_list,
    find_same,
    insert_price_list,
    load_price_list,
    save_choices,
    settle,
)
from potrel.store.pushed import mark_pushed, taken_back
from potrel.store.suppliers import load_suppliers, update_supplier

_MOST_FORMS = 20


@dataclass(frozen=True, slots=True)
class ReadStep:
    """A step of reading a file: the share that is done, then the number of the list, or what is wrong with the file.

    `known` tells that the very same file was read before.
    """

    done: float
    number: int | None = None
    known: Flag = False
    problem: str | None = None


@dataclass(frozen=True, slots=True)
class SaveChoices(Keyed):
    """What a person says of a list: each part that is given replaces what was said before, lines one by one.

    `lines_were` is what was seen to be said of the lines; it is refused where somebody said something else of one since.
    """

    supplier: Id | None = None
    kind: ListKind | None = None
    columns: dict[Name, str] | None = None
    lines: list[LineChoice] | None = None
    lines_were: list[LineChoice] | None = None


def read_file(data: bytes, kitchens: Kitchens, reviews: Reviews, name: str, by: str) -> Iterator[ReadStep]:
    """Reads a file step by step; it is kept only when all of it was understood. BadFile where it is refused."""
    digest = digest_of(data)
    with kitchens.database.reading() as connection:
        same = find_same(connection, digest)
    if same is not None:
        yield ReadStep(1.0, same, known=True)
        return
    yield ReadStep(0.05)
    for step in reviews.steps(digest, lambda: data, ListChoices(), kitchens.costing().view.kitchen):
        if isinstance(step, Understood):
            with kitchens.database.writing(by) as connection:
                number = insert_price_list(connection, name[:200], data, step.of, step.supplier, by)
            yield ReadStep(1.0, number)
        else:
            yield ReadStep(round(0.05 + 0.9 * step, 3))


def fetch_list(kitchens: Kitchens, reviews: Reviews, supplier_id: str, today: date, by: str) -> ReadStep:
    """Fetch and read a supplier's list; the last step of that."""
    supplier = kitchens.costing().view.suppliers.get(supplier_id)
    if supplier is None:
        raise NotFound("supplier", supplier_id)
    if supplier.catalogue_url is None:
        english = "of {supplier} no address of a list is known: write it down first"
        raise BadDocument("catalogue_url", say("no_address", english, supplier=supplier.name))
    data = reviews.service.fetch(supplier.catalogue_url)
    *_, last = read_file(data, kitchens, reviews, f"fetched from {supplier.name}, {today}", by)
    return last


def say_of_list(kitchens: Kitchens, reviews: Reviews, number: int, said: SaveChoices, by: str) -> StoredList:
    """Say something of a list: whose it is, what its columns mean, which item a line is. NotFound, BadDocument, StaleReview."""
    known = kitchens.costing().view
    _check_besides(said.columns or {})
    if said.supplier is not None and said.supplier not in known.suppliers:
        raise NotFound("supplier", said.supplier)
    for line in said.lines or ():
        if line.item is not None and line.item not in known.items:
            raise NotFound("item", line.item)
    with kitchens.database.writing(by) as connection:
        stored = load_price_list(connection, number)
        _check_open(stored, said, reviews)
        _check_lines(stored.choices, said)
        stored = replace(stored, kind=said.kind or stored.kind, supplier=said.supplier or stored.supplier)
        save_choices(connection, number, _merged(stored.choices, said), stored.kind, stored.supplier)
    return stored


def _merged(before: ListChoices, said: SaveChoices) -> ListChoices:
    """Choices with what was said now; of lines, only those said of now are replaced."""
    lines = {line.place: line for line in (*before.lines, *(said.lines or ()))}
    return ListChoices(
        said.supplier or before.supplier,
        said.kind or before.kind,
        before.columns if said.columns is None else dict(said.columns),
        tuple(lines[place] for place in sorted(lines)),
    )


def record_list(kitchens: Kitchens, reviews: Reviews, number: int, seen: str, by: str) -> StoredList:
    """Record all of a list that is ready, or nothing. StaleReview where it is not what was `seen` any more, BadDocument where
    nothing can be recorded.

    Of a list that is recorded already, what was left out then and is ready by now is recorded too.
    """
    reading = reviews.reading(number)
    again = reading.stored.state == "recorded"
    if again and not (reading.reviewed.offers or reading.reviewed.credits):
        raise BadDocument("", say("recorded_already", "list {list} is recorded already", list=number))
    blocked = reviews.blocked(reading)
    if blocked is not None:
        english = "list {list} cannot be recorded yet: {blocked}"
        raise BadDocument("", say("list_blocked", english, list=number, blocked=blocked))
    later = _remembered(reading)
    with kitchens.database.writing(by) as connection:
        before = kitchens.seen_by(connection)
        _check_unchanged(connection, reading, seen, before.version)
        offers = insert_offers(connection, reading.reviewed.offers, by, number)
        credits_ = insert_credits(connection, reading.reviewed.credits, by, number)
        if later is not None:
            update_supplier(connection, later)
        save_choices(connection, number, reading.stored.choices, reading.stored.kind, reading.stored.supplier)
        taken = [line.place for line in reading.reviewed.lines if line.recorded or line.state in TAKEN]
        prices = len(offers) + len(credits_) + (reading.stored.prices if again else 0)
        settle(connection, number, "recorded", by, prices, taken)
        mark_pushed(connection, pushed_past(reading.effects), in_words(reading), [f"list {number}"])
        return load_price_list(connection, number)


def _check_besides(columns: Mapping[str, str]) -> None:
    """BadDocument where what is said of a table beside its columns is none of what can be said."""
    row, delimiter, per, ounces = (columns.get(one, "") for one in ("head_row", "delimiter", "price_per", "ounces"))
    if ounces not in ("", *OUNCES):
        raise BadDocument("columns.ounces", say("ounces_what", 'ounces are said to be "weight" or "fluid"'))
    if row and not (row.isdecimal() and 0 < int(row) <= MOST_ROWS):
        english = "the row of heads is said by its number, from 1 to {most}"
        raise BadDocument("columns.head_row", say("head_row_number", english, most=MOST_ROWS))
    if delimiter and delimiter not in DELIMITERS:
        english = "cells are parted by one of ; , | or a tab"
        raise BadDocument("columns.delimiter", say("delimiter_sign", english))
    if per and per not in ("pack", "unit") and understood_pack(per) is None:
        english = 'a price is of a "pack", of the "unit" in its column, or of a pack such as "1 kg"'
        raise BadDocument("columns.price_per", say("price_per_what", english))


def _check_open(stored: StoredList, said: SaveChoices, reviews: Reviews) -> None:
    """Refused where something is said of what is recorded: of a recorded list, only lines that were left out are open."""
    if stored.state != "recorded":
        return
    taken = {line.place for line in reviews.reading(stored.number).reviewed.lines if line.recorded}
    whole = said.supplier is not None or said.kind is not None or said.columns is not None
    if whole or any(line.place in taken for line in said.lines or ()):
        raise Refused(say("list_recorded", "this is recorded: undo the list first, then change what it says"))


def _check_lines(now: ListChoices, said: SaveChoices) -> None:
    """StaleReview where something else is said of a line by now than was seen."""
    there = {line.place: line for line in now.lines}
    for seen in said.lines_were or ():
        if there.get(seen.place, LineChoice(seen.place)) != seen:
            raise StaleReview


def _check_unchanged(connection: Connection, reading: Reading, seen: str, version: Version) -> None:
    """StaleReview where the data or the choices are not those that were seen. Writers queue, so nothing changes after this."""
    stored = load_price_list(connection, reading.stored.number)
    if seen != reading.seen or version != reading.version or stored.choices != reading.stored.choices:
        raise StaleReview


def _remembered(reading: Reading) -> Supplier | None:
    """The supplier with what a person said of its columns, and of lines that are not bought; None where that is known."""
    supplier = reading.before.view.suppliers.get(reading.stored.supplier or "")
    if supplier is None:
        return None
    choices, of = reading.stored.choices, reading.understood.of
    called = {line.place: line.called for line in of.lines}
    passed = {called[line.place] for line in choices.lines if line.pass_over and line.place in called}
    bought = {called[line.place] for line in choices.lines if line.item is not None and line.place in called}
    later = replace(
        supplier, forms=_forms(supplier, of), passed_over=tuple(sorted((set(supplier.passed_over) | passed) - bought))
    )
    return None if later == supplier else later


def _forms(supplier: Supplier, of: PriceList) -> tuple[ListForm, ...]:
    """The forms of a supplier with that by which a list was read, which takes the place of the one of the same heads."""
    if not of.heads:
        return supplier.forms
    # Which sheet counts, and where its heads stand, is asked of each file: last month's sheet stands beside this month's.
    form = ListForm(of.heads, {what: head for what, head in of.columns.items() if what not in ("sheet", "head_row")})
    others = [one for one in supplier.forms if set(one.heads) != set(form.heads)]
    return (form, *others)[:_MOST_FORMS]


def undo_list(kitchens: Kitchens, number: int, by: str) -> StoredList:
    """Take back all that was recorded of a list; it is open to be recorded again."""
    with kitchens.database.writing(by) as connection:
        before = kitchens.seen_by(connection).costing
        stored = load_price_list(connection, number)
        if stored.state != "recorded":
            english = "list {list} is not recorded: there is nothing to undo"
            raise BadDocument("", say("nothing_to_undo", english, list=number))
        offers, credits_ = of_price_list(connection, number)
        gone = {offer.corrects for offer in before.view.kitchen.offers if offer.corrects is not None}
        back = [replace(one, id=None, corrects=one.id, withdrawn=True) for one in standing(offers) if one.id not in gone]
        insert_offers(connection, back, by, number)
        withdrawn = [replace(one, id=None, withdraws=one.id) for one in standing_credits(credits_)]
        insert_credits(connection, withdrawn, by, number)
        settle(connection, number, "undone", by, 0, None)
        _, effects = with_prices(before, back)
        taken_back(connection, [f"list {number}"])
        mark_pushed(connection, pushed_past(effects), f"list {number} was undone", [f"list {number} undone"])
        return load_price_list(connection, number)


def drop_list(kitchens: Kitchens, number: int, by: str) -> None:
    """Forget a list that was never recorded. NotFound, Refused."""
    with kitchens.database.writing(by) as connection:
        load_price_list(connection, number)
        drop_price_list(connection, number)


def save_supplier(kitchens: Kitchens, supplier: Supplier, was: Supplier, by: str) -> None:
    """Save a supplier. StaleSupplier where somebody changed it since it `was` that."""
    with kitchens.database.writing(by) as connection:
        now = next((one for one in load_suppliers(connection) if one.id == supplier.id), None)
        if now is not None and now != was:
            raise StaleSupplier(now.name)
        update_supplier(connection, supplier)


def move_catalogue(database: Database, supplier_id: str, address: str, by: str) -> None:
    """Say where a supplier's list is fetched from now; nothing is done where that is known, or there is no such supplier."""
    with database.writing(by) as connection:
        for supplier in load_suppliers(connection):
            if supplier.id == supplier_id and supplier.catalogue_url != address:
                update_supplier(connection, replace(supplier, catalogue_url=address))
