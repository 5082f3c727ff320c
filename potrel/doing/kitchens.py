"""The kitchen as the routes see it: costed, kept in memory under the version of the data it was read at."""

from __future__ import annotations

import gzip
import threading
from collections.abc import Callable, Collection, Mapping, Sequence
from contextlib import suppress
from dataclasses import dataclass, field, replace
from datetime import date, datetime
from zoneinfo import ZoneInfo

import psycopg
from psycopg_pool import PoolTimeout

from potrel.core.cost.costing import Costing
from potrel.core.cost.earlier import NO_VERSION
from potrel.core.cost.uncertainty import Band, Uncertainty, uncertainty_of
from potrel.core.cost.unsure import Doubts
from potrel.core.errors import PotrelError, RecipeLoop
from potrel.core.kitchen.kinds import Computed, Id
from potrel.core.kitchen.recipes import Recipe
from potrel.core.numbers.spread import seed_of
from potrel.core.rooms.what_if import Trial
from potrel.doing.board_text import BoardText
from potrel.doing.build import build
from potrel.doing.keeping import made_for_long
from potrel.store.changes import ChangeKind, Version, changed_since, read_version
from potrel.store.comparisons import load_comparisons
from potrel.store.database import Connection, Database
from potrel.store.faults import Fault, load_what_can_be, without_loop
from potrel.store.items import load_items, load_vessels
from potrel.store.kept_board import board_of_another_build, keep_board, kept_board
from potrel.store.kitchens import load_settings, load_zone
from potrel.store.offers import load_credits, load_offers
from potrel.store.prices import load_deals
from potrel.store.recipes import load_recipes
from potrel.store.revisions import load_earlier, load_versions
from potrel.store.suppliers import load_suppliers
from potrel.store.yields import load_tests

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

    @property
    def zone(self) -> ZoneInfo:
        """The time zone of the kitchen."""
        return ZoneInfo(self.costing.view.settings.time_zone)

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

    def __init__(self, database: Database, today: Callable[[], date] | None = None) -> None:
        """`today` can be fixed for tests; else it is the day by the kitchen's own clock."""
        self.database = database
        self._fixed = today
        self._kept: Kept | None = None
        self._boards = BoardText()
        self._reading, self._writing_board = threading.Lock(), threading.Lock()
        self._in_database: tuple[Version, date] | None = None

    def begin_with(self, kept: Kept) -> None:
        """Take over what another has costed; it counts as long as the data are of just that version."""
        self._kept = kept

    def costing(self) -> Costing:
        """The kitchen, costed today."""
        return self.current().costing

    def board(self) -> bytes:
        """The board of today, as JSON."""
        if self._kept is None:
            kept = self._board_of_before()
            if kept is not None:
                return gzip.decompress(kept)
        return self._board_of(self.current())

    def packed_board(self) -> bytes:
        """The same, packed by gzip; it takes longer than to write it, so it is kept too."""
        if self._kept is None:
            kept = self._board_of_before()
            if kept is not None:
                return kept
        return self.packed(self.current())

    def packed(self, kept: Kept) -> bytes:
        """The board of what is kept, packed."""
        board = self._board_of(kept)
        if kept.packed_board is None:
            kept.packed_board = gzip.compress(board, compresslevel=1)
        return kept.packed_board

    def _board_of(self, kept: Kept) -> bytes:
        if kept.board is None:
            with self._writing_board:
                kept.board = kept.board or self._boards.of(kept.costing).encode()
        return kept.board

    def _board_of_before(self) -> bytes | None:
        """The board that a process before this one kept in the database, where it is still right: the kitchen need not be
        costed for it."""
        with self.database.reading() as connection:
            return kept_board(connection, read_version(connection), self._today(load_zone(connection)), build())

    def _today(self, zone: ZoneInfo) -> date:
        return datetime.now(zone).date() if self._fixed is None else self._fixed()

    def now(self) -> datetime:
        """The time by the kitchen's own clock."""
        with self.database.reading() as connection:
            return datetime.now(load_zone(connection))

    def keep_board(self) -> None:
        """Keep the board in the database, for the next start and the next version. It raises nothing."""
        if self._kept is None:
            return
        with suppress(psycopg.Error, PoolTimeout, PotrelError):
            kept = self.current()
            if (kept.version, kept.costing.on) == self._in_database:
                return
            packed = self.packed(kept)
            with self.database.beside() as connection:
                # What another build kept is held against this one first.
                if board_of_another_build(connection, build()) is None:
                    keep_board(connection, kept.version, kept.costing.on, build(), packed)
                    self._in_database = kept.version, kept.costing.on

    def cost_ahead(self, then: Callable[[Kitchens], object] = lambda _: None) -> None:
        """Make the board in a thread of its own, so that it is there when it is asked for; and `then` something else."""

        def make() -> None:
            # What is wrong with the database or the kitchen is said to whoever asks for it.
            with suppress(psycopg.Error, PoolTimeout, PotrelError):
                self.packed(self.current())
                then(self)

        threading.Thread(target=make, name="costing ahead", daemon=True).start()

    def current(self) -> Kept:
        """What is kept, brought up to date."""
        with self.database.reading() as connection:
            version = read_version(connection)
        kept = self._kept
        if kept is not None and kept.version == version and kept.costing.on == self._today(kept.zone):
            return kept
        # One reads, the others wait for what it finds.
        with self._reading, self.database.reading() as connection:
            return self._keep(self._brought_up(connection, self._kept))

    def seen_by(self, connection: Connection) -> Kept:
        """The kitchen as a transaction sees it: for a writer, nothing changes any more between this and its end.

        Takes no lock: a writer holds that of the database already. What it has written itself nobody else sees before it has
        ended well.
        """
        found = self._brought_up(connection, self._kept)
        written = connection.execute("SELECT pg_current_xact_id_if_assigned() IS NOT NULL").fetchone()
        return found if written is None or written[0] else self._keep(found)

    def adopt(self, before: Kept, version: Version, costing: Costing) -> None:
        """Keep a costing that a writer made of the one before, once its transaction has ended well."""
        if self._kept is before:
            self._kept = Kept(version, costing, before.faults)

    def _keep(self, found: Kept) -> Kept:
        # One that was overtaken may be kept for a moment: whoever asks next brings it up to date again.
        self._kept = found
        return found

    def _brought_up(self, connection: Connection, kept: Kept | None) -> Kept:
        version, today = read_version(connection), self._today(load_zone(connection))
        if kept is not None and kept.version == version and kept.costing.on == today:
            return kept
        if kept is not None:
            changed = changed_since(connection, kept.version)
            if "all" not in changed and not any(len(ids) > _MANY for ids in (changed["item"], changed["recipe"])):
                costing = kept.costing
                if costing.on != today:
                    # Other prices are in force, which were set at other moments.
                    costing = recalled(connection, costing.on_day(today))
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
                return Kept(version, recalled(connection, costing.remembering(load_earlier(connection))), faults)


