"""The board as JSON text, the rows that did not change kept as they were written."""

from __future__ import annotations

from collections.abc import Container
from dataclasses import replace
from itertools import groupby

from potrel.core.board import Board, BoardRow, Boards
from potrel.core.costing import Costing
from potrel.formats.kitchen_json import part_to_json


class BoardText:
    """Writes boards one after the other."""

    def __init__(self) -> None:
        self._boards = Boards()
        self._texts: dict[str, str] = {}

    def of(self, costing: Costing, moved: Container[str] | None) -> str:
        """The board of a costing; `moved` are the recipes that may differ from the board before, None for all."""
        board = self._boards.of(costing, moved)
        known = {} if moved is None else {one: text for one, text in self._texts.items() if one not in moved}
        self._texts = {
            recipe: known.get(recipe) or part_to_json(list[BoardRow], list(rows))[1:-1]
            for recipe, rows in groupby(board.rows, key=_recipe_of)
        }
        head = part_to_json(Board, replace(board, rows=[])).removesuffix("]}")
        return f"{head}{','.join(self._texts.values())}]}}"


def _recipe_of(row: BoardRow) -> str:
    return row.recipe
