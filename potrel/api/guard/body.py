"""How much may be sent: the size, depth and time of a body, and how many requests at once. Each limit is said in words.

The limits stand in docs/security.md.
"""

from __future__ import annotations

import asyncio
import json
import re
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from typing import Any, NoReturn

from starlette.datastructures import Headers
from starlette.responses import Response
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from potrel.api.problems import problem_response

LARGEST_JSON = 16 * 2**20
DEEPEST_JSON = 64
SLOWEST_BODY = 60.0
MOST_AT_ONCE = 200
# What is too much is read on to so much, so that whoever sends it hears the answer.
_HEARD = 64 * 2**20

_OPEN = re.compile(rb'"(?:[^"\\]|\\.)*"|[\[{]|[\]}]', re.DOTALL)
# What only a reader of JSON that is not strict lets through (NaN and its like, NUL, halves of characters), and what no XML
# holds (U+FFFE, U+FFFF): an export with it could not be read by anybody.
_ODD = re.compile(rb"NaN|Infinity|\\u0000|\\ud[89a-f]|\\ufff[ef]|\xef\xbf[\xbe\xbf]", re.IGNORECASE)


_NO_SIGN = re.compile(r"[\x00\ud800-\udfff\ufffe\uffff]")


class TooMuch(Exception):
    """A request that is refused: its status, the code, and what would mend it."""

    def __init__(self, status: int, slug: str, detail: str) -> None:
        self.status, self.slug, self.detail = status, slug, detail
        super().__init__(detail)

    def answer(self) -> Response:
        """The answer to it; the line is closed after it, for what is still on its way is not read."""
        titles = {400: "Not JSON", 408: "Too slow", 413: "Too large", 503: "Too busy"}
        response = problem_response(self.status, self.slug, titles[self.status], self.detail)
        response.headers["Connection"] = "close"
        return response


class BodyGuard:
    """Reads the body of a request within its limits, before any route sees it; files are read by their own route."""

    def __init__(self, app: ASGIApp, files: frozenset[str]) -> None:
        self._app = app
        self._files = files
        self._under_way = 0

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Answer a request, or refuse it."""
        if scope["type"] != "http":
            return await self._app(scope, receive, send)
        self._under_way += 1
        try:
            if self._under_way > MOST_AT_ONCE:
                raise TooMuch(503, "too-busy", "too much is asked at once: try again in a moment; what you typed is kept here")
            received = receive
            if scope["method"] not in ("GET", "HEAD", "OPTIONS") and scope["path"] not in self._files:
                received = _replayed(await _body(Headers(scope=scope), receive), receive)
            await self._app(scope, received, send)
        except TooMuch as refused:
            await refused.answer()(scope, receive, send)
        finally:
            self._under_way -= 1


@asynccontextmanager
async def in_time() -> AsyncIterator[None]:
    """What a body may take to arrive; TooMuch where it takes longer."""
    try:
        async with asyncio.timeout(SLOWEST_BODY):
            yield
    except TimeoutError:
        english = f"the request did not arrive whole within {SLOWEST_BODY:.0f} s: try again"
        raise TooMuch(408, "too-slow", english) from None


async def _body(headers: Headers, receive: Receive) -> bytes:
    told = headers.get("content-length", "")
    if told.isdecimal() and int(told) > _HEARD:
        raise _too_large()
    data, size, more = bytearray(), 0, True
    async with in_time():
        while more and size <= _HEARD:
            message = await receive()
            if message["type"] == "http.disconnect":
                return b""
            part, more = message.get("body", b""), message.get("more_body", False)
            size += len(part)
            if size <= LARGEST_JSON:
                data += part
            else:
                data.clear()
    if size > LARGEST_JSON:
        raise _too_large()
    body = bytes(data)
    check_json(body)
    return body


def _too_large() -> TooMuch:
    return TooMuch(413, "too-large", f"a request may have {LARGEST_JSON // 2**20} MB: send less at once")


def _replayed(body: bytes, receive: Receive) -> Receive:
    """The way on for a body that was read: it comes once, and after it what else the line says."""
    waiting: list[Message] = [{"type": "http.request", "body": body, "more_body": False}]

    async def once() -> Message:
        return waiting.pop() if waiting else await receive()

    return once


def check_json(body: bytes) -> None:
    """TooMuch where a body is nested too deeply, or holds what strict JSON, or a text, cannot. Else it is for the route."""
    if body.count(b"[") + body.count(b"{") > DEEPEST_JSON and _depth(body) > DEEPEST_JSON:
        raise TooMuch(400, "not-json", f"the request is nested more than {DEEPEST_JSON} deep")
    if b"\0" in body or _ODD.search(body):
        try:
            _check_texts(json.loads(body, parse_constant=_no_number))
        except ValueError as error:
            # What is no JSON at all is told by the route.
            if isinstance(error, _Odd):
                raise TooMuch(400, "not-json", str(error)) from None


def _depth(body: bytes) -> int:
    depth = deepest = 0
    for found in _OPEN.finditer(body):
        sign = found[0][:1]
        if sign in b"[{":
            depth += 1
            deepest = max(deepest, depth)
            if deepest > DEEPEST_JSON:
                break
        elif sign in b"]}":
            depth -= 1
    return deepest


class _Odd(ValueError):
    pass


def _no_number(name: str) -> NoReturn:
    raise _Odd(f"{name} is no number: leave the field empty, or write one")


def _check_texts(value: Any) -> None:
    """_Odd where a text holds what no text can: NUL, half a character, a sign that is none."""
    if isinstance(value, str):
        if _NO_SIGN.search(value):
            raise _Odd("a text holds a sign that is none (NUL, half a character, or U+FFFE or U+FFFF): type it anew")
    elif isinstance(value, dict):
        for key, part in value.items():
            _check_texts(key)
            _check_texts(part)
    elif isinstance(value, list):
        for part in value:
            _check_texts(part)
