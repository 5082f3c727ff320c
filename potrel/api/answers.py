"""A JSON response of a dataclass of the core or of the routes."""

from __future__ import annotations

from typing import Any, TypeVar

from starlette.responses import Response

from potrel.formats.kitchen_json import part_to_json

T = TypeVar("T")


def reply(kind: type[T] | Any, value: T, status: int = 200) -> Response:
    """A JSON response of a value of a kind."""
    return Response(part_to_json(kind, value), status, media_type="application/json")


def download(content: str | bytes, media_type: str, name: str) -> Response:
    """A file to be kept under a name."""
    return Response(content, media_type=media_type, headers={"Content-Disposition": f'attachment; filename="{name}"'})
