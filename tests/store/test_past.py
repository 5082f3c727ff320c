"""A kitchen with a past: what saves keep, what they tell of how recipes stood, and what is read of them."""

from __future__ import annotations

from dataclasses import replace
from datetime import date
from typing import Any

from potrel.bench_history import Size, aged, write_aged
from potrel.core.cost.costing import Costing
from potrel.core.cost.drift import drift_of
from potrel.core.kitchen.kitchen import Kitchen
from potrel.core.kitchen.lines import Line
from potrel.core.kitchen.quantities import parse_quantity
from potrel.core.kitchen.recipes import Recipe
from potrel.store.changes import changed_since, read_version
from potrel.store.database import Connection
from potrel.store.kept_board import keep_board, kept_board
from potrel.store.kitchens import load_kitchen
from potrel.store.pushed import mark_pushed, pushed
from potrel.store.recipes import insert_recipes, load_recipes, revision_of, save_recipe, take_off_recipe
from potrel.store.revisions import last_saves, load_earlier, load_versions, taken_off
from tests.kitchens import DAY, d, tiny
from tests.servers import DatabaseTest


class Saved(DatabaseTest):
    """The tiny kitchen, and one recipe of it saved again and again."""

    kitchen = tiny()

    def recipe(self, of: str = "celeriac-soup") -> Recipe:
        with self.store.reading() as connection:
            (found,) = load_recipes(connection, [of])
        return found

    def save(self, recipe: Recipe) -> None:
        with self.store.writing("test") as connection:
            save_recipe(connection, recipe, revision_of(connection, recipe.id), "test")

    def rows(self, statement: str, *values: Any) -> list[Any]:
        with self.store.reading() as connection:
            return connection.execute(statement.encode(), values).fetchall()

    def set_at(self) -> Any:
        ((at,),) = self.rows("SELECT price_set_at FROM serving WHERE recipe = 'celeriac-soup'")
        return at

    def priced(self, price: str, on: date = DAY) -> Recipe:
        recipe = self.recipe()
        return replace(recipe, servings=(replace(recipe.servings[0], price=d(price), price_set_on=on),))


class RowsKeepTheirIdentity(Saved):
    def test_a_note_leaves_a_mark_where_it_is(self) -> None:
        with self.store.writing("test") as connection:
            mark_pushed(connection, [("celeriac-soup", "bowl")], "leeks", ["o-1"])
        self.save(replace(self.recipe(), note="stir"))
        with self.store.reading() as connection:
            self.assertEqual([row[:3] for row in pushed(connection)], [("celeriac-soup", "bowl", "leeks")])

    def test_a_mark_goes_with_its_serving(self) -> None:
        with self.store.writing("test") as connection:
            mark_pushed(connection, [("celeriac-soup", "bowl")], "leeks", ["o-1"])
        self.save(replace(self.recipe(), servings=()))
        self.assertEqual(self.rows("SELECT * FROM pushed_past"), [])

    def test_a_line_with_an_id_stays_its_row_in_another_stage(self) -> None:
        stock = self.recipe("chicken-stock")
        (before,) = self.rows("SELECT number FROM line WHERE recipe = 'chicken-stock' AND id = 'bones'")
        (simmer,) = stock.stages
        bones, water = simmer.lines
        first = replace(simmer, id="first", lines=(water, replace(bones, quantity=parse_quantity("7 kg"))), take_out=())
        self.save(replace(stock, stages=(first,)))
        (after,) = self.rows("SELECT number FROM line WHERE recipe = 'chicken-stock' AND id = 'bones'")
        self.assertEqual(before, after)
        self.assertEqual(self.recipe("chicken-stock").stages, (first,))

    def test_what_changes_places_comes_back_in_its_new_order(self) -> None:
        stock = self.recipe("chicken-stock")
        (simmer,) = stock.stages
        lines = tuple(Line(parse_quantity(f"{n} kg"), item="water", id=f"w{n}") for n in range(1, 6))
        for order in (lines, lines[::-1], (lines[2], lines[0]), (*lines[1:4], replace(lines[0], id=None))):
            stage = replace(simmer, lines=order, take_out=())
            self.save(replace(stock, stages=(stage,)))
            self.assertEqual(self.recipe("chicken-stock").stages, (stage,))
        soup = self.recipe()
        roast, pot, finish = soup.stages
        parted = replace(roast, id="roast-2", lines=())
        other = replace(pot, from_=(*pot.from_, replace(pot.from_[0], stage="roast-2")))
        self.save(replace(soup, stages=(parted, roast, other, finish)))
        self.assertEqual(self.recipe().stages, (parted, roast, other, finish))
        self.save(soup)
        self.assertEqual(self.recipe(), soup)


