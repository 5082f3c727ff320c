"""What is in a pot: salt, nutrients, alcohol and what thickens it, followed from its lines through the stages to the batch.

Salt and alcohol are spread evenly over the pot when something is taken out; other nutrients leave with the lines that they
came with, as far as these leave. Water leaves as steam without any of them; what sticks, and what is lost in a sieve, takes
its part of all.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from collections.abc import Set as AbstractSet
from dataclasses import field, replace
from decimal import Decimal

from potrel.core.frozen import dataclass
from potrel.core.kitchen.bones import is_bones
from potrel.core.kitchen.composition import ALCOHOL_FACTOR
from potrel.core.kitchen.items import Item
from potrel.core.kitchen.kinds import ONE, ZERO
from potrel.core.kitchen.lines import Line
from potrel.core.kitchen.methods import family_of, method_called
from potrel.core.kitchen.naming import words_in
from potrel.core.kitchen.recipes import Stage, TakeOut
from potrel.core.numbers.arithmetic import Number, larger, smaller, surely, total
from potrel.core.pot.alcohol import Spirit
from potrel.core.pot.balance import Balance, StageMass, reach
from potrel.core.pot.day_view import DayView
from potrel.core.pot.given import GIVES, given_to_liquor
from potrel.core.pot.heat import is_heated, lid_of
from potrel.core.pot.held import SALT, Held, Lacking, held_of, lacking_in, lacking_of, together, unknown_of, without
from potrel.core.pot.hob import steam_of_change
from potrel.core.pot.lifted_fat import is_fat
from potrel.core.pot.line_mass import LineMass, nutrient_mass

_ENERGY = "energy_kcal"
# What stays whole in a soup until it is blended.
_WHOLE = frozenset({"vegetable", "root", "allium", "fruit", "meat", "fish", "bones", "pulse"})
# Of the pulses, those of such strength fall apart by themselves: red lentils, split peas.
_FALLS_APART = Decimal("0.5")
# Okra thickens as it is, whole or cut.
_SLIMY = frozenset({"okra"})
# Of the dry goods, what keeps its shape.
_GRAINS = frozenset({
    "rice", "barley", "spelt", "quinoa", "bulgur", "couscous", "millet", "buckwheat", "farro", "freekeh", "pasta", "noodle",
    "macaroni", "vermicelli", "orzo",
})  # fmt: skip
_MILLED = frozenset({"flour", "starch", "flake", "paper", "ground"})
# Of these kinds a thing thickens a pot, more or less: one without a strength makes the sum "at least".
_THICKENS = frozenset({"vegetable", "root", "allium", "fruit", "pulse", "dry goods", "dairy", "bread", "can", "nut", "sauce"})
# What is canned whole thickens as much as beans or sweetcorn do.
_OF_BEANS = Decimal("0.15")
# What is left of the strength of flour in a roux so dark. Common practice, no source.
ROUX = {"white": ONE, "blond": ONE, "brown": Decimal("0.7"), "dark": Decimal("0.5")}
# [kcal/g] of fat: EU Regulation 1169/2011, Annex XIV.
_OF_FAT = 9


@dataclass(frozen=True, slots=True)
class Source:
    """Something that went in, with what it holds. It thickens as much as so many grams of flour, and when it is blended as
    much more; until then so much of it [g] stays whole. `line` is None for fat that was lifted off, and for what bones and meat
    gave to the pot before they were taken out (`given`).
    """

    held: Held
    line: LineMass | None = None
    thickens: Number = ZERO
    blended: Number = ZERO
    whole: Number = ZERO
    unknown: frozenset[str] = frozenset()
    given: bool = False


@dataclass(frozen=True, slots=True)
class StageContent:
    """What a stage hands on: its salt [g], and of each source the share that is in it, blended or not."""

    salt: Number
    salt_lacks: frozenset[str]
    spirits: tuple[Spirit, ...]
    shares: Mapping[tuple[int, bool], Number]


@dataclass(frozen=True, slots=True)
class Content:
    """What is in a batch, and in what is taken out of it by its name, with the mass [g] of that.

    `thickens` is what thickens it, as grams of flour in a white roux; `whole` the mass [g] that stays whole in it.
    """

    sources: tuple[Source, ...]
    stages: Mapping[str, StageContent]
    batch: Held
    taken: Mapping[str, tuple[Held, Number]]
    thickens: Number
    blended: Number
    whole: Number
    no_strength: frozenset[str]
    lacking: Lacking

    def share(self, place: int) -> Number:
        """The share of a source that is in the batch."""
        last = self.last
        return ZERO if last is None else total([share for (one, _), share in last.shares.items() if one == place])

    @property
    def last(self) -> StageContent | None:
        """What the last stage hands on: the batch; None where there is no stage."""
        return list(self.stages.values())[-1] if self.stages else None


# Gives the content of a recipe that is used as a line, and its batch yield [g].
Sub = Callable[[str], tuple[Content, Number]]


def content_of(balance: Balance, sub: Sub, view: DayView) -> Content:
    """What is in a recipe's batch; `sub` tells of those that it uses."""
    return _Tasting(balance, sub, view).content()


