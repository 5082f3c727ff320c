"""What a sentence of a method does to a pot: "simmer 8 hours, no lid", "reduce by half", "lift the bones out".

A sentence is taken apart into clauses, each of which does one thing. Common practice of writing recipes, no source.
"""

from __future__ import annotations

import re
from dataclasses import replace
from decimal import Decimal
from typing import Literal

from potrel.core.errors import BadQuantity
from potrel.core.frozen import dataclass
from potrel.core.kitchen.kinds import ONE
from potrel.core.kitchen.methods import Method, method_called
from potrel.core.kitchen.quantities import Quantity, parse_quantity, read_range
from potrel.core.kitchen.vessels import Heat, Lid
from potrel.core.numbers.rounding import half_even

# What a clause does: it cooks, or lets something through a sieve, out of the pot, or into it.
Does = Literal["cook", "sieve", "lift", "skim", "pick", "drain", "fat", "top_up", "add", "say"]

# What an oven, and no pot on a hob, is as hot as [C].
_OVEN_HOT = Decimal(105)
# [min] of "overnight".
_OVERNIGHT = Decimal(720)
_NUMBERS = {
    "a": "1", "an": "1", "one": "1", "two": "2", "three": "3", "four": "4", "five": "5", "six": "6", "seven": "7", "eight": "8",
    "nine": "9", "ten": "10", "twelve": "12", "fifteen": "15", "twenty": "20", "thirty": "30", "forty": "40", "sixty": "60",
}  # fmt: skip
NUMBER = r"(?:[0-9]+(?:[.,][0-9]+)?(?:\s+[0-9]/[0-9])?|[0-9]/[0-9])[½¼¾]?|[½¼¾]"
TIME = re.compile(
    rf"(?P<n>(?:{NUMBER})(?:\s*(?:-|–|to|or)\s*(?:{NUMBER}))?)\s*-?\s*(?P<unit>min(?:ute)?s?\b|h(?:ou)?rs?\b|h\b)"
    r"(?:\s*(?:and\s*)?(?P<more>[0-9]{1,2})\s*min(?:ute)?s?\b)?",
    re.IGNORECASE,
)
_LAST_MINUTES = re.compile(r"\b(?:for|in) (?:the )?(?:last|final)\b", re.IGNORECASE)
_WEIGHED = r"(?!\s*(?:g|kg|ml|cl|dl|l|oz|lbs?|qts?|pts?|gal|cups?|min\w*|h|hrs?|hours?|%|per)\b)"
_DEGREES = re.compile(
    rf"(?:(?:\bat|\bto|\boven(?: of| at)?|@)\s*\(?(?P<n>[0-9]{{2,3}})\b(?!\s*[/x×]){_WEIGHED}"
    r"\s*(?P<u>(?:°|º|degrees?)?\s*[CF]?\b)"
    r"|(?P<n2>[0-9]{2,3})\s*(?P<u2>(?:°|º|degrees?)\s*[CF]?|[CF]\b))",
    re.IGNORECASE,
)
_HEAT_WORDS: tuple[tuple[str, Heat], ...] = (
    (
        r"\bbar(?:e|ely)\b|\btrembl|\bshiver|\bsmil(?:e|ing)\b|\bjust (?:below|under) (?:a |the )?simmer|\bvery gent",
        "bare_simmer",
    ),
    (r"\bsimmer(?! ?down)|\bgentle boil", "simmer"),
    (r"\bhard boil|\brolling boil|\bboil(?!ed )", "boil"),
    (r"\bkeep (?:it )?(?:hot|warm)\b|\bhold (?:it )?hot\b", "hold"),
)
_CALLED: dict[Does, str] = {
    "sieve": "Strain", "lift": "Lift out", "skim": "Skim", "pick": "Pick", "drain": "Drain", "fat": "Pour off the fat",
    "top_up": "Top up",
}  # fmt: skip
_WITH_WATER = re.compile(
    r"\bcover(?:ed|ing)?\b(?: (?:it|them|all|everything|the [\w ]{1,20}?))? ?(?:by|with|in) "
    r"(?!(?:a |the |its )?(?:lid|foil|(?:\w+ ){0,3}oven))"
)
_LIDS: tuple[tuple[str, Lid], ...] = (
    (r"\blid ajar\b|\bajar\b|\b(?:part(?:ly|ially)|half)[- ]?(?:cover|lid)", "ajar"),
    (r"\blid (?:half|part(?:ly)?|slightly|tilted|askew|a little)\b", "ajar"),
    (r"\bno lid\b|\blid off\b|\bwithout (?:a |the |its )?(?:lid|cover)|\bun(?:cover|lid)|\bopen pot\b", "off"),
    (r"\b(?:take|lift|pull) (?:off the lid|the lid off)", "off"),
    (r"\bseal(?:ed)? (?:lid|pot)|\blid sealed\b|\bhermetic", "sealed"),
    (r"\blid on\b|\bcover(?:ed)?\b|\b(?:with|under) (?:a|the|its) (?:tight )?lid\b", "on"),
    (r"\blidded\b|\bput (?:on )?(?:a|the) lid|\bfoil\b", "on"),
)  # fmt: skip
_SHARES = {
    "half": ONE / 2, "halves": ONE / 2, "third": ONE / 3, "quarter": ONE / 4, "fifth": ONE / 5,
    "two thirds": 2 * ONE / 3, "three quarters": 3 * ONE / 4,
}  # fmt: skip
_SHARE = re.compile(
    r"\b(?P<how>by|to|until)\b (?:about |around |roughly )?(?:it is |they are )?(?:reduced (?:by|to) )?(?:a |an |one[- ]?)?"
    r"(?P<share>two[- ]thirds|three[- ]quarters|half|third|quarter|fifth|[½⅓⅔¼¾]|[0-9]/[0-9]|[0-9]{1,2} ?(?:%|per ?cent))",
    re.IGNORECASE,
)
_HALVED = re.compile(r"\bhalved?\b", re.IGNORECASE)
BULK_UNIT = (
    r"(?:kg|g|l|ml|cl|dl|lit(?:re|er)s?|gal(?:lon)?s?|qts?|quarts?|pts?|pints?|cups?|lbs?|pounds?|"
    r"(?:fl(?:uid)?\.? ?)?(?:oz|ounces?))"
)
_TO_SO_MUCH = re.compile(
    rf"\b(?:to|until|up to|at)\b (?:about |around |roughly |you have |there (?:is|are) )?(?P<so>(?:{NUMBER})\s*{BULK_UNIT})\b",
    re.IGNORECASE,
)
_REDUCES = re.compile(
    r"\breduc(?:e|ed|es|ing)\b|\b(?:boil|cook|simmer)(?:ed|ing)? (?:it |this |everything )?down\b", re.IGNORECASE
)
_DOES: tuple[tuple[str, Does], ...] = (
    (r"\b(?:pour|drain|spoon|skim|lift|tip|ladle|take)\w{0,3} [\w ]{0,40}\bfat\b", "fat"),
    (r"^(?:top(?: it)? up|make (?:it )?up to|bring (?:it )?(?:back )?up to|fill up)\b", "top_up"),
    (r"^bring (?:it )?back to (?:about |around )?[0-9]", "top_up"),
    # Thinned to so much it is topped up; else it is whatever is poured.
    (r"^(?:thin|let) (?:it |the soup )?(?:down |out )?(?:with [\w ]{1,40} )?to (?:about |around )?[0-9]", "top_up"),
    (r"^(?:strain|sieve|pass)\b|\bthrough (?:a|the)\b[\w ,-]{0,40}\b(?:sieve|strainer|chinois|muslin|cloth|colander)", "sieve"),
    (r"^(?:pick|pull|strip|shred)\b[\w ]{0,40}\b(?:meat|flesh|bones?|carcass)\b", "pick"),
    (r"^(?:lift|take|remove|fish|discard|pull|throw)\b", "lift"),
    (r"^skim\b", "skim"),
    (r"^drain\b", "drain"),
    (r"^(?:add|stir|pour|whisk|put|throw|tip|return|mix|season|finish|bring|deglaze|fold|serve|melt|heat|cover with|"
     r"then (?:the|an?|some|half|all))\b", "add"),
)  # fmt: skip
# "Lift the lid", "take off the heat", "remove from the heat": nothing comes out of the pot.
_NOT_LIFTED = re.compile(r"\b(?:lid|heat|oven|foil|flame|hob|stove|cover)\b", re.IGNORECASE)
# "Do not boil", "without letting it boil": what is not done.
_NOT_DONE = re.compile(
    r"^(?:do not|don.t|never)\b.*|"
    r"\b(?:without|not|never)\s+(?:let(?:ting)? (?:it |this )?)?(?:come to (?:the|a) |re)?boil(?:ing)?\b",
    re.IGNORECASE,
)
# "Reduce the heat", "reduce to a simmer": the flame is, and not what is in the pot.
_FLAME_DOWN = re.compile(
    r"\breduc(?:e|ing)\s+(?=(?:the |your )?(?:heat|flame|temperature|temp|gas|oven|burner)\b"
    r"|(?:it |this )?(?:down )?to (?:an? |the )?(?:(?:very|bare|gentle|slow|low|steady|medium)[ -])*(?:simmer|heat|flame)\b)"
)
_IN_OVEN = re.compile(
    r"\b(?:in|into) (?:the|a|an)\b[\w ]{0,40}\boven\b|\b(?:low|slow|moderate|medium|hot|warm|[0-9]{2,3}\s*[cf]?) oven\b"
)
# A pot that does so simmers.
_SIMMERS = re.compile(r"\b(?:tick(?:ing)? (?:away|over)|(?:bubbl|burbl)(?:e|ing)|(?:blip|putter|murmur)(?:p?ing)?)\b")
# Scum that is taken off in passing is nothing that anybody weighs.
_IN_PASSING = re.compile(
    r"\b(?:occasionally|often|regularly|now and (?:then|again)|from time to time|as (?:needed|necessary)|scum|froth|foam)\b"
)
# Cooled right down, and no moment's rest before the next step.
_COOLS = re.compile(
    r"^(?:(?:let|leave|allow)\b[\w ]{0,30}?\s)?(?:cool|chill|refrigerate)\b"
    r"(?!.*\b(?:slightly|little|bit|enough|lukewarm|warm|tepid|minutes?|room)\b)"
)
# Of these a sentence makes a stage; to season and to serve change nothing that is weighed.
_STAGES = frozenset({
    "roast", "bake", "grill", "brown", "sear", "fry", "toast", "sweat", "wilt", "simmer", "boil", "poach", "braise", "stew",
    "steam", "pressure", "slow", "reduce", "blend", "soak",
})  # fmt: skip
_WET = frozenset({"simmer", "boil", "poach", "braise", "stew", "slow", "pressure"})
# A word for any way of cooking is a simmer where it lasts.
_ANY_COOKING = frozenset({"cook", "cooking"})
_VERBS = (
    r"(?:roast|bake|grill|brown|sear|fry|saut[eé]|toast|sweat|wilt|soften|simmer|boil|cook|poach|braise|stew|steam|reduce|blend|"
    r"pur[eé]e|whizz|blitz|liquidi[sz]e|strain|sieve|pass|skim|lift|take|remove|discard|fish|pick|drain|pour|spoon|top up|thin|"
    r"add|stir|whisk|bring|cover|uncover|put|season|return|deglaze|soak|let|leave|then|finish|make up|turn|keep|hold|"
    r"cool|chill|refrigerate|do not|don.t|never)"
)
_SPLIT = re.compile(
    rf"\s*(?:[.;!](?=\s|$)|,?\s+(?:and then|then)\s+(?={_VERBS}\b)|,?\s+and\s+(?={_VERBS}\b)|,\s+(?={_VERBS}\b))\s*",
    re.IGNORECASE,
)


