"""What is done with a whole kitchen: one read in from a document."""

from __future__ import annotations

from collections.abc import Callable

from potrel.core.kitchen.kitchen import Kitchen
from potrel.store.database import Database
from potrel.store.kitchens import dropped_by_import, insert_kitchen


def read_in(database: Database, kitchen: Kitchen, by: str, *, replace: bool, before_it_goes: Callable[[str], None]) -> None:
    """Read a kitchen into a database, all or nothing. NotEmpty where there is one already, and it is not to be replaced.

    Where something goes that the document does not hold, `before_it_goes` is told what.
    """
    if replace:
        with database.reading() as connection:
            dropped = dropped_by_import(connection, kitchen)
        if dropped:
            before_it_goes(dropped)
    with database.writing(by) as connection:
        insert_kitchen(connection, kitchen, by, replace=replace)
