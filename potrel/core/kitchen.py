"""The kitchen document as dataclasses: settings, suppliers, vessels, items, offers and recipes.

One document holds a whole kitchen. A name that is a Python keyword carries a trailing underscore here and none in
the document (`yield_` is "yield", `from_` is "from"). Each class checks itself where it is made.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field
from decimal import Decimal
from typing import Annotated, ClassVar, Literal

from potrel.core.checks import check_band, refuse_twice, refuse_unless_one
from potrel.core.errors import BadDocument, OutOfRange
from potrel.core.fields import (
    ONE,
    ZERO,
    BulkText,
    Celsius,
    Currency,
    Density,
    Flag,
    Form,
    Id,
    MassText,
    Minutes,
    Money,
    Name,
    Note,
    On,
    Positive,
    PositiveShare,
    QuantityText,
    Rate,
    Share,
    Value,
    Version,
    Yield,
    plain,
)
from potrel.core.part import Part
from potrel.core.supply import Credit, Offer, Supplier
from potrel.core.units import MeasureSystem
from potrel.core.weighed import BenchTest

Basis = Literal["AP", "EP"]
ReadyUnit = Literal["kg", "l"]
_MOST_FORMS = 12
ByproductMethod = Literal["credit", "main_bears_all", "market_value", "mass"]
AllergenList = Literal["eu14", "us9"]
PricingMethod = Literal["food_cost_share", "factor", "contribution", "prime_cost_share", "full_cost"]
Rule = Literal["keep", "yield", "evaporate", "reduce", "top_up"]


@dataclass(frozen=True, slots=True)
class PriceEnding(Part):
    """How a price is rounded up: to the next multiple of `step`, or to the next price ending in one of `cents`."""

    step: Positive | None = None
    cents: tuple[Share, ...] | None = None

    def __post_init__(self) -> None:
        if (self.step is None) == (not self.cents):
            raise BadDocument("", 'a price ending takes either "step" or "cents"')
        if any(cent >= 1 for cent in self.cents or ()):
            raise BadDocument("", 'the "cents" of a price ending are parts of one, such as "0.90"')


@dataclass(frozen=True, slots=True)
class Settings(Part):
    """What holds for the whole kitchen. Shares are fractions; rates are money per hour or per kWh, net of tax."""

    seasoning_allowance: Share = ZERO
    serving_loss: Share = ZERO
    labour_rate_per_hour: Rate | None = None
    overhead_rate_per_hour: Rate | None = None
    energy_price_per_kwh: Rate | None = None
    tax_rate: Share = ZERO
    target_food_cost: PositiveShare | None = None
    price_ending: PriceEnding | None = None
    byproduct_method: ByproductMethod = "credit"
    measure_system: MeasureSystem = "us"
    old_price_days: Minutes = Decimal(60)
    allergen_list: AllergenList = "eu14"

    def __post_init__(self) -> None:
        if self.serving_loss >= 1:
            raise OutOfRange("a serving loss", self.serving_loss, "less than 1")


@dataclass(frozen=True, slots=True)
class Vessel(Part):
    """A pot, kettle, pan, tray or blender; `capacity` is what it holds, a volume or (for trays) a mass."""

    id: Id
    name: Name
    capacity: BulkText | None = None


@dataclass(frozen=True, slots=True)
class Byproduct(Part):
    """A part of the mass that enters a preparation, with a use and a value per kilo (0 waste, negative disposal)."""

    name: Name
    share: Share
    value_per_kg: Value = ZERO
    use: Name | None = None


@dataclass(frozen=True, slots=True)
class Preparation(Part):
    """A treatment before the pot: `yield` is EP over AP (over 1 where it takes up water), with its band and source.

    `minutes_per_kg` is the labour of trimming a kilo of what enters it; `value_per_kg` what a usable kilo is worth,
    for sharing the cost by market value.
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

    def __post_init__(self) -> None:
        check_band(f'the yield of "{self.name}"', self.yield_, self.low, self.high)
        shares = sum((b.share for b in self.byproducts), ZERO)
        if self.yield_ <= 1 and self.yield_ + shares > 1:
            what = f'the yield of "{self.name}" plus the shares of its by-products'
            raise OutOfRange(what, self.yield_ + shares, "at most 1")


