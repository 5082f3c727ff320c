"""What is kept in memory under the version of the data: it is never older than the data, whatever overtakes what."""

from __future__ import annotations

import gc
import gzip
import json
import subprocess
import sys
import threading
import unittest
import weakref
from collections.abc import Callable
from contextlib import suppress
from dataclasses import replace
from datetime import timedelta
from decimal import Decimal
from typing import Any
from unittest.mock import patch

from potrel.bench import generated_kitchen
from potrel.core.cost.costing import Costing
from potrel.core.kitchen.quantities import parse_pack
from potrel.core.kitchen.recipes import Recipe
from potrel.core.kitchen.supply import Offer, Supplier
from potrel.core.tell.cost_sheet import sheet_of
from potrel.doing.board_text import BoardText
from potrel.doing.kitchens import Kitchens, recalled, remembering
from potrel.postgres import binaries
from potrel.store.changes import read_version
from potrel.store.database import Connection
from potrel.store.items import save_vessels, update_item
from potrel.store.kitchens import load_kitchen, save_settings
from potrel.store.offers import insert_offers
from potrel.store.prices import save_deals
from potrel.store.recipes import save_recipe, take_off_recipe
from potrel.store.revisions import load_earlier
from potrel.store.suppliers import insert_suppliers
from potrel.store.yields import insert_tests
from tests.kitchens import DAY, demo
from tests.servers import DatabaseTest