@dataclass(frozen=True, slots=True)
class Step:
    """What a clause does, as far as it says so: how it cooks and how long [min], how hot [C], under which lid.

    `left` is the share that a reduction leaves, `to` what it is reduced or topped up to. `last_minutes` are those at its end
    without the lid. `is_named` tells that the clause itself says how it cooks.
    """

    text: str
    does: Does
    method: str | None = None
    minutes: Decimal | None = None
    celsius: Decimal | None = None
    heat: Heat | None = None
    lid: Lid | None = None
    in_oven: bool = False
    left: Decimal | None = None
    to: Quantity | None = None
    last_minutes: Decimal | None = None

    @property
    def is_stage(self) -> bool:
        """Whether it is a step of its own, and no word about another."""
        return self.does not in ("add", "say")

    @property
    def name(self) -> str:
        """What a stage of it is called; "" where it is none."""
        return (self.method or "").capitalize() if self.does == "cook" else _CALLED.get(self.does, "")

    @property
    def says_how(self) -> bool:
        """Whether it does nothing itself, and says how something is cooked: its lid, its oven."""
        return self.does == "say" and (self.lid is not None or self.in_oven or self.celsius is not None)

    @property
    def ends(self) -> bool:
        """Whether it tells how far something is reduced or topped up."""
        return self.left is not None or self.to is not None

    @property
    def is_wet(self) -> bool:
        """Whether it is cooked in liquid."""
        return self.method in _WET


