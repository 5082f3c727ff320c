"""The demo kitchen: the canteen of a boatyard on an estuary, which also caters regattas. All of it is invented."""

from __future__ import annotations

from datetime import date
from pathlib import Path

from potrel.core.kitchen.dates import newest_day, shifted
from potrel.core.kitchen.kitchen import Kitchen
from potrel.formats.kitchen_json import read_kitchen

DOCUMENT = Path(__file__).parent / "slipway-canteen.json"
# The supplier whose service is simulated.
SIMULATED = "ropewalk"
_WRITTEN_ON = b"2026-11-24"


def demo_kitchen(today: date) -> Kitchen:
    """The demo kitchen with its newest offer on `today`, and everything else as long before as it was written."""
    kitchen = read_kitchen(DOCUMENT.read_bytes())
    newest = newest_day(kitchen)
    return kitchen if newest is None else shifted(kitchen, today - newest)


def demo_lists(today: date) -> list[tuple[str, bytes]]:
    """Lists that the demo's suppliers have sent, as files with their names; the day they were written on is `today`."""
    files = sorted((Path(__file__).parent / "lists").iterdir())
    return [(file.name, file.read_bytes().replace(_WRITTEN_ON, today.isoformat().encode())) for file in files]
