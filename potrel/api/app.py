"""The application: routes, problems, and the built front end, served from one process."""

from __future__ import annotations

import json
from collections.abc import AsyncIterator, Callable, Collection, Iterator
from contextlib import asynccontextmanager, contextmanager
from dataclasses import dataclass
from datetime import date, datetime
from pathlib import Path
from typing import Any

from fastapi import APIRouter, FastAPI, Request
from fastapi.openapi.utils import get_openapi
from fastapi.routing import APIRoute
from starlette.exceptions import HTTPException
from starlette.middleware.gzip import GZipMiddleware
from starlette.responses import FileResponse, Response
from starlette.routing import Match
from starlette.staticfiles import StaticFiles

from potrel.apart.workers import shared
from potrel.api.board import routes as board
from potrel.api.buy import comparisons, from_shelf, invoices, items, labels, lists, merges
from potrel.api.cook import paste, recipes, workings
from potrel.api.dependencies import NOBODY_KNOWN
from potrel.api.guard.body import BodyGuard
from potrel.api.guard.no_store import NoStore
from potrel.api.guard.origin import OriginGuard
from potrel.api.kitchen import routes as kitchen
from potrel.api.price import deals, papers, prices
from potrel.api.problems import ProblemDetails, install
from potrel.api.trim import benches, practice, yields
from potrel.api.trim import scale as scales
from potrel.deliveries.reading_apart import READING
from potrel.devices.scale import Scale
from potrel.devices.supplier_service import SupplierService
from potrel.doing.daily_backup import daily
from potrel.doing.fetches import by_the_clock
from potrel.doing.kitchens import Kitchens
from potrel.doing.now_and_then import now_and_then
from potrel.doing.otherwise import note_what_costs_otherwise
from potrel.doing.reviews import Reviews
from potrel.store.backup import Backups
from potrel.store.database import opened

_METHODS = ("GET", "HEAD", "POST", "PUT", "PATCH", "DELETE", "OPTIONS", "TRACE")
# A board that was just made is in the database so soon [s]; one that changes all the time is not written all the time.
_BOARD_KEPT_EVERY = 5.0
BUILT = Path(__file__).parents[2] / "web" / "dist"


@dataclass(frozen=True, slots=True)
class Serving:
    """What an application serves. `today` and `clock` can be fixed for tests, and are the kitchen's own else.

    `scale` is the address of a bench scale, where there is one. With `ahead`, the kitchen is costed before anybody asks, and
    its board kept for the next start. `supplier_hosts` are hosts inside the house where lists may be fetched. With `backups`,
    one is taken each day.
    """

    database_url: str
    today: Callable[[], date] | None = None
    clock: Callable[[], datetime] | None = None
    scale: str | None = None
    ahead: bool = False
    supplier_hosts: Collection[str] = ()
    backups: Backups | None = None


@asynccontextmanager
async def _lifespan(app: FastAPI) -> AsyncIterator[None]:
    of: Serving = app.state.serving
    with opened(of.database_url) as database:
        kitchens = app.state.kitchens = Kitchens(database, of.today)
        app.state.reviews = Reviews(kitchens, SupplierService(of.supplier_hosts))
        app.state.scale = Scale(of.scale)
        app.state.actor = NOBODY_KNOWN
        app.state.backups = of.backups
        now = of.clock or kitchens.now
        with by_the_clock(kitchens, app.state.reviews, now), daily(of.backups, now), _ahead(app, kitchens, of.ahead):
            yield
        app.state.scale.close()


@contextmanager
def _ahead(app: FastAPI, kitchens: Kitchens, ahead: bool) -> Iterator[None]:
    """Have the kitchen costed, and a reader of files ready, before anybody asks; and the board kept while the block runs."""
    if not ahead:
        yield
        return

    def afterwards(_: Kitchens) -> None:
        note_what_costs_otherwise(kitchens)
        # What routes read and answer is made when a request first comes by them, which takes a second for all.
        for route in app.router.routes:
            route.matches({"type": "http", "method": "GET", "path": "/api/nowhere", "root_path": "", "headers": []})

    kitchens.cost_ahead(afterwards)
    shared(READING).warm()
    with now_and_then("keeping the board", kitchens.keep_board, _BOARD_KEPT_EVERY):
        yield
    kitchens.keep_board()


