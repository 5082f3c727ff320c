"""Lists, suppliers and credits in the database: kept whole, append-only, each fetched once a day by whoever comes first."""

from __future__ import annotations

from dataclasses import replace
from datetime import datetime

import psycopg

from potrel.core.buy.price_list import PriceList
from potrel.core.kitchen.quantities import parse_pack
from potrel.core.kitchen.supply import Credit, Offer
from potrel.core.rooms.review import LineChoice, ListChoices
from potrel.store.errors import AlreadyThere, NotFound, Refused
from potrel.store.kitchens import insert_kitchen, load_kitchen
from potrel.store.offers import insert_credits, insert_offers, load_credits, load_offers, of_price_list
from potrel.store.price_lists import (
    content_of,
    digest_of,
    drop_price_list,
    find_same,
    insert_price_list,
    load_price_list,
    price_lists,
    recorded_as,
    save_choices,
    settle,
)
from potrel.store.pushed import looked_at, mark_pushed, pushed, taken_back
from potrel.store.suppliers import claim_fetch, fetchings, load_suppliers, note_fetch_problem, update_supplier
from tests.kitchens import DAY, d, tiny
from tests.servers import DatabaseTest

LITRE = parse_pack("1 l")
_LIST = PriceList("delivery", (), number="7")
_CHOICES = ListChoices("valley", "delivery", {"name": "A", "price": ""}, (LineChoice(3, "cream", True, "1 l"),))


class StoreTest(DatabaseTest):
    def setUp(self) -> None:
        super().setUp()
        self.fill(tiny())

    def keep(self, content: bytes = b"x") -> int:
        with self.store.writing("test") as connection:
            return insert_price_list(connection, "week 48.csv", content, _LIST, "valley", "me")


class Lists(StoreTest):
    def test_kept_with_what_was_said_of_it(self) -> None:
        number = self.keep(b"\x00\xff bytes")
        with self.store.writing("test") as connection:
            save_choices(connection, number, _CHOICES, "price_list", "valley")
        with self.store.reading() as connection:
            stored = load_price_list(connection, number)
            self.assertEqual(content_of(connection, number), b"\x00\xff bytes")
            self.assertEqual((stored.choices, stored.kind), (_CHOICES, "price_list"))
            self.assertEqual((stored.state, stored.read_by, stored.document), ("open", "me", "7"))

    def test_the_same_bytes_are_recognised(self) -> None:
        number = self.keep()
        with self.store.reading() as connection:
            self.assertEqual((find_same(connection, digest_of(b"x")), find_same(connection, digest_of(b"y"))), (number, None))
        with self.assertRaises(AlreadyThere):
            self.keep()

    def test_the_same_document_in_other_bytes(self) -> None:
        first, second = self.keep(b"a"), self.keep(b"b")
        with self.store.writing("test") as connection:
            settle(connection, first, "recorded", "me", 3, [1, 2, 4])
            self.assertEqual(recorded_as(connection, "delivery", "7", "valley", second), first)
            self.assertIsNone(recorded_as(connection, "delivery", "8", "valley", second))
            self.assertIsNone(recorded_as(connection, "delivery", "7", "valley", first))

    def test_what_was_recorded_stays_as_it_is(self) -> None:
        number = self.keep()
        with self.store.writing("test") as connection:
            settle(connection, number, "recorded", "me", 3, [4, 1, 2])
            self.assertEqual(load_price_list(connection, number).taken, [1, 2, 4])
        with self.assertRaises(Refused), self.store.writing("test") as connection:
            drop_price_list(connection, number)

    def test_open_ones_first_then_the_newest(self) -> None:
        first, second, third = self.keep(b"a"), self.keep(b"b"), self.keep(b"c")
        with self.store.writing("test") as connection:
            settle(connection, second, "recorded", "me", 0, [])
            settle(connection, third, "undone", "me", 0, None)
            self.assertEqual([one.number for one in price_lists(connection)[0]], [first, third, second])
            drop_price_list(connection, first)
            with self.assertRaises(NotFound):
                load_price_list(connection, first)

    def test_wrong_rows_are_impossible(self) -> None:
        number = self.keep()
        for statement in (
            "UPDATE price_list SET state = 'recorded'",
            "UPDATE price_list SET kind = 'letter'",
            "UPDATE price_list SET digest = 'short'",
            "UPDATE supplier SET fetch_at = '25:00', catalogue_url = 'http://x'",
            "UPDATE supplier SET fetch_at = '06:00'",
            "UPDATE supplier SET catalogue_url = 'file:///x'",
            f"INSERT INTO credit (id, item, supplier, pack, packs, amount, credited_on, goods_back, recorded_by, price_list)"
            f" VALUES ('c', 'cream', 'valley', '1 l', 0, 1, '2026-01-01', true, 'me', {number})",
            "INSERT INTO offer (id, item, supplier, pack, price, valid_from, recorded_by, withdrawn)"
            " VALUES ('x', 'cream', 'valley', '1 l', 1, '2026-01-01', 'me', true)",
            "INSERT INTO pushed_past (recipe, serving, why) VALUES ('celeriac-soup', 'bucket', 'x')",
        ):
            with self.subTest(statement), self.assertRaises((Refused, psycopg.errors.Error)):
                with self.store.writing("test") as connection:
                    connection.execute(statement.encode())


