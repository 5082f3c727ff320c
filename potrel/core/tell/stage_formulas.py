"""The formulas of a stage's workings: what it gives and passes on, what is taken out bears, what is kept for garnish costs."""

from __future__ import annotations

from potrel.core.numbers.arithmetic import Number, total
from potrel.core.numbers.formula import Many, formula
from potrel.core.pot.needs import share_kept


@formula("sum of lines")
def given_to_the_pot(lines: Many) -> Number:
    """What the lines give to the pot [g]; below zero, what they drink from it."""
    return total(lines)


@formula("sum of lines + sum of consumables + sum of handed on + sum of left over - sum of taken out")
def passed_on(lines: Many, consumables: Many, handed_on: Many, left_over: Many, taken_out: Many) -> Number:
    """What a stage passes on [money]; what no later stage takes of an earlier one stays with the batch."""
    return total(lines) + total(consumables) + total(handed_on) + total(left_over) - total(taken_out)


@formula("kilos * share an hour")
def share_an_hour(kilos: Number, share_an_hour: Number) -> Number:
    """What goes up an hour [kg] of what was there at the start."""
    return kilos * share_an_hour


@formula("(sum of lines + sum of handed on + sum of disposal) * weight / sum of weights")
def part_of_the_joint_cost(lines: Many, handed_on: Many, disposal: Many, weight: Number, weights: Many) -> Number:
    """What something taken out bears of the joint cost [money], by its weight: its mass, or mass * value."""
    return (total(lines) + total(handed_on) + total(disposal)) * weight / total(weights)


@formula("what all of it costs * share that portions get")
def borne_by_portions(what_all_of_it_costs: Number, share_that_portions_get: Number) -> Number:
    """What the portions bear that are garnished with what was kept of the pot [money]."""
    return what_all_of_it_costs * share_that_portions_get


@formula("(sum of lines + sum of handed on) * the smaller of (1, kept / sum of weights)")
def cost_of_kept(lines: Many, handed_on: Many, kept: Number, weights: Many) -> Number:
    """What is kept for garnish costs [money]: the cost of what it is made of, by its mass."""
    return (total(lines) + total(handed_on)) * share_kept(kept, weights)
