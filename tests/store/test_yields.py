"""Tests, sheets and adopted yields in PostgreSQL: nothing is taken away, and what was in use can be found again."""

from __future__ import annotations

import psycopg

from potrel.store import yields as yield_store
from potrel.store.errors import AlreadyThere, NotFound
from tests.core.trim.test_own_tests import bench
from tests.kitchens import demo
from tests.servers import DatabaseTest


class BenchTests(DatabaseTest):
    def setUp(self) -> None:
        super().setUp()
        self.whole = demo()
        self.fill(self.whole)

    def test_they_come_back_as_they_went_in(self) -> None:
        with self.store.reading() as connection:
            self.assertEqual(yield_store.load_tests(connection), self.whole.tests)

    def test_one_is_left_out_for_a_reason_and_counted_again(self) -> None:
        for reason in ("weighed wet", None, "in fact it was", None):
            with self.store.writing("test") as connection:
                yield_store.leave_out(connection, "t-1", reason, "Ada")
            with self.store.reading() as connection:
                self.assertEqual(yield_store.load_tests(connection)[0].left_out, reason)
        with self.store.reading() as connection:
            said = connection.execute("SELECT count(*) FROM bench_test_standing WHERE test = 't-1'").fetchone()
        self.assertEqual(said, (4,))

    def test_none_can_be_changed_or_taken_away(self) -> None:
        for statement in ("DELETE FROM bench_test", "UPDATE bench_test SET after_mass = '1 g'", "DELETE FROM adopted_yield"):
            with self.assertRaisesRegex(Exception, "append-only|only added"), self.store.writing("test") as connection:
                if "adopted" in statement:
                    yield_store.note_adopted(connection, "leek", "sliced", self.whole.items[0].preparations[0], "Ada")
                connection.execute(statement)

    def test_one_of_nothing_known(self) -> None:
        with self.assertRaises(NotFound), self.store.writing("test") as connection:
            yield_store.leave_out(connection, "none", "x", "Ada")
        with self.assertRaises(AlreadyThere), self.store.writing("test") as connection:
            yield_store.insert_tests(connection, [self.whole.tests[0]], "Ada")

    def test_a_test_of_no_item_is_refused(self) -> None:
        with self.assertRaises(Exception) as caught, self.store.writing("test") as connection:
            yield_store.insert_tests(connection, [bench("1 kg", "0.5 kg", id="new")], "Ada")
        self.assertNotIsInstance(caught.exception, psycopg.Error)

    def test_sheets_are_kept_changed_and_dropped(self) -> None:
        for body in ({"before": "4 kg"}, {"before": "4 kg", "parts": [{"name": "tops"}]}):
            with self.store.writing("test") as connection:
                yield_store.keep_sheet(connection, "s-1", "leek", body, "Ada")
            with self.store.reading() as connection:
                (sheet,) = yield_store.sheets(connection)
            self.assertEqual((sheet.id, sheet.item, sheet.body, sheet.started_by), ("s-1", "leek", body, "Ada"))
        with self.store.writing("test") as connection:
            yield_store.drop_sheet(connection, "s-1")
            yield_store.drop_sheet(connection, "s-1")
        with self.store.reading() as connection:
            self.assertEqual(yield_store.sheets(connection), [])

    def test_adopted_yields_the_newest_first_and_by_sort(self) -> None:
        leek = next(item for item in self.whole.items if item.id == "leek")
        mushroom = next(item for item in self.whole.items if item.id == "mushroom")
        with self.store.writing("test") as connection:
            yield_store.note_adopted(connection, "leek", "sliced", leek.preparations[0], "as it was")
            yield_store.note_adopted(connection, "leek", "sliced", mushroom.preparations[0], "Ada")
            yield_store.note_adopted(connection, "mushroom", "sweat", mushroom.cooking[0], "Ada")
        with self.store.reading() as connection:
            found = yield_store.adopted(connection, "leek", "preparation", "sliced")
            self.assertEqual([one.entry for one in found], [mushroom.preparations[0], leek.preparations[0]])
            self.assertEqual([one.by for one in found], ["Ada", "as it was"])
            (sweat,) = yield_store.adopted(connection, "mushroom", "cooking", "sweat")
            self.assertEqual(sweat.entry, mushroom.cooking[0])
            self.assertEqual(yield_store.adopted(connection, "mushroom", "preparation", "sweat"), [])

    def test_scores(self) -> None:
        with self.store.writing("test") as connection:
            for cook, kind, right in (("Ada", "buy", True), ("Ada", "buy", False), ("Ada", "batch", True), ("Jo", "buy", True)):
                yield_store.note_answer(connection, cook, kind, right)
            self.assertEqual(
                yield_store.answers(connection), [("Ada", "batch", 1, 1), ("Ada", "buy", 1, 2), ("Jo", "buy", 1, 1)]
            )
