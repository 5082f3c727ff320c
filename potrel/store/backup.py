"""Back-ups: everything, as PostgreSQL's own tools write and read it; checked before one counts, restored whole or not at all.

A back-up holds all that the kitchen document holds and all that it does not: the bytes of the lists that were read in,
every revision, the change log, half-done sheets, marks.
"""

from __future__ import annotations

import os
import re
import subprocess
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from pathlib import Path

import psycopg
from psycopg.conninfo import conninfo_to_dict

from potrel.core.errors import PotrelError
from potrel.core.kitchen.kinds import Count, Name, On
from potrel.core.sentences import say
from potrel.store.database import WRITERS, migrate, refuse_newer

_DAYS, _WEEKS = 7, 4
_NAME = re.compile(r"potrel-([0-9]{4}-[0-9]{2}-[0-9]{2})(?:-([0-9]{6}))?\.backup")


# Ends whoever else is connected, so that they begin anew.
_OTHERS = (
    "SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = current_database() AND usename = current_user"
    " AND pid NOT IN (pg_backend_pid(), {pid})"
)


class BackupError(PotrelError):
    """A back-up that could not be written, read or put in place; says what would mend it."""


@dataclass(frozen=True, slots=True)
class Backup:
    """A back-up that is kept: the name of its file, the day it was taken, its size in bytes."""

    name: Name
    on: On
    size: Count


class Tools:
    """PostgreSQL's own programs in a folder, on a database at an address. The password never stands in a command."""

    def __init__(self, programs: Path, url: str) -> None:
        self._programs, self._url = programs, url
        told = conninfo_to_dict(url)
        names = {"host": "PGHOST", "port": "PGPORT", "user": "PGUSER", "password": "PGPASSWORD", "dbname": "PGDATABASE"}
        self._environ = {"PATH": os.environ.get("PATH", ""), "LC_ALL": "C.UTF-8"}
        self._environ |= {name: str(told[key]) for key, name in names.items() if told.get(key) is not None}

    def write(self, file: Path) -> int:
        """Write a back-up to a file, and return its size in bytes.

        It is written beside its place, read through once, and takes that place only when it is whole: one that stood there
        stays until then. BackupError where that fails; nothing is left of it.
        """
        refuse_odd_place(file)
        beside = file.with_name(f".{file.name}.{os.getpid()}.partial")
        try:
            # Its own file from the first byte: only its owner may read a kitchen.
            os.close(os.open(beside, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600))
            self._run("pg_dump", "--format=custom", "--no-owner", "--no-acl", "--compress=6", f"--file={beside}")
            self.check(beside)
            size = beside.stat().st_size
            _settle(beside)
            beside.replace(file)
            _settle(file.parent)
            return size
        except OSError as error:
            raise _not_written(file, error.strerror or str(error)) from None
        finally:
            beside.unlink(missing_ok=True)

    def check(self, file: Path) -> None:
        """BackupError unless a file is a back-up that can be read from end to end."""
        if not file.exists():
            raise BackupError(say("no_backup", "there is no file {file}: give the name of a back-up", file=file))
        if not file.is_file():
            raise BackupError(say("backup_no_file", "{file} is no regular file: give the name of a back-up", file=file))
        with file.open("rb") as opened:
            if opened.read(5) != b"PGDMP":
                english = "{file} is no back-up of Potrel's: give one that ./run backup wrote"
                raise BackupError(say("other_backup", english, file=file.name))
        done = self._call("pg_restore", f"--file={os.devnull}", str(file))
        if done.returncode != 0:
            english = "the back-up {file} is damaged or not whole ({cause}): take another one"
            raise BackupError(say("damaged_backup", english, file=file.name, cause=_cause(done.stderr)))

    def restore(self, file: Path, before: Callable[[], object] = lambda: None) -> None:
        """Put a back-up in the place of all that is in the database, in one transaction, and bring it to today's schema.

        BackupError, with nothing changed, where it is damaged, or newer than this Potrel. Who reads meanwhile reads what was.
        Who writes waits from `before` (a back-up of what is there) until the other kitchen stands, and is refused then: what
        was told to be saved is in one of the two.
        """
        self.check(file)
        self._refuse_newer(file)
        script = file.with_name(f".{file.name}.{os.getpid()}.sql")
        with psycopg.connect(self._url, autocommit=True) as writers:
            writers.execute("SELECT pg_advisory_lock(%s)", [WRITERS])
            before()
            try:
                os.close(os.open(script, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600))
                self._run("pg_restore", "--no-owner", "--no-acl", f"--file={script}", str(file))
                first = "SET client_min_messages = warning; DROP SCHEMA public CASCADE; CREATE SCHEMA public;"
                others = _OTHERS.format(pid=writers.info.backend_pid)
                self._run(
                    "psql", "--quiet", "--no-psqlrc", "--single-transaction", "--set=ON_ERROR_STOP=1", "--output=/dev/null",
                    f"--command={first}", f"--file={script}",
                    # Who is connected knows tables that are gone: nobody is to be left with these when the others are there.
                    f"--command={others}",
                )  # fmt: skip
            except OSError as error:
                raise BackupError(say("not_restored", "it could not be restored: {cause}", cause=error.strerror)) from None
            finally:
                script.unlink(missing_ok=True)
            migrate(self._url)
            writers.execute(_OTHERS.format(pid=writers.info.backend_pid).encode())

    def _refuse_newer(self, file: Path) -> None:
        done = self._call("pg_restore", "--data-only", "--table=_yoyo_migration", "--file=-", str(file))
        refuse_newer({column for line in done.stdout.splitlines() for column in line.split("\t")[1:2]} - {""})

    def _run(self, program: str, *args: str) -> None:
        done = self._call(program, *args)
        if done.returncode != 0:
            cause = _cause(done.stderr)
            if "No space left" in done.stderr or "could not extend file" in done.stderr:
                raise BackupError(say("disk_full", "the disk is full: make room, and try again. Nothing was changed"))
            raise BackupError(say("tool_failed", "{program} failed: {cause}", program=program, cause=cause))

    def _call(self, program: str, *args: str) -> subprocess.CompletedProcess[str]:
        return subprocess.run(
            [str(self._programs / program), *args], stdin=subprocess.DEVNULL, capture_output=True, text=True, errors="replace",
            env=self._environ, check=False, start_new_session=True,
        )  # fmt: skip