def clauses(sentence: str) -> list[str]:
    """The clauses of a sentence, each of which does one thing.

    >>> clauses("Strain, then simmer 8 hours, no lid, and reduce by half.")
    ['Strain', 'simmer 8 hours, no lid', 'reduce by half']
    """
    return [one for part in _SPLIT.split(sentence) if (one := part.strip(" ,.;!"))]


def read_steps(sentence: str) -> list[Step]:
    """What a sentence does, step by step; what a clause says of the next one goes with that.

    >>> [(one.does, one.lid, one.minutes) for one in read_steps("Put the lid on and simmer for 2 hours.")]
    [('cook', 'on', Decimal('120'))]
    """
    found: list[Step] = []
    for clause in clauses(sentence):
        before = found[-1] if found else None
        step = read_step(clause)
        if before is None:
            found.append(step)
            continue
        step = _cooked_at(step, before.heat)
        if step.does == "cook" and (_tells_how(before) or _is_told_on(before, step) or _goes_on(before, step)):
            found[-1] = _with_before(step, before)
        else:
            found.append(step)
    return found


def _cooked_at(step: Step, heat: Heat | None) -> Step:
    """ "Bring to a boil and cook 10 minutes" is boiled, however short."""
    if step.does != "say" or step.minutes is None or heat not in ("simmer", "boil"):
        return step
    cooks = re.match(r"cook\b", step.text, re.IGNORECASE)
    return replace(step, does="cook", method=heat, heat=heat) if cooks else step


