"""Routes of papers and workbooks: to print, as PDF, and as sheets that compute."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from fastapi import APIRouter
from starlette.responses import Response

from potrel.api.answers import download, reply
from potrel.api.dependencies import InKitchen
from potrel.api.problems import described
from potrel.core.cost.costing import Costing
from potrel.papers.on_sale import without_price
from potrel.papers.paper import PaperKind, PaperSize, costing_page, lack_of_pdf, page, pdf_of
from potrel.papers.workbooks import workbook_of
from potrel.store.errors import NotFound

router = APIRouter(prefix="/api", tags=["papers"])
_XLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
Form = Literal["pdf", "html"]


@dataclass(frozen=True, slots=True)
class Papers:
    """What keeps this machine from making PDF, with what mends it (none where nothing does), and what is sold in a channel but
    stands on no list, as it has no price.
    """

    lack: str | None
    without_price: list[str]


@router.get("/papers", response_model=Papers, responses=described(404, 422))
def papers(kitchens: InKitchen, channel: str | None = None) -> Response:
    """Whether PDF can be made here, and what no list of a channel would hold."""
    costing = _with_channel(kitchens, channel)
    return reply(Papers, Papers(lack_of_pdf(), without_price(costing, channel)))


def _with_channel(kitchens: InKitchen, channel: str | None) -> Costing:
    costing = kitchens.costing()
    if channel is not None and channel not in costing.view.channels:
        raise NotFound("channel", channel)
    return costing


@router.get("/papers/costing/{recipe_id}.{form}", response_class=Response, responses=described(404, 422))
def costing_sheet(recipe_id: str, form: Form, kitchens: InKitchen, size: PaperSize = "a4") -> Response:
    """The costing sheet of a pot."""
    costing = kitchens.costing()
    if recipe_id not in costing.view.recipes:
        raise NotFound("recipe", recipe_id)
    return _answer(costing_page(costing, recipe_id, size), form, f"potrel-{recipe_id}")


@router.get("/papers/{kind}.{form}", response_class=Response, responses=described(404, 422))
def paper(
    kind: PaperKind,
    form: Form,
    kitchens: InKitchen,
    channel: str | None = None,
    size: PaperSize = "a4",
    allergens: bool = False,
) -> Response:
    """A price list, a card, a tent card or the allergen sheet; `allergens` marks what is in each soup."""
    return _answer(page(_with_channel(kitchens, channel), kind, channel, size, marks=allergens), form, f"potrel-{kind}")


def _answer(html: str, form: Form, name: str) -> Response:
    if form == "html":
        return Response(html, media_type="text/html; charset=utf-8", headers={"Content-Security-Policy": _POLICY})
    pdf = pdf_of(html)
    return Response(pdf, media_type="application/pdf", headers={"Content-Disposition": f'inline; filename="{name}.pdf"'})


# A page of what people typed: it runs nothing and loads nothing but the font of the house.
_POLICY = "default-src 'none'; style-src 'unsafe-inline'; font-src 'self'"


@router.get("/workbook.xlsx", response_class=Response, responses=described(422))
def whole_workbook(kitchens: InKitchen) -> Response:
    """All that is on sale, as a workbook whose cells compute."""
    return download(workbook_of(kitchens.costing()), _XLSX, "potrel-board.xlsx")


@router.get("/workbook/{recipe_id}.xlsx", response_class=Response, responses=described(404, 422))
def workbook_of_pot(recipe_id: str, kitchens: InKitchen) -> Response:
    """A pot as a workbook whose cells compute."""
    costing = kitchens.costing()
    if recipe_id not in costing.view.recipes:
        raise NotFound("recipe", recipe_id)
    return download(workbook_of(costing, recipe_id), _XLSX, f"potrel-{recipe_id}.xlsx")