@dataclass(frozen=True, slots=True)
class Cooking(Part):
    """What one item weighs after a cooking method, as a share of what went in."""

    method: Name
    yield_: Yield
    low: Yield | None = None
    high: Yield | None = None
    source: Name | None = None

    def __post_init__(self) -> None:
        check_band(f'the yield of "{self.method}"', self.yield_, self.low, self.high)


@dataclass(frozen=True, slots=True)
class Item(Part):
    """Something bought. `density` is kg per litre; `measures` give the weight of one of each count unit.

    Of a stock base or cube, `ready_litres_per_kg` is what a kilo makes with water; `salt_share` is its salt by mass.
    `byproduct_method` is how its trimmings share its cost, where that is not as the kitchen does it.
    """

    id: Id
    name: Name
    kind: Name
    density: Density | None = None
    preferred_supplier: Id | None = None
    measures: dict[Name, MassText] = field(default_factory=dict)
    preparations: tuple[Preparation, ...] = ()
    cooking: tuple[Cooking, ...] = ()
    allergens: tuple[Name, ...] = ()
    ready_litres_per_kg: Positive | None = None
    salt_share: Share | None = None
    byproduct_method: ByproductMethod | None = None

    def __post_init__(self) -> None:
        refuse_twice("preparation", (p.id for p in self.preparations))
        refuse_twice("cooking method", (c.method for c in self.cooking))


def _listed(preparation: str | tuple[str, ...] | None) -> tuple[str, ...]:
    return (preparation,) if isinstance(preparation, str) else preparation or ()


@dataclass(frozen=True, slots=True)
class Line(Part):
    """So much of an item or of another recipe, on the AP basis (as bought) or EP (as it goes in).

    With `byproduct`, it is not the thing itself but what is left of it elsewhere: what falls off an item at its
    preparation, or what is taken out of a recipe, by its name, at what it is worth.
    """

    quantity: QuantityText
    item: Id | None = None
    recipe: Id | None = None
    id: Id | None = None
    basis: Basis = "AP"
    preparation: Id | tuple[Id, ...] | None = None
    cook_yield: Yield | None = None
    byproduct: Name | None = None

    def __post_init__(self) -> None:
        refuse_unless_one("a line", self.item, self.recipe)
        if self.recipe is not None and self.preparation is not None:
            raise BadDocument("preparation", "a recipe used as a line has no preparation: write a stage for it")
        if isinstance(self.preparation, tuple) and len(self.preparation) < 2:
            # One way to write one preparation, so that equal lines compare equal.
            object.__setattr__(self, "preparation", self.preparation[0] if self.preparation else None)
        if self.byproduct is not None and self.item is not None and self.preparation is None:
            raise BadDocument("preparation", f'"{self.byproduct}" falls off at a preparation: name that too')

    @property
    def uses(self) -> str:
        """The id of the item or recipe."""
        return self.item or self.recipe or ""

    @property
    def preparations(self) -> tuple[str, ...]:
        """The ids of the preparations, in the order in which they are done."""
        return _listed(self.preparation)


@dataclass(frozen=True, slots=True)
class Inflow(Part):
    """The share of an earlier stage's output that a stage takes."""

    stage: Id
    share: PositiveShare = ONE


@dataclass(frozen=True, slots=True)
class TopUpWith(Part):
    """What a stage is topped up with."""

    item: Id | None = None
    recipe: Id | None = None
    preparation: Id | tuple[Id, ...] | None = None

    def __post_init__(self) -> None:
        refuse_unless_one("a top-up", self.item, self.recipe)

    @property
    def preparations(self) -> tuple[str, ...]:
        """The ids of the preparations, in the order in which they are done."""
        return _listed(self.preparation)


