"""Meal deals: a soup, bread and a drink together at one price."""

from __future__ import annotations

from collections.abc import Collection, Iterable

from potrel.core.errors import BadDocument
from potrel.core.frozen import dataclass
from potrel.core.kitchen.channels import refuse_date_alone
from potrel.core.kitchen.keyed import Keyed
from potrel.core.kitchen.kinds import Id, Money, Name, On
from potrel.core.kitchen.lines import Line
from potrel.core.sentences import say


@dataclass(frozen=True, slots=True)
class DealPart(Keyed):
    """One part of a deal: a serving of a recipe, at its price, or a `line` of something else, sold alone at its `price`."""

    recipe: Id | None = None
    serving: Id | None = None
    line: Line | None = None
    price: Money | None = None

    def __post_init__(self) -> None:
        if (self.recipe is None) == (self.line is None) or (self.recipe is None) != (self.serving is None):
            english = 'a part of a deal is a "serving" of a "recipe", or a "line" of something else'
            raise BadDocument("", say("deal_part", english))
        if self.line is not None and self.price is None:
            english = 'what does {what} cost alone? Its "price" shares out what the deal is sold at'
            raise BadDocument("price", say("deal_part_price", english, what=self.line.uses))
        if self.recipe is not None and self.price is not None:
            english = 'a serving is sold alone at its own price: leave the "price" of the part out'
            raise BadDocument("price", say("deal_part_priced", english))


@dataclass(frozen=True, slots=True)
class Deal(Keyed):
    """Parts that are sold together at one `price` on the card [money], in a channel (none: the kitchen's own)."""

    id: Id
    name: Name
    parts: tuple[DealPart, ...]
    price: Money | None = None
    price_set_on: On | None = None
    channel: Id | None = None

    def __post_init__(self) -> None:
        refuse_date_alone(self.price, self.price_set_on)
        if not 2 <= len(self.parts) <= 12:
            english = 'the deal "{name}" has 2 to 12 parts, not {count}'
            raise BadDocument("parts", say("deal_parts", english, name=self.name, count=len(self.parts)))


def refuse_deals_of(deals: Iterable[Deal], recipe_id: str, servings: Collection[str]) -> None:
    """BadDocument where a serving goes that a deal is made of."""
    for deal in deals:
        for part in deal.parts:
            if part.recipe == recipe_id and part.serving not in servings:
                english = 'the deal "{deal}" is made with this serving: take it out of the deal first'
                raise BadDocument("servings", say("serving_in_deal", english, deal=deal.name))
