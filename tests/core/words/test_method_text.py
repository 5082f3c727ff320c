"""What the sentences of a method do: each phrase that cooks write, and what it is taken for."""

from __future__ import annotations

import unittest
from decimal import Decimal

from hypothesis import given, settings
from hypothesis import strategies as st

from potrel.core.words.laying_out import lay_out, thing_of
from potrel.core.words.makes_text import Makes, is_what_it_makes, read_makes
from potrel.core.words.method_text import degrees_in, minutes_in, read_steps
from potrel.core.words.recipe_text import read_recipe_text
from tests.examples import examples

# What is said; what it does, how, for how long [min], how hot, under which lid, what is left or to what.
_STEPS = (
    ("Reduce to 6 l", "cook reduce - - - 6 l"),
    ("Reduce by half.", "cook reduce - - - 0.5"),
    ("reduce by two thirds", "cook reduce - - - 0.33"),
    ("reduce to a third", "cook reduce - - - 0.33"),
    ("reduce by 3/4", "cook reduce - - - 0.25"),
    ("reduce by 40%", "cook reduce - - - 0.6"),
    ("Simmer until reduced by half, about 40 minutes", "cook reduce 40 - - 0.5"),
    ("reduce until 2 litres are left", "cook reduce - - - 2 litres"),
    ("Boil down 2 hours", "cook reduce 120 boil - -"),
    ("Reduce", "cook reduce - boil - -"),
    ("Simmer 8 hours, no lid", "cook simmer 480 simmer off -"),
    ("barely simmer for six hours", "cook simmer 360 bare_simmer - -"),
    ("Simmer gently, covered, 1 1/2 hours", "cook simmer 90 simmer on -"),
    ("lid ajar, simmer 30 min", "cook simmer 30 simmer ajar -"),
    ("Put the lid on and simmer an hour", "cook simmer 60 simmer on -"),
    ("Boil hard for 10 minutes", "cook boil 10 boil - -"),
    ("Simmer 2 hours, uncovered for the last 30 minutes", "cook simmer 120 simmer covered_then_open -"),
    ("cook 40 minutes", "cook simmer 40 - - -"),
    ("Poach at 80 C for 20 min", "cook poach 20 80 - -"),
    ("Braise in the oven at 160 C, covered, 2 1/2 hours", "cook braise 150 160 on oven"),
    ("Braise at 325F for 3 hours", "cook braise 180 163 - oven"),
    ("in the oven at 160 for 2 hours", "cook braise 120 160 - oven"),
    ("Roast 45 min at 190", "cook roast 45 190 - -"),
    ("Cover with foil and roast 1 h at 180", "cook roast 60 180 on -"),
    ("Soak overnight", "cook soak 720 - - -"),
    ("Blend until smooth", "cook blend - - - -"),
    ("Strain", "sieve strain - - - -"),
    ("Pass through a fine sieve", "sieve strain - - - -"),
    ("push it through a colander", "sieve strain - - - -"),
    ("Lift the bones out", "lift - - - - -"),
    ("Remove the bay leaves", "lift - - - - -"),
    ("Skim", "skim strain - - - -"),
    ("Pick the meat off the bones", "pick - - - - -"),
    ("Drain", "drain - - - - -"),
    ("Pour off the fat", "fat - - - - -"),
    ("Skim off the fat", "fat - - - - -"),
    ("Top up with water to 8 l", "top_up - - - - 8 l"),
    ("Make up to 4 gal", "top_up - - - - 4 gal"),
    ("Thin with water to 4 gal", "top_up - - - - 4 gal"),
    ("Let it down with stock to about 6 l", "top_up - - - - 6 l"),
    ("Do not boil.", "say - - - - -"),
    ("Reduce the heat and simmer 1 hour", "cook simmer 60 simmer - -"),
    ("Reduce to a simmer for 40 minutes", "cook simmer 40 simmer - -"),
    ("Reduce to a bare simmer and cook 1 hour", "cook simmer 60 bare_simmer - -"),
    ("Reduce to 1 l over a medium heat", "cook reduce - - - 1 l"),
    ("Bring to a boil and cook 10 minutes", "cook boil 10 boil - -"),
    ("Let it tick over for 3 hours", "cook simmer 180 simmer - -"),
    ("Simmer 45 mins with the lid half on", "cook simmer 45 simmer ajar -"),
    ("Bake covered in a 350F oven for 2 1/2 hours", "cook bake 150 177 on -"),
    ("Skim occasionally", "say - - - - -"),
    ("Blitz until smooth", "cook blend - - - -"),
    ("Hold at a bare simmer 10 min", "cook simmer 10 bare_simmer - -"),
    ("Simmer 20 minutes without letting it boil", "cook simmer 20 simmer - -"),
    ("Bring back to 9 l with water", "top_up - - - - 9 l"),
    ("Lid on, low oven (150) for 3 hrs", "cook braise 180 150 on oven"),
    ("Thin with water to taste", "say - - - - -"),
    # What changes nothing that is weighed, or does it to the next thing.
    ("Take off the heat", "say - - - - -"),
    ("Bring to the boil", "add - - boil - -"),
    ("Cover with cold water", "add - - - - -"),
    ("Lift the lid off", "say - - - off -"),
    ("Season and serve", "add - - - - -"),
    ("Cook until soft", "say - - - - -"),
    ("Add the roasted bones", "add - - - - -"),
    ("Cool it down", "cook cool - - - -"),
    ("Chill.", "cook cool - - - -"),
    ("Strain, cool and refrigerate overnight", "cook cool - - - -"),
    ("Let it cool slightly", "say - - - - -"),
    ("Cool to room temperature", "say - - - - -"),
)


