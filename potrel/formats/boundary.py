"""The boundary: teaches Pydantic the core's kinds of number and text, so that documents and requests are read straight into it.

The core's annotations carry plain markers that say how a value is read from a text and written as one; what Pydantic has to
know of them is told here, once, when this module is imported.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from pydantic import ConfigDict, TypeAdapter
from pydantic_core import core_schema

from potrel.core.kitchen.keyed import Keyed, document_key
from potrel.core.kitchen.kinds import (
    Amount,
    Day,
    Matching,
    Measured,
    Moment,
    Packed,
    Shorthand,
    Shown,
    Version,
    Whole,
    YesOrNo,
    Zone,
)

_LONGEST = 4000
_LONGEST_NUMBER = 40
Schema = Callable[[Any, Any, Any], core_schema.CoreSchema]


def _text(pattern: str | None) -> core_schema.CoreSchema:
    return core_schema.str_schema(strict=True, max_length=_LONGEST, pattern=pattern)


def _read_and_written(marker: Any, _source: Any, _handler: Any) -> core_schema.CoreSchema:
    """A value that stands as a text in the document."""
    return core_schema.chain_schema(
        [_text(marker.pattern), core_schema.no_info_plain_validator_function(marker.read)],
        serialization=core_schema.plain_serializer_function_ser_schema(marker.write, return_schema=core_schema.str_schema()),
    )


def _typed_number(marker: Any, source: Any, handler: Any) -> core_schema.CoreSchema:
    """A number that people may type in their own way."""

    def tidied(value: Any) -> Any:
        return marker.tidied(value) if isinstance(value, str) and len(value) <= _LONGEST_NUMBER else value

    return core_schema.no_info_before_validator_function(
        tidied,
        _read_and_written(marker, source, handler),
        serialization=core_schema.plain_serializer_function_ser_schema(marker.write, return_schema=core_schema.str_schema()),
    )


def _checked(marker: Any, _source: Any, _handler: Any) -> core_schema.CoreSchema:
    """A text that is only checked; it is written as it is."""
    return core_schema.no_info_after_validator_function(marker.read, _text(marker.pattern))


def _yes_or_no(_marker: Any, _source: Any, _handler: Any) -> core_schema.CoreSchema:
    return core_schema.bool_schema(strict=True)


def _whole(_marker: Any, _source: Any, _handler: Any) -> core_schema.CoreSchema:
    return core_schema.int_schema(strict=True, ge=0, le=1_000_000)


def _version(marker: Any, source: Any, handler: Any) -> core_schema.CoreSchema:
    return core_schema.no_info_before_validator_function(marker.check, handler(source))


# The two ways to write a part that has a shorthand; neither is a step on the way to what is wrong.
BY_TEXT, IN_FULL = "as a text", "in full"


def _short_or_in_full(marker: Any, source: Any, handler: Any) -> core_schema.CoreSchema:
    def way(value: Any) -> str:
        return BY_TEXT if isinstance(value, str) else IN_FULL

    def written(value: Any, whole: Any) -> Any:
        text = marker.write(value)
        return whole(value) if text is None else text

    in_full = handler(source)
    # What is written is plain by then; only its description tells that it is one or the other.
    either = core_schema.union_schema([core_schema.str_schema(), in_full])
    plain = core_schema.any_schema(metadata={"pydantic_js_functions": [lambda _, describe: describe(either)]})
    short = core_schema.chain_schema([_text(None), core_schema.no_info_plain_validator_function(marker.read)])
    return core_schema.tagged_union_schema(
        {BY_TEXT: short, IN_FULL: in_full},
        discriminator=way,
        serialization=core_schema.wrap_serializer_function_ser_schema(written, schema=in_full, return_schema=plain),
    )


_SCHEMAS: dict[type, Schema] = {
    Amount: _typed_number,
    Shown: _read_and_written,
    Measured: _read_and_written,
    Packed: _read_and_written,
    Shorthand: _short_or_in_full,
    Day: _read_and_written,
    Moment: _read_and_written,
    Matching: _checked,
    Zone: _checked,
    YesOrNo: _yes_or_no,
    Whole: _whole,
    Version: _version,
}

_SCHEMA_OF_ITS_OWN = "__pydantic_core_schema__"
_in_the_making: set[type] = set()


def _made_once(kind: type[Keyed], source: Any, handler: Any) -> core_schema.CoreSchema:
    """What Pydantic makes of a kind, kept where it looks first: else it makes it anew wherever the kind stands."""
    if _SCHEMA_OF_ITS_OWN not in vars(kind) and kind not in _in_the_making:
        _in_the_making.add(kind)
        try:
            setattr(kind, _SCHEMA_OF_ITS_OWN, TypeAdapter(kind).core_schema)
        finally:
            _in_the_making.discard(kind)
    made: core_schema.CoreSchema = handler(source)
    return made


for _kind, _schema in _SCHEMAS.items():
    _kind.__get_pydantic_core_schema__ = _schema  # type: ignore[attr-defined]
Keyed.__pydantic_config__ = ConfigDict(  # type: ignore[attr-defined]
    extra="forbid", alias_generator=document_key, serialize_by_alias=True, validate_by_name=False
)
Keyed.__get_pydantic_core_schema__ = classmethod(_made_once)  # type: ignore[attr-defined]