class WhenAPriceWasSet(Saved):
    def test_it_stands_beside_the_serving(self) -> None:
        self.assertIsNone(self.set_at())
        self.save(self.priced("4.50"))
        first = self.set_at()
        ((saved,),) = self.rows("SELECT max(saved_at) FROM recipe_revision WHERE recipe = 'celeriac-soup'")
        self.assertEqual(first, saved)
        self.save(replace(self.recipe(), note="stir"))
        self.assertEqual(self.set_at(), first)
        self.save(self.priced("4.80"))
        self.assertGreater(self.set_at(), first)
        # A price that comes back was set when it was set first.
        self.save(self.priced("4.50"))
        self.assertEqual(self.set_at(), first)
        recipe = self.recipe()
        self.save(replace(recipe, servings=(replace(recipe.servings[0], price=None, price_set_on=None),)))
        self.assertIsNone(self.set_at())

    def test_a_recipe_that_comes_back_knows_it_still(self) -> None:
        self.save(self.priced("4.50"))
        first, recipe = self.set_at(), self.recipe()
        with self.store.writing("test") as connection:
            take_off_recipe(connection, recipe.id, revision_of(connection, recipe.id), "test")
            self.assertEqual([one.recipe for one in taken_off(connection)], [recipe])
            insert_recipes(connection, [recipe], "test")
            self.assertEqual(taken_off(connection), [])
        self.assertEqual(self.set_at(), first)


class HowRecipesStood(Saved):
    def earlier(self) -> Any:
        with self.store.reading() as connection:
            return load_earlier(connection)

    def test_names_notes_and_prices_change_nothing(self) -> None:
        recipe = self.priced("4.50")
        stage = replace(recipe.stages[0], note="turn", name="Tray")
        for other in (recipe, replace(recipe, note="x", name="Y"), replace(recipe, stages=(stage, *recipe.stages[1:]))):
            self.save(other)
        self.assertEqual(self.earlier().stands, {})

    def test_what_cost_hangs_on_is_told_from_when_on(self) -> None:
        bowl = self.recipe().servings[0]
        line = replace(self.recipe().stages[0].lines[0], quantity=parse_quantity("4 kg"))
        stages = self.recipe().stages
        changes: list[Any] = [
            {"density": d("1.01")},
            {"servings": (replace(bowl, size=parse_quantity("350 ml")),)},
            {"servings": (replace(bowl, garnish=()),)},
            {"stages": (replace(stages[0], lines=(line, *stages[0].lines[1:])), *stages[1:])},
            {"seasoning_allowance": d("0.05")},
        ]
        for change in changes:
            self.save(replace(self.recipe(), **change))
        stands = self.earlier().stands["celeriac-soup"]
        self.assertEqual([one.revision for one in stands], [1, 2, 3, 4, 5, 6])
        with self.store.reading() as connection:
            read = load_versions(connection, [("celeriac-soup", 1), ("celeriac-soup", 99)])
        self.assertEqual(list(read), [("celeriac-soup", 1)])
        version = read["celeriac-soup", 1]
        self.assertEqual((version.uses, version.recipe()), (frozenset({"chicken-stock"}), tiny().recipes[1]))

    def test_what_nobody_understands_is_told_as_that(self) -> None:
        self.save(replace(self.recipe(), density=d("1.01")))
        with self.store.writing("test") as connection:
            connection.execute("ALTER TABLE recipe_revision DISABLE TRIGGER USER")
            connection.execute('UPDATE recipe_revision SET body = \'{"stages": 7, "servings": "x"}\' WHERE revision = 1')
            version = load_versions(connection, [("celeriac-soup", 1)])["celeriac-soup", 1]
            self.assertEqual((set(version.uses), version.recipe()), (set(), None))
            connection.execute("UPDATE recipe_revision SET body = '[1]' WHERE revision = 1")
            load_earlier(connection)

    def test_some_recipes_are_told_apart(self) -> None:
        self.save(replace(self.recipe(), density=d("1.01")))
        self.save(replace(self.recipe("chicken-stock"), density=d("1.01")))
        with self.store.reading() as connection:
            some, every = load_earlier(connection, ["chicken-stock"]), load_earlier(connection)
        self.assertEqual((set(some.stands), set(every.stands)), ({"chicken-stock"}, {"chicken-stock", "celeriac-soup"}))
        self.assertEqual(last_of(self), {"chicken-stock": 2, "celeriac-soup": 2})


