"""The workings of a line: to buy, in the pot, after cooking, what goes up and what stays, and what it costs."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace

from potrel.core.buy.weights import basis_of
from potrel.core.cost.costed_recipe import CostedRecipe, bears_price, cost_of_line, cost_of_part, cost_of_pieces
from potrel.core.cost.costing import Costing
from potrel.core.frozen import dataclass
from potrel.core.kitchen.items import Basis, Item
from potrel.core.kitchen.kinds import ONE, plain
from potrel.core.kitchen.methods import method_called
from potrel.core.kitchen.quantities import Quantity
from potrel.core.kitchen.recipes import Stage
from potrel.core.numbers.arithmetic import Number, total
from potrel.core.numbers.formula import Many, formula
from potrel.core.numbers.units import GRAMS, MILLILITRES
from potrel.core.pot import changes
from potrel.core.pot.day_view import DayView
from potrel.core.pot.line_mass import LineMass, to_buy_for, typed_mass, usable_of
from potrel.core.pot.losses import after_cooking, goes_up, stays
from potrel.core.sentences import Sentence
from potrel.core.tell.figures import TYPED, Figure, Input, Place, as_stated, in_kilos, nothing, reckoned, unknown
from potrel.core.tell.item_figures import piece_input, price_input, weight_input, yield_input
from potrel.core.tell.trim_figures import TrimFigures
from potrel.core.trim.byproducts import Step, trimmed, worth

LINE_FIGURES = ("ap_g", "ep_g", "pot_g", "up_g", "stays_g", "cost")
_OWN = "the line's own figure"


@formula("to buy * share that it bears")
def mass_borne(to_buy: Number, share_that_it_bears: Number = ONE) -> Number:
    """The mass whose price a line bears beside its by-products [g]."""
    return to_buy * share_that_it_bears


@formula("mass * share of the cost / share of the purchase")
def mass_borne_by_byproduct(mass: Number, share_of_the_cost: Number, share_of_the_purchase: Number) -> Number:
    """The AP mass whose price a by-product bears [g], by what it is of a purchase and of its cost."""
    return mass * share_of_the_cost / share_of_the_purchase


@formula("0 - sum of credits")
def what_it_spares(credits: Many) -> Number:
    """What a by-product costs where it is used [money]: what it is credited with where it falls off."""
    return 0 - total(credits)


def named(line: LineMass, view: DayView) -> str:
    """What a line is called: the item or recipe, or what is left of it elsewhere."""
    name = view.name_of(line.item, line.recipe)
    return name if line.byproduct is None else f"{name}: {line.byproduct}"


@dataclass(frozen=True, slots=True)
class LineFigures:
    """The figures of one line of a recipe. `path` leads to it; `stage` is None for one that is served beside the pot.

    `mass_in` is what is in its stage already [g], which decides how much of a top-up there is.
    """

    costing: Costing
    one: CostedRecipe
    line: LineMass
    path: str
    stage: Stage | None
    mass_in: Number | None = None

    def of(self, name: str) -> Figure | None:
        """A figure by its name; None for one that a line does not have."""
        made = _MAKERS.get(name)
        if made is not None:
            return made(self)
        kind, _, number = name.rpartition("_")
        if kind == "spared" and number.isdecimal():
            return self._spared(int(number))
        trim = self.trim()
        return None if trim is None else trim.of(name)

    # -- its parts -------------------------------------------------------------------------------------------------

    @property
    def view(self) -> DayView:
        return self.costing.view

    def place(self, name: str, words: str) -> Place:
        return Place(self.one.recipe.id, f"{self.path}/{name}", f"{named(self.line, self.view)}: {words}")

    def mass(self, name: str, words: str, value: Number) -> Input:
        return Input(words, value if self.line.known else None, "g", _OWN, f"{self.path}/{name}")

    def item(self) -> Item | None:
        return self.view.items.get(self.line.item or "")

    def preparations(self) -> tuple[str, ...]:
        if self.line.line is not None:
            return self.line.line.preparations
        with_ = None if self.stage is None else self.stage.change.with_
        return () if with_ is None else with_.preparations

    def basis(self) -> Basis:
        """What is known first of it, and the other mass computed from it."""
        line, item = self.line.line, self.item()
        if line is None:
            return "EP"
        return line.basis if item is None else basis_of(line, item)

    def steps(self) -> Sequence[Step]:
        item = self.item()
        found = self.view.steps(item, self.preparations()) if item is not None and self.line.known else ()
        return () if isinstance(found, Sentence) else found

    def yields(self) -> list[Input]:
        item = self.item()
        return [] if item is None else [
            yield_input(item, "preparation", step.preparation.id, step.preparation, step.yield_) for step in self.steps()
        ]  # fmt: skip

    def trim(self) -> TrimFigures | None:
        """What becomes of the purchase at its preparations; None where nothing is bought for it."""
        item, steps = self.item(), self.steps()
        if item is None or not steps or self.line.byproduct is not None:
            return None
        method = self.view.byproduct_method(item)
        trim = trimmed(self.line.ap, steps, method, self.view.number)
        return TrimFigures(self.place, self.mass("ap_g", "to buy (AP)", self.line.ap), steps, self.yields(), trim, method)

    # -- masses ----------------------------------------------------------------------------------------------------

    def pieces(self) -> Figure | None:
        """How many of what is known by the piece only; None for what is weighed."""
        counted, typed = self.line.counted, self.line.line
        if counted is None or typed is None:
            return None
        told, one = (
            Input(f'"{typed.quantity}"', typed.quantity.amount, "", TYPED),
            Input("each", ONE, "", "it goes by the piece"),
        )
        place = self.place("pieces", f"how many ({counted})")
        return reckoned(typed_mass, place, "", amount=told, weight_of_one=one, taken_by=self._taken_by())

    def ap(self) -> Figure:
        place = self.place("ap_g", "to buy (AP)")
        line = self.line
        if line.counted is not None:
            return unknown(place, "g", f"it goes by the piece: nobody has weighed 1 {line.counted} yet")
        if line.byproduct is not None:
            return reckoned(nothing, place, "g", note="nothing is bought: it is left over elsewhere", known=line.known)
        basis = self.basis()
        if basis == "AP" or (line.line is not None and not self.steps()):
            return self._typed(place)
        ep = self.mass("ep_g", "in the pot (EP)", line.ep)
        if not self.steps():
            return reckoned(as_stated, place, "g", what_is_stated=ep)
        return reckoned(to_buy_for, place, "g", EP=ep, yields=self.yields())

    def ep(self) -> Figure:
        place, line = self.place("ep_g", "in the pot (EP)"), self.line
        if line.counted is not None:
            return unknown(place, "g", f"it goes by the piece: nobody has weighed 1 {line.counted} yet")
        if line.line is None:
            return self._topped_up(place)
        if self.basis() == "AP" and line.byproduct is None and self.steps():
            return reckoned(usable_of, place, "g", AP=self.mass("ap_g", "to buy (AP)", line.ap), yields=self.yields())
        return self._typed(place)

    def _typed(self, place: Place) -> Figure:
        quantity = self.line.line.quantity if self.line.line is not None else None
        if quantity is None:
            return reckoned(nothing, place, "g")
        amount = Input(f'"{quantity}"', quantity.amount, "", TYPED)
        weight = self._weight_of_one(quantity)
        return reckoned(typed_mass, place, "g", amount=amount, weight_of_one=weight, taken_by=self._taken_by())

    def _taken_by(self) -> Input | None:
        """The share of the guests that take it; None where all do."""
        share = ONE if self.line.line is None else self.line.line.taken_by
        return None if share == ONE else Input("share of the guests that take it", share, "share", TYPED)

    def _weight_of_one(self, quantity: Quantity) -> Input:
        item, label = self.item(), f"1 {quantity.unit} weighs"
        if item is not None and self.line.byproduct is None:
            return weight_input(self.view, item, quantity.unit)
        recipe = self.view.recipes.get(self.line.recipe or "")
        if recipe is not None and quantity.kind == "volume":
            grams = MILLILITRES[self.view.system][quantity.unit] * recipe.density
            return Input(label, grams, "g", f"{recipe.name} weighs {plain(recipe.density)} kg per litre")
        return Input(label, GRAMS.get(quantity.unit), "g", "a weight needs no conversion")

    def _topped_up(self, place: Place) -> Figure:
        to = None if self.stage is None else self.stage.change.to
        if self.stage is None or to is None or self.mass_in is None:
            return reckoned(nothing, place, "g", known=False)
        wanted = self.view.weights.of_bulk(to, self.one.recipe.density)
        return reckoned(
            changes.missing_to, place, "g",
            topped_up_to=Input("topped up to", wanted, "g", f"{to}, {TYPED}"),
            mass_in=Input("mass in", self.mass_in, "g", "this stage", f"stage/{self.stage.id}/mass_in_g"),
        )  # fmt: skip

    def own(self) -> Figure:
        ep = self.mass("ep_g", "in the pot (EP)", self.line.ep)
        return reckoned(after_cooking, self.place("pot_g", "after cooking"), "g", EP=ep, cooking_yield=self._cooking_yield())

    def _cooking_yield(self) -> Input:
        cooked, item, line = self.line.cooked, self.item(), self.line.line
        if cooked is None:
            return Input("cooking yield", ONE, "share", "nothing lost by itself here")
        if line is not None and line.cook_yield is not None:
            return Input("cooking yield", cooked.yield_, "share", f"the line's own, {TYPED}")
        method = self.stage.method if self.stage else None
        entry = None if item is None else self.view.cooking(item, method)
        if item is None or entry is None:
            return Input("cooking yield", cooked.yield_, "share", "no source given" if cooked.known else "no loss known")
        told = yield_input(item, "cooking", entry.method, entry, cooked.yield_)
        if method_called(entry.method) == method_called(method or ""):
            return told
        return replace(told, source=f"of {entry.method}, which stands in here; {told.source}")

    def up(self) -> Figure:
        place, line = self.place("up_g", "goes up in cooking"), self.line
        if line.cooked is None or line.cooked.to == "pot":
            note = None if line.cooked is None else "what it loses stays in the pot; what it gains comes from there"
            return reckoned(nothing, place, "g", note=note, known=line.known)
        return reckoned(
            goes_up, place, "g",
            EP=self.mass("ep_g", "in the pot (EP)", line.ep),
            after_cooking=self.mass("pot_g", "after cooking", line.own),
            rendered=Input("renders as fat and stays", line.cooked.rendered, "share", "of what is lost; stated with the yield"),
        )  # fmt: skip

    def stays(self) -> Figure:
        return reckoned(
            stays, self.place("stays_g", "given to the pot (or, below zero, drunk from it)"), "g",
            EP=self.mass("ep_g", "in the pot (EP)", self.line.ep),
            after_cooking=self.mass("pot_g", "after cooking", self.line.own),
            gone_up=self.mass("up_g", "goes up in cooking", self.line.up),
        )  # fmt: skip

    # -- money -----------------------------------------------------------------------------------------------------

    def cost(self) -> Figure:
        place, line = self.place("cost", "cost"), self.line
        note = None if line.lack is None else f"say {line.lack.said}"
        known = line.known and line.lack is None
        if line.recipe is not None:
            return self._part_cost(place, line.recipe, known)
        if line.counted is not None:
            pieces = Input(f"how many ({line.counted})", line.ap, "", TYPED, f"{self.path}/pieces")
            each = piece_input(self.costing, line.item or "")
            return reckoned(cost_of_pieces, place, "money", pieces=pieces, price_of_one=each)
        if not bears_price(line):
            return reckoned(what_it_spares, place, "money", note=note, known=known, credits=self._credits())
        return reckoned(
            cost_of_line, place, "money", note=note, known=known,
            kilos_to_buy=self._kilos(), AP_price=price_input(self.costing, line.item or ""), credits=self._credits(),
        )  # fmt: skip

    def _kilos(self) -> Input:
        line = self.line
        if line.carried is None:
            return in_kilos(self.mass("ap_g", "to buy (AP)", line.ap))
        bears = line.ap - line.carried
        words = "to buy (AP), the share that it bears" if line.byproduct is None else "what it bears of the purchase"
        return in_kilos(Input(words, bears, "g", "beside its by-products", f"{self.path}/borne_g"))

    def borne(self) -> Figure | None:
        """The AP mass whose price it bears beside its by-products."""
        place, line, trim = self.place("borne_g", "AP mass whose price it bears"), self.line, self.trim()
        if line.carried is None:
            return None
        if trim is None:
            return self._borne_by_byproduct(place)
        to_buy = self.mass("ap_g", "to buy (AP)", line.ap)
        return reckoned(mass_borne, place, "g", to_buy=to_buy, share_that_it_bears=trim.share_input())

    def _borne_by_byproduct(self, place: Place) -> Figure | None:
        item = self.item()
        if item is None:
            return None
        of_one = trimmed(self.view.one, self.steps(), self.view.byproduct_method(item), self.view.number)
        off = next(off for off in reversed(of_one.offs) if off.name == self.line.byproduct)
        return reckoned(
            mass_borne_by_byproduct, place, "g", mass=self.mass("ep_g", "mass", self.line.ep),
            share_of_the_cost=Input("share of the cost", off.share, "share", "by the kitchen's method, where it falls off"),
            share_of_the_purchase=Input("share of the purchase", off.mass, "share", "what falls off of a purchased kilo"),
        )  # fmt: skip

    def _credits(self) -> list[Input]:
        trim = self.trim()
        if trim is not None:
            return trim.credit_inputs()
        # Of a by-product: the other side of what is taken off where it falls off.
        return [
            Input(one.name, one.worth, "money", f"for {one.use}" if one.use else "no use noted", f"{self.path}/spared_{number}")
            for number, one in enumerate(self.line.credits, 1)
        ]

    def _spared(self, number: int) -> Figure | None:
        if self.line.byproduct is None or not 1 <= number <= len(self.line.credits):
            return None
        one = self.line.credits[number - 1]
        return reckoned(
            worth, self.place(f"spared_{number}", f"{one.name}, credited"), "money",
            kilos=Input("kilos of it", one.mass / 1000, "kg", "the other side of what is taken off where it falls off"),
            value_of_a_kilo=Input("a kilo is worth", one.value_per_kg, "money/kg", "stated where it falls off"),
        )  # fmt: skip

    def _part_cost(self, place: Place, recipe_id: str, known: bool) -> Figure:
        part, line = self.costing.of(recipe_id), self.line
        name = part.recipe.name
        if line.byproduct is not None:
            needs, mass = part.taken[line.byproduct] if known else (part.needs, part.mass)
            kilos = in_kilos(self.mass("ep_g", "mass", line.ep))
            out = _only_take_out(part, line.byproduct)
            figure = "whole" if line.byproduct in part.recipe.kept_for_garnish else "value"
            cost = Input(f"what all of it bears in {name}", needs.cost(self.view.prices()), "money", f"recipe {name}",
                         out and f"{out}_{figure}", recipe_id)  # fmt: skip
            whole = Input(
                f"all of it that {name} gives", mass / 1000, "kg", f"recipe {name}", out and f"{out}_mass_g", recipe_id
            )
        else:
            kilos = in_kilos(self.mass("ap_g", "mass", line.ap))
            cost = Input(
                f"batch cost of {name}, before seasoning", part.cost, "money", f"recipe {name}", "batch/cost", recipe_id
            )
            known_yield = part.balance.mass / 1000 if part.balance.yield_known else None
            whole = Input(f"batch yield of {name}", known_yield, "kg", f"recipe {name}", "batch/mass_g", recipe_id)
        return reckoned(
            cost_of_part, place, "money", known=known, kilos=kilos, cost_of_the_batch=cost, kilos_of_the_batch=whole
        )


def _only_take_out(one: CostedRecipe, name: str) -> str | None:
    """The path of what is taken out of a recipe by a name; None where that is taken out in several places."""
    paths = [
        f"stage/{here.stage.id}/taken_{place}"
        for here in one.balance.stages
        for place, out in enumerate(here.taken_out, 1)
        if out.take_out.name == name
    ]
    return paths[0] if len(paths) == 1 else None


_MAKERS: dict[str, Callable[[LineFigures], Figure | None]] = {
    "pieces": LineFigures.pieces,
    "ap_g": LineFigures.ap,
    "ep_g": LineFigures.ep,
    "pot_g": LineFigures.own,
    "up_g": LineFigures.up,
    "stays_g": LineFigures.stays,
    "cost": LineFigures.cost,
    "borne_g": LineFigures.borne,
}
