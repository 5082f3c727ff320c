"""The shape of the project: which way the arrows point, and what is generated is fresh."""

from __future__ import annotations

import ast
import re
import subprocess
import sys
import tomllib
import unittest
from collections.abc import Iterator
from pathlib import Path

from tests.generated import ROOT, SCHEMA, TYPES, schema_text, types_text

# Who may import whom, beside itself.
_MAY_IMPORT = {
    "core": set(),
    "apart": {"core"},
    "formats": {"core"},
    "store": {"core", "formats"},
    "deliveries": {"core", "formats", "apart"},
    "devices": {"core", "formats"},
    "demo": {"core", "formats", "doing", "store"},
    "papers": {"core", "formats", "apart"},
    "doing": {"core", "formats", "store", "deliveries", "devices"},
    "api": {"core", "formats", "store", "doing", "deliveries", "devices", "papers", "apart"},
}
# The rooms of the core, from the ground up: each may import those before it. What any of them may import stands beside them.
_ROOMS = ("numbers", "kitchen", "buy", "trim", "pot", "cost", "words", "rooms", "tell", "decide")
_BESIDE = {"errors", "frozen", "reckoning", "sentences", "tables"}
# The core imports the standard library and NumPy; Student's t comes from SciPy, late and in one place.
_CORE_LIBRARIES = set(sys.stdlib_module_names) | {"numpy", "potrel"}
_LATE = {"scipy.special": "potrel/core/numbers/student.py"}


# The front end, from the ground up: what the server says, parts, one folder a room, the frame of all. What the first page
# loads, the board, needs none of the libraries of the other rooms.
_WEB = ROOT / "web" / "src"
_WEB_FLOORS = ("api", "parts", "rooms", "app")
_NOT_ON_THE_BOARD = {"downshift", "react-hook-form", "date-fns", "d3-scale", "d3-shape", "valibot"}


def web_imports(file: Path, *, late: bool = True) -> set[str]:
    """What a file of the front end imports: paths of its own files from `web/src`, names of packages. Late: on demand too."""
    text = re.sub(r"^import type .*?;$", "", file.read_text(), flags=re.M | re.S)
    names = re.findall(r'^(?:import|export|\}) (?:[^;]*? from )?"([^"]+)";', text, re.M)
    names += re.findall(r'^import "([^"]+)";', text, re.M)
    names += re.findall(r'import\("([^"]+)"\)', text) if late else []
    return {_web_name(file, name) for name in names}


def _web_name(file: Path, name: str) -> str:
    return str((file.parent / name).resolve().relative_to(_WEB)) if name.startswith(".") else name