class OffersAndCredits(StoreTest):
    def test_many_at_once_get_ids_in_their_order(self) -> None:
        number = self.keep()
        some = [Offer("cream", "valley", LITRE, d(n), DAY, code=f"C{n}", delivered=d(2)) for n in range(300)]
        with self.store.writing("test") as connection:
            recorded = insert_offers(connection, some, "me", number)
            more = insert_offers(connection, some[:1], "me")
        self.assertEqual(len({one.id for one in (*recorded, *more)}), 301)
        with self.store.reading() as connection:
            self.assertEqual(of_price_list(connection, number)[0], recorded)
            self.assertEqual(load_offers(connection)[-1], more[0])

    def test_one_wrong_one_and_none_is_recorded(self) -> None:
        some = [Offer("cream", "valley", LITRE, d(n), DAY) for n in range(50)]
        with self.assertRaises(Refused), self.store.writing("test") as connection:
            insert_offers(connection, [*some, Offer("ham", "valley", LITRE, d(1), DAY)], "me")
        with self.store.reading() as connection:
            self.assertEqual(len(load_offers(connection)), len(tiny().offers))

    def test_credits_are_append_only_and_part_of_the_kitchen(self) -> None:
        credit = Credit("cream", "valley", parse_pack("6 x 1 l"), d(1), d("27.00"), DAY, source="credit note 8")
        with self.store.writing("test") as connection:
            (recorded,) = insert_credits(connection, [credit], "me")
            insert_credits(connection, [replace(credit, withdraws=recorded.id)], "me")
        with self.assertRaises(Refused), self.store.writing("test") as connection:
            connection.execute("DELETE FROM credit")
        with self.store.reading() as connection:
            whole = load_kitchen(connection)
            self.assertEqual(whole.credits, load_credits(connection))
            self.assertEqual((len(whole.credits), whole.credits[1].withdraws), (2, recorded.id))
        with self.store.writing("test") as connection:
            insert_kitchen(connection, whole, "test", replace=True)
            self.assertEqual(load_kitchen(connection).credits, whole.credits)


class Fetching(StoreTest):
    def set(self, at: str | None) -> None:
        with self.store.writing("test") as connection:
            (one,) = load_suppliers(connection)
            later = replace(
                one, catalogue_url="http://127.0.0.1:1/c.xml", fetch_at=at, passed_over=("X",), columns={"name": "A"}
            )
            update_supplier(connection, later)
            self.assertEqual(load_suppliers(connection), (later,))

    def claim(self, moment: str) -> list[str]:
        with self.store.writing("test") as connection:
            return claim_fetch(connection, datetime.fromisoformat(moment))

    def test_once_a_day_from_its_hour_on(self) -> None:
        self.set("06:00")
        self.assertEqual(self.claim("2026-11-24T05:59"), [])
        self.assertEqual(self.claim("2026-11-24T06:00"), ["valley"])
        self.assertEqual(self.claim("2026-11-24T06:01"), [])
        self.assertEqual(self.claim("2026-11-25T23:00"), ["valley"])

    def test_what_went_wrong_is_told(self) -> None:
        self.set(None)
        self.assertEqual(self.claim("2026-11-24T23:00"), [])
        with self.store.writing("test") as connection:
            note_fetch_problem(connection, "valley", "it does not answer")
            ((supplier, on, problem),) = fetchings(connection)
        self.assertEqual((supplier.id, on, problem), ("valley", None, "it does not answer"))

    def test_a_supplier_that_is_not_there(self) -> None:
        with self.assertRaises(NotFound), self.store.writing("test") as connection:
            (one,) = load_suppliers(connection)
            update_supplier(connection, replace(one, id="nobody"))


class PushedPast(StoreTest):
    def test_marked_until_somebody_looks(self) -> None:
        serving = tiny().recipes[1].servings[0].id
        with self.store.writing("test") as connection:
            mark_pushed(connection, [("celeriac-soup", serving)], "price of Cream", ["o-1", "o-2"])
            self.assertEqual([row[:3] for row in pushed(connection)], [("celeriac-soup", serving, "price of Cream")])
            # Pushed again it was under its target meanwhile: the new reason counts.
            mark_pushed(connection, [("celeriac-soup", serving)], "list 3", ["list 3"])
            taken_back(connection, ["o-1"])
            self.assertEqual([row[2] for row in pushed(connection)], ["list 3"])
            taken_back(connection, ["list 3"])
            self.assertEqual(pushed(connection), [])
            mark_pushed(connection, [("celeriac-soup", serving)], "price of Cream", ["o-1"])
            looked_at(connection, "celeriac-soup")
            self.assertEqual(pushed(connection), [])
