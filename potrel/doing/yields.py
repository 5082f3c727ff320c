"""What is done with yields: one adopted, or one of before taken up again."""

from __future__ import annotations

from dataclasses import dataclass

from potrel.core.cost.confidence import YieldSort
from potrel.core.cost.costing import Costing
from potrel.core.cost.effects import with_item
from potrel.core.errors import BadDocument
from potrel.core.kitchen.bench_tests import BenchTest
from potrel.core.kitchen.items import Item
from potrel.core.kitchen.keyed import Keyed
from potrel.core.kitchen.kinds import Yield
from potrel.core.numbers.rounding import half_even
from potrel.core.rooms.target_alerts import pushed_past
from potrel.core.rooms.yield_book import (
    Evidence,
    entry_of,
    evidence_of,
    stated_entry,
    tests_by_yield,
)
from potrel.core.rooms.yield_choices import adopted_item, choices_of, with_entry
from potrel.core.sentences import say
from potrel.doing.items import known_item
from potrel.doing.kitchens import Kitchens
from potrel.store.changes import read_version
from potrel.store.database import Connection
from potrel.store.errors import NotFound, StaleYield
from potrel.store.items import update_item
from potrel.store.pushed import mark_pushed, taken_back
from potrel.store.yields import Adopted, adopted, note_adopted


@dataclass(frozen=True, slots=True)
class Adopt(Keyed):
    """A choice of a yield by its id, or the number of one that was in use before; `yield` is what was seen of it."""

    yield_: Yield
    choice: str | None = None
    back_to: int | None = None


class YieldKey:
    """A yield by its item, what sort it is, and what it is of."""

    def __init__(self, item_id: str, sort: YieldSort, of: str) -> None:
        self.item_id, self.sort, self.of = item_id, sort, of

    def item(self, costing: Costing) -> Item:
        """Its item. NotFound."""
        return known_item(costing, self.item_id)

    def tests(self, costing: Costing) -> list[BenchTest]:
        """The kitchen's own tests of it."""
        return tests_by_yield(costing.view).get((self.item_id, self.sort, self.of), [])

    def known(self, costing: Costing, history: list[Adopted]) -> Evidence:
        """All that is known of it."""
        earlier = [one.entry for one in history]
        return evidence_of(costing.view, self.item(costing), self.sort, self.of, self.tests(costing), earlier)

    def earlier(self, connection: Connection) -> list[Adopted]:
        """The yields that were in use before, the newest first."""
        return adopted(connection, self.item_id, self.sort, self.of)


def adopt_yield(kitchens: Kitchens, key: YieldKey, adopt: Adopt, by: str) -> int:
    """Adopt a yield, or go back to one that was in use before; the number of the one before. Each one stays on record.

    StaleYield where it is not what was seen; NotFound, BadDocument.
    """
    with kitchens.database.writing(by) as connection:
        # As it is now; that it is what was seen, the yield says that came with the request.
        before = kitchens.seen_by(connection)
        costing, item = before.costing, key.item(before.costing)
        history = key.earlier(connection)
        changed = adopting(costing, key, adopt, history)
        was = history[0].number if history else 0
        entry = entry_of(costing.view, item, key.sort, key.of)
        if entry is not None and (not history or history[0].entry != entry):
            # What stands now came by another way: it is kept too, so that one can go back to it.
            was = note_adopted(connection, item.id, key.of, entry, "as it was")
        update_item(connection, changed)
        wanted = stated_entry(changed, key.sort, key.of)
        if wanted is not None:
            note_adopted(connection, item.id, key.of, wanted, by)
        after, effects = with_item(costing, changed)
        taken_back(connection, [f"item {item.id}"])
        mark_pushed(connection, pushed_past(effects), f"yield of {item.name}", [f"item {item.id}"])
        version = read_version(connection)
    kitchens.adopt(before, version, after)
    return was


def adopting(costing: Costing, key: YieldKey, adopt: Adopt, history: list[Adopted]) -> Item:
    """The item with the yield that is wanted; StaleYield where that is not what was seen."""
    item = key.item(costing)
    if adopt.back_to is not None:
        back = next((one for one in history if one.number == adopt.back_to), None)
        if back is None:
            raise NotFound("yield in use before", str(adopt.back_to))
        return with_entry(item, back.entry)
    choice = next((one for one in choices_of(key.known(costing, history)) if one.id == adopt.choice), None)
    if choice is None:
        english = 'there is no "{choice}" to adopt: choose a book, the mean or the blend'
        raise BadDocument("choice", say("no_choice", english, choice=adopt.choice))
    if choice.yield_ is None:
        raise BadDocument("choice", say("not_to_adopt", "{lack}", lack=choice.lack or "this cannot be adopted"))
    if half_even(choice.yield_, 6) != half_even(adopt.yield_, 6):
        raise StaleYield(item.name)
    return adopted_item(item, key.sort, key.of, choice)