def _with_changes(connection: Connection, costing: Costing, changed: Mapping[ChangeKind, set[str]]) -> Costing:
    """A costing with what the change log names read anew; everything else is taken over."""
    kinds = {kind for kind, ids in changed.items() if ids}
    if "settings" in kinds:
        with made_for_long():
            costing = costing.with_settings(*load_settings(connection))
    if "vessel" in kinds:
        costing = costing.with_vessels(load_vessels(connection))
    if "item" in kinds:
        items = load_items(connection, changed["item"])
        costing = costing.with_items(items, changed["item"] - {item.id for item in items})
    if "offer" in kinds:
        costing = costing.with_offers(load_offers(connection, changed["offer"]))
    if "recipe" in kinds:
        recipes = load_recipes(connection, changed["recipe"])
        costing = costing.with_recipes(recipes, changed["recipe"] - {recipe.id for recipe in recipes})
        costing = remembering(connection, costing, changed["recipe"])
    if kinds & {"supplier", "credit", "test", "comparison", "deal"}:
        kitchen = costing.view.kitchen
        costing = costing.with_kitchen(
            replace(
                kitchen,
                suppliers=load_suppliers(connection) if "supplier" in kinds else kitchen.suppliers,
                credits=load_credits(connection) if "credit" in kinds else kitchen.credits,
                tests=load_tests(connection) if "test" in kinds else kitchen.tests,
                comparisons=load_comparisons(connection) if "comparison" in kinds else kitchen.comparisons,
                deals=load_deals(connection) if "deal" in kinds else kitchen.deals,
            )
        )
    return costing


def remembering(connection: Connection, costing: Costing, recipes: Collection[str]) -> Costing:
    """A costing with what the saves of some recipes tell; those of all others were told before."""
    earlier = costing.earlier.with_recipes(load_earlier(connection, recipes), recipes)
    there = [one for one in recipes if one in costing.view.recipes]
    return recalled(connection, costing.remembering(earlier), {*there, *costing.users_of(there)})


def recalled(connection: Connection, costing: Costing, recipes: Collection[str] | None = None) -> Costing:
    """A costing with the saves read that tell what portions of some recipes (all) cost when their prices were set."""
    while saves := costing.unread_saves(recipes):
        read = load_versions(connection, saves)
        # One that is not there tells nothing, and is not asked for again.
        nothing = dict.fromkeys(saves - read.keys(), NO_VERSION)
        costing = costing.remembering(costing.earlier.with_versions({**nothing, **read}))
    return costing
