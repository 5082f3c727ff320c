"""How a figure came about: its formula in words, the numbers in it, and where each number came from."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal

from potrel.core.byproducts import trimmed
from potrel.core.costing import Costing
from potrel.core.facts import Facts
from potrel.core.fields import Computed
from potrel.core.kitchen import ByproductMethod
from potrel.core.part import Part

_THOUSAND = Decimal(1000)


@dataclass(frozen=True, slots=True)
class Input(Part):
    """One number of a formula. `figure` leads to its own working, `recipe` says of which recipe where it is another."""

    name: str
    value: Computed | None
    unit: str
    source: str
    figure: str | None = None
    recipe: str | None = None


@dataclass(frozen=True, slots=True)
class Working(Part):
    """The working of one figure. `unit` is g, ml, min, share, money, money/kg, money/l or empty for a plain number."""

    recipe: str
    figure: str
    title: str
    value: Computed | None
    unit: str
    formula: str
    inputs: Sequence[Input] = ()
    note: str | None = None


def price_source(facts: Facts, item_id: str) -> str:
    """Where the price of an item comes from, in words: the offer in force."""
    price = facts.price(item_id)
    if price is None:
        return "no offer recorded"
    offer = price.offer
    supplier = facts.suppliers[offer.supplier].name if offer.supplier in facts.suppliers else offer.supplier
    return f"offer of {supplier}, {offer.pack}, of {offer.on.isoformat()}"


def price_input(costing: Costing, item_id: str) -> Input:
    """The AP price of an item, as an input of a formula."""
    per_gram = costing.per_gram(item_id)
    return Input(
        f"AP price of {costing.facts.name_of(item_id)}",
        None if per_gram is None else per_gram * _THOUSAND,
        "money/kg",
        price_source(costing.facts, item_id),
        f"item/{item_id}/price_per_kg",
    )


def explain_item(costing: Costing, recipe_id: str, item_id: str, name: str) -> Working | None:
    """The working of an item's AP price, or of its usable kilo after a preparation."""
    facts = costing.facts
    item, price, per_gram = facts.items.get(item_id), facts.price(item_id), costing.per_gram(item_id)
    if item is None:
        return None
    figure = f"item/{item_id}/{name}"
    if name == "price_per_kg":
        inputs: list[Input] = []
        if price is not None and per_gram is not None:
            source = price_source(facts, item_id)
            mass = price.offer.price / per_gram if per_gram else None
            inputs = [
                Input("price of the pack", price.offer.price, "money", source),
                Input(f"mass of the pack ({price.offer.pack})", mass, "g", source),
            ]
        value = None if per_gram is None else per_gram * _THOUSAND
        title = f"{item.name}: AP price per kilo"
        return Working(recipe_id, figure, title, value, "money/kg", "price of the pack / mass of the pack", inputs)
    preparation = facts.preparation(item, name)
    if preparation is None:
        return None
    trim = trimmed(_THOUSAND, [preparation], facts.byproduct_method(item))
    value = None
    if per_gram is not None and trim.lack is None:
        value = trim.cost(per_gram * _THOUSAND) / preparation.yield_
    inputs = [
        price_input(costing, item_id),
        Input("value of by-products", trim.credit, "money/kg", "shares and values of the preparation"),
        Input("yield", preparation.yield_, "share", preparation.source or "no source given"),
    ]
    formula = "(AP price - value of the by-products of a purchased kilo) / yield"
    if trim.share != 1:
        formula = "(AP price * share that it bears - value of the by-products of a purchased kilo) / yield"
        inputs.insert(1, share_input(trim.share, facts.byproduct_method(item), trim.lack))
    return Working(recipe_id, figure, f"{item.name}, {preparation.name}: a usable kilo", value, "money/kg", formula, inputs)


def explain_cooked(costing: Costing, recipe_id: str, item_id: str, method: str) -> Working | None:
    """The working of a usable kilo of an item after a treatment by heat alone."""
    item, per_kg = costing.facts.items.get(item_id), costing.per_kg(item_id)
    entry = costing.facts.cooking(item, method) if item is not None else None
    if item is None or entry is None:
        return None
    inputs = [price_input(costing, item_id), Input("yield", entry.yield_, "share", entry.source or "no source given")]
    value = None if per_kg is None else per_kg / entry.yield_
    title = f"{item.name}, {method}: a usable kilo"
    return Working(recipe_id, f"item/{item_id}/cooking/{method}", title, value, "money/kg", "AP price / yield", inputs)


def share_input(share: Decimal, method: ByproductMethod, lack: str | None = None) -> Input:
    """The share of a cost that the main product bears, beside its by-products."""
    words = "by mass * value, with the by-products" if method == "market_value" else "by mass, with the by-products"
    return Input("share that it bears", None if lack else share, "share", f"not known: say {lack}" if lack else words)
