"""The workings of a serving where it is sold: what it costs there in full, and each school's price beside the one in force."""

from __future__ import annotations

from dataclasses import dataclass, field
from decimal import Decimal, InvalidOperation
from functools import cached_property

from potrel.core.cost.costed_recipe import CostedRecipe
from potrel.core.cost.costing import Costing
from potrel.core.cost.portion import Portion, cost_of_time, overhead_of_sales
from potrel.core.cost.pricing import needs_labour, school
from potrel.core.cost.pricing.card import (
    contribution,
    ended_by_a_step,
    ended_by_cents,
    food_cost_share,
    gross_profit,
)
from potrel.core.cost.selling import (
    OWN,
    ChannelTerms,
    all_packaging,
    food_alone,
    food_in_channel,
    full_cost,
    minutes_of_portion,
    packed_in,
    per_minute,
    pricing_of,
    profit,
    terms_in,
)
from potrel.core.errors import Problem
from potrel.core.kitchen.kinds import ZERO
from potrel.core.kitchen.pricing import PRICING_METHODS, Pricing, PricingMethod
from potrel.core.numbers.arithmetic import Number
from potrel.core.pot.day_view import DayView
from potrel.core.pot.line_mass import LineMass
from potrel.core.tell.figures import IN_SERVING, SETTING, Figure, Input, Place, as_stated, reckoned, unknown
from potrel.core.tell.line_figures import named
from potrel.core.tell.school_terms import terms_of_school

IN_FORCE, AT = "in_force", "at-"
_OF_CHANNEL = (
    "packaging", "food_cost", "labour_fixed", "labour_per_kilo", "labour_portioning", "minutes", "full_cost",
)  # fmt: skip
_WHOSE = {"serving": IN_SERVING, "recipe": "set in the recipe", "kitchen": SETTING}
ROW_FIGURES = (
    "to_keep", "before_ending", "price", "kept", "food_cost_share", "gross_profit_share", "contribution", "per_minute",
    "overhead", "profit",
)  # fmt: skip
_METHOD_WORDS: dict[PricingMethod, str] = {
    "food_cost_share": "by food-cost share", "factor": "by factor", "contribution": "by contribution",
    "prime_cost_share": "by food and labour", "full_cost": "by full cost",
}  # fmt: skip


