"""How long and how large the head of a request may be, and how many lines may be open: what the server itself leaves open."""

from __future__ import annotations

import asyncio
import json
from typing import cast

from uvicorn.protocols.http.httptools_impl import HttpToolsProtocol

from potrel.api.problems import MEDIA_TYPE

SLOWEST_HEAD = 15.0
LARGEST_HEAD = 64 * 1024
MOST_LINES = 400

_TITLES = {408: "Request Timeout", 431: "Request Header Fields Too Large", 503: "Service Unavailable"}


class TimedLine(HttpToolsProtocol):
    """A line whose requests have to begin whole within a time and a size, and of which there are only so many."""

    _late: asyncio.TimerHandle | None = None
    _head = 0

    def connection_made(self, transport: asyncio.Transport) -> None:  # type: ignore[override]
        """A line was opened."""
        super().connection_made(transport)
        if len(self.connections) > MOST_LINES:
            self._refuse(503, "too many lines are open: close pages that you do not need, and try again")
        else:
            self._wait()

    def connection_lost(self, exc: Exception | None) -> None:
        """A line was closed."""
        self._wait_no_more()
        super().connection_lost(exc)

    def data_received(self, data: bytes) -> None:
        """Something came."""
        waiting = self._is_waiting()
        super().data_received(data)
        if not self._is_waiting():
            self._wait_no_more()
            return
        self._head = self._head + len(data) if waiting else 0
        if self._head > LARGEST_HEAD:
            self._refuse(431, f"the head of a request may have {LARGEST_HEAD // 1024} kB: clear this site's cookies")
        elif self._late is None and waiting:
            self._wait()

    def _is_waiting(self) -> bool:
        # The server sets no cycle before the first request is whole.
        cycle = cast("object | None", self.cycle)
        return cycle is None or self.cycle.response_complete

    def _wait(self) -> None:
        self._late = self.loop.call_later(SLOWEST_HEAD, self._too_late)

    def _wait_no_more(self) -> None:
        if self._late is not None:
            self._late.cancel()
        self._late, self._head = None, 0

    def _too_late(self) -> None:
        self._late = None
        if not self.transport.is_closing():
            self._refuse(408, f"the request did not begin within {SLOWEST_HEAD:.0f} s: try again")

    def _refuse(self, status: int, detail: str) -> None:
        title = _TITLES[status]
        body = json.dumps({"type": "urn:potrel:problem:line", "title": title, "status": status, "detail": detail}).encode()
        head = f"HTTP/1.1 {status} {title}\r\nContent-Type: {MEDIA_TYPE}\r\nContent-Length: {len(body)}\r\nConnection: close"
        self.transport.write(f"{head}\r\n\r\n".encode() + body)
        self.transport.close()
