"""The workings of a batch: its yield, its needs and what they cost, its time and energy."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence

from potrel.core.cost.costed_recipe import CostedRecipe, cost_of_pieces, priced_mass
from potrel.core.cost.costing import Costing
from potrel.core.cost.portion import seasoned
from potrel.core.frozen import dataclass
from potrel.core.kitchen.kinds import ZERO, plain
from potrel.core.kitchen.recipes import YieldBasis
from potrel.core.numbers.arithmetic import Number, total
from potrel.core.numbers.formula import Many, formula
from potrel.core.numbers.rounding import half_even
from potrel.core.pot.day_view import DayView
from potrel.core.pot.line_mass import LineMass
from potrel.core.pot.needs import CreditKey, Needs
from potrel.core.pot.prep_minutes import minutes_of_line
from potrel.core.tell.content_figures import BATCH_CONTENT, ContentFigures
from potrel.core.tell.figures import SETTING, TYPED, Figure, Input, Place, as_stated, in_kilos, percent, reckoned
from potrel.core.tell.item_figures import piece_input, price_input
from potrel.core.tell.line_figures import named
from potrel.core.trim.byproducts import worth

BATCH_FIGURES = (
    "mass_g", "volume_ml", "food_cost", "cost_per_kg", "cost_per_l", "attended_minutes", "computed_g", "measured_g",
    *BATCH_CONTENT,
)  # fmt: skip


@formula("mass / density")
def volume_of(mass: Number, density: Number) -> Number:
    """The volume [ml] of a mass [g] of something of a density [kg/l]."""
    return mass / density


@formula("food cost / kilos")
def cost_of_a_kilo(food_cost: Number, kilos: Number) -> Number:
    """What a kilo of the batch costs [money]."""
    return food_cost / kilos


@formula("food cost / kilos * density")
def cost_of_a_litre(food_cost: Number, kilos: Number, density: Number) -> Number:
    """What a litre of the batch costs [money]."""
    return food_cost / kilos * density


@formula("sum of purchases - sum of by-products")
def cost_of_needs(purchases: Many, by__products: Many) -> Number:
    """What the needs of a batch cost [money], before its seasoning."""
    return total(purchases) - total(by__products)


@formula("kilos needed * AP price")
def cost_of_need(kilos_needed: Number, AP_price: Number) -> Number:
    """What one purchase costs in a batch [money], through all recipes that it uses."""
    return kilos_needed * AP_price


@formula("sum of lines + sum of parts")
def added_up(lines: Many, parts: Many) -> Number:
    """What the lines take themselves, and what the recipes take that it uses, by the share of their batch that goes in."""
    return total(lines) + total(parts)


@dataclass(frozen=True, slots=True)
class BatchFigures:
    """The figures of the batch of one recipe."""

    costing: Costing
    one: CostedRecipe

    @property
    def view(self) -> DayView:
        return self.costing.view

    def of(self, names: list[str]) -> Figure | None:
        """A figure by its name; None for one that there is not."""
        match names:
            case [name] if name in _MAKERS:
                return _MAKERS[name](self)
            case [name] if name in BATCH_CONTENT:
                return ContentFigures(self.costing, self.one).of(name)
            case ["need", item, "cost"] if item in self.one.needs.borne:
                return self._need_cost(item)
            case ["need", item, "kilos"] if item in self.one.needs.borne:
                return self._need_kilos(item)
            case ["credit", number, *rest] if number.isdecimal() and 1 <= int(number) <= len(self.one.needs.credits):
                key = list(self.one.needs.credits)[int(number) - 1]
                if not rest:
                    return self._credit(key, f"credit/{number}")
                return self._credit_kilos(key, f"credit/{number}/kilos") if rest == ["kilos"] else None
        return None

    def place(self, name: str, words: str) -> Place:
        return Place(self.one.recipe.id, f"batch/{name}", f"{self.one.recipe.name}: {words}")

    # -- masses ----------------------------------------------------------------------------------------------------

    def mass(self) -> Figure:
        basis = self.one.balance.basis
        sources: Mapping[YieldBasis, str] = {
            "measured": self._measured_source(),
            "written": self._written_source(),
            "computed": "by the mass balance",
        }
        used = Input(basis, self.one.balance.mass, "g", sources[basis], f"batch/{basis}_g")
        words = f"the batch yield as {basis}"
        return reckoned(as_stated, self.place("mass_g", "batch yield"), "g", note=words, what_is_stated=used)

    def computed(self) -> Figure:
        stages = self.one.balance.stages
        last = f"stage/{stages[-1].stage.id}/mass_out_g" if stages else None
        out = Input("mass out of the last stage", self.one.balance.computed_mass, "g", "the last stage", last)
        return reckoned(as_stated, self.place("computed_g", "batch yield by the mass balance"), "g", what_is_stated=out)

    def measured(self) -> Figure:
        given = Input("measured", self.one.balance.measured_mass, "g", self._measured_source())
        return reckoned(as_stated, self.place("measured_g", "measured batch yield"), "g", what_is_stated=given)

    def written(self) -> Figure:
        given = Input("written", self.one.balance.written_mass, "g", self._written_source())
        return reckoned(as_stated, self.place("written_g", "batch yield as written"), "g", what_is_stated=given)

    def _written_source(self) -> str:
        written = self.one.recipe.written_yield
        return "the recipe does not say what it makes" if written is None else f"{written}, as the recipe is written"

    def _measured_source(self) -> str:
        measured = self.one.recipe.measured_yield
        return "not measured yet" if measured is None else f"{measured.quantity}, measured on {measured.on.isoformat()}"

    def _mass(self) -> Input:
        return Input("mass", self.one.balance.mass, "g", "the batch", "batch/mass_g")

    def _known_kilos(self) -> Input:
        mass = in_kilos(self._mass())
        return mass if self.one.balance.yield_known else Input("mass", None, "kg", "not known yet", "batch/mass_g")

    def _density(self) -> Input:
        return Input("density (kg per litre)", self.one.recipe.density, "", TYPED)

    def volume(self) -> Figure:
        place = self.place("volume_ml", "volume of the batch")
        return reckoned(volume_of, place, "ml", mass=self._mass(), density=self._density())

    # -- money -----------------------------------------------------------------------------------------------------

    def cost(self) -> Figure:
        needs, view = self.one.needs, self.view
        purchases = []
        for item, mass in needs.borne.items():
            unit, price = view.counted(item), view.prices().get(item)
            value = None if price is None else mass * price
            told = f"{plain(half_even(mass, 1))} g AP" if unit is None else f"{plain(half_even(mass, 2))} {unit}"
            source = f"{told} at today's price, through all recipes used"
            purchases.append(Input(view.name_of(item), value, "money", source, f"batch/need/{item}/cost", item=item))
        purchases.sort(key=_dearest_first)
        credits = [
            Input(key.name, worth(mass / 1000, key.value_per_kg), "money", f"of {view.name_of(key.of, key.of)}",
                  f"batch/credit/{number}")
            for number, (key, mass) in enumerate(needs.credits.items(), 1)
        ]  # fmt: skip
        place = self.place("cost", "food cost of the batch, before its seasoning")
        return reckoned(cost_of_needs, place, "money", purchases=purchases, by__products=credits)

    def food_cost(self) -> Figure:
        cost = Input("food cost, before seasoning", self.one.cost, "money", "what it takes, at today's prices", "batch/cost")
        return reckoned(
            seasoned, self.place("food_cost", "food cost of the batch"), "money", food_cost=cost,
            seasoning_allowance=allowance_input(self.one, self.view),
        )  # fmt: skip

    def _food_cost(self) -> Input:
        food = seasoned(self.one.cost, self.view.allowance(self.one.recipe))
        return Input("food cost of the batch", food, "money", "with the seasoning allowance", "batch/food_cost")

    def per_kg(self) -> Figure:
        place = self.place("cost_per_kg", "cost per kilo")
        return reckoned(cost_of_a_kilo, place, "money/kg", food_cost=self._food_cost(), kilos=self._known_kilos())

    def per_l(self) -> Figure:
        place = self.place("cost_per_l", "cost per litre")
        return reckoned(
            cost_of_a_litre, place, "money/l", food_cost=self._food_cost(), kilos=self._known_kilos(), density=self._density()
        )

    def _need_cost(self, item: str) -> Figure:
        if self.view.counted(item) is not None:
            return self._pieces_cost(item)
        kilos = Input("to buy (AP), through all recipes", self.one.needs.borne[item] / 1000, "kg", "the needs of the batch",
                      f"batch/need/{item}/kilos")  # fmt: skip
        place = self.place(f"need/{item}/cost", f"{self.view.name_of(item)}, what it costs in a batch")
        return reckoned(cost_of_need, place, "money", kilos_needed=kilos, AP_price=price_input(self.costing, item))

    def _pieces_cost(self, item: str) -> Figure:
        """What is known by the piece only, and used up by a batch."""
        unit = self.view.counted(item)
        pieces = Input(f"used up ({unit}), through all recipes", self.one.needs.borne[item], "", "the needs of the batch")
        place = self.place(f"need/{item}/cost", f"{self.view.name_of(item)}, what it costs in a batch")
        return reckoned(cost_of_pieces, place, "money", pieces=pieces, price_of_one=piece_input(self.costing, item))

    def _need_kilos(self, item: str) -> Figure:
        place = self.place(f"need/{item}/kilos", f"{self.view.name_of(item)}, how much a batch takes")
        lines = [
            Input(f"{named(line, self.view)}, {line.stage}", priced_mass(line) / 1000, "kg", "a line of its own",
                  f"line/{line.stage}/{line.id}/{'ap_g' if line.carried is None else 'borne_g'}")
            for line in self.one.balance.lines if line.recipe is None and line.item == item and _bears(line)
        ]  # fmt: skip
        lines += [
            Input(f"{named(line, self.view)}, used up by the batch", priced_mass(line) / 1000, "kg", "beside the pot")
            for line in self.one.balance.beside
            if isinstance(line, LineMass) and line.recipe is None and line.item == item and _bears(line)
        ]
        parts = self._parts(lambda needs: needs.borne.get(item), "kg", 1000, lambda _: f"batch/need/{item}/kilos")
        parts += self._rest(self.one.needs.borne[item], [*lines, *parts], "carried by what is taken out")
        return reckoned(added_up, place, "kg", lines=lines, parts=parts)

    def _rest(self, whole: Number, told: Sequence[Input], words: str) -> list[Input]:
        """What of a mass [g] is not told by some inputs [kg]: what by-products bear of the joint cost of a stage."""
        rest = whole / 1000 - total(one.value for one in told if one.value is not None)
        if abs(rest) <= abs(whole) / 10**15:
            return []
        return [Input(words, rest, "kg", "its part of the joint cost of a stage")]

    def _credit(self, key: CreditKey, path: str) -> Figure:
        place = self.place(path, f"{key.name}, what it is worth in a batch")
        mass = self.one.needs.credits[key]
        return reckoned(
            worth, place, "money",
            kilos=Input("kilos of it", mass / 1000, "kg", "through all recipes used", f"batch/{path}/kilos"),
            value_of_a_kilo=Input("a kilo is worth", key.value_per_kg, "money/kg", "stated where it falls off or is taken out"),
        )  # fmt: skip

    def _credit_kilos(self, key: CreditKey, path: str) -> Figure:
        own = self.one.balance
        lines = [
            Input(f"{named(line, self.view)}, {line.stage}", credit.mass / 1000, "kg", "falls off a line",
                  f"line/{line.stage}/{line.id}/fallen_{number}" if line.byproduct is None else None)
            for line in own.lines if line.item == key.of and line.recipe is None
            for number, credit in enumerate(line.credits, 1)
            if (credit.name, credit.value_per_kg) == (key.name, key.value_per_kg)
        ]  # fmt: skip
        lines += [
            Input(here.stage.name or here.stage.id, taken.mass / 1000, "kg", "taken out of a stage",
                  f"stage/{here.stage.id}/taken_{number}_mass_g")
            for here in own.stages if self.one.recipe.id == key.of
            for number, taken in enumerate(here.taken_out, 1)
            if (taken.take_out.name, taken.take_out.value_per_kg) == (key.name, key.value_per_kg)
        ]  # fmt: skip

        def there(recipe_id: str) -> str:
            return f"batch/credit/{list(self.costing.of(recipe_id).needs.credits).index(key) + 1}/kilos"

        parts = self._parts(lambda needs: needs.credits.get(key), "kg", 1000, there)
        parts += self._rest(self.one.needs.credits[key], [*lines, *parts], "borne by what is taken out")
        return reckoned(added_up, self.place(path, f"{key.name}, how much of it"), "kg", lines=lines, parts=parts)

    # -- time and energy -------------------------------------------------------------------------------------------

    def minutes(self) -> Figure:
        stages = [
            Input(stage.name or stage.id, stage.attended_minutes, "min", TYPED)
            for stage in self.one.recipe.stages if stage.attended_minutes != 0
        ]  # fmt: skip
        stages += [
            Input(f"cleaning: {self.view.vessels[here.stage.vessel or ''].name}", here.cleanup, "min", "noted with the vessel")
            for here in self.one.balance.stages if here.cleanup != 0
        ]  # fmt: skip
        stages += [
            Input(f"preparing: {named(line, self.view)}", minutes_of_line(line, self.view), "min", "minutes a kilo, noted")
            for line in self.one.balance.lines if self.one.recipe.prep_minutes and minutes_of_line(line, self.view) != 0
        ]  # fmt: skip
        place = self.place("attended_minutes", "attended time")
        parts = self._parts(lambda needs: needs.minutes, "min", 1, lambda _: "batch/attended_minutes")
        return reckoned(added_up, place, "min", lines=stages, parts=parts)

    def energy(self) -> Figure:
        stages = [
            Input(here.stage.name or here.stage.id, here.energy, "kWh",
                  TYPED if here.stage.energy_kwh is not None else "by its heat", f"stage/{here.stage.id}/energy_kwh")
            for here in self.one.balance.stages if here.energy is not None
        ]  # fmt: skip
        parts = self._parts(lambda needs: needs.energy, "kWh", 1, lambda _: "batch/energy_kwh")
        return reckoned(added_up, self.place("energy_kwh", "energy of the batch"), "kWh", lines=stages, parts=parts)

    def _parts(self, of: Callable[[Needs], Number | None], unit: str, scale: int, figure: Callable[[str], str]) -> list[Input]:
        """What the recipes take that it uses, each by the share of its batch that goes in."""
        beside = [line for line in self.one.balance.beside if isinstance(line, LineMass)]
        used = (line for line in (*self.one.balance.lines, *beside) if line.recipe is not None and line.known)
        parts = (_part(self.costing, line, of, unit, scale, figure) for line in used)
        return [one for one in parts if one is not None]


def part_of(costing: Costing, line: LineMass, item: str) -> Iterator[Input]:
    """What a line that is a recipe takes of a purchase [kg]; nothing where it takes none."""
    found = _part(costing, line, lambda needs: needs.borne.get(item), "kg", 1000, lambda _: f"batch/need/{item}/kilos")
    if found is not None:
        yield found


def _part(
    costing: Costing, line: LineMass, of: Callable[[Needs], Number | None], unit: str, scale: int, figure: Callable[[str], str]
) -> Input | None:
    """What a line that is a recipe takes of its needs, by the share of the batch that goes in; None where it takes none."""
    part = costing.of(line.recipe or "")
    needs, mass = (part.needs, part.mass) if line.byproduct is None else part.taken[line.byproduct]
    whole = of(needs)
    if whole is None or whole == 0 or mass == 0:
        return None
    share = line.ep / mass
    leads_to = figure(part.recipe.id) if line.byproduct is None else None
    words = f"{percent(half_even(share, 3))} of {'its batch' if line.byproduct is None else 'all that is taken out'}"
    return Input(named(line, costing.view), whole * share / scale, unit, words, leads_to, line.recipe, share=share)


def allowance_input(one: CostedRecipe, view: DayView) -> Input:
    """The seasoning allowance of a recipe, as an input of a formula."""
    source = "set in the recipe" if one.recipe.seasoning_allowance is not None else SETTING
    return Input("seasoning allowance", view.allowance(one.recipe), "share", source)


def _bears(line: LineMass) -> bool:
    return line.known and (line.byproduct is None or line.carried is not None)


def _dearest_first(one: Input) -> Number:
    return ZERO if one.value is None else -one.value


_MAKERS: Mapping[str, Callable[[BatchFigures], Figure]] = {
    "mass_g": BatchFigures.mass,
    "computed_g": BatchFigures.computed,
    "measured_g": BatchFigures.measured,
    "written_g": BatchFigures.written,
    "volume_ml": BatchFigures.volume,
    "cost": BatchFigures.cost,
    "food_cost": BatchFigures.food_cost,
    "cost_per_kg": BatchFigures.per_kg,
    "cost_per_l": BatchFigures.per_l,
    "attended_minutes": BatchFigures.minutes,
    "energy_kwh": BatchFigures.energy,
}
