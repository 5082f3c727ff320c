"""The commands behind `./run`: serve a kitchen, cost a document, move a kitchen in and out."""

from __future__ import annotations

import argparse
import fcntl
import json
import os
import signal
import socket
import sys
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import replace
from datetime import date, datetime
from pathlib import Path
from types import FrameType
from typing import TYPE_CHECKING, Any
from urllib.parse import urlsplit
from zoneinfo import ZoneInfo

from potrel.core.errors import PotrelError
from potrel.core.sentences import say

if TYPE_CHECKING:
    from potrel.core.cost.costing import Costing
    from potrel.postgres import Cluster
    from potrel.settings import Settings
    from potrel.store.backup import Backups, Tools

DEMO, KITCHEN = "potrel_demo", "potrel_kitchen"


def main(arguments: list[str] | None = None) -> int:
    """Run one command; returns the exit status. Errors that people can mend are one line on standard error."""
    parser = _parser()
    args = parser.parse_args(arguments)
    try:
        return int(args.command(args))
    except PotrelError as error:
        print(f"potrel: {_one_line(error)}", file=sys.stderr)
        return 2


def _one_line(error: Exception) -> str:
    return " ".join(str(error).split())


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="./run", description="Potrel costs soups and stews.")
    commands = parser.add_subparsers(required=True, metavar="COMMAND")
    for name, text in (("demo", "serve the demo kitchen"), ("start", "serve your own kitchen")):
        serve = commands.add_parser(name, help=text)
        serve.add_argument("--port", type=_port, default=8420, help="the port of the page (8420)")
        serve.set_defaults(command=_demo if name == "demo" else _start, fresh=False)
        if name == "demo":
            serve.add_argument("--fresh", action="store_true", help="put the demo back to its first state")
    cost = commands.add_parser("cost", help="cost a kitchen document, without a database")
    cost.add_argument("file", metavar="FILE", help='a kitchen document, or "-" for standard input')
    cost.add_argument("--recipe", metavar="ID", help="only this recipe")
    cost.add_argument("--on", metavar="DATE", type=_day, help="at the prices of this day (today)")
    cost.add_argument("--draws", metavar="N", type=_draws, help="tell how sure each figure is, by so many draws (10000)")
    cost.set_defaults(command=_cost)
    for name, text in (("export", "write your kitchen to a document"), ("import", "read your kitchen from a document")):
        move = commands.add_parser(name, help=text)
        move.add_argument("file", metavar="FILE")
        move.add_argument("--demo", action="store_true", help="the demo kitchen instead of yours")
        if name == "import":
            move.add_argument("--replace", action="store_true", help="put it in the place of the kitchen that is there")
        move.set_defaults(command=_export if name == "export" else _import)

    for name, text in (("backup", "write all of your kitchen to a back-up"), ("restore", "put a back-up in its place")):
        keep = commands.add_parser(name, help=text)
        keep.add_argument("file", metavar="FILE")
        keep.add_argument("--demo", action="store_true", help="the demo kitchen instead of yours")
        keep.set_defaults(command=_backup if name == "backup" else _restore)
    return parser


def _port(text: str) -> int:
    if not text.isdigit() or not 1 <= int(text) <= 65535:
        raise argparse.ArgumentTypeError(f"{text} is not a port: give a number from 1 to 65535")
    return int(text)


def _day(text: str) -> date:
    try:
        return date.fromisoformat(text)
    except ValueError:
        raise argparse.ArgumentTypeError(f"{text} is not a date: write it as 2026-11-24") from None


def _draws(text: str) -> int:
    if not text.isascii() or not text.isdigit() or not 100 <= int(text) <= 1_000_000:
        raise argparse.ArgumentTypeError(f"{text} is no number of draws: from 100 to 1000000, and 10000 is enough")
    return int(text)


