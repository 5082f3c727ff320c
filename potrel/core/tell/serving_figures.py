"""The workings of a serving: portions, cost, price and drift of a portion."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from decimal import Decimal

from potrel.core.cost.costed_recipe import CostedRecipe, bears_price, priced_mass
from potrel.core.cost.costing import Costing
from potrel.core.cost.drift import Moved, drift_of, drifted_by, moved_by, moved_by_recipe
from potrel.core.cost.portion import Portion, cost_of_energy, cost_of_time, food_cost_of, overhead_of_sales, seasoned
from potrel.core.cost.portioning import given_of, kept_masses, portions_of
from potrel.core.cost.pricing import needs_labour, school
from potrel.core.cost.pricing.card import (
    contribution,
    food_cost_share,
    gross_profit,
    kept_of,
    to_a_step,
    to_an_ending,
    with_tax,
)
from potrel.core.errors import Problem
from potrel.core.frozen import dataclass
from potrel.core.kitchen.kinds import ONE, plain
from potrel.core.kitchen.lines import Line
from potrel.core.numbers.arithmetic import Number, total
from potrel.core.numbers.formula import Many, formula
from potrel.core.numbers.units import GRAMS, MILLILITRES
from potrel.core.pot.day_view import DayView
from potrel.core.pot.line_mass import LineMass, typed_mass
from potrel.core.tell.batch_figures import allowance_input, part_of
from potrel.core.tell.content_figures import SERVING_CONTENT, ContentFigures
from potrel.core.tell.figures import (
    IN_SERVING,
    SETTING,
    Figure,
    Input,
    Place,
    as_stated,
    percent,
    reckoned,
    unknown,
    whole_ones,
)
from potrel.core.tell.item_figures import offer_words, piece_input
from potrel.core.tell.line_figures import LineFigures, named
from potrel.core.tell.school_terms import terms_of_school

SERVING_FIGURES = (
    "size_ml", "size_g", "portions", "whole_portions", "food_cost", "labour_cost", "energy_cost", "overhead_cost",
    "net_price", "suggested_price", "price", "food_cost_share", "gross_profit_share", "target_share",
    "contribution", "food_cost_if_all_take_it", *SERVING_CONTENT,
)  # fmt: skip
_THIS = "this serving"
_INCOMPLETE = "the recipe is incomplete: nothing is concluded from a lower bound"


@formula("kilos in the batch * (1 + seasoning allowance) / portions + sum of beside")
def kilos_in_portion(kilos_in_the_batch: Number, seasoning_allowance: Number, portions: Number, beside: Many) -> Number:
    """How much of one purchase [kg] a portion bears the price of."""
    return kilos_in_the_batch * (1 + seasoning_allowance) / portions + total(beside)


@formula("sum of beside")
def pieces_in_portion(beside: Many) -> Number:
    """How many of what is known by the piece only go with a portion."""
    return total(beside)


@formula("pieces in a portion * (price now - price then)")
def pieces_moved_by(pieces_in_a_portion: Number, price_now: Number, price_then: Number) -> Number:
    """What one purchase by the piece added to the cost of a portion [money]."""
    return pieces_in_a_portion * (price_now - price_then)


@formula("food cost + sum of more of")
def cost_with_more(food_cost: Number, more_of: Many) -> Number:
    """The food cost of a portion [money] with more of what not all take."""
    return food_cost + total(more_of)


@dataclass(frozen=True, slots=True)
class ServingFigures:
    """The figures of one serving of a recipe."""

    costing: Costing
    one: CostedRecipe
    portion: Portion

    @property
    def view(self) -> DayView:
        return self.costing.view

    def of(self, names: list[str]) -> Figure | None:
        """A figure by its name, or by the name of a line served with it and the line's figure; None for one there is not."""
        match names:
            case [name] if name in _MAKERS:
                return _MAKERS[name](self)
            case [name] if name in SERVING_CONTENT:
                return ContentFigures(self.costing, self.one).portion(self.portion, name)
            case ["drift", item]:
                return self._moved(item)
            case ["needs", item] if item in self.one.items:
                return self._needed(item)
            case [line_id, name]:
                return self._extra(line_id, name)
        return None

    def path(self, name: str) -> str:
        return f"serving/{self.portion.serving.id}/{name}"

    def place(self, name: str, words: str) -> Place:
        return Place(self.one.recipe.id, self.path(name), f"{self.portion.serving.name}: {words}")

    def own(self, name: str, words: str, value: Number | None, unit: str = "money") -> Input:
        return Input(words, value, unit, _THIS, self.path(name))

    # -- lines served with it --------------------------------------------------------------------------------------

    def _extra(self, line_id: str, name: str) -> Figure | None:
        for _, line in self.portion.extras:
            if isinstance(line, LineMass) and line.id == line_id:
                if name == "ep_g" and line.line is not None and self.one.recipe.keeps(line.line):
                    return self._given(line, line.line)
                return LineFigures(self.costing, self.one, line, self.path(line_id), None).of(name)
            if isinstance(line, Problem) and line.line == line_id:
                place = Place(self.one.recipe.id, self.path(f"{line_id}/{name}"), "not known yet")
                return unknown(place, "money" if name == "cost" else "g", line.message)
        return None

    def kept_for_each(self, line: LineMass) -> Number | None:
        """How much [g] was kept of this pot for each portion; None for what was not, or where it is not known."""
        kept, portions = kept_masses(self.one.balance), self.portion.portions
        own = line.recipe == self.one.recipe.id and line.byproduct in kept
        return kept[line.byproduct or ""] / portions if own and portions is not None else None

    def _given(self, line: LineMass, typed: Line) -> Figure:
        """What a portion gets of what is kept of this pot."""
        place = self.place(f"{line.id}/ep_g", f"{line.byproduct}, for a portion")
        taken_by = "" if typed.taken_by == 1 else f", taken by {percent(typed.taken_by)} of the guests"
        asked = Input("asked for", typed.quantity.grams() * typed.taken_by, "g", f'"{typed.quantity}", typed{taken_by}')
        if self.portion.portions is None:
            return reckoned(as_stated, place, "g", what_is_stated=asked)
        kept = Input("kept of the pot", kept_masses(self.one.balance)[line.byproduct or ""], "g", "what is taken out for it")
        return reckoned(given_of, place, "g", asked_for=asked, kept=kept, portions=self._portions())

    def _beside(self) -> list[Input]:
        found = []
        for role, line in self.portion.extras:
            if isinstance(line, Problem):
                name = self.view.name_of(line.item)
                found.append(Input(f"{name} ({role})", None, "money", line.message, self.path(f"{line.line}/cost")))
            else:
                cost, name = self.costing.line_cost(line), named(line, self.view)
                found.append(Input(f"{name} ({role})", cost, "money", "with each portion", self.path(f"{line.id}/cost")))
        return found

    # -- portions --------------------------------------------------------------------------------------------------

    def _size(self, name: str, unit: str, weight: Number, source: str) -> Figure:
        size = self.portion.serving.size
        return reckoned(
            typed_mass, self.place(name, "size"), unit,
            amount=Input(f'"{size}"', size.amount, "", IN_SERVING),
            weight_of_one=Input(f"1 {size.unit} is", weight, unit, source),
        )  # fmt: skip

    def size_ml(self) -> Figure:
        size = self.portion.serving.size
        if not self.portion.by_volume:
            return unknown(self.place("size_ml", "size"), "ml", "this serving is measured by weight")
        return self._size("size_ml", "ml", MILLILITRES[self.view.system][size.unit], "the size of the unit")

    def size_g(self) -> Figure:
        size = self.portion.serving.size
        if self.portion.by_volume:
            return unknown(self.place("size_g", "size"), "g", "this serving is measured by volume")
        return self._size("size_g", "g", GRAMS[size.unit], "the weight of the unit")

    def size_grams(self) -> Figure:
        """The mass of a portion, however its size is measured."""
        size, density = self.portion.serving.size, self.one.recipe.density
        if not self.portion.by_volume:
            return self._size("mass_g", "g", GRAMS[size.unit], "the weight of the unit")
        weight = MILLILITRES[self.view.system][size.unit] * density
        return self._size("mass_g", "g", weight, f"{plain(density)} kg per litre, {self.one.recipe.name}")

    def portions(self) -> Figure:
        known = self.portion.portions is not None
        mass = Input("batch yield", self.one.balance.mass if known else None, "g", "the batch", "batch/mass_g")
        return reckoned(
            portions_of, self.place("portions", "portions of a batch"), "", batch_yield=mass,
            serving_loss=Input("serving loss", self.view.settings.serving_loss, "share", SETTING),
            size=self.own("mass_g", "size", self.portion.size_g, "g"),
        )  # fmt: skip

    def _portions(self) -> Input:
        return self.own("portions", "portions of a batch", self.portion.portions, "")

    def whole_portions(self) -> Figure:
        return reckoned(whole_ones, self.place("whole_portions", "whole portions of a batch"), "", portions=self._portions())

    # -- costs -----------------------------------------------------------------------------------------------------

    def food_cost(self) -> Figure:
        batch = seasoned(self.one.cost, self.view.allowance(self.one.recipe))
        return reckoned(
            food_cost_of, self.place("food_cost", "food cost of a portion"), "money",
            food_cost_of_the_batch=Input("food cost of the batch", batch, "money", "with its seasoning", "batch/food_cost"),
            portions=self._portions(), served_with_it=self._beside(),
        )  # fmt: skip

    def food_cost_if_all_take_it(self) -> Figure:
        """The food cost where every guest takes everything; not told where there is nothing that only some take."""
        some = [line for _, line in self.portion.extras if isinstance(line, LineMass) and _taken_by(line) != 1]
        if not some:
            words = "whatever goes with it, every guest takes"
            return unknown(self.place("food_cost_if_all_take_it", "food cost, if all take everything"), "money", words)
        more = []
        for line in some:
            cost, share = self.costing.line_cost(line), _taken_by(line)
            value = None if cost is None else cost * (1 - share) / share
            more.append(Input(named(line, self.view), value, "money", f"taken by {percent(share)}, and now by all"))
        place = self.place("food_cost_if_all_take_it", "food cost of a portion, if all take everything")
        return reckoned(cost_with_more, place, "money", food_cost=self._food(), more_of=more)

    def _food(self) -> Input:
        return self.own("food_cost", "food cost of a portion", self.portion.food_cost)

    def _of_time(self, name: str, words: str, rate: Decimal | None, label: str) -> Figure:
        return reckoned(
            cost_of_time, self.place(name, words), "money",
            attended_time=Input("attended time of a batch", self.one.needs.minutes, "min", "the stages",
                                "batch/attended_minutes"),
            portions=self._portions(),
            portioning_seconds=Input("portioning", self.portion.serving.portioning_seconds, "s", IN_SERVING),
            rate_an_hour=Input(label, rate, "money/h", SETTING),
        )  # fmt: skip

    def labour_cost(self) -> Figure:
        rate = self.view.settings.labour_rate_per_hour
        return self._of_time("labour_cost", "direct labour of a portion", rate, "labour rate")

    def overhead_cost(self) -> Figure:
        told, words = self.view.settings.overhead_told, "overhead of a portion"
        if told is not None and told.per_portion is not None:
            each = Input("overhead, the same for each portion", told.per_portion, "money", SETTING)
            return reckoned(as_stated, self.place("overhead_cost", words), "money", what_is_stated=each)
        if told is not None and told.share_of_sales is not None:
            return reckoned(
                overhead_of_sales, self.place("overhead_cost", words), "money",
                price=self.own("price", "price on the card", self.portion.priced.price), tax_rate=self._tax(),
                share_of_sales=Input("overhead as a share of sales", told.share_of_sales, "share", SETTING),
            )  # fmt: skip
        rate = None if told is None else told.per_attended_hour
        return self._of_time("overhead_cost", words, rate, "overhead rate, by attended time")

    def energy_cost(self) -> Figure:
        price = self.view.settings.energy_price_per_kwh
        stated, told = self.one.needs.energy != 0, self.one.needs.energy_known
        note = None if stated else "no stage says what energy it takes"
        if not told:
            note = "a stage is heated, and what that takes cannot be told: see the energy of the stages"
        return reckoned(
            cost_of_energy, self.place("energy_cost", "energy of a portion"), "money",
            energy_of_the_batch=Input("energy of a batch", self.one.needs.energy, "kWh", "the stages", "batch/energy_kwh"),
            portions=self._portions(), price_a_kWh=Input("energy", price, "money/kWh", SETTING), known=stated and told,
            note=note,
        )  # fmt: skip

    # -- price -----------------------------------------------------------------------------------------------------

    def _commission(self) -> Input:
        return Input("channel commission", self.portion.serving.commission, "share", IN_SERVING)

    def _tax(self) -> Input:
        return Input("tax rate", self.view.settings.tax_rate, "share", SETTING)

    def net_price(self) -> Figure:
        pricing, place = self.portion.priced.pricing, self.place("net_price", "price before tax")
        if pricing is None:
            return unknown(place, "money", "no pricing method is chosen, and the kitchen has no target food-cost share")
        inputs = {"food_cost": self._food()}
        if needs_labour(pricing):
            inputs["direct_labour"] = self.own("labour_cost", "direct labour of a portion", self.portion.labour_cost)
        inputs |= terms_of_school(pricing, IN_SERVING if self.portion.serving.pricing is not None else SETTING)
        known, note = self._concluded()
        return reckoned(school(pricing), place, "money", known=known, note=note, **inputs, commission=self._commission())

    def suggested_price(self) -> Figure:
        place, ending = self.place("suggested_price", "computed price"), self.view.settings.price_ending
        net = self.own("net_price", "price before tax", self.portion.priced.net)
        if ending is None:
            return reckoned(with_tax, place, "money", net_price=net, tax_rate=self._tax())
        if ending.step is not None:
            step = Input("prices go up to a multiple of", ending.step, "money", SETTING)
            return reckoned(to_a_step, place, "money", net_price=net, tax_rate=self._tax(), step=step)
        cents = [Input("prices end in", cent, "money", SETTING) for cent in ending.cents or ()]
        return reckoned(to_an_ending, place, "money", net_price=net, tax_rate=self._tax(), endings=cents)

    def price(self) -> Figure:
        price, place = self.portion.priced.set, self.place("price", "price on the card")
        if price.price is None:
            computed = self.own("suggested_price", "computed price, none is set", self.portion.priced.suggested)
            return reckoned(as_stated, place, "money", what_is_stated=computed)
        on = f"set on {price.on.isoformat()}" if price.on else "set, no date noted"
        return reckoned(as_stated, place, "money", what_is_stated=Input("set price", price.price, "money", on))

    def kept(self) -> Figure:
        return reckoned(
            kept_of, self.place("kept", "kept of the price"), "money",
            price=self.own("price", "price on the card", self.portion.priced.price),
            tax_rate=self._tax(), commission=self._commission(),
        )  # fmt: skip

    def _kept(self) -> Input:
        return self.own("kept", "kept of the price", self.portion.priced.kept)

    def food_cost_share(self) -> Figure:
        known, note = self._concluded()
        kept = self.portion.priced.kept
        return reckoned(
            food_cost_share, self.place("food_cost_share", "food-cost share"), "share", note=note,
            known=known and kept is not None and kept > 0, food_cost=self._food(), kept=self._kept(),
        )  # fmt: skip

    def gross_profit_share(self) -> Figure:
        known, note = self._concluded()
        share = self.own("food_cost_share", "food-cost share", self.portion.priced.share, "share")
        place = self.place("gross_profit_share", "gross profit")
        return reckoned(gross_profit, place, "share", note=note, known=known, food__cost_share=share)

    def contribution(self) -> Figure:
        known, note = self._concluded()
        return reckoned(
            contribution, self.place("contribution", "contribution of a portion"), "money", note=note, known=known,
            kept=self._kept(), food_cost=self._food(),
        )  # fmt: skip

    def _concluded(self) -> tuple[bool, str | None]:
        return (not self.one.problems, _INCOMPLETE if self.one.problems else None)

    def target_share(self) -> Figure:
        pricing = self.portion.serving.pricing
        own = pricing is not None and pricing.method == "food_cost_share"
        target = Input("target", self.portion.priced.target, "share", IN_SERVING if own else SETTING)
        return reckoned(as_stated, self.place("target_share", "target food-cost share"), "share", what_is_stated=target)

    # -- drift -----------------------------------------------------------------------------------------------------

    def drift(self) -> Figure:
        place = self.place("drift", "cost since the price was set")
        drift = drift_of(self.one, self.portion, self.costing)
        if drift is None:
            return unknown(place, "money", "the day on which the price was set is not noted")
        purchases = [
            Input(part.name, part.change, "money",
                  f"{part.was_per_kg:.2f} {_for_one(part.unit)} then, {part.now_per_kg:.2f} now",
                  self.path(f"drift/{part.item}"), item=part.item)
            for part in drift.moved
        ]  # fmt: skip
        note = None
        if drift.unpriced:
            names = ", ".join(self.view.name_of(item) for item in drift.unpriced)
            note = f"No price on {drift.since.isoformat()}: {names}"
        recipe = None
        if drift.recipe is not None:
            source = "changed since, or one that it uses; at the prices of then"
            recipe = Input("the recipe itself", drift.recipe, "money", source, self.path("recipe_drift"))
        elif drift.change is None and not drift.unpriced:
            note = f"The recipe has changed since {drift.since.isoformat()}, and what it cost then cannot be told any more"
        return reckoned(
            drifted_by, place, "money", note=note, known=drift.change is not None, purchases=purchases, the_recipe_itself=recipe
        )

    def recipe_drift(self) -> Figure | None:
        """What changes of the recipe did since the price was set; None where it stands as it stood."""
        drift, then = (
            drift_of(self.one, self.portion, self.costing),
            self.costing.then(self.one.recipe.id, self.portion.serving),
        )
        if drift is None or then is None:
            return None
        purchases = [
            Input(part.name, part.change, "money", "what it added", self.path(f"drift/{part.item}")) for part in drift.moved
        ]
        return reckoned(
            moved_by_recipe, self.place("recipe_drift", "what changes of the recipe did"), "money", cost_now=self._food(),
            purchases=purchases,
            cost_then=Input("cost of a portion then", then.food_cost, "money",
                            f"the recipe of {then.moment:%Y-%m-%d %H:%M}, at the prices of {drift.since.isoformat()}"),
        )  # fmt: skip

    def _moved(self, item: str) -> Figure | None:
        drift = drift_of(self.one, self.portion, self.costing)
        part = None if drift is None else next((part for part in drift.moved if part.item == item), None)
        if drift is None or part is None or self.portion.factor is None:
            return None
        since = drift.since.isoformat()
        then = self.view.price(item, drift.since)
        if part.unit != "kg":
            return self._pieces_moved(part, since)
        return reckoned(
            moved_by, self.place(f"drift/{item}", f"{part.name} since {since}"), "money",
            kilos_in_a_portion=Input("to buy (AP) for a portion", self._needed(item).value, "kg", "with its seasoning",
                                     self.path(f"needs/{item}")),
            price_now=Input("AP price now", part.now_per_kg, "money/kg", f"on {self.view.on.isoformat()}",
                            f"item/{item}/price_per_kg", item=item),
            price_then=Input("AP price then", part.was_per_kg, "money/kg", f"on {since}: {offer_words(self.view, then)}",
                             item=item, offer=None if then is None else then.offer.id),
        )  # fmt: skip

    def _pieces_moved(self, part: Moved, since: str) -> Figure:
        name = f"drift/{part.item}"
        now = piece_input(self.costing, part.item)
        return reckoned(
            pieces_moved_by, self.place(name, f"{part.name} since {since}"), "money",
            pieces_in_a_portion=Input(f"with a portion ({part.unit})", self._needed(part.item).value, "", "with each portion",
                                      self.path(f"needs/{part.item}")),
            price_now=now, price_then=Input(f"price of 1 {part.unit} then", part.was_per_kg, "money", f"on {since}"),
        )  # fmt: skip

    def _needed(self, item: str) -> Figure:
        """How much of an item a portion bears, from the batch and from what is served with it."""
        needs = self.one.needs.borne
        unit = self.view.counted(item)
        if unit is not None:
            name = f"{self.view.name_of(item)}, with a portion ({unit})"
            return reckoned(pieces_in_portion, self.place(f"needs/{item}", name), "", beside=list(self._pieces_of(item)))
        batch = Input("in the batch, through all recipes", self.view.zero, "kg", "none of it is in the pot")
        if item in needs:
            batch = Input(batch.name, needs[item] / 1000, "kg", "the needs of the batch", f"batch/need/{item}/kilos")
        name = self.view.name_of(item)
        return reckoned(
            kilos_in_portion, self.place(f"needs/{item}", f"{name}, to buy for a portion"), "kg", kilos_in_the_batch=batch,
            seasoning_allowance=allowance_input(self.one, self.view), portions=self._portions(),
            beside=list(self._beside_of(item)),
        )  # fmt: skip

    def _pieces_of(self, item: str) -> Iterator[Input]:
        for _, line in self.portion.extras:
            if isinstance(line, LineMass) and line.item == item and line.counted is not None:
                yield Input(named(line, self.view), line.ap, "", "with each portion", self.path(f"{line.id}/pieces"))

    def _beside_of(self, item: str) -> Iterator[Input]:
        for _, line in self.portion.extras:
            if isinstance(line, Problem):
                continue
            if line.item == item and bears_price(line):
                figure = self.path(f"{line.id}/{'ap_g' if line.carried is None else 'borne_g'}")
                yield Input(named(line, self.view), priced_mass(line) / 1000, "kg", "with each portion", figure)
            elif line.recipe is not None:
                yield from part_of(self.costing, line, item)


