"""From the text of a recipe to the stages of a pot: what each sentence does, and which lines it does it to.

A head makes a stage of its own. A sentence goes to the stage that is cooked so, or makes one. Lines that stand in one block go
where a sentence names them, the rest into the pot that is cooked in liquid. Common practice of writing recipes, no source.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence
from dataclasses import field, replace
from decimal import Decimal

from potrel.core.frozen import dataclass
from potrel.core.kitchen.naming import stem, words_in
from potrel.core.words.method_text import Step
from potrel.core.words.recipe_text import RecipeText, Sentence, StageText

# What is called by these is each thing of such kinds.
_KINDS = {
    "vegetable": frozenset({"vegetable", "root", "allium"}), "root": frozenset({"root"}), "bone": frozenset({"bones"}),
    "mirepoix": frozenset({"vegetable", "root", "allium"}), "aromatic": frozenset({"vegetable", "root", "allium", "herb"}),
    "herb": frozenset({"herb"}), "spice": frozenset({"spice"}), "meat": frozenset({"meat"}), "fish": frozenset({"fish"}),
    "liquid": frozenset({"water", "stock", "wine"}), "carcass": frozenset({"bones"}),
}  # fmt: skip
# Meat and fish go by their animal: "the beef" is the shin, "the chicken stock" is no chicken.
_BY_ANIMAL = frozenset({"meat", "fish"})
_OF_ANIMAL = re.compile(
    r"\b[^\W\d_]+ (?=(?:stocks?|broth|liquor|juices?|gravy|fat|dripping|bones?|carcass(?:es)?|cubes?|powder|sauce)\b)",
    re.IGNORECASE,
)
_ALL = frozenset({"everything", "all", "rest", "remaining", "ingredient"})
# What comes back to a pot was not taken out of it for good.
_COMES_BACK = frozenset({"return", "back"})


@dataclass(frozen=True, slots=True)
class Thing:
    """A line of the text: in which of its stages it stands, the stems of what it is called, of what kind it is, and what share
    of it is bone where that is known.
    """

    stage: int
    head: str
    stems: frozenset[str]
    kind: str
    bones: Decimal | None = None


@dataclass(slots=True)
class Laid:
    """A stage as it comes of a text: what it does, the places of its lines, and the sentences that tell of it.

    `is_said` tells that its writer gave it a head; `of` are the places of the lines that it takes out.
    """

    name: str
    step: Step
    lines: list[int] = field(default_factory=list)
    notes: list[str] = field(default_factory=list)
    is_said: bool = False
    of: tuple[int, ...] = ()


def thing_of(stage: int, name: str, kind: str, bones: Decimal | None = None) -> Thing:
    """A line by the name of what it is: "Chicken bones", "Leeks, sliced"."""
    every = [[word.stem for word in words_in(part) if not word.stem.isdecimal()] for part in (name.partition(",")[0], name)]
    words = every[0] or every[1]
    return Thing(stage, words[-1] if words else "", frozenset(words), kind, bones)


def names(text: str, thing: Thing) -> bool:
    """Whether a clause names a line: by its last word, by all of them, or as one of a kind."""
    stems = {word.stem for word in words_in(text)}
    if thing.head in stems or (thing.stems and thing.stems <= stems) or stems & _ALL:
        return True
    if thing.kind in _BY_ANIMAL and thing.stems & {word.stem for word in words_in(_OF_ANIMAL.sub("", text))}:
        return True
    return any(thing.kind in kinds for word, kinds in _KINDS.items() if word in stems or stem(word) in stems)


def lay_out(text: RecipeText, things: Sequence[Thing]) -> list[Laid]:
    """The stages of a text, in their order, each line in one of them."""
    return _Table(things, sum(bool(one.lines) for one in text.stages) <= 1).laid_out(text)


@dataclass(slots=True)
class _Table:
    """The stages laid out so far; `is_block` tells that all lines stand in one block, to be given out by the sentences."""

    things: Sequence[Thing]
    is_block: bool
    laid: list[Laid] = field(default_factory=list)
    # Which stage a clause is about, in the order of the text: it takes the lines that it names.
    named: list[tuple[str, Laid]] = field(default_factory=list)
    waits: list[str] = field(default_factory=list)

    def laid_out(self, text: RecipeText) -> list[Laid]:
        stages = 0
        # What is told before any line stands with the first stage.
        first = here = Laid("Pot", Step("", "say"))
        for part in text.parts:
            if isinstance(part, StageText):
                mine = [at for at, thing in enumerate(self.things) if thing.stage == stages]
                here, stages = Laid(part.name, part.step, mine, is_said=True), stages + 1
                self.laid.append(here)
                self._goes_to(here, [part.step.text])
            else:
                here = self._sentence(part, here)
        self._finish()
        self._give_out()
        kept = [one for place, one in enumerate(self.laid) if self._is_kept(one, place)]
        for one in kept:
            one.of = self._taken(one, kept, text.told)
        found = self._without_idle(kept) or [here]
        if first.notes and first not in found:
            found[0].notes[:0] = first.notes
        return found

    def _sentence(self, sentence: Sentence, here: Laid) -> Laid:
        first = None
        for step in sentence.steps:
            here = self._told(step, here)
            if step.is_stage:
                first = first or here
        (first or here).notes.append(sentence.text)
        return here

    def _goes_to(self, of: Laid, clauses: Sequence[str]) -> None:
        """What waits to be added, and some clauses, are about a stage that is cooked."""
        if of.step.does == "cook":
            self.named += [(text, of) for text in (*self.waits, *clauses)]
            self.waits = []

    def _cooked_last(self) -> Laid | None:
        return next((one for one in reversed(self.laid) if one.step.does == "cook"), None)

    def _without_idle(self, kept: Sequence[Laid]) -> list[Laid]:
        """What is lifted out and comes back does nothing: its sentence goes to the stage before it."""
        found: list[Laid] = []
        for one in kept:
            if one.step.does in ("lift", "pick") and not one.of and not one.lines and found:
                found[-1].notes += one.notes
            else:
                found.append(one)
        return found

    def _told(self, step: Step, here: Laid) -> Laid:
        """The stage that a step is about."""
        if step.does == "add":
            last = self._cooked_last()
            if step.last_minutes is not None and last is not None:
                # "Add the vegetables for the last hour" is of the pot that cooks already.
                self.named.append((step.text, last))
            else:
                self.waits.append(step.text)
            return here
        if step.does == "say":
            here.step = _also(here.step, step)
            return here
        last = self._cooked_last()
        if step.does != "cook" and last is not None:
            # What was added before something is taken out cooks with the rest.
            self._goes_to(last, [])
        of = self._known(step, here) if step.does == "cook" else None
        if of is None:
            of = Laid(step.name, step)
            self.laid.append(of)
        else:
            of.step = _also(of.step, step)
        self._goes_to(of, [step.text])
        return of

    def _known(self, step: Step, here: Laid) -> Laid | None:
        """The stage with a head that is cooked so, and was not told otherwise; or this one, told once more."""
        again = here.step.ends and step.ends and not here.is_said
        if here.step.method == step.method and step.minutes is None and _agree(here.step, step) and not again:
            return here
        for one in self.laid:
            if one.is_said and one.step.method == step.method and _agree(one.step, step):
                return one
        return None

    def _finish(self) -> None:
        """What is added behind all cooking goes into a last stage, where it names anything that waits for a place."""
        loose = self._loose()
        if self.waits and len(self.laid) > 1 and any(names(text, self.things[at]) for text in self.waits for at in loose):
            last = Laid("Finish", Step("", "cook", "finish"))
            self.laid.append(last)
            self.named += [(text, last) for text in self.waits]

    def _loose(self) -> list[int]:
        """The lines of stages of which no head says how they are cooked."""
        return [at for one in self.laid if one.is_said and one.step.does == "say" for at in one.lines]

    def _give_out(self) -> None:
        cooked = [one for one in self.laid if one.step.does == "cook" and not (one.is_said and one.lines)]
        loose = self._loose()
        if not cooked or not loose:
            return
        rest = next((one for one in cooked if one.step.is_wet), cooked[0])
        first = [text for text, of in self.named if of is cooked[0]]
        if rest is not cooked[0] and not any(names(text, self.things[at]) for text in first for at in loose):
            rest = cooked[0]
        for at in loose:
            goes = next(
                (of for text, of in self.named if of in cooked and names(text, self.things[at])),
                rest if self.is_block else None,
            )
            if goes is not None:
                next(one for one in self.laid if at in one.lines).lines.remove(at)
                goes.lines.append(at)
        for one in cooked:
            one.lines.sort()

    def _is_kept(self, one: Laid, place: int) -> bool:
        """A block all of whose lines found their place is none; a stage without anything in it is none, either."""
        if one.lines:
            return True
        if one.is_said and one.step.does == "say":
            self._hand_notes_on(one, place)
            return False
        before = any(other.lines for other in self.laid[:place])
        if not before:
            self._hand_notes_on(one, place)
        return before

    def _hand_notes_on(self, one: Laid, place: int) -> None:
        if one.notes and place + 1 < len(self.laid):
            self.laid[place + 1].notes[:0] = one.notes

    def _taken(self, one: Laid, kept: Sequence[Laid], told: Iterable[str]) -> tuple[int, ...]:
        """The lines that a clause says are lifted out for good, or picked."""
        if one.step.does not in ("lift", "pick"):
            return ()
        before = [at for other in kept[: kept.index(one)] for at in other.lines if at not in other.of]
        taken = [at for other in kept[: kept.index(one)] for at in other.of]
        found = [at for at in before if at not in taken and names(one.step.text, self.things[at])]
        if one.step.does == "pick":
            return tuple(found)
        later = [words for sentence in told if (words := {word.stem for word in words_in(sentence)}) & _COMES_BACK]
        return tuple(at for at in found if not any(self.things[at].head in words for words in later))


def _agree(head: Step, step: Step) -> bool:
    """Whether a sentence may speak of a stage with a head: it does not tell another time or heat."""
    same = (head.minutes, step.minutes), (head.celsius, step.celsius)
    return all(one is None or other is None or one == other for one, other in same)


def _also(step: Step, more: Step) -> Step:
    """What is said of a stage, with what is said of it later: the first that is said of each counts."""
    lid, last = step.lid or more.lid, step.last_minutes if step.last_minutes is not None else more.last_minutes
    if more.last_minutes is not None and more.lid == "off" and step.lid != "off":
        lid = "covered_then_open"
    minutes = more.minutes if step.minutes is None and more.does == "cook" else step.minutes
    return replace(
        step, lid=lid, last_minutes=last, minutes=minutes,
        celsius=more.celsius if step.celsius is None else step.celsius, heat=step.heat or more.heat,
        in_oven=step.in_oven or (more.in_oven and step.is_wet),
    )  # fmt: skip
