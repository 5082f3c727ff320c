"""Recipes: stages in order, from trays and pans to the pot; what changes there, what is taken out, what is served."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace
from decimal import Decimal
from typing import ClassVar, Literal

from potrel.core.errors import BadDocument
from potrel.core.frozen import dataclass
from potrel.core.kitchen.checks import refuse_twice, refuse_unless_one
from potrel.core.kitchen.keyed import Keyed
from potrel.core.kitchen.kinds import (
    ONE,
    ZERO,
    Bulk,
    Celsius,
    Density,
    Flag,
    Id,
    Mass,
    Minutes,
    Name,
    Note,
    On,
    Positive,
    PositiveShare,
    Rate,
    Share,
    Value,
    Yield,
    plain,
)
from potrel.core.kitchen.lines import Line, Roux, listed
from potrel.core.kitchen.pricing import Pricing, refuse_methods_twice
from potrel.core.kitchen.servings import Serving
from potrel.core.kitchen.vessels import Depth, Heat, Lid
from potrel.core.sentences import say

Rule = Literal["keep", "yield", "evaporate", "reduce", "top_up"]
YieldBasis = Literal["computed", "written", "measured"]


@dataclass(frozen=True, slots=True)
class Inflow(Keyed):
    """The share of an earlier stage's output that a stage takes."""

    stage: Id
    share: PositiveShare = ONE


@dataclass(frozen=True, slots=True)
class TopUpWith(Keyed):
    """What a stage is topped up with."""

    item: Id | None = None
    recipe: Id | None = None
    preparation: Id | tuple[Id, ...] | None = None

    def __post_init__(self) -> None:
        refuse_unless_one("a top-up", self.item, self.recipe)

    @property
    def preparations(self) -> tuple[str, ...]:
        """The ids of the preparations, in the order in which they are done."""
        return listed(self.preparation)


@dataclass(frozen=True, slots=True)
class Change(Keyed):
    """What happens to the mass of a stage, by one of five rules.

    Evaporation is stated (a share or kilos an hour), or reckoned `by` the "vessel": its surface, its lid, its heat.
    """

    rule: Rule = "keep"
    yield_: Yield | None = None
    per_hour: Share | None = None
    kg_per_hour: Rate | None = None
    to: Bulk | None = None
    with_: TopUpWith | None = None
    by: Literal["vessel"] | None = None

    _takes: ClassVar[dict[str, tuple[frozenset[str], ...]]] = {
        "keep": (frozenset(),),
        "yield": (frozenset({"yield"}),),
        "evaporate": (frozenset({"per_hour"}), frozenset({"kg_per_hour"}), frozenset({"by"})),
        "reduce": (frozenset({"to"}),),
        "top_up": (frozenset({"to", "with"}),),
    }

    def __post_init__(self) -> None:
        given = {"yield": self.yield_, "per_hour": self.per_hour, "kg_per_hour": self.kg_per_hour, "to": self.to, "by": self.by}
        keys = {key for key, value in given.items() if value is not None} | ({"with"} if self.with_ else set())
        if keys not in self._takes[self.rule]:
            wanted = " or ".join(" and ".join(sorted(keys)) or "nothing more" for keys in self._takes[self.rule])
            english = 'the rule "{rule}" takes {wanted}, not {given}'
            message = say("rule_takes", english, rule=self.rule, wanted=wanted, given=", ".join(sorted(keys)) or "nothing")
            raise BadDocument("", message)


KEEP = Change()


@dataclass(frozen=True, slots=True)
class TakeOut(Keyed):
    """Something strained, skimmed or picked out: a given mass, or the spent remains of named lines.

    It is kept for garnish where a serving of its own recipe has it: that serving bears what it costs. Salt and alcohol of the
    pot go with it, but where it is `dry`: as bones are, and lifted fat, where nothing is said. Without a `spent_factor` the
    lines it is made `of` come out as heavy as their cooking left them. `assumed` is what a reader of paper ticked, and nobody
    has said yet.
    """

    name: Name
    mass: Mass | None = None
    of: tuple[Id, ...] = ()
    spent_factor: Yield | None = None
    value_per_kg: Value = ZERO
    use: Name | None = None
    dry: Flag | None = None
    assumed: Flag = False

    def __post_init__(self) -> None:
        if (self.mass is None) == (not self.of):
            english = 'the take-out "{name}" has either a "mass" or the lines it is made "of"'
            raise BadDocument("", say("mass_or_of", english, name=self.name))
        if self.spent_factor is not None and not self.of:
            english = 'the take-out "{name}" has a "spent_factor" with "of" only'
            raise BadDocument("", say("spent_factor_with_of", english, name=self.name))


