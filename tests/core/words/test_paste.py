"""A recipe from paper: every line understood or asked about, and what it takes to cost it, all at once."""

from __future__ import annotations

import unittest
from collections.abc import Sequence
from dataclasses import replace
from decimal import Decimal

from potrel.core.cost.costing import Costing
from potrel.core.errors import BadDocument
from potrel.core.kitchen.items import Item, Measure
from potrel.core.kitchen.naming import id_for
from potrel.core.kitchen.quantities import parse_quantity
from potrel.core.numbers.units import MeasureSystem
from potrel.core.tell.cost_sheet import sheet_of
from potrel.core.tell.sheet_parts import CostSheet
from potrel.core.words.paste import understand_paste
from potrel.core.words.pasted import Goods, LineAnswer, Pasted
from potrel.core.words.recipe_text import read_recipe_text
from tests.kitchens import DAY, demo

SOUP = """Roast celeriac & apple soup
Serves 12

For the roast:
3.5 kg celeriac, peeled
1.2 kg cooking apples, peeled and cored
150 g unsalted butter
Roast 45 min at 190

Soup:
6 l water
2 bay leaves
Simmer for 20 to 30 minutes

Method
1. Roast the celeriac and the apples until brown.
2. Blend, then whisk in the cream off the heat.
"""
EMPTY = Costing(replace(demo(), items=(), recipes=(), offers=(), tests=(), credits=(), comparisons=(), suppliers=()), DAY)


def paste(
    text: str, answers: Sequence[LineAnswer] = (), goods: Sequence[Goods] = (), costing: Costing = EMPTY
) -> tuple[Pasted, CostSheet]:
    found, after = understand_paste(text, None, answers, goods, costing)
    return found, sheet_of(after, found.recipe.id)


class Texts(unittest.TestCase):
    def test_stages_lines_and_sentences(self) -> None:
        text = read_recipe_text(SOUP)
        self.assertEqual((text.name, text.aside), ("Roast celeriac & apple soup", ["Serves 12"]))
        roast, soup = text.stages
        self.assertEqual(
            (roast.name, roast.step.method, roast.step.minutes, roast.step.celsius),
            ("Roast", "roast", Decimal(45), Decimal(190)),
        )
        self.assertEqual((soup.name, soup.step.method, soup.step.minutes), ("Soup", "simmer", Decimal(25)))
        self.assertEqual((len(roast.lines), len(soup.lines)), (3, 2))
        self.assertEqual(text.told[0], "Roast the celeriac and the apples until brown.")

    def test_heads_of_every_kind(self) -> None:
        for head, wanted in (
            ("For the roast:", ("Roast", "roast", None, None)),
            ("Roast 45 min at 190", ("Roast", "roast", 45, 190)),
            ("Roast at 375F for 1 hour", ("Roast", "roast", 60, 191)),
            ("Simmer, 1 h 30 min", ("Simmer", "simmer", 90, None)),
            ("Simmer 20-30 minutes:", ("Simmer", "simmer", 25, None)),
            ("Sweat 12 min:", ("Sweat", "sweat", 12, None)),
            ("Bake for 20 minutes at 180 C", ("Bake", "bake", 20, 180)),
            ("SWEAT:", ("SWEAT", "sweat", None, None)),
            ("Base:", ("Base", None, None, None)),
            ("To finish:", ("To finish", "finish", None, None)),
        ):
            (stage,) = read_recipe_text(f"{head}\n2 kg leeks").stages
            self.assertEqual((stage.name, stage.step.method, stage.step.minutes, stage.step.celsius), wanted, head)
            self.assertEqual(stage.lines, ["2 kg leeks"])

    def test_nothing_is_lost(self) -> None:
        for text in (
            SOUP,
            "2 kg leeks\n1 l water",
            "Leek soup\n\n• 2 kg leeks\n• 1 l water\nSweat the leeks gently in butter.",
        ):
            found = read_recipe_text(text)
            kept = [found.name or "", *found.aside, *(row for one in found.stages for row in one.lines), *found.told]
            for row in text.splitlines():
                bare = row.strip("•: ").removeprefix("1. ").removeprefix("2. ").strip()
                is_head = not bare or bare in ("Method", "For the roast", "Soup") or bare.startswith(("Roast 45", "Simmer for"))
                self.assertTrue(is_head or bare in kept, row)


