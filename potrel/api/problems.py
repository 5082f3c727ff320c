"""One table from exception to HTTP response: problem details as in RFC 9457."""

from __future__ import annotations

import json
from dataclasses import dataclass
from typing import Any

import psycopg
from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from psycopg_pool import PoolTimeout
from starlette.exceptions import HTTPException
from starlette.responses import Response

from potrel.api.places import place_in_words
from potrel.core.errors import BadDocument, BadQuantity, OutOfRange, PotrelError, RecipeLoop, UnknownFigure
from potrel.core.kitchen.items import Item
from potrel.core.kitchen.recipes import Recipe
from potrel.core.rooms.merging import PutAway
from potrel.devices.scale import ScaleLost
from potrel.devices.supplier_service import NoAnswer, RefusedAddress
from potrel.formats.kitchen_json import part_to_plain, what_is_wrong
from potrel.store.errors import AlreadyThere, NotEmpty, NotFound, Refused, Stale, StaleItem, StaleRecipe, StillUsed

MEDIA_TYPE = "application/problem+json"


@dataclass(frozen=True, slots=True)
class ProblemDetails:
    """What went wrong with a request. `detail` is meant for the person at the screen; `code` and `params` say the same in any
    language.

    A stale save carries both versions: `theirs` (absent where it was taken off) and `their_revision`.
    """

    type: str
    title: str
    status: int
    detail: str
    where: str | None = None
    theirs: Recipe | None = None
    their_item: Item | None = None
    their_revision: int | None = None
    saved_by: str | None = None
    code: str | None = None
    params: dict[str, str] | None = None


# The first class that fits counts, so the special ones stand before the general.
_TABLE: tuple[tuple[type[Exception], int, str, str], ...] = (
    (NotFound, 404, "not-found", "Not here"),
    (UnknownFigure, 404, "unknown-figure", "No such figure"),
    (PutAway, 409, "put-away", "Put away"),
    (RefusedAddress, 422, "refused", "Refused"),
    (NoAnswer, 502, "no-answer", "No answer from outside"),
    (ScaleLost, 409, "scale-lost", "The scale does not answer"),
    (AlreadyThere, 409, "already-there", "There is one already"),
    (StillUsed, 409, "still-used", "Still used"),
    (NotEmpty, 409, "not-empty", "There is a kitchen already"),
    (RecipeLoop, 422, "recipe-loop", "Recipes contain themselves"),
    (BadDocument, 422, "bad-document", "Not understood"),
    (BadQuantity, 422, "bad-quantity", "Not a quantity"),
    (OutOfRange, 422, "out-of-range", "Out of range"),
    (Refused, 422, "refused", "Refused"),
    (PotrelError, 422, "refused", "Refused"),
    (psycopg.errors.DiskFull, 507, "disk-full", "The disk is full"),
    # While another kitchen is put in its place, tables are gone for a moment, or others than a line has known.
    (psycopg.errors.UndefinedTable, 503, "no-database", "The database does not answer"),
    (psycopg.errors.UndefinedColumn, 503, "no-database", "The database does not answer"),
    (psycopg.errors.FeatureNotSupported, 503, "no-database", "The database does not answer"),
    (psycopg.errors.InternalError_, 503, "no-database", "The database does not answer"),
    (PoolTimeout, 503, "no-database", "The database does not answer"),
    (psycopg.OperationalError, 503, "no-database", "The database does not answer"),
)
_OWN = "Something went wrong on the server; nothing was saved by this request. What you typed is kept here."
_NO_DATABASE = "The database does not answer. What you typed is kept here: try again in a moment."


_NO_ROOM = "The disk of the database is full: make room on it. Nothing was saved by this; what you typed is kept here."


def problem_response(status: int, slug: str, title: str, detail: str, **more: Any) -> Response:
    """A problem-details response."""
    body = {"type": f"urn:potrel:problem:{slug}", "title": title, "status": status, "detail": detail, **more}
    return Response(json.dumps(body, ensure_ascii=False), status, media_type=MEDIA_TYPE)


def _row_of(error: Exception) -> tuple[int, str, str]:
    if isinstance(error, Stale):
        return 409, f"stale-{error.of}", error.title
    return next((row[1:] for row in _TABLE if isinstance(error, row[0])), (500, "error", "An error"))


def in_words_of(error: Exception) -> str:
    """What is said of an error, Potrel's own or another."""
    return {503: _NO_DATABASE, 507: _NO_ROOM, 500: _OWN}.get(_row_of(error)[0], str(error))


def _for_error(_: Request, error: Exception) -> Response:
    status, slug, title = _row_of(error)
    if not isinstance(error, PotrelError):
        return problem_response(status, slug, title, in_words_of(error))
    said = error.said
    words = said.english
    if isinstance(error, BadDocument) and error.where:
        place = place_in_words(error.where)
        words = f"{place}: {error.message.english}" if place else error.message.english
    return problem_response(status, slug, title, words, code=said.code, params=dict(said.params), **_more(error))


def _more(error: Exception) -> dict[str, Any]:
    if isinstance(error, StaleRecipe):
        theirs = None if error.theirs is None else part_to_plain(Recipe, error.theirs)
        return {"theirs": theirs, "their_revision": error.their_revision, "saved_by": error.saved_by}
    if isinstance(error, StaleItem):
        return {"their_item": part_to_plain(Item, error.theirs)}
    if isinstance(error, BadDocument) and error.where:
        return {"where": error.where}
    return {}


def _for_validation(_: Request, error: Exception) -> Response:
    if not isinstance(error, RequestValidationError):
        raise error
    first = dict(error.errors()[0])
    where, said = what_is_wrong(first)
    more: dict[str, Any] = {"code": said.code, "params": dict(said.params)}
    if first["type"] == "json_invalid":
        return problem_response(400, "not-json", "Not JSON", f"the request is not JSON that can be read: {said}", **more)
    where = where.removeprefix("body").lstrip(".")
    place = place_in_words(where)
    return problem_response(
        422, "not-understood", "Not understood", f"{place}: {said}" if place else said.english, where=where, **more
    )


def _for_http(_: Request, error: Exception) -> Response:
    if not isinstance(error, HTTPException):
        raise error
    slugs = {404: "not-found", 405: "wrong-method", 400: "not-json"}
    response = problem_response(error.status_code, slugs.get(error.status_code, "http"), error.detail, error.detail)
    for name, value in (error.headers or {}).items():
        response.headers[name] = value
    return response


def _for_anything(_: Request, __: Exception) -> Response:
    return problem_response(500, "error", "An error of Potrel's own", _OWN)


def install(app: FastAPI) -> None:
    """Make an application answer every error with problem details."""
    for kind, *_ in _TABLE:
        app.add_exception_handler(kind, _for_error)
    app.add_exception_handler(RequestValidationError, _for_validation)
    app.add_exception_handler(HTTPException, _for_http)
    app.add_exception_handler(Exception, _for_anything)


def described(*statuses: int) -> dict[int | str, dict[str, Any]]:
    """The `responses` of a route: the problems it may answer with, for the OpenAPI document."""
    titles = {400: "Not JSON", 404: "Not here", 409: "Somebody else was first", 422: "Not understood",
              502: "No answer from outside", 503: "The database does not answer"}  # fmt: skip
    schema = {"$ref": "#/components/schemas/ProblemDetails"}
    return {status: {"description": titles[status], "content": {MEDIA_TYPE: {"schema": schema}}} for status in (*statuses, 503)}
