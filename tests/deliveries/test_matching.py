"""Whose lines are which items: remembered codes, GTINs, likeness; and whose list it is."""

from __future__ import annotations

import unittest
from dataclasses import replace

from potrel.core.buy.price_list import ListLine, Match
from potrel.core.kitchen.items import Item
from potrel.core.kitchen.kitchen import Kitchen
from potrel.core.rooms.review import ListChoices
from potrel.deliveries.matching import Matching
from potrel.deliveries.understanding import Understood, understand
from potrel.demo import demo_lists
from tests.kitchens import DAY, demo

# How wholesalers write what the demo's kitchen buys (made up in the manner of the trade), and what is none of it.
_EXACT = {
    "Peppers red cl1": "red-pepper", "SWEETCORN FRZ 4X2.5KG": "sweetcorn", "SWEETCORN TINNED": "sweetcorn-can",
    "KALE CURLY": "kale", "BEEF SHIN BNLS": "beef-shin", "SWEDES": "swede", "OIL OLIVE": "olive-oil",
    "Haddock smoked fillet": "smoked-haddock", "BUTTER SALTED": "butter", "Beetroots": "beetroot", "RUTABAGA 10KG": "swede",
    "Flat parsley": "parsley",
}  # fmt: skip
_LIKE = {
    "LEEKS WASHED CL1": ("leek", "washed", ""), "ONIONS BROWN": ("onion", "brown", ""),
    "CARROTS WASHED": ("carrot", "washed", ""), "CREAM UHT 35%": ("cream", "uht", ""),
    "PARSLEY FLAT": ("parsley", "flat", ""), "LENTILS RED SPLIT": ("red-lentil", "split", ""), "CREAM": ("cream", "", "35"),
}  # fmt: skip
# Another state, part or process is another thing, however alike it is called.
_ANOTHER = (
    "LEEKS FROZEN", "CARROTS DICED", "BUTTER UNSALTED", "SWEETCORN", "HADDOCK FILLET", "CELERY SEED", "ONION POWDER",
    "TOMATOES PLUM PEELED TINS", "CREAM 18%", "SALT SMOKED", "PARSLEY DRIED",
)  # fmt: skip
_UNLIKE = ("TOILET PAPER", "Hake steaks", "WASHING UP LIQUID", "SUGAR GRANULATED", "CHERVIL ROOT")


def matched(*lines: ListLine, of: Kitchen | None = None, supplier: str | None = "saltmarsh") -> list[Match]:
    return list(Matching(of or demo()).of(lines, supplier))


def line(name: str, code: str | None = None, gtin: str | None = None, item: str | None = None) -> ListLine:
    return ListLine(1, name, name, code, gtin, item=item)


def understood(data: bytes, of: Kitchen, choices: ListChoices | None = None) -> Understood:
    *_, last = understand(data, of, choices or ListChoices())
    assert isinstance(last, Understood)
    return last


class Likeness(unittest.TestCase):
    def test_names_of_the_trade(self) -> None:
        for name, item in _EXACT.items():
            with self.subTest(name):
                (found,) = matched(line(name))
                self.assertEqual((found.item, found.how), (item, "name"))
        for name, (item, more, less) in _LIKE.items():
            with self.subTest(name):
                (found,) = matched(line(name))
                self.assertEqual((found.item, found.how, " ".join(found.more)), (item, "likely", more))
                self.assertEqual(" ".join(found.less), less)

    def test_another_state_part_or_process_is_another_thing(self) -> None:
        for name in _ANOTHER:
            with self.subTest(name):
                (found,) = matched(line(name))
                self.assertEqual((found.item, found.how), (None, "none"))

    def test_a_number_is_part_of_a_name_and_that_of_its_pack_is_not(self) -> None:
        of = Kitchen("potrel-kitchen", 1, "Mill", "EUR", items=(Item("flour", "Weizenmehl Type 550", "dry goods"),))
        for name, item, how in (("Weizenmehl Type 550", "flour", "name"), ("WEIZENMEHL TYPE 405", None, "none"),
                                ("Weizenmehl Type", "flour", "likely")):  # fmt: skip
            whole = ListLine(1, f"{name} 25 kg", name)
            (found,) = matched(whole, of=of)
            self.assertEqual((found.item, found.how), (item, how), name)

    def test_what_is_not_bought_is_not_taken_for_something(self) -> None:
        for name in _UNLIKE:
            with self.subTest(name):
                self.assertIsNone(matched(line(name))[0].item)

    def test_the_nearest_are_proposed(self) -> None:
        self.assertIn("smoked-haddock", matched(line("Hake fillet"))[0].others)

    def test_an_empty_kitchen(self) -> None:
        empty = Kitchen("potrel-kitchen", 1, "Empty", "EUR")
        self.assertEqual(matched(line("leeks"), of=empty)[0].how, "none")