class FromPaper(unittest.TestCase):
    def test_an_empty_kitchen_asks_for_what_it_does_not_know(self) -> None:
        found, sheet = paste(SOUP)
        self.assertEqual([line.text for line in found.lines if line.is_open], [])
        self.assertEqual(
            [item.name for item in found.items], ["Celeriac", "Cooking apples", "Butter, unsalted", "Water", "Bay leaves"]
        )
        # Nobody has said yet that water costs nothing, either.
        self.assertEqual([one.name for one in found.goods], [item.name for item in found.items])
        self.assertFalse(sheet.complete)
        # Its method blends it: that is a stage of its own, as it thickens the pot.
        self.assertEqual([stage.method for stage in found.recipe.stages], ["roast", "simmer", "blend"])
        self.assertEqual(found.recipe.stages[1].from_[0].stage, found.recipe.stages[0].id)

    def test_with_prices_it_has_a_cost(self) -> None:
        first, _ = paste(SOUP)
        prices = ("7", "2.20", "9", "0", "40")
        goods = [Goods(one.item, "1 kg", price, "The farm") for one, price in zip(first.goods, prices, strict=True)]
        found, sheet = paste(SOUP, goods=goods)
        self.assertEqual([one.name for one in found.suppliers], ["The farm"])
        self.assertEqual([one.problem for one in found.goods], [None] * 5)
        self.assertTrue(sheet.complete, sheet.problems)
        # By hand: 3.5 kg, 1.2 kg, 150 g and two leaves of 0.2 g as bought.
        cost = 3.5 * 7 + 1.2 * 2.2 + 0.15 * 9 + 0.0004 * 40
        assert sheet.batch.food_cost is not None
        allowance = 1 + float(demo().settings.seasoning_allowance)
        self.assertAlmostEqual(float(sheet.batch.food_cost), cost * allowance, 6)

    def test_a_wrong_price_is_asked_about_in_its_place(self) -> None:
        first, _ = paste(SOUP)
        for pack, price, supplier, words in (
            ("1 kg", "seven", "The farm", "no price"), ("a sack", "7", "The farm", "a sack"), ("1 kg", "7", "", "from whom"),
            ("1 kg", "1,200", "The farm", "1200 or 1.200"), ("1 firkin", "7", "The farm", "firkin"),
            ("1 g", "9999999999", "The farm", "a kilo"), ("1 kg", "1e999", "The farm", "less than"),
            ("1 kg", "NaN", "The farm", "no price"), ("1 kg", "-1", "The farm", "at least 0"),
        ):  # fmt: skip
            found, _ = paste(SOUP, goods=[Goods(first.goods[0].item, pack, price, supplier)])
            self.assertIn(words, str(found.goods[0].problem))

    def test_what_is_not_sure_is_open_until_it_is_answered(self) -> None:
        text = "2 kg potatoes\n1 kg flux capacitors\n500 g leeks\n2 tins plum tomatoes"
        found, _ = paste(text)
        self.assertEqual([line.is_open for line in found.lines], [True, True, False, False])
        answers = [LineAnswer("2 kg potatoes", shelf="potato-waxy"), LineAnswer("1 kg flux capacitors", left_out=True)]
        found, _ = paste(text, answers)
        self.assertEqual((found.open, found.recipe.stages[0].note), (0, "Left out: 1 kg flux capacitors"))
        self.assertEqual(found.lines[0].typed.name, "Potatoes, waxy")
        (tomato,) = [one for one in found.goods if one.name.startswith("Plum")]
        self.assertEqual(tomato.weights, ["tin"])
        told = [Goods(tomato.item, "6 x 400 g", "5.40", "Shop", {"tin": "700 g"})]
        _, sheet = paste(text, answers, told)
        self.assertEqual(sheet.lines[2].ap_g, 1400)

    def test_an_answer_stays_with_its_line_while_the_text_is_edited(self) -> None:
        text = "1 kg moon dust\n2 kg potatoes\n1 kg moon dust"
        answers = [LineAnswer("2 kg potatoes", shelf="potato-waxy"), LineAnswer("1 kg moon dust #2", left_out=True)]
        found, _ = paste(f"500 g leeks\n{text}", answers)
        self.assertEqual([line.is_open for line in found.lines], [False, True, False, False])
        self.assertEqual([line.left_out for line in found.lines], [False, False, False, True])
        # What was answered of a line that says something else now is asked again.
        found, _ = paste(text.replace("potatoes", "sausages"), answers)
        self.assertEqual([line.is_open for line in found.lines], [True, True, False])

    def test_weights_are_read_as_they_are_typed(self) -> None:
        for typed, grams in (("400", 800), ("400 g", 800), ("½ kg", 1000), ("1 lb", 2 * 453.59237)):
            _, sheet = paste("2 tins plum tomatoes", goods=[Goods("plum-tomato", weights={"tin": typed})])
            self.assertAlmostEqual(float(sheet.lines[0].ap_g or 0), grams, 6, typed)
        for typed, words in (("1,200 g", "1200 or 1.200"), ("a lot", "not a quantity"), ("2 l", "needs a unit of mass")):
            found, _ = paste("2 tins plum tomatoes", goods=[Goods("plum-tomato", weights={"tin": typed})])
            self.assertIn(words, str(found.goods[0].problem), typed)
            self.assertEqual(found.goods[0].weights, ["tin"])

    def test_the_weight_of_a_pack_is_asked_for(self) -> None:
        goods = Goods("plum-tomato", "3 tin", "4.20", "Shop")
        found, sheet = paste("1 kg plum tomatoes, canned", goods=[goods])
        self.assertEqual(([one.weights for one in found.goods], sheet.complete), ([["tin"]], False))
        found, sheet = paste("1 kg plum tomatoes, canned", goods=[replace(goods, weights={"tin": "400"})])
        self.assertEqual((sheet.complete, sheet.lines[0].cost), (True, Decimal("3.5")))

    def test_what_is_too_long_is_said_and_never_cut(self) -> None:
        found, _ = paste("2 kg leeks (" + "as thin as a leaf " * 20 + ")")
        self.assertIn("at most 200 characters", str(found.lines[0].typed.problem))
        found, _ = paste("1 1/2 kg leeks and " * 40)
        self.assertIn("a line has at most 500 characters", str(found.lines[0].typed.problem))
        with self.assertRaisesRegex(BadDocument, "at most 2000 characters"):
            paste("2 kg leeks\n\nMethod\n" + "Stir it well and stir it long, then stir it again.\n" * 50)

    def test_a_new_item_that_nobody_knows(self) -> None:
        both = [LineAnswer(line, new="Flux capacitors") for line in ("1 kg flux capacitors", "2 kg flux capacitors")]
        found, _ = paste("1 kg flux capacitors\n2 kg flux capacitors", both)
        self.assertEqual([item.id for item in found.items], ["flux-capacitors"])

    def test_in_a_kitchen_that_knows_them_nothing_is_asked(self) -> None:
        found, sheet = paste(
            "Leeks today\n2 kg leeks, sliced\n500 ml cream\n2 l white chicken stock", costing=Costing(demo(), DAY)
        )
        self.assertEqual((found.open, found.goods, found.items, sheet.complete), (0, [], [], True))
        self.assertEqual(found.recipe.id, "leeks-today")

    def test_how_many_there_are_says_how_large_each_is_in_the_kitchens_units(self) -> None:
        text = "2 kg leeks, sliced\n4 l water\nSimmer 30 min, lid on\nServes 12"
        units: dict[MeasureSystem, str] = {"metric": "ml", "us": "fl oz"}
        for system, unit in units.items():
            there = replace(demo(), settings=replace(demo().settings, measure_system=system))
            found, sheet = paste(text, costing=Costing(there, DAY))
            assert found.portion is not None
            self.assertTrue(str(found.recipe.servings[0].size).endswith(unit))
            self.assertEqual((found.portion.by, sheet.servings[0].whole_portions), ("count", 12))

    def test_while_nobody_knows_how_large_a_portion_is_there_is_none(self) -> None:
        text = "1 kg onions\n2 tins plum tomatoes\n4 l water\nSimmer 30 min, lid on\nServes 12"
        found, _ = paste(text)
        assert found.portion is not None
        self.assertEqual((found.portion.size, found.recipe.servings, found.portion.is_open), (None, (), False))
        self.assertIn("Serves 12", found.recipe.stages[0].note or "")
        found, sheet = paste(text, goods=[Goods("plum-tomato", weights={"tin": "400"})])
        self.assertEqual(sheet.servings[0].whole_portions, 12)
        # A size that it says itself stands.
        found, _ = paste(text.replace("Serves 12", "12 portions of 250 ml"))
        self.assertEqual(str(found.recipe.servings[0].size), "250 ml")

    def test_two_sizes_of_a_portion_are_asked_about_while_a_line_waits_where_the_batch_is_written(self) -> None:
        text = "1 kg flux capacitors\n8 l water\nSimmer 30 min, lid on\n20 portions of 250 ml"
        for makes, asked in (("Makes 6 l", ("291 ml", None)), ("", (None, "size"))):
            found, _ = paste(f"{text}\n{makes}")
            assert found.portion is not None
            self.assertEqual((found.portion.size, found.portion.by), asked)

    def test_a_reduction_of_what_nobody_has_weighed_is_a_question(self) -> None:
        text = "1 kg carrots\n2 tins plum tomatoes\n4 l water\nSimmer 30 min, lid on\nReduce by half"
        found, sheet = paste(text)
        self.assertEqual(found.recipe.stages[-1].change.rule, "keep")
        self.assertIn("reduced", [one.params["about"] for one in sheet.warnings if one.message_code == "asked"])
        weighed = [Goods("plum-tomato", weights={"tin": "400"})]
        found, _ = paste(text, goods=weighed)
        self.assertEqual(found.recipe.stages[-1].change.rule, "yield")
        self.assertIn("50% of the liquid goes up here", found.recipe.stages[-1].note or "")

    def test_what_is_reduced_to_so_much_is_the_liquid(self) -> None:
        text = "1 kg carrots\n1 l water\n500 ml cream\nSimmer 30 min, lid on\nReduce to 1 l"
        found, sheet = paste(text)
        (*_, last) = found.recipe.stages
        # What lies whole in it stays; cream is as much of the liquid as water is.
        self.assertEqual((found.open, str(last.change.to)), (0, "2 kg"))
        self.assertEqual(last.note, "the liquid is reduced to 1 l here; with what is solid, 2 kg are left")
        self.assertEqual(sheet.batch.mass_g, 2000)
        # What was taken out before is not there any more; what comes out after is.
        for where, wanted in (
            ("Lift out the carrots. Reduce to 1 l.", "1 l"),
            ("Reduce to 1 l. Lift out the carrots.", "2 kg"),
        ):
            found, _ = paste(text.replace("Reduce to 1 l", where))
            (to,) = [stage.change.to for stage in found.recipe.stages if stage.change.rule == "reduce"]
            self.assertEqual(str(to), wanted, where)
        # While something in it is not weighed, how far all of it is reduced is a question.
        found, sheet = paste(text.replace("1 kg carrots", "2 tins plum tomatoes"))
        self.assertEqual(found.recipe.stages[-1].change.rule, "keep")
        self.assertIn("reduced", [one.params["about"] for one in sheet.warnings if one.message_code == "asked"])

    def test_short_orders_are_no_ingredients(self) -> None:
        text = "2 kg carrots\n3 l water\n20 g salt\nSimmer 20 min, lid on.\nSkim off the fat.\n{order}"
        for order in ("Season.", "Season to taste", "Serve hot", "Finish with parsley.", "Do not boil."):
            found, _ = paste(text.format(order=order))
            self.assertEqual((found.open, len(found.lines)), (0, 3), order)
            self.assertIn(order, "\n".join(stage.note or "" for stage in found.recipe.stages))
        # A word alone is the head of what stands below it.
        found, _ = paste(text.format(order="Finish\n500 ml cream"))
        self.assertEqual([line.item for line in found.recipe.stages[-1].lines], ["cream"])

    def test_what_stays_in_a_sieve_of_a_stock_whose_bones_were_lifted_out(self) -> None:
        text = "5 kg chicken carcasses\n1 kg carrots\n8 l water\nSimmer 5 hours, no lid. Take out the carcasses and strain."
        found, sheet = paste(text)
        (taken,) = found.recipe.stages[-1].take_out
        self.assertEqual((taken.of, taken.assumed), (("carrot",), True))
        self.assertIn("sieve", [one.params["about"] for one in sheet.warnings if one.message_code == "asked"])

    def test_what_is_reduced_twice_is_reduced_twice(self) -> None:
        text = "3 l red wine\n10 l water\n"
        for first, second in (("by half", "by half"), ("by three quarters", "to 4 l"), ("to 1 l", "to 4 l")):
            found, _ = paste(f"{text}Reduce the wine {first}. Add the water and reduce {second}.")
            self.assertEqual([stage.method for stage in found.recipe.stages], ["reduce", "reduce"], (first, second))
            self.assertEqual([len(stage.lines) for stage in found.recipe.stages], [1, 1])
        # A head and the sentence that says it once more are one.
        found, _ = paste(f"{text}Reduce by half:\nReduce by half, stirring it now and then.")
        self.assertEqual([stage.method for stage in found.recipe.stages].count("reduce"), 1)

    def test_meat_goes_by_its_animal(self) -> None:
        text = "2 kg beef shin, trimmed\n1 kg carrots\n3 l water\nFry the carrots 5 min. Add the beef and brown it.\n"
        found, _ = paste(f"{text}Pour on the water and simmer 2 hours, lid on.")
        (brown,) = [stage for stage in found.recipe.stages if stage.method == "brown"]
        self.assertEqual([line.item for line in brown.lines], ["beef-shin"])
        # What is made of the animal is not it.
        found, _ = paste(
            f"{text}Pour on the beef stock and simmer 2 hours, lid on.".replace("Add the beef and brown it", "Brown it")
        )
        self.assertEqual([line.item for line in found.recipe.stages[-1].lines], ["beef-shin", "water"])

    def test_what_is_added_after_another_thing_goes_where_that_goes(self) -> None:
        text = "1 kg carrots\n100 g plain flour\n500 ml red wine\n2 l water\nFry the carrots 5 min.\n"
        found, _ = paste(f"{text}Add the flour, then the wine, and reduce to 200 ml. Add the water and simmer 20 min, lid on.")
        reduced = next(stage for stage in found.recipe.stages if stage.method == "reduce")
        self.assertEqual([line.item for line in reduced.lines], ["flour", "red-wine"])

    def test_what_meat_is_picked_off_leaves_its_bones(self) -> None:
        text = "1 ham hock\n3 l water\nSimmer 2 hours, lid on. Lift out the hock, pick the meat and return it to the pot."
        hock = Item("hock", "Ham hock", "meat", measures={"each": Measure(parse_quantity("1 kg"))})
        for share, factor in ((None, Decimal("0.5")), (Decimal("0.3"), Decimal("0.3"))):
            there = EMPTY.with_items([replace(hock, bone_share=share)])
            found, _ = paste(text, costing=there)
            (out,) = found.recipe.stages[-1].take_out
            self.assertEqual((out.name, out.spent_factor, out.assumed), ("bones and skin", factor, True))

    def test_no_sentence_is_lost_wherever_it_stands(self) -> None:
        for text in (
            "Slip soup\nA soup for a cold day on the slip.\n\n2 kg leeks\n3 l water\nSimmer 20 min, lid on. Serve it hot.",
            "2 kg leeks\n3 l water\nStir it now and then, and mind the bottom.",
            "Leek soup\nMind the bottom of the pot, it catches.\nSimmer 20 min:\n2 kg leeks\n3 l water",
        ):
            found, _ = paste(text)
            kept = "\n".join(stage.note or "" for stage in found.recipe.stages)
            for row in text.splitlines():
                if row.endswith("."):
                    self.assertIn(row, kept)

    def test_ids_are_nobody_elses(self) -> None:
        self.assertEqual([id_for("Crème & co.", {"cr-me-co"}), id_for("日本", set())], ["cr-me-co-2", "new"])
