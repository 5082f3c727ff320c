"""Who may ask: only pages of Potrel's own may write, under a name that the server goes by. What a browser may do is said too.

A page of another origin can make a browser send it requests, simple ones without asking first; and a name that leads to
this machine can be anybody's. So the host is checked on every request, and on every write where the browser says that it
comes from. What is no browser (a script, a till) says nothing of that, and is let through.
"""

from __future__ import annotations

from collections.abc import Collection
from urllib.parse import urlsplit

from starlette.datastructures import Headers, MutableHeaders
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from potrel.api.problems import problem_response

LOOPBACK = frozenset({"127.0.0.1", "localhost", "::1"})
_READS = frozenset({"GET", "HEAD", "OPTIONS"})
# From the page itself, or typed and bookmarked by a person.
_OWN = frozenset({"same-origin", "none"})

HEADERS = {
    "Content-Security-Policy": (
        "default-src 'none'; script-src 'self'; style-src 'self'; font-src 'self'; img-src 'self' data:; connect-src 'self';"
        " form-action 'self'; base-uri 'none'; frame-ancestors 'none'"
    ),
    "X-Content-Type-Options": "nosniff",
    "Referrer-Policy": "same-origin",
    "Permissions-Policy": "camera=(), display-capture=(), geolocation=(), microphone=(), payment=(), usb=()",
    "Cross-Origin-Opener-Policy": "same-origin",
    "Cross-Origin-Resource-Policy": "same-origin",
}


class OriginGuard:
    """Refuses what comes under a strange name, and writes from pages of elsewhere; adds the headers to all else."""

    def __init__(self, app: ASGIApp, hosts: Collection[str] = ()) -> None:
        self._app = app
        self._hosts = LOOPBACK | {host.lower() for host in hosts}

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Answer a request, or refuse it."""
        if scope["type"] != "http":
            return await self._app(scope, receive, send)

        async def with_headers(message: Message) -> None:
            if message["type"] == "http.response.start":
                headers = MutableHeaders(scope=message)
                for name, value in HEADERS.items():
                    headers.setdefault(name, value)
            await send(message)

        headers = Headers(scope=scope)
        if not self._knows(headers.get("host", "")):
            detail = "Potrel is not known under this name: open it by the address that it says when it starts, or add the name to POTREL_HOSTS"  # noqa: E501
            return await problem_response(421, "other-host", "Not this host", detail)(scope, receive, with_headers)
        if scope["method"] not in _READS and not _is_own(headers):
            detail = "a page of another site may not change anything here: open Potrel itself"
            return await problem_response(403, "other-site", "From another site", detail)(scope, receive, with_headers)
        return await self._app(scope, receive, with_headers)

    def _knows(self, host: str) -> bool:
        try:
            return urlsplit(f"//{host}").hostname in self._hosts
        except ValueError:
            return False


def _is_own(headers: Headers) -> bool:
    site, origin = headers.get("sec-fetch-site"), headers.get("origin")
    if site is not None and site not in _OWN:
        return False
    # "null" is the origin of what hides where it comes from.
    return origin is None or (origin != "null" and urlsplit(origin).netloc == headers.get("host"))
