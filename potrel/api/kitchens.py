"""The kitchen as the routes see it: costed, kept in memory under the version of the data it was read at."""

from __future__ import annotations

import threading
from collections.abc import Callable
from dataclasses import dataclass
from datetime import date

from potrel.api.board_text import BoardText
from potrel.core.costing import Costing
from potrel.core.drift import Reach
from potrel.core.keeping import keep_for_long
from potrel.core.kitchen import Recipe
from potrel.store.database import Database, Version, read_version
from potrel.store.kitchens import load_kitchen
from potrel.store.offers import load_offers


@dataclass(slots=True)
class _Kept:
    version: Version
    costing: Costing
    # The recipes that moved since the board was last made; None where all may have.
    moved: frozenset[str] | None
    board: str | None = None
    reach: Reach | None = None


class Kitchens:
    """Keeps the newest costing. Any number of processes may do so: the version in the database decides what is new."""

    def __init__(self, database: Database, today: Callable[[], date]) -> None:
        self.database = database
        self._today = today
        self._kept: _Kept | None = None
        self._boards = BoardText()
        self._lock = threading.Lock()

    def costing(self) -> Costing:
        """The kitchen, costed today."""
        return self._current().costing

    def board(self) -> str:
        """The board of today, as JSON."""
        return self._board_of(self._current())

    def _board_of(self, kept: _Kept) -> str:
        if kept.board is None:
            with self._lock:
                if kept is self._kept:
                    kept.board = kept.board or self._boards.of(kept.costing, kept.moved)
                else:
                    # Overtaken while it waited: the rows that are kept belong to a later costing by now.
                    kept.board = BoardText().of(kept.costing, None)
        return kept.board

    def reach(self) -> Reach:
        """Which servings each item reaches today."""
        kept = self._current()
        if kept.reach is None:
            kept.reach = Reach(kept.costing)
        return kept.reach

    def saved(self, recipe: Recipe) -> None:
        """Carry a recipe just saved into what is kept, where nothing else has changed in between."""
        with self._lock:
            kept, now = self._kept, self.database.version()
            if kept is not None and now == Version(kept.version.changes + 1, kept.version.newest_offer):
                self._kept = self._after(kept, now, kept.costing.replacing(recipe))

    def offered(self, before: Costing, after: Costing, count: int) -> None:
        """Carry so many prices just recorded into what is kept, where nothing else has changed in between."""
        with self._lock:
            kept, now = self._kept, self.database.version()
            if kept is not None and kept.costing is before:
                if now == Version(kept.version.changes, kept.version.newest_offer + count):
                    self._kept = self._after(kept, now, after)

    def _current(self) -> _Kept:
        today, version = self._today(), self.database.version()
        kept = self._kept
        if kept is not None and kept.version == version and kept.costing.on == today:
            return kept
        with self._lock:
            kept = self._kept
            if kept is None or kept.version != version or kept.costing.on != today:
                self._kept = kept = self._read(today, kept)
            return kept

    def _read(self, today: date, kept: _Kept | None) -> _Kept:
        with self.database.reading() as connection:
            version = read_version(connection)
            if kept is not None and kept.version.changes == version.changes and kept.costing.on == today:
                offers = load_offers(connection, after=kept.version.newest_offer)
                return self._after(kept, version, kept.costing.with_offers(offers))
            costing = Costing(load_kitchen(connection), today)
        keep_for_long()
        return _Kept(version, costing, None)

    def _after(self, kept: _Kept, version: Version, costing: Costing) -> _Kept:
        if costing.moved is None or (kept.board is None and kept.moved is None):
            return _Kept(version, costing, None)
        return _Kept(version, costing, costing.moved | (kept.moved or frozenset() if kept.board is None else frozenset()))
