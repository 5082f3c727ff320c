"""The interface to a supplier's service: a UBL 2.1 Catalogue, fetched by HTTP GET. docs/supplier-service.md describes it."""

from __future__ import annotations

from potrel.core.errors import PotrelError
from potrel.core.sentences import say
from potrel.formats.upload import check_size

_PATIENCE = 10.0


class NoAnswer(PotrelError):
    """A service that did not answer, or not with a list."""


def fetch_catalogue(url: str, patience: float = _PATIENCE) -> bytes:
    """The bytes of today's catalogue at an http address; NoAnswer where it does not come within `patience` [s]."""
    # Imported when a list is fetched: it takes a quarter of a second, and most starts fetch nothing.
    import httpx2

    try:
        # Its client speaks http and https alone, whatever a redirect says.
        with httpx2.stream(
            "GET", url, headers={"Accept": "application/xml"}, timeout=patience, follow_redirects=True
        ) as answer:
            if answer.is_error:
                english = "the supplier's service answers {status} ({reason}): is the address right?"
                raise NoAnswer(say("service_refuses", english, status=answer.status_code, reason=answer.reason_phrase))
            data = bytearray()
            for chunk in answer.iter_bytes():
                data += chunk
                check_size(len(data))
            return bytes(data)
    except (httpx2.HTTPError, httpx2.InvalidURL) as error:
        english = "the supplier's service does not answer ({reason}): is the address right? Try again later"
        raise NoAnswer(say("no_answer", english, reason=str(error) or type(error).__name__)) from None
