"""Where what is lost in cooking goes: into the air, or into the pot. Checked against a mass balance of its own.

Which methods keep a loss in the pot is common practice, no source.
"""

from __future__ import annotations

import unittest
from fractions import Fraction
from typing import Any, NamedTuple

from hypothesis import given, settings
from hypothesis import strategies as st

from potrel.core.cost.costing import Costing
from potrel.core.pot.inputs import Inputs
from potrel.core.tell.explanations import explain
from potrel.core.tell.sheet_parts import SheetLine
from tests.examples import examples
from tests.kitchens import DAY, d, kitchen, sheet

METHODS = ("roast", "bake", "grill", "brown", "sear", "fry", "steam", "sweat", "simmer", "boil", "poach", "braise", "stew",
           "soak", "pressure", "slow", "finish")  # fmt: skip
WET = {"simmer", "boil", "poach", "braise", "stew", "soak", "pressure", "slow"}


def thousandths(low: int, high: int) -> st.SearchStrategy[Fraction]:
    return st.integers(low, high).map(lambda n: Fraction(n, 1000))


class Thing(NamedTuple):
    """Something that cooks: its mass, its yield (the line's own, or its item's), where its loss goes and what renders of it."""

    kilos: Fraction
    yield_: Fraction
    own: bool
    says: str | None
    rendered: Fraction

    def item(self, item_id: str, method: str) -> dict[str, Any]:
        """The item of it."""
        cooking = {"method": method, "yield": decimal(self.yield_), "rendered": decimal(self.rendered), **self._says()}
        return {"id": item_id} if self.own else {"id": item_id, "cooking": [cooking]}

    def line(self, item_id: str) -> dict[str, Any]:
        """The line of it."""
        line = {"item": item_id, "quantity": f"{decimal(self.kilos)} kg"}
        return {**line, "cook_yield": decimal(self.yield_), **self._says()} if self.own else line

    def _says(self) -> dict[str, str]:
        return {} if self.says is None else {"loss_to": self.says}

    def goes_up(self, method: str, lid: str) -> Fraction:
        """What leaves the pot, by the rule as the trade states it: written apart from the engine, with fractions."""
        lost = self.kilos - self.kilos * self.yield_
        to = self.says
        if to is None:
            to = "pot" if method in WET or (method == "sweat" and lid == "on") else "air"
        if to == "pot":
            return Fraction(0)
        return lost * (1 - self.rendered) if lost > 0 and not self.own else lost


THINGS = st.builds(
    Thing, thousandths(1, 5000), thousandths(200, 2500), st.booleans(), st.sampled_from([None, None, "air", "pot"]),
    thousandths(0, 1000),
)  # fmt: skip