def create_app(of: Serving, *, built: Path = BUILT, hosts: Collection[str] = ()) -> FastAPI:
    """The application over what it serves. `built` is the folder of the front end; `hosts` are names that it goes by beside
    those of loopback. What it serves may be another each time it is started.
    """
    app = FastAPI(
        title="Potrel", version="0.1.0", lifespan=_lifespan, docs_url=None, redoc_url=None,
        openapi_url="/api/openapi.json", separate_input_output_schemas=False,
    )  # fmt: skip
    app.state.serving = of
    install(app)
    app.add_middleware(GZipMiddleware, minimum_size=2048, compresslevel=1)
    app.add_middleware(NoStore)
    # The last one added is asked first.
    app.add_middleware(BodyGuard, files=frozenset({"/api/price-lists", "/api/recipe-page"}))
    app.add_middleware(OriginGuard, hosts=hosts)
    for part in _parts():
        app.include_router(part)
    app.add_route("/api/{path:path}", _unknown, methods=list(_METHODS), include_in_schema=False)
    if (built / "assets").is_dir():
        app.mount("/assets", _Assets(directory=built / "assets"), name="assets")

    async def page() -> Response:
        return FileResponse(built / "index.html", headers={"Cache-Control": "no-cache"})

    async def worker() -> Response:
        # What keeps the application's own files; asked for anew each time, so that it learns of others.
        return FileResponse(built / "worker.js", headers={"Cache-Control": "no-cache"})

    app.add_api_route("/worker.js", worker, include_in_schema=False)
    app.add_api_route("/{path:path}", page, include_in_schema=False)
    app.openapi = lambda: openapi_of(app)  # type: ignore[method-assign]
    return app


def _parts() -> tuple[APIRouter, ...]:
    return (
        kitchen.router, board.router, recipes.router, paste.router, workings.router, items.router,
        from_shelf.router, labels.router, merges.router,
        invoices.router, comparisons.router, lists.router, yields.router, benches.router, scales.router, practice.router,
        prices.router, deals.router, papers.router,
    )  # fmt: skip


async def _unknown(request: Request) -> Response:
    """The answer for an address of the API that is not there, or not with this method."""
    here = [route for part in _parts() for route in part.routes if route.matches(request.scope)[0] is Match.PARTIAL]
    if here:
        allowed = ", ".join(sorted({method for route in here if isinstance(route, APIRoute) for method in route.methods or ()}))
        raise HTTPException(405, f"{request.url.path} takes {allowed}, not {request.method}", {"Allow": allowed})
    raise HTTPException(404, f'there is no "{request.url.path}"')


class _Assets(StaticFiles):
    """Files whose names change with their content, so a browser may keep them for ever."""

    def file_response(self, *args: Any, **more: Any) -> Response:
        response = super().file_response(*args, **more)
        response.headers["Cache-Control"] = "public, max-age=31536000, immutable"
        return response


def openapi_of(app: FastAPI) -> dict[str, Any]:
    """The OpenAPI document, with the problem details that every route may answer with."""
    from pydantic import TypeAdapter

    if app.openapi_schema is None:
        schema = get_openapi(title=app.title, version=app.version, routes=app.routes, separate_input_output_schemas=False)
        problem = TypeAdapter(ProblemDetails).json_schema(ref_template="#/components/schemas/{model}")
        for name, definition in problem.pop("$defs", {}).items():
            schema["components"]["schemas"].setdefault(name, definition)
        schema["components"]["schemas"]["ProblemDetails"] = problem
        for unused in ("HTTPValidationError", "ValidationError"):
            schema["components"]["schemas"].pop(unused, None)
        for path in schema["paths"].values():
            for operation in path.values():
                default = operation["responses"].get("422", {}).get("content", {})
                if "application/json" in default:
                    problems = {"application/problem+json": {"schema": {"$ref": "#/components/schemas/ProblemDetails"}}}
                    operation["responses"]["422"] = {"description": "Not understood", "content": problems}
        app.openapi_schema = schema
    return app.openapi_schema


def openapi_text() -> str:
    """The OpenAPI document as it is kept beside the front end, whose types are generated from it."""
    return json.dumps(openapi_of(create_app(Serving("postgresql://"))), indent=1, ensure_ascii=False) + "\n"