@dataclass
class SellingFigures:
    """The figures of one serving in one channel, each made once."""

    costing: Costing
    one: CostedRecipe
    portion: Portion
    terms: ChannelTerms
    packed: tuple[LineMass | Problem, ...] = ()
    _rows: dict[str, Row] = field(default_factory=dict)

    @classmethod
    def of_channel(cls, costing: Costing, one: CostedRecipe, portion: Portion, channel: str | None) -> SellingFigures:
        """Those of a serving in a channel that the kitchen has; None is its own."""
        view = costing.view
        terms = terms_in(None if channel is None else view.channels[channel], portion.serving, view)
        return cls(costing, one, portion, terms, tuple(packed_in(terms, view)))

    @property
    def view(self) -> DayView:
        return self.costing.view

    @property
    def channel(self) -> str:
        """The channel, as it stands in a path."""
        return self.terms.id or OWN

    def of(self, names: list[str]) -> Figure | None:
        """A figure by its name, or that of a row by the row and its name; None for one there is not."""
        match names:
            case ["food"]:
                return self.food_alone
            case [name] if name in _OF_CHANNEL:
                made: Figure = getattr(self, name)
                return made
            case [row, name] if name in ROW_FIGURES and self._is_row(row):
                of_row: Figure = getattr(self.row(row), name)
                return of_row
        return None

    def row(self, row: str) -> Row:
        """The figures of one price: that of a method, the one in force, or a typed one ("at-3.70")."""
        return self._rows.setdefault(row, Row(self, row))

    def _is_row(self, row: str) -> bool:
        if row in PRICING_METHODS or row == IN_FORCE:
            return True
        try:
            return row.startswith(AT) and Decimal(row.removeprefix(AT)).is_finite()
        except InvalidOperation:
            return False

    def place(self, name: str, words: str) -> Place:
        serving = self.portion.serving
        where = "" if self.terms.id is None else f", {self.terms.name}"
        return Place(self.one.recipe.id, self.path(name), f"{serving.name}{where}: {words}")

    def path(self, name: str) -> str:
        return f"serving/{self.portion.serving.id}/in/{self.channel}/{name}"

    def own(self, words: str, name: str, figure: Figure, source: str = "of this serving") -> Input:
        return Input(words, figure.value, figure.unit, source, self.path(name))

    @cached_property
    def lacking(self) -> str | None:
        """Why nothing can be concluded from its cost; None where all is known."""
        if self.one.problems:
            return "the recipe is incomplete: nothing is concluded from a lower bound"
        for line in self.packed:
            if isinstance(line, Problem):
                return line.message
            if self.costing.line_cost(line) is None:
                return f"{named(line, self.view)} has no price: record what it costs"
        return None

    # -- what it costs ---------------------------------------------------------------------------------------------

    def _base(self, name: str, words: str, value: Number | None) -> Input:
        return Input(words, value, "money", "this serving", f"serving/{self.portion.serving.id}/{name}")

    def _food(self) -> Input:
        return self._base("food_cost", "food cost of a portion", self.portion.food_cost)

    def _servings_packaging(self) -> list[Input]:
        found = []
        for role, line in self.portion.extras:
            if role == "packaging" and isinstance(line, LineMass):
                path = f"serving/{self.portion.serving.id}/{line.id}/cost"
                cost = self.costing.line_cost(line)
                found.append(Input(named(line, self.view), cost, "money", "with each portion", path))
        return found

    def _channels_packaging(self) -> list[Input]:
        found = []
        for line in self.packed:
            if isinstance(line, Problem):
                found.append(Input(self.view.name_of(line.item), None, "money", line.message))
            else:
                source = f'"{line.line.quantity}" with each portion sold by {self.terms.name}' if line.line else ""
                found.append(Input(named(line, self.view), self.costing.line_cost(line), "money", source, item=line.item))
        return found

    @cached_property
    def food_alone(self) -> Figure:
        return reckoned(
            food_alone, self.place("food", "food of a portion, without packaging"), "money", food_cost=self._food(),
            packaging=self._servings_packaging(),
        )  # fmt: skip

    @cached_property
    def packaging(self) -> Figure:
        every = [*self._servings_packaging(), *self._channels_packaging()]
        return reckoned(all_packaging, self.place("packaging", "packaging of a portion"), "money", packaging=every)

    @cached_property
    def food_cost(self) -> Figure:
        return reckoned(
            food_in_channel, self.place("food_cost", "food cost of a portion, as it is sold"), "money", food_cost=self._food(),
            packaging=self._channels_packaging(),
        )  # fmt: skip

    def _time(self, name: str, words: str, minutes: Number, label: str, seconds: Decimal) -> Figure:
        return reckoned(
            cost_of_time, self.place(name, words), "money",
            attended_time=Input(label, minutes, "min", "of a batch", "batch/attended_minutes"),
            portions=self._portions(), portioning_seconds=Input("portioning", seconds, "s", IN_SERVING),
            rate_an_hour=Input("labour rate", self.view.settings.labour_rate_per_hour, "money/h", SETTING),
        )  # fmt: skip

    def _portions(self) -> Input:
        path = f"serving/{self.portion.serving.id}/portions"
        return Input("portions of a batch", self.portion.portions, "", "this serving", path)

    @cached_property
    def labour_fixed(self) -> Figure:
        """Labour of the stages and of cleaning up, whatever the batch weighs."""
        label = "attended time but for that by the kilo"
        return self._time("labour_fixed", "labour of the stages", self.one.needs.minutes - self._prep(), label, ZERO)

    @cached_property
    def labour_per_kilo(self) -> Figure:
        """Labour of preparing, by the kilo."""
        return self._time("labour_per_kilo", "labour of preparing", self._prep(), "minutes by the kilo", ZERO)

    @cached_property
    def labour_portioning(self) -> Figure:
        """Labour of portioning."""
        seconds = self.portion.serving.portioning_seconds
        return self._time("labour_portioning", "labour of portioning", ZERO, "attended time counted elsewhere", seconds)

    def _prep(self) -> Number:
        return sum((here.prep for here in self.one.balance.stages), ZERO)

    def labour(self) -> Input:
        return self._base("labour_cost", "direct labour of a portion", self.portion.labour_cost)

    def energy(self) -> Input:
        return self._base("energy_cost", "energy of a portion", self.portion.energy_cost)

    @cached_property
    def minutes(self) -> Figure:
        return reckoned(
            minutes_of_portion, self.place("minutes", "attended minutes of a portion"), "min", portions=self._portions(),
            attended_time=Input("attended time", self.one.needs.minutes, "min", "of a batch", "batch/attended_minutes"),
            portioning_seconds=Input("portioning", self.portion.serving.portioning_seconds, "s", IN_SERVING),
        )  # fmt: skip

    @cached_property
    def full_cost(self) -> Figure:
        """All that is known of what a portion costs, at the price in force."""
        costs = [self.own("food and packaging", "food_cost", self.food_cost), self.labour(), self.energy()]
        overhead = self.row(IN_FORCE).overhead
        costs.append(self.own("overhead", f"{IN_FORCE}/overhead", overhead))
        known = [one for one in costs if one.value is not None]
        missing = [one.name for one in costs if one.value is None]
        note = f"Not in it, as nobody told: {', '.join(missing)}" if missing else None
        return reckoned(full_cost, self.place("full_cost", "full cost of a portion"), "money", note=note, costs=known)

    # -- terms -----------------------------------------------------------------------------------------------------

    def whose(self, own: bool) -> str:
        """Where a term was set: for the channel, where it is its own."""
        return f"set for {self.terms.name}" if own else SETTING

    def tax(self) -> Input:
        return Input("tax rate", self.terms.tax, "share", self.whose(self.terms.own_tax))

    def commission(self) -> Input:
        words = f"commission of the {self.terms.commission_of} price"
        source = IN_SERVING if self.terms.id is None else self.whose(own=True)
        return Input(words, self.terms.commission, "share", source)

    def subsidy(self) -> Input | None:
        if self.terms.subsidy == 0:
            return None
        return Input("subsidy of the house", self.terms.subsidy, "money", self.whose(own=True))


