"""The workings of an item: its AP price, what a usable kilo costs, what falls off it."""

from __future__ import annotations

from dataclasses import replace
from decimal import Decimal

from potrel.core.buy.purchase import Price, ap_price, price_of_one
from potrel.core.buy.weights import as_weighed, measured_by
from potrel.core.cost.costing import Costing
from potrel.core.cost.usable_kilo import cooked_kilo_of, kilo_trimmed, trim_before, usable_kilo, usable_kilo_of
from potrel.core.errors import Lack
from potrel.core.kitchen.items import Cooking, Entry, Item
from potrel.core.kitchen.kinds import plain
from potrel.core.numbers.arithmetic import Number
from potrel.core.numbers.formula import formula
from potrel.core.numbers.units import kind_of
from potrel.core.pot.day_view import DayView
from potrel.core.tell.figures import Figure, Input, Place, reckoned, unknown
from potrel.core.tell.trim_figures import TrimFigures
from potrel.core.trim.byproducts import stated


@formula("containers * amount in one * weight of one / 1000")
def kilos_of_pack(containers: Number, amount_in_one: Number, weight_of_one: Number) -> Number:
    """The mass of a pack [kg], by the weight [g] of one of its unit."""
    return containers * amount_in_one * weight_of_one / 1000


def price_source(view: DayView, item_id: str) -> str:
    """Where the price of an item comes from, in words: the offer in force, and whom it stands in for."""
    return offer_words(view, view.price(item_id))


def offer_words(view: DayView, price: Price | None) -> str:
    """The offer that a price rests on, in words."""
    if price is None:
        return "no offer recorded"
    offer = price.offer
    words = f"offer of {view.supplier_name(offer.supplier)}, {offer.pack}, of {offer.on.isoformat()}"
    if offer.source is not None:
        words += f" ({offer.source})"
    if price.instead_of is None:
        return words
    return f"{words}; {view.supplier_name(price.instead_of)}, who is preferred, has none in force"


def price_input(costing: Costing, item_id: str) -> Input:
    """The AP price of an item [money/kg], as an input of a formula."""
    words = f"AP price of {costing.view.name_of(item_id)}"
    return _priced(costing, item_id, words, costing.view.per_kg(item_id), "money/kg", "price_per_kg")


def piece_input(costing: Costing, item_id: str) -> Input:
    """What one piece of an item costs [money], as an input of a formula."""
    words = f"price of 1 {costing.view.counted(item_id) or 'each'} of {costing.view.name_of(item_id)}"
    return _priced(costing, item_id, words, costing.view.per_piece(item_id), "money", "price_of_one")


def _priced(costing: Costing, item_id: str, words: str, value: Number | None, unit: str, figure: str) -> Input:
    price = costing.view.price(item_id)
    offer = None if price is None else price.offer.id
    source = price_source(costing.view, item_id)
    return Input(words, value, unit, source, f"item/{item_id}/{figure}", item=item_id, offer=offer)


def yield_input(item: Item, sort: str, of: str, entry: Entry, number: Number) -> Input:
    """A yield of an item as an input of a formula."""
    name = f"cooking yield, {of}" if isinstance(entry, Cooking) else f"yield, {entry.name}"
    return Input(name, number, "share", entry.source or "no source given", f"yield/{item.id}/{sort}/{of}/in_use")


def explain_item(costing: Costing, recipe_id: str, item_id: str, names: list[str]) -> Figure | None:
    """The working of a figure of an item: `price_per_kg`, `price_of_one`, `pack_kilos`, the id of a preparation or `cooking`
    and a method (its usable kilo), or a preparation and a figure of what becomes of a purchased kilo at it (`TrimFigures`).
    """
    view = costing.view
    item = view.items.get(item_id)
    if item is None:
        return None
    match names:
        case ["price_per_kg"]:
            return _price(view, recipe_id, item)
        case ["price_of_one"]:
            return _of_one(view, recipe_id, item)
        case ["pack_kilos"]:
            return _pack(view, recipe_id, item)
        case ["cooking", *method] if method:
            cooked = view.cooking(item, "/".join(method))
            return None if cooked is None else _usable(costing, recipe_id, item, cooked)
        case [preparation_id, *rest]:
            entry = view.preparation(item, preparation_id)
            if entry is None:
                return None
            if not rest:
                return _usable(costing, recipe_id, item, entry)
            return _treated(costing, recipe_id, item, entry).of(rest[0]) if len(rest) == 1 else None
    return None


def _price(view: DayView, recipe_id: str, item: Item) -> Figure:
    place = Place(recipe_id, f"item/{item.id}/price_per_kg", f"{item.name}: AP price per kilo")
    price = view.price(item.id)
    if price is None:
        return unknown(place, "money/kg", f"{item.name} has no price on {view.on.isoformat()}: record what it costs")
    source = price_source(view, item.id)
    paid = Input("price of the pack", price.offer.price, "money", source, item=item.id, offer=price.offer.id)
    return reckoned(ap_price, place, "money/kg", price_of_the_pack=paid, kilos_in_the_pack=_kilos(view, item))


