"""What typed words name: every word of them is part of the name, or it is a question.

Words of a name that were not typed may only describe it (after a comma, a percentage, or in a table), never make it another
part or product: "white fish" is no white fish frames. One wrong letter in a word of five or more counts as that word, if only
one word is near it.
"""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Collection, Iterable, Sequence
from functools import cache, lru_cache

from potrel.core.frozen import dataclass
from potrel.core.tables import table

_WORD = re.compile(r"[^\W_]+(?:['’][^\W_]+)*", re.UNICODE)
_SINGULAR = (
    ("sses", "ss"),
    ("ies", "y"), ("oes", "o"), ("eaves", "eaf"), ("oaves", "oaf"), ("alves", "alf"), ("ches", "ch"), ("shes", "sh"), ("s", ""),
)  # fmt: skip
_SHORTEST = 3
_SHORTEST_MENDED = 5
_LONGEST_SYNONYM = 3
_LONGEST_ID = 60


@dataclass(frozen=True, slots=True)
class Word:
    """A word as it was typed, and by what it is known."""

    typed: str
    stem: str


@dataclass(frozen=True, slots=True)
class Fit:
    """How typed words fit a name: the words that are no part of it, and how many words of the name were not typed."""

    left: tuple[Word, ...]
    untyped: int


def stem(word: str) -> str:
    """A word in lower case, without accents, singular.

    >>> [stem(word) for word in ("Leeks", "tomatoes", "Crème", "leaves", "anchovies", "radishes", "peas", "couscous")]
    ['leek', 'tomato', 'creme', 'leaf', 'anchovy', 'radish', 'pea', 'couscous']
    """
    plain = "".join(c for c in unicodedata.normalize("NFKD", word.casefold()) if not unicodedata.combining(c)).replace("’", "'")
    plain = plain.removesuffix("'s")
    if plain in ("couscous", "asparagus", "hummus", "molasses", "swiss"):
        return plain
    for ending, base in _SINGULAR:
        if plain.endswith(ending) and len(plain) - len(ending) + len(base) >= _SHORTEST and not plain.endswith("ss"):
            return plain[: -len(ending)] + base
    return plain


@cache
def _synonyms() -> dict[tuple[str, ...], tuple[str, ...]]:
    rows = ((row["words"], row["means"]) for row in table("synonyms.csv"))
    return {tuple(map(stem, words.split())): tuple(map(stem, means.split())) for words, means in rows}


@cache
def line_words(sort: str) -> frozenset[str]:
    """The stems of a sort of words that stand in a line: "descriptive", "part", "cut", "beside"."""
    return frozenset(stem(word) for word in _listed(sort))


@cache
def number_words() -> dict[str, str]:
    """Words that are numbers."""
    return dict(one.split("=") for one in _listed("number"))


def _listed(sort: str) -> list[str]:
    return next(row["words"] for row in table("line_words.csv") if row["sort"] == sort).split(";")


def split_words(text: str) -> list[str]:
    """The words of a text as they stand there."""
    return _WORD.findall(text.replace("-", " "))


@lru_cache(maxsize=32768)
def words_in(text: str) -> tuple[Word, ...]:
    """The words of a text; those that are called otherwise elsewhere by the name that the shelf has for them."""
    return known_words(split_words(text))


def known_words(words: Iterable[str]) -> tuple[Word, ...]:
    """Words as they stand there, by what they are known."""
    return known_as([Word(word, stem(word)) for word in words])


def known_as(words: Sequence[Word]) -> tuple[Word, ...]:
    """Words with synonyms taken for what they mean, the longest first."""
    found: list[Word] = []
    place = 0
    while place < len(words):
        for length in range(min(_LONGEST_SYNONYM, len(words) - place), 0, -1):
            part = words[place : place + length]
            means = _synonyms().get(tuple(word.stem for word in part))
            if means is not None:
                typed = " ".join(word.typed for word in part)
                found += [Word(typed, one) for one in means]
                place += length
                break
        else:
            found.append(words[place])
            place += 1
    return tuple(found)


