"""What is done with a whole kitchen: one read in from a document, or put into an empty database with its past."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace as with_other

from potrel.core.frozen import dataclass
from potrel.core.kitchen.kitchen import Kitchen
from potrel.core.rooms.review import ListChoices
from potrel.deliveries.understanding import Understood, understand
from potrel.store.database import Database
from potrel.store.kitchens import dropped_by_import, insert_kitchen, is_empty, load_zone
from potrel.store.price_lists import insert_price_list
from potrel.store.price_rounds import Sold, note_sold


@dataclass(frozen=True, slots=True)
class Beginning:
    """A kitchen as it is put into an empty database: lists (names and bytes) that wait for somebody, and what was sold."""

    kitchen: Kitchen
    lists: Sequence[tuple[str, bytes]] = ()
    sold: Sequence[Sold] = ()


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


def begin(database: Database, of: Callable[[], Beginning], by: str) -> bool:
    """Put a kitchen into an empty database, all of it or nothing, in the time zone that is set there.

    Returns whether it was empty; `of` is asked only then.
    """
    with database.reading() as connection:
        if not is_empty(connection):
            return False
        zone = load_zone(connection).key
    made = of()
    kitchen = with_other(made.kitchen, settings=with_other(made.kitchen.settings, time_zone=zone))
    with database.writing(by) as connection:
        insert_kitchen(connection, kitchen, by)
        for name, data in made.lists:
            *_, last = understand(data, kitchen, ListChoices())
            if isinstance(last, Understood):
                insert_price_list(connection, name, data, last.of, last.supplier, by)
        note_sold(connection, made.sold, by)
    return True
