"""The workings of a pot: its lines, its stages and its batch."""

from __future__ import annotations

from decimal import Decimal

from potrel.core.balance import TOP_UP, Balance, LineMass, StageMass
from potrel.core.costing import Costing
from potrel.core.fields import ZERO, plain
from potrel.core.kitchen import ByproductMethod, Item, Stage
from potrel.core.sheet import SheetStage, StageMoney, named, sheet_of, stage_money
from potrel.core.working import Input, Working, price_input, share_input

_THOUSAND = Decimal(1000)
_TYPED = "typed in the recipe"
_MEASURED = "weighed in this kitchen"
_BORNE: dict[ByproductMethod, str] = {
    "credit": "credited there at the same value",
    "main_bears_all": "the main product bears all the cost",
    "market_value": "its part of the cost by mass * value",
    "mass": "its part of the cost by mass",
}


def explain_line(costing: Costing, recipe_id: str, stage_id: str, line_id: str, name: str) -> Working | None:
    """The working of a line of a stage."""
    lines = costing.balance(recipe_id).lines
    line = next((one for one in lines if one.stage == stage_id and one.id == line_id), None)
    if line is None:
        return None
    stage = next(one for one in costing.facts.recipes[recipe_id].stages if one.id == stage_id)
    return line_working(costing, recipe_id, line, f"line/{stage_id}/{line_id}", name, stage)


def line_working(costing: Costing, recipe_id: str, line: LineMass, path: str, name: str, stage: Stage | None) -> Working | None:
    """The working of one figure of a line: `ap_g`, `ep_g`, `pot_g` or `cost`."""
    label = named(line, costing.facts)
    if name == "cost":
        return _line_cost(costing, recipe_id, line, path, label)
    if name not in ("ap_g", "ep_g", "pot_g"):
        return None
    value = {"ap_g": line.ap, "ep_g": line.ep, "pot_g": line.pot}[name] if line.known else None
    words = {"ap_g": "to buy (AP)", "ep_g": "in the pot (EP)", "pot_g": "after cooking"}[name]
    formula, inputs = _mass_formula(costing, line, path, name, stage)
    return Working(recipe_id, f"{path}/{name}", f"{label}: {words}", value, "g", formula, inputs)


def _mass_formula(costing: Costing, line: LineMass, path: str, name: str, stage: Stage | None) -> tuple[str, list[Input]]:
    if name == "pot_g":
        inputs = [Input("in the pot (EP)", line.ep, "g", "the line's own figure", f"{path}/ep_g"), _cook(costing, line, stage)]
        return "EP * cooking yield", inputs
    typed_basis = line.line.basis if line.line else "EP"
    if line.byproduct is not None:
        text = line.line.quantity if line.line else ""
        if name == "ap_g":
            return "nothing is bought: it is left over elsewhere", []
        return "quantity as a mass", [Input(f'"{text}"', line.ep, "g", _TYPED)]
    basis = "ap_g" if typed_basis == "AP" else "ep_g"
    if name == basis:
        return _typed_formula(costing, line, stage)
    other = Input(
        "to buy (AP)" if name == "ep_g" else "in the pot (EP)", line.ap if name == "ep_g" else line.ep, "g",
        "the line's own figure", f"{path}/{'ap_g' if name == 'ep_g' else 'ep_g'}",
    )  # fmt: skip
    return ("AP * yield" if name == "ep_g" else "EP / yield"), [other, *_yields(costing, line, stage)]


def _typed_formula(costing: Costing, line: LineMass, stage: Stage | None) -> tuple[str, list[Input]]:
    if line.line is None:
        change = stage.change.to if stage else None
        return f"what is missing to {change}", [Input("topped up to", None, "", f"{change}, {_TYPED}")]
    text = line.line.quantity
    if line.recipe is not None:
        recipe = costing.facts.recipes[line.recipe]
        return "quantity as a mass", [
            Input(f'"{text}"', line.ap, "g", _TYPED),
            Input("density of the recipe (kg per litre)", recipe.density, "", f"recipe {recipe.name}"),
        ]
    item = costing.facts.items[line.item or ""]
    grams = costing.facts.grams(item, text) if line.known else None
    return "quantity as a mass", [Input(f'"{text}"', grams, "g", f"{_TYPED}; {_how_weighed(item, text)}")]


