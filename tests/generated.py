"""What is made from the code and kept in the repository: the document's schema, and the front end's types."""

from __future__ import annotations

import json
import subprocess
import sys
import tempfile
from pathlib import Path

from potrel.api.app import openapi_text
from potrel.formats.kitchen_json import kitchen_schema

ROOT = Path(__file__).parents[1]
SCHEMA = ROOT / "docs" / "kitchen.schema.json"
TYPES = ROOT / "web" / "src" / "api" / "schema.d.ts"


def schema_text() -> str:
    """The schema as it is kept in docs/."""
    return json.dumps(kitchen_schema(), indent=1, ensure_ascii=False) + "\n"


def types_text() -> str:
    """The front end's types, generated anew from the OpenAPI document."""
    with tempfile.TemporaryDirectory() as folder:
        source, made = Path(folder) / "openapi.json", Path(folder) / "schema.d.ts"
        source.write_text(openapi_text())
        generator = ROOT / "web" / "node_modules" / "openapi-typescript" / "bin" / "cli.js"
        subprocess.run(
            ["node", str(generator), str(source), "--output", str(made)], check=True, capture_output=True, cwd=ROOT / "web"
        )
        return made.read_text()


def write() -> None:
    """Write both."""
    SCHEMA.write_text(schema_text())
    TYPES.parent.mkdir(parents=True, exist_ok=True)
    TYPES.write_text(types_text())


if __name__ == "__main__" and sys.argv[1:] == ["write"]:
    write()
