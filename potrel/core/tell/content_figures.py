"""The workings of what is in a pot: its salt, thickness, nutrients and alcohol, in the batch and in a portion."""

from __future__ import annotations

from collections.abc import Iterable
from functools import cached_property
from typing import Any

from potrel.core.cost.costed_recipe import CostedRecipe
from potrel.core.cost.costing import Costing
from potrel.core.cost.inside import Inside, in_a_portion, in_full, salt_to_add, share_by_mass, thickness
from potrel.core.cost.portion import Portion
from potrel.core.errors import Problem
from potrel.core.frozen import dataclass
from potrel.core.kitchen.composition import ALCOHOL_FACTOR, FACTORS, NUTRIENTS
from potrel.core.kitchen.kinds import plain
from potrel.core.numbers.arithmetic import Number, surely, total
from potrel.core.numbers.formula import Many, formula
from potrel.core.numbers.rounding import half_even
from potrel.core.pot.alcohol import Spirit
from potrel.core.pot.content import Content, Source, strength_of
from potrel.core.pot.day_view import DayView
from potrel.core.pot.given import HOW_MUCH
from potrel.core.pot.held import ALCOHOL, HELD, SALT, alcohol_of
from potrel.core.pot.line_mass import LineMass, flesh_of
from potrel.core.tell.figures import SETTING, TYPED, Figure, Input, Place, percent, reckoned
from potrel.core.tell.line_figures import named

# Each that is added up, and how it is called.
CALLED = {
    "salt_g": "salt", "energy_kcal": "energy", "fat_g": "fat", "saturates_g": "saturates", "carbohydrate_g": "carbohydrate",
    "sugars_g": "sugars", "protein_g": "protein", "fibre_g": "fibre", "alcohol_g": "alcohol",
}  # fmt: skip
BATCH_CONTENT = ("salt_g", "salt_share", "salt_to_add_g", "thickness_g_per_l", "alcohol_g", "alcohol_share", *NUTRIENTS)
SERVING_CONTENT = ("salt_g", "salt_share", "alcohol_g", *NUTRIENTS, "energy_by_factors_kcal")


@formula("sum of lines - what left with it")
def salt_in(lines: Many, what_left_with_it: Number) -> Number:
    """The salt of a pot [g]: spread evenly over it, and taken along by what was taken out, stuck or went elsewhere."""
    return total(lines) - what_left_with_it


@formula("sum of lines")
def held_in(lines: Many) -> Number:
    """What is in a batch of one nutrient [g or kcal]: each line's, as far as it is in there."""
    return total(lines)


@formula("fat * 9 + carbohydrate * 4 + protein * 4 + fibre * 2 + alcohol * 7")
def energy_by_factors(fat: Number, carbohydrate: Number, protein: Number, fibre: Number, alcohol: Number) -> Number:
    """The energy of a portion [kcal] by the factors of EU Regulation 1169/2011, Annex XIV."""
    energy = fat * FACTORS["fat_g"] + carbohydrate * FACTORS["carbohydrate_g"] + protein * FACTORS["protein_g"]
    return energy + fibre * FACTORS["fibre_g"] + alcohol * ALCOHOL_FACTOR


def unit_of(name: str) -> str:
    """The unit of something that is held."""
    return "kcal" if name.endswith("_kcal") else "share" if name.endswith("_share") else "g"