def _tells_how(before: Step) -> bool:
    return before.says_how and before.last_minutes is None


def _is_told_on(before: Step, step: Step) -> bool:
    """Whether a clause goes on telling of the one before it: "reduce to a bare simmer and cook 1 hour"."""
    return before.does == "cook" and before.is_wet and before.method == step.method and before.minutes is None


def _goes_on(before: Step, step: Step) -> bool:
    """ "Cool and refrigerate" is done once."""
    return before.method == "cool" == step.method


def _with_before(step: Step, before: Step) -> Step:
    return replace(
        step, text=f"{before.text}, {step.text}", lid=step.lid or before.lid, in_oven=step.in_oven or before.in_oven,
        celsius=before.celsius if step.celsius is None else step.celsius, heat=step.heat or before.heat,
    )  # fmt: skip


def read_step(clause: str) -> Step:
    """What one clause does.

    >>> read_step("reduce by two thirds").left, str(read_step("Reduce to 6 l").to), read_step("braise at 160 covered").in_oven
    (Decimal('0.3333333333333333333333333333'), '6 l', True)
    """
    text = _SIMMERS.sub("simmer", _FLAME_DOWN.sub(" ", _NOT_DONE.sub(" ", clause.lower())))
    minutes, celsius, lid = minutes_in(clause), degrees_in(clause), _lid_in(text)
    in_oven = _IN_OVEN.search(text) is not None
    does = next((what for words, what in _DOES if re.search(words, text)), None)
    method = _method_in(text)
    if does in ("lift", "add") and _lid_in(text) is not None and _NOT_LIFTED.search(text):
        does = None
    if (does == "lift" and _NOT_LIFTED.search(text)) or (does == "skim" and _IN_PASSING.search(text)):
        does = None
    if does is None and method is None and in_oven and minutes is not None:
        method = method_called("braise")
    if _COOLS.match(text):
        return Step(clause, "cook", "cool")
    if does in ("add", None) and _REDUCES.search(text):
        to, left = _so_much(clause), _left_in(text)
        boils: Heat | None = "boil" if left is None and to is None else None
        return Step(clause, "cook", "reduce", minutes, None, boils, lid, False, left, to)
    if does == "sieve" and method is not None and method.id == "blend":
        # "Blend and pass" stands in two clauses; "blend it through a sieve" is both, and the sieve is what loses.
        method = None
    if does is not None and does != "add":
        return Step(
            clause, does, "strain" if does in ("sieve", "skim") else None, to=_so_much(clause) if does == "top_up" else None
        )
    at_last = _LAST_MINUTES.search(text)
    last = None if at_last is None else minutes_in(clause[at_last.end() :])
    if does == "add" or method is None:
        return Step(
            clause, "add" if does == "add" else "say", None, None, celsius, _heat_in(text), lid, in_oven, last_minutes=last
        )
    named = method.id
    if named == "boil" and not re.search(r"\bboil", text):
        # "Cook 2 hours" is a simmer, "cook the bacon" nothing that anybody could tell.
        if minutes is None or minutes < 15:
            return Step(clause, "say", None, minutes, celsius, None, lid, in_oven)
        named = "simmer"
    if named not in _STAGES:
        return Step(clause, "say", None, minutes, celsius, None, lid, in_oven)
    if named == "soak" and minutes is None and "overnight" in text:
        minutes = _OVERNIGHT
    wet = named in _WET
    in_oven = wet and (in_oven or (celsius is not None and celsius >= _OVEN_HOT))
    heat = None if not wet or celsius is not None or in_oven else _heat_in(text)
    if last is not None and lid == "off":
        lid, minutes = "covered_then_open", None if minutes == last else minutes
    return Step(clause, "cook", named, minutes, celsius, heat, lid, in_oven, last_minutes=last)


