"""What stands in the kitchen document, or is asked and answered by its keys."""

from __future__ import annotations


def document_key(name: str) -> str:
    """The key in the document of an attribute: `yield_` is "yield"."""
    return name.rstrip("_")


class Keyed:
    """Something whose attributes are keys of the document: unknown keys are refused, and keywords lose their underscore.

    Reading and writing is done by `potrel.formats`.
    """

    __slots__ = ()
