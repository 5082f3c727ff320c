"""The kitchen document as JSON: reading it with one clear line for the first thing wrong, writing it, its schema."""

from __future__ import annotations

import difflib
import json
import re
from dataclasses import fields, is_dataclass
from typing import Any, get_type_hints

from pydantic import TypeAdapter, ValidationError

from potrel.core.errors import BadDocument, PotrelError
from potrel.core.kitchen.integrity import check_kitchen
from potrel.core.kitchen.keyed import document_key
from potrel.core.kitchen.kinds import Matching
from potrel.core.kitchen.kitchen import Kitchen
from potrel.core.sentences import Sentence, say
from potrel.formats.boundary import BY_TEXT, IN_FULL  # the module also teaches Pydantic the core's kinds

LARGEST_DOCUMENT = 64 * 1024 * 1024


_adapters: dict[Any, TypeAdapter[Any]] = {}


def _adapter(part: Any) -> TypeAdapter[Any]:
    if part not in _adapters:
        _adapters[part] = TypeAdapter(part)
    return _adapters[part]


# U+FFFE and U+FFFF as bytes of UTF-8, and as JSON escapes them.
_NO_SIGNS = (b"\xef\xbf\xbe", b"\xef\xbf\xbf")
_ESCAPED = re.compile(rb"\\u[Ff]{3}[EeFf]")
_BACKSLASH = ord("\\")


def _holds_no_sign(data: bytes) -> bool:
    if any(one in data for one in _NO_SIGNS):
        return True
    for found in _ESCAPED.finditer(data):
        # Of the backslashes before it each two stand for one; a pattern that counts them is slow where there are many.
        first = found.start()
        while first > 0 and data[first - 1] == _BACKSLASH:
            first -= 1
        if (found.start() - first) % 2 == 0:
            return True
    return False


def read_kitchen(data: bytes | str) -> Kitchen:
    """The kitchen that a document describes; BadDocument, in one line, for the first thing wrong with it."""
    if len(data) > LARGEST_DOCUMENT:
        english = "the document is larger than {most} MB: is it a kitchen document?"
        raise BadDocument("", say("document_too_large", english, most=LARGEST_DOCUMENT // 1024**2))
    if _holds_no_sign(data if isinstance(data, bytes) else data.encode("utf-8", "surrogatepass")):
        english = "a text holds U+FFFE or U+FFFF, which is no sign and can stand in no XML: take it out"
        raise BadDocument("", say("no_sign", english))
    try:
        kitchen: Kitchen = _adapter(Kitchen).validate_json(data)
    except ValidationError as error:
        raise BadDocument(*_first(error, Kitchen)) from None
    check_kitchen(kitchen)
    return kitchen


def write_kitchen(kitchen: Kitchen) -> str:
    """The document of a kitchen, as JSON text that people can read and compare; what has its default is left out."""
    plain = _adapter(Kitchen).dump_python(kitchen, mode="json", by_alias=True, exclude_defaults=True)
    return json.dumps(plain, indent=1, ensure_ascii=False) + "\n"


def kitchen_schema() -> dict[str, Any]:
    """The JSON Schema of the document, made from the dataclasses."""
    schema = _adapter(Kitchen).json_schema(by_alias=True)
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "Potrel kitchen document",
        **{key: value for key, value in schema.items() if key != "title"},
    }


def part_from(part: type[Any], data: object) -> Any:
    """One part of a document (a Recipe, an Item) from JSON values; BadDocument for the first thing wrong with it."""
    try:
        return _adapter(part).validate_python(data)
    except ValidationError as error:
        raise BadDocument(*_first(error, part)) from None


def part_from_json(part: type[Any], data: bytes | str) -> Any:
    """The same from JSON text."""
    try:
        return _adapter(part).validate_json(data)
    except ValidationError as error:
        raise BadDocument(*_first(error, part)) from None


def part_to_json(part: type[Any], value: Any) -> str:
    """A part of a document, or a cost sheet, as JSON text."""
    return _adapter(part).dump_json(value, by_alias=True).decode()


def part_to_plain(part: type[Any], value: Any, *, whole: bool = True) -> Any:
    """The same as JSON values; where not `whole`, what has its default is left out."""
    return _adapter(part).dump_python(value, mode="json", by_alias=True, exclude_defaults=not whole)


def _first(error: ValidationError, root: type[Any]) -> tuple[str, Sentence]:
    return what_is_wrong(dict(error.errors(include_url=False)[0]), root)


def what_is_wrong(error: dict[str, Any], root: type[Any] = Kitchen) -> tuple[str, Sentence]:
    """Where a validation error lies and what would mend it, both in words."""
    where, cause = _path(error["loc"]), error.get("ctx", {}).get("error")
    if isinstance(cause, BadDocument):
        return ".".join(step for step in (where, cause.where) if step), cause.message
    if isinstance(cause, PotrelError):
        return where, cause.said
    return where, _said(error, root)


def _said(error: dict[str, Any], root: type[Any]) -> Sentence:
    kind, key = error["type"], str(error["loc"][-1]) if error["loc"] else ""
    cause = error.get("ctx", {}).get("error")
    if cause is not None and not isinstance(cause, str):
        return say("bad_value", "{cause}", cause=cause)
    if kind in ("unexpected_keyword_argument", "extra_forbidden"):
        close = difflib.get_close_matches(key, _keys(root), 1)
        if close:
            return say("unknown_key_like", 'unknown key "{key}": did you mean "{close}"?', key=key[:60], close=close[0])
        return say("unknown_key", 'unknown key "{key}": take it out', key=key[:60])
    if kind == "missing":
        return say("missing_key", 'the key "{key}" is missing', key=key)
    if kind == "string_type":
        return say("no_text", "must be a text in quotes, not {value}", value=json.dumps(error["input"])[:40])
    if kind == "string_pattern_mismatch":
        wanted = _in_words(error["ctx"]["pattern"])
        return say("not_of_the_kind", "{value} is not {wanted}", value=json.dumps(error["input"])[:60], wanted=wanted)
    if kind == "json_invalid":
        return say("no_json", "this is not JSON that can be read: {cause}", cause=error["ctx"]["error"])
    message: str = error["msg"]
    return say("not_valid", "{message}", message=message[0].lower() + message[1:])


def _in_words(pattern: str) -> str:
    known = {
        "^-?(0": "a plain number of at most 12 digits and 12 places, such as 0.75",
        "^[0-9]{4}-[0-9]{2}-[0-9]{2}T": "a moment such as 2026-11-24T06:30:00Z",
        "^[0-9]{4}": "a date such as 2026-11-24", **Matching.in_words,
    }  # fmt: skip
    return next((words for start, words in known.items() if pattern.startswith(start)), f"a text of the pattern {pattern}")


def _path(loc: tuple[int | str, ...]) -> str:
    path = ""
    for step in loc:
        if isinstance(step, int):
            path += f"[{step}]"
        elif "[" not in step and step not in ("str", "chain", BY_TEXT, IN_FULL) and not step.startswith("function-"):
            path += f".{step[:60]}"
    return path.lstrip(".")


def _keys(root: type[Any]) -> frozenset[str]:
    """All keys that a part and the parts within it have."""
    keys: set[str] = set()
    todo: list[Any] = [root]
    seen: set[Any] = set()
    while todo:
        kind = todo.pop()
        if is_dataclass(kind) and kind not in seen:
            seen.add(kind)
            keys |= {document_key(f.name) for f in fields(kind)}
            todo.extend(get_type_hints(kind).values())
        else:
            todo.extend(getattr(kind, "__args__", ()))
    return frozenset(keys)
