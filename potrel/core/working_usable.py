"""The workings of a comparison of forms: what a usable kilo or a ready litre costs in each, and when another wins."""

from __future__ import annotations

from dataclasses import replace
from decimal import Decimal

from potrel.core.costing import Costing
from potrel.core.fields import ONE, ZERO, plain
from potrel.core.kitchen import ReadyUnit
from potrel.core.usable import FormParts, form_parts, salted
from potrel.core.working import Input, Working, price_input, share_input

_UNIT_WORDS: dict[ReadyUnit, str] = {"kg": "a usable kilo", "l": "a ready litre"}


def explain_usable(costing: Costing, figure: str) -> Working | None:
    """The working of `usable/UNIT/NAME/FORM,OTHER,…`: a figure of the first form beside the others.

    NAME is cost, labour, total, salt_g or wins_at. BadDocument for a form of something that the kitchen does not have.
    """
    match figure.split("/", 3):
        case ["usable", "kg" | "l" as word, name, forms]:
            unit: ReadyUnit = "kg" if word == "kg" else "l"
            one, *others = forms.split(",")
            return _Form(costing, unit, one, others).explain(name)
    return None


class _Form:
    """One form of a comparison, with what its figures are made of."""

    def __init__(self, costing: Costing, unit: ReadyUnit, form: str, others: list[str]) -> None:
        self.costing, self.unit, self.form, self.others = costing, unit, form, others
        self.part = form_parts(costing, form, unit)
        self.rate = costing.facts.settings.labour_rate_per_hour
        self.money = f"money/{unit}"

    def explain(self, name: str) -> Working | None:
        """The working of one of its figures; None of any other."""
        part = self.part
        match name:
            case "cost" if part.fixed is not None:
                return self._of_recipe(part.fixed, part.recipe or "")
            case "cost":
                return self._bought()
            case "labour" if self.rate is not None:
                what = "attended time of so much of the batch" if part.recipe else "minutes of a purchased kilo, to the yield"
                inputs = [
                    Input("minutes", part.minutes, "min", what),
                    Input("labour rate per hour", self.rate, "money", "kitchen setting"),
                ]
                return self._working("labour", part.labour(self.rate), self.money, "minutes / 60 * labour rate", inputs)
            case "total":
                inputs = [self._own("cost", part.cost()), self._own("labour", part.labour(self.rate))]
                return self._working("total", part.total(self.rate), self.money, "cost + labour", inputs)
            case "salt_g" if part.recipe and part.salt is not None:
                return self._salt_of_recipe(part.salt, part.recipe)
            case "salt_g" if part.salt is not None and part.grams:
                inputs = [self._grams(), Input("salt in it", part.salt / part.grams, "share", "noted with the item")]
                return self._working("salt_g", part.salt, "g", "to buy (AP) * salt in it", inputs)
            case "wins_at":
                return self._wins_at()
        return None

    def _working(self, name: str, value: Decimal | None, unit: str, formula: str, inputs: list[Input]) -> Working:
        titles = {"cost": "cost", "labour": "labour", "total": "cost and labour", "salt_g": "salt", "wins_at": "wins below"}
        title = f"{self.part.name}, {_UNIT_WORDS[self.unit]}: {titles[name]}"
        return Working("", self._path(name), title, value, unit, formula, inputs, self.part.lack)

    def _path(self, name: str) -> str:
        return f"usable/{self.unit}/{name}/{','.join([self.form, *self.others])}"

    def _own(self, name: str, value: Decimal | None) -> Input:
        return Input(name, value, self.money, _UNIT_WORDS[self.unit], None if value is None else self._path(name))

    def _grams(self) -> Input:
        return Input("to buy (AP)", self.part.grams, "g", self.part.whence)

    def _credit(self) -> list[Input]:
        if self.part.credit == ZERO:
            return []
        return [Input("value of by-products", self.part.credit, "money", "shares and values of the preparations")]

    def _bought(self) -> Working:
        part, facts = self.part, self.costing.facts
        item_id = self.form.partition(":")[0]
        inputs, formula = [self._grams(), price_input(self.costing, item_id)], "to buy (AP) * AP price"
        if part.share != ONE:
            formula += " * share that it bears"
            inputs.append(share_input(part.share, facts.byproduct_method(facts.items[item_id])))
        if part.credit != ZERO:
            formula += " - value of by-products"
        inputs += self._credit()
        return self._working("cost", part.cost(), self.money, formula, inputs)

    def _of_recipe(self, value: Decimal, recipe_id: str) -> Working:
        words = f"recipe {self.part.name}"
        cost = Input("batch cost, before seasoning", self.costing.cost(recipe_id), "money", words, "batch/food_cost", recipe_id)
        per_unit, whence = self._of_batch(recipe_id)
        return self._working("cost", value, self.money, f"batch cost / {whence}", [cost, *per_unit])

    def _salt_of_recipe(self, value: Decimal, recipe_id: str) -> Working:
        known = salted(self.costing, recipe_id)
        inputs = [
            Input(f"salt of {item.name}", mass * share, "g", f"{plain(share)} of {plain(round(mass, 1))} g that are bought")
            for item, mass, share in known
        ]
        others = len(self.costing.needs(recipe_id).items) - len(known)
        if others:
            inputs.append(Input(f"salt of {others} other{'' if others == 1 else 's'}", None, "g", "not noted with them"))
        per_unit, whence = self._of_batch(recipe_id)
        working = self._working("salt_g", value, "g", f"salt that goes in, where it is noted / {whence}", [*inputs, *per_unit])
        return replace(working, note="some of it leaves again with what is strained off: taste before you salt")

    def _of_batch(self, recipe_id: str) -> tuple[list[Input], str]:
        """From a batch to the unit: what is divided by, and how that is said."""
        words = f"recipe {self.part.name}"
        batch = Input("batch yield", self.costing.balance(recipe_id).mass, "g", words, "batch/mass_g", recipe_id)
        if self.unit == "kg":
            return [batch], "batch yield, a kilo"
        density = self.costing.facts.recipes[recipe_id].density
        return [batch, Input("density (kg per litre)", density, "", words)], "batch yield, a kilo * density"

    def _wins_at(self) -> Working | None:
        part = self.part
        if part.grams is None:
            return None
        beside = [(self._other(form), form) for form in self.others]
        known = [(total, other.name, form) for other, form in beside if (total := other.total(self.rate)) is not None]
        if not known:
            return None
        cheapest, name, form = min(known)
        inputs = [
            Input("the cheapest other, with labour", cheapest, self.money, name, f"usable/{self.unit}/total/{form}"),
            self._own("labour", part.labour(self.rate)),
            *self._credit(),
            self._grams(),
        ]
        credit = " + value of by-products" if part.credit != ZERO else ""
        formula = f"(the cheapest other{credit} - labour) / to buy (AP)"
        if part.share != ONE:
            formula += " / share that it bears"
            inputs.append(Input("share that it bears", part.share, "share", "beside its by-products"))
        return self._working("wins_at", part.wins_at(self.rate, cheapest), "money/kg", formula, inputs)

    def _other(self, form: str) -> FormParts:
        return form_parts(self.costing, form, self.unit)