class Kept(DatabaseTest):
    kitchen = demo()

    def setUp(self) -> None:
        super().setUp()
        self.kitchens = Kitchens(self.store, lambda: DAY)

    def record(self, item: str, price: str, pack: str, supplier: str = "saltmarsh") -> None:
        with self.store.writing("test") as connection:
            insert_offers(connection, [Offer(item, supplier, parse_pack(pack), Decimal(price), DAY)], "test")

    def assertFresh(self) -> None:
        """The board that is kept is the one that is made from nothing."""
        with self.store.reading() as connection:
            costing = Costing(load_kitchen(connection), DAY).remembering(load_earlier(connection))
            fresh = BoardText().of(recalled(connection, costing))
        kept, anew = json.loads(self.kitchens.board()), json.loads(fresh)
        self.assertEqual(gzip.decompress(self.kitchens.packed_board()), self.kitchens.board())
        self.assertEqual(self.rows(kept), self.rows(anew))
        self.assertEqual(kept["need_a_price"], anew["need_a_price"])

    def rows(self, board: Any) -> Any:
        return {(row["recipe"], row["serving"]): row for row in board["rows"]}

    def test_prices_one_after_the_other(self) -> None:
        self.assertFresh()
        for item, price, pack in (("leek", "19.20", "5 kg"), ("onion", "40", "20 kg"), ("leek", "9.00", "5 kg")):
            self.record(item, price, pack)
            self.assertFresh()

    def test_prices_between_boards(self) -> None:
        self.assertFresh()
        self.record("leek", "19.20", "5 kg")
        self.kitchens.costing()
        self.record("parsnip", "19.20", "5 kg")
        self.kitchens.costing()
        self.assertFresh()

    def test_a_board_that_was_overtaken_spoils_nothing(self) -> None:
        self.kitchens.board()
        self.record("leek", "19.20", "5 kg")
        overtaken = self.kitchens.costing()
        self.record("parsnip", "19.20", "5 kg")
        self.assertFresh()
        # The one that waited gets the board of its own moment, and the next is right all the same.
        late = self.rows(json.loads(self.kitchens._boards.of(overtaken)))
        self.assertNotEqual(late, self.rows(json.loads(self.kitchens.board())))
        self.record("onion", "40", "20 kg")
        self.assertFresh()

    def test_a_saved_recipe_and_then_a_price(self) -> None:
        self.kitchens.board()
        stock = next(one for one in demo().recipes if one.id == "white-stock")
        changed = replace(stock, density=Decimal("1.05"))
        with self.store.writing("test") as connection:
            before = self.kitchens.seen_by(connection)
            save_recipe(connection, changed, 1, "test")
            after = remembering(connection, before.costing.replacing(changed), [changed.id])
            version = read_version(connection)
        self.kitchens.adopt(before, version, after)
        self.assertIs(self.kitchens.costing(), after)
        self.record("chicken-bones", "31", "10 kg", "quayside")
        self.assertFresh()

    def test_a_change_of_another_process(self) -> None:
        self.kitchens.board()
        soup = next(one for one in demo().recipes if one.id == "leek-potato")
        with self.store.writing("test") as connection:
            save_recipe(connection, replace(soup, name="Leek soup", stages=soup.stages[:2]), 1, "elsewhere")
        self.assertFresh()

    def kept_after(self, change: Callable[[Connection], object]) -> set[str]:
        """The recipes whose costing was taken over as it was, after a change that another process made."""
        self.kitchens.board()
        before = {one.recipe.id: one for one in self.kitchens.costing().all()}
        with self.store.writing("elsewhere") as connection:
            change(connection)
        self.assertFresh()
        return {one.recipe.id for one in self.kitchens.costing().all() if before.get(one.recipe.id) is one}

    def test_only_what_a_change_touched_is_read_and_costed_anew(self) -> None:
        whole = demo()
        nuts = next(one for one in whole.items if one.id == "hazelnut")
        soup = next(one for one in whole.recipes if one.id == "leek-potato")
        everything = {one.id for one in whole.recipes}
        with_nuts = {one.id for one in whole.recipes if "hazelnut" in one.uses_items()}

        kept = self.kept_after(lambda at: update_item(at, replace(nuts, name="Hazelnuts, blanched")))
        self.assertEqual(kept, everything - with_nuts)
        kept = self.kept_after(lambda at: save_recipe(at, replace(soup, name="Leek soup"), 1, "elsewhere"))
        self.assertEqual(kept, everything - {"leek-potato"})
        kept = self.kept_after(lambda at: insert_suppliers(at, [Supplier("mill", "Tide Mill")]))
        self.assertEqual(kept, everything)
        test = whole.tests[0]
        kept = self.kept_after(lambda at: insert_tests(at, [replace(test, id="t-new")], "elsewhere"))
        self.assertEqual(kept, everything)
        self.assertIn("t-new", {one.id for one in self.kitchens.costing().view.kitchen.tests})
        now = self.kitchens.costing().view.kitchen
        changed = replace(now.settings, tax_rate=Decimal("0.21"))
        kept = self.kept_after(lambda at: save_settings(at, now.name, now.currency, changed))
        self.assertEqual(kept, set())

    def test_what_was_taken_away_elsewhere_is_gone(self) -> None:
        self.kitchens.board()
        with self.store.writing("elsewhere") as connection:
            take_off_recipe(connection, "curried-parsnip", 1, "elsewhere")
        self.assertNotIn("curried-parsnip", self.kitchens.costing().view.recipes)
        self.assertFresh()

    def test_a_day_later_nothing_is_read_again_and_all_is_priced_anew(self) -> None:
        days = [DAY]
        kitchens = Kitchens(self.store, lambda: days[-1])
        first = kitchens.costing()
        days.append(DAY + timedelta(days=400))
        later = kitchens.costing()
        self.assertIs(later.view.kitchen, first.view.kitchen)
        self.assertEqual(later.on, DAY + timedelta(days=400))
        self.assertGreater(
            later.of("leek-potato").confidence.old_price_share, first.of("leek-potato").confidence.old_price_share
        )

    def test_settings_vessels_and_deals_read_what_they_name(self) -> None:
        self.kitchens.board()
        head = self.kitchens.costing().view.kitchen
        (kettle, *others), (deal, *_) = head.vessels, head.deals
        changes: tuple[Callable[[Connection], None], ...] = (
            lambda connection: save_settings(connection, "Other name", "GBP", replace(head.settings, decimal_sign="comma")),
            lambda connection: save_settings(connection, "Other name", "GBP", replace(head.settings, tax_rate=Decimal("0.2"))),
            lambda connection: save_vessels(connection, (replace(kettle, diameter_cm=Decimal(90), surface_m2=None), *others)),
            lambda connection: save_deals(connection, [replace(deal, price=Decimal("9.99"))]),
        )
        with patch("potrel.doing.kitchens.load_what_can_be", side_effect=AssertionError("the whole kitchen was read")):
            for change in changes:
                with self.store.writing("elsewhere") as connection:
                    change(connection)
                self.assertFresh()
        now = self.kitchens.costing().view.kitchen
        self.assertEqual((now.name, now.currency, now.deals[0].price), ("Other name", "GBP", Decimal("9.99")))

    def test_only_what_the_settings_reach_is_costed_anew(self) -> None:
        before = self.kitchens.costing()
        settings = before.view.settings
        shown, taxed = replace(settings, date_style="month_first"), replace(settings, tax_rate=Decimal("0.2"))
        for other, same in ((shown, True), (taxed, False)):
            with self.store.writing("elsewhere") as connection:
                save_settings(connection, "Name", "EUR", other)
            again = self.kitchens.costing()
            self.assertIs(again.of("leek-potato") is before.of("leek-potato"), same)

    def test_what_a_transaction_has_written_is_shared_with_nobody_before_it_ends(self) -> None:
        before = self.kitchens.costing().view.stated_price("leek")
        with suppress(ZeroDivisionError), self.store.writing("test") as connection:
            insert_offers(connection, [Offer("leek", "saltmarsh", parse_pack("5 kg"), Decimal(99), DAY)], "test")
            self.assertNotEqual(self.kitchens.seen_by(connection).costing.view.stated_price("leek"), before)
            self.assertEqual(self.kitchens.costing().view.stated_price("leek"), before)
            raise ZeroDivisionError
        self.assertEqual(self.kitchens.costing().view.stated_price("leek"), before)
        self.assertFresh()

    def test_a_backup_that_is_restored_and_written_to_is_not_taken_for_what_was(self) -> None:
        # After a restore the numbers of the change log begin again where the backup ends, and may reach the same one.
        self.kitchens.board()
        dump = pg_dump(self.url)
        self.record("leek", "19.20", "5 kg")
        self.record("parsnip", "30.00", "5 kg")
        self.assertFresh()
        restore(self.url, dump)
        self.assertFresh()
        self.record("onion", "40", "20 kg")
        self.assertFresh()
        self.kitchens.board()
        self.record("onion", "10", "20 kg")
        self.assertFresh()

    def test_a_restored_backup_that_reaches_the_number_that_was_seen_last(self) -> None:
        dump = pg_dump(self.url)
        self.record("leek", "19.20", "5 kg")
        self.assertFresh()
        restore(self.url, dump)
        with self.store.writing("elsewhere") as connection:
            insert_offers(connection, [Offer("onion", "saltmarsh", parse_pack("20 kg"), Decimal(40), DAY)], "elsewhere")
        with self.store.reading() as connection:
            same_number = read_version(connection).number
        self.assertEqual(same_number, self.kitchens._kept.version.number if self.kitchens._kept else None)
        self.assertFresh()