@dataclass(frozen=True, slots=True)
class CameOut(Keyed):
    """What a stage handed on when somebody weighed or measured it, or dipped a stick in its vessel [cm]; and when."""

    on: On
    quantity: Bulk | None = None
    depth_cm: Depth | None = None

    def __post_init__(self) -> None:
        if (self.quantity is None) == (self.depth_cm is None):
            english = 'what came out is either a "quantity" or a "depth_cm"'
            raise BadDocument("", say("quantity_or_depth", english))


@dataclass(frozen=True, slots=True)
class Stage(Keyed):
    """One tray or pot on the way: what goes in, what happens to it, what is taken out and what sticks.

    `value_per_kg` is what a kilo of what goes on is worth, for sharing the cost with the take-outs by market value.
    `heat` or `temperature_c` [C] is how hot it is kept (in an oven or a pan, how hot that is); `power_share` is how far the
    flame is turned up, and `start_c` [C] what it starts from where that is not what was put in and what flows in. Under a
    `fat_layer` it steams half as much; `open_minutes` are those without its lid where it is covered, then open. `flamed` burns
    spirits off. What is `in_oven` is heated by its air, whatever vessel it stands in. What `came_out` counts in the place of
    what its rule reckons, until that is let go. Flour fried there is a `roux` so dark, where its line says nothing else.
    """

    id: Id
    name: Name | None = None
    method: Name | None = None
    vessel: Id | None = None
    lid: Lid | None = None
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
    heat: Heat | None = None
    power_share: PositiveShare | None = None
    fat_layer: Flag = False
    start_c: Celsius | None = None
    open_minutes: Minutes | None = None
    flamed: Flag = False
    in_oven: Flag = False
    came_out: CameOut | None = None
    roux: Roux | None = None


@dataclass(frozen=True, slots=True)
class MeasuredYield(Keyed):
    """What a batch really gave, and when."""

    quantity: Bulk
    on: On


