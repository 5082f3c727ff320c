"""The shelf: what commonly goes into soups and stews, with weights, yields, allergens and composition, each with its source.

A new item may start from it. What an own test says counts more: nothing here replaces weighing.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import replace
from decimal import Decimal
from functools import cache

from potrel.core.frozen import dataclass
from potrel.core.kitchen.composition import NUTRIENTS, UNKNOWN, Composition
from potrel.core.kitchen.items import Basis, Cooking, Item, Measure, Preparation
from potrel.core.kitchen.kinds import ONE, ZERO, plain
from potrel.core.kitchen.naming import fit, words_in
from potrel.core.kitchen.quantities import parse_quantity
from potrel.core.numbers.rounding import half_even
from potrel.core.numbers.units import MILLILITRES, canonical
from potrel.core.tables import table

WEIGHTS = "USDA National Nutrient Database SR Legacy, 2018"
COMPOSITION = {
    "SR": f"{WEIGHTS}: composition",
    "FNDDS": "USDA Food and Nutrient Database for Dietary Studies: composition",
    "SRM": f"{WEIGHTS}: composition, value from memory, within a sixth",
    "CP": "common practice, no source: within a third",
}
_NOTED = "common practice, no source"
# Nobody said what it is.
_NO_KIND = frozenset({"other", "not known"})
_PARTS = {
    "kind": "kind", "density": "density", "measures": "weights", "preparations": "yields", "cooking": "cooking yields",
    "allergens": "allergens to read for", "origin": "what it comes from", "composition": "what it holds",
    "thickening": "how it thickens", "bone_share": "bone",
}  # fmt: skip
# EU Regulation 1169/2011, Annex I: salt is sodium * 2.5. By molar masses it is 2.542.
SALT_OF_SODIUM = Decimal("2.5")


@dataclass(frozen=True, slots=True)
class Known:
    """A known ingredient as an item to start from, its sodium [mg/100 g] where known, and where its weights are from.

    `checked` names the measure whose weight, and the food of SR Legacy whose sodium, open data carries. `called_so` tells, of
    one that was looked for, that the words can mean nothing else: a part of a name never does where allergens are at stake.
    """

    item: Item
    sodium_mg: str | None
    weights: str
    food: str | None
    checked: str | None
    called_so: bool = False


@cache
def shelf() -> tuple[Known, ...]:
    """All known ingredients, in the order of their names."""
    sources = {row["code"]: _source(row) for row in table("shelf_sources.csv")}
    contents = {row["id"]: row for row in table("shelf_contents.csv")}
    return tuple(_known(row, contents[row["id"]], sources) for row in table("shelf.csv"))


@cache
def _by_name() -> dict[str, Known]:
    return {name: known for known in shelf() for name in (known.item.id, known.item.name.casefold())}


def known_of(item: Item) -> Known | None:
    """What the shelf knows of an item, by its id or its name; None where it knows nothing."""
    return _by_name().get(item.id) or _by_name().get(item.name.casefold())


def filled(item: Item) -> Item:
    """An item with what the shelf knows of it, where it says nothing of that itself: what it holds and comes from, its density,
    weights and yields, its kind where nobody knew it, and allergens for which its label is to be read.

    What was typed or weighed here stays, and a label that was read.
    """
    known = known_of(item)
    if known is None:
        return item
    own, lent = item, known.item
    units = {canonical(unit) for unit in own.measures}
    more = {unit: one for unit, one in lent.measures.items() if canonical(unit) not in units}
    ids, names = {one.id for one in own.preparations}, {one.name.casefold() for one in own.preparations}
    preparations = [one for one in lent.preparations if one.id not in ids and one.name.casefold() not in names]
    methods = {one.method for one in own.cooking}
    is_read = bool(own.allergens) or own.allergen_check is not None
    return replace(
        own, composition=own.composition.filled_from(lent.composition), origin=own.origin or lent.origin,
        thickening=lent.thickening if own.thickening is None else own.thickening,
        bone_share=lent.bone_share if own.bone_share is None else own.bone_share,
        density=lent.density if own.density is None else own.density,
        measures={**own.measures, **more} if more else own.measures, preparations=(*own.preparations, *preparations),
        cooking=(*own.cooking, *(one for one in lent.cooking if one.method not in methods)),
        allergens=own.allergens if is_read else lent.allergens, kind=lent.kind if own.kind in _NO_KIND else own.kind,
    )  # fmt: skip


def parts_filled(was: Item, now: Item) -> list[str]:
    """What of an item was filled, in words."""
    return [words for part, words in _PARTS.items() if getattr(was, part) != getattr(now, part)]


def on_shelf(words: str) -> list[Known]:
    """What the words name on the shelf, those of whose name the most was typed first."""
    typed = words_in(words)
    found = [(how.untyped, known) for known in shelf() if (how := fit(typed, known.item.name)) is not None and not how.left]
    found.sort(key=lambda one: (one[0], one[1].item.name))
    only = len(found) == 1
    return [replace(known, called_so=untyped == 0 or (only and not known.item.allergens)) for untyped, known in found]


def _source(row: dict[str, str]) -> str:
    return ", ".join(part for part in (row["source"], row["edition"], row["note"]) if part)


def _known(row: dict[str, str], holds: dict[str, str], sources: dict[str, str]) -> Known:
    density = Decimal(row["density"]) if row["density"] else None
    measures = dict(_measures(row["measures"], sources))
    if row["sr_measure"]:
        measures[row["sr_measure"]] = Measure(parse_quantity(f"{row['sr_grams']} g"), _basis(row["sr_basis"]), source=WEIGHTS)
    for unit, measure in _rough_measures(row["kind"], density or _by_volume(measures)):
        measures.setdefault(unit, measure)
    item = Item(
        id=row["id"],
        name=row["name"],
        kind=row["kind"],
        density=density,
        measures=measures,
        preparations=tuple(_preparation(text, sources) for text in row["preparations"].split(";") if text),
        cooking=tuple(_cooking(text, sources) for text in row["cooking"].split(";") if text),
        allergens=tuple(text for text in row["allergens"].split(";") if text),
        origin=tuple(filter(None, holds["origin"].split(";"))),
        thickening=_number(holds["thickening"]),
        bone_share=_number(holds["bone_share"]),
        composition=_composition(row, holds),
    )
    weights = "; ".join(dict.fromkeys(one.source for one in measures.values() if one.source))
    return Known(item, row["sodium_mg"] or None, weights, row["sr_food"] or None, row["sr_measure"] or None)


def _number(text: str) -> Decimal | None:
    return Decimal(text) if text else None


def _composition(row: dict[str, str], holds: dict[str, str]) -> Composition:
    """What 100 g hold, as far as open data says; of the rest at least its salt, by its sodium or as is usual."""
    abv = _number(holds["abv"])
    if holds["set"]:
        nutrients = {name: _number(holds[name]) for name in ("salt_g", *NUTRIENTS)}
        return Composition(**nutrients, abv=abv, source=COMPOSITION[holds["set"]])
    if row["salt"]:
        return Composition(salt_g=Decimal(row["salt"]) * 100, abv=abv, source=_NOTED)
    if row["sodium_mg"]:
        salt = min(Decimal(100), Decimal(row["sodium_mg"]) * SALT_OF_SODIUM / 1000)
        return Composition(salt_g=salt, abv=abv, source=COMPOSITION["SR"])
    return UNKNOWN if abv is None else Composition(abv=abv, source=_NOTED)


def _measures(text: str, sources: dict[str, str]) -> Iterator[tuple[str, Measure]]:
    """The weights of a row: unit=weight, then its basis where it is EP, its band in that unit, and the code of its source."""
    for one in filter(None, text.split(";")):
        unit, _, rest = one.partition("=")
        text, *more = rest.split("/")
        weight = parse_quantity(text)
        band = next((part.split("-") for part in more if "-" in part), [])
        source = next((sources[part] for part in more if part in sources), f"{WEIGHTS}, value from memory")
        low, high = (parse_quantity(f"{end} {weight.unit}") for end in band) if band else (None, None)
        yield unit, Measure(weight, "EP" if "EP" in more else "AP", low, high, source)


def _basis(text: str) -> Basis:
    return "EP" if text == "EP" else "AP"


def _by_volume(measures: Mapping[str, Measure]) -> Decimal | None:
    """How heavy a thing is [kg/l] by a volume of it that was weighed as it is bought; None where none was.

    The data weigh US cups and spoons.
    """
    sizes = MILLILITRES["us"]
    found = (one.grams() / sizes[unit] for unit, one in measures.items() if unit in sizes and one.basis == "AP")
    return next((half_even(one, 3) for one in found), None)


def _rough_measures(kind: str, density: Decimal | None) -> Iterator[tuple[str, Measure]]:
    """What a pinch, a splash or a handful of a kind weighs, with a wide band; a volume only where the density is known."""
    for row in table("rough_measures.csv"):
        if kind in row["kinds"].split(";") and (row["grams"] or density is not None):
            likely, times = (row["grams"], ONE) if row["grams"] else (row["millilitres"], density or ONE)
            one, low, high = (parse_quantity(f"{plain(Decimal(v) * times)} g") for v in (likely, row["low"], row["high"]))
            # What is taken by hand is taken as it goes in; a can is told as it is bought.
            yield row["measure"], Measure(one, _basis(row["basis"]), low, high, row["source"])


def _preparation(text: str, sources: dict[str, str]) -> Preparation:
    """A preparation; a seventh part is the share of its salt that it keeps."""
    id_, name, likely, low, high, code, *kept = text.split(":")
    salt_kept = Decimal(kept[0]) if kept else None
    return Preparation(id_, name, Decimal(likely), Decimal(low), Decimal(high), sources[code], salt_kept=salt_kept)


def _cooking(text: str, sources: dict[str, str]) -> Cooking:
    """A cooking yield; a sixth part is the share of its loss that renders as fat and stays in the pan."""
    method, likely, low, high, code, *rendered = text.split(":")
    share = Decimal(rendered[0]) if rendered else ZERO
    return Cooking(method, Decimal(likely), Decimal(low), Decimal(high), sources[code], rendered=share)
