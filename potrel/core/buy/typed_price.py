"""A price as it is typed: its number, whose it is, and whether pack and price can be recorded at all."""

from __future__ import annotations

from collections.abc import Collection, Iterable
from decimal import Decimal

from potrel.core.buy.pack_text import is_middle, understood_pack
from potrel.core.buy.weights import pack_grams
from potrel.core.errors import BadDocument, BadQuantity, Lack
from potrel.core.kitchen.integrity import refuse_unknown_unit, unknown_unit
from potrel.core.kitchen.items import Item
from potrel.core.kitchen.kinds import A_PRICE, carried
from potrel.core.kitchen.naming import id_for
from potrel.core.kitchen.quantities import Pack, parse_pack
from potrel.core.kitchen.supply import Offer, Supplier
from potrel.core.numbers.units import MeasureSystem
from potrel.core.sentences import say

# Saffron costs some ten thousand a kilo in any currency of large units; in one of small units, a hundred million.
_DEAREST_KILO = Decimal(10**9)
_THOUSAND = Decimal(1000)


def price_typed(text: str) -> Decimal:
    """A price as it was typed; BadDocument, BadQuantity or OutOfRange where it is none."""
    try:
        return carried(A_PRICE.read(A_PRICE.tidied(text.strip())))
    except ArithmeticError:
        english = '"{text}" is no price: write it as 12.50'
        raise BadDocument("price", say("price_unreadable", english, text=text[:40])) from None


def pack_typed(text: str, units: Collection[str] = frozenset()) -> Pack:
    """A pack as it was typed, as kitchens write it or as suppliers do ("5-kg-Beutel", "50#"); BadQuantity where it is none.

    `units` are those that some item of the kitchen is counted in. What was taken is written as a kitchen writes it.
    """
    wrong: BadQuantity | None = None
    try:
        pack = parse_pack(text)
        if unknown_unit(pack.inner, units) is None:
            return pack
    except BadQuantity as error:
        if error.said.code == "told_two_ways":
            raise
        wrong = error
    # Who types a pack knows what it weighs: the middle of what a list says is no answer of a person.
    told = None if is_middle(text) else understood_pack(text)
    if told is not None:
        return parse_pack(told)
    if wrong is not None:
        raise wrong
    return pack


def supplier_called(said: str, known: Iterable[Supplier]) -> Supplier | None:
    """The supplier that an id or a name means, a new one where nobody is called so; None where nothing is said."""
    name = " ".join(said.split())
    if not name:
        return None
    known = tuple(known)
    found = next((one for one in known if name == one.id or name.casefold() == one.name.casefold()), None)
    return found or Supplier(id_for(name, {one.id for one in known}), name)


def check_offer(offer: Offer, item: Item, system: MeasureSystem, units: Collection[str]) -> None:
    """BadDocument where a pack is in a unit that nobody knows, or its price is more than anything costs."""
    refuse_unknown_unit(offer.pack.inner, units)
    weight = pack_grams(offer.pack, item, system)
    if not offer.withdrawn and not isinstance(weight, Lack) and offer.price * _THOUSAND > _DEAREST_KILO * weight:
        english = "that would be more than {most} a kilo: are the pack and the price right?"
        raise BadDocument("pack", say("too_dear_a_kilo", english, most=_DEAREST_KILO))
