"""Variants side by side: the figures are each pot's own, what differs is told, and no more than four stand there."""

from __future__ import annotations

import unittest
from dataclasses import replace
from typing import Any

from potrel.core.cost.costing import Costing
from potrel.core.errors import BadDocument
from potrel.core.kitchen.quantities import parse_quantity
from potrel.core.kitchen.recipes import Recipe, with_lines
from potrel.core.rooms.side_by_side import Chosen, LineRow, side_by_side
from tests.kitchens import DAY, demo, kitchen


def with_more(recipe: Recipe, quantity: str) -> Recipe:
    first, *others = recipe.stages[0].lines
    return with_lines(recipe, 0, (replace(first, quantity=parse_quantity(quantity)), *others))


class SideBySide(unittest.TestCase):
    def setUp(self) -> None:
        self.costing = Costing(demo(), DAY)

    def test_the_figures_are_those_of_each_pot(self) -> None:
        names = ("leek-potato", "celeriac-apple", "ham-leek")
        found = side_by_side([Chosen(self.costing, name) for name in names])
        for column, name in zip(found.columns, names, strict=True):
            one = self.costing.of(name)
            portion = next(each for each in one.portions if each.serving.id == column.serving)
            self.assertEqual((column.recipe, column.batch_cost, column.batch_g), (name, one.cost, one.mass))
            self.assertEqual((column.food_cost, column.share), (portion.food_cost, portion.priced.share))
            self.assertEqual(column.attended_minutes, one.needs.minutes)
        # All have a bowl: it is compared, whatever stands first.
        self.assertEqual({column.serving for column in found.columns}, {"bowl"})

    def test_lines_add_up_to_the_batch(self) -> None:
        found = side_by_side([Chosen(self.costing, "leek-potato"), Chosen(self.costing, "beetroot-shin")])
        for place, name in enumerate(("leek-potato", "beetroot-shin")):
            cells = [row.cells[place] for row in found.lines]
            cost = sum(cell.cost for cell in cells if cell is not None and cell.cost is not None)
            self.assertAlmostEqual(cost, self.costing.of(name).cost, 18)

    def test_what_differs(self) -> None:
        before = self.costing.view.recipes["leek-potato"]
        after = self.costing.replacing(with_more(before, "300 g"))
        found = side_by_side([Chosen(self.costing, "leek-potato"), Chosen(after, "leek-potato", 3)])
        apart = [row for row in found.lines if row.differ]
        # It is topped up to a mark: with more butter, less stock is.
        self.assertEqual([row.name for row in apart], ["Butter, salted", "White chicken stock"])
        cells = [cell for cell in apart[0].cells if cell is not None]
        self.assertEqual([cell.ep_g for cell in cells], [150, 300])
        self.assertEqual([row.differ for row in found.stages], [False] * len(found.stages))
        self.assertEqual([column.revision for column in found.columns], [None, 3])
        self.assertEqual([row for row in side_by_side([Chosen(self.costing, "leek-potato")] * 2).lines if row.differ], [])

    def test_a_thing_that_only_one_has_and_one_that_goes_in_twice(self) -> None:
        items: list[dict[str, Any]] = [
            {"id": "leek", "preparations": [{"id": "cut", "name": "sliced", "yield": "0.5"}]},
            {"id": "rice"},
        ]
        cut = {"item": "leek", "quantity": "1 kg", "preparation": "cut"}
        pots = [
            {
                "id": "a",
                "stages": [{"id": "s", "name": "Sweat", "lines": [cut]}, {"id": "t", "from": [{"stage": "s"}], "lines": [cut]}],
            },
            {
                "id": "b",
                "stages": [
                    {
                        "id": "s",
                        "name": "Boil",
                        "minutes": "20",
                        "lines": [{"item": "leek", "quantity": "1 kg"}, {"item": "rice", "quantity": "1 kg"}],
                    }
                ],
            },
        ]
        of = Costing(kitchen(items, pots, {"leek": "2"}), DAY)
        found = side_by_side([Chosen(of, "a"), Chosen(of, "b")])

        def told(row: LineRow) -> tuple[str, str, list[Any], bool]:
            return row.name, row.how, [None if cell is None else (cell.ap_g, cell.cost) for cell in row.cells], row.differ

        self.assertEqual(
            [told(row) for row in found.lines],
            [
                ("Leek", "sliced", [(2000, 4), None], True),
                ("Leek", "", [None, (1000, 2)], True),
                ("Rice", "", [None, (1000, None)], True),
            ],
        )
        self.assertEqual([row.cells for row in found.stages], [["Sweat", "Boil, 20 min"], ["t", ""]])
        self.assertEqual([column.complete for column in found.columns], [True, False])

    def test_two_to_four(self) -> None:
        for count in (0, 1, 5):
            with self.assertRaisesRegex(BadDocument, f"two to four pots stand side by side, not {count}"):
                side_by_side([Chosen(self.costing, "leek-potato")] * count)
