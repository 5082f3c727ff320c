"""The kitchen as the routes see it: costed, kept in memory under the version of the data it was read at."""

from __future__ import annotations

import gzip
import threading
from collections.abc import Callable, Mapping, Sequence
from contextlib import suppress
from dataclasses import dataclass, field, replace
from datetime import date

import psycopg
from psycopg_pool import PoolTimeout

from potrel.api.board.board_text import BoardText
from potrel.api.keeping import made_for_long
from potrel.core.cost.costing import Costing
from potrel.core.cost.uncertainty import Band, Uncertainty, uncertainty_of
from potrel.core.cost.unsure import Doubts
from potrel.core.errors import PotrelError, RecipeLoop
from potrel.core.kitchen.kinds import Computed, Id
from potrel.core.kitchen.recipes import Recipe
from potrel.core.numbers.spread import seed_of
from potrel.core.rooms.what_if import Trial
from potrel.store.changes import ChangeKind, Version, changed_since, read_version
from potrel.store.comparisons import load_comparisons
from potrel.store.database import Connection, Database
from potrel.store.faults import Fault, load_what_can_be, without_loop
from potrel.store.items import load_items
from potrel.store.offers import load_credits, load_offers
from potrel.store.recipes import load_earlier, load_recipes
from potrel.store.suppliers import load_suppliers
from potrel.store.yields import load_tests

# What these change is not told apart from the rest of the kitchen: it is read whole.
_WHOLE: frozenset[ChangeKind] = frozenset({"all", "settings", "vessel"})
# Where so many items or recipes changed, reading all is as quick as picking them out.
_MANY = 400
_MOST_SURE = 64


@dataclass(frozen=True, slots=True)
class SureServing:
    """How far a serving of the board may be off: its cost [money], its food-cost share, the chance to pass the target."""

    recipe: Id
    serving: Id
    food_cost: Band | None
    share: Band | None
    over_target: Computed | None


@dataclass(slots=True)
class Kept:
    """A kitchen, costed, and the version of the data that it was read at; its board once it was asked for, and packed.

    How sure its pots are is reckoned when that is asked for, and kept.
    """

    version: Version
    costing: Costing
    faults: Sequence[Fault] = ()
    board: bytes | None = None
    packed_board: bytes | None = None
    doubts: Doubts = field(init=False)
    _sure: dict[str, list[Uncertainty]] = field(default_factory=dict)
    _bands: dict[str, list[SureServing]] = field(default_factory=dict)
    _trial: Trial | None = None

    def __post_init__(self) -> None:
        # The same draws until the data change.
        self.doubts = Doubts(self.costing, seed_of(self.version.number, self.version.mark))

    def uncertainty(self, recipe_id: str) -> list[Uncertainty]:
        """How far the figures of a recipe's servings may be off."""
        found = self._sure.get(recipe_id)
        if found is None:
            if len(self._sure) >= _MOST_SURE:
                # All that a large kitchen's pots hang on would take more room than the pots themselves.
                self._sure.clear()
            found = self._sure[recipe_id] = uncertainty_of(self.costing, recipe_id, self.doubts)
        return found

    def bands(self, recipe_id: str) -> list[SureServing]:
        """The same in short, as the board shows it."""
        found = self._bands.get(recipe_id)
        if found is None:
            found = self._bands[recipe_id] = [
                SureServing(recipe_id, one.serving, one.food_cost, one.share, one.over_target)
                for one in self.uncertainty(recipe_id)
            ]
        return found

    def trial(self, draft: Recipe) -> Trial:
        """The pot on which things are tried: the last one again, as long as it is the same."""
        last = self._trial
        if last is not None and last.costing.view.recipes.get(draft.id) == draft and last.recipe_id == draft.id:
            return last
        same = self.costing.view.recipes.get(draft.id) == draft
        trial = self._trial = Trial(self.costing if same else self.costing.replacing(draft), draft.id)
        return trial