def last_of(test: Saved) -> dict[str, int]:
    with test.store.reading() as connection:
        saves = last_saves(connection)
    return {
        one: test.rows("SELECT revision FROM recipe_revision WHERE saved_at = %s", at)[0][0] for one, (at, _) in saves.items()
    }


class Aged(DatabaseTest):
    """A small kitchen with its year, beside what a plain reading of all its saves says."""

    def test_drifts_are_those_of_the_saves_themselves(self) -> None:
        from potrel.bench import generated_kitchen
        from potrel.doing.kitchens import recalled

        of = aged(generated_kitchen(layers=(12, 10, 8)), DAY, Size(saves=24, moments=25, sales=60, lists=4, offers=400))
        with self.store.writing("test") as connection:
            write_aged(connection, of, DAY)
        with self.store.reading() as connection:
            kitchen = load_kitchen(connection)
            costing = recalled(connection, Costing(kitchen, DAY).remembering(load_earlier(connection)))
        self.assertEqual(kitchen.recipes, of.kitchen.recipes)
        moved = 0
        for one in costing.all():
            (portion,) = one.portions
            drift = drift_of(one, portion, costing)
            assert drift is not None and drift.change is not None
            then = self.then(of.kitchen, of.saves, one.recipe)
            now = portion.food_cost
            assert then is not None and now is not None
            self.assertAlmostEqual(drift.change, now - then, places=20)
            moved += drift.recipe is not None
        # A check of nothing is none: some stood otherwise, and some did not.
        self.assertTrue(3 <= moved < 28, moved)

    def then(self, kitchen: Kitchen, saves: Any, recipe: Recipe) -> Any:
        """What a portion cost when its price was set, by the whole kitchen as it stood then, costed from nothing."""
        bowl = recipe.servings[0]
        at = min(one.at for one in saves[recipe.id] if same_price(one.recipe, recipe))
        stood = tuple(
            max((one for one in some if one.at <= at), key=lambda one: one.at, default=some[-1]).recipe
            for some in saves.values()
        )
        assert bowl.price_set_on is not None
        portion = Costing(replace(kitchen, recipes=stood), bowl.price_set_on).of(recipe.id).portion(bowl.id)
        return None if portion is None else portion.food_cost


def same_price(one: Recipe, other: Recipe) -> bool:
    mine, theirs = one.servings[0], other.servings[0]
    return (mine.price, mine.price_set_on) == (theirs.price, theirs.price_set_on)


class TheKeptBoard(DatabaseTest):
    kitchen = tiny()

    def found(self, connection: Connection, day: date = DAY, build: str = "a") -> bytes | None:
        return kept_board(connection, read_version(connection), day, build)

    def test_only_of_just_this_data_day_and_build(self) -> None:
        with self.store.beside() as connection:
            self.assertIsNone(self.found(connection))
            for packed in (b"1", b"2"):
                keep_board(connection, read_version(connection), DAY, "a", packed)
                self.assertEqual(self.found(connection), packed)
            self.assertEqual((self.found(connection, date(2026, 1, 1)), self.found(connection, build="b")), (None, None))
            version = read_version(connection)
        with self.store.writing("test") as connection:
            connection.execute("UPDATE kitchen SET old_price_days = 61")
            self.assertIsNone(self.found(connection))
            self.assertEqual(dict(changed_since(connection, version)), {"settings": {""}})