def _taken_by(line: LineMass) -> Decimal:
    return ONE if line.line is None else line.line.taken_by


def _for_one(unit: str) -> str:
    return "a kilo" if unit == "kg" else f"for 1 {unit}"


_MAKERS: dict[str, Callable[[ServingFigures], Figure | None]] = {
    "size_ml": ServingFigures.size_ml,
    "size_g": ServingFigures.size_g,
    "mass_g": ServingFigures.size_grams,
    "portions": ServingFigures.portions,
    "whole_portions": ServingFigures.whole_portions,
    "food_cost": ServingFigures.food_cost,
    "labour_cost": ServingFigures.labour_cost,
    "energy_cost": ServingFigures.energy_cost,
    "overhead_cost": ServingFigures.overhead_cost,
    "net_price": ServingFigures.net_price,
    "suggested_price": ServingFigures.suggested_price,
    "price": ServingFigures.price,
    "kept": ServingFigures.kept,
    "food_cost_share": ServingFigures.food_cost_share,
    "target_share": ServingFigures.target_share,
    "gross_profit_share": ServingFigures.gross_profit_share,
    "contribution": ServingFigures.contribution,
    "food_cost_if_all_take_it": ServingFigures.food_cost_if_all_take_it,
    "drift": ServingFigures.drift,
    "recipe_drift": ServingFigures.recipe_drift,
}
