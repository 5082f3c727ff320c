"""Routes of the Buy room: items, their prices and weights, and what a change does to every portion it reaches."""

from __future__ import annotations

from collections import Counter
from decimal import Decimal
from typing import Annotated

from fastapi import APIRouter, Query
from starlette.responses import Response

from potrel.api.effects import compare, pushed_past, takes, users, with_item, with_prices
from potrel.api.problems import described
from potrel.api.recipes import InKitchen
from potrel.api.replies import (
    Effects,
    ItemReply,
    ItemRow,
    ItemUse,
    NewItem,
    PricePoint,
    SaveItem,
    SaveOffer,
    UsableKilo,
    reply,
)
from potrel.core.costing import Costing
from potrel.core.errors import BadDocument
from potrel.core.facts import DRAINED
from potrel.core.kitchen import Item
from potrel.core.paid import paid_for
from potrel.core.purchase import Price, known_units, parse_pack, refuse_unknown_unit
from potrel.core.season import season_of
from potrel.core.shelf import Known, shelf
from potrel.core.supply import Offer, Supplier
from potrel.core.sureness import rests_on
from potrel.core.working import explain_item
from potrel.deliveries.matching import likest
from potrel.store.errors import AlreadyThere, NotFound, StaleItem
from potrel.store.items import insert_items, load_items, update_item
from potrel.store.offers import insert_offers
from potrel.store.pushed import mark_pushed
from potrel.store.suppliers import insert_suppliers

router = APIRouter(prefix="/api", tags=["items"])
_THOUSAND = Decimal(1000)


@router.get("/items", response_model=list[ItemRow], responses=described())
def items(kitchens: InKitchen) -> Response:
    """All items with what they cost today."""
    costing = kitchens.costing()
    used = Counter(item for recipe in costing.facts.kitchen.recipes for item in takes(costing, recipe))
    rows = [_row(costing, item, used[item.id]) for item in costing.facts.kitchen.items]
    return reply(list[ItemRow], sorted(rows, key=lambda row: row.name.casefold()))


def _row(costing: Costing, item: Item, used_by: int) -> ItemRow:
    facts = costing.facts
    price = facts.price(item.id)
    prices = [one for one in facts.history(item).prices if one.per_gram is not None and one.offer.on <= costing.on]
    before = next((p for p in reversed(prices) if price is not None and p.offer.on < price.offer.on), None)
    supplier = None if price is None else facts.suppliers[price.offer.supplier].name
    lack = "no price yet" if price is None else None if price.lack is None else str(price.lack)
    return ItemRow(
        item.id, item.name, item.kind, _per_kg(price), _per_kg(before), lack,
        None if price is None else price.offer, supplier, _usable(costing, item), used_by,
    )  # fmt: skip


def _per_kg(price: Price | None) -> Decimal | None:
    return None if price is None or price.per_gram is None else price.per_gram * _THOUSAND


def _usable(costing: Costing, item: Item) -> list[UsableKilo]:
    preparations = list(item.preparations)
    drained = costing.facts.preparation(item, DRAINED)
    if drained is not None and drained not in preparations:
        preparations.append(drained)
    rows: list[UsableKilo] = []
    for one in preparations:
        working = explain_item(costing, "", item.id, one.id)
        rows.append(
            UsableKilo(one.id, one.name, one.yield_, one.low, one.high, one.source or "estimate", rests_on(one.source),
                       working.value if working else None)
        )  # fmt: skip
    return rows


@router.get("/shelf", response_model=list[Known], responses=described(422))
def find_on_shelf(find: Annotated[str, Query(max_length=200)], most: Annotated[int, Query(ge=1, le=300)] = 6) -> Response:
    """Known ingredients that are called most like some words: what a new item may start from."""
    by_id = {known.item.id: known for known in shelf()}
    found = likest(find, (known.item for known in shelf()), most)
    return reply(list[Known], [by_id[one] for one in found])


@router.get("/items/{item_id}", response_model=ItemReply, responses=described(404))
def item(item_id: str, kitchens: InKitchen) -> Response:
    """An item with its prices and the portions it goes into."""
    costing = kitchens.costing()
    found = _known(costing, item_id)
    suppliers = costing.facts.suppliers
    history = [
        PricePoint(price.offer, suppliers[price.offer.supplier].name, _per_kg(price))
        for price in reversed(costing.facts.history(found).prices)
    ]
    reached, per_gram = kitchens.reach().servings(item_id), costing.per_gram(item_id)
    uses = [
        ItemUse(recipe, costing.facts.recipes[recipe].name, portion.serving.id, portion.serving.name, grams,
                None if per_gram is None else grams * per_gram)
        for recipe, portion, grams in reached
    ]  # fmt: skip
    uses.sort(key=lambda use: (-use.grams, use.name))
    row = _row(costing, found, len(users(costing, {item_id})))
    season = season_of(costing.facts.history(found), costing.on)
    return reply(ItemReply, ItemReply(found, row, history, uses, paid_for(costing.facts, found), season))


