"""The order in which recipes can be costed: each after those that it contains."""

from __future__ import annotations

from collections.abc import Callable, Collection, Container, Iterable

from potrel.core.errors import RecipeLoop


def order_of(roots: Iterable[str], uses: Callable[[str], Collection[str]], known: Container[str] = frozenset()) -> list[str]:
    """`roots` and all that they use, each after what it uses, leaving out what is `known` already.

    RecipeLoop, naming the whole loop, where one contains itself. Written without recursion: a chain of recipes may
    be longer than Python's stack.
    """
    done: dict[str, None] = {}
    for root in roots:
        path: dict[str, None] = {}
        todo = [(root, False)]
        while todo:
            recipe, finished = todo.pop()
            if finished:
                del path[recipe]
                done[recipe] = None
            elif recipe in path:
                names = list(path)
                raise RecipeLoop((*names[names.index(recipe) :], recipe))
            elif recipe not in done and recipe not in known:
                path[recipe] = None
                todo.append((recipe, True))
                todo.extend((part, False) for part in sorted(uses(recipe), reverse=True))
    return list(done)


def above(changed: Iterable[str], uses: Iterable[tuple[str, Collection[str]]]) -> set[str]:
    """The recipes of `changed` and all that contain one of them at any depth."""
    containers: dict[str, list[str]] = {}
    for recipe, parts in uses:
        for part in parts:
            containers.setdefault(part, []).append(recipe)
    found: set[str] = set()
    todo = list(changed)
    while todo:
        recipe = todo.pop()
        if recipe not in found:
            found.add(recipe)
            todo.extend(containers.get(recipe, ()))
    return found
