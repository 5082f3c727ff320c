"""What a cost sheet is made of: lines, stages, the batch, servings; as they are written, shown and tested."""

from __future__ import annotations

from typing import Literal

from potrel.core.errors import Caveat, Problem
from potrel.core.frozen import dataclass
from potrel.core.kitchen.kinds import Computed, Flag, On
from potrel.core.kitchen.pricing import PricingMethod
from potrel.core.kitchen.recipes import YieldBasis
from potrel.core.pot.done_when import Done
from potrel.core.rooms.diets import Verdict
from potrel.core.rooms.exchanges.exchange import Sort

EvaporationBy = Literal["stated", "surface", "rolling", "heat", "oven", "learned"]
Thickness = Literal["thin", "medium", "thick"]


@dataclass(frozen=True, slots=True)
class SheetLine:
    """A line: AP and EP masses [g] and cost [money]. A top-up has the id "top_up".

    `pot_g` is the thing itself after cooking; `up_g` what cooking it sends out of the pot, `stays_g` what it gives to the pot
    as juice, liquor or fat (below zero, what it drinks from it). It costs `at_least` so much where its own recipe lacks
    something. As an `exchange` it may be tried in other forms. `rough` says why its amount is, where it is.
    """

    stage: str
    id: str
    item: str | None
    recipe: str | None
    name: str
    ap_g: Computed | None
    ep_g: Computed | None
    pot_g: Computed | None
    cost: Computed | None
    up_g: Computed | None
    stays_g: Computed | None
    at_least: Flag
    exchange: Sort | None
    rough: str | None = None


@dataclass(frozen=True, slots=True)
class SheetTaken:
    """Something taken out of a stage: mass [g] and what it bears of the cost [money], negative where disposal is paid.

    Its value is not known where the value is missing by which the cost is shared.
    """

    name: str
    mass_g: Computed
    value: Computed | None


@dataclass(frozen=True, slots=True)
class SheetWay:
    """Where a part of what a stage hands on goes: a later stage, or nowhere (`stage` is None); its share, mass [g] and cost."""

    stage: str | None
    name: str
    share: Computed
    mass_g: Computed
    cost: Computed


@dataclass(frozen=True, slots=True)
class SheetStage:
    """A stage: masses [g] in, lost by its change (negative where water comes in), residue and out; cost passed on.

    `put_in_g` is what was put in, lines as prepared and inflows. Of that `cooked_g` went up as the lines cooked, which left
    `mass_in_g`; `stayed_g` is what the lines gave to the pot as juice, liquor and fat (negative where they drank from it).
    What goes up an hour [kg] is stated, or told by its vessel (then with its band); `minutes_needed` is how long a vessel
    takes to reduce it, `minutes_to_heat` to get it hot, `minutes_to_dry` to drive off what cooks out of the lines.
    `energy_lack` says what has to be said to know its energy [kWh]. It should come to `reckoned_g`, which reaches `dipstick_cm`
    in its vessel; where it was weighed, `came_out_g` counts, and gives `measured_kg_per_hour` back.
    """

    id: str
    put_in_g: Computed
    cooked_g: Computed
    mass_in_g: Computed
    changed_g: Computed
    residue_g: Computed
    mass_out_g: Computed
    taken_out: list[SheetTaken]
    cost: Computed
    stayed_g: Computed
    at_least: Flag
    evaporation_kg_per_hour: Computed | None
    evaporation_by: EvaporationBy | None
    evaporation_low: Computed | None
    evaporation_high: Computed | None
    minutes_needed: Computed | None
    minutes_to_heat: Computed | None
    minutes_to_dry: Computed | None
    energy_kwh: Computed | None
    energy_lack: str | None
    salt_share: Computed | None
    reckoned_g: Computed
    reckoned_ml: Computed
    came_out_g: Computed | None
    dipstick_cm: Computed | None
    measured_kg_per_hour: Computed | None
    done: Done | None
    goes_to: list[SheetWay]


@dataclass(frozen=True, slots=True)
class SheetLack:
    """An item (or recipe) of which some values are not known: those for which a sum cannot be told, and of those of which too
    little is in it to matter, `traces`, that count as none. `on_shelf` says that the shelf knows one of them.
    """

    item: str
    name: str
    lacks: list[str]
    traces: list[str]
    on_shelf: Flag


@dataclass(frozen=True, slots=True)
class SheetSums:
    """Of what all is not known of: the sum of what is [g, kcal], which is the least there can be; else None."""

    salt_g_at_least: Computed | None
    energy_kcal_at_least: Computed | None
    fat_g_at_least: Computed | None
    saturates_g_at_least: Computed | None
    carbohydrate_g_at_least: Computed | None
    sugars_g_at_least: Computed | None
    protein_g_at_least: Computed | None
    fibre_g_at_least: Computed | None
    alcohol_g_at_least: Computed | None


