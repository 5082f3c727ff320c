"""The store: round trips, constraints that make a wrong row impossible, revisions, append-only offers."""

from __future__ import annotations

import hashlib
import threading
from dataclasses import replace
from datetime import date
from decimal import Decimal
from pathlib import Path

import psycopg

import potrel.store
from potrel.core.kitchen.channels import ChannelPrice, ComingPrice
from potrel.core.kitchen.items import Item, Measure
from potrel.core.kitchen.lines import Line
from potrel.core.kitchen.pricing import Pricing
from potrel.core.kitchen.quantities import parse_pack, parse_quantity
from potrel.core.kitchen.recipes import CameOut, Recipe
from potrel.core.kitchen.supply import Offer, Supplier
from potrel.core.kitchen.vessels import LearnedRate
from potrel.formats.kitchen_json import read_kitchen, write_kitchen
from potrel.store.changes import changed_since, changes, read_version
from potrel.store.database import Database, migrate
from potrel.store.errors import AlreadyThere, NotEmpty, NotFound, Refused, StaleRecipe, StillUsed, still_used
from potrel.store.items import insert_items, load_items, update_item
from potrel.store.kitchens import NEW_KITCHEN, insert_kitchen, is_empty, load_kitchen, load_zone, save_settings
from potrel.store.offers import insert_offers, load_offers
from potrel.store.recipes import insert_recipes, load_recipes, revision_of, save_recipe, take_off_recipe
from potrel.store.revisions import revisions_of
from potrel.store.suppliers import insert_suppliers
from tests.kitchens import DAY, KILO, d, demo, tiny, with_recipe
from tests.servers import DatabaseTest