def refuse_odd_place(file: Path) -> None:
    """BackupError where a back-up would take the place of what is no regular file, or lie in no folder."""
    if file.is_symlink() or (file.exists() and not file.is_file()):
        english = "{file} is no regular file: give the name of a new file, or of a back-up that may be written over"
        raise BackupError(say("no_regular_file", english, file=file))
    if not file.parent.is_dir():
        raise BackupError(say("no_folder", "there is no folder {folder}: make it first", folder=file.parent))


def _cause(said: str) -> str:
    lines = [line for line in said.strip().splitlines() if line.strip()]
    return lines[0][:200] if lines else "it said nothing"


def _not_written(file: Path, cause: str) -> BackupError:
    return BackupError(say("backup_not_written", "{file} could not be written: {cause}", file=file, cause=cause))


def _settle(path: Path) -> None:
    """Have what was written on the disk before anything is said of it."""
    number = os.open(path, os.O_RDONLY)
    try:
        os.fsync(number)
    finally:
        os.close(number)


class Backups:
    """The back-ups in a folder: one a day by itself, one whenever somebody asks; those of 7 days and of 4 weeks are kept."""

    def __init__(self, folder: Path, tools: Tools) -> None:
        self.folder, self._tools = folder, tools

    def kept(self) -> list[Backup]:
        """Those that are kept, the newest first."""
        if not self.folder.is_dir():
            return []
        names = [path.name for path in self.folder.iterdir() if _NAME.fullmatch(path.name)]
        names.sort(key=_taken_at, reverse=True)
        return [Backup(name, _taken_at(name)[0], (self.folder / name).stat().st_size) for name in names]

    def take(self, now: datetime | None = None) -> Backup:
        """Take one now, and let go those that need not be kept any more."""
        now = now or datetime.now().astimezone()
        return self._take(f"potrel-{now:%Y-%m-%d-%H%M%S}.backup", now.date())

    def take_todays(self, today: date) -> Backup | None:
        """Take that of today, unless there is one."""
        if any(one.on == today for one in self.kept()):
            return None
        return self._take(f"potrel-{today.isoformat()}.backup", today)

    def _take(self, name: str, today: date) -> Backup:
        try:
            self.folder.mkdir(parents=True, exist_ok=True, mode=0o700)
        except OSError as error:
            raise _not_written(self.folder, error.strerror or str(error)) from None
        size = self._tools.write(self.folder / name)
        for left in self.folder.glob(".potrel-*.partial"):
            # What a killed one left behind.
            left.unlink(missing_ok=True)
        for one in to_let_go(self.kept(), today):
            (self.folder / one.name).unlink(missing_ok=True)
        return Backup(name, today, size)


def _taken_at(name: str) -> tuple[date, str]:
    """The day and the time of a back-up; that of the day itself was taken before those that somebody asked for."""
    found = _NAME.fullmatch(name)
    return (date.min, "") if found is None else (date.fromisoformat(found[1]), found[2] or "")


def to_let_go(kept: Sequence[Backup], today: date) -> list[Backup]:
    """Those of some back-ups, the newest first, that are neither of the last seven days nor the newest of a recent week.

    Of a day before today, only the newest is kept.
    """
    keep: set[str] = set()
    keep |= {one.name for one in kept if one.on >= today}
    keep |= _newest_of(kept, lambda on: on.isoformat() if on > today - timedelta(days=_DAYS) else None)
    monday = today - timedelta(days=today.weekday())
    first = monday - timedelta(weeks=_WEEKS)
    keep |= _newest_of(kept, lambda on: str(on - timedelta(days=on.weekday())) if on >= first else None)
    # Whatever the clock says, the newest is never let go.
    keep |= {one.name for one in kept[:1]}
    return [one for one in kept if one.name not in keep]


def _newest_of(kept: Iterable[Backup], span: Callable[[date], str | None]) -> set[str]:
    found: dict[str, str] = {}
    for one in kept:
        key = span(one.on)
        if key is not None:
            found.setdefault(key, one.name)
    return set(found.values())
