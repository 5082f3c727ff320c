"""The whole pot as a flow, from what is bought to the portions: in mass and in money, nothing lost on the way untold.

What comes to a node leaves it, exactly, but where the flow begins and ends. A loss takes mass and no money: what is left of a
cost goes on with what is left of the pot.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import field
from typing import Literal

from potrel.core.cost.costed_recipe import CostedRecipe
from potrel.core.cost.costing import Costing
from potrel.core.cost.portion import Portion
from potrel.core.cost.portioning import handed_out, kept_masses
from potrel.core.errors import BadDocument
from potrel.core.frozen import dataclass
from potrel.core.kitchen.kinds import Computed, Flag, Id, Name
from potrel.core.numbers.arithmetic import Number, larger, surely, total
from potrel.core.pot.balance import StageMass
from potrel.core.pot.day_view import DayView
from potrel.core.pot.heat import is_heated
from potrel.core.pot.line_mass import LineMass
from potrel.core.pot.needs import Flow
from potrel.core.sentences import say

NodeKind = Literal["bought", "prepared", "stage", "loss", "taken_out", "gained", "credit", "batch", "serving"]
BATCH = "batch"


@dataclass(frozen=True, slots=True)
class Node:
    """A place that the flow passes: what it is, and what is to be read there (see the workings)."""

    id: str
    name: Name
    kind: NodeKind
    figure: str


@dataclass(frozen=True, slots=True)
class Link:
    """What goes from one node to the next: mass [g] and money; None where that carries none."""

    source: str
    target: str
    mass_g: Computed | None
    cost: Computed | None
    lost: Flag = False


@dataclass(frozen=True, slots=True)
class PotFlow:
    """A pot as a flow to one of its servings, else to its batch. `lack` says what keeps it from being drawn."""

    nodes: list[Node]
    links: list[Link]
    serving: Id | None
    lack: str | None


def pot_flow(costing: Costing, recipe_id: str, serving: str | None = None) -> PotFlow:
    """The flow of a recipe to a serving, the first where none is named. BadDocument where it has none such."""
    one = costing.of(recipe_id)
    portion = one.portion(serving) if serving is not None else one.portions[0] if one.portions else None
    if serving is not None and portion is None:
        raise BadDocument("serving", say("no_such_serving", 'the pot has no serving "{serving}"', serving=serving))
    if one.problems or not one.balance.mass_known:
        reason = one.problems[0].message if one.problems else "a mass is not known"
        return PotFlow([], [], None, reason)
    drawing = _Drawing(costing, one)
    drawing.draw(portion)
    return PotFlow(list(drawing.nodes.values()), drawing.links, None if portion is None else portion.serving.id, None)


@dataclass
class _Drawing:
    costing: Costing
    one: CostedRecipe
    nodes: dict[str, Node] = field(default_factory=dict)
    links: list[Link] = field(default_factory=list)

    @property
    def view(self) -> DayView:
        return self.costing.view

    def draw(self, portion: Portion | None) -> None:
        flow = self.costing.flow(self.one.recipe.id)
        for here in self.one.balance.stages:
            self._stage(here, flow)
        self._node(BATCH, self.one.recipe.name, "batch", "batch/mass_g")
        self._to_batch(flow)
        if portion is not None:
            self._serving(portion)

    def _node(self, node_id: str, name: str, kind: NodeKind, figure: str) -> str:
        self.nodes.setdefault(node_id, Node(node_id, name[:200], kind, figure))
        return node_id

    def _link(self, source: str, target: str, mass: Number | None, cost: Number | None, *, lost: bool = False) -> None:
        """A link. Money below nothing runs the other way: what disposal would have cost is spared."""
        if cost is not None and surely(cost < 0):
            self._link(target, source, None, -cost)
            cost = None
        mass = None if mass is None or mass == 0 else mass
        cost = None if cost is None or cost == 0 else cost
        if mass is not None or cost is not None:
            self.links.append(Link(source, target, mass, cost, lost))

    def _loss(self, node_id: str, name: str, source: str, mass: Number, figure: str) -> None:
        """What goes off at a stage; below nothing, what comes in there."""
        if surely(mass < 0):
            self._link(self._node(f"gain/{node_id}", f"{name}: taken up", "gained", figure), source, -mass, None)
        elif surely(mass != 0):
            self._link(source, self._node(f"loss/{node_id}", name, "loss", figure), mass, None, lost=True)

    # -- what goes in ----------------------------------------------------------------------------------------------

    def _line(self, line: LineMass, into: str, path: str) -> None:
        """A line from where it is bought, over its preparation, to where it goes in."""
        name = self.view.name_of(line.item, line.recipe)
        name = f"{name}: {line.byproduct}" if line.byproduct else name
        cost = self.costing.line_cost(line)
        bought = self._node(f"bought/{path}", name, "bought", f"{path}/ap_g")
        steps = () if line.line is None else line.line.preparations
        if line.byproduct is not None or not steps or line.item not in self.view.items:
            self._put(bought, into, line.ep, cost, name)
            return
        credits = total([one.worth for one in line.credits])
        gross = None if cost is None else cost + credits
        names = {one.id: one.name for one in self.view.items[line.item].preparations}
        words = ", ".join(names.get(step, step) for step in steps)
        prepared = self._node(f"prepared/{path}", words, "prepared", f"{path}/ep_g")
        self._put(bought, prepared, line.ap, gross, name)
        self._put(prepared, into, line.ep, cost, name)
        fallen = line.ap - line.ep
        for place, part in enumerate(line.credits, 1):
            kept = part.mass if surely(part.mass <= larger(fallen, fallen * 0)) else fallen * 0
            fallen = fallen - kept
            self._credit(f"credit/{path}/{place}", f"{name}: {part.name}", prepared, kept, part.worth, f"{path}/cost")
        self._loss("trim", "trim", prepared, fallen, f"{path}/ep_g")

    def _put(self, source: str, into: str, mass: Number, cost: Number | None, name: str) -> None:
        """What goes in; where it spares the cost of disposal, that leaves the pot again."""
        if cost is not None and surely(cost < 0):
            spared = self._node(f"spared/{source}", f"{name}: disposal spared", "credit", self.nodes[source].figure)
            self._link(into, spared, None, -cost)
            cost = None
        self._link(source, into, mass, cost)

    def _credit(self, node_id: str, name: str, source: str, mass: Number, worth: Number, figure: str) -> None:
        """What is worth something elsewhere; of paid disposal the money comes in."""
        node = self._node(node_id, name, "credit", figure)
        if surely(worth < 0):
            self._link(source, node, mass, None)
            paid = self._node(f"{node_id}/paid", f"{name}: disposal", "bought", figure)
            self._link(paid, source, None, -worth)
        else:
            self._link(source, node, mass, worth)

    # -- the stages ------------------------------------------------------------------------------------------------

    def _stage(self, here: StageMass, flow: Flow) -> None:
        stage, balance = here.stage, self.one.balance
        name, path = stage.name or stage.id, f"stage/{stage.id}"
        node = self._node(path, name, "stage", f"{path}/mass_in_g")
        lines = balance.lines_of(stage)
        for line in lines:
            self._line(line, node, f"line/{stage.id}/{line.id}")
        came = total([line.put for line in lines]) + self.view.zero
        for inflow in stage.from_:
            share, before = self.view.number(inflow.share), self._stage_mass(inflow.stage)
            mass = before.mass_out * share
            came = came + mass
            self._link(f"stage/{inflow.stage}", node, mass, flow.passed[inflow.stage].cost(self.view.prices()) * share)
        self._loss("cooked", "cooked off", node, total([line.up for line in lines]) + self.view.zero, f"{path}/cooked_g")
        steams = stage.change.rule in ("evaporate", "reduce") or is_heated(stage)
        kind = ("steam", "up in steam") if steams else ("lost", "lost in the sieve")
        self._loss(kind[0], kind[1], node, came - here.changed, f"{path}/changed_g")
        self._loss("sticks", "left on the vessels", node, here.residue, f"{path}/residue_g")
        self._taken_out(here, flow, node)

    def _stage_mass(self, stage_id: str) -> StageMass:
        return next(one for one in self.one.balance.stages if one.stage.id == stage_id)

    def _taken_out(self, here: StageMass, flow: Flow, node: str) -> None:
        given = handed_out(self.one.balance, kept_masses(self.one.balance), self.view)
        for place, (out, needs) in enumerate(zip(here.taken_out, flow.taken[here.stage.id], strict=True), 1):
            name, figure = out.take_out.name, f"stage/{here.stage.id}/taken_{place}_mass_g"
            cost = needs.cost(self.view.prices())
            if name in given:
                # Only what the portions get is paid by them; the rest of its cost stays in the pot.
                cost = cost * given[name]
            taken = self._node(f"taken/{here.stage.id}/{place}", name, "taken_out", figure)
            if surely(cost < 0):
                self._link(node, taken, out.mass, None)
                paid = self._node(f"{taken}/paid", f"{name}: disposal", "bought", figure)
                self._link(paid, node, None, -cost)
            else:
                self._link(node, taken, out.mass, cost)

    # -- the batch and what is sold of it --------------------------------------------------------------------------

    def _to_batch(self, flow: Flow) -> None:
        balance, prices = self.one.balance, self.view.prices()
        if not balance.stages:
            return
        *earlier, last = balance.stages
        carried = self.view.zero
        for line in balance.beside:
            if isinstance(line, LineMass):
                name = self.view.name_of(line.item, line.recipe)
                used_up = self._node(f"beside/{line.id}", f"{name}, beside the pot", "bought", "batch/food_cost")
                cost = self.costing.line_cost(line)
                carried = carried + (self.view.zero if cost is None else cost)
                self._link(used_up, BATCH, None, cost)
        for here in earlier:
            if here.left_over != 0:
                share = self.view.number(here.left_over)
                cost = flow.passed[here.stage.id].cost(prices) * share
                carried = carried + cost
                self._link(f"stage/{here.stage.id}", BATCH, None, cost)
                self._loss(f"left/{here.stage.id}", "goes nowhere", f"stage/{here.stage.id}", here.mass_out * share,
                           f"stage/{here.stage.id}/mass_out_g")  # fmt: skip
        self._link(f"stage/{last.stage.id}", BATCH, last.mass_out, self.one.cost - carried)
        # Where a measured batch is used, what it has less is told, and not known where it went.
        self._loss("measured", "not accounted for", BATCH, last.mass_out - balance.mass, "batch/mass_g")

    def _serving(self, portion: Portion) -> None:
        serving, batch = portion.serving, self.one.balance.mass
        if portion.portions is None or portion.food_cost is None:
            return
        path = f"serving/{serving.id}"
        node = self._node(path, serving.name, "serving", f"{path}/food_cost")
        served = portion.portions * portion.size_g
        seasoning = self.one.cost * self.view.allowance(self.one.recipe)
        if seasoning != 0:
            self._link(self._node("seasoning", "seasoning allowance", "bought", "batch/food_cost"), BATCH, None, seasoning)
        self._link(BATCH, node, served, self.one.cost + seasoning)
        self._loss("served", "lost in serving", BATCH, batch - served, f"{path}/portions")
        for extra_id, line in self._beside(portion):
            cost = self.costing.line_cost(line)
            name = self.view.name_of(line.item, line.recipe)
            name = f"{name}: {line.byproduct}" if line.byproduct else name
            bought = self._node(f"{path}/{extra_id}", name, "bought", f"{path}/food_cost")
            mass = None if line.counted is not None else line.ep * portion.portions
            self._link(bought, node, mass, None if cost is None else cost * portion.portions)

    def _beside(self, portion: Portion) -> Iterator[tuple[str, LineMass]]:
        for place, (_, line) in enumerate(portion.extras):
            if isinstance(line, LineMass):
                yield f"beside-{place}", line
