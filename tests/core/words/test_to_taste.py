"""What is put in to taste and poured by eye: salt by the kitchen's target, liquid by its vessel, a name for the rest."""

from __future__ import annotations

import unittest
from collections.abc import Sequence
from dataclasses import replace
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from potrel.core.cost.costing import Costing
from potrel.core.kitchen.recipes import Recipe
from potrel.core.pot.by_eye import cover_of
from potrel.core.pot.held import SALT
from potrel.core.words.paste import understand_paste
from potrel.core.words.pasted import LineAnswer, Pasted
from potrel.core.words.to_taste import salted, with_line
from potrel.core.words.typed_pour import read_into
from tests.kitchens import DAY, demo, kitchen

ITEMS: list[dict[str, Any]] = [
    {"id": "water", "kind": "water", "density": "1", "composition": {"salt_g": "0"}},
    {"id": "ham", "kind": "meat", "composition": {"salt_g": "3"}},
    {"id": "salt", "name": "Salt", "kind": "spice", "composition": {"salt_g": "100"}},
    {"id": "pepper", "name": "Black pepper", "kind": "spice"},
]
SOUP = "Leek soup\n2 kg leeks\n1 kg floury potatoes\nwater to cover\nSalt and pepper to taste\n\nSimmer 30 min."


def pot(ham: str, water: str = "10 kg", **stage: Any) -> Costing:
    lines = [{"item": "water", "quantity": water}, {"item": "ham", "quantity": ham}]
    made = {"stages": [{"id": "s", "lines": lines, **stage}], "servings": [{"id": "b", "name": "Bowl", "size": "300 g"}]}
    return Costing(kitchen(ITEMS, [made], {"water": "0", "ham": "9", "salt": "1", "pepper": "20"}), DAY)


def share_of_salt(recipe: Recipe, costing: Costing) -> Any:
    after = costing.replacing(recipe)
    return after.content("pot").batch.of(SALT) / after.of("pot").balance.mass  # type: ignore[operator]


class Salt(unittest.TestCase):
    def test_the_missing_salt_of_a_pot(self) -> None:
        # By hand: (0.007 * 11000 - 30) / (1 - 0.007) = 47.3 g, weighed as 47 g.
        of = pot("1 kg")
        line = salted(of.view.recipes["pot"], "s", "salt", of)
        assert line is not None
        self.assertEqual((line.quantity.text, line.item, line.note), ("47 g", "salt", "to taste"))

    @given(st.integers(1, 40), st.integers(1, 40), st.sampled_from(["keep", "half"]))
    def test_the_batch_has_the_target_whatever_it_loses(self, ham: int, water: int, change: str) -> None:
        stage = {} if change == "keep" else {"change": {"rule": "yield", "yield": "0.5"}, "method": "reduce"}
        of = pot(f"{ham * 10} g", f"{water} kg", **stage)
        recipe = of.view.recipes["pot"]
        line = salted(recipe, "s", "salt", of)
        left = float(of.of("pot").balance.mass)
        if line is None:
            # Salty enough, or less than half a gram short of it.
            self.assertGreaterEqual(float(share_of_salt(recipe, of)), 0.007 - 0.6 / left)
        else:
            # To half a gram in the pot.
            self.assertAlmostEqual(float(share_of_salt(with_line(recipe, "s", line), of)), 0.007, delta=0.6 / left)

    def test_an_american_kitchen_weighs_ounces(self) -> None:
        of = pot("1 kg")
        of = Costing(replace(of.view.kitchen, settings=replace(of.view.settings, shown_units="us")), DAY)
        line = salted(of.view.recipes["pot"], "s", "salt", of)
        assert line is not None
        self.assertEqual(line.quantity.text, "1.67 oz")

    def test_none_is_added_to_what_is_salty_enough_nor_where_nobody_can_tell(self) -> None:
        of = pot("5 kg")
        self.assertIsNone(salted(of.view.recipes["pot"], "s", "salt", of))
        unknown = [one for one in ITEMS if one["id"] != "ham"] + [{"id": "ham", "kind": "meat"}]
        of = Costing(kitchen(unknown, [], {"water": "0"}), DAY)
        of = of.replacing(pot("1 kg").view.recipes["pot"])
        self.assertIsNone(salted(of.view.recipes["pot"], "s", "salt", of))

    def test_typed_into_a_stage(self) -> None:
        of = pot("1 kg")
        draft = of.view.recipes["pot"]
        found = read_into("salt and black pepper to taste", of, None, None, draft, "s")
        assert found.line is not None
        self.assertEqual((found.line.quantity.text, found.covers, found.by_target), ("47 g", ("Black pepper",), None))
        # Beside the pot nobody knows how much: the seasoning allowance stands for both.
        found = read_into("salt and black pepper to taste", of, None, None, None, None)
        self.assertEqual((found.line, found.covers), (None, ("Salt", "Black pepper")))