@dataclass
class ContentFigures:
    """What is in the batch of one recipe."""

    costing: Costing
    one: CostedRecipe

    @cached_property
    def inside(self) -> Inside:
        return Inside(self.costing, self.one)

    @property
    def view(self) -> DayView:
        return self.costing.view

    @property
    def content(self) -> Content:
        return self.inside.content

    @property
    def known(self) -> bool:
        return self.inside.known

    @cached_property
    def _told(self) -> dict[str, Figure | None]:
        """What was told before: the portions of a batch ask for the same again."""
        return {}

    def of(self, name: str) -> Figure | None:
        """A figure of the batch by its name; None for one that there is not."""
        if name not in self._told:
            self._told[name] = self._of(name)
        return self._told[name]

    def _of(self, name: str) -> Figure | None:
        if name == SALT:
            return self.salt()
        if name in NUTRIENTS:
            return self._held(name)
        made = {"salt_share": self.salt_share, "salt_to_add_g": self.to_add, "thickness_g_per_l": self.thick,
                "alcohol_g": self.alcohol, "alcohol_share": self.alcohol_share}.get(name)  # fmt: skip
        return None if made is None else made()

    def place(self, name: str, words: str) -> Place:
        return Place(self.one.recipe.id, f"batch/{name}", f"{self.one.recipe.name}: {words}")

    def names(self, items: Iterable[str]) -> str:
        """Some items by their names, for a note."""
        return ", ".join(sorted(self.view.name_of(one, one) for one in items))

    def _lacks(self, name: str) -> tuple[bool, str | None]:
        """Whether something can be told, and what lacks for it."""
        lacking = self.content.batch.lacks.get(name)
        if lacking:
            return False, f"{CALLED[name]} in 100 g is not known of: {self.names(lacking)}"
        return self.known, None if self.known else "the batch yield is not known"

    # -- salt ------------------------------------------------------------------------------------------------------

    def salt(self) -> Figure:
        lines = [
            Input(self._name_of(source), source.held.amounts.get(SALT), "g", self._of_line(source.line, SALT))
            for source in self.content.sources if source.line is not None
        ]  # fmt: skip
        put_in = total([one.value for one in lines if one.value is not None])
        held = self.content.batch.amounts.get(SALT, self.view.zero)
        left = Input("what left with it", put_in - held, "g", "taken out, stuck to a vessel, or handed on elsewhere")
        known, note = self._lacks(SALT)
        place = self.place(SALT, "salt")
        return reckoned(salt_in, place, "g", known=known, note=note, lines=self._telling(lines), what_left_with_it=left)

    def _telling(self, lines: list[Input]) -> list[Input]:
        """Of some lines those that bring anything, those that bring most first."""
        telling = [one for one in lines if one.value is None or surely(one.value != 0)]
        return sorted(telling, key=lambda one: (one.value is not None, -(one.value or 0)))

    def _mass(self) -> Input:
        return Input("batch yield", self.one.balance.mass if self.known else None, "g", "the batch", "batch/mass_g")

    def _own(self, name: str, words: str) -> Input:
        found = self.of(name)
        value = None if found is None else found.value
        return Input(words, value, unit_of(name), "the batch", f"batch/{name}")

    def salt_share(self) -> Figure:
        place = self.place("salt_share", "salt, by mass")
        return reckoned(share_by_mass, place, "share", grams=self._own(SALT, "salt"), mass=self._mass())

    def to_add(self) -> Figure:
        target = Input("target for salt", self.view.settings.salt_target, "share", SETTING)
        place = self.place("salt_to_add_g", "salt to add")
        return reckoned(salt_to_add, place, "g", target=target, mass=self._mass(), salt=self._own(SALT, "salt"))

    # -- nutrients -------------------------------------------------------------------------------------------------

    def _name_of(self, source: Source) -> str:
        if source.line is not None:
            return named(source.line, self.view)
        return "what bones and meat gave" if source.given else "fat that was lifted off"

    def _where_from(self, source: Source, name: str) -> str:
        """Where an amount is from."""
        if source.line is not None:
            return self._of_line(source.line, name)
        return HOW_MUCH if source.given else "taken out"

    def _of_line(self, line: LineMass, name: str) -> str:
        item = self.view.items.get(line.item or "")
        if item is None:
            return "what is in there"
        if item.kind == "water":
            return "water"
        value = getattr(item.composition, name, None)
        if value is None:
            return "not known of it"
        of = plain(half_even(flesh_of(line, self.view), 1))
        unit = "kcal" if name == "energy_kcal" else "g"
        whence = f"{item.composition.source}" if item.composition.source else "noted with the item"
        as_itself = ", counted as the thing itself" if line.byproduct is not None else ""
        return f"{of} g at {plain(value)} {unit} in 100 g ({whence}{as_itself})"

    def _held(self, name: str) -> Figure:
        lines = []
        for place_, source in enumerate(self.content.sources):
            share = self.content.share(place_)
            amount = source.held.amounts.get(name)
            lacking = bool(source.held.lacks.get(name)) and surely(share != 0)
            value = None if lacking else (amount or self.view.zero) * share
            there = "" if surely(share == 1) else f"; {percent(half_even(share, 3))} of it is in the batch"
            lines.append(Input(self._name_of(source), value, unit_of(name), self._where_from(source, name) + there))
        last = self.content.last
        if name == "energy_kcal" and last is not None and last.spirits:
            gone = total([one.gone for one in last.spirits]) * ALCOHOL_FACTOR
            lines.append(Input("alcohol that went", -gone, "kcal", "29 kJ with each gram (EU 1169/2011, Annex XIV)"))
        known, note = self._lacks(name)
        place = self.place(name, CALLED[name])
        return reckoned(held_in, place, unit_of(name), known=known, note=note, lines=self._telling(lines))

    # -- alcohol ---------------------------------------------------------------------------------------------------

    def alcohol(self) -> Figure:
        lines = [Input(f"{plain(half_even(one.grams, 1))} g of alcohol", one.grams * one.kept, "g", _kept_words(one))
                 for one in self.content.batch.spirits]  # fmt: skip
        known, note = self._lacks(ALCOHOL)
        if known and not all(one.timed for one in self.content.batch.spirits):
            known, note = False, "say for how many minutes it is heated after the alcohol went in"
        return reckoned(held_in, self.place(ALCOHOL, "alcohol"), "g", known=known, note=note, lines=lines)

    def alcohol_share(self) -> Figure:
        place = self.place("alcohol_share", "alcohol, by mass")
        return reckoned(share_by_mass, place, "share", grams=self._own(ALCOHOL, "alcohol"), mass=self._mass())

    # -- thickness -------------------------------------------------------------------------------------------------

    def thick(self) -> Figure:
        lines, last = [], self.content.last
        for (place_, blended), share in ({} if last is None else last.shares).items():
            source = self.content.sources[place_]
            flour = share * (source.thickens + (source.blended if blended else self.view.zero))
            lines.append(Input(self._name_of(source), flour, "g", self._strength(source.line, blended)))
        whole = Input("stays whole", self.content.whole, "g", "vegetables, pulses and meat that nothing blends")
        density = Input("density (kg per litre)", self.one.recipe.density, "", TYPED)
        lacking = self.content.no_strength
        note = f"at least: nobody says how much these thicken: {self.names(lacking)}" if lacking else None
        place = self.place("thickness_g_per_l", "thickness, as grams of flour in a litre")
        return reckoned(
            thickness, place, "g/l", known=self.known, note=note, lines=self._telling(lines), mass=self._mass(),
            stays_whole=whole, density=density,
        )  # fmt: skip

    def _strength(self, line: LineMass | None, blended: bool) -> str:
        item = None if line is None else self.view.items.get(line.item or "")
        if line is None or item is None or item.thickening is None:
            return "what thickens in there"
        strength = strength_of(item, line.line, self.one.balance.stage(line.stage))
        return f"a gram of it does as much as {plain(strength)} g of flour{', blended' if blended else ''}"

    # -- a portion -------------------------------------------------------------------------------------------------

    def portion(self, portion: Portion, name: str) -> Figure | None:
        """A figure of a portion by its name; None for one that there is not."""
        if name in (*HELD, ALCOHOL):
            return self._in_portion(portion, name)
        if name == "salt_share":
            return self._share_of_portion(portion)
        return self._by_factors(portion) if name == "energy_by_factors_kcal" else None

    def _portion_place(self, portion: Portion, name: str, words: str) -> Place:
        return Place(self.one.recipe.id, f"serving/{portion.serving.id}/{name}", f"{portion.serving.name}: {words}")

    def _in_portion(self, portion: Portion, name: str) -> Figure:
        beside = []
        for line, held in self.inside.beside(portion):
            called = self.view.name_of(line.item) if isinstance(line, Problem) else named(line, self.view)
            value = alcohol_of(held.spirits, self.view.zero) if name == ALCOHOL else held.amounts.get(name, self.view.zero)
            lacking = held.lacks.get(name)
            words = f"not known of: {self.names(lacking)}" if lacking else "with each portion"
            beside.append(Input(called, None if lacking else value, unit_of(name), words))
        lacking = self.inside.portion(portion).lacks.get(name)
        note = f"{CALLED[name]} in 100 g is not known of: {self.names(lacking)}" if lacking else None
        return reckoned(
            in_a_portion, self._portion_place(portion, name, f"{CALLED[name]} of a portion"), unit_of(name),
            known=not lacking, note=note, in_the_batch=self._own(name, CALLED[name]),
            mass_of_a_portion=self._portion_mass(portion), mass_of_the_batch=self._mass(), beside=self._telling(beside),
        )  # fmt: skip

    def _portion_mass(self, portion: Portion) -> Input:
        return Input("mass of a portion", portion.size_g, "g", "this serving", f"serving/{portion.serving.id}/mass_g")

    def _of_portion(self, portion: Portion, name: str) -> Input:
        found = self._in_portion(portion, name)
        return Input(CALLED[name], found.value, unit_of(name), "this serving", found.figure)

    def _share_of_portion(self, portion: Portion) -> Figure:
        place = self._portion_place(portion, "salt_share", "salt, by mass")
        weights = [
            in_full(line, self.view)
            for role, line in portion.extras
            if role != "packaging" and isinstance(line, LineMass) and line.counted is None
        ]
        mass = Input("mass of a portion and what is served with it", portion.size_g + total(weights), "g", "this serving")
        return reckoned(share_by_mass, place, "share", grams=self._of_portion(portion, SALT), mass=mass)

    def _by_factors(self, portion: Portion) -> Figure:
        place = self._portion_place(portion, "energy_by_factors_kcal", "energy by the factors of EU 1169/2011, Annex XIV")
        of: dict[str, Any] = {CALLED[name]: self._of_portion(portion, name) for name in (*FACTORS, ALCOHOL)}
        return reckoned(energy_by_factors, place, "kcal", **of)


def _kept_words(one: Spirit) -> str:
    if not one.heated and not one.flamed:
        return "not heated after it went in: all of it"
    kept = f"{percent(half_even(one.kept, 3))} of it is left"
    if one.kept == one.liquid:
        return f"{kept}, as of the liquid: alcohol goes before the water does"
    how = "flamed" if one.flamed and not one.minutes else f"heated for {plain(one.minutes)} min"
    return f"{how}: {kept} (USDA Table of Nutrient Retention Factors)"
