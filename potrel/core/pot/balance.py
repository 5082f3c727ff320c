"""The mass balance of a recipe: what goes into each stage, what is lost or taken out there, and what goes on.

Masses are in grams. Mass in = mass out + what evaporated or shrank + what was taken out + residue, at every stage.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import field, replace
from decimal import Decimal

from potrel.core.errors import Caveat, Problem, caveat, problem
from potrel.core.frozen import dataclass
from potrel.core.kitchen.kinds import ONE, ZERO, plain
from potrel.core.kitchen.lines import Line
from potrel.core.kitchen.recipes import Recipe, Stage, TakeOut, YieldBasis
from potrel.core.numbers.arithmetic import Number, larger, smaller, surely, total
from potrel.core.numbers.rounding import exceeds, floor, half_even, typical
from potrel.core.pot import changes
from potrel.core.pot.day_view import DayView
from potrel.core.pot.evaporation import Steaming
from potrel.core.pot.heat import StageHeat, is_dry_heat, is_reduced, litres_of, minutes_to_reduce, steam_of
from potrel.core.pot.hob import Hob
from potrel.core.pot.lifted_fat import fat_in, is_fat
from potrel.core.pot.line_mass import LineMass, line_mass, topped_up
from potrel.core.pot.moisture import is_poured, water_in
from potrel.core.pot.prep_minutes import prep_minutes
from potrel.core.pot.questions import loss_untold, questions
from potrel.core.pot.vessel_notes import kilos, steam_notes, time_notes, vessel_notes
from potrel.core.sentences import Sentence, say

# More than this share of a pot goes up only where it is reduced. Common practice, no source.
MUCH = Decimal("0.3")
# What of spent bones and bunches is water [share]. Common practice, no source.
_SPENT_WATER = Decimal("0.6")
# By so much [share] a written yield may be off what the pot reckons before that is told. Common practice, no source.
FAR_FROM_WRITTEN = Decimal("0.1")

# What a batch yield rests on.


@dataclass(frozen=True, slots=True)
class TakenOut:
    """What leaves a stage: so much [g], worth so much per kilo to somebody else."""

    take_out: TakeOut
    mass: Number


@dataclass(frozen=True, slots=True)
class StageMass:
    """A stage with its masses [g]; `left_over` is the share of `mass_out` that no later stage takes.

    `mass_in` is what is there after the lines' cooking, `changed` after the change. Where its vessel steams by itself, `steam`
    says how; `minutes_needed` is how long that takes [min] to reduce it. `heat` is told where something heats its vessel, and
    `energy` is what it takes [kWh]: as stated, else by its heat. `cleanup` are the minutes of cleaning its vessel, at the first
    stage of the recipe that uses it, `prep` those of preparing its lines where the recipe counts them. `water` is
    what of `mass_in` can go up as steam. `reckoned` is what its rule makes of it [g] where `came_out` [g] counts in its place.
    """

    stage: Stage
    mass_in: Number
    changed: Number
    taken_out: tuple[TakenOut, ...]
    residue: Number
    mass_out: Number
    left_over: Decimal = ONE
    steam: Steaming | None = None
    minutes_needed: Number | None = None
    heat: StageHeat | None = None
    energy: Number | None = None
    cleanup: Decimal = ZERO
    prep: Number = ZERO
    water: Number = ZERO
    reckoned: Number | None = None
    came_out: Number | None = None

    @property
    def by_rule(self) -> Number:
        """What its rule makes of it [g], whatever came out."""
        return self.mass_out if self.reckoned is None else self.reckoned


@dataclass(frozen=True, slots=True)
class Balance:
    """The whole recipe. `mass` [g] is the batch yield in use, by its `basis`: measured where the kitchen chose so, else as the
    recipe is written, else computed.

    `beside` are the consumables of a batch.
    """

    recipe: Recipe
    lines: tuple[LineMass, ...] = ()
    stages: tuple[StageMass, ...] = ()
    computed_mass: Number = ZERO
    measured_mass: Number | None = None
    written_mass: Number | None = None
    mass: Number = ZERO
    problems: tuple[Problem, ...] = ()
    warnings: tuple[Caveat, ...] = ()
    beside: tuple[LineMass | Problem, ...] = ()

    @property
    def mass_known(self) -> bool:
        """Whether every mass is known; else the masses are lower bounds."""
        return not any(one.affects_mass for one in self.problems)

    @property
    def yield_known(self) -> bool:
        """Whether the batch yield is known: all its masses are, or another than the computed one is used."""
        return surely(self.mass > 0) and (self.basis != "computed" or self.mass_known)

    @property
    def basis(self) -> YieldBasis:
        """What the batch yield in use rests on."""
        return self.recipe.yield_basis

    def stage(self, stage_id: str) -> Stage | None:
        """A stage by its id; None where there is none, as of a line beside the pot."""
        return next((here.stage for here in self.stages if here.stage.id == stage_id), None)

    def lines_of(self, stage: Stage) -> list[LineMass]:
        """The lines of a stage, what it is topped up with included."""
        return [line for line in self.lines if line.stage == stage.id]


def balance_of(recipe: Recipe, view: DayView) -> Balance:
    """The mass balance of a recipe. Missing facts become problems of the balance, never guesses."""
    return _Pot(recipe, view).balance()


def reach(stages: Sequence[Stage], stage: Stage, view: DayView) -> dict[str, Number]:
    """The share of each earlier stage's content that is in this one: products along the ways, added up."""
    found: dict[str, Number] = {stage.id: view.one}
    for here in reversed(stages[: stages.index(stage) + 1]):
        if here.id in found:
            for inflow in here.from_:
                through = found[here.id] * view.number(inflow.share)
                found[inflow.stage] = found.get(inflow.stage, view.zero) + through
    return found