def _of_one(view: DayView, recipe_id: str, item: Item) -> Figure:
    unit, price = view.counted(item.id), view.price(item.id)
    place = Place(recipe_id, f"item/{item.id}/price_of_one", f"{item.name}: price of 1 {unit or 'each'}")
    if unit is None or price is None:
        return unknown(place, "money", f"{item.name} is not bought by the piece alone: its price is that of a kilo")
    paid = Input(
        "price of the pack", price.offer.price, "money", price_source(view, item.id), item=item.id, offer=price.offer.id
    )
    pieces = Input(
        f"in the pack ({unit})", price.offer.pack.inner.amount * price.offer.pack.count, "", "the pack of this offer"
    )
    return reckoned(price_of_one, place, "money", price_of_the_pack=paid, pieces_in_the_pack=pieces)


def _kilos(view: DayView, item: Item) -> Input:
    price, kilos = view.price(item.id), _pack(view, "", item)
    pack = "" if price is None else price.offer.pack.text
    return Input(f"mass of the pack ({pack})", kilos.value, "kg", "the pack of this offer", kilos.figure)


def _pack(view: DayView, recipe_id: str, item: Item) -> Figure:
    price = view.price(item.id)
    pack = "" if price is None else price.offer.pack.text
    place = Place(recipe_id, f"item/{item.id}/pack_kilos", f"{item.name}: mass of the pack ({pack})")
    if price is None:
        return unknown(place, "kg", "no offer recorded")
    count, inner = price.offer.pack.count, as_weighed(price.offer.pack.inner, item, view.system)
    weight = weight_input(view, item, inner.unit)
    if price.lack is not None:
        weight = replace(weight, value=None, source=str(price.lack.said))
    return reckoned(
        kilos_of_pack, place, "kg",
        containers=Input("containers", count, "", f"the pack, {pack}"),
        amount_in_one=Input(f"in one ({inner.unit})", inner.amount, "", f"the pack, {pack}"),
        weight_of_one=weight,
    )  # fmt: skip


def weight_input(view: DayView, item: Item, unit: str) -> Input:
    """The weight of one of a unit of an item, as an input of a formula."""
    weight = view.weights.of_one(item, unit)
    known = None if isinstance(weight, Lack) else weight
    return Input(f"1 {unit} weighs", known, "g", how_weighed(item, unit))


def how_weighed(item: Item, unit: str) -> str:
    """Where the weight of one of a unit comes from."""
    measured = measured_by(item, unit)
    if measured is not None:
        known, measure = measured
        ready = " ready to use" if measure.basis == "EP" else ""
        source = measure.source or "weighed in this kitchen"
        return f"1 {known} of {item.name} weighs {measure.weighs}{ready}, {source}"
    if kind_of(unit) == "volume" and item.density is not None:
        return f"{item.name} weighs {plain(item.density)} kg per litre"
    return "a weight needs no conversion" if kind_of(unit) == "mass" else f"{item.name} has no weight for it yet"


def _usable(costing: Costing, recipe_id: str, item: Item, entry: Entry) -> Figure:
    trim = _treated(costing, recipe_id, item, entry)
    sort, of = ("cooking", entry.method) if isinstance(entry, Cooking) else ("preparation", entry.id)
    price, left = price_input(costing, item.id), yield_input(item, sort, of, entry, entry.yield_)
    before = trim_before(item, entry)
    if before is not None:
        words, own = f"a usable kilo, {before.name}", usable_kilo(costing.view, item, before)
        kilo = Input(words, own, "money/kg", "trimmed before it is cooked", f"item/{item.id}/{before.id}")
        place = trim.place("", "a usable kilo")
        return reckoned(cooked_kilo_of, place, "money/kg", known=own is not None, usable_kilo=kilo, cooking_yield=left)
    lack = None if trim.trim.lack is None else f"say {trim.trim.lack.said}"
    return reckoned(
        usable_kilo_of, trim.place("", "a usable kilo"), "money/kg", note=lack, known=lack is None,
        AP_price=price, yield_=left, share_that_it_bears=trim.share_input(),
        value_of_by__products=trim.credits_input("value of by-products of a kilo", "money"),
    )  # fmt: skip


def _treated(costing: Costing, recipe_id: str, item: Item, entry: Entry) -> TrimFigures:
    """What becomes of a purchased kilo at a treatment."""
    method = costing.view.byproduct_method(item)
    sort, of = ("cooking", entry.method) if isinstance(entry, Cooking) else ("preparation", entry.id)
    name = of if isinstance(entry, Cooking) else entry.name
    path = f"item/{item.id}/cooking/{of}" if sort == "cooking" else f"item/{item.id}/{of}"

    def place(figure: str, words: str) -> Place:
        return Place(recipe_id, f"{path}/{figure}" if figure else path, f"{item.name}, {name}: {words}")

    steps = [] if isinstance(entry, Cooking) else [stated(entry)]
    kilo = Input("a purchased kilo", Decimal(1000), "g", "what all this is reckoned for")
    return TrimFigures(place, kilo, steps, [], kilo_trimmed(costing.view, item, entry), method)