def stays_whole(item: Item) -> bool:
    """Whether a thing lies whole in a soup until it is blended: vegetables, meat, pulses, grains, but for what falls apart."""
    strength = item.thickening or ZERO
    words = {word.stem for word in words_in(item.name)}
    if words & _SLIMY:
        return False
    if item.kind == "dry goods":
        return bool(words & _GRAINS) and not words & _MILLED
    if item.kind == "can":
        # Beans and sweetcorn, not tomatoes or coconut milk.
        return strength >= _OF_BEANS
    return item.kind in _WHOLE and not (item.kind == "pulse" and strength >= _FALLS_APART)


def strength_of(item: Item, line: Line | None, stage: Stage | None) -> Decimal:
    """How strongly a gram of a line thickens where it goes in: flour in a roux the less, the darker that is fried."""
    strength = item.thickening or ZERO
    roux = (None if line is None else line.roux) or (None if stage is None else stage.roux)
    return strength if roux is None or strength != ONE else ROUX[roux]


@dataclass(slots=True)
class _Tasting:
    """One recipe, tasted stage by stage."""

    balance: Balance
    sub: Sub
    view: DayView
    sources: list[Source] = field(default_factory=list)
    stages: dict[str, StageContent] = field(default_factory=dict)
    taken: dict[str, tuple[Held, Number]] = field(default_factory=dict)
    lacking: Lacking = field(init=False)
    traces: Mapping[str, frozenset[str]] = field(init=False)

    def __post_init__(self) -> None:
        self.lacking = self._lacking()
        self.traces = self.lacking.traces

    def _lacking(self) -> Lacking:
        known = [line for line in self.balance.lines if line.known]
        return lacking_in(
            ((line.item or line.recipe or line.id, line.ep, lacking_of(line, self._part_lacks, self.view)) for line in known),
            total([line.ep for line in known]) + self.view.zero,
        )  # fmt: skip

    def _part_lacks(self, recipe_id: str) -> Lacking:
        return self.sub(recipe_id)[0].lacking

    def content(self) -> Content:
        for here in self.balance.stages:
            self.stages[here.stage.id] = self._stage(here)
        zero = self.view.zero
        if not self.stages:
            return Content((), {}, Held({}), {}, zero, zero, zero, frozenset(), self.lacking)
        last = list(self.stages.values())[-1]
        thickens = blended = whole = zero
        unknown: frozenset[str] = frozenset()
        for (place, is_blended), share in last.shares.items():
            source = self.sources[place]
            thickens = thickens + share * (source.thickens + (source.blended if is_blended else zero))
            if not is_blended:
                blended, whole = blended + share * source.blended, whole + share * source.whole
            if surely(share != 0):
                unknown |= source.unknown
        held = self._held(last)
        return Content(tuple(self.sources), self.stages, held, self.taken, thickens, blended, whole, unknown, self.lacking)

    def _held(self, of: StageContent) -> Held:
        """All that a stage hands on."""
        parts = [self._nutrients(place, share) for (place, _), share in of.shares.items()]
        lacks = {SALT: of.salt_lacks} if of.salt_lacks else {}
        return _told(together([*parts, Held({SALT: of.salt}, lacks, of.spirits)]))

    def _nutrients(self, place: int, share: Number) -> Held:
        """What a share of a source brings beside salt and alcohol; of what is not there nothing is lacking."""
        if surely(share == 0):
            return Held({})
        held = self.sources[place].held
        amounts = {name: amount * share for name, amount in held.amounts.items() if name != SALT}
        return Held(amounts, {name: items for name, items in held.lacks.items() if name != SALT})

    # -- a stage ---------------------------------------------------------------------------------------------------

    def _stage(self, here: StageMass) -> StageContent:
        stage, view = here.stage, self.view
        salt, lacks, spirits = view.zero, frozenset[str](), list[Spirit]()
        shares: dict[tuple[int, bool], Number] = {}
        for line in self.balance.lines_of(stage):
            source = self._source(line)
            shares[len(self.sources), False] = view.one
            self.sources.append(source)
            salt = salt + source.held.amounts.get(SALT, view.zero)
            lacks |= source.held.lacks.get(SALT, frozenset())
            spirits += source.held.spirits
        for inflow in stage.from_:
            before, part = self.stages[inflow.stage], view.number(inflow.share)
            salt, lacks = salt + before.salt * part, lacks | before.salt_lacks
            spirits += [replace(one, grams=one.grams * part) for one in before.spirits]
            for key, share in before.shares.items():
                shares[key] = shares.get(key, view.zero) + share * part
        spirits = [_heated(one, here) for one in spirits]
        if _is_blended(stage):
            shares = self._blended(shares)
        found = StageContent(salt, lacks, tuple(spirits), shares)
        if stage.change.rule == "yield" and not is_heated(stage) and surely(here.mass_in > 0):
            found = _times(found, smaller(here.changed / here.mass_in, view.one))
        return self._out(here, found)

    def _blended(self, shares: Mapping[tuple[int, bool], Number]) -> dict[tuple[int, bool], Number]:
        found: dict[tuple[int, bool], Number] = {}
        for (place, _), share in shares.items():
            found[place, True] = found.get((place, True), self.view.zero) + share
        return found

    def _source(self, line: LineMass) -> Source:
        if line.recipe is not None:
            return self._part(line)
        item = self.view.items.get(line.item or "")
        if item is None or not line.known:
            unknown = line.item or line.id
            return Source(unknown_of(unknown), line)
        return Source(without(held_of(line, item, self.view), self.traces), line, *self._thickening(item, line))

    def _thickening(self, item: Item, line: LineMass) -> tuple[Number, Number, Number, frozenset[str]]:
        """How much a line thickens, how much more blended, how much of it stays whole [g]; and whether nobody knows that."""
        zero, strength = self.view.zero, item.thickening
        is_whole = stays_whole(item)
        unknown = frozenset({item.id}) if strength is None and item.kind in _THICKENS else frozenset[str]()
        # By what it is dry or raw: the same peas count the same, soaked before, soaked here, or boiled.
        thick = nutrient_mass(line, self.view) * self.view.number(strength_of(item, line.line, self.balance.stage(line.stage)))
        return (zero, thick, line.own, unknown) if is_whole else (thick, zero, zero, unknown)

    def _part(self, line: LineMass) -> Source:
        """A line that is a recipe, or what is taken out of it: its part of all that is in there."""
        content, mass = self.sub(line.recipe or "")
        if line.byproduct is not None:
            held, mass = content.taken.get(line.byproduct, (Held({}), self.view.zero))
            if not surely(mass > 0):
                return Source(unknown_of(line.recipe or ""), line)
            return Source(without(held.times(line.ep / mass), self.traces), line, whole=line.own)
        if not surely(mass > 0):
            return Source(unknown_of(line.recipe or ""), line)
        share = line.ep / mass
        thick, blended, whole = content.thickens * share, content.blended * share, content.whole * share
        return Source(without(content.batch.times(share), self.traces), line, thick, blended, whole, content.no_strength)

    # -- what leaves it --------------------------------------------------------------------------------------------

    def _out(self, here: StageMass, found: StageContent) -> StageContent:
        """What a stage hands on, once its take-outs are out and its residue sticks."""
        view = self.view
        left = here.changed
        if here.taken_out:
            dry = [self._is_dry(out.take_out) for out in here.taken_out]
            wet_pot = left - total([out.mass for out, is_dry in zip(here.taken_out, dry, strict=True) if is_dry])
            salt, spirits = found.salt, found.spirits
            gone = view.zero
            for out, is_dry in zip(here.taken_out, dry, strict=True):
                share = view.zero
                if not is_dry and surely(wet_pot > 0):
                    share = smaller(out.mass / wet_pot, view.one)
                held, found = self._take(out.take_out, out.mass, here, found)
                wet = Held({SALT: salt * share}, {SALT: found.salt_lacks} if found.salt_lacks and not is_dry else {},
                           tuple(replace(one, grams=one.grams * share) for one in spirits))  # fmt: skip
                before, mass = self.taken.get(out.take_out.name, (Held({}), view.zero))
                self.taken[out.take_out.name] = _told(together([before, held, wet])), mass + out.mass
                gone = gone + share
            stays = view.one - smaller(gone, view.one)
            found = replace(found, salt=salt * stays,
                            spirits=tuple(replace(one, grams=one.grams * stays) for one in spirits))  # fmt: skip
            left = left - total([out.mass for out in here.taken_out])
        if surely(here.residue != 0) and surely(left > 0):
            found = _times(found, here.mass_out / left)
        return found

    def _take(self, out: TakeOut, mass: Number, here: StageMass, found: StageContent) -> tuple[Held, StageContent]:
        """What something taken out holds beside salt and alcohol, and what is left without it."""
        shares = dict(found.shares)
        if out.mass is None:
            reached = reach(self.balance.recipe.stages, here.stage, self.view)
            lines = [line for line in self.balance.lines if line.id in out.of and line.stage in reached]
            # As much of them as their mass leaves: the fat of what was fried stays, and a bone leaves all but what it gave.
            weight = total([larger(line.own, line.put) * reached[line.stage] for line in lines])
            part = smaller(mass / weight, self.view.one) if surely(weight > 0) else self.view.zero
            named = {line.id for line in lines}
            boiled = {line.id for line in lines if self._gave(line, reached)}
            gone = {
                key: share if source.line.id in boiled else share * part
                for key, share in shares.items()
                if (source := self.sources[key[0]]).line is not None and source.line.id in named
            }
            return self._without(gone, {key for key in gone if _id_of(self.sources[key[0]]) in boiled}, found)
        if is_fat(out):
            return self._lift(mass, found)
        part = mass / here.changed if surely(here.changed > 0) else self.view.zero
        gone = {key: share * smaller(part, self.view.one) for key, share in shares.items()}
        return self._without(gone, set(), found)

    def _without(
        self, gone: Mapping[tuple[int, bool], Number], boiled: AbstractSet[tuple[int, bool]], found: StageContent
    ) -> tuple[Held, StageContent]:
        """What so much of some sources holds, and what is left without it: of what was boiled, what it gave stays."""
        shares = dict(found.shares)
        for key, share in gone.items():
            shares[key] = shares[key] - share
        held = together(self._nutrients(place, share) for (place, _), share in gone.items())
        given = given_to_liquor(together(self._nutrients(key[0], gone[key]) for key in boiled), self.view)
        if given.amounts or given.lacks:
            shares[len(self.sources), False] = self.view.one
            self.sources.append(Source(given, given=True))
            held = together([held, given.times(-self.view.one)])
        return held, replace(found, shares=shares)

    def _gave(self, line: LineMass, reached: Mapping[str, Number]) -> bool:
        """Whether a line is of bones, meat or fish, and was cooked in liquid in one of the stages that it came through."""
        item = self.view.items.get(line.item or "")
        if item is None or not (item.kind in GIVES or is_bones(item)):
            return False
        recipe = self.balance.recipe
        start = next(place for place, one in enumerate(recipe.stages) if one.id == line.stage)
        # What it went through on its way there: `reached` holds that stage too.
        return any(family_of(one.method) == "wet" for one in recipe.onward(start) if one.id in reached)

    def _lift(self, mass: Number, found: StageContent) -> tuple[Held, StageContent]:
        """Lifted fat is fat, and its part of the saturates: no more than there is."""
        here = together(self._nutrients(place, share) for (place, _), share in found.shares.items())
        fat = here.amounts.get("fat_g", self.view.zero)
        if here.of("fat_g") is None or not surely(fat > 0):
            return Held({}, here.lacks), found
        lifted = smaller(mass, fat)
        amounts = {"fat_g": lifted, "energy_kcal": lifted * _OF_FAT}
        if "saturates_g" in here.amounts:
            amounts["saturates_g"] = here.amounts["saturates_g"] * lifted / fat
        shares = {**found.shares, (len(self.sources), False): self.view.one}
        self.sources.append(Source(Held({name: -amount for name, amount in amounts.items()})))
        return Held(amounts), replace(found, shares=shares)

    def _is_dry(self, out: TakeOut) -> bool:
        """Whether something leaves without salt and alcohol of the pot: it says so, or it is bones, or lifted fat."""
        if out.dry is not None:
            return out.dry
        if out.mass is not None:
            return is_fat(out)
        lines = [line for line in self.balance.lines if line.id in out.of]
        items = [self.view.items.get(line.item or "") for line in lines]
        return bool(items) and all(item is not None and is_bones(item) for item in items)