LITRE = parse_pack("1 l")
# What kitchens have run is never edited: a later migration mends it, and adds its own SHA-256 here.
_RELEASED: dict[str, str] = {
    "0001_kitchen.sql": "32171f132a77d843523d5c5f2b91232d59076fd2aec1fb5b06e75140286cd836",
    "0002_offers_that_end.sql": "b00368e57822ed1c08a797192ce3cfdefae184ee90626c8f1003f55965ae4293",
    "0003_allergen_list.sql": "eecf224b8c08f65fa60e7ce8a7765fa3967a5b5228b139b0cc578d1f2ba7df9b",
    "0004_usable_kilo.sql": "382df4bc21dff2159aa4ce67e886cd81fa9322fceac3bd547684a383eedc740c",
    "0005_price_lists.sql": "68da228c4c230c782de1f91d26b4262a092a812b71b4cea584e5b92df8ca0f4f",
    "0006_bench_tests.sql": "696f39d475d6cd7a734888902b153ea66c94180e7765f6000f6a91c03a9dff99",
    "0007_comparisons.sql": "2942094b560a8323be381b5c3ecac91e7e686f313ad883a6b0ce024deb1c3faf",
    "0008_exact_amounts.sql": "64db714b0a3647ffc2a20785812923f713b3f2decd48f5def24f6a1d2a27f29c",
    "0009_change_log.sql": "60f2bf9086f368e87a6af40cc26eed470bae5ca6414e0b3f2782fd9d069e9740",
    "0010_losses_and_provenance.sql": "4240a82979953ee9a8f526225f3c17e5ca67de929669b03b466b178bfe82629f",
    "0011_quantities.py": "3baa2f768d6780b58156ce7cfcc9acd0e4456248f0fddd2a88f84a79f65b298b",
    "0020_the_kitchens_way.sql": "460a8a8536944bb8e38f00777f088e2daedf0c8b3985c3a5e82492089a59c4ab",
    "0021_the_pot_in_full.sql": "093e37fbb3d97894011ae8359db6f082b87e5002c648eb4d9fd139836e45d6c2",
    "0022_how_sure.sql": "cfa602a8d21264ae5e9e3c6d8ecc189732f22436efd293f3082bf0446ffcaf2f",
    "0023_prices.sql": "5771c8a828f57eb7bbbbd8370a71b1ac46eaa80c54eecde219466e4dc79ba240",
    "0024_a_kitchen_with_a_past.sql": "07644b4effdfd93d8f22f217321f49e9a94d54eaa27a992382c12f5ae2f2d51a",
    "0025_in_the_oven.sql": "aaece644fdb86a833a5beee3a09ee794576d20bd252ddc11466526e9491807ad",
    "0026_as_it_is_written.sql": "1f84bee5c5171482aa0a226ad28bff5bbec2fefe3be26d7312db2f4ffc94322f",
    "0027_what_came_out.sql": "7682c7389d5c125f01b9693fd9a148b839060c1bf40e5a645d939e3e8620f0a7",
    "0028_what_is_in_it.sql": "8bc2b1469c8e2b65f19361faa3864a8d1bf36ac6100cd62e8db7e39195b29a91",
    "0029_every_question.sql": "4ab56723e1a9523eb7e50b25da012053f8b8cb8a1ea1c5072d128915dc02eacb",
    "0030_food_code.sql": "274496faf2e3a00a7635f9e9846bf24bca64257ef824c7f2ca7e477a65c6d3aa",
    "0019_forms_of_lists.sql": "74ce932513dfa7fc3661d76b92edea62106a9976f7376a4210acc0b3d30cee51",
    "0018_one_way_to_read.py": "b939a22023cd31871f537695ab5ef5786e898c87b8fa48d1663bff70cab423de",
    "0017_archived_items.sql": "05bf9934f7dcf53477a98f80c7d0003dea279786e7f8003fa7e8664eae0605aa",
    "0016_what_is_left_of_a_list.sql": "cc270095863b11824f053bbb694dcd8067691fbbe64651e488252e816d5e08d1",
    "0015_lids.sql": "9b139638f70ed034fd43220553278e1fcef6ad48170e5ef0a0af386bb2e8f96c",
    "0014_notes_of_lines.sql": "98b4546333030744fc882d151256f7cc765c9a0e418f69bd1832889c9b7036fd",
    "0013_allergen_checks.sql": "418a42396a45fd8aa57b0ebb57dbd986370208b6704703d44bb27382c90777c8",
    "0012_measures_with_a_basis.sql": "46027890d5334ca7b17310d6a2ebff5be64f79d7e28a370f6654f93aef0a851d",
}


class Snapshots(DatabaseTest):
    kitchen = tiny()

    def test_a_reader_sees_one_moment_whatever_is_written_meanwhile(self) -> None:
        with self.store.reading() as connection:
            before = load_items(connection, ["celeriac"])
            with self.store.writing("another") as writing:
                update_item(writing, replace(before[0], name="Celery root"))
            self.assertEqual(load_items(connection, ["celeriac"]), before)
        with self.store.reading() as connection:
            self.assertEqual(load_items(connection, ["celeriac"])[0].name, "Celery root")


