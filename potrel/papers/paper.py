"""Sets papers: a page of HTML to print from a browser, or the same as an accessible PDF."""

from __future__ import annotations

from collections.abc import Iterator
from ctypes import CDLL
from functools import cache
from pathlib import Path
from typing import Any, Literal

from jinja2 import Environment, FileSystemLoader, StrictUndefined

from potrel.apart.workers import Job, shared
from potrel.core.cost.costing import Costing
from potrel.core.decide.selling import selling_of
from potrel.core.errors import PotrelError
from potrel.core.rooms.allergens import allergen_matrix
from potrel.core.sentences import say
from potrel.core.tell.cost_sheet import sheet_of
from potrel.papers.on_sale import on_sale
from potrel.papers.words import Words

PaperSize = Literal["a4", "letter"]
PaperKind = Literal["list", "card", "tent", "allergens"]
_HERE = Path(__file__).parent
_BUILT = _HERE.parents[1] / "web" / "dist" / "assets"
_INSTALL = "sudo apt-get install -y --no-install-recommends libpango-1.0-0 libpangoft2-1.0-0"
_SIZES: dict[PaperSize, str] = {"a4": "A4", "letter": "Letter"}


def page(costing: Costing, kind: PaperKind, channel: str | None, size: PaperSize, *, marks: bool = False) -> str:
    """A paper as a page of HTML: a price list, a card, a tent card, or the allergen sheet."""
    if kind == "allergens":
        return _set("allergens", costing, size, matrix=allergen_matrix(costing))
    return _set(kind, costing, size, prices=on_sale(costing, channel), with_marks=marks)


def costing_page(costing: Costing, recipe_id: str, size: PaperSize) -> str:
    """The costing sheet of a pot as a page of HTML."""
    one = costing.of(recipe_id)
    sold = [selling_of(costing, recipe_id, portion, None, None) for portion in one.portions]
    return _set("costing", costing, size, sheet=sheet_of(costing, recipe_id), sold=sold, recipe=one.recipe)


def _set(template: str, costing: Costing, size: PaperSize, **more: Any) -> str:
    kitchen = costing.view.kitchen
    return _environment().get_template(f"{template}.html").render(
        kitchen=kitchen, words=Words(kitchen), on=costing.on, size=_SIZES[size], font=_font(), **more
    )  # fmt: skip


@cache
def _environment() -> Environment:
    return Environment(loader=FileSystemLoader(_HERE / "templates"), autoescape=True, undefined=StrictUndefined)


def _font() -> str:
    """The kitchen's font, as the front end ships it; none where that is not built."""
    found = sorted(_BUILT.glob("source-sans-3-latin-wght-normal*.woff2"))
    return found[0].name if found else ""


def lack_of_pdf() -> str | None:
    """What is missing to make PDF here, and the command that brings it; None where nothing is."""
    try:
        for library in ("libpango-1.0.so.0", "libpangoft2-1.0.so.0"):
            CDLL(library)
    except OSError:
        return f"PDF needs Debian's Pango. This command brings it; then start Potrel again: {_INSTALL}"
    return None


class NoPaper(PotrelError):
    """A paper or workbook that could not be made; says what would mend it."""


# The costing sheet of a long pot takes some 2 s, a list of 300 soups 10 s and 300 MB.
SETTING = Job(
    "potrel.papers.paper:set_pdf",
    NoPaper,
    say("paper_died", "the PDF could not be made: it takes far too long or too much room. Print the page from the browser"),
    patience=120.0,
    most_memory=3 * 2**30,
)


def pdf_of(html: str) -> bytes:
    """A page of HTML as PDF/UA, set in a process apart. NoPaper, with what mends it, where that cannot be."""
    lack = lack_of_pdf()
    if lack is not None:
        raise NoPaper(say("no_pango", "{lack}", lack=lack))
    found: bytes = shared(SETTING).one(html)
    return found


def set_pdf(html: str) -> Iterator[bytes]:
    """The same, set here; the one answer is the PDF."""
    from weasyprint import HTML
    from weasyprint.urls import URLFetcher

    # Only the font of the house is read; nothing of what is typed is fetched.
    fetcher = URLFetcher(allowed_protocols=("file",))
    yield HTML(string=html, base_url=_BUILT.as_uri() + "/", url_fetcher=fetcher).write_pdf(pdf_variant="pdf/ua-1")