def _read_file(name: str) -> bytes:
    from potrel.formats.kitchen_json import LARGEST_DOCUMENT

    try:
        if name == "-":
            return sys.stdin.buffer.read(LARGEST_DOCUMENT + 1)
        with Path(name).open("rb") as file:
            return file.read(LARGEST_DOCUMENT + 1)
    except OSError as error:
        raise PotrelError(say("no_file", "{file}: {cause}", file=name, cause=error.strerror or error)) from None


# -- cost ----------------------------------------------------------------------------------------------------------


def _cost(args: argparse.Namespace) -> int:
    from potrel.core.cost.costing import Costing
    from potrel.core.tell.cost_sheet import sheet_of
    from potrel.core.tell.sheet_parts import CostSheet
    from potrel.formats.kitchen_json import part_to_plain, read_kitchen

    text = _read_file(args.file)
    kitchen = read_kitchen(text)
    costing = Costing(kitchen, args.on or datetime.now(ZoneInfo(kitchen.settings.time_zone)).date())
    wanted = [recipe.id for recipe in kitchen.recipes] if args.recipe is None else [args.recipe]
    if args.recipe is not None and args.recipe not in costing.view.recipes:
        known = ", ".join(sorted(costing.view.recipes)) or "none"
        english = '{file}: no recipe has the id "{recipe}" (there are: {known})'
        raise PotrelError(say("no_recipe_in_file", english, file=args.file, recipe=args.recipe, known=known))
    sheets = [sheet_of(costing, recipe_id) for recipe_id in wanted]
    plain = [part_to_plain(CostSheet, sheet) for sheet in sheets]
    if args.draws is not None:
        from potrel.core.numbers.spread import seed_of

        _tell_how_sure(plain, costing, seed_of(text.hex()), args.draws)
    print(json.dumps(plain, indent=1, ensure_ascii=False))
    return 0 if all(sheet.complete for sheet in sheets) else 3


def _tell_how_sure(plain: list[dict[str, Any]], costing: Costing, seed: int, count: int) -> None:
    """Add to each serving of some cost sheets how far its figures may be off; null where that cannot be told."""
    from potrel.core.cost.uncertainty import Uncertainty, uncertainty_of
    from potrel.core.cost.unsure import Doubts
    from potrel.formats.kitchen_json import part_to_plain

    doubts = Doubts(costing, seed, count)
    for sheet in plain:
        found = {one.serving: one for one in uncertainty_of(costing, sheet["recipe"], doubts)}
        for serving in sheet["servings"]:
            one = found.get(serving["id"])
            serving["uncertainty"] = None if one is None else part_to_plain(Uncertainty, one)


# -- the server ----------------------------------------------------------------------------------------------------


class _Stopped(SystemExit):
    """A TERM or interrupt signal: everything that was started is to be stopped on the way out."""


def _stop(number: int, _: FrameType | None) -> None:
    # A second signal must not cut the stopping short.
    signal.signal(signal.SIGTERM, signal.SIG_IGN)
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    raise _Stopped(128 + number)


# A stop is done within five seconds, whatever runs: so long [s] answers that are under way may take, and all of the stopping.
_LAST_ANSWERS, _STOPPING = 2, 3.5
# The private cluster, while it is used.
_USED: list[Cluster] = []


def _end_in_time(status: int) -> None:
    """End this process even where something in it does not let go: what it was at is rolled back by the database."""
    from potrel.apart.workers import close_all

    close_all()
    time.sleep(_STOPPING)
    _say("something was still at work; it was ended, and nothing of it was saved")
    for cluster in _USED:
        cluster.leave()
    os._exit(status)


@contextmanager
def database(name: str, *, fresh: bool = False) -> Iterator[str]:
    """The address of a migrated database: of the private cluster, or the one the environment names."""
    from potrel.postgres import Cluster, cluster_folder
    from potrel.settings import BadSetting, read_settings
    from potrel.store.database import migrate

    settings = read_settings()
    if settings.database_url is not None:
        if fresh:
            raise BadSetting("POTREL_DATABASE_URL", "(not shown)", "--fresh empties only Potrel's own database, not this")
        _say("using the database of POTREL_DATABASE_URL")
        migrate(settings.database_url)
        yield settings.database_url
        return
    folder = cluster_folder(settings.home, settings.home_given)
    if folder != settings.home and settings.home_given:
        _say(f"{settings.home} keeps the database's user out; using {folder}")
    new = not (folder / "data" / "PG_VERSION").exists()
    _say(f"{'making' if new else 'starting'} the database in {folder}")
    with Cluster(folder).running() as cluster:
        _USED.append(cluster)
        cluster.ensure_database(name, fresh=fresh)
        migrate(cluster.url(name))
        yield cluster.url(name)
        _USED.remove(cluster)


