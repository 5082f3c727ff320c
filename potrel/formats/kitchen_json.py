"""The kitchen document as JSON: reading it with one clear line for the first thing wrong, writing it, its schema."""

from __future__ import annotations

import difflib
import json
from collections.abc import Iterator
from dataclasses import fields, is_dataclass
from typing import Any, get_type_hints

from pydantic import TypeAdapter, ValidationError

from potrel.core.checks import refuse_twice
from potrel.core.errors import BadDocument, PotrelError
from potrel.core.fields import Matching
from potrel.core.graph import order_of
from potrel.core.kitchen import Item, Kitchen, Line, Recipe
from potrel.core.part import document_key
from potrel.core.purchase import known_units, parse_pack, refuse_unknown_unit

LARGEST_DOCUMENT = 64 * 1024 * 1024


_adapters: dict[Any, TypeAdapter[Any]] = {}


def _adapter(part: Any) -> TypeAdapter[Any]:
    if part not in _adapters:
        _adapters[part] = TypeAdapter(part)
    return _adapters[part]


def read_kitchen(data: bytes | str) -> Kitchen:
    """The kitchen that a document describes; BadDocument, in one line, for the first thing wrong with it."""
    if len(data) > LARGEST_DOCUMENT:
        raise BadDocument("", f"the document is larger than {LARGEST_DOCUMENT // 1024**2} MB: is it a kitchen document?")
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


def check_kitchen(kitchen: Kitchen) -> None:
    """BadDocument or RecipeLoop where the parts of a kitchen do not fit together."""
    for where, what, parts in (
        ("suppliers", "supplier", kitchen.suppliers),
        ("vessels", "vessel", kitchen.vessels),
        ("items", "item", kitchen.items),
        ("recipes", "recipe", kitchen.recipes),
    ):
        _at(where, refuse_twice, what, (part.id for part in parts))
    _at("offers", refuse_twice, "offer", (offer.id for offer in kitchen.offers if offer.id))
    items = {item.id: item for item in kitchen.items}
    suppliers = {supplier.id for supplier in kitchen.suppliers}
    units = known_units(kitchen.items)
    for place, item in enumerate(kitchen.items):
        if item.preferred_supplier is not None and item.preferred_supplier not in suppliers:
            raise BadDocument(f"items[{place}]", f'no supplier has the id "{item.preferred_supplier}"')
    _check_offers(kitchen, items, suppliers, units)
    _check_credits(kitchen, items, suppliers)
    _at("tests", refuse_twice, "test", (test.id for test in kitchen.tests))
    for place, test in enumerate(kitchen.tests):
        if test.item not in items:
            raise BadDocument(f"tests[{place}]", f'no item has the id "{test.item}"')
        if test.supplier is not None and test.supplier not in suppliers:
            raise BadDocument(f"tests[{place}]", f'no supplier has the id "{test.supplier}"')
    _at("comparisons", refuse_twice, "comparison", (one.id for one in kitchen.comparisons))
    recipes = {recipe.id: recipe for recipe in kitchen.recipes}
    for place, recipe in enumerate(kitchen.recipes):
        _at(f"recipes[{place}] ({recipe.id})", check_recipe, recipe, items, recipes, kitchen, units)
    order_of(recipes, lambda recipe_id: recipes[recipe_id].uses())


def check_recipe(recipe: Recipe, items: dict[str, Item], recipes: dict[str, Recipe], kitchen: Kitchen, units: set[str]) -> None:
    """BadDocument where a recipe names an item, recipe, vessel or unit that the kitchen does not have."""
    vessels = {vessel.id for vessel in kitchen.vessels}
    for stage in recipe.stages:
        if stage.vessel is not None and stage.vessel not in vessels:
            raise BadDocument(f'stage "{stage.id}"', f'no vessel has the id "{stage.vessel}"')
    for line in _lines(recipe):
        if line.item is not None and line.item not in items:
            raise BadDocument("", f'no item has the id "{line.item}"')
        if line.recipe is not None and line.recipe not in recipes:
            raise BadDocument("", f'no recipe has the id "{line.recipe}"')
        refuse_unknown_unit(line.quantity, units)