@dataclass(frozen=True, slots=True)
class _Name:
    head: tuple[str, ...]
    tail: tuple[str, ...]


@lru_cache(maxsize=16384)
def _name(text: str) -> _Name:
    head, _, tail = text.partition(",")
    return _Name(tuple(word.stem for word in words_in(head)), tuple(word.stem for word in words_in(tail)))


def fit(words: Sequence[Word], name: str) -> Fit | None:
    """How words fit a name; None where they name something else."""
    known = _name(name)
    # Of a whole kitchen nearly all fall out here.
    if not any(word.stem in known.head for word in words):
        return None
    typed = {word.stem for word in words}
    describing, parts = line_words("descriptive"), line_words("part")
    hit = [one for one in known.head if one in typed]
    if not any(one not in describing for one in hit):
        return None
    missing = [one for one in known.head if one not in typed and not _is_number(one)]
    if any(one not in describing for one in missing):
        return None
    beyond = [one for one in known.tail if one not in typed and not _is_number(one)]
    if any(one in parts for one in beyond):
        return None
    names = {*known.head, *known.tail}
    return Fit(tuple(word for word in words if word.stem not in names), len(missing) + len(beyond))


def _is_number(word: str) -> bool:
    return any(sign.isdecimal() for sign in word)


def shares_a_word(words: Iterable[Word], name: str) -> int:
    """How many words of a name that say what it is were typed."""
    known, describing = _name(name), line_words("descriptive")
    typed = {word.stem for word in words}
    return sum(one in typed and one not in describing for one in {*known.head, *known.tail})


def vocabulary(names: Iterable[str]) -> frozenset[str]:
    """Every word of some names, and every word that a line may hold beside a name."""
    found = {word for name in names for part in (_name(name).head, _name(name).tail) for word in part}
    return frozenset(found).union(*(line_words(sort) for sort in ("cut", "beside", "part", "descriptive")))


def mended(words: Sequence[Word], known: Collection[str]) -> tuple[Word, ...] | None:
    """The words with one wrong letter mended where only one known word is near; None where nothing was mended."""
    found = [
        Word(word.typed, near[0])
        if word.stem not in known and len(word.stem) >= _SHORTEST_MENDED and len(near := _near(word.stem, known)) == 1
        else word
        for word in words
    ]
    return known_as(found) if [word.stem for word in found] != [word.stem for word in words] else None


def _near(word: str, known: Collection[str]) -> list[str]:
    return [one for one in known if len(one) >= _SHORTEST_MENDED and one[0] == word[0] and one_letter_off(word, one)]


def one_letter_off(one: str, other: str) -> bool:
    """Whether two words differ by one letter: another, one more or less, or two changed about.

    >>> one_letter_off("carot", "carrot"), one_letter_off("celrey", "celery"), one_letter_off("leek", "leaks")
    (True, True, False)
    """
    if abs(len(one) - len(other)) > 1:
        return False
    same = next((place for place, (a, b) in enumerate(zip(one, other, strict=False)) if a != b), min(len(one), len(other)))
    rest, beyond = one[same:], other[same:]
    if len(one) == len(other):
        return rest[1:] == beyond[1:] or (rest[:2] == beyond[1::-1] and rest[2:] == beyond[2:])
    longer, shorter = (rest, beyond) if len(rest) > len(beyond) else (beyond, rest)
    return longer[1:] == shorter


def id_for(name: str, taken: Collection[str]) -> str:
    """An id made of a name, that nothing else has."""
    plain = re.sub(r"[^a-z0-9]+", "-", name.casefold()).strip("-")[:_LONGEST_ID] or "new"
    found, count = plain, 1
    while found in taken:
        count += 1
        found = f"{plain}-{count}"
    return found
