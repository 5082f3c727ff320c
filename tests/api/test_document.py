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
from tests.kitchens import DAY

# Recipes, items, settings and prices come in by several addresses: every corner of them is tried at one, and random ones at
# those that do something else with them.
_TAKEN_ALIKE = (
    "POST /api/offers/preview", "POST /api/items/unmerge", "POST /api/uncertainty", "POST /api/what-if/recipe",
    "POST /api/exchange", "POST /api/prices/effect", "POST /api/deals/preview", "POST /api/kitchen/preview",
    "POST /api/items/{item_id}/preview", "POST /api/side-by-side", "POST /api/typed-invoice", "POST /api/working",
    "POST /api/pasted-recipe/save", "PUT /api/deals", "POST /api/bench-tests/preview",
)  # fmt: skip
_AGAIN = (
    *_TAKEN_ALIKE, "PUT /api/recipes/{recipe_id}", "POST /api/preview", "PUT /api/items/{item_id}", "POST /api/what-if",
    "POST /api/flow", "POST /api/typed-line",
)  # fmt: skip


def _without(names: tuple[str, ...]) -> list[str]:
    return [word for name in names for word in ("--exclude-name", name)]


class AgainstItsOwnDocument(ApiTest):
    def setUp(self) -> None:
        super().setUp()
        move_supplier(self.store, self.enterContext(simulated_supplier(today=lambda: DAY)))

    def test_random_requests_get_what_the_openapi_document_promises(self) -> None:
        corners = ["--phases", "coverage", *_without(_AGAIN)]
        at_random = ["--phases", "examples,fuzzing", "-n", "3", *_without(_TAKEN_ALIKE)]
        for phases in (corners, at_random):
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
