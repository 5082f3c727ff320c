"""What is done with what comes on paper: a recipe saved with all that it needs, an invoice recorded."""

from __future__ import annotations

from dataclasses import dataclass, replace

from potrel.core.cost.costing import Costing
from potrel.core.cost.effects import with_prices
from potrel.core.errors import BadDocument
from potrel.core.kitchen.integrity import check_measures
from potrel.core.kitchen.keyed import Keyed
from potrel.core.kitchen.kinds import Cell, Id, Name, Note, On, plain
from potrel.core.rooms.invoice import Invoice, InvoiceRow, understand_invoice
from potrel.core.rooms.target_alerts import pushed_past
from potrel.core.sentences import say
from potrel.core.words.bases import bases
from potrel.core.words.paste import understand_paste
from potrel.core.words.pasted import Goods, LineAnswer, Pasted, PortionAnswer
from potrel.doing.kitchens import Kitchens
from potrel.doing.pots import checked
from potrel.store.changes import read_version
from potrel.store.errors import AlreadyThere
from potrel.store.items import insert_items, update_item
from potrel.store.offers import insert_offers
from potrel.store.pushed import mark_pushed
from potrel.store.recipes import insert_recipes, revision_of
from potrel.store.suppliers import insert_suppliers

_MOST_LINES = 400
_MOST_ROWS = 200


@dataclass(frozen=True, slots=True)
class Paste(Keyed):
    """The rows of a text, what the pot is called, and what was answered so far."""

    rows: list[Note]
    name: Name | None = None
    answers: tuple[LineAnswer, ...] = ()
    goods: tuple[Goods, ...] = ()
    portion: PortionAnswer | None = None


@dataclass(frozen=True, slots=True)
class PasteSaved:
    """The pot that was saved, and how many items and prices with it."""

    recipe: Id
    revision: int
    items: int
    prices: int


@dataclass(frozen=True, slots=True)
class TypedInvoice(Keyed):
    """An invoice as it is typed off paper: whose (a supplier's id or name), of what day, and its rows."""

    supplier: Cell
    on: On
    rows: tuple[InvoiceRow, ...]


def save_paste(kitchens: Kitchens, paste: Paste, by: str, *, is_base: bool = False) -> PasteSaved:
    """Save the pot and all that comes with it, or nothing: new items, weights, suppliers, prices. A base has no serving.
    BadDocument where a line waits for an answer; AlreadyThere.
    """
    with kitchens.database.writing(by) as connection:
        before = kitchens.seen_by(connection)
        pasted, _ = understood_paste(paste, before.costing)
        _refuse_open(pasted)
        if is_base:
            name = pasted.recipe.name
            if any(one.name.casefold() == name.casefold() for one in before.costing.view.kitchen.recipes):
                raise AlreadyThere(say("base_there", "{name} is there already: look at it in Cook", name=name))
            pasted = replace(pasted, recipe=replace(pasted.recipe, servings=()))
        for item in (*pasted.items, *pasted.changed):
            check_measures(item)
        insert_suppliers(connection, pasted.suppliers)
        insert_items(connection, pasted.items)
        for item in pasted.changed:
            update_item(connection, item)
        recorded = insert_offers(connection, pasted.offers, by)
        after = before.costing.with_items([*pasted.items, *pasted.changed])
        after, effects = with_prices(after, recorded)
        after = checked(after, pasted.recipe)
        insert_recipes(connection, [pasted.recipe], by)
        causes = [one.id or "" for one in recorded]
        mark_pushed(connection, pushed_past(effects), f"prices with {pasted.recipe.name}", causes)
        revision, version = revision_of(connection, pasted.recipe.id), read_version(connection)
    # A new supplier is no part of what a costing can take over: the kitchen is read anew then.
    if not pasted.suppliers:
        kitchens.adopt(before, version, after)
    return PasteSaved(pasted.recipe.id, revision, len(pasted.items), len(recorded))