class Sentences(unittest.TestCase):
    def test_each_phrase(self) -> None:
        for text, wanted in _STEPS:
            with self.subTest(text):
                step = read_steps(text)[-1]
                minutes = "-" if step.minutes is None else f"{step.minutes.normalize():f}"
                ends = str(step.to) if step.to else f"{step.left:.2g}" if step.left else "oven" if step.in_oven else "-"
                hot = step.heat or ("-" if step.celsius is None else str(step.celsius))
                found = f"{step.does} {step.method or '-'} {minutes} {hot} {step.lid or '-'} {ends}"
                self.assertEqual(found, wanted)

    def test_a_long_sentence_is_done_step_by_step(self) -> None:
        text = (
            "Roast the bones at 220 for 45 minutes, pour off the fat, deglaze with wine, add water and simmer 8 hours without a"
            " lid, skimming; strain and reduce by half."
        )
        self.assertEqual([step.does for step in read_steps(text)], ["cook", "fat", "add", "add", "cook", "sieve", "cook"])

    def test_times_and_heats(self) -> None:
        for text, minutes in (
            ("half an hour", 30), ("an hour and a half", 90), ("two and a half hours", 150), ("2-3 hours", 150),
            ("1 h 20 min", 80),
            ("20 to 30 minutes", 25), ("three quarters of an hour", 45), ("a minute", 1), ("8 hrs", 480), ("2½ hours", 150),
        ):  # fmt: skip
            self.assertEqual(minutes_in(text), Decimal(minutes), text)
        for text, celsius in (("at 350F", 177), ("at 190", 190), ("at 400", 204), ("to 85 °C", 85), ("oven at 160", 160)):
            self.assertEqual(degrees_in(text), Decimal(celsius), text)
        # A weight and a number of pieces are no heat.
        for text in ("to 200 g", "cut into 50 pieces", "add 300 ml", "at 1/2 speed", "20 minutes"):
            self.assertIsNone(degrees_in(text), text)


_WORDS = (
    "reduce by to 1/0 0/3 half 3 h hours min 20 - , . ; and then simmer boil strain lid off no ajar cover with water until l",
    "kg 6 ½ 1 1/2 % 400 F C ° at oven in the 160 pick meat remove top up make 8 add serves makes portions of 250 ml ( ) last",
    "an two thirds soak overnight 1,200 1.2.3 9999999999 bones back return fat pour off through",
)
_EACH = [word for line in _WORDS for word in line.split()]


class Anything(unittest.TestCase):
    @settings(max_examples=examples(200))
    @given(st.lists(st.sampled_from(_EACH), max_size=16).map(" ".join) | st.text(max_size=60))
    def test_no_text_is_too_odd(self, text: str) -> None:
        """What nobody can read stays a note; it never stops the rest from being read."""
        read_steps(text)
        made = read_makes([text])
        self.assertTrue(made.batch is None or made.batch.amount > 0)
        read = read_recipe_text(f"{text}\n3 kg leeks\n{text}.\n{text}")
        laid = lay_out(
            read, [thing_of(place, name, "vegetable") for place, one in enumerate(read.stages) for name in one.lines]
        )
        # Each line has its place in one stage, whatever the sentences say.
        lines = [at for one in laid for at in one.lines]
        self.assertEqual(sorted(lines), list(range(len(lines))))
        self.assertEqual(len(lines), sum(len(one.lines) for one in read.stages))


class WhatItMakes(unittest.TestCase):
    def test_each_way_of_saying_it(self) -> None:
        for row, batch, portions, size in (
            ("Makes 6 l", "6 l", None, None), ("Yield: about 4 gal", "4 gal", None, None), ("about 6 l", "6 l", None, None),
            ("Yields 3.5 kg", "3.5 kg", None, None), ("Serves 6", None, 6, None), ("Serves 6-8", None, 7, None),
            ("20 portions", None, 20, None), ("feeds 12 as a starter", None, 12, None), ("For 20", None, 20, None),
            ("Portions: 30", None, 30, None), ("20 portions of 250 ml", None, 20, "250 ml"), ("Makes 12", None, 12, None),
            ("Makes 16 bowls (300 ml)", None, 16, "300 ml"), ("Makes 37 Take-away cup of 300 ml", None, 37, "300 ml"),
        ):  # fmt: skip
            found = read_makes([row])
            told = (
                None if found.batch is None else str(found.batch),
                found.portions,
                None if found.size is None else str(found.size),
            )
            self.assertEqual(told, (batch, portions, size), row)
            self.assertTrue(is_what_it_makes(row), row)

    def test_lines_and_heads_are_none(self) -> None:
        for row in (
            "6 l water",
            "For the roast:",
            "20 onions",
            "For 20 minutes",
            "2 bowls of ice",
            "2 portions mashed potato",
            "Serve hot",
        ):
            self.assertFalse(is_what_it_makes(row), row)
        self.assertEqual(read_makes(["Makes 0 l", "Serves 0"]), Makes())
