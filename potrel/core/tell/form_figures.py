"""The workings of a comparison of forms: what a usable kilo or a ready litre costs in each, and when another wins."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from potrel.core.cost.costing import Costing
from potrel.core.kitchen.items import Item
from potrel.core.kitchen.kinds import plain
from potrel.core.kitchen.kitchen import ReadyUnit
from potrel.core.numbers.arithmetic import Number, total
from potrel.core.numbers.formula import Many, formula
from potrel.core.numbers.rounding import half_even
from potrel.core.pot.line_mass import to_buy_for
from potrel.core.rooms.form_comparison import (
    cost_as_strong,
    cost_of_form,
    cost_of_made,
    flips_at,
    form_parts,
    labour_of_form,
    salt_of_form,
    salt_of_made,
    strength_beside,
    with_labour,
)
from potrel.core.tell.figures import SETTING, Figure, Input, Place, in_grams, reckoned
from potrel.core.tell.item_figures import price_input, yield_input
from potrel.core.tell.trim_figures import TrimFigures


@formula("sum of treatments")
def all_minutes(treatments: Many) -> Number:
    """The labour [min] of all treatments."""
    return total(treatments)


_UNIT_WORDS: dict[ReadyUnit, str] = {"kg": "a usable kilo", "l": "a ready litre"}
_TASTE = "some of it leaves again with what is strained off: taste before you salt"


def explain_usable(costing: Costing, figure: str) -> Figure | None:
    """The working of `usable/UNIT/NAME/FORM,OTHER,…`: a figure of the first form beside the others.

    NAME is cost, labour, total, salt_g, as_strong or wins_at. BadDocument for a form of what the kitchen does not have.
    """
    match figure.split("/", 3):
        case ["usable", "kg" | "l" as word, name, forms]:
            unit: ReadyUnit = "kg" if word == "kg" else "l"
            one, *others = forms.split(",")
            form, made = _Form(costing, unit, one, others), _MAKERS.get(name)
            if made is not None:
                return made(form)
            trim = form.trim()
            return None if trim is None else trim.of(name)
    return None


class _Form:
    """One form of a comparison, with what its figures are made of."""

    def __init__(self, costing: Costing, unit: ReadyUnit, form: str, others: Sequence[str]) -> None:
        self.costing, self.unit, self.form, self.others = costing, unit, form, others
        self.part = form_parts(costing, form, unit)
        self.rate = costing.view.settings.labour_rate_per_hour
        self.money = f"money/{unit}"
        self.note = None if self.part.lack is None else self.part.lack.english

    def place(self, name: str, words: str) -> Place:
        return Place("", self.path(name), f"{self.part.name}, {_UNIT_WORDS[self.unit]}: {words}")

    def path(self, name: str) -> str:
        return f"usable/{self.unit}/{name}/{','.join([self.form, *self.others])}"

    def own(self, name: str, words: str, value: Number | None) -> Input:
        return Input(words, value, self.money, _UNIT_WORDS[self.unit], None if value is None else self.path(name))

    def kilos(self) -> Input:
        return Input("to buy (AP)", self.part.kilos, "kg", self.part.whence, self.path("kilos") if self.part.steps else None)

    def trim(self) -> TrimFigures | None:
        """What becomes of what is bought for it at its preparations."""
        part = self.part
        if part.item is None or part.kilos is None:
            return None
        ap = Input("to buy (AP)", part.kilos * 1000, "g", part.whence, self.path("to_buy_g"))
        method = self.costing.view.byproduct_method(part.item)
        return TrimFigures(self.place, ap, part.steps, self.yields(part.item), part.trim, method)

    def yields(self, item: Item) -> list[Input]:
        entries = ((step.preparation, step.yield_) for step in self.part.steps)
        return [yield_input(item, "preparation", entry.id, entry, yield_) for entry, yield_ in entries]

    def to_buy(self) -> Figure | None:
        part = self.part
        if part.item is None or not part.steps:
            return None
        ready = Input("ready", part.kilos_in_one, "kg", part.whence)
        return reckoned(to_buy_for, self.place("kilos", "to buy (AP)"), "kg", EP=ready, yields=self.yields(part.item))

    def to_buy_in_grams(self) -> Figure | None:
        return (
            None
            if self.part.item is None
            else reckoned(in_grams, self.place("to_buy_g", "to buy (AP)"), "g", kilos=self.kilos())
        )

    def share(self) -> Input | None:
        trim = self.trim()
        return None if trim is None else trim.share_input()

    def credit(self) -> Input | None:
        trim = self.trim()
        return None if trim is None else trim.credits_input("value of by-products", "money")

    def of_batch(self) -> Input:
        return Input("batch yield", self.part.batch_kilos, "kg", f"recipe {self.part.name}", "batch/mass_g", self.part.recipe)

    def in_one(self) -> Input:
        in_one = "a kilo" if self.unit == "kg" else f"a litre, {plain(self.part.kilos_in_one)} kg"
        return Input("kilos in one", self.part.kilos_in_one, "kg", in_one)

    def cost(self) -> Figure:
        part, place = self.part, self.place("cost", "cost")
        if part.recipe is not None:
            words = f"recipe {part.name}"
            cost = Input("batch cost, before seasoning", part.batch_cost, "money", words, "batch/cost", part.recipe)
            return reckoned(
                cost_of_made, place, self.money, note=self.note,
                cost_of_the_batch=cost, kilos_of_the_batch=self.of_batch(), kilos_in_one=self.in_one(),
            )  # fmt: skip
        price, known = price_input(self.costing, self.form.partition(":")[0]), part.price is not None
        return reckoned(
            cost_of_form, place, self.money, note=self.note, known=known, kilos_to_buy=self.kilos(),
            AP_price=price, share_that_it_bears=self.share(), value_of_by__products=self.credit(),
        )  # fmt: skip

    def labour(self) -> Figure | None:
        if self.rate is None:
            return None
        what = "attended time of so much of the batch" if self.part.recipe else "minutes of a purchased kilo, to the yield"
        return reckoned(
            labour_of_form, self.place("labour", "labour"), self.money, note=self.note,
            minutes=Input("minutes", self.part.minutes, "min", what, self.path("minutes") if self.part.steps else None),
            labour_rate=Input("labour rate", self.rate, "money/h", SETTING),
        )  # fmt: skip

    def minutes(self) -> Figure | None:
        part = self.part
        if part.kilos is None or not part.steps:
            return None
        treatments, kilos = [], part.kilos
        for step in part.steps:
            per_kilo = step.preparation.minutes_per_kg
            if per_kilo is not None:
                words = f"{plain(half_even(kilos, 3))} kg at {plain(per_kilo)} minutes a kilo"
                treatments.append(Input(step.preparation.name, kilos * per_kilo, "min", words))
            kilos *= step.yield_
        return reckoned(all_minutes, self.place("minutes", "minutes"), "min", treatments=treatments)

    def total(self) -> Figure:
        place, cost = self.place("total", "cost and labour"), self.own("cost", "cost", self.part.cost())
        labour = self.part.labour(self.rate)
        beside = None if labour is None else self.own("labour", "labour", labour)
        return reckoned(with_labour, place, self.money, note=self.note, cost=cost, labour=beside)

    def salt(self) -> Figure | None:
        part, place = self.part, self.place("salt_g", "salt")
        if part.recipe is None:
            if part.salt_share is None:
                return None
            grams = Input("to buy (AP)", None if part.kilos is None else part.kilos * 1000, "g", part.whence)
            share = Input("salt in it", part.salt_share, "share", "noted with the item")
            return reckoned(salt_of_form, place, "g", grams_to_buy=grams, salt_in_it=share)
        if part.batch_kilos is None:
            return None
        salts = [
            Input(f"salt of {item.name}", mass * share, "g", f"{plain(share)} of {plain(half_even(mass, 1))} g that are bought")
            for item, mass, share in part.salts
        ]
        others = len(self.costing.of(part.recipe).needs.items) - len(salts)
        if others:
            salts.append(Input(f"salt of {others} other{'' if others == 1 else 's'}", None, "g", "not noted with them"))
        return reckoned(
            salt_of_made, place, "g", note=_TASTE, salts=salts, kilos_of_the_batch=self.of_batch(), kilos_in_one=self.in_one()
        )

    def as_strong(self) -> Figure | None:
        """What as much of it costs as is as strong as a kilo of the usual form; None where none of the others tastes so."""
        beside = [self.part, *(form_parts(self.costing, form, self.unit) for form in self.others)]
        strength = strength_beside(self.part, beside, self.unit)
        if strength is None:
            return None
        words = f"common practice, no source: {plain(strength.low)} to {plain(strength.high)}"
        return reckoned(
            cost_as_strong, self.place("as_strong", "for the same strength"), "money", note=self.note,
            cost=self.own("total", "cost and labour", self.part.total(self.rate)),
            strength=Input("a kilo is as strong as so many", strength.strength, "kg", words),
        )  # fmt: skip

    def wins_at(self) -> Figure | None:
        part = self.part
        beside = [(form_parts(self.costing, form, self.unit), form) for form in self.others]
        known = [(total, other.name, form) for other, form in beside if (total := other.total(self.rate)) is not None]
        if part.kilos is None or part.recipe is not None or not known:
            return None
        cheapest, name, form = min(known)
        labour = part.labour(self.rate)
        own = self.own("labour", "labour", labour)
        return reckoned(
            flips_at, self.place("wins_at", "wins below"), "money/kg", note=self.note,
            known=part.wins_at(self.rate, cheapest) is not None,
            cheapest_other=Input("the cheapest other, with labour", cheapest, self.money, name,
                                 f"usable/{self.unit}/total/{form}"),
            value_of_by__products=self.credit(),
            labour=own if labour is not None else None,
            kilos_to_buy=self.kilos(), share_that_it_bears=self.share(),
        )  # fmt: skip


_MAKERS: dict[str, Callable[[_Form], Figure | None]] = {
    "cost": _Form.cost,
    "labour": _Form.labour,
    "total": _Form.total,
    "salt_g": _Form.salt,
    "wins_at": _Form.wins_at,
    "as_strong": _Form.as_strong,
    "minutes": _Form.minutes,
    "kilos": _Form.to_buy,
    "to_buy_g": _Form.to_buy_in_grams,
}