class Kitchens:
    """Keeps the newest costing. Any number of processes may do so: the change log in the database says what is new."""

    def __init__(self, database: Database, today: Callable[[], date]) -> None:
        self.database = database
        self._today = today
        self._kept: Kept | None = None
        self._boards = BoardText()
        self._reading, self._writing_board = threading.Lock(), threading.Lock()

    def costing(self) -> Costing:
        """The kitchen, costed today."""
        return self.current().costing

    def board(self) -> bytes:
        """The board of today, as JSON."""
        return self._board_of(self.current())

    def packed_board(self) -> bytes:
        """The same, packed by gzip; it takes longer than to write it, so it is kept too."""
        kept = self.current()
        board = self._board_of(kept)
        if kept.packed_board is None:
            kept.packed_board = gzip.compress(board, compresslevel=1)
        return kept.packed_board

    def _board_of(self, kept: Kept) -> bytes:
        if kept.board is None:
            with self._writing_board:
                kept.board = kept.board or self._boards.of(kept.costing).encode()
        return kept.board

    def cost_ahead(self) -> None:
        """Make the board in a thread of its own, so that it is there when it is asked for."""

        def make() -> None:
            # What is wrong with the database or the kitchen is said to whoever asks for it.
            with suppress(psycopg.Error, PoolTimeout, PotrelError):
                self.board()

        threading.Thread(target=make, name="costing ahead", daemon=True).start()

    def current(self) -> Kept:
        """What is kept, brought up to date."""
        with self.database.reading() as connection:
            version = read_version(connection)
        kept, today = self._kept, self._today()
        if kept is not None and kept.version == version and kept.costing.on == today:
            return kept
        # One reads, the others wait for what it finds.
        with self._reading, self.database.reading() as connection:
            return self._keep(self._brought_up(connection, self._kept))

    def seen_by(self, connection: Connection) -> Kept:
        """The kitchen as a transaction sees it: for a writer, nothing changes any more between this and its end.

        Takes no lock: a writer holds that of the database already.
        """
        return self._keep(self._brought_up(connection, self._kept))

    def adopt(self, before: Kept, version: Version, costing: Costing) -> None:
        """Keep a costing that a writer made of the one before, once its transaction has ended well."""
        if self._kept is before:
            self._kept = Kept(version, costing, before.faults)

    def _keep(self, found: Kept) -> Kept:
        # One that was overtaken may be kept for a moment: whoever asks next brings it up to date again.
        self._kept = found
        return found

    def _brought_up(self, connection: Connection, kept: Kept | None) -> Kept:
        version, today = read_version(connection), self._today()
        if kept is not None and kept.version == version and kept.costing.on == today:
            return kept
        if kept is not None:
            changed = changed_since(connection, kept.version)
            if not _WHOLE & changed.keys() and not any(len(ids) > _MANY for ids in (changed["item"], changed["recipe"])):
                costing = kept.costing
                if costing.on != today:
                    costing = Costing(costing.view.kitchen, today).remembering(costing.earlier)
                # What cannot be understood any more is found out by reading all.
                if not kept.faults:
                    with suppress(PotrelError):
                        return Kept(version, _with_changes(connection, costing, changed))
        with made_for_long():
            kitchen, faults = load_what_can_be(connection)
            while True:
                costing = Costing(kitchen, today)
                try:
                    costing.cost_all()
                except RecipeLoop as loop:
                    kitchen, fault = without_loop(kitchen, loop)
                    faults = [*faults, fault]
                    continue
                except PotrelError:
                    # What else keeps one recipe from being costed is said where that is asked for.
                    pass
                return Kept(version, costing.remembering(load_earlier(connection)), faults)


def _with_changes(connection: Connection, costing: Costing, changed: Mapping[ChangeKind, set[str]]) -> Costing:
    """A costing with what the change log names read anew; everything else is taken over."""
    kinds = {kind for kind, ids in changed.items() if ids}
    if "item" in kinds:
        items = load_items(connection, changed["item"])
        costing = costing.with_items(items, changed["item"] - {item.id for item in items})
    if "offer" in kinds:
        costing = costing.with_offers(load_offers(connection, changed["offer"]))
    if "recipe" in kinds:
        recipes = load_recipes(connection, changed["recipe"])
        costing = costing.with_recipes(recipes, changed["recipe"] - {recipe.id for recipe in recipes})
        costing = costing.remembering(load_earlier(connection))
    if kinds & {"supplier", "credit", "test", "comparison"}:
        kitchen = costing.view.kitchen
        costing = costing.with_kitchen(
            replace(
                kitchen,
                suppliers=load_suppliers(connection) if "supplier" in kinds else kitchen.suppliers,
                credits=load_credits(connection) if "credit" in kinds else kitchen.credits,
                tests=load_tests(connection) if "test" in kinds else kitchen.tests,
                comparisons=load_comparisons(connection) if "comparison" in kinds else kitchen.comparisons,
            )
        )
    return costing