class WholeKitchens(DatabaseTest):
    def test_round_trip_loses_nothing(self) -> None:
        for kitchen in (tiny(), demo()):
            with self.store.writing("test") as connection:
                insert_kitchen(connection, kitchen, "test", replace=True)
            with self.store.reading() as connection:
                found = load_kitchen(connection)
            # The store gives every offer an id; everything else comes back as it was.
            self.assertTrue(all(offer.id for offer in found.offers))
            bare = replace(found, offers=tuple(replace(offer, id=None) for offer in found.offers))
            self.assertEqual(bare, kitchen)

    def test_what_a_pot_says_that_the_demo_does_not(self) -> None:
        soup = next(one for one in demo().recipes if one.id == "leek-potato")
        first = soup.stages[0]
        line = replace(first.lines[0], roux="brown")
        came, dipped = CameOut(DAY, parse_quantity("9.4 l")), CameOut(DAY, None, d("7.5"))
        stages = (
            replace(first, lines=(line, *first.lines[1:]), came_out=came, roux="dark"),
            *(replace(one, came_out=dipped) for one in soup.stages[1:]),
        )
        beside = replace(soup.servings[0], garnish=(Line(parse_quantity("5 g"), "butter", roux="blond"),))
        changed = with_recipe(demo(), replace(soup, stages=stages, written_yield=parse_quantity("6 l"), servings=(beside,)))
        leek = next(one for one in changed.items if one.preparations)
        salted = replace(
            leek, bone_share=d("0.2"), preparations=tuple(replace(p, salt_kept=d("0.1")) for p in leek.preparations)
        )
        rates = (LearnedRate("simmer", d("1.25"), DAY), LearnedRate("boil", d(9), DAY, "on"))
        vessels = (replace(changed.vessels[0], rates=rates), *changed.vessels[1:])
        changed = replace(changed, items=tuple(salted if one is leek else one for one in changed.items), vessels=vessels)
        with self.store.writing("test") as connection:
            insert_kitchen(connection, changed, "test", replace=True)
        with self.store.reading() as connection:
            found = load_kitchen(connection)
        self.assertEqual((found.recipes, found.items, found.vessels), (changed.recipes, changed.items, changed.vessels))

    def test_terms_and_prices_that_the_demo_lacks(self) -> None:
        soup = next(one for one in demo().recipes if one.id == "leek-potato")
        own = (Pricing("factor", factor=d(4)), Pricing("full_cost", overhead_share=d("0.2"), profit_share=d("0.05")))
        away = ChannelPrice("away", None, None, ComingPrice(d("4.50"), DAY))
        servings = (replace(soup.servings[0], channels=(away, ChannelPrice("staff"))), *soup.servings[1:])
        changed = with_recipe(demo(), replace(soup, pricings=own, prep_minutes=True, servings=servings))
        with self.store.writing("test") as connection:
            insert_kitchen(connection, changed, "test", replace=True)
        with self.store.reading() as connection:
            self.assertEqual(load_kitchen(connection).recipes, changed.recipes)

    def test_export_and_import_again(self) -> None:
        self.fill(demo())
        with self.store.reading() as connection:
            first = load_kitchen(connection)
        with self.store.writing("test") as connection:
            insert_kitchen(connection, first, "test", replace=True)
        with self.store.reading() as connection:
            self.assertEqual(load_kitchen(connection), first)

    def test_a_new_kitchen_is_empty(self) -> None:
        with self.store.reading() as connection:
            self.assertTrue(is_empty(connection))
            zone = load_zone(connection).key
            self.assertEqual(
                load_kitchen(connection), replace(NEW_KITCHEN, settings=replace(NEW_KITCHEN.settings, time_zone=zone))
            )

    def test_items_without_settings_are_kept(self) -> None:
        with self.store.writing("test") as connection:
            insert_items(connection, [Item("leek", "Leek", "allium")])
        with self.store.reading() as connection:
            self.assertEqual([item.id for item in load_kitchen(connection).items], ["leek"])
            self.assertFalse(is_empty(connection))

    def test_a_kitchen_is_not_overwritten_unasked(self) -> None:
        self.fill(tiny())
        with self.assertRaises(NotEmpty), self.store.writing("test") as connection:
            insert_kitchen(connection, tiny(), "test")

    def test_all_or_nothing(self) -> None:
        bad = replace(tiny(), offers=(*tiny().offers, Offer("ham", "valley", KILO, Decimal(1), DAY)))
        with self.assertRaises(Refused), self.store.writing("test") as connection:
            insert_kitchen(connection, bad, "test")
        with self.store.reading() as connection:
            self.assertTrue(is_empty(connection))

    def test_settings(self) -> None:
        self.fill(tiny())
        changed = replace(tiny(), name="Slipway", settings=replace(tiny().settings, tax_rate=Decimal("0.2"), price_ending=None))
        with self.store.writing("test") as connection:
            save_settings(connection, changed.name, changed.currency, changed.settings)
        with self.store.reading() as connection:
            found = load_kitchen(connection)
        self.assertEqual((found.name, found.settings), ("Slipway", changed.settings))