def _how_weighed(item: Item, text: str) -> str:
    from potrel.core.quantities import parse_quantity
    from potrel.core.units import canonical

    quantity = parse_quantity(text)
    for unit, mass in item.measures.items():
        if canonical(unit) == quantity.unit:
            return f"1 {unit} of {item.name} weighs {mass}, {_MEASURED}"
    if quantity.kind == "volume" and item.density is not None:
        return f"{item.name} weighs {plain(item.density)} kg per litre"
    return "a weight needs no conversion" if quantity.kind == "mass" else f"{item.name} has no weight for it yet"


def _yields(costing: Costing, line: LineMass, stage: Stage | None) -> list[Input]:
    item = costing.facts.items.get(line.item or "")
    wanted = line.line.preparations if line.line else ()
    if line.line is None and stage is not None and stage.change.with_ is not None:
        wanted = stage.change.with_.preparations
    inputs: list[Input] = []
    for preparation_id in wanted if item is not None else ():
        step = costing.facts.preparation(item, preparation_id) if item else None
        if step is not None:
            inputs.append(Input(f"yield, {step.name}", step.yield_, "share", step.source or "no source given"))
    return inputs or [Input("yield", Decimal(1), "share", "no preparation: nothing is lost")]


def _cook(costing: Costing, line: LineMass, stage: Stage | None) -> Input:
    item = costing.facts.items.get(line.item or "")
    if line.line is not None and line.line.cook_yield is not None:
        source = "the line's own"
    else:
        cooking = costing.facts.cooking(item, stage.method if stage else None) if item else None
        source = f"{cooking.method}: {cooking.source or 'no source given'}" if cooking else "nothing lost by itself here"
    return Input("cooking yield", Decimal(1) if line.cook_yield is None else line.cook_yield, "share", source)


def _line_cost(costing: Costing, recipe_id: str, line: LineMass, path: str, label: str) -> Working:
    value = costing.line_cost(line)
    if line.byproduct is not None:
        return _byproduct_cost(costing, recipe_id, line, path, label)
    ap = Input("to buy (AP)", line.ap if line.known else None, "g", "the line's own figure", f"{path}/ap_g")
    if line.recipe is not None:
        per_gram = costing.cost_per_gram(line.recipe)
        sub = costing.facts.name_of(None, line.recipe)
        inputs = [
            Input("in the pot", line.ap if line.known else None, "g", "the line's own figure", f"{path}/ap_g"),
            Input(f"batch cost of {sub}, before seasoning", costing.cost(line.recipe), "money", f"recipe {sub}",
                  "batch/food_cost", line.recipe),
            Input(f"batch yield of {sub}", None if per_gram is None else costing.balance(line.recipe).mass, "g",
                  f"recipe {sub}", "batch/mass_g", line.recipe),
        ]  # fmt: skip
        return Working(recipe_id, f"{path}/cost", f"{label}: cost", value, "money", "mass * batch cost / batch yield", inputs)
    inputs = [ap, price_input(costing, line.item or "")]
    if line.carried is not None:
        share = ZERO if line.ap == 0 else 1 - line.carried / line.ap
        inputs.append(share_input(share, costing.facts.byproduct_method(costing.facts.items[line.item or ""]), line.lack))
    inputs += _credit_inputs(line)
    formula = "AP * AP price" + (" * share that it bears" if line.carried is not None else "")
    formula += " - value of by-products" if line.credits else ""
    return Working(recipe_id, f"{path}/cost", f"{label}: cost", value, "money", formula, inputs)


def _credit_inputs(line: LineMass) -> list[Input]:
    inputs = []
    for credit in line.credits:
        source = f"{plain(round(credit.mass, 1))} g at {plain(credit.value_per_kg)} per kg"
        inputs.append(
            Input(f"less {credit.name}", credit.worth, "money", source + (f", for {credit.use}" if credit.use else ""))
        )
    return inputs


def _byproduct_cost(costing: Costing, recipe_id: str, line: LineMass, path: str, label: str) -> Working:
    """What a by-product costs where it is used: what it bears where it falls off or is taken out, per kilo."""
    value = costing.line_cost(line)
    known = value is not None and line.ep != 0
    per_kg = value / line.ep * _THOUSAND if known and value is not None else None
    origin = costing.facts.name_of(line.item, line.recipe)
    method = costing.facts.settings.byproduct_method
    if line.item is not None:
        method = costing.facts.byproduct_method(costing.facts.items[line.item])
    words = _BORNE[method]
    inputs = [
        Input("mass", line.ep if line.known else None, "g", "the line's own figure", f"{path}/ep_g"),
        Input(f"a kilo of {line.byproduct}", per_kg, "money/kg", f"from {origin}; {words}"),
    ]
    formula = "mass * what a kilo of it bears"
    return Working(recipe_id, f"{path}/cost", f"{label}: cost", value, "money", formula, inputs)


