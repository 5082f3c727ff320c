"""What happens to the mass of a stage, each a formula: the rules of its change, what is taken out, sticks and goes on."""

from __future__ import annotations

from potrel.core.numbers.arithmetic import Number, larger, smaller, total
from potrel.core.numbers.formula import Many, formula


@formula("sum of lines + sum of handed on")
def put_in(lines: Many, handed_on: Many) -> Number:
    """Everything put in [g]: the lines as prepared, and what earlier stages hand on."""
    return total(lines) + total(handed_on)


@formula("sum of lines")
def lost_by_lines(lines: Many) -> Number:
    """What the lines' cooking sends up [g]; below zero, what comes in."""
    return total(lines)


@formula("put in - cooked away")
def mass_in(put_in: Number, cooked_away: Number) -> Number:
    """What is in a stage [g] when its lines are cooked."""
    return put_in - cooked_away


@formula("mass in")
def kept(mass_in: Number) -> Number:
    """Nothing changes [g]."""
    return mass_in


@formula("mass in * yield of the stage")
def yielded(mass_in: Number, yield_of_the_stage: Number) -> Number:
    """So much is left [g]."""
    return mass_in * yield_of_the_stage


@formula("mass in - the smaller of (water in it, mass in * share an hour * time / 60)")
def evaporated_by_share(mass_in: Number, water_in_it: Number, share_an_hour: Number, time: Number) -> Number:
    """What is left [g] when a share of what was there at the start goes up an hour; at most all its water."""
    return mass_in - smaller(water_in_it, mass_in * share_an_hour * time / 60)


@formula("mass in - the smaller of (water in it, grams an hour * time / 60)")
def evaporated_by_rate(mass_in: Number, water_in_it: Number, grams_an_hour: Number, time: Number) -> Number:
    """What is left [g] when so much goes up an hour; at most all its water."""
    return mass_in - smaller(water_in_it, grams_an_hour * time / 60)


@formula("the smaller of (mass in, reduced to)")
def reduced(mass_in: Number, reduced_to: Number) -> Number:
    """What is left [g] when it is reduced to so much."""
    return smaller(mass_in, reduced_to)


@formula("the larger of (mass in, topped up to)")
def topped(mass_in: Number, topped_up_to: Number) -> Number:
    """What there is [g] when it is topped up to so much."""
    return larger(mass_in, topped_up_to)


@formula("the larger of (0, topped up to - mass in)")
def missing_to(topped_up_to: Number, mass_in: Number) -> Number:
    """What has to be topped up [g]; nothing where there is enough."""
    missing = topped_up_to - mass_in
    return larger(missing * 0, missing)


@formula("mass in - mass after the change")
def changed_by(mass_in: Number, mass_after_the_change: Number) -> Number:
    """What a change takes away [g]; below zero, what it adds."""
    return mass_in - mass_after_the_change


@formula("sum of EP * spent factor")
def spent(EP: Many, spent_factor: Number) -> Number:
    """What some lines weigh [g] when they come out."""
    return total(EP) * spent_factor


@formula("came out / (1 - residue share) + sum of taken out")
def after_by_what_came_out(came_out: Number, residue_share: Number, taken_out: Many) -> Number:
    """What there was after the change [g], by what came out of the stage: what stuck and what was taken out with it."""
    return came_out / (1 - residue_share) + total(taken_out)


@formula("(mass in - mass after the change) / 1000 / time * 60")
def rate_by_what_came_out(mass_in: Number, mass_after_the_change: Number, time: Number) -> Number:
    """What went up an hour [kg]."""
    return (mass_in - mass_after_the_change) / 1000 / time * 60


@formula("litres / 1000 / surface / how many * 100")
def depth_of(litres: Number, surface: Number, how_many: Number) -> Number:
    """How deep so much stands in a vessel [cm] whose sides are straight."""
    return litres / 1000 / surface / how_many * 100


@formula("sum of cooked")
def come_out(cooked: Many) -> Number:
    """What some lines weigh [g] when they come out as heavy as their cooking left them."""
    return total(cooked)


@formula("the larger of (0, mass after the change - sum of taken out) * residue share")
def residue(mass_after_the_change: Number, taken_out: Many, residue_share: Number) -> Number:
    """What sticks to the vessel or the blender [g]."""
    left = mass_after_the_change - total(taken_out)
    return larger(left * 0, left) * residue_share


@formula("the larger of (0, mass after the change - sum of taken out) - residue")
def mass_out(mass_after_the_change: Number, taken_out: Many, residue: Number) -> Number:
    """What a stage passes on [g]."""
    left = mass_after_the_change - total(taken_out)
    return larger(left * 0, left) - residue