class Constraints(DatabaseTest):
    def setUp(self) -> None:
        super().setUp()
        self.fill(tiny())

    def test_wrong_rows_are_impossible(self) -> None:
        offer = "INSERT INTO offer (id, item, supplier, pack, price, valid_from, recorded_by) VALUES "
        stage = "INSERT INTO stage (recipe, id, position, attended_minutes, rule, residue, per_hour, change_to) VALUES "
        for statement in (
            f"{offer} ('x', 'celeriac', 'valley', '1 kg', -1, '2026-01-01', 'me')",
            f"{offer} ('x', 'ham', 'valley', '1 kg', 1, '2026-01-01', 'me')",
            f"{offer} ('x y', 'celeriac', 'valley', '1 kg', 1, '2026-01-01', 'me')",
            f"{stage} ('celeriac-soup', 's', 9, 0, 'keep', 1.5, NULL, NULL)",
            f"{stage} ('celeriac-soup', 's', 9, 0, 'reduce', 0, NULL, NULL)",
            f"{stage} ('celeriac-soup', 's', 9, 0, 'keep', 0, 0.1, NULL)",
            f"{stage} ('celeriac-soup', 's', 9, -5, 'keep', 0, NULL, NULL)",
            "UPDATE preparation SET yield = 21",
            "UPDATE preparation SET yield = 0.9",
            "UPDATE line SET uses_recipe = 'chicken-stock' WHERE item = 'cream'",
            "UPDATE serving SET price_set_on = '2026-01-01' WHERE price IS NULL",
            "UPDATE kitchen SET currency = 'euro'",
            "UPDATE recipe SET use_measured_yield = true",
            "UPDATE kitchen SET only_one = false",
        ):
            with self.subTest(statement), self.assertRaises((Refused, psycopg.errors.Error)):
                with self.store.writing("test") as connection:
                    connection.execute(statement.encode())

    def test_offers_are_append_only(self) -> None:
        for statement in ("UPDATE offer SET price = 1", "DELETE FROM offer", "DELETE FROM recipe_revision"):
            with self.subTest(statement), self.assertRaises(Refused) as caught:
                with self.store.writing("test") as connection:
                    connection.execute(statement.encode())
            self.assertIn("append-only: record a correction instead", str(caught.exception))

    def test_a_used_item_stays(self) -> None:
        with self.assertRaises(StillUsed) as caught, self.store.writing("test") as connection, still_used("Cream"):
            connection.execute("DELETE FROM item WHERE id = 'cream'")
        self.assertEqual(str(caught.exception), "Cream is still used (offer): take it out there first")


class ItemsAndOffers(DatabaseTest):
    def setUp(self) -> None:
        super().setUp()
        self.fill(tiny())

    def test_update_replaces_all_parts(self) -> None:
        celeriac = tiny().items[0]
        small = Measure(parse_quantity("400 g"), "EP", parse_quantity("350 g"), parse_quantity("450 g"), "a guess")
        changed = replace(celeriac, measures={"small": small}, preparations=(), density=Decimal("0.9"))
        with self.store.writing("test") as connection:
            update_item(connection, changed)
            self.assertEqual(load_items(connection)[0], changed)

    def test_update_of_nothing(self) -> None:
        with self.assertRaises(NotFound), self.store.writing("test") as connection:
            update_item(connection, Item("ham", "Ham", "meat"))

    def test_two_of_an_id(self) -> None:
        with self.assertRaises(AlreadyThere), self.store.writing("test") as connection:
            insert_suppliers(connection, [Supplier("valley", "Valley")])

    def test_a_new_offer_is_a_line_in_the_change_log(self) -> None:
        with self.store.reading() as connection:
            before = read_version(connection)
        with self.store.writing("me") as connection:
            (recorded,) = insert_offers(connection, [Offer("cream", "valley", LITRE, Decimal("4.80"), DAY)], "me")
        with self.store.reading() as connection:
            self.assertEqual(changed_since(connection, before), {"offer": {recorded.id}})
            self.assertEqual(load_offers(connection, [recorded.id or ""]), (recorded,))
            (newest,) = changes(connection, most=1)
        self.assertEqual((newest.kind, newest.id, newest.by), ("offer", recorded.id, "me"))

    def test_a_correction_names_an_offer_that_is_there(self) -> None:
        wrong = Offer("cream", "valley", LITRE, Decimal(5), DAY, corrects="o-999")
        with self.assertRaises(Refused), self.store.writing("test") as connection:
            insert_offers(connection, [wrong], "me")