def explain_stage(costing: Costing, recipe_id: str, stage_id: str, name: str) -> Working | None:
    """The working of a figure of a stage."""
    balance = costing.balance(recipe_id)
    here = next((one for one in balance.stages if one.stage.id == stage_id), None)
    if here is None:
        return None
    sheets = {one.id: one for one in sheet_of(costing, recipe_id).stages}
    sheet = sheets[stage_id]
    title, path = here.stage.name or here.stage.id, f"stage/{stage_id}"
    if name.startswith("taken_"):
        return _taken(costing, recipe_id, here, path, name)
    if name == "cost":
        return _stage_cost(costing, recipe_id, balance, here, sheets, path)
    inputs_of = {
        "put_in_g": ("everything put in", "sum of the lines as prepared, and of what earlier stages hand on",
                     _put_in(costing, balance, here, "ep_g")),
        "mass_in_g": ("mass in", "sum of the lines after their cooking yields, and of what earlier stages hand on",
                      _put_in(costing, balance, here, "pot_g")),
        "cooked_g": ("lost in cooking by the lines", "everything put in - mass in",
                     [Input("everything put in", sheet.put_in_g, "g", "this stage", f"{path}/put_in_g"),
                      Input("mass in", sheet.mass_in_g, "g", "this stage", f"{path}/mass_in_g")]),
        "changed_g": ("lost (or, below zero, added) by the change", *_change(here, path)),
        "residue_g": ("left on the vessel", "(mass after the change - taken out) * residue share",
                      [_changed_input(here, path), *_taken_inputs(here, path),
                       Input("residue", here.stage.residue, "share", _TYPED)]),
        "mass_out_g": ("mass out", "mass in - lost by the change - taken out - residue",
                       [Input("mass in", here.mass_in, "g", "this stage", f"{path}/mass_in_g"),
                        Input("lost by the change", here.mass_in - here.changed, "g", "this stage", f"{path}/changed_g"),
                        *_taken_inputs(here, path),
                        Input("residue", here.residue, "g", "this stage", f"{path}/residue_g")]),
    }  # fmt: skip
    if name not in inputs_of:
        return None
    words, formula, inputs = inputs_of[name]
    return Working(recipe_id, f"{path}/{name}", f"{title}: {words}", getattr(sheet, name), "g", formula, inputs)


def _put_in(costing: Costing, balance: Balance, here: StageMass, name: str) -> list[Input]:
    stage = here.stage
    inputs = [
        Input(named(line, costing.facts), line.ep if name == "ep_g" else line.pot, "g",
              "a line of this stage" if line.known else "weight not known", f"line/{stage.id}/{line.id}/{name}")
        for line in balance.lines if line.stage == stage.id and line.id != TOP_UP
    ]  # fmt: skip
    by_id = {one.stage.id: one for one in balance.stages}
    for inflow in stage.from_:
        source = by_id[inflow.stage]
        label = source.stage.name or inflow.stage
        share = "" if inflow.share == 1 else f" ({plain(100 * inflow.share)}% of it)"
        mass = source.mass_out * inflow.share
        inputs.append(Input(f"from {label}{share}", mass, "g", "an earlier stage", f"stage/{inflow.stage}/mass_out_g"))
    return inputs


def _change(here: StageMass, path: str) -> tuple[str, list[Input]]:
    stage, change = here.stage, here.stage.change
    mass_in = Input("mass in", here.mass_in, "g", "this stage", f"{path}/mass_in_g")
    minutes = Input("time", stage.minutes, "min", _TYPED)
    match change.rule:
        case "keep":
            return "nothing changes", [mass_in]
        case "yield":
            return "mass in * (1 - yield)", [mass_in, Input("yield", change.yield_, "share", _TYPED)]
        case "reduce":
            to = Input("reduced to", here.changed, "g", f"{change.to}, {_TYPED}")
            return "mass in - mass reduced to", [mass_in, to]
        case "top_up":
            wanted = Input("topped up to", here.changed, "g", f"{change.to}, {_TYPED}")
            return "mass in - mass topped up to", [mass_in, wanted]
        case "evaporate" if change.per_hour is not None:
            rate = Input("evaporates per hour", change.per_hour, "share", _TYPED)
            return "mass in * share per hour * hours, at most all", [mass_in, rate, minutes]
        case _:
            rate = Input("evaporates per hour (kg)", change.kg_per_hour, "", _TYPED)
            return "kilos per hour * hours, at most all", [rate, minutes, mass_in]


