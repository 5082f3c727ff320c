"""The application: routes, problems, and the built front end, served from one process."""

from __future__ import annotations

import json
from collections.abc import AsyncIterator, Awaitable, Callable
from contextlib import asynccontextmanager
from dataclasses import replace
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

from potrel.api import benches, comparisons, items, practice, price_lists, pushes, recipes, yields
from potrel.api import scale as scales
from potrel.api.clock import by_the_clock
from potrel.api.effects import compare
from potrel.api.kitchens import Kitchens
from potrel.api.problems import ProblemDetails, described, install
from potrel.api.recipes import InKitchen
from potrel.api.replies import Effects, KitchenHead, SaveKitchen, reply
from potrel.api.reviews import Reviews
from potrel.core.allergens import AllergenMatrix, allergen_matrix
from potrel.core.board import Board
from potrel.core.costing import Costing
from potrel.core.kitchen import Settings
from potrel.devices.scale import Scale
from potrel.formats.kitchen_json import write_kitchen
from potrel.formats.offers_table import offers_csv, offers_xlsx
from potrel.formats.price_book import price_book_csv, price_book_xlsx
from potrel.formats.ubl_catalogue import write_catalogue
from potrel.store.database import opened
from potrel.store.errors import StaleSettings
from potrel.store.kitchens import load_kitchen, save_settings

_METHODS = ("GET", "HEAD", "POST", "PUT", "PATCH", "DELETE", "OPTIONS", "TRACE")
_XLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
BUILT = Path(__file__).parents[2] / "web" / "dist"
router = APIRouter(prefix="/api", tags=["kitchen"])


@router.get("/kitchen", response_model=KitchenHead, responses=described())
def kitchen(kitchens: InKitchen) -> Response:
    """The kitchen's name, settings, suppliers and vessels."""
    costing = kitchens.costing()
    whole = costing.facts.kitchen
    head = KitchenHead(
        whole.name, whole.currency, whole.settings, costing.on, list(whole.suppliers), list(whole.vessels),
        len(whole.items), len(whole.recipes),
    )  # fmt: skip
    return reply(KitchenHead, head)


@router.put("/kitchen", response_model=Settings, responses=described(400, 409, 422))
def put_kitchen(save: SaveKitchen, kitchens: InKitchen) -> Response:
    """Change the kitchen's name, currency and settings; refused where somebody changed them since."""
    with kitchens.database.writing() as connection:
        whole = load_kitchen(connection)
        if whole.settings != save.was:
            raise StaleSettings
        save_settings(connection, replace(whole, name=save.name, currency=save.currency, settings=save.settings))
    return reply(Settings, save.settings)


@router.post("/kitchen/preview", response_model=Effects, responses=described(400, 422))
def preview_kitchen(save: SaveKitchen, kitchens: InKitchen) -> Response:
    """What other settings would do to every portion."""
    before = kitchens.costing()
    after = Costing(replace(before.facts.kitchen, settings=save.settings), before.on)
    return reply(Effects, Effects(None, None, compare(before, after, before.facts.recipes)))


@router.get("/board", response_model=Board, responses=described())
def board(kitchens: InKitchen) -> Response:
    """Every serving on sale, with its cost today."""
    return Response(kitchens.board(), media_type="application/json")


@router.get("/allergens", response_model=AllergenMatrix, responses=described())
def allergens(kitchens: InKitchen) -> Response:
    """The soups on sale by allergen. An aid, not clearance."""
    return reply(AllergenMatrix, allergen_matrix(kitchens.costing()))


@router.get("/export", responses=described())
def export(kitchens: InKitchen) -> Response:
    """The whole kitchen as a kitchen document."""
    with kitchens.database.reading() as connection:
        text = write_kitchen(load_kitchen(connection))
    return _download(text, "application/json", "potrel-kitchen.json")


@router.get("/price-book.csv", responses=described(), response_class=Response)
def price_book_as_csv(kitchens: InKitchen) -> Response:
    """The price book as CSV."""
    return _download(price_book_csv(kitchens.costing()), "text/csv; charset=utf-8", "potrel-price-book.csv")