class Revisions(DatabaseTest):
    def setUp(self) -> None:
        super().setUp()
        self.fill(tiny())
        self.soup = tiny().recipes[1]

    def save(self, recipe: Recipe, based_on: int, by: str = "me") -> int:
        with self.store.writing("test") as connection:
            return save_recipe(connection, recipe, based_on, by)

    def test_every_save_is_kept_whole(self) -> None:
        changed = replace(self.soup, name="Celeriac soup", stages=self.soup.stages[:2])
        self.assertEqual(self.save(changed, 1, "Ada"), 2)
        with self.store.reading() as connection:
            history = revisions_of(connection, self.soup.id)
            self.assertEqual([one.recipe for one in history], [changed, self.soup])
            self.assertEqual([(one.revision, one.saved_by) for one in history], [(2, "Ada"), (1, "test")])
            self.assertEqual(load_recipes(connection)[1], changed)

    def test_a_stale_save_is_refused_with_both_versions(self) -> None:
        theirs, mine = replace(self.soup, name="Theirs"), replace(self.soup, name="Mine")
        self.save(theirs, 1, "Ada")
        with self.assertRaises(StaleRecipe) as caught:
            self.save(mine, 1)
        error = caught.exception
        self.assertEqual((error.theirs, error.yours, error.their_revision, error.saved_by), (theirs, mine, 2, "Ada"))
        with self.store.reading() as connection:
            self.assertEqual(load_recipes(connection)[1], theirs)

    def test_of_two_saves_at_once_one_is_refused(self) -> None:
        outcomes: list[object] = []

        def attempt(name: str) -> None:
            try:
                outcomes.append(self.save(replace(self.soup, name=name), 1))
            except StaleRecipe as error:
                outcomes.append(error)

        threads = [threading.Thread(target=attempt, args=(name,)) for name in ("A", "B", "C")]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        self.assertEqual(sorted(str(type(one).__name__) for one in outcomes), ["StaleRecipe", "StaleRecipe", "int"])

    def test_taken_off_and_put_back(self) -> None:
        with self.store.writing("test") as connection:
            take_off_recipe(connection, self.soup.id, 1, "me")
        with self.store.writing("test") as connection:
            insert_recipes(connection, [self.soup], "me")
            self.assertEqual(revision_of(connection, self.soup.id), 3)
            self.assertEqual([one.recipe for one in revisions_of(connection, self.soup.id)], [self.soup, None, self.soup])

    def test_a_base_that_is_used_stays(self) -> None:
        with self.assertRaises(StillUsed), self.store.writing("test") as connection:
            take_off_recipe(connection, "chicken-stock", 1, "me")

    def test_saving_what_was_taken_off(self) -> None:
        with self.store.writing("test") as connection:
            take_off_recipe(connection, self.soup.id, 1, "Ada")
        with self.assertRaises(StaleRecipe) as caught:
            self.save(self.soup, 1)
        self.assertIsNone(caught.exception.theirs)

    def test_recipes_may_use_each_other_in_any_order(self) -> None:
        self.assertEqual(len(tiny().recipes), 2)
        with self.store.writing("test") as connection:
            insert_kitchen(connection, replace(tiny(), recipes=tuple(reversed(tiny().recipes))), "test", replace=True)