def _id_of(source: Source) -> str | None:
    return None if source.line is None else source.line.id


def _is_blended(stage: Stage) -> bool:
    found = method_called(stage.method or "")
    return found is not None and found.id == "blend"


def _times(found: StageContent, share: Number) -> StageContent:
    shares = {key: one * share for key, one in found.shares.items()}
    spirits = tuple(replace(one, grams=one.grams * share) for one in found.spirits)
    return StageContent(found.salt * share, found.salt_lacks, spirits, shares)


def _told(held: Held) -> Held:
    """With the alcohol that went, its energy is gone."""
    if not held.spirits:
        return held
    gone = total([one.gone for one in held.spirits])
    amounts = dict(held.amounts)
    if _ENERGY in amounts:
        amounts[_ENERGY] = amounts[_ENERGY] - gone * ALCOHOL_FACTOR
    return Held(amounts, held.lacks, tuple(replace(one, counted=one.kept) for one in held.spirits))


def _heated(one: Spirit, here: StageMass) -> Spirit:
    """Alcohol after a stage: heated for as long as that takes, no more of it left than of the liquid. Sealed in, none goes."""
    stage = here.stage
    if not is_heated(stage) or lid_of(stage) == "sealed":
        return replace(one, flamed=True) if stage.flamed else one
    liquid = one.liquid
    if surely(here.water > 0):
        steam = steam_of_change(stage, here.mass_in, here.changed)
        liquid = liquid * (1 - smaller(steam, here.water) / here.water)
    return replace(
        one, heated=True, flamed=one.flamed or stage.flamed, minutes=one.minutes + (stage.minutes or ZERO),
        timed=one.timed and stage.minutes is not None, liquid=liquid,
    )  # fmt: skip
