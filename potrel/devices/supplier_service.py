"""The interface to a supplier's service: a UBL 2.1 Catalogue, fetched by HTTP GET. docs/supplier-service.md describes it."""

from __future__ import annotations

import http.client
import urllib.error
import urllib.request

from potrel.core.errors import PotrelError
from potrel.core.sentences import say
from potrel.formats.upload import check_size

_PATIENCE = 10.0
_CHUNK = 1 << 16


class NoAnswer(PotrelError):
    """A service that did not answer, or not with a list."""


def fetch_catalogue(url: str, patience: float = _PATIENCE) -> bytes:
    """The bytes of today's catalogue at an http address; NoAnswer where it does not come within `patience` [s]."""
    request = urllib.request.Request(url, headers={"Accept": "application/xml"})  # noqa: S310 - Address allows http(s) only
    try:
        with _opener().open(request, timeout=patience) as answer:
            data = bytearray()
            while chunk := answer.read(_CHUNK):
                data += chunk
                check_size(len(data))
            return bytes(data)
    except urllib.error.HTTPError as error:
        with error:
            english = "the supplier's service answers {status} ({reason}): is the address right?"
            raise NoAnswer(say("service_refuses", english, status=error.code, reason=error.reason)) from None
    except PotrelError:
        raise
    except (OSError, http.client.HTTPException, ValueError) as error:
        reason = getattr(error, "reason", error)
        english = "the supplier's service does not answer ({reason}): is the address right? Try again later"
        raise NoAnswer(say("no_answer", english, reason=reason)) from None


def _opener() -> urllib.request.OpenerDirector:
    """Opens http and https, whatever a redirect says: no file, no ftp."""
    opener = urllib.request.OpenerDirector()
    for handler in (
        urllib.request.ProxyHandler(),
        urllib.request.HTTPHandler(),
        urllib.request.HTTPSHandler(),
        urllib.request.HTTPDefaultErrorHandler(),
        urllib.request.HTTPErrorProcessor(),
        urllib.request.HTTPRedirectHandler(),
        urllib.request.UnknownHandler(),
    ):
        opener.add_handler(handler)
    return opener
