"""The API against the document that it gives of itself, by random requests."""

from __future__ import annotations

import os
import subprocess
import sys
import tempfile
from pathlib import Path

from potrel.demo.filling import move_supplier
from potrel.devices.simulated_supplier import simulated_supplier
from tests.api.test_api import ApiTest
from tests.examples import is_many
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


def _named(option: str, names: tuple[str, ...]) -> list[str]:
    return [word for name in names for word in (option, name)]


def _tries() -> list[list[str]]:
    """What is tried, as schemathesis takes it: all of it where there is time, by `./run torture`."""
    corners, at_random = ["--phases", "coverage"], ["--phases", "examples,fuzzing"]
    if is_many():
        return [corners + _named("--exclude-name", _TAKEN_ALIKE), [*at_random, "-n", "20"]]
    # Every address is tried by its corners or at random. To make up one recipe takes seconds, however many are made.
    few = (*_AT_RANDOM, *_OF_MANY_CORNERS)
    return [
        corners + _named("--exclude-name", (*_TAKEN_ALIKE, *few)),
        [*at_random, "-n", "8", *_named("--include-name", few)],
    ]


class AgainstItsOwnDocument(ApiTest):
    def setUp(self) -> None:
        super().setUp()
        move_supplier(self.store, self.enterContext(simulated_supplier(today=lambda: DAY)))

    def test_random_requests_get_what_the_openapi_document_promises(self) -> None:
        # Made once, which takes longer on a busy machine than the trial is willing to wait for it.
        self.get("/api/openapi.json")
        for phases in _tries():
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