class Migrations(DatabaseTest):
    def test_a_second_run_changes_nothing(self) -> None:
        self.fill(tiny())
        migrate(self.url)
        with self.store.reading() as connection:
            self.assertFalse(is_empty(connection))

    def test_a_lock_left_by_a_killed_run_does_not_block(self) -> None:
        self.store.close()
        with psycopg.connect(self.url, autocommit=True) as connection:
            connection.execute("INSERT INTO yoyo_lock (locked, ctime, pid) VALUES (1, now(), 1)")
        migrate(self.url)
        self.store = Database(self.url)
        self.addCleanup(self.store.close)

    def test_what_can_be_read_in_two_ways_is_written_as_it_was_taken(self) -> None:
        self.fill(tiny())
        with psycopg.connect(self.url) as connection:
            for table in ("offer", "recipe_revision"):
                connection.execute(f"ALTER TABLE {table} DISABLE TRIGGER USER")
            connection.execute("UPDATE line SET quantity = '8,000 kg' WHERE item = 'chicken-bones'")
            connection.execute("UPDATE measure SET mass = '0,700 kg', mass_amount = 0.7, mass_unit = 'kg'")
            connection.execute("UPDATE offer SET pack = '6 x 1,000 l' WHERE item = 'cream'")
            connection.execute(
                "UPDATE recipe_revision SET body = replace(body::text, '\"8 kg\"', '\"8,000 kg\"')::jsonb"
                " WHERE recipe = 'chicken-stock'"
            )
            for table in ("offer", "recipe_revision"):
                connection.execute(f"ALTER TABLE {table} ENABLE TRIGGER USER")
            connection.execute("DELETE FROM _yoyo_migration WHERE migration_id = '0018_one_way_to_read'")
        migrate(self.url)
        with self.store.reading() as connection:
            kitchen = load_kitchen(connection)
            (stock,) = (one for one in kitchen.recipes if one.id == "chicken-stock")
            self.assertEqual(stock.stages[0].lines[0].quantity.text, "8.000 kg")
            # It is exported and read again, and its revisions are understood.
            self.assertEqual(read_kitchen(write_kitchen(kitchen)).recipes, kitchen.recipes)
            body = revisions_of(connection, "chicken-stock")[0].recipe
            assert body is not None
            self.assertEqual(body.stages[0].lines[0].quantity.grams(), 8000)
            self.assertIn("6 x 1.000 l", [offer.pack.text for offer in kitchen.offers])
            # What can be read in one way only stands as it was typed.
            self.assertEqual([one.weighs.text for item in kitchen.items for one in item.measures.values()], ["0,700 kg"])
        with self.assertRaises(psycopg.errors.RaiseException), psycopg.connect(self.url) as connection:
            connection.execute("UPDATE offer SET pack = '1 kg'")

    def test_released_migrations_are_as_they_were(self) -> None:
        folder = Path(potrel.store.__file__).parent / "migrations"
        sums = {file.name: hashlib.sha256(file.read_bytes()).hexdigest() for file in folder.glob("0*")}
        self.assertEqual(sums, _RELEASED, "an old migration was edited (mend it in a new one), or a new one is not noted here")

    def test_dates_and_decimals_come_back_as_they_are(self) -> None:
        self.fill(tiny())
        with self.store.writing("test") as connection:
            offer = Offer("cream", "valley", LITRE, Decimal("4.80"), date(2024, 2, 29), until=date(2024, 3, 7))
            (found,) = insert_offers(connection, [offer], "me")
        self.assertEqual((str(found.price), found.on, found.until), ("4.80", date(2024, 2, 29), date(2024, 3, 7)))
