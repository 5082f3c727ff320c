"""The review of a supplier's list: what becomes of each line, and why one is odd."""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import date
from decimal import Decimal
from typing import Any

from potrel.core.buy.price_list import ListKind, ListLine, Match, PriceList
from potrel.core.kitchen.kitchen import Kitchen
from potrel.core.kitchen.quantities import parse_pack
from potrel.core.kitchen.supply import Offer
from potrel.core.pot.day_view import DayView
from potrel.core.rooms.review import LineChoice, Reviewed, Reviewer
from potrel.core.sentences import say
from tests.kitchens import DAY, d, kitchen

_ITEMS: list[dict[str, Any]] = [{"id": "leek"}, {"id": "cream", "density": "1"}, {"id": "basil"}]


def shop() -> Kitchen:
    of = kitchen(_ITEMS, [], {"leek": "2.00"})
    cream = Offer("cream", "shop", parse_pack("6 x 1 l"), d("24.00"), date(2026, 11, 1), code="C1")
    return replace(of, offers=(*of.offers, cream))


def reviewed(
    *lines: ListLine,
    matches: list[Match] | None = None,
    choices: list[LineChoice] | None = None,
    kind: ListKind = "price_list",
    of: Kitchen | None = None,
    refers_to: str | None = None,
    on: date = DAY,
    recorded: list[int] | None = None,
) -> Reviewed:
    whole = PriceList(kind, lines, on=on, number="7", refers_to=refers_to)
    known = matches or [Match(line.item, "code" if line.item else "none") for line in lines]
    reviewer = Reviewer(DayView(of or shop(), DAY), whole, "shop", DAY, recorded)
    return reviewer.review(known, {choice.place: choice for choice in choices or []})


def line(item: str | None = "leek", pack: str | None = "1 kg", price: str = "2.20", **more: Any) -> ListLine:
    return ListLine(more.pop("place", 1), "LEEKS", "LEEKS", "L1", None, pack, d(price), item=item, **more)


