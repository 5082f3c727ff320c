"""The tables of facts that ship with the core."""

from __future__ import annotations

import csv
from importlib import resources


def table(name: str) -> list[dict[str, str]]:
    """The rows of a table by the names of its columns."""
    text = resources.files("potrel.core").joinpath("tables", name).read_text(encoding="utf-8")
    return list(csv.DictReader(text.splitlines()))