def read_head(head: str) -> Step:
    """What the head of a stage says: as a clause, and any method may be its own, done or to be done."""
    step = read_step(head)
    if step.is_stage:
        return step
    found = next((one for word in re.findall(r"[^\W\d_]+", head.lower()) if (one := method_called(word)) is not None), None)
    if found is None:
        return replace(step, does="say")
    return replace(
        step, does="cook", method=found.id, minutes=minutes_in(head), celsius=degrees_in(head), heat=_heat_in(head.lower()),
        lid=_lid_in(head.lower()),
    )  # fmt: skip


def minutes_in(text: str) -> Decimal | None:
    """The first time that a text names [min]; of a range its middle.

    >>> minutes_in("about 1 1/2 hours"), minutes_in("half an hour"), minutes_in("2-3 h"), minutes_in("an hour and a half")
    (Decimal('90.0'), Decimal('30'), Decimal('150.0'), Decimal('90'))
    """
    found = TIME.search(_in_figures(text))
    if found is None:
        return None
    try:
        amount = read_range(found["n"])[0]
    except BadQuantity:
        return None
    if found["unit"].lower().startswith("h"):
        amount = amount * 60 + Decimal(found["more"] or 0)
    return amount


def _in_figures(text: str) -> str:
    text = re.sub(r"\bhalf an hour\b|\b(?:a )?half hour\b", "30 min", text, flags=re.IGNORECASE)
    text = re.sub(r"\ban hour and a half\b", "90 min", text, flags=re.IGNORECASE)
    text = re.sub(r"\b(\w+) and a half (?=hours?\b)", lambda one: f"{_NUMBERS.get(one[1].lower(), one[1])} 1/2 ", text)
    text = re.sub(r"\b(?:three )?quarters? of an hour\b", lambda one: "45 min" if "three" in one[0].lower() else "15 min", text)
    words = "|".join(_NUMBERS)
    return re.sub(
        rf"\b({words})(?=(?:\s*(?:-|–|to|or)\s*(?:{words}|[0-9]+))?\s+(?:hour|minute|min)|\s*(?:-|–|to|or)\s*[0-9])",
        lambda one: _NUMBERS[one[1].lower()], text, flags=re.IGNORECASE,
    )  # fmt: skip


