"""What the store refuses, and the one place where a broken constraint becomes an error of the trade."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager

from psycopg import errors as pg

from potrel.core.errors import PotrelError
from potrel.core.kitchen import Item, Recipe


class NotFound(PotrelError):
    """Something asked for by an id that the kitchen does not have."""

    def __init__(self, what: str, wanted: str) -> None:
        super().__init__(f'this kitchen has no {what} "{wanted}"')


class AlreadyThere(PotrelError):
    """A new thing with the id of an old one."""


class StillUsed(PotrelError):
    """Something that cannot go because others use it."""


class Refused(PotrelError):
    """A row that a constraint of the database refused."""


class NotEmpty(PotrelError):
    """A whole kitchen to be read into a database that holds one already."""


class StaleRecipe(PotrelError):
    """A save of a recipe that somebody else has saved in the meantime; carries both versions."""

    def __init__(self, theirs: Recipe | None, their_revision: int, saved_by: str, yours: Recipe) -> None:
        self.theirs, self.their_revision, self.saved_by, self.yours = theirs, their_revision, saved_by, yours
        what = "was taken off" if theirs is None else "has been saved"
        super().__init__(
            f"{yours.name} {what} by {saved_by} in the meantime (revision {their_revision}): "
            "look at both, then keep yours or take theirs"
        )


class StaleItem(PotrelError):
    """A save of an item that somebody else has changed in the meantime; carries theirs."""

    def __init__(self, theirs: Item) -> None:
        self.theirs = theirs
        super().__init__(f"{theirs.name} has been changed by somebody else in the meantime: look at both versions")


class StaleYield(PotrelError):
    """A yield to be adopted that is not what was seen: a test came in, or somebody adopted another."""

    def __init__(self, name: str) -> None:
        super().__init__(f"the tests of {name} have changed in the meantime: look at them again")


class StaleQuestion(PotrelError):
    """An answer to a question that the kitchen would ask otherwise by now."""

    def __init__(self) -> None:
        super().__init__("the kitchen's yields or prices have changed since this was asked: take another question")


class StaleSheet(PotrelError):
    """A test sheet that somebody went on with on another screen."""

    def __init__(self, started_by: str) -> None:
        super().__init__(f"the sheet that {started_by} began was gone on with on another screen: take theirs, or keep yours")


class StaleSupplier(PotrelError):
    """A save of a supplier that somebody else has changed in the meantime."""

    def __init__(self, name: str) -> None:
        super().__init__(f"{name} has been changed by somebody else in the meantime: open it again and look first")


class StaleComparison(PotrelError):
    """A comparison that somebody else changed, or let go, since it was opened."""

    def __init__(self, name: str) -> None:
        super().__init__(f"{name} has been changed by somebody else in the meantime: open it again and look first")


class StaleReview(PotrelError):
    """A list to be recorded that is not what was seen any more: prices or choices have changed since."""

    def __init__(self) -> None:
        super().__init__("prices or choices have changed since you looked at this list: nothing was recorded; look again")


class StaleSettings(PotrelError):
    """A save of settings that somebody else has changed in the meantime."""

    def __init__(self) -> None:
        super().__init__("somebody else has changed the kitchen's settings in the meantime: open them again and look first")


@contextmanager
def refusals() -> Iterator[None]:
    """Turn the violation of a constraint inside the block into an error that says what would mend it."""
    try:
        yield
    except pg.ForeignKeyViolation as error:
        diag = error.diag
        if "still referenced" in str(error):
            raise StillUsed(f"it is still used ({diag.table_name}): take it out there first") from error
        raise Refused(f"{diag.table_name} names something that is not there: {diag.message_detail}") from error
    except pg.UniqueViolation as error:
        raise AlreadyThere(f"there is one already: {error.diag.message_detail}") from error
    except (pg.CheckViolation, pg.NotNullViolation, pg.RaiseException) as error:
        raise Refused(f"the database refused it: {error.diag.message_primary}") from error
