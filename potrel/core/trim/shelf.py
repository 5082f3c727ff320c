"""The shelf: what commonly goes into soups and stews, with weights, yields, allergens and sodium, each with its source.

A new item may start from it. What an own test says counts more: nothing here replaces weighing.
"""

from __future__ import annotations

from dataclasses import dataclass
from decimal import Decimal
from functools import cache

from potrel.core.kitchen.items import Cooking, Item, Preparation
from potrel.core.kitchen.kinds import ZERO
from potrel.core.kitchen.quantities import Quantity, parse_quantity
from potrel.core.tables import table

WEIGHTS = "USDA National Nutrient Database SR Legacy, 2018"
# Salt is sodium by the molar masses 22.990 and 58.443 g/mol.
SODIUM_IN_SALT = Decimal("22.990") / Decimal("58.443")
# From so much sodium [mg/100 g] on, salt was put in: nothing that grows has more.
_SALTED = Decimal(300)
_MILLIGRAMS = Decimal(100_000)


@dataclass(frozen=True, slots=True)
class Known:
    """A known ingredient as an item to start from, its sodium [mg/100 g] where known, and where its weights are from.

    `checked` names the measure whose weight, and the food of SR Legacy whose sodium, open data carries.
    """

    item: Item
    sodium_mg: str | None
    weights: str
    food: str | None
    checked: str | None


@cache
def shelf() -> tuple[Known, ...]:
    """All known ingredients, in the order of their names."""
    sources = {row["code"]: _source(row) for row in table("shelf_sources.csv")}
    return tuple(_known(row, sources) for row in table("shelf.csv"))


def _source(row: dict[str, str]) -> str:
    return ", ".join(part for part in (row["source"], row["edition"], row["note"]) if part)


def _known(row: dict[str, str], sources: dict[str, str]) -> Known:
    measures = dict(_pairs(row["measures"]))
    if row["sr_measure"]:
        measures[row["sr_measure"]] = parse_quantity(f"{row['sr_grams']} g")
    sodium = Decimal(row["sodium_mg"]) if row["sodium_mg"] else None
    item = Item(
        id=row["id"],
        name=row["name"],
        kind=row["kind"],
        density=Decimal(row["density"]) if row["density"] else None,
        measures=measures,
        preparations=tuple(_preparation(text, sources) for text in row["preparations"].split(";") if text),
        cooking=tuple(_cooking(text, sources) for text in row["cooking"].split(";") if text),
        allergens=tuple(text for text in row["allergens"].split(";") if text),
        salt_share=_salt_share(sodium),
    )
    weights = (
        f"{WEIGHTS}; {row['sr_measure']} by open data, others from memory" if row["sr_measure"] else f"{WEIGHTS}, from memory"
    )
    return Known(item, row["sodium_mg"] or None, weights if measures else "", row["sr_food"] or None, row["sr_measure"] or None)


def _salt_share(sodium: Decimal | None) -> Decimal | None:
    if sodium is None or sodium < _SALTED:
        return None
    return min(Decimal(1), (sodium / _MILLIGRAMS / SODIUM_IN_SALT).quantize(Decimal("0.0001")))


def _pairs(text: str) -> list[tuple[str, Quantity]]:
    pairs = [one.split("=") for one in text.split(";") if one]
    return [(unit, parse_quantity(mass)) for unit, mass in pairs]


def _preparation(text: str, sources: dict[str, str]) -> Preparation:
    id_, name, likely, low, high, code = text.split(":")
    return Preparation(id_, name, Decimal(likely), Decimal(low), Decimal(high), sources[code])


def _cooking(text: str, sources: dict[str, str]) -> Cooking:
    """A cooking yield; a sixth part is the share of its loss that renders as fat and stays in the pan."""
    method, likely, low, high, code, *rendered = text.split(":")
    share = Decimal(rendered[0]) if rendered else ZERO
    return Cooking(method, Decimal(likely), Decimal(low), Decimal(high), sources[code], rendered=share)
