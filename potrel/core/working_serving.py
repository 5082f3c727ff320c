"""The workings of a serving: portions, cost, price and drift of a portion."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from decimal import Decimal

from potrel.core.balance import LineMass
from potrel.core.costing import Costing, Portion, priced
from potrel.core.drift import PriceMoves, drift_of
from potrel.core.errors import Problem
from potrel.core.kitchen import Pricing
from potrel.core.pricing import in_words, needs_labour
from potrel.core.sheet import SheetServing, sheet_of
from potrel.core.working import Input, Working
from potrel.core.working_pot import line_working

_SETTING = "kitchen setting"
_TYPED = "set in the serving"
_Formula = tuple[str, str, list[Input]]


def explain_serving(costing: Costing, recipe_id: str, serving_id: str, names: list[str]) -> Working | None:
    """The working of a figure of a serving, or of a line served with it (`names` is then the line and the figure)."""
    portion = next((one for one in costing.portions(recipe_id) if one.serving.id == serving_id), None)
    if portion is None:
        return None
    path = f"serving/{serving_id}"
    if len(names) == 2:
        return _extra(costing, recipe_id, portion, f"{path}/{names[0]}", *names)
    sheet = next(one for one in sheet_of(costing, recipe_id).servings if one.id == serving_id)
    (name,) = names
    if name == "drift":
        return _drift(costing, recipe_id, portion, path)
    build = _FIGURES.get(name)
    if build is None:
        return None
    unit, formula, inputs = build(_Serving(costing, recipe_id, portion, sheet))
    value = getattr(sheet, name)
    value = Decimal(value) if isinstance(value, int) else value
    title = f"{portion.serving.name}: {_TITLES.get(name, name)}"
    return Working(recipe_id, f"{path}/{name}", title, value, unit, formula, inputs)


_TITLES = {
    "size_ml": "size", "size_g": "size", "portions": "portions of a batch", "whole_portions": "whole portions of a batch",
    "food_cost": "food cost of a portion", "labour_cost": "direct labour of a portion",
    "energy_cost": "energy of a portion", "overhead_cost": "overhead of a portion",
    "net_price": "price before tax", "suggested_price": "computed price", "price": "price on the card",
    "food_cost_share": "food-cost share", "target_share": "target food-cost share", "contribution": "contribution of a portion",
}  # fmt: skip


def _extra(costing: Costing, recipe_id: str, portion: Portion, path: str, line_id: str, name: str) -> Working | None:
    for _, line in portion.extras:
        if isinstance(line, LineMass) and line.id == line_id:
            return line_working(costing, recipe_id, line, path, name, None)
        if isinstance(line, Problem) and line.line == line_id:
            return Working(recipe_id, f"{path}/{name}", "not known yet", None, "", line.message)
    return None


@dataclass(frozen=True, slots=True)
class _Serving:
    """One serving; a method for each of its figures gives the unit, the formula in words and its inputs."""

    costing: Costing
    recipe_id: str
    portion: Portion
    sheet: SheetServing

    def path(self, name: str) -> str:
        return f"serving/{self.portion.serving.id}/{name}"

    def size(self) -> _Formula:
        unit = "ml" if self.portion.by_volume else "g"
        return unit, "as set", [Input("size", None, "", f"{self.portion.serving.size}, {_TYPED}")]

    def portions(self) -> _Formula:
        loss = self.costing.facts.settings.serving_loss
        batch = self.costing.balance(self.recipe_id)
        size_name = "size_ml" if self.portion.by_volume else "size_g"
        return "", "batch yield * (1 - serving loss) / size", [
            Input("batch yield", batch.mass, "g", "the batch", "batch/mass_g"),
            Input("serving loss", loss, "share", _SETTING),
            Input("size", self.portion.size_g, "g", f"{self.portion.serving.size}, {_TYPED}", self.path(size_name)),
        ]  # fmt: skip

    def whole_portions(self) -> _Formula:
        exact = Input("portions", self.sheet.portions, "", "this serving", self.path("portions"))
        return "", "portions, the part of one left off", [exact]

    def portions_input(self) -> Input:
        return Input("portions of a batch", self.sheet.portions, "", "this serving", self.path("portions"))

    def food_cost(self) -> _Formula:
        batch = self.costing.cost(self.recipe_id) * (1 + self.costing.allowance(self.costing.facts.recipes[self.recipe_id]))
        inputs = [
            Input("food cost of the batch", batch, "money", "with the seasoning allowance", "batch/food_cost"),
            self.portions_input(),
        ]
        inputs += [
            Input(f"{extra.name} ({extra.role})", extra.cost, "money", "with each portion", self.path(f"{extra.id}/cost"))
            for extra in self.sheet.extras
        ]  # fmt: skip
        return "money", "batch cost / portions" + (" + what is served with it" if self.sheet.extras else ""), inputs

    def time_inputs(self) -> list[Input]:
        minutes = self.costing.needs(self.recipe_id).minutes
        inputs = [
            Input("attended time of a batch", minutes, "min", "the stages", "batch/attended_minutes"),
            self.portions_input(),
        ]
        seconds = self.portion.serving.portioning_seconds
        if seconds:
            inputs.append(Input("portioning (seconds)", seconds, "", _TYPED))
        return inputs

    def labour(self) -> _Formula:
        rate = Input("labour rate per hour", self.costing.facts.settings.labour_rate_per_hour, "money", _SETTING)
        formula = "attended minutes / 60 * rate / portions + portioning at the same rate"
        return "money", formula, [*self.time_inputs(), rate]

    def overhead(self) -> _Formula:
        rate = Input("overhead rate per attended hour", self.costing.facts.settings.overhead_rate_per_hour, "money", _SETTING)
        formula = "attended minutes / 60 * rate / portions + portioning at the same rate"
        return "money", formula, [*self.time_inputs(), rate]

    def energy(self) -> _Formula:
        return "money", "energy of a batch / portions * price per kWh", [
            Input("energy of a batch (kWh)", self.costing.needs(self.recipe_id).energy, "", "the stages"),
            self.portions_input(),
            Input("price per kWh", self.costing.facts.settings.energy_price_per_kwh, "money", _SETTING),
        ]  # fmt: skip

    def net_price(self) -> _Formula:
        pricing = priced(self.costing, self.recipe_id, self.portion).pricing
        if pricing is None:
            return "money", "no pricing method chosen and no kitchen target set", []
        inputs = [Input("food cost of a portion", self.sheet.food_cost, "money", "this serving", self.path("food_cost"))]
        if needs_labour(pricing):
            inputs.append(Input("direct labour", self.sheet.labour_cost, "money", "this serving", self.path("labour_cost")))
        inputs += _pricing_inputs(pricing, self.portion.serving.pricing is not None)
        formula = in_words(pricing)
        if self.portion.serving.commission:
            formula = f"({formula}) / (1 - commission)"
            inputs.append(Input("channel commission", self.portion.serving.commission, "share", _TYPED))
        return "money", formula, inputs

    def suggested(self) -> _Formula:
        settings = self.costing.facts.settings
        ending = settings.price_ending
        inputs = [
            Input("price before tax", self.sheet.net_price, "money", "this serving", self.path("net_price")),
            Input("tax rate", settings.tax_rate, "share", _SETTING),
        ]
        if ending is None:
            return "money", "net price * (1 + tax rate)", inputs
        cents = " or ".join(map(str, ending.cents or ()))
        rule = f"a multiple of {ending.step}" if ending.step else f"an ending of {cents}"
        inputs.append(Input("price ending", ending.step, "", f"{rule}, {_SETTING}"))
        return "money", f"net price * (1 + tax rate), up to {rule}", inputs

    def price(self) -> _Formula:
        serving = self.portion.serving
        if serving.price is None:
            computed = Input(
                "computed price", self.sheet.suggested_price, "money", "this serving", self.path("suggested_price")
            )
            return "money", "no price is set: the computed one", [computed]
        on = f"set on {serving.price_set_on.isoformat()}" if serving.price_set_on else "set, no date noted"
        return "money", "the price that was set", [Input("set price", serving.price, "money", on)]

    def kept_inputs(self) -> list[Input]:
        inputs = [
            Input("food cost of a portion", self.sheet.food_cost, "money", "this serving", self.path("food_cost")),
            Input("price on the card", self.sheet.price, "money", "this serving", self.path("price")),
            Input("tax rate", self.costing.facts.settings.tax_rate, "share", _SETTING),
        ]
        if self.portion.serving.commission:
            inputs.append(Input("channel commission", self.portion.serving.commission, "share", _TYPED))
        return inputs

    def share(self) -> _Formula:
        return "share", "food cost / (price / (1 + tax rate) * (1 - commission))", self.kept_inputs()

    def contribution(self) -> _Formula:
        return "money", "price / (1 + tax rate) * (1 - commission) - food cost", self.kept_inputs()

    def target(self) -> _Formula:
        own = self.portion.serving.pricing is not None and self.portion.serving.pricing.method == "food_cost_share"
        return "share", "as set", [Input("target", self.sheet.target_share, "share", _TYPED if own else _SETTING)]


def _pricing_inputs(pricing: Pricing, own: bool) -> list[Input]:
    source = _TYPED if own else _SETTING
    named = {"share": "target share", "factor": "factor", "amount": "wanted contribution",
             "overhead_share": "overhead share", "profit_share": "profit share"}  # fmt: skip
    units = {"factor": "", "amount": "money"}
    return [
        Input(label, getattr(pricing, name), units.get(name, "share"), source)
        for name, label in named.items() if getattr(pricing, name) is not None
    ]  # fmt: skip


_FIGURES: dict[str, Callable[[_Serving], _Formula]] = {
    "size_ml": _Serving.size,
    "size_g": _Serving.size,
    "portions": _Serving.portions,
    "whole_portions": _Serving.whole_portions,
    "food_cost": _Serving.food_cost,
    "labour_cost": _Serving.labour,
    "energy_cost": _Serving.energy,
    "overhead_cost": _Serving.overhead,
    "net_price": _Serving.net_price,
    "suggested_price": _Serving.suggested,
    "price": _Serving.price,
    "food_cost_share": _Serving.share,
    "target_share": _Serving.target,
    "contribution": _Serving.contribution,
}


def _drift(costing: Costing, recipe_id: str, portion: Portion, path: str) -> Working | None:
    drift = drift_of(costing, recipe_id, portion, PriceMoves(costing))
    title = f"{portion.serving.name}: cost since the price was set"
    if drift is None:
        return Working(recipe_id, f"{path}/drift", title, None, "money", "the day on which the price was set is not noted")
    inputs = [
        Input(part.name, part.change, "money",
              f"{part.was_per_kg:.2f} a kilo then, {part.now_per_kg:.2f} now", f"item/{part.item}/price_per_kg")
        for part in drift.moved
    ]  # fmt: skip
    note = None
    if drift.unpriced:
        names = ", ".join(costing.facts.name_of(item) for item in drift.unpriced)
        note = f"No price on {drift.since.isoformat()}: {names}"
    formula = f"AP mass in a portion * change of price since {drift.since.isoformat()}, added up over what is bought"
    return Working(recipe_id, f"{path}/drift", title, drift.change, "money", formula, inputs, note)
