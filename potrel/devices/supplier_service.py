"""The interface to a supplier's service: a UBL 2.1 Catalogue, fetched by HTTP GET. docs/supplier-service.md describes it.

An address is typed by a person, and who answers there may send on to another one. So that it cannot be used to look into
the house, only addresses of the open internet are asked, but for hosts that the kitchen's owner allowed by name; each
name is resolved once, and what was checked is what is asked. All of it, however slowly it comes, ends within one time.
"""

from __future__ import annotations

import ipaddress
import re
import socket
import time
from collections.abc import Collection, Iterable
from contextlib import suppress
from typing import TYPE_CHECKING, Any
from urllib.parse import quote, urljoin, urlsplit, urlunsplit

from potrel.core.errors import PotrelError
from potrel.core.sentences import say
from potrel.formats.upload import BadFile, check_size, text_of

if TYPE_CHECKING:
    import httpcore2

_PATIENCE = 20.0
# So long [s] one of several numbers of a host is tried before the next.
_TRIED = 3.0
_MOST_REDIRECTS = 4
# A catalogue's root stands at its beginning, behind remarks of some length at most.
_CATALOGUE = re.compile(r"<(?:[A-Za-z][\w.-]*:)?Catalogue[\s>]")
_HEAD = 8192
_REDIRECTS = (301, 302, 303, 307, 308)


class NoAnswer(PotrelError):
    """A service that did not answer, or not with a list."""


# One sentence for a port that is shut, one that is open to something else, and one where nobody is: none tells which.
_NOTHING = say("no_answer", "the supplier's service does not answer with a list: is the address right? Try again later")


class RefusedAddress(PotrelError):
    """An address that may not be asked, or is none."""


class SupplierService:
    """Fetches catalogues. `allowed` are hosts ("till.local", "127.0.0.1:8431") inside the house that may be asked."""

    def __init__(self, allowed: Collection[str] = (), patience: float = _PATIENCE) -> None:
        self._allowed = {host.lower() for host in allowed}
        self._patience = patience

    def fetch(self, url: str) -> bytes:
        """The bytes of today's catalogue at an http address.

        RefusedAddress for one that may not be asked, NoAnswer where no catalogue comes within the patience [s] for all of it,
        BadFile where too much does.
        """
        # Imported when a list is fetched: it takes a quarter of a second, and most starts fetch nothing.
        import httpcore2

        until = time.monotonic() + self._patience
        try:
            with httpcore2.ConnectionPool(network_backend=_backend(self._allowed, until), retries=0) as pool:
                for _ in range(_MOST_REDIRECTS + 1):
                    _check_form(url)
                    data, onward = _asked(pool, in_ascii(url))
                    if onward is None:
                        break
                    url = urljoin(url, onward)
                else:
                    raise NoAnswer(_NOTHING)
        except PotrelError:
            raise
        except (httpcore2.NetworkError, httpcore2.TimeoutException, httpcore2.ProtocolError, OSError, ValueError):
            raise NoAnswer(_NOTHING) from None
        if not _is_catalogue(data):
            # What is no catalogue is neither kept nor shown.
            raise NoAnswer(_NOTHING)
        return data


def _is_catalogue(data: bytes) -> bool:
    try:
        return _CATALOGUE.search(text_of(data[:_HEAD], partly=True)) is not None
    except BadFile:
        return False


def _asked(pool: httpcore2.ConnectionPool, url: str) -> tuple[bytes, str | None]:
    """What an address answers, or where it sends on to."""
    headers = [("Accept", "application/xml"), ("Accept-Encoding", "identity"), ("Host", urlsplit(url).netloc)]
    with pool.stream("GET", url, headers=headers) as answer:
        if answer.status in _REDIRECTS:
            onward = next((value for name, value in answer.headers if name.lower() == b"location"), b"")
            return b"", onward.decode("utf-8", "replace")
        if answer.status != 200:
            raise NoAnswer(_NOTHING)
        data = bytearray()
        for chunk in answer.iter_stream():
            data += chunk
            check_size(len(data))
        return bytes(data), None


