"""The board as JSON text, the rows that did not change kept as they were written."""

from __future__ import annotations

from potrel.core.cost.costed_recipe import CostedRecipe
from potrel.core.cost.costing import Costing
from potrel.core.rooms.board import Board, BoardRow, Boards, headed
from potrel.formats.kitchen_json import part_to_json


class BoardText:
    """Writes boards one after the other; the text of a recipe's rows is kept as long as its costed recipe is the same."""

    def __init__(self) -> None:
        self._boards = Boards()
        self._texts: dict[str, tuple[CostedRecipe, str]] = {}

    def of(self, costing: Costing) -> str:
        """The board of a costing."""
        rows, before, self._texts = self._boards.rows(costing), self._texts, {}
        for one, its in rows:
            known = before.get(one.recipe.id)
            text = known[1] if known is not None and known[0] is one else part_to_json(list[BoardRow], its)[1:-1]
            self._texts[one.recipe.id] = (one, text)
        board = headed(costing, [row for _, its in rows for row in its])
        head = part_to_json(Board, _bare(board)).removesuffix("]}")
        return f"{head}{','.join(text for _, text in self._texts.values())}]}}"


def _bare(board: Board) -> Board:
    return Board(
        board.kitchen, board.currency, board.on, board.target_share, board.food_cost_share, board.need_a_price,
        board.dearest_move, [],
    )  # fmt: skip
