"""What the store refuses, and the one place where a broken constraint becomes an error of the trade."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from typing import ClassVar

from psycopg import errors as pg

from potrel.core.errors import PotrelError
from potrel.core.kitchen.items import Item
from potrel.core.kitchen.recipes import Recipe
from potrel.core.sentences import say


class NotFound(PotrelError):
    """Something asked for by an id that the kitchen does not have."""

    def __init__(self, what: str, wanted: str) -> None:
        super().__init__(say("not_here", 'this kitchen has no {what} "{id}"', what=what, id=wanted))


class AlreadyThere(PotrelError):
    """A new thing with the id of an old one."""


class StillUsed(PotrelError):
    """Something that cannot go because others use it."""


class Refused(PotrelError):
    """A row that a constraint of the database refused."""


class NotEmpty(PotrelError):
    """A whole kitchen to be read into a database that holds one already."""


class Stale(PotrelError):
    """Something to be saved, set or answered that is not what was seen any more: `of` says what, `title` heads it."""

    of: ClassVar[str]
    title: ClassVar[str] = "Somebody else saved it first"


class StaleRecipe(Stale):
    """A save of a recipe that somebody else has saved in the meantime; carries both versions."""

    of = "recipe"

    def __init__(self, theirs: Recipe | None, their_revision: int, saved_by: str, yours: Recipe) -> None:
        self.theirs, self.their_revision, self.saved_by, self.yours = theirs, their_revision, saved_by, yours
        code, what = ("recipe_taken_off", "was taken off") if theirs is None else ("recipe_saved", "has been saved")
        english = f"{{recipe}} {what} by {{by}} in the meantime (revision {{revision}}): look at both, then keep one of them"
        super().__init__(say(code, english, recipe=yours.name, by=saved_by, revision=their_revision))


class StaleItem(Stale):
    """A save of an item that somebody else has changed in the meantime; carries theirs."""

    of = "item"

    def __init__(self, theirs: Item) -> None:
        self.theirs = theirs
        english = "{name} has been changed by somebody else in the meantime: look at what it says now, then save again"
        super().__init__(say("item_changed", english, name=theirs.name))


class StaleOffer(Stale):
    """A price to be corrected that somebody corrected in the meantime."""

    of = "offer"
    title = "Somebody else was first"

    def __init__(self, item: str) -> None:
        english = "this price of {item} was corrected or taken back in the meantime: look at its prices again"
        super().__init__(say("corrected_meanwhile", english, item=item))


class StaleYield(Stale):
    """A yield to be adopted that is not what was seen: a test came in, or somebody adopted another."""

    of = "yield"
    title = "Not what was seen"

    def __init__(self, name: str) -> None:
        super().__init__(
            say("tests_changed", "the tests of {name} have changed in the meantime: look at them again", name=name)
        )


class StalePrices(Stale):
    """Prices to be set, or taken back, that are not what was seen: somebody set others in the meantime."""

    of = "prices"
    title = "Not what was seen"

    def __init__(self, names: str) -> None:
        english = "the price of {names} was changed by somebody else in the meantime: look again, then set it"
        super().__init__(say("prices_changed", english, names=names))


class NothingToTakeBack(Stale):
    """A round of prices of which none stands as the round left it."""

    of = "prices"
    title = "Not what was seen"

    def __init__(self, whys: str) -> None:
        super().__init__(say("round_overtaken", "none of these prices can be taken back: {whys}", whys=whys))


class StaleMerge(Stale):
    """A merge to be taken back after which something of what it changed was changed again."""

    of = "merge"
    title = "Changed since"

    def __init__(self, names: list[str]) -> None:
        english = "it cannot be taken back any more: {names} changed since. Bring the item back by hand"
        super().__init__(say("merge_overtaken", english, names=", ".join(names)))


class StaleDeals(Stale):
    """Meal deals that somebody else has changed in the meantime."""

    of = "deals"

    def __init__(self) -> None:
        english = "somebody else has changed the meal deals in the meantime: open them again and look first"
        super().__init__(say("deals_changed", english))


class StaleQuestion(Stale):
    """An answer to a question that the kitchen would ask otherwise by now."""

    of = "question"
    title = "Not what was asked"

    def __init__(self) -> None:
        english = "the kitchen's yields or prices have changed since this was asked: take another question"
        super().__init__(say("question_changed", english))


class StaleSheet(Stale):
    """A test sheet that somebody went on with on another screen."""

    of = "sheet"
    title = "Gone on with elsewhere"

    def __init__(self, started_by: str) -> None:
        english = "the sheet that {by} began was gone on with on another screen: take theirs, or keep yours"
        super().__init__(say("sheet_changed", english, by=started_by))


_OPEN_AGAIN = "{name} has been changed by somebody else in the meantime: open it again and look first"


class StaleSupplier(Stale):
    """A save of a supplier that somebody else has changed in the meantime."""

    of = "supplier"

    def __init__(self, name: str) -> None:
        super().__init__(say("supplier_changed", _OPEN_AGAIN, name=name))


class StaleComparison(Stale):
    """A comparison that somebody else changed, or let go, since it was opened."""

    of = "comparison"

    def __init__(self, name: str) -> None:
        super().__init__(say("comparison_changed", _OPEN_AGAIN, name=name))


class StaleReview(Stale):
    """A list to be recorded that is not what was seen any more: prices or choices have changed since."""

    of = "review"
    title = "Not what was seen"

    def __init__(self) -> None:
        english = "prices or choices have changed since you looked at this list: this was not taken; look again"
        super().__init__(say("list_changed", english))


class StaleSettings(Stale):
    """A save of settings that somebody else has changed in the meantime."""

    of = "settings"

    def __init__(self) -> None:
        english = "somebody else has changed the kitchen's settings in the meantime: open them again and look first"
        super().__init__(say("settings_changed", english))


@contextmanager
def refusals() -> Iterator[None]:
    """Turn the violation of a constraint inside the block into an error that says what would mend it.

    What the server says is told by its codes and names, never by its message, which may be in any language.
    """
    try:
        yield
    except pg.ForeignKeyViolation as error:
        english = "{table} names something that is not there, or no longer: look again, then name another"
        raise Refused(say("names_nothing", english, table=_table(error))) from error
    except pg.UniqueViolation as error:
        raise AlreadyThere(say("already_there", "there is one already in {table}", table=_table(error))) from error
    except (pg.CheckViolation, pg.NotNullViolation) as error:
        what = error.diag.constraint_name or error.diag.column_name or "a value"
        english = "the database refused it: {table} breaks its rule {rule}"
        raise Refused(say("rule_broken", english, table=_table(error), rule=what)) from error
    except pg.RaiseException as error:
        # Raised by a trigger of ours, in our own words.
        raise Refused(say("refused", "the database refused it: {cause}", cause=error.diag.message_primary)) from error


@contextmanager
def still_used(what: str) -> Iterator[None]:
    """Around the deletion of something: StillUsed where others use it."""
    try:
        yield
    except pg.ForeignKeyViolation as error:
        english = "{what} is still used ({table}): take it out there first"
        raise StillUsed(say("still_used", english, what=what, table=_table(error))) from error


def _table(error: pg.Error) -> str:
    return error.diag.table_name or "the kitchen"
