"""A sample of slips that a hand could make in the core, and the tests that have to notice each."""

from __future__ import annotations

from typing import NamedTuple

_POT, _COST = "tests.core.pot", "tests.core.cost"
_BALANCE, _COSTING, _PRICING = f"{_POT}.test_balance", f"{_COST}.test_costing", f"{_COST}.test_pricing"
_FORMULAS, _WORKINGS = "tests.core.numbers.test_formulas", "tests.core.tell.test_workings.EveryWorking.test_of_the_demo"
_HEAT, _CONTENT = f"{_POT}.test_heat", f"{_POT}.test_content"
_ROUNDING, _LOSSES = "tests.core.numbers.test_rounding", f"{_POT}.test_losses"
_BYPRODUCTS, _CHOICES = "tests.core.trim.test_byproducts", "tests.core.rooms.test_yield_choices"


class Slip(NamedTuple):
    """What is written otherwise in a file of the core, and the tests of which one has to fail then."""

    name: str
    file: str
    was: str
    becomes: str
    noticed_by: str


SAMPLE = (
    # -- masses
    Slip("residue is taken before the take-outs", "pot/changes.py",
         "return larger(left * 0, left) * residue_share", "return mass_after_the_change * residue_share", _BALANCE),
    Slip("reduced to what there is is refused", "pot/balance.py",
         "if self._mass_known() and exceeds(wanted, mass):", "if self._mass_known() and surely(wanted >= mass):", _BALANCE),
    Slip("a full pot is topped up without a word", "pot/balance.py",
         "if surely(mass >= wanted):", "if surely(mass > wanted):", _BALANCE),
    Slip("a vessel is filled up to its change only", "pot/balance.py",
         "vessel_notes(stage, lines, larger(mass_in, changed),", "vessel_notes(stage, lines, changed,", _BALANCE),
    Slip("a vessel is filled before it is topped up", "pot/balance.py",
         "vessel_notes(stage, lines, larger(mass_in, changed),", "vessel_notes(stage, lines, mass_in,", _BALANCE),
    Slip("a full vessel runs over", "pot/vessel_notes.py",
         "if not exceeds(fullest, holds):", "if fullest < holds:", _BALANCE),
    Slip("taking out all of it is too much", "pot/balance.py",
         "exceeds(total(masses), changed)", "surely(total(masses) >= changed)", _BALANCE),
    Slip("a share of an earlier stage is all of it", "pot/balance.py",
         "whole if inflow.share == 1 else whole * self.view.number(inflow.share)", "whole", _BALANCE),
    Slip("a braise's juice goes up in the air", "tables/methods.csv",
         "braise;braised;braising,pot", "braise;braised;braising,air", _LOSSES),
    Slip("a lid on a sweat changes nothing", "pot/losses.py", 'frozenset({"on", "sealed"})', 'frozenset({"tight"})', _LOSSES),
    Slip("the trim of a ready measure is taken twice", "pot/line_mass.py",
         'return "EP" if measure is not None and measure.basis == "EP" else line.basis', "return line.basis", _BALANCE),
    Slip("a pack is told in a measure of the ready thing", "buy/purchase.py",
         'if measure is not None and measure.basis == "EP":', "if False:", "tests.core.buy.test_purchase"),
    Slip("the cheapest of a supplier's own prices of a day holds", "buy/purchase.py",
         "of = last[price.offer.on, price.offer.supplier]", "of = price", "tests.core.buy.test_purchase"),
    Slip("another article's label counts as read", "rooms/labels.py",
         'return "changed"', 'return "none"', "tests.core.rooms.test_allergens"),
    Slip("a label that nobody read is one without allergens", "rooms/labels.py",
         'return "unchecked"', 'return "none"', "tests.core.rooms.test_allergens"),
    Slip("a part of a name is taken for it", "kitchen/naming.py",
         "if any(one not in describing for one in missing):", "if False:", "tests.core.pot.test_typed_line"),
    Slip("what renders goes up too", "pot/losses.py",
         "return lost - rendered * larger(lost, lost * 0)", "return lost", _LOSSES),
    Slip("what swells is thought to give fat", "pot/losses.py",
         "return lost - rendered * larger(lost, lost * 0)", "return lost - rendered * lost", _LOSSES),
    Slip("a measured yield waits for every mass", "pot/balance.py",
         "(self.recipe.use_measured_yield or self.mass_known)", "self.mass_known", _PRICING),
    # -- the pot in full
    Slip("a lid at the boil keeps the steam", "pot/evaporation.py",
         'return None if driven is None else Steaming(driven, "heat")',
         'return None if driven is None else Steaming(driven * lid_factor, "heat")', _HEAT),
    Slip("what flows in is warmed from the shelf", "pot/hob.py", "degrees.append(hot)", "degrees.append(shelf)", _HEAT),
    Slip("bones take salt along", "pot/content.py",
         'item.kind == "bones" for item in items', "False for item in items", _CONTENT),
    Slip("what is dry dilutes what is wet", "pot/content.py",
         "in zip(here.taken_out, dry, strict=True) if is_dry", "in zip(here.taken_out, dry, strict=True) if False", _CONTENT),
    Slip("alcohol is kept stage by stage", "pot/content.py", "minutes=one.minutes + (stage.minutes or ZERO)",
         "minutes=stage.minutes or ZERO", _CONTENT),
    Slip("what stays whole thickens", "pot/content.py", "return (zero, thick, line.own, unknown) if is_whole else",
         "return (thick, zero, line.own, unknown) if is_whole else", _CONTENT),
    Slip("soaked pulses feed by their water", "pot/content.py", "mass = mass * smaller(step.yield_, view.one)",
         "mass = mass * step.yield_", _CONTENT),
    Slip("nobody said is a yes", "rooms/diets.py", "elif not is_all or origin & diet.in_doubt", "elif origin & diet.in_doubt",
         "tests.core.rooms.test_diets"),
    Slip("a label that often hides something fits a diet unread", "rooms/diets.py", " or may_hold & diet.refuses", "",
         "tests.core.rooms.test_diets"),
    Slip("the next test is as sure as the mean", "numbers/spread.py", "(1 + 1 / self.count) ** 0.5", "1.0",
         "tests.reference.test_uncertainty"),
    Slip("a price stands still that nobody recorded anew", "buy/volatility.py",
         " or not _recorded(history, before, after)", "", "tests.core.cost.test_uncertainty"),
    Slip("each pot draws a thing anew", "cost/unsure.py", "seed_of(self.seed, *one.asked)", "seed_of(self.seed, id(one))",
         "tests.core.cost.test_uncertainty"),
    Slip("a moved batch steams more", "rooms/what_if.py", '_GROW = ("quantity", "taken_out", "measured_yield")',
         '_GROW = ("quantity", "taken_out", "measured_yield", "change")', "tests.core.rooms.test_what_if"),
    Slip("a loss takes its money along", "rooms/pot_flow.py", "mass, None, lost=True", "mass, mass, lost=True",
         "tests.core.rooms.test_pot_flow"),
    Slip("an exchange lets the batch grow", "rooms/exchanges/thickeners.py", "told_litres((grams - more) / 1000 / of)",
         "told_litres(grams / 1000 / of)", "tests.core.rooms.test_exchanges"),
    # -- trims and by-products
    Slip("chained preparations all cut what was bought", "trim/byproducts.py",
         "            done = _cut(done, mass, left, step, method, number)\n        mass = left",
         "            done = _cut(done, mass, left, step, method, number)\n        mass = mass", _BALANCE),
    Slip("disposal is not part of a joint cost", "trim/byproducts.py",
         "kept = tuple(one.times(shares[0]) if one.value_per_kg < 0 else one for one in made)",
         "kept = tuple(made)", _BYPRODUCTS),
    Slip("tests that agree name an outlier by a hair", "trim/own_tests.py",
         "max(statistics.median(abs(value - middle) for value in values), LEAST_SPREAD * _MAD_TO_SPREAD)",
         "max(statistics.median(abs(value - middle) for value in values), LEAST_SPREAD / 1000)", _CHOICES),
    Slip("what falls off is not rescaled to the blend", "rooms/yield_choices.py",
         "factor = (1 - yield_) / (1 - mean) if mean < 1 and yield_ < 1 else ONE", "factor = ONE", _CHOICES),
    Slip("own tests still to be done are own tests", "kitchen/provenance.py",
         "if source is None or _UNSURE.search(source):", "if source is None:", "tests.core.kitchen.test_provenance"),
    # -- money
    Slip("energy of a part is that of its whole batch", "pot/needs.py",
         "self.energy = self.energy + part.energy * factor", "self.energy = self.energy + part.energy", _PRICING),
    Slip("attended time of a part is that of its whole batch", "pot/needs.py",
         "self.minutes = self.minutes + part.minutes * factor", "self.minutes = self.minutes + part.minutes", _COSTING),
    Slip("of an item in the pot and beside it only the one moves", "cost/drift.py",
         "by_item[item] = by_item.get(item, ZERO) + changes[item] * mass", "by_item[item] = changes[item] * mass", _COSTING),
    Slip("of an item in the pot and beside it only the pot counts", "cost/effects.py",
         "need if beside is None else need + beside", "need", _COSTING),
    Slip("a price grows old a day early", "pot/day_view.py", "price.offer.on < oldest", "price.offer.on <= oldest", _COSTING),
    Slip("cost moved is told of today's cost", "rooms/board.py",
         "_MOVED * (portion.food_cost - drift.change)", "_MOVED * portion.food_cost", _COSTING),
    Slip("an offer ends a day early", "buy/purchase.py",
         "price.offer.until is None or day <= price.offer.until", "price.offer.until is None or day < price.offer.until",
         "tests.core.buy.test_purchase"),
    Slip("another supplier's price is taken without a word", "buy/purchase.py",
         "return replace(price, instead_of=self._preferred) if others else price", "return price",
         "tests.core.buy.test_purchase"),
    Slip("a price ending is decided on dust", "numbers/rounding.py",
         "return dustless(value).to_integral_value(ROUND_CEILING)", "return value.to_integral_value(ROUND_CEILING)",
         f"{_ROUNDING}.Soups"),
    Slip("whole portions are decided on dust", "numbers/rounding.py",
         "return dustless(value).to_integral_value(ROUND_FLOOR)", "return value.to_integral_value(ROUND_FLOOR)", _ROUNDING),
    Slip("a commission is taken off the cost", "cost/pricing/factor.py",
         "return food_cost * factor / (1 - commission)", "return food_cost * factor * (1 - commission)", _FORMULAS),
    # -- draws
    Slip("a rate of evaporation is not asked for by name", "pot/balance.py",
         "return changes.evaporated_by_rate(mass, self._asked(stage, stage.change.kg_per_hour * 1000), time)",
         "return changes.evaporated_by_rate(mass, self.view.number(stage.change.kg_per_hour * 1000), time)",
         f"{_COST}.test_draws"),
    Slip("what is kept for garnish is paid by the pot as well", "pot/needs.py",
         "_add(self.carried, item, mass * share)", "_add(self.carried, item, mass * 0)", f"{_COST}.test_kept_for_garnish"),
    Slip("grams are paid at the price of a piece", "pot/needs.py",
         "if line.byproduct is None and line.counted == self.view.counted_units().get(item):", "if line.byproduct is None:",
         f"{_COST}.test_by_the_piece"),
    Slip("what a recipe changed counts twice", "cost/drift.py",
         "return cost_now - total(purchases) - cost_then", "return cost_now - cost_then", f"{_COST}.test_earlier"),
    # -- what is told
    Slip("a working counts a handed-on share as the whole", "tell/stage_figures.py",
         "masses = ((inflow, self.by_id[inflow.stage].mass_out * inflow.share)",
         "masses = ((inflow, self.by_id[inflow.stage].mass_out)",
         _WORKINGS),
    Slip("a working of a line forgets its by-products", "tell/line_figures.py",
         "kilos_to_buy=self._kilos(), AP_price=price_input(self.costing, line.item or \"\"), credits=self._credits(),",
         "kilos_to_buy=self._kilos(), AP_price=price_input(self.costing, line.item or \"\"), credits=[],", _WORKINGS),
    Slip("a working of what is to buy leaves out a yield", "tell/line_figures.py",
         "return reckoned(usable_of, place, \"g\", AP=self.mass(\"ap_g\", \"to buy (AP)\", line.ap), yields=self.yields())",
         "return reckoned(usable_of, place, \"g\", AP=self.mass(\"ap_g\", \"to buy (AP)\", line.ap), yields=self.yields()[:1])",
         "tests.core.tell.test_workings"),
    Slip("a working says a formula that is not the figure's", "cost/portioning.py",
         '@formula("batch yield * (1 - serving loss) / size")', '@formula("batch yield / (1 - serving loss) / size")',
         _FORMULAS),
    Slip("a working of a price is that of another pack", "tell/item_figures.py",
         "count, inner = price.offer.pack.count, price.offer.pack.inner",
         "count, inner = price.offer.pack.count + 1, price.offer.pack.inner", _WORKINGS),
)  # fmt: skip