def in_ascii(url: str) -> str:
    """An address as it goes over the line: the letters of a host by IDNA, those behind it by their numbers.

    >>> in_ascii("http://kühlhaus.example/preis liste?für=küche")
    'http://xn--khlhaus-n2a.example/preis%20liste?f%C3%BCr=k%C3%BCche'
    """
    if url.isascii() and " " not in url:
        return url
    parts = urlsplit(url)
    try:
        host = (parts.hostname or "").encode("idna").decode()
    except UnicodeError:
        english = "no host is called {host}: copy the supplier's address anew"
        raise RefusedAddress(say("no_such_host", english, host=(parts.hostname or "")[:60])) from None
    port = "" if parts.port is None else f":{parts.port}"
    kept = "/%:@!$&'()*+,;=~?-._"
    return urlunsplit((parts.scheme, host + port, quote(parts.path, kept), quote(parts.query, kept), ""))


def _check_form(url: str) -> None:
    parts = urlsplit(url)
    if parts.scheme not in ("http", "https") or not parts.hostname or parts.username is not None:
        english = "a list is fetched from an address that begins with http:// or https://, without a name or password in it"
        raise RefusedAddress(say("address_form", english))


def checked(host: str, port: int, allowed: Collection[str]) -> list[str]:
    """The numbers (IP) of a host that may be asked; NoAnswer where it lies inside the house and was not allowed."""
    numbers = [str(one[4][0]) for one in socket.getaddrinfo(host, port, type=socket.SOCK_STREAM)]
    if host.lower() not in allowed and f"{host}:{port}".lower() not in allowed:
        # All of them, not the first alone: a name may have one outside and one inside.
        for number in numbers:
            address = ipaddress.ip_address(number.partition("%")[0])
            inside = getattr(address, "ipv4_mapped", None) or address
            if not inside.is_global or inside.is_multicast:
                english = "{host} lies inside the house: its owner can allow it by the setting POTREL_SUPPLIER_HOSTS"
                raise RefusedAddress(say("inside_address", english, host=host))
    return numbers


def _backend(allowed: Collection[str], until: float) -> httpcore2.NetworkBackend:
    import httpcore2

    real = httpcore2.SyncBackend()

    def left(timeout: float | None) -> float:
        seconds = until - time.monotonic()
        if seconds <= 0:
            raise httpcore2.ReadTimeout
        return seconds if timeout is None else min(seconds, timeout)

    class Stream(httpcore2.NetworkStream):
        """A line on which every step ends when the time for all of it does."""

        def __init__(self, line: httpcore2.NetworkStream) -> None:
            self._line = line

        def read(self, max_bytes: int, timeout: float | None = None) -> bytes:
            return self._line.read(max_bytes, left(timeout))

        def write(self, buffer: bytes, timeout: float | None = None) -> None:
            self._line.write(buffer, left(timeout))

        def close(self) -> None:
            self._line.close()

        def start_tls(self, ssl_context: Any, server_hostname: str | None = None, timeout: float | None = None) -> Stream:
            return Stream(self._line.start_tls(ssl_context, server_hostname, left(timeout)))

        def get_extra_info(self, info: str) -> Any:
            return self._line.get_extra_info(info)

    class Backend(httpcore2.NetworkBackend):
        """Connects to what was checked: the name is not asked for again."""

        def connect_tcp(
            self,
            host: str,
            port: int,
            timeout: float | None = None,
            local_address: str | None = None,
            socket_options: Iterable[Any] | None = None,
        ) -> httpcore2.NetworkStream:
            *others, last = checked(host, port, allowed)
            for number in others:
                # A host has several, of which not every one leads there from here.
                with suppress(httpcore2.ConnectError, httpcore2.ConnectTimeout):
                    return Stream(real.connect_tcp(number, port, left(_TRIED), local_address, socket_options))
            return Stream(real.connect_tcp(last, port, left(timeout), local_address, socket_options))

    return Backend()
