"""What 100 g of something hold: salt, energy, nutrients, alcohol; and what living thing it comes from."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import suppress
from dataclasses import fields
from decimal import Decimal
from typing import Annotated

from potrel.core.errors import OutOfRange
from potrel.core.frozen import dataclass
from potrel.core.kitchen.keyed import Keyed
from potrel.core.kitchen.kinds import ZERO, Amount, Name, Share

_HUNDRED = Decimal(100)
InHundred = Annotated[Decimal, Amount("grams in 100 g", low=ZERO, high=_HUNDRED)]
# 100 g of pure fat hold 900 kcal by Annex XIV of EU Regulation 1169/2011, and tables give up to 902.
Kilocalories = Annotated[Decimal, Amount("kcal in 100 g", low=ZERO, high=Decimal(910))]

# What tables round away: parts of 100 g, each told to a tenth or a hundredth, may add up to a little more.
_ROUNDED = Decimal("1.5")
_PART_OF = (("saturates_g", "fat_g"), ("sugars_g", "carbohydrate_g"))

# EU Regulation 1169/2011, Annex XIV: kcal of a gram. Alcohol is told apart: by volume.
FACTORS: dict[str, Decimal] = {
    "fat_g": Decimal(9), "carbohydrate_g": Decimal(4), "protein_g": Decimal(4), "fibre_g": Decimal(2),
}  # fmt: skip
ALCOHOL_FACTOR = Decimal(7)
# [g/ml] of ethanol at 20 C.
ALCOHOL_DENSITY = Decimal("0.789")
NUTRIENTS = ("energy_kcal", "fat_g", "saturates_g", "carbohydrate_g", "sugars_g", "protein_g", "fibre_g")


@dataclass(frozen=True, slots=True)
class Composition(Keyed):
    """What 100 g of the edible portion hold [g; kcal; `abv` as a share of the volume]; what is not given is not known.

    Carbohydrate is without fibre, salt is sodium * 2.5 (EU Regulation 1169/2011, Annex I). `source` says where the values are
    from: a label, a table.
    """

    salt_g: InHundred | None = None
    energy_kcal: Kilocalories | None = None
    fat_g: InHundred | None = None
    saturates_g: InHundred | None = None
    carbohydrate_g: InHundred | None = None
    sugars_g: InHundred | None = None
    protein_g: InHundred | None = None
    fibre_g: InHundred | None = None
    abv: Share | None = None
    source: Name | None = None

    def __post_init__(self) -> None:
        for part, whole in _PART_OF:
            some, all_ = getattr(self, part), getattr(self, whole)
            if some is not None and all_ is not None and some > all_ + _ROUNDED:
                raise OutOfRange(part, some, f"at most its {whole} ({all_})")
        parts = (self.salt_g, self.fat_g, self.carbohydrate_g, self.protein_g, self.fibre_g)
        together = sum((one for one in parts if one is not None), ZERO)
        if together > _HUNDRED + _ROUNDED:
            raise OutOfRange("salt, fat, carbohydrate, protein and fibre of 100 g together", together, "at most 100 g")

    def values(self) -> Iterator[tuple[str, Decimal | None]]:
        """Salt and each nutrient by its key."""
        yield "salt_g", self.salt_g
        for name in NUTRIENTS:
            yield name, getattr(self, name)

    def filled_from(self, other: Composition) -> Composition:
        """These values, and another's where they lack one; only these where the two do not fit together."""
        own = {one.name: getattr(self, one.name) for one in fields(self)}
        lent = {name: getattr(other, name) for name, value in own.items() if value is None and name != "source"}
        if all(value is None for value in lent.values()):
            return self
        # Values of one source are not told to be another's.
        sources = [one for one in (self.source, other.source) if one]
        with suppress(OutOfRange):
            return Composition(**{**own, **lent, "source": "; the rest: ".join(dict.fromkeys(sources))[:200] or None})
        return self

    @property
    def by_factors(self) -> Decimal | None:
        """The energy [kcal] by the factors of Annex XIV; None where a nutrient that counts is not known."""
        energy = ZERO
        for name, factor in FACTORS.items():
            grams = getattr(self, name)
            if grams is None:
                return None
            energy += grams * factor
        return energy + _HUNDRED * (self.abv or ZERO) * ALCOHOL_DENSITY * ALCOHOL_FACTOR

    @property
    def in_doubt(self) -> bool:
        """Whether the stated energy is more than a tenth off that by the factors: one of the values is wrong."""
        reckoned = self.by_factors
        if reckoned is None or self.energy_kcal is None:
            return False
        off = abs(reckoned - self.energy_kcal)
        # Of hardly anything a tenth is less than what tables round away.
        return off > max(self.energy_kcal, reckoned) / 10 and off > _NEXT_TO_NOTHING


_NEXT_TO_NOTHING = Decimal(8)
UNKNOWN = Composition()
