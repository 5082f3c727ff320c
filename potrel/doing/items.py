"""What is done with items, suppliers and prices: added, saved, recorded, read on labels, filled from the shelf."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass, replace

from potrel.core.buy.typed_price import check_offer, pack_typed
from potrel.core.cost.costing import Costing
from potrel.core.cost.effects import with_item, with_prices
from potrel.core.errors import BadDocument, BadQuantity
from potrel.core.kitchen.integrity import check_measures, known_units
from potrel.core.kitchen.items import Item
from potrel.core.kitchen.keyed import Keyed
from potrel.core.kitchen.kinds import ONE, Cell, Flag, Id, Mass, Money, Name, On
from potrel.core.kitchen.naming import id_for
from potrel.core.kitchen.quantities import Pack
from potrel.core.kitchen.supply import Offer, Supplier
from potrel.core.rooms.labels import Label, checked_now, label_of, unread
from potrel.core.rooms.target_alerts import pushed_past
from potrel.core.sentences import say
from potrel.core.trim.shelf import filled, parts_filled, shelf
from potrel.doing.kitchens import Kitchens
from potrel.store.changes import read_version
from potrel.store.errors import AlreadyThere, NotFound, StaleItem, StaleOffer
from potrel.store.items import insert_items, load_items, update_item
from potrel.store.offers import insert_offers
from potrel.store.pushed import mark_pushed, taken_back
from potrel.store.suppliers import insert_suppliers

_MOST_TOGETHER = 300


@dataclass(frozen=True, slots=True)
class SaveOffer(Keyed):
    """An offer to be recorded."""

    item: Id
    supplier: Id
    pack: Cell
    price: Money
    on: On
    drained: Mass | None = None
    corrects: Id | None = None
    until: On | None = None
    withdrawn: Flag = False

    def offer(self, pack: Pack) -> Offer:
        """The offer as the core knows it, with its pack as that was understood."""
        return Offer(
            self.item, self.supplier, pack, self.price, self.on, self.drained, corrects=self.corrects,
            until=self.until, withdrawn=self.withdrawn,
        )  # fmt: skip


@dataclass(frozen=True, slots=True)
class LabelsRead(Keyed):
    """That somebody read the labels of some items as they are bought now; or, where not `read`, that this is taken back."""

    items: list[Id]
    by: Name
    read: Flag = True


@dataclass(frozen=True, slots=True)
class NewThing(Keyed):
    """Something that becomes an item: as the `shelf` knows it, else of a name and a kind."""

    name: Name
    kind: Name = "not known"
    shelf: Id | None = None


@dataclass(frozen=True, slots=True)
class FilledItem:
    """An item as it was, and as it is now; `parts` are what was filled, in words."""

    was: Item
    item: Item
    parts: list[str]


def add_item(kitchens: Kitchens, item: Item, by: str) -> None:
    """Add an item. AlreadyThere where its id or its name is taken, BadDocument where its measures contradict each other."""
    check_measures(item)
    with kitchens.database.writing(by) as connection:
        before = kitchens.seen_by(connection)
        if item.id in before.costing.view.recipes:
            english = 'there is a recipe with the id "{id}": give the item another name'
            raise AlreadyThere(say("recipe_called_so", english, id=item.id))
        _refuse_same_name(before.costing, item)
        insert_items(connection, [item])
        after, version = before.costing.with_items([item]), read_version(connection)
    kitchens.adopt(before, version, after)


def make_together(kitchens: Kitchens, things: Sequence[NewThing], by: str) -> list[Id]:
    """Make items together, all or none; the id of each. What is called as one of them is that one: two lines of a list may be
    the same thing. BadDocument where the shelf has no such ingredient, or too many are asked for; AlreadyThere where one that
    is archived is called so.
    """
    if len(things) > _MOST_TOGETHER:
        raise BadDocument("things", say("too_many_things", "at most {most} items are made together", most=_MOST_TOGETHER))
    on_shelf = {known.item.id: known.item for known in shelf()}
    with kitchens.database.writing(by) as connection:
        before = kitchens.seen_by(connection)
        view = before.costing.view
        made: dict[str, Item] = {}
        ids: list[Id] = []
        for place, thing in enumerate(things):
            known = on_shelf.get(thing.shelf or "")
            if thing.shelf is not None and known is None:
                what = "ingredient of the shelf"
                raise BadDocument(f"things[{place}]", say("no_such", 'no {what} has the id "{id}"', what=what, id=thing.shelf))
            name = (thing.name if known is None else known.name).strip()
            item = view.item_called(name) or made.get(name.casefold())
            if item is None:
                item = made[name.casefold()] = _made(thing, known, {*view.items, *view.recipes, *(o.id for o in made.values())})
            elif item.archived:
                raise _archived_called_so(item)
            ids.append(item.id)
        new = list(made.values())
        insert_items(connection, new)
        after, version = before.costing.with_items(new), read_version(connection)
    kitchens.adopt(before, version, after)
    return ids


def _made(thing: NewThing, known: Item | None, taken: Collection[str]) -> Item:
    """A new item: as the shelf knows it, else of its name and kind alone."""
    if known is not None:
        return replace(known, id=id_for(known.id, taken))
    is_water = thing.kind == "water"
    return Item(
        id_for(thing.name, taken), thing.name, thing.kind, density=ONE if is_water else None,
        origin=("mineral",) if is_water else (),
    )  # fmt: skip


def save_item(kitchens: Kitchens, item: Item, was: Item, by: str) -> None:
    """Save an item. StaleItem where somebody changed it since it `was` that; NotFound, AlreadyThere, BadDocument."""
    check_measures(item)
    with kitchens.database.writing(by) as connection:
        before = kitchens.seen_by(connection)
        now = next(iter(load_items(connection, [item.id])), None)
        if now is None:
            raise NotFound("item", item.id)
        if now != was:
            raise StaleItem(now)
        if item.name != now.name:
            _refuse_same_name(before.costing, item)
        update_item(connection, item)
        after, effects = with_item(before.costing, item)
        taken_back(connection, [f"item {item.id}"])
        mark_pushed(connection, pushed_past(effects), f"weights and yields of {item.name}", [f"item {item.id}"])
        version = read_version(connection)
    kitchens.adopt(before, version, after)


def add_supplier(kitchens: Kitchens, supplier: Supplier, by: str) -> None:
    """Add a supplier. AlreadyThere where its id is taken."""
    with kitchens.database.writing(by) as connection:
        insert_suppliers(connection, [supplier])


def record_price(kitchens: Kitchens, save: SaveOffer, by: str) -> Offer:
    """Record a price. Offers are append-only: one that corrects another names it. NotFound, BadDocument, StaleOffer."""
    with kitchens.database.writing(by) as connection:
        before = kitchens.seen_by(connection)
        offer = checked_offer(before.costing, save)
        (recorded,) = insert_offers(connection, [offer], by)
        after, effects = with_prices(before.costing, [recorded])
        if recorded.corrects is not None:
            taken_back(connection, [recorded.corrects])
        named = before.costing.view.name_of(offer.item)
        mark_pushed(connection, pushed_past(effects), f"price of {named}", [recorded.id or ""])
        version = read_version(connection)
    kitchens.adopt(before, version, after)
    return recorded


def read_labels(kitchens: Kitchens, said: LabelsRead, by: str) -> list[Label]:
    """Somebody read the labels of some items, all or none of them; what they name was noted before. Or takes that back."""
    wanted = list(dict.fromkeys(said.items))
    with kitchens.database.writing(by) as connection:
        before = kitchens.seen_by(connection)
        found = load_items(connection, wanted)
        for missing in set(wanted) - {item.id for item in found}:
            raise NotFound("item", missing)
        view = before.costing.view
        changed = [checked_now(item, view, said.by) if said.read else unread(item) for item in found]
        for item in changed:
            update_item(connection, item)
        after, version = before.costing.with_items(changed), read_version(connection)
    kitchens.adopt(before, version, after)
    return [label_of(item, after.view) for item in changed]


def fill_from_shelf(kitchens: Kitchens, items: Sequence[str], by: str) -> list[FilledItem]:
    """Fill some items with what the shelf knows; those of which it knows nothing more stay."""
    with kitchens.database.writing(by) as connection:
        before = kitchens.seen_by(connection)
        both = [(one, filled(one)) for one in load_items(connection, items)]
        changed = [FilledItem(was, now, parts_filled(was, now)) for was, now in both if was != now]
        for one in changed:
            update_item(connection, one.item)
        after, version = before.costing.with_items([one.item for one in changed]), read_version(connection)
    kitchens.adopt(before, version, after)
    return changed


def checked_offer(costing: Costing, save: SaveOffer) -> Offer:
    """The offer, where its item, supplier, pack and unit are known. NotFound, BadDocument, StaleOffer."""
    view = costing.view
    item, units = known_item(costing, save.item), known_units(view.kitchen.items)
    try:
        offer = save.offer(pack_typed(save.pack, units))
    except BadQuantity as error:
        raise BadDocument("pack", error.said) from None
    if offer.supplier not in view.suppliers:
        raise NotFound("supplier", offer.supplier)
    check_offer(offer, item, view.system, units)
    if offer.corrects is not None and not any(one.id == offer.corrects for one in view.kitchen.offers):
        english = 'no offer has the id "{offer}"'
        raise BadDocument("corrects", say("corrects_no_offer", english, offer=offer.corrects))
    if offer.corrects is not None and any(one.corrects == offer.corrects for one in view.offers_of(offer.item)):
        # Two corrections of one price would both hold.
        raise StaleOffer(item.name)
    return offer


def known_item(costing: Costing, item_id: str) -> Item:
    """An item by its id. NotFound."""
    found = costing.view.items.get(item_id)
    if found is None:
        raise NotFound("item", item_id)
    return found


def _refuse_same_name(costing: Costing, item: Item) -> None:
    """AlreadyThere where another item is called so: a line could not tell them apart."""
    one = costing.view.item_called(item.name)
    if one is not None and one.id != item.id:
        if one.archived:
            raise _archived_called_so(one)
        english = 'there is an item called "{name}" already: give this one a name of its own, such as "{name}, bunched"'
        raise AlreadyThere(say("item_called_so", english, name=one.name))


def _archived_called_so(item: Item) -> AlreadyThere:
    return AlreadyThere(say("archived_called_so", 'an item called "{name}" is archived: bring that one back', name=item.name))
