"""What a line is worth to a pot by what it is: bones hold nothing, salt is drawn out, a dark roux thickens less."""

from __future__ import annotations

import unittest
from typing import Any

from potrel.core.cost.costing import Costing
from potrel.core.tell.cost_sheet import sheet_of
from potrel.core.tell.explanations import explain
from potrel.core.tell.sheet_parts import CostSheet
from tests.core.pot.test_content import FULL, WATER, lines
from tests.kitchens import DAY, d, kitchen, sheet


class OfWhatItIs(unittest.TestCase):
    """Bones hold nothing of what a composition says, salt is drawn out, and a dark roux thickens less."""

    def of(self, item: dict[str, Any], line: dict[str, Any], stage: dict[str, Any] | None = None) -> CostSheet:
        items = [WATER, {"id": "thing", "kind": "meat", "composition": FULL, **item}]
        stages = [{"id": "s", "lines": [{"item": "water", "quantity": "9 kg"}, {"item": "thing", "quantity": "1 kg", **line}],
                   **(stage or {})}]  # fmt: skip
        made = kitchen(items, [{"stages": stages}], {"water": "0", "thing": "1"})
        costing = Costing(made, DAY)
        for name in ("salt_g", "thickness_g_per_l", "protein_g"):
            figure = explain(costing, "pot", f"batch/{name}")
            self.assertEqual(figure.value, getattr(sheet_of(costing, "pot").batch, name), name)
        return sheet_of(costing, "pot")

    def test_bones_hold_nothing(self) -> None:
        # 30 g of protein in a kilo, of which a quarter is bone.
        boned = {"id": "boned", "name": "boned, diced", "yield": "0.7"}
        shin = {"bone_share": "0.25", "preparations": [boned, {"id": "cut", "name": "in slices", "yield": "0.95"}]}
        self.assertEqual(self.of(shin, {}).batch.protein_g, d("22.5"))
        self.assertEqual(self.of(shin, {"preparation": "cut"}).batch.protein_g, d(30) * d("0.7"))
        # Its working says of how much that is.
        made = kitchen([{"id": "thing", "kind": "meat", "composition": FULL, **shin}],
                       [{"stages": [{"id": "s", "lines": lines(thing="1 kg")}]}], {"thing": "1"})  # fmt: skip
        self.assertIn("750 g at 3 g in 100 g", str(explain(Costing(made, DAY), "pot", "batch/protein_g").inputs[0].source))
        # Off the bone what is left is all flesh.
        self.assertEqual(self.of(shin, {"preparation": "boned"}).batch.protein_g, d(21))

    def test_bones_of_meat_are_asked_for_as_well(self) -> None:
        found = self.of({"bone_share": "0.25"}, {}, {"method": "simmer", "minutes": "30"})
        self.assertEqual([one.params["about"] for one in found.warnings if one.message_code == "asked"], ["bones"])

    def test_salt_that_a_preparation_draws_out(self) -> None:
        cod = {"preparations": [{"id": "soaked", "name": "soaked", "yield": "1.2", "salt_kept": "0.1"}]}
        self.assertEqual((self.of(cod, {}).batch.salt_g, self.of(cod, {"preparation": "soaked"}).batch.salt_g), (10, 1))
        self.assertEqual(self.of(cod, {"preparation": "soaked"}).batch.protein_g, 30)
        # On a portion as in the pot: 10 g of it bring 0.1 g of salt, or a tenth of that.
        garnish = {"item": "thing", "quantity": "10 g", "basis": "AP"}
        bowl = {"id": "bowl", "name": "Bowl", "size": "100 g"}
        for line, salt in ((garnish, d("0.1")), ({**garnish, "preparation": "soaked"}, d("0.01"))):
            stages = [{"id": "s", "lines": [{"item": "water", "quantity": "1 kg"}]}]
            pot = {"stages": stages, "servings": [{**bowl, "garnish": [line]}]}
            thing = {"id": "thing", "kind": "fish", "composition": FULL, **cod}
            self.assertEqual(sheet(kitchen([WATER, thing], [pot], {"water": "0", "thing": "1"})).servings[0].salt_g, salt)

    def test_a_dark_roux_thickens_less(self) -> None:
        flour = {"kind": "dry goods", "thickening": "1"}
        plain = self.of(flour, {}).batch.thickness_g_per_l
        dark = kitchen([WATER, {"id": "thing", "composition": FULL, **flour}],
                       [{"stages": [{"id": "s", "roux": "dark", "lines": lines(water="9 kg", thing="1 kg")}]}])  # fmt: skip
        told = explain(Costing(dark, DAY), "pot", "batch/thickness_g_per_l")
        self.assertIn("as much as 0.5 g of flour", " ".join(str(one.source) for one in told.inputs))
        assert plain is not None
        for said, share in (("white", "1"), ("blond", "1"), ("brown", "0.7"), ("dark", "0.5")):
            self.assertAlmostEqual(self.of(flour, {"roux": said}).batch.thickness_g_per_l or d(0), plain * d(share), places=9)
            # The line's own word goes before its stage's.
            found = self.of(flour, {"roux": said}, {"roux": "dark"}).batch.thickness_g_per_l or d(0)
            self.assertAlmostEqual(found, plain * d(share), places=9)
        self.assertAlmostEqual(self.of(flour, {}, {"roux": "dark"}).batch.thickness_g_per_l or d(0), plain / 2, places=9)
        # What is no flour is fried as dark as one likes.
        oats = {"kind": "dry goods", "thickening": "0.5"}
        self.assertEqual(self.of(oats, {"roux": "dark"}).batch.thickness_g_per_l, self.of(oats, {}).batch.thickness_g_per_l)
