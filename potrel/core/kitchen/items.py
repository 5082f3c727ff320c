"""What is bought, with its weights, yields and composition."""

from __future__ import annotations

from dataclasses import field, replace
from decimal import Decimal
from typing import Annotated, Literal

from potrel.core.errors import BadDocument, OutOfRange
from potrel.core.frozen import dataclass
from potrel.core.kitchen.checks import check_band, refuse_twice
from potrel.core.kitchen.composition import UNKNOWN, Composition
from potrel.core.kitchen.keyed import Keyed
from potrel.core.kitchen.kinds import (
    A_MASS,
    ONE,
    ZERO,
    Amount,
    Density,
    Flag,
    Gtin,
    Id,
    Mass,
    Minutes,
    Name,
    On,
    Positive,
    Share,
    Shorthand,
    Value,
    Yield,
)  # fmt: skip
from potrel.core.kitchen.provenance import Provenance, read_source
from potrel.core.numbers.rounding import exceeds
from potrel.core.sentences import say

LossTo = Literal["air", "pot"]
ByproductMethod = Literal["credit", "main_bears_all", "market_value", "mass"]
Basis = Literal["AP", "EP"]
# How strongly a gram thickens, by a gram of flour in a white roux.
Strength = Annotated[Decimal, Amount("a strength", low=ZERO, high=Decimal(20))]
# What holds as much salt is salt.
_PURE = Decimal("0.9")


@dataclass(frozen=True, slots=True)
class Measure(Keyed):
    """What one of a count unit weighs, of the thing as purchased (AP) or ready to use (EP), with its band and source.

    Without a source it was weighed in this kitchen.
    """

    weighs: Mass
    basis: Basis = "AP"
    low: Mass | None = None
    high: Mass | None = None
    source: Name | None = None

    def __post_init__(self) -> None:
        band = [None if end is None else end.grams() for end in (self.low, self.high)]
        check_band("the weight of one", self.weighs.grams(), *band)

    def grams(self) -> Decimal:
        """What one weighs [g]."""
        return self.weighs.grams()

    @property
    def is_of_us_data(self) -> bool:
        """Whether it comes from data that weigh American cups and spoons, whatever the kitchen's own hold."""
        return self.source is not None and self.source.startswith("USDA")


def _read_measure(text: str) -> Measure:
    return Measure(A_MASS.read(text))


def _written_measure(measure: Measure) -> str | None:
    """A measure as its weight alone, where that says all of it."""
    return measure.weighs.text if measure == Measure(measure.weighs) else None


AnyMeasure = Annotated[Measure, Shorthand(_read_measure, _written_measure)]


@dataclass(frozen=True, slots=True)
class Byproduct(Keyed):
    """A part of the mass that enters a preparation, with a use and a value per kilo (0 waste, negative disposal)."""

    name: Name
    share: Share
    value_per_kg: Value = ZERO
    use: Name | None = None


class _Rested:
    """What a stated yield rests on: the words of its `source`, and the provenance where it is not as they say."""

    __slots__ = ()
    source: str | None
    provenance: Provenance | None

    def _settle(self) -> None:
        # One way to say it, so that equal yields compare equal: what the words say already is not said twice.
        if self.provenance == read_source(self.source):
            object.__setattr__(self, "provenance", None)

    @property
    def rests_on(self) -> Provenance:
        """What it rests on."""
        return read_source(self.source) if self.provenance is None else self.provenance


@dataclass(frozen=True, slots=True)
class Preparation(_Rested, Keyed):
    """A treatment before the pot: `yield` is EP over AP (over 1 where it takes up water), with its band and source.

    `minutes_per_kg` is the labour of trimming a kilo of what enters it; `value_per_kg` what a usable kilo is worth,
    for sharing the cost by market value. Of salt it leaves the share `salt_kept`: what is soaked or squeezed gives it up.
    """

    id: Id
    name: Name
    yield_: Yield
    low: Yield | None = None
    high: Yield | None = None
    source: Name | None = None
    byproducts: tuple[Byproduct, ...] = ()
    minutes_per_kg: Minutes | None = None
    value_per_kg: Positive | None = None
    provenance: Provenance | None = None
    salt_kept: Share | None = None

    def __post_init__(self) -> None:
        check_band(f'the yield of "{self.name}"', self.yield_, self.low, self.high)
        shares = sum((b.share for b in self.byproducts), ZERO)
        if self.yield_ <= 1 and exceeds(self.yield_ + shares, ONE):
            what = f'the yield of "{self.name}" plus the shares of its by-products'
            raise OutOfRange(what, self.yield_ + shares, "at most 1")
        self._settle()


