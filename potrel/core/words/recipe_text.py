"""A recipe as it stands on paper, taken apart: its name, its stages with their lines, and the sentences of its method.

Each line of the text is a line of the recipe, the head of a stage, a sentence of the method, or what it makes and serves.
Common practice of writing recipes, no source.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import field, replace

from potrel.core.frozen import dataclass
from potrel.core.kitchen.methods import method_called
from potrel.core.kitchen.naming import line_words, words_in
from potrel.core.words.makes_text import is_what_it_makes
from potrel.core.words.method_text import TIME, Step, read_head, read_steps
from potrel.core.words.typed_amount import BULLET

_LONGEST_HEAD = 60
_NUMBERED = re.compile(r"^(?:step\s*)?\d{1,2}\s*[.):]\s+(?=[^\W\d_])", re.IGNORECASE)
_AMOUNT_FIRST = re.compile(r"^(?:[0-9½¼¾⅓⅔⅛]|(?:an?|one|two|three|four|five|six|half|a few|some)\b)", re.IGNORECASE)
_AMOUNT_LAST = re.compile(r"[\s,:–-][0-9½¼¾⅓⅔⅛][0-9.,/]*\s*[^\W\d_]{0,12}\.?$")
_TO_SKIP = re.compile(r"^(?:ingredients|what you need|shopping list)\s*:?$", re.IGNORECASE)
_TO_METHOD = re.compile(r"^(?:method|directions|instructions|preparation|how to|steps)\s*:?$", re.IGNORECASE)
_HEAT = re.compile(r"(?:\bat\b|\bto\b|@)?\s*(?P<n>[0-9]{2,3})\s*(?:°|º|degrees)?\s*(?P<unit>[CF])?\b", re.IGNORECASE)
_DANGLING = re.compile(r"[\s,;–-]*(?:(?:\b(?:for|at|to)|@)[\s,;–-]*)+$", re.IGNORECASE)
_FOR_THE = re.compile(r"^for\s+(?:the\s+)?", re.IGNORECASE)
_SENTENCE_WORDS, _LONG_SENTENCE = 5, 9
# "Season.", "Serve with bread": so begins no ingredient.
_ORDER = re.compile(
    r"^(?:cool|chill|refrigerate|let|"
    r"season|serve|taste|garnish|adjust|check|enjoy|finish|add|stir in|bring|do not|don.t|never)\b[^0-9]*$",
    re.IGNORECASE,
)
# "Cover with cold water", "covered with stock", "thin it with a little milk"; a lid, foil or pastry is no liquid.
_POURED = re.compile(
    r"\b(?P<by_eye>cover|thin)(?:ed|ned)?(?: (?:it|them|all|everything|the [^\W\d_]+))? (?:with|in) "
    r"(?:a little |some |more |the )?"
    r"(?P<what>(?:[^\W\d_]+ ){0,2}(?:water|stock|broth|milk|wine|cider|beer|cream))\b",
    re.IGNORECASE,
)
_SOAKS = re.compile(r"\b(?:soak|blanch|overnight|rinse)", re.IGNORECASE)
_POURED_OFF = re.compile(r"\b(?:drain|discard|rinse|pour (?:it |the water )?(?:off|away)|throw)", re.IGNORECASE)
# [characters] So soon after it.
_SOON = 150
# So many characters of sentences are more than any method has.
_MOST_READ = 20_000


@dataclass(frozen=True, slots=True)
class StageText:
    """A stage of a text: its name, what its head says of how it is cooked, and its lines."""

    name: str
    step: Step = Step("", "say")
    lines: list[str] = field(default_factory=list)


@dataclass(frozen=True, slots=True)
class Sentence:
    """A sentence of the method, and what it does step by step; what is longer than any method is not looked through."""

    text: str
    steps: list[Step] = field(default_factory=list)


@dataclass(frozen=True, slots=True)
class RecipeText:
    """A whole text taken apart: its stages and sentences in their order. `aside` is what it makes and serves."""

    name: str | None
    parts: list[StageText | Sentence]
    aside: list[str]

    @property
    def stages(self) -> list[StageText]:
        return [one for one in self.parts if isinstance(one, StageText)]

    @property
    def steps(self) -> list[Step]:
        """All that its heads and its sentences do."""
        every = ([one.step] if isinstance(one, StageText) else one.steps for one in self.parts)
        return [step for some in every for step in some]

    @property
    def told(self) -> list[str]:
        return [one.text for one in self.parts if isinstance(one, Sentence)]


def poured_by_eye(text: RecipeText) -> list[str]:
    r"""What only the method pours, by eye, as lines: "Cover with cold water." of a recipe that lists no water.

    >>> poured_by_eye(read_recipe_text("Soup\n2 kg leeks\nMethod:\nCover with cold water and simmer. Thin with milk."))
    ['cold water to cover', 'milk to thin']
    """
    listed = {word.stem for stage in text.stages for line in stage.lines for word in words_in(line)}
    found: dict[str, str] = {}
    for match in (match for told in text.told for match in _POURED.finditer(told) if not _goes_again(told, match)):
        liquid = words_in(match["what"])[-1].stem
        if liquid not in listed:
            found.setdefault(liquid, f"{match['what'].lower()} to {match['by_eye'].lower()}")
    return list(found.values())


def _goes_again(told: str, poured: re.Match[str]) -> bool:
    """Whether what is poured only soaks or blanches something, and is poured off again: it is no part of the pot."""
    sentence = re.split(r"[.!;]", told[: poured.start()])[-1] + re.split(r"[.!;]", told[poured.start() :])[0]
    return bool(_SOAKS.search(sentence) or _POURED_OFF.search(told[poured.end() :][:_SOON]))


def read_recipe_text(text: str) -> RecipeText:
    """Take a recipe apart. Nothing of it is lost: what is neither head nor line is a sentence of its method."""
    rows = [" ".join(row.split()) for row in text.splitlines()]
    name, rows = _name_of(rows)
    parts: list[StageText | Sentence] = []
    aside: list[str] = []
    telling, read = False, 0

    def tell(sentence: str) -> None:
        nonlocal read
        read += len(sentence)
        parts.append(Sentence(sentence, read_steps(sentence) if read <= _MOST_READ else []))

    for place, row in enumerate(rows):
        bare = BULLET.sub("", row)
        if not bare or _TO_SKIP.match(bare):
            telling = telling and not bare
        elif _TO_METHOD.match(bare):
            telling = True
        elif is_what_it_makes(bare):
            aside.append(bare)
        elif _is_sentence(bare, telling):
            tell(_NUMBERED.sub("", bare))
        elif (head := _head(bare)) is not None:
            telling = False
            follows = rows[place + 1] if place + 1 < len(rows) else ""
            if not bare.endswith(":") and sum(one.is_stage for one in read_steps(bare)) > 1:
                tell(bare)
            elif not _tells_how(parts, head, bare, follows):
                parts.append(head)
        else:
            _last(parts).lines.append(bare)
    return RecipeText(name, parts, aside)


def _name_of(rows: Sequence[str]) -> tuple[str | None, list[str]]:
    """The name, where the first row can be nothing else, and the rows that are left."""
    for place, row in enumerate(rows):
        if not row:
            continue
        bare = row.lstrip("# ").strip()
        is_head = bare.endswith(":") or _TO_SKIP.match(bare) or _TO_METHOD.match(bare) or is_what_it_makes(bare)
        rest = [one for one in rows[place + 1 :] if one]
        if is_head or _has_amount(bare) or len(bare) > _LONGEST_HEAD or not rest:
            return None, list(rows)
        return bare, list(rows[place + 1 :])
    return None, []


def _has_amount(row: str) -> bool:
    return bool(_AMOUNT_FIRST.match(BULLET.sub("", row)) or _AMOUNT_LAST.search(row))


def _is_sentence(row: str, telling: bool) -> bool:
    """Whether a row tells what to do: it is numbered, or it is a sentence and no amount begins it."""
    if telling or _NUMBERED.match(row):
        return True
    words = row.split()
    # "Finish" alone may be the head of a stage.
    if _ORDER.match(row) and not row.endswith(":") and (len(words) > 1 or row.endswith((".", "!"))):
        return True
    # "A few sprigs of thyme." is a line yet; "A deep pot cools slowly: shallow trays or an ice bath." is none.
    enough = _SENTENCE_WORDS if not _AMOUNT_FIRST.match(row) else _LONG_SENTENCE if not row[0].isdigit() else len(words) + 1
    return len(words) >= enough and row.endswith((".", "!"))


def _head(row: str) -> StageText | None:
    """The stage that a row begins: "For the roast:", "Roast 45 min at 190", "Simmer"; None where it begins none."""
    if len(row) > _LONGEST_HEAD or _AMOUNT_FIRST.match(row):
        return None
    named = _FOR_THE.sub("", row.rstrip(": "))
    step = read_head(named)
    if not row.endswith(":"):
        cooks = step.method is not None and method_called(named.split()[0].rstrip(",;")) is not None
        left = _HEAT.sub(" ", TIME.sub(" ", named)).split()
        is_step = step.is_stage and (step.does != "cook" or step.method == "reduce" or step.in_oven)
        is_step = is_step or (cooks and step.is_wet and step.minutes is not None)
        if not is_step and (not cooks or len(left) > _SENTENCE_WORDS or (_AMOUNT_LAST.search(row) and not TIME.search(row))):
            return None
    if step.does == "cook" and not row.endswith(":"):
        first = named.split()[0].rstrip(",;")
        called = method_called(first)
        name = first if called is not None and called.id == step.method else step.name
    elif step.does == "cook" and step.method != "reduce":
        bare = _DANGLING.sub("", _HEAT.sub("", TIME.sub("", named))).strip(" ,;–-")
        name = bare.partition(",")[0].strip() or named
    else:
        name = step.name or named
    return StageText(name[:1].upper() + name[1:], replace(step, text=row))


def _tells_how(parts: list[StageText | Sentence], head: StageText, row: str, follows: str) -> bool:
    """Whether a row such as "Roast 45 min at 190" behind some lines says how those are cooked, and begins nothing new."""
    here = parts[-1] if parts else None
    if (
        not isinstance(here, StageText)
        or not here.lines
        or row.endswith(":")
        or (follows and _AMOUNT_FIRST.match(BULLET.sub("", follows)))
    ):
        return False
    if here.step.minutes is not None or here.step.method not in (None, head.step.method):
        return False
    if head.step.does != "cook" or head.step.method in ("reduce", "blend", "soak"):
        return False
    # "Brown the beef" is of the beef alone.
    said = {word.stem for word in words_in(row)}
    mine = [bool(said & {word.stem for word in words_in(line)} - line_words("beside")) for line in here.lines]
    if any(mine) and not all(mine):
        return False
    parts[-1] = replace(here, step=head.step)
    return True


def _last(parts: list[StageText | Sentence]) -> StageText:
    """The stage that a line belongs to: the last one."""
    found = next((one for one in reversed(parts) if isinstance(one, StageText)), None)
    if found is None:
        found = StageText("Pot")
        parts.append(found)
    return found
