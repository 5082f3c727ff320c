"""Routes of the Buy room: items, their prices and weights, and what a change does to every portion it reaches."""

from __future__ import annotations

from collections import Counter
from decimal import Decimal
from typing import Annotated

from fastapi import APIRouter, Query
from starlette.responses import Response

from potrel.api.answers import reply
from potrel.api.buy.replies import (
    AskMissing,
    ItemReply,
    ItemRow,
    ItemUse,
    MakeTogether,
    NewItem,
    PricePoint,
    SaveItem,
    UsableKilo,
)
from potrel.api.dependencies import Actor, InKitchen
from potrel.api.kitchen.replies import Effects
from potrel.api.problems import described
from potrel.core.buy.paid import paid_for
from potrel.core.buy.price_doubts import price_doubts
from potrel.core.buy.purchase import Price, price_of
from potrel.core.buy.season import season_of
from potrel.core.cost.confidence import rests_on
from potrel.core.cost.effects import reached_by, with_item, with_prices
from potrel.core.cost.usable_kilo import usable_kilo
from potrel.core.errors import BadDocument
from potrel.core.kitchen.integrity import check_measures
from potrel.core.kitchen.items import Item
from potrel.core.kitchen.kinds import Id, Name
from potrel.core.kitchen.supply import Offer, Supplier
from potrel.core.numbers.units import canonical
from potrel.core.pot.day_view import DRAINED, DayView
from potrel.core.rooms.labels import label_of
from potrel.core.rooms.weights_known import KnownWeight, weights_known
from potrel.core.sentences import say
from potrel.core.trim.shelf import Known, filled, on_shelf, parts_filled, shelf
from potrel.deliveries.matching import likest
from potrel.deliveries.missing import Missing, missing
from potrel.doing import items as doing
from potrel.doing.items import SaveOffer, checked_offer, known_item

router = APIRouter(prefix="/api", tags=["items"])
_THOUSAND = Decimal(1000)
_MOST_TEXTS = 300


@router.get("/items", response_model=list[ItemRow], responses=described())
def items(kitchens: InKitchen) -> Response:
    """All items with what they cost today."""
    costing = kitchens.costing()
    used = Counter(item for one in costing.all() if one.recipe.servings for item in one.items)
    rows = [_row(costing.view, item, used[item.id]) for item in costing.view.kitchen.items]
    return reply(list[ItemRow], sorted(rows, key=lambda row: row.name.casefold()))


def _row(view: DayView, item: Item, used_by: int) -> ItemRow:
    price = view.price(item.id)
    prices = [one for one in view.history(item).prices if one.per_gram is not None and one.offer.on <= view.on]
    before = next((p for p in reversed(prices) if price is not None and p.offer.on < price.offer.on), None)
    lack = None if price is None or price.lack is None else price.lack.said.english
    lack = "no price yet" if price is None else None if price.per_piece is not None else lack
    return ItemRow(
        id=item.id,
        name=item.name,
        kind=item.kind,
        per_kg=_per_kg(price),
        per_kg_before=_per_kg(before),
        lack=lack,
        offer=None if price is None else price.offer,
        supplier=None if price is None else view.supplier_name(price.offer.supplier),
        usable=_usable(view, item),
        used_by=used_by,
        instead_of=None if price is None or price.instead_of is None else view.supplier_name(price.instead_of),
        counted=view.counted(item.id),
        archived=item.archived,
        per_one=None if price is None else price.per_piece,
    )


def _per_kg(price: Price | None) -> Decimal | None:
    return None if price is None or price.per_gram is None else price.per_gram * _THOUSAND


def _usable(view: DayView, item: Item) -> list[UsableKilo]:
    preparations = list(item.preparations)
    drained = view.preparation(item, DRAINED)
    if drained is not None and drained not in preparations:
        preparations.append(drained)
    return [
        UsableKilo(one.id, one.name, one.yield_, one.low, one.high, one.source or "estimate", rests_on(one),
                   usable_kilo(view, item, one))
        for one in preparations
    ]  # fmt: skip


@router.get("/shelf", response_model=list[Known], responses=described(422))
def find_on_shelf(find: Annotated[str, Query(max_length=200)], most: Annotated[int, Query(ge=1, le=300)] = 6) -> Response:
    """Known ingredients that are called most like some words: what a new item may start from."""
    by_id = {known.item.id: known for known in shelf()}
    named = on_shelf(find)
    have = {known.item.id for known in named}
    alike = [by_id[one] for one in likest(find, [known.item for known in shelf()], most) if one not in have]
    return reply(list[Known], [*named, *alike][:most])


@router.post("/shelf/missing", response_model=list[Missing], responses=described(400, 422))
def missing_things(ask: AskMissing, kitchens: InKitchen) -> Response:
    """What texts that name nothing of the kitchen may become. Nothing is written."""
    if len(ask.texts) > _MOST_TEXTS:
        raise BadDocument("texts", say("too_many_texts", "at most {most} texts are looked at together", most=_MOST_TEXTS))
    for place, text in enumerate(ask.texts):
        if not text.strip():
            raise BadDocument(f"texts[{place}]", say("blank_text", "it names nothing: write what it is"))
    view = kitchens.costing().view
    return reply(list[Missing], [missing(text, view) for text in ask.texts])