def web_file(name: str) -> Path | None:
    """The file of an import from `web/src`; None for a package and a style."""
    return next((file for end in (".ts", ".tsx") if (file := _WEB / f"{name}{end}").exists()), None)


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

    def test_every_room_of_the_core_stands_on_those_below_it(self) -> None:
        core = ROOT / "potrel" / "core"
        rooms = {folder.name for folder in core.iterdir() if (folder / "__init__.py").exists()}
        self.assertEqual(rooms, {*_ROOMS, "tables"})
        for floor, room in enumerate(_ROOMS):
            for file in (core / room).rglob("*.py"):
                for name in imports(file):
                    if name.startswith("potrel.core."):
                        target = name.split(".")[2]
                        self.assertIn(target, {*_ROOMS[: floor + 1], *_BESIDE}, f"{file.relative_to(ROOT)} imports {name}")

    def test_those_of_the_front_end_do_too(self) -> None:
        files = [file for floor in _WEB_FLOORS for file in (_WEB / floor).rglob("*.ts*")]
        self.assertGreater(len(files), 100)
        for file in files:
            own = file.relative_to(_WEB).parts
            floor = _WEB_FLOORS.index(own[0])
            for name in web_imports(file):
                if web_file(name) is None:
                    continue
                other = Path(name).parts
                self.assertIn(other[0], _WEB_FLOORS[: floor + 1], f"{file.relative_to(_WEB)} imports {name}")
                if own[0] == other[0] == "rooms":
                    self.assertEqual(own[1], other[1], f"{file.relative_to(_WEB)} imports {name} of another room")

    def test_the_board_loads_no_library_of_another_room(self) -> None:
        found: set[str] = set()
        todo = [_WEB / "main.tsx"]
        while todo:
            for name in web_imports(todo.pop(), late=False) - found:
                found.add(name)
                file = web_file(name)
                todo += [file] if file is not None else []
        self.assertIn("rooms/board/BoardRoom", found)
        self.assertIn("react-router", found)
        self.assertEqual(found & _NOT_ON_THE_BOARD, set())
        self.assertEqual({name for name in found if name.startswith("rooms/") and not name.startswith("rooms/board/")}, set())

    def test_what_is_done_knows_no_http_and_no_route_writes(self) -> None:
        for file in (ROOT / "potrel" / "doing").rglob("*.py"):
            self.assertEqual({name for name in imports(file) if name.split(".")[0] in ("fastapi", "starlette")}, set(), file)
        routes, demo = ((ROOT / "potrel" / part).rglob("*.py") for part in ("api", "demo"))
        for file in (ROOT / "potrel" / "cli.py", *routes, *demo):
            self.assertNotIn(".writing(", file.read_text(), f"{file.relative_to(ROOT)}: what is done stands in potrel/doing")

    def test_the_core_needs_no_library_but_numpy(self) -> None:
        for file in (ROOT / "potrel" / "core").rglob("*.py"):
            where = str(file.relative_to(ROOT))
            for name in imports(file):
                known = name.split(".")[0] in _CORE_LIBRARIES or _LATE.get(name) == where
                self.assertTrue(known, f"{where} imports {name}")

    def test_the_board_is_made_without_the_slow_libraries(self) -> None:
        code = (
            "import sys, datetime, potrel.api.app\n"
            "from potrel.core.cost.costing import Costing\n"
            "from potrel.core.rooms.board import board_of\n"
            "from potrel.demo import demo_kitchen\n"
            "day = datetime.date(2026, 11, 24)\n"
            "board_of(Costing(demo_kitchen(day), day))\n"
            "print([name for name in ('scipy', 'numpy', 'openpyxl') if name in sys.modules])"
        )
        done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True, cwd=ROOT)
        self.assertEqual(done.stdout.strip(), "[]")

    def test_an_arrow_that_runs_back_would_be_seen(self) -> None:
        self.assertIn("potrel.store.database", imports(ROOT / "potrel" / "doing" / "kitchens.py"))
        self.assertIn("potrel.core.cost.costing", imports(ROOT / "potrel" / "core" / "rooms" / "board.py"))


def said_in(tree: ast.Module) -> Iterator[tuple[str, str]]:
    """The codes and English sentences that a module says; a sentence may stand in a name just before."""
    named: dict[str, str] = {}
    nodes = [one for one in ast.walk(tree) if isinstance(one, ast.stmt | ast.expr)]
    for node in sorted(nodes, key=lambda one: (one.lineno, one.col_offset)):
        if isinstance(node, ast.Assign) and isinstance(node.targets[0], ast.Name) and isinstance(node.value, ast.Constant):
            named[node.targets[0].id] = str(node.value.value)
        if isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id == "say":
            code, english = node.args[0], node.args[1]
            words = english.value if isinstance(english, ast.Constant) else named.get(getattr(english, "id", ""))
            if isinstance(code, ast.Constant) and words is not None:
                yield str(code.value), str(words)


class Sentences(unittest.TestCase):
    def test_a_code_stands_for_one_sentence(self) -> None:
        # Another language is told by the code: two sentences of one code could not be told apart there.
        found: dict[str, set[str]] = {}
        for file in (ROOT / "potrel").rglob("*.py"):
            for code, english in said_in(ast.parse(file.read_text())):
                found.setdefault(code, set()).add(english)
        self.assertGreater(len(found), 120)
        self.assertEqual({code: words for code, words in found.items() if len(words) > 1}, {})


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
            lock = {n.lower(): v for n, _, v in (line.removesuffix(" \\").partition("==") for line in lines if "==" in line)}
            for one in wanted:
                name, _, version = one.partition("==")
                name = re.sub(r"\[.*\]", "", name).lower()
                self.assertIn(name, lock, f"{file} lacks {name}")
                if version:
                    self.assertTrue(lock[name].startswith(version), one)

    def test_every_package_is_locked_with_the_hashes_of_its_files(self) -> None:
        for file in ("requirements.txt", "requirements-dev.txt", "requirements-data.txt"):
            for entry in re.findall(r"^(\S+==\S+)((?: \\\n    --hash=sha256:[0-9a-f]{64})*)$", (ROOT / file).read_text(), re.M):
                self.assertNotEqual(entry[1], "", f"{file}: {entry[0]} has no hash")

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