def _changed_input(here: StageMass, path: str) -> Input:
    return Input("mass after the change", here.changed, "g", "this stage", f"{path}/changed_g")


def _taken_inputs(here: StageMass, path: str) -> list[Input]:
    return [
        Input(f"taken out: {taken.take_out.name}", taken.mass, "g", "this stage", f"{path}/taken_{place}_mass_g")
        for place, taken in enumerate(here.taken_out, 1)
    ]


def _taken(costing: Costing, recipe_id: str, here: StageMass, path: str, name: str) -> Working | None:
    for place, taken in enumerate(here.taken_out, 1):
        out = taken.take_out
        if name == f"taken_{place}_mass_g":
            if out.mass is not None:
                formula, inputs = "as given", [Input("mass", taken.mass, "g", f"{out.mass}, {_TYPED}")]
            else:
                lines = ", ".join(out.of)
                formula = "EP of those lines (by the shares they came through) * spent factor"
                inputs = [
                    Input("of the lines", None, "", lines),
                    Input("spent factor", out.spent_factor, "share", _TYPED),
                ]
            return Working(recipe_id, f"{path}/{name}", f"{out.name}: taken out", taken.mass, "g", formula, inputs)
        if name == f"taken_{place}_value":
            return _taken_value(costing, recipe_id, here, path, place)
    return None


def _taken_value(costing: Costing, recipe_id: str, here: StageMass, path: str, place: int) -> Working:
    """What something taken out bears of a stage's cost, by the kitchen's method."""
    taken, method = here.taken_out[place - 1], costing.facts.settings.byproduct_method
    out, money = taken.take_out, _money_of(costing, recipe_id, here)
    mass = Input("mass", taken.mass, "g", "this stage", f"{path}/taken_{place}_mass_g")
    worth = Input("value per kilo", out.value_per_kg, "money/kg", out.use or _TYPED)
    if method == "credit" or out.value_per_kg <= 0:
        formula, inputs = "mass * value per kilo", [mass, worth]
    elif method == "main_bears_all":
        formula, inputs = "values count 0: the main product bears all", [mass, worth]
    else:
        paid = sum((min(value, ZERO) for value in money.taken), ZERO)
        formula = "cost of the stage, disposal included * its part by mass" + (" * value" if method == "market_value" else "")
        going_on = Input("what goes on", here.mass_out, "g", "this stage", f"{path}/mass_out_g")
        inputs = [
            Input("cost of the stage", money.joint - paid, "money", "lines and inflows, and paid disposal"),
            mass,
            going_on,
        ]
        if method == "market_value":
            per_kg = here.stage.value_per_kg
            inputs += [worth, Input("value of a kilo of what goes on", per_kg, "money/kg", _TYPED)]
    return Working(
        recipe_id, f"{path}/taken_{place}_value", f"{out.name}: value", money.taken[place - 1], "money", formula, inputs
    )


def _money_of(costing: Costing, recipe_id: str, here: StageMass) -> StageMoney:
    stages = costing.balance(recipe_id).stages
    return next(money for one, money in zip(stages, stage_money(costing, recipe_id), strict=True) if one is here)


def _stage_cost(
    costing: Costing, recipe_id: str, balance: Balance, here: StageMass, sheets: dict[str, SheetStage], path: str
) -> Working:
    stage = here.stage
    inputs = [
        Input(named(line, costing.facts), costing.line_cost(line), "money",
              "a line of this stage", f"line/{stage.id}/{line.id}/cost")
        for line in balance.lines if line.stage == stage.id
    ]  # fmt: skip
    for inflow in stage.from_:
        cost = sheets[inflow.stage].cost * inflow.share
        inputs.append(Input(f"from {inflow.stage}", cost, "money", "an earlier stage", f"stage/{inflow.stage}/cost"))
    taken_values = _money_of(costing, recipe_id, here).taken
    for place, (taken, value) in enumerate(zip(here.taken_out, taken_values, strict=True), 1):
        inputs.append(Input(f"less {taken.take_out.name}", value, "money", "taken out", f"{path}/taken_{place}_value"))
    if here is balance.stages[-1]:
        for other in balance.stages[:-1]:
            if other.left_over:
                left = sheets[other.stage.id].cost * other.left_over
                inputs.append(Input(f"left over in {other.stage.id}", left, "money", "its cost stays with the batch"))
    title = f"{stage.name or stage.id}: cost passed on"
    formula = "sum of the lines and of what earlier stages hand on - value of what is taken out"
    return Working(recipe_id, f"{path}/cost", title, sheets[stage.id].cost, "money", formula, inputs)