@dataclass(frozen=True, slots=True)
class Recipe(Keyed):
    """A soup, stew or stock: stages in order, and the servings it is sold in (none for a base).

    `allowance_covers` names what the seasoning allowance stands for: celery salt, curry powder, a sauce. `consumables` are
    used up by each batch beside the pot: foil, filters, cloths. It may be a `variant_of` another, and keeps stages of its own.
    Where `prep_minutes` is said, the minutes that its preparations take a kilo count beside those of its stages. Its `pricings`
    are its own terms for some schools of pricing, in the place of the kitchen's. `written_yield` is what a written recipe says
    it makes: it counts in the place of what the pot reckons, until a batch was measured and that is used.
    """

    id: Id
    name: Name
    density: Density = ONE
    stages: tuple[Stage, ...] = ()
    servings: tuple[Serving, ...] = ()
    seasoning_allowance: Share | None = None
    measured_yield: MeasuredYield | None = None
    use_measured_yield: Flag = False
    note: Note | None = None
    allowance_covers: tuple[Name, ...] = ()
    consumables: tuple[Line, ...] = ()
    variant_of: Id | None = None
    prep_minutes: Flag = False
    pricings: tuple[Pricing, ...] = ()
    written_yield: Bulk | None = None

    def __post_init__(self) -> None:
        if self.variant_of == self.id:
            raise BadDocument(
                "variant_of", say("variant_of_itself", 'the recipe "{recipe}" is no variant of itself', recipe=self.id)
            )
        refuse_methods_twice(self.pricings)
        refuse_twice("stage", (s.id for s in self.stages))
        refuse_twice("serving", (s.id for s in self.servings))
        refuse_twice("line", (line.id for s in self.stages for line in s.lines if line.id))
        if self.use_measured_yield and self.measured_yield is None:
            message = say("no_measured_yield", 'there is no "measured_yield" to use')
            raise BadDocument("use_measured_yield", message)
        self._check_inflows()
        self._check_kept()

    def _check_kept(self) -> None:
        kept = self.kept_for_garnish
        for out in self.take_outs():
            if out.name in kept and out.value_per_kg != 0:
                english = '"{name}" is kept for this pot\'s garnish, which bears its cost: leave what a kilo is worth at 0'
                raise BadDocument("", say("kept_has_no_value", english, name=out.name))
        for serving in self.servings:
            had = [line.byproduct for _, line in serving.extras if self.keeps(line)]
            refuse_twice(f"garnish kept for {serving.name}:", (name for name in had if name))

    def keeps(self, line: Line) -> bool:
        """Whether a line of a serving is what was kept back of this very pot."""
        return line.byproduct is not None and line.recipe == self.id

    @property
    def kept_for_garnish(self) -> frozenset[str]:
        """The names of what is taken out and goes onto portions of this very pot."""
        every = (line for serving in self.servings for _, line in serving.extras)
        return frozenset(line.byproduct for line in every if line.byproduct is not None and self.keeps(line))

    def _check_inflows(self) -> None:
        taken: dict[str, Decimal] = {}
        for stage in self.stages:
            for inflow in stage.from_:
                if inflow.stage not in taken:
                    english = 'stage "{stage}" takes from "{source}", which is no earlier stage'
                    raise BadDocument("", say("no_earlier_stage", english, stage=stage.id, source=inflow.stage))
                taken[inflow.stage] += inflow.share
                if taken[inflow.stage] > 1:
                    english = '{share} of stage "{stage}" is taken: all shares together are at most 1'
                    share = plain(taken[inflow.stage])
                    raise BadDocument("", say("more_than_all", english, share=share, stage=inflow.stage))
            taken[stage.id] = ZERO

    def line_ids(self) -> list[str]:
        """An id for every stage line, in their order: its own, else that of what it uses, made unique."""
        used = {line.id for stage in self.stages for line in stage.lines if line.id}
        ids: list[str] = []
        for stage in self.stages:
            for line in stage.lines:
                name, count = line.id, 1
                if not name:
                    name = uses = line.uses
                    while name in used:
                        count += 1
                        name = f"{uses}-{count}"
                    used.add(name)
                ids.append(name)
        return ids

    @property
    def yield_basis(self) -> YieldBasis:
        """What the batch yield rests on."""
        if self.use_measured_yield:
            return "measured"
        return "computed" if self.written_yield is None else "written"

    def onward(self, place: int) -> list[Stage]:
        """The stage at a place, and those to which its contents go."""
        reached, found = {self.stages[place].id}, [self.stages[place]]
        for stage in self.stages[place + 1 :]:
            if any(one.stage in reached for one in stage.from_):
                reached.add(stage.id)
                found.append(stage)
        return found

    def take_outs(self) -> Iterator[TakeOut]:
        """All that is taken out, in order."""
        for stage in self.stages:
            yield from stage.take_out

    def all_lines(self) -> Iterator[Line]:
        """Every line: in the stages, beside the pot, and on each serving."""
        for stage in self.stages:
            yield from stage.lines
        yield from self.consumables
        for serving in self.servings:
            yield from serving.lines

    def in_the_pot(self) -> Iterator[Line | TopUpWith]:
        """All that goes into the stages: their lines, and what they are topped up with."""
        for stage in self.stages:
            yield from stage.lines
            if stage.change.with_ is not None:
                yield stage.change.with_

    def named(self) -> Iterator[Line | TopUpWith]:
        """All that names an item or a recipe: what goes into the pot, and what is served beside it."""
        yield from self.in_the_pot()
        yield from self.consumables
        for serving in self.servings:
            yield from serving.lines

    def uses(self) -> frozenset[str]:
        """The ids of the recipes that this one contains. What it keeps for its own garnish makes it no part of itself."""
        beside = (line for serving in self.servings for line in serving.lines if not self.keeps(line))
        every = (*self.in_the_pot(), *self.consumables, *beside)
        return frozenset(one.recipe for one in every if one.recipe is not None)

    def uses_items(self) -> frozenset[str]:
        """The ids of the items that its own lines name."""
        return frozenset(one.item for one in self.named() if one.item is not None)

    def uses_vessels(self) -> frozenset[str]:
        """The ids of the vessels in which it is cooked, and in which its portions stand hot."""
        named = (*(stage.vessel for stage in self.stages), *(serving.hold_vessel for serving in self.servings))
        return frozenset(one for one in named if one is not None)


def with_lines(recipe: Recipe, at: int, lines: Sequence[Line]) -> Recipe:
    """A recipe with other lines in the stage of a place."""
    stages = list(recipe.stages)
    stages[at] = replace(stages[at], lines=tuple(lines))
    return replace(recipe, stages=tuple(stages))