@dataclass
class Row:
    """The figures of one price of a serving in a channel."""

    of: SellingFigures
    id: str

    @property
    def method(self) -> PricingMethod | None:
        return next((method for method in PRICING_METHODS if method == self.id), None)

    @cached_property
    def pricing(self) -> tuple[Pricing, str] | None:
        """The terms of its school, and whose they are; that of the price in force is the one that decides."""
        serving, view = self.of.portion.serving, self.of.view
        method = self.method
        if method is None:
            decides = self.of.portion.priced.pricing
            method = None if decides is None else decides.method
        return None if method is None else pricing_of(method, serving, self.of.one.recipe, view)

    def _place(self, name: str, words: str) -> Place:
        method = self.method
        which = f", {_METHOD_WORDS[method]}" if method is not None else f", at {self.id.removeprefix(AT)}"
        return self.of.place(f"{self.id}/{name}", words + ("" if self.id == IN_FORCE else which))

    def _own(self, words: str, name: str, figure: Figure) -> Input:
        return self.of.own(words, f"{self.id}/{name}", figure)

    @cached_property
    def to_keep(self) -> Figure:
        """What has to be kept of a portion by its school."""
        place, found = self._place("to_keep", "what has to be kept"), self.pricing
        if found is None:
            return unknown(place, "money", "this kitchen has no terms for it: set them")
        pricing, whose = found
        inputs = {"food_cost": self.of.own("food cost of a portion", "food_cost", self.of.food_cost)}
        if needs_labour(pricing):
            inputs["direct_labour"] = self.of.labour()
        inputs |= terms_of_school(pricing, _WHOSE[whose])
        note = self.of.lacking
        none = Input("commission, taken off later", ZERO, "share", "with the price on the card")
        return reckoned(school(pricing), place, "money", known=note is None, note=note, **inputs, commission=none)

    @cached_property
    def before_ending(self) -> Figure:
        return reckoned(
            self.of.terms.asked_by, self._place("before_ending", "price before its ending"),
            "money", to_be_kept=self._own("has to be kept", "to_keep", self.to_keep), tax_rate=self.of.tax(),
            commission=self.of.commission(), subsidy=self.of.subsidy(),
        )  # fmt: skip

    @cached_property
    def price(self) -> Figure:
        place, of = self._place("price", "price on the card"), self.of
        if self.id.startswith(AT):
            typed = Input("typed", Decimal(self.id.removeprefix(AT)), "money", "tried out")
            return reckoned(as_stated, place, "money", what_is_stated=typed)
        if self.id == IN_FORCE:
            found = of.portion.serving.set_price(of.view.on, of.terms.id)
            if found.price is not None:
                on = f"set on {found.on.isoformat()}" if found.on else "set, no date noted"
                return reckoned(as_stated, place, "money", what_is_stated=Input("set price", found.price, "money", on))
            pricing = self.pricing
            if pricing is None:
                return unknown(place, "money", "no price is set, and no school is chosen that would make one")
            computed = of.row(pricing[0].method)
            words = f"computed {_METHOD_WORDS[pricing[0].method]}, none is set"
            source = of.own(words, f"{computed.id}/price", computed.price)
            return reckoned(as_stated, place, "money", what_is_stated=source)
        ending = of.terms.ending
        asked = self._own("price before its ending", "before_ending", self.before_ending)
        whose = of.whose(of.terms.own_ending)
        if ending is None:
            return reckoned(as_stated, place, "money", what_is_stated=asked)
        if ending.step is not None:
            step = Input("prices go up to a multiple of", ending.step, "money", whose)
            return reckoned(ended_by_a_step, place, "money", price=asked, step=step)
        cents = [Input("prices end in", cent, "money", whose) for cent in ending.cents or ()]
        return reckoned(ended_by_cents, place, "money", price=asked, endings=cents)

    @cached_property
    def kept(self) -> Figure:
        return reckoned(
            self.of.terms.kept_by, self._place("kept", "kept of the price"), "money",
            price=self._own("price on the card", "price", self.price), tax_rate=self.of.tax(),
            commission=self.of.commission(), subsidy=self.of.subsidy(),
        )  # fmt: skip

    def _kept(self) -> Input:
        return self._own("kept of the price", "kept", self.kept)

    def _food(self) -> Input:
        return self.of.own("food cost of a portion", "food_cost", self.of.food_cost)

    @cached_property
    def food_cost_share(self) -> Figure:
        kept, note = self._kept(), self.of.lacking
        known = note is None and kept.value is not None and kept.value > 0
        place = self._place("food_cost_share", "food-cost share")
        if note is None and kept.value is not None and not known:
            note = "nothing is kept of this price: tax and commission take all of it"
        return reckoned(food_cost_share, place, "share", known=known, note=note, food_cost=self._food(), kept=kept)

    @cached_property
    def gross_profit_share(self) -> Figure:
        share = self._own("food-cost share", "food_cost_share", self.food_cost_share)
        return reckoned(gross_profit, self._place("gross_profit_share", "gross profit"), "share", food__cost_share=share)

    @cached_property
    def contribution(self) -> Figure:
        note = self.of.lacking
        place = self._place("contribution", "contribution, after food and packaging")
        return reckoned(contribution, place, "money", known=note is None, note=note, kept=self._kept(), food_cost=self._food())

    def _contribution(self) -> Input:
        return self._own("contribution", "contribution", self.contribution)

    @cached_property
    def per_minute(self) -> Figure:
        minutes = self.of.own("attended minutes of a portion", "minutes", self.of.minutes)
        place = self._place("per_minute", "contribution of an attended minute")
        return reckoned(per_minute, place, "money", contribution=self._contribution(), minutes=minutes)

    @cached_property
    def overhead(self) -> Figure:
        told, place = self.of.view.settings.overhead_told, self._place("overhead", "overhead of a portion")
        if told is None or told.share_of_sales is None:
            path = f"serving/{self.of.portion.serving.id}/overhead_cost"
            stated = Input("overhead of a portion", self.of.portion.overhead_cost, "money", "this serving", path)
            return reckoned(as_stated, place, "money", what_is_stated=stated)
        return reckoned(
            overhead_of_sales, place, "money", price=self._own("price on the card", "price", self.price),
            tax_rate=self.of.tax(), share_of_sales=Input("overhead as a share of sales", told.share_of_sales, "share", SETTING),
        )  # fmt: skip

    @cached_property
    def profit(self) -> Figure:
        """What is left after labour, energy and overhead, as far as they are told; not known without labour."""
        overhead = self._own("overhead", "overhead", self.overhead)
        costs = [self.of.labour(), self.of.energy(), overhead]
        missing = [one.name for one in costs if one.value is None]
        note = f"At most: nobody told {', '.join(missing)}" if missing else None
        known = costs[0].value is not None
        if not known:
            note = "the kitchen has no labour rate: set one"
        return reckoned(
            profit, self._place("profit", "left after labour, energy and overhead"), "money", known=known, note=note,
            contribution=self._contribution(), costs=[one for one in costs if one.value is not None],
        )  # fmt: skip