@dataclass(slots=True)
class _Pot:
    """One recipe on the stove: the state while its stages are worked through in order."""

    recipe: Recipe
    view: DayView
    lines: list[LineMass] = field(default_factory=list)
    stages: dict[str, StageMass] = field(default_factory=dict)
    left_over: dict[str, Decimal] = field(default_factory=dict)
    problems: list[Problem] = field(default_factory=list)
    warnings: list[Caveat] = field(default_factory=list)
    used: set[str] = field(default_factory=set)
    # The water [g] that each stage hands on.
    water: dict[str, Number] = field(default_factory=dict)
    hob: Hob = field(init=False)

    def __post_init__(self) -> None:
        self.hob = Hob(self.recipe, self.view)

    def balance(self) -> Balance:
        ids = iter(self.recipe.line_ids())
        for stage in self.recipe.stages:
            here = self._lines(stage, [next(ids) for _ in stage.lines])
            self._work(stage, here)
        stages = tuple(replace(one, left_over=self.left_over[one.stage.id]) if self.left_over[one.stage.id] != 1 else one
                       for one in self.stages.values())  # fmt: skip
        computed = stages[-1].mass_out if stages else self.view.zero
        measured, written = self._measured(), self._written()
        used = {"measured": measured, "written": written, "computed": computed}[self.recipe.yield_basis]
        mass = computed if used is None else used
        self._note_left_overs(stages)
        self._note_written(written, computed)
        self.warnings += questions(self.recipe, self.lines, self.view)
        if surely(mass <= 0) and self._mass_known():
            said = say("empty_pot", "the pot is empty: add a line")
            self.problems.append(problem("missing_fact", said, affects_mass=True))
        return Balance(
            self.recipe, tuple(self.lines), stages, computed, measured, written, mass, tuple(self.problems),
            tuple(self.warnings), tuple(self._beside()),
        )  # fmt: skip

    def _beside(self) -> Iterator[LineMass | Problem]:
        for place, line in enumerate(self.recipe.consumables, 1):
            yield line_mass(line, line.id or f"consumable-{place}", f"{self.recipe.id}/batch", None, self.view)

    def _mass_known(self) -> bool:
        return not any(one.affects_mass for one in self.problems)

    def _lines(self, stage: Stage, ids: Sequence[str]) -> list[LineMass]:
        here: list[LineMass] = []
        for line, line_id in zip(stage.lines, ids, strict=True):
            found = line_mass(line, line_id, self.recipe.id, stage, self.view)
            if isinstance(found, Problem):
                self.problems.append(found)
                found = self._unknown(line, line_id, stage)
            here.append(found)
        self.lines += here
        self._note_untold(stage, here)
        return here

    def _note_untold(self, stage: Stage, lines: Sequence[LineMass]) -> None:
        """A loss that nobody stated is none that is known to be nothing."""
        untold = [self.view.name_of(one.item) for one in lines if one.cooked is not None and not one.cooked.known]
        if untold:
            english = "no loss known of {items}: nothing is taken off. Give a cooking yield, or weigh it before and after"
            self.warnings.append(caveat(say("no_loss_known", english, items=" and ".join(untold)), stage.id))

    def _unknown(self, line: Line, line_id: str, stage: Stage) -> LineMass:
        zero = self.view.zero
        recipe = line.recipe if line.recipe in self.view.recipes else None
        return LineMass(stage.id, line_id, line.item, recipe, line, zero, zero, known=False)

    def _work(self, stage: Stage, lines: Sequence[LineMass]) -> None:
        handed_on = self._handed_on(stage)
        mass_in = total([line.put for line in lines]) + total(handed_on)
        brought = self._water_in(stage, lines)
        # Of a roast only what was poured on it goes up by its change.
        water = self._poured(lines) if is_dry_heat(stage) else brought
        steam = self._steam(stage, mass_in)
        before = len(self.problems), len(self.warnings)
        changed = self._change(stage, mass_in, water, steam)
        taken = tuple(TakenOut(out, self._taken_mass(stage, out)) for out in stage.take_out)
        masses = [one.mass for one in taken]
        if taken and self._mass_known() and exceeds(total(masses), changed):
            english = 'stage "{stage}": more is taken out than there is: check the take-outs and what went in'
            self._impossible(say("taken_out_too_much", english, stage=stage.name or stage.id), stage)
        sticks, mass_out = self.view.zero, changed
        if taken or stage.residue != 0:
            share = self.view.ask("residue", self.recipe.id, stage.id, stage.residue)
            sticks = changes.residue(changed, masses, share)
            mass_out = changes.mass_out(changed, masses, sticks)
        came_out, reckoned = self._came_out(stage), None
        if came_out is not None:
            # What is there says more than any rule of it.
            if stage.change.rule == "evaporate":
                del self.problems[before[0] :], self.warnings[before[1] :]
            stuck = self.view.number(stage.residue)
            reckoned, changed = mass_out, changes.after_by_what_came_out(came_out, stuck, masses)
            sticks = changes.residue(changed, masses, stuck)
            mass_out = changes.mass_out(changed, masses, sticks)
            if self._mass_known() and exceeds(changed, mass_in) and stage.change.rule != "top_up":
                english = "more came out than went in, {more} kg: check what was weighed, and what went in"
                self.warnings.append(caveat(say("more_came_out", english, more=kilos(changed - mass_in)), stage.id))
        heat = self.hob.heat_of(stage, lines, handed_on, mass_in, changed, known=self._mass_known())
        energy = None if heat is None else heat.energy
        if stage.energy_kwh is not None:
            energy = self.view.ask("energy", self.recipe.id, stage.id, stage.energy_kwh)
        told = None if isinstance(steam, Sentence) else steam
        needed = self._minutes_needed(stage, mass_in, told)
        self.stages[stage.id] = StageMass(
            stage, mass_in, changed, taken, sticks, mass_out, ONE, told, needed, heat, energy, self._cleanup(stage),
            prep_minutes(self.recipe, lines, self.view), water, reckoned, came_out,
        )  # fmt: skip
        self.left_over[stage.id] = ONE
        self.water[stage.id] = self._water_out(self.stages[stage.id], brought)
        self._note_drought(stage, lines, water)
        self.warnings += vessel_notes(stage, lines, larger(mass_in, changed), self.recipe, self.view)

    def _came_out(self, stage: Stage) -> Number | None:
        """What was weighed, measured or dipped at the end of a stage [g]; None where nothing was."""
        came = stage.came_out
        if came is None:
            return None
        if came.quantity is not None:
            return self._weighed(stage, self.view.weights.of_bulk(came.quantity, self.recipe.density))
        vessel = self.view.vessels.get(stage.vessel or "")
        if vessel is None or vessel.open_surface is None:
            english = 'stage "{stage}" was dipped: say in which vessel, and how wide that is (its diameter or surface)'
            said = say("dipped_where", english, stage=stage.name or stage.id)
            self.problems.append(problem("missing_fact", said, stage.id, affects_mass=True))
            return None
        litres = (came.depth_cm or ZERO) / 100 * vessel.open_surface * vessel.count * 1000
        return self._weighed(stage, litres * 1000 * self.recipe.density)

    def _weighed(self, stage: Stage, grams: Decimal) -> Number:
        return self.view.ask("came_out", self.recipe.id, stage.id, grams)

    def _cleanup(self, stage: Stage) -> Decimal:
        vessel = self.view.vessels.get(stage.vessel or "")
        if vessel is None or vessel.id in self.used:
            return ZERO
        self.used.add(vessel.id)
        return vessel.cleanup_minutes

    def _handed_on(self, stage: Stage) -> list[Number]:
        masses: list[Number] = []
        for inflow in stage.from_:
            self.left_over[inflow.stage] -= inflow.share
            whole = self.stages[inflow.stage].mass_out
            masses.append(whole if inflow.share == 1 else whole * self.view.number(inflow.share))
        return masses

    # -- the change ------------------------------------------------------------------------------------------------

    def _change(self, stage: Stage, mass: Number, water: Number, steam: Steaming | Sentence | None) -> Number:
        change = stage.change
        if change.rule == "keep":
            # Nobody said that anything goes up: all of it is left, and draws try less.
            return mass * self._asked(stage, ONE) if loss_untold(stage) else mass
        if change.yield_ is not None:
            return changes.yielded(mass, self._asked(stage, change.yield_))
        if change.to is not None:
            wanted = self._asked(stage, self.view.weights.of_bulk(change.to, self.recipe.density))
            return self._reduce(stage, mass, water, wanted) if change.with_ is None else self._top_up(stage, mass, wanted)
        return self._evaporate(stage, mass, water, steam)

    def _asked(self, stage: Stage, stated: Decimal) -> Number:
        return self.view.ask("change", self.recipe.id, stage.id, stated)

    def _evaporate(self, stage: Stage, mass: Number, water: Number, steam: Steaming | Sentence | None) -> Number:
        if stage.minutes is None:
            english = 'stage "{stage}" evaporates, but has no minutes: say how long it takes'
            said = say("evaporates_how_long", english, stage=stage.name or stage.id)
            self.problems.append(problem("missing_fact", said, stage.id, affects_mass=True))
            return mass
        if isinstance(steam, Sentence):
            self.problems.append(problem("missing_fact", steam, stage.id, affects_mass=True))
            return mass
        time, change = self.view.number(stage.minutes), stage.change
        if steam is not None:
            self.warnings += steam_notes(stage, steam)
            rate = self._asked(stage, steam.kg_per_hour * 1000)
            wanted, left = rate * time / 60, changes.evaporated_by_rate(mass, water, rate, time)
        elif change.per_hour is not None:
            share = self._asked(stage, change.per_hour)
            wanted, left = mass * share * time / 60, changes.evaporated_by_share(mass, water, share, time)
        else:
            rate = self._asked(stage, (change.kg_per_hour or ZERO) * 1000)
            wanted, left = rate * time / 60, changes.evaporated_by_rate(mass, water, rate, time)
        if self._mass_known():
            self._note_steam(stage, mass, water, wanted)
        return left

    def _note_steam(self, stage: Stage, mass: Number, water: Number, wanted: Number) -> None:
        """What boils dry cannot be; where much of a pot goes up that was not to be reduced, somebody should look."""
        minutes, gone = stage.minutes or ZERO, typical(wanted)
        if gone > 0 and not surely(wanted < water):
            after = plain(floor(minutes * typical(water) / gone))
            if is_dry_heat(stage):
                english = "what was poured on is all gone after {minutes} minutes: pour more, or cover it"
                self.warnings.append(caveat(say("tray_dry", english, minutes=after), stage.id))
                return
            english = 'stage "{stage}" boils dry after {minutes} minutes: put more in, cook it shorter, milder or under a lid'
            self._impossible(say("boils_dry", english, stage=stage.name or stage.id, minutes=after), stage)
        elif not is_reduced(stage) and exceeds(wanted, mass * self.view.number(MUCH)):
            english = "{share}% of it goes up here: put a lid on, keep it milder, top it up, or say that it is reduced"
            share = plain(half_even(typical(wanted / mass) * 100, 0))
            self.warnings.append(caveat(say("much_goes_up", english, share=share), stage.id))

    def _steam(self, stage: Stage, mass: Number) -> Steaming | Sentence | None:
        """How a stage steams by its vessel, or what lacks for that; None where it does not, nor is reduced in one."""
        if stage.change.by is None and (stage.change.rule != "reduce" or stage.vessel is None):
            return None
        return steam_of(stage, litres_of(mass, self.recipe.density), self.view)

    # -- water -----------------------------------------------------------------------------------------------------

    def _poured(self, lines: Sequence[LineMass]) -> Number:
        return self.view.zero + total([line.put for line in lines if is_poured(line, self.view)])

    def _water_in(self, stage: Stage, lines: Sequence[LineMass]) -> Number:
        """The water [g] that comes into a stage."""
        handed_on = [self.water[one.stage] * self.view.number(one.share) for one in stage.from_]
        return self.view.zero + total([water_in(line, self.view) for line in lines]) + total(handed_on)

    def _water_out(self, here: StageMass, brought: Number) -> Number:
        """The water [g] that a stage hands on: what is left of it, less that of what is taken out."""
        left = brought - (here.mass_in - here.changed)
        if surely(here.changed > 0):
            # Bones and bunches leave as wet as they came in; what is strained and sticks, as wet as all of it.
            spent = total([one.mass for one in here.taken_out if one.take_out.of])
            poured = here.changed - here.mass_out - spent
            left = left - spent * self.view.number(_SPENT_WATER) - larger(poured, poured * 0) * left / here.changed
        return smaller(larger(left, left * 0), here.mass_out)

    def _minutes_needed(self, stage: Stage, mass: Number, steam: Steaming | None) -> Number | None:
        to = stage.change.to
        if stage.change.rule != "reduce" or to is None or steam is None or steam.kg_per_hour == 0 or not self._mass_known():
            return None
        wanted = self._asked(stage, self.view.weights.of_bulk(to, self.recipe.density))
        needed = minutes_to_reduce(mass, wanted, self.view.number(steam.kg_per_hour))
        self.warnings += time_notes(stage, needed, self.view)
        return needed

    def _reduce(self, stage: Stage, mass: Number, water: Number, wanted: Number) -> Number:
        if self._mass_known() and exceeds(wanted, mass):
            english = 'stage "{stage}": there is less than {to} already: reduce to less, or put more in before'
            self._impossible(say("reduced_to_more", english, stage=stage.name or stage.id, to=str(stage.change.to)), stage)
        # Of a roast nobody knows how much of it is water.
        elif self._mass_known() and not is_dry_heat(stage) and exceeds(mass - water, wanted):
            english = 'stage "{stage}" weighs {dry} kg without any water: reduce to more, or take out what is solid before'
            dry = kilos(typical(mass - water))
            self._impossible(say("reduced_to_dry", english, stage=stage.name or stage.id, dry=dry), stage)
        return changes.reduced(mass, wanted)

    def _top_up(self, stage: Stage, mass: Number, wanted: Number) -> Number:
        with_ = stage.change.with_
        if with_ is None:
            return mass
        if surely(mass >= wanted):
            english = "nothing is topped up: there is {to} or more already"
            self.warnings.append(caveat(say("full_already", english, to=str(stage.change.to)), stage.id))
        line = topped_up(with_, changes.missing_to(wanted, mass), stage, self.view)
        if isinstance(line, Problem):
            self.problems.append(line)
            return mass
        self.lines.append(line)
        return changes.topped(mass, wanted)

    # -- what is taken out -----------------------------------------------------------------------------------------

    def _taken_mass(self, stage: Stage, out: TakeOut) -> Number:
        name = f"{stage.id}/{out.name}"
        if out.mass is not None:
            mass = self.view.ask("taken_out", self.recipe.id, name, out.mass.grams())
            if is_fat(out):
                self._note_fat(stage, out, mass)
            return mass
        here, lines = reach(self.recipe.stages, stage, self.view), {line.id: line for line in self.lines}
        masses: list[Number] = []
        for line_id in out.of:
            line = lines.get(line_id)
            if line is None or line.stage not in here:
                english = '"{name}" is made of "{line}", which is no line of this or an earlier stage'
                said = say("made_of_no_line", english, name=out.name, line=line_id)
                self.problems.append(problem("unknown", said, stage.id, affects_mass=True))
                continue
            masses.append((line.own if out.spent_factor is None else line.ep) * here[line.stage])
        if out.spent_factor is None:
            return changes.come_out(masses)
        return changes.spent(masses, self.view.ask("spent_factor", self.recipe.id, name, out.spent_factor))

    def _note_fat(self, stage: Stage, out: TakeOut, mass: Number) -> None:
        """No more fat can be lifted than there is; where nobody knows how much that is, it is told."""
        there, known = fat_in(self.lines, reach(self.recipe.stages, stage, self.view), self.view)
        if not known:
            english = "how much fat there is to lift is not known: not all that went in says how fat it is"
            self.warnings.append(caveat(say("fat_not_known", english), stage.id))
        elif self._mass_known() and exceeds(mass, there):
            english = '"{name}" is {lifted} kg, and all that went in holds {there} kg of fat: weigh what was lifted'
            said = say("more_fat_than_there_is", english, name=out.name, lifted=kilos(mass), there=kilos(there))
            self._impossible(said, stage)

    def _impossible(self, said: Sentence, stage: Stage) -> None:
        self.problems.append(problem("impossible", said, stage.id, affects_mass=True))

    # -- what a cook should look at --------------------------------------------------------------------------------

    def _note_drought(self, stage: Stage, lines: Sequence[LineMass], water: Number) -> None:
        """Pulses and barley cannot drink more than there is in the pot."""
        thirsty = [one for one in lines if one.cooked is not None and one.cooked.to == "pot" and surely(one.own > one.ep)]
        if not thirsty or not self._mass_known():
            return
        drinks = total([one.own - one.ep for one in thirsty])
        there = water - total([water_in(one, self.view) for one in thirsty])
        if exceeds(drinks, there):
            dry = " and ".join(f"{kilos(one.ep)} kg {self.view.name_of(one.item, one.recipe)}" for one in thirsty)
            english = "{dry} drink {drinks} kg; there is {there} kg of liquid: put in what they swell with"
            self._impossible(say("too_dry", english, dry=dry, drinks=kilos(drinks), there=kilos(there)), stage)

    def _note_left_overs(self, stages: Sequence[StageMass]) -> None:
        for here in stages[:-1]:
            if here.left_over != 0:
                english = "{share}% of this stage goes nowhere; its cost stays with the batch"
                said = say("goes_nowhere", english, share=plain(100 * here.left_over))
                self.warnings.append(caveat(said, here.stage.id))

    def _measured(self) -> Number | None:
        measured = self.recipe.measured_yield
        if measured is None:
            return None
        stated = self.view.weights.of_bulk(measured.quantity, self.recipe.density)
        return self.view.ask("measured_yield", self.recipe.id, "", stated)

    def _written(self) -> Number | None:
        if self.recipe.written_yield is None:
            return None
        stated = self.view.weights.of_bulk(self.recipe.written_yield, self.recipe.density)
        return self.view.ask("written_yield", self.recipe.id, "", stated)

    def _note_written(self, written: Number | None, computed: Number) -> None:
        """What a recipe says it makes is told beside what the pot reckons, where they are far apart."""
        if written is None or self.recipe.yield_basis != "written" or not self._mass_known() or not surely(computed > 0):
            return
        share = typical(written / computed) - 1
        if abs(share) <= FAR_FROM_WRITTEN:
            return
        english = (
            "as written it makes {percent}% {than} than the pot reckons, {reckoned} kg: weigh a batch, or look what is lost"
        )
        than, percent = ("more" if share > 0 else "less"), plain(half_even(abs(share) * 100, 0))
        said = say("written_is_far", english, percent=percent, than=than, reckoned=kilos(computed))
        self.warnings.append(caveat(said))