def _demo(args: argparse.Namespace) -> int:
    _on_signals_stop()
    _check_port(args.port)
    from potrel.devices.simulated_scale import simulated_scale
    from potrel.devices.simulated_supplier import simulated_supplier
    from potrel.settings import read_settings

    with (
        _alone(DEMO, args.port),
        database(DEMO, fresh=args.fresh) as url,
        simulated_supplier() as catalogue_url,
        simulated_scale() as scale,
    ):
        _load_demo(url, catalogue_url)
        settings = read_settings()
        # The simulated supplier is inside the house, on a port of its own.
        allowed = (*settings.supplier_hosts, urlsplit(catalogue_url).netloc)
        settings = replace(settings, scale=settings.scale or scale.address, supplier_hosts=allowed)
        return _serve(url, args.port, settings, _backups(DEMO, url))


def _start(args: argparse.Namespace) -> int:
    _on_signals_stop()
    _check_port(args.port)
    from potrel.settings import read_settings

    with _alone(KITCHEN, args.port), database(KITCHEN) as url:
        return _serve(url, args.port, read_settings(), _backups(KITCHEN, url))


@contextmanager
def _alone(name: str, port: int) -> Iterator[None]:
    """Serve a kitchen of the data folder, unless somebody does already: then PotrelError says where."""
    from potrel.postgres import cluster_folder, make_folder
    from potrel.settings import read_settings

    settings = read_settings()
    if settings.database_url is not None:
        yield
        return
    folder = cluster_folder(settings.home, settings.home_given)
    make_folder(folder)
    with (folder / f"served-{name}").open("a+") as file:
        try:
            fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            file.seek(0)
            where = file.read().strip() or "another port"
            english = "this kitchen is served already, at {where}: open that, or stop it first"
            raise PotrelError(say("served_already", english, where=where)) from None
        file.truncate(0)
        file.write(f"http://127.0.0.1:{port}")
        file.flush()
        yield


def _load_demo(url: str, catalogue_url: str) -> None:
    """Fill an empty database with the demo; the simulated supplier is at another port each time."""
    from potrel.demo.filling import fill_demo, move_supplier
    from potrel.store.database import opened
    from potrel.store.kitchens import load_zone

    with opened(url, most=1) as store:
        with store.reading() as connection:
            today = datetime.now(load_zone(connection)).date()
        if fill_demo(store, today):
            _say("loaded the demo kitchen")
        move_supplier(store, catalogue_url)


def _on_signals_stop() -> None:
    signal.signal(signal.SIGTERM, _stop)
    signal.signal(signal.SIGINT, _stop)


def _check_port(port: int) -> None:
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind(("127.0.0.1", port))
        except OSError:
            english = "something listens on port {port} already: give another with --port"
            raise PotrelError(say("port_taken", english, port=port)) from None


def _serve(url: str, port: int, settings: Settings, backups: Backups) -> int:
    import uvicorn

    from potrel.api.app import Serving, create_app
    from potrel.api.guard.line import TimedLine

    class Server(uvicorn.Server):
        """Prints the address once it answers. A signal stops it in time, and is then heard by this module."""

        def handle_exit(self, sig: int, frame: FrameType | None) -> None:
            if not self.should_exit:
                threading.Thread(target=_end_in_time, args=(128 + sig,), name="ending", daemon=True).start()
            super().handle_exit(sig, frame)

        async def startup(self, sockets: list[socket.socket] | None = None) -> None:
            await super().startup(sockets)
            if self.started:
                print(f"Potrel is at http://127.0.0.1:{port}", flush=True)

    of = Serving(url, scale=settings.scale, ahead=True, supplier_hosts=settings.supplier_hosts, backups=backups)
    app = create_app(of, hosts=settings.hosts)
    config = uvicorn.Config(
        app, host="127.0.0.1", port=port, http=TimedLine, log_level="warning", timeout_graceful_shutdown=_LAST_ANSWERS
    )
    server = Server(config)
    server.run()
    return 0 if server.started else 1