class FromPaper(unittest.TestCase):
    def paste(self, text: str, answers: Sequence[LineAnswer] = ()) -> tuple[Pasted, Costing]:
        return understand_paste(text, None, answers, [], Costing(demo(), DAY))

    def test_the_vessel_is_asked_and_the_rest_is_reckoned(self) -> None:
        found, _ = self.paste(SOUP)
        water, salt = found.lines[2:]
        self.assertTrue(water.is_open)
        self.assertIn(("vessel", "stockpot"), [(one.kind, one.id) for one in water.typed.candidates])
        # While the water waits, nobody knows how much there is to salt; nothing else is asked of it.
        self.assertEqual((salt.is_open, salt.typed.line, found.recipe.allowance_covers), (False, None, ("Pepper",)))
        found, after = self.paste(SOUP, [LineAnswer("water to cover", vessel="stockpot")])
        (stage,) = found.recipe.stages
        self.assertEqual((found.open, stage.vessel), (0, "stockpot"))
        poured = next(line for line in stage.lines if line.by_eye == "cover")
        cover = cover_of(found.recipe, stage, after.view)
        self.assertAlmostEqual(float(poured.quantity.amount), float(cover.litres), 1)  # type: ignore[union-attr]
        salt = found.lines[3]
        assert salt.typed.line is not None
        self.assertIn(salt.typed.line, stage.lines)
        batch = after.content(found.recipe.id).batch.of(SALT)
        self.assertAlmostEqual(float(batch / after.of(found.recipe.id).balance.mass), 0.007, 3)  # type: ignore[operator]

    def test_what_only_the_method_pours_is_not_forgotten(self) -> None:
        text = "Soup\n2 kg leeks\n\nMethod:\nSweat the leeks. Cover with cold water and simmer 30 min. Thin with milk."
        found, _ = self.paste(text)
        self.assertEqual([line.text for line in found.lines], ["2 kg leeks", "cold water to cover", "milk to thin"])
        self.assertEqual(found.open, 2)
        found, _ = self.paste(text, [LineAnswer("milk to thin", text="200 ml milk to thin")])
        self.assertEqual([(line.quantity.text, line.by_eye) for line in found.recipe.stages[-1].lines], [("200 ml", "thin")])
        # What soaks or blanches is poured off again: it is no part of the pot.
        for again in ("Cover with cold water and soak overnight.", "Cover with water, bring to the boil and drain."):
            found, _ = self.paste(f"Soup\n2 kg leeks\n\nMethod:\n{again} Simmer 30 min.")
            self.assertEqual([line.text for line in found.lines], ["2 kg leeks"], again)
        listed, _ = self.paste(text.replace("2 kg leeks", "2 kg leeks\n3 l water"))
        self.assertEqual([line.text for line in listed.lines], ["2 kg leeks", "3 l water", "milk to thin"])

    def test_one_or_the_other_is_asked_and_the_other_noted(self) -> None:
        found, _ = self.paste("Soup\n500 g butter or olive oil\n2 kg leeks")
        self.assertEqual([one.id for one in found.lines[0].typed.candidates], ["butter", "olive-oil"])
        found, _ = self.paste(
            "Soup\n500 g butter or olive oil\n2 kg leeks", [LineAnswer("500 g butter or olive oil", item="butter")]
        )
        line = found.recipe.stages[0].lines[0]
        self.assertEqual((line.item, line.quantity.text, line.note), ("butter", "500 g", "or olive oil"))

    def test_a_name_that_says_or_is_a_name(self) -> None:
        of = kitchen([{"id": "mix", "name": "Sweet or hot paprika", "kind": "spice"}], [])
        found = read_into("10 g sweet or hot paprika", Costing(of, DAY), None, None, None, None)
        assert found.line is not None
        self.assertEqual((found.line.item, found.line.note), ("mix", None))
        found = read_into("10 g sweet or hot paprika", Costing(of, DAY), "mix", None, None, None)
        assert found.line is not None
        self.assertEqual((found.line.item, found.line.note), ("mix", None))

    def test_a_vessel_that_nobody_has_is_refused_and_an_empty_pot_asks(self) -> None:
        found, _ = self.paste("Soup\nwater to cover", [LineAnswer("water to cover", vessel="stockpot")])
        self.assertIn("nothing in this stage", found.lines[0].typed.problem or "")
        self.assertEqual((found.open, found.recipe.stages[0].lines), (1, ()))
        with self.assertRaisesRegex(Exception, "no vessel"):
            self.paste(SOUP, [LineAnswer("water to cover", vessel="bathtub")])


if __name__ == "__main__":
    unittest.main()
