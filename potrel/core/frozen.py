"""Dataclasses that never change, made as quickly as plain ones.

A frozen dataclass of the standard library sets each field by a detour that takes seven times as long (measured: 3.8 us
against 0.5 us for 14 fields), and a large kitchen is made of half a million of them. So `frozen` is kept by the type checker,
which refuses every assignment to a field, and not a second time when the program runs.
"""

from __future__ import annotations

from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from dataclasses import dataclass
else:
    from dataclasses import dataclass as _dataclass

    def dataclass(cls=None, /, *, frozen=False, **more):
        """The standard library's dataclass; a frozen one is hashed by its fields, as there."""
        more["unsafe_hash"] = frozen
        return _dataclass(cls, **more) if cls is not None else _dataclass(**more)


__all__ = ["dataclass"]
