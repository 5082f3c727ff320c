"""The API against the document that it gives of itself, by random requests.

`./run test` tries a part of the addresses, drawn anew with what the document says of them; `./run torture` all.
"""

from __future__ import annotations

import json
import os
import subprocess
import sys
import tempfile
from collections.abc import Iterable
from pathlib import Path
from typing import Any

from potrel.demo.filling import move_supplier
from potrel.devices.simulated_supplier import simulated_supplier
from tests.api.test_api import ApiTest
from tests.examples import drawn, is_many
from tests.kitchens import DAY

# Recipes, items, settings and prices come in by several addresses: every corner of them is tried at one.
_TAKEN_ALIKE = (
    "POST /api/offers/preview", "POST /api/items/unmerge", "POST /api/uncertainty", "POST /api/what-if/recipe",
    "POST /api/exchange", "POST /api/prices/effect", "POST /api/deals/preview", "POST /api/kitchen/preview",
    "POST /api/items/{item_id}/preview", "POST /api/side-by-side", "POST /api/typed-invoice", "POST /api/working",
    "POST /api/pasted-recipe/save", "PUT /api/deals", "POST /api/bench-tests/preview",
)  # fmt: skip
# Those that do something else with them get requests at random.
_AT_RANDOM = (
    "PUT /api/recipes/{recipe_id}", "POST /api/preview", "PUT /api/items/{item_id}", "POST /api/what-if", "POST /api/flow",
    "POST /api/typed-line",
)  # fmt: skip
# A recipe and the settings have as many corners as all the rest together: `./run test` tries some at random.
_OF_MANY_CORNERS = ("POST /api/recipes", "PUT /api/kitchen")
# `./run test` tries one address of so many.
_AMONG = 4


def _named(option: str, names: Iterable[str]) -> list[str]:
    return [word for name in names for word in (option, name)]


def _addresses(document: dict[str, Any]) -> list[str]:
    """The addresses that this run tries, with their methods as schemathesis names them; drawn by what is said of each."""
    said = {f"{method.upper()} {path}": one for path, methods in document["paths"].items() for method, one in methods.items()}
    return [name for name, one in said.items() if drawn(_AMONG, name, json.dumps(one))]


def _tries(addresses: list[str]) -> list[list[str]]:
    """What is tried of some addresses, as schemathesis takes it: all of it where there is time, by `./run torture`."""
    corners, at_random = ["--phases", "coverage"], ["--phases", "examples,fuzzing"]
    if is_many():
        return [corners + _named("--exclude-name", _TAKEN_ALIKE), [*at_random, "-n", "20"]]
    # Every address is tried by its corners or at random. To make up one recipe takes seconds, however many are made.
    few = [name for name in addresses if name in (*_AT_RANDOM, *_OF_MANY_CORNERS)]
    cornered = [name for name in addresses if name not in (*_TAKEN_ALIKE, *few)]
    tries = [corners + _named("--include-name", cornered), [*at_random, "-n", "8", *_named("--include-name", few)]]
    return [words for words, names in zip(tries, (cornered, few), strict=True) if names]


class AgainstItsOwnDocument(ApiTest):
    def setUp(self) -> None:
        super().setUp()
        move_supplier(self.store, self.enterContext(simulated_supplier(today=lambda: DAY)))

    def test_random_requests_get_what_the_openapi_document_promises(self) -> None:
        # Made once, which takes longer on a busy machine than the trial is willing to wait for it.
        addresses = _addresses(self.get("/api/openapi.json"))
        self.assertGreater(len(addresses), 20)
        for phases in _tries(addresses):
            command = [
                str(Path(sys.executable).parent / "schemathesis"), "run", f"{self.address}/api/openapi.json",
                "--seed", "1", "--generation-database", "none", "--no-color",
                # How fast the machine is, is not what is asked here.
                "--request-timeout", "120", "--suppress-health-check", "too_slow",
                # What fits the schema may still be refused: a unit or an item that this kitchen does not know.
                "--exclude-checks", "allow_header_conformance,positive_data_acceptance", *phases,
            ]  # fmt: skip
            with tempfile.TemporaryDirectory() as folder:
                environ = {**os.environ, "PYTHONWARNINGS": "ignore"}
                done = subprocess.run(command, cwd=folder, capture_output=True, text=True, check=False, env=environ)
            self.assertEqual(done.returncode, 0, done.stdout[-6000:] + done.stderr[-2000:])