def _check_offers(kitchen: Kitchen, items: dict[str, Item], suppliers: set[str], units: set[str]) -> None:
    ids: set[str] = set()
    for place, offer in enumerate(kitchen.offers):
        where = f"offers[{place}]"
        if offer.item not in items:
            raise BadDocument(where, f'no item has the id "{offer.item}"')
        if offer.supplier not in suppliers:
            raise BadDocument(where, f'no supplier has the id "{offer.supplier}"')
        if offer.corrects is not None and offer.corrects not in ids:
            raise BadDocument(where, f'it corrects "{offer.corrects}", which is no offer before it')
        if offer.id is not None:
            ids.add(offer.id)
        pack = _at(where, parse_pack, offer.pack)
        _at(where, refuse_unknown_unit, f"1 {pack.inner.unit}", units)


def _check_credits(kitchen: Kitchen, items: dict[str, Item], suppliers: set[str]) -> None:
    _at("credits", refuse_twice, "credit", (credit.id for credit in kitchen.credits if credit.id))
    ids: set[str | None] = {None}
    for place, credit in enumerate(kitchen.credits):
        for what, wanted, there in (("item", credit.item, items), ("supplier", credit.supplier, suppliers)):
            if wanted not in there:
                raise BadDocument(f"credits[{place}]", f'no {what} has the id "{wanted}"')
        if credit.withdraws not in ids:
            raise BadDocument(f"credits[{place}]", f'it takes back "{credit.withdraws}", which is no credit before it')
        _at(f"credits[{place}]", parse_pack, credit.pack)
        ids.add(credit.id)


def _lines(recipe: Recipe) -> Iterator[Line]:
    yield from recipe.all_lines()
    for stage in recipe.stages:
        with_ = stage.change.with_
        if with_ is not None:
            yield Line(quantity="1 g", item=with_.item, recipe=with_.recipe, preparation=with_.preparation)


def _at(where: str, check: Any, *args: Any) -> Any:
    """Run a check, and say where in the document its error lies."""
    try:
        return check(*args)
    except PotrelError as error:
        raise BadDocument(where, str(error)) from None


def _first(error: ValidationError, root: type[Any]) -> tuple[str, str]:
    return what_is_wrong(dict(error.errors(include_url=False)[0]), root)


def what_is_wrong(error: dict[str, Any], root: type[Any] = Kitchen) -> tuple[str, str]:
    """Where a validation error lies and what would mend it, both in words."""
    return _path(error["loc"]), _message(error, root)


def _message(error: dict[str, Any], root: type[Any]) -> str:
    kind, key = error["type"], str(error["loc"][-1]) if error["loc"] else ""
    cause = error.get("ctx", {}).get("error")
    if isinstance(cause, BadDocument) and cause.where:
        return f"{cause.where}: {cause}".removeprefix(f"{cause.where}: {cause.where}: ")
    if cause is not None and not isinstance(cause, str):
        return str(cause)
    if kind in ("unexpected_keyword_argument", "extra_forbidden"):
        close = difflib.get_close_matches(key, _keys(root), 1)
        return f'unknown key "{key[:60]}"' + (f': did you mean "{close[0]}"?' if close else ": take it out")
    if kind == "missing":
        return f'the key "{key}" is missing'
    if kind == "string_type":
        return f"must be a text in quotes, not {json.dumps(error['input'])[:40]}"
    if kind == "string_pattern_mismatch":
        return f"{json.dumps(error['input'])[:60]} is not {_in_words(error['ctx']['pattern'])}"
    if kind == "json_invalid":
        return f"this is not JSON that can be read: {error['ctx']['error']}"
    message: str = error["msg"]
    return message[0].lower() + message[1:]


def _in_words(pattern: str) -> str:
    known = {
        "^-?(0": "a plain number such as 0.75", "^[0-9]{4}-[0-9]{2}-[0-9]{2}T": "a moment such as 2026-11-24T06:30:00Z",
        "^[0-9]{4}": "a date such as 2026-11-24", **Matching.in_words,
    }  # fmt: skip
    return next((words for start, words in known.items() if pattern.startswith(start)), f"a text of the pattern {pattern}")


def _path(loc: tuple[int | str, ...]) -> str:
    path = ""
    for step in loc:
        if isinstance(step, int):
            path += f"[{step}]"
        elif "[" not in step and step not in ("str", "chain"):
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