def _say(text: str) -> None:
    print(f"potrel: {text}", file=sys.stderr, flush=True)


# -- in and out ----------------------------------------------------------------------------------------------------


def _export(args: argparse.Namespace) -> int:
    from potrel.formats.kitchen_json import write_kitchen
    from potrel.store.database import opened
    from potrel.store.kitchens import load_kitchen

    with database(DEMO if args.demo else KITCHEN) as url, opened(url, most=1) as store:
        with store.reading() as connection:
            text = write_kitchen(load_kitchen(connection))
    try:
        Path(args.file).write_text(text)
    except OSError as error:
        raise PotrelError(say("no_file", "{file}: {cause}", file=args.file, cause=error.strerror or error)) from None
    _say(f"wrote {args.file}; lists that were read in, revisions and history are in a back-up: ./run backup FILE")
    return 0


def _import(args: argparse.Namespace) -> int:
    from potrel.doing.whole_kitchen import read_in
    from potrel.formats.kitchen_json import read_kitchen
    from potrel.store.database import opened

    kitchen = read_kitchen(_read_file(args.file))
    name = DEMO if args.demo else KITCHEN
    with database(name) as url, opened(url, most=1) as store:

        def back_up(dropped: str) -> None:
            _say(f"what the document does not hold is let go: {dropped}")
            _say(f"took a back-up first: {_backups(name, url).take().name}")

        read_in(store, kitchen, "import", replace=args.replace, before_it_goes=back_up)
    _say(f"read {len(kitchen.items)} items and {len(kitchen.recipes)} recipes from {args.file}")
    return 0


# -- back-ups ------------------------------------------------------------------------------------------------------


def _tools(url: str) -> Tools:
    from potrel.postgres import binaries
    from potrel.store.backup import Tools

    return Tools(binaries(), url)


def _backups(name: str, url: str) -> Backups:
    """The back-ups of a kitchen, in the data folder."""
    from potrel.postgres import cluster_folder
    from potrel.settings import read_settings
    from potrel.store.backup import Backups

    settings = read_settings()
    return Backups(cluster_folder(settings.home, settings.home_given) / "backups" / name, _tools(url))


def _backup(args: argparse.Namespace) -> int:
    from potrel.store.backup import refuse_odd_place
    from potrel.store.database import opened
    from potrel.store.kitchens import what_it_holds

    file = Path(args.file).absolute()
    refuse_odd_place(file)
    with database(DEMO if args.demo else KITCHEN) as url:
        size = _tools(url).write(file)
        with opened(url, most=1) as store, store.reading() as connection:
            held = what_it_holds(connection)
    _say(f"wrote {args.file} ({size / 1e6:.1f} MB), and read it through; it holds {held}")
    return 0


def _restore(args: argparse.Namespace) -> int:
    from potrel.store.database import opened
    from potrel.store.kitchens import is_empty, what_it_holds

    name = DEMO if args.demo else KITCHEN
    with database(name) as url:
        tools = _tools(url)
        tools.check(Path(args.file).absolute())
        with opened(url, most=1) as store, store.reading() as connection:
            empty = is_empty(connection)

        def before() -> None:
            if not empty:
                _say(f"took a back-up of what was there: {_backups(name, url).take().name}")

        tools.restore(Path(args.file).absolute(), before)
        with opened(url, most=1) as store, store.reading() as connection:
            held = what_it_holds(connection)
    _say(f"restored {held}")
    return 0


if __name__ == "__main__":
    sys.exit(main())