def degrees_in(text: str) -> Decimal | None:
    """The heat that a text names [C]; Fahrenheit is converted, and so is what no Celsius oven reaches."""
    for found in _DEGREES.finditer(TIME.sub(" ", text)):
        degrees = Decimal(found["n"] or found["n2"])
        unit = (found["u"] or found["u2"] or "").upper()
        if unit.endswith("F") or (not unit.endswith("C") and degrees >= 300):
            return half_even((degrees - 32) * 5 / 9, 0)
        if unit or degrees >= 50:
            return degrees
    return None


def _method_in(text: str) -> Method | None:
    words = re.findall(r"[^\W\d_]+(?:-[^\W\d_]+)?", text)
    # "The roasted bones" are done already; to cook is any way of cooking, if no other word says which.
    named = [one for word in words if not word.endswith("ed") and word not in _ANY_COOKING and (one := method_called(word))]
    return named[0] if named else next((one for word in words if word in _ANY_COOKING and (one := method_called(word))), None)


def _heat_in(text: str) -> Heat | None:
    return next((heat for words, heat in _HEAT_WORDS if re.search(words, text)), None)


def _lid_in(text: str) -> Lid | None:
    bare = _WITH_WATER.sub(" ", text)
    return next((lid for words, lid in _LIDS if re.search(words, bare)), None)


def _left_in(text: str) -> Decimal | None:
    """The share that is left when something is reduced."""
    found = _SHARE.search(text)
    if found is None:
        return ONE / 2 if _HALVED.search(text) else None
    share = _share(found["share"].lower())
    by = found["how"].lower() == "by" or "reduced by" in found[0].lower()
    left = 1 - share if by else share
    return left if 0 < left < 1 else None


def _share(text: str) -> Decimal:
    known = _SHARES.get(text.replace("-", " "))
    if known is not None:
        return known
    number = re.sub(r"\s*(?:%|per ?cent)$", "", text)
    try:
        value = read_range(number)[0]
    except BadQuantity:
        # A fraction over nothing is no share.
        return Decimal(0)
    return value if number == text else value / 100


def _so_much(text: str) -> Quantity | None:
    """The quantity to which something is reduced or topped up."""
    found = _TO_SO_MUCH.search(text)
    if found is None:
        return None
    try:
        return parse_quantity(found["so"])
    except BadQuantity:
        return None