@dataclass(frozen=True, slots=True)
class SheetBatch(SheetSums):
    """The batch: its mass [g], volume [ml], food cost [money] with the seasoning allowance, and attended minutes.

    `basis` says which batch yield is in use; `computed_g`, `measured_g` and `written_g` show all. Of salt, alcohol and
    nutrients [g, kcal] a sum that lacks an item's value is not known, and `lacks` names the items; one without a strength
    thickens nothing.
    `thickness_g_per_l` is told as grams of flour in a white roux. Of the items `in_doubt` the stated energy is more than a
    tenth off that by the factors of EU Regulation 1169/2011, Annex XIV.
    """

    mass_g: Computed
    volume_ml: Computed
    food_cost: Computed
    cost_per_kg: Computed | None
    cost_per_l: Computed | None
    attended_minutes: Computed
    basis: YieldBasis
    computed_g: Computed
    measured_g: Computed | None
    written_g: Computed | None
    salt_g: Computed | None
    salt_share: Computed | None
    salt_to_add_g: Computed | None
    thickness_g_per_l: Computed | None
    thickness_class: Thickness | None
    thickness_at_least: Flag
    alcohol_g: Computed | None
    alcohol_share: Computed | None
    energy_kcal: Computed | None
    fat_g: Computed | None
    saturates_g: Computed | None
    carbohydrate_g: Computed | None
    sugars_g: Computed | None
    protein_g: Computed | None
    fibre_g: Computed | None
    energy_kwh: Computed | None
    lacks: list[SheetLack]
    in_doubt: list[str]


@dataclass(frozen=True, slots=True)
class SheetExtra:
    """A line costed per portion: garnish, accompaniment or packaging.

    `kept_g` is how much of it was kept of this very pot for each portion [g]; None for what was not. What is known by the
    piece only has `pieces` and no weight.
    """

    role: str
    id: str
    item: str | None
    recipe: str | None
    name: str
    ap_g: Computed | None
    ep_g: Computed | None
    cost: Computed | None
    kept_g: Computed | None
    pieces: Computed | None


@dataclass(frozen=True, slots=True)
class SheetHold:
    """What standing hot does to a batch: what it loses [g], with its band, and portions, salt and thickness at its end.

    To be as at the start it takes `lost_g` of water again. `too_many` tells that it takes more containers than there are.
    """

    kg_per_hour: Computed | None
    containers: Computed | None
    too_many: Flag
    lost_g: Computed | None
    lost_low_g: Computed | None
    lost_high_g: Computed | None
    portions_end: Computed | None
    salt_share_end: Computed | None
    thickness_end_g_per_l: Computed | None
    thickness_at_least: Flag
    lack: str | None


@dataclass(frozen=True, slots=True)
class SheetMethod:
    """A school of pricing: its price net of tax before the ending, the one on the card [money], and what follows from that."""

    method: PricingMethod
    net_price: Computed | None
    price: Computed | None
    food_cost_share: Computed | None
    gross_profit_share: Computed | None
    contribution: Computed | None


@dataclass(frozen=True, slots=True)
class SheetChannel:
    """A serving in a channel: the price there on the card, and what is kept of it, `net_price` [money]; what follows."""

    channel: str
    price: Computed | None
    net_price: Computed | None
    food_cost_share: Computed | None
    gross_profit_share: Computed | None
    contribution: Computed | None


@dataclass(frozen=True, slots=True)
class SheetServing(SheetSums):
    """A serving: portions, costs per portion, and price.

    `price` is the set price where there is one, else the computed one; `suggested_price` is always the computed one.
    Share and contribution follow from `price`.
    """

    id: str
    name: str
    size_ml: Computed | None
    size_g: Computed | None
    portions: Computed | None
    whole_portions: int | None
    food_cost: Computed | None
    labour_cost: Computed | None
    energy_cost: Computed | None
    overhead_cost: Computed | None
    net_price: Computed | None
    suggested_price: Computed | None
    price: Computed | None
    price_is_set: bool
    food_cost_share: Computed | None
    gross_profit_share: Computed | None
    target_share: Computed | None
    contribution: Computed | None
    extras: list[SheetExtra]
    salt_g: Computed | None
    salt_share: Computed | None
    alcohol_g: Computed | None
    energy_kcal: Computed | None
    fat_g: Computed | None
    saturates_g: Computed | None
    carbohydrate_g: Computed | None
    sugars_g: Computed | None
    protein_g: Computed | None
    fibre_g: Computed | None
    energy_by_factors_kcal: Computed | None
    food_cost_if_all_take_it: Computed | None
    lacks: list[SheetLack]
    hold: SheetHold | None
    methods: list[SheetMethod]
    channels: list[SheetChannel]


@dataclass(frozen=True, slots=True)
class CostSheet:
    """Everything the core knows about one recipe on a day. Where `complete` is false, its totals are lower bounds."""

    recipe: str
    name: str
    currency: str
    on: On
    complete: bool
    problems: list[Problem]
    lines: list[SheetLine]
    stages: list[SheetStage]
    batch: SheetBatch
    servings: list[SheetServing]
    allergens: list[str]
    warnings: list[Caveat]
    diets: list[Verdict]