class Remembered(unittest.TestCase):
    def test_a_code_counts_for_its_supplier_only(self) -> None:
        coded = line("SOMETHING ELSE", code="RW-1007")
        self.assertEqual(matched(coded, supplier="ropewalk")[0], Match("squash-cubes", "code"))
        self.assertIsNone(matched(coded)[0].item)

    def test_a_gtin_counts_for_everybody(self) -> None:
        self.assertEqual(matched(line("X", gtin="2042000001371"))[0], Match("squash-cubes", "gtin"))

    def test_a_name_that_was_matched_before_is_known(self) -> None:
        of = demo()
        before = replace(of.offers[0], item="leek", supplier="saltmarsh", code="Poireaux")
        self.assertEqual(matched(line("Poireaux"), of=replace(of, offers=(*of.offers, before)))[0], Match("leek", "code"))

    def test_the_newest_matching_of_a_code_wins(self) -> None:
        of = demo()
        first = replace(of.offers[0], item="leek", supplier="saltmarsh", code="V9")
        both = replace(of, offers=(*of.offers, first, replace(first, item="fennel")))
        self.assertEqual(matched(line("X", code="V9"), of=both)[0].item, "fennel")

    def test_names_compared_before_it_is_known_whose_list_it_is_change_nothing(self) -> None:
        lines = [line("SOMETHING ELSE", code="RW-1007"), line("LEEKS WASHED CL1"), line("LEEKS WASHED CL1", code="RW-1014")]
        for supplier in ("ropewalk", "saltmarsh", None):
            ahead = Matching(demo())
            ahead.compare(lines)
            self.assertEqual(list(ahead.of(lines, supplier)), matched(*lines, supplier=supplier), supplier)

    def test_our_own_id(self) -> None:
        self.assertEqual(matched(line("X", item="leek"))[0], Match("leek", "item"))
        self.assertIsNone(matched(line("Q", item="no-such"))[0].item)


class WhoseList(unittest.TestCase):
    def setUp(self) -> None:
        self.of = demo()
        self.files = dict(demo_lists(DAY))

    def test_by_the_name_in_the_document(self) -> None:
        self.assertEqual(understood(self.files["quayside-invoice-2291.xml"], self.of).supplier, "quayside")
        foreign = self.files["quayside-invoice-2291.xml"].replace(b"Quayside Meat &amp; Fish", b"Harbour Cash and Carry")
        self.assertIsNone(understood(foreign, self.of).supplier)

    def test_by_its_letterhead(self) -> None:
        data = self.files["saltmarsh-week-48.csv"]
        self.assertEqual(understood(data, self.of).supplier, "saltmarsh")
        found = understood(data.replace(b"Saltmarsh Produce", b"Harbour Cash and Carry"), self.of)
        self.assertEqual((found.supplier, found.of.letterhead), (None, ("Harbour Cash and Carry",)))

    def test_by_the_heads_that_are_remembered(self) -> None:
        data = self.files["saltmarsh-week-48.csv"].replace(b"Saltmarsh Produce", b"")
        self.assertIsNone(understood(data, self.of).supplier)
        columns = {"name": "Goods", "price": "Price EUR", "code": "Art."}
        known = tuple(replace(one, columns=columns) if one.id == "saltmarsh" else one for one in self.of.suppliers)
        self.assertEqual(understood(data, replace(self.of, suppliers=known)).supplier, "saltmarsh")

    def test_remembered_columns_are_read_at_once(self) -> None:
        data = b"Was;Wieviel;Kostet\nLEEKS;5 kg;11,40\n"
        columns = {"name": "Was", "pack": "Wieviel", "price": "Kostet"}
        known = tuple(replace(one, columns=columns) if one.id == "saltmarsh" else one for one in self.of.suppliers)
        found = understood(data, replace(self.of, suppliers=known))
        self.assertEqual((found.supplier, len(found.of.lines)), ("saltmarsh", 1))

    def test_by_codes_that_only_one_uses(self) -> None:
        data = b"Code;Price;Article\nRW-1007;19.20;X\nRW-1014;20.10;Y\nRW-9999;1.00;Z\n"
        self.assertEqual(understood(data, self.of).supplier, "ropewalk")

    def test_what_a_person_says_wins(self) -> None:
        data = self.files["quayside-invoice-2291.xml"]
        self.assertEqual(understood(data, self.of, ListChoices(supplier="saltmarsh")).supplier, "saltmarsh")