@dataclass(frozen=True, slots=True)
class Change(Part):
    """What happens to the mass of a stage, by one of five rules."""

    rule: Rule = "keep"
    yield_: Yield | None = None
    per_hour: Share | None = None
    kg_per_hour: Rate | None = None
    to: BulkText | None = None
    with_: TopUpWith | None = None

    _takes: ClassVar[dict[str, tuple[frozenset[str], ...]]] = {
        "keep": (frozenset(),),
        "yield": (frozenset({"yield"}),),
        "evaporate": (frozenset({"per_hour"}), frozenset({"kg_per_hour"})),
        "reduce": (frozenset({"to"}),),
        "top_up": (frozenset({"to", "with"}),),
    }

    def __post_init__(self) -> None:
        given = {"yield": self.yield_, "per_hour": self.per_hour, "kg_per_hour": self.kg_per_hour, "to": self.to}
        keys = {key for key, value in given.items() if value is not None} | ({"with"} if self.with_ else set())
        if keys not in self._takes[self.rule]:
            wanted = " or ".join(" and ".join(sorted(keys)) or "nothing more" for keys in self._takes[self.rule])
            raise BadDocument("", f'the rule "{self.rule}" takes {wanted}, not {", ".join(sorted(keys)) or "nothing"}')


KEEP = Change()


@dataclass(frozen=True, slots=True)
class TakeOut(Part):
    """Something strained, skimmed or picked out: a given mass, or the spent remains of named lines."""

    name: Name
    mass: MassText | None = None
    of: tuple[Id, ...] = ()
    spent_factor: Yield | None = None
    value_per_kg: Value = ZERO
    use: Name | None = None

    def __post_init__(self) -> None:
        if (self.mass is None) == (not self.of):
            raise BadDocument("", f'the take-out "{self.name}" has either a "mass" or the lines it is made "of"')
        if bool(self.of) != (self.spent_factor is not None):
            raise BadDocument("", f'the take-out "{self.name}" needs a "spent_factor" with "of", and only then')


@dataclass(frozen=True, slots=True)
class Stage(Part):
    """One tray or pot on the way: what goes in, what happens to it, what is taken out and what sticks.

    `value_per_kg` is what a kilo of what goes on is worth, for sharing the cost with the take-outs by market value.
    """

    id: Id
    name: Name | None = None
    method: Name | None = None
    vessel: Id | None = None
    lid: Literal["on", "off", "ajar"] | None = None
    temperature_c: Celsius | None = None
    minutes: Minutes | None = None
    attended_minutes: Minutes = ZERO
    energy_kwh: Rate | None = None
    from_: tuple[Inflow, ...] = ()
    lines: tuple[Line, ...] = ()
    change: Change = KEEP
    take_out: tuple[TakeOut, ...] = ()
    residue: Share = ZERO
    note: Note | None = None
    value_per_kg: Positive | None = None


@dataclass(frozen=True, slots=True)
class Pricing(Part):
    """How a selling price follows from cost."""

    method: PricingMethod
    share: PositiveShare | None = None
    factor: Positive | None = None
    amount: Rate | None = None
    overhead_share: Share | None = None
    profit_share: Share | None = None

    _takes: ClassVar[dict[str, frozenset[str]]] = {
        "food_cost_share": frozenset({"share"}),
        "prime_cost_share": frozenset({"share"}),
        "factor": frozenset({"factor"}),
        "contribution": frozenset({"amount"}),
        "full_cost": frozenset({"overhead_share", "profit_share"}),
    }

    def __post_init__(self) -> None:
        names = ("share", "factor", "amount", "overhead_share", "profit_share")
        given = {name for name in names if getattr(self, name) is not None}
        wanted = self._takes[self.method]
        if given != wanted:
            raise BadDocument("", f'pricing by "{self.method}" takes {" and ".join(sorted(wanted))}')
        if (self.overhead_share or ZERO) + (self.profit_share or ZERO) >= 1:
            raise OutOfRange("overhead and profit share together", self.overhead_share, "less than 1")


@dataclass(frozen=True, slots=True)
class Serving(Part):
    """One size in which a recipe is sold, with what is added to each portion and how it is priced."""

    id: Id
    name: Name
    size: BulkText
    garnish: tuple[Line, ...] = ()
    accompaniments: tuple[Line, ...] = ()
    packaging: tuple[Line, ...] = ()
    portioning_seconds: Minutes = ZERO
    pricing: Pricing | None = None
    commission: Share = ZERO
    price: Money | None = None
    price_set_on: On | None = None

    def __post_init__(self) -> None:
        if self.commission >= 1:
            raise OutOfRange("a commission", self.commission, "less than 1")
        if self.price_set_on is not None and self.price is None:
            raise BadDocument("price_set_on", 'a date without a price: give the "price" that was set that day')

    @property
    def extras(self) -> Iterator[tuple[str, Line]]:
        """Each line that is costed per portion, with what it is there for."""
        for role in ("garnish", "accompaniments", "packaging"):
            for line in getattr(self, role):
                yield role, line