class AgainstABalanceOfItsOwn(unittest.TestCase):
    @settings(max_examples=examples(150))
    @given(st.lists(THINGS, min_size=1, max_size=4), st.sampled_from(METHODS), st.sampled_from(["on", "ajar", "off"]))
    def test_what_is_in_the_pot_afterwards(self, some: list[Thing], method: str, lid: str) -> None:
        items = [one.item(f"i{number}", method) for number, one in enumerate(some)]
        lines = [one.line(f"i{number}") for number, one in enumerate(some)]
        made = kitchen(items, [{"stages": [{"id": "s", "method": method, "lid": lid, "lines": lines}]}])
        exact = Costing(made, DAY, Inputs(Fraction)).of("pot").balance  # type: ignore[arg-type]
        (stage,) = exact.stages
        put_in = sum((one.kilos for one in some), Fraction(0))
        up = sum((one.goes_up(method, lid) for one in some), Fraction(0))
        self.assertEqual(stage.mass_in, 1000 * (put_in - up))
        for line, one in zip(exact.lines, some, strict=True):
            self.assertEqual((line.ep, line.own), (1000 * one.kilos, 1000 * one.kilos * one.yield_))
            self.assertEqual((line.up, line.put), (1000 * one.goes_up(method, lid), line.ep - line.up))

    def test_the_sheet_says_what_went_up_and_what_stayed(self) -> None:
        shin = {"id": "shin", "cooking": [{"method": "braise", "yield": "0.6"}]}
        peas = {"id": "peas", "cooking": [{"method": "braise", "yield": "1.5"}]}
        stock = {"id": "stock"}
        pot = {
            "stages": [
                {
                    "id": "s",
                    "method": "braise",
                    "lines": [
                        {"item": "shin", "quantity": "5 kg"},
                        {"item": "peas", "quantity": "1 kg"},
                        {"item": "stock", "quantity": "4 kg"},
                    ],
                }
            ]
        }
        found = sheet(kitchen([shin, peas, stock], [pot]))
        (stage,) = found.stages
        self.assertEqual((stage.put_in_g, stage.cooked_g, stage.stayed_g, stage.mass_in_g), (10_000, 0, 1500, 10_000))
        self.assertEqual([told(line) for line in found.lines], [(3000, 0, 2000), (1500, 0, -500), (4000, 0, 0)])

    def test_a_sweat_keeps_its_moisture_under_a_lid(self) -> None:
        onion = {"id": "onion", "cooking": [{"method": "sweat", "yield": "0.9"}]}
        for lid, mass in (("on", 1000), ("ajar", 900), ("off", 900)):
            pot = {"stages": [{"id": "s", "method": "sweat", "lid": lid, "lines": [{"item": "onion", "quantity": "1 kg"}]}]}
            self.assertEqual(sheet(kitchen([onion], [pot])).batch.mass_g, mass, lid)

    def test_bacon_renders_and_its_fat_stays(self) -> None:
        bacon = {"id": "bacon", "cooking": [{"method": "fry", "yield": "0.3", "rendered": "0.4"}]}
        found = sheet(kitchen([bacon], [{"stages": [{"id": "s", "method": "fry", "lines": [
            {"item": "bacon", "quantity": "1 kg"}]}]}]))  # fmt: skip
        # 700 g are lost: 280 g of that is fat in the pan.
        self.assertEqual((told(found.lines[0]), found.batch.mass_g), ((300, 420, 280), 580))

    def test_a_yield_of_the_same_family_stands_in_and_says_so(self) -> None:
        # Dry, oven and wet heat each by themselves, sweat and steam alone: common practice, no source.
        shin = {
            "id": "shin",
            "kind": "meat",
            "cooking": [{"method": "stew", "yield": "0.6"}, {"method": "roast", "yield": "0.7"}],
        }
        for method, wanted in (("stew", "0.6"), ("braise", "0.6"), ("pressure", "0.6"), ("bake", "0.7"), ("sear", "1"),
                               ("steam", "1")):  # fmt: skip
            pot = {"stages": [{"id": "s", "method": method, "lines": [{"item": "shin", "quantity": "1 kg"}]}]}
            of = kitchen([shin], [pot], {"shin": "9"})
            found = sheet(of)
            self.assertEqual(found.lines[0].pot_g, 1000 * d(wanted), method)
            self.assertEqual([one.message_code for one in found.warnings], ["no_loss_known"] if wanted == "1" else [], method)
            costing = Costing(of, DAY)
            figure = explain(costing, "pot", f"line/s/{costing.of('pot').balance.lines[0].id}/pot_g")
            source = next(one.source for one in figure.inputs if one.name.startswith("cooking yield")) or ""
            self.assertEqual("which stands in here" in source, method in ("braise", "pressure", "bake"), method)
            self.assertEqual("no loss known" in source, wanted == "1", method)

    def test_what_nobody_said_is_lost_is_told_and_counts_as_an_estimate(self) -> None:
        def of(kind: str, **line: str) -> tuple[list[str], int]:
            pot = {"stages": [{"id": "s", "method": "roast", "lines": [{"item": "thing", "quantity": "1 kg", **line}]}]}
            costing = Costing(kitchen([{"id": "thing", "kind": kind}], [pot], {"thing": "9"}), DAY)
            one = costing.of("pot")
            return [each.message for each in one.balance.warnings], one.confidence.estimate

        for kind in ("vegetable", "root", "allium", "fruit", "meat", "fish", "bones"):
            (said,), estimates = of(kind)
            self.assertIn("no loss known of Thing: nothing is taken off", said)
            self.assertEqual(estimates, 1, kind)
        # What was said is known; spices, fat and what is poured do not shrink.
        self.assertEqual((of("meat", cook_yield="1"), of("fat"), of("spice"), of("stock")), (([], 0),) * 4)

    def test_what_drinks_more_than_there_is_cannot_be(self) -> None:
        beans = {"id": "beans", "cooking": [{"method": "simmer", "yield": "2"}]}
        for water, told in (("0.5 kg", ["1 kg Beans drink 1 kg; there is 0.5 kg of liquid: put in what they swell with"]),
                            ("1 kg", []), ("3 kg", [])):  # fmt: skip
            pot = {"stages": [{"id": "s", "method": "simmer", "lines": [
                {"item": "beans", "quantity": "1 kg"}, {"item": "water", "quantity": water}]}]}  # fmt: skip
            found = sheet(kitchen([beans, {"id": "water", "kind": "water"}], [pot], {"beans": "2", "water": "0"}))
            self.assertEqual([one.message for one in found.problems], told, water)


def told(line: SheetLine) -> tuple[Any, ...]:
    """What is left of a line, what went up of it, and what it gave to the pot."""
    return line.pot_g, line.up_g, line.stays_g


def decimal(value: Fraction) -> str:
    """A fraction of thousandths as it is written."""
    return str(d(value.numerator) / d(value.denominator))