@router.get("/price-book.xlsx", responses=described(), response_class=Response)
def price_book_as_xlsx(kitchens: InKitchen) -> Response:
    """The price book as an XLSX workbook."""
    return _download(price_book_xlsx(kitchens.costing()), _XLSX, "potrel-price-book.xlsx")


@router.get("/offers.csv", responses=described(), response_class=Response)
def offers_as_csv(kitchens: InKitchen) -> Response:
    """All offers as CSV, to be read back without loss."""
    return _download(offers_csv(kitchens.costing().facts.kitchen.offers), "text/csv; charset=utf-8", "potrel-offers.csv")


@router.get("/offers.xlsx", responses=described(), response_class=Response)
def offers_as_xlsx(kitchens: InKitchen) -> Response:
    """All offers as an XLSX workbook."""
    return _download(offers_xlsx(kitchens.costing().facts.kitchen.offers), _XLSX, "potrel-offers.xlsx")


@router.get("/offers.xml", responses=described(), response_class=Response)
def offers_as_ubl(kitchens: InKitchen) -> Response:
    """All offers as a UBL 2.1 Catalogue."""
    costing = kitchens.costing()
    whole = costing.facts.kitchen
    return _download(write_catalogue(whole, whole.offers, costing.on), "application/xml", "potrel-catalogue.xml")


def _download(content: str | bytes, media_type: str, name: str) -> Response:
    return Response(content, media_type=media_type, headers={"Content-Disposition": f'attachment; filename="{name}"'})


def create_app(
    database_url: str,
    *,
    today: Callable[[], date] = date.today,
    clock: Callable[[], datetime] = datetime.now,
    built: Path = BUILT,
    scale: str | None = None,
) -> FastAPI:
    """The application over a database. `today` and `clock` can be fixed for tests; `built` is the folder of the front end,
    `scale` the address of a bench scale, where there is one.
    """

    @asynccontextmanager
    async def lifespan(app: FastAPI) -> AsyncIterator[None]:
        with opened(database_url) as database:
            app.state.kitchens = Kitchens(database, today)
            app.state.reviews = Reviews(app.state.kitchens)
            app.state.scale = Scale(scale)
            with by_the_clock(app.state.kitchens, app.state.reviews, clock):
                yield
            app.state.scale.close()

    app = FastAPI(
        title="Potrel", version="0.1.0", lifespan=lifespan, docs_url=None, redoc_url=None,
        openapi_url="/api/openapi.json", separate_input_output_schemas=False,
    )  # fmt: skip
    install(app)
    app.add_middleware(GZipMiddleware, minimum_size=2048, compresslevel=1)
    app.middleware("http")(_no_stale_answers)
    for part in _parts():
        app.include_router(part)
    app.add_route("/api/{path:path}", _unknown, methods=list(_METHODS), include_in_schema=False)
    if (built / "assets").is_dir():
        app.mount("/assets", _Assets(directory=built / "assets"), name="assets")

    async def page() -> Response:
        return FileResponse(built / "index.html", headers={"Cache-Control": "no-cache"})

    app.add_api_route("/{path:path}", page, include_in_schema=False)
    app.openapi = lambda: openapi_of(app)  # type: ignore[method-assign]
    return app


def _parts() -> tuple[APIRouter, ...]:
    return (
        router, recipes.router, items.router, price_lists.router, pushes.router, yields.router, benches.router, practice.router,
        scales.router, comparisons.router,
    )  # fmt: skip


async def _unknown(request: Request) -> Response:
    """The answer for an address of the API that is not there, or not with this method."""
    here = [route for part in _parts() for route in part.routes if route.matches(request.scope)[0] is Match.PARTIAL]
    if here:
        allowed = ", ".join(sorted({method for route in here if isinstance(route, APIRoute) for method in route.methods or ()}))
        raise HTTPException(405, f"{request.url.path} takes {allowed}, not {request.method}", {"Allow": allowed})
    raise HTTPException(404, f'there is no "{request.url.path}"')


async def _no_stale_answers(request: Request, call: Callable[[Request], Awaitable[Response]]) -> Response:
    response = await call(request)
    if request.url.path.startswith("/api/"):
        response.headers["Cache-Control"] = "no-store"
    return response


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
    return json.dumps(openapi_of(create_app("postgresql://")), indent=1, ensure_ascii=False) + "\n"