class States(unittest.TestCase):
    def state(self, *args: Any, **more: Any) -> str:
        return reviewed(line(*args), **more).lines[0].state

    def test_changed_same_and_first(self) -> None:
        self.assertEqual(self.state(), "changed")
        self.assertEqual(self.state("leek", "5 kg", "10.00"), "same")
        self.assertEqual(self.state("basil", "1 kg", "9.00"), "new")

    def test_the_change_in_figures(self) -> None:
        one = reviewed(line("leek", "5 kg", "11.00")).lines[0]
        self.assertEqual((one.was, one.now, one.change), (d("2.00"), d("2.20"), d("0.1")))
        self.assertIn("the pack was 1 kg", one.notes)

    def test_a_name_that_is_only_like_it_waits_for_a_person(self) -> None:
        likely = [Match("leek", "likely", 90)]
        self.assertEqual(self.state(matches=likely), "likely")
        self.assertEqual(reviewed(line(), matches=likely).offers, [])
        self.assertEqual(self.state(matches=likely, choices=[LineChoice(1, "leek")]), "changed")

    def test_an_item_that_was_confirmed_may_still_be_odd(self) -> None:
        ten_fold = line("leek", "1 kg", "20.00")
        for choice, state in ((LineChoice(1, "leek"), "suspicious"), (LineChoice(1, "leek", confirmed=True), "changed")):
            found = reviewed(ten_fold, matches=[Match("leek", "likely", 90)], choices=[choice])
            self.assertEqual(found.lines[0].state, state)
            self.assertEqual(len(found.offers), state == "changed")

    def test_a_mistyped_price_is_corrected_and_the_list_keeps_what_it_said(self) -> None:
        ten_fold = line("leek", "1 kg", "22.00")
        found = reviewed(ten_fold, choices=[LineChoice(1, price=d("2.20"))])
        self.assertEqual((found.lines[0].state, found.lines[0].price, found.offers[0].price), ("changed", d("2.20"), d("2.20")))
        self.assertIn("the list says 22.00", found.lines[0].notes)
        # What was typed may be a slip as well, and what could not be read is mended by it.
        self.assertEqual(self.state("leek", "1 kg", "2.20", choices=[LineChoice(1, price=d("220"))]), "suspicious")
        unread = replace(line(), price=None, problem=say("price_unread", "its price is a riddle"))
        self.assertEqual(reviewed(unread, choices=[LineChoice(1, price=d("2.20"))]).lines[0].state, "changed")
        self.assertEqual(reviewed(unread).lines[0].state, "unusable")
        self.assertEqual(self.state(choices=[LineChoice(1, price=d("-1"))]), "unusable")

    def test_a_question_of_a_line_is_answered_by_what_it_asks_for(self) -> None:
        for code in ("before_or_after", "allowance_of_which"):
            asked = replace(line(), problem=say(code, "write what is paid"))
            self.assertEqual(reviewed(asked).lines[0].state, "unusable", code)
            self.assertEqual(reviewed(asked, choices=[LineChoice(1, price=d("2.20"))]).lines[0].state, "changed", code)

    def test_a_list_that_waits_is_held_against_what_is_in_force_now(self) -> None:
        of = shop()
        newer = replace(of, offers=(*of.offers, Offer("leek", "shop", parse_pack("1 kg"), d("2.60"), date(2026, 11, 15))))
        waiting = reviewed(line(price="2.50"), of=newer, on=date(2026, 11, 10)).lines[0]
        self.assertEqual((waiting.was, waiting.notes[-1]), (
            d("2.60"), "a newer price, of 2026-11-15, is in force: this one changes nothing today"))  # fmt: skip
        # What was recorded is told beside what was in force on its day.
        done = reviewed(line(price="2.50"), of=newer, on=date(2026, 11, 10), recorded=[1]).lines[0]
        self.assertEqual((done.was, done.notes), (d("2.00"), []))

    def test_what_was_left_out_of_a_recorded_list_is_what_is_left_to_write(self) -> None:
        lines = (line(), line("cream", "6 x 1 l", "25.00", place=2), line(None, place=3))
        found = reviewed(*lines, recorded=[1])
        self.assertEqual([one.recorded for one in found.lines], [True, False, False])
        self.assertEqual([one.item for one in found.offers], ["cream"])
        # Whatever is thought of it by now: it was recorded.
        self.assertEqual(reviewed(line(price="20"), recorded=[1]).lines[0].state, "changed")

    def test_no_item(self) -> None:
        self.assertEqual(self.state(None), "unmatched")
        self.assertEqual(self.state(None, choices=[LineChoice(1, "basil")]), "new")

    def test_what_cannot_be_used_says_what_would_mend_it(self) -> None:
        for bad, words in (
            (line(pack=None), 'its pack is not clear: write it as "5 kg"'),
            (line(price="-3.00"), "a credit belongs on a credit note"),
            (line(pack="3 flurb"), 'unknown unit "flurb"'),
            (line(problem=say("riddle", "its price is a riddle")), "its price is a riddle"),
            (line(price="99999999"), "is it a number of something else?"),
            (line(on=DAY, until=date(2026, 1, 1)), "is before its first"),
        ):
            with self.subTest(words):
                found = reviewed(bad)
                self.assertEqual((found.lines[0].state, found.offers), ("unusable", []))
                self.assertIn(words, found.lines[0].notes[0])
        self.assertEqual(self.state("leek", None, "4.20", choices=[LineChoice(1, pack="2 kg")]), "changed")

    def test_passed_over_here_and_in_later_lists(self) -> None:
        self.assertEqual(self.state(choices=[LineChoice(1, pass_over=True)]), "passed_over")
        of = shop()
        later = replace(of, suppliers=(replace(of.suppliers[0], passed_over=("L1",)),))
        self.assertEqual(self.state(of=later), "passed_over")
        self.assertEqual(self.state(of=later, choices=[LineChoice(1, "leek")]), "changed")

    def test_a_shortage_changes_nothing(self) -> None:
        found = reviewed(line(none_today=True))
        self.assertEqual((found.lines[0].state, found.offers), ("none_today", []))

    def test_a_pack_without_a_weight_asks_for_it(self) -> None:
        self.assertEqual(reviewed(line("basil", "10 bunch", "9.00")).lines[0].needs_weight, "bunch")

    def test_two_lines_of_one_item_are_noticed(self) -> None:
        found = reviewed(line(), line(place=2, price="2.10"))
        self.assertIn("another line is this item too", found.lines[1].notes[-1])

    def test_an_offer_of_the_same_code_is_what_it_follows(self) -> None:
        other = Offer("cream", "shop", parse_pack("1 l"), d("9.00"), date(2026, 11, 2), code="C2")
        of = shop()
        found = reviewed(
            replace(line("cream", "6 x 1 l", "25.20"), code="C1"), of=replace(of, offers=(*of.offers, other))
        ).lines[0]
        self.assertEqual((found.was, found.change), (d(4), d("0.05")))


