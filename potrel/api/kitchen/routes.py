"""Routes of the kitchen as a whole: settings, the document, tables of prices, the change log."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated

from fastapi import APIRouter, Query
from starlette.responses import Response

from potrel.api.answers import download, reply
from potrel.api.dependencies import Actor, InKitchen
from potrel.api.kitchen.replies import ChangeRow, Effects, KitchenHead, SaveKitchen
from potrel.api.problems import described
from potrel.core.cost.costing import Costing
from potrel.core.cost.effects import compare
from potrel.core.kitchen.settings import Settings
from potrel.formats.kitchen_json import write_kitchen
from potrel.formats.offers_table import offers_csv, offers_xlsx
from potrel.formats.price_book import price_book_csv, price_book_xlsx
from potrel.formats.ubl_catalogue import write_catalogue
from potrel.store.changes import changes
from potrel.store.errors import StaleSettings
from potrel.store.kitchens import load_kitchen, load_settings, save_settings

router = APIRouter(prefix="/api", tags=["kitchen"])
_XLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
_CSV = "text/csv; charset=utf-8"


@router.get("/kitchen", response_model=KitchenHead, responses=described())
def kitchen(kitchens: InKitchen) -> Response:
    """The kitchen's name, settings, suppliers and vessels."""
    view = kitchens.costing().view
    whole = view.kitchen
    head = KitchenHead(
        whole.name, whole.currency, whole.settings, view.on, list(whole.suppliers), list(whole.vessels),
        len(whole.items), len(whole.recipes),
    )  # fmt: skip
    return reply(KitchenHead, head)


@router.put("/kitchen", response_model=Settings, responses=described(400, 409, 422))
def put_kitchen(save: SaveKitchen, kitchens: InKitchen, actor: Actor) -> Response:
    """Change the kitchen's name, currency and settings; refused where somebody changed them since."""
    with kitchens.database.writing(actor) as connection:
        _, _, settings = load_settings(connection)
        if settings != save.was:
            raise StaleSettings
        save_settings(connection, save.name, save.currency, save.settings)
    return reply(Settings, save.settings)


@router.post("/kitchen/preview", response_model=Effects, responses=described(400, 422))
def preview_kitchen(save: SaveKitchen, kitchens: InKitchen) -> Response:
    """What other settings would do to every portion."""
    before = kitchens.costing()
    after = Costing(replace(before.view.kitchen, settings=save.settings), before.on)
    return reply(Effects, Effects(None, None, compare(before, after, list(before.view.recipes))))


@router.get("/changes", response_model=list[ChangeRow], responses=described(422))
def change_log(
    kitchens: InKitchen,
    before: Annotated[int | None, Query(ge=1, le=2**62)] = None,
    most: Annotated[int, Query(ge=1, le=500)] = 100,
) -> Response:
    """The newest changes of the kitchen, or those before a number, the newest first."""
    with kitchens.database.reading() as connection:
        rows = [ChangeRow(one.number, one.kind, one.id, one.by, one.at) for one in changes(connection, before, most)]
    return reply(list[ChangeRow], rows)


@router.get("/export", responses=described())
def export(kitchens: InKitchen) -> Response:
    """The whole kitchen as a kitchen document."""
    with kitchens.database.reading() as connection:
        text = write_kitchen(load_kitchen(connection))
    return download(text, "application/json", "potrel-kitchen.json")


@router.get("/price-book.csv", responses=described(), response_class=Response)
def price_book_as_csv(kitchens: InKitchen) -> Response:
    """The price book as CSV."""
    return download(price_book_csv(kitchens.costing()), _CSV, "potrel-price-book.csv")


@router.get("/price-book.xlsx", responses=described(), response_class=Response)
def price_book_as_xlsx(kitchens: InKitchen) -> Response:
    """The price book as an XLSX workbook."""
    return download(price_book_xlsx(kitchens.costing()), _XLSX, "potrel-price-book.xlsx")


@router.get("/offers.csv", responses=described(), response_class=Response)
def offers_as_csv(kitchens: InKitchen) -> Response:
    """All offers as CSV, to be read back without loss."""
    return download(offers_csv(kitchens.costing().view.kitchen.offers), _CSV, "potrel-offers.csv")


@router.get("/offers.xlsx", responses=described(), response_class=Response)
def offers_as_xlsx(kitchens: InKitchen) -> Response:
    """All offers as an XLSX workbook."""
    return download(offers_xlsx(kitchens.costing().view.kitchen.offers), _XLSX, "potrel-offers.xlsx")


@router.get("/offers.xml", responses=described(), response_class=Response)
def offers_as_ubl(kitchens: InKitchen) -> Response:
    """All offers as a UBL 2.1 Catalogue."""
    view = kitchens.costing().view
    return download(write_catalogue(view.kitchen, view.kitchen.offers, view.on), "application/xml", "potrel-catalogue.xml")
