"""Tries slips of the front end: each in a copy of its own, all by one run of its unit tests."""

from __future__ import annotations

import json
import shutil
import subprocess
from collections.abc import Iterator, Sequence
from pathlib import Path

from tests.generated import ROOT
from tests.mutations.sample import Slip

_WEB = ROOT / "web"
# In one process, which is started once: the copies share nothing but the storage, which each test clears.
_CONFIG = """export default { test: { include: ["*/tests/*.test.ts"], pool: "threads", isolate: false, maxWorkers: 1 } };"""


def unnoticed(slips: Sequence[Slip], folder: Path) -> list[str]:
    """What is wrong with each slip that no test noticed; `folder` is empty, and holds a copy for each."""
    (folder / "vitest.config.mjs").write_text(_CONFIG)
    (folder / "node_modules").symlink_to(_WEB / "node_modules")
    shutil.copy(_WEB / "tsconfig.json", folder)
    wrong = [one for place, slip in enumerate(slips) if (one := _laid_out(slip, folder / f"slip-{place}")) is not None]
    report = folder / "report.json"
    command = ["node", str(_WEB / "node_modules/vitest/vitest.mjs"), "run", "--reporter=json", f"--outputFile={report}"]
    done = subprocess.run(command, cwd=folder, capture_output=True, text=True, check=False)
    if not report.exists():
        return [*wrong, (done.stdout + done.stderr)[-2000:]]
    return [*wrong, *_missed(slips, json.loads(report.read_text()))]


def _laid_out(slip: Slip, folder: Path) -> str | None:
    shutil.copytree(_WEB / "src", folder / "src")
    (folder / "tests").mkdir()
    for name in (f"{slip.noticed_by}.test.ts", "storage.ts"):
        shutil.copy(_WEB / "tests" / name, folder / "tests")
    file = folder / slip.file
    code = file.read_text()
    file.write_text(code.replace(slip.was, slip.becomes))
    if code.count(slip.was) != 1:
        return f"{slip.name}: {slip.file} has it {code.count(slip.was)} times, not once: {slip.was}"
    return None


def _missed(slips: Sequence[Slip], report: dict[str, list[dict[str, object]]]) -> Iterator[str]:
    """A test that fails notices; a file in which no test runs notices nothing."""
    found = {Path(str(one["name"])).parts[-3]: one["assertionResults"] for one in report["testResults"]}
    for place, slip in enumerate(slips):
        results = found.get(f"slip-{place}")
        if not isinstance(results, list) or not results:
            yield f"{slip.name}: {slip.noticed_by} cannot be loaded"
        elif all(one["status"] != "failed" for one in results):
            yield f"{slip.name}: nobody noticed"