@router.post("/items/together", response_model=list[Id], status_code=201, responses=described(400, 409, 422))
def make_together(ask: MakeTogether, kitchens: InKitchen, actor: Actor) -> Response:
    """Make items together, all or none; the id of each, in the order asked."""
    return reply(list[Id], doing.make_together(kitchens, ask.things, actor), status=201)


@router.get("/items/{item_id}", response_model=ItemReply, responses=described(404))
def item(item_id: str, kitchens: InKitchen) -> Response:
    """An item with its prices and the portions it goes into."""
    costing = kitchens.costing()
    view, found = costing.view, known_item(costing, item_id)
    history = [
        PricePoint(price.offer, view.supplier_name(price.offer.supplier), _per_kg(price), price.per_piece)
        for price in reversed(view.history(found).prices)
    ]
    of_one = view.prices().get(item_id)
    uses = [
        ItemUse(recipe, view.recipes[recipe].name, portion.serving.id, portion.serving.name, grams,
                None if of_one is None else grams * of_one)
        for recipe, portion, grams in reached_by(costing, item_id)
    ]  # fmt: skip
    uses.sort(key=lambda use: (-use.grams, use.name))
    on_sale = [one for one in costing.takers_of({item_id}) if view.recipes[one].servings]
    paid = paid_for(found, view.offers_of(item_id), (one for one in view.kitchen.credits if one.item == item_id), view.system)
    season = season_of(view.history(found), view.on)
    fillable = parts_filled(found, filled(found))
    row, label = _row(view, found, len(on_sale)), label_of(found, view)
    return reply(ItemReply, ItemReply(found, row, history, uses, paid, season, label, fillable))


@router.get("/items/{item_id}/weights-of-one", response_model=list[KnownWeight], responses=described(404, 422))
def weights_of_one(item_id: str, unit: Annotated[Name, Query()], kitchens: InKitchen) -> Response:
    """What one of a unit of an item may weigh, for somebody who is asked for it. Nothing is written."""
    costing = kitchens.costing()
    return reply(list[KnownWeight], list(weights_known(known_item(costing, item_id), canonical(unit), costing.view)))


@router.post("/items", status_code=201, response_model=Item, responses=described(400, 409, 422))
def add_item(new: NewItem, kitchens: InKitchen, actor: Actor) -> Response:
    """Add an item."""
    doing.add_item(kitchens, new.item, actor)
    return reply(Item, new.item, 201)


@router.post("/items/{item_id}/preview", response_model=Effects, responses=described(400, 404, 422))
def preview_item(item_id: str, new: NewItem, kitchens: InKitchen) -> Response:
    """What a changed weight, density or yield of an item would do to every portion it reaches."""
    before = kitchens.costing()
    known_item(before, item_id)
    check_measures(new.item)
    after, effects = with_item(before, new.item)
    return reply(Effects, Effects(_per_kg(before.view.price(item_id)), _per_kg(after.view.price(item_id)), effects))


@router.put("/items/{item_id}", response_model=Item, responses=described(400, 404, 409, 422))
def put_item(item_id: str, save: SaveItem, kitchens: InKitchen, actor: Actor) -> Response:
    """Save an item; refused where somebody changed it since."""
    if save.item.id != item_id:
        english = 'an item keeps its id: "{id}" cannot become "{other}"'
        raise BadDocument("item.id", say("item_keeps_id", english, id=item_id, other=save.item.id))
    doing.save_item(kitchens, save.item, save.was, actor)
    return reply(Item, save.item)


@router.post("/suppliers", status_code=201, response_model=Supplier, responses=described(400, 409, 422))
def add_supplier(supplier: Supplier, kitchens: InKitchen, actor: Actor) -> Response:
    """Add a supplier."""
    doing.add_supplier(kitchens, supplier, actor)
    return reply(Supplier, supplier, 201)


@router.post("/offers/preview", response_model=Effects, responses=described(400, 404, 422))
def preview_offer(save: SaveOffer, kitchens: InKitchen) -> Response:
    """What a new price would do to every portion it reaches."""
    before = kitchens.costing()
    offer = checked_offer(before, save)
    after, effects = with_prices(before, [offer])
    was = before.view.price(offer.item)
    now = price_of(offer, known_item(before, offer.item), before.view.system)
    doubts = [] if offer.corrects is not None else [doubt.english for doubt in price_doubts(was, now)]
    is_now = after.view.price(offer.item)
    pieces = (None if was is None else was.per_piece, None if is_now is None else is_now.per_piece)
    found = Effects(_per_kg(was), _per_kg(is_now), effects, doubts, after.view.counted(offer.item), *pieces)
    return reply(Effects, found)


@router.post("/offers", status_code=201, response_model=Offer, responses=described(400, 404, 409, 422))
def add_offer(save: SaveOffer, kitchens: InKitchen, actor: Actor) -> Response:
    """Record a price. Offers are append-only: one that corrects another names it."""
    return reply(Offer, doing.record_price(kitchens, save, actor), 201)
