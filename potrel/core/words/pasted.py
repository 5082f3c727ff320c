"""What is said of a recipe from paper and what comes of it: answers, goods, lines, what is asked, and the pot."""

from __future__ import annotations

from dataclasses import field
from typing import Literal

from potrel.core.frozen import dataclass
from potrel.core.kitchen.items import Item
from potrel.core.kitchen.keyed import Keyed
from potrel.core.kitchen.kinds import Cell, Computed, Flag, Id, Name, Note, Positive
from potrel.core.kitchen.recipes import Recipe
from potrel.core.kitchen.supply import Offer, Supplier
from potrel.core.words.typed_line import TypedLine

# By what the size of a portion goes where a text says both how many there are and how large each is.
PortionBy = Literal["count", "size"]


@dataclass(frozen=True, slots=True)
class LineAnswer(Keyed):
    """What a line of the text means, by its key: an item or recipe of the kitchen, one of the shelf, a new item of a name and
    `kind`; what it should have said instead; in which vessel it is poured so that it covers; or that it is left out.
    """

    line: Note
    item: Id | None = None
    recipe: Id | None = None
    shelf: Id | None = None
    new: Name | None = None
    kind: Name | None = None
    text: Note | None = None
    vessel: Id | None = None
    left_out: Flag = False


@dataclass(frozen=True, slots=True)
class Goods(Keyed):
    """What is told of an item that the pot uses, all as it was typed: its pack, its price, its supplier (an id or a name, which
    may be a new one), and weights of measures.
    """

    item: Id
    pack: Cell = ""
    price: Cell = ""
    supplier: Cell = ""
    weights: dict[Name, Cell] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class PortionAnswer(Keyed):
    """By what the size of a portion goes. It answers what the text said then, so many portions of such a size, and no other."""

    portions: Positive
    said: Cell
    by: PortionBy


@dataclass(frozen=True, slots=True)
class PastedLine:
    """A line of the text, and what was understood. `is_open` tells that it has to be answered or left out.

    `key` is the text itself, with a number from the second line of the same text on: an answer stays with what it answers
    while the text above it changes.
    """

    key: str
    stage: int
    text: str
    typed: TypedLine
    is_open: bool
    left_out: bool


@dataclass(frozen=True, slots=True)
class AskedGoods:
    """An item of the pot that lacks a price or weights. `allergens` are what the label of a new one is to be read for;
    `problem` says what is wrong with what was told of it.
    """

    item: Id
    name: Name
    kind: Name
    allergens: list[Name]
    is_new: bool
    from_shelf: bool
    has_price: bool
    weights: list[str]
    supplier: str
    problem: str | None


@dataclass(frozen=True, slots=True)
class AskedPortion:
    """How many portions a text says there are, and what size that makes; `said` is the size that it says itself.

    Where the two differ, `by` says which holds, None until somebody says so. While the batch is not known, `size` is None.
    """

    portions: Computed
    size: Cell | None
    said: Cell | None
    by: PortionBy | None

    @property
    def is_open(self) -> bool:
        """Whether somebody has to say which holds."""
        return self.by is None


@dataclass(frozen=True, slots=True)
class Pasted:
    """All that comes of a text: the pot, and what has to be saved with it."""

    recipe: Recipe
    lines: list[PastedLine]
    portion: AskedPortion | None
    goods: list[AskedGoods]
    items: list[Item]
    changed: list[Item]
    suppliers: list[Supplier]
    offers: list[Offer]

    @property
    def open(self) -> int:
        """How many lines wait for an answer, the portion with them."""
        return sum(one.is_open for one in self.lines) + int(self.portion is not None and self.portion.is_open)
