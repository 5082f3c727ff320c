"""What every part of the kitchen document has in common."""

from __future__ import annotations

from typing import ClassVar


def document_key(name: str) -> str:
    """The key in the document of an attribute: `yield_` is "yield"."""
    return name.rstrip("_")


class Part:
    """A part of the document: unknown keys are refused, and keywords lose their underscore."""

    __slots__ = ()
    __pydantic_config__: ClassVar[dict[str, object]] = {
        "extra": "forbid",
        "alias_generator": document_key,
        "serialize_by_alias": True,
        "validate_by_name": False,
    }