class Odd(unittest.TestCase):
    def doubts(self, price: str, pack: str = "1 kg", item: str = "leek") -> str:
        return "; ".join(reviewed(line(item, pack, price)).lines[0].doubts)

    def test_slips(self) -> None:
        for price, pack, item, words in (
            ("20.00", "1 kg", "leek", "ten times the last one: is the decimal point"),
            ("0.20", "1 kg", "leek", "ten times this one"),
            ("200", "1 kg", "leek", "cents for whole money"),
            ("2.10", "1 g", "leek", "grams for kilos"),
            ("4.00", "6 x 1 l", "cream", "the price of one, or of the whole pack"),
            ("4.41", "1 kg", "leek", "as a kilo does from a pound"),
            ("13.00", "1 kg", "leek", "6.5 times the last one"),
            ("0", "1 kg", "leek", "is it a gift"),
        ):
            with self.subTest(words):
                self.assertIn(words, self.doubts(price, pack, item))

    def test_what_is_usual_is_not_odd(self) -> None:
        for price in ("1.34", "2.00", "2.66"):
            self.assertEqual(self.doubts(price), "")

    def test_what_moved_by_a_third_is_looked_at(self) -> None:
        for price, words in (("2.67", "34% dearer"), ("3.60", "80% dearer"), ("1.33", "34% cheaper")):
            self.assertIn(words, self.doubts(price))
            (found,) = reviewed(line(price=price)).lines
            self.assertEqual(found.state, "suspicious")

    def test_ounces_of_a_liquid_are_asked_once(self) -> None:
        of = kitchen([{"id": "stock", "kind": "stock", "density": "1.02"}, {"id": "flour"}], [])
        asked = reviewed(line("stock", "12 x 32 oz", "30"), of=of).lines[0]
        self.assertEqual(asked.state, "suspicious")
        self.assertIn("ounces by weight, or fluid ounces", asked.doubts[0])
        self.assertEqual(reviewed(line("flour", "12 x 32 oz", "30"), of=of).lines[0].doubts, [])
        # Exact: 384 US fluid ounces are 11.3562353518 l, at 1.02 kg a litre; 384 ounces are 10.88621688 kg.
        for said, kilos in (("fluid", "11.356235352"), ("weight", None)):
            whole = PriceList("price_list", (line("stock", "12 x 32 oz", "30"),), on=DAY, columns={"ounces": said})
            view = DayView(of, DAY)
            (found,) = Reviewer(view, whole, "shop", DAY).review([Match("stock", "code")], {}).lines
            mass = float(kilos) * 1.02 if kilos else 10.88621688
            self.assertEqual((found.state, found.doubts), ("new", []))
            self.assertAlmostEqual(float(found.now or 0), 30 / mass, 6)

    def test_a_line_without_an_item_shows_its_doubts(self) -> None:
        odd = ListLine(1, "MOON", "MOON", price=d("2"), doubt=say("riddle", "its amount is a riddle"))
        (found,) = reviewed(odd).lines
        self.assertEqual((found.state, found.doubts), ("unmatched", ["its amount is a riddle"]))

    def test_the_middle_of_a_range_is_marked_until_a_pack_is_said(self) -> None:
        middle = line(pack="11 lb", price="10.5", note=say("pack_middle", "11 lb is the middle"))
        self.assertIn("11 lb is the middle", reviewed(middle).lines[0].notes)
        self.assertNotIn("11 lb is the middle", reviewed(middle, choices=[LineChoice(1, pack="12 lb")]).lines[0].notes)


class Deliveries(unittest.TestCase):
    def test_what_was_delivered_stands_with_its_price(self) -> None:
        (offer,) = reviewed(line("leek", "5 kg", "11.00", quantity=d(3)), kind="delivery").offers
        self.assertEqual((offer.delivered, offer.source, offer.code, offer.on), (d(3), "invoice 7", "L1", DAY))

    def test_a_credit_is_no_price(self) -> None:
        delivered = Offer(
            "leek", "shop", parse_pack("5 kg"), d("10.50"), date(2026, 11, 20), source="invoice 44", delivered=d(4)
        )
        of = shop()
        of = replace(of, offers=(*of.offers, delivered, replace(delivered, price=d("12.00"), source="invoice 144", on=DAY)))
        back = line("leek", "5 kg", "10.50", quantity=d(2))
        found = reviewed(back, kind="credit_note", of=of, refers_to="44")
        self.assertEqual(found.offers, [])
        (credit,) = found.credits
        self.assertEqual((credit.packs, credit.amount, credit.goods_back), (d(2), d("21.00"), True))
        lowered = reviewed(replace(back, price=Decimal("1.50")), kind="credit_note", of=of, refers_to="44")
        self.assertFalse(lowered.credits[0].goods_back)