def explain_batch(costing: Costing, recipe_id: str, name: str) -> Working | None:
    """The working of a figure of the batch."""
    sheet = sheet_of(costing, recipe_id).batch
    balance, recipe = costing.balance(recipe_id), costing.facts.recipes[recipe_id]
    mass = Input("batch yield", sheet.mass_g, "g", f"{sheet.basis} batch yield", "batch/mass_g")
    density = Input("density (kg per litre)", recipe.density, "", "the recipe")
    food = Input("food cost of the batch", sheet.food_cost, "money", "with the seasoning allowance", "batch/food_cost")
    last = balance.stages[-1].stage.id if balance.stages else ""
    computed = Input("mass balance", sheet.computed_g, "g", "what the last stage gives", f"stage/{last}/mass_out_g")
    measured = Input("measured", sheet.measured_g, "g", _measured_source(costing, recipe_id))
    own = "the recipe's own" if recipe.seasoning_allowance is not None else "kitchen setting"
    allowance = Input("seasoning allowance", costing.allowance(recipe), "share", own)
    table: dict[str, tuple[str, str, str, list[Input]]] = {
        "mass_g": ("batch yield", "g", f"the {sheet.basis} batch yield", [measured if sheet.basis == "measured" else computed]),
        "computed_g": ("batch yield by the mass balance", "g", "mass out of the last stage", [computed]),
        "measured_g": ("measured batch yield", "g", "as measured", [measured]),
        "volume_ml": ("volume of the batch", "ml", "mass / density", [mass, density]),
        "food_cost": ("food cost of the batch", "money", "sum of all needs at their prices, credits off * (1 + allowance)",
                      [*_needs_inputs(costing, recipe_id), allowance]),
        "cost_per_kg": ("cost per kilo", "money/kg", "food cost / mass", [food, mass]),
        "cost_per_l": ("cost per litre", "money/l", "food cost / mass * density", [food, mass, density]),
        "attended_minutes": ("attended time", "min", "sum of the stages, and of each recipe used by its share",
                             _minutes(costing, recipe_id)),
    }  # fmt: skip
    if name not in table:
        return None
    title, unit, formula, inputs = table[name]
    title = f"{recipe.name}: {title}"
    return Working(recipe_id, f"batch/{name}", title, getattr(sheet, name), unit, formula, inputs)


def _measured_source(costing: Costing, recipe_id: str) -> str:
    measured = costing.facts.recipes[recipe_id].measured_yield
    return "not measured yet" if measured is None else f"{measured.quantity}, measured on {measured.on.isoformat()}"


def _needs_inputs(costing: Costing, recipe_id: str) -> list[Input]:
    needs = costing.needs(recipe_id)
    inputs = []
    for item, mass in needs.borne.items():
        per_gram = costing.per_gram(item)
        source = f"{plain(round(mass, 1))} g AP at today's price, through all recipes used"
        value = None if per_gram is None else mass * per_gram
        inputs.append(Input(costing.facts.name_of(item), value, "money", source, f"item/{item}/price_per_kg"))
    inputs.sort(key=lambda one: -(one.value or ZERO))
    credit = needs.credit_value()
    if credit:
        inputs.append(Input("less by-products", credit, "money", ", ".join(key.name for key in needs.credits)))
    return inputs


def _minutes(costing: Costing, recipe_id: str) -> list[Input]:
    recipe = costing.facts.recipes[recipe_id]
    inputs = [Input(stage.name or stage.id, stage.attended_minutes, "min", _TYPED) for stage in recipe.stages]
    for line in costing.balance(recipe_id).lines:
        if line.recipe is not None and costing.mass_known(line.recipe):
            share = line.ap / costing.balance(line.recipe).mass
            minutes = costing.needs(line.recipe).minutes * share
            label = costing.facts.name_of(None, line.recipe)
            inputs.append(Input(label, minutes, "min", f"{plain(round(100 * share, 1))}% of its batch",
                                "batch/attended_minutes", line.recipe))  # fmt: skip
    return inputs