def _known(costing: Costing, item_id: str) -> Item:
    found = costing.facts.items.get(item_id)
    if found is None:
        raise NotFound("item", item_id)
    return found


@router.post("/items", status_code=201, response_model=Item, responses=described(400, 409, 422))
def add_item(new: NewItem, kitchens: InKitchen) -> Response:
    """Add an item."""
    if new.item.id in kitchens.costing().facts.recipes:
        raise AlreadyThere(f'there is a recipe with the id "{new.item.id}": give the item another name')
    with kitchens.database.writing() as connection:
        insert_items(connection, [new.item])
    return reply(Item, new.item, 201)


@router.post("/items/{item_id}/preview", response_model=Effects, responses=described(400, 404, 422))
def preview_item(item_id: str, new: NewItem, kitchens: InKitchen) -> Response:
    """What a changed weight, density or yield of an item would do to every portion it reaches."""
    before = kitchens.costing()
    _known(before, item_id)
    after = with_item(before, new.item)
    effects = compare(before, after, users(before, {item_id}))
    return reply(Effects, Effects(_per_kg(before.facts.price(item_id)), _per_kg(after.facts.price(item_id)), effects))


@router.put("/items/{item_id}", response_model=Item, responses=described(400, 404, 409, 422))
def put_item(item_id: str, save: SaveItem, kitchens: InKitchen) -> Response:
    """Save an item; refused where somebody changed it since."""
    if save.item.id != item_id:
        raise BadDocument("item.id", f'an item keeps its id: "{item_id}" cannot become "{save.item.id}"')
    before = kitchens.costing()
    _known(before, item_id)
    over = pushed_past(compare(before, with_item(before, save.item), users(before, {item_id})))
    with kitchens.database.writing() as connection:
        now = next((one for one in load_items(connection) if one.id == item_id), None)
        if now is None:
            raise NotFound("item", item_id)
        if now != save.was:
            raise StaleItem(now)
        update_item(connection, save.item)
        mark_pushed(connection, over, f"weights and yields of {save.item.name}")
    return reply(Item, save.item)


@router.post("/suppliers", status_code=201, response_model=Supplier, responses=described(400, 409, 422))
def add_supplier(supplier: Supplier, kitchens: InKitchen) -> Response:
    """Add a supplier."""
    with kitchens.database.writing() as connection:
        insert_suppliers(connection, [supplier])
    return reply(Supplier, supplier, 201)


@router.post("/offers/preview", response_model=Effects, responses=described(400, 404, 422))
def preview_offer(save: SaveOffer, kitchens: InKitchen) -> Response:
    """What a new price would do to every portion it reaches."""
    before = kitchens.costing()
    offer = _checked(before, save)
    after, effects = with_prices(before, [offer])
    return reply(Effects, Effects(_per_kg(before.facts.price(offer.item)), _per_kg(after.facts.price(offer.item)), effects))


@router.post("/offers", status_code=201, response_model=Offer, responses=described(400, 404, 409, 422))
def add_offer(save: SaveOffer, kitchens: InKitchen) -> Response:
    """Record a price. Offers are append-only: one that corrects another names it."""
    before = kitchens.costing()
    offer = _checked(before, save)
    with kitchens.database.writing(counts=False) as connection:
        (recorded,) = insert_offers(connection, [offer], save.by)
        after, effects = with_prices(before, [recorded])
        mark_pushed(connection, pushed_past(effects), f"price of {before.facts.name_of(offer.item)}")
    kitchens.offered(before, after, 1)
    return reply(Offer, recorded, 201)


def _checked(costing: Costing, save: SaveOffer) -> Offer:
    """The offer, where its item, supplier, pack and unit are known."""
    offer = save.offer()
    _known(costing, offer.item)
    if offer.supplier not in costing.facts.suppliers:
        raise NotFound("supplier", offer.supplier)
    pack = parse_pack(offer.pack)
    refuse_unknown_unit(f"1 {pack.inner.unit}", known_units(costing.facts.kitchen.items))
    if offer.corrects is not None and offer.corrects not in {o.id for o in costing.facts.kitchen.offers}:
        raise BadDocument("corrects", f'no offer has the id "{offer.corrects}"')
    return offer