class Threads(unittest.TestCase):
    """Several people at once over one costing that is being filled."""

    def test_previews_while_the_first_board_is_made(self) -> None:
        sys.setswitchinterval(1e-5)
        self.addCleanup(sys.setswitchinterval, 0.005)
        whole = generated_kitchen(layers=(150, 100, 50))
        costing, fresh, failures = Costing(whole, DAY), Costing(whole, DAY), []
        drafts = [replace(one, density=Decimal("1.1")) for one in whole.recipes[::9]]

        def preview(mine: list[Recipe]) -> None:
            try:
                for draft in mine:
                    later = costing.replacing(draft)
                    sheet_of(later, draft.id)
                    for user in sorted(costing.users_of([draft.id])):
                        later.of(user)
            except Exception as error:  # noqa: BLE001 - whatever it is, it is told
                failures.append(error)

        threads = [threading.Thread(target=preview, args=(drafts[number::3],)) for number in range(3)]
        for thread in threads:
            thread.start()
        board = BoardText().of(costing)
        for thread in threads:
            thread.join()
        self.assertEqual(failures, [])
        self.assertEqual(json.loads(board), json.loads(BoardText().of(fresh)))

    def test_a_draft_is_let_go_even_where_a_weight_is_missing(self) -> None:
        whole = demo()
        costing = Costing(whole, DAY)
        minestrone = next(one for one in whole.recipes if one.id == "minestrone")
        gone = []
        for number in range(5):
            later = costing.replacing(replace(minestrone, name=f"Minestrone {number}"))
            sheet = sheet_of(later, "minestrone")
            self.assertEqual(sheet.problems[0].code, "missing_weight")
            gone.append((weakref.ref(later), weakref.ref(later.view)))
            del later, sheet
        gc.collect()
        self.assertEqual([(one(), other()) for one, other in gone], [(None, None)] * 5)


def pg_dump(url: str) -> bytes:
    """A backup, as PostgreSQL's own tool makes it."""
    return subprocess.run([str(binaries() / "pg_dump"), "--clean", url], check=True, capture_output=True).stdout


def restore(url: str, dump: bytes) -> None:
    """Put a backup in the place of what there is, as PostgreSQL's own tool does it."""
    psql = [str(binaries() / "psql"), "--quiet", "--single-transaction", "--set", "ON_ERROR_STOP=1", url]
    subprocess.run(psql, input=dump, check=True, capture_output=True)