@dataclass(frozen=True, slots=True)
class MeasuredYield(Part):
    """What a batch really gave, and when."""

    quantity: BulkText
    on: On


@dataclass(frozen=True, slots=True)
class Recipe(Part):
    """A soup, stew or stock: stages in order, and the servings it is sold in (none for a base)."""

    id: Id
    name: Name
    density: Density = ONE
    stages: tuple[Stage, ...] = ()
    servings: tuple[Serving, ...] = ()
    seasoning_allowance: Share | None = None
    measured_yield: MeasuredYield | None = None
    use_measured_yield: Flag = False
    note: Note | None = None

    def __post_init__(self) -> None:
        refuse_twice("stage", (s.id for s in self.stages))
        refuse_twice("serving", (s.id for s in self.servings))
        refuse_twice("line", (line.id for s in self.stages for line in s.lines if line.id))
        if self.use_measured_yield and self.measured_yield is None:
            raise BadDocument("use_measured_yield", 'there is no "measured_yield" to use')
        self._check_inflows()

    def _check_inflows(self) -> None:
        taken: dict[str, Decimal] = {}
        for stage in self.stages:
            for inflow in stage.from_:
                if inflow.stage not in taken:
                    raise BadDocument("", f'stage "{stage.id}" takes from "{inflow.stage}", which is no earlier stage')
                taken[inflow.stage] += inflow.share
                if taken[inflow.stage] > 1:
                    share = plain(taken[inflow.stage])
                    raise BadDocument("", f'{share} of stage "{inflow.stage}" is taken: all shares together are at most 1')
            taken[stage.id] = ZERO

    def line_ids(self) -> list[str]:
        """An id for every stage line, in their order: its own, else that of what it uses, made unique."""
        used = {line.id for stage in self.stages for line in stage.lines if line.id}
        ids: list[str] = []
        for stage in self.stages:
            for line in stage.lines:
                name, count = line.id, 1
                if not name:
                    name = line.uses
                    while name in used:
                        count += 1
                        name = f"{line.uses}-{count}"
                    used.add(name)
                ids.append(name)
        return ids

    def take_outs(self) -> Iterator[TakeOut]:
        """All that is taken out, in order."""
        for stage in self.stages:
            yield from stage.take_out

    def all_lines(self) -> Iterator[Line]:
        """Every line: in the stages, and on each serving."""
        for stage in self.stages:
            yield from stage.lines
        for serving in self.servings:
            for _, line in serving.extras:
                yield line

    def uses(self) -> frozenset[str]:
        """The ids of the recipes that this one contains."""
        used: set[str | None] = set()
        for stage in self.stages:
            used.update([line.recipe for line in stage.lines])
            if stage.change.with_ is not None:
                used.add(stage.change.with_.recipe)
        for serving in self.servings:
            used.update([line.recipe for _, line in serving.extras])
        return frozenset(one for one in used if one is not None)


@dataclass(frozen=True, slots=True)
class Comparison(Part):
    """Forms in which one need can be met, kept to be compared again, by the usable kilo or the ready litre.

    A form may name what the kitchen no longer has: the comparison then says so.
    """

    id: Id
    name: Name
    forms: tuple[Form, ...]
    unit: ReadyUnit = "kg"

    def __post_init__(self) -> None:
        if not 1 <= len(self.forms) <= _MOST_FORMS or len(set(self.forms)) < len(self.forms):
            raise BadDocument("forms", f"a comparison holds 1 to {_MOST_FORMS} forms, each once")


@dataclass(frozen=True, slots=True)
class Kitchen(Part):
    """A whole kitchen."""

    format: Literal["potrel-kitchen"]
    version: Annotated[Literal[1], Version()]
    name: Name
    currency: Currency
    settings: Settings = Settings()
    suppliers: tuple[Supplier, ...] = ()
    vessels: tuple[Vessel, ...] = ()
    items: tuple[Item, ...] = ()
    offers: tuple[Offer, ...] = ()
    recipes: tuple[Recipe, ...] = ()
    credits: tuple[Credit, ...] = ()
    tests: tuple[BenchTest, ...] = ()
    comparisons: tuple[Comparison, ...] = ()
