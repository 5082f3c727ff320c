"""The shape of the project: which way the arrows point, and what is generated is fresh."""

from __future__ import annotations

import ast
import re
import sys
import tomllib
import unittest
from pathlib import Path

from tests.generated import ROOT, SCHEMA, TYPES, schema_text, types_text

# Who may import whom, beside itself. The core imports the standard library and NumPy.
_MAY_IMPORT = {
    "core": set(),
    "formats": {"core"},
    "store": {"core", "formats"},
    "deliveries": {"core", "formats"},
    "devices": {"core", "formats"},
    "demo": {"core", "formats", "deliveries", "store"},
    "api": {"core", "formats", "store", "deliveries", "devices"},
}
_CORE_LIBRARIES = set(sys.stdlib_module_names) | {"numpy", "potrel"}


def imports(file: Path) -> set[str]:
    """The whole names of what a file imports."""
    names: set[str] = set()
    for node in ast.walk(ast.parse(file.read_text())):
        if isinstance(node, ast.Import):
            names |= {alias.name for alias in node.names}
        elif isinstance(node, ast.ImportFrom) and node.module:
            names.add(node.module)
            assert node.level == 0, f"{file}: write the whole name of what is imported"
    return names


class Arrows(unittest.TestCase):
    def test_they_point_one_way(self) -> None:
        for part, allowed in _MAY_IMPORT.items():
            for file in (ROOT / "potrel" / part).rglob("*.py"):
                for name in imports(file):
                    if name.startswith("potrel."):
                        target = name.split(".")[1]
                        self.assertIn(target, allowed | {part}, f"{file.relative_to(ROOT)} imports {name}")

    def test_the_core_needs_no_library_but_numpy(self) -> None:
        for file in (ROOT / "potrel" / "core").rglob("*.py"):
            for name in imports(file):
                self.assertIn(name.split(".")[0], _CORE_LIBRARIES, f"{file.relative_to(ROOT)} imports {name}")

    def test_an_arrow_that_runs_back_would_be_seen(self) -> None:
        self.assertIn("potrel.store.database", imports(ROOT / "potrel" / "api" / "kitchens.py"))


class Generated(unittest.TestCase):
    def test_the_schema_in_docs(self) -> None:
        self.assertEqual(SCHEMA.read_text(), schema_text(), "stale: ./run types writes it anew")

    def test_the_types_of_the_front_end(self) -> None:
        self.assertEqual(TYPES.read_text(), types_text(), "stale: ./run types writes them anew")


class Locked(unittest.TestCase):
    def test_direct_dependencies_stand_in_the_lock_at_their_version(self) -> None:
        project = tomllib.loads((ROOT / "pyproject.toml").read_text())["project"]
        for wanted, file in (
            (project["dependencies"], "requirements.txt"),
            (project["optional-dependencies"]["dev"], "requirements-dev.txt"),
        ):
            lines = (ROOT / file).read_text().splitlines()
            lock = {n.lower(): v for n, _, v in (line.partition("==") for line in lines if "==" in line)}
            for one in wanted:
                name, _, version = one.partition("==")
                name = re.sub(r"\[.*\]", "", name).lower()
                self.assertIn(name, lock, f"{file} lacks {name}")
                if version:
                    self.assertTrue(lock[name].startswith(version), one)

    def test_the_lock_of_the_front_end_names_no_address(self) -> None:
        self.assertNotIn('"resolved": "http', (ROOT / "web" / "package-lock.json").read_text())
        self.assertNotIn('"^', (ROOT / "web" / "package.json").read_text())


class Pictures(unittest.TestCase):
    def test_the_readme_shows_every_picture(self) -> None:
        shown = (ROOT / "README.md").read_text()
        pictures = sorted((ROOT / "docs" / "screenshots").glob("*.png"))
        self.assertGreater(len(pictures), 0)
        for picture in pictures:
            self.assertIn(f"docs/screenshots/{picture.name}", shown)

    def test_links_of_the_documents_lead_somewhere(self) -> None:
        for document in [ROOT / "README.md", *(ROOT / "docs").glob("*.md")]:
            for target in re.findall(r"\]\(([^)#:]+)\)", document.read_text()):
                self.assertTrue((document.parent / target).exists(), f"{document.name}: {target}")
