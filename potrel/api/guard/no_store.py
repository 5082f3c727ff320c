"""Says of every answer of the API that nobody on the way may keep it: the kitchen may be another one a moment later."""

from __future__ import annotations

from starlette.datastructures import MutableHeaders
from starlette.types import ASGIApp, Message, Receive, Scope, Send


class NoStore:
    """Marks what the API answers as not to be kept; the application's own files go by as they are."""

    def __init__(self, app: ASGIApp) -> None:
        self._app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Answer a request, and mark the answer."""
        if scope["type"] != "http" or not scope["path"].startswith("/api/"):
            return await self._app(scope, receive, send)

        async def marked(message: Message) -> None:
            if message["type"] == "http.response.start":
                MutableHeaders(scope=message)["Cache-Control"] = "no-store"
            await send(message)

        return await self._app(scope, receive, marked)
