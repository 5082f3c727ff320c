"""The order in which recipes can be costed: each after those that it contains."""

from __future__ import annotations

from collections.abc import Callable, Collection, Container, Iterable, Mapping
from graphlib import CycleError, TopologicalSorter

from potrel.core.errors import RecipeLoop


def order_of(roots: Iterable[str], uses: Callable[[str], Collection[str]], known: Container[str] = frozenset()) -> list[str]:
    """`roots` and all that they use, each after what it uses, leaving out what is `known` already.

    RecipeLoop, naming the whole loop, where one contains itself.
    """
    graph: dict[str, list[str]] = {}
    todo = list(roots)
    while todo:
        recipe = todo.pop()
        if recipe not in graph and recipe not in known:
            parts = sorted(part for part in uses(recipe) if part not in known)
            graph[recipe] = parts
            todo += parts
    try:
        return list(TopologicalSorter(graph).static_order())
    except CycleError as error:
        # The sorter names each before the one that contains it.
        loop: list[str] = error.args[1]
        raise RecipeLoop(tuple(reversed(loop))) from None


def above(changed: Iterable[str], containers: Mapping[str, Collection[str]]) -> set[str]:
    """The recipes of `changed` and all that contain one of them at any depth; `containers` names those that do so directly."""
    found: set[str] = set()
    todo = list(changed)
    while todo:
        recipe = todo.pop()
        if recipe not in found:
            found.add(recipe)
            todo.extend(containers.get(recipe, ()))
    return found
