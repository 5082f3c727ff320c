"""Units of mass, volume and count, with exact factors, and which "cup" a bare cup is.

Factors: the international pound of 1959 (0.45359237 kg), the US gallon (231 cubic inches), the imperial gallon
(Units of Measurement Regulations, 4.54609 l) and the metric cup (250 ml) and spoons (15 ml, 5 ml).
"""

from __future__ import annotations

from decimal import Decimal
from typing import Literal

MeasureSystem = Literal["us", "metric", "imperial"]
Kind = Literal["mass", "volume", "count"]

_POUND = Decimal("453.59237")
_US_GALLON = Decimal("3785.411784")
_IMPERIAL_GALLON = Decimal("4546.09")

GRAMS: dict[str, Decimal] = {
    "mg": Decimal("0.001"),
    "g": Decimal(1),
    "kg": Decimal(1000),
    "lb": _POUND,
    "oz": _POUND / 16,
}

_METRIC_VOLUMES = {"ml": Decimal(1), "cl": Decimal(10), "dl": Decimal(100), "l": Decimal(1000)}
_US_VOLUMES = {
    "gallon": _US_GALLON,
    "quart": _US_GALLON / 4,
    "pint": _US_GALLON / 8,
    "cup": _US_GALLON / 16,
    "fl oz": _US_GALLON / 128,
    "tbsp": _US_GALLON / 256,
    "tsp": _US_GALLON / 768,
}
_METRIC_SPOONS = {"cup": Decimal(250), "tbsp": Decimal(15), "tsp": Decimal(5)}
_IMPERIAL_VOLUMES = {
    "gallon": _IMPERIAL_GALLON,
    "quart": _IMPERIAL_GALLON / 4,
    "pint": _IMPERIAL_GALLON / 8,
    "fl oz": _IMPERIAL_GALLON / 160,
}

MILLILITRES: dict[MeasureSystem, dict[str, Decimal]] = {
    "us": {**_METRIC_VOLUMES, **_US_VOLUMES},
    "metric": {**_METRIC_VOLUMES, **_IMPERIAL_VOLUMES, **_METRIC_SPOONS},
    "imperial": {**_METRIC_VOLUMES, **_IMPERIAL_VOLUMES, **_METRIC_SPOONS},
}

_VOLUME_NAMES = frozenset(_METRIC_VOLUMES) | frozenset(_US_VOLUMES)

# Words that kitchens count by. A word that is not here becomes a unit once an item gives it a weight.
COUNT_WORDS = frozenset({
    "each", "piece", "bunch", "head", "bulb", "clove", "stick", "stalk", "rib", "leaf", "sprig", "handful", "pinch",
    "splash", "squeeze", "dollop", "slice", "rasher", "knob", "ear", "small", "medium", "large", "can", "tin", "jar", "carton",
    "bag", "box", "crate", "tray", "net", "pack", "packet", "punnet", "sachet", "cube", "sheet", "fillet", "portion",
    "lid", "cob", "dash", "glug", "drizzle", "grating", "thumb", "spear", "wedge", "strip", "square", "loaf", "bottle",
    "floret", "pod", "segment", "bundle", "sack", "tub", "pot", "tube", "link", "steak", "breast", "thigh", "leg",
})  # fmt: skip

_SPELLINGS = {
    "gram": "g", "grams": "g", "gr": "g", "kilo": "kg", "kilos": "kg", "kilogram": "kg", "kilograms": "kg",
    "pound": "lb", "pounds": "lb", "lbs": "lb", "ounce": "oz", "ounces": "oz",
    "litre": "l", "litres": "l", "liter": "l", "liters": "l", "ltr": "l", "millilitre": "ml", "millilitres": "ml",
    "milliliter": "ml", "milliliters": "ml", "centilitre": "cl", "decilitre": "dl",
    "cups": "cup", "tablespoon": "tbsp", "tablespoons": "tbsp", "tbs": "tbsp", "teaspoon": "tsp",
    "teaspoons": "tsp", "pints": "pint", "pt": "pint", "pts": "pint", "quarts": "quart", "qt": "quart", "qts": "quart",
    "gallons": "gallon",
    "gal": "gallon", "gals": "gallon", "floz": "fl oz", "fluid ounce": "fl oz", "fluid ounces": "fl oz",
    "leaves": "leaf", "bunches": "bunch", "pieces": "piece", "pcs": "piece", "pc": "piece", "ea": "each",
    "pce": "piece", "pces": "piece",
    "stk": "piece", "stück": "piece", "stueck": "piece", "pièce": "piece", "pièces": "piece", "pieza": "piece",
    "piezas": "piece", "unit": "each", "units": "each",
    "splashes": "splash", "pinches": "pinch", "punnets": "punnet", "boxes": "box", "radishes": "radish",
}  # fmt: skip


def canonical(unit: str) -> str:
    """The one spelling of a unit: lower case, singular where the plural is a plain s of a known word.

    >>> canonical("Kilos"), canonical("cups"), canonical("bunches"), canonical("fl. oz.")
    ('kg', 'cup', 'bunch', 'fl oz')
    """
    word = " ".join(unit.replace(".", " ").split()).lower()
    if word in _SPELLINGS:
        return _SPELLINGS[word]
    if word.endswith("s") and word[:-1] in COUNT_WORDS:
        return word[:-1]
    first, space, rest = word.partition(" ")
    if space and first in ("cups", "tablespoons", "teaspoons", "pints"):
        return f"{_SPELLINGS[first]} {rest}"
    return word


def kind_of(unit: str) -> Kind:
    """Whether a canonical unit is one of mass or volume; every other is a count ("bunch", "cup diced")."""
    if unit in GRAMS:
        return "mass"
    return "volume" if unit in _VOLUME_NAMES else "count"


def of_count(unit: str) -> str:
    """The count unit that a canonical one is another word for: a piece of a thing is one of it.

    >>> of_count("piece"), of_count("bunch")
    ('each', 'bunch')
    """
    return "each" if unit == "piece" else unit


def is_known_count(unit: str) -> bool:
    """Whether a kitchen would know this count unit without being told: a count word, or a volume word with more."""
    first = unit.split(" ", 1)[0]
    return first in COUNT_WORDS or (first in _VOLUME_NAMES and " " in unit)
