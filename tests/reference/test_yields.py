"""Book yields of the demo against published ones (values from memory, each within the band its row states)."""

from __future__ import annotations

import csv
import unittest
from decimal import Decimal
from pathlib import Path

from potrel.core.cost.confidence import rests_on
from potrel.core.cost.costing import Costing
from potrel.core.kitchen.items import Item
from potrel.core.tell.cost_sheet import sheet_of
from tests.kitchens import DAY, d, demo, kitchen

_PUBLISHED = Path(__file__).with_name("published.csv")
_SR, _FBG = "SR Legacy", "Food Buying Guide"


def published() -> list[dict[str, str]]:
    """The published values, with their sources."""
    with _PUBLISHED.open(newline="") as file:
        return list(csv.DictReader(file))


class BookYields(unittest.TestCase):
    def setUp(self) -> None:
        self.items: dict[str, Item] = {item.id: item for item in demo().items}

    def row(self, item: str, kind: str) -> tuple[Decimal, Decimal]:
        row = next(one for one in published() if one["what"] == item and one["kind"] == kind)
        return Decimal(row["value"]), Decimal(row["band"])

    def test_trim_yields_that_name_a_book(self) -> None:
        checked = 0
        for item in self.items.values():
            for one in item.preparations:
                kind = "refuse" if _SR in (one.source or "") else "ready to cook" if _FBG in (one.source or "") else None
                if kind is None or one.yield_ > 1:
                    continue
                value, band = self.row(item.id, kind)
                expected = 1 - value if kind == "refuse" else value
                self.assertLessEqual(abs(one.yield_ - expected), band, f"{item.id} {one.id} by {one.source}")
                checked += 1
        self.assertGreaterEqual(checked, 12)

    def test_where_two_books_differ_both_stand(self) -> None:
        potato = {one.source: one.yield_ for one in self.items["potato"].preparations}
        self.assertEqual(len(potato), 2)
        self.assertGreater(max(potato.values()) - min(potato.values()), d("0.04"))

    def test_cooking_yields(self) -> None:
        for item, method in (("beef-shin", "braise"), ("bacon", "fry"), ("beef-bones", "roast")):
            value, band = self.row(item, method)
            (found,) = (one for one in self.items[item].cooking if one.method == method)
            self.assertLessEqual(abs(found.yield_ - value), band, item)
            self.assertEqual(rests_on(found), "book")

    def test_dry_beans_to_cooked(self) -> None:
        value, band = self.row("haricot", "dry to cooked")
        haricot = self.items["haricot"]
        (soaked,), (simmered,) = haricot.preparations, haricot.cooking
        self.assertLessEqual(abs(soaked.yield_ * simmered.yield_ - value), band)


class TextbookIdentities(unittest.TestCase):
    """EP cost = AP cost / yield; cost factor = EP cost per kilo / AP price per kilo. Culinary-school textbooks."""

    def test_ep_cost_and_cost_factor(self) -> None:
        # A textbook's onions: AP 1.20 a kilo, refuse 10% (USDA SR Legacy, value from memory).
        onion = {"id": "onion", "preparations": [{"id": "peeled", "name": "peeled", "yield": "0.90"}]}
        line = {"item": "onion", "quantity": "1 kg", "basis": "EP", "preparation": "peeled"}
        made = kitchen([onion], [{"stages": [{"id": "s", "lines": [line]}]}], {"onion": "1.20"})
        (found,) = sheet_of(Costing(made, DAY), "pot").lines
        self.assertAlmostEqual(found.cost or d(0), d("1.333333"), 6)
        self.assertAlmostEqual((found.cost or d(0)) / d("1.20"), 1 / d("0.90"), 12)


class StockFormula(unittest.TestCase):
    """The classic formula: 8 lb bones, 5 to 6 qt cold water and 1 lb mirepoix give 1 gallon (textbooks, from memory)."""

    def steam(self, quarts: str, spent: str) -> Decimal:
        """What has to go up in steam [kg] for the formula to give a gallon, by the mass balance."""
        lines = [
            {"id": "bones", "item": "bones", "quantity": "8 lb"},
            {"id": "mirepoix", "item": "mirepoix", "quantity": "1 lb"},
            {"item": "water", "quantity": f"{quarts} quart"},
        ]
        taken = [{"name": "spent", "of": ["bones", "mirepoix"], "spent_factor": spent}]
        stages = [
            {"id": "simmer", "lines": lines, "take_out": taken},
            {"id": "gallon", "from": [{"stage": "simmer"}], "change": {"rule": "reduce", "to": "1 gallon"}},
        ]
        items = [{"id": "bones"}, {"id": "mirepoix"}, {"id": "water", "density": "1"}]
        made = kitchen(items, [{"stages": stages}], {"bones": "1", "mirepoix": "1", "water": "0"}, measure_system="us")
        found = sheet_of(Costing(made, DAY), "pot")
        self.assertEqual(found.problems, [])
        self.assertAlmostEqual(found.batch.volume_ml, d("3785.411784"), 6)
        return found.stages[-1].changed_g / 1000

    def test_what_goes_up_in_steam_is_what_hours_of_bare_simmer_lose(self) -> None:
        # The solids leave at 0.90 to 1.00 of what went in (textbooks, from memory).
        for quarts, spent in (("5", "0.90"), ("5", "1"), ("6", "0.90"), ("6", "1")):
            steam = self.steam(quarts, spent)
            # A 40 cm pot at a bare simmer loses about 1.2 kg an hour with the lid off (Carrier's formula; from memory),
            # about a tenth of it with the lid on: 3 to 4 hours for chicken, 6 to 8 for beef.
            self.assertGreaterEqual(steam, d("0.1") * 3 * d("1.2"))
            self.assertLessEqual(steam, 8 * d("1.2"))

    def test_water_balance_in_round_numbers(self) -> None:
        # 6 quarts less 1 gallon are 2 quarts, 1.893 kg, where the solids leave as they came.
        self.assertAlmostEqual(self.steam("6", "1"), d("1.892706"), 6)