def make_base(kitchens: Kitchens, base_id: str, by: str) -> PasteSaved:
    """Make a stock as it is usually made a base of the kitchen, with all that it takes. BadDocument where none is called so;
    AlreadyThere.
    """
    base = next((one for one in bases() if one.id == base_id), None)
    if base is None:
        raise BadDocument("base", say("no_such", 'no {what} has the id "{id}"', what="base", id=base_id))
    # What the kitchen has of it goes in; the shelf gives only what it has not.
    read, _ = understood_paste(Paste(list(base.rows), base.name), kitchens.costing())
    things = dict(base.things)
    answers = tuple(LineAnswer(one.key, shelf=things[one.text]) for one in read.lines if one.is_open)
    return save_paste(kitchens, Paste(list(base.rows), base.name, answers), by, is_base=True)


def record_invoice(kitchens: Kitchens, typed: TypedInvoice, by: str) -> int:
    """Record all prices of an invoice, or none; how many there were. BadDocument where a row is open."""
    with kitchens.database.writing(by) as connection:
        before = kitchens.seen_by(connection)
        found = understood_invoice(typed, before.costing)
        if found.supplier is None:
            raise BadDocument("supplier", say("invoice_of_whom", "say whose invoice it is"))
        for place, row in enumerate(found.rows):
            wrong = row.problem or next(iter(row.doubts), None)
            if wrong is not None:
                raise BadDocument(f"rows[{place}]", say("row_open", "{problem}", problem=wrong))
        if not found.offers:
            raise BadDocument("rows", say("invoice_empty", "no row of it has an item and a price yet"))
        if found.is_new_supplier:
            insert_suppliers(connection, [found.supplier])
        recorded = insert_offers(connection, found.offers, by)
        after, effects = with_prices(before.costing, recorded)
        mark_pushed(connection, pushed_past(effects), f"invoice of {found.supplier.name}", [one.id or "" for one in recorded])
        version = read_version(connection)
    # A new supplier is no part of what a costing can take over: the kitchen is read anew then.
    if not found.is_new_supplier:
        kitchens.adopt(before, version, after)
    return len(recorded)


def understood_paste(paste: Paste, costing: Costing) -> tuple[Pasted, Costing]:
    """The pot that comes of a text, and the kitchen with it. BadDocument where it is too long."""
    if len(paste.rows) > _MOST_LINES:
        raise BadDocument("rows", say("paste_too_long", "a recipe has at most {most} rows: paste one recipe", most=_MOST_LINES))
    return understand_paste("\n".join(paste.rows), paste.name, paste.answers, paste.goods, costing, paste.portion)


def understood_invoice(typed: TypedInvoice, costing: Costing) -> Invoice:
    """What the rows of an invoice are. BadDocument where it is too long."""
    if len(typed.rows) > _MOST_ROWS:
        english = "an invoice has at most {most} rows: record it in two parts"
        raise BadDocument("rows", say("invoice_too_long", english, most=_MOST_ROWS))
    return understand_invoice(costing, typed.supplier, typed.on, typed.rows)


def _refuse_open(pasted: Pasted) -> None:
    """BadDocument where a line waits for an answer, or a price cannot be read: nothing is saved by halves."""
    for line in pasted.lines:
        if line.is_open:
            english = 'answer "{line}" first, or leave it out: {problem}'
            raise BadDocument("", say("line_open", english, line=line.text[:80], problem=line.typed.problem or ""))
    if pasted.portion is not None and pasted.portion.is_open:
        english = "{portions} portions of this pot are not {said} each: say which holds"
        raise BadDocument("", say("portion_open", english, portions=plain(pasted.portion.portions), said=pasted.portion.said))
    for goods in pasted.goods:
        if goods.problem is not None:
            raise BadDocument("", say("goods_wrong", "{item}: {problem}", item=goods.name, problem=goods.problem))
    if not any(stage.lines for stage in pasted.recipe.stages):
        raise BadDocument("rows", say("no_line_pasted", "no line of a recipe is in it yet"))