@dataclass(frozen=True, slots=True)
class Cooking(_Rested, Keyed):
    """What one item weighs after a cooking method, as a share of what went in.

    `loss_to` says where the difference goes, where that is not as the method's default says: up in the "air", or into the
    "pot" as juice, liquor or fat (a yield over 1 then drinks from the pot). Of what goes into the air, `rendered` is the
    share that is fat and stays in the pot.
    """

    method: Name
    yield_: Yield
    low: Yield | None = None
    high: Yield | None = None
    source: Name | None = None
    loss_to: LossTo | None = None
    rendered: Share = ZERO
    provenance: Provenance | None = None

    def __post_init__(self) -> None:
        check_band(f'the yield of "{self.method}"', self.yield_, self.low, self.high)
        self._settle()


Entry = Preparation | Cooking


def soaking_of(item: Item) -> Preparation | None:
    """How a pulse is soaked, where the kitchen says; None of anything else."""
    if item.kind != "pulse":
        return None
    return next((one for one in item.preparations if one.yield_ > 1 and "soak" in one.name.lower()), None)


@dataclass(frozen=True, slots=True)
class AllergenCheck(Keyed):
    """Somebody read the label: when, who, and of which article (its supplier, that one's code, its GTIN). It holds for that."""

    on: On
    by: Name
    supplier: Id | None = None
    code: Name | None = None
    gtin: Gtin | None = None


@dataclass(frozen=True, slots=True)
class Item(Keyed):
    """Something bought. `density` is kg per litre; `measures` give the weight of one of each count unit.

    Of a stock base or cube, `ready_litres_per_kg` is what a kilo makes with water. `thickening` is how strongly a gram of it
    thickens, by a gram of flour in a white roux; `origin` what it comes from (plant, milk, egg, fish, pork, …): none means
    that nobody said. `salt_share` is an older way to say the `salt_g` of its composition, and is read as that.
    `byproduct_method` is how its trimmings share its cost, where that is not as the kitchen does it.
    No allergens and no `allergen_check` means that nobody looked, never that there are none.
    `bone_share` is what of it as bought is bone, shell or carcass: its composition counts on the rest.
    One that is `archived` is bought no more: it stays where it is used, and is offered nowhere.
    """

    id: Id
    name: Name
    kind: Name
    density: Density | None = None
    preferred_supplier: Id | None = None
    measures: dict[Name, AnyMeasure] = field(default_factory=dict)
    preparations: tuple[Preparation, ...] = ()
    cooking: tuple[Cooking, ...] = ()
    allergens: tuple[Name, ...] = ()
    ready_litres_per_kg: Positive | None = None
    salt_share: Share | None = None
    byproduct_method: ByproductMethod | None = None
    allergen_check: AllergenCheck | None = None
    archived: Flag = False
    origin: tuple[Name, ...] = ()
    thickening: Strength | None = None
    composition: Composition = UNKNOWN
    bone_share: Share | None = None

    def __post_init__(self) -> None:
        refuse_twice("preparation", (p.id for p in self.preparations))
        refuse_twice("cooking method", (c.method for c in self.cooking))
        if self.salt_share is not None:
            self._read_salt_share(self.salt_share * 100)

    def _read_salt_share(self, salt_g: Decimal) -> None:
        said = self.composition.salt_g
        if said is not None and said != salt_g:
            english = 'the "salt_share" of "{item}" is not the "salt_g" of its composition: leave it out'
            raise BadDocument("salt_share", say("salt_said_twice", english, item=self.name))
        # One way to say it, so that equal items compare equal.
        object.__setattr__(self, "composition", replace(self.composition, salt_g=salt_g))
        object.__setattr__(self, "salt_share", None)

    @property
    def salt(self) -> Decimal | None:
        """Its salt by mass [share]; None where that is not known."""
        return None if self.composition.salt_g is None else self.composition.salt_g / 100

    @property
    def is_salt(self) -> bool:
        """Whether it is salt, and nothing else to speak of."""
        return (self.salt or 0) >= _PURE
